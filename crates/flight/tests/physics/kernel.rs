//! The kernel: that side by side is as alone, that a step is as short as it must be, and what it does with the unusual.

use crate::common::{backhand, disc};
use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::{
    fly_all, fly_all_parallel, fly_one, fly_reference, fly_roughly, fly_with_paths, validate,
};
use zinc_kite_flight::disc::Disc;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::error::FlightError;
use zinc_kite_flight::outcome::{Crossings, MAX_GATES, Outcome};
use zinc_kite_flight::release::{Release, Style};
use zinc_kite_flight::scatter::{POINTS, Spread, deviates};

/// Throws of four discs with a wide scatter, in wind.
fn throws(n: usize) -> Vec<Throw> {
    let spread = Spread { speed: 0.1, hyzer_deg: 12.0, launch_deg: 5.0, nose_deg: 4.0, aim_deg: 8.0 };
    let discs = [(3.0, 3.0, 0.0, 1.0), (5.0, 4.0, -1.0, 1.0), (9.0, 5.0, -2.0, 1.0), (12.0, 5.0, -1.0, 3.0)];
    (0..n)
        .map(|k| {
            let (s, g, t, f) = discs[k % discs.len()];
            let centre = backhand(disc(s, g, t, f), 50.0 + s, 0.0);
            let wind = Wind { along_m_s: (k % 11) as f64 - 5.0, left_m_s: (k % 7) as f64 - 3.0 };
            let style = Style::ALL[k % 2];
            let release = Release { style, ..centre.release };
            let centre = Throw { wind, release, ..centre };
            spread.displace(&centre, 1.0, &deviates(style)[k % POINTS])
        })
        .collect()
}

fn off_m(a: &Outcome, b: &Outcome) -> f64 {
    (a.x_m - b.x_m).hypot(a.y_m - b.y_m)
}

/// Of all throws a player might make, 999 in 1000 land within a centimetre of where a path a hundred times as exact does, none
/// by more than three, and half of them within half a millimetre.
#[rstest]
#[case(0.0)]
#[case(0.14)]
#[case(0.25)]
fn prop_nearly_every_landing_is_right_to_a_centimetre(#[case] shear: f64) {
    let (throws, air) = (throws(4000), Air::new(1.2, shear).unwrap());
    let (found, exact) = (fly_all(&throws, &air, &[]), fly_reference(&throws, &air, &[], 1e-3));
    let mut off: Vec<f64> = found.iter().zip(&exact).map(|(a, b)| off_m(a, b)).collect();
    off.sort_by(f64::total_cmp);
    let (middle, most, worst) = (off[off.len() / 2], off[off.len() - 5], off[off.len() - 1]);
    assert!(middle < 5e-4 && most < 0.01 && worst < 0.03, "{middle:.5} {most:.4} {worst:.4}");
}

/// A search that flies them roughly is off by no more than what a player paces out.
#[test]
fn prop_a_rough_landing_is_right_to_three_centimetres() {
    let (throws, air) = (throws(4000), Air::new(1.2, 0.14).unwrap());
    let (rough, found) = (fly_roughly(&throws, &air, &[]), fly_all(&throws, &air, &[]));
    let mut off: Vec<f64> = rough.iter().zip(&found).map(|(a, b)| off_m(a, b)).collect();
    off.sort_by(f64::total_cmp);
    let (middle, most, worst) = (off[off.len() / 2], off[off.len() - 5], off[off.len() - 1]);
    assert!(middle < 1e-3 && most < 0.03 && worst < 0.1, "{middle:.5} {most:.4} {worst:.4}");
}

/// What single precision rounds away is a tenth of a millimetre for half of all throws and a millimetre for nearly all: where it
/// is more, it decided whether a step was short enough.
#[test]
fn prop_single_precision_costs_a_tenth_of_a_millimetre() {
    let (throws, air) = (throws(4000), Air::new(1.2, 0.14).unwrap());
    let (lanes, double) = (fly_all(&throws, &air, &[]), fly_reference(&throws, &air, &[], 1.0));
    let mut off: Vec<f64> = lanes.iter().zip(&double).map(|(a, b)| off_m(a, b)).collect();
    off.sort_by(f64::total_cmp);
    let (middle, most) = (off[off.len() / 2], off[off.len() * 99 / 100]);
    assert!(middle < 1e-4 && most < 1e-3, "{middle:.6} {most:.6}");
}

