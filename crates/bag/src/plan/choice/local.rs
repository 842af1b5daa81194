//! A good choice soon: things added, dropped and exchanged as long as it gets better.

use super::{Problem, ROUNDING};

/// How good a choice is: first by how little it breaks, then by what it saves.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Score {
    broken: f64,
    saves: f64,
}

impl Score {
    fn beats(self, other: Score) -> bool {
        match () {
            () if self.broken < other.broken - ROUNDING => true,
            () if self.broken > other.broken + ROUNDING => false,
            () => self.saves > other.saves + ROUNDING,
        }
    }
}

/// The things of a choice and what each row is worth with them.
struct Held<'a> {
    problem: &'a Problem,
    /// Rows of each thing, with its worth there.
    columns: &'a [Vec<(usize, f64)>],
    is_in: Vec<bool>,
    size: usize,
    /// Things of each kind.
    kinds: Vec<usize>,
    /// Best and second best thing of each row with their worth; a place past the last thing where there is none.
    best: Vec<[(usize, f64); 2]>,
    /// Sum of each limit's weights.
    sums: Vec<f64>,
}

impl<'a> Held<'a> {
    fn of(problem: &'a Problem, columns: &'a [Vec<(usize, f64)>], chosen: &[usize]) -> Held<'a> {
        let mut held = Held {
            problem,
            columns,
            is_in: vec![false; problem.things],
            size: 0,
            kinds: vec![0; problem.kinds.iter().max().map_or(0, |k| k + 1)],
            best: vec![],
            sums: vec![0.0; problem.limits.len()],
        };
        for &j in chosen {
            held.count(j, true);
        }
        held.rank();
        held
    }

    fn count(&mut self, j: usize, comes: bool) {
        self.is_in[j] = comes;
        let kind = &mut self.kinds[self.problem.kinds[j]];
        if comes {
            self.size += 1;
            *kind += 1;
        } else {
            self.size -= 1;
            *kind -= 1;
        }
        let sign = if comes { 1.0 } else { -1.0 };
        self.sums.iter_mut().zip(&self.problem.limits).for_each(|(sum, l)| *sum += sign * l.weights[j]);
    }

    fn rank(&mut self) {
        let none = (self.problem.things, 0.0);
        let two = |row: &Vec<(usize, f64)>| {
            let mut best = [none, none];
            for &(j, worth) in row.iter().filter(|(j, _)| self.is_in[*j]) {
                if worth > best[0].1 {
                    best = [(j, worth), best[0]];
                } else if worth > best[1].1 {
                    best[1] = (j, worth);
                }
            }
            best
        };
        self.best = self.problem.rows.iter().map(two).collect();
    }

    fn change(&mut self, comes: Option<usize>, goes: Option<usize>) {
        goes.into_iter().for_each(|j| self.count(j, false));
        comes.into_iter().for_each(|j| self.count(j, true));
        self.rank();
    }

    /// How the score would be changed.
    fn after(&self, comes: Option<usize>, goes: Option<usize>, rows: f64, broken_now: f64) -> (f64, f64) {
        let p = self.problem;
        let price = |j: Option<usize>| j.map_or(0.0, |j| p.prices[j]);
        let kind = |j: Option<usize>| j.map(|j| p.kinds[j]);
        let comes_new = kind(comes).is_some_and(|k| self.kinds[k] == usize::from(kind(goes) == Some(k)));
        let goes_last = kind(goes).is_some_and(|k| self.kinds[k] == 1);
        let kinds = f64::from(u8::from(comes_new)) - f64::from(u8::from(goes_last));
        // The first kind is free: only an empty choice would see it, which is never better than one with something in it.
        let saves = rows - price(comes) + price(goes) - p.kind_price * kinds;
        let weight = |l: usize| {
            let of = |j: Option<usize>| j.map_or(0.0, |j| p.limits[l].weights[j]);
            self.sums[l] + of(comes) - of(goes) - p.limits[l].most
        };
        let broken: f64 = (0..p.limits.len()).map(|l| weight(l).max(0.0)).sum();
        (broken - broken_now, saves)
    }

    fn broken(&self) -> f64 {
        let each = self.sums.iter().zip(&self.problem.limits).map(|(sum, l)| (sum - l.most).max(0.0));
        each.sum()
    }

    fn chosen(&self) -> Vec<usize> {
        (0..self.problem.things).filter(|&j| self.is_in[j]).collect()
    }
}

/// Betters a choice until no thing added, dropped or exchanged betters it further. Only `open` things move; the rest stay as they
/// are.
pub(super) fn bettered(
    problem: &Problem,
    columns: &[Vec<(usize, f64)>],
    chosen: &[usize],
    open: impl Fn(usize) -> bool,
    is_stopped: &dyn Fn() -> bool,
) -> Vec<usize> {
    let mut held = Held::of(problem, columns, chosen);
    while let Some((comes, goes)) = best_change(&held, &open) {
        held.change(comes, goes);
        if is_stopped() {
            break;
        }
    }
    held.chosen()
}

type ChangeOf = (Option<usize>, Option<usize>);

/// The change that betters a choice most.
fn best_change(held: &Held, open: &impl Fn(usize) -> bool) -> Option<ChangeOf> {
    let p = held.problem;
    let broken_now = held.broken();
    let now = Score { broken: 0.0, saves: 0.0 };
    let mut best: Option<(Score, ChangeOf)> = None;
    let mut offer = |comes: Option<usize>, goes: Option<usize>, rows: f64| {
        let (broken, saves) = held.after(comes, goes, rows, broken_now);
        let score = Score { broken, saves };
        if score.beats(best.as_ref().map_or(now, |b| b.0)) {
            best = Some((score, (comes, goes)));
        }
    };
    let coming: Vec<usize> = (0..p.things).filter(|&j| !held.is_in[j] && open(j)).collect();
    let gain = |worths: &[f64], j: usize| -> f64 {
        held.columns[j].iter().map(|&(r, worth)| (worth - worths[r]).max(0.0)).sum()
    };
    let mut worths: Vec<f64> = held.best.iter().map(|b| b[0].1).collect();
    if held.size < p.capacity {
        coming.iter().for_each(|&j| offer(Some(j), None, gain(&worths, j)));
    }
    for goes in (0..p.things).filter(|&j| held.is_in[j] && open(j)) {
        let mut lost = 0.0;
        for &(r, _) in held.columns[goes].iter().filter(|(r, _)| held.best[*r][0].0 == goes) {
            lost += held.best[r][0].1 - held.best[r][1].1;
            worths[r] = held.best[r][1].1;
        }
        offer(None, Some(goes), -lost);
        coming.iter().for_each(|&j| offer(Some(j), Some(goes), gain(&worths, j) - lost));
        held.columns[goes].iter().for_each(|&(r, _)| worths[r] = held.best[r][0].1);
    }
    best.map(|(_, change)| change)
}
