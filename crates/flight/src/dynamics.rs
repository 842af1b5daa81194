//! Motion of a spinning disc: its state, and how forces and precession change it.
//!
//! The spin axis is the disc's normal: a disc thrown with ordinary spin precesses and its nutation dies out within
//! a few tenths of a second. Without nutation nothing in the motion is fast, and [`crate::integrate`] follows it in
//! long steps.
//!
//! # References
//! S. A. Hummel, *Frisbee Flight Simulation and Throw Biomechanics*, MSc thesis, UC Davis, 2003;
//! J. R. Potts and W. J. Crowther, *Frisbee Aerodynamics*, AIAA 2002-3150;
//! W. J. Crowther and J. R. Potts, *Simulation of a spin-stabilised sports disc*, Sports Engineering 10, 2007.
//! Cited from memory for the form of the equations; no coefficient here is taken from them.

use crate::aero::{self, Aero, Flow, Scales};
use crate::air::{Air, CALM_LAYER_M, GRAVITY_M_S2, Wind};
use crate::disc::Disc;
use crate::real::{Column, MAX_WIDTH, Real, Vec3, sin_cos};
use crate::release::{Release, spin_sense};
use crate::terrain::Terrain;

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

/// Position (m), velocity (m/s), disc normal and spin (rad/s) at one moment, the share of the reference wind that blows
/// there, and the inverse of the airspeed (s/m). The last two follow from the others: carried along by equations of their
/// own, they spare the kernel a power, a square root and the wait for a division.
#[derive(Clone, Copy)]
pub(crate) struct State<R> {
    pub r: Vec3<R>,
    pub v: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
    pub wind: R,
    pub slowness: R,
}

/// Rates of a [`State`], per second; that of the position is the velocity itself. And sin² of the angle of attack there.
#[derive(Clone, Copy)]
pub(crate) struct Rates<R> {
    pub sin2: R,
    pub a: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
    pub wind: R,
    pub slowness: R,
}

impl<R: Real> State<R> {
    /// `self` where `mark` is positive, else `other`.
    #[inline(always)]
    pub(crate) fn if_positive(&self, mark: R, other: &State<R>) -> State<R> {
        let zero = mark.like(0.0);
        State {
            r: self.r.if_less(zero, mark, other.r),
            v: self.v.if_less(zero, mark, other.v),
            n: self.n.if_less(zero, mark, other.n),
            spin: zero.if_less(mark, self.spin, other.spin),
            wind: zero.if_less(mark, self.wind, other.wind),
            slowness: zero.if_less(mark, self.slowness, other.slowness),
        }
    }
}

impl<R: Real> Rates<R> {
    /// `self` where `mark` is positive, else `other`.
    #[inline(always)]
    pub(crate) fn if_positive(&self, mark: R, other: &Rates<R>) -> Rates<R> {
        let zero = mark.like(0.0);
        Rates {
            sin2: zero.if_less(mark, self.sin2, other.sin2),
            a: self.a.if_less(zero, mark, other.a),
            n: self.n.if_less(zero, mark, other.n),
            spin: zero.if_less(mark, self.spin, other.spin),
            wind: zero.if_less(mark, self.wind, other.wind),
            slowness: zero.if_less(mark, self.slowness, other.slowness),
        }
    }
}

/// How far V²/V'² may be from 1, of an airspeed V' that is to be sharpened: the error that is left is then below a
/// thousand-millionth.
const FARTHEST_OFF: f64 = 0.02;

/// What does not change during a flight. With `SHEAR` the wind grows with height; without, the wind's share of a state is
/// left as it was.
pub(crate) struct Constants<R, const SHEAR: bool> {
    aero: Aero<R>,
    /// Power of the height with which wind grows.
    exponent: R,
    floor: R,
    pub(crate) terrain: Terrain,
    /// The wind that comes against the throw and from its left, as reference height has it.
    against: R,
    from_left: R,
    /// Of the spin, per second: negative.
    spin_growth: R,
}

/// Numbers of a throw beside its aerodynamics: seven constants, then the eight of its release.
const OTHERS: usize = 15;
/// Which of them is the sense of the spin.
const SENSE: usize = 5;

/// The throws that advance together, one column a quantity.
pub(crate) struct Columns {
    aero: [Column; aero::FIELDS],
    others: [Column; OTHERS],
}

impl Columns {
    /// The sense of every throw's spin.
    pub(crate) fn sense(&self) -> &Column {
        &self.others[SENSE]
    }

