//! What does a disc really do? Its numbers as thrown, with how sure they are, from its measured throws.
//!
//! Before any throw they lie about the as-thrown sum. Each measured throw is as likely as the simulator says that such a disc ends there,
//! meant as it was and with this arm's scatter, in the wind at the throw. Drawn from that are the numbers that go together with all of
//! them.

use jiff::ToSpan;
use jiff::civil::Date;
use nalgebra::{Matrix2, SMatrix, Vector2};
use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::{Disc, DiscSpec, Numbers};
use crate::disc::thrown::{Thrown, thrown};
use crate::disc::wear::Grade;
use crate::error::BagError;
use crate::field::emulator::{ASKED, Emulator, Terms, UNSURE, Units, numbers_at, terms};
use crate::field::meant::wind_parts;
use crate::field::sampler::{covariance, draws, quantile};
use crate::field::session::{FieldSession, Purpose};
use crate::field::throw::{FieldThrow, Meant, Measured, WindThen};
use crate::need::area::Spot;
use crate::thrower::player::Player;
use crate::thrower::style::Style;

/// Share of cases in which a number lies within what is told of it.
const SURE: f64 = 0.9;
/// A number is known from its throws once so much of what was unsure about it is gone, as a share of the variance. Own judgement.
const KNOWN: f64 = 0.5;
/// Winds and powers as near to one another as this are flown as one: m/s, percent.
const WIND_STEP_M_S: f64 = 1.0;
const POWER_STEP_PCT: f64 = 5.0;
/// The headwind in which a further throw is thought of, m/s.
const HEADWIND_M_S: f64 = 5.0;

/// One of the four numbers.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct FoundNumber {
    /// As the sum says.
    pub sum: f64,
    /// As its throws say: half of what goes together with them lies above.
    pub found: f64,
    /// In nine cases of ten it lies above this,
    pub low: f64,
    /// and below this.
    pub high: f64,
    /// How much of what was unsure about it is gone, 0 to 1.
    pub learned: f64,
}

/// A kind of throw and what one of it would tell.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Telling {
    /// How it is meant.
    pub meant: Meant,
    /// Whether into a wind.
    pub headwind: bool,
    /// What three of it would tell, in bits: each halves what is possible.
    pub bits: f64,
}

/// A disc's numbers as its throws say.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FoundNumbers {
    /// Throws that say something of it.
    pub used: usize,
    /// Throws that do not: not measured, slipped, into something, or of a year before.
    pub left_out: usize,
    /// Speed.
    pub speed: FoundNumber,
    /// Glide.
    pub glide: FoundNumber,
    /// Turn.
    pub turn: FoundNumber,
    /// Fade.
    pub fade: FoundNumber,
    /// Whether its throws say enough to be taken over.
    pub is_enough: bool,
    /// What they say, in words.
    pub words: String,
    /// Kinds of throws, the most telling first.
    pub next: Vec<Telling>,
    /// The numbers to take over as observed, in the condition in which they were found.
    pub observed: Numbers,
    /// That condition.
    pub observed_worn: Grade,
}

/// Throws that are flown as one: meant alike in much the same wind and air.
struct Alike {
    emulator: Emulator,
    rests: Vec<Spot>,
    /// Distances whose side is not known.
    far_m: Vec<f64>,
}

/// A throw as those like it are flown.
fn rounded(throw: &FieldThrow) -> FieldThrow {
    let wind = wind_parts(&throw.wind);
    let step = |x: f64| WIND_STEP_M_S * (x / WIND_STEP_M_S).round();
    let (along, left) = (step(wind.0), step(wind.1));
    let power = throw.power_pct.map(|p| POWER_STEP_PCT * (p / POWER_STEP_PCT).round());
    FieldThrow {
        power_pct: power,
        wind: WindThen {
            wind_m_s: along.hypot(left),
            from_deg: left.atan2(-along).to_degrees().rem_euclid(360.0),
        },
        ..FieldThrow::named(&throw.disc_name, throw.style, throw.meant)
    }
}

/// What of a session the flights depend on.
fn air_of(session: &FieldSession) -> FieldSession {
    FieldSession { place: String::new(), note: String::new(), tee: None, aim_deg: None, ..session.clone() }
}

