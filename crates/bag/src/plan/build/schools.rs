//! The same shelf by every school, on the same lines.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::BagError;
use crate::plan::build::desk::Desk;
use crate::plan::build::wishes::Wishes;
use crate::thrower::player::School;
use crate::verdict::board::mass_g;
use crate::verdict::carried::Carried;
use crate::verdict::work::Work;

/// The best bag of a school.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SchoolBag {
    /// The school, in words.
    pub label: &'static str,
    /// What it asks.
    pub asks: &'static str,
    /// Its discs, slow to fast; empty if the shelf has no such bag.
    pub discs: Vec<DiscId>,
    /// What it leaves over the season, strokes a round.
    pub leaves_strokes: f64,
    /// How many moulds it is of.
    pub moulds: usize,
    /// Its mass, g.
    pub mass_g: f64,
    /// Whether it is proven the best of its school.
    pub is_proven: bool,
    /// What nothing on the shelf can meet, in words.
    pub unmet: Vec<String>,
}

/// What a mould beyond the first must save where few are wanted, strokes a round. Own judgement.
const FEW_MOULDS_STROKES: f64 = 0.05;
/// What a disc must save to be carried in a lean bag, strokes a round. Own judgement.
pub const LEAN_STROKES: f64 = 0.05;

/// The best bag of each school of so many discs, whatever else is wished.
///
/// # Errors
/// [`BagError`] for wishes outside their ranges, [`BagError::Stopped`] after `work` was stopped.
pub fn schools(desk: &Desk, wishes: &Wishes, work: &Work) -> Result<Vec<SchoolBag>, BagError> {
    wishes.validate()?;
    let plain = Wishes {
        event_cap_g: wishes.event_cap_g,
        mould_strokes: Some(0.0),
        ..Wishes::of_size(wishes.capacity)
    };
    let by = |school| Wishes { school: Some(school), pegs: true, ..plain.clone() };
    let all = [
        ("Three pegs", "Lean, Rail and Drift filled in every slot that wants them", by(School::Three)),
        ("Five pegs", "Hook to Slide filled in every slot that wants them", by(School::Five)),
        (
            "Few moulds",
            "Every mould beyond the first must save 0.05 strokes a round",
            Wishes { mould_strokes: Some(FEW_MOULDS_STROKES), ..plain.clone() },
        ),
        (
            "Lean",
            "Slow, straight and overstable discs that can be lost, each of which must save 0.05 strokes a round",
            Wishes { disc_strokes: LEAN_STROKES, ..by(School::Lean) },
        ),
        ("Beginner", "Nothing fast, nothing this arm cannot turn over", by(School::Beginner)),
    ];
    let mut problems = Vec::new();
    let mut unmet = Vec::new();
    for (_, _, wishes) in &all {
        let (problem, missing) = desk.problem(wishes)?;
        problems.push(problem);
        unmet.push(missing);
    }
    let chosen = desk.choose_all(&problems, None, work);
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    let bag = |k: usize| {
        let (label, asks, _) = &all[k];
        let places = chosen[k].things.clone().unwrap_or_default();
        let discs = desk.ids(&places);
        let packed: Vec<Carried> = discs.iter().map(|id| Carried { disc_id: *id, spare: false }).collect();
        SchoolBag {
            label,
            asks,
            leaves_strokes: desk.leaves(&places),
            moulds: problems[k].kinds_of(&places),
            mass_g: mass_g(&desk.discs, &packed),
            is_proven: chosen[k].is_proven,
            unmet: unmet[k].clone(),
            discs,
        }
    };
    Ok((0..all.len()).map(bag).collect())
}
