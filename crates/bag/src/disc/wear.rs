//! How far a disc has worn, and what that does to its numbers.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::error::{BagError, within};
use crate::whole::{whole, whole_if_any};

/// Condition as a player judges it by eye, for discs whose throws nobody counted.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum Grade {
    /// As bought.
    #[default]
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

/// A hit on a tree or another hard thing wears a disc as so many throws do: trees age it far faster than grass (common practice,
/// no source), the figure own judgement.
pub const HIT_THROWS: f64 = 10.0;
/// A putt into chains or onto grass wears a disc as this part of a throw does. Own judgement.
pub const PUTT_THROWS: f64 = 0.1;

impl Wear {
    /// # Errors
    /// [`BagError`] for more throws or hits than are counted.
    pub fn validate(&self) -> Result<(), BagError> {
        within("throws", f64::from(self.throws.unwrap_or(0)), 0.0, MOST_THROWS)?;
        within("hard_hits", f64::from(self.hard_hits), 0.0, MOST_HITS)
    }

    /// A disc as bought.
    pub const FRESH: Wear = Wear { grade: Grade::Fresh, throws: None, hard_hits: 0 };

    /// Share of all possible wear, 0 to 1, of a disc of which 63 % has happened after so many effective throws.
    pub fn share(&self, life_throws: f64) -> f64 {
        let Some(throws) = self.throws else { return self.grade.share() };
        share_after(effective_throws(throws, self.hard_hits), life_throws)
    }

    /// One throw more, or a hit with it. A disc judged by eye is counted from then on, from what its grade stands for.
    pub fn more(&mut self, is_hit: bool, life_throws: f64) {
        if self.throws.is_none() {
            let counted = Wear::counted(self.share(life_throws), life_throws);
            self.throws = counted.throws;
            self.hard_hits = 0;
        }
        self.throws = self.throws.map(|n| (n + 1).min(MOST_THROWS as u32));
        self.hard_hits = (self.hard_hits + u32::from(is_hit)).min(MOST_HITS as u32);
    }

    /// One throw less, or a hit with it: it was never made. A disc that is judged by eye by now stays as it is judged.
    pub fn less(&mut self, is_hit: bool) {
        if let Some(throws) = &mut self.throws {
            *throws = throws.saturating_sub(1);
            self.hard_hits = self.hard_hits.saturating_sub(u32::from(is_hit));
        }
    }

    /// The wear of a disc that has come to a share of all there is, counted in throws: within one throw of it.
    pub fn counted(share: f64, life_throws: f64) -> Wear {
        let throws = throws_to(share, life_throws).min(MOST_THROWS).round() as u32;
        Wear { grade: Grade::of_share(share), throws: Some(throws), hard_hits: 0 }
    }
}

/// More throws of one disc are not counted.
pub const MOST_THROWS: f64 = 1e6;
/// More hits of one disc are not counted.
const MOST_HITS: f64 = 1e5;

/// Throws and hits as throws alone.
pub fn effective_throws(throws: u32, hard_hits: u32) -> f64 {
    f64::from(throws) + HIT_THROWS * f64::from(hard_hits)
}

/// Share of all possible wear after so many effective throws.
pub fn share_after(effective: f64, life_throws: f64) -> f64 {
    1.0 - (-effective / life_throws).exp()
}

/// Effective throws after which a share of all possible wear has happened; without end as the share comes to 1.
pub fn throws_to(share: f64, life_throws: f64) -> f64 {
    -life_throws * (1.0 - share.clamp(0.0, 1.0)).ln()
}

/// Turn that all the wear there is takes off. Own judgement.
pub const TURN_LOST: f64 = 2.5;
/// Fade that all the wear there is takes off any disc, and of what fade a fresh one has beyond that. Own judgement.
const FADE_LOST: f64 = 0.5;
const FADE_PART_LOST: f64 = 0.4;

