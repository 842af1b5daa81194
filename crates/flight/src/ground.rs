//! What a disc does after it touches the ground: it skips, slides or sits.
//!
//! A chain of bounces with dry friction, then a slide. A steep arrival digs in; a soft disc grips; a disc that comes in
//! on one edge kicks toward that edge. Rolling on edge is not modelled: such a disc tumbles a little and lies down.
//!
//! The constants are a calibration of their own, apart from that of the flight: this project's own judgement of how far
//! discs run on, set to common practice (no source) and tested against it. See docs/model.md.

use pulp::{Arch, Simd, WithSimd};
use serde::{Deserialize, Serialize};

use crate::air::GRAVITY_M_S2;
use crate::error::{FlightError, check};
use crate::outcome::Outcome;
use crate::real::{Lanes, MAX_WIDTH, Real, Vec3, elevation, exp_minus, sin_cos};

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
/// Of what holds a sliding disc on level ground so much is left however steep it goes down: grass and stones catch it.
const LEAST_HELD: f64 = 0.5;
/// Bank from which a disc is on edge, degrees, and the share of its forward speed that is then left.
const ON_EDGE_DEG: f64 = 60.0;
const TUMBLE: f64 = 0.25;

/// How the ground and the rim together stop a disc.
#[derive(Clone, Copy)]
struct Stop {
    facts: Facts,
    grip: f64,
    bounce: f64,
}

impl Stop {
    fn of(ground: Ground, rim: &Rim) -> Stop {
        let facts = ground.facts();
        let bounce = facts.bounce * (1.0 - 0.5 * rim.softness) * (1.0 - 0.2 * rim.wear);
        Stop { facts, grip: 1.0 + 0.4 * rim.softness + 0.15 * rim.wear, bounce }
    }

    /// Where discs that touch the ground with velocity `v` and normal `n` come to rest.
    #[inline(always)]
    fn rest<R: Real>(&self, v: &Vec3<R>, n: &Vec3<R>, slope: R) -> Rest<R> {
        let (zero, one) = (v.x.like(0.0), v.x.like(1.0));
        // As the ground sees it: x along it, z square to it.
        let cos = one / slope.mul_add(slope, one).sqrt();
        let sin = slope * cos;
        let (v, n) = (&pitched(v, sin, cos), &pitched(n, sin, cos));
        let level = v.x.mul_add(v.x, v.y * v.y).sqrt();
        let inverse = one / level.max(one.like(1e-9));
        let (along_x, along_y) = (v.x * inverse, v.y * inverse);
        // Bank about the path over the ground, left edge down positive; a disc on its back shows the ground the same edges.
        let left = n.y * along_x - n.x * along_y;
        let left = n.z.if_less(zero, -left, left);
        let tilt = elevation(left.abs(), n.z.abs());
        let bank = left.if_less(zero, -tilt, tilt);
        let tumble = one.like(ON_EDGE_DEG.to_radians()).if_less(tilt, one.like(TUMBLE), one);

        let scrub = one.like(self.facts.scrub * self.grip * (1.0 + self.bounce));
        let per_dig = one.like(1.0 / self.facts.dig_deg.to_radians());
        let (mut forward, mut down) = (level, -v.z);
        let (mut run, mut longest, mut bouncing) = (zero, zero, one);
        for _ in 0..MOST_BOUNCES {
            let steep = elevation(down.max(zero), forward) * per_dig;
            let kept = exp_minus(steep * steep) * (forward - scrub * down).max(zero) * tumble;
            forward = zero.if_less(bouncing, kept, forward);
            down = down * one.like(self.bounce);
            bouncing = down.if_less(one.like(LEAST_BOUNCE_M_S), zero, bouncing);
            if !zero.any_less(bouncing) {
                break;
            }
            let hop = forward * down * bouncing * one.like(2.0 / GRAVITY_M_S2);
            longest = longest.max(hop);
            run = run + hop;
        }
        let friction = self.facts.slide * self.grip;
        let mut slid = one.like(0.5 / (friction * GRAVITY_M_S2));
        if zero.any_less(slope.abs()) {
            // Uphill its own weight holds a sliding disc, downhill it drives it on.
            let held = cos * (along_x * slope + one.like(friction));
            let held = held.max(one.like(LEAST_HELD * friction)) * one.like(2.0 * GRAVITY_M_S2);
            slid = zero.if_less(slope.abs(), one / held, slid);
        }
        let run = (forward * forward).mul_add(slid, run);
        let (sin_kick, cos_kick) = sin_cos(bank * one.like(KICK));
        Rest {
            x: run * (along_x * cos_kick - along_y * sin_kick) * cos,
            y: run * (along_y * cos_kick + along_x * sin_kick),
            run,
            longest,
        }
    }
}

