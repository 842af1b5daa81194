//! How long a disc lasts: what its plastic and mould let expect, and what the dates of its marks teach.
//!
//! Lives are spread about what is expected as a product of two factors, one of the plastic family and one of the disc, each lognormal.
//! A disc whose marks tell how fast it wore is one noisy sight of its own life; what is known of a family is what the other discs of
//! it showed. Both are sums of normal evidence in the logarithm, weighted by its certainty (A. Gelman and others, *Bayesian Data
//! Analysis*, 3rd ed., 2013, section 5.4, from memory). Deviations are own judgement.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::mark::Mark;
use crate::disc::spec::Disc;
use crate::disc::wear::{Grade, TURN_LOST, effective_throws, fade_lost, throws_to};
use crate::thrower::calendar::{Pace, days};

/// How long a disc lasts.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WearLife {
    /// Effective throws after which 63 % of the wear has happened: as likely more as less.
    pub throws: f64,
    /// Nine in ten last longer than this.
    pub least_throws: f64,
    /// One in ten lasts longer than this.
    pub most_throws: f64,
    /// Whether its own marks, or those of others of its plastic, have told.
    pub is_learned: bool,
    /// What it rests on, in words.
    pub words: String,
}

/// Deviations of the logarithm of a life: between families of plastic, and between discs of one.
const FAMILY_DEVIATION: f64 = 0.35;
const DISC_DEVIATION: f64 = 0.25;
/// Of how often a disc was thrown, beside what is reckoned.
const USE_DEVIATION: f64 = 0.3;
/// Of a share of wear told by a grade.
const GRADE_DEVIATION: f64 = 0.08;
/// Of a difference between two observed turns or fades: a quarter of a point each.
const OBSERVED_DEVIATION: f64 = 0.35;
/// Tenth and nine tenths of a normal distribution lie so many deviations from its middle.
const NINE_TENTHS: f64 = 1.2816;
/// Marks closer together than this tell nothing, days.
const APART_DAYS: f64 = 14.0;
/// Wear beyond this share is not told apart from more.
const TOLD_APART: f64 = 0.98;

/// What marks tell of a life: the logarithm of its factor over what is expected, and the variance of that.
#[derive(Debug, Clone, Copy, PartialEq)]
struct Sight {
    log_factor: f64,
    variance: f64,
}

/// How fast a disc that was counted wore, against what is reckoned for the same days; `None` if it was not counted long enough, or
/// nothing is reckoned for it.
pub(super) fn counted_factor(disc: &Disc, reckoned: &Pace) -> Option<f64> {
    let counted = |mark: &&Mark| mark.wear.throws.is_some();
    let marks = &disc.spec.keeping.marks;
    let (first, last) = (marks.iter().find(counted)?, marks.iter().rev().find(counted)?);
    let effective = |mark: &Mark| effective_throws(mark.wear.throws.unwrap_or(0), mark.wear.hard_hits);
    let (wore, expected) = (effective(last) - effective(first), reckoned.between(first.on, last.on));
    (days(first.on, last.on) >= APART_DAYS && wore >= 0.0 && expected > 0.0).then_some(wore / expected)
}

/// Share of wear on the day of a mark: when a grade is moved it lies half way between the two.
fn share_at(marks: &[Mark], k: usize) -> f64 {
    let own = marks[k].wear.grade.share();
    match k.checked_sub(1).map(|before| marks[before].wear) {
        Some(before) if before.throws.is_none() && before.grade != marks[k].wear.grade => {
            0.5 * (before.grade.share() + own)
        }
        _ => own,
    }
}

/// Wear between two observations of the numbers, as far as turn and fade tell it; with its deviation.
fn observed_change(first: &Mark, last: &Mark) -> Option<(f64, f64)> {
    let (a, b) = (first.observed?, last.observed?);
    if a == b {
        return None;
    }
    // By how much turn and fade fall for all the wear there is.
    let (by_turn, by_fade) = (TURN_LOST, fade_lost(a.fade));
    let certain = by_turn * by_turn + by_fade * by_fade;
    let worn = (by_turn * (a.turn - b.turn) + by_fade * (a.fade - b.fade)) / certain;
    Some((worn, OBSERVED_DEVIATION / certain.sqrt()))
}

