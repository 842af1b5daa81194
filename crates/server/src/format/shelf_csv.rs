//! The shelf as CSV: one disc a row, columns named with their units. Documented in the README.

use std::collections::HashSet;

use zinc_kite_bag::disc::keeping::{Keeping, Status};
use zinc_kite_bag::disc::mould::USUAL_MASS_G;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec, Numbers, Top, USUAL_COLOUR, Use};
use zinc_kite_bag::disc::wear::{Grade, Wear};
use zinc_kite_bag::thrower::slot::Slot;

use super::table::{self, Kind, Reading, Row, cell, date_of, name_of, names_of, text_of};
use crate::store::folded;

/// Columns in the order they are written. Those not marked optional in [`OPTIONAL`] must be there when read.
pub const COLUMNS: [&str; 32] = [
    "name",
    "maker",
    "mould",
    "plastic",
    "mass_g",
    "reference_mass_g",
    "speed",
    "glide",
    "turn",
    "fade",
    "observed_speed",
    "observed_glide",
    "observed_turn",
    "observed_fade",
    "top",
    "grade",
    "throws",
    "hard_hits",
    "used_for",
    "rim_cm",
    "colour",
    "notes",
    "class",
    "status",
    "trial_until",
    "ties",
    "kept_for",
    "run",
    "price",
    "place",
    "observed_on",
    "observed_worn",
];

/// Columns that may be missing when read, or empty in a row.
const OPTIONAL: [&str; 23] = [
    "reference_mass_g",
    "observed_speed",
    "observed_glide",
    "observed_turn",
    "observed_fade",
    "top",
    "grade",
    "throws",
    "hard_hits",
    "used_for",
    "rim_cm",
    "colour",
    "notes",
    "class",
    "status",
    "trial_until",
    "ties",
    "kept_for",
    "run",
    "price",
    "place",
    "observed_on",
    "observed_worn",
];

const KIND: Kind = Kind { columns: &COLUMNS, optional: &OPTIONAL, name: "name" };

/// Writes discs. Numbers are written so that reading gives the same number again.
///
/// # Errors
/// Only if memory runs out while writing.
pub fn write(discs: &[Disc]) -> Result<String, csv::Error> {
    let row = |disc: &Disc| {
        let s = &disc.spec;
        let observed =
            |f: fn(&Numbers) -> f64| s.observed.as_ref().map_or_else(String::new, |n| f(n).to_string());
        [
            cell(&s.name),
            cell(&s.maker),
            cell(&s.mould),
            name_of(&s.plastic),
            s.mass_g.to_string(),
            s.reference_mass_g.to_string(),
            s.printed.speed.to_string(),
            s.printed.glide.to_string(),
            s.printed.turn.to_string(),
            s.printed.fade.to_string(),
            observed(|n| n.speed),
            observed(|n| n.glide),
            observed(|n| n.turn),
            observed(|n| n.fade),
            name_of(&s.top),
            name_of(&s.wear.grade),
            s.wear.throws.map_or_else(String::new, |n| n.to_string()),
            s.wear.hard_hits.to_string(),
            name_of(&s.used_for),
            s.rim_cm.map_or_else(String::new, |r| r.to_string()),
            s.colour.clone(),
            cell(&s.notes),
            s.class.as_ref().map_or_else(String::new, name_of),
            name_of(&s.keeping.status),
            date_of(s.keeping.trial_until),
            names_of(&s.keeping.ties),
            names_of(&s.keeping.kept_for),
            cell(&s.keeping.run),
            s.keeping.price.map_or_else(String::new, |p| p.to_string()),
            cell(&s.keeping.place),
            date_of(s.keeping.observed_on),
            name_of(&s.keeping.observed_worn),
        ]
    };
    table::write(COLUMNS, discs.iter().map(row))
}

const GRADES: &str = "fresh, broken_in, seasoned, beat, flippy";

