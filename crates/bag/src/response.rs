//! How the outcomes of a small cloud of throws change when its centre is moved a little.
//!
//! Every throw of the cloud is a real flight. A quadratic in the release errors, fitted to them all, says how each
//! would change if the centre moved; where it does not move, the cloud stands as it was flown. Aim needs no fit: it
//! turns the flight.

use std::sync::LazyLock;

use nalgebra::DMatrix;
use zinc_kite_flight::outcome::{Crossing, Outcome};
use zinc_kite_flight::scatter::{AIM, DIMENSIONS, deviates};

use crate::line::{Landing, LineSpec};

/// Throws in a cloud.
pub(crate) const POINTS: usize = 32;

/// Errors that shape a flight: speed, hyzer, launch, nose. Aim only turns it; gusts stay as they were flown.
const SHAPING: usize = 4;
/// Of these, the ones whose centre a player chooses.
const CHOSEN: usize = 3;
/// Terms of a full quadratic in four variables.
const TERMS: usize = 15;

/// A move of the centre: speed, hyzer and launch in standard deviations of the player's scatter, aim in degrees.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Shift {
    pub shape: [f64; CHOSEN],
    pub aim_deg: f64,
}

fn terms(z: &[f64; SHAPING]) -> [f64; TERMS] {
    let [a, b, c, d] = *z;
    [1.0, a, b, c, d, a * a, a * b, a * c, a * d, b * b, b * c, b * d, c * c, c * d, d * d]
}

fn shaping(z: &[f64; DIMENSIONS]) -> [f64; SHAPING] {
    std::array::from_fn(|d| z[d])
}

/// Least squares over the fixed points: coefficients are these rows times the values.
static FIT: LazyLock<Vec<[f64; POINTS]>> = LazyLock::new(|| {
    let points = deviates(POINTS);
    let design = DMatrix::from_fn(POINTS, TERMS, |i, k| terms(&shaping(&points[i]))[k]);
    // The points are well spread: the design has full rank (tested), and the tolerance never cuts anything.
    let inverse = design.pseudo_inverse(1e-9).unwrap_or_else(|_| DMatrix::zeros(TERMS, POINTS));
    (0..TERMS).map(|k| std::array::from_fn(|i| inverse[(k, i)])).collect()
});

/// A turn about the tee.
struct Turn {
    sin: f64,
    cos: f64,
}

impl Turn {
    /// By `deg` degrees, left positive.
    fn by(deg: f64) -> Turn {
        let (sin, cos) = deg.to_radians().sin_cos();
        Turn { sin, cos }
    }

    fn turned(&self, o: &Outcome, gates: &[f64]) -> Outcome {
        let mut turned = *o;
        turned.x_m = o.x_m * self.cos - o.y_m * self.sin;
        turned.y_m = o.x_m * self.sin + o.y_m * self.cos;
        for (crossing, at_m) in turned.crossings.iter_mut().zip(gates) {
            if let Some(c) = crossing {
                c.y_m += at_m * self.sin / self.cos;
            }
        }
        turned
    }
}

/// A quadratic in the shaping errors.
type Quadratic = [f64; TERMS];

fn at(quadratic: &Quadratic, terms: &Quadratic) -> f64 {
    quadratic.iter().zip(terms).map(|(m, t)| m * t).sum()
}

/// Models of what a line asks about a gate.
struct GateModel {
    at_m: f64,
    y_m: Quadratic,
    /// Only where the gate has a roof or a sill.
    z_m: Option<Quadratic>,
}

/// A cloud and what moving it would do. Quantities that the line does not ask about are not modelled.
pub(crate) struct Response<'a> {
    line: &'a LineSpec,
    gate_distances: &'a [f64],
    cloud: Vec<Outcome>,
    x_m: Quadratic,
    y_m: Quadratic,
    apex_m: Option<Quadratic>,
    run_m: Option<Quadratic>,
    gates: Vec<GateModel>,
}

