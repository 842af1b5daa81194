//! What do throws in the field tell? Sessions and their throws as they were measured, and how they spread. May use [`crate::course`] and
//! [`crate::verdict`], and what those may use.

pub mod arm;
pub mod compared;
mod design;
mod emulator;
pub mod fault;
pub mod form;
pub mod habit;
pub mod honest;
pub(crate) mod kind;
pub mod meant;
pub mod numbers;
pub mod reading;
pub mod run;
mod sampler;
pub mod session;
mod sight;
pub mod spread;
pub mod throw;
pub mod trial;
pub mod tried;
