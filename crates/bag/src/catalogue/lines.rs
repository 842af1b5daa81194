//! The lines every player needs, made from reference flights at this player's arm.
//!
//! One line for each peg that this arm has a use for, the reach, and a catalogue of special shots. How often each comes up in
//! a round and what a miss costs are own judgement, as are the releases by which the special shots are thrown.

use rayon::prelude::*;
use zinc_kite_flight::release;

use crate::catalogue::reach::reach;
use crate::catalogue::reference::{Family, Unwanted, wanted};
use crate::catalogue::rollers::rollers;
use crate::catalogue::shape::Shape;
use crate::chance::memo::Memo;
use crate::need::line::{Footing, Landing, Line, LineSpec};
use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::habits::{Habits, PuttingStyle};
use crate::thrower::player::Player;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::words::{capital, distance};

/// Slots that have pegs, slow to fast.
pub const PEGGED: [Slot; 5] = [Slot::Putter, Slot::MidRange, Slot::Fairway, Slot::Control, Slot::Distance];

/// Key of the line that asks for a peg of a slot.
pub fn peg_line_key(slot: Slot, peg: Peg) -> String {
    format!("{}-{}", slot.label(), peg.label()).to_lowercase()
}

/// What one style's shots are made from: its families of discs, and which side is which.
pub(super) struct Maker {
    pub(super) style: Style,
    /// Where its throws fade to, and the other side.
    pub(super) side: &'static str,
    pub(super) other: &'static str,
    pub(super) families: [Family; PEGGED.len()],
}

impl Maker {
    fn of(arm: &Arm, style: Style) -> Maker {
        let left = arm.natural_side(style) > 0.0;
        let (side, other) = if left { ("left", "right") } else { ("right", "left") };
        Maker { style, side, other, families: PEGGED.map(|slot| Family::of(arm, style, slot)) }
    }

    /// A flat, full throw of the disc of a slot that comes nearest to a peg.
    pub(super) fn shape(&self, key: &str, name: &str, slot: Slot, peg: Peg, meaning: String) -> Shape {
        Shape {
            key: key.into(),
            name: name.into(),
            meaning,
            slot,
            style: self.style,
            // A utility disc is a fast one.
            numbers: self.families[(slot as usize).min(PEGGED.len() - 1)].nearest(peg),
            power: 1.0,
            hyzer_deg: 0.0,
            launch_deg: 10.0,
            nose_deg: None,
            hyzer_room_deg: 8.0,
            launch_room_deg: 6.0,
            gates: vec![0.45, 0.75],
            roof_m: None,
            clears: None,
            landing: Landing::Any,
            footing: Footing::RunUp,
            lee: 0.0,
            along_m_s: 0.0,
            open_ended: false,
            times: 1.0,
            miss_strokes: LineSpec::usual_miss_strokes(self.style, slot),
        }
    }

    fn peg(&self, slot: Slot, peg: Peg) -> Shape {
        let (side, other) = (self.side, self.other);
        let (meaning, times) = match peg {
            Peg::Hook => {
                (format!("Flat and hard, and comes back {side} whatever happens: round a corner."), 0.8)
            }
            Peg::Lean => {
                (format!("Flat, pushes straight, then finishes surely {side}, behind the corner."), 1.2)
            }
            Peg::Rail => (format!("Flat and straight down the middle, with a little finish {side}."), 1.5),
            Peg::Drift => (format!("Flat, drifts {other} and stays there: no finish back {side}."), 1.0),
            Peg::Slide => {
                (format!("Flat, turns {other} and keeps going, round a corner to the {other}."), 0.7)
            }
        };
        let name = format!("{} {}", capital(slot.label()), peg.label());
        let shape = self.shape(&peg_line_key(slot, peg), &name, slot, peg, meaning);
        let turns = matches!(peg, Peg::Drift | Peg::Slide);
        Shape {
            // What only the understable disc does: no fade at the end, from a nearly flat release.
            gates: if turns { vec![0.45, 0.75, 0.88] } else { shape.gates },
            hyzer_room_deg: if peg == Peg::Hook { 8.0 } else { 3.0 },
            times,
            ..shape
        }
    }

