//! Which shots are asked of a bag. May use [`crate::thrower`] and [`crate::disc`].

pub mod area;
pub mod limits;
pub mod line;
pub(crate) mod opening;
pub mod peg;
pub mod thing;
