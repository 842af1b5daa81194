//! Throws shared by the tests, and an independent integration of the same equations.
#![allow(dead_code, clippy::unwrap_used, missing_docs)]

use ode_solvers::dop853::Dop853;
use ode_solvers::dopri5::Dopri5;
use ode_solvers::{SVector, System};
use zinc_kite_flight::air::{Air, GRAVITY_M_S2, Wind};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::disc::Disc;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{Hand, Release, Style, spin_sense};

pub const M_S_PER_MPH: f64 = 0.44704;

pub fn disc(speed: f64, glide: f64, turn: f64, fade: f64) -> Disc {
    FlightNumbers::new(speed, glide, turn, fade).disc(0.175).unwrap()
}

/// A right-hand backhand at the rated launch, `mph` fast.
pub fn backhand(disc: Disc, mph: f64, hyzer_deg: f64) -> Throw {
    let release = Release { hyzer_deg, ..Release::rated(mph * M_S_PER_MPH, Hand::Right, Style::Backhand) };
    Throw { disc, release, wind: Wind::CALM }
}

pub fn flown(throw: Throw) -> Outcome {
    fly_all(&[throw], &Air::default(), &[])[0]
}

/// The document's equations written out again, plainly, for angles of attack below 25°: nothing here is shared with
/// the product's kernel but the coefficients.
struct Model {
    throw: Throw,
    density: f64,
}

type State = SVector<f64, 10>;

impl Model {
    fn alpha(&self, s: &State) -> f64 {
        let u = self.airspeed(s);
        let n = [s[6], s[7], s[8]];
        let un = dot(u, n);
        let p = (dot(u, u) - un * un).sqrt();
        (-un).atan2(p)
    }

    fn airspeed(&self, s: &State) -> [f64; 3] {
        [s[3] - self.throw.wind.along_m_s, s[4] - self.throw.wind.left_m_s, s[5]]
    }
}

fn dot(a: [f64; 3], b: [f64; 3]) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

impl System<f64, State> for Model {
    fn system(&self, _t: f64, s: &State, ds: &mut State) {
        let Throw { disc, release, .. } = self.throw;
        let c = disc.coefficients;
        let u = self.airspeed(s);
        let n = [s[6], s[7], s[8]];
        let spin = s[9];
        let v = dot(u, u).sqrt();
        let un = dot(u, n);
        let plane = [u[0] - un * n[0], u[1] - un * n[1], u[2] - un * n[2]];
        let p = dot(plane, plane).sqrt();
        let e = plane.map(|x| x / p);
        let left = [n[1] * e[2] - n[2] * e[1], n[2] * e[0] - n[0] * e[2], n[0] * e[1] - n[1] * e[0]];
        let alpha = (-un).atan2(p);
        let area = std::f64::consts::PI * disc.radius_m.powi(2);
        let q = 0.5 * self.density * v * v;
        let faster = (v * v - 625.0) / (v * v + 625.0);
        let cl = c.cl0 + c.cl_speed * faster + c.cl_alpha * alpha;
        let cd =
            c.cd0 * (1.0 + c.cd_speed * ((v / 25.0).powi(2) - 1.0)) + c.cd_alpha * (alpha - c.alpha0).powi(2);
        let cm = c.cm0
            + c.cm_alpha * alpha
            + c.cm_alpha2 * alpha * alpha.abs()
            + c.cm_even * alpha * alpha
            + c.cm_speed * faster
            + c.cm_spin * (spin * disc.radius_m / v - 0.5);
        let sense = spin_sense(release.hand, release.style);
        let turning = sense * q * area * 2.0 * disc.radius_m * cm / (disc.inertia_kg_m2 * spin);
        let cr = c.cr0 + c.cr_alpha * alpha;
        let lifting = q * area * 2.0 * disc.radius_m * cr / (disc.inertia_kg_m2 * spin);
        for i in 0..3 {
            ds[i] = s[3 + i];
            let lift = n[i] * p / v - e[i] * un / v;
            ds[3 + i] = q * area * (cl * lift - cd * u[i] / v) / disc.mass_kg;
            ds[6 + i] = turning * left[i] - lifting * e[i];
        }
        ds[5] -= GRAVITY_M_S2;
        ds[9] = -c.spin_decay * spin;
    }

