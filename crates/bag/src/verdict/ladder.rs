//! The distance ladder: how far each carried disc goes, from soft to full, and the distances that none reaches comfortably.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;

use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::verdict::carried::Carried;
use crate::verdict::sheet::POWERS;
use crate::words::distance;

/// A hole is no narrower than this, m. Own judgement.
const LEAST_HOLE_M: f64 = 4.0;

/// A disc on the ladder.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Rung {
    /// The disc.
    pub disc_id: DiscId,
    /// How far it goes soft, flat, m.
    pub soft_m: f64,
    /// At three-quarter power, m.
    pub three_quarter_m: f64,
    /// At full controlled power, m.
    pub full_m: f64,
}

/// Distances that no disc reaches between three-quarter and full power.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Hole {
    /// From, m.
    pub from_m: f64,
    /// To, m.
    pub to_m: f64,
    /// In words.
    pub words: String,
}

/// The ladder of a style.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ladder {
    /// The style.
    pub style: Style,
    /// Its discs, the shortest first.
    pub rungs: Vec<Rung>,
    /// Distances between the bands, the nearest first.
    pub holes: Vec<Hole>,
}

/// The ladders of a bag in some conditions: of the backhand, the forehand, and the overhand if the player throws one.
///
/// # Errors
/// [`BagError`] for a player, disc or conditions outside their ranges.
pub fn ladders(
    player: &Player,
    conditions: &Conditions,
    shelf: &[Disc],
    carried: &[Carried],
) -> Result<Vec<Ladder>, BagError> {
    let arm = Arm::of(player, conditions)?;
    let overhand = player.overhand_m.map(|_| Style::Thumber);
    let styles = [Style::Backhand, Style::Forehand].into_iter().chain(overhand);
    let discs: Vec<&Disc> = shelf
        .iter()
        .filter(|d| d.spec.used_for != Use::Putting && carried.iter().any(|c| c.disc_id == d.id))
        .collect();
    styles.map(|style| ladder(player, &arm, style, &discs)).collect()
}

/// A throw as the ladder tells its distance: flat, at a share of controlled power.
pub(crate) fn flat(arm: &Arm, style: Style, thrown: &Thrown, power: f64) -> Throw {
    Throw { disc: thrown.body, release: arm.release(style, thrown.speed, power), wind: arm.wind }
}

fn ladder(player: &Player, arm: &Arm, style: Style, discs: &[&Disc]) -> Result<Ladder, BagError> {
    let discs: Vec<&Disc> = discs.iter().copied().filter(|d| d.spec.answers(style)).collect();
    let mut throws = Vec::with_capacity(POWERS.len() * discs.len());
    for disc in &discs {
        let thrown = thrown(disc)?;
        throws.extend(POWERS.map(|(_, power)| flat(arm, style, &thrown, power)));
    }
    let flights = fly_all(&throws, &arm.air, &[]);
    let mut rungs: Vec<Rung> = discs
        .iter()
        .zip(flights.chunks(POWERS.len()))
        .map(|(d, of)| Rung {
            disc_id: d.id,
            full_m: of[0].distance_m(),
            three_quarter_m: of[1].distance_m(),
            soft_m: of[2].distance_m(),
        })
        .collect();
    rungs.sort_by(|a, b| a.full_m.total_cmp(&b.full_m));
    let holes = holes(&rungs)
        .into_iter()
        .map(|(from_m, to_m)| {
            let words = format!(
                "Between {} and {} nothing goes at three-quarter to full power.",
                distance(player.units, from_m),
                distance(player.units, to_m)
            );
            Hole { from_m, to_m, words }
        })
        .collect();
    Ok(Ladder { style, rungs, holes })
}

/// What the bands from three-quarter to full power leave open between the nearest and the farthest.
fn holes(rungs: &[Rung]) -> Vec<(f64, f64)> {
    // Into a strong wind a harder throw can come down sooner.
    let mut bands: Vec<(f64, f64)> =
        rungs.iter().map(|r| (r.three_quarter_m.min(r.full_m), r.three_quarter_m.max(r.full_m))).collect();
    bands.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut found = Vec::new();
    let Some(&(_, mut covered)) = bands.first() else { return found };
    for (from, to) in bands {
        if from - covered >= LEAST_HOLE_M {
            found.push((covered, from));
        }
        covered = covered.max(to);
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn rung(three_quarter_m: f64, full_m: f64) -> Rung {
        Rung { disc_id: DiscId(0), soft_m: 0.0, three_quarter_m, full_m }
    }

    #[test]
    fn prop_a_hole_lies_between_bands() {
        assert_eq!(holes(&[rung(30.0, 45.0), rung(60.0, 80.0), rung(40.0, 50.0)]), [(50.0, 60.0)]);
        assert!(holes(&[rung(30.0, 45.0), rung(48.0, 60.0)]).is_empty(), "too narrow to matter");
        assert!(holes(&[]).is_empty());
    }

    proptest! {
        /// No distance of a hole is in a band, and one more disc never makes more of them than it fills.
        #[test]
        fn prop_holes_are_what_bands_leave_open(bands in prop::collection::vec((10.0..120.0f64, 0.0..25.0f64), 1..9)) {
            let rungs: Vec<Rung> = bands.iter().map(|(from, wide)| rung(*from, from + wide)).collect();
            let open = |rungs: &[Rung]| holes(rungs).iter().map(|(a, b)| b - a).sum::<f64>();
            for (from, to) in holes(&rungs) {
                let middle = 0.5 * (from + to);
                prop_assert!(rungs.iter().all(|r| middle < r.three_quarter_m || middle > r.full_m));
            }
            let nearest = rungs.iter().map(|r| r.three_quarter_m).fold(f64::INFINITY, f64::min);
            let farthest = rungs.iter().map(|r| r.full_m).fold(0.0, f64::max);
            let mut more = rungs.clone();
            more.push(rung(0.5 * (nearest + farthest), 0.5 * (nearest + farthest) + 1.0));
            // What it fills may leave two holes, each too narrow to be told.
            prop_assert!(open(&more) <= open(&rungs) + 1e-9);
        }
    }
}
