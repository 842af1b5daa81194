//! A course and a day: what is left from how far, and the card.

use crate::scene::{WORKED_OUT, disc, into_wind, player, spec};
use rstest::rstest;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::course::hole::{CourseSpec, Hole, Way};
use zinc_kite_bag::course::weather::{Hour, PlayingDay};
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Use};
use zinc_kite_bag::need::area::Spot;
use zinc_kite_bag::need::line::{Gate, LineSpec};
use zinc_kite_bag::need::thing::{Peril, Thing};
use zinc_kite_bag::plan::round::card::{RoundCard, card};
use zinc_kite_bag::plan::round::left::{Next, StrokesLeft, strokes_left};
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::habits::Habits;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::standing::{PuttersApart, Question};
use zinc_kite_bag::verdict::work::Work;

/// A putter to putt with, and what is thrown: slow to fast, straight and overstable.
pub fn bag() -> Vec<Disc> {
    let putting = DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) };
    let throwing = [
        spec(3.0, 3.0, 0.0, 1.0),
        spec(4.0, 1.0, 0.0, 4.0),
        spec(5.0, 4.0, -1.0, 1.0),
        spec(5.0, 4.0, 0.0, 3.0),
        spec(7.0, 5.0, 0.0, 2.0),
        spec(7.0, 5.0, -2.0, 1.0),
        spec(9.0, 5.0, -1.0, 2.0),
        spec(12.0, 5.0, -1.0, 3.0),
    ];
    [putting].into_iter().chain(throwing).enumerate().map(|(k, s)| disc(k as i64 + 1, s)).collect()
}

fn me(skill: Skill) -> Player {
    player(100.0, skill)
}

fn left_on(player: &Player, day: &Conditions, discs: &[Disc]) -> StrokesLeft {
    let (arm, discs): (Arm, Vec<&Disc>) = (Arm::of(player, day).unwrap(), discs.iter().collect());
    let apart = PuttersApart::on(discs.iter().copied());
    strokes_left(player, &arm, &discs, apart, (&WORKED_OUT, &Work::default())).unwrap()
}

pub fn drives(metres: f64, skill: Skill) -> Player {
    Player { forehand_m: 0.8 * metres, ..player(metres, skill) }
}

fn demo_course() -> CourseSpec {
    serde_json::from_str(include_str!("../../../server/data/demo_course.json")).unwrap()
}

pub fn card_for(player: &Player, discs: &[Disc], course: &CourseSpec, day: &PlayingDay) -> RoundCard {
    card_from(&WORKED_OUT, player, discs, course, day)
}

fn card_from(
    memo: &Memo,
    player: &Player,
    discs: &[Disc],
    course: &CourseSpec,
    day: &PlayingDay,
) -> RoundCard {
    let carried: Vec<Carried> = discs.iter().map(|d| Carried { disc_id: d.id, spare: false }).collect();
    let bag = BagSpec::of_everything();
    let q = Question {
        player,
        conditions: Conditions::default(),
        shelf: discs,
        bag: &bag,
        carried: &carried,
        lines: &[],
        today: None,
    };
    card(&q, course, day, memo, &Work::default()).unwrap()
}

/// From which side the wind blows all day, how strongly.
pub fn windy(from_deg: f64, wind_m_s: f64) -> PlayingDay {
    let hour = Hour { hour: 9, wind_m_s, gust_m_s: None, from_deg, temperature_c: 15.0, rain_mm: 0.0 };
    PlayingDay { hours: vec![hour], ..PlayingDay::default() }
}

fn hole(name: &str, bearing_deg: f64, length_m: f64) -> Hole {
    Hole::straight(name.into(), Style::Backhand, bearing_deg, length_m, 0.0)
}

fn course(holes: Vec<Hole>) -> CourseSpec {
    let course = CourseSpec { name: "Vell Links".into(), altitude_m: None, day: None, holes };
    course.validate().unwrap();
    course
}

