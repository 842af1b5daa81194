//! What stands and lies about a line: wood, trees, mandatories, water, out of bounds, and ground that rises and falls.

use crate::scene::{WORKED_OUT, arm, disc, lines_of, player, spec, thrown_disc};
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_bag::chance::answer::Chance;
use zinc_kite_bag::chance::search::{behind, chance};
use zinc_kite_bag::disc::keeping::{Status, Tie};
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::need::area::Spot;
use zinc_kite_bag::need::limits::{Limits, Miss};
use zinc_kite_bag::need::line::{Gate, Landing, Line, LineSpec};
use zinc_kite_bag::need::thing::{Peril, Rise, Side, Thing};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::risk::{OpenedLine, opened_line};
use zinc_kite_bag::verdict::standing::Question;

const FAIRWAY: (f64, f64, f64, f64) = (7.0, 5.0, -1.0, 2.0);
const NUMBERS: [(f64, f64, f64, f64); 4] =
    [(3.0, 3.0, 0.0, 1.0), (5.0, 4.0, -1.0, 1.0), FAIRWAY, (9.0, 5.0, -1.0, 2.0)];

fn me() -> Player {
    player(100.0, Skill::Advanced)
}

fn open(distance_m: f64) -> LineSpec {
    LineSpec {
        name: "test".into(),
        distance_m,
        zone_length_m: 0.25 * distance_m,
        zone_width_m: 0.2 * distance_m,
        ..LineSpec::usual(Style::Backhand)
    }
}

/// A piece of ground from the nearest right to the farthest left corner.
fn block(from: f64, to: f64, right: f64, left: f64) -> Vec<Spot> {
    [(from, right), (to, right), (to, left), (from, left)]
        .map(|(at_m, left_m)| Spot { at_m, left_m })
        .to_vec()
}

fn hazard(peril: Peril, area: Vec<Spot>) -> Thing {
    Thing::Hazard { peril, area, strokes: None, lost: None }
}

fn with(line: &LineSpec, things: Vec<Thing>) -> LineSpec {
    let line = LineSpec { things, ..line.clone() };
    line.validate().unwrap();
    line
}

fn on(line: &LineSpec, numbers: (f64, f64, f64, f64)) -> Chance {
    chance(&arm(&me()), thrown_disc(numbers), line, &WORKED_OUT)
}

fn worth(line: &LineSpec) -> f64 {
    on(line, FAIRWAY).worth
}

/// What a throw found for one line costs on another that is like it, strokes.
fn costs_there(found: &Chance, there: &LineSpec, numbers: (f64, f64, f64, f64)) -> f64 {
    let (limits, throws) =
        (Limits::of(there), behind(&arm(&me()), thrown_disc(numbers), there, &found.chosen.unwrap()));
    let each = |o| {
        let judged = limits.judge(o);
        let dearer = judged.danger.map_or(0.0, |(thing, _)| there.things[thing].price().0);
        dearer + if judged.miss.is_some() { there.strokes_of_a_miss() } else { 0.0 }
    };
    throws.cloud.iter().map(each).sum::<f64>() / throws.cloud.len() as f64
}

/// What lies out of every throw's way changes nothing, to the last digit.
#[test]
fn prop_what_is_far_off_changes_nothing() {
    for distance_m in [50.0, 75.0] {
        let plain = open(distance_m);
        let far = with(
            &plain,
            vec![
                Thing::Wood { area: block(5.0, 90.0, 60.0, 90.0), top_m: 15.0 },
                hazard(Peril::OutOfBounds, block(0.0, 150.0, -120.0, -60.0)),
                Thing::Tree { at_m: 40.0, left_m: -50.0, crown_m: 4.0, foot_m: 2.0, top_m: 12.0 },
                Thing::Roof { from_m: 20.0, to_m: 50.0, under_m: 55.0 },
            ],
        );
        for numbers in NUMBERS {
            let (a, b) = (on(&plain, numbers), on(&far, numbers));
            assert_eq!((a.chance, a.chosen, a.misses), (b.chance, b.chosen, b.misses), "{numbers:?}");
            assert_eq!((b.worth, b.lost), (b.chance, 0.0));
        }
    }
}

