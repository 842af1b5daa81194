//! Discs added by lines, the library of moulds that fills by it, several discs changed at once.

use crate::http::{Served, a_disc, ask, served};
use rstest::rstest;
use serde_json::{Value, json};

async fn get(app: &impl Served, path: &str) -> Value {
    ask(app, "GET", path, "").await.json()
}

async fn post(app: &impl Served, path: &str, body: Value) -> (u16, Value) {
    let answer = ask(app, "POST", path, &body.to_string()).await;
    (answer.status.as_u16(), answer.json())
}

async fn add(app: &impl Served, line: &str) -> (u16, Value) {
    post(app, "/api/shelf/add", json!({ "line": line, "bag_id": 1 })).await
}

fn names(discs: &Value) -> Vec<&str> {
    discs.as_array().unwrap().iter().map(|d| d["name"].as_str().unwrap()).collect()
}

#[actix_web::test]
async fn a_line_adds_carries_and_teaches_its_mould_in_one_step() {
    let app = served(false).await;
    let (status, entry) = post(&app, "/api/shelf/read", json!({ "line": "2 purlin 7/5/0/2 by Hobb" })).await;
    assert_eq!((status, names(&entry["discs"])), (200, vec!["Purlin 1", "Purlin 2"]));
    assert_eq!(get(&app, "/api/discs").await, json!([]), "reading adds nothing");

    let (status, added) = add(&app, "2 purlin 7/5/0/2 by Hobb").await;
    assert_eq!((status, &added["names"]), (200, &json!(["Purlin 1", "Purlin 2"])));
    assert_eq!(get(&app, "/api/bags/1").await["carried"].as_array().unwrap().len(), 2);
    let library = get(&app, "/api/moulds").await;
    assert_eq!((names(&library), &library[0]["discs"]), (vec!["Purlin"], &json!(2)));

    // Known from now on, by any beginning.
    let (status, _) = add(&app, "pu premium 170 beat").await;
    assert_eq!(status, 200);
    assert_eq!(names(&get(&app, "/api/discs").await), ["Purlin 1", "Purlin 2", "Purlin 3"]);

    // One step each: two undo both.
    for left in [2, 0] {
        ask(&app, "POST", "/api/changes/undo", "").await;
        assert_eq!(get(&app, "/api/discs").await.as_array().unwrap().len(), left);
    }
    assert_eq!(get(&app, "/api/moulds").await, json!([]));
    assert_eq!(get(&app, "/api/bags/1").await["carried"], json!([]));
}

#[rstest]
#[case("", "Type a mould")]
#[case("campion", "Campion is new")]
#[case("purlin premum", "Did you mean premium?")]
#[case("0 purlin", "1 to 20")]
#[actix_web::test]
async fn a_line_that_names_no_disc_changes_nothing(#[case] line: &str, #[case] words: &str) {
    let app = served(true).await;
    let before = (get(&app, "/api/discs").await, get(&app, "/api/changes").await);
    let (status, problem) = add(&app, line).await;
    assert_eq!((status, &problem["field"]), (422, &json!("line")));
    assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    assert_eq!((get(&app, "/api/discs").await, get(&app, "/api/changes").await), before);
}

#[actix_web::test]
async fn a_bag_that_is_not_there_takes_no_discs_to_the_shelf() {
    let app = served(true).await;
    let before = get(&app, "/api/discs").await;
    let (status, _) = post(&app, "/api/shelf/add", json!({ "line": "purlin", "bag_id": 77 })).await;
    assert_eq!(status, 404);
    assert!(get(&app, "/api/discs").await == before);
}

/// Forty lines of ten sent at once by four windows give four hundred discs of four hundred names.
#[actix_web::test]
async fn prop_made_names_never_collide() {
    let app = served(true).await;
    let lines =
        (0..40).map(|_| async { post(&app, "/api/shelf/add", json!({ "line": "10 purlin" })).await.0 });
    let answered = futures_util::future::join_all(lines).await;
    assert!(answered.iter().all(|status| *status == 200), "{answered:?}");
    let discs = get(&app, "/api/discs").await;
    let mut all: Vec<String> = names(&discs).iter().map(|n| n.to_lowercase()).collect();
    all.sort();
    all.dedup();
    assert_eq!(all.len(), 446);
}

