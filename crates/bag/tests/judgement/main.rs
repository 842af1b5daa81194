//! Tests of the judgement. One program: it is linked once, and its tests run side by side.
#![allow(clippy::unwrap_used, missing_docs)]

mod aging;
mod build;
mod chance;
mod choice;
mod compare;
mod entry;
mod faults;
mod ghosts;
mod land;
mod lines;
mod opened;
mod pack;
mod played;
mod properties;
mod round;
mod scene;
mod search;
mod season;
mod shots;
mod sieve;
mod thrower;
mod trade;
mod vary;
mod verdicts;
mod walk;
