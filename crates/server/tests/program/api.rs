//! The HTTP interface: each route's good and bad paths.

use crate::http::{a_disc, ask, served};
use actix_web::http::StatusCode;
use actix_web::test;
use rstest::rstest;
use serde_json::{Value, json};

#[rstest]
#[case("GET", "/api/health")]
#[case("GET", "/api/openapi.json")]
#[case("GET", "/api/player")]
#[case("GET", "/api/plastics")]
#[case("GET", "/api/discs")]
#[case("GET", "/api/discs/1")]
#[case("GET", "/api/discs/1/sheet?wind_m_s=4&power=0.9&style=forehand")]
#[case("GET", "/api/bags")]
#[case("GET", "/api/bags/1")]
#[case("GET", "/api/bags/1/board?wind_m_s=3&wind_from_deg=90")]
#[case("GET", "/api/lines")]
#[case("GET", "/api/chance?disc_id=5&line_key=tunnel")]
#[case("GET", "/api/bags/1/lines/reach?wind_m_s=5&wind_from_deg=0")]
#[case("GET", "/api/bags/1/lines/circle-putt?disc_id=1")]
#[case("GET", "/api/season/progress")]
#[actix_web::test]
async fn every_reading_route_answers_json(#[case] method: &str, #[case] path: &str) {
    let app = served(true).await;
    let answer = ask(&app, method, path, "").await;
    assert_eq!(answer.status, StatusCode::OK, "{}", answer.text);
    assert!(answer.kind.starts_with("application/json"), "{}", answer.kind);
    answer.json();
}

/// Whatever goes wrong is told as problem+json with what to do.
#[rstest]
#[case("GET", "/api/nothing", "", 404, "nothing at /api/nothing")]
#[case("DELETE", "/api/player", "", 405, "it takes GET, PUT")]
#[case("PATCH", "/api/bags/1/moves", "", 405, "it takes POST")]
#[case("GET", "/api/discs/999", "", 404, "there is no disc 999")]
#[case("GET", "/api/discs/first", "", 400, "could not be read")]
#[case("PUT", "/api/discs/1", "{", 400, "could not be read")]
#[case("DELETE", "/api/discs/999", "", 404, "there is no disc 999")]
#[case("POST", "/api/changes/undo", "", 409, "there is nothing to undo")]
#[case("POST", "/api/changes/7/redo", "", 409, "there is nothing to redo")]
#[case("GET", "/api/data/copies/2026-01-01.db", "", 404, "there is no copy 2026-01-01.db")]
#[case("POST", "/api/data/restore", "no database", 422, "this is no backup of Zinc Kite")]
#[case("GET", "/api/bags/7", "", 404, "there is no bag 7")]
#[case("GET", "/api/bags/1/board?wind_m_s=99", "", 422, "wind_m_s must be a number from 0 to 40, got 99")]
#[case("GET", "/api/bags/1/analysis?power=soft", "", 400, "could not be read")]
#[case("POST", "/api/bags/1/moves", r#"{"carry":[{"disc_id":999,"spare":false}]}"#, 404, "no disc 999")]
#[case("PUT", "/api/bags/1", r#"{"name":"x","capacity":0}"#, 422, "capacity must be")]
#[case("POST", "/api/bags", r#"{"name":"Harrier Moor","capacity":9}"#, 409, "already a bag called")]
#[case(
    "POST",
    "/api/bags",
    r#"{"name":"x","capacity":9,"carried":[{"disc_id":999,"spare":false}]}"#,
    404,
    "no disc 999"
)]
#[case("DELETE", "/api/bags/1", "", 409, "is the only bag")]
#[case("GET", "/api/chance?disc_id=1&line_key=moon", "", 404, "there is no line moon")]
#[case("GET", "/api/bags/1/lines/moon", "", 404, "there is no line moon")]
#[case("GET", "/api/bags/7/lines/tunnel", "", 404, "there is no bag 7")]
#[case("GET", "/api/bags/1/lines/tunnel?disc_id=999", "", 404, "there is no disc 999")]
#[case(
    "GET",
    "/api/bags/1/lines/tunnel?wind_m_s=99",
    "",
    422,
    "wind_m_s must be a number from 0 to 40, got 99"
)]
#[case("PUT", "/api/lines/moon", "{}", 404, "there is no line moon")]
#[case("PUT", "/api/lines/tunnel", "[]", 400, "a JSON object was expected")]
#[case("DELETE", "/api/lines/tunnel", "", 404, "no line of your own tunnel")]
#[case("PUT", "/api/lines/tunnel/setting", r#"{"enabled":true,"weight":99}"#, 422, "weight must be")]
#[actix_web::test]
async fn every_failure_is_a_problem_that_says_what_to_do(
    #[case] method: &str,
    #[case] path: &str,
    #[case] body: &str,
    #[case] status: u16,
    #[case] says: &str,
) {
    let app = served(true).await;
    let answer = ask(&app, method, path, body).await;
    assert_eq!(answer.status.as_u16(), status, "{}", answer.text);
    assert_eq!(answer.kind, "application/problem+json");
    let problem = answer.json();
    assert_eq!(problem["status"], status);
    assert!(problem["detail"].as_str().unwrap().contains(says), "{problem}");
}

