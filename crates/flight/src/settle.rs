//! What a disc does after it touches the ground: it skips, slides, sits, or rolls on its edge.
//!
//! A chain of bounces with dry friction, then a slide. A steep arrival digs in; a soft disc grips; a disc that comes in
//! on one edge kicks toward that edge. One that comes down on edge rolls if its spin drives it forward, as [`crate::roll`] has it;
//! on the other edge it tumbles a little and lies down. About the steepest lean at which the ground holds an edge some catch it and
//! some do not: what is worked out there lies between the two.

use pulp::{Arch, Simd, WithSimd};
use serde::{Deserialize, Serialize};

use crate::air::GRAVITY_M_S2;
use crate::ground::{Contact, pitched};
use crate::hop::hopping;
use crate::outcome::{Crossing, Crossings, MAX_GATES, Outcome, PathPoint};
use crate::real::{Lanes, MAX_WIDTH, Real, Vec3, elevation, exp_minus, sin_cos};
use crate::roll::{NoTrace, Touches, Trace, caught, fall, roll};

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
    /// Went on on its edge.
    Rolls,
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
/// Bank from which a disc is on edge, degrees, and the share of its forward speed that is left where it does not roll.
const ON_EDGE_DEG: f64 = 60.0;
const TUMBLE: f64 = 0.25;

/// Share of a roll from which it is called one, and passes gates as it rolls.
const MOSTLY: f64 = 0.5;

/// How the ground and the rim together stop a disc.
struct Stop {
    bounce: f64,
    scrub: f64,
    friction: f64,
    dig_rad: f64,
    /// Way of a slide by the square of its speed, m per m²/s², on level ground.
    slide: f64,
}

