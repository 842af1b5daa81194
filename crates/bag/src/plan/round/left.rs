//! How many strokes are left from how far: putts, approaches and long throws on open ground, from the player's own scatter.
//!
//! From each of a row of distances every disc in hand is thrown at the basket, or as far as it goes, or a putt is made, whichever
//! leaves fewest strokes; where those throws end, the same is asked again. Nothing that is not a putt is taken to go in by itself.
//! A throw from where a disc lies is less sure than one off a tee: the stance is what it is, and the distance is guessed.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::scatter::Spread;

use crate::catalogue::reach::reach;
use crate::chance::memo::Memo;
use crate::chance::search::{behind, chance};
use crate::disc::spec::{Disc, DiscId};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::need::limits::Limits;
use crate::need::line::{Footing, Landing, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::player::{PUTT_M, Player};
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::verdict::standing::PuttersApart;
use crate::verdict::work::Work;
use crate::words::distance;

/// Distances that are worked out, m; between them strokes are taken in proportion.
const DISTANCES_M: [f64; 32] = [
    3.0, 4.0, 5.0, 6.0, 7.0, 8.5, 10.0, 12.0, 15.0, 18.0, 22.0, 27.0, 33.0, 40.0, 48.0, 57.0, 66.0, 76.0,
    86.0, 96.0, 108.0, 122.0, 140.0, 160.0, 185.0, 215.0, 250.0, 300.0, 350.0, 400.0, 450.0, 500.0,
];
/// A putt is tried from no farther, m, and anything thrown at the basket from no nearer. Own judgement.
const FARTHEST_PUTT_M: f64 = 22.0;
const NEAREST_THROW_M: f64 = 12.0;
/// From no nearer a throw has a run-up, m, and from beyond a throw may simply go as far as it can. Own judgement.
const RUN_UP_M: f64 = 45.0;
const NEAREST_DRIVE_M: f64 = 70.0;
/// A disc of this speed and less is thrown at a basket from anywhere, one so many steps faster only from as far as the arm reaches,
/// and between by the square of the distance: nobody throws a driver at a basket 30 m away. Common practice, no source.
const ANYWHERE_SPEED: f64 = 3.5;
const STEPS_FASTER: f64 = 10.0;
/// How far a putt that missed runs on from where it passes the height of the basket's foot, m. Own judgement.
const MISSED_PUTT_RUNS_M: f64 = 1.0;
/// Nearer than this a putt goes in, m.
const TAP_IN_M: f64 = 1.5;
/// What a course adds to the scatter of a field: distances and winds are guessed, the ground is what it is, it counts. The same for
/// all, in every style but putting. Own judgement, so that rounds of each skill come out about as is commonly told.
const COURSE: Spread = Spread { speed: 0.06, hyzer_deg: 3.0, launch_deg: 1.5, nose_deg: 1.5, aim_deg: 2.2 };
/// Scatter of a throw from where a disc lies against one off a tee. Own judgement.
const LIE: f64 = 1.1;
/// Times that what is left behind throws is asked anew: a throw may end farther off than it began.
const SWEEPS: usize = 60;
/// Throws from where a disc lies that are followed on a hole.
const MOST_FOLLOWED: usize = 12;
/// Strokes that no longer count as a move.
const SETTLED: f64 = 1e-12;
/// The farthest shot at a basket, m: as far as a line goes.
const FARTHEST_THROW_M: f64 = 200.0;

/// An arm on a tee of a course.
pub(super) fn on_a_course(arm: &Arm) -> Arm {
    arm.less_sure(1.0, COURSE)
}

/// What is left from a distance.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LeftFrom {
    /// Distance to the basket, m.
    pub distance_m: f64,
    /// Strokes to hole out, in the mean.
    pub strokes: f64,
    /// Share of times that two are enough, 0 to 1.
    pub in_two: f64,
    /// What is thrown; null if nothing in hand is of use.
    pub disc_id: Option<DiscId>,
    /// How.
    pub style: Style,
}

/// A throw with its scatter: the share that goes in, and where the others end, m down the way and to the left.
struct Way {
    disc_id: DiscId,
    style: Style,
    holed: f64,
    ends: Vec<(f64, f64)>,
}

/// One way to play on from a distance: the share that goes in, and how far off the others end, m.
#[derive(Debug, Clone)]
struct Played {
    disc_id: DiscId,
    style: Style,
    holed: f64,
    left_m: Vec<f64>,
}

