//! The judgement of a disc golf bag.
//!
//! What a disc really does at a player's arm, which shots it answers, where a bag has holes and where two discs do one
//! job. Every rule of the sport lives here; every flight comes from `zinc-kite-flight`. The crate has no input, output
//! or clock. Constants without a source are the project's own judgement and say so; `docs/model.md` lists them.

pub mod analysis;
pub mod board;
pub mod carried;
pub mod chance;
pub mod disc;
pub mod error;
pub mod finding;
mod fix;
pub mod gap;
pub mod need;
pub mod range;
mod scene;
pub mod sheet;
pub mod thrower;
pub mod twin;
pub mod vary;
pub mod verdict;
pub mod words;
