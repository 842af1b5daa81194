//! What an arm really does, from its throws: held to throws that the simulator made of arms that are known.

use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rayon::prelude::*;
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::field::arm::{FoundArm, FoundOfArm, found_arm};
use zinc_kite_bag::field::throw::{FieldThrow, Measured, ThrowTag};
use zinc_kite_bag::thrower::arm::{arm_report, driving_distance_m};
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_flight::numbers::FlightNumbers;

use crate::scene::disc as numbered;
use crate::scene::field::{deviate, log_by, purlin, session, truth_about};

/// How unsure an arm is at first, as docs/model.md says: deviations of the logarithms of speed, scatter along and scatter to the sides.
const ARM_UNSURE: [f64; 3] = [0.08, 0.35, 0.35];

fn shelf() -> Vec<Disc> {
    [[7.0, 5.0, 0.0, 2.0], [12.0, 5.0, -1.0, 3.0], [5.0, 4.0, -1.0, 1.0], [9.0, 5.0, -2.0, 1.0]]
        .into_iter()
        .enumerate()
        .map(|(k, numbers)| numbered(k as i64 + 1, purlin(numbers).spec))
        .collect()
}

fn told_speed(player: &Player, style: Style) -> f64 {
    arm_report(player, style).speed_m_s
}

/// A player whose arm is so many times as fast, and scatters so many times as much, as the told one’s.
fn really(player: &Player, style: Style, [speed, along, side]: [f64; 3]) -> Player {
    let speed_m_s = speed * told_speed(player, style);
    let scatter = player.scatter(style).wider(along, side);
    player.told_anew(style, driving_distance_m(speed_m_s, style, None), speed_m_s, scatter)
}

/// So many throws of an arm with each of some discs, whose numbers are about their sums.
fn thrown_by(
    who: &Player,
    style: Style,
    shelf: &[Disc],
    each: usize,
    random: &mut StdRng,
) -> Vec<FieldThrow> {
    let of = |disc: &Disc| {
        let truth = truth_about(&FlightNumbers::from(as_thrown(&disc.spec).result), random);
        log_by(who, disc, &truth, style, each, random).into_iter().map(|(throw, _)| throw).collect::<Vec<_>>()
    };
    shelf.iter().flat_map(of).collect()
}

fn found(player: &Player, style: Style, shelf: &[Disc], throws: &[FieldThrow]) -> FoundArm {
    let session = session();
    let measured: Vec<Measured> = throws.iter().map(|throw| Measured { session: &session, throw }).collect();
    found_arm(player, style, shelf, &measured).unwrap()
}

/// Simulation-based calibration (S. Talts, M. Betancourt, D. Simpson, A. Vehtari and A. Gelman 2018, *Validating Bayesian inference
/// algorithms with simulation-based calibration*, from memory): over arms drawn from what is thought of them before they throw, what is
/// said to hold in nine cases of ten does.
#[test]
fn val_nine_of_ten_arms_lie_within() {
    let shelf = shelf();
    let player = Player::default();
    let covered: Vec<[bool; 3]> = (0..200u64)
        .into_par_iter()
        .map(|log_at| {
            let style = [Style::Backhand, Style::Forehand][log_at as usize % 2];
            let mut random = StdRng::seed_from_u64(log_at);
            let truth = ARM_UNSURE.map(|unsure| (unsure * deviate(&mut random)).exp());
            let discs = random.random_range(1..=shelf.len());
            let each = random.random_range(6..24);
            let who = really(&player, style, truth);
            let throws = thrown_by(&who, style, &shelf[..discs], each, &mut random);
            let found = found(&player, style, &shelf, &throws);
            let told = [found.speed_m_s, found.along_times, found.side_times];
            let truths = [truth[0] * told_speed(&player, style), truth[1], truth[2]];
            std::array::from_fn(|k| (told[k].low..=told[k].high).contains(&truths[k]))
        })
        .collect();
    for (k, name) in ["speed", "scatter along", "scatter to the sides"].into_iter().enumerate() {
        let share = covered.iter().filter(|c| c[k]).count() as f64 / covered.len() as f64;
        println!("{name}: {share}");
        assert!((0.85..=0.95).contains(&share), "{name}: {share} of the truths lie within");
    }
}

