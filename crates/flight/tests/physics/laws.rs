//! Laws of mechanics that hold for any disc, and what a caller may rely on at the edges.

use crate::common::{backhand, disc, flown};
use approx::assert_abs_diff_eq;
use nalgebra::DMatrix;
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_flight::air::{Air, GRAVITY_M_S2, Wind, density_kg_m3, standard_density_kg_m3};
use zinc_kite_flight::batch::{fly_all, fly_one, fly_with_paths, validate};
use zinc_kite_flight::calibration::Calibration;
use zinc_kite_flight::disc::{Disc, STANDARD_RADIUS_M};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::error::FlightError;
use zinc_kite_flight::fitted::FITTED;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::release::{Hand, Release, Style};
use zinc_kite_flight::scatter::{
    AIM, DIMENSIONS, POINTS, RELEASE_ERRORS, Spread, aim_given_others, correlations, deviates,
};

/// In a uniform wind a flight is the flight in still air, carried along: the release is turned so that the disc meets
/// the air just as it did in still air (Galileo).
#[rstest]
#[case(-6.0)]
#[case(3.0)]
#[case(8.0)]
fn prop_uniform_wind_only_carries_the_flight(#[case] along: f64) {
    let still = backhand(disc(9.0, 5.0, -1.0, 2.0), 58.0, 8.0);
    let r = still.release;
    let launch = r.launch_deg.to_radians();
    let (vx, vz) = (r.speed_m_s * launch.cos() + along, r.speed_m_s * launch.sin());
    let launch_deg = vz.atan2(vx).to_degrees();
    let carried = Throw {
        release: Release {
            speed_m_s: vx.hypot(vz),
            launch_deg,
            nose_deg: r.launch_deg + r.nose_deg - launch_deg,
            ..r
        },
        wind: Wind { along_m_s: along, left_m_s: 0.0 },
        ..still
    };
    let (a, b) = (flown(still), flown(carried));
    assert_abs_diff_eq!(b.time_s, a.time_s, epsilon = 1e-3);
    assert_abs_diff_eq!(b.x_m, a.x_m + along * a.time_s, epsilon = 0.01);
    assert_abs_diff_eq!(b.y_m, a.y_m, epsilon = 0.01);
    assert_abs_diff_eq!(b.apex_m, a.apex_m, epsilon = 0.005);
}

/// Air k times as dense does to a disc k times as heavy what it did before: only ρ/m and ρ/I count.
#[rstest]
#[case(0.8)]
#[case(1.15)]
fn prop_density_and_mass_scale_together(#[case] k: f64) {
    let throw = backhand(disc(5.0, 4.0, -1.0, 1.0), 55.0, 5.0);
    let heavy = Throw {
        disc: Disc {
            mass_kg: k * throw.disc.mass_kg,
            inertia_kg_m2: k * throw.disc.inertia_kg_m2,
            ..throw.disc
        },
        ..throw
    };
    let a = fly_all(&[throw], &Air::new(1.0, 0.0).unwrap(), &[])[0];
    let b = fly_all(&[heavy], &Air::new(k, 0.0).unwrap(), &[])[0];
    assert_abs_diff_eq!(a.x_m, b.x_m, epsilon = 1e-4);
    assert_abs_diff_eq!(a.y_m, b.y_m, epsilon = 1e-4);
}

/// A disc that falls flat comes to the speed at which drag balances weight (any textbook). Not from too high: to fall so is
/// unstable, and whatever is rounded grows until the disc slips off sideways.
#[test]
fn val_a_falling_disc_reaches_terminal_speed() {
    let mut body = disc(3.0, 3.0, 0.0, 1.0);
    body.coefficients.cd_speed = 0.0;
    // Straight down, top up: the path falls at −90° and the nose is lifted by 90° against it.
    let release = Release {
        launch_deg: -90.0,
        nose_deg: 90.0,
        height_m: 50.0,
        ..Release::rated(5.0, Hand::Right, Style::Backhand)
    };
    let fall = flown(Throw { disc: body, release, wind: Wind::CALM });
    let area = std::f64::consts::PI * STANDARD_RADIUS_M.powi(2);
    let drag = body.coefficients.cd0 + 1.1;
    let terminal = (2.0 * body.mass_kg * GRAVITY_M_S2 / (1.225 * area * drag)).sqrt();
    assert_abs_diff_eq!(fall.landing_speed_m_s(), terminal, epsilon = 0.02 * terminal);
}

