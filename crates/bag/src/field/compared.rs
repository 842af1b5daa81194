//! Discs of a trial against one another: how much farther, to which side, how widely and how often where they should.
//!
//! Throws are compared within a set, so that a disc that was thrown more often on hyzer is not taken for one that goes less far. How a
//! disc scatters is drawn toward how all of them do, as a few throws of one say little of that.

use serde::Serialize;
use statrs::distribution::{ContinuousCDF, Normal, StudentsT};
use utoipa::ToSchema;

use crate::field::throw::FieldThrow;
use crate::field::trial::{TrialSet, way_of};
use crate::need::area::Spot;

/// So many throws of a usual disc stand behind what is thought of a candidate's scatter at first. Own judgement.
const USUAL_THROWS: f64 = 4.0;
/// How unsure the ratio of two candidates' scatters is at first, as a deviation of its logarithm. Own judgement.
const SCATTERS_DIFFER: f64 = 0.3;
/// The logarithm of a scatter read from throws is so much less sure than of normal ones, as they skip and turn over. Own judgement, held
/// to simulated trials.
const LESS_SURE: f64 = 1.6;

/// Something of one disc against another's.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Compared {
    /// How much more the first has.
    pub more: f64,
    /// Standard deviation of that.
    pub unsure: f64,
    /// How likely it has more, 0 to 1.
    pub chance: f64,
    /// Whether that is sure one way or the other, all comparisons of the trial together.
    pub is_sure: bool,
}

/// One disc against another.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HeadToHead {
    /// The first, by its place among the discs.
    pub first: usize,
    /// The other.
    pub second: usize,
    /// Distance, m.
    pub distance_m: Compared,
    /// Side, m, left positive.
    pub left_m: Compared,
    /// Logarithm of how widely they scatter: above 0 the first is the wilder.
    pub scatter: Compared,
    /// Share of throws that ended where they should; null without a line or a target.
    pub made: Option<Compared>,
}

/// Throws of one disc in one set.
pub(crate) struct Series<'a> {
    set: TrialSet,
    pub throws: Vec<&'a FieldThrow>,
    rests: Vec<Spot>,
}

/// A disc's throws, set by set, and what follows.
pub(crate) struct Shown<'a> {
    pub series: Vec<Series<'a>>,
    /// Sums of squares about the means of the sets, along and to the side, and how many throws stand behind them beyond those means.
    pub squares: [f64; 2],
    pub free: f64,
}

impl<'a> Shown<'a> {
    pub fn of(throws: impl Iterator<Item = &'a FieldThrow>) -> Shown<'a> {
        let mut series: Vec<Series> = Vec::new();
        for throw in throws {
            let set = TrialSet { style: throw.style, meant: throw.meant, wind: way_of(&throw.wind) };
            let at = series.iter().position(|s| s.set == set).unwrap_or(series.len());
            if at == series.len() {
                series.push(Series { set, throws: vec![], rests: vec![] });
            }
            series[at].throws.push(throw);
            series[at].rests.extend(throw.rest());
        }
        let (mut squares, mut free) = ([0.0; 2], 0.0);
        for s in series.iter().filter(|s| !s.rests.is_empty()) {
            let mean = s.mean();
            for r in &s.rests {
                squares[0] += (r.at_m - mean[0]).powi(2);
                squares[1] += (r.left_m - mean[1]).powi(2);
            }
            free += s.rests.len() as f64 - 1.0;
        }
        Shown { series, squares, free }
    }

    /// Variances along and to the side, drawn toward `usual`.
    fn variances(&self, usual: [f64; 2]) -> [f64; 2] {
        std::array::from_fn(|k| (USUAL_THROWS * usual[k] + self.squares[k]) / (USUAL_THROWS + self.free))
    }
}

impl Series<'_> {
    fn mean(&self) -> [f64; 2] {
        let n = self.rests.len().max(1) as f64;
        [
            self.rests.iter().map(|r| r.at_m).sum::<f64>() / n,
            self.rests.iter().map(|r| r.left_m).sum::<f64>() / n,
        ]
    }
}

