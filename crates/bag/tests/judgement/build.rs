//! The builder: its proposals keep every wish and are the best there are, and what it tells beside them is true.

use std::sync::{Arc, OnceLock};

use crate::scene::case::{Case, shelf};
use crate::scene::{disc, spec};
use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_bag::disc::mould::{Mould, MouldId, MouldSpec, Supply};
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers, Use};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::plan::build::{
    Buying, Desk, Proposal, SlotWish, Stock, Wishes, curve, prices, propose, schools, shopping, ties,
};
use zinc_kite_bag::thrower::habits::{Feel, Habits, HandUse};
use zinc_kite_bag::thrower::player::{Player, School};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::verdict::carried::Carried;
use zinc_kite_bag::verdict::work::Work;

/// The shelf of the tests, of three makers and several moulds.
fn case() -> &'static Case {
    static CASE: OnceLock<Case> = OnceLock::new();
    CASE.get_or_init(|| {
        let mut discs = shelf();
        for (k, disc) in discs.iter_mut().enumerate() {
            disc.spec.maker = ["Saltmarsh", "Orrery Works", "Hobb & Tiller"][k % 3].into();
            disc.spec.mould = format!("mould {}", k / 2);
            disc.spec.mass_g = 165.0 + (k % 5) as f64 * 2.5;
        }
        // Two putting putters that cannot be told apart.
        for k in [0, 1] {
            discs[k].spec.maker = "Saltmarsh".into();
            discs[k].spec.mass_g = 174.0;
        }
        Case::of(Player::default(), discs, &[0, 2, 5, 8, 11, 13, 15, 16], 8)
    })
}

fn stock_of<'a>(case: &'a Case, moulds: &'a [Mould]) -> Stock<'a> {
    Stock { player: &case.player, shelf: &case.shelf, moulds, lines: &case.lines }
}

/// The desk of [`case`], laid out once.
fn desk() -> &'static Desk<'static> {
    static DESK: OnceLock<Desk> = OnceLock::new();
    DESK.get_or_init(|| {
        let stock = Box::leak(Box::new(stock_of(case(), &[])));
        Desk::of(stock, false, case().memo, &Work::default()).unwrap()
    })
}

fn at_desk<T>(case: &Case, moulds: &[Mould], work: impl FnOnce(&Desk) -> T) -> T {
    let stock = stock_of(case, moulds);
    work(&Desk::of(&stock, !moulds.is_empty(), case.memo, &Work::default()).unwrap())
}

fn proposed(case: &Case, wishes: &Wishes) -> Proposal {
    at_desk(case, &[], |desk| propose(desk, wishes, &case.carried, &Work::default()).unwrap())
}

fn the<'a>(case: &'a Case, ids: &'a [DiscId]) -> impl Iterator<Item = &'a Disc> {
    case.shelf.iter().filter(|d| ids.contains(&d.id))
}

/// What a bag leaves by the season's own judgement.
fn judged(case: &Case, ids: &[DiscId]) -> f64 {
    let carried = ids.iter().map(|id| Carried { disc_id: *id, spare: false }).collect();
    let bag = zinc_kite_bag::verdict::carried::BagSpec { capacity: 60, ..case.bag.clone() };
    let again = Case {
        player: case.player.clone(),
        shelf: case.shelf.clone(),
        bag,
        carried,
        lines: case.lines.clone(),
        memo: &crate::scene::WORKED_OUT,
    };
    again.judge().leaves_strokes
}

/// Work that is content after a while.
fn soon() -> Arc<Work> {
    let work = Arc::new(Work::default());
    let other = work.clone();
    std::thread::spawn(move || {
        std::thread::sleep(std::time::Duration::from_millis(800));
        other.hurry();
    });
    work
}

