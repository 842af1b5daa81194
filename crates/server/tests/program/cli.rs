//! The command line, as a person without a browser uses it.

use std::io::Write;
use std::process::{Command, Output, Stdio};

use rstest::rstest;
use serde_json::{Value, json};

fn run(arguments: &[&str], input: &str) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_zinc-kite"))
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // A program that refuses its arguments never reads: a closed pipe is no failure of the test.
    let _ = child.stdin.take().unwrap().write_all(input.as_bytes());
    child.wait_with_output().unwrap()
}

fn fly(request: &Value) -> Value {
    let output = run(&["fly"], &request.to_string());
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    serde_json::from_slice(&output.stdout).unwrap()
}

/// A frictionless disc is a stone, and `coefficients` are used as they stand: Galileo's parabola in closed form.
#[test]
fn val_fly_uses_coefficients_as_they_stand() {
    let request = json!({
        "coefficients": { "cd0": 0.0, "cd_alpha": 0.0, "alpha0": 0.0, "cl0": 0.0, "cl_alpha": 0.0,
                          "cm0": 0.0, "cm_alpha": 0.0, "cm_alpha2": 0.0, "spin_decay": 0.0 },
        "mass_g": 175, "radius_m": 0.106, "inertia_kg_m2": 0.0015,
        "release": { "speed_m_s": 20, "launch_deg": 0, "nose_deg": 0, "height_m": 1.0, "spin_rad_s": 90 },
        "air": { "density_kg_m3": 1.225 }, "path": true
    });
    let flight = fly(&request);
    let time = (2.0 / 9.80665f64).sqrt();
    // Far past 25° the plate would act; a flat throw from 1 m stays below it.
    assert!((flight["time_s"].as_f64().unwrap() - time).abs() < 0.02, "{flight}");
    let path = flight["path"].as_array().unwrap();
    assert!(path.len() > 3 && path.last().unwrap()["z_m"] == 0.0);
}

#[test]
fn prop_fly_mirrors_and_reports_extremes() {
    let request = |hand: &str| {
        json!({ "numbers": { "speed": 9, "glide": 5, "turn": -1, "fade": 2 },
                "release": { "speed_m_s": 27, "hand": hand } })
    };
    let (right, left) = (fly(&request("right")), fly(&request("left")));
    let number = |v: &Value, k: &str| v[k].as_f64().unwrap();
    assert!((number(&right, "y_m") + number(&left, "y_m")).abs() < 1e-9);
    assert!((number(&right, "farthest_right_m") - number(&left, "farthest_left_m")).abs() < 1e-9);
    assert!(number(&right, "apex_m") > 3.0 && number(&right, "descent_deg") > 5.0);
}

#[rstest]
#[case("bash")]
#[case("zsh")]
#[case("fish")]
fn a_shell_completes_every_command(#[case] shell: &str) {
    let output = run(&["completions", shell], "");
    let script = String::from_utf8(output.stdout).unwrap();
    assert!(output.status.success() && !script.contains('\u{fffd}'));
    for command in ["serve", "demo", "password", "backup", "restore", "analyse", "fly"] {
        assert!(script.contains(command), "{command} in {shell}");
    }
}

#[rstest]
#[case("serve")]
#[case("demo")]
#[case("password")]
#[case("backup")]
#[case("restore")]
#[case("fly")]
#[case("analyse")]
#[case("openapi")]
#[case("completions")]
fn every_command_shows_an_example(#[case] command: &str) {
    let text = String::from_utf8(run(&[command, "--help"], "").stdout).unwrap();
    assert!(text.contains("Example") && text.contains("zinc-kite"), "{text}");
}

#[test]
fn others_are_served_only_with_a_password() {
    let folder = tempfile::tempdir().unwrap();
    let db = folder.path().join("mine.db");
    let db = db.to_str().unwrap();
    let open = run(&["serve", "--new", "--port", "0", "--host", "0.0.0.0", "--db", db], "");
    let words = String::from_utf8(open.stderr).unwrap();
    assert!(!open.status.success() && words.contains("set one with `zinc-kite password`"), "{words}");
    let short = run(&["password", "--db", db], "short\n");
    assert!(String::from_utf8(short.stderr).unwrap().contains("8 to 256 characters"));
    let set = run(&["password", "--db", db], "a long walk home\n");
    assert!(set.status.success());
    let no_key =
        run(&["serve", "--port", "0", "--db", db, "--tls-cert", "/none.pem", "--tls-key", "/none.pem"], "");
    assert!(String::from_utf8(no_key.stderr).unwrap().contains("not a certificate in PEM"));
}

