//! What a wish costs: the best bag without it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::BagError;
use crate::plan::build::desk::{Desk, TOLERANCE};
use crate::plan::build::wishes::Wishes;
use crate::plan::choice::Chosen;
use crate::verdict::work::Work;

/// The price of one wish.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WishPrice {
    /// The wish, in words.
    pub wish: String,
    /// What the best bag would save beyond the proposal without it, strokes a round; absent if without it still no bag keeps every
    /// wish, or if only without it one does.
    pub costs_strokes: Option<f64>,
    /// Whether some bag keeps every wish once this one is given up, and none does with it.
    pub frees: bool,
    /// Whether both bags are proven the best; else what it costs is only about so.
    pub is_proven: bool,
    /// Discs that would come without it.
    pub comes: Vec<DiscId>,
    /// Discs that would go.
    pub goes: Vec<DiscId>,
}

/// A wish in words, and all others.
type Given = (String, Wishes);

/// Every wish with what is left when it is given up.
fn each(desk: &Desk, wishes: &Wishes) -> Vec<Given> {
    let mut given: Vec<Given> = Vec::new();
    let mut give = |wish: String, up: &dyn Fn(&mut Wishes)| {
        let mut rest = wishes.clone();
        up(&mut rest);
        given.push((wish, rest));
    };
    let discs = wishes.capacity;
    give(format!("no more than {discs} discs: one more"), &|w| w.capacity += 1);
    for id in &wishes.within {
        give(format!("{} in", desk.name(*id)), &|w| w.within.retain(|other| other != id));
    }
    for id in &wishes.without {
        give(format!("{} out", desk.name(*id)), &|w| w.without.retain(|other| other != id));
    }
    if let Some(cap) = wishes.event_cap_g {
        give(format!("no disc over {cap:.0} g"), &|w| w.event_cap_g = None);
    }
    if let Some(cap) = wishes.mass_cap_g {
        give(format!("no more than {:.1} kg in all", cap / 1000.0), &|w| w.mass_cap_g = None);
    }
    for (k, slot) in wishes.slots.iter().enumerate() {
        let of = slot.slot.label();
        if let Some(least) = slot.least.filter(|least| *least > 0) {
            give(format!("at least {least} {of}"), &|w| w.slots[k].least = None);
        }
        if let Some(most) = slot.most {
            give(format!("at most {most} {of}"), &|w| w.slots[k].most = None);
        }
    }
    if wishes.putting_pair {
        give("a matched putting pair".into(), &|w| w.putting_pair = false);
    }
    for id in &wishes.spared {
        give(format!("{} only with a spare", desk.name(*id)), &|w| w.spared.retain(|other| other != id));
    }
    if !wishes.makers.is_empty() {
        give(format!("only {}", wishes.makers.join(", ")), &|w| w.makers.clear());
    }
    if wishes.one_maker {
        give("all of one maker".into(), &|w| w.one_maker = false);
    }
    if desk.mould_strokes(wishes) > 0.0 {
        give("few moulds".into(), &|w| w.mould_strokes = Some(0.0));
    }
    if wishes.disc_strokes > 0.0 {
        give("few discs".into(), &|w| w.disc_strokes = 0.0);
    }
    if wishes.hand_feel {
        give("nothing the hand does not like".into(), &|w| w.hand_feel = false);
    }
    if wishes.pegs {
        give("every wanted peg filled".into(), &|w| w.pegs = false);
    }
    given
}

/// What every wish costs, the dearest first. Wishes that are matters of taste, few moulds and few discs, are priced by what their bag
/// leaves; the others by all that counts.
///
/// # Errors
/// [`BagError`] for wishes outside their ranges, [`BagError::Stopped`] after `work` was stopped.
pub fn prices(desk: &Desk, wishes: &Wishes, work: &Work) -> Result<Vec<WishPrice>, BagError> {
    let given = each(desk, wishes);
    let mut problems = vec![desk.problem(wishes)?.0];
    for (_, rest) in &given {
        problems.push(desk.problem(rest)?.0);
    }
    let mut chosen = desk.choose_all(&problems, None, work).into_iter();
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    let Some(with) = chosen.next() else { return Ok(vec![]) };
    let mut prices: Vec<WishPrice> = given
        .iter()
        .zip(chosen)
        .map(|((wish, rest), without)| price(desk, wishes, &with, wish, rest, &without))
        .collect();
    prices.sort_by(|a, b| {
        let of = |p: &WishPrice| p.costs_strokes.unwrap_or(0.0);
        b.frees.cmp(&a.frees).then(of(b).total_cmp(&of(a)))
    });
    Ok(prices)
}

fn price(
    desk: &Desk,
    wishes: &Wishes,
    with: &Chosen,
    wish: &str,
    rest: &Wishes,
    without: &Chosen,
) -> WishPrice {
    let is_taste =
        desk.mould_strokes(rest) != desk.mould_strokes(wishes) || rest.disc_strokes != wishes.disc_strokes;
    let places = |c: &Chosen| c.things.clone().unwrap_or_default();
    let (now, then) = (places(with), places(without));
    let costs = match (&with.things, &without.things) {
        (Some(_), Some(_)) if is_taste => Some(desk.leaves(&now) - desk.leaves(&then)),
        (Some(_), Some(_)) => Some(without.saves - with.saves),
        _ => None,
    };
    WishPrice {
        wish: wish.to_owned(),
        // Within what the proof leaves open a wish costs nothing.
        costs_strokes: costs.map(|c| if c.abs() <= 2.0 * TOLERANCE { 0.0 } else { c.max(0.0) }),
        frees: with.things.is_none() && without.things.is_some(),
        is_proven: with.is_proven && without.is_proven,
        comes: desk.only(&then, &now),
        goes: desk.only(&now, &then),
    }
}
