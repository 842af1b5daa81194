//! The database: one SQLite file for one player.

mod bags;
pub mod changes;
pub mod copies;
pub mod courses;
mod discs;
pub mod field;
pub mod given_key;
mod lines;
mod lock;
pub mod migrations;
mod moulds;
mod player;
pub mod records;
pub mod rounds;
mod thrown;
mod verify;
mod watched;

use std::cell::RefCell;
use std::path::{Path, PathBuf};
use std::time::Duration;

use jiff::civil::Date;
use rusqlite::backup::Backup;
use rusqlite::{Connection, OpenFlags};
use serde::Serialize;
use serde::de::DeserializeOwned;
use unicode_normalization::UnicodeNormalization;
use zinc_kite_bag::disc::spec::Disc;

pub use bags::{Bag, BagId, Moves};
pub use discs::MOST_DISCS;
pub use lines::LineSetting;
pub use moulds::{Counts, Library};

use lock::{Lock, real};

/// What can go wrong between the program and its database.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// The file cannot be opened or made.
    #[error(
        "the database {path} cannot be opened: {cause}; check that its folder exists, that you may write there and that the disk is not full, or name another with --db"
    )]
    Open {
        /// The file.
        path: String,
        /// What the system said.
        cause: String,
    },
    /// Another program has it open.
    #[error(
        "the database {path} is in use by another Zinc Kite ({process}); go on in the browser window of that one, or end it first"
    )]
    InUse {
        /// The file.
        path: String,
        /// Which, as far as it is known.
        process: String,
    },
    /// The file is damaged.
    #[error(
        "the database {path} is damaged ({cause}); nothing was changed. Bring a copy back with `zinc-kite restore COPY --db {path}`; those of the last days are in {path}.copies"
    )]
    Damaged {
        /// The file.
        path: String,
        /// What SQLite found.
        cause: String,
    },
    /// A copy cannot be written.
    #[error(
        "{path} cannot be written: {cause}; check that its folder exists, that you may write there and that the disk is not full"
    )]
    Copy {
        /// The file.
        path: String,
        /// What the system said.
        cause: String,
    },
    /// There is a file where the folder of the daily copies is to be.
    #[error(
        "{path} is a file, and the folder of the daily copies is to be there: no copy is kept. Rename it or move it away"
    )]
    NoFolder {
        /// The file.
        path: String,
    },
    /// There is a file where a copy is to go.
    #[error("there is already a file {path}, and it stays as it is; name another")]
    CopyThere {
        /// The file.
        path: String,
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
    /// Discs of a mould are on the shelf.
    #[error("{discs} of {name} still on the shelf; delete what you no longer have first")]
    MouldInUse {
        /// The mould.
        name: String,
        /// How many, in words.
        discs: String,
    },
    /// More of a thing than the program keeps.
    #[error("there can be at most {most} {what}s; make room first")]
    TooMany {
        /// Kind of thing.
        what: &'static str,
        /// So many.
        most: usize,
    },
    /// A session holds all the throws it can.
    #[error("a session holds at most {most} throws; begin another")]
    FullSession {
        /// So many.
        most: usize,
    },
    /// There is no step to undo or to do again.
    #[error("there is nothing to {verb}")]
    NothingToTurn {
        /// "undo" or "redo".
        verb: &'static str,
    },
    /// There is none that the window made which asks.
    #[error(
        "there is nothing to {verb} that was done in this window; the latest elsewhere is \"{other}\": look at Data to {verb} it"
    )]
    NothingOwn {
        /// "undo" or "redo".
        verb: &'static str,
        /// The step that would be next, of another window.
        other: String,
    },
    /// What a step changed is not as it left it.
    #[error("\"{words}\" cannot be turned back by itself: {}", match later {
        Some(later) => format!("\"{later}\" came after it and changed the same; undo that first"),
        None => "something that came after it depends on it; undo that first".into(),
    })]
    ChangedSince {
        /// The step.
        words: String,
        /// The step that came after it, if it is known.
        later: Option<String>,
    },
    /// A name that a step brings back was taken since.
    #[error("\"{words}\" cannot be turned back: something else has the name now; rename that first")]
    NameSince {
        /// The step.
        words: String,
    },
    /// A stored value that cannot be read.
    #[error("column {column} holds \"{value}\", which is not one of its values")]
    Corrupt {
        /// Where.
        column: &'static str,
        /// What.
        value: String,
    },
    /// A part of a database that this program could not have written.
    #[error("{what}: {words}")]
    Twisted {
        /// Which.
        what: String,
        /// What was expected and what came.
        words: String,
    },
    /// Anything else from SQLite.
    #[error(transparent)]
    Sqlite(#[from] rusqlite::Error),
}

/// An open database.
pub struct Store {
    connection: Connection,
    /// Where it lives, if not in memory.
    file: Option<PathBuf>,
    /// The window whose change comes next.
    window: Option<String>,
    /// Every disc, as read last; nothing once something was changed.
    discs: RefCell<Option<Vec<Disc>>>,
    /// The day it is taken to be, whatever the clock says.
    day: Option<Date>,
    _lock: Option<Lock>,
}

