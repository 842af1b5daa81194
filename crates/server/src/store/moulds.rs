//! The library of moulds: one for every mould of which there was a disc, and those the player writes down beside.

use std::collections::{HashMap, HashSet};

use rusqlite::Connection;
use zinc_kite_bag::disc::mould::{Mould, MouldId, MouldSpec};
use zinc_kite_bag::disc::spec::{Disc, DiscSpec};

use super::{Store, StoreError, counted, folded, from_json, room_for, to_json};

/// Most moulds kept.
const MOST_MOULDS: usize = 5000;
const COUNT: &str = "SELECT count(*) FROM mould WHERE deleted = 0";

fn all(connection: &Connection) -> Result<Vec<Mould>, StoreError> {
    let mut statement = connection.prepare_cached("SELECT id, spec FROM mould WHERE deleted = 0")?;
    let rows: Vec<(i64, String)> =
        statement.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
    let mould = |(id, spec)| Ok(Mould { id: MouldId(id), spec: from_json("mould", spec)? });
    rows.into_iter().map(mould).collect()
}

/// The moulds by what tells them apart.
pub struct Library(HashMap<(String, String), MouldSpec>);

impl Library {
    /// The mould of a disc.
    pub fn mould_of(&self, disc: &DiscSpec) -> Option<&MouldSpec> {
        self.0.get(&key(&disc.maker, &disc.mould))
    }

    /// Every mould; those of discs that are not in the library, as the discs tell.
    pub fn with_those_of(mut self, discs: &[Disc]) -> Vec<MouldSpec> {
        for disc in discs {
            let key = key(&disc.spec.maker, &disc.spec.mould);
            self.0.entry(key).or_insert_with(|| MouldSpec::of(&disc.spec));
        }
        let mut moulds: Vec<MouldSpec> = self.0.into_values().collect();
        moulds.sort_by(|a, b| (&a.name, &a.maker).cmp(&(&b.name, &b.maker)));
        moulds
    }
}

/// How many discs of each mould there are.
pub struct Counts(HashMap<(String, String), usize>);

impl Counts {
    /// Of some discs.
    pub fn of(discs: &[Disc]) -> Counts {
        let mut counts = HashMap::new();
        for disc in discs {
            *counts.entry(key(&disc.spec.maker, &disc.spec.mould)).or_default() += 1;
        }
        Counts(counts)
    }

    /// Of a mould.
    pub fn of_mould(&self, mould: &MouldSpec) -> usize {
        self.0.get(&key(&mould.maker, &mould.name)).copied().unwrap_or(0)
    }
}

/// What tells moulds apart.
fn key(maker: &str, name: &str) -> (String, String) {
    (folded(maker), folded(name))
}

/// Writes the moulds of discs down, those that are not known.
pub(super) fn learn<'a>(
    connection: &Connection,
    discs: impl IntoIterator<Item = &'a DiscSpec>,
) -> Result<(), StoreError> {
    let mut known: HashSet<(String, String)> =
        all(connection)?.iter().map(|m| key(&m.spec.maker, &m.spec.name)).collect();
    for disc in discs {
        if known.insert(key(&disc.maker, &disc.mould)) {
            connection.execute("INSERT INTO mould (spec) VALUES (?1)", [to_json(&MouldSpec::of(disc))])?;
        }
    }
    room_for(connection, "mould", COUNT, MOST_MOULDS)
}

/// Adds a mould.
pub(super) fn insert(connection: &Connection, spec: &MouldSpec) -> Result<MouldId, StoreError> {
    let spec = trimmed(spec);
    free(connection, &spec, None)?;
    connection.execute("INSERT INTO mould (spec) VALUES (?1)", [to_json(&spec)])?;
    let id = MouldId(connection.last_insert_rowid());
    room_for(connection, "mould", COUNT, MOST_MOULDS)?;
    Ok(id)
}

/// Refuses a mould whose name another mould of the maker has.
fn free(connection: &Connection, spec: &MouldSpec, own: Option<MouldId>) -> Result<(), StoreError> {
    let taken =
        |m: &Mould| Some(m.id) != own && key(&m.spec.maker, &m.spec.name) == key(&spec.maker, &spec.name);
    if all(connection)?.iter().any(taken) {
        return Err(StoreError::NameTaken { what: "mould of this maker", name: spec.name.trim().to_owned() });
    }
    Ok(())
}

