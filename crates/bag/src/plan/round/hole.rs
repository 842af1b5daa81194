//! A hole on a day: what each disc does on each way to play its first throw, in strokes to hole out.

use crate::chance::answer::{Chance, NoRelease};
use crate::chance::memo::Memo;
use crate::chance::search::{behind, chance};
use crate::course::hole::{Hole, Way};
use crate::course::played::StrokesFrom;
use crate::disc::spec::{Disc, DiscId};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::need::limits::{Limits, Miss};
use crate::need::line::{Gate, Landing, LineSpec};
use crate::plan::round::card::{Caddie, WORTH_CHANGING};
use crate::plan::round::left::StrokesLeft;
use crate::thrower::arm::Arm;
use crate::thrower::habits::Habits;
use crate::verdict::sieve::{Entrant, On};
use crate::verdict::standing::{Cell, PuttersApart};
use crate::verdict::work::Work;

/// What passing a mandatory on the wrong side costs, strokes: the sport's rules, from memory; the event's own rules come first.
const MISSED_MANDATORY_STROKES: f64 = 1.0;

/// Distances to the basket from which strokes are told, m: the circle of 10 m and twice that by the sport's rules, from memory, and about as fine
/// as a player guesses. Own judgement.
const TOLD_FROM_M: [f64; 14] =
    [0.0, 3.0, 6.0, 10.0, 15.0, 20.0, 30.0, 40.0, 50.0, 65.0, 80.0, 100.0, 130.0, 170.0];

/// What is left behind a first throw on a hole: tables for calm and for the wind of the day from ahead, behind, right and left, and
/// how much of each there is there.
pub(super) struct Left<'a> {
    pub tables: &'a [StrokesLeft],
    pub shares: Vec<f64>,
}

impl Left<'_> {
    pub(super) fn strokes(&self, distance_m: f64) -> f64 {
        let shared = self.tables.iter().zip(&self.shares).filter(|(_, share)| **share > 0.0);
        shared.map(|(table, share)| share * table.strokes(distance_m)).sum()
    }

    /// Strokes from some distances of which a player can say which it is, as far as a hole is long.
    pub(super) fn from(&self, length_m: f64) -> Vec<StrokesFrom> {
        let told = TOLD_FROM_M.into_iter().filter(|m| *m <= length_m);
        let strokes = |m: f64| if m > 0.0 { self.strokes(m) } else { 0.0 };
        told.map(|from_m| StrokesFrom { from_m, strokes: strokes(from_m) }).collect()
    }

    /// The table that is meant by a number from 0 to below 1: each as often as its share says.
    pub(super) fn table(&self, which: f64) -> &StrokesLeft {
        let mut up_to = 0.0;
        let meant = self.shares.iter().position(|share| {
            up_to += share;
            which < up_to
        });
        &self.tables[meant.unwrap_or(0)]
    }
}

/// Where one throw of the scatter leaves its player.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct End {
    /// To the basket, m; none if it went in.
    pub left_m: Option<f64>,
    /// Strokes it costs beside the throw itself.
    pub penalty: f64,
    /// Whether it made the line.
    pub made: bool,
}

impl End {
    /// Strokes from there, what it costs among them.
    pub(super) fn after(&self, left: &Left) -> f64 {
        self.penalty + self.left_m.map_or(0.0, |m| left.strokes(m))
    }
}

/// A disc on one of a hole's ways.
#[derive(Debug, Clone)]
pub(super) struct Play {
    /// Which of the ways.
    pub way: usize,
    pub disc_id: DiscId,
    /// The way's line with a nearer target, if its own is out of the disc's reach or is seldom reached.
    pub short: Option<LineSpec>,
    pub chance: Chance,
    /// Where its throws end.
    pub ends: Vec<End>,
    /// Strokes to hole out, this throw among them.
    pub strokes: f64,
}

/// A hole in a weather.
pub(super) struct OnHole<'a> {
    pub hole: &'a Hole,
    /// Its ways, and the arm in the weather as it meets each.
    pub ways: Vec<(Way, Arm)>,
    /// Which styles are thrown at all.
    pub habits: &'a Habits,
    pub left: Left<'a>,
    /// Asked before each chance.
    pub work: &'a Work,
}

