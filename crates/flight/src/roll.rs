//! A disc rolling on its edge: from the moment it catches until it falls over.
//!
//! Thrown so that it comes down on edge, a disc whose spin drives it forward takes up rolling at the first touch and then goes
//! as a leaning wheel does: it turns to the side it leans to, the tighter the slower it gets; its pitching moment, which makes
//! it turn in the air, here stands it up or lays it down. Followed without nutation, as the flight is: heading, lean and speed
//! change slowly against the spin.
//!
//! # Equations
//! With z up from the ground, l to the left of the way t, σ the sense of spin (+1 clockwise seen from the top) and λ the lean, from
//! upright toward the disc's hollow side, its normal is n = −σ cos λ l + sin λ z, and from where it touches to its middle it is
//! a (cos λ z + σ sin λ l). Angular momentum about the point of contact, (C + m a²)(v/a) along −σ n, changes by the moments of
//! weight and lift L (along n) about it, which gives the turning ψ̇; its part along z changes by the pitching moment
//! M, which gives λ̇; with k = C/(m a²) and the share b of the weight's moment that grass does not bear:
//!
//! - ψ̇ = (σ (b g sin λ − L/m) / cos λ + g_l) / ((1 + k) v)
//! - v̇ = −(D/m + resistance + slope + k v × spin decay) / (1 + k)
//! - λ̇ (C v/a − A b g cos 2λ / ((1 + k) v cos λ)) = M + A |ψ̇| cos λ (−v̇/v), A = C/2 as of anything flat.
//!
//! These are the equations of a disc that rolls without slipping (E. J. Routh, *Advanced Dynamics of a System of Rigid Bodies*,
//! 1884; O. M. O'Reilly, *The dynamics of rolling disks and sliding disks*, Nonlinear Dynamics 10, 1996; both from memory for
//! their form) without their fast nutation, and with air. Tests hold them to the whole equations. At the touch angular momentum
//! about the point of contact is kept: the ground pushes there and nowhere else.
//!
//! Air moves little a hand above the grass: a wind is left out.

use crate::air::GRAVITY_M_S2;
use crate::disc::Disc;
use crate::ground::{Contact, Ground, Rim, Stop, pitched};
use crate::outcome::{MAX_GATES, Outcome, PathPoint};
use crate::real::{Column, MAX_WIDTH, Real, Vec3, elevation, sin_cos};
use crate::terrain::Terrain;

/// How a kind of ground bears a disc on edge. Own judgement, set so that discs roll as far as common practice says (no source).
#[derive(Clone, Copy)]
pub(crate) struct Bed {
    /// Rolling resistance as a share of weight.
    resistance: f64,
    /// What hops over its bumps take from the speed, m/s² at 20 m/s: how high it hops grows with the square of the speed.
    bumps: f64,
    /// Share of the moment by which weight lays a leaning disc over that grass and the rut of its edge bear.
    bears: f64,
    /// Push to the side, as a share of weight, beyond which the edge slips away.
    hold: f64,
}

impl Bed {
    pub(crate) fn hold(&self) -> f64 {
        self.hold
    }

    pub(crate) fn of(ground: Ground) -> Bed {
        let bed = |resistance, bumps, bears, hold| Bed { resistance, bumps, bears, hold };
        match ground {
            Ground::Soft => bed(0.18, 0.6, 0.5, 0.90),
            Ground::Turf => bed(0.055, 0.2, 0.4, 0.85),
            Ground::Hard => bed(0.035, 0.35, 0.1, 0.65),
            Ground::Snow => bed(0.22, 0.2, 0.4, 0.55),
        }
    }
}

