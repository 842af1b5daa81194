//! The lines made for a player: laws over arms, hands, skills and schools.

use crate::scene::{arm, lines_of, player};
use rayon::prelude::*;
use rstest::rstest;
use zinc_kite_bag::catalogue::lines::{PEGGED, peg_line_key, unwanted};
use zinc_kite_bag::catalogue::reach::{asked, reach};
use zinc_kite_bag::catalogue::reference::{Family, wanted};
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::chance::search::chance;
use zinc_kite_bag::disc::thrown::Thrown;
use zinc_kite_bag::need::line::{Line, LineSpec};
use zinc_kite_bag::need::peg::Peg;
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, School, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_flight::numbers::FlightNumbers;

const FIVE: [Peg; 5] = [Peg::Hook, Peg::Lean, Peg::Rail, Peg::Drift, Peg::Slide];

fn ordinary(numbers: FlightNumbers) -> Thrown {
    Thrown::ordinary(numbers.disc(0.175).unwrap(), numbers.speed)
}

fn line<'a>(lines: &'a [Line], key: &str) -> Option<&'a LineSpec> {
    lines.iter().find(|l| l.key == key).map(|l| &l.spec)
}

/// The reference disc makes its peg's line three times in four, whoever throws.
#[rstest]
fn prop_the_reference_makes_its_line_three_times_in_four(
    #[values((45.0, Skill::Beginner), (60.0, Skill::Club), (85.0, Skill::Club), (104.0, Skill::Advanced), (135.0, Skill::Top))]
    who: (f64, Skill),
    #[values(School::Three, School::Five)] school: School,
) {
    let p = Player { school, ..player(who.0, who.1) };
    let (arm, lines, memo) = (arm(&p), lines_of(&p), Memo::default());
    let (mut n, mut off) = (0, Vec::new());
    for slot in PEGGED {
        let family = Family::of(&arm, p.strong_style, slot);
        for peg in wanted(&family, school).0 {
            let key = peg_line_key(slot, peg);
            let Some(spec) = line(&lines, &key) else { continue };
            let made = chance(&arm, ordinary(family.reference(peg).unwrap()), spec, &memo).chance;
            n += 1;
            if !(0.70..=0.80).contains(&made) {
                off.push(format!("{key}: {made:.2}"));
            }
        }
    }
    assert!(n >= 3 && off.len() <= 1.max(n / 10), "{} of {n}: {off:?}", off.len());
}

/// Within a slot's own family, the disc on the named peg or its neighbour is the best or nearly so; what turns is never won by
/// what hooks, nor the other way round.
#[rstest]
#[case(60.0, Skill::Club)]
#[case(85.0, Skill::Club)]
#[case(104.0, Skill::Advanced)]
#[case(130.0, Skill::Top)]
fn prop_a_peg_line_is_won_from_its_peg(#[case] metres: f64, #[case] skill: Skill) {
    let p = player(metres, skill);
    let (arm, lines, memo) = (arm(&p), lines_of(&p), Memo::default());
    let (mut n, mut off) = (0, Vec::new());
    for slot in PEGGED {
        let family = Family::of(&arm, p.strong_style, slot);
        for (k, peg) in FIVE.into_iter().enumerate() {
            let Some(spec) = line(&lines, &peg_line_key(slot, peg)) else { continue };
            let chances: Vec<f64> = FIVE
                .par_iter()
                .map(|other| chance(&arm, ordinary(family.nearest(*other)), spec, &memo).chance)
                .collect();
            let best = chances.iter().copied().fold(0.0, f64::max);
            let near = (k.saturating_sub(1)..=(k + 1).min(4)).map(|i| chances[i]).fold(0.0, f64::max);
            n += 1;
            // As they are told, in whole points.
            let points = |chance: f64| (100.0 * chance).round();
            if points(near) < points(best) - 3.0 {
                off.push(format!("{slot:?} {peg:?}: {chances:.2?}"));
            }
            match peg {
                Peg::Slide => assert!(
                    chances[0] < chances[4] && chances[1] < chances[4] + 0.03,
                    "{slot:?} {chances:.2?}"
                ),
                Peg::Hook => assert!(
                    chances[4] < chances[0] && chances[3] < chances[0] + 0.03,
                    "{slot:?} {chances:.2?}"
                ),
                _ => {}
            }
        }
    }
    assert!(n >= 8 && off.len() * 10 <= n, "{} of {n}: {off:#?}", off.len());
}

