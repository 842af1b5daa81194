//! Readings of a rangefinder: a JSON object a line, `{"distance_m":84.2,"bearing_deg":230.1,"slope_deg":-2.4}`.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::course::survey::{ReadFrom, Reading};

/// A reading.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Shot {
    /// Distance along the beam, m.
    pub distance_m: f64,
    /// Direction, degrees clockwise from north.
    pub bearing_deg: f64,
    /// How far up the beam points, degrees.
    pub slope_deg: f64,
}

/// The line of a reading, its end with it.
pub fn write(shot: &Shot) -> String {
    let json = serde_json::to_string(shot).unwrap_or_else(|e| unreachable!("three numbers are JSON: {e}"));
    format!("{json}\n")
}

/// Reads a line.
///
/// # Errors
/// What is wrong with it.
pub fn read(line: &str) -> Result<Shot, String> {
    let shot: Shot = serde_json::from_str(line.trim()).map_err(|e| format!("a reading was expected: {e}"))?;
    let Shot { distance_m, bearing_deg, slope_deg } = shot;
    let reading = Reading { from: ReadFrom::Tee, distance_m, bearing_deg, slope_deg };
    reading.validate().map_err(|e| e.to_string())?;
    Ok(shot)
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn prop_what_is_written_is_read(distance_m in 1.0..600.0_f64, bearing_deg in 0.0..360.0_f64, slope_deg in -60.0..60.0_f64) {
            let shot = Shot { distance_m, bearing_deg, slope_deg };
            prop_assert_eq!(read(&write(&shot)), Ok(shot));
        }

        #[test]
        fn prop_any_line_is_read_or_told(line in ".{0,200}") {
            let _ = read(&line);
        }
    }

    #[test]
    fn prop_what_cannot_be_is_told() {
        for (line, why) in [
            ("{\"distance_m\": 84}", "bearing_deg"),
            ("{\"distance_m\":-1,\"bearing_deg\":0,\"slope_deg\":0}", "distance_m"),
            ("{\"distance_m\":80,\"bearing_deg\":400,\"slope_deg\":0}", "bearing_deg"),
            ("{\"distance_m\":80,\"bearing_deg\":0,\"slope_deg\":75}", "slope_deg"),
            ("distance 80", "a reading was expected"),
        ] {
            let told = read(line).unwrap_err();
            assert!(told.contains(why), "{line}: {told}");
        }
    }
}
