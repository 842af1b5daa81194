//! How often a disc makes a line. May use [`crate::need`] and what that may use.

pub mod answer;
pub mod cost;
mod improve;
pub mod memo;
mod normal;
mod points;
mod quantity;
mod reach;
mod response;
pub mod search;
mod shot;
mod stages;
