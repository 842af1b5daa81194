//! The search for the release with which a disc makes a line most often.
//!
//! The search: a table of where the disc lands over power, hyzer and launch gives every shape of throw that reaches
//! the target. The shapes whose own flight passes with most room are flown with real scatter; a local model of that
//! cloud ([`crate::chance::response`]) says in which direction of power, hyzer, launch and aim it would do better, and the best
//! are moved there. The best of these are flown on the [`CLOUD`] points of one fixed low-discrepancy set on which a chance is
//! judged, modelled again and followed as long as there is something to gain. The same points serve every disc and line, so
//! that chances compare and repeat exactly. How near this comes to an exhaustive search is tested.

use std::sync::Arc;

use zinc_kite_flight::air::Air;
use zinc_kite_flight::batch::{fly_all, scout_all};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::scatter::deviates;

use crate::chance::answer::{CLOUD, Chance, Chosen, NoRelease};
use crate::chance::memo::Memo;
use crate::chance::reach::Reach;
use crate::chance::response::{FINDING_RAMP_M, Points, Response, SHAPING, Shift, all, best_aim, few, fewest};
use crate::chance::shot::{Centre, HYZER_STEP_DEG, LAUNCH_STEP_DEG, Shot, best_first, shot};
use crate::disc::thrown::Thrown;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;

/// Points of scatter that every shape which passes is looked at with, and shapes that are moved to where these point.
const TRIAL_POINTS: usize = 8;
const LOOKED_AT: usize = 12;
/// Shapes flown with more scatter and improved, and of these the ones flown again.
const TRIED: usize = 5;
const FINALISTS: usize = 3;
/// A shape whose score stays behind the best by more is no finalist.
const CLOSE: f64 = 0.08;
/// Times that the best finalist is moved to where the model of its cloud points and flown there, and by how much the score
/// must be going to rise for that.
const FOLLOWED: usize = 3;
const WORTHWHILE: f64 = 0.015;
/// First and last step of the improvement: in standard deviations of the player's scatter, and degrees of aim.
const FIRST_STEP: f64 = 1.2;
const LAST_STEP: f64 = 0.3;
/// A shape whose own flight has this much less room than the best, m, is tried only if there are too few others.
const HOPELESS_ROOM_M: f64 = 5.0;
/// Below this score a shape has lost its way, and near misses count from farther off.
const LOST: f64 = 0.15;
/// How far the model of a cloud can be trusted, in standard deviations of the player's scatter: a longer move is flown and
/// modelled again.
const NEAR_MOVE: f64 = 1.2;
/// No first move goes farther than this from a flown cloud; where it leads is flown before it is believed.
const FARTHEST_MOVE: f64 = 2.4;

/// A centre flown with all its scatter: what it does, how well, and the better centre near it that the model of its cloud
/// points to.
struct Flown {
    verdict: Chance,
    score: f64,
    promise: Centre,
}

