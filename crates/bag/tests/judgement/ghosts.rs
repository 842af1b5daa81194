//! Where discs would sit otherwise, and a disc laid among others before it is carried.

use crate::scene::case::shelf;
use crate::scene::{disc, player, spec, worn};
use rstest::rstest;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec, Use};
use zinc_kite_bag::disc::wear::Grade;
use zinc_kite_bag::need::peg::Peg;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_bag::thrower::season::{Season, Windiness};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::board::board;
use zinc_kite_bag::verdict::carried::Carried;
use zinc_kite_bag::verdict::ghost::{GhostKind, Ghosts, ghosts, preview};

fn all(discs: &[Disc]) -> Vec<Carried> {
    discs.iter().map(|d| Carried { disc_id: d.id, spare: false }).collect()
}

fn ghosts_of(p: &Player, discs: &[Disc]) -> [Ghosts; 3] {
    ghosts(p, &Conditions::default(), None, discs, &all(discs)).unwrap()
}

fn finish(board: &zinc_kite_bag::verdict::board::Board, of: &Disc) -> f64 {
    board.puck(of.id).unwrap().finish_left_deg
}

/// Into the wind every disc acts less stable, and wear takes stability off: for discs that are not at either end of the board,
/// whichever hand throws. Common practice, no source.
#[rstest]
#[case(Hand::Right, 1.0)]
#[case(Hand::Left, -1.0)]
fn trade_headwind_and_wear_make_a_disc_less_stable(#[case] hand: Hand, #[case] left: f64) {
    let p = Player { hand, ..player(104.0, Skill::Advanced) };
    let discs: Vec<Disc> =
        [(5.0, 4.0, -1.0, 1.0), (7.0, 5.0, -1.0, 2.0), (9.0, 5.0, -1.0, 2.0), (5.0, 4.0, 0.0, 3.0)]
            .into_iter()
            .enumerate()
            .map(|(k, (s, g, t, f))| disc(k as i64 + 1, spec(s, g, t, f)))
            .collect();
    let now = board(&p, &Conditions::default(), None, &discs, &all(&discs)).unwrap();
    for set in ghosts_of(&p, &discs) {
        assert_eq!(set.discs.len(), discs.len());
        for (ghost, disc) in set.discs.iter().zip(&discs) {
            let moved = left * (ghost.finish_left_deg - finish(&now, disc));
            // With the wind it drops sooner, which leaves its fade less time: either way for an angle.
            let as_told = set.kind == GhostKind::Behind || moved < 0.0;
            assert!(as_told, "{:?} {} {moved:.2}", set.kind, disc.spec.name);
        }
    }
}

#[test]
fn prop_a_ghost_is_where_the_board_would_have_it() {
    let p = Player {
        season: Season { windiness: Windiness::Coast, ..Season::default() },
        ..player(104.0, Skill::Advanced)
    };
    let discs = shelf();
    let [ahead, behind, on] = ghosts_of(&p, &discs);
    assert_eq!((ahead.wind_m_s, behind.wind_m_s, on.wind_m_s), (Some(7.5), Some(7.5), None));
    let into = Conditions { wind_m_s: 7.5, ..Conditions::default() };
    let there = board(&p, &into, None, &discs, &all(&discs)).unwrap();
    for ghost in &ahead.discs {
        let puck = there.puck(ghost.disc_id).unwrap();
        assert_eq!((ghost.finish_left_deg, ghost.peg), (puck.finish_left_deg, puck.peg));
    }
}