#[rstest]
#[case("{", "not what was expected")]
#[case(r#"{"release":{"speed_m_s":20}}"#, "either \"numbers\" or \"coefficients\"")]
#[case(
    r#"{"numbers":{"speed":99,"glide":5,"turn":-1,"fade":2},"release":{"speed_m_s":20}}"#,
    "speed must be between 0.5 and 15, got 99"
)]
#[case(
    r#"{"numbers":{"speed":9,"glide":5,"turn":-1,"fade":2},"release":{"speed_m_s":2000}}"#,
    "speed_m_s must be between"
)]
#[case(
    r#"{"numbers":{"speed":9,"glide":5,"turn":-1,"fade":2},"release":{"speed_m_s":20},"wnd":{}}"#,
    "unknown field `wnd`"
)]
fn fly_says_what_is_wrong(#[case] request: &str, #[case] says: &str) {
    let output = run(&["fly"], request);
    assert!(!output.status.success());
    let words = String::from_utf8_lossy(&output.stderr);
    assert!(words.contains(says), "{words}");
}

#[test]
fn analyse_demo_finds_the_planted_faults_in_json_and_in_words() {
    let output = run(&["analyse", "--demo", "--json"], "");
    let analysis: Value = serde_json::from_slice(&output.stdout).unwrap();
    let season = &analysis["season"];
    for part in ["leaves_strokes", "lines", "worths", "findings", "steps"] {
        assert!(!season[part].is_null(), "{part}");
    }
    assert!(!analysis["today"]["board"].is_null());
    let kinds: Vec<&str> =
        season["findings"].as_array().unwrap().iter().map(|f| f["kind"].as_str().unwrap()).collect();
    for kind in ["over_cap", "gap", "worn_out", "twins"] {
        assert!(kinds.contains(&kind), "{kind} among {kinds:?}");
    }
    let words = String::from_utf8(run(&["analyse", "--demo"], "").stdout).unwrap();
    assert!(
        words.contains("FIX FIRST")
            && words.contains("STROKES A ROUND")
            && words.contains("Lintel fresh is over the event's weight cap")
    );
    // Every disc on the board says what it is for, the one that the rules keep out of the hand too.
    for puck in words.lines().filter(|line| line.contains(" finish ")) {
        let after = puck.rsplit_once(" m  ").map_or("", |(_, after)| after);
        assert!(after.contains("strokes of the work"), "{puck}");
        assert_eq!(
            after.starts_with("Heavier than this event allows"),
            puck.contains("Lintel fresh"),
            "{puck}"
        );
    }
}

#[test]
fn bad_folders_files_and_ports_are_told_with_what_to_do() {
    let says = |arguments: &[&str], words: &str| {
        let output = run(arguments, "");
        assert!(!output.status.success(), "{arguments:?}");
        let error = String::from_utf8_lossy(&output.stderr).into_owned();
        assert!(error.contains(words), "{arguments:?}: {error}");
    };
    says(&["serve", "--new", "--db", "/no/such/folder/x.db"], "check that its folder exists");
    says(&["analyse", "--db", "/no/such.db"], "there is no database /no/such.db");
    let busy = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let port = busy.local_addr().unwrap().port().to_string();
    says(&["demo", "--port", &port], "cannot be used; is another Zinc Kite running?");
    says(&["analyse", "--demo", "--wind-m-s", "99"], "wind_m_s must be a number from 0 to 40");
}

#[test]
fn openapi_lists_every_route() {
    let output = run(&["openapi"], "");
    let document: Value = serde_json::from_slice(&output.stdout).unwrap();
    let paths = document["paths"].as_object().unwrap();
    for path in ["/api/player", "/api/discs/{id}/sheet", "/api/bags/{id}/analysis", "/api/shelf/import"] {
        assert!(paths.contains_key(path), "{path}");
    }
}
