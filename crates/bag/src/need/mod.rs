//! Which shots are asked of a bag. May use [`crate::thrower`] and [`crate::disc`].

pub mod limits;
pub mod line;
pub mod peg;
