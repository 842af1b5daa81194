//! Rules of thumb of the sport, in the air. Common practice, no source.

use crate::common::{M_S_PER_MPH, backhand, disc, flown};
use rstest::rstest;
use zinc_kite_flight::air::Wind;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::release::{Hand, Release, Style};

/// Where it lands, as an angle from the tee, left positive.
fn finish_deg(throw: Throw) -> f64 {
    let flight = flown(throw);
    flight.y_m.atan2(flight.x_m).to_degrees()
}

fn headwind(throw: Throw, m_s: f64) -> Throw {
    Throw { wind: Wind { along_m_s: -m_s, left_m_s: 0.0 }, ..throw }
}

#[test]
fn trade_01_understable_outflies_overstable_low_glide() {
    let far = flown(backhand(disc(7.0, 5.0, -3.0, 1.0), 55.0, 8.0)).distance_m();
    let short = flown(backhand(disc(7.0, 3.0, 0.0, 4.0), 55.0, 8.0)).distance_m();
    assert!(far > short + 5.0, "{far:.0} against {short:.0}");
}

#[test]
fn trade_02_spike_hyzer_pans_the_understable_disc_farther() {
    let spike = |d| {
        let flat = backhand(d, 55.0, 60.0);
        flown(Throw { release: Release { launch_deg: 42.0, ..flat.release }, ..flat })
    };
    let understable = spike(disc(5.0, 5.0, -3.0, 0.0));
    let overstable = spike(disc(5.0, 4.0, 0.0, 4.0));
    assert!(understable.y_m > overstable.y_m, "{} {}", understable.y_m, overstable.y_m);
    assert!(overstable.descent_deg() > 45.0, "comes steeply down: {}", overstable.descent_deg());
}

#[test]
fn trade_03_on_anhyzer_the_overstable_disc_comes_back() {
    let over = flown(backhand(disc(9.0, 4.0, 0.0, 4.0), 62.0, -15.0));
    let under = flown(backhand(disc(9.0, 5.0, -3.0, 1.0), 62.0, -15.0));
    assert!(over.y_m > 0.0, "back past the middle: {:.1} m", over.y_m);
    assert!(over.farthest_right_m > 1.0, "it went right first");
    assert!(under.y_m < -10.0, "turned over: {:.1} m", under.y_m);
}

#[test]
fn trade_04_power_decides_what_a_hyzer_does() {
    let d = disc(5.0, 5.0, -3.0, 0.0);
    let [soft, firm, full] = [46.0, 58.0, 66.0].map(|mph| finish_deg(backhand(d, mph, 12.0)));
    assert!(soft > 5.0, "soft holds the hyzer: {soft:.1}");
    assert!(firm.abs() < 4.0, "firm stands up and goes straight: {firm:.1}");
    assert!(full < -3.0, "full flips to the turn side: {full:.1}");
}

#[test]
fn trade_05_seasoned_mid_wants_a_little_hyzer() {
    // A seasoned straight mid: printed 5/4/−1/1 with a good part of its fade gone.
    let d = disc(4.8, 4.3, -1.5, 0.5);
    let finishes: Vec<f64> =
        [0.0, 2.0, 4.0, 6.0].map(|hyzer| finish_deg(backhand(d, 55.0, hyzer)).abs()).to_vec();
    let best = finishes.iter().copied().fold(f64::INFINITY, f64::min);
    assert!(best < 2.0, "some hyzer from 0° to 6° goes straight: {finishes:?}");
    assert!(finishes[0] > best, "and flat is not it: {finishes:?}");
}