fn wishes() -> impl Strategy<Value = Wishes> {
    let ids = || prop::collection::vec((1..=18_i64).prop_map(DiscId), 0..3);
    let slot = prop::sample::select(vec![Slot::Putter, Slot::MidRange, Slot::Fairway, Slot::Distance]);
    let slots = prop::option::of((slot, 0..4_u32, 0..4_u32)).prop_map(|s| {
        let wish =
            |(slot, a, b): (_, u32, u32)| SlotWish { slot, least: Some(a.min(b)), most: Some(a.max(b)) };
        s.map(wish).into_iter().collect()
    });
    let flags = (any::<bool>(), any::<bool>(), any::<bool>());
    let cap = prop::option::of(165.0..178.0_f64);
    (1..14_u32, cap, prop::option::of(500.0..2500.0_f64), ids(), ids(), slots, ids(), flags, 0.0..0.1_f64)
        .prop_map(|(capacity, event_cap_g, mass_cap_g, within, without, slots, spared, flags, taste)| {
            Wishes {
                event_cap_g,
                mass_cap_g,
                without: without.into_iter().filter(|id| !within.contains(id)).collect(),
                within,
                slots,
                spared,
                putting_pair: flags.0,
                one_maker: flags.1,
                pegs: flags.2,
                mould_strokes: Some(taste),
                ..Wishes::of_size(capacity)
            }
        })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(16))]

    #[test]
    fn prop_a_proposal_keeps_every_wish(wishes in wishes()) {
        let case = case();
        let found = propose(desk(), &wishes, &case.carried, &soon()).unwrap();
        prop_assume!(!found.discs.is_empty());
        let discs: Vec<&Disc> = the(case, &found.discs).collect();
        prop_assert_eq!(discs.len(), found.discs.len());
        prop_assert!(discs.len() <= wishes.capacity as usize);
        prop_assert!(wishes.within.iter().all(|id| found.discs.contains(id)));
        prop_assert!(!wishes.without.iter().any(|id| found.discs.contains(id)));
        prop_assert!(discs.iter().all(|d| wishes.event_cap_g.is_none_or(|cap| d.spec.mass_g <= cap)));
        let mass: f64 = discs.iter().map(|d| d.spec.mass_g).sum();
        prop_assert!(wishes.mass_cap_g.is_none_or(|cap| mass <= cap + 1e-6));
        prop_assert!((mass - found.mass_g).abs() < 1e-6);
        for wish in &wishes.slots {
            let n = discs.iter().filter(|d| case.player.lane(d.spec.slot()) == wish.slot).count() as u32;
            prop_assert!(wish.least.is_none_or(|least| n >= least) && wish.most.is_none_or(|most| n <= most));
        }
        if wishes.one_maker {
            prop_assert!(discs.iter().all(|d| d.spec.maker == discs[0].spec.maker));
        }
        if wishes.putting_pair {
            prop_assert!(discs.iter().filter(|d| d.spec.used_for == Use::Putting).count() >= 2);
        }
        if wishes.pegs {
            for socket in found.board.lanes.iter().flat_map(|l| &l.sockets).filter(|s| s.wanted) {
                let empty = socket.disc_ids.is_empty();
                let told = found.unmet.iter().any(|u| u.contains(socket.label));
                prop_assert!(!empty || told, "{} is empty and not told", socket.label);
            }
        }
    }

    /// Of one wish less the best bag is no worse.
    #[test]
    fn prop_a_wish_given_up_never_costs(wishes in wishes()) {
        let case = case();
        let desk = desk();
        // A search that takes long is cut short: what it tells must hold all the same.
        let all = prices(desk, &wishes, &soon()).unwrap();
        for price in &all {
            prop_assert!(price.costs_strokes.is_none_or(|c| c >= 0.0), "{:?}", price);
        }
        let free = Wishes { mould_strokes: Some(0.0), ..Wishes::of_size(18) };
        let most = propose(desk, &free, &case.carried, &Work::default()).unwrap();
        let found = propose(desk, &wishes, &case.carried, &soon()).unwrap();
        if !found.discs.is_empty() {
            prop_assert!(most.leaves_strokes <= found.leaves_strokes + 0.001);
        }
    }
}