    /// Of at most `width` throws; the last fills what is left of it.
    #[inline(always)]
    pub(crate) fn of<'a>(throws: impl Iterator<Item = &'a Throw>, air: &Air, width: usize) -> Columns {
        let mut columns =
            Columns { aero: [[0.0; MAX_WIDTH]; aero::FIELDS], others: [[0.0; MAX_WIDTH]; OTHERS] };
        // Most throws of a batch leave the hand at one height, and a power is dear.
        let (mut height_m, mut wind_share) = (f64::NAN, 1.0);
        let mut filled = 0;
        for throw in throws.take(width) {
            let aero = aero::fields(&throw.disc.coefficients);
            columns.aero.iter_mut().zip(aero).for_each(|(c, x)| c[filled] = x);
            if throw.release.height_m != height_m {
                height_m = throw.release.height_m;
                wind_share = air.wind_share(height_m);
            }
            let others = others(throw, wind_share);
            columns.others.iter_mut().zip(others).for_each(|(c, x)| c[filled] = x);
            filled += 1;
        }
        if let Some(last) = filled.checked_sub(1) {
            columns.aero.iter_mut().chain(&mut columns.others).for_each(|c| {
                let x = c[last];
                c[filled..width].fill(x);
            });
        }
        columns
    }
}

fn others(throw: &Throw, wind_share: f64) -> [f64; OTHERS] {
    let Throw { disc, release, wind } = throw;
    let sense = spin_sense(release.hand, release.style);
    [
        wind.along_m_s,
        wind.left_m_s,
        disc.mass_kg,
        disc.inertia_kg_m2,
        disc.radius_m,
        sense,
        disc.coefficients.spin_decay,
        release.height_m,
        release.speed_m_s,
        release.launch_deg,
        release.launch_deg + release.nose_deg,
        sense * release.hyzer_deg,
        release.aim_deg,
        release.spin_rad_s,
        wind_share,
    ]
}

impl<R: Real, const SHEAR: bool> Constants<R, SHEAR> {
    #[inline(always)]
    pub(crate) fn load(token: R::Token, columns: &Columns, air: &Air) -> Self {
        let [wind_x, wind_y, mass, inertia, radius, sense, spin_decay, ..] = &columns.others;
        let radius = R::load(token, radius);
        let push = radius * radius * radius.like(0.5 * air.density_kg_m3 * std::f64::consts::PI);
        let roll = push * (radius + radius) / R::load(token, inertia);
        let scales =
            Scales { force: push / R::load(token, mass), pitch: roll * R::load(token, sense), roll, radius };
        Constants {
            aero: Aero::load(token, &columns.aero, &scales),
            exponent: scales.force.like(air.profile_exponent),
            floor: scales.force.like(air.floor_m),
            terrain: air.terrain,
            against: -R::load(token, wind_x),
            from_left: -R::load(token, wind_y),
            spin_growth: -R::load(token, spin_decay),
        }
    }

    /// Velocity against the air.
    #[inline(always)]
    fn airspeed(&self, s: &State<R>) -> Vec3<R> {
        Vec3 { x: self.against.mul_add(s.wind, s.v.x), y: self.from_left.mul_add(s.wind, s.v.y), z: s.v.z }
    }

    /// The state that [`Self::rates`] asks for: without shear, when the air moves as one, its velocity is that against the
    /// air, for the stages of a step to begin from.
    #[inline(always)]
    pub(crate) fn within_air(&self, s: &State<R>) -> State<R> {
        if SHEAR { *s } else { State { v: self.airspeed(s), ..*s } }
    }

    /// 1/V from V².
    #[inline(always)]
    fn slowness(v2: R) -> R {
        v2.like(1.0) / v2.sqrt()
    }

    /// 1/V at an airspeed's square `v2`, of which `slowness` is not quite the inverse: q/√(1 − e) by powers of e = 1 − q²V².
    /// Where e is more than [`FARTHEST_OFF`], as no ordinary step leaves it, it is worked out afresh.
    #[inline(always)]
    fn sharpened(slowness: R, v2: R) -> R {
        let q = slowness;
        let e = (q * -q).mul_add(v2, q.like(1.0));
        let series = (e * e).mul_add(
            e.mul_add(e.like(35.0 / 128.0), e.like(5.0 / 16.0)),
            e.mul_add(e.like(3.0 / 8.0), e.like(0.5)),
        );
        let q = (q * e).mul_add(series, q);
        let (off, farthest) = (e.abs(), e.like(FARTHEST_OFF));
        if farthest.any_less(off) { farthest.if_less(off, Self::slowness(v2), q) } else { q }
    }

