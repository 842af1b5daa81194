//! Where another disc stops paying: the best bag of every size.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::BagError;
use crate::plan::build::desk::Desk;
use crate::plan::build::wishes::Wishes;
use crate::plan::choice::{Chosen, Problem};
use crate::verdict::work::Work;

/// The best bag of so many discs.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CurvePoint {
    /// At most so many discs.
    pub discs: u32,
    /// What the best bag leaves over the season, strokes a round.
    pub leaves_strokes: f64,
    /// What that saves, as a share of what all discs at hand save together, 0 to 1.
    pub share: f64,
    /// Of how many moulds it is.
    pub moulds: usize,
    /// What the best bag leaves if moulds and discs cost nothing by taste.
    pub free_leaves_strokes: f64,
    /// Of how many moulds that is.
    pub free_moulds: usize,
    /// Whether both are proven.
    pub is_proven: bool,
    /// The best bag, slow to fast.
    pub chosen: Vec<DiscId>,
}

/// What the best bags of every size come to.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Curve {
    /// Each size, from one disc on.
    pub points: Vec<CurvePoint>,
    /// A disc that saves less does not pay, strokes a round.
    pub little_strokes: f64,
    /// The size beyond which no further disc pays; the largest if every one does, none if there is no size.
    pub enough: Option<u32>,
    /// The first size that has most of what the whole shelf saves, and the first that has nearly all.
    pub milestones: Vec<u32>,
}

/// One more disc stops paying where it saves less, strokes a round. Own judgement.
const LITTLE_STROKES: f64 = 0.05;
/// Most of what the shelf saves, and nearly all of it. Own judgement.
const MILESTONES: [f64; 2] = [0.9, 0.98];

impl Curve {
    fn of(points: Vec<CurvePoint>) -> Curve {
        let pays = |pair: &[CurvePoint]| pair[0].leaves_strokes - pair[1].leaves_strokes >= LITTLE_STROKES;
        let last = points.windows(2).rposition(pays).map_or(0, |k| k + 1);
        let enough = points.get(last).map(|p| p.discs);
        let first = |share: f64| points.iter().find(|p| p.share >= share).map(|p| p.discs);
        let mut milestones: Vec<u32> = MILESTONES.into_iter().filter_map(first).collect();
        milestones.dedup();
        Curve { little_strokes: LITTLE_STROKES, enough, milestones, points }
    }
}

/// The best bag of every size up to the capacity that is wished; sizes for which no bag keeps every wish are left out.
///
/// # Errors
/// [`BagError`] for wishes outside their ranges, [`BagError::Stopped`] after `work` was stopped.
pub fn curve(desk: &Desk, wishes: &Wishes, work: &Work) -> Result<Curve, BagError> {
    let (problem, _) = desk.problem(wishes)?;
    let mut without = problem.clone();
    without.kind_price = 0.0;
    without.prices.fill(0.0);
    let sizes: Vec<usize> = (1..=problem.capacity.min(desk.discs.len())).collect();
    let problems: Vec<_> = sizes
        .iter()
        .flat_map(|&capacity| [&problem, &without].map(|p| Problem { capacity, ..p.clone() }))
        .collect();
    let chosen = desk.choose_all(&problems, None, work);
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    let nothing = desk.leaves(&[]);
    let most = nothing - desk.leaves(&(0..desk.discs.len()).collect::<Vec<_>>());
    let point = |(&size, pair): (&usize, &[Chosen])| {
        let [with, free] = pair else { return None };
        let (own, plain) = (with.things.as_ref()?, free.things.as_ref()?);
        Some(CurvePoint {
            discs: size as u32,
            leaves_strokes: desk.leaves(own),
            share: if most > 0.0 { (nothing - desk.leaves(own)) / most } else { 0.0 },
            moulds: problem.kinds_of(own),
            free_leaves_strokes: desk.leaves(plain),
            free_moulds: problem.kinds_of(plain),
            is_proven: with.is_proven && free.is_proven,
            chosen: desk.ids(own),
        })
    };
    Ok(Curve::of(sizes.iter().zip(chosen.chunks(2)).filter_map(point).collect()))
}
