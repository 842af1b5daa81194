//! A line that is being drawn.

use rstest::rstest;
use serde_json::{Value, json};

use crate::http::{ask, served};

fn draft() -> Value {
    json!({
        "name": "Round the pines", "slot": "mid_range", "style": "backhand", "distance_m": 72.0,
        "zone_length_m": 18.0, "zone_width_m": 14.0, "along_m_s": 0.0, "left_m_s": 1.0, "landing": "any", "footing": "run_up",
        "hyzer_min_deg": -10.0, "hyzer_max_deg": 25.0, "launch_min_deg": 4.0, "launch_max_deg": 18.0, "weight": 1.0,
        "gates": [{ "at_m": 43.0, "left_edge_m": 1.2, "right_edge_m": -9.0, "ceiling_m": 7.0 }]
    })
}

/// What is flown while a line is drawn is what is flown on it once it is kept, to the last bit; and nothing is kept meanwhile.
#[actix_web::test]
async fn prop_a_draft_is_flown_as_the_line_it_becomes() {
    let app = served(true).await;
    let lines = ask(&app, "GET", "/api/lines", "").await.json().as_array().unwrap().len();
    let windy = json!({ "wind_m_s": 4.0, "wind_from_deg": 30.0 });
    let tried =
        ask(&app, "POST", "/api/bags/1/line", &json!({ "line": draft(), "day": windy }).to_string()).await;
    assert!(tried.status.is_success(), "{}", tried.text);
    assert_eq!(ask(&app, "GET", "/api/lines", "").await.json().as_array().unwrap().len(), lines);
    let kept = ask(&app, "POST", "/api/lines", &draft().to_string()).await.json();
    let path = format!("/api/bags/1/lines/{}?wind_m_s=4&wind_from_deg=30", kept["key"].as_str().unwrap());
    let (tried, opened) = (tried.json(), ask(&app, "GET", &path, "").await.json());
    assert_eq!(tried["discs"].as_array().unwrap().len(), 3);
    for (a, b) in tried["discs"].as_array().unwrap().iter().zip(opened["discs"].as_array().unwrap()) {
        for part in ["disc_id", "chance", "path", "cloud"] {
            assert_eq!(a[part], b[part], "{part}");
        }
    }
    // Without a name it is flown all the same.
    let mut nameless = draft();
    nameless["name"] = json!("");
    let nameless = ask(&app, "POST", "/api/bags/1/line", &json!({ "line": nameless }).to_string()).await;
    assert!(nameless.status.is_success(), "{}", nameless.text);
}

#[rstest]
#[case("distance_m", json!(900.0), "distance_m")]
#[case("zone_width_m", json!(0.0), "zone_width_m")]
#[case("gates", json!([{ "at_m": 99.0, "left_edge_m": 3.0, "right_edge_m": -3.0 }]), "gate at_m")]
#[case("gates", json!([{ "at_m": 40.0, "left_edge_m": -3.0, "right_edge_m": 3.0 }]), "gate right_edge_m")]
#[actix_web::test]
async fn prop_a_draft_that_is_no_line_says_what_is_wrong(
    #[case] field: &str,
    #[case] value: Value,
    #[case] told: &str,
) {
    let app = served(true).await;
    let mut line = draft();
    line[field] = value;
    let answer = ask(&app, "POST", "/api/bags/1/line", &json!({ "line": line }).to_string()).await;
    assert_eq!(
        (answer.status.as_u16(), answer.json()["field"].as_str()),
        (422, Some(told)),
        "{}",
        answer.text
    );
    assert_eq!(
        ask(&app, "POST", "/api/bags/9/line", &json!({ "line": draft() }).to_string()).await.status.as_u16(),
        404
    );
}
