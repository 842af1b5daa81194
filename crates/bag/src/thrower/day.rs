//! The day: wind, weather, and how much of the arm there is.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::air::Wind;

use crate::error::{BagError, within};

/// Today. The wind blows at 10 m over open ground; its direction counts from the line of the throw.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct Conditions {
    /// Mean wind, m/s, 0 to 40: a line's own wind comes on top of the day's.
    #[schema(minimum = 0.0, maximum = 40.0)]
    pub wind_m_s: f64,
    /// Where it blows from, degrees, clockwise seen from above: 0 from straight ahead (a headwind), 90 from the right,
    /// 180 from behind, 270 from the left; −360 to 360.
    #[schema(minimum = -360.0, maximum = 360.0)]
    pub wind_from_deg: f64,
    /// Gusts: standard deviation of the wind about its mean, along and across, m/s, 0 to 8.
    #[schema(minimum = 0.0, maximum = 8.0)]
    pub gust_m_s: f64,
    /// Share of the usual arm speed, 0.5 to 1.1.
    #[schema(minimum = 0.5, maximum = 1.1)]
    pub power: f64,
    /// Temperature, °C, −30 to 45; absent for what is usual at home.
    #[schema(minimum = -30.0, maximum = 45.0)]
    pub temperature_c: Option<f64>,
    /// Altitude, m, −400 to 5000; absent for that of home.
    #[schema(minimum = -400.0, maximum = 5000.0)]
    pub altitude_m: Option<f64>,
    /// Relative humidity, 0 to 1.
    #[schema(minimum = 0.0, maximum = 1.0)]
    pub humidity: f64,
    /// Whether hands, discs and tees are wet.
    pub wet: bool,
}

impl Default for Conditions {
    fn default() -> Self {
        Conditions {
            wind_m_s: 0.0,
            wind_from_deg: 0.0,
            gust_m_s: 0.0,
            power: 1.0,
            temperature_c: None,
            altitude_m: None,
            humidity: 0.5,
            wet: false,
        }
    }
}

impl Conditions {
    /// # Errors
    /// [`BagError`] for a value outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("wind_m_s", self.wind_m_s, 0.0, 40.0)?;
        within("wind_from_deg", self.wind_from_deg, -360.0, 360.0)?;
        within("gust_m_s", self.gust_m_s, 0.0, 8.0)?;
        within("power", self.power, 0.5, 1.1)?;
        within("temperature_c", self.temperature_c.unwrap_or(15.0), -30.0, 45.0)?;
        within("altitude_m", self.altitude_m.unwrap_or(0.0), -400.0, 5000.0)?;
        within("humidity", self.humidity, 0.0, 1.0)
    }

    /// The mean wind by its parts along and across the throw.
    pub fn wind(&self) -> Wind {
        let (sin, cos) = self.wind_from_deg.to_radians().sin_cos();
        // A headwind of 5 m/s is −5 exactly, not −5 and a breath across.
        let part = |x: f64| if x.abs() < 1e-12 { 0.0 } else { x };
        Wind { along_m_s: part(-self.wind_m_s * cos), left_m_s: part(self.wind_m_s * sin) }
    }

    /// The same day with another wind and other gusts.
    pub fn blowing(self, wind: Wind, gust_m_s: f64) -> Conditions {
        let Wind { along_m_s, left_m_s } = wind;
        Conditions {
            wind_m_s: along_m_s.hypot(left_m_s),
            wind_from_deg: left_m_s.atan2(-along_m_s).to_degrees(),
            gust_m_s,
            ..self
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(0.0, -6.0, 0.0)]
    #[case(90.0, 0.0, 6.0)]
    #[case(180.0, 6.0, 0.0)]
    #[case(270.0, 0.0, -6.0)]
    #[case(-90.0, 0.0, -6.0)]
    fn prop_wind_is_named_for_where_it_comes_from(
        #[case] wind_from_deg: f64,
        #[case] along: f64,
        #[case] left: f64,
    ) {
        let wind = Conditions { wind_m_s: 6.0, wind_from_deg, ..Conditions::default() }.wind();
        assert!((wind.along_m_s - along).abs() < 1e-9 && (wind.left_m_s - left).abs() < 1e-9, "{wind:?}");
        let again = Conditions::default().blowing(wind, 1.0).wind();
        assert!((again.along_m_s - along).abs() < 1e-9 && (again.left_m_s - left).abs() < 1e-9, "{again:?}");
    }
}
