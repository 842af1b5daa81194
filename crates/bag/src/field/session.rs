//! A session in the field.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::course::place::Place;
use crate::disc::spec::DiscId;
use crate::error::{BagError, named, readable, within};
use crate::field::trial::Trial;
use crate::need::line::Ground;

/// What a session is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Purpose {
    /// Practice.
    #[default]
    Practice,
    /// Candidates side by side.
    Trial,
    /// Finding out how far and how sure the arm is.
    Measuring,
}

/// A session in the field: where, when, and what is the same for all its throws.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FieldSession {
    /// Where.
    #[schema(max_length = 80)]
    pub place: String,
    /// The day.
    #[schema(value_type = String, format = Date)]
    pub date: Date,
    /// What for.
    #[serde(default)]
    pub purpose: Purpose,
    /// Temperature, °C, −30 to 45; null for what is usual at home.
    #[serde(default)]
    #[schema(minimum = -30.0, maximum = 45.0)]
    pub temperature_c: Option<f64>,
    /// How high above the sea it lies, m; null for as high as home.
    #[serde(default)]
    #[schema(minimum = -400.0, maximum = 5000.0)]
    pub altitude_m: Option<f64>,
    /// Where the throws are made from, if that is known.
    #[serde(default)]
    pub tee: Option<Place>,
    /// Where they are aimed, degrees clockwise from north, 0 to 360; null if bearings are told from the aim.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 360.0)]
    pub aim_deg: Option<f64>,
    /// What the discs come down on.
    #[serde(default)]
    pub ground: Ground,
    /// Whether plastic and footing are wet.
    #[serde(default)]
    pub wet: bool,
    /// How candidates are tried side by side in it; null if none are.
    #[serde(default)]
    pub trial: Option<Trial>,
    /// What to remember.
    #[serde(default)]
    #[schema(max_length = 2000)]
    pub note: String,
}

impl FieldSession {
    /// One of which nothing is known: at home, on turf.
    pub(crate) fn usual() -> FieldSession {
        FieldSession {
            place: String::new(),
            date: Date::ZERO,
            purpose: Purpose::Practice,
            temperature_c: None,
            altitude_m: None,
            tee: None,
            aim_deg: None,
            ground: Ground::Turf,
            wet: false,
            trial: None,
            note: String::new(),
        }
    }

    /// Gives each disc that it names an identity and a name from what they were.
    pub fn name_discs(&mut self, disc: impl Fn(Option<DiscId>, &str) -> (Option<DiscId>, String)) {
        if let Some(trial) = &mut self.trial {
            trial.name_discs(disc);
        }
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("place", &self.place, 80)?;
        within("temperature_c", self.temperature_c.unwrap_or(0.0), -30.0, 45.0)?;
        within("altitude_m", self.altitude_m.unwrap_or(0.0), -400.0, 5000.0)?;
        self.tee.map_or(Ok(()), |tee| tee.validate())?;
        within("aim_deg", self.aim_deg.unwrap_or(0.0), 0.0, 360.0)?;
        self.trial.as_ref().map_or(Ok(()), Trial::validate)?;
        readable("note", &self.note, 2000)
    }
}
