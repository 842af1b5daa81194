//! The search for the release with which a disc makes a line most often.
//!
//! A table of where the disc lands over power, hyzer and launch gives every shape of throw that reaches the target. The shapes
//! whose own flight passes with most room are flown with a few throws of real scatter; the best of these, some of them far from the
//! others, with more. A local model of that cloud ([`crate::chance::response`]) says in which direction of power, hyzer, launch,
//! nose and aim it would do better; there it is flown and modelled again, and the best of all moved on. What comes
//! of that is flown at fresh points ([`JUDGED_ON`]) and moved by these as long as there is something to gain: what a chance is
//! told by also says where it is best, or a line with more room would often seem harder by what two sets of a few points differ. A
//! quadratic that leaves out what bends otherwise can seem level where the ground still rises: some of the throws are flown a little
//! way off along each way, and what they do beyond what it says is added to its slopes. All points are of one fixed low-discrepancy
//! set that serves every disc and line, so that chances compare and repeat exactly. How near this comes to an exhaustive search is
//! tested.

use std::cell::OnceCell;
use std::ops::RangeInclusive;
use std::sync::Arc;

use quick_cache::sync::Cache;
use zinc_kite_flight::air::Air;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::scatter::{AIM, deviates};

use crate::chance::answer::{Chance, Chosen, JUDGED_ON, NEVER, NoRelease};
use crate::chance::improve::NEAR_MOVE;
use crate::chance::memo::Memo;
use crate::chance::points::{ALL, FEW, Points, Shift, Slopes, all, few, fewest, many, some};
use crate::chance::quantity::gusts_in_a_turn;
use crate::chance::reach::Grain::{self, Coarse, Fine};
use crate::chance::reach::{HYZER_STEP_DEG, LAUNCH_STEP_DEG, Reach};
use crate::chance::response::{Response, best_aim};
use crate::chance::shot::{Centre, LIKELY, Shot, best_first, shot};
use crate::disc::thrown::Thrown;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;

/// Points of scatter that the roomiest shapes are looked at with, how many shapes that are, and how many of them promise most.
const TRIAL_POINTS: usize = 8;
const LOOKED_AT: usize = 20;
const PROMISING: usize = 6;
/// Where the best of them is made less often, the few throws say rather where to go than how well a shape does.
const SELDOM: f64 = 0.12;
/// Steps of the table within which two shapes are one (a little more than half, as they were moved), or beyond which they are far.
const A_STEP: f64 = 0.6;
const FAR_STEPS: f64 = 2.2;
/// Shapes flown with more scatter and improved; so many of them as they are ranked, the others far from them.
const TRIED: usize = 4;
const TRIED_AS_RANKED: usize = 2;
/// Of these, one whose score stays behind the best by more is not flown again.
const CLOSE: f64 = 0.1;
/// Times at most that one of them is moved to where its throws point, the one that promises most first.
const FOLLOWED: usize = 6;
/// Where the second best end is behind by no more than this and so far away, in standard deviations of the player's scatter, the
/// points that a chance is told by say which of the two is better.
const AS_GOOD: f64 = 0.03;
const ELSEWHERE: f64 = 2.0;
/// Times at most that the best is moved by the points it is judged on; by how much the score must be going to rise for that.
const POLISHED: usize = 4;
const WORTHWHILE: f64 = 0.002;
/// What is made less often than the one, or oftener than the other, has nothing to gain by it.
const TO_BE_GAINED: RangeInclusive<f64> = 0.02..=0.98;
/// How far off it is looked for what the model leaves out, in standard deviations of the player's scatter. Own: 0.3 lost
/// about as few, 0.8 more.
const LOOKED_AWAY: f64 = 0.5;
/// Where a move did not keep what the model promised, the next goes only this share as far.
const SHORTER: f64 = 0.4;
/// A shape whose own flight has this much less room than the best, m, is tried only if there are too few others.
const HOPELESS_ROOM_M: f64 = 5.0;
/// No move goes farther than this from a cloud of the first look or of the second; where it leads is flown before it is
/// believed.
const FARTHEST_MOVES: [f64; 2] = [2.4, 1.8];

