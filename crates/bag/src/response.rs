//! How the outcomes of a small cloud of throws change when its centre is moved a little.
//!
//! Every throw of the cloud is a real flight. A quadratic in the release errors, fitted to them all, says how each
//! would change if the centre moved; where it does not move, the cloud stands as it was flown. Aim needs no fit: it
//! turns the flight. Everything is kept in columns, a number a throw, so that a score is a few loops over numbers.

use std::sync::LazyLock;

use nalgebra::DMatrix;
use pulp::Arch;
use zinc_kite_flight::outcome::{Crossing, Outcome};
use zinc_kite_flight::scatter::{AIM, DIMENSIONS, deviates};

use crate::chance::CLOUD;
use crate::limits::{Limits, Opening, Turn};

/// One number a throw.
type Column<const N: usize> = [f64; N];

/// Errors that shape a flight: speed, hyzer, launch, nose. Aim only turns it; gusts stay as they were flown.
const SHAPING: usize = 4;
/// Of these, the ones whose centre a player chooses.
const CHOSEN: usize = 3;
/// Terms of a full quadratic in four variables.
const TERMS: usize = 15;
/// A quadratic in the shaping errors a, b, c, d, by its terms 1, a, b, c, d, a², ab, ac, ad, b², bc, bd, c², cd, d².
type Quadratic = [f64; TERMS];

/// A move of the centre: speed, hyzer and launch in standard deviations of the player's scatter, aim in degrees.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Shift {
    pub shape: [f64; CHOSEN],
    pub aim_deg: f64,
}

fn terms(z: &[f64; SHAPING]) -> Quadratic {
    let [a, b, c, d] = *z;
    [1.0, a, b, c, d, a * a, a * b, a * c, a * d, b * b, b * c, b * d, c * c, c * d, d * d]
}

fn shaping(z: &[f64; DIMENSIONS]) -> [f64; SHAPING] {
    std::array::from_fn(|d| z[d])
}

/// What is the same for every cloud of the first `N` deviates.
pub(crate) struct Points<const N: usize> {
    /// Least squares: a quadratic's coefficients are these rows times the values.
    fit: Vec<Column<N>>,
    /// The shaping errors, a column each.
    errors: [Column<N>; SHAPING],
}

impl<const N: usize> Points<N> {
    fn new() -> Points<N> {
        let points = deviates(N);
        let design = DMatrix::from_fn(N, TERMS, |i, k| terms(&shaping(&points[i]))[k]);
        // The points are well spread: the design has full rank (tested), and the tolerance never cuts anything.
        let inverse = design.pseudo_inverse(1e-9).unwrap_or_else(|_| DMatrix::zeros(TERMS, N));
        Points {
            fit: (0..TERMS).map(|k| std::array::from_fn(|i| inverse[(k, i)])).collect(),
            errors: std::array::from_fn(|d| std::array::from_fn(|i| points[i][d])),
        }
    }
}

/// For finding a way.
pub(crate) static FEW: LazyLock<Points<32>> = LazyLock::new(Points::new);
/// For the last steps: the very points that a chance is judged on.
pub(crate) static ALL: LazyLock<Points<CLOUD>> = LazyLock::new(Points::new);

/// One quantity of every throw, and the quadratic that says how it changes.
struct Quantity<const N: usize> {
    flown: Column<N>,
    model: Quadratic,
}

impl<const N: usize> Quantity<N> {
    /// From what was flown, and from what it would have been without errors of aim, which the model leaves out.
    fn fitted(points: &Points<N>, flown: Column<N>, straight: &Column<N>) -> Quantity<N> {
        let model = std::array::from_fn(|k| points.fit[k].iter().zip(straight).map(|(f, v)| f * v).sum());
        Quantity { flown, model }
    }

    /// From what was seen at an opening, and what to add where there were no errors of aim. A throw that never came there
    /// tells nothing: the others' mean stands in for the fit, and then the fit for the throw.
    fn seen(points: &Points<N>, found: [Option<f64>; N], straighten: &Column<N>) -> Quantity<N> {
        let straight: [Option<f64>; N] = std::array::from_fn(|i| found[i].map(|v| v + straighten[i]));
        let n = straight.iter().flatten().count().max(1) as f64;
        let mean = straight.iter().flatten().sum::<f64>() / n;
        let model = Quantity::fitted(points, [0.0; N], &straight.map(|v| v.unwrap_or(mean)));
        let flown = |i: usize| found[i].unwrap_or_else(|| model.at(&shaping(&deviates(N)[i])));
        Quantity { flown: std::array::from_fn(flown), ..model }
    }

    fn at(&self, z: &[f64; SHAPING]) -> f64 {
        self.model.iter().zip(terms(z)).map(|(m, t)| m * t).sum()
    }

