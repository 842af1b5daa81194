//! One change to several discs.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::keeping::{Status, Tie};
use crate::disc::plastic::Plastic;
use crate::disc::spec::{DiscSpec, Top, Use};
use crate::disc::wear::{Grade, Wear};
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;

/// What is to be the same of several discs; what is absent stays as it is with each.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DiscChange {
    /// Plastic.
    #[serde(default)]
    pub plastic: Option<Plastic>,
    /// Condition by eye; a count of throws is let go.
    #[serde(default)]
    pub grade: Option<Grade>,
    /// Top.
    #[serde(default)]
    pub top: Option<Top>,
    /// What they are carried for.
    #[serde(default)]
    pub used_for: Option<Use>,
    /// The lane they belong to.
    #[serde(default)]
    pub class: Option<Slot>,
    /// Mass, g, 60 to 220.
    #[schema(minimum = 60.0, maximum = 220.0)]
    #[serde(default)]
    pub mass_g: Option<f64>,
    /// Colour as #rrggbb.
    #[schema(pattern = "^#[0-9a-fA-F]{6}$")]
    #[serde(default)]
    pub colour: Option<String>,
    /// Where they are in their lives.
    #[serde(default)]
    pub status: Option<Status>,
    /// When their trial ends.
    #[schema(value_type = Option<String>, format = Date)]
    #[serde(default)]
    pub trial_until: Option<Date>,
    /// What ties the player to them.
    #[schema(max_items = 3)]
    #[serde(default)]
    pub ties: Option<Vec<Tie>>,
    /// The only styles they are kept for; none named means all.
    #[schema(max_items = 5)]
    #[serde(default)]
    pub kept_for: Option<Vec<Style>>,
    /// Of which run they are.
    #[schema(max_length = 60)]
    #[serde(default)]
    pub run: Option<String>,
    /// Where they are kept.
    #[schema(max_length = 60)]
    #[serde(default)]
    pub place: Option<String>,
}

impl DiscChange {
    /// A disc after it.
    pub fn applied(&self, to: &DiscSpec) -> DiscSpec {
        let mut disc = to.clone();
        let keeping = &mut disc.keeping;
        set(&mut disc.plastic, &self.plastic);
        set(&mut disc.top, &self.top);
        set(&mut disc.used_for, &self.used_for);
        set(&mut disc.mass_g, &self.mass_g);
        set(&mut disc.colour, &self.colour);
        set(&mut keeping.status, &self.status);
        set(&mut keeping.ties, &self.ties);
        set(&mut keeping.kept_for, &self.kept_for);
        set(&mut keeping.run, &self.run);
        set(&mut keeping.place, &self.place);
        keeping.trial_until = self.trial_until.or(keeping.trial_until);
        disc.class = self.class.or(disc.class);
        if let Some(grade) = self.grade {
            disc.wear = Wear { grade, throws: None, ..disc.wear };
        }
        disc
    }
}

fn set<T: Clone>(value: &mut T, to: &Option<T>) {
    if let Some(to) = to {
        value.clone_from(to);
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::disc::spec::Numbers;

    #[test]
    fn prop_what_is_absent_stays() {
        let numbers = Numbers { speed: 7.0, glide: 5.0, turn: 0.0, fade: 2.0 };
        let mut disc = DiscSpec::plain("Hobb & Tiller", "Purlin", numbers);
        disc.wear.throws = Some(200);
        disc.keeping.run = "first".into();
        assert_eq!(DiscChange::default().applied(&disc), disc);
        let change = DiscChange {
            grade: Some(Grade::Beat),
            status: Some(Status::Resting),
            place: Some("cellar".into()),
            ..DiscChange::default()
        };
        let after = change.applied(&disc);
        assert_eq!((after.wear.grade, after.wear.throws), (Grade::Beat, None));
        assert_eq!((after.keeping.status, after.keeping.place.as_str()), (Status::Resting, "cellar"));
        assert_eq!((after.keeping.run.as_str(), &after.name), ("first", &disc.name));
        assert_eq!(change.applied(&after), after, "twice is once");
    }
}
