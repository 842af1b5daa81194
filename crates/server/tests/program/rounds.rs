//! Rounds that were played: begun out of reach, told hole by hole, lost discs among it.

use crate::http::{Served, ask, ask_with, served};
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::format::records::{read, write};
use zinc_kite::store::Store;
use zinc_kite::store::rounds::Round;

const KEY: &str = "r-0123456789";

fn pick(disc: &Value) -> Value {
    json!({ "disc_id": disc["id"], "disc_name": disc["name"], "style": "backhand", "chance": 0.6, "strokes": 2.8,
        "made": 2.5, "missed": 3.25, "out": null })
}

fn round(disc: &Value) -> Value {
    let hole = |name: &str| json!({ "name": name, "par": 3, "expected": 2.8, "card": pick(disc) });
    json!({ "key": KEY, "course": "Harrier Moor", "date": "2026-05-03", "bag": "Main bag", "spread": 1.4,
        "holes": [hole("1"), hole("2")] })
}

/// A carried disc of the demo.
async fn carried(app: &impl Served) -> Value {
    let bag = ask(app, "GET", "/api/bags/1", "").await.json();
    let id = &bag["carried"][3]["disc_id"];
    ask(app, "GET", &format!("/api/discs/{id}"), "").await.json()
}

async fn is_carried(app: &impl Served, disc: &Value) -> bool {
    let bag = ask(app, "GET", "/api/bags/1", "").await.json();
    bag["carried"].as_array().unwrap().iter().any(|c| c["disc_id"] == disc["id"])
}

