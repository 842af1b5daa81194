//! Flights over ground that is not level.

use crate::common::{backhand, disc};
use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_flight::air::{Air, GRAVITY_M_S2, Wind};
use zinc_kite_flight::batch::{fly_all, fly_with_paths};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::ground::{Contact, Ground, Rim};
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{Hand, Release, Style};
use zinc_kite_flight::settle::settle_all;
use zinc_kite_flight::terrain::Terrain;

fn over(places: &[(f64, f64)]) -> Air {
    Air::new(1.2, 0.14).unwrap().over(Terrain::through(places).unwrap())
}

fn driver() -> Throw {
    backhand(disc(9.0, 5.0, -1.0, 2.0), 58.0, 5.0)
}

fn fly(throw: Throw, air: &Air) -> Outcome {
    fly_all(&[throw], air, &[])[0]
}

/// Without air a stone thrown from height h at speed v and angle θ meets ground that rises by s a metre where
/// h + x tan θ − g x²/(2 v² cos²θ) = s x (any textbook of mechanics: the range on an incline).
#[rstest]
#[case(20.0, 11.0, 0.1)]
#[case(20.0, 11.0, -0.2)]
#[case(14.0, 30.0, 0.3)]
#[case(14.0, 2.0, -0.4)]
fn val_a_stone_over_a_slope(#[case] speed: f64, #[case] launch: f64, #[case] slope: f64) {
    let release = Release { launch_deg: launch, ..Release::rated(speed, Hand::Right, Style::Backhand) };
    let throw = Throw { disc: disc(9.0, 5.0, -1.0, 2.0), release, wind: Wind::CALM };
    let vacuum = Air::new(0.0, 0.0).unwrap().over(Terrain::through(&[(120.0, 120.0 * slope)]).unwrap());
    let flight = fly(throw, &vacuum);
    let (sin, cos) = launch.to_radians().sin_cos();
    let a = GRAVITY_M_S2 / (2.0 * (speed * cos).powi(2));
    let b = sin / cos - slope;
    let x = (b + (b * b + 4.0 * a * release.height_m).sqrt()) / (2.0 * a);
    assert_abs_diff_eq!(flight.x_m, x, epsilon = 2e-5 * x);
    // Highest above the slope where the path runs along it.
    let highest = release.height_m + b.max(0.0).powi(2) / (4.0 * a);
    assert_abs_diff_eq!(flight.apex_m, highest, epsilon = 1e-4 * highest);
    assert_abs_diff_eq!(flight.touch.slope, slope, epsilon = 1e-6);
}

#[test]
fn prop_level_places_change_nothing() {
    assert!(Terrain::through(&[(40.0, 0.0), (90.0, 0.0)]).unwrap().is_level());
    assert_eq!(fly(driver(), &over(&[(40.0, 0.0)])), fly(driver(), &over(&[])));
}

