//! The habit behind single throws: which error do the throws of a session share? Each error is taken to be in all of them, on top of the
//! player's own scatter, and held against what was measured of all of them together. What is small in one throw shows in twenty.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::scatter::deviates;

use crate::disc::spec::Disc;
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::field::emulator::turn_side;
use crate::field::fault::{FAULTS, Fault};
use crate::field::kind::{Kind, kinds_by};
use crate::field::meant::{ends, meant};
use crate::field::reading::{FLOWN, FaultRead, Flown, Weighed};
use crate::field::sight::{Covariance, Quantities, Sight, Sights, covariance, flown, mean};
use crate::field::throw::{Measured, ThrowTag};
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::words::percent;

/// Most throws of a session that are read, the latest.
pub const MOST_READ: usize = 500;
/// Fewer throws than this tell no habit. Own judgement.
const LEAST_READ: usize = 6;
/// How likely it is that there is no habit, before any throw. Own judgement.
const NO_HABIT: f64 = 0.5;
/// From how likely on a habit is said to be one. Own judgement.
const SAID_FROM: f64 = 0.7;
/// Sizes of a habit that are thought of, in the player's own deviations. Own judgement: a smaller one matters to nobody, a larger one is no
/// habit but another throw.
const SIZES: [f64; 6] = [0.4, 0.7, 1.0, 1.35, 1.75, 2.2];
/// Those that are flown, beside a throw as it is meant: what lies between them is drawn through them.
const FLOWN_SIZES: [f64; 2] = [1.0, 2.2];
/// Throws flown for each, at the most.
const FLOWN_TOGETHER: usize = 64;
/// To read throws by themselves, so many are flown of each size of an error over all that are meant in different ways: few of each
/// where there are many ways.
const FLOWN_IN_ALL: usize = 4096;
const LEAST_FLOWN: usize = 32;
/// A throw has the habit of its session as often as not. Own judgement.
const AS_OFTEN: f64 = 0.5;

/// An error that the throws of a session may share.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FaultHabit {
    /// The error; none where they share none.
    pub fault: Fault,
    /// How likely it is what they share, 0 to 1; all together 1.
    pub share: f64,
    /// Its size in the mean of all throws: degrees, or percent of the speed.
    pub size: f64,
    /// In words.
    pub words: String,
    /// What to think of.
    pub cue: &'static str,
}

/// What the throws of a style say together.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StyleHabits {
    /// The style.
    pub style: Style,
    /// How many measured throws that says.
    pub read: usize,
    /// In words: the habit, if there is one.
    pub words: String,
    /// The error that is a habit; null if none surely is.
    pub habit: Option<Fault>,
    /// What they may share, the likeliest first; none of too few throws.
    pub faults: Vec<FaultHabit>,
}

/// What the throws of a session say of the releases behind them.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SessionReading {
    /// The likeliest reading of each throw, in their order; null of one that cannot be read.
    pub throws: Vec<Option<FaultRead>>,
    /// What they say together, by style.
    pub styles: Vec<StyleHabits>,
}

/// Whether it can be read: it is told how far it went, and the release alone decided that.
fn is_readable(measured: &Measured<'_>) -> bool {
    let throw = measured.throw;
    throw.distance_m.is_some() && !throw.has(ThrowTag::Hit) && !throw.has(ThrowTag::Slipped)
}

/// A throw and its place in the session.
type At<'a> = (usize, Measured<'a>);

/// What throws meant alike say.
struct KindRead {
    style: Style,
    /// Each throw by itself.
    weighed: Vec<(usize, [Weighed; FAULTS])>,
    /// How many were measured.
    measured: usize,
    /// How likely all of these are where each error of each size is in all of them, as logarithms.
    together: [[f64; SIZES.len()]; FAULTS],
    /// Those sizes.
    sizes: [[f64; SIZES.len()]; FAULTS],
}

