//! The database: one SQLite file for one player.

mod bags;
mod discs;
mod lines;
pub mod migrations;
mod player;

use std::path::Path;

use rusqlite::Connection;
use serde::Serialize;
use serde::de::DeserializeOwned;

pub use bags::{Bag, BagId, Moves};
pub use lines::LineSetting;

/// What can go wrong between the program and its database.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// The file cannot be opened or made.
    #[error(
        "the database {path} cannot be opened: {cause}; check that its folder exists and that you may write there, or name another with --db"
    )]
    Open {
        /// The file.
        path: String,
        /// What SQLite said.
        cause: rusqlite::Error,
    },
    /// The file is a database of a later program.
    #[error(
        "the database {path} was written by a newer Zinc Kite (its format is {found}, this program knows {known}); nothing was changed, use the newer program or name another file with --db"
    )]
    Newer {
        /// The file.
        path: String,
        /// Its version.
        found: i64,
        /// Ours.
        known: usize,
    },
    /// The file is no database of this program.
    #[error("{path} is not a Zinc Kite database: {cause}; nothing was changed, name another file with --db")]
    NotOurs {
        /// The file.
        path: String,
        /// What SQLite said.
        cause: String,
    },
    /// A name that must be unique is taken.
    #[error("there is already a {what} called \"{name}\"")]
    NameTaken {
        /// Kind of thing.
        what: &'static str,
        /// The name.
        name: String,
    },
    /// Nothing of that identity.
    #[error("there is no {what} {id}")]
    NotFound {
        /// Kind of thing.
        what: &'static str,
        /// Identity.
        id: String,
    },
    /// The only bag is not deleted: every screen works on one.
    #[error("\"{name}\" is the only bag")]
    LastBag {
        /// Its name.
        name: String,
    },
    /// A stored value that cannot be read.
    #[error("column {column} holds \"{value}\", which is not one of its values")]
    Corrupt {
        /// Where.
        column: &'static str,
        /// What.
        value: String,
    },
    /// Anything else from SQLite.
    #[error(transparent)]
    Sqlite(#[from] rusqlite::Error),
}

/// An open database.
pub struct Store {
    connection: Connection,
}

impl Store {
    /// Opens the file, making it if there is none, and brings it to the newest format.
    ///
    /// # Errors
    /// [`StoreError::Open`], [`StoreError::Newer`] or [`StoreError::NotOurs`], each before anything is changed.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        let shown = path.display().to_string();
        let connection =
            Connection::open(path).map_err(|cause| StoreError::Open { path: shown.clone(), cause })?;
        Store::ready(connection, &shown)
    }

    /// A database that lives only in memory.
    ///
    /// # Errors
    /// As [`Store::open`].
    pub fn in_memory() -> Result<Store, StoreError> {
        Store::ready(Connection::open_in_memory()?, "in memory")
    }

    fn ready(mut connection: Connection, path: &str) -> Result<Store, StoreError> {
        let not_ours = |cause: rusqlite::Error| match cause.sqlite_error_code() {
            Some(rusqlite::ErrorCode::NotADatabase) => {
                StoreError::NotOurs { path: path.into(), cause: cause.to_string() }
            }
            _ => StoreError::Open { path: path.into(), cause },
        };
        let found: i64 =
            connection.query_row("PRAGMA user_version", [], |row| row.get(0)).map_err(not_ours)?;
        let known = migrations::VERSION;
        if found > known as i64 {
            return Err(StoreError::Newer { path: path.into(), found, known });
        }
        let tables: i64 = connection
            .query_row("SELECT count(*) FROM sqlite_schema", [], |row| row.get(0))
            .map_err(not_ours)?;
        if found == 0 && tables > 0 {
            return Err(StoreError::NotOurs {
                path: path.into(),
                cause: "it holds tables of another program".into(),
            });
        }
        connection.pragma_update(None, "journal_mode", "WAL").map_err(not_ours)?;
        connection.pragma_update(None, "foreign_keys", true)?;
        connection.pragma_update(None, "busy_timeout", 5000)?;
        migrations::migrations()
            .to_latest(&mut connection)
            .map_err(|e| StoreError::NotOurs { path: path.into(), cause: e.to_string() })?;
        Ok(Store { connection })
    }
}

/// A value with a fixed set of names, as it is stored.
fn to_text<T: Serialize>(value: &T) -> String {
    match serde_json::to_value(value) {
        Ok(serde_json::Value::String(text)) => text,
        other => unreachable!("only enums of plain names are stored this way, got {other:?}"),
    }
}

fn from_text<T: DeserializeOwned>(column: &'static str, text: String) -> Result<T, StoreError> {
    serde_json::from_value(serde_json::Value::String(text.clone()))
        .map_err(|_| StoreError::Corrupt { column, value: text })
}

/// A value as JSON, as it is stored.
fn to_json<T: Serialize>(value: &T) -> String {
    serde_json::to_string(value).unwrap_or_else(|e| unreachable!("only plain data is stored this way: {e}"))
}

fn from_json<T: DeserializeOwned>(column: &'static str, text: String) -> Result<T, StoreError> {
    serde_json::from_str(&text).map_err(|_| StoreError::Corrupt { column, value: text })
}

/// Whether a failure means that a unique name is taken.
fn is_duplicate(error: &rusqlite::Error) -> bool {
    error.sqlite_error().is_some_and(|e| e.extended_code == rusqlite::ffi::SQLITE_CONSTRAINT_UNIQUE)
}
