//! What a disc does on the ground. Common practice, no source, unless a test says otherwise.

use crate::common::{M_S_PER_MPH, backhand, disc, flown};
use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_flight::air::Air;
use zinc_kite_flight::disc::Disc;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::ground::{Contact, Ground, Rim};
use zinc_kite_flight::outcome::{Crossing, Outcome, Touch};
use zinc_kite_flight::release::{Hand, Release};
use zinc_kite_flight::settle::{Manner, settle, settle_all};

const STIFF: Rim = Rim { softness: 0.1, wear: 0.0, width_m: 0.018 };

/// Of an ordinary driver, wherever the disc itself does not matter.
fn on(ground: Ground, rim: &Rim, test: impl FnOnce(&Contact)) {
    let driver: Disc = disc(9.0, 5.0, -1.0, 2.0);
    test(&Contact { ground, disc: &driver, rim, air: &Air::default() });
}

fn landing(speed_m_s: f64, descent_deg: f64, bank_deg: f64) -> Outcome {
    let mut o = flown(backhand(disc(9.0, 5.0, -1.0, 2.0), 60.0, 0.0));
    let (sin, cos) = descent_deg.to_radians().sin_cos();
    let bank = bank_deg.to_radians();
    (o.x_m, o.y_m) = (100.0, 0.0);
    o.touch = Touch {
        velocity_m_s: [speed_m_s * cos, 0.0, -speed_m_s * sin],
        normal: [0.0, bank.sin(), bank.cos()],
        spin_rad_s: 60.0,
        slope: 0.0,
    };
    o
}

fn run(mut o: Outcome, ground: Ground, rim: Rim) -> (f64, Manner) {
    let mut manner = Manner::Sits;
    on(ground, &rim, |contact| manner = settle(&mut o, contact));
    (o.run_m, manner)
}

#[test]
fn trade_a_spike_hyzer_sits_where_it_lands() {
    let spike = backhand(disc(5.0, 4.0, 0.0, 4.0), 55.0, 55.0);
    let spike = Throw { release: Release { launch_deg: 35.0, ..spike.release }, ..spike };
    for ground in [Ground::Soft, Ground::Turf, Ground::Snow] {
        let (run_m, manner) = run(flown(spike), ground, STIFF);
        assert!(run_m < 2.0 && manner == Manner::Sits, "{ground:?}: {run_m:.1} m");
    }
}

#[test]
fn trade_a_flat_drive_slides_on_grass_and_skips_on_hard_ground() {
    let (grass, on_grass) = run(landing(16.0, 14.0, 10.0), Ground::Turf, STIFF);
    let (hard, on_hard) = run(landing(16.0, 14.0, 10.0), Ground::Hard, STIFF);
    assert!((5.0..15.0).contains(&grass) && on_grass != Manner::Sits, "{grass:.1} m on grass");
    assert!((12.0..30.0).contains(&hard) && on_hard == Manner::Skips, "{hard:.1} m on hard ground");
    let (soft, _) = run(landing(16.0, 14.0, 10.0), Ground::Soft, STIFF);
    assert!(soft < grass && grass < hard, "{soft:.1} {grass:.1} {hard:.1}");
}

/// A flat full mid-range runs on for some six to twelve metres of short grass, a driver no more.
#[rstest]
#[case((5.0, 4.0, 0.0, 3.0), 50.0)]
#[case((5.0, 4.0, 0.0, 3.0), 55.0)]
#[case((5.0, 4.0, -1.0, 1.0), 55.0)]
#[case((7.0, 5.0, 0.0, 2.0), 59.0)]
#[case((9.0, 5.0, -1.0, 2.0), 62.0)]
fn trade_a_flat_throw_runs_on_a_little(#[case] numbers: (f64, f64, f64, f64), #[case] mph: f64) {
    let (s, g, t, f) = numbers;
    let (run_m, _) = run(flown(backhand(disc(s, g, t, f), mph, 0.0)), Ground::Turf, STIFF);
    assert!((5.0..12.0).contains(&run_m), "{run_m:.1} m");
}

