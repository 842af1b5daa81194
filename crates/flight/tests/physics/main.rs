//! Tests of the simulator against the world outside it. One program: it is linked once, and its tests run side by side.

mod common;
mod ground;
mod kernel;
mod laws;
mod trade;
mod validation;
