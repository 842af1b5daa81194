//! The account of a season: for every line in every weather, how often each disc makes it, and what a miss costs.
//!
//! What a set of discs leaves is the sum over the rows of strokes × (1 − its best chance): the disc is chosen knowing the
//! wind. Counting shots in strokes is the idea of M. Broadie, *Every Shot Counts*, 2014 (from memory).

use rayon::prelude::*;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::catalogue::lines::PEGGED;
use crate::catalogue::reach::asked;
use crate::catalogue::reference::{Family, REFERENCE_MASS_KG};
use crate::chance::memo::Memo;
use crate::disc::spec::{Disc, DiscId, Numbers};
use crate::disc::thrown::Thrown;
use crate::error::BagError;
use crate::need::line::LineSpec;
use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::season::{Weather, WeatherKind};
use crate::thrower::style::Style;
use crate::verdict::alike::{FOLLOWERS, StandIn, stand_ins};
use crate::verdict::sieve::{Entrant, Heat, On, Roomy, Sieve, Sifted, most_room};
use crate::verdict::standing::{PuttersApart, Question};
use crate::verdict::table::slow_to_fast;
use crate::verdict::work::Work;

/// A line in a weather.
#[derive(Debug, Clone)]
pub(crate) struct Row {
    /// Which line.
    pub line: usize,
    /// Which weather.
    pub weather: WeatherKind,
    /// What never making it would cost in a round of the season, strokes: times × share of the weather × cost of a miss.
    pub strokes: f64,
    /// Chance of each disc of the shelf; of those far behind the best only about, see [`Makings::chances`].
    pub chances: Vec<f64>,
    /// The best that any disc, owned or ideal, does here, and the ideal disc.
    pub ideal: f64,
    pub ideal_numbers: Option<FlightNumbers>,
    /// The ideal disc's own chance.
    pub ideal_chance: f64,
}

/// The account.
pub(crate) struct Ledger {
    /// Discs of the shelf in the order of the columns, slow to fast.
    pub disc_ids: Vec<DiscId>,
    pub weathers: Vec<Weather>,
    pub rows: Vec<Row>,
}

/// For a verdict on a bag: the best two of it, and what would do better.
pub(crate) const VERDICT: Sieve = Sieve {
    looked_at: 20,
    of_bag_looked_at: 30,
    places: 2,
    heats: [
        asked_of(12, 10, 0.2),
        asked_of(5, 8, 0.2),
        asked_of(5, 8, 0.08),
        asked_of(4, 5, 0.02),
        asked_of(3, 4, 0.01),
    ],
};
/// For the choice of a bag from all that may be carried: whatever is left out, the next best has to stand in.
pub(crate) const CHOICE: Sieve = Sieve {
    looked_at: 20,
    of_bag_looked_at: 30,
    places: 6,
    heats: [
        Heat::of_bag(25, 0.3),
        Heat::of_bag(20, 0.25),
        Heat::of_bag(20, 0.08),
        Heat::of_bag(10, 0.03),
        Heat::of_bag(9, 0.02),
    ],
};
/// For the ideal disc of a row: all are glimpsed, since room tells little among discs that each have enough of it, and the one of the best
/// forecast is worked out in full.
const IDEAL: Sieve = Sieve {
    looked_at: 30,
    of_bag_looked_at: 0,
    places: 1,
    heats: [
        Heat::of_bag(6, 0.15),
        Heat::of_bag(2, 0.1),
        Heat::of_bag(2, 0.05),
        Heat::of_bag(1, 0.015),
        Heat::of_bag(1, 0.03),
    ],
};
/// Part of what the one that stands in for a disc makes that is counted on for one that was not asked.
const ALIKE_CAUTION: f64 = 0.9;

/// A round for so many of the shelf and so many of the bag.
const fn asked_of(of_shelf: usize, of_bag: usize, doubt: f64) -> Heat {
    Heat { of_shelf, of_bag, doubt }
}

struct Candidate {
    disc: Entrant,
    /// Carried, and not kept out of the hand by the event's rules.
    in_bag: bool,
}