fn groups<'a>(clean: &[Measured<'a>]) -> Vec<(FieldSession, FieldThrow, Vec<&'a FieldThrow>)> {
    let mut groups: Vec<(FieldSession, FieldThrow, Vec<&FieldThrow>)> = Vec::new();
    for Measured { session, throw } in clean {
        let mut air = air_of(session);
        // Neither the day nor what it was for bends a flight.
        (air.date, air.purpose) = (Date::ZERO, Purpose::Practice);
        let like = rounded(throw);
        match groups.iter_mut().find(|(a, l, _)| *a == air && *l == like) {
            Some((.., throws)) => throws.push(throw),
            None => groups.push((air, like, vec![throw])),
        }
    }
    groups
}

/// Works the numbers out.
///
/// # Errors
/// [`BagError`] for a player, a disc or a throw outside its ranges.
pub fn found_numbers(
    player: &Player,
    disc: &Disc,
    throws: &[Measured<'_>],
) -> Result<FoundNumbers, BagError> {
    let latest = throws.iter().map(|m| m.session.date).max().unwrap_or(Date::ZERO);
    let since = latest.saturating_sub(STILL_SAYS_MONTHS.months());
    let says = |m: &&Measured| m.throw.is_clean() && m.session.date >= since;
    let clean: Vec<Measured> = throws.iter().filter(says).copied().collect();
    let held = thrown(disc)?;
    // Numbers that were taken over from these throws say nothing more about them.
    let printed = DiscSpec { observed: None, ..disc.spec.clone() };
    let sum = FlightNumbers::from(as_thrown(&printed).result);
    let of = (&sum, disc.spec.mass_g / 1000.0);
    let alike = groups(&clean)
        .into_par_iter()
        .map(|(session, like, throws)| {
            let emulator = Emulator::of(player, &session, &like, &held, of)?;
            let rests = throws.iter().filter_map(|t| t.rest()).collect();
            let far = throws.iter().filter(|t| t.rest().is_none()).filter_map(|t| t.distance_m).collect();
            Ok(Alike { emulator, rests, far_m: far })
        })
        .collect::<Result<Vec<Alike>, BagError>>()?;
    let mut drawn = Vec::new();
    let mut spread = terms(&Units::zeros());
    for kept in PASSES {
        let density = |units: &Units| -0.5 * units.norm_squared() + log_likelihood(&alike, units, &spread);
        drawn = draws(density, 0.5, kept);
        spread = terms(&(drawn.iter().sum::<Units>() / drawn.len() as f64));
    }
    let numbers: Vec<FlightNumbers> = drawn.iter().map(|units| numbers_at(&sum, units)).collect();
    let one = |k: usize, of: fn(&FlightNumbers) -> f64| {
        found_number(of(&sum), UNSURE[k], numbers.iter().map(of).collect())
    };
    let [speed, glide, turn, fade] =
        [one(0, |n| n.speed), one(1, |n| n.glide), one(2, |n| n.turn), one(3, |n| n.fade)];
    let next = most_telling(player, disc, &held, of, &clean, &covariance(&drawn))?;
    let is_enough = turn.learned.max(fade.learned) >= KNOWN && clean.len() >= LEAST_THROWS;
    let found = FlightNumbers::new(speed.found, glide.found, turn.found, fade.found);
    let (observed, observed_worn) = as_observed(&disc.spec, found);
    let mut told = FoundNumbers {
        used: clean.len(),
        left_out: throws.len() - clean.len(),
        speed,
        glide,
        turn,
        fade,
        is_enough,
        words: String::new(),
        next,
        observed,
        observed_worn,
    };
    told.words = words(&told);
    Ok(told)
}

/// Throws so long before the latest, months, are of a disc that was less worn. Own judgement.
const STILL_SAYS_MONTHS: i64 = 12;
/// Fewer throws than this are never taken for what a disc does. Own judgement.
const LEAST_THROWS: usize = 6;

/// How many draws are made at first and in the end, those with throws spread as the numbers found at first have them.
const PASSES: [usize; 2] = [800, 5000];

fn log_likelihood(alike: &[Alike], units: &Units, spread: &Terms) -> f64 {
    let terms = terms(units);
    let of = |a: &Alike| {
        let expected = a.emulator.expected(&terms, spread);
        a.rests.iter().map(|r| expected.log_likelihood(r)).sum::<f64>()
            + a.far_m.iter().map(|m| expected.log_likelihood_far(*m)).sum::<f64>()
    };
    alike.iter().map(of).sum()
}

fn found_number(sum: f64, unsure: f64, mut values: Vec<f64>) -> FoundNumber {
    values.sort_by(f64::total_cmp);
    let n = values.len().max(1) as f64;
    let mean = values.iter().sum::<f64>() / n;
    let variance = values.iter().map(|x| (x - mean).powi(2)).sum::<f64>() / n;
    FoundNumber {
        sum,
        found: quantile(&values, 0.5),
        low: quantile(&values, 0.5 - 0.5 * SURE),
        high: quantile(&values, 0.5 + 0.5 * SURE),
        learned: (1.0 - variance / (unsure * unsure)).clamp(0.0, 1.0),
    }
}

/// Which kind of throw would tell most of what is unsure yet: by how much three of it would narrow what goes together with the throws so
/// far, taken for normal (D. V. Lindley 1956, from memory).
fn most_telling(
    player: &Player,
    disc: &Disc,
    held: &Thrown,
    of: (&FlightNumbers, f64),
    clean: &[Measured<'_>],
    unsure: &SMatrix<f64, ASKED, ASKED>,
) -> Result<Vec<Telling>, BagError> {
    let usual = || FieldSession::usual();
    let session = clean.last().map_or_else(usual, |m| air_of(m.session));
    let style = clean.last().map_or(player.strong_style, |m| m.throw.style);
    let mut all = Vec::new();
    // Overhand throws and putts are meant one way.
    let ways: &[Meant] = match style {
        Style::Backhand | Style::Forehand => &[Meant::Flat, Meant::Hyzer, Meant::Anhyzer],
        _ => &[Meant::Flat],
    };
    for &meant in ways {
        for headwind in [false, true] {
            let wind = WindThen { wind_m_s: if headwind { HEADWIND_M_S } else { 0.0 }, from_deg: 0.0 };
            let like = FieldThrow { wind, ..FieldThrow::of(disc, style, meant) };
            let (slopes, [along, across]) = Emulator::of(player, &session, &like, held, of)?.slopes();
            let noise = Matrix2::from_diagonal(&Vector2::new(along.powi(2), across.powi(2)));
            let seen = 3.0 * slopes * unsure * slopes.transpose();
            let inverse = noise.try_inverse().unwrap_or_default();
            let told = (Matrix2::identity() + seen * inverse).determinant();
            all.push(Telling { meant, headwind, bits: 0.5 * told.max(1.0).log2() });
        }
    }
    all.sort_by(|a, b| b.bits.total_cmp(&a.bits));
    Ok(all)
}

/// The numbers that are to be kept as observed so that the sum says what was found, in the grade that comes nearest to how worn the disc
/// is.
pub fn as_observed(spec: &DiscSpec, found: FlightNumbers) -> (Numbers, Grade) {
    let worn = Grade::of_share(spec.wear_share());
    let mut kept = found.clamped();
    // What has worn since that grade depends on the fade kept: a few steps settle it.
    for _ in 0..20 {
        let mut trial = spec.clone();
        trial.observed = Some(kept.into());
        trial.keeping.observed_worn = worn;
        let says = FlightNumbers::from(as_thrown(&trial).result);
        kept = FlightNumbers::new(
            kept.speed + found.speed - says.speed,
            kept.glide + found.glide - says.glide,
            kept.turn + found.turn - says.turn,
            kept.fade + found.fade - says.fade,
        )
        .clamped();
    }
    (kept.into(), worn)
}

/// What the throws say, in a sentence or two.
fn words(found: &FoundNumbers) -> String {
    if found.used == 0 {
        return "No throw of it was measured yet: what follows is its sum.".into();
    }
    let apart = |n: &FoundNumber| n.low > n.sum || n.high < n.sum;
    let says = |what: &str, n: &FoundNumber| {
        apart(n).then(|| {
            let more = if n.found > n.sum { "more" } else { "less" };
            format!("{what} {:.1} instead of {:.1}, surely {more}", n.found, n.sum)
        })
    };
    let found_so: Vec<String> = [
        says("speed", &found.speed),
        says("glide", &found.glide),
        says("turn", &found.turn),
        says("fade", &found.fade),
    ]
    .into_iter()
    .flatten()
    .collect();
    let differs = if found_so.is_empty() {
        "It flies as its sum says, as far as its throws tell.".to_owned()
    } else {
        format!("It flies otherwise than its sum says: {}.", found_so.join("; "))
    };
    let enough = if found.is_enough { "" } else { " These are too few throws to take it over." };
    let next = found.next.first().map_or_else(String::new, |t| {
        let how = match t.meant {
            Meant::Flat => "flat",
            Meant::Hyzer => "on hyzer",
            Meant::Anhyzer => "on anhyzer",
        };
        let wind = if t.headwind { ", into the wind" } else { "" };
        format!(" Three throws {how}{wind} would tell most next.")
    });
    format!("{differs}{enough}{next}")
}
