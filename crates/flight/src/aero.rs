//! Forces and pitching moment as functions of the angle of attack, over the whole circle.
//!
//! Up to 25° the polynomials of [`Coefficients`] stand exactly. From there to 50° they give way, by a quintic
//! blend that is continuous in value, slope and curvature, to a flat plate: lift sin 2α, drag C_D0 + 1.1 sin²α and
//! a moment that dies away as the centre of pressure returns to the middle. The plate's constants are this
//! project's own judgement; a flat disc broadside has a drag coefficient of about 1.1 (Hoerner, *Fluid-Dynamic
//! Drag*, 1965, from memory).

use crate::disc::Coefficients;
use crate::real::{Column, MAX_WIDTH, Real, polynomial};

/// sin 25°: below this the polynomials stand alone.
const BLEND_FROM_SIN: f64 = 0.422_618_261_740_699_4;
/// sin 50°: above this the plate stands alone.
const BLEND_TO_SIN: f64 = 0.766_044_443_118_978;
/// tan² 25°: the half angle of 50°, beyond which the angle itself no longer matters.
const HALF_TAN_SQUARED_MAX: f64 = 0.217_442_798_630_7;
const PLATE_DRAG: f64 = 1.1;
const PLATE_LIFT: f64 = 1.0;
const PLATE_MOMENT_SHARE: f64 = 0.5;

/// Speed at which `cd_speed` and `cm_speed` have no effect, m/s.
pub const REFERENCE_SPEED_M_S: f64 = 25.0;
/// Advance ratio at which `cm_spin` has no effect.
pub const REFERENCE_ADVANCE_RATIO: f64 = 0.5;

/// atan(x)/x as a polynomial in x², by Chebyshev interpolation on 0..0.22; error below 3e-16.
const ATAN_OVER_X: [f64; 11] = [
    0.999_999_999_999_999_6,
    -0.333_333_333_332_858_86,
    0.199_999_999_913_371_78,
    -0.142_857_136_665_992_5,
    0.111_110_883_198_949_28,
    -0.090_904_168_119_244_86,
    0.076_856_236_680_379_93,
    -0.066_076_192_010_412_8,
    0.055_396_065_659_718_496,
    -0.039_716_276_577_496_91,
    0.017_076_127_933_912_51,
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
    [
        c.cd0,
        c.cd_alpha,
        c.alpha0,
        c.cl0,
        c.cl_alpha,
        c.cm0,
        c.cm_alpha,
        c.cm_alpha2,
        c.cm_spin,
        c.cm_speed,
        c.cd_speed,
        c.cr0,
        c.cr_alpha,
        c.cm_even,
    ]
}

/// Dimensionless lift, drag, nose-up moment and roll moment (positive where its precession lifts the nose).
#[derive(Clone, Copy)]
pub(crate) struct Loads<R> {
    pub cl: R,
    pub cd: R,
    pub cm: R,
    pub cr: R,
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

    /// Loads at an angle of attack given by its sine, its cosine (never negative) and the tangent of its half,
    /// at airspeed `v` (m/s) and advance ratio `advance` (dimensionless).
    #[inline(always)]
    pub(crate) fn loads(&self, sin: R, cos: R, half_tan: R, v: R, advance: R) -> Loads<R> {
        let half2 = (half_tan * half_tan).min(sin.like(HALF_TAN_SQUARED_MAX));
        let alpha = half_tan * polynomial(half2, &ATAN_OVER_X) * sin.like(2.0);
        let abs_alpha = alpha.max(-alpha);
        let abs_sin = sin.max(-sin);

        let reference = v.like(REFERENCE_SPEED_M_S);
        let faster = v.like(2.0) * (v - reference) / (v + reference);
        let harder = (v * v).mul_add(v.like(1.0 / (REFERENCE_SPEED_M_S * REFERENCE_SPEED_M_S)), v.like(-1.0));
        let cd0 = self.cd0 * self.cd_speed.mul_add(harder, v.like(1.0));
        let off = alpha - self.alpha0;
        let cd_in = (self.cd_alpha * off).mul_add(off, cd0);
        let cl_in = self.cl_alpha.mul_add(alpha, self.cl0);
        let slope = self.cm_alpha2.mul_add(abs_alpha, self.cm_even.mul_add(alpha, self.cm_alpha));
        let cm_in = slope.mul_add(alpha, self.cm0)
            + self.cm_speed.mul_add(faster, self.cm_spin * (advance - advance.like(REFERENCE_ADVANCE_RATIO)));

        let span = 1.0 / (BLEND_TO_SIN - BLEND_FROM_SIN);
        let t = ((abs_sin - sin.like(BLEND_FROM_SIN)) * sin.like(span)).max(sin.like(0.0)).min(sin.like(1.0));
        let w = t * t * t * polynomial(t, &[10.0, -15.0, 6.0]);

        let cl_out = sin * cos * sin.like(2.0 * PLATE_LIFT);
        let cd_out = (sin * sin).mul_add(sin.like(PLATE_DRAG), cd0);
        let cm_out = self.cm_alpha * sin * cos * cos * sin.like(PLATE_MOMENT_SHARE);
        Loads {
            cl: (cl_out - cl_in).mul_add(w, cl_in),
            cd: (cd_out - cd_in).mul_add(w, cd_in),
            cm: (cm_out - cm_in).mul_add(w, cm_in),
            cr: self.cr_alpha.mul_add(alpha, self.cr0) * (w.like(1.0) - w),
        }
    }
}

/// Lift, drag and moment coefficients of a disc at angle of attack `alpha_rad` (−π/2..π/2), airspeed `speed_m_s`
/// and the reference advance ratio: for plots and tests.
pub fn coefficients_at(disc: &Coefficients, alpha_rad: f64, speed_m_s: f64) -> (f64, f64, f64) {
    let aero = Aero::<f64>::load((), &fields(disc).map(|x| [x; MAX_WIDTH]));
    let loads = aero.loads(
        alpha_rad.sin(),
        alpha_rad.cos(),
        (0.5 * alpha_rad).tan(),
        speed_m_s,
        REFERENCE_ADVANCE_RATIO,
    );
    (loads.cl, loads.cd, loads.cm)
}