/// Water all along one side, a way that leads round a corner, and a hole that no throw reaches.
pub fn three_holes() -> CourseSpec {
    let mut water = hole("1", 90.0, 78.0);
    let shore = [(5.0, 8.0), (110.0, 8.0), (110.0, 40.0), (5.0, 40.0)];
    let area = shore.map(|(at_m, left_m)| Spot { at_m, left_m }).to_vec();
    water.ways[0].line.things.push(Thing::Hazard { peril: Peril::Water, area, strokes: None, lost: None });
    let mut corner = hole("2", 200.0, 120.0);
    corner.ways = vec![
        Way { turn_deg: 18.0, line: corner.line_to(Style::Backhand, 84.0) },
        Way { turn_deg: 0.0, line: corner.line_to(Style::Forehand, 60.0) },
    ];
    course(vec![water, corner, hole("3", 310.0, 190.0)])
}

/// What is played is what is summed: the mean of the rounds lies within its own error of the card's strokes, whatever the day.
#[rstest]
#[case(windy(250.0, 0.0))]
#[case(windy(250.0, 7.0))]
fn prop_rounds_played_come_to_what_the_holes_sum_to(#[case] day: PlayingDay) {
    let card = card_for(&drives(100.0, Skill::Advanced), &bag(), &three_holes(), &day);
    let rounds = card.rounds.unwrap();
    assert!(rounds.played >= 10_000);
    let error = rounds.spread / (rounds.played as f64).sqrt();
    assert!((rounds.mean - card.strokes).abs() < 4.0 * error, "{} {} ± {error}", rounds.mean, card.strokes);
    assert!((card.strokes - card.holes.iter().map(|h| h.strokes).sum::<f64>()).abs() < 1e-9);
    assert!(rounds.good <= rounds.usual && rounds.usual <= rounds.bad && rounds.spread > 0.5);
}

/// The same question has the same answer.
#[test]
fn prop_a_card_repeats_to_the_last_bit() {
    let me = drives(100.0, Skill::Club);
    let ask = |memo: &Memo| card_from(memo, &me, &bag()[..5], &three_holes(), &windy(20.0, 5.0));
    let first = ask(&Memo::default());
    assert_eq!(first, ask(&Memo::default()));
    assert_eq!(first, ask(&WORKED_OUT));
}

/// Whatever is added to the bag, no hole takes more strokes than before.
#[rstest]
#[case(windy(0.0, 0.0))]
#[case(windy(300.0, 6.0))]
fn prop_one_more_disc_is_never_worse(#[case] day: PlayingDay) {
    let (me, all, course) = (drives(92.0, Skill::Club), bag(), three_holes());
    let strokes = |n: usize| {
        let card = card_for(&me, &all[..n], &course, &day);
        card.holes.iter().map(|h| h.strokes).chain([card.strokes]).collect::<Vec<f64>>()
    };
    let mut before = strokes(0);
    for n in [1, 2, 4, 5, 8, all.len()] {
        let now = strokes(n);
        let worse = before.iter().zip(&now).any(|(b, n)| *n > b + 1e-9);
        assert!(!worse, "with {n}: {now:?}, before: {before:?}");
        before = now;
    }
}

fn mirrored(line: &LineSpec) -> LineSpec {
    let spot = |s: &Spot| Spot { left_m: -s.left_m, ..*s };
    let thing = |t: &Thing| match t {
        Thing::Hazard { peril, area, strokes, lost } => {
            let area = area.iter().map(spot).collect();
            Thing::Hazard { peril: *peril, area, strokes: *strokes, lost: *lost }
        }
        other => other.clone(),
    };
    LineSpec { things: line.things.iter().map(thing).collect(), ..line.clone() }
}

/// A left-hander on the mirrored course in the mirrored wind has the mirrored card: the same discs, chances and strokes.
#[test]
fn prop_a_left_hander_on_the_mirrored_course_has_the_mirrored_card() {
    let right = three_holes();
    let mut left = right.clone();
    for hole in &mut left.holes {
        for way in &mut hole.ways {
            (way.turn_deg, way.line) = (-way.turn_deg, mirrored(&way.line));
        }
    }
    // Each hole in a wind of its own, so that each can be mirrored about its own way.
    for (k, from_deg) in [70.0, 160.0, 350.0].into_iter().enumerate() {
        let one = |of: &CourseSpec| course(vec![of.holes[k].clone()]);
        let about = 2.0 * right.holes[k].bearing_deg - from_deg;
        let me = drives(96.0, Skill::Advanced);
        let lefty = Player { hand: Hand::Left, ..me.clone() };
        let a = card_for(&me, &bag()[..6], &one(&right), &windy(from_deg, 5.0));
        let b = card_for(&lefty, &bag()[..6], &one(&left), &windy(about.rem_euclid(360.0), 5.0));
        let of = |c: &RoundCard| {
            let best = c.holes[0].best.clone().unwrap();
            (best.disc_id, best.way, best.chance, best.release)
        };
        assert_eq!(of(&a), of(&b));
        assert!((a.strokes - b.strokes).abs() < 1e-3, "{} {}", a.strokes, b.strokes);
    }
}

