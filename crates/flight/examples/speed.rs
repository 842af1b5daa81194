//! Prints flights per second on one core, scalar and lanes. `cargo xtask bench` runs it.
use std::time::Instant;

use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::{fly_all, fly_reference};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::release::{Hand, Release, Style};
use zinc_kite_flight::scatter::{Spread, deviates};

fn main() {
    let Ok(disc) = FlightNumbers::new(9.0, 5.0, -1.0, 2.0).disc(0.175) else { return };
    let spread = Spread { speed: 0.04, hyzer_deg: 4.0, launch_deg: 2.2, nose_deg: 2.5, aim_deg: 2.5 };
    let centre = Release::rated(26.0, Hand::Right, Style::Backhand);
    let throws: Vec<Throw> = deviates(256)
        .iter()
        .map(|z| Throw { disc, release: spread.displace(&centre, z), wind: Wind::CALM })
        .collect();
    let air = Air::default();
    let rate = |name: &str, rounds: usize, fly: &dyn Fn() -> usize| {
        let mut best = f64::INFINITY;
        for _ in 0..5 {
            let start = Instant::now();
            let flown: usize = (0..rounds).map(|_| fly()).sum();
            best = best.min(start.elapsed().as_secs_f64() / flown as f64);
        }
        println!("{name}: {:.0} flights/s on one core", 1.0 / best);
    };
    rate("lanes", 40, &|| fly_all(&throws, &air, &[]).len());
    rate("scalar reference", 2, &|| fly_reference(&throws, &air, &[], 1.0).len());
}
