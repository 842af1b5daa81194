//! What to take to a course on a day.

use crate::scene::{WORKED_OUT, disc, lines_of, player, spec};
use rstest::rstest;
use zinc_kite_bag::course::hole::{CourseSpec, Hole};
use zinc_kite_bag::course::weather::{Hour, PlayingDay};
use zinc_kite_bag::disc::colour::Cover;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Use};
use zinc_kite_bag::need::area::Spot;
use zinc_kite_bag::need::thing::{Peril, Thing};
use zinc_kite_bag::plan::build::{Desk, Stock, Wishes};
use zinc_kite_bag::plan::round::pack::{Packing, pack};
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::work::Work;

fn shelf() -> Vec<Disc> {
    let putting = DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) };
    let heavy = DiscSpec { mass_g: 180.0, ..spec(9.0, 5.0, -2.0, 1.0) };
    let all = [
        putting,
        spec(3.0, 3.0, 0.0, 1.0),
        spec(4.0, 1.0, 0.0, 4.0),
        spec(5.0, 4.0, -1.0, 1.0),
        spec(7.0, 5.0, 0.0, 2.0),
        spec(7.0, 5.0, 0.0, 2.0),
        spec(9.0, 4.0, 0.0, 4.0),
        spec(12.0, 5.0, -1.0, 3.0),
        heavy,
    ];
    all.into_iter().enumerate().map(|(k, s)| disc(k as i64 + 1, s)).collect()
}

/// A hole along water on the left, and one into a wood's length of open grass.
fn course() -> CourseSpec {
    let mut water = Hole::straight("1".into(), Style::Backhand, 90.0, 74.0, 0.0);
    let shore = [(15.0, 3.0), (110.0, 3.0), (110.0, 40.0), (15.0, 40.0)];
    let area = shore.map(|(at_m, left_m)| Spot { at_m, left_m }).to_vec();
    water.ways[0].line.things.push(Thing::Hazard {
        peril: Peril::Water,
        area,
        strokes: None,
        lost: Some(0.9),
    });
    let open = Hole::straight("2".into(), Style::Backhand, 270.0, 96.0, 0.0);
    CourseSpec { name: "Vell Links".into(), altitude_m: None, day: None, holes: vec![water, open] }
}

fn day(wind_m_s: f64, temperature_c: f64, rain_mm: f64) -> PlayingDay {
    let hour = Hour { hour: 9, wind_m_s, gust_m_s: None, from_deg: 250.0, temperature_c, rain_mm };
    PlayingDay { hours: vec![hour], ..PlayingDay::default() }
}

fn packed(shelf: &[Disc], in_bag: &[i64], wishes: &Wishes, day: &PlayingDay) -> Packing {
    let me = Player { forehand_m: 80.0, ..player(100.0, Skill::Advanced) };
    let lines = lines_of(&me);
    let stock = Stock { player: &me, shelf, moulds: &[], lines: &lines };
    let desk = Desk::of(&stock, false, &WORKED_OUT, &Work::default()).unwrap();
    let carried: Vec<Carried> =
        in_bag.iter().map(|id| Carried { disc_id: DiscId(*id), spare: false }).collect();
    let bag = BagSpec { name: "test".into(), capacity: 20, event_cap_g: wishes.event_cap_g };
    pack(&desk, wishes, (&bag, &carried), (&course(), day), &WORKED_OUT, &Work::default()).unwrap()
}

/// What comes is worth its place, what stays is not missed, every hole has its disc, and the round takes about as few strokes as with all
/// there is; a wish is kept.
#[test]
fn prop_the_smallest_bag_plays_about_as_well() {
    let shelf = shelf();
    let all: Vec<i64> = (1..=9).collect();
    let found = packed(&shelf, &all, &Wishes::of_size(20), &day(5.0, 14.0, 0.0));
    assert!(found.is_proven && (3..9).contains(&found.take.len()), "{:?}", found.take);
    assert!(found.take.iter().all(|t| t.saves >= 0.02 - 1e-9 && t.carried));
    assert!(found.stay.iter().all(|s| s.saves <= 0.02 + 1e-9));
    assert_eq!(found.take.len() + found.stay.len(), 9);
    let mut holes: Vec<&String> = found.take.iter().flat_map(|t| &t.holes).collect();
    holes.sort();
    assert_eq!(holes, ["1", "2"]);
    // What each is said to leave alone is less than a place is worth.
    assert!(found.strokes < found.bag_strokes + 0.02 * found.stay.len() as f64 + 1e-9, "{found:?}");
    assert!(found.strokes >= found.bag_strokes - 1e-9, "fewer discs are never better");
    let putts = found.take.iter().find(|t| t.disc_id == DiscId(1)).unwrap();
    assert!(putts.approaches > 1.0, "{putts:?}");
    let wish = Wishes { within: vec![DiscId(9)], without: vec![DiscId(5)], ..Wishes::of_size(4) };
    let wished = packed(&shelf, &all, &wish, &day(5.0, 14.0, 0.0));
    let ids: Vec<DiscId> = wished.take.iter().map(|t| t.disc_id).collect();
    assert!(ids.contains(&DiscId(9)) && !ids.contains(&DiscId(5)) && ids.len() <= 4, "{ids:?}");
}

