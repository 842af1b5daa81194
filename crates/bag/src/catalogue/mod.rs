//! Which shots this player's game asks for: lines made from reference flights at this arm and sized to this player's
//! scatter. May use [`crate::chance`] and what that may use.

pub mod lines;
pub mod reach;
pub mod reference;
mod rollers;
mod shape;
