//! Rollers: the lines for them, what answers them, and what the range shows.

use crate::scene::{WORKED_OUT, arm, lines_of, player, thrown_disc};
use rstest::rstest;
use zinc_kite_bag::chance::search::{behind, chance};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::need::area::Spot;
use zinc_kite_bag::need::limits::{Limits, Miss};
use zinc_kite_bag::need::line::{Gate, Ground, Landing, Line, LineSpec};
use zinc_kite_bag::need::thing::{Peril, Thing};
use zinc_kite_bag::range::throws::{Manner, Setting, range, roller};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::habits::Habits;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::{Hand, Style};

const UNDER: [(f64, f64, f64, f64); 3] =
    [(5.0, 5.0, -3.0, 0.0), (7.0, 5.0, -3.0, 1.0), (9.0, 5.0, -2.0, 1.0)];
const OVER: [(f64, f64, f64, f64); 2] = [(5.0, 4.0, 0.0, 3.0), (9.0, 4.0, 0.0, 4.0)];

fn rolling(backhand_m: f64) -> Player {
    let habits = Habits { rollers: true, ..Habits::default() };
    Player { habits, ..player(backhand_m, Skill::Advanced) }
}

fn rollers_of(p: &Player) -> Vec<Line> {
    lines_of(p).into_iter().filter(|l| l.spec.landing == Landing::Roll).collect()
}

/// As a form for a new one starts, with room.
fn open() -> LineSpec {
    LineSpec { name: "along the hedge".into(), distance_m: 80.0, ..LineSpec::roller(Style::Backhand) }
}

/// Rollers are asked of those who throw them; they are no peg's, in no slot of one, and any disc may answer them.
#[rstest]
#[case(60.0)]
#[case(85.0)]
#[case(104.0)]
#[case(135.0)]
fn trade_rollers_are_asked_of_those_who_throw_them(#[case] backhand_m: f64) {
    assert!(rollers_of(&player(backhand_m, Skill::Advanced)).is_empty());
    let p = rolling(backhand_m);
    let (all, made) = (lines_of(&p), rollers_of(&p));
    assert_eq!(
        all.len(),
        lines_of(&player(backhand_m, Skill::Advanced)).len() + made.len(),
        "nothing else changes"
    );
    assert!(made.iter().any(|l| l.key == "roller") && made.iter().any(|l| l.key == "cut-roller"));
    for line in made {
        line.spec.validate().unwrap();
        assert_eq!((line.spec.slot, line.spec.fastest_speed), (Slot::Utility, None));
        assert!(line.spec.weight <= 0.11, "about once in ten rounds");
        assert!(line.spec.zone_length_m < 0.75 * line.spec.distance_m, "{line:?}");
    }
}

/// From 80 m up the best of the understable discs makes the long roller more often than the best of the overstable ones.
#[rstest]
#[case(80.0)]
#[case(92.0)]
#[case(104.0)]
#[case(120.0)]
#[case(135.0)]
fn trade_understable_discs_answer_the_roller(#[case] backhand_m: f64) {
    let p = rolling(backhand_m);
    let roller = rollers_of(&p).into_iter().find(|l| l.key == "roller").unwrap();
    let best = |discs: &[(f64, f64, f64, f64)]| {
        let each = discs.iter().map(|d| chance(&arm(&p), thrown_disc(*d), &roller.spec, &WORKED_OUT).chance);
        each.fold(0.0, f64::max)
    };
    assert!(best(&UNDER) > best(&OVER) + 0.05, "{:.2} {:.2}", best(&UNDER), best(&OVER));
}

/// A left-hander's rollers are a right-hander's in a mirror.
#[test]
fn prop_a_left_handers_rollers_mirror() {
    let right = rollers_of(&rolling(104.0));
    let left = rollers_of(&Player { hand: Hand::Left, ..rolling(104.0) });
    assert_eq!(right.len(), left.len());
    for (r, l) in right.iter().zip(&left) {
        assert!((r.spec.distance_m - l.spec.distance_m).abs() < 0.2, "{} {}", r.key, l.key);
        assert_eq!(
            (r.spec.hyzer_min_deg, r.spec.hyzer_max_deg),
            (l.spec.hyzer_min_deg, l.spec.hyzer_max_deg)
        );
        let (a, b) = (r.spec.gates[0], l.spec.gates[0]);
        assert!((a.left_edge_m + b.right_edge_m).abs() < 0.3 && (a.right_edge_m + b.left_edge_m).abs() < 0.3);
    }
}

/// What stays in the air, slides or lies down early does not make a line that asks for a roller, wherever it ends.
#[test]
fn prop_a_roller_must_roll() {
    let (p, line) = (rolling(104.0), open());
    let (me, limits) = (arm(&p), Limits::of(&line));
    let found = chance(&me, thrown_disc(UNDER[1]), &line, &WORKED_OUT);
    let cloud = behind(&me, thrown_disc(UNDER[1]), &line, &found.chosen.unwrap()).cloud;
    let made: Vec<_> = cloud.iter().filter(|o| limits.judge(o).miss.is_none()).collect();
    assert!(found.chance > 0.4 && made.iter().all(|o| o.rolled && o.run_m >= 40.0), "{:.2}", found.chance);
    let mut slid = *made[0];
    slid.run_m = 6.0;
    assert_eq!(limits.judge(&slid).miss, Some(Miss::LiesDown));
}

