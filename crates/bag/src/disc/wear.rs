//! How far a disc has worn, and what that does to its numbers.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::disc::plastic::Plastic;
use crate::whole::{whole, whole_if_any};

/// Condition as a player judges it by eye, for discs whose throws nobody counted.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Grade {
    /// As bought.
    Fresh,
    /// First edges gone.
    BrokenIn,
    /// At its most predictable.
    Seasoned,
    /// Clearly less stable than it was.
    Beat,
    /// Turns at a touch.
    Flippy,
}

impl Grade {
    /// Share of all possible wear. Own judgement.
    pub fn share(self) -> f64 {
        match self {
            Grade::Fresh => 0.0,
            Grade::BrokenIn => 0.15,
            Grade::Seasoned => 0.4,
            Grade::Beat => 0.7,
            Grade::Flippy => 0.95,
        }
    }

    /// All of them, the freshest first.
    pub const ALL: [Grade; 5] = [Grade::Fresh, Grade::BrokenIn, Grade::Seasoned, Grade::Beat, Grade::Flippy];

    /// The grade after this; `None` after the last.
    pub fn next(self) -> Option<Grade> {
        Grade::ALL.into_iter().find(|grade| *grade > self)
    }

    /// The grade that comes nearest to a share of all possible wear.
    pub fn of_share(share: f64) -> Grade {
        let off = |g: &Grade| (g.share() - share).abs();
        Grade::ALL.into_iter().min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(Grade::Fresh)
    }

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Grade::Fresh => "fresh",
            Grade::BrokenIn => "broken in",
            Grade::Seasoned => "seasoned",
            Grade::Beat => "beat",
            Grade::Flippy => "flippy",
        }
    }
}

/// Wear on a disc: counted throws where there is a count, else the grade.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Wear {
    /// Condition by eye; counts while `throws` is absent.
    pub grade: Grade,
    /// Throws so far, if kept.
    #[serde(default, deserialize_with = "whole_if_any")]
    #[schema(minimum = 0, maximum = 1000000)]
    pub throws: Option<u32>,
    /// Hits on trees or other hard things; each counts as ten throws.
    #[serde(default, deserialize_with = "whole")]
    #[schema(minimum = 0, maximum = 100000)]
    pub hard_hits: u32,
}

impl Wear {
    /// A disc as bought.
    pub const FRESH: Wear = Wear { grade: Grade::Fresh, throws: None, hard_hits: 0 };

    /// Share of all possible wear, 0 to 1. Thick-rimmed overstable drivers last twice as long.
    pub fn share(&self, plastic: Plastic, printed: &FlightNumbers) -> f64 {
        let Some(throws) = self.throws else { return self.grade.share() };
        let sturdy = if printed.speed >= 10.0 && printed.fade >= 3.0 { 2.0 } else { 1.0 };
        let effective = f64::from(throws) + 10.0 * f64::from(self.hard_hits);
        1.0 - (-effective / (plastic.facts().wear_life_throws * sturdy)).exp()
    }
}

/// What a share of wear does to the numbers of a disc that had `fade` when fresh: turn grows, fade shrinks (never
/// below −0.5), a little speed goes, glide rises and falls again. Own judgement.
pub fn wear_change(share: f64, fade: f64) -> FlightNumbers {
    let fade_loss = (0.5 + 0.4 * fade.max(0.0)) * share;
    FlightNumbers {
        speed: -0.5 * share,
        glide: 1.2 * share * (1.0 - share),
        turn: -2.5 * share,
        fade: (fade - fade_loss).max((-0.5f64).min(fade)) - fade,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_wear_grows_with_throws_and_hits() {
        let numbers = FlightNumbers::new(5.0, 4.0, 0.0, 3.0);
        let share = |throws, hard_hits| {
            Wear { throws: Some(throws), hard_hits, ..Wear::FRESH }.share(Plastic::Base, &numbers)
        };
        assert!(share(0, 0) == 0.0 && share(300, 0) > share(100, 0));
        assert!((share(100, 20) - share(300, 0)).abs() < 1e-12);
        assert!(share(1_000_000, 0) <= 1.0);
    }

    #[test]
    fn prop_fade_never_wears_below_minus_a_half() {
        for fade in [0.0, 0.5, 2.0, 5.0] {
            assert!(fade + wear_change(1.0, fade).fade >= -0.5 - 1e-12);
        }
        assert_eq!(wear_change(0.0, 3.0), FlightNumbers::new(0.0, 0.0, 0.0, 0.0));
    }
}
