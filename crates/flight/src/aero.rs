//! Forces and pitching moment as functions of the angle of attack, over the whole circle.
//!
//! Up to 25° the polynomials of [`Coefficients`] stand exactly. From there to 50° they give way, by a quintic
//! blend that is continuous in value, slope and curvature, to a flat plate: lift sin 2α, drag C_D0 + 1.1 sin²α and
//! a moment that dies away as the centre of pressure returns to the middle. The plate's constants are this
//! project's own judgement; a flat disc broadside has a drag coefficient of about 1.1 (Hoerner, *Fluid-Dynamic
//! Drag*, 1965, from memory).

use crate::disc::Coefficients;
use crate::real::{Column, MAX_WIDTH, Real, sextet};

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
/// square roots and a division where the disc has not stalled. Errors below 1e-9 and 1e-8.
const ASIN_OVER_X: [f64; 6] = [
    0.999_999_999_564_093_2,
    0.166_666_842_034_804_09,
    0.074_988_664_578_046_43,
    0.044_907_823_084_120_314,
    0.027_636_925_959_690_185,
    0.034_874_299_833_955_805,
];
const SECANT: [f64; 6] = [
    0.999_999_993_903_540_1,
    0.500_002_451_924_202_8,
    0.374_841_755_498_187_27,
    0.316_187_245_335_299_07,
    0.235_468_631_176_520_12,
    0.416_768_379_767_913_75,
];
/// atan(x)/x likewise on 0..tan² 25°, for half angles: up to 50°, beyond which only the plate counts. Error below 3e-9.
const ATAN_OVER_X: [f64; 6] = [
    0.999_999_997_654_362_1,
    -0.333_332_554_628_417_2,
    0.199_957_658_941_598_64,
    -0.142_003_084_862_917_3,
    0.103_124_882_131_119_12,
    -0.054_392_938_755_202_84,
];

/// Coefficients of one or several discs, lane by lane.
#[derive(Clone, Copy)]
pub(crate) struct Aero<R> {
    cd0: R,
    cd_alpha: R,
    alpha0: R,
    cl0: R,
    cl_alpha: R,
    cm0: R,
    cm_alpha: R,
    cm_alpha2: R,
    cm_spin: R,
    cm_speed: R,
    cd_speed: R,
    cr0: R,
    cr_alpha: R,
    cm_even: R,
}

/// Number of coefficients that decide the loads.
pub(crate) const FIELDS: usize = 14;

/// The coefficients that decide the loads, in the order of [`Aero::load`].
pub(crate) fn fields(c: &Coefficients) -> [f64; FIELDS] {
    let [fields @ .., _spin_decay] = c.to_array();
    fields
}

/// Dimensionless lift, drag, nose-up moment and roll moment (positive where its precession lifts the nose), and the
/// secant of the angle of attack they stand at.
#[derive(Clone, Copy)]
pub(crate) struct Loads<R> {
    pub cl: R,
    pub cd: R,
    pub cm: R,
    pub cr: R,
    pub secant: R,
}

/// How the air meets a disc: the sine of the angle of attack (−90° to 90°), the square of the airspeed (m²/s²), 1 / (that +
/// [`REFERENCE_SPEED_M_S`]²) and the advance ratio (dimensionless).
#[derive(Clone, Copy)]
pub(crate) struct Flow<R> {
    pub sin: R,
    pub v2: R,
    pub inverse_faster: R,
    pub advance: R,
}

impl<R: Real> Aero<R> {
    /// From one column a coefficient, in the order of [`fields`].
    #[inline(always)]
    pub(crate) fn load(token: R::Token, columns: &[Column; FIELDS]) -> Aero<R> {
        let [
            cd0,
            cd_alpha,
            alpha0,
            cl0,
            cl_alpha,
            cm0,
            cm_alpha,
            cm_alpha2,
            cm_spin,
            cm_speed,
            cd_speed,
            cr0,
            cr_alpha,
            cm_even,
        ] = columns;
        Aero {
            cd0: R::load(token, cd0),
            cd_alpha: R::load(token, cd_alpha),
            alpha0: R::load(token, alpha0),
            cl0: R::load(token, cl0),
            cl_alpha: R::load(token, cl_alpha),
            cm0: R::load(token, cm0),
            cm_alpha: R::load(token, cm_alpha),
            cm_alpha2: R::load(token, cm_alpha2),
            cm_spin: R::load(token, cm_spin),
            cm_speed: R::load(token, cm_speed),
            cd_speed: R::load(token, cd_speed),
            cr0: R::load(token, cr0),
            cr_alpha: R::load(token, cr_alpha),
            cm_even: R::load(token, cm_even),
        }
    }