/// Gates behind the touch are passed on the ground: one beside the way of the disc is hit.
#[test]
fn prop_a_rollers_gates_stand_on_the_ground() {
    let (p, free) = (rolling(104.0), open());
    let gate = |right_edge_m: f64, left_edge_m: f64| LineSpec {
        gates: vec![Gate { at_m: 60.0, right_edge_m, left_edge_m, ceiling_m: Some(1.0), floor_m: None }],
        ..free.clone()
    };
    let on = |line: &LineSpec| chance(&arm(&p), thrown_disc(UNDER[1]), line, &WORKED_OUT);
    let (wide, narrow, beside) = (gate(-90.0, 90.0), gate(-2.0, 2.0), gate(60.0, 62.0));
    assert!((on(&wide).chance - on(&free).chance).abs() < 0.1, "a roof of one metre is no hindrance to it");
    assert!(on(&narrow).chance < on(&wide).chance - 0.1);
    assert!(on(&beside).chance < 0.02);
}

/// Into water a disc rolls no farther than its edge, as near as a step of its way.
#[test]
fn prop_a_roller_stops_at_the_water() {
    let p = rolling(104.0);
    let spot = |at_m, left_m| Spot { at_m, left_m };
    let area = vec![spot(50.0, -90.0), spot(90.0, -90.0), spot(90.0, 90.0), spot(50.0, 90.0)];
    let pond = Thing::Hazard { peril: Peril::Water, area, strokes: None, lost: None };
    let line = LineSpec { things: vec![pond], distance_m: 120.0, ..open() };
    line.validate().unwrap();
    let me = arm(&p);
    let found = chance(&me, thrown_disc(UNDER[1]), &open(), &WORKED_OUT);
    let cloud = behind(&me, thrown_disc(UNDER[1]), &line, &found.chosen.unwrap()).cloud;
    assert!(cloud.iter().all(|o| o.x_m < 66.0), "nothing crosses 40 m of water");
    let in_it = cloud.iter().filter(|o| o.x_m > 50.0).count();
    assert!(in_it * 2 > cloud.len(), "{in_it} of {}", cloud.len());
    // Nothing that the water holds is told to have missed a gate behind it.
    let gate = Gate { at_m: 72.0, right_edge_m: 60.0, left_edge_m: 62.0, ceiling_m: None, floor_m: None };
    let gated = LineSpec { gates: vec![gate], ..line };
    let cloud = behind(&me, thrown_disc(UNDER[1]), &gated, &found.chosen.unwrap()).cloud;
    let limits = Limits::of(&gated);
    assert!(cloud.iter().filter(|o| o.x_m > 50.0).all(|o| limits.judge(o).miss != Some(Miss::Gate)));
}

#[test]
fn prop_only_a_backhand_and_a_forehand_roll() {
    for style in [Style::Thumber, Style::Tomahawk, Style::Putt] {
        let line = LineSpec { landing: Landing::Roll, name: "odd".into(), ..LineSpec::usual(style) };
        let Err(BagError::Field { field, got, .. }) = line.validate() else { panic!("{style:?} rolls") };
        assert!(field == "landing" && got.contains(style.label()), "{got}");
    }
    for style in Style::ROLLING {
        LineSpec { name: "fine".into(), ..LineSpec::roller(style) }.validate().unwrap();
    }
}

/// Between a roll and a slide lie throws that only partly catch their edge: what is told as a slide is not said to hop.
#[test]
fn regress_only_what_rolls_is_said_to_hop() {
    let mut rises_but_slides = 0;
    for (hyzer, launch) in (0..56).flat_map(|hyzer| (0..25).map(move |launch| (hyzer, launch))) {
        let (hyzer_deg, launch_deg) = (-20.0 - f64::from(hyzer), f64::from(launch));
        let setting = Setting { hyzer_deg, launch_deg, ..roller(Style::Backhand) };
        let throws = UNDER.map(|disc| (thrown_disc(disc), setting));
        for flight in range(&rolling(104.0), &Conditions::default(), Ground::Turf, &throws).unwrap() {
            if flight.manner != Manner::Rolls {
                assert_eq!(flight.hop_m, 0.0, "on {hyzer_deg}°, {launch_deg}° upward");
                rises_but_slides += i32::from(flight.run.iter().any(|p| p.z_m > 0.15));
            }
        }
    }
    assert!(rises_but_slides > 0, "none of them shows the fault");
}

/// Thrown as a roller at the range a disc rolls, in either style, and its way over the ground is shown to where it lies.
#[rstest]
#[case(Style::Backhand)]
#[case(Style::Forehand)]
fn trade_the_range_shows_a_roller(#[case] style: Style) {
    let discs = UNDER.map(|d| (thrown_disc(d), roller(style)));
    let flights = range(&rolling(104.0), &Conditions::default(), Ground::Turf, &discs).unwrap();
    for flight in &flights {
        assert_eq!(flight.manner, Manner::Rolls);
        assert!(
            flight.run_m > 40.0 && flight.apex_m < 4.0,
            "{:.0} m, {:.1} m high",
            flight.run_m,
            flight.apex_m
        );
        let (first, last) = (flight.run[0], flight.run[flight.run.len() - 1]);
        assert!((first.x_m.hypot(first.y_m) - flight.carry_m).abs() < 1e-9);
        assert!((last.x_m - flight.rest.x_m).hypot(last.y_m - flight.rest.y_m) < 1e-9);
        assert!((0.03..0.5).contains(&flight.hop_m), "hops {:.2} m", flight.hop_m);
    }
    let flat = [(thrown_disc(UNDER[1]), Setting { hyzer_deg: 0.0, launch_deg: 9.0, ..roller(style) })];
    let flat = &range(&rolling(104.0), &Conditions::default(), Ground::Turf, &flat).unwrap()[0];
    assert_ne!(flat.manner, Manner::Rolls);
}
