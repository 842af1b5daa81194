//! The card of a course on a day: hole by hole what to throw, what stands in for it, and what the round comes to.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::air::Wind;

use crate::chance::memo::Memo;
use crate::course::hole::{CourseSpec, Hole, Way};
use crate::course::played::{Pick, StrokesFrom};
use crate::course::weather::PlayingDay;
use crate::disc::spec::{Disc, DiscId};
use crate::error::BagError;
use crate::plan::round::hole::{End, Left, OnHole, Play, fewest_first};
use crate::plan::round::layup::{LayUp, lay_up};
use crate::plan::round::left::{LeftFrom, StrokesLeft, on_a_course, strokes_left};
use crate::plan::round::rounds::{Rounds, rounds};
use crate::plan::round::winds::{Flip, WindSchools, flips, schools};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::verdict::opened::{in_words, release_in_words};
use crate::verdict::standing::{PuttersApart, Question};
use crate::verdict::work::Work;

/// What a hole costs beyond open ground where no drawn way is in reach, strokes. Own judgement.
const NO_WAY_STROKES: f64 = 0.5;
/// Strokes below which another disc is no better: no player would change for it. Own judgement.
pub(super) const WORTH_CHANGING: f64 = 0.03;

/// A throw that may be made on a hole.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = HoleThrow)]
pub struct Choice {
    /// Which of the hole's ways, from 0.
    pub way: usize,
    /// Name of its line.
    pub line: String,
    /// Where it is aimed to end instead of at the line's target, m, if that is out of reach or seldom reached.
    pub short_m: Option<f64>,
    /// Style.
    pub style: Style,
    /// The disc.
    pub disc_id: DiscId,
    /// Name of the disc.
    pub disc_name: String,
    /// The release as a player would say it.
    pub release: String,
    /// Share of throws that make the line, 0 to 1.
    pub chance: f64,
    /// Share of throws after which the disc is not got back, 0 to 1.
    pub lost: f64,
    /// Strokes to hole out, this throw among them, in the mean.
    pub strokes: f64,
    /// What is left to the basket in the mean, m.
    pub leaves_m: f64,
    /// What a throw that does not make the line costs against one that does, strokes; null where all or none do.
    pub miss_costs: Option<f64>,
    /// What the scatter does, in words.
    pub words: String,
}

/// A hole on the card.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoleCard {
    /// Its number or name.
    pub name: String,
    /// Its par.
    pub par: u8,
    /// Its length, m.
    pub length_m: f64,
    /// When it is played, minutes after midnight.
    pub minute: u32,
    /// The day there: the wind as it comes on the straight way to the basket, without lee.
    pub conditions: Conditions,
    /// What to throw; null if nothing in the bag suits any of its ways.
    pub best: Option<Choice>,
    /// What to throw without that disc.
    pub stand_in: Option<Choice>,
    /// The best on each of the other ways.
    pub other_ways: Vec<Choice>,
    /// What to throw if the wind comes from the other side, where that is another disc.
    pub turned: Option<Choice>,
    /// What to throw in calm, where that is another disc that would cost more today.
    pub calm: Option<Choice>,
    /// Where to lay up, if the basket is out of reach of one throw.
    pub lay_up: Option<LayUp>,
    /// From which wind along the hole another disc is better.
    pub flips: Vec<Flip>,
    /// The two answers to the day's wind, where they are different discs.
    pub schools: Option<WindSchools>,
    /// Strokes to hole out in the mean.
    pub strokes: f64,
    /// Every carried disc that may be thrown there on the way it suits best, the fewest strokes first.
    pub discs: Vec<Pick>,
    /// Strokes to hole out from how far there, from near to far.
    pub from: Vec<StrokesFrom>,
}

/// A course on a day.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RoundCard {
    /// Hole by hole.
    pub holes: Vec<HoleCard>,
    /// Strokes in the mean: what the holes sum to.
    pub strokes: f64,
    /// Par of the course.
    pub par: u32,
    /// How rounds spread about that; null of a course without holes.
    pub rounds: Option<Rounds>,
    /// Holes on which the day asks for another disc than calm.
    pub changed_by_wind: usize,
    /// In calm what is left from how far, from near to far.
    pub left: Vec<LeftFrom>,
    /// The farthest distance from which two are enough more often than not, m.
    pub leave_m: Option<f64>,
    /// Where a lay-up had best end, in words.
    pub lay_up: String,
}

/// Where the wind of the tables comes from, degrees as in [`Conditions`].
const SIDES_DEG: [f64; 4] = [0.0, 90.0, 180.0, 270.0];

