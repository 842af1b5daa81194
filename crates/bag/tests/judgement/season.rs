//! The judgement over the season: strokes, worths, findings.

use crate::scene::case::{Case, shelf};
use crate::scene::{disc, player, spec};
use rstest::rstest;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Use};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::thrower::player::{Player, School, Skill};
use zinc_kite_bag::thrower::season::WeatherKind;
use zinc_kite_bag::verdict::carried::Carried;
use zinc_kite_bag::verdict::finding::{Action, Finding, FindingKind, MOST};
use zinc_kite_bag::verdict::season::SeasonVerdict;
use zinc_kite_bag::verdict::standing::Standing;
use zinc_kite_bag::words::strokes;

fn of(verdict: &SeasonVerdict, kind: FindingKind) -> Vec<&Finding> {
    verdict.findings.iter().filter(|f| f.kind == kind).collect()
}

/// From eight different bags: pressing every button in turn never costs a stroke, ends soon, empties no wanted peg that was
/// filled and benches no last disc of a slot; each saves what it said.
#[rstest]
#[case(104.0, Skill::Advanced, &[0, 2, 5, 8, 11, 15], 8)]
#[case(104.0, Skill::Advanced, &[0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15, 16], 17)]
#[case(104.0, Skill::Club, &[13, 14, 15, 16], 6)]
#[case(60.0, Skill::Beginner, &[2, 5, 8], 5)]
#[case(60.0, Skill::Club, &[2, 5, 8, 11, 13, 15, 16, 12], 8)]
#[case(130.0, Skill::Top, &[0, 3, 6, 9, 12, 16], 10)]
#[case(85.0, Skill::Club, &[], 4)]
#[case(95.0, Skill::Advanced, &[4, 7, 10, 13, 17], 6)]
fn prop_every_button_saves_what_it_says(
    #[case] metres: f64,
    #[case] skill: Skill,
    #[case] carried: &[usize],
    #[case] capacity: u32,
) {
    let mut case = Case::of(player(metres, skill), shelf(), carried, capacity);
    let mut before = case.judge();
    for step in 0..=12 {
        let Some(next) = before.findings.iter().find(|f| f.action.moves() != (None, None)).cloned() else {
            return;
        };
        assert!(step < 12, "still something to press after twelve: {}", next.title);
        let slots = |case: &Case| {
            let carried = |d: &&Disc| case.carried.iter().any(|c| c.disc_id == d.id);
            case.shelf
                .iter()
                .filter(carried)
                .map(|d| case.player.lane(d.spec.slot()))
                .collect::<std::collections::HashSet<_>>()
        };
        let filled = slots(&case);
        case.press(&next.action);
        assert!(filled.is_subset(&slots(&case)), "{} empties a slot", next.title);
        let after = case.judge();
        let saved = before.leaves_strokes - after.leaves_strokes;
        assert!(next.saves_strokes >= 0.01, "{} saves {}", next.title, next.saves_strokes);
        let told = format!("saves {} a round", strokes(next.saves_strokes));
        let tells = next.reason.contains(&told) && !next.reason.contains("; Carry");
        assert!(tells || next.kind == FindingKind::OverCap, "{}, not \"{told}\"", next.reason);
        assert!(
            saved > next.saves_strokes - 0.015,
            "{} said {:.3} and saved {saved:.3}",
            next.title,
            next.saves_strokes
        );
        before = after;
    }
}

/// What all discs do together is shared out among them without rest; nobody is missed for more than the work it does.
#[test]
fn prop_worths_share_out_what_the_bag_saves() {
    let case = Case::of(player(104.0, Skill::Advanced), shelf(), &[0, 2, 4, 5, 7, 8, 11, 12, 15, 16], 12);
    let v = case.judge();
    let empty = Case::of(player(104.0, Skill::Advanced), shelf(), &[], 12).judge();
    let shared: f64 = v.worths.iter().map(|w| w.shared_strokes).sum();
    assert!((shared - (empty.leaves_strokes - v.leaves_strokes)).abs() < 0.02, "{shared:.3}");
    for w in &v.worths {
        assert!(w.missed_strokes >= 0.0 && w.missed_strokes <= w.shared_strokes + 1e-9, "{w:?}");
        assert!(!w.words.is_empty() && (w.jobs.is_empty() || !w.short.is_empty()));
        assert!(w.jobs.iter().all(|j| j.lead > 0.0 && !j.weathers.is_empty()));
    }
    let most = v.worths.iter().max_by(|a, b| a.missed_strokes.total_cmp(&b.missed_strokes)).unwrap();
    assert!(most.words.contains("strokes of the work a round"), "{}", most.words);
}

