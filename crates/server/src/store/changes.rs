//! What was changed, when, and back again: one record for every table, those to come included.
//!
//! Triggers write down each row of each table as it was and as it became. They are made anew from the schema whenever a database
//! is opened, so that a table added later is watched without a word about it, and they let no write pass that belongs to no
//! step. Undoing a step puts the rows back; the record of it stays, so that it can be done again, after a restart too.

use rusqlite::{Connection, OptionalExtension, Row, Transaction, TransactionBehavior};
use serde::Serialize;
use serde_json::{Map, Value};
use utoipa::ToSchema;
use zinc_kite_bag::disc::spec::DiscId;

use super::watched::{Watched, stored};
use super::{Store, StoreError, from_json, is_duplicate};

/// Steps kept; older ones are let go.
pub const KEPT_STEPS: i64 = 1000;
/// Size of all rows kept, bytes; beyond it the oldest steps are let go.
const KEPT_BYTES: i64 = 16 << 20;
/// Rows of a step that are told one by one.
const TOLD: usize = 20;

/// Whether a change holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ChangeState {
    /// It holds.
    Done,
    /// It was undone, and can be done again.
    Undone,
}

/// One value of a thing before and after.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct FieldChange {
    /// The field; its ending is the unit.
    pub field: String,
    /// What it was; null if there was nothing.
    pub before: Value,
    /// What it became; null if nothing.
    pub after: Value,
}

/// What a step did to one thing.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ThingChange {
    /// Which, in words.
    pub thing: String,
    /// What differs, the things that were only added or removed without it.
    pub fields: Vec<FieldChange>,
}

/// One step of what was changed.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Change {
    /// Its number; later steps have greater ones.
    pub id: i64,
    /// When, UTC, ISO 8601.
    #[schema(format = DateTime)]
    pub at: String,
    /// What, in words.
    pub words: String,
    /// Whether it holds.
    pub state: ChangeState,
    /// The browser window that did, undid or redid it last, by the name it gave itself.
    pub window: Option<String>,
    /// What it did, thing by thing.
    pub things: Vec<ThingChange>,
    /// Further things it changed, which are not listed one by one.
    pub further: usize,
}

/// The record, the latest first.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Changes {
    /// The steps.
    pub changes: Vec<Change>,
    /// The step that "undo" would undo.
    pub undo: Option<i64>,
    /// The step that "redo" would do again.
    pub redo: Option<i64>,
}

/// A row that a step changed, from before all of it to after.
struct Net {
    table: Watched,
    key: Vec<Value>,
    key_text: String,
    before: Option<Value>,
    after: Option<Value>,
}

impl Net {
    fn read(connection: &Connection, (table, key_text, before, after): Images) -> Result<Net, StoreError> {
        Ok(Net {
            table: Watched::of(connection, table)?,
            key: from_json("row_key", key_text.clone())?,
            key_text,
            before: before.map(|text| from_json("before", text)).transpose()?,
            after: after.map(|text| from_json("after", text)).transpose()?,
        })
    }
}

/// Rows of a step, each once, from before all of it to after.
const NET: &str = "SELECT first.of_table, first.row_key, first.before, last.after
    FROM (SELECT min(id) AS first_id, max(id) AS last_id FROM change_row WHERE step_id = ?1 GROUP BY of_table, row_key)
    JOIN change_row first ON first.id = first_id JOIN change_row last ON last.id = last_id ORDER BY first_id";

/// The same, found one after the other: of a step of a hundred thousand rows only the first are told.
const NET_IN_TURN: &str = "SELECT of_table, row_key, before, (
        SELECT after FROM change_row last WHERE last.of_table = r.of_table AND last.row_key = r.row_key
            AND last.step_id = ?1 ORDER BY id DESC LIMIT 1) AS became
    FROM change_row r WHERE step_id = ?1 AND before IS NOT became AND NOT EXISTS (
        SELECT 1 FROM change_row p WHERE p.of_table = r.of_table AND p.row_key = r.row_key AND p.step_id = ?1 AND p.id < r.id)
        AND (?2 IS NULL OR of_table = 'disc' AND row_key = json_array(?2)
            OR of_table = 'bag_disc' AND json_extract(row_key, '$[1]') = ?2)
    ORDER BY id LIMIT ?3";

