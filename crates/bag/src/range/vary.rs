//! One thing changed: throws of the range that differ in a single value.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::air::Wind;

use crate::error::BagError;
use crate::range::throws::{LIMITS, MOST_THROWS, Setting};
use crate::thrower::day::Conditions;

/// What a comparison can change.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Vary {
    /// Power.
    Power,
    /// Hyzer.
    HyzerDeg,
    /// Launch.
    LaunchDeg,
    /// Nose.
    NoseDeg,
    /// Aim.
    AimDeg,
    /// Spin.
    Spin,
    /// The wind along the throw.
    Wind,
}

/// Throws that differ in one thing.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Variation {
    /// The settings, from least to most.
    pub settings: Vec<Setting>,
    /// Which of them is the one that was given.
    pub own: usize,
}

/// Places that the given setting may have in the row: as near to its middle as the limits allow.
const PLACES: [usize; MOST_THROWS] = [2, 3, 1, 4, 0, 5];
/// What the wind may be along a throw, m/s, headwind negative.
const WIND_LIMIT_M_S: f64 = 25.0;

/// As many throws as the range holds, like `base` but for one thing, in even steps; on a day like `day` unless it has one
/// of its own. Where a limit is in the way the row lies more to the other side of `base`.
///
/// # Errors
/// [`BagError`] for a setting or a day outside its range, or a wind so strong that the row would leave it.
pub fn vary(base: &Setting, what: Vary, day: &Conditions) -> Result<Variation, BagError> {
    base.validate()?;
    let here = base.conditions.unwrap_or(*day);
    here.validate()?;
    let wind = here.wind();
    let (value, step, (low, high)) = match what {
        Vary::Power => (base.power, 0.1, LIMITS.power),
        Vary::HyzerDeg => (base.hyzer_deg, 5.0, LIMITS.hyzer_deg),
        Vary::LaunchDeg => (base.launch_deg, 3.0, LIMITS.launch_deg),
        Vary::NoseDeg => (base.nose_deg, 2.0, LIMITS.nose_deg),
        Vary::AimDeg => (base.aim_deg, 2.0, LIMITS.aim_deg),
        Vary::Spin => (base.spin, 0.1, LIMITS.spin),
        Vary::Wind => (wind.along_m_s, 3.0, (-WIND_LIMIT_M_S, WIND_LIMIT_M_S)),
    };
    let last = (MOST_THROWS - 1) as f64;
    let fits = |own: &usize| {
        let first = value - step * *own as f64;
        first >= low - 1e-9 && first + step * last <= high + 1e-9
    };
    // A wind beyond its limit: the row leads back from it.
    let beyond = if value > 0.5 * (low + high) { MOST_THROWS - 1 } else { 0 };
    let own = PLACES.into_iter().find(fits).unwrap_or(beyond);
    let with = |k: usize| {
        // To a thousandth: steps of a tenth must not show their binary dust.
        let value = (1e3 * (value + step * (k as f64 - own as f64))).round() / 1e3;
        let mut setting = *base;
        match what {
            Vary::Power => (setting.power, setting.speed_m_s) = (value, None),
            Vary::HyzerDeg => setting.hyzer_deg = value,
            Vary::LaunchDeg => setting.launch_deg = value,
            Vary::NoseDeg => setting.nose_deg = value,
            Vary::AimDeg => setting.aim_deg = value,
            Vary::Spin => setting.spin = value,
            Vary::Wind => {
                setting.conditions = Some(here.blowing(Wind { along_m_s: value, ..wind }, here.gust_m_s));
            }
        }
        setting
    };
    let settings: Vec<Setting> = (0..MOST_THROWS).map(with).collect();
    settings.iter().filter_map(|s| s.conditions).try_for_each(|day| day.validate())?;
    Ok(Variation { settings, own })
}
