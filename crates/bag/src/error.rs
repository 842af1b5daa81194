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
    /// A number lies outside its range.
    #[error("{field} must be a number from {least} to {most}, got {}; correct it and save again", in_figures(*got))]
    Range {
        /// Name of the field, as in the JSON or CSV; its ending is its unit.
        field: &'static str,
        /// Least accepted.
        least: f64,
        /// Greatest accepted.
        most: f64,
        /// What came.
        got: f64,
    },
    /// Whoever asked no longer waits for the answer.
    #[error("the judgement was stopped before it was done; ask again")]
    Stopped,
    /// The simulator refused a value.
    #[error(transparent)]
    Flight(#[from] FlightError),
}

impl BagError {
    /// What was expected, for whoever says by themselves of what and what came.
    pub fn expected(&self) -> String {
        match self {
            BagError::Field { expected, .. } => expected.clone(),
            BagError::Range { least, most, .. } => format!("a number from {least} to {most}"),
            BagError::Stopped | BagError::Flight(_) => self.to_string(),
        }
    }

    /// Name of the field at fault.
    pub fn field(&self) -> &'static str {
        match self {
            BagError::Field { field, .. } | BagError::Range { field, .. } => field,
            BagError::Stopped => "",
            BagError::Flight(FlightError::OutOfRange { name, .. }) => name,
            BagError::Flight(FlightError::NeverLanded { .. }) => "throw",
        }
    }
}

/// Accepts a finite `value` within `min..=max`.
///
/// # Errors
/// [`BagError::Range`] otherwise.
pub fn within(field: &'static str, value: f64, min: f64, max: f64) -> Result<(), BagError> {
    if value.is_finite() && (min..=max).contains(&value) {
        Ok(())
    } else {
        Err(BagError::Range { field, least: min, most: max, got: value })
    }
}

/// A number as somebody would write it: not three hundred digits of it.
fn in_figures(value: f64) -> String {
    let size = value.abs();
    if size >= 1e9 || (size > 0.0 && size < 1e-6) { format!("{value:e}") } else { value.to_string() }
}

/// Whether a character shows nothing, or changes how others show: control characters, spaces of no width, marks of direction.
fn is_invisible(c: char) -> bool {
    c.is_control()
        || matches!(c, '\u{ad}' | '\u{200b}'..='\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2060}'..='\u{206f}' | '\u{feff}')
}

/// Accepts a text of at most `longest` characters all of which can be seen; lines may end.
///
/// # Errors
/// [`BagError::Field`] otherwise.
pub fn readable(field: &'static str, value: &str, longest: usize) -> Result<(), BagError> {
    let refused = |expected: String, got: String| Err(BagError::Field { field, expected, got });
    let length = value.chars().count();
    if length > longest {
        return refused(format!("at most {longest} characters"), format!("{length} characters"));
    }
    match value.chars().find(|&c| is_invisible(c) && !matches!(c, '\n' | '\r' | '\t')) {
        Some(c) => refused(
            "a text without invisible characters".into(),
            format!("one with U+{:04X}, which shows nothing", u32::from(c)),
        ),
        None => Ok(()),
    }
}

/// Accepts a text in one line that is not blank and has at most `longest` characters, all of which can be seen.
///
/// # Errors
/// [`BagError::Field`] otherwise.
pub fn named(field: &'static str, value: &str, longest: usize) -> Result<(), BagError> {
    let length = value.trim().chars().count();
    if (1..=longest).contains(&length) {
        readable(field, value, usize::MAX)?;
        match value.trim().contains(['\n', '\r', '\t']) {
            false => Ok(()),
            true => {
                let got = "a text that goes on in another line or column".into();
                Err(BagError::Field { field, expected: "a text in one line".into(), got })
            }
        }
    } else {
        Err(BagError::Field {
            field,
            expected: format!("a text of 1 to {longest} characters"),
            got: if length == 0 { "an empty text".into() } else { format!("{length} characters") },
        })
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("Purlin 3", true)]
    #[case("Öl & Æther “2”, ½ 🥏", true)]
    #[case("", false)]
    #[case("   ", false)]
    #[case("a\u{0}b", false)]
    #[case("\u{1b}[31mred", false)]
    #[case("two\nlines", false)]
    #[case("zero\u{200b}width", false)]
    #[case("turned\u{202e}round", false)]
    #[case("\u{feff}marked", false)]
    fn prop_a_name_can_be_seen(#[case] name: &str, #[case] accepted: bool) {
        assert_eq!(named("name", name, 60).is_ok(), accepted);
    }

    #[test]
    fn prop_a_note_may_have_lines_and_a_refusal_says_what_is_wrong() {
        assert!(readable("notes", "first\nsecond\tthird", 100).is_ok());
        let error = readable("notes", "a\u{7}b", 100).unwrap_err().to_string();
        assert!(error.contains("U+0007"), "{error}");
        let error = within("mass_g", 1e308, 60.0, 220.0).unwrap_err().to_string();
        assert!(error.contains("got 1e308;"), "{error}");
    }
}
