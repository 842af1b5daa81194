//! What a chance is worth: against plain random throws, and what may and may not change it.

use crate::scene::{gusty, lines_of, player, thrown_disc};
use nalgebra::{DMatrix, DVector};
use rand::SeedableRng;
use rand::rngs::StdRng;
use rayon::prelude::*;
use rstest::rstest;
use statrs::distribution::{ContinuousCDF, Normal};
use zinc_kite_bag::chance::answer::{Chance, NoRelease};
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::chance::search::{Prospect, behind, chance, chance_with};
use zinc_kite_bag::disc::thrown::Thrown;
use zinc_kite_bag::need::limits::Limits;
use zinc_kite_bag::need::line::{Footing, Ground, Landing, Line, LineSpec};
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::scatter::{DIMENSIONS, RELEASE_ERRORS, correlations};
use zinc_kite_flight::settle::settle_all;

const DISCS: [(f64, f64, f64, f64); 8] = [
    (3.0, 3.0, 0.0, 1.0),
    (4.0, 1.0, 0.0, 5.0),
    (5.0, 4.0, -1.0, 1.0),
    (5.0, 5.0, -3.0, 0.0),
    (7.0, 5.0, -2.5, 1.0),
    (9.0, 5.0, -1.0, 2.0),
    (9.0, 4.0, 0.0, 4.0),
    (12.0, 5.0, -1.0, 3.0),
];

fn me() -> Player {
    player(104.0, Skill::Advanced)
}

fn of_key<'a>(lines: &'a [Line], key: &str) -> &'a LineSpec {
    &lines.iter().find(|l| l.key == key).unwrap().spec
}

/// Every pair of a line, spread over all of them, and a disc that reaches it.
fn pairs<'a>(lines: &'a [Line], arm: &Arm, memo: &Memo) -> Vec<(&'a Line, Thrown, Chance)> {
    let of = |(k, line): (usize, &'a Line)| {
        let t = thrown_disc(DISCS[k % DISCS.len()]);
        let found = chance(arm, t, &line.spec, memo);
        found.chosen.is_some().then_some((line, t, found))
    };
    lines.iter().enumerate().filter_map(of).collect()
}

/// So many throws, whose errors are drawn by a general random number generator and made to go together as told by the Cholesky
/// factor of a general matrix library.
fn random_errors(line: &LineSpec, n: usize, seed: u64) -> Vec<[f64; DIMENSIONS]> {
    let mut told = DMatrix::<f64>::identity(RELEASE_ERRORS, RELEASE_ERRORS);
    for (i, j, rho) in correlations(line.style.into()) {
        told[(i, j)] = rho;
        told[(j, i)] = rho;
    }
    let factor = told.cholesky().unwrap().l();
    let (mut random, normal) = (StdRng::seed_from_u64(seed), Normal::standard());
    let mut draw = || normal.inverse_cdf(rand::RngExt::random_range(&mut random, 1e-9..1.0 - 1e-9));
    (0..n)
        .map(|_| {
            let alone: [f64; DIMENSIONS] = std::array::from_fn(|_| draw());
            let release = &factor * DVector::from_column_slice(&alone[..RELEASE_ERRORS]);
            std::array::from_fn(|d| if d < RELEASE_ERRORS { release[d] } else { alone[d] })
        })
        .collect()
}

/// Share of random throws about a release that make a line.
fn made_at_random(arm: &Arm, t: Thrown, line: &LineSpec, found: &Chance, seed: u64) -> f64 {
    let chosen = found.chosen.unwrap();
    let centre = behind(arm, t, line, &chosen).throw;
    let spread = arm.spread(line.style, t.speed, chosen.power).scaled(line.footing_spread(arm.wet));
    let gust_m_s = arm.gust_m_s * (1.0 - line.lee);
    let throws: Vec<Throw> = random_errors(line, 4000, seed)
        .iter()
        .map(|errors| spread.displace(&centre, gust_m_s, errors))
        .collect();
    let limits = Limits::of(line);
    let gates = limits.gate_distances();
    let mut flights = fly_all(&throws, &arm.air.above(line.floor_m()), &gates);
    if line.landing != Landing::Basket {
        settle_all(&mut flights, &t.contact(line.ground, &arm.air), &gates);
    }
    let made = flights.iter().filter(|o| limits.judge(o).miss.is_none()).count();
    made as f64 / flights.len() as f64
}

