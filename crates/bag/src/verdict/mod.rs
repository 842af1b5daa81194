//! How a bag stands: today, and over the season in strokes. May use [`crate::catalogue`] and what that may use.

mod alike;
pub mod analysis;
pub mod board;
pub mod carried;
pub mod finding;
mod ledger;
pub mod opened;
pub mod season;
pub mod sheet;
mod sieve;
pub mod standing;
pub mod table;
pub mod twin;
pub mod work;
pub mod worth;
