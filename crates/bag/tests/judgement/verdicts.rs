//! What the judgement says of single lines, whole bags and what to fix.

use crate::scene::{arm, disc, into_wind, lines_of, player, spec, worn};
use rstest::rstest;
use zinc_kite_bag::chance::answer::NoRelease;
use zinc_kite_bag::chance::memo::{Fingerprint, Memo};
use zinc_kite_bag::chance::search::{behind, chance, chance_with};
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers, Top, Use};
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::disc::wear::Grade;
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::need::limits::{Limits, Miss};
use zinc_kite_bag::need::line::{Footing, Gate, Landing, Line, LineSpec};
use zinc_kite_bag::need::peg::Peg;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, School, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::analysis::analyse;
use zinc_kite_bag::verdict::board::board;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried, LARGEST_BAG};
use zinc_kite_bag::verdict::opened::chance_sheet;
use zinc_kite_bag::verdict::sheet::sheet;
use zinc_kite_bag::verdict::standing::{Cell, Question};
use zinc_kite_bag::verdict::table::table;
use zinc_kite_bag::verdict::work::Work;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::outcome::{Crossing, Outcome};

fn me() -> Player {
    player(104.0, Skill::Advanced)
}

fn a_line() -> LineSpec {
    let mut line = LineSpec::usual(Style::Backhand);
    line.name = "test".into();
    line.distance_m = 60.0;
    line.zone_length_m = 16.0;
    line.zone_width_m = 12.0;
    line.gates = vec![Gate {
        at_m: 30.0,
        right_edge_m: -3.0,
        left_edge_m: 2.0,
        ceiling_m: Some(8.0),
        floor_m: Some(1.0),
    }];
    line.ceiling_m = Some(10.0);
    line
}

/// A flight that lands on the spot through the middle of the gate.
fn perfect() -> Outcome {
    let mut o = fly_all(
        &[zinc_kite_flight::dynamics::Throw {
            disc: thrown(&disc(1, spec(5.0, 4.0, 0.0, 1.0))).unwrap().body,
            release: arm(&me()).release(Style::Backhand, 5.0, 0.8),
            wind: zinc_kite_flight::air::Wind::CALM,
        }],
        &arm(&me()).air,
        &[],
    )[0];
    (o.x_m, o.y_m, o.apex_m, o.run_m) = (60.0, 0.0, 6.0, 1.0);
    o.crossings.set(0, Some(Crossing { y_m: -0.5, z_m: 5.0 }));
    o
}

/// Every way to miss is told for what it is, and the first one counts.
#[rstest]
#[case(None, |_: &mut Outcome| {})]
#[case(Some(Miss::Gate), |o: &mut Outcome| o.crossings.set(0, Some(Crossing { y_m: 2.5, z_m: 5.0 })))]
#[case(Some(Miss::Gate), |o: &mut Outcome| o.crossings.set(0, Some(Crossing { y_m: -3.5, z_m: 5.0 })))]
#[case(Some(Miss::Ceiling), |o: &mut Outcome| o.crossings.set(0, Some(Crossing { y_m: 0.0, z_m: 9.0 })))]
#[case(Some(Miss::Low), |o: &mut Outcome| o.crossings.set(0, Some(Crossing { y_m: 0.0, z_m: 0.5 })))]
#[case(Some(Miss::Short), |o: &mut Outcome| { o.x_m = 25.0; o.crossings.set(0, None); })]
#[case(Some(Miss::Ceiling), |o: &mut Outcome| o.apex_m = 11.0)]
#[case(Some(Miss::Short), |o: &mut Outcome| o.x_m = 51.0)]
#[case(Some(Miss::Long), |o: &mut Outcome| o.x_m = 69.0)]
#[case(Some(Miss::Left), |o: &mut Outcome| o.y_m = 6.5)]
#[case(Some(Miss::Right), |o: &mut Outcome| o.y_m = -6.5)]
fn prop_a_miss_is_named(#[case] miss: Option<Miss>, #[case] spoil: fn(&mut Outcome)) {
    let mut outcome = perfect();
    spoil(&mut outcome);
    let judged = Limits::of(&a_line()).judge(&outcome);
    assert_eq!(judged.miss, miss);
    assert_eq!(judged.margin_m < 0.0, miss.is_some());
}

