//! Who is let in, what two windows do to one another, and what browsers are told.

use crate::http::{Answer, Served, a_disc, ask, ask_with, behind, served};
use actix_web::http::StatusCode;
use rstest::rstest;
use serde_json::json;
use zinc_kite::door::{Door, keep_password, password_file};

const PASSWORD: &str = "a long walk home";

async fn locked() -> impl Served {
    let folder = tempfile::tempdir().unwrap();
    let file = password_file(&folder.path().join("kept.db"));
    keep_password(&file, PASSWORD).unwrap();
    behind(true, Door::locked(&file, vec!["bag.example".into()], true).unwrap()).await
}

async fn log_in(app: &impl Served, password: &str) -> Answer {
    ask(app, "POST", "/api/session", &json!({ "password": password }).to_string()).await
}

/// Every resource with every method that changes it.
const CHANGING: [(&str, &str, &str); 8] = [
    ("PUT", "/api/player", "/api/player"),
    ("PUT", "/api/discs/3", "/api/discs/3"),
    ("DELETE", "/api/discs/3", "/api/discs/3"),
    ("PUT", "/api/bags/1", "/api/bags/1"),
    ("POST", "/api/bags/1/moves", "/api/bags/1"),
    ("PUT", "/api/lines/tunnel", "/api/lines/tunnel"),
    ("PUT", "/api/lines/tunnel/setting", "/api/lines/tunnel"),
    ("DELETE", "/api/lines/tunnel", "/api/lines/tunnel"),
];

/// What a change says it wants, so that it would be done but for its tag.
async fn body_for(app: &impl Served, method: &str, path: &str) -> String {
    match (method, path) {
        (_, "/api/bags/1/moves") => json!({ "bench": [1] }).to_string(),
        (_, "/api/lines/tunnel/setting") => json!({ "enabled": false }).to_string(),
        ("PUT", _) => ask(app, "GET", path, "").await.text,
        _ => String::new(),
    }
}

#[actix_web::test]
async fn prop_a_change_says_what_it_changes() {
    let app = served(true).await;
    for (method, path, thing) in CHANGING {
        let body = body_for(&app, method, path).await;
        let now = ask(&app, "GET", thing, "").await;
        let refused = ask_with(&app, method, path, &body, &[]).await;
        assert_eq!(refused.status, StatusCode::PRECONDITION_REQUIRED, "{method} {path}: {}", refused.text);
        let old = ask_with(&app, method, path, &body, &[("if-match", "\"0000000000000000\"")]).await;
        assert_eq!(old.status, StatusCode::PRECONDITION_FAILED, "{method} {path}: {}", old.text);
        let problem = old.json();
        assert_eq!(problem["now"], now.json(), "{method} {path}");
        assert_eq!(old.header("etag"), now.header("etag"));
        if method != "DELETE" {
            assert!(problem["yours"].is_object(), "{problem}");
        }
        assert_eq!(ask(&app, "GET", thing, "").await.text, now.text, "{method} {path} changed something");
    }
}

#[actix_web::test]
async fn the_second_of_two_windows_is_told_and_overwrites_nothing() {
    let app = served(true).await;
    let bag = ask(&app, "GET", "/api/bags/1", "").await;
    let (tag, mut mine, mut theirs) = (bag.header("etag").unwrap().to_owned(), bag.json(), bag.json());
    assert_eq!(bag.json()["etag"], tag);
    theirs["name"] = json!("Winter");
    mine["capacity"] = json!(9);
    let first = ask_with(&app, "PUT", "/api/bags/1", &theirs.to_string(), &[("if-match", &tag)]).await;
    assert_eq!(first.status, StatusCode::OK);
    let second = ask_with(&app, "PUT", "/api/bags/1", &mine.to_string(), &[("if-match", &tag)]).await;
    assert_eq!(second.status, StatusCode::PRECONDITION_FAILED);
    let both = second.json();
    assert_eq!((&both["now"]["name"], &both["yours"]["capacity"]), (&json!("Winter"), &json!(9)));
    // With the tag that came along it can be sent again.
    let tag = second.header("etag").unwrap().to_owned();
    let merged = json!({ "name": "Winter", "capacity": 9 }).to_string();
    let again =
        ask_with(&app, "PUT", "/api/bags/1", &merged, &[("if-match", &format!("\"x\", {tag}"))]).await;
    assert_eq!(again.json()["capacity"], 9, "{}", again.text);
}

