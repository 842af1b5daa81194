//! What the player has decided about lines: settings for generated ones, and lines of their own.
//!
//! Generated lines are not stored: they follow the player's distances. A player's own line may replace a generated one.

use rusqlite::{Connection, OptionalExtension};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::need::line::{Line, LineSpec};

use super::records::{LineSettingRecord, OwnLineRecord};
use super::{Store, StoreError, from_json, room_for, to_json};

/// Whether a line counts, and how much.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LineSetting {
    /// Whether it counts.
    pub enabled: bool,
    /// How often it comes up, 0.1 to 10; absent for the template's own.
    #[serde(default)]
    #[schema(minimum = 0.1, maximum = 10.0)]
    pub weight: Option<f64>,
}

/// Most lines of the player's own.
const MOST_LINES: usize = 200;
const COUNT: &str = "SELECT count(*) FROM own_line WHERE deleted = 0";

const OWN: &str = "own-";

/// Identity of a player's own line that replaces nothing.
fn own_id(key: &str) -> Option<i64> {
    key.strip_prefix(OWN)?.parse().ok()
}

struct OwnLine {
    id: i64,
    replaces: Option<String>,
    enabled: bool,
    spec: LineSpec,
}

impl Store {
    fn own_lines(&self) -> Result<Vec<OwnLine>, StoreError> {
        let mut statement = self.connection.prepare_cached(
            "SELECT id, replaces, enabled, spec FROM own_line WHERE deleted = 0 ORDER BY id",
        )?;
        let mut rows = statement.query([])?;
        let mut lines = Vec::new();
        while let Some(r) = rows.next()? {
            let text: String = r.get("spec")?;
            let spec = from_json("spec", text)?;
            lines.push(OwnLine {
                id: r.get("id")?,
                replaces: r.get("replaces")?,
                enabled: r.get("enabled")?,
                spec,
            });
        }
        Ok(lines)
    }

