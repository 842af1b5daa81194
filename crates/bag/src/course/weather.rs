//! The weather of a day on a course: a forecast by the hour, and what of it there is on each hole.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::colour::Cover;
use crate::error::{BagError, readable, within};
use crate::thrower::day::Conditions;
use crate::thrower::season::GUSTINESS;
use crate::whole::whole;

/// Strongest gust that a forecast tells above its mean wind, in standard deviations of the wind. Own judgement.
const STRONGEST_GUST: f64 = 2.5;
/// Rain from which hands, discs and tees are wet, mm in an hour: in this one or in the one before. Own judgement.
const WET_MM: f64 = 0.1;

/// One hour of a forecast.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[schema(as = ForecastHour)]
pub struct Hour {
    /// From which hour of the day, 0 to 23.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 0, maximum = 23)]
    pub hour: u32,
    /// Mean wind at 10 m over open ground, m/s.
    #[schema(minimum = 0.0, maximum = 40.0)]
    pub wind_m_s: f64,
    /// Strongest gust, m/s, no less than the mean wind; absent for what is usual.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 60.0)]
    pub gust_m_s: Option<f64>,
    /// Where it blows from, degrees clockwise from north.
    #[schema(minimum = 0.0, maximum = 360.0)]
    pub from_deg: f64,
    /// Temperature, °C.
    #[schema(minimum = -30.0, maximum = 45.0)]
    pub temperature_c: f64,
    /// Rain, mm.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 100.0)]
    pub rain_mm: f64,
}

/// Most ticks of a pack list.
const MOST_PACKED: usize = 200;
/// Most hours of a forecast.
pub const MOST_HOURS: usize = 24;

/// A day on a course.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[schema(as = CourseDay)]
pub struct PlayingDay {
    /// Which day; absent if it is any.
    #[serde(default)]
    #[schema(value_type = Option<String>, format = Date)]
    pub date: Option<Date>,
    /// When the first hole begins, minutes after midnight, 0 to 1439.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 0, maximum = 1439)]
    pub start_min: u32,
    /// How long a hole takes, minutes, 3 to 60.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 3, maximum = 60)]
    pub hole_min: u32,
    /// The forecast, each hour once; none for a calm day at the usual temperature.
    #[serde(default)]
    #[schema(max_items = 24)]
    pub hours: Vec<Hour>,
    /// What lies on the ground, where discs have to be seen; absent for grass.
    #[serde(default)]
    pub cover: Option<Cover>,
    /// What of the pack list is ticked off, by its keys.
    #[serde(default)]
    #[schema(max_items = 200)]
    pub packed: Vec<String>,
    /// Where the forecast is from; empty if it was typed.
    #[serde(default)]
    #[schema(max_length = 120)]
    pub source: String,
}

impl Default for PlayingDay {
    fn default() -> Self {
        PlayingDay {
            date: None,
            start_min: 10 * 60,
            hole_min: 12,
            hours: vec![],
            cover: None,
            packed: vec![],
            source: String::new(),
        }
    }
}

impl PlayingDay {
    /// # Errors
    /// [`BagError`] for the first field that makes no day.
    pub fn validate(&self) -> Result<(), BagError> {
        within("start_min", f64::from(self.start_min), 0.0, 1439.0)?;
        within("hole_min", f64::from(self.hole_min), 3.0, 60.0)?;
        within("hours", self.hours.len() as f64, 0.0, MOST_HOURS as f64)?;
        for (k, hour) in self.hours.iter().enumerate() {
            within("hour", f64::from(hour.hour), 0.0, 23.0)?;
            within("wind_m_s", hour.wind_m_s, 0.0, 40.0)?;
            within("gust_m_s", hour.gust_m_s.unwrap_or(hour.wind_m_s), hour.wind_m_s, 60.0)?;
            within("from_deg", hour.from_deg, 0.0, 360.0)?;
            within("temperature_c", hour.temperature_c, -30.0, 45.0)?;
            within("rain_mm", hour.rain_mm, 0.0, 100.0)?;
            if self.hours[..k].iter().any(|h| h.hour == hour.hour) {
                return Err(BagError::Field {
                    field: "hours",
                    expected: "each hour once".into(),
                    got: format!("{}:00 twice", hour.hour),
                });
            }
        }
        within("packed", self.packed.len() as f64, 0.0, MOST_PACKED as f64)?;
        self.packed.iter().try_for_each(|key| readable("packed", key, 40))?;
        readable("source", &self.source, 120)
    }

    /// When a hole is played, by its place from 0: minutes after midnight; a round that goes past midnight goes on in the day's
    /// first hours.
    pub fn minute_of(&self, hole: usize) -> u32 {
        (self.start_min + self.hole_min * hole as u32) % (24 * 60)
    }

