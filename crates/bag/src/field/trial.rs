//! A trial: candidates for one job side by side, each thrown the same way as often, in an order that no tiring arm favours; and what it
//! says.
//!
//! Throws are compared within a set, so that a disc that was thrown more often on hyzer is not taken for one that goes less far. How a
//! disc scatters is drawn toward how all of them do, as a few throws of one say little of that.

use rand::SeedableRng;
use rand::rngs::StdRng;
use rand::seq::SliceRandom;
use serde::{Deserialize, Serialize};
use statrs::distribution::{ContinuousCDF, Normal, StudentsT};
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::{BagError, named, readable, within};
use crate::field::meant::wind_parts;
use crate::field::spread::Mean;
use crate::field::throw::{FieldThrow, Meant, ThrowTag, WindThen};
use crate::need::area::Spot;
use crate::need::limits::Limits;
use crate::need::line::{Line, LineSpec};
use crate::thrower::player::Units;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::whole::whole;
use crate::words::{distance, percent, strokes};

/// Most candidates and most ways in which they are thrown.
const MOST_CANDIDATES: usize = 6;
const MOST_SETS: usize = 12;
/// Most throws of each disc in each way.
const MOST_EACH: u32 = 20;
/// A wind along the throw from which it counts as into or before it, m/s. Own judgement.
const WINDY_M_S: f64 = 1.5;
/// Discs that are the same are called different in no more than this share of trials, all comparisons of a trial together.
const WRONGLY: f64 = 0.05;
/// What is as likely as this is told as probable. Own judgement.
const PROBABLE: f64 = 0.8;
/// So many throws of a usual disc stand behind what is thought of a candidate's scatter at first. Own judgement.
const USUAL_THROWS: f64 = 4.0;
/// How unsure the ratio of two candidates' scatters is at first, as a deviation of its logarithm. Own judgement.
const SCATTERS_DIFFER: f64 = 0.3;
/// The logarithm of a scatter read from throws is so much less sure than of normal ones, as they skip and turn over. Own judgement, held
/// to simulated trials.
const LESS_SURE: f64 = 1.6;
/// More further throws than this are not asked for: nobody makes them.
const MOST_MORE: f64 = 40.0;

/// Which way the wind is in a set.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum TrialWind {
    /// As it comes.
    #[default]
    Any,
    /// Into it.
    Into,
    /// Before it.
    Before,
}

/// A way in which every candidate is thrown.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
pub struct TrialSet {
    /// Style.
    pub style: Style,
    /// How it is meant.
    pub meant: Meant,
    /// Which way the wind is.
    #[serde(default)]
    pub wind: TrialWind,
}

/// A disc that is tried.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Candidate {
    /// The disc; null if it is not of this shelf.
    #[serde(default)]
    pub disc_id: Option<DiscId>,
    /// Its name then.
    #[schema(max_length = 60)]
    pub disc_name: String,
    /// How it lies in the hand, 1 (not at all) to 5 (as if made for it); null if not said.
    #[serde(default)]
    #[schema(minimum = 1, maximum = 5)]
    pub feel: Option<u8>,
    /// What else is to be said of that.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub note: String,
}

/// A place straight ahead, such as a basket or a cone.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Target {
    /// How far off, m, 5 to 200.
    #[schema(minimum = 5.0, maximum = 200.0)]
    pub distance_m: f64,
    /// How near to it a throw has to end, m, 1 to 30.
    #[schema(minimum = 1.0, maximum = 30.0)]
    pub within_m: f64,
}

/// How a trial goes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Trial {
    /// Who is tried, two at least.
    #[schema(min_items = 2, max_items = 6)]
    pub candidates: Vec<Candidate>,
    /// How each is thrown.
    #[schema(min_items = 1, max_items = 12)]
    pub sets: Vec<TrialSet>,
    /// How often in each way, 1 to 20.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 1, maximum = 20)]
    pub each: u32,
    /// The line that they are tried for, by its key.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub line: Option<String>,
    /// A place straight ahead that they are tried for, where there is no line.
    #[serde(default)]
    pub target: Option<Target>,
    /// Which of the orders.
    #[serde(default, deserialize_with = "whole")]
    pub order: u32,
}

/// A throw that is to be made.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TrialThrow {
    /// The disc; null if it is not of this shelf.
    pub disc_id: Option<DiscId>,
    /// Its name.
    pub disc_name: String,
    /// How.
    #[serde(flatten)]
    pub set: TrialSet,
}