/// Fewest strokes first; of equal ones the first way and the disc first known.
pub(super) fn fewest_first(a: &Play, b: &Play) -> std::cmp::Ordering {
    a.strokes.total_cmp(&b.strokes).then(a.way.cmp(&b.way)).then(a.disc_id.cmp(&b.disc_id))
}

impl OnHole<'_> {
    /// The ways in a style that is thrown, by their places, with the line and the arm of each.
    fn open_ways(&self) -> impl Iterator<Item = (usize, &LineSpec, &Arm)> {
        let ways = self.ways.iter().enumerate().map(|(k, (way, arm))| (k, &way.line, arm));
        ways.filter(|(_, line, _)| self.habits.throws(line.style))
    }

    /// What every one of some discs does on every way in a style that is thrown, the fewest strokes first.
    ///
    /// # Errors
    /// [`BagError`] for a disc that cannot be thrown.
    pub(super) fn plays(
        &self,
        discs: &[&Disc],
        apart: PuttersApart,
        memo: &Memo,
    ) -> Result<Vec<Play>, BagError> {
        let mut plays = Vec::new();
        for (way, spec, arm) in self.open_ways() {
            for disc in discs.iter().filter(|d| apart.answers_line(d, spec)) {
                plays.extend(self.play(way, arm, disc, memo)?);
            }
        }
        plays.sort_by(fewest_first);
        Ok(plays)
    }

    /// The same of those alone that make each way's line about as often as the best: for who asks in many winds.
    ///
    /// # Errors
    /// As of [`Self::plays`].
    pub(super) fn likely_plays(
        &self,
        discs: &[&Disc],
        apart: PuttersApart,
        memo: &Memo,
    ) -> Result<Vec<Play>, BagError> {
        let mut plays = Vec::new();
        for (way, spec, arm) in self.open_ways() {
            for disc in likely(spec, arm, discs, apart, memo)? {
                plays.extend(self.play(way, arm, disc, memo)?);
            }
        }
        plays.sort_by(fewest_first);
        Ok(plays)
    }

    /// The same disc on the same way here.
    ///
    /// # Errors
    /// As of [`Self::plays`].
    pub(super) fn again(&self, play: &Play, discs: &[&Disc], memo: &Memo) -> Result<Option<Play>, BagError> {
        let disc = discs.iter().find(|d| d.id == play.disc_id);
        disc.map_or(Ok(None), |disc| self.play(play.way, &self.ways[play.way].1, disc, memo))
    }

    /// The best of the discs that promise most on a way with its target elsewhere.
    ///
    /// # Errors
    /// As of [`Self::plays`].
    pub(super) fn aimed(&self, way: usize, aim_m: f64, caddie: &Caddie) -> Result<Option<Play>, BagError> {
        let (spec, arm) = (&self.ways[way].0.line, &self.ways[way].1);
        let Some(spec) = &retargeted(spec, aim_m) else { return Ok(None) };
        let mut best: Option<Play> = None;
        for disc in likely(spec, arm, &caddie.discs, caddie.apart, caddie.memo)? {
            if self.work.is_stopped() {
                return Err(BagError::Stopped);
            }
            let t = thrown(disc)?;
            let found = chance(arm, t, spec, caddie.memo);
            let play = self.came_of(way, spec, disc, t, found);
            best = best.into_iter().chain(play).min_by(fewest_first);
        }
        Ok(best)
    }

    fn play(&self, way: usize, arm: &Arm, disc: &Disc, memo: &Memo) -> Result<Option<Play>, BagError> {
        if self.work.is_stopped() {
            return Err(BagError::Stopped);
        }
        let (t, full) = (thrown(disc)?, &self.ways[way].0.line);
        let found = chance(arm, t, full, memo);
        // A target out of reach, or seldom reached, says nothing of the release that leaves fewest strokes: nearer ones do.
        let nearer: Vec<f64> = match found.no_release {
            Some(NoRelease::TooFar { farthest_m }) => vec![WELL_WITHIN * farthest_m],
            None if found.chance < SELDOM => NEARER.map(|share| share * full.distance_m).to_vec(),
            _ => vec![],
        };
        let short = nearer.into_iter().filter_map(|aim_m| {
            let short = retargeted(full, aim_m)?;
            let found = chance(arm, t, &short, memo);
            let play = self.came_of(way, &short, disc, t, found)?;
            Some(Play { short: Some(short), ..play })
        });
        let mut plays: Vec<Play> = self.came_of(way, full, disc, t, found).into_iter().chain(short).collect();
        plays.sort_by(fewest_first);
        let about_as_few = plays.first().map_or(0.0, |fewest| fewest.strokes + WORTH_CHANGING);
        // Nobody aims at what is seldom hit where what is hit oftener leaves about as few.
        let aimed_at = |p: &Play| p.chance.chance >= SELDOM && p.strokes <= about_as_few;
        let at = plays.iter().position(aimed_at).unwrap_or(0);
        Ok(plays.into_iter().nth(at))
    }

    /// Where the throws of a disc on a line of a way leave its player.
    fn came_of(&self, way: usize, spec: &LineSpec, disc: &Disc, t: Thrown, found: Chance) -> Option<Play> {
        let arm = &self.ways[way].1;
        let chosen = found.chosen.as_ref()?;
        let limits = Limits::of(spec);
        let basket = self.hole.basket_on(&self.ways[way].0);
        let end = |o| {
            let judged = limits.judge(o);
            let made = judged.miss.is_none();
            if spec.landing == Landing::Basket && made {
                return End { left_m: None, penalty: 0.0, made };
            }
            let (x, y) = (f64::from(judged.lies.0), f64::from(judged.lies.1));
            let penalty = match judged.danger {
                _ if judged.miss == Some(Miss::Mandatory) => MISSED_MANDATORY_STROKES,
                Some((thing, _)) => spec.things[thing].price().0,
                None => 0.0,
            };
            End { left_m: Some((basket.at_m - x).hypot(basket.left_m - y)), penalty, made }
        };
        let ends: Vec<End> = behind(arm, t, spec, chosen).cloud.iter().map(end).collect();
        let strokes = 1.0 + ends.iter().map(|e| e.after(&self.left)).sum::<f64>() / ends.len() as f64;
        Some(Play { way, disc_id: disc.id, short: None, chance: found, ends, strokes })
    }
}

