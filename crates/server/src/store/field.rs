//! Sessions in the field and their throws, each throw with an identity of its own, so that a phone can log it out of reach.

use std::collections::HashMap;
use std::rc::Rc;

use jiff::civil::Date;
use rusqlite::{Connection, OptionalExtension, Row};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::course::place::Place;
use zinc_kite_bag::course::played::LostDisc;
use zinc_kite_bag::disc::spec::DiscId;
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::throw::{FieldThrow, ThrowTag};
use zinc_kite_bag::thrower::style::Style;

use super::given_key::GivenKey;
use super::thrown::{Wears, find_again, lose, wears};
use super::{Store, StoreError, counted, from_json, room_for, to_json};

/// Most sessions and most throws kept.
const MOST_SESSIONS: usize = 5000;
const MOST_THROWS: usize = 200_000;
/// Most throws of one session: more than anybody throws in a day.
const MOST_IN_SESSION: usize = 2000;
const SESSIONS: &str = "SELECT count(*) FROM field_session WHERE deleted = 0";
const THROWS: &str = "SELECT count(*) FROM throw WHERE deleted = 0";

/// A session with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct KeptSession {
    /// Identity.
    pub key: GivenKey,
    /// The session.
    #[serde(flatten)]
    pub spec: FieldSession,
}

/// A throw with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct KeptThrow {
    /// Identity.
    pub key: GivenKey,
    /// The throw.
    #[serde(flatten)]
    pub spec: FieldThrow,
}

/// A session and what is in it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SessionEntry {
    /// The session.
    #[serde(flatten)]
    pub session: KeptSession,
    /// How many throws it holds.
    pub throws: usize,
    /// How many discs were thrown.
    pub discs: usize,
}

/// A disc and how often it was thrown in the field.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct ThrownDisc {
    /// Which.
    pub disc_id: DiscId,
    /// How often.
    pub throws: usize,
}

fn no_session(key: &GivenKey) -> StoreError {
    StoreError::NotFound { what: "session", id: key.0.clone() }
}

fn no_throw(key: &GivenKey) -> StoreError {
    StoreError::NotFound { what: "throw", id: key.0.clone() }
}

/// A row of a key and a document.
fn keyed(row: &Row) -> rusqlite::Result<(GivenKey, String)> {
    Ok((GivenKey(row.get(0)?), row.get(1)?))
}

/// Whether there is a row of that key in a table, and whether it is deleted.
fn known(connection: &Connection, table: &str, key: &GivenKey) -> Result<Option<bool>, StoreError> {
    let sql = format!("SELECT deleted FROM {table} WHERE key = ?1");
    Ok(connection.prepare_cached(&sql)?.query_row([&key.0], |r| r.get(0)).optional()?)
}

/// What a throw wears.
fn worn_by(throw: &FieldThrow) -> Wears {
    throw.disc_id.map(|disc| (disc, throw.has(ThrowTag::Hit)))
}

/// Adds a session.
pub(super) fn insert_session(connection: &Connection, session: &KeptSession) -> Result<(), StoreError> {
    let row = (&session.key.0, to_json(&session.spec));
    connection.execute("INSERT INTO field_session (key, spec) VALUES (?1, ?2)", row)?;
    room_for(connection, "session", SESSIONS, MOST_SESSIONS)
}

/// Adds throws to a session as they are: what they did to their discs is known already.
pub(super) fn insert_throws(
    connection: &Connection,
    session: &GivenKey,
    throws: &[KeptThrow],
) -> Result<(), StoreError> {
    let sql = "INSERT INTO throw (key, session, spec) VALUES (?1, ?2, ?3)";
    let mut statement = connection.prepare_cached(sql)?;
    for throw in throws {
        statement.execute((&throw.key.0, &session.0, to_json(&throw.spec)))?;
    }
    let sql = "SELECT count(*) FROM throw WHERE session = ?1 AND deleted = 0";
    let there: i64 = connection.prepare_cached(sql)?.query_row([&session.0], |r| r.get(0))?;
    if there > MOST_IN_SESSION as i64 {
        return Err(StoreError::FullSession { most: MOST_IN_SESSION });
    }
    room_for(connection, "throw", THROWS, MOST_THROWS)
}

