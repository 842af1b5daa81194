//! The stages of a search: from all shapes of throw that reach the target to the few that are tried, and from these to the best.

use std::ops::RangeInclusive;
use std::rc::Rc;
use std::slice::from_ref;

use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;

use crate::chance::answer::{Chance, NEVER, NoRelease};
use crate::chance::improve::NEAR_MOVE;
use crate::chance::points::{ALL, FEW, Points, Shift, Slopes, all, few, fewest, many, some};
use crate::chance::quantity::gusts_in_a_turn;
use crate::chance::reach::{HYZER_STEP_DEG, LAUNCH_STEP_DEG, Reach};
use crate::chance::response::{Response, best_aim};
use crate::chance::shot::{Centre, Shot, best_first, tried_together};

/// Points of scatter that the roomiest shapes are looked at with; how many shapes that are at a glimpse and at most, and how many of
/// them promise most.
const TRIAL_POINTS: usize = 8;
pub(super) const GLIMPSED: usize = 2;
const LOOKED_AT: usize = 20;
const PROMISING: usize = 6;
/// Where the best of them is made less often, the few throws say rather where to go than how well a shape does.
const SELDOM: f64 = 0.12;
/// Steps of the table within which two shapes are one (a little more than half, as they were moved), or beyond which they are far.
const A_STEP: f64 = 0.6;
const FAR_STEPS: f64 = 2.2;
/// Shapes flown with more scatter and improved: so many of the coarse table, and beside these of the fine one, so many as they are
/// ranked, the others far from all.
const TRIED_FIRST: usize = 1;
const TRIED_BESIDE: usize = 3;
const TRIED_AS_RANKED: usize = 1;
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
pub(super) struct Flown<const N: usize> {
    pub(super) centre: Centre,
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
    fn flown_by_a_few(&self, centres: &[Centre]) -> Vec<Response<FEW>> {
        let points = few(self.style());
        let flights = self.tried(&self.scattered(centres, points));
        let clouds = centres.iter().zip(flights.chunks(FEW));
        clouds.map(|(c, cloud)| self.response(points, c, cloud)).collect()
    }

    /// Shapes flown with a few throws each and moved to where they point; once more from there, unless that is close by.
    fn improved_by_a_few(&self, centres: &[Centre]) -> Vec<Centre> {
        let (mut far, mut improved) = (Vec::new(), Vec::with_capacity(centres.len()));
        for (c, first) in centres.iter().zip(self.flown_by_a_few(centres)) {
            let there = self.improved(c, &first, FARTHEST_MOVES[1]);
            let shift = self.shift_between(c, &there);
            if shift.shape.iter().any(|s| s.abs() >= NEAR_MOVE) { &mut far } else { &mut improved }
                .push(there);
        }
        let again = self.flown_by_a_few(&far);
        improved.extend(far.iter().zip(&again).map(|(c, r)| self.improved(c, r, NEAR_MOVE)));
        improved.sort_by(best_first);
        improved
    }

    /// Every shape that reaches the target, aimed for the most room of its own flight, which is its score (m); the
    /// roomiest first. Those `known` from a coarser table are not flown again.
    pub(super) fn roomiest(&self, reach: &Reach, known: &[Centre]) -> Result<Vec<Centre>, NoRelease> {
        let reaching = self.centres(reach)?;
        let (mut roomiest, mut new) = (Vec::with_capacity(reaching.len()), Vec::new());
        for c in reaching {
            match known.iter().find(|k| c.is_thrown_as(k)) {
                Some(known) => roomiest.push(*known),
                None => new.push(c),
            }
        }
        let flights = self.tried(&self.alone(&new));
        roomiest.extend(self.aimed(&new, &flights));
        roomiest.sort_by(best_first);
        Ok(roomiest)
    }

    /// The same of several discs by their tables, see [`tried_together`].
    pub(super) fn roomiest_of(tables: &[(&Shot, &Reach)]) -> Vec<Result<Vec<Centre>, NoRelease>> {
        let reaching: Vec<_> = tables.iter().map(|(shot, reach)| shot.centres(reach)).collect();
        let shots = || tables.iter().map(|(shot, _)| *shot);
        let alone = shots().zip(&reaching).map(|(shot, c)| (shot, shot.alone(c.as_deref().unwrap_or(&[]))));
        let flights = tried_together(alone.collect());
        let of_each = shots().zip(reaching).zip(flights).map(|((shot, centres), flights)| {
            let mut roomiest: Vec<Centre> = shot.aimed(&centres?, &flights).collect();
            roomiest.sort_by(best_first);
            Ok(roomiest)
        });
        of_each.collect()
    }

    /// The centres' own throws, without scatter.
    fn alone(&self, centres: &[Centre]) -> Vec<Throw> {
        centres.iter().map(|c| self.throw(self.release(c))).collect()
    }

