//! Discs. A deleted disc is kept, out of sight, so that deleting can be undone.

use std::collections::HashSet;

use rusqlite::{Connection, Row, named_params};
use zinc_kite_bag::disc::change::DiscChange;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers};
use zinc_kite_bag::disc::wear::Wear;

use super::bags::{carry_in, leave_bags};
use super::moulds::learn;
use super::{
    BagId, Store, StoreError, counted, folded, free_name, from_json, from_text, is_duplicate, room_for,
    to_json, to_text,
};

/// A disc's columns in the order in which [`disc_of`] takes them: by place, since looking names up took most of the time of reading
/// a shelf of thousands.
pub(super) const READ: &str = "SELECT id, name, maker, mould, plastic, mass_g, reference_mass_g, speed, glide, turn, fade,
    observed_speed, observed_glide, observed_turn, observed_fade, top, grade, throws, hard_hits, used_for, rim_cm, colour,
    notes, class, keeping FROM disc WHERE deleted = 0";

pub(super) fn disc_of(r: &Row) -> Result<Disc, StoreError> {
    let numbers = |first: usize| -> rusqlite::Result<Numbers> {
        Ok(Numbers {
            speed: r.get(first)?,
            glide: r.get(first + 1)?,
            turn: r.get(first + 2)?,
            fade: r.get(first + 3)?,
        })
    };
    let observed = match r.get::<_, Option<f64>>(11)? {
        None => None,
        Some(_) => Some(numbers(11)?),
    };
    Ok(Disc {
        id: DiscId(r.get(0)?),
        spec: DiscSpec {
            name: r.get(1)?,
            maker: r.get(2)?,
            mould: r.get(3)?,
            plastic: from_text("plastic", r.get(4)?)?,
            mass_g: r.get(5)?,
            reference_mass_g: r.get(6)?,
            printed: numbers(7)?,
            observed,
            top: from_text("top", r.get(15)?)?,
            wear: Wear { grade: from_text("grade", r.get(16)?)?, throws: r.get(17)?, hard_hits: r.get(18)? },
            used_for: from_text("used_for", r.get(19)?)?,
            rim_cm: r.get(20)?,
            colour: r.get(21)?,
            notes: r.get(22)?,
            class: r.get::<_, Option<String>>(23)?.map(|text| from_text("class", text)).transpose()?,
            keeping: from_json("keeping", r.get(24)?)?,
        },
    })
}

/// Most discs kept on a shelf.
pub const MOST_DISCS: usize = 5000;
const NAMES: &str = "SELECT id, name FROM disc WHERE deleted = 0";
const COUNT: &str = "SELECT count(*) FROM disc WHERE deleted = 0";

const COLUMNS: &str = "name = :name, maker = :maker, mould = :mould, plastic = :plastic,
    mass_g = :mass_g, reference_mass_g = :reference_mass_g, speed = :speed, glide = :glide,
    turn = :turn, fade = :fade, observed_speed = :observed_speed, observed_glide = :observed_glide,
    observed_turn = :observed_turn, observed_fade = :observed_fade, top = :top, grade = :grade,
    throws = :throws, hard_hits = :hard_hits, used_for = :used_for, rim_cm = :rim_cm,
    colour = :colour, notes = :notes, class = :class, keeping = :keeping";

fn write(connection: &Connection, sql: &str, s: &DiscSpec) -> Result<usize, StoreError> {
    let (p, o) = (&s.printed, &s.observed);
    let written = connection.execute(
        sql,
        named_params! {
            ":name": s.name.trim(), ":maker": s.maker.trim(), ":mould": s.mould.trim(),
            ":plastic": to_text(&s.plastic), ":mass_g": s.mass_g,
            ":reference_mass_g": s.reference_mass_g,
            ":speed": p.speed, ":glide": p.glide, ":turn": p.turn, ":fade": p.fade,
            ":observed_speed": o.map(|n| n.speed), ":observed_glide": o.map(|n| n.glide),
            ":observed_turn": o.map(|n| n.turn), ":observed_fade": o.map(|n| n.fade),
            ":top": to_text(&s.top), ":grade": to_text(&s.wear.grade), ":throws": s.wear.throws,
            ":hard_hits": s.wear.hard_hits, ":used_for": to_text(&s.used_for),
            ":rim_cm": s.rim_cm, ":colour": s.colour.to_lowercase(), ":notes": s.notes.trim(),
            ":class": s.class.as_ref().map(to_text), ":keeping": to_json(&s.keeping),
        },
    );
    written.map_err(|e| {
        if is_duplicate(&e) {
            StoreError::NameTaken { what: "disc", name: s.name.trim().to_owned() }
        } else {
            e.into()
        }
    })
}

