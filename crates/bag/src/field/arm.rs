//! What does an arm really do? Its speed and its scatter in a style, with how sure they are, from measured throws.
//!
//! Before any throw they lie about what the player told. A disc's own numbers are unsure too, so that its throws are off together; only
//! what several discs and kinds of throws share is the arm's.

use nalgebra::{Matrix2, SMatrix, SVector, Vector2};
use rayon::prelude::*;
use serde::Serialize;
use statrs::distribution::{ContinuousCDF, Normal};
use utoipa::ToSchema;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::scatter::{DIMENSIONS, deviates};

use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::{Disc, DiscId, DiscSpec};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::field::design::{Surface, points, terms, terms_in};
use crate::field::emulator::{ASKED, Units as Numbers, numbers_at};
use crate::field::kind::{Kind, kinds, still_say_since};
use crate::field::meant::{ends, meant};
use crate::field::sampler::{SURE, draws, quantile};
use crate::field::spread::Mean;
use crate::field::throw::{Meant, Measured};
use crate::need::area::Spot;
use crate::thrower::arm::{Arm, driving_distance_m};
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::verdict::ladder::flat;
use crate::words::speed;

/// What is asked of an arm: its speed, how it scatters along, how it scatters to the sides.
const ASKED_OF_ARM: usize = 3;
const TERMS: usize = terms_in(ASKED_OF_ARM);
/// What is told of rests: mean along and left, logarithm of both deviations, Fisher's z of their correlation.
const TOLD: usize = 5;
/// Throws flown at each point of the design; half as many either way of the middle for what a disc's numbers do. Where there are more
/// kinds of throws than [`MANY_KINDS`] fewer of each: their grain evens out, as kinds take turns with sets of throws.
const FLOWN: usize = 128;
const FLOWN_OF_MANY: usize = 64;
const MANY_KINDS: usize = 64;
/// How unsure the three are before any throw, as deviations of their logarithms. Own judgement: a distance told is a tenth off, a skill
/// stands for scatters that are a half apart.
const ARM_UNSURE: [f64; ASKED_OF_ARM] = [0.08, 0.35, 0.35];
/// Throws at less of their power than this, percent, say little of full speed: how far one holds back is not known so well.
const FULL_FROM_PCT: f64 = 90.0;
/// Throws that lie so many deviations off are of another kind than meant.
const STRAY_FROM: f64 = 4.5;
/// So many throws of a style are looked at, the latest: more say hardly more. Own judgement.
pub const MOST_THROWS: usize = 500;
/// Fewer throws than this are never taken for what an arm does. Own judgement.
const LEAST_THROWS: usize = 12;
/// So many discs tell an arm from what a disc does. Own judgement.
const ENOUGH_DISCS: usize = 3;
/// Something is known once so much of what was unsure about it is gone, as a share of the variance. Own judgement.
const KNOWN: f64 = 0.5;
/// Draws that are kept, and where only their middle is asked, to see what lies far off it.
const KEPT: usize = 4000;
const KEPT_ROUGHLY: usize = 400;
/// Least deviation of rests that is believed, m.
const LEAST_M: f64 = 0.3;
/// How much less sure a scatter is than of normal throws, at the most: their kurtosis is read from a few.
const LEAST_WEIGHT: f64 = 0.25;

type Asked = SVector<f64, ASKED_OF_ARM>;
type Told = SVector<f64, TOLD>;
type Slopes = SMatrix<f64, 2, ASKED>;

/// Something of an arm, as it was told and as its throws say.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct FoundOfArm {
    /// As the player told it.
    pub told: f64,
    /// As the throws say: half of what goes together with them lies above.
    pub found: f64,
    /// In nine cases of ten it lies above this,
    pub low: f64,
    /// and below this.
    pub high: f64,
    /// How much of what was unsure about it is gone, 0 to 1.
    pub learned: f64,
}

/// A disc's distance as measured, beside what is expected of it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MeasuredDistance {
    /// The disc.
    pub disc_id: DiscId,
    /// Its name.
    pub disc_name: String,
    /// Its flat full throws, m.
    pub measured_m: Mean,
    /// What is expected of just these throws, in the wind and onto the ground of each, m.
    pub expected_m: f64,
    /// Where it first touches in calm air, as the ladder has it, m.
    pub ladder_m: f64,
}

