//! What can be wrong with a throw before it is flown.

/// A quantity that the simulator cannot use. Each message says what was expected, what came and how to mend it.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum FlightError {
    /// A named quantity is not finite or lies outside the range for which the model means anything.
    #[error("{name} must be between {min} and {max}, got {value}; correct that value and try again")]
    OutOfRange {
        /// Name of the quantity, with its unit.
        name: &'static str,
        /// The value that came.
        value: f64,
        /// Least accepted value.
        min: f64,
        /// Greatest accepted value.
        max: f64,
    },
    /// The disc was still in the air when the bounded flight time ran out.
    #[error(
        "the disc was still flying after {limit_s} s; check wind, mass and coefficients, an ordinary throw lands within 15 s"
    )]
    NeverLanded {
        /// The bound on flight time in seconds.
        limit_s: f64,
    },
}

/// Accepts `value` when it is finite and within `min..=max`.
///
/// # Errors
/// [`FlightError::OutOfRange`] otherwise, a NaN included.
pub fn check(name: &'static str, value: f64, min: f64, max: f64) -> Result<(), FlightError> {
    if value.is_finite() && (min..=max).contains(&value) {
        Ok(())
    } else {
        Err(FlightError::OutOfRange { name, value, min, max })
    }
}
