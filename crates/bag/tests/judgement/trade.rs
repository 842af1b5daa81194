//! Rules of thumb of the sport, as the judgement sees them. Common practice, no source.

use crate::scene::{WORKED_OUT, arm, disc, into_wind, player, spec, worn};
use zinc_kite_bag::chance::search::chance;
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec};
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::disc::wear::Grade;
use zinc_kite_bag::need::line::LineSpec;
use zinc_kite_bag::need::peg::Peg;
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::board::{Puck, pucks};
use zinc_kite_flight::air::Wind;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::release::Release;

/// The arm for which discs fly about as rated.
fn rated_arm() -> Player {
    player(121.0, Skill::Club)
}

fn puck_in(player: &Player, conditions: &Conditions, spec: DiscSpec) -> Puck {
    let arm = Arm::of(player, conditions).unwrap();
    let disc = disc(1, spec);
    pucks(player, &arm, Style::Backhand, arm.wind, &[(&disc, false)]).unwrap().remove(0)
}

fn puck(player: &Player, spec: DiscSpec) -> Puck {
    puck_in(player, &Conditions::default(), spec)
}

fn line(distance_m: f64) -> LineSpec {
    LineSpec {
        name: "test".into(),
        slot: Slot::MidRange,
        distance_m,
        zone_length_m: 0.26 * distance_m,
        zone_width_m: 0.22 * distance_m,
        hyzer_min_deg: -4.0,
        hyzer_max_deg: 4.0,
        launch_min_deg: 5.0,
        launch_max_deg: 15.0,
        ..LineSpec::usual(Style::Backhand)
    }
}

fn chance_of(player: &Player, conditions: &Conditions, disc: &Disc, line: &LineSpec) -> f64 {
    let arm = Arm::of(player, conditions).unwrap();
    chance(&arm, thrown(disc).unwrap(), line, &WORKED_OUT).chance
}

#[test]
fn trade_07_into_wind_stepping_across_or_up_beats_the_straight_disc() {
    let p = rated_arm();
    // Over several distances and winds, so that the grain of one search does not decide.
    let mean = |numbers: (f64, f64, f64, f64)| {
        let (s, g, t, f) = numbers;
        let each: Vec<f64> = [48.0, 56.0, 64.0]
            .into_iter()
            .flat_map(|d| [5.0, 7.0].map(|w| (d, w)))
            .map(|(d, w)| {
                let target = LineSpec { hyzer_min_deg: 0.0, hyzer_max_deg: 6.0, ..line(d) };
                chance_of(&p, &into_wind(w), &disc(1, spec(s, g, t, f)), &target)
            })
            .collect();
        each.iter().sum::<f64>() / each.len() as f64
    };
    let straight = mean((3.0, 3.0, -0.5, 0.5));
    let (across, up) = (mean((3.0, 3.0, 0.0, 3.0)), mean((5.0, 4.0, 0.0, 1.0)));
    println!("straight {straight:.3} across {across:.3} up {up:.3}");
    assert!(across > straight, "across {across:.2}, straight {straight:.2}");
    assert!(up > straight, "up {up:.2}, straight {straight:.2}");
}

#[test]
fn trade_08_five_grams_lighter_acts_slightly_less_stable() {
    let heavy = puck(&rated_arm(), spec(9.0, 5.0, -1.0, 2.0));
    let light = DiscSpec { mass_g: 168.0, ..spec(9.0, 5.0, -1.0, 2.0) };
    let light = puck(&rated_arm(), light);
    let change = heavy.bend.finish_deg - light.bend.finish_deg;
    assert!(change > 0.0 && change < 5.0, "{change:.2}°");
}

#[test]
fn trade_09_fresh_premium_is_more_stable_than_a_beat_one() {
    let fresh = DiscSpec { plastic: Plastic::Premium, ..spec(7.0, 5.0, 0.0, 2.0) };
    let beat = worn(fresh.clone(), Grade::Beat);
    let (fresh, beat) = (puck(&rated_arm(), fresh), puck(&rated_arm(), beat));
    assert!(fresh.bend.finish_deg > beat.bend.finish_deg + 3.0);
    assert!(fresh.peg < beat.peg, "{:?} {:?}", fresh.peg, beat.peg);
}

#[test]
fn trade_10_no_glide_very_overstable_tops_out_near_75_m() {
    let strong = Arm::of(&player(130.0, Skill::Club), &Conditions::default()).unwrap();
    let body = thrown(&disc(1, spec(4.0, 1.0, 0.0, 5.0))).unwrap().body;
    let full = strong.release(Style::Backhand, 14.0, 1.0);
    let throws: Vec<Throw> = [8.0, 11.0, 14.0, 17.0, 20.0]
        .into_iter()
        .flat_map(|launch_deg| [0.0, -10.0, -20.0].map(|h| (launch_deg, h)))
        .map(|(launch_deg, hyzer_deg)| Throw {
            disc: body,
            release: Release { launch_deg, hyzer_deg, ..full },
            wind: Wind::CALM,
        })
        .collect();
    let farthest = fly_all(&throws, &strong.air, &[]).iter().map(|o| o.distance_m()).fold(0.0, f64::max);
    assert!((65.0..88.0).contains(&farthest), "{farthest:.0} m");
}

