//! A line opened: the best discs over one another, in the weather it is asked in, in a player's words.

use crate::scene::{arm, disc, into_wind, lines_of, player, spec};
use rstest::rstest;
use zinc_kite_bag::catalogue::reach::{asked, reach};
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::chance::search::chance;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec, Use};
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::thrower::arm::{Arm, arm_speed_m_s, driving_distance_m};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::opened::{SHOWN, chance_sheet, line_sheet};
use zinc_kite_bag::verdict::standing::PuttersApart;

fn me() -> Player {
    player(104.0, Skill::Advanced)
}

fn discs() -> Vec<Disc> {
    let putting = DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) };
    let throwing = [
        spec(3.0, 3.0, 0.0, 1.0),
        spec(5.0, 4.0, -1.0, 1.0),
        spec(5.0, 5.0, -3.0, 0.0),
        spec(7.0, 4.0, 0.0, 4.0),
        spec(9.0, 5.0, -1.0, 2.0),
        spec(12.0, 5.0, -1.0, 3.0),
    ];
    throwing.into_iter().chain([putting]).enumerate().map(|(k, s)| disc(k as i64 + 1, s)).collect()
}

fn line(key: &str) -> Line {
    lines_of(&me()).into_iter().find(|l| l.key == key).unwrap()
}

/// The best three, the best first, and each is what its own sheet says.
#[rstest]
#[case("fairway-rail", 0.0)]
#[case("mid-range-drift", 5.0)]
#[case("reach", 6.0)]
#[case("circle-putt", 0.0)]
fn prop_an_opened_line_shows_the_best_three(#[case] key: &str, #[case] wind_m_s: f64) {
    let (day, memo, line, all) = (into_wind(wind_m_s), Memo::default(), line(key), discs());
    let shelf: Vec<&Disc> = all.iter().collect();
    let apart = PuttersApart::on(&all);
    let found = line_sheet(&me(), &day, &shelf, None, &line, &memo).unwrap();
    assert!(!found.discs.is_empty() && found.discs.len() <= SHOWN);
    assert!(found.discs.windows(2).all(|w| w[0].chance.chance >= w[1].chance.chance), "the best first");
    let arm = Arm::of(&me(), &day).unwrap();
    let here = asked(&line, &arm);
    for d in &all {
        let c = chance(&arm, thrown(d).unwrap(), &here, &memo).chance;
        let shown = found.discs.iter().find(|s| s.disc_id == d.id);
        match shown {
            Some(s) => assert_eq!(*s, chance_sheet(&me(), &day, d, &line, &memo).unwrap()),
            None if apart.answers(d, line.spec.style) => {
                assert!(c <= found.discs.last().unwrap().chance.chance, "{}", d.spec.name);
            }
            None => {}
        }
    }
    assert_eq!(found.line.spec, here.into_owned());
}

/// A disc asked for is shown beside the best, once, even where it makes nothing.
#[test]
fn prop_a_disc_asked_for_is_shown_once() {
    let (memo, all) = (Memo::default(), discs());
    let shelf: Vec<&Disc> = all.iter().collect();
    let (line, day) = (line("distance-rail"), Conditions::default());
    let putter = all.first().unwrap();
    let found = line_sheet(&me(), &day, &shelf, Some(putter), &line, &memo).unwrap();
    assert_eq!(found.discs.last().unwrap().disc_id, putter.id);
    assert!(found.discs.last().unwrap().release.is_empty(), "it does not get there");
    let best = all.iter().find(|d| d.id == found.discs[0].disc_id).unwrap();
    let again = line_sheet(&me(), &day, &shelf, Some(best), &line, &memo).unwrap();
    assert_eq!(again.discs.iter().filter(|d| d.disc_id == best.id).count(), 1);
    let nothing = line_sheet(&me(), &day, &[], None, &line, &memo).unwrap();
    assert!(nothing.discs.is_empty());
}

/// The words say which way the disc is tipped, how hard and how high it is thrown.
#[test]
fn prop_a_release_is_told_in_a_players_words() {
    let (memo, all) = (Memo::default(), discs());
    for line in lines_of(&me()).iter().filter(|l| l.spec.style == Style::Backhand) {
        for d in all.iter().filter(|d| d.spec.used_for == Use::Throwing) {
            let s = chance_sheet(&me(), &Conditions::default(), d, line, &memo).unwrap();
            let Some(c) = s.chance.chosen else { continue };
            let says = |word: &str| s.release.contains(word);
            assert_eq!(says("anhyzer"), c.hyzer_deg <= -2.0, "{} {}", s.release, c.hyzer_deg);
            assert_eq!(says("flat"), c.hyzer_deg.abs() < 2.0, "{} {}", s.release, c.hyzer_deg);
            assert_eq!(says("Full power"), c.power >= 0.97, "{} {}", s.release, c.power);
            assert_eq!(says("nose up"), c.nose_deg > 1.0, "{} {}", s.release, c.nose_deg);
            assert_eq!(says("high"), c.launch_deg >= 14.0, "{} {}", s.release, c.launch_deg);
        }
    }
}

