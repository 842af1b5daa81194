//! Who may come in: this machine alone, or whoever knows the player's password.

use std::collections::HashMap;
use std::fs;
use std::hash::RandomState;
use std::net::IpAddr;
use std::num::NonZeroU32;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};

use argon2::password_hash::PasswordHasher;
use argon2::password_hash::phc::Output;
use argon2::{Algorithm, Argon2, Block, Params, PasswordHash, Version};
use blake2::digest::{Digest, KeyInit, Mac};
use blake2::{Blake2s256, Blake2sMac256};
use governor::clock::{Clock, DefaultClock};
use governor::{DefaultKeyedRateLimiter, Quota, RateLimiter};

/// Shortest password, characters.
pub const SHORTEST_PASSWORD: usize = 8;
/// Longest, bytes: working its hash out is made slow on purpose.
const LONGEST_PASSWORD: usize = 256;
/// How long a browser stays logged in.
pub const SESSION: Duration = Duration::from_secs(30 * 24 * 3600);
/// Sessions kept at once.
const SESSIONS: usize = 64;
/// How long a browser that was logged in once stays known.
pub const KNOWN: Duration = Duration::from_secs(365 * 24 * 3600);
/// Passwords that one address or one known browser may try a minute, and all strangers together.
const TRIES: NonZeroU32 = NonZeroU32::new(5).unwrap();
const TRIES_OF_ALL: NonZeroU32 = NonZeroU32::new(30).unwrap();

/// What is wrong with a password or its file.
#[derive(Debug, thiserror::Error)]
pub enum PasswordError {
    /// Too short to be safe, or longer than is read.
    #[error(
        "a password has {SHORTEST_PASSWORD} to {LONGEST_PASSWORD} characters, this one has {found}; choose another"
    )]
    Length {
        /// Its length.
        found: usize,
    },
    /// The file cannot be read or written.
    #[error("the password's file {path}: {cause}; set it with `zinc-kite password`")]
    File {
        /// The file.
        path: String,
        /// What the system said.
        cause: String,
    },
    /// The hash could not be made.
    #[error("the password could not be kept: {0}")]
    Hash(argon2::password_hash::Error),
}

/// Why a password opens nothing.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Refused {
    /// It is not the one.
    Wrong,
    /// Too many were tried; the next counts after so many seconds.
    TooOften {
        /// Seconds to wait.
        wait_s: u64,
    },
}

/// The file beside a database that keeps its password's hash. No part of the database, so that no copy carries it along.
pub fn password_file(database: &Path) -> PathBuf {
    let mut name = database.as_os_str().to_owned();
    name.push(".password");
    name.into()
}

/// Keeps a password, as its Argon2id hash.
///
/// # Errors
/// [`PasswordError`].
pub fn keep_password(file: &Path, password: &str) -> Result<(), PasswordError> {
    if password.chars().count() < SHORTEST_PASSWORD || password.len() > LONGEST_PASSWORD {
        return Err(PasswordError::Length { found: password.chars().count() });
    }
    let hash = Argon2::default().hash_password(password.as_bytes()).map_err(PasswordError::Hash)?;
    write_privately(file, &hash.to_string()).map_err(told(file))
}

fn told(file: &Path) -> impl Fn(std::io::Error) -> PasswordError {
    let path = file.display().to_string();
    move |cause| PasswordError::File { path: path.clone(), cause: cause.to_string() }
}

#[cfg(unix)]
fn write_privately(file: &Path, text: &str) -> std::io::Result<()> {
    use std::io::Write;
    use std::os::unix::fs::{OpenOptionsExt, PermissionsExt};
    let mut open = fs::OpenOptions::new().write(true).create(true).truncate(true).mode(0o600).open(file)?;
    // One that was there before keeps the rights it had.
    open.set_permissions(fs::Permissions::from_mode(0o600))?;
    open.write_all(text.as_bytes())?;
    open.sync_all()
}

#[cfg(not(unix))]
fn write_privately(file: &Path, text: &str) -> std::io::Result<()> {
    fs::write(file, text)
}

