//! What everything that looks for faults in a bag looks at.

use crate::disc::spec::{Disc, DiscId, Use};
use crate::need::peg::Peg;
use crate::thrower::slot::Slot;
use crate::verdict::board::{Board, Puck};
use crate::verdict::finding::Action;
use crate::verdict::standing::{LineVerdict, Question, Table, Worth};

/// What all finders look at.
pub(crate) struct Scene<'a> {
    pub q: &'a Question<'a>,
    pub board: &'a Board,
    pub table: &'a Table,
    pub verdicts: &'a [LineVerdict],
    pub worths: &'a [Worth],
    /// Every shelf disc as a puck, thrown like those on the board.
    pub shelf_pucks: Vec<Puck>,
    /// Every shelf disc as it would fly unworn.
    pub fresh_pucks: Vec<Puck>,
}

impl Scene<'_> {
    pub(crate) fn carried(&self, id: DiscId) -> bool {
        self.q.carried.iter().any(|c| c.disc_id == id)
    }

    pub(crate) fn disc(&self, id: DiscId) -> Option<&Disc> {
        self.q.shelf.iter().find(|d| d.id == id)
    }

    pub(crate) fn name(&self, id: DiscId) -> &str {
        self.disc(id).map_or("a disc", |d| &d.spec.name)
    }

    pub(crate) fn within_cap(&self, disc: &Disc) -> bool {
        self.q.bag.event_cap_g.is_none_or(|cap| disc.spec.mass_g <= cap)
    }

    /// Discs on the shelf that could be carried.
    pub(crate) fn bench(&self) -> impl Iterator<Item = &Disc> {
        self.q
            .shelf
            .iter()
            .filter(|d| !self.carried(d.id) && d.spec.used_for == Use::Throwing && self.within_cap(d))
    }

    pub(crate) fn score_with(&self, carry: Option<DiscId>, bench: Option<DiscId>) -> f64 {
        self.table.score(|id| (self.carried(id) || Some(id) == carry) && Some(id) != bench)
    }

    pub(crate) fn gain(&self, carry: Option<DiscId>, bench: Option<DiscId>) -> f64 {
        self.score_with(carry, bench) - self.score_with(None, None)
    }

    /// A share of what one place in the bag stands for: the bag's best chance divided by its discs. A peg left empty
    /// or a place taken by a disc that adds nothing costs such a share beyond what the lines show.
    pub(crate) fn place(&self, share: f64) -> f64 {
        share * self.score_with(None, None) / self.q.carried.len().max(1) as f64
    }

    pub(crate) fn worth(&self, id: DiscId) -> f64 {
        self.worths.iter().find(|w| w.disc_id == id).map_or(0.0, |w| w.worth)
    }

    /// Carry a disc; where the bag is full, in exchange for the carried disc that is missed least.
    pub(crate) fn carry(&self, id: DiscId) -> (Action, String) {
        let name = self.name(id);
        if (self.q.carried.len() as u32) < self.q.bag.capacity {
            return (Action::Carry { disc_id: id }, format!("Carry {name}"));
        }
        let least = self.worths.iter().min_by(|a, b| a.worth.total_cmp(&b.worth));
        match least {
            Some(w) => (
                Action::Swap { carry: id, bench: w.disc_id },
                format!("Carry {name} for {}", self.name(w.disc_id)),
            ),
            None => (Action::Carry { disc_id: id }, format!("Carry {name}")),
        }
    }

    pub(crate) fn chance(&self, verdict: &LineVerdict, id: DiscId) -> f64 {
        let row = self.verdicts.iter().position(|v| v.line.key == verdict.line.key);
        row.and_then(|r| Some(self.table.rows[r][self.table.column(id)?])).unwrap_or(0.0)
    }

    /// How nearly one disc does another's job: 2 for the same mould on the same peg, 1 for the same peg.
    pub(crate) fn likeness(&self, a: &Disc, b: &Disc) -> u8 {
        let peg = |d: &Disc| self.shelf_pucks.iter().find(|p| p.disc_id == d.id).and_then(|p| p.peg);
        match (peg(a) == peg(b), a.spec.mould == b.spec.mould) {
            (true, true) => 2,
            (true, false) => 1,
            (false, _) => 0,
        }
    }

    pub(crate) fn peg_is_empty(&self, slot: Slot, peg: Peg) -> bool {
        self.board
            .lanes
            .iter()
            .any(|l| l.slot == slot && l.sockets.iter().any(|s| s.peg == peg && s.disc_ids.is_empty()))
    }
}
