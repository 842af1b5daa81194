//! Throws of a session as CSV: one a row, columns named with their units. Documented in the README.

use zinc_kite_bag::course::place::Place;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::field::throw::{FieldThrow, Meant, SeenFlight, WindThen};
use zinc_kite_bag::thrower::style::Style;

use super::table::{self, Kind, Reading, Row, cell, name_of, names_of, text_of};
use super::throw_file::known_disc;

/// Columns in the order they are written.
pub const COLUMNS: [&str; 20] = [
    "disc",
    "style",
    "meant",
    "line",
    "power_pct",
    "distance_m",
    "off_deg",
    "latitude_deg",
    "longitude_deg",
    "wind_m_s",
    "wind_from_deg",
    "swing_m",
    "apex_m",
    "time_s",
    "skip_m",
    "first",
    "height",
    "landed",
    "tags",
    "note",
];

const KIND: Kind = Kind { columns: &COLUMNS, optional: &COLUMNS, name: "disc" };

/// Writes throws. Numbers are written so that reading gives the same number again.
///
/// # Errors
/// Only if memory runs out while writing.
pub fn write<'a>(throws: impl IntoIterator<Item = &'a FieldThrow>) -> Result<String, csv::Error> {
    let number = |x: Option<f64>| x.map_or_else(String::new, |x| x.to_string());
    let row = |t: &FieldThrow| {
        [
            cell(&t.disc_name),
            name_of(&t.style),
            name_of(&t.meant),
            t.line.as_deref().map(cell).unwrap_or_default(),
            number(t.power_pct),
            number(t.distance_m),
            number(t.off_deg),
            number(t.at.map(|p| p.latitude_deg)),
            number(t.at.map(|p| p.longitude_deg)),
            t.wind.wind_m_s.to_string(),
            t.wind.from_deg.to_string(),
            number(t.seen.swing_m),
            number(t.seen.apex_m),
            number(t.seen.time_s),
            number(t.seen.skip_m),
            t.seen.first.as_ref().map(name_of).unwrap_or_default(),
            t.seen.height.as_ref().map(name_of).unwrap_or_default(),
            t.seen.landed.as_ref().map(name_of).unwrap_or_default(),
            names_of(&t.tags),
            cell(&t.note),
        ]
    };
    table::write(COLUMNS, throws.into_iter().map(row))
}

/// What only rows of throws have.
impl Row<'_> {
    fn throw(&mut self, shelf: &[Disc], usual: Style) -> Option<FieldThrow> {
        let (latitude, longitude) = (self.number("latitude_deg"), self.number("longitude_deg"));
        let at = match (latitude, longitude) {
            (Some(latitude_deg), Some(longitude_deg)) => {
                Some(Place { latitude_deg, longitude_deg, height_m: None })
            }
            (None, None) => None,
            _ => {
                self.blame("latitude_deg", "both latitude and longitude, or neither", "one of them");
                None
            }
        };
        let (disc_id, disc_name) = known_disc(shelf, text_of(self.text("disc")));
        let line = text_of(self.text("line"));
        let throw = FieldThrow {
            disc_id,
            disc_name,
            line: (!line.is_empty()).then(|| line.to_owned()),
            note: text_of(self.text("note")).to_owned(),
            style: self.choice("style", Some(usual), "backhand, forehand, thumber, tomahawk, putt")?,
            meant: self.choice("meant", Some(Meant::Flat), "flat, hyzer, anhyzer")?,
            power_pct: self.number("power_pct"),
            distance_m: self.number("distance_m"),
            off_deg: self.number("off_deg"),
            at,
            wind: WindThen {
                wind_m_s: self.number("wind_m_s").unwrap_or(0.0),
                from_deg: self.number("wind_from_deg").unwrap_or(0.0),
            },
            seen: SeenFlight {
                swing_m: self.number("swing_m"),
                apex_m: self.number("apex_m"),
                time_s: self.number("time_s"),
                skip_m: self.number("skip_m"),
                first: self.choice("first", Some(None), "left, straight, right")?,
                height: self.choice("height", Some(None), "lower, as_meant, higher")?,
                landed: self.choice("landed", Some(None), "flat, left_edge, right_edge")?,
            },
            tags: self.choices("tags", "hit, slipped, lost, by_eye"),
            lost: None,
        };
        self.checked(throw, FieldThrow::validate)
    }
}

/// Reads a file as it came; a throw without a style is of the `usual` one.
pub fn read_bytes(bytes: &[u8], shelf: &[Disc], usual: Style) -> Reading<FieldThrow> {
    table::read_bytes(bytes, |text| {
        table::read(text, &KIND, |row| {
            let throw = row.throw(shelf, usual)?;
            let words = super::throw_file::words(&throw);
            Some((throw, words))
        })
    })
}