/// An arm in a style, as its throws say.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FoundArm {
    /// The style.
    pub style: Style,
    /// Throws that say something of it.
    pub used: usize,
    /// Discs they were made with.
    pub discs: usize,
    /// Throws in the style that do not: held back, for a line or a target, not measured, slipped, into something, of a disc that is gone, or far off all others.
    pub left_out: usize,
    /// Full controlled speed with a driver, m/s.
    pub speed_m_s: FoundOfArm,
    /// How many times as much as told speed, launch and nose scatter.
    pub along_times: FoundOfArm,
    /// How many times as much as told hyzer and aim scatter.
    pub side_times: FoundOfArm,
    /// Whether the throws say enough to be taken over.
    pub is_enough: bool,
    /// What they say, in words.
    pub words: String,
    /// The player with this arm told as it was found.
    pub as_found: Player,
    /// Distances of discs, the farthest first.
    pub distances: Vec<MeasuredDistance>,
}

/// Throws of a kind as an arm's speed and scatter make them, and what was measured.
struct Emulated {
    disc: usize,
    surface: Surface<ASKED_OF_ARM, TERMS, TOLD>,
    /// How the mean rest moves with the disc's numbers, m a unit of how unsure they are.
    slopes: Slopes,
    /// By how much that is bent: how far discs whose numbers are unsure end from one whose numbers are in the middle, in the mean, m.
    bent: Vector2<f64>,
    /// How much less a throw says of the scatter than a normal one.
    weight: f64,
    /// How differently discs scatter whose numbers are as unsure: the variance of the logarithm of a deviation.
    other: f64,
    rests: Vec<Spot>,
}

/// Their count, mean and squares about it.
struct Sums {
    n: f64,
    mean: Vector2<f64>,
    squares: Matrix2<f64>,
}

impl Sums {
    fn of(rests: &[Spot]) -> Sums {
        let n = rests.len() as f64;
        let at = |r: &Spot| Vector2::new(r.at_m, r.left_m);
        let mean = rests.iter().map(at).sum::<Vector2<f64>>() / n.max(1.0);
        let square = |r: &Spot| (at(r) - mean) * (at(r) - mean).transpose();
        Sums { n, mean, squares: rests.iter().map(square).sum() }
    }
}

/// What the arm is, by what is asked.
fn factors(units: &Asked) -> [f64; ASKED_OF_ARM] {
    std::array::from_fn(|k| (ARM_UNSURE[k] * units[k]).exp())
}

/// Rests of throws of a kind by an arm.
fn rests(
    player: &Player,
    kind: &Kind<Measured<'_>>,
    held: &Thrown,
    units: &Asked,
    row: &[[f64; DIMENSIONS]],
) -> Result<Vec<Vector2<f64>>, BagError> {
    let [speed, along, side] = factors(units);
    let mut meant = meant(player, &kind.session, &kind.like, held)?;
    meant.throw.release = meant.throw.release.at_speed(speed * meant.throw.release.speed_m_s);
    meant.spread = meant.spread.wider(along, side);
    let outcomes = ends(player, &kind.session, &meant, held, row)?;
    Ok(outcomes.iter().map(|o| Vector2::new(o.x_m, o.y_m)).collect())
}

fn mean(rests: &[Vector2<f64>]) -> Vector2<f64> {
    rests.iter().sum::<Vector2<f64>>() / rests.len().max(1) as f64
}

fn covariance(rests: &[Vector2<f64>]) -> Matrix2<f64> {
    let middle = mean(rests);
    let sum = rests.iter().map(|r| (r - middle) * (r - middle).transpose()).sum::<Matrix2<f64>>();
    sum / rests.len().max(1) as f64 + Matrix2::identity() * LEAST_M * LEAST_M
}

fn told(rests: &[Vector2<f64>]) -> Told {
    let (mean, c) = (mean(rests), covariance(rests));
    let (along, side) = (c[(0, 0)].sqrt(), c[(1, 1)].sqrt());
    let both = (c[(0, 1)] / (along * side)).clamp(-0.95, 0.95);
    Told::from([mean.x, mean.y, along.ln(), side.ln(), both.atanh()])
}

/// How normal throws compare with these in what they say of a scatter: by Mardia's kurtosis (K. V. Mardia 1970, from memory), 8 in the
/// plane.
fn weight(rests: &[Vector2<f64>]) -> f64 {
    let (middle, inverse) = (mean(rests), covariance(rests).try_inverse().unwrap_or_default());
    let square = |r: &Vector2<f64>| ((r - middle).transpose() * inverse * (r - middle))[0].powi(2);
    let kurtosis = rests.iter().map(square).sum::<f64>() / rests.len().max(1) as f64;
    // The variance of a squared distance, 4 of normal ones.
    (4.0 / (kurtosis - 4.0).max(1e-9)).clamp(LEAST_WEIGHT, 1.0)
}