#[actix_web::test]
async fn a_disc_is_added_changed_deleted_and_restored() {
    let app = served(true).await;
    let added = ask(&app, "POST", "/api/discs", &a_disc("Spray").to_string()).await;
    assert_eq!(added.status, StatusCode::CREATED);
    let path = format!("/api/discs/{}", added.json()["id"]);
    let again = ask(&app, "POST", "/api/discs", &a_disc("spray").to_string()).await;
    assert_eq!(again.status, StatusCode::CONFLICT);
    assert_eq!(again.json()["field"], "name");

    let mut heavier = a_disc("Spray");
    heavier["mass_g"] = json!(180);
    let saved = ask(&app, "PUT", &path, &heavier.to_string()).await;
    assert_eq!(saved.json()["mass_g"], 180.0);
    heavier["mass_g"] = json!(18);
    let refused = ask(&app, "PUT", &path, &heavier.to_string()).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(refused.json()["field"], "mass_g");
    assert_eq!(ask(&app, "GET", &path, "").await.json()["mass_g"], 180.0);

    assert_eq!(ask(&app, "DELETE", &path, "").await.status, StatusCode::NO_CONTENT);
    assert_eq!(ask(&app, "GET", &path, "").await.status, StatusCode::NOT_FOUND);
    let undone = ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(undone.json()["words"], "Spray is deleted");
    assert_eq!(ask(&app, "GET", &path, "").await.json()["name"], "Spray");
}

#[actix_web::test]
async fn bringing_a_disc_back_whose_name_was_taken_meanwhile_is_refused() {
    let app = served(false).await;
    let first = ask(&app, "POST", "/api/discs", &a_disc("Spray").to_string()).await.json();
    ask(&app, "DELETE", &format!("/api/discs/{}", first["id"]), "").await;
    ask(&app, "POST", "/api/discs", &a_disc("Spray").to_string()).await;
    let deleted = &ask(&app, "GET", "/api/changes", "").await.json()["changes"][1];
    assert_eq!(deleted["words"], "Spray is deleted");
    let back = ask(&app, "POST", &format!("/api/changes/{}/undo", deleted["id"]), "").await;
    assert_eq!(back.status, StatusCode::CONFLICT);
    assert!(back.text.contains("has the name now"), "{}", back.text);
}

#[actix_web::test]
async fn moves_are_undone_and_done_again() {
    let app = served(true).await;
    let bag = ask(&app, "GET", "/api/bags/1", "").await.json();
    let carried = bag["carried"][3]["disc_id"].clone();
    let moves = json!({ "carry": [{ "disc_id": 5, "spare": true }], "bench": [carried] });
    let moved = ask(&app, "POST", "/api/bags/1/moves", &moves.to_string()).await;
    assert_eq!(moved.status, StatusCode::OK, "{}", moved.text);
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(ask(&app, "GET", "/api/bags/1", "").await.json(), bag);
    ask(&app, "POST", "/api/changes/redo", "").await;
    assert_eq!(ask(&app, "GET", "/api/bags/1", "").await.json(), moved.json());
}

