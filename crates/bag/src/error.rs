//! What can be wrong with a player, a disc or a line. Each message says what was expected, what came and how to mend it.

use zinc_kite_flight::error::FlightError;

/// A value that the judgement cannot use.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BagError {
    /// A named field lies outside its range.
    #[error("{field} must be {expected}, got {got}; correct it and save again")]
    Field {
        /// Name of the field, as in the JSON or CSV.
        field: &'static str,
        /// What is accepted.
        expected: String,
        /// What came.
        got: String,
    },
    /// Whoever asked no longer waits for the answer.
    #[error("the judgement was stopped before it was done; ask again")]
    Stopped,
    /// The simulator refused a value.
    #[error(transparent)]
    Flight(#[from] FlightError),
}

impl BagError {
    /// Name of the field at fault.
    pub fn field(&self) -> &'static str {
        match self {
            BagError::Field { field, .. } => field,
            BagError::Stopped => "",
            BagError::Flight(FlightError::OutOfRange { name, .. }) => name,
            BagError::Flight(FlightError::NeverLanded { .. }) => "throw",
        }
    }
}

/// Accepts a finite `value` within `min..=max`.
///
/// # Errors
/// [`BagError::Field`] otherwise.
pub fn within(field: &'static str, value: f64, min: f64, max: f64) -> Result<(), BagError> {
    if value.is_finite() && (min..=max).contains(&value) {
        Ok(())
    } else {
        Err(BagError::Field {
            field,
            expected: format!("a number from {min} to {max}"),
            got: value.to_string(),
        })
    }
}

/// Accepts a text that is not blank and has at most `longest` characters.
///
/// # Errors
/// [`BagError::Field`] otherwise.
pub fn named(field: &'static str, value: &str, longest: usize) -> Result<(), BagError> {
    let length = value.trim().chars().count();
    if (1..=longest).contains(&length) {
        Ok(())
    } else {
        Err(BagError::Field {
            field,
            expected: format!("a text of 1 to {longest} characters"),
            got: if length == 0 { "an empty text".into() } else { format!("{length} characters") },
        })
    }
}