#[rstest]
#[case(5.0, 4.0, -1.0, 1.0, 55.0)]
#[case(9.0, 5.0, -1.0, 2.0, 62.0)]
#[case(12.0, 5.0, -1.0, 3.0, 67.0)]
#[case(3.0, 3.0, 0.0, 1.0, 50.0)]
fn trade_06_headwind_acts_less_stable_and_tailwind_more(
    #[case] s: f64,
    #[case] g: f64,
    #[case] t: f64,
    #[case] f: f64,
    #[case] mph: f64,
) {
    let calm = backhand(disc(s, g, t, f), mph, 0.0);
    let [into, still, with] = [5.0, 0.0, -5.0].map(|wind| flown(headwind(calm, wind)).farthest_right_m);
    assert!(into > still && still >= with - 0.01, "{into:.1} {still:.1} {with:.1}");
    let lift = flown(headwind(calm, 5.0)).apex_m - flown(headwind(calm, -5.0)).apex_m;
    assert!(lift > 0.0, "a headwind lifts, a tailwind drops: {lift:.2} m");
}

#[test]
fn trade_06_stable_disc_into_wind_flies_like_the_straight_one_in_calm() {
    let straight = finish_deg(backhand(disc(5.0, 4.0, -1.0, 1.0), 55.0, 0.0));
    let stable = disc(5.0, 4.0, 0.0, 3.0);
    let into = finish_deg(headwind(backhand(stable, 55.0, 0.0), 5.0));
    let calm = finish_deg(backhand(stable, 55.0, 0.0));
    assert!((into - straight).abs() < (calm - straight).abs(), "{into:.1} {straight:.1} {calm:.1}");
}

/// More fade on a disc is more finish to the natural side, more turn more to the other: over the whole rated range.
#[rstest]
#[case(2.0, 3.0, 52.0)]
#[case(4.0, 3.0, 54.0)]
#[case(5.0, 5.0, 55.0)]
#[case(7.0, 5.0, 59.0)]
#[case(9.0, 4.0, 62.0)]
#[case(11.0, 5.0, 65.0)]
#[case(13.0, 5.0, 67.0)]
fn trade_numbers_order_the_finish(#[case] s: f64, #[case] g: f64, #[case] mph: f64) {
    // Past fade 4 a disc is on its edge, and down, before it can finish farther round. Beyond this turn a fast driver rolls right over at full power, and the order is lost as it is in the field.
    let least_turn = if s > 8.0 { -2.0 } else { -3.0 };
    let finish = |t: f64, f: f64| finish_deg(backhand(disc(s, g, t, f), mph, 0.0));
    for t in [-3.0, -2.0, -1.0, 0.0].into_iter().filter(|t| *t >= least_turn) {
        for f in [0.0, 1.0, 2.0, 3.0] {
            assert!(finish(t, f + 1.0) > finish(t, f), "fade {f} at turn {t}");
            assert!(finish(t - 1.0, f) < finish(t, f), "turn {t} at fade {f}");
        }
    }
}

#[test]
fn trade_12_a_slow_arm_gets_no_more_from_a_fast_disc() {
    let far = |d| flown(backhand(d, 48.0, 0.0)).distance_m();
    let thirteen = far(disc(13.0, 5.0, -1.0, 3.0));
    let nine = far(disc(9.0, 5.0, -1.0, 2.0));
    assert!(thirteen <= nine + 3.0, "{thirteen:.1} {nine:.1}");
}

#[test]
fn trade_13_with_a_tailwind_glide_and_understability_pay() {
    let floaty = backhand(disc(9.0, 5.0, -3.0, 1.0), 60.0, 0.0);
    let stubborn = backhand(disc(9.0, 3.0, 0.0, 4.0), 60.0, 0.0);
    let with = |throw| flown(headwind(throw, -6.0)).distance_m();
    assert!(with(floaty) > with(stubborn) + 15.0, "{:.1} {:.1}", with(floaty), with(stubborn));
    // The tailwind makes it act more stable, so that the understable disc comes nearer to straight.
    let (calm, behind) = (finish_deg(floaty), finish_deg(headwind(floaty, -6.0)));
    assert!(behind > calm && behind.abs() < calm.abs(), "{calm:.1}° {behind:.1}°");
}

