//! A trial: candidates for one job side by side, each thrown the same way as often, in an order that no tiring arm favours.

use rand::SeedableRng;
use rand::rngs::StdRng;
use rand::seq::SliceRandom;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::{BagError, named, readable, within};
use crate::field::meant::wind_parts;
use crate::field::throw::{FieldThrow, Meant, ThrowTag, WindThen};
use crate::thrower::style::Style;
use crate::whole::whole;

/// Most candidates and most ways in which they are thrown.
const MOST_CANDIDATES: usize = 6;
const MOST_SETS: usize = 12;
/// Most throws of each disc in each way.
const MOST_EACH: u32 = 20;
/// A wind along the throw from which it counts as into or before it, m/s. Own judgement.
const WINDY_M_S: f64 = 1.5;

/// Which way the wind is in a set.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum TrialWind {
    /// As it comes.
    #[default]
    Any,
    /// Into it.
    Into,
    /// Before it.
    Before,
}

/// A way in which every candidate is thrown.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
pub struct TrialSet {
    /// Style.
    pub style: Style,
    /// How it is meant.
    pub meant: Meant,
    /// Which way the wind is.
    #[serde(default)]
    pub wind: TrialWind,
}

/// A disc that is tried.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Candidate {
    /// The disc; null if it is not of this shelf.
    #[serde(default)]
    pub disc_id: Option<DiscId>,
    /// Its name then.
    #[schema(max_length = 60)]
    pub disc_name: String,
    /// How it lies in the hand, 1 (not at all) to 5 (as if made for it); null if not said.
    #[serde(default)]
    #[schema(minimum = 1, maximum = 5)]
    pub feel: Option<u8>,
    /// What else is to be said of that.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub note: String,
}

/// A place straight ahead, such as a basket or a cone.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Target {
    /// How far off, m, 5 to 200.
    #[schema(minimum = 5.0, maximum = 200.0)]
    pub distance_m: f64,
    /// How near to it a throw has to end, m, 1 to 30.
    #[schema(minimum = 1.0, maximum = 30.0)]
    pub within_m: f64,
}

/// How a trial goes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Trial {
    /// Who is tried, two at least.
    #[schema(min_items = 2, max_items = 6)]
    pub candidates: Vec<Candidate>,
    /// How each is thrown.
    #[schema(min_items = 1, max_items = 12)]
    pub sets: Vec<TrialSet>,
    /// How often in each way, 1 to 20.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 1, maximum = 20)]
    pub each: u32,
    /// The line that they are tried for, by its key.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub line: Option<String>,
    /// A place straight ahead that they are tried for, where there is no line.
    #[serde(default)]
    pub target: Option<Target>,
    /// Which of the orders.
    #[serde(default, deserialize_with = "whole")]
    pub order: u32,
}

/// A throw that is to be made.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TrialThrow {
    /// The disc; null if it is not of this shelf.
    pub disc_id: Option<DiscId>,
    /// Its name.
    pub disc_name: String,
    /// How.
    #[serde(flatten)]
    pub set: TrialSet,
}

impl Trial {
    /// # Errors
    /// [`BagError`] for the first field that makes no trial.
    pub fn validate(&self) -> Result<(), BagError> {
        within("candidates", self.candidates.len() as f64, 2.0, MOST_CANDIDATES as f64)?;
        for (k, candidate) in self.candidates.iter().enumerate() {
            named("disc_name", &candidate.disc_name, 60)?;
            within("feel", f64::from(candidate.feel.unwrap_or(1)), 1.0, 5.0)?;
            readable("note", &candidate.note, 200)?;
            if self.candidates[..k].iter().any(|other| other.is(candidate)) {
                return Err(BagError::Field {
                    field: "candidates",
                    expected: "each disc once".into(),
                    got: format!("{} twice", candidate.disc_name),
                });
            }
        }
        within("sets", self.sets.len() as f64, 1.0, MOST_SETS as f64)?;
        if (1..self.sets.len()).any(|k| self.sets[..k].contains(&self.sets[k])) {
            let got = "one of them twice".into();
            return Err(BagError::Field { field: "sets", expected: "each way once".into(), got });
        }
        within("each", f64::from(self.each), 1.0, f64::from(MOST_EACH))?;
        if let Some(target) = self.target {
            within("distance_m", target.distance_m, 5.0, 200.0)?;
            within("within_m", target.within_m, 1.0, 30.0)?;
        }
        self.line.as_ref().map_or(Ok(()), |line| named("line", line, 60))
    }

