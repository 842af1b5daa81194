//! The player's season: the mix of weathers in which rounds are played.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::error::{BagError, within};
use crate::thrower::day::Conditions;

/// How windy home is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Windiness {
    /// In the woods or a valley.
    Sheltered,
    /// As most places are.
    #[default]
    Ordinary,
    /// Open country, hills.
    Open,
    /// By the sea, on a moor.
    Coast,
}

/// From where the wind of a hole mostly comes, if holes mostly lie one way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Prevailing {
    /// From every side alike, as on a course whose holes turn.
    #[default]
    None,
    /// From ahead.
    Ahead,
    /// From behind.
    Behind,
    /// From the left.
    Left,
    /// From the right.
    Right,
}

/// What a player says of the weather at home.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
#[serde(default)]
pub struct Season {
    /// How windy it is.
    pub windiness: Windiness,
    /// Where the wind mostly comes from.
    pub prevailing: Prevailing,
    /// Share of throws made in the wet, 0 to 0.9.
    #[schema(minimum = 0.0, maximum = 0.9)]
    pub wet_share: f64,
}

impl Season {
    /// # Errors
    /// [`BagError`] for a share outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("wet_share", self.wet_share, 0.0, 0.9)
    }

    /// Its weathers and how often each comes; the shares sum to 1. Own judgement.
    pub fn weathers(&self) -> Vec<Weather> {
        let (calm, wind_m_s) = match self.windiness {
            Windiness::Sheltered => (0.60, 3.0),
            Windiness::Ordinary => (0.40, 4.5),
            Windiness::Open => (0.25, 6.0),
            Windiness::Coast => (0.15, 7.5),
        };
        let from = |kind| match kind {
            WeatherKind::Behind => Prevailing::Behind,
            WeatherKind::Left => Prevailing::Left,
            WeatherKind::Right => Prevailing::Right,
            _ => Prevailing::Ahead,
        };
        // The prevailing side counts twice.
        let parts = if self.prevailing == Prevailing::None { 4.0 } else { 5.0 };
        let dry = 1.0 - self.wet_share;
        let mut weathers =
            vec![Weather { kind: WeatherKind::Calm, share: dry * calm, conditions: day(0.0, 0.0) }];
        for (kind, from_deg) in WeatherKind::WINDS {
            let times = if self.prevailing == from(kind) { 2.0 } else { 1.0 };
            let share = dry * (1.0 - calm) * times / parts;
            weathers.push(Weather { kind, share, conditions: day(wind_m_s, from_deg) });
        }
        if self.wet_share > 0.0 {
            let conditions = Conditions { wet: true, ..day(0.0, 0.0) };
            weathers.push(Weather { kind: WeatherKind::Wet, share: self.wet_share, conditions });
        }
        weathers
    }
}

/// Gusts as a share of the mean wind. Own judgement.
pub(crate) const GUSTINESS: f64 = 0.2;

fn day(wind_m_s: f64, wind_from_deg: f64) -> Conditions {
    Conditions { wind_m_s, wind_from_deg, gust_m_s: GUSTINESS * wind_m_s, ..Conditions::default() }
}

/// A kind of weather.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WeatherKind {
    /// No wind.
    Calm,
    /// Wind from ahead.
    Ahead,
    /// Wind from behind.
    Behind,
    /// Wind from the left.
    Left,
    /// Wind from the right.
    Right,
    /// Rain: wet hands, discs and tees.
    Wet,
}

impl WeatherKind {
    /// Winds and where they come from, degrees as in [`Conditions`].
    const WINDS: [(WeatherKind, f64); 4] = [
        (WeatherKind::Ahead, 0.0),
        (WeatherKind::Behind, 180.0),
        (WeatherKind::Left, 270.0),
        (WeatherKind::Right, 90.0),
    ];

    /// In words, after "best" or "in".
    pub fn label(self) -> &'static str {
        match self {
            WeatherKind::Calm => "calm",
            WeatherKind::Ahead => "headwind",
            WeatherKind::Behind => "tailwind",
            WeatherKind::Left => "wind from the left",
            WeatherKind::Right => "wind from the right",
            WeatherKind::Wet => "rain",
        }
    }
}

/// A weather of the season.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Weather {
    /// Its kind.
    pub kind: WeatherKind,
    /// How often it comes, 0 to 1.
    #[schema(minimum = 0.0, maximum = 1.0)]
    pub share: f64,
    /// The day it is.
    pub conditions: Conditions,
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    fn prop_the_shares_of_a_season_sum_to_one(
        #[values(Windiness::Sheltered, Windiness::Ordinary, Windiness::Open, Windiness::Coast)]
        windiness: Windiness,
        #[values(Prevailing::None, Prevailing::Ahead, Prevailing::Left)] prevailing: Prevailing,
        #[values(0.0, 0.3)] wet_share: f64,
    ) {
        let season = Season { windiness, prevailing, wet_share };
        season.validate().unwrap_or_else(|e| panic!("{e}"));
        let weathers = season.weathers();
        assert!((weathers.iter().map(|w| w.share).sum::<f64>() - 1.0).abs() < 1e-12);
        assert_eq!(weathers.len(), if wet_share > 0.0 { 6 } else { 5 });
        let of = |kind| weathers.iter().find(|w| w.kind == kind).map_or(0.0, |w| w.share);
        let (ahead, behind) = (of(WeatherKind::Ahead), of(WeatherKind::Behind));
        assert_eq!(ahead > behind, prevailing == Prevailing::Ahead);
        assert!(weathers.iter().all(|w| w.conditions.validate().is_ok()));
    }

    #[test]
    fn prop_a_share_out_of_range_is_named() {
        let season = Season { wet_share: 1.2, ..Season::default() };
        assert_eq!(season.validate().map_err(|e| e.field()), Err("wet_share"));
    }
}