impl Trial {
    /// # Errors
    /// [`BagError`] for the first field that makes no trial.
    pub fn validate(&self) -> Result<(), BagError> {
        within("candidates", self.candidates.len() as f64, 2.0, MOST_CANDIDATES as f64)?;
        for (k, candidate) in self.candidates.iter().enumerate() {
            named("disc_name", &candidate.disc_name, 60)?;
            within("feel", f64::from(candidate.feel.unwrap_or(1)), 1.0, 5.0)?;
            readable("note", &candidate.note, 200)?;
            if self.candidates[..k].iter().any(|other| other.is(candidate)) {
                return Err(BagError::Field {
                    field: "candidates",
                    expected: "each disc once".into(),
                    got: format!("{} twice", candidate.disc_name),
                });
            }
        }
        within("sets", self.sets.len() as f64, 1.0, MOST_SETS as f64)?;
        if (1..self.sets.len()).any(|k| self.sets[..k].contains(&self.sets[k])) {
            let got = "one of them twice".into();
            return Err(BagError::Field { field: "sets", expected: "each way once".into(), got });
        }
        within("each", f64::from(self.each), 1.0, f64::from(MOST_EACH))?;
        if let Some(target) = self.target {
            within("distance_m", target.distance_m, 5.0, 200.0)?;
            within("within_m", target.within_m, 1.0, 30.0)?;
        }
        self.line.as_ref().map_or(Ok(()), |line| named("line", line, 60))
    }

    /// Gives each disc that it names an identity and a name from what they were.
    pub fn name_discs(&mut self, disc: impl Fn(Option<DiscId>, &str) -> (Option<DiscId>, String)) {
        for candidate in &mut self.candidates {
            (candidate.disc_id, candidate.disc_name) = disc(candidate.disc_id, &candidate.disc_name);
        }
    }

    /// Its throws in order: every disc is thrown once in every way before any is thrown again, shuffled each time, so that a tiring arm
    /// and a rising wind meet all of them alike. Ways with the wind are thrown together: one walks over and throws back.
    pub fn throws(&self) -> Vec<TrialThrow> {
        let mut all = Vec::new();
        for turn in 0..self.each {
            let mut random = StdRng::seed_from_u64(u64::from(self.order) << 32 | u64::from(turn));
            let mut ways = [TrialWind::Any, TrialWind::Into, TrialWind::Before];
            if turn % 2 == 1 {
                ways.reverse();
            }
            for way in ways {
                let of_way = self.sets.iter().filter(|set| set.wind == way);
                let mut throws: Vec<TrialThrow> = of_way
                    .flat_map(|set| {
                        self.candidates.iter().map(|candidate| TrialThrow {
                            disc_id: candidate.disc_id,
                            disc_name: candidate.disc_name.clone(),
                            set: *set,
                        })
                    })
                    .collect();
                throws.shuffle(&mut random);
                all.append(&mut throws);
            }
        }
        all
    }
}

impl Candidate {
    fn is(&self, other: &Candidate) -> bool {
        match (self.disc_id, other.disc_id) {
            (Some(one), Some(another)) => one == another,
            _ => self.disc_name == other.disc_name,
        }
    }

    fn threw(&self, throw: &FieldThrow) -> bool {
        is_of(self.disc_id, &self.disc_name, throw)
    }
}

impl TrialThrow {
    fn is_of(&self, throw: &FieldThrow) -> bool {
        is_of(self.disc_id, &self.disc_name, throw)
    }
}

/// Whether a throw is of a disc.
fn is_of(id: Option<DiscId>, name: &str, throw: &FieldThrow) -> bool {
    match id {
        Some(id) => throw.disc_id == Some(id),
        None => throw.disc_id.is_none() && throw.disc_name == name,
    }
}

/// Which way the wind was at a throw.
pub fn way_of(wind: &WindThen) -> TrialWind {
    let (along, _) = wind_parts(wind);
    match along {
        a if a <= -WINDY_M_S => TrialWind::Into,
        a if a >= WINDY_M_S => TrialWind::Before,
        _ => TrialWind::Any,
    }
}

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

/// What a trial says of a disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TriedDisc {
    /// The disc; null if it is not of this shelf.
    pub disc_id: Option<DiscId>,
    /// Its name.
    pub disc_name: String,
    /// Its throws that count.
    pub throws: usize,
    /// Distance, m.
    pub distance_m: Option<Mean>,
    /// Side, m, left positive.
    pub left_m: Option<Mean>,
    /// How widely its throws lie about the mean of their set, m; null of too few.
    pub scatter_m: Option<f64>,
    /// How far it went on from where it touched, m, of throws of which that was told.
    pub skip_m: Option<Mean>,
    /// Of its throws for the line (in its style) or the target, those that ended there; null without either.
    pub made: Option<usize>,
    /// Of how many.
    pub tried: usize,
    /// Strokes that it saves against the worst of them: on the line a round, as often as it comes up; for a target a throw; null without
    /// either.
    pub saves_strokes: Option<f64>,
    /// How it lies in the hand.
    pub feel: Option<u8>,
}

