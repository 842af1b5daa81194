//! The search for the release with which a disc makes a line most often.
//!
//! The search: a table of where the disc lands over power, hyzer and launch gives every shape of throw that reaches
//! the target. The shapes whose own flight passes with most room are flown with real scatter; a local model of that
//! cloud ([`crate::response`]) says in which direction of power, hyzer, launch and aim it would do better, and the best
//! are moved there, flown again, and moved again. The last one standing is judged on [`CLOUD`] points of one fixed
//! low-discrepancy set. The same points serve every disc and line, so that chances compare and repeat exactly. How near
//! this comes to an exhaustive search is tested.

use std::sync::Arc;

use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::{fly_all, scout_all};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::ground::settle;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{self, Release};
use zinc_kite_flight::scatter::{Spread, deviates};

use crate::arm::Arm;
use crate::chance::{CLOUD, Chance, Chosen, MissShare, NoRelease, Thrown};
use crate::limits::Limits;
use crate::line::{Landing, LineSpec};
use crate::memo::{Fingerprint, Memo};
use crate::reach::{POWERS, Reach, Shape};
use crate::response::{Points, Response, Shift, all, best_aim, few, trial_score};

const HYZERS: usize = 7;
const LAUNCHES: usize = 4;
/// Points of scatter that every shape which passes is tried with.
const TRIAL_POINTS: usize = 8;
/// Shapes flown with more scatter, of these the ones improved, and of these the ones flown again.
const TRIED: usize = 4;
const IMPROVED: usize = 3;
const FINALISTS: usize = 2;
/// Below this score of the best improved shape it alone is a finalist.
const FAINT: f64 = 0.2;
/// Times that the best finalist is moved to where the model of its cloud points and flown there, and by how much the score
/// must be going to rise for that.
const FOLLOWED: usize = 3;
const WORTHWHILE: f64 = 0.015;
/// First and last step of the improvement: in standard deviations of the player's scatter, and degrees of aim.
const FIRST_STEP: f64 = 1.2;
const LAST_STEP: f64 = 0.3;
/// A shape whose own flight has this much less room than the best, m, is tried only if there are too few others.
const HOPELESS_ROOM_M: f64 = 2.0;
/// Below this score the best shape of all is not looked at further.
const HOPELESS: f64 = 0.02;
/// No move goes farther from a flown cloud than its model can be trusted.
const FARTHEST_MOVE: f64 = 2.4;

fn spaced(low: f64, high: f64, n: usize, k: usize) -> f64 {
    low + (high - low) * k as f64 / (n - 1) as f64
}

/// One disc, one line, one arm.
struct Question<'a> {
    arm: &'a Arm,
    thrown: Thrown,
    line: &'a LineSpec,
    wind: Wind,
    gust_m_s: f64,
    air: Air,
    gates: Vec<f64>,
    limits: Limits,
}

/// A centre of throws under test.
#[derive(Clone, Copy)]
struct Centre {
    power: f64,
    hyzer_deg: f64,
    launch_deg: f64,
    aim_deg: f64,
    /// Growth of distance with power, m per unit.
    slope: f64,
    score: f64,
}

/// A centre flown with all its scatter: what it does, how well, and the better centre near it that the model of its cloud
/// points to.
struct Flown {
    verdict: Chance,
    score: f64,
    promise: Centre,
}

impl Centre {
    fn of(chosen: &Chosen) -> Centre {
        let Chosen { power, hyzer_deg, launch_deg, aim_deg, .. } = *chosen;
        Centre { power, hyzer_deg, launch_deg, aim_deg, slope: 0.0, score: 0.0 }
    }
}

