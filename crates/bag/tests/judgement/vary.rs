//! Throws of the range that differ in one thing.

use rstest::rstest;
use zinc_kite_bag::range::throws::{MOST_THROWS, Setting, usual};
use zinc_kite_bag::range::vary::{Vary, vary};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::style::Style;

#[rstest]
#[case(0.0, 2, vec![-10.0, -5.0, 0.0, 5.0, 10.0, 15.0])]
#[case(130.0, 5, vec![105.0, 110.0, 115.0, 120.0, 125.0, 130.0])]
#[case(-128.0, 0, vec![-128.0, -123.0, -118.0, -113.0, -108.0, -103.0])]
fn prop_the_row_is_even_and_within_the_limits(
    #[case] hyzer_deg: f64,
    #[case] own: usize,
    #[case] expected: Vec<f64>,
) {
    let base = Setting { hyzer_deg, ..usual(Style::Backhand) };
    let row = vary(&base, Vary::HyzerDeg, &Conditions::default()).unwrap();
    assert_eq!(row.own, own);
    assert_eq!(row.settings.iter().map(|s| s.hyzer_deg).collect::<Vec<_>>(), expected);
    assert_eq!(row.settings[own], base);
    for setting in &row.settings {
        assert_eq!(Setting { hyzer_deg, ..*setting }, base, "nothing else changes");
    }
}

#[test]
fn prop_a_headwind_becomes_a_tailwind_and_the_crosswind_stays() {
    let day = Conditions { wind_m_s: 5.0, wind_from_deg: 90.0, ..Conditions::default() };
    let row = vary(&usual(Style::Backhand), Vary::Wind, &day).unwrap();
    for (k, setting) in row.settings.iter().enumerate() {
        let wind = setting.conditions.unwrap().wind();
        assert!((wind.left_m_s - day.wind().left_m_s).abs() < 1e-9);
        assert!((wind.along_m_s - 3.0 * (k as f64 - 2.0)).abs() < 2e-3, "{wind:?}");
    }
}

#[rstest]
fn prop_every_setting_of_a_row_can_be_thrown(
    #[values(
        Vary::Power,
        Vary::HyzerDeg,
        Vary::LaunchDeg,
        Vary::NoseDeg,
        Vary::AimDeg,
        Vary::Spin,
        Vary::Wind
    )]
    what: Vary,
    #[values(Style::Backhand, Style::Thumber, Style::Putt)] style: Style,
) {
    let row = vary(&usual(style), what, &Conditions::default()).unwrap();
    assert_eq!(row.settings.len(), MOST_THROWS);
    for setting in row.settings {
        setting.validate().unwrap();
        setting.conditions.unwrap_or_default().validate().unwrap();
    }
}

#[test]
fn prop_a_bad_setting_is_named() {
    let base = Setting { power: 3.0, ..usual(Style::Backhand) };
    let error = vary(&base, Vary::Spin, &Conditions::default()).unwrap_err();
    assert!(error.to_string().contains("power"), "{error}");
}

#[rstest]
#[case(0.0, Some(0))]
#[case(180.0, Some(MOST_THROWS - 1))]
#[case(90.0, None)]
fn regress_a_storm_gives_a_row_that_can_be_flown_or_says_why_not(
    #[case] wind_from_deg: f64,
    #[case] own: Option<usize>,
) {
    let day = Conditions { wind_m_s: 40.0, wind_from_deg, ..Conditions::default() };
    match (vary(&usual(Style::Backhand), Vary::Wind, &day), own) {
        (Ok(row), Some(own)) => assert_eq!(row.own, own),
        (Err(error), None) => assert!(error.to_string().contains("wind_m_s"), "{error}"),
        (other, _) => panic!("{other:?}"),
    }
}
