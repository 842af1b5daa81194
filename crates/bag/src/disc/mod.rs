//! What a disc is now. May use [`crate::thrower`].

pub mod as_thrown;
pub mod change;
pub mod colour;
pub mod feel;
pub mod keeping;
pub mod mark;
pub mod mould;
pub mod plastic;
pub mod spec;
pub mod standard;
pub mod thrown;
pub mod wear;