#[test]
fn trade_11_club_arm_hyzer_flips_an_understable_mid_to_about_91_m() {
    let p = player(112.0, Skill::Club);
    let far = LineSpec {
        hyzer_min_deg: 0.0,
        hyzer_max_deg: 25.0,
        zone_length_m: 20.0,
        zone_width_m: 60.0,
        ..line(84.0)
    };
    let found = chance_of(&p, &Conditions::default(), &disc(1, spec(5.0, 5.0, -3.0, 0.0)), &far);
    assert!(found > 0.3, "reaches the stretch around 84 m with chance {found:.2}");
}

#[test]
fn trade_12_what_is_stable_to_a_strong_arm_is_overstable_to_a_weak_one() {
    let strong = puck(&player(130.0, Skill::Club), spec(9.0, 5.0, -1.0, 2.0));
    let weak = puck(&player(75.0, Skill::Club), spec(9.0, 5.0, -1.0, 2.0));
    assert!(weak.bend.finish_deg > strong.bend.finish_deg + 2.0);
    assert!(weak.peg < strong.peg || weak.peg == Some(Peg::Hook));
}

#[test]
fn trade_14_approach_on_hyzer_to_45_m_finishes_within_8_m_nearly_every_time() {
    let good = player(110.0, Skill::Top);
    let approach = LineSpec {
        zone_length_m: 16.0,
        zone_width_m: 16.0,
        hyzer_min_deg: 5.0,
        hyzer_max_deg: 30.0,
        launch_max_deg: 20.0,
        ..line(45.0)
    };
    let overstable = disc(1, spec(3.0, 3.0, 0.0, 3.0));
    let found = chance_of(&good, &Conditions::default(), &overstable, &approach);
    assert!(found > 0.93, "{found:.2}");
}

#[test]
fn trade_15_a_left_hander_sees_the_mirror_image() {
    let right = player(100.0, Skill::Club);
    let left = Player { hand: Hand::Left, ..right.clone() };
    let (r, l) = (puck(&right, spec(9.0, 4.0, 0.0, 4.0)), puck(&left, spec(9.0, 4.0, 0.0, 4.0)));
    assert!((r.finish_left_deg + l.finish_left_deg).abs() < 1e-9 && r.finish_left_deg > 0.0);
    assert_eq!(r.peg, l.peg);
}

#[test]
fn trade_driving_distance_gives_back_the_arm() {
    use zinc_kite_bag::thrower::arm::{arm_speed_m_s, driving_distance_m};
    for style in [Style::Backhand, Style::Forehand] {
        for distance in [40.0, 82.0, 104.0, 150.0] {
            let speed = arm_speed_m_s(distance, style, None);
            assert!((driving_distance_m(speed, style, None) - distance).abs() < 0.05, "{distance}");
        }
    }
    // 120 m is what an arm of about 63 mph reaches, at 8 ft a mph up from 285 ft at 50 mph (common practice, no source).
    let speed = arm_speed_m_s(120.0, Style::Backhand, None);
    assert!((0.95..1.05).contains(&(speed / 28.2)), "{speed:.1} m/s");
}

#[test]
fn trade_wear_moves_a_disc_down_the_pegs() {
    let p = player(104.0, Skill::Club);
    let order: Vec<Peg> = [Grade::Fresh, Grade::Seasoned, Grade::Beat, Grade::Flippy]
        .map(|g| puck(&p, worn(spec(7.0, 5.0, 0.0, 2.0), g)).peg.unwrap())
        .to_vec();
    assert!(order.windows(2).all(|w| w[0] <= w[1]) && order[0] < order[3], "{order:?}");
}

#[test]
fn trade_flat_tops_resist_turn_and_domes_fade() {
    use zinc_kite_bag::disc::spec::Top;
    let base = spec(9.0, 5.0, -1.0, 2.0);
    let with = |top| as_thrown(&DiscSpec { top, ..base.clone() }).result;
    assert!(with(Top::Flat).turn > with(Top::Neutral).turn);
    assert!(with(Top::Domed).fade > with(Top::Neutral).fade);
    assert!(with(Top::Domed).glide > with(Top::Flat).glide);
}

#[test]
fn trade_club_arm_mid_distances() {
    let p = player(110.0, Skill::Club);
    let mid = puck(&p, spec(5.0, 4.0, -1.0, 1.0)).distance_m;
    let fairway = puck(&p, spec(7.0, 5.0, 0.0, 2.0)).distance_m;
    let putter = puck(&p, spec(3.0, 3.0, 0.0, 1.0)).distance_m;
    assert!((75.0..98.0).contains(&mid), "mid-range {mid:.0} m");
    assert!((82.0..110.0).contains(&fairway), "fairway {fairway:.0} m");
    assert!((60.0..80.0).contains(&putter), "putter {putter:.0} m");
    assert!(arm(&p).speed_m_s(Style::Backhand) > 25.0);
}