/// The grid of launch, hyzer and nose from which a player throwing for distance chooses.
fn farthest_ft(numbers: (f64, f64, f64, f64), mph: f64, hyzers: &[f64], along_m_s: f64) -> f64 {
    use zinc_kite_flight::air::Air;
    use zinc_kite_flight::batch::fly_all;
    let (s, g, t, f) = numbers;
    let flat = backhand(disc(s, g, t, f), mph, 0.0);
    let mut throws = Vec::new();
    for launch_deg in [5.0, 8.0, 11.0, 14.0, 18.0, 22.0] {
        for &hyzer_deg in hyzers {
            for nose_deg in [-5.0, -3.0, -1.0, 1.0, 4.0, 8.0] {
                let release = Release { launch_deg, hyzer_deg, nose_deg, ..flat.release };
                throws.push(Throw { release, wind: Wind { along_m_s, left_m_s: 0.0 }, ..flat });
            }
        }
    }
    // Wind as it is measured, at ten metres over open grass.
    let air = Air::new(1.225, 0.14).unwrap();
    fly_all(&throws, &air, &[]).iter().map(|o| o.distance_m()).fold(0.0, f64::max) / 0.3048
}

const FREE: [f64; 4] = [-10.0, 0.0, 10.0, 20.0];
const ORDINARY: [(f64, f64, f64, f64); 6] = [
    (7.0, 5.0, 0.0, 2.0),
    (7.0, 5.0, -2.0, 1.0),
    (9.0, 5.0, -1.0, 2.0),
    (9.0, 5.0, -2.0, 1.0),
    (11.0, 5.0, -1.0, 2.0),
    (12.0, 5.0, -1.0, 3.0),
];

/// About 8 ft of distance a mph of arm.
#[rstest]
#[case(40.0, 205.0)]
#[case(45.0, 245.0)]
#[case(50.0, 285.0)]
#[case(55.0, 325.0)]
#[case(60.0, 365.0)]
#[case(65.0, 410.0)]
#[case(70.0, 450.0)]
#[case(75.0, 490.0)]
fn trade_distance_grows_eight_feet_a_mph(#[case] mph: f64, #[case] expected_ft: f64) {
    let reach = ORDINARY.map(|d| farthest_ft(d, mph, &FREE, 0.0)).into_iter().fold(0.0, f64::max);
    assert!((reach / expected_ft - 1.0).abs() < 0.07, "{reach:.0} ft at {mph} mph");
}

/// An understable driver thrown hard on hyzer stands up and goes about as far as flat, or farther.
#[rstest]
#[case((9.0, 5.0, -3.0, 1.0), 62.0, 12.0)]
#[case((9.0, 5.0, -3.0, 1.0), 62.0, 16.0)]
#[case((9.0, 5.0, -4.0, 1.0), 64.0, 18.0)]
#[case((7.0, 5.0, -3.0, 1.0), 60.0, 15.0)]
#[case((11.0, 5.0, -3.0, 1.0), 65.0, 15.0)]
#[case((9.0, 5.0, -2.0, 1.0), 66.0, 10.0)]
fn trade_hyzer_flip_flies_as_far_as_flat(
    #[case] numbers: (f64, f64, f64, f64),
    #[case] mph: f64,
    #[case] hyzer: f64,
) {
    let (flip, flat) = (farthest_ft(numbers, mph, &[hyzer], 0.0), farthest_ft(numbers, mph, &[0.0], 0.0));
    assert!(flip > 0.98 * flat, "{flip:.0} ft on hyzer, {flat:.0} ft flat");
}

