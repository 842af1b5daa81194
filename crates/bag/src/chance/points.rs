//! The throws that clouds are flown with, what each of them stands for, and moves of their centre.

use std::iter::StepBy;
use std::ops::Range;
use std::sync::LazyLock;

use nalgebra::DMatrix;
use zinc_kite_flight::release::Style;
use zinc_kite_flight::scatter::{
    AIM, DIMENSIONS, FARTHEST_ERROR, RELEASE_ERRORS, aim_given_others, correlation_factor, deviates,
};

use crate::chance::answer::JUDGED_ON;

/// One number a throw.
pub(super) type Column<const N: usize> = [f32; N];

/// Errors that shape a flight: speed, hyzer, launch, nose. Aim only turns it; gusts stay as they were flown.
pub(crate) const SHAPING: usize = 4;
/// Throws by which a way is found, those by which its last steps are, and those by which a chance is told.
pub(crate) const FEW: usize = 32;
pub(crate) const MANY: usize = 64;
pub(crate) const ALL: usize = 128;
/// Every so manieth of the last is flown a little way off, to see what a move does.
pub(super) const EVERY: usize = 2;
pub(crate) const SOME: usize = ALL / EVERY;
/// By how much each throw stands for those about it, as a share of the scatter told: far while a release is sought, as the ground
/// is to be smooth; less for the chance itself, as a slope holds only near by. Own: of 0.3 to 0.85 and of 0 to 0.7 these lost least.
const SOUGHT_SPREAD: f64 = 0.7;
const TOLD_SPREAD: f64 = 0.3;
/// Terms of a full quadratic in four variables.
pub(super) const TERMS: usize = 15;
/// A quadratic in the shaping errors a, b, c, d, by its terms 1, a, b, c, d, a², ab, ac, ad, b², bc, bd, c², cd, d².
pub(super) type Quadratic = [f32; TERMS];

/// A move of the centre: speed, hyzer, launch and nose in standard deviations of the player's scatter, aim in degrees.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Shift {
    pub shape: [f64; SHAPING],
    pub aim_deg: f64,
}

impl Shift {
    /// Along one of what shapes a flight.
    pub(crate) fn along(which: usize, by: f64) -> Shift {
        let mut shift = Shift::default();
        shift.shape[which] = by;
        shift
    }

    /// Moved on by `steps` times another move.
    pub(crate) fn plus(&self, other: &Shift, steps: f64) -> Shift {
        Shift {
            shape: std::array::from_fn(|k| self.shape[k] + steps * other.shape[k]),
            aim_deg: self.aim_deg + steps * other.aim_deg,
        }
    }

    /// The same as clouds are kept.
    pub(super) fn short(&self) -> Short {
        Short { shape: self.shape.map(|s| s as f32), turned_rad: self.aim_deg.to_radians() as f32 }
    }
}

/// A move of the centre in single precision, with aim in radians.
#[derive(Debug, Clone, Copy)]
pub(super) struct Short {
    pub(super) shape: [f32; SHAPING],
    pub(super) turned_rad: f32,
}

/// By how much more a score rises than the model of its cloud says, per standard deviation along each of what shapes a flight.
#[derive(Debug, Default)]
pub(crate) struct Slopes([f64; SHAPING]);

impl Slopes {
    /// As `seen` along each, nothing where that could not be.
    pub(crate) fn seen(seen: impl Fn(usize) -> Option<f64>) -> Slopes {
        Slopes(std::array::from_fn(|k| seen(k).unwrap_or(0.0)))
    }

    /// What they add to a score after a move.
    pub(crate) fn after(&self, shift: &Shift) -> f64 {
        self.0.iter().zip(&shift.shape).map(|(slope, step)| slope * step).sum()
    }
}

pub(super) fn terms(z: &[f32; SHAPING]) -> Quadratic {
    let [a, b, c, d] = *z;
    [1.0, a, b, c, d, a * a, a * b, a * c, a * d, b * b, b * c, b * d, c * c, c * d, d * d]
}

fn shaping(z: &[f64; DIMENSIONS]) -> [f32; SHAPING] {
    std::array::from_fn(|d| z[d] as f32)
}

pub(super) fn mean<const N: usize>(column: &Column<N>) -> f32 {
    column.iter().sum::<f32>() / N as f32
}

/// What is the same for every cloud of `N` of the deviates of a style.
pub(crate) struct Points<const N: usize> {
    /// What is flown: the deviates, drawn in.
    pub(crate) drawn_in: Vec<[f64; DIMENSIONS]>,
    /// Standard deviation of what each stands for, a share of the scatter told.
    pub(super) spread: f32,
    /// Least squares: a quadratic's coefficients are these rows times the values; those of further terms are 0. What gusts do is
    /// fitted beside them, in the last rows, or it would be taken for what the release does.
    pub(super) fit: Vec<Column<N>>,
    pub(super) gust_fit: Vec<Column<N>>,
    /// The shaping errors, a column each.
    pub(super) errors: [Column<N>; SHAPING],
    /// Their means: next to nothing, but the points are not the distribution.
    pub(super) means: [f32; SHAPING],
    /// What makes independent errors go together as those that shape a flight do, its columns.
    pub(super) together: [[f32; SHAPING]; SHAPING],
    /// The errors of aim.
    pub(super) aim: Column<N>,
    /// What each throw's error of aim would be in the mean, its others given, less what it was; and the standard deviation of
    /// what remains open.
    pub(super) aim_off: Column<N>,
    pub(super) aim_open: f32,
    /// Whether a chance is told by them.
    pub(super) tell: bool,
    /// The first step of an improvement and the last, in standard deviations of the player's scatter and degrees of aim: few points
    /// tell little about a fine one, and what a chance is told by is to move little.
    pub(crate) steps: [f64; 2],
}

