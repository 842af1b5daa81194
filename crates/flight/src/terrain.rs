//! The shape of the ground under a throw: how high it lies along the line from the tee.

use crate::error::{FlightError, check};
use crate::real::Real;

/// Most places at which the ground's height may be given.
pub const MAX_RISES: usize = 6;
/// Steepest ground, rise per metre.
pub const STEEPEST: f64 = 1.0;
/// Highest and lowest ground against the tee's, m.
pub const MOST_RISE_M: f64 = 60.0;
/// Nearest and farthest place of the ground's height, m down-range.
pub const RISES_AT_M: std::ops::RangeInclusive<f64> = 0.5..=300.0;

/// How far a wind rounds off a bend of the ground, m. Own judgement.
const ROUNDED_M: f64 = 15.0;

/// Height of the ground along x, m, straight from the tee (where it is 0) through the places given and level behind the last.
/// Across the line it is level.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Terrain {
    bends: [Bend; MAX_RISES + 1],
    n: usize,
}

/// From `x_m` on the ground rises by so much more a metre.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
struct Bend {
    x_m: f64,
    height_m: f64,
    by: f64,
    /// What a rounded bend has of itself at the tee, m.
    at_tee_m: f64,
}

impl Terrain {
    /// Level ground.
    pub const LEVEL: Terrain =
        Terrain { bends: [Bend { x_m: 0.0, height_m: 0.0, by: 0.0, at_tee_m: 0.0 }; MAX_RISES + 1], n: 0 };

    /// Through places (distance down-range, 0.5 to 300 m, and height, m, −60 to 60), the nearest first, none steeper from the one
    /// before than [`STEEPEST`]; at most [`MAX_RISES`] of them.
    ///
    /// # Errors
    /// [`FlightError::OutOfRange`] for the first that is none.
    pub fn through(places: &[(f64, f64)]) -> Result<Terrain, FlightError> {
        check("places of the ground's height", places.len() as f64, 0.0, MAX_RISES as f64)?;
        let mut terrain = Terrain::LEVEL;
        let (mut last, mut slope) = ((0.0, 0.0), 0.0);
        for &(x_m, height_m) in places {
            check("place of the ground's height, m", x_m, last.0 + RISES_AT_M.start(), *RISES_AT_M.end())?;
            check("height of the ground, m", height_m, -MOST_RISE_M, MOST_RISE_M)?;
            let rise = (height_m - last.1) / (x_m - last.0);
            check("slope of the ground", rise, -STEEPEST, STEEPEST)?;
            terrain.bend(last, rise - slope);
            (last, slope) = ((x_m, height_m), rise);
        }
        terrain.bend(last, -slope);
        Ok(terrain)
    }

    fn bend(&mut self, (x_m, height_m): (f64, f64), by: f64) {
        if by != 0.0 {
            self.bends[self.n] = Bend { x_m, height_m, by, at_tee_m: x_m.hypot(ROUNDED_M) - x_m };
            self.n += 1;
        }
    }

    /// Whether it is level everywhere.
    pub fn is_level(&self) -> bool {
        self.n == 0
    }

    /// Height and rise per metre at `x_m` (m down-range).
    pub fn at(&self, x_m: f64) -> (f64, f64) {
        self.under(x_m)
    }

    /// Where it bends, and how high it is there, m.
    #[inline(always)]
    pub(crate) fn bends(&self) -> impl Iterator<Item = (f64, f64)> + '_ {
        self.bends[..self.n].iter().map(|bend| (bend.x_m, bend.height_m))
    }

    /// Height and rise of the ground as a wind takes it, which rounds the bends off: each like one branch of a hyperbola. At the
    /// tee it is 0 too.
    #[inline(always)]
    pub(crate) fn under_wind<R: Real>(&self, x: R) -> (R, R) {
        let zero = x.like(0.0);
        let (mut height, mut slope) = (zero, zero);
        for bend in &self.bends[..self.n] {
            let (past, half) = (x - x.like(bend.x_m), x.like(0.5 * bend.by));
            let rounded = past.mul_add(past, x.like(ROUNDED_M * ROUNDED_M)).sqrt();
            height = (past + rounded - x.like(bend.at_tee_m)).mul_add(half, height);
            slope = (past / rounded + x.like(1.0)).mul_add(half, slope);
        }
        (height, slope)
    }

    #[inline(always)]
    pub(crate) fn under<R: Real>(&self, x: R) -> (R, R) {
        let zero = x.like(0.0);
        let (mut height, mut slope) = (zero, zero);
        for bend in &self.bends[..self.n] {
            let past = (x - x.like(bend.x_m)).max(zero);
            height = past.mul_add(x.like(bend.by), height);
            slope = zero.if_less(past, slope + x.like(bend.by), slope);
        }
        (height, slope)
    }
}
