//! Overhands, putts, gusts, lee, wet, evidence of the arm, and the range.

use crate::scene::{WORKED_OUT, disc, lines_of, player, spec};
use rstest::rstest;
use zinc_kite_bag::chance::answer::Chance;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::chance::search::chance;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::DiscSpec;
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::need::line::{Footing, Ground, Landing, Line, LineSpec};
use zinc_kite_bag::range::throws::{Manner, RangeFlight, Setting, range, usual};
use zinc_kite_bag::thrower::arm::{Arm, arm_report, arm_speed_m_s, driving_distance_m};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::evidence::Evidence;
use zinc_kite_bag::thrower::player::{OwnScatter, Player, Scatter, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::opened::chance_sheet;

fn me(skill: Skill) -> Player {
    player(104.0, skill)
}

fn template(p: &Player, key: &str) -> LineSpec {
    let found: Option<Line> = lines_of(p).into_iter().find(|l| l.key == key);
    found.unwrap().spec
}

fn on(p: &Player, day: &Conditions, d: DiscSpec, line: &LineSpec) -> Chance {
    line.validate().unwrap();
    chance(&Arm::of(p, day).unwrap(), thrown(&disc(1, d)).unwrap(), line, &WORKED_OUT)
}

fn putter() -> DiscSpec {
    spec(2.0, 3.0, 0.0, 1.0)
}

/// Putting falls off with distance and rises with skill. The shares are common practice from memory, wide on purpose.
#[test]
fn trade_putts_fall_off_with_distance() {
    let share = |skill, distance_m| {
        let p = me(skill);
        let line = LineSpec { distance_m, ..template(&p, "circle-putt") };
        on(&p, &Conditions::default(), putter(), &line).chance
    };
    // A club player makes some 55 of 100 from 7 m and 30 from 10 m, a top player 90 and 70.
    for (skill, near, circle) in [(Skill::Club, 0.55, 0.30), (Skill::Top, 0.92, 0.70)] {
        let [at_7, at_10, at_14] = [7.0, 9.9, 14.0].map(|d| share(skill, d));
        assert!(
            (at_7 - near).abs() < 0.08 && (at_10 - circle).abs() < 0.08,
            "{skill:?} {at_7:.2} {at_10:.2}"
        );
        assert!(at_14 < at_10 - 0.05, "{skill:?} {at_14:.2}");
    }
    let [beginner, club, advanced] = [Skill::Beginner, Skill::Club, Skill::Advanced].map(|s| share(s, 7.0));
    assert!(beginner < club && club < advanced, "{beginner:.2} {club:.2} {advanced:.2}");
}

#[test]
fn trade_a_jump_reaches_where_a_stand_does_not() {
    let p = me(Skill::Club);
    let line = |footing, distance_m| LineSpec { footing, distance_m, ..template(&p, "long-putt") };
    let day = Conditions::default();
    let jump = on(&p, &day, putter(), &line(Footing::JumpPutt, 14.0));
    let stand = on(&p, &day, putter(), &line(Footing::Standstill, 30.0));
    assert!(jump.chance > 0.05, "{:.2}", jump.chance);
    assert!(stand.chance < 0.03, "{stand:?}");
    let inside = line(Footing::JumpPutt, 8.0).validate().unwrap_err().to_string();
    assert!(inside.contains("beyond 10 m"), "{inside}");
}

#[test]
fn trade_an_overhand_gets_over_what_a_backhand_does_not() {
    let p = Player { overhand_m: Some(75.0), ..me(Skill::Club) };
    let over = template(&p, "over-the-top");
    let thrown_over = on(&p, &Conditions::default(), spec(12.0, 4.0, 0.0, 4.0), &over);
    assert!(thrown_over.chance > 0.2, "{:.2}", thrown_over.chance);
    let flat = LineSpec {
        style: Style::Backhand,
        hyzer_min_deg: -10.0,
        hyzer_max_deg: 10.0,
        launch_min_deg: 4.0,
        launch_max_deg: 14.0,
        ..over
    };
    let across = on(&p, &Conditions::default(), spec(12.0, 4.0, 0.0, 4.0), &flat);
    assert!(across.chance < 0.7 * thrown_over.chance, "{:.2}", across.chance);
    assert!(lines_of(&me(Skill::Club)).iter().all(|l| l.key != "over-the-top"));
}

/// Gusts, a wet day and unsteady footing each cost chance; lee gives it back.
#[test]
fn trade_gusts_wet_and_footing_cost_and_lee_helps() {
    let p = me(Skill::Advanced);
    let line = template(&p, "fairway-rail");
    let d = || spec(7.0, 5.0, -1.0, 1.0);
    let best = |day: Conditions, line: &LineSpec| on(&p, &day, d(), line).chance;
    let calm = best(Conditions::default(), &line);
    let gusty = Conditions { gust_m_s: 4.0, ..Conditions::default() };
    assert!(best(gusty, &line) < calm - 0.05, "{:.2} of {calm:.2}", best(gusty, &line));
    let sheltered = LineSpec { lee: 0.9, ..line.clone() };
    assert!(best(gusty, &sheltered) > best(gusty, &line));
    let wet = Conditions { wet: true, ..Conditions::default() };
    assert!(best(wet, &line) < calm);
    let knee = LineSpec { footing: Footing::Unsteady, ..template(&p, "standstill") };
    assert!(best(Conditions::default(), &knee) < best(Conditions::default(), &template(&p, "standstill")));
}

#[test]
fn trade_grippy_plastic_is_surer_in_the_wet() {
    let p = me(Skill::Club);
    let line = template(&p, "mid-range-rail");
    let at = |plastic, wet| {
        let day = Conditions { wet, ..Conditions::default() };
        on(&p, &day, DiscSpec { plastic, ..spec(5.0, 4.0, -0.5, 1.0) }, &line).chance
    };
    let loses = |plastic| at(plastic, false) - at(plastic, true);
    let (grippy, slick) = (loses(Plastic::TackyBase), loses(Plastic::Premium));
    assert!(slick > grippy + 0.02, "a slick disc loses {slick:.2}, a grippy one {grippy:.2}");
}

/// A landing zone judges where the disc stops: what sits on soft ground runs through on hard.
#[test]
fn trade_hard_ground_carries_a_disc_out_of_the_zone() {
    let p = me(Skill::Advanced);
    let line = LineSpec { landing: Landing::Sit, ..template(&p, "mid-range-rail") };
    let with = |ground| {
        on(&p, &Conditions::default(), spec(5.0, 4.0, -1.0, 1.0), &LineSpec { ground, ..line.clone() })
    };
    assert!(with(Ground::Soft).chance > with(Ground::Hard).chance, "{:.2}", with(Ground::Hard).chance);
}

#[rstest]
#[case(Style::Backhand)]
#[case(Style::Forehand)]
#[case(Style::Thumber)]
fn prop_distances_and_speeds_tell_the_same_arm(#[case] style: Style) {
    for slot in [None, Some(Slot::Putter), Some(Slot::MidRange), Some(Slot::Fairway), Some(Slot::Distance)] {
        let distance = driving_distance_m(25.0, style, slot);
        let speed = arm_speed_m_s(distance, style, slot);
        assert!((driving_distance_m(speed, style, slot) - distance).abs() < 0.05, "{slot:?}");
    }
}

#[test]
fn prop_evidence_that_agrees_is_consistent_and_what_does_not_is_named() {
    let plain = me(Skill::Club);
    let alone = arm_report(&plain, Style::Backhand);
    assert!(alone.consistent && alone.evidence.len() == 1);
    let mid_m = driving_distance_m(alone.speed_m_s, Style::Backhand, Some(Slot::MidRange));
    let fits = Evidence::Distance { style: Style::Backhand, slot: Slot::MidRange, distance_m: mid_m };
    let agreed = arm_report(&Player { evidence: vec![fits], ..plain.clone() }, Style::Backhand);
    assert!(agreed.consistent && (agreed.speed_m_s - alone.speed_m_s).abs() < 0.01);
    let radar = Evidence::Speed { style: Style::Backhand, speed_m_s: 1.3 * alone.speed_m_s };
    let odd = Player { evidence: vec![fits, radar], ..plain.clone() };
    let torn = arm_report(&odd, Style::Backhand);
    assert!(!torn.consistent && torn.speed_m_s > alone.speed_m_s);
    assert!(torn.evidence[2].doubt.as_ref().unwrap().contains("faster than the rest"));
    assert!(torn.evidence[0].doubt.as_ref().unwrap().contains("slower than the rest"));
    assert_eq!(arm_report(&odd, Style::Forehand), arm_report(&plain, Style::Forehand), "another style");
    let putt = Evidence::Speed { style: Style::Putt, speed_m_s: 10.0 };
    assert!(Player { evidence: vec![putt], ..plain }.validate().is_err());
}

#[test]
fn prop_a_players_own_scatter_counts_in_its_style_only() {
    let steady = Scatter { speed_pct: 1.0, hyzer_deg: 1.0, launch_deg: 0.5, nose_deg: 0.5, aim_deg: 0.5 };
    let own = |style| Player { scatter: vec![OwnScatter { style, scatter: steady }], ..me(Skill::Club) };
    let line = template(&me(Skill::Club), "fairway-rail");
    let at = |p: &Player| on(p, &Conditions::default(), spec(7.0, 5.0, -1.0, 1.0), &line).chance;
    assert!(at(&own(Style::Backhand)) > at(&me(Skill::Club)));
    assert_eq!(at(&own(Style::Forehand)), at(&me(Skill::Club)));
    let twice = Player { scatter: vec![own(Style::Putt).scatter[0]; 2], ..me(Skill::Club) };
    assert!(twice.validate().unwrap_err().to_string().contains("each style once"));
}

/// The dearest error is the one whose removal helps most, and nothing but gusts is told as gusts.
#[test]
fn prop_the_cost_of_each_error_is_told() {
    let (p, memo) = (me(Skill::Club), Memo::default());
    let line = lines_of(&p).into_iter().find(|l| l.key == "mid-range-lean").unwrap();
    let d = disc(1, spec(5.0, 4.0, 0.0, 3.0));
    let calm = chance_sheet(&p, &Conditions::default(), &d, &line, &memo).unwrap();
    let gusty = Conditions { gust_m_s: 3.0, ..Conditions::default() };
    let blown = chance_sheet(&p, &gusty, &d, &line, &memo).unwrap();
    assert_eq!((calm.costs.len(), blown.costs.len()), (5, 6));
    assert!(calm.costs.windows(2).all(|w| w[0].gain >= w[1].gain));
    assert!(calm.costs.iter().all(|c| (0.0..=1.0).contains(&c.chance_without)));
}

fn thrown_flat(p: &Player, day: &Conditions, ground: Ground, settings: &[Setting]) -> Vec<RangeFlight> {
    let d = thrown(&disc(1, spec(9.0, 5.0, -1.0, 2.0))).unwrap();
    let throws: Vec<_> = settings.iter().map(|s| (d, *s)).collect();
    range(p, day, ground, &throws).unwrap()
}

#[test]
fn prop_the_range_flies_what_the_dials_say() {
    let p = me(Skill::Club);
    let flat = usual(Style::Backhand);
    let left = Setting { hand: Some(Hand::Left), ..flat };
    let fast = Setting { speed_m_s: Some(30.0), ..flat };
    let windy = Conditions { wind_m_s: 6.0, wind_from_deg: 0.0, ..Conditions::default() };
    let into = Setting { conditions: Some(windy), ..flat };
    let flown = thrown_flat(&p, &Conditions::default(), Ground::Turf, &[flat, left, fast, into]);
    assert!((flown[0].finish_left_m + flown[1].finish_left_m).abs() < 1e-9, "mirrored");
    assert!((flown[2].speed_m_s - 30.0).abs() < 1e-12 && flown[2].carry_m > flown[0].carry_m);
    assert!(flown[3].swing_m > flown[0].swing_m, "a headwind acts less stable");
    assert_eq!(flown[3], thrown_flat(&p, &windy, Ground::Turf, &[flat])[0], "a wind of its own is a wind");
    for f in &flown {
        assert_eq!(f.cloud.len(), 128);
        assert!(f.distance_m >= f.carry_m - 1e-9 && f.path.last().unwrap().z_m == 0.0);
        assert!((0.0..=1.0).contains(&f.within_10_m) && f.spread_long_m > 1.0 && f.spread_wide_m > 1.0);
    }
    let hard = thrown_flat(&p, &Conditions::default(), Ground::Hard, &[flat]).remove(0);
    assert!(hard.run_m > flown[0].run_m && hard.carry_m == flown[0].carry_m);
    assert_ne!(hard.manner, Manner::Sits);
}

#[rstest]
#[case("power", |s: &mut Setting| s.power = 2.0)]
#[case("launch_deg", |s: &mut Setting| s.launch_deg = f64::NAN)]
#[case("nose_deg", |s: &mut Setting| s.nose_deg = 40.0)]
#[case("hyzer_deg", |s: &mut Setting| s.hyzer_deg = -200.0)]
#[case("aim_deg", |s: &mut Setting| s.aim_deg = 90.0)]
#[case("spin", |s: &mut Setting| s.spin = 0.0)]
#[case("speed_m_s", |s: &mut Setting| s.speed_m_s = Some(300.0))]
#[case("wind_m_s", |s: &mut Setting| {
    s.conditions = Some(Conditions { wind_m_s: 50.0, ..Conditions::default() });
})]
fn prop_a_bad_setting_is_named(#[case] field: &str, #[case] spoil: fn(&mut Setting)) {
    let mut setting = usual(Style::Backhand);
    setting.validate().unwrap();
    spoil(&mut setting);
    let d = thrown(&disc(1, spec(9.0, 5.0, -1.0, 2.0))).unwrap();
    let refused = range(&me(Skill::Club), &Conditions::default(), Ground::Turf, &[(d, setting)]);
    assert_eq!(refused.unwrap_err().field(), field);
}