/// Thin air carries less: a disc drops sooner (common practice; it follows from the density scaling).
#[test]
fn trade_at_altitude_a_disc_drops_sooner() {
    let throw = backhand(disc(9.0, 5.0, -1.0, 2.0), 60.0, 0.0);
    let at = |altitude: f64| {
        let air = Air::new(standard_density_kg_m3(altitude).unwrap(), 0.0).unwrap();
        fly_all(&[throw], &air, &[])[0]
    };
    let (sea, high) = (at(0.0), at(2500.0));
    assert!(high.time_s < sea.time_s, "{:.2} s {:.2} s", high.time_s, sea.time_s);
}

/// A crosswind from the left that meets the top of a disc on hyzer pushes it down and right, one that meets its
/// underside carries it.
#[test]
fn trade_a_crosswind_pushes_by_the_face_it_meets() {
    let with = |left: f64| {
        let throw = backhand(disc(5.0, 4.0, -1.0, 1.0), 55.0, 20.0);
        flown(Throw { wind: Wind { along_m_s: 0.0, left_m_s: left }, ..throw })
    };
    // Hyzer of a right-hander: the top leans left. Wind toward the right (negative) meets it.
    let (meets_top, meets_underside) = (with(-5.0), with(5.0));
    assert!(meets_top.time_s < meets_underside.time_s, "pushed down");
    assert!(meets_top.y_m < with(0.0).y_m && with(0.0).y_m < meets_underside.y_m);
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, ..ProptestConfig::default() })]

    /// The extremes that are reported are those of the path.
    #[test]
    fn prop_extremes_are_those_of_the_path(
        numbers in (2.0..13.0f64, 2.0..6.0f64, -3.5..0.0f64, 0.0..4.0f64),
        mph in 40.0..68.0f64,
        hyzer in -20.0..30.0f64,
    ) {
        let (s, g, t, f) = numbers;
        let (outcome, path) = fly_one(&backhand(disc(s, g, t, f), mph, hyzer), &Air::default()).unwrap();
        let most = |of: fn(f64, f64) -> f64, y: &dyn Fn(usize) -> f64| (0..path.len()).map(y).fold(y(0), of);
        // Points lie 0.05 s apart: between two of them the disc can be a few centimetres farther out.
        prop_assert!((outcome.apex_m - most(f64::max, &|k| path[k].z_m)).abs() < 0.03);
        prop_assert!((outcome.farthest_left_m - most(f64::max, &|k| path[k].y_m)).abs() < 0.03);
        prop_assert!((outcome.farthest_right_m + most(f64::min, &|k| path[k].y_m)).abs() < 0.03);
        let last = path.last().unwrap();
        prop_assert!((last.t_s - outcome.time_s).abs() < 1e-12 && last.z_m == 0.0);
        prop_assert!(path.windows(2).all(|w| w[0].t_s < w[1].t_s && w[1].t_s - w[0].t_s < 0.0501));
    }
}

#[test]
fn prop_paths_and_outcomes_tell_the_same_flight() {
    let throws = [48.0, 55.0, 62.0].map(|mph| backhand(disc(9.0, 5.0, -1.0, 2.0), mph, 3.0));
    let air = Air::default();
    for ((with_path, path), plain) in fly_with_paths(&throws, &air).iter().zip(fly_all(&throws, &air, &[])) {
        assert_eq!(*with_path, plain);
        assert!(path.len() > 50);
    }
}

/// The fixed points behave like standard normal deviates with the correlations that are told, also those that follow
/// from two told ones: all of them, and each half alone, since a release is sought on one and judged on the other.
#[rstest]
fn prop_deviates_are_standard_normal_and_correlated_as_told(
    #[values(Style::Backhand, Style::Forehand, Style::Thumber, Style::Tomahawk, Style::Putt)] style: Style,
    #[values(0..POINTS, 0..POINTS / 2, POINTS / 2..POINTS)] which: std::ops::Range<usize>,
) {
    assert_eq!(deviates(style).len(), POINTS);
    let points = &deviates(style)[which];
    let n = points.len() as f64;
    for d in 0..DIMENSIONS {
        let mean = points.iter().map(|p| p[d]).sum::<f64>() / n;
        let variance = points.iter().map(|p| (p[d] - mean).powi(2)).sum::<f64>() / n;
        assert_abs_diff_eq!(mean, 0.0, epsilon = 0.02);
        assert_abs_diff_eq!(variance, 1.0, epsilon = 0.05);
        for other in 0..d {
            let product = points.iter().map(|p| p[d] * p[other]).sum::<f64>() / n;
            let told = correlations(style).iter().find(|c| (c.0, c.1) == (other, d)).map_or(0.0, |c| c.2);
            assert_abs_diff_eq!(product, told, epsilon = 0.1);
        }
    }
}