/// What a throw costs is its misses and what ground costs beyond them; its worth says the same in misses.
#[test]
fn prop_costs_and_worth_are_one_account() {
    let line = with(
        &LineSpec { miss_strokes: Some(0.5), ..open(70.0) },
        vec![
            hazard(Peril::Water, block(40.0, 110.0, -60.0, -8.0)),
            Thing::Hazard {
                peril: Peril::OutOfBounds,
                area: block(79.0, 120.0, -8.0, 60.0),
                strokes: Some(0.7),
                lost: Some(0.1),
            },
        ],
    );
    for numbers in NUMBERS {
        let found = on(&line, numbers);
        let share = |peril| found.perils.iter().filter(|p| p.peril == peril).map(|p| p.share).sum::<f64>();
        let (water, out) = (share(Peril::Water), share(Peril::OutOfBounds));
        assert!((found.costs_strokes - 0.5 * (1.0 - found.chance) - water - 0.7 * out).abs() < 1e-9);
        assert!((found.lost - 0.3 * water - 0.1 * out).abs() < 1e-9);
        assert!((found.worth - (1.0 - found.costs_strokes / 0.5).max(0.0)).abs() < 1e-9);
        let missed: f64 = found.misses.iter().map(|m| m.share).sum();
        assert!((missed + found.chance - 1.0).abs() < 1e-9 && water + out <= missed + 1e-9);
        assert!((costs_there(&found, &line, numbers) - found.costs_strokes).abs() < 1e-9);
    }
}

/// Grounds that overlap are ended in once; what ends there is no more than what is missed, and what throws counted there come to.
#[test]
fn prop_grounds_that_overlap_count_once() {
    let plain = open(70.0);
    let out = |areas: Vec<Vec<Spot>>| {
        with(&plain, areas.into_iter().map(|a| hazard(Peril::OutOfBounds, a)).collect())
    };
    let share = |c: &Chance| c.perils.iter().map(|p| p.share).sum::<f64>();
    for edge_m in [2.0, 5.0, 9.0] {
        let once = out(vec![block(20.0, 140.0, edge_m, 80.0)]);
        let twice = out(vec![block(20.0, 140.0, edge_m, 80.0), block(20.0, 140.0, edge_m, 80.0)]);
        let parted = out(vec![block(20.0, 140.0, edge_m + 1.0, 80.0), block(20.0, 140.0, edge_m, 40.0)]);
        for numbers in NUMBERS {
            let found = on(&once, numbers);
            assert_eq!(found.costs_strokes, on(&twice, numbers).costs_strokes, "{numbers:?} {edge_m}");
            let in_parts = on(&parted, numbers);
            for c in [&found, &in_parts] {
                assert!(share(c) <= 1.0 - c.chance + 1e-6, "{numbers:?} {edge_m}: {c:?}");
            }
            for (c, line) in [(&found, &once), (&in_parts, &parted)] {
                let off = costs_there(c, line, numbers) - c.costs_strokes;
                assert!(off.abs() < 0.06, "{numbers:?} {edge_m}: {off:.3} strokes");
            }
        }
    }
}