/// A centre flown with much of its scatter, with its score.
struct Flown<const N: usize> {
    centre: Centre,
    cloud: Vec<Outcome>,
    response: Response<N>,
}

impl Shot<'_> {
    /// What moving a centre would do, from its cloud.
    fn response<const N: usize>(
        &self,
        points: &'static Points<N>,
        c: &Centre,
        cloud: &[Outcome],
    ) -> Response<N> {
        let gusts = gusts_in_a_turn(self.wind, self.gust_m_s, self.side());
        Response::of(points, cloud, &self.limits, self.spread(c).aim_deg, self.side(), gusts)
    }

    /// The same for several centres from a few throws each, flown for it.
    fn tried(&self, centres: &[Centre]) -> Vec<Response<FEW>> {
        let points = few(self.style());
        let throws: Vec<Throw> = centres.iter().flat_map(|c| self.scattered(c, points)).collect();
        let flights = self.flown(&throws);
        let clouds = centres.iter().zip(flights.chunks(FEW));
        clouds.map(|(c, cloud)| self.response(points, c, cloud)).collect()
    }

    /// Shapes flown with a few throws each and moved to where they point; once more from there, unless that is close by.
    fn tried_and_improved(&self, centres: &[Centre]) -> Vec<Centre> {
        let (mut far, mut improved) = (Vec::new(), Vec::with_capacity(centres.len()));
        for (c, first) in centres.iter().zip(self.tried(centres)) {
            let there = self.improved(c, &first, FARTHEST_MOVES[1]);
            let shift = self.shift_between(c, &there);
            if shift.shape.iter().any(|s| s.abs() >= NEAR_MOVE) { &mut far } else { &mut improved }
                .push(there);
        }
        let again = self.tried(&far);
        improved.extend(far.iter().zip(&again).map(|(c, r)| self.improved(c, r, NEAR_MOVE)));
        improved.sort_by(best_first);
        improved
    }

    /// Every shape that reaches the target, aimed for the most room of its own flight, which is its score (m); the
    /// roomiest first.
    fn roomiest(&self, reach: &Reach) -> Result<Vec<Centre>, NoRelease> {
        let mut centres = self.centres(reach)?;
        let throws: Vec<Throw> = centres.iter().map(|c| self.throw(self.release(c))).collect();
        let flights = self.flown(&throws);
        for (c, o) in centres.iter_mut().zip(&flights) {
            let (room_m, aim_deg) = best_aim(o, &self.limits, self.side());
            c.score = room_m;
            c.aim_deg += aim_deg;
        }
        centres.sort_by(best_first);
        Ok(centres)
    }

    /// The most promising shapes, the best first, as they would be centred; where hardly a throw of theirs makes the line, moved to
    /// where these point.
    fn sifted(&self, looks: &[Look]) -> Vec<Centre> {
        let mut sifted: Vec<Centre> = looks.iter().map(|look| look.centred).collect();
        if sifted.first().is_some_and(|best| best.score < SELDOM) {
            let moved = |look: &Look| self.improved(&look.flown, &look.response, FARTHEST_MOVES[0]);
            sifted = looks.iter().map(moved).collect();
            sifted.sort_by(best_first);
        }
        sifted
    }

    /// The most promising shapes with the first few throws of their scatter, the best first. Those with much less room than the
    /// roomiest, which comes first, are left out.
    fn looks(&self, centres: &[Centre]) -> Vec<Look> {
        let least = centres.first().map_or(0.0, |c| c.score) - HOPELESS_ROOM_M;
        let n = centres.iter().take(LOOKED_AT).take_while(|c| c.score >= least).count();
        let points = fewest(self.style());
        let throws: Vec<Throw> = centres[..n].iter().flat_map(|c| self.scattered(c, points)).collect();
        let flights = self.flown(&throws);
        let mut looks: Vec<Look> = centres
            .iter()
            .zip(flights.chunks(TRIAL_POINTS))
            .map(|(c, cloud)| {
                let response = self.response(points, c, cloud);
                let centring = self.centring(c, response.middle(&Shift::default()));
                let centring = self.room_to_move(c, FARTHEST_MOVES[0]).kept(centring);
                let scores = [response.score(&Shift::default()), response.score(&centring)];
                let centred = if scores[1] > scores[0] {
                    Centre { score: scores[1], ..self.moved(c, &centring) }
                } else {
                    Centre { score: scores[0], ..*c }
                };
                Look { flown: *c, response, centred }
            })
            .collect();
        looks.sort_by(|a, b| best_first(&a.centred, &b.centred));
        looks.truncate(PROMISING);
        looks
    }

    /// From shapes that were tried and improved, the best first, to the best chance.
    fn search(&self, reach: &Reach, improved: &[Centre]) -> Chance {
        let finalists = improved.iter().take_while(|c| c.score >= improved[0].score - CLOSE);
        let flown_and_promised = |c: &Centre| {
            let flown = self.flown_out(c, many(self.style()));
            (flown.centre, self.improved(&flown.centre, &flown.response, NEAR_MOVE))
        };
        let mut flown: Vec<(Centre, Centre)> = finalists.map(flown_and_promised).collect();
        for _ in 0..FOLLOWED {
            flown.sort_by(|a, b| best_first(&a.1, &b.1));
            let (at, promise) = flown[0];
            if promise.score - at.score <= WORTHWHILE {
                break;
            }
            // A promise that was followed is worth what it kept.
            flown[0].1 = at;
            flown.push(flown_and_promised(&promise));
        }
        let mut ends: Vec<Centre> = flown.into_iter().map(|f| f.0).collect();
        ends.sort_by(best_first);
        let best = self.polished(self.better_told(&ends));
        let best = if self.limits.has_water() {
            // What water stops no slope tells of.
            self.verdict(&best.centre, &self.cloud(&best.centre), None)
        } else {
            let worked_out = (best.response.made(), best.response.ends_in());
            self.verdict(&best.centre, &best.cloud, Some(worked_out))
        };
        match self.out_of_reach(reach) {
            Some(no_release) if best.chance < NEVER => {
                Chance::none(no_release, self.line.strokes_of_a_miss())
            }
            _ => best,
        }
    }

    /// The best of ends, the best first, at the points a chance is told by; or one elsewhere that is as good and by these better.
    fn better_told(&self, ends: &[Centre]) -> Flown<ALL> {
        let told = |c: &Centre| self.flown_out(c, all(self.style()));
        let (best, first) = (told(&ends[0]), ends[0]);
        let mut as_good = ends.iter().take_while(|c| c.score >= first.score - AS_GOOD);
        let elsewhere = |c: &&Centre| {
            self.shift_between(&first, c).shape.iter().map(|s| s * s).sum::<f64>() > ELSEWHERE * ELSEWHERE
        };
        match as_good.find(elsewhere).map(told) {
            Some(other) if other.centre.score > best.centre.score => other,
            _ => best,
        }
    }

    /// Goes where the model of its cloud and what this leaves out point, step by step as long as there is something to gain.
    fn polished(&self, mut from: Flown<ALL>) -> Flown<ALL> {
        if !TO_BE_GAINED.contains(&from.centre.score) {
            return from;
        }
        let (beyond, mut farthest) = (self.beyond(&from), NEAR_MOVE);
        for _ in 0..POLISHED {
            let promise = self.improved_knowing(&beyond, &from.centre, &from.response, farthest);
            if promise.score - from.centre.score < WORTHWHILE {
                break;
            }
            let next = self.flown_out(&promise, from.response.points);
            if next.centre.score > from.centre.score {
                from = next;
            } else {
                farthest *= SHORTER;
            }
        }
        from
    }

    /// What the model of a cloud leaves out: some of its throws are flown a little way off along each of power, hyzer, launch
    /// and nose, and seen to do better or worse there than it says.
    fn beyond(&self, from: &Flown<ALL>) -> Slopes {
        let room = self.room_to_move(&from.centre, LOOKED_AWAY);
        let some = some(self.style());
        Slopes::seen(|k| {
            let away = |by| room.kept(Shift::along(k, by));
            let (up, down) = (away(LOOKED_AWAY), away(-LOOKED_AWAY));
            let shift = if up.shape[k] >= -down.shape[k] { up } else { down };
            let step = shift.shape[k];
            // A line may leave no choice.
            (step != 0.0).then(|| {
                let cloud = self.flown(&self.scattered(&self.moved(&from.centre, &shift), some));
                from.response.beyond_model(some, &shift, &cloud) / step
            })
        })
    }

    /// Flies a centre with much of its scatter.
    fn flown_out<const N: usize>(&self, c: &Centre, points: &'static Points<N>) -> Flown<N> {
        let cloud = self.flown(&self.scattered(c, points));
        let response = self.response(points, c, &cloud);
        Flown { centre: Centre { score: response.score(&Shift::default()), ..*c }, cloud, response }
    }
}

