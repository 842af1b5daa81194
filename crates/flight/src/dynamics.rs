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

use crate::aero::{self, Aero};
use crate::air::{Air, GRAVITY_M_S2, Wind};
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

/// Position (m), velocity (m/s), disc normal and spin (rad/s) at one moment.
#[derive(Clone, Copy)]
pub(crate) struct State<R> {
    pub r: Vec3<R>,
    pub v: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
}

/// Rates of a [`State`], per second.
#[derive(Clone, Copy)]
pub(crate) struct Rates<R> {
    pub v: Vec3<R>,
    pub a: Vec3<R>,
    pub n: Vec3<R>,
    pub spin: R,
}

impl<R: Real> State<R> {
    /// Moved along each of `rates` by its share of `h` seconds; shares of zero cost nothing.
    #[inline(always)]
    pub(crate) fn moved<const N: usize>(&self, rates: [&Rates<R>; N], shares: [f64; N], h: R) -> State<R> {
        let mut next = *self;
        for (rate, share) in rates.into_iter().zip(shares) {
            if share == 0.0 {
                continue;
            }
            let k = h * h.like(share);
            next = State {
                r: next.r.plus_scaled(rate.v, k),
                v: next.v.plus_scaled(rate.a, k),
                n: next.n.plus_scaled(rate.n, k),
                spin: rate.spin.mul_add(k, next.spin),
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
        }
    }
}

/// What does not change during a flight.
pub(crate) struct Constants<'a, R> {
    aero: Aero<R>,
    air: &'a Air,
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
    sheared: bool,
}

/// Numbers of a throw beside its aerodynamics: seven constants, then the eight of its release that are not zero.
const OTHERS: usize = 15;

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
        for lane in 0..MAX_WIDTH {
            let Some(throw) = throws.get(lane).or(throws.last()) else { continue };
            if lane > 0 && lane >= throws.len() {
                columns.aero.iter_mut().chain(&mut columns.others).for_each(|c| c[lane] = c[lane - 1]);
                continue;
            }
            let aero = aero::fields(&throw.disc.coefficients);
            columns.aero.iter_mut().zip(aero).for_each(|(c, x)| c[lane] = x);
            columns.others.iter_mut().zip(others(throw, air)).for_each(|(c, x)| c[lane] = x);
        }
        columns
    }
}

fn others(throw: &Throw, air: &Air) -> [f64; OTHERS] {
    let Throw { disc, release, wind } = throw;
    let area = std::f64::consts::PI * disc.radius_m * disc.radius_m;
    let half_rho = 0.5 * air.density_kg_m3;
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
    ]
}

impl<'a, R: Real> Constants<'a, R> {
    #[inline(always)]
    pub(crate) fn load(token: R::Token, columns: &Columns, air: &'a Air) -> Self {
        let [wind_x, wind_y, load, twist, tilt, radius, spin_decay, ..] = &columns.others;
        Constants {
            aero: Aero::load(token, &columns.aero),
            air,
            wind_x: R::load(token, wind_x),
            wind_y: R::load(token, wind_y),
            load: R::load(token, load),
            twist: R::load(token, twist),
            tilt: R::load(token, tilt),
            radius: R::load(token, radius),
            spin_decay: R::load(token, spin_decay),
            sheared: air.is_sheared(),
        }
    }

    #[inline(always)]
    pub(crate) fn rates(&self, s: &State<R>) -> Rates<R> {
        let spin = s.spin;
        let one = spin.like(1.0);
        let share = if self.sheared { self.air.wind_share(s.r.z) } else { one };
        let u = Vec3 { x: s.v.x - self.wind_x * share, y: s.v.y - self.wind_y * share, z: s.v.z };
        let un = u.dot(s.n);
        // Tiny floors keep a disc at rest in the air, or moving straight along its own axis, finite.
        let v2 = u.dot(u).max(spin.like(1e-9));
        let p2 = (v2 - un * un).max(spin.like(1e-12) * v2);
        let (v, p) = (v2.sqrt(), p2.sqrt());
        // Divisions are the slowest thing a processor does here: one serves all four.
        let (vp, spin_sum) = (v * p, spin * (v + p));
        let inverse = one / (vp * spin_sum);
        let inverse_vp = inverse * spin_sum;
        let (inverse_v, inverse_p) = (inverse_vp * p, inverse_vp * v);
        let inverse_sum = inverse * vp * spin;
        let inverse_spin = inverse * vp * (v + p);
        let loads = self.aero.loads(
            -un * inverse_v,
            p * inverse_v,
            -un * inverse_sum,
            v,
            spin * self.radius * inverse_v,
        );
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
        // A roll moment σ M_r about ê precesses it along −ê = (n (u·n) − u) / |p|.
        let rate = v2 * inverse_p * inverse_spin;
        let (turning, lifting) = (self.twist * loads.cm * rate, self.tilt * loads.cr * rate);
        let n = s.n.cross(u).scale(turning).plus_scaled(u, -lifting).plus_scaled(s.n, lifting * un);
        Rates { v: s.v, a, n, spin: -(self.spin_decay * spin) }
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
    let [.., height, vx, vy, vz, nx, ny, nz, spin] = &columns.others;
    let zero = R::load(token, &[0.0; MAX_WIDTH]);
    let vector =
        |c: [&Column; 3]| Vec3 { x: R::load(token, c[0]), y: R::load(token, c[1]), z: R::load(token, c[2]) };
    State {
        r: Vec3 { x: zero, y: zero, z: R::load(token, height) },
        v: vector([vx, vy, vz]),
        n: vector([nx, ny, nz]),
        spin: R::load(token, spin),
    }
}
