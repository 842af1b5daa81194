//! Trials: candidates side by side, held to throws that the simulator made of discs whose differences are known.

use std::collections::HashMap;

use rand::SeedableRng;
use rand::rngs::StdRng;
use rayon::prelude::*;
use rstest::rstest;
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::field::meant::{ends, meant};
use zinc_kite_bag::field::throw::{FieldThrow, Meant, ThrowTag, WindThen};
use zinc_kite_bag::field::trial::{Candidate, Target, Trial, TrialSet, TrialWind, way_of};
use zinc_kite_bag::field::tried::{TrialVerdict, trial_verdict};
use zinc_kite_bag::need::line::{Line, LineSpec};
use zinc_kite_bag::thrower::player::{Player, Units};
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::scene::field::{errors, purlin, session};

const SETS: [TrialSet; 4] = [
    TrialSet { style: Style::Backhand, meant: Meant::Flat, wind: TrialWind::Any },
    TrialSet { style: Style::Backhand, meant: Meant::Hyzer, wind: TrialWind::Any },
    TrialSet { style: Style::Forehand, meant: Meant::Flat, wind: TrialWind::Any },
    TrialSet { style: Style::Forehand, meant: Meant::Hyzer, wind: TrialWind::Any },
];

fn candidate(id: i64) -> Candidate {
    Candidate { disc_id: Some(DiscId(id)), disc_name: format!("no. {id}"), feel: None, note: String::new() }
}

fn trial(discs: i64, sets: &[TrialSet], each: u32) -> Trial {
    let candidates = (1..=discs).map(candidate).collect();
    Trial { candidates, sets: sets.to_vec(), each, line: None, target: None, order: 7 }
}

/// A throw of an approach disc at about 45 m by a club player.
fn approach(id: i64, set: &TrialSet, random: &mut StdRng) -> FieldThrow {
    let disc = Disc { id: DiscId(id), ..purlin([3.0, 3.0, 0.0, 2.0]) };
    let numbers = FlightNumbers::from(as_thrown(&disc.spec).result);
    let held = thrown(&disc).unwrap();
    assert!(numbers.speed > 2.0);
    let like = FieldThrow { power_pct: Some(85.0), ..FieldThrow::of(&disc, set.style, set.meant) };
    let player = Player::default();
    let meant = meant(&player, &session(), &like, &held).unwrap();
    let end = ends(&player, &session(), &meant, &held, &[errors(set.style, random)]).unwrap()[0];
    let off = end.y_m.atan2(end.x_m).to_degrees();
    FieldThrow { distance_m: Some(end.distance_m()), off_deg: Some(off), ..like }
}

/// A trial thrown to its end.
fn thrown_to_the_end(trial: &Trial, random: &mut StdRng) -> Vec<FieldThrow> {
    trial.throws().iter().map(|next| approach(next.disc_id.unwrap().0, &next.set, random)).collect()
}

fn says(trial: &Trial, throws: &[FieldThrow]) -> TrialVerdict {
    trial_verdict(Units::Metric, trial, None, throws)
}

fn calls_different(verdict: &TrialVerdict) -> bool {
    verdict.pairs.iter().any(|p| p.distance_m.is_sure || p.left_m.is_sure || p.scatter.is_sure)
}

/// Identical discs are called different in no more than one trial in twenty, be they two or three, thrown often or seldom.
#[rstest]
#[case(2, 5)]
#[case(3, 3)]
#[case(2, 2)]
fn val_identical_discs_are_seldom_called_different(#[case] discs: i64, #[case] each: u32) {
    let trial = trial(discs, &SETS, each);
    let wrong = (0..1000u64)
        .into_par_iter()
        .filter(|seed| {
            calls_different(&says(&trial, &thrown_to_the_end(&trial, &mut StdRng::seed_from_u64(*seed))))
        })
        .count();
    println!("{wrong} of 1000");
    assert!(wrong <= 50, "{wrong} of 1000 trials call the same discs different");
}

