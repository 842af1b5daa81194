//! The one file that all is trusted to: whole whenever it is copied, kept however the program ends, refused if it is not ours.
#![cfg(unix)]

use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, ExitStatus, Output, Stdio};
use std::thread::sleep;
use std::time::{Duration, Instant};

use rstest::rstest;
use rusqlite::Connection;
use serde_json::{Value, json};
use zinc_kite::demo;
use zinc_kite::format::records::verified_copy;
use zinc_kite::store::copies::{KEPT, daily_copies, restore};
use zinc_kite::store::migrations::{VERSION, migrations};
use zinc_kite::store::{Store, StoreError};
use zinc_kite_bag::disc::keeping::Keeping;
use zinc_kite_bag::disc::spec::DiscId;
use zinc_kite_bag::disc::spec::{DiscSpec, Numbers};

/// The program serving a file.
pub struct Serving {
    pub child: Child,
    pub address: String,
}

impl Serving {
    pub fn on(db: &Path) -> Serving {
        let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
        Serving::of(command.args(["serve", "--new", "--port", "0", "--db"]).arg(db))
    }

    pub fn of(command: &mut Command) -> Serving {
        let mut child = command.stdout(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
        let mut lines = BufReader::new(child.stdout.take().unwrap()).lines();
        let told =
            lines.find_map(|line| Some(line.unwrap().strip_prefix("Zinc Kite is at http://")?.to_owned()));
        let address = told.expect("it says where it is").split('/').next().unwrap().to_owned();
        std::thread::spawn(move || lines.for_each(drop));
        Serving { child, address }
    }

    fn signal(&self, name: &str) {
        let pid = self.child.id().to_string();
        assert!(Command::new("kill").args([&format!("-{name}"), &pid]).status().unwrap().success());
    }

    /// How it ended, and how long that took.
    fn ended(mut self) -> (ExitStatus, Duration) {
        let start = Instant::now();
        loop {
            if let Some(status) = self.child.try_wait().unwrap() {
                return (status, start.elapsed());
            }
            assert!(start.elapsed() < Duration::from_secs(20), "it does not end");
            sleep(Duration::from_millis(5));
        }
    }
}

impl Drop for Serving {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// Sends a request; what comes back, if the program lives to answer it.
pub fn send(address: &str, method: &str, path: &str, body: &str) -> Option<String> {
    let mut stream = TcpStream::connect(address).ok()?;
    let length = body.len();
    write!(
        stream,
        "{method} {path} HTTP/1.1\r\nhost: {address}\r\nconnection: close\r\ncontent-type: application/json\r\ncontent-length: {length}\r\n\r\n{body}"
    )
    .ok()?;
    let mut answer = String::new();
    stream.read_to_string(&mut answer).ok()?;
    (!answer.is_empty()).then_some(answer)
}

fn disc(name: &str) -> String {
    json!({
        "name": name, "maker": "Saltmarsh", "mould": "Teasel", "plastic": "premium", "mass_g": 173, "reference_mass_g": 175,
        "printed": { "speed": 11, "glide": 5, "turn": -1, "fade": 2 }, "top": "neutral", "wear": { "grade": "fresh" },
        "used_for": "throwing", "colour": "#1976d2"
    })
    .to_string()
}

/// Adds a disc; whether the program said that it is kept.
pub fn add(address: &str, name: &str) -> bool {
    send(address, "POST", "/api/discs", &disc(name)).is_some_and(|answer| answer.starts_with("HTTP/1.1 201"))
}

pub fn names(path: &Path) -> Vec<String> {
    Store::copy_of(path).unwrap().discs().unwrap().into_iter().map(|d| d.spec.name).collect()
}

/// A copy of the one file and nothing beside it.
fn copied(db: &Path, to: &Path) -> PathBuf {
    let copy = to.join("copy.db");
    std::fs::copy(db, &copy).unwrap();
    copy
}

fn run(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_zinc-kite")).args(arguments).output().unwrap()
}

#[test]
fn regress_a_copy_of_the_file_alone_has_every_disc_while_the_program_runs() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let serving = Serving::on(&db);
    for k in 0..30 {
        assert!(add(&serving.address, &format!("Teasel {k}")));
    }
    assert_eq!(names(&copied(&db, folder.path())).len(), 30);
}

/// However it is asked to end, with a judgement under way and a body half sent, it does so within two seconds, and the file alone
/// has everything.
#[rstest]
#[case("TERM")]
#[case("INT")]
#[case("HUP")]
fn regress_it_ends_in_two_seconds_and_keeps_everything(#[case] signal: &str) {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    demo::fill(&mut Store::open(&db).unwrap()).unwrap();
    let serving = Serving::on(&db);
    assert!(add(&serving.address, "Last words"));
    let mut half_sent = TcpStream::connect(&serving.address).unwrap();
    write!(half_sent, "POST /api/discs HTTP/1.1\r\nhost: x\r\ncontent-type: application/json\r\ncontent-length: 900\r\n\r\n{{")
        .unwrap();
    let address = serving.address.clone();
    let judged = std::thread::spawn(move || send(&address, "GET", "/api/bags/1/season", ""));
    sleep(Duration::from_millis(150));
    serving.signal(signal);
    let (status, took) = serving.ended();
    assert!(status.success(), "{status}");
    assert!(took < Duration::from_secs(2), "{took:?}");
    drop(judged.join().unwrap());
    assert!(names(&copied(&db, folder.path())).iter().any(|n| n == "Last words"));
}

/// Killed at any moment, it has kept every disc that it said it had.
#[test]
fn prop_no_disc_that_was_answered_is_lost_to_a_kill() {
    killed(20);
}

#[test]
#[ignore = "takes minutes; run by `cargo xtask faults`"]
fn prop_no_disc_that_was_answered_is_lost_to_two_hundred_kills() {
    killed(200);
}

fn killed(rounds: u64) {
    let folder = tempfile::tempdir().unwrap();
    let (mut kept, mut written): (Vec<String>, u64) = (Vec::new(), 0);
    for round in 0..rounds {
        // A shelf has an end: a new one now and then.
        let db = folder.path().join(format!("mine-{}.db", round / 10));
        if round % 10 == 0 {
            kept.clear();
        }
        let serving = Serving::on(&db);
        let writers: Vec<_> = (0..4)
            .map(|writer| {
                let address = serving.address.clone();
                std::thread::spawn(move || {
                    let names = (0..).map(|k| format!("Teasel {round} {writer} {k}"));
                    names.take_while(|name| add(&address, name)).collect::<Vec<_>>()
                })
            })
            .collect();
        sleep(Duration::from_millis(20 + 37 * (round * 7 % 11)));
        serving.signal("KILL");
        serving.ended();
        let before = kept.len();
        kept.extend(writers.into_iter().flat_map(|w| w.join().unwrap()));
        written += (kept.len() - before) as u64;
        let there = names_after_restart(&db);
        let lost: Vec<_> = kept.iter().filter(|name| !there.contains(*name)).collect();
        assert!(lost.is_empty(), "round {round} lost {lost:?}");
    }
    assert!(written > rounds, "only {written} were written");
}

/// Once the disk takes no more, every change is refused in words and none that was answered is lost; what is there can be read.
#[test]
fn prop_a_full_disk_loses_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    demo::fill(&mut Store::open(&db).unwrap()).unwrap();
    let program = env!("CARGO_BIN_EXE_zinc-kite");
    // No file may grow beyond so many kB, which the program is told as if the disk were full.
    let limited = format!("trap '' XFSZ; ulimit -f 180; exec {program} serve --port 0 --db {}", db.display());
    let serving = Serving::of(Command::new("bash").args(["-c", &limited]));
    let mut kept = Vec::new();
    let refused = loop {
        let name = format!("Teasel {}", kept.len());
        let answer =
            send(&serving.address, "POST", "/api/discs", &disc(&name)).expect("it goes on answering");
        match answer.starts_with("HTTP/1.1 201") {
            true => kept.push(name),
            false => break answer,
        }
        assert!(kept.len() < 2000, "the disk never fills");
    };
    assert!(refused.contains("507") && refused.contains("the disk is full"), "{refused}");
    assert!(!kept.is_empty());
    let read = send(&serving.address, "GET", "/api/discs", "").unwrap();
    assert!(read.starts_with("HTTP/1.1 200") && read.contains(kept.last().unwrap()));
    serving.signal("TERM");
    serving.ended();
    let there = names_after_restart(&db);
    assert!(kept.iter().all(|name| there.contains(name)), "an answered disc is lost");
}

