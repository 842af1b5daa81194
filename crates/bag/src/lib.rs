//! The judgement of a disc golf bag.
//!
//! What a disc really does at a player's arm, which shots it answers, where a bag has holes and where two discs do one
//! job. Every rule of the sport lives here; every flight comes from `zinc-kite-flight`. The crate has no input, output
//! or clock. Constants without a source are the project's own judgement and say so; `docs/model.md` lists them.
//!
//! One room for each question a player asks, in the order in which they build on one another:
//!
//! | room | question |
//! |---|---|
//! | [`thrower`] | who throws, and on what day? |
//! | [`disc`] | what is this disc now? |
//! | [`entry`] | which discs does this line name? |
//! | [`need`] | which shots are asked of a bag? |
//! | [`chance`] | how often is one made? |
//! | [`catalogue`] | which shots does this player's game ask for? |
//! | [`verdict`] | how does a bag stand, and what next? |
//! | [`range`] | let me see it fly |
//! | [`field`] | what do measured throws tell? |
//! | [`plan`] | what next? |

pub mod catalogue;
pub mod chance;
pub mod course;
pub mod disc;
pub mod entry;
pub mod error;
pub mod field;
pub mod need;
pub mod plan;
pub mod range;
pub mod thrower;
pub mod verdict;
pub mod whole;
pub mod words;
