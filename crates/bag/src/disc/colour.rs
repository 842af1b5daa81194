//! Which colours are found again on which ground.

use std::str::FromStr;

use palette::color_difference::Ciede2000;
use palette::{FromColor, Lab, Srgb};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a disc has to be seen on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Cover {
    /// Grass.
    Grass,
    /// Fallen leaves.
    Leaves,
    /// Snow.
    Snow,
    /// Sand, dry grass.
    Sand,
    /// Heather.
    Heather,
}

impl Cover {
    /// Its colours. Own judgement.
    fn colours(self) -> &'static [&'static str] {
        match self {
            Cover::Grass => &["#4f7a34", "#7d9a4a"],
            Cover::Leaves => &["#b5652a", "#d08a35", "#7a4a26"],
            Cover::Snow => &["#f4f7fa", "#dfe6ee"],
            Cover::Sand => &["#d8c49a", "#bfa878"],
            Cover::Heather => &["#7d5a6e", "#5c4a3a", "#946a86"],
        }
    }

    /// In words, after "on".
    pub fn label(self) -> &'static str {
        match self {
            Cover::Grass => "grass",
            Cover::Leaves => "fallen leaves",
            Cover::Snow => "snow",
            Cover::Sand => "sand",
            Cover::Heather => "heather",
        }
    }
}

/// A colour nearer to the ground than this is hard to find on it, CIEDE2000 units. Own judgement: white on snow is within 5, orange on
/// leaves within 20, pink and blue on either beyond 35.
const SHOWS_FROM: f64 = 22.0;

fn lab(colour: &str) -> Option<Lab<palette::white_point::D65, f64>> {
    let srgb: Srgb<u8> = Srgb::from_str(colour.strip_prefix('#').filter(|d| d.len() == 6)?).ok()?;
    Some(Lab::from_color(srgb.into_format::<f64>()))
}

/// Whether a disc of a colour, written as #rrggbb, is found again on a ground; one that is written otherwise is taken to be.
pub fn shows(colour: &str, cover: Cover) -> bool {
    let Some(of_disc) = lab(colour) else { return true };
    cover.colours().iter().filter_map(|ground| lab(ground)).all(|g| of_disc.difference(g) >= SHOWS_FROM)
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use rstest::rstest;

    /// Values of the primaries as conversion tables commonly print them, from memory.
    #[rstest]
    #[case("#ff0000", 53.24, 80.09, 67.20)]
    #[case("#00ff00", 87.73, -86.18, 83.18)]
    #[case("#0000ff", 32.30, 79.19, -107.86)]
    #[case("#ffffff", 100.0, 0.0, 0.0)]
    #[case("#000000", 0.0, 0.0, 0.0)]
    fn val_lab_of_known_colours(#[case] hex: &str, #[case] l: f64, #[case] a: f64, #[case] b: f64) {
        let found = lab(hex).unwrap();
        let off = (found.l - l).hypot(found.a - a).hypot(found.b - b);
        assert!(off < 0.05, "{found:?}");
    }

    /// Pairs of G. Sharma, W. Wu and E. N. Dalal, *Color Research and Application* 30, 2005, table 1, from memory.
    #[rstest]
    #[case((50.0, 2.6772, -79.7751), (50.0, 0.0, -82.7485), 2.0425)]
    #[case((50.0, 2.5, 0.0), (73.0, 25.0, -18.0), 27.1492)]
    #[case((50.0, 2.5, 0.0), (58.0, 24.0, 15.0), 19.4535)]
    fn val_difference_of_published_pairs(
        #[case] a: (f64, f64, f64),
        #[case] b: (f64, f64, f64),
        #[case] expected: f64,
    ) {
        let of = |(l, a, b): (f64, f64, f64)| Lab::<palette::white_point::D65, f64>::new(l, a, b);
        let found = of(a).difference(of(b));
        assert!((found - expected).abs() < 5e-4, "{found}");
    }

    #[test]
    fn prop_what_is_no_colour_is_taken_to_show() {
        for text in ["", "red", "#12345", "#gg0000", "#ééé", "123456"] {
            assert!(lab(text).is_none() && shows(text, Cover::Snow), "{text}");
        }
    }

    /// Common practice, no source: orange is lost in autumn leaves and white in snow; blue and pink show.
    #[rstest]
    #[case("#ff7f2a", Cover::Leaves, false)]
    #[case("#ffffff", Cover::Snow, false)]
    #[case("#e8e4d8", Cover::Snow, false)]
    #[case("#ffffff", Cover::Leaves, true)]
    #[case("#ff7f2a", Cover::Snow, true)]
    #[case("#1976d2", Cover::Snow, true)]
    #[case("#1976d2", Cover::Leaves, true)]
    #[case("#ff4fa3", Cover::Snow, true)]
    #[case("#ff4fa3", Cover::Leaves, true)]
    #[case("#4a8f3b", Cover::Grass, false)]
    #[case("#ff4fa3", Cover::Grass, true)]
    #[case("#d9c27a", Cover::Sand, false)]
    #[case("#1976d2", Cover::Sand, true)]
    #[case("#7a5068", Cover::Heather, false)]
    #[case("#ffd400", Cover::Heather, true)]
    fn trade_what_shows_on_what(#[case] colour: &str, #[case] cover: Cover, #[case] seen: bool) {
        assert_eq!(shows(colour, cover), seen);
    }
}
