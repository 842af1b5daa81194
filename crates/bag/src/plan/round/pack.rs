//! What to take to a course on a day: the smallest bag that plays it about as well as all that could come, what stays at home, where a
//! copy is wanted, which colours vanish there, and what else goes into the bag.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::course::hole::{CourseSpec, Hole};
use crate::course::weather::PlayingDay;
use crate::disc::colour::{Cover, shows};
use crate::disc::plastic::Plastic;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::error::BagError;
use crate::plan::build::{Desk, TOLERANCE, Wishes};
use crate::plan::choice::{Problem, solve};
use crate::plan::round::card::{Caddie, on};
use crate::plan::round::hole::Play;
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::compare::flies_alike;
use crate::verdict::standing::PuttersApart;
use crate::verdict::work::Work;

/// What a disc must save in the round to be worth its place, strokes, if no wish asks for more. Own judgement.
const WORTH_A_PLACE: f64 = 0.02;
/// From this share of rounds in which a disc is lost a copy is told of. Own judgement.
const OFTEN_LOST: f64 = 0.02;
/// Throws from a distance that come up less often in a round do not count.
const SELDOM: f64 = 0.001;
/// It is dark from this hour on, and until that one. Own judgement: the lamp is small.
const DARK_FROM_MIN: u32 = 19 * 60;
const DARK_UNTIL_MIN: u32 = 7 * 60;
/// Air colder than this asks for warm hands, warmer than that for shade, °C. Own judgement.
const COLD_C: f64 = 6.0;
const HOT_C: f64 = 22.0;

/// A disc to take.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = PackedDisc)]
pub struct Taken {
    /// The disc.
    pub disc_id: DiscId,
    /// Whether the bag holds it already.
    pub carried: bool,
    /// Holes whose first throw it is for.
    pub holes: Vec<String>,
    /// Throws of the round from where a disc lies that it is for, putts among them.
    pub approaches: f64,
    /// What the round would take more without it, strokes.
    pub saves: f64,
}

/// A disc of the bag that may stay at home.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[schema(as = LeftAtHome)]
pub struct Stays {
    /// The disc.
    pub disc_id: DiscId,
    /// What it would save beside the others, strokes.
    pub saves: f64,
}

/// A disc that may be lost where it is not fetched.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CopyWanted {
    /// The disc.
    pub disc_id: DiscId,
    /// Share of rounds in which it is lost, 0 to 1.
    pub lost: f64,
    /// Holes on which.
    pub holes: Vec<String>,
    /// Another that flies alike, at hand and not among those to take; null if there is none.
    pub copy: Option<DiscId>,
}

/// Something to take that is no disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PackItem {
    /// By which it is ticked off.
    pub key: &'static str,
    /// What.
    pub name: &'static str,
    /// Why, on this day; empty if it always goes.
    pub why: String,
}

/// What to take.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Packing {
    /// Discs to take, slow to fast.
    pub take: Vec<Taken>,
    /// Discs of the bag that may stay at home, the least missed first.
    pub stay: Vec<Stays>,
    /// Discs to take of which a copy is wanted.
    pub copies: Vec<CopyWanted>,
    /// Discs of the bag that the event does not allow.
    pub over_cap: Vec<DiscId>,
    /// What lies on the ground.
    pub cover: Cover,
    /// Discs to take that are hard to find on it.
    pub unseen: Vec<DiscId>,
    /// What else to take.
    pub items: Vec<PackItem>,
    /// Strokes of the round with what is to be taken.
    pub strokes: f64,
    /// Strokes of the round with what the bag holds now.
    pub bag_strokes: f64,
    /// Whether it is proven that no other choice under the wishes saves more.
    pub is_proven: bool,
    /// Wishes that nothing can meet, in words.
    pub unmet: Vec<String>,
}

