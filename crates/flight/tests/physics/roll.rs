//! Rollers, from the hand to where they lie. Common practice, no source, unless a test says otherwise.

use crate::common::{backhand, disc, flown};
use approx::assert_abs_diff_eq;
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_flight::air::{Air, GRAVITY_M_S2};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::disc::Disc;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::ground::{Contact, Ground, Rim};
use zinc_kite_flight::outcome::{Outcome, PathPoint};
use zinc_kite_flight::release::{Hand, Release, Style};
use zinc_kite_flight::settle::{Manner, settle, settle_all, settle_with_path};
use zinc_kite_flight::terrain::Terrain;

/// An ordinary rim of a disc as fast as this.
fn rim(speed: f64) -> Rim {
    Rim { softness: 0.1, wear: 0.0, width_m: 0.006 + 0.00133 * speed }
}

/// A backhand roller: early down on its edge.
fn roller(disc: Disc, mph: f64, hyzer_deg: f64) -> Throw {
    let throw = backhand(disc, mph, hyzer_deg);
    Throw { release: Release { launch_deg: 0.0, ..throw.release }, ..throw }
}

fn rested(throw: Throw, ground: Ground, rim: &Rim) -> (Outcome, Manner) {
    let mut o = flown(throw);
    let contact = Contact { ground, disc: &throw.disc, rim, air: &Air::default() };
    let manner = settle(&mut o, &contact);
    (o, manner)
}

/// The farthest of a disc's rollers at a speed, on short grass, m.
fn farthest_m(numbers: (f64, f64, f64, f64), mph: f64) -> f64 {
    let (s, g, t, f) = numbers;
    let far = |k: i32| rested(roller(disc(s, g, t, f), mph, -80.0 + f64::from(k)), Ground::Turf, &rim(s));
    (0..45).map(far).filter(|(o, _)| o.rolled).map(|(o, _)| o.distance_m()).fold(0.0, f64::max)
}

/// A mid-range rolls about 120 m and a driver 180 m and more for a strong arm, one of some 70 mph.
#[rstest]
#[case((5.0, 5.0, -3.0, 0.0), 0.9, 105.0, 140.0)]
#[case((5.0, 4.0, -2.0, 0.0), 0.9, 105.0, 140.0)]
#[case((4.0, 4.0, -2.0, 0.0), 0.87, 95.0, 135.0)]
#[case((12.0, 5.0, -3.0, 1.0), 1.0, 160.0, 200.0)]
#[case((12.0, 5.0, -3.0, 2.0), 1.0, 160.0, 200.0)]
#[case((13.0, 5.0, -2.0, 2.0), 1.0, 160.0, 200.0)]
fn trade_a_strong_arm_rolls_a_mid_120_m_and_a_driver_180(
    #[case] numbers: (f64, f64, f64, f64),
    #[case] effort: f64,
    #[case] least: f64,
    #[case] most: f64,
) {
    let far = farthest_m(numbers, 70.0 * effort);
    assert!((least..most).contains(&far), "{numbers:?}: {far:.0} m");
}

/// Thrown as a roller usually is, on half as much anhyzer as on edge, the understable disc stands up and goes on where the
/// overstable one falls back; and so does a worn disc against what it was when new.
#[rstest]
#[case(5.0, 55.0)]
#[case(7.0, 58.0)]
#[case(9.0, 60.0)]
#[case(12.0, 64.0)]
fn trade_understable_and_worn_discs_roll_best(#[case] speed: f64, #[case] mph: f64) {
    for hyzer_deg in [-45.0, -50.0, -55.0] {
        let far = |turn: f64, fade: f64| {
            let throw = roller(disc(speed, 5.0, turn, fade), mph, hyzer_deg);
            rested(throw, Ground::Turf, &rim(speed)).0.distance_m()
        };
        let (over, new, worn, under) = (far(0.0, 3.0), far(-1.0, 2.0), far(-1.8, 1.4), far(-3.0, 1.0));
        let all = format!("speed {speed} at {hyzer_deg}°: {over:.0} {new:.0} {worn:.0} {under:.0} m");
        assert!(over < new && new < worn && worn < under, "{all}");
        assert!(under > 1.3 * over, "{all}");
    }
}