/// The covariance that is told.
fn covariance_of(told: &Told) -> Matrix2<f64> {
    let (along, side, both) = (told[2].exp(), told[3].exp(), told[4].tanh());
    let together = along * side * both;
    Matrix2::new(along * along, together, together, side * side)
}

impl Emulated {
    fn of(
        player: &Player,
        kind: &Kind<Measured<'_>>,
        (at, disc): (usize, &Disc),
        row: &[[f64; DIMENSIONS]],
    ) -> Result<Emulated, BagError> {
        let held = thrown(disc)?;
        let printed = DiscSpec { observed: None, ..disc.spec.clone() };
        let middle = FlightNumbers::from(as_thrown(&printed).result);
        let with = |numbers: &Numbers| -> Result<Thrown, BagError> {
            Ok(Thrown { body: numbers_at(&middle, numbers).disc(disc.spec.mass_g / 1000.0)?, ..held })
        };
        let plain = with(&Numbers::zeros())?;
        let flown = points::<ASKED_OF_ARM>()
            .iter()
            .map(|units| rests(player, kind, &plain, units, row))
            .collect::<Result<Vec<_>, BagError>>()?;
        let (mut slopes, mut bent, mut other) = (Slopes::zeros(), Vector2::zeros(), 0.0);
        let half = row.len() / 2;
        let few = told(&flown[0][..half]);
        for k in 0..ASKED {
            let at = |units: f64| -> Result<Told, BagError> {
                let disc = with(&Numbers::from_fn(|i, _| if i == k { units } else { 0.0 }))?;
                Ok(told(&rests(player, kind, &disc, &Asked::zeros(), &row[..half])?))
            };
            let (more, less) = (at(1.0)?, at(-1.0)?);
            let (slope, mean) = (0.5 * (more - less), 0.5 * (more + less));
            slopes.set_column(k, &slope.fixed_rows::<2>(0));
            bent += (mean - few).fixed_rows::<2>(0);
            other += 0.5 * (slope[2].powi(2) + slope[3].powi(2));
        }
        Ok(Emulated {
            disc: at,
            surface: Surface::through(&flown.iter().map(|rests| told(rests)).collect::<Vec<Told>>()),
            slopes,
            bent,
            weight: weight(&flown[0]),
            other,
            rests: kind.throws.iter().filter_map(|m| m.throw.rest()).collect(),
        })
    }
}

/// Logarithm of how likely the throws are, up to a constant: normal ones, each disc's numbers integrated out.
fn log_likelihood(emulated: &[(&Emulated, Sums)], units: &Asked) -> f64 {
    let terms: SVector<f64, TERMS> = terms(units);
    let mut sum = 0.0;
    for alike in emulated.chunk_by(|a, b| a.0.disc == b.0.disc) {
        let mut precision = SMatrix::<f64, ASKED, ASKED>::identity();
        let mut pull = SVector::<f64, ASKED>::zeros();
        // However many throws one disc makes, they say of the arm's scatter no more than the disc's own leaves open. A deviation read
        // from n normal throws has a logarithm of variance 1 / (2 n).
        let shared = 1.0 / (1.0 + alike.iter().map(|(e, s)| 2.0 * e.other * e.weight * s.n).sum::<f64>());
        for (e, s) in alike {
            let told = e.surface.at(&terms);
            let covariance = covariance_of(&told);
            let Some(inverse) = covariance.try_inverse() else { return f64::NEG_INFINITY };
            let log_volume = covariance.determinant().ln();
            let off = s.mean - Vector2::new(told[0], told[1]) - e.bent;
            let scatter = s.n * log_volume + (inverse * s.squares).trace();
            sum -= 0.5 * shared * e.weight * (scatter + s.n * (off.transpose() * inverse * off)[0]);
            let says = shared * e.weight * s.n * e.slopes.transpose() * inverse;
            precision += says * e.slopes;
            pull += says * off;
        }
        let Some(cholesky) = precision.cholesky() else { return f64::NEG_INFINITY };
        sum += 0.5 * pull.dot(&cholesky.solve(&pull)) - 0.5 * cholesky.determinant().ln();
    }
    sum
}

