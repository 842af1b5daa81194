//! Undo and redo: laws over any sequence of changes, restarts, conflicts, bounds.

use std::collections::BTreeMap;
use std::path::Path;

use crate::http::{a_disc, ask, ask_with, served};
use proptest::prelude::*;
use rusqlite::Connection;
use rusqlite::types::Value as Stored;
use serde_json::json;
use zinc_kite::demo;
use zinc_kite::store::changes::{ChangeState, KEPT_STEPS};
use zinc_kite::store::{BagId, LineSetting, Moves, Store, StoreError};
use zinc_kite_bag::disc::spec::{DiscId, DiscSpec};
use zinc_kite_bag::need::line::LineSpec;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};

/// Every row of every table of the player's, as stored to the last bit.
fn dump(path: &Path) -> BTreeMap<String, Vec<String>> {
    let raw = Connection::open(path).unwrap();
    let tables: Vec<String> = raw
        .prepare("SELECT name FROM sqlite_schema WHERE type = 'table' AND name NOT LIKE 'sqlite%' AND name NOT LIKE 'change%'")
        .unwrap()
        .query_map([], |r| r.get(0))
        .unwrap()
        .collect::<Result<_, _>>()
        .unwrap();
    let rows = |table: &String| -> Vec<String> {
        let mut statement = raw.prepare(&format!("SELECT * FROM {table}")).unwrap();
        let columns = statement.column_count();
        let row = |r: &rusqlite::Row| {
            Ok((0..columns)
                .map(|k| format!("{:?}", r.get::<_, Stored>(k).unwrap()))
                .collect::<Vec<_>>()
                .join("|"))
        };
        let mut rows: Vec<String> = statement.query_map([], row).unwrap().collect::<Result<_, _>>().unwrap();
        rows.sort();
        rows
    };
    tables.iter().map(|table| (table.clone(), rows(table))).collect()
}

fn filled(folder: &Path) -> (Store, std::path::PathBuf) {
    let path = folder.join("kept.db");
    let mut store = Store::open(&path).unwrap();
    demo::fill(&mut store).unwrap();
    (store, path)
}

#[derive(Debug, Clone)]
enum Act {
    AddDisc(u8),
    SaveDisc(u8, f64),
    DeleteDisc(u8),
    Move(u8, u8, bool),
    AddBag(u8),
    SaveBag(u8, u32),
    DeleteBag(u8),
    Player(f64),
    SwitchLine(bool, f64),
    SaveLine(f64),
    AddLine,
    DeleteLine,
}

fn acts() -> impl Strategy<Value = Act> {
    prop_oneof![
        any::<u8>().prop_map(Act::AddDisc),
        (0u8..50, 140.0..180.0).prop_map(|(k, g)| Act::SaveDisc(k, g)),
        (0u8..50).prop_map(Act::DeleteDisc),
        (0u8..50, 0u8..50, any::<bool>()).prop_map(|(a, b, s)| Act::Move(a, b, s)),
        any::<u8>().prop_map(Act::AddBag),
        (0u8..4, 1u32..30).prop_map(|(k, n)| Act::SaveBag(k, n)),
        (0u8..4).prop_map(Act::DeleteBag),
        (60.0..130.0).prop_map(Act::Player),
        (any::<bool>(), 0.1..9.0).prop_map(|(on, w)| Act::SwitchLine(on, w)),
        (30.0..60.0).prop_map(Act::SaveLine),
        Just(Act::AddLine),
        Just(Act::DeleteLine),
    ]
}

