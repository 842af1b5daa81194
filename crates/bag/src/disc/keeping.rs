//! What is true of a disc beside how it flies: where it is, what ties the player to it, what it is kept for.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::mark::{MOST_MARKS, Mark};
use crate::disc::wear::Grade;
use crate::error::{BagError, readable, within};
use crate::thrower::style::Style;

/// Where a disc is in its life. Whether it is carried is for each bag to say.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Status {
    /// At hand.
    #[default]
    Ready,
    /// Kept ready to take another's place.
    Spare,
    /// Being worn in on purpose.
    Seasoning,
    /// Tried until a date.
    Trial,
    /// Set aside for now.
    Resting,
    /// With somebody else.
    Lent,
    /// Lost.
    Lost,
    /// Out of use.
    Retired,
}

impl Status {
    /// All of them.
    pub const ALL: [Status; 8] = [
        Status::Ready,
        Status::Spare,
        Status::Seasoning,
        Status::Trial,
        Status::Resting,
        Status::Lent,
        Status::Lost,
        Status::Retired,
    ];

    /// Whether the disc could be carried to the next round.
    pub fn is_at_hand(self) -> bool {
        !matches!(self, Status::Lent | Status::Lost | Status::Retired)
    }

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Status::Ready => "ready",
            Status::Spare => "spare",
            Status::Seasoning => "seasoning",
            Status::Trial => "on trial",
            Status::Resting => "resting",
            Status::Lent => "lent",
            Status::Lost => "lost",
            Status::Retired => "retired",
        }
    }
}

/// What makes losing a disc worse, or better, than its price.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Tie {
    /// Dear for its own sake.
    Sentimental,
    /// Nothing like it can be bought.
    HardToReplace,
    /// May be lost: it takes the throws over water.
    WaterDisc,
}

impl Tie {
    /// All of them.
    pub const ALL: [Tie; 3] = [Tie::Sentimental, Tie::HardToReplace, Tie::WaterDisc];
}

/// What a player notes of a disc beside how it flies.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
pub struct Keeping {
    /// Where it is in its life.
    #[serde(default)]
    pub status: Status,
    /// When the trial ends, while it is on trial.
    #[serde(default)]
    #[schema(value_type = Option<String>, format = Date)]
    pub trial_until: Option<Date>,
    /// What ties the player to it.
    #[serde(default)]
    #[schema(max_items = 3)]
    pub ties: Vec<Tie>,
    /// The only styles it is kept for; none named means all.
    #[serde(default)]
    #[schema(max_items = 5)]
    pub kept_for: Vec<Style>,
    /// Of which run it is.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub run: String,
    /// What it cost, in the player's own money, 0 to 10,000.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 10000.0)]
    pub price: Option<f64>,
    /// Where it is kept.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub place: String,
    /// When the observed numbers were found.
    #[serde(default)]
    #[schema(value_type = Option<String>, format = Date)]
    pub observed_on: Option<Date>,
    /// Condition the disc was in then.
    #[serde(default)]
    pub observed_worn: Grade,
    /// How its wear and its observed numbers stood when the player changed them, the oldest first.
    #[serde(default)]
    #[schema(max_items = 40)]
    pub marks: Vec<Mark>,
}

impl Keeping {
    /// Whether it is kept for a style.
    pub fn answers(&self, style: Style) -> bool {
        self.kept_for.is_empty() || self.kept_for.contains(&style)
    }

    /// Whether its player would not like to lose it, or could not replace it.
    pub fn is_dear(&self) -> bool {
        self.ties.iter().any(|tie| *tie != Tie::WaterDisc)
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        readable("run", &self.run, 60)?;
        readable("place", &self.place, 60)?;
        within("price", self.price.unwrap_or(0.0), 0.0, 10_000.0)?;
        within("marks", self.marks.len() as f64, 0.0, MOST_MARKS as f64)?;
        self.marks.iter().try_for_each(Mark::validate)?;
        once("ties", &self.ties)?;
        once("kept_for", &self.kept_for)
    }
}

fn once<T: PartialEq>(field: &'static str, things: &[T]) -> Result<(), BagError> {
    let again = things.iter().enumerate().any(|(k, thing)| things[..k].contains(thing));
    if again {
        return Err(BagError::Field { field, expected: "each once".into(), got: "one of them twice".into() });
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_kept_for_none_is_kept_for_all() {
        assert!(Style::ALL.iter().all(|s| Keeping::default().answers(*s)));
        let forehand = Keeping { kept_for: vec![Style::Forehand], ..Keeping::default() };
        assert!(Style::ALL.iter().all(|s| forehand.answers(*s) == (*s == Style::Forehand)));
    }

    #[test]
    fn prop_a_tie_is_named_once() {
        let twice = Keeping { ties: vec![Tie::WaterDisc, Tie::WaterDisc], ..Keeping::default() };
        assert_eq!(twice.validate().err().map(|e| e.field()), Some("ties"));
        let every = Keeping { ties: Tie::ALL.to_vec(), kept_for: Style::ALL.to_vec(), ..Keeping::default() };
        assert!(every.validate().is_ok());
    }

    #[test]
    fn trade_what_is_lent_lost_or_retired_is_not_at_hand() {
        let at_hand: Vec<&str> = Status::ALL.iter().filter(|s| s.is_at_hand()).map(|s| s.label()).collect();
        assert_eq!(at_hand, ["ready", "spare", "seasoning", "on trial", "resting"]);
    }
}
