//! The shelf as CSV: one disc a row, columns named with their units. Documented in the README.

use std::collections::{HashMap, HashSet};

use csv::StringRecord;
use jiff::civil::Date;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::disc::keeping::{Keeping, Status};
use zinc_kite_bag::disc::mould::USUAL_MASS_G;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec, Numbers, Top, USUAL_COLOUR, Use};
use zinc_kite_bag::disc::wear::{Grade, Wear};
use zinc_kite_bag::thrower::slot::Slot;

use crate::store::folded;

/// Columns in the order they are written. Those not marked optional in [`OPTIONAL`] must be there when read.
pub const COLUMNS: [&str; 31] = [
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
];

/// Columns that may be missing when read, or empty in a row.
const OPTIONAL: [&str; 22] = [
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
];

/// What stands between several choices in one cell.
const AND: &str = "+";

/// One thing wrong with a file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct RowProblem {
    /// Line of the file, the header being 1.
    pub line: u64,
    /// Column at fault; empty where it is the row as a whole.
    pub column: String,
    /// What was expected.
    pub expected: String,
    /// What came.
    pub got: String,
}

/// Problems that are told one by one; a file that is not what it should be has one in every row.
const TOLD: usize = 100;

/// A file read.
#[derive(Debug, Default)]
pub struct Reading {
    /// The good rows.
    pub discs: Vec<DiscSpec>,
    /// What is wrong with the others, the first [`TOLD`].
    pub problems: Vec<RowProblem>,
    /// How many more problems there are.
    pub further: usize,
    /// Columns that are not known and were left aside.
    pub ignored: Vec<String>,
}

impl Reading {
    fn blame(&mut self, problem: RowProblem) {
        if self.problems.len() < TOLD {
            self.problems.push(problem);
        } else {
            self.further += 1;
        }
    }
}

/// A text as a cell. A spreadsheet takes one that begins like a formula for one: an apostrophe before it keeps it a text, and
/// reading takes it off again.
fn cell(text: &str) -> String {
    if looks_like_a_formula(text) { format!("'{text}") } else { text.to_owned() }
}

fn text_of(cell: &str) -> &str {
    match cell.strip_prefix('\'') {
        Some(text) if looks_like_a_formula(text) => text,
        _ => cell,
    }
}

fn looks_like_a_formula(text: &str) -> bool {
    text.trim_start_matches('\'').starts_with(['=', '+', '-', '@', '\t'])
}

/// What stands between the cells: of a comma, a semicolon and a tab the one that the header has most of.
fn delimiter(text: &str) -> u8 {
    let header = text.lines().next().unwrap_or_default();
    let times = |d: u8| header.bytes().filter(|b| *b == d).count();
    // The first of those that come as often.
    [b'\t', b';', b','].into_iter().max_by_key(|d| times(*d)).unwrap_or(b',')
}

fn name_of<T: Serialize>(value: &T) -> String {
    serde_json::to_value(value).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default()
}

fn names_of<T: Serialize>(values: &[T]) -> String {
    values.iter().map(name_of).collect::<Vec<_>>().join(AND)
}

fn date_of(date: Option<Date>) -> String {
    date.map_or_else(String::new, |d| d.to_string())
}

/// Writes discs. Numbers are written so that reading gives the same number again.
///
/// # Errors
/// Only if memory runs out while writing.
pub fn write(discs: &[Disc]) -> Result<String, csv::Error> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    writer.write_record(COLUMNS)?;
    for disc in discs {
        let s = &disc.spec;
        let observed =
            |f: fn(&Numbers) -> f64| s.observed.as_ref().map_or_else(String::new, |n| f(n).to_string());
        writer.write_record([
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
        ])?;
    }
    let bytes = writer.into_inner().map_err(|e| e.into_error())?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

/// One row under its header.
struct Row<'a> {
    record: &'a StringRecord,
    columns: &'a HashMap<String, usize>,
    /// Whether a comma is what stands before decimals: where it does not stand between cells.
    decimal_comma: bool,
    line: u64,
    problems: Vec<RowProblem>,
}