#[test]
fn trade_soft_and_scuffed_rims_grip() {
    let at = |rim| run(landing(15.0, 15.0, 10.0), Ground::Turf, rim).0;
    assert!(at(Rim { softness: 0.7, ..STIFF }) < at(STIFF));
    assert!(at(Rim { wear: 0.9, ..STIFF }) < at(STIFF));
}

#[test]
fn trade_a_skip_goes_toward_the_lower_edge() {
    // A right-hand backhand on hyzer comes in with its left edge down.
    let thrown = flown(backhand(disc(9.0, 4.0, 0.0, 4.0), 60.0, 10.0));
    let mut rested = thrown;
    on(Ground::Hard, &STIFF, |contact| _ = settle(&mut rested, contact));
    let [vx, vy, _] = thrown.touch.velocity_m_s;
    let straight_on = vy.atan2(vx);
    let went = (rested.y_m - thrown.y_m).atan2(rested.x_m - thrown.x_m);
    assert!(thrown.touch.normal[1] > 0.1, "left edge down");
    assert!(went > straight_on + 0.05, "kicks left: {went:.2} against {straight_on:.2}");
}

#[rstest]
#[case(Ground::Soft)]
#[case(Ground::Turf)]
#[case(Ground::Hard)]
#[case(Ground::Snow)]
fn prop_steeper_stops_sooner_and_faster_runs_farther(#[case] ground: Ground) {
    let at = |speed: f64, descent: f64| run(landing(speed, descent, 5.0), ground, STIFF).0;
    for k in 1..8 {
        let (descent, speed) = (8.0 * f64::from(k), 6.0 + 2.0 * f64::from(k));
        let (steeper, flatter) = (at(15.0, descent + 8.0), at(15.0, descent));
        assert!(steeper < flatter || flatter < 0.05, "{descent}°");
        assert!(at(speed + 2.0, 12.0) > at(speed, 12.0), "{speed} m/s");
    }
    assert!(at(20.0, 89.9) < 0.1, "straight down stays");
}

/// On the edge that its spin drives backward it does not roll.
#[test]
fn prop_a_disc_on_the_wrong_edge_tumbles_to_a_stop() {
    let flat = run(landing(15.0, 12.0, 10.0), Ground::Turf, STIFF).0;
    let edge = run(landing(15.0, 12.0, 75.0), Ground::Turf, STIFF).0;
    assert!(edge < 0.3 * flat, "{edge:.1} against {flat:.1}");
}

#[test]
fn prop_what_never_landed_does_not_run() {
    let mut o = Outcome { landed: false, ..landing(15.0, 12.0, 0.0) };
    let before = o;
    on(Ground::Hard, &STIFF, |contact| assert_eq!(settle(&mut o, contact), Manner::Sits));
    assert_eq!(o, before);
}

/// What slides passes the gates between its touch and its rest, on the ground and on its way; one passed in the air it passed there,
/// and to one behind its rest it never came.
#[test]
fn prop_what_slides_passes_gates_on_the_ground() {
    let (in_the_air, gates) = (Crossing { y_m: -3.0, z_m: 4.0 }, [60.0, 101.0, 105.0, 140.0]);
    let thrown = |k: i32| {
        let mut o =
            landing(16.0 - 0.2 * f64::from(k % 20), 8.0 + 0.5 * f64::from(k), -60.0 + 3.0 * f64::from(k));
        o.crossings.set(0, Some(in_the_air));
        o
    };
    let mut flights: Vec<Outcome> = (0..40).map(thrown).collect();
    on(Ground::Turf, &STIFF, |contact| settle_all(&mut flights, contact, &gates));
    flights.retain(|o| !o.rolled);
    for o in &flights {
        assert_eq!(o.crossings.get(0), Some(in_the_air));
        assert_eq!(o.crossings.get(3), None, "{:.1} m", o.x_m);
        for k in [1, 2] {
            let Some(c) = o.crossings.get(k) else {
                assert!(o.x_m < gates[k], "{:.1} m", o.x_m);
                continue;
            };
            let on_its_way = o.y_m * (gates[k] - 100.0) / (o.x_m - 100.0);
            assert!(o.x_m >= gates[k] && c.z_m == 0.0);
            assert_abs_diff_eq!(f64::from(c.y_m), on_its_way, epsilon = 1e-4);
        }
    }
    let passed = flights.iter().filter(|o| o.crossings.get(2).is_some()).count();
    assert!(passed > 5 && passed < flights.len(), "{passed} of {}", flights.len());
}