/// A clock that was wrong for a while neither hides a change nor costs a copy.
#[test]
fn prop_a_clock_that_jumps_costs_nothing() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let mut store = Store::open(&db).unwrap();
    demo::fill(&mut store).unwrap();
    let delete = |store: &mut Store, id| store.delete_disc(DiscId(id)).unwrap();
    delete(&mut store, 1);
    let raw = Connection::open(&db).unwrap();
    raw.execute("UPDATE change_step SET at = '2099-01-01T00:00:00.000Z'", []).unwrap();
    delete(&mut store, 2);
    raw.execute(
        "UPDATE change_step SET at = '1970-01-01T00:00:00.000Z' WHERE id = (SELECT max(id) FROM change_step)",
        [],
    )
    .unwrap();
    delete(&mut store, 3);
    for id in [3, 2, 1] {
        store.undo(None).unwrap();
        assert!(store.disc(DiscId(id)).is_ok(), "the last done is undone first, whatever the clock said");
    }
    let copies = folder.path().join("mine.db.copies");
    std::fs::create_dir(&copies).unwrap();
    for day in 1..=20 {
        std::fs::write(copies.join(format!("2099-01-{day:02}.db")), "from the future").unwrap();
    }
    let today = store.keep_daily_copy().unwrap().unwrap();
    assert!(today.exists(), "today's is not the oldest for being of today");
    assert_eq!(daily_copies(&db).unwrap().len(), KEPT);
}

