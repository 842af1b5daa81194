//! The best bag, and what it has over another.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::mould::MouldId;
use crate::disc::spec::{DiscId, Numbers};
use crate::error::BagError;
use crate::plan::build::desk::Desk;
use crate::plan::build::wishes::Wishes;
use crate::thrower::day::Conditions;
use crate::verdict::board::{Board, board, mass_g, moulds_of};
use crate::verdict::carried::Carried;
use crate::verdict::compare::{LineDifference, differences};
use crate::verdict::work::Work;
use crate::verdict::worth::{Worth, worths};

/// A new disc in a proposal.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Bought {
    /// Its number in the proposal, below 0.
    pub disc_id: DiscId,
    /// The mould it is of.
    pub mould_id: MouldId,
    /// What it is called in the proposal.
    pub name: String,
    /// Its numbers when fresh.
    pub numbers: Numbers,
    /// What it costs, in the player's own money.
    pub price: f64,
}

/// A proposal against a bag.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Against {
    /// What that bag leaves over the season, strokes a round.
    pub leaves_strokes: f64,
    /// How many moulds it is of.
    pub moulds: usize,
    /// Discs that come in.
    pub comes: Vec<DiscId>,
    /// Discs that go out.
    pub goes: Vec<DiscId>,
    /// Lines and weathers in which the two do unlike; what the proposal gains most first.
    pub differences: Vec<LineDifference>,
}

/// The best bag under some wishes.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Proposal {
    /// Its discs, slow to fast; empty if no bag keeps every wish.
    pub discs: Vec<DiscId>,
    /// Those of them that are to be bought.
    pub bought: Vec<Bought>,
    /// What it leaves over the season, strokes a round.
    pub leaves_strokes: f64,
    /// How many moulds it is of.
    pub moulds: usize,
    /// What its moulds and discs cost by the wishes, strokes a round; a matter of taste, not of flights.
    pub taste_strokes: f64,
    /// Its mass, g.
    pub mass_g: f64,
    /// Whether it is proven that no other bag under these wishes is better by more than `doubt_strokes`.
    pub is_proven: bool,
    /// How much better another bag could be at most, strokes a round.
    pub doubt_strokes: f64,
    /// Into how many parts the proof was split.
    pub parts: usize,
    /// Wishes that nothing can meet, in words.
    pub unmet: Vec<String>,
    /// Against the bag it was asked beside.
    pub against: Against,
    /// What each of its discs is for.
    pub worths: Vec<Worth>,
    /// Its board.
    pub board: Board,
}

/// Puts the best bag together. `carried` is the bag it is held against.
///
/// # Errors
/// [`BagError`] for wishes outside their ranges, [`BagError::Stopped`] after `work` was stopped.
pub fn propose(desk: &Desk, wishes: &Wishes, carried: &[Carried], work: &Work) -> Result<Proposal, BagError> {
    let (problem, unmet) = desk.problem(wishes)?;
    let today: Vec<DiscId> = carried.iter().map(|c| c.disc_id).collect();
    let today = desk.places(&today);
    let chosen = desk.choose(&problem, Some(&today), work);
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    let places = chosen.things.clone().unwrap_or_default();
    let ids = desk.ids(&places);
    let packed: Vec<Carried> = ids.iter().map(|id| Carried { disc_id: *id, spare: false }).collect();
    let leaves_strokes = desk.leaves(&places);
    let worth: f64 = desk.leaves(&[]) - leaves_strokes;
    let stock = desk.stock;
    let bought = |&j: &usize| {
        let disc = &desk.discs[j];
        Some(Bought {
            disc_id: disc.id,
            mould_id: MouldId(-disc.id.0),
            name: disc.spec.name.clone(),
            numbers: disc.spec.printed,
            price: desk.price(j, wishes)?,
        })
    };
    Ok(Proposal {
        bought: places.iter().filter_map(bought).collect(),
        leaves_strokes,
        moulds: moulds_of(&desk.discs, &packed),
        taste_strokes: if places.is_empty() { 0.0 } else { worth - chosen.saves },
        mass_g: mass_g(&desk.discs, &packed),
        is_proven: chosen.is_proven,
        doubt_strokes: if chosen.things.is_some() { chosen.most - chosen.saves } else { 0.0 },
        parts: chosen.parts,
        unmet,
        against: Against {
            leaves_strokes: desk.leaves(&today),
            moulds: moulds_of(stock.shelf, carried),
            comes: desk.only(&places, &today),
            goes: desk.only(&today, &places),
            differences: differences(&desk.ledger, stock.lines, &today, &places),
        },
        worths: worths(&desk.ledger, stock.lines, &desk.discs, &ids),
        board: board(stock.player, &Conditions::default(), None, &desk.discs, &packed)?,
        discs: ids,
    })
}
