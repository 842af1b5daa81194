//! Motion of a spinning disc: forces, precession, and their integration to the ground.
//!
//! The spin axis is the disc's normal: a disc thrown with ordinary spin precesses and its nutation dies out within
//! a few tenths of a second. Without nutation nothing in the motion is fast, and the classical fourth-order
//! Runge–Kutta method with a fixed step is enough.
//!
//! # References
//! S. A. Hummel, *Frisbee Flight Simulation and Throw Biomechanics*, MSc thesis, UC Davis, 2003;
//! J. R. Potts and W. J. Crowther, *Frisbee Aerodynamics*, AIAA 2002-3150;
//! W. J. Crowther and J. R. Potts, *Simulation of a spin-stabilised sports disc*, Sports Engineering 10, 2007.
//! Cited from memory for the form of the equations; no coefficient here is taken from them.

use crate::aero::Aero;
use crate::air::{Air, GRAVITY_M_S2, Wind};
use crate::disc::Disc;
use crate::outcome::{Crossing, MAX_GATES, Outcome, PathPoint};
use crate::real::{MAX_WIDTH, Real, Vec3};
use crate::release::{Release, spin_sense};

/// One throw: what is thrown, how, and into which wind.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Throw {
    /// The disc.
    pub disc: Disc,
    /// The release.
    pub release: Release,
    /// The wind at reference height.
    pub wind: Wind,
}

/// Step of the integrator, s. Landing agrees with the converged path to well within 1 cm (tested).
pub const STEP_S: f64 = 0.1;
/// Longest flight followed, s.
pub const TIME_LIMIT_S: f64 = 40.0;

/// Position, velocity and disc normal at one moment.
#[derive(Clone, Copy)]
struct State<R> {
    r: Vec3<R>,
    v: Vec3<R>,
    n: Vec3<R>,
}

#[derive(Clone, Copy)]
struct Rates<R> {
    v: Vec3<R>,
    a: Vec3<R>,
    n: Vec3<R>,
}

impl<R: Real> State<R> {
    #[inline(always)]
    fn moved(&self, rates: &Rates<R>, h: R) -> State<R> {
        State {
            r: self.r.plus_scaled(rates.v, h),
            v: self.v.plus_scaled(rates.a, h),
            n: self.n.plus_scaled(rates.n, h),
        }
    }
}

/// What does not change during a flight.
struct Constants<'a, R> {
    aero: Aero<R>,
    air: &'a Air,
    wind_x: R,
    wind_y: R,
    /// ½ρA/m, 1/m.
    load: R,
    /// σ·½ρAd/I_z, 1/(m·kg) folded with spin at each stage.
    twist: R,
    radius: R,
    spin0: R,
    spin_decay: R,
    sheared: bool,
}

impl<R: Real> Constants<'_, R> {
    #[inline(always)]
    fn rates(&self, s: &State<R>, spin: R) -> Rates<R> {
        let share = if self.sheared { self.air.wind_share(s.r.z) } else { spin.like(1.0) };
        let u = Vec3 { x: s.v.x - self.wind_x * share, y: s.v.y - self.wind_y * share, z: s.v.z };
        let one = spin.like(1.0);
        let un = u.dot(s.n);
        // Tiny floors keep a disc at rest in the air, or moving straight along its own axis, finite.
        let v2 = u.dot(u).max(spin.like(1e-9));
        let p2 = (v2 - un * un).max(spin.like(1e-12) * v2);
        let (v, p) = (v2.sqrt(), p2.sqrt());
        let inverse = one / (v * p);
        let (inverse_v, inverse_p) = (inverse * p, inverse * v);
        let loads =
            self.aero.loads(-un * inverse_v, p * inverse_v, -un / (v + p), v, spin * self.radius * inverse_v);
        // Lift acts along n|p|/V − ê(u·n)/V = (n V² − u (u·n)) / (V |p|).
        let lift = self.load * loads.cl * v * inverse_p;
        let along_u = -(self.load * loads.cd).mul_add(v, lift * un);
        let along_n = lift * v2;
        let a = Vec3 {
            x: u.x.mul_add(along_u, s.n.x * along_n),
            y: u.y.mul_add(along_u, s.n.y * along_n),
            z: u.z.mul_add(along_u, s.n.z.mul_add(along_n, spin.like(-GRAVITY_M_S2))),
        };
        // dn/dt = σ M/(I ω) n × ê, and n × ê = n × u / |p|.
        let turning = self.twist * loads.cm * v2 * inverse_p / spin;
        Rates { v: s.v, a, n: s.n.cross(u).scale(turning) }
    }

    /// One Runge–Kutta step of `h` seconds; `spins` holds the spin at its start, middle and end.
    #[inline(always)]
    fn step(&self, s: &State<R>, h: f64, spins: [R; 3]) -> State<R> {
        let (half, whole) = (spins[0].like(0.5 * h), spins[0].like(h));
        let k1 = self.rates(s, spins[0]);
        let k2 = self.rates(&s.moved(&k1, half), spins[1]);
        let k3 = self.rates(&s.moved(&k2, half), spins[1]);
        let k4 = self.rates(&s.moved(&k3, whole), spins[2]);
        let (sixth, third) = (spins[0].like(h / 6.0), spins[0].like(h / 3.0));
        let next = s.moved(&k1, sixth).moved(&k2, third).moved(&k3, third).moved(&k4, sixth);
        let length = next.n.dot(next.n).sqrt();
        State { n: next.n.scale(length.like(1.0) / length), ..next }
    }
}

