//! Following a flight to the ground, and the events on the way.
//!
//! Every lane keeps a time and a step of its own, so that a flight comes out the same whatever flies beside it. Between
//! two moments the path is the quintic through both places, velocities and accelerations; landing, the highest and the
//! widest points and the gates are found on it.

use crate::air::Air;
use crate::curve::Curve;
use crate::dynamics::{Columns, Constants, Rates, State, Throw, release_state};
use crate::outcome::{Crossing, MAX_GATES, Outcome, PathPoint, Touch};
use crate::real::{Real, Vec3};
use crate::runge_kutta::{FIRST_STEP_S, STAGES, try_step};

/// Longest flight followed, s.
pub const TIME_LIMIT_S: f64 = 40.0;
/// More steps than the shortest ones need for the whole time limit, rejected ones included.
const MOST_STEPS: usize = 12_000;

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
        if !zero.any_less(turns) {
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
        if zero.any_less(landing) {
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
            let gate = zero.like(gate);
            // The gate lies in this step, and the disc has not passed it before.
            let ahead = gate.if_less(a.r.x, zero, self.gate_z[k].if_less(zero, taken, zero));
            let inside = gate.if_less(b.r.x, ahead, zero);
            if !zero.any_less(inside) {
                continue;
            }
            let share = (gate - a.r.x) / (b.r.x - a.r.x).max(zero.like(1e-9));
            let turn = step.curve::<0>().reaching(gate, share);
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
    let mut state = release_state::<R>(token, &columns);
    let mut rates = [constants.rates(&state); STAGES];
    let mut watch = Watch::new(&state);
    let zero = state.spin.like(0.0);
    let (mut t, mut h) = (zero, zero.like(FIRST_STEP_S));
    for _ in 0..MOST_STEPS {
        let tried = try_step(&constants, &state, &mut rates, h, tolerance);
        let taken = tried.good(h) * watch.flying;
        let step =
            Step { from: &state, from_rates: &rates[0], to: &tried.state, to_rates: &rates[STAGES - 1], h };
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
        rates[0] = rates[STAGES - 1].if_positive(taken, &rates[0]);
        t = taken.mul_add(h, t);
        watch.flying = t.if_less(zero.like(TIME_LIMIT_S), watch.flying, zero);
        if !zero.any_less(watch.flying) {
            break;
        }
        h = tried.next_step(h, &state, &rates[0]);
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
                run_m: 0.0,
                touch: Touch {
                    velocity_m_s: velocity.map(|c| c[i]),
                    normal: normal.map(|c| c[i]),
                    spin_rad_s: spin[i],
                },
                landed: landed[i] > 0.0,
                crossings: std::array::from_fn(crossing),
            });
        }
    }
}