/// Every bag that keeps the wishes, one by one.
#[rstest]
#[case(Wishes::of_size(4))]
#[case(Wishes { mould_strokes: Some(0.08), ..Wishes::of_size(5) })]
#[case(Wishes { disc_strokes: 0.1, without: (9..=18).map(DiscId).collect(), ..Wishes::of_size(18) })]
#[case(Wishes { putting_pair: true, mass_cap_g: Some(900.0), ..Wishes::of_size(6) })]
#[case(Wishes { one_maker: true, ..Wishes::of_size(3) })]
fn val_no_bag_that_keeps_the_wishes_is_better(#[case] wishes: Wishes) {
    let case = case();
    let desk = desk();
    let (problem, _) = desk.problem(&wishes).unwrap();
    let best = (0_u32..1 << problem.things)
        .filter(|bits| bits.count_ones() <= wishes.capacity)
        .map(|bits| (0..problem.things).filter(|j| bits >> j & 1 == 1).collect::<Vec<_>>())
        .filter(|chosen| problem.allows(chosen))
        .map(|chosen| problem.value(&chosen))
        .fold(f64::NEG_INFINITY, f64::max);
    let found = propose(desk, &wishes, &case.carried, &Work::default()).unwrap();
    let saves = problem.value(&desk.places(&found.discs));
    assert!(found.is_proven && found.doubt_strokes <= 0.000501);
    assert!(saves >= best - 0.000501 && saves <= best + 1e-9, "{saves} of {best}");
}

/// What the builder says a bag leaves is what the bag's own judgement says.
#[rstest]
#[case(8)]
#[case(18)]
fn prop_a_proposal_leaves_what_its_own_judgement_says(#[case] capacity: u32) {
    let case = case();
    let found = proposed(case, &Wishes::of_size(capacity));
    let own = judged(case, &found.discs);
    assert!((own - found.leaves_strokes).abs() < 0.03, "{own} against {}", found.leaves_strokes);
    let today: Vec<DiscId> = case.carried.iter().map(|c| c.disc_id).collect();
    assert!((judged(case, &today) - found.against.leaves_strokes).abs() < 0.03);
    assert!(found.leaves_strokes <= found.against.leaves_strokes);
}

#[test]
fn prop_what_is_told_against_todays_bag_adds_up() {
    let case = case();
    let found = proposed(case, &Wishes::of_size(8));
    let today: Vec<DiscId> = case.carried.iter().map(|c| c.disc_id).collect();
    let mut then: Vec<DiscId> = today.iter().copied().filter(|id| !found.against.goes.contains(id)).collect();
    then.extend(&found.against.comes);
    then.sort();
    let mut now = found.discs.clone();
    now.sort();
    assert_eq!(then, now);
    let told: f64 = found.against.differences.iter().map(|d| d.saves_strokes).sum();
    let saves = found.against.leaves_strokes - found.leaves_strokes;
    assert!((told - saves).abs() < 0.3 * saves.max(0.1), "{told} of {saves}");
}

#[test]
fn prop_more_discs_never_leave_more_and_pay_less_and_less() {
    let desk = desk();
    let wishes = Wishes { mould_strokes: Some(0.02), ..Wishes::of_size(10) };
    let found = curve(desk, &wishes, &Work::default()).unwrap();
    let points = &found.points;
    assert_eq!(points.len(), 10);
    // Beyond the size that is enough no further disc saves as much as is told, and the one before it did.
    let enough = found.enough.unwrap() as usize;
    let saves = |k: usize| points[k - 1].leaves_strokes - points[k].leaves_strokes;
    assert!((enough..10).all(|k| saves(k) < found.little_strokes));
    assert!(enough == 1 || saves(enough - 1) >= found.little_strokes);
    let share = |discs: u32| points[discs as usize - 1].share;
    assert!(!found.milestones.is_empty() && found.milestones.iter().all(|m| share(*m) >= 0.9));
    assert!(points.iter().all(|p| (0.0..=1.0).contains(&p.share)));
    for pair in points.windows(2) {
        assert!(pair[1].free_leaves_strokes <= pair[0].free_leaves_strokes + 0.0006);
    }
    for p in points {
        assert!(p.is_proven && p.chosen.len() <= p.discs as usize);
        assert!(p.free_leaves_strokes <= p.leaves_strokes + 0.0006 && p.moulds <= p.free_moulds);
    }
}

