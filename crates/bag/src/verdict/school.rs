//! What a player's school has against a disc, and what a further mould costs: the player's own policy, beside what the flights
//! say.

use std::collections::HashMap;

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::as_thrown::as_thrown;
use crate::disc::plastic::Plastic;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::need::peg::FIVE_PEG_EDGES;
use crate::thrower::player::{Player, School};
use crate::verdict::board::Puck;
use crate::words::{degrees, fold};

/// What a school has against a disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Objection {
    /// Why, in words.
    pub words: String,
    /// Whether the school would not carry it at all; else it would rather have another that does as well.
    pub firm: bool,
}

/// A disc heavier than this is not a light one, g. Own judgement.
const LIGHT_G: f64 = 170.0;
/// A disc whose fade exceeds its turn by more than this is truly overstable, however short it flies. Own judgement.
const OVERSTABLE: f64 = 2.0;
/// A drive of this speed or more is for room that a lean bag does without. Common practice, no source.
const FAST: f64 = 10.0;
/// What a disc that the school would rather not have must save beyond another, strokes a round. Own judgement.
pub(crate) const RATHER_NOT_STROKES: f64 = 0.02;

/// What the school of a disc's slot has against it; `finish_deg` is where it finishes thrown flat and full at this arm.
pub fn objections(player: &Player, disc: &Disc, finish_deg: f64) -> Vec<Objection> {
    let spec = &disc.spec;
    if spec.used_for != Use::Throwing {
        return vec![];
    }
    let comes_back = finish_deg >= FIVE_PEG_EDGES[1].1;
    let speed = spec.printed.speed;
    let objection = |firm, words: String| Objection { words, firm };
    match player.school_of(spec.slot()) {
        School::Three | School::Five => vec![],
        School::Beginner => {
            let fast = player.speed_ceiling().filter(|most| speed > *most);
            let fast = fast.map(|most| objection(true, format!("faster than speed {most}")));
            let n = as_thrown(spec).result;
            let stable = (comes_back || n.turn + n.fade > OVERSTABLE).then(|| {
                objection(true, format!("overstable at your arm: it finishes at {}", degrees(finish_deg)))
            });
            let hard = matches!(spec.plastic, Plastic::Premium | Plastic::PremiumSoft | Plastic::StiffGlow);
            let plastic = hard.then(|| objection(false, "base plastic is easier to learn with".into()));
            let heavy = (spec.mass_g > LIGHT_G)
                .then(|| objection(false, format!("{:.0} g is heavy to learn with", spec.mass_g)));
            [fast, stable, plastic, heavy].into_iter().flatten().collect()
        }
        School::Lean => {
            let fast = (speed >= FAST).then(|| objection(true, "a lean bag has no fast drivers".into()));
            let turns = (finish_deg < FIVE_PEG_EDGES[2].1)
                .then(|| objection(true, "a lean bag has nothing that turns over".into()));
            let dear =
                spec.keeping.is_dear().then(|| objection(false, "you would not like to lose it".into()));
            [fast, turns, dear].into_iter().flatten().collect()
        }
    }
}

/// What the player's policy has against each disc of a shelf, looked up once: findings try thousands of changes.
pub(crate) struct Policy {
    mould_strokes: f64,
    of: HashMap<DiscId, Stance>,
    /// What is taken off the bag as it is.
    now: f64,
    /// Whether nothing is ever taken off.
    is_idle: bool,
}

/// What it says of one disc.
struct Stance {
    /// Which mould, numbered.
    mould: usize,
    refused: bool,
    rather_not: bool,
}

impl Policy {
    /// Of every disc of a shelf, whose pucks lie in its order, beside those that count.
    pub(crate) fn of(player: &Player, shelf: &[Disc], pucks: &[Puck], counted: &[DiscId]) -> Policy {
        let mut moulds: HashMap<(String, String), usize> = HashMap::new();
        let stance = |(disc, puck): (&Disc, &Puck)| {
            let next = moulds.len();
            let objections = objections(player, disc, puck.bend.finish_deg);
            let stance = Stance {
                mould: *moulds.entry(mould_of(disc)).or_insert(next),
                refused: objections.iter().any(|o| o.firm),
                rather_not: objections.iter().any(|o| !o.firm),
            };
            (disc.id, stance)
        };
        let of: HashMap<DiscId, Stance> = shelf.iter().zip(pucks).map(stance).collect();
        let mould_strokes = player.habits.mould_strokes;
        let is_idle = mould_strokes == 0.0 && of.values().all(|s| !s.rather_not);
        let mut policy = Policy { mould_strokes, of, now: 0.0, is_idle };
        policy.now = policy.takes_off(counted);
        policy
    }

    /// Whether the player's school would not carry a disc at all.
    pub(crate) fn refuses(&self, id: DiscId) -> bool {
        self.of.get(&id).is_some_and(|s| s.refused)
    }

    /// What is taken off when the bag becomes another, strokes a round; negative if less is.
    pub(crate) fn changes_by(&self, after: &[DiscId]) -> f64 {
        if self.is_idle { 0.0 } else { self.takes_off(after) - self.now }
    }

    /// What is taken off what some discs save, strokes a round: for every mould beyond the first, and for every disc that the
    /// school would rather not have.
    fn takes_off(&self, ids: &[DiscId]) -> f64 {
        let known = || ids.iter().filter_map(|id| self.of.get(id));
        let mut moulds: Vec<usize> = known().map(|s| s.mould).collect();
        moulds.sort_unstable();
        moulds.dedup();
        let rather_not = known().filter(|s| s.rather_not).count();
        beyond_the_first(self.mould_strokes, moulds.len()) + RATHER_NOT_STROKES * rather_not as f64
    }
}

/// The maker and the name of a disc's mould, as they are held against others.
pub(crate) fn mould_of(disc: &Disc) -> (String, String) {
    (fold(&disc.spec.maker), fold(&disc.spec.mould))
}

/// What so many moulds cost in a round, strokes: the first is free.
pub(crate) fn moulds_strokes(player: &Player, moulds: usize) -> f64 {
    beyond_the_first(player.habits.mould_strokes, moulds)
}

fn beyond_the_first(each: f64, moulds: usize) -> f64 {
    each * moulds.saturating_sub(1) as f64
}

/// How many moulds some discs are of.
pub(crate) fn moulds<'a>(discs: impl Iterator<Item = &'a Disc>) -> usize {
    let mut known: Vec<(String, String)> = discs.map(mould_of).collect();
    known.sort();
    known.dedup();
    known.len()
}