/// Everything a row is worked out from, beside its line and weather.
struct Makings<'a> {
    candidates: Vec<Candidate>,
    /// Those asked first on every row.
    stand_ins: Vec<StandIn>,
    ideals: Vec<(FlightNumbers, Thrown)>,
    sieve: &'a Sieve,
    /// The one for calm air.
    in_calm: Sieve,
    memo: &'a Memo,
}

impl Makings<'_> {
    fn row(&self, line: usize, weather: &Weather, arm: &Arm, spec: &LineSpec) -> Row {
        let on = On { arm, spec, memo: self.memo };
        let sieve = if weather.kind == WeatherKind::Calm { &self.in_calm } else { self.sieve };
        let chances = self.chances(&on, sieve);
        let owned = chances.iter().copied().fold(0.0, f64::max);
        let (ideal_chance, ideal_numbers) = match self.ideal(&on, owned) {
            Some((chance, numbers)) => (chance, Some(numbers)),
            None => (0.0, None),
        };
        Row {
            line,
            weather: weather.kind,
            strokes: spec.weight * weather.share * spec.strokes_of_a_miss(),
            chances,
            ideal: ideal_chance.max(owned),
            ideal_numbers,
            ideal_chance,
        }
    }

    /// The chance of the ideal disc, unless it promises less than one `owned` does: it would save nothing.
    fn ideal(&self, on: &On, owned: f64) -> Option<(f64, FlightNumbers)> {
        let roomy = on.roomy(self.ideals.iter().map(|(_, t)| t).enumerate());
        let best = IDEAL.sift_from(owned, IDEAL.promising(roomy, |_| true), |_| true).worked_out;
        best.first().map(|p| (p.expected, self.ideals[p.disc].0))
    }

    /// The chance of every disc: worked out for those of the best forecast; for the others a cautious part of what is expected
    /// of them, and never more than the least of these; 0 for those too far behind to be looked at. A disc that would better the bag
    /// is always worked out.
    fn chances(&self, on: &On, sieve: &Sieve) -> Vec<f64> {
        let (roomy, followers) = self.roomy(on);
        let in_bag = |k: usize| self.candidates[k].in_bag;
        let Sifted { worked_out, behind } = sieve.sift(sieve.promising(roomy, in_bag), in_bag);
        let least = worked_out.iter().map(|p| p.expected).fold(f64::INFINITY, f64::min);
        let mut chances = vec![0.0; self.candidates.len()];
        worked_out.iter().for_each(|p| chances[p.disc] = p.expected);
        let of_bag = worked_out.iter().filter(|p| in_bag(p.disc));
        let best_of_bag = of_bag.map(|p| p.expected).fold(0.0, f64::max);
        for p in behind {
            let about = p.expected.clamp(0.0, least.max(0.0));
            // A button may promise this disc: it must be kept.
            chances[p.disc] = if about > best_of_bag { p.worth() } else { about };
        }
        // Not asked at all: about as the disc that stands in for it, never so well that a button would promise it.
        for stand_in in &self.stand_ins {
            let about = (ALIKE_CAUTION * chances[stand_in.disc]).min(least).min(best_of_bag);
            let answers = |k: &&usize| self.candidates[**k].disc.answers(on.spec);
            let not_asked = stand_in.followers.iter().filter(answers).filter(|k| !followers.contains(k));
            not_asked.for_each(|&k| chances[k] = about);
        }
        chances
    }

    /// The room that discs have on a row: the stand-ins, and those whose stand-ins have most; and who these are.
    fn roomy<'a>(&'a self, on: &On<'a>) -> (Vec<Roomy<'a>>, Vec<usize>) {
        let answering = |k: &usize| self.candidates[*k].disc.answers(on.spec);
        let thrown = |k: usize| (k, &self.candidates[k].disc.thrown);
        let mut roomy = on.roomy(self.stand_ins.iter().map(|s| s.disc).filter(answering).map(thrown));
        let followers: Vec<usize> = roomy
            .iter()
            .filter_map(|r| self.stand_ins.iter().find(|s| s.disc == r.disc))
            .flat_map(|s| s.followers.iter().copied())
            .filter(answering)
            .take(FOLLOWERS)
            .collect();
        if !followers.is_empty() {
            roomy.extend(on.roomy(followers.iter().copied().map(thrown)));
            roomy.sort_by(most_room);
        }
        (roomy, followers)
    }
}

