//! `zinc-kite fly`: one throw as JSON in, its flight as JSON out.

use serde::{Deserialize, Serialize};
use zinc_kite_flight::air::{Air, STANDARD_DENSITY_KG_M3, Wind};
use zinc_kite_flight::batch::fly_one;
use zinc_kite_flight::disc::{Coefficients, Disc, INERTIA_SHARE, STANDARD_RADIUS_M};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::error::FlightError;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::{Outcome, PathPoint};
use zinc_kite_flight::release::{Hand, Release, Style};

/// What to fly. Absent parts are usual: 175 g, still standard air, a flat right-hand backhand.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct FlyRequest {
    numbers: Option<FlightNumbers>,
    coefficients: Option<Coefficients>,
    #[serde(default = "usual_mass_g")]
    mass_g: f64,
    radius_m: Option<f64>,
    inertia_kg_m2: Option<f64>,
    release: ReleaseRequest,
    #[serde(default)]
    air: AirRequest,
    #[serde(default)]
    wind: WindRequest,
    #[serde(default)]
    path: bool,
}

fn usual_mass_g() -> f64 {
    175.0
}

fn usual_hand() -> Hand {
    Hand::Right
}

fn usual_style() -> Style {
    Style::Backhand
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct ReleaseRequest {
    speed_m_s: f64,
    #[serde(default)]
    launch_deg: Option<f64>,
    #[serde(default)]
    nose_deg: Option<f64>,
    #[serde(default)]
    hyzer_deg: Option<f64>,
    #[serde(default)]
    aim_deg: f64,
    spin_rad_s: Option<f64>,
    height_m: Option<f64>,
    #[serde(default = "usual_hand")]
    hand: Hand,
    #[serde(default = "usual_style")]
    style: Style,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct AirRequest {
    density_kg_m3: f64,
}

impl Default for AirRequest {
    fn default() -> Self {
        AirRequest { density_kg_m3: STANDARD_DENSITY_KG_M3 }
    }
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct WindRequest {
    #[serde(default)]
    along_m_s: f64,
    #[serde(default)]
    left_m_s: f64,
    #[serde(default)]
    profile_exponent: f64,
}

/// The flight.
#[derive(Debug, Serialize)]
pub struct FlyAnswer {
    #[serde(flatten)]
    outcome: Outcome,
    distance_m: f64,
    landing_speed_m_s: f64,
    descent_deg: f64,
    /// The coefficients that were flown.
    coefficients: Coefficients,
    #[serde(skip_serializing_if = "Option::is_none")]
    path: Option<Vec<PathPoint>>,
}

/// Why a request cannot be flown.
#[derive(Debug, thiserror::Error)]
pub enum FlyError {
    /// Not the JSON expected.
    #[error("the request is not what was expected: {0}; `zinc-kite fly --help` shows one that works")]
    Unreadable(#[from] serde_json::Error),
    /// Neither or both ways of describing the disc.
    #[error("give either \"numbers\" or \"coefficients\" for the disc, and not both")]
    WhichDisc,
    /// A value out of range.
    #[error(transparent)]
    Flight(#[from] FlightError),
}

/// Flies the throw that `json` asks for.
///
/// # Errors
/// [`FlyError`] if the request cannot be read or flown.
pub fn fly(json: &str) -> Result<FlyAnswer, FlyError> {
    let request: FlyRequest = serde_json::from_str(json)?;
    let coefficients = match (&request.numbers, &request.coefficients) {
        (Some(numbers), None) => {
            numbers.validate()?;
            numbers.coefficients()
        }
        (None, Some(coefficients)) => *coefficients,
        _ => return Err(FlyError::WhichDisc),
    };
    let mass_kg = request.mass_g / 1000.0;
    let radius_m = request.radius_m.unwrap_or(STANDARD_RADIUS_M);
    let disc = Disc {
        coefficients,
        mass_kg,
        radius_m,
        inertia_kg_m2: request.inertia_kg_m2.unwrap_or(INERTIA_SHARE * mass_kg * radius_m * radius_m),
    };
    let throw = Throw {
        disc,
        release: release(&request.release),
        wind: Wind { along_m_s: request.wind.along_m_s, left_m_s: request.wind.left_m_s },
    };
    let air = Air::new(request.air.density_kg_m3, request.wind.profile_exponent)?;
    let (outcome, path) = fly_one(&throw, &air)?;
    Ok(FlyAnswer {
        outcome,
        distance_m: outcome.distance_m(),
        landing_speed_m_s: outcome.landing_speed_m_s(),
        descent_deg: outcome.descent_deg(),
        coefficients,
        path: request.path.then_some(path),
    })
}

fn release(r: &ReleaseRequest) -> Release {
    let rated = Release::rated(r.speed_m_s, r.hand, r.style);
    Release {
        launch_deg: r.launch_deg.unwrap_or(rated.launch_deg),
        nose_deg: r.nose_deg.unwrap_or(rated.nose_deg),
        hyzer_deg: r.hyzer_deg.unwrap_or(rated.hyzer_deg),
        aim_deg: r.aim_deg,
        spin_rad_s: r.spin_rad_s.unwrap_or(rated.spin_rad_s),
        height_m: r.height_m.unwrap_or(rated.height_m),
        ..rated
    }
}
