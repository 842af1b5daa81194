//! The application in a real browser, used as a player would.
#![allow(clippy::unwrap_used, missing_docs)]

mod axe;
mod bags;
mod board;
mod build;
mod data;
mod dial;
mod drawn;
mod field;
mod forms;
mod harness;
mod offline;
mod phone;
mod pictures;
mod range;
mod reading;
mod roller;
mod round;
mod season;
mod shelf;
mod tour;
mod trial;
mod walk;
mod year;