    /// Gives each disc that it names an identity and a name from what they were.
    pub fn name_discs(&mut self, disc: impl Fn(Option<DiscId>, &str) -> (Option<DiscId>, String)) {
        for candidate in &mut self.candidates {
            (candidate.disc_id, candidate.disc_name) = disc(candidate.disc_id, &candidate.disc_name);
        }
    }

    /// Its throws in order: every disc is thrown once in every way before any is thrown again, shuffled each time, so that a tiring arm
    /// and a rising wind meet all of them alike. Ways with the wind are thrown together: one walks over and throws back.
    pub fn throws(&self) -> Vec<TrialThrow> {
        let mut all = Vec::new();
        for turn in 0..self.each {
            let mut random = StdRng::seed_from_u64(u64::from(self.order) << 32 | u64::from(turn));
            let mut ways = [TrialWind::Any, TrialWind::Into, TrialWind::Before];
            if turn % 2 == 1 {
                ways.reverse();
            }
            for way in ways {
                let of_way = self.sets.iter().filter(|set| set.wind == way);
                let mut throws: Vec<TrialThrow> = of_way
                    .flat_map(|set| {
                        self.candidates.iter().map(|candidate| TrialThrow {
                            disc_id: candidate.disc_id,
                            disc_name: candidate.disc_name.clone(),
                            set: *set,
                        })
                    })
                    .collect();
                throws.shuffle(&mut random);
                all.append(&mut throws);
            }
        }
        all
    }
}

impl Candidate {
    fn is(&self, other: &Candidate) -> bool {
        match (self.disc_id, other.disc_id) {
            (Some(one), Some(another)) => one == another,
            _ => self.disc_name == other.disc_name,
        }
    }

    pub(crate) fn threw(&self, throw: &FieldThrow) -> bool {
        is_of(self.disc_id, &self.disc_name, throw)
    }
}

impl TrialThrow {
    fn is_of(&self, throw: &FieldThrow) -> bool {
        is_of(self.disc_id, &self.disc_name, throw)
    }
}

/// Whether a throw is of a disc.
fn is_of(id: Option<DiscId>, name: &str, throw: &FieldThrow) -> bool {
    match id {
        Some(id) => throw.disc_id == Some(id),
        None => throw.disc_id.is_none() && throw.disc_name == name,
    }
}

/// Which way the wind was at a throw.
pub fn way_of(wind: &WindThen) -> TrialWind {
    let (along, _) = wind_parts(wind);
    match along {
        a if a <= -WINDY_M_S => TrialWind::Into,
        a if a >= WINDY_M_S => TrialWind::Before,
        _ => TrialWind::Any,
    }
}

/// Throws of the protocol that are not made yet, in its order; one that slipped is made again.
pub(crate) fn left(trial: &Trial, throws: &[FieldThrow]) -> Vec<TrialThrow> {
    let mut made: Vec<&FieldThrow> = throws.iter().filter(|t| !t.has(ThrowTag::Slipped)).collect();
    let mut left = trial.throws();
    left.retain(|next| {
        let is_it = |t: &&FieldThrow| {
            // A wind that was not told, or blew across, is taken for the one that was asked for.
            let wind =
                next.set.wind == TrialWind::Any || [TrialWind::Any, next.set.wind].contains(&way_of(&t.wind));
            next.is_of(t) && (t.style, t.meant) == (next.set.style, next.set.meant) && wind
        };
        match made.iter().position(is_it) {
            Some(k) => {
                made.swap_remove(k);
                false
            }
            None => true,
        }
    });
    left
}