    fn specials(&self) -> Vec<Shape> {
        let (side, other) = (self.side, self.other);
        let mid = |key, name, peg, meaning: String| self.shape(key, name, Slot::MidRange, peg, meaning);
        let fairway = |key, name, peg, meaning: String| self.shape(key, name, Slot::Fairway, peg, meaning);
        vec![
            Shape {
                hyzer_deg: 22.0,
                launch_deg: 14.0,
                power: 0.88,
                gates: vec![0.5],
                times: 1.2,
                ..mid(
                    "hyzer",
                    "Hyzer",
                    Peg::Lean,
                    format!("On hyzer all the way, bending {side} round a corner."),
                )
            },
            Shape {
                hyzer_deg: 46.0,
                launch_deg: 34.0,
                hyzer_room_deg: 14.0,
                launch_room_deg: 10.0,
                power: 0.92,
                gates: vec![0.5],
                clears: Some((0.5, 0.7)),
                landing: Landing::Sit,
                times: 0.5,
                ..mid(
                    "spike-hyzer",
                    "Spike hyzer",
                    Peg::Hook,
                    "High over what stands in the way, steeply down, and stays where it lands.".into(),
                )
            },
            Shape {
                launch_deg: 8.0,
                launch_room_deg: 4.0,
                hyzer_room_deg: 3.0,
                power: 0.85,
                gates: vec![0.35, 0.7],
                roof_m: Some(2.6),
                lee: 0.6,
                ..fairway("tunnel", "Tunnel", Peg::Rail, "Straight between trees and under branches.".into())
            },
            Shape {
                launch_deg: 6.0,
                launch_room_deg: 4.0,
                hyzer_room_deg: 3.0,
                power: 0.85,
                gates: vec![0.5],
                roof_m: Some(1.4),
                lee: 0.4,
                times: 0.6,
                ..mid(
                    "low-ceiling",
                    "Low ceiling",
                    Peg::Rail,
                    "Low and straight under a roof of branches.".into(),
                )
            },
            Shape {
                hyzer_deg: -17.0,
                hyzer_room_deg: 7.0,
                gates: vec![0.4, 0.75],
                times: 0.5,
                ..fairway(
                    "flex",
                    "Flex",
                    Peg::Hook,
                    format!("On anhyzer out to the {other}, then fights back {side}."),
                )
            },
            Shape {
                hyzer_deg: -5.0,
                hyzer_room_deg: 6.0,
                gates: vec![0.45, 0.88],
                times: 0.7,
                ..mid(
                    "turnover",
                    "Turnover that holds",
                    Peg::Slide,
                    format!("Turns {other} and holds that line down to the ground."),
                )
            },
            Shape {
                hyzer_deg: -18.0,
                hyzer_room_deg: 7.0,
                gates: vec![0.5],
                times: 0.5,
                ..mid(
                    "anhyzer",
                    "Anhyzer that pans out",
                    Peg::Rail,
                    format!("On anhyzer to the {other}, and levels out at the end."),
                )
            },
            Shape {
                hyzer_deg: 16.0,
                launch_deg: 7.0,
                launch_room_deg: 4.0,
                power: 0.8,
                gates: vec![0.6],
                landing: Landing::Run,
                times: 0.5,
                ..fairway(
                    "skip",
                    "Skip to the basket",
                    Peg::Hook,
                    format!("Low on hyzer, so that it skips on {side} to the basket."),
                )
            },
            Shape {
                hyzer_deg: 20.0,
                launch_deg: 22.0,
                power: 0.75,
                gates: vec![],
                landing: Landing::Sit,
                times: 1.6,
                ..self.shape(
                    "land-and-sit",
                    "Land and sit",
                    Slot::Putter,
                    Peg::Lean,
                    "Softly to the basket, and stays where it lands.".into(),
                )
            },
            Shape {
                gates: vec![0.35, 0.6],
                power: 0.92,
                times: 0.6,
                ..mid(
                    "corner",
                    "Forced fade",
                    Peg::Hook,
                    format!("Straight past the trees, then hard {side} round the corner."),
                )
            },
            Shape {
                along_m_s: -6.0,
                gates: vec![0.6],
                times: 0.6,
                ..self.shape(
                    "headwind-drive",
                    "Headwind drive",
                    Slot::Distance,
                    Peg::Hook,
                    "Hard into a wind that blows down this fairway, and straight.".into(),
                )
            },
            Shape {
                along_m_s: -6.0,
                gates: vec![0.6],
                times: 0.6,
                ..mid(
                    "headwind-mid",
                    "Headwind mid",
                    Peg::Hook,
                    "Straight into a wind that blows down this fairway.".into(),
                )
            },
            Shape {
                power: 0.8,
                launch_deg: 9.0,
                gates: vec![0.5],
                roof_m: Some(2.5),
                footing: Footing::Standstill,
                times: 0.8,
                ..mid(
                    "standstill",
                    "Standstill",
                    Peg::Rail,
                    "Without a run-up, straight to the fairway.".into(),
                )
            },
            Shape {
                power: 0.66,
                gates: vec![0.5],
                footing: Footing::Unsteady,
                times: 0.5,
                ..mid(
                    "awkward-stance",
                    "Awkward stance",
                    Peg::Drift,
                    "From a knee or a slope, with half an arm.".into(),
                )
            },
        ]
    }

