//! Following a flight to the ground: an adaptive Runge–Kutta pair, and the events on the way.
//!
//! Every lane keeps a time and a step of its own, so that a flight comes out the same whatever flies beside it. Between
//! two moments the path is the quintic through both places, velocities and accelerations; landing, the highest and the
//! widest points and the gates are found on it.
//!
//! # References
//! J. R. Dormand and P. J. Prince, *A family of embedded Runge–Kutta formulae*, Journal of Computational and Applied
//! Mathematics 6, 1980: the pair of orders 5 and 4 with seven stages, the last of which is the first of the next step.

use crate::air::Air;
use crate::dynamics::{Columns, Constants, Rates, State, Throw, release_state};
use crate::outcome::{Crossing, MAX_GATES, Outcome, PathPoint, Touch};
use crate::real::{Real, Vec3};

/// Longest flight followed, s.
pub const TIME_LIMIT_S: f64 = 40.0;
/// Errors that one step may make, at tolerance 1: place (m), velocity (m/s), direction of the normal (rad), spin (as a
/// share of 100 rad/s). With them landing agrees with the converged path to well within 1 cm (tested).
const STEP_ERRORS: [f64; 4] = [6.0e-3, 3.0e-4, 6.0e-6, 6.0e-2];
const SPIN_SCALE_RAD_S: f64 = 100.0;
const FIRST_STEP_S: f64 = 0.12;
const LONGEST_STEP_S: f64 = 0.7;
/// A step this short is taken whatever its error: no input can make a flight crawl.
const SHORTEST_STEP_S: f64 = 0.004;
/// More steps than the shortest ones need for the whole time limit, rejected ones included.
const MOST_STEPS: usize = 12_000;

const A3: [f64; 2] = [3.0 / 40.0, 9.0 / 40.0];
const A4: [f64; 3] = [44.0 / 45.0, -56.0 / 15.0, 32.0 / 9.0];
const A5: [f64; 4] = [19372.0 / 6561.0, -25360.0 / 2187.0, 64448.0 / 6561.0, -212.0 / 729.0];
const A6: [f64; 5] = [9017.0 / 3168.0, -355.0 / 33.0, 46732.0 / 5247.0, 49.0 / 176.0, -5103.0 / 18656.0];
/// Weights of the fifth-order result.
const B: [f64; 6] = [35.0 / 384.0, 0.0, 500.0 / 1113.0, 125.0 / 192.0, -2187.0 / 6784.0, 11.0 / 84.0];
/// Weights of its difference from the fourth-order result.
const E: [f64; 7] =
    [71.0 / 57600.0, 0.0, -71.0 / 16695.0, 71.0 / 1920.0, -17253.0 / 339200.0, 22.0 / 525.0, -1.0 / 40.0];

/// One step tried: where it leads, the rates there, and the square of its error in units of what is allowed.
struct Tried<R> {
    state: State<R>,
    rates: Rates<R>,
    error2: R,
}

#[inline(always)]
fn try_step<R: Real>(c: &Constants<R>, s: &State<R>, k1: &Rates<R>, h: R, weights: [f64; 4]) -> Tried<R> {
    let k2 = c.rates(&s.moved([k1], [0.2], h));
    let k3 = c.rates(&s.moved([k1, &k2], A3, h));
    let k4 = c.rates(&s.moved([k1, &k2, &k3], A4, h));
    let k5 = c.rates(&s.moved([k1, &k2, &k3, &k4], A5, h));
    let k6 = c.rates(&s.moved([k1, &k2, &k3, &k4, &k5], A6, h));
    let next = s.moved([k1, &k2, &k3, &k4, &k5, &k6], B, h);
    let length = next.n.dot(next.n).sqrt();
    let state = State { n: next.n.scale(length.like(1.0) / length), ..next };
    let k7 = c.rates(&state);
    let zero = h.like(0.0);
    let nothing = Vec3 { x: zero, y: zero, z: zero };
    let none = State { r: nothing, v: nothing, n: nothing, spin: zero };
    let off = none.moved([k1, &k2, &k3, &k4, &k5, &k6, &k7], E, h);
    let error2 = off.spin * off.spin * zero.like(weights[3] * weights[3])
        + off.r.dot(off.r) * zero.like(weights[0] * weights[0])
        + off.v.dot(off.v) * zero.like(weights[1] * weights[1])
        + off.n.dot(off.n) * zero.like(weights[2] * weights[2]);
    Tried { state, rates: k7, error2 }
}