/// A right-hand backhand roller first leans and goes left, stands up, and comes round to the right; a left-hander's and a
/// forehand's are its mirror.
#[test]
fn trade_an_understable_roller_goes_left_stands_up_and_comes_round_right() {
    let under = disc(9.0, 5.0, -3.0, 0.0);
    let mut thrown = roller(under, 60.0, -54.0);
    let contact = Contact { ground: Ground::Turf, disc: &under, rim: &rim(9.0), air: &Air::default() };
    let mut o = flown(thrown);
    let (manner, way) = settle_with_path(&mut o, &contact);
    assert_eq!(manner, Manner::Rolls);
    let bearing = |k: usize| {
        let (a, b) = (way[k], way[k + 1]);
        (b.y_m - a.y_m).atan2(b.x_m - a.x_m)
    };
    let steps = way.len() - 3;
    assert!(bearing(steps / 4) > bearing(1) + 0.03, "left first");
    assert!(bearing(steps) < bearing(steps / 2) - 0.2, "and right at the end");
    thrown.release.hand = Hand::Left;
    let mirrored = rested(thrown, Ground::Turf, &rim(9.0)).0;
    assert_abs_diff_eq!(mirrored.y_m, -o.y_m, epsilon = 1e-6);
    assert_abs_diff_eq!(mirrored.x_m, o.x_m, epsilon = 1e-6);
    let forehand = Release { style: Style::Forehand, hand: Hand::Right, ..thrown.release };
    let (o, manner) = rested(Throw { release: forehand, ..thrown }, Ground::Turf, &rim(9.0));
    assert_eq!(manner, Manner::Rolls);
    assert!(o.touch.normal[1] > 0.3, "down on its left edge");
}

/// A cut roller is thrown on more anhyzer and with less of the arm; it is down within a few metres.
#[test]
fn trade_a_cut_roller_is_quickly_down() {
    for (s, g, t, f) in [(4.0, 4.0, -2.0, 0.0), (5.0, 5.0, -3.0, 0.0), (7.0, 5.0, -3.0, 1.0)] {
        let o = flown(roller(disc(s, g, t, f), 42.0, -68.0));
        assert!((5.0..13.0).contains(&o.distance_m()) && o.apex_m < 1.6, "{:.0} m", o.distance_m());
    }
}

#[test]
fn trade_rollers_go_far_on_hard_ground_and_nowhere_in_a_wet_meadow() {
    for numbers in [(5.0, 5.0, -3.0, 0.0), (9.0, 5.0, -3.0, 0.0), (12.0, 5.0, -3.0, 2.0)] {
        let (s, g, t, f) = numbers;
        let on = |ground| rested(roller(disc(s, g, t, f), 60.0, -60.0), ground, &rim(s)).0.run_m;
        let [soft, turf, hard, snow] = Ground::ALL.map(on);
        assert!(
            soft < 0.7 * turf && snow < 0.7 * turf && turf < hard,
            "{soft:.0} {turf:.0} {hard:.0} {snow:.0}"
        );
    }
}

/// A hyzer comes down on the edge that its spin drives backward.
#[rstest]
#[case(Style::Backhand)]
#[case(Style::Forehand)]
fn trade_a_spike_hyzer_does_not_roll(#[case] style: Style) {
    let throw = backhand(disc(9.0, 4.0, 0.0, 4.0), 55.0, 70.0);
    let throw = Throw { release: Release { style, launch_deg: 30.0, ..throw.release }, ..throw };
    for ground in Ground::ALL {
        let (o, manner) = rested(throw, ground, &rim(9.0));
        assert!(!o.rolled && manner != Manner::Rolls);
    }
}