/// What a card is worked out with.
pub(super) struct Caddie<'a> {
    pub player: &'a Player,
    pub memo: &'a Memo,
    pub discs: Vec<&'a Disc>,
    pub apart: PuttersApart,
    /// Of calm, then of the strongest wind of the round from each of [`SIDES_DEG`]; of a calm round only the first.
    pub tables: Vec<StrokesLeft>,
    strongest_m_s: f64,
    /// Asked before each chance, so that it ends soon after nobody wants it any more.
    pub work: &'a Work,
}

impl<'a> Caddie<'a> {
    /// With what a bag holds.
    fn of(
        q: &'a Question,
        course: &CourseSpec,
        day: &PlayingDay,
        (memo, work): (&'a Memo, &'a Work),
    ) -> Result<Caddie<'a>, BagError> {
        let allowed = q.allowed();
        let discs = q.shelf.iter().filter(|d| allowed.contains(&d.id)).collect();
        Caddie::with(q.player, discs, PuttersApart::on(q.shelf), (course, day), (memo, work))
    }

    /// With some discs: works out what is left from how far on the day.
    pub(super) fn with(
        player: &'a Player,
        discs: Vec<&'a Disc>,
        apart: PuttersApart,
        (course, day): (&CourseSpec, &PlayingDay),
        (memo, work): (&'a Memo, &'a Work),
    ) -> Result<Caddie<'a>, BagError> {
        let on = |k: usize| on(course, day, k);
        let windiest = (0..course.holes.len()).map(on).max_by(|a, b| a.wind_m_s.total_cmp(&b.wind_m_s));
        let windiest = windiest.unwrap_or_default();
        let middle = day.conditions(day.minute_of(course.holes.len() / 2), 0.0, course.altitude_m);
        let still = Conditions { wind_m_s: 0.0, gust_m_s: 0.0, ..middle };
        let mut days = vec![still];
        if windiest.wind_m_s > 0.0 {
            let Conditions { wind_m_s, gust_m_s, .. } = windiest;
            days.extend(SIDES_DEG.map(|wind_from_deg| Conditions {
                wind_m_s,
                gust_m_s,
                wind_from_deg,
                ..still
            }));
        }
        let table =
            |day: &Conditions| strokes_left(player, &Arm::of(player, day)?, &discs, apart, (memo, work));
        let tables = days.par_iter().map(table).collect::<Result<Vec<_>, BagError>>()?;
        Ok(Caddie { player, memo, discs, apart, tables, strongest_m_s: windiest.wind_m_s, work })
    }

    /// What every disc does on a hole, the fewest strokes first, and what it takes without any of its ways.
    pub(super) fn plays(&self, hole: &Hole, on: &Conditions) -> Result<(Vec<Play>, f64), BagError> {
        let here = self.on_hole(hole, on)?;
        let otherwise = here.left.strokes(hole.length_m) + NO_WAY_STROKES;
        Ok((here.plays(&self.discs, self.apart, self.memo)?, otherwise))
    }

    /// A hole on a day as it is on the straight way to the basket.
    pub(super) fn on_hole<'h>(&'h self, hole: &'h Hole, on: &Conditions) -> Result<OnHole<'h>, BagError> {
        let ways = if hole.ways.is_empty() {
            hole.straight_ways(self.player.strong_style)
        } else {
            hole.ways.clone()
        };
        let turned = |way: &Way| Conditions {
            wind_from_deg: (on.wind_from_deg + way.turn_deg).rem_euclid(360.0),
            ..*on
        };
        let with_arm = |way: Way| {
            let arm = on_a_course(&Arm::of(self.player, &turned(&way))?);
            Ok((way, arm))
        };
        let ways = ways.into_iter().map(with_arm).collect::<Result<Vec<_>, BagError>>()?;
        Ok(OnHole {
            hole,
            ways,
            habits: &self.player.habits,
            left: self.left(on, hole.lee()),
            work: self.work,
        })
    }

    /// How much of each table there is in a wind: by its strength against the strongest of the round, and by the side it comes from.
    pub(super) fn left(&self, on: &Conditions, lee: f64) -> Left<'_> {
        let mut shares = vec![0.0; self.tables.len()];
        let windy = if self.strongest_m_s > 0.0 {
            (on.wind_m_s * (1.0 - lee) / self.strongest_m_s).min(1.0)
        } else {
            0.0
        };
        shares[0] = 1.0 - windy;
        if windy > 0.0 {
            let Wind { along_m_s, left_m_s } = Conditions { wind_m_s: 1.0, ..*on }.wind();
            let side = |x: f64| windy * x.max(0.0).powi(2);
            [-along_m_s, left_m_s, along_m_s, -left_m_s]
                .into_iter()
                .zip(&mut shares[1..])
                .for_each(|(part, share)| *share = side(part));
        }
        Left { tables: &self.tables, shares }
    }

    /// What a disc in hand is called.
    pub(super) fn name(&self, id: DiscId) -> &str {
        self.discs.iter().find(|d| d.id == id).map_or("", |d| d.spec.name.as_str())
    }

    pub(super) fn choice(&self, on: &OnHole, play: &Play) -> Choice {
        let way = &on.ways[play.way].0.line;
        let line = play.short.as_ref().unwrap_or(way);
        let name = self.name(play.disc_id);
        let left: Vec<f64> = play.ends.iter().filter_map(|e| e.left_m).collect();
        Choice {
            way: play.way,
            line: way.name.clone(),
            short_m: play.short.as_ref().map(|short| short.distance_m),
            style: line.style,
            disc_id: play.disc_id,
            disc_name: name.to_owned(),
            release: play.chance.chosen.as_ref().map_or_else(String::new, release_in_words),
            chance: play.chance.chance,
            lost: play.chance.lost,
            strokes: play.strokes,
            leaves_m: left.iter().sum::<f64>() / left.len().max(1) as f64,
            miss_costs: miss_costs(&play.ends, &on.left),
            words: in_words(&play.chance, line),
        }
    }

    /// Each disc's best play, the fewest strokes first.
    fn picks(&self, on: &OnHole, plays: &[Play]) -> Vec<Pick> {
        let first_of = |(k, play): &(usize, &Play)| plays[..*k].iter().all(|p| p.disc_id != play.disc_id);
        let firsts = plays.iter().enumerate().filter(first_of);
        firsts.map(|(_, play)| self.pick(on, play)).collect()
    }

    fn pick(&self, on: &OnHole, play: &Play) -> Pick {
        let strokes_if =
            |is: &dyn Fn(&End) -> bool| mean_after(&play.ends, &on.left, is).map(|after| 1.0 + after);
        Pick {
            disc_id: Some(play.disc_id),
            disc_name: self.name(play.disc_id).to_owned(),
            style: Some(on.ways[play.way].0.line.style),
            chance: Some(play.ends.iter().filter(|e| e.made).count() as f64 / play.ends.len() as f64),
            strokes: Some(play.strokes),
            made: strokes_if(&|e| e.made),
            missed: strokes_if(&|e| !e.made && e.penalty <= 0.0),
            out: strokes_if(&|e| !e.made && e.penalty > 0.0),
        }
    }

    fn hole(&self, hole: &Hole, minute: u32, on: Conditions) -> Result<(HoleCard, Vec<End>), BagError> {
        let here = self.on_hole(hole, &on)?;
        let (plays, otherwise) = self.plays(hole, &on)?;
        let best = plays.first().filter(|play| play.strokes <= otherwise);
        let Some(best) = best else {
            // As on open ground, and a little dearer.
            let ends = vec![End { left_m: Some(hole.length_m), penalty: NO_WAY_STROKES - 1.0, made: false }];
            return Ok((
                HoleCard::without_a_throw(hole, minute, on, (otherwise, here.left.from(hole.length_m))),
                ends,
            ));
        };
        let told = |play: &Play| self.choice(&here, play);
        let stand_in = plays.iter().find(|p| p.disc_id != best.disc_id).map(told);
        let on_way = |k: usize| plays.iter().find(|p| p.way == k);
        let other_ways =
            (0..here.ways.len()).filter(|k| *k != best.way).filter_map(on_way).map(told).collect();
        let wind = on.wind();
        let is_calm = on.wind_m_s == 0.0;
        let about = Conditions { wind_from_deg: (on.wind_from_deg + 180.0).rem_euclid(360.0), ..on };
        let turned = if is_calm { None } else { self.best_in(hole, &about, best)? };
        let still = Conditions { wind_m_s: 0.0, gust_m_s: 0.0, ..on };
        let in_calm = if is_calm { None } else { self.first_in(hole, &still)? };
        // What calm would have one throw, thrown today.
        let today = |calm: &Choice| plays.iter().find(|p| p.disc_id == calm.disc_id && p.way == calm.way);
        let dearer = |calm: &Choice| today(calm).is_none_or(|p| p.strokes >= best.strokes + WORTH_CHANGING);
        let schools = in_calm.as_ref().and_then(|calm| schools(self, &here, calm, &plays, wind.along_m_s));
        let calm = in_calm.filter(|calm| calm.disc_id != best.disc_id && dearer(calm));
        let card = HoleCard {
            name: hole.name.clone(),
            par: hole.par,
            length_m: hole.length_m,
            minute,
            conditions: on,
            best: Some(told(best)),
            stand_in,
            other_ways,
            turned,
            calm,
            lay_up: lay_up(self, &here, best)?,
            flips: flips(self, hole, &on, best)?,
            schools,
            strokes: best.strokes,
            discs: self.picks(&here, &plays),
            from: here.left.from(hole.length_m),
        };
        Ok((card, best.ends.clone()))
    }

    fn first_in(&self, hole: &Hole, on: &Conditions) -> Result<Option<Choice>, BagError> {
        let there = self.on_hole(hole, on)?;
        let plays = there.plays(&self.discs, self.apart, self.memo)?;
        Ok(plays.first().map(|play| self.choice(&there, play)))
    }

    /// The best in another wind, if it is another disc than the one in hand and worth changing to.
    fn best_in(&self, hole: &Hole, on: &Conditions, now: &Play) -> Result<Option<Choice>, BagError> {
        let there = self.on_hole(hole, on)?;
        let best = self.better_than(&there, now)?;
        Ok(best.map(|play| self.choice(&there, &play)))
    }

    /// What is better there than the disc and way in hand, by so much that one would change.
    pub(super) fn better_than(&self, there: &OnHole, now: &Play) -> Result<Option<Play>, BagError> {
        let likely = there.likely_plays(&self.discs, self.apart, self.memo)?;
        let kept = there.again(now, &self.discs, self.memo)?.map_or(f64::INFINITY, |play| play.strokes);
        let best = likely.into_iter().min_by(fewest_first);
        Ok(best.filter(|best| best.disc_id != now.disc_id && best.strokes + WORTH_CHANGING <= kept))
    }
}