/// The quintic in θ = 0..1 through value, rate and second rate at both ends of a step: six coefficients.
#[derive(Clone, Copy)]
struct Curve<R>([R; 6]);

impl<R: Real> Curve<R> {
    /// From value, rate (per s) and second rate at the start and the end of a step of `h` seconds.
    #[inline(always)]
    fn through(start: [R; 3], end: [R; 3], h: R) -> Curve<R> {
        let h2 = h * h;
        let (v0, v1) = (start[1] * h, end[1] * h);
        let (a0, a1) = (start[2] * h2, end[2] * h2);
        let half = h.like(0.5);
        let d = end[0] - start[0] - half.mul_add(a0, v0);
        let e = v1 - v0 - a0;
        let f = half * (a1 - a0);
        Curve([
            start[0],
            v0,
            half * a0,
            h.like(10.0).mul_add(d, h.like(-4.0).mul_add(e, f)),
            h.like(-15.0).mul_add(d, h.like(7.0).mul_add(e, h.like(-2.0) * f)),
            h.like(6.0).mul_add(d, h.like(-3.0).mul_add(e, f)),
        ])
    }

    #[inline(always)]
    fn value(&self, t: R) -> R {
        let c = &self.0;
        c[5].mul_add(t, c[4]).mul_add(t, c[3]).mul_add(t, c[2]).mul_add(t, c[1]).mul_add(t, c[0])
    }

    /// Rate per unit of θ.
    #[inline(always)]
    fn slope(&self, t: R) -> R {
        let c = &self.0;
        let high = (c[5] * t.like(5.0)).mul_add(t, c[4] * t.like(4.0)).mul_add(t, c[3] * t.like(3.0));
        high.mul_add(t, c[2] * t.like(2.0)).mul_add(t, c[1])
    }

    /// Second rate per unit of θ².
    #[inline(always)]
    fn bend(&self, t: R) -> R {
        let c = &self.0;
        let high = (c[5] * t.like(20.0)).mul_add(t, c[4] * t.like(12.0));
        high.mul_add(t, c[3] * t.like(6.0)).mul_add(t, c[2] * t.like(2.0))
    }

    /// θ near `guess` where the value is `target`, kept within 0..1. The value must run one way there.
    #[inline(always)]
    fn reaching(&self, target: R, guess: R) -> R {
        let (zero, one) = (guess.like(0.0), guess.like(1.0));
        let mut t = guess.max(zero).min(one);
        for _ in 0..4 {
            t = (t - (self.value(t) - target) / self.slope(t)).max(zero).min(one);
        }
        t
    }

    /// θ near `guess` where the slope is zero, kept within 0..1.
    #[inline(always)]
    fn turning(&self, guess: R) -> R {
        let (zero, one) = (guess.like(0.0), guess.like(1.0));
        let mut t = guess.max(zero).min(one);
        for _ in 0..3 {
            t = (t - self.slope(t) / self.bend(t)).max(zero).min(one);
        }
        t
    }
}

/// A step that was taken, from one moment to the next.
struct Step<'a, R> {
    from: &'a State<R>,
    from_rates: &'a Rates<R>,
    to: &'a State<R>,
    to_rates: &'a Rates<R>,
    h: R,
}

