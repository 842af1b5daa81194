//! One step of an embedded Runge–Kutta pair, what its error is worth, and how long the next one may be.
//!
//! An error matters by what it will have done to the place of landing: one of height lengthens a shallow glide several
//! times over, one of velocity grows with the time left to fly, one of the disc's direction with the square of it. Weighed
//! so, a hard throw takes short steps of its own accord and an easy one long ones, most of all toward its end.
//!
//! # References
//! Ch. Tsitouras, *Runge–Kutta pairs of order 5(4) satisfying only the first column simplifying assumption*, Computers and
//! Mathematics with Applications 62, 2011: seven stages, the last of which is the first of the next step. Weights from
//! memory; that they meet every condition up to their order is tested.

use crate::air::GRAVITY_M_S2;
use crate::dynamics::{Constants, Rates, State};
use crate::real::{Real, Vec3};

/// What the estimated error of one step may do to the landing at tolerance 1, m. With it landing agrees with the converged
/// path to 1 cm (tested): the fifth-order result is far better than the difference from the fourth that is the estimate.
const ALLOWED_M: f64 = 0.0015;
/// First step tried, s.
pub(crate) const FIRST_STEP_S: f64 = 0.12;
/// Air slows a disc along its own axis within 0.1 to 0.2 s, and the pair becomes unstable at three and a half of these.
const LONGEST_STEP_S: f64 = 0.55;
/// A step this short is taken whatever its error: no input can make a flight crawl.
const SHORTEST_STEP_S: f64 = 0.004;
/// A disc in flight falls as under this much gravity; the rest is carried. Only for foreseeing the time left.
const EASED_GRAVITY_M_S2: f64 = 2.5;
/// Time that is always left, for errors' sake: of the order of a step, in which those of velocity become ones of place, s.
const LEAST_TIME_S: f64 = 1.0;
/// From this much sin² of the angle of attack, 12°, errors count more: towards the stall the loads bend.
const STEEP_SIN_SQUARED: f64 = 0.042;

/// Evaluations of the rates a step keeps: its first is the last of the step before.
pub(crate) const STAGES: usize = 7;
/// Weights of the rates at each stage, those not yet known 0.
type Table = [[f64; STAGES]; STAGES];
/// Weights of the earlier stages' rates in each further one. The row before the last is the fifth-order result itself, the
/// last its difference from the fourth-order one.
const WEIGHTS: Table = [
    [0.161, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0],
    [-0.008_480_655_492_356_989, 0.335_480_655_492_357, 0.0, 0.0, 0.0, 0.0, 0.0],
    [2.897_153_057_105_493_5, -6.359_448_489_975_075, 4.362_295_432_869_581_5, 0.0, 0.0, 0.0, 0.0],
    [
        5.325_864_828_439_257,
        -11.748_883_564_062_828,
        7.495_539_342_889_836_5,
        -0.092_495_066_361_755_25,
        0.0,
        0.0,
        0.0,
    ],
    [
        5.861_455_442_946_42,
        -12.920_969_317_847_11,
        8.159_367_898_576_159,
        -0.071_584_973_281_401,
        -0.028_269_050_394_068_383,
        0.0,
        0.0,
    ],
    [
        0.096_460_766_818_065_23,
        0.01,
        0.479_889_650_414_499_6,
        1.379_008_574_103_742,
        -3.290_069_515_436_081,
        2.324_710_524_099_774,
        0.0,
    ],
    [
        -0.001_780_011_052_225_777,
        -0.000_816_434_459_656_746_9,
        0.007_880_878_010_261_995,
        -0.144_711_007_173_262_9,
        0.582_357_165_452_555_2,
        -0.458_082_105_929_186_97,
        0.015_151_515_151_515_152,
    ],
];
/// Since a place's rate is the velocity, which the same weights lead through the stages, the places follow from the
/// accelerations: these are the weights, in h². They spare the stages a place of their own.
const PLACE_WEIGHTS: Table = {
    let mut places = [[0.0; STAGES]; STAGES];
    let mut row = 0;
    while row < STAGES {
        let mut stage = 1;
        while stage < STAGES {
            let mut k = 0;
            while k < STAGES {
                places[row][k] += WEIGHTS[row][stage] * WEIGHTS[stage - 1][k];
                k += 1;
            }
            stage += 1;
        }
        row += 1;
    }
    places
};
/// How far through the step each further stage lies, as a share of it.
const SHARES: [f64; STAGES] = {
    let mut shares = [0.0; STAGES];
    let mut row = 0;
    while row < STAGES {
        let mut k = 0;
        while k < STAGES {
            shares[row] += WEIGHTS[row][k];
            k += 1;
        }
        row += 1;
    }
    shares
};