/// How likely a deviate is at or below `z`.
fn normal(z: f64) -> f64 {
    Normal::standard().cdf(z)
}

fn compared(more: f64, unsure: f64, free: Option<f64>, least_sure: f64) -> Compared {
    let z = if unsure > 0.0 { more / unsure } else { 0.0 };
    let chance = match free.map(|free| StudentsT::new(0.0, 1.0, free)) {
        Some(Ok(t)) => t.cdf(z),
        _ => normal(z),
    };
    Compared { more, unsure, chance, is_sure: chance.max(1.0 - chance) >= least_sure }
}

/// Means of two discs over the sets that both were thrown in, and how unsure their difference is: along and to the side.
pub(crate) fn means(a: &Shown<'_>, b: &Shown<'_>, usual: [f64; 2], least_sure: f64) -> [Compared; 2] {
    let both: Vec<(&Series, &Series)> = a
        .series
        .iter()
        .filter_map(|x| Some((x, b.series.iter().find(|y| y.set == x.set)?)))
        .filter(|(x, y)| !x.rests.is_empty() && !y.rests.is_empty())
        .collect();
    let sets = both.len() as f64;
    let (of_a, of_b) = (a.variances(usual), b.variances(usual));
    std::array::from_fn(|k| {
        if both.is_empty() {
            return Compared { more: 0.0, unsure: 0.0, chance: 0.5, is_sure: false };
        }
        let more = both.iter().map(|(x, y)| x.mean()[k] - y.mean()[k]).sum::<f64>() / sets;
        let part = |of: fn(&(&Series, &Series)) -> usize, variance: f64| {
            both.iter().map(|pair| variance / of(pair) as f64).sum::<f64>() / (sets * sets)
        };
        let (pa, pb) = (part(|p| p.0.rests.len(), of_a[k]), part(|p| p.1.rests.len(), of_b[k]));
        // B. L. Welch 1947 and F. E. Satterthwaite 1946, from memory.
        // What is thought of them at first comes from the same throws, and makes them no surer.
        let free = (pa + pb).powi(2) / (pa * pa / a.free.max(1.0) + pb * pb / b.free.max(1.0)).max(1e-12);
        compared(more, (pa + pb).sqrt(), Some(free), least_sure)
    })
}

/// Which of two discs scatters more: the logarithm of the ratio, drawn toward none.
pub(crate) fn scatters(a: &Shown<'_>, b: &Shown<'_>, least_sure: f64) -> Compared {
    if a.free < 1.0 || b.free < 1.0 {
        return Compared { more: 0.0, unsure: SCATTERS_DIFFER, chance: 0.5, is_sure: false };
    }
    let of = |s: &Shown| {
        let [along, side] = s.squares.map(|x| x / s.free);
        let sum = (along + side).max(1e-9);
        // A sum of two unequal squares is as sure as so many equal ones.
        let free = s.free * sum * sum / (along * along + side * side).max(1e-12);
        (0.5 * sum.ln(), LESS_SURE.powi(2) / (2.0 * free))
    };
    let ((log_a, var_a), (log_b, var_b)) = (of(a), of(b));
    let seen = var_a + var_b;
    let before = SCATTERS_DIFFER.powi(2);
    let more = (log_a - log_b) * before / (before + seen);
    compared(more, (before * seen / (before + seen)).sqrt(), None, least_sure)
}

/// Share of throws that ended where they should, of two discs: each a beta distribution about what was counted, even at first.
pub(crate) fn zones(a: (usize, usize), b: (usize, usize), least_sure: f64) -> Compared {
    let of = |(made, tried): (usize, usize)| {
        let (yes, no) = (made as f64 + 1.0, (tried - made) as f64 + 1.0);
        let n = yes + no;
        (yes / n, yes * no / (n * n * (n + 1.0)))
    };
    let ((share_a, var_a), (share_b, var_b)) = (of(a), of(b));
    compared(share_a - share_b, (var_a + var_b).sqrt(), None, least_sure)
}