/// What is left from how far, on a day.
#[derive(Debug, Clone)]
pub struct StrokesLeft {
    from: Vec<LeftFrom>,
    /// What is done at each distance, if anything can be.
    played: Vec<Option<Played>>,
    /// What each disc takes from each distance, the best that follows among it, where it is of use.
    by_disc: Vec<Vec<(DiscId, f64)>>,
}

/// What comes of one throw from where a disc lies.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Next {
    /// It goes in.
    Holed,
    /// It ends so far off, m.
    At(f64),
    /// Nothing in hand is of use: so many strokes, this one among them.
    Lost(u32),
}

impl StrokesLeft {
    /// From near to far, as far as one throw of this arm may be at the basket.
    pub fn from(&self) -> &[LeftFrom] {
        &self.from
    }

    /// Strokes to hole out from a distance, m; 1 from where every putt goes in.
    pub fn strokes(&self, distance_m: f64) -> f64 {
        let (k, share) = place(distance_m);
        let at = |k: usize| k.checked_sub(1).map_or(1.0, |k| self.from[k].strokes);
        at(k) + share * (at(k + 1) - at(k))
    }

    /// What one throw from a distance comes to: which of the distances it is taken to be from and which of the throws it is told by
    /// two numbers from 0 to below 1. In the mean over both it is what [`Self::strokes`] says.
    pub fn next(&self, distance_m: f64, between: f64, which: f64) -> Next {
        let (k, share) = place(distance_m);
        let Some(k) = (if between < share { k + 1 } else { k }).checked_sub(1) else { return Next::Holed };
        let Some(played) = &self.played[k] else {
            let strokes = self.from[k].strokes;
            return Next::Lost((strokes + which).floor() as u32);
        };
        if which < played.holed {
            return Next::Holed;
        }
        let n = played.left_m.len();
        let at = ((which - played.holed) / (1.0 - played.holed) * n as f64) as usize;
        played.left_m.get(at.min(n.saturating_sub(1))).map_or(Next::Holed, |m| Next::At(*m))
    }

    /// How often a throw is made from each of the distances, if discs come to lie so far off, m, so often.
    pub(super) fn visits(&self, lies: impl Iterator<Item = (f64, f64)>) -> Vec<f64> {
        let mut visits = vec![0.0; DISTANCES_M.len()];
        let mut now = vec![0.0; DISTANCES_M.len()];
        let lay = |now: &mut Vec<f64>, at_m: f64, often: f64| {
            let (k, share) = place(at_m);
            [(k, 1.0 - share), (k + 1, share)].into_iter().for_each(|(k, part)| {
                // From the first place every putt goes in.
                if k > 0 {
                    now[k - 1] += often * part;
                }
            });
        };
        lies.for_each(|(at_m, often)| lay(&mut now, at_m, often));
        for _ in 0..MOST_FOLLOWED {
            let mut next = vec![0.0; DISTANCES_M.len()];
            for (k, often) in now.iter().enumerate().filter(|(_, often)| **often > 0.0) {
                visits[k] += often;
                let Some(played) = &self.played[k] else { continue };
                let each = often * (1.0 - played.holed) / played.left_m.len().max(1) as f64;
                played.left_m.iter().for_each(|m| lay(&mut next, *m, each));
            }
            now = next;
        }
        visits
    }

    /// What each disc that is of use takes from each of the distances, against what is left there without any.
    pub(super) fn saved(&self) -> impl Iterator<Item = Vec<(DiscId, f64)>> + '_ {
        self.from.iter().zip(&self.by_disc).map(|(from, discs)| {
            let without = without_a_disc(from.distance_m);
            discs.iter().map(|(id, strokes)| (*id, without - strokes)).collect()
        })
    }

    /// The farthest distance from which two are enough more often than not, m, if there is one.
    pub fn leave_m(&self) -> Option<f64> {
        self.from.iter().take_while(|f| f.in_two >= 0.5).last().map(|f| f.distance_m)
    }

    /// Where a lay-up had best end, in words.
    pub fn words(&self, player: &Player) -> String {
        let units = player.units;
        match self.leave_m() {
            None => "Two are seldom enough from anywhere: carry something to putt with.".to_owned(),
            Some(leave_m) => format!(
                "From {} and nearer you are down in two more often than not: leave no more where you lay up.",
                distance(units, leave_m)
            ),
        }
    }
}

/// Between which of the distances a place lies, counted from 1 with 0 for where every putt goes in, and how far on toward the next.
fn place(distance_m: f64) -> (usize, f64) {
    let last = DISTANCES_M.len();
    let k = DISTANCES_M.partition_point(|d| *d <= distance_m);
    if k == last {
        return (last - 1, 1.0);
    }
    let from = k.checked_sub(1).map_or(TAP_IN_M, |k| DISTANCES_M[k]);
    (k, ((distance_m - from) / (DISTANCES_M[k] - from)).max(0.0))
}