/// What an error of velocity and one of direction made in one step will have done to the place of landing, each squared, in
/// units of what is allowed.
pub(crate) struct Stakes<R> {
    velocity2: R,
    direction2: R,
}

impl<R: Real> Stakes<R> {
    /// At a state so high above the ground, and its rates; `tolerance` times the usual error is allowed.
    #[inline(always)]
    fn at(s: &State<R>, height: R, rates: &Rates<R>, tolerance: f64) -> Stakes<R> {
        let (zero, one) = (s.spin.like(0.0), s.spin.like(1.0));
        let allowed = ALLOWED_M * tolerance;
        let level2 = s.v.x.mul_add(s.v.x, s.v.y * s.v.y);
        let fall2 = s.v.z.mul_add(s.v.z, height.max(zero) * zero.like(2.0 * EASED_GRAVITY_M_S2)).max(one);
        let steep = (rates.sin2 * zero.like(1.0 / STEEP_SIN_SQUARED)).max(one);
        // Sideways and forward an error of velocity lasts to the end; one of height lengthens or shortens the glide.
        let stretch2 = level2.max(one) / fall2 + one;
        let left = (s.v.z + fall2.sqrt()).max(zero.like(LEAST_TIME_S * EASED_GRAVITY_M_S2));
        let time2 = left * left * zero.like(1.0 / (EASED_GRAVITY_M_S2 * EASED_GRAVITY_M_S2));
        let velocity2 = steep * steep * stretch2 * time2 * zero.like(1.0 / (allowed * allowed));
        // What the air pushes with turns along with the disc.
        let up = rates.a.z + zero.like(GRAVITY_M_S2);
        let push2 =
            rates.a.x.mul_add(rates.a.x, rates.a.y.mul_add(rates.a.y, up.mul_add(up, zero.like(25.0))));
        Stakes { velocity2, direction2: velocity2 * time2 * push2 * zero.like(0.25) }
    }

    /// The square of the error of a step of `h` seconds whose rates are off by so much, in units of what is allowed. That of
    /// place comes of that of velocity, and spin merely dies away; one of the wind's share counts as a slight one of velocity.
    #[inline(always)]
    fn of<const SHEAR: bool>(&self, off: &Rates<R>, h: R) -> R {
        let mut velocity = off.a.dot(off.a);
        if SHEAR {
            velocity = (off.wind * off.wind).mul_add(h.like(25.0), velocity);
        }
        off.n.dot(off.n).mul_add(self.direction2, velocity * self.velocity2) * (h * h)
    }
}

/// By how much the rates over a step are off: those of the stages by their weights in the estimate. What no error is asked of
/// is left as it stands in the first.
#[inline(always)]
fn difference<R: Real, const SHEAR: bool>(rates: &[Rates<R>; STAGES]) -> Rates<R> {
    let share = |k: usize| rates[0].spin.like(WEIGHTS[STAGES - 1][k]);
    let first = &rates[0];
    let mut off = Rates {
        a: first.a.scale(share(0)),
        n: first.n.scale(share(0)),
        wind: first.wind * share(0),
        ..*first
    };
    for (k, rate) in rates.iter().enumerate().skip(1) {
        off.a = off.a.plus_scaled(rate.a, share(k));
        off.n = off.n.plus_scaled(rate.n, share(k));
        if SHEAR {
            off.wind = rate.wind.mul_add(share(k), off.wind);
        }
    }
    off
}

impl<R: Real> State<R> {
    /// Moved along each of `rates` by its share of `h` seconds, all but the place.
    #[inline(always)]
    fn moved<const SHEAR: bool>(&self, rates: &[Rates<R>], shares: &[f64], h: R) -> State<R> {
        let mut next = *self;
        for (rate, &share) in rates.iter().zip(shares) {
            let k = h * h.like(share);
            next.v = next.v.plus_scaled(rate.a, k);
            next.n = next.n.plus_scaled(rate.n, k);
            next.spin = rate.spin.mul_add(k, next.spin);
            next.slowness = rate.slowness.mul_add(k, next.slowness);
            if SHEAR {
                next.wind = rate.wind.mul_add(k, next.wind);
            }
        }
        next
    }
}

