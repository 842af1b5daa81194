//! Bringing a copy back takes all that is one's own and nothing that was twisted; a full disk leaves nothing behind; one program has a
//! file at a time, by whatever name; a copy that holds more is not let go in silence.
#![cfg(unix)]

use std::path::Path;
use std::process::Command;

use actix_web::http::StatusCode;
use actix_web::test::TestRequest;
use rstest::rstest;
use rusqlite::Connection;
use serde_json::{Value, json};
use zinc_kite::demo;
use zinc_kite::door::Door;
use zinc_kite::store::copies::daily_copies;
use zinc_kite::store::{BagId, Store, StoreError};
use zinc_kite_bag::disc::spec::{DiscId, DiscSpec};
use zinc_kite_bag::verdict::carried::BagSpec;

use crate::file::{Serving, add, names, send};
use crate::http::{Served, a_disc, ask, ask_with, on, served};

fn filled(path: &Path) -> Store {
    let mut store = Store::open(path).unwrap();
    demo::fill(&mut store).unwrap();
    store
}

async fn send_backup(app: &impl Served, path: &str, bytes: Vec<u8>) -> (StatusCode, String) {
    let request = TestRequest::post()
        .uri(path)
        .insert_header(("host", "localhost"))
        .insert_header(("if-match", "*"))
        .set_payload(bytes)
        .to_request();
    let response = actix_web::test::call_service(app, request).await;
    let status = response.status();
    (status, String::from_utf8_lossy(&actix_web::test::read_body(response).await).into_owned())
}

/// Each is a change by other means to a healthy file.
#[rstest]
#[case::trigger("CREATE TRIGGER twist AFTER INSERT ON disc BEGIN DELETE FROM bag; END", "trigger")]
#[case::view("CREATE VIEW twist AS SELECT * FROM disc", "view")]
#[case::table("CREATE TABLE twist (x)", "table \\\"twist\\\"")]
#[case::index("CREATE INDEX twist ON disc (mould)", "index")]
#[case::column("ALTER TABLE disc ADD COLUMN twist TEXT", "another than that of a backup")]
#[case::lacking("DROP INDEX throw_style", "lacks the index")]
#[case::range("UPDATE disc SET mass_g = 9000 WHERE id = 3", "mass_g")]
#[case::word("UPDATE disc SET plastic = 'cheese' WHERE id = 3", "cheese")]
#[case::player("UPDATE player SET hand = 'both'", "hand")]
#[case::reach("UPDATE player SET backhand_m = -4", "backhand_m")]
#[case::no_bag("DELETE FROM bag", "one bag at least")]
#[case::session("UPDATE throw SET spec = json_set(spec, '$.distance_m', 1e9)", "distance_m")]
#[case::undo_of_no_table("UPDATE change_row SET of_table = 'sqlite_schema'", "name of a table")]
#[case::undo_of_columns("UPDATE change_row SET before = json_set(before, '$.twist', 1)", "other columns")]
#[case::undo_of_values("UPDATE change_row SET before = json_set(before, '$.mass_g', 1e9)", "mass_g")]
#[actix_web::test]
async fn regress_what_was_twisted_is_told_and_taken_over_by_nobody(#[case] twist: &str, #[case] word: &str) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("sent.db");
    let mut store = filled(&path);
    let spec = DiscSpec { mass_g: 170.0, ..store.disc(DiscId(3)).unwrap().spec };
    store.save_disc(DiscId(3), &spec).unwrap();
    drop(store);
    let raw = Connection::open(&path).unwrap();
    raw.execute_batch(twist).unwrap();
    drop(raw);
    let sent = std::fs::read(&path).unwrap();
    let app = served(true).await;
    let before = ask(&app, "GET", "/api/discs", "").await.text;
    for at in ["/api/data/preview", "/api/data/restore"] {
        let (status, said) = send_backup(&app, at, sent.clone()).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{at}: {said}");
        assert!(said.contains(word), "{at}: {said}");
    }
    assert_eq!(ask(&app, "GET", "/api/discs", "").await.text, before);
    // By the command line it is the same.
    let mine = folder.path().join("mine.db");
    drop(filled(&mine));
    let back = Command::new(env!("CARGO_BIN_EXE_zinc-kite"))
        .arg("restore")
        .arg(&path)
        .arg("--db")
        .arg(&mine)
        .output();
    assert!(!back.unwrap().status.success());
    assert_eq!(names(&mine).len(), 46);
}

