//! The field log: sessions begun and throws logged out of reach, told anew, taken back, put together; what they do to the discs.

use crate::http::{Served, ask, ask_with, served};
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::format::records::{read, write};
use zinc_kite::store::Store;

const SESSIONS: &str = "/api/field/sessions";
const KEY: &str = "s-0123456789";

fn at(key: &str) -> String {
    format!("{SESSIONS}/{key}")
}

async fn begin(app: &impl Served, key: &str, more: Value) {
    let mut session = json!({ "key": key, "place": "Vell sands", "date": "2026-05-03" });
    session.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    let begun = ask(app, "POST", SESSIONS, &session.to_string()).await;
    assert_eq!(begun.status.as_u16(), 201, "{}", begun.text);
}

/// A carried disc of the demo, counted in throws.
async fn counted(app: &impl Served) -> Value {
    let bag = ask(app, "GET", "/api/bags/1", "").await.json();
    let path = format!("/api/discs/{}", bag["carried"][3]["disc_id"]);
    let wear = r#"{"wear":{"grade":"fresh","throws":40,"hard_hits":2}}"#;
    ask(app, "PUT", &path, wear).await.json();
    ask(app, "GET", &path, "").await.json()
}

async fn now(app: &impl Served, disc: &Value) -> Value {
    ask(app, "GET", &format!("/api/discs/{}", disc["id"]), "").await.json()
}

fn throw(key: &str, disc: &Value, more: Value) -> String {
    let mut throw = json!({ "key": key, "disc_id": disc["id"], "disc_name": disc["name"], "style": "backhand",
        "distance_m": 81.4, "off_deg": 2.5 });
    throw.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    throw.to_string()
}

