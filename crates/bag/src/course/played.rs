//! A round as it was played: hole by hole what was thrown first and what came of it, beside what the card expected.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::course::hole::MOST_HOLES;
use crate::disc::keeping::{Keeping, Status};
use crate::disc::spec::DiscId;
use crate::error::{BagError, named, readable, within};
use crate::thrower::style::Style;
use crate::whole::whole_if_any;

/// Most strokes that a hole is told to take: whoever is in such trouble picks up.
pub const MOST_STROKES: u32 = 20;
/// Most discs told to be lost on one hole.
const MOST_LOST: usize = 5;
/// Farthest from a basket, m, and most distances from which strokes are told.
const FARTHEST_M: f64 = 600.0;
const MOST_FROM: usize = 40;
/// Longest place of a disc, characters.
const LONGEST_PLACE: usize = 60;
/// Most bags that a lost disc was carried in.
const MOST_PLACES: usize = 200;

/// What came of a first throw.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CameOf {
    /// It ended in the zone that is drawn.
    Made,
    /// Short of it.
    Short,
    /// Beyond it.
    Long,
    /// Left of it.
    Left,
    /// Right of it.
    Right,
    /// It hit something.
    Hit,
    /// It ended out of bounds or in water.
    Out,
}

impl CameOf {
    /// All of them.
    pub const ALL: [CameOf; 7] =
        [CameOf::Made, CameOf::Short, CameOf::Long, CameOf::Left, CameOf::Right, CameOf::Hit, CameOf::Out];

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            CameOf::Made => "in the zone",
            CameOf::Short => "short",
            CameOf::Long => "long",
            CameOf::Left => "left",
            CameOf::Right => "right",
            CameOf::Hit => "into something",
            CameOf::Out => "out of bounds or into water",
        }
    }
}

/// A disc on a hole with what the card expects of it, strokes to hole out with the throw itself among them.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[schema(as = PickedDisc)]
pub struct Pick {
    /// The disc; null if it is not of this shelf.
    #[serde(default)]
    pub disc_id: Option<DiscId>,
    /// Its name then.
    #[schema(max_length = 60)]
    pub disc_name: String,
    /// How it is thrown there.
    #[serde(default)]
    pub style: Option<Style>,
    /// Share of throws that end where they are meant to, 0 to 1; null if the card says nothing of it.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 1.0)]
    pub chance: Option<f64>,
    /// In the mean, 1 to 40.
    #[serde(default)]
    #[schema(minimum = 1.0, maximum = 40.0)]
    pub strokes: Option<f64>,
    /// If it ends where it is meant to; null if it never does.
    #[serde(default)]
    #[schema(minimum = 1.0, maximum = 40.0)]
    pub made: Option<f64>,
    /// If it ends elsewhere and in play; null if it never does.
    #[serde(default)]
    #[schema(minimum = 1.0, maximum = 40.0)]
    pub missed: Option<f64>,
    /// If it ends where that costs strokes of its own, out of bounds, in water or past a mandatory; null if it never does.
    #[serde(default)]
    #[schema(minimum = 1.0, maximum = 40.0)]
    pub out: Option<f64>,
}

/// Strokes to hole out from some distance.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct StrokesFrom {
    /// Level distance to the basket, m, 0 to 600.
    #[schema(minimum = 0.0, maximum = 600.0)]
    pub from_m: f64,
    /// In the mean, 0 to 40.
    #[schema(minimum = 0.0, maximum = 40.0)]
    pub strokes: f64,
}

/// A place that a disc had in a bag.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct BagPlace {
    /// Number of the bag.
    pub bag_id: i64,
    /// Whether it was a twin on purpose.
    pub spare: bool,
}

/// A disc that was lost, and what it was before, so that it is found as it was.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LostDisc {
    /// The disc; null if it is not of this shelf.
    #[serde(default)]
    pub disc_id: Option<DiscId>,
    /// Its name then.
    #[schema(max_length = 60)]
    pub disc_name: String,
    /// Where it was in its life before; written by the program.
    #[serde(default)]
    pub status: Status,
    /// Where it was kept before; written by the program.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub place: String,
    /// Where it was carried; written by the program.
    #[serde(default)]
    #[schema(max_items = 200)]
    pub bags: Vec<BagPlace>,
}

/// A hole as it was played.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PlayedHole {
    /// Its number or name.
    #[schema(max_length = 20)]
    pub name: String,
    /// Its par.
    #[schema(minimum = 2, maximum = 6)]
    pub par: u8,
    /// Strokes in the mean by the card, 1 to 40.
    #[schema(minimum = 1.0, maximum = 40.0)]
    pub expected: f64,
    /// What the card would have thrown; null if nothing.
    #[serde(default)]
    pub card: Option<Pick>,
    /// Strokes to hole out there from how far, from near to far.
    #[serde(default)]
    #[schema(max_items = 40)]
    pub left: Vec<StrokesFrom>,
    /// What was thrown first; null if it was not told.
    #[serde(default)]
    pub threw: Option<Pick>,
    /// What came of that; null if it was not told.
    #[serde(default)]
    pub came_of: Option<CameOf>,
    /// How far from the basket that left its player, m, 0 if it went in, to 600; null if it was not told.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 600.0)]
    pub left_m: Option<f64>,
    /// Throws and penalties together, 1 to 20; null if it was not told.
    #[serde(default, deserialize_with = "whole_if_any")]
    #[schema(minimum = 1, maximum = 20)]
    pub strokes: Option<u32>,
    /// Discs lost on it.
    #[serde(default)]
    #[schema(max_items = 5)]
    pub lost: Vec<LostDisc>,
}