#[test]
fn prop_shelf_and_ideal_discs_leave_less_than_the_bag() {
    let case = Case::of(player(104.0, Skill::Advanced), shelf(), &[2, 5, 8], 10);
    let v = case.judge();
    assert!(v.shelf_leaves_strokes <= v.leaves_strokes && v.ideal_leaves_strokes <= v.shelf_leaves_strokes);
    assert!(v.steps.windows(2).all(|w| w[1].leaves_strokes <= w[0].leaves_strokes) && v.steps.len() == 10);
    let sum: f64 = v.lines.iter().map(|l| l.leaves_strokes).sum();
    assert!((sum - v.leaves_strokes).abs() < 1e-9);
    let slots: f64 = v.slots.iter().map(|s| s.leaves_strokes).sum();
    assert!((slots - sum).abs() < 1e-9);
    for l in &v.lines {
        assert_eq!(l.by_weather.len(), 5);
        assert!(l.chance <= l.ideal + 1e-9 && !l.reason.is_empty(), "{}", l.key);
    }
    // The same again, to the last bit.
    assert_eq!(v, case.judge());
}

/// Into the wind the stable disc is thrown, with it the floaty one.
#[test]
fn trade_the_wind_chooses_the_disc() {
    let case = Case::of(
        player(104.0, Skill::Advanced),
        shelf(),
        &[2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 15, 16],
        20,
    );
    let v = case.judge();
    let stability = |kind| {
        let best = v.lines.iter().filter_map(|l| l.by_weather.iter().find(|w| w.kind == kind)?.best);
        let each: Vec<f64> = best
            .map(|c| case.shelf.iter().find(|d| d.id == c.disc_id).unwrap().spec.printed)
            .map(|n| n.turn + n.fade)
            .collect();
        each.iter().sum::<f64>() / each.len() as f64
    };
    let [into, calm, with] = [WeatherKind::Ahead, WeatherKind::Calm, WeatherKind::Behind].map(stability);
    assert!(into > calm && calm > with - 0.05, "{into:.2} {calm:.2} {with:.2}");
}

#[test]
fn prop_a_disc_over_the_cap_comes_first_and_counts_for_nothing() {
    let heavy = |mass_g| DiscSpec { mass_g, ..spec(5.0, 4.0, -1.0, 1.0) };
    let shelf = vec![disc(1, heavy(180.0)), disc(2, heavy(178.0)), disc(3, heavy(172.0))];
    let mut case = Case::of(player(104.0, Skill::Advanced), shelf, &[0], 5);
    case.bag.event_cap_g = Some(175.0);
    let v = case.judge();
    assert_eq!(v.findings[0].kind, FindingKind::OverCap);
    assert_eq!(v.findings[0].action, Action::Swap { carry: DiscId(3), bench: DiscId(1) });
    assert!(v.findings[0].reason.contains("180 g") && v.findings[0].reason.contains("175 g"));
    assert!(v.worths.is_empty() && v.findings[0].saves_strokes > 0.5);
    case.shelf.truncate(2);
    assert_eq!(case.judge().findings[0].action, Action::Bench { disc_id: DiscId(1) });
}

#[test]
fn prop_an_over_full_bag_names_what_is_missed_least() {
    let shelf = vec![
        disc(1, spec(5.0, 4.0, -1.0, 1.0)),
        disc(2, spec(5.0, 4.0, -1.0, 1.0)),
        disc(3, spec(9.0, 4.0, 0.0, 4.0)),
    ];
    let v = Case::of(player(104.0, Skill::Advanced), shelf, &[0, 1, 2], 2).judge();
    let found = of(&v, FindingKind::OverFull);
    assert!(matches!(found[0].action, Action::Bench { disc_id } if disc_id != DiscId(3)), "{:?}", found[0]);
    assert_eq!(found[0].title, "3 discs in a bag for 2");
}