/// The `K`th further stage of a step: the rates there are written, its state given back. The stages are written out rather
/// than looped over, so that the compiler sees every weight and keeps what it can in registers: a tenth faster.
#[inline(always)]
fn stage<R: Real, const SHEAR: bool, const K: usize>(
    c: &Constants<R, SHEAR>,
    s: &State<R>,
    rates: &mut [Rates<R>; STAGES],
    h: R,
) -> State<R> {
    let mut state = s.moved::<SHEAR>(&rates[..=K], &WEIGHTS[K], h);
    if SHEAR {
        let h2 = h * h;
        // Nothing but the wind asks for a place on the way, and that for the height above the ground alone.
        let mut z = s.v.z.mul_add(h * h.like(SHARES[K]), s.r.z);
        for (rate, &share) in rates.iter().zip(&PLACE_WEIGHTS[K][..K]) {
            z = rate.a.z.mul_add(h2 * h.like(share), z);
        }
        state.r.z = z;
        if !c.terrain.is_level() {
            state.r.x = s.v.x.mul_add(h * h.like(SHARES[K]), s.r.x);
        }
    }
    rates[K + 1] = c.rates(&mut state);
    state
}

/// What the accelerations on the way add to the mean velocity over a step, per second of it.
#[inline(always)]
fn drift<R: Real>(rates: &[Rates<R>; STAGES]) -> Vec3<R> {
    const RESULT: usize = STAGES - 2;
    let share = |k: usize| rates[0].spin.like(PLACE_WEIGHTS[RESULT][k]);
    let mut mean = rates[0].a.scale(share(0));
    for (k, rate) in rates.iter().enumerate().take(RESULT).skip(1) {
        mean = mean.plus_scaled(rate.a, share(k));
    }
    mean
}

/// One step tried: where it leads, and the square of its error in units of what is allowed.
pub(crate) struct Tried<R> {
    pub state: State<R>,
    pub error2: R,
}

/// A step of `h` seconds from a state whose rates are the first of `rates`; the others are written, the last of them the
/// rates where the step leads. A step of 0 s leads exactly nowhere.
#[inline(always)]
pub(crate) fn try_step<R: Real, const SHEAR: bool>(
    c: &Constants<R, SHEAR>,
    s: &State<R>,
    rates: &mut [Rates<R>; STAGES],
    h: R,
    tolerance: f64,
) -> Tried<R> {
    let (ground, _) = c.terrain.under(s.r.x);
    let stakes = Stakes::at(s, s.r.z - ground, &rates[0], tolerance);
    let within = c.within_air(s);
    stage::<R, SHEAR, 0>(c, &within, rates, h);
    stage::<R, SHEAR, 1>(c, &within, rates, h);
    stage::<R, SHEAR, 2>(c, &within, rates, h);
    stage::<R, SHEAR, 3>(c, &within, rates, h);
    stage::<R, SHEAR, 4>(c, &within, rates, h);
    let mut state = stage::<R, SHEAR, 5>(c, &within, rates, h);
    // Over the ground it has changed by as much as against the air.
    let gained = |from: R, to: R, ground: R| ground + (to - from);
    if !SHEAR {
        state.v.x = gained(within.v.x, state.v.x, s.v.x);
        state.v.y = gained(within.v.y, state.v.y, s.v.y);
    }
    state.r = s.r.plus_scaled(s.v.plus_scaled(drift(rates), h), h);
    // One Newton step towards length 1, from which a step leads away by less than a millionth.
    let (zero, one) = (h.like(0.0), h.like(1.0));
    let long = one - state.n.dot(state.n);
    state.n = state.n.scale(zero.if_less(h, h.like(0.5), zero).mul_add(long, one));
    Tried { state, error2: stakes.of::<SHEAR>(&difference::<R, SHEAR>(rates), h) }
}

