//! The database: formats, links, restarts.

use rusqlite::Connection;
use zinc_kite::demo;
use zinc_kite::store::migrations::{VERSION, migrations};
use zinc_kite::store::{BagId, Moves, Store, StoreError};
use zinc_kite_bag::disc::spec::{DiscId, DiscSpec};
use zinc_kite_bag::verdict::carried::Carried;

#[test]
fn prop_the_schema_is_valid_from_every_earlier_version() {
    migrations().validate().unwrap();
    for version in 1..=VERSION {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("old.db");
        let mut old = Connection::open(&path).unwrap();
        migrations().to_version(&mut old, version).unwrap();
        drop(old);
        let store = Store::open(&path).unwrap();
        assert_eq!(store.bags().unwrap().len(), 1, "from version {version}");
    }
}

#[test]
fn everything_is_there_after_a_restart() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("kept.db");
    let (discs, bag, player) = {
        let mut store = Store::open(&path).unwrap();
        demo::fill(&mut store).unwrap();
        store.delete_disc(DiscId(9)).unwrap();
        (store.discs().unwrap(), store.bag(BagId(1)).unwrap(), store.player().unwrap())
    };
    let store = Store::open(&path).unwrap();
    assert_eq!(store.discs().unwrap(), discs);
    assert_eq!(store.bag(BagId(1)).unwrap(), bag);
    assert_eq!(store.player().unwrap(), player);
    assert_eq!(discs.len(), 45);
}

#[test]
fn a_deleted_disc_leaves_the_bag_and_comes_back_into_it() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let id = store.bag(BagId(1)).unwrap().carried[0].disc_id;
    let before = store.bag(BagId(1)).unwrap();
    store.delete_disc(id).unwrap();
    assert!(store.bag(BagId(1)).unwrap().carried.iter().all(|c| c.disc_id != id));
    store.undo(None).unwrap();
    assert_eq!(store.bag(BagId(1)).unwrap(), before);
}

#[test]
fn prop_foreign_keys_hold() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("keys.db");
    drop(Store::open(&path).unwrap());
    let raw = Connection::open(&path).unwrap();
    raw.pragma_update(None, "foreign_keys", true).unwrap();
    assert!(raw.execute("INSERT INTO bag_disc VALUES (1, 77, 0)", []).is_err());
    let mut store = Store::open(&path).unwrap();
    let ghost = Moves { bench: vec![DiscId(77)], ..Moves::default() };
    store.move_discs(BagId(1), &ghost).unwrap();
    assert!(store.bag(BagId(1)).unwrap().carried.is_empty());
}

#[test]
fn a_database_of_a_newer_program_is_refused_untouched() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("newer.db");
    drop(Store::open(&path).unwrap());
    let raw = Connection::open(&path).unwrap();
    raw.pragma_update(None, "user_version", 99).unwrap();
    drop(raw);
    let before = std::fs::read(&path).unwrap();
    let error = Store::open(&path).err().unwrap();
    assert!(matches!(error, StoreError::Newer { found: 99, .. }), "{error}");
    assert!(error.to_string().contains("nothing was changed"));
    assert_eq!(std::fs::read(&path).unwrap(), before);
}

#[test]
fn what_is_no_database_or_another_programs_is_refused() {
    let folder = tempfile::tempdir().unwrap();
    let text = folder.path().join("notes.txt");
    std::fs::write(&text, "these are my notes, not a database, and long enough to be read as one".repeat(20))
        .unwrap();
    assert!(matches!(Store::open(&text), Err(StoreError::NotOurs { .. })));
    let foreign = folder.path().join("foreign.db");
    Connection::open(&foreign).unwrap().execute_batch("CREATE TABLE cheese (name TEXT)").unwrap();
    assert!(matches!(Store::open(&foreign), Err(StoreError::NotOurs { .. })));
    let missing = folder.path().join("no/such/folder/x.db");
    let error = Store::open(&missing).err().unwrap().to_string();
    assert!(error.contains("check that its folder exists"), "{error}");
}

#[test]
fn names_are_one_whatever_their_case_or_writing() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let like = store.disc(DiscId(1)).unwrap().spec;
    let mut add = |name: &str| store.add_disc(&DiscSpec { name: name.into(), ..like.clone() });
    let id = add("Ärmel").unwrap();
    for taken in ["ärmel", "ÄRMEL ", "A\u{308}rmel"] {
        assert!(matches!(add(taken), Err(StoreError::NameTaken { .. })), "{taken}");
    }
    store.save_disc(id, &DiscSpec { name: "ÄRMEL".into(), ..like }).unwrap();
}

#[test]
fn there_is_a_limit_to_what_is_kept_and_carried() {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let like = store.disc(DiscId(1)).unwrap().spec;
    let many = |n: usize| -> Vec<DiscSpec> {
        (0..n).map(|k| DiscSpec { name: format!("Copy {k}"), ..like.clone() }).collect()
    };
    let error = store.add_discs(&many(5000), None, "added").unwrap_err();
    assert!(matches!(error, StoreError::TooMany { most: 5000, .. }), "{error}");
    assert_eq!(store.discs().unwrap().len(), 46, "all or none");
    let ids = store.add_discs(&many(60), None, "added").unwrap();
    let carry = ids.iter().map(|id| Carried { disc_id: *id, spare: false }).collect();
    let error = store.move_discs(BagId(1), &Moves { carry, bench: vec![] }).unwrap_err().to_string();
    assert_eq!(error, "there can be at most 60 carried discs; make room first");
    assert_eq!(store.bag(BagId(1)).unwrap().carried.len(), 19);
}