/// What the marks of a disc tell of its life, if they reach far enough and it has worn between them.
fn sight(disc: &Disc, pace: &Pace) -> Option<Sight> {
    let marks: Vec<Mark> =
        disc.spec.keeping.marks.iter().copied().filter(|mark| mark.wear.throws.is_none()).collect();
    let expected = disc.spec.wear_life_throws();
    let of = |from: usize, to: usize, (worn_from, worn_to): (f64, f64), deviation: f64| {
        let (a, b) = (throws_to(worn_from, 1.0), throws_to(worn_to.min(TOLD_APART), 1.0));
        let thrown = pace.between(marks[from].on, marks[to].on);
        let far = days(marks[from].on, marks[to].on) >= APART_DAYS;
        // The slope of −ln(1 − w) turns a deviation of the share into one of the wear in lives.
        let slope = 1.0 / (1.0 - worn_to.min(TOLD_APART));
        (far && b > a + 0.01 && thrown > 0.0).then(|| Sight {
            log_factor: (thrown / (expected * (b - a))).ln(),
            variance: USE_DEVIATION.powi(2) + 2.0 * (deviation * slope / (b - a)).powi(2),
        })
    };
    let moved = (1..marks.len()).filter(|&k| marks[k].wear.grade != marks[k - 1].wear.grade).max();
    let by_grade =
        moved.and_then(|last| of(0, last, (share_at(&marks, 0), share_at(&marks, last)), GRADE_DEVIATION));
    let observed: Vec<usize> = (0..marks.len()).filter(|&k| marks[k].observed.is_some()).collect();
    let by_numbers = observed.first().zip(observed.last()).and_then(|(&a, &b)| {
        let (worn, deviation) = observed_change(&marks[a], &marks[b])?;
        let from = share_at(&marks, a);
        of(a, b, (from, from + worn), deviation)
    });
    let told = [by_grade, by_numbers];
    let certainty: f64 = told.iter().flatten().map(|s| 1.0 / s.variance).sum();
    let mean = told.iter().flatten().map(|s| s.log_factor / s.variance).sum::<f64>() / certainty;
    // How often it was thrown is guessed once for both.
    (certainty > 0.0)
        .then(|| Sight { log_factor: mean, variance: (1.0 / certainty).max(USE_DEVIATION.powi(2)) })
}

/// Sum of evidence about a normal quantity: its mean and variance.
fn weighed(prior_variance: f64, sights: impl Iterator<Item = (f64, f64)>) -> (f64, f64) {
    let (mut sum, mut certainty) = (0.0, 1.0 / prior_variance);
    for (value, variance) in sights {
        sum += value / variance;
        certainty += 1.0 / variance;
    }
    (sum / certainty, 1.0 / certainty)
}

/// How long each of some discs lasts, each with the pace at which it is taken to have been thrown.
pub(super) fn lives(discs: &[(&Disc, &Pace)]) -> Vec<WearLife> {
    let sights: Vec<Option<Sight>> = discs.iter().map(|(disc, pace)| sight(disc, pace)).collect();
    let plastic = |k: usize| discs[k].0.spec.plastic;
    (0..discs.len())
        .map(|k| {
            let others = (0..discs.len()).filter(|&o| o != k && plastic(o) == plastic(k));
            let of_others: Vec<Sight> = others.filter_map(|o| sights[o]).collect();
            let spread = DISC_DEVIATION.powi(2);
            let (family, family_variance) = weighed(
                FAMILY_DEVIATION.powi(2),
                of_others.iter().map(|s| (s.log_factor, s.variance + spread)),
            );
            let prior = family_variance + spread;
            let own = sights[k].map(|s| (s.log_factor - family, s.variance));
            let (beyond, variance) = weighed(prior, own.into_iter());
            let middle = discs[k].0.spec.wear_life_throws() * (family + beyond).exp();
            let apart = (NINE_TENTHS * variance.sqrt()).exp();
            WearLife {
                throws: middle,
                least_throws: middle / apart,
                most_throws: middle * apart,
                is_learned: own.is_some() || !of_others.is_empty(),
                words: words(discs[k].0, own.is_some(), of_others.len(), middle),
            }
        })
        .collect()
}

fn words(disc: &Disc, own: bool, others: usize, throws: f64) -> String {
    let label = disc.spec.plastic.facts().label;
    let expected = disc.spec.wear_life_throws();
    let of_others = match others {
        1 => format!("another {label} disc of yours"),
        n => format!("{n} other {label} discs of yours"),
    };
    let by = match (own, others) {
        (false, 0) => return format!("{expected:.0} throws, as {label} lets expect; no dates have told yet"),
        (true, 0) => "the dates at which you moved its condition or numbers".to_owned(),
        (false, _) => of_others,
        (true, _) => format!("its own dates and {of_others}"),
    };
    match throws / expected {
        as_expected if (as_expected - 1.0).abs() < 0.05 => {
            format!("{expected:.0} throws, as {label} lets expect and {by} confirm")
        }
        _ => format!(
            "about {:.0} throws where {label} lets expect {expected:.0}, by {by}",
            to_two_figures(throws)
        ),
    }
}

/// A figure to its first two digits.
fn to_two_figures(x: f64) -> f64 {
    let unit = 10f64.powf(x.max(1.0).log10().floor() - 1.0);
    (x / unit).round() * unit
}

/// The condition nearest to a share of wear, as it is said.
pub(super) fn grade_label(share: f64) -> &'static str {
    Grade::of_share(share).label()
}
