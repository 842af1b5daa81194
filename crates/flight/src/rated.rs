//! A disc as its numbers promise it, by the calibration that the program ships with.

use crate::disc::{Coefficients, Disc};
use crate::error::FlightError;
use crate::fitted::FITTED;
use crate::numbers::FlightNumbers;

impl FlightNumbers {
    /// Coefficients by the calibrated map.
    pub fn coefficients(&self) -> Coefficients {
        FITTED.coefficients(self)
    }

    /// The disc with these numbers and mass (kg).
    ///
    /// # Errors
    /// [`FlightError::OutOfRange`] for a number or a mass outside its range.
    pub fn disc(&self, mass_kg: f64) -> Result<Disc, FlightError> {
        self.validate()?;
        Disc::standard(self.coefficients(), mass_kg)
    }
}
