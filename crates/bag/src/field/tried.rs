//! What a trial says of its discs.

use serde::Serialize;
use statrs::distribution::{ContinuousCDF, Normal};
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::field::compared::{Compared, HeadToHead, Shown, means, scatters, zones};
use crate::field::spread::Mean;
use crate::field::throw::{FieldThrow, ThrowTag};
use crate::field::trial::{Candidate, Trial, TrialThrow, left};
use crate::need::area::Spot;
use crate::need::limits::Limits;
use crate::need::line::{Line, LineSpec};
use crate::thrower::player::Units;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::words::{distance, percent, strokes};

/// Discs that are the same are called different in no more than this share of trials, all comparisons of a trial together.
const WRONGLY: f64 = 0.05;
/// What is as likely as this is told as probable. Own judgement.
const PROBABLE: f64 = 0.8;
/// More further throws than this are not asked for: nobody makes them.
const MOST_MORE: f64 = 40.0;

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