/// A wind from behind lengthens the best throw of ordinary arms.
#[rstest]
#[case(49.0, 4.0)]
#[case(49.0, 6.0)]
#[case(52.0, 4.0)]
#[case(52.0, 8.0)]
#[case(57.0, 4.0)]
#[case(57.0, 8.0)]
#[case(62.0, 6.0)]
fn trade_tailwind_lengthens_the_best_throw(#[case] mph: f64, #[case] m_s: f64) {
    let discs = [
        (7.0, 5.0, -2.0, 1.0),
        (7.0, 6.0, -3.0, 1.0),
        (9.0, 5.0, -2.0, 1.0),
        (9.0, 6.0, -3.0, 1.0),
        (12.0, 5.0, -1.0, 3.0),
    ];
    let best = |m_s: f64| discs.map(|d| farthest_ft(d, mph, &FREE, m_s)).into_iter().fold(0.0, f64::max);
    let (with, calm) = (best(m_s), best(0.0));
    assert!(with > calm, "{with:.0} ft with {m_s} m/s behind, {calm:.0} ft in calm air");
}

/// With the same numbers a forehand turns no less and finishes less surely than a backhand.
#[rstest]
#[case((2.0, 3.0, 0.0, 1.0), 50.0)]
#[case((5.0, 4.0, -1.0, 1.0), 46.0)]
#[case((5.0, 4.0, -1.0, 1.0), 56.0)]
#[case((5.0, 4.0, 0.0, 3.0), 54.0)]
#[case((7.0, 5.0, 0.0, 2.0), 50.0)]
#[case((7.0, 5.0, 0.0, 2.0), 60.0)]
#[case((9.0, 5.0, -1.0, 2.0), 52.0)]
#[case((9.0, 5.0, -1.0, 2.0), 62.0)]
#[case((9.0, 4.0, 0.0, 4.0), 60.0)]
#[case((12.0, 5.0, -1.0, 3.0), 64.0)]
fn trade_forehand_turns_more_and_finishes_less_surely(
    #[case] numbers: (f64, f64, f64, f64),
    #[case] mph: f64,
) {
    let (s, g, t, f) = numbers;
    let back = backhand(disc(s, g, t, f), mph, 0.0);
    let fore = Throw { release: Release::rated(mph * M_S_PER_MPH, Hand::Right, Style::Forehand), ..back };
    let (b, f) = (flown(back), flown(fore));
    assert!(
        f.farthest_left_m >= b.farthest_right_m - 0.05,
        "swing {} {}",
        f.farthest_left_m,
        b.farthest_right_m
    );
    let finish = |o: &zinc_kite_flight::outcome::Outcome, side: f64| side * o.y_m.atan2(o.x_m).to_degrees();
    assert!(finish(&f, -1.0) < finish(&b, 1.0), "finish {:.1}° {:.1}°", finish(&f, -1.0), finish(&b, 1.0));
}

/// More fade finishes farther to the fade side, more turn less, at slow arms and strong ones; more glide never loses much
/// of the best throw.
#[rstest]
#[case(0.62)]
#[case(0.8)]
#[case(1.08)]
fn trade_order_holds_at_every_arm(#[case] arm: f64) {
    let (mut steps, mut wrong) = (0, Vec::new());
    for (s, g, mph) in
        [(3.0, 3.0, 52.0), (5.0, 4.0, 55.0), (7.0, 5.0, 59.0), (9.0, 5.0, 62.0), (12.0, 5.0, 66.0)]
    {
        let finish = |t: f64, f: f64| finish_deg(backhand(disc(s, g, t, f), arm * mph, 0.0));
        for t in [-2.0, -1.0, 0.0] {
            for f in [0.0, 1.0, 2.0, 3.0] {
                steps += 2;
                if finish(t, f + 1.0) <= finish(t, f) {
                    wrong.push(format!("{s}: fade {f} at turn {t}"));
                }
                if finish(t - 1.0, f) >= finish(t, f) + 0.05 {
                    wrong.push(format!("{s}: turn {t} at fade {f}"));
                }
            }
        }
        for (t, f) in [(0.0, 2.0), (-2.0, 1.0)] {
            for glide in [2.0, 3.0, 4.0, 5.0] {
                steps += 1;
                let far = |g: f64| farthest_ft((s, g, t, f), arm * mph, &FREE, 0.0);
                if far(glide + 1.0) < far(glide) - 3.0 {
                    wrong.push(format!(
                        "{s}: glide {glide} of {t}/{f}: {:.0} then {:.0} ft",
                        far(glide),
                        far(glide + 1.0)
                    ));
                }
            }
        }
    }
    assert!(wrong.len() * 20 <= steps, "{} of {steps}: {wrong:?}", wrong.len());
}