impl Question<'_> {
    fn release(&self, c: &Centre) -> Release {
        let flat = self.arm.release(self.line.style, self.thrown.speed, c.power);
        let height_m = flat.height_m - self.line.floor_m();
        Release { hyzer_deg: c.hyzer_deg, launch_deg: c.launch_deg, aim_deg: c.aim_deg, height_m, ..flat }
    }

    fn style(&self) -> release::Style {
        self.line.style.into()
    }

    /// +1 where this throw fades to the left: all that is tried is tried in the thrower's own sense.
    fn side(&self) -> f64 {
        self.arm.natural_side(self.line.style)
    }

    fn spread(&self, c: &Centre) -> Spread {
        let wet = if self.arm.wet { self.thrown.wet_spread } else { 1.0 };
        self.arm.spread(self.line.style, c.power).scaled(self.line.footing_spread(self.arm.wet) * wet)
    }

    /// Throws flown to where they come to rest, exactly or fast enough for a search.
    fn flown(&self, throws: &[Throw], fly: fn(&[Throw], &Air, &[f64]) -> Vec<Outcome>) -> Vec<Outcome> {
        let mut flights = fly(throws, &self.air, &self.gates);
        if self.line.landing != Landing::Basket {
            let ground = self.line.ground.into();
            for flight in &mut flights {
                settle(flight, ground, &self.thrown.rim);
            }
        }
        flights
    }

    fn throw(&self, release: Release) -> Throw {
        Throw { disc: self.thrown.body, release, wind: self.wind }
    }

    fn key(&self) -> Fingerprint {
        let line = self.line;
        let (low, high) = line.powers();
        let full = self.arm.release(line.style, self.thrown.speed, 1.0);
        Fingerprint::default()
            .numbers(&self.thrown.body.coefficients.to_array())
            .numbers(&[self.thrown.body.mass_kg, self.thrown.rim.softness, self.thrown.rim.wear])
            .numbers(&[line.ground as u8 as f64, line.landing as u8 as f64, line.style as u8 as f64])
            .numbers(&[full.speed_m_s, full.spin_rad_s, self.arm.natural_side(line.style)])
            .numbers(&[self.arm.air.density_kg_m3, self.wind.along_m_s, self.wind.left_m_s])
            .numbers(&[low, high, line.hyzer_min_deg, line.hyzer_max_deg])
            .numbers(&[line.launch_min_deg, line.launch_max_deg])
    }

    fn line_key(&self) -> u64 {
        let l = self.line;
        let s = self.arm.spread(l.style, 1.0);
        let wet = if self.arm.wet { self.thrown.wet_spread } else { 0.0 };
        let mut key = self
            .key()
            .numbers(&[l.distance_m, l.zone_length_m, l.zone_width_m, self.thrown.speed])
            .numbers(&[s.speed, s.hyzer_deg, s.launch_deg, s.nose_deg, s.aim_deg])
            .numbers(&[l.footing as u8 as f64, self.gust_m_s, wet])
            .option(l.ceiling_m)
            .option(l.fastest_speed);
        for g in &l.gates {
            key = key.numbers(&[g.at_m, g.right_edge_m, g.left_edge_m]).option(g.ceiling_m).option(g.floor_m);
        }
        key.key()
    }

    fn reach(&self) -> Reach {
        let line = self.line;
        let (low, high) = line.powers();
        let shape = |k: usize| {
            let hyzer = spaced(line.hyzer_min_deg, line.hyzer_max_deg, HYZERS, k / LAUNCHES);
            let launch = spaced(line.launch_min_deg, line.launch_max_deg, LAUNCHES, k % LAUNCHES);
            (hyzer, launch)
        };
        let mut throws = Vec::with_capacity(HYZERS * LAUNCHES * POWERS);
        for k in 0..HYZERS * LAUNCHES {
            let (hyzer_deg, launch_deg) = shape(k);
            for p in 0..POWERS {
                let power = spaced(low, high, POWERS, p);
                let centre = Centre { power, hyzer_deg, launch_deg, aim_deg: 0.0, slope: 0.0, score: 0.0 };
                throws.push(self.throw(self.release(&centre)));
            }
        }
        let flights = self.flown(&throws, scout_all);
        let shapes = flights
            .chunks(POWERS)
            .enumerate()
            .map(|(k, row)| {
                let (hyzer_deg, launch_deg) = shape(k);
                let landings =
                    std::array::from_fn(|p| (row[p].distance_m(), row[p].y_m.atan2(row[p].x_m).to_degrees()));
                Shape { hyzer_deg, launch_deg, landings }
            })
            .collect();
        Reach { shapes }
    }

    /// The power at which each shape lands at the target, with the aim for it.
    fn centres(&self, reach: &Reach) -> Result<Vec<Centre>, NoRelease> {
        let d = self.line.rest_at_m();
        let half = self.line.reach_m();
        let (low, high) = self.line.powers();
        let step = (high - low) / (POWERS - 1) as f64;
        let mut centres = Vec::new();
        for shape in &reach.shapes {
            let r = &shape.landings;
            let centre = |power: f64, aim_deg: f64, slope: f64| Centre {
                power,
                hyzer_deg: shape.hyzer_deg,
                launch_deg: shape.launch_deg,
                aim_deg,
                slope: slope.max(20.0),
                score: 0.0,
            };
            if let Some(k) = (0..POWERS - 1).find(|&k| r[k].0 <= d && d < r[k + 1].0) {
                let share = (d - r[k].0) / (r[k + 1].0 - r[k].0);
                let aim = r[k].1 + share * (r[k + 1].1 - r[k].1);
                centres.push(centre(low + step * (k as f64 + share), -aim, (r[k + 1].0 - r[k].0) / step));
            } else if r[POWERS - 1].0 <= d && d - r[POWERS - 1].0 < half {
                let slope = (r[POWERS - 1].0 - r[POWERS - 2].0) / step;
                centres.push(centre(high, -r[POWERS - 1].1, slope));
            } else if r[0].0 >= d && r[0].0 - d < half {
                centres.push(centre(low, -r[0].1, (r[1].0 - r[0].0) / step));
            }
        }
        if centres.is_empty() {
            let all = || reach.shapes.iter().flat_map(|s| s.landings.iter().map(|l| l.0));
            let farthest_m = all().fold(0.0, f64::max);
            return Err(if farthest_m < d {
                NoRelease::TooFar { farthest_m }
            } else {
                NoRelease::TooNear { nearest_m: all().fold(f64::INFINITY, f64::min) }
            });
        }
        Ok(centres)
    }

    /// The first `points` of the scatter about a centre.
    fn scattered(&self, c: &Centre, points: usize) -> Vec<Throw> {
        let (throw, spread) = (self.throw(self.release(c)), self.spread(c));
        spread.scattered(&throw, self.gust_m_s, points)
    }

    /// What moving a centre would do, from its cloud.
    fn response<const N: usize>(
        &self,
        points: &'static Points<N>,
        c: &Centre,
        cloud: &[Outcome],
    ) -> Response<'_, N> {
        Response::of(points, cloud, &self.limits, self.spread(c).aim_deg, self.side())
    }

    /// The same from a few throws, flown for it.
    fn tried(&self, c: &Centre) -> Response<'_, 32> {
        self.response(few(self.style()), c, &self.flown(&self.scattered(c, 32), scout_all))
    }

    /// The centre after a move, kept within what the line allows.
    fn moved(&self, c: &Centre, shift: &Shift) -> Centre {
        let (line, spread) = (self.line, self.spread(c));
        let (low, high) = line.powers();
        let [speed, hyzer, launch] = shift.shape;
        Centre {
            power: (c.power * (1.0 + spread.speed * speed)).clamp(low, high),
            hyzer_deg: (c.hyzer_deg + spread.hyzer_deg * hyzer).clamp(line.hyzer_min_deg, line.hyzer_max_deg),
            launch_deg: (c.launch_deg + spread.launch_deg * launch)
                .clamp(line.launch_min_deg, line.launch_max_deg),
            aim_deg: c.aim_deg + shift.aim_deg,
            ..*c
        }
    }

    /// The move that leads from one centre to another.
    fn shift_between(&self, from: &Centre, to: &Centre) -> Shift {
        let spread = self.spread(from);
        Shift {
            shape: [
                (to.power / from.power - 1.0) / spread.speed,
                (to.hyzer_deg - from.hyzer_deg) / spread.hyzer_deg,
                (to.launch_deg - from.launch_deg) / spread.launch_deg,
            ],
            aim_deg: to.aim_deg - from.aim_deg,
        }
    }

    /// The move that brings the middle of a cloud onto the target.
    fn centring(&self, c: &Centre, middle: (f64, f64)) -> Shift {
        let (x, y) = middle;
        let farther = (self.line.rest_at_m() - x.hypot(y)) / (c.slope * c.power * self.spread(c).speed);
        let shape = [farther.clamp(-FIRST_STEP, FIRST_STEP), 0.0, 0.0];
        let aim_deg = -y.atan2(x.max(1.0)).to_degrees().clamp(-10.0, 10.0);
        Shift { shape, aim_deg }
    }

    /// `tried` with power and aim changed so that the middle of its throws lands where that of `from` does. The model is
    /// that of a cloud about `c`.
    fn held<const N: usize>(&self, c: &Centre, r: &Response<N>, from: &Centre, tried: &Centre) -> Centre {
        let middle = |to: &Centre| r.middle(&self.shift_between(c, to));
        let ((x, y), (x_tried, y_tried)) = (middle(from), middle(tried));
        let farther = (x.hypot(y) - x_tried.hypot(y_tried)) / (c.slope * c.power * self.spread(c).speed);
        let aim_deg = (y.atan2(x) - y_tried.atan2(x_tried)).to_degrees();
        self.moved(tried, &Shift { shape: [farther, 0.0, 0.0], aim_deg })
    }

    /// Compass search on the model of a cloud: along each of power, hyzer, launch and aim, up and down, with ever
    /// smaller steps, from where it was flown or from where it would be centred, whichever does better. Hyzer and launch
    /// also with power and aim following, or a good place would have to be found by two moves of which the first is worse.
    fn improved<const N: usize>(&self, c: &Centre, r: &Response<N>) -> Centre {
        let scored = |to: Centre| {
            let shift = self.shift_between(c, &to);
            let far = shift.shape.iter().any(|s| s.abs() > FARTHEST_MOVE);
            Centre { score: if far { 0.0 } else { r.score(&shift) }, ..to }
        };
        let better = |a: Centre, b: Centre| if b.score > a.score { b } else { a };
        let centred = self.moved(c, &self.centring(c, r.middle(&Shift::default())));
        let mut best = better(scored(*c), scored(centred));
        let mut step = FIRST_STEP;
        while step >= LAST_STEP {
            let before = best.score;
            for way in 0..4 {
                for sign in [step, -step] {
                    let mut shift = Shift::default();
                    match way {
                        3 => shift.aim_deg = self.side() * sign,
                        k => shift.shape[k] = sign,
                    }
                    let from = best;
                    let tried = self.moved(&from, &shift);
                    best = better(best, scored(tried));
                    if way == 1 || way == 2 {
                        best = better(best, scored(self.held(c, r, &from, &tried)));
                    }
                    if best.score > from.score {
                        break;
                    }
                }
            }
            if best.score <= before {
                step *= 0.5;
            }
        }
        best
    }

    /// Every shape that reaches the target, aimed for the most room of its own flight, which is its score (m); the
    /// roomiest first.
    fn roomiest(&self, reach: &Reach) -> Result<Vec<Centre>, NoRelease> {
        let mut centres = self.centres(reach)?;
        let throws: Vec<Throw> = centres.iter().map(|c| self.throw(self.release(c))).collect();
        let flights = self.flown(&throws, scout_all);
        for (c, o) in centres.iter_mut().zip(&flights) {
            let (room_m, aim_deg) = best_aim(o, &self.limits, self.side());
            c.score = room_m;
            c.aim_deg += aim_deg;
        }
        centres.sort_by(best_first);
        Ok(centres)
    }

    /// Ranks shapes by a few throws of scatter each: many have the same room, but not the same wildness. Shapes with much
    /// less room than the roomiest, which comes first, are left at the end.
    fn sift(&self, centres: &mut [Centre]) {
        let least = centres.first().map_or(0.0, |c| c.score) - HOPELESS_ROOM_M;
        let n = centres.iter().take_while(|c| c.score >= least).count();
        let throws: Vec<Throw> = centres[..n].iter().flat_map(|c| self.scattered(c, TRIAL_POINTS)).collect();
        let flights = self.flown(&throws, scout_all);
        for (c, cloud) in centres.iter_mut().zip(flights.chunks(TRIAL_POINTS)) {
            c.score = trial_score(cloud, &self.limits, self.line.rest_at_m());
        }
        centres[..n].sort_by(best_first);
    }

    fn search(&self, reach: &Reach) -> Chance {
        let mut centres = match self.roomiest(reach) {
            Ok(centres) => centres,
            Err(no_release) => {
                let no_release = Some(no_release);
                return Chance { chance: 0.0, chosen: None, no_release, misses: vec![] };
            }
        };
        self.sift(&mut centres);
        centres.truncate(TRIED);
        let mut flown: Vec<(Centre, Response<32>)> = centres
            .iter()
            .map(|c| {
                let r = self.tried(c);
                (
                    Centre {
                        score: r
                            .score(&self.centring(c, r.middle(&Shift::default())))
                            .max(r.score(&Shift::default())),
                        ..*c
                    },
                    r,
                )
            })
            .collect();
        flown.sort_by(|a, b| best_first(&a.0, &b.0));
        if flown[0].0.score < HOPELESS {
            return self.verdict(&flown[0].0, &self.cloud(&flown[0].0));
        }
        let mut improved: Vec<Centre> =
            flown.iter().take(IMPROVED).map(|(c, r)| self.improved(c, r)).collect();
        improved.sort_by(best_first);
        let finalists = if improved[0].score < FAINT { 1 } else { FINALISTS };
        let mut flown: Vec<Flown> = improved.iter().take(finalists).map(|c| self.flown_out(c)).collect();
        flown.sort_by(|a, b| best_first(&a.promise, &b.promise));
        // From the most promising on, as long as there is something to gain.
        for _ in 0..FOLLOWED {
            let last = &flown[0];
            if last.promise.score < last.score + WORTHWHILE {
                break;
            }
            let next = self.flown_out(&last.promise);
            flown.insert(0, next);
        }
        let best = flown.into_iter().map(|f| f.verdict).max_by(|a, b| a.chance.total_cmp(&b.chance));
        best.unwrap_or_else(|| self.verdict(&centres[0], &self.cloud(&centres[0])))
    }

    /// Flies a centre with all its scatter.
    fn flown_out(&self, c: &Centre) -> Flown {
        let cloud = self.cloud(c);
        let response = self.response(all(self.style()), c, &cloud);
        Flown {
            verdict: self.verdict(c, &cloud),
            score: response.score(&Shift::default()),
            promise: self.improved(c, &response),
        }
    }

    /// A centre flown with all its scatter, exactly.
    fn cloud(&self, c: &Centre) -> Vec<Outcome> {
        self.flown(&self.scattered(c, CLOUD), fly_all)
    }

    /// Judges a centre by its cloud.
    fn verdict(&self, centre: &Centre, cloud: &[Outcome]) -> Chance {
        let points = cloud.len();
        let mut misses: Vec<MissShare> = Vec::new();
        let mut made = 0;
        for outcome in cloud {
            match self.limits.judge(outcome).miss {
                None => made += 1,
                Some(miss) => match misses.iter_mut().find(|m| m.miss == miss) {
                    Some(m) => m.share += 1.0 / points as f64,
                    None => misses.push(MissShare { miss, share: 1.0 / points as f64 }),
                },
            }
        }
        misses.sort_by(|a, b| b.share.total_cmp(&a.share));
        Chance {
            chance: f64::from(made) / points as f64,
            chosen: Some(Chosen {
                power: centre.power,
                speed_m_s: self.release(centre).speed_m_s,
                hyzer_deg: centre.hyzer_deg,
                launch_deg: centre.launch_deg,
                aim_deg: centre.aim_deg,
            }),
            no_release: None,
            misses,
        }
    }
}

