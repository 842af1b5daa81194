//! How the outcomes of a small cloud of throws change when its centre is moved a little.
//!
//! Every throw of the cloud is a real flight. A quadratic in the release errors, fitted to them all, says how each
//! would change if the centre moved; where it does not move, the cloud stands as it was flown. Aim needs no fit: it
//! turns the flight. Everything is kept in columns, a number a throw in single precision as it was flown, so that a score is
//! a few loops over numbers.

use std::sync::LazyLock;

use nalgebra::DMatrix;
use pulp::{Arch, Simd, WithSimd};
use zinc_kite_flight::outcome::{Crossing, Outcome};
use zinc_kite_flight::release::Style;
use zinc_kite_flight::scatter::{AIM, DIMENSIONS, deviates};

use crate::need::limits::{Bounds, Danger, Limits, Turn, chains_let_go};
use crate::need::opening::Opening;

/// One number a throw.
type Column<const N: usize> = [f32; N];

/// Errors that shape a flight: speed, hyzer, launch, nose. Aim only turns it; gusts stay as they were flown.
pub(crate) const SHAPING: usize = 4;
/// Throws by which a way is found, and those by which its last steps are.
pub(crate) const FEW: usize = 32;
pub(crate) const MANY: usize = 128;
/// Terms of a full quadratic in four variables.
const TERMS: usize = 15;
/// A quadratic in the shaping errors a, b, c, d, by its terms 1, a, b, c, d, a², ab, ac, ad, b², bc, bd, c², cd, d².
type Quadratic = [f32; TERMS];

/// A move of the centre: speed, hyzer, launch and nose in standard deviations of the player's scatter, aim in degrees.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct Shift {
    pub shape: [f64; SHAPING],
    pub aim_deg: f64,
}

impl Shift {
    /// Moved on by `steps` times another move.
    pub(crate) fn plus(&self, other: &Shift, steps: f64) -> Shift {
        Shift {
            shape: std::array::from_fn(|k| self.shape[k] + steps * other.shape[k]),
            aim_deg: self.aim_deg + steps * other.aim_deg,
        }
    }

    /// What shapes the flight, as clouds are kept.
    fn short(&self) -> [f32; SHAPING] {
        self.shape.map(|s| s as f32)
    }
}

fn terms(z: &[f32; SHAPING]) -> Quadratic {
    let [a, b, c, d] = *z;
    [1.0, a, b, c, d, a * a, a * b, a * c, a * d, b * b, b * c, b * d, c * c, c * d, d * d]
}

fn shaping(z: &[f64; DIMENSIONS]) -> [f32; SHAPING] {
    std::array::from_fn(|d| z[d] as f32)
}

/// What is the same for every cloud of the first `N` deviates of a style.
pub(crate) struct Points<const N: usize> {
    /// Least squares: a quadratic's coefficients are these rows times the values; those of further terms are 0.
    fit: Vec<Column<N>>,
    /// The shaping errors, a column each.
    errors: [Column<N>; SHAPING],
    /// Their means: next to nothing, but the points are not the distribution.
    means: [f32; SHAPING],
    /// The errors of aim.
    aim: Column<N>,
    /// How far from a limit a throw counts in part, m.
    pub(crate) ramp_m: f32,
    /// The last step of an improvement, in standard deviations of the player's scatter and degrees of aim: few points tell
    /// little about a fine one.
    pub(crate) last_step: f64,
}

impl<const N: usize> Points<N> {
    /// Too few points for a quadratic make a plane.
    const PLANE: bool = N < 2 * TERMS;