/// A smaller tolerance comes nearer to the exact path, ever more surely.
#[test]
fn prop_a_smaller_tolerance_lands_more_exactly() {
    let (throws, air) = (throws(400), Air::new(1.2, 0.14).unwrap());
    let exact = fly_reference(&throws, &air, &[], 1e-5);
    let rms = |tolerance: f64| {
        let flown = fly_reference(&throws, &air, &[], tolerance);
        let squares: f64 = flown.iter().zip(&exact).map(|(a, b)| off_m(a, b).powi(2)).sum();
        (squares / throws.len() as f64).sqrt()
    };
    let errors = [30.0, 1.0, 0.03, 1e-3].map(rms);
    assert!(errors.windows(2).all(|e| e[1] < 0.5 * e[0]), "{errors:?}");
    assert!(errors[1] < 2e-3 && errors[3] < 1e-4, "{errors:?}");
}

/// Every number of throws, also none and those that do not fill a register, in any order: the same outcomes, each in its
/// place.
#[test]
fn prop_any_number_of_throws_in_any_order() {
    let (all, air, gates) = (throws(131), Air::new(1.2, 0.14).unwrap(), [20.0, 45.0]);
    let alone: Vec<Outcome> = all.iter().map(|t| fly_all(&[*t], &air, &gates)[0]).collect();
    for n in [0, 1, 2, 7, 8, 15, 16, 17, 31, 32, 33, 64, 131] {
        assert_eq!(fly_all(&all[..n], &air, &gates), alone[..n], "{n} throws");
        assert_eq!(fly_all_parallel(&all[..n], &air, &gates), alone[..n], "{n} throws on all threads");
    }
    let backward: Vec<Throw> = all.iter().rev().copied().collect();
    let mut found = fly_all(&backward, &air, &gates);
    found.reverse();
    assert_eq!(found, alone);
    let shuffled: Vec<usize> = (0..131).map(|k| k * 50 % 131).collect();
    let mixed: Vec<Throw> = shuffled.iter().map(|&k| all[k]).collect();
    for (outcome, &k) in fly_all(&mixed, &air, &gates).iter().zip(&shuffled) {
        assert_eq!(outcome, &alone[k], "throw {k}");
    }
}

/// Watching gates changes no flight; a gate is passed if and only if the disc comes so far, and its height is never below the
/// ground; gates past the most are not watched.
#[test]
fn prop_gates_only_watch() {
    let (all, air) = (throws(200), Air::new(1.2, 0.14).unwrap());
    let plain = fly_all(&all, &air, &[]);
    let mut gates = [5.0; MAX_GATES + 2];
    gates[..4].copy_from_slice(&[5.0, 25.0, 60.0, 110.0]);
    for (seen, plain) in fly_all(&all, &air, &gates).iter().zip(&plain) {
        assert_eq!(Outcome { crossings: plain.crossings, ..*seen }, *plain);
        assert_eq!(plain.crossings, Crossings::NONE);
        for (k, gate) in gates[..MAX_GATES].iter().enumerate() {
            if seen.x_m > *gate {
                let c = seen.crossings.get(k).unwrap();
                let (y_m, z_m) = (f64::from(c.y_m), f64::from(c.z_m));
                assert!(z_m >= 0.0 && z_m <= seen.apex_m + 1e-4, "{c:?} {}", seen.apex_m);
                assert!(y_m <= seen.farthest_left_m + 1e-3 && -y_m <= seen.farthest_right_m + 1e-3);
            }
        }
        let passed = (0..4).map(|k| seen.crossings.get(k).is_some()).collect::<Vec<_>>();
        assert!(
            passed.windows(2).all(|p| p[0] || !p[1]),
            "no later gate without the ones before: {passed:?}"
        );
    }
}

/// What lands has landed: on the ground, going down, with its disc's normal of length one and its spin nearly kept.
#[test]
fn prop_a_landing_is_a_landing() {
    for o in fly_all(&throws(500), &Air::new(1.2, 0.14).unwrap(), &[]) {
        assert!(o.landed && o.time_s > 0.3 && o.time_s < 20.0, "{o:?}");
        let [_, _, vz] = o.touch.velocity_m_s;
        assert!(vz < 0.0 && o.descent_deg() > 0.0 && o.landing_speed_m_s() > 3.0, "{o:?}");
        let length = o.touch.normal.iter().map(|n| n * n).sum::<f64>();
        assert_abs_diff_eq!(length, 1.0, epsilon = 1e-3);
        assert!(o.touch.spin_rad_s.abs() > 20.0, "{o:?}");
        assert!(o.apex_m >= 0.9 && o.run_m == 0.0);
        assert!(o.farthest_left_m >= o.y_m - 1e-4 && -o.farthest_right_m <= o.y_m + 1e-4, "{o:?}");
    }
}