/// The weather on one of a course's holes, by its place, as it is on the straight way to the basket.
pub(super) fn on(course: &CourseSpec, day: &PlayingDay, k: usize) -> Conditions {
    day.conditions(day.minute_of(k), course.holes[k].bearing_deg, course.altitude_m)
}

/// What a throw that does not make the line costs against one that does, strokes; none where all or none do.
fn miss_costs(ends: &[End], left: &Left) -> Option<f64> {
    Some(mean_after(ends, left, &|e| !e.made)? - mean_after(ends, left, &|e| e.made)?)
}

/// Strokes after the throws that end in some way, in the mean; none if none does.
fn mean_after(ends: &[End], left: &Left, is: &dyn Fn(&End) -> bool) -> Option<f64> {
    let of: Vec<f64> = ends.iter().filter(|e| is(e)).map(|e| e.after(left)).collect();
    (!of.is_empty()).then(|| of.iter().sum::<f64>() / of.len() as f64)
}

impl HoleCard {
    fn without_a_throw(
        hole: &Hole,
        minute: u32,
        conditions: Conditions,
        (strokes, from): (f64, Vec<StrokesFrom>),
    ) -> HoleCard {
        HoleCard {
            name: hole.name.clone(),
            par: hole.par,
            length_m: hole.length_m,
            minute,
            conditions,
            best: None,
            stand_in: None,
            other_ways: vec![],
            turned: None,
            calm: None,
            lay_up: None,
            flips: vec![],
            schools: None,
            strokes,
            discs: vec![],
            from,
        }
    }
}

