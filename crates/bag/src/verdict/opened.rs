//! One chance opened to its reasons: the release, the flight, and what the scatter about it does.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::outcome::{Outcome, PathPoint};
use zinc_kite_flight::settle::settle_with_path;

use crate::catalogue::reach::asked;
use crate::chance::answer::{Chance, Chosen, NoRelease};
use crate::chance::cost::{ErrorCost, error_costs};
use crate::chance::memo::Memo;
use crate::chance::search::{behind, chance};
use crate::disc::spec::{Disc, DiscId};
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::need::limits::Limits;
use crate::need::line::{Landing, Line, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::verdict::sieve::{Entrant, On};
use crate::verdict::standing::PuttersApart;
use crate::words::{capital, percent, strokes};

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
    /// The disc.
    pub disc_id: DiscId,
    /// Name of the disc.
    pub disc_name: String,
    /// The chance and the release behind it.
    pub chance: Chance,
    /// In plain words.
    pub words: String,
    /// The release as a player would say it; empty if there is none.
    pub release: String,
    /// Where the release is aimed: so far beside the target, m, left positive; 0 if there is none.
    pub aim_left_m: f64,
    /// The day as it is on this line: its own wind and lee in it.
    pub conditions: Conditions,
    /// Path of the centre throw, empty if there is no release.
    pub path: Vec<Point>,
    /// Its way over the ground, from the first touch to where it comes to rest, heights above the ground beneath; none into a
    /// basket.
    pub run: Vec<Point>,
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
    line.spec.validate()?;
    let arm = Arm::of(player, conditions)?;
    let line = Line { spec: asked(line, &arm).into_owned(), ..line.clone() };
    sheet_on(&arm, conditions, disc, &line, memo)
}

/// The same on a line as it is asked in this weather.
fn sheet_on(
    arm: &Arm,
    conditions: &Conditions,
    disc: &Disc,
    line: &Line,
    memo: &Memo,
) -> Result<ChanceSheet, BagError> {
    let t = thrown(disc)?;
    let found = chance(arm, t, &line.spec, memo);
    let (mut path, mut run, mut cloud, mut costs) = (vec![], vec![], vec![], vec![]);
    if let Some(chosen) = &found.chosen {
        let behind = behind(arm, t, &line.spec, chosen);
        let (mut end, centre) = fly_with_paths(&[behind.throw], &behind.air).remove(0);
        path = points(&centre);
        path.iter_mut().for_each(|p| p.z_m += line.spec.floor_m());
        if line.spec.landing != Landing::Basket {
            let contact = t.contact(line.spec.ground, &behind.air);
            run = points(&settle_with_path(&mut end, &contact).1);
        }
        let limits = Limits::of(&line.spec);
        let landed = |o: &Outcome| Landed { x_m: o.x_m, y_m: o.y_m, made: limits.judge(o).miss.is_none() };
        cloud = behind.cloud.iter().map(landed).collect();
        costs = error_costs(arm, t, &line.spec, chosen, found.chance);
    }
    Ok(ChanceSheet {
        disc_id: disc.id,
        disc_name: disc.spec.name.clone(),
        release: found.chosen.as_ref().map_or_else(String::new, release_in_words),
        aim_left_m: found.chosen.map_or(0.0, |c| line.spec.distance_m * c.aim_deg.to_radians().tan()),
        words: in_words(&found, &line.spec),
        conditions: conditions.blowing(line.spec.wind(arm.wind), arm.gust_m_s * (1.0 - line.spec.lee)),
        line: line.clone(),
        chance: found,
        path,
        run,
        cloud,
        costs,
    })
}

/// A line opened: the discs that make it most often, their flights and their scatter over one another.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LineSheet {
    /// The line as it is asked in this weather.
    pub line: Line,
    /// The day as it is on this line: its own wind and lee in it.
    pub conditions: Conditions,
    /// The best discs, the best first, then the one that was asked for if it is none of them.
    pub discs: Vec<ChanceSheet>,
}

/// Discs shown on an opened line.
pub const SHOWN: usize = 3;

/// Opens a line with the best of `discs`, and with `also` beside them.
///
/// # Errors
/// [`BagError`] for a value outside its range.
pub fn line_sheet(
    player: &Player,
    conditions: &Conditions,
    discs: &[&Disc],
    also: Option<&Disc>,
    line: &Line,
    memo: &Memo,
) -> Result<LineSheet, BagError> {
    line.spec.validate()?;
    let arm = Arm::of(player, conditions)?;
    let line = Line { spec: asked(line, &arm).into_owned(), ..line.clone() };
    let apart = PuttersApart::on(discs.iter().copied());
    let entrants: Vec<Entrant> =
        discs.iter().map(|d| Entrant::of(d, apart)).collect::<Result<_, BagError>>()?;
    let best = On { arm: &arm, spec: &line.spec, memo }.best(&entrants, SHOWN);
    let mut shown: Vec<&Disc> =
        best.iter().take(SHOWN).filter_map(|c| discs.iter().find(|d| d.id == c.disc_id).copied()).collect();
    shown.extend(also.filter(|d| shown.iter().all(|s| s.id != d.id)));
    let open = |disc: &&Disc| sheet_on(&arm, conditions, disc, &line, memo);
    Ok(LineSheet {
        discs: shown.iter().map(open).collect::<Result<_, _>>()?,
        conditions: conditions.blowing(line.spec.wind(arm.wind), arm.gust_m_s * (1.0 - line.spec.lee)),
        line,
    })
}

/// A release as a player would say it. Limits between the words: own judgement.
pub(crate) fn release_in_words(r: &Chosen) -> String {
    let power = match r.power {
        p if p >= 0.97 => "full power".to_owned(),
        p if p >= 0.88 => "a little off full power".to_owned(),
        p => format!("{:.0} % of your power", 100.0 * p),
    };
    let way = if r.hyzer_deg < 0.0 { "anhyzer" } else { "hyzer" };
    let bank = match r.hyzer_deg.abs() {
        a if a < 2.0 => "flat".to_owned(),
        a if a < 8.0 => format!("a touch of {way}"),
        a if a < 20.0 => format!("on {way}"),
        a if a < 40.0 => format!("on steep {way}"),
        a if a < 65.0 => format!("on very steep {way}"),
        _ => "nearly on edge".to_owned(),
    };
    let launch = match r.launch_deg {
        l if l < 4.0 => "thrown level",
        l if l < 8.0 => "thrown low",
        l if l < 14.0 => "thrown a little upward",
        l if l < 22.0 => "thrown high",
        _ => "thrown very high",
    };
    let nose = match r.nose_deg {
        n if n < -4.0 => "nose well down",
        n if n < -1.0 => "nose down",
        n if n <= 1.0 => "nose level",
        _ => "nose up",
    };
    format!("{}, {bank}, {launch}, {nose}", capital(&power))
}

/// What the scatter behind a chance does, in words.
pub(crate) fn in_words(chance: &Chance, line: &LineSpec) -> String {
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
    let made = (100.0 * chance.chance).round();
    let dearer = if chance.perils.is_empty() {
        String::new()
    } else {
        format!(
            " With what that costs, a throw leaves {} and is worth {} made.",
            strokes(chance.costs_strokes),
            percent(chance.worth)
        )
    };
    format!("Of 100 throws with your scatter {made:.0} make it; {rest}.{dearer}")
}