    /// Centres aimed for the most room of their own flights.
    fn aimed(&self, centres: &[Centre], flights: &[Outcome]) -> impl Iterator<Item = Centre> {
        centres.iter().zip(flights).map(|(c, o)| {
            let (room_m, aim_deg) = best_aim(o, &self.limits, self.side());
            Centre { score: room_m, aim_deg: c.aim_deg + aim_deg, ..*c }
        })
    }

    /// The most promising shapes, the best first, as they would be centred; where hardly a throw of theirs makes the line, moved to
    /// where these point.
    fn sifted(&self, looks: &[Look]) -> Vec<Centre> {
        let looks = &looks[..looks.len().min(PROMISING)];
        let mut sifted: Vec<Centre> = looks.iter().map(|look| look.centred).collect();
        if sifted.first().is_some_and(|best| best.score < SELDOM) {
            let moved = |look: &Look| self.improved(&look.flown, look.response.as_ref(), FARTHEST_MOVES[0]);
            sifted = looks.iter().map(moved).collect();
            sifted.sort_by(best_first);
        }
        sifted
    }

    /// Shapes with the first few throws of their scatter, the most promising first; of those with much less room than the roomiest,
    /// which comes first, none. Those `known` from a coarser table are not flown again.
    pub(super) fn looks(&self, centres: &[Centre], known: &[Look]) -> Vec<Look> {
        let least = centres.first().map_or(0.0, |c| c.score) - HOPELESS_ROOM_M;
        let (mut looks, mut new) = (Vec::new(), Vec::new());
        for c in centres.iter().take(LOOKED_AT).take_while(|c| c.score >= least) {
            match known.iter().find(|look| c.is_thrown_as(&look.flown)) {
                Some(known) => looks.push(known.clone()),
                None => new.push(*c),
            }
        }
        let points = fewest(self.style());
        // Not roughly: of so few throws a hair may decide which rare way is seen at all.
        let flights = self.flown(&self.scattered(&new, points));
        looks.extend(new.iter().zip(flights.chunks(TRIAL_POINTS)).map(|(c, cloud)| {
            let response = self.response(points, c, cloud);
            let centring = self.centring(c, response.middle(&Shift::default()));
            let centring = self.room_to_move(c, FARTHEST_MOVES[0]).kept(centring);
            let scores = [response.score(&Shift::default()), response.score(&centring)];
            let centred = if scores[1] > scores[0] {
                Centre { score: scores[1], ..self.moved(c, &centring) }
            } else {
                Centre { score: scores[0], ..*c }
            };
            Look { flown: *c, response: Rc::new(response), centred }
        }));
        looks.sort_by(|a, b| best_first(&a.centred, &b.centred));
        looks
    }

    /// The most promising shape of the coarse table, where it was first flown and as it was improved.
    pub(super) fn first_tried(&self, looks: &[Look]) -> Tried {
        let shapes = unlike(&[], &self.sifted(looks), TRIED_FIRST, TRIED_FIRST);
        Tried { improved: self.improved_by_a_few(&shapes), shapes }
    }

    /// Beside what was tried, shapes of the fine table, all improved, the best first. Where even the best of these is seldom made, all
    /// that promise most are tried: a rare way is easily missed.
    pub(super) fn tried_beside(&self, first: &Tried, looks: &[Look]) -> Vec<Centre> {
        let sifted = self.sifted(looks);
        let mut tried = first.shapes.clone();
        let mut improved = first.improved.clone();
        for (as_ranked, n) in [(TRIED_AS_RANKED, TRIED_BESIDE), (PROMISING, PROMISING)] {
            let shapes = unlike(&tried, &sifted, as_ranked, n);
            improved.extend(self.improved_by_a_few(&shapes));
            improved.sort_by(best_first);
            if improved.first().is_some_and(|best| best.score >= SELDOM) {
                break;
            }
            tried.extend(shapes);
        }
        improved
    }

    /// From shapes that were tried and improved, the best first, to the best at the points a chance is told by; it lacks the last steps.
    pub(super) fn found(&self, improved: &[Centre]) -> Flown<ALL> {
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
        self.better_told(&ends)
    }

    /// From what was found to the chance.
    pub(super) fn told(&self, reach: &Reach, found: &Flown<ALL>) -> Chance {
        let further = self.polished(found);
        let best = further.as_ref().unwrap_or(found);
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

    /// Goes where the model of its cloud and what this leaves out point, step by step as long as there is something to gain; `None` if
    /// there is nothing.
    fn polished(&self, found: &Flown<ALL>) -> Option<Flown<ALL>> {
        if !TO_BE_GAINED.contains(&found.centre.score) {
            return None;
        }
        let (beyond, mut farthest, mut further) = (self.beyond(found), NEAR_MOVE, None);
        for _ in 0..POLISHED {
            let from = further.as_ref().unwrap_or(found);
            let promise = self.improved_knowing(&beyond, &from.centre, &from.response, farthest);
            if promise.score - from.centre.score < WORTHWHILE {
                break;
            }
            let next = self.flown_out(&promise, from.response.points);
            if next.centre.score > from.centre.score {
                further = Some(next);
            } else {
                farthest *= SHORTER;
            }
        }
        further
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
                let cloud = self.flown(&self.scattered(&[self.moved(&from.centre, &shift)], some));
                from.response.beyond_model(some, &shift, &cloud) / step
            })
        })
    }

    /// Flies a centre with much of its scatter.
    fn flown_out<const N: usize>(&self, c: &Centre, points: &'static Points<N>) -> Flown<N> {
        let throws = self.scattered(from_ref(c), points);
        let cloud = if points.tell { self.flown(&throws) } else { self.tried(&throws) };
        let response = self.response(points, c, &cloud);
        Flown { centre: Centre { score: response.score(&Shift::default()), ..*c }, cloud, response }
    }
}