impl<R: Real> Step<'_, R> {
    /// The path along axis `K`.
    #[inline(always)]
    fn curve<const K: usize>(&self) -> Curve<R> {
        Curve::through(
            [self.from.r.part::<K>(), self.from.v.part::<K>(), self.from_rates.a.part::<K>()],
            [self.to.r.part::<K>(), self.to.v.part::<K>(), self.to_rates.a.part::<K>()],
            self.h,
        )
    }

    /// The disc's normal at θ = `t`: a cubic through both normals and their rates.
    #[inline(always)]
    fn normal_at(&self, t: R) -> Vec3<R> {
        let one = t.like(1.0);
        let rest = one - t;
        let (bulge, lag) = (t * rest * rest * self.h, t * t * rest * self.h);
        let share = t * t * t.like(-2.0).mul_add(t, t.like(3.0));
        let nothing = Vec3 { x: t.like(0.0), y: t.like(0.0), z: t.like(0.0) };
        nothing
            .plus_scaled(self.from.n, one - share)
            .plus_scaled(self.to.n, share)
            .plus_scaled(self.from_rates.n, bulge)
            .plus_scaled(self.to_rates.n, -lag)
    }

    /// Place along axis `K` where the step turns back before `end`, else at its end, which is `here`.
    #[inline(always)]
    fn extreme<const K: usize>(&self, end: R, here: R, taken: R) -> R {
        let zero = end.like(0.0);
        let (from, to) = (self.from.v.part::<K>(), self.to.v.part::<K>());
        let turns = zero.if_less(taken, (from * to).if_less(zero, end.like(1.0), zero), zero);
        if turns.greatest() <= 0.0 {
            return here;
        }
        let curve = self.curve::<K>();
        let turn = curve.turning(from / (from - to));
        let there = turn.if_less(end, curve.value(turn), here);
        zero.if_less(turns, there, here)
    }
}

/// Receives every step that some lane took.
pub(crate) trait Recorder<R> {
    /// Nothing is recorded.
    const IDLE: bool = false;
    /// Path of one lane over a step: curves along the three axes, begun at `t_s` and `h_s` long.
    fn record(&mut self, lane: usize, t_s: f64, h_s: f64, curves: [[f64; 6]; 3]);
}

/// Keeps nothing.
pub(crate) struct NoPath;
impl<R: Real> Recorder<R> for NoPath {
    const IDLE: bool = true;
    fn record(&mut self, _lane: usize, _t_s: f64, _h_s: f64, _curves: [[f64; 6]; 3]) {}
}

/// Time between two points of a recorded path, s.
pub const PATH_INTERVAL_S: f64 = 0.05;

/// Keeps the path of every lane, a point every [`PATH_INTERVAL_S`].
#[derive(Default)]
pub(crate) struct Paths(pub Vec<Vec<PathPoint>>);
impl<R: Real> Recorder<R> for Paths {
    fn record(&mut self, lane: usize, t_s: f64, h_s: f64, curves: [[f64; 6]; 3]) {
        self.0.resize_with(R::WIDTH, Vec::new);
        let path = &mut self.0[lane];
        loop {
            let at = path.len() as f64 * PATH_INTERVAL_S;
            if at > t_s + h_s {
                break;
            }
            let [x_m, y_m, z_m] = curves.map(|c| Curve(c).value((at - t_s) / h_s));
            path.push(PathPoint { t_s: at, x_m, y_m, z_m });
        }
    }
}

/// Extremes and events of every lane so far.
struct Watch<R> {
    high: R,
    left: R,
    right: R,
    /// 1 while in the air, 0 once landed or out of time.
    flying: R,
    landed: R,
    r: Vec3<R>,
    v: Vec3<R>,
    n: Vec3<R>,
    spin: R,
    time: R,
    gate_y: [R; MAX_GATES],
    gate_z: [R; MAX_GATES],
}

impl<R: Real> Watch<R> {
    #[inline(always)]
    fn new(start: &State<R>) -> Watch<R> {
        let zero = start.spin.like(0.0);
        Watch {
            high: start.r.z,
            left: zero,
            right: zero,
            flying: zero.like(1.0),
            landed: zero,
            r: start.r,
            v: start.v,
            n: start.n,
            spin: start.spin,
            time: zero,
            gate_y: [zero; MAX_GATES],
            gate_z: [zero.like(-1.0); MAX_GATES],
        }
    }