#[test]
fn prop_the_landing_wish_decides() {
    let (mut flat, mut steep) = (perfect(), perfect());
    (flat.run_m, steep.run_m) = (9.0, 0.5);
    let with = |landing, o: &Outcome| Limits::of(&LineSpec { landing, ..a_line() }).judge(o).miss;
    assert_eq!(with(Landing::Sit, &flat), Some(Miss::RunsOn));
    assert_eq!(with(Landing::Sit, &steep), None);
    assert_eq!(with(Landing::Run, &steep), Some(Miss::Stops));
    assert_eq!(with(Landing::Any, &flat), None);
}

/// Each value of a line has a range, and a value outside it is named.
#[rstest]
#[case("name", |l: &mut LineSpec| l.name = " ".into())]
#[case("distance_m", |l: &mut LineSpec| l.distance_m = 5.0)]
#[case("zone_length_m", |l: &mut LineSpec| l.zone_length_m = 0.0)]
#[case("gate right_edge_m", |l: &mut LineSpec| l.gates[0].right_edge_m = 2.0)]
#[case("gate at_m", |l: &mut LineSpec| l.gates[0].at_m = 61.0)]
#[case("gate ceiling_m", |l: &mut LineSpec| l.gates[0].ceiling_m = Some(1.2))]
#[case("gates", |l: &mut LineSpec| l.gates = vec![l.gates[0]; 5])]
#[case("along_m_s", |l: &mut LineSpec| l.along_m_s = 40.0)]
#[case("hyzer_max_deg", |l: &mut LineSpec| l.hyzer_max_deg = l.hyzer_min_deg - 1.0)]
#[case("launch_max_deg", |l: &mut LineSpec| l.launch_max_deg = 80.0)]
#[case("lee", |l: &mut LineSpec| l.lee = 1.0)]
#[case("footing", |l: &mut LineSpec| l.footing = Footing::JumpPutt)]
#[case("footing", |l: &mut LineSpec| l.style = Style::Putt)]
#[case("gates", |l: &mut LineSpec| { l.landing = Landing::Basket; l.gates = vec![l.gates[0]; 4]; })]
#[case("weight", |l: &mut LineSpec| l.weight = 0.0)]
fn prop_a_bad_line_is_named(#[case] field: &str, #[case] spoil: fn(&mut LineSpec)) {
    let mut line = a_line();
    line.validate().unwrap();
    spoil(&mut line);
    assert_eq!(line.validate().unwrap_err().field(), field);
}

fn roomy() -> BagSpec {
    BagSpec { name: "test".into(), capacity: 25, event_cap_g: None }
}

fn carry(shelf: &[Disc], which: &[usize]) -> Vec<Carried> {
    which.iter().map(|&k| Carried { disc_id: shelf[k].id, spare: false }).collect()
}

fn lines() -> Vec<Line> {
    lines_of(&me())
}

/// A line farther than this arm throws is told as such.
#[test]
fn prop_out_of_reach_is_told_by_how_far() {
    let mut far = lines().into_iter().find(|l| l.key == "distance-rail").unwrap();
    far.spec.distance_m = 170.0;
    let t = thrown(&disc(1, spec(12.0, 5.0, -1.0, 3.0))).unwrap();
    let on = |line: &LineSpec| chance(&arm(&me()), t, line, &Memo::default());
    assert!(matches!(on(&far.spec).no_release, Some(NoRelease::TooFar { farthest_m }) if farthest_m < 170.0));
    (far.spec.distance_m, far.spec.zone_length_m, far.spec.zone_width_m) = (12.0, 4.0, 4.0);
    far.spec.gates.clear();
    assert!(matches!(on(&far.spec).no_release, Some(NoRelease::TooNear { .. })), "{:?}", on(&far.spec));
    far.spec.fastest_speed = Some(5.0);
    assert_eq!(on(&far.spec).no_release, Some(NoRelease::TooFast { fastest_speed: 5.0 }));
}

