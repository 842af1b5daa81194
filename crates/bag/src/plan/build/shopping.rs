//! What to look for: the disc, of all there could be, whose purchase would save most beside a bag; then the next beside both.

use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::lines::PEGGED;
use crate::catalogue::reference::family;
use crate::chance::memo::Memo;
use crate::disc::mould::USUAL_MASS_G;
use crate::disc::plastic::Plastic;
use crate::disc::spec::{Disc, DiscId, DiscSpec, Numbers};
use crate::error::BagError;
use crate::plan::build::desk::Stock;
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::slot::Slot;
use crate::verdict::board::pucks;
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::finding::LEAST_STROKES;
use crate::verdict::ledger::{CHOICE, Ledger};
use crate::verdict::standing::Question;
use crate::verdict::work::Work;
use crate::verdict::worth::{Job, in_words, worths_beside};

/// What to look for in a plastic.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct InPlastic {
    /// The plastic.
    pub plastic: Plastic,
    /// Its name.
    pub label: &'static str,
    /// Numbers that a fresh disc of it should have printed.
    pub printed: Numbers,
}

/// A disc to look for.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Specification {
    /// Numbers as thrown.
    pub numbers: Numbers,
    /// The slot.
    pub slot: Slot,
    /// Its name.
    pub slot_label: &'static str,
    /// Mass, g.
    pub mass_g: f64,
    /// Numbers to look for on a fresh disc, by plastic.
    pub plastics: Vec<InPlastic>,
    /// How far it flies flat at this arm's full controlled power, m.
    pub distance_m: f64,
    /// Where it finishes then, degrees, true left positive.
    pub finish_left_deg: f64,
    /// What it would save beside the bag and what stands before it here, strokes a round.
    pub saves_strokes: f64,
    /// The lines and winds in which it would be the one to throw, the dearest first.
    pub jobs: Vec<Job>,
    /// The same in words.
    pub words: String,
}

/// Discs between the most overstable and the most understable of a slot that are looked at: places in its family.
const PLACES: [f64; 7] = [-1.2, -0.8, -0.4, 0.0, 0.35, 0.65, 1.0];
/// Plastics that are told: one that starts less stable, one as printed, one that starts more stable.
const TOLD: [Plastic; 3] = [Plastic::Base, Plastic::MidGrade, Plastic::Premium];
/// Discs there could be: several places of every slot's family, to halves as numbers are printed.
fn imagined(stock: &Stock, ceiling: Option<f64>) -> Vec<Disc> {
    let mut known: Vec<Numbers> = Vec::new();
    let mut discs = Vec::new();
    for slot in PEGGED.into_iter().filter(|slot| stock.player.has_lane(*slot)) {
        for u in PLACES {
            let numbers = Numbers::from(family(slot, ceiling, u)).to_halves();
            if known.contains(&numbers) {
                continue;
            }
            known.push(numbers);
            let spec = DiscSpec { class: Some(slot), ..DiscSpec::plain("any maker", "any mould", numbers) };
            discs.push(Disc { id: DiscId(-(discs.len() as i64) - 1), spec });
        }
    }
    discs
}

fn in_plastics(numbers: Numbers) -> Vec<InPlastic> {
    TOLD.iter()
        .map(|&plastic| {
            let facts = plastic.facts();
            let printed =
                Numbers { turn: numbers.turn - facts.turn, fade: numbers.fade - facts.fade, ..numbers };
            let printed = printed.to_halves();
            InPlastic { plastic, label: facts.label, printed }
        })
        .collect()
}

/// The `most` discs to look for beside a bag, the one that saves most first, each beside those before it; fewer if nothing more is
/// worth it.
///
/// # Errors
/// [`BagError`] for a value outside its range, [`BagError::Stopped`] after `work` was stopped.
pub fn shopping(
    stock: &Stock,
    beside: &[DiscId],
    most: usize,
    memo: &Memo,
    work: &Work,
) -> Result<Vec<Specification>, BagError> {
    let player = stock.player;
    player.validate()?;
    let conditions = Conditions::default();
    let arm = Arm::of(player, &conditions)?;
    let imagined = imagined(stock, arm.ceiling);
    let mut discs: Vec<Disc> = stock.shelf.iter().filter(|d| beside.contains(&d.id)).cloned().collect();
    // Putts stay with the discs that are kept for them.
    discs.extend(imagined.iter().cloned());
    let all: Vec<Carried> = discs.iter().map(|d| Carried { disc_id: d.id, spare: false }).collect();
    let everything = BagSpec::of_everything();
    let lines = stock.lines;
    let q =
        Question { player, conditions, shelf: &discs, bag: &everything, carried: &all, lines, today: None };
    let ledger = Ledger::of(&q, &CHOICE, memo, work)?;
    let flown: Vec<(&Disc, bool)> = imagined.iter().map(|d| (d, false)).collect();
    let pucks = pucks(player, &arm, player.strong_style, arm.wind, &flown)?;
    let mut held = beside.to_vec();
    let mut found = Vec::new();
    while found.len() < most {
        let now = ledger.leaves(&ledger.columns(&held));
        let saves = |disc: &Disc| now - ledger.leaves(&ledger.columns(&[&held[..], &[disc.id]].concat()));
        let best = imagined
            .iter()
            .zip(&pucks)
            .filter(|(disc, _)| !held.contains(&disc.id))
            .map(|(disc, puck)| (saves(disc), disc, puck))
            .max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.id.cmp(&a.1.id)));
        let Some((saves_strokes, disc, puck)) = best.filter(|b| b.0 >= LEAST_STROKES) else { break };
        let worth = worths_beside(&ledger, lines, &discs, &held).into_iter().find(|w| w.disc_id == disc.id);
        let slot = disc.spec.slot();
        let jobs = worth.map_or(vec![], |w| w.jobs);
        found.push(Specification {
            numbers: disc.spec.printed,
            slot,
            slot_label: slot.label(),
            mass_g: USUAL_MASS_G,
            plastics: in_plastics(disc.spec.printed),
            distance_m: puck.distance_m,
            finish_left_deg: puck.finish_left_deg,
            saves_strokes,
            words: in_words(&jobs, ledger.weathers.len()),
            jobs,
        });
        held.push(disc.id);
    }
    Ok(found)
}