    /// The `generated` lines with the player's settings and replacements, then the player's own.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn lines(&self, generated: Vec<Line>) -> Result<Vec<Line>, StoreError> {
        let mut own = self.own_lines()?;
        let mut lines = Vec::new();
        for mut line in generated {
            if let Some(k) = own.iter().position(|o| o.replaces.as_ref() == Some(&line.key)) {
                let o = own.remove(k);
                lines.push(Line { generated: false, enabled: o.enabled, spec: o.spec, ..line });
                continue;
            }
            let setting: Option<(bool, Option<f64>)> = self
                .connection
                .prepare_cached("SELECT enabled, weight FROM line_setting WHERE key = ?1")?
                .query_row([&line.key], |r| Ok((r.get("enabled")?, r.get("weight")?)))
                .optional()?;
            if let Some((enabled, weight)) = setting {
                line.enabled = enabled;
                line.spec.weight = weight.unwrap_or(line.spec.weight);
            }
            lines.push(line);
        }
        // A replaced template can vanish when the player changes school; the replacement stays as an own line.
        lines.extend(own.into_iter().map(|o| Line {
            key: key_of(&o),
            generated: false,
            enabled: o.enabled,
            spared: false,
            spec: o.spec,
        }));
        Ok(lines)
    }

    /// Switches a line on or off and weighs it.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn set_line(&mut self, key: &str, setting: LineSetting) -> Result<(), StoreError> {
        let own = self.own_lines()?.into_iter().find(|o| key_of(o) == key);
        let name = own.as_ref().map_or_else(|| key.replace('-', " "), |own| own.spec.name.clone());
        let words = format!("{name} is switched {}", if setting.enabled { "on" } else { "off" });
        self.change(|connection| {
            match own {
                Some(mut own) => {
                    own.spec.weight = setting.weight.unwrap_or(own.spec.weight);
                    connection.execute(
                        "UPDATE own_line SET enabled = ?2, spec = ?3 WHERE id = ?1",
                        (own.id, setting.enabled, to_json(&own.spec)),
                    )?;
                }
                None => set(connection, key, setting)?,
            }
            Ok(((), words))
        })
    }

    /// What the player decided about lines that are made for them.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub(super) fn line_settings(&self) -> Result<Vec<LineSettingRecord>, StoreError> {
        let mut statement =
            self.connection.prepare_cached("SELECT key, enabled, weight FROM line_setting ORDER BY key")?;
        let setting = statement.query_map([], |r| {
            let setting = LineSetting { enabled: r.get("enabled")?, weight: r.get("weight")? };
            Ok(LineSettingRecord { key: r.get("key")?, setting })
        })?;
        Ok(setting.collect::<Result<_, _>>()?)
    }

    /// Lines of the player's own, the first made first.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub(super) fn own_line_records(&self) -> Result<Vec<OwnLineRecord>, StoreError> {
        let record = |o: OwnLine| OwnLineRecord { replaces: o.replaces, enabled: o.enabled, spec: o.spec };
        Ok(self.own_lines()?.into_iter().map(record).collect())
    }

    /// Adds a line of the player's own; returns its key.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn add_line(&mut self, spec: &LineSpec) -> Result<String, StoreError> {
        self.change(|connection| {
            connection.execute("INSERT INTO own_line (spec) VALUES (?1)", [to_json(spec)])?;
            room_for(connection, "line of your own", COUNT, MOST_LINES)?;
            Ok((format!("{OWN}{}", connection.last_insert_rowid()), format!("{} is added", spec.name)))
        })
    }

    /// Saves a line: an own line in place, a generated one as a replacement.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] for an own line that is not there.
    pub fn save_line(&mut self, key: &str, spec: &LineSpec) -> Result<(), StoreError> {
        self.change(|connection| {
            let changed = match own_id(key) {
                Some(id) => connection.execute(
                    "UPDATE own_line SET spec = ?2 WHERE id = ?1 AND deleted = 0",
                    (id, to_json(spec)),
                )?,
                None => connection.execute(
                    "INSERT INTO own_line (replaces, spec) VALUES (?1, ?2)
                     ON CONFLICT (replaces) DO UPDATE SET spec = excluded.spec, deleted = 0",
                    (key, to_json(spec)),
                )?,
            };
            if changed == 0 { Err(not_found(key)) } else { Ok(((), format!("{} is saved", spec.name))) }
        })
    }

    /// Deletes an own line, or goes back from a replacement to the generated line.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] if the player has no such line.
    pub fn delete_line(&mut self, key: &str) -> Result<(), StoreError> {
        self.change(|connection| {
            let mut statement = connection.prepare_cached(
                "UPDATE own_line SET deleted = 1
                 WHERE (id = ?1 AND replaces IS NULL OR replaces = ?2) AND deleted = 0
                 RETURNING json_extract(spec, '$.name')",
            )?;
            let name: Option<String> = statement.query_row((own_id(key), key), |r| r.get(0)).optional()?;
            let name = name.ok_or_else(|| not_found(key))?;
            Ok(((), format!("{name} is {}", if own_id(key).is_some() { "deleted" } else { "as it came" })))
        })
    }
}

/// Writes a setting of a line that is made for the player.
pub(super) fn set(connection: &Connection, key: &str, setting: LineSetting) -> Result<(), StoreError> {
    connection.execute(
        "INSERT INTO line_setting (key, enabled, weight) VALUES (?1, ?2, ?3)
         ON CONFLICT (key) DO UPDATE SET enabled = excluded.enabled, weight = excluded.weight",
        (key, setting.enabled, setting.weight),
    )?;
    Ok(())
}

/// Adds a line of the player's own.
pub(super) fn insert(connection: &Connection, line: &OwnLineRecord) -> Result<(), StoreError> {
    connection.execute(
        "INSERT INTO own_line (replaces, enabled, spec) VALUES (?1, ?2, ?3)",
        (&line.replaces, line.enabled, to_json(&line.spec)),
    )?;
    room_for(connection, "line of your own", COUNT, MOST_LINES)
}

fn key_of(own: &OwnLine) -> String {
    own.replaces.clone().unwrap_or_else(|| format!("{OWN}{}", own.id))
}

fn not_found(key: &str) -> StoreError {
    StoreError::NotFound { what: "line of your own", id: key.to_owned() }
}
