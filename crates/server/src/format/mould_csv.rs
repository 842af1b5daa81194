//! The library of moulds as CSV: one mould a row, columns named with their units. Documented in the README.

use std::collections::HashSet;

use zinc_kite_bag::disc::mould::{Mould, MouldSpec, Supply, USUAL_MASS_G};
use zinc_kite_bag::disc::spec::Numbers;

use super::table::{self, Kind, Reading, Row, cell, name_of, text_of};
use crate::store::folded;

/// Columns in the order they are written.
pub const COLUMNS: [&str; 16] = [
    "name",
    "maker",
    "speed",
    "glide",
    "turn",
    "fade",
    "class",
    "reference_mass_g",
    "diameter_cm",
    "rim_cm",
    "rim_depth_cm",
    "height_cm",
    "bead",
    "thumb_track",
    "largest_mass_g",
    "supply",
];

const OPTIONAL: [&str; 10] = [
    "class",
    "reference_mass_g",
    "diameter_cm",
    "rim_cm",
    "rim_depth_cm",
    "height_cm",
    "bead",
    "thumb_track",
    "largest_mass_g",
    "supply",
];

const KIND: Kind = Kind { columns: &COLUMNS, optional: &OPTIONAL, name: "name" };

/// Writes moulds. Numbers are written so that reading gives the same number again.
///
/// # Errors
/// Only if memory runs out while writing.
pub fn write(moulds: &[Mould]) -> Result<String, csv::Error> {
    let number = |x: Option<f64>| x.map_or_else(String::new, |x| x.to_string());
    let yes_no = |x: Option<bool>| x.map_or("", |yes| if yes { "yes" } else { "no" }).to_owned();
    let row = |mould: &Mould| {
        let m = &mould.spec;
        [
            cell(&m.name),
            cell(&m.maker),
            m.printed.speed.to_string(),
            m.printed.glide.to_string(),
            m.printed.turn.to_string(),
            m.printed.fade.to_string(),
            m.class.as_ref().map_or_else(String::new, name_of),
            m.reference_mass_g.to_string(),
            number(m.diameter_cm),
            number(m.rim_cm),
            number(m.rim_depth_cm),
            number(m.height_cm),
            yes_no(m.bead),
            yes_no(m.thumb_track),
            number(m.largest_mass_g),
            name_of(&m.supply),
        ]
    };
    table::write(COLUMNS, moulds.iter().map(row))
}

/// What only rows of moulds have.
impl Row<'_> {
    fn mould(&mut self) -> Option<MouldSpec> {
        let printed = Numbers {
            speed: self.needed("speed"),
            glide: self.needed("glide"),
            turn: self.needed("turn"),
            fade: self.needed("fade"),
        };
        let spec = MouldSpec {
            name: text_of(self.text("name")).to_owned(),
            maker: text_of(self.text("maker")).to_owned(),
            printed,
            class: self.class(),
            reference_mass_g: self.mass_g("reference_mass_g").unwrap_or(USUAL_MASS_G),
            diameter_cm: self.number("diameter_cm"),
            rim_cm: self.number("rim_cm"),
            rim_depth_cm: self.number("rim_depth_cm"),
            height_cm: self.number("height_cm"),
            bead: self.yes_no("bead"),
            thumb_track: self.yes_no("thumb_track"),
            largest_mass_g: self.mass_g("largest_mass_g"),
            supply: self.choice("supply", Some(Supply::Ready), "ready, hard_to_find, out_of_production")?,
        };
        self.checked(spec, MouldSpec::validate)
    }
}

/// Reads a file as it came. A mould that is known already is read too: importing it replaces what is known; none may come twice.
pub fn read_bytes(bytes: &[u8], known: &[Mould]) -> Reading<MouldSpec> {
    table::read_bytes(bytes, |text| read(text, known))
}

/// The same of a text.
pub fn read(text: &str, known: &[Mould]) -> Reading<MouldSpec> {
    let key = |m: &MouldSpec| (folded(&m.maker), folded(&m.name));
    let known: HashSet<(String, String)> = known.iter().map(|m| key(&m.spec)).collect();
    let mut came = HashSet::new();
    table::read(text, &KIND, |row| {
        let mould = row.mould()?;
        if !came.insert(key(&mould)) {
            row.blame("name", "each mould of a maker once", format!("\"{}\" again", mould.name));
            return None;
        }
        let becomes = if known.contains(&key(&mould)) { "replaces what is known" } else { "new" };
        let words = format!("{}, {}: {becomes}", mould.maker, mould.printed);
        Some((mould, words))
    })
}
