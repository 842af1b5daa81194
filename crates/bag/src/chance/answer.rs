//! The chance of a disc on a line: the share of the player's own scatter that makes it, with the release behind it.

use std::ops::Range;

use serde::Serialize;
use utoipa::ToSchema;

use crate::need::limits::Miss;
use crate::need::thing::Peril;

/// The points of scatter that stand behind a chance and are shown for it: none of those by which its release is looked for, or the
/// best of many releases would seem better than it is (by three points in the mean where throws were counted, by seven at worst).
pub const JUDGED_ON: Range<usize> = 256..512;

/// What is made less often is told as 0 %: one throw in two hundred.
pub(super) const NEVER: f64 = 0.005;

/// The release chosen for a line.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Chosen {
    /// Share of controlled power.
    pub power: f64,
    /// Speed, m/s.
    pub speed_m_s: f64,
    /// Hyzer, degrees, negative is anhyzer.
    pub hyzer_deg: f64,
    /// Launch, degrees.
    pub launch_deg: f64,
    /// Nose, degrees, up positive.
    pub nose_deg: f64,
    /// Aim from the straight line, degrees, left positive.
    pub aim_deg: f64,
}

/// Why there is no release at all.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case", tag = "why")]
pub enum NoRelease {
    /// Full power falls short.
    TooFar {
        /// Farthest this disc goes within what the line allows, m.
        farthest_m: f64,
    },
    /// Least power goes past.
    TooNear {
        /// Nearest it can be made to land, m.
        nearest_m: f64,
    },
    /// The line asks for a slower disc.
    TooFast {
        /// Fastest speed number the line takes.
        fastest_speed: f64,
    },
}

/// Share of misses of one kind.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct MissShare {
    /// The kind.
    pub miss: Miss,
    /// Share of all throws, 0 to 1.
    pub share: f64,
}

/// Share of throws that end on ground that costs more than a miss.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct PerilShare {
    /// Which of the line's things.
    pub thing: usize,
    /// What it is.
    pub peril: Peril,
    /// Share of all throws, 0 to 1.
    pub share: f64,
}

/// How a disc does on a line.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Chance {
    /// Share of scatter that makes the line, 0 to 1.
    pub chance: f64,
    /// The release, if there is one.
    pub chosen: Option<Chosen>,
    /// Why not, if there is none.
    pub no_release: Option<NoRelease>,
    /// What goes wrong with the rest, most frequent first.
    pub misses: Vec<MissShare>,
    /// What of that ends on ground that costs more than a miss, most frequent first.
    pub perils: Vec<PerilShare>,
    /// Share of throws after which the disc is not got back, 0 to 1.
    pub lost: f64,
    /// What a throw costs against one that makes the line, strokes.
    pub costs_strokes: f64,
    /// What the chance is worth, 0 to 1: the share of throws that would have to make the line for the same strokes if nothing cost
    /// more than a miss. The chance itself where nothing does; 0 where it would be better to lay up.
    pub worth: f64,
}

impl Chance {
    /// None at all.
    pub(crate) fn none(why: NoRelease, miss_strokes: f64) -> Chance {
        Chance {
            chance: 0.0,
            chosen: None,
            no_release: Some(why),
            misses: vec![],
            perils: vec![],
            lost: 0.0,
            costs_strokes: miss_strokes,
            worth: 0.0,
        }
    }
}
