//! The form check: which disc, thrown flat, shows an error of the release, and which hides it? An understable disc turns every error
//! into distance and side; an overstable one brings most of them back to where it always fades (common practice, no source). Worked out
//! here from flights.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::scatter::DIMENSIONS;

use crate::disc::spec::{Disc, DiscId};
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::field::emulator::turn_side;
use crate::field::fault::Fault;
use crate::field::meant::{ends, meant};
use crate::field::session::FieldSession;
use crate::field::throw::{FieldThrow, Meant};
use crate::thrower::player::Player;
use crate::thrower::style::Style;
use crate::words::distance;

/// Errors that a form check looks for, with the size for which it is worked out. Own judgement: what a club player does now and then.
const LOOKED_FOR: [(Fault, f64); 3] = [(Fault::NoseUp, 4.0), (Fault::Hyzer, 8.0), (Fault::Anhyzer, 8.0)];
/// Discs faster than this need more than form to fly flat: no form check. Own judgement.
const FASTEST: f64 = 9.5;

/// How far an error moves a disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ErrorShown {
    /// The error.
    pub fault: Fault,
    /// Its size, degrees.
    pub size: f64,
    /// How far from where it was meant to rest the disc then rests, m.
    pub moves_m: f64,
    /// In words.
    pub words: String,
}

/// What a disc, thrown flat, shows of its release.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FormDisc {
    /// The disc.
    pub disc_id: DiscId,
    /// Its name.
    pub name: String,
    /// Errors and how far each moves it.
    pub errors: Vec<ErrorShown>,
    /// How far they move it in the mean, m.
    pub shows_m: f64,
}

/// Which disc to throw for a form check.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FormCheck {
    /// The style.
    pub style: Style,
    /// The discs, those that show errors best first.
    pub discs: Vec<FormDisc>,
    /// In words: which to throw, and which would hide what it shows.
    pub words: String,
}

impl FormDisc {
    fn told(&self) -> String {
        self.errors.iter().map(|e| e.words.as_str()).collect::<Vec<_>>().join(", ")
    }
}

/// Which of a shelf's discs to throw flat in a style for a form check; none for putts and overhand throws, and without a disc slow enough.
///
/// # Errors
/// [`BagError`] for a player or a disc outside its ranges.
pub fn form_check(player: &Player, style: Style, shelf: &[Disc]) -> Result<Option<FormCheck>, BagError> {
    if !matches!(style, Style::Backhand | Style::Forehand) {
        return Ok(None);
    }
    let discs = shown_by(player, style, shelf)?;
    let Some(first) = discs.first() else { return Ok(None) };
    let mut words = format!("Throw {} flat and full: {}.", first.name, first.told());
    if let Some(last) = discs.last().filter(|last| last.shows_m < 0.7 * first.shows_m) {
        words = format!("{words} {} would hide it: {}.", last.name, last.told());
    }
    Ok(Some(FormCheck { style, discs, words }))
}

/// What discs show, those that show most first.
fn shown_by(player: &Player, style: Style, shelf: &[Disc]) -> Result<Vec<FormDisc>, BagError> {
    let side = turn_side(player, style);
    let session = FieldSession::usual();
    let mut discs = Vec::new();
    for disc in shelf {
        let held = thrown(disc)?;
        if held.speed > FASTEST {
            continue;
        }
        let meant = meant(player, &session, &FieldThrow::of(disc, style, Meant::Flat), &held)?;
        let rest = |fault: Fault, size: f64| {
            let mut with = meant;
            with.throw.release = fault.on(with.throw.release, size, -side);
            ends(player, &session, &with, &held, &[[0.0; DIMENSIONS]]).map(|ends| (ends[0].x_m, ends[0].y_m))
        };
        let (x, y) = rest(Fault::None, 0.0)?;
        let error = |&(fault, size): &(Fault, f64)| -> Result<ErrorShown, BagError> {
            let (there_x, there_y) = rest(fault, size)?;
            let moves_m = (there_x - x).hypot(there_y - y);
            let words = format!("{}: {} off", fault.words(size), distance(player.units, moves_m));
            Ok(ErrorShown { fault, size, moves_m, words })
        };
        let errors = LOOKED_FOR.iter().map(error).collect::<Result<Vec<_>, _>>()?;
        let shows_m = errors.iter().map(|e| e.moves_m).sum::<f64>() / errors.len() as f64;
        discs.push(FormDisc { disc_id: disc.id, name: disc.spec.name.clone(), errors, shows_m });
    }
    discs.sort_by(|a, b| b.shows_m.total_cmp(&a.shows_m));
    Ok(discs)
}