/// What lies on the shelf comes along if the round wants it; what the event forbids does not, and is told.
#[test]
fn prop_what_is_at_home_is_swapped_in_and_what_is_too_heavy_stays() {
    let wishes = Wishes { event_cap_g: Some(176.0), ..Wishes::of_size(20) };
    let found = packed(&shelf(), &[2, 9], &wishes, &day(5.0, 14.0, 0.0));
    assert_eq!(found.over_cap, [DiscId(9)]);
    assert!(found.take.iter().all(|t| t.disc_id != DiscId(9)));
    assert!(found.take.iter().any(|t| !t.carried && t.disc_id == DiscId(1)), "{:?}", found.take);
    assert!(found.strokes < found.bag_strokes - 0.3, "{} {}", found.strokes, found.bag_strokes);
}

/// Over water a copy is wanted, and the one that flies alike is named.
#[test]
fn trade_over_water_a_copy_comes_along() {
    let all: Vec<i64> = (1..=9).collect();
    let wishes = Wishes {
        within: vec![DiscId(5)],
        without: [3, 4, 7, 8, 9].map(DiscId).to_vec(),
        ..Wishes::of_size(20)
    };
    let found = packed(&shelf(), &all, &wishes, &day(6.0, 14.0, 0.0));
    let copy = found.copies.first().unwrap();
    assert!(copy.lost >= 0.02 && copy.holes == ["1"], "{copy:?}");
    assert_eq!((copy.disc_id, copy.copy), (DiscId(5), Some(DiscId(6))));
}

/// Common practice, no source: orange is lost in leaves, white in snow.
#[rstest]
#[case("#ff7f2a", Cover::Leaves, true)]
#[case("#ff7f2a", Cover::Snow, false)]
#[case("#ffffff", Cover::Snow, true)]
#[case("#ffffff", Cover::Heather, false)]
fn trade_colours_that_vanish_are_told(#[case] colour: &str, #[case] cover: Cover, #[case] unseen: bool) {
    let painted = |mut d: Disc| {
        d.spec.colour = colour.into();
        d
    };
    let shelf: Vec<Disc> = shelf().into_iter().map(painted).collect();
    let day = PlayingDay { cover: Some(cover), ..day(5.0, 14.0, 0.0) };
    let found = packed(&shelf, &[1, 2, 3, 4], &Wishes::of_size(20), &day);
    assert_eq!((found.cover, !found.unseen.is_empty()), (cover, unseen));
    // What is putted with lies where it is seen.
    assert!(!found.unseen.contains(&DiscId(1)));
}

/// Rain asks for towels, cold for warmth, dusk and glowing discs for the lamp; each thing once.
#[rstest]
#[case(day(2.0, 14.0, 0.0), false, &[], &["towel-2", "warmth", "lamp"])]
#[case(day(2.0, 14.0, 1.0), false, &["towel-2", "rain"], &["warmth"])]
#[case(day(2.0, 1.0, 0.0), false, &["warmth"], &["rain"])]
#[case(PlayingDay { start_min: 19 * 60, ..day(2.0, 14.0, 0.0) }, false, &["lamp"], &[])]
#[case(day(2.0, 14.0, 0.0), true, &["lamp"], &[])]
fn trade_the_pack_list_follows_the_day(
    #[case] day: PlayingDay,
    #[case] glowing: bool,
    #[case] there: &[&str],
    #[case] not: &[&str],
) {
    let mut shelf = shelf();
    if glowing {
        shelf[0].spec.plastic = Plastic::StiffGlow;
    }
    let found = packed(&shelf, &[1], &Wishes::of_size(20), &day);
    let mut keys: Vec<&str> = found.items.iter().map(|i| i.key).collect();
    assert!(there.iter().all(|k| keys.contains(k)) && not.iter().all(|k| !keys.contains(k)), "{keys:?}");
    for always in ["marker", "towel", "grip", "tape", "balm", "sun", "water", "sandpaper", "rangefinder"] {
        assert!(keys.contains(&always), "{always}");
    }
    let n = keys.len();
    keys.sort_unstable();
    keys.dedup();
    assert_eq!(keys.len(), n);
}