/// A trifle of a slope is a trifle of a change, and a disc that passes over a valley lands beyond it as if there were none,
/// but for the wind in it.
#[test]
fn prop_little_slope_little_change() {
    let level = fly(driver(), &over(&[]));
    let slight = fly(driver(), &over(&[(300.0, -0.03)]));
    assert!((slight.x_m - level.x_m).abs() < 0.1 && slight.x_m > level.x_m, "{} {}", slight.x_m, level.x_m);
    let valley = fly(driver(), &over(&[(20.0, 0.0), (30.0, -6.0), (40.0, -6.0), (50.0, 0.0)]));
    assert_abs_diff_eq!(valley.x_m, level.x_m, epsilon = 0.01);
    assert!(valley.apex_m > level.apex_m + 3.0, "it is high over the valley");
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, failure_persistence: None, ..ProptestConfig::default() })]

    /// Where it lands its path meets the ground, and nowhere before; gates tell heights above the ground beneath.
    #[test]
    fn prop_a_disc_lands_on_the_ground(
        heights in prop::array::uniform4(-8.0..8.0f64), mph in 40.0..66.0f64, hyzer in -15.0..30.0f64, wind in -6.0..6.0f64,
    ) {
        let places: Vec<(f64, f64)> = heights.iter().enumerate().map(|(k, z)| (25.0 * (k + 1) as f64, *z)).collect();
        let air = over(&places);
        let still = backhand(disc(9.0, 5.0, -2.0, 1.0), mph, hyzer);
        let throw = Throw { wind: Wind { along_m_s: wind, left_m_s: -wind }, ..still };
        let (outcome, path) = fly_with_paths(&[throw], &air).remove(0);
        let last = path.last().unwrap();
        let above = |x: f64, z: f64| z - air_height(&places, x);
        prop_assert!(outcome.landed && above(outcome.x_m, last.z_m).abs() < 1e-3, "{outcome:?}");
        prop_assert!(path[..path.len() - 2].iter().all(|p| above(p.x_m, p.z_m) > -0.02));
        let highest = path.iter().map(|p| above(p.x_m, p.z_m)).fold(0.0, f64::max);
        prop_assert!((outcome.apex_m - highest).abs() < 0.25, "{} {highest}", outcome.apex_m);
        let crossing = fly_all(&[throw], &air, &[30.0])[0].crossings.get(0);
        prop_assert_eq!(crossing.is_some(), outcome.x_m > 30.0);
        if let Some(k) = path.iter().position(|p| p.x_m > 30.0) {
            let (a, b) = (path[k - 1], path[k]);
            let z = a.z_m + (30.0 - a.x_m) / (b.x_m - a.x_m) * (b.z_m - a.z_m);
            prop_assert!((f64::from(crossing.unwrap().z_m) - above(30.0, z).max(0.0)).abs() < 0.05);
        }
    }
}

/// Heights written out again, place by place.
fn air_height(places: &[(f64, f64)], x: f64) -> f64 {
    let mut last = (0.0, 0.0);
    for &place in places {
        if x <= place.0 {
            return last.1 + (x - last.0) / (place.0 - last.0) * (place.1 - last.1);
        }
        last = place;
    }
    last.1
}

/// Downhill goes farther, uphill less far. Common practice, no source: about three metres for each of fall; what is seen is
/// three and a half uphill, two on the level and one on a long fall, at whose end a fading disc comes down steeply.
#[test]
fn trade_a_fall_carries_farther() {
    let at = |fall: f64| fly(driver(), &over(&[(90.0, -fall)])).x_m;
    for k in -6..3 {
        let (here, lower) = (at(2.0 * f64::from(k)), at(2.0 * f64::from(k + 1)));
        assert!((0.9..4.0).contains(&((lower - here) / 2.0)), "{k}: {here:.1} {lower:.1}");
    }
}

/// A disc runs farther downhill than on the level, and less far uphill; however steep, it comes to rest.
#[test]
fn trade_it_runs_on_downhill() {
    let rim = Rim { softness: 0.1, wear: 0.0, width_m: 0.018 };
    let (thrown, air) = (driver(), Air::default());
    let contact = Contact { ground: Ground::Turf, disc: &thrown.disc, rim: &rim, air: &air };
    let run = |slope: f64| {
        let mut landed = [fly(driver(), &over(&[]))];
        landed[0].touch.slope = slope;
        settle_all(&mut landed, &contact, &[]);
        landed[0].run_m
    };
    let runs = [0.5, 0.2, 0.1, 0.0, -0.05, -0.1].map(run);
    assert!(runs.windows(2).all(|r| r[0] < r[1]), "{runs:?}");
    assert!(run(-0.4) < 60.0 && run(-0.4) > run(-0.1), "{}", run(-0.4));
}

#[rstest]
#[case(&[(20.0, 5.0), (10.0, 2.0)], "place")]
#[case(&[(5.0, 9.0)], "slope")]
#[case(&[(100.0, 80.0)], "height")]
#[case(&[(0.0, 0.0)], "place")]
#[case(&[(f64::NAN, 0.0)], "place")]
fn prop_impossible_ground_is_refused(#[case] places: &[(f64, f64)], #[case] about: &str) {
    let told = Terrain::through(places).unwrap_err().to_string();
    assert!(told.contains(about), "{told}");
    let many: Vec<(f64, f64)> = (1..9).map(|k| (f64::from(10 * k), 1.0)).collect();
    assert!(Terrain::through(&many).is_err());
}
