//! One step of an embedded Runge–Kutta pair, what its error is worth, and how long the next one may be.
//!
//! An error matters by what it will have done to the place of landing: one of height lengthens a shallow glide several
//! times over, one of velocity grows with the time left to fly, one of the disc's direction with the square of it. Weighed
//! so, a hard throw takes short steps of its own accord and an easy one long ones, most of all toward its end.
//!
//! # References
//! J. R. Dormand and P. J. Prince, *A family of embedded Runge–Kutta formulae*, Journal of Computational and Applied
//! Mathematics 6, 1980: the pair of orders 5 and 4 with seven stages, the last of which is the first of the next step.

use crate::air::GRAVITY_M_S2;
use crate::dynamics::{Constants, Rates, State};
use crate::real::{Real, Vec3};

/// What the estimated error of one step may do to the landing at tolerance 1, m. With it landing agrees with the converged
/// path to 1 cm (tested): the fifth-order result is far better than the difference from the fourth that is the estimate.
const ALLOWED_M: f64 = 0.010;
/// First step tried, s.
pub(crate) const FIRST_STEP_S: f64 = 0.12;
/// Air slows a disc along its own axis within 0.1 to 0.2 s, and the pair becomes unstable at about three of these.
const LONGEST_STEP_S: f64 = 0.45;
/// A step this short is taken whatever its error: no input can make a flight crawl.
const SHORTEST_STEP_S: f64 = 0.004;
/// A disc in flight falls as under this much gravity; the rest is carried. Only for foreseeing the time left.
const EASED_GRAVITY_M_S2: f64 = 2.5;
/// From this much sin² of the angle of attack, 12°, errors count more: towards the stall the loads bend.
const STEEP_SIN_SQUARED: f64 = 0.042;

/// Evaluations of the rates a step keeps: its first is the last of the step before.
pub(crate) const STAGES: usize = 7;
/// Weights of the earlier stages in each further one; the last row is the fifth-order result itself.
const WEIGHTS: [&[f64]; STAGES - 1] = [
    &[1.0 / 5.0],
    &[3.0 / 40.0, 9.0 / 40.0],
    &[44.0 / 45.0, -56.0 / 15.0, 32.0 / 9.0],
    &[19372.0 / 6561.0, -25360.0 / 2187.0, 64448.0 / 6561.0, -212.0 / 729.0],
    &[9017.0 / 3168.0, -355.0 / 33.0, 46732.0 / 5247.0, 49.0 / 176.0, -5103.0 / 18656.0],
    &[35.0 / 384.0, 0.0, 500.0 / 1113.0, 125.0 / 192.0, -2187.0 / 6784.0, 11.0 / 84.0],
];
/// Weights of the result's difference from the fourth-order one.
const DIFFERENCE: [f64; STAGES] =
    [71.0 / 57600.0, 0.0, -71.0 / 16695.0, 71.0 / 1920.0, -17253.0 / 339200.0, 22.0 / 525.0, -1.0 / 40.0];

/// What errors made in one step will have done to the place of landing, each squared, in units of what is allowed.
pub(crate) struct Stakes<R> {
    place2: R,
    velocity2: R,
    direction2: R,
}

impl<R: Real> Stakes<R> {
    /// At a state and its rates; `tolerance` times the usual error is allowed.
    #[inline(always)]
    fn at(c: &Constants<R>, s: &State<R>, rates: &Rates<R>, tolerance: f64) -> Stakes<R> {
        let zero = s.spin.like(0.0);
        let one = s.spin.like(1.0);
        let allowed = ALLOWED_M * tolerance;
        let level2 = s.v.x.mul_add(s.v.x, s.v.y * s.v.y);
        let fall2 = s.v.z.mul_add(s.v.z, s.r.z.max(zero) * zero.like(2.0 * EASED_GRAVITY_M_S2)).max(one);
        let time_left = ((s.v.z + fall2.sqrt()) * zero.like(1.0 / EASED_GRAVITY_M_S2)).max(zero.like(0.2));
        let time2 = time_left * time_left;
        let u = c.airspeed(s);
        let (speed2, along_axis) = (u.dot(u).max(one), u.dot(s.n));
        // Both divisions in one: the steepness of attack, and that of the fall to come.
        let inverse = one / (fall2 * speed2);
        let attack = along_axis * along_axis * fall2 * inverse * zero.like(1.0 / STEEP_SIN_SQUARED);
        let steep = attack.max(one);
        let stretch2 = one + level2 * speed2 * inverse;
        let place2 = steep * steep * stretch2 * zero.like(1.0 / (allowed * allowed));
        let velocity2 = place2 * time2;
        // What the air pushes with turns along with the disc.
        let up = rates.a.z + zero.like(GRAVITY_M_S2);
        let push2 = rates.a.x.mul_add(rates.a.x, rates.a.y.mul_add(rates.a.y, up * up)) + zero.like(25.0);
        Stakes { place2, velocity2, direction2: velocity2 * time2 * push2 * zero.like(0.25) }
    }

