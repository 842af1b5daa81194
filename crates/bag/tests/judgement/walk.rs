//! The walk, control drivers in a lane of their own, and the distance ladder.

use crate::scene::{disc, lines_of, spec};
use rstest::rstest;
use zinc_kite_bag::disc::keeping::{Keeping, Status};
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Use};
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::habits::Habits;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::board::board;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::ladder::ladders;
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::walk::{WalkLane, WalkStep, walk};

fn player(control_lane: bool, fast_first: bool) -> Player {
    Player {
        backhand_m: 104.0,
        habits: Habits { control_lane, fast_first, ..Habits::default() },
        ..Player::default()
    }
}

fn shelf() -> Vec<Disc> {
    let putting = DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) };
    let utility = DiscSpec { used_for: Use::Utility, ..spec(9.0, 4.0, 0.0, 4.0) };
    let lent = Keeping { status: Status::Lent, ..Keeping::default() };
    // A four-speed that its player keeps with the putters.
    let approach = DiscSpec { class: Some(Slot::Putter), ..spec(4.0, 1.0, 0.0, 4.0) };
    [
        putting.clone(),
        putting,
        spec(3.0, 3.0, 0.0, 3.0),
        approach,
        spec(5.0, 4.0, -1.0, 1.0),
        spec(7.0, 5.0, 0.0, 2.0),
        DiscSpec { keeping: lent, ..spec(7.0, 5.0, -2.0, 1.0) },
        spec(11.0, 5.0, -1.0, 2.0),
        spec(12.0, 5.0, -1.0, 3.0),
        utility,
    ]
    .into_iter()
    .enumerate()
    .map(|(k, s)| disc(k as i64 + 1, s))
    .collect()
}

fn carried(ids: &[i64]) -> Vec<Carried> {
    ids.iter().map(|id| Carried { disc_id: DiscId(*id), spare: false }).collect()
}

fn walked(player: &Player, lines: &[Line], ids: &[i64]) -> Vec<WalkLane> {
    let bag = BagSpec { name: "Bag".into(), capacity: 20, event_cap_g: None };
    let (shelf, carried) = (shelf(), carried(ids));
    let conditions = Conditions::default();
    walk(&Question { player, conditions, shelf: &shelf, bag: &bag, carried: &carried, lines, today: None })
        .unwrap()
        .lanes
}

/// Every disc at hand is laid out once, every line is asked once, and every peg that is wanted has its line.
#[rstest]
#[case(false, false)]
#[case(true, false)]
#[case(true, true)]
fn prop_nothing_is_left_out_and_nothing_comes_twice(#[case] control_lane: bool, #[case] fast_first: bool) {
    let player = player(control_lane, fast_first);
    let lines = lines_of(&player);
    let lanes = walked(&player, &lines, &[1, 3, 5, 8]);
    let mut laid: Vec<i64> =
        lanes.iter().flat_map(|l| l.here.iter().chain(&l.shelf)).map(|d| d.disc_id.0).collect();
    laid.sort_unstable();
    assert_eq!(laid, [1, 2, 3, 4, 5, 6, 8, 9, 10], "all but the one that is lent");
    let mut asked: Vec<&String> = lanes.iter().flat_map(|l| &l.line_keys).collect();
    let all = asked.len();
    asked.sort();
    asked.dedup();
    assert_eq!((asked.len(), all), (lines.len(), lines.len()));
    for peg in lanes.iter().flat_map(|l| &l.pegs).filter(|p| p.wanted) {
        assert!(lines.iter().any(|l| l.key == peg.line_key), "{}", peg.line_key);
    }
    let steps: Vec<WalkStep> = lanes.iter().map(|l| l.step).collect();
    let mut order = WalkStep::ALL.to_vec();
    if fast_first {
        order.reverse();
    }
    assert_eq!(steps, order);
}

