//! What to practise: what each error of the release costs over the season, drills for it, whether faster discs are due, how the scatter
//! has moved over the months, and how much an arm is asked to throw.

pub mod drill;
pub mod load;
pub mod price;
pub mod progress;
pub mod ready;
