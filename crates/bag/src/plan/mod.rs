//! What next: which discs to carry, and what the year will ask.

pub mod build;
pub mod choice;
pub mod practise;
pub mod round;
pub mod suppose;
pub mod winter;
