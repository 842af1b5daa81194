//! Where discs would sit otherwise: in a headwind, in a tailwind, one grade of wear on; and a disc that is not carried yet, as
//! it would lie among those that are.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::thrown::thrown;
use crate::disc::wear::{Grade, Wear};
use crate::error::BagError;
use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::season::WeatherKind;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::verdict::board::{Puck, pucks};
use crate::verdict::carried::Carried;
use crate::verdict::twin::{TWIN_OVERLAP, clouds, overlap};

/// What is otherwise.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum GhostKind {
    /// The season's wind from ahead.
    Ahead,
    /// The season's wind from behind.
    Behind,
    /// One grade of wear on.
    Worn,
}

/// Where a carried disc would sit.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ghost {
    /// The disc.
    pub disc_id: DiscId,
    /// Where it would finish seen from the tee, degrees, true left positive.
    pub finish_left_deg: f64,
    /// The peg it would sit on.
    pub peg: Option<Peg>,
}

/// Carried discs as they would sit if one thing were otherwise.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ghosts {
    /// What is otherwise.
    pub kind: GhostKind,
    /// Speed of the wind at 10 m, m/s; absent for wear.
    pub wind_m_s: Option<f64>,
    /// The discs; of those worn to the end there is none one grade on.
    pub discs: Vec<Ghost>,
}

fn sitting(
    player: &Player,
    conditions: &Conditions,
    style: Style,
    discs: &[&Disc],
) -> Result<Vec<Ghost>, BagError> {
    let arm = Arm::of(player, conditions)?;
    let all: Vec<(&Disc, bool)> = discs.iter().map(|d| (*d, false)).collect();
    let pucks = pucks(player, &arm, style, arm.wind, &all)?;
    let ghost = |p: Puck| Ghost { disc_id: p.disc_id, finish_left_deg: p.finish_left_deg, peg: p.peg };
    Ok(pucks.into_iter().map(ghost).collect())
}

/// One grade of wear on; `None` if there is none.
pub fn one_grade_on(disc: &Disc) -> Option<Disc> {
    let share = disc.spec.wear_share();
    let grade = Grade::of_share(share).next()?;
    let mut worn = disc.clone();
    worn.spec.wear = Wear { grade, ..Wear::FRESH };
    Some(worn)
}

/// Carried discs in the season's headwind, in its tailwind, and one grade of wear on, all else as it is today.
///
/// # Errors
/// [`BagError`] for a player, disc or conditions outside their ranges, or a style that pegs are not about.
pub fn ghosts(
    player: &Player,
    conditions: &Conditions,
    style: Option<Style>,
    shelf: &[Disc],
    carried: &[Carried],
) -> Result<[Ghosts; 3], BagError> {
    let style = style.unwrap_or(player.strong_style);
    style.drives("style")?;
    let discs: Vec<&Disc> = shelf.iter().filter(|d| carried.iter().any(|c| c.disc_id == d.id)).collect();
    let weathers = player.season.weathers();
    let blowing = |kind, of: WeatherKind| {
        let day = weathers.iter().find(|w| w.kind == of).map_or(*conditions, |w| Conditions {
            wind_m_s: w.conditions.wind_m_s,
            wind_from_deg: w.conditions.wind_from_deg,
            ..*conditions
        });
        let discs = sitting(player, &day, style, &discs)?;
        Ok::<_, BagError>(Ghosts { kind, wind_m_s: Some(day.wind_m_s), discs })
    };
    let worn: Vec<Disc> = discs.iter().filter_map(|d| one_grade_on(d)).collect();
    let worn: Vec<&Disc> = worn.iter().collect();
    Ok([
        blowing(GhostKind::Ahead, WeatherKind::Ahead)?,
        blowing(GhostKind::Behind, WeatherKind::Behind)?,
        Ghosts { kind: GhostKind::Worn, wind_m_s: None, discs: sitting(player, conditions, style, &worn)? },
    ])
}

/// A carried disc that another could not be told from.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Likeness {
    /// The carried disc.
    pub disc_id: DiscId,
    /// Overlap of their clouds, 0 to 1.
    pub overlap: f64,
}

/// A disc as it would lie among the carried ones.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Preview {
    /// The lane.
    pub slot: Slot,
    /// The disc in its place.
    pub puck: Puck,
    /// Carried discs it would be a twin of, the likest first.
    pub twins: Vec<Likeness>,
}

/// Lays a disc among the carried ones of its lane.
///
/// # Errors
/// As of [`ghosts`].
pub fn preview(
    player: &Player,
    conditions: &Conditions,
    style: Option<Style>,
    disc: &Disc,
    shelf: &[Disc],
    carried: &[Carried],
) -> Result<Preview, BagError> {
    let style = style.unwrap_or(player.strong_style);
    style.drives("style")?;
    let arm = Arm::of(player, conditions)?;
    let slot = player.lane(disc.spec.slot());
    let puck = pucks(player, &arm, style, arm.wind, &[(disc, false)])?.remove(0);
    let own = clouds(&arm, thrown(disc)?, style);
    let others = shelf.iter().filter(|d| {
        d.id != disc.id
            && carried.iter().any(|c| c.disc_id == d.id)
            && player.lane(d.spec.slot()) == slot
            && d.spec.used_for == Use::Throwing
    });
    let has_twins = disc.spec.used_for == Use::Throwing && slot != Slot::Utility;
    let mut twins = Vec::new();
    for other in others.filter(|_| has_twins) {
        let overlap = overlap(&own, &clouds(&arm, thrown(other)?, style));
        if overlap >= TWIN_OVERLAP {
            twins.push(Likeness { disc_id: other.id, overlap });
        }
    }
    twins.sort_by(|a, b| b.overlap.total_cmp(&a.overlap));
    Ok(Preview { slot, puck, twins })
}
