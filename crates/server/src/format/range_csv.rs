//! Throws of the range as CSV.

use serde::Deserialize;
use utoipa::ToSchema;
use zinc_kite_bag::range::throws::RangeFlight;

/// Which table.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum RangeTable {
    /// A row for each throw.
    Figures,
    /// A row for each moment of each throw.
    Paths,
}

/// Writes the throws, each with its name.
///
/// # Errors
/// If the table cannot be written, which memory never refuses.
pub fn write(flights: &[(&str, &RangeFlight)], table: RangeTable) -> Result<String, csv::Error> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    match table {
        RangeTable::Figures => {
            writer.write_record([
                "throw",
                "speed_m_s",
                "spin_rad_s",
                "carry_m",
                "distance_m",
                "finish_left_m",
                "swing_m",
                "swings_left",
                "apex_m",
                "time_s",
                "landing_m_s",
                "descent_deg",
                "run_m",
                "spread_long_m",
                "spread_wide_m",
                "within_10_m",
            ])?;
            for (name, f) in flights {
                let numbers = [
                    f.speed_m_s,
                    f.spin_rad_s,
                    f.carry_m,
                    f.distance_m,
                    f.finish_left_m,
                    f.swing_m,
                    f64::from(u8::from(f.swings_left)),
                    f.apex_m,
                    f.time_s,
                    f.landing_m_s,
                    f.descent_deg,
                    f.run_m,
                    f.spread_long_m,
                    f.spread_wide_m,
                    f.within_10_m,
                ];
                let row = std::iter::once((*name).to_owned()).chain(numbers.map(|x| format!("{x:.3}")));
                writer.write_record(row)?;
            }
        }
        RangeTable::Paths => {
            writer.write_record(["throw", "t_s", "x_m", "y_m", "z_m"])?;
            for (name, f) in flights {
                for m in &f.path {
                    let numbers = [m.t_s, m.x_m, m.y_m, m.z_m].map(|x| format!("{x:.3}"));
                    writer.write_record(std::iter::once((*name).to_owned()).chain(numbers))?;
                }
            }
        }
    }
    let bytes = writer.into_inner().map_err(|e| e.into_error())?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}