/// A lock that the player's password opens.
struct Lock {
    hash: String,
    /// Hashes are worked out one at a time and in the same memory: each takes 19 MiB.
    trying: Mutex<Vec<Block>>,
    /// Signs what known browsers carry. Another password knows none of them.
    known_by: [u8; 32],
    by_browser: DefaultKeyedRateLimiter<String>,
    sessions: Mutex<HashMap<String, Instant>>,
    by_address: DefaultKeyedRateLimiter<IpAddr>,
    by_all: governor::DefaultDirectRateLimiter,
}

impl Lock {
    /// Whether a password is the one.
    fn opens(&self, password: &str) -> bool {
        let mut memory = self.trying.lock().unwrap_or_else(PoisonError::into_inner);
        self.opens_in(password, &mut memory).unwrap_or(false)
    }

    fn opens_in(&self, password: &str, memory: &mut Vec<Block>) -> Option<bool> {
        let kept = PasswordHash::new(&self.hash).ok()?;
        let algorithm = Algorithm::try_from(kept.algorithm.as_str()).ok()?;
        let version = Version::try_from(kept.version?).ok()?;
        let params = Params::try_from(&kept).ok()?;
        let (salt, hash) = (kept.salt?, kept.hash?);
        memory.resize(params.block_count(), Block::new());
        let mut out = [0; Output::MAX_LENGTH];
        let out = out.get_mut(..hash.len())?;
        Argon2::new(algorithm, version, params)
            .hash_password_into_with_memory(password.as_bytes(), salt.as_ref(), out, memory)
            .ok()?;
        // Compared in constant time.
        Some(Output::new(out).ok()? == hash)
    }

    fn signature(&self, name: &str) -> Option<Blake2sMac256> {
        Some(Blake2sMac256::new_from_slice(&self.known_by).ok()?.chain_update(name.as_bytes()))
    }

    /// The value of the cookie that marks a known browser: a name and our signature.
    fn introduction(&self) -> Option<String> {
        let name = random_name()?;
        let signature = self.signature(&name)?.finalize().into_bytes();
        Some(format!("{name}.{}", hex(&signature)))
    }

    /// The name of a browser that was logged in before, as it says and we have signed.
    fn recognised(&self, carried: &str) -> Option<String> {
        let (name, said) = carried.split_once('.')?;
        let said: Option<Vec<u8>> =
            (0..said.len() / 2).map(|k| u8::from_str_radix(said.get(2 * k..2 * k + 2)?, 16).ok()).collect();
        self.signature(name)?.verify_slice(&said?).ok()?;
        Some(name.to_owned())
    }
}

fn hex(bytes: &[u8]) -> String {
    bytes.iter().map(|b| format!("{b:02x}")).collect()
}

fn random_name() -> Option<String> {
    let mut bytes = [0u8; 32];
    getrandom::fill(&mut bytes).ok()?;
    Some(hex(&bytes))
}

/// The cookies of a browser that has logged in.
#[derive(Debug, Clone, PartialEq)]
pub struct Entered {
    /// Names its session.
    pub session: String,
    /// By which it is known when it logs in again, whoever else tries passwords meanwhile.
    pub known: String,
}

/// Whom the program answers.
pub struct Door {
    lock: Option<Lock>,
    /// Names by which it is reached, besides addresses in figures and "localhost".
    names: Vec<String>,
    /// Whether browsers reach it by TLS.
    pub https: bool,
    /// Whether a proxy in front of it says whose requests it hands on.
    pub behind_proxy: bool,
}

impl Door {
    /// For this machine alone: no password.
    pub fn of_this_machine() -> Door {
        Door { lock: None, names: vec![], https: false, behind_proxy: false }
    }