fn insert_sql() -> String {
    let names: Vec<&str> = COLUMNS.split(',').filter_map(|c| c.split('=').next()).map(str::trim).collect();
    let values: Vec<String> = names.iter().map(|n| format!(":{n}")).collect();
    format!("INSERT INTO disc ({}) VALUES ({})", names.join(", "), values.join(", "))
}

impl Store {
    /// Every disc that is not deleted, slow to fast.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn discs(&self) -> Result<Vec<Disc>, StoreError> {
        if let Some(known) = self.discs.borrow().as_ref() {
            return Ok(known.clone());
        }
        let mut statement = self.connection.prepare_cached(&format!("{READ} ORDER BY speed, name"))?;
        let mut rows = statement.query([])?;
        let mut discs = Vec::new();
        while let Some(row) = rows.next()? {
            discs.push(disc_of(row)?);
        }
        *self.discs.borrow_mut() = Some(discs.clone());
        Ok(discs)
    }

    /// One disc.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none or it is deleted.
    pub fn disc(&self, id: DiscId) -> Result<Disc, StoreError> {
        read(&self.connection, id)?.ok_or_else(|| not_found(id))
    }

    /// Adds a disc.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] if its name is in use.
    pub fn add_disc(&mut self, spec: &DiscSpec) -> Result<DiscId, StoreError> {
        let today = self.today()?;
        self.change(|connection| {
            free_name(connection, "disc", NAMES, &spec.name, None)?;
            let id = insert(connection, &spec.clone().marked(None, today))?;
            learn(connection, [spec])?;
            room(connection)?;
            Ok((id, format!("{} is on the shelf", spec.name.trim())))
        })
    }

    /// Adds several discs, all or none, and puts them into a bag if one is named. `how` they came is said in the record. Returns
    /// their identities in the order given.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] for the first whose name is in use, or [`StoreError::NotFound`] for the bag; then none is added.
    pub fn add_discs(
        &mut self,
        specs: &[DiscSpec],
        bag: Option<BagId>,
        how: &str,
    ) -> Result<Vec<DiscId>, StoreError> {
        let today = self.today()?;
        self.change(|connection| {
            let mut ids = Vec::with_capacity(specs.len());
            let mut names: HashSet<String> = HashSet::new();
            let mut statement = connection.prepare_cached(NAMES)?;
            for name in statement.query_map([], |r| r.get::<_, String>(1))? {
                names.insert(folded(&name?));
            }
            for spec in specs {
                if !names.insert(folded(&spec.name)) {
                    return Err(StoreError::NameTaken { what: "disc", name: spec.name.trim().to_owned() });
                }
                ids.push(insert(connection, &spec.clone().marked(None, today))?);
            }
            learn(connection, specs)?;
            room(connection)?;
            if let Some(bag) = bag {
                carry_in(connection, bag, &ids)?;
            }
            Ok((ids, format!("{} {how}", subject(specs))))
        })
    }

    /// Replaces what is known of a disc, and marks the day if its wear or its numbers changed. One that is no longer at hand leaves
    /// every bag.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] or [`StoreError::NameTaken`].
    pub fn save_disc(&mut self, id: DiscId, spec: &DiscSpec) -> Result<(), StoreError> {
        let (before, today) = (self.disc(id)?.spec, self.today()?);
        self.change(|connection| {
            replace(connection, id, &spec.clone().marked(Some(&before), today))?;
            learn(connection, [spec])?;
            Ok(((), format!("{} is saved", spec.name.trim())))
        })
    }

    /// Changes the same of several discs, all or none, and marks the day as [`Store::save_disc`] does.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for the first that is not there; then none is changed.
    pub fn change_discs(&mut self, ids: &[DiscId], change: &DiscChange) -> Result<(), StoreError> {
        let discs = ids.iter().map(|id| self.disc(*id)).collect::<Result<Vec<_>, _>>()?;
        let today = self.today()?;
        self.change(|connection| {
            for disc in &discs {
                let changed = change.applied(&disc.spec).marked(Some(&disc.spec), today);
                replace(connection, disc.id, &changed)?;
            }
            let specs: Vec<DiscSpec> = discs.into_iter().map(|d| d.spec).collect();
            Ok(((), format!("{} changed", subject(&specs))))
        })
    }

    /// Deletes several discs, all or none.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for the first that is not there; then none is deleted.
    pub fn delete_discs(&mut self, ids: &[DiscId]) -> Result<(), StoreError> {
        let specs = ids.iter().map(|id| Ok(self.disc(*id)?.spec)).collect::<Result<Vec<_>, StoreError>>()?;
        self.change(|connection| {
            for id in ids {
                connection.execute("UPDATE disc SET deleted = 1 WHERE id = ?1", [id.0])?;
            }
            Ok(((), format!("{} deleted", subject(&specs))))
        })
    }

    /// Deletes a disc; out of sight it keeps its places in bags, for undoing.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn delete_disc(&mut self, id: DiscId) -> Result<(), StoreError> {
        self.delete_discs(&[id])
    }
}