/// The discs that make a line about as often as the best.
fn likely<'d>(
    line: &LineSpec,
    arm: &Arm,
    discs: &[&'d Disc],
    apart: PuttersApart,
    memo: &Memo,
) -> Result<Vec<&'d Disc>, BagError> {
    let entrants = discs.iter().map(|d| Entrant::of(d, apart)).collect::<Result<Vec<_>, BagError>>()?;
    let best = On { arm, spec: line, memo }.best(&entrants, LIKELY);
    let named = |c: &Cell| discs.iter().find(|d| d.id == c.disc_id).copied();
    Ok(best.iter().take(LIKELY).filter_map(named).collect())
}

/// A line that is made less often than this is thrown short of too, at these shares of its distance. Own judgement.
pub(super) const SELDOM: f64 = 0.2;
const NEARER: [f64; 2] = [0.9, 0.8];
/// A target out of reach is brought to this share of the farthest there is. Own judgement.
const WELL_WITHIN: f64 = 0.95;
/// Nearest and farthest target of a throw that is no putt, m.
const TARGETS_M: std::ops::RangeInclusive<f64> = 10.0..=200.0;

/// A line with its target elsewhere; none if that is no throw any more.
fn retargeted(line: &LineSpec, distance_m: f64) -> Option<LineSpec> {
    let nearer = |g: &&Gate| g.at_m <= distance_m;
    // What is aimed short of a basket or past it is not thrown into its chains.
    let landing = if line.landing == Landing::Basket { Landing::Any } else { line.landing };
    let gates = line.gates.iter().filter(nearer).copied().collect();
    (TARGETS_M.contains(&distance_m)).then(|| LineSpec { distance_m, gates, landing, ..line.clone() })
}

/// Discs that are looked at on each way where many winds are asked.
const LIKELY: usize = 3;