    /// Rates at a state [`Self::within_air`], whose slowness is sharpened.
    #[inline(always)]
    pub(crate) fn rates(&self, s: &mut State<R>) -> Rates<R> {
        let spin = s.spin;
        let u = if SHEAR { self.airspeed(s) } else { s.v };
        let un = u.dot(s.n);
        // A trifle keeps a disc at rest in the air finite.
        let v2 = u.x.mul_add(u.x, u.y.mul_add(u.y, u.z.mul_add(u.z, spin.like(1e-9))));
        // A division is what a processor waits for longest: one serves all that is not needed at once.
        let faster = v2 + v2.like(aero::REFERENCE_SPEED_SQUARED);
        let (ground, slope) =
            if SHEAR { self.terrain.under_wind(s.r.x) } else { (spin.like(0.0), spin.like(0.0)) };
        let height = s.r.z + self.floor - ground;
        let height2 = height.mul_add(height, spin.like(CALM_LAYER_M * CALM_LAYER_M));
        let far = if SHEAR { faster * height2 } else { faster };
        let inverse = spin.like(1.0) / (spin * far);
        let slowness = Self::sharpened(s.slowness, v2);
        s.slowness = slowness;
        let v = v2 * slowness;
        let sin = -un * slowness;
        let sin2 = sin * sin;
        let loads = self.aero.loads(&Flow {
            sin,
            sin2,
            v2,
            inverse_faster: inverse * if SHEAR { spin * height2 } else { spin },
            spin_by_v: spin * slowness,
        });
        // Lift acts along n|p|/V − ê(u·n)/V = (n V² − u (u·n)) / (V |p|).
        let push = loads.secant * v2;
        let along_n = loads.lift * push;
        let along_u = -loads.drag.mul_add(v, loads.lift * (loads.secant * un));
        let a = Vec3 {
            x: u.x.mul_add(along_u, s.n.x * along_n),
            y: u.y.mul_add(along_u, s.n.y * along_n),
            z: u.z.mul_add(along_u, s.n.z.mul_add(along_n, spin.like(-GRAVITY_M_S2))),
        };
        // dn/dt = σ M/(I ω) n × ê, and n × ê = n × u / |p|.
        // A roll moment σ M_r about ê precesses it along −ê = (n (u·n) − u) / |p|.
        let rate = inverse * (far * slowness) * push;
        let (turning, lifting) = (loads.pitch * rate, loads.roll * rate);
        let back = Vec3 { x: -u.x, y: -u.y, z: -u.z }.plus_scaled(s.n, un);
        let n = back.scale(lifting).plus_scaled(s.n.cross(u), turning);
        let wind = if SHEAR {
            self.exponent * s.wind * height * (s.v.z - slope * s.v.x) * (inverse * (spin * faster))
        } else {
            spin.like(0.0)
        };
        // d(1/V)/dt = −(u·a)/V³, as far as it is not the wind that changes.
        let work = u.z.mul_add(spin.like(-GRAVITY_M_S2), along_u.mul_add(v2, along_n * un));
        let slowness = -work * slowness * (slowness * slowness);
        Rates { sin2, a, n, spin: self.spin_growth * spin, wind, slowness }
    }
}

/// State of the throws as they leave the hand: the disc is pitched by launch + nose about the left axis, then banked about
/// its own forward axis by σ × hyzer, then turned to the aim.
#[inline(always)]
pub(crate) fn release_state<R: Real>(token: R::Token, columns: &Columns) -> State<R> {
    // Plain calls: a closure given to another function would be compiled without the vector instructions.
    let [.., height, speed, launch, pitch, bank, aim, spin, wind] = &columns.others;
    let speed = R::load(token, speed);
    let (sin_l, cos_l) = sin_cos(radians(R::load(token, launch)));
    let (sin_p, cos_p) = sin_cos(radians(R::load(token, pitch)));
    let (sin_b, cos_b) = sin_cos(radians(R::load(token, bank)));
    let (sin_a, cos_a) = sin_cos(radians(R::load(token, aim)));
    let level = speed * cos_l;
    let forward = -(sin_p * cos_b);
    let zero = speed.like(0.0);
    State {
        r: Vec3 { x: zero, y: zero, z: R::load(token, height) },
        v: Vec3 { x: level * cos_a, y: level * sin_a, z: speed * sin_l },
        n: Vec3 { x: forward * cos_a - sin_b * sin_a, y: forward * sin_a + sin_b * cos_a, z: cos_p * cos_b },
        spin: R::load(token, spin),
        wind: R::load(token, wind),
        slowness: zero,
    }
}

#[inline(always)]
fn radians<R: Real>(deg: R) -> R {
    deg * deg.like(std::f64::consts::PI / 180.0)
}
