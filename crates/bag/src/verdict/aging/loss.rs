//! What the bag loses: where a disc leaves its peg, and where one is lost today.

use std::collections::HashMap;

use jiff::ToSpan;
use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::disc::spec::{Disc, DiscId, DiscSpec, Use};
use crate::error::BagError;
use crate::thrower::calendar::days;
use crate::verdict::aging::forecast::{Leaving, Wearing};
use crate::verdict::aging::outlook::Year;
use crate::verdict::aging::ready::{Successor, Takes};
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::ledger::{Ledger, VERDICT};
use crate::verdict::school::mould_of;
use crate::verdict::standing::Question;
use crate::verdict::work::Work;
use crate::words::{month, span, strokes};

/// How far ahead the year looks, months.
pub(super) const MONTHS_AHEAD: i64 = 12;

/// A peg that a carried disc leaves within the year.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PegHole {
    /// The disc that leaves.
    pub disc_id: DiscId,
    /// When, and which peg for which.
    pub leaving: Leaving,
    /// What the bag leaves more in a round a year after that, if nothing takes its place, strokes.
    pub strokes: f64,
    /// What of that is saved by who takes its place, strokes; a fresh copy, worn in, does what the disc does today.
    pub saves_strokes: f64,
    /// Who takes its place.
    pub successor: Successor,
    /// When that has to be begun to be ready in time; in the past if it is late.
    #[schema(value_type = Option<String>, format = Date)]
    pub begin_by: Option<Date>,
    /// All of it in words.
    pub words: String,
}

/// What follows if a carried disc is lost today.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct IfLost {
    /// The disc.
    pub disc_id: DiscId,
    /// What the bag leaves more in a round without it, strokes.
    pub strokes: f64,
    /// The copy that takes its place.
    pub successor: Successor,
    /// What is still lost in a round with that copy as it is today, strokes.
    pub successor_strokes: f64,
    /// The disc of the shelf, of whatever mould, that makes up for most of it at once.
    pub instead: Option<DiscId>,
    /// What is still lost in a round with that, beside what it would save in any case, strokes.
    pub instead_strokes: f64,
    /// All of it in words.
    pub words: String,
}

/// A new disc is on trial for a month before it is relied on. Common practice, no source.
const TRIAL_DAYS: i64 = 31;
/// A copy that has to be begun within so many days is to be begun now. Own judgement.
const SOON_DAYS: i64 = 31;

impl PegHole {
    /// Whether something has to be begun about now: nothing is ready or under way, and wearing a copy in takes until then.
    pub(crate) fn is_due(&self, today: Date) -> bool {
        let soon = today.saturating_add(jiff::Span::new().days(SOON_DAYS));
        self.begin_by.is_some_and(|begin| begin <= soon)
    }
}

/// Pegs that carried discs leave within the year, not yet with what that costs.
pub(crate) fn holes(year: &Year<'_>) -> Vec<PegHole> {
    let hole = |disc: &Wearing<'_>| {
        let leaving = disc.leaving(year.today)?;
        let on = leaving.on.filter(|on| *on <= year.until)?;
        let successor = year.successor(disc, leaving.from, on);
        let begin_by = match successor.takes {
            Takes::Start | Takes::Buy => successor.ready_on.map(|ready| {
                let known = if successor.takes == Takes::Buy { TRIAL_DAYS } else { 0 };
                on.saturating_sub((days(year.today, ready) as i64 + known).days())
            }),
            _ => None,
        };
        Some(PegHole {
            saves_strokes: 0.0,
            disc_id: disc.disc.id,
            leaving,
            strokes: 0.0,
            successor,
            begin_by,
            words: String::new(),
        })
    };
    year.all().iter().filter(|w| w.is_carried).filter_map(hole).collect()
}

