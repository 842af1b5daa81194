//! Are the chances honest? Of throws that were given a chance, how many were made, and how much more or less than it was told to the arm
//! would have to scatter for as many.

use serde::Serialize;
use statrs::distribution::{ContinuousCDF, Normal};
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::chance::search::{behind, chance};
use crate::course::played::{CameOf, PlayedHole, PlayedRound};
use crate::disc::spec::Disc;
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::field::arm::FoundOfArm;
use crate::field::kind::rounded;
use crate::field::meant::day_of;
use crate::field::sampler::SURE;
use crate::field::throw::{Measured, ThrowTag};
use crate::need::limits::Limits;
use crate::need::line::{Landing, Line, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::words::percent;

/// Shares into which chances are sorted.
const BINS: usize = 5;
/// Fewer throws than this are never taken for what chances are worth. Own judgement.
const LEAST_TRIED: usize = 20;
/// Chances nearer to never and always than this are not believed to be so.
const LEAST_CHANCE: f64 = 0.02;
/// How unsure the scatter is before any throw, as a deviation of its logarithm. Own judgement.
const UNSURE: f64 = 0.35;
/// How finely and how far scatters are looked through, in such deviations.
const STEPS: usize = 401;
const REACH: f64 = 4.0;
/// Of throws for a line in the field so many are looked at, the latest.
const MOST_IN_FIELD: usize = 300;

/// A throw that was given a chance.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tried {
    /// Its chance, 0 to 1.
    pub chance: f64,
    /// Whether it was made.
    pub made: bool,
}

/// Throws that were given much the same chance.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct ChanceBin {
    /// How many.
    pub tried: usize,
    /// Their chance in the mean, 0 to 1.
    pub told: f64,
    /// Share that was made.
    pub made: f64,
    /// In nine cases of ten such throws are made more often than this,
    pub low: f64,
    /// and less often than this.
    pub high: f64,
}

/// What chances in a style are worth.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Honesty {
    /// First throws of rounds.
    pub in_rounds: usize,
    /// Throws for a line in the field.
    pub in_field: usize,
    /// Their chance in the mean, 0 to 1.
    pub told: f64,
    /// Share of them that was made, 0 to 1.
    pub made: f64,
    /// By their chance, the least first; none where there are none.
    pub bins: Vec<ChanceBin>,
    /// How many times as much as told throws would have to scatter for the chances to be honest.
    pub scatter_times: FoundOfArm,
    /// Whether the throws say surely that it is another scatter.
    pub is_off: bool,
    /// In words.
    pub words: String,
    /// The player with that scatter.
    pub as_found: Player,
}

/// First throws of rounds in a style that were given a chance and of which it is told what came.
pub fn tried_in_rounds<'a>(style: Style, rounds: impl IntoIterator<Item = &'a PlayedRound>) -> Vec<Tried> {
    let tried = |round: &PlayedRound| {
        let of_hole = |hole: &PlayedHole| {
            let threw = hole.threw.as_ref().filter(|pick| pick.style == Some(style))?;
            Some(Tried { chance: threw.chance?, made: hole.came_of? == CameOf::Made })
        };
        round.holes.iter().filter_map(of_hole).collect::<Vec<_>>()
    };
    rounds.into_iter().flat_map(tried).collect()
}

