//! One program at a time on a database file.

use std::ffi::OsString;
use std::fs::{File, TryLockError};
use std::io::{Read, Seek, Write};
use std::path::{Path, PathBuf};
use std::thread;
use std::time::{Duration, Instant};

use super::StoreError;

/// How long one waits for another to let go.
const PATIENCE: Duration = Duration::from_millis(500);

/// Held for as long as the database is open. The system lets go of it however the program ends.
pub(super) struct Lock {
    _beside: File,
    own: Option<File>,
}

/// The file behind a name, links followed, whether it is there yet or not.
pub(super) fn real(database: &Path) -> PathBuf {
    if let Ok(real) = database.canonicalize() {
        return real;
    }
    // A link may lead to a file that is yet to be made.
    let led = database.read_link().map_or_else(
        |_| database.to_owned(),
        |to| match database.parent() {
            Some(folder) => folder.join(to),
            None => to,
        },
    );
    let folder = led.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    match (folder.canonicalize(), led.file_name()) {
        (Ok(folder), Some(name)) => folder.join(name),
        _ => led,
    }
}

/// Locks the database file itself, by whatever name it was opened. This lock (flock) and those of SQLite (fcntl) do not meet.
/// It must be held until SQLite has closed the file: to close any handle on it would let go of SQLite's locks.
///
/// # Errors
/// Whether another program has it, or what the system says.
#[cfg(unix)]
fn lock_itself(database: &Path) -> Result<Option<File>, TryLockError> {
    match File::open(database) {
        Ok(file) => file.try_lock().map(|()| Some(file)),
        Err(cause) if cause.kind() == std::io::ErrorKind::NotFound => Ok(None),
        Err(cause) => Err(TryLockError::Error(cause)),
    }
}

/// Elsewhere such a lock would keep SQLite out too.
#[cfg(not(unix))]
fn lock_itself(_: &Path) -> Result<Option<File>, TryLockError> {
    Ok(None)
}

/// A file beside the database: it says which process has it, and is there before the database is.
fn beside(database: &Path) -> PathBuf {
    let mut name = OsString::from(database);
    name.push(".lock");
    name.into()
}

impl Lock {
    /// Takes it for a database under its [`real`] name.
    ///
    /// # Errors
    /// [`StoreError::InUse`] if another program holds it, [`StoreError::Open`] if nothing can be written beside the database.
    pub(super) fn take(database: &Path) -> Result<Lock, StoreError> {
        let path = database.display().to_string();
        let cannot =
            |cause: std::io::Error| StoreError::Open { path: path.clone(), cause: cause.to_string() };
        let mut file = File::options()
            .read(true)
            .write(true)
            .create(true)
            .truncate(false)
            .open(beside(database))
            .map_err(cannot)?;
        let since = Instant::now();
        // A program that is just ending, or one that was started in the same moment, lets go of it soon.
        let patiently = |lock: &dyn Fn() -> Result<Option<File>, TryLockError>| {
            let mut taken = lock();
            while matches!(taken, Err(TryLockError::WouldBlock)) && since.elapsed() < PATIENCE {
                thread::sleep(PATIENCE / 50);
                taken = lock();
            }
            taken
        };
        match patiently(&|| file.try_lock().map(|()| None)) {
            Ok(_) => {}
            Err(TryLockError::WouldBlock) => {
                let mut process = String::new();
                // Who holds it is only told, never relied upon.
                let _ = file.read_to_string(&mut process);
                return Err(StoreError::InUse { path, process: process.trim().to_owned() });
            }
            Err(TryLockError::Error(cause)) => return Err(cannot(cause)),
        }
        let own = match patiently(&|| lock_itself(database)) {
            Ok(own) => own,
            // By a link, or the file beside it was removed.
            Err(TryLockError::WouldBlock) => {
                return Err(StoreError::InUse { path, process: "which opened it by another name".into() });
            }
            Err(TryLockError::Error(cause)) => return Err(cannot(cause)),
        };
        let note = |file: &mut File| {
            file.set_len(0)?;
            file.rewind()?;
            write!(file, "process {}", std::process::id())
        };
        note(&mut file).map_err(cannot)?;
        Ok(Lock { _beside: file, own })
    }

    /// Locks the file itself once it has been made.
    pub(super) fn made(mut self, database: &Path) -> Result<Lock, StoreError> {
        if self.own.is_none() {
            let path = database.display().to_string();
            self.own =
                lock_itself(database).map_err(|cause| StoreError::Open { path, cause: cause.to_string() })?;
        }
        Ok(self)
    }
}