impl Ledger {
    /// Works the account out.
    ///
    /// # Errors
    /// [`BagError`] for a value outside its range, [`BagError::Stopped`] after it was stopped.
    pub(crate) fn of(q: &Question, sieve: &Sieve, memo: &Memo, work: &Work) -> Result<Ledger, BagError> {
        let weathers = q.player.season.weathers();
        let arms =
            weathers.iter().map(|w| Arm::of(q.player, &w.conditions)).collect::<Result<Vec<_>, _>>()?;
        let usual = Arm::of(q.player, &crate::thrower::day::Conditions::default())?;
        let at_hand = |d: &&Disc| d.spec.keeping.status.is_at_hand();
        let mut discs: Vec<&Disc> = q.shelf.iter().filter(at_hand).collect();
        slow_to_fast(&mut discs);
        let allowed = q.allowed();
        let apart = PuttersApart::on(q.shelf);
        let candidates = discs
            .iter()
            .map(|d| Ok(Candidate { disc: Entrant::of(d, apart)?, in_bag: allowed.contains(&d.id) }))
            .collect::<Result<Vec<_>, BagError>>()?;
        let stand_ins = stand_ins(&discs, |d| q.carried.iter().any(|c| c.disc_id == d.id));
        let ideals = ideals(&usual, q.player.strong_style);
        let makings = Makings { candidates, stand_ins, ideals, sieve, in_calm: sieve.as_today(), memo };
        let lines: Vec<usize> = (0..q.lines.len()).filter(|&l| q.lines[l].enabled).collect();
        work.begin(lines.len() * weathers.len());
        let rows: Vec<Row> = lines
            .par_iter()
            .flat_map(|&l| {
                weathers.par_iter().zip(&arms).filter_map({
                    let makings = &makings;
                    move |(weather, arm)| {
                        if work.is_stopped() {
                            return None;
                        }
                        let row = makings.row(l, weather, arm, &asked(&q.lines[l], arm));
                        work.advance();
                        Some(row)
                    }
                })
            })
            .collect();
        if work.is_stopped() {
            return Err(BagError::Stopped);
        }
        Ok(Ledger { disc_ids: discs.iter().map(|d| d.id).collect(), weathers, rows })
    }

    /// Column of a disc.
    pub(crate) fn column(&self, id: DiscId) -> Option<usize> {
        self.disc_ids.iter().position(|d| *d == id)
    }

    /// Columns of some discs.
    pub(crate) fn columns(&self, ids: &[DiscId]) -> Vec<usize> {
        ids.iter().filter_map(|id| self.column(*id)).collect()
    }

    /// What some discs leave in a round, strokes.
    pub(crate) fn leaves(&self, columns: &[usize]) -> f64 {
        total(self.rows.iter().map(|row| row.strokes * (1.0 - row.best(columns))))
    }

    /// What ideal discs would leave, strokes.
    pub(crate) fn ideal_leaves(&self) -> f64 {
        total(self.rows.iter().map(|row| row.strokes * (1.0 - row.ideal)))
    }

    /// The work each of some discs does in a round, strokes: its part of what they save together, each rank's margin shared
    /// among those at least as good (the value of L. Shapley, *A Value for n-Person Games*, 1953, from memory, which for a
    /// game of best chances has this closed form).
    pub(crate) fn shared(&self, columns: &[usize]) -> Vec<f64> {
        let mut shares = vec![0.0; columns.len()];
        for row in &self.rows {
            let mut order: Vec<usize> = (0..columns.len()).collect();
            order.sort_by(|&a, &b| row.chances[columns[b]].total_cmp(&row.chances[columns[a]]));
            for k in 0..order.len() {
                let next = order.get(k + 1).map_or(0.0, |&n| row.chances[columns[n]]);
                let margin = row.chances[columns[order[k]]] - next;
                let each = row.strokes * margin / (k + 1) as f64;
                order[..=k].iter().for_each(|&i| shares[i] += each);
            }
        }
        shares
    }