fn best_first(a: &Centre, b: &Centre) -> std::cmp::Ordering {
    b.score.total_cmp(&a.score)
}

fn question<'a>(arm: &'a Arm, thrown: Thrown, line: &'a LineSpec) -> Question<'a> {
    let (wind, gust_m_s) = (line.wind(arm.wind), arm.gust_m_s * (1.0 - line.lee));
    let limits = Limits::of(line);
    Question {
        arm,
        thrown,
        line,
        wind,
        gust_m_s,
        air: arm.air.above(line.floor_m()),
        gates: limits.gate_distances(),
        limits,
    }
}

fn reach_of(q: &Question, memo: &Memo) -> Arc<Reach> {
    let key = q.key().key();
    memo.reaches.get(&key).unwrap_or_else(|| {
        let reach = Arc::new(q.reach());
        memo.reaches.insert(key, reach.clone());
        reach
    })
}

/// Room (m) that the best single flight of a disc has on a line, scatter left aside: a cheap forecast of how discs rank
/// by chance. `None` if the disc does not reach it.
pub fn room_m(arm: &Arm, thrown: Thrown, line: &LineSpec, memo: &Memo) -> Option<f64> {
    let q = question(arm, thrown, line);
    Some(q.roomiest(&reach_of(&q, memo)).ok()?.first()?.score)
}