/// A path begins in the hand, ends where the outcome says and never steps back in time.
#[test]
fn prop_a_path_leads_from_the_hand_to_the_landing() {
    let (all, air) = (throws(40), Air::new(1.2, 0.14).unwrap());
    for (throw, (o, path)) in all.iter().zip(fly_with_paths(&all, &air)) {
        let (first, last) = (path.first().unwrap(), path.last().unwrap());
        assert_abs_diff_eq!(first.z_m, throw.release.height_m, epsilon = 1e-5);
        assert!(first.t_s == 0.0 && first.x_m == 0.0 && first.y_m == 0.0);
        assert!(last.x_m == o.x_m && last.y_m == o.y_m && last.z_m == 0.0 && last.t_s == o.time_s);
        let speed = throw.release.speed_m_s;
        for p in path.windows(2) {
            let step = ((p[1].x_m - p[0].x_m).powi(2)
                + (p[1].y_m - p[0].y_m).powi(2)
                + (p[1].z_m - p[0].z_m).powi(2))
            .sqrt();
            assert!(p[1].t_s > p[0].t_s && step <= 1.3 * speed * (p[1].t_s - p[0].t_s) + 0.02, "{p:?}");
        }
    }
}

/// What a user could have given wrongly is refused by name with its range, and never flown.
#[rstest]
#[case("mass", |t: &mut Throw| t.disc.mass_kg = 0.0)]
#[case("mass", |t: &mut Throw| t.disc.mass_kg = f64::NAN)]
#[case("speed", |t: &mut Throw| t.release.speed_m_s = 0.0)]
#[case("speed", |t: &mut Throw| t.release.speed_m_s = 400.0)]
#[case("spin", |t: &mut Throw| t.release.spin_rad_s = -1.0)]
#[case("launch", |t: &mut Throw| t.release.launch_deg = 91.0)]
#[case("hyzer", |t: &mut Throw| t.release.hyzer_deg = f64::INFINITY)]
#[case("nose", |t: &mut Throw| t.release.nose_deg = 200.0)]
#[case("aim", |t: &mut Throw| t.release.aim_deg = f64::NEG_INFINITY)]
#[case("height", |t: &mut Throw| t.release.height_m = -1.0)]
#[case("wind", |t: &mut Throw| t.wind.along_m_s = 1e9)]
#[case("wind", |t: &mut Throw| t.wind.left_m_s = f64::NAN)]
fn prop_a_bad_throw_is_named_and_never_flown(#[case] part: &str, #[case] spoil: fn(&mut Throw)) {
    let mut throw = backhand(disc(5.0, 4.0, -1.0, 1.0), 50.0, 0.0);
    assert_eq!(validate(&throw), Ok(()));
    spoil(&mut throw);
    let error = validate(&throw).unwrap_err();
    let FlightError::OutOfRange { name, min, max, .. } = error else { panic!("{error}") };
    assert!(name.contains(part) && min < max, "{error}");
    let told = fly_one(&throw, &Air::default()).map(drop).unwrap_err();
    assert_eq!(told.to_string(), error.to_string());
}

/// Air and disc that cannot be are refused as well.
#[test]
fn prop_impossible_air_and_discs_are_refused() {
    for (density, shear) in
        [(-0.1, 0.0), (2.1, 0.0), (f64::NAN, 0.1), (1.2, -0.1), (1.2, 9.0), (1.2, f64::NAN)]
    {
        assert!(Air::new(density, shear).is_err(), "{density} {shear}");
    }
    let c = disc(5.0, 4.0, -1.0, 1.0).coefficients;
    for mass in [0.0, -0.17, f64::NAN, f64::INFINITY, 40.0] {
        assert!(Disc::standard(c, mass).is_err(), "{mass}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 128, ..ProptestConfig::default() })]

    /// A stronger arm, all else alike, starts faster and keeps the sign of everything: more speed never shortens the time to
    /// the ground of a level throw by much.
    #[test]
    fn prop_a_little_more_speed_changes_a_flight_a_little(
        numbers in (2.0..13.0f64, 3.0..6.0f64, -3.0..0.0f64, 0.0..4.0f64),
        mph in 35.0..65.0f64,
        hyzer in -15.0..30.0f64,
    ) {
        let (s, g, t, f) = numbers;
        let at = |mph: f64| fly_all(&[backhand(disc(s, g, t, f), mph, hyzer)], &Air::default(), &[])[0];
        let (a, b) = (at(mph), at(mph + 0.01));
        prop_assert!(off_m(&a, &b) < 0.25, "{} m for a hundredth of a mile an hour", off_m(&a, &b));
        prop_assert!((a.time_s - b.time_s).abs() < 0.05 && (a.apex_m - b.apex_m).abs() < 0.05);
    }
}
