//! A course and a day: what to throw where, and what it comes to.

pub mod account;
pub mod card;
mod hole;
pub mod layup;
pub mod left;
pub mod pack;
pub mod rounds;
pub mod winds;