impl Row<'_> {
    fn text(&self, column: &str) -> &str {
        self.columns.get(column).and_then(|&k| self.record.get(k)).unwrap_or_default().trim()
    }

    fn blame(&mut self, column: &str, expected: impl Into<String>, got: impl Into<String>) {
        self.problems.push(RowProblem {
            line: self.line,
            column: column.into(),
            expected: expected.into(),
            got: got.into(),
        });
    }

    fn number(&mut self, column: &str) -> Option<f64> {
        let text = self.text(column).to_owned();
        if text.is_empty() {
            return None;
        }
        let figures = if self.decimal_comma { text.replace(',', ".") } else { text.clone() };
        match figures.parse::<f64>() {
            Ok(x) if x.is_finite() => Some(x),
            _ => {
                self.blame(column, "a number with a decimal point, like 174.5", format!("\"{text}\""));
                None
            }
        }
    }

    fn needed(&mut self, column: &'static str) -> f64 {
        if self.text(column).is_empty() {
            self.blame(column, "a number", "nothing");
        }
        self.number(column).unwrap_or(f64::NAN)
    }

    fn count(&mut self, column: &str) -> Option<u32> {
        let text = self.text(column).to_owned();
        if text.is_empty() {
            return None;
        }
        match text.parse() {
            Ok(n) => Some(n),
            Err(_) => {
                self.blame(column, "a whole number, 0 or more", format!("\"{text}\""));
                None
            }
        }
    }

    fn choice<T: DeserializeOwned>(&mut self, column: &str, usual: Option<T>, names: &str) -> Option<T> {
        let text = self.text(column).to_lowercase().replace([' ', '-'], "_");
        if text.is_empty()
            && let Some(usual) = usual
        {
            return Some(usual);
        }
        let value = serde_json::from_value(serde_json::Value::String(text.clone()));
        if value.is_err() {
            self.blame(column, format!("one of {names}"), format!("\"{text}\""));
        }
        value.ok()
    }

    /// Several choices, none if the cell is empty.
    fn choices<T: DeserializeOwned>(&mut self, column: &str, names: &str) -> Vec<T> {
        let text = self.text(column).to_lowercase().replace([' ', '-'], "_");
        let parts = text.split(AND).filter(|part| !part.is_empty());
        let values: Option<Vec<T>> = parts
            .map(|part| serde_json::from_value(serde_json::Value::String(part.to_owned())).ok())
            .collect();
        if values.is_none() {
            self.blame(column, format!("some of {names}, with {AND} between them"), format!("\"{text}\""));
        }
        values.unwrap_or_default()
    }

    fn date(&mut self, column: &str) -> Option<Date> {
        let text = self.text(column).to_owned();
        if text.is_empty() {
            return None;
        }
        let date = text.parse().ok();
        if date.is_none() {
            self.blame(column, "a date like 2026-05-31", format!("\"{text}\""));
        }
        date
    }

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
        })
    }

    fn class(&mut self) -> Option<Slot> {
        if self.text("class").is_empty() {
            return None;
        }
        self.choice("class", None, "putter, mid_range, fairway, distance, utility")
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
            mass_g: self.needed("mass_g"),
            reference_mass_g: self.number("reference_mass_g").unwrap_or(USUAL_MASS_G),
            printed,
            observed: self.observed(),
            top: self.choice("top", Some(Top::Neutral), "flat, neutral, domed")?,
            wear: Wear {
                grade: self.choice(
                    "grade",
                    Some(Grade::Fresh),
                    "fresh, broken_in, seasoned, beat, flippy",
                )?,
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
        if self.problems.is_empty()
            && let Err(error) = spec.validate()
        {
            let got = self.text(error.field()).to_owned();
            self.blame(error.field(), error.to_string(), format!("\"{got}\""));
        }
        self.problems.is_empty().then_some(spec)
    }
}

/// Reads a file as it came, which may not be text at all; then that is its one problem.
pub fn read_bytes(bytes: &[u8], taken: &[String]) -> Reading {
    match std::str::from_utf8(bytes) {
        Ok(text) => read(text, taken),
        Err(error) => {
            let (good, rest) = bytes.split_at(error.valid_up_to());
            let line = 1 + good.iter().filter(|b| **b == b'\n').count() as u64;
            let expected = "text in UTF-8; save the file as CSV in UTF-8 and choose it again";
            let got = rest.first().map_or_else(String::new, |b| format!("the byte {b:#04x}"));
            Reading { problems: vec![whole_row(line, expected, &got)], ..Reading::default() }
        }
    }
}

/// Reads a file. Every row is either a disc or has at least one problem; names must differ from one another and from
/// those in `taken`.
pub fn read(text: &str, taken: &[String]) -> Reading {
    let mut reading = Reading::default();
    let text = text.trim_start_matches('\u{feff}');
    let between = delimiter(text);
    let mut reader = csv::ReaderBuilder::new()
        .flexible(true)
        .delimiter(between)
        .trim(csv::Trim::Headers)
        .from_reader(text.as_bytes());
    let columns: HashMap<String, usize> = match reader.headers() {
        Ok(headers) => headers.iter().enumerate().map(|(k, h)| (h.to_lowercase(), k)).collect(),
        Err(error) => {
            reading.blame(whole_row(1, "a header row in UTF-8", &error.to_string()));
            return reading;
        }
    };
    for column in COLUMNS {
        if !columns.contains_key(column) && !OPTIONAL.contains(&column) {
            reading.blame(RowProblem {
                line: 1,
                column: column.into(),
                expected: format!("a header \"{column}\""),
                got: "no such column".into(),
            });
        }
    }
    if !reading.problems.is_empty() {
        return reading;
    }
    let unknown = |c: &&String| !COLUMNS.contains(&c.as_str()) && !c.is_empty();
    reading.ignored = columns.keys().filter(unknown).cloned().collect();
    reading.ignored.sort();
    let mut names: HashSet<String> = taken.iter().map(|n| folded(n)).collect();
    for (k, record) in reader.records().enumerate() {
        let record = match record {
            Ok(record) => record,
            Err(error) => {
                reading.blame(whole_row(k as u64 + 2, "text in UTF-8", &error.to_string()));
                continue;
            }
        };
        let line = record.position().map_or(k as u64 + 2, csv::Position::line);
        if record.len() != columns.len() {
            let expected = format!("{} cells, as the header has", columns.len());
            reading.blame(whole_row(line, &expected, &format!("{} cells", record.len())));
            continue;
        }
        let mut row = Row {
            record: &record,
            columns: &columns,
            decimal_comma: between != b',',
            line,
            problems: vec![],
        };
        let disc = row.disc();
        if let Some(disc) = disc {
            if names.insert(folded(&disc.name)) {
                reading.discs.push(disc);
            } else {
                row.blame("name", "a name no other disc has", format!("\"{}\"", disc.name));
            }
        }
        row.problems.into_iter().for_each(|problem| reading.blame(problem));
    }
    reading
}

fn whole_row(line: u64, expected: &str, got: &str) -> RowProblem {
    RowProblem { line, column: String::new(), expected: expected.into(), got: got.into() }
}
