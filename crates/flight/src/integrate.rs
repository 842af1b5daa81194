//! Following a flight to the ground, and the events on the way.
//!
//! Every lane keeps a time and a step of its own, so that a flight comes out the same whatever flies beside it. Between
//! two moments the path is the quintic through both places, velocities and accelerations; landing, the highest and the
//! widest points and the gates are found on it.

use crate::air::Air;
use crate::curve::Curve;
use crate::dynamics::{Columns, Constants, Rates, State, Throw, release_state};
use crate::outcome::{Crossing, Crossings, MAX_GATES, Outcome, PathPoint, Touch};
use crate::real::{Column, MAX_WIDTH, Real, Vec3};
use crate::runge_kutta::{FIRST_STEP_S, STAGES, try_step};
use crate::terrain::Terrain;

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
    terrain: &'a Terrain,
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

    /// Height above ground that rises by `slope` a metre, whatever its own height.
    #[inline(always)]
    fn above(&self, slope: R) -> Curve<R> {
        let height = self.curve::<2>();
        if self.terrain.is_level() { height } else { height.less(slope, &self.curve::<0>()) }
    }

    /// The moment θ at which lanes whose mark is positive meet the ground, about where a straight fall between both ends' heights
    /// above it would; else 1. And the height and the rise of the ground there.
    #[inline(always)]
    fn touch(&self, mark: R, heights: [R; 2]) -> (R, R, R) {
        let (zero, one) = (mark.like(0.0), mark.like(1.0));
        let guess = heights[0] / (heights[0] - heights[1]).max(one.like(1e-9));
        if self.terrain.is_level() {
            let end = self.curve::<2>().reaching(zero, guess);
            return (zero.if_less(mark, end, one), zero, zero);
        }
        // The ground is straight about where it is met: found once from afar, once from near by.
        let x = self.curve::<0>();
        let mut end = guess;
        for _ in 0..2 {
            let at = x.value(end);
            let (ground, slope) = self.terrain.under(at);
            end = self.above(slope).reaching(ground - slope * at, end);
        }
        let (ground, slope) = self.terrain.under(x.value(end));
        (zero.if_less(mark, end, one), ground, slope)
    }

    /// The moment θ at which the disc passes a place down-range, and 1 in the lanes of positive `mark` where that is in this step
    /// and before `end`, else 0.
    #[inline(always)]
    fn passing(&self, place: R, end: R, mark: R) -> (R, R) {
        let zero = end.like(0.0);
        let (a, b) = (self.from.r.x, self.to.r.x);
        let inside = place.if_less(b, place.if_less(a, zero, mark), zero);
        if !zero.any_less(inside) {
            return (zero, zero);
        }
        let share = (place - a) / (b - a).max(zero.like(1e-9));
        let turn = self.curve::<0>().reaching(place, share);
        (turn, end.if_less(turn, zero, inside))
    }

    /// Greatest height above the ground beneath before `end`, at which it is `here`: where the path turns, or over a bend of the
    /// ground, or where it runs as the ground does from either end on.
    #[inline(always)]
    fn highest(&self, end: R, here: R) -> R {
        let (zero, one) = (end.like(0.0), end.like(1.0));
        let mut highest = here;
        for (bend, ground) in self.terrain.bends() {
            let (turn, inside) = self.passing(zero.like(bend), end, one);
            if zero.any_less(inside) {
                let height = self.curve::<2>().value(turn) - zero.like(ground);
                highest = zero.if_less(inside, highest.max(height), highest);
            }
        }
        let (a, b) = (self.from, self.to);
        for at in [a.r.x, b.r.x] {
            let slope = self.terrain.under(at).1;
            let (from, to) = (a.v.z - slope * a.v.x, b.v.z - slope * b.v.x);
            let turns = from * to;
            if turns.any_less(zero) {
                let turn = self.above(slope).turning(from / (from - to)).min(end);
                let ground = self.terrain.under(self.curve::<0>().value(turn)).0;
                let height = self.curve::<2>().value(turn) - ground;
                highest = turns.if_less(zero, highest.max(height), highest);
            }
        }
        highest
    }

    /// Place along axis `K` where the step turns back before `end`, else `here`.
    #[inline(always)]
    fn extreme<const K: usize>(&self, end: R, here: R) -> R {
        let zero = end.like(0.0);
        let (from, to) = (self.from.v.part::<K>(), self.to.v.part::<K>());
        let turns = from * to;
        if !turns.any_less(zero) {
            return here;
        }
        let curve = self.curve::<K>();
        let turn = curve.turning(from / (from - to));
        let there = turn.if_less(end, curve.value(turn), here);
        turns.if_less(zero, there, here)
    }
}

