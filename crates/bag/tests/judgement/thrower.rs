//! What a player says of throwing, and what follows from it: styles, schools, moulds.

use crate::scene::case::{Case, shelf};
use crate::scene::{arm, disc, lines_of, player, spec};
use rstest::rstest;
use zinc_kite_bag::catalogue::lines::unwanted;
use zinc_kite_bag::disc::keeping::Tie;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec};
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::need::peg::Peg;
use zinc_kite_bag::thrower::habits::{Feel, Habits, HandUse, PuttingStyle, SlotSchool, StyleShare};
use zinc_kite_bag::thrower::player::{Player, School, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::board::board;
use zinc_kite_bag::verdict::finding::Action;
use zinc_kite_bag::verdict::school::objections;

fn of_habits(habits: Habits) -> Player {
    Player { habits, overhand_m: Some(60.0), ..player(104.0, Skill::Advanced) }
}

fn share(style: Style, pct: f64) -> StyleShare {
    StyleShare { style, pct }
}

fn times(lines: &[Line], of: impl Fn(Style) -> bool) -> f64 {
    lines.iter().filter(|l| of(l.spec.style)).map(|l| l.spec.weight).sum()
}

/// However the throws are shared out, each style gets its share, a round has as many throws as before, and putts stay putts.
#[rstest]
#[case(&[share(Style::Backhand, 70.0), share(Style::Forehand, 25.0), share(Style::Thumber, 5.0)])]
#[case(&[share(Style::Backhand, 40.0), share(Style::Forehand, 58.0), share(Style::Thumber, 2.0)])]
#[case(&[share(Style::Backhand, 94.0), share(Style::Forehand, 4.0), share(Style::Thumber, 2.0)])]
fn prop_shares_of_use_share_the_throws_out(#[case] shares: &[StyleShare]) {
    let before = lines_of(&of_habits(Habits::default()));
    let after = lines_of(&of_habits(Habits { shares: shares.to_vec(), ..Habits::default() }));
    let all = times(&before, |s| s != Style::Putt);
    assert!((times(&after, |s| s != Style::Putt) / all - 1.0).abs() < 1e-9);
    for told in shares {
        let share = times(&after, |s| s == told.style) / all;
        assert!((share - 0.01 * told.pct).abs() < 1e-9, "{:?} {share}", told.style);
    }
    assert_eq!(times(&after, |s| s == Style::Putt), times(&before, |s| s == Style::Putt));
}

#[test]
fn prop_a_style_that_is_not_thrown_is_asked_nowhere() {
    let spared = |avoid: Vec<Style>| Habits { avoid, ..Habits::default() };
    let all = lines_of(&of_habits(Habits::default()));
    assert!(times(&all, |s| s == Style::Forehand) > 0.0 && times(&all, |s| s == Style::Thumber) > 0.0);
    let habits = spared(vec![Style::Forehand]);
    let without = lines_of(&of_habits(habits.clone()));
    assert!(without.iter().all(|l| l.spec.style != Style::Forehand));
    assert_eq!(times(&without, |s| s == Style::Backhand), times(&all, |s| s == Style::Backhand));
    // A player's own line in it stays, and does not count.
    let own = all.iter().find(|l| l.spec.style == Style::Forehand).unwrap().clone();
    let own = Line { generated: false, ..own }.counted_by(&habits);
    assert!(own.spared && !own.enabled);
    let thumber = lines_of(&of_habits(spared(vec![Style::Thumber])));
    assert!(thumber.iter().any(|l| l.spec.style == Style::Tomahawk), "over the top with the other overhand");
    let neither = lines_of(&of_habits(spared(vec![Style::Thumber, Style::Tomahawk])));
    assert!(neither.iter().all(|l| !l.spec.style.is_overhand()));
}

#[rstest]
#[case(Habits { shares: vec![share(Style::Backhand, 60.0), share(Style::Forehand, 20.0)], ..Habits::default() }, "shares")]
#[case(Habits { shares: vec![share(Style::Backhand, 50.0), share(Style::Putt, 50.0)], ..Habits::default() }, "shares")]
#[case(Habits { shares: vec![share(Style::Backhand, 50.0), share(Style::Backhand, 50.0)], ..Habits::default() }, "shares")]
#[case(Habits { shares: vec![share(Style::Backhand, f64::NAN)], ..Habits::default() }, "shares pct")]
#[case(Habits { avoid: vec![Style::Backhand], ..Habits::default() }, "avoid")]
#[case(Habits { avoid: vec![Style::Putt], ..Habits::default() }, "avoid")]
#[case(Habits { avoid: vec![Style::Forehand], shares: vec![share(Style::Backhand, 80.0), share(Style::Forehand, 20.0)], ..Habits::default() }, "avoid")]
#[case(Habits { mould_strokes: 0.6, ..Habits::default() }, "mould_strokes")]
#[case(Habits { feel: vec![Feel { used: HandUse::Drivers, rim_cm: Some(9.0), rim_depth_cm: None, bead: None, thumb_track: None, stiffness: None }], ..Habits::default() }, "feel rim_cm")]
#[case(Habits { schools: vec![SlotSchool { slot: Slot::Putter, school: School::Five }; 2], ..Habits::default() }, "schools")]
fn prop_habits_that_do_not_fit_together_are_refused(#[case] habits: Habits, #[case] field: &str) {
    assert_eq!(of_habits(habits).validate().unwrap_err().field(), field);
}

#[test]
fn prop_a_school_of_its_own_changes_its_slot_alone() {
    let plain = of_habits(Habits::default());
    let own = SlotSchool { slot: Slot::MidRange, school: School::Three };
    let other = of_habits(Habits { schools: vec![own], ..Habits::default() });
    let lanes = |p: &Player| board(p, &<_>::default(), None, &[], &[]).unwrap().lanes;
    for (before, after) in lanes(&plain).iter().zip(lanes(&other)) {
        let same = before.sockets.iter().map(|s| s.peg).eq(after.sockets.iter().map(|s| s.peg));
        assert_eq!(same, before.slot != Slot::MidRange, "{:?}", before.slot);
    }
    assert!(lines_of(&other).iter().all(|l| l.key != "mid-range-hook"));
    assert!(lines_of(&other).iter().any(|l| l.key == "fairway-hook"));
}

/// At speed 7 or less until about 91 m with control of nose and angle. Common practice, no source.
#[rstest]
#[case(60.0, Skill::Beginner, Some(7.0))]
#[case(88.0, Skill::Club, Some(7.0))]
#[case(95.0, Skill::Beginner, Some(7.0))]
#[case(95.0, Skill::Club, None)]
fn trade_a_beginner_stays_slow_until_far_and_under_control(
    #[case] metres: f64,
    #[case] skill: Skill,
    #[case] ceiling: Option<f64>,
) {
    let p = Player { school: School::Beginner, ..player(metres, skill) };
    assert_eq!(p.speed_ceiling(), ceiling);
    let fast_are_wanted = lines_of(&p).iter().any(|l| l.key.starts_with("distance-"));
    let told = unwanted(&p, &arm(&p)).iter().any(|u| u.reason.contains("speed 7"));
    assert_eq!(told, ceiling.is_some());
    assert!(ceiling.is_none() || !fast_are_wanted);
    assert_eq!(player(metres, skill).speed_ceiling(), None, "other schools have none");
}

/// A beginner is told of no disc that is too fast or that this arm cannot turn over, nor to look for one.
#[rstest]
#[case(55.0, Skill::Beginner)]
#[case(80.0, Skill::Club)]
fn trade_a_beginner_is_offered_nothing_fast_nor_stable(#[case] metres: f64, #[case] skill: Skill) {
    let p = Player { school: School::Beginner, ..player(metres, skill) };
    let case = Case::of(p.clone(), shelf(), &[0, 2], 12);
    let verdict = case.judge();
    assert!(!verdict.findings.is_empty());
    for finding in &verdict.findings {
        if let Action::LookFor { numbers } = finding.action {
            assert!(numbers.speed <= 7.0, "{}", finding.title);
        }
        let Some(id) = finding.action.moves().0 else { continue };
        let offered = case.shelf.iter().find(|d| d.id == id).unwrap();
        assert!(offered.spec.printed.speed <= 7.0 && offered.spec.printed.fade < 3.0, "{}", finding.title);
    }
    let firm = |disc: &Disc, finish| objections(&p, disc, finish).iter().any(|o| o.firm);
    assert!(firm(&disc(1, spec(9.0, 5.0, -2.0, 1.0)), 0.0), "too fast");
    assert!(firm(&disc(1, spec(5.0, 4.0, 0.0, 3.0)), 8.0), "comes back");
    let heavy = DiscSpec { plastic: Plastic::Premium, mass_g: 178.0, ..spec(5.0, 5.0, -2.0, 1.0) };
    let soft = objections(&p, &disc(1, heavy), 0.0);
    assert!(soft.len() == 2 && soft.iter().all(|o| !o.firm), "rather base and light: {soft:?}");
    let right = DiscSpec { plastic: Plastic::Base, mass_g: 160.0, ..spec(5.0, 5.0, -2.0, 1.0) };
    assert!(objections(&p, &disc(1, right), 0.0).is_empty());
}

/// A lean bag is straight and overstable, slow, and can be lost. Common practice, no source.
#[test]
fn trade_a_lean_bag_is_slow_and_does_not_turn() {
    let p = Player { school: School::Lean, ..player(104.0, Skill::Advanced) };
    let pegs: Vec<String> = lines_of(&p).iter().map(|l| l.key.clone()).collect();
    let wanted = |key: &str| pegs.iter().any(|k| k == key);
    assert!(wanted("mid-range-lean") && wanted("fairway-rail") && !wanted("mid-range-drift"));
    assert!(!pegs.iter().any(|k| k.starts_with("distance-")));
    let mut dear = spec(5.0, 4.0, -1.0, 1.0);
    dear.keeping.ties = vec![Tie::Sentimental];
    assert!(objections(&p, &disc(1, dear.clone()), 3.0).iter().all(|o| o.words.contains("lose")));
    dear.keeping.ties = vec![Tie::WaterDisc];
    assert!(objections(&p, &disc(1, dear), 3.0).is_empty(), "one that may be lost is just right");
    assert!(objections(&p, &disc(1, spec(12.0, 5.0, -1.0, 3.0)), 6.0)[0].firm);
}

/// Of two that fly alike the one of a mould already carried is taken as soon as a further mould costs anything.
#[test]
fn prop_a_cost_of_moulds_prefers_what_is_known() {
    let known = spec(5.0, 4.0, -1.0, 1.0);
    let fresh = DiscSpec { mould: "Bracken".into(), ..spec(7.0, 5.0, -2.0, 1.0) };
    let copy = DiscSpec { name: "copy".into(), ..spec(7.0, 5.0, -2.0, 1.0) };
    let discs = vec![disc(1, known), disc(2, fresh), disc(3, copy)];
    let mut case = Case::of(player(104.0, Skill::Advanced), discs, &[0], 10);
    case.player.habits.mould_strokes = 0.05;
    let offered = |case: &Case| -> Vec<i64> {
        case.judge().findings.iter().filter_map(|f| f.action.moves().0).map(|id| id.0).collect()
    };
    assert_eq!(offered(&case).first(), Some(&3), "the copy of a mould that is carried");
    case.shelf.pop();
    let cheap = case.judge();
    let saves = |f: &[zinc_kite_bag::verdict::finding::Finding]| {
        f.iter().find(|f| f.action.moves().0.is_some()).map_or(0.0, |f| f.saves_strokes)
    };
    case.player.habits.mould_strokes = 0.25;
    let dear = case.judge();
    assert!(
        (saves(&cheap.findings) - saves(&dear.findings) - 0.2).abs() < 1e-9,
        "what it saves, less the mould"
    );
    assert_eq!(cheap.leaves_strokes, dear.leaves_strokes, "what the bag leaves is a matter of flights alone");
    let b = board(&case.player, &<_>::default(), None, &case.shelf, &case.carried).unwrap();
    assert_eq!((b.moulds, b.moulds_strokes), (1, 0.0));
}

/// A push putt leaves with less spin than a spin putt; nothing that is thrown changes. Common practice, no source.
#[test]
fn trade_a_spin_putt_spins_more_than_a_push_putt() {
    let arm_of = |putting| arm(&of_habits(Habits { putting, ..Habits::default() }));
    let spin = |putting, style| arm_of(putting).release(style, 2.0, 0.5).spin_rad_s;
    let [push, usual, spun] =
        [Some(PuttingStyle::Push), None, Some(PuttingStyle::Spin)].map(|p| spin(p, Style::Putt));
    assert!(push < usual && usual < spun, "{push} {usual} {spun}");
    assert_eq!(spin(Some(PuttingStyle::Push), Style::Backhand), spin(None, Style::Backhand));
    let lines = lines_of(&of_habits(Habits { putting: Some(PuttingStyle::Turnover), ..Habits::default() }));
    let putts: Vec<&Line> = lines.iter().filter(|l| l.spec.style == Style::Putt).collect();
    assert!(
        putts.len() == 2 && putts.iter().all(|l| l.spec.hyzer_max_deg < 0.0),
        "a turnover putt is on anhyzer"
    );
}

#[test]
fn prop_three_pegs_hold_every_disc_of_the_schools_that_tell_three_apart() {
    for school in School::ALL {
        for slot in Slot::ALL {
            let wanted = Peg::wanted(slot, school);
            assert!(wanted.iter().all(|peg| Peg::of_school(school).contains(peg)), "{school:?} {slot:?}");
        }
    }
}

/// What a finding says it saves is told with what the player's own dial adds or takes off, so that both can be read.
#[test]
fn prop_what_a_policy_adds_or_takes_off_is_told() {
    let (mut told, mut cases) = (0, 0);
    for (carried, capacity) in
        [(&[0, 2, 5, 8][..], 8), (&[2, 3, 4, 5, 6, 7, 8, 9][..], 8), (&[0, 1, 5, 11, 13][..], 5)]
    {
        let mut discs = shelf();
        discs.iter_mut().enumerate().for_each(|(k, d)| d.spec.mould = format!("Bracken {}", k % 7));
        let mut case = Case::of(player(104.0, Skill::Advanced), discs, carried, capacity);
        case.player.habits.mould_strokes = 0.03;
        for finding in case.judge().findings {
            cases += usize::from(finding.action.moves().0.is_some());
            told += usize::from(finding.reason.contains("your school and moulds"));
        }
    }
    assert!(cases >= 6 && told >= 1 && told <= cases, "{told} of {cases}");
}