/// What only rows of the shelf have.
impl Row<'_> {
    fn keeping(&mut self) -> Option<Keeping> {
        Some(Keeping {
            status: self.choice(
                "status",
                Some(Status::Ready),
                "ready, spare, seasoning, trial, resting, lent, lost, retired",
            )?,
            trial_until: self.date("trial_until"),
            ties: self.choices("ties", "sentimental, hard_to_replace, water_disc"),
            kept_for: self.choices("kept_for", "backhand, forehand, thumber, tomahawk, putt"),
            run: text_of(self.text("run")).to_owned(),
            price: self.number("price"),
            place: text_of(self.text("place")).to_owned(),
            observed_on: self.date("observed_on"),
            observed_worn: self.choice("observed_worn", Some(Grade::Fresh), GRADES)?,
            // A table has no room for them.
            marks: vec![],
        })
    }

    pub(super) fn class(&mut self) -> Option<Slot> {
        if self.text("class").is_empty() {
            return None;
        }
        self.choice("class", None, "putter, mid_range, fairway, control, distance, utility")
    }

    fn observed(&mut self) -> Option<Numbers> {
        let columns = ["observed_speed", "observed_glide", "observed_turn", "observed_fade"];
        let given = columns.iter().filter(|c| !self.text(c).is_empty()).count();
        if given == 0 {
            return None;
        }
        if given < 4 {
            self.blame("observed_speed", "all four observed numbers or none", format!("{given} of them"));
            return None;
        }
        let [speed, glide, turn, fade] = columns.map(|c| self.number(c).unwrap_or(f64::NAN));
        Some(Numbers { speed, glide, turn, fade })
    }

    fn disc(&mut self) -> Option<DiscSpec> {
        const PLASTICS: &str =
            "base, tacky_base, mid_grade, premium, premium_soft, stiff_glow, featherweight";
        let printed = Numbers {
            speed: self.needed("speed"),
            glide: self.needed("glide"),
            turn: self.needed("turn"),
            fade: self.needed("fade"),
        };
        let colour = self.text("colour").to_lowercase();
        let spec = DiscSpec {
            name: text_of(self.text("name")).to_owned(),
            maker: text_of(self.text("maker")).to_owned(),
            mould: text_of(self.text("mould")).to_owned(),
            plastic: self.choice("plastic", None, PLASTICS)?,
            mass_g: self.needed_mass_g("mass_g"),
            reference_mass_g: self.mass_g("reference_mass_g").unwrap_or(USUAL_MASS_G),
            printed,
            observed: self.observed(),
            top: self.choice("top", Some(Top::Neutral), "flat, neutral, domed")?,
            wear: Wear {
                grade: self.choice("grade", Some(Grade::Fresh), GRADES)?,
                throws: self.count("throws"),
                hard_hits: self.count("hard_hits").unwrap_or(0),
            },
            used_for: self.choice("used_for", Some(Use::Throwing), "throwing, putting, utility")?,
            rim_cm: self.number("rim_cm"),
            colour: if colour.is_empty() { USUAL_COLOUR.into() } else { colour },
            notes: text_of(self.text("notes")).to_owned(),
            class: self.class(),
            keeping: self.keeping()?,
        };
        self.checked(spec, DiscSpec::validate)
    }
}

/// Reads a file as it came, which may not be text at all; then that is its one problem.
pub fn read_bytes(bytes: &[u8], taken: &[String]) -> Reading<DiscSpec> {
    table::read_bytes(bytes, |text| read(text, taken))
}

/// Reads a file. Every row is either a disc or has at least one problem; names must differ from one another and from
/// those in `taken`.
pub fn read(text: &str, taken: &[String]) -> Reading<DiscSpec> {
    let mut names: HashSet<String> = taken.iter().map(|n| folded(n)).collect();
    table::read(text, &KIND, |row| {
        let disc = row.disc()?;
        if !names.insert(folded(&disc.name)) {
            row.blame("name", "a name no other disc has", format!("\"{}\"", disc.name));
            return None;
        }
        let words = format!(
            "{} {}, {}, {} g, {}",
            disc.maker,
            disc.mould,
            disc.plastic.facts().label,
            disc.mass_g,
            disc.printed
        );
        Some((disc, words))
    })
}