    fn of(style: Style, ramp_m: f32, last_step: f64) -> Points<N> {
        let points = &deviates(style)[..N];
        let known = if Self::PLANE { 1 + SHAPING } else { TERMS };
        let design = DMatrix::from_fn(N, known, |i, k| f64::from(terms(&shaping(&points[i]))[k]));
        // The points are well spread: the design has full rank (tested), and the tolerance never cuts anything.
        let inverse = design.pseudo_inverse(1e-9).unwrap_or_else(|_| DMatrix::zeros(known, N));
        let fit = |k: usize| std::array::from_fn(|i| inverse[(k, i)] as f32);
        let errors = std::array::from_fn(|d| std::array::from_fn(|i| points[i][d] as f32));
        Points {
            means: errors.each_ref().map(mean),
            errors,
            fit: (0..known).map(fit).collect(),
            aim: std::array::from_fn(|i| points[i][AIM] as f32),
            ramp_m,
            last_step,
        }
    }

    /// The shaping errors of one throw.
    fn error(&self, i: usize) -> [f32; SHAPING] {
        self.errors.each_ref().map(|column| column[i])
    }
}

/// For a first look at every shape.
pub(crate) fn fewest(style: Style) -> &'static Points<8> {
    static POINTS: LazyLock<[Points<8>; Style::ALL.len()]> =
        LazyLock::new(|| Style::ALL.map(|style| Points::of(style, FINDING_RAMP_M, 0.6)));
    &POINTS[style as usize]
}

/// For finding a way.
pub(crate) fn few(style: Style) -> &'static Points<FEW> {
    static POINTS: LazyLock<[Points<FEW>; Style::ALL.len()]> =
        LazyLock::new(|| Style::ALL.map(|style| Points::of(style, RAMP_M, 0.6)));
    &POINTS[style as usize]
}

/// For the last steps.
pub(crate) fn many(style: Style) -> &'static Points<MANY> {
    static POINTS: LazyLock<[Points<MANY>; Style::ALL.len()]> =
        LazyLock::new(|| Style::ALL.map(|style| Points::of(style, RAMP_M, 0.3)));
    &POINTS[style as usize]
}

/// One quantity of every throw, and the quadratic that says how it changes.
struct Quantity<const N: usize> {
    flown: Column<N>,
    mean: f32,
    model: Quadratic,
}

impl<const N: usize> Quantity<N> {
    /// From what was flown, and from what it would have been without errors of aim, which the model leaves out.
    fn fitted(points: &Points<N>, flown: Column<N>, straight: &Column<N>) -> Quantity<N> {
        let mut model = [0.0; TERMS];
        for (m, fit) in model.iter_mut().zip(&points.fit) {
            *m = fit.iter().zip(straight).map(|(f, v)| f * v).sum();
        }
        Quantity { mean: mean(&flown), flown, model }
    }

    /// From what was seen at an opening, and what to add where there were no errors of aim. A throw that never came there
    /// tells nothing: the others' mean stands in for the fit, and then the fit for the throw.
    fn seen(points: &Points<N>, found: [Option<f32>; N], straighten: &Column<N>) -> Quantity<N> {
        let straight: [Option<f32>; N] = std::array::from_fn(|i| found[i].map(|v| v + straighten[i]));
        let n = straight.iter().flatten().count().max(1) as f32;
        let usual = straight.iter().flatten().sum::<f32>() / n;
        let model = Quantity::fitted(points, [0.0; N], &straight.map(|v| v.unwrap_or(usual)));
        let flown = |i: usize| found[i].unwrap_or_else(|| model.at(&points.error(i)));
        let flown = std::array::from_fn(flown);
        Quantity { mean: mean(&flown), flown, ..model }
    }

    fn at(&self, z: &[f32; SHAPING]) -> f32 {
        self.model.iter().zip(terms(z)).map(|(m, t)| m * t).sum()
    }