/// A chance is what thousands of random throws about its release give: neither better, as the best of many releases seems on
/// the throws that chose it, nor worse.
#[rstest]
#[case(0.0, 0.0)]
#[case(-4.0, 2.0)]
fn val_a_chance_is_what_random_throws_give(#[case] along_m_s: f64, #[case] left_m_s: f64) {
    let p = me();
    let (arm, memo, lines) =
        (Arm::of(&p, &gusty(along_m_s, left_m_s)).unwrap(), Memo::default(), lines_of(&p));
    let off: Vec<f64> = pairs(&lines, &arm, &memo)
        .par_iter()
        .enumerate()
        .map(|(k, (line, t, found))| found.chance - made_at_random(&arm, *t, &line.spec, found, k as u64))
        .collect();
    let n = off.len() as f64;
    let (mean, rms) = (off.iter().sum::<f64>() / n, (off.iter().map(|x| x * x).sum::<f64>() / n).sqrt());
    assert!(n > 20.0 && mean.abs() < 0.012, "{mean:.4} too high in the mean of {n}");
    assert!(rms < 0.03 && off.iter().all(|x| x.abs() < 0.09), "{rms:.4}: {off:.3?}");
}

/// The same of putts, from where most go in to where few do.
#[rstest]
#[case(0.0, 0.0)]
#[case(-5.0, 0.0)]
#[case(0.0, 5.0)]
fn val_a_putts_chance_is_what_random_throws_give(#[case] along_m_s: f64, #[case] left_m_s: f64) {
    let p = me();
    let (arm, memo, lines) =
        (Arm::of(&p, &gusty(along_m_s, left_m_s)).unwrap(), Memo::default(), lines_of(&p));
    let mut off = Vec::new();
    for numbers in [(2.0, 3.0, 0.0, 1.0), (3.0, 3.0, 0.0, 3.0)] {
        for distance_m in [5.0, 7.0, 9.0, 12.0, 15.0, 18.0] {
            let (t, putt) =
                (thrown_disc(numbers), LineSpec { distance_m, ..of_key(&lines, "circle-putt").clone() });
            let found = chance(&arm, t, &putt, &memo);
            off.push(found.chance - made_at_random(&arm, t, &putt, &found, 3));
        }
    }
    let mean = off.iter().sum::<f64>() / off.len() as f64;
    assert!(mean.abs() < 0.025 && off.iter().all(|x| x.abs() < 0.06), "{mean:.4}: {off:.3?}");
}

/// Ranks of values, the greatest first, equal ones alike.
fn ranks(x: &[f64]) -> Vec<f64> {
    x.iter()
        .map(|a| {
            x.iter()
                .map(|b| {
                    if b > a {
                        1.0
                    } else if b == a {
                        0.5
                    } else {
                        0.0
                    }
                })
                .sum()
        })
        .collect()
}

/// Spearman's rank correlation.
fn rank_correlation(a: &[f64], b: &[f64]) -> f64 {
    let (a, b) = (ranks(a), ranks(b));
    let mean = |x: &[f64]| x.iter().sum::<f64>() / x.len() as f64;
    let (ma, mb) = (mean(&a), mean(&b));
    let product = |x: &[f64], mx: f64, y: &[f64], my: f64| -> f64 {
        x.iter().zip(y).map(|(x, y)| (x - mx) * (y - my)).sum()
    };
    product(&a, ma, &b, mb) / (product(&a, ma, &a, ma) * product(&b, mb, &b, mb)).sqrt()
}