    /// Takes note of a step begun at `t` in the lanes where `taken` is 1.
    #[inline(always)]
    fn see(&mut self, step: &Step<R>, t: R, taken: R, gates: &[f64]) {
        let zero = t.like(0.0);
        let (a, b) = (step.from, step.to);
        // 1 where the disc touches the ground within the step; θ at its end, 1 unless it lands.
        let landing = zero.if_less(taken, b.r.z.if_less(zero, t.like(1.0), zero), zero);
        let mut end = t.like(1.0);
        let (mut at, mut v, mut n, mut spin) = (b.r, b.v, b.n, b.spin);
        if landing.greatest() > 0.0 {
            let z = step.curve::<2>();
            let fall = (a.r.z - b.r.z).max(t.like(1e-9));
            end = zero.if_less(landing, z.reaching(zero, a.r.z / fall), end);
            let per_s = t.like(1.0) / step.h;
            let (x, y) = (step.curve::<0>(), step.curve::<1>());
            let land = Vec3 { x: x.value(end), y: y.value(end), z: zero };
            let land_v = Vec3 { x: x.slope(end), y: y.slope(end), z: z.slope(end) }.scale(per_s);
            at = land.if_less(zero, landing, at);
            v = land_v.if_less(zero, landing, v);
            n = step.normal_at(end).if_less(zero, landing, n);
            spin = zero.if_less(landing, (b.spin - a.spin).mul_add(end, a.spin), spin);
        }
        self.widen(step, end, &at, taken);
        self.pass_gates(step, end, taken, gates);
        self.r = at.if_less(zero, taken, self.r);
        self.v = v.if_less(zero, taken, self.v);
        self.n = n.if_less(zero, taken, self.n);
        self.spin = zero.if_less(taken, spin, self.spin);
        self.time = zero.if_less(taken, end.mul_add(step.h, t), self.time);
        self.landed = self.landed.max(landing);
        self.flying = zero.if_less(landing, zero, self.flying);
    }

    /// Highest, farthest left and farthest right, where a step up to `end` turns back, and at its end.
    #[inline(always)]
    fn widen(&mut self, step: &Step<R>, end: R, at: &Vec3<R>, taken: R) {
        let zero = end.like(0.0);
        let (y, z) = (step.extreme::<1>(end, at.y, taken), step.extreme::<2>(end, at.z, taken));
        let high = self.high.max(z);
        let (left, right) = (self.left.max(y).max(at.y), self.right.min(y).min(at.y));
        self.high = zero.if_less(taken, high, self.high);
        self.left = zero.if_less(taken, left, self.left);
        self.right = zero.if_less(taken, right, self.right);
    }

    /// The first crossing of a gate counts: its height stays negative until then.
    #[inline(always)]
    fn pass_gates(&mut self, step: &Step<R>, end: R, taken: R, gates: &[f64]) {
        let zero = end.like(0.0);
        let (a, b) = (step.from, step.to);
        for (k, &gate) in gates.iter().enumerate() {
            let share = (zero.like(gate) - a.r.x) / (b.r.x - a.r.x).max(zero.like(1e-9));
            let ahead = share.if_less(zero, zero, taken);
            let inside = share.if_less(end.like(1.0), self.gate_z[k].if_less(zero, ahead, zero), zero);
            if inside.greatest() <= 0.0 {
                continue;
            }
            let turn = step.curve::<0>().reaching(zero.like(gate), share);
            let inside = end.if_less(turn, zero, inside);
            let (y, z) = (step.curve::<1>().value(turn), step.curve::<2>().value(turn));
            self.gate_y[k] = zero.if_less(inside, y, self.gate_y[k]);
            self.gate_z[k] = zero.if_less(inside, z.max(zero), self.gate_z[k]);
        }
    }
}

