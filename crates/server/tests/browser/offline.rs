//! Where the program is out of reach: what was last known can be read, and what is tapped is not lost.

use std::path::Path;

use serde_json::{Value, json};
use zinc_kite::store::Store;
use zinc_kite::store::given_key::GivenKey;

use crate::harness::{Browser, Running, new_profile, program_at};

/// The demo with two holes of its course, so that the card is soon there.
fn fill(db: &Path) {
    let mut store = Store::open(db).unwrap();
    zinc_kite::demo::fill(&mut store).unwrap();
    let mut course = store.courses().unwrap().remove(0);
    course.spec.holes.truncate(2);
    store.save_course(course.id, &course.spec).unwrap();
}

fn serve(db: &Path, port: &str) -> (Running, String) {
    program_at(&["serve", "--db", db.to_str().unwrap()], port)
}

async fn hole(b: &Browser, key: &str, number: u32) -> Value {
    b.fetched(&format!("/api/rounds/{key}/holes/{number}")).await
}

/// A round is begun, the program goes, holes are told, the browser is killed as it stands. With the program still gone all can be
/// read and the taps are there; when it comes back they reach it, and what another window told meanwhile is asked about.
#[tokio::test]
async fn taps_out_of_reach_survive_a_killed_browser() {
    let (folder, profile) = (tempfile::tempdir().unwrap(), new_profile());
    let db = folder.path().join("field.db");
    fill(&db);
    let (running, address) = serve(&db, "0");
    let port = address.rsplit(':').next().unwrap().to_owned();
    let b = Browser::keeping(&profile, &address).await;
    b.size(390, 844).await;
    b.open("/round?view=play").await;
    b.wait("[data-test='begin-round']:not([disabled])").await;
    b.click("[data-test='begin-round']").await;
    b.wait("[data-test='play-hole']").await;
    b.wait("[data-test='field-note'][data-state='kept']").await;
    let hindrances = b.devtools("Page.getInstallabilityErrors", json!({})).await;
    assert_eq!(hindrances["installabilityErrors"], json!([]), "it can be installed");
    let key = b.eval("return new URLSearchParams(location.search).get('played')").await;
    let key = key.as_str().unwrap().to_owned();
    assert_eq!(hole(&b, &key, 1).await["strokes"], Value::Null, "the round has reached the program");

    drop(running);
    for tap in ["[data-came='left']", "[data-left='20']", "[data-strokes='3']", "[data-test='hole-next']"] {
        b.click(tap).await;
    }
    b.wait("[data-test='out-of-reach']").await;
    b.click("[data-strokes='4']").await;
    b.says("7, par 6").await;
    b.says("2 changes wait").await;
    b.kill();

    // Another window told the second hole before the taps come through.
    {
        let mut store = Store::open(&db).unwrap();
        let key = GivenKey(key.clone());
        let mut told = store.round(&key).unwrap().spec.holes.remove(1);
        told.strokes = Some(5);
        store.play_hole(&key, 1, &told).unwrap();
    }
    let b = Browser::keeping(&profile, &address).await;
    b.size(390, 844).await;
    b.open(&format!("/round?view=play&played={key}")).await;
    b.says("7, par 6").await;
    b.says("Shown is what it said last").await;
    for (page, there) in [
        ("/", "[data-disc]"),
        ("/lines", "[data-line]"),
        ("/round", "[data-card-hole='2']"),
        ("/shelf", ".page"),
    ] {
        b.open(page).await;
        b.wait(there).await;
        b.says("does not answer").await;
    }
    // A session in the field is begun and a throw logged where nobody answers.
    b.open("/field").await;
    b.wait("[data-session='demo-ladder']").await;
    b.click("[data-test='begin-session']").await;
    b.fill("input[data-test='session-place']", "Out there").await;
    b.click("[data-test='save-session']").await;
    b.click("[data-test='log-throw'] [data-disc]").await;
    b.fill("[data-test='throw-distance'] input", "77").await;
    b.click("[data-test='keep-throw']").await;
    b.says("77.0 m").await;
    let session = b.eval("return new URLSearchParams(location.search).get('session')").await;
    b.open("/").await;
    b.wait("[data-disc]").await;
    let benched = b
        .eval("const disc = document.querySelector('[data-disc]'); disc.focus(); return disc.dataset.disc")
        .await;
    b.key("b").await;
    b.says("as soon as Zinc Kite answers").await;

    let (_running, _) = serve(&db, &port);
    b.wait("[data-test='tap-clash']").await;
    b.until("in reach again", "!document.querySelector(\"[data-test='out-of-reach']\")").await;
    let first = hole(&b, &key, 1).await;
    assert_eq!((&first["came_of"], &first["strokes"]), (&json!("left"), &json!(3)));
    assert_eq!(first["left_m"].as_f64(), Some(20.0));
    assert_eq!(hole(&b, &key, 2).await["strokes"], 5, "nothing is overwritten unseen");
    b.click("[data-test='tap-clash'] [data-test='keep-mine']").await;
    b.until("settled", "!document.querySelector(\"[data-test='tap-clash']\")").await;
    // The question is gone as soon as it is answered, and what was told after it did not wait for the answer: each arrives in its time.
    b.fetched_once(&format!("/api/rounds/{key}/holes/2"), |hole| hole["strokes"] == 4).await;
    let benched: i64 = benched.as_str().unwrap().parse().unwrap();
    b.fetched_once("/api/bags", |bags| {
        let carried = bags[0]["carried"].as_array().unwrap();
        carried.len() > 10 && carried.iter().all(|c| c["disc_id"] != benched)
    })
    .await;
    let session = session.as_str().unwrap();
    let logged = b
        .fetched_once(&format!("/api/field/sessions/{session}"), |s| {
            s["throws"].as_array().is_some_and(|t| !t.is_empty())
        })
        .await;
    assert_eq!((&logged["place"], &logged["throws"][0]["distance_m"]), (&json!("Out there"), &json!(77)));
}