/// What a trial says.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TrialVerdict {
    /// Its discs, as they were named.
    pub discs: Vec<TriedDisc>,
    /// Each against each.
    pub pairs: Vec<HeadToHead>,
    /// The one that did best at the line or the target, by its place; null without either or without throws for it.
    pub best: Option<usize>,
    /// In words, the most important first.
    pub words: Vec<String>,
    /// Throws of the protocol that are left, the next first.
    pub left: Vec<TrialThrow>,
}

/// Throws of one disc in one set.
struct Series<'a> {
    set: TrialSet,
    throws: Vec<&'a FieldThrow>,
    rests: Vec<Spot>,
}

/// A disc's throws, set by set, and what follows.
struct Shown<'a> {
    series: Vec<Series<'a>>,
    /// Sums of squares about the means of the sets, along and to the side, and how many throws stand behind them beyond those means.
    squares: [f64; 2],
    free: f64,
}

impl<'a> Shown<'a> {
    fn of(throws: impl Iterator<Item = &'a FieldThrow>) -> Shown<'a> {
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
fn means(a: &Shown<'_>, b: &Shown<'_>, usual: [f64; 2], least_sure: f64) -> [Compared; 2] {
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
fn scatters(a: &Shown<'_>, b: &Shown<'_>, least_sure: f64) -> Compared {
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
fn zones(a: (usize, usize), b: (usize, usize), least_sure: f64) -> Compared {
    let of = |(made, tried): (usize, usize)| {
        let (yes, no) = (made as f64 + 1.0, (tried - made) as f64 + 1.0);
        let n = yes + no;
        (yes / n, yes * no / (n * n * (n + 1.0)))
    };
    let ((share_a, var_a), (share_b, var_b)) = (of(a), of(b));
    compared(share_a - share_b, (var_a + var_b).sqrt(), None, least_sure)
}

/// What a trial says by its throws; `line` is the one that it is for.
pub fn trial_verdict(
    units: Units,
    trial: &Trial,
    line: Option<&Line>,
    throws: &[FieldThrow],
) -> TrialVerdict {
    let of = |candidate: &Candidate| {
        let its = |t: &&FieldThrow| candidate.threw(t) && t.is_clean();
        Shown::of(throws.iter().filter(its))
    };
    let shown: Vec<Shown> = trial.candidates.iter().map(of).collect();
    let job = Job::of(units, trial, line);
    let made: Vec<Option<(usize, usize)>> =
        trial.candidates.iter().map(|c| Some(job.as_ref()?.made(c, throws))).collect();
    let free = shown.iter().map(|s| s.free).sum::<f64>();
    let usual = std::array::from_fn(|k| {
        if free > 0.0 { shown.iter().map(|s| s.squares[k]).sum::<f64>() / free } else { 1.0 }
    });
    let places = || (0..shown.len()).flat_map(|a| (a + 1..shown.len()).map(move |b| (a, b)));
    let comparisons = places().count() * if job.is_some() { 4 } else { 3 };
    let least_sure = 1.0 - 0.5 * WRONGLY / comparisons.max(1) as f64;
    let pairs: Vec<HeadToHead> = places()
        .map(|(a, b)| {
            let [distance_m, left_m] = means(&shown[a], &shown[b], usual, least_sure);
            HeadToHead {
                first: a,
                second: b,
                distance_m,
                left_m,
                scatter: scatters(&shown[a], &shown[b], least_sure),
                made: made[a].zip(made[b]).map(|(a, b)| zones(a, b, least_sure)),
            }
        })
        .collect();
    let share = |k: usize| made[k].map(|(made, tried)| (made as f64 + 1.0) / (tried as f64 + 2.0));
    let worst = (0..made.len()).filter_map(share).reduce(f64::min);
    let discs: Vec<TriedDisc> = trial
        .candidates
        .iter()
        .zip(&shown)
        .enumerate()
        .map(|(k, (candidate, shown))| {
            let all = |of: fn(&FieldThrow) -> Option<f64>| {
                let figures: Vec<f64> =
                    shown.series.iter().flat_map(|s| &s.throws).filter_map(|t| of(t)).collect();
                Mean::of(&figures)
            };
            TriedDisc {
                disc_id: candidate.disc_id,
                disc_name: candidate.disc_name.clone(),
                throws: shown.series.iter().map(|s| s.throws.len()).sum(),
                distance_m: all(|t| t.distance_m),
                left_m: all(|t| t.rest().map(|r| r.left_m)),
                scatter_m: (shown.free >= 1.0)
                    .then(|| (shown.squares.iter().sum::<f64>() / shown.free).sqrt()),
                skip_m: all(|t| t.seen.skip_m),
                made: made[k].map(|(made, _)| made),
                tried: made[k].map_or(0, |(_, tried)| tried),
                saves_strokes: job.as_ref().and_then(|job| Some((share(k)? - worst?) * job.miss_strokes)),
                feel: candidate.feel,
            }
        })
        .collect();
    let tried = |k: &usize| made[*k].is_some_and(|(_, tried)| tried > 0);
    // Of two that made it as often the steadier.
    let order = |k: &usize| (share(*k).unwrap_or(0.0), -discs[*k].scatter_m.unwrap_or(f64::INFINITY));
    let best = (0..discs.len()).filter(tried).max_by(|a, b| {
        let (a, b) = (order(a), order(b));
        a.0.total_cmp(&b.0).then(a.1.total_cmp(&b.1))
    });
    let left = left(trial, throws);
    let words = words(units, &discs, &pairs, best.zip(job.as_ref()), least_sure);
    TrialVerdict { discs, pairs, best, words, left }
}

/// What discs are tried for.
struct Job<'a> {
    what: String,
    /// The only style that counts; none if all do.
    style: Option<Style>,
    /// What a miss costs, strokes, and how often.
    miss_strokes: f64,
    often: &'static str,
    holds: Box<dyn Fn(&Spot) -> bool + 'a>,
}

impl<'a> Job<'a> {
    fn of(units: Units, trial: &'a Trial, line: Option<&'a Line>) -> Option<Job<'a>> {
        if let Some(line) = line.filter(|line| Some(&line.key) == trial.line.as_ref()) {
            let limits = Limits::of(&line.spec);
            return Some(Job {
                what: line.spec.name.clone(),
                style: Some(line.spec.style),
                miss_strokes: line.spec.strokes_of_a_miss() * line.spec.weight,
                often: "a round",
                holds: Box::new(move |r| limits.zone_holds(r.at_m, r.left_m)),
            });
        }
        let target = trial.target.as_ref()?;
        let (far, near) = (distance(units, target.distance_m), distance(units, target.within_m));
        Some(Job {
            what: format!("{far}, within {near}"),
            style: None,
            miss_strokes: LineSpec::usual_miss_strokes(Style::Backhand, Slot::Putter),
            often: "a throw",
            holds: Box::new(|r| (r.at_m - target.distance_m).hypot(r.left_m) <= target.within_m),
        })
    }

    /// Of a candidate's throws that count, those that ended where they should, and all; what hit something missed.
    fn made(&self, candidate: &Candidate, throws: &[FieldThrow]) -> (usize, usize) {
        let counts = |t: &&FieldThrow| {
            let known = t.rest().is_some() || t.has(ThrowTag::Hit);
            let style = self.style.is_none_or(|style| style == t.style);
            candidate.threw(t) && style && known && !t.has(ThrowTag::Slipped)
        };
        let its: Vec<&FieldThrow> = throws.iter().filter(counts).collect();
        let ends = |t: &&&FieldThrow| !t.has(ThrowTag::Hit) && t.rest().is_some_and(|r| (self.holds)(&r));
        (its.iter().filter(ends).count(), its.len())
    }
}

/// Throws of the protocol that are not made yet, in its order; one that slipped is made again.
fn left(trial: &Trial, throws: &[FieldThrow]) -> Vec<TrialThrow> {
    let mut made: Vec<&FieldThrow> = throws.iter().filter(|t| !t.has(ThrowTag::Slipped)).collect();
    let mut left = trial.throws();
    left.retain(|next| {
        let is_it = |t: &&FieldThrow| {
            // A wind that was not told, or blew across, is taken for the one that was asked for.
            let wind =
                next.set.wind == TrialWind::Any || [TrialWind::Any, next.set.wind].contains(&way_of(&t.wind));
            next.is_of(t) && (t.style, t.meant) == (next.set.style, next.set.meant) && wind
        };
        match made.iter().position(is_it) {
            Some(k) => {
                made.swap_remove(k);
                false
            }
            None => true,
        }
    });
    left
}

/// How sure something is, as it is told: surely, or with its probability.
fn told(compared: &Compared) -> String {
    if compared.is_sure { "surely".into() } else { percent(compared.chance.max(1.0 - compared.chance)) }
}

fn is_told(compared: &Compared) -> bool {
    compared.is_sure || compared.chance.max(1.0 - compared.chance) >= PROBABLE
}

fn words(
    units: Units,
    discs: &[TriedDisc],
    pairs: &[HeadToHead],
    best: Option<(usize, &Job<'_>)>,
    least_sure: f64,
) -> Vec<String> {
    let mut words = Vec::new();
    let fewest = discs.iter().map(|d| d.throws).min().unwrap_or(0);
    if fewest < 2 {
        return vec!["Throw each of them twice at least, then this begins to compare them.".into()];
    }
    if let Some((k, job)) = best {
        let disc = &discs[k];
        let mut so = format!(
            "For {}: {} ended there most often, {} of {}",
            job.what,
            disc.disc_name,
            disc.made.unwrap_or(0),
            disc.tried
        );
        // The one that comes nearest to it.
        let against = |p: &&HeadToHead| p.first == k || p.second == k;
        let ahead = |p: &HeadToHead| {
            let chance = p.made.map_or(0.5, |m| m.chance);
            if p.first == k { chance } else { 1.0 - chance }
        };
        if let Some(next) = pairs.iter().filter(against).min_by(|a, b| ahead(a).total_cmp(&ahead(b))) {
            let other = &discs[if next.first == k { next.second } else { next.first }];
            so += &match next.made {
                Some(made) if is_told(&made) => {
                    format!("; better than {} ({})", other.disc_name, told(&made))
                }
                _ => format!("; that hardly tells it from {}", other.disc_name),
            };
        }
        if let Some(saves) = disc.saves_strokes.filter(|s| *s >= 0.005) {
            so += &format!("; it saves {} {} against the worst of them", strokes(saves), job.often);
        }
        words.push(format!("{so}."));
    }
    let name = |k: usize| discs[k].disc_name.as_str();
    for pair in pairs {
        let HeadToHead { first: a, second: b, distance_m, left_m, scatter, .. } = pair;
        let which = |c: &Compared| if c.more >= 0.0 { (*a, *b) } else { (*b, *a) };
        let mut said = Vec::new();
        if is_told(distance_m) {
            let (more, less) = which(distance_m);
            said.push(format!(
                "{} goes {} ± {} farther than {} ({})",
                name(more),
                distance(units, distance_m.more.abs()),
                distance(units, distance_m.unsure),
                name(less),
                told(distance_m)
            ));
        }
        if is_told(scatter) {
            let (wild, steady) = which(scatter);
            said.push(format!("{} is steadier here than {} ({})", name(steady), name(wild), told(scatter)));
        }
        if is_told(left_m) {
            let (more, less) = which(left_m);
            said.push(format!(
                "{} ends {} farther left than {} ({})",
                name(more),
                distance(units, left_m.more.abs()),
                name(less),
                told(left_m)
            ));
        }
        if said.is_empty() {
            said.push(format!("{} and {} cannot be told apart by these throws", name(*a), name(*b)));
        }
        words.push(format!("{}.", said.join("; ")));
    }
    words.extend(more(discs, pairs, fewest, least_sure));
    words
}

/// How many more throws each would settle what is likeliest to be settled next, if a sensible number would.
fn more(discs: &[TriedDisc], pairs: &[HeadToHead], fewest: usize, least_sure: f64) -> Option<String> {
    let needed = Normal::standard().inverse_cdf(least_sure);
    let open = pairs.iter().flat_map(|p| {
        [("goes farther", p.distance_m), ("is steadier", p.scatter)]
            .map(|(what, compared)| (what, p, compared))
    });
    let (what, pair, throws) = open
        .filter(|(.., c)| !c.is_sure && c.unsure > 0.0 && c.more != 0.0)
        .map(|(what, pair, c)| {
            let times = (needed * c.unsure / c.more).powi(2);
            (what, pair, (fewest as f64 * (times - 1.0)).ceil().max(1.0))
        })
        .min_by(|a, b| a.2.total_cmp(&b.2))?;
    let (a, b) = (&discs[pair.first].disc_name, &discs[pair.second].disc_name);
    Some(if throws <= MOST_MORE {
        let so =
            if throws < 1.5 { "One more throw".into() } else { format!("About {throws:.0} more throws") };
        format!("{so} each would settle which of {a} and {b} {what}.")
    } else {
        "What is open no sensible number of throws would settle: choose by the hand.".into()
    })
}
