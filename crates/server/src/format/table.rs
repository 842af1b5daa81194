//! A table as CSV: what is read and written alike whatever its rows are.
//!
//! RFC 4180, with what spreadsheets make of it: columns in any order, a comma, a semicolon or a tab between cells, a decimal comma
//! where a comma does not stand between cells, a byte order mark, UTF-8, UTF-16 or Latin-1.

use std::collections::HashMap;

use csv::StringRecord;
use encoding_rs::{UTF_8, WINDOWS_1252};
use jiff::civil::Date;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::error::BagError;

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

/// Problems that are told one by one; a file that is not what it should be has something wrong in every row.
const TOLD: usize = 100;
/// Rows whose verdict is told, and letters of it: a cell can be as long as a file.
const ROWS_TOLD: usize = 1000;
const LETTERS: usize = 300;

/// What a file is taken to be written in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, ToSchema)]
pub enum Encoding {
    /// As everything is that this program writes.
    #[default]
    #[serde(rename = "UTF-8")]
    Utf8,
    /// As some spreadsheets write, with a byte order mark.
    #[serde(rename = "UTF-16")]
    Utf16,
    /// As older ones do: Latin-1 with the signs that Windows adds.
    #[serde(rename = "Latin-1")]
    Latin1,
}

/// What becomes of a row.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct RowVerdict {
    /// Line of the file, the header being 1.
    pub line: u64,
    /// What it is a row of, by name; empty if it has none.
    pub name: String,
    /// Whether it can be imported.
    pub good: bool,
    /// What was read, or what is wrong, in words.
    pub words: String,
}

/// A file read.
#[derive(Debug)]
pub struct Reading<T> {
    /// The good rows.
    pub things: Vec<T>,
    /// What becomes of each row, the first [`ROWS_TOLD`].
    pub rows: Vec<RowVerdict>,
    /// How many more rows there are.
    pub further_rows: usize,
    /// What is wrong with the others, the first [`TOLD`].
    pub problems: Vec<RowProblem>,
    /// How many more problems there are.
    pub further: usize,
    /// Columns that are not known and were left aside.
    pub ignored: Vec<String>,
    /// What it was taken to be written in.
    pub encoding: Encoding,
}

impl<T> Default for Reading<T> {
    fn default() -> Self {
        Reading {
            things: vec![],
            rows: vec![],
            further_rows: 0,
            problems: vec![],
            further: 0,
            ignored: vec![],
            encoding: Encoding::Utf8,
        }
    }
}

impl<T> Reading<T> {
    fn blame(&mut self, problem: RowProblem) {
        if self.problems.len() < TOLD {
            self.problems.push(problem);
        } else {
            self.further += 1;
        }
    }

    fn tell(&mut self, verdict: RowVerdict) {
        if self.rows.len() < ROWS_TOLD {
            let short = |text: String| match text.char_indices().nth(LETTERS) {
                Some((end, _)) => format!("{}…", &text[..end]),
                None => text,
            };
            self.rows.push(RowVerdict { name: short(verdict.name), words: short(verdict.words), ..verdict });
        } else {
            self.further_rows += 1;
        }
    }

    /// A row that is wrong, by all that is wrong with it.
    fn refuse(&mut self, line: u64, name: &str, problems: Vec<RowProblem>) {
        let told = |p: &RowProblem| match p.column.as_str() {
            "" => format!("{} expected, {} came", p.expected, p.got),
            column => format!("{column}: {} expected, {} came", p.expected, p.got),
        };
        let words = problems.iter().map(told).collect::<Vec<_>>().join("; ");
        self.tell(RowVerdict { line, name: name.into(), good: false, words });
        problems.into_iter().for_each(|problem| self.blame(problem));
    }
}

/// A text as a cell. A spreadsheet takes one that begins like a formula for one: an apostrophe before it keeps it a text, and
/// reading takes it off again.
pub(super) fn cell(text: &str) -> String {
    if looks_like_a_formula(text) { format!("'{text}") } else { text.to_owned() }
}

pub(super) fn text_of(cell: &str) -> &str {
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

pub(super) fn name_of<T: Serialize>(value: &T) -> String {
    serde_json::to_value(value).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default()
}

pub(super) fn names_of<T: Serialize>(values: &[T]) -> String {
    values.iter().map(name_of).collect::<Vec<_>>().join(AND)
}

pub(super) fn date_of(date: Option<Date>) -> String {
    date.map_or_else(String::new, |d| d.to_string())
}

/// One row under its header.
pub(super) struct Row<'a> {
    record: &'a StringRecord,
    columns: &'a HashMap<String, usize>,
    /// Whether a comma is what stands before decimals: where it does not stand between cells.
    decimal_comma: bool,
    line: u64,
    pub problems: Vec<RowProblem>,
}

