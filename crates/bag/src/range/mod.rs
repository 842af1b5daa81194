//! Let me see it fly. May use [`crate::thrower`] and [`crate::disc`].

pub mod throws;
pub mod vary;