/// At a club player's scatter, 5 m between two approach discs are found with 20 throws each in four trials of five at least, and never the
/// wrong way round.
#[test]
fn val_five_metres_are_found_with_twenty_throws_each() {
    let trial = trial(2, &SETS, 5);
    let found: Vec<bool> = (0..100u64)
        .into_par_iter()
        .map(|seed| {
            let mut throws = thrown_to_the_end(&trial, &mut StdRng::seed_from_u64(1000 + seed));
            for t in throws.iter_mut().filter(|t| t.disc_id == Some(DiscId(2))) {
                let rest = t.rest().unwrap();
                t.distance_m = Some((rest.at_m + 5.0).hypot(rest.left_m));
                t.off_deg = Some(rest.left_m.atan2(rest.at_m + 5.0).to_degrees());
            }
            let pair = says(&trial, &throws).pairs.remove(0);
            assert!(!pair.distance_m.is_sure || pair.distance_m.more < 0.0);
            pair.distance_m.is_sure
        })
        .collect();
    let found = found.iter().filter(|f| **f).count();
    println!("{found} of 100");
    assert!(found >= 80, "{found} of 100");
}

/// A disc that scatters twice as wide is found to be the wilder.
#[test]
fn prop_the_steadier_disc_is_found() {
    let trial = trial(2, &SETS, 5);
    let mut throws = thrown_to_the_end(&trial, &mut StdRng::seed_from_u64(2));
    let mean = |throws: &[FieldThrow]| {
        throws.iter().map(|t| t.rest().unwrap().at_m).sum::<f64>() / throws.len() as f64
    };
    let middle = mean(&throws);
    for t in throws.iter_mut().filter(|t| t.disc_id == Some(DiscId(1))) {
        let rest = t.rest().unwrap();
        let (at, left) = (middle + 2.2 * (rest.at_m - middle), 2.2 * rest.left_m);
        t.distance_m = Some(at.hypot(left));
        t.off_deg = Some(left.atan2(at).to_degrees());
    }
    let verdict = says(&trial, &throws);
    assert!(
        verdict.pairs[0].scatter.is_sure && verdict.pairs[0].scatter.more > 0.0,
        "{:?}",
        verdict.pairs[0]
    );
    assert!(verdict.words[0].contains("no. 2 is steadier here than no. 1 (surely)"), "{:?}", verdict.words);
    assert!(verdict.left.is_empty());
}

/// Every disc is thrown in every way as often as every other at any time, to within once; with the wind and against it together.
#[rstest]
fn prop_the_order_is_fair(#[values(2, 3, 6)] discs: i64, #[values(0, 1, 99)] order: u32) {
    let mut sets = SETS.to_vec();
    sets.extend(SETS.map(|s| TrialSet { wind: TrialWind::Into, ..s }));
    let trial = Trial { order, ..trial(discs, &sets, 4) };
    let throws = trial.throws();
    assert_eq!(throws.len(), 4 * sets.len() * discs as usize);
    let mut counted: HashMap<(DiscId, TrialSet), u32> = HashMap::new();
    for (k, throw) in throws.iter().enumerate() {
        *counted.entry((throw.disc_id.unwrap(), throw.set)).or_default() += 1;
        let turn = k / (sets.len() * discs as usize);
        assert!(counted.values().all(|n| *n <= turn as u32 + 1), "one is thrown again before all are");
    }
    assert!(counted.values().all(|n| *n == 4));
    let walks = throws.windows(2).filter(|pair| pair[0].set.wind != pair[1].set.wind).count();
    assert_eq!(walks, 4, "one walks over once a turn, and throws back");
    assert_eq!(throws, trial.throws(), "the same trial has the same order");
    assert_ne!(throws, Trial { order: order + 1, ..trial }.throws());
}

/// What is left is what the protocol asks for and was not thrown; a slip is thrown again, a throw beyond it is none too few.
#[test]
fn prop_what_is_left_is_counted() {
    let trial = trial(2, &SETS[..2], 2);
    let mut throws = thrown_to_the_end(&trial, &mut StdRng::seed_from_u64(4));
    assert_eq!(says(&trial, &throws).left.len(), 0);
    throws.push(throws[0].clone());
    assert_eq!(says(&trial, &throws).left.len(), 0);
    throws.truncate(8);
    throws[3].tags = vec![ThrowTag::Slipped];
    assert_eq!(says(&trial, &throws).left.len(), 1);
    let none = says(&trial, &[]);
    assert_eq!((none.left, none.best), (trial.throws(), None));
    assert!(none.words[0].starts_with("Throw each of them"), "{:?}", none.words);
    let into = WindThen { wind_m_s: 4.0, from_deg: 20.0 };
    assert_eq!(way_of(&into), TrialWind::Into);
    assert_eq!(way_of(&WindThen { from_deg: 170.0, ..into }), TrialWind::Before);
    assert_eq!(way_of(&WindThen { from_deg: 90.0, ..into }), TrialWind::Any);
}