impl Row<'_> {
    pub fn text(&self, column: &str) -> &str {
        self.columns.get(column).and_then(|&k| self.record.get(k)).unwrap_or_default().trim()
    }

    pub fn blame(&mut self, column: &str, expected: impl Into<String>, got: impl Into<String>) {
        self.problems.push(RowProblem {
            line: self.line,
            column: column.into(),
            expected: expected.into(),
            got: got.into(),
        });
    }

    pub fn number(&mut self, column: &str) -> Option<f64> {
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

    pub fn needed(&mut self, column: &'static str) -> f64 {
        if self.text(column).is_empty() {
            self.blame(column, "a number", "nothing");
        }
        self.number(column).unwrap_or(f64::NAN)
    }

    pub fn count(&mut self, column: &str) -> Option<u32> {
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

    pub fn choice<T: DeserializeOwned>(&mut self, column: &str, usual: Option<T>, names: &str) -> Option<T> {
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
    pub fn choices<T: DeserializeOwned>(&mut self, column: &str, names: &str) -> Vec<T> {
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

    pub fn date(&mut self, column: &str) -> Option<Date> {
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

    /// `thing`, if nothing is wrong so far and it holds what it should.
    pub fn checked<T>(&mut self, thing: T, validate: impl Fn(&T) -> Result<(), BagError>) -> Option<T> {
        if self.problems.is_empty()
            && let Err(error) = validate(&thing)
        {
            let got = self.text(error.field()).to_owned();
            self.blame(error.field(), error.expected(), format!("\"{got}\""));
        }
        self.problems.is_empty().then_some(thing)
    }

    /// A mass in g: a bare number is that; one with "oz" behind it, or in a column of ounces, is turned into it.
    pub fn mass_g(&mut self, column: &str) -> Option<f64> {
        let ounces = in_ounces(column);
        let is_oz = self.text(column).is_empty() && !self.text(&ounces).is_empty();
        let column = if is_oz { ounces.as_str() } else { column };
        let text = self.text(column).to_lowercase();
        if text.is_empty() {
            return None;
        }
        let bare = text.trim_end_matches(|c: char| c.is_alphabetic() || c == '.').trim_end();
        let unit = text[bare.len()..].trim().trim_end_matches('.');
        let factor = match unit {
            "oz" | "ounce" | "ounces" => Some(OUNCE_G),
            "" if is_oz => Some(OUNCE_G),
            "" | "g" | "gr" | "gram" | "grams" => Some(1.0),
            _ => None,
        };
        let figures = if self.decimal_comma { bare.replace(',', ".") } else { bare.to_owned() };
        let mass = factor.zip(figures.parse::<f64>().ok()).map(|(factor, x)| match factor {
            OUNCE_G => (10.0 * OUNCE_G * x).round() / 10.0,
            _ => x,
        });
        // A disc of so few grams is one weighed in ounces.
        let mass = mass.filter(|m| m.is_finite() && !OUNCES.contains(m));
        if mass.is_none() {
            self.blame(column, "a mass in g like 174.5, or in ounces like 6.2 oz", format!("\"{text}\""));
        }
        mass
    }

    /// The same, where there must be one.
    pub fn needed_mass_g(&mut self, column: &str) -> f64 {
        let before = self.problems.len();
        let mass = self.mass_g(column);
        if mass.is_none() && self.problems.len() == before {
            self.blame(column, "a number of g, or of ounces like 6.2 oz", "nothing");
        }
        mass.unwrap_or(f64::NAN)
    }

    /// Yes or no, nothing if the cell is empty.
    pub fn yes_no(&mut self, column: &str) -> Option<bool> {
        match self.text(column).to_lowercase().as_str() {
            "" => None,
            "yes" | "true" | "1" => Some(true),
            "no" | "false" | "0" => Some(false),
            other => {
                let got = format!("\"{other}\"");
                self.blame(column, "yes or no", got);
                None
            }
        }
    }
}

/// An international avoirdupois ounce, g: exactly, by its definition of 1959 (from memory).
pub const OUNCE_G: f64 = 28.349_523_125;
/// What discs weigh in ounces.
const OUNCES: std::ops::Range<f64> = 2.0..10.0;

/// Name of the column that holds in ounces what `column` holds in g.
fn in_ounces(column: &str) -> String {
    column.replace("mass_g", "mass_oz")
}

/// The bytes of a file as text, and what they are taken to be: text that says so by its mark, UTF-8 if it is that, and Latin-1 if
/// it is a text in that and none of it is UTF-8.
///
/// # Errors
/// What is wrong, for bytes that are no text.
fn decoded(bytes: &[u8]) -> Result<(String, Encoding), RowProblem> {
    if let Some((encoding, mark)) = encoding_rs::Encoding::for_bom(bytes)
        && encoding != UTF_8
    {
        let (text, _, spoilt) = encoding.decode(&bytes[mark..]);
        if !spoilt {
            return Ok((text.into_owned(), Encoding::Utf16));
        }
    }
    let error = match std::str::from_utf8(bytes) {
        Ok(text) => return Ok((text.to_owned(), Encoding::Utf8)),
        Err(error) => error,
    };
    let is_control = |b: &u8| *b < 0x20 && !matches!(b, b'\t' | b'\r' | b'\n');
    let has_utf_8 = bytes.utf8_chunks().any(|chunk| !chunk.valid().is_ascii());
    if !has_utf_8 && !bytes.iter().any(is_control) {
        let (text, _, _) = WINDOWS_1252.decode(bytes);
        return Ok((text.into_owned(), Encoding::Latin1));
    }
    let (good, rest) = bytes.split_at(error.valid_up_to());
    let line = 1 + good.iter().filter(|b| **b == b'\n').count() as u64;
    let expected = "text in UTF-8; save the file as CSV in UTF-8 and choose it again";
    let got = rest.first().map_or_else(String::new, |b| format!("the byte {b:#04x}"));
    Err(whole_row(line, expected, &got))
}

/// What a kind of table is made of.
pub(super) struct Kind {
    /// Its columns.
    pub columns: &'static [&'static str],
    /// Those that may be missing, or empty in a row.
    pub optional: &'static [&'static str],
    /// What names a row.
    pub name: &'static str,
}

impl Kind {
    /// Whether it has a column, in ounces too where it is a mass.
    fn has(&self, column: &str) -> bool {
        self.columns.iter().any(|c| *c == column || in_ounces(c) == column)
    }
}

/// Reads a table. Every row is either a thing or has at least one problem. `row` makes a thing of a row and says what it read;
/// none if it has blamed something.
pub(super) fn read<T>(
    text: &str,
    kind: &Kind,
    mut row: impl FnMut(&mut Row) -> Option<(T, String)>,
) -> Reading<T> {
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
            reading.blame(whole_row(1, "a header row", &error.to_string()));
            return reading;
        }
    };
    for column in kind.columns.iter().filter(|c| !kind.optional.contains(c)) {
        if !columns.contains_key(*column) && !columns.contains_key(&in_ounces(column)) {
            reading.blame(RowProblem {
                line: 1,
                column: (*column).into(),
                expected: format!("a header \"{column}\""),
                got: "no such column".into(),
            });
        }
    }
    if !reading.problems.is_empty() {
        return reading;
    }
    reading.ignored = columns.keys().filter(|c| !kind.has(c) && !c.is_empty()).cloned().collect();
    reading.ignored.sort();
    for (k, record) in reader.records().enumerate() {
        let record = match record {
            Ok(record) => record,
            Err(error) => {
                let line = k as u64 + 2;
                reading.refuse(line, "", vec![whole_row(line, "a row of a table", &error.to_string())]);
                continue;
            }
        };
        let line = record.position().map_or(k as u64 + 2, csv::Position::line);
        let mut cells = Row {
            record: &record,
            columns: &columns,
            decimal_comma: between != b',',
            line,
            problems: vec![],
        };
        let name = text_of(cells.text(kind.name)).to_owned();
        if record.len() != columns.len() {
            let expected = format!("{} cells, as the header has", columns.len());
            let problem = whole_row(line, &expected, &format!("{} cells", record.len()));
            reading.refuse(line, &name, vec![problem]);
            continue;
        }
        match row(&mut cells) {
            Some((thing, words)) => {
                reading.tell(RowVerdict { line, name, good: true, words });
                reading.things.push(thing);
            }
            None => reading.refuse(line, &name, cells.problems),
        }
    }
    reading
}

/// Reads a file as it came, which may not be text at all; then that is its one problem.
pub(super) fn read_bytes<T>(bytes: &[u8], read: impl Fn(&str) -> Reading<T>) -> Reading<T> {
    match decoded(bytes) {
        Ok((text, encoding)) => Reading { encoding, ..read(&text) },
        Err(problem) => Reading { problems: vec![problem], ..Reading::default() },
    }
}

/// Writes a table.
///
/// # Errors
/// Only if memory runs out while writing.
pub(super) fn write<const N: usize>(
    columns: [&str; N],
    rows: impl Iterator<Item = [String; N]>,
) -> Result<String, csv::Error> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    writer.write_record(columns)?;
    for row in rows {
        writer.write_record(row)?;
    }
    let bytes = writer.into_inner().map_err(|e| e.into_error())?;
    Ok(String::from_utf8_lossy(&bytes).into_owned())
}

fn whole_row(line: u64, expected: &str, got: &str) -> RowProblem {
    RowProblem { line, column: String::new(), expected: expected.into(), got: got.into() }
}
