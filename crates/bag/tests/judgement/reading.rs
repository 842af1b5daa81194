//! Reading throws that the simulator made with an error that is known, the habits behind them, and the disc that shows errors.

use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rayon::prelude::*;
use rstest::rstest;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::field::fault::Fault;
use zinc_kite_bag::field::form::form_check;
use zinc_kite_bag::field::habit::{SessionReading, read_session};
use zinc_kite_bag::field::meant::{ends, meant};
use zinc_kite_bag::field::reading::{STEADY, ThrowReading, read_throw};
use zinc_kite_bag::field::throw::{
    CameDown, FieldThrow, FirstWent, HowHigh, Meant, Measured, SeenFlight, ThrowTag,
};
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::style::{Hand, Style};

use crate::scene::field::{deviate, errors, purlin, session};

const DISCS: [[f64; 4]; 3] = [[7.0, 5.0, 0.0, 2.0], [7.0, 5.0, -2.5, 1.0], [4.0, 4.0, -2.0, 1.0]];

/// A flat backhand with an error of a size on top of a share of the player's scatter, told as somebody tells it who has a rangefinder and
/// watches: swing, height, time and skip by eye.
fn made(player: &Player, disc: &Disc, fault: Fault, size: f64, rest: f64, random: &mut StdRng) -> FieldThrow {
    let held = thrown(disc).unwrap();
    let like = FieldThrow::of(disc, Style::Backhand, Meant::Flat);
    let mut meant = meant(player, &session(), &like, &held).unwrap();
    meant.throw.release = fault.on(meant.throw.release, size, 1.0);
    meant.spread = meant.spread.scaled(rest);
    let errors = errors(Style::Backhand, random);
    let end = ends(player, &session(), &meant, &held, &[errors]).unwrap()[0];
    let mut off = |x: f64, least: f64, share: f64| x + least.hypot(share * x) * deviate(random);
    let seen = SeenFlight {
        swing_m: Some(off(-end.farthest_right_m, 1.0, 0.25)),
        apex_m: Some(off(end.apex_m, 0.8, 0.2).max(0.0)),
        time_s: Some(off(end.time_s, 0.25, 0.03)),
        skip_m: Some(off(end.run_m, 3.0, 0.5).max(0.0)),
        ..SeenFlight::default()
    };
    let off_deg = Some(end.y_m.atan2(end.x_m).to_degrees());
    FieldThrow { distance_m: Some(end.distance_m()), off_deg, seen, ..like }
}

fn read(player: &Player, disc: &Disc, throw: &FieldThrow) -> ThrowReading {
    read_throw(player, disc, Measured { session: &session(), throw }).unwrap()
}

fn share(reading: &ThrowReading, fault: Fault) -> f64 {
    reading.readings.iter().find(|r| r.fault == fault).unwrap().share
}

#[rstest]
#[case(Fault::NoseUp, 4.0)]
#[case(Fault::Hyzer, 8.0)]
#[case(Fault::Anhyzer, 8.0)]
#[case(Fault::Slow, 8.0)]
fn val_a_known_error_is_read(#[case] fault: Fault, #[case] size: f64) {
    let player = Player::default();
    let tried: Vec<(usize, f64)> = (0..240u64)
        .into_par_iter()
        .map(|seed| {
            let disc = purlin(DISCS[seed as usize % 3]);
            let throw = made(&player, &disc, fault, size, STEADY, &mut StdRng::seed_from_u64(1000 + seed));
            let reading = read(&player, &disc, &throw);
            let at = reading.readings.iter().position(|r| r.fault == fault).unwrap();
            (at, reading.readings[at].size)
        })
        .collect();
    let among = |first: usize| tried.iter().filter(|(at, _)| *at < first).count() as f64 / tried.len() as f64;
    assert!(among(1) >= 0.7 && among(2) >= 0.9, "{fault:?}: {} first, {} of two", among(1), among(2));
    let sizes: Vec<f64> = tried.iter().filter(|(at, _)| *at == 0).map(|(_, size)| *size).collect();
    let mean = sizes.iter().sum::<f64>() / sizes.len() as f64;
    assert!((mean - size).abs() < 0.25 * size, "{fault:?}: {mean} for {size}");
}

