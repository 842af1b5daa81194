//! How a player goes about the bag: what feels right in the hand, which styles are thrown how often, what a further mould costs.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::error::{BagError, within};
use crate::thrower::calendar::Calendar;
use crate::thrower::player::School;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;

/// How somebody putts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PuttingStyle {
    /// Pushed from the legs, lofted, with little spin.
    Push,
    /// Snapped flat from the wrist, with much spin.
    Spin,
    /// Pushed from a wide stance.
    Straddle,
    /// On anhyzer, so that it comes down turning.
    Turnover,
    /// With a jump from outside the circle.
    Jump,
}

impl PuttingStyle {
    /// Spin against that of a usual putt, which lies between a push and a spin putt. Own judgement.
    pub fn spin(self) -> f64 {
        match self {
            PuttingStyle::Push | PuttingStyle::Straddle => 0.75,
            PuttingStyle::Spin => 1.25,
            PuttingStyle::Turnover | PuttingStyle::Jump => 1.0,
        }
    }

    /// What it asks of a putting set. Common practice, no source.
    pub fn asks(self) -> &'static str {
        match self {
            PuttingStyle::Push => {
                "A push putt leaves with little spin: a straight putter that glides, and a firm one for wind."
            }
            PuttingStyle::Spin => {
                "A spin putt leaves fast and flat: a firm putter that does not lift, and the same one worn for long putts."
            }
            PuttingStyle::Straddle => {
                "A straddle putt is a push from a wide stance: a straight putter that glides serves it."
            }
            PuttingStyle::Turnover => {
                "A turnover putt leaves on anhyzer: a firm putter that comes back at the end holds its line."
            }
            PuttingStyle::Jump => {
                "A jump putt comes from outside the circle: a worn putter that glides straight is the one to have."
            }
        }
    }
}

/// How stiff a disc feels.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Stiffness {
    /// Gives in the hand.
    Soft,
    /// Gives a little.
    Medium,
    /// Gives nothing.
    Stiff,
}

impl Stiffness {
    /// Of a plastic whose rim has a softness from 0 (stiff) to 1 (gummy). Own judgement.
    pub fn of_softness(softness: f64) -> Stiffness {
        match softness {
            s if s < 0.2 => Stiffness::Stiff,
            s if s < 0.5 => Stiffness::Medium,
            _ => Stiffness::Soft,
        }
    }

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Stiffness::Soft => "soft",
            Stiffness::Medium => "medium",
            Stiffness::Stiff => "stiff",
        }
    }
}

/// What a disc is held for: the same hand likes one rim to putt with and another to drive with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum HandUse {
    /// Putting.
    Putting,
    /// Throwing putters.
    Putters,
    /// Throwing mid-ranges.
    MidRanges,
    /// Throwing fairway drivers.
    Fairways,
    /// Throwing control and distance drivers.
    Drivers,
}

impl HandUse {
    /// All of them.
    pub const ALL: [HandUse; 5] =
        [HandUse::Putting, HandUse::Putters, HandUse::MidRanges, HandUse::Fairways, HandUse::Drivers];

    /// What a thrown disc of a slot is held for; special jobs are asked of whatever does them.
    pub fn of_thrown(slot: Slot) -> Option<HandUse> {
        match slot {
            Slot::Putter => Some(HandUse::Putters),
            Slot::MidRange => Some(HandUse::MidRanges),
            Slot::Fairway => Some(HandUse::Fairways),
            Slot::Control | Slot::Distance => Some(HandUse::Drivers),
            Slot::Utility => None,
        }
    }

    /// Name for people, after "to".
    pub fn label(self) -> &'static str {
        match self {
            HandUse::Putting => "putt with",
            HandUse::Putters => "throw putters",
            HandUse::MidRanges => "throw mid-ranges",
            HandUse::Fairways => "throw fairway drivers",
            HandUse::Drivers => "throw drivers",
        }
    }
}

/// What feels right in the hand for one use; what is absent does not matter to the player.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Feel {
    /// The use.
    pub used: HandUse,
    /// Width of the rim, cm, 0.5 to 3.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 3.0)]
    pub rim_cm: Option<f64>,
    /// Depth of the rim, cm, 0.5 to 3.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 3.0)]
    pub rim_depth_cm: Option<f64>,
    /// With a bead, or without.
    #[serde(default)]
    pub bead: Option<bool>,
    /// With a thumb track, or without.
    #[serde(default)]
    pub thumb_track: Option<bool>,
    /// How stiff.
    #[serde(default)]
    pub stiffness: Option<Stiffness>,
}

