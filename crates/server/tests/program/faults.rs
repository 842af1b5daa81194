//! What is sent by mistake, by a broken client or out of malice: it is refused as a problem that says what to do, and nothing
//! that was there is lost.

use crate::http::{a_disc, ask, served};
use actix_web::dev::{Service, ServiceResponse};
use actix_web::http::StatusCode;
use futures_util::future::join_all;
use rstest::rstest;
use serde_json::{Value, json};

/// All that a player has.
async fn everything(
    app: &impl Service<actix_http::Request, Response = ServiceResponse, Error = actix_web::Error>,
) -> Vec<Value> {
    let mut all = Vec::new();
    for path in ["/api/player", "/api/discs", "/api/bags", "/api/bags/1", "/api/lines"] {
        all.push(ask(app, "GET", path, "").await.json());
    }
    all
}

const WRITING: [(&str, &str); 12] = [
    ("PUT", "/api/player"),
    ("POST", "/api/discs"),
    ("PUT", "/api/discs/3"),
    ("POST", "/api/bags"),
    ("PUT", "/api/bags/1"),
    ("POST", "/api/bags/1/moves"),
    ("POST", "/api/lines"),
    ("PUT", "/api/lines/tunnel"),
    ("PUT", "/api/lines/tunnel/setting"),
    ("POST", "/api/range"),
    ("POST", "/api/range.csv"),
    ("POST", "/api/range/vary"),
];

/// No body that is not what a route asks for changes anything, whatever the route.
#[rstest]
#[case::nothing("")]
#[case::null("null")]
#[case::a_list("[1, 2, 3]")]
#[case::a_text("\"disc\"")]
#[case::a_number("42")]
#[case::cut_off(r#"{"name": "Tea"#)]
#[case::not_json("name=Teasel&mass_g=175")]
#[case::not_a_number(r#"{"mass_g": NaN, "weight": Infinity}"#)]
#[case::wrong_types(
    r#"{"name": 7, "mass_g": "heavy", "capacity": [], "carry": {}, "settings": 3, "enabled": "yes"}"#
)]
#[case::markup("<script>alert(1)</script>")]
#[actix_web::test]
async fn a_body_that_will_not_do_changes_nothing(#[case] body: &str) {
    let app = served(true).await;
    let before = everything(&app).await;
    for (method, path) in WRITING {
        let answer = ask(&app, method, path, body).await;
        assert!(answer.status.is_client_error(), "{method} {path}: {} {}", answer.status, answer.text);
        assert_eq!(answer.kind, "application/problem+json", "{method} {path}");
        let problem = answer.json();
        assert_eq!(problem["status"], answer.status.as_u16());
        let told = problem["detail"].as_str().unwrap();
        assert!(told.len() > 20 && told.len() < 400, "{method} {path}: {told}");
    }
    assert_eq!(everything(&app).await, before);
}

/// A body nested a hundred thousand deep, and one far too long, are refused before they cost anything.
#[actix_web::test]
async fn monstrous_bodies_are_refused() {
    let app = served(true).await;
    let deep = "[".repeat(100_000);
    let long = format!(r#"{{"name": "{}"}}"#, "x".repeat(5_000_000));
    for (method, path) in WRITING {
        for body in [&deep, &long] {
            let answer = ask(&app, method, path, body).await;
            assert!(answer.status.is_client_error(), "{method} {path}: {}", answer.status);
            assert!(answer.text.len() < 2_000, "{method} {path}: the body is not sent back");
        }
    }
}

/// Numbers that are none of the allowed, in every field of every thing that has numbers: the field is named, the thing stays.
#[rstest]
#[case("/api/player", &["backhand_m", "forehand_m", "altitude_m", "temperature_c"])]
#[case("/api/discs/3", &["mass_g", "reference_mass_g"])]
#[case("/api/lines/tunnel", &["distance_m", "zone_length_m", "zone_width_m", "along_m_s", "left_m_s", "hyzer_min_deg",
    "hyzer_max_deg", "launch_min_deg", "launch_max_deg", "weight"])]
