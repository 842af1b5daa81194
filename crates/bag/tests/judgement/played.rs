//! A round that was played, held against its card.

use crate::round::{bag, card_for, drives, three_holes, windy};
use approx::assert_abs_diff_eq;
use jiff::civil::date;
use proptest::prelude::*;
use rstest::rstest;
use statrs::distribution::{Binomial, DiscreteCDF};
use zinc_kite_bag::course::played::{CameOf, LostDisc, Pick, PlayedHole, PlayedRound, StrokesFrom};
use zinc_kite_bag::disc::keeping::Status;
use zinc_kite_bag::disc::spec::DiscId;
use zinc_kite_bag::plan::round::account::{account, over_rounds};
use zinc_kite_bag::thrower::player::Skill;

/// A disc that makes it half of the time and then saves a stroke.
fn pick(id: i64) -> Pick {
    Pick {
        disc_id: Some(DiscId(id)),
        disc_name: format!("Purlin {id}"),
        style: None,
        chance: Some(0.5),
        strokes: Some(3.0),
        made: Some(2.5),
        missed: Some(3.5),
        out: None,
    }
}

fn hole(name: &str, came_of: Option<CameOf>, strokes: Option<u32>) -> PlayedHole {
    PlayedHole {
        name: name.into(),
        par: 3,
        expected: 3.0,
        card: Some(pick(1)),
        left: [(0.0, 0.0), (5.0, 1.2), (25.0, 2.0)]
            .map(|(from_m, strokes)| StrokesFrom { from_m, strokes })
            .to_vec(),
        left_m: None,
        threw: came_of.map(|_| pick(1)),
        came_of,
        strokes,
        lost: vec![],
    }
}

fn round(holes: Vec<PlayedHole>) -> PlayedRound {
    let round = PlayedRound {
        course: "Harrier Moor".into(),
        date: date(2026, 5, 3),
        bag: "Main bag".into(),
        spread: Some(1.5),
        holes,
    };
    round.validate().unwrap();
    round
}

/// A round that was told in part, as people do.
fn told() -> impl Strategy<Value = PlayedRound> {
    let strokes = || proptest::option::of(1.0..9.0_f64);
    let picked = (strokes(), strokes(), strokes(), strokes(), proptest::option::of(0.0..=1.0_f64));
    let picked = picked.prop_map(|(strokes, made, missed, out, chance)| Pick {
        strokes,
        made,
        missed,
        out,
        chance,
        ..pick(2)
    });
    let came = proptest::option::of(proptest::sample::select(CameOf::ALL.to_vec()));
    let one = (
        proptest::option::of(picked),
        came,
        proptest::option::of(1_u32..=20),
        1.0..9.0_f64,
        proptest::option::of(0.0..200.0_f64),
    );
    let one = one.prop_map(|(threw, came_of, strokes, expected, left_m)| {
        PlayedHole { threw, expected, left_m, ..hole("1", None, strokes) }.came(came_of)
    });
    (proptest::collection::vec(one, 1..20), proptest::option::of(0.0..9.0_f64))
        .prop_map(|(holes, spread)| PlayedRound { spread, ..round(holes) })
}

trait Came {
    fn came(self, of: Option<CameOf>) -> Self;
}

impl Came for PlayedHole {
    fn came(self, came_of: Option<CameOf>) -> PlayedHole {
        PlayedHole { came_of, ..self }
    }
}

proptest! {
    /// Nothing is lost and nothing is counted twice: the three causes are all there is between the card and the round, hole by hole
    /// and in the sum.
    #[test]
    fn prop_the_causes_are_all_that_is_beyond_the_card(round in told()) {
        let account = account(&round);
        let over = f64::from(account.strokes) - account.expected;
        prop_assert!((account.causes.sum() - over).abs() < 1e-9);
        for hole in &account.by_hole {
            prop_assert!((hole.causes.sum() - hole.over).abs() < 1e-9);
        }
        prop_assert!((account.by_hole.iter().map(|h| h.over).sum::<f64>() - over).abs() < 1e-9);
        let told = round.holes.iter().filter(|h| h.came_of.is_some()).count();
        prop_assert_eq!(account.came.iter().map(|c| c.times as usize).sum::<usize>(), told);
        prop_assert!(account.as_many.is_none_or(|share| (0.0..=1.0).contains(&share)));
        prop_assert!(account.made.is_none_or(|m| m.made <= m.of && (0.0..=1.0).contains(&m.as_few)));
    }

    /// Several rounds come to the mean of each.
    #[test]
    fn prop_several_rounds_are_the_mean_of_each(rounds in proptest::collection::vec(told(), 1..6)) {
        let whole: Vec<_> = rounds.iter().filter(|r| r.holes.iter().all(|h| h.strokes.is_some())).collect();
        let over = over_rounds(&rounds);
        prop_assert_eq!(over.len(), 1);
        prop_assert_eq!(over[0].whole as usize, whole.len());
        let mean = whole.iter().map(|r| f64::from(account(r).strokes)).sum::<f64>() / whole.len() as f64;
        match over[0].strokes {
            Some(strokes) => prop_assert!((strokes - mean).abs() < 1e-9),
            None => prop_assert!(whole.is_empty()),
        }
    }
}

