//! How often a cloud of throws makes a line, there and when its centre is moved a little.
//!
//! Every throw of the cloud is a real flight. A quadratic in the release errors, fitted to them all, says how each
//! would change if the centre moved; where it does not move, the cloud stands as it was flown.
//!
//! A few throws that are counted make a rugged ground: moved by a hair, one more is in or out. So each stands for all that lie
//! about it. Aim needs no fit: it turns the flight, and in wind what gusts did tells the rest. How often it errs so far as to lose
//! a throw is worked out over all its errors. The other errors are drawn in toward the centre by as much as each throw is spread
//! about where it lies ([`Points::spread`]), so that both together are the scatter told; how much of what lies about it a limit cuts off follows from
//! the slope of the quadratic there. Everything is kept in columns, a number a throw in single precision as it was flown, so that
//! a score is a few loops over numbers.

use std::sync::LazyLock;

use pulp::{Arch, Simd, WithSimd};
use zinc_kite_flight::outcome::{Crossing, Outcome};

use crate::chance::answer::NEVER;
use crate::chance::normal::{below_normal, between, greatest, least, lower};
use crate::chance::points::{ALL, Column, EVERY, Points, SOME, Shift, Short, mean};
use crate::chance::quantity::{Gusts, Quantity};
use crate::need::limits::{Bounds, Danger, Limits, Turn, chains_let_go};
use crate::need::opening::{HEIGHT_SCALE, Opening};

/// A quantity with a limit to it.
struct Limited<const N: usize> {
    value: Quantity<N>,
    /// What a unit of room to the limit is in standard deviations of what each throw stands for.
    per_unit: Column<N>,
}

impl<const N: usize> Limited<N> {
    /// A quantity in metres, of which the limit counts each `counted` times as room.
    fn length(value: Quantity<N>, spreads: Column<N>, counted: f32) -> Limited<N> {
        let per_unit =
            spreads.map(|spread| 1.0 / (counted * if spread > LEAST_M { spread } else { LEAST_M }));
        Limited { value, per_unit }
    }

    /// What lies to a side, in metres a distance away, with room as the angle (radians) that a throw may turn; beside what each throw
    /// stands for its aim errs by `aim_rad`.
    fn side(value: Quantity<N>, spreads: Column<N>, away_m: f32, aim_rad: f32) -> Limited<N> {
        let angle = |spread: f32| (spread / away_m * (spread / away_m) + aim_rad * aim_rad).sqrt();
        Limited { value, per_unit: spreads.map(|spread| 1.0 / (angle(spread) + LEAST_RAD)) }
    }
}

/// The least standard deviation that counts: a model may say that a quantity does not change at all.
const LEAST_M: f32 = 0.05;
const LEAST_RAD: f32 = 1e-5;

/// What a line asks about one of its openings.
struct Passing<const N: usize> {
    opening: Opening,
    y_m: Limited<N>,
    /// Only where height matters.
    z_m: Option<Limited<N>>,
}

impl<const N: usize> Passing<N> {
    /// As seen in a cloud whose throws' errors of aim, if undone, are `back`; `aim_rad` of them remain.
    fn of(
        points: &Points<N>,
        opening: &Opening,
        cloud: &[Outcome],
        back: &[Turn; N],
        aim_rad: f32,
        gusts: Gusts,
    ) -> Passing<N> {
        let found = |part: fn(&Crossing) -> f32| -> [Option<f32>; N] {
            std::array::from_fn(|i| cloud[i].crossings.get(opening.plane).as_ref().map(part))
        };
        let drift = std::array::from_fn(|i| opening.at_m * back[i].drift());
        let (across, straight) = Quantity::seen(points, found(|c| c.y_m), &drift, gusts);
        let spreads = across.spreads(points, &straight);
        let height = || {
            let (height, straight) = Quantity::seen(points, found(|c| c.z_m), &[0.0; N], gusts);
            let spreads = height.spreads(points, &straight);
            Limited::length(height, spreads, opening.height_scale())
        };
        Passing {
            opening: *opening,
            // Round what is solid leads more than a turn.
            y_m: if opening.is_solid {
                Limited::length(across, spreads, opening.scale())
            } else {
                Limited::side(across, spreads, opening.at_m, aim_rad)
            },
            z_m: opening.is_bounded().then(height),
        }
    }
}

