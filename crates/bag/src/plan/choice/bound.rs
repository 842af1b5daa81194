//! How much a choice can save at most, when some things are settled.

use super::Problem;

/// What is settled of a thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Fate {
    Open,
    In,
    Out,
}

/// What is settled in a part of all choices.
#[derive(Debug, Clone)]
pub(super) struct Settled {
    pub things: Vec<Fate>,
    /// Kinds that are paid for, whatever is chosen of them.
    pub paid: Vec<bool>,
}

impl Settled {
    /// Things that are chosen in it.
    pub(super) fn chosen(&self) -> Vec<usize> {
        (0..self.things.len()).filter(|&j| self.things[j] == Fate::In).collect()
    }

    pub(super) fn is_open(&self, j: usize) -> bool {
        self.things[j] == Fate::Open
    }
}

/// Prices of the conditions: of every row, for counting only once; of every limit, for being kept. Never negative.
#[derive(Debug, Clone)]
pub(super) struct Duals {
    pub rows: Vec<f64>,
    pub limits: Vec<f64>,
}

/// A problem laid out for bounding it again and again.
pub(super) struct Bounder<'a> {
    problem: &'a Problem,
    /// Each row, the most worth first.
    rows: Vec<Vec<(usize, f64)>>,
    /// Things of each kind.
    kinds: Vec<Vec<usize>>,
}

/// A bound, and the choice that gives it.
#[derive(Debug, Clone)]
pub(super) struct Bounded {
    pub most: f64,
    pub chosen: Vec<bool>,
    /// Value of each thing under the prices.
    values: Vec<f64>,
}

/// A kind, and what so many more of its open things are worth at best: nothing taken first.
struct Profile {
    kind: usize,
    /// Open things, the most worth first; only those worth something.
    open: Vec<usize>,
    /// Worth of the first so many of them, less the price of the kind.
    worth: Vec<f64>,
}