#[test]
fn trade_15_forehand_mirrors_backhand_with_less_spin() {
    let d = disc(9.0, 4.0, 0.0, 3.0);
    let back = backhand(d, 58.0, 0.0);
    let fore = Throw { release: Release::rated(58.0 * M_S_PER_MPH, Hand::Right, Style::Forehand), ..back };
    let (b, f) = (flown(back), flown(fore));
    assert!(b.y_m > 3.0 && f.y_m < -3.0, "fades to opposite sides: {} {}", b.y_m, f.y_m);
    assert!(fore.release.spin_rad_s < back.release.spin_rad_s);
    let left = Throw { release: Release { hand: Hand::Left, ..back.release }, ..back };
    assert!((flown(left).y_m + b.y_m).abs() < 1e-9);
}

#[test]
fn trade_overstable_is_dependable_understable_sensitive() {
    use zinc_kite_flight::air::Air;
    use zinc_kite_flight::batch::fly_all;
    use zinc_kite_flight::scatter::Spread;
    let club = Spread { speed: 0.04, hyzer_deg: 4.0, launch_deg: 2.2, nose_deg: 2.5, aim_deg: 2.5 };
    let within = |d| {
        let centre = backhand(d, 55.0, 0.0);
        let middle = flown(centre);
        let throws = club.scattered(&centre, 0.0, 0..256);
        let near =
            |o: &zinc_kite_flight::outcome::Outcome| (o.x_m - middle.x_m).hypot(o.y_m - middle.y_m) < 10.0;
        fly_all(&throws, &Air::default(), &[]).iter().filter(|o| near(o)).count()
    };
    let over = within(disc(5.0, 4.0, 0.0, 3.0));
    let straight = within(disc(5.0, 4.0, -1.0, 1.0));
    assert!(over > straight, "{over} of 256 against {straight}");
}

fn overhand(numbers: (f64, f64, f64, f64), style: Style) -> Throw {
    let (s, g, t, f) = numbers;
    let release = Release::rated(27.0, Hand::Right, style);
    Throw { disc: disc(s, g, t, f), release, wind: Wind::CALM }
}

#[test]
fn trade_a_thumber_pans_right_and_a_tomahawk_the_other_way() {
    for numbers in [(9.0, 4.0, 0.0, 4.0), (12.0, 5.0, -1.0, 3.0), (14.0, 2.0, 0.0, 5.0)] {
        let thumber = flown(overhand(numbers, Style::Thumber));
        assert!(thumber.y_m < -2.0, "to the right: {:.1} m", thumber.y_m);
        let tomahawk = flown(overhand(numbers, Style::Tomahawk));
        assert!((tomahawk.y_m + thumber.y_m).abs() < 1e-9, "the mirror image");
        assert!((60.0..120.0).contains(&thumber.distance_m()), "{:.0} m", thumber.distance_m());
    }
}

#[test]
fn trade_a_very_overstable_disc_pans_longer_overhand() {
    let pans = |numbers| flown(overhand(numbers, Style::Thumber));
    let (tame, stubborn) = (pans((9.0, 5.0, -2.0, 1.0)), pans((9.0, 4.0, 0.0, 5.0)));
    assert!(stubborn.time_s > tame.time_s && stubborn.y_m < tame.y_m, "{tame:?} {stubborn:?}");
}
