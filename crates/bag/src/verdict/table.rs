//! The whole table for today: every carried disc on every line, each worked out in full.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::asked;
use crate::chance::memo::Memo;
use crate::chance::search::chance;
use crate::disc::spec::{Disc, DiscId};
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::arm::Arm;
use crate::verdict::sieve::Entrant;
use crate::verdict::standing::{Cell, PuttersApart, Question, best_first};
use crate::verdict::work::Work;

/// Every carried disc on every line today.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Table {
    /// Carried discs, slow to fast: the columns.
    pub disc_ids: Vec<DiscId>,
    /// Every line.
    pub rows: Vec<TableRow>,
}

/// A line of the table.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TableRow {
    /// Key of the line.
    pub line_key: String,
    /// Every carried disc in the order of the columns; chance 0 on a line that is switched off or that the disc is not for.
    pub cells: Vec<Cell>,
    /// The best disc that the event lets the player throw.
    pub best: Option<Cell>,
    /// The next.
    pub second: Option<Cell>,
}

/// Discs slow to fast.
pub(crate) fn slow_to_fast(discs: &mut [&Disc]) {
    discs.sort_by(|a, b| a.spec.printed.speed.total_cmp(&b.spec.printed.speed).then_with(|| a.id.cmp(&b.id)));
}

/// Works the table out. A disc over the event's cap has its chances too. Another thread may stop `work`; what was worked out
/// until then stays in `memo`.
///
/// # Errors
/// [`BagError`] for a player, disc, line or conditions outside their ranges, [`BagError::Stopped`] after it was stopped.
pub fn table(q: &Question, memo: &Memo, work: &Work) -> Result<Table, BagError> {
    let arm = Arm::of(q.player, &q.conditions)?;
    for line in q.lines {
        line.spec.validate()?;
    }
    let mut discs: Vec<&Disc> =
        q.shelf.iter().filter(|d| q.carried.iter().any(|c| c.disc_id == d.id)).collect();
    slow_to_fast(&mut discs);
    let apart = PuttersApart::on(q.shelf);
    let entrants: Vec<Entrant> =
        discs.iter().map(|d| Entrant::of(d, apart)).collect::<Result<_, BagError>>()?;
    let allowed = q.allowed();
    let row = |line: &Line| {
        let spec = asked(line, &arm);
        let of = |d: &Entrant| {
            let idle = !line.enabled || !d.answers(&spec) || work.is_stopped();
            let chance = if idle { 0.0 } else { chance(&arm, d.thrown, &spec, memo).worth };
            Cell { disc_id: d.id, chance }
        };
        let cells: Vec<Cell> = entrants.par_iter().map(of).collect();
        let mut in_hand: Vec<Cell> = cells.iter().filter(|c| allowed.contains(&c.disc_id)).copied().collect();
        best_first(&mut in_hand);
        let (best, second) = (in_hand.first().copied(), in_hand.get(1).copied());
        TableRow { line_key: line.key.clone(), cells, best, second }
    };
    let rows = q.lines.par_iter().map(row).collect();
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    Ok(Table { disc_ids: discs.iter().map(|d| d.id).collect(), rows })
}