#[test]
fn prop_near_bags_are_near_and_discs_of_every_one_are_in_every_one() {
    let desk = desk();
    let wishes = Wishes::of_size(9);
    let work = Work::default();
    let best = propose(desk, &wishes, &[], &work).unwrap();
    let found = ties(desk, &wishes, &work).unwrap();
    assert_eq!(found.bags.len(), best.discs.len());
    for bag in &found.bags {
        let without = Wishes { without: vec![bag.without], ..wishes.clone() };
        let other = propose(desk, &without, &[], &work).unwrap();
        let costs = other.leaves_strokes - best.leaves_strokes;
        assert!((costs.max(0.0) - bag.costs_strokes.unwrap()).abs() < 0.0011, "{bag:?} costs {costs}");
        assert!(bag.goes.contains(&bag.without) && !bag.comes.contains(&bag.without));
        assert_eq!(found.always.contains(&bag.without), bag.costs_strokes.unwrap() > found.near_strokes);
    }
}

/// A wish that cannot be kept is priced by what it prevents.
#[test]
fn prop_the_wish_that_prevents_every_bag_is_named() {
    let case = case();
    let desk = desk();
    let slots = vec![SlotWish { slot: Slot::Putter, least: Some(4), most: None }];
    let wishes = Wishes { slots, ..Wishes::of_size(3) };
    let work = Work::default();
    assert!(propose(desk, &wishes, &case.carried, &work).unwrap().discs.is_empty());
    let found = prices(desk, &wishes, &work).unwrap();
    let frees: Vec<&str> = found.iter().filter(|p| p.frees).map(|p| p.wish.as_str()).collect();
    assert_eq!(frees, ["no more than 3 discs: one more", "at least 4 putter"]);
}

/// The taste for few moulds is a dial: the more a mould must save, the fewer there are. Common practice, no source.
#[test]
fn trade_few_moulds_is_a_dial() {
    let case = case();
    let moulds = [0.0, 0.03, 0.1, 0.3]
        .map(|taste| proposed(case, &Wishes { mould_strokes: Some(taste), ..Wishes::of_size(10) }).moulds);
    assert!(moulds.windows(2).all(|pair| pair[1] <= pair[0]) && moulds[3] < moulds[0], "{moulds:?}");
}

/// A beginner is proposed nothing fast and nothing that always comes back; a lean bag has no fast drivers. Common practice, no
/// source.
#[test]
fn trade_schools_refuse_what_they_refuse() {
    let player = Player { backhand_m: 70.0, forehand_m: 50.0, ..Player::default() };
    let case = Case::of(player, shelf(), &[0], 8);
    at_desk(&case, &[], |desk| {
        let found = schools(desk, &Wishes::of_size(12), &Work::default()).unwrap();
        let fastest = |label: &str| {
            let bag = found.iter().find(|s| s.label == label).unwrap();
            the(&case, &bag.discs).map(|d| d.spec.printed.speed).fold(0.0, f64::max)
        };
        assert!(fastest("Beginner") <= 7.0);
        assert!(fastest("Lean") < 10.0);
        assert!(found.iter().all(|s| s.is_proven));
        let of = |label: &str| found.iter().find(|s| s.label == label).unwrap();
        assert!(of("Few moulds").moulds <= of("Three pegs").moulds);
        assert!(of("Lean").discs.len() <= of("Three pegs").discs.len());
    });
}