    /// How every throw's value changes once the centre has moved: by so much for all, and by so much per unit of each of
    /// its own errors. A quadratic's change is linear in where it starts.
    #[inline(always)]
    fn change(&self, shape: &[f32; SHAPING]) -> (f32, [f32; SHAPING]) {
        let [a, b, c, d] = *shape;
        let [_, m_a, m_b, m_c, m_d, aa, ab, ac, ad, bb, bc, bd, cc, cd, dd] = self.model;
        if Points::<N>::PLANE {
            return (a * m_a + b * m_b + c * m_c + d * m_d, [0.0; SHAPING]);
        }
        let all = a * (m_a + aa * a + ab * b + ac * c + ad * d)
            + b * (m_b + bb * b + bc * c + bd * d)
            + c * (m_c + cc * c + cd * d)
            + d * (m_d + dd * d);
        let by = [
            2.0 * aa * a + ab * b + ac * c + ad * d,
            ab * a + 2.0 * bb * b + bc * c + bd * d,
            ac * a + bc * b + 2.0 * cc * c + cd * d,
            ad * a + bd * b + cd * c + 2.0 * dd * d,
        ];
        (all, by)
    }

    /// Every throw's value once the centre has moved.
    #[inline(always)]
    fn moved(&self, shape: &[f32; SHAPING], points: &Points<N>) -> Column<N> {
        let (all, by) = self.change(shape);
        if Points::<N>::PLANE {
            return self.flown.map(|flown| flown + all);
        }
        let [a, b, c, d] = &points.errors;
        let mut moved = self.flown;
        for i in 0..N {
            moved[i] += all + by[0] * a[i] + by[1] * b[i] + by[2] * c[i] + by[3] * d[i];
        }
        moved
    }

    /// Their mean.
    fn middle(&self, shape: &[f32; SHAPING], points: &Points<N>) -> f32 {
        let (all, by) = self.change(shape);
        let shifted = by.iter().zip(&points.means).map(|(by, mean)| by * mean).sum::<f32>();
        self.mean + all + shifted
    }
}

fn mean<const N: usize>(column: &Column<N>) -> f32 {
    column.iter().sum::<f32>() / N as f32
}

/// What a line asks about one of its openings.
struct Passing<const N: usize> {
    opening: Opening,
    y_m: Quantity<N>,
    /// Only where height matters.
    z_m: Option<Quantity<N>>,
}

/// A cloud and what moving it would do. Quantities that the line does not ask about are not modelled.
pub(crate) struct Response<const N: usize> {
    pub(crate) points: &'static Points<N>,
    bounds: Bounds,
    dangers: Vec<Danger>,
    x_m: Quantity<N>,
    y_m: Quantity<N>,
    apex_m: Option<Quantity<N>>,
    run_m: Option<Quantity<N>>,
    /// Speed at the chains.
    speed_m_s: Option<Quantity<N>>,
    passings: Vec<Passing<N>>,
}