impl Shot<'_> {
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

    /// The move that brings the middle of a cloud onto the target.
    fn centring(&self, c: &Centre, middle: (f64, f64)) -> Shift {
        let (x, y) = middle;
        let farther = (self.line.rest_at_m() - x.hypot(y)) / (c.slope * c.power * self.spread(c).speed);
        let shape = [farther.clamp(-FIRST_STEP, FIRST_STEP), 0.0, 0.0, 0.0];
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
        self.moved(tried, &Shift { shape: [farther, 0.0, 0.0, 0.0], aim_deg })
    }

    /// Compass search on the model of a cloud: along each of power, hyzer, launch, nose and aim, up and down, with ever
    /// smaller steps, from where it was flown or from where it would be centred, whichever does better. Hyzer, launch and nose
    /// also with power and aim following, or a good place would have to be found by two moves of which the first is worse.
    fn improved<const N: usize>(&self, c: &Centre, r: &Response<N>, ramp_m: f64, farthest: f64) -> Centre {
        let scored = |to: Centre| {
            let shift = self.shift_between(c, &to);
            let far = shift.shape.iter().any(|s| s.abs() > farthest);
            Centre { score: if far { 0.0 } else { r.score_within(&shift, ramp_m) }, ..to }
        };
        let better = |a: Centre, b: Centre| if b.score > a.score { b } else { a };
        let centred = self.moved(c, &self.centring(c, r.middle(&Shift::default())));
        let mut best = better(scored(*c), scored(centred));
        let mut step = FIRST_STEP;
        while step >= LAST_STEP {
            let before = best.score;
            for way in 0..=SHAPING {
                for sign in [step, -step] {
                    let mut shift = Shift::default();
                    match way {
                        SHAPING => shift.aim_deg = self.side() * sign,
                        k => shift.shape[k] = sign,
                    }
                    let from = best;
                    let tried = self.moved(&from, &shift);
                    best = better(best, scored(tried));
                    if (1..SHAPING).contains(&way) {
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

    /// A shape flown with a few throws and moved to where they point; once more from there, unless that is close by.
    fn tried_and_improved(&self, c: &Centre) -> Centre {
        let first = self.tried(c);
        let ramp_m =
            if first.score(&Shift::default()) < LOST { FINDING_RAMP_M } else { few(self.style()).ramp_m };
        let there = self.improved(c, &first, ramp_m, FARTHEST_MOVE);
        let moved = self.shift_between(c, &there).shape.iter().fold(0.0f64, |far, s| far.max(s.abs()));
        if moved < NEAR_MOVE {
            return Centre { score: first.score(&self.shift_between(c, &there)), ..there };
        }
        let again = self.tried(&there);
        self.improved(&there, &again, few(self.style()).ramp_m, NEAR_MOVE)
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

    /// The most promising shapes, each moved to where the first few throws of its scatter point, the best first. Those with
    /// much less room than the roomiest, which comes first, are left out.
    fn sifted(&self, centres: &[Centre]) -> Vec<Centre> {
        let least = centres.first().map_or(0.0, |c| c.score) - HOPELESS_ROOM_M;
        let n = centres.iter().take_while(|c| c.score >= least).count();
        let throws: Vec<Throw> = centres[..n].iter().flat_map(|c| self.scattered(c, TRIAL_POINTS)).collect();
        let flights = self.flown(&throws, scout_all);
        let points = fewest(self.style());
        let mut looks: Vec<(Centre, Response<TRIAL_POINTS>)> = centres
            .iter()
            .zip(flights.chunks(TRIAL_POINTS))
            .map(|(c, cloud)| {
                let r = self.response(points, c, cloud);
                let centred = self.centring(c, r.middle(&Shift::default()));
                (Centre { score: r.score(&centred).max(r.score(&Shift::default())), ..*c }, r)
            })
            .collect();
        looks.sort_by(|a, b| best_first(&a.0, &b.0));
        looks.truncate(LOOKED_AT);
        let mut moved: Vec<Centre> =
            looks.iter().map(|(c, r)| self.improved(c, r, points.ramp_m, FARTHEST_MOVE)).collect();
        moved.sort_by(best_first);
        moved
    }

    fn search(&self, reach: &Reach) -> Chance {
        let centres = match self.roomiest(reach) {
            Ok(centres) => centres,
            Err(no_release) => {
                let no_release = Some(no_release);
                return Chance { chance: 0.0, chosen: None, no_release, misses: vec![] };
            }
        };
        let mut improved: Vec<Centre> =
            unlike(&self.sifted(&centres), TRIED).iter().map(|c| self.tried_and_improved(c)).collect();
        improved.sort_by(best_first);
        let close = improved[0].score - CLOSE;
        let finalists = improved.iter().take(FINALISTS).take_while(|c| c.score >= close);
        let mut flown: Vec<Flown> = finalists.map(|c| self.flown_out(c)).collect();
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
        let best = best.unwrap_or_else(|| self.verdict(&improved[0], &self.cloud(&improved[0])));
        match self.out_of_reach(reach) {
            Some(no_release) if best.chance == 0.0 => {
                Chance { chance: 0.0, chosen: None, no_release: Some(no_release), misses: vec![] }
            }
            _ => best,
        }
    }

    /// Flies a centre with all its scatter.
    fn flown_out(&self, c: &Centre) -> Flown {
        let cloud = self.cloud(c);
        let response = self.response(all(self.style()), c, &cloud);
        Flown {
            verdict: self.verdict(c, &cloud),
            score: response.score(&Shift::default()),
            promise: self.improved(c, &response, all(self.style()).ramp_m, NEAR_MOVE),
        }
    }
}

/// The first `n` of ranked centres, leaving out those within a step of the table of one before: neighbours end in the same
/// place.
fn unlike(ranked: &[Centre], n: usize) -> Vec<Centre> {
    let mut few: Vec<Centre> = Vec::with_capacity(n);
    for c in ranked {
        let near = |k: &Centre| {
            (k.hyzer_deg - c.hyzer_deg).abs() < 0.6 * HYZER_STEP_DEG
                && (k.launch_deg - c.launch_deg).abs() < 0.6 * LAUNCH_STEP_DEG
        };
        if few.len() < n && !few.iter().any(near) {
            few.push(*c);
        }
    }
    few
}

fn reach_of(q: &Shot, memo: &Memo) -> Arc<Reach> {
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
    if line.fastest_speed.is_some_and(|fastest| thrown.speed > fastest) {
        return None;
    }
    let q = shot(arm, thrown, line);
    Some(q.roomiest(&reach_of(&q, memo)).ok()?.first()?.score)
}

/// The best chance of a disc on a line, remembered in `memo`.
pub fn chance(arm: &Arm, thrown: Thrown, line: &LineSpec, memo: &Memo) -> Chance {
    if let Some(fastest_speed) = line.fastest_speed.filter(|f| thrown.speed > *f) {
        let no_release = Some(NoRelease::TooFast { fastest_speed });
        return Chance { chance: 0.0, chosen: None, no_release, misses: vec![] };
    }
    let q = shot(arm, thrown, line);
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
    let q = shot(arm, thrown, line);
    let centre = Centre::of(chosen);
    Behind { throw: q.throw(q.release(&centre)), air: q.air, cloud: q.cloud(&centre) }
}

/// Chance of the release `chosen` if one of the things that scatter, by its place in [`deviates`], never did.
pub fn chance_without(arm: &Arm, thrown: Thrown, line: &LineSpec, chosen: &Chosen, steady: &[usize]) -> f64 {
    let q = shot(arm, thrown, line);
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