/// Adds a disc; whether its name is free is for who asks.
pub(super) fn insert(connection: &Connection, spec: &DiscSpec) -> Result<DiscId, StoreError> {
    write(connection, &insert_sql(), spec)?;
    Ok(DiscId(connection.last_insert_rowid()))
}

/// Replaces what is known of a disc; one that is no longer at hand leaves every bag.
pub(super) fn replace(connection: &Connection, id: DiscId, spec: &DiscSpec) -> Result<(), StoreError> {
    free_name(connection, "disc", NAMES, &spec.name, Some(id.0))?;
    let sql = format!("UPDATE disc SET {COLUMNS} WHERE id = {} AND deleted = 0", id.0);
    if write(connection, &sql, spec)? == 0 {
        return Err(not_found(id));
    }
    if spec.keeping.status.is_at_hand() { Ok(()) } else { leave_bags(connection, id) }
}

/// Changes a disc as it stands within a step; one that is not there stays away.
pub(super) fn alter(
    connection: &Connection,
    id: DiscId,
    change: impl FnOnce(&mut DiscSpec),
) -> Result<(), StoreError> {
    let Some(Disc { mut spec, .. }) = read(connection, id)? else { return Ok(()) };
    change(&mut spec);
    replace(connection, id, &spec)
}

fn read(connection: &Connection, id: DiscId) -> Result<Option<Disc>, StoreError> {
    let mut statement = connection.prepare_cached(&format!("{READ} AND id = ?1"))?;
    let mut rows = statement.query([id.0])?;
    rows.next()?.map(disc_of).transpose()
}

/// Refuses more discs than are kept.
pub(super) fn room(connection: &Connection) -> Result<(), StoreError> {
    room_for(connection, "disc", COUNT, MOST_DISCS)
}

/// Discs by name as far as that is short, else counted, with the verb that what becomes of them goes on from.
fn subject(discs: &[DiscSpec]) -> String {
    match discs {
        [one] => format!("{} is", one.name.trim()),
        [one, two] => format!("{} and {} are", one.name.trim(), two.name.trim()),
        more => format!("{} are", counted(more.len(), "disc")),
    }
}

fn not_found(id: DiscId) -> StoreError {
    StoreError::NotFound { what: "disc", id: id.0.to_string() }
}
