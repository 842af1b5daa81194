//! Prints flights per second on one core: lanes, scalar reference, and a general adaptive integrator at equal landing
//! error, and what share of the core's multiply-adds the lanes use, all in one run. `cargo xtask bench` runs it.
#![allow(clippy::unwrap_used)]

#[path = "../tests/common/mod.rs"]
mod common;

use std::hint::black_box;
use std::time::Instant;

use common::{Integrator, independent, landing_by};
use pulp::{Arch, Simd, WithSimd};
use zinc_kite_flight::air::{Air, STANDARD_DENSITY_KG_M3, Wind};
use zinc_kite_flight::batch::{fly_all, fly_reference, operations, scout_all};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
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
            spread.scattered(&centre, 0.0, 64)
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

/// Vector multiply-adds a second of this core, and numbers in a vector.
fn peak() -> (f64, usize) {
    const ROUNDS: usize = 2_000_000;
    let mut lanes = 0;
    let each = seconds_each(ROUNDS * CHAINS, || lanes = Arch::new().dispatch(Peak { rounds: ROUNDS }));
    (1.0 / each, lanes)
}

/// Best of five rounds, seconds a flight.
fn seconds_each(flights: usize, mut fly: impl FnMut()) -> f64 {
    let mut best = f64::INFINITY;
    for _ in 0..5 {
        let start = Instant::now();
        fly();
        best = best.min(start.elapsed().as_secs_f64() / flights as f64);
    }
    best
}

/// Root of the mean square distance between landings, m.
fn error_m(found: &[(f64, f64)], exact: &[(f64, f64)]) -> f64 {
    let sum: f64 = found.iter().zip(exact).map(|(a, b)| (a.0 - b.0).powi(2) + (a.1 - b.1).powi(2)).sum();
    (sum / exact.len() as f64).sqrt()
}

fn main() {
    let (throws, air) = (throws(), Air::default());
    let exact: Vec<(f64, f64)> =
        fly_reference(&throws, &air, &[], 1e-5).iter().map(|o| (o.x_m, o.y_m)).collect();
    let n = throws.len();
    let ours = fly_all(&throws, &air, &[]);
    let our_error = error_m(&ours.iter().map(|o| (o.x_m, o.y_m)).collect::<Vec<_>>(), &exact);
    const ROUNDS: usize = 40;
    let lanes =
        seconds_each(ROUNDS * n, || (0..ROUNDS).for_each(|_| drop(black_box(fly_all(&throws, &air, &[])))));
    println!("lanes: {:.0} flights/s on one core, landing error {:.2} mm rms", 1.0 / lanes, 1e3 * our_error);
    let (peak, width) = peak();
    let each = operations(&throws, &air) as f64 / n as f64;
    let share = each / (lanes * peak * width as f64);
    println!(
        "this core at its best: {:.1} thousand million multiply-adds/s ({width} numbers a register); the {each:.0} operations of a flight use {:.0} % of that",
        1e-9 * peak * width as f64,
        100.0 * share
    );
    let scout = seconds_each(ROUNDS * n, || {
        (0..ROUNDS).for_each(|_| drop(black_box(scout_all(&throws, &air, &[]))));
    });
    let scouted = scout_all(&throws, &air, &[]);
    let scout_error = error_m(&scouted.iter().map(|o| (o.x_m, o.y_m)).collect::<Vec<_>>(), &exact);
    println!("lanes, scouting: {:.0} flights/s, landing error {:.2} mm rms", 1.0 / scout, 1e3 * scout_error);
    let scalar = seconds_each(n, || drop(black_box(fly_reference(&throws, &air, &[], 1.0))));
    println!("scalar reference: {:.0} flights/s", 1.0 / scalar);

    // The general integrators of the crate ode_solvers, each at the loosest tolerance that lands as exactly as ours.
    for (name, method) in [("Dopri5", Integrator::Dopri5), ("Dop853", Integrator::Dop853)] {
        let land = |tolerance: f64| -> Vec<(f64, f64)> {
            throws.iter().map(|t| landing_by(method, t, STANDARD_DENSITY_KG_M3, tolerance)).collect()
        };
        let tolerances = (8..=80).map(|k| 10f64.powf(-0.125 * f64::from(k)));
        let Some(tolerance) = tolerances.into_iter().find(|t| error_m(&land(*t), &exact) <= our_error) else {
            println!("ode_solvers {name}: no tolerance down to 1e-10 lands as exactly");
            continue;
        };
        let general = seconds_each(n, || drop(black_box(land(tolerance))));
        println!(
            "ode_solvers {name} at tolerance {tolerance:.1e}, landing error {:.2} mm rms: {:.0} flights/s; lanes are {:.1} times as fast",
            1e3 * error_m(&land(tolerance), &exact),
            1.0 / general,
            general / lanes
        );
    }
}
