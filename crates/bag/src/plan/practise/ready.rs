//! Is a faster disc due? A beginner stays with speed 7 until a controlled drive goes about 91 m, with nose and angle under control, and not
//! on one good day (common practice, no source). Here each of it is shown from the log, or said not to be shown yet.

use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::farthest;
use crate::disc::spec::Disc;
use crate::error::BagError;
use crate::field::arm::FoundArm;
use crate::field::throw::{Meant, Measured};
use crate::thrower::arm::{Arm, DRIVERS};
use crate::thrower::day::Conditions;
use crate::thrower::player::{
    BEGINNER_SPEED, BEGINNER_UNTIL_M, CONTROLLED_HYZER_DEG, CONTROLLED_NOSE_DEG, Player, Units,
};
use crate::thrower::style::Style;
use crate::words::{distance, month};

/// Discs from so many steps below that speed on count. Own judgement.
const SLOWER: f64 = 1.5;
/// Fewer throws than this say nothing of a month. Own judgement.
const LEAST_THROWS: usize = 5;
/// In so many months it has to be shown. Own judgement: "over months" is at least three.
const MONTHS: usize = 3;
/// A tailwind stronger than this carries, m/s.
const TAILWIND_M_S: f64 = 2.0;
/// From what on it matters that a disc goes farther, m. Own judgement.
const LEAST_GAIN_M: f64 = 2.0;
/// Full power, percent.
const FULL_FROM_PCT: f64 = 90.0;

/// Something that is asked, and what the log shows.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ReadyCheck {
    /// What is asked.
    pub asked: String,
    /// What the log shows.
    pub shown: String,
    /// Whether it is so; null while the log does not say.
    pub is_so: Option<bool>,
}

/// Whether faster discs are due in a style.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Ready {
    /// The style.
    pub style: Style,
    /// Whether they are; null while the log does not say.
    pub is_ready: Option<bool>,
    /// What is asked.
    pub checks: Vec<ReadyCheck>,
    /// In words.
    pub words: String,
}

fn median(figures: &mut [f64]) -> Option<f64> {
    figures.sort_by(f64::total_cmp);
    let n = figures.len();
    (n > 0).then(|| 0.5 * (figures[(n - 1) / 2] + figures[n / 2]))
}