/// The search looks for the fewest strokes: what it finds beside water costs less there than what it finds where there is none,
/// over discs and shores, and it rests farther from the shore.
#[test]
fn trade_players_aim_away_from_water() {
    let plain = open(72.0);
    let (mut spared, mut moved, mut n) = (0.0, 0.0, 0.0);
    for shore in [6.0, 8.0, 10.0] {
        for side in [-1.0, 1.0] {
            let (right, left) = if side < 0.0 { (-70.0, -shore) } else { (shore, 70.0) };
            let wet = with(&plain, vec![hazard(Peril::Water, block(30.0, 140.0, right, left))]);
            for numbers in NUMBERS {
                let (bold, wary) = (on(&plain, numbers), on(&wet, numbers));
                let (there, here) = (costs_there(&bold, &wet, numbers), wary.costs_strokes);
                assert!(here <= there + 0.03, "{shore} {side} {numbers:?}: {here:.3} {there:.3}");
                let rest = |c: &Chance| {
                    let cloud = behind(&arm(&me()), thrown_disc(numbers), &plain, &c.chosen.unwrap()).cloud;
                    cloud.iter().map(|o| o.y_m).sum::<f64>() / cloud.len() as f64
                };
                spared += there - here;
                moved += side * (rest(&bold) - rest(&wary));
                n += 1.0;
            }
        }
    }
    let (spared, moved) = (spared / n, moved / n);
    assert!(spared > 0.05 && moved > 0.8, "{spared:.3} strokes, {moved:.2} m");
}

/// Nearer out of bounds, dearer ground and wider water never make a line worth more, within the grain of a chance.
#[test]
fn prop_nearer_and_dearer_is_no_better() {
    let near = |edge: f64, strokes: f64| {
        let area = block(20.0, 140.0, -90.0, -edge);
        let thing = Thing::Hazard { peril: Peril::OutOfBounds, area, strokes: Some(strokes), lost: None };
        worth(&with(&open(70.0), vec![thing]))
    };
    for (a, b) in [
        ((12.0, 1.0), (8.0, 1.0)),
        ((8.0, 1.0), (5.0, 1.0)),
        ((6.0, 0.5), (6.0, 1.0)),
        ((6.0, 1.0), (6.0, 2.0)),
    ] {
        let (far, close) = (near(a.0, a.1), near(b.0, b.1));
        assert!(close <= far + 0.02, "{a:?} {far:.3}, {b:?} {close:.3}");
    }
    assert!(near(4.0, 2.0) < near(12.0, 1.0) - 0.05);
}

/// In the mirror, thrown with the other hand, everything is the same to the last digit but for left and right.
#[test]
fn prop_a_left_handers_land_is_the_mirror_image() {
    let flip = |area: &[Spot]| area.iter().map(|s| Spot { left_m: -s.left_m, ..*s }).collect::<Vec<_>>();
    let wood = block(25.0, 50.0, 4.0, 14.0);
    let water = block(50.0, 120.0, -40.0, -9.0);
    let things = |mirror: bool| {
        let area = |a: &[Spot]| if mirror { flip(a) } else { a.to_vec() };
        let (sign, pass) = if mirror { (-1.0, Side::Left) } else { (1.0, Side::Right) };
        vec![
            Thing::Wood { area: area(&wood), top_m: 12.0 },
            hazard(Peril::Water, area(&water)),
            Thing::Mandatory { at_m: 35.0, left_m: sign * 3.0, pass },
            Thing::Tree { at_m: 60.0, left_m: -sign * 6.0, crown_m: 2.0, foot_m: 1.0, top_m: 9.0 },
        ]
    };
    let rises = vec![Rise { at_m: 40.0, height_m: 2.0 }, Rise { at_m: 75.0, height_m: -4.0 }];
    let line = LineSpec { rises, ..open(72.0) };
    let left = Player { hand: Hand::Left, ..me() };
    for numbers in NUMBERS {
        let a = on(&with(&line, things(false)), numbers);
        let b = chance(&arm(&left), thrown_disc(numbers), &with(&line, things(true)), &WORKED_OUT);
        assert_eq!((a.chance, a.worth, a.lost), (b.chance, b.worth, b.lost), "{numbers:?}");
    }
}

