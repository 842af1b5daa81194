//! Everything as one JSON document, with a version and a published JSON Schema (draft 2020-12). Documented in the README.
//!
//! Discs stand by their names, which are unique, so that a document can be written by hand or by another program. What changes
//! the meaning of a field raises [`VERSION`]; a field that is only added does not.

use std::collections::HashSet;
use std::io::Read;
use std::path::Path;

use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use tempfile::NamedTempFile;
use utoipa::ToSchema;
use zinc_kite_bag::error::{BagError, within};

use crate::error::ApiError;
use crate::store::copies::passing_copy_of;
use crate::store::records::{Records, SessionRecord};
use crate::store::{Store, StoreError, folded};

/// The fields that identify a document.
pub const FORMAT: &str = "zinc-kite-records";
/// Version that is written, and the newest that is read.
pub const VERSION: u32 = 1;
/// Name of the schema.
pub const SCHEMA_ID: &str = "urn:zinc-kite:records:1";
/// Problems that are told.
const TOLD: usize = 100;

/// The document.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RecordsDocument {
    /// Always "zinc-kite-records".
    #[schema(pattern = "^zinc-kite-records$")]
    pub format: String,
    /// Version of the format.
    #[schema(minimum = 1, maximum = 1)]
    pub version: u32,
    /// Everything.
    #[serde(flatten)]
    pub records: Records,
}

/// One thing wrong with a document.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct RecordProblem {
    /// Where, as a path from the top of the document.
    pub at: String,
    /// What was expected and what came.
    pub words: String,
}

fn problem(at: impl Into<String>, words: impl Into<String>) -> RecordProblem {
    RecordProblem { at: at.into(), words: words.into() }
}

/// Writes everything.
///
/// # Errors
/// Only if memory runs out while writing.
pub fn write(records: Records) -> Result<String, serde_json::Error> {
    let document = RecordsDocument { format: FORMAT.into(), version: VERSION, records };
    serde_json::to_string_pretty(&document)
}

/// Reads a document, all of it or nothing.
///
/// # Errors
/// What is wrong with it, the first hundred things.
pub fn read(bytes: &[u8]) -> Result<Records, Vec<RecordProblem>> {
    read_from(|| Ok(bytes))
}

/// The same from wherever it can be read twice, such as a file.
///
/// # Errors
/// As of [`read`].
pub fn read_from<R: Read>(open: impl Fn() -> std::io::Result<R>) -> Result<Records, Vec<RecordProblem>> {
    let unreadable = |e: String| vec![problem("", format!("JSON in UTF-8 was expected; {e}"))];
    // Twice: what it is, then what it holds. All at once as values it would take many times its size.
    let from = || open().map_err(|e| unreadable(e.to_string())).map(plain);
    let head: Head = serde_json::from_reader(from()?).map_err(|e| unreadable(e.to_string()))?;
    let format = head.format.as_ref().and_then(Value::as_str).unwrap_or_default();
    if format != FORMAT {
        let got = if format.is_empty() {
            "none".to_owned()
        } else {
            format!("\"{}\"", format.chars().take(60).collect::<String>())
        };
        return Err(vec![problem("format", format!("\"{FORMAT}\" was expected, {got} came"))]);
    }
    match head.version.as_ref().and_then(Value::as_f64) {
        Some(version) if version == f64::from(VERSION) => {}
        Some(version) if version > f64::from(VERSION) && version.fract() == 0.0 => {
            let words = format!(
                "this program reads up to version {VERSION}, version {version} came: use a newer Zinc Kite"
            );
            return Err(vec![problem("version", words)]);
        }
        _ => return Err(vec![problem("version", "a whole number from 1 was expected")]),
    }
    let mut reader = serde_json::Deserializer::from_reader(from()?);
    let records: Records = serde_path_to_error::deserialize(&mut reader)
        .map_err(|e| vec![problem(e.path().to_string(), e.inner().to_string())])?;
    let problems = faults(&records);
    if problems.is_empty() { Ok(records) } else { Err(problems) }
}

/// The fields that identify a document.
#[derive(Deserialize)]
struct Head {
    format: Option<Value>,
    version: Option<Value>,
}