    /// For whoever knows the password kept in a file, also by other `names`.
    ///
    /// # Errors
    /// [`PasswordError::File`] if there is none.
    pub fn locked(file: &Path, names: Vec<String>, https: bool) -> Result<Door, PasswordError> {
        let hash = fs::read_to_string(file).map_err(told(file))?;
        PasswordHash::new(hash.trim()).map_err(|e| told(file)(std::io::Error::other(e.to_string())))?;
        let lock = Lock {
            hash: hash.trim().to_owned(),
            trying: Mutex::default(),
            known_by: Blake2s256::digest(hash.trim().as_bytes()).into(),
            by_browser: RateLimiter::hashmap_with_hasher(Quota::per_minute(TRIES), RandomState::new()),
            sessions: Mutex::default(),
            by_address: RateLimiter::hashmap_with_hasher(Quota::per_minute(TRIES), RandomState::new()),
            by_all: RateLimiter::direct(Quota::per_minute(TRIES_OF_ALL)),
        };
        Ok(Door { lock: Some(lock), names, https, behind_proxy: false })
    }

    /// Whether a password is asked for.
    pub fn is_locked(&self) -> bool {
        self.lock.is_some()
    }

    /// Whether the Host of a request is one of ours. A page of another site that has its own name lead here, to read through the
    /// player's browser, sends that name; an address in figures cannot be made to lead elsewhere.
    pub fn answers_to(&self, host: &str) -> bool {
        let name = match host.strip_prefix('[').and_then(|rest| rest.split_once(']')) {
            Some((six, _)) => six,
            None => host.rsplit_once(':').map_or(host, |(name, _)| name),
        };
        match name.parse::<IpAddr>() {
            Ok(address) => self.is_locked() || address.is_loopback(),
            Err(_) => {
                name.eq_ignore_ascii_case("localhost")
                    || self.names.iter().any(|n| n.eq_ignore_ascii_case(name))
            }
        }
    }

    /// Whether whoever shows this session, if any, may come in.
    pub fn admits(&self, session: Option<&str>) -> bool {
        let Some(lock) = &self.lock else { return true };
        let sessions = lock.sessions.lock().unwrap_or_else(PoisonError::into_inner);
        session.and_then(|s| sessions.get(s)).is_some_and(|until| Instant::now() < *until)
    }

    /// Begins a session, if the password is the one. A browser that was logged in before (`known` is what it carries) has tries of
    /// its own: whoever guesses beside it, or comes by the same proxy, does not shut it out.
    ///
    /// # Errors
    /// [`Refused`].
    pub fn enter(&self, password: &str, from: IpAddr, known: Option<&str>) -> Result<Entered, Refused> {
        let Some(lock) = &self.lock else { return Err(Refused::Wrong) };
        let clock = DefaultClock::default();
        let too_often = |until: governor::NotUntil<_>| Refused::TooOften {
            wait_s: until.wait_time_from(clock.now()).as_secs() + 1,
        };
        match known.and_then(|carried| lock.recognised(carried)) {
            Some(name) => lock.by_browser.check_key(&name).map_err(too_often)?,
            None => {
                lock.by_address.check_key(&from).map_err(too_often)?;
                lock.by_all.check().map_err(too_often)?;
            }
        }
        lock.by_address.retain_recent();
        lock.by_browser.retain_recent();
        if password.len() > LONGEST_PASSWORD || !lock.opens(password) {
            return Err(Refused::Wrong);
        }
        let session = random_name().ok_or(Refused::Wrong)?;
        let known = match known.filter(|carried| lock.recognised(carried).is_some()) {
            Some(carried) => carried.to_owned(),
            None => lock.introduction().ok_or(Refused::Wrong)?,
        };
        let mut sessions = lock.sessions.lock().unwrap_or_else(PoisonError::into_inner);
        sessions.retain(|_, until| Instant::now() < *until);
        if sessions.len() >= SESSIONS {
            let oldest = sessions.iter().min_by_key(|(_, until)| **until).map(|(s, _)| s.clone());
            oldest.map(|s| sessions.remove(&s));
        }
        sessions.insert(session.clone(), Instant::now() + SESSION);
        Ok(Entered { session, known })
    }

