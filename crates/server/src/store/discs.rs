//! Discs. A deleted disc is kept, out of sight, so that deleting can be undone.

use std::collections::HashSet;

use rusqlite::{Row, named_params};
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers};
use zinc_kite_bag::disc::wear::Wear;

use super::{Store, StoreError, counted, folded, free_name, from_text, is_duplicate, room_for, to_text};

fn disc_of(r: &Row) -> Result<Disc, StoreError> {
    let observed = match r.get::<_, Option<f64>>("observed_speed")? {
        None => None,
        Some(speed) => Some(Numbers {
            speed,
            glide: r.get("observed_glide")?,
            turn: r.get("observed_turn")?,
            fade: r.get("observed_fade")?,
        }),
    };
    Ok(Disc {
        id: DiscId(r.get("id")?),
        spec: DiscSpec {
            name: r.get("name")?,
            maker: r.get("maker")?,
            mould: r.get("mould")?,
            plastic: from_text("plastic", r.get("plastic")?)?,
            mass_g: r.get("mass_g")?,
            reference_mass_g: r.get("reference_mass_g")?,
            printed: Numbers {
                speed: r.get("speed")?,
                glide: r.get("glide")?,
                turn: r.get("turn")?,
                fade: r.get("fade")?,
            },
            observed,
            top: from_text("top", r.get("top")?)?,
            wear: Wear {
                grade: from_text("grade", r.get("grade")?)?,
                throws: r.get("throws")?,
                hard_hits: r.get("hard_hits")?,
            },
            used_for: from_text("used_for", r.get("used_for")?)?,
            rim_cm: r.get("rim_cm")?,
            colour: r.get("colour")?,
            notes: r.get("notes")?,
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
    colour = :colour, notes = :notes";

fn write(connection: &rusqlite::Connection, sql: &str, s: &DiscSpec) -> Result<usize, StoreError> {
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
        let mut statement =
            self.connection.prepare_cached("SELECT * FROM disc WHERE deleted = 0 ORDER BY speed, name")?;
        let mut rows = statement.query([])?;
        let mut discs = Vec::new();
        while let Some(row) = rows.next()? {
            discs.push(disc_of(row)?);
        }
        Ok(discs)
    }

    /// One disc.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if there is none or it is deleted.
    pub fn disc(&self, id: DiscId) -> Result<Disc, StoreError> {
        let mut statement =
            self.connection.prepare_cached("SELECT * FROM disc WHERE id = ?1 AND deleted = 0")?;
        let mut rows = statement.query([id.0])?;
        match rows.next()? {
            Some(row) => disc_of(row),
            None => Err(not_found(id)),
        }
    }

    /// Adds a disc.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] if its name is in use.
    pub fn add_disc(&mut self, spec: &DiscSpec) -> Result<DiscId, StoreError> {
        self.change(|connection| {
            free_name(connection, "disc", NAMES, &spec.name, None)?;
            write(connection, &insert_sql(), spec)?;
            room_for(connection, "disc", COUNT, MOST_DISCS)?;
            Ok((DiscId(connection.last_insert_rowid()), format!("{} is on the shelf", spec.name.trim())))
        })
    }

    /// Adds several discs, all or none. Returns their identities in the order given.
    ///
    /// # Errors
    /// [`StoreError::NameTaken`] for the first whose name is in use; then none is added.
    pub fn add_discs(&mut self, specs: &[DiscSpec]) -> Result<Vec<DiscId>, StoreError> {
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
                write(connection, &insert_sql(), spec)?;
                ids.push(DiscId(connection.last_insert_rowid()));
            }
            room_for(connection, "disc", COUNT, MOST_DISCS)?;
            Ok((ids, format!("{} are imported", counted(specs.len(), "disc"))))
        })
    }

    /// Replaces what is known of a disc.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] or [`StoreError::NameTaken`].
    pub fn save_disc(&mut self, id: DiscId, spec: &DiscSpec) -> Result<(), StoreError> {
        let sql = format!("UPDATE disc SET {COLUMNS} WHERE id = {} AND deleted = 0", id.0);
        self.change(|connection| {
            free_name(connection, "disc", NAMES, &spec.name, Some(id.0))?;
            match write(connection, &sql, spec)? {
                0 => Err(not_found(id)),
                _ => Ok(((), format!("{} is saved", spec.name.trim()))),
            }
        })
    }

    /// Deletes a disc; out of sight it keeps its places in bags, for undoing.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn delete_disc(&mut self, id: DiscId) -> Result<(), StoreError> {
        let name = self.disc(id)?.spec.name;
        self.change(|connection| {
            connection.execute("UPDATE disc SET deleted = 1 WHERE id = ?1", [id.0])?;
            Ok(((), format!("{name} is deleted")))
        })
    }
}

fn not_found(id: DiscId) -> StoreError {
    StoreError::NotFound { what: "disc", id: id.0.to_string() }
}