fn write_session(connection: &Connection, key: &GivenKey, session: &FieldSession) -> Result<(), StoreError> {
    let sql = "UPDATE field_session SET spec = ?2 WHERE key = ?1";
    connection.execute(sql, (&key.0, to_json(session)))?;
    Ok(())
}

fn write_throw(connection: &Connection, key: &GivenKey, throw: &FieldThrow) -> Result<(), StoreError> {
    let sql = "UPDATE throw SET spec = ?2 WHERE key = ?1";
    connection.prepare_cached(sql)?.execute((&key.0, to_json(throw)))?;
    Ok(())
}

fn throws_in(connection: &Connection, session: &GivenKey) -> Result<Vec<KeptThrow>, StoreError> {
    let sql = "SELECT key, spec FROM throw WHERE session = ?1 AND deleted = 0 ORDER BY rowid";
    let mut statement = connection.prepare_cached(sql)?;
    let rows: Vec<(GivenKey, String)> =
        statement.query_map([&session.0], keyed)?.collect::<Result<_, _>>()?;
    rows.into_iter().map(|(key, spec)| Ok(KeptThrow { key, spec: from_json("throw", spec)? })).collect()
}

/// Does to the discs what a throw as it is told now does to them, and undoes what it did as it was told before.
fn consequences(
    connection: &Connection,
    today: Date,
    place: &str,
    before: Option<&FieldThrow>,
    now: Option<&mut FieldThrow>,
) -> Result<(), StoreError> {
    let held = before.and_then(|t| t.lost.clone());
    wears(connection, today, before.and_then(worn_by), now.as_deref().and_then(worn_by))?;
    let loses = now.as_deref().is_some_and(|t| t.has(ThrowTag::Lost));
    let same = held.as_ref().map(|h| h.disc_id) == now.as_deref().map(|t| t.disc_id);
    if let Some(lost) = held.as_ref().filter(|_| !(loses && same)) {
        find_again(connection, lost)?;
    }
    let Some(now) = now else { return Ok(()) };
    now.lost = if !loses {
        None
    } else if let Some(held) = held.filter(|_| same) {
        Some(held)
    } else {
        let mut lost = LostDisc::of(now.disc_id, &now.disc_name);
        lose(connection, &mut lost, place)?;
        Some(lost)
    };
    Ok(())
}

