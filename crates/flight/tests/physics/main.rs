//! Tests of the simulator against the world outside it. One program: it is linked once, and its tests run side by side.
#![allow(clippy::unwrap_used, missing_docs)]

mod common;
mod ground;
mod kernel;
mod laws;
mod roll;
mod terrain;
mod trade;
mod validation;