#[test]
fn prop_every_usual_setting_flies_in_every_style() {
    let p = me(Skill::Club);
    for style in Style::ALL {
        let f = thrown_flat(&p, &Conditions::default(), Ground::Soft, &[usual(style)]).remove(0);
        assert!(f.carry_m > 5.0 && f.time_s > 0.3 && f.distance_m.is_finite(), "{style:?}: {f:?}");
    }
    let none = range(&p, &Conditions::default(), Ground::Soft, &[]);
    assert_eq!(none.unwrap_err().field(), "throws");
}

/// The basket is a landing like any other: also a drive can be meant for it.
#[test]
fn prop_a_basket_asks_for_the_chains() {
    let p = me(Skill::Advanced);
    let open = LineSpec { landing: Landing::Any, ..template(&p, "land-and-sit") };
    let ace = LineSpec { landing: Landing::Basket, ..open.clone() };
    let d = || spec(3.0, 3.0, 0.0, 2.0);
    let (lands, chains) =
        (on(&p, &Conditions::default(), d(), &open), on(&p, &Conditions::default(), d(), &ace));
    assert!(
        chains.chance < 0.3 && lands.chance > chains.chance + 0.3,
        "{:.2} {:.2}",
        lands.chance,
        chains.chance
    );
}

/// The line that a form starts from needs nothing but a name.
#[test]
fn prop_the_usual_line_of_every_style_is_a_line() {
    for style in Style::ALL {
        let line = LineSpec { name: "New".into(), ..LineSpec::usual(style) };
        line.validate().unwrap();
        assert_eq!(line.style, style);
    }
}
