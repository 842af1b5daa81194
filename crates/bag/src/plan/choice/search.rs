//! The search: bound, settle what the bound decides, split the rest, the most promising part first.

use std::cmp::Ordering;
use std::collections::BinaryHeap;
use std::rc::Rc;

use super::bound::{Bounded, Bounder, Duals, Fate, Settled};
use super::local::bettered;
use super::{Problem, ROUNDING, Way};

/// What was chosen, and how sure it is that nothing saves more.
#[derive(Debug, Clone, PartialEq)]
pub struct Chosen {
    /// The things, in ascending order; none if no choice keeps every condition, or none was found in time.
    pub things: Option<Vec<usize>>,
    /// What it saves.
    pub saves: f64,
    /// What no choice can save more than; equal to `saves`, but for the tolerance, where it is proven the best.
    pub most: f64,
    /// Whether the search came to its end.
    pub is_proven: bool,
    /// How many parts were looked at.
    pub parts: usize,
}

/// Steps of the prices at the root, and in every part after it.
const FIRST_STEPS: usize = 400;
const STEPS: usize = 40;
/// Steps without a better bound after which they become shorter, and by how much.
const PATIENCE: usize = 12;
const SHORTER: f64 = 0.6;
/// What of a step's direction is kept for the next.
const KEPT: f64 = 0.4;
/// What the latest choice counts in the running mean that tells what to split.
const LATEST: f64 = 0.1;

/// A kind is split by while it is chosen in more than this part of the time, and not chosen in more too.
const IN_DOUBT: f64 = 0.02;

/// A part of all choices: those with some things settled.
struct Part {
    most: f64,
    /// In which order parts came: of equal ones the later, which is the deeper.
    born: usize,
    /// Whether nothing is bounded yet.
    is_new: bool,
    settled: Settled,
    duals: Rc<Duals>,
}

/// By what a part is split in two.
enum Split {
    /// Without a thing, and with it.
    Thing(usize),
    /// With nothing of a kind, and with the kind paid for.
    Kind(usize),
}

impl PartialEq for Part {
    fn eq(&self, other: &Part) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}
impl Eq for Part {}
impl PartialOrd for Part {
    fn partial_cmp(&self, other: &Part) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}
impl Ord for Part {
    fn cmp(&self, other: &Part) -> Ordering {
        self.most.total_cmp(&other.most).then(self.born.cmp(&other.born))
    }
}

struct Search<'a> {
    problem: &'a Problem,
    bounder: Bounder<'a>,
    columns: Vec<Vec<(usize, f64)>>,
    /// What each row is worth at most, against the mean row. Its price goes the farther in a step: with equal steps those of a few
    /// rows that are worth very much, as putts are, never came to where they belong, and a bound stayed loose for minutes.
    scales: Vec<f64>,
    tolerance: f64,
    best: Option<(f64, Vec<usize>)>,
    /// What choices that were left out for saving too little more could save at most.
    left_out: f64,
    is_stopped: &'a dyn Fn() -> bool,
}

/// Chooses what saves most. Choices that save no more than `tolerance` beyond the one found are not looked for. `hint` is a choice
/// to begin with, if there is one; `is_stopped` is asked often, and ends the search with what it has.
pub fn solve(
    problem: &Problem,
    tolerance: f64,
    hint: Option<&[usize]>,
    is_stopped: &dyn Fn() -> bool,
) -> Chosen {
    let problem = &evened(problem);
    let mut columns = vec![Vec::new(); problem.things];
    for (r, row) in problem.rows.iter().enumerate() {
        row.iter().for_each(|&(j, worth)| columns[j].push((r, worth)));
    }
    let bounder = Bounder::of(problem);
    let scales = scales(problem);
    let (best, left_out) = (None, f64::NEG_INFINITY);
    Search { problem, bounder, columns, scales, tolerance, best, left_out, is_stopped }.run(hint)
}

/// What a row is worth at most.
fn most(row: &[(usize, f64)]) -> f64 {
    row.iter().map(|(_, worth)| *worth).fold(0.0, f64::max)
}

/// See [`Search::scales`].
fn scales(problem: &Problem) -> Vec<f64> {
    let most: Vec<f64> = problem.rows.iter().map(|row| most(row)).collect();
    let mean = most.iter().sum::<f64>() / most.len() as f64;
    // Where no row is worth anything all are alike.
    most.iter().map(|m| if mean > 0.0 { m / mean } else { 1.0 }).collect()
}