#[test]
fn prop_a_gap_is_mended_from_the_shelf_or_specified() {
    let shelf = vec![disc(1, spec(9.0, 4.0, 0.0, 4.0)), disc(2, spec(7.0, 5.0, -3.0, 1.0))];
    let mut case = Case::of(player(104.0, Skill::Advanced), shelf, &[0], 5);
    case.lines.retain(|l| l.key == "fairway-slide");
    let v = case.judge();
    assert_eq!(v.lines[0].standing, Standing::Gap);
    let gap = of(&v, FindingKind::Gap)[0];
    assert_eq!(gap.action, Action::Carry { disc_id: DiscId(2) });
    case.shelf.truncate(1);
    let bare = case.judge();
    let Action::LookFor { numbers } = of(&bare, FindingKind::Gap)[0].action else {
        panic!("{:?}", bare.findings)
    };
    assert!(numbers.turn + numbers.fade <= 0.0, "an understable disc is what to look for: {numbers:?}");
}

/// A line farther than this arm throws is no fault of the bag.
#[test]
fn prop_what_no_disc_could_do_is_beyond_this_arm() {
    let mut case =
        Case::of(player(104.0, Skill::Advanced), vec![disc(1, spec(12.0, 5.0, -1.0, 3.0))], &[0], 5);
    case.lines.retain(|l| l.key == "distance-rail");
    case.lines[0].generated = false;
    case.lines[0].spec.distance_m = 180.0;
    let v = case.judge();
    assert_eq!(v.lines[0].standing, Standing::BeyondArm);
    assert!(v.lines[0].reason.contains("m beyond what your arm reaches"), "{}", v.lines[0].reason);
    assert!(of(&v, FindingKind::Gap).is_empty());
}

#[test]
fn prop_twins_make_room_for_something_else() {
    // Enough on the shelf that gaps do not take it all.
    let more = [spec(4.0, 1.0, 0.0, 5.0), spec(5.0, 3.0, 0.0, 5.0), spec(9.0, 5.0, -3.0, 1.0)];
    let more = more.into_iter().enumerate().map(|(k, s)| disc(k as i64 + 19, s));
    let shelf: Vec<Disc> = shelf().into_iter().chain(more).collect();
    let all_but: Vec<usize> = (0..17).filter(|k| ![9, 10, 12].contains(k)).collect();
    // With room left a gap takes nothing away from the twins.
    let mut case = Case::of(player(104.0, Skill::Advanced), shelf, &all_but, 17);
    let v = case.judge();
    let twins = of(&v, FindingKind::Twins);
    assert!(!twins.is_empty(), "{:#?}", v.findings);
    assert!(twins[0].disc_ids.iter().all(|id| [14, 15].contains(&id.0)), "{:?}", twins[0]);
    assert!(matches!(twins[0].other.as_ref().unwrap().action, Action::MarkSpare { .. }));
    for c in &mut case.carried {
        c.spare = [14, 15].contains(&c.disc_id.0);
    }
    assert!(of(&case.judge(), FindingKind::Twins).is_empty(), "a spare is no fault");
}

#[test]
fn prop_findings_are_few_in_order_and_move_no_disc_twice() {
    let v = Case::of(player(95.0, Skill::Club), shelf(), &[2, 13, 14, 16], 6).judge();
    assert!(!v.findings.is_empty() && v.findings.len() <= MOST);
    assert!(v.findings.windows(2).all(|w| w[0].saves_strokes >= w[1].saves_strokes));
    let mut moved: Vec<DiscId> =
        v.findings.iter().flat_map(|f| <[Option<DiscId>; 2]>::from(f.action.moves())).flatten().collect();
    let all = moved.len();
    moved.sort_unstable();
    moved.dedup();
    assert_eq!(moved.len(), all);
}

#[test]
fn prop_an_empty_bag_and_an_empty_shelf_are_judged() {
    let v = Case::of(player(90.0, Skill::Club), vec![], &[], 10).judge();
    assert!(v.lines.iter().all(|l| l.chance == 0.0 && l.standing == Standing::Gap));
    assert!(v.findings.iter().all(|f| matches!(f.action, Action::LookFor { .. })) && !v.findings.is_empty());
    let mut none = Case::of(player(90.0, Skill::Club), vec![], &[], 10);
    none.lines.clear();
    let v = none.judge();
    assert!(v.lines.is_empty() && v.findings.is_empty() && v.leaves_strokes == 0.0);
}

#[test]
fn prop_a_stopped_season_says_so() {
    let case = Case::of(player(90.0, Skill::Club), shelf(), &[2], 10);
    assert_eq!(case.judge_or_stop(true).unwrap_err(), BagError::Stopped);
    let mut odd = Case::of(player(90.0, Skill::Club), shelf(), &[2], 10);
    odd.player.season.wet_share = 2.0;
    assert_eq!(odd.judge_or_stop(false).unwrap_err().field(), "wet_share");
}