/// Receives every step that some lane took.
pub(crate) trait Recorder<R> {
    /// Whether it wants to be told.
    fn listens(&self) -> bool {
        true
    }
    /// Path of one lane over a step: curves along the three axes, begun at `t_s` and `h_s` long.
    fn record(&mut self, lane: usize, t_s: f64, h_s: f64, curves: [[f64; 6]; 3]);
}

/// Keeps nothing.
pub(crate) struct NoPath;
impl<R: Real> Recorder<R> for NoPath {
    fn listens(&self) -> bool {
        false
    }
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
    /// Rise of the ground where it landed.
    slope: R,
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
            slope: zero,
            gate_y: [zero; MAX_GATES],
            gate_z: [zero.like(-1.0); MAX_GATES],
        }
    }

    /// Takes note of a step, which leads nowhere in the lanes that did not take it. Where it leads into the ground its lane
    /// lands, and stays as it meets it: `state` is put there. Returns what share of the step was flown.
    #[inline(always)]
    fn see(&mut self, step: &Step<R>, state: &mut State<R>, gates: &[f64]) -> R {
        let (zero, one) = (step.h.like(0.0), step.h.like(1.0));
        let (a, b) = (step.from, step.to);
        let (a_ground, _) = step.terrain.under(a.r.x);
        let (b_ground, _) = step.terrain.under(b.r.x);
        let heights = [a.r.z - a_ground, b.r.z - b_ground];
        let landing = heights[1].if_less(zero, self.flying, zero);
        let (mut end, mut height) = (one, heights[1]);
        if zero.any_less(landing) {
            let (ground, slope);
            (end, ground, slope) = step.touch(landing, heights);
            let per_s = one / step.h;
            let (x, y, z) = (step.curve::<0>(), step.curve::<1>(), step.curve::<2>());
            let touch = State {
                r: Vec3 { x: x.value(end), y: y.value(end), z: ground },
                v: Vec3 { x: x.slope(end), y: y.slope(end), z: z.slope(end) }.scale(per_s),
                n: step.normal_at(end),
                spin: (b.spin - a.spin).mul_add(end, a.spin),
                wind: b.wind,
                slowness: b.slowness,
            };
            *state = touch.if_positive(landing, state);
            self.slope = zero.if_less(landing, slope, self.slope);
            height = zero.if_less(landing, zero, height);
            self.landed = self.landed.max(landing);
            self.flying = zero.if_less(landing, zero, self.flying);
        }
        let y = step.extreme::<1>(end, state.r.y);
        let high =
            if step.terrain.is_level() { step.extreme::<2>(end, height) } else { step.highest(end, height) };
        self.high = self.high.max(high);
        self.left = self.left.max(y).max(state.r.y);
        self.right = self.right.min(y).min(state.r.y);
        self.pass_gates(step, end, gates);
        end
    }

    /// The first crossing of a gate counts: its height stays negative until then. A disc that turns back less than half a metre
    /// behind a gate may pass it both ways within one step; then it has not passed it.
    #[inline(always)]
    fn pass_gates(&mut self, step: &Step<R>, end: R, gates: &[f64]) {
        let zero = end.like(0.0);
        for (k, &gate) in gates.iter().enumerate() {
            let ground = zero.like(step.terrain.at(gate).0);
            // The gate lies in this step, and the disc has not passed it before.
            let (turn, inside) =
                step.passing(zero.like(gate), end, self.gate_z[k].if_less(zero, zero.like(1.0), zero));
            if !zero.any_less(inside) {
                continue;
            }
            let (y, z) = (step.curve::<1>().value(turn), step.curve::<2>().value(turn));
            self.gate_y[k] = zero.if_less(inside, y, self.gate_y[k]);
            self.gate_z[k] = zero.if_less(inside, (z - ground).max(zero), self.gate_z[k]);
        }
    }

    /// Hands over the outcomes of the first `n` lanes, which are at `state` after `time`.
    #[inline(always)]
    fn report(
        &self,
        state: &State<R>,
        time: R,
        sense: &Column,
        n: usize,
        gates: usize,
        mut landed: impl FnMut(usize, Outcome),
    ) {
        let (x, y, time) = (state.r.x.column(), state.r.y.column(), time.column());
        let (vx, vy, vz) = (state.v.x.column(), state.v.y.column(), state.v.z.column());
        let (nx, ny, nz, spin) =
            (state.n.x.column(), state.n.y.column(), state.n.z.column(), state.spin.column());
        let (high, left, right) = (self.high.column(), self.left.column(), self.right.column());
        let (down, slope) = (self.landed.column(), self.slope.column());
        let mut crossings = [Crossings::NONE; MAX_WIDTH];
        for k in 0..gates.min(MAX_GATES) {
            let (y, z) = (self.gate_y[k].column(), self.gate_z[k].column());
            for (i, crossings) in crossings[..n].iter_mut().enumerate() {
                crossings.set(k, (z[i] >= 0.0).then_some(Crossing { y_m: y[i] as f32, z_m: z[i] as f32 }));
            }
        }
        for i in 0..n {
            let touch = Touch {
                velocity_m_s: [vx[i], vy[i], vz[i]],
                normal: [nx[i], ny[i], nz[i]],
                spin_rad_s: sense[i] * spin[i],
                slope: slope[i],
            };
            let outcome = Outcome {
                x_m: x[i],
                y_m: y[i],
                time_s: time[i],
                apex_m: high[i],
                farthest_left_m: left[i],
                farthest_right_m: 0.0 - right[i],
                run_m: 0.0,
                rolled: false,
                touch,
                landed: down[i] > 0.0,
                crossings: crossings[i],
            };
            landed(i, outcome);
        }
    }
}