impl<R: Real> Tried<R> {
    /// 1 where the step of `h` seconds may be taken, else 0.
    #[inline(always)]
    pub(crate) fn good(&self, h: R) -> R {
        let one = h.like(1.0);
        let good = self.error2.if_less(one, one, h.like(0.0));
        h.if_less(h.like(1.001 * SHORTEST_STEP_S), one, good)
    }

    /// How long the next step may be after one of `h` seconds, from where the flight is now: so `high` above ground that rises by
    /// `slope` a metre.
    #[inline(always)]
    pub(crate) fn next_step(&self, h: R, s: &State<R>, (high, slope): (R, R), rates: &Rates<R>) -> R {
        let (zero, x) = (h.like(0.0), self.error2);
        // The error grows as the fifth power of the step, its square x as the tenth. (7 + 8x)/(5 + 14x) falls about as the step
        // should where x is near 1 and is nowhere wild: a step grows by no more than two fifths, and shrinks to no less than
        // four sevenths.
        let more = x.mul_add(zero.like(8.0), zero.like(7.0));
        let less = x.mul_add(zero.like(14.0), zero.like(5.0));
        let next = (h * (more / less)).max(zero.like(SHORTEST_STEP_S)).min(zero.like(LONGEST_STEP_S));
        // A step that ends just below the ground leaves little to interpolate. `low` is the height after the whole step,
        // 2z/q the time in which the parabola lands.
        let fall = (rates.a.z - slope * rates.a.x) * zero.like(0.5);
        let climb = s.v.z - slope * s.v.x;
        let low = next.mul_add(next.mul_add(fall, climb), high);
        if !low.any_less(zero) {
            return next;
        }
        let z = high.max(zero);
        let q = climb.mul_add(climb, fall * z * zero.like(-4.0)).max(zero).sqrt() - climb;
        let ground = (z / q.max(zero.like(1e-3))).mul_add(zero.like(2.06), zero.like(0.01));
        low.if_less(zero, ground.min(next), next)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;

    /// The conditions on a method's weights by order: every rooted tree of up to five nodes.
    #[test]
    fn val_weights_meet_every_condition_of_their_order() {
        type Column = [f64; STAGES];
        let inner = |x: &Column| -> Column {
            std::array::from_fn(|i| match i.checked_sub(1) {
                Some(row) => WEIGHTS[row].iter().zip(x).map(|(a, x)| a * x).sum(),
                None => 0.0,
            })
        };
        let times = |a: &Column, b: &Column| -> Column { std::array::from_fn(|i| a[i] * b[i]) };
        let one = [1.0; STAGES];
        let c = inner(&one);
        let (c2, ac) = (times(&c, &c), inner(&c));
        let (c3, ac2, aac) = (times(&c2, &c), inner(&c2), inner(&ac));
        let to_fourth = [
            (one, 1.0),
            (c, 2.0),
            (c2, 3.0),
            (ac, 6.0),
            (c3, 4.0),
            (times(&c, &ac), 8.0),
            (ac2, 12.0),
            (aac, 24.0),
        ];
        let fifth = [
            (times(&c3, &c), 5.0),
            (times(&c2, &ac), 10.0),
            (times(&c, &ac2), 15.0),
            (times(&c, &aac), 30.0),
            (times(&ac, &ac), 20.0),
            (inner(&c3), 20.0),
            (inner(&times(&c, &ac)), 40.0),
            (inner(&ac2), 60.0),
            (inner(&aac), 120.0),
        ];
        let sum = |weights: &Column, x: &Column| -> f64 { weights.iter().zip(x).map(|(b, x)| b * x).sum() };
        for (tree, density) in to_fourth {
            assert_abs_diff_eq!(sum(&WEIGHTS[STAGES - 2], &tree), 1.0 / density, epsilon = 1e-13);
            assert_abs_diff_eq!(sum(&WEIGHTS[STAGES - 1], &tree), 0.0, epsilon = 1e-13);
        }
        for (tree, density) in fifth {
            assert_abs_diff_eq!(sum(&WEIGHTS[STAGES - 2], &tree), 1.0 / density, epsilon = 1e-13);
        }
        let missed = fifth.iter().map(|(tree, _)| sum(&WEIGHTS[STAGES - 1], tree).abs()).fold(0.0, f64::max);
        assert!(missed > 1e-5, "the difference must be of fourth order, or it estimates nothing");
    }
}