/// A backup is as large as what it holds: the one here is larger than all that is asked of any other body.
#[actix_web::test]
async fn regress_a_large_backup_is_brought_back() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("large.db");
    drop(filled(&path));
    let raw = Connection::open(&path).unwrap();
    raw.execute_batch("CREATE TABLE much (x); INSERT INTO much VALUES (zeroblob(90000000)); DROP TABLE much")
        .unwrap();
    drop(raw);
    assert!(std::fs::metadata(&path).unwrap().len() > 80 << 20);
    let app = served(false).await;
    let (status, said) = send_backup(&app, "/api/data/restore", std::fs::read(&path).unwrap()).await;
    assert_eq!(status, StatusCode::OK, "{said}");
    assert_eq!(ask(&app, "GET", "/api/data", "").await.json()["holds"]["discs"], 46);
}

#[test]
fn regress_an_empty_file_is_not_ours() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    std::fs::write(&path, "").unwrap();
    assert!(matches!(Store::open(&path), Err(StoreError::NotOurs { .. })));
    assert_eq!(std::fs::metadata(&path).unwrap().len(), 0, "it stays as it is");
    let refused =
        Command::new(env!("CARGO_BIN_EXE_zinc-kite")).args(["serve", "--db"]).arg(&path).output().unwrap();
    assert!(String::from_utf8_lossy(&refused.stderr).contains("it is empty"));
    assert!(!folder.path().join("mine.db.copies").exists());
}

#[test]
fn regress_a_copy_that_holds_more_is_kept() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    let mut store = filled(&path);
    let copy = store.keep_daily_copy().unwrap().unwrap();
    let old = copy.with_file_name("2020-01-01.db");
    std::fs::rename(&copy, &old).unwrap();
    store.replace_by(&Store::in_memory().unwrap()).unwrap();
    for day in 1..=20 {
        let copy = store.keep_daily_copy().unwrap().unwrap();
        std::fs::rename(&copy, copy.with_file_name(format!("2021-01-{day:02}.db"))).unwrap();
    }
    store.keep_daily_copy().unwrap();
    let copies = daily_copies(&path).unwrap();
    assert_eq!(copies[0], old, "{copies:?}");
    assert!(copies.len() <= 15, "{copies:?}");
}

#[actix_web::test]
async fn regress_a_file_where_copies_go_is_told() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    let store = filled(&path);
    std::fs::write(folder.path().join("mine.db.copies"), "mine").unwrap();
    let error = store.keep_daily_copy().unwrap_err().to_string();
    assert!(error.contains("is a file") && error.contains("move it away"), "{error}");
    let app = on(store, Door::of_this_machine()).await;
    let shown = ask(&app, "GET", "/api/data", "").await;
    assert_eq!(shown.status, StatusCode::OK, "{}", shown.text);
    assert!(shown.json()["no_copies"].as_str().unwrap().contains("is a file"));
}