/// Two blocks of wood with a gap between them are a gate; branches over the whole way are a roof.
#[test]
fn prop_wood_and_roofs_are_what_gates_are() {
    let plain = open(70.0);
    let gate = Gate { at_m: 40.0, right_edge_m: -3.0, left_edge_m: 3.0, ceiling_m: None, floor_m: None };
    let gated = LineSpec { gates: vec![gate], ..plain.clone() };
    let wood = |right, left| Thing::Wood { area: block(39.9, 40.2, right, left), top_m: 60.0 };
    let walled = with(&plain, vec![wood(-80.0, -3.0), wood(3.0, 80.0)]);
    let (a, b) = (worth(&gated), worth(&walled));
    // What is solid is judged by room, an opening by how far a throw may turn: near one another, not the same.
    assert!((a - b).abs() < 0.035 && a < worth(&plain) - 0.02, "{a:.3} {b:.3} {:.3}", worth(&plain));
    let roofed = LineSpec { ceiling_m: Some(4.0), ..plain.clone() };
    let branches = with(&plain, vec![Thing::Roof { from_m: 0.5, to_m: 100.0, under_m: 4.0 }]);
    let (a, b) = (worth(&roofed), worth(&branches));
    assert!((a - b).abs() < 0.03 && a < worth(&plain) - 0.02, "{a:.3} {b:.3}");
}

/// A tree in the way costs throws, a bigger one more; under its branches there is room, and behind the target it is in nobody's
/// way.
#[test]
fn prop_a_tree_is_in_the_way() {
    let plain = LineSpec { hyzer_min_deg: -4.0, hyzer_max_deg: 4.0, ..open(60.0) };
    let tree = |at_m, crown_m, foot_m| {
        with(&plain, vec![Thing::Tree { at_m, left_m: 0.0, crown_m, foot_m, top_m: 25.0 }])
    };
    let (none, slim, wide, high) = (
        worth(&plain),
        worth(&tree(30.0, 1.5, 0.0)),
        worth(&tree(30.0, 9.0, 0.0)),
        worth(&tree(30.0, 9.0, 9.0)),
    );
    assert!(
        slim < none + 0.02 && wide < slim - 0.05 && high > wide + 0.1,
        "{none:.3} {slim:.3} {wide:.3} {high:.3}"
    );
    assert_eq!(worth(&tree(110.0, 5.0, 0.0)), none);
    let hit = on(&tree(30.0, 9.0, 0.0), FAIRWAY);
    assert!(hit.misses.iter().any(|m| m.miss == Miss::Tree), "{:?}", hit.misses);
}

/// A right-hander's disc that comes in from the right passes right of a mandatory more easily than left of it.
#[test]
fn prop_a_mandatory_is_passed_on_its_side() {
    let plain = open(70.0);
    let post = |left_m, pass| with(&plain, vec![Thing::Mandatory { at_m: 50.0, left_m, pass }]);
    let right = worth(&post(4.0, Side::Right));
    let left = worth(&post(4.0, Side::Left));
    assert!(right > left + 0.1, "{right:.3} {left:.3}");
    assert_eq!(worth(&post(-80.0, Side::Left)), worth(&plain));
    // Behind the target nobody has to have passed it.
    let behind = Thing::Mandatory { at_m: 120.0, left_m: 0.0, pass: Side::Left };
    assert_eq!(worth(&with(&plain, vec![behind])), worth(&plain));
    let found = on(&post(6.0, Side::Left), FAIRWAY);
    assert!(found.misses.iter().any(|m| m.miss == Miss::Mandatory), "{:?}", found.misses);
}

/// A disc that falls into water stays there, one that would have run through it on land comes out behind.
#[test]
fn prop_water_keeps_what_falls_in() {
    let stream = |peril| with(&open(70.0), vec![hazard(peril, block(61.0, 64.0, -60.0, 60.0))]);
    let (wet, dry) = (on(&stream(Peril::Water), FAIRWAY), on(&stream(Peril::OutOfBounds), FAIRWAY));
    let share = |c: &Chance| c.perils.iter().map(|p| p.share).sum::<f64>();
    let (wet_line, dry_line) = (stream(Peril::Water), stream(Peril::OutOfBounds));
    let ends = |line: &LineSpec| {
        let throws = behind(&arm(&me()), thrown_disc(FAIRWAY), line, &dry.chosen.unwrap());
        throws.cloud.iter().filter(|o| (61.0..64.0).contains(&o.x_m)).count()
    };
    assert!(ends(&wet_line) > ends(&dry_line), "{} {}", ends(&wet_line), ends(&dry_line));
    assert!(wet.lost > 0.0 || share(&wet) == 0.0);
}

