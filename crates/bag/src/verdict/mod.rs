//! How a bag stands: today, and over the season in strokes. May use [`crate::catalogue`] and what that may use.

pub mod aging;
mod alike;
pub mod analysis;
pub mod board;
pub mod carried;
pub mod compare;
pub mod finding;
pub mod ghost;
pub mod ladder;
pub(crate) mod ledger;
pub mod opened;
pub mod putting;
pub mod risk;
pub mod school;
pub mod season;
pub mod sheet;
pub(crate) mod sieve;
pub mod standing;
pub mod table;
pub mod twin;
pub mod walk;
pub mod work;
pub mod worth;