/// A vector as ground that rises at an angle of this sine and cosine sees it.
#[inline(always)]
fn pitched<R: Real>(v: &Vec3<R>, sin: R, cos: R) -> Vec3<R> {
    Vec3 { x: v.x * cos + v.z * sin, y: v.y, z: v.z * cos - v.x * sin }
}

/// What discs do after their first touch: where they come to rest from there, the length of their run and that of their
/// longest bounce, m.
struct Rest<R> {
    x: R,
    y: R,
    run: R,
    longest: R,
}

/// Carries `outcome` on from its landing to where the disc comes to rest on `ground`: its place moves, its run is set,
/// the rest stays as it was at the first touch. A flight that never landed stays where it was.
pub fn settle(outcome: &mut Outcome, ground: Ground, rim: &Rim) -> Manner {
    let touch = std::slice::from_ref(&*outcome);
    let rest =
        Stop::of(ground, rim).rest::<f64>(&velocities((), touch), &normals((), touch), outcome.touch.slope);
    if !outcome.landed {
        return Manner::Sits;
    }
    outcome.come_to_rest(rest.x, rest.y, rest.run);
    match () {
        () if rest.run < SIT_M => Manner::Sits,
        () if rest.longest >= SKIP_M => Manner::Skips,
        () => Manner::Slides,
    }
}

/// [`settle`]s all of them, many at once in single precision: to the same places within a millimetre.
pub fn settle_all(outcomes: &mut [Outcome], ground: Ground, rim: &Rim) {
    Arch::new().dispatch(SettleJob { outcomes, stop: Stop::of(ground, rim) });
}

struct SettleJob<'a> {
    outcomes: &'a mut [Outcome],
    stop: Stop,
}

impl WithSimd for SettleJob<'_> {
    type Output = ();
    #[inline(always)]
    fn with_simd<S: Simd>(self, simd: S) {
        for outcomes in self.outcomes.chunks_mut(Lanes::<S>::WIDTH) {
            let mut slopes = [0.0; MAX_WIDTH];
            slopes.iter_mut().zip(&*outcomes).for_each(|(slope, o)| *slope = o.touch.slope);
            let (v, n) = (velocities(simd, outcomes), normals(simd, outcomes));
            let rest = self.stop.rest::<Lanes<S>>(&v, &n, Lanes::<S>::load(simd, &slopes));
            let (x, y, run) = (rest.x.column(), rest.y.column(), rest.run.column());
            for (i, outcome) in outcomes.iter_mut().enumerate().filter(|(_, outcome)| outcome.landed) {
                outcome.come_to_rest(x[i], y[i], run[i]);
            }
        }
    }
}

#[inline(always)]
fn velocities<R: Real>(token: R::Token, outcomes: &[Outcome]) -> Vec3<R> {
    vectors(token, outcomes, |o| o.touch.velocity_m_s)
}

#[inline(always)]
fn normals<R: Real>(token: R::Token, outcomes: &[Outcome]) -> Vec3<R> {
    vectors(token, outcomes, |o| o.touch.normal)
}

/// One vector of each outcome, lane by lane; lanes past the last are 0.
#[inline(always)]
fn vectors<R: Real>(token: R::Token, outcomes: &[Outcome], of: impl Fn(&Outcome) -> [f64; 3]) -> Vec3<R> {
    let mut columns = [[0.0; MAX_WIDTH]; 3];
    for (i, outcome) in outcomes.iter().enumerate() {
        for (column, part) in columns.iter_mut().zip(of(outcome)) {
            column[i] = part;
        }
    }
    let [x, y, z] = &columns;
    Vec3 { x: R::load(token, x), y: R::load(token, y), z: R::load(token, z) }
}
