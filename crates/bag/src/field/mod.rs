//! What do throws in the field tell? Sessions and their throws as they were measured, and how they spread. May use [`crate::course`] and
//! what that may use.

mod emulator;
pub mod meant;
pub mod numbers;
mod sampler;
pub mod session;
pub mod spread;
pub mod throw;
