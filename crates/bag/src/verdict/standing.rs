//! How a bag stands on its lines, and what each disc in it is worth.

use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::disc::spec::{Disc, DiscId};
use crate::need::line::{Line, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::gap::{Ideal, ideal};
use crate::words::percent;

/// Chance from which a disc counts as making a line. Own judgement: more often than not; of putts, which are thrown at once
/// again from under the basket, one of three.
pub fn makes(line: &LineSpec) -> f64 {
    if line.style == Style::Putt { 1.0 / 3.0 } else { 0.5 }
}

/// Everything the judgement reads.
pub struct Question<'a> {
    /// The thrower.
    pub player: &'a Player,
    /// Today.
    pub conditions: Conditions,
    /// Every disc owned.
    pub shelf: &'a [Disc],
    /// The bag.
    pub bag: &'a BagSpec,
    /// What is in it.
    pub carried: &'a [Carried],
    /// The lines, switched off ones included.
    pub lines: &'a [Line],
}

/// One disc on one line.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Cell {
    /// The disc.
    pub disc_id: DiscId,
    /// Its chance, 0 to 1.
    pub chance: f64,
}

/// How the bag stands on a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Standing {
    /// At least two carried discs make it.
    Made,
    /// Only one does.
    Thin,
    /// None does, but some disc could.
    Gap,
    /// No disc could with this arm.
    BeyondArm,
    /// Switched off.
    Off,
}

/// A line with the bag's answer to it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LineVerdict {
    /// The line.
    pub line: Line,
    /// How the bag stands.
    pub standing: Standing,
    /// Chance of every carried disc, in the order of [`Analysis::disc_ids`].
    pub cells: Vec<Cell>,
    /// The best carried disc, if any has a chance at all.
    pub best: Option<Cell>,
    /// The second best.
    pub second: Option<Cell>,
    /// Where no carried disc makes it: the best disc there could be.
    pub ideal: Option<Ideal>,
    /// The standing in words with figures.
    pub reason: String,
}

/// What a carried disc is worth to the bag.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Worth {
    /// The disc.
    pub disc_id: DiscId,
    /// Fall of the bag's weighted best chance without it, 0 to 1.
    pub worth: f64,
    /// Keys of the lines on which it is the best carried disc.
    pub best_on: Vec<String>,
    /// Whether it makes any line.
    pub answers: bool,
}

/// Chances of some discs on some lines: `rows[line][disc]`.
pub struct Table {
    /// The discs, in the order of the columns.
    pub disc_ids: Vec<DiscId>,
    /// Weight of each line, zero if it is switched off.
    pub weights: Vec<f64>,
    /// Chances, a row per line.
    pub rows: Vec<Vec<f64>>,
}

impl Table {
    /// Column of a disc.
    pub fn column(&self, id: DiscId) -> Option<usize> {
        self.disc_ids.iter().position(|d| *d == id)
    }

    /// Weighted mean over the lines of the best chance among the discs for which `counts` holds.
    pub fn score(&self, counts: impl Fn(DiscId) -> bool) -> f64 {
        let total: f64 = self.weights.iter().sum();
        if total <= 0.0 {
            return 0.0;
        }
        let best = |row: &Vec<f64>| {
            let among = self.disc_ids.iter().zip(row).filter(|(id, _)| counts(**id));
            among.map(|(_, c)| *c).fold(0.0, f64::max)
        };
        self.rows.iter().zip(&self.weights).map(|(row, w)| w * best(row)).sum::<f64>() / total
    }
}

/// Judges one line from its row.
pub(crate) fn verdict(line: &Line, cells: Vec<Cell>, shelf: &[Disc], arm: &Arm, memo: &Memo) -> LineVerdict {
    let mut ranked: Vec<Cell> = cells.iter().filter(|c| c.chance > 0.0).cloned().collect();
    ranked.sort_by(|a, b| b.chance.total_cmp(&a.chance));
    let name =
        |c: &Cell| shelf.iter().find(|d| d.id == c.disc_id).map_or_else(String::new, |d| d.spec.name.clone());
    let enough = makes(&line.spec);
    let makers = ranked.iter().filter(|c| c.chance >= enough).count();
    let (best, second) = (ranked.first().cloned(), ranked.get(1).cloned());
    let ideal = (line.enabled && makers == 0).then(|| ideal(arm, &line.spec, memo)).flatten();
    let best_words = best.as_ref().map_or_else(
        || "no carried disc reaches it".to_owned(),
        |c| format!("best is {} at {}", name(c), percent(c.chance)),
    );
    let (standing, reason) = match (line.enabled, makers, &ideal, &best) {
        (false, ..) => (Standing::Off, "switched off".to_owned()),
        (true, 0, Some(i), _) if i.chance >= enough => (
            Standing::Gap,
            format!(
                "{best_words}; a disc flying like {} would make it {}",
                numbers_in_words(i),
                percent(i.chance)
            ),
        ),
        (true, 0, i, _) => (
            Standing::BeyondArm,
            format!(
                "{best_words}; even the ideal disc makes it only {}",
                // The lattice is coarse: a carried disc can do a little better than all of it.
                percent(i.as_ref().map_or(0.0, |i| i.chance).max(best.as_ref().map_or(0.0, |b| b.chance)))
            ),
        ),
        (true, 1, ..) => (
            Standing::Thin,
            format!(
                "only {}; next is {}",
                best_words.trim_start_matches("best is "),
                second.as_ref().map_or("none".into(), |c| format!("{} at {}", name(c), percent(c.chance)))
            ),
        ),
        (true, n, ..) => (Standing::Made, format!("{best_words}; {n} discs make it")),
    };
    LineVerdict { line: line.clone(), standing, cells, best, second, ideal, reason }
}

/// Numbers of an ideal disc in the order they are printed.
pub fn numbers_in_words(ideal: &Ideal) -> String {
    let n = ideal.numbers;
    format!("{} / {} / {} / {}", n.speed, n.glide, n.turn, n.fade).replace('-', "−")
}

/// What every carried disc is worth.
pub(crate) fn worths(table: &Table, verdicts: &[LineVerdict], carried: &[DiscId]) -> Vec<Worth> {
    let in_bag = |id: DiscId| carried.contains(&id);
    let whole = table.score(in_bag);
    carried
        .iter()
        .map(|&disc_id| Worth {
            disc_id,
            worth: whole - table.score(|id| in_bag(id) && id != disc_id),
            best_on: verdicts
                .iter()
                .filter(|v| v.best.as_ref().is_some_and(|b| b.disc_id == disc_id))
                .map(|v| v.line.key.clone())
                .collect(),
            answers: verdicts
                .iter()
                .any(|v| v.cells.iter().any(|c| c.disc_id == disc_id && c.chance >= makes(&v.line.spec))),
        })
        .collect()
}
