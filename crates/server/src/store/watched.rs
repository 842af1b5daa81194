//! Tables whose rows are written down as they change, and rows read and put back whole.
//!
//! The triggers are made from the schema, so that a table added later is watched without a word about it.

use rusqlite::types::Value as Stored;
use rusqlite::{Connection, OptionalExtension, params_from_iter};
use serde_json::Value;

use super::{StoreError, from_json};

/// Where the step under way is named; empty when there is none.
const NOW: &str = "CREATE TEMP TABLE change_now (step INTEGER NOT NULL) STRICT";

/// A table whose rows are written down.
pub(super) struct Watched {
    pub name: String,
    columns: Vec<String>,
    key: Vec<String>,
}

impl Watched {
    /// Every table of a database but those of the record itself.
    pub fn all(connection: &Connection) -> rusqlite::Result<Vec<Watched>> {
        let names: Vec<String> = connection
            .prepare(
                "SELECT name FROM main.sqlite_schema WHERE type = 'table'
                 AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND name NOT LIKE 'change\\_%' ESCAPE '\\' ORDER BY name",
            )?
            .query_map([], |r| r.get(0))?
            .collect::<Result<_, _>>()?;
        names.into_iter().map(|name| Watched::of(connection, name)).collect()
    }

    pub fn of(connection: &Connection, name: String) -> rusqlite::Result<Watched> {
        let mut statement =
            connection.prepare_cached("SELECT name, pk FROM pragma_table_info(?1) ORDER BY cid")?;
        let columns: Vec<(String, i64)> =
            statement.query_map([&name], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
        let mut key: Vec<&(String, i64)> = columns.iter().filter(|(_, pk)| *pk > 0).collect();
        key.sort_by_key(|(_, pk)| *pk);
        let key = key.into_iter().map(|(column, _)| column.clone()).collect();
        Ok(Watched { name, key, columns: columns.into_iter().map(|(column, _)| column).collect() })
    }

    /// SQL for a row as a JSON object, or its key as an array. SQLite writes 15 digits of a number where 17 bring it back exactly.
    fn row(&self, of: &str) -> String {
        let field = |c: &String| format!("'{c}', {}", exactly(of, c));
        format!("json_object({})", self.columns.iter().map(field).collect::<Vec<_>>().join(", "))
    }

    fn key(&self, of: &str) -> String {
        let field = |c: &String| format!("{of}\"{c}\"");
        format!("json_array({})", self.key.iter().map(field).collect::<Vec<_>>().join(", "))
    }

    fn triggers(&self) -> String {
        let name = &self.name;
        let trigger = |event: &str, key: &str, before: &str, after: &str| {
            format!(
                "CREATE TEMP TRIGGER \"change_{event}_{name}\" AFTER {event} ON main.\"{name}\" BEGIN
                     SELECT RAISE(ABORT, 'a write outside a step') WHERE NOT EXISTS (SELECT 1 FROM change_now);
                     SELECT RAISE(ABORT, 'the key of a row never changes') WHERE {key} IS NOT {};
                     INSERT INTO change_row (step_id, of_table, row_key, before, after)
                         SELECT step, '{name}', {key}, {before}, {after} FROM change_now WHERE {before} IS NOT {after};
                 END;",
                if event == "UPDATE" { self.key("NEW.") } else { key.to_owned() },
            )
        };
        let (old, new) = (self.row("OLD."), self.row("NEW."));
        let (old_key, new_key) = (self.key("OLD."), self.key("NEW."));
        [
            trigger("INSERT", &new_key, "NULL", &new),
            trigger("UPDATE", &old_key, &old, &new),
            trigger("DELETE", &old_key, &old, "NULL"),
        ]
        .concat()
    }

    /// Whether it could be the key of a row.
    pub fn has_key(&self, key: &[Value]) -> bool {
        key.len() == self.key.len() && key.iter().all(|value| value.is_string() || value.is_i64())
    }

    /// Whether it could be a row: an object of values by the names of columns.
    pub fn has_columns(&self, row: &Value) -> bool {
        let plain = |value: &Value| !value.is_object() && !value.is_array();
        row.as_object().is_some_and(|fields| {
            fields.iter().all(|(name, value)| self.columns.contains(name) && plain(value))
        })
    }

    /// SQL for a table of its name that holds one row, the first parameter as JSON, not deleted.
    pub fn standing_in(&self) -> String {
        let column = |c: &String| match c.as_str() {
            "deleted" => "0 AS deleted".to_owned(),
            c => format!("json_extract(?1, '$.\"{c}\"') AS \"{c}\""),
        };
        let columns: Vec<String> = self.columns.iter().map(column).collect();
        format!("\"{}\" AS (SELECT {})", self.name, columns.join(", "))
    }

    fn place(&self) -> String {
        let is = |c: &String| format!("\"{c}\" IS ?");
        self.key.iter().map(is).collect::<Vec<_>>().join(" AND ")
    }

    /// A row as it stands.
    pub fn now(&self, connection: &Connection, key: &[Value]) -> Result<Option<Value>, StoreError> {
        let sql = format!("SELECT {} FROM \"{}\" WHERE {}", self.row(""), self.name, self.place());
        let text: Option<String> = connection
            .prepare_cached(&sql)?
            .query_row(params_from_iter(key.iter().map(stored)), |r| r.get(0))
            .optional()?;
        text.map(|text| from_json("a row", text)).transpose()
    }

    /// A row as it was written down, with the columns that came to the table since at the value that older rows were given.
    pub fn completed(&self, connection: &Connection, row: &Value) -> Result<Value, StoreError> {
        let mut whole = row.clone();
        let Some(fields) = whole.as_object_mut() else { return Ok(whole) };
        for column in self.columns.iter().filter(|c| row.get(c.as_str()).is_none()) {
            let usual: Option<String> = connection.query_row(
                "SELECT dflt_value FROM pragma_table_info(?1) WHERE name = ?2",
                [&self.name, column],
                |r| r.get(0),
            )?;
            let sql = format!("SELECT json_quote({})", usual.as_deref().unwrap_or("NULL"));
            let json: String = connection.query_row(&sql, [], |r| r.get(0))?;
            fields.insert(column.clone(), from_json("a row", json)?);
        }
        Ok(whole)
    }

    /// Makes a row what it is to be.
    pub fn put(&self, connection: &Connection, key: &[Value], to: Option<&Value>) -> Result<(), StoreError> {
        let name = &self.name;
        let Some(to) = to else {
            let sql = format!("DELETE FROM \"{name}\" WHERE {}", self.place());
            connection.execute(&sql, params_from_iter(key.iter().map(stored)))?;
            return Ok(());
        };
        // A column that came after the row was written down has its usual value.
        let columns: Vec<&String> = self.columns.iter().filter(|c| to.get(c.as_str()).is_some()).collect();
        let list =
            |text: &dyn Fn(&String) -> String| columns.iter().map(|c| text(c)).collect::<Vec<_>>().join(", ");
        let keys = self.key.iter().map(|c| format!("\"{c}\"")).collect::<Vec<_>>().join(", ");
        let sql = format!(
            "INSERT INTO \"{name}\" ({}) VALUES ({}) ON CONFLICT ({keys}) DO UPDATE SET {}",
            list(&|c| format!("\"{c}\"")),
            list(&|_| "?".into()),
            list(&|c| format!("\"{c}\" = excluded.\"{c}\"")),
        );
        connection.execute(&sql, params_from_iter(columns.iter().map(|c| stored(&to[c.as_str()]))))?;
        Ok(())
    }
}

fn exactly(of: &str, column: &str) -> String {
    let value = format!("{of}\"{column}\"");
    format!("CASE typeof({value}) WHEN 'real' THEN json(printf('%!.17g', {value})) ELSE {value} END")
}

/// A value of a row in JSON as SQLite keeps it.
pub(super) fn stored(value: &Value) -> Stored {
    match value {
        Value::Null => Stored::Null,
        Value::Bool(b) => Stored::Integer((*b).into()),
        Value::Number(n) => {
            n.as_i64().map_or_else(|| Stored::Real(n.as_f64().unwrap_or_default()), Stored::Integer)
        }
        Value::String(text) => Stored::Text(text.clone()),
        other => Stored::Text(other.to_string()),
    }
}

/// Begins to watch every table of an open database.
pub(super) fn watch(connection: &Connection) -> rusqlite::Result<()> {
    // Or a row that replaces another would hide it.
    connection.pragma_update(None, "recursive_triggers", true)?;
    connection.execute_batch(NOW)?;
    for table in Watched::all(connection)? {
        connection.execute_batch(&table.triggers())?;
    }
    Ok(())
}
