//! From the flight of the right disc to a line: its path becomes gates, its end the target, and both are widened until the
//! disc makes it three times in four with this player's scatter.

use zinc_kite_flight::air::Wind;
use zinc_kite_flight::batch::{fly_all, fly_with_paths};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::{Outcome, PathPoint};
use zinc_kite_flight::release::Release;
use zinc_kite_flight::settle::{settle_all, settle_with_path};

use crate::catalogue::reference::REFERENCE_MASS_KG;
use crate::chance::memo::Memo;
use crate::chance::search::{behind, chance};
use crate::disc::thrown::Thrown;
use crate::need::limits::{Limits, Turn};
use crate::need::line::{Footing, Gate, LOWEST_ROLLER_DEG, Landing, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;

/// How often the right disc makes a generated line, how near to that is near enough, and how near is good enough where
/// widening a line would make it ask for nothing.
pub(crate) const MADE_BY_REFERENCE: f64 = 0.75;
const NEAR_ENOUGH: f64 = 0.02;
const GOOD_ENOUGH: f64 = 0.05;
/// Throws by which the plain flight's width is set.
const PLAIN_THROWS: usize = 128;
/// Share of a flat cloud from which widening starts: the best release does a little better than the plain one.
const MADE_PLAINLY: f64 = 0.69;
/// Two widths this near to one another, as a ratio, are the same.
const NEAR_WIDTHS: f64 = 1.03;
const TRIES: usize = 8;
/// No try is wider than the last by more, as a ratio, nor by more than that of which a widening by e brings so much of a share:
/// a cloud that a line hardly touches tells little about a wide one.
const WIDENED: f64 = 2.8;
const LEAST_SHARE_PER_E: f64 = 0.25;
/// A line whose zone would have to be longer than this share of the way asks for nothing: with this player's scatter the disc
/// may come down anywhere.
const WIDEST: f64 = 0.75;
/// Half the zone's length and width against the one width that a line is sized by, and half a gate's width were it at the
/// target; on the way there gates widen as scatter does, which grows faster than distance. Own judgement.
const ZONE_HALF_LENGTH: f64 = 1.3;
const ZONE_HALF_WIDTH: f64 = 1.6;
const GATE_HALF_WIDTH: f64 = 1.9;
const GATE_GROWTH: f64 = 1.5;
/// How far short of the farthest a throw may stay that means "as far as I can", share of it. Own judgement.
const SHORT_OF_REACH: f64 = 0.08;
const NARROWEST_M: f64 = 0.6;
const GUESS_M: f64 = 4.0;
const WIDTHS_M: (f64, f64) = (0.9, 24.0);

/// A shot as the right disc for it is thrown.
#[derive(Clone)]
pub(crate) struct Shape {
    pub key: String,
    pub name: String,
    /// What the shot is, in one sentence that needs none of our words.
    pub meaning: String,
    pub slot: Slot,
    pub style: Style,
    /// The right disc.
    pub numbers: FlightNumbers,
    pub power: f64,
    pub hyzer_deg: f64,
    pub launch_deg: f64,
    /// Nose, degrees, if it is not the style's usual one.
    pub nose_deg: Option<f64>,
    /// How far from these a release may be, degrees.
    pub hyzer_room_deg: f64,
    pub launch_room_deg: f64,
    /// Where on the way gates stand, as shares of it.
    pub gates: Vec<f64>,
    /// Room above the flight to a roof of branches, m, if there is one.
    pub roof_m: Option<f64>,
    /// Where on the way something must be cleared, as a share of it, and how much of the height there.
    pub clears: Option<(f64, f64)>,
    pub landing: Landing,
    pub footing: Footing,
    pub lee: f64,
    /// Wind of this line's own, along it, m/s.
    pub along_m_s: f64,
    pub open_ended: bool,
    pub times: f64,
    pub miss_strokes: f64,
}

fn tenth(x: f64) -> f64 {
    (10.0 * x).round() / 10.0
}

/// The reference flight, turned so that it ends straight ahead.
struct Flown {
    throw: Throw,
    rest_m: f64,
    path: Vec<PathPoint>,
    apex_m: f64,
}

impl Flown {
    /// Left of the line and height, m, at a share of the way.
    fn at(&self, share: f64) -> (f64, f64) {
        let x_m = share * self.rest_m;
        let Some(k) = self.path.windows(2).position(|w| w[0].x_m <= x_m && x_m < w[1].x_m) else {
            return self.path.last().map_or((0.0, 0.0), |p| (p.y_m, p.z_m));
        };
        let (a, b) = (&self.path[k], &self.path[k + 1]);
        let t = (x_m - a.x_m) / (b.x_m - a.x_m).max(1e-9);
        (a.y_m + t * (b.y_m - a.y_m), a.z_m + t * (b.z_m - a.z_m))
    }
}

impl Shape {
    fn release(&self, arm: &Arm, aim_deg: f64) -> Release {
        let usual = arm.release(self.style, self.numbers.speed, self.power);
        let nose_deg = self.nose_deg.unwrap_or(usual.nose_deg);
        Release { hyzer_deg: self.hyzer_deg, launch_deg: self.launch_deg, nose_deg, aim_deg, ..usual }
    }

    fn fly(&self, arm: &Arm, thrown: &Thrown, line: &LineSpec) -> Flown {
        let wind = Wind { along_m_s: self.along_m_s, left_m_s: 0.0 };
        let mut aim_deg = 0.0;
        let mut flown = None;
        // Where wind blows along the line, turning a flight is not quite turning its end: twice is enough.
        for _ in 0..2 {
            let throw = Throw { disc: thrown.body, release: self.release(arm, aim_deg), wind };
            let (mut end, mut path) = fly_with_paths(&[throw], &arm.air).remove(0);
            let apex_m = end.apex_m;
            let (_, run) = settle_with_path(&mut end, &thrown.contact(line.ground, &arm.air));
            if end.rolled {
                path.extend(run);
            }
            let off_deg = end.y_m.atan2(end.x_m).to_degrees();
            aim_deg -= off_deg;
            let turn = Turn::by(-off_deg);
            let path = path
                .into_iter()
                .map(|p| {
                    let (x_m, y_m) = turn.place(p.x_m as f32, p.y_m as f32);
                    PathPoint { x_m: x_m.into(), y_m: y_m.into(), ..p }
                })
                .collect();
            flown = Some(Flown { throw, rest_m: end.distance_m(), path, apex_m });
        }
        // The loop ran.
        flown.unwrap_or_else(|| unreachable!("two rounds"))
    }

    fn empty(&self) -> LineSpec {
        let rests = |x: f64| (x - self.launch_room_deg, x + self.launch_room_deg);
        let (launch_min_deg, launch_max_deg) = rests(self.launch_deg);
        LineSpec {
            name: self.name.clone(),
            meaning: self.meaning.clone(),
            slot: self.slot,
            style: self.style,
            landing: self.landing,
            footing: self.footing,
            lee: self.lee,
            along_m_s: self.along_m_s,
            open_ended: self.open_ended,
            hyzer_min_deg: self.hyzer_deg - self.hyzer_room_deg,
            hyzer_max_deg: self.hyzer_deg + self.hyzer_room_deg,
            launch_min_deg: launch_min_deg.max(self.least_launch_deg()),
            launch_max_deg,
            fastest_speed: None,
            weight: self.times,
            miss_strokes: Some(self.miss_strokes),
            ..LineSpec::usual(self.style)
        }
    }

    /// Nobody aims a flight at the ground, but a roller.
    fn least_launch_deg(&self) -> f64 {
        if self.landing == Landing::Roll { LOWEST_ROLLER_DEG } else { 1.0 }
    }

    /// The line at a width, m.
    fn at_width(&self, flown: &Flown, width_m: f64) -> LineSpec {
        let distance_m = tenth(flown.rest_m).clamp(12.0, 195.0);
        let gates = self.gates.iter().map(|&share| {
            let (middle, height) = flown.at(share);
            let half = (width_m * GATE_HALF_WIDTH * share.powf(GATE_GROWTH)).max(NARROWEST_M);
            let floor = self.clears.filter(|(at, _)| *at == share).map(|(_, part)| tenth(part * height));
            Gate {
                at_m: tenth(share * distance_m).max(1.0),
                right_edge_m: tenth(middle - half),
                left_edge_m: tenth(middle + half),
                ceiling_m: None,
                floor_m: floor.filter(|f| *f > 0.3),
            }
        });
        // How far short still counts as far is a matter of the distance; only how wide is one of the scatter.
        let half_length_m =
            if self.open_ended { SHORT_OF_REACH * distance_m } else { ZONE_HALF_LENGTH * width_m };
        LineSpec {
            distance_m,
            gates: gates.collect(),
            zone_length_m: tenth(2.0 * half_length_m).clamp(2.0, 80.0),
            zone_width_m: tenth(2.0 * ZONE_HALF_WIDTH * width_m).clamp(2.0, 80.0),
            ceiling_m: self.roof_m.map(|room| tenth(flown.apex_m + room)),
            ..self.empty()
        }
    }

    /// The line, sized.
    pub(crate) fn made(&self, arm: &Arm, memo: &Memo) -> Option<LineSpec> {
        let thrown = Thrown::ordinary(self.numbers.disc(REFERENCE_MASS_KG).ok()?, self.numbers.speed);
        let flown = self.fly(arm, &thrown, &self.empty());
        let plain = self.at_width(&flown, 1.0);
        let plainly = self.width_for(&flown, &self.cloud(arm, &thrown, &flown, &plain), MADE_PLAINLY);
        // Where the plain flight hardly ever does, the search must find another, and the width is anybody's guess.
        let mut width_m = if plainly > 0.9 * WIDTHS_M.1 { GUESS_M } else { plainly };
        let mut between = WIDTHS_M;
        let mut best: Option<(f64, LineSpec)> = None;
        let mut too_wide = false;
        for _ in 0..TRIES {
            let line = self.at_width(&flown, width_m);
            let found = chance(arm, thrown, &line, memo);
            let off = found.chance - MADE_BY_REFERENCE;
            if line.zone_length_m > WIDEST * line.distance_m {
                too_wide = true;
            } else if best.as_ref().is_none_or(|(known, _)| off.abs() < known.abs()) {
                best = Some((off, line.clone()));
            }
            *(if off < 0.0 { &mut between.0 } else { &mut between.1 }) = width_m;
            if off.abs() <= NEAR_ENOUGH || between.1 / between.0 < NEAR_WIDTHS {
                break;
            }
            // The release found here is a good guess of the one there.
            let there = found.chosen.map_or(WIDTHS_M.1, |chosen| {
                self.width_for(&flown, &behind(arm, thrown, &line, &chosen).cloud, MADE_BY_REFERENCE)
            });
            let next = there.min(width_m * (-off / LEAST_SHARE_PER_E).exp().min(WIDENED));
            width_m =
                if between.0 < next && next <= between.1 { next } else { (between.0 * between.1).sqrt() };
        }
        best.filter(|(off, _)| !too_wide || off.abs() <= GOOD_ENOUGH).map(|(_, line)| line)
    }

    /// The width, m, at which a share of a cloud makes the line; the greatest if it never does.
    fn width_for(&self, flown: &Flown, cloud: &[Outcome], made: f64) -> f64 {
        let share = |line: &LineSpec| {
            let limits = Limits::of(line);
            cloud.iter().filter(|o| limits.judge(o).miss.is_none()).count() as f64 / cloud.len() as f64
        };
        let (mut low, mut high) = WIDTHS_M;
        while high / low > NEAR_WIDTHS {
            let middle = (low * high).sqrt();
            if share(&self.at_width(flown, middle)) < made { low = middle } else { high = middle }
        }
        high
    }

    fn cloud(&self, arm: &Arm, thrown: &Thrown, flown: &Flown, line: &LineSpec) -> Vec<Outcome> {
        let spread =
            arm.spread(self.style, self.numbers.speed, self.power).scaled(line.footing_spread(arm.wet));
        let throws = spread.scattered(&flown.throw, arm.gust_m_s, 0..PLAIN_THROWS);
        let gates = Limits::of(line).gate_distances();
        let mut cloud = fly_all(&throws, &arm.air, &gates);
        settle_all(&mut cloud, &thrown.contact(line.ground, &arm.air), &gates);
        cloud
    }
}