impl<const N: usize> Response<N> {
    /// From a cloud flown at the first deviates, whose aim scatters by `aim_deg` toward `side` (+1 left).
    pub(crate) fn of(
        points: &'static Points<N>,
        cloud: &[Outcome],
        limits: &Limits,
        aim_deg: f64,
        side: f64,
    ) -> Response<N> {
        let column = |value: &dyn Fn(&Outcome) -> f64| -> Column<N> {
            std::array::from_fn(|i| value(&cloud[i]) as f32)
        };
        let (x, y) = (column(&|o| o.x_m), column(&|o| o.y_m));
        // Turned back by its own error of aim, a flight depends on the other four alone.
        let back: [Turn; N] = std::array::from_fn(|i| Turn::by(-side * aim_deg * f64::from(points.aim[i])));
        let straight: [(f32, f32); N] = std::array::from_fn(|i| back[i].place(x[i], y[i]));
        let plain = |flown: Column<N>| Quantity::fitted(points, flown, &flown);
        let passings = limits.openings.iter().map(|opening| {
            let found = |part: fn(&Crossing) -> f32| -> [Option<f32>; N] {
                std::array::from_fn(|i| cloud[i].crossings.get(opening.plane).as_ref().map(part))
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
            bounds: limits.bounds,
            dangers: limits.dangers.clone(),
            x_m: Quantity::fitted(points, x, &straight.map(|p| p.0)),
            y_m: Quantity::fitted(points, y, &straight.map(|p| p.1)),
            apex_m: limits.bounds.has_roof().then(|| plain(column(&|o| o.apex_m))),
            run_m: limits.bounds.asks_for_run().then(|| plain(column(&|o| o.run_m))),
            speed_m_s: limits.bounds.has_chains().then(|| plain(column(&|o| o.landing_speed_m_s()))),
            passings: passings.collect(),
        }
    }

    /// Middle of the landings once the centre has moved, m.
    pub(crate) fn middle(&self, shift: &Shift) -> (f64, f64) {
        let shape = shift.short();
        let middle = |q: &Quantity<N>| q.middle(&shape, self.points);
        let (x, y) = Turn::by(shift.aim_deg).place(middle(&self.x_m), middle(&self.y_m));
        (x.into(), y.into())
    }

    /// How well the cloud does when its centre is moved: the share that makes the line, near misses and narrow makes
    /// counted in part, less what it costs to end on ground that costs more than a miss, in misses.
    pub(crate) fn score(&self, shift: &Shift) -> f64 {
        self.score_within(shift, self.points.ramp_m)
    }

    /// The same with misses counted in part up to `ramp_m` from a limit: far from a good place a wide ramp still tells which
    /// way it lies.
    pub(crate) fn score_within(&self, shift: &Shift, ramp_m: f32) -> f64 {
        let turn = Turn::by(shift.aim_deg);
        f64::from(Arch::new().dispatch(Score { response: self, shape: &shift.short(), turn, ramp_m }))
    }
}

/// A score to be worked out on the widest registers there are.
struct Score<'a, const N: usize> {
    response: &'a Response<N>,
    shape: &'a [f32; SHAPING],
    turn: Turn,
    ramp_m: f32,
}

impl<const N: usize> WithSimd for Score<'_, N> {
    type Output = f32;
    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> f32 {
        let Score { response: r, shape, turn, ramp_m } = self;
        let (points, bounds) = (r.points, r.bounds);
        let (flown_x, flown_y) = (r.x_m.moved(shape, points), r.y_m.moved(shape, points));
        let (mut x, mut y) = (flown_x, flown_y);
        // On the way, and where it ends.
        let (mut way, mut room) = ([f32::INFINITY; N], [f32::INFINITY; N]);
        for i in 0..N {
            (x[i], y[i]) = turn.place(flown_x[i], flown_y[i]);
            room[i] = least(bounds.rest(x[i], y[i]));
        }
        for passing in &r.passings {
            let opening = &passing.opening;
            let drift = opening.at_m * turn.drift();
            let gate_y = passing.y_m.moved(shape, points);
            let gate_z = passing.z_m.as_ref().map_or([0.0; N], |z| z.moved(shape, points));
            let chains = r.speed_m_s.as_ref().filter(|_| opening.is_chains);
            let held = chains.map_or([0.0; N], |v| v.moved(shape, points).map(chains_let_go));
            for i in 0..N {
                let here = opening.room(gate_y[i] + drift, gate_z[i]);
                let passed = if opening.is_solid { greatest(here) } else { least(here) - held[i] };
                let short = if opening.must_be_reached { x[i] - opening.at_m } else { f32::INFINITY };
                way[i] = lower(way[i], if flown_x[i] > opening.at_m { passed } else { short });
            }
        }
        if let Some(apex) = &r.apex_m {
            let apex = apex.moved(shape, points);
            (0..N).for_each(|i| way[i] = lower(way[i], bounds.under_roof(apex[i])));
        }
        if let Some(run) = &r.run_m {
            let run = run.moved(shape, points);
            (0..N).for_each(|i| room[i] = lower(room[i], bounds.run(run[i])));
        }
        let mut lost = 0.0;
        for danger in &r.dangers {
            let inside = danger.area.inside_all_m(&x, &y);
            for i in 0..N {
                room[i] = lower(room[i], -inside[i]);
                // What is stopped on the way does not come so far.
                lost += danger.misses * softly(lower(inside[i], way[i]), ramp_m);
            }
        }
        // Eight sums side by side: one alone would wait for every addition.
        let mut sums = [0.0f32; 8];
        for (few, ways) in room.chunks_exact(8).zip(way.chunks_exact(8)) {
            (0..8).for_each(|k| sums[k] += softly(lower(few[k], ways[k]), ramp_m));
        }
        (sums.iter().sum::<f32>() - lost) / N as f32
    }
}

