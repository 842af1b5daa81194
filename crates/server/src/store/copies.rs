//! Copies of the database: made when asked for, once a day beside the file, and brought back.

use std::ffi::OsString;
use std::fs;
use std::path::{Path, PathBuf};

use std::time::Duration;

use rusqlite::backup::Backup;
use rusqlite::{Connection, MAIN_DB, OpenFlags};
use serde::Serialize;
use tempfile::NamedTempFile;
use utoipa::ToSchema;

use super::lock::{Lock, real};
use super::{Store, StoreError, told};

/// Daily copies kept.
pub const KEPT: usize = 14;

fn with(path: &Path, ending: &str) -> PathBuf {
    let mut name = OsString::from(path);
    name.push(ending);
    name.into()
}

fn io(path: &Path) -> impl Fn(std::io::Error) -> StoreError {
    let path = path.display().to_string();
    move |cause| StoreError::Copy { path: path.clone(), cause: cause.to_string() }
}

/// Writes everything to a file that is there whole or not at all.
pub(super) fn write(from: &Connection, to: &Path) -> Result<(), StoreError> {
    let part = with(to, ".part");
    let written = write_part(from, to, &part).and_then(|()| fs::rename(&part, to).map_err(io(to)));
    if written.is_err() {
        remove(&[&part, &with(&part, "-journal")]);
    }
    written
}

fn write_part(from: &Connection, to: &Path, part: &Path) -> Result<(), StoreError> {
    if part.exists() {
        fs::remove_file(part).map_err(io(part))?;
    }
    from.backup(MAIN_DB, part, None)
        .map_err(|cause| StoreError::Copy { path: to.display().to_string(), cause: cause.to_string() })?;
    // A copy is opened by whoever has it, in a folder of their own: nothing may lie beside it.
    fs::File::open(part).and_then(|file| file.sync_all()).map_err(io(part))
}

/// Removes files of ours that are left from what failed.
fn remove(files: &[&Path]) {
    for file in files.iter().filter(|file| file.exists()) {
        if let Err(cause) = fs::remove_file(file) {
            tracing::warn!(%cause, file = %file.display(), "is left and cannot be removed");
        }
    }
}

/// How files begin that keep what is being sent, beside the database: after its name.
const SENT: &str = ".sent-";

/// Removes what a killed program left of what was sent to it.
pub(super) fn clear_what_was_sent(database: &Path) {
    let (Some(folder), Some(name)) = (database.parent(), database.file_name()) else { return };
    let Ok(entries) = fs::read_dir(folder) else { return };
    let start = format!("{}{SENT}", name.to_string_lossy());
    for file in entries.flatten().filter(|e| e.file_name().to_string_lossy().starts_with(&start)) {
        remove(&[&file.path()]);
    }
}

/// An empty file that goes when it is dropped, beside the database if it has a file.
///
/// # Errors
/// [`StoreError::Copy`] if it cannot be made.
pub fn passing_file(database: Option<&Path>) -> Result<NamedTempFile, StoreError> {
    let name =
        database.and_then(Path::file_name).map_or("zinc-kite".into(), |n| n.to_string_lossy().into_owned());
    let folder = database.and_then(Path::parent).map_or_else(std::env::temp_dir, Path::to_owned);
    tempfile::Builder::new().prefix(&format!("{name}{SENT}")).tempfile_in(&folder).map_err(io(&folder))
}

/// What a database holds, to tell one copy from another.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Holds {
    /// Name of the player; empty before one is saved.
    pub player: String,
    /// Discs on the shelf.
    pub discs: u32,
    /// Bags.
    pub bags: u32,
    /// Lines of the player's own.
    pub own_lines: u32,
    /// When it was last changed, UTC, ISO 8601; null if its record says nothing.
    #[schema(format = DateTime)]
    pub changed_at: Option<String>,
}

impl Store {
    /// The file, if it is not in memory.
    pub fn file(&self) -> Option<&Path> {
        self.file.as_deref()
    }

