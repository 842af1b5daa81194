//! Figures and words as people read them.

use crate::thrower::player::Units;

/// A share as a percentage.
pub fn percent(share: f64) -> String {
    format!("{:.0} %", 100.0 * share)
}

/// A distance given in m, in the player's units, to a whole one.
pub fn distance(units: Units, m: f64) -> String {
    match units {
        Units::Metric => format!("{m:.0} m"),
        Units::Imperial => format!("{:.0} ft", m / 0.3048),
    }
}

/// A speed given in m/s, in the player's units, to a whole one.
pub fn speed(units: Units, m_s: f64) -> String {
    match units {
        Units::Metric => format!("{m_s:.0} m/s"),
        Units::Imperial => format!("{:.0} mph", m_s * 3600.0 / 1609.344),
    }
}

/// Strokes a round, to a hundredth where they are few.
pub fn strokes(x: f64) -> String {
    if x.abs() < 0.005 {
        return if x > 0.0 { "under 0.01 strokes".into() } else { "no strokes".into() };
    }
    let figure = if x.abs() < 0.1 { format!("{x:.2}") } else { format!("{x:.1}") };
    format!("{} strokes", figure.replace('-', "−"))
}

/// Degrees with a true minus sign.
pub fn degrees(x: f64) -> String {
    format!("{x:.1}°").replace('-', "−")
}

/// A name as it is compared with others: in small letters, one space between words.
pub(crate) fn fold(name: &str) -> String {
    name.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase()
}

/// The text with its first letter large.
pub fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |c| c.to_uppercase().chain(letters).collect())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_figures_read_as_people_write_them() {
        assert_eq!(percent(0.495), "50 %");
        assert_eq!(strokes(0.0123), "0.01 strokes");
        assert_eq!(strokes(-0.25), "−0.2 strokes");
        assert_eq!(strokes(0.001), "under 0.01 strokes");
        assert_eq!(strokes(-0.0001), "no strokes");
        assert_eq!(degrees(-3.25), "−3.2°");
        assert_eq!(distance(Units::Metric, 104.4) + " " + &distance(Units::Imperial, 30.48), "104 m 100 ft");
        assert_eq!(speed(Units::Metric, 25.1) + " " + &speed(Units::Imperial, 44.704), "25 m/s 100 mph");
        assert_eq!(capital("über den Ginster"), "Über den Ginster");
        assert_eq!(capital(""), "");
    }
}