#[rstest]
#[case("/api/player")]
#[case("/api/discs")]
#[case("/api/discs/3")]
#[case("/api/bags/1")]
#[case("/api/lines/tunnel")]
#[case("/api/bags/1/board?wind_m_s=4")]
#[case("/api/changes")]
#[actix_web::test]
async fn every_answer_has_a_tag_and_is_sent_once(#[case] path: &str) {
    let app = served(true).await;
    let first = ask_with(&app, "GET", path, "", &[]).await;
    let tag = first.header("etag").unwrap().to_owned();
    let again = ask_with(&app, "GET", path, "", &[("if-none-match", &tag)]).await;
    assert_eq!((again.status, again.text.as_str()), (StatusCode::NOT_MODIFIED, ""));
    assert_eq!(again.header("etag"), Some(tag.as_str()));
    ask(&app, "PUT", "/api/player", &json!({ "name": "x", "hand": "left", "strong_style": "forehand", "backhand_m": 70,
        "forehand_m": 80, "skill": "club", "units": "metric", "school": "five", "altitude_m": 0, "temperature_c": 20 }).to_string())
        .await;
    ask(&app, "DELETE", "/api/discs/4", "").await;
    if !path.contains("discs/3") {
        let now = ask_with(&app, "GET", path, "", &[("if-none-match", &tag)]).await;
        assert_eq!(now.status, StatusCode::OK, "{path} is another now");
    }
}

/// A page of another site leads its own name here, or sends a form, or asks by script: none reads or writes.
#[rstest]
#[case(&[("host", "kite.example")], 421)]
#[case(&[("host", "192.168.1.7:4817")], 421)]
#[case(&[("host", "")], 421)]
#[case(&[("host", "127.0.0.1:4817"), ("origin", "http://kite.example")], 403)]
#[case(&[("host", "127.0.0.1:4817"), ("origin", "null")], 403)]
#[case(&[("host", "127.0.0.1:4817"), ("origin", "http://127.0.0.1:80")], 403)]
#[case(&[("host", "127.0.0.1:4817"), ("sec-fetch-site", "cross-site")], 403)]
#[case(&[("host", "127.0.0.1:4817"), ("origin", "http://127.0.0.1:4817"), ("sec-fetch-site", "same-origin")], 201)]
#[case(&[("host", "localhost:4817")], 201)]
#[actix_web::test]
async fn other_sites_are_kept_out(#[case] headers: &[(&str, &str)], #[case] status: u16) {
    let app = served(true).await;
    let answer = ask_with(&app, "POST", "/api/discs", &a_disc("Spray").to_string(), headers).await;
    assert_eq!(answer.status.as_u16(), status, "{}", answer.text);
    let there = ask(&app, "GET", "/api/discs", "").await.text.contains("Spray");
    assert_eq!(there, status == 201);
    if status != 201 {
        assert_eq!(answer.kind, "application/problem+json");
    }
}

#[rstest]
#[case("/", StatusCode::OK)]
#[case("/api/discs", StatusCode::OK)]
#[case("/api/nothing", StatusCode::NOT_FOUND)]
#[case("/assets/none.js", StatusCode::NOT_FOUND)]
#[actix_web::test]
async fn browsers_are_told_to_run_nothing_else(#[case] path: &str, #[case] status: StatusCode) {
    let app = served(true).await;
    let answer = ask(&app, "GET", path, "").await;
    // A checkout without a built front end answers the page with 404.
    assert!(answer.status == status || path == "/", "{}", answer.status);
    let policy = answer.header("content-security-policy").unwrap();
    assert!(policy.contains("default-src 'none'") && policy.contains("frame-ancestors 'none'"), "{policy}");
    assert!(!policy.contains("unsafe"), "{policy}");
    assert_eq!(answer.header("x-content-type-options"), Some("nosniff"));
    assert_eq!(answer.header("referrer-policy"), Some("no-referrer"));
    assert!(answer.header("permissions-policy").unwrap().contains("geolocation=()"));
}

#[actix_web::test]
async fn who_takes_get_takes_head() {
    let app = served(true).await;
    for path in ["/api/health", "/api/discs", "/api/player"] {
        assert_eq!(ask(&app, "HEAD", path, "").await.status, StatusCode::OK, "{path}");
    }
}

#[actix_web::test]
async fn a_locked_program_answers_who_knows_the_password() {
    let app = locked().await;
    for (method, path) in
        [("GET", "/api/discs"), ("GET", "/api/data/backup.db"), ("POST", "/api/changes/undo")]
    {
        let refused = ask(&app, method, path, "").await;
        assert_eq!(refused.status, StatusCode::UNAUTHORIZED, "{path}: {}", refused.text);
        assert_eq!(refused.kind, "application/problem+json");
    }
    let state = ask(&app, "GET", "/api/session", "").await.json();
    assert_eq!(state, json!({ "locked": true, "admitted": false }));
    let wrong = log_in(&app, "a short walk").await;
    assert_eq!((wrong.status, &wrong.json()["field"]), (StatusCode::UNAUTHORIZED, &json!("password")));

    let entered = log_in(&app, PASSWORD).await;
    assert_eq!(entered.status, StatusCode::OK, "{}", entered.text);
    let cookie = entered.header("set-cookie").unwrap().to_owned();
    for part in ["HttpOnly", "SameSite=Strict", "Secure", "Path=/"] {
        assert!(cookie.contains(part), "{cookie}");
    }
    let session = cookie.split(';').next().unwrap().to_owned();
    let with = [("cookie", session.as_str()), ("host", "bag.example")];
    assert_eq!(ask_with(&app, "GET", "/api/discs", "", &with).await.status, StatusCode::OK);
    let forged = session.replace(&session[session.len() - 4..], "0000");
    assert_eq!(
        ask_with(&app, "GET", "/api/discs", "", &[("cookie", &forged)]).await.status,
        StatusCode::UNAUTHORIZED
    );
    ask_with(&app, "DELETE", "/api/session", "", &with).await;
    assert_eq!(ask_with(&app, "GET", "/api/discs", "", &with).await.status, StatusCode::UNAUTHORIZED);
}

