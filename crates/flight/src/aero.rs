//! Forces and pitching moment as functions of the angle of attack, over the whole circle.
//!
//! Up to 25° the polynomials of [`Coefficients`] stand exactly. From there to 50° they give way, by a quintic
//! blend that is continuous in value, slope and curvature, to a flat plate: lift sin 2α, drag C_D0 + 1.1 sin²α and
//! a moment that dies away as the centre of pressure returns to the middle. The plate's constants are this
//! project's own judgement; a flat disc broadside has a drag coefficient of about 1.1 (Hoerner, *Fluid-Dynamic
//! Drag*, 1965, from memory).

use crate::disc::Coefficients;
use crate::real::{Column, MAX_WIDTH, Real, angle_of_half, quintet};

/// sin 25°: below this the polynomials stand alone.
const BLEND_FROM_SIN: f64 = 0.422_618_261_740_699_4;
/// sin 50°: above this the plate stands alone.
const BLEND_TO_SIN: f64 = 0.766_044_443_118_978;
const PLATE_DRAG: f64 = 1.1;
const PLATE_LIFT: f64 = 1.0;
const PLATE_MOMENT_SHARE: f64 = 0.5;

/// Speed at which `cd_speed` and `cm_speed` have no effect, m/s.
pub const REFERENCE_SPEED_M_S: f64 = 25.0;
pub(crate) const REFERENCE_SPEED_SQUARED: f64 = REFERENCE_SPEED_M_S * REFERENCE_SPEED_M_S;
/// Advance ratio at which `cm_spin` has no effect.
pub const REFERENCE_ADVANCE_RATIO: f64 = 0.5;

/// asin(x)/x and 1/√(1 − x²) as polynomials in x², by Chebyshev interpolation on 0..sin² 25°: they spare the kernel two
/// square roots and a division where the disc has not stalled. Errors below 2e-8 and 2e-7.
const ASIN_OVER_X: [f64; 5] = [
    1.000_000_011_490_937_5,
    0.166_663_458_867_724_55,
    0.075_141_563_591_919_56,
    0.042_495_293_947_091_31,
    0.043_149_602_409_891_41,
];
const SECANT: [f64; 5] = [
    1.000_000_135_476_514,
    0.499_962_198_852_455_5,
    0.376_663_909_233_545_04,
    0.287_402_239_247_228_74,
    0.420_723_791_060_478_64,
];

/// What turns coefficients into rates of motion.
#[derive(Clone, Copy)]
pub(crate) struct Scales<R> {
    /// Of lift and drag: ½ρA/m, 1/m.
    pub force: R,
    /// Of the pitching moment: σ·½ρAd/I_z, 1/m².
    pub pitch: R,
    /// Of the roll moment: ½ρAd/I_z, 1/m².
    pub roll: R,
    /// The disc's radius, m.
    pub radius: R,
}

/// Coefficients of one or several discs, lane by lane: multiplied by their [`Scales`] and gathered by powers of what they
/// multiply, so that the kernel need not do it at every evaluation.
#[derive(Clone, Copy)]
pub(crate) struct Aero<R> {
    /// Scale of the forces, for the plate.
    force: R,
    /// Drag: constant, by airspeed squared, by α and by α²; the plate's constant.
    cd0: R,
    cd_plate: R,
    cd_speed: R,
    cd_alpha: R,
    cd_alpha2: R,
    /// Lift: constant, by 1/(V² + V_ref²) and by α.
    cl0: R,
    cl_speed: R,
    cl_alpha: R,
    /// Pitching moment: constant, by 1/(V² + V_ref²), by spin/V, by α, by α² and by α|α|.
    cm0: R,
    cm_speed: R,
    cm_spin: R,
    cm_alpha: R,
    cm_even: R,
    cm_alpha2: R,
    cr0: R,
    cr_alpha: R,
}

/// Number of coefficients that decide the loads.
pub(crate) const FIELDS: usize = 15;

/// The coefficients that decide the loads, in the order of [`Aero::load`].
pub(crate) fn fields(c: &Coefficients) -> [f64; FIELDS] {
    let [fields @ .., _spin_decay] = c.to_array();
    fields
}