/// A body that stops half-way is not waited for for ever.
#[test]
fn regress_a_body_half_sent_is_given_up() {
    let folder = tempfile::tempdir().unwrap();
    let serving = Serving::on(&folder.path().join("mine.db"));
    let mut half_sent = TcpStream::connect(&serving.address).unwrap();
    write!(
        half_sent,
        "POST /api/discs HTTP/1.1\r\nhost: {}\r\ncontent-length: 900\r\n\r\n{{",
        serving.address
    )
    .unwrap();
    let mut no_head = TcpStream::connect(&serving.address).unwrap();
    write!(no_head, "GET /api/dis").unwrap();
    let start = Instant::now();
    for mut stream in [half_sent, no_head] {
        let mut answer = String::new();
        stream.set_read_timeout(Some(Duration::from_secs(20))).unwrap();
        stream.read_to_string(&mut answer).unwrap();
        assert!(answer.starts_with("HTTP/1.1 408"), "{answer}");
    }
    assert!(start.elapsed() < Duration::from_secs(15), "{:?}", start.elapsed());
    assert!(add(&serving.address, "Teasel"), "others are served");
}

/// Five hundred requests a second for twenty seconds, each on a connection of its own, one in twenty a new disc; none refused or
/// lost.
#[test]
#[ignore = "a measurement; run by `cargo xtask bench`"]
fn load() {
    const CLIENTS: u64 = 10;
    const EACH_PER_S: u64 = 50;
    const SECONDS: u64 = 20;
    const NEW: u64 = 20;
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    demo::fill(&mut Store::open(&db).unwrap()).unwrap();
    let serving = Serving::on(&db);
    let begin = Instant::now() + Duration::from_millis(200);
    let clients: Vec<_> = (0..CLIENTS)
        .map(|client| {
            let address = serving.address.clone();
            std::thread::spawn(move || {
                let paths =
                    ["/api/discs", "/api/bags", "/api/bags/1/board", "/api/player", "/api/changes?most=10"];
                let (mut wrong, mut slowest) = (0, Duration::ZERO);
                for k in 0..EACH_PER_S * SECONDS {
                    let due = begin + Duration::from_micros(1_000_000 * k / EACH_PER_S);
                    sleep(due.saturating_duration_since(Instant::now()));
                    let good = if k % NEW == 0 {
                        add(&address, &format!("Teasel {client} {k}"))
                    } else {
                        let path = paths[(k + client) as usize % paths.len()];
                        send(&address, "GET", path, "")
                            .is_some_and(|answer| answer.starts_with("HTTP/1.1 200"))
                    };
                    wrong += u64::from(!good);
                    slowest = slowest.max(due.elapsed());
                }
                (wrong, slowest)
            })
        })
        .collect();
    let ended: Vec<(u64, Duration)> = clients.into_iter().map(|c| c.join().unwrap()).collect();
    let wrong: u64 = ended.iter().map(|e| e.0).sum();
    let slowest = ended.iter().map(|e| e.1).max().unwrap();
    let rate = (CLIENTS * EACH_PER_S * SECONDS) as f64 / begin.elapsed().as_secs_f64();
    println!(
        "load: {rate:.0} requests a second for {SECONDS} s, {wrong} wrong, the slowest {} ms",
        slowest.as_millis()
    );
    let written = names(&db).len() as u64 - 46;
    assert_eq!((wrong, written), (0, CLIENTS * EACH_PER_S * SECONDS / NEW));
}

