//! What everything that looks for faults looks at, and the measuring of a change.

use crate::disc::spec::{Disc, DiscId, Use};
use crate::need::peg::Peg;
use crate::thrower::slot::Slot;
use crate::verdict::aging::PegHole;
use crate::verdict::board::{Board, Puck};
use crate::verdict::finding::{Action, LEAST_STROKES};
use crate::verdict::ledger::Ledger;
use crate::verdict::school::Policy;
use crate::verdict::season::SeasonLine;
use crate::verdict::standing::Question;
use crate::verdict::worth::Worth;
use crate::words::strokes;

/// What all finders look at.
pub(crate) struct Scene<'a> {
    pub q: &'a Question<'a>,
    pub ledger: &'a Ledger,
    pub lines: &'a [SeasonLine],
    pub worths: &'a [Worth],
    /// The bag as it lies on a usual, calm day.
    pub board: &'a Board,
    /// Every shelf disc as a puck on such a day, and as it would fly unworn.
    pub shelf_pucks: &'a [Puck],
    pub fresh_pucks: &'a [Puck],
    /// What the player's policy says of them.
    pub policy: Policy,
    /// What counts: carried, allowed, and no more than the bag holds.
    pub counted: &'a [DiscId],
    /// Carried discs that leave their peg within the year and need a copy begun now.
    pub leaving: &'a [PegHole],
}

/// A change of the bag and what it was measured to save, strokes.
pub(crate) struct Change {
    pub action: Action,
    /// What comes, and for what: "Sextant", "Sextant for Teasel".
    what: String,
    pub saves: f64,
    /// What the player's policy takes off in it: moulds and discs that the school would rather not have.
    policy: f64,
}

/// Less is not told, in strokes: half of what a finding must save.
const TOLD: f64 = 0.5 * LEAST_STROKES;

impl Change {
    /// What its button says.
    pub(crate) fn label(&self) -> String {
        format!("Carry {}", self.what)
    }

    /// The act as the subject of a sentence.
    pub(crate) fn doing(&self) -> String {
        format!("carrying {}", self.what)
    }

    /// What it saves, in words that end a sentence.
    pub(crate) fn told(&self) -> String {
        let (saves, policy) = (strokes(self.saves), strokes(self.policy.abs()));
        match self.policy {
            p if p >= TOLD => format!("saves {saves} a round, after {policy} for your school and moulds"),
            p if p <= -TOLD => format!("saves {saves} a round, {policy} of it by your school and moulds"),
            _ => format!("saves {saves} a round"),
        }
    }
}

