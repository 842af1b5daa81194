//! Whether any disc at all could make a line: a lattice of ideal discs.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::chance::memo::Memo;
use crate::chance::search::{chance, room_m};
use crate::disc::spec::Numbers;
use crate::disc::thrown::Thrown;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;

/// The best disc of the lattice for a line: what to look for in a shop.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Ideal {
    /// Its numbers as thrown.
    pub numbers: Numbers,
    /// Its chance.
    pub chance: f64,
}

const SPEEDS: [(f64, f64); 5] = [(3.0, 3.0), (5.0, 4.0), (7.0, 5.0), (9.0, 5.0), (12.0, 5.0)];
const TURNS: [f64; 4] = [0.0, -1.0, -2.0, -3.5];
const FADES: [f64; 4] = [0.0, 1.0, 2.5, 4.0];
/// Mass of an ideal disc, kg.
const IDEAL_MASS_KG: f64 = 0.175;

/// Discs of the lattice whose chance is worked out in full: the ones with most room.
const PROMISING: usize = 20;

/// Chances this near to one another say the same about two discs. Own judgement.
const ABOUT_AS_WELL: f64 = 0.03;
/// Fade of an ordinary disc.
const USUAL_FADE: f64 = 1.5;

/// Best chance over the lattice: five speeds, each with the glide usual for it, four turns, four fades.
pub fn ideal(arm: &Arm, line: &LineSpec, memo: &Memo) -> Option<Ideal> {
    let lattice: Vec<FlightNumbers> = SPEEDS
        .iter()
        .filter(|(speed, _)| line.fastest_speed.is_none_or(|fastest| *speed <= fastest))
        .flat_map(|&(speed, glide)| {
            TURNS.iter().flat_map(move |&turn| {
                FADES.iter().map(move |&fade| FlightNumbers::new(speed, glide, turn, fade))
            })
        })
        .collect();
    let mut roomy: Vec<(f64, FlightNumbers, Thrown)> = lattice
        .par_iter()
        .filter_map(|numbers| {
            let thrown = Thrown::ordinary(numbers.disc(IDEAL_MASS_KG).ok()?, numbers.speed);
            Some((room_m(arm, thrown, line, memo)?, *numbers, thrown))
        })
        .collect();
    roomy.sort_by(|a, b| b.0.total_cmp(&a.0));
    roomy.truncate(PROMISING);
    let judged: Vec<Ideal> = roomy
        .par_iter()
        .map(|(_, numbers, thrown)| Ideal {
            numbers: (*numbers).into(),
            chance: chance(arm, *thrown, line, memo).chance,
        })
        .collect();
    let best = judged.iter().map(|i| i.chance).fold(0.0, f64::max);
    // What is looked for should be easy to find: of the discs that do about as well as the best, the most ordinary.
    let oddity = |i: &Ideal| i.numbers.turn.powi(2) + (i.numbers.fade - USUAL_FADE).powi(2);
    judged
        .into_iter()
        .filter(|i| i.chance >= best - ABOUT_AS_WELL)
        .min_by(|a, b| oddity(a).total_cmp(&oddity(b)).then(b.chance.total_cmp(&a.chance)))
}