impl<'a> Response<'a> {
    /// From a cloud flown at the first [`POINTS`] deviates, whose aim scatters by `aim_deg` toward `side` (+1 left).
    pub(crate) fn of(
        cloud: Vec<Outcome>,
        line: &'a LineSpec,
        gate_distances: &'a [f64],
        aim_deg: f64,
        side: f64,
    ) -> Response<'a> {
        // Turned back by its own error of aim, a flight depends on the other four alone.
        let straight: Vec<Outcome> = cloud
            .iter()
            .zip(deviates(POINTS))
            .map(|(o, z)| Turn::by(-side * aim_deg * z[AIM]).turned(o, gate_distances))
            .collect();
        let fitted = |value: &dyn Fn(&Outcome) -> f64| -> Quadratic {
            let values: Vec<f64> = straight.iter().map(value).collect();
            std::array::from_fn(|k| FIT[k].iter().zip(&values).map(|(f, v)| f * v).sum())
        };
        let gates = line.openings().enumerate().map(|(k, gate)| {
            // A throw that never came to the gate tells nothing about it: the others' mean stands in.
            let seen: Vec<Crossing> = straight.iter().filter_map(|o| o.crossings[k]).collect();
            let mean =
                |part: fn(&Crossing) -> f64| seen.iter().map(part).sum::<f64>() / seen.len().max(1) as f64;
            let (y_m, z_m) = (mean(|c| c.y_m), mean(|c| c.z_m));
            let bounded = gate.ceiling_m.is_some() || gate.floor_m.is_some();
            GateModel {
                at_m: gate.at_m,
                y_m: fitted(&|o| o.crossings[k].map_or(y_m, |c| c.y_m)),
                z_m: bounded.then(|| fitted(&|o| o.crossings[k].map_or(z_m, |c| c.z_m))),
            }
        });
        let gates = gates.collect();
        let runs = matches!(line.landing, Landing::Sit | Landing::Run);
        Response {
            x_m: fitted(&|o| o.x_m),
            y_m: fitted(&|o| o.y_m),
            apex_m: line.ceiling_m.map(|_| fitted(&|o| o.apex_m)),
            run_m: runs.then(|| fitted(&|o| o.run_m)),
            gates,
            line,
            gate_distances,
            cloud,
        }
    }

    /// Middle of the landings, m.
    pub(crate) fn middle(&self) -> (f64, f64) {
        let n = self.cloud.len() as f64;
        (self.cloud.iter().map(|o| o.x_m).sum::<f64>() / n, self.cloud.iter().map(|o| o.y_m).sum::<f64>() / n)
    }

    /// How well the cloud does when its centre is moved: the share that makes the line, near misses and narrow makes
    /// counted in part.
    pub(crate) fn score(&self, shift: &Shift) -> f64 {
        let aim = Turn::by(shift.aim_deg);
        let stays = shift.shape == [0.0; CHOSEN];
        let all = self.cloud.iter().zip(deviates(POINTS)).map(|(o, z)| {
            let moved = if stays { *o } else { self.moved(o, &shaping(z), shift) };
            softly(self.line.judge(&aim.turned(&moved, self.gate_distances)).margin_m)
        });
        all.sum::<f64>() / self.cloud.len() as f64
    }

    /// One flight of the cloud after the centre has moved.
    fn moved(&self, o: &Outcome, z: &[f64; SHAPING], shift: &Shift) -> Outcome {
        let mut after = *z;
        for (a, s) in after.iter_mut().zip(&shift.shape) {
            *a += s;
        }
        let (from, to) = (terms(z), terms(&after));
        let change: Quadratic = std::array::from_fn(|k| to[k] - from[k]);
        let mut moved = *o;
        moved.x_m += at(&self.x_m, &change);
        moved.y_m += at(&self.y_m, &change);
        moved.apex_m += self.apex_m.as_ref().map_or(0.0, |q| at(q, &change));
        moved.run_m += self.run_m.as_ref().map_or(0.0, |q| at(q, &change));
        for (crossing, gate) in moved.crossings.iter_mut().zip(&self.gates) {
            let z_m = |t: &Quadratic| gate.z_m.as_ref().map_or(0.0, |q| at(q, t));
            *crossing = match *crossing {
                _ if moved.x_m <= gate.at_m => None,
                Some(c) => Some(Crossing { y_m: c.y_m + at(&gate.y_m, &change), z_m: c.z_m + z_m(&change) }),
                None => Some(Crossing { y_m: at(&gate.y_m, &to), z_m: z_m(&to) }),
            };
        }
        moved
    }
}

/// Room of a single flight under the best of a few aims, m, and that aim, degrees. Of aims with the same room the
/// smallest is taken, and of these the one toward `side` (+1 left).
pub(crate) fn best_aim(o: &Outcome, line: &LineSpec, gates: &[f64], side: f64) -> (f64, f64) {
    let aims = [0.0, 1.0, -1.0, 2.0, -2.0, 3.0, -3.0, 4.0, -4.0].map(|deg| side * deg);
    let room = |deg: f64| (line.judge(&Turn::by(deg).turned(o, gates)).margin_m, deg);
    aims.into_iter()
        .map(room)
        .fold((f64::NEG_INFINITY, 0.0), |best, at| if at.0 > best.0 { at } else { best })
}

/// How well a few throws do once their middle is turned and carried onto the target.
pub(crate) fn trial_score(cloud: &[Outcome], line: &LineSpec, gates: &[f64]) -> f64 {
    let n = cloud.len() as f64;
    let (x, y) = (cloud.iter().map(|o| o.x_m).sum::<f64>() / n, cloud.iter().map(|o| o.y_m).sum::<f64>() / n);
    let turn = Turn::by(-y.atan2(x.max(1.0)).to_degrees());
    let farther = line.rest_at_m() - x.hypot(y);
    let score = |o: &Outcome| {
        let mut moved = turn.turned(o, gates);
        moved.x_m += farther;
        softly(line.judge(&moved).margin_m)
    };
    cloud.iter().map(score).sum::<f64>() / n
}

/// A near miss counts a little and a near hit not quite: half a metre of room is worth more than none. Only for
/// choosing between releases; the chance itself counts hits.
fn softly(margin_m: f64) -> f64 {
    (0.5 + margin_m / 2.0).clamp(0.0, 1.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_the_fit_gives_a_quadratic_back() {
        let coefficients: [f64; TERMS] = std::array::from_fn(|k| 0.3 * k as f64 - 1.7);
        let value = |z: &[f64; DIMENSIONS]| {
            terms(&shaping(z)).iter().zip(&coefficients).map(|(t, c)| t * c).sum::<f64>()
        };
        let values: Vec<f64> = deviates(POINTS).iter().map(value).collect();
        for (k, expected) in coefficients.iter().enumerate() {
            let found: f64 = FIT[k].iter().zip(&values).map(|(f, v)| f * v).sum();
            assert!((found - expected).abs() < 1e-9, "term {k}: {found} {expected}");
        }
    }
}