/// Fade that all the wear there is takes off a disc that has `fade` when fresh.
pub fn fade_lost(fade: f64) -> f64 {
    FADE_LOST + FADE_PART_LOST * fade.max(0.0)
}

/// The fade that a disc had when fresh, of one that has `fade` at a share of wear: [`wear_change`] turned round.
pub fn fresh_fade(fade: f64, share: f64) -> f64 {
    let fresh = (fade + FADE_LOST * share) / (1.0 - FADE_PART_LOST * share);
    if fresh < 0.0 { fade + FADE_LOST * share } else { fresh }
}

/// What a share of wear does to the numbers of a disc that had `fade` when fresh: turn grows, fade shrinks (never
/// below −0.5), a little speed goes, glide rises and falls again. Own judgement.
pub fn wear_change(share: f64, fade: f64) -> FlightNumbers {
    let fade_loss = fade_lost(fade) * share;
    FlightNumbers {
        speed: -0.5 * share,
        glide: 1.2 * share * (1.0 - share),
        turn: -TURN_LOST * share,
        fade: (fade - fade_loss).max((-0.5f64).min(fade)) - fade,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_wear_grows_with_throws_and_hits() {
        let share = |throws, hard_hits| Wear { throws: Some(throws), hard_hits, ..Wear::FRESH }.share(700.0);
        assert!(share(0, 0) == 0.0 && share(300, 0) > share(100, 0));
        assert!((share(100, 20) - share(300, 0)).abs() < 1e-12);
        assert!(share(1_000_000, 0) <= 1.0);
    }

    /// A throw that is logged and taken back leaves a counted disc as it was, and wears one that was judged by eye by a throw from what
    /// its grade stands for.
    #[test]
    fn prop_a_throw_more_and_less_is_none() {
        for is_hit in [false, true] {
            let before = Wear { throws: Some(40), hard_hits: 3, ..Wear::FRESH };
            let mut wear = before;
            wear.more(is_hit, 700.0);
            assert!(wear.share(700.0) > before.share(700.0));
            wear.less(is_hit);
            assert_eq!(wear, before);
            let seen = Wear { grade: Grade::Seasoned, ..Wear::FRESH };
            let mut wear = seen;
            wear.more(is_hit, 700.0);
            let throws = if is_hit { 1.0 + HIT_THROWS } else { 1.0 };
            let expected = share_after(throws_to(seen.share(700.0), 700.0) + throws, 700.0);
            assert!((wear.share(700.0) - expected).abs() < 1.0 / 700.0, "{wear:?}");
            let mut unseen = seen;
            unseen.less(is_hit);
            assert_eq!(unseen, seen);
        }
    }

    #[test]
    fn prop_counted_wear_is_the_share_it_was_counted_for() {
        for life in [700.0, 10_000.0] {
            for k in 0..100 {
                let share = 0.01 * f64::from(k);
                assert!((Wear::counted(share, life).share(life) - share).abs() < 1.0 / life);
            }
        }
        assert!(Wear::counted(1.0, 700.0).share(700.0) <= 1.0, "never beyond what is counted");
    }

    #[test]
    fn prop_the_fresh_fade_is_found_again() {
        for fade in [-0.4, 0.0, 0.5, 2.0, 5.0] {
            for share in [0.0, 0.15, 0.7] {
                let worn = fade + wear_change(share, fade).fade;
                // At the floor of −0.5 it cannot be told.
                assert!(worn <= -0.5 || (fresh_fade(worn, share) - fade).abs() < 1e-12, "{fade} {share}");
            }
        }
    }

    #[test]
    fn prop_fade_never_wears_below_minus_a_half() {
        for fade in [0.0, 0.5, 2.0, 5.0] {
            assert!(fade + wear_change(1.0, fade).fade >= -0.5 - 1e-12);
        }
        assert_eq!(wear_change(0.0, 3.0), FlightNumbers::new(0.0, 0.0, 0.0, 0.0));
    }
}
