//! One chance opened to its reasons: the release, the flight, and what the scatter about it does.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::outcome::{Outcome, PathPoint};

use crate::chance::answer::{Chance, NoRelease};
use crate::chance::cost::{ErrorCost, error_costs};
use crate::chance::memo::Memo;
use crate::chance::search::{behind, chance};
use crate::disc::spec::Disc;
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::need::limits::Limits;
use crate::need::line::{Line, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;

/// One point of a path as drawn: metres down-range, left, up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Point {
    /// Down-range, m.
    pub x_m: f64,
    /// Left, m.
    pub y_m: f64,
    /// Up, m.
    pub z_m: f64,
}

/// A path as it is drawn.
pub(crate) fn points(path: &[PathPoint]) -> Vec<Point> {
    path.iter().map(|p| Point { x_m: p.x_m, y_m: p.y_m, z_m: p.z_m }).collect()
}

/// One throw of the scatter behind a chance.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Landed {
    /// Down-range, m.
    pub x_m: f64,
    /// Left, m.
    pub y_m: f64,
    /// Whether it made the line.
    pub made: bool,
}

/// A chance opened to its reasons.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ChanceSheet {
    /// The line.
    pub line: Line,
    /// Name of the disc.
    pub disc_name: String,
    /// The chance and the release behind it.
    pub chance: Chance,
    /// In plain words.
    pub words: String,
    /// The day as it is on this line: its own wind and lee in it.
    pub conditions: Conditions,
    /// Path of the centre throw, empty if there is no release.
    pub path: Vec<Point>,
    /// Where the scatter comes to rest, at the basket where it passes or falls short of it.
    pub cloud: Vec<Landed>,
    /// What each of the player's errors costs, the dearest first.
    pub costs: Vec<ErrorCost>,
}

/// Opens the chance of a disc on a line.
///
/// # Errors
/// [`BagError`] for a value outside its range.
pub fn chance_sheet(
    player: &Player,
    conditions: &Conditions,
    disc: &Disc,
    line: &Line,
    memo: &Memo,
) -> Result<ChanceSheet, BagError> {
    let arm = Arm::of(player, conditions)?;
    let t = thrown(disc)?;
    line.spec.validate()?;
    let found = chance(&arm, t, &line.spec, memo);
    let (mut path, mut cloud, mut costs) = (vec![], vec![], vec![]);
    if let Some(chosen) = &found.chosen {
        let behind = behind(&arm, t, &line.spec, chosen);
        if let Some((_, centre)) = fly_with_paths(&[behind.throw], &behind.air).first() {
            path = points(centre);
            path.iter_mut().for_each(|p| p.z_m += line.spec.floor_m());
        }
        let limits = Limits::of(&line.spec);
        let landed = |o: &Outcome| Landed { x_m: o.x_m, y_m: o.y_m, made: limits.judge(o).miss.is_none() };
        cloud = behind.cloud.iter().map(landed).collect();
        costs = error_costs(&arm, t, &line.spec, chosen, found.chance);
    }
    Ok(ChanceSheet {
        disc_name: disc.spec.name.clone(),
        words: in_words(&found, &line.spec),
        conditions: conditions.blowing(line.spec.wind(arm.wind), arm.gust_m_s * (1.0 - line.spec.lee)),
        line: line.clone(),
        chance: found,
        path,
        cloud,
        costs,
    })
}

fn in_words(chance: &Chance, line: &LineSpec) -> String {
    if let Some(no) = chance.no_release {
        return match no {
            NoRelease::TooFar { farthest_m } => format!(
                "At full controlled power, with the releases this line allows, it comes down {:.0} % short of the target.",
                100.0 * (1.0 - farthest_m / line.distance_m)
            ),
            NoRelease::TooNear { nearest_m } => format!(
                "Even held back it flies {:.0} % past the target.",
                100.0 * (nearest_m / line.distance_m - 1.0)
            ),
            NoRelease::TooFast { fastest_speed } => format!(
                "This line takes discs up to speed {fastest_speed}; a faster one would run on after landing."
            ),
        };
    }
    let misses: Vec<String> = chance
        .misses
        .iter()
        .take(4)
        .map(|m| format!("{:.0} {}", (100.0 * m.share).round(), m.miss.label()))
        .collect();
    let rest = if misses.is_empty() { "none of the sample misses".to_owned() } else { misses.join(", ") };
    format!("Of 100 throws with your scatter {:.0} make it; {rest}.", (100.0 * chance.chance).round())
}
