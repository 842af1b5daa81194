//! The door under attack: every operation asks for the password however its address is written, what is sent is bounded once it is
//! unpacked, and log-in is neither a way to use up memory nor to shut the player out.
#![cfg(target_os = "linux")]

use std::io::{BufRead, BufReader, Read, Write};
use std::net::{TcpListener, TcpStream};
use std::path::Path;
use std::process::{Command, Stdio};

use actix_web::http::StatusCode;
use actix_web::test::TestRequest;
use flate2::Compression;
use flate2::write::GzEncoder;
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::door::{Door, keep_password, password_file};
use zinc_kite::routes::document;

use crate::file::Serving;
use crate::http::{Served, a_disc, ask, ask_with, behind, served};

const PASSWORD: &str = "a long walk home";

async fn locked(proxied: bool) -> impl Served {
    let folder = tempfile::tempdir().unwrap();
    let file = password_file(&folder.path().join("kept.db"));
    keep_password(&file, PASSWORD).unwrap();
    let mut door = Door::locked(&file, vec![], true).unwrap();
    door.behind_proxy = proxied;
    behind(true, door).await
}

/// Every operation that is not open to all, with its path filled in.
fn closed_operations() -> Vec<(String, String)> {
    let document = serde_json::to_value(document()).unwrap();
    let mut all = Vec::new();
    for (path, methods) in document["paths"].as_object().unwrap() {
        let filled: String = path
            .split('/')
            .map(|part| if part.starts_with('{') { "1" } else { part })
            .collect::<Vec<_>>()
            .join("/");
        for method in methods.as_object().unwrap().keys().filter(|m| *m != "parameters") {
            all.push((method.to_uppercase(), filled.clone()));
        }
    }
    all.retain(|(_, path)| !matches!(path.as_str(), "/api/session" | "/api/health"));
    assert!(all.len() > 100, "{}", all.len());
    all
}

/// Other ways to write a path: one letter encoded, all of them, in small and great digits, and what some servers take for the same.
fn ways_to_write(path: &str) -> Vec<String> {
    let encoded = |letter: char| format!("%{:02x}", letter as u32);
    let one = |at: usize| {
        path.chars()
            .enumerate()
            .map(|(k, c)| if k == at { encoded(c) } else { c.to_string() })
            .collect::<String>()
    };
    let every = |upper: bool| {
        let of = |c: char| match (c, upper) {
            ('/', _) => "/".to_owned(),
            (c, true) => encoded(c).to_uppercase(),
            (c, false) => encoded(c),
        };
        path.chars().map(of).collect::<String>()
    };
    let letters = (1..path.len()).filter(|k| path.as_bytes()[*k] != b'/').map(one);
    let more = [
        path.to_owned(),
        every(true),
        every(false),
        one(4),
        format!("/{path}"),
        format!("{path}/"),
        format!("/.{path}"),
        format!("/x/..{path}"),
        format!("/%2e{path}"),
        path.replace("/api/", "/api//"),
        path.replace("/api/", "/api/./"),
        path.replace("/api/", "/API/"),
        path.replace("/api/", "/api;x=1/"),
        path.replace("/api", "/%2561pi"),
        format!("{path}?x=%61"),
    ];
    letters.chain(more).collect()
}

#[actix_web::test]
async fn regress_no_way_to_write_a_path_goes_round_the_password() {
    let app = locked(false).await;
    let (mut asked, mut refused) = (0, 0);
    for (method, path) in closed_operations() {
        for written in ways_to_write(&path) {
            let answer = ask_with(&app, &method, &written, "{}", &[("if-match", "*")]).await;
            asked += 1;
            refused += usize::from(answer.status == StatusCode::UNAUTHORIZED);
            // What is no address of the interface is a page of the front end, the same for everybody, or nothing.
            let is_page =
                answer.kind.starts_with("text/html") || answer.text.starts_with("The front end is not");
            let is_nothing = answer.status.is_client_error() && answer.kind == "application/problem+json";
            assert!(
                is_page || is_nothing || answer.text.is_empty(),
                "{method} {written}: {} {:.200}",
                answer.status,
                answer.text
            );
            assert!(is_page || !answer.status.is_success(), "{method} {written}: {}", answer.status);
        }
    }
    assert!(refused * 2 > asked, "{refused} of {asked} met the door");
}