/// Receives the state of every lane after each step.
pub(crate) trait Recorder<R> {
    fn record(&mut self, t_s: f64, r: &Vec3<R>);
}

/// Keeps nothing.
pub(crate) struct NoPath;
impl<R: Real> Recorder<R> for NoPath {
    #[inline(always)]
    fn record(&mut self, _t_s: f64, _r: &Vec3<R>) {}
}

/// Keeps the path of every lane.
#[derive(Default)]
pub(crate) struct Paths(pub Vec<Vec<PathPoint>>);
impl<R: Real> Recorder<R> for Paths {
    #[inline(always)]
    fn record(&mut self, t_s: f64, r: &Vec3<R>) {
        self.0.resize_with(R::WIDTH, Vec::new);
        for (i, path) in self.0.iter_mut().enumerate() {
            path.push(PathPoint { t_s, x_m: r.x.lane(i), y_m: r.y.lane(i), z_m: r.z.lane(i) });
        }
    }
}

/// Extremes and events of every lane so far.
struct Watch<R> {
    high: R,
    left: R,
    right: R,
    flying: R,
    land: State<R>,
    land_t: R,
    gate_y: [R; MAX_GATES],
    gate_z: [R; MAX_GATES],
}

impl<R: Real> Watch<R> {
    #[inline(always)]
    fn new(start: &State<R>) -> Watch<R> {
        let zero = start.r.x.like(0.0);
        Watch {
            high: start.r.z,
            left: zero,
            right: zero,
            flying: zero.like(1.0),
            land: *start,
            land_t: zero,
            gate_y: [zero; MAX_GATES],
            gate_z: [zero.like(-1.0); MAX_GATES],
        }
    }

    /// Takes note of the step from `a` to `b`, `h` seconds long, begun at `t`.
    #[inline(always)]
    fn see(&mut self, a: &State<R>, b: &State<R>, t: f64, h: f64, gates: &[f64]) {
        let zero = a.r.x.like(0.0);
        // Share of the step that was flown, 1 unless it landed within it.
        let landing = zero.if_less(b.r.z, zero, self.flying);
        let mut theta = zero.like(1.0);
        if landing.greatest() > 0.0 {
            theta = zero.if_less(landing, landing_share(a, b, h), theta);
            let end = hermite(a, b, theta, h);
            self.land = end.if_positive(landing, &self.land);
            self.land_t = zero.if_less(landing, theta.mul_add(zero.like(h), zero.like(t)), self.land_t);
        }
        let end_y = zero.if_less(landing, self.land.r.y, b.r.y);
        let still = self.flying;
        let high = self.high.max(peak(a.r.z, a.v.z, b.r.z, b.v.z, theta, h));
        self.high = zero.if_less(still, high, self.high);
        let turn_y = peak(a.r.y, a.v.y, end_y, b.v.y, theta, h);
        self.left = zero.if_less(still, self.left.max(turn_y).max(end_y), self.left);
        self.right = zero.if_less(still, self.right.min(turn_y).min(end_y), self.right);
        for (k, &gate) in gates.iter().enumerate() {
            // The first crossing counts: gate_z stays negative until then.
            let share = (zero.like(gate) - a.r.x) / (b.r.x - a.r.x).max(zero.like(1e-9));
            let inside = share.if_less(theta, still, zero);
            let inside = share.if_less(zero, zero, inside);
            let inside = self.gate_z[k].if_less(zero, inside, zero);
            if inside.greatest() > 0.0 {
                let at = hermite(a, b, share.max(zero).min(zero.like(1.0)), h);
                self.gate_y[k] = zero.if_less(inside, at.r.y, self.gate_y[k]);
                self.gate_z[k] = zero.if_less(inside, at.r.z.max(zero), self.gate_z[k]);
            }
        }
        self.flying = zero.if_less(landing, zero, self.flying);
    }
}