#[test]
fn prop_what_fills_an_empty_peg_stands_first_until_it_is_carried() {
    let player = player(false, false);
    let lines = lines_of(&player);
    let mids = |ids: &[i64]| {
        walked(&player, &lines, ids).into_iter().find(|l| l.step == WalkStep::MidRanges).unwrap()
    };
    let before = mids(&[]);
    assert!(before.shelf[0].fills && before.here.is_empty());
    let peg = before.shelf[0].peg;
    let after = mids(&[before.shelf[0].disc_id.0]);
    assert!(after.here[0].peg == peg && after.shelf.iter().all(|d| d.peg != peg || !d.fills));
    assert!(after.pegs.iter().any(|p| Some(p.peg) == peg && p.disc_ids.len() == 1));
}

#[test]
fn trade_each_disc_lies_where_players_lay_it() {
    let player = player(true, false);
    let lanes = walked(&player, &[], &[]);
    let of = |id: i64| lanes.iter().find(|l| l.shelf.iter().any(|d| d.disc_id.0 == id)).unwrap().step;
    use WalkStep::{
        ControlDrivers, DistanceDrivers, Fairways, MidRanges, PuttingSet, ThrowingPutters, Utility,
    };
    let expected = [
        (1, PuttingSet),
        (3, ThrowingPutters),
        (4, ThrowingPutters),
        (5, MidRanges),
        (6, Fairways),
        (8, ControlDrivers),
        (9, DistanceDrivers),
        (10, Utility),
    ];
    for (id, step) in expected {
        assert_eq!(of(id), step, "disc {id}");
    }
}

/// A lane of their own has its own pegs and shots, and takes the control drivers out of the other.
#[test]
fn prop_control_drivers_have_a_lane_if_they_are_given_one() {
    let (shelf, all) = (shelf(), carried(&[8, 9]));
    for control_lane in [false, true] {
        let player = player(control_lane, false);
        let lanes = board(&player, &Conditions::default(), None, &shelf, &all).unwrap().lanes;
        let with = |slot| -> Vec<i64> {
            let lane = lanes.iter().filter(|l| l.slot == slot);
            lane.flat_map(|l| &l.pucks).map(|p| p.disc_id.0).collect()
        };
        let mut distance = with(Slot::Distance);
        distance.sort_unstable();
        let (own, left) = if control_lane { (vec![8], vec![9]) } else { (vec![], vec![8, 9]) };
        assert_eq!((with(Slot::Control), distance), (own, left));
        let asked = lines_of(&player).iter().any(|l| l.key.starts_with("control-"));
        assert_eq!((lanes.iter().any(|l| l.slot == Slot::Control), asked), (control_lane, control_lane));
    }
}

/// Harder goes farther in calm air, a driver farther than a putter, and no style farther than its arm throws.
#[test]
fn trade_the_ladder_rises_with_power_and_with_speed() {
    let player = Player { overhand_m: Some(60.0), ..player(false, false) };
    let found = ladders(&player, &Conditions::default(), &shelf(), &carried(&[1, 3, 5, 6, 9])).unwrap();
    let styles: Vec<Style> = found.iter().map(|l| l.style).collect();
    assert_eq!(styles, [Style::Backhand, Style::Forehand, Style::Thumber]);
    for ladder in &found {
        assert_eq!(ladder.rungs.len(), 4, "the putting putter is not thrown");
    }
    for ladder in &found[..2] {
        for r in &ladder.rungs {
            assert!(r.soft_m < r.three_quarter_m && r.three_quarter_m < r.full_m, "{r:?}");
        }
        let full = |id: i64| ladder.rungs.iter().find(|r| r.disc_id.0 == id).unwrap().full_m;
        assert!(full(3) < full(5) && full(5) < full(6) && full(6) < full(9), "{:?}", ladder.style);
    }
    let reach = |k: usize| found[k].rungs.iter().map(|r| r.full_m).fold(0.0, f64::max);
    assert!(reach(1) < reach(0) && reach(0) < 1.05 * player.backhand_m);
}
