//! Drills: what to throw for an error of the release. All of it is common practice, no source.

use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::cost::ErrorKind;
use crate::thrower::style::Style;

/// What to throw, and what to look at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct Drill {
    /// Its name.
    pub name: &'static str,
    /// How it goes.
    pub how: &'static str,
    /// What in the log says that it works.
    pub watch: &'static str,
    /// Throws of one go.
    pub throws: u32,
}

const fn drill(name: &'static str, throws: u32, how: &'static str, watch: &'static str) -> Drill {
    Drill { name, how, watch, throws }
}

const BY_READING: &str = "Measure each throw, tell its height, and watch the habit of the session go.";
const BY_SIDE: &str = "Measure each throw with its side: the side’s ± in the table should shrink.";
const BY_LENGTH: &str = "Measure each throw: the distance’s ± in the table should shrink.";

/// The drill for an error in a style; none for gusts, which are no fault of the player.
pub fn drill_for(kind: ErrorKind, style: Style) -> Option<Drill> {
    use ErrorKind::{Aim, Gust, Hyzer, Launch, Nose, Speed};
    use Style::{Backhand, Forehand, Putt, Thumber, Tomahawk};
    Some(match (kind, style) {
        (Gust, _) => return None,
        (Nose, Backhand) => drill(
            "Nose down from a stand",
            15,
            "From a stand, at two thirds of your power, throw a putter or a flat mid at head height for 50 m. Turn the wrist as if pouring before the pull. It should never climb and drop.",
            BY_READING,
        ),
        (Nose, Forehand) => drill(
            "Palm up, short",
            12,
            "From a stand, at half your power, throw a mid flat for 40 m with the elbow by the ribs. The palm looks at the sky until after the disc has left.",
            BY_READING,
        ),
        (Nose, Putt) => drill(
            "Level from five metres",
            20,
            "Putt from 5 m with the disc level all the way. It should enter the chains without lifting or dropping.",
            "Count those that go in; ten in a row and step back a metre.",
        ),
        (Hyzer, Backhand | Forehand) => drill(
            "Three angles",
            15,
            "With an understable disc, five flat, five on a little hyzer, five on a little anhyzer, in turn. Say the angle aloud before each. The three should end in three places.",
            BY_READING,
        ),
        (Hyzer, Putt) => drill(
            "Square to the pole",
            20,
            "Putt at a pole or a post from 4 m and watch both edges: level when it leaves, level when it gets there.",
            "Count those that hit the middle.",
        ),
        (Launch, Backhand | Forehand) => drill(
            "Through the window",
            15,
            "Choose a branch, a rope or a goal’s bar about 30 m out and throw through just beneath it, from a stand and then with the run-up.",
            BY_READING,
        ),
        (Launch, Putt) => drill(
            "One link",
            20,
            "From 6 m, pick one link of chain and putt at it. High ones and low ones both count as missed.",
            "Count the chains you hit at the height you picked.",
        ),
        (Speed, Backhand | Forehand) => drill(
            "The same place thrice",
            15,
            "With one mid, throw three to the same place at 60 % of your power, then three at 80 %, then three flat out. Do not go on before three lie within ten steps.",
            BY_LENGTH,
        ),
        (Speed, Putt) => drill(
            "Die at the pole",
            20,
            "Putt from 6 to 9 m so that a miss would end no farther than 3 m behind.",
            "Count the misses that stay within 3 m.",
        ),
        (Aim, Backhand | Forehand) => drill(
            "The gate",
            15,
            "Two bags 4 m apart, 25 m out. From a stand, then from two steps, then with the whole run-up. Line the run-up up with the gate, not the feet alone.",
            BY_SIDE,
        ),
        (Aim, Putt) => drill(
            "Round the basket",
            20,
            "Five putts from each of four sides at 6 m, with the same routine before each.",
            "Count those that go in; note on which side the others pass.",
        ),
        (Nose | Hyzer, Thumber | Tomahawk) => drill(
            "How far on edge",
            8,
            "At 60 % of your power, aim at 50 m and watch when it turns over. Tilt it a little more until it lands where you want it. Eight are enough for a day.",
            BY_SIDE,
        ),
        (Launch | Speed | Aim, Thumber | Tomahawk) => drill(
            "Over the bar",
            8,
            "At 60 % of your power, throw over the same tree or goal to the same place. Eight are enough for a day.",
            BY_LENGTH,
        ),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every error has a drill in every style, and none asks an arm for many overhand throws.
    #[test]
    fn trade_every_error_has_a_drill_and_overhands_stay_few() {
        for style in Style::ALL {
            for kind in
                [ErrorKind::Speed, ErrorKind::Hyzer, ErrorKind::Launch, ErrorKind::Nose, ErrorKind::Aim]
            {
                let drill = drill_for(kind, style);
                assert!(drill.is_some_and(|d| d.throws <= if style.is_overhand() { 8 } else { 20 }));
            }
            assert_eq!(drill_for(ErrorKind::Gust, style), None);
        }
    }
}
