//! A stand-in for a laser rangefinder with a compass: a JSON line a reading.

use anyhow::Result;
use clap::Args;
use rand::RngExt;
use rand::rngs::StdRng;

use super::lines::{Instrument, Said, run as say};
use crate::format::rangefinder::{Shot, write};

/// What the stand-in reads, and where it says it.
#[derive(Debug, Clone, Copy, Args)]
pub struct RangefinderStandIn {
    #[command(flatten)]
    said: Said,
    /// Distance along the beam, m.
    #[arg(long, default_value_t = 84.0)]
    distance_m: f64,
    /// Bearing, degrees clockwise from north.
    #[arg(long, default_value_t = 230.0)]
    bearing_deg: f64,
    /// How far up the beam points, degrees.
    #[arg(long, default_value_t = 3.0, allow_hyphen_values = true)]
    slope_deg: f64,
    /// How much readings differ by chance: standard deviation of the distance, m, and of the angles, degrees.
    #[arg(long, default_value_t = 0.3)]
    noise: f64,
}

impl RangefinderStandIn {
    /// As it is by itself, saying its lines there.
    pub fn saying(said: Said) -> RangefinderStandIn {
        RangefinderStandIn { said, distance_m: 84.0, bearing_deg: 230.0, slope_deg: 3.0, noise: 0.3 }
    }
}

impl Instrument for RangefinderStandIn {
    fn line(&self, _: u64, random: &mut StdRng) -> String {
        // The sum of twelve even ones has a standard deviation of one.
        let mut error = || self.noise * ((0..12).map(|_| random.random::<f64>()).sum::<f64>() - 6.0);
        let tenth = |x: f64| (10.0 * x).round() / 10.0;
        write(&Shot {
            distance_m: tenth((self.distance_m + error()).max(1.0)),
            bearing_deg: tenth((self.bearing_deg + error()).rem_euclid(360.0)) % 360.0,
            slope_deg: tenth(self.slope_deg + error()),
        })
    }

    fn absurd(&self) -> String {
        write(&Shot { distance_m: -40.0, bearing_deg: 9e9, slope_deg: 89.0 })
    }
}

/// Runs it as long as the program runs; `tell` is told its address.
///
/// # Errors
/// If the port cannot be used.
pub fn run(of: RangefinderStandIn, tell: impl FnOnce(&str) -> Result<()>) -> Result<()> {
    say(of.said, of, tell)
}
