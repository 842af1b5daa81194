//! Figures and words as people read them.

use jiff::civil::Date;

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

/// A day's month and year.
pub fn month(on: Date) -> String {
    format!("{} {}", MONTHS[usize::try_from(on.month() - 1).unwrap_or(0)], on.year())
}

/// A day: its number, month and year.
pub fn day(on: Date) -> String {
    format!("{} {}", on.day(), month(on))
}

/// Names of the months.
pub const MONTHS: [&str; 12] = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
];

/// A span of days in the unit that people would use: days, weeks, months, years.
pub fn span(days: f64) -> String {
    let counted = |n: f64, unit: &str| format!("{n:.0} {unit}{}", if n.round() == 1.0 { "" } else { "s" });
    match days {
        d if d < 14.0 => counted(d.max(0.0), "day"),
        d if d < 100.0 => counted(d / 7.0, "week"),
        d if d < 700.0 => counted(d / 30.44, "month"),
        d => counted(d / 365.25, "year"),
    }
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
        assert_eq!(month(jiff::civil::date(2027, 5, 3)), "May 2027");
        assert_eq!(day(jiff::civil::date(2027, 12, 31)), "31 December 2027");
        let spans = [0.0, 1.0, 20.0, 99.0, 200.0, 800.0].map(span);
        assert_eq!(spans, ["0 days", "1 day", "3 weeks", "14 weeks", "7 months", "2 years"]);
        assert_eq!(capital("über den Ginster"), "Über den Ginster");
        assert_eq!(capital(""), "");
    }
}