/// Begun twice is begun once; each hole has a version of its own; the account follows; a step taken back is taken back.
#[actix_web::test]
async fn a_round_is_begun_told_and_held_against_its_card() {
    let app = served(true).await;
    let disc = carried(&app).await;
    let begun = ask(&app, "POST", "/api/rounds", &round(&disc).to_string()).await;
    assert_eq!(begun.status.as_u16(), 201, "{}", begun.text);
    let tags = begun.json()["hole_etags"].clone();
    let path = format!("/api/rounds/{KEY}");
    let told = json!({ "threw": pick(&disc), "came_of": "left", "strokes": 4.0 }).to_string();
    let first = format!("{path}/holes/1");
    assert_eq!(ask_with(&app, "PUT", &first, &told, &[]).await.status.as_u16(), 428);
    let answer = ask_with(&app, "PUT", &first, &told, &[("if-match", tags[0].as_str().unwrap())]).await;
    assert_eq!((answer.status.as_u16(), &answer.json()["strokes"]), (200, &json!(4)), "{}", answer.text);
    // Whoever saw the hole as it was before is told how it is now.
    let stale =
        ask_with(&app, "PUT", &first, r#"{"strokes":3}"#, &[("if-match", tags[0].as_str().unwrap())]).await;
    assert_eq!((stale.status.as_u16(), &stale.json()["now"]["strokes"]), (412, &json!(4)));
    // Begun again from a queue that did not hear the answer: nothing is lost.
    let again = ask(&app, "POST", "/api/rounds", &round(&disc).to_string()).await.json();
    assert_eq!(again["holes"][0]["strokes"], 4);
    let account = &again["account"];
    assert_eq!((&account["holes"], &account["strokes"], &account["par"]), (&json!(1), &json!(4), &json!(3)));
    let causes = |name: &str| account["causes"][name].as_f64().unwrap();
    assert!((causes("first_throw") - 0.45).abs() < 1e-9 && (causes("followed") - 0.75).abs() < 1e-9);
    let all = ask(&app, "GET", "/api/rounds", "").await.json();
    assert_eq!((all["rounds"].as_array().unwrap().len(), &all["courses"][0]["whole"]), (2, &json!(1)));
    let changes = ask(&app, "GET", "/api/changes", "").await.json();
    assert_eq!(changes["changes"][0]["words"], "Hole 1 on Harrier Moor is told");
    assert_eq!(changes["changes"][0]["things"][0]["thing"], "round on Harrier Moor of 2026-05-03: changed");
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(ask(&app, "GET", &first, "").await.json()["etag"], tags[0]);
    assert_eq!(ask(&app, "DELETE", &path, "").await.status.as_u16(), 204);
    assert_eq!(ask(&app, "GET", &path, "").await.status.as_u16(), 404);
    // What is deleted does not come back by a late tap.
    assert_eq!(ask(&app, "POST", "/api/rounds", &round(&disc).to_string()).await.status.as_u16(), 404);
    assert_eq!(ask_with(&app, "PUT", &first, &told, &[("if-match", "*")]).await.status.as_u16(), 404);
}

/// A lost disc is lost with its place and leaves the bag; told by mistake, it is what and where it was.
#[actix_web::test]
async fn a_lost_disc_is_lost_with_its_place_and_found_as_it_was() {
    let app = served(true).await;
    let disc = carried(&app).await;
    ask(&app, "POST", "/api/rounds", &round(&disc).to_string()).await;
    let first = format!("/api/rounds/{KEY}/holes/1");
    let it = json!({ "disc_id": disc["id"], "disc_name": disc["name"] });
    // Told twice it is lost once.
    let lost = json!([it, { "disc_name": "A friend’s" }, it]);
    let tell = async |lost: &Value| ask(&app, "PUT", &first, &json!({ "lost": lost }).to_string()).await;
    let answer = tell(&lost).await;
    assert_eq!(answer.status.as_u16(), 200, "{}", answer.text);
    let at = format!("/api/discs/{}", disc["id"]);
    let keeping = async || ask(&app, "GET", &at, "").await.json()["keeping"].clone();
    assert_eq!(
        (&keeping().await["status"], &keeping().await["place"]),
        (&json!("lost"), &json!("Harrier Moor, hole 1"))
    );
    assert!(!is_carried(&app, &disc).await);
    // Something else told of the hole leaves it lost.
    ask(&app, "PUT", &first, r#"{"strokes":5}"#).await;
    assert_eq!(keeping().await["status"], "lost");
    assert_eq!(tell(&json!([])).await.status.as_u16(), 200);
    assert_eq!(keeping().await, disc["keeping"]);
    assert!(is_carried(&app, &disc).await);
    // Found since, and said so: nothing is said anew by the hole.
    tell(&lost).await;
    ask(&app, "PUT", &at, r#"{"keeping":{"status":"lent","place":"with a friend"}}"#).await;
    tell(&json!([])).await;
    assert_eq!(
        (&keeping().await["status"], &keeping().await["place"]),
        (&json!("lent"), &json!("with a friend"))
    );
    // A disc that is not of this shelf is only named.
    assert_eq!(tell(&json!([{ "disc_name": "A friend’s" }])).await.status.as_u16(), 200);
}

/// Rounds go with their course when it is given another name, and back with it.
#[actix_web::test]
async fn rounds_go_with_the_name_of_their_course() {
    let app = served(true).await;
    let names = async || {
        let all = ask(&app, "GET", "/api/rounds", "").await.json();
        let of = |list: &str| {
            all[list].as_array().unwrap().iter().map(|r| r["course"].clone()).collect::<Vec<_>>()
        };
        (of("rounds"), of("courses"))
    };
    let renamed = ask(&app, "PUT", "/api/courses/1", r#"{"name":"Harrier Heath"}"#).await;
    assert_eq!(renamed.status.as_u16(), 200, "{}", renamed.text);
    assert_eq!(names().await, (vec![json!("Harrier Heath")], vec![json!("Harrier Heath")]));
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(names().await, (vec![json!("Harrier Moor")], vec![json!("Harrier Moor")]));
}

#[rstest]
#[case("strokes", json!(0))]
#[case("strokes", json!(2.5))]
#[case("came_of", json!("sideways"))]
#[case("expected", json!(0.2))]
#[case("lost", json!([{ "disc_name": "" }]))]
#[case("threw", json!({ "disc_name": "Purlin", "chance": 2 }))]
#[actix_web::test]
async fn prop_a_hole_that_cannot_be_is_refused_and_stays(#[case] field: &str, #[case] value: Value) {
    let app = served(true).await;
    ask(&app, "POST", "/api/rounds", &round(&carried(&app).await).to_string()).await;
    let at = format!("/api/rounds/{KEY}/holes/2");
    let before = ask(&app, "GET", &at, "").await.json();
    let answer = ask(&app, "PUT", &at, &json!({ field: value }).to_string()).await;
    assert!([400, 422].contains(&answer.status.as_u16()), "{}", answer.text);
    assert_eq!(ask(&app, "GET", &at, "").await.json(), before);
    for (path, key) in [("holes/0", KEY), ("holes/3", KEY), ("holes/1", "r-unknown1")] {
        let at = format!("/api/rounds/{key}/{path}");
        assert_eq!(ask(&app, "PUT", &at, "{}").await.status.as_u16(), 404, "{at}");
    }
    let mut bad = round(&carried(&app).await);
    bad["key"] = json!("UP");
    assert_eq!(ask(&app, "POST", "/api/rounds", &bad.to_string()).await.status.as_u16(), 422);
}

/// Everything as one document holds rounds, their discs by name; taken in elsewhere, they are the discs of that name.
#[test]
fn prop_records_hold_rounds() {
    let mut store = Store::in_memory().unwrap();
    zinc_kite::demo::fill(&mut store).unwrap();
    let disc = store.discs().unwrap().remove(4);
    let told: Round =
        serde_json::from_value(round(&json!({ "id": disc.id, "name": disc.spec.name }))).unwrap();
    store.begin_round(&told).unwrap();
    let records = read(write(store.records().unwrap()).unwrap().as_bytes()).unwrap();
    let mut other = Store::in_memory().unwrap();
    other.replace_records(&records).unwrap();
    let taken = other.round(&told.key).unwrap();
    let pick = taken.spec.holes[0].card.clone().unwrap();
    assert_eq!(other.disc(pick.disc_id.unwrap()).unwrap().spec.name, disc.spec.name);
    let keys = |store: &Store| store.rounds().unwrap().into_iter().map(|r| r.key).collect::<Vec<_>>();
    assert_eq!(keys(&other), keys(&store), "in the same order");
    assert_eq!(other.records().unwrap(), records);
}