#[actix_web::test]
async fn guessing_is_slowed_down() {
    let app = locked().await;
    let mut waits = None;
    for k in 0..8 {
        let answer = log_in(&app, &format!("guess number {k}")).await;
        if answer.status == StatusCode::TOO_MANY_REQUESTS {
            waits = Some(answer.header("retry-after").unwrap().parse::<u64>().unwrap());
            break;
        }
    }
    assert!(waits.is_some_and(|s| (1..=60).contains(&s)), "{waits:?}");
    assert_eq!(log_in(&app, PASSWORD).await.status, StatusCode::TOO_MANY_REQUESTS);
}

#[actix_web::test]
async fn a_body_has_a_limit_whatever_the_route() {
    let app = served(false).await;
    let large = "x".repeat((4 << 20) + 1);
    for (method, path) in [("POST", "/api/discs"), ("POST", "/api/shelf/import"), ("PUT", "/api/player")] {
        let answer = ask_with(&app, method, path, &large, &[]).await;
        assert_eq!(answer.status, StatusCode::PAYLOAD_TOO_LARGE, "{path}");
        assert_eq!(answer.kind, "application/problem+json");
        assert!(answer.text.contains("larger than 4 MB"), "{}", answer.text);
    }
}

#[actix_web::test]
async fn a_backup_is_looked_at_and_brought_back() {
    use actix_web::test;
    let app = served(true).await;
    let get =
        test::TestRequest::get().uri("/api/data/backup.db").insert_header(("host", "localhost")).to_request();
    let backup = test::read_body(test::call_service(&app, get).await).await;
    let before = ask(&app, "GET", "/api/discs", "").await.text;
    ask(&app, "DELETE", "/api/discs/4", "").await;
    let old = ask(&app, "GET", "/api/data", "").await.header("etag").unwrap().to_owned();
    ask(&app, "DELETE", "/api/discs/5", "").await;
    let tag = ask(&app, "GET", "/api/data", "").await.header("etag").unwrap().to_owned();
    let post = |path: &str| {
        test::TestRequest::post()
            .uri(path)
            .insert_header(("host", "localhost"))
            .insert_header(("content-type", "application/vnd.sqlite3"))
            .insert_header(("if-match", tag.as_str()))
            .set_payload(backup.clone())
            .to_request()
    };
    let looked = test::call_service(&app, post("/api/data/preview")).await;
    let holds: serde_json::Value = serde_json::from_slice(&test::read_body(looked).await).unwrap();
    assert_eq!((&holds["discs"], &holds["player"]), (&json!(46), &json!("Ilse Marrow")));
    assert_ne!(ask(&app, "GET", "/api/discs", "").await.text, before);
    for (seen, status) in [(None, 428), (Some(old.as_str()), 412)] {
        let mut request =
            test::TestRequest::post().uri("/api/data/restore").insert_header(("host", "localhost"));
        if let Some(seen) = seen {
            request = request.insert_header(("if-match", seen));
        }
        let refused = test::call_service(&app, request.set_payload(backup.clone()).to_request()).await;
        assert_eq!(refused.status().as_u16(), status);
    }
    let done = test::call_service(&app, post("/api/data/restore")).await;
    assert_eq!(done.status(), StatusCode::OK);
    assert_eq!(ask(&app, "GET", "/api/discs", "").await.text, before);
    // It goes on being a database like any other.
    ask(&app, "DELETE", "/api/discs/4", "").await;
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(ask(&app, "GET", "/api/discs", "").await.text, before);
    let cut = &backup[..backup.len() / 2];
    let broken = test::TestRequest::post()
        .uri("/api/data/restore")
        .insert_header(("host", "localhost"))
        .insert_header(("if-match", "*"))
        .set_payload(cut.to_vec())
        .to_request();
    assert_eq!(test::call_service(&app, broken).await.status(), StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(ask(&app, "GET", "/api/discs", "").await.text, before);
}

#[actix_web::test]
async fn the_address_comes_as_a_picture_for_a_phone() {
    let app = served(true).await;
    let code = ask(&app, "GET", "/api/data/address.svg", "").await;
    assert_eq!(code.kind, "image/svg+xml");
    assert!(code.text.contains("<svg"));
    let records = ask(&app, "GET", "/api/data", "").await.json();
    assert_eq!(records["addresses"], json!(["http://192.168.1.7:4817/"]));
    assert_eq!(records["holds"]["discs"], 46);
}