/// What the other errors tell of the error of aim, against the textbook's conditional normal distribution by a general matrix
/// library: mean cᵀ C⁻¹ z and variance 1 − cᵀ C⁻¹ c, with C the others' correlations and c theirs with aim.
#[rstest]
fn val_what_the_other_errors_tell_of_aim(
    #[values(Style::Backhand, Style::Forehand, Style::Thumber, Style::Tomahawk, Style::Putt)] style: Style,
) {
    let mut all = DMatrix::<f64>::identity(RELEASE_ERRORS, RELEASE_ERRORS);
    for (i, j, rho) in correlations(style) {
        (all[(i, j)], all[(j, i)]) = (rho, rho);
    }
    let (others, with_aim) = (all.view((0, 0), (AIM, AIM)), all.view((0, AIM), (AIM, 1)));
    let weights = others.try_inverse().unwrap() * with_aim;
    for z in deviates(style).iter().step_by(7) {
        let (mean, deviation) = aim_given_others(style, z);
        let told: f64 = (0..AIM).map(|k| weights[k] * z[k]).sum();
        assert_abs_diff_eq!(mean, told, epsilon = 1e-12);
        assert_abs_diff_eq!(deviation.powi(2), 1.0 - weights.dot(&with_aim), epsilon = 1e-12);
        assert!(deviation < 1.0, "what goes together with aim tells of it");
    }
}

#[test]
fn prop_displacing_is_in_the_throwers_own_sense() {
    let spread = Spread { speed: 0.05, hyzer_deg: 4.0, launch_deg: 2.0, nose_deg: 2.0, aim_deg: 3.0 };
    let centre = |hand, style| Throw {
        disc: disc(5.0, 4.0, -1.0, 1.0),
        release: Release::rated(25.0, hand, style),
        wind: Wind { along_m_s: -3.0, left_m_s: 0.0 },
    };
    let at = |hand, style| spread.displace(&centre(hand, style), 2.0, &[1.0; DIMENSIONS]);
    let right = at(Hand::Right, Style::Backhand);
    assert_abs_diff_eq!(right.release.speed_m_s, 26.25, epsilon = 1e-12);
    let ratio = right.release.spin_rad_s / right.release.speed_m_s;
    assert_abs_diff_eq!(ratio, 0.5 / STANDARD_RADIUS_M, epsilon = 1e-9);
    assert_abs_diff_eq!(right.release.hyzer_deg, 4.0, epsilon = 1e-12);
    assert_abs_diff_eq!(right.release.aim_deg, 3.0, epsilon = 1e-12);
    assert_abs_diff_eq!(right.wind.along_m_s, -1.0, epsilon = 1e-12);
    assert_abs_diff_eq!(right.wind.left_m_s, 2.0, epsilon = 1e-12);
    for mirrored in [at(Hand::Left, Style::Backhand), at(Hand::Right, Style::Forehand)] {
        assert_abs_diff_eq!(mirrored.release.aim_deg, -3.0, epsilon = 1e-12);
        assert_abs_diff_eq!(mirrored.wind.left_m_s, -2.0, epsilon = 1e-12);
    }
    let wild = spread.displace(&centre(Hand::Right, Style::Backhand), 0.0, &[9.0; DIMENSIONS]);
    assert_abs_diff_eq!(wild.release.hyzer_deg, 12.0, epsilon = 1e-12);
}