#[case("/api/bags/1", &["capacity"])]
#[actix_web::test]
async fn every_number_is_held_to_its_range(#[case] path: &str, #[case] fields: &[&str]) {
    let app = served(true).await;
    let whole = if path.starts_with("/api/lines") {
        let lines = ask(&app, "GET", "/api/lines", "").await.json();
        lines.as_array().unwrap().iter().find(|l| l["key"] == "tunnel").unwrap().clone()
    } else {
        ask(&app, "GET", path, "").await.json()
    };
    let before = everything(&app).await;
    for field in fields {
        assert!(whole[field].is_number(), "{path} has a number {field}");
        for wild in [-1e6, 1e6] {
            let mut changed = whole.clone();
            changed[field] = if *field == "capacity" { json!(0) } else { json!(wild) };
            let answer = ask(&app, "PUT", path, &changed.to_string()).await;
            assert_eq!(answer.status, StatusCode::UNPROCESSABLE_ENTITY, "{field} {wild}: {}", answer.text);
            assert_eq!(answer.json()["field"], **field, "{}", answer.text);
        }
    }
    assert_eq!(everything(&app).await, before);
    // As it was, it is taken.
    let same = ask(&app, "PUT", path, &whole.to_string()).await;
    assert!(same.status.is_success(), "{}", same.text);
}

/// Names and numbers of things that are not there, in every place that takes one.
#[rstest]
#[actix_web::test]
async fn what_is_not_there_is_said_so(
    #[values(
        "0",
        "-1",
        "9223372036854775807",
        "99999999999999999999",
        "1.5",
        "1e3",
        "%00",
        "1%2f2",
        "..",
        "' OR 1=1 --"
    )]
    id: &str,
) {
    let app = served(true).await;
    let before = everything(&app).await;
    let id = id.replace(' ', "%20");
    for (method, path) in [
        ("GET", format!("/api/discs/{id}")),
        ("DELETE", format!("/api/discs/{id}")),
        ("POST", format!("/api/bags/{id}/moves")),
        ("GET", format!("/api/discs/{id}/sheet")),
        ("DELETE", format!("/api/bags/{id}")),
        ("GET", format!("/api/bags/{id}/analysis")),
        ("GET", format!("/api/bags/{id}/table")),
        ("GET", format!("/api/bags/{id}/season")),
        ("GET", format!("/api/bags/{id}/lines/tunnel")),
        ("GET", format!("/api/bags/1/lines/{id}")),
        ("DELETE", format!("/api/lines/{id}")),
        ("GET", format!("/api/chance?disc_id={id}&line_key=tunnel")),
        ("GET", format!("/api/bags/1/lines/tunnel?disc_id={id}")),
    ] {
        let answer = ask(&app, method, &path, "").await;
        let status = answer.status.as_u16();
        assert!([400, 404, 405].contains(&status), "{method} {path}: {status} {}", answer.text);
        assert_eq!(answer.kind, "application/problem+json", "{method} {path}: {}", answer.text);
    }
    assert_eq!(everything(&app).await, before);
}

/// Of many at once that want the same name, one gets it; the others are told; nothing is left half done.
#[actix_web::test]
async fn one_of_many_gets_the_name() {
    let app = served(true).await;
    let body = a_disc("Contended").to_string();
    let answers = join_all((0..12).map(|_| ask(&app, "POST", "/api/discs", &body))).await;
    let made = answers.iter().filter(|a| a.status == StatusCode::CREATED).count();
    let refused: Vec<_> = answers.iter().filter(|a| a.status == StatusCode::CONFLICT).collect();
    assert_eq!((made, refused.len()), (1, 11));
    assert!(refused.iter().all(|a| a.text.contains("already a disc called")));
    let discs = ask(&app, "GET", "/api/discs", "").await.json();
    let named = discs.as_array().unwrap().iter().filter(|d| d["name"] == "Contended").count();
    assert_eq!((named, discs.as_array().unwrap().len()), (1, 47));
}