/// Of ranked centres so many to be tried beside others: some as they are ranked and then, as what lies near together often ends in
/// the same place, those far from all before; none within a step of the table of another.
fn unlike(beside: &[Centre], ranked: &[Centre], as_ranked: usize, n: usize) -> Vec<Centre> {
    let mut few: Vec<Centre> = Vec::with_capacity(n);
    for (steps, until) in [(A_STEP, as_ranked), (FAR_STEPS, n), (A_STEP, n)] {
        for c in ranked {
            let near = |k: &Centre| {
                (k.hyzer_deg - c.hyzer_deg).abs() < steps * HYZER_STEP_DEG
                    && (k.launch_deg - c.launch_deg).abs() < steps * LAUNCH_STEP_DEG
            };
            if few.len() < until && !few.iter().chain(beside).any(near) {
                few.push(*c);
            }
        }
    }
    few
}

/// Shapes that were tried: where they were first flown, and as they were improved, the best first.
pub(super) struct Tried {
    shapes: Vec<Centre>,
    pub(super) improved: Vec<Centre>,
}

/// A shape with the first few throws of its scatter, which the looks at both tables share.
#[derive(Clone)]
pub(super) struct Look {
    flown: Centre,
    response: Rc<Response<TRIAL_POINTS>>,
    /// Moved so that they would end on the target, if that does better; with their score.
    pub(super) centred: Centre,
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::chance::reach::Grain;
    use crate::chance::shot::shot;
    use crate::disc::thrown::Thrown;
    use crate::need::line::LineSpec;
    use crate::thrower::arm::Arm;
    use crate::thrower::day::Conditions;
    use crate::thrower::player::Player;
    use crate::thrower::style::Style;
    use rstest::rstest;
    use zinc_kite_flight::numbers::FlightNumbers;

    /// Bit by bit: landings, rooms and scores.
    #[rstest]
    #[case(Style::Backhand, false, 0.0)]
    #[case(Style::Backhand, true, 7.0)]
    #[case(Style::Forehand, false, 7.0)]
    #[case(Style::Putt, false, 3.0)]
    fn prop_what_the_coarse_table_tells_is_what_the_fine_one_finds(
        #[case] style: Style,
        #[case] open_ended: bool,
        #[case] wind_m_s: f64,
    ) {
        let day = Conditions { wind_m_s, wind_from_deg: 40.0, ..Conditions::default() };
        let arm = Arm::of(&Player::default(), &day).unwrap();
        let numbers = if style == Style::Putt { (2.0, 3.0, 0.0, 1.0) } else { (5.0, 4.0, -1.0, 1.0) };
        let numbers = FlightNumbers::new(numbers.0, numbers.1, numbers.2, numbers.3);
        let thrown = Thrown::ordinary(numbers.disc(0.175).unwrap(), numbers.speed);
        let line = LineSpec { open_ended, ..LineSpec::usual(style) };
        let shot = shot(&arm, thrown, &line);

        let coarse = shot.reach(Grain::Coarse, None);
        let (alone, knowing) = (shot.reach(Grain::Fine, None), shot.reach(Grain::Fine, Some(&coarse)));
        assert!(coarse.shapes.len() < alone.shapes.len());
        let told = |reach: &Reach| {
            Vec::from_iter(reach.shapes.iter().map(|s| (s.hyzer_deg, s.launch_deg, s.landings)))
        };
        assert_eq!(told(&knowing), told(&alone));

        let roomy = shot.roomiest(&coarse, &[]).ok().unwrap();
        let (alone, knowing) =
            (shot.roomiest(&alone, &[]).ok().unwrap(), shot.roomiest(&knowing, &roomy).ok().unwrap());
        let told = |c: &Centre| (c.power, c.hyzer_deg, c.launch_deg, c.aim_deg, c.score);
        assert!(roomy.iter().any(|c| alone.iter().any(|k| c.is_thrown_as(k))));
        assert_eq!(Vec::from_iter(knowing.iter().map(told)), Vec::from_iter(alone.iter().map(told)));

        let coarse = shot.looks(&roomy, &[]);
        let (alone, knowing) = (shot.looks(&alone, &[]), shot.looks(&knowing, &coarse));
        let told = |looks: &[Look]| Vec::from_iter(looks.iter().map(|look| told(&look.centred)));
        assert_eq!(told(&knowing), told(&alone));
    }
}