impl Stop {
    fn of(contact: &Contact) -> Stop {
        let bounce = contact.bounce();
        Stop {
            bounce,
            // A bounce pushes with what it takes and with what it gives.
            scrub: contact.scrub() * (1.0 + bounce),
            friction: contact.friction(),
            dig_rad: contact.dig_rad(),
            slide: contact.slide_m_per_m2_s2(),
        }
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

        let scrub = one.like(self.scrub);
        let per_dig = one.like(1.0 / self.dig_rad);
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
        let mut slid = one.like(self.slide);
        if zero.any_less(slope.abs()) {
            // Uphill its own weight holds a sliding disc, downhill it drives it on.
            let held = cos * (along_x * slope + one.like(self.friction));
            let held = held.max(one.like(LEAST_HELD * self.friction)) * one.like(2.0 * GRAVITY_M_S2);
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

/// What discs do after their first touch: where they come to rest from there, the length of their run and that of their
/// longest bounce, m.
struct Rest<R> {
    x: R,
    y: R,
    run: R,
    longest: R,
}

/// Carries `outcome` on from its landing to where the disc comes to rest: its place moves, its run is set, the rest stays as it
/// was at the first touch. A flight that never landed stays where it was.
pub fn settle(outcome: &mut Outcome, contact: &Contact) -> Manner {
    follow(outcome, contact, &mut NoTrace).0
}

/// [`settle`]s, and gives the way over the ground: points from the first touch to the rest, a time (s since release) to each, the
/// height that of the disc's middle above the ground beneath. Empty for a flight that never landed.
pub fn settle_with_path(outcome: &mut Outcome, contact: &Contact) -> (Manner, Vec<PathPoint>) {
    if !outcome.landed {
        return (Manner::Sits, vec![]);
    }
    let touch = PathPoint { t_s: outcome.time_s, x_m: outcome.x_m, y_m: outcome.y_m, z_m: 0.0 };
    let down_m_s = fall(&Touches::<f64>::load((), std::iter::once(&*outcome)));
    let mut way = vec![touch];
    let mut rolled = vec![];
    let (manner, slid, share) = follow(outcome, contact, &mut rolled);
    let Some(last) = rolled.last().copied() else {
        way.push(PathPoint { x_m: outcome.x_m, y_m: outcome.y_m, ..touch });
        return (manner, way);
    };
    way.extend(rolled.iter().map(|p| {
        // Where only some catch their edge the way is between a slide and a roll.
        let gone = (1.0 - share) * p.t_s / last.t_s.max(1e-9);
        PathPoint {
            t_s: touch.t_s + p.t_s,
            x_m: touch.x_m + gone * slid.0 + share * (p.x_m - touch.x_m),
            y_m: touch.y_m + gone * slid.1 + share * (p.y_m - touch.y_m),
            z_m: p.z_m,
        }
    }));
    (manner, hopping(contact, down_m_s, &way))
}

/// What it does, its slide or skip (m), and how much of a roll it is, 0 to 1.
fn follow(outcome: &mut Outcome, contact: &Contact, trace: &mut impl Trace) -> (Manner, (f64, f64), f64) {
    if !outcome.landed {
        return (Manner::Sits, (0.0, 0.0), 0.0);
    }
    let touches = Touches::<f64>::load((), std::iter::once(&*outcome));
    let rest = Stop::of(contact).rest(&touches.v, &touches.n, touches.slope);
    let share = caught(contact, &touches);
    let mut end = (rest.x, rest.y, rest.run);
    if share > 0.0 {
        let rolled = roll(contact, &touches, &[], trace);
        end = partly(share, end, (rolled.x - outcome.x_m, rolled.y - outcome.y_m, rolled.run));
    }
    outcome.come_to_rest(end.0, end.1, end.2);
    outcome.rolled = share > MOSTLY;
    let manner = match () {
        () if outcome.run_m < SIT_M => Manner::Sits,
        () if outcome.rolled => Manner::Rolls,
        () if rest.longest >= SKIP_M => Manner::Skips,
        () => Manner::Slides,
    };
    (manner, (rest.x, rest.y), share)
}

/// Between a slide and a roll: both by where they lead and how far they go, m.
fn partly(share: f64, slid: (f64, f64, f64), rolled: (f64, f64, f64)) -> (f64, f64, f64) {
    let mix = |a: f64, b: f64| a + share * (b - a);
    (mix(slid.0, rolled.0), mix(slid.1, rolled.1), mix(slid.2, rolled.2))
}

/// [`settle`]s all of them, many at once in single precision: to the same places within a millimetre, where they roll within
/// 5 cm. Notes where they pass `gates` (m down-range, those that the flight was given) on the ground, rolling or sliding.
pub fn settle_all(outcomes: &mut [Outcome], contact: &Contact, gates: &[f64]) {
    Arch::new().dispatch(SettleJob { outcomes, contact, gates });
}

struct SettleJob<'a> {
    outcomes: &'a mut [Outcome],
    contact: &'a Contact<'a>,
    gates: &'a [f64],
}

impl WithSimd for SettleJob<'_> {
    type Output = ();
    #[inline(always)]
    fn with_simd<S: Simd>(self, simd: S) {
        let SettleJob { outcomes, contact, gates } = self;
        let stop = Stop::of(contact);
        // The few that roll: which, how much of a roll it is, and where a slide would lead.
        let mut rolls: Vec<(usize, f64, (f64, f64, f64))> = vec![];
        for (chunk, some) in outcomes.chunks_mut(Lanes::<S>::WIDTH).enumerate() {
            let touches = Touches::<Lanes<S>>::load(simd, some.iter());
            let rest = stop.rest::<Lanes<S>>(&touches.v, &touches.n, touches.slope);
            let share = caught(contact, &touches);
            let (x, y, run, share) = (rest.x.column(), rest.y.column(), rest.run.column(), share.column());
            for (i, outcome) in some.iter_mut().enumerate().filter(|(_, outcome)| outcome.landed) {
                if share[i] > 0.0 {
                    rolls.push((chunk * Lanes::<S>::WIDTH + i, share[i], (x[i], y[i], run[i])));
                } else {
                    outcome.pass_sliding(x[i], y[i], gates);
                    outcome.come_to_rest(x[i], y[i], run[i]);
                }
            }
        }
        for some in rolls.chunks(Lanes::<S>::WIDTH) {
            let touches = Touches::<Lanes<S>>::load(simd, some.iter().map(|(k, ..)| &outcomes[*k]));
            let rolled = roll(contact, &touches, gates, &mut NoTrace);
            let (x, y, run) = (rolled.x.column(), rolled.y.column(), rolled.run.column());
            let gates_passed = gates.len().min(MAX_GATES);
            let mut crossings = [Crossings::NONE; MAX_WIDTH];
            for k in 0..gates_passed {
                let (y, z) = (rolled.gate_y[k].column(), rolled.gate_z[k].column());
                for (i, crossings) in crossings[..some.len()].iter_mut().enumerate() {
                    let passed = (z[i] >= 0.0).then_some(Crossing { y_m: y[i] as f32, z_m: z[i] as f32 });
                    crossings.set(k, passed);
                }
            }
            for (i, &(k, share, slid)) in some.iter().enumerate() {
                let outcome = &mut outcomes[k];
                let end = partly(share, slid, (x[i] - outcome.x_m, y[i] - outcome.y_m, run[i]));
                outcome.rolled = share > MOSTLY;
                if outcome.rolled {
                    outcome.crossings.fill(&crossings[i], gates_passed);
                }
                outcome.pass_sliding(end.0, end.1, gates);
                outcome.come_to_rest(end.0, end.1, end.2);
            }
        }
    }
}
