//! Copies of the database: made when asked for, once a day beside the file, and brought back.

use std::ffi::OsString;
use std::fs;
use std::path::{Path, PathBuf};

use rusqlite::{Connection, MAIN_DB};

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

impl Store {
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
        let today: String =
            self.connection.query_row("SELECT date('now', 'localtime')", [], |row| row.get(0))?;
        let copy = folder.join(format!("{today}.db"));
        if copy.exists() {
            return Ok(None);
        }
        write(&self.connection, &copy)?;
        let mut copies = daily_copies(file)?;
        copies.truncate(copies.len().saturating_sub(KEPT));
        for oldest in copies {
            fs::remove_file(&oldest).map_err(io(&oldest))?;
        }
        Ok(Some(copy))
    }
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
        let time: String = restored
            .connection
            .query_row("SELECT strftime('%Y-%m-%d-%H%M%f', 'now', 'localtime')", [], |row| row.get(0))
            .map_err(told(&database.display().to_string()))?;
        let kept = with(database, &format!(".before-{time}"));
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
