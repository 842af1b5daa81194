//! Two bags side by side.

use crate::scene::{WORKED_OUT, disc, lines_of, spec};
use rstest::rstest;
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::compare::{Comparison, Packed, compare};
use zinc_kite_bag::verdict::work::Work;

fn shelf() -> Vec<Disc> {
    [
        spec(2.0, 3.0, 0.0, 1.0),
        spec(3.0, 3.0, 0.0, 3.0),
        spec(5.0, 4.0, -1.0, 1.0),
        spec(5.0, 4.0, 0.0, 3.0),
        spec(7.0, 5.0, 0.0, 2.0),
        spec(9.0, 5.0, -2.0, 1.0),
        spec(9.0, 4.0, 0.0, 4.0),
        spec(12.0, 5.0, -1.0, 3.0),
    ]
    .into_iter()
    .enumerate()
    .map(|(k, s)| disc(k as i64 + 1, s))
    .collect()
}

fn side_by_side(player: &Player, first: &[i64], second: &[i64], caps: [Option<f64>; 2]) -> Comparison {
    let carried = |ids: &[i64]| -> Vec<Carried> {
        ids.iter().map(|id| Carried { disc_id: DiscId(*id), spare: false }).collect()
    };
    let bag = |cap| BagSpec { name: "Bag".into(), capacity: 20, event_cap_g: cap };
    let (a, b) = (carried(first), carried(second));
    let (one, other) = (bag(caps[0]), bag(caps[1]));
    let pair = (&Packed { bag: &one, carried: &a }, &Packed { bag: &other, carried: &b });
    compare(player, &shelf(), &lines_of(player), pair, &WORKED_OUT, &Work::default()).unwrap()
}

/// More discs never leave more, and gain on what they gain alone.
#[rstest]
#[case(&[1, 3, 5], &[1, 3, 5, 7])]
#[case(&[2], &[1, 2, 3, 4, 5, 6, 7, 8])]
#[case(&[], &[4, 8])]
fn prop_a_bag_within_another_does_better_nowhere(#[case] less: &[i64], #[case] more: &[i64]) {
    let found = side_by_side(&Player::default(), less, more, [None; 2]);
    assert!(found.second_leaves_strokes <= found.first_leaves_strokes);
    assert!(!found.differences.is_empty() && found.differences.iter().all(|d| d.saves_strokes > 0.0));
    // What is told is most of what there is: the rest is of lines that differ by less than three points.
    let told: f64 = found.differences.iter().map(|d| d.saves_strokes).sum();
    let saved = found.first_leaves_strokes - found.second_leaves_strokes;
    assert!(told <= saved + 1e-9 && told > 0.5 * saved, "{told} of {saved}");
    assert!(found.only_first.is_empty() && found.both.len() == less.len());
}

#[test]
fn prop_the_other_way_about_is_the_other_way_about() {
    let (a, b) = (&[1, 3, 5, 8][..], &[1, 2, 4, 6][..]);
    let there = side_by_side(&Player::default(), a, b, [None; 2]);
    let back = side_by_side(&Player::default(), b, a, [None; 2]);
    assert_eq!((&there.only_first, &there.only_second), (&back.only_second, &back.only_first));
    assert_eq!(there.first_leaves_strokes, back.second_leaves_strokes);
    assert_eq!(there.first_mass_g, 4.0 * 175.0);
    let total = |c: &Comparison| c.differences.iter().map(|d| d.saves_strokes).sum::<f64>();
    assert!((total(&there) + total(&back)).abs() < 1e-9);
}

/// A disc that the event does not allow counts in the bag that goes there for nothing, and in the other for what it is.
#[test]
fn prop_each_bag_has_its_own_cap() {
    let same = side_by_side(&Player::default(), &[3, 5, 8], &[3, 5, 8], [None, Some(170.0)]);
    assert!(same.second_leaves_strokes > same.first_leaves_strokes);
    assert!(same.differences.iter().all(|d| d.second == 0.0 && d.second_disc.is_none()));
}