/// Redo does again what was undone last, and a window turns back nothing of another's.
#[actix_web::test]
async fn regress_redo_and_undo_keep_to_their_order_and_their_window() {
    let app = served(true).await;
    let act = async |window: &str, what: &str| {
        ask_with(&app, "POST", &format!("/api/changes/{what}"), "", &[("zinc-window", window)]).await
    };
    let make = async |window: &str, name: &str| {
        ask_with(&app, "POST", "/api/discs", &a_disc(name).to_string(), &[("zinc-window", window)]).await
    };
    let is_there = async |name: &str| ask(&app, "GET", "/api/discs", "").await.text.contains(name);
    for name in ["Spray", "Foam"] {
        make("a", name).await;
        act("a", "undo").await;
    }
    let redone = act("a", "redo").await.json();
    assert!(redone["words"].as_str().unwrap().contains("Foam"), "{redone}");
    assert!(is_there("Foam").await && !is_there("Spray").await);
    assert_eq!(act("a", "redo").await.status, StatusCode::CONFLICT, "Spray was given up for Foam");
    make("b", "Brine").await;
    act("a", "undo").await;
    let refused = act("a", "undo").await;
    assert_eq!(refused.status, StatusCode::CONFLICT);
    assert!(refused.text.contains("in this window") && refused.text.contains("Brine"), "{}", refused.text);
    assert!(is_there("Brine").await && !is_there("Foam").await);
    // Undone in another order than made: the last undone comes first.
    let mut ids = Vec::new();
    for name in ["One", "Two", "Three"] {
        make("c", name).await;
        ids.push(ask(&app, "GET", "/api/changes?most=1", "").await.json()["changes"][0]["id"].clone());
    }
    for k in [0, 2, 1] {
        act("c", &format!("{}/undo", ids[k])).await;
    }
    for name in ["Two", "Three", "One"] {
        let redone = act("c", "redo").await.json();
        assert!(redone["words"].as_str().unwrap().contains(name), "{name}: {redone}");
    }
}

#[rstest]
#[case::symlink("symlink")]
#[case::hard_link("hard")]
#[case::lock_removed("removed")]
fn regress_one_program_has_a_file_by_whatever_name(#[case] how: &str) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    let other = folder.path().join("other.db");
    let serving = Serving::on(&path);
    assert!(add(&serving.address, "Teasel"));
    let second = match how {
        "symlink" => std::os::unix::fs::symlink(&path, &other).map(|()| &other),
        "hard" => std::fs::hard_link(&path, &other).map(|()| &other),
        _ => std::fs::remove_file(folder.path().join("mine.db.lock")).map(|()| &path),
    }
    .unwrap();
    let refused = Command::new(env!("CARGO_BIN_EXE_zinc-kite"))
        .args(["serve", "--port", "0", "--db"])
        .arg(second)
        .output()
        .unwrap();
    let said = String::from_utf8_lossy(&refused.stderr);
    assert!(!refused.status.success() && said.contains("in use by another Zinc Kite"), "{said}");
    assert!(add(&serving.address, "Purlin"), "the first goes on");
    drop(serving);
    assert_eq!(names(second).len(), 2);
}

#[test]
fn regress_restore_keeps_a_link_a_link() {
    let folder = tempfile::tempdir().unwrap();
    let (real, link, copy) =
        (folder.path().join("real.db"), folder.path().join("link.db"), folder.path().join("copy.db"));
    filled(&real).back_up(&copy).unwrap();
    Store::open(&real).unwrap().delete_disc(DiscId(1)).unwrap();
    std::os::unix::fs::symlink(&real, &link).unwrap();
    let back = Command::new(env!("CARGO_BIN_EXE_zinc-kite"))
        .arg("restore")
        .arg(&copy)
        .arg("--db")
        .arg(&link)
        .output()
        .unwrap();
    assert!(back.status.success(), "{}", String::from_utf8_lossy(&back.stderr));
    assert!(std::fs::symlink_metadata(&link).unwrap().is_symlink());
    assert_eq!(names(&real).len(), 46);
}

/// Files beside a database but for its lock.
fn beside(folder: &Path) -> Vec<String> {
    let all =
        std::fs::read_dir(folder).unwrap().flatten().map(|e| e.file_name().to_string_lossy().into_owned());
    let mut all: Vec<String> = all.filter(|name| !name.ends_with(".lock")).collect();
    all.sort();
    all
}