impl Store {
    /// Every session, the latest first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn sessions(&self) -> Result<Vec<SessionEntry>, StoreError> {
        let mut statement = self.connection.prepare_cached(
            "SELECT key, spec, (SELECT count(*) FROM throw WHERE session = s.key AND deleted = 0),
                 (SELECT count(DISTINCT disc_id) FROM throw WHERE session = s.key AND deleted = 0)
             FROM field_session s WHERE deleted = 0 ORDER BY json_extract(spec, '$.date') DESC, rowid DESC",
        )?;
        let rows: Vec<((GivenKey, String), i64, i64)> =
            statement.query_map([], |r| Ok((keyed(r)?, r.get(2)?, r.get(3)?)))?.collect::<Result<_, _>>()?;
        let entry = |((key, spec), throws, discs): ((GivenKey, String), i64, i64)| {
            let session = KeptSession { key, spec: from_json("session", spec)? };
            let count = |n: i64| usize::try_from(n).unwrap_or(0);
            Ok(SessionEntry { session, throws: count(throws), discs: count(discs) })
        };
        rows.into_iter().map(entry).collect()
    }

    /// One session.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none or it is deleted.
    pub fn session(&self, key: &GivenKey) -> Result<KeptSession, StoreError> {
        let sql = "SELECT key, spec FROM field_session WHERE key = ?1 AND deleted = 0";
        let row = self.connection.prepare_cached(sql)?.query_row([&key.0], keyed).optional()?;
        let (key, spec) = row.ok_or_else(|| no_session(key))?;
        Ok(KeptSession { key, spec: from_json("session", spec)? })
    }

    /// The throws of a session, in the order in which they were made.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn throws(&self, session: &GivenKey) -> Result<Vec<KeptThrow>, StoreError> {
        throws_in(&self.connection, session)
    }

    /// One throw of a session.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none there or it is deleted.
    pub fn throw(&self, session: &GivenKey, key: &GivenKey) -> Result<KeptThrow, StoreError> {
        let sql = "SELECT key, spec FROM throw WHERE key = ?1 AND session = ?2 AND deleted = 0";
        let row = self.connection.prepare_cached(sql)?.query_row((&key.0, &session.0), keyed).optional()?;
        let (key, spec) = row.ok_or_else(|| no_throw(key))?;
        Ok(KeptThrow { key, spec: from_json("throw", spec)? })
    }

    /// Every throw of a disc with its session, the earliest first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn throws_of(&self, disc: DiscId) -> Result<Vec<(Rc<FieldSession>, FieldThrow)>, StoreError> {
        let mut statement = self.connection.prepare_cached(
            "SELECT t.session, t.spec FROM throw t JOIN field_session s ON s.key = t.session
             WHERE t.disc_id = ?1 AND t.deleted = 0 AND s.deleted = 0
             ORDER BY json_extract(s.spec, '$.date'), t.rowid",
        )?;
        let rows = statement.query_map([disc.0], keyed)?.collect::<Result<_, _>>()?;
        self.with_sessions(rows)
    }

    /// The latest throws in a style with their sessions, at most so many, the earliest of them first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn latest_throws(
        &self,
        style: Style,
        most: usize,
    ) -> Result<Vec<(Rc<FieldSession>, FieldThrow)>, StoreError> {
        let mut statement = self.connection.prepare_cached(
            // Day by day from the latest, until there are enough: a cross join keeps that order.
            "SELECT t.session, t.spec FROM field_session s CROSS JOIN throw t ON t.session = s.key
             WHERE t.style = json_extract(?1, '$') AND t.deleted = 0 AND s.deleted = 0
             ORDER BY json_extract(s.spec, '$.date') DESC, t.rowid DESC LIMIT ?2",
        )?;
        let found = statement.query_map((to_json(&style), most as i64), keyed)?;
        let mut rows: Vec<(GivenKey, String)> = found.collect::<Result<_, _>>()?;
        rows.reverse();
        self.with_sessions(rows)
    }

    /// The days and styles of throws from a day on.
    ///
    /// # Errors
    /// [`StoreError`] if the database cannot be read.
    pub fn days_thrown(&self, since: Date) -> Result<Vec<(Date, Style)>, StoreError> {
        let mut statement = self.connection.prepare_cached(
            "SELECT s.spec -> '$.date', t.spec -> '$.style' FROM throw t JOIN field_session s ON s.key = t.session
             WHERE json_extract(s.spec, '$.date') >= ?1 AND t.deleted = 0 AND s.deleted = 0",
        )?;
        let rows: Vec<(String, String)> = statement
            .query_map([since.to_string()], |row| Ok((row.get(0)?, row.get(1)?)))?
            .collect::<Result<_, _>>()?;
        rows.into_iter()
            .map(|(day, style)| Ok((from_json("day", day)?, from_json("style", style)?)))
            .collect()
    }

    /// Throws as they are kept, by the keys of their sessions, with those.
    fn with_sessions(
        &self,
        rows: Vec<(GivenKey, String)>,
    ) -> Result<Vec<(Rc<FieldSession>, FieldThrow)>, StoreError> {
        let mut sessions: HashMap<GivenKey, Rc<FieldSession>> = HashMap::new();
        let mut throws = Vec::with_capacity(rows.len());
        for (key, spec) in rows {
            let session = match sessions.get(&key) {
                Some(known) => known.clone(),
                None => {
                    let read = Rc::new(self.session(&key)?.spec);
                    sessions.insert(key, read.clone());
                    read
                }
            };
            throws.push((session, from_json("throw", spec)?));
        }
        Ok(throws)
    }

    /// Discs that were thrown, the most often thrown first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn thrown_discs(&self) -> Result<Vec<ThrownDisc>, StoreError> {
        let mut statement = self.connection.prepare_cached(
            "SELECT disc_id, count(*) FROM throw t WHERE deleted = 0 AND disc_id IS NOT NULL
                 AND session IN (SELECT key FROM field_session WHERE deleted = 0)
             GROUP BY disc_id ORDER BY 2 DESC, 1",
        )?;
        let of = |r: &Row| {
            let throws: i64 = r.get(1)?;
            Ok(ThrownDisc { disc_id: DiscId(r.get(0)?), throws: usize::try_from(throws).unwrap_or(0) })
        };
        Ok(statement.query_map([], of)?.collect::<Result<_, _>>()?)
    }

    /// Adds a session; one of the same identity that is there already stays as it is.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it was there and is deleted, [`StoreError::TooMany`].
    pub fn begin_session(&mut self, session: &KeptSession) -> Result<(), StoreError> {
        match known(&self.connection, "field_session", &session.key)? {
            Some(false) => Ok(()),
            Some(true) => Err(no_session(&session.key)),
            None => self.change(|connection| {
                insert_session(connection, session)?;
                Ok(((), format!("A session at {} is begun", session.spec.place.trim())))
            }),
        }
    }

    /// Adds a session with throws whose discs are known to be as they left them.
    ///
    /// # Errors
    /// [`StoreError::TooMany`] or [`StoreError::FullSession`]; then nothing is added.
    pub fn add_session(&mut self, session: &KeptSession, throws: &[KeptThrow]) -> Result<(), StoreError> {
        self.change(|connection| {
            insert_session(connection, session)?;
            insert_throws(connection, &session.key, throws)?;
            let throws = counted(throws.len(), "throw");
            Ok(((), format!("A session at {} with {throws} is added", session.spec.place.trim())))
        })
    }

    /// Replaces what is known of a session. Where its throws lie is worked out anew if they are known by their coordinates.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none.
    pub fn save_session(&mut self, key: &GivenKey, session: &FieldSession) -> Result<(), StoreError> {
        self.session(key)?;
        let throws = self.throws(key)?;
        self.change(|connection| {
            write_session(connection, key, session)?;
            for KeptThrow { key, mut spec } in throws {
                let was = spec.clone();
                spec.place(session);
                if spec != was {
                    write_throw(connection, &key, &spec)?;
                }
            }
            Ok(((), format!("The session at {} is saved", session.place.trim())))
        })
    }

    /// Deletes a session: its throws were never made.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none.
    pub fn delete_session(&mut self, key: &GivenKey) -> Result<(), StoreError> {
        let (session, throws) = (self.session(key)?.spec, self.throws(key)?);
        let today = self.today()?;
        self.change(|connection| {
            for throw in &throws {
                consequences(connection, today, "", Some(&throw.spec), None)?;
            }
            connection.execute("UPDATE throw SET deleted = 1 WHERE session = ?1", [&key.0])?;
            connection.execute("UPDATE field_session SET deleted = 1 WHERE key = ?1", [&key.0])?;
            let throws = counted(throws.len(), "throw");
            Ok((
                (),
                format!(
                    "The session at {} of {} with {throws} is deleted",
                    session.place.trim(),
                    session.date
                ),
            ))
        })
    }

    /// Puts all throws of one session behind those of another, which takes its place.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if either is not there.
    pub fn merge_sessions(&mut self, from: &GivenKey, into: &GivenKey) -> Result<(), StoreError> {
        let (gone, stays) = (self.session(from)?.spec, self.session(into)?.spec);
        if from == into {
            return Ok(());
        }
        self.change(|connection| {
            connection.execute("UPDATE throw SET session = ?2 WHERE session = ?1", (&from.0, &into.0))?;
            connection.execute("UPDATE field_session SET deleted = 1 WHERE key = ?1", [&from.0])?;
            let words = format!(
                "The session at {} of {} is part of that at {}",
                gone.place.trim(),
                gone.date,
                stays.place.trim()
            );
            Ok(((), words))
        })
    }

    /// Adds a throw to a session, which wears its disc and may lose it; one of the same identity that is there already stays as it is.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such session, or the throw was there and is deleted; [`StoreError::TooMany`].
    pub fn log_throw(&mut self, session: &GivenKey, throw: &KeptThrow) -> Result<(), StoreError> {
        let at = self.session(session)?.spec;
        match known(&self.connection, "throw", &throw.key)? {
            Some(false) => return Ok(()),
            Some(true) => return Err(no_throw(&throw.key)),
            None => {}
        }
        let today = self.today()?;
        let mut throw = throw.clone();
        throw.spec.place(&at);
        self.change(|connection| {
            consequences(connection, today, at.place.trim(), None, Some(&mut throw.spec))?;
            insert_throws(connection, session, std::slice::from_ref(&throw))?;
            Ok(((), format!("A throw of {} is logged", throw.spec.disc_name.trim())))
        })
    }

    /// Adds throws from elsewhere to a session, which takes their tee if it has none. They wear their discs if that is wanted, and lose
    /// none: where a disc is now is known better here.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], [`StoreError::TooMany`] or [`StoreError::FullSession`]; then nothing is added.
    pub fn bring_throws(
        &mut self,
        key: &GivenKey,
        tee: Option<Place>,
        throws: &[FieldThrow],
        wear: bool,
    ) -> Result<(), StoreError> {
        let mut at = self.session(key)?.spec;
        let (had, today) = (at.tee, self.today()?);
        at.tee = at.tee.or(tee);
        self.change(|connection| {
            if at.tee != had {
                write_session(connection, key, &at)?;
            }
            let mut kept = Vec::with_capacity(throws.len());
            for throw in throws {
                let mut spec = FieldThrow { lost: None, ..throw.clone() };
                spec.tags.retain(|tag| *tag != ThrowTag::Lost);
                spec.place(&at);
                if wear {
                    wears(connection, today, None, worn_by(&spec))?;
                }
                kept.push(KeptThrow { key: GivenKey::new(), spec });
            }
            insert_throws(connection, key, &kept)?;
            let throws = counted(throws.len(), "throw");
            Ok(((), format!("{throws} brought in to the session at {}", at.place.trim())))
        })
    }

    /// Replaces what is told of a throw.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none.
    pub fn save_throw(
        &mut self,
        session: &GivenKey,
        key: &GivenKey,
        throw: &FieldThrow,
    ) -> Result<(), StoreError> {
        let (at, before) = (self.session(session)?.spec, self.throw(session, key)?.spec);
        let today = self.today()?;
        let mut now = throw.clone();
        now.place(&at);
        self.change(|connection| {
            consequences(connection, today, at.place.trim(), Some(&before), Some(&mut now))?;
            write_throw(connection, key, &now)?;
            Ok(((), format!("A throw of {} is told anew", now.disc_name.trim())))
        })
    }

    /// Deletes a throw: it was never made.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none.
    pub fn delete_throw(&mut self, session: &GivenKey, key: &GivenKey) -> Result<(), StoreError> {
        let throw = self.throw(session, key)?.spec;
        let today = self.today()?;
        self.change(|connection| {
            consequences(connection, today, "", Some(&throw), None)?;
            connection.execute("UPDATE throw SET deleted = 1 WHERE key = ?1", [&key.0])?;
            Ok(((), format!("A throw of {} is deleted", throw.disc_name.trim())))
        })
    }
}
