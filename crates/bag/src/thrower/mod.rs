//! Who throws, and on what day. May use the flights of `zinc-kite-flight`.

pub mod arm;
pub mod calendar;
pub mod day;
pub mod evidence;
pub mod habits;
pub mod player;
pub mod season;
pub mod slot;
pub mod style;