/// Folders of demos that were killed are removed by the next; those of demos that run are not.
#[test]
fn regress_a_killed_demo_leaves_nothing_for_long() {
    let folder = tempfile::tempdir().unwrap();
    let demo = || {
        let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
        Serving::of(command.args(["demo", "--port", "0"]).env("TMPDIR", folder.path()))
    };
    let count = || std::fs::read_dir(folder.path()).unwrap().count();
    let killed = demo();
    killed.signal("KILL");
    killed.ended();
    assert_eq!(count(), 1);
    let (_one, _another) = (demo(), demo());
    assert_eq!(count(), 2, "the killed one's is gone, the others' stay");
}

#[test]
fn a_log_is_kept_where_it_is_wished() {
    let folder = tempfile::tempdir().unwrap();
    let (db, logs) = (folder.path().join("mine.db"), folder.path().join("logs"));
    let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
    command.args(["serve", "--new", "--port", "0", "--db"]).arg(&db).arg("--log").arg(&logs);
    let serving = Serving::of(&mut command);
    send(&serving.address, "GET", "/api/health", "").unwrap();
    serving.signal("TERM");
    serving.ended();
    let file = std::fs::read_dir(&logs).unwrap().next().unwrap().unwrap();
    let name = file.file_name().into_string().unwrap();
    assert!(name.starts_with("zinc-kite.") && name.ends_with(".log"), "{name}");
    let text = std::fs::read_to_string(file.path()).unwrap();
    assert!(!text.is_empty() && !text.contains('\u{1b}'), "{text}");
}

fn names_after_restart(db: &Path) -> std::collections::HashSet<String> {
    Store::open(db).unwrap().discs().unwrap().into_iter().map(|d| d.spec.name).collect()
}

#[test]
fn regress_a_second_program_on_the_file_is_told_who_has_it() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let first = Serving::on(&db);
    let second = run(&["serve", "--port", "0", "--db", db.to_str().unwrap()]);
    let words = String::from_utf8_lossy(&second.stderr).into_owned();
    assert!(!second.status.success());
    assert!(words.contains("is in use by another Zinc Kite"), "{words}");
    assert!(words.contains(&format!("process {}", first.child.id())), "{words}");
    // To look at it is allowed.
    let looked = run(&["analyse", "--db", db.to_str().unwrap()]);
    assert!(looked.status.success(), "{}", String::from_utf8_lossy(&looked.stderr));
    first.signal("TERM");
    first.ended();
    drop(Store::open(&db).unwrap());
}

#[test]
fn regress_a_mistyped_name_makes_no_file() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mien.db");
    let output = run(&["serve", "--db", db.to_str().unwrap()]);
    assert!(!output.status.success());
    assert!(String::from_utf8_lossy(&output.stderr).contains("add --new to make it"));
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 0);
}