/// Flies up to `R::WIDTH` throws side by side, each step as exact as `tolerance` (1 is the product's own) asks. Lanes past
/// the end of `throws` repeat the last throw. `landed` gets each throw's place in `throws` and its outcome.
#[inline(always)]
pub(crate) fn fly<'a, R: Real>(
    token: R::Token,
    throws: impl ExactSizeIterator<Item = &'a Throw>,
    air: &Air,
    gates: &[f64],
    tolerance: f64,
    recorder: &mut impl Recorder<R>,
    landed: impl FnMut(usize, Outcome),
) {
    if air.shears() {
        follow::<R, true>(token, throws, air, gates, tolerance, recorder, landed);
    } else {
        follow::<R, false>(token, throws, air, gates, tolerance, recorder, landed);
    }
}

/// [`fly`] in air whose wind grows with height (`SHEAR`), or through which that of the release blows everywhere.
#[inline(always)]
fn follow<'a, R: Real, const SHEAR: bool>(
    token: R::Token,
    throws: impl ExactSizeIterator<Item = &'a Throw>,
    air: &Air,
    gates: &[f64],
    tolerance: f64,
    recorder: &mut impl Recorder<R>,
    landed: impl FnMut(usize, Outcome),
) {
    let gates = &gates[..gates.len().min(MAX_GATES)];
    let n = throws.len().min(R::WIDTH);
    let columns = Columns::of(throws, air, R::WIDTH);
    let constants = Constants::<R, SHEAR>::load(token, &columns, air);
    let mut state = release_state::<R>(token, &columns);
    let mut within = constants.within_air(&state);
    let mut rates = [constants.rates(&mut within); STAGES];
    state.slowness = within.slowness;
    let mut watch = Watch::new(&state);
    let (zero, one) = (state.spin.like(0.0), state.spin.like(1.0));
    let (mut t, mut h) = (zero, zero.like(FIRST_STEP_S));
    for _ in 0..MOST_STEPS {
        let from = state;
        let tried = try_step(&constants, &from, &mut rates, h, tolerance);
        // Where the step is too long, or the flight over, it leads nowhere.
        let good = tried.good(h);
        let (mut to, mut to_rates) = (tried.state, rates[STAGES - 1]);
        if good.any_less(one) {
            to = to.if_positive(good, &from);
            to_rates = to_rates.if_positive(good, &rates[0]);
        }
        let step = Step {
            from: &from,
            from_rates: &rates[0],
            to: &to,
            to_rates: &to_rates,
            h,
            terrain: &air.terrain,
        };
        if recorder.listens() {
            let taken = (good * watch.flying).column();
            let curves =
                [step.curve::<0>(), step.curve::<1>(), step.curve::<2>()].map(|c| c.0.map(R::column));
            let (t, h) = (t.column(), h.column());
            for i in (0..R::WIDTH).filter(|&i| taken[i] > 0.0) {
                recorder.record(i, t[i], h[i], curves.map(|c| c.map(|k| k[i])));
            }
        }
        state = to;
        let flown = watch.see(&step, &mut state, gates);
        t = (good * h).mul_add(flown, t);
        rates[0] = to_rates;
        watch.flying = t.if_less(zero.like(TIME_LIMIT_S), watch.flying, zero);
        if !zero.any_less(watch.flying) {
            break;
        }
        let (ground, slope) = air.terrain.under(state.r.x);
        let next = tried.next_step(h, &state, (state.r.z - ground, slope), &rates[0]);
        h = zero.if_less(watch.flying, next, zero);
    }
    watch.report(&state, t, columns.sense(), n, gates.len(), landed);
}