/// A cloud and what moving it would do. Quantities that the line does not ask about are not modelled.
pub(crate) struct Response<const N: usize> {
    pub(crate) points: &'static Points<N>,
    bounds: Bounds,
    dangers: Vec<Danger>,
    /// What it costs to end in each of them, in misses.
    prices: Vec<f32>,
    x_m: Limited<N>,
    y_m: Limited<N>,
    apex_m: Option<Limited<N>>,
    run_m: Option<Limited<N>>,
    /// Speed at the chains.
    speed_m_s: Option<Quantity<N>>,
    passings: Vec<Passing<N>>,
    /// How far to the left of where it was flown each throw's aim would err in the mean, its other errors given, radians.
    off_rad: Column<N>,
}

impl<const N: usize> Response<N> {
    /// From a cloud flown at `points`, whose aim scatters by `aim_deg` toward `side` (+1 left), where a turn meets so many `gusts`.
    pub(crate) fn of(
        points: &'static Points<N>,
        cloud: &[Outcome],
        limits: &Limits,
        aim_deg: f64,
        side: f64,
        gusts: Gusts,
    ) -> Response<N> {
        let column = |value: &dyn Fn(&Outcome) -> f64| -> Column<N> {
            std::array::from_fn(|i| value(&cloud[i]) as f32)
        };
        let (x, y) = (column(&|o| o.x_m), column(&|o| o.y_m));
        // Turned back by its own error of aim, a flight depends on the other four alone.
        let back: [Turn; N] = std::array::from_fn(|i| Turn::by(-side * aim_deg * f64::from(points.aim[i])));
        let straight: [(f32, f32); N] = std::array::from_fn(|i| back[i].place(x[i], y[i]));
        let rests = |flown: Column<N>, straight: Column<N>| {
            let value = Quantity::fitted(points, flown, &straight, gusts);
            let spreads = value.spreads(points, &straight);
            (value, spreads)
        };
        let length = |flown: Column<N>, counted: f32| {
            let (value, spreads) = rests(flown, flown);
            Limited::length(value, spreads, counted)
        };
        let (x_m, spreads_x) = rests(x, straight.map(|p| p.0));
        let (y_m, spreads_y) = rests(y, straight.map(|p| p.1));
        let aim_rad = (side * aim_deg).to_radians() as f32;
        let open_rad = points.aim_open * aim_rad;
        let away_m = x_m.mean.max(1.0);
        let speed = || {
            let speed = column(&|o| o.landing_speed_m_s());
            Quantity::fitted(points, speed, &speed, gusts)
        };
        let passing = |opening: &Opening| Passing::of(points, opening, cloud, &back, open_rad, gusts);
        Response {
            points,
            bounds: limits.bounds,
            dangers: limits.dangers.clone(),
            prices: limits.dangers.iter().map(|danger| danger.misses).collect(),
            x_m: Limited::length(x_m, spreads_x, 1.0),
            y_m: Limited::side(y_m, spreads_y, away_m, open_rad),
            apex_m: limits.bounds.has_roof().then(|| length(column(&|o| o.apex_m), HEIGHT_SCALE)),
            run_m: limits.bounds.asks_for_run().then(|| length(column(&|o| o.run_m), 1.0)),
            speed_m_s: limits.bounds.has_chains().then(speed),
            passings: limits.openings.iter().map(passing).collect(),
            off_rad: std::array::from_fn(|i| aim_rad * points.aim_off[i]),
        }
    }

    /// Middle of the landings once the centre has moved, m.
    pub(crate) fn middle(&self, shift: &Shift) -> (f64, f64) {
        let short = shift.short();
        let middle = |q: &Quantity<N>| q.middle(&short, self.points);
        let (x, y) = Turn::by(shift.aim_deg).place(middle(&self.x_m.value), middle(&self.y_m.value));
        (x.into(), y.into())
    }

    /// How often the cloud makes the line when its centre is moved, less what it costs to end on ground that costs more than a miss,
    /// in misses.
    pub(crate) fn score(&self, shift: &Shift) -> f64 {
        let Outlook { made, lost, off } = self.worked_out(shift, &self.prices);
        f64::from(made - lost - off)
    }

    /// How often it makes the line where it was flown, 0 to 1.
    pub(crate) fn made(&self) -> f64 {
        f64::from(self.as_flown(&vec![0.0; self.dangers.len()]).made).clamp(0.0, 1.0)
    }

    /// How often it ends on ground that costs more than a miss, in the order of the line's limits, 0 to 1.
    pub(crate) fn ends_in(&self) -> Vec<f64> {
        let grounds = self.dangers.len();
        let only = |k| Vec::from_iter((0..grounds).map(|at| if at == k { 1.0 } else { 0.0 }));
        (0..grounds).map(|k| f64::from(self.as_flown(&only(k)).lost).clamp(0.0, 1.0)).collect()
    }

    fn as_flown(&self, prices: &[f32]) -> Outlook {
        self.worked_out(&Shift::default(), prices)
    }