/// Does it if it can be done; what cannot is refused and changes nothing.
fn act(store: &mut Store, act: &Act) -> Result<(), StoreError> {
    let spec = |store: &Store, k: u8| -> Result<(DiscId, DiscSpec), StoreError> {
        let disc = store.disc(DiscId(k.into()))?;
        Ok((disc.id, disc.spec))
    };
    let bag = BagSpec { name: "Other".into(), capacity: 9, event_cap_g: Some(0.1 + 0.2 + 150.0) };
    let line = LineSpec::usual(Style::Backhand);
    match *act {
        Act::AddDisc(k) => {
            let (_, first) = spec(store, 1)?;
            store.add_disc(&DiscSpec { name: format!("New {k}"), ..first }).map(drop)
        }
        Act::SaveDisc(k, mass_g) => {
            let (id, old) = spec(store, k)?;
            store.save_disc(id, &DiscSpec { mass_g, ..old })
        }
        Act::DeleteDisc(k) => store.delete_disc(DiscId(k.into())),
        Act::Move(into, out, spare) => {
            let carry = vec![Carried { disc_id: DiscId(into.into()), spare }];
            store.move_discs(BagId(1), &Moves { carry, bench: vec![DiscId(out.into())] })
        }
        Act::AddBag(k) => {
            let carried = store.bag(BagId(1))?.carried;
            store.add_bag(&BagSpec { name: format!("Bag {k}"), ..bag }, &carried).map(drop)
        }
        Act::SaveBag(k, capacity) => store.save_bag(BagId(k.into()), &BagSpec { capacity, ..bag }),
        Act::DeleteBag(k) => store.delete_bag(BagId(k.into())),
        Act::Player(backhand_m) => store.save_player(&Player { backhand_m, ..demo::player() }),
        Act::SwitchLine(enabled, weight) => {
            store.set_line("tunnel", LineSetting { enabled, weight: Some(weight) })
        }
        Act::SaveLine(distance_m) => store.save_line("tunnel", &LineSpec { distance_m, ..line }),
        Act::AddLine => store.add_line(&line).map(drop),
        Act::DeleteLine => store.delete_line("tunnel"),
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, failure_persistence: None, ..ProptestConfig::default() })]

    /// Undoing step by step leads back through every state there was, to the last bit, and redoing forward again; with a restart
    /// between.
    #[test]
    fn prop_undo_leads_back_and_redo_forward(wanted in prop::collection::vec(acts(), 1..24)) {
        let folder = tempfile::tempdir().unwrap();
        let (mut store, path) = filled(folder.path());
        let mut states = vec![dump(&path)];
        for a in &wanted {
            if act(&mut store, a).is_err() {
                prop_assert_eq!(&dump(&path), states.last().unwrap());
            }
            let now = dump(&path);
            if &now != states.last().unwrap() {
                states.push(now);
            }
        }
        drop(store);
        let mut store = Store::open(&path).unwrap();
        prop_assert_eq!(store.changes(None, 200, None).unwrap().changes.len(), states.len() - 1);
        for state in states.iter().rev().skip(1) {
            store.undo(None).unwrap();
            prop_assert_eq!(&dump(&path), state);
        }
        prop_assert!(store.undo(None).is_err());
        drop(store);
        let mut store = Store::open(&path).unwrap();
        for state in states.iter().skip(1) {
            store.redo(None).unwrap();
            prop_assert_eq!(&dump(&path), state);
        }
        prop_assert!(store.redo(None).is_err());
    }

    /// A step in the middle undone by itself either leaves all later ones as they are, or is refused and changes nothing.
    #[test]
    fn prop_one_step_undone_touches_nothing_else(
        wanted in prop::collection::vec(acts(), 2..12),
        which in any::<prop::sample::Index>(),
    ) {
        let folder = tempfile::tempdir().unwrap();
        let (mut store, path) = filled(folder.path());
        for a in &wanted {
            let _refused = act(&mut store, a);
        }
        let steps = store.changes(None, 200, None).unwrap().changes;
        prop_assume!(!steps.is_empty());
        let (before, id) = (dump(&path), which.get(&steps).id);
        if store.undo(Some(id)).is_ok() {
            store.redo(Some(id)).unwrap();
        }
        prop_assert_eq!(dump(&path), before);
    }
}

#[test]
fn what_changes_nothing_is_no_step() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let player = store.player().unwrap().unwrap();
    store.save_player(&player).unwrap();
    let carried = store.bag(BagId(1)).unwrap().carried;
    store.move_discs(BagId(1), &Moves { carry: carried, bench: vec![] }).unwrap();
    assert!(store.changes(None, 9, None).unwrap().changes.is_empty());
}

#[test]
fn a_step_that_something_later_depends_on_names_it() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let spec = DiscSpec { name: "New".into(), ..store.disc(DiscId(1)).unwrap().spec };
    let id = store.add_disc(&spec).unwrap();
    let added = store.latest_change().unwrap();
    let carry = vec![Carried { disc_id: id, spare: false }];
    store.move_discs(BagId(1), &Moves { carry, bench: vec![] }).unwrap();
    // Taking the disc away would take its place in the bag along.
    let error = store.undo(Some(added)).unwrap_err().to_string();
    assert!(error.contains("something that came after it depends on it"), "{error}");
    assert_eq!(store.bag(BagId(1)).unwrap().carried.len(), 20);
    store.undo(None).unwrap();
    store.save_disc(id, &DiscSpec { mass_g: 160.0, ..spec }).unwrap();
    let error = store.undo(Some(added)).unwrap_err().to_string();
    assert!(error.contains("\"New is saved\" came after it"), "{error}");
}

#[test]
fn a_new_change_ends_what_could_be_done_again() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    store.delete_disc(DiscId(1)).unwrap();
    let undone = store.undo(None).unwrap();
    assert_eq!((undone.words.as_str(), undone.state), ("Dado one is deleted", ChangeState::Undone));
    assert_eq!(store.changes(None, 9, None).unwrap().redo, Some(undone.id));
    store.delete_disc(DiscId(2)).unwrap();
    let all = store.changes(None, 9, None).unwrap();
    assert_eq!((all.redo, all.undo), (None, Some(store.latest_change().unwrap())));
    // By itself it still can.
    store.redo(Some(undone.id)).unwrap();
    assert!(store.disc(DiscId(1)).is_err() && store.disc(DiscId(2)).is_err());
}