/// Flies up to `R::WIDTH` throws side by side, each step as exact as `tolerance` (1 is the product's own) asks. Lanes
/// past the end of `throws` repeat the last throw.
#[inline(always)]
pub(crate) fn fly<R: Real, P: Recorder<R>>(
    token: R::Token,
    throws: &[Throw],
    air: &Air,
    gates: &[f64],
    tolerance: f64,
    recorder: &mut P,
    out: &mut Vec<Outcome>,
) {
    let gates = &gates[..gates.len().min(MAX_GATES)];
    let columns = Columns::of(throws, air);
    let constants = Constants::<R>::load(token, &columns, air);
    let [place, velocity, direction, spin] = STEP_ERRORS.map(|e| 1.0 / (e * tolerance));
    let weights = [place, velocity, direction, spin / SPIN_SCALE_RAD_S];
    let mut state = release_state::<R>(token, &columns);
    let mut rates = constants.rates(&state);
    let mut watch = Watch::new(&state);
    let zero = state.spin.like(0.0);
    let one = zero.like(1.0);
    let (mut t, mut h) = (zero, zero.like(FIRST_STEP_S));
    for _ in 0..MOST_STEPS {
        let tried = try_step(&constants, &state, &rates, h, weights);
        let good = tried.error2.if_less(one, one, zero);
        let taken = h.if_less(zero.like(1.001 * SHORTEST_STEP_S), one, good) * watch.flying;
        let step = Step { from: &state, from_rates: &rates, to: &tried.state, to_rates: &tried.rates, h };
        watch.see(&step, t, taken, gates);
        if !P::IDLE {
            let curves = [step.curve::<0>(), step.curve::<1>(), step.curve::<2>()];
            let (curves, taken) = (curves.map(|c| c.0.map(R::column)), taken.column());
            let (t, h) = (t.column(), h.column());
            for i in (0..R::WIDTH).filter(|&i| taken[i] > 0.0) {
                recorder.record(i, t[i], h[i], curves.map(|c| c.map(|k| k[i])));
            }
        }
        state = tried.state.if_positive(taken, &state);
        rates = tried.rates.if_positive(taken, &rates);
        t = taken.mul_add(h, t);
        watch.flying = t.if_less(zero.like(TIME_LIMIT_S), watch.flying, zero);
        if watch.flying.greatest() <= 0.0 {
            break;
        }
        // The error grows as the fifth power of the step; the eighth root of its square errs on the short side.
        let root = tried.error2.max(zero.like(1e-12)).sqrt().sqrt().sqrt();
        let factor = (zero.like(0.9) / root).max(zero.like(0.25)).min(zero.like(3.0));
        h = (h * factor).max(zero.like(SHORTEST_STEP_S)).min(zero.like(LONGEST_STEP_S));
    }
    watch.report(throws.len().min(R::WIDTH), gates.len(), out);
}

impl<R: Real> Watch<R> {
    /// Appends the outcomes of the first `n` lanes.
    fn report(&self, n: usize, gates: usize, out: &mut Vec<Outcome>) {
        let place = [self.r.x, self.r.y].map(R::column);
        let velocity = [self.v.x, self.v.y, self.v.z].map(R::column);
        let normal = [self.n.x, self.n.y, self.n.z].map(R::column);
        let spin = self.spin.column();
        let [time, high, left, right, landed] =
            [self.time, self.high, self.left, self.right, self.landed].map(R::column);
        let (gate_y, gate_z) = (self.gate_y.map(R::column), self.gate_z.map(R::column));
        for i in 0..n {
            let [vx, vy, vz] = velocity.map(|c| c[i]);
            let level = vx.hypot(vy);
            let crossing = |k: usize| {
                let (y_m, z_m) = (gate_y[k][i], gate_z[k][i]);
                (k < gates && z_m >= 0.0).then_some(Crossing { y_m, z_m })
            };
            out.push(Outcome {
                x_m: place[0][i],
                y_m: place[1][i],
                time_s: time[i],
                apex_m: high[i],
                farthest_left_m: left[i],
                farthest_right_m: -right[i],
                landing_speed_m_s: level.hypot(vz),
                descent_deg: (-vz).atan2(level).to_degrees(),
                run_m: 0.0,
                touch: Touch {
                    velocity_m_s: [vx, vy, vz],
                    normal: normal.map(|c| c[i]),
                    spin_rad_s: spin[i],
                },
                landed: landed[i] > 0.0,
                crossings: std::array::from_fn(crossing),
            });
        }
    }
}
