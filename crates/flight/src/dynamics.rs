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

use crate::aero::{self, Aero, Flow};
use crate::air::{Air, CALM_LAYER_M, GRAVITY_M_S2, Wind};
use crate::disc::Disc;
use crate::real::{Column, MAX_WIDTH, Real, Vec3};
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

/// Position (m), velocity (m/s), disc normal and spin (rad/s) at one moment, and the share of the reference wind that
/// blows there: carried along by its own equation, the power law costs the kernel no power.
#[derive(Clone, Copy)]
pub(crate) struct State<R> {
    pub r: Vec3<R>,
    pub v: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
    pub wind: R,
}

/// Rates of a [`State`], per second.
#[derive(Clone, Copy)]
pub(crate) struct Rates<R> {
    pub v: Vec3<R>,
    pub a: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
    pub wind: R,
}

impl<R: Real> State<R> {
    /// Moved along each of `rates` by its share of `h` seconds.
    #[inline(always)]
    pub(crate) fn moved(&self, rates: &[Rates<R>], shares: &[f64], h: R) -> State<R> {
        let mut next = *self;
        for (rate, &share) in rates.iter().zip(shares) {
            let k = h * h.like(share);
            next = State {
                r: next.r.plus_scaled(rate.v, k),
                v: next.v.plus_scaled(rate.a, k),
                n: next.n.plus_scaled(rate.n, k),
                spin: rate.spin.mul_add(k, next.spin),
                wind: rate.wind.mul_add(k, next.wind),
            };
        }
        next
    }

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
        }
    }
}

impl<R: Real> Rates<R> {
    /// `self` where `mark` is positive, else `other`.
    #[inline(always)]
    pub(crate) fn if_positive(&self, mark: R, other: &Rates<R>) -> Rates<R> {
        let zero = mark.like(0.0);
        Rates {
            v: self.v.if_less(zero, mark, other.v),
            a: self.a.if_less(zero, mark, other.a),
            n: self.n.if_less(zero, mark, other.n),
            spin: zero.if_less(mark, self.spin, other.spin),
            wind: zero.if_less(mark, self.wind, other.wind),
        }
    }
}

/// What does not change during a flight.
pub(crate) struct Constants<R> {
    aero: Aero<R>,
    /// Power of the height with which wind grows.
    exponent: R,
    floor: R,
    wind_x: R,
    wind_y: R,
    /// ½ρA/m, 1/m.
    load: R,
    /// σ·½ρAd/I_z, 1/(m·kg) folded with spin at each stage.
    twist: R,
    /// ½ρAd/I_z: as `twist`, the same for either sense of spin.
    tilt: R,
    radius: R,
    spin_decay: R,
}

/// Numbers of a throw beside its aerodynamics: seven constants, then the nine of its release that are not zero.
const OTHERS: usize = 16;

/// The throws that advance together, one column a quantity.
pub(crate) struct Columns {
    aero: [Column; aero::FIELDS],
    others: [Column; OTHERS],
}

impl Columns {
    /// Of at most [`MAX_WIDTH`] throws; the last fills what is left.
    pub(crate) fn of(throws: &[Throw], air: &Air) -> Columns {
        let mut columns =
            Columns { aero: [[0.0; MAX_WIDTH]; aero::FIELDS], others: [[0.0; MAX_WIDTH]; OTHERS] };
        // Most throws of a batch leave the hand at one height, and a power is dear.
        let (mut height_m, mut wind_share) = (f64::NAN, 1.0);
        for lane in 0..MAX_WIDTH {
            let Some(throw) = throws.get(lane).or(throws.last()) else { continue };
            if lane > 0 && lane >= throws.len() {
                columns.aero.iter_mut().chain(&mut columns.others).for_each(|c| c[lane] = c[lane - 1]);
                continue;
            }
            let aero = aero::fields(&throw.disc.coefficients);
            columns.aero.iter_mut().zip(aero).for_each(|(c, x)| c[lane] = x);
            if throw.release.height_m != height_m {
                height_m = throw.release.height_m;
                wind_share = air.wind_share(height_m);
            }
            let others = others(throw, air.density_kg_m3, wind_share);
            columns.others.iter_mut().zip(others).for_each(|(c, x)| c[lane] = x);
        }
        columns
    }
}

fn others(throw: &Throw, density_kg_m3: f64, wind_share: f64) -> [f64; OTHERS] {
    let Throw { disc, release, wind } = throw;
    let area = std::f64::consts::PI * disc.radius_m * disc.radius_m;
    let half_rho = 0.5 * density_kg_m3;
    let sense = spin_sense(release.hand, release.style);
    let tilt = half_rho * area * 2.0 * disc.radius_m / disc.inertia_kg_m2;
    let ([vx, vy, vz], [nx, ny, nz]) = leaving(release);
    [
        wind.along_m_s,
        wind.left_m_s,
        half_rho * area / disc.mass_kg,
        sense * tilt,
        tilt,
        disc.radius_m,
        disc.coefficients.spin_decay,
        release.height_m,
        vx,
        vy,
        vz,
        nx,
        ny,
        nz,
        release.spin_rad_s,
        wind_share,
    ]
}