fn trimmed(spec: &MouldSpec) -> MouldSpec {
    MouldSpec { name: spec.name.trim().into(), maker: spec.maker.trim().into(), ..spec.clone() }
}

impl Store {
    /// Every mould, slow to fast.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn moulds(&self) -> Result<Vec<Mould>, StoreError> {
        let mut moulds = all(&self.connection)?;
        moulds.sort_by(|a, b| {
            a.spec.printed.speed.total_cmp(&b.spec.printed.speed).then_with(|| a.spec.name.cmp(&b.spec.name))
        });
        Ok(moulds)
    }

    /// The moulds, to be looked up by their discs.
    ///
    /// # Errors
    /// As of [`Store::moulds`].
    pub fn library(&self) -> Result<Library, StoreError> {
        let moulds = all(&self.connection)?.into_iter();
        Ok(Library(moulds.map(|m| (key(&m.spec.maker, &m.spec.name), m.spec)).collect()))
    }

    /// One mould.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none or it is deleted.
    pub fn mould(&self, id: MouldId) -> Result<Mould, StoreError> {
        all(&self.connection)?.into_iter().find(|m| m.id == id).ok_or_else(|| not_found(id))
    }

    /// Adds a mould.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] if its maker has one of that name.
    pub fn add_mould(&mut self, spec: &MouldSpec) -> Result<MouldId, StoreError> {
        self.change(|connection| {
            let id = insert(connection, spec)?;
            Ok((id, format!("{} is in the library", spec.name.trim())))
        })
    }

    /// Replaces what is known of a mould. Its discs take its name and maker; what stands on them stays.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] or [`StoreError::NameTaken`].
    pub fn save_mould(&mut self, id: MouldId, spec: &MouldSpec) -> Result<(), StoreError> {
        let (old, spec) = (self.mould(id)?.spec, trimmed(spec));
        let discs = self.discs()?;
        let was = key(&old.maker, &old.name);
        self.change(|connection| {
            free(connection, &spec, Some(id))?;
            connection.execute("UPDATE mould SET spec = ?2 WHERE id = ?1", (id.0, to_json(&spec)))?;
            for disc in discs.iter().filter(|d| key(&d.spec.maker, &d.spec.mould) == was) {
                connection.execute(
                    "UPDATE disc SET maker = ?2, mould = ?3 WHERE id = ?1",
                    (disc.id.0, &spec.maker, &spec.name),
                )?;
            }
            Ok(((), format!("{} is saved", spec.name)))
        })
    }

    /// Writes several moulds down as one step: one that is known is replaced, any other added. Returns how many there were.
    ///
    /// # Errors
    /// [`StoreError::TooMany`]; then none is written.
    pub fn import_moulds(&mut self, specs: &[MouldSpec]) -> Result<usize, StoreError> {
        self.change(|connection| {
            let known: HashMap<(String, String), MouldId> =
                all(connection)?.iter().map(|m| (key(&m.spec.maker, &m.spec.name), m.id)).collect();
            for spec in specs.iter().map(trimmed) {
                match known.get(&key(&spec.maker, &spec.name)) {
                    Some(id) => connection
                        .execute("UPDATE mould SET spec = ?2 WHERE id = ?1", (id.0, to_json(&spec)))?,
                    None => connection.execute("INSERT INTO mould (spec) VALUES (?1)", [to_json(&spec)])?,
                };
            }
            room_for(connection, "mould", COUNT, MOST_MOULDS)?;
            Ok((specs.len(), format!("{} imported", counted(specs.len(), "mould"))))
        })
    }

    /// Deletes a mould of which there are no discs.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or [`StoreError::MouldInUse`] while there are.
    pub fn delete_mould(&mut self, id: MouldId) -> Result<(), StoreError> {
        let spec = self.mould(id)?.spec;
        let discs = Counts::of(&self.discs()?).of_mould(&spec);
        if discs > 0 {
            return Err(StoreError::MouldInUse { name: spec.name, discs: counted(discs, "disc") });
        }
        self.change(|connection| {
            connection.execute("UPDATE mould SET deleted = 1 WHERE id = ?1", [id.0])?;
            Ok(((), format!("{} is deleted", spec.name)))
        })
    }
}

fn not_found(id: MouldId) -> StoreError {
    StoreError::NotFound { what: "mould", id: id.0.to_string() }
}
