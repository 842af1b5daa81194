//! Who takes over from a disc that leaves its peg, or is lost.

use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::keeping::Status;
use crate::disc::spec::DiscId;
use crate::need::peg::Peg;
use crate::verdict::aging::forecast::Wearing;
use crate::verdict::aging::outlook::Year;
use crate::verdict::putting::PAIR_WEAR;
use crate::verdict::school::mould_of;

/// How a copy comes to take over.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Takes {
    /// A copy at home is ready by then.
    Ready,
    /// A carried copy moves down to it.
    MovesDown,
    /// A copy is being worn in.
    UnderWay,
    /// A copy at home has to be worn in first.
    Start,
    /// No copy at home can become it: a fresh one has to be had.
    Buy,
    /// Nor can a fresh one.
    Nothing,
}

/// Who takes over, and when.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Successor {
    /// How.
    pub takes: Takes,
    /// The copy, if it is owned.
    pub disc_id: Option<DiscId>,
    /// When it is ready, were it begun today.
    #[schema(value_type = Option<String>, format = Date)]
    pub ready_on: Option<Date>,
}

impl Successor {
    fn of(takes: Takes, copy: &Wearing, ready_on: Option<Date>) -> Successor {
        Successor { takes, disc_id: Some(copy.disc.id), ready_on }
    }
}

impl Year<'_> {
    /// Other copies of a disc's mould that are at hand and that the event allows.
    fn copies_of<'s>(&'s self, disc: &'s Wearing<'_>) -> impl Iterator<Item = &'s Wearing<'s>> {
        let mould = mould_of(disc.disc);
        let used_for = disc.disc.spec.used_for;
        let bag = self.q.bag;
        let other = move |w: &&Wearing| {
            bag.allows(&w.disc.spec)
                && w.disc.id != disc.disc.id
                && w.disc.spec.used_for == used_for
                && mould_of(w.disc) == mould
        };
        self.all().iter().filter(other)
    }

    /// Who takes over from a disc on a peg by a day.
    pub(super) fn successor(&self, of: &Wearing<'_>, peg: Peg, by: Date) -> Successor {
        let today = self.today;
        let there = |w: &&Wearing| w.peg_on(today, by) == Some(peg);
        let at_home = || self.copies_of(of).filter(|w| !w.is_carried);
        if let Some(copy) = at_home().find(there) {
            let pace =
                if copy.disc.spec.keeping.status == Status::Seasoning { &copy.pace } else { &self.seasoning };
            return Successor::of(Takes::Ready, copy, copy.on_peg_by(peg, pace, today).or(Some(today)));
        }
        if let Some(copy) = self.copies_of(of).filter(|w| w.is_carried).find(there) {
            return Successor::of(
                Takes::MovesDown,
                copy,
                copy.on_peg_by(peg, &copy.pace, today).or(Some(by)),
            );
        }
        // One that was there before then has passed it.
        let later = |on: Date| (on > by).then_some(on);
        let worn_in = self.copies_of(of).filter(|w| w.disc.spec.keeping.status == Status::Seasoning);
        let under_way = worn_in.filter_map(|w| Some((w, later(w.on_peg_by(peg, &w.pace, today)?)?)));
        if let Some((copy, on)) = under_way.min_by_key(|(_, on)| *on) {
            return Successor::of(Takes::UnderWay, copy, Some(on));
        }
        let begun =
            at_home().filter_map(|w| Some((Takes::Start, w, w.on_peg_by(peg, &self.seasoning, today)?)));
        let carried = self.copies_of(of).filter(|w| w.is_carried);
        let comes =
            carried.filter_map(|w| Some((Takes::MovesDown, w, later(w.on_peg_by(peg, &w.pace, today)?)?)));
        if let Some((takes, copy, on)) = begun.chain(comes).min_by_key(|(_, _, on)| *on) {
            return Successor::of(takes, copy, Some(on));
        }
        let fresh = Wearing { share: 0.0, ..of.clone() };
        match fresh.on_peg_by(peg, &self.seasoning, today) {
            Some(on) => Successor { takes: Takes::Buy, disc_id: None, ready_on: Some(on) },
            None => Successor { takes: Takes::Nothing, disc_id: None, ready_on: None },
        }
    }

    /// Who takes over from a disc that fills no peg, were it lost today: a copy worn about alike, or one thrown as it is until then.
    pub(super) fn alike(&self, of: &Wearing<'_>) -> Successor {
        let about = |w: &&Wearing| (w.share - of.share).abs() <= PAIR_WEAR;
        let alike = || self.copies_of(of).filter(about);
        if let Some(copy) = alike().find(|w| !w.is_carried) {
            return Successor::of(Takes::Ready, copy, Some(self.today));
        }
        if let Some(copy) = alike().next() {
            return Successor::of(Takes::MovesDown, copy, Some(self.today));
        }
        let worn_by =
            |w: &Wearing| w.worn_by((of.share - PAIR_WEAR).max(w.share), &of.pace, w.life.throws, self.today);
        let fresher = self.copies_of(of).filter(|w| !w.is_carried && w.share < of.share);
        let begun = fresher.filter_map(|w| Some((w, worn_by(w)?)));
        if let Some((copy, on)) = begun.min_by_key(|(_, on)| *on) {
            return Successor::of(Takes::Start, copy, Some(on));
        }
        match worn_by(&Wearing { share: 0.0, ..of.clone() }) {
            Some(on) => Successor { takes: Takes::Buy, disc_id: None, ready_on: Some(on) },
            None => Successor { takes: Takes::Nothing, disc_id: None, ready_on: None },
        }
    }
}
