//! Copies of the database: made when asked for, once a day beside the file, and brought back.

use std::ffi::OsString;
use std::fs;
use std::path::{Path, PathBuf};

use std::time::Duration;

use rusqlite::backup::Backup;
use rusqlite::{Connection, MAIN_DB};
use serde::Serialize;
use utoipa::ToSchema;

use super::lock::Lock;
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
fn write(from: &Connection, to: &Path) -> Result<(), StoreError> {
    let part = with(to, ".part");
    if part.exists() {
        fs::remove_file(&part).map_err(io(&part))?;
    }
    from.backup(MAIN_DB, &part, None)
        .map_err(|cause| StoreError::Copy { path: to.display().to_string(), cause: cause.to_string() })?;
    // A copy is opened by whoever has it, in a folder of their own: nothing may lie beside it.
    fs::File::open(&part).and_then(|file| file.sync_all()).map_err(io(&part))?;
    fs::rename(&part, to).map_err(io(to))
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

    /// Everything as the bytes of a file.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn bytes(&self) -> Result<Vec<u8>, StoreError> {
        Ok(self.connection.serialize(MAIN_DB)?.to_vec())
    }

    /// A copy in memory of what the bytes of a file hold.
    ///
    /// # Errors
    /// As of [`Store::copy_of`]; `name` is what the file is called in them.
    pub fn from_bytes(name: &str, bytes: &[u8]) -> Result<Store, StoreError> {
        let mut memory = Connection::open_in_memory()?;
        memory.deserialize_read_exact(MAIN_DB, bytes, bytes.len(), false).map_err(told(name))?;
        // Into memory of its own: what was read in cannot grow.
        let mut own = Connection::open_in_memory()?;
        Backup::new(&memory, &mut own)
            .and_then(|b| b.run_to_completion(i32::MAX, Duration::ZERO, None))
            .map_err(told(name))?;
        Store::ready(own, name, None)
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
        Backup::new(&other.connection, &mut self.connection)?.run_to_completion(
            i32::MAX,
            Duration::ZERO,
            None,
        )?;
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

    /// Makes today's copy beside the file unless there is one, and lets go of the oldest beyond [`KEPT`]. What was made; nothing
    /// for a database in memory.
    ///
    /// # Errors
    /// [`StoreError::Copy`] if it cannot be written.
    pub fn keep_daily_copy(&self) -> Result<Option<PathBuf>, StoreError> {
        let Some(file) = &self.file else { return Ok(None) };
        let folder = with(file, ".copies");
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
        for oldest in copies {
            fs::remove_file(&oldest).map_err(io(&oldest))?;
        }
        Ok(Some(copy))
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
/// [`StoreError::Copy`] if their folder cannot be read.
pub fn daily_copies(database: &Path) -> Result<Vec<PathBuf>, StoreError> {
    let folder = with(database, ".copies");
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

/// Puts what a copy holds in the place of a database, which is kept beside it under the name that comes back, if there was one.
///
/// # Errors
/// As of [`Store::open`] for the copy, [`StoreError::InUse`] if the database is open, [`StoreError::Copy`] if a file cannot be
/// written or renamed. Until the last step the database stays as it was.
pub fn restore(database: &Path, copy: &Path) -> Result<Option<PathBuf>, StoreError> {
    let restored = Store::copy_of(copy)?;
    let _lock = Lock::take(database)?;
    let new = with(database, ".restored");
    write(&restored.connection, &new)?;
    let kept = if database.exists() {
        let kept = with(database, &format!(".before-{}", now(&restored.connection)?));
        // What a killed program left beside the file belongs to that one, not to the new. There is a database under its own name
        // all the while, or the next start would begin an empty one.
        let left: Vec<&str> =
            ["-journal", "-wal", "-shm"].into_iter().filter(|left| with(database, left).exists()).collect();
        for beside in [""].iter().chain(&left) {
            let old = with(database, beside);
            fs::copy(&old, with(&kept, beside)).map_err(io(&old))?;
        }
        for beside in left {
            let old = with(database, beside);
            fs::remove_file(&old).map_err(io(&old))?;
        }
        Some(kept)
    } else {
        None
    };
    fs::rename(&new, database).map_err(io(database))?;
    Ok(kept)
}