    /// The weather at a minute of the day: of the last hour told before it, or the first told after.
    pub fn weather_at(&self, minute: u32) -> Option<&Hour> {
        let before = self.hours.iter().filter(|h| h.hour * 60 <= minute).max_by_key(|h| h.hour);
        before.or_else(|| self.hours.iter().min_by_key(|h| h.hour))
    }

    /// Whether it is wet at a minute of the day: it rains, or it did the hour before.
    pub fn is_wet_at(&self, minute: u32) -> bool {
        let Some(now) = self.weather_at(minute) else { return false };
        let before = self.hours.iter().find(|h| h.hour + 1 == now.hour);
        now.rain_mm >= WET_MM || before.is_some_and(|h| h.rain_mm >= WET_MM)
    }

    /// What there is of it at a minute of the day for a throw in a direction, degrees clockwise from north, on ground so far above
    /// the sea.
    pub fn conditions(&self, minute: u32, toward_deg: f64, altitude_m: Option<f64>) -> Conditions {
        let still = Conditions { altitude_m, ..Conditions::default() };
        let Some(hour) = self.weather_at(minute) else { return still };
        let gust_m_s = match hour.gust_m_s {
            Some(strongest) => (strongest - hour.wind_m_s) / STRONGEST_GUST,
            None => GUSTINESS * hour.wind_m_s,
        };
        Conditions {
            wind_m_s: hour.wind_m_s,
            wind_from_deg: (hour.from_deg - toward_deg).rem_euclid(360.0),
            gust_m_s: gust_m_s.clamp(0.0, 8.0),
            temperature_c: Some(hour.temperature_c),
            wet: self.is_wet_at(minute),
            ..still
        }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use rstest::rstest;

    fn hour(hour: u32, wind_m_s: f64, from_deg: f64, rain_mm: f64) -> Hour {
        Hour { hour, wind_m_s, gust_m_s: None, from_deg, temperature_c: 11.0, rain_mm }
    }

    fn day() -> PlayingDay {
        let hours = vec![hour(12, 8.0, 270.0, 0.0), hour(9, 2.0, 180.0, 0.4), hour(10, 4.0, 225.0, 0.0)];
        PlayingDay { start_min: 9 * 60 + 40, hole_min: 15, hours, ..PlayingDay::default() }
    }

    /// A wind from the west is ahead for who throws west, behind for who throws east, from the left for who throws north.
    #[rstest]
    #[case(270.0, -8.0, 0.0)]
    #[case(90.0, 8.0, 0.0)]
    #[case(0.0, 0.0, -8.0)]
    #[case(180.0, 0.0, 8.0)]
    #[case(225.0, -5.656_854, 5.656_854)]
    fn val_a_west_wind_by_the_way_one_faces(#[case] toward: f64, #[case] along: f64, #[case] left: f64) {
        let wind = day().conditions(12 * 60, toward, None).wind();
        assert_abs_diff_eq!(wind.along_m_s, along, epsilon = 1e-6);
        assert_abs_diff_eq!(wind.left_m_s, left, epsilon = 1e-6);
    }

    #[rstest]
    #[case(0, 9)]
    #[case(1, 9)]
    #[case(2, 10)]
    #[case(9, 10)]
    #[case(10, 12)]
    fn prop_a_hole_has_the_hour_in_which_it_is_played(#[case] hole: usize, #[case] expected: u32) {
        let day = day();
        day.validate().unwrap();
        assert_eq!(day.weather_at(day.minute_of(hole)).unwrap().hour, expected);
    }

    #[test]
    fn prop_before_the_first_hour_told_is_as_then_and_no_hours_are_calm() {
        let day = day();
        assert_eq!(day.weather_at(60).unwrap().hour, 9);
        let none = PlayingDay::default();
        assert_eq!(
            none.conditions(600, 77.0, Some(310.0)),
            Conditions { altitude_m: Some(310.0), ..Conditions::default() }
        );
        assert_eq!(PlayingDay { start_min: 1430, ..none }.minute_of(1), 2);
    }

    #[test]
    fn trade_rain_of_the_hour_before_is_still_wet() {
        let day = day();
        assert!(day.is_wet_at(9 * 60) && day.is_wet_at(10 * 60 + 30) && !day.is_wet_at(12 * 60));
    }

    #[test]
    fn prop_gusts_are_told_by_their_strongest() {
        let mut day = day();
        assert_abs_diff_eq!(day.conditions(720, 0.0, None).gust_m_s, 1.6, epsilon = 1e-12);
        day.hours[0].gust_m_s = Some(13.0);
        assert_abs_diff_eq!(day.conditions(720, 0.0, None).gust_m_s, 2.0, epsilon = 1e-12);
        day.hours[0].gust_m_s = Some(7.0);
        assert_eq!(day.validate().map_err(|e| e.field()), Err("gust_m_s"));
        day.hours[0] = hour(9, 1.0, 0.0, 0.0);
        assert_eq!(day.validate().map_err(|e| e.field()), Err("hours"));
    }
}