    /// Every throw's value once the centre has moved: a quadratic's change is linear in where it starts.
    #[inline(always)]
    fn moved(&self, shape: &[f64; CHOSEN], errors: &[Column<N>; SHAPING]) -> Column<N> {
        let [a, b, c] = *shape;
        let [_, m_a, m_b, m_c, _, aa, ab, ac, ad, bb, bc, bd, cc, cd, _] = self.model;
        let all = a * (m_a + aa * a + ab * b + ac * c) + b * (m_b + bb * b + bc * c) + c * (m_c + cc * c);
        let by_a = 2.0 * aa * a + ab * b + ac * c;
        let by_b = ab * a + 2.0 * bb * b + bc * c;
        let by_c = ac * a + bc * b + 2.0 * cc * c;
        let by_d = ad * a + bd * b + cd * c;
        let [za, zb, zc, zd] = errors;
        let mut moved = [0.0; N];
        for i in 0..N {
            moved[i] = self.flown[i] + (all + by_a * za[i] + by_b * zb[i] + by_c * zc[i] + by_d * zd[i]);
        }
        moved
    }
}

/// What a line asks about one of its openings.
struct Passing<const N: usize> {
    opening: Opening,
    y_m: Quantity<N>,
    /// Only where height matters.
    z_m: Option<Quantity<N>>,
}

/// A cloud and what moving it would do. Quantities that the line does not ask about are not modelled.
pub(crate) struct Response<'a, const N: usize> {
    points: &'static Points<N>,
    limits: &'a Limits,
    x_m: Quantity<N>,
    y_m: Quantity<N>,
    apex_m: Option<Quantity<N>>,
    run_m: Option<Quantity<N>>,
    passings: Vec<Passing<N>>,
}

impl<'a, const N: usize> Response<'a, N> {
    /// From a cloud flown at the first deviates, whose aim scatters by `aim_deg` toward `side` (+1 left).
    pub(crate) fn of(
        points: &'static Points<N>,
        cloud: &[Outcome],
        limits: &'a Limits,
        aim_deg: f64,
        side: f64,
    ) -> Response<'a, N> {
        let column =
            |value: &dyn Fn(&Outcome) -> f64| -> Column<N> { std::array::from_fn(|i| value(&cloud[i])) };
        // Turned back by its own error of aim, a flight depends on the other four alone.
        let back: [Turn; N] = std::array::from_fn(|i| Turn::by(-side * aim_deg * deviates(N)[i][AIM]));
        let straight: [(f64, f64); N] = std::array::from_fn(|i| back[i].place(cloud[i].x_m, cloud[i].y_m));
        let plain = |flown: Column<N>| Quantity::fitted(points, flown, &flown);
        let passings = limits.openings.iter().enumerate().map(|(k, opening)| {
            let found = |part: fn(&Crossing) -> f64| -> [Option<f64>; N] {
                std::array::from_fn(|i| cloud[i].crossings[k].as_ref().map(part))
            };
            let drift = std::array::from_fn(|i| opening.at_m * back[i].drift());
            Passing {
                opening: *opening,
                y_m: Quantity::seen(points, found(|c| c.y_m), &drift),
                z_m: opening.is_bounded().then(|| Quantity::seen(points, found(|c| c.z_m), &[0.0; N])),
            }
        });
        Response {
            points,
            limits,
            x_m: Quantity::fitted(points, column(&|o| o.x_m), &straight.map(|p| p.0)),
            y_m: Quantity::fitted(points, column(&|o| o.y_m), &straight.map(|p| p.1)),
            apex_m: (limits.top_m < f64::INFINITY).then(|| plain(column(&|o| o.apex_m))),
            run_m: limits.asks_for_run().then(|| plain(column(&|o| o.run_m))),
            passings: passings.collect(),
        }
    }

    /// Middle of the landings once the centre has moved, m.
    pub(crate) fn middle(&self, shift: &Shift) -> (f64, f64) {
        let mean =
            |q: &Quantity<N>| q.moved(&shift.shape, &self.points.errors).iter().sum::<f64>() / N as f64;
        Turn::by(shift.aim_deg).place(mean(&self.x_m), mean(&self.y_m))
    }

    /// How well the cloud does when its centre is moved: the share that makes the line, near misses and narrow makes
    /// counted in part.
    pub(crate) fn score(&self, shift: &Shift) -> f64 {
        let turn = Turn::by(shift.aim_deg);
        Arch::new().dispatch(|| self.score_turned(&shift.shape, &turn))
    }

    #[inline(always)]
    fn score_turned(&self, shape: &[f64; CHOSEN], turn: &Turn) -> f64 {
        let errors = &self.points.errors;
        let (x, y) = (self.x_m.moved(shape, errors), self.y_m.moved(shape, errors));
        let mut margin = [f64::INFINITY; N];
        for i in 0..N {
            let (x, y) = turn.place(x[i], y[i]);
            margin[i] = least(self.limits.rest(x, y));
        }
        for passing in &self.passings {
            let opening = &passing.opening;
            let drift = opening.at_m * turn.drift();
            let gate_y = passing.y_m.moved(shape, errors);
            let gate_z = passing.z_m.as_ref().map_or([0.0; N], |z| z.moved(shape, errors));
            for i in 0..N {
                let passed = least(opening.room(gate_y[i] + drift, gate_z[i]));
                let short = turn.place(x[i], y[i]).0 - opening.at_m;
                margin[i] = margin[i].min(if x[i] > opening.at_m { passed } else { short });
            }
        }
        if let Some(apex) = &self.apex_m {
            let apex = apex.moved(shape, errors);
            (0..N).for_each(|i| margin[i] = margin[i].min(self.limits.top_m - apex[i]));
        }
        if let Some(run) = &self.run_m {
            let run = run.moved(shape, errors);
            (0..N).for_each(|i| margin[i] = margin[i].min(self.limits.run(run[i])));
        }
        margin.iter().map(|m| softly(*m)).sum::<f64>() / N as f64
    }
}