/// Works out what to take from a desk on which all that may come is laid out, under wishes, instead of what a bag holds.
///
/// # Errors
/// [`BagError`] for a value outside its range, [`BagError::Stopped`] after `work` was stopped.
pub fn pack(
    desk: &Desk,
    wishes: &Wishes,
    (bag, carried): (&BagSpec, &[Carried]),
    (course, day): (&CourseSpec, &PlayingDay),
    memo: &Memo,
    work: &Work,
) -> Result<Packing, BagError> {
    course.validate()?;
    day.validate()?;
    let (player, discs) = (desk.stock().player, desk.discs());
    let apart = PuttersApart::on(desk.stock().shelf);
    let of_bag = |d: &&Disc| carried.iter().any(|c| c.disc_id == d.id) && bag.allows(&d.spec);
    let caddie = Caddie::with(player, discs.iter().collect(), apart, (course, day), (memo, work))?;
    let place = |id: DiscId| discs.iter().position(|d| d.id == id);
    let plays = holes(&caddie, course, day)?;
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    // Each hole's first throw is a row, and so are the throws from each distance in each wind, as often as they come up.
    let first = plays.iter().map(|(plays, otherwise)| {
        let worth = |play: &Play| Some((place(play.disc_id)?, otherwise - play.strokes));
        kept(plays.iter().filter_map(worth))
    });
    let after = approaches(&caddie, course, day, &plays);
    let rows: Vec<Vec<(usize, f64)>> = first
        .chain(after.iter().map(|(often, saved)| {
            kept(saved.iter().filter_map(|(id, saves)| Some((place(*id)?, often * saves))))
        }))
        .collect();
    let wishes =
        Wishes { buying: None, disc_strokes: wishes.disc_strokes.max(WORTH_A_PLACE), ..wishes.clone() };
    let (problem, unmet) = desk.problem(&wishes)?;
    let problem = Problem { rows, ..problem };
    let held: Vec<usize> = discs.iter().enumerate().filter(|(_, d)| of_bag(d)).map(|(j, _)| j).collect();
    let stopped = || work.is_stopped() || work.is_hurried();
    let chosen = solve(&problem, TOLERANCE, problem.allows(&held).then_some(&held), &stopped);
    if work.is_stopped() {
        return Err(BagError::Stopped);
    }
    let things = chosen.things.unwrap_or_default();
    let plain = Problem { prices: vec![0.0; discs.len()], kind_price: 0.0, ..problem };
    let value = plain.value(&things);
    let is_taken = |id: DiscId| things.iter().any(|&j| discs[j].id == id);
    let without = |j: usize| things.iter().copied().filter(|k| *k != j).collect::<Vec<usize>>();
    let best_at = |row: &Vec<(usize, f64)>| {
        let taken = row.iter().filter(|(j, _)| things.contains(j));
        taken.max_by(|a, b| a.1.total_cmp(&b.1)).map(|(j, _)| *j)
    };
    let best: Vec<Option<usize>> = plain.rows.iter().map(best_at).collect();
    let taken = |&j: &usize| Taken {
        disc_id: discs[j].id,
        carried: carried.iter().any(|c| c.disc_id == discs[j].id),
        holes: (0..plays.len())
            .filter(|k| best[*k] == Some(j))
            .map(|k| course.holes[k].name.clone())
            .collect(),
        approaches: best[plays.len()..]
            .iter()
            .zip(&after)
            .filter(|(best, _)| **best == Some(j))
            .map(|(_, (often, _))| often)
            .sum(),
        saves: value - plain.value(&without(j)),
    };
    let mut take: Vec<Taken> = things.iter().map(taken).collect();
    let speed = |id: DiscId| place(id).map_or(0.0, |j| discs[j].spec.printed.speed);
    take.sort_by(|a, b| speed(a.disc_id).total_cmp(&speed(b.disc_id)).then(a.disc_id.cmp(&b.disc_id)));
    let beside = |j: usize| things.iter().copied().chain([j]).collect::<Vec<usize>>();
    let mut stay: Vec<Stays> = held
        .iter()
        .filter(|j| !things.contains(j))
        .map(|&j| Stays { disc_id: discs[j].id, saves: plain.value(&beside(j)) - value })
        .collect();
    stay.sort_by(|a, b| a.saves.total_cmp(&b.saves).then(a.disc_id.cmp(&b.disc_id)));
    let cover = day.cover.unwrap_or(Cover::Grass);
    let chosen_discs: Vec<&Disc> = things.iter().map(|&j| &discs[j]).collect();
    let in_bag: Vec<&Disc> = discs.iter().filter(of_bag).collect();
    let strokes = |with: &[&Disc]| -> Result<f64, BagError> {
        let caddie = Caddie::with(player, with.to_vec(), apart, (course, day), (memo, work))?;
        let holes = holes(&caddie, course, day)?;
        Ok(holes
            .iter()
            .map(|(plays, otherwise)| plays.first().map_or(*otherwise, |p| p.strokes.min(*otherwise)))
            .sum())
    };
    let shelf = desk.stock().shelf;
    let too_heavy = |c: &&Carried| shelf.iter().any(|d| d.id == c.disc_id && !bag.allows(&d.spec));
    Ok(Packing {
        copies: copies(&take, &plays, course, discs, &is_taken),
        over_cap: carried.iter().filter(too_heavy).map(|c| c.disc_id).collect(),
        unseen: chosen_discs
            .iter()
            .filter(|d| d.spec.used_for != Use::Putting && !shows(&d.spec.colour, cover))
            .map(|d| d.id)
            .collect(),
        cover,
        items: items(&chosen_discs, course.holes.len(), day),
        strokes: strokes(&chosen_discs)?,
        bag_strokes: strokes(&in_bag)?,
        is_proven: chosen.is_proven,
        unmet,
        take,
        stay,
    })
}

/// What a disc is worth on a row, where it is worth something.
fn kept(worth: impl Iterator<Item = (usize, f64)>) -> Vec<(usize, f64)> {
    let mut row: Vec<(usize, f64)> = Vec::new();
    for (j, worth) in worth.filter(|(_, worth)| *worth > 0.0) {
        match row.iter_mut().find(|(k, _)| *k == j) {
            Some((_, most)) => *most = most.max(worth),
            None => row.push((j, worth)),
        }
    }
    row
}