    fn forehands(&self) -> Vec<Shape> {
        let (side, other) = (self.side, self.other);
        let fairway = |key, name, peg, meaning: String| self.shape(key, name, Slot::Fairway, peg, meaning);
        vec![
            Shape {
                hyzer_deg: 8.0,
                launch_deg: 12.0,
                power: 0.8,
                gates: vec![],
                ..self.shape(
                    "forehand-approach",
                    "Forehand approach",
                    Slot::Putter,
                    Peg::Lean,
                    format!("Forehand to the basket, bending {side}."),
                )
            },
            Shape {
                gates: vec![0.6],
                ..fairway(
                    "forehand-drive",
                    "Forehand drive",
                    Peg::Lean,
                    format!("Forehand, flat and full, finishing {side}."),
                )
            },
            Shape {
                hyzer_deg: -14.0,
                hyzer_room_deg: 6.0,
                gates: vec![0.5],
                times: 0.3,
                ..fairway(
                    "forehand-flex",
                    "Forehand flex",
                    Peg::Hook,
                    format!("Forehand on anhyzer out to the {other}, then back {side}."),
                )
            },
        ]
    }

    /// From hyzer, if this arm has discs that stand up.
    fn flip(&self, arm: &Arm, key: &str, name: &str, meaning: String, times: f64) -> Option<Shape> {
        let slot = Slot::Fairway;
        let (numbers, hyzer_deg) = self.families[slot as usize].flip(arm, self.style)?;
        Some(Shape {
            numbers,
            hyzer_deg,
            hyzer_room_deg: 4.0,
            gates: vec![0.3, 0.75, 0.88],
            times,
            ..self.shape(key, name, slot, Peg::Slide, meaning)
        })
    }

    /// As far as this arm gets, if it gets anywhere.
    fn reach(&self, arm: &Arm, key: &str, name: &str, times: f64) -> Option<Shape> {
        let there = reach(arm, self.style)?;
        let adds = match there.faster_adds_m {
            m if m < 1.0 => "nothing".to_owned(),
            m => distance(arm.units, m),
        };
        let meaning = format!(
            "As far as you can in the fairway. Distance drivers add {adds} to fairway drivers at your arm."
        );
        Some(Shape {
            numbers: there.numbers,
            hyzer_deg: there.release.hyzer_deg,
            launch_deg: there.release.launch_deg,
            nose_deg: Some(there.release.nose_deg),
            hyzer_room_deg: 8.0,
            launch_room_deg: 8.0,
            gates: vec![0.5, 0.8],
            open_ended: true,
            times,
            ..self.shape(key, name, Slot::Distance, Peg::Rail, meaning)
        })
    }
}

/// The lines for this player, on a usual day, and the pegs this arm has no use for. `arm` must be the player's arm in usual
/// conditions.
pub fn lines_for(player: &Player, arm: &Arm, memo: &Memo) -> Vec<Line> {
    let strong = Maker::of(arm, player.strong_style);
    let forehand = Maker::of(arm, Style::Forehand);
    let mut shapes: Vec<Shape> = Vec::new();
    for (slot, family) in PEGGED.iter().zip(&strong.families).filter(|(slot, _)| player.has_lane(**slot)) {
        shapes
            .extend(wanted(family, player.school_of(*slot)).0.into_iter().map(|peg| strong.peg(*slot, peg)));
    }
    shapes.extend(strong.reach(arm, "reach", "Reach", 3.0));
    shapes.extend(strong.specials());
    if player.habits.rollers {
        shapes.extend(rollers(&strong, arm));
    }
    let flip = format!("Starts on hyzer {} of a tree, stands up and goes straight.", strong.side);
    shapes.extend(strong.flip(arm, "hyzer-flip", "Hyzer-flip", flip, 0.8));
    shapes.extend(forehand.forehands());
    let flip = "Forehand on hyzer, stands up and goes straight.".to_owned();
    shapes.extend(forehand.flip(arm, "forehand-flip", "Forehand flip", flip, 0.3));
    if player.strong_style != Style::Forehand {
        shapes.extend(forehand.reach(arm, "forehand-reach", "Forehand reach", 0.6));
    }
    let overhand = [Style::Thumber, Style::Tomahawk].into_iter().find(|style| player.habits.throws(*style));
    shapes.extend(player.overhand_m.and(overhand).map(|style| over_the_top(arm, style)));
    shapes.retain(|shape| player.habits.throws(shape.style));
    let mut made: Vec<Line> = shapes
        .par_iter()
        .filter_map(|shape| Some(generated(shape.key.clone(), shape.made(arm, memo)?)))
        .collect();
    share_out(&mut made, &player.habits);
    made.into_iter().chain(putts(player.habits.putting)).collect()
}

