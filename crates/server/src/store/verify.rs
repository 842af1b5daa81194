//! What a database must be like before it takes the place of another: the tables of this program and no others, nothing in them
//! that runs of itself, and a record of changes whose every row could be put back.

use rusqlite::types::Type;
use rusqlite::{Connection, Row};
use serde::de::DeserializeOwned;
use serde_json::Value;
use zinc_kite_bag::course::hole::CourseSpec;
use zinc_kite_bag::course::played::PlayedRound;
use zinc_kite_bag::disc::mould::MouldSpec;
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::throw::FieldThrow;
use zinc_kite_bag::need::line::LineSpec;

use super::watched::Watched;
use super::{Store, StoreError, bags, discs, from_json, player};

/// A table, index, trigger or view: what it is, its name and how it was made.
type Part = (String, String, String);

fn parts(connection: &Connection) -> rusqlite::Result<Vec<Part>> {
    let sql = "SELECT type, name, ifnull(sql, '') FROM main.sqlite_schema WHERE name NOT LIKE 'sqlite\\_%' ESCAPE '\\'
        ORDER BY type, name";
    let part = |r: &Row| Ok((r.get(0)?, r.get(1)?, r.get::<_, String>(2)?));
    connection.prepare(sql)?.query_map([], part)?.collect()
}

fn not_ours(path: &str, cause: String) -> StoreError {
    StoreError::NotOurs { path: path.into(), cause }
}

/// Refuses a file with triggers, views or tables that are programs, before anything is written to it.
///
/// # Errors
/// [`StoreError::NotOurs`], or as SQLite says.
pub(super) fn nothing_runs_of_itself(connection: &Connection, path: &str) -> Result<(), StoreError> {
    let runs = |(kind, _, sql): &Part| {
        matches!(kind.as_str(), "trigger" | "view") || sql.to_ascii_uppercase().contains("CREATE VIRTUAL")
    };
    match parts(connection).map_err(super::told(path))?.into_iter().find(runs) {
        Some((kind, name, _)) => {
            Err(not_ours(path, format!("it holds the {kind} \"{name}\", which no backup has")))
        }
        None => Ok(()),
    }
}

impl Store {
    /// Whether it is a database that this program could have made: its tables and the record of what was changed. What the tables hold
    /// is looked at by [`crate::format::records::verify`].
    ///
    /// # Errors
    /// [`StoreError::NotOurs`] or [`StoreError::Twisted`] with what is wrong.
    pub fn verify_shape(&self, path: &str) -> Result<(), StoreError> {
        let ours = parts(&Store::in_memory()?.connection)?;
        let theirs = parts(&self.connection)?;
        for part in &theirs {
            let (kind, name, _) = part;
            if !ours.iter().any(|(k, n, _)| k == kind && n == name) {
                return Err(not_ours(path, format!("it holds the {kind} \"{name}\", which no backup has")));
            }
            if !ours.contains(part) {
                return Err(not_ours(
                    path,
                    format!("its {kind} \"{name}\" is another than that of a backup"),
                ));
            }
        }
        if let Some((kind, name, _)) = ours.iter().find(|part| !theirs.contains(part)) {
            return Err(not_ours(path, format!("it lacks the {kind} \"{name}\"")));
        }
        self.verify_record()
    }

    /// Whether every row of the record of changes could be put back.
    fn verify_record(&self) -> Result<(), StoreError> {
        let tables = Watched::all(&self.connection)?;
        let mut statement =
            self.connection.prepare("SELECT id, of_table, row_key, before, after FROM change_row")?;
        let mut rows = statement.query([])?;
        while let Some(row) = rows.next()? {
            let (id, name): (i64, String) = (row.get(0)?, row.get(1)?);
            let twisted =
                |words: String| StoreError::Twisted { what: format!("row {id} of the changes"), words };
            let Some(table) = tables.iter().find(|t| t.name == name) else {
                return Err(twisted(format!("the name of a table was expected, \"{name}\" came")));
            };
            let key: Vec<Value> = from_json("row_key", row.get(2)?)?;
            if !table.has_key(&key) {
                return Err(twisted(format!("a key of {name} was expected, {} came", Value::from(key))));
            }
            for image in [row.get::<_, Option<String>>(3)?, row.get(4)?].into_iter().flatten() {
                let fields: Value = from_json("a row", image)?;
                if !table.has_columns(&fields) {
                    return Err(twisted(format!("a row of {name} was expected, other columns came")));
                }
                let fields = table.completed(&self.connection, &fields)?;
                self.could_be_put_back(table, &fields).map_err(|e| twisted(e.to_string()))?;
            }
        }
        Ok(())
    }

    /// Whether a row as it was written down holds what its table may hold.
    fn could_be_put_back(&self, table: &Watched, fields: &Value) -> Result<(), StoreError> {
        match table.name.as_str() {
            "disc" => {
                let read = self.as_row(table, fields, discs::READ, discs::disc_of)?;
                held(read.spec.validate())
            }
            "player" => held(self.as_row(table, fields, player::READ, player::player_of)?.validate()),
            "bag" => held(self.as_row(table, fields, bags::READ, bags::spec_of)?.validate()),
            "mould" => held(spec::<MouldSpec>(fields)?.validate()),
            "own_line" => held(spec::<LineSpec>(fields)?.validate()),
            "course" => held(spec::<CourseSpec>(fields)?.validate()),
            "round" => held(spec::<PlayedRound>(fields)?.validate()),
            "field_session" => held(spec::<FieldSession>(fields)?.validate()),
            "throw" => held(spec::<FieldThrow>(fields)?.validate()),
            _ => Ok(()),
        }
    }

    /// Reads a row that was written down as JSON the way rows of its table are read.
    fn as_row<T>(
        &self,
        table: &Watched,
        fields: &Value,
        read: &str,
        of: impl FnOnce(&Row) -> Result<T, StoreError>,
    ) -> Result<T, StoreError> {
        let sql = format!("WITH {} {read}", table.standing_in());
        let mut statement = self.connection.prepare_cached(&sql)?;
        let mut rows = statement.query([fields.to_string()])?;
        match rows.next()? {
            Some(row) => of(row),
            None => Err(rusqlite::Error::InvalidColumnType(0, table.name.clone(), Type::Null).into()),
        }
    }
}

fn held(valid: Result<(), BagError>) -> Result<(), StoreError> {
    valid.map_err(|e| StoreError::Twisted { what: e.field().to_owned(), words: e.to_string() })
}

fn spec<T: DeserializeOwned>(fields: &Value) -> Result<T, StoreError> {
    from_json("spec", fields.get("spec").and_then(Value::as_str).unwrap_or_default().to_owned())
}