/// Each closer forecast ranks discs more nearly as their chances do, and none loses the best from sight.
#[test]
fn prop_closer_forecasts_rank_more_truly() {
    let p = me();
    let (arm, lines) = (Arm::of(&p, &gusty(-3.0, 0.0)).unwrap(), lines_of(&p));
    let discs: Vec<Thrown> = [3.0, 5.0, 7.0, 9.0, 12.0]
        .into_iter()
        .flat_map(|s| [(-3.0, 0.5), (-1.0, 2.0), (0.0, 3.5)].map(|(t, f)| thrown_disc((s, 4.5, t, f))))
        .collect();
    let told: Vec<[f64; 3]> = lines
        .par_iter()
        .filter(|l| l.spec.fastest_speed.is_none() && !l.spec.open_ended)
        .map(|line| {
            let memo = Memo::default();
            let asked: Vec<[f64; 4]> = discs
                .iter()
                .filter_map(|t| {
                    let p = Prospect::of(&arm, *t, &line.spec, &memo);
                    Some([p.room_m()?, p.promise()?, p.forecast()?, p.chance().chance])
                })
                .collect();
            let column = |k: usize| asked.iter().map(|a| a[k]).collect::<Vec<f64>>();
            let chances = column(3);
            let best = chances.iter().copied().fold(0.0, f64::max);
            let mut by_forecast = asked.clone();
            by_forecast.sort_by(|a, b| b[2].total_cmp(&a[2]));
            let kept = by_forecast.iter().take(3).map(|a| a[3]).fold(0.0, f64::max);
            assert!(
                kept > best - 0.08,
                "{}: {kept:.2} of {best:.2} among the three of the best forecast",
                line.key
            );
            [0, 1, 2].map(|k| rank_correlation(&column(k), &chances))
        })
        .collect();
    let mean = |k: usize| told.iter().map(|t| t[k]).sum::<f64>() / told.len() as f64;
    let (room, promise, forecast) = (mean(0), mean(1), mean(2));
    assert!(room > 0.55 && promise > 0.8 && forecast > 0.9, "{room:.2} {promise:.2} {forecast:.2}");
    assert!(room < promise && promise < forecast, "{room:.2} {promise:.2} {forecast:.2}");
}

/// An answer does not depend on what was asked before it.
#[test]
fn prop_the_order_of_questions_changes_no_answer() {
    let p = me();
    let (arm, lines) = (Arm::of(&p, &gusty(2.0, -3.0)).unwrap(), lines_of(&p));
    lines.par_iter().step_by(2).for_each(|line| {
        for numbers in DISCS {
            let (closely, at_once) = (Memo::default(), Memo::default());
            let step_by_step = Prospect::of(&arm, thrown_disc(numbers), &line.spec, &closely);
            let first = (step_by_step.room_m(), step_by_step.promise(), step_by_step.forecast());
            let asked_last = step_by_step.chance();
            let other = Prospect::of(&arm, thrown_disc(numbers), &line.spec, &at_once);
            assert_eq!(other.chance(), asked_last, "{} {numbers:?}", line.key);
            assert_eq!(
                (other.room_m(), other.promise(), other.forecast()),
                first,
                "{} {numbers:?}",
                line.key
            );
            // A memory that has seen other weathers and lines knows them apart.
            let elsewhere = Arm::of(&p, &gusty(-2.0, 3.0)).unwrap();
            chance(&elsewhere, thrown_disc(numbers), &line.spec, &at_once);
            assert_eq!(chance(&arm, thrown_disc(numbers), &line.spec, &at_once), asked_last);
        }
    });
}

