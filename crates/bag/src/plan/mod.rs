//! What next: which discs to carry.

pub mod build;
pub mod choice;