/// Of ranked centres those that are tried: the first two and then, as what lies near together often ends in the same place, those
/// far from all before; no two within a step of the table.
fn unlike(ranked: &[Centre]) -> Vec<Centre> {
    let mut few: Vec<Centre> = Vec::with_capacity(TRIED);
    for (steps, until) in [(A_STEP, TRIED_AS_RANKED), (FAR_STEPS, TRIED), (A_STEP, TRIED)] {
        for c in ranked {
            let near = |k: &Centre| {
                (k.hyzer_deg - c.hyzer_deg).abs() < steps * HYZER_STEP_DEG
                    && (k.launch_deg - c.launch_deg).abs() < steps * LAUNCH_STEP_DEG
            };
            if few.len() < until && !few.iter().any(near) {
                few.push(*c);
            }
        }
    }
    few
}

/// What is known under a key, or else what `work_out` finds, which is known from then on.
fn remembered<T: Clone>(memory: &Cache<u64, T>, key: u64, work_out: impl FnOnce() -> T) -> T {
    memory.get(&key).unwrap_or_else(|| {
        let found = work_out();
        memory.insert(key, found.clone());
        found
    })
}

/// A shape with the first few throws of its scatter.
struct Look {
    flown: Centre,
    response: Response<TRIAL_POINTS>,
    /// Moved so that they would end on the target, if that does better; with their score.
    centred: Centre,
}

