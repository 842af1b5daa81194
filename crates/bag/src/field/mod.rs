//! What do throws in the field tell? Sessions and their throws as they were measured, and how they spread. May use [`crate::course`] and
//! what that may use.

pub mod meant;
pub mod session;
pub mod spread;
pub mod throw;