    fn worked_out(&self, shift: &Shift, prices: &[f32]) -> Outlook {
        let (shift, turn) = (shift.short(), Turn::by(shift.aim_deg));
        Arch::new().dispatch(Score { response: self, shift, turn, prices })
    }
}

impl Response<ALL> {
    /// By how much more often (less what is lost) some of its throws make the line than the model says, flown about a centre that
    /// is a move of shape away.
    pub(crate) fn beyond_model(&self, some: &'static Points<SOME>, shift: &Shift, cloud: &[Outcome]) -> f64 {
        let score = |cloud| self.there(some, shift, cloud).score(&Shift::default());
        score(Some(cloud)) - score(None)
    }

    /// Some of its throws once the centre has moved: as they were flown, and what was not as the model tells.
    fn there(&self, some: &'static Points<SOME>, shift: &Shift, cloud: Option<&[Outcome]>) -> Response<SOME> {
        let some_of = |column: &Column<ALL>| -> Column<SOME> { std::array::from_fn(|i| column[EVERY * i]) };
        let quantity = |told: &Quantity<ALL>, part: &dyn Fn(&Outcome) -> Option<f64>| {
            let mut flown = some_of(&told.moved(&shift.short(), self.points));
            for (value, outcome) in flown.iter_mut().zip(cloud.unwrap_or(&[])) {
                *value = part(outcome).map_or(*value, |seen| seen as f32);
            }
            Quantity { mean: mean(&flown), flown, model: told.model, turned: told.turned }
        };
        let limited = |told: &Limited<ALL>, part: &dyn Fn(&Outcome) -> Option<f64>| Limited {
            value: quantity(&told.value, part),
            per_unit: some_of(&told.per_unit),
        };
        let passing = |passing: &Passing<ALL>| {
            let seen = |o: &Outcome| o.crossings.get(passing.opening.plane);
            Passing {
                opening: passing.opening,
                y_m: limited(&passing.y_m, &|o| seen(o).map(|c| c.y_m.into())),
                z_m: passing.z_m.as_ref().map(|z| limited(z, &|o| seen(o).map(|c| c.z_m.into()))),
            }
        };
        Response {
            points: some,
            bounds: self.bounds,
            dangers: self.dangers.clone(),
            prices: self.prices.clone(),
            x_m: limited(&self.x_m, &|o| Some(o.x_m)),
            y_m: limited(&self.y_m, &|o| Some(o.y_m)),
            apex_m: self.apex_m.as_ref().map(|apex| limited(apex, &|o| Some(o.apex_m))),
            run_m: self.run_m.as_ref().map(|run| limited(run, &|o| Some(o.run_m))),
            speed_m_s: self.speed_m_s.as_ref().map(|v| quantity(v, &|o| Some(o.landing_speed_m_s()))),
            passings: self.passings.iter().map(passing).collect(),
            off_rad: some_of(&self.off_rad),
        }
    }
}

/// What a score is made of.
struct Outlook {
    /// The share that makes the line.
    made: f32,
    /// What ending on ground that costs more than a miss costs.
    lost: f32,
    /// What being far off costs in the search, where next to none makes it.
    off: f32,
}

/// How it is worked out, on the widest registers there are.
struct Score<'a, const N: usize> {
    response: &'a Response<N>,
    shift: Short,
    /// Its turn.
    turn: Turn,
    /// What it costs to end on each such ground.
    prices: &'a [f32],
}