/// What is bought keeps to the budget and to what can be had.
#[rstest]
#[case(100.0, 3)]
#[case(20.0, 1)]
#[case(5.0, 0)]
fn prop_what_is_bought_keeps_to_the_budget(#[case] budget: f64, #[case] most: usize) {
    let case = Case::of(Player::default(), shelf().into_iter().take(6).collect(), &[0, 2], 10);
    let mould = |id: i64, speed: f64, supply: Supply| {
        let printed = Numbers { speed, glide: 5.0, turn: -1.0, fade: 2.0 };
        Mould {
            id: MouldId(id),
            spec: MouldSpec { supply, ..MouldSpec::named("Orrery Works", &format!("Plumb {id}"), printed) },
        }
    };
    let moulds = [
        mould(1, 7.0, Supply::Ready),
        mould(2, 9.0, Supply::Ready),
        mould(3, 12.0, Supply::Ready),
        mould(4, 8.0, Supply::OutOfProduction),
    ];
    at_desk(&case, &moulds, |desk| {
        let wishes = Wishes { buying: Some(Buying { budget, usual_price: 15.0 }), ..Wishes::of_size(10) };
        let found = propose(desk, &wishes, &case.carried, &Work::default()).unwrap();
        assert!(found.bought.len() <= most, "{:?}", found.bought);
        assert!(most == 0 || !found.bought.is_empty(), "drivers are lacking altogether");
        assert!(found.bought.iter().map(|b| b.price).sum::<f64>() <= budget);
        assert!(found.bought.iter().all(|b| b.mould_id != MouldId(4) && b.disc_id.0 < 0));
    });
}

/// What is to be looked for saves less and less, and the first of it saves what it says when it is there.
#[test]
fn prop_what_to_look_for_saves_what_it_says() {
    let case = case();
    let beside: Vec<DiscId> = case.carried.iter().map(|c| c.disc_id).take(5).collect();
    let stock = stock_of(case, &[]);
    let found = shopping(&stock, &beside, 3, case.memo, &Work::default()).unwrap();
    assert!(found.len() == 3 && found.windows(2).all(|p| p[0].saves_strokes >= p[1].saves_strokes));
    let first = &found[0];
    assert!(!first.jobs.is_empty() && !first.words.is_empty());
    let numbers = first.numbers;
    let bought = disc(99, spec(numbers.speed, numbers.glide, numbers.turn, numbers.fade));
    let mut shelf = case.shelf.clone();
    shelf.push(Disc { spec: DiscSpec { class: Some(first.slot), ..bought.spec }, ..bought });
    let with = Case { shelf, ..Case::of(case.player.clone(), vec![], &[], 60) };
    let leaves = |ids: &[DiscId]| judged(&with, ids);
    let saves = leaves(&beside) - leaves(&[&beside[..], &[DiscId(99)]].concat());
    assert!(
        (saves - first.saves_strokes).abs() < 0.15 * first.saves_strokes + 0.02,
        "{saves} of {}",
        first.saves_strokes
    );
}

#[test]
fn prop_nothing_the_hand_does_not_like_and_no_other_maker() {
    let feel = Feel {
        used: HandUse::Fairways,
        rim_cm: Some(1.5),
        rim_depth_cm: None,
        bead: None,
        thumb_track: None,
        stiffness: None,
    };
    let player = Player { habits: Habits { feel: vec![feel], ..Habits::default() }, ..Player::default() };
    let mut discs = shelf();
    discs.iter_mut().for_each(|d| d.spec.rim_cm = Some(if d.id.0 == 9 { 1.5 } else { 2.1 }));
    let case = Case::of(player, discs, &[0], 8);
    let found = proposed(&case, &Wishes { hand_feel: true, ..Wishes::of_size(18) });
    let fairways: Vec<i64> =
        the(&case, &found.discs).filter(|d| d.spec.slot() == Slot::Fairway).map(|d| d.id.0).collect();
    assert!(fairways.iter().all(|id| *id == 9), "{fairways:?}");
    let other = Wishes { makers: vec![" saltmarsh ".into()], ..Wishes::of_size(18) };
    let found = proposed(super::build::case(), &other);
    assert!(
        the(super::build::case(), &found.discs).all(|d| d.spec.maker == "Saltmarsh")
            && !found.discs.is_empty()
    );
}