/// While the bag is changed under it, every judgement is one of a bag that was: never of half a change.
#[actix_web::test]
async fn judgements_while_the_bag_changes_are_whole() {
    let app = served(true).await;
    let bag = ask(&app, "GET", "/api/bags/1", "").await.json();
    let carried: Vec<i64> =
        bag["carried"].as_array().unwrap().iter().map(|c| c["disc_id"].as_i64().unwrap()).collect();
    let two = [carried[0], carried[1]];
    let swap = |bench: i64, carry: i64| {
        json!({ "carry": [{ "disc_id": carry, "spare": false }], "bench": [bench] }).to_string()
    };
    ask(&app, "POST", "/api/bags/1/moves", &json!({ "carry": [], "bench": [two[1]] }).to_string()).await;
    for k in 0..6 {
        let (out, into) = if k % 2 == 0 { (two[0], two[1]) } else { (two[1], two[0]) };
        let (moved, judged) = futures_util::future::join(
            ask(&app, "POST", "/api/bags/1/moves", &swap(out, into)),
            ask(&app, "GET", "/api/bags/1/board", ""),
        )
        .await;
        assert_eq!(moved.status, StatusCode::OK, "{}", moved.text);
        let board = judged.json().to_string();
        let has = |id: i64| board.contains(&format!("\"disc_id\":{id},"));
        assert!(has(two[0]) != has(two[1]), "one of the two is in the bag, never both and never none");
    }
}

/// A day's judgement and a season's agree with themselves, and with each other on what they judge.
#[actix_web::test]
async fn a_judgement_adds_up() {
    let app = served(true).await;
    let season = ask(&app, "GET", "/api/bags/1/season", "").await.json();
    let today = ask(&app, "GET", "/api/bags/1/analysis?wind_m_s=0", "").await.json();
    let keys = |v: &Value, key: fn(&Value) -> &Value| -> Vec<Value> {
        v["lines"].as_array().unwrap().iter().map(|l| key(l).clone()).collect()
    };
    assert_eq!(keys(&season, |l| &l["key"]), keys(&today, |l| &l["line"]["key"]));
    assert!(season["lines"][0]["key"].is_string());
    let line_by_line: f64 =
        season["lines"].as_array().unwrap().iter().map(|l| l["leaves_strokes"].as_f64().unwrap()).sum();
    assert!((line_by_line - season["leaves_strokes"].as_f64().unwrap()).abs() < 1e-9);
    let shares: f64 =
        season["weathers"].as_array().unwrap().iter().map(|w| w["share"].as_f64().unwrap()).sum();
    assert!((shares - 1.0).abs() < 1e-9);
    let leaves = |what: &str| season[what].as_f64().unwrap();
    assert!(leaves("ideal_leaves_strokes") <= leaves("shelf_leaves_strokes"));
    assert!(leaves("shelf_leaves_strokes") <= leaves("leaves_strokes"));
    // Nothing is minus nothing.
    let text = season.to_string();
    let at = text.find("-0.0,").map(|k| text[k.saturating_sub(80)..k].to_owned());
    assert_eq!(at, None);
    for worth in season["worths"].as_array().unwrap() {
        let (work, missed) =
            (worth["shared_strokes"].as_f64().unwrap(), worth["missed_strokes"].as_f64().unwrap());
        assert!(missed >= 0.0 && work + 1e-9 >= missed, "{worth}");
        assert!(!worth["words"].as_str().unwrap().is_empty());
    }
    let progress = ask(&app, "GET", "/api/season/progress", "").await.json();
    assert_eq!(progress["done"], progress["of"], "{progress}");
}