/// Out of the arm's reach on the level, within it from a hill; and no longer from a hollow.
#[test]
fn trade_downhill_is_shorter_uphill_longer() {
    let far = open(96.0);
    let at = |height_m: f64| {
        let line = LineSpec { rises: vec![Rise { at_m: 96.0, height_m }], ..far.clone() };
        line.validate().unwrap();
        let best = |found: f64, n| f64::max(found, on(&line, n).worth);
        NUMBERS.into_iter().fold(0.0, best)
    };
    let worths = [10.0, 5.0, 0.0, -5.0].map(at);
    assert!(worths.windows(2).all(|w| w[0] <= w[1] + 0.02), "{worths:?}");
    assert!(worths[0] < worths[3] - 0.2, "{worths:?}");
}

/// A putt up or down a slope is a putt: its basket stands on the ground there.
#[test]
fn prop_a_basket_stands_on_its_ground() {
    let lines = lines_of(&me());
    let putt = &lines.iter().find(|l| l.spec.landing == Landing::Basket).unwrap().spec;
    let at = |height_m: f64| {
        let rises = vec![Rise { at_m: putt.distance_m, height_m }];
        on(&LineSpec { rises, ..putt.clone() }, (2.0, 3.0, 0.0, 1.0)).worth
    };
    let (level, up, down) = (at(0.0), at(1.0), at(-1.0));
    assert!((level - up).abs() < 0.25 && (level - down).abs() < 0.25, "{up:.3} {level:.3} {down:.3}");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, failure_persistence: None, ..ProptestConfig::default() })]

    /// Whatever stands about a line that was let in: shares add up, and nothing is worth more than its chance.
    #[test]
    fn prop_any_land_is_judged(
        corners in prop::collection::vec((-50.0..300.0f64, -150.0..150.0f64), 3..9),
        at in 1.0..100.0f64, across in -20.0..20.0f64, size in 0.3..20.0f64, height in -25.0..25.0f64, left in any::<bool>(),
    ) {
        let area: Vec<Spot> = corners.iter().map(|&(at_m, left_m)| Spot { at_m, left_m }).collect();
        let pass = if left { Side::Left } else { Side::Right };
        let things = vec![
            hazard(if left { Peril::Water } else { Peril::OutOfBounds }, area.clone()),
            Thing::Wood { area: area.iter().map(|s| Spot { left_m: 0.5 * s.left_m + 40.0, ..*s }).collect(), top_m: size + 0.5 },
            Thing::Tree { at_m: at, left_m: across, crown_m: size, foot_m: 0.5 * size, top_m: 2.0 * size },
            Thing::Mandatory { at_m: at, left_m: -across, pass },
            Thing::Roof { from_m: at, to_m: at + size + 0.5, under_m: 4.0 },
        ];
        let rises = vec![Rise { at_m: 60.0, height_m: height }];
        let line = LineSpec { rises, ..with(&open(60.0), things) };
        let found = on(&line, FAIRWAY);
        let missed: f64 = found.misses.iter().map(|m| m.share).sum();
        prop_assert!(found.chosen.is_none() || (missed + found.chance - 1.0).abs() < 1e-9, "{found:?}");
        prop_assert!(found.worth <= found.chance + 1e-9 && (0.0..=1.0).contains(&found.worth), "{found:?}");
        prop_assert!((0.0..=1.0).contains(&found.lost) && found.costs_strokes >= -1e-9, "{found:?}");
    }
}