/// Without the mark of UTF-8 that some programs put at the beginning.
fn plain(mut from: impl Read) -> impl Read {
    const MARK: [u8; 3] = [0xEF, 0xBB, 0xBF];
    let mut start = Vec::with_capacity(MARK.len());
    // A read error shows again when the rest is read.
    let _ = from.by_ref().take(MARK.len() as u64).read_to_end(&mut start);
    if start == MARK {
        start.clear();
    }
    std::io::BufReader::new(std::io::Cursor::new(start).chain(from))
}

/// A copy of a file that may take the place of a database, once all of it has been looked at. The copy lies beside the database and
/// goes when it is dropped.
///
/// # Errors
/// [`ApiError::Copy`], [`ApiError::Records`] or [`ApiError::Disk`].
pub fn verified_copy(file: &Path, database: Option<&Path>) -> Result<(Store, NamedTempFile), ApiError> {
    let own = match passing_copy_of(file, database) {
        Err(full @ StoreError::Copy { .. }) => return Err(full.into()),
        copied => copied.map_err(ApiError::Copy)?,
    };
    Ok((verified(&file.display().to_string(), own.path())?, own))
}

/// A private file that may take the place of a database, once all of it has been looked at.
///
/// # Errors
/// What is wrong with it.
pub fn verified(name: &str, file: &Path) -> Result<Store, ApiError> {
    let store = Store::private(name, file).map_err(ApiError::Copy)?;
    verify(&store, name)?;
    Ok(store)
}

/// Looks whether a database could take the place of another: whether it is ours in all its parts, and what it holds is as it is held
/// here.
///
/// # Errors
/// What is wrong with it.
fn verify(store: &Store, name: &str) -> Result<(), ApiError> {
    store.verify_shape(name).map_err(ApiError::Copy)?;
    let records = store.records_but_sessions().map_err(ApiError::Copy)?;
    let mut problems = faults(&records);
    let mut k = 0;
    let sessions = store.each_session(|session| {
        session_faults(&mut problems, k, &session);
        k += 1;
    });
    sessions.map_err(ApiError::Copy)?;
    problems.truncate(TOLD);
    if problems.is_empty() { Ok(()) } else { Err(ApiError::Records { problems }) }
}

fn check(found: &mut Vec<RecordProblem>, at: String, held: Result<(), BagError>) {
    if let Err(e) = held {
        let field = e.field().to_owned();
        found.push(problem(if field.is_empty() { at } else { format!("{at}.{field}") }, e.to_string()));
    }
}

fn session_faults(found: &mut Vec<RecordProblem>, k: usize, record: &SessionRecord) {
    check(found, format!("sessions[{k}]"), record.session.key.validate());
    check(found, format!("sessions[{k}]"), record.session.spec.validate());
    for (i, throw) in record.throws.iter().enumerate() {
        check(found, format!("sessions[{k}].throws[{i}]"), throw.key.validate());
        check(found, format!("sessions[{k}].throws[{i}]"), throw.spec.validate());
    }
}