/// The same on one thread as on four.
#[test]
fn prop_threads_change_nothing() {
    let case = case();
    let on = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| {
            let desk = desk();
            let wishes = Wishes { mould_strokes: Some(0.02), ..Wishes::of_size(9) };
            let work = Work::default();
            (
                propose(desk, &wishes, &case.carried, &work).unwrap(),
                curve(desk, &wishes, &work).unwrap(),
                ties(desk, &wishes, &work).unwrap(),
            )
        })
    };
    assert_eq!(on(1), on(4));
}

#[test]
fn prop_a_stopped_builder_stops_and_a_hurried_one_is_honest() {
    let desk = desk();
    let wishes = Wishes { mould_strokes: Some(0.05), ..Wishes::of_size(9) };
    let stopped = Work::default();
    stopped.stop();
    assert_eq!(propose(desk, &wishes, &[], &stopped), Err(BagError::Stopped));
    assert_eq!(curve(desk, &wishes, &stopped), Err(BagError::Stopped));
    assert_eq!(prices(desk, &wishes, &stopped), Err(BagError::Stopped));
    assert_eq!(ties(desk, &wishes, &stopped), Err(BagError::Stopped));
    assert_eq!(schools(desk, &wishes, &stopped), Err(BagError::Stopped));
    let best = propose(desk, &wishes, &[], &Work::default()).unwrap();
    let hurried = Work::default();
    hurried.hurry();
    let soon = propose(desk, &wishes, &[], &hurried).unwrap();
    let total = |p: &Proposal| p.leaves_strokes + p.taste_strokes;
    assert!(!soon.is_proven && total(&soon) >= total(&best) - 1e-9);
    assert!(soon.discs.is_empty() || total(&soon) - soon.doubt_strokes <= total(&best) + 1e-6);
}

#[rstest]
#[case(Wishes::of_size(0), "capacity")]
#[case(Wishes::of_size(61), "capacity")]
#[case(Wishes { event_cap_g: Some(f64::NAN), ..Wishes::of_size(5) }, "event_cap_g")]
#[case(Wishes { mass_cap_g: Some(-1.0), ..Wishes::of_size(5) }, "mass_cap_g")]
#[case(Wishes { mould_strokes: Some(2.0), ..Wishes::of_size(5) }, "mould_strokes")]
#[case(Wishes { disc_strokes: f64::INFINITY, ..Wishes::of_size(5) }, "disc_strokes")]
#[case(Wishes { makers: vec!["\u{0}".into()], ..Wishes::of_size(5) }, "makers")]
#[case(Wishes { within: vec![DiscId(1)], without: vec![DiscId(1)], ..Wishes::of_size(5) }, "within")]
#[case(Wishes { within: vec![DiscId(4711)], ..Wishes::of_size(5) }, "within")]
#[case(Wishes { slots: vec![SlotWish { slot: Slot::Putter, least: Some(3), most: Some(2) }], ..Wishes::of_size(5) }, "slots")]
#[case(Wishes { slots: vec![SlotWish { slot: Slot::Putter, least: None, most: None }; 2], ..Wishes::of_size(5) }, "slots")]
#[case(Wishes { buying: Some(Buying { budget: -1.0, usual_price: 1.0 }), ..Wishes::of_size(5) }, "budget")]
fn prop_a_wish_that_makes_no_sense_is_refused_by_name(#[case] wishes: Wishes, #[case] field: &str) {
    let error = at_desk(case(), &[], |desk| desk.problem(&wishes).unwrap_err());
    assert_eq!(error.field(), field, "{error}");
}

#[test]
fn prop_an_empty_shelf_has_an_empty_bag() {
    let case = Case::of(Player::default(), vec![], &[], 8);
    let found = proposed(&case, &Wishes { school: Some(School::Five), ..Wishes::of_size(8) });
    assert!(found.discs.is_empty() && found.is_proven);
    at_desk(&case, &[], |desk| {
        assert!(curve(desk, &Wishes::of_size(8), &Work::default()).unwrap().points.is_empty());
    });
}
