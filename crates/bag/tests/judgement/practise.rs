//! What to practise: what errors cost over the season, whether faster discs are due, and whether the scatter has moved.

use jiff::ToSpan;
use jiff::civil::{Date, date};
use rand::SeedableRng;
use rand::rngs::StdRng;
use rstest::rstest;
use zinc_kite_bag::chance::cost::ErrorKind;
use zinc_kite_bag::disc::as_thrown::as_thrown;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::field::arm::found_arm;
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::throw::{FieldThrow, Meant, Measured};
use zinc_kite_bag::plan::practise::price::{Practice, practice};
use zinc_kite_bag::plan::practise::progress::progress;
use zinc_kite_bag::plan::practise::ready::{Ready, ready};
use zinc_kite_bag::thrower::player::{OwnScatter, Player, Scatter, Skill};
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::work::Work;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::scene::case::{Case, shelf};
use crate::scene::field::{deviate, log_by, purlin, session};
use crate::scene::{lines_of, player};

fn cost(case: &Case) -> Practice {
    practice(&case.question(), case.memo, &Work::default()).unwrap()
}

/// A bag of the whole shelf on the lines of a club player, whoever throws it.
fn case(player: Player) -> Case {
    let shelf = shelf();
    let all: Vec<usize> = (0..shelf.len()).collect();
    let lines = lines_of(&crate::scene::player(95.0, Skill::Club));
    Case { lines, ..Case::of(player, shelf, &all, 25) }
}

/// The same player whose error of a kind in every style is `left` of what it was.
fn steadier(player: &Player, kind: ErrorKind, left: f64) -> Player {
    let mut steadier = player.clone();
    for style in Style::ALL {
        let s = player.scatter(style);
        let scatter = match kind {
            ErrorKind::Speed => Scatter { speed_pct: left * s.speed_pct, ..s },
            ErrorKind::Hyzer => Scatter { hyzer_deg: left * s.hyzer_deg, ..s },
            ErrorKind::Launch => Scatter { launch_deg: left * s.launch_deg, ..s },
            ErrorKind::Nose => Scatter { nose_deg: left * s.nose_deg, ..s },
            ErrorKind::Aim => Scatter { aim_deg: left * s.aim_deg, ..s },
            ErrorKind::Gust => s,
        };
        steadier.scatter.retain(|own| own.style != style);
        steadier.scatter.push(OwnScatter { style, scatter });
    }
    steadier
}

/// What is promised for half an error is kept: judged anew with the error halved, the bag leaves less by about as much, or more where
/// it finds better releases for the steadier hand.
#[rstest]
#[case(Skill::Club)]
#[case(Skill::Beginner)]
fn prop_half_an_error_saves_what_is_promised(#[case] skill: Skill) {
    let me = player(95.0, skill);
    let before = cost(&case(me.clone()));
    assert!(!before.errors.is_empty() && before.words.starts_with("Practise "), "{}", before.words);
    for kind in [ErrorKind::Nose, ErrorKind::Hyzer, ErrorKind::Aim] {
        let promised: f64 = before.errors.iter().filter(|e| e.kind == kind).map(|e| e.half_strokes).sum();
        let after = cost(&case(steadier(&me, kind, 0.5)));
        let saved = before.leaves_strokes - after.leaves_strokes;
        assert!(saved > 0.75 * promised - 0.02, "{kind:?}: {saved} for {promised}");
        assert!(saved < 2.0 * promised + 0.15, "{kind:?}: {saved} for {promised}");
    }
}

/// Each error costs no more halved than whole, in order; who hardly errs pays hardly anything; and lines are named by what they cost.
#[test]
fn prop_errors_are_in_order_and_an_error_that_is_not_made_costs_nothing() {
    let me = player(95.0, Skill::Club);
    let told = cost(&case(me.clone()));
    assert!(told.errors.windows(2).all(|w| w[0].half_strokes >= w[1].half_strokes));
    for error in &told.errors {
        assert!(error.half_strokes <= error.strokes + 1e-9 && error.strokes > 0.0, "{error:?}");
        assert!(error.lines.windows(2).all(|w| w[0].strokes >= w[1].strokes));
        assert!(error.drill.is_some() && error.scatter > 0.0);
    }
    let of = |told: &Practice, kind: ErrorKind| -> f64 {
        told.errors.iter().filter(|e| e.kind == kind).map(|e| e.strokes).sum()
    };
    let sure = cost(&case(steadier(&me, ErrorKind::Hyzer, 0.1)));
    assert!(of(&sure, ErrorKind::Hyzer) < 0.2 * of(&told, ErrorKind::Hyzer));
}

#[test]
fn trade_a_top_player_pays_less_for_every_error_than_a_beginner() {
    let [beginner, top] = [Skill::Beginner, Skill::Top].map(|skill| cost(&case(player(95.0, skill))));
    for kind in [ErrorKind::Hyzer, ErrorKind::Nose, ErrorKind::Aim, ErrorKind::Launch] {
        let of = |told: &Practice| -> f64 {
            told.errors.iter().filter(|e| e.kind == kind).map(|e| e.strokes).sum()
        };
        assert!(of(&top) < of(&beginner), "{kind:?}: {} {}", of(&top), of(&beginner));
    }
}

