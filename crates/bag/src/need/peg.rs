//! Pegs: the places in a slot that want a disc, by where it really finishes.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::outcome::{Outcome, PathPoint};

use crate::thrower::player::School;
use crate::thrower::slot::Slot;

/// A place in a slot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Peg {
    /// Always comes back.
    Hook,
    /// Pushes straight and finishes surely; holds in wind.
    Lean,
    /// Straight.
    Rail,
    /// Turns and recovers.
    Drift,
    /// Turns and keeps going.
    Slide,
}

/// Where a disc finishes and how far it goes the other way first, degrees seen from the tee.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Bend {
    /// Finish, toward the natural fade side positive.
    pub finish_deg: f64,
    /// Swing to the other side before that, never negative.
    pub swing_deg: f64,
}

/// Least finish of each peg but the last, at full controlled power, flat, in calm air. Our own convention; this is
/// the one table to change.
pub const FIVE_PEG_EDGES: [(Peg, f64); 4] =
    [(Peg::Hook, 9.5), (Peg::Lean, 5.0), (Peg::Rail, 0.0), (Peg::Drift, -5.0)];
/// A swing of this many degrees that recovers makes a Drift of what would else be a Rail.
pub const DRIFT_SWING_DEG: f64 = 2.0;
/// Ends of the board, degrees.
pub const BOARD_EDGE_DEG: f64 = 16.0;

impl Peg {
    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Peg::Hook => "Hook",
            Peg::Lean => "Lean",
            Peg::Rail => "Rail",
            Peg::Drift => "Drift",
            Peg::Slide => "Slide",
        }
    }

    /// What a disc on it does.
    pub fn meaning(self) -> &'static str {
        match self {
            Peg::Hook => "always comes back",
            Peg::Lean => "pushes straight and finishes surely",
            Peg::Rail => "goes straight",
            Peg::Drift => "turns and recovers",
            Peg::Slide => "turns and keeps going",
        }
    }

    /// Pegs that a school tells apart, the most stable first: five in the five-peg school, three in every other.
    pub fn of_school(school: School) -> &'static [Peg] {
        match school {
            School::Five => &[Peg::Hook, Peg::Lean, Peg::Rail, Peg::Drift, Peg::Slide],
            School::Three | School::Beginner | School::Lean => &[Peg::Lean, Peg::Rail, Peg::Drift],
        }
    }

    /// Pegs a slot needs filled: utility none, putters and the fastest drivers no extremes; of a beginner nothing that
    /// comes back surely, in a lean bag nothing that turns and nothing fast. Common practice, no source.
    pub fn wanted(slot: Slot, school: School) -> &'static [Peg] {
        match (slot, school) {
            (Slot::Utility, _) | (Slot::Control | Slot::Distance, School::Lean) => &[],
            (_, School::Beginner) => &[Peg::Rail, Peg::Drift],
            (_, School::Lean) => &[Peg::Lean, Peg::Rail],
            (Slot::Putter | Slot::Control | Slot::Distance, _) => Peg::of_school(School::Three),
            (Slot::MidRange | Slot::Fairway, school) => Peg::of_school(school),
        }
    }

    /// The peg that a disc with this bend sits on.
    pub fn of(bend: Bend, school: School) -> Peg {
        let by_finish = FIVE_PEG_EDGES
            .iter()
            .find(|(_, least)| bend.finish_deg >= *least)
            .map_or(Peg::Slide, |(peg, _)| *peg);
        let peg =
            if by_finish == Peg::Rail && bend.swing_deg >= DRIFT_SWING_DEG { Peg::Drift } else { by_finish };
        match peg {
            Peg::Hook if school != School::Five => Peg::Lean,
            Peg::Slide if school != School::Five => Peg::Drift,
            peg => peg,
        }
    }

    /// Window of finish angles, degrees, least and greatest, the outermost pegs to the edge of the board.
    pub fn window_deg(self, school: School) -> (f64, f64) {
        let edge =
            |peg: Peg| FIVE_PEG_EDGES.iter().find(|(p, _)| *p == peg).map_or(-BOARD_EDGE_DEG, |(_, e)| *e);
        match (self, school) {
            (Peg::Hook, _) => (edge(Peg::Hook), BOARD_EDGE_DEG),
            (Peg::Lean, School::Five) => (edge(Peg::Lean), edge(Peg::Hook)),
            (Peg::Lean, _) => (edge(Peg::Lean), BOARD_EDGE_DEG),
            (Peg::Rail, _) => (edge(Peg::Rail), edge(Peg::Lean)),
            (Peg::Drift, School::Five) => (edge(Peg::Drift), edge(Peg::Rail)),
            (Peg::Drift, _) => (-BOARD_EDGE_DEG, edge(Peg::Rail)),
            (Peg::Slide, _) => (-BOARD_EDGE_DEG, edge(Peg::Drift)),
        }
    }
}

/// Distance within which the angle seen from the tee means nothing yet, m.
const NEAR_TEE_M: f64 = 5.0;

/// Bend of a flight whose natural finish is to the left (`side` +1) or right (−1).
pub fn bend(outcome: &Outcome, path: &[PathPoint], side: f64) -> Bend {
    let finish_deg = side * outcome.y_m.atan2(outcome.x_m).to_degrees();
    let swing_deg = path
        .iter()
        .filter(|p| p.x_m > NEAR_TEE_M)
        .map(|p| -side * p.y_m.atan2(p.x_m).to_degrees())
        .fold(0.0, f64::max);
    Bend { finish_deg, swing_deg }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(12.0, 0.0, Peg::Hook)]
    #[case(9.5, 0.0, Peg::Hook)]
    #[case(7.0, 0.5, Peg::Lean)]
    #[case(2.0, 1.0, Peg::Rail)]
    #[case(2.0, 3.0, Peg::Drift)]
    #[case(-3.0, 4.0, Peg::Drift)]
    #[case(-8.0, 8.0, Peg::Slide)]
    fn prop_peg_windows(#[case] finish_deg: f64, #[case] swing_deg: f64, #[case] peg: Peg) {
        assert_eq!(Peg::of(Bend { finish_deg, swing_deg }, School::Five), peg);
    }

    #[test]
    fn prop_every_bend_has_a_peg_of_the_school() {
        for school in School::ALL {
            for k in -40..40 {
                let finish_deg = 0.5 * f64::from(k);
                let peg = Peg::of(Bend { finish_deg, swing_deg: 0.0 }, school);
                assert!(Peg::of_school(school).contains(&peg));
                let (low, high) = peg.window_deg(school);
                let inside = finish_deg.clamp(-BOARD_EDGE_DEG, BOARD_EDGE_DEG);
                assert!(low <= inside && inside <= high, "{peg:?} {finish_deg}");
            }
        }
    }
}