/// Throws in the field in a style for a line, by where they came to rest: the field has no gates, and so only the zone counts, for the
/// chance as for the throw. What hit something missed.
///
/// # Errors
/// [`BagError`] for a player, a disc or a throw outside its ranges.
pub fn tried_in_field(
    player: &Player,
    style: Style,
    shelf: &[Disc],
    lines: &[Line],
    throws: &[Measured<'_>],
    memo: &Memo,
) -> Result<Vec<Tried>, BagError> {
    let line_of = |m: &Measured| {
        let key = m.throw.line.as_deref()?;
        let line = lines.iter().find(|line| line.key == key)?;
        (line.spec.style == style && line.spec.landing != Landing::Basket).then_some(&line.spec)
    };
    let disc_of = |m: &Measured| shelf.iter().find(|d| Some(d.id) == m.throw.disc_id);
    let mut asked: Vec<(&Measured, &LineSpec, &Disc)> = throws
        .iter()
        .filter(|m| m.throw.style == style && !m.throw.has(ThrowTag::Slipped))
        .filter(|m| m.throw.rest().is_some() || m.throw.has(ThrowTag::Hit))
        .filter_map(|m| Some((m, line_of(m)?, disc_of(m)?)))
        .collect();
    asked.sort_by_key(|(m, ..)| std::cmp::Reverse(m.session.date));
    asked.truncate(MOST_IN_FIELD);
    let mut tried = Vec::new();
    for (m, line, disc) in asked {
        let arm = Arm::of(player, &day_of(m.session, &rounded(m.throw).wind))?;
        let disc = thrown(disc)?;
        let Some(chosen) = chance(&arm, disc, line, memo).chosen else { continue };
        let limits = Limits::of(line);
        let cloud = behind(&arm, disc, line, &chosen).cloud;
        let made = cloud.iter().filter(|o| limits.zone_holds(o.x_m, o.y_m)).count();
        let rest = m.throw.rest().filter(|_| !m.throw.has(ThrowTag::Hit));
        tried.push(Tried {
            chance: made as f64 / cloud.len().max(1) as f64,
            made: rest.is_some_and(|r| limits.zone_holds(r.at_m, r.left_m)),
        });
    }
    Ok(tried)
}

/// The chance of a throw whose scatter is so many times as wide: as of hitting a round target in the plane.
fn with_scatter(chance: f64, times: f64) -> f64 {
    1.0 - (1.0 - chance.clamp(LEAST_CHANCE, 1.0 - LEAST_CHANCE)).powf(times.powi(-2))
}

/// What chances in a style are worth, by throws of rounds and in the field.
pub fn honesty(player: &Player, style: Style, in_rounds: &[Tried], in_field: &[Tried]) -> Honesty {
    let all: Vec<Tried> = in_rounds.iter().chain(in_field).copied().collect();
    let n = all.len();
    let share = |of: &dyn Fn(&Tried) -> f64| all.iter().map(of).sum::<f64>() / n.max(1) as f64;
    let scatter_times = scatter_times(&all);
    let sure = scatter_times.low > 1.0 || scatter_times.high < 1.0;
    let mut honesty = Honesty {
        in_rounds: in_rounds.len(),
        in_field: in_field.len(),
        told: share(&|t| t.chance),
        made: share(&|t| f64::from(u8::from(t.made))),
        bins: bins(&all),
        scatter_times,
        is_off: sure && n >= LEAST_TRIED,
        words: String::new(),
        as_found: player
            .scattering(style, player.scatter(style).wider(scatter_times.found, scatter_times.found)),
    };
    honesty.words = words(&honesty, style, n);
    honesty
}

/// By a grid over the one unknown: the prior is normal in its logarithm, each throw made or not.
fn scatter_times(all: &[Tried]) -> FoundOfArm {
    let units: Vec<f64> = (0..STEPS).map(|k| REACH * (2.0 * k as f64 / (STEPS - 1) as f64 - 1.0)).collect();
    let log_density = |units: &f64| {
        let times = (UNSURE * units).exp();
        let one = |t: &Tried| {
            let chance = with_scatter(t.chance, times);
            if t.made { chance.ln() } else { (1.0 - chance).ln() }
        };
        -0.5 * units * units + all.iter().map(one).sum::<f64>()
    };
    let logs: Vec<f64> = units.iter().map(log_density).collect();
    let most = logs.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    let weights: Vec<f64> = logs.iter().map(|log| (log - most).exp()).collect();
    let total: f64 = weights.iter().sum();
    let below = |share: f64| {
        let mut sum = 0.0;
        let reached = weights.iter().position(|w| {
            sum += w;
            sum >= share * total
        });
        (UNSURE * units[reached.unwrap_or(STEPS - 1)]).exp()
    };
    let moment = |power: i32| units.iter().zip(&weights).map(|(u, w)| w * u.powi(power)).sum::<f64>() / total;
    let variance = moment(2) - moment(1).powi(2);
    FoundOfArm {
        told: 1.0,
        found: below(0.5),
        low: below(0.5 - 0.5 * SURE),
        high: below(0.5 + 0.5 * SURE),
        learned: (1.0 - variance).clamp(0.0, 1.0),
    }
}

fn bins(all: &[Tried]) -> Vec<ChanceBin> {
    let bin = |t: &Tried| ((BINS as f64 * t.chance) as usize).min(BINS - 1);
    let of = |k: usize| {
        let those: Vec<&Tried> = all.iter().filter(|t| bin(t) == k).collect();
        let n = those.len() as f64;
        let made = those.iter().filter(|t| t.made).count() as f64 / n;
        let (low, high) = wilson(made, n);
        let told = those.iter().map(|t| t.chance).sum::<f64>() / n;
        (!those.is_empty()).then_some(ChanceBin { tried: those.len(), told, made, low, high })
    };
    (0..BINS).filter_map(of).collect()
}

/// Between which shares the true one lies in nine cases of ten, where `n` showed `share` (E. B. Wilson 1927, from memory).
fn wilson(share: f64, n: f64) -> (f64, f64) {
    let z = Normal::standard().inverse_cdf(0.5 + 0.5 * SURE);
    let z2 = z * z;
    let middle = (share + 0.5 * z2 / n) / (1.0 + z2 / n);
    let half = z / (1.0 + z2 / n) * (share * (1.0 - share) / n + 0.25 * z2 / (n * n)).sqrt();
    ((middle - half).max(0.0), (middle + half).min(1.0))
}

fn words(honesty: &Honesty, style: Style, n: usize) -> String {
    let style = style.label();
    if n == 0 {
        return format!(
            "No {style} that was given a chance has been told yet: play a round with its card, or throw for a line in the field."
        );
    }
    let throws = if n == 1 { "1 throw".into() } else { format!("{n} throws") };
    let counted = format!(
        "Of {throws} that were given {} in the mean, {} were made",
        percent(honesty.told),
        percent(honesty.made)
    );
    let times = honesty.scatter_times;
    let verdict = match (honesty.is_off, times.found > 1.0) {
        (true, more) => format!(
            ": the chances promise {}. Your {style} scatters about {:.1} times as much as they take for granted ({:.1} to {:.1}).",
            if more { "too much" } else { "too little" },
            times.found,
            times.low,
            times.high
        ),
        (false, _) if n < LEAST_TRIED => {
            let more = LEAST_TRIED - n;
            format!(". {more} more would begin to say whether the chances are honest.")
        }
        (false, _) => ": the chances are honest, as far as these tell.".into(),
    };
    format!("{counted}{verdict}")
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use rand::rngs::StdRng;
    use rand::{RngExt, SeedableRng};

    /// Chances of an arm that scatters so many times as much as was told.
    fn tried(n: usize, times: f64, random: &mut StdRng) -> Vec<Tried> {
        let one = |_| {
            let chance = random.random_range(0.1..0.95);
            Tried { chance, made: random.random_range(0.0..1.0) < with_scatter(chance, times) }
        };
        (0..n).map(one).collect()
    }

    /// E. B. Wilson's interval of 8 in 10 at 95 %, as tables have it (0.490 to 0.943, from memory), is narrower at 90 % and holds the share.
    #[test]
    fn prop_an_interval_holds_its_share_and_stays_possible() {
        for (share, n) in [(0.8, 10.0), (0.0, 4.0), (1.0, 3.0), (0.5, 200.0)] {
            let (low, high) = wilson(share, n);
            assert!(
                0.0 <= low && low <= share && share <= high && high <= 1.0,
                "{share} of {n}: {low} to {high}"
            );
        }
        let (low, high) = wilson(0.8, 10.0);
        assert!(low > 0.490 && high < 0.943, "{low} {high}");
    }

    /// Simulation-based calibration (S. Talts and others 2018, from memory): over scatters drawn from what is thought at first, what is
    /// said to hold in nine cases of ten does; honest chances are seldom called dishonest.
    #[test]
    fn val_nine_of_ten_scatters_lie_within() {
        let normal = Normal::standard();
        let (mut within, mut accused) = (0, 0);
        for log in 0..200 {
            let mut random = StdRng::seed_from_u64(log);
            let times = (UNSURE * normal.inverse_cdf(random.random_range(1e-9..1.0))).exp();
            let found = scatter_times(&tried(30, times, &mut random));
            within += u32::from((found.low..=found.high).contains(&times));
            let honest = honesty(&Player::default(), Style::Backhand, &tried(30, 1.0, &mut random), &[]);
            accused += u32::from(honest.is_off);
        }
        assert!((170..=190).contains(&within), "{within} of 200 lie within");
        assert!(accused <= 20, "{accused} of 200 honest ones are accused");
    }

    #[test]
    fn prop_what_to_change_makes_the_chances_honest() {
        let mut random = StdRng::seed_from_u64(1);
        let player = Player::default();
        let wild = tried(300, 1.6, &mut random);
        let off = honesty(&player, Style::Backhand, &wild, &[]);
        assert!(off.is_off && off.words.contains("promise too much"), "{}", off.words);
        assert_abs_diff_eq!(off.scatter_times.found, 1.6, epsilon = 0.2);
        let scatter =
            off.as_found.scatter(Style::Backhand).hyzer_deg / player.scatter(Style::Backhand).hyzer_deg;
        assert_abs_diff_eq!(scatter, off.scatter_times.found, epsilon = 1e-9);
        assert_eq!(off.as_found.scatter(Style::Forehand), player.scatter(Style::Forehand));
        assert_eq!(off.bins.iter().map(|b| b.tried).sum::<usize>(), 300);
        let again: Vec<Tried> = wild
            .iter()
            .map(|t| Tried { chance: with_scatter(t.chance, off.scatter_times.found), ..*t })
            .collect();
        let honest = honesty(&off.as_found, Style::Backhand, &again, &[]);
        assert!(!honest.is_off && honest.words.contains("honest"), "{}", honest.words);
        let few = honesty(&player, Style::Backhand, &wild[..5], &[]);
        assert!(!few.is_off && few.words.contains("15 more"), "{}", few.words);
        assert!(honesty(&player, Style::Backhand, &[], &[]).bins.is_empty());
    }
}
