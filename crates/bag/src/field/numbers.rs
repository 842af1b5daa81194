//! What does a disc really do? Its numbers as thrown, with how sure they are, from its measured throws.
//!
//! Before any throw they lie about the as-thrown sum. Each measured throw is as likely as the simulator says that such a disc ends there,
//! meant as it was and with this arm's scatter, in the wind at the throw. Drawn from that are the numbers that go together with all of
//! them.

use nalgebra::SMatrix;
use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::{Disc, DiscSpec, Numbers};
use crate::disc::thrown::{Thrown, thrown};
use crate::disc::wear::Grade;
use crate::error::BagError;
use crate::field::design::terms;
use crate::field::emulator::{ASKED, Alike, Emulator, UNSURE, Units, numbers_at, turn_side};
use crate::field::kind::{Kind, air_of, kinds, still_say_since};
use crate::field::run::{RunDifference, beforehand};
use crate::field::sampler::{SURE, covariance, draws, quantile};
use crate::field::session::FieldSession;
use crate::field::sight::{MEASURED, Sight, Sights, WATCHED, information};
use crate::field::throw::{FieldThrow, Meant, Measured, WindThen};
use crate::thrower::player::Player;
use crate::thrower::style::Style;

/// A number is known from its throws once so much of what was unsure about it is gone, as a share of the variance. Own judgement.
const KNOWN: f64 = 0.5;
/// Of a number so little learned nothing is said to be known. Own judgement.
const LITTLE: f64 = 0.2;
/// What watching must add to be asked for, bits. Own judgement: three throws are watched for it.
const WORTH_WATCHING_BITS: f64 = 0.3;
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
    /// The same if swing, height and time are watched too.
    pub bits_watched: f64,
}

/// A disc's numbers as its throws say.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FoundNumbers {
    /// Throws that say something of it.
    pub used: usize,
    /// Throws that do not: not measured, slipped, into something, or of a year before.
    pub left_out: usize,
    /// Of those that do, throws of which swing, height or time were told too.
    pub watched: usize,
    /// What other discs of its run tell; null if none does.
    pub run: Option<RunDifference>,
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