fn stability(discs: &[Disc], id: DiscId) -> f64 {
    let printed = discs.iter().find(|d| d.id == id).unwrap().spec.printed;
    printed.turn + printed.fade
}

/// Into the wind something more stable, before it something less, as common practice has it (rules 6, 7 and 13 of the practice): over
/// arms and lengths, on an open hole, with discs of each class.
#[rstest]
#[case(85.0, 70.0)]
#[case(100.0, 76.0)]
#[case(104.0, 88.0)]
#[case(120.0, 95.0)]
fn trade_into_the_wind_more_stable_before_it_less(#[case] metres: f64, #[case] length_m: f64) {
    let more = [
        spec(5.0, 5.0, -3.0, 0.0),
        spec(7.0, 4.0, 0.0, 4.0),
        spec(9.0, 4.0, 0.0, 4.0),
        spec(9.0, 5.0, -2.0, 1.0),
    ];
    let more = more.into_iter().enumerate().map(|(k, s)| disc(k as i64 + 20, s));
    let discs: Vec<Disc> = bag().into_iter().chain(more).collect();
    // The least and the most stable, by speed where they are as stable, of those between which no hundredth of a stroke lies.
    let best = |from_deg: f64, wind_m_s: f64| {
        let course = course(vec![hole("1", 0.0, length_m)]);
        let card = card_for(&drives(metres, Skill::Advanced), &discs, &course, &windy(from_deg, wind_m_s));
        let picks: Vec<(DiscId, f64)> =
            card.holes[0].discs.iter().filter_map(|p| Some((p.disc_id?, p.strokes?))).collect();
        let least = picks.iter().map(|p| p.1).fold(f64::INFINITY, f64::min);
        let mut as_good: Vec<(f64, f64)> = picks
            .iter()
            .filter(|p| p.1 < least + 0.01)
            .map(|(id, _)| {
                let printed = discs.iter().find(|d| d.id == *id).unwrap().spec.printed;
                (stability(&discs, *id), printed.speed)
            })
            .collect();
        as_good.sort_by(|a, b| a.partial_cmp(b).unwrap());
        (as_good[0], as_good[as_good.len() - 1])
    };
    let (calm, ahead, behind) = (best(0.0, 0.0), best(0.0, 7.0).1, best(180.0, 7.0).0);
    // Across to something more stable, or up to something faster.
    assert!(ahead.0 > behind.0 || (ahead.0 == behind.0 && ahead.1 > behind.1), "{ahead:?} {behind:?}");
    assert!(ahead.0 >= calm.0.0 || ahead.1 > calm.0.1, "{ahead:?} {calm:?}");
    assert!(behind.0 <= calm.1.0, "{behind:?} {calm:?}");
}

/// The two schools' answers are of the classes they name, and where both are told they are told with their strokes.
#[test]
fn trade_a_step_across_and_a_step_up() {
    let discs = bag();
    let speed = |id| discs.iter().find(|d| d.id == id).unwrap().spec.printed.speed;
    let mut told = 0;
    for length_m in [55.0, 62.0, 70.0, 76.0, 84.0] {
        let course = course(vec![hole("1", 0.0, length_m)]);
        let card = card_for(&drives(104.0, Skill::Advanced), &discs, &course, &windy(0.0, 6.0));
        let Some(schools) = &card.holes[0].schools else { continue };
        told += 1;
        let (calm, across, up) = (schools.calm.disc_id, schools.across.disc_id, schools.up.disc_id);
        assert!(stability(&discs, across) > stability(&discs, calm), "{schools:?}");
        assert!(speed(up) > speed(across) && (stability(&discs, up) - stability(&discs, calm)).abs() <= 1.0);
        let better = schools.across.strokes.min(schools.up.strokes);
        assert!(better >= card.holes[0].strokes - 1e-9);
        assert!(schools.words.contains("tep") || schools.words.contains("same"), "{}", schools.words);
    }
    assert!(told >= 2, "{told}");
}