/// The next grade, whether the wear was told by eye or counted; nothing is worn past the last.
#[test]
fn prop_wear_goes_on_by_one_grade_and_ends() {
    let p = player(104.0, Skill::Advanced);
    let base = spec(5.0, 4.0, -1.0, 1.0);
    let mut discs: Vec<Disc> =
        Grade::ALL.iter().enumerate().map(|(k, g)| disc(k as i64, worn(base.clone(), *g))).collect();
    let counted = DiscSpec {
        wear: zinc_kite_bag::disc::wear::Wear { throws: Some(0), ..zinc_kite_bag::disc::wear::Wear::FRESH },
        ..base
    };
    discs.push(disc(9, counted));
    let [_, _, on] = ghosts_of(&p, &discs);
    let now = board(&p, &Conditions::default(), None, &discs, &all(&discs)).unwrap();
    assert_eq!(on.discs.len(), Grade::ALL.len(), "all but the one that is worn to the end");
    for (k, ghost) in on.discs.iter().take(4).enumerate() {
        assert!((ghost.finish_left_deg - finish(&now, &discs[k + 1])).abs() < 1e-9);
    }
    assert!(
        (on.discs[4].finish_left_deg - finish(&now, &discs[1])).abs() < 1e-9,
        "fresh by count becomes broken in"
    );
}

/// What is shown before a disc is dropped is what stands there after: place, peg, lane and twins.
#[rstest]
fn prop_a_preview_comes_true(#[values(Style::Backhand, Style::Forehand)] style: Style) {
    let p = player(104.0, Skill::Advanced);
    let discs = shelf();
    let windy = Conditions { wind_m_s: 4.0, wind_from_deg: 30.0, ..Conditions::default() };
    for k in [0, 3, 5, 13, 16] {
        let others: Vec<Carried> = all(&discs).into_iter().filter(|c| c.disc_id != discs[k].id).collect();
        let told = preview(&p, &windy, Some(style), &discs[k], &discs, &others).unwrap();
        let after = board(&p, &windy, Some(style), &discs, &all(&discs)).unwrap();
        let lane = after.lanes.iter().find(|l| l.slot == told.slot).unwrap();
        let puck = lane.pucks.iter().find(|p| p.disc_id == discs[k].id).unwrap();
        assert_eq!(&told.puck, puck);
        let mut twins: Vec<_> = lane
            .twins
            .iter()
            .filter(|t| t.a == discs[k].id || t.b == discs[k].id)
            .map(|t| (if t.a == discs[k].id { t.b } else { t.a }, t.overlap))
            .collect();
        twins.sort_by_key(|t| t.0);
        let mut foretold: Vec<_> = told.twins.iter().map(|t| (t.disc_id, t.overlap)).collect();
        foretold.sort_by_key(|t| t.0);
        let same = |a: &(_, f64), b: &(_, f64)| a.0 == b.0 && (a.1 - b.1).abs() < 1e-9;
        assert!(twins.len() == foretold.len() && twins.iter().zip(&foretold).all(|(a, b)| same(a, b)));
        assert_eq!(k == 13, !twins.is_empty(), "{k}: {twins:?}");
    }
    let putter = disc(99, DiscSpec { used_for: Use::Putting, ..spec(2.0, 3.0, 0.0, 1.0) });
    let told = preview(&p, &windy, Some(style), &putter, &discs, &all(&discs)).unwrap();
    assert!(told.twins.is_empty() && told.puck.peg.is_none(), "putting discs fill no peg");
}

/// A disc kept for forehands fills a peg on the forehand board alone, where no peg is asked to be filled by a backhander.
#[test]
fn prop_a_disc_kept_for_a_style_fills_a_peg_in_it_alone() {
    let p = player(104.0, Skill::Advanced);
    let mut discs = vec![disc(1, spec(7.0, 5.0, 0.0, 3.0)), disc(2, spec(5.0, 4.0, -1.0, 1.0))];
    discs[0].spec.keeping.kept_for = vec![Style::Forehand];
    let pegs = |style| -> Vec<Option<Peg>> {
        let b = board(&p, &Conditions::default(), Some(style), &discs, &all(&discs)).unwrap();
        let wanted = b.lanes.iter().flat_map(|l| &l.sockets).filter(|s| s.wanted).count();
        assert_eq!(wanted > 0, style == p.strong_style);
        discs.iter().map(|d| b.puck(d.id).unwrap().peg).collect()
    };
    assert!(pegs(Style::Backhand)[0].is_none() && pegs(Style::Backhand)[1].is_some());
    assert!(pegs(Style::Forehand).iter().all(Option::is_some));
}
