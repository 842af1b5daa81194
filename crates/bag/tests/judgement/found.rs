//! What a disc really does, from its throws: held to throws that the simulator made of discs whose numbers are known.

use jiff::civil::date;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rayon::prelude::*;
use rstest::rstest;
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::spec::{Disc, DiscId, Numbers};
use zinc_kite_bag::disc::wear::{Grade, Wear};
use zinc_kite_bag::field::numbers::{FoundNumber, FoundNumbers, as_observed, found_numbers};
use zinc_kite_bag::field::throw::{FieldThrow, Measured, WindThen};
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;

use crate::scene::field::{deviate, log, log_by, purlin as disc, session, truth_about};

type Log = fn(&Disc, &FlightNumbers, Style, usize, &mut StdRng) -> Vec<FieldThrow>;

fn found(disc: &Disc, throws: &[FieldThrow]) -> FoundNumbers {
    found_by(&Player::default(), disc, throws)
}

fn found_by(player: &Player, disc: &Disc, throws: &[FieldThrow]) -> FoundNumbers {
    let session = session();
    let measured: Vec<Measured> = throws.iter().map(|throw| Measured { session: &session, throw }).collect();
    found_numbers(player, disc, &[], &measured).unwrap()
}

fn four(found: &FoundNumbers) -> [FoundNumber; 4] {
    [found.speed, found.glide, found.turn, found.fade]
}

/// The same throws, of every other of which its player also told swing, height and time as seen: off by about as much as docs/model.md says.
fn watched(
    disc: &Disc,
    truth: &FlightNumbers,
    style: Style,
    n: usize,
    random: &mut StdRng,
) -> Vec<FieldThrow> {
    let turn = if style == Style::Backhand { -1.0 } else { 1.0 };
    let throws = log_by(&Player::default(), disc, truth, style, n, random);
    seen_of(throws, turn, 2, random)
}

/// What its player told of every so many of some throws, whose disc turns first to the left (1) or to the right (−1).
fn seen_of(
    mut throws: Vec<(FieldThrow, Outcome)>,
    turn: f64,
    every: usize,
    random: &mut StdRng,
) -> Vec<FieldThrow> {
    let mut off = |value: f64, least: f64, share: f64| value + least.hypot(share * value) * deviate(random);
    for (throw, end) in throws.iter_mut().step_by(every) {
        let swing = if turn < 0.0 { -end.farthest_right_m } else { end.farthest_left_m };
        throw.seen.swing_m = Some(off(swing, 1.0, 0.25));
        throw.seen.apex_m = Some(off(end.apex_m, 0.8, 0.2).max(0.0));
        throw.seen.time_s = Some(off(end.time_s, 0.25, 0.03).max(0.0));
    }
    throws.into_iter().map(|(throw, _)| throw).collect()
}

/// Simulation-based calibration (S. Talts, M. Betancourt, D. Simpson, A. Vehtari and A. Gelman 2018, *Validating Bayesian inference
/// algorithms with simulation-based calibration*, from memory): over discs whose numbers are drawn from what is thought before they are
/// thrown, what is said to hold in nine cases of ten does, whether only the ends are known or the flights were watched too.
#[rstest]
#[case::ends(log)]
#[case::watched(watched)]
fn val_nine_of_ten_truths_lie_within(#[case] log: Log) {
    let kinds = [
        ([7.0, 5.0, 0.0, 2.0], Style::Backhand),
        ([12.0, 5.0, -1.0, 3.0], Style::Backhand),
        ([4.0, 4.0, 0.0, 1.0], Style::Forehand),
    ];
    let covered: Vec<[bool; 4]> = (0..200usize)
        .into_par_iter()
        .map(|log_at| {
            let (numbers, style) = kinds[log_at % kinds.len()];
            let disc = disc(numbers);
            let sum = FlightNumbers::from(as_thrown(&disc.spec).result);
            let mut random = StdRng::seed_from_u64(log_at as u64);
            let truth = truth_about(&sum, &mut random);
            let n = random.random_range(6..30);
            let found = found(&disc, &log(&disc, &truth, style, n, &mut random));
            let truths = [truth.speed, truth.glide, truth.turn, truth.fade];
            std::array::from_fn(|k| (four(&found)[k].low..=four(&found)[k].high).contains(&truths[k]))
        })
        .collect();
    for (k, name) in ["speed", "glide", "turn", "fade"].into_iter().enumerate() {
        let share = covered.iter().filter(|c| c[k]).count() as f64 / covered.len() as f64;
        println!("{name}: {share}");
        assert!((0.85..=0.95).contains(&share), "{name}: {share} of the truths lie within");
    }
}