/// The best chance of a disc on a line, remembered in `memo`.
pub fn chance(arm: &Arm, thrown: Thrown, line: &LineSpec, memo: &Memo) -> Chance {
    if let Some(fastest_speed) = line.fastest_speed.filter(|f| thrown.speed > *f) {
        let no_release = Some(NoRelease::TooFast { fastest_speed });
        return Chance { chance: 0.0, chosen: None, no_release, misses: vec![] };
    }
    let q = question(arm, thrown, line);
    let key = q.line_key();
    if let Some(known) = memo.chances.get(&key) {
        return known;
    }
    let found = q.search(&reach_of(&q, memo));
    memo.chances.insert(key, found.clone());
    found
}

/// What stands behind a chance: the centre throw, and the scatter about it come to rest.
pub struct Behind {
    /// The centre throw.
    pub throw: Throw,
    /// The air it flies in; heights count from the line's floor.
    pub air: Air,
    /// Where the scatter ends.
    pub cloud: Vec<Outcome>,
}

/// What stands behind a chance.
pub fn behind(arm: &Arm, thrown: Thrown, line: &LineSpec, chosen: &Chosen) -> Behind {
    let q = question(arm, thrown, line);
    let centre = Centre::of(chosen);
    Behind { throw: q.throw(q.release(&centre)), air: q.air, cloud: q.cloud(&centre) }
}

/// Chance of the release `chosen` if one of the things that scatter, by its place in [`deviates`], never did.
pub fn chance_without(arm: &Arm, thrown: Thrown, line: &LineSpec, chosen: &Chosen, steady: &[usize]) -> f64 {
    let q = question(arm, thrown, line);
    let centre = Centre::of(chosen);
    let (throw, spread) = (q.throw(q.release(&centre)), q.spread(&centre));
    let throws: Vec<Throw> = deviates(throw.release.style, CLOUD)
        .iter()
        .map(|z| {
            let mut z = *z;
            steady.iter().for_each(|&k| z[k] = 0.0);
            spread.displace(&throw, q.gust_m_s, &z)
        })
        .collect();
    let made = q.flown(&throws, fly_all).iter().filter(|o| q.limits.judge(o).miss.is_none()).count();
    made as f64 / CLOUD as f64
}