/// A faster and wilder arm than was told is found to be so; told as it was found, it throws as told.
#[test]
fn prop_an_arm_taken_over_is_as_told() {
    let (shelf, player, style) = (shelf(), Player::default(), Style::Backhand);
    let mut random = StdRng::seed_from_u64(3);
    let who = really(&player, style, [1.12, 1.0, 1.7]);
    let throws = thrown_by(&who, style, &shelf, 24, &mut random);
    let first = found(&player, style, &shelf, &throws);
    assert!(first.speed_m_s.low > first.speed_m_s.told, "{:?}", first.speed_m_s);
    assert!(first.side_times.low > 1.0 && first.is_enough, "{:?}", first.side_times);
    assert!(first.words.contains("faster than you told, surely"), "{}", first.words);
    assert!(first.words.contains("to the sides surely 1."), "{}", first.words);
    first.as_found.validate().unwrap();
    let again = found(&first.as_found, style, &shelf, &throws);
    let as_told = |f: &FoundOfArm| (f.low..=f.high).contains(&f.told);
    assert!(as_told(&again.speed_m_s) && as_told(&again.side_times) && as_told(&again.along_times));
    assert!(again.words.contains("as fast as you told"), "{}", again.words);
    let far = &first.distances;
    assert_eq!(far.len(), shelf.len());
    assert!(far.windows(2).all(|pair| pair[0].measured_m.mean >= pair[1].measured_m.mean));
    assert!(far.iter().all(|d| d.measured_m.n == 8 && d.expected_m > 0.8 * d.ladder_m), "{far:?}");
}

/// What says nothing of an arm is left out and does no harm: throws held back, into a tree, without a side, of discs that are gone, and
/// one that was of another kind.
#[test]
fn prop_what_says_nothing_is_left_out() {
    let (shelf, player, style) = (shelf(), Player::default(), Style::Backhand);
    let none = found(&player, style, &shelf, &[]);
    assert!(
        none.used == 0 && !none.is_enough && none.words.starts_with("No full backhand"),
        "{}",
        none.words
    );
    for overhand_or_not in [style, Style::Thumber, Style::Tomahawk] {
        let none = found(&player, overhand_or_not, &shelf, &[]);
        assert!((none.speed_m_s.found / none.speed_m_s.told - 1.0).abs() < 1e-3, "{:?}", none.speed_m_s);
        assert!(none.speed_m_s.learned < 0.01 && none.side_times.low < 0.6 && none.side_times.high > 1.7);
    }
    let mut throws = thrown_by(&player, style, &shelf[..2], 10, &mut StdRng::seed_from_u64(5));
    let plain = found(&player, style, &shelf, &throws);
    let like = throws[0].clone();
    throws.extend([
        FieldThrow { power_pct: Some(60.0), distance_m: Some(30.0), ..like.clone() },
        FieldThrow { tags: vec![ThrowTag::Hit], distance_m: Some(12.0), ..like.clone() },
        FieldThrow { off_deg: None, ..like.clone() },
        FieldThrow { disc_id: None, distance_m: Some(200.0), ..like.clone() },
        FieldThrow { style: Style::Forehand, ..like.clone() },
        FieldThrow { distance_m: Some(8.0), off_deg: Some(-80.0), ..like },
    ]);
    let found = found(&player, style, &shelf, &throws);
    assert_eq!((found.used, found.left_out), (20, 5));
    for (a, b) in [(plain.speed_m_s, found.speed_m_s), (plain.side_times, found.side_times)] {
        assert!((a.found / b.found - 1.0).abs() < 0.02, "{a:?} {b:?}");
    }
}

/// A left-hander’s arm is found as a right-hander’s, whose throws are its mirror images; putts say nothing of an arm.
#[test]
fn prop_a_left_handers_arm_is_found_alike() {
    let (shelf, player, style) = (shelf(), Player::default(), Style::Backhand);
    let throws = thrown_by(&player, style, &shelf[..3], 9, &mut StdRng::seed_from_u64(8));
    let right = found(&player, style, &shelf, &throws);
    let mirrored: Vec<FieldThrow> =
        throws.iter().map(|t| FieldThrow { off_deg: t.off_deg.map(|off| -off), ..t.clone() }).collect();
    let lefty = Player { hand: Hand::Left, ..player };
    let left = found(&lefty, style, &shelf, &mirrored);
    for (a, b) in [(right.speed_m_s, left.speed_m_s), (right.side_times, left.side_times)] {
        assert!((a.found / b.found - 1.0).abs() < 0.02, "{a:?} {b:?}");
    }
    assert_eq!(found_arm(&lefty, Style::Putt, &shelf, &[]).unwrap_err().field(), "style");
}
