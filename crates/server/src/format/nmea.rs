//! Wind as instruments say it: sentences MWV of NMEA 0183, the format from memory.
//!
//! `$WIMWV,214.8,T,3.2,M,A*hh`: who says it and what, the angle in degrees, T from true north or R from where the instrument points,
//! the speed, its unit (K km/h, M m/s, N knots), A for valid or V for not, and behind the star two hexadecimal digits: all characters
//! between $ and * joined by exclusive or.

use serde::Serialize;
use utoipa::ToSchema;

/// Strongest wind that is believed, m/s.
const STRONGEST_M_S: f64 = 75.0;

/// A wind as a meter says it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct SaidWind {
    /// Where it blows from, degrees clockwise from north; of a meter that is not aligned by itself, from where it points.
    pub from_deg: f64,
    /// How strong, m/s.
    pub wind_m_s: f64,
}

fn checksum(body: &str) -> u8 {
    body.bytes().fold(0, |sum, byte| sum ^ byte)
}

/// The sentence of a wind, its end with it.
pub fn write(wind: &SaidWind) -> String {
    let body = format!("WIMWV,{:.1},T,{:.1},M,A", wind.from_deg, wind.wind_m_s);
    format!("${body}*{:02X}\r\n", checksum(&body))
}

/// Reads a sentence.
///
/// # Errors
/// What is wrong with it.
pub fn read(line: &str) -> Result<SaidWind, String> {
    let inner = line.trim().strip_prefix('$').ok_or("a sentence that begins with $ was expected")?;
    let (body, said) = inner.rsplit_once('*').ok_or("a checksum behind * was expected, none came")?;
    let is_hex = said.len() == 2 && said.bytes().all(|b| b.is_ascii_hexdigit());
    let comes_to = format!("{:02X}", checksum(body));
    if !is_hex || !said.eq_ignore_ascii_case(&comes_to) {
        return Err(format!("the checksum {comes_to} was expected, {said:.8} came"));
    }
    let fields: Vec<&str> = body.split(',').collect();
    let [name, angle, reference, speed, unit, status] = fields[..] else {
        return Err(format!("five fields behind the name were expected, {} came", fields.len() - 1));
    };
    if name.len() != 5 || !name.ends_with("MWV") {
        return Err(format!("a wind (MWV) was expected, {name:.8} came"));
    }
    if !matches!(reference, "R" | "T") {
        return Err(format!("R or T was expected, {reference:.8} came"));
    }
    if status != "A" {
        return Err("the meter says that it is not valid".into());
    }
    let to_m_s = match unit {
        "K" => 1.0 / 3.6,
        "M" => 1.0,
        "N" => 1852.0 / 3600.0,
        other => return Err(format!("K, M or N was expected as the unit, {other:.8} came")),
    };
    let number = |what: &str, text: &str, most: f64| {
        let read = text.parse::<f64>().ok().filter(|x| (0.0..=most).contains(x));
        read.ok_or(format!("{what} from 0 to {most:.0} was expected, {text:.16} came"))
    };
    let from_deg = number("an angle", angle, 360.0)? % 360.0;
    Ok(SaidWind { from_deg, wind_m_s: to_m_s * number("a speed", speed, STRONGEST_M_S / to_m_s)? })
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use rstest::rstest;

    #[rstest]
    #[case("WIMWV,250.0,T,9.7,N,A", 4.99)]
    #[case("WIMWV,250.0,R,18.0,K,A", 5.0)]
    #[case("IIMWV,250.0,T,5.0,M,A", 5.0)]
    fn prop_units_come_to_metres_a_second(#[case] body: &str, #[case] wind_m_s: f64) {
        let read = read(&format!("${body}*{:02x}\r\n", checksum(body))).unwrap();
        assert!((read.wind_m_s - wind_m_s).abs() < 0.01 && read.from_deg == 250.0, "{read:?}");
    }

    /// The sentence that descriptions of the format mostly show, from memory.
    #[test]
    fn val_the_checksum_of_a_well_known_sentence() {
        assert_eq!(checksum("GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,"), 0x47);
    }

    #[rstest]
    #[case("", "begins with $")]
    #[case("$WIMWV,250.0,T,5.0,M,A", "checksum")]
    #[case("$WIMWV,250.0,T,5.0,M,A*00", "checksum")]
    #[case("$WIMWV,250.0,T,5.0,M,A*F00", "checksum")]
    fn prop_what_is_no_sentence_is_told(#[case] line: &str, #[case] why: &str) {
        let told = read(line).unwrap_err();
        assert!(told.contains(why), "{told}");
    }

    #[rstest]
    #[case("WIMWV,250.0,T,5.0,M,V", "not valid")]
    #[case("WIMWV,250.0,T,5.0,F,A", "unit")]
    #[case("WIMWV,250.0,X,5.0,M,A", "R or T")]
    #[case("WIMWV,,T,5.0,M,A", "angle")]
    #[case("WIMWV,250.0,T,500.0,M,A", "speed")]
    #[case("WIMWV,250.0,T,NaN,M,A", "speed")]
    #[case("WIVHW,250.0,T,5.0,M,A", "MWV")]
    #[case("WIMWV,250.0,T,5.0", "five fields")]
    fn prop_a_whole_sentence_that_is_no_wind_is_told(#[case] body: &str, #[case] why: &str) {
        let told = read(&format!("${body}*{:02X}", checksum(body))).unwrap_err();
        assert!(told.contains(why), "{told}");
    }

    proptest! {
        #[test]
        fn prop_what_is_written_is_read(from_deg in 0.0..359.9_f64, wind_m_s in 0.0..70.0_f64) {
            let back = read(&write(&SaidWind { from_deg, wind_m_s })).unwrap();
            prop_assert!((back.from_deg - from_deg).abs() < 0.06 && (back.wind_m_s - wind_m_s).abs() < 0.06);
        }

        #[test]
        fn prop_one_wrong_character_is_noticed(at in 1_usize..20, c in "[A-Z0-9]") {
            let line = write(&SaidWind { from_deg: 214.8, wind_m_s: 3.2 });
            let mut spoilt = line.clone();
            spoilt.replace_range(at..=at, &c);
            prop_assert!(spoilt == line || read(&spoilt).is_err());
        }

        #[test]
        fn prop_any_line_is_read_or_told(line in ".{0,200}") {
            let _ = read(&line);
        }
    }
}