/// Of errors that come as often as it is thought before, those said to be so likely are so often it (calibration of probabilities; A. P.
/// Dawid, Journal of the American Statistical Association 77, 1982; from memory).
#[test]
fn val_shares_are_honest() {
    let player = Player::default();
    let disc = purlin([7.0, 5.0, -1.0, 1.0]);
    let held = thrown(&disc).unwrap();
    let like = FieldThrow::of(&disc, Style::Backhand, Meant::Flat);
    let spread = meant(&player, &session(), &like, &held).unwrap().spread;
    let told: Vec<(f64, bool)> = (0..400u64)
        .into_par_iter()
        .map(|seed| {
            let mut random = StdRng::seed_from_u64(seed);
            let mut left = random.random_range(0.0..1.0 - Fault::Another.before());
            let fault = Fault::ALL.into_iter().find(|f| {
                left -= f.before();
                left < 0.0
            });
            let (least, most) = fault.unwrap().sizes(&spread);
            let size = least + (most - least) * random.random_range(0.0..1.0);
            let throw = made(&player, &disc, fault.unwrap(), size, STEADY, &mut random);
            let first = read(&player, &disc, &throw).readings[0].clone();
            (first.share, Some(first.fault) == fault)
        })
        .collect();
    for (low, high) in [(0.0, 0.5), (0.5, 0.75), (0.75, 1.01)] {
        let bin: Vec<&(f64, bool)> = told.iter().filter(|(share, _)| (low..high).contains(share)).collect();
        let n = bin.len() as f64;
        let said = bin.iter().map(|(share, _)| share).sum::<f64>() / n;
        let was = bin.iter().filter(|(_, right)| *right).count() as f64 / n;
        let deviation = (said * (1.0 - said) / n).sqrt();
        assert!(n > 40.0 && (said - was).abs() < 2.6 * deviation + 0.03, "{low}: {said} said, {was}, {n}");
    }
}

/// A left-hander's throw, mirrored, is read just as a right-hander's.
#[rstest]
#[case(Fault::Hyzer, 9.0)]
#[case(Fault::Late, 6.0)]
fn prop_a_mirrored_throw_reads_the_same(#[case] fault: Fault, #[case] size: f64) {
    let (right, left) = (Player::default(), Player { hand: Hand::Left, ..Player::default() });
    let disc = purlin(DISCS[1]);
    let mut throw = made(&right, &disc, fault, size, STEADY, &mut StdRng::seed_from_u64(5));
    throw.seen.first = Some(FirstWent::Right);
    throw.seen.landed = Some(CameDown::LeftEdge);
    let mut mirrored = throw.clone();
    mirrored.off_deg = throw.off_deg.map(|deg| -deg);
    mirrored.seen.swing_m = throw.seen.swing_m.map(|m| -m);
    mirrored.seen.first = Some(FirstWent::Left);
    mirrored.seen.landed = Some(CameDown::RightEdge);
    let (of_right, of_left) = (read(&right, &disc, &throw), read(&left, &disc, &mirrored));
    assert!(!of_right.turns_left && of_left.turns_left);
    for (a, b) in of_right.readings.iter().zip(&of_left.readings) {
        assert_eq!(a.fault, b.fault);
        assert!((a.share - b.share).abs() < 1e-4, "{a:?} {b:?}");
    }
}

/// Shares make one, the flight that is drawn ends near where the throw did, and what is said of it in words moves them the way it should.
#[test]
fn prop_words_move_a_reading_their_way() {
    let player = Player::default();
    let disc = purlin([7.0, 5.0, -1.0, 1.0]);
    let mut throw = made(&player, &disc, Fault::NoseUp, 4.0, 0.0, &mut StdRng::seed_from_u64(2));
    throw.seen = SeenFlight::default();
    let plain = read(&player, &disc, &throw);
    assert!((plain.readings.iter().map(|r| r.share).sum::<f64>() - 1.0).abs() < 1e-9);
    let flown = plain.flown.as_ref().unwrap();
    let rest = throw.rest().unwrap();
    assert!((flown.rest.x_m - rest.at_m).hypot(flown.rest.y_m - rest.left_m) < 4.0);
    let with = |change: &dyn Fn(&mut SeenFlight)| {
        let mut told = throw.clone();
        change(&mut told.seen);
        read(&player, &disc, &told)
    };
    let higher = with(&|seen| seen.height = Some(HowHigh::Higher));
    let lower = with(&|seen| seen.height = Some(HowHigh::Lower));
    assert!(share(&higher, Fault::NoseUp) > share(&lower, Fault::NoseUp));
    let [left, right] = [CameDown::LeftEdge, CameDown::RightEdge]
        .map(|edge| share(&with(&|seen| seen.landed = Some(edge)), Fault::Anhyzer));
    assert!(right > left, "on its right edge it was on anhyzer rather: {right} {left}");
    let [left, right] = [FirstWent::Left, FirstWent::Right]
        .map(|way| share(&with(&|seen| seen.first = Some(way)), Fault::Anhyzer));
    assert!(right > left, "{right} {left}");
}

