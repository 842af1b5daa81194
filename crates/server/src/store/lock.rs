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
    _file: File,
}

/// A file beside the database: closing a second handle on the database itself would let go of SQLite's own locks.
fn beside(database: &Path) -> PathBuf {
    let mut name = OsString::from(database);
    name.push(".lock");
    name.into()
}

impl Lock {
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
        let mut taken = file.try_lock();
        // A program that is just ending, or one that was started in the same moment, lets go of it soon.
        while matches!(taken, Err(TryLockError::WouldBlock)) && since.elapsed() < PATIENCE {
            thread::sleep(PATIENCE / 50);
            taken = file.try_lock();
        }
        match taken {
            Ok(()) => {}
            Err(TryLockError::WouldBlock) => {
                let mut process = String::new();
                // Who holds it is only told, never relied upon.
                let _ = file.read_to_string(&mut process);
                return Err(StoreError::InUse { path, process: process.trim().to_owned() });
            }
            Err(TryLockError::Error(cause)) => return Err(cannot(cause)),
        }
        let note = |file: &mut File| {
            file.set_len(0)?;
            file.rewind()?;
            write!(file, "process {}", std::process::id())
        };
        note(&mut file).map_err(cannot)?;
        Ok(Lock { _file: file })
    }
}
