//! The best choice of things of which on every row the best chosen one counts, proven.
//!
//! A row is worth what its best chosen thing is worth on it. What is saved is the sum over the rows, less a price for every
//! thing chosen and a price for every kind beyond the first. This is the problem of locating facilities with kinds (p-median
//! with fixed charges; M. S. Daskin, *Network and Discrete Location*, 1995, from memory); nothing in here knows of discs.
//!
//! The proof is a bound from above: the rule that a row counts only once is taken into the objective with a price a row
//! (Lagrangian relaxation; M. L. Fisher in *Management Science* 27, 1981, from memory), which leaves a choice that a table of
//! kinds by size solves exactly. What the bound cannot decide is split in two, the most promising part first.

mod bound;
mod local;
mod search;

pub use search::{Chosen, solve};

/// A condition on what is chosen: the sum of the weights of what is chosen is at most `most`.
#[derive(Debug, Clone, PartialEq)]
pub struct Limit {
    /// Weight of each thing; at least so much of something is a sum of negative weights.
    pub weights: Vec<f64>,
    /// What the sum may be at most.
    pub most: f64,
}

impl Limit {
    /// At most `most` of some things.
    pub fn at_most(things: impl Fn(usize) -> bool, n: usize, most: usize) -> Limit {
        Limit { weights: (0..n).map(|j| f64::from(u8::from(things(j)))).collect(), most: most as f64 }
    }

    /// At least `least` of some things.
    pub fn at_least(things: impl Fn(usize) -> bool, n: usize, least: usize) -> Limit {
        Limit { weights: (0..n).map(|j| -f64::from(u8::from(things(j)))).collect(), most: -(least as f64) }
    }

    /// A thing only beside at least one of some others.
    pub fn only_beside(thing: usize, others: impl Fn(usize) -> bool, n: usize) -> Limit {
        let weight = |j: usize| match () {
            () if j == thing => 1.0,
            () if others(j) => -1.0,
            () => 0.0,
        };
        Limit { weights: (0..n).map(weight).collect(), most: 0.0 }
    }

    fn excess(&self, chosen: impl Iterator<Item = usize>) -> f64 {
        chosen.map(|j| self.weights[j]).sum::<f64>() - self.most
    }
}

/// Sums of weights that exceed a limit by no more than this are within it.
const ROUNDING: f64 = 1e-9;

/// What is chosen from, and what counts.
#[derive(Debug, Clone, PartialEq)]
pub struct Problem {
    /// How many things there are.
    pub things: usize,
    /// What each row is worth with each thing alone, not negative; things worth nothing on it are left out.
    pub rows: Vec<Vec<(usize, f64)>>,
    /// Price of each thing.
    pub prices: Vec<f64>,
    /// Kind of each thing, numbered from 0.
    pub kinds: Vec<usize>,
    /// Price of each kind beyond the first, not negative.
    pub kind_price: f64,
    /// Most that may be chosen.
    pub capacity: usize,
    /// What must be chosen.
    pub within: Vec<usize>,
    /// What may not be chosen.
    pub without: Vec<usize>,
    /// Further conditions.
    pub limits: Vec<Limit>,
    /// Of each of these at least one must hold; none of them is empty.
    pub either: Vec<Vec<Way>>,
}

/// One way in which a condition with several ways can hold.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Way {
    /// Chosen in it.
    pub within: Vec<usize>,
    /// Not chosen in it.
    pub without: Vec<usize>,
}

impl Problem {
    /// A choice of up to `capacity` things without any condition or price.
    pub fn free(things: usize, rows: Vec<Vec<(usize, f64)>>, capacity: usize) -> Problem {
        Problem {
            things,
            rows,
            prices: vec![0.0; things],
            kinds: (0..things).collect(),
            kind_price: 0.0,
            capacity,
            within: vec![],
            without: vec![],
            limits: vec![],
            either: vec![],
        }
    }

    /// What a choice saves: what its rows are worth less its prices.
    pub fn value(&self, chosen: &[usize]) -> f64 {
        let is_in = self.marked(chosen);
        let best = |row: &Vec<(usize, f64)>| {
            row.iter().filter(|(j, _)| is_in[*j]).map(|(_, worth)| *worth).fold(0.0, f64::max)
        };
        let worth: f64 = self.rows.iter().map(best).sum();
        let prices: f64 = chosen.iter().map(|&j| self.prices[j]).sum();
        worth - prices - self.kind_price * self.kinds_of(chosen).saturating_sub(1) as f64
    }

    /// Whether a choice keeps every condition.
    pub fn allows(&self, chosen: &[usize]) -> bool {
        let is_in = self.marked(chosen);
        let holds =
            |way: &Way| way.within.iter().all(|&j| is_in[j]) && !way.without.iter().any(|&j| is_in[j]);
        chosen.len() <= self.capacity
            && self.within.iter().all(|&j| is_in[j])
            && !self.without.iter().any(|&j| is_in[j])
            && self.limits.iter().all(|l| l.excess(chosen.iter().copied()) <= ROUNDING)
            && self.either.iter().all(|ways| ways.iter().any(holds))
    }

    /// How many kinds a choice is of.
    pub fn kinds_of(&self, chosen: &[usize]) -> usize {
        let mut kinds: Vec<usize> = chosen.iter().map(|&j| self.kinds[j]).collect();
        kinds.sort_unstable();
        kinds.dedup();
        kinds.len()
    }

    fn marked(&self, chosen: &[usize]) -> Vec<bool> {
        let mut is_in = vec![false; self.things];
        chosen.iter().for_each(|&j| is_in[j] = true);
        is_in
    }
}