    /// What it holds.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn holds(&self) -> Result<Holds, StoreError> {
        let count = |sql: &str| self.connection.query_row(sql, [], |r| r.get::<_, u32>(0));
        Ok(Holds {
            player: self.player()?.map(|p| p.name).unwrap_or_default(),
            discs: count("SELECT count(*) FROM disc WHERE deleted = 0")?,
            bags: count("SELECT count(*) FROM bag")?,
            own_lines: count("SELECT count(*) FROM own_line WHERE deleted = 0")?,
            changed_at: self.connection.query_row("SELECT max(at) FROM change_step", [], |r| r.get(0))?,
        })
    }

    /// Everything as it stands, in a file that goes when it is dropped. Quickly made: whoever reads from it holds nobody up.
    ///
    /// # Errors
    /// [`StoreError::Copy`] if it cannot be written.
    pub fn passing_copy(&self) -> Result<NamedTempFile, StoreError> {
        copy_into_passing(&self.connection, self.file())
    }

    /// What is in such a copy, to be read and no more.
    ///
    /// # Errors
    /// [`StoreError`] if it cannot be opened.
    pub fn read_only(path: &Path) -> Result<Store, StoreError> {
        let connection = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
        Ok(Store::of(connection, None))
    }

    /// Puts what another database holds in the place of all there is, which is kept beside the file under the name that comes back.
    ///
    /// # Errors
    /// [`StoreError`] if a file cannot be written; then nothing is changed.
    pub fn replace_by(&mut self, other: &Store) -> Result<Option<PathBuf>, StoreError> {
        let kept = match &self.file {
            Some(file) => {
                let kept = with(file, &format!(".before-{}", now(&self.connection)?));
                write(&self.connection, &kept)?;
                Some(kept)
            }
            None => None,
        };
        self.discs.take();
        let replaced = Backup::new(&other.connection, &mut self.connection)
            .and_then(|backup| backup.run_to_completion(i32::MAX, Duration::ZERO, None));
        if let Err(cause) = replaced {
            // SQLite has rolled it back: what was kept is what is still there.
            kept.iter().for_each(|kept| remove(&[kept]));
            return Err(cause.into());
        }
        Ok(kept)
    }

    /// Writes a copy, by SQLite's own online backup.
    ///
    /// # Errors
    /// [`StoreError::CopyThere`] if there is such a file, which stays; [`StoreError::Copy`] if it cannot be written.
    pub fn back_up(&self, to: &Path) -> Result<(), StoreError> {
        if to.exists() {
            return Err(StoreError::CopyThere { path: to.display().to_string() });
        }
        write(&self.connection, to)
    }

    /// Makes today's copy beside the file unless there is one, and lets go of the oldest beyond [`KEPT`], but for the one that holds
    /// most if that is more than today's. What was made; nothing for a database in memory.
    ///
    /// # Errors
    /// [`StoreError::Copy`] if it cannot be written, [`StoreError::NoFolder`] if there is a file where they are kept.
    pub fn keep_daily_copy(&self) -> Result<Option<PathBuf>, StoreError> {
        let Some(file) = &self.file else { return Ok(None) };
        let folder = copies_folder(file)?;
        fs::create_dir_all(&folder).map_err(io(&folder))?;
        let today = self.today()?;
        let copy = folder.join(format!("{today}.db"));
        if copy.exists() {
            return Ok(None);
        }
        write(&self.connection, &copy)?;
        // The one just made stays, even if a clock that went wrong has dated others after it.
        let mut copies = daily_copies(file)?;
        copies.retain(|other| *other != copy);
        copies.truncate(copies.len().saturating_sub(KEPT - 1));
        let_go(rows(&self.connection)?, &copies)?;
        Ok(Some(copy))
    }
}

/// Removes copies but for the one that holds most, if that is more than what there is now.
fn let_go(now: i64, copies: &[PathBuf]) -> Result<(), StoreError> {
    let held = |copy: &PathBuf| {
        let open = Connection::open_with_flags(copy, OpenFlags::SQLITE_OPEN_READ_ONLY);
        open.and_then(|copy| rows(&copy)).unwrap_or(0)
    };
    let held: Vec<i64> = copies.iter().map(held).collect();
    // Of those that hold as much the latest.
    let fullest = (0..copies.len()).rev().max_by_key(|k| held[*k]).filter(|k| held[*k] > now);
    for (k, copy) in copies.iter().enumerate() {
        if Some(k) == fullest {
            tracing::warn!(copy = %copy.display(), "this old copy stays: it holds more than there is now");
            continue;
        }
        fs::remove_file(copy).map_err(io(copy))?;
        if held[k] > now {
            tracing::warn!(copy = %copy.display(), "this old copy is let go, though it held more than there is now");
        }
    }
    Ok(())
}

/// Things that a player has written down: discs, throws, rounds, courses and the rest.
fn rows(connection: &Connection) -> rusqlite::Result<i64> {
    let tables: Vec<String> = connection
        .prepare("SELECT name FROM pragma_table_list WHERE schema = 'main' AND type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT LIKE 'change%'")?
        .query_map([], |r| r.get(0))?
        .collect::<Result<_, _>>()?;
    let mut sum = 0;
    for table in tables {
        let marks = connection.prepare(&format!("SELECT * FROM \"{table}\" LIMIT 0"))?;
        let deleted = if marks.column_names().contains(&"deleted") { " WHERE deleted = 0" } else { "" };
        let sql = format!("SELECT count(*) FROM \"{table}\"{deleted}");
        sum += connection.query_row(&sql, [], |r| r.get::<_, i64>(0))?;
    }
    Ok(sum)
}