    /// The square of an error, in units of what is allowed. A gross error of spin or of the wind's share counts as a
    /// slight one of direction or velocity.
    #[inline(always)]
    fn of(&self, off: &State<R>) -> R {
        let direction = off.n.dot(off.n) + off.spin * off.spin * off.spin.like(1e-6);
        let velocity = off.v.dot(off.v) + off.wind * off.wind * off.wind.like(25.0);
        let far = off.r.dot(off.r) * self.place2;
        direction.mul_add(self.direction2, velocity.mul_add(self.velocity2, far))
    }
}

/// One step tried: where it leads, and the square of its error in units of what is allowed.
pub(crate) struct Tried<R> {
    pub state: State<R>,
    pub error2: R,
}

/// A step of `h` seconds from a state whose rates are the first of `rates`; the others are written, the last of them the
/// rates where the step leads.
///
/// The stages are a loop on purpose: written out, the code of one step outgrows the processor's instruction caches, takes
/// longer to compile and is no faster.
#[inline(always)]
pub(crate) fn try_step<R: Real>(
    c: &Constants<R>,
    s: &State<R>,
    rates: &mut [Rates<R>; STAGES],
    h: R,
    tolerance: f64,
) -> Tried<R> {
    let mut state = *s;
    for (k, weights) in WEIGHTS.iter().enumerate() {
        state = s.moved(&rates[..=k], weights, h);
        if k + 2 == STAGES {
            // One Newton step towards length 1, from which a step leads away by less than a millionth.
            let half = h.like(0.5);
            state.n = state.n.scale(state.n.dot(state.n).mul_add(-half, h.like(1.5)));
        }
        rates[k + 1] = c.rates(&state);
    }
    let zero = h.like(0.0);
    let nothing = Vec3 { x: zero, y: zero, z: zero };
    let none = State { r: nothing, v: nothing, n: nothing, spin: zero, wind: zero };
    let off = none.moved(rates, &DIFFERENCE, h);
    Tried { state, error2: Stakes::at(c, s, &rates[0], tolerance).of(&off) }
}

impl<R: Real> Tried<R> {
    /// 1 where the step of `h` seconds may be taken, else 0.
    #[inline(always)]
    pub(crate) fn good(&self, h: R) -> R {
        let one = h.like(1.0);
        let good = self.error2.if_less(one, one, h.like(0.0));
        h.if_less(h.like(1.001 * SHORTEST_STEP_S), one, good)
    }

    /// How long the next step may be after one of `h` seconds, from where the flight is now.
    #[inline(always)]
    pub(crate) fn next_step(&self, h: R, s: &State<R>, rates: &Rates<R>) -> R {
        let zero = h.like(0.0);
        // The error grows as the fifth power of the step. (5 + 3x)/(3 + 5x) is x^(−1/4) near 1 and nowhere wild: it errs on
        // the short side, and lets a step grow by no more than a half.
        let error = self.error2.sqrt();
        let (more, less) =
            (error.mul_add(zero.like(2.7), zero.like(4.5)), error.mul_add(zero.like(5.0), zero.like(3.0)));
        // A step that ends just below the ground leaves little to interpolate: 2z/q is where the parabola lands.
        let z = s.r.z.max(zero);
        let q = s.v.z.mul_add(s.v.z, rates.a.z * z * zero.like(-2.0)).max(zero).sqrt() - s.v.z;
        let q = q.max(zero.like(1e-3));
        let inverse = zero.like(1.0) / (less * q);
        let factor = more * q * inverse;
        let ground = (z * less * inverse).mul_add(zero.like(2.06), zero.like(0.01));
        (h * factor).min(ground).max(zero.like(SHORTEST_STEP_S)).min(zero.like(LONGEST_STEP_S))
    }
}