/// Where a release is aimed is told as what stands beside the target, on the other side for the other hand: what fades to the
/// left is aimed to the right.
#[rstest]
#[case("fairway-hook", (7.0, 4.0, 0.0, 4.0), true)]
#[case("corner", (7.0, 4.0, 0.0, 4.0), true)]
#[case("turnover", (5.0, 5.0, -3.0, 0.0), false)]
fn prop_the_aim_is_told_in_metres_beside_the_target(
    #[case] key: &str,
    #[case] (s, g, t, f): (f64, f64, f64, f64),
    #[case] aimed_right: bool,
) {
    let left = Player { hand: Hand::Left, ..me() };
    let [ours, mirrored] = [me(), left].map(|p| {
        let line = lines_of(&p).into_iter().find(|l| l.key == key).unwrap();
        let d = disc(1, spec(s, g, t, f));
        let sheet = chance_sheet(&p, &Conditions::default(), &d, &line, &Memo::default()).unwrap();
        let beside_m = sheet.line.spec.distance_m * sheet.chance.chosen.unwrap().aim_deg.to_radians().tan();
        assert!((sheet.aim_left_m - beside_m).abs() < 1e-9 && beside_m.abs() > 2.0, "{beside_m}");
        sheet.aim_left_m
    });
    assert_eq!(ours, -mirrored);
    assert_eq!(ours < 0.0, aimed_right, "{ours}");
}

/// A hyzer-flip is asked of arms whose most understable disc stands up, on the more hyzer the faster the arm.
#[test]
fn trade_only_a_fast_enough_arm_flips_a_disc_up_from_hyzer() {
    let hyzer_deg = |metres: f64| {
        let lines = lines_of(&player(metres, Skill::Advanced));
        let flip = lines.into_iter().find(|l| l.key == "hyzer-flip")?;
        Some(0.5 * (flip.spec.hyzer_min_deg + flip.spec.hyzer_max_deg))
    };
    assert_eq!(hyzer_deg(50.0), None, "no disc stands up at a slow arm");
    let (usual, strong) = (hyzer_deg(104.0).unwrap(), hyzer_deg(130.0).unwrap());
    assert!(usual >= 4.0 && strong >= usual + 4.0, "{usual} {strong}");
}

/// On a hyzer-flip the understable driver beats the overstable one; on a soft approach what is slow beats a driver.
#[test]
fn trade_special_shots_are_won_by_the_discs_players_name() {
    let (me, memo) = (me(), Memo::default());
    let arm = arm(&me);
    let lines = lines_of(&me);
    let chance_of = |key: &str, numbers: (f64, f64, f64, f64)| {
        let line = lines.iter().find(|l| l.key == key).unwrap();
        let (s, g, t, f) = numbers;
        chance(&arm, thrown(&disc(1, spec(s, g, t, f))).unwrap(), &line.spec, &memo).chance
    };
    let (flippy, stable) = ((8.0, 5.0, -3.5, 0.5), (13.0, 5.0, 0.0, 4.0));
    assert!(chance_of("hyzer-flip", flippy) > chance_of("hyzer-flip", stable) + 0.1);
    assert!(chance_of("flex", (9.0, 4.0, 0.0, 4.0)) > chance_of("flex", flippy) + 0.1);
    for slow in [(3.0, 3.0, 0.0, 1.0), (4.0, 1.0, 0.0, 5.0)] {
        let driver = chance_of("land-and-sit", (12.0, 5.0, -1.0, 3.0));
        assert!(chance_of("land-and-sit", slow) >= driver - 0.02, "{slow:?} {driver}");
    }
    let overstable = chance_of("corner", (7.0, 4.0, 0.0, 4.0));
    assert!(overstable > chance_of("corner", (5.0, 5.0, -3.0, 0.0)) + 0.1);
}

/// How surely a driver leaves the hand falls as it is held back; a putter's does not.
#[test]
fn trade_a_fast_disc_thrown_soft_scatters_more() {
    let arm = arm(&me());
    let aim = |speed: f64, power: f64| arm.spread(Style::Backhand, speed, power).aim_deg;
    assert!(aim(12.0, 0.6) > 1.2 * aim(3.0, 0.6));
    assert_eq!(aim(3.0, 0.6), aim(4.0, 0.6));
    assert_eq!(aim(12.0, 1.0), aim(3.0, 1.0), "at full power all alike");
    assert!(aim(3.0, 0.6) < aim(3.0, 1.0), "held back a slow disc is steadier");
    let putt = |speed: f64| arm.spread(Style::Putt, speed, 0.5).aim_deg;
    assert_eq!(putt(2.0), putt(9.0));
}

/// The distance that a player tells is the farthest of the lines: as far as I can is what I said I can.
#[rstest]
#[case(60.0)]
#[case(85.0)]
#[case(104.0)]
#[case(130.0)]
fn prop_the_reach_of_a_calm_day_is_what_the_player_said(#[case] metres: f64) {
    let p = Player { altitude_m: 0.0, temperature_c: 15.0, ..player(metres, Skill::Advanced) };
    let far = reach(&arm(&p), Style::Backhand).unwrap().distance_m;
    assert!((far / metres - 1.0).abs() < 0.03, "{far:.1} m for {metres} m");
}

/// Arm speed against driving distance: about 8 ft a mph from 40 to 75 mph (common practice, no source, ± 8 %).
#[rstest]
#[case(40.0, 205.0)]
#[case(45.0, 245.0)]
#[case(50.0, 285.0)]
#[case(55.0, 325.0)]
#[case(60.0, 365.0)]
#[case(65.0, 410.0)]
#[case(70.0, 450.0)]
#[case(75.0, 490.0)]
fn trade_arms_drive_about_eight_feet_a_mile_an_hour(#[case] mph: f64, #[case] feet: f64) {
    let flown = driving_distance_m(mph * 0.44704, Style::Backhand, None) / 0.3048;
    assert!((flown / feet - 1.0).abs() < 0.08, "{flown:.0} ft at {mph} mph, {feet} usual");
    let back = arm_speed_m_s(flown * 0.3048, Style::Backhand, None) / 0.44704;
    assert!((back / mph - 1.0).abs() < 0.01, "{back:.1} mph for {mph}");
}
