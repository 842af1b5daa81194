//! Everything about one disc: the sum behind its numbers, its flights, the lines it is best for.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::{Outcome, PathPoint};

use crate::arm::Arm;
use crate::as_thrown::{AsThrown, as_thrown};
use crate::board::{Puck, pucks, thrown};
use crate::chance::Chance;
use crate::cost::{ErrorCost, error_costs};
use crate::day::Conditions;
use crate::disc::Disc;
use crate::error::BagError;
use crate::limits::Limits;
use crate::line::{Line, LineSpec};
use crate::memo::Memo;
use crate::player::Player;
use crate::search::{behind, chance};
use crate::slot::Slot;
use crate::style::Style;

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

fn points(path: &[PathPoint]) -> Vec<Point> {
    path.iter().map(|p| Point { x_m: p.x_m, y_m: p.y_m, z_m: p.z_m }).collect()
}

/// A flight at one share of controlled power.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PowerFlight {
    /// Name for people.
    pub label: &'static str,
    /// Share of controlled power.
    pub power: f64,
    /// Speed at release, m/s.
    pub speed_m_s: f64,
    /// Distance, m.
    pub distance_m: f64,
    /// Finish, m, left positive.
    pub finish_left_m: f64,
    /// Greatest height, m.
    pub apex_m: f64,
    /// Time in the air, s.
    pub time_s: f64,
    /// The path.
    pub path: Vec<Point>,
}

/// A line a disc is good for.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct GoodLine {
    /// The line.
    pub key: String,
    /// Its name.
    pub name: String,
    /// The chance on it.
    pub chance: f64,
}

/// The sheet of a disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Sheet {
    /// The disc.
    pub disc: Disc,
    /// Its slot.
    pub slot: Slot,
    /// The sum.
    pub as_thrown: AsThrown,
    /// As it sits on the board.
    pub puck: Puck,
    /// Flat at full, three-quarter and soft power.
    pub flights: Vec<PowerFlight>,
    /// Lines it does best, at most six.
    pub good_lines: Vec<GoodLine>,
}

const POWERS: [(&str, f64); 3] = [("full", 1.0), ("three-quarter", 0.75), ("soft", 0.55)];

/// Works the sheet of a disc out.
///
/// # Errors
/// [`BagError`] for a value outside its range.
pub fn sheet(
    player: &Player,
    conditions: &Conditions,
    style: Option<Style>,
    disc: &Disc,
    lines: &[Line],
    memo: &Memo,
) -> Result<Sheet, BagError> {
    let arm = Arm::of(player, conditions)?;
    let style = style.unwrap_or(player.strong_style);
    style.drives("style")?;
    let t = thrown(disc)?;
    let mut one = pucks(&arm, player.school, style, arm.wind, &[(disc, false)])?;
    let throws: Vec<Throw> = POWERS
        .iter()
        .map(|(_, power)| Throw {
            disc: t.body,
            release: arm.release(style, t.speed, *power),
            wind: arm.wind,
        })
        .collect();
    let flights = fly_with_paths(&throws, &arm.air)
        .iter()
        .zip(POWERS)
        .zip(&throws)
        .map(|(((o, path), (label, power)), throw)| PowerFlight {
            label,
            power,
            speed_m_s: throw.release.speed_m_s,
            distance_m: o.distance_m(),
            finish_left_m: o.y_m,
            apex_m: o.apex_m,
            time_s: o.time_s,
            path: points(path),
        })
        .collect();
    let mut good_lines: Vec<GoodLine> = lines
        .iter()
        .filter(|l| l.enabled)
        .map(|l| GoodLine {
            key: l.key.clone(),
            name: l.spec.name.clone(),
            chance: chance(&arm, t, &l.spec, memo).chance,
        })
        .filter(|g| g.chance > 0.0)
        .collect();
    good_lines.sort_by(|a, b| b.chance.total_cmp(&a.chance));
    good_lines.truncate(6);
    Ok(Sheet {
        disc: disc.clone(),
        slot: disc.spec.slot(),
        as_thrown: as_thrown(&disc.spec),
        puck: one.remove(0),
        flights,
        good_lines,
    })
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
    use crate::chance::NoRelease;
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