/// An approach of 45 m comes to rest within 8 m nearly every time for a good player: common practice, no source (rule 14).
#[rstest]
#[case(Skill::Advanced, 0.8)]
#[case(Skill::Top, 0.9)]
fn trade_an_approach_ends_near(#[case] skill: Skill, #[case] nearly: f64) {
    let mut near = hole("1", 0.0, 45.0);
    (near.ways[0].line.zone_length_m, near.ways[0].line.zone_width_m) = (16.0, 16.0);
    let card = card_for(&drives(104.0, skill), &bag(), &course(vec![near]), &windy(0.0, 0.0));
    let best = card.holes[0].best.clone().unwrap();
    assert!(best.chance >= nearly, "{best:?}");
    assert!(best.leaves_m < 6.0, "{best:?}");
}

/// Farther off is never fewer strokes, beyond the grain of a chance; it is never less than one; a throw drawn from it agrees with it
/// in the mean.
#[rstest]
#[case(Skill::Beginner, 0.0)]
#[case(Skill::Advanced, 0.0)]
#[case(Skill::Top, 5.0)]
fn prop_farther_off_is_more_strokes(#[case] skill: Skill, #[case] wind_m_s: f64) {
    let found = left_on(&me(skill), &into_wind(wind_m_s), &bag());
    let from = found.from();
    assert!(from[0].strokes >= 1.0 && from[0].strokes < 1.3);
    for pair in from.windows(2) {
        assert!(pair[1].strokes > pair[0].strokes - 0.06, "{pair:?}");
        assert!(pair[1].in_two < pair[0].in_two + 0.06, "{pair:?}");
    }
    // Between what was worked out in proportion; nearer than every putt one.
    let (a, b) = (&from[5], &from[6]);
    let between = found.strokes(0.5 * (a.distance_m + b.distance_m));
    assert!((between - 0.5 * (a.strokes + b.strokes)).abs() < 1e-9 && found.strokes(0.5) == 1.0);
    for at_m in [4.4, 13.0, 61.0, 130.0, 240.0] {
        let n = 160;
        let steps = (0..n).map(|k| (f64::from(k) + 0.5) / f64::from(n));
        let drawn = |between: f64, which: f64| match found.next(at_m, between, which) {
            Next::Holed => 1.0,
            Next::At(m) => 1.0 + found.strokes(m),
            Next::Lost(strokes) => f64::from(strokes),
        };
        let sum: f64 =
            steps.clone().flat_map(|b| steps.clone().map(move |w| (b, w))).map(|(b, w)| drawn(b, w)).sum();
        let mean = sum / f64::from(n * n);
        assert!((mean - found.strokes(at_m)).abs() < 0.02, "{at_m}: {mean} {}", found.strokes(at_m));
    }
}

/// How often players are down in two, by skill: common practice, no source. From 45 m a club player six times in ten, an advanced one
/// eight, from 60 m four and seven; a putt of 10 m is made by a good player about every other time.
#[rstest]
#[case(Skill::Club, 0.5..0.72, 0.32..0.56)]
#[case(Skill::Advanced, 0.74..0.92, 0.58..0.8)]
#[case(Skill::Top, 0.88..0.99, 0.8..0.97)]
fn trade_down_in_two(
    #[case] skill: Skill,
    #[case] from_45: std::ops::Range<f64>,
    #[case] from_60: std::ops::Range<f64>,
) {
    let found = left_on(&me(skill), &Conditions::default(), &bag());
    let in_two = |m: f64| {
        let near =
            found.from().iter().min_by(|a, b| (a.distance_m - m).abs().total_cmp(&(b.distance_m - m).abs()));
        near.unwrap().in_two
    };
    assert!(from_45.contains(&in_two(48.0)), "{}", in_two(48.0));
    assert!(from_60.contains(&in_two(57.0)), "{}", in_two(57.0));
    if skill == Skill::Advanced {
        assert!((1.35..1.7).contains(&found.strokes(10.0)), "{}", found.strokes(10.0));
    }
    for f in found.from().iter().filter(|f| f.distance_m <= 10.0) {
        assert_eq!((f.style, f.disc_id), (Style::Putt, Some(DiscId(1))), "{f:?}");
    }
    for f in found.from().iter().filter(|f| (27.0..50.0).contains(&f.distance_m)) {
        let speed = bag().iter().find(|d| Some(d.id) == f.disc_id).unwrap().spec.printed.speed;
        assert!(speed <= 5.0 && f.style != Style::Putt, "{f:?}");
    }
}