#[test]
fn the_record_is_bounded() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let spec = store.disc(DiscId(1)).unwrap().spec;
    for k in 0..KEPT_STEPS + 5 {
        store.save_disc(DiscId(1), &DiscSpec { mass_g: 150.0 + 0.01 * k as f64, ..spec.clone() }).unwrap();
    }
    let mut kept = 0;
    let mut before = None;
    loop {
        let part = store.changes(before, 200, None).unwrap().changes;
        let Some(last) = part.last() else { break };
        before = Some(last.id);
        kept += part.len() as i64;
    }
    assert_eq!(kept, KEPT_STEPS);
}

/// A table that no part of the program knows of is watched like the others: what is to come needs no word about it.
#[test]
fn prop_a_table_to_come_is_watched_too() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("later.db");
    drop(Store::open(&path).unwrap());
    let raw = Connection::open(&path).unwrap();
    raw.execute_batch(
        "CREATE TABLE later_thing (id INTEGER PRIMARY KEY, disc_id INTEGER REFERENCES disc (id) ON DELETE SET NULL, far_m REAL) STRICT;
         CREATE TRIGGER marks AFTER INSERT ON bag BEGIN INSERT INTO later_thing (far_m) VALUES (0.1 + 0.2); END;",
    )
    .unwrap();
    drop(raw);
    let mut store = Store::open(&path).unwrap();
    store.add_bag(&BagSpec { name: "Other".into(), capacity: 9, event_cap_g: None }, &[]).unwrap();
    let with = dump(&path);
    assert_eq!(with["later_thing"].len(), 1);
    let step = &store.changes(None, 1, None).unwrap().changes[0];
    let told: Vec<&str> = step.things.iter().map(|t| t.thing.as_str()).collect();
    assert_eq!(told, ["Other: added", "later thing: added"]);
    store.undo(None).unwrap();
    assert!(dump(&path)["later_thing"].is_empty());
    store.redo(None).unwrap();
    assert_eq!(dump(&path), with);
}

#[actix_web::test]
async fn the_record_says_when_what_before_and_after() {
    let app = served(true).await;
    let added = ask(&app, "POST", "/api/discs", &a_disc("Spray").to_string()).await.json();
    let path = format!("/api/discs/{}", added["id"]);
    let mut heavier = a_disc("Spray");
    heavier["mass_g"] = json!(180);
    let tag = added["etag"].as_str().unwrap();
    let mine = [("if-match", tag), ("zinc-window", "window-7")];
    ask_with(&app, "PUT", &path, &heavier.to_string(), &mine).await;
    let all = ask(&app, "GET", "/api/changes?most=1", "").await.json();
    let change = &all["changes"][0];
    assert_eq!((&change["words"], &change["state"]), (&json!("Spray is saved"), &json!("done")));
    assert_eq!(change["window"], "window-7");
    assert_eq!(change["things"][0]["thing"], "Spray: changed");
    let field = json!([{ "field": "mass_g", "before": 173.5, "after": 180.0 }]);
    assert_eq!(change["things"][0]["fields"], field);
    let at = change["at"].as_str().unwrap();
    assert!(at.len() == 24 && at.ends_with('Z'), "{at}");
    assert_eq!(all["undo"], change["id"]);
    let earlier = format!("/api/changes?before={}", change["id"]);
    assert_eq!(ask(&app, "GET", &earlier, "").await.json()["changes"][0]["words"], "Spray is on the shelf");
}

/// Each of two windows undoes what it did itself, the last first; a new one what was done last of all.
#[test]
fn a_window_undoes_its_own() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    for (disc, window) in [(1, "a"), (2, "b"), (3, "a"), (4, "b")] {
        store.asked_by(Some(window.into()));
        store.delete_disc(DiscId(disc)).unwrap();
    }
    let mut undo = |window: &str| {
        store.asked_by(Some(window.into()));
        let words = store.undo(None).unwrap().words;
        let there = (1..=4).filter(|k| store.disc(DiscId(*k)).is_ok()).collect::<Vec<_>>();
        (words.ends_with("is deleted"), there)
    };
    assert_eq!(undo("a"), (true, vec![3]));
    assert_eq!(undo("a"), (true, vec![1, 3]));
    assert_eq!(undo("c"), (true, vec![1, 3, 4]));
    store.asked_by(Some("a".into()));
    store.redo(None).unwrap();
    assert!(store.disc(DiscId(1)).is_err() && store.disc(DiscId(3)).is_ok());
}

/// What is told of two states is told apart, whichever steps are undone.
#[test]
fn regress_no_two_sets_of_undone_steps_have_one_version() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let steps: Vec<i64> = (1..=5)
        .map(|id| {
            store.delete_disc(DiscId(id)).unwrap();
            store.latest_change().unwrap()
        })
        .collect();
    let mut seen = std::collections::HashSet::new();
    for set in 0..32 {
        let chosen = |k: &usize| set >> k & 1 == 1;
        let of: Vec<i64> = (0..5).filter(chosen).map(|k| steps[k]).collect();
        of.iter().for_each(|id| drop(store.undo(Some(*id)).unwrap()));
        assert!(seen.insert(store.version().unwrap()), "{of:?}");
        of.iter().for_each(|id| drop(store.redo(Some(*id)).unwrap()));
    }
}
