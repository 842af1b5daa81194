//! What stands and lies about a line: trees, wood, roofs, mandatories, water, out of bounds; and how the ground rises and falls.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::error::FlightError;
use zinc_kite_flight::terrain::{MOST_RISE_M, RISES_AT_M, Terrain};

use crate::error::{BagError, within};
use crate::need::area::Spot;

/// Most things on one line.
pub const MOST_THINGS: usize = 12;
/// Most corners of a piece of ground.
pub const MOST_CORNERS: usize = 12;
/// What it usually costs beyond the miss to leave the ground on which the next throw may be made, strokes: the event's rules
/// say what it is. Common practice, no source.
const PENALTY_STROKES: f64 = 1.0;
/// Share of the discs in water that is not got back. Own judgement.
const LOST_IN_WATER: f64 = 0.3;

/// A side, as the player stands on the tee.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Side {
    /// Left.
    Left,
    /// Right.
    Right,
}

/// Ground that costs more than a miss.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Peril {
    /// Water: what falls in stays where it fell.
    Water,
    /// Out of bounds.
    OutOfBounds,
}

impl Peril {
    /// After "n of 100 throws".
    pub fn label(self) -> &'static str {
        match self {
            Peril::Water => "end in water",
            Peril::OutOfBounds => "end out of bounds",
        }
    }
}

/// Something that a line has on its way or beside it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case", tag = "kind")]
pub enum Thing {
    /// A tree: a trunk, and a crown from where its branches begin.
    Tree {
        /// Where it stands, m down-range.
        #[schema(minimum = 1.0, maximum = 200.0)]
        at_m: f64,
        /// And across, m, left positive.
        #[schema(minimum = -100.0, maximum = 100.0)]
        left_m: f64,
        /// Half the width of its crown, m.
        #[schema(minimum = 0.3, maximum = 20.0)]
        crown_m: f64,
        /// Where its branches begin, m above the ground.
        #[schema(minimum = 0.0, maximum = 40.0)]
        foot_m: f64,
        /// How high it is, m.
        #[schema(minimum = 0.5, maximum = 60.0)]
        top_m: f64,
    },
    /// Wood that nothing gets through, up to a height.
    Wood {
        /// Its corners.
        #[schema(min_items = 3, max_items = 12)]
        area: Vec<Spot>,
        /// How high it is, m.
        #[schema(minimum = 0.5, maximum = 60.0)]
        top_m: f64,
    },
    /// Branches over a stretch, from side to side.
    Roof {
        /// Where they begin, m down-range.
        #[schema(minimum = 0.5, maximum = 200.0)]
        from_m: f64,
        /// Where they end, m.
        #[schema(minimum = 0.5, maximum = 250.0)]
        to_m: f64,
        /// How high above the ground they hang, m.
        #[schema(minimum = 0.5, maximum = 60.0)]
        under_m: f64,
    },
    /// Something that must be passed on one side.
    Mandatory {
        /// Where it stands, m down-range.
        #[schema(minimum = 1.0, maximum = 200.0)]
        at_m: f64,
        /// And across, m, left positive.
        #[schema(minimum = -100.0, maximum = 100.0)]
        left_m: f64,
        /// The side of it to pass.
        pass: Side,
    },
    /// Ground that costs more than a miss.
    Hazard {
        /// What it is.
        peril: Peril,
        /// Its corners.
        #[schema(min_items = 3, max_items = 12)]
        area: Vec<Spot>,
        /// What ending there costs beyond the miss, strokes, 0 to 3; absent for what is usual.
        #[serde(default)]
        #[schema(minimum = 0.0, maximum = 3.0)]
        strokes: Option<f64>,
        /// Share of the discs that end there and are not got back, 0 to 1; absent for what is usual.
        #[serde(default)]
        #[schema(minimum = 0.0, maximum = 1.0)]
        lost: Option<f64>,
    },
}

impl Thing {
    /// What ending there costs beyond the miss, strokes, and the share of discs lost; for what is no hazard nothing.
    pub fn price(&self) -> (f64, f64) {
        match self {
            Thing::Hazard { peril, strokes, lost, .. } => {
                let usually_lost = if *peril == Peril::Water { LOST_IN_WATER } else { 0.0 };
                (strokes.unwrap_or(PENALTY_STROKES), lost.unwrap_or(usually_lost))
            }
            _ => (0.0, 0.0),
        }
    }