    /// Loads in a flow.
    #[inline(always)]
    pub(crate) fn loads(&self, flow: &Flow<R>) -> Loads<R> {
        let sin = flow.sin;
        let sin2 = sin * sin;
        let alpha = sin * sextet(sin2, &ASIN_OVER_X);
        let secant = sextet(sin2, &SECANT);
        // Most throws never stall, and where one lane does the others come out of it unchanged.
        if sin.like(BLEND_FROM_SIN).any_less(sin.max(-sin)) {
            self.past_stall(flow, alpha, secant)
        } else {
            self.attached(flow, alpha, secant)
        }
    }

    #[inline(always)]
    fn zero_lift_drag(&self, v2: R) -> R {
        let harder = v2.mul_add(v2.like(1.0 / REFERENCE_SPEED_SQUARED), v2.like(-1.0));
        (self.cd0 * self.cd_speed).mul_add(harder, self.cd0)
    }

    /// The polynomials.
    #[inline(always)]
    fn attached(&self, flow: &Flow<R>, alpha: R, secant: R) -> Loads<R> {
        let v2 = flow.v2;
        let faster = (v2 - v2.like(REFERENCE_SPEED_SQUARED)) * flow.inverse_faster;
        let spinning = flow.advance - v2.like(REFERENCE_ADVANCE_RATIO);
        let at_rest = self.cm_speed.mul_add(faster, self.cm_spin.mul_add(spinning, self.cm0));
        let slope = self.cm_alpha2.mul_add(alpha.max(-alpha), self.cm_even.mul_add(alpha, self.cm_alpha));
        let off = alpha - self.alpha0;
        Loads {
            cl: self.cl_alpha.mul_add(alpha, self.cl0),
            cd: (self.cd_alpha * off).mul_add(off, self.zero_lift_drag(v2)),
            cm: slope.mul_add(alpha, at_rest),
            cr: self.cr_alpha.mul_add(alpha, self.cr0),
            secant,
        }
    }

    /// The loads where some lane has stalled; `alpha` and `secant` hold in the others.
    #[inline(always)]
    fn past_stall(&self, flow: &Flow<R>, alpha: R, secant: R) -> Loads<R> {
        let sin = flow.sin;
        let (zero, one, from) = (sin.like(0.0), sin.like(1.0), sin.like(BLEND_FROM_SIN));
        let depth = sin.max(-sin) - from;
        // A tiny floor keeps a disc that moves straight along its own axis finite.
        let cos = (one - sin * sin).max(sin.like(1e-12)).sqrt();
        let half_tan = sin / (one + cos);
        let wide = half_tan * sextet(half_tan * half_tan, &ATAN_OVER_X) * sin.like(2.0);
        let alpha = zero.if_less(depth, wide, alpha);
        let secant = zero.if_less(depth, one / cos, secant);
        let attached = self.attached(flow, alpha, secant);
        let t = (depth * sin.like(1.0 / (BLEND_TO_SIN - BLEND_FROM_SIN))).max(zero).min(one);
        let w = t * t * t * t.mul_add(t.mul_add(t.like(6.0), t.like(-15.0)), t.like(10.0));
        let cl = sin * cos * sin.like(2.0 * PLATE_LIFT);
        let cd = (sin * sin).mul_add(sin.like(PLATE_DRAG), self.zero_lift_drag(flow.v2));
        let cm = self.cm_alpha * sin * cos * cos * sin.like(PLATE_MOMENT_SHARE);
        Loads {
            cl: (cl - attached.cl).mul_add(w, attached.cl),
            cd: (cd - attached.cd).mul_add(w, attached.cd),
            cm: (cm - attached.cm).mul_add(w, attached.cm),
            cr: attached.cr * (one - w),
            secant,
        }
    }
}

/// Lift, drag and moment coefficients of a disc at angle of attack `alpha_rad` (−π/2..π/2), airspeed `speed_m_s`
/// and the reference advance ratio: for plots and tests.
pub fn coefficients_at(disc: &Coefficients, alpha_rad: f64, speed_m_s: f64) -> (f64, f64, f64) {
    let aero = Aero::<f64>::load((), &fields(disc).map(|x| [x; MAX_WIDTH]));
    let loads = aero.loads(&Flow {
        sin: alpha_rad.sin(),
        v2: speed_m_s * speed_m_s,
        inverse_faster: 1.0 / (speed_m_s * speed_m_s + REFERENCE_SPEED_SQUARED),
        advance: REFERENCE_ADVANCE_RATIO,
    });
    (loads.cl, loads.cd, loads.cm)
}
