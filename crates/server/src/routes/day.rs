//! The day, as a query.

use serde::Deserialize;
use utoipa::IntoParams;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::style::Style;

/// Conditions of the day as a query; absent ones are calm and usual.
#[derive(Debug, Clone, Copy, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(default)]
pub struct Day {
    /// Mean wind at 10 m, m/s.
    #[param(minimum = 0.0, maximum = 40.0)]
    pub wind_m_s: f64,
    /// Where it blows from, degrees clockwise from straight ahead: 0 a headwind, 90 from the right.
    #[param(minimum = -360.0, maximum = 360.0)]
    pub wind_from_deg: f64,
    /// Gusts: standard deviation of the wind, m/s.
    #[param(minimum = 0.0, maximum = 8.0)]
    pub gust_m_s: f64,
    /// Share of the usual arm speed.
    #[param(minimum = 0.5, maximum = 1.1)]
    pub power: f64,
    /// Temperature, °C; absent for what is usual at home.
    #[param(minimum = -30.0, maximum = 45.0)]
    pub temperature_c: Option<f64>,
    /// Altitude, m; absent for that of home.
    #[param(minimum = -400.0, maximum = 5000.0)]
    pub altitude_m: Option<f64>,
    /// Relative humidity, 0 to 1.
    #[param(minimum = 0.0, maximum = 1.0)]
    pub humidity: f64,
    /// Whether hands, discs and tees are wet.
    pub wet: bool,
    /// Style, if not the player's strong one.
    pub style: Option<Style>,
}

impl Default for Day {
    fn default() -> Self {
        let c = Conditions::default();
        Day {
            wind_m_s: c.wind_m_s,
            wind_from_deg: c.wind_from_deg,
            gust_m_s: c.gust_m_s,
            power: c.power,
            temperature_c: c.temperature_c,
            altitude_m: c.altitude_m,
            humidity: c.humidity,
            wet: c.wet,
            style: None,
        }
    }
}

impl Day {
    /// As the judgement wants them.
    pub fn conditions(&self) -> Conditions {
        let Day {
            wind_m_s, wind_from_deg, gust_m_s, power, temperature_c, altitude_m, humidity, wet, ..
        } = *self;
        Conditions { wind_m_s, wind_from_deg, gust_m_s, power, temperature_c, altitude_m, humidity, wet }
    }
}