/// Many at once come to rest where each alone does, the one that never landed among them, but for what single precision
/// rounds away.
#[test]
fn prop_company_changes_no_run() {
    let mut together: Vec<Outcome> = (0..37)
        .map(|k| {
            let k = f64::from(k);
            Outcome { landed: k != 5.0, ..landing(16.0 - 0.2 * k, 4.0 + 0.9 * k, 80.0 - 4.5 * k) }
        })
        .collect();
    for ground in Ground::ALL {
        let mut alone = together.clone();
        on(ground, &STIFF, |contact| {
            alone.iter_mut().for_each(|o| _ = settle(o, contact));
            settle_all(&mut together, contact, &[]);
        });
        for (a, b) in together.iter().zip(&alone) {
            assert_abs_diff_eq!(a.x_m, b.x_m, epsilon = 1e-3);
            assert_abs_diff_eq!(a.y_m, b.y_m, epsilon = 1e-3);
            assert_abs_diff_eq!(a.run_m, b.run_m, epsilon = 1e-3);
        }
        assert!(together.iter().any(|o| o.run_m > 0.5) && together[5].run_m == 0.0);
    }
}

proptest! {
    /// A left-hander's disc runs as a right-hander's does, mirrored; a run is finite, forward and told alike by its length
    /// and its place.
    #[test]
    fn prop_the_ground_knows_no_left_and_right(
        mph in 30.0f64..70.0,
        hyzer in -90.0f64..60.0,
        launch in 0.0f64..40.0,
        soft in 0.0f64..1.0,
        wear in 0.0f64..1.0,
        kind in 0usize..4,
    ) {
        let (ground, rim) = (Ground::ALL[kind], Rim { softness: soft, wear, ..STIFF });
        rim.validate().unwrap();
        let flat = backhand(disc(7.0, 5.0, -1.0, 2.0), mph, hyzer);
        let right = Release { launch_deg: launch, ..flat.release };
        let [mut a, mut b] = [Hand::Right, Hand::Left]
            .map(|hand| flown(Throw { release: Release { hand, ..right }, ..flat }));
        let touch = (a.x_m, a.y_m);
        let contact = Contact { ground, disc: &flat.disc, rim: &rim, air: &Air::default() };
        prop_assert_eq!(settle(&mut a, &contact), settle(&mut b, &contact));
        prop_assert!((a.x_m - b.x_m).abs() < 1e-6 && (a.y_m + b.y_m).abs() < 1e-6);
        prop_assert!(a.run_m.is_finite() && a.run_m >= 0.0 && a.run_m < 250.0);
        let straight = (a.x_m - touch.0).hypot(a.y_m - touch.1);
        prop_assert!(straight < a.run_m + 1e-9, "no way is shorter");
    }
}

/// Common practice from memory: a putt from the edge of the circle leaves at some 10 to 14 m/s and takes about a second.
#[test]
fn trade_a_putt_from_the_circle_takes_less_than_half_an_arm() {
    let flat = backhand(disc(2.0, 3.0, 0.0, 1.0), 20.0, 0.0);
    let putt = |speed_m_s: f64| Release {
        launch_deg: 12.0,
        height_m: 1.3 - 0.82,
        spin_rad_s: 0.42 * speed_m_s / 0.106,
        speed_m_s,
        ..flat.release
    };
    let speeds: Vec<f64> = (0..100).map(|k| 6.0 + 0.1 * f64::from(k)).collect();
    let reaches = |speed: f64| flown(Throw { release: putt(speed), ..flat });
    let first = speeds.into_iter().find(|speed| reaches(*speed).distance_m() > 11.0).unwrap();
    let time_s = reaches(first).time_s;
    assert!((9.5..14.5).contains(&first), "{first:.1} m/s, {:.0} mph", first / M_S_PER_MPH);
    assert!((0.6..1.5).contains(&time_s), "{time_s:.2} s");
}