impl<const N: usize> Points<N> {
    /// Too few points for a quadratic make a plane.
    pub(super) const PLANE: bool = N < 2 * TERMS;

    fn of(style: Style, places: StepBy<Range<usize>>, spread: f64, steps: [f64; 2]) -> Points<N> {
        let share = (1.0 - spread * spread).sqrt();
        let points: Vec<[f64; DIMENSIONS]> = places
            .map(|place| deviates(style)[place])
            .map(|z| z.map(|z| share * z.clamp(-FARTHEST_ERROR, FARTHEST_ERROR)))
            .collect();
        let known = if Self::PLANE { 1 + SHAPING } else { TERMS };
        // Along and across, for as many throws as a quadratic wants.
        let gusts = if Self::PLANE { 0 } else { DIMENSIONS - RELEASE_ERRORS };
        let design = DMatrix::from_fn(N, known + gusts, |i, k| match k.checked_sub(known) {
            None => f64::from(terms(&shaping(&points[i]))[k]),
            Some(gust) => points[i][RELEASE_ERRORS + gust],
        });
        // The points are well spread: the design has full rank (tested), and the tolerance never cuts anything.
        let inverse = design.pseudo_inverse(1e-9).unwrap_or_else(|_| DMatrix::zeros(known + gusts, N));
        let fit = |k: usize| std::array::from_fn(|i| inverse[(k, i)] as f32);
        let errors = std::array::from_fn(|d| std::array::from_fn(|i| points[i][d] as f32));
        let factor = correlation_factor(style);
        let aim = |i: usize| aim_given_others(style, &points[i]);
        Points {
            means: errors.each_ref().map(mean),
            errors,
            fit: (0..known).map(fit).collect(),
            gust_fit: (known..known + gusts).map(fit).collect(),
            together: std::array::from_fn(|k| std::array::from_fn(|row| factor[row][k] as f32)),
            aim: std::array::from_fn(|i| points[i][AIM] as f32),
            aim_off: std::array::from_fn(|i| (aim(i).0 - points[i][AIM]) as f32),
            aim_open: (share * aim(0).1).hypot(spread) as f32,
            drawn_in: points,
            spread: spread as f32,
            tell: spread == TOLD_SPREAD,
            steps,
        }
    }

    /// The shaping errors of one throw.
    pub(super) fn error(&self, i: usize) -> [f32; SHAPING] {
        self.errors.each_ref().map(|column| column[i])
    }
}

/// Those of each style.
struct Styles<const N: usize>([Points<N>; Style::ALL.len()]);

impl<const N: usize> Styles<N> {
    /// From every so manieth of the deviates, the `first` of them first.
    fn of(first: usize, every: usize, spread: f64, steps: [f64; 2]) -> Styles<N> {
        let places = || (first..first + every * N).step_by(every);
        Styles(Style::ALL.map(|style| Points::of(style, places(), spread, steps)))
    }
}

/// For a first look at every shape.
pub(crate) fn fewest(style: Style) -> &'static Points<8> {
    static POINTS: LazyLock<Styles<8>> = LazyLock::new(|| Styles::of(0, 1, SOUGHT_SPREAD, [1.2, 0.6]));
    &POINTS.0[style as usize]
}

/// For finding a way.
pub(crate) fn few(style: Style) -> &'static Points<FEW> {
    static POINTS: LazyLock<Styles<FEW>> = LazyLock::new(|| Styles::of(0, 1, SOUGHT_SPREAD, [1.2, 0.6]));
    &POINTS.0[style as usize]
}

/// For the last steps.
pub(crate) fn many(style: Style) -> &'static Points<MANY> {
    static POINTS: LazyLock<Styles<MANY>> = LazyLock::new(|| Styles::of(0, 1, SOUGHT_SPREAD, [1.2, 0.6]));
    &POINTS.0[style as usize]
}

/// For the chance.
pub(crate) fn all(style: Style) -> &'static Points<ALL> {
    static POINTS: LazyLock<Styles<ALL>> =
        LazyLock::new(|| Styles::of(JUDGED_ON.start, 1, TOLD_SPREAD, [0.8, 0.4]));
    &POINTS.0[style as usize]
}

/// Some of those for the chance.
pub(crate) fn some(style: Style) -> &'static Points<SOME> {
    static POINTS: LazyLock<Styles<SOME>> =
        LazyLock::new(|| Styles::of(JUDGED_ON.start, EVERY, TOLD_SPREAD, [0.8, 0.4]));
    &POINTS.0[style as usize]
}