/// Leaves out what lies so far off that it was of another kind than meant, by the arm as it was found so far; how many.
fn leave_out_strays(emulated: &mut [Emulated], units: &Asked) -> usize {
    let terms: SVector<f64, TERMS> = terms(units);
    let mut strays = 0;
    for e in emulated {
        let told = e.surface.at(&terms);
        // A disc may fly otherwise than its sum: what all its throws share is no stray.
        let unsure = covariance_of(&told) + e.slopes * e.slopes.transpose();
        let inverse = unsure.try_inverse().unwrap_or_default();
        let before = e.rests.len();
        e.rests.retain(|r| {
            let off = Vector2::new(r.at_m - told[0], r.left_m - told[1]);
            (off.transpose() * inverse * off)[0] <= STRAY_FROM.powi(2)
        });
        strays += before - e.rests.len();
    }
    strays
}

fn draw(emulated: &[Emulated], kept: usize) -> Vec<Asked> {
    let sums: Vec<(&Emulated, Sums)> =
        emulated.iter().filter(|e| !e.rests.is_empty()).map(|e| (e, Sums::of(&e.rests))).collect();
    if sums.is_empty() {
        // What was thought before, without the grain of a sample.
        let at = |k: usize| Normal::standard().inverse_cdf((k as f64 + 0.5) / kept as f64);
        return (0..kept).map(|k| Asked::repeat(at(k))).collect();
    }
    draws(|units: &Asked| -0.5 * units.norm_squared() + log_likelihood(&sums, units), 0.5, kept)
}

