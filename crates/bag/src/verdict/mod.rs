//! How a bag stands. May use [`crate::chance`] and what that may use.

pub mod analysis;
pub mod board;
pub mod carried;
pub mod finding;
mod fix;
pub mod gap;
mod scene;
pub mod sheet;
pub mod standing;
pub mod twin;