/// Copies all of a database into a file that goes when it is dropped.
fn copy_into_passing(from: &Connection, beside: Option<&Path>) -> Result<NamedTempFile, StoreError> {
    let file = passing_file(beside)?;
    let failed = |cause: rusqlite::Error| StoreError::Copy {
        path: file.path().display().to_string(),
        cause: cause.to_string(),
    };
    let mut to = Connection::open(file.path()).map_err(failed)?;
    // It need not outlive this program.
    to.pragma_update(None, "synchronous", "OFF").map_err(failed)?;
    to.pragma_update(None, "journal_mode", "OFF").map_err(failed)?;
    Backup::new(from, &mut to)
        .and_then(|backup| backup.run_to_completion(i32::MAX, Duration::ZERO, None))
        .map_err(failed)?;
    drop(to);
    Ok(file)
}

/// A copy of a file as it stands, beside a database, that goes when it is dropped.
///
/// # Errors
/// [`StoreError`] if it cannot be read or written.
pub fn passing_copy_of(file: &Path, beside: Option<&Path>) -> Result<NamedTempFile, StoreError> {
    let shown = file.display().to_string();
    let from = Connection::open_with_flags(file, OpenFlags::SQLITE_OPEN_READ_ONLY).map_err(told(&shown))?;
    copy_into_passing(&from, beside)
}

/// The folder of a database's daily copies.
fn copies_folder(database: &Path) -> Result<PathBuf, StoreError> {
    let folder = with(database, ".copies");
    match folder.is_dir() || !folder.exists() {
        true => Ok(folder),
        false => Err(StoreError::NoFolder { path: folder.display().to_string() }),
    }
}

/// The time, as it stands in the name of a file.
fn now(connection: &Connection) -> Result<String, StoreError> {
    Ok(connection
        .query_row("SELECT strftime('%Y-%m-%d-%H%M%f', 'now', 'localtime')", [], |row| row.get(0))?)
}

/// The daily copies of a database, the oldest first.
///
/// # Errors
/// [`StoreError::Copy`] if their folder cannot be read, [`StoreError::NoFolder`] if it is a file.
pub fn daily_copies(database: &Path) -> Result<Vec<PathBuf>, StoreError> {
    let folder = copies_folder(database)?;
    if !folder.exists() {
        return Ok(vec![]);
    }
    let entries = fs::read_dir(&folder).and_then(|all| all.collect::<std::io::Result<Vec<_>>>());
    let mut copies: Vec<PathBuf> = entries.map_err(io(&folder))?.into_iter().map(|e| e.path()).collect();
    // A file of another name is somebody's own.
    let daily = |path: &PathBuf| {
        let date = path.file_stem().and_then(|s| s.to_str()).unwrap_or_default();
        let digits = |c: char| c.is_ascii_digit() || c == '-';
        path.extension().is_some_and(|e| e == "db") && date.len() == 10 && date.chars().all(digits)
    };
    copies.retain(daily);
    copies.sort();
    Ok(copies)
}

/// Puts what another database holds in the place of one that no program has open, which is kept beside it under the name that comes back, if there was one.
///
/// # Errors
/// [`StoreError::InUse`] if the database is open, [`StoreError::Copy`] if a file cannot be
/// written or renamed. Until the last step the database stays as it was.
pub fn restore(database: &Path, restored: &Store) -> Result<Option<PathBuf>, StoreError> {
    let database = &real(database);
    let _lock = Lock::take(database)?;
    let (new, kept) =
        (with(database, ".restored"), with(database, &format!(".before-{}", now(&restored.connection)?)));
    // What a killed program left beside the file belongs to that one, not to the new.
    let left: Vec<&str> =
        ["", "-journal", "-wal", "-shm"].into_iter().filter(|left| with(database, left).exists()).collect();
    let prepared = write(&restored.connection, &new).and_then(|()| {
        left.iter().try_for_each(|beside| {
            let old = with(database, beside);
            fs::copy(&old, with(&kept, beside)).map(drop).map_err(io(&old))
        })
    });
    if let Err(cause) = prepared {
        remove(&[&new]);
        left.iter().for_each(|beside| remove(&[&with(&kept, beside)]));
        return Err(cause);
    }
    // There is a database under its own name all the while, or the next start would begin an empty one.
    for beside in left.iter().filter(|beside| !beside.is_empty()) {
        let old = with(database, beside);
        fs::remove_file(&old).map_err(io(&old))?;
    }
    fs::rename(&new, database).map_err(io(database))?;
    Ok(left.contains(&"").then_some(kept))
}
