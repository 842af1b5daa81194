//! The one player of a database.

use rusqlite::{Connection, OptionalExtension, named_params};
use zinc_kite_bag::thrower::player::Player;

use super::{Store, StoreError, from_json, from_text, to_json, to_text};

impl Store {
    /// The player, if one has been saved.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn player(&self) -> Result<Option<Player>, StoreError> {
        let row = self
            .connection
            .query_row("SELECT * FROM player", [], |r| {
                let texts: [String; 5] = [
                    r.get("hand")?,
                    r.get("strong_style")?,
                    r.get("skill")?,
                    r.get("units")?,
                    r.get("school")?,
                ];
                let numbers: [f64; 4] = [
                    r.get("backhand_m")?,
                    r.get("forehand_m")?,
                    r.get("altitude_m")?,
                    r.get("temperature_c")?,
                ];
                let lists: [String; 4] =
                    [r.get("scatter")?, r.get("evidence")?, r.get("season")?, r.get("habits")?];
                Ok((r.get::<_, String>("name")?, texts, numbers, r.get("overhand_m")?, lists))
            })
            .optional()?;
        let Some((
            name,
            [hand, style, skill, units, school],
            numbers,
            overhand_m,
            [scatter, evidence, season, habits],
        )) = row
        else {
            return Ok(None);
        };
        let [backhand_m, forehand_m, altitude_m, temperature_c] = numbers;
        Ok(Some(Player {
            name,
            hand: from_text("hand", hand)?,
            strong_style: from_text("strong_style", style)?,
            backhand_m,
            forehand_m,
            overhand_m,
            skill: from_text("skill", skill)?,
            scatter: from_json("scatter", scatter)?,
            evidence: from_json("evidence", evidence)?,
            units: from_text("units", units)?,
            school: from_text("school", school)?,
            altitude_m,
            temperature_c,
            season: from_json("season", season)?,
            habits: from_json("habits", habits)?,
        }))
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