/// Without a name the file is where this user's programs keep theirs, and the program says where.
#[test]
fn the_usual_file_is_in_the_data_folder() {
    let home = tempfile::tempdir().unwrap();
    let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
    command.args(["serve", "--port", "0"]).env("HOME", home.path()).env_remove("XDG_DATA_HOME");
    let mut child = command.stdout(Stdio::piped()).spawn().unwrap();
    let said = BufReader::new(child.stdout.take().unwrap()).lines().next().unwrap().unwrap();
    child.kill().unwrap();
    child.wait().unwrap();
    let path = PathBuf::from(said.strip_prefix("Your discs are in ").unwrap());
    assert!(path.starts_with(home.path()) && path.ends_with("zinc-kite.db") && path.exists(), "{said}");
}

/// A file with something overwritten in its middle is never served, and stays as it is.
#[test]
fn regress_a_damaged_file_is_refused_untouched() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    demo::fill(&mut Store::open(&db).unwrap()).unwrap();
    let mut bytes = std::fs::read(&db).unwrap();
    let pages = bytes.len() / 4096;
    for page in 1..pages {
        bytes[4096 * page..][..64].fill(0xA5);
    }
    std::fs::write(&db, &bytes).unwrap();
    let error = Store::open(&db).err().expect("it is damaged");
    assert!(matches!(error, StoreError::Damaged { .. }), "{error}");
    assert!(error.to_string().contains("Bring a copy back"), "{error}");
    assert_eq!(std::fs::read(&db).unwrap(), bytes);
}

/// Another program's file is not ours for having a fitting version, whichever it is.
#[test]
fn regress_a_foreign_file_with_a_fitting_version_is_refused() {
    let folder = tempfile::tempdir().unwrap();
    for version in 1..=VERSION as i64 {
        let db = folder.path().join(format!("cheese-{version}.db"));
        let foreign = Connection::open(&db).unwrap();
        foreign.execute_batch("CREATE TABLE cheese (name TEXT); INSERT INTO cheese VALUES ('blue')").unwrap();
        foreign.pragma_update(None, "user_version", version).unwrap();
        drop(foreign);
        let before = std::fs::read(&db).unwrap();
        assert!(matches!(Store::open(&db), Err(StoreError::NotOurs { .. })), "version {version}");
        assert_eq!(std::fs::read(&db).unwrap(), before);
    }
}

/// Before a file is brought to a newer format it is kept as it was.
#[test]
fn a_copy_is_kept_before_every_migration() {
    let folder = tempfile::tempdir().unwrap();
    for version in 1..VERSION {
        let db = folder.path().join(format!("old-{version}.db"));
        let mut old = Connection::open(&db).unwrap();
        migrations().to_version(&mut old, version).unwrap();
        old.execute("INSERT INTO bag (name, capacity) VALUES ('Winter', 9)", []).unwrap();
        drop(old);
        assert_eq!(Store::open(&db).unwrap().bags().unwrap().len(), 2);
        let kept =
            Connection::open(folder.path().join(format!("old-{version}.db.format-{version}"))).unwrap();
        let found: i64 = kept.query_row("PRAGMA user_version", [], |row| row.get(0)).unwrap();
        let bags: i64 = kept.query_row("SELECT count(*) FROM bag", [], |row| row.get(0)).unwrap();
        assert_eq!((found, bags), (version as i64, 2));
    }
}

