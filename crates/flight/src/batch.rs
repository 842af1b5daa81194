//! Many throws at once: across the lanes of a vector register, on the best instruction set the machine has.

use pulp::{Arch, Simd, WithSimd};
use rayon::prelude::*;

use crate::air::Air;
use crate::counted::{Counted, counting};
use crate::disc::Disc;
use crate::dynamics::Throw;
use crate::error::FlightError;
use crate::integrate::{NoPath, Paths, TIME_LIMIT_S, fly};
use crate::outcome::{Outcome, PathPoint};
use crate::real::{Lanes, Real};
use crate::release::Release;

/// By how much more than [`fly_all`]'s the errors of a rough flight may be. Own: it takes an eighth less time, and with ten times more
/// again hardly less, as no step grows without end.
const ROUGH: f64 = 10.0;

struct Job<'a> {
    throws: &'a [Throw],
    /// Which of them to fly, in what order.
    order: &'a [(u64, usize)],
    air: &'a Air,
    gates: &'a [f64],
    tolerance: f64,
}

impl WithSimd for Job<'_> {
    type Output = Vec<Outcome>;
    #[inline(always)]
    fn with_simd<S: Simd>(self, simd: S) -> Vec<Outcome> {
        let Job { throws, order, air, gates, tolerance } = self;
        let mut out = vec![Outcome::NOT_FLOWN; throws.len()];
        for chunk in order.chunks(Lanes::<S>::WIDTH) {
            let flown = chunk.iter().map(|&(_, k)| &throws[k]);
            let landed = |i: usize, outcome| out[chunk[i].1] = outcome;
            fly::<Lanes<S>>(simd, flown, air, gates, tolerance, &mut NoPath, landed);
        }
        out
    }
}

/// The throws in an order that gives them companions that take about as long: those that advance together wait for the last
/// of them.
fn sorted(throws: &[Throw]) -> Vec<(u64, usize)> {
    let mut disc = 0;
    let mut order: Vec<(u64, usize)> = Vec::with_capacity(throws.len());
    for (k, throw) in throws.iter().enumerate() {
        disc += u64::from(k > 0 && unlike(&throw.disc, &throws[k - 1].disc));
        order.push((disc << 32 | foreseen_length(throw), k));
    }
    order.sort_unstable_by_key(|&(key, _)| key);
    order
}

/// Whether two discs differ in what tells nearly all apart; comparing all there is would take longer than it saves.
fn unlike(a: &Disc, b: &Disc) -> bool {
    a.coefficients.cm0 != b.coefficients.cm0 || a.mass_kg != b.mass_kg
}

/// Grows with the steps that a throw will take, of throws of one disc: faster and higher ones stay up longer, those on more
/// hyzer less so. Only an order, without a unit, below 2³².
fn foreseen_length(throw: &Throw) -> u64 {
    let Release { speed_m_s, launch_deg, nose_deg, hyzer_deg, .. } = throw.release;
    let lofty = launch_deg + 0.8 * nose_deg - 0.08 * hyzer_deg + 6.0;
    (1000.0 * speed_m_s * lofty).clamp(0.0, 1e9) as u64
}

/// Flies every throw on this thread, noting where each passes the `gates` (distances down-range in m, at most
/// [`crate::outcome::MAX_GATES`]; further ones are not watched). Outcomes in the order of the throws.
///
/// The throws are taken as valid; [`validate`] says what is wrong with one that is not.
pub fn fly_all(throws: &[Throw], air: &Air, gates: &[f64]) -> Vec<Outcome> {
    within(1.0, throws, air, gates)
}

/// As [`fly_all`] and quicker, for a search that tries many throws: nearly all landings agree with its to 3 cm (tested).
pub fn fly_roughly(throws: &[Throw], air: &Air, gates: &[f64]) -> Vec<Outcome> {
    within(ROUGH, throws, air, gates)
}

fn within(tolerance: f64, throws: &[Throw], air: &Air, gates: &[f64]) -> Vec<Outcome> {
    Arch::new().dispatch(Job { throws, order: &sorted(throws), air, gates, tolerance })
}