fn net(connection: &Connection, step: i64) -> Result<Vec<Net>, StoreError> {
    let mut statement = connection.prepare_cached(NET)?;
    let rows: Vec<Images> = statement.query_map([step], images)?.collect::<Result<_, _>>()?;
    rows.into_iter().map(|row| Net::read(connection, row)).collect()
}

/// The first rows that a step changed, all of them or those about a disc.
fn first_of(connection: &Connection, step: i64, disc: Option<i64>) -> Result<Vec<Net>, StoreError> {
    let mut statement = connection.prepare_cached(NET_IN_TURN)?;
    let rows: Vec<Images> =
        statement.query_map((step, disc, TOLD as i64), images)?.collect::<Result<_, _>>()?;
    rows.into_iter().map(|row| Net::read(connection, row)).collect()
}

/// A row's table, its key, and it before and after.
type Images = (String, String, Option<String>, Option<String>);

fn images(r: &Row) -> rusqlite::Result<Images> {
    Ok((r.get(0)?, r.get(1)?, r.get(2)?, r.get(3)?))
}

/// Which way a step is turned.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Way {
    Back,
    Again,
}

impl Store {
    /// Does `work` as one step of the record, all of it or nothing; `work` says what it gives and what was done, in words. A step
    /// that changes nothing leaves no trace.
    pub(super) fn change<T>(
        &mut self,
        work: impl FnOnce(&Connection) -> Result<(T, String), StoreError>,
    ) -> Result<T, StoreError> {
        let window = self.window.take();
        let transaction = self.connection.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let step = begin(&transaction, window)?;
        let (value, words) = work(&transaction)?;
        let things: i64 = transaction.query_row(
            &format!("SELECT count(*) FROM ({NET}) WHERE before IS NOT after"),
            [step],
            |r| r.get(0),
        )?;
        if things == 0 {
            end(&transaction, step)?;
        } else {
            transaction.execute(
                "UPDATE change_step SET words = ?2, things = ?3, bytes = (
                     SELECT sum(length(row_key) + ifnull(length(before), 0) + ifnull(length(after), 0))
                     FROM change_row WHERE step_id = ?1) WHERE id = ?1",
                (step, words, things),
            )?;
            transaction.execute("DELETE FROM change_now", [])?;
            let_go(&transaction)?;
        }
        transaction.commit()?;
        self.discs.take();
        Ok(value)
    }

    /// The `most` latest steps, or the latest before another, all of them or those of one disc, told as far as they are about
    /// it; with what [`Store::undo`] and [`Store::redo`] would turn.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn changes(
        &self,
        before: Option<i64>,
        most: i64,
        disc: Option<DiscId>,
    ) -> Result<Changes, StoreError> {
        let window = self.window.as_deref();
        let mut statement = self.connection.prepare_cached(
            "SELECT id, at, words, undone, window, things FROM change_step WHERE id < ?1 AND (?3 IS NULL OR id IN (
                 SELECT step_id FROM change_row WHERE of_table = 'disc' AND row_key = json_array(?3)
                     OR of_table = 'bag_disc' AND json_extract(row_key, '$[1]') = ?3))
             ORDER BY id DESC LIMIT ?2",
        )?;
        let disc = disc.map(|id| id.0);
        let steps = statement.query_map((before.unwrap_or(i64::MAX), most, disc), change_of)?;
        let mut changes: Vec<Change> = steps.collect::<Result<_, _>>()?;
        for change in &mut changes {
            let rows = first_of(&self.connection, change.id, disc)?;
            // A disc has few rows in a step: itself and its places in bags.
            let all = if disc.is_some() { rows.len() } else { change.further };
            change.further = all.saturating_sub(rows.len());
            change.things = rows.iter().map(|row| told(&self.connection, row)).collect::<Result<_, _>>()?;
        }
        Ok(Changes { changes, undo: self.next(Way::Back, window)?, redo: self.next(Way::Again, window)? })
    }

    /// The latest step, and which are undone: another pair after every change, undo and redo.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn version(&self) -> Result<(i64, String), StoreError> {
        let sql =
            "SELECT ifnull(max(id), 0), ifnull(group_concat(id) FILTER (WHERE undone), '') FROM change_step";
        Ok(self.connection.query_row(sql, [], |r| Ok((r.get(0)?, r.get(1)?)))?)
    }

    /// Number of the latest step; 0 if there is none.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn latest_change(&self) -> Result<i64, StoreError> {
        Ok(self.connection.query_row("SELECT ifnull(max(id), 0) FROM change_step", [], |r| r.get(0))?)
    }

    /// The step that is turned if none is named: the latest that the window made or turned itself; where it made none at all, as
    /// after a restart, the latest of all.
    fn next(&self, way: Way, window: Option<&str>) -> Result<Option<i64>, StoreError> {
        if let Some(own) = window.map_or(Ok(None), |w| self.latest(way, Some(w)))? {
            return Ok(Some(own));
        }
        let sql = "SELECT EXISTS (SELECT 1 FROM change_step WHERE made_in = ?1)";
        let made_any: bool = self.connection.query_row(sql, [window], |r| r.get(0))?;
        if made_any { Ok(None) } else { self.latest(way, None) }
    }

    /// The step that is turned next among those of a window, or of all.
    fn latest(&self, way: Way, window: Option<&str>) -> Result<Option<i64>, StoreError> {
        let sql = match way {
            Way::Back => "SELECT max(id) FROM change_step WHERE NOT undone AND (?1 IS NULL OR window = ?1)",
            // What was undone before something new was done stays undone, unless it is asked for by itself.
            Way::Again => {
                "SELECT (SELECT id FROM change_step WHERE undone AND (?1 IS NULL OR window = ?1) AND turned > (
                     SELECT ifnull(max(made), 0) FROM change_step WHERE ?1 IS NULL OR made_in = ?1)
                 ORDER BY turned DESC LIMIT 1)"
            }
        };
        Ok(self.connection.query_row(sql, [window], |r| r.get(0))?)
    }

    /// Why nothing is turned for a window: nothing is there, or only what others did.
    fn nothing(&self, way: Way) -> Result<StoreError, StoreError> {
        let verb = if way == Way::Back { "undo" } else { "redo" };
        let sql = "SELECT words FROM change_step WHERE id = ?1";
        Ok(match self.latest(way, None)? {
            Some(id) => {
                StoreError::NothingOwn { verb, other: self.connection.query_row(sql, [id], |r| r.get(0))? }
            }
            None => StoreError::NothingToTurn { verb },
        })
    }

    /// Undoes a step, or the latest that holds, of the window that asks if it made one. Gives it as it then is.
    ///
    /// # Errors
    /// [`StoreError::NothingToTurn`] if there is none, [`StoreError::ChangedSince`] if what it changed is no longer as it left it;
    /// then nothing is changed.
    pub fn undo(&mut self, step: Option<i64>) -> Result<Change, StoreError> {
        self.turn(step, Way::Back)
    }

    /// Does an undone step again, or the one undone last.
    ///
    /// # Errors
    /// As of [`Store::undo`].
    pub fn redo(&mut self, step: Option<i64>) -> Result<Change, StoreError> {
        self.turn(step, Way::Again)
    }

    fn turn(&mut self, asked: Option<i64>, way: Way) -> Result<Change, StoreError> {
        let window = self.window.take();
        let nothing = || StoreError::NothingToTurn { verb: if way == Way::Back { "undo" } else { "redo" } };
        let id = match asked {
            Some(id) => id,
            None => match self.next(way, window.as_deref())? {
                Some(id) => id,
                None => return Err(self.nothing(way)?),
            },
        };
        let transaction = self.connection.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let mut change = transaction
            .query_row(
                "SELECT id, at, words, undone, window, things FROM change_step WHERE id = ?1",
                [id],
                change_of,
            )
            .optional()?
            .filter(|change| (change.state == ChangeState::Done) == (way == Way::Back))
            .ok_or_else(nothing)?;
        let rows = net(&transaction, id)?;
        transaction.pragma_update(None, "defer_foreign_keys", true)?;
        for row in &rows {
            let stands = if way == Way::Back { &row.after } else { &row.before };
            let stands = stands.as_ref().map(|s| row.table.completed(&transaction, s)).transpose()?;
            if row.table.now(&transaction, &row.key)? != stands {
                return Err(since(&transaction, &change, Some(row))?);
            }
        }
        // Watched like any other write: a row that goes along with another, though the step did not touch it, would be lost.
        let trial = begin(&transaction, None)?;
        for gone in [true, false] {
            for row in &rows {
                let to = if way == Way::Back { &row.before } else { &row.after };
                if to.is_none() == gone {
                    row.table.put(&transaction, &row.key, to.as_ref()).map_err(|e| match e {
                        StoreError::Sqlite(e) if is_duplicate(&e) => {
                            StoreError::NameSince { words: change.words.clone() }
                        }
                        other => other,
                    })?;
                }
            }
        }
        let planned =
            |row: &Net| rows.iter().any(|r| r.table.name == row.table.name && r.key_text == row.key_text);
        if net(&transaction, trial)?.iter().any(|row| !planned(row)) {
            return Err(since(&transaction, &change, None)?);
        }
        end(&transaction, trial)?;
        transaction.execute(
            &format!(
                "UPDATE change_step SET undone = NOT undone, window = ?2, turned = {NEXT} WHERE id = ?1"
            ),
            (id, &window),
        )?;
        transaction.commit().map_err(|e| match e.sqlite_error_code() {
            Some(rusqlite::ErrorCode::ConstraintViolation) => {
                StoreError::ChangedSince { words: change.words.clone(), later: None }
            }
            _ => e.into(),
        })?;
        self.discs.take();
        change.window = window;
        change.state = if way == Way::Back { ChangeState::Undone } else { ChangeState::Done };
        change.further = change.further.saturating_sub(TOLD);
        change.things =
            rows.iter().take(TOLD).map(|row| told(&self.connection, row)).collect::<Result<_, _>>()?;
        Ok(change)
    }

    /// Forgets every step: what there is is where the record begins.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn forget_changes(&mut self) -> Result<(), StoreError> {
        self.connection.execute("DELETE FROM change_step", [])?;
        Ok(())
    }
}