/// A steadier player leaves fewer strokes from everywhere, wind leaves more in the mean, and so does wet.
#[test]
fn trade_skill_and_calm_save_strokes() {
    let mean =
        |l: &StrokesLeft| [6.0, 10.0, 20.0, 40.0, 60.0].iter().map(|m| l.strokes(*m)).sum::<f64>() / 5.0;
    let of = |skill| mean(&left_on(&me(skill), &Conditions::default(), &bag()));
    let (club, advanced, top) = (of(Skill::Club), of(Skill::Advanced), of(Skill::Top));
    assert!(club > advanced + 0.05 && advanced > top + 0.05, "{club:.2} {advanced:.2} {top:.2}");
    let on = |day: Conditions| mean(&left_on(&me(Skill::Advanced), &day, &bag()));
    assert!(on(into_wind(7.0)) > advanced);
    assert!(on(Conditions { wet: true, ..Conditions::default() }) > advanced);
}

/// With nothing in hand there is nothing to say, and it is never better than with something.
#[test]
fn prop_an_empty_bag_has_a_card_without_throws() {
    let empty = card_for(&drives(92.0, Skill::Club), &[], &three_holes(), &PlayingDay::default());
    assert!(empty.holes.iter().all(|h| h.best.is_none() && h.strokes > 4.0));
    assert!(empty.leave_m.is_none() && empty.lay_up.contains("putt"));
    let nowhere = card_for(&drives(92.0, Skill::Club), &bag(), &course(vec![]), &PlayingDay::default());
    assert!(nowhere.rounds.is_none() && nowhere.strokes == 0.0);
}

/// What is beyond an arm is thrown short of, and says so; the demo's own course has an answer on every hole.
#[test]
fn prop_a_target_out_of_reach_is_thrown_short_of() {
    let course = course(vec![hole("1", 0.0, 140.0)]);
    let card = card_for(&drives(85.0, Skill::Club), &bag(), &course, &windy(0.0, 6.0));
    let best = card.holes[0].best.clone().unwrap();
    let short_m = best.short_m.unwrap();
    assert!((50.0..100.0).contains(&short_m) && best.leaves_m > 30.0, "{best:?}");
    let near = card_for(&drives(85.0, Skill::Club), &bag(), &demo_course(), &PlayingDay::default());
    assert!(near.holes.iter().all(|h| h.best.is_some()));
}

/// A wind that turns about is answered with what that wind asks for, and a flip is where the choice changes: before it the disc of the
/// card is no worse, behind it the other is better.
#[test]
fn prop_a_flip_is_where_the_choice_changes() {
    let course = course(vec![hole("1", 0.0, 84.0)]);
    let on = |along_m_s: f64| {
        let from_deg = if along_m_s < 0.0 { 0.0 } else { 180.0 };
        card_for(&drives(104.0, Skill::Advanced), &bag(), &course, &windy(from_deg, along_m_s.abs()))
    };
    let card = on(-3.0);
    let hole = &card.holes[0];
    assert!(!hole.flips.is_empty());
    for flip in &hole.flips {
        assert!(flip.words.contains(&flip.choice.disc_name) && flip.along_m_s != -3.0, "{flip:?}");
        assert_ne!(flip.choice.disc_id, hole.best.as_ref().unwrap().disc_id);
    }
}

