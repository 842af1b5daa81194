//! The lines every player needs, scaled to this player's distances.
//!
//! Each slot has one line per wanted peg, whose gate asks for the bend that gives the peg its name from a nearly flat
//! release; nine special lines follow. Distances come from flying an ordinary disc of the slot at this arm. The shapes
//! and weights are own judgement.

use zinc_kite_flight::air::Wind;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::need::line::{Footing, Gate, Landing, Line, LineSpec};
use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::player::Player;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::words::capital;

/// An ordinary disc of each slot, whose flat flight sets the slot's distance.
fn ordinary(slot: Slot) -> FlightNumbers {
    match slot {
        Slot::Putter => FlightNumbers::new(3.0, 3.0, 0.0, 1.0),
        Slot::MidRange => FlightNumbers::new(5.0, 4.0, -1.0, 1.0),
        Slot::Fairway => FlightNumbers::new(8.0, 5.0, -1.0, 2.0),
        Slot::Distance | Slot::Utility => FlightNumbers::new(11.0, 5.0, -1.0, 2.0),
    }
}

/// Distance of a controlled full flat throw with an ordinary disc of the slot, calm, m.
pub fn slot_distance_m(arm: &Arm, style: Style, slot: Slot) -> f64 {
    let numbers = ordinary(slot);
    let Ok(disc) = numbers.disc(0.175) else { return 0.0 };
    let release = arm.release(style, numbers.speed, 1.0);
    fly_all(&[Throw { disc, release, wind: Wind::CALM }], &arm.air, &[])[0].distance_m()
}

/// Bulge of the wanted path at 60 % of the way, as a share of the distance, toward the natural finish side positive,
/// and how often such a shot comes up in a round.
fn shape(peg: Peg) -> (f64, f64) {
    match peg {
        Peg::Hook => (-0.070, 0.8),
        Peg::Lean => (-0.042, 1.2),
        Peg::Rail => (-0.010, 1.5),
        Peg::Drift => (0.018, 1.0),
        Peg::Slide => (0.062, 0.7),
    }
}

/// Distance of a slot's lines as a share of a full flat throw: fairway drivers are there for what a mid-range does not
/// reach, and a distance line leaves some arm in hand.
fn share_of_full(slot: Slot) -> f64 {
    match slot {
        Slot::Putter | Slot::MidRange => 0.93,
        Slot::Fairway => 1.0,
        Slot::Distance | Slot::Utility => 0.87,
    }
}

/// A release within this of flat leaves the bend to the disc, degrees.
const FLAT_DEG: f64 = 4.0;

/// Fastest disc that suits a slot's lines: one class up. A driver dropped short runs on after it lands.
fn fastest(slot: Slot) -> Option<f64> {
    match slot {
        Slot::Putter => Some(5.5),
        Slot::MidRange => Some(7.5),
        Slot::Fairway => Some(11.0),
        Slot::Distance | Slot::Utility => None,
    }
}

/// No throw is shorter; putts are.
const SHORTEST_M: f64 = 15.0;

struct Maker {
    side: f64,
    style: Style,
}

impl Maker {
    fn line(&self, slot: Slot, name: String, distance_m: f64) -> LineSpec {
        let distance_m = distance_m.round().clamp(SHORTEST_M, 190.0);
        LineSpec {
            name,
            slot,
            style: self.style,
            distance_m,
            zone_length_m: (0.22 * distance_m).round().max(10.0),
            zone_width_m: (0.2 * distance_m).round().max(10.0),
            hyzer_min_deg: -FLAT_DEG,
            hyzer_max_deg: FLAT_DEG,
            launch_min_deg: 5.0,
            launch_max_deg: 15.0,
            fastest_speed: fastest(slot),
            ..LineSpec::usual(Style::Backhand)
        }
    }

    /// A gate at `share` of the way whose middle lies `bulge` of the distance toward the natural side.
    fn gate(&self, line: &LineSpec, share: f64, bulge: f64, half_width: f64) -> Gate {
        let d = line.distance_m;
        let middle = self.side * bulge * d;
        let tenth = |x: f64| (10.0 * x).round() / 10.0;
        Gate {
            at_m: tenth(share * d),
            right_edge_m: tenth(middle - half_width * d),
            left_edge_m: tenth(middle + half_width * d),
            ceiling_m: None,
            floor_m: None,
        }
    }

