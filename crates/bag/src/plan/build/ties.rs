//! Other bags that come near: what is lost if a disc of the best one stays at home, and which discs are in all of them.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::BagError;
use crate::plan::build::desk::Desk;
use crate::plan::build::wishes::Wishes;
use crate::plan::choice::Problem;
use crate::verdict::work::Work;

/// Bags that leave no more than this beyond the best one come near it, strokes a round.
pub const NEAR_STROKES: f64 = 0.05;

/// The best bag without one disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct NearBag {
    /// The disc that stays at home.
    pub without: DiscId,
    /// What that costs, strokes a round; absent if no bag keeps every wish without it.
    pub costs_strokes: Option<f64>,
    /// Whether both bags are proven the best; else what it costs is only about so.
    pub is_proven: bool,
    /// Discs that come instead.
    pub comes: Vec<DiscId>,
    /// Discs that go, the one that stays at home among them.
    pub goes: Vec<DiscId>,
}

/// The bags near the best one.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ties {
    /// Within how many strokes a bag comes near.
    pub near_strokes: f64,
    /// Discs that are in every bag that comes near, the one missed most first.
    pub always: Vec<DiscId>,
    /// For every disc of the best bag the best one without it, the cheapest first.
    pub bags: Vec<NearBag>,
}

/// What else comes near the best bag under some wishes.
///
/// # Errors
/// [`BagError`] for wishes outside their ranges, [`BagError::Stopped`] after `work` was stopped.
pub fn ties(desk: &Desk, wishes: &Wishes, work: &Work) -> Result<Ties, BagError> {
    let (problem, _) = desk.problem(wishes)?;
    let best = desk.choose(&problem, None, work);
    let places = best.things.unwrap_or_default();
    let leave = |&j: &usize| {
        let mut without = problem.without.clone();
        without.push(j);
        let within = problem.within.iter().copied().filter(|&o| o != j).collect();
        Problem { within, without, ..problem.clone() }
    };
    let problems: Vec<Problem> = places.iter().map(leave).collect();
    let chosen = desk.choose_all(&problems, Some(&places), work);
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    let mut bags: Vec<NearBag> = places
        .iter()
        .zip(&chosen)
        .map(|(&j, other)| {
            let then = other.things.clone().unwrap_or_default();
            NearBag {
                without: desk.discs[j].id,
                costs_strokes: other.things.as_ref().map(|_| (best.saves - other.saves).max(0.0)),
                is_proven: best.is_proven && other.is_proven,
                comes: desk.only(&then, &places),
                goes: desk.only(&places, &then),
            }
        })
        .collect();
    let cost = |bag: &NearBag| bag.costs_strokes.unwrap_or(f64::INFINITY);
    bags.sort_by(|a, b| cost(a).total_cmp(&cost(b)).then(a.without.cmp(&b.without)));
    let always = bags.iter().rev().filter(|bag| cost(bag) > NEAR_STROKES).map(|bag| bag.without).collect();
    Ok(Ties { near_strokes: NEAR_STROKES, always, bags })
}