impl<const N: usize> WithSimd for Score<'_, N> {
    type Output = Outlook;
    #[inline(always)]
    fn with_simd<S: Simd>(self, _: S) -> Outlook {
        let Score { response: r, ref shift, turn, prices } = self;
        let (points, bounds) = (r.points, r.bounds);
        let (flown_x, flown_y) = (r.x_m.value.moved(shift, points), r.y_m.value.moved(shift, points));
        let (mut x, mut y) = (flown_x, flown_y);
        // Room in standard deviations of what each throw stands for: for all on the way and how it ends, and along for how far it must
        // come and may go.
        let (mut way, mut near, mut far) = ([f32::INFINITY; N], [0.0; N], [0.0; N]);
        // How far each may be turned right and left, in standard deviations too; from where its aim would err in the mean.
        let (mut right, mut left) = ([0.0; N], [0.0; N]);
        let off = &r.off_rad;
        // The zone is small against the way to it: all are as good as equally far off.
        let per_m = 1.0 / r.x_m.value.middle(shift, points).max(1.0);
        let (per_x, per_turn) = (&r.x_m.per_unit, &r.y_m.per_unit);
        for i in 0..N {
            (x[i], y[i]) = turn.place(flown_x[i], flown_y[i]);
            let [before, behind, to_left, to_right] = bounds.rest(x[i], y[i]);
            (near[i], far[i]) = (before * per_x[i], behind * per_x[i]);
            left[i] = (to_left * per_m - off[i]) * per_turn[i];
            right[i] = (to_right * per_m + off[i]) * per_turn[i];
        }
        for passing in &r.passings {
            let opening = &passing.opening;
            let (drift, per_m) = (opening.at_m * turn.drift(), 1.0 / opening.at_m);
            let gate_y = passing.y_m.value.moved(shift, points);
            let gate_z = passing.z_m.as_ref().map_or([0.0; N], |z| z.value.moved(shift, points));
            let (per_y, per_z) =
                (&passing.y_m.per_unit, passing.z_m.as_ref().map_or(&[1.0; N], |z| &z.per_unit));
            let chains = r.speed_m_s.as_ref().filter(|_| opening.is_chains);
            let mut held = chains.map_or([0.0; N], |v| v.moved(shift, points));
            if chains.is_some() {
                held.iter_mut().for_each(|v| *v = chains_let_go(*v));
            }
            for i in 0..N {
                let y_m = gate_y[i] + drift;
                let [beside, above, below] = opening.room(y_m, gate_z[i]);
                let past_m = flown_x[i] - opening.at_m;
                let arrives = past_m > 0.0;
                let reaches = if opening.must_be_reached { past_m * per_x[i] } else { f32::INFINITY };
                if opening.is_solid {
                    let round = greatest([beside * per_y[i], above * per_z[i], below * per_z[i]]);
                    way[i] = lower(way[i], if arrives { round } else { f32::INFINITY });
                } else {
                    let under =
                        if arrives { (lower(above, below) - held[i]) * per_z[i] } else { f32::INFINITY };
                    way[i] = lower(way[i], under);
                    near[i] = lower(near[i], reaches);
                    // What nearly arrives counts in part, and so only where it would have passed.
                    let counts = arrives | opening.must_be_reached;
                    let [to_left, to_right] = opening.edges(y_m, held[i]);
                    let to_left = (to_left * per_m - off[i]) * per_y[i];
                    let to_right = (to_right * per_m + off[i]) * per_y[i];
                    left[i] = lower(left[i], if counts { to_left } else { f32::INFINITY });
                    right[i] = lower(right[i], if counts { to_right } else { f32::INFINITY });
                }
            }
        }
        if let Some(Limited { value, per_unit }) = &r.apex_m {
            let apex = value.moved(shift, points);
            (0..N).for_each(|i| way[i] = lower(way[i], bounds.under_roof(apex[i]) * per_unit[i]));
        }
        if let Some(Limited { value, per_unit }) = &r.run_m {
            let run = value.moved(shift, points);
            (0..N).for_each(|i| way[i] = lower(way[i], bounds.run(run[i]) * per_unit[i]));
        }
        // How far it ends inside one of them; where they overlap, the first counts.
        let (mut lost, mut inside, mut ended) = (0.0, [f32::NEG_INFINITY; N], [0.0; N]);
        for (danger, price) in r.dangers.iter().zip(prices) {
            let inside_m = danger.area.inside_all_m(&x, &y);
            for i in 0..N {
                inside[i] = -lower(-inside[i], -inside_m[i] * per_x[i]);
                // What is stopped on the way does not come so far.
                let ends = below_normal(lower(inside[i], way[i]));
                lost += price * (ends - ended[i]);
                ended[i] = ends;
            }
        }
        let mut made = [0.0; N];
        for i in 0..N {
            let across = between(-right[i], left[i]);
            made[i] = across * between(-near[i], far[i]) * below_normal(lower(way[i], -inside[i]));
        }
        // Eight sums side by side: one alone would wait for every addition.
        let mut sums = [0.0f32; 8];
        for few in made.chunks_exact(8) {
            (0..8).for_each(|k| sums[k] += few[k]);
        }
        let made = sums.iter().sum::<f32>() / N as f32;
        let mut off = 0.0;
        if made < NEVER as f32 {
            for i in 0..N {
                let room = least([left[i], right[i], near[i], far[i], way[i], -inside[i]]);
                off += lower(if room < 0.0 { -room } else { 0.0 }, FARTHEST_OFF);
            }
        }
        Outlook { made, lost: lost / N as f32, off: PER_DEVIATION_OFF * off / N as f32 }
    }
}

/// A search must know where to go where next to no throw makes the line: so much less counts what is off, per standard deviation
/// that each throw is and no more than the second. Own.
const PER_DEVIATION_OFF: f32 = 0.02;
const FARTHEST_OFF: f32 = 25.0;

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