/// A disc on a line at an arm, asked ever more closely how well it does there: what one answer took serves the next, and
/// every answer is remembered.
pub struct Prospect<'a> {
    shot: Shot<'a>,
    /// Its fingerprint.
    key: u64,
    memo: &'a Memo,
    coarse: View,
    fine: View,
    improved: OnceCell<Vec<Centre>>,
}

/// What comes of a table, as far as it was asked for.
#[derive(Default)]
struct View {
    reach: OnceCell<Arc<Reach>>,
    centres: OnceCell<Result<Vec<Centre>, NoRelease>>,
    looks: OnceCell<Vec<Look>>,
}

impl<'a> Prospect<'a> {
    /// Before anything is flown.
    pub fn of(arm: &'a Arm, thrown: Thrown, line: &'a LineSpec, memo: &'a Memo) -> Prospect<'a> {
        let (coarse, fine, improved) = Default::default();
        let shot = shot(arm, thrown, line);
        Prospect { key: shot.line_key(), shot, memo, coarse, fine, improved }
    }

    /// Room (m as it counts for ranking near misses) of the best single flight of the coarse table, scatter left aside: a cheap
    /// forecast of how discs rank by chance. `None` if the disc does not reach the line.
    pub fn room_m(&self) -> Option<f64> {
        if self.too_fast().is_some() {
            return None;
        }
        remembered(&self.memo.rooms, self.key, || Some(self.centres(Coarse).as_ref().ok()?.first()?.score))
    }

    /// How well the disc promises to do, 0 to 1 and less where it comes nowhere near, from the first few throws of its scatter about each shape of the coarse table: a
    /// closer forecast of how discs rank by chance. `None` if the disc does not reach the line.
    pub fn promise(&self) -> Option<f64> {
        if self.too_fast().is_some() {
            return None;
        }
        remembered(&self.memo.promises, self.key, || Some(self.looks(Coarse).first()?.centred.score))
    }

    /// What the chance will be, near enough, 0 to 1 and less where the disc comes nowhere near: that of the best shape after it was improved by a few throws. `None` if
    /// the disc does not reach the line.
    pub fn forecast(&self) -> Option<f64> {
        if self.too_fast().is_some() {
            return None;
        }
        remembered(&self.memo.forecasts, self.key, || Some(self.improved().first()?.score))
    }

    /// The best chance.
    pub fn chance(&self) -> Chance {
        if let Some(no_release) = self.too_fast() {
            return Chance::none(no_release, self.shot.line.strokes_of_a_miss());
        }
        remembered(&self.memo.chances, self.key, || match self.centres(Fine) {
            Ok(_) => self.shot.search(self.reach(Fine), self.improved()),
            Err(no_release) => Chance::none(*no_release, self.shot.line.strokes_of_a_miss()),
        })
    }

    fn too_fast(&self) -> Option<NoRelease> {
        let fastest_speed = self.shot.line.fastest_speed.filter(|f| self.shot.thrown.speed > *f)?;
        Some(NoRelease::TooFast { fastest_speed })
    }

    fn view(&self, grain: Grain) -> &View {
        match grain {
            Coarse => &self.coarse,
            Fine => &self.fine,
        }
    }

    fn reach(&self, grain: Grain) -> &Reach {
        let shot = &self.shot;
        let key = || shot.key().number(f64::from(grain as u8)).key();
        let table = || remembered(&self.memo.reaches, key(), || Arc::new(shot.reach(grain)));
        self.view(grain).reach.get_or_init(table)
    }

    /// See [`Shot::roomiest`].
    fn centres(&self, grain: Grain) -> &Result<Vec<Centre>, NoRelease> {
        self.view(grain).centres.get_or_init(|| self.shot.roomiest(self.reach(grain)))
    }

    /// See [`Shot::looks`]; none if the disc does not reach the line.
    fn looks(&self, grain: Grain) -> &[Look] {
        let looks = || self.centres(grain).as_ref().map_or(vec![], |c| self.shot.looks(c));
        self.view(grain).looks.get_or_init(looks)
    }

    /// See [`Shot::tried_and_improved`]; none if the disc does not reach the line.
    fn improved(&self) -> &[Centre] {
        let tried = || self.shot.tried_and_improved(&unlike(&self.shot.sifted(self.looks(Fine))));
        self.improved.get_or_init(tried)
    }
}

/// The best chance of a disc on a line, remembered in `memo`.
pub fn chance(arm: &Arm, thrown: Thrown, line: &LineSpec, memo: &Memo) -> Chance {
    Prospect::of(arm, thrown, line, memo).chance()
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

/// Share of throws counted that make the line by the release `chosen` if things that scatter, by their places in [`deviates`], did
/// so only by the share `left` of what they do. To be compared with others counted: it differs by its grain from the chance itself.
pub fn chance_with(
    arm: &Arm,
    thrown: Thrown,
    line: &LineSpec,
    chosen: &Chosen,
    places: &[usize],
    left: f64,
) -> f64 {
    let q = shot(arm, thrown, line);
    let centre = Centre::of(chosen);
    let (throw, spread) = (q.throw(q.release(&centre)), q.spread(&centre));
    let throws: Vec<Throw> = deviates(throw.release.style)[JUDGED_ON]
        .iter()
        .map(|z| {
            let mut z = *z;
            places.iter().for_each(|&k| z[k] *= left);
            spread.displace(&throw, q.gust_m_s, &z)
        })
        .collect();
    let aim_left = if places.contains(&AIM) { left } else { 1.0 };
    let cloud = q.flown(&throws);
    let made = q.judged(&cloud, &spread, aim_left).flatten().filter(|j| j.miss.is_none()).count();
    made as f64 / (LIKELY * throws.len()) as f64
}