/// SQL for the number after all that steps were made or turned under: the order in which that was done, whatever the clock says.
const NEXT: &str = "(SELECT 1 + ifnull(max(max(made, turned)), 0) FROM change_step)";

fn begin(transaction: &Transaction, window: Option<String>) -> Result<i64, StoreError> {
    transaction.execute(
        &format!(
            "INSERT INTO change_step (at, window, made_in, made)
             VALUES (strftime('%Y-%m-%dT%H:%M:%fZ', 'now'), ?1, ?1, {NEXT})"
        ),
        [window],
    )?;
    let step = transaction.last_insert_rowid();
    transaction.execute("INSERT INTO change_now (step) VALUES (?1)", [step])?;
    Ok(step)
}

/// Ends a step that is not to be kept.
fn end(transaction: &Transaction, step: i64) -> Result<(), StoreError> {
    transaction.execute("DELETE FROM change_now", [])?;
    transaction.execute("DELETE FROM change_step WHERE id = ?1", [step])?;
    Ok(())
}

/// Lets go of what is more than is kept, never of the newest step.
fn let_go(transaction: &Transaction) -> Result<(), StoreError> {
    transaction.execute(
        "DELETE FROM change_step WHERE id < (SELECT max(id) FROM change_step) AND id <= ifnull((
             SELECT max(id) FROM (
                 SELECT id, sum(bytes) OVER newer AS size, count(*) OVER newer AS steps FROM change_step
                 WINDOW newer AS (ORDER BY id DESC)
             ) WHERE size > ?1 OR steps > ?2), 0)",
        (KEPT_BYTES, KEPT_STEPS),
    )?;
    Ok(())
}