/// How rare so few made throws are, against the binomial distribution of a general library.
#[rstest]
#[case(9, 0)]
#[case(9, 4)]
#[case(9, 9)]
#[case(18, 7)]
fn val_so_few_made_throws_are_as_rare_as_the_binomial_says(#[case] n: usize, #[case] made: usize) {
    let came = |k: usize| Some(if k < made { CameOf::Made } else { CameOf::Left });
    let chance = 0.62;
    let with_chance = |k: usize| PlayedHole {
        threw: Some(Pick { chance: Some(chance), ..pick(1) }),
        ..hole(&k.to_string(), came(k), None)
    };
    let told = account(&round((0..n).map(with_chance).collect())).made.unwrap();
    let binomial = Binomial::new(chance, n as u64).unwrap();
    assert_abs_diff_eq!(told.as_few, binomial.cdf(made as u64), epsilon = 1e-12);
    assert_abs_diff_eq!(told.expected, chance * n as f64, epsilon = 1e-12);
}

/// A made throw that saves half a stroke and putts that lose one: told apart, and in words.
#[test]
fn prop_each_cause_is_told_by_its_name() {
    let mut other = hole("2", Some(CameOf::Left), Some(4));
    other.threw = Some(Pick { strokes: Some(3.4), missed: Some(3.6), ..pick(2) });
    let told = account(&round(vec![hole("1", Some(CameOf::Made), Some(5)), other, hole("3", None, None)]));
    assert_eq!(told.as_many, None, "two holes say nothing of that");
    assert_eq!((told.holes, told.strokes, told.par), (2, 9, 6));
    assert_abs_diff_eq!(told.by_hole[0].causes.first_throw, -0.5);
    assert_abs_diff_eq!(told.by_hole[0].causes.followed, 2.5);
    assert_abs_diff_eq!(told.causes.other_disc, 0.4, epsilon = 1e-12);
    assert_abs_diff_eq!(told.causes.first_throw, -0.3, epsilon = 1e-12);
    let words = told.words.join(" ");
    for part in [
        "9 on 2 holes, par 6: 3.0 strokes more",
        "approaches and putts, 2.9 strokes",
        "another disc",
        "Hole 1",
    ] {
        assert!(words.contains(part), "{part}: {words}");
    }
}

/// What is left tells more than which side: four strokes of which the throw cost none, since it lies as well as the mean.
#[rstest]
#[case(0.0, CameOf::Made, -2.0)]
#[case(15.0, CameOf::Left, -0.4)]
#[case(25.0, CameOf::Left, 0.0)]
#[case(90.0, CameOf::Short, 0.0)]
#[case(25.0, CameOf::Out, 1.0)]
fn prop_a_throw_is_worth_what_is_left_from_where_it_lies(
    #[case] left_m: f64,
    #[case] came: CameOf,
    #[case] cost: f64,
) {
    let told = account(&round(vec![PlayedHole { left_m: Some(left_m), ..hole("1", Some(came), Some(4)) }]));
    assert_abs_diff_eq!(told.causes.first_throw, cost, epsilon = 1e-12);
    assert_abs_diff_eq!(told.causes.followed, 1.0 - cost, epsilon = 1e-12);
}