/// Whatever goes into a chance is part of what it is remembered under: each of these changes the question, and a memory that
/// knows the answer to the one before gives the answer to this one.
#[test]
fn prop_a_memory_knows_every_part_of_its_question() {
    type Change = (&'static str, fn(&mut Player, &mut Conditions, &mut LineSpec, &mut Thrown));
    let changes: [Change; 25] = [
        ("mass", |_, _, _, t| t.body.mass_kg *= 0.95),
        ("inertia", |_, _, _, t| t.body.inertia_kg_m2 *= 0.9),
        ("radius", |_, _, _, t| t.body.radius_m *= 0.97),
        ("softness", |_, _, _, t| t.rim.softness = 0.9),
        ("wear", |_, _, _, t| t.rim.wear = 0.9),
        ("coefficients", |_, _, _, t| t.body.coefficients.cm0 -= 0.004),
        ("speed number", |_, _, _, t| t.speed = 12.0),
        ("wind along", |_, c, _, _| c.wind_m_s = 6.0),
        ("wind across", |_, c, _, _| (c.wind_m_s, c.wind_from_deg) = (6.0, 90.0)),
        ("gusts", |_, c, _, _| c.gust_m_s = 4.0),
        ("power today", |_, c, _, _| c.power = 0.85),
        ("wet hands", |_, c, _, _| c.wet = true),
        ("thin air", |_, c, _, _| c.altitude_m = Some(3000.0)),
        ("arm", |p, _, _, _| p.backhand_m = 90.0),
        ("hand", |p, _, _, _| p.hand = Hand::Left),
        ("skill", |p, _, _, _| p.skill = Skill::Beginner),
        ("distance", |_, _, l, _| l.distance_m += 6.0),
        ("zone", |_, _, l, _| l.zone_width_m *= 0.5),
        ("gate", |_, _, l, _| l.gates[0].left_edge_m -= 1.5),
        ("roof", |_, _, l, _| l.ceiling_m = Some(4.0)),
        ("ground", |_, _, l, _| l.ground = Ground::Hard),
        ("landing", |_, _, l, _| l.landing = Landing::Sit),
        ("footing", |_, _, l, _| l.footing = Footing::Standstill),
        ("hyzer", |_, _, l, _| (l.hyzer_min_deg, l.hyzer_max_deg) = (10.0, 30.0)),
        ("nose", |_, _, l, _| (l.nose_min_deg, l.nose_max_deg) = (Some(2.0), Some(5.0))),
    ];
    let lines = lines_of(&me());
    let line = of_key(&lines, "fairway-rail");
    let memo = Memo::default();
    let ask = |change: &Change, memo: &Memo| {
        let (mut p, mut c, mut l, mut t) =
            (me(), Conditions::default(), line.clone(), thrown_disc((8.0, 5.0, -1.0, 2.0)));
        change.1(&mut p, &mut c, &mut l, &mut t);
        let arm = Arm::of(&p, &c).unwrap();
        let asked = Prospect::of(&arm, t, &l, memo);
        (asked.room_m(), asked.promise(), asked.forecast(), asked.chance())
    };
    let usual = ask(&("nothing", |_, _, _, _| ()), &memo);
    assert!(usual.3.chance > 0.6, "{}", usual.3.chance);
    for change in &changes {
        let fresh = ask(change, &Memo::default());
        assert_eq!(ask(change, &memo), fresh, "{} is not part of the key", change.0);
        assert_ne!(fresh, usual, "{} must matter here, or it proves nothing", change.0);
    }
    assert_eq!(ask(&("nothing", |_, _, _, _| ()), &memo), usual);
}

/// Makes and misses are all the throws; the release keeps to what the line and the style allow.
#[rstest]
fn prop_makes_and_misses_are_all_and_the_release_is_allowed(
    #[values((0.0, 0.0), (-6.0, 0.0), (0.0, 5.0))] wind: (f64, f64),
    #[values((60.0, Skill::Club), (104.0, Skill::Advanced), (130.0, Skill::Top))] who: (f64, Skill),
) {
    let p = player(who.0, who.1);
    let (arm, memo, lines) = (Arm::of(&p, &gusty(wind.0, wind.1)).unwrap(), Memo::default(), lines_of(&p));
    for (line, _, found) in pairs(&lines, &arm, &memo) {
        let missed: f64 = found.misses.iter().map(|m| m.share).sum();
        assert!((found.chance + missed - 1.0).abs() < 1e-9, "{}: {found:?}", line.key);
        assert!(found.misses.windows(2).all(|m| m[0].share >= m[1].share && m[0].miss != m[1].miss));
        let (c, l) = (found.chosen.unwrap(), &line.spec);
        let within = |x: f64, (low, high): (f64, f64)| (low - 1e-9..=high + 1e-9).contains(&x);
        assert!(within(c.power, l.powers()), "{}: {c:?}", line.key);
        assert!(within(c.hyzer_deg, (l.hyzer_min_deg, l.hyzer_max_deg)), "{}: {c:?}", line.key);
        assert!(within(c.launch_deg, (l.launch_min_deg, l.launch_max_deg)), "{}: {c:?}", line.key);
        assert!(within(c.nose_deg, l.noses_deg()), "{}: {c:?}", line.key);
        assert!((c.speed_m_s - arm.release(l.style, 7.0, c.power).speed_m_s).abs() < 0.2 * c.speed_m_s);
        assert!(found.no_release.is_none());
    }
}

/// The same throws on a line with more room: every one that made it makes it still.
#[test]
fn prop_more_room_turns_no_make_into_a_miss() {
    let p = me();
    let (arm, memo, lines) = (Arm::of(&p, &gusty(3.0, 3.0)).unwrap(), Memo::default(), lines_of(&p));
    for (line, t, found) in pairs(&lines, &arm, &memo) {
        let cloud = behind(&arm, t, &line.spec, &found.chosen.unwrap()).cloud;
        let mut wide = line.spec.clone();
        wide.zone_length_m += 4.0;
        wide.zone_width_m += 4.0;
        wide.ceiling_m = wide.ceiling_m.map(|c| c + 1.0);
        for gate in &mut wide.gates {
            (gate.left_edge_m, gate.right_edge_m) = (gate.left_edge_m + 0.5, gate.right_edge_m - 0.5);
            gate.ceiling_m = gate.ceiling_m.map(|c| c + 0.5);
        }
        let (narrow, wide) = (Limits::of(&line.spec), Limits::of(&wide));
        let made = cloud.iter().filter(|o| narrow.judge(o).miss.is_none()).count();
        // They are the throws that were judged, each there with all its likely aims instead of the one it was flown with.
        let share = made as f64 / cloud.len() as f64;
        assert!((share - found.chance).abs() < 0.06, "{}: {share} {}", line.key, found.chance);
        for o in &cloud {
            let (tight, loose) = (narrow.judge(o), wide.judge(o));
            assert!(loose.margin_m >= tight.margin_m, "{}: {tight:?} {loose:?}", line.key);
            assert!(tight.miss.is_some() || loose.miss.is_none(), "{}", line.key);
        }
    }
}

/// Less error of one kind seldom costs, and none left at all is the centre throw: it makes the line or does not.
#[test]
fn prop_steadier_throws_make_it_more_often() {
    let p = me();
    let (arm, memo, lines) = (Arm::of(&p, &Conditions::default()).unwrap(), Memo::default(), lines_of(&p));
    let (mut gains, mut off, mut n) = (0.0, 0.0, 0.0);
    for (line, t, found) in pairs(&lines, &arm, &memo) {
        let chosen = found.chosen.unwrap();
        let all = chance_with(&arm, t, &line.spec, &chosen, &[], 1.0);
        off += (all - found.chance) * RELEASE_ERRORS as f64;
        assert!((all - found.chance).abs() < 0.06, "{}: counted {all}, told {}", line.key, found.chance);
        for error in 0..RELEASE_ERRORS {
            gains += chance_with(&arm, t, &line.spec, &chosen, &[error], 0.0) - all;
            n += 1.0;
        }
        let still = chance_with(&arm, t, &line.spec, &chosen, &[0, 1, 2, 3, 4, 5, 6], 0.0);
        assert!(still == 0.0 || still == 1.0, "{}: {still}", line.key);
        assert_eq!(chance_with(&arm, t, &line.spec, &chosen, &[], 0.0), all, "{}", line.key);
    }
    assert!((off / n).abs() < 0.01, "counted and told are apart by {} in the mean", off / n);
    assert!(gains / n > 0.02, "{:.3} in the mean of {n}", gains / n);
}

/// A left-hander in the mirrored wind does as a right-hander does.
#[test]
fn prop_hands_and_winds_mirror() {
    let right = me();
    let left = Player { hand: Hand::Left, ..right.clone() };
    let of = |p: &Player, left_m_s: f64| -> Vec<(String, f64)> {
        let (arm, memo) = (Arm::of(p, &gusty(-2.0, left_m_s)).unwrap(), Memo::default());
        pairs(&lines_of(p), &arm, &memo).into_iter().map(|(l, _, c)| (l.key.clone(), c.chance)).collect()
    };
    assert_eq!(of(&right, 4.0), of(&left, -4.0));
}

/// Why nothing can be thrown, by how much, and nothing else with it.
#[test]
fn prop_no_release_says_why() {
    let p = me();
    let (arm, memo, lines) = (Arm::of(&p, &Conditions::default()).unwrap(), Memo::default(), lines_of(&p));
    let why = |numbers, line: &LineSpec| {
        let found = chance(&arm, thrown_disc(numbers), line, &memo);
        assert!(found.chance == 0.0 && found.chosen.is_none() && found.misses.is_empty(), "{found:?}");
        let asked = Prospect::of(&arm, thrown_disc(numbers), line, &memo);
        assert!(asked.promise().is_none_or(|p| p < 0.3));
        found.no_release.unwrap()
    };
    let far = LineSpec { distance_m: 180.0, gates: vec![], ..LineSpec::usual(Style::Backhand) };
    match why((12.0, 5.0, -1.0, 3.0), &far) {
        NoRelease::TooFar { farthest_m } => assert!((80.0..150.0).contains(&farthest_m), "{farthest_m}"),
        other => panic!("{other:?}"),
    }
    let near = LineSpec { distance_m: 12.0, zone_length_m: 3.0, ..far };
    match why((12.0, 5.0, -1.0, 3.0), &near) {
        NoRelease::TooNear { nearest_m } => assert!(nearest_m > 13.5, "{nearest_m}"),
        other => panic!("{other:?}"),
    }
    let putt = of_key(&lines, "circle-putt");
    assert_eq!(
        why((9.0, 5.0, -1.0, 2.0), putt),
        NoRelease::TooFast { fastest_speed: putt.fastest_speed.unwrap() }
    );
    assert!(Prospect::of(&arm, thrown_disc((9.0, 5.0, -1.0, 2.0)), putt, &memo).room_m().is_none());
}

/// A driver on a forehand approach: where the table of shapes just loses the target, the chance does not fall from a quarter
/// to nothing.
#[test]
fn regress_a_disc_that_flies_past_falls_off_no_cliff() {
    let p = me();
    let lines = lines_of(&p);
    for (key, numbers) in
        [("forehand-approach", (12.0, 5.0, -1.0, 3.0)), ("forehand-approach", (9.0, 5.0, -1.0, 2.0))]
    {
        let line = of_key(&lines, key);
        for across in [false, true] {
            let chances: Vec<f64> = (0..=16)
                .map(|k| -4.0 + 0.5 * f64::from(k))
                .map(|w| if across { gusty(0.0, w) } else { gusty(w, 0.0) })
                .map(|c| {
                    chance(&Arm::of(&p, &c).unwrap(), thrown_disc(numbers), line, &Memo::default()).chance
                })
                .collect();
            let steepest = chances.windows(2).map(|w| (w[1] - w[0]).abs()).fold(0.0, f64::max);
            assert!(steepest < 0.14, "{key} {numbers:?} {chances:.2?}");
        }
    }
}
