//! Where is it played? Courses, their holes and the ways to play them, on the player's own coordinates. May use [`crate::need`]
//! and what that may use.

pub mod hole;
pub mod place;
pub mod played;
pub mod survey;
pub mod weather;