    /// The work that one more disc would do beside some, as [`Ledger::shared`] counts it.
    pub(crate) fn shared_beside(&self, columns: &[usize]) -> impl Fn(usize) -> f64 {
        let falling = |row: &Row| {
            let mut chances: Vec<f64> = columns.iter().map(|&c| row.chances[c]).collect();
            chances.sort_by(|a, b| b.total_cmp(a));
            chances
        };
        let ranked: Vec<Vec<f64>> = self.rows.iter().map(falling).collect();
        move |column| {
            let each = self.rows.iter().zip(&ranked).map(|(row, others)| {
                let own = row.chances[column];
                let place = others.partition_point(|other| *other >= own);
                let mut above = own;
                let mut share = 0.0;
                // Its own margin over the next, and every later one, is shared among all that are at least as good.
                for (k, next) in others[place..].iter().chain([&0.0]).enumerate() {
                    share += (above - next) / (place + k + 1) as f64;
                    above = *next;
                }
                row.strokes * share
            });
            total(each)
        }
    }
}

/// Strokes together. Not by `sum`, of which nothing is −0.
pub(crate) fn total(strokes: impl Iterator<Item = f64>) -> f64 {
    strokes.fold(0.0, |all, each| all + each)
}

impl Row {
    /// The best chance among some discs.
    pub(crate) fn best(&self, columns: &[usize]) -> f64 {
        columns.iter().map(|&c| self.chances[c]).fold(0.0, f64::max)
    }
}

/// Ideal discs: the reference of every peg of every slot, whether this arm wants it or not.
fn ideals(arm: &Arm, style: Style) -> Vec<(FlightNumbers, Thrown)> {
    let pegs = [Peg::Hook, Peg::Lean, Peg::Rail, Peg::Drift, Peg::Slide];
    let mut ideals: Vec<(FlightNumbers, Thrown)> = Vec::new();
    for slot in PEGGED {
        let family = Family::of(arm, style, slot);
        for peg in pegs {
            let numbers = FlightNumbers::from(Numbers::from(family.nearest(peg)).to_halves());
            if ideals.iter().all(|(known, _)| *known != numbers)
                && let Ok(disc) = numbers.disc(REFERENCE_MASS_KG)
            {
                ideals.push((numbers, Thrown::ordinary(disc, numbers.speed)));
            }
        }
    }
    ideals
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::catalogue::lines::lines_for;
    use crate::chance::search::chance;
    use crate::thrower::day::Conditions;
    use crate::thrower::player::Player;

    /// Against every ideal disc worked out on every third line in every weather.
    #[test]
    fn prop_the_best_ideal_disc_is_seldom_missed() {
        let (player, memo) = (Player::default(), Memo::default());
        let usual = Arm::of(&player, &Conditions::default()).unwrap();
        let ideals = ideals(&usual, player.strong_style);
        let (candidates, stand_ins) = Default::default();
        let makings = Makings {
            candidates,
            stand_ins,
            ideals,
            sieve: &VERDICT,
            in_calm: VERDICT.as_today(),
            memo: &memo,
        };
        let lines = lines_for(&player, &usual, &memo);
        let mut shortfalls = Vec::new();
        for weather in player.season.weathers() {
            let arm = Arm::of(&player, &weather.conditions).unwrap();
            for line in lines.iter().step_by(3) {
                let spec = asked(line, &arm);
                let on = On { arm: &arm, spec: &spec, memo: &memo };
                let told = makings.ideal(&on, 0.0).map_or(0.0, |(chance, _)| chance);
                let each = makings.ideals.iter().map(|(_, thrown)| chance(&arm, *thrown, &spec, &memo).worth);
                shortfalls.push(each.fold(0.0, f64::max) - told);
            }
        }
        let mean = shortfalls.iter().sum::<f64>() / shortfalls.len() as f64;
        let over = |points: f64| shortfalls.iter().filter(|s| **s > 0.01 * points).count();
        let found = format!("{} rows, {mean:.4} in the mean, {} over 5 points", shortfalls.len(), over(5.0));
        println!("{found}");
        assert!(shortfalls.iter().all(|s| *s >= 0.0), "{found}");
        assert!(mean < 0.01 && over(5.0) * 20 <= shortfalls.len(), "{found}");
    }
}
