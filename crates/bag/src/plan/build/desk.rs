//! The desk on which a bag is put together: every disc that may come, how each does on every line in every weather, and wishes
//! turned into conditions on what is chosen.

use rayon::prelude::*;

use crate::catalogue::reference::{Family, wanted};
use crate::chance::memo::Memo;
use crate::disc::feel::off;
use crate::disc::mould::{Mould, MouldSpec, Supply};
use crate::disc::spec::{Disc, DiscId, DiscSpec};
use crate::error::BagError;
use crate::need::line::Line;
use crate::need::peg::Peg;
use crate::plan::build::wishes::Wishes;
use crate::plan::choice::{Chosen, Limit, Problem, Way, solve};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::habits::Habits;
use crate::thrower::player::Player;
use crate::thrower::slot::Slot;
use crate::verdict::board::{Puck, pucks};
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::compare::flies_alike;
use crate::verdict::ledger::{CHOICE, Ledger, Row};
use crate::verdict::putting::matched_pairs;
use crate::verdict::school::{RATHER_NOT_STROKES, mould_of, objections};
use crate::verdict::standing::Question;
use crate::verdict::work::Work;
use crate::words::fold;

/// Bags that save no more than this beyond the one found are not looked for, strokes a round: one in two thousand rounds.
pub const TOLERANCE: f64 = 0.0005;

/// What a bag is put together from.
pub struct Stock<'a> {
    /// The thrower.
    pub player: &'a Player,
    /// Every disc owned.
    pub shelf: &'a [Disc],
    /// The player's library of moulds.
    pub moulds: &'a [Mould],
    /// The lines, switched off ones included.
    pub lines: &'a [Line],
}

/// A desk with everything laid out.
pub struct Desk<'a> {
    pub(super) stock: &'a Stock<'a>,
    /// Discs that may come, in the order of the ledger's columns; those to be bought have ids below 0.
    pub(super) discs: Vec<Disc>,
    pub(super) ledger: Ledger,
    pucks: Vec<Puck>,
    /// Each row with what every disc is worth on it, strokes.
    rows: Vec<Vec<(usize, f64)>>,
}

/// The disc that a mould of the library is when bought: fresh, of the usual plastic and mass.
pub fn fresh_of(mould: &Mould) -> DiscSpec {
    let MouldSpec { name, maker, printed, class, reference_mass_g, rim_cm, .. } = &mould.spec;
    let mass_g = mould.spec.largest_mass_g.map_or(*reference_mass_g, |most| reference_mass_g.min(most));
    DiscSpec {
        name: format!("new {name}"),
        class: *class,
        reference_mass_g: *reference_mass_g,
        mass_g,
        rim_cm: *rim_cm,
        ..DiscSpec::plain(maker, name, *printed)
    }
}