/// A round as it was played.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct PlayedRound {
    /// Name of the course.
    #[schema(max_length = 80)]
    pub course: String,
    /// The day.
    #[schema(value_type = String, format = Date)]
    pub date: Date,
    /// Name of the bag that was carried.
    #[serde(default)]
    #[schema(max_length = 80)]
    pub bag: String,
    /// Standard deviation of rounds about what the card expects, strokes, 0 to 100; null if it was not worked out.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 100.0)]
    pub spread: Option<f64>,
    /// Its holes, in the order they are played.
    #[schema(min_items = 1, max_items = 36)]
    pub holes: Vec<PlayedHole>,
}

impl LostDisc {
    /// A disc of which nothing is known yet but that it was lost.
    pub fn of(disc_id: Option<DiscId>, disc_name: &str) -> LostDisc {
        let (status, place, bags) = Default::default();
        LostDisc { disc_id, disc_name: disc_name.to_owned(), status, place, bags }
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("disc_name", &self.disc_name, 60)?;
        readable("place", &self.place, LONGEST_PLACE)?;
        within("bags", self.bags.len() as f64, 0.0, MOST_PLACES as f64)
    }

    /// Makes a disc a lost one, at a place that is cut to what a place may be long, and writes down what it was.
    pub fn lose(&mut self, disc: &mut Keeping, place: &str) {
        self.status = disc.status;
        self.place.clone_from(&disc.place);
        disc.status = Status::Lost;
        disc.place = place.chars().take(LONGEST_PLACE).collect();
    }

    /// Makes a lost disc what it was; false and nothing if it is not lost any more: whoever said so since knows better.
    pub fn find(&self, disc: &mut Keeping) -> bool {
        if disc.status != Status::Lost {
            return false;
        }
        disc.status = self.status;
        disc.place.clone_from(&self.place);
        true
    }
}

impl Pick {
    fn validate(&self) -> Result<(), BagError> {
        named("disc_name", &self.disc_name, 60)?;
        within("chance", self.chance.unwrap_or(0.0), 0.0, 1.0)?;
        for (field, strokes) in
            [("strokes", self.strokes), ("made", self.made), ("missed", self.missed), ("out", self.out)]
        {
            within(field, strokes.unwrap_or(1.0), 1.0, 40.0)?;
        }
        Ok(())
    }
}

impl PlayedHole {
    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 20)?;
        within("par", f64::from(self.par), 2.0, 6.0)?;
        within("expected", self.expected, 1.0, 40.0)?;
        within("strokes", f64::from(self.strokes.unwrap_or(1)), 1.0, f64::from(MOST_STROKES))?;
        self.card.iter().chain(&self.threw).try_for_each(Pick::validate)?;
        within("left_m", self.left_m.unwrap_or(0.0), 0.0, FARTHEST_M)?;
        within("left", self.left.len() as f64, 0.0, MOST_FROM as f64)?;
        self.left.iter().try_for_each(|left| {
            within("from_m", left.from_m, 0.0, FARTHEST_M)?;
            within("strokes", left.strokes, 0.0, 40.0)
        })?;
        if !self.left.iter().is_sorted_by(|a, b| a.from_m < b.from_m) {
            let (expected, got) = ("from near to far, each distance once".into(), "another order".into());
            return Err(BagError::Field { field: "left", expected, got });
        }
        within("lost", self.lost.len() as f64, 0.0, MOST_LOST as f64)?;
        self.lost.iter().try_for_each(LostDisc::validate)
    }

    /// Strokes to hole out from so far, m: between two distances that are told in proportion, beyond the last as at it; none if none
    /// is told.
    pub fn strokes_from(&self, m: f64) -> Option<f64> {
        let after = self.left.partition_point(|left| left.from_m < m);
        let far = self.left.get(after).or(self.left.last())?;
        let Some(near) = after.checked_sub(1).map(|k| self.left[k]) else { return Some(far.strokes) };
        let part =
            if far.from_m > near.from_m { (m - near.from_m) / (far.from_m - near.from_m) } else { 1.0 };
        Some(near.strokes + part.min(1.0) * (far.strokes - near.strokes))
    }
}

impl PlayedRound {
    /// Gives each disc that it names an identity and a name from what they were.
    pub fn name_discs(&mut self, disc: impl Fn(Option<DiscId>, &str) -> (Option<DiscId>, String)) {
        for hole in &mut self.holes {
            for pick in hole.card.iter_mut().chain(&mut hole.threw) {
                (pick.disc_id, pick.disc_name) = disc(pick.disc_id, &pick.disc_name);
            }
            for lost in &mut hole.lost {
                (lost.disc_id, lost.disc_name) = disc(lost.disc_id, &lost.disc_name);
            }
        }
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range; that of a hole names the hole.
    pub fn validate(&self) -> Result<(), BagError> {
        named("course", &self.course, 80)?;
        readable("bag", &self.bag, 80)?;
        within("spread", self.spread.unwrap_or(0.0), 0.0, 100.0)?;
        within("holes", self.holes.len() as f64, 1.0, MOST_HOLES as f64)?;
        self.holes.iter().try_for_each(|hole| {
            hole.validate().map_err(|e| BagError::Field {
                field: "holes",
                expected: format!("right; of hole {}, {e}", hole.name.trim()),
                got: e.field().to_owned(),
            })
        })
    }
}