#[actix_web::test]
async fn the_library_is_filled_from_the_shelf_and_kept_when_discs_go() {
    let app = served(true).await;
    let library = get(&app, "/api/moulds").await;
    let discs = get(&app, "/api/discs").await;
    for d in discs.as_array().unwrap() {
        assert!(names(&library).contains(&d["mould"].as_str().unwrap()), "{d}");
    }
    let purlin = library.as_array().unwrap().iter().find(|m| m["name"] == "Purlin").unwrap();
    let of_it: Vec<&Value> = discs.as_array().unwrap().iter().filter(|d| d["mould"] == "Purlin").collect();
    assert_eq!(purlin["discs"], of_it.len());
    let at = format!("/api/moulds/{}", purlin["id"]);

    let refused = ask(&app, "DELETE", &at, "").await;
    assert_eq!(refused.status, 409);
    assert!(refused.text.contains("still on the shelf"), "{}", refused.text);

    // A new name is the new name of its discs, in one step.
    let saved = ask(&app, "PUT", &at, r#"{"name":"Joist","rim_depth_cm":1.3,"supply":"hard_to_find"}"#).await;
    assert_eq!((saved.status.as_u16(), &saved.json()["rim_depth_cm"]), (200, &json!(1.3)));
    let renamed = get(&app, "/api/discs").await;
    let count = renamed.as_array().unwrap().iter().filter(|d| d["mould"] == "Joist").count();
    assert_eq!(count, of_it.len());
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(get(&app, "/api/discs").await, discs);

    let ids: Vec<&Value> = of_it.iter().map(|d| &d["id"]).collect();
    let (status, done) = post(&app, "/api/shelf/delete", json!({ "disc_ids": ids })).await;
    assert_eq!((status, &done["discs"]), (200, &json!(ids.len())));
    assert_eq!(ask(&app, "DELETE", &at, "").await.status, 204);
    assert_eq!(ask(&app, "GET", &at, "").await.status, 404);
}

#[actix_web::test]
async fn two_moulds_of_a_maker_have_two_names_and_makers_may_share_one() {
    let app = served(true).await;
    let mould = |maker: &str, name: &str| json!({ "name": name, "maker": maker, "printed": { "speed": 7, "glide": 5, "turn": 0, "fade": 2 } });
    assert_eq!(post(&app, "/api/moulds", mould("Hobb & Tiller", " PURLIN ")).await.0, 409);
    assert_eq!(post(&app, "/api/moulds", mould("Saltmarsh", "Purlin")).await.0, 201);
    let (_, entry) = post(&app, "/api/shelf/read", json!({ "line": "purlin" })).await;
    let problem = entry["problems"][0].as_str().unwrap();
    assert!(problem.contains("Hobb & Tiller Purlin or Saltmarsh Purlin"), "{problem}");
    let (_, entry) = post(&app, "/api/shelf/read", json!({ "line": "salt purlin" })).await;
    assert_eq!(entry["discs"][0]["maker"], "Saltmarsh");
}

#[actix_web::test]
async fn copies_are_like_the_disc_but_for_their_names() {
    let app = served(true).await;
    let disc = get(&app, "/api/discs/9").await;
    let (status, made) = post(&app, "/api/discs/9/copies", json!({ "count": 3 })).await;
    assert_eq!((status, made["disc_ids"].as_array().unwrap().len()), (200, 3));
    for id in made["disc_ids"].as_array().unwrap() {
        let mut copy = get(&app, &format!("/api/discs/{id}")).await;
        assert_ne!(copy["name"], disc["name"]);
        for field in ["id", "name", "etag"] {
            copy[field] = disc[field].clone();
        }
        assert_eq!(copy, disc);
    }
    assert_eq!(post(&app, "/api/discs/9/copies", json!({ "count": 21 })).await.0, 422);
    assert_eq!(post(&app, "/api/discs/999/copies", json!({ "count": 1 })).await.0, 404);
}

#[actix_web::test]
async fn what_is_lost_leaves_every_bag_and_undo_brings_it_back_to_them() {
    let app = served(true).await;
    let bag = get(&app, "/api/bags/1").await;
    let ids: Vec<Value> =
        bag["carried"].as_array().unwrap().iter().take(3).map(|c| c["disc_id"].clone()).collect();
    ask(
        &app,
        "POST",
        "/api/bags",
        &json!({ "name": "Second", "capacity": 9, "carried": bag["carried"] }).to_string(),
    )
    .await;
    let both = [get(&app, "/api/bags/1").await, get(&app, "/api/bags/2").await];
    let change = json!({ "disc_ids": ids, "change": { "status": "lost", "place": "the reservoir" } });
    assert_eq!(post(&app, "/api/shelf/change", change).await.0, 200);
    for (k, before) in both.iter().enumerate() {
        let now = get(&app, &format!("/api/bags/{}", k + 1)).await;
        assert_eq!(now["carried"].as_array().unwrap().len() + 3, before["carried"].as_array().unwrap().len());
    }
    let lost = get(&app, &format!("/api/discs/{}", ids[0])).await;
    assert_eq!(
        (&lost["keeping"]["status"], &lost["keeping"]["place"]),
        (&json!("lost"), &json!("the reservoir"))
    );
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!([get(&app, "/api/bags/1").await, get(&app, "/api/bags/2").await], both);
}

#[rstest]
#[case(json!({ "mass_g": 900 }), 422)]
#[case(json!({ "colour": "red" }), 422)]
#[case(json!({ "trial_until": "soon" }), 400)]
#[case(json!({ "trial_until": "2026-02-30" }), 400)]
#[case(json!({ "ties": ["water_disc", "water_disc"] }), 422)]
#[case(json!({ "run": "x\u{7}" }), 422)]
#[actix_web::test]
async fn a_bad_change_of_several_changes_none(#[case] change: Value, #[case] refused: u16) {
    let app = served(true).await;
    let before = get(&app, "/api/discs").await;
    let (status, _) =
        post(&app, "/api/shelf/change", json!({ "disc_ids": [1, 2, 3], "change": change })).await;
    assert_eq!((status, get(&app, "/api/discs").await), (refused, before.clone()));
    let gone = json!({ "disc_ids": [1, 2, 999], "change": { "top": "flat" } });
    assert_eq!((post(&app, "/api/shelf/change", gone).await.0, get(&app, "/api/discs").await), (404, before));
}

/// Nothing the judgement recommends is in somebody else's hands or at the bottom of a lake.
#[actix_web::test]
async fn prop_what_is_not_at_hand_is_never_proposed() {
    let app = served(true).await;
    let season = get(&app, "/api/bags/1/season").await;
    let best: Vec<Value> = season["findings"]
        .as_array()
        .unwrap()
        .iter()
        .filter_map(|f| f["action"].get("carry").or(f["action"].get("disc_id")).cloned())
        .chain(season["beside"].as_array().unwrap().iter().take(4).map(|w| w["disc_id"].clone()))
        .collect();
    assert!(!best.is_empty());
    let bag = get(&app, "/api/bags/1").await;
    let carried = |id: &Value| bag["carried"].as_array().unwrap().iter().any(|c| c["disc_id"] == *id);
    let ids: Vec<&Value> = best.iter().filter(|id| !carried(id)).collect();
    post(&app, "/api/shelf/change", json!({ "disc_ids": ids, "change": { "status": "lent" } })).await;
    let after = get(&app, "/api/bags/1/season").await;
    for id in ids {
        assert!(after["beside"].as_array().unwrap().iter().all(|w| w["disc_id"] != *id), "beside: {id}");
        assert!(after["steps"].as_array().unwrap().iter().all(|w| w["disc_id"] != *id), "steps: {id}");
        let carries =
            |action: &Value| action["carry"] == *id || (action["do"] == "carry" && action["disc_id"] == *id);
        let proposes = |f: &&Value| carries(&f["action"]) || carries(&f["other"]["action"]);
        let proposed = after["findings"].as_array().unwrap().iter().find(proposes);
        assert_eq!(proposed, None, "{id}");
    }
    assert!(
        after["shelf_leaves_strokes"].as_f64().unwrap() >= season["shelf_leaves_strokes"].as_f64().unwrap(),
        "a shelf with fewer discs at hand leaves no less"
    );
}

/// A disc kept for one style has chances in that style alone.
#[actix_web::test]
async fn prop_a_disc_kept_for_one_style_answers_only_it() {
    let app = served(true).await;
    let mut disc = a_disc("Side arm");
    disc["keeping"] = json!({ "kept_for": ["forehand"] });
    let id = post(&app, "/api/discs", disc).await.1["id"].clone();
    ask(
        &app,
        "POST",
        "/api/bags/1/moves",
        &json!({ "carry": [{ "disc_id": id, "spare": false }] }).to_string(),
    )
    .await;
    let table = get(&app, "/api/bags/1/table").await;
    let column = table["disc_ids"].as_array().unwrap().iter().position(|d| *d == id).unwrap();
    let lines = get(&app, "/api/lines").await;
    let (mut forehand, mut other) = (0.0, 0.0);
    for row in table["rows"].as_array().unwrap() {
        let line = lines.as_array().unwrap().iter().find(|l| l["key"] == row["line_key"]).unwrap();
        let chance = row["cells"][column]["chance"].as_f64().unwrap();
        *(if line["style"] == "forehand" { &mut forehand } else { &mut other }) += chance;
    }
    assert!(forehand > 0.0 && other == 0.0, "{forehand} {other}");
}