/// As [`fly_all`], spread over all threads.
pub fn fly_all_parallel(throws: &[Throw], air: &Air, gates: &[f64]) -> Vec<Outcome> {
    throws.par_chunks(128).flat_map_iter(|chunk| fly_all(chunk, air, gates)).collect()
}

/// The scalar reference: the same kernel over plain `f64`, one throw after the other. `tolerance` scales the errors
/// that a step may make: 1 is what [`fly_all`] uses, a smaller one (not below 1e-6) comes nearer to the exact path.
pub fn fly_reference(throws: &[Throw], air: &Air, gates: &[f64], tolerance: f64) -> Vec<Outcome> {
    let mut out = Vec::with_capacity(throws.len());
    for throw in throws {
        let (alone, landed) = (std::iter::once(throw), |_, outcome| out.push(outcome));
        fly::<f64>((), alone, air, gates, tolerance, &mut NoPath, landed);
    }
    out
}

/// Arithmetic operations that these flights take when each flies alone, a multiply-add counted as one: what a benchmark
/// holds against the processor's best.
pub fn operations(throws: &[Throw], air: &Air) -> u64 {
    counting(|| {
        for throw in throws {
            let (alone, nobody) = (std::iter::once(throw), |_, _| ());
            fly::<Counted>((), alone, air, &[], 1.0, &mut NoPath, nobody);
        }
    })
}

struct PathJob<'a> {
    throws: &'a [Throw],
    air: &'a Air,
}

impl WithSimd for PathJob<'_> {
    type Output = Vec<(Outcome, Vec<PathPoint>)>;
    #[inline(always)]
    fn with_simd<S: Simd>(self, simd: S) -> Self::Output {
        let mut flights = Vec::with_capacity(self.throws.len());
        for chunk in self.throws.chunks(Lanes::<S>::WIDTH) {
            let (mut paths, mut out) = (Paths::default(), Vec::new());
            let landed = |_, outcome| out.push(outcome);
            fly::<Lanes<S>>(simd, chunk.iter(), self.air, &[], 1.0, &mut paths, landed);
            flights.extend(out.into_iter().zip(paths.0).map(|(outcome, path)| {
                let path = cut_at_landing(&outcome, path, self.air);
                (outcome, path)
            }));
        }
        flights
    }
}

/// Flies every throw and keeps its path, from release to the point of landing.
pub fn fly_with_paths(throws: &[Throw], air: &Air) -> Vec<(Outcome, Vec<PathPoint>)> {
    Arch::new().dispatch(PathJob { throws, air })
}

/// The other lanes may have flown on: everything past this disc's own landing is dropped.
fn cut_at_landing(outcome: &Outcome, mut path: Vec<PathPoint>, air: &Air) -> Vec<PathPoint> {
    if outcome.landed {
        path.retain(|p| p.t_s < outcome.time_s);
        let z_m = air.terrain.at(outcome.x_m).0;
        path.push(PathPoint { t_s: outcome.time_s, x_m: outcome.x_m, y_m: outcome.y_m, z_m });
    }
    path
}

/// Checks everything about a throw that a user could have given wrongly.
///
/// # Errors
/// [`FlightError::OutOfRange`] for the first value outside its range.
pub fn validate(throw: &Throw) -> Result<(), FlightError> {
    throw.disc.validate()?;
    throw.release.validate()?;
    throw.wind.validate()
}

/// Checks and flies one throw, with its path.
///
/// # Errors
/// [`FlightError::OutOfRange`] for a bad value, [`FlightError::NeverLanded`] for a flight past the time limit.
pub fn fly_one(throw: &Throw, air: &Air) -> Result<(Outcome, Vec<PathPoint>), FlightError> {
    validate(throw)?;
    let mut flights = fly_with_paths(std::slice::from_ref(throw), air);
    match flights.pop() {
        Some(flight) if flight.0.landed => Ok(flight),
        _ => Err(FlightError::NeverLanded { limit_s: TIME_LIMIT_S }),
    }
}