    /// Ends a session.
    pub fn leave(&self, session: &str) {
        if let Some(lock) = &self.lock {
            lock.sessions.lock().unwrap_or_else(PoisonError::into_inner).remove(session);
        }
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("127.0.0.1:4817", true)]
    #[case("localhost", true)]
    #[case("LOCALHOST:80", true)]
    #[case("[::1]:4817", true)]
    #[case("192.168.1.7:4817", false)]
    #[case("kite.example", false)]
    #[case("127.0.0.1.kite.example", false)]
    #[case("", false)]
    fn prop_the_open_door_answers_to_this_machine_alone(#[case] host: &str, #[case] answers: bool) {
        assert_eq!(Door::of_this_machine().answers_to(host), answers);
    }

    #[test]
    fn prop_a_locked_door_opens_to_its_password_and_not_for_ever() {
        let folder = tempfile::tempdir().unwrap();
        let file = password_file(&folder.path().join("a.db"));
        assert!(Door::locked(&file, vec![], false).is_err(), "there is no password yet");
        assert!(matches!(keep_password(&file, "short"), Err(PasswordError::Length { found: 5 })));
        keep_password(&file, "a long walk home").unwrap();
        let text = fs::read_to_string(&file).unwrap();
        assert!(text.starts_with("$argon2id$") && !text.contains("walk"), "{text}");
        let door = Door::locked(&file, vec!["bag.example".into()], false).unwrap();
        assert!(door.answers_to("192.168.1.7:4817") && door.answers_to("bag.example"));
        assert!(!door.answers_to("other.example"));
        assert!(!door.admits(None) && !door.admits(Some("")));
        let from: IpAddr = [192, 168, 1, 9].into();
        assert_eq!(door.enter("a long walk", from, None), Err(Refused::Wrong));
        let session = door.enter("a long walk home", from, None).unwrap().session;
        assert!(door.admits(Some(&session)));
        door.leave(&session);
        assert!(!door.admits(Some(&session)));
    }

    #[test]
    fn prop_guessing_is_slowed_down_for_who_guesses() {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("p");
        keep_password(&file, "a long walk home").unwrap();
        let door = Door::locked(&file, vec![], false).unwrap();
        let (one, another): (IpAddr, IpAddr) = ([10, 0, 0, 1].into(), [10, 0, 0, 2].into());
        let tries: Vec<_> = (0..8).map(|_| door.enter("wrong wrong", one, None)).collect();
        assert!(tries[..5].iter().all(|t| *t == Err(Refused::Wrong)));
        let waits = |t: &Result<Entered, Refused>| matches!(t, Err(Refused::TooOften { wait_s: 1..=60 }));
        assert!(tries[5..].iter().all(waits), "{tries:?}");
        assert!(door.enter("a long walk home", one, None).is_err(), "the right one waits too");
        assert!(door.enter("a long walk home", another, None).is_ok());
    }

    /// Whoever guesses shuts nobody out who was there before, and what they carry cannot be made up or taken over to another password.
    #[test]
    fn regress_a_known_browser_is_not_shut_out_by_who_guesses() {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("p");
        keep_password(&file, "a long walk home").unwrap();
        let door = Door::locked(&file, vec![], false).unwrap();
        let proxy: IpAddr = [127, 0, 0, 1].into();
        let known = door.enter("a long walk home", proxy, None).unwrap().known;
        let guess = |known: Option<&str>| door.enter("wrong wrong", proxy, known);
        assert!((0..6).any(|_| matches!(guess(None), Err(Refused::TooOften { .. }))));
        let forged = format!("{}0000", &known[..known.len() - 4]);
        assert!(matches!(guess(Some(&forged)), Err(Refused::TooOften { .. })));
        assert_eq!(door.enter("a long walk home", proxy, Some(&known)).unwrap().known, known);
        // It has no more tries than anybody.
        assert!((0..6).any(|_| matches!(guess(Some(&known)), Err(Refused::TooOften { .. }))));
        // After a restart it is still known, under another password it is not.
        let again = Door::locked(&file, vec![], false).unwrap();
        assert!(again.lock.as_ref().unwrap().recognised(&known).is_some());
        keep_password(&file, "a short walk home").unwrap();
        let other = Door::locked(&file, vec![], false).unwrap();
        assert!(other.lock.as_ref().unwrap().recognised(&known).is_none());
    }
}
