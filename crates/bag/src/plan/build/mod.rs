//! The builder: the bag that leaves the fewest strokes over the season under a player's wishes, proven; what each wish costs; where
//! another disc stops paying; what else comes as near; what to buy.

mod curve;
mod desk;
mod price;
mod proposal;
mod schools;
mod shopping;
mod ties;
mod wishes;

pub use curve::{Curve, CurvePoint, curve};
pub use desk::{Desk, Stock, TOLERANCE, fresh_of};
pub use price::{WishPrice, prices};
pub use proposal::{Against, Bought, Proposal, propose};
pub use schools::{LEAN_STROKES, SchoolBag, schools};
pub use shopping::{Specification, shopping};
pub use ties::{NearBag, Ties, ties};
pub use wishes::{Buying, SlotWish, Wishes};
