//! The application in a real browser, used as a player would.
#![allow(clippy::unwrap_used, missing_docs)]

mod data;
mod dial;
mod harness;
mod phone;
mod pictures;
mod range;
mod season;
mod tour;