/// More throws leave less unsure of what their ends tell, and what is found comes to the truth; of turn the ends alone tell little.
#[test]
fn prop_more_throws_tell_more() {
    let disc = disc([7.0, 5.0, 0.0, 2.0]);
    let truth = FlightNumbers::new(7.0, 5.0, 0.0, 0.8);
    let mut random = StdRng::seed_from_u64(4);
    let throws = log(&disc, &truth, Style::Backhand, 90, &mut random);
    let (few, many) = (found(&disc, &throws[..6]), found(&disc, &throws));
    for (few, many) in [(few.glide, many.glide), (few.fade, many.fade)] {
        assert!(many.high - many.low < few.high - few.low, "{few:?} {many:?}");
        assert!(many.learned > few.learned);
    }
    assert!((many.fade.found - 0.8).abs() < 0.4, "{many:?}");
    assert!(many.is_enough && many.words.contains("fade"), "{}", many.words);
    assert!(many.turn.learned < many.fade.learned);
}

/// Of turn, which the ends of throws hardly tell, those of a fast and steady arm that are watched tell more; the words say of what little
/// is known.
#[test]
fn prop_watching_tells_of_turn() {
    let disc = disc([9.0, 5.0, -1.0, 2.0]);
    let fast = Player { backhand_m: 130.0, skill: Skill::Top, ..Player::default() };
    let truth = FlightNumbers::new(9.0, 5.0, -2.6, 2.0);
    let of = |every: usize| {
        let throws = log_by(&fast, &disc, &truth, Style::Backhand, 60, &mut StdRng::seed_from_u64(5));
        let throws = seen_of(throws, -1.0, every, &mut StdRng::seed_from_u64(6));
        found_by(&fast, &disc, &throws)
    };
    let (ends, seen) = (of(1000), of(1));
    assert_eq!((ends.watched, seen.watched), (1, 60));
    let wide = |n: &FoundNumber| n.high - n.low;
    assert!(wide(&seen.turn) < 0.9 * wide(&ends.turn), "{:?} {:?}", ends.turn, seen.turn);
    assert!((seen.turn.found + 2.6).abs() < 0.7 && seen.turn.learned > 0.7, "{:?}", seen.turn);
    let slow = found(&disc, &log(&disc, &truth, Style::Backhand, 40, &mut StdRng::seed_from_u64(7)));
    assert!(slow.turn.learned < 0.2 && slow.is_enough, "{slow:?}");
    assert!(slow.words.contains("turn they tell little"), "{}", slow.words);
}

/// What a run was found to fly like is expected of another disc of it, and the less the more its own throws say.
#[test]
fn prop_a_run_is_expected_until_throws_tell() {
    let of_run = |id: i64, fade: Option<f64>| {
        let mut disc = Disc { id: DiscId(id), ..disc([7.0, 5.0, 0.0, 2.0]) };
        disc.spec.keeping.run = "second".into();
        disc.spec.observed = fade.map(|fade| Numbers { speed: 7.0, glide: 5.0, turn: 0.0, fade });
        disc
    };
    let (new, others) = (of_run(1, None), [of_run(2, Some(3.2)), of_run(3, Some(3.0))]);
    let session = session();
    let of = |shelf: &[Disc], throws: &[FieldThrow]| {
        let measured: Vec<Measured> =
            throws.iter().map(|throw| Measured { session: &session, throw }).collect();
        found_numbers(&Player::default(), &new, shelf, &measured).unwrap()
    };
    let before = of(&others, &[]);
    assert!(before.fade.found > 2.5 && before.run.as_ref().unwrap().discs == 2, "{:?}", before.fade);
    assert!(before.words.contains("2 other discs of its run"), "{}", before.words);
    let truth = FlightNumbers::new(7.0, 5.0, 0.0, 1.6);
    let throws = log(&new, &truth, Style::Backhand, 60, &mut StdRng::seed_from_u64(8));
    let (alone, among) = (of(&[], &throws), of(&others, &throws));
    assert!(
        among.fade.found >= alone.fade.found && among.fade.found < 2.2,
        "{:?} {:?}",
        alone.fade,
        among.fade
    );
}

