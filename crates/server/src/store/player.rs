//! The one player of a database.

use rusqlite::{Connection, Row, named_params};
use zinc_kite_bag::thrower::player::Player;

use super::{Store, StoreError, from_json, from_text, is_no_row, to_json, to_text};

/// The player's columns, for [`player_of`].
pub(super) const READ: &str = "SELECT * FROM player";

pub(super) fn player_of(r: &Row) -> Result<Player, StoreError> {
    Ok(Player {
        name: r.get("name")?,
        hand: from_text("hand", r.get("hand")?)?,
        strong_style: from_text("strong_style", r.get("strong_style")?)?,
        backhand_m: r.get("backhand_m")?,
        forehand_m: r.get("forehand_m")?,
        overhand_m: r.get("overhand_m")?,
        skill: from_text("skill", r.get("skill")?)?,
        scatter: from_json("scatter", r.get("scatter")?)?,
        evidence: from_json("evidence", r.get("evidence")?)?,
        units: from_text("units", r.get("units")?)?,
        school: from_text("school", r.get("school")?)?,
        altitude_m: r.get("altitude_m")?,
        temperature_c: r.get("temperature_c")?,
        season: from_json("season", r.get("season")?)?,
        habits: from_json("habits", r.get("habits")?)?,
    })
}

impl Store {
    /// The player, if one has been saved.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn player(&self) -> Result<Option<Player>, StoreError> {
        match self.connection.query_row_and_then(READ, [], player_of) {
            Err(e) if is_no_row(&e) => Ok(None),
            read => read.map(Some),
        }
    }

    /// Saves the player.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails.
    pub fn save_player(&mut self, player: &Player) -> Result<(), StoreError> {
        self.change(|connection| {
            write(connection, player)?;
            Ok(((), "The player is saved".into()))
        })
    }
}

/// Writes the player down, in the place of any before.
pub(super) fn write(connection: &Connection, player: &Player) -> Result<(), StoreError> {
    connection.execute(
                "INSERT OR REPLACE INTO player (id, name, hand, strong_style, backhand_m, forehand_m, overhand_m,
                     skill, scatter, evidence, season, habits, units, school, altitude_m, temperature_c)
                 VALUES (1, :name, :hand, :strong_style, :backhand_m, :forehand_m, :overhand_m,
                     :skill, :scatter, :evidence, :season, :habits, :units, :school, :altitude_m, :temperature_c)",
                named_params! {
                    ":name": player.name,
                    ":hand": to_text(&player.hand),
                    ":strong_style": to_text(&player.strong_style),
                    ":backhand_m": player.backhand_m,
                    ":forehand_m": player.forehand_m,
                    ":overhand_m": player.overhand_m,
                    ":scatter": to_json(&player.scatter),
                    ":evidence": to_json(&player.evidence),
                    ":season": to_json(&player.season),
                    ":habits": to_json(&player.habits),
                    ":skill": to_text(&player.skill),
                    ":units": to_text(&player.units),
                    ":school": to_text(&player.school),
                    ":altitude_m": player.altitude_m,
                    ":temperature_c": player.temperature_c,
                },
            )?;
    Ok(())
}
