//! Laws that hold for any player, disc and bag.

use crate::scene::{arm, disc, lines_of, player, spec, worn};
use proptest::prelude::*;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::chance::search::chance;
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::plastic::{PLASTICS, Plastic};
use zinc_kite_bag::disc::spec::{Disc, DiscSpec, NumbersChange, Top};
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::disc::wear::{Grade, Wear};
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::analysis::{Analysis, analyse};
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::twin::{clouds, overlap};
use zinc_kite_bag::verdict::work::Work;

fn any_spec() -> impl Strategy<Value = DiscSpec> {
    (
        (1.0..14.0f64, 0.5..6.5f64, -4.0..0.5f64, 0.0..5.0f64),
        0..PLASTICS.len(),
        100.0..190.0f64,
        0..3usize,
        prop::option::of(0..20_000u32),
    )
        .prop_map(|((s, g, t, f), plastic, mass_g, top, throws)| DiscSpec {
            plastic: PLASTICS[plastic].plastic,
            mass_g,
            top: [Top::Flat, Top::Neutral, Top::Domed][top],
            wear: Wear { throws, grade: Grade::Seasoned, hard_hits: 3 },
            ..spec(s, g, t, f)
        })
}

fn shelf() -> Vec<Disc> {
    [
        spec(3.0, 3.0, 0.0, 1.0),
        spec(3.0, 3.0, 0.0, 3.0),
        spec(5.0, 4.0, -1.0, 1.0),
        spec(5.0, 4.0, 0.0, 3.0),
        spec(7.0, 5.0, 0.0, 2.0),
        worn(spec(7.0, 5.0, 0.0, 2.0), Grade::Beat),
        spec(9.0, 5.0, -1.0, 2.0),
        spec(11.0, 5.0, -1.0, 2.0),
    ]
    .into_iter()
    .enumerate()
    .map(|(k, s)| disc(k as i64 + 1, s))
    .collect()
}

fn lines(player: &Player) -> Vec<Line> {
    lines_of(player)
}

fn judged(player: &Player, shelf: &[Disc], carried: &[usize], memo: &Memo) -> Analysis {
    let bag = BagSpec { name: "test".into(), capacity: 25, event_cap_g: None };
    let carried: Vec<Carried> =
        carried.iter().map(|k| Carried { disc_id: shelf[*k].id, spare: false }).collect();
    let lines = lines(player);
    let question = Question {
        player,
        conditions: Conditions::default(),
        shelf,
        bag: &bag,
        carried: &carried,
        lines: &lines,
        today: None,
    };
    analyse(&question, memo, &Work::default()).unwrap()
}

proptest! {
    /// The lines of the sum add up to the result, whatever the disc.
    #[test]
    fn prop_the_as_thrown_sum_adds_up(spec in any_spec()) {
        let sum = as_thrown(&spec);
        let total = |f: fn(&NumbersChange) -> f64| sum.addends.iter().map(|a| f(&a.change)).sum::<f64>();
        prop_assert!((total(|n| n.speed) - sum.result.speed).abs() < 1e-9);
        prop_assert!((total(|n| n.glide) - sum.result.glide).abs() < 1e-9);
        prop_assert!((total(|n| n.turn) - sum.result.turn).abs() < 1e-9);
        prop_assert!((total(|n| n.fade) - sum.result.fade).abs() < 1e-9);
        prop_assert!(sum.body(spec.mass_g).is_ok());
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, failure_persistence: None, ..ProptestConfig::default() })]

    /// A chance is a share, and repeats exactly.
    #[test]
    fn prop_a_chance_is_a_share(spec in any_spec(), pick in 0..25usize, left in prop::bool::ANY) {
        let hand = if left { Hand::Left } else { Hand::Right };
        let player = Player { hand, ..player(100.0, Skill::Club) };
        let lines = lines(&player);
        let line = &lines[pick % lines.len()].spec;
        let t = thrown(&disc(1, spec)).unwrap();
        let arm = arm(&player);
        let first = chance(&arm, t, line, &Memo::default());
        prop_assert!((0.0..=1.0).contains(&first.chance));
        let missed: f64 = first.misses.iter().map(|m| m.share).sum();
        prop_assert!(first.chosen.is_none() || (first.chance + missed - 1.0).abs() < 1e-9);
        prop_assert_eq!(first, chance(&arm, t, line, &Memo::default()));
    }
}

