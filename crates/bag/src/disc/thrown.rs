//! A disc ready to be thrown: its body, its rim, and how the hand holds it.

use zinc_kite_flight::air::Air;
use zinc_kite_flight::disc::Disc as Body;
use zinc_kite_flight::ground::{Contact, Rim};

use crate::disc::as_thrown::as_thrown;
use crate::disc::plastic::Plastic;
use crate::disc::spec::Disc;
use crate::error::BagError;
use crate::need::line::Ground;

/// A disc as it leaves the hand.
#[derive(Debug, Clone, Copy)]
pub struct Thrown {
    /// The body that flies.
    pub body: Body,
    /// The speed number by which the player throws it.
    pub speed: f64,
    /// Its rim, as the ground feels it.
    pub rim: Rim,
    /// Scatter of a wet release against a dry one.
    pub wet_spread: f64,
}

impl Thrown {
    /// An ordinary fresh disc with a body and a speed.
    pub fn ordinary(body: Body, speed: f64) -> Thrown {
        let plastic = Plastic::MidGrade.facts();
        let rim = Rim { softness: plastic.softness, wear: 0.0, width_m: usual_rim_m(speed) };
        Thrown { body, speed, rim, wet_spread: plastic.wet_spread }
    }

    /// It and the ground that it comes down on through this air.
    pub fn contact<'a>(&'a self, ground: Ground, air: &'a Air) -> Contact<'a> {
        Contact { ground: ground.into(), disc: &self.body, rim: &self.rim, air }
    }
}

/// The disc as the simulator flies it and as the player throws it.
///
/// # Errors
/// [`BagError`] for a disc outside its ranges.
pub fn thrown(disc: &Disc) -> Result<Thrown, BagError> {
    disc.spec.validate()?;
    let sum = as_thrown(&disc.spec);
    let plastic = disc.spec.plastic.facts();
    Ok(Thrown {
        body: sum.body(disc.spec.mass_g)?,
        speed: disc.spec.printed.speed,
        rim: Rim {
            softness: plastic.softness,
            wear: sum.wear_share,
            width_m: disc.spec.rim_cm.map_or(usual_rim_m(disc.spec.printed.speed), |cm| 0.01 * cm),
        },
        wet_spread: plastic.wet_spread,
    })
}

/// Width of an ordinary rim of a disc of `speed`, m: the faster, the wider. Common practice, no source.
fn usual_rim_m(speed: f64) -> f64 {
    0.006 + 0.00133 * speed.clamp(1.0, 15.0)
}