#[test]
fn prop_a_stopped_judgement_says_so_and_keeps_what_it_has() {
    let player = me();
    let shelf = [disc(1, spec(5.0, 4.0, -1.0, 1.0))];
    let (carried, lines, bag) = (carry(&shelf, &[0]), lines(), roomy());
    let q = Question {
        player: &player,
        conditions: Conditions::default(),
        shelf: &shelf,
        bag: &bag,
        carried: &carried,
        lines: &lines,
        today: None,
    };
    let memo = Memo::default();
    let stopped = Work::default();
    stopped.stop();
    assert_eq!(analyse(&q, &memo, &stopped).unwrap_err(), BagError::Stopped);
    assert_eq!(table(&q, &memo, &stopped).unwrap_err(), BagError::Stopped);
    analyse(&q, &memo, &Work::default()).unwrap();
}

/// A disc over the event's cap has its chances in the table, and is never the one to throw.
#[test]
fn prop_what_the_event_forbids_is_not_the_one_to_throw() {
    let player = me();
    let heavy = DiscSpec { mass_g: 180.0, ..spec(5.0, 4.0, -1.0, 1.0) };
    let shelf = [disc(1, heavy), disc(2, spec(7.0, 4.0, 0.0, 4.0)), disc(3, spec(9.0, 5.0, -1.0, 2.0))];
    let (carried, lines) = (carry(&shelf, &[0, 1, 2]), lines());
    let judged = |cap: Option<f64>| {
        let bag = BagSpec { event_cap_g: cap, ..roomy() };
        let q = Question {
            player: &player,
            conditions: Conditions::default(),
            shelf: &shelf,
            bag: &bag,
            carried: &carried,
            lines: &lines,
            today: None,
        };
        let (memo, work) = (Memo::default(), Work::default());
        (analyse(&q, &memo, &work).unwrap(), table(&q, &memo, &work).unwrap())
    };
    let ((free, in_full), (capped, capped_in_full)) = (judged(None), judged(Some(176.0)));
    assert!(
        free.lines.iter().any(|l| l.best.is_some_and(|b| b.disc_id == DiscId(1))),
        "it is good at something"
    );
    let in_hand = |cells: [Option<Cell>; 2]| cells.iter().flatten().all(|c| c.disc_id != DiscId(1));
    for line in &capped.lines {
        assert!(in_hand([line.best, line.second]), "{}", line.line.spec.name);
    }
    for (free, capped) in in_full.rows.iter().zip(&capped_in_full.rows) {
        assert_eq!(free.cells, capped.cells, "its chances stay");
        assert!(in_hand([capped.best, capped.second]), "{}", capped.line_key);
    }
    assert!(capped.leaves_strokes > free.leaves_strokes);
}

#[test]
fn prop_the_board_follows_wind_power_and_style() {
    let shelf = [
        disc(1, spec(9.0, 5.0, -1.0, 2.0)),
        disc(2, DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) }),
    ];
    let carried = carry(&shelf, &[0, 1]);
    let at = |c: &Conditions, style| board(&me(), c, style, &shelf, &carried).unwrap();
    let calm = at(&Conditions::default(), None);
    let into = at(&into_wind(5.0), None);
    let soft = at(&Conditions { power: 0.8, ..Conditions::default() }, None);
    let finish = |b: &zinc_kite_bag::verdict::board::Board| b.puck(DiscId(1)).unwrap().bend.finish_deg;
    assert!(finish(&into) < finish(&calm) && finish(&calm) < finish(&soft));
    let fore = at(&Conditions::default(), Some(Style::Forehand));
    assert_eq!((calm.natural_side, fore.natural_side), (1.0, -1.0));
    assert!(fore.arm_m_s < calm.arm_m_s);
    assert_eq!(calm.puck(DiscId(2)).unwrap().peg, None, "a putting disc fills no peg");
    let lanes: Vec<Slot> = calm.lanes.iter().map(|l| l.slot).collect();
    assert_eq!(lanes, Slot::ALL.into_iter().filter(|s| *s != Slot::Control).collect::<Vec<_>>());
    for lane in calm.lanes.iter().filter(|l| l.slot != Slot::Utility) {
        let edges: Vec<f64> = lane.sockets.iter().map(|s| s.left_deg).collect();
        assert!(edges.windows(2).all(|w| w[0] > w[1]), "pegs from left to right");
    }
}

