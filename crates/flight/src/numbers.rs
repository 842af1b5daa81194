//! The four numbers by which the sport describes a disc.

use serde::{Deserialize, Serialize};

use crate::error::{FlightError, check};

/// The four flight numbers, as printed on a disc or as it is really found to be.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct FlightNumbers {
    /// Speed, 0.5 to 15: how fast it must be thrown to fly as rated.
    pub speed: f64,
    /// Glide, 0 to 8: how long it stays up.
    pub glide: f64,
    /// Turn, −8 to 3: negative bends away from the fade side at high speed.
    pub turn: f64,
    /// Fade, −1 to 7: bends to the natural side at low speed.
    pub fade: f64,
}

impl FlightNumbers {
    /// Numbers in the order they are printed.
    pub const fn new(speed: f64, glide: f64, turn: f64, fade: f64) -> FlightNumbers {
        FlightNumbers { speed, glide, turn, fade }
    }

    /// # Errors
    /// [`FlightError::OutOfRange`] for the first number outside its range.
    pub fn validate(&self) -> Result<(), FlightError> {
        check("speed", self.speed, 0.5, 15.0)?;
        check("glide", self.glide, 0.0, 8.0)?;
        check("turn", self.turn, -8.0, 3.0)?;
        check("fade", self.fade, -1.0, 7.0)
    }

    /// The nearest numbers within range: for sums of adjustments that run past an end.
    pub fn clamped(self) -> FlightNumbers {
        FlightNumbers {
            speed: self.speed.clamp(0.5, 15.0),
            glide: self.glide.clamp(0.0, 8.0),
            turn: self.turn.clamp(-8.0, 3.0),
            fade: self.fade.clamp(-1.0, 7.0),
        }
    }
}