/// Shares of the lift, drag and moment at no angle of attack that are left to a disc which stands in the grass. That moment and lift
/// change with speed is known of the angles it flies at and left out here. Own judgement.
const LIFT_LEFT: f64 = 0.2;
const DRAG_LEFT: f64 = 0.85;
const MOMENT_LEFT: f64 = 0.75;
/// What turning costs: growth of the resistance by the square of the lean's tangent. Own judgement.
const SCRUB: f64 = 0.25;
/// Growth of the resistance from a stiff rim to the softest. Own judgement.
const SOFT_ROLLS: f64 = 0.3;
/// And from a rim as wide as a distance driver's, m, toward one of no width. Own judgement.
const BLUNT_ROLLS: f64 = 0.9;
const WIDE_M: f64 = 0.022;
/// Speed at which `bumps` is told, m/s.
const BUMPS_AT_M_S: f64 = 20.0;
/// So much from the lean at which the edge slips none catch it, and so much from there all do, rad: what hardly holds does not
/// take up a roll. Own judgement.
const CATCHES_FROM: f64 = 0.07;
const CATCHES_WITHIN: f64 = 0.175;
/// Steepness of a touch, as a share of that at which a plate digs in, up to which an edge rides over the ground, and from which it
/// digs in too. Own judgement.
const RIDES_OVER: (f64, f64) = (0.75, 1.1);
/// Its top has no rim to stand on: a lean to that side counts so many times. Own judgement.
const ON_ITS_TOP: f64 = 1.7;
/// Speed along its own plane over which a touch goes from one that does not roll to one that does, m/s. Own judgement.
const CATCHES_FROM_M_S: (f64, f64) = (1.0, 4.0);
/// Share of its speed that a disc keeps as it lies down. Own judgement.
const KEPT_LYING_DOWN: f64 = 0.6;
/// Speed at which it has run out and falls, m/s.
const RUN_OUT_M_S: f64 = 1.0;
/// Downhill so much of what slows it on level ground is left: grass and stones catch it.
const LEAST_SLOWED: f64 = 0.5;
/// Share of the speed lost in a step, and the most steps.
const STEP: f64 = 1.0 / 16.0;
const MOST_STEPS: usize = 72;

/// Where and how discs roll, lane by lane.
#[derive(Clone, Copy)]
struct State<R> {
    x: R,
    y: R,
    /// The way it goes, over the ground.
    along: (R, R),
    lean: R,
    speed: R,
    run: R,
    time: R,
}

/// Rates per second.
#[derive(Clone, Copy)]
struct Rates<R> {
    speed: R,
    lean: R,
    turn: R,
}

/// What does not change while a disc rolls.
struct Constants<'a, R> {
    sense: R,
    /// Spin-axis inertia as a share of m a².
    share: f64,
    radius: f64,
    /// Drag and lift by weight of the disc, 1/m, and pitching moment by its inertia, 1/m².
    drag: f64,
    lift: f64,
    pitch: f64,
    spin_decay: f64,
    resistance: f64,
    bumps: f64,
    /// Share of its weight that lays it over.
    lays: f64,
    hold: f64,
    terrain: &'a Terrain,
    /// Way of a slide by the square of the speed, once it lies, m per m²/s².
    slide: f64,
}

/// How discs came down, a lane each: place, velocity, normal, signed spin and the rise of the ground.
pub(crate) struct Touches<R> {
    x: R,
    y: R,
    pub v: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
    pub slope: R,
}

impl<R: Real> Touches<R> {
    #[inline(always)]
    pub(crate) fn load<'a>(token: R::Token, outcomes: impl Iterator<Item = &'a Outcome>) -> Touches<R> {
        let mut columns: [Column; 10] = [[0.0; MAX_WIDTH]; 10];
        for (i, o) in outcomes.enumerate().take(R::WIDTH) {
            let ([vx, vy, vz], [nx, ny, nz]) = (o.touch.velocity_m_s, o.touch.normal);
            let all = [o.x_m, o.y_m, vx, vy, vz, nx, ny, nz, o.touch.spin_rad_s, o.touch.slope];
            columns.iter_mut().zip(all).for_each(|(c, x)| c[i] = x);
        }
        let [x, y, vx, vy, vz, nx, ny, nz, spin, slope] = &columns;
        Touches {
            x: R::load(token, x),
            y: R::load(token, y),
            v: Vec3 { x: R::load(token, vx), y: R::load(token, vy), z: R::load(token, vz) },
            n: Vec3 { x: R::load(token, nx), y: R::load(token, ny), z: R::load(token, nz) },
            spin: R::load(token, spin),
            slope: R::load(token, slope),
        }
    }
}

/// Where discs that roll come to lie (m), how far they went (m), and where they passed gates (m).
pub(crate) struct Rolled<R> {
    pub x: R,
    pub y: R,
    pub run: R,
    pub gate_y: [R; MAX_GATES],
    /// Negative where it never came.
    pub gate_z: [R; MAX_GATES],
}

/// Is told of every step of a roll.
pub(crate) trait Trace {
    fn note(&mut self, at: PathPoint);
}

/// Keeps nothing.
pub(crate) struct NoTrace;
impl Trace for NoTrace {
    #[inline(always)]
    fn note(&mut self, _: PathPoint) {}
}