/// A lay-up is told where the basket is out of reach: no nearer and no farther place that is tried would save more, and where water lies
/// about the drawn place another is told.
#[test]
fn prop_a_lay_up_leaves_the_fewest_strokes() {
    let mut long = hole("1", 0.0, 160.0);
    long.ways[0].line = long.line_to(Style::Backhand, 90.0);
    let me = drives(104.0, Skill::Advanced);
    let on = |hole: Hole| card_for(&me, &bag(), &course(vec![hole]), &windy(0.0, 0.0)).holes[0].clone();
    let open = on(long.clone()).lay_up.unwrap();
    assert!((60.0..110.0).contains(&open.aim_m) && open.saves >= 0.0, "{open:?}");
    assert!((open.leaves_m - (160.0 - open.aim_m)).abs() < 1e-9 && open.strokes_left > 2.0, "{open:?}");
    let pond = [(78.0, -14.0), (120.0, -14.0), (120.0, 14.0), (78.0, 14.0)];
    let area = pond.map(|(at_m, left_m)| Spot { at_m, left_m }).to_vec();
    long.ways[0].line.things.push(Thing::Hazard { peril: Peril::Water, area, strokes: None, lost: None });
    let wet = on(long);
    let (short, best) = (wet.lay_up.unwrap(), wet.best.unwrap());
    assert!(short.aim_m < 80.0, "{short:?}");
    // Nobody aims at what is seldom hit.
    assert!(best.chance > 0.3 && best.short_m.is_some_and(|m| m < 78.0), "{best:?}");
    assert!(short.words.contains("instead of") && open.words.contains("from there"), "{}", short.words);
    // Where one throw reaches the basket nothing is laid up.
    assert!(on(hole("1", 0.0, 80.0)).lay_up.is_none());
}

/// What is hardly ever reached is not called well placed.
#[test]
fn regress_a_lay_up_that_is_seldom_made_is_not_well_placed() {
    let mut narrow = hole("1", 0.0, 160.0);
    let gate =
        Gate { at_m: 60.0, left_edge_m: 0.5, right_edge_m: -0.5, ceiling_m: Some(4.0), floor_m: Some(3.0) };
    narrow.ways[0].line = LineSpec { gates: vec![gate], ..narrow.line_to(Style::Backhand, 90.0) };
    let me = drives(104.0, Skill::Advanced);
    let hole = card_for(&me, &bag(), &course(vec![narrow]), &windy(0.0, 0.0)).holes[0].clone();
    let (lay_up, best) = (hole.lay_up.unwrap(), hole.best.unwrap());
    assert!(best.chance < 0.2, "{best:?}");
    assert!(lay_up.words.starts_with("The lay-up is made "), "{}", lay_up.words);
}

/// A style that its player does not throw is on no card: neither the first throw nor what stands in for it, nor an approach.
#[test]
fn prop_a_style_that_is_not_thrown_is_on_no_card() {
    let me = drives(100.0, Skill::Advanced);
    let spared = Habits { avoid: vec![Style::Forehand], ..Habits::default() };
    let sore = Player { habits: spared, ..me.clone() };
    let both = card_for(&me, &bag(), &three_holes(), &windy(0.0, 0.0));
    let one = card_for(&sore, &bag(), &three_holes(), &windy(0.0, 0.0));
    let styles = |card: &RoundCard| {
        let holes = card.holes.iter();
        let throws =
            holes.flat_map(|h| h.best.iter().chain(&h.stand_in).chain(&h.other_ways).map(|c| c.style));
        throws.chain(card.left.iter().map(|f| f.style)).collect::<Vec<Style>>()
    };
    assert!(styles(&both).contains(&Style::Forehand) && !styles(&one).contains(&Style::Forehand));
    assert!(one.strokes >= both.strokes - 1e-9);
}

/// A thousand metres of nine easy holes in calm, by skill: about what such players tell of such a course. Common practice, no source.
#[rstest]
#[case(75.0, Skill::Beginner, 33.0..38.0)]
#[case(95.0, Skill::Club, 28.5..31.5)]
#[case(104.0, Skill::Advanced, 26.0..28.5)]
#[case(125.0, Skill::Top, 22.5..25.5)]
fn trade_rounds_come_out_as_players_of_a_skill_tell(
    #[case] metres: f64,
    #[case] skill: Skill,
    #[case] strokes: std::ops::Range<f64>,
) {
    let card = card_for(&drives(metres, skill), &bag(), &demo_course(), &PlayingDay::default());
    assert!(strokes.contains(&card.strokes), "{}", card.strokes);
}