impl<R: Real> Constants<R> {
    #[inline(always)]
    pub(crate) fn load(token: R::Token, columns: &Columns, air: &Air) -> Self {
        let [wind_x, wind_y, load, twist, tilt, radius, spin_decay, ..] = &columns.others;
        Constants {
            aero: Aero::load(token, &columns.aero),
            exponent: R::load(token, &[air.profile_exponent; MAX_WIDTH]),
            floor: R::load(token, &[air.floor_m; MAX_WIDTH]),
            wind_x: R::load(token, wind_x),
            wind_y: R::load(token, wind_y),
            load: R::load(token, load),
            twist: R::load(token, twist),
            tilt: R::load(token, tilt),
            radius: R::load(token, radius),
            spin_decay: R::load(token, spin_decay),
        }
    }

    /// Velocity against the air.
    #[inline(always)]
    pub(crate) fn airspeed(&self, s: &State<R>) -> Vec3<R> {
        Vec3 { x: s.v.x - self.wind_x * s.wind, y: s.v.y - self.wind_y * s.wind, z: s.v.z }
    }

    #[inline(always)]
    pub(crate) fn rates(&self, s: &State<R>) -> Rates<R> {
        let spin = s.spin;
        let u = self.airspeed(s);
        let un = u.dot(s.n);
        // A tiny floor keeps a disc at rest in the air finite.
        let v2 = u.dot(u).max(spin.like(1e-9));
        let v = v2.sqrt();
        // Divisions are the slowest thing a processor does here: one serves all four, and runs beside the square root.
        let faster = v2 + v2.like(aero::REFERENCE_SPEED_SQUARED);
        let height = s.r.z + self.floor;
        let height2 = height.mul_add(height, v.like(CALM_LAYER_M * CALM_LAYER_M));
        let (spin_v2, far) = (spin * v2, faster * height2);
        let inverse = v.like(1.0) / (spin_v2 * far);
        let (inverse_spin_v2, inverse_far) = (inverse * far, inverse * spin_v2);
        let (inverse_v, inverse_spin) = (inverse_spin_v2 * spin * v, inverse_spin_v2 * v2);
        let loads = self.aero.loads(&Flow {
            sin: -un * inverse_v,
            v2,
            inverse_faster: inverse_far * height2,
            advance: spin * self.radius * inverse_v,
        });
        // Lift acts along n|p|/V − ê(u·n)/V = (n V² − u (u·n)) / (V |p|).
        let lift = self.load * loads.cl * loads.secant;
        let along_u = -(self.load * loads.cd).mul_add(v, lift * un);
        let along_n = lift * v2;
        let a = Vec3 {
            x: u.x.mul_add(along_u, s.n.x * along_n),
            y: u.y.mul_add(along_u, s.n.y * along_n),
            z: u.z.mul_add(along_u, s.n.z.mul_add(along_n, spin.like(-GRAVITY_M_S2))),
        };
        // dn/dt = σ M/(I ω) n × ê, and n × ê = n × u / |p|.
        // A roll moment σ M_r about ê precesses it along −ê = (n (u·n) − u) / |p|.
        let rate = v * loads.secant * inverse_spin;
        let (turning, lifting) = (self.twist * loads.cm * rate, self.tilt * loads.cr * rate);
        let n = s.n.cross(u).scale(turning).plus_scaled(u, -lifting).plus_scaled(s.n, lifting * un);
        let wind = self.exponent * s.wind * height * s.v.z * (inverse_far * faster);
        Rates { v: s.v, a, n, spin: -(self.spin_decay * spin), wind }
    }
}

/// Velocity and disc normal at release: the disc is pitched by launch + nose about the left axis, then banked about
/// its own forward axis by σ × hyzer, then turned to the aim.
fn leaving(release: &Release) -> ([f64; 3], [f64; 3]) {
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

/// State of the throws as they leave the hand.
#[inline(always)]
pub(crate) fn release_state<R: Real>(token: R::Token, columns: &Columns) -> State<R> {
    let [.., height, vx, vy, vz, nx, ny, nz, spin, wind] = &columns.others;
    let zero = R::load(token, &[0.0; MAX_WIDTH]);
    let vector =
        |c: [&Column; 3]| Vec3 { x: R::load(token, c[0]), y: R::load(token, c[1]), z: R::load(token, c[2]) };
    State {
        r: Vec3 { x: zero, y: zero, z: R::load(token, height) },
        v: vector([vx, vy, vz]),
        n: vector([nx, ny, nz]),
        spin: R::load(token, spin),
        wind: R::load(token, wind),
    }
}