impl Trace for Vec<PathPoint> {
    fn note(&mut self, at: PathPoint) {
        self.push(at);
    }
}

/// A number from 0 to 1, smooth at both ends.
#[inline(always)]
fn eased<R: Real>(share: R) -> R {
    let t = share.max(share.like(0.0)).min(share.like(1.0));
    t * t * t.like(-2.0).mul_add(t, t.like(3.0))
}

/// What share of discs that touch like this catches the edge and rolls, 0 to 1.
#[inline(always)]
pub(crate) fn caught<R: Real>(contact: &Contact, touches: &Touches<R>) -> R {
    let (spin, touch) = (touches.spin, Caught::of(touches));
    let (least, sure) = CATCHES_FROM_M_S;
    let forward = (touch.forward - spin.like(least)) * spin.like(1.0 / (sure - least));
    let upright = spin.like(contact.steepest_lean() - CATCHES_FROM) - counted(touch.lean);
    let upright = upright * spin.like(1.0 / CATCHES_WITHIN);
    // An edge rides over what a plate digs into, but the steeper, the less.
    let level = touch.forward.mul_add(touch.forward, touch.left * touch.left).sqrt();
    let steep = elevation(touch.down.max(spin.like(0.0)), level) * spin.like(1.0 / contact.dig_rad());
    let (surely, hardly) = RIDES_OVER;
    let shallow = (spin.like(hardly) - steep) * spin.like(1.0 / (hardly - surely));
    eased(forward) * eased(upright) * eased(shallow)
}

/// A lean as far as it matters for whether the ground holds the edge, rad.
#[inline(always)]
fn counted<R: Real>(lean: R) -> R {
    lean.max(lean * lean.like(-ON_ITS_TOP))
}

/// A touch as a disc on edge sees it, against the ground.
struct Caught<R> {
    /// The way it would roll, over the ground.
    along: (R, R),
    /// Toward its hollow side, rad.
    lean: R,
    /// Speed along that way, to the left of it and into the ground, m/s.
    forward: R,
    left: R,
    down: R,
    sense: R,
}

impl<R: Real> Caught<R> {
    #[inline(always)]
    fn of(touches: &Touches<R>) -> Caught<R> {
        let spin = touches.spin;
        let (zero, one) = (spin.like(0.0), spin.like(1.0));
        let cos = one / touches.slope.mul_add(touches.slope, one).sqrt();
        let sin = touches.slope * cos;
        let (v, n) = (pitched(&touches.v, sin, cos), pitched(&touches.n, sin, cos));
        let sense = spin.if_less(zero, -one, one);
        let flat = n.x.mul_add(n.x, n.y * n.y).sqrt();
        let inverse = sense / flat.max(one.like(1e-9));
        // The left is −σ times the level part of the normal.
        let along = (-(n.y * inverse), n.x * inverse);
        let lean = elevation(n.z.abs(), flat);
        Caught {
            along,
            lean: n.z.if_less(zero, -lean, lean),
            forward: v.x * along.0 + v.y * along.1,
            left: v.y * along.0 - v.x * along.1,
            down: -v.z,
            sense,
        }
    }
}