fn change_of(r: &Row) -> rusqlite::Result<Change> {
    Ok(Change {
        id: r.get(0)?,
        at: r.get(1)?,
        words: r.get(2)?,
        state: if r.get(3)? { ChangeState::Undone } else { ChangeState::Done },
        window: r.get(4)?,
        things: vec![],
        further: usize::try_from(r.get::<_, i64>(5)?).unwrap_or(0),
    })
}

/// Why a step cannot be turned: what came after it.
fn since(connection: &Connection, change: &Change, row: Option<&Net>) -> Result<StoreError, StoreError> {
    let later = match row {
        Some(row) => connection
            .query_row(
                "SELECT words FROM change_step s JOIN change_row r ON r.step_id = s.id
                 WHERE s.id > ?1 AND NOT undone AND of_table = ?2 AND row_key = ?3 ORDER BY s.id DESC LIMIT 1",
                (change.id, &row.table.name, &row.key_text),
                |r| r.get(0),
            )
            .optional()?,
        None => None,
    };
    Ok(StoreError::ChangedSince { words: change.words.clone(), later })
}

/// What a step did to a row, in words.
fn told(connection: &Connection, row: &Net) -> Result<ThingChange, StoreError> {
    let stood = row.after.as_ref().or(row.before.as_ref());
    let text = |key: &str| stood.and_then(|s| s.get(key)).and_then(Value::as_str).map(str::to_owned);
    let name_of = |table: &str, id: &Value| -> Result<String, StoreError> {
        let sql = format!("SELECT name FROM {table} WHERE id = ?1");
        let name: Option<String> = connection.query_row(&sql, [stored(id)], |r| r.get(0)).optional()?;
        Ok(name.unwrap_or_else(|| format!("{table} {id}")))
    };
    // What is deleted stays in its table, out of sight.
    let out_of_sight = |row: &Option<Value>| row.as_ref().and_then(|r| r.get("deleted")?.as_i64()) == Some(1);
    let did = match (&row.before, &row.after) {
        (None, _) => "added",
        (_, None) => "removed",
        (before, after) if !out_of_sight(before) && out_of_sight(after) => "removed",
        (before, after) if out_of_sight(before) && !out_of_sight(after) => "back",
        _ => "changed",
    };
    let thing = match (row.table.name.as_str(), row.key.as_slice()) {
        ("bag_disc", [bag, disc]) => format!("{} in {}", name_of("disc", disc)?, name_of("bag", bag)?),
        ("player", _) => "the player".to_owned(),
        ("own_line" | "mould" | "course", _) => stood
            .and_then(|s| s.get("spec")?.as_str())
            .and_then(|spec| {
                serde_json::from_str::<Value>(spec).ok()?.get("name")?.as_str().map(str::to_owned)
            })
            .unwrap_or_else(|| row.table.name.replace('_', " ")),
        ("round" | "field_session" | "throw", _) => {
            let spec =
                stood.and_then(|s| s.get("spec")?.as_str()).and_then(|spec| serde_json::from_str(spec).ok());
            let of = |key: &str| spec.as_ref().and_then(|s: &Value| s.get(key)?.as_str()).unwrap_or_default();
            match row.table.name.as_str() {
                "round" => format!("round on {} of {}", of("course"), of("date")),
                "throw" => format!("throw of {}", of("disc_name")),
                _ => format!("session at {} of {}", of("place"), of("date")),
            }
        }
        ("line_setting", [key]) => {
            format!("setting of {}", key.as_str().unwrap_or_default().replace('-', " "))
        }
        (table, _) => text("name").unwrap_or_else(|| table.replace('_', " ")),
    };
    let fields = match (&row.before, &row.after) {
        (Some(before), Some(after)) => {
            let (before, after) = (flat(before), flat(after));
            let mut fields: Vec<String> = before.keys().chain(after.keys()).cloned().collect();
            fields.sort();
            fields.dedup();
            let value = |of: &Map<String, Value>, field: &str| of.get(field).cloned().unwrap_or(Value::Null);
            fields
                .into_iter()
                .map(|field| FieldChange {
                    before: value(&before, &field),
                    after: value(&after, &field),
                    field,
                })
                .filter(|f| f.before != f.after && f.field != "deleted")
                .collect()
        }
        _ => vec![],
    };
    Ok(ThingChange { thing: format!("{thing}: {did}"), fields })
}

/// A row's values, those that are kept as JSON text by their own names.
fn flat(row: &Value) -> Map<String, Value> {
    let mut flat = Map::new();
    for (column, value) in row.as_object().into_iter().flatten() {
        match value.as_str().and_then(|text| serde_json::from_str::<Map<String, Value>>(text).ok()) {
            Some(inner) => flat.extend(inner),
            None => {
                flat.insert(column.clone(), value.clone());
            }
        }
    }
    flat
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;

    /// Whoever writes a later part of the program cannot forget the record.
    #[test]
    fn prop_a_write_that_belongs_to_no_step_is_refused() {
        let store = Store::in_memory().unwrap();
        for sql in
            ["UPDATE bag SET capacity = 3", "DELETE FROM bag", "INSERT INTO line_setting VALUES ('x', 1, 1)"]
        {
            let error = store.connection.execute(sql, []).unwrap_err().to_string();
            assert!(error.contains("a write outside a step"), "{sql}: {error}");
        }
    }
}