/// The card of a course on a day, for what a bag holds.
///
/// # Errors
/// [`BagError`] for a value outside its range, [`BagError::Stopped`] if `work` was.
pub fn card(
    q: &Question,
    course: &CourseSpec,
    day: &PlayingDay,
    memo: &Memo,
    work: &Work,
) -> Result<RoundCard, BagError> {
    course.validate()?;
    day.validate()?;
    work.begin(course.holes.len());
    let caddie = Caddie::of(q, course, day, (memo, work))?;
    let one = |(k, hole): (usize, &Hole)| {
        let card = caddie.hole(hole, day.minute_of(k), on(course, day, k));
        work.advance();
        card
    };
    let holes = course.holes.par_iter().enumerate().map(one).collect::<Result<Vec<_>, BagError>>()?;
    let left: Vec<Left> = holes
        .iter()
        .zip(&course.holes)
        .map(|((card, _), hole)| caddie.left(&card.conditions, hole.lee()))
        .collect();
    let played: Vec<(&[End], &Left)> = holes.iter().map(|(_, ends)| ends.as_slice()).zip(&left).collect();
    let rounds = (!played.is_empty()).then(|| rounds(&played, course.par()));
    let holes: Vec<HoleCard> = holes.into_iter().map(|(card, _)| card).collect();
    let calm = &caddie.tables[0];
    Ok(RoundCard {
        strokes: holes.iter().map(|h| h.strokes).sum(),
        par: course.par(),
        rounds,
        changed_by_wind: holes.iter().filter(|h| h.calm.is_some()).count(),
        left: calm.from().to_vec(),
        leave_m: calm.leave_m(),
        lay_up: calm.words(q.player),
        holes,
    })
}