    fn peg_line(&self, slot: Slot, peg: Peg, full_m: f64) -> LineSpec {
        let name = format!("{} {}", capital(slot.label()), peg.label());
        let (bulge, weight) = shape(peg);
        let mut line = self.line(slot, name, share_of_full(slot) * full_m);
        line.gates = vec![self.gate(&line, 0.6, bulge, 0.044)];
        line.weight = weight;
        line
    }
}

/// Key of the line that asks for a peg of a slot.
pub fn peg_line_key(slot: Slot, peg: Peg) -> String {
    format!("{}-{}", slot.label(), peg.label()).to_lowercase()
}

/// The lines for this player, on a usual day. `arm` must be the player's arm in usual conditions.
pub fn lines_for(player: &Player, arm: &Arm) -> Vec<Line> {
    let style = player.strong_style;
    let strong = Maker { side: arm.natural_side(style), style };
    let full = |slot| slot_distance_m(arm, style, slot);
    let mut lines = Vec::new();
    for slot in [Slot::Putter, Slot::MidRange, Slot::Fairway, Slot::Distance] {
        for &peg in Peg::wanted(slot, player.school) {
            lines.push(made(peg_line_key(slot, peg), strong.peg_line(slot, peg, full(slot))));
        }
    }
    let putter_m = full(Slot::Putter);
    lines.extend(specials(&strong, putter_m, full(Slot::MidRange), full(Slot::Fairway)));
    let forehand = Maker { side: arm.natural_side(Style::Forehand), style: Style::Forehand };
    let reach = |slot| slot_distance_m(arm, Style::Forehand, slot);
    lines.extend(forehands(&forehand, reach(Slot::Putter), reach(Slot::Fairway)));
    lines.extend(player.overhand_m.map(|overhand_m| over_the_top(arm, overhand_m)));
    lines.extend(putts(arm));
    lines
}

fn made(key: impl Into<String>, spec: LineSpec) -> Line {
    Line { key: key.into(), generated: true, enabled: true, spec }
}

fn specials(maker: &Maker, putter_m: f64, mid_m: f64, fairway_m: f64) -> Vec<Line> {
    let headwind = {
        let mut l = maker.line(Slot::MidRange, "Headwind mid".into(), 0.72 * mid_m);
        l.along_m_s = -8.0;
        l.fastest_speed = Some(6.0);
        l.gates = vec![maker.gate(&l, 0.6, -0.055, 0.043)];
        l
    };
    let tunnel = {
        let mut l = maker.line(Slot::Fairway, "Tunnel".into(), 0.7 * fairway_m);
        l.gates = [0.35, 0.7].map(|share| maker.gate(&l, share, 0.0, 0.05)).to_vec();
        l.ceiling_m = Some(7.0);
        l.launch_min_deg = 3.0;
        l
    };
    let spike = {
        let mut l = maker.line(Slot::MidRange, "Spike hyzer".into(), 0.55 * mid_m);
        (l.hyzer_min_deg, l.hyzer_max_deg) = (30.0, 60.0);
        (l.launch_min_deg, l.launch_max_deg) = (20.0, 42.0);
        let mut over = maker.gate(&l, 0.5, -0.10, 0.2);
        over.floor_m = Some(6.0);
        l.gates = vec![over];
        l.landing = Landing::Sit;
        l.weight = 0.6;
        l
    };
    let flex = {
        let mut l = maker.line(Slot::Fairway, "Flex".into(), 0.82 * fairway_m);
        (l.hyzer_min_deg, l.hyzer_max_deg) = (-30.0, -10.0);
        l.gates = vec![maker.gate(&l, 0.65, -0.05, 0.06)];
        l.weight = 0.6;
        l
    };
    let approach = {
        let mut l = maker.line(Slot::Putter, "Skip-free approach".into(), 0.68 * putter_m);
        (l.hyzer_min_deg, l.hyzer_max_deg) = (0.0, 35.0);
        (l.launch_min_deg, l.launch_max_deg) = (8.0, 24.0);
        (l.zone_length_m, l.zone_width_m) = (12.0, 12.0);
        l.landing = Landing::Sit;
        l.fastest_speed = Some(4.5);
        l.weight = 1.4;
        l
    };
    let turnover = {
        let mut l = maker.line(Slot::MidRange, "Turnover".into(), 0.85 * mid_m);
        (l.hyzer_min_deg, l.hyzer_max_deg) = (-22.0, 4.0);
        l.gates = vec![maker.gate(&l, 0.55, 0.075, 0.06)];
        l.weight = 0.8;
        l
    };
    let standstill = {
        let mut l = maker.line(Slot::MidRange, "Standstill".into(), 0.55 * mid_m);
        l.footing = Footing::Standstill;
        l.gates = vec![maker.gate(&l, 0.5, 0.0, 0.05)];
        l.ceiling_m = Some(6.0);
        l.weight = 0.8;
        l
    };
    vec![
        made("headwind-mid", headwind),
        made("tunnel", tunnel),
        made("spike-hyzer", spike),
        made("flex", flex),
        made("skip-free-approach", approach),
        made("turnover", turnover),
        made("standstill", standstill),
    ]
}