/// Strokes with nothing of use in hand: more than any player needs who has something, so that no disc ever makes it worse.
fn without_a_disc(distance_m: f64) -> f64 {
    1.4 + distance_m.min(FARTHEST_PUTT_M) / 8.0 + (distance_m - FARTHEST_PUTT_M).max(0.0) / 25.0
}

/// Works it out on a day, with some discs of a shelf in hand.
///
/// # Errors
/// [`BagError`] for a value outside its range.
pub fn strokes_left(
    player: &Player,
    arm: &Arm,
    discs: &[&Disc],
    apart: PuttersApart,
    (memo, work): (&Memo, &Work),
) -> Result<StrokesLeft, BagError> {
    let lying = arm.less_sure(LIE, COURSE);
    let thrown = discs.iter().map(|d| Ok((*d, thrown(d)?))).collect::<Result<Vec<_>, BagError>>()?;
    let styles: Vec<Style> =
        [Style::Backhand, Style::Forehand].into_iter().filter(|s| player.habits.throws(*s)).collect();
    let ways = |line: &LineSpec, slow: &dyn Fn(f64) -> bool| -> Vec<Way> {
        let arm = if line.style == Style::Putt { arm } else { &lying };
        let asked =
            |(d, t): &&(&Disc, Thrown)| !work.is_stopped() && apart.answers(d, line.style) && slow(t.speed);
        let answering = thrown.iter().filter(asked);
        answering.filter_map(|(d, t)| way(line, arm, d.id, *t, memo)).collect()
    };
    let reached = |style: &Style| Some((*style, reach(arm, *style)?.distance_m));
    let reached: Vec<(Style, f64)> = styles.iter().filter_map(reached).collect();
    let farthest_m = reached.iter().map(|(_, m)| *m).fold(1.0, f64::max);
    let farthest = reached.iter().map(|(style, m)| as_far_as_it_goes(*style, *m));
    let drives: Vec<Way> = farthest.flat_map(|line| ways(&line, &|_| true)).collect();
    let played = |&distance_m: &f64| -> Vec<Played> {
        let slow = |speed: f64| speed <= ANYWHERE_SPEED + STEPS_FASTER * (distance_m / farthest_m).powi(2);
        let lines = lines(distance_m, &reached);
        let there = lines.iter().flat_map(|line| ways(line, &slow));
        let mut played: Vec<Played> = there.map(|way| way.from(distance_m)).collect();
        if distance_m >= NEAREST_DRIVE_M {
            played.extend(drives.iter().map(|drive| drive.from(distance_m)));
        }
        played
    };
    let played = DISTANCES_M.par_iter().map(played).collect::<Vec<_>>();
    if work.is_stopped() { Err(BagError::Stopped) } else { Ok(settled(&played)) }
}

/// The shots at the basket that may be tried from a distance.
fn lines(distance_m: f64, reached: &[(Style, f64)]) -> Vec<LineSpec> {
    let mut lines = Vec::new();
    if distance_m <= FARTHEST_PUTT_M {
        let putt = LineSpec { distance_m, ..LineSpec::usual(Style::Putt) };
        lines.push(putt.clone());
        if distance_m > PUTT_M {
            lines.push(LineSpec { footing: Footing::JumpPutt, ..putt });
        }
    }
    let about_m = (0.2 * distance_m).clamp(4.0, 20.0);
    let within = |m: f64| (NEAREST_THROW_M..=m.min(FARTHEST_THROW_M)).contains(&distance_m);
    lines.extend(reached.iter().filter(|(_, m)| within(*m)).map(|(style, _)| LineSpec {
        slot: Slot::Putter,
        distance_m,
        zone_length_m: about_m,
        zone_width_m: about_m,
        footing: if distance_m < RUN_UP_M { Footing::Standstill } else { Footing::RunUp },
        ..LineSpec::usual(*style)
    }));
    lines
}

/// A throw down the middle as far as an arm can.
fn as_far_as_it_goes(style: Style, reached_m: f64) -> LineSpec {
    let distance_m = (0.95 * reached_m).clamp(10.0, FARTHEST_THROW_M);
    let width_m = (0.25 * distance_m).clamp(4.0, 60.0);
    LineSpec {
        slot: Slot::Distance,
        distance_m,
        zone_length_m: width_m,
        zone_width_m: width_m,
        open_ended: true,
        ..LineSpec::usual(style)
    }
}