impl<'a, R: Real> Constants<'a, R> {
    #[inline(always)]
    fn of(contact: &'a Contact, sense: R) -> Constants<'a, R> {
        let Disc { coefficients: c, mass_kg, radius_m, inertia_kg_m2 } = contact.disc;
        let push = 0.5 * contact.air.density_kg_m3 * std::f64::consts::PI * radius_m * radius_m;
        let bed = Bed::of(contact.ground);
        Constants {
            sense,
            share: contact.inertia_share(),
            radius: *radius_m,
            // Nothing of the wobble that speed brings in the air.
            drag: push / mass_kg
                * DRAG_LEFT
                * (c.cd0 * (1.0 - c.cd_speed) + c.cd_alpha * c.alpha0 * c.alpha0),
            lift: push / mass_kg * LIFT_LEFT * c.cl0,
            pitch: push * 2.0 * radius_m / inertia_kg_m2 * MOMENT_LEFT * c.cm0,
            spin_decay: c.spin_decay,
            resistance: bed.resistance * resisting(contact.rim),
            bumps: bed.bumps / (BUMPS_AT_M_S * BUMPS_AT_M_S),
            lays: 1.0 - bed.bears,
            hold: contact.steepest_lean(),
            terrain: &contact.air.terrain,
            slide: Stop::of(contact).slide_m_per_m2_s2(),
        }
    }

    /// Sine and cosine of the ground's rise at `x`.
    #[inline(always)]
    fn pitch(&self, x: R) -> (R, R) {
        if self.terrain.is_level() {
            return (x.like(0.0), x.like(1.0));
        }
        let slope = self.terrain.under(x).1;
        let cos = x.like(1.0) / slope.mul_add(slope, x.like(1.0)).sqrt();
        (slope * cos, cos)
    }

    #[inline(always)]
    fn rates(&self, s: &State<R>) -> Rates<R> {
        let one = s.speed.like(1.0);
        let g = one.like(GRAVITY_M_S2);
        let (rise, level) = self.pitch(s.x);
        let (sin, cos) = sin_cos(s.lean);
        let (v, v2) = (s.speed, s.speed * s.speed);
        let inverse = one / (cos * v);
        let per_rolling = one.like(1.0 / (1.0 + self.share));
        // Its weight, square to the ground and to the left of its way.
        let (weight, aside) = (g * level, g * rise * s.along.1);
        let lays = weight * one.like(self.lays);
        let over = (lays * sin) - v2 * one.like(self.lift);
        let turn = (self.sense * over + aside * cos) * inverse * per_rolling;
        let tan = sin * (inverse * v);
        let scrub = (tan * tan).mul_add(one.like(SCRUB), one);
        let resists = (weight * scrub).mul_add(one.like(self.resistance), v2 * one.like(self.drag))
            + v2 * one.like(self.bumps)
            + v * one.like(self.share * self.spin_decay);
        let slowed = (g * rise).mul_add(s.along.0, resists).max(resists * one.like(LEAST_SLOWED));
        let slowing = slowed * per_rolling;
        // Half as much inertia about a diameter as about the axis.
        let half = one.like(0.5);
        let upright = (cos * cos).mul_add(one.like(2.0), -one);
        let gyro = v.mul_add(one.like(1.0 / self.radius), -(half * lays * upright * inverse * per_rolling));
        let tipped = v2.mul_add(one.like(self.pitch), half * self.sense * turn * cos * slowing / v);
        Rates { speed: -slowing, lean: tipped / gyro, turn }
    }

    /// The state after `h`, by the rates in its middle.
    #[inline(always)]
    fn step(&self, from: &State<R>, first: &Rates<R>, h: R) -> State<R> {
        let half = h * h.like(0.5);
        let middle = State {
            x: (half * from.speed).mul_add(from.along.0, from.x),
            along: turned(from.along, first.turn * half),
            lean: first.lean.mul_add(half, from.lean),
            speed: first.speed.mul_add(half, from.speed),
            ..*from
        };
        let rates = self.rates(&middle);
        let way = middle.speed * h;
        // The chord of an arc.
        let turn = rates.turn * h;
        let chord = way * (turn * turn).mul_add(turn.like(-1.0 / 24.0), turn.like(1.0));
        let along = turned(from.along, turn * turn.like(0.5));
        let level = self.pitch(middle.x).1;
        State {
            x: (chord * level).mul_add(along.0, from.x),
            y: chord.mul_add(along.1, from.y),
            along: turned(from.along, turn),
            lean: rates.lean.mul_add(h, from.lean),
            speed: rates.speed.mul_add(h, from.speed),
            run: from.run + way,
            time: from.time + h,
        }
    }
}

/// Rolling resistance of a rim against that of a stiff one as wide as they come.
fn resisting(rim: &Rim) -> f64 {
    (1.0 + SOFT_ROLLS * rim.softness) * (1.0 + BLUNT_ROLLS * (1.0 - rim.width_m / WIDE_M).max(0.0))
}

/// A direction turned to the left by an angle, rad.
#[inline(always)]
fn turned<R: Real>(along: (R, R), by: R) -> (R, R) {
    let (sin, cos) = sin_cos(by);
    (along.0 * cos - along.1 * sin, along.1 * cos + along.0 * sin)
}

#[inline(always)]
fn between<R: Real>(from: &State<R>, to: &State<R>, share: R) -> State<R> {
    let mix = |a: R, b: R| (b - a).mul_add(share, a);
    State {
        x: mix(from.x, to.x),
        y: mix(from.y, to.y),
        along: to.along,
        lean: mix(from.lean, to.lean),
        speed: mix(from.speed, to.speed),
        run: mix(from.run, to.run),
        time: mix(from.time, to.time),
    }
}

/// How discs roll once they have caught: angular momentum about the point of contact is kept.
#[inline(always)]
fn start<R: Real>(contact: &Contact, touches: &Touches<R>) -> (State<R>, R) {
    let spin = touches.spin;
    let (zero, one) = (spin.like(0.0), spin.like(1.0));
    let touch = Caught::of(touches);
    let share = one.like(contact.inertia_share());
    let rolling = one + share;
    let driven = share * spin.abs() * one.like(contact.disc.radius_m);
    let kept = ((touch.forward + driven) / rolling).max(one.like(RUN_OUT_M_S));
    // What would carry it aside, and the fall, turn it instead.
    let (sin_lean, cos_lean) = sin_cos(touch.lean);
    let falls = touch.sense * sin_lean * touch.down / cos_lean.max(one.like(0.1));
    let by = (falls + touch.left) / (rolling * kept);
    let most = one.like(0.7);
    let along = turned(touch.along, by.max(-most).min(most));
    let state =
        State { x: touches.x, y: touches.y, along, lean: touch.lean, speed: kept, run: zero, time: zero };
    (state, touch.sense)
}

/// Rolls discs on to where they lie, and notes where they pass `gates` (m down-range).
#[inline(always)]
pub(crate) fn roll<R: Real>(
    contact: &Contact,
    touches: &Touches<R>,
    gates: &[f64],
    trace: &mut impl Trace,
) -> Rolled<R> {
    let (mut at, sense) = start(contact, touches);
    let constants = Constants::of(contact, sense);
    let (zero, one) = (sense.like(0.0), sense.like(1.0));
    let (hold, run_out) = (one.like(constants.hold), one.like(RUN_OUT_M_S));
    let mut gate_y = [zero; MAX_GATES];
    let mut gate_z = [zero.like(-1.0); MAX_GATES];
    let middle = zero.like(constants.radius);
    let mut rolling = one;
    for _ in 0..MOST_STEPS {
        let first = constants.rates(&at);
        let h = rolling * (at.speed * one.like(STEP) / (-first.speed).max(one.like(1e-3)));
        let to = constants.step(&at, &first, h);
        // It may fall, or run out, within the step.
        let (before, after) = (counted(at.lean), counted(to.lean));
        let falls = ((hold - before) / (after - before).max(one.like(1e-6))).max(zero);
        let falls = hold.if_less(after, falls, one);
        let ends = (at.speed - run_out) / (at.speed - to.speed).max(one.like(1e-6));
        let ends = to.speed.if_less(run_out, ends.max(zero), one);
        let flown = falls.min(ends).min(one);
        let to = between(&at, &to, flown);
        for (k, &gate) in gates.iter().enumerate().take(MAX_GATES) {
            let gate = zero.like(gate);
            let inside = gate.if_less(to.x, at.x.if_less(gate, rolling, zero), zero);
            let inside = gate_z[k].if_less(zero, inside, zero);
            if zero.any_less(inside) {
                let share = (gate - at.x) / (to.x - at.x).max(one.like(1e-6));
                gate_y[k] = zero.if_less(inside, (to.y - at.y).mul_add(share, at.y), gate_y[k]);
                gate_z[k] = zero.if_less(inside, middle, gate_z[k]);
            }
        }
        at = to;
        trace.note(PathPoint {
            t_s: at.time.column()[0],
            x_m: at.x.column()[0],
            y_m: at.y.column()[0],
            z_m: constants.radius,
        });
        rolling = flown.if_less(one, zero, rolling);
        if !zero.any_less(rolling) {
            break;
        }
    }
    // It lies down and slides.
    let left = at.speed * one.like(KEPT_LYING_DOWN);
    let slid = left * left * one.like(constants.slide);
    let level = constants.pitch(at.x).1;
    Rolled {
        x: (slid * level).mul_add(at.along.0, at.x),
        y: slid.mul_add(at.along.1, at.y),
        run: at.run + slid,
        gate_y,
        gate_z,
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::air::Air;
    use crate::numbers::FlightNumbers;
    use ode_solvers::dopri5::Dopri5;
    use ode_solvers::{SVector, System};
    use proptest::prelude::*;

    type Vector = nalgebra::Vector3<f64>;
    type Matrix = nalgebra::Matrix3<f64>;

    const RIM: Rim = Rim { softness: 0.1, wear: 0.0, width_m: 0.02 };

    fn disc(speed: f64, glide: f64, turn: f64, fade: f64) -> Disc {
        FlightNumbers::new(speed, glide, turn, fade).disc(0.175).unwrap()
    }

    /// A right-hand backhand that comes down on its right edge, its top away from it: `lean_deg` from upright.
    fn touch(speed_m_s: f64, fall_m_s: f64, lean_deg: f64, spin_rad_s: f64) -> Outcome {
        let (sin, cos) = lean_deg.to_radians().sin_cos();
        let mut o = Outcome::NOT_FLOWN;
        o.landed = true;
        o.touch.velocity_m_s = [speed_m_s, 0.0, -fall_m_s];
        o.touch.normal = [0.0, -cos, sin];
        o.touch.spin_rad_s = spin_rad_s;
        o
    }

    fn caught_by(contact: &Contact, o: &Outcome) -> (State<f64>, f64) {
        start(contact, &Touches::load((), std::iter::once(o)))
    }

    /// Inertia about the axis and about a diameter, kg m².
    fn inertia(disc: &Disc) -> (f64, f64) {
        (disc.inertia_kg_m2, 0.5 * disc.inertia_kg_m2)
    }

    /// The whole equations of a disc that rolls without slipping, nutation and all, over its normal, its angular velocity and
    /// where it is: angular momentum about its middle changes by the push of the ground, which is what moves the middle, and by
    /// the air. Only the loads are shared with the product.
    struct Whole<'a> {
        disc: &'a Disc,
        constants: Constants<'a, f64>,
    }

    type Ten = SVector<f64, 10>;

    fn vector(s: &Ten, from: usize) -> Vector {
        Vector::new(s[from], s[from + 1], s[from + 2])
    }

    /// From the point of contact toward the middle.
    fn up(n: &Vector) -> Vector {
        (Vector::z() - n.z * n).normalize()
    }

    impl Whole<'_> {
        /// What angular momentum about the point of contact is of the angular velocity.
        fn about_contact(&self, n: &Vector) -> Matrix {
            let (c, a) = inertia(self.disc);
            let u = up(n);
            let (m, r) = (self.disc.mass_kg, self.disc.radius_m);
            Matrix::identity() * a
                + n * n.transpose() * (c - a)
                + (Matrix::identity() - u * u.transpose()) * (m * r * r)
        }
    }

