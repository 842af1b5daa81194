//! Everything about one disc: the sum behind its numbers, its flights, the lines it is best for.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::dynamics::Throw;

use crate::catalogue::reach::asked;
use crate::chance::memo::Memo;
use crate::chance::search::chance;
use crate::disc::as_thrown::{AsThrown, as_thrown};
use crate::disc::spec::Disc;
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::verdict::board::{Puck, pucks};
use crate::verdict::opened::{Point, points};
use crate::verdict::school::{Objection, objections};
use crate::verdict::standing::PuttersApart;

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
    /// What the player's school has against it.
    pub objections: Vec<Objection>,
}

/// Shares of controlled power at which a disc is shown.
pub(crate) const POWERS: [(&str, f64); 3] = [("full", 1.0), ("three-quarter", 0.75), ("soft", 0.55)];

/// Works the sheet of a disc of a shelf out.
///
/// # Errors
/// [`BagError`] for a value outside its range.
pub fn sheet(
    player: &Player,
    conditions: &Conditions,
    style: Option<Style>,
    disc: &Disc,
    shelf: &[Disc],
    lines: &[Line],
    memo: &Memo,
) -> Result<Sheet, BagError> {
    let arm = Arm::of(player, conditions)?;
    let style = style.unwrap_or(player.strong_style);
    style.drives("style")?;
    let t = thrown(disc)?;
    let mut one = pucks(player, &arm, style, arm.wind, &[(disc, false)])?;
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
    let apart = PuttersApart::on(shelf);
    let mut good_lines: Vec<GoodLine> = lines
        .iter()
        .filter(|l| l.enabled && apart.answers_line(disc, &l.spec))
        .map(|l| GoodLine {
            key: l.key.clone(),
            name: l.spec.name.clone(),
            chance: chance(&arm, t, &asked(l, &arm), memo).worth,
        })
        .filter(|g| g.chance > 0.0)
        .collect();
    good_lines.sort_by(|a, b| b.chance.total_cmp(&a.chance));
    good_lines.truncate(6);
    let puck = one.remove(0);
    Ok(Sheet {
        objections: objections(player, disc, puck.bend.finish_deg),
        disc: disc.clone(),
        slot: player.lane(disc.spec.slot()),
        as_thrown: as_thrown(&disc.spec),
        puck,
        flights,
        good_lines,
    })
}