/// SQLite's mark of whose file it is: "ZnKt".
const APPLICATION_ID: i64 = 0x5A6E_4B74;
/// The first version that bears it.
const MARKED_SINCE: i64 = 4;
/// Tables of every version.
const TABLES: [&str; 6] = ["player", "disc", "bag", "bag_disc", "line_setting", "own_line"];

impl Store {
    /// Opens the file, making it if there is none, and brings it to the newest format. Until the store is dropped no other program
    /// can open it.
    ///
    /// # Errors
    /// [`StoreError::InUse`], [`StoreError::Open`], [`StoreError::Damaged`], [`StoreError::Newer`] or [`StoreError::NotOurs`], each
    /// before anything is changed.
    pub fn open(path: &Path) -> Result<Store, StoreError> {
        let path = &real(path);
        let shown = path.display().to_string();
        let lock = Lock::take(path)?;
        if !path.exists() {
            // The file is there whole or not at all: one without a byte is nobody's.
            copies::write(&Store::in_memory()?.connection, path)?;
        }
        let lock = lock.made(path)?;
        copies::clear_what_was_sent(path);
        let connection = Connection::open(path).map_err(told(&shown))?;
        if connection.is_readonly(rusqlite::MAIN_DB)? {
            return Err(StoreError::Open { path: shown, cause: "it may only be read".into() });
        }
        Ok(Store { _lock: Some(lock), ..Store::ready(connection, &shown, Some(path))? })
    }

    /// A private file that is brought to the newest format where it is, such as one that was sent.
    ///
    /// # Errors
    /// As of [`Store::open`]; `name` is what the file is called in them.
    pub fn private(name: &str, path: &Path) -> Result<Store, StoreError> {
        let connection = Connection::open(path).map_err(told(name))?;
        verify::nothing_runs_of_itself(&connection, name)?;
        Store::ready(connection, name, None)
    }

    /// A copy in memory of a file that stays as it is, whoever has it open.
    ///
    /// # Errors
    /// As of [`Store::open`].
    pub fn copy_of(path: &Path) -> Result<Store, StoreError> {
        let shown = path.display().to_string();
        let copy = || -> rusqlite::Result<Connection> {
            let file = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
            let mut memory = Connection::open_in_memory()?;
            Backup::new(&file, &mut memory)?.run_to_completion(i32::MAX, Duration::ZERO, None)?;
            Ok(memory)
        };
        Store::ready(copy().map_err(told(&shown))?, &shown, None)
    }

    /// A database that lives only in memory.
    ///
    /// # Errors
    /// As of [`Store::open`].
    pub fn in_memory() -> Result<Store, StoreError> {
        Store::begun(Connection::open_in_memory()?, "in memory", None, 0)
    }

    fn ready(connection: Connection, path: &str, file: Option<&Path>) -> Result<Store, StoreError> {
        let found = check(&connection, path)?;
        Store::begun(connection, path, file, found)
    }

    /// Brings a database of a version to the newest and watches it.
    fn begun(
        mut connection: Connection,
        path: &str,
        file: Option<&Path>,
        found: i64,
    ) -> Result<Store, StoreError> {
        connection.pragma_update(None, "busy_timeout", 5000)?;
        if let Some(file) = file.filter(|_| (1..migrations::VERSION as i64).contains(&found)) {
            keep_copy(&connection, file, found).map_err(told(path))?;
        }
        // One connection needs no log to read beside it: after every change that is answered the one file holds all there is,
        // whoever copies it and however the program ends.
        connection.pragma_update(None, "journal_mode", "TRUNCATE").map_err(told(path))?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        connection.pragma_update(None, "foreign_keys", true)?;
        migrations::migrations().to_latest(&mut connection).map_err(|e| match e {
            rusqlite_migration::Error::RusqliteError { err, .. } => told(path)(err),
            other => StoreError::NotOurs { path: path.into(), cause: other.to_string() },
        })?;
        watched::watch(&connection)?;
        Ok(Store::of(connection, file))
    }

    fn of(connection: Connection, file: Option<&Path>) -> Store {
        Store {
            connection,
            file: file.map(Path::to_owned),
            window: None,
            discs: RefCell::default(),
            day: None,
            _lock: None,
        }
    }

    /// Takes it to be a day, whatever the clock says.
    pub fn taken_on(self, day: Date) -> Store {
        Store { day: Some(day), ..self }
    }

    /// The day it is here.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn today(&self) -> Result<Date, StoreError> {
        if let Some(day) = self.day {
            return Ok(day);
        }
        let today = self.connection.query_row("SELECT date('now', 'localtime')", [], |row| row.get(0))?;
        from_text("today", today)
    }

    /// Says which window asks for the change that comes next.
    pub fn asked_by(&mut self, window: Option<String>) {
        self.window = window;
    }
}