impl<R: Real> State<R> {
    /// `self` where `mark` is positive, else `other`.
    #[inline(always)]
    fn if_positive(&self, mark: R, other: &State<R>) -> State<R> {
        let zero = mark.like(0.0);
        State {
            r: self.r.if_less(zero, mark, other.r),
            v: self.v.if_less(zero, mark, other.v),
            n: self.n.if_less(zero, mark, other.n),
        }
    }
}

/// Greatest or least value of a quantity between two moments, from its values and rates: where the rate changes
/// sign the parabola's extreme, else the end value.
#[inline(always)]
fn peak<R: Real>(a: R, rate_a: R, b: R, rate_b: R, theta: R, h: f64) -> R {
    let zero = a.like(0.0);
    let turns = (rate_a * rate_b).if_less(zero, a.like(1.0), zero);
    let fall = zero.if_less(turns, rate_a - rate_b, a.like(1.0));
    let share = (rate_a / fall).min(theta);
    let extreme = (rate_a * share).mul_add(a.like(0.5 * h), a);
    zero.if_less(turns, extreme, b)
}

/// Cubic Hermite interpolation at share `theta` of a step of `h` seconds, from values and rates at both ends: the
/// value there and its rate.
#[inline(always)]
fn hermite_1d<R: Real>(p0: R, v0: R, p1: R, v1: R, theta: R, h: R) -> (R, R) {
    let (m0, m1) = (v0 * h, v1 * h);
    let rise = p1 - p0;
    let (two, three) = (h.like(2.0), h.like(3.0));
    let c2 = three.mul_add(rise, -two.mul_add(m0, m1));
    let c3 = m0 + m1 - two * rise;
    let value = c3.mul_add(theta, c2).mul_add(theta, m0).mul_add(theta, p0);
    let slope = (three * c3).mul_add(theta, two * c2).mul_add(theta, m0) / h;
    (value, slope)
}

/// Position and velocity at share `theta` of the step.
#[inline(always)]
fn hermite<R: Real>(a: &State<R>, b: &State<R>, theta: R, h: f64) -> State<R> {
    let h = theta.like(h);
    let (x, vx) = hermite_1d(a.r.x, a.v.x, b.r.x, b.v.x, theta, h);
    let (y, vy) = hermite_1d(a.r.y, a.v.y, b.r.y, b.v.y, theta, h);
    let (z, vz) = hermite_1d(a.r.z, a.v.z, b.r.z, b.v.z, theta, h);
    State { r: Vec3 { x, y, z }, v: Vec3 { x: vx, y: vy, z: vz }, n: b.n }
}

/// Share of the step at which the height is zero.
#[inline(always)]
fn landing_share<R: Real>(a: &State<R>, b: &State<R>, h: f64) -> R {
    let zero = a.r.z.like(0.0);
    let one = zero.like(1.0);
    let drop = (a.r.z - b.r.z).max(zero.like(1e-9));
    let mut theta = (a.r.z / drop).max(zero).min(one);
    for _ in 0..3 {
        let (z, rate) = hermite_1d(a.r.z, a.v.z, b.r.z, b.v.z, theta, zero.like(h));
        let slope = (rate * zero.like(h)).min(zero.like(-1e-6));
        theta = (theta - z / slope).max(zero).min(one);
    }
    theta
}

/// State at release: the disc is pitched by launch + nose about the left axis, then banked about its own forward
/// axis by σ × hyzer, then turned to the aim.
fn start(release: &Release) -> ([f64; 3], [f64; 3]) {
    let (sin_l, cos_l) = release.launch_deg.to_radians().sin_cos();
    let (sin_p, cos_p) = (release.launch_deg + release.nose_deg).to_radians().sin_cos();
    let bank = spin_sense(release.hand, release.style) * release.hyzer_deg.to_radians();
    let (sin_b, cos_b) = bank.sin_cos();
    let (sin_a, cos_a) = release.aim_deg.to_radians().sin_cos();
    let turn = |x: f64, y: f64, z: f64| [x * cos_a - y * sin_a, x * sin_a + y * cos_a, z];
    let v = turn(release.speed_m_s * cos_l, 0.0, release.speed_m_s * sin_l);
    let n = turn(-sin_p * cos_b, sin_b, cos_p * cos_b);
    (v, n)
}