fn gzip(bytes: &[u8]) -> Vec<u8> {
    let mut packed = GzEncoder::new(Vec::new(), Compression::best());
    packed.write_all(bytes).unwrap();
    packed.finish().unwrap()
}

async fn send_packed(app: &impl Served, path: &str, how: &str, body: Vec<u8>) -> (StatusCode, String) {
    let request = TestRequest::post()
        .uri(path)
        .insert_header(("host", "localhost"))
        .insert_header(("content-type", "application/json"))
        .insert_header(("content-encoding", how))
        .set_payload(body)
        .to_request();
    let response = actix_web::test::call_service(app, request).await;
    let status = response.status();
    (status, String::from_utf8_lossy(&actix_web::test::read_body(response).await).into_owned())
}

#[actix_web::test]
async fn regress_a_packed_body_is_measured_unpacked() {
    let app = served(true).await;
    let (status, said) =
        send_packed(&app, "/api/discs", "gzip", gzip(a_disc("Spray").to_string().as_bytes())).await;
    assert_eq!(status, StatusCode::CREATED, "{said}");
    for (path, size) in [("/api/session", 100 << 10), ("/api/discs", 5 << 20)] {
        let (status, said) = send_packed(&app, path, "gzip", gzip(&vec![b' '; size])).await;
        assert_eq!(status, StatusCode::PAYLOAD_TOO_LARGE, "{path}: {said}");
    }
    let (status, said) = send_packed(&app, "/api/discs", "br", b"x".to_vec()).await;
    assert_eq!(status, StatusCode::UNSUPPORTED_MEDIA_TYPE, "{said}");
    let (status, said) = send_packed(&app, "/api/discs", "gzip", b"no gzip".to_vec()).await;
    assert_eq!(status, StatusCode::BAD_REQUEST, "{said}");
}

#[actix_web::test]
async fn regress_a_stranger_sends_a_few_kilobytes() {
    let app = locked(false).await;
    let long = json!({ "password": "x".repeat(5000) }).to_string();
    assert_eq!(ask(&app, "POST", "/api/session", &long).await.status, StatusCode::PAYLOAD_TOO_LARGE);
    // What is not theirs to send is not read at all.
    let huge = "x".repeat(5 << 20);
    for path in ["/api/discs", "/api/data/restore", "/api/records"] {
        assert_eq!(ask_with(&app, "POST", path, &huge, &[]).await.status, StatusCode::UNAUTHORIZED, "{path}");
    }
}

/// Greatest memory that a process has had, MB.
fn peak_mb(pid: u32) -> f64 {
    let text = std::fs::read_to_string(format!("/proc/{pid}/status")).unwrap();
    let line = text.lines().find(|l| l.starts_with("VmHWM")).unwrap();
    line.split_whitespace().nth(1).unwrap().parse::<f64>().unwrap() / 1024.0
}

fn post(address: &str, path: &str, headers: &str, body: &[u8]) -> String {
    let mut stream = TcpStream::connect(address).unwrap();
    let head = format!(
        "POST {path} HTTP/1.1\r\nhost: {address}\r\nconnection: close\r\ncontent-type: application/json\r\n{headers}content-length: {}\r\n\r\n",
        body.len()
    );
    stream.write_all(head.as_bytes()).unwrap();
    // Who is refused early may not be read to the end.
    let _ = stream.write_all(body);
    let mut answer = Vec::new();
    let _ = stream.read_to_end(&mut answer);
    String::from_utf8_lossy(&answer).into_owned()
}

