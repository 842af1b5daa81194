//! The disc as a body: its aerodynamic coefficients, mass and inertia.

use serde::{Deserialize, Serialize};

use crate::error::{FlightError, check};

/// Outer radius of the disc that the calibration assumes, m.
pub const STANDARD_RADIUS_M: f64 = 0.106;
/// Spin-axis inertia as a share of m R²: between a uniform plate (0.5) and a hoop (1). Common practice, no source.
pub const INERTIA_SHARE: f64 = 0.75;

/// Aerodynamic coefficients about the disc's centre, reference area πR² and reference length 2R.
///
/// With the angle of attack α in radians, valid up to about 25°:
/// C_L = `cl0` + `cl_alpha` α, C_D = `cd0` + `cd_alpha` (α − `alpha0`)², C_M = `cm0` + `cm_alpha` α +
/// `cm_alpha2` α|α|, nose-up positive. Past 25° see [`crate::aero`]. The last three fields default to zero, which
/// leaves the polynomials as they stand.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Coefficients {
    /// Drag at its least, dimensionless.
    pub cd0: f64,
    /// Growth of drag with angle of attack, per rad².
    pub cd_alpha: f64,
    /// Angle of attack of least drag, rad.
    pub alpha0: f64,
    /// Lift at zero angle of attack.
    pub cl0: f64,
    /// Lift slope, per rad.
    pub cl_alpha: f64,
    /// Pitching moment at zero angle of attack.
    pub cm0: f64,
    /// Pitching moment slope, per rad.
    pub cm_alpha: f64,
    /// Growth of that slope, per rad².
    pub cm_alpha2: f64,
    /// Rate at which spin dies away, per s.
    #[serde(default)]
    pub spin_decay: f64,
    /// Pitching moment per unit of advance ratio ωR/V above 0.5: a spinning rim drags air round with it.
    #[serde(default)]
    pub cm_spin: f64,
    /// Pitching moment per unit of (V² − V₀²) / (V² + V₀²) with V₀ = 25 m/s: the faster the air, the more a disc
    /// turns, ever less so.
    #[serde(default)]
    pub cm_speed: f64,
    /// Relative growth of `cd0` per unit of (V / 25 m/s)² above 1, below 1: a harder throw wobbles more.
    #[serde(default)]
    pub cd_speed: f64,
    /// Roll moment at zero angle of attack, positive where its precession lifts the nose: the advancing side of a
    /// spinning disc meets faster air than the retreating one.
    #[serde(default)]
    pub cr0: f64,
    /// Growth of the roll moment with angle of attack, per rad.
    #[serde(default)]
    pub cr_alpha: f64,
    /// Lift per unit of (V² − V₀²) / (V² + V₀²), negative where slow air carries better.
    #[serde(default)]
    pub cl_speed: f64,
    /// Part of the moment that is the same on both sides of zero angle of attack, per rad²: the hollow side is not the
    /// top's mirror image.
    #[serde(default)]
    pub cm_even: f64,
}

impl Coefficients {
    /// All of them in a row: what tells two discs apart in the air.
    pub fn to_array(&self) -> [f64; 16] {
        let c = self;
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
            c.cl_speed,
            c.spin_decay,
        ]
    }

    /// # Errors
    /// [`FlightError::OutOfRange`] for the first coefficient that no disc could have.
    pub fn validate(&self) -> Result<(), FlightError> {
        check("cd0", self.cd0, 0.0, 2.0)?;
        check("cd_alpha", self.cd_alpha, 0.0, 20.0)?;
        check("alpha0", self.alpha0, -1.0, 1.0)?;
        check("cl0", self.cl0, -2.0, 2.0)?;
        check("cl_alpha", self.cl_alpha, -1.0, 10.0)?;
        check("cm0", self.cm0, -1.0, 1.0)?;
        check("cm_alpha", self.cm_alpha, -2.0, 2.0)?;
        check("cm_alpha2", self.cm_alpha2, -5.0, 5.0)?;
        check("spin_decay", self.spin_decay, 0.0, 2.0)?;
        check("cm_spin", self.cm_spin, -1.0, 1.0)?;
        check("cm_speed", self.cm_speed, -1.0, 1.0)?;
        check("cd_speed", self.cd_speed, 0.0, 0.99)?;
        check("cr0", self.cr0, -0.5, 0.5)?;
        check("cr_alpha", self.cr_alpha, -2.0, 2.0)?;
        check("cl_speed", self.cl_speed, -1.0, 1.0)?;
        check("cm_even", self.cm_even, -2.0, 2.0)
    }
}

/// A disc ready to be flown.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Disc {
    /// Its aerodynamics.
    pub coefficients: Coefficients,
    /// Mass, kg.
    pub mass_kg: f64,
    /// Outer radius, m.
    pub radius_m: f64,
    /// Moment of inertia about the spin axis, kg m².
    pub inertia_kg_m2: f64,
}

impl Disc {
    /// A disc of the standard radius and inertia share.
    ///
    /// # Errors
    /// As [`Disc::validate`].
    pub fn standard(coefficients: Coefficients, mass_kg: f64) -> Result<Disc, FlightError> {
        let disc = Disc {
            coefficients,
            mass_kg,
            radius_m: STANDARD_RADIUS_M,
            inertia_kg_m2: INERTIA_SHARE * mass_kg * STANDARD_RADIUS_M * STANDARD_RADIUS_M,
        };
        disc.validate()?;
        Ok(disc)
    }

    /// # Errors
    /// [`FlightError::OutOfRange`] for the first value that no thrown disc could have.
    pub fn validate(&self) -> Result<(), FlightError> {
        self.coefficients.validate()?;
        check("mass_kg", self.mass_kg, 0.02, 0.5)?;
        check("radius_m", self.radius_m, 0.03, 0.3)?;
        check("inertia_kg_m2", self.inertia_kg_m2, 1e-6, 0.05)
    }
}