/// Whether faster discs are due in a style, by its measured throws and by the arm that was found from them.
///
/// # Errors
/// [`BagError`] for a disc outside its ranges.
pub fn ready(
    player: &Player,
    found: &FoundArm,
    shelf: &[Disc],
    throws: &[Measured<'_>],
) -> Result<Ready, BagError> {
    let style = found.style;
    let counts = |m: &&Measured| {
        let t = m.throw;
        let disc = shelf.iter().find(|d| Some(d.id) == t.disc_id);
        let slow =
            disc.is_some_and(|d| (BEGINNER_SPEED - SLOWER..=BEGINNER_SPEED).contains(&d.spec.printed.speed));
        let before = -t.wind.wind_m_s * t.wind.from_deg.to_radians().cos();
        let full = t.power_pct.unwrap_or(100.0) >= FULL_FROM_PCT;
        t.style == style
            && t.is_clean()
            && m.is_straight()
            && slow
            && full
            && t.meant == Meant::Flat
            && before <= TAILWIND_M_S
    };
    let drives: Vec<(Date, f64)> = throws
        .iter()
        .filter(counts)
        .filter_map(|m| Some((m.session.date.first_of_month(), m.throw.distance_m?)))
        .collect();
    let units = player.units;
    let mut months: Vec<Date> = drives.iter().map(|(month, _)| *month).collect();
    months.sort_unstable();
    months.dedup();
    let by_month: Vec<(Date, f64)> = months
        .iter()
        .filter_map(|month| {
            let mut far: Vec<f64> = drives.iter().filter(|(m, _)| m == month).map(|(_, d)| *d).collect();
            let enough = far.len() >= LEAST_THROWS;
            median(&mut far).filter(|_| enough).map(|far| (*month, far))
        })
        .collect();
    let checks = vec![
        far_enough(units, &by_month, drives.len()),
        control(player, found),
        over_months(units, &by_month),
    ];
    let is_ready = match () {
        () if checks.iter().any(|c| c.is_so == Some(false)) => Some(false),
        () if checks.iter().all(|c| c.is_so == Some(true)) => Some(true),
        () => None,
    };
    let gain = faster_adds_m(player, style)?;
    let gains = if gain >= LEAST_GAIN_M {
        format!("At this arm they add {} at the most, thrown for distance.", distance(units, gain))
    } else {
        "At this arm they add nothing, even thrown for distance.".to_owned()
    };
    let words = match is_ready {
        Some(true) => format!(
            "Ready: the log shows a drive of {} with speed {BEGINNER_SPEED:.0}, under control, over months. Step up one class, not three.",
            distance(units, BEGINNER_UNTIL_M)
        ),
        Some(false) => format!(
            "Not yet, by the usual rule: get the most out of speed {BEGINNER_SPEED:.0} first. A faster disc thrown too slowly only fades."
        ),
        None => "The log does not say yet: what is missing is told below.".into(),
    };
    let words = format!("{words} {gains}");
    Ok(Ready { style, is_ready, checks, words })
}

/// What discs faster than [`BEGINNER_SPEED`] add to the farthest of that speed at a player's arm, m, 0 if nothing.
fn faster_adds_m(player: &Player, style: Style) -> Result<f64, BagError> {
    let arm = Arm::of(player, &Conditions::default())?;
    let best = |is_fast: bool| {
        let among = DRIVERS.iter().filter(|n| (n.speed > BEGINNER_SPEED) == is_fast);
        among.filter_map(|n| farthest(&arm, style, n)).map(|(far, _)| far).fold(0.0, f64::max)
    };
    Ok((best(true) - best(false)).max(0.0))
}

fn far_enough(units: Units, by_month: &[(Date, f64)], drives: usize) -> ReadyCheck {
    let asked = format!(
        "{} in the middle, flat and full, with a disc of speed {BEGINNER_SPEED:.0}",
        distance(units, BEGINNER_UNTIL_M)
    );
    match by_month.last() {
        Some((when, far)) => ReadyCheck {
            asked,
            shown: format!("{} in {}", distance(units, *far), month(*when)),
            is_so: Some(*far >= BEGINNER_UNTIL_M),
        },
        None => ReadyCheck {
            asked,
            shown: format!("{drives} such throws measured; {LEAST_THROWS} in a month are the least"),
            is_so: None,
        },
    }
}

fn control(player: &Player, found: &FoundArm) -> ReadyCheck {
    let asked = format!(
        "the nose scatters no more than {CONTROLLED_NOSE_DEG:.0}°, the hyzer no more than {CONTROLLED_HYZER_DEG:.0}°"
    );
    if !found.is_enough {
        let shown = format!("{} throws say something of your scatter: not enough yet", found.used);
        return ReadyCheck { asked, shown, is_so: None };
    }
    let told = player.scatter(found.style);
    let nose = [found.along_times.low, found.along_times.high].map(|k| k * told.nose_deg);
    let hyzer = [found.side_times.low, found.side_times.high].map(|k| k * told.hyzer_deg);
    let shown = format!(
        "nose {:.1} to {:.1}°, hyzer {:.1} to {:.1}° (in nine cases of ten)",
        nose[0], nose[1], hyzer[0], hyzer[1]
    );
    let is_so = match () {
        () if nose[1] <= CONTROLLED_NOSE_DEG && hyzer[1] <= CONTROLLED_HYZER_DEG => Some(true),
        () if nose[0] > CONTROLLED_NOSE_DEG || hyzer[0] > CONTROLLED_HYZER_DEG => Some(false),
        () => None,
    };
    ReadyCheck { asked, shown, is_so }
}

fn over_months(units: Units, by_month: &[(Date, f64)]) -> ReadyCheck {
    let good = by_month.iter().filter(|(_, far)| *far >= BEGINNER_UNTIL_M).count();
    let asked = format!("{} in {MONTHS} months at least", distance(units, BEGINNER_UNTIL_M));
    let shown = format!("in {good} of {} measured", by_month.len());
    let is_so = match () {
        () if good >= MONTHS => Some(true),
        () if by_month.len() < MONTHS => None,
        () => Some(false),
    };
    ReadyCheck { asked, shown, is_so }
}