/// Flies up to `R::WIDTH` throws side by side. Lanes past the end of `throws` repeat the last throw.
#[inline(always)]
pub(crate) fn fly<R: Real, P: Recorder<R>>(
    token: R::Token,
    throws: &[Throw],
    air: &Air,
    gates: &[f64],
    step_s: f64,
    recorder: &mut P,
    out: &mut Vec<Outcome>,
) {
    let gates = &gates[..gates.len().min(MAX_GATES)];
    let last = throws.len() - 1;
    let throw = |i: usize| &throws[i.min(last)];
    let field = |f: &dyn Fn(&Throw) -> f64| R::from_fn(token, |i| f(throw(i)));
    let half_rho = 0.5 * air.density_kg_m3;
    let area = |d: &Disc| std::f64::consts::PI * d.radius_m * d.radius_m;
    let constants = Constants {
        aero: Aero::gather(token, |i| &throw(i).disc.coefficients),
        air,
        wind_x: field(&|t| t.wind.along_m_s),
        wind_y: field(&|t| t.wind.left_m_s),
        load: field(&|t| half_rho * area(&t.disc) / t.disc.mass_kg),
        twist: field(&|t| {
            spin_sense(t.release.hand, t.release.style) * half_rho * area(&t.disc) * 2.0 * t.disc.radius_m
                / t.disc.inertia_kg_m2
        }),
        radius: field(&|t| t.disc.radius_m),
        spin0: field(&|t| t.release.spin_rad_s),
        spin_decay: field(&|t| (-t.disc.coefficients.spin_decay * 0.5 * step_s).exp()),
        sheared: air.is_sheared(),
    };
    let starts: [([f64; 3], [f64; 3]); MAX_WIDTH] =
        std::array::from_fn(|i| if i < R::WIDTH { start(&throw(i).release) } else { Default::default() });
    let component = |f: &dyn Fn(&([f64; 3], [f64; 3])) -> f64| R::from_fn(token, |i| f(&starts[i]));
    let zero = R::from_fn(token, |_| 0.0);
    let mut state = State {
        r: Vec3 { x: zero, y: zero, z: field(&|t| t.release.height_m) },
        v: Vec3 { x: component(&|s| s.0[0]), y: component(&|s| s.0[1]), z: component(&|s| s.0[2]) },
        n: Vec3 { x: component(&|s| s.1[0]), y: component(&|s| s.1[1]), z: component(&|s| s.1[2]) },
    };
    let mut watch = Watch::new(&state);
    let mut spin = constants.spin0;
    recorder.record(0.0, &state.r);
    let steps = (TIME_LIMIT_S / step_s).ceil() as usize;
    for k in 0..steps {
        let middle = spin * constants.spin_decay;
        let end = middle * constants.spin_decay;
        let next = constants.step(&state, step_s, [spin, middle, end]);
        watch.see(&state, &next, k as f64 * step_s, step_s, gates);
        (state, spin) = (next, end);
        recorder.record((k + 1) as f64 * step_s, &state.r);
        if watch.flying.greatest() <= 0.0 {
            break;
        }
    }
    for i in 0..throws.len().min(R::WIDTH) {
        out.push(outcome(&watch, i, gates.len()));
    }
}

fn outcome<R: Real>(watch: &Watch<R>, i: usize, gates: usize) -> Outcome {
    let v = [watch.land.v.x.lane(i), watch.land.v.y.lane(i), watch.land.v.z.lane(i)];
    let mut crossings = [None; MAX_GATES];
    for (k, crossing) in crossings.iter_mut().enumerate().take(gates) {
        let z_m = watch.gate_z[k].lane(i);
        if z_m >= 0.0 {
            *crossing = Some(Crossing { y_m: watch.gate_y[k].lane(i), z_m });
        }
    }
    Outcome {
        x_m: watch.land.r.x.lane(i),
        y_m: watch.land.r.y.lane(i),
        time_s: watch.land_t.lane(i),
        apex_m: watch.high.lane(i),
        farthest_left_m: watch.left.lane(i),
        farthest_right_m: -watch.right.lane(i),
        landing_speed_m_s: v[0].hypot(v[1]).hypot(v[2]),
        descent_deg: (-v[2]).atan2(v[0].hypot(v[1])).to_degrees(),
        landed: watch.flying.lane(i) <= 0.0,
        crossings,
    }
}