#[test]
fn prop_downhill_rolls_farther_than_uphill() {
    let under = disc(9.0, 5.0, -3.0, 0.0);
    let throw = roller(under, 60.0, -55.0);
    let run = |rise_m: f64| {
        let terrain = Terrain::through(&[(250.0, rise_m)]).unwrap();
        let air = Air::default().over(terrain);
        let mut o = fly_all(&[throw], &air, &[])[0];
        settle(&mut o, &Contact { ground: Ground::Turf, disc: &under, rim: &rim(9.0), air: &air });
        assert!(o.rolled);
        o.run_m
    };
    let runs: Vec<f64> = [-12.0, -5.0, 0.0, 5.0, 12.0].map(run).to_vec();
    assert!(runs.windows(2).all(|w| w[0] > w[1] + 2.0), "{runs:.0?}");
    assert!(runs[0] < 3.0 * runs[2], "and ends somewhere: {runs:.0?}");
}

/// What rolls is seen to pass the gates behind where it touched, near the ground and where its way goes.
#[test]
fn prop_a_roller_passes_gates_on_the_ground() {
    let under = disc(9.0, 5.0, -3.0, 0.0);
    let throw = roller(under, 60.0, -55.0);
    let (air, rim) = (Air::default(), rim(9.0));
    let contact = Contact { ground: Ground::Turf, disc: &under, rim: &rim, air: &air };
    let gates = [5.0, 40.0, 70.0, 180.0];
    let mut flights = fly_all(&[throw; 3], &air, &gates);
    let mut alone = flights[0];
    settle_all(&mut flights, &contact, &gates);
    let (_, way) = settle_with_path(&mut alone, &contact);
    for o in flights {
        let passed: Vec<_> = (0..4).map(|k| o.crossings.get(k)).collect();
        assert!(passed[0].is_some_and(|c| c.z_m > 0.3), "in the air");
        for k in [1, 2] {
            let at = passed[k].unwrap();
            let step = way.windows(2).find(|w| w[0].x_m <= gates[k] && gates[k] < w[1].x_m).unwrap();
            let share = (gates[k] - step[0].x_m) / (step[1].x_m - step[0].x_m);
            let y_m = step[0].y_m + share * (step[1].y_m - step[0].y_m);
            assert_abs_diff_eq!(f64::from(at.y_m), y_m, epsilon = 0.05);
            assert!(at.z_m < 0.2);
        }
        assert!(passed[3].is_none(), "never so far");
    }
}

proptest! {
    /// Many rollers at once lie where each alone does, and the way drawn leads from the touch to there; nobody's roll jumps where
    /// the release changes by a hair.
    #[test]
    fn prop_company_changes_no_roll(mph in 35.0f64..72.0, hyzer in -88.0f64..-25.0, launch in -4.0f64..25.0, kind in 0usize..4) {
        let under = disc(7.0, 5.0, -3.0, 1.0);
        let (air, rim, ground) = (Air::default(), rim(7.0), Ground::ALL[kind]);
        let contact = Contact { ground, disc: &under, rim: &rim, air: &air };
        let throw = |k: i32| {
            let base = roller(under, mph, hyzer + 0.002 * f64::from(k));
            Throw { release: Release { launch_deg: launch, ..base.release }, ..base }
        };
        let throws: Vec<Throw> = (0..20).map(throw).collect();
        let touched = fly_all(&throws, &air, &[]);
        let mut together = touched.clone();
        settle_all(&mut together, &contact, &[]);
        for (a, b) in touched.iter().zip(&together) {
            let mut alone = *a;
            let (_, way) = settle_with_path(&mut alone, &contact);
            prop_assert!((alone.x_m - b.x_m).hypot(alone.y_m - b.y_m) < 0.05);
            prop_assert!((way[0].x_m - a.x_m).abs() < 1e-9);
            let last = way[way.len() - 1];
            prop_assert!((last.x_m - alone.x_m).hypot(last.y_m - alone.y_m) < 1e-9);
            prop_assert!(way.windows(2).all(|w| w[0].t_s <= w[1].t_s));
        }
        for w in together.windows(2) {
            prop_assert!((w[0].x_m - w[1].x_m).hypot(w[0].y_m - w[1].y_m) < 0.5, "{:?}", w[0]);
        }
    }
}