/// What is out of range is named, with what was expected, what came and what to do.
#[rstest]
#[case("speed_m_s", |t: &mut Throw| t.release.speed_m_s = 0.2)]
#[case("launch_deg", |t: &mut Throw| t.release.launch_deg = 120.0)]
#[case("hyzer_deg", |t: &mut Throw| t.release.hyzer_deg = f64::NAN)]
#[case("spin_rad_s", |t: &mut Throw| t.release.spin_rad_s = -5.0)]
#[case("height_m", |t: &mut Throw| t.release.height_m = -1.0)]
#[case("wind along_m_s", |t: &mut Throw| t.wind.along_m_s = f64::INFINITY)]
#[case("mass_kg", |t: &mut Throw| t.disc.mass_kg = 0.0)]
#[case("radius_m", |t: &mut Throw| t.disc.radius_m = 3.0)]
#[case("cl_alpha", |t: &mut Throw| t.disc.coefficients.cl_alpha = 99.0)]
fn prop_a_bad_value_is_named(#[case] field: &str, #[case] spoil: fn(&mut Throw)) {
    let mut throw = backhand(disc(5.0, 4.0, -1.0, 1.0), 55.0, 0.0);
    validate(&throw).unwrap();
    spoil(&mut throw);
    let error = validate(&throw).unwrap_err();
    assert!(matches!(error, FlightError::OutOfRange { name, .. } if name == field), "{error}");
    let message = error.to_string();
    assert!(message.contains("must be between") && message.contains("correct that value"), "{message}");
    assert_eq!(fly_one(&throw, &Air::default()).unwrap_err().to_string(), message);
}

#[rstest]
#[case(FlightNumbers::new(0.0, 4.0, 0.0, 1.0), "speed")]
#[case(FlightNumbers::new(5.0, 9.0, 0.0, 1.0), "glide")]
#[case(FlightNumbers::new(5.0, 4.0, -9.0, 1.0), "turn")]
#[case(FlightNumbers::new(5.0, 4.0, 0.0, 8.0), "fade")]
fn prop_impossible_numbers_are_named_and_can_be_clamped(#[case] numbers: FlightNumbers, #[case] field: &str) {
    assert!(numbers.disc(0.175).unwrap_err().to_string().starts_with(field));
    numbers.clamped().disc(0.175).unwrap();
}

#[test]
fn prop_air_out_of_range_is_refused() {
    assert!(standard_density_kg_m3(20_000.0).is_err());
    assert!(density_kg_m3(0.0, 90.0, 0.5).is_err());
    assert!(density_kg_m3(0.0, 20.0, 1.5).is_err());
    assert!(Air::new(-1.0, 0.0).is_err() && Air::new(1.2, 3.0).is_err());
}

/// A flight that would never land ends at the time limit with a typed error, not a hang.
#[test]
fn prop_an_endless_flight_is_ended() {
    let mut body = disc(9.0, 6.0, 0.0, 0.0);
    body.mass_kg = 0.02;
    body.inertia_kg_m2 = 1e-4;
    body.coefficients.cl0 = 2.0;
    body.coefficients.cm0 = 0.0;
    let release =
        Release { launch_deg: 85.0, height_m: 60.0, ..Release::rated(60.0, Hand::Right, Style::Backhand) };
    let throw = Throw { disc: body, release, wind: Wind { along_m_s: -40.0, left_m_s: 0.0 } };
    match fly_one(&throw, &Air::default()) {
        Ok((outcome, _)) => assert!(outcome.time_s <= 40.5),
        Err(error) => assert!(error.to_string().contains("still flying after 40 s"), "{error}"),
    }
}

#[test]
fn prop_calibration_goes_to_an_array_and_back() {
    let shipped = FITTED;
    assert_eq!(Calibration::from_array(&shipped.to_array()), shipped);
    assert_eq!(Calibration::NAMES.len(), Calibration::COUNT);
    assert_eq!(Calibration::NAMES[0], "cd0");
}

/// What a flight costs depends on that flight alone, and a longer one costs more.
#[test]
fn prop_operations_add_up() {
    let throw = |mph: f64| backhand(disc(7.0, 5.0, 0.0, 2.0), mph, 0.0);
    let count = |throws: &[Throw]| zinc_kite_flight::batch::operations(throws, &Air::default());
    let (soft, hard) = (count(&[throw(30.0)]), count(&[throw(60.0)]));
    assert_eq!(count(&[throw(30.0), throw(60.0)]), soft + hard);
    assert!(hard > soft && soft > 1000, "{soft} {hard}");
}