#[test]
fn regress_a_full_disk_refuses_a_restore_and_keeps_nothing_of_it() {
    let folder = tempfile::tempdir().unwrap();
    let (own, large) = (tempfile::tempdir().unwrap(), folder.path().join("large.db"));
    let db = own.path().join("mine.db");
    drop(Store::open(&db).unwrap());
    drop(filled(&large));
    let raw = Connection::open(&large).unwrap();
    raw.execute_batch("CREATE TABLE much (x); INSERT INTO much VALUES (zeroblob(3000000)); DROP TABLE much")
        .unwrap();
    drop(raw);
    let (program, log) = (env!("CARGO_BIN_EXE_zinc-kite"), folder.path().join("log.txt"));
    // No file may grow beyond so many kB, which the program is told as if the disk were full.
    let limited = format!(
        "trap '' XFSZ; ulimit -f 1024; exec {program} serve --port 0 --db {} 2> {}",
        db.display(),
        log.display()
    );
    let serving = Serving::of(Command::new("bash").args(["-c", &limited]));
    let before = beside(own.path());
    let sent = std::fs::read(&large).unwrap();
    let mut stream = std::net::TcpStream::connect(&serving.address).unwrap();
    use std::io::{Read, Write};
    let head = format!(
        "POST /api/data/restore HTTP/1.1\r\nhost: {}\r\nconnection: close\r\nif-match: *\r\ncontent-length: {}\r\n\r\n",
        serving.address,
        sent.len()
    );
    stream.write_all(head.as_bytes()).unwrap();
    let _ = stream.write_all(&sent);
    let mut answer = String::new();
    let _ = stream.read_to_string(&mut answer);
    assert!(answer.is_empty() || answer.contains(" 507 "), "{answer:.300}");
    let read = send(&serving.address, "GET", "/api/discs", "").unwrap();
    assert!(read.starts_with("HTTP/1.1 200"), "{read:.200}");
    let after: Vec<String> = beside(own.path()).into_iter().filter(|name| !before.contains(name)).collect();
    assert!(after.iter().all(|name| name.ends_with(".copies")), "{after:?}");
    assert!(std::fs::read_to_string(&log).unwrap().contains("cannot be written"), "the log says why");
}

/// A healthy file is called so by other SQLite too: what it checks holds where NULL is no valid JSON, as older ones have it.
#[test]
fn regress_no_check_leaves_null_to_json_valid() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    drop(filled(&path));
    let raw = Connection::open(&path).unwrap();
    let sql: String =
        raw.query_row("SELECT sql FROM sqlite_schema WHERE name = 'change_row'", [], |r| r.get(0)).unwrap();
    for column in ["before", "after"] {
        assert!(sql.contains(&format!("CHECK ({column} IS NULL OR json_valid({column}))")), "{sql}");
    }
}

/// Whoever asked for a card and hung up is not worked for: what comes after does not wait for it.
#[test]
fn regress_a_card_ends_when_its_client_hangs_up() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    drop(filled(&path));
    let serving = Serving::on(&path);
    let ticks = || {
        let stat = std::fs::read_to_string(format!("/proc/{}/stat", serving.child.id())).unwrap();
        let fields: Vec<u64> =
            stat.rsplit(')').next().unwrap().split_whitespace().filter_map(|f| f.parse().ok()).collect();
        fields[10] + fields[11]
    };
    for _ in 0..2 {
        use std::io::Write;
        let mut stream = std::net::TcpStream::connect(&serving.address).unwrap();
        write!(stream, "GET /api/bags/1/card/1 HTTP/1.1\r\nhost: {}\r\n\r\n", serving.address).unwrap();
        std::thread::sleep(std::time::Duration::from_millis(400));
    }
    std::thread::sleep(std::time::Duration::from_millis(1500));
    let before = ticks();
    std::thread::sleep(std::time::Duration::from_millis(1000));
    assert!(ticks() - before < 20, "it works on: {} ticks", ticks() - before);
}

/// A restore brings back every record that the copy holds.
#[test]
fn prop_a_restored_copy_is_the_same_row_for_row() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("mine.db");
    let mut store = filled(&path);
    store.add_bag(&BagSpec { name: "Second".into(), capacity: 9, event_cap_g: None }, &[]).unwrap();
    let copy = store.passing_copy().unwrap();
    let before: Value = json!(store.records().unwrap());
    store.delete_disc(DiscId(1)).unwrap();
    store.delete_bag(BagId(2)).unwrap();
    let verified = zinc_kite::format::records::verified("sent", copy.path()).unwrap();
    store.replace_by(&verified).unwrap();
    assert_eq!(json!(store.records().unwrap()), before);
}