impl Year<'_> {
    /// Puts the price and the words to some holes: what the bag leaves with each of their discs as worn as a year after it has left
    /// its peg.
    ///
    /// # Errors
    /// [`BagError::Stopped`] after it was stopped.
    pub(crate) fn price(&self, holes: &mut [PegHole], memo: &Memo, work: &Work) -> Result<(), BagError> {
        if holes.is_empty() {
            return Ok(());
        }
        let now = self.leaves_with(None, memo, work)?;
        let loses_with = |gone: DiscId, comes: &DiscSpec| -> Result<f64, BagError> {
            Ok(self.leaves_with(Some((gone, comes)), memo, work)? - now)
        };
        for hole in holes {
            let (Some(wearing), Some(on)) = (self.get(hole.disc_id), hole.leaving.on) else { continue };
            let year_on = on.saturating_add(MONTHS_AHEAD.months());
            let worn = wearing.disc.spec.worn_to(wearing.share_on(self.today, year_on));
            hole.strokes = loses_with(hole.disc_id, &worn)?;
            let ready = hole.successor.disc_id.filter(|_| hole.successor.takes == Takes::Ready);
            let left = match ready.and_then(|id| self.get(id)) {
                Some(copy) => loses_with(hole.disc_id, &copy.disc.spec)?,
                None => 0.0,
            };
            hole.saves_strokes = hole.strokes - left;
            hole.words = self.hole_words(hole);
        }
        Ok(())
    }

    /// What the bag leaves as it is, or with another disc in the place of one. Each is an account of its own, as a season's: one
    /// account tells the best two of all it is asked about, and with both of these a third may be needed.
    fn leaves_with(
        &self,
        instead: Option<(DiscId, &DiscSpec)>,
        memo: &Memo,
        work: &Work,
    ) -> Result<f64, BagError> {
        let mut shelf = self.of_bag(self.q.shelf);
        if let Some((gone, comes)) = instead {
            shelf.iter_mut().filter(|d| d.id == gone).for_each(|d| d.spec = comes.clone());
        }
        let each: Vec<Carried> =
            self.carried.iter().map(|id| Carried { disc_id: *id, spare: false }).collect();
        let bag = BagSpec { event_cap_g: self.q.bag.event_cap_g, ..BagSpec::of_everything() };
        let q = Question { shelf: &shelf, bag: &bag, carried: &each, ..*self.q };
        let ledger = Ledger::of(&q, &VERDICT, memo, work)?;
        Ok(ledger.leaves(&ledger.columns(&self.carried)))
    }

    /// Of some discs those that count in the bag, and those that are kept for putting: while there are any, nothing else is putted
    /// with.
    pub(super) fn of_bag(&self, discs: &[Disc]) -> Vec<Disc> {
        let matters = |d: &&Disc| self.carried.contains(&d.id) || d.spec.used_for == Use::Putting;
        discs.iter().filter(matters).cloned().collect()
    }

    fn hole_words(&self, hole: &PegHole) -> String {
        let Leaving { from, to, on, .. } = hole.leaving;
        let name = self.name(hole.disc_id);
        let when = on.map_or_else(String::new, month);
        let (from, to) = (from.label(), to.label());
        let costs = match hole.strokes {
            s if s >= 0.005 => format!("; a year later that costs {} a round", strokes(s)),
            _ => String::new(),
        };
        let leaves = format!("{name} goes from {from} to {to} about {when}{costs}.");
        let copy = hole.successor.disc_id.map_or("a fresh copy", |id| self.name(id));
        let takes = hole.successor.ready_on.map(|ready| span(days(self.today, ready)));
        let late =
            hole.begin_by.filter(|begin| *begin < self.today).map(|begin| span(days(begin, self.today)));
        let late = late.map_or(String::new(), |late| format!(" That is {late} late."));
        let is_barred = |w: &Wearing| !self.q.bag.allows(&w.disc.spec);
        let mould = self.get(hole.disc_id).map(|w| mould_of(w.disc));
        let barred = self.all().iter().any(|w| is_barred(w) && Some(mould_of(w.disc)) == mould);
        let none = if barred { "No copy at home that the event allows" } else { "No copy at home" };
        let then = match (hole.successor.takes, takes) {
            (Takes::Ready, _)
                if hole.strokes >= 0.005 && hole.saves_strokes < (1.0 - HELPS) * hole.strokes =>
            {
                format!("{copy} is on {from} by then, but makes up for little of that.")
            }
            (Takes::Ready, _) => format!("{copy} is ready for {from} by then."),
            (Takes::MovesDown, Some(takes)) if hole.successor.ready_on > on => {
                format!("{copy} comes to {from} in {takes}.")
            }
            (Takes::MovesDown, _) => format!("{copy} has come to {from} by then."),
            (Takes::UnderWay, Some(takes)) => format!("{copy} is being worn in: {takes} more to {from}."),
            (Takes::Start, Some(takes)) => {
                format!("{copy} takes {takes} of wearing in to come to {from}.{late}")
            }
            (Takes::Buy, Some(takes)) if hole.successor.ready_on > Some(self.today) => {
                format!("{none} can take over; a fresh one takes {takes} of wearing in.{late}")
            }
            (Takes::Buy, _) => {
                format!("{none} can take over; a fresh one could, once you know it.{late}")
            }
            _ => format!("No copy of the mould comes to {from}: another mould has to take over."),
        };
        format!("{leaves} {then}")
    }

    /// What follows if each carried disc is lost today, the dearest first.
    pub(super) fn if_lost(&self, ledger: &Ledger) -> Vec<IfLost> {
        let now = ledger.leaves(&ledger.columns(&self.carried));
        let saves = |id: &DiscId| {
            let more: Vec<DiscId> = self.carried.iter().chain([id]).copied().collect();
            (*id, now - ledger.leaves(&ledger.columns(&more)))
        };
        let saved: HashMap<DiscId, f64> = ledger.disc_ids.iter().map(saves).collect();
        let beside = |id: DiscId| saved.get(&id).copied().unwrap_or(0.0);
        let mut all: Vec<IfLost> = self
            .all()
            .iter()
            .filter(|w| w.is_carried)
            .map(|w| {
                let rest: Vec<DiscId> = self.carried.iter().copied().filter(|id| *id != w.disc.id).collect();
                let leaves = |with: Option<DiscId>| {
                    let ids: Vec<DiscId> = rest.iter().copied().chain(with).collect();
                    ledger.leaves(&ledger.columns(&ids)) - now
                };
                let strokes = leaves(None).max(0.0);
                let successor = match w.bends.peg(w.share) {
                    Some(peg) => self.successor(w, peg, self.today),
                    None => self.alike(w),
                };
                // What it would save in any case is no help for this loss.
                let left = |id: DiscId| strokes - (strokes - leaves(Some(id)) - beside(id)).max(0.0);
                let copy = successor.disc_id.filter(|id| !self.carried.contains(id));
                let with_copy = copy.map_or(strokes, left);
                let instead = self.instead(w).map(|id| (id, left(id))).min_by(|a, b| a.1.total_cmp(&b.1));
                let instead =
                    instead.filter(|(id, left)| Some(*id) != copy && *left <= HELPS * strokes.min(with_copy));
                let words = self.lost_words(strokes, successor, copy.map(|_| with_copy), instead);
                IfLost {
                    disc_id: w.disc.id,
                    strokes,
                    successor,
                    successor_strokes: with_copy.max(0.0),
                    instead: instead.map(|i| i.0),
                    instead_strokes: instead.map_or(strokes, |i| i.1.max(0.0)),
                    words,
                }
            })
            .collect();
        all.sort_by(|a, b| b.strokes.total_cmp(&a.strokes));
        all
    }

    /// Discs at home that might stand in for another.
    fn instead(&self, of: &Wearing) -> impl Iterator<Item = DiscId> {
        let (used_for, bag) = (of.disc.spec.used_for, self.q.bag);
        let putts = move |use_: Use| use_ == Use::Putting;
        let fits = move |d: &&Disc| {
            putts(d.spec.used_for) == putts(used_for)
                && d.spec.keeping.status.is_at_hand()
                && bag.allows(&d.spec)
        };
        self.q.shelf.iter().filter(|d| !self.carried.contains(&d.id)).filter(fits).map(|d| d.id)
    }

    fn lost_words(
        &self,
        loses: f64,
        successor: Successor,
        with_copy: Option<f64>,
        instead: Option<(DiscId, f64)>,
    ) -> String {
        let copy = successor.disc_id.map_or("a fresh copy", |id| self.name(id));
        let takes =
            successor.ready_on.map(|ready| days(self.today, ready)).filter(|days| *days >= 1.0).map(span);
        let told = loses >= 0.005;
        let is_little = with_copy.is_some_and(|left| told && left > HELPS * loses);
        let stands = match (successor.takes, takes) {
            (Takes::Ready, None) if is_little => format!("{copy} is on its peg, but makes up for little"),
            (Takes::Ready, None) => format!("{copy} is ready"),
            (Takes::MovesDown, None) => format!("{copy} is in the bag and does the same"),
            (Takes::MovesDown, Some(takes)) => format!("no copy ready: {copy} comes to it in {takes}"),
            (Takes::UnderWay | Takes::Ready, Some(takes)) => format!("{copy} is ready in {takes}"),
            (Takes::Start, Some(takes)) => format!("no copy ready: {copy} takes {takes}"),
            (Takes::Buy, Some(takes)) => format!("no copy ready: a fresh one takes {takes}"),
            (Takes::Buy, None) => "no copy at home: a fresh one does it".into(),
            _ => "no copy of the mould can do it".into(),
        };
        let still = |left: f64| match left {
            left if left < 0.005 => "nothing is lost".to_owned(),
            left => format!("{} are still lost", strokes(left)),
        };
        let today = if matches!(successor.takes, Takes::Ready) { "with it" } else { "as it is today" };
        let by_copy = with_copy.filter(|_| told).map(|left| format!("; {today} {}", still(left)));
        let by_other = instead.filter(|_| told);
        let by_other = by_other.map(|(id, left)| format!("; with {} {}", self.name(id), still(left)));
        let (by_copy, by_other) = (by_copy.unwrap_or_default(), by_other.unwrap_or_default());
        format!("{}{by_copy}{by_other}", crate::words::capital(&stands))
    }
}

/// Another mould is told of if no more than this part of a loss is left with it.
const HELPS: f64 = 0.8;
