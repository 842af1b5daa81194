//! The whole judgement of a bag: chances on every line, gaps, twins, worths and what to fix first.

use std::sync::atomic::{AtomicBool, Ordering};

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::chance::search::chance;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::thrown::Thrown;
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::arm::Arm;
use crate::verdict::board::{Board, board};
use crate::verdict::finding::Finding;
use crate::verdict::fix::findings;
use crate::verdict::standing::{Cell, LineVerdict, Question, Table, Worth, verdict, worths};

/// The judgement.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Analysis {
    /// Weighted mean over the lines of the best carried chance, 0 to 1.
    pub score: f64,
    /// Carried discs in the order of the table, slow to fast.
    pub disc_ids: Vec<DiscId>,
    /// Every line.
    pub lines: Vec<LineVerdict>,
    /// Every carried disc.
    pub worths: Vec<Worth>,
    /// What to fix, in order of worth, at most seven.
    pub findings: Vec<Finding>,
    /// The board it was judged on.
    pub board: Board,
}

fn table(
    arm: &Arm,
    discs: &[&Disc],
    lines: &[Line],
    memo: &Memo,
    stop: &AtomicBool,
) -> Result<Table, BagError> {
    let bodies: Vec<_> =
        discs.iter().map(|d| Ok((thrown(d)?, d.spec.used_for))).collect::<Result<_, BagError>>()?;
    let rows = lines
        .par_iter()
        .map(|line| {
            if !line.enabled {
                return vec![0.0; bodies.len()];
            }
            let of = |(t, used_for): &(Thrown, Use)| {
                let idle = !used_for.answers(line.spec.style) || stop.load(Ordering::Relaxed);
                if idle { 0.0 } else { chance(arm, *t, &line.spec, memo).chance }
            };
            bodies.par_iter().map(of).collect()
        })
        .collect();
    Ok(Table {
        disc_ids: discs.iter().map(|d| d.id).collect(),
        weights: lines.iter().map(|l| if l.enabled { l.spec.weight } else { 0.0 }).collect(),
        rows,
    })
}

/// Judges the bag. Another thread may set `stop` when nobody waits for the answer any more; what was worked out until
/// then stays in `memo`.
///
/// # Errors
/// [`BagError`] for a player, disc, line or conditions outside their ranges, [`BagError::Stopped`] after `stop`.
pub fn analyse(q: &Question, memo: &Memo, stop: &AtomicBool) -> Result<Analysis, BagError> {
    let arm = Arm::of(q.player, &q.conditions)?;
    for line in q.lines {
        line.spec.validate()?;
    }
    let board = board(q.player, &q.conditions, None, q.shelf, q.carried)?;
    let mut discs: Vec<&Disc> = q.shelf.iter().collect();
    discs.sort_by(|a, b| {
        (a.spec.printed.speed, a.id)
            .partial_cmp(&(b.spec.printed.speed, b.id))
            .unwrap_or(std::cmp::Ordering::Equal)
    });
    let table = table(&arm, &discs, q.lines, memo, stop)?;
    if stop.load(Ordering::Relaxed) {
        return Err(BagError::Stopped);
    }
    let carried: Vec<DiscId> =
        table.disc_ids.iter().copied().filter(|id| q.carried.iter().any(|c| c.disc_id == *id)).collect();
    let verdicts: Vec<LineVerdict> = q
        .lines
        .par_iter()
        .zip(&table.rows)
        .map(|(line, row)| {
            let cells = carried
                .iter()
                .filter_map(|id| Some(Cell { disc_id: *id, chance: row[table.column(*id)?] }))
                .collect();
            verdict(line, cells, q.shelf, &arm, memo)
        })
        .collect();
    let worths = worths(&table, &verdicts, &carried);
    let findings = findings(q, &arm, &board, &table, &verdicts, &worths)?;
    Ok(Analysis {
        score: table.score(|id| carried.contains(&id)),
        disc_ids: carried,
        lines: verdicts,
        worths,
        findings,
        board,
    })
}
