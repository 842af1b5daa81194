//! Rounds that were played, each with its holes as one document.

use rusqlite::{Connection, OptionalExtension};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::course::played::{CameOf, LostDisc, PlayedHole, PlayedRound};
use zinc_kite_bag::disc::spec::DiscId;

use super::given_key::GivenKey;
use super::thrown::{Wears, find_again, lose, wears};
use super::{Store, StoreError, folded, from_json, room_for, to_json};

/// Most rounds kept.
const MOST_ROUNDS: usize = 1000;
const COUNT: &str = "SELECT count(*) FROM round WHERE deleted = 0";

/// A round with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Round {
    /// Identity.
    pub key: GivenKey,
    /// The round.
    #[serde(flatten)]
    pub spec: PlayedRound,
}

fn not_found(key: &GivenKey) -> StoreError {
    StoreError::NotFound { what: "round", id: key.0.clone() }
}

/// Adds a round.
pub(super) fn insert(connection: &Connection, round: &Round) -> Result<(), StoreError> {
    let row = (&round.key.0, to_json(&round.spec));
    connection.execute("INSERT INTO round (key, spec) VALUES (?1, ?2)", row)?;
    room_for(connection, "round", COUNT, MOST_ROUNDS)
}

fn all(connection: &Connection) -> Result<Vec<Round>, StoreError> {
    let mut statement = connection.prepare_cached(
        "SELECT key, spec FROM round WHERE deleted = 0 ORDER BY json_extract(spec, '$.date') DESC, rowid DESC",
    )?;
    let rows: Vec<(String, String)> =
        statement.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
    let round = |(key, spec)| Ok(Round { key: GivenKey(key), spec: from_json("round", spec)? });
    rows.into_iter().map(round).collect()
}

fn write(connection: &Connection, key: &GivenKey, round: &PlayedRound) -> Result<(), StoreError> {
    connection.execute("UPDATE round SET spec = ?2 WHERE key = ?1", (&key.0, to_json(round)))?;
    Ok(())
}

/// Has rounds on a course go by its new name.
pub(super) fn rename_course(connection: &Connection, from: &str, to: &str) -> Result<(), StoreError> {
    if from.trim() == to.trim() {
        return Ok(());
    }
    for mut round in all(connection)? {
        if folded(&round.spec.course) == folded(from) {
            to.trim().clone_into(&mut round.spec.course);
            write(connection, &round.key, &round.spec)?;
        }
    }
    Ok(())
}

/// What the first throw on a hole wears.
fn worn_by(hole: &PlayedHole) -> Wears {
    let disc: DiscId = hole.threw.as_ref()?.disc_id?;
    Some((disc, hole.came_of == Some(CameOf::Hit)))
}

fn same_disc(a: &LostDisc, b: &LostDisc) -> bool {
    (a.disc_id, &a.disc_name) == (b.disc_id, &b.disc_name)
}

impl Store {
    /// Every round, the latest first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn rounds(&self) -> Result<Vec<Round>, StoreError> {
        all(&self.connection)
    }

    /// One round.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none or it is deleted.
    pub fn round(&self, key: &GivenKey) -> Result<Round, StoreError> {
        let spec: Option<String> = self
            .connection
            .prepare_cached("SELECT spec FROM round WHERE key = ?1 AND deleted = 0")?
            .query_row([&key.0], |r| r.get(0))
            .optional()?;
        let spec = spec.ok_or_else(|| not_found(key))?;
        Ok(Round { key: key.clone(), spec: from_json("round", spec)? })
    }

    /// Adds a round; one of the same identity that is there already stays as it is.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if it was there and is deleted, [`StoreError::TooMany`].
    pub fn begin_round(&mut self, round: &Round) -> Result<(), StoreError> {
        let sql = "SELECT deleted FROM round WHERE key = ?1";
        let known: Option<bool> = self.connection.query_row(sql, [&round.key.0], |r| r.get(0)).optional()?;
        match known {
            Some(false) => Ok(()),
            Some(true) => Err(not_found(&round.key)),
            None => self.change(|connection| {
                insert(connection, round)?;
                Ok(((), format!("A round on {} is begun", round.spec.course.trim())))
            }),
        }
    }

    /// Says how a hole of a round was played. Its first throw wears its disc. Discs that it names as lost are lost from then on, with the place; those that it no
    /// longer names are found again as they were.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is no such round or hole.
    pub fn play_hole(&mut self, key: &GivenKey, at: usize, hole: &PlayedHole) -> Result<(), StoreError> {
        let mut round = self.round(key)?.spec;
        let before = round
            .holes
            .get(at)
            .cloned()
            .ok_or_else(|| StoreError::NotFound { what: "hole", id: format!("{} of this round", at + 1) })?;
        let today = self.today()?;
        let place = format!("{}, hole {}", round.course.trim(), before.name.trim());
        let mut hole = hole.clone();
        let mut lost: Vec<LostDisc> = Vec::new();
        for disc in hole.lost {
            if !lost.iter().any(|l| same_disc(l, &disc)) {
                lost.push(disc);
            }
        }
        hole.lost = lost;
        self.change(|connection| {
            for lost in &mut hole.lost {
                match before.lost.iter().find(|l| same_disc(l, lost)) {
                    Some(known) => lost.clone_from(known),
                    None => lose(connection, lost, &place)?,
                }
            }
            for found in before.lost.iter().filter(|l| !hole.lost.iter().any(|h| same_disc(h, l))) {
                find_again(connection, found)?;
            }
            let worn = worn_by(&hole);
            let words = format!("Hole {} on {} is told", hole.name.trim(), round.course.trim());
            round.holes[at] = hole;
            write(connection, key, &round)?;
            wears(connection, today, worn_by(&before), worn)?;
            Ok(((), words))
        })
    }

    /// Deletes a round; its first throws were never made.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none.
    pub fn delete_round(&mut self, key: &GivenKey) -> Result<(), StoreError> {
        let round = self.round(key)?.spec;
        let today = self.today()?;
        self.change(|connection| {
            round.holes.iter().try_for_each(|hole| wears(connection, today, worn_by(hole), None))?;
            connection.execute("UPDATE round SET deleted = 1 WHERE key = ?1", [&key.0])?;
            Ok(((), format!("The round on {} of {} is deleted", round.course.trim(), round.date)))
        })
    }
}