#[actix_web::test]
async fn a_bag_is_copied_and_deleted_and_its_discs_stay() {
    let app = served(true).await;
    let first = ask(&app, "GET", "/api/bags/1", "").await.json();
    let copy = json!({ "name": "Winter", "capacity": 12, "carried": first["carried"] });
    let made = ask(&app, "POST", "/api/bags", &copy.to_string()).await;
    assert_eq!(made.status, StatusCode::CREATED, "{}", made.text);
    let made = made.json();
    assert_eq!(made["carried"], first["carried"]);
    let path = format!("/api/bags/{}", made["id"]);
    assert_eq!(ask(&app, "DELETE", &path, "").await.status, StatusCode::NO_CONTENT);
    assert_eq!(ask(&app, "GET", &path, "").await.status, StatusCode::NOT_FOUND);
    assert_eq!(ask(&app, "GET", "/api/bags/1", "").await.json(), first);
    assert_eq!(ask(&app, "GET", "/api/discs", "").await.json().as_array().unwrap().len(), 46);
}

#[actix_web::test]
async fn the_player_is_saved_and_the_lines_follow() {
    let app = served(true).await;
    let mut player = ask(&app, "GET", "/api/player", "").await.json();
    assert_eq!(player["saved"], true);
    let before = player["arms"][0]["speed_m_s"].as_f64().unwrap();
    let near = ask(&app, "GET", "/api/lines", "").await.json()[0]["distance_m"].as_f64().unwrap();
    player["backhand_m"] = json!(125.0);
    player["school"] = json!("three");
    let saved = ask(&app, "PUT", "/api/player", &player.to_string()).await.json();
    assert!(saved["arms"][0]["speed_m_s"].as_f64().unwrap() > before + 1.0);
    let lines = ask(&app, "GET", "/api/lines", "").await.json();
    assert!(lines[0]["distance_m"].as_f64().unwrap() > near);
    let asks = |key: &str| lines.as_array().unwrap().iter().any(|l| l["key"] == key);
    assert!(asks("mid-range-drift") && !asks("mid-range-slide"), "three pegs want no Slide");
    player["backhand_m"] = json!(5.0);
    let refused = ask(&app, "PUT", "/api/player", &player.to_string()).await;
    assert_eq!(refused.json()["field"], "backhand_m");
}

