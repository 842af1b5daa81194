//! A stand-in for a wind meter: sentences MWV of NMEA 0183.

use anyhow::Result;
use clap::Args;
use rand::RngExt;
use rand::rngs::StdRng;

use super::lines::{Instrument, Said, run as say};
use crate::format::nmea::{SaidWind, write};

/// What the stand-in measures, and where it says it.
#[derive(Debug, Clone, Copy, Args)]
pub struct WindMeterStandIn {
    #[command(flatten)]
    said: Said,
    /// Mean wind, m/s.
    #[arg(long, default_value_t = 5.0)]
    wind_m_s: f64,
    /// Where it blows from, degrees clockwise from north.
    #[arg(long, default_value_t = 65.0)]
    from_deg: f64,
    /// How much it wavers: 1 as outside, 0 not at all.
    #[arg(long, default_value_t = 1.0)]
    noise: f64,
}

impl WindMeterStandIn {
    /// As it is by itself, saying its lines there.
    pub fn saying(said: Said) -> WindMeterStandIn {
        WindMeterStandIn { said, wind_m_s: 5.0, from_deg: 65.0, noise: 1.0 }
    }
}

impl Instrument for WindMeterStandIn {
    fn line(&self, reading: u64, random: &mut StdRng) -> String {
        // Gusts come and go.
        let gust = 0.25 * (reading as f64 / 7.0).sin() + random.random_range(-0.1..0.1);
        write(&SaidWind {
            from_deg: (self.from_deg + self.noise * random.random_range(-10.0..10.0)).rem_euclid(360.0),
            wind_m_s: (self.wind_m_s * (1.0 + self.noise * gust)).max(0.0),
        })
    }

    fn absurd(&self) -> String {
        write(&SaidWind { from_deg: 720.0, wind_m_s: 900.0 })
    }
}

/// Runs it as long as the program runs; `tell` is told its address.
///
/// # Errors
/// If the port cannot be used.
pub fn run(of: WindMeterStandIn, tell: impl FnOnce(&str) -> Result<()>) -> Result<()> {
    say(of.said, of, tell)
}