/// One more disc never leaves more strokes, and the bag leaves what its lines leave.
#[test]
fn prop_a_disc_more_is_never_worse() {
    let p = player(104.0, Skill::Advanced);
    let (shelf, memo) = (shelf(), Memo::default());
    let mut before = f64::INFINITY;
    for n in 1..=shelf.len() {
        let carried: Vec<usize> = (0..n).collect();
        let analysis = judged(&p, &shelf, &carried, &memo);
        assert!(
            analysis.leaves_strokes <= before + 1e-12,
            "{n} discs: {} after {before}",
            analysis.leaves_strokes
        );
        before = analysis.leaves_strokes;
        let sum: f64 = analysis.lines.iter().map(|l| l.leaves_strokes).sum();
        assert!((sum - before).abs() < 1e-9);
    }
}

#[test]
fn prop_a_disc_is_its_own_twin_and_overlap_is_mutual() {
    let arm = arm(&player(104.0, Skill::Club));
    let shelf = shelf();
    let flown: Vec<_> = shelf.iter().map(|d| clouds(&arm, thrown(d).unwrap(), Style::Backhand)).collect();
    for (i, a) in flown.iter().enumerate() {
        assert!(overlap(a, a) > 0.999);
        for b in &flown[..i] {
            let (ab, ba) = (overlap(a, b), overlap(b, a));
            assert!((ab - ba).abs() < 1e-12 && (0.0..=1.0).contains(&ab));
        }
    }
    let (straight, overstable) = (&flown[2], &flown[3]);
    assert!(overlap(straight, overstable) < 0.5, "a straight and an overstable mid are no twins");
}

/// Mirrored hand, mirrored gates: the same chances.
#[test]
fn prop_a_left_hander_has_the_same_chances() {
    let right = player(100.0, Skill::Club);
    let left = Player { hand: Hand::Left, ..right.clone() };
    let memo = Memo::default();
    for numbers in [(3.0, 3.0, 0.0, 1.0), (7.0, 5.0, 0.0, 2.0), (9.0, 5.0, -3.0, 1.0)] {
        let d = disc(1, spec(numbers.0, numbers.1, numbers.2, numbers.3));
        for (a, b) in lines(&right).iter().zip(lines(&left)) {
            let of = |p: &Player, l: &Line| chance(&arm(p), thrown(&d).unwrap(), &l.spec, &memo).chance;
            let (r, l) = (of(&right, a), of(&left, &b));
            // Gates are rounded to 10 cm alike on both sides, so that only rounding is left.
            assert!((r - l).abs() < 1e-9, "{} {numbers:?}: {r:.3} {l:.3}", a.key);
        }
    }
}

/// What is switched off counts for nothing.
#[test]
fn prop_a_line_switched_off_does_not_count() {
    let p = player(104.0, Skill::Advanced);
    let shelf = shelf();
    let bag = BagSpec { name: "test".into(), capacity: 25, event_cap_g: None };
    let carried = [Carried { disc_id: shelf[0].id, spare: false }];
    let mut lines = lines(&p);
    for line in lines.iter_mut().skip(1) {
        line.enabled = false;
    }
    let question = Question {
        player: &p,
        conditions: Conditions::default(),
        shelf: &shelf,
        bag: &bag,
        carried: &carried,
        lines: &lines,
        today: None,
    };
    let analysis = analyse(&question, &Memo::default(), &Work::default()).unwrap();
    let only = &analysis.lines[0];
    let expected =
        only.line.spec.weight * only.line.spec.strokes_of_a_miss() * (1.0 - only.best.unwrap().chance);
    assert!((analysis.leaves_strokes - expected).abs() < 1e-12);
}

#[test]
fn prop_values_out_of_range_are_refused_with_their_field() {
    let bad = |change: fn(&mut DiscSpec)| {
        let mut s = DiscSpec { plastic: Plastic::Base, ..spec(5.0, 4.0, 0.0, 1.0) };
        change(&mut s);
        s.validate().unwrap_err()
    };
    assert_eq!(bad(|s| s.mass_g = 20.0).field(), "mass_g");
    assert_eq!(bad(|s| s.printed.speed = f64::NAN).field(), "speed");
    assert_eq!(bad(|s| s.name = "  ".into()).field(), "name");
    assert_eq!(bad(|s| s.colour = "red".into()).field(), "colour");
    assert!(bad(|s| s.printed.turn = -30.0).to_string().contains("from -8 to 3, got -30"));
    assert!(Player { backhand_m: 900.0, ..Player::default() }.validate().is_err());
    assert!(Conditions { wind_m_s: 90.0, ..Conditions::default() }.validate().is_err());
}
