//! Flight of a thrown disc.
//!
//! SI units and radians inside; degrees and named units only in types at the boundary, with the unit in the name.
//! World frame, right-handed: x down-range from the tee toward the aim, y left, z up. The crate has no input,
//! output or clock. How the model was built, and what backs each constant, is told in `docs/model.md`.

pub mod aero;
pub mod air;
pub mod batch;
pub mod calibration;
mod counted;
mod curve;
pub mod disc;
pub mod dynamics;
pub mod error;
pub mod fitted;
pub mod ground;
mod hop;
pub mod integrate;
pub mod numbers;
pub mod outcome;
mod rated;
mod real;
pub mod release;
mod roll;
mod runge_kutta;
pub mod scatter;
pub mod settle;
pub mod terrain;