/// Looks whether a file is ours, whole and not too new, without changing it. Its version.
fn check(connection: &Connection, path: &str) -> Result<i64, StoreError> {
    let number =
        |pragma: &str| connection.query_row(pragma, [], |row| row.get::<_, i64>(0)).map_err(told(path));
    let not_ours = |cause: &str| StoreError::NotOurs { path: path.into(), cause: cause.into() };
    let found = number("PRAGMA user_version")?;
    let mark = number("PRAGMA application_id")?;
    let tables = connection
        .prepare("SELECT name FROM sqlite_schema WHERE type = 'table'")
        .and_then(|mut s| s.query_map([], |row| row.get(0))?.collect::<rusqlite::Result<Vec<String>>>())
        .map_err(told(path))?;
    if found == 0 && tables.is_empty() {
        return Err(not_ours("it is empty"));
    }
    let marked = mark == APPLICATION_ID || (mark == 0 && found < MARKED_SINCE);
    let known = TABLES.iter().all(|table| tables.iter().any(|t| t == table));
    if !marked || found == 0 || !known {
        return Err(not_ours("it holds the tables of another program"));
    }
    if found > migrations::VERSION as i64 {
        return Err(StoreError::Newer { path: path.into(), found, known: migrations::VERSION });
    }
    let verdict: String =
        connection.query_row("PRAGMA quick_check(1)", [], |row| row.get(0)).map_err(told(path))?;
    match verdict.as_str() {
        "ok" => Ok(found),
        _ => Err(StoreError::Damaged { path: path.into(), cause: verdict.replace('\n', " ") }),
    }
}

/// Keeps the file as it is before its format changes, beside it, unless that was done before.
fn keep_copy(connection: &Connection, file: &Path, version: i64) -> rusqlite::Result<()> {
    let mut name = file.as_os_str().to_owned();
    name.push(format!(".format-{version}"));
    let copy = Path::new(&name);
    if copy.exists() { Ok(()) } else { connection.backup(rusqlite::MAIN_DB, copy, None) }
}

/// What SQLite could not do with a file, as what a player can do about it.
fn told(path: &str) -> impl Fn(rusqlite::Error) -> StoreError {
    use rusqlite::ErrorCode as Code;
    let path = path.to_owned();
    move |error| {
        let (path, cause) = (path.clone(), error.to_string());
        match error.sqlite_error_code() {
            Some(Code::NotADatabase) => StoreError::NotOurs { path, cause },
            Some(Code::DatabaseCorrupt) => StoreError::Damaged { path, cause },
            Some(Code::DatabaseBusy | Code::DatabaseLocked) => {
                StoreError::InUse { path, process: "or another program".into() }
            }
            _ => StoreError::Open { path, cause },
        }
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

/// Whether a database is there and no program has it open.
pub fn is_left(path: &Path) -> bool {
    path.exists() && Lock::take(path).is_ok()
}

/// So many of a thing, in words.
pub fn counted(n: usize, what: &str) -> String {
    format!("{n} {what}{}", if n == 1 { "" } else { "s" })
}

/// A name as it is held against others: "Ä" and "ä", however they are written, are one.
pub fn folded(name: &str) -> String {
    name.trim().nfc().collect::<String>().to_lowercase()
}

/// Refuses a name that another row of a table has. The database itself knows the letters of English only.
fn free_name(
    connection: &Connection,
    what: &'static str,
    sql: &str,
    name: &str,
    own: Option<i64>,
) -> Result<(), StoreError> {
    let wanted = folded(name);
    let mut statement = connection.prepare_cached(sql)?;
    let mut rows = statement.query([])?;
    while let Some(row) = rows.next()? {
        let other = row.get_ref(1)?.as_str().map_err(rusqlite::Error::from)?;
        let same = match name.is_ascii() && other.is_ascii() {
            true => other.eq_ignore_ascii_case(name.trim()),
            false => folded(other) == wanted,
        };
        if same && Some(row.get::<_, i64>(0)?) != own {
            return Err(StoreError::NameTaken { what, name: name.trim().to_owned() });
        }
    }
    Ok(())
}

/// Refuses more rows than are kept.
fn room_for(connection: &Connection, what: &'static str, sql: &str, most: usize) -> Result<(), StoreError> {
    let there: i64 = connection.query_row(sql, [], |r| r.get(0))?;
    if there > most as i64 { Err(StoreError::TooMany { what, most }) } else { Ok(()) }
}

/// Whether a failure means that there is no such row.
fn is_no_row(error: &StoreError) -> bool {
    matches!(error, StoreError::Sqlite(rusqlite::Error::QueryReturnedNoRows))
}

/// Whether a failure means that a unique name is taken.
fn is_duplicate(error: &rusqlite::Error) -> bool {
    error.sqlite_error().is_some_and(|e| e.extended_code == rusqlite::ffi::SQLITE_CONSTRAINT_UNIQUE)
}
