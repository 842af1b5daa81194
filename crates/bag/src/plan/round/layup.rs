//! Where a throw that does not reach the basket had best end: the drawn lay-up, or nearer or farther.

use serde::Serialize;
use utoipa::ToSchema;

use crate::error::BagError;
use crate::plan::round::card::{Caddie, WORTH_CHANGING};
use crate::plan::round::hole::{OnHole, Play, SELDOM};
use crate::words::{distance, percent, strokes};

/// What is left of less than this is an approach, not a lay-up, m. Own judgement.
const LONG_M: f64 = 30.0;
/// Other places that are tried, as shares of the way to the drawn one.
const TRIED: [f64; 5] = [0.7, 0.8, 0.9, 1.1, 1.2];

/// Where to lay up.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct LayUp {
    /// How far away to aim, m: where the way's own line ends, or another place that leaves fewer strokes.
    pub aim_m: f64,
    /// How far it is to the basket from there, m.
    pub leaves_m: f64,
    /// Strokes from there, in the mean.
    pub strokes_left: f64,
    /// What it saves against the throw of the card, strokes; 0 if that ends there.
    pub saves: f64,
    /// In words.
    pub words: String,
}

/// Where a throw had best end, if it is a lay-up.
///
/// # Errors
/// [`BagError`] for a disc that cannot be thrown.
pub(super) fn lay_up(caddie: &Caddie, here: &OnHole, best: &Play) -> Result<Option<LayUp>, BagError> {
    let way = &here.ways[best.way].0;
    let units = caddie.player.units;
    let left_m = |aim_m: f64| {
        let basket = here.hole.basket_on(way);
        (basket.at_m - aim_m).hypot(basket.left_m)
    };
    let drawn_m = way.line.distance_m;
    if left_m(drawn_m) < LONG_M {
        return Ok(None);
    }
    let now_m = best.short.as_ref().map_or(drawn_m, |short| short.distance_m);
    let mut found = (now_m, best.strokes, best.disc_id);
    for share in TRIED {
        let aim_m = share * drawn_m;
        // Past the basket nothing is laid up.
        if left_m(aim_m) < LONG_M || aim_m > here.hole.length_m {
            continue;
        }
        if let Some(play) = here.aimed(best.way, aim_m, caddie)?
            && play.strokes + WORTH_CHANGING <= found.1
        {
            found = (aim_m, play.strokes, play.disc_id);
        }
    }
    let (aim_m, least, disc_id) = found;
    let (leaves_m, saves) = (left_m(aim_m), best.strokes - least);
    let strokes_left = here.left.strokes(leaves_m);
    let from_there = format!("{} from there, {strokes_left:.1} strokes", distance(units, leaves_m));
    let words = if aim_m == drawn_m && best.chance.chance < SELDOM {
        let made = percent(best.chance.chance);
        format!("The lay-up is made {made} of the time ({from_there}), but nearer or farther saves nothing.")
    } else if aim_m == drawn_m {
        format!("The lay-up is well placed: {from_there}; nearer or farther saves nothing.")
    } else {
        let (aim, drawn) = (distance(units, aim_m), distance(units, drawn_m));
        let saved = if saves > 0.0 { format!(" Saves {}.", strokes(saves)) } else { String::new() };
        format!("Lay up {aim} away instead of {drawn}, with {}: {from_there}.{saved}", caddie.name(disc_id))
    };
    Ok(Some(LayUp { aim_m, leaves_m, strokes_left, saves, words }))
}
