//! The question that a judgement answers, and how a bag stands on a line.

use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::{Disc, DiscId, Use};
use crate::need::line::{Line, LineSpec};
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::verdict::carried::{BagSpec, Carried};

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
    /// The date, where the year ahead matters; without it nothing is foreseen.
    pub today: Option<Date>,
}

impl Question<'_> {
    /// Carried discs that are at hand and that the event lets the player throw.
    pub fn allowed(&self) -> Vec<DiscId> {
        let carried = self.carried.iter().map(|c| c.disc_id);
        let usable = |d: &Disc| self.bag.allows(&d.spec) && d.spec.keeping.status.is_at_hand();
        let within = |id: &DiscId| self.shelf.iter().any(|d| d.id == *id && usable(d));
        carried.filter(within).collect()
    }

    /// What of that is thrown on a line.
    pub fn in_hand(&self, line: &LineSpec) -> Vec<&Disc> {
        let allowed = self.allowed();
        let apart = PuttersApart::on(self.shelf);
        let thrown = |d: &&Disc| allowed.contains(&d.id) && apart.answers_line(d, line);
        self.shelf.iter().filter(thrown).collect()
    }
}

/// Whether the player keeps discs for putting: putts are then made with these, and with nothing that is thrown.
#[derive(Debug, Clone, Copy)]
pub struct PuttersApart(bool);

impl PuttersApart {
    /// Whether there is one at hand among some discs.
    pub fn on<'a>(discs: impl IntoIterator<Item = &'a Disc>) -> PuttersApart {
        let putts = |d: &Disc| d.spec.used_for == Use::Putting && d.spec.keeping.status.is_at_hand();
        PuttersApart(discs.into_iter().any(putts))
    }

    /// Whether a disc is asked in a style.
    pub fn answers(self, disc: &Disc, style: Style) -> bool {
        let is_kept_out = self.0 && style == Style::Putt && disc.spec.used_for != Use::Putting;
        disc.spec.answers(style) && !is_kept_out
    }

    /// Whether a disc is thrown on a line: in its style, and where it may be lost only if its player can do without it.
    pub fn answers_line(self, disc: &Disc, line: &LineSpec) -> bool {
        self.answers(disc, line.style) && !(disc.spec.keeping.is_dear() && line.spares_dear())
    }
}

/// One disc on one line.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Cell {
    /// The disc.
    pub disc_id: DiscId,
    /// Its chance, 0 to 1; on a line with ground that costs more than a miss what the chance is worth, that taken off.
    pub chance: f64,
}

/// How the bag stands on a line over the season, against what can be had.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Standing {
    /// At least two carried discs do about as well as any disc could, or nothing does clearly better.
    Made,
    /// Only one does.
    Thin,
    /// None does, and some disc would do clearly better.
    Gap,
    /// No disc reaches it at this arm.
    BeyondArm,
    /// Switched off.
    Off,
}

/// A line today.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LineVerdict {
    /// The line, as it is asked today.
    pub line: Line,
    /// The best carried disc.
    pub best: Option<Cell>,
    /// The next.
    pub second: Option<Cell>,
    /// What the bag leaves on it in a round on such a day, strokes.
    pub leaves_strokes: f64,
}

/// Puts the best first, and leaves out what never makes it.
pub(crate) fn best_first(cells: &mut Vec<Cell>) {
    cells.retain(|c| c.chance > 0.0);
    cells.sort_by(|a, b| b.chance.total_cmp(&a.chance).then(a.disc_id.cmp(&b.disc_id)));
}
