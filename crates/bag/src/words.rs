//! Figures and words as people read them.

/// A share as a percentage.
pub fn percent(share: f64) -> String {
    format!("{:.0} %", 100.0 * share)
}

/// A share as points of a hundred, to a tenth.
pub fn points(share: f64) -> String {
    format!("{:.1}", 100.0 * share)
}

/// Degrees with a true minus sign.
pub fn degrees(x: f64) -> String {
    format!("{x:.1}°").replace('-', "−")
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
        assert_eq!(points(0.0123), "1.2");
        assert_eq!(degrees(-3.25), "−3.2°");
        assert_eq!(capital("über den Ginster"), "Über den Ginster");
        assert_eq!(capital(""), "");
    }
}