/// A guess says less than a measurement: the first reading is no surer by it.
#[test]
fn prop_a_guess_says_less() {
    let player = Player::default();
    let disc = purlin(DISCS[1]);
    let surest = |seed: u64, tags: Vec<ThrowTag>| {
        let mut throw = made(&player, &disc, Fault::Anhyzer, 10.0, STEADY, &mut StdRng::seed_from_u64(seed));
        throw.tags = tags;
        read(&player, &disc, &throw).readings[0].share
    };
    let mean = |tags: &[ThrowTag]| (0..20).map(|seed| surest(seed, tags.to_vec())).sum::<f64>() / 20.0;
    assert!(mean(&[]) > mean(&[ThrowTag::ByEye]) + 0.01);
}

#[test]
fn prop_what_is_not_told_is_not_read() {
    let (player, disc) = (Player::default(), purlin(DISCS[0]));
    let mut throw = FieldThrow::of(&disc, Style::Backhand, Meant::Flat);
    let nothing = read(&player, &disc, &throw);
    assert!(nothing.readings.is_empty() && nothing.flown.is_none() && nothing.meant.path.len() > 3);
    throw.distance_m = Some(400.0);
    throw.off_deg = Some(-170.0);
    let odd = read(&player, &disc, &throw);
    assert_eq!(odd.readings[0].fault, Fault::Another, "400 m behind the tee is no error of the release");
    assert!(odd.readings.iter().all(|r| r.share.is_finite() && r.size.is_finite()));
    throw.distance_m = Some(900.0);
    let refused = read_throw(&player, &disc, Measured { session: &session(), throw: &throw });
    assert_eq!(refused.unwrap_err().field(), "distance_m");
}

/// A putt that was typed as 300 m spoils neither the others of its session nor what is said of them.
#[test]
fn regress_an_absurd_throw_spoils_no_session() {
    let (player, disc) = (Player::default(), purlin([2.0, 3.0, 0.0, 1.0]));
    let putt = |far: f64| FieldThrow {
        distance_m: Some(far),
        off_deg: Some(0.5),
        ..FieldThrow::of(&disc, Style::Putt, Meant::Flat)
    };
    let mut throws: Vec<FieldThrow> = (0..8).map(|k| putt(16.0 + 0.1 * f64::from(k))).collect();
    throws.push(putt(300.0));
    let read = together(&player, &disc, &throws);
    let habits = &read.styles[0];
    assert!(habits.faults.iter().all(|f| f.share.is_finite() && f.size.is_finite()), "{habits:?}");
    assert!(read.throws.iter().flatten().all(|r| r.share.is_finite()));
    assert_eq!(read.throws[8].as_ref().unwrap().fault, Fault::Another);
}

fn together(player: &Player, disc: &Disc, throws: &[FieldThrow]) -> SessionReading {
    let session = session();
    let measured: Vec<Measured> = throws.iter().map(|throw| Measured { session: &session, throw }).collect();
    read_session(player, std::slice::from_ref(disc), &measured).unwrap()
}

/// Of sessions whose every throw has an error on top of the player's whole scatter, how many are said to have that habit, and any other.
fn found(fault: Fault, size: f64) -> (f64, f64) {
    let player = Player::default();
    let disc = purlin([7.0, 5.0, -1.5, 1.0]);
    let said: Vec<Option<Fault>> = (0..60u64)
        .into_par_iter()
        .map(|seed| {
            let mut random = StdRng::seed_from_u64(500 + seed);
            let throws: Vec<FieldThrow> =
                (0..24).map(|_| made(&player, &disc, fault, size, 1.0, &mut random)).collect();
            together(&player, &disc, &throws).styles[0].habit
        })
        .collect();
    let share = |of: &dyn Fn(&Option<Fault>) -> bool| said.iter().filter(|s| of(s)).count() as f64 / 60.0;
    (share(&|s| *s == Some(fault)), share(&|s| s.is_some_and(|other| other != fault)))
}