/// From memory: a roller leaves the hand a little slower than a drive and takes 10 to 25 s to lie down.
#[test]
fn trade_a_long_roller_takes_its_time() {
    let under = disc(9.0, 5.0, -3.0, 0.0);
    let mut o = flown(roller(under, 64.0, -55.0));
    let contact = Contact { ground: Ground::Turf, disc: &under, rim: &rim(9.0), air: &Air::default() };
    let (_, way) = settle_with_path(&mut o, &contact);
    let last = way[way.len() - 1].t_s;
    assert!((8.0..25.0).contains(&last), "{last:.0} s");
}
/// The way over the ground of a roller that comes down at a launch angle, the height of its highest hop (m), and how fast it fell, m/s.
fn hopped(ground: Ground, launch_deg: f64) -> (Vec<PathPoint>, f64, f64) {
    let under = disc(9.0, 5.0, -3.0, 0.0);
    let base = roller(under, 60.0, -55.0);
    let mut o = flown(Throw { release: Release { launch_deg, ..base.release }, ..base });
    let fall_m_s = -o.touch.velocity_m_s[2];
    let contact = Contact { ground, disc: &under, rim: &rim(9.0), air: &Air::default() };
    let (_, way) = settle_with_path(&mut o, &contact);
    let highest = way.iter().map(|p| p.z_m - under.radius_m).fold(0.0, f64::max);
    (way, highest, fall_m_s)
}

/// A roller hops where the ground is rough, the higher the faster it is and the harder it comes down; snow swallows it.
#[test]
fn trade_a_roller_hops_higher_on_rough_ground() {
    let (_, grass, _) = hopped(Ground::Turf, 0.0);
    let (_, rough, _) = hopped(Ground::Hard, 0.0);
    let (way, thrown_high, _) = hopped(Ground::Hard, 12.0);
    assert!(0.03 < grass && grass < rough && 2.0 * rough < thrown_high && thrown_high < 1.0);
    let tops: Vec<f64> =
        way.windows(3).filter(|w| w[1].z_m > w[0].z_m.max(w[2].z_m)).map(|w| w[1].z_m).collect();
    assert!(tops.len() > 4 && tops.windows(2).all(|w| w[0] > w[1]), "lower and lower: {tops:.2?}");
    assert!(hopped(Ground::Snow, 0.0).1 < 0.03);
}

proptest! {
    /// Between two touches a disc falls freely, it never sinks, and no hop gives back more than it fell or rolled with.
    #[test]
    fn prop_a_hop_is_a_free_fall(launch in -4.0f64..14.0, kind in 0usize..4) {
        let (way, highest, fall) = hopped(Ground::ALL[kind], launch);
        let radius = disc(9.0, 5.0, -3.0, 0.0).radius_m;
        let (first, last) = (way[0], way[way.len() - 1]);
        let fast = way.windows(2).map(|w| (w[1].x_m - w[0].x_m).hypot(w[1].y_m - w[0].y_m) / (w[1].t_s - w[0].t_s)).fold(0.0, f64::max);
        prop_assert!(2.0 * GRAVITY_M_S2 * highest <= fall.max(0.12 * fast).powi(2));
        prop_assert!(way[1..way.len() - 1].iter().all(|p| p.z_m >= radius - 1e-9));
        let mut flew = 0;
        for w in way.windows(3).filter(|w| w[1].z_m > radius + 1e-6 && w[0].z_m >= radius - 1e-9) {
            let (before, after) = (w[1].t_s - w[0].t_s, w[2].t_s - w[1].t_s);
            let bent = (w[2].z_m - w[1].z_m) / after - (w[1].z_m - w[0].z_m) / before;
            prop_assert!((bent + GRAVITY_M_S2 * 0.5 * (before + after)).abs() < 1e-6, "{bent}");
            flew += 1;
        }
        prop_assert!(flew > 0 || highest == 0.0);
        prop_assert!(way.windows(2).all(|w| w[0].t_s <= w[1].t_s) && first.t_s < last.t_s || way.len() == 2);
    }
}
