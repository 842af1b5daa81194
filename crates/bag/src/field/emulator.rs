//! What throws meant alike do, as a function of the disc's numbers: flown once over a small design, then only evaluated.

use nalgebra::{SMatrix, SVector};
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::release::spin_sense;
use zinc_kite_flight::scatter::deviates;

use crate::disc::thrown::Thrown;
use crate::error::BagError;
use crate::field::design::{Surface, points, terms_in};
use crate::field::meant::{ends, meant};
use crate::field::session::FieldSession;
use crate::field::sight::{Covariance, Quantities, SEEN, covariance, flown, mean};
use crate::field::throw::FieldThrow;
use crate::thrower::player::Player;
use crate::thrower::style::Style;

/// Numbers of a disc that are asked for: speed, glide, turn, fade.
pub(crate) const ASKED: usize = 4;
const TERMS: usize = terms_in(ASKED);
/// Throws flown at each point of the design.
const FLOWN: usize = 128;

/// Numbers in units of how unsure they are at first, from the middle.
pub(crate) type Units = SVector<f64, ASKED>;
/// The terms of the polynomials in them.
pub(crate) type Terms = SVector<f64, TERMS>;

/// How unsure the numbers of a disc are before it is thrown: standard deviations about its as-thrown sum. Own judgement: discs of one
/// run differ by about half a number, and the sum's own constants are no surer.
pub(crate) const UNSURE: [f64; ASKED] = [0.7, 0.7, 0.9, 0.8];

/// The numbers so many units from the middle, within the range of the model.
pub(crate) fn numbers_at(middle: &FlightNumbers, units: &Units) -> FlightNumbers {
    let [speed, glide, turn, fade] = std::array::from_fn(|k| UNSURE[k] * units[k]);
    FlightNumbers::new(middle.speed + speed, middle.glide + glide, middle.turn + turn, middle.fade + fade)
        .clamped()
}

/// The side to which a disc turns first in a style, as in [`flown`].
pub(crate) fn turn_side(player: &Player, style: Style) -> f64 {
    -spin_sense(player.hand.into(), style.into())
}

/// Throws meant alike with a disc.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Alike<'a> {
    /// Who throws.
    pub player: &'a Player,
    /// In which air and onto which ground.
    pub session: &'a FieldSession,
    /// How, and in which wind.
    pub like: &'a FieldThrow,
    /// The disc as it is held.
    pub held: &'a Thrown,
    /// The numbers about which it is asked.
    pub middle: &'a FlightNumbers,
    /// Its mass, kg.
    pub mass_kg: f64,
}

impl Alike<'_> {
    /// What such throws do with a disc of some numbers.
    fn fly(&self, numbers: &FlightNumbers) -> Result<Vec<Quantities>, BagError> {
        let disc = Thrown { body: numbers.disc(self.mass_kg)?, ..*self.held };
        let meant = meant(self.player, self.session, self.like, &disc)?;
        let row = &deviates(self.like.style.into())[..FLOWN];
        let side = turn_side(self.player, self.like.style);
        let outcomes = ends(self.player, self.session, &meant, &disc, row)?;
        Ok(outcomes.iter().map(|o| flown(o, side)).collect())
    }

    /// How they scatter with a disc so many units from the middle. Were the scatter let go along with the numbers as they are drawn, it
    /// would be read from the few throws that lie far off: their squares are much less sure than a normal distribution has them, since a
    /// disc skips or turns over.
    pub fn scatter(&self, units: &Units) -> Result<Covariance, BagError> {
        Ok(covariance(&self.fly(&numbers_at(self.middle, units))?))
    }
}

/// Means of throws meant alike, for any numbers of their disc.
#[derive(Debug, Clone)]
pub(crate) struct Emulator(Surface<ASKED, TERMS, SEEN>);

impl Emulator {
    /// Of some throws.
    pub fn of(alike: &Alike<'_>) -> Result<Emulator, BagError> {
        let flown = points::<ASKED>()
            .iter()
            .map(|units| Ok(mean(&alike.fly(&numbers_at(alike.middle, units))?)))
            .collect::<Result<Vec<Quantities>, BagError>>()?;
        Ok(Emulator(Surface::through(&flown)))
    }

    /// The mean for some numbers by their terms.
    pub fn mean(&self, terms: &Terms) -> Quantities {
        self.0.at(terms)
    }

    /// How the mean moves with each number in the middle, per unit.
    pub fn slopes(&self) -> SMatrix<f64, SEEN, ASKED> {
        self.0.slopes()
    }
}
