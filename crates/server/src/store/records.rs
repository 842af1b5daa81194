//! Everything a player has written down, as one value: taken out whole, and put in the place of all there is.

use std::collections::HashMap;

use rusqlite::Connection;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::course::hole::CourseSpec;
use zinc_kite_bag::disc::mould::MouldSpec;
use zinc_kite_bag::disc::spec::{DiscId, DiscSpec};
use zinc_kite_bag::need::line::LineSpec;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};

use super::copies::Holds;
use super::field::{KeptSession, KeptThrow, SessionEntry};
use super::rounds::Round;
use super::{
    LineSetting, Store, StoreError, bags, counted, courses, discs, field, folded, lines, moulds, player,
    rounds,
};

/// A disc in a bag, by its name.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CarriedByName {
    /// The disc.
    pub disc: String,
    /// Whether it is a twin on purpose.
    #[serde(default)]
    pub spare: bool,
}

/// A bag and what is in it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BagRecord {
    /// Name, size, cap.
    #[serde(flatten)]
    pub spec: BagSpec,
    /// What is in it.
    #[serde(default)]
    pub carried: Vec<CarriedByName>,
}

/// What the player decided about a line that is made for them.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LineSettingRecord {
    /// Which.
    pub key: String,
    /// What.
    #[serde(flatten)]
    pub setting: LineSetting,
}

/// A line of the player's own.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct OwnLineRecord {
    /// The line made for the player that it stands in for, if it does.
    #[serde(default)]
    pub replaces: Option<String>,
    /// Whether it counts.
    pub enabled: bool,
    /// The line.
    #[serde(flatten)]
    pub spec: LineSpec,
}

/// Everything but the record of changes.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Records {
    /// The player, if one was saved.
    #[serde(default)]
    pub player: Option<Player>,
    /// The shelf.
    pub discs: Vec<DiscSpec>,
    /// The library of moulds.
    #[serde(default)]
    pub moulds: Vec<MouldSpec>,
    /// The bags, one at least.
    #[schema(min_items = 1)]
    pub bags: Vec<BagRecord>,
    /// Settings of lines that are made for the player.
    #[serde(default)]
    pub line_settings: Vec<LineSettingRecord>,
    /// Lines of the player's own.
    #[serde(default)]
    pub own_lines: Vec<OwnLineRecord>,
    /// Courses with their holes.
    #[serde(default)]
    pub courses: Vec<CourseSpec>,
    /// Rounds that were played; their discs go by their names.
    #[serde(default)]
    pub rounds: Vec<Round>,
    /// Sessions in the field with their throws; their discs go by their names.
    #[serde(default)]
    pub sessions: Vec<SessionRecord>,
}

/// A session in the field with its throws.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct SessionRecord {
    /// The session.
    #[serde(flatten)]
    pub session: KeptSession,
    /// Its throws, in the order in which they were made.
    #[serde(default)]
    pub throws: Vec<KeptThrow>,
}

impl Records {
    /// What they hold.
    pub fn holds(&self) -> Holds {
        let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
        Holds {
            player: self.player.as_ref().map_or_else(String::new, |p| p.name.clone()),
            discs: count(self.discs.len()),
            bags: count(self.bags.len()),
            own_lines: count(self.own_lines.len()),
            changed_at: None,
        }
    }
}

/// Tables whose rows are replaced, those that name others first.
const EMPTIED: [&str; 11] = [
    "bag_disc",
    "bag",
    "disc",
    "mould",
    "own_line",
    "line_setting",
    "course",
    "round",
    "throw",
    "field_session",
    "player",
];

impl Store {
    /// Everything, as it stands.
    ///
    /// # Errors
    /// [`StoreError`] if the database fails or holds what it should not.
    pub fn records(&self) -> Result<Records, StoreError> {
        let mut records = self.records_but_sessions()?;
        self.each_session(|session| records.sessions.push(session))?;
        Ok(records)
    }

    /// The name that a disc has now, if it is still there; bags have other numbers elsewhere.
    fn names_now(&self) -> Result<HashMap<DiscId, String>, StoreError> {
        Ok(self.discs()?.into_iter().map(|d| (d.id, d.spec.name)).collect())
    }

    /// Sessions with their throws, one after the other: all together they may be many.
    ///
    /// # Errors
    /// As of [`Store::records`].
    pub fn each_session(&self, mut with: impl FnMut(SessionRecord)) -> Result<(), StoreError> {
        let names = self.names_now()?;
        for SessionEntry { mut session, .. } in self.sessions()? {
            let mut throws = self.throws(&session.key)?;
            for throw in &mut throws {
                throw.spec.name_discs(|id, name| name_now(&names, id, name));
                throw.spec.lost.iter_mut().for_each(|lost| lost.bags.clear());
            }
            session.spec.name_discs(|id, name| name_now(&names, id, name));
            with(SessionRecord { session, throws });
        }
        Ok(())
    }