/// Lift, drag, nose-up moment and roll moment (positive where its precession lifts the nose), each times its scale, and the
/// secant of the angle of attack they stand at.
#[derive(Clone, Copy)]
pub(crate) struct Loads<R> {
    pub lift: R,
    pub drag: R,
    pub pitch: R,
    pub roll: R,
    pub secant: R,
}

/// How the air meets a disc: the sine of the angle of attack (−90° to 90°) and its square, which is known sooner, the square
/// of the airspeed (m²/s²), 1 / (that + [`REFERENCE_SPEED_M_S`]²) and spin by airspeed (rad/m).
#[derive(Clone, Copy)]
pub(crate) struct Flow<R> {
    pub sin: R,
    pub sin2: R,
    pub v2: R,
    pub inverse_faster: R,
    pub spin_by_v: R,
}

impl<R: Real> Aero<R> {
    /// From one column a coefficient, in the order of [`fields`].
    #[inline(always)]
    pub(crate) fn load(token: R::Token, columns: &[Column; FIELDS], scales: &Scales<R>) -> Aero<R> {
        let [cd0, cd_alpha, alpha0, cl0, cl_alpha, moments @ ..] = columns;
        let [cm0, cm_alpha, cm_alpha2, cm_spin, cm_speed, cd_speed, cr0, cr_alpha, cm_even, cl_speed] =
            moments;
        let Scales { force, pitch, roll, radius } = *scales;
        let (cd0, cd2, alpha0) =
            (R::load(token, cd0) * force, R::load(token, cd_alpha) * force, R::load(token, alpha0));
        // Drag at no lift is cd0 (1 + cd_speed (V²/V_ref² − 1)), that of lift cd_alpha (α − α0)².
        let faster = cd0 * R::load(token, cd_speed);
        // The moment at α = 0 is cm0 + cm_speed (V² − V_ref²)/(V² + V_ref²) + cm_spin (ωR/V − advance at reference).
        let (cm_speed, cm_spin) = (R::load(token, cm_speed) * pitch, R::load(token, cm_spin) * pitch);
        let cl_speed = R::load(token, cl_speed) * force;
        let cm0 = cm_spin
            .mul_add(pitch.like(-REFERENCE_ADVANCE_RATIO), R::load(token, cm0).mul_add(pitch, cm_speed));
        Aero {
            force,
            cd0: (cd2 * alpha0).mul_add(alpha0, cd0 - faster),
            cd_plate: cd0 - faster,
            cd_speed: faster * force.like(1.0 / REFERENCE_SPEED_SQUARED),
            cd_alpha: cd2 * alpha0 * force.like(-2.0),
            cd_alpha2: cd2,
            cl0: R::load(token, cl0).mul_add(force, cl_speed),
            cl_speed: cl_speed * force.like(-2.0 * REFERENCE_SPEED_SQUARED),
            cl_alpha: R::load(token, cl_alpha) * force,
            cm0,
            cm_speed: cm_speed * pitch.like(-2.0 * REFERENCE_SPEED_SQUARED),
            cm_spin: cm_spin * radius,
            cm_alpha: R::load(token, cm_alpha) * pitch,
            cm_even: R::load(token, cm_even) * pitch,
            cm_alpha2: R::load(token, cm_alpha2) * pitch,
            cr0: R::load(token, cr0) * roll,
            cr_alpha: R::load(token, cr_alpha) * roll,
        }
    }

    /// Loads in a flow.
    #[inline(always)]
    pub(crate) fn loads(&self, flow: &Flow<R>) -> Loads<R> {
        let Flow { sin, sin2, .. } = *flow;
        // α by its sine.
        let stretch = quintet(sin2, &ASIN_OVER_X);
        let secant = quintet(sin2, &SECANT);
        // Most throws never stall, and where one lane does the others come out of it unchanged.
        if sin.like(BLEND_FROM_SIN).any_less(sin.abs()) {
            self.past_stall(flow, stretch, secant)
        } else {
            self.attached(flow, stretch, secant)
        }
    }