#[rstest]
#[case(vec![Thing::Roof { from_m: 50.0, to_m: 40.0, under_m: 3.0 }], "roof to_m")]
#[case(vec![hazard(Peril::Water, block(1.0, 2.0, 3.0, 4.0)[..2].to_vec())], "hazard corners")]
#[case(vec![Thing::Tree { at_m: 20.0, left_m: 0.0, crown_m: 2.0, foot_m: 9.0, top_m: 5.0 }], "tree foot_m")]
#[case(vec![Thing::Wood { area: block(1.0, 2.0, 3.0, f64::NAN), top_m: 5.0 }], "corner left_m")]
#[case(vec![Thing::Mandatory { at_m: 20.0, left_m: 400.0, pass: Side::Left }], "mandatory left_m")]
#[case(vec![Thing::Wood { area: block(1.0, 2.0, 3.0, 4.0), top_m: 5.0 }; 8], "things")]
#[case(vec![Thing::Mandatory { at_m: 20.0, left_m: 0.0, pass: Side::Left }; 13], "things")]
fn prop_impossible_land_is_refused(#[case] things: Vec<Thing>, #[case] field: &str) {
    let line = LineSpec { things, ..open(60.0) };
    assert_eq!(line.validate().unwrap_err().field(), field);
}

#[test]
fn prop_impossible_slopes_are_refused() {
    let steep = LineSpec { rises: vec![Rise { at_m: 5.0, height_m: 30.0 }], ..open(60.0) };
    assert!(steep.validate().unwrap_err().to_string().contains("slope"));
}

fn asked(discs: &[Disc], carried: &[i64], spec: LineSpec) -> OpenedLine {
    let (player, bag) = (me(), BagSpec::of_everything());
    let carried: Vec<Carried> =
        carried.iter().map(|id| Carried { disc_id: DiscId(*id), spare: false }).collect();
    let line = Line { key: "own-1".into(), generated: false, enabled: true, spared: false, spec };
    let question = Question {
        player: &player,
        conditions: Conditions::default(),
        shelf: discs,
        bag: &bag,
        carried: &carried,
        lines: &[],
        today: None,
    };
    opened_line(&question, None, &line, &WORKED_OUT).unwrap()
}

/// Discs with ties stay out of lines where they may be lost, unless the player allows it; one that may be lost is proposed.
#[test]
fn trade_dear_discs_stay_out_of_water() {
    let tied = |id, tie: Tie, status| {
        let mut d = disc(id, spec(7.0, 5.0, -1.0, 2.0));
        (d.spec.keeping.ties, d.spec.keeping.status) = (vec![tie], status);
        d
    };
    let discs = vec![
        tied(1, Tie::Sentimental, Status::Ready),
        disc(2, spec(3.0, 3.0, 0.0, 3.0)),
        tied(3, Tie::WaterDisc, Status::Ready),
    ];
    let wet = with(&open(80.0), vec![hazard(Peril::Water, block(20.0, 110.0, -60.0, -8.0))]);
    let found = asked(&discs, &[1, 2], wet.clone());
    assert!(found.sheet.discs.iter().all(|d| d.disc_id != DiscId(1)), "it stays out");
    let risk = found.risk.unwrap();
    assert_eq!((risk.kept_out, risk.instead), (vec![DiscId(1)], Some(DiscId(3))), "{}", risk.words);
    assert!(risk.words.contains("from the shelf") && risk.words.contains("stays out"), "{}", risk.words);
    let allowed = asked(&discs, &[1, 2], LineSpec { risk_tied: true, ..wet.clone() });
    assert_eq!(allowed.sheet.discs[0].disc_id, DiscId(1));
    assert!(allowed.risk.unwrap().kept_out.is_empty());
    let dry = with(&open(80.0), vec![hazard(Peril::OutOfBounds, block(20.0, 110.0, -60.0, -8.0))]);
    let out = asked(&discs, &[1, 2], dry);
    assert!(
        out.risk.is_none() && out.sheet.discs[0].disc_id == DiscId(1),
        "what is out of bounds is got back"
    );
}
