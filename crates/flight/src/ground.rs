//! Kinds of ground, and a disc that comes down on one: what bouncing, sliding and rolling both look at.
//!
//! The constants are a calibration of their own, apart from that of the flight: this project's own judgement of how far
//! discs run on, set to common practice (no source) and tested against it. See docs/model.md.

use serde::{Deserialize, Serialize};

use crate::air::{Air, GRAVITY_M_S2};
use crate::disc::Disc;
use crate::error::{FlightError, check};
use crate::real::{Real, Vec3};

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
#[derive(Clone, Copy)]
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
            Ground::Turf => facts(0.29, 0.33, 0.51, 35.5),
            Ground::Hard => facts(0.48, 0.30, 0.38, 46.0),
            Ground::Snow => facts(0.05, 0.45, 0.50, 10.0),
        }
    }
}

/// How a kind of ground bears a disc on edge. Own judgement, set so that discs roll as far as common practice says (no source).
#[derive(Clone, Copy)]
pub(crate) struct Bed {
    /// Rolling resistance as a share of weight.
    pub resistance: f64,
    /// Speed at which a bump tosses it up, as a share of its own.
    pub toss: f64,
    /// Share of the moment by which weight lays a leaning disc over that grass and the rut of its edge bear.
    pub bears: f64,
    /// Push to the side, as a share of weight, beyond which the edge slips away.
    pub hold: f64,
}

impl Bed {
    fn of(ground: Ground) -> Bed {
        let bed = |resistance, toss, bears, hold| Bed { resistance, toss, bears, hold };
        match ground {
            Ground::Soft => bed(0.21, 0.08, 0.5, 0.90),
            Ground::Turf => bed(0.055, 0.08, 0.4, 0.85),
            Ground::Hard => bed(0.038, 0.11, 0.1, 0.65),
            Ground::Snow => bed(0.22, 0.06, 0.4, 0.55),
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
    /// Width, m, 0.005 to 0.03: a wide rim has a sharp edge, which rolls more easily.
    pub width_m: f64,
}

impl Rim {
    /// # Errors
    /// [`FlightError::OutOfRange`] for the first value outside its range.
    pub fn validate(&self) -> Result<(), FlightError> {
        check("softness", self.softness, 0.0, 1.0)?;
        check("wear", self.wear, 0.0, 1.0)?;
        check("rim width_m", self.width_m, 0.005, 0.03)
    }
}

/// What comes down, and on what.
#[derive(Debug, Clone, Copy)]
pub struct Contact<'a> {
    /// The ground.
    pub ground: Ground,
    /// The disc as a body.
    pub disc: &'a Disc,
    /// Its rim.
    pub rim: &'a Rim,
    /// The air that it came through, which knows how the ground rises.
    pub air: &'a Air,
}

impl Contact<'_> {
    /// How its ground bears it on edge.
    pub(crate) fn bed(&self) -> Bed {
        Bed::of(self.ground)
    }

    /// Lean from upright at which the ground no longer holds the edge of a rolling disc, rad.
    pub(crate) fn steepest_lean(&self) -> f64 {
        ((1.0 + self.inertia_share()) * self.bed().hold).atan()
    }

    /// Spin-axis inertia as a share of m a².
    pub(crate) fn inertia_share(&self) -> f64 {
        let Disc { mass_kg, radius_m, inertia_kg_m2, .. } = self.disc;
        inertia_kg_m2 / (mass_kg * radius_m * radius_m)
    }

    /// Steepness of arrival at which a bounce keeps 1/e of the forward speed, rad.
    pub(crate) fn dig_rad(&self) -> f64 {
        self.ground.facts().dig_deg.to_radians()
    }

    /// Speed away from the ground after a bounce as a share of that toward it.
    pub(crate) fn bounce(&self) -> f64 {
        self.ground.facts().bounce * (1.0 - 0.5 * self.rim.softness) * (1.0 - 0.2 * self.rim.wear)
    }

    fn grip(&self) -> f64 {
        1.0 + 0.4 * self.rim.softness + 0.15 * self.rim.wear
    }

    /// Dry friction during a bounce.
    pub(crate) fn scrub(&self) -> f64 {
        self.ground.facts().scrub * self.grip()
    }

    /// Dry friction while sliding.
    pub(crate) fn friction(&self) -> f64 {
        self.ground.facts().slide * self.grip()
    }

    /// Way of a slide by the square of the speed it begins with, m per m²/s², on level ground.
    pub(crate) fn slide_m_per_m2_s2(&self) -> f64 {
        0.5 / (self.friction() * GRAVITY_M_S2)
    }
}

/// A vector as ground that rises at an angle of this sine and cosine sees it.
#[inline(always)]
pub(crate) fn pitched<R: Real>(v: &Vec3<R>, sin: R, cos: R) -> Vec3<R> {
    Vec3 { x: v.x * cos + v.z * sin, y: v.y, z: v.z * cos - v.x * sin }
}