/// Logged twice is logged once; each throw has a version of its own and wears its disc by a throw, a hit by ten; what is told anew or
/// taken back wears no more.
#[actix_web::test]
async fn a_throw_is_logged_wears_its_disc_and_is_taken_back() {
    let app = served(true).await;
    let disc = counted(&app).await;
    begin(&app, KEY, json!({})).await;
    let throws = format!("{}/throws", at(KEY));
    let before = ask(&app, "GET", &at(KEY), "").await.json()["etag"].as_str().unwrap().to_owned();
    let logged = ask(&app, "POST", &throws, &throw("throw-001", &disc, json!({ "tags": ["hit"] }))).await;
    assert_eq!(logged.status.as_u16(), 201, "{}", logged.text);
    let again = ask(&app, "POST", &throws, &throw("throw-001", &disc, json!({ "distance_m": 10.0 }))).await;
    assert_eq!((again.status.as_u16(), &again.json()["distance_m"]), (201, &json!(81.4)));
    let wear = async || {
        let wear = now(&app, &disc).await["wear"].clone();
        (wear["throws"].as_i64().unwrap(), wear["hard_hits"].as_i64().unwrap())
    };
    assert_eq!(wear().await, (41, 3));
    let one = format!("{throws}/throw-001");
    assert_eq!(ask_with(&app, "PUT", &one, r#"{"tags":[]}"#, &[]).await.status.as_u16(), 428);
    let etag = logged.json()["etag"].as_str().unwrap().to_owned();
    let told = ask_with(&app, "PUT", &one, r#"{"tags":[]}"#, &[("if-match", &etag)]).await;
    assert_eq!((told.status.as_u16(), wear().await), (200, (41, 2)), "{}", told.text);
    let stale = ask_with(&app, "PUT", &one, r#"{"off_deg":4}"#, &[("if-match", &etag)]).await;
    assert_eq!((stale.status.as_u16(), &stale.json()["now"]["tags"]), (412, &json!([])));
    // Whoever has the session as it was before the throw is given it anew.
    let shown = ask_with(&app, "GET", &at(KEY), "", &[("if-none-match", &before)]).await.json();
    assert_eq!(shown["spreads"][0]["distance_m"]["mean"], 81.4);
    // The record says what was done, and takes it back with the wear.
    let changes = ask(&app, "GET", "/api/changes", "").await.json();
    assert!(changes["changes"][0]["things"].to_string().contains("throw of"), "{}", changes["changes"][0]);
    assert_eq!(ask(&app, "DELETE", &one, "").await.status.as_u16(), 204);
    assert_eq!(wear().await, (40, 2));
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!((wear().await, ask(&app, "GET", &one, "").await.status.as_u16()), ((41, 2), 200));
    // A session that is deleted was never thrown, and a late tap does not bring its throw back.
    assert_eq!(ask(&app, "DELETE", &at(KEY), "").await.status.as_u16(), 204);
    assert_eq!(wear().await, (40, 2));
    assert_eq!(ask(&app, "POST", &throws, &throw("throw-002", &disc, json!({}))).await.status.as_u16(), 404);
    let session = json!({ "key": KEY, "place": "Vell sands", "date": "2026-05-03" }).to_string();
    assert_eq!(ask(&app, "POST", SESSIONS, &session).await.status.as_u16(), 404);
}

/// A disc judged by eye is counted from its first logged throw on, and hardly changes by it.
#[actix_web::test]
async fn a_disc_judged_by_eye_is_counted_from_then_on() {
    let app = served(true).await;
    let disc = counted(&app).await;
    ask(&app, "PUT", &format!("/api/discs/{}", disc["id"]), r#"{"wear":{"grade":"seasoned","throws":null}}"#)
        .await;
    let before = now(&app, &disc).await["wear_share"].as_f64().unwrap();
    begin(&app, KEY, json!({})).await;
    ask(&app, "POST", &format!("{}/throws", at(KEY)), &throw("throw-001", &disc, json!({}))).await;
    let after = now(&app, &disc).await;
    assert!(after["wear"]["throws"].as_i64().unwrap() > 100, "{}", after["wear"]);
    let more = after["wear_share"].as_f64().unwrap() - before;
    assert!((0.0..0.005).contains(&more), "{more}");
}

/// A disc lost in the field is lost with its place and leaves the bag; told by mistake, or of another disc, it is back.
#[actix_web::test]
async fn a_disc_lost_in_the_field_is_lost_until_it_is_found() {
    let app = served(true).await;
    let disc = counted(&app).await;
    begin(&app, KEY, json!({})).await;
    let one = format!("{}/throws/throw-001", at(KEY));
    let lost = throw("throw-001", &disc, json!({ "tags": ["lost"], "distance_m": null }));
    ask(&app, "POST", &format!("{}/throws", at(KEY)), &lost).await;
    let keeping = async || now(&app, &disc).await["keeping"].clone();
    assert_eq!(
        (&keeping().await["status"], &keeping().await["place"]),
        (&json!("lost"), &json!("Vell sands"))
    );
    let is_carried = async || {
        let bag = ask(&app, "GET", "/api/bags/1", "").await.json();
        bag["carried"].as_array().unwrap().iter().any(|c| c["disc_id"] == disc["id"])
    };
    assert!(!is_carried().await);
    // It was another disc: this one is back where it was, the other is lost.
    let other = ask(&app, "GET", "/api/bags/1", "").await.json()["carried"][0]["disc_id"].clone();
    let told = json!({ "disc_id": other, "disc_name": "the other" }).to_string();
    assert_eq!(ask(&app, "PUT", &one, &told).await.status.as_u16(), 200);
    assert!(is_carried().await);
    assert_eq!(keeping().await["status"], disc["keeping"]["status"]);
    let status = async || {
        ask(&app, "GET", &format!("/api/discs/{other}"), "").await.json()["keeping"]["status"].clone()
    };
    assert_eq!(status().await, "lost");
    ask(&app, "PUT", &one, r#"{"tags":[]}"#).await;
    assert_ne!(status().await, "lost");
}

/// Rests told by their coordinates lie where the tee and the aim of the session say, also when those are told afterwards.
#[actix_web::test]
async fn coordinates_become_distance_and_angle() {
    let app = served(true).await;
    let disc = counted(&app).await;
    begin(&app, KEY, json!({})).await;
    let rest = json!({ "distance_m": null, "off_deg": null, "at": { "latitude_deg": 50.0009, "longitude_deg": 3.0 } });
    ask(&app, "POST", &format!("{}/throws", at(KEY)), &throw("throw-001", &disc, rest)).await;
    let one = format!("{}/throws/throw-001", at(KEY));
    assert_eq!(ask(&app, "GET", &one, "").await.json()["distance_m"], Value::Null);
    let tee = json!({ "tee": { "latitude_deg": 50.0, "longitude_deg": 3.0 }, "aim_deg": 350.0 });
    let saved = ask(&app, "PUT", &at(KEY), &tee.to_string()).await;
    assert_eq!(saved.status.as_u16(), 200, "{}", saved.text);
    let placed = ask(&app, "GET", &one, "").await.json();
    // 0.0009° of latitude there are 100.1 m on the WGS 84 ellipsoid (111.229 km a degree, from memory).
    assert!((placed["distance_m"].as_f64().unwrap() - 100.1).abs() < 0.1, "{placed}");
    assert!((placed["off_deg"].as_f64().unwrap() + 10.0).abs() < 1e-6, "to the right of the aim: {placed}");
}

/// Two sessions become one: every throw is there, none twice, and the discs are as worn as before.
#[actix_web::test]
async fn two_sessions_become_one() {
    let app = served(true).await;
    let disc = counted(&app).await;
    for (session, key) in [(KEY, "throw-001"), ("s-another-one", "throw-002")] {
        begin(&app, session, json!({})).await;
        ask(&app, "POST", &format!("{}/throws", at(session)), &throw(key, &disc, json!({}))).await;
    }
    let before = now(&app, &disc).await["wear"].clone();
    let merge = |from: &str| json!({ "from": from }).to_string();
    let one = ask(&app, "POST", &format!("{}/merge", at(KEY)), &merge("s-another-one")).await;
    assert_eq!(
        (one.status.as_u16(), one.json()["throws"].as_array().unwrap().len()),
        (200, 2),
        "{}",
        one.text
    );
    assert_eq!(now(&app, &disc).await["wear"], before);
    assert_eq!(ask(&app, "GET", &at("s-another-one"), "").await.status.as_u16(), 404);
    let missing = ask(&app, "POST", &format!("{}/merge", at(KEY)), &merge("s-another-one")).await;
    assert_eq!(missing.status.as_u16(), 404);
    let season = ask(&app, "GET", &format!("/api/field/discs/{}", disc["id"]), "").await.json();
    assert_eq!(season[0]["distance_m"]["n"], 2);
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(
        ask(&app, "GET", &at("s-another-one"), "").await.json()["throws"].as_array().unwrap().len(),
        1
    );
}

/// What a disc really does is told from its throws; without any its sum is.
#[actix_web::test]
async fn a_discs_numbers_are_told_from_its_throws() {
    let app = served(true).await;
    let discs = ask(&app, "GET", "/api/discs", "").await.json();
    let id = |name: &str| {
        let disc = discs.as_array().unwrap().iter().find(|d| d["name"] == name).unwrap();
        disc["id"].clone()
    };
    let found = ask(&app, "GET", &format!("/api/field/discs/{}/numbers", id("Purlin")), "").await.json();
    assert_eq!((&found["used"], &found["is_enough"]), (&json!(11), &json!(true)), "{found}");
    let fade = |of: &str| found["fade"][of].as_f64().unwrap();
    assert!(
        fade("low") < fade("sum") && fade("sum") < fade("high"),
        "thrown by the simulator as its sum: {found}"
    );
    let none = ask(&app, "GET", &format!("/api/field/discs/{}/numbers", id("Gnomon")), "").await.json();
    assert!(none["words"].as_str().unwrap().starts_with("No throw"), "{none}");
    assert_eq!(ask(&app, "GET", "/api/field/discs/9999/numbers", "").await.status.as_u16(), 404);
}

/// An arm is told from its throws, and told to the player as it was found it is as told; putts say nothing of an arm.
#[actix_web::test]
async fn an_arm_is_told_from_its_throws() {
    let app = served(true).await;
    let arm = ask(&app, "GET", "/api/field/arm/backhand", "").await.json();
    let speed = &arm["found"]["speed_m_s"];
    let figure = |of: &Value, what: &str| of[what].as_f64().unwrap();
    assert!(figure(speed, "low") < figure(speed, "told") && figure(speed, "told") < figure(speed, "high"));
    // Of the throws of both sessions, those of the trial are aimed at its target.
    assert_eq!((&arm["found"]["used"], &arm["found"]["left_out"]), (&json!(28), &json!(18)), "{arm}");
    assert_eq!(arm["found"]["distances"].as_array().unwrap().len(), 4);
    assert_eq!((&arm["honest"]["in_rounds"], &arm["honest"]["is_off"]), (&json!(9), &json!(false)));
    let told = ask(&app, "PUT", "/api/player", &arm["found"]["as_found"].to_string()).await;
    assert_eq!(told.status.as_u16(), 200, "{}", told.text);
    let again = ask(&app, "GET", "/api/field/arm/backhand", "").await.json();
    let after = &again["found"]["speed_m_s"];
    assert!((figure(after, "told") - figure(speed, "found")).abs() < 0.01, "{after}");
    let forehand = ask(&app, "GET", "/api/field/arm/forehand", "").await.json();
    assert_eq!(forehand["found"]["used"], 0, "{forehand}");
    let putt = ask(&app, "GET", "/api/field/arm/putt", "").await;
    assert_eq!((putt.status.as_u16(), &putt.json()["field"]), (422, &json!("style")), "{}", putt.text);
    assert_eq!(ask(&app, "GET", "/api/field/arm/kick", "").await.status.as_u16(), 400);
}

/// A line in question has its own gates and its own aim: throws for it say how often it is made, and how far the disc goes.
#[actix_web::test]
async fn throws_for_a_line_say_whether_its_chance_is_honest() {
    let app = served(true).await;
    let disc = counted(&app).await;
    let lines = ask(&app, "GET", "/api/lines", "").await.json();
    let line = lines.as_array().unwrap().iter().find(|l| l["key"] == "standstill").unwrap().clone();
    begin(&app, KEY, json!({})).await;
    for (k, distance_m) in [line["distance_m"].as_f64().unwrap(), 15.0].into_iter().enumerate() {
        let more = json!({ "line": "standstill", "distance_m": distance_m, "off_deg": 0.0 });
        let it = throw(&format!("throw-{k:03}"), &disc, more);
        ask(&app, "POST", &format!("{}/throws", at(KEY)), &it).await;
    }
    let honest = ask(&app, "GET", "/api/field/arm/backhand", "").await.json()["honest"].clone();
    assert_eq!(honest["in_field"], 2, "{honest}");
    let made: f64 = honest["made"].as_f64().unwrap() * 11.0;
    assert!((made - 3.0).abs() < 1e-9, "one of the field and two of the round: {honest}");
}

/// A trial says what its throws say and which are left; a session without one says nothing; what is no trial is refused by its field.
#[actix_web::test]
async fn a_trial_says_what_its_throws_say() {
    let app = served(true).await;
    let path = format!("{}/trial", at("demo-approach"));
    let says = ask(&app, "GET", &path, "").await.json();
    assert_eq!(says["discs"].as_array().unwrap().len(), 3);
    assert_eq!(says["left"].as_array().unwrap().len(), 12);
    assert!(says["best"].is_u64() && says["words"][0].as_str().unwrap().starts_with("For 45 m"), "{says}");
    let next = says["left"][0].clone();
    let mut it = next.clone();
    it["key"] = json!("throw-of-trial");
    it["distance_m"] = json!(44.0);
    it["off_deg"] = json!(1.0);
    it.as_object_mut().unwrap().remove("wind");
    let logged = ask(&app, "POST", &format!("{}/throws", at("demo-approach")), &it.to_string()).await;
    assert_eq!(logged.status.as_u16(), 201, "{}", logged.text);
    let left = ask(&app, "GET", &path, "").await.json()["left"].clone();
    assert_eq!((left.as_array().unwrap().len(), &left[0]), (11, &says["left"][1]));
    assert!(ask(&app, "GET", &format!("{}/trial", at("demo-ladder")), "").await.json().is_null());
    let trial = ask(&app, "GET", &at("demo-approach"), "").await.json()["trial"].clone();
    let mut endless = trial.clone();
    endless["each"] = json!(500);
    let refused = ask(&app, "PUT", &at("demo-approach"), &json!({ "trial": endless }).to_string()).await;
    assert_eq!(
        (refused.status.as_u16(), &refused.json()["field"]),
        (422, &json!("each")),
        "{}",
        refused.text
    );
    // A disc that is deleted stays a candidate by its name, and its throws count.
    let id = trial["candidates"][1]["disc_id"].clone();
    ask(&app, "DELETE", &format!("/api/discs/{id}"), "").await;
    let after = ask(&app, "GET", &path, "").await.json();
    // The throw that was logged was its.
    assert_eq!(
        (&after["discs"][1]["disc_name"], &after["discs"][1]["throws"]),
        (&json!("Plumb"), &json!(13))
    );
}

/// What cannot be is refused by its field, and nothing is logged.
#[rstest]
#[case(json!({ "distance_m": 900.0 }), "distance_m")]
#[case(json!({ "distance_m": -3.0 }), "distance_m")]
#[case(json!({ "off_deg": 200.0 }), "off_deg")]
#[case(json!({ "disc_name": " " }), "disc_name")]
#[case(json!({ "wind": { "wind_m_s": 90.0 } }), "wind_m_s")]
#[case(json!({ "seen": { "apex_m": -1.0 } }), "apex_m")]
#[case(json!({ "at": { "latitude_deg": 95.0, "longitude_deg": 0.0 } }), "latitude_deg")]
#[case(json!({ "key": "No!" }), "key")]
#[actix_web::test]
async fn an_impossible_throw_is_refused(#[case] more: Value, #[case] field: &str) {
    let app = served(true).await;
    let disc = counted(&app).await;
    begin(&app, KEY, json!({})).await;
    let throws = format!("{}/throws", at(KEY));
    let refused = ask(&app, "POST", &throws, &throw("throw-001", &disc, more)).await;
    assert_eq!((refused.status.as_u16(), &refused.json()["field"]), (422, &json!(field)), "{}", refused.text);
    assert!(ask(&app, "GET", &at(KEY), "").await.json()["throws"].as_array().unwrap().is_empty());
}

/// A throw of a disc that was deleted since stays, with the name of the disc.
#[actix_web::test]
async fn throws_of_a_deleted_disc_stay() {
    let app = served(true).await;
    let disc = counted(&app).await;
    begin(&app, KEY, json!({})).await;
    ask(&app, "POST", &format!("{}/throws", at(KEY)), &throw("throw-001", &disc, json!({}))).await;
    ask(&app, "DELETE", &format!("/api/discs/{}", disc["id"]), "").await;
    let one = format!("{}/throws/throw-001", at(KEY));
    assert_eq!(ask(&app, "GET", &one, "").await.json()["disc_name"], disc["name"]);
    assert_eq!(ask(&app, "PUT", &one, r#"{"tags":["hit","lost"]}"#).await.status.as_u16(), 200);
    assert_eq!(ask(&app, "DELETE", &one, "").await.status.as_u16(), 204);
}

/// The first throw on a hole of a round wears its disc as one in the field does.
#[actix_web::test]
async fn a_rounds_first_throw_wears_its_disc() {
    let app = served(true).await;
    let disc = counted(&app).await;
    let pick = json!({ "disc_id": disc["id"], "disc_name": disc["name"] });
    let hole = json!({ "name": "1", "par": 3, "expected": 2.8 });
    let round =
        json!({ "key": "r-0123456789", "course": "Harrier Moor", "date": "2026-05-03", "holes": [hole] });
    ask(&app, "POST", "/api/rounds", &round.to_string()).await;
    let first = "/api/rounds/r-0123456789/holes/1";
    let throws = async || now(&app, &disc).await["wear"]["throws"].clone();
    ask(&app, "PUT", first, &json!({ "threw": pick, "came_of": "hit" }).to_string()).await;
    assert_eq!((throws().await, now(&app, &disc).await["wear"]["hard_hits"].clone()), (json!(41), json!(3)));
    ask(&app, "PUT", first, r#"{"strokes":3}"#).await;
    assert_eq!(throws().await, 41, "told once");
    ask(&app, "PUT", first, r#"{"threw":null}"#).await;
    assert_eq!(throws().await, 40);
    ask(&app, "PUT", first, &json!({ "threw": pick }).to_string()).await;
    ask(&app, "DELETE", "/api/rounds/r-0123456789", "").await;
    assert_eq!(throws().await, 40, "a round that was never played");
}

/// Sessions and throws are among all records, by the names of their discs, and come back from them.
#[test]
fn sessions_go_with_all_records() {
    let mut store = Store::in_memory().unwrap();
    zinc_kite::demo::fill(&mut store).unwrap();
    let before = store.records().unwrap();
    assert_eq!(before.sessions.len(), 2);
    assert_eq!(before.sessions[0].throws[0].spec.disc_id, None, "numbers of discs are of this shelf only");
    let candidates = |store: &Store| {
        let key = zinc_kite::store::given_key::GivenKey("demo-approach".into());
        store.session(&key).unwrap().spec.trial.unwrap().candidates
    };
    assert!(before.sessions[0].session.spec.trial.as_ref().unwrap().candidates[0].disc_id.is_none());
    let text = write(before.clone()).unwrap();
    let mut other = Store::in_memory().unwrap();
    other.replace_records(&read(text.as_bytes()).unwrap()).unwrap();
    assert_eq!(other.records().unwrap().sessions, before.sessions);
    let discs = other.discs().unwrap();
    let newel = discs.iter().find(|d| d.spec.name == "Newel").unwrap();
    assert_eq!(candidates(&other)[0].disc_id, Some(newel.id));
    assert_eq!(other.throws_of(newel.id).unwrap().len(), 12);
    // A key that comes twice is told.
    let mut twice = before;
    let again = twice.sessions[0].throws[0].clone();
    twice.sessions[1].throws.push(again);
    let problems = read(write(twice).unwrap().as_bytes()).unwrap_err();
    assert!(problems[0].words.contains("comes again"), "{problems:?}");
}

/// Each throw of a session is read by its key, what cannot be read is left out; a throw that is only told is read too, and nothing of it
/// is kept.
#[actix_web::test]
async fn a_throw_says_what_its_release_did() {
    let app = served(true).await;
    let path = format!("{}/reading", at("demo-ladder"));
    let read = ask(&app, "GET", &path, "").await.json();
    let throws = read["throws"].as_array().unwrap();
    assert_eq!((throws.len(), &throws[0]["key"]), (28, &json!("demo-ladder-00")));
    assert!(throws.iter().all(|t| !t["reading"]["cue"].as_str().unwrap().is_empty()));
    assert_eq!((&read["styles"][0]["read"], &read["styles"][0]["habit"]), (&json!(28), &Value::Null));
    assert!(read["form"]["words"].as_str().unwrap().starts_with("Throw "));

    let session = ask(&app, "GET", &at("demo-ladder"), "").await.json();
    let mut told = session["throws"][3].clone();
    told["seen"] = json!({ "first": "right", "height": "higher", "landed": "left_edge" });
    let one = ask(&app, "POST", &format!("{}/read", at("demo-ladder")), &told.to_string()).await.json();
    let shares: f64 = one["readings"].as_array().unwrap().iter().map(|r| r["share"].as_f64().unwrap()).sum();
    assert!((shares - 1.0).abs() < 1e-9);
    assert!(one["flown"]["path"].as_array().unwrap().len() > 5 && one["turns_left"] == json!(false));
    let after = ask(&app, "GET", &at("demo-ladder"), "").await.json();
    assert_eq!(after["etag"], session["etag"], "reading keeps nothing");

    begin(&app, KEY, json!({})).await;
    let empty = ask(&app, "GET", &format!("{}/reading", at(KEY)), "").await.json();
    assert_eq!((&empty["throws"], &empty["styles"]), (&json!([]), &json!([])));
}

/// What cannot be read is refused by name: a disc that is gone, a distance that nobody throws, a word that is none.
#[rstest]
#[case(json!({ "disc_id": null }), 422, "a disc of the shelf")]
#[case(json!({ "disc_id": 99_999 }), 404, "99999")]
#[case(json!({ "distance_m": 900.0 }), 422, "distance_m")]
#[case(json!({ "seen": { "landed": "softly" } }), 400, "softly")]
#[actix_web::test]
async fn what_cannot_be_read_is_refused(#[case] more: Value, #[case] status: u16, #[case] says: &str) {
    let app = served(true).await;
    let mut told = ask(&app, "GET", &at("demo-ladder"), "").await.json()["throws"][0].clone();
    told.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    let got = ask(&app, "POST", &format!("{}/read", at("demo-ladder")), &told.to_string()).await;
    assert_eq!(got.status.as_u16(), status, "{}", got.text);
    assert!(got.text.contains(says), "{}", got.text);
}

/// A rest that was guessed measures nothing: neither how a disc spreads nor what it really does.
#[actix_web::test]
async fn a_guess_measures_nothing() {
    let app = served(true).await;
    let disc = counted(&app).await;
    begin(&app, KEY, json!({})).await;
    for k in 0..4 {
        let key = format!("throw-00{k}");
        let tags = if k < 3 { json!(["by_eye"]) } else { json!([]) };
        let body = throw(&key, &disc, json!({ "tags": tags }));
        assert_eq!(ask(&app, "POST", &format!("{}/throws", at(KEY)), &body).await.status.as_u16(), 201);
    }
    let session = ask(&app, "GET", &at(KEY), "").await.json();
    assert_eq!(session["spreads"][0]["distance_m"]["n"], 1, "{}", session["spreads"]);
    let read = ask(&app, "GET", &format!("{}/reading", at(KEY)), "").await.json();
    assert_eq!((read["throws"].as_array().unwrap().len(), &read["styles"][0]["read"]), (4, &json!(1)));
}

/// What errors cost is told with a drill for each; the log says what it knows of faster discs, of the scatter and of the load, and no more.
#[actix_web::test]
async fn practice_is_told_from_the_season_and_the_log() {
    let app = served(true).await;
    let told = ask(&app, "GET", "/api/bags/1/practice", "").await.json();
    assert!(told["words"].as_str().unwrap().starts_with("Practise "), "{told}");
    let errors = told["errors"].as_array().unwrap();
    assert!(errors.len() > 5 && errors.iter().all(|e| e["drill"]["throws"].as_i64().unwrap() >= 8));
    assert_eq!(ask(&app, "GET", "/api/bags/99/practice", "").await.status.as_u16(), 404);

    let log = ask(&app, "GET", "/api/field/practice/backhand", "").await.json();
    assert_eq!(log["ready"]["is_ready"], false, "her discs of speed 7 go 82 m: {log}");
    assert_eq!(log["progress"]["months"].as_array().unwrap().len(), 1);
    let load = |log: &Value, style: &str| {
        log["loads"].as_array().unwrap().iter().find(|l| l["style"] == style).cloned().unwrap()
    };
    assert_eq!(load(&log, "forehand")["last_week"], 18);
    // Many more forehands within the week are cautioned.
    let disc = counted(&app).await;
    for k in 0..40 {
        let body = throw(&format!("much-{k:04}"), &disc, json!({ "style": "forehand" }));
        ask(&app, "POST", &format!("{}/throws", at("demo-approach")), &body).await;
    }
    let after = ask(&app, "GET", "/api/field/practice/forehand", "").await.json();
    assert_eq!(load(&after, "forehand")["is_much"], true, "{after}");

    let empty = served(false).await;
    let nothing = ask(&empty, "GET", "/api/field/practice/forehand", "").await.json();
    assert_eq!((&nothing["ready"]["is_ready"], &nothing["progress"]["months"]), (&Value::Null, &json!([])));
    assert_eq!(ask(&empty, "GET", "/api/field/practice/putt", "").await.status.as_u16(), 422);
}