/// What does not hold, thing by thing.
fn faults(records: &Records) -> Vec<RecordProblem> {
    let mut found = Vec::new();
    for (k, record) in records.sessions.iter().enumerate() {
        session_faults(&mut found, k, record);
    }
    let mut check = |at: String, held: Result<(), BagError>| check(&mut found, at, held);
    if let Some(player) = &records.player {
        check("player".into(), player.validate());
    }
    for (k, disc) in records.discs.iter().enumerate() {
        check(format!("discs[{k}]"), disc.validate());
    }
    for (k, mould) in records.moulds.iter().enumerate() {
        check(format!("moulds[{k}]"), mould.validate());
    }
    for (k, bag) in records.bags.iter().enumerate() {
        check(format!("bags[{k}]"), bag.spec.validate());
    }
    for (k, line) in records.own_lines.iter().enumerate() {
        check(format!("own_lines[{k}]"), line.spec.validate());
    }
    for (k, course) in records.courses.iter().enumerate() {
        check(format!("courses[{k}]"), course.validate());
    }
    for (k, round) in records.rounds.iter().enumerate() {
        check(format!("rounds[{k}]"), round.key.validate());
        check(format!("rounds[{k}]"), round.spec.validate());
    }
    for (k, line) in records.line_settings.iter().enumerate() {
        let weight = line.setting.weight.unwrap_or(1.0);
        check(format!("line_settings[{k}]"), within("weight", weight, 0.1, 10.0));
    }
    once(&mut found, "discs", records.discs.iter().map(|d| folded(&d.name)));
    once(&mut found, "courses", records.courses.iter().map(|c| folded(&c.name)));
    once(&mut found, "rounds", records.rounds.iter().map(|r| r.key.0.clone()));
    once(&mut found, "sessions", records.sessions.iter().map(|r| r.session.key.0.clone()));
    let throws = records.sessions.iter().flat_map(|r| &r.throws);
    once(&mut found, "throws", throws.map(|t| t.key.0.clone()));
    once(&mut found, "bags", records.bags.iter().map(|b| folded(&b.spec.name)));
    once(
        &mut found,
        "moulds",
        records.moulds.iter().map(|m| format!("{} {}", folded(&m.maker), folded(&m.name))),
    );
    once(&mut found, "line_settings", records.line_settings.iter().map(|l| l.key.clone()));
    let replaced = records.own_lines.iter().filter_map(|l| l.replaces.clone());
    once(&mut found, "own_lines", replaced);
    if records.bags.is_empty() {
        found.push(problem("bags", "one bag at least was expected: every screen works on one"));
    }
    let names: HashSet<String> = records.discs.iter().map(|d| folded(&d.name)).collect();
    for (k, bag) in records.bags.iter().enumerate() {
        for (i, carried) in bag.carried.iter().enumerate() {
            if !names.contains(&folded(&carried.disc)) {
                let words =
                    format!("the name of a disc of this document was expected, \"{}\" came", carried.disc);
                found.push(problem(format!("bags[{k}].carried[{i}].disc"), words));
            }
        }
    }
    found.truncate(TOLD);
    found
}

fn once(found: &mut Vec<RecordProblem>, of: &str, names: impl Iterator<Item = String>) {
    let mut known = HashSet::new();
    for (k, name) in names.enumerate() {
        if !known.insert(name.clone()) {
            found.push(problem(
                format!("{of}[{k}]"),
                format!("each name once was expected, \"{name}\" comes again"),
            ));
        }
    }
}

/// The JSON Schema of a document, from the descriptions of its parts in the OpenAPI document, whose dialect is that of draft
/// 2020-12.
pub fn schema(openapi: &Value) -> Value {
    let parts = &openapi["components"]["schemas"];
    let mut wanted = vec!["RecordsDocument".to_owned()];
    let mut defs = serde_json::Map::new();
    while let Some(name) = wanted.pop() {
        if defs.contains_key(&name) {
            continue;
        }
        let mut part = parts[&name].clone();
        moved(&mut part, &mut wanted);
        defs.insert(name, part);
    }
    let mut names: Vec<String> = defs.keys().cloned().collect();
    names.sort();
    let sorted: serde_json::Map<String, Value> =
        names.into_iter().filter_map(|name| Some((name.clone(), defs.remove(&name)?))).collect();
    json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": SCHEMA_ID,
        "title": "Records of Zinc Kite, version 1",
        "$ref": "#/$defs/RecordsDocument",
        "$defs": sorted,
    })
}

/// Points at parts of the schema instead of the OpenAPI document's, and says which.
fn moved(value: &mut Value, wanted: &mut Vec<String>) {
    match value {
        Value::Object(fields) => {
            if let Some(Value::String(to)) = fields.get_mut("$ref")
                && let Some(name) = to.strip_prefix("#/components/schemas/").map(str::to_owned)
            {
                *to = format!("#/$defs/{name}");
                wanted.push(name);
            }
            fields.values_mut().for_each(|v| moved(v, wanted));
        }
        Value::Array(items) => items.iter_mut().for_each(|v| moved(v, wanted)),
        _ => {}
    }
}