/// What was written down before a table got another column is undone and done again all the same.
#[test]
fn regress_a_step_of_an_older_format_is_undone() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("old.db");
    let mut store = Store::open(&db).unwrap();
    let purlin =
        DiscSpec::plain("Hobb & Tiller", "Purlin", Numbers { speed: 7.0, glide: 5.0, turn: 0.0, fade: 2.0 });
    let id = store.add_disc(&purlin).unwrap();
    store.save_disc(id, &DiscSpec { mass_g: 168.0, ..purlin.clone() }).unwrap();
    drop(store);
    // As the program before these columns left it.
    let old = Connection::open(&db).unwrap();
    old.execute("UPDATE disc SET keeping = '{}', class = NULL", []).unwrap();
    for side in ["before", "after"] {
        let sql = format!(
            "UPDATE change_row SET {side} = json_remove({side}, '$.keeping', '$.class') WHERE of_table = 'disc' AND {side} IS NOT NULL"
        );
        old.execute(&sql, []).unwrap();
    }
    drop(old);
    let mut store = Store::open(&db).unwrap();
    let mass = |store: &Store| store.disc(id).unwrap().spec.mass_g;
    store.undo(None).unwrap();
    assert_eq!(mass(&store), 175.0);
    store.redo(None).unwrap();
    assert_eq!(mass(&store), 168.0);
    for _ in 0..2 {
        store.undo(None).unwrap();
    }
    assert!(store.discs().unwrap().is_empty());
}

/// Discs of a file of the time before the library are discs of moulds, and all that was known of them is.
#[test]
fn the_library_of_an_older_file_is_made_from_its_discs() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("old.db");
    let mut old = Connection::open(&db).unwrap();
    migrations().to_version(&mut old, 5).unwrap();
    for (name, mould, speed) in [("One", "Purlin", 7.0), ("Two", "PURLIN", 7.5), ("Three", "Sorrel", 8.1)] {
        old.execute(
            "INSERT INTO disc (name, maker, mould, plastic, mass_g, reference_mass_g, speed, glide, turn, fade, top, grade,
                 hard_hits, used_for, rim_cm, colour, notes)
             VALUES (?1, 'Hobb & Tiller', ?2, 'base', 171, 174, ?3, 5, -0.5, 2, 'flat', 'beat', 3, 'throwing', 1.7, '#102030', '')",
            (name, mould, speed),
        )
        .unwrap();
    }
    drop(old);
    let store = Store::open(&db).unwrap();
    let moulds: Vec<_> = store.moulds().unwrap().into_iter().map(|m| m.spec).collect();
    let told: Vec<_> = moulds.iter().map(|m| (m.name.as_str(), m.printed.speed, m.rim_cm)).collect();
    assert_eq!(told, [("PURLIN", 7.5, Some(1.7)), ("Sorrel", 8.1, Some(1.7))]);
    assert_eq!(moulds[0].reference_mass_g, 174.0);
    let discs = store.discs().unwrap();
    assert!(
        discs.len() == 3
            && discs.iter().all(|d| d.spec.keeping == Keeping::default() && d.spec.class.is_none())
    );
}

/// A file of the time when a log lay beside it: what is in the log is taken over.
#[test]
fn a_file_with_a_log_beside_it_is_taken_over_whole() {
    let folder = tempfile::tempdir().unwrap();
    let (db, logged) = (folder.path().join("old.db"), folder.path().join("logged.db"));
    let mut old = Connection::open(&db).unwrap();
    migrations().to_version(&mut old, 3).unwrap();
    old.pragma_update(None, "journal_mode", "WAL").unwrap();
    old.execute("INSERT INTO bag (name, capacity) VALUES ('Winter', 9)", []).unwrap();
    // As a killed program leaves them.
    for ending in ["", "-wal"] {
        let named = |path: &Path| PathBuf::from(format!("{}{ending}", path.display()));
        std::fs::copy(named(&db), named(&logged)).unwrap();
    }
    assert_eq!(Store::open(&logged).unwrap().bags().unwrap().len(), 2);
    assert!(!folder.path().join("logged.db-wal").exists());
}

#[test]
fn a_file_that_may_only_be_read_says_so() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    drop(Store::open(&db).unwrap());
    let mut permissions = std::fs::metadata(&db).unwrap().permissions();
    permissions.set_readonly(true);
    std::fs::set_permissions(&db, permissions).unwrap();
    // Whoever may do everything may write here too.
    if std::fs::File::options().write(true).open(&db).is_err() {
        let error = Store::open(&db).err().unwrap().to_string();
        assert!(error.contains("may only be read") || error.contains("may write there"), "{error}");
    }
    let _: Value =
        serde_json::from_slice(&run(&["analyse", "--json", "--db", db.to_str().unwrap()]).stdout).unwrap();
}