    /// Gates that watching it takes at least.
    pub(crate) fn gates(&self) -> usize {
        match self {
            Thing::Tree { .. } | Thing::Mandatory { .. } => 1,
            Thing::Wood { .. } | Thing::Roof { .. } => 2,
            Thing::Hazard { .. } => 0,
        }
    }

    /// # Errors
    /// [`BagError`] for the first field that makes no such thing.
    pub(crate) fn validate(&self) -> Result<(), BagError> {
        match self {
            Thing::Tree { at_m, left_m, crown_m, foot_m, top_m } => {
                within("tree at_m", *at_m, 1.0, 200.0)?;
                within("tree left_m", *left_m, -100.0, 100.0)?;
                within("tree crown_m", *crown_m, 0.3, 20.0)?;
                within("tree top_m", *top_m, 0.5, 60.0)?;
                within("tree foot_m", *foot_m, 0.0, *top_m)
            }
            Thing::Wood { area, top_m } => {
                within("wood top_m", *top_m, 0.5, 60.0)?;
                corners("wood corners", area)
            }
            Thing::Roof { from_m, to_m, under_m } => {
                within("roof from_m", *from_m, 0.5, 200.0)?;
                within("roof to_m", *to_m, from_m + 0.5, 250.0)?;
                within("roof under_m", *under_m, 0.5, 60.0)
            }
            Thing::Mandatory { at_m, left_m, .. } => {
                within("mandatory at_m", *at_m, 1.0, 200.0)?;
                within("mandatory left_m", *left_m, -100.0, 100.0)
            }
            Thing::Hazard { area, strokes, lost, .. } => {
                within("hazard strokes", strokes.unwrap_or(0.0), 0.0, 3.0)?;
                within("hazard lost", lost.unwrap_or(0.0), 0.0, 1.0)?;
                corners("hazard corners", area)
            }
        }
    }

    /// All that a flight depends on, in figures.
    pub(crate) fn figures(&self) -> Vec<f64> {
        let spots = |kind: f64, area: &[Spot], more: &[f64]| {
            let corners = area.iter().flat_map(|s| [s.at_m, s.left_m]);
            [kind, area.len() as f64].into_iter().chain(corners).chain(more.iter().copied()).collect()
        };
        match self {
            Thing::Tree { at_m, left_m, crown_m, foot_m, top_m } => {
                vec![1.0, *at_m, *left_m, *crown_m, *foot_m, *top_m]
            }
            Thing::Wood { area, top_m } => spots(2.0, area, &[*top_m]),
            Thing::Roof { from_m, to_m, under_m } => vec![3.0, *from_m, *to_m, *under_m],
            Thing::Mandatory { at_m, left_m, pass } => vec![4.0, *at_m, *left_m, f64::from(*pass as u8)],
            Thing::Hazard { peril, area, .. } => {
                let (strokes, lost) = self.price();
                spots(5.0, area, &[f64::from(*peril as u8), strokes, lost])
            }
        }
    }
}

fn corners(field: &'static str, area: &[Spot]) -> Result<(), BagError> {
    within(field, area.len() as f64, 3.0, MOST_CORNERS as f64)?;
    for spot in area {
        within("corner at_m", spot.at_m, -50.0, 300.0)?;
        within("corner left_m", spot.left_m, -150.0, 150.0)?;
    }
    Ok(())
}

/// How high the ground lies at a place along the line.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Rise {
    /// Where, m down-range.
    #[schema(minimum = 0.5, maximum = 300.0)]
    pub at_m: f64,
    /// How much above the ground at the tee, m; negative below it.
    #[schema(minimum = -60.0, maximum = 60.0)]
    pub height_m: f64,
}

impl Rise {
    /// Whether a line can have its ground there.
    pub fn can_be(&self) -> bool {
        RISES_AT_M.contains(&self.at_m) && self.height_m.abs() <= MOST_RISE_M
    }
}

/// The ground through some rises.
///
/// # Errors
/// [`BagError::Flight`] if they make no ground.
pub(crate) fn terrain(rises: &[Rise]) -> Result<Terrain, FlightError> {
    Terrain::through(&rises.iter().map(|r| (r.at_m, r.height_m)).collect::<Vec<_>>())
}
