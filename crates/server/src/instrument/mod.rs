//! Stand-ins for what is read from outside: small programs that speak as a real one would, on this machine alone.

pub mod lines;
pub mod rangefinder;
pub mod weather;
pub mod wind_meter;