/// The same problem with the greatest weight of every limit 1: prices of limits in grams and in discs are found by steps of one
/// length.
fn evened(problem: &Problem) -> Problem {
    let mut evened = problem.clone();
    for limit in &mut evened.limits {
        let greatest = limit.weights.iter().fold(0.0_f64, |most, w| most.max(w.abs()));
        if greatest > 0.0 {
            limit.weights.iter_mut().for_each(|w| *w /= greatest);
            limit.most /= greatest;
        }
    }
    evened
}

impl Search<'_> {
    fn run(mut self, hint: Option<&[usize]>) -> Chosen {
        let (mut parts, mut born, mut looked_at) = (BinaryHeap::new(), 0, 0);
        for settled in self.roots() {
            let open = |j: usize| settled.is_open(j);
            let from = |more: &[usize]| {
                let mut start = settled.chosen();
                start.extend(more.iter().copied().filter(|&j| open(j)));
                start.truncate(self.problem.capacity);
                bettered(self.problem, &self.columns, &start, open, self.is_stopped)
            };
            let mut found = vec![from(&[])];
            found.extend(hint.map(from));
            let duals = Rc::new(self.bounder.first_duals(&found[0]));
            found.into_iter().for_each(|chosen| self.offer(chosen));
            born += 1;
            parts.push(Part { most: self.most_of_all(), born, is_new: true, settled, duals });
        }
        while let Some(mut part) = parts.pop() {
            if part.most <= self.enough() {
                self.leave_out(part.most);
                continue;
            }
            if (self.is_stopped)() {
                parts.push(part);
                break;
            }
            looked_at += 1;
            let steps = if part.is_new { FIRST_STEPS } else { STEPS };
            match self.look(&mut part, steps) {
                None => {}
                Some((split, duals)) => {
                    for settled in self.split(&part.settled, split) {
                        born += 1;
                        let duals = duals.clone();
                        parts.push(Part { most: part.most, born, is_new: false, settled, duals });
                    }
                }
            }
        }
        let is_proven = parts.is_empty();
        let open = parts.into_iter().map(|p| p.most).fold(self.left_out, f64::max);
        let saves = self.best.as_ref().map_or(f64::NEG_INFINITY, |b| b.0);
        Chosen { things: self.best.map(|b| b.1), saves, most: open.max(saves), is_proven, parts: looked_at }
    }

    /// What everything together is worth: no choice saves more.
    fn most_of_all(&self) -> f64 {
        self.problem.rows.iter().map(|row| most(row)).sum()
    }

    /// Beyond this a part is worth looking at.
    fn enough(&self) -> f64 {
        self.best.as_ref().map_or(f64::NEG_INFINITY, |b| b.0 + self.tolerance.max(ROUNDING))
    }

    /// Each way in which the conditions with several ways can hold.
    fn roots(&self) -> Vec<Settled> {
        let p = self.problem;
        let begin = Way { within: p.within.clone(), without: p.without.clone() };
        let mut ways = vec![begin];
        for either in &p.either {
            ways = ways
                .iter()
                .flat_map(|way| {
                    either.iter().map(|more| Way {
                        within: [&way.within[..], &more.within].concat(),
                        without: [&way.without[..], &more.without].concat(),
                    })
                })
                .collect();
        }
        let settled = |way: Way| {
            let mut things = vec![Fate::Open; p.things];
            way.without.iter().for_each(|&j| things[j] = Fate::Out);
            let clash = way.within.iter().any(|&j| things[j] == Fate::Out);
            way.within.iter().for_each(|&j| things[j] = Fate::In);
            (!clash).then(|| Settled { things, paid: vec![false; self.bounder.kinds().len()] })
        };
        ways.into_iter().filter_map(settled).collect()
    }

    fn offer(&mut self, chosen: Vec<usize>) {
        if !self.problem.allows(&chosen) {
            return;
        }
        let saves = self.problem.value(&chosen);
        let better = self.best.as_ref().is_none_or(|(best, things)| {
            // Of choices that save the same the first in order, whatever was found first.
            saves > best + ROUNDING || (saves > best - ROUNDING && chosen < *things)
        });
        if better {
            self.best = Some((saves, chosen));
        }
    }

    fn leave_out(&mut self, most: f64) {
        self.left_out = self.left_out.max(most);
    }

    /// Bounds a part and settles in it what the bound decides: by which thing to split what is left, with the prices it was bounded
    /// by; none if nothing is left.
    fn look(&mut self, part: &mut Part, steps: usize) -> Option<(Split, Rc<Duals>)> {
        if !self.propagate(&mut part.settled.things) {
            return None;
        }
        let p = self.problem;
        let mut duals = (*part.duals).clone();
        let mut best_duals = duals.clone();
        let mut best: Option<Bounded> = None;
        let mut mean: Vec<f64> = vec![0.0; p.things];
        let mut kinds_mean: Vec<f64> = vec![0.0; self.bounder.kinds().len()];
        let (mut direction_rows, mut direction_limits) = (vec![0.0; p.rows.len()], vec![0.0; p.limits.len()]);
        let (mut length, mut idle) = (1.0, 0);
        for step in 0..steps {
            let bounded = self.bounder.bound(&duals, &part.settled);
            let weight = if step == 0 { 1.0 } else { LATEST };
            mean.iter_mut()
                .zip(&bounded.chosen)
                .for_each(|(m, &c)| *m = (1.0 - weight) * *m + weight * f64::from(u8::from(c)));
            kinds_mean.iter_mut().zip(self.bounder.kinds()).for_each(|(m, things)| {
                let is_used = things.iter().any(|&j| bounded.chosen[j]);
                *m = (1.0 - weight) * *m + weight * f64::from(u8::from(is_used));
            });
            let better = best.as_ref().is_none_or(|b| bounded.most < b.most - ROUNDING);
            if better {
                best_duals.rows.clone_from(&duals.rows);
                best_duals.limits.clone_from(&duals.limits);
                idle = 0;
            } else {
                idle += 1;
            }
            let most = bounded.most;
            let slack = self.slack(&bounded.chosen, &duals);
            if better {
                best = Some(bounded);
            }
            let known = best.as_ref().map_or(f64::INFINITY, |b| b.most);
            if known <= self.enough() || (self.is_stopped)() {
                break;
            }
            if idle >= PATIENCE {
                (length, idle) = (length * SHORTER, 0);
                duals.clone_from(&best_duals);
            }
            let target = self.best.as_ref().map_or(known - known.abs().max(1.0) * 0.05, |b| b.0);
            follow(&mut direction_rows, &slack.0);
            follow(&mut direction_limits, &slack.1);
            let of_rows = || direction_rows.iter().zip(&self.scales).map(|(d, scale)| scale * d);
            let norm: f64 = of_rows().zip(&direction_rows).map(|(step, d)| step * d).sum::<f64>()
                + direction_limits.iter().map(|d| d * d).sum::<f64>();
            if norm < ROUNDING {
                break;
            }
            let by = length * (most - target).max(ROUNDING) / norm;
            duals.rows.iter_mut().zip(of_rows()).for_each(|(u, step)| *u = (*u - by * step).max(0.0));
            duals.limits.iter_mut().zip(&direction_limits).for_each(|(u, d)| *u = (*u - by * d).max(0.0));
        }
        let bounded = best?;
        part.most = part.most.min(bounded.most);
        let chosen: Vec<usize> = (0..p.things).filter(|&j| bounded.chosen[j]).collect();
        self.try_from(&chosen, &part.settled);
        if part.most <= self.enough() {
            self.leave_out(part.most);
            return None;
        }
        self.settle(&bounded, &mut part.settled);
        if !self.propagate(&mut part.settled.things) {
            return None;
        }
        match self.most_doubtful(&part.settled, &mean, &kinds_mean) {
            Some(split) => Some((split, Rc::new(best_duals))),
            None => {
                self.offer(part.settled.chosen());
                None
            }
        }
    }

    /// What the bounds of a part could decide least: a kind where kinds have a price and one is in doubt, else a thing. `mean` and
    /// `kinds_mean` tell how often each was chosen.
    fn most_doubtful(&self, settled: &Settled, mean: &[f64], kinds_mean: &[f64]) -> Option<Split> {
        let doubt = |mean: f64| 0.5 - (mean - 0.5).abs();
        let kinds = self.bounder.kinds();
        let in_doubt = |&k: &usize| {
            !settled.paid[k]
                && doubt(kinds_mean[k]) > IN_DOUBT
                && kinds[k].iter().all(|&j| settled.things[j] != Fate::In)
                && kinds[k].iter().any(|&j| settled.is_open(j))
        };
        let by_doubt =
            |a: &usize, b: &usize| doubt(kinds_mean[*a]).total_cmp(&doubt(kinds_mean[*b])).then(b.cmp(a));
        let has_price = self.problem.kind_price > 0.0;
        let kind = (0..kinds.len()).filter(|_| has_price).filter(in_doubt).max_by(by_doubt);
        kind.map(Split::Kind).or_else(|| {
            let weight = |j: usize| (doubt(mean[j]), self.columns[j].len());
            let open = (0..self.problem.things).filter(|&j| settled.is_open(j));
            let most = open.max_by(|&a, &b| {
                let (x, y) = (weight(a), weight(b));
                x.0.total_cmp(&y.0).then(x.1.cmp(&y.1)).then(b.cmp(&a))
            });
            most.map(Split::Thing)
        })
    }

    /// Both parts of a part.
    fn split(&self, settled: &Settled, by: Split) -> [Settled; 2] {
        let (mut without, mut with) = (settled.clone(), settled.clone());
        match by {
            Split::Thing(j) => {
                without.things[j] = Fate::Out;
                with.things[j] = Fate::In;
            }
            Split::Kind(k) => {
                self.bounder.kinds()[k].iter().for_each(|&j| without.things[j] = Fate::Out);
                with.paid[k] = true;
            }
        }
        [without, with]
    }

    /// How far what a bound chose keeps each condition: a row counted once, a limit kept; below 0 where it does not.
    fn slack(&self, chosen: &[bool], duals: &Duals) -> (Vec<f64>, Vec<f64>) {
        let p = self.problem;
        let counted = |(row, price): (&Vec<(usize, f64)>, &f64)| {
            1.0 - row.iter().filter(|(j, worth)| chosen[*j] && worth > price).count() as f64
        };
        let rows = p.rows.iter().zip(&duals.rows).map(counted).collect();
        let chosen = || (0..p.things).filter(|&j| chosen[j]);
        let limits = p.limits.iter().map(|l| -l.excess(chosen())).collect();
        (rows, limits)
    }

    /// Betters what a bound chose, within a part and then free of it.
    fn try_from(&mut self, chosen: &[usize], settled: &Settled) {
        let found = bettered(self.problem, &self.columns, chosen, |j| settled.is_open(j), self.is_stopped);
        self.offer(found);
    }

    /// Settles what would save too little otherwise.
    fn settle(&mut self, bounded: &Bounded, settled: &mut Settled) {
        let enough = self.enough();
        for (j, (with, without)) in self.bounder.if_settled(bounded, settled).into_iter().enumerate() {
            if !settled.is_open(j) {
                continue;
            }
            if with <= enough {
                settled.things[j] = Fate::Out;
                self.leave_out(with);
            } else if without <= enough {
                settled.things[j] = Fate::In;
                self.leave_out(without);
            }
        }
    }

    /// Settles what the limits leave no choice about; false if they cannot be kept.
    fn propagate(&self, fates: &mut [Fate]) -> bool {
        let p = self.problem;
        loop {
            let size = fates.iter().filter(|f| **f == Fate::In).count();
            if size > p.capacity {
                return false;
            }
            if size == p.capacity {
                fates.iter_mut().filter(|f| **f == Fate::Open).for_each(|f| *f = Fate::Out);
            }
            let mut settled = false;
            for limit in &p.limits {
                let each = || fates.iter().zip(&limit.weights);
                let least: f64 = each()
                    .map(|(fate, weight)| match fate {
                        Fate::In => *weight,
                        Fate::Open => weight.min(0.0),
                        Fate::Out => 0.0,
                    })
                    .sum();
                let room = limit.most - least + ROUNDING;
                if room < 0.0 {
                    return false;
                }
                for (fate, weight) in fates.iter_mut().zip(&limit.weights) {
                    if *fate == Fate::Open && weight.abs() > room {
                        *fate = if *weight > 0.0 { Fate::Out } else { Fate::In };
                        settled = true;
                    }
                }
            }
            if !settled {
                return self.have_room(fates);
            }
        }
    }

    /// Whether there is room for all that is asked for at least: of limits that share nothing each needs its own.
    fn have_room(&self, fates: &mut [Fate]) -> bool {
        let p = self.problem;
        let mut room = p.capacity - fates.iter().filter(|f| **f == Fate::In).count();
        let mut asked_for = vec![false; p.things];
        for limit in p.limits.iter().filter(|l| l.weights.iter().all(|w| *w == 0.0 || *w == -1.0)) {
            let of = |j: &usize| limit.weights[*j] < 0.0;
            let has = (0..p.things).filter(of).filter(|&j| fates[j] == Fate::In).count();
            let lacks = (-limit.most).ceil() as isize - has as isize;
            let open = || (0..p.things).filter(of).filter(|&j| fates[j] == Fate::Open);
            if lacks <= 0 || open().any(|j| asked_for[j]) {
                continue;
            }
            open().for_each(|j| asked_for[j] = true);
            match room.checked_sub(lacks as usize) {
                Some(left) => room = left,
                None => return false,
            }
        }
        if room == 0 {
            let idle = fates.iter_mut().zip(&asked_for).filter(|(f, asked)| **f == Fate::Open && !**asked);
            idle.for_each(|(f, _)| *f = Fate::Out);
        }
        true
    }
}

fn follow(direction: &mut [f64], slack: &[f64]) {
    direction.iter_mut().zip(slack).for_each(|(d, s)| *d = KEPT * *d + s);
}