/// A trial into the wind and before it goes on where the wind is not told; a throw the other way stands for none.
#[test]
fn regress_a_windy_trial_goes_on_without_a_wind() {
    let sets = [TrialWind::Into, TrialWind::Before].map(|wind| TrialSet { wind, ..SETS[0] });
    let trial = trial(2, &sets, 2);
    let mut throws = thrown_to_the_end(&trial, &mut StdRng::seed_from_u64(6));
    for n in 0..=throws.len() {
        assert_eq!(says(&trial, &throws[..n]).left.len(), 8 - n, "every throw that is made is one less");
    }
    for t in &mut throws {
        t.wind = WindThen { wind_m_s: 4.0, from_deg: 0.0 };
    }
    let left = says(&trial, &throws).left;
    assert!(left.len() == 4 && left.iter().all(|t| t.set.wind == TrialWind::Before), "{left:?}");
}

/// With a line in question the disc that ends in its zone most often is the best, and what that saves is told; what hit something missed.
#[test]
fn prop_the_line_in_question_decides() {
    let spec = LineSpec { name: "approach".into(), distance_m: 45.0, ..LineSpec::usual(Style::Backhand) };
    let line = Line { key: "approach".into(), generated: false, enabled: true, spared: false, spec };
    let trial = Trial { line: Some("approach".into()), ..trial(2, &SETS[..1], 12) };
    let at = |id: i64, distance_m: f64, k: usize| FieldThrow {
        distance_m: Some(distance_m),
        off_deg: Some(0.5 * k as f64 - 3.0),
        tags: if id == 1 && k < 2 { vec![ThrowTag::Hit] } else { vec![] },
        ..FieldThrow::of(
            &Disc { id: DiscId(id), ..purlin([3.0, 3.0, 0.0, 2.0]) },
            Style::Backhand,
            Meant::Flat,
        )
    };
    let mut throws: Vec<FieldThrow> = (0..12).map(|k| at(1, 44.0, k)).collect();
    throws.extend((0..12).map(|k| at(2, if k < 9 { 70.0 } else { 46.0 }, k)));
    let verdict = trial_verdict(Units::Metric, &trial, Some(&line), &throws);
    assert_eq!((verdict.best, verdict.discs[0].made, verdict.discs[1].made), (Some(0), Some(10), Some(3)));
    assert!(
        verdict.discs[0].saves_strokes.unwrap() > 0.2
            && verdict.discs[1].saves_strokes.unwrap().abs() < 1e-12
    );
    assert!(verdict.words[0].contains("no. 1 ended there most often, 10 of 12"), "{:?}", verdict.words);
    assert!(verdict.pairs[0].made.unwrap().chance > 0.98);
    let target =
        Trial { line: None, target: Some(Target { distance_m: 45.0, within_m: 3.0 }), ..trial.clone() };
    let near = says(&target, &throws);
    assert_eq!((near.discs[0].made, near.discs[1].made), (Some(10), Some(3)));
    assert!(near.words[0].starts_with("For 45 m, within 3 m: no. 1"), "{:?}", near.words);
    let without = trial_verdict(Units::Metric, &trial, None, &throws);
    assert!(without.best.is_none() && without.pairs[0].made.is_none());
}

#[test]
fn prop_what_is_no_trial_is_refused_by_field() {
    let good = trial(2, &SETS[..1], 3);
    good.validate().unwrap();
    let alone = Trial { candidates: vec![candidate(1)], ..good.clone() };
    assert_eq!(alone.validate().unwrap_err().field(), "candidates");
    let twice = Trial { candidates: vec![candidate(1), candidate(1)], ..good.clone() };
    assert_eq!(twice.validate().unwrap_err().field(), "candidates");
    let same = Trial { sets: vec![SETS[0], SETS[0]], ..good.clone() };
    assert_eq!(same.validate().unwrap_err().field(), "sets");
    let endless = Trial { each: 500, ..good.clone() };
    assert_eq!(endless.validate().unwrap_err().field(), "each");
    let target = Some(Target { distance_m: 45.0, within_m: 0.0 });
    assert_eq!(Trial { target, ..good.clone() }.validate().unwrap_err().field(), "within_m");
    let mut felt = good;
    felt.candidates[0].feel = Some(9);
    assert_eq!(felt.validate().unwrap_err().field(), "feel");
}