impl Scene<'_> {
    pub(crate) fn carried(&self, id: DiscId) -> bool {
        self.q.carried.iter().any(|c| c.disc_id == id)
    }

    pub(crate) fn disc(&self, id: DiscId) -> Option<&Disc> {
        self.q.shelf.iter().find(|d| d.id == id)
    }

    pub(crate) fn lane(&self, disc: &Disc) -> Slot {
        self.q.player.lane(disc.spec.slot())
    }

    pub(crate) fn name(&self, id: DiscId) -> &str {
        self.disc(id).map_or("a disc", |d| &d.spec.name)
    }

    pub(crate) fn is_spare(&self, id: DiscId) -> bool {
        self.q.carried.iter().any(|c| c.disc_id == id && c.spare)
    }

    pub(crate) fn puck(&self, id: DiscId) -> Option<&Puck> {
        self.shelf_pucks.iter().find(|p| p.disc_id == id)
    }

    pub(crate) fn peg(&self, id: DiscId) -> Option<Peg> {
        self.puck(id).and_then(|p| p.peg)
    }

    /// Discs on the shelf that could be carried.
    pub(crate) fn bench(&self) -> impl Iterator<Item = &Disc> {
        let free = |d: &&Disc| !self.carried(d.id) && d.spec.used_for != Use::Utility;
        let at_hand = |d: &&Disc| d.spec.keeping.status.is_at_hand() && self.q.bag.allows(&d.spec);
        let suits = |d: &&Disc| !self.policy.refuses(d.id);
        self.q.shelf.iter().filter(free).filter(at_hand).filter(suits)
    }

    /// What the bag would leave after a change, against what it leaves now: strokes saved, negative if it leaves more; what
    /// the player's policy takes off is taken off.
    pub(crate) fn saves(&self, carry: Option<DiscId>, bench: Option<DiscId>) -> f64 {
        let after = self.after(carry, bench);
        let leaves = |ids: &[DiscId]| self.ledger.leaves(&self.ledger.columns(ids));
        leaves(self.counted) - leaves(&after) - self.policy.changes_by(&after)
    }

    fn after(&self, carry: Option<DiscId>, bench: Option<DiscId>) -> Vec<DiscId> {
        self.counted.iter().copied().filter(|id| Some(*id) != bench).chain(carry).collect()
    }

    fn change(&self, action: Action, what: String, saves: f64) -> Change {
        let (carry, bench) = action.moves();
        Change { policy: self.policy.changes_by(&self.after(carry, bench)), action, what, saves }
    }

    pub(crate) fn is_full(&self) -> bool {
        self.q.carried.len() as u32 >= self.q.bag.capacity
    }

    /// Whether a disc may go when another (if any) comes: not the last of its slot, nor the last on a peg that is wanted.
    pub(crate) fn may_go(&self, bench: DiscId, carry: Option<DiscId>) -> bool {
        let Some(disc) = self.disc(bench) else { return false };
        let slot = self.lane(disc);
        let comes = carry.and_then(|id| self.disc(id));
        let stays = |d: &&Disc| d.id != bench && self.carried(d.id) && self.lane(d) == slot;
        let others: Vec<&Disc> =
            self.q.shelf.iter().filter(stays).chain(comes.filter(|d| self.lane(d) == slot)).collect();
        let putts = |d: &&Disc| d.spec.used_for == Use::Putting;
        if others.is_empty() || (putts(&disc) && !others.iter().any(putts)) {
            return false;
        }
        let Some(peg) = self.peg(bench) else { return true };
        !self.is_wanted(slot, peg) || others.iter().any(|d| self.peg(d.id) == Some(peg))
    }

    pub(crate) fn is_wanted(&self, slot: Slot, peg: Peg) -> bool {
        let lanes = self.board.lanes.iter().filter(|l| l.slot == slot);
        lanes.flat_map(|l| &l.sockets).any(|s| s.peg == peg && s.wanted)
    }

    /// Carrying a disc: where the bag is full in exchange for the disc whose going costs least. Discs that are `taken` by
    /// other findings stay where they are.
    pub(crate) fn carrying(&self, carry: DiscId, taken: &[DiscId]) -> Option<Change> {
        if !self.is_full() {
            let (what, saves) = (self.name(carry).to_owned(), self.saves(Some(carry), None));
            return Some(self.change(Action::Carry { disc_id: carry }, what, saves));
        }
        let free = |id: &DiscId| !taken.contains(id) && self.may_go(*id, Some(carry));
        let goes = self.q.carried.iter().map(|c| c.disc_id).filter(free);
        goes.map(|bench| (bench, self.saves(Some(carry), Some(bench))))
            .max_by(|a, b| a.1.total_cmp(&b.1))
            .map(|(bench, saves)| self.swap(carry, bench, saves))
    }

    fn swap(&self, carry: DiscId, bench: DiscId, saves: f64) -> Change {
        let what = format!("{} for {}", self.name(carry), self.name(bench));
        self.change(Action::Swap { carry, bench }, what, saves)
    }

    /// The best disc to come for one that goes.
    pub(crate) fn exchanging(&self, bench: DiscId, taken: &[DiscId]) -> Option<Change> {
        self.bench()
            .filter(|d| !taken.contains(&d.id))
            .filter(|d| self.may_go(bench, Some(d.id)))
            .map(|d| (d.id, self.saves(Some(d.id), Some(bench))))
            .max_by(|a, b| a.1.total_cmp(&b.1))
            .map(|(carry, saves)| self.swap(carry, bench, saves))
    }
}