    impl System<f64, Ten> for Whole<'_> {
        fn system(&self, _: f64, s: &Ten, ds: &mut Ten) {
            let (n, w) = (vector(s, 0).normalize(), vector(s, 3));
            let (c, a) = inertia(self.disc);
            let (m, r) = (self.disc.mass_kg, self.disc.radius_m);
            let (u, n_rate) = (up(&n), w.cross(&n));
            let rate = -n_rate.z * n - n.z * n_rate;
            let u_rate = (rate - u * u.dot(&rate)) / (Vector::z() - n.z * n).norm();
            let v = w.cross(&u) * r;
            let along = v.normalize();
            let v2 = v.norm_squared();
            let k = &self.constants;
            let tan2 = n.z * n.z / (1.0 - n.z * n.z);
            let resists = GRAVITY_M_S2 * (1.0 + SCRUB * tan2) * k.resistance
                + v2 * k.bumps
                + v.norm() * k.share * k.spin_decay;
            // The air pushes at the middle, the ground's resistance brakes the spin.
            let air = (n * k.lift - along * k.drag) * v2 * m;
            let torque = along.cross(&n) * (k.pitch * v2 * c) - n * (w.dot(&n).signum() * resists * m * r);
            let moment = -(w.cross(&n) * (w.dot(&n) * (c - a)))
                - u.cross(&w.cross(&u_rate)) * (m * r * r)
                - u.cross(&Vector::z()) * (m * GRAVITY_M_S2 * r)
                + u.cross(&air) * r
                + torque;
            let w_rate = self.about_contact(&n).try_inverse().unwrap() * moment;
            for i in 0..3 {
                ds[i] = n_rate[i];
                ds[3 + i] = w_rate[i];
                ds[6 + i] = v[i];
            }
            ds[9] = v.norm();
        }
    }

    /// Where the product's disc and that of the whole equations are after `time_s`, and how they lean, degrees.
    fn both(disc: &Disc, o: &Outcome, time_s: f64) -> ([f64; 3], [f64; 3]) {
        let air = Air::default();
        let contact = Contact { ground: Ground::Hard, disc, rim: &RIM, air: &air };
        let bare = |sense| Constants { lays: 1.0, ..Constants::of(&contact, sense) };
        let (mut at, sense) = caught_by(&contact, o);
        let constants = bare(sense);
        let speed = at.speed;
        let steps = 400;
        for _ in 0..steps {
            let first = constants.rates(&at);
            at = constants.step(&at, &first, time_s / f64::from(steps));
        }
        let ours = [at.x, at.y, at.lean.to_degrees()];

        // The same touch.
        let whole = Whole { disc, constants: bare(sense) };
        let (n, v) = (Vector::from(o.touch.normal), Vector::from(o.touch.velocity_m_s));
        let (c, _) = inertia(disc);
        let momentum = n * (-o.touch.spin_rad_s * c) + up(&n).cross(&v) * (disc.mass_kg * disc.radius_m);
        let w = whole.about_contact(&n).try_inverse().unwrap() * momentum;
        assert!(
            o.touch.velocity_m_s[2] != 0.0
                || ((w.cross(&up(&n)) * disc.radius_m).norm() - speed).abs() < 0.02 * speed
        );
        let mut start = Ten::zeros();
        for i in 0..3 {
            start[i] = n[i];
            start[3 + i] = w[i];
        }
        let mut solver = Dopri5::new(whole, 0.0, time_s, 0.02, start, 1e-9, 1e-9);
        solver.integrate().unwrap();
        let end = solver.y_out().last().unwrap();
        (ours, [end[6], end[7], end[2].asin().to_degrees()])
    }

    /// Against the whole equations of a rolling disc, nutation and all, by an integrator from the registry: over six seconds the
    /// two are apart by less than a thousandth of the way, and lean alike.
    #[test]
    fn val_without_nutation_a_disc_rolls_as_by_the_whole_equations() {
        for (numbers, lean_deg, speed) in [
            ((5.0, 5.0, -3.0, 0.0), 30.0, 22.0),
            ((5.0, 4.0, -1.0, 1.0), 12.0, 21.0),
            ((9.0, 5.0, -2.0, 1.0), 20.0, 24.0),
            ((12.0, 5.0, -3.0, 2.0), 15.0, 26.0),
            ((12.0, 5.0, -1.0, 3.0), -8.0, 26.0),
            ((9.0, 4.0, 0.0, 4.0), 5.0, 25.0),
        ] {
            let (s, g, t, f) = numbers;
            let disc = disc(s, g, t, f);
            let o = touch(speed, 0.0, lean_deg, 0.5 * speed / disc.radius_m);
            let (ours, whole) = both(&disc, &o, 6.0);
            let apart = (ours[0] - whole[0]).hypot(ours[1] - whole[1]);
            let way = whole[0].hypot(whole[1]);
            assert!(apart < 0.001 * way, "{numbers:?}: {ours:.1?} {whole:.1?}");
            assert!((ours[2] - whole[2]).abs() < 0.2, "{numbers:?} leans {ours:.1?} {whole:.1?}");
        }
    }

    proptest! {
        /// At the touch angular momentum about the point of contact is kept along the axis, so energy is never gained; nor is it
        /// gained on the way over level ground.
        #[test]
        fn prop_energy_is_never_gained(
            speed in 8.0..30.0f64, fall in 0.0..8.0f64, lean_deg in -40.0..40.0f64, ratio in 0.1..1.2f64, kind in 0usize..4,
        ) {
            let disc = disc(9.0, 5.0, -2.0, 1.0);
            let air = Air::default();
            let contact = Contact { ground: Ground::ALL[kind], disc: &disc, rim: &RIM, air: &air };
            let spin = ratio * speed / disc.radius_m;
            let o = touch(speed, fall, lean_deg, spin);
            let (at, sense) = caught_by(&contact, &o);
            let (m, r, c) = (disc.mass_kg, disc.radius_m, disc.inertia_kg_m2);
            let before = 0.5 * m * (speed * speed + fall * fall) + 0.5 * c * spin * spin;
            let of = |s: &State<f64>| 0.5 * (m + c / (r * r)) * s.speed * s.speed;
            prop_assert!(of(&at) <= before * (1.0 + 1e-12));
            if fall == 0.0 {
                let kept = (m * r + c / r) * at.speed;
                prop_assert!((kept - (m * r * speed + c * spin)).abs() < 1e-9, "angular momentum");
            }
            let constants = Constants::of(&contact, sense);
            let mut last = of(&at);
            let mut at = at;
            while at.speed > 1.0 && at.lean.abs() < 1.2 {
                let first = constants.rates(&at);
                at = constants.step(&at, &first, 0.05);
                prop_assert!(of(&at) <= last);
                last = of(&at);
            }
        }

        /// A disc that stands upright and has neither lift nor moment rolls straight on, whichever way it spins and goes.
        #[test]
        fn prop_without_lean_a_disc_rolls_straight(speed in 8.0..30.0f64, back in proptest::bool::ANY) {
            let mut disc = disc(9.0, 5.0, -2.0, 1.0);
            (disc.coefficients.cl0, disc.coefficients.cm0) = (0.0, 0.0);
            let air = Air::default();
            let contact = Contact { ground: Ground::Turf, disc: &disc, rim: &RIM, air: &air };
            let side = if back { -1.0 } else { 1.0 };
            let mut o = touch(speed, 0.0, 0.0, side * 0.5 * speed / disc.radius_m);
            o.touch.normal[1] *= side;
            let rolled = roll::<f64>(&contact, &Touches::load((), std::iter::once(&o)), &[], &mut NoTrace);
            prop_assert!(rolled.x > 5.0 && rolled.y.abs() < 1e-9, "{} {}", rolled.x, rolled.y);
            prop_assert!((rolled.run - rolled.x).abs() < 1e-9);
        }

        /// A disc turns to the side it leans to, the tighter the slower it is.
        #[test]
        fn prop_a_disc_turns_to_where_it_leans_and_tighter_as_it_slows(lean_deg in 3.0..40.0f64, speed in 4.0..25.0f64) {
            let mut disc = disc(5.0, 4.0, -1.0, 1.0);
            disc.coefficients.cl0 = 0.0;
            let air = Air::default();
            let contact = Contact { ground: Ground::Hard, disc: &disc, rim: &RIM, air: &air };
            let constants = Constants::of(&contact, 1.0);
            let at = |lean: f64, speed: f64| State {
                x: 0.0, y: 0.0, along: (1.0, 0.0), lean, speed, run: 0.0, time: 0.0,
            };
            let lean = lean_deg.to_radians();
            let turn = constants.rates(&at(lean, speed)).turn;
            prop_assert!(turn > 0.0, "its hollow side is on the left");
            prop_assert!(constants.rates(&at(-lean, speed)).turn < 0.0);
            let slower = constants.rates(&at(lean, 0.8 * speed)).turn;
            prop_assert!(slower / (0.8 * speed) > turn / speed, "a smaller circle");
            prop_assert!(constants.rates(&at(lean, speed)).speed < constants.rates(&at(0.0, speed)).speed, "turning costs");
        }

        /// The long steps lead to where short ones do.
        #[test]
        fn prop_a_roll_in_long_steps_ends_where_it_does_in_short_ones(
            speed in 12.0..28.0f64, fall in 0.0..6.0f64, lean_deg in -25.0..35.0f64, kind in 0usize..4,
        ) {
            let disc = disc(9.0, 5.0, -2.0, 1.0);
            let air = Air::default();
            let contact = Contact { ground: Ground::ALL[kind], disc: &disc, rim: &RIM, air: &air };
            let o = touch(speed, fall, lean_deg, 0.5 * speed / disc.radius_m);
            prop_assume!(counted(lean_deg.to_radians()) < contact.steepest_lean() - CATCHES_FROM);
            let rolled = roll::<f64>(&contact, &Touches::load((), std::iter::once(&o)), &[], &mut NoTrace);
            let (mut at, sense) = caught_by(&contact, &o);
            let constants = Constants::of(&contact, sense);
            while at.speed > RUN_OUT_M_S && counted(at.lean) < constants.hold {
                let first = constants.rates(&at);
                at = constants.step(&at, &first, 0.004);
            }
            let slid = (at.speed * KEPT_LYING_DOWN).powi(2) * constants.slide;
            let (x, y) = (at.x + slid * at.along.0, at.y + slid * at.along.1);
            let apart = (rolled.x - x).hypot(rolled.y - y);
            prop_assert!(apart < 0.3 + 0.015 * rolled.run, "{apart:.2} m of {:.0}", rolled.run);
        }
    }
}