/// Least and greatest times a round of a line that shares of use make more or less of.
const TIMES: (f64, f64) = (0.1, 10.0);

/// Makes every style come up as often as the player has told, with as many throws in a round as before.
fn share_out(lines: &mut [Line], habits: &Habits) {
    let all: f64 = lines.iter().map(|l| l.spec.weight).sum();
    for share in &habits.shares {
        let of_style = |l: &&mut Line| l.spec.style == share.style;
        let own: f64 = lines.iter_mut().filter(of_style).map(|l| l.spec.weight).sum();
        if own > 0.0 {
            let more = 0.01 * share.pct * all / own;
            let times = |weight: f64| (weight * more).clamp(TIMES.0, TIMES.1);
            lines.iter_mut().filter(of_style).for_each(|l| l.spec.weight = times(l.spec.weight));
        }
    }
}

/// Pegs that the player's school wants but this arm has no use for.
pub fn unwanted(player: &Player, arm: &Arm) -> Vec<Unwanted> {
    PEGGED
        .iter()
        .filter(|slot| player.has_lane(**slot))
        .flat_map(|slot| wanted(&Family::of(arm, player.strong_style, *slot), player.school_of(*slot)).1)
        .collect()
}

fn generated(key: String, spec: LineSpec) -> Line {
    Line { key, generated: true, enabled: true, spared: false, spec }
}

/// High over whatever stands in the way.
fn over_the_top(arm: &Arm, style: Style) -> Shape {
    let maker = Maker::of(arm, style);
    Shape {
        hyzer_deg: release::Style::from(style).usual_hyzer_deg().signum() * 75.0,
        hyzer_room_deg: 25.0,
        launch_deg: 36.0,
        launch_room_deg: 14.0,
        power: 0.9,
        gates: vec![0.35],
        clears: Some((0.35, 0.7)),
        times: 0.4,
        ..maker.shape(
            "over-the-top",
            "Over the top",
            Slot::Utility,
            Peg::Lean,
            "Overhand, high over what stands in the way.".into(),
        )
    }
}

/// Hyzer of a turnover putt, least and greatest, degrees. Own judgement.
const TURNOVER_PUTT_DEG: (f64, f64) = (-25.0, -5.0);

/// One putt from inside the circle and one from well outside. A basket is what it is: these are not sized.
fn putts(putting: Option<PuttingStyle>) -> [Line; 2] {
    let usual = LineSpec::usual(Style::Putt);
    let (hyzer_min_deg, hyzer_max_deg) = match putting {
        Some(PuttingStyle::Turnover) => TURNOVER_PUTT_DEG,
        _ => (usual.hyzer_min_deg, usual.hyzer_max_deg),
    };
    let putt = |key: &str, name: &str, meaning: &str, distance_m: f64, footing: Footing, weight: f64| {
        let spec = LineSpec {
            name: name.into(),
            meaning: meaning.into(),
            distance_m,
            zone_length_m: 2.0,
            zone_width_m: 2.0,
            footing,
            weight,
            hyzer_min_deg,
            hyzer_max_deg,
            ..usual.clone()
        };
        generated(key.into(), spec)
    };
    [
        putt("circle-putt", "Circle putt", "From inside the circle.", 7.0, Footing::Standstill, 8.0),
        putt(
            "long-putt",
            "Long putt",
            "From well outside the circle, with a jump.",
            14.0,
            Footing::JumpPutt,
            3.0,
        ),
    ]
}