#[inline(always)]
fn least<const N: usize>(room: [f64; N]) -> f64 {
    room.into_iter().fold(f64::INFINITY, f64::min)
}

/// Room of a single flight under the best of a few aims, m, and that aim, degrees. Of aims with the same room the
/// smallest is taken, and of these the one toward `side` (+1 left).
pub(crate) fn best_aim(o: &Outcome, limits: &Limits, side: f64) -> (f64, f64) {
    let aims = [0.0, 1.0, -1.0, 2.0, -2.0, 3.0, -3.0, 4.0, -4.0].map(|deg| side * deg);
    let room = |deg: f64| (limits.judge_turned(o, &Turn::by(deg)).margin_m, deg);
    aims.into_iter()
        .map(room)
        .fold((f64::NEG_INFINITY, 0.0), |best, at| if at.0 > best.0 { at } else { best })
}

/// How well a few throws do once their middle is turned and carried onto the target, `rest_at_m` away.
pub(crate) fn trial_score(cloud: &[Outcome], limits: &Limits, rest_at_m: f64) -> f64 {
    let n = cloud.len() as f64;
    let (x, y) = (cloud.iter().map(|o| o.x_m).sum::<f64>() / n, cloud.iter().map(|o| o.y_m).sum::<f64>() / n);
    let turn = Turn::by(-y.atan2(x.max(1.0)).to_degrees());
    let farther = rest_at_m - x.hypot(y);
    let score = |o: &Outcome| {
        // Carried on along the turned line, which is where `judge_turned` will turn it.
        let (along, across) = turn.back(farther);
        softly(
            limits.judge_turned(&Outcome { x_m: o.x_m + along, y_m: o.y_m + across, ..*o }, &turn).margin_m,
        )
    };
    cloud.iter().map(score).sum::<f64>() / n
}

/// A near miss counts a little and a near hit not quite: half a metre of room is worth more than none. Only for
/// choosing between releases; the chance itself counts hits.
#[inline(always)]
fn softly(margin_m: f64) -> f64 {
    (0.5 + margin_m / 2.0).clamp(0.0, 1.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn quadratic() -> Quantity<32> {
        let model: Quadratic = std::array::from_fn(|k| 0.3 * k as f64 - 1.7);
        let value = |z: &[f64; DIMENSIONS]| terms(&shaping(z)).iter().zip(&model).map(|(t, c)| t * c).sum();
        let flown: Column<32> = std::array::from_fn(|i| value(&deviates(32)[i]));
        Quantity::fitted(&FEW, flown, &flown)
    }

    #[test]
    fn prop_the_fit_gives_a_quadratic_back() {
        for (k, found) in quadratic().model.iter().enumerate() {
            let expected = 0.3 * k as f64 - 1.7;
            assert!((found - expected).abs() < 1e-9, "term {k}: {found} {expected}");
        }
    }

    #[test]
    fn prop_moving_the_centre_is_flying_from_elsewhere() {
        let (quantity, shift) = (quadratic(), [0.7, -1.1, 0.4]);
        let moved = quantity.moved(&shift, &FEW.errors);
        for (i, z) in deviates(32).iter().enumerate() {
            let mut there = shaping(z);
            there.iter_mut().zip(shift).for_each(|(z, s)| *z += s);
            assert!((moved[i] - quantity.at(&there)).abs() < 1e-9, "{} {}", moved[i], quantity.at(&there));
        }
    }
}