/// One round says little, and the words say so; a bad one is told to be rare.
#[test]
fn trade_one_round_near_the_card_is_nothing_unusual() {
    let nine = |worst: u32| {
        let strokes = |k: usize| if k == 0 { worst } else { 3 };
        round((0..9).map(|k| hole(&k.to_string(), Some(CameOf::Made), Some(strokes(k)))).collect())
    };
    let words = |worst| account(&nine(worst)).words.remove(0);
    assert!(words(4).contains("nothing unusual"), "{}", words(4));
    assert!(words(9).contains("; under 1 % of rounds"), "{}", words(9));
    let few = nine(3);
    let account = account(&PlayedRound { spread: None, ..few });
    assert_eq!(account.words[0], "27 on 9 holes, par 27: as many as the card expected.");
}

/// Misses to one side are told, misses to all sides are not.
#[test]
fn trade_misses_that_go_one_way_are_told() {
    let with = |came: &[CameOf]| {
        let holes = came.iter().enumerate().map(|(k, c)| hole(&k.to_string(), Some(*c), Some(3))).collect();
        account(&round(holes)).words.join(" ")
    };
    use CameOf::{Hit, Left, Made, Out, Right, Short};
    assert!(with(&[Left, Made, Left, Short, Left]).contains("Of 4 that did not, 3 went left."));
    assert!(!with(&[Left, Right, Short, Out, Hit]).contains("went"));
}

/// On a hole without water what follows a first throw is, weighed by how often, the card's own mean; and every disc comes once.
#[test]
fn prop_what_the_card_says_of_a_disc_is_its_mean_over_all_ends() {
    let (me, discs) = (drives(100.0, Skill::Advanced), bag());
    let card = card_for(&me, &discs, &three_holes(), &windy(250.0, 0.0));
    for (k, hole) in card.holes.iter().enumerate() {
        let strokes: Vec<f64> = hole.discs.iter().filter_map(|d| d.strokes).collect();
        assert!(strokes.is_sorted(), "{strokes:?}");
        let mut ids: Vec<_> = hole.discs.iter().map(|d| d.disc_id).collect();
        ids.sort();
        ids.dedup();
        assert_eq!(ids.len(), hole.discs.len());
        if let Some(best) = &hole.best {
            assert_eq!(
                (hole.discs[0].disc_id, hole.discs[0].strokes),
                (Some(best.disc_id), Some(best.strokes))
            );
        }
        for disc in hole.discs.iter().filter(|d| d.out.is_none()) {
            let chance = disc.chance.unwrap();
            let part =
                |share: f64, strokes: Option<f64>| if share > 0.0 { share * strokes.unwrap() } else { 0.0 };
            let mean = part(chance, disc.made) + part(1.0 - chance, disc.missed);
            assert_abs_diff_eq!(mean, disc.strokes.unwrap(), epsilon = 1e-9);
        }
        assert!(
            hole.from.is_sorted_by(|a, b| a.from_m < b.from_m && a.strokes < b.strokes + 0.05),
            "{:?}",
            hole.from
        );
        let wet = hole.discs.iter().any(|d| d.out.is_some());
        assert_eq!(wet, k == 0, "only hole 1 has water");
    }
}

/// What cannot be is refused and says where.
#[test]
fn prop_a_round_that_cannot_be_is_refused() {
    let lost = LostDisc {
        disc_id: Some(DiscId(1)),
        disc_name: "Purlin".into(),
        status: Status::Ready,
        place: String::new(),
        bags: vec![],
    };
    let spoilt: [(&str, PlayedHole); 7] = [
        ("strokes", hole("1", None, Some(21))),
        ("expected", PlayedHole { expected: f64::NAN, ..hole("1", None, None) }),
        ("name", hole(" ", None, None)),
        ("left_m", PlayedHole { left_m: Some(-1.0), ..hole("1", None, None) }),
        ("left", {
            let mut back = hole("1", None, None);
            back.left.reverse();
            back
        }),
        (
            "chance",
            PlayedHole { threw: Some(Pick { chance: Some(1.5), ..pick(1) }), ..hole("1", None, None) },
        ),
        ("lost", PlayedHole { lost: vec![lost; 6], ..hole("1", None, None) }),
    ];
    for (field, hole) in spoilt {
        assert_eq!(hole.validate().unwrap_err().field(), field);
        let error = PlayedRound { holes: vec![hole], ..round(vec![self::hole("1", None, None)]) }.validate();
        assert!(error.unwrap_err().to_string().contains(field));
    }
    let none = PlayedRound { holes: vec![], ..round(vec![hole("1", None, None)]) };
    assert_eq!(none.validate().unwrap_err().field(), "holes");
}