/// Reads the throws of a session, each knowing what the others of its style say; of more than [`MOST_READ`] the latest.
///
/// # Errors
/// [`BagError`] for a player, a disc or a throw outside its ranges.
pub fn read_session(
    player: &Player,
    shelf: &[Disc],
    throws: &[Measured<'_>],
) -> Result<SessionReading, BagError> {
    let disc_of = |m: &Measured| shelf.iter().find(|d| Some(d.id) == m.throw.disc_id);
    let all = throws.iter().copied().enumerate();
    let readable: Vec<At> = all.filter(|(_, m)| is_readable(m) && disc_of(m).is_some()).collect();
    let latest = &readable[readable.len().saturating_sub(MOST_READ)..];
    let (straight, aimed_off): (Vec<_>, Vec<_>) = latest.iter().copied().partition(|(_, m)| m.is_straight());
    let kinds: Vec<(Kind<At>, bool)> = [(straight, false), (aimed_off, true)]
        .into_iter()
        .flat_map(|(throws, off)| kinds_by(throws, |(_, m)| *m).into_iter().map(move |kind| (kind, off)))
        .collect();
    let each = (FLOWN_IN_ALL / kinds.len().max(1)).clamp(LEAST_FLOWN, FLOWN);
    let read = |(kind, aimed_off): &(Kind<At>, bool)| {
        let disc = kind.throws.first().and_then(|(_, m)| disc_of(m))?;
        Some(thrown(disc).and_then(|held| KindRead::of(player, kind, *aimed_off, &held, each)))
    };
    let kinds = kinds.par_iter().filter_map(read).collect::<Result<Vec<_>, BagError>>()?;
    let mut readings: Vec<Option<FaultRead>> = vec![None; throws.len()];
    let mut styles = Vec::new();
    for style in Style::ALL {
        let of_style: Vec<&KindRead> = kinds.iter().filter(|kind| kind.style == style).collect();
        if of_style.is_empty() {
            continue;
        }
        let habits = StyleHabits::of(style, &of_style);
        let before = habits.before();
        for (k, weighed) in of_style.iter().flat_map(|kind| &kind.weighed) {
            readings[*k] = FaultRead::all(style, weighed, &before).into_iter().next();
        }
        styles.push(habits);
    }
    Ok(SessionReading { throws: readings, styles })
}

/// What throws did: the mean and how they scattered.
struct Done {
    mean: Quantities,
    covariance: Covariance,
}

impl Done {
    fn of(flown: &[Quantities]) -> Done {
        Done { mean: mean(flown), covariance: covariance(flown) }
    }

    /// With an error of so many deviations, by what throws as meant did and those with errors of [`FLOWN_SIZES`]: means on the parabola
    /// through them, covariances mixed, so that they stay covariances.
    fn between(none: &Done, small: &Done, large: &Done, deviations: f64) -> Done {
        let [s, l] = FLOWN_SIZES;
        let d = deviations;
        let mean = none.mean * ((d - s) * (d - l) / (s * l))
            + small.mean * (d * (d - l) / (s * (s - l)))
            + large.mean * (d * (d - s) / (l * (l - s)));
        let covariance = if d < s {
            none.covariance * (1.0 - d / s) + small.covariance * (d / s)
        } else {
            small.covariance * ((l - d) / (l - s)) + large.covariance * ((d - s) / (l - s))
        };
        Done { mean, covariance }
    }

    fn log_likelihood(&self, sights: &[Sight]) -> f64 {
        Sights::of(sights, &self.covariance).log_likelihood(&self.mean)
    }
}

impl KindRead {
    fn of(
        player: &Player,
        kind: &Kind<At>,
        aimed_off: bool,
        held: &Thrown,
        each: usize,
    ) -> Result<KindRead, BagError> {
        let Kind { session, like, throws } = kind;
        let style = like.style;
        let side = turn_side(player, style);
        let flights = Flown::of(player, Measured { session, throw: like }, aimed_off, held, each)?;
        let weighed = throws.iter().map(|(k, m)| (*k, flights.weigh(m.throw))).collect();

        let measured = throws.iter().filter(|(_, m)| m.throw.is_clean());
        let sights: Vec<Sight> =
            measured.filter_map(|(_, m)| Some(Sight::of(*m, side)?.without_swing())).collect();
        let meant = meant(player, session, like, held)?;
        let row = &deviates(style.into())[..each.min(FLOWN_TOGETHER)];
        let (mut together, mut sizes) = ([[0.0; SIZES.len()]; FAULTS], [[0.0; SIZES.len()]; FAULTS]);
        let fly = |release| -> Result<Done, BagError> {
            let mut with = meant;
            with.throw.release = release;
            let ended = ends(player, session, &with, held, row)?;
            Ok(Done::of(&ended.iter().map(|end| flown(end, side)).collect::<Vec<Quantities>>()))
        };
        let as_meant = fly(meant.throw.release)?;
        for (f, fault) in Fault::ALL.into_iter().enumerate().filter(|(_, fault)| *fault != Fault::Another) {
            if !fault.has_size() {
                together[f] = [as_meant.log_likelihood(&sights); SIZES.len()];
                continue;
            }
            let own = fault.own(&meant.spread);
            let with = |deviations: f64| fly(fault.on(meant.throw.release, deviations * own, -side));
            let [small, large] = FLOWN_SIZES.map(with);
            let (small, large) = (small?, large?);
            for (s, deviations) in SIZES.into_iter().enumerate() {
                sizes[f][s] = deviations * own;
                together[f][s] = Done::between(&as_meant, &small, &large, deviations).log_likelihood(&sights);
            }
        }
        Ok(KindRead { style, weighed, measured: sights.len(), together, sizes })
    }
}

impl StyleHabits {
    fn of(style: Style, kinds: &[&KindRead]) -> StyleHabits {
        let read: usize = kinds.iter().map(|kind| kind.measured).sum();
        let over = |of: &dyn Fn(&KindRead) -> f64| kinds.iter().map(|kind| of(kind)).sum::<f64>();
        let log = |f: usize, s: usize| over(&|kind| kind.together[f][s]);
        let size =
            |f: usize, s: usize| over(&|kind| kind.sizes[f][s] * kind.measured as f64) / read.max(1) as f64;
        let most = (0..FAULTS * SIZES.len())
            .map(|k| log(k / SIZES.len(), k % SIZES.len()))
            .fold(f64::NEG_INFINITY, f64::max);
        let errors: f64 = Fault::ALL.iter().filter(|f| f.has_size()).map(|f| f.before()).sum();
        let mut faults: Vec<FaultHabit> = Fault::ALL
            .into_iter()
            .enumerate()
            .filter(|(_, fault)| *fault != Fault::Another)
            .map(|(f, fault)| {
                let before =
                    if fault.has_size() { (1.0 - NO_HABIT) * fault.before() / errors } else { NO_HABIT };
                let weights = std::array::from_fn::<f64, { SIZES.len() }, _>(|s| (log(f, s) - most).exp());
                let all = weights.iter().sum::<f64>();
                let sum: f64 = weights.iter().enumerate().map(|(s, w)| w * size(f, s)).sum();
                let size = if all > 0.0 { sum / all } else { 0.0 };
                let words = if fault.has_size() { fault.words(size) } else { "none that they share".into() };
                FaultHabit {
                    fault,
                    share: before * all / SIZES.len() as f64,
                    size,
                    words,
                    cue: fault.cue(style),
                }
            })
            .collect();
        let total: f64 = faults.iter().map(|f| f.share).sum();
        faults.iter_mut().for_each(|f| f.share /= total);
        faults.sort_by(|a, b| b.share.total_cmp(&a.share));
        let first = faults[0].clone();
        let habit = first.fault.has_size() && first.share >= SAID_FROM && read >= LEAST_READ;
        let words = match () {
            () if read < LEAST_READ => {
                format!("{read} measured: too few to tell a habit from chance; {LEAST_READ} are the least.")
            }
            () if habit => {
                let sure = percent(first.share);
                format!("A habit: {} in the mean of {read} throws, {sure} sure. {}", first.words, first.cue)
            }
            () if first.fault.has_size() => format!(
                "Perhaps a habit: {} in the mean of {read} throws, {}. More throws, with height and time told, will say.",
                first.words,
                percent(first.share)
            ),
            () => format!("No habit shows in {read} throws: what goes wrong differs from throw to throw."),
        };
        if read < LEAST_READ {
            faults.clear();
        }
        StyleHabits { style, read, words, habit: habit.then_some(first.fault), faults }
    }

    /// How likely each error is behind a throw that is not seen yet.
    fn before(&self) -> [f64; FAULTS] {
        let shared = |fault: Fault| self.faults.iter().find(|f| f.fault == fault).map_or(0.0, |f| f.share);
        let none = if self.faults.is_empty() { 1.0 } else { shared(Fault::None) };
        Fault::ALL.map(|fault| {
            let habit = if fault.has_size() { shared(fault) } else { 0.0 };
            (1.0 - AS_OFTEN * (1.0 - none)) * fault.before() + AS_OFTEN * habit
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::field::sight::SEEN;
    use proptest::prelude::*;

    fn done(entries: &[f64]) -> Done {
        Done::of(&entries.chunks_exact(SEEN).map(Quantities::from_column_slice).collect::<Vec<_>>())
    }

    proptest! {
        /// What lies between passes through what was flown, and stays a covariance whatever size is asked.
        #[test]
        fn prop_what_lies_between_passes_through_what_was_flown(
            entries in prop::collection::vec(-20.0..20.0f64, 3 * 8 * SEEN), deviations in 0.0..2.2f64,
        ) {
            let [none, small, large] = [0, 1, 2].map(|k| done(&entries[k * 8 * SEEN..(k + 1) * 8 * SEEN]));
            let [s, l] = FLOWN_SIZES;
            for (at, flown) in [(0.0, &none), (s, &small), (l, &large)] {
                let between = Done::between(&none, &small, &large, at);
                prop_assert!((between.mean - flown.mean).amax() < 1e-9);
                prop_assert!((between.covariance - flown.covariance).amax() < 1e-9);
            }
            let between = Done::between(&none, &small, &large, deviations);
            prop_assert!(between.covariance.symmetric_eigenvalues().min() > 0.0);
        }
    }
}
