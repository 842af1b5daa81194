//! Bags and what is in them.

use rusqlite::{Connection, OptionalExtension, Row};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::course::played::BagPlace;
use zinc_kite_bag::disc::spec::DiscId;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried, LARGEST_BAG};

use super::{Store, StoreError, counted, free_name, is_duplicate, is_no_row, room_for};

/// Most bags kept.
const MOST_BAGS: usize = 200;
const NAMES: &str = "SELECT id, name FROM bag";

/// Identity of a bag.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
#[schema(value_type = i64)]
pub struct BagId(pub i64);

/// A bag and what is in it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Bag {
    /// Identity.
    pub id: BagId,
    /// Name, size, cap.
    #[serde(flatten)]
    pub spec: BagSpec,
    /// What is in it.
    pub carried: Vec<Carried>,
}

/// Discs to put in (or to mark anew) and to take out, all or none.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Moves {
    /// Put in; a disc already in gets the mark given here.
    #[serde(default)]
    pub carry: Vec<Carried>,
    /// Take out; a disc not in is left alone.
    #[serde(default)]
    pub bench: Vec<DiscId>,
}

/// A bag's columns, for [`spec_of`].
pub(super) const READ: &str = "SELECT name, capacity, event_cap_g FROM bag";

pub(super) fn spec_of(r: &Row) -> Result<BagSpec, StoreError> {
    Ok(BagSpec { name: r.get("name")?, capacity: r.get("capacity")?, event_cap_g: r.get("event_cap_g")? })
}

impl Store {
    /// Every bag, the first made first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn bags(&self) -> Result<Vec<Bag>, StoreError> {
        let mut statement = self.connection.prepare_cached("SELECT id FROM bag ORDER BY id")?;
        let ids: Vec<i64> = statement.query_map([], |r| r.get("id"))?.collect::<Result<_, _>>()?;
        ids.into_iter().map(|id| self.bag(BagId(id))).collect()
    }

    /// One bag; deleted discs are not shown in it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn bag(&self, id: BagId) -> Result<Bag, StoreError> {
        let spec = self
            .connection
            .query_row_and_then(&format!("{READ} WHERE id = ?1"), [id.0], spec_of)
            .map_err(|e| if is_no_row(&e) { not_found(id) } else { e })?;
        let mut statement = self.connection.prepare_cached(
            "SELECT disc_id, spare FROM bag_disc JOIN disc ON disc.id = disc_id
             WHERE bag_id = ?1 AND deleted = 0 ORDER BY disc_id",
        )?;
        let carried = statement
            .query_map([id.0], |r| {
                Ok(Carried { disc_id: DiscId(r.get("disc_id")?), spare: r.get("spare")? })
            })?
            .collect::<Result<_, _>>()?;
        Ok(Bag { id, spec, carried })
    }

    /// Adds a bag with what is in it.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`], or [`StoreError::NotFound`] for a disc that is not there; then no bag is added.
    pub fn add_bag(&mut self, spec: &BagSpec, carried: &[Carried]) -> Result<BagId, StoreError> {
        for c in carried {
            self.disc(c.disc_id)?;
        }
        self.change(|connection| {
            let id = insert(connection, spec, carried)?;
            Ok((id, format!("{} is made", spec.name.trim())))
        })
    }

    /// The same, numbered if a bag of its name is there.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a disc that is not there.
    pub fn add_bag_like(&mut self, spec: &BagSpec, carried: &[Carried]) -> Result<BagId, StoreError> {
        let mut named = spec.clone();
        for k in 2.. {
            match self.add_bag(&named, carried) {
                Err(StoreError::NameTaken { .. }) => named.name = format!("{} {k}", spec.name),
                other => return other,
            }
        }
        unreachable!("there are fewer bags than numbers")
    }

    /// Deletes a bag; its discs stay on the shelf.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or [`StoreError::LastBag`] for the only one there is.
    pub fn delete_bag(&mut self, id: BagId) -> Result<(), StoreError> {
        let bag = self.bag(id)?;
        let name = bag.spec.name;
        self.change(|connection| {
            let left: i64 =
                connection.query_row("SELECT count(*) FROM bag WHERE id <> ?1", [id.0], |r| r.get(0))?;
            if left == 0 {
                return Err(StoreError::LastBag { name });
            }
            connection.execute("DELETE FROM bag WHERE id = ?1", [id.0])?;
            Ok(((), format!("{name} is deleted")))
        })
    }

    /// Changes name, size and cap.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] or [`StoreError::NameTaken`].
    pub fn save_bag(&mut self, id: BagId, spec: &BagSpec) -> Result<(), StoreError> {
        self.change(|connection| {
            free_name(connection, "bag", NAMES, &spec.name, Some(id.0))?;
            let changed = connection
                .execute(
                    "UPDATE bag SET name = ?2, capacity = ?3, event_cap_g = ?4 WHERE id = ?1",
                    (id.0, spec.name.trim(), spec.capacity, spec.event_cap_g),
                )
                .map_err(|e| taken(e, spec))?;
            if changed == 0 { Err(not_found(id)) } else { Ok(((), format!("{} is saved", spec.name.trim()))) }
        })
    }

    /// Puts discs in and takes discs out.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for a bag or disc that is not there; then nothing is moved.
    pub fn move_discs(&mut self, id: BagId, moves: &Moves) -> Result<(), StoreError> {
        let bag = self.bag(id)?;
        let mut did: Vec<String> = Vec::new();
        for c in &moves.carry {
            let name = self.disc(c.disc_id)?.spec.name;
            did.push(format!("{name} is carried{}", if c.spare { " as a spare" } else { "" }));
        }
        for disc in &moves.bench {
            if bag.carried.iter().any(|c| c.disc_id == *disc) {
                did.push(format!("{} is benched", self.disc(*disc)?.spec.name));
            }
        }
        let words = match did.as_slice() {
            [] => "nothing is moved".to_owned(),
            [one] => one.clone(),
            [one, two] => format!("{one}, {two}"),
            more => format!("{} in {} are moved", counted(more.len(), "disc"), bag.spec.name),
        };
        self.change(|connection| {
            for c in &moves.carry {
                put_in(connection, id, c)?;
            }
            for disc in &moves.bench {
                connection
                    .execute("DELETE FROM bag_disc WHERE bag_id = ?1 AND disc_id = ?2", (id.0, disc.0))?;
            }
            room_in(connection, id)?;
            Ok(((), words))
        })
    }
}