impl<'a> Desk<'a> {
    /// Lays everything out, with new discs of the library beside the shelf if some may be bought. Another thread may ask `work` how
    /// far it is, or stop it.
    ///
    /// # Errors
    /// [`BagError`] for a value outside its range, [`BagError::Stopped`] after it was stopped.
    pub fn of(stock: &'a Stock<'a>, buying: bool, memo: &Memo, work: &Work) -> Result<Desk<'a>, BagError> {
        let ready = |m: &&Mould| buying && m.spec.supply == Supply::Ready;
        let mut shelf = stock.shelf.to_vec();
        let bought = |mould: &Mould| Disc { id: DiscId(-mould.id.0), spec: fresh_of(mould) };
        shelf.extend(stock.moulds.iter().filter(ready).map(bought));
        let everything = BagSpec::of_everything();
        let all: Vec<Carried> = shelf.iter().map(|d| Carried { disc_id: d.id, spare: false }).collect();
        let conditions = Conditions::default();
        let Stock { player, lines, .. } = *stock;
        player.validate()?;
        let q = Question {
            player,
            conditions,
            shelf: &shelf,
            bag: &everything,
            carried: &all,
            lines,
            today: None,
        };
        let ledger = Ledger::of(&q, &CHOICE, memo, work)?;
        let disc = |id: &DiscId| shelf.iter().find(|d| d.id == *id).cloned();
        let discs: Vec<Disc> = ledger.disc_ids.iter().filter_map(disc).collect();
        let arm = Arm::of(player, &conditions)?;
        let flown: Vec<(&Disc, bool)> = discs.iter().map(|d| (d, false)).collect();
        let pucks = pucks(player, &arm, player.strong_style, arm.wind, &flown)?;
        let worth = |row: &Row| {
            let each = row.chances.iter().enumerate().filter(|(_, chance)| **chance > 0.0);
            each.map(|(j, chance)| (j, row.strokes * chance)).collect()
        };
        let rows = ledger.rows.iter().map(worth).collect();
        Ok(Desk { stock, discs, ledger, pucks, rows })
    }

    /// What it is laid out from.
    pub fn stock(&self) -> &Stock<'a> {
        self.stock
    }

    /// The player with the school that is wished for.
    fn schooled(&self, wishes: &Wishes) -> Player {
        let player = self.stock.player;
        match wishes.school {
            None => player.clone(),
            Some(school) => {
                let habits = Habits { schools: vec![], ..player.habits.clone() };
                Player { school, habits, ..player.clone() }
            }
        }
    }

    /// Taste for few moulds, strokes for every mould beyond the first.
    pub(super) fn mould_strokes(&self, wishes: &Wishes) -> f64 {
        wishes.mould_strokes.unwrap_or(self.stock.player.habits.mould_strokes)
    }

    /// Price of a disc that is to be bought; none for one that is owned.
    pub(super) fn price(&self, j: usize, wishes: &Wishes) -> Option<f64> {
        let buying = wishes.buying.filter(|_| self.discs[j].id.0 < 0)?;
        let same = |d: &&Disc| mould_of(d) == mould_of(&self.discs[j]);
        let paid: Vec<f64> =
            self.stock.shelf.iter().filter(same).filter_map(|d| d.spec.keeping.price).collect();
        let mean = paid.iter().sum::<f64>() / paid.len().max(1) as f64;
        Some(if paid.is_empty() { buying.usual_price } else { mean })
    }

    /// Discs that may come, in the order of the things of its problems.
    pub fn discs(&self) -> &[Disc] {
        &self.discs
    }

    /// Places of some discs among the things of its problems.
    pub fn places(&self, ids: &[DiscId]) -> Vec<usize> {
        self.ledger.columns(ids)
    }

    pub(super) fn lane(&self, j: usize) -> Slot {
        self.stock.player.lane(self.discs[j].spec.slot())
    }

    /// Wishes as a problem, and those that nothing on the shelf can meet, in words.
    ///
    /// # Errors
    /// [`BagError`] for wishes outside their ranges, or of discs that are not at hand.
    pub fn problem(&self, wishes: &Wishes) -> Result<(Problem, Vec<String>), BagError> {
        wishes.validate()?;
        let n = self.discs.len();
        let mut unmet = Vec::new();
        let player = self.schooled(wishes);
        let mut problem = Problem {
            kind_price: self.mould_strokes(wishes),
            kinds: kinds(&self.discs),
            within: self.places(&wishes.within),
            without: self.places(&wishes.without),
            ..Problem::free(n, self.rows.clone(), wishes.capacity as usize)
        };
        if problem.within.len() < wishes.within.len() {
            return Err(BagError::Field {
                field: "within",
                expected: "discs that are at hand".into(),
                got: "one that is not on the shelf, or lent, lost or retired".into(),
            });
        }
        for (j, disc) in self.discs.iter().enumerate() {
            let objections = objections(&player, disc, self.pucks[j].bend.finish_deg);
            let rather_not = objections.iter().any(|o| !o.firm);
            let price = wishes.disc_strokes + if rather_not { RATHER_NOT_STROKES } else { 0.0 };
            problem.prices[j] = price;
            let too_heavy = wishes.event_cap_g.is_some_and(|cap| disc.spec.mass_g > cap);
            let maker = |m: &String| fold(m) == fold(&disc.spec.maker);
            let other_maker = !wishes.makers.is_empty() && !wishes.makers.iter().any(maker);
            let mould = self.stock.moulds.iter().find(|m| m.spec.is_of(&disc.spec)).map(|m| &m.spec);
            let feels_off = wishes.hand_feel && !off(&player, &disc.spec, mould).is_empty();
            let is_refused = objections.iter().any(|o| o.firm);
            let is_wished = wishes.within.contains(&disc.id);
            if too_heavy || ((other_maker || feels_off || is_refused) && !is_wished) {
                problem.without.push(j);
            }
            if too_heavy && is_wished {
                unmet.push(format!("{} is heavier than the event allows", disc.spec.name));
            }
        }
        if let Some(most) = wishes.mass_cap_g {
            let weights = self.discs.iter().map(|d| d.spec.mass_g).collect();
            problem.limits.push(Limit { weights, most });
        }
        if let Some(buying) = wishes.buying {
            let weights = (0..n).map(|j| self.price(j, wishes).unwrap_or(0.0)).collect();
            problem.limits.push(Limit { weights, most: buying.budget });
        }
        for wish in &wishes.slots {
            let lies = |j: usize| self.lane(j) == wish.slot;
            problem.limits.extend(wish.least.map(|least| Limit::at_least(lies, n, least as usize)));
            problem.limits.extend(wish.most.map(|most| Limit::at_most(lies, n, most as usize)));
        }
        for &j in &self.places(&wishes.spared) {
            let alike = |o: usize| o != j && flies_alike(&self.discs[j], &self.discs[o]);
            if !(0..n).any(alike) {
                unmet.push(format!("nothing else flies like {}", self.discs[j].spec.name));
            }
            problem.limits.push(Limit::only_beside(j, alike, n));
        }
        if wishes.pegs {
            self.want_pegs(&player, &mut problem, &mut unmet)?;
        }
        if wishes.putting_pair {
            let pairs = matched_pairs(&self.discs);
            match pairs.is_empty() {
                true => unmet.push(
                    "no two putting putters are of one mould and plastic, within 2 g and worn alike".into(),
                ),
                false => problem
                    .either
                    .push(pairs.into_iter().map(|p| Way { within: p.into(), without: vec![] }).collect()),
            }
        }
        if wishes.one_maker {
            problem.either.push(self.makers());
        }
        Ok((problem, unmet))
    }

    /// Every peg that is wanted and that some disc can fill.
    fn want_pegs(
        &self,
        player: &Player,
        problem: &mut Problem,
        unmet: &mut Vec<String>,
    ) -> Result<(), BagError> {
        let arm = Arm::of(player, &Conditions::default())?;
        let n = self.discs.len();
        for slot in player.lanes().filter(|slot| *slot != Slot::Utility) {
            let school = player.school_of(slot);
            for peg in wanted(&Family::of(&arm, player.strong_style, slot), school).0 {
                let sits = |j: usize| {
                    self.lane(j) == slot
                        && self.pucks[j].peg.is_some()
                        && Peg::of(self.pucks[j].bend, school) == peg
                        && !problem.without.contains(&j)
                };
                if (0..n).any(sits) {
                    let limit = Limit::at_least(sits, n, 1);
                    problem.limits.push(limit);
                } else {
                    unmet.push(format!("no disc sits on {} among {}", peg.label(), slot.label()));
                }
            }
        }
        Ok(())
    }

    /// One way for each maker: all others left at home.
    fn makers(&self) -> Vec<Way> {
        let maker = |j: usize| fold(&self.discs[j].spec.maker);
        let mut all: Vec<String> = (0..self.discs.len()).map(maker).collect();
        all.sort();
        all.dedup();
        let others = |only: String| Way {
            within: vec![],
            without: (0..self.discs.len()).filter(|&j| maker(j) != only).collect(),
        };
        all.into_iter().map(others).collect()
    }

    /// Solves a problem. `work` stops it, or ends it with the best found.
    pub(super) fn choose(&self, problem: &Problem, hint: Option<&[usize]>, work: &Work) -> Chosen {
        solve(problem, TOLERANCE, hint, &|| work.is_stopped() || work.is_hurried())
    }

    /// Solves several problems side by side.
    pub(super) fn choose_all(
        &self,
        problems: &[Problem],
        hint: Option<&[usize]>,
        work: &Work,
    ) -> Vec<Chosen> {
        let one = |problem: &Problem| {
            let chosen = self.choose(problem, hint, work);
            work.advance();
            chosen
        };
        work.begin(problems.len());
        problems.par_iter().map(one).collect()
    }

    /// What some discs leave in a round, strokes.
    pub(super) fn leaves(&self, places: &[usize]) -> f64 {
        self.ledger.leaves(places)
    }

    pub(super) fn ids(&self, places: &[usize]) -> Vec<DiscId> {
        places.iter().map(|&j| self.discs[j].id).collect()
    }

    /// Discs that are among the first places and not among the second.
    pub(super) fn only(&self, these: &[usize], not_those: &[usize]) -> Vec<DiscId> {
        let only = these.iter().filter(|j| !not_those.contains(j));
        only.map(|&j| self.discs[j].id).collect()
    }

    pub(super) fn name(&self, id: DiscId) -> &str {
        self.discs.iter().chain(self.stock.shelf).find(|d| d.id == id).map_or("a disc", |d| &d.spec.name)
    }
}

/// Moulds numbered as they come.
fn kinds(discs: &[Disc]) -> Vec<usize> {
    let mut known: Vec<(String, String)> = Vec::new();
    discs
        .iter()
        .map(|d| {
            let mould = mould_of(d);
            known.iter().position(|k| *k == mould).unwrap_or_else(|| {
                known.push(mould);
                known.len() - 1
            })
        })
        .collect()
}
