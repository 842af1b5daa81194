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
use crate::ground::{Contact, Rim, pitched};
use crate::hop::hops_take;
use crate::outcome::{MAX_GATES, Outcome, PathPoint};
use crate::real::{Column, MAX_WIDTH, Real, Vec3, elevation, sin_cos};
use crate::terrain::Terrain;

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
    /// What hops take from the speed: by its square, 1/m, and at the most, as a share of weight.
    hops: (f64, f64),
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

/// How fast discs come down on the ground beneath them, m/s.
#[inline(always)]
pub(crate) fn fall<R: Real>(touches: &Touches<R>) -> R {
    Caught::of(touches).down
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
        let bed = contact.bed();
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
            hops: hops_take(contact),
            lays: 1.0 - bed.bears,
            hold: contact.steepest_lean(),
            terrain: &contact.air.terrain,
            slide: contact.slide_m_per_m2_s2(),
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
            + (v2 * one.like(self.hops.0)).min(weight * one.like(self.hops.1))
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
    let (x, y) = (mix(from.along.0, to.along.0), mix(from.along.1, to.along.1));
    let unit = share.like(1.0) / x.mul_add(x, y * y).sqrt().max(share.like(1e-6));
    State {
        x: mix(from.x, to.x),
        y: mix(from.y, to.y),
        along: (x * unit, y * unit),
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
    let (x, y) = ((slid * level).mul_add(at.along.0, at.x), slid.mul_add(at.along.1, at.y));
    // Slowed evenly it takes twice as long as at the speed it begins with.
    let time = at.time + slid * one.like(2.0) / left.max(one.like(1e-6));
    let note = |of: R| of.column()[0];
    trace.note(PathPoint { t_s: note(time), x_m: note(x), y_m: note(y), z_m: 0.0 });
    Rolled { x, y, run: at.run + slid, gate_y, gate_z }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests;