/// Adds a bag with what is in it.
pub(super) fn insert(
    connection: &Connection,
    spec: &BagSpec,
    carried: &[Carried],
) -> Result<BagId, StoreError> {
    free_name(connection, "bag", NAMES, &spec.name, None)?;
    connection
        .execute(
            "INSERT INTO bag (name, capacity, event_cap_g) VALUES (?1, ?2, ?3)",
            (spec.name.trim(), spec.capacity, spec.event_cap_g),
        )
        .map_err(|e| taken(e, spec))?;
    let id = BagId(connection.last_insert_rowid());
    for c in carried {
        put_in(connection, id, c)?;
    }
    room_for(connection, "bag", "SELECT count(*) FROM bag", MOST_BAGS)?;
    room_in(connection, id)?;
    Ok(id)
}

/// Puts discs into a bag.
pub(super) fn carry_in(connection: &Connection, id: BagId, discs: &[DiscId]) -> Result<(), StoreError> {
    let there = connection.query_row("SELECT 1 FROM bag WHERE id = ?1", [id.0], |_| Ok(())).optional()?;
    there.ok_or_else(|| not_found(id))?;
    for disc in discs {
        put_in(connection, id, &Carried { disc_id: *disc, spare: false })?;
    }
    room_in(connection, id)
}

/// Takes a disc out of every bag.
pub(super) fn leave_bags(connection: &Connection, disc: DiscId) -> Result<(), StoreError> {
    connection.execute("DELETE FROM bag_disc WHERE disc_id = ?1", [disc.0])?;
    Ok(())
}

/// Where a disc is carried.
pub(super) fn places(connection: &Connection, disc: DiscId) -> Result<Vec<BagPlace>, StoreError> {
    let mut statement = connection.prepare_cached("SELECT bag_id, spare FROM bag_disc WHERE disc_id = ?1")?;
    let place = |r: &Row| Ok(BagPlace { bag_id: r.get(0)?, spare: r.get(1)? });
    Ok(statement.query_map([disc.0], place)?.collect::<Result<_, _>>()?)
}

/// Puts a disc where it was carried, as far as those bags are still there.
pub(super) fn carry_again(
    connection: &Connection,
    disc: DiscId,
    places: &[BagPlace],
) -> Result<(), StoreError> {
    for BagPlace { bag_id, spare } in places {
        let there =
            connection.query_row("SELECT 1 FROM bag WHERE id = ?1", [bag_id], |_| Ok(())).optional()?;
        if there.is_some() {
            put_in(connection, BagId(*bag_id), &Carried { disc_id: disc, spare: *spare })?;
            room_in(connection, BagId(*bag_id))?;
        }
    }
    Ok(())
}

/// Refuses a bag that holds more than a bag may be set to hold.
fn room_in(connection: &Connection, id: BagId) -> Result<(), StoreError> {
    let sql = format!("SELECT count(*) FROM bag_disc WHERE bag_id = {}", id.0);
    room_for(connection, "carried disc", &sql, LARGEST_BAG as usize)
}

fn put_in(connection: &Connection, id: BagId, c: &Carried) -> Result<(), StoreError> {
    connection.execute(
        "INSERT INTO bag_disc (bag_id, disc_id, spare) VALUES (?1, ?2, ?3)
         ON CONFLICT (bag_id, disc_id) DO UPDATE SET spare = excluded.spare",
        (id.0, c.disc_id.0, c.spare),
    )?;
    Ok(())
}

fn taken(error: rusqlite::Error, spec: &BagSpec) -> StoreError {
    if is_duplicate(&error) {
        StoreError::NameTaken { what: "bag", name: spec.name.trim().to_owned() }
    } else {
        error.into()
    }
}

fn not_found(id: BagId) -> StoreError {
    StoreError::NotFound { what: "bag", id: id.0.to_string() }
}