fn words(output: &Output) -> String {
    String::from_utf8_lossy(&output.stdout).into_owned() + &String::from_utf8_lossy(&output.stderr)
}

/// A copy made while the program runs brings everything back, and what was there in between is kept.
#[test]
fn a_backup_is_made_while_it_runs_and_brought_back_after() {
    let folder = tempfile::tempdir().unwrap();
    let (db, copy) = (folder.path().join("mine.db"), folder.path().join("safe.db"));
    let on = |what: &str| run(&[what, copy.to_str().unwrap(), "--db", db.to_str().unwrap()]);
    let early = on("backup");
    assert!(!early.status.success() && words(&early).contains("so nothing to copy"), "{}", words(&early));
    assert!(!copy.exists());
    let serving = Serving::on(&db);
    assert!(add(&serving.address, "Teasel"));
    let made = on("backup");
    assert!(made.status.success() && words(&made).contains("1 disc and 1 bag"), "{}", words(&made));
    assert!(words(&on("backup")).contains("and it stays as it is"));
    assert!(add(&serving.address, "Armilla"));
    assert!(words(&on("restore")).contains("is in use by another Zinc Kite"));
    assert_eq!(names(&db).len(), 2, "nothing was changed");
    serving.signal("TERM");
    serving.ended();
    let back = words(&on("restore"));
    assert_eq!(names(&db), ["Teasel"]);
    let kept = back.split("is kept in ").nth(1).unwrap().trim();
    assert_eq!(names(Path::new(kept)).len(), 2, "{back}");
}

/// A damaged database gives way to its copy; what is no copy changes nothing.
#[test]
fn only_a_whole_copy_is_brought_back() {
    let folder = tempfile::tempdir().unwrap();
    let (db, copy) = (folder.path().join("mine.db"), folder.path().join("safe.db"));
    demo::fill(&mut Store::open(&db).unwrap()).unwrap();
    Store::copy_of(&db).unwrap().back_up(&copy).unwrap();
    let whole = std::fs::read(&db).unwrap();
    for (name, bytes) in
        [("text.db", b"my notes, not a database ".repeat(40)), ("cut.db", whole[..9000].to_vec())]
    {
        let bad = folder.path().join(name);
        std::fs::write(&bad, bytes).unwrap();
        assert!(verified_copy(&bad, Some(&db)).is_err(), "{name}");
        assert_eq!(std::fs::read(&db).unwrap(), whole, "{name}");
    }
    std::fs::write(&db, &whole[..9000]).unwrap();
    let refused = run(&["serve", "--db", db.to_str().unwrap()]);
    assert!(words(&refused).contains("zinc-kite restore COPY"), "{}", words(&refused));
    restore(&db, &verified_copy(&copy, Some(&db)).unwrap().0).unwrap();
    assert_eq!(names(&db).len(), 46);
}

#[test]
fn a_copy_is_kept_every_day_and_the_oldest_let_go() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let store = Store::open(&db).unwrap();
    let today = store.keep_daily_copy().unwrap().expect("the first of the day");
    assert_eq!(store.keep_daily_copy().unwrap(), None, "one a day");
    assert!(names(&today).is_empty());
    let copies = today.parent().unwrap();
    std::fs::write(copies.join("my own.db"), "stays").unwrap();
    for day in 1..=20 {
        std::fs::write(copies.join(format!("2020-01-{day:02}.db")), "old").unwrap();
    }
    std::fs::remove_file(&today).unwrap();
    store.keep_daily_copy().unwrap();
    let left = daily_copies(&db).unwrap();
    assert_eq!((left.len(), left.last()), (KEPT, Some(&today)));
    assert!(left[0].ends_with("2020-01-08.db"), "{left:?}");
    assert!(copies.join("my own.db").exists());
    assert_eq!(Store::in_memory().unwrap().keep_daily_copy().unwrap(), None);
}
