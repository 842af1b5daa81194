//! Prints flights per second on one core: lanes, scalar reference, and a general adaptive integrator at equal landing
//! error, and what share of the core's multiply-adds the lanes use, all in one run. `cargo xtask bench` runs it.
#![allow(clippy::unwrap_used)]

#[path = "../tests/physics/common/mod.rs"]
mod common;

use std::hint::black_box;
use std::time::Instant;

use common::{Integrator, independent, landing_by};
use pulp::{Arch, Simd, WithSimd};
use zinc_kite_flight::air::{Air, STANDARD_DENSITY_KG_M3, Wind};
use zinc_kite_flight::batch::{fly_all, fly_reference, operations};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{Hand, Release, Style};
use zinc_kite_flight::scatter::Spread;

/// Discs of every class with a club player's scatter, in still air: throws as the judgement flies them. Those that ever
/// meet the air at more than 25° are left out, since the general integrator flies the plain polynomials.
fn throws() -> Vec<Throw> {
    let spread = Spread { speed: 0.04, hyzer_deg: 4.0, launch_deg: 2.2, nose_deg: 2.5, aim_deg: 2.5 };
    let classes = [
        (3.0, 3.0, 0.0, 1.0, 20.0),
        (5.0, 4.0, -1.0, 1.0, 23.0),
        (7.0, 5.0, 0.0, 2.0, 25.0),
        (9.0, 5.0, -1.0, 2.0, 26.0),
    ];
    classes
        .iter()
        .flat_map(|&(s, g, t, f, speed)| {
            let disc = FlightNumbers::new(s, g, t, f).disc(0.175).unwrap();
            let centre = Release::rated(speed, Hand::Right, Style::Backhand);
            let centre = Throw { disc, release: centre, wind: Wind::CALM };
            spread.scattered(&centre, 0.0, 0..64)
        })
        .filter(|t| independent(t, STANDARD_DENSITY_KG_M3).greatest_alpha < 25f64.to_radians())
        .collect()
}

/// Fused multiply-adds on the widest registers, in sixteen chains that do not wait for one another.
struct Peak {
    rounds: usize,
}

const CHAINS: usize = 16;

impl WithSimd for Peak {
    /// Numbers worked on side by side.
    type Output = usize;
    #[inline(always)]
    fn with_simd<S: Simd>(self, simd: S) -> usize {
        // Behind a black box, or the compiler finds the fixed point of the chains and runs none of them.
        let [start, by, plus] = black_box([1.7, 0.999_999, 1e-3]).map(|x| simd.splat_f64s(x));
        let mut chains = [start; CHAINS];
        for _ in 0..self.rounds {
            for x in &mut chains {
                *x = simd.mul_add_f64s(*x, by, plus);
            }
        }
        black_box(chains.map(|x| simd.reduce_sum_f64s(x)));
        S::F64_LANES
    }
}

const PEAK_ROUNDS: usize = 200_000;

/// Seconds that each piece of work takes, the best of nine rounds. They take turns, since other guests of the machine come
/// and go: one after the other, they would not have met the same processor.
fn seconds(works: &mut [&mut dyn FnMut()]) -> Vec<f64> {
    let mut best = vec![f64::INFINITY; works.len()];
    for _ in 0..9 {
        for (best, work) in best.iter_mut().zip(works.iter_mut()) {
            let start = Instant::now();
            work();
            *best = best.min(start.elapsed().as_secs_f64());
        }
    }
    best
}

/// Root of the mean square distance between landings, m.
fn error_m(found: &[(f64, f64)], exact: &[(f64, f64)]) -> f64 {
    let sum: f64 = found.iter().zip(exact).map(|(a, b)| (a.0 - b.0).powi(2) + (a.1 - b.1).powi(2)).sum();
    (sum / exact.len() as f64).sqrt()
}

type Landings = Vec<(f64, f64)>;

fn landings(flights: &[Outcome]) -> Landings {
    flights.iter().map(|o| (o.x_m, o.y_m)).collect()
}

/// The loosest tolerance at which a general integrator lands as exactly as `error`, and its own error.
fn equal(method: Integrator, throws: &[Throw], exact: &Landings, error: f64) -> Option<(f64, f64)> {
    (8..=80).map(|k| 10f64.powf(-0.125 * f64::from(k))).find_map(|tolerance| {
        let its = error_m(&general(method, throws, tolerance), exact);
        (its <= error).then_some((tolerance, its))
    })
}

fn general(method: Integrator, throws: &[Throw], tolerance: f64) -> Landings {
    throws.iter().map(|t| landing_by(method, t, STANDARD_DENSITY_KG_M3, tolerance)).collect()
}

fn main() {
    let (throws, air) = (throws(), Air::default());
    let exact = landings(&fly_reference(&throws, &air, &[], 1e-5));
    let ours = error_m(&landings(&fly_all(&throws, &air, &[])), &exact);
    // The general integrators of the crate ode_solvers.
    let fifth = equal(Integrator::Dopri5, &throws, &exact, ours);
    let eighth = equal(Integrator::Dop853, &throws, &exact, ours);

    const ROUNDS: usize = 20;
    let mut width = 0;
    let took = seconds(&mut [
        &mut || (0..ROUNDS).for_each(|_| drop(black_box(fly_all(&throws, &air, &[])))),
        &mut || width = Arch::new().dispatch(Peak { rounds: PEAK_ROUNDS }),
        &mut || drop(black_box(fly_reference(&throws, &air, &[], 1.0))),
        &mut || drop(black_box(fifth.map(|(tolerance, _)| general(Integrator::Dopri5, &throws, tolerance)))),
        &mut || drop(black_box(eighth.map(|(tolerance, _)| general(Integrator::Dop853, &throws, tolerance)))),
    ]);
    let n = throws.len() as f64;
    let lanes = took[0] / (n * ROUNDS as f64);
    println!("lanes: {:.0} flights/s on one core, landing error {:.2} mm rms", 1.0 / lanes, 1e3 * ours);
    let peak = (PEAK_ROUNDS * CHAINS * width) as f64 / took[1];
    let each = operations(&throws, &air) as f64 / n;
    println!(
        "this core at its best: {:.1} thousand million multiply-adds/s ({width} numbers a register); the {each:.0} operations of a flight use {:.0} % of that",
        1e-9 * peak,
        100.0 * each / (lanes * peak)
    );
    println!("scalar reference: {:.0} flights/s", n / took[2]);
    for (name, found, took) in [("Dopri5", fifth, took[3]), ("Dop853", eighth, took[4])] {
        let Some((tolerance, error)) = found else {
            println!("ode_solvers {name}: no tolerance down to 1e-10 lands as exactly");
            continue;
        };
        println!(
            "ode_solvers {name} at tolerance {tolerance:.1e}, landing error {:.2} mm rms: {:.0} flights/s; lanes are {:.1} times as fast",
            1e3 * error,
            n / took,
            took / n / lanes
        );
    }
}