/// Without throws nothing is known but the sum; strays and distances without a side do no harm.
#[test]
fn prop_little_is_said_from_little() {
    let disc = disc([7.0, 5.0, 0.0, 2.0]);
    let none = found(&disc, &[]);
    assert!(!none.is_enough && none.words.starts_with("No throw"), "{}", none.words);
    for number in four(&none) {
        assert!(number.learned < 0.15 && (number.found - number.sum).abs() < 0.25, "{number:?}");
        assert!(number.low < number.sum && number.sum < number.high);
    }
    let sum = FlightNumbers::from(as_thrown(&disc.spec).result);
    let mut random = StdRng::seed_from_u64(9);
    let mut throws = log(&disc, &sum, Style::Backhand, 24, &mut random);
    let plain = found(&disc, &throws);
    throws.push(FieldThrow { distance_m: Some(9.0), off_deg: Some(70.0), ..throws[0].clone() });
    let strayed = found(&disc, &throws);
    for (a, b) in four(&plain).iter().zip(four(&strayed)) {
        assert!((a.found - b.found).abs() < 0.25, "one stray throw moves {a:?} to {b:?}");
    }
    for throw in &mut throws {
        throw.off_deg = None;
    }
    let far = found(&disc, &throws);
    assert_eq!(far.used, 25);
    assert!(far.fade.high - far.fade.low > plain.fade.high - plain.fade.low, "sides tell of fade");
}

/// What is taken over as observed makes the sum say what was found, however worn the disc is.
#[rstest]
fn prop_what_is_taken_over_is_what_the_sum_says(
    #[values(Grade::Fresh, Grade::Seasoned, Grade::Flippy)] grade: Grade,
    #[values(None, Some(250))] throws: Option<u32>,
    #[values([6.4, 5.2, -1.8, 1.1], [12.0, 4.0, 0.4, 3.6])] numbers: [f64; 4],
) {
    let mut spec = disc([7.0, 5.0, 0.0, 2.0]).spec;
    spec.wear = Wear { grade, throws, hard_hits: 3 };
    let [speed, glide, turn, fade] = numbers;
    let found = FlightNumbers::new(speed, glide, turn, fade);
    let (observed, worn) = as_observed(&spec, found);
    spec.observed = Some(observed);
    spec.keeping.observed_worn = worn;
    spec.keeping.observed_on = Some(date(2026, 6, 1));
    let says = FlightNumbers::from(as_thrown(&spec).result);
    for (a, b) in [(says.speed, speed), (says.glide, glide), (says.turn, turn), (says.fade, fade)] {
        assert!((a - b).abs() < 1e-6, "{says:?}");
    }
}

/// A left-hander's disc is found as a right-hander's, whose throws are its mirror images.
#[test]
fn prop_a_left_hander_finds_the_same() {
    let disc = disc([7.0, 5.0, 0.0, 2.0]);
    let truth = FlightNumbers::new(7.2, 4.6, -1.0, 1.4);
    let mut random = StdRng::seed_from_u64(2);
    let throws = log(&disc, &truth, Style::Backhand, 18, &mut random);
    let right = found(&disc, &throws);
    let mirrored: Vec<FieldThrow> = throws
        .iter()
        .map(|t| FieldThrow {
            off_deg: t.off_deg.map(|off| -off),
            wind: WindThen { from_deg: (360.0 - t.wind.from_deg) % 360.0, ..t.wind },
            ..t.clone()
        })
        .collect();
    let session = session();
    let measured: Vec<Measured> =
        mirrored.iter().map(|throw| Measured { session: &session, throw }).collect();
    let lefty = Player { hand: zinc_kite_bag::thrower::style::Hand::Left, ..Player::default() };
    let left = found_numbers(&lefty, &disc, &[], &measured).unwrap();
    for (a, b) in four(&right).iter().zip(four(&left)) {
        assert!((a.found - b.found).abs() < 0.12, "{a:?} {b:?}");
    }
}