    /// The polynomials in α = `stretch` × sin α. By the sine, they have most of what they need before `stretch` is known.
    #[inline(always)]
    fn attached(&self, flow: &Flow<R>, stretch: R, secant: R) -> Loads<R> {
        let Flow { sin, sin2, .. } = *flow;
        let level =
            self.cm_spin.mul_add(flow.spin_by_v, self.cm_speed.mul_add(flow.inverse_faster, self.cm0));
        let (slope, bend) =
            (self.cm_alpha * sin, self.cm_alpha2.mul_add(sin.abs() * sin, self.cm_even * sin2));
        let zero_lift = self.cd_speed.mul_add(flow.v2, self.cd0);
        let level_lift = self.cl_speed.mul_add(flow.inverse_faster, self.cl0);
        let (lean, bow) = (self.cd_alpha * sin, self.cd_alpha2 * sin2);
        Loads {
            lift: (self.cl_alpha * sin).mul_add(stretch, level_lift),
            drag: bow.mul_add(stretch, lean).mul_add(stretch, zero_lift),
            pitch: bend.mul_add(stretch, slope).mul_add(stretch, level),
            roll: (self.cr_alpha * sin).mul_add(stretch, self.cr0),
            secant,
        }
    }

    /// The loads where some lane has stalled; `stretch` and `secant` hold in the others.
    #[inline(always)]
    fn past_stall(&self, flow: &Flow<R>, stretch: R, secant: R) -> Loads<R> {
        let sin = flow.sin;
        let (zero, one, from) = (sin.like(0.0), sin.like(1.0), sin.like(BLEND_FROM_SIN));
        let depth = sin.abs() - from;
        // A tiny floor keeps a disc that moves straight along its own axis finite.
        let cos = (one - sin * sin).max(sin.like(1e-8)).sqrt();
        // Right up to 50°, beyond which only the plate counts.
        let wide = angle_of_half(sin / (one + cos));
        let stretch = zero.if_less(depth, wide / sin, stretch);
        let secant = zero.if_less(depth, one / cos, secant);
        let attached = self.attached(flow, stretch, secant);
        let t = (depth * sin.like(1.0 / (BLEND_TO_SIN - BLEND_FROM_SIN))).max(zero).min(one);
        let w = t * t * t * t.mul_add(t.mul_add(t.like(6.0), t.like(-15.0)), t.like(10.0));
        let lift = self.force * sin * cos * sin.like(2.0 * PLATE_LIFT);
        let zero_lift = self.cd_speed.mul_add(flow.v2, self.cd_plate);
        let drag = (self.force * sin * sin).mul_add(sin.like(PLATE_DRAG), zero_lift);
        let pitch = self.cm_alpha * sin * cos * cos * sin.like(PLATE_MOMENT_SHARE);
        Loads {
            lift: (lift - attached.lift).mul_add(w, attached.lift),
            drag: (drag - attached.drag).mul_add(w, attached.drag),
            pitch: (pitch - attached.pitch).mul_add(w, attached.pitch),
            roll: attached.roll * (one - w),
            secant,
        }
    }
}

/// Lift, drag and moment coefficients of a disc at angle of attack `alpha_rad` (−π/2..π/2), airspeed `speed_m_s`
/// and the reference advance ratio: for plots and tests.
pub fn coefficients_at(disc: &Coefficients, alpha_rad: f64, speed_m_s: f64) -> (f64, f64, f64) {
    let scales = Scales { force: 1.0, pitch: 1.0, roll: 1.0, radius: 1.0 };
    let aero = Aero::<f64>::load((), &fields(disc).map(|x| [x; MAX_WIDTH]), &scales);
    let loads = aero.loads(&Flow {
        sin: alpha_rad.sin(),
        sin2: alpha_rad.sin().powi(2),
        v2: speed_m_s * speed_m_s,
        inverse_faster: 1.0 / (speed_m_s * speed_m_s + REFERENCE_SPEED_SQUARED),
        spin_by_v: REFERENCE_ADVANCE_RATIO,
    });
    (loads.lift, loads.drag, loads.pitch)
}