/// The lines of the sum, one cause at a time.
#[rstest]
#[case("plastic", |s: &mut DiscSpec| s.plastic = Plastic::StiffGlow, Numbers { speed: 0.0, glide: 0.0, turn: 0.3, fade: 0.4 })]
#[case("weight", |s: &mut DiscSpec| s.mass_g = 170.0, Numbers { speed: 0.0, glide: 0.0, turn: -0.2, fade: -0.1 })]
#[case("weight", |s: &mut DiscSpec| s.mass_g = 180.0, Numbers { speed: 0.0, glide: 0.0, turn: 0.2, fade: 0.1 })]
#[case("top", |s: &mut DiscSpec| s.top = Top::Flat, Numbers { speed: 0.0, glide: -0.3, turn: 0.2, fade: 0.0 })]
#[case("top", |s: &mut DiscSpec| s.top = Top::Domed, Numbers { speed: 0.0, glide: 0.4, turn: 0.0, fade: 0.3 })]
#[case("wear", |s: &mut DiscSpec| s.wear.grade = Grade::Seasoned, Numbers { speed: -0.2, glide: 0.288, turn: -1.0, fade: -0.52 })]
fn prop_each_cause_adds_its_own(
    #[case] cause: &str,
    #[case] change: fn(&mut DiscSpec),
    #[case] expected: Numbers,
) {
    let mut s = spec(7.0, 5.0, 0.0, 2.0);
    assert_eq!(as_thrown(&s).addends.len(), 1, "an ordinary fresh disc flies as printed");
    change(&mut s);
    let sum = as_thrown(&s);
    let addend = sum.addends.iter().find(|a| a.cause == cause).unwrap();
    for (got, want) in [
        (addend.change.speed, expected.speed),
        (addend.change.glide, expected.glide),
        (addend.change.turn, expected.turn),
        (addend.change.fade, expected.fade),
    ] {
        assert!((got - want).abs() < 1e-9, "{:?}", addend.change);
    }
    assert!(!addend.note.is_empty());
}

#[test]
fn prop_observed_numbers_stand_for_the_printed_ones() {
    let seen = Numbers { speed: 7.0, glide: 5.0, turn: -1.0, fade: 1.0 };
    let s = DiscSpec { observed: Some(seen), ..spec(7.0, 5.0, 0.0, 2.0) };
    let sum = as_thrown(&s);
    assert_eq!(sum.addends[0].cause, "observed");
    assert_eq!(sum.result, seen);
    assert_eq!(s.slot(), Slot::Fairway);
}

#[test]
fn prop_a_sheet_tells_of_one_disc() {
    let d = disc(1, worn(spec(9.0, 5.0, -1.0, 2.0), Grade::BrokenIn));
    let memo = Memo::default();
    let found = sheet(&me(), &Conditions::default(), None, &d, &[], &lines(), &memo).unwrap();
    let distances: Vec<f64> = found.flights.iter().map(|f| f.distance_m).collect();
    assert_eq!(distances.len(), 3);
    assert!(distances.windows(2).all(|w| w[0] > w[1]), "full, three-quarter, soft: {distances:?}");
    assert!(found.good_lines.len() <= 6 && !found.good_lines.is_empty());
    assert!(found.good_lines.windows(2).all(|w| w[0].chance >= w[1].chance));
    assert!(found.flights.iter().all(|f| f.path.last().unwrap().z_m == 0.0));
}