/// Rain counts only where it rains, and slick plastic loses by it.
#[test]
fn trade_a_wet_season_costs_strokes() {
    let slick = |k, s: DiscSpec| disc(k, DiscSpec { plastic: Plastic::Premium, ..s });
    let shelf = vec![
        slick(1, spec(3.0, 3.0, 0.0, 1.0)),
        slick(2, spec(5.0, 4.0, -1.0, 1.0)),
        slick(3, spec(8.0, 5.0, -1.0, 2.0)),
    ];
    let mut case =
        Case::of(Player { school: School::Three, ..player(90.0, Skill::Club) }, shelf, &[0, 1, 2], 5);
    case.player.season.windiness = zinc_kite_bag::thrower::season::Windiness::Sheltered;
    let dry = case.judge();
    case.player.season.wet_share = 0.6;
    let wet = case.judge();
    assert_eq!(wet.weathers.len(), 6);
    let calm = |v: &SeasonVerdict, kind| -> f64 {
        v.lines
            .iter()
            .filter_map(|l| l.by_weather.iter().find(|w| w.kind == kind)?.best)
            .map(|b| b.chance)
            .sum()
    };
    assert!(calm(&wet, WeatherKind::Wet) < calm(&dry, WeatherKind::Calm));
}

/// What a disc of the shelf would save beside the bag is what the bag is found to save once it is carried.
#[test]
fn prop_a_disc_beside_the_bag_saves_what_it_says() {
    let mut case = Case::of(player(104.0, Skill::Advanced), shelf(), &[0, 2, 5, 8, 11, 15], 12);
    let before = case.judge();
    assert_eq!(before.worths.len() + before.beside.len(), case.shelf.len());
    let mut best = before.beside.clone();
    best.sort_by(|a, b| b.missed_strokes.total_cmp(&a.missed_strokes));
    for worth in best.iter().take(3) {
        assert!(worth.words.contains("it would save"), "{}", worth.words);
        case.carried.push(Carried { disc_id: worth.disc_id, spare: false });
        let saved = before.leaves_strokes - case.judge().leaves_strokes;
        case.carried.pop();
        // Carried, it is worked out where it was only forecast before, and a forecast is cautious.
        let more = saved - worth.missed_strokes;
        assert!((-0.03..0.06).contains(&more), "{}: {saved:.3}", worth.words);
    }
    assert!(before.beside.iter().all(|w| w.jobs.is_empty() || !w.short.is_empty()));
}

/// Who keeps discs for putting putts with these: a thrown putter, however good, is not the one to throw at the basket, and where
/// none is carried one is fetched. Common practice, no source.
#[test]
fn trade_putts_belong_to_the_putters_that_are_kept_for_them() {
    let throws = Case::of(player(104.0, Skill::Advanced), shelf(), &[2, 3, 4, 5, 8], 20).judge();
    let putts =
        |v: &SeasonVerdict| v.lines.iter().filter(|l| l.key.ends_with("putt")).map(|l| l.chance).sum::<f64>();
    assert_eq!(putts(&throws), 0.0);
    assert!(
        throws.findings.iter().any(|f| f.line_keys.iter().any(|k| k == "circle-putt")
            && matches!(f.action, Action::Carry { disc_id } if disc_id.0 <= 2)),
        "{:?}",
        throws.findings
    );
    let both = Case::of(player(104.0, Skill::Advanced), shelf(), &[0, 1, 2, 3, 4, 5, 8], 20).judge();
    assert!(putts(&both) > 0.5);
    let putting: Vec<_> = both.worths.iter().filter(|w| w.disc_id.0 <= 2).collect();
    assert!(putting.iter().any(|w| w.shared_strokes > 0.1), "they do the work of putting");
    assert!(putting.iter().all(|w| w.short.contains("putt")), "and of a pair each says so: {putting:?}");
    // Whoever has not said what the putters are for putts with any.
    let mut plain = shelf();
    plain.iter_mut().for_each(|d| d.spec.used_for = Use::Throwing);
    assert!(putts(&Case::of(player(104.0, Skill::Advanced), plain, &[2, 3, 4, 5, 8], 20).judge()) > 0.5);
}