/// Works the numbers out, of a disc among those of a shelf.
///
/// # Errors
/// [`BagError`] for a player, a disc or a throw outside its ranges.
pub fn found_numbers(
    player: &Player,
    disc: &Disc,
    shelf: &[Disc],
    throws: &[Measured<'_>],
) -> Result<FoundNumbers, BagError> {
    let since = still_say_since(throws);
    let says = |m: &&Measured| m.throw.is_clean() && m.session.date >= since;
    let clean: Vec<Measured> = throws.iter().filter(says).copied().collect();
    let held = thrown(disc)?;
    // Numbers that were taken over from these throws say nothing more about them.
    let printed = DiscSpec { observed: None, ..disc.spec.clone() };
    let sum = FlightNumbers::from(as_thrown(&printed).result);
    let (before, run) = beforehand(disc, shelf);
    let groups = kinds(&clean);
    let alike = |kind: &'_ Kind<Measured<'_>>| -> Result<(Emulator, Vec<Sight>), BagError> {
        let side = turn_side(player, kind.like.style);
        let sights = kind.throws.iter().filter_map(|t| Sight::of(*t, side)).collect();
        Ok((Emulator::of(&about(player, kind, &held, &sum, disc))?, sights))
    };
    let emulated = groups.par_iter().map(alike).collect::<Result<Vec<_>, BagError>>()?;
    let watched = emulated.iter().flat_map(|(_, sights)| sights).filter(|s| s.is_watched()).count();
    let mut drawn = Vec::new();
    let mut middle = before.middle;
    for kept in PASSES {
        let scattered = |(kind, (_, sights)): (&Kind<Measured<'_>>, &(Emulator, Vec<Sight>))| {
            Ok(Sights::of(sights, &about(player, kind, &held, &sum, disc).scatter(&middle)?))
        };
        let sights =
            groups.par_iter().zip(&emulated).map(scattered).collect::<Result<Vec<Sights>, BagError>>()?;
        let density = |units: &Units| {
            let terms = terms(units);
            let each = emulated.iter().zip(&sights);
            before.log_density(units) + each.map(|((e, _), s)| s.log_likelihood(&e.mean(&terms))).sum::<f64>()
        };
        drawn = draws(density, 0.5, kept);
        middle = drawn.iter().sum::<Units>() / drawn.len() as f64;
    }
    let numbers: Vec<FlightNumbers> = drawn.iter().map(|units| numbers_at(&sum, units)).collect();
    let one = |k: usize, of: fn(&FlightNumbers) -> f64| {
        found_number(of(&sum), before.deviation * UNSURE[k], numbers.iter().map(of).collect())
    };
    let [speed, glide, turn, fade] =
        [one(0, |n| n.speed), one(1, |n| n.glide), one(2, |n| n.turn), one(3, |n| n.fade)];
    let next = most_telling(player, disc, &held, &sum, &clean, &covariance(&drawn))?;
    let is_enough = turn.learned.max(fade.learned) >= KNOWN && clean.len() >= LEAST_THROWS;
    let found = FlightNumbers::new(speed.found, glide.found, turn.found, fade.found);
    let (observed, observed_worn) = as_observed(&disc.spec, found);
    let mut told = FoundNumbers {
        used: clean.len(),
        left_out: throws.len() - clean.len(),
        watched,
        run,
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

/// Throws of a kind with a disc whose numbers lie about `middle`.
fn about<'a>(
    player: &'a Player,
    kind: &'a Kind<Measured<'_>>,
    held: &'a Thrown,
    middle: &'a FlightNumbers,
    disc: &Disc,
) -> Alike<'a> {
    let mass_kg = disc.spec.mass_g / 1000.0;
    Alike { player, session: &kind.session, like: &kind.like, held, middle, mass_kg }
}

/// Fewer throws than this are never taken for what a disc does. Own judgement.
const LEAST_THROWS: usize = 6;

/// How many draws are made at first and in the end, those with throws spread as the numbers found at first have them.
const PASSES: [usize; 2] = [800, 5000];

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
    middle: &FlightNumbers,
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
            let kind = Kind { session: session.clone(), like, throws: vec![] };
            let alike = about(player, &kind, held, middle, disc);
            let (slopes, scatter) = (Emulator::of(&alike)?.slopes(), alike.scatter(&Units::zeros())?);
            let bits = |mask: u8| {
                let told = SMatrix::identity() + 3.0 * unsure * information(&slopes, &scatter, mask);
                0.5 * told.determinant().max(1.0).log2()
            };
            all.push(Telling { meant, headwind, bits: bits(MEASURED), bits_watched: bits(WATCHED) });
        }
    }
    all.sort_by(|a, b| b.bits_watched.total_cmp(&a.bits_watched));
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
        return match &found.run {
            None => "No throw of it was measured yet: what follows is its sum.".into(),
            Some(run) => format!(
                "No throw of it was measured yet: what follows is its sum and what {} of its run ({}) tell{} of it.",
                if run.discs == 1 { "another disc".into() } else { format!("{} other discs", run.discs) },
                run.run,
                if run.discs == 1 { "s" } else { "" },
            ),
        };
    }
    let apart = |n: &FoundNumber| n.low > n.sum || n.high < n.sum;
    let says = |what: &str, n: &FoundNumber| {
        apart(n).then(|| {
            let more = if n.found > n.sum { "more" } else { "less" };
            format!("{what} {:.1} instead of {:.1}, surely {more}", n.found, n.sum)
        })
    };
    let all =
        [("speed", &found.speed), ("glide", &found.glide), ("turn", &found.turn), ("fade", &found.fade)];
    let found_so: Vec<String> = all.iter().filter_map(|(what, n)| says(what, n)).collect();
    let differs = if found_so.is_empty() {
        "It flies as its sum says, as far as its throws tell.".to_owned()
    } else {
        format!("It flies otherwise than its sum says: {}.", found_so.join("; "))
    };
    let little: Vec<&str> = all.iter().filter(|(_, n)| n.learned < LITTLE).map(|(what, _)| *what).collect();
    let enough = match (found.is_enough, little.is_empty()) {
        (false, _) => " These are too few throws to take it over.".to_owned(),
        (true, true) => String::new(),
        (true, false) => format!(
            " Of {} they tell little: taken over, that stays near what was thought before.",
            little.join(" and ")
        ),
    };
    let next = found.next.first().map_or_else(String::new, |t| {
        let how = match t.meant {
            Meant::Flat => "flat",
            Meant::Hyzer => "on hyzer",
            Meant::Anhyzer => "on anhyzer",
        };
        let wind = if t.headwind { ", into the wind" } else { "" };
        let watch = if t.bits_watched > t.bits + WORTH_WATCHING_BITS {
            "; watch how far it swings, how high it goes and how long it flies"
        } else {
            ""
        };
        format!(" Three throws {how}{wind} would tell most next{watch}.")
    });
    let run = found.run.as_ref().map_or_else(String::new, |run| {
        let discs = if run.discs == 1 { "another disc".into() } else { format!("{} other discs", run.discs) };
        format!(" Before its throws it was expected to fly as {discs} of its run (\u{201c}{}\u{201d}) were found to.", run.run)
    });
    format!("{differs}{enough}{next}{run}")
}