/// Works out what an arm does in a style, from its throws with discs of a shelf.
///
/// # Errors
/// [`BagError`] for a player, a disc or a throw outside its ranges, and for putts, which say nothing of an arm.
pub fn found_arm(
    player: &Player,
    style: Style,
    shelf: &[Disc],
    throws: &[Measured<'_>],
) -> Result<FoundArm, BagError> {
    if style == Style::Putt {
        let expected = "any style but putts, which say nothing of an arm".into();
        return Err(BagError::Field { field: "style", expected, got: style.label().into() });
    }
    let told = Arm::of(player, &Conditions::default())?;
    let since = still_say_since(throws);
    let of_style: Vec<&Measured> =
        throws.iter().filter(|m| m.throw.style == style && m.session.date >= since).collect();
    let disc_of = |m: &Measured| m.throw.disc_id.and_then(|id| shelf.iter().position(|d| d.id == id));
    let is_full = |m: &&&Measured| m.throw.power_pct.is_none_or(|p| p >= FULL_FROM_PCT);
    let says = |m: &&&Measured| {
        m.throw.is_clean() && m.throw.rest().is_some() && m.is_straight() && disc_of(m).is_some()
    };
    let full: Vec<Measured> = of_style.iter().filter(is_full).filter(says).map(|m| **m).collect();
    let mut groups: Vec<(usize, Kind<Measured<'_>>)> = kinds(&full)
        .into_iter()
        .filter_map(|kind| Some((shelf.iter().position(|d| Some(d.id) == kind.like.disc_id)?, kind)))
        .collect();
    groups.sort_by_key(|(disc, _)| *disc);
    let each = if groups.len() > MANY_KINDS { FLOWN_OF_MANY } else { FLOWN };
    let rows: Vec<&[[f64; DIMENSIONS]]> = deviates(style.into()).chunks_exact(each).collect();
    let mut emulated = groups
        .par_iter()
        .enumerate()
        .map(|(k, (at, kind))| Emulated::of(player, kind, (*at, &shelf[*at]), rows[k % rows.len()]))
        .collect::<Result<Vec<Emulated>, BagError>>()?;
    let rough = draw(&emulated, KEPT_ROUGHLY);
    let strays = leave_out_strays(&mut emulated, &(rough.iter().sum::<Asked>() / rough.len() as f64));
    let drawn = draw(&emulated, KEPT);
    let of_arm =
        |k: usize, told: f64| found_of_arm(told, ARM_UNSURE[k], drawn.iter().map(|u| u[k]).collect());
    let (speed, along, side) = (of_arm(0, told.speed_m_s(style)), of_arm(1, 1.0), of_arm(2, 1.0));
    let used = full.len() - strays;
    let known = [speed, along, side].iter().any(|f| f.learned >= KNOWN);
    let mut found = FoundArm {
        style,
        used,
        discs: groups.chunk_by(|a, b| a.0 == b.0).count(),
        left_out: of_style.len() - used,
        speed_m_s: speed,
        along_times: along,
        side_times: side,
        is_enough: known && used >= LEAST_THROWS,
        words: String::new(),
        as_found: player.told_anew(
            style,
            driving_distance_m(speed.found, style, None),
            speed.found,
            player.scatter(style).wider(along.found, side.found),
        ),
        distances: distances(player, &told, style, shelf, &groups)?,
    };
    found.words = words(player, &found);
    Ok(found)
}

fn found_of_arm(told: f64, unsure: f64, mut units: Vec<f64>) -> FoundOfArm {
    units.sort_by(f64::total_cmp);
    let n = units.len().max(1) as f64;
    let mean = units.iter().sum::<f64>() / n;
    let variance = units.iter().map(|x| (x - mean).powi(2)).sum::<f64>() / n;
    let at = |share: f64| told * (unsure * quantile(&units, share)).exp();
    FoundOfArm {
        told,
        found: at(0.5),
        low: at(0.5 - 0.5 * SURE),
        high: at(0.5 + 0.5 * SURE),
        learned: (1.0 - variance).clamp(0.0, 1.0),
    }
}

/// Distances of flat full throws, disc by disc, beside what is expected of them.
fn distances(
    player: &Player,
    arm: &Arm,
    style: Style,
    shelf: &[Disc],
    groups: &[(usize, Kind<Measured<'_>>)],
) -> Result<Vec<MeasuredDistance>, BagError> {
    let mut told = Vec::new();
    for alike in groups.chunk_by(|a, b| a.0 == b.0) {
        let disc = &shelf[alike[0].0];
        let held = thrown(disc)?;
        let (mut measured, mut expected) = (Vec::new(), 0.0);
        for (_, kind) in alike.iter().filter(|(_, kind)| kind.like.meant == Meant::Flat) {
            let rests = rests(player, kind, &held, &Asked::zeros(), &deviates(style.into())[..FLOWN])?;
            let far = rests.iter().map(|r| r.norm()).sum::<f64>() / rests.len() as f64;
            let throws = kind.throws.iter().filter_map(|m| m.throw.distance_m);
            measured.extend(throws);
            expected += far * kind.throws.len() as f64;
        }
        let Some(measured_m) = Mean::of(&measured) else { continue };
        let ladder = fly_all(&[flat(arm, style, &held, 1.0)], &arm.air, &[]);
        told.push(MeasuredDistance {
            disc_id: disc.id,
            disc_name: disc.spec.name.clone(),
            measured_m,
            expected_m: expected / measured.len() as f64,
            ladder_m: ladder[0].distance_m(),
        });
    }
    told.sort_by(|a, b| b.measured_m.mean.total_cmp(&a.measured_m.mean));
    Ok(told)
}

/// What the throws say, in a sentence or three.
fn words(player: &Player, found: &FoundArm) -> String {
    if found.used == 0 {
        return format!(
            "No full {} was measured yet with its side: what follows is what you told.",
            found.style.label()
        );
    }
    let told = |f: &FoundOfArm| (f.low..=f.high).contains(&f.told);
    let arm = &found.speed_m_s;
    let fast = format!("{} with a driver", speed(player.units, arm.found));
    let arm_words = match (told(arm), arm.found > arm.told) {
        (true, _) => format!("Your arm is as fast as you told, about {fast}"),
        (false, faster) => format!(
            "Your arm is {} than you told, surely: about {fast}",
            if faster { "faster" } else { "slower" }
        ),
    };
    let wide = |f: &FoundOfArm, what: &str| match told(f) {
        true => format!("{what} as told"),
        false => format!("{what} surely {:.1} times as much as told", f.found),
    };
    let scatter = match (told(&found.along_times), told(&found.side_times)) {
        (true, true) => "Your throws scatter as told".to_owned(),
        _ => format!(
            "Your throws scatter {}; {}",
            wide(&found.along_times, "along"),
            wide(&found.side_times, "to the sides")
        ),
    };
    let next = match () {
        () if found.used < LEAST_THROWS => {
            format!(" {} throws more would be enough to say so.", LEAST_THROWS - found.used)
        }
        () if found.discs < ENOUGH_DISCS => {
            " What the throws of one or two discs share may be the discs’ own: throw others too.".into()
        }
        () => String::new(),
    };
    format!("{arm_words}. {scatter}.{next}")
}
