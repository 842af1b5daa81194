//! What the wind does to a choice: from where on another disc is better, and the two schools' answers to it.

use serde::Serialize;
use utoipa::ToSchema;

use crate::course::hole::Hole;
use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::Disc;
use crate::error::BagError;
use crate::plan::round::card::{Caddie, Choice};
use crate::plan::round::hole::{OnHole, Play};
use crate::thrower::day::Conditions;
use crate::words::{speed, strokes};

/// Winds that are asked along a hole, m/s: up to this strong from ahead and from behind, so far apart, and then between.
const STRONGEST_M_S: f64 = 10.0;
const STEP_M_S: f64 = 2.0;
/// A wind along the throw to which the schools have an answer, m/s. Own judgement.
const ANSWERED_M_S: f64 = 3.0;
/// By how much turn and fade together may differ between discs that bend alike, and must between one more stable and one less.
const ALIKE: f64 = 1.0;
const MORE: f64 = 0.5;

/// From a wind along a hole on another disc is better.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Flip {
    /// Wind along the straight way to the basket, m/s, tail positive; across it blows as it does on the day.
    pub along_m_s: f64,
    /// What to throw from there on.
    pub choice: Choice,
    /// In words.
    pub words: String,
}

/// The nearest winds on either side of the day's, along the hole, from which on another disc is better.
pub(super) fn flips(
    caddie: &Caddie,
    hole: &Hole,
    on: &Conditions,
    best: &Play,
) -> Result<Vec<Flip>, BagError> {
    let mut flips = Vec::new();
    for sign in [-1.0, 1.0] {
        flips.extend(flip(caddie, hole, on, best, sign)?);
    }
    Ok(flips)
}

fn flip(
    caddie: &Caddie,
    hole: &Hole,
    on: &Conditions,
    best: &Play,
    sign: f64,
) -> Result<Option<Flip>, BagError> {
    let wind = on.wind();
    let better = |along_m_s: f64| -> Result<Option<(Choice, f64)>, BagError> {
        let there = on.blowing(zinc_kite_flight::air::Wind { along_m_s, ..wind }, on.gust_m_s);
        let there = caddie.on_hole(hole, &there)?;
        let play = caddie.better_than(&there, best)?;
        Ok(play.map(|play| (caddie.choice(&there, &play), along_m_s)))
    };
    let mut asked = sign * ((sign * wind.along_m_s / STEP_M_S).floor() + 1.0) * STEP_M_S;
    while asked.abs() <= STRONGEST_M_S {
        if let Some(found) = better(asked)? {
            // Half a step nearer to the day's wind it may be so already.
            let nearer = asked - sign * 0.5 * STEP_M_S;
            let beyond_the_day = sign * (nearer - wind.along_m_s) > 0.0;
            let nearer = if beyond_the_day { better(nearer)? } else { None };
            let (choice, along_m_s) = nearer.unwrap_or(found);
            let words = flip_in_words(caddie, &choice, wind.along_m_s, along_m_s);
            return Ok(Some(Flip { along_m_s, choice, words }));
        }
        asked += sign * STEP_M_S;
    }
    Ok(None)
}

fn flip_in_words(caddie: &Caddie, choice: &Choice, now_m_s: f64, along_m_s: f64) -> String {
    let (units, disc) = (caddie.player.units, &choice.disc_name);
    let wind = |along_m_s: f64| if along_m_s < 0.0 { "headwind" } else { "tailwind" };
    let strength = speed(units, along_m_s.abs());
    match along_m_s {
        0.0 => format!("When the {} drops take {disc}.", wind(now_m_s)),
        a if a * now_m_s > 0.0 && a.abs() < now_m_s.abs() => {
            format!("When the {} drops to {strength} take {disc}.", wind(a))
        }
        a => format!("From {strength} {} take {disc}.", wind(a)),
    }
}

/// The two answers to a wind along the throw: a step across to a disc of the same class that the wind bends as calm bends the
/// usual one, and a step up to the next class with the same bend.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WindSchools {
    /// What is thrown there in calm.
    pub calm: Choice,
    /// The same class, more stable into the wind, less before it.
    pub across: Choice,
    /// The next class, as stable.
    pub up: Choice,
    /// In words.
    pub words: String,
}

fn stability(disc: &Disc) -> f64 {
    let numbers = as_thrown(&disc.spec).result;
    numbers.turn + numbers.fade
}

/// What the schools say of a wind along the way that is thrown in calm, if both have an answer; `plays` have the fewest strokes
/// first.
pub(super) fn schools(
    caddie: &Caddie,
    here: &OnHole,
    calm: &Choice,
    plays: &[Play],
    along_m_s: f64,
) -> Option<WindSchools> {
    if along_m_s.abs() < ANSWERED_M_S {
        return None;
    }
    let disc = |id| caddie.discs.iter().find(|d| d.id == id).copied();
    let usual = disc(calm.disc_id)?;
    let lane = |d: &Disc| caddie.player.lane(d.spec.slot());
    let next = caddie
        .player
        .lanes()
        .filter(|slot| *slot > lane(usual) && caddie.discs.iter().any(|d| lane(d) == *slot))
        .min()?;
    let on_way = || plays.iter().filter(|p| p.way == calm.way);
    let more = |d: &Disc| (stability(d) - stability(usual)) * -along_m_s.signum();
    let across =
        on_way().find(|p| disc(p.disc_id).is_some_and(|d| lane(d) == lane(usual) && more(d) >= MORE))?;
    let alike = |d: &Disc| (stability(d) - stability(usual)).abs() <= ALIKE;
    let up = on_way().find(|p| disc(p.disc_id).is_some_and(|d| lane(d) == next && alike(d)))?;
    let (across, up) = (caddie.choice(here, across), caddie.choice(here, up));
    let by = up.strokes - across.strokes;
    let (first, better, by) = if by >= 0.0 { ("across", &across, by) } else { ("up", &up, -by) };
    let words = if by < 0.005 {
        format!("Across to {} and up to {} cost the same.", across.disc_name, up.disc_name)
    } else {
        format!("A step {first} to {} saves {}.", better.disc_name, strokes(by))
    };
    Some(WindSchools { calm: calm.clone(), across, up, words })
}