/// The program behind a proxy, asking for the password, on a file of its own.
fn serving_locked(folder: &Path) -> Serving {
    let db = folder.join("mine.db");
    let mut set = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
    let mut set =
        set.args(["password", "--db"]).arg(&db).stdin(Stdio::piped()).stdout(Stdio::null()).spawn().unwrap();
    set.stdin.take().unwrap().write_all(PASSWORD.as_bytes()).unwrap();
    assert!(set.wait().unwrap().success());
    // It says the proxy's address; its own port is one that was free a moment ago.
    let port = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
    let mut command = Command::new(env!("CARGO_BIN_EXE_zinc-kite"));
    command.args([
        "serve",
        "--new",
        "--behind-tls",
        "--name",
        "kite.example",
        "--port",
        &port.to_string(),
        "--db",
    ]);
    let mut child = command.arg(&db).stdout(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
    let mut lines = BufReader::new(child.stdout.take().unwrap()).lines();
    assert!(lines.any(|line| line.unwrap().starts_with("Zinc Kite is at https://kite.example/")));
    Serving { child, address: format!("127.0.0.1:{port}") }
}

#[test]
fn regress_neither_packed_bodies_nor_passwords_use_up_memory() {
    let folder = tempfile::tempdir().unwrap();
    let serving = serving_locked(folder.path());
    let bomb = gzip(&vec![b' '; 200 << 20]);
    for path in ["/api/session", "/api/discs"] {
        let said = post(&serving.address, path, "content-encoding: gzip\r\n", &bomb);
        assert!(said.is_empty() || said.contains(" 413 ") || said.contains(" 401 "), "{said:.200}");
    }
    let tries: Vec<_> = (0..30)
        .map(|k| {
            let address = serving.address.clone();
            std::thread::spawn(move || {
                let from = format!("x-forwarded-for: 10.0.0.{k}\r\n");
                post(&address, "/api/session", &from, br#"{"password":"a wrong one"}"#)
            })
        })
        .collect();
    let answers: Vec<String> = tries.into_iter().map(|t| t.join().unwrap()).collect();
    assert!(answers.iter().all(|a| a.contains(" 401 ") || a.contains(" 429 ")), "{answers:?}");
    let peak = peak_mb(serving.child.id());
    assert!(peak < 120.0, "{peak} MB");
}

/// Behind a proxy all come from one address: those it names are counted, and who was there before is let pass.
#[actix_web::test]
async fn regress_who_guesses_behind_a_proxy_shuts_out_nobody_else() {
    let app = locked(true).await;
    let right = json!({ "password": PASSWORD }).to_string();
    let try_from = async |from: &str, cookie: &str, body: &str| {
        ask_with(&app, "POST", "/api/session", body, &[("x-forwarded-for", from), ("cookie", cookie)]).await
    };
    let entered = try_from("10.0.0.7", "", &right).await;
    let known =
        entered.headers.get_all("set-cookie").find(|c| c.to_str().unwrap().starts_with("zinc-kite-known"));
    let known = known.unwrap().to_str().unwrap().split(';').next().unwrap().to_owned();
    let mut last = StatusCode::OK;
    for k in 0..40 {
        // The last that is named is the one that the proxy saw; what stands before it anybody can write.
        let from = format!("10.1.1.{k}, 10.0.0.9");
        last = try_from(&from, "", r#"{"password":"a wrong one"}"#).await.status;
    }
    assert_eq!(last, StatusCode::TOO_MANY_REQUESTS);
    assert_eq!(try_from("10.0.0.9", "", &right).await.status, StatusCode::TOO_MANY_REQUESTS);
    assert_eq!(try_from("10.0.0.8", "", &right).await.status, StatusCode::OK, "another address");
    // From so many addresses that strangers have no tries left.
    for k in 0..40 {
        try_from(&format!("10.2.2.{k}"), "", r#"{"password":"a wrong one"}"#).await;
    }
    assert_eq!(try_from("10.0.0.11", "", &right).await.status, StatusCode::TOO_MANY_REQUESTS);
    assert_eq!(try_from("10.0.0.11", &known, &right).await.status, StatusCode::OK);
}

#[rstest]
#[case("/api/discs", a_disc("Spray"))]
#[case("/api/range", json!({ "hand": "right", "throws": [] }))]
#[actix_web::test]
async fn regress_an_object_is_not_written_as_a_list(#[case] path: &str, #[case] whole: Value) {
    let app = served(true).await;
    let bare = Value::Array(whole.as_object().unwrap().values().cloned().collect());
    let answer = ask(&app, "POST", path, &bare.to_string()).await;
    assert_eq!(answer.status, StatusCode::BAD_REQUEST, "{}", answer.text);
    let mut inner = a_disc("Spray");
    inner["printed"] = json!([11, 5, -1, 2]);
    let answer = ask(&app, "POST", "/api/discs", &inner.to_string()).await;
    assert_eq!(answer.status, StatusCode::BAD_REQUEST, "{}", answer.text);
    assert!(answer.text.contains("printed"), "{}", answer.text);
}

#[actix_web::test]
async fn regress_a_whole_number_is_one_however_it_is_written() {
    let app = served(true).await;
    let moved = ask(&app, "POST", "/api/bags/1/moves", r#"{"bench":[3.0]}"#).await;
    assert_eq!(moved.status, StatusCode::OK, "{}", moved.text);
    let broken = ask(&app, "POST", "/api/bags/1/moves", r#"{"bench":[3.5]}"#).await;
    assert_eq!(broken.status, StatusCode::BAD_REQUEST);
    for (path, status) in [
        ("/api/changes?most=0", 422),
        ("/api/changes?most=201", 422),
        ("/api/changes?most=20.0", 200),
        ("/api/changes?most=1.5", 400),
    ] {
        let answer = ask(&app, "GET", path, "").await;
        assert_eq!(answer.status.as_u16(), status, "{path}: {}", answer.text);
    }
}

#[actix_web::test]
async fn regress_what_says_no_kind_is_a_problem_in_words() {
    let app = served(true).await;
    for path in
        ["/api/shelf/import", "/api/moulds/import", "/api/courses/import", "/api/records", "/api/discs"]
    {
        let request =
            TestRequest::post().uri(path).insert_header(("host", "localhost")).set_payload("x").to_request();
        let response = actix_web::test::call_service(&app, request).await;
        assert_eq!(response.status(), StatusCode::UNSUPPORTED_MEDIA_TYPE, "{path}");
        assert_eq!(response.headers().get("content-type").unwrap(), "application/problem+json", "{path}");
    }
}

/// Entities of a document type stand for text without limit.
#[rstest]
#[case::utf8(false)]
#[case::utf16(true)]
#[actix_web::test]
async fn regress_a_document_type_in_gpx_is_refused(#[case] utf16: bool) {
    let app = served(true).await;
    let text = format!(
        "<?xml version=\"1.0\"?>\n<!DOCTYPE gpx [<!ENTITY a \"{}\">]>\n<gpx version=\"1.1\"><wpt lat=\"1\" lon=\"1\"><name>{}</name></wpt></gpx>",
        "x".repeat(50_000),
        "&a;".repeat(10_000)
    );
    let bytes: Vec<u8> = match utf16 {
        true => [0xFEFFu16].into_iter().chain(text.encode_utf16()).flat_map(u16::to_le_bytes).collect(),
        false => text.into_bytes(),
    };
    let request = TestRequest::post()
        .uri("/api/courses/import")
        .insert_header(("host", "localhost"))
        .insert_header(("content-type", "application/gpx+xml"))
        .set_payload(bytes)
        .to_request();
    let since = std::time::Instant::now();
    let response = actix_web::test::call_service(&app, request).await;
    assert_eq!(response.status(), StatusCode::BAD_REQUEST);
    let said = String::from_utf8(actix_web::test::read_body(response).await.to_vec()).unwrap();
    assert!(utf16 || said.contains("DOCTYPE"), "{said}");
    assert!(since.elapsed().as_secs() < 10, "it is not read");
}
