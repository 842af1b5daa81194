//! Rollers: thrown on edge to run along the ground. Shots for a place, not for a peg: how a disc bends in the air says little of
//! how it rolls.
//!
//! How hard, how high and on how much anhyzer they are thrown, and how often they come up, are own judgement; that understable
//! discs are the ones for it is common practice, no source.

use zinc_kite_flight::air::Wind;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::release::Release;
use zinc_kite_flight::settle::settle_all;

use crate::catalogue::lines::Maker;
use crate::catalogue::reference::REFERENCE_MASS_KG;
use crate::catalogue::shape::Shape;
use crate::disc::thrown::Thrown;
use crate::need::line::{Landing, LineSpec};
use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::slot::Slot;

/// The rollers of a style: far along the ground, low round a corner, and turned over high in the air.
pub(super) fn rollers(maker: &Maker, arm: &Arm) -> Vec<Shape> {
    let (side, other) = (maker.side, maker.other);
    // Each with the least and greatest hyzer among which it is thrown, degrees. A cut roller leans on purpose.
    let far = (
        Shape {
            launch_deg: 1.0,
            power: 0.9,
            ..roller(
                maker,
                "roller",
                "Roller",
                Slot::Control,
                "Down on its edge early and far along the ground: under branches, or into a strong wind."
                    .into(),
            )
        },
        (-70.0, -35.0),
    );
    let cut = (
        Shape {
            launch_deg: 0.0,
            power: 0.7,
            roof_m: Some(0.6),
            ..roller(
                maker,
                "cut-roller",
                "Cut roller",
                Slot::MidRange,
                format!(
                    "Low, at once on its edge leaning {side}, and along the ground round a corner to the {side}."
                ),
            )
        },
        (-56.0, -56.0),
    );
    let turning = (
        Shape {
            launch_deg: 18.0,
            power: 0.9,
            hyzer_room_deg: 6.0,
            ..roller(
                maker,
                "turning-roller",
                "Turning roller",
                Slot::Fairway,
                format!("Turned over {other} high in the air, comes down on its edge and rolls on."),
            )
        },
        (-45.0, -10.0),
    );
    [far, cut, turning].into_iter().filter_map(|(shape, among)| farthest_rolled(shape, among, arm)).collect()
}

fn roller(maker: &Maker, key: &str, name: &str, slot: Slot, meaning: String) -> Shape {
    Shape {
        slot: Slot::Utility,
        landing: Landing::Roll,
        gates: vec![0.5],
        hyzer_room_deg: 10.0,
        launch_room_deg: 5.0,
        times: 0.1,
        miss_strokes: LineSpec::usual_miss_strokes(maker.style, Slot::Utility),
        ..maker.shape(key, name, slot, Peg::Slide, meaning)
    }
}

/// The shape on the anhyzer from which its disc rolls farthest; `None` if it rolls from none.
fn farthest_rolled(shape: Shape, (least, greatest): (f64, f64), arm: &Arm) -> Option<Shape> {
    let thrown = Thrown::ordinary(shape.numbers.disc(REFERENCE_MASS_KG).ok()?, shape.numbers.speed);
    let usual = arm.release(shape.style, shape.numbers.speed, shape.power);
    let throws: Vec<Throw> = (0..=((greatest - least) as u32))
        .map(|k| Release { hyzer_deg: least + f64::from(k), launch_deg: shape.launch_deg, ..usual })
        .map(|release| Throw { disc: thrown.body, release, wind: Wind::CALM })
        .collect();
    let mut flights = fly_all(&throws, &arm.air, &[]);
    settle_all(&mut flights, &thrown.contact(LineSpec::usual(shape.style).ground, &arm.air), &[]);
    let (throw, _) = throws
        .iter()
        .zip(&flights)
        .filter(|(_, o)| o.rolled)
        .max_by(|a, b| a.1.distance_m().total_cmp(&b.1.distance_m()))?;
    Some(Shape { hyzer_deg: throw.release.hyzer_deg, ..shape })
}