#[cfg(test)]
mod tests {
    use statrs::distribution::{ContinuousCDF, Normal};
    use zinc_kite_flight::air::{Air, Wind};
    use zinc_kite_flight::batch::fly_all;
    use zinc_kite_flight::dynamics::Throw;
    use zinc_kite_flight::numbers::FlightNumbers;
    use zinc_kite_flight::release::{Hand, Release, Style};

    use super::*;
    use crate::chance::points::{MANY, all, many, some};
    use crate::need::line::{Gate, LineSpec};
    use crate::thrower::style::Style::Forehand;

    const STYLE: Style = Style::Forehand;

    /// Flights that never vary but in aim, through a gate onto a zone: the score is how often such an aim makes the line.
    #[test]
    fn prop_a_score_is_how_often_aim_makes_the_line() {
        let (points, aim_deg) = (many(STYLE), 2.5);
        let disc = FlightNumbers::new(5.0, 4.0, -1.0, 1.0).disc(0.175).expect("a usual disc");
        let release = Release::rated(25.0, Hand::Right, STYLE);
        let flown = fly_all(&[Throw { disc, release, wind: Wind::CALM }], &Air::default(), &[])[0];
        for (side, half_m, gate_m) in [(1.0, 3.0, 9.0), (1.0, 9.0, 1.0), (-1.0, 2.0, 1.5), (-1.0, 4.0, 0.5)] {
            let (left_edge_m, right_edge_m) = (gate_m, -gate_m);
            let gate = Gate { at_m: 40.0, left_edge_m, right_edge_m, ceiling_m: None, floor_m: None };
            let line = LineSpec {
                distance_m: 80.0,
                zone_width_m: 2.0 * half_m,
                gates: vec![gate],
                ..LineSpec::usual(Forehand)
            };
            let cloud: Vec<Outcome> = (0..MANY)
                .map(|i| {
                    let turn = Turn::by(side * aim_deg * f64::from(points.aim[i]));
                    let (x, y) = turn.place(80.0, 0.0);
                    let mut o = flown;
                    (o.x_m, o.y_m) = (x.into(), y.into());
                    o.crossings.set(0, Some(Crossing { y_m: 40.0 * turn.drift(), z_m: 2.0 }));
                    o
                })
                .collect();
            let score = Response::of(points, &cloud, &Limits::of(&line), aim_deg, side, [0.0; 2])
                .score(&Shift::default());
            let turn_deg = (half_m / 80.0).atan().min((gate_m / 40.0).atan()).to_degrees();
            let within = 1.0 - 2.0 * Normal::standard().cdf(-turn_deg / aim_deg);
            assert!((score - within).abs() < 0.02, "{side} {half_m} {gate_m}: {score} {within}");
        }
    }

    /// A cloud as the model tells it leaves nothing out; one that comes down shorter does worse, and by as much as is so flown.
    #[test]
    fn prop_what_the_model_leaves_out_is_seen() {
        let (all, some) = (all(STYLE), some(STYLE));
        let disc = FlightNumbers::new(5.0, 4.0, -1.0, 1.0).disc(0.175).expect("a usual disc");
        let release = Release::rated(25.0, Hand::Right, STYLE);
        let flown = fly_all(&[Throw { disc, release, wind: Wind::CALM }], &Air::default(), &[])[0];
        // Two metres a standard deviation of speed, and half a metre for its square.
        let at = |speed: f64, short_m: f64| Outcome {
            x_m: 80.0 + 2.0 * speed + 0.5 * speed * speed - short_m,
            y_m: 0.0,
            ..flown
        };
        let line =
            LineSpec { distance_m: 80.0, zone_length_m: 6.0, gates: vec![], ..LineSpec::usual(Forehand) };
        let cloud: Vec<Outcome> = all.drawn_in.iter().map(|z| at(z[0], 0.0)).collect();
        let response = Response::of(all, &cloud, &Limits::of(&line), 0.0, 1.0, [0.0; 2]);
        let away = |short_m: f64| {
            let cloud: Vec<Outcome> = some.drawn_in.iter().map(|z| at(z[0] + 0.5, short_m)).collect();
            response.beyond_model(some, &Shift::along(0, 0.5), &cloud)
        };
        assert!(away(0.0).abs() < 1e-4, "{}", away(0.0));
        // It lands a metre past the middle as it is.
        assert!(away(4.0) < away(3.0) && away(3.0) < -0.02, "{} {}", away(4.0), away(3.0));
        assert!(away(1.0) > 0.0, "{}", away(1.0));
    }
}