#[inline(always)]
fn least<const K: usize>(room: [f32; K]) -> f32 {
    room.into_iter().fold(f32::INFINITY, lower)
}

#[inline(always)]
fn greatest<const K: usize>(room: [f32; K]) -> f32 {
    -least(room.map(|r| -r))
}

/// The lower of two numbers, neither of which is NaN: unlike `f32::min` one instruction.
#[inline(always)]
fn lower(a: f32, b: f32) -> f32 {
    if b < a { b } else { a }
}

/// Room of a single flight under the best of a few aims, m, and that aim, degrees. Of aims with the same room the
/// smallest is taken, and of these the one toward `side` (+1 left).
pub(crate) fn best_aim(o: &Outcome, limits: &Limits, side: f64) -> (f64, f64) {
    static AIMS: LazyLock<[[(f64, Turn); 9]; 2]> = LazyLock::new(|| {
        let aims = [0.0, 1.0, -1.0, 2.0, -2.0, 3.0, -3.0, 4.0, -4.0];
        [1.0, -1.0].map(|side| aims.map(|deg| (side * deg, Turn::by(side * deg))))
    });
    let room = |(deg, turn): &(f64, Turn)| (f64::from(limits.judge_turned(o, turn).margin_m), *deg);
    AIMS[usize::from(side < 0.0)]
        .iter()
        .map(room)
        .fold((f64::NEG_INFINITY, 0.0), |best, at| if at.0 > best.0 { at } else { best })
}

/// A near miss counts a little and a near hit not quite: half a metre of room is worth more than none. Only for
/// choosing between releases; the chance itself counts hits.
#[inline(always)]
fn softly(margin_m: f32, ramp_m: f32) -> f32 {
    let share = 0.5 + 0.5 * margin_m / ramp_m;
    lower(if share > 0.0 { share } else { 0.0 }, 1.0)
}

/// Over how much room a throw goes from a miss to a hit, m: the throws are few, and a step at each limit would make a rugged
/// ground of dents and peaks that are not there.
const RAMP_M: f32 = 1.0;
/// The same while a way is looked for at all.
pub(crate) const FINDING_RAMP_M: f32 = 3.0;

#[cfg(test)]
mod tests {
    use super::*;

    const STYLE: Style = Style::Forehand;

    fn quadratic() -> Quantity<32> {
        let model: Quadratic = std::array::from_fn(|k| 0.3 * k as f32 - 1.7);
        let points = few(STYLE);
        let value = |z: &[f32; SHAPING]| terms(z).iter().zip(&model).map(|(t, c)| t * c).sum();
        let flown: Column<32> = std::array::from_fn(|i| value(&points.error(i)));
        Quantity::fitted(points, flown, &flown)
    }

    #[test]
    fn prop_the_fit_gives_a_quadratic_back() {
        for (k, found) in quadratic().model.iter().enumerate() {
            let expected = 0.3 * k as f32 - 1.7;
            assert!((found - expected).abs() < 1e-3, "term {k}: {found} {expected}");
        }
    }

    #[test]
    fn prop_moving_the_centre_is_flying_from_elsewhere() {
        let (quantity, shift) = (quadratic(), [0.7, -1.1, 0.4, -0.6]);
        let moved = quantity.moved(&shift, few(STYLE));
        for (i, moved) in moved.iter().enumerate() {
            let mut there = few(STYLE).error(i);
            there.iter_mut().zip(shift).for_each(|(z, s)| *z += s);
            assert!((moved - quantity.at(&there)).abs() < 1e-3, "{moved} {}", quantity.at(&there));
        }
        assert!((mean(&moved) - quantity.middle(&shift, few(STYLE))).abs() < 1e-3);
    }
}