/// What every disc does on each hole.
fn holes(caddie: &Caddie, course: &CourseSpec, day: &PlayingDay) -> Result<Vec<(Vec<Play>, f64)>, BagError> {
    let one = |(k, hole): (usize, &Hole)| caddie.plays(hole, &on(course, day, k));
    course.holes.par_iter().enumerate().map(one).collect()
}

/// Throws from where a disc lies, as often as they come up in a round, with what each disc saves there.
fn approaches(
    caddie: &Caddie,
    course: &CourseSpec,
    day: &PlayingDay,
    plays: &[(Vec<Play>, f64)],
) -> Vec<(f64, Vec<(DiscId, f64)>)> {
    let left = |k: usize| caddie.left(&on(course, day, k), course.holes[k].lee());
    let mut rows = Vec::new();
    for (t, table) in caddie.tables.iter().enumerate() {
        let mut lies: Vec<(f64, f64)> = Vec::new();
        for (k, (plays, _)) in plays.iter().enumerate() {
            let share = left(k).shares[t];
            let ends = plays.first().map_or(&[][..], |play| &play.ends);
            let each = share / ends.len().max(1) as f64;
            lies.extend(ends.iter().filter_map(|e| Some((e.left_m?, each))));
        }
        let visits = table.visits(lies.into_iter());
        rows.extend(visits.into_iter().zip(table.saved()).filter(|(often, _)| *often >= SELDOM));
    }
    rows
}

/// Where discs to take may be lost, and what could come beside them.
fn copies(
    take: &[Taken],
    plays: &[(Vec<Play>, f64)],
    course: &CourseSpec,
    discs: &[Disc],
    is_taken: &dyn Fn(DiscId) -> bool,
) -> Vec<CopyWanted> {
    let wanted = |taken: &Taken| {
        let on_hole = |(k, (plays, _)): (usize, &(Vec<Play>, f64))| {
            let play = plays.iter().find(|p| p.disc_id == taken.disc_id)?;
            let name = &course.holes[k].name;
            (taken.holes.contains(name) && play.chance.lost > 0.0).then(|| (name.clone(), play.chance.lost))
        };
        let lost: Vec<(String, f64)> = plays.iter().enumerate().filter_map(on_hole).collect();
        let kept: f64 = lost.iter().map(|(_, lost)| 1.0 - lost).product();
        let disc = discs.iter().find(|d| d.id == taken.disc_id)?;
        let alike = |d: &&Disc| d.id != disc.id && !is_taken(d.id) && flies_alike(d, disc);
        (1.0 - kept >= OFTEN_LOST).then(|| CopyWanted {
            disc_id: disc.id,
            lost: 1.0 - kept,
            holes: lost.into_iter().map(|(name, _)| name).collect(),
            copy: discs.iter().find(alike).map(|d| d.id),
        })
    };
    take.iter().filter_map(wanted).collect()
}

/// What else goes into a bag. Common practice, no source.
fn items(discs: &[&Disc], holes: usize, day: &PlayingDay) -> Vec<PackItem> {
    let minutes = (0..holes.max(1)).map(|k| day.minute_of(k));
    let weather: Vec<(u32, Option<f64>)> =
        minutes.map(|minute| (minute, day.weather_at(minute).map(|h| h.temperature_c))).collect();
    let wet = weather.iter().any(|(minute, _)| day.is_wet_at(*minute));
    let temperatures = || weather.iter().filter_map(|(_, t)| *t);
    let cold = temperatures().any(|t| t < COLD_C);
    let hot = temperatures().any(|t| t > HOT_C);
    let dark = weather.iter().any(|(m, _)| *m >= DARK_FROM_MIN || *m < DARK_UNTIL_MIN);
    let glows = discs.iter().any(|d| d.spec.plastic == Plastic::StiffGlow);
    let item = |key, name, why: &str| Some(PackItem { key, name, why: why.to_owned() });
    let when = |asked: bool, key, name, why: &str| if asked { item(key, name, why) } else { None };
    let all = [
        item("marker", "mini marker", ""),
        item("towel", "towel", ""),
        when(wet, "towel-2", "two more towels, kept dry", "rain"),
        when(wet, "rain", "rain jacket, cover for the bag", "rain"),
        item("grip", "chalk or grip bag", if wet { "wet hands" } else { "" }),
        item("tape", "finger tape", ""),
        item("balm", "hand balm", ""),
        item("water", "water", if hot { "warm: more than usual" } else { "" }),
        item("sun", "sun cream, cap", ""),
        item("sandpaper", "sandpaper for nicks in a rim", ""),
        item("rangefinder", "rangefinder", ""),
        when(cold, "warmth", "hand warmer, gloves between throws", "cold"),
        when(
            glows || dark,
            "lamp",
            "ultraviolet lamp",
            if dark { "part of the round is in the dark" } else { "a disc glows" },
        ),
    ];
    all.into_iter().flatten().collect()
}