/// How many of a hundred throws are made in a style, putts aside.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct StyleShare {
    /// The style.
    pub style: Style,
    /// Percent of the throws, 0 to 100.
    #[schema(minimum = 0.0, maximum = 100.0)]
    pub pct: f64,
}

/// A school of its own for one slot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct SlotSchool {
    /// The slot.
    pub slot: Slot,
    /// Its school.
    pub school: School,
}

/// How the player goes about the bag.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, ToSchema)]
pub struct Habits {
    /// Whether control drivers have a lane of their own; else they are in that of the distance drivers.
    #[serde(default)]
    pub control_lane: bool,
    /// Whether a bag is put together from the fast discs down.
    #[serde(default)]
    pub fast_first: bool,
    /// How often each style is thrown, if the player has told; together 100 %.
    #[serde(default)]
    #[schema(max_items = 4)]
    pub shares: Vec<StyleShare>,
    /// Styles that are not thrown: an arm to be spared.
    #[serde(default)]
    #[schema(max_items = 3)]
    pub avoid: Vec<Style>,
    /// Whether rollers are thrown: discs that come down on their edge and run on it.
    #[serde(default)]
    pub rollers: bool,
    /// How the player putts.
    #[serde(default)]
    pub putting: Option<PuttingStyle>,
    /// What feels right in the hand.
    #[serde(default)]
    #[schema(max_items = 5)]
    pub feel: Vec<Feel>,
    /// What every mould beyond the first costs in a round, strokes, 0 to 0.5: one more shape to know.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 0.5)]
    pub mould_strokes: f64,
    /// Slots with a school of their own.
    #[serde(default)]
    #[schema(max_items = 6)]
    pub schools: Vec<SlotSchool>,
    /// How much is played and practised in every month.
    #[serde(default)]
    pub calendar: Calendar,
}

/// Shares of use must add up to 100 % within this.
const SHARES_WITHIN_PCT: f64 = 0.5;

/// Accepts things of which none names what another has named.
fn each_once<T, K: PartialEq>(
    field: &'static str,
    things: &[T],
    of: impl Fn(&T) -> K,
) -> Result<(), BagError> {
    let again = things.iter().enumerate().any(|(k, t)| things[..k].iter().any(|other| of(other) == of(t)));
    if again {
        return Err(BagError::Field { field, expected: "each once".into(), got: "one of them twice".into() });
    }
    Ok(())
}

impl Habits {
    /// # Errors
    /// [`BagError`] for the first value outside its range, or that says a thing twice.
    pub fn validate(&self, strong: Style) -> Result<(), BagError> {
        each_once("shares", &self.shares, |s| s.style)?;
        each_once("avoid", &self.avoid, |s| *s)?;
        each_once("feel", &self.feel, |f| f.used)?;
        each_once("schools", &self.schools, |s| s.slot)?;
        self.calendar.validate()?;
        within("mould_strokes", self.mould_strokes, 0.0, 0.5)?;
        for share in &self.shares {
            within("shares pct", share.pct, 0.0, 100.0)?;
        }
        for feel in &self.feel {
            within("feel rim_cm", feel.rim_cm.unwrap_or(1.0), 0.5, 3.0)?;
            within("feel rim_depth_cm", feel.rim_depth_cm.unwrap_or(1.0), 0.5, 3.0)?;
        }
        let refused = |field, expected: &str, got: String| {
            Err(BagError::Field { field, expected: expected.into(), got })
        };
        if self.shares.iter().any(|s| s.style == Style::Putt) {
            return refused("shares", "throws only: putts are counted apart", "a share of putts".into());
        }
        let told: f64 = self.shares.iter().map(|s| s.pct).sum();
        if !self.shares.is_empty() && (told - 100.0).abs() > SHARES_WITHIN_PCT {
            return refused("shares", "100 % together", format!("{told:.0} %"));
        }
        if self.avoid.contains(&strong) || self.avoid.contains(&Style::Putt) {
            return refused("avoid", "neither the strong style nor putting", "one of them".into());
        }
        let thrown_anyway = self.shares.iter().find(|s| s.pct > 0.0 && self.avoid.contains(&s.style));
        match thrown_anyway {
            Some(s) => refused("avoid", "styles without a share of the throws", s.style.label().into()),
            None => Ok(()),
        }
    }

    /// Whether a style is thrown at all.
    pub fn throws(&self, style: Style) -> bool {
        !self.avoid.contains(&style) && self.shares.iter().all(|s| s.style != style || s.pct > 0.0)
    }
}
