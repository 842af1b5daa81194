//! What a disc does after it touches the ground: it skips, slides or sits.
//!
//! A chain of bounces with dry friction, then a slide. A steep arrival digs in; a soft disc grips; a disc that comes in
//! on one edge kicks toward that edge. Rolling on edge is not modelled: such a disc tumbles a little and lies down.
//!
//! The constants are a calibration of their own, apart from that of the flight: this project's own judgement of how far
//! discs run on, set to common practice (no source) and tested against it. See docs/model.md.

use serde::{Deserialize, Serialize};

use crate::air::GRAVITY_M_S2;
use crate::error::{FlightError, check};
use crate::outcome::Outcome;

/// Kind of ground.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Ground {
    /// Wet meadow, mud, deep leaves, sand.
    Soft,
    /// Ordinary short grass.
    Turf,
    /// Packed earth, gravel, asphalt, ice.
    Hard,
    /// Snow.
    Snow,
}

/// What decides how a kind of ground lets a disc run.
struct Facts {
    /// Vertical speed after a bounce as a share of that before.
    bounce: f64,
    /// Dry friction during a bounce.
    scrub: f64,
    /// Dry friction while sliding.
    slide: f64,
    /// Steepness of arrival (degrees) at which a bounce keeps 1/e of the forward speed.
    dig_deg: f64,
}

impl Ground {
    /// All kinds.
    pub const ALL: [Ground; 4] = [Ground::Soft, Ground::Turf, Ground::Hard, Ground::Snow];

    fn facts(self) -> Facts {
        let facts = |bounce, scrub, slide, dig_deg| Facts { bounce, scrub, slide, dig_deg };
        match self {
            Ground::Soft => facts(0.12, 0.60, 0.80, 17.0),
            Ground::Turf => facts(0.30, 0.40, 0.55, 30.0),
            Ground::Hard => facts(0.48, 0.30, 0.38, 46.0),
            Ground::Snow => facts(0.05, 0.45, 0.50, 10.0),
        }
    }
}

/// The rim as the ground feels it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Rim {
    /// Softness of the plastic, 0 (stiff) to 1 (gummy).
    pub softness: f64,
    /// Share of all possible wear, 0 to 1: a scuffed edge grips.
    pub wear: f64,
}

impl Rim {
    /// # Errors
    /// [`FlightError::OutOfRange`] for a share outside 0 to 1.
    pub fn validate(&self) -> Result<(), FlightError> {
        check("softness", self.softness, 0.0, 1.0)?;
        check("wear", self.wear, 0.0, 1.0)
    }
}

/// What it did.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Manner {
    /// Stayed within [`SIT_M`] of where it touched.
    Sits,
    /// Ran on along the ground.
    Slides,
    /// Left the ground again by more than [`SKIP_M`].
    Skips,
}

/// Run within which a disc is said to sit, m. Own judgement.
pub const SIT_M: f64 = 3.0;
/// Length of a bounce from which it is called a skip, m. Own judgement.
pub const SKIP_M: f64 = 1.5;
/// Bounces followed; what is left then slides.
const MOST_BOUNCES: usize = 8;
/// A bounce slower than this, upward, is not one, m/s.
const LEAST_BOUNCE_M_S: f64 = 0.4;
/// Kick toward the lower edge as a share of the disc's bank, at the first touch.
const KICK: f64 = 0.35;
/// Bank from which a disc is on edge, degrees, and the share of its forward speed that is then left.
const ON_EDGE_DEG: f64 = 60.0;
const TUMBLE: f64 = 0.25;

/// Carries `outcome` on from its landing to where the disc comes to rest on `ground`: its place moves, its run is set,
/// the rest stays as it was at the first touch. A flight that never landed stays where it was.
pub fn settle(outcome: &mut Outcome, ground: Ground, rim: &Rim) -> Manner {
    if !outcome.landed {
        return Manner::Sits;
    }
    let facts = ground.facts();
    let [vx, vy, vz] = outcome.touch.velocity_m_s;
    let bank = bank_rad(outcome);
    let grip = 1.0 + 0.4 * rim.softness + 0.15 * rim.wear;
    let bounce = facts.bounce * (1.0 - 0.5 * rim.softness) * (1.0 - 0.2 * rim.wear);
    let (mut forward, mut down) = ((vx * vx + vy * vy).sqrt(), -vz);
    let (mut run_m, mut longest_m) = (0.0, 0.0_f64);
    for _ in 0..MOST_BOUNCES {
        let steep_deg = down.atan2(forward).to_degrees();
        let kept = (-(steep_deg / facts.dig_deg).powi(2)).exp();
        forward = kept * (forward - facts.scrub * grip * (1.0 + bounce) * down).max(0.0);
        if bank.abs() > ON_EDGE_DEG.to_radians() {
            forward *= TUMBLE;
        }
        down *= bounce;
        if down < LEAST_BOUNCE_M_S {
            break;
        }
        let hop_m = 2.0 * forward * down / GRAVITY_M_S2;
        longest_m = longest_m.max(hop_m);
        run_m += hop_m;
    }
    run_m += forward * forward / (2.0 * facts.slide * grip * GRAVITY_M_S2);
    let (sin, cos) = (vy.atan2(vx) + KICK * bank).sin_cos();
    outcome.x_m += run_m * cos;
    outcome.y_m += run_m * sin;
    outcome.run_m = run_m;
    match () {
        () if run_m < SIT_M => Manner::Sits,
        () if longest_m >= SKIP_M => Manner::Skips,
        () => Manner::Slides,
    }
}

/// Bank of the disc about its path over the ground at the first touch, radians, left edge down positive.
fn bank_rad(outcome: &Outcome) -> f64 {
    let [vx, vy, _] = outcome.touch.velocity_m_s;
    let level = (vx * vx + vy * vy).sqrt().max(1e-9);
    let [nx, ny, nz] = outcome.touch.normal;
    let left = (ny * vx - nx * vy) / level;
    // A disc on its back shows the ground the same edges.
    let up = if nz < 0.0 { -1.0 } else { 1.0 };
    (left * up).atan2(nz.abs())
}