impl<'a> Bounder<'a> {
    pub(super) fn of(problem: &'a Problem) -> Bounder<'a> {
        let mut rows = problem.rows.clone();
        for row in &mut rows {
            row.sort_by(|a, b| b.1.total_cmp(&a.1).then(a.0.cmp(&b.0)));
        }
        let mut kinds = vec![Vec::new(); problem.kinds.iter().max().map_or(0, |k| k + 1)];
        (0..problem.things).for_each(|j| kinds[problem.kinds[j]].push(j));
        Bounder { problem, rows, kinds }
    }

    /// Prices to begin with, from a choice: what a row's second best is worth.
    pub(super) fn first_duals(&self, chosen: &[usize]) -> Duals {
        let second = |row: &Vec<(usize, f64)>| {
            row.iter().filter(|(j, _)| chosen.contains(j)).nth(1).map_or(0.0, |(_, worth)| *worth)
        };
        let rows = self.rows.iter().map(second).collect();
        Duals { rows, limits: vec![0.0; self.problem.limits.len()] }
    }

    /// The bound under some prices.
    pub(super) fn bound(&self, duals: &Duals, settled: &Settled) -> Bounded {
        let p = self.problem;
        let mut values: Vec<f64> = p.prices.iter().map(|price| -price).collect();
        for (row, price) in self.rows.iter().zip(&duals.rows) {
            for &(j, worth) in row {
                if worth <= *price {
                    break;
                }
                values[j] += worth - price;
            }
        }
        for (limit, price) in p.limits.iter().zip(&duals.limits) {
            if *price > 0.0 {
                values.iter_mut().zip(&limit.weights).for_each(|(value, weight)| *value -= price * weight);
            }
        }
        let mut most: f64 = duals.rows.iter().sum::<f64>()
            + p.limits.iter().zip(&duals.limits).map(|(l, price)| l.most * price).sum::<f64>();
        let mut chosen: Vec<bool> = settled.things.iter().map(|f| *f == Fate::In).collect();
        most += chosen.iter().zip(&values).filter(|(c, _)| **c).map(|(_, v)| v).sum::<f64>();
        let room = p.capacity.saturating_sub(chosen.iter().filter(|c| **c).count());
        let (profiles, paid) = self.profiles(&values, settled);
        // The first kind is free; of an empty choice too, which only loosens the bound.
        most += p.kind_price - p.kind_price * paid as f64;
        let ahead = fill(&profiles, room);
        let mut left = best_place(ahead.last());
        most += ahead.last().map_or(0.0, |row| row[left]);
        for (k, profile) in profiles.iter().enumerate().rev() {
            let taken = (0..profile.worth.len().min(left + 1))
                .find(|&t| ahead[k][left - t] + profile.worth[t] >= ahead[k + 1][left])
                .unwrap_or(0);
            profile.open[..taken].iter().for_each(|&j| chosen[j] = true);
            left -= taken;
        }
        Bounded { most, chosen, values }
    }

    /// Things of each kind.
    pub(super) fn kinds(&self) -> &[Vec<usize>] {
        &self.kinds
    }

    fn is_paid(&self, kind: usize, settled: &Settled) -> bool {
        settled.paid[kind] || self.kinds[kind].iter().any(|&j| settled.things[j] == Fate::In)
    }

    /// What the kinds offer, and how many are paid for by what is settled.
    fn profiles(&self, values: &[f64], settled: &Settled) -> (Vec<Profile>, usize) {
        let mut paid = 0;
        let mut profiles = Vec::with_capacity(self.kinds.len());
        for (kind, things) in self.kinds.iter().enumerate() {
            let is_paid = self.is_paid(kind, settled);
            paid += usize::from(is_paid);
            let mut open: Vec<usize> =
                things.iter().copied().filter(|&j| settled.is_open(j) && values[j] > 0.0).collect();
            open.sort_by(|&a, &b| values[b].total_cmp(&values[a]).then(a.cmp(&b)));
            let first = if is_paid { 0.0 } else { -self.problem.kind_price };
            let mut sum = first;
            let mut worth = vec![0.0];
            worth.extend(open.iter().map(|&j| {
                sum += values[j];
                sum
            }));
            if !open.is_empty() {
                profiles.push(Profile { kind, open, worth });
            }
        }
        (profiles, paid)
    }

    /// For every open thing the bound were it settled: chosen, and not chosen.
    pub(super) fn if_settled(&self, bounded: &Bounded, settled: &Settled) -> Vec<(f64, f64)> {
        let p = self.problem;
        let room = p.capacity.saturating_sub(settled.chosen().len());
        let (profiles, _) = self.profiles(&bounded.values, settled);
        let ahead = fill(&profiles, room);
        let behind = fill_back(&profiles, room);
        let now = ahead.last().map_or(0.0, |row| row[best_place(Some(row))]);
        let mut found = vec![(f64::INFINITY, f64::INFINITY); p.things];
        let mut at = vec![None; self.kinds.len()];
        profiles.iter().enumerate().for_each(|(k, profile)| at[profile.kind] = Some(k));
        for (kind, things) in self.kinds.iter().enumerate() {
            // What all other kinds are worth with so much room.
            let others: Vec<f64> = match at[kind] {
                Some(k) => both(&ahead[k], &behind[k + 1]),
                None => ahead.last().cloned().unwrap_or_else(|| vec![0.0; room + 1]),
            };
            let price = if self.is_paid(kind, settled) { 0.0 } else { p.kind_price };
            let open: &[usize] = at[kind].map_or(&[], |k| &profiles[k].open);
            for &j in things.iter().filter(|&&j| settled.is_open(j)) {
                let rest = || open.iter().filter(|&&o| o != j).map(|&o| bounded.values[o]);
                let with = (room > 0).then(|| {
                    let mut sum = bounded.values[j] - price;
                    let mut best = sum + others[room - 1];
                    for (more, value) in rest().enumerate().take(room - 1) {
                        sum += value;
                        best = best.max(sum + others[room - 2 - more]);
                    }
                    best
                });
                let mut sum = -price;
                let mut without = others[room];
                for (more, value) in rest().enumerate().take(room) {
                    sum += value;
                    without = without.max(sum + others[room - 1 - more]);
                }
                let bound = |settled: f64| bounded.most - now + settled;
                found[j] = (with.map_or(f64::NEG_INFINITY, bound), bound(without));
            }
        }
        found
    }
}

/// The best that the first so many kinds are worth with room for so many things: a row for each number of kinds, from none.
fn fill(profiles: &[Profile], room: usize) -> Vec<Vec<f64>> {
    let mut rows = vec![vec![0.0; room + 1]];
    for profile in profiles {
        let next = added(&rows[rows.len() - 1], profile, room);
        rows.push(next);
    }
    rows
}

/// The same of the last so many kinds: row `k` is of those from `k` on.
fn fill_back(profiles: &[Profile], room: usize) -> Vec<Vec<f64>> {
    let mut rows = vec![vec![0.0; room + 1]];
    for profile in profiles.iter().rev() {
        let next = added(&rows[rows.len() - 1], profile, room);
        rows.push(next);
    }
    rows.reverse();
    rows
}

fn added(before: &[f64], profile: &Profile, room: usize) -> Vec<f64> {
    (0..=room)
        .map(|place| {
            let most = profile.worth.len().min(place + 1);
            (0..most).map(|t| before[place - t] + profile.worth[t]).fold(f64::NEG_INFINITY, f64::max)
        })
        .collect()
}

/// The best of two groups of kinds together with room for so many.
fn both(a: &[f64], b: &[f64]) -> Vec<f64> {
    (0..a.len())
        .map(|room| (0..=room).map(|t| a[t] + b[room - t]).fold(f64::NEG_INFINITY, f64::max))
        .collect()
}

/// All the room: a table of what at most so many are worth never falls.
fn best_place(row: Option<&Vec<f64>>) -> usize {
    row.map_or(0, |row| row.len() - 1)
}
