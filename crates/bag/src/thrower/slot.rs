//! Slots of the bag and how hard a disc of each speed is thrown.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A place in the bag by what the disc is for, slow to fast.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Slot {
    /// Putters and approach discs, speed below 4.
    Putter,
    /// Mid-ranges, speed 4 to below 6.
    MidRange,
    /// Fairway drivers, speed 6 to below 10.
    Fairway,
    /// Control drivers, speed 10 to below 12: to most players a part of the distance drivers.
    Control,
    /// Distance drivers, speed 12 and more.
    Distance,
    /// Special jobs, whatever the speed.
    Utility,
}

impl Slot {
    /// All slots, in the order of the lanes.
    pub const ALL: [Slot; 6] =
        [Slot::Putter, Slot::MidRange, Slot::Fairway, Slot::Control, Slot::Distance, Slot::Utility];

    /// The slot a disc falls into by its printed speed.
    pub fn of_speed(speed: f64) -> Slot {
        match speed {
            s if s < 4.0 => Slot::Putter,
            s if s < 6.0 => Slot::MidRange,
            s if s < 10.0 => Slot::Fairway,
            s if s < 12.0 => Slot::Control,
            _ => Slot::Distance,
        }
    }

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Slot::Putter => "putter",
            Slot::MidRange => "mid-range",
            Slot::Fairway => "fairway",
            Slot::Control => "control",
            Slot::Distance => "distance",
            Slot::Utility => "utility",
        }
    }
}

/// Share of the arm's full speed that a player puts into a controlled full throw with a disc of `speed`: nobody
/// throws a putter as hard as a driver and keeps it straight. Piecewise linear; own judgement, between the speeds for
/// which discs are rated and one speed for all.
pub fn class_effort(speed: f64) -> f64 {
    const TABLE: [(f64, f64); 6] =
        [(1.0, 0.82), (3.0, 0.84), (5.0, 0.90), (7.0, 0.93), (9.0, 0.96), (12.0, 1.0)];
    let s = speed.clamp(TABLE[0].0, TABLE[5].0);
    TABLE
        .windows(2)
        .find(|w| s <= w[1].0)
        .map_or(1.0, |w| w[0].1 + (w[1].1 - w[0].1) * (s - w[0].0) / (w[1].0 - w[0].0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case(2.0, Slot::Putter)]
    #[case(3.9, Slot::Putter)]
    #[case(4.0, Slot::MidRange)]
    #[case(6.0, Slot::Fairway)]
    #[case(9.0, Slot::Fairway)]
    #[case(10.0, Slot::Control)]
    #[case(11.5, Slot::Control)]
    #[case(12.0, Slot::Distance)]
    #[case(14.0, Slot::Distance)]
    fn trade_slots_go_by_speed(#[case] speed: f64, #[case] slot: Slot) {
        assert_eq!(Slot::of_speed(speed), slot);
    }

    #[test]
    fn prop_effort_rises_with_speed_to_one() {
        let efforts: Vec<f64> = (0..=30).map(|k| class_effort(f64::from(k) * 0.5)).collect();
        assert!(efforts.windows(2).all(|w| w[0] <= w[1]));
        assert!((class_effort(14.0) - 1.0).abs() < 1e-12);
    }
}
