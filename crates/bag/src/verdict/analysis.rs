//! The judgement for today: the best of the bag on every line in the weather of the day.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::asked;
use crate::chance::memo::Memo;
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::arm::Arm;
use crate::verdict::board::{Board, board};
use crate::verdict::ledger::total;
use crate::verdict::sieve::{Entrant, On};
use crate::verdict::standing::{LineVerdict, PuttersApart, Question};
use crate::verdict::work::Work;

/// The judgement for today.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Analysis {
    /// What the bag leaves on its lines in a round on such a day, strokes.
    pub leaves_strokes: f64,
    /// Every line.
    pub lines: Vec<LineVerdict>,
    /// The board it was judged on.
    pub board: Board,
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
    // What the event's rules keep out of the hand has no turn.
    let allowed = q.allowed();
    let in_hand = q.shelf.iter().filter(|d| allowed.contains(&d.id));
    let apart = PuttersApart::on(q.shelf);
    let in_hand: Vec<Entrant> = in_hand.map(|d| Entrant::of(d, apart)).collect::<Result<_, BagError>>()?;
    let lines: Vec<LineVerdict> = q
        .lines
        .par_iter()
        .map(|line| {
            let spec = asked(line, &arm).into_owned();
            let idle = !line.enabled || work.is_stopped();
            let ranked = if idle { vec![] } else { On { arm: &arm, spec: &spec, memo }.best(&in_hand, 2) };
            let (best, second) = (ranked.first().copied(), ranked.get(1).copied());
            let missed = 1.0 - best.map_or(0.0, |b| b.chance);
            let leaves_strokes =
                if line.enabled { spec.weight * spec.strokes_of_a_miss() * missed } else { 0.0 };
            LineVerdict { line: Line { spec, ..line.clone() }, best, second, leaves_strokes }
        })
        .collect();
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    Ok(Analysis { leaves_strokes: total(lines.iter().map(|l| l.leaves_strokes)), lines, board })
}
