//! The judgement of a disc golf bag.
//!
//! What a disc really does at a player's arm, which shots it answers, where a bag has holes and where two discs do one
//! job. Every rule of the sport lives here; every flight comes from `zinc-kite-flight`. The crate has no input, output
//! or clock. Constants without a source are the project's own judgement and say so; `docs/model.md` lists them.

pub mod chance;
pub mod disc;
pub mod error;
pub mod need;
pub mod range;
pub mod thrower;
pub mod verdict;
pub mod words;
