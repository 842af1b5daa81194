//! What a disc is now. May use [`crate::thrower`].

pub mod as_thrown;
pub mod plastic;
pub mod spec;
pub mod thrown;
pub mod wear;