#[actix_web::test]
async fn a_line_is_switched_weighted_edited_and_put_back() {
    let app = served(true).await;
    let of = |lines: Value, key: &str| lines.as_array().unwrap().iter().find(|l| l["key"] == key).cloned();
    let lines = ask(&app, "GET", "/api/lines", "").await.json();
    let tunnel = of(lines, "tunnel").unwrap();
    let off = r#"{"enabled":false,"weight":3}"#;
    let set = ask(&app, "PUT", "/api/lines/tunnel/setting", off).await.json();
    assert_eq!((&set["enabled"], &set["weight"]), (&json!(false), &json!(3.0)));

    let mut wider = tunnel.clone();
    wider["zone_width_m"] = json!(30.0);
    let saved = ask(&app, "PUT", "/api/lines/tunnel", &wider.to_string()).await.json();
    assert_eq!((&saved["zone_width_m"], &saved["generated"]), (&json!(30.0), &json!(false)));
    ask(&app, "PUT", "/api/lines/tunnel/setting", r#"{"enabled":false}"#).await;
    let back = ask(&app, "DELETE", "/api/lines/tunnel", "").await;
    assert_eq!((back.status, &back.json()["generated"]), (StatusCode::OK, &json!(true)));
    let lines = ask(&app, "GET", "/api/lines", "").await.json();
    assert_eq!(of(lines, "tunnel").unwrap()["zone_width_m"], tunnel["zone_width_m"]);
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(ask(&app, "GET", "/api/lines/tunnel", "").await.json()["zone_width_m"], 30.0);

    let mut own = tunnel;
    own["name"] = json!("Over the gorse");
    let added = ask(&app, "POST", "/api/lines", &own.to_string()).await.json();
    let key = added["key"].as_str().unwrap().to_owned();
    ask(&app, "DELETE", &format!("/api/lines/{key}"), "").await;
    assert!(of(ask(&app, "GET", "/api/lines", "").await.json(), &key).is_none());
    own["gates"] = json!([{ "at_m": 30, "left_edge_m": -2, "right_edge_m": 2 }]);
    let refused = ask(&app, "POST", "/api/lines", &own.to_string()).await;
    assert_eq!(refused.json()["field"], "gate right_edge_m");
}

#[actix_web::test]
async fn a_new_line_starts_from_what_its_style_usually_asks() {
    let app = served(false).await;
    let usual = ask(&app, "GET", "/api/lines/usual", "").await.json();
    let mut putt = usual.as_array().unwrap().iter().find(|l| l["style"] == "putt").unwrap().clone();
    assert_eq!((&putt["landing"], &putt["footing"]), (&json!("basket"), &json!("standstill")));
    assert_eq!(ask(&app, "POST", "/api/lines", &putt.to_string()).await.json()["field"], "name");
    putt["name"] = json!("Eight metres");
    assert_eq!(ask(&app, "POST", "/api/lines", &putt.to_string()).await.status, StatusCode::CREATED);
}

#[actix_web::test]
async fn throws_of_the_range_are_flown_varied_and_written_down() {
    let app = served(true).await;
    let usual = ask(&app, "GET", "/api/range/usual", "").await.json();
    let setting = usual.as_array().unwrap().iter().find(|s| s["style"] == "backhand").unwrap().clone();
    let numbers = json!({ "speed": 7, "glide": 5, "turn": 0, "fade": 2 });
    let disc = json!({ "kind": "numbers", "numbers": numbers, "mass_g": 175 });

    let vary = json!({ "setting": setting, "what": "hyzer_deg" });
    let row = ask(&app, "POST", "/api/range/vary", &vary.to_string()).await.json();
    let settings = row["settings"].as_array().unwrap();
    assert_eq!((settings.len(), &row["own"]), (6, &json!(2)));
    let throws: Vec<_> = settings
        .iter()
        .enumerate()
        .map(|(k, s)| json!({ "name": format!("throw {k}, flat"), "disc": disc, "setting": s }))
        .collect();
    let request = json!({ "ground": "hard", "throws": throws }).to_string();
    let flights = ask(&app, "POST", "/api/range", &request).await.json();
    let left: Vec<f64> =
        flights.as_array().unwrap().iter().map(|f| f["finish_left_m"].as_f64().unwrap()).collect();
    assert!(left.windows(2).all(|w| w[0] < w[1]), "more hyzer finishes farther to the fade side: {left:?}");

    let figures = ask(&app, "POST", "/api/range.csv?table=figures", &request).await;
    assert!(figures.kind.starts_with("text/csv") && figures.text.lines().count() == 7, "{}", figures.text);
    assert!(figures.text.contains("\"throw 2, flat\""), "a comma in a name is quoted");
    let paths = ask(&app, "POST", "/api/range.csv?table=paths", &request).await;
    assert!(paths.text.lines().count() > 300);

    for (path, body, field) in [
        ("/api/range", json!({ "throws": [] }), "throws"),
        ("/api/range", json!({ "throws": vec![throws[0].clone(); 7] }), "throws"),
        ("/api/range/vary", json!({ "setting": { "power": 9.0 }, "what": "spin" }), ""),
    ] {
        let refused = ask(&app, "POST", path, &body.to_string()).await;
        assert!(refused.status.is_client_error(), "{path} {body}: {}", refused.status);
        assert!(field.is_empty() || refused.json()["field"] == field, "{}", refused.text);
    }
    let mut wild = setting;
    wild["power"] = json!(9.0);
    let refused =
        ask(&app, "POST", "/api/range/vary", &json!({ "setting": wild, "what": "spin" }).to_string()).await;
    assert_eq!(refused.json()["field"], "power");
}

#[actix_web::test]
async fn a_broken_file_imports_nothing_until_the_good_rows_are_accepted() {
    let app = served(false).await;
    let csv = "name,maker,mould,plastic,mass_g,speed,glide,turn,fade\n\
               Good,Saltmarsh,Teasel,premium,173,11,5,-1,2\n\
               Heavy,Saltmarsh,Teasel,premium,1730,11,5,-1,2\n\
               Odd,Saltmarsh,Teasel,glass,173,11,5,x,2\n\
               Good,Saltmarsh,Teasel,base,170,11,5,-1,2\n";
    let report = ask(&app, "POST", "/api/shelf/import", csv).await.json();
    assert_eq!((&report["good"], &report["imported"]), (&json!(1), &json!(0)));
    let problems = report["problems"].as_array().unwrap();
    let at: Vec<_> =
        problems.iter().map(|p| (p["line"].as_u64().unwrap(), p["column"].as_str().unwrap())).collect();
    assert_eq!(at, [(3, "mass_g"), (4, "turn"), (4, "plastic"), (5, "name")], "{report}");
    assert_eq!(ask(&app, "GET", "/api/discs", "").await.json(), json!([]));
    let report = ask(&app, "POST", "/api/shelf/import?accept_good=true", csv).await.json();
    assert_eq!(report["imported"], 1);
    assert_eq!(report["disc_ids"].as_array().unwrap().len(), 1);
    let text = ask(&app, "GET", "/api/shelf.csv", "").await;
    assert!(text.kind.starts_with("text/csv") && text.text.contains("Good,Saltmarsh,Teasel"));
}

#[actix_web::test]
async fn only_csv_is_imported() {
    let app = served(false).await;
    let request = test::TestRequest::post()
        .uri("/api/shelf/import")
        .insert_header(("host", "localhost"))
        .insert_header(("content-type", "text/plain"))
        .set_payload("name")
        .to_request();
    let response = test::call_service(&app, request).await;
    assert_eq!(response.status(), StatusCode::UNSUPPORTED_MEDIA_TYPE);
    let text = test::read_body(response).await;
    assert!(String::from_utf8_lossy(&text).contains("the kind text/csv was expected"), "{text:?}");
}

#[actix_web::test]
async fn pages_are_served_and_missing_files_are_not() {
    let app = served(false).await;
    for page in ["/", "/lines", "/shelf", "/player"] {
        let answer = ask(&app, "GET", page, "").await;
        assert!(answer.kind.starts_with("text/") && answer.kind.contains("charset=utf-8"), "{}", answer.kind);
    }
    assert_eq!(ask(&app, "GET", "/assets/nothing.js", "").await.status, StatusCode::NOT_FOUND);
    assert_eq!(ask(&app, "GET", "/api", "").await.kind, ask(&app, "GET", "/", "").await.kind);
}

/// The judgement of the demo finds every planted fault, and acting on one saves what it said.
#[actix_web::test]
async fn the_demo_season_finds_the_planted_faults() {
    let app = served(true).await;
    let season = ask(&app, "GET", "/api/bags/1/season", "").await.json();
    let findings = season["findings"].as_array().unwrap();
    assert!((4..=7).contains(&findings.len()));
    for kind in ["over_cap", "gap", "worn_out", "twins"] {
        assert!(findings.iter().any(|f| f["kind"] == kind), "{kind} among {findings:#?}");
    }
    assert_eq!(findings[0]["kind"], "over_cap", "rules come first");
    let saves: Vec<f64> = findings[1..].iter().map(|f| f["saves_strokes"].as_f64().unwrap()).collect();
    assert!(saves.windows(2).all(|w| w[0] >= w[1]) && saves.iter().all(|s| *s >= 0.01), "{saves:?}");
    let strokes = |v: &serde_json::Value, what: &str| v[what].as_f64().unwrap();
    assert!(strokes(&season, "shelf_leaves_strokes") < strokes(&season, "leaves_strokes"));
    assert_eq!(season["weathers"].as_array().unwrap().len(), 5);

    let about = json!("headwind-mid");
    let gap = findings.iter().find(|f| f["line_keys"].as_array().unwrap().contains(&about)).unwrap();
    let carry = json!({ "carry": [{ "disc_id": gap["action"]["disc_id"], "spare": false }] });
    ask(&app, "POST", "/api/bags/1/moves", &carry.to_string()).await;
    let after = ask(&app, "GET", "/api/bags/1/season", "").await.json();
    let saved = strokes(&season, "leaves_strokes") - strokes(&after, "leaves_strokes");
    let promised = strokes(gap, "saves_strokes");
    assert!((saved - promised).abs() < 0.02, "{saved} of {promised}");
    let today = ask(&app, "GET", "/api/bags/1/analysis?wind_m_s=5", "").await.json();
    assert_eq!(today["lines"].as_array().unwrap().len(), season["lines"].as_array().unwrap().len());
    assert!(strokes(&today, "leaves_strokes") > 0.0);
    assert_eq!(ask(&app, "GET", "/api/bags/99/season", "").await.status, StatusCode::NOT_FOUND);
}

/// A card shows both: what the season says of calm air, and a calm day.
#[actix_web::test]
async fn regress_a_calm_day_is_told_as_the_season_tells_calm() {
    let app = served(true).await;
    let season = ask(&app, "GET", "/api/bags/1/season", "").await.json();
    let today = ask(&app, "GET", "/api/bags/1/analysis", "").await.json();
    let (lines, days) = (season["lines"].as_array().unwrap(), today["lines"].as_array().unwrap());
    assert_eq!(lines.len(), days.len());
    for (line, day) in lines.iter().zip(days) {
        assert_eq!(line["key"], day["line"]["key"]);
        let calm = line["by_weather"].as_array().unwrap().iter().find(|w| w["kind"] == "calm").unwrap();
        let best = |cell: &Value| cell["best"]["chance"].as_f64().unwrap_or(0.0);
        assert!((best(calm) - best(day)).abs() < 1e-9, "{}: {calm} in the season, {day} today", line["key"]);
    }
}

/// Putts are worth so much more than other lines that a bag without one of the putters was searched for until patience ran out.
#[actix_web::test]
async fn regress_every_near_bag_of_the_demo_is_proven() {
    let app = served(true).await;
    let wishes = r#"{"capacity": 22, "mould_strokes": 0.01}"#;
    let near = ask(&app, "POST", "/api/bags/1/build/ties", wishes).await.json();
    let bags = near["bags"].as_array().unwrap();
    assert_eq!(bags.len(), 22, "one without each of the best");
    for bag in bags {
        assert_eq!(bag["is_proven"], true, "{bag}");
    }
}

/// The table has a cell for every carried disc, and what the day's judgement tells of stands in it.
#[actix_web::test]
async fn the_table_has_every_disc_on_every_line() {
    let app = served(true).await;
    let table = ask(&app, "GET", "/api/bags/1/table?wind_m_s=4", "").await.json();
    let today = ask(&app, "GET", "/api/bags/1/analysis?wind_m_s=4", "").await.json();
    let (rows, lines) = (table["rows"].as_array().unwrap(), today["lines"].as_array().unwrap());
    assert_eq!((rows.len(), table["disc_ids"].as_array().unwrap().len()), (lines.len(), 19));
    for (row, line) in rows.iter().zip(lines) {
        assert_eq!(row["line_key"], line["line"]["key"]);
        let cells = row["cells"].as_array().unwrap();
        let columns: Vec<&Value> = cells.iter().map(|c| &c["disc_id"]).collect();
        assert_eq!(columns, table["disc_ids"].as_array().unwrap().iter().collect::<Vec<_>>());
        assert!(line["best"].is_null() || cells.contains(&line["best"]), "{}", row["line_key"]);
    }
    for bad in ["/api/bags/99/table", "/api/bags/1/table?wind_m_s=900"] {
        let answer = ask(&app, "GET", bad, "").await;
        assert!([400, 404, 422].contains(&answer.status.as_u16()), "{bad}: {}", answer.text);
    }
}

/// What the judgement says is said in the player's units.
#[actix_web::test]
async fn words_are_in_the_players_units() {
    let app = served(true).await;
    for (units, distance, speed) in
        [("metric", " m to fairway drivers", " m/s"), ("imperial", " ft to fairway drivers", " mph")]
    {
        let part = json!({ "units": units, "backhand_m": 62 }).to_string();
        assert_eq!(ask(&app, "PUT", "/api/player", &part).await.status, StatusCode::OK);
        let reach =
            ask(&app, "GET", "/api/lines/reach", "").await.json()["meaning"].as_str().unwrap().to_owned();
        assert!(reach.contains(distance) || reach.contains("add nothing"), "{reach}");
        let board = ask(&app, "GET", "/api/bags/1/board", "").await.text;
        assert!(board.contains(speed), "a slow arm has no use for some peg: {board}");
        let other = if units == "metric" { " mph" } else { " m/s" };
        assert!(!board.contains(other), "{board}");
    }
}
