//! Order among neighbouring numbers: more fade is more finish, more turn less, more glide more distance, for slow arms and
//! for strong ones.

use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::calibration::Calibration;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::release::{Hand, Release, Style};

use crate::targets::{M_S_PER_MPH, disc};

/// Classes over which there must be order: speed, glide and the speed of release they are rated at, mph.
const CLASSES: [(f64, f64, f64); 7] = [
    (2.0, 3.0, 52.0),
    (4.0, 3.0, 54.0),
    (5.0, 5.0, 55.0),
    (7.0, 5.0, 59.0),
    (9.0, 4.0, 62.0),
    (11.0, 5.0, 65.0),
    (13.0, 5.0, 67.0),
];
const TURNS: [f64; 4] = [0.0, -1.0, -2.0, -3.0];
const FADES: [f64; 5] = [0.0, 1.0, 2.0, 3.0, 4.0];
const GLIDES: [f64; 5] = [2.0, 3.0, 4.0, 5.0, 6.0];
/// Arms against the rated one, and the least difference of finish that one unit of fade or turn should make there, degrees:
/// a slow arm tells discs apart less.
const ARMS: [(f64, f64); 4] = [(0.58, 0.15), (0.8, 0.4), (1.0, 1.0), (1.1, 1.0)];
const STEP_SIGMA_DEG: f64 = 0.35;
/// Discs (turn, fade) whose glide is changed, and the throws of which the farthest counts: launch, hyzer, nose.
const FLOATS: [(f64, f64); 2] = [(0.0, 2.0), (-2.0, 1.0)];
const THROWS: [(f64, f64, f64); 10] = [
    (11.0, 0.0, -3.0),
    (8.0, 0.0, -3.0),
    (8.0, 10.0, -3.0),
    (12.0, 10.0, -3.0),
    (12.0, 20.0, -3.0),
    (16.0, 20.0, -3.0),
    (12.0, 20.0, -1.0),
    (12.0, 10.0, 0.0),
    (8.0, 0.0, 0.0),
    (16.0, 30.0, -3.0),
];
/// Least distance (m) that one unit of glide should add at the best of these throws, and least time (s) at the first, and how
/// firmly.
const FAR_M: f64 = 1.0;
const FAR_SIGMA_M: f64 = 1.0;
const HANG_S: f64 = 0.1;
const HANG_SIGMA_S: f64 = 0.1;
const MASS_KG: f64 = 0.175;

/// By how much each neighbouring pair of numbers fails to be in order, zero where it is.
pub fn disorder(calibration: &Calibration) -> Vec<f64> {
    let mut throws = Vec::new();
    for (speed, usual_glide, mph) in CLASSES {
        for (arm, _) in ARMS {
            let flat = Release::rated(arm * mph * M_S_PER_MPH, Hand::Right, Style::Backhand);
            let mut throw = |release: Release, glide: f64, turn: f64, fade: f64| {
                let disc = disc(calibration, &FlightNumbers::new(speed, glide, turn, fade), MASS_KG);
                throws.push(Throw { disc, release, wind: Wind::CALM });
            };
            for turn in TURNS {
                FADES.iter().for_each(|fade| throw(flat, usual_glide, turn, *fade));
            }
            for (turn, fade) in FLOATS {
                for glide in GLIDES {
                    for (launch_deg, hyzer_deg, nose_deg) in THROWS {
                        throw(Release { launch_deg, hyzer_deg, nose_deg, ..flat }, glide, turn, fade);
                    }
                }
            }
        }
    }
    let bends = TURNS.len() * FADES.len();
    let floats = GLIDES.len() * THROWS.len();
    let flights = fly_all(&throws, &Air::default(), &[]);
    let mut misses = Vec::new();
    for (k, own) in flights.chunks(bends + FLOATS.len() * floats).enumerate() {
        let least_deg = ARMS[k % ARMS.len()].1;
        let (grid, all_floats) = own.split_at(bends);
        let finish: Vec<f64> = grid.iter().map(|o| o.y_m.atan2(o.x_m).to_degrees()).collect();
        let n = FADES.len();
        let short = |more: f64, less: f64| ((least_deg - (more - less)) / STEP_SIGMA_DEG).clamp(0.0, 3.0);
        for (k, at) in finish.iter().enumerate() {
            if k % n + 1 < n {
                misses.push(short(finish[k + 1], *at));
            }
            if k + n < finish.len() {
                misses.push(short(*at, finish[k + n]));
            }
        }
        for family in all_floats.chunks(floats) {
            let glides: Vec<_> = family.chunks(THROWS.len()).collect();
            let far: Vec<f64> =
                glides.iter().map(|g| g.iter().map(|o| o.distance_m()).fold(0.0, f64::max)).collect();
            for k in 1..glides.len() {
                misses.push(((FAR_M - (far[k] - far[k - 1])) / FAR_SIGMA_M).clamp(0.0, 6.0));
                misses.push(
                    ((HANG_S - (glides[k][0].time_s - glides[k - 1][0].time_s)) / HANG_SIGMA_S)
                        .clamp(0.0, 3.0),
                );
            }
        }
    }
    misses
}