#[rstest]
#[case(Fault::NoseUp, 3.0)]
#[case(Fault::Slow, 5.0)]
#[case(Fault::Hyzer, 5.0)]
fn val_a_habit_is_found(#[case] fault: Fault, #[case] size: f64) {
    let (right, wrong) = found(fault, size);
    assert!(right >= 0.7 && wrong <= 0.05, "{fault:?}: {right}, another {wrong}");
}

#[test]
fn val_scatter_alone_is_no_habit() {
    let (_, wrong) = found(Fault::None, 0.0);
    assert!(wrong <= 0.07, "{wrong}");
}

/// A habit makes each throw of the session read toward it; too few throws tell none, and what cannot be read says nothing.
#[test]
fn prop_a_session_is_read_throw_by_throw() {
    let (player, disc) = (Player::default(), purlin([7.0, 5.0, -1.5, 1.0]));
    let mut random = StdRng::seed_from_u64(9);
    let mut throws: Vec<FieldThrow> =
        (0..20).map(|_| made(&player, &disc, Fault::Hyzer, 8.0, 0.6, &mut random)).collect();
    throws[3].tags = vec![ThrowTag::Hit];
    throws[4].distance_m = None;
    throws[5].disc_id = None;
    let all = together(&player, &disc, &throws);
    let readable: Vec<bool> = all.throws.iter().map(Option::is_some).collect();
    assert_eq!(readable.iter().filter(|r| !**r).count(), 3);
    assert!(!readable[3] && !readable[4] && !readable[5]);
    let habits = &all.styles[0];
    assert_eq!((habits.style, habits.read, habits.habit), (Style::Backhand, 17, Some(Fault::Hyzer)));
    assert!((habits.faults.iter().map(|f| f.share).sum::<f64>() - 1.0).abs() < 1e-9);
    let alone = read(&player, &disc, &throws[0]);
    let first = all.throws[0].as_ref().unwrap();
    assert_eq!(first.fault, Fault::Hyzer);
    assert!(first.share > share(&alone, Fault::Hyzer), "{} {}", first.share, share(&alone, Fault::Hyzer));

    let few = together(&player, &disc, &throws[..3]);
    assert_eq!((few.styles[0].habit, few.styles[0].faults.len()), (None, 0));
    assert!(together(&player, &disc, &[]).styles.is_empty());
}

/// An understable disc thrown flat moves more by the same tilt than an overstable one of its kind, at every arm: it shows what the other
/// hides.
#[rstest]
fn trade_an_understable_disc_shows_what_an_overstable_one_hides(
    #[values(75.0, 95.0, 115.0)] drive_m: f64,
    #[values(Style::Backhand, Style::Forehand)] style: Style,
    #[values(
        ([7.0, 5.0, -3.0, 1.0], [7.0, 4.0, 0.0, 3.0]),
        ([5.0, 5.0, -3.0, 0.0], [5.0, 4.0, 0.0, 3.0]),
        ([9.0, 5.0, -2.0, 2.0], [9.0, 4.0, 0.0, 4.0])
    )]
    discs: ([f64; 4], [f64; 4]),
) {
    let player = Player { backhand_m: drive_m, forehand_m: 0.8 * drive_m, ..Player::default() };
    let (mut under, mut over) = (purlin(discs.0), purlin(discs.1));
    (under.spec.name, over.spec.name) = ("under".into(), "over".into());
    let told = form_check(&player, style, &[over, under]).unwrap().unwrap();
    let tilt = |name: &str| {
        let disc = told.discs.iter().find(|d| d.name == name).unwrap();
        disc.errors.iter().filter(|e| e.fault != Fault::NoseUp).map(|e| e.moves_m).sum::<f64>()
    };
    assert!(tilt("under") > 1.2 * tilt("over"), "{} {}", tilt("under"), tilt("over"));
    assert_eq!(told.discs[0].name, "under");
    assert!(told.words.starts_with("Throw under flat"), "{}", told.words);
    assert_eq!(form_check(&player, Style::Thumber, &[]).unwrap(), None);
}