fn forehands(maker: &Maker, putter_m: f64, fairway_m: f64) -> Vec<Line> {
    let approach = {
        let mut l = maker.line(Slot::Putter, "Forehand approach".into(), 0.7 * putter_m);
        (l.hyzer_min_deg, l.hyzer_max_deg) = (-5.0, 25.0);
        (l.zone_length_m, l.zone_width_m) = (14.0, 12.0);
        l.fastest_speed = Some(5.5);
        l
    };
    let fairway = {
        let mut l = maker.line(Slot::Fairway, "Forehand fairway".into(), 0.88 * fairway_m);
        l.gates = vec![maker.gate(&l, 0.6, -0.035, 0.06)];
        (l.hyzer_min_deg, l.hyzer_max_deg) = (-8.0, 14.0);
        l.weight = 0.8;
        l
    };
    vec![made("forehand-approach", approach), made("forehand-fairway", fairway)]
}

/// High over whatever stands in the way, to where an overhand is still useful.
fn over_the_top(arm: &Arm, overhand_m: f64) -> Line {
    let style = Style::Thumber;
    let maker = Maker { side: arm.natural_side(style), style };
    let mut l = maker.line(Slot::Utility, "Over the top".into(), 0.8 * overhand_m);
    (l.hyzer_min_deg, l.hyzer_max_deg) = (-110.0, -50.0);
    (l.launch_min_deg, l.launch_max_deg) = (25.0, 55.0);
    let mut over = maker.gate(&l, 0.35, 0.0, 0.15);
    over.floor_m = Some(8.0);
    l.gates = vec![over];
    l.weight = 0.4;
    made("over-the-top", l)
}

/// One putt from inside the circle and one from well outside.
fn putts(arm: &Arm) -> [Line; 2] {
    let style = Style::Putt;
    let maker = Maker { side: arm.natural_side(style), style };
    let putt = |name: &str, distance_m: f64, footing: Footing, weight: f64| {
        let mut l = maker.line(Slot::Putter, name.into(), SHORTEST_M);
        (l.distance_m, l.zone_length_m, l.zone_width_m) = (distance_m, 2.0, 2.0);
        (l.hyzer_min_deg, l.hyzer_max_deg) = (-5.0, 20.0);
        (l.launch_min_deg, l.launch_max_deg) = (2.0, 20.0);
        (l.landing, l.footing, l.weight) = (Landing::Basket, footing, weight);
        l.fastest_speed = Some(3.5);
        l
    };
    [
        made("circle-putt", putt("Circle putt", 7.0, Footing::Standstill, 1.5)),
        made("long-putt", putt("Long putt", 14.0, Footing::JumpPutt, 0.5)),
    ]
}