/// A disc thrown on a line, where its throws end.
fn way(line: &LineSpec, arm: &Arm, disc_id: DiscId, t: Thrown, memo: &Memo) -> Option<Way> {
    let chosen = chance(arm, t, line, memo).chosen?;
    let cloud = behind(arm, t, line, &chosen).cloud;
    let limits = Limits::of(line);
    let holed = |o: &Outcome| line.landing == Landing::Basket && limits.judge(o).miss.is_none();
    let ends: Vec<(f64, f64)> = cloud.iter().filter(|o| !holed(o)).map(|o| (o.x_m, o.y_m)).collect();
    let holed = 1.0 - ends.len() as f64 / cloud.len() as f64;
    Some(Way { disc_id, style: line.style, holed, ends })
}

impl Way {
    /// Thrown at a basket so far away, m.
    fn from(&self, distance_m: f64) -> Played {
        let runs_m = if self.style == Style::Putt { MISSED_PUTT_RUNS_M } else { 0.0 };
        let left_m = self.ends.iter().map(|(x, y)| (distance_m - x).hypot(*y) + runs_m).collect();
        Played { disc_id: self.disc_id, style: self.style, holed: self.holed, left_m }
    }
}

impl Played {
    fn strokes(&self, known: &StrokesLeft) -> f64 {
        1.0 + (1.0 - self.holed) * mean(self.left_m.iter().map(|m| known.strokes(*m)))
    }

    /// Share of times that two are enough: it goes in at once, or the next does.
    fn in_two(&self, known: &StrokesLeft) -> f64 {
        self.holed + (1.0 - self.holed) * mean(self.left_m.iter().map(|m| known.holed(*m)))
    }
}

impl StrokesLeft {
    /// Before anything is thrown.
    fn unknown(ways: usize) -> StrokesLeft {
        let from = |&distance_m: &f64| LeftFrom {
            distance_m,
            strokes: without_a_disc(distance_m),
            in_two: 0.0,
            disc_id: None,
            style: Style::Putt,
        };
        let (played, by_disc) = (vec![None; ways], vec![vec![]; ways]);
        StrokesLeft { from: DISTANCES_M.iter().map(from).collect(), played, by_disc }
    }

    /// Share that goes in with one throw from a distance.
    fn holed(&self, distance_m: f64) -> f64 {
        let (k, share) = place(distance_m);
        let holed = |k: usize| self.played[k].as_ref().map_or(0.0, |p| p.holed);
        let at = |k: usize| k.checked_sub(1).map_or(1.0, holed);
        at(k) + share * (at(k + 1) - at(k))
    }
}

/// The way with the fewest strokes from each distance, from ways to play on from each: asked again and again until what is left
/// behind them no longer moves it.
fn settled(ways: &[Vec<Played>]) -> StrokesLeft {
    let mut known = StrokesLeft::unknown(ways.len());
    for _ in 0..SWEEPS {
        let before = known.clone();
        for (k, ways) in ways.iter().enumerate() {
            let asked = ways.iter().map(|way| (way.strokes(&before), way));
            let Some((strokes, way)) = asked.min_by(|a, b| a.0.total_cmp(&b.0)) else { continue };
            let from = &mut known.from[k];
            if strokes < without_a_disc(from.distance_m) {
                (from.strokes, from.disc_id, from.style) = (strokes, Some(way.disc_id), way.style);
                known.played[k] = Some(way.clone());
            }
        }
        let moved = |(a, b): (&LeftFrom, &LeftFrom)| (a.strokes - b.strokes).abs() > SETTLED;
        if !known.from.iter().zip(&before.from).any(moved) {
            break;
        }
    }
    let in_two: Vec<f64> =
        known.played.iter().map(|p| p.as_ref().map_or(0.0, |p| p.in_two(&known))).collect();
    known.from.iter_mut().zip(in_two).for_each(|(f, in_two)| f.in_two = in_two);
    known.by_disc = ways.iter().map(|ways| by_disc(ways, &known)).collect();
    known
}

/// The fewest strokes of each disc among some ways.
fn by_disc(ways: &[Played], known: &StrokesLeft) -> Vec<(DiscId, f64)> {
    let mut fewest: Vec<(DiscId, f64)> = Vec::new();
    for way in ways {
        let strokes = way.strokes(known);
        match fewest.iter_mut().find(|(id, _)| *id == way.disc_id) {
            Some((_, least)) => *least = least.min(strokes),
            None => fewest.push((way.disc_id, strokes)),
        }
    }
    fewest
}

fn mean(values: impl ExactSizeIterator<Item = f64>) -> f64 {
    let n = values.len();
    if n == 0 { 0.0 } else { values.sum::<f64>() / n as f64 }
}