    /// Everything but the sessions in the field.
    ///
    /// # Errors
    /// As of [`Store::records`].
    pub fn records_but_sessions(&self) -> Result<Records, StoreError> {
        let names = self.names_now()?;
        let by_name =
            |c: &Carried| Some(CarriedByName { disc: names.get(&c.disc_id)?.clone(), spare: c.spare });
        let bag = |bag: bags::Bag| {
            let mut carried: Vec<CarriedByName> = bag.carried.iter().filter_map(by_name).collect();
            carried.sort_by(|a, b| a.disc.cmp(&b.disc));
            BagRecord { spec: bag.spec, carried }
        };
        let by_names = |mut round: Round| {
            round.spec.name_discs(|id, name| name_now(&names, id, name));
            round.spec.holes.iter_mut().flat_map(|h| &mut h.lost).for_each(|lost| lost.bags.clear());
            round
        };
        Ok(Records {
            sessions: vec![],
            player: self.player()?,
            bags: self.bags()?.into_iter().map(bag).collect(),
            moulds: self.moulds()?.into_iter().map(|m| m.spec).collect(),
            line_settings: self.line_settings()?,
            own_lines: self.own_line_records()?,
            courses: self.courses()?.into_iter().map(|c| c.spec).collect(),
            rounds: self.rounds()?.into_iter().map(by_names).collect(),
            discs: self.discs()?.into_iter().map(|d| d.spec).collect(),
        })
    }

    /// Puts records in the place of all there is, as one step that can be undone. They must hold together: see
    /// [`crate::format::records`].
    ///
    /// # Errors
    /// [`StoreError`] if the database fails, a name comes twice or a disc that is carried is not among them; then nothing is
    /// changed.
    pub fn replace_records(&mut self, records: &Records) -> Result<(), StoreError> {
        self.change(|connection| {
            for table in EMPTIED {
                connection.execute(&format!("DELETE FROM \"{table}\""), [])?;
            }
            put(connection, records)?;
            let words = counted(records.discs.len(), "disc");
            Ok(((), format!("everything is replaced by a file of {words}")))
        })
    }
}

/// The name that a disc has now, if it is still there, for the one it was written down with.
fn name_now(names: &HashMap<DiscId, String>, id: Option<DiscId>, name: &str) -> (Option<DiscId>, String) {
    let now = id.and_then(|id| names.get(&id));
    (None, now.map_or(name, String::as_str).to_owned())
}

fn put(connection: &Connection, records: &Records) -> Result<(), StoreError> {
    if let Some(who) = &records.player {
        player::write(connection, who)?;
    }
    let mut ids: HashMap<String, DiscId> = HashMap::new();
    for disc in &records.discs {
        let id = discs::insert(connection, disc)?;
        if ids.insert(folded(&disc.name), id).is_some() {
            return Err(StoreError::NameTaken { what: "disc", name: disc.name.trim().to_owned() });
        }
    }
    for mould in &records.moulds {
        moulds::insert(connection, mould)?;
    }
    moulds::learn(connection, &records.discs)?;
    for bag in &records.bags {
        let carried = |c: &CarriedByName| {
            let id = ids.get(&folded(&c.disc)).copied();
            let not_there = || StoreError::NotFound { what: "disc", id: format!("called \"{}\"", c.disc) };
            Ok(Carried { disc_id: id.ok_or_else(not_there)?, spare: c.spare })
        };
        let carried = bag.carried.iter().map(carried).collect::<Result<Vec<_>, StoreError>>()?;
        bags::insert(connection, &bag.spec, &carried)?;
    }
    records.line_settings.iter().try_for_each(|line| lines::set(connection, &line.key, line.setting))?;
    records.own_lines.iter().try_for_each(|line| lines::insert(connection, line))?;
    records.courses.iter().try_for_each(|course| courses::insert(connection, course).map(drop))?;
    let by_name = |_, name: &str| (ids.get(&folded(name)).copied(), name.to_owned());
    // The latest come first, and are added last.
    for round in records.rounds.iter().rev() {
        let mut round = round.clone();
        round.spec.name_discs(by_name);
        rounds::insert(connection, &round)?;
    }
    for record in records.sessions.iter().rev() {
        let mut session = record.session.clone();
        session.spec.name_discs(by_name);
        field::insert_session(connection, &session)?;
        let mut throws = record.throws.clone();
        throws.iter_mut().for_each(|throw| throw.spec.name_discs(by_name));
        field::insert_throws(connection, &record.session.key, &throws)?;
    }
    discs::room(connection)
}
