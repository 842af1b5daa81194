//! The judgement for today: every carried disc on every line in the weather of the day.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::asked;
use crate::chance::memo::Memo;
use crate::chance::search::chance;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::arm::Arm;
use crate::verdict::board::{Board, board};
use crate::verdict::ledger::total;
use crate::verdict::standing::{Cell, LineVerdict, Question, ranked};
use crate::verdict::work::Work;

/// The judgement for today.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Analysis {
    /// What the bag leaves on its lines in a round on such a day, strokes.
    pub leaves_strokes: f64,
    /// Carried discs in the order of the table, slow to fast.
    pub disc_ids: Vec<DiscId>,
    /// Every line.
    pub lines: Vec<LineVerdict>,
    /// The board it was judged on.
    pub board: Board,
}

/// Discs slow to fast.
pub(crate) fn slow_to_fast(discs: &mut [&Disc]) {
    discs.sort_by(|a, b| a.spec.printed.speed.total_cmp(&b.spec.printed.speed).then_with(|| a.id.cmp(&b.id)));
}

/// Judges the bag for today. Another thread may stop `work` when nobody waits for the answer any more; what was worked out
/// until then stays in `memo`.
///
/// # Errors
/// [`BagError`] for a player, disc, line or conditions outside their ranges, [`BagError::Stopped`] after it was stopped.
pub fn analyse(q: &Question, memo: &Memo, work: &Work) -> Result<Analysis, BagError> {
    let arm = Arm::of(q.player, &q.conditions)?;
    for line in q.lines {
        line.spec.validate()?;
    }
    let board = board(q.player, &q.conditions, None, q.shelf, q.carried)?;
    let mut discs: Vec<&Disc> =
        q.shelf.iter().filter(|d| q.carried.iter().any(|c| c.disc_id == d.id)).collect();
    slow_to_fast(&mut discs);
    let bodies: Vec<(DiscId, Thrown, Use)> =
        discs.iter().map(|d| Ok((d.id, thrown(d)?, d.spec.used_for))).collect::<Result<_, BagError>>()?;
    let allowed = q.allowed();
    let lines: Vec<LineVerdict> = q
        .lines
        .par_iter()
        .map(|line| {
            let spec = asked(line, &arm).into_owned();
            let of = |(disc_id, t, used_for): &(DiscId, Thrown, Use)| {
                let idle = !line.enabled || !used_for.answers(spec.style) || work.is_stopped();
                let chance = if idle { 0.0 } else { chance(&arm, *t, &spec, memo).chance };
                Cell { disc_id: *disc_id, chance }
            };
            let cells: Vec<Cell> = bodies.par_iter().map(of).collect();
            // What the event's rules keep out of the hand has a chance and no turn.
            let in_hand: Vec<Cell> = cells.iter().filter(|c| allowed.contains(&c.disc_id)).copied().collect();
            let (best, second) = ranked(&in_hand);
            let missed = 1.0 - best.map_or(0.0, |b| b.chance);
            let leaves_strokes =
                if line.enabled { spec.weight * spec.strokes_of_a_miss() * missed } else { 0.0 };
            LineVerdict { line: Line { spec, ..line.clone() }, cells, best, second, leaves_strokes }
        })
        .collect();
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    Ok(Analysis {
        leaves_strokes: total(lines.iter().map(|l| l.leaves_strokes)),
        disc_ids: discs.iter().map(|d| d.id).collect(),
        lines,
        board,
    })
}