/// Sessions of drives with a disc of speed 7, `n` each, that go `far` m in the middle.
fn sessions(
    months: &[(Date, f64)],
    n: usize,
    scatter: f64,
    random: &mut StdRng,
) -> Vec<(FieldSession, FieldThrow)> {
    let disc = purlin([7.0, 5.0, -1.0, 1.0]);
    let mut throws = Vec::new();
    for (day, far) in months {
        let at = FieldSession { date: *day, ..session() };
        for _ in 0..n {
            let like = FieldThrow::of(&disc, Style::Backhand, Meant::Flat);
            let off_deg = Some(2.0 * scatter * deviate(random));
            let distance_m = Some(far * (1.0 + 0.04 * scatter * deviate(random)));
            throws.push((at.clone(), FieldThrow { distance_m, off_deg, ..like }));
        }
    }
    throws
}

fn measured(throws: &[(FieldSession, FieldThrow)]) -> Vec<Measured<'_>> {
    throws.iter().map(|(session, throw)| Measured { session, throw }).collect()
}

fn asked(player: &Player, throws: &[(FieldSession, FieldThrow)]) -> Ready {
    let discs: Vec<Disc> = vec![purlin([7.0, 5.0, -1.0, 1.0])];
    let all = measured(throws);
    let found = found_arm(player, Style::Backhand, &discs, &all).unwrap();
    ready(player, &found, &discs, &all).unwrap()
}

/// Ninety-five metres over three months are far enough, eighty are not, one month is not yet enough, and nothing says nothing.
#[test]
fn trade_faster_discs_are_due_by_what_the_log_shows() {
    let mut random = StdRng::seed_from_u64(3);
    let me = player(95.0, Skill::Advanced);
    let months = [date(2026, 4, 10), date(2026, 5, 12), date(2026, 6, 9)];
    let far = |m: f64| months.map(|month| (month, m));
    let good = asked(&me, &sessions(&far(97.0), 8, 0.6, &mut random));
    assert_eq!((good.checks[0].is_so, good.checks[2].is_so), (Some(true), Some(true)), "{good:?}");
    assert_ne!(good.is_ready, Some(false));
    let short = asked(&me, &sessions(&far(80.0), 8, 0.6, &mut random));
    assert_eq!(short.is_ready, Some(false), "{short:?}");
    assert!(short.words.starts_with("Not yet"));
    let once = asked(&me, &sessions(&far(97.0)[..1], 8, 0.6, &mut random));
    assert_eq!((once.is_ready, once.checks[2].is_so), (None, None), "{once:?}");
    let nothing = asked(&me, &[]);
    assert!(nothing.is_ready.is_none() && nothing.checks.iter().all(|c| c.is_so != Some(true)));
}

/// Control that is shown by the throws of a steady arm is called so, that of a wild one is not.
#[test]
fn prop_control_is_read_off_the_throws() {
    let discs = [purlin([7.0, 5.0, -1.0, 1.0])];
    let of = |skill: Skill| {
        let me = player(100.0, skill);
        let mut random = StdRng::seed_from_u64(8);
        let sum = FlightNumbers::from(as_thrown(&discs[0].spec).result);
        let throws: Vec<(FieldSession, FieldThrow)> =
            log_by(&me, &discs[0], &sum, Style::Backhand, 120, &mut random)
                .into_iter()
                .map(|(throw, _)| (session(), throw))
                .collect();
        asked(&me, &throws).checks[1].clone()
    };
    let (steady, wild) = (of(Skill::Top), of(Skill::Beginner));
    assert_eq!(steady.is_so, Some(true), "{steady:?}");
    assert_ne!(wild.is_so, Some(true), "{wild:?}");
}

/// Intervals of a month's scatter hold the true one in nine of ten months, and who halves the scatter is told so.
#[test]
fn val_a_months_scatter_is_found_and_its_change_is_told() {
    let mut random = StdRng::seed_from_u64(11);
    let mut held = 0;
    for k in 0..200 {
        let day = date(2020, 1, 5).saturating_add((k % 50).days());
        let throws = sessions(&[(day, 90.0)], 12, 1.0, &mut random);
        let months = progress(Style::Backhand, &measured(&throws)).months;
        let side = months[0].side_deg.unwrap();
        held += usize::from(side.low < 2.0 && 2.0 < side.high);
    }
    assert!((170..=190).contains(&held), "{held} of 200");
    let mut throws = sessions(&[(date(2026, 3, 3), 90.0)], 25, 1.0, &mut random);
    throws.extend(sessions(&[(date(2026, 6, 3), 90.0)], 25, 0.45, &mut random));
    let moved = progress(Style::Backhand, &measured(&throws));
    assert_eq!(moved.months.len(), 2);
    assert!(moved.words.contains("In June 2026: steadier in distance than in March 2026"), "{}", moved.words);
    assert!(moved.words.contains("steadier to the sides"));
    let same = sessions(&[(date(2026, 3, 3), 90.0), (date(2026, 6, 3), 70.0)], 25, 1.0, &mut random);
    assert!(
        progress(Style::Backhand, &measured(&same)).words.starts_with("No change"),
        "another disc or day is no scatter"
    );
    assert!(progress(Style::Forehand, &measured(&same)).months.is_empty());
}