    fn solout(&mut self, _t: f64, s: &State, _ds: &State) -> bool {
        s[2] < 0.0
    }
}

/// A method of the crate `ode_solvers`.
#[derive(Clone, Copy)]
pub enum Integrator {
    Dopri5,
    Dop853,
}

/// Landing place (m) by an adaptive method with its own dense output, as anyone would use it: points every 50 ms until
/// the disc is below the ground, a cubic through places and velocities between the last two.
pub fn landing_by(method: Integrator, throw: &Throw, density: f64, tolerance: f64) -> (f64, f64) {
    let (start, model) = (start(throw), Model { throw: *throw, density });
    let y = match method {
        Integrator::Dopri5 => {
            let mut solver = Dopri5::new(model, 0.0, 40.0, DENSE_S, start, tolerance, tolerance);
            solver.integrate().unwrap();
            solver.y_out().clone()
        }
        Integrator::Dop853 => {
            let mut solver = Dop853::new(model, 0.0, 40.0, DENSE_S, start, tolerance, tolerance);
            solver.integrate().unwrap();
            solver.y_out().clone()
        }
    };
    let k = y.iter().position(|s| s[2] < 0.0).unwrap();
    let at = |i: usize, t: f64| {
        let (m0, m1, rise) = (DENSE_S * y[k - 1][3 + i], DENSE_S * y[k][3 + i], y[k][i] - y[k - 1][i]);
        y[k - 1][i] + t * (m0 + t * (3.0 * rise - 2.0 * m0 - m1 + t * (m0 + m1 - 2.0 * rise)))
    };
    let (mut low, mut high) = (0.0, 1.0);
    while high - low > 1e-9 {
        let middle = 0.5 * (low + high);
        if at(2, middle) > 0.0 { low = middle } else { high = middle }
    }
    (at(0, low), at(1, low))
}

const DENSE_S: f64 = 0.05;

/// Landing point and time by an adaptive eighth-order method, and the greatest angle of attack met (rad).
pub struct Independent {
    pub x_m: f64,
    pub y_m: f64,
    pub time_s: f64,
    pub greatest_alpha: f64,
}

fn start(throw: &Throw) -> State {
    let r = &throw.release;
    let pitch = (r.launch_deg + r.nose_deg).to_radians();
    let bank = spin_sense(r.hand, r.style) * r.hyzer_deg.to_radians();
    let (launch, aim) = (r.launch_deg.to_radians(), r.aim_deg.to_radians());
    let (nx, ny) = (-pitch.sin() * bank.cos(), bank.sin());
    let vx = r.speed_m_s * launch.cos();
    State::from_row_slice(&[
        0.0,
        0.0,
        r.height_m,
        vx * aim.cos(),
        vx * aim.sin(),
        r.speed_m_s * launch.sin(),
        nx * aim.cos() - ny * aim.sin(),
        nx * aim.sin() + ny * aim.cos(),
        pitch.cos() * bank.cos(),
        r.spin_rad_s,
    ])
}

pub fn independent(throw: &Throw, density: f64) -> Independent {
    let start = start(throw);
    let model = || Model { throw: *throw, density };
    let mut solver = Dop853::new(model(), 0.0, 40.0, 0.01, start, 1e-10, 1e-10);
    solver.integrate().unwrap();
    let probe = model();
    let (t, y) = (solver.x_out(), solver.y_out());
    let k = y.iter().position(|s| s[2] < 0.0).unwrap();
    let greatest_alpha = y[..=k].iter().map(|s| probe.alpha(s).abs()).fold(0.0, f64::max);
    // From the last point above the ground, bisect on the length of one more integration.
    let (mut low, mut high) = (0.0, t[k] - t[k - 1]);
    let mut state = y[k - 1];
    for _ in 0..50 {
        let middle = 0.5 * (low + high);
        let mut solver = Dop853::new(model(), 0.0, middle, middle, y[k - 1], 1e-11, 1e-11);
        solver.integrate().unwrap();
        state = *solver.y_out().last().unwrap();
        if state[2] > 0.0 {
            low = middle
        } else {
            high = middle
        }
        if high - low < 1e-9 {
            break;
        }
    }
    Independent { x_m: state[0], y_m: state[1], time_s: t[k - 1] + low, greatest_alpha }
}