/// A chance opened shows the very throws it counts, each with the one of its likely aims that it was flown with.
#[test]
fn prop_a_chance_is_the_share_of_the_dots() {
    let (d, memo) = (disc(1, spec(7.0, 5.0, 0.0, 2.0)), Memo::default());
    let line = lines().into_iter().find(|l| l.key == "fairway-lean").unwrap();
    let found = chance_sheet(&me(), &Conditions::default(), &d, &line, &memo).unwrap();
    let made = found.cloud.iter().filter(|c| c.made).count() as f64 / found.cloud.len() as f64;
    assert!((made - found.chance.chance).abs() < 0.04, "{made} {}", found.chance.chance);
    assert!(found.words.starts_with("Of 100 throws with your scatter"));
    let chosen = found.chance.chosen.unwrap();
    let t = thrown(&d).unwrap();
    let stands = behind(&arm(&me()), t, &line.spec, &chosen);
    assert_eq!(stands.cloud.len(), 256);
    // Without any error left every throw is the centre throw.
    let all = chance_with(&arm(&me()), t, &line.spec, &chosen, &[0, 1, 2, 3, 4], 0.0);
    assert!(all == 0.0 || all == 1.0, "{all}");
    let dearest = found.costs.first().unwrap();
    assert!(found.costs.len() == 5 && found.costs.iter().all(|c| c.gain <= dearest.gain), "no gusts today");
    assert!((dearest.chance_without - found.chance.chance - dearest.gain).abs() < 1e-12);
    assert!(dearest.gain > 0.0, "some error costs something: {:?}", found.costs);
    let mut far = line;
    far.spec.distance_m = 190.0;
    far.spec.gates.clear();
    let short = chance_sheet(&me(), &Conditions::default(), &d, &far, &memo).unwrap();
    assert!(short.words.contains("short of the target") && short.cloud.is_empty(), "{}", short.words);
}

#[test]
fn prop_a_memo_changes_no_answer_and_knows_its_question() {
    let t = thrown(&disc(1, spec(7.0, 5.0, -1.0, 1.0))).unwrap();
    let memo = Memo::default();
    for line in lines().iter().take(6) {
        let first = chance(&arm(&me()), t, &line.spec, &memo);
        assert_eq!(first, chance(&arm(&me()), t, &line.spec, &memo));
        assert_eq!(first, chance(&arm(&me()), t, &line.spec, &Memo::default()));
        let narrower = LineSpec { zone_width_m: 3.0, ..line.spec.clone() };
        assert!(chance(&arm(&me()), t, &narrower, &memo).chance <= first.chance);
    }
    let key = |x: f64, y: Option<f64>| Fingerprint::default().number(x).option(y).key();
    assert_eq!(key(0.0, None), key(-0.0, None));
    assert_ne!(key(1.0, None), key(1.0, Some(0.0)));
}

#[rstest]
#[case("capacity", BagSpec { name: "x".into(), capacity: 0, event_cap_g: None })]
#[case("capacity", BagSpec { name: "x".into(), capacity: LARGEST_BAG + 1, event_cap_g: None })]
#[case("event_cap_g", BagSpec { name: "x".into(), capacity: 9, event_cap_g: Some(20.0) })]
#[case("name", BagSpec { name: "".into(), capacity: 9, event_cap_g: None })]
fn prop_a_bad_bag_is_named(#[case] field: &str, #[case] bag: BagSpec) {
    assert_eq!(bag.validate().unwrap_err().field(), field);
}

/// With three pegs the extremes fall in with their neighbours.
#[test]
fn trade_three_pegs_fold_the_extremes_in() {
    assert_eq!(Peg::wanted(Slot::MidRange, School::Five).len(), 5);
    assert_eq!(Peg::wanted(Slot::MidRange, School::Three), Peg::of_school(School::Three));
    assert!(Peg::wanted(Slot::Utility, School::Five).is_empty());
    assert_eq!(Peg::wanted(Slot::Distance, School::Five), [Peg::Lean, Peg::Rail, Peg::Drift]);
}
