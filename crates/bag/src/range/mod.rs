//! Let me see it fly. May use [`crate::thrower`], [`crate::disc`] and the ground of [`crate::need`].

pub mod throws;
pub mod vary;