#[rstest]
#[case(85.0)]
#[case(104.0)]
#[case(135.0)]
fn trade_distance_lines_are_longer_than_fairway_lines(#[case] metres: f64) {
    let p = player(metres, Skill::Advanced);
    let lines = lines_of(&p);
    for peg in [Peg::Lean, Peg::Rail] {
        let of = |slot| line(&lines, &peg_line_key(slot, peg)).unwrap().distance_m;
        assert!(of(Slot::Distance) > 1.05 * of(Slot::Fairway), "{peg:?}");
        assert!(of(Slot::Fairway) > of(Slot::MidRange) && of(Slot::MidRange) > of(Slot::Putter), "{peg:?}");
    }
}

/// A slow arm turns nothing fast over, and is told so.
#[test]
fn trade_a_slow_arm_wants_no_turning_drivers() {
    let p = player(60.0, Skill::Club);
    let (lines, not) = (lines_of(&p), unwanted(&p, &arm(&p)));
    for key in ["fairway-drift", "fairway-slide", "distance-drift"] {
        assert!(line(&lines, key).is_none(), "{key}");
    }
    let reason = &not.iter().find(|u| u.slot == Slot::Fairway && u.peg == Peg::Slide).unwrap().reason;
    assert!(reason.starts_with("no fairway disc turns over enough at"), "{reason}");
    assert!(unwanted(&player(104.0, Skill::Club), &arm(&player(104.0, Skill::Club))).len() <= 2);
}

#[rstest]
#[case(Skill::Beginner)]
#[case(Skill::Club)]
#[case(Skill::Advanced)]
#[case(Skill::Top)]
fn prop_every_made_line_is_a_line_with_its_meaning(#[case] skill: Skill) {
    let p = Player { overhand_m: Some(60.0), ..player(95.0, skill) };
    let lines = lines_of(&p);
    let mut keys: Vec<&str> = lines.iter().map(|l| l.key.as_str()).collect();
    for key in [
        "reach",
        "hyzer",
        "spike-hyzer",
        "flex",
        "turnover",
        "land-and-sit",
        "corner",
        "headwind-drive",
        "headwind-mid",
        "standstill",
        "forehand-drive",
        "over-the-top",
        "circle-putt",
        "long-putt",
    ] {
        assert!(keys.contains(&key), "{key} in {keys:?}");
    }
    keys.sort_unstable();
    keys.dedup();
    assert_eq!(keys.len(), lines.len(), "keys are unique");
    for l in &lines {
        l.spec.validate().unwrap();
        assert!(l.generated && l.enabled && l.spec.meaning.ends_with('.'), "{}", l.key);
        assert!(l.spec.miss_strokes.is_some() || l.spec.style == Style::Putt);
    }
    let throws: f64 = lines.iter().map(|l| l.spec.weight).sum();
    assert!((30.0..60.0).contains(&throws), "{throws:.0} throws a round");
}

/// Mirrored hand, mirrored lines.
#[test]
fn prop_a_left_hander_gets_the_mirror_image() {
    let right = player(100.0, Skill::Club);
    let left = Player { hand: Hand::Left, ..right.clone() };
    let (r, l) = (lines_of(&right), lines_of(&left));
    assert_eq!(r.len(), l.len());
    for (r, l) in r.iter().zip(&l) {
        assert!((r.spec.distance_m - l.spec.distance_m).abs() < 1e-9, "{}", r.key);
        for (a, b) in r.spec.gates.iter().zip(&l.spec.gates) {
            assert!((a.left_edge_m + b.right_edge_m).abs() < 0.11, "{}: {a:?} {b:?}", r.key);
        }
    }
}

/// The wind moves what "as far as I can" means; a player's own line stands as it is.
#[test]
fn prop_the_reach_follows_the_weather_and_own_lines_do_not() {
    let p = player(104.0, Skill::Advanced);
    let lines = lines_of(&p);
    let reach_line = lines.iter().find(|l| l.key == "reach").unwrap();
    let day = |from_deg| Conditions { wind_m_s: 6.0, wind_from_deg: from_deg, ..Conditions::default() };
    let at = |c: &Conditions, l: &Line| asked(l, &Arm::of(&p, c).unwrap()).distance_m;
    let [into, calm, with] = [day(0.0), Conditions::default(), day(180.0)].map(|c| at(&c, reach_line));
    assert!(into < calm && calm < with, "{into:.0} {calm:.0} {with:.0}");
    let own = Line { generated: false, ..reach_line.clone() };
    assert_eq!(at(&day(0.0), &own), own.spec.distance_m);
    let there = reach(&arm(&p), Style::Backhand).unwrap();
    assert!(there.distance_m > 95.0 && there.faster_adds_m >= 0.0);
}
