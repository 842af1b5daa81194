//! Courses: kept, changed, brought in from files of places and written out again.

use crate::http::{ask, ask_with, served};
use actix_web::http::StatusCode;
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::format::course_file::{read, write_geojson, write_gpx};
use zinc_kite::store::Store;
use zinc_kite_bag::course::hole::{CourseSpec, Hole};
use zinc_kite_bag::course::place::Place;
use zinc_kite_bag::course::survey::holes;
use zinc_kite_bag::need::area::Spot;
use zinc_kite_bag::need::thing::{Peril, Thing};
use zinc_kite_bag::thrower::style::Style;

const GEOJSON: (&str, &str) = ("content-type", "application/geo+json");

/// Two holes on the open sea: the first straight, the second with water beside it.
fn course() -> CourseSpec {
    let tee = Place { latitude_deg: 47.2, longitude_deg: -31.4, height_m: Some(12.0) };
    let mut first = Hole::straight("1".into(), Style::Backhand, 40.0, 92.0, -3.0);
    first.tee = Some(tee);
    let mut second = Hole::straight("2".into(), Style::Backhand, 300.0, 131.0, 4.5);
    second.tee = Some(Place { height_m: Some(9.0), ..tee.beyond(120.0, 40.0) });
    let area = [(40.0, -12.0), (120.0, -9.5), (120.0, -30.0), (40.0, -30.0)]
        .map(|(at_m, left_m)| Spot { at_m, left_m })
        .to_vec();
    second.ways[0].line.things.push(Thing::Hazard { peril: Peril::Water, area, strokes: None, lost: None });
    CourseSpec { name: "Vell Links".into(), altitude_m: Some(12.0), day: None, holes: vec![first, second] }
}

fn body(course: &CourseSpec) -> String {
    serde_json::to_string(course).unwrap()
}

#[actix_web::test]
async fn a_course_is_kept_changed_undone_and_deleted() {
    let app = served(false).await;
    let added = ask(&app, "POST", "/api/courses", &body(&course())).await;
    assert_eq!(added.status.as_u16(), 201, "{}", added.text);
    let (id, etag) =
        (added.json()["id"].as_i64().unwrap(), added.json()["etag"].as_str().unwrap().to_owned());
    let path = format!("/api/courses/{id}");
    assert_eq!(
        ask(&app, "GET", &path, "").await.json()["holes"],
        serde_json::to_value(course().holes).unwrap()
    );
    // A name is taken once; a course that is changed says of which version.
    assert_eq!(ask(&app, "POST", "/api/courses", &body(&course())).await.status.as_u16(), 409);
    assert_eq!(ask_with(&app, "PUT", &path, r#"{"name":"Other"}"#, &[]).await.status.as_u16(), 428);
    let renamed = ask_with(&app, "PUT", &path, r#"{"name":"Other"}"#, &[("if-match", &etag)]).await;
    assert_eq!(renamed.json()["name"], "Other");
    assert_eq!(renamed.json()["holes"].as_array().unwrap().len(), 2, "what was not sent stays");
    let stale = ask_with(&app, "PUT", &path, r#"{"name":"Third"}"#, &[("if-match", &etag)]).await;
    assert_eq!(stale.status.as_u16(), 412);
    let changes = ask(&app, "GET", "/api/changes", "").await.json();
    assert_eq!(changes["changes"][0]["words"], "Other is saved");
    assert_eq!(changes["changes"][0]["things"][0]["thing"], "Other: changed");
    ask(&app, "POST", "/api/changes/undo", "").await;
    let now = ask(&app, "GET", &path, "").await.json();
    assert_eq!((now["name"].as_str(), now["etag"].as_str()), (Some("Vell Links"), Some(etag.as_str())));
    assert_eq!(ask_with(&app, "DELETE", &path, "", &[("if-match", &etag)]).await.status.as_u16(), 204);
    assert_eq!(ask(&app, "GET", &path, "").await.status.as_u16(), 404);
    assert_eq!(ask(&app, "GET", "/api/courses", "").await.json(), json!([]));
}

/// What is wrong with a hole is told with the hole's name.
#[rstest]
#[case("par", json!(9), "par")]
#[case("bearing_deg", json!(400.0), "bearing_deg")]
#[case("length_m", json!(4.0), "length_m")]
#[case("tee", json!({"latitude_deg": 99.0, "longitude_deg": 0.0}), "latitude_deg")]
#[actix_web::test]
async fn prop_a_hole_that_is_none_is_refused(#[case] field: &str, #[case] value: Value, #[case] told: &str) {
    let app = served(false).await;
    let mut sent = serde_json::to_value(course()).unwrap();
    sent["holes"][1][field] = value;
    let answer = ask(&app, "POST", "/api/courses", &sent.to_string()).await;
    assert_eq!(answer.status.as_u16(), 422, "{}", answer.text);
    assert!(answer.text.contains("hole 2") && answer.text.contains(told), "{}", answer.text);
}

/// Everything as one document holds the courses too, to the last bit.
#[test]
fn prop_records_hold_courses() {
    let mut store = Store::in_memory().unwrap();
    store.add_course(&course()).unwrap();
    let text = zinc_kite::format::records::write(store.records().unwrap()).unwrap();
    let records = zinc_kite::format::records::read(text.as_bytes()).unwrap();
    assert_eq!(records.courses, [course()]);
    let mut other = Store::in_memory().unwrap();
    other.replace_records(&records).unwrap();
    assert_eq!(other.courses().unwrap()[0].spec, course());
}

/// Written out and read in again, holes are as long, as high and in the same directions, to the centimetre, and water lies where
/// it lay.
#[rstest]
#[case(write_geojson(&course()).into_bytes(), true)]
#[case(write_gpx(&course()).unwrap(), false)]
fn prop_holes_survive_a_file(#[case] bytes: Vec<u8>, #[case] with_ground: bool) {
    let reading = read(&bytes).unwrap();
    assert_eq!(reading.name.as_deref(), Some("Vell Links"));
    assert!(reading.refused.is_empty(), "{:?}", reading.refused);
    let (found, verdicts) = holes(&reading.surveyed, Style::Backhand);
    assert!(verdicts.iter().all(|v| v.taken), "{verdicts:?}");
    assert_eq!(found.len(), 2);
    for (a, b) in found.iter().zip(&course().holes) {
        assert_eq!((a.name.as_str(), a.height_m), (b.name.as_str(), b.height_m));
        assert!(
            (a.length_m - b.length_m).abs() < 0.01 && (a.bearing_deg - b.bearing_deg).abs() < 0.01,
            "{a:?}"
        );
        assert_eq!(a.par, b.par);
    }
    let things = |hole: &Hole| hole.ways[0].line.things.clone();
    match (&things(&found[1])[..], &things(&course().holes[1])[..]) {
        ([Thing::Hazard { peril, area, .. }], [Thing::Hazard { area: was, .. }]) if with_ground => {
            assert_eq!(*peril, Peril::Water);
            let near = |(a, b): (&Spot, &Spot)| (a.at_m - b.at_m).hypot(a.left_m - b.left_m) < 0.02;
            assert!(area.iter().zip(was).all(near), "{area:?}");
        }
        ([], _) if !with_ground => {}
        (found, _) => panic!("{found:?}"),
    }
}

/// A track that leads round a corner gives a first throw to the corner, with the rest left.
#[test]
fn prop_a_track_round_a_corner_is_laid_up() {
    let tee = Place { latitude_deg: 47.0, longitude_deg: -31.0, height_m: None };
    let (corner, basket) = (tee.beyond(80.0, 10.0), tee.beyond(80.0, 10.0).beyond(70.0, 70.0));
    let point = |p: Place| json!([p.longitude_deg, p.latitude_deg]);
    let file = json!({ "type": "FeatureCollection", "features": [{ "type": "Feature", "properties": { "hole": 7, "par": 4 },
        "geometry": { "type": "LineString", "coordinates": [point(tee), point(corner), point(basket)] } }] });
    let reading = read(file.to_string().as_bytes()).unwrap();
    let (found, verdicts) = holes(&reading.surveyed, Style::Forehand);
    assert!(verdicts[0].taken, "{verdicts:?}");
    let (hole, way) = (&found[0], &found[0].ways[0]);
    assert_eq!((hole.name.as_str(), hole.par, way.line.style), ("7", 4, Style::Forehand));
    assert!((way.line.distance_m - 80.0).abs() < 0.1 && way.turn_deg > 20.0, "{}", way.turn_deg);
    assert!((hole.left_after(way) - 70.0).abs() < 0.1, "{}", hole.left_after(way));
}

#[actix_web::test]
async fn records_of_a_file_are_told_one_by_one_before_anything_is_kept() {
    let app = served(false).await;
    let point = |hole: Value, what: &str, x: f64, y: f64| {
        json!({ "type": "Feature", "properties": { "hole": hole, "what": what },
            "geometry": { "type": "Point", "coordinates": [x, y] } })
    };
    let file = json!({ "type": "FeatureCollection", "features": [
        point(json!(1), "tee", -31.0, 47.0),
        point(json!("1"), "basket", -31.0, 47.0009),
        point(json!(2), "tee", -31.0, 47.002),
        point(json!(3), "hut", -31.0, 47.003),
        point(json!(4), "tee", -31.0, 147.0),
    ] });
    let preview =
        ask_with(&app, "POST", "/api/courses/import?preview=true&name=Links", &file.to_string(), &[GEOJSON])
            .await;
    assert!(preview.status.is_success(), "{}", preview.text);
    let report = preview.json();
    let taken: Vec<bool> =
        report["records"].as_array().unwrap().iter().map(|r| r["taken"].as_bool().unwrap()).collect();
    assert_eq!(taken, [true, true, false, false, false]);
    for words in ["hole 2 has no basket", "feature 4", "hut", "feature 5", "latitude_deg"] {
        assert!(preview.text.contains(words), "{words}: {}", preview.text);
    }
    assert_eq!(ask(&app, "GET", "/api/courses", "").await.json(), json!([]), "only looked at");
    let kept = ask_with(&app, "POST", "/api/courses/import?name=Links", &file.to_string(), &[GEOJSON]).await;
    let id = kept.json()["course_id"].as_i64().unwrap();
    let course = ask(&app, "GET", &format!("/api/courses/{id}"), "").await.json();
    assert_eq!((course["name"].as_str(), course["holes"].as_array().unwrap().len()), (Some("Links"), 1));
    let gpx = ask(&app, "GET", &format!("/api/courses/{id}.gpx"), "").await;
    assert!(gpx.text.contains("1 basket"), "{}", gpx.text);
    let foreign =
        ask_with(&app, "POST", "/api/courses/import", &file.to_string(), &[("content-type", "text/plain")])
            .await;
    assert_eq!(foreign.status.as_u16(), 415, "a page of another site could send that");
}

/// The demo's nine holes can be kept, are where they say, and nearly every way of them is one that its player can throw.
#[test]
fn prop_the_demo_course_holds() {
    let course = zinc_kite::demo::course().unwrap();
    course.validate().unwrap();
    assert_eq!((course.name.as_str(), course.holes.len(), course.par()), ("Harrier Moor", 9, 30));
    for hole in &course.holes {
        let (far_m, _) = hole.tee.unwrap().to(&hole.basket().unwrap());
        assert!((far_m - hole.length_m).abs() < 0.01 && !hole.ways.is_empty());
        for way in &hole.ways {
            assert!(hole.left_after(way) < 95.0, "{}: {}", hole.name, hole.left_after(way));
        }
    }
}

#[rstest]
#[case("{\n\"type\": \"FeatureCollection\",\n\"features\": [}", "line 3")]
#[case("{\"type\":\"Point\",\"coordinates\":[1,2]}", "FeatureCollection")]
#[case("hole,tee", "GeoJSON or GPX")]
#[case("<gpx version=\"1.1\" creator=\"x\"><wpt lat=\"1\" lon=\"2\">", "GPX")]
#[case("<gpx version=\"1.1\" creator=\"x\"><wpt lat=\"north\" lon=\"2\"></wpt></gpx>", "GPX")]
fn prop_bad_files_are_refused_with_the_reason(#[case] file: &str, #[case] told: &str) {
    let words = read(file.as_bytes()).unwrap_err();
    assert!(words.contains(told), "{words}");
}

#[test]
fn prop_a_file_that_nests_without_end_is_refused() {
    let deep = format!("<gpx version=\"1.1\" creator=\"x\">{}", "<extensions>".repeat(100_000));
    assert!(read(deep.as_bytes()).unwrap_err().contains("nests"));
    let deep = format!("{{\"type\":\"FeatureCollection\",\"features\":{}", "[".repeat(100_000));
    assert!(read(deep.as_bytes()).is_err());
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, failure_persistence: None, ..ProptestConfig::default() })]

    /// Files torn and twisted are refused in words or read; every hole that comes of them is one that can be kept.
    #[test]
    fn prop_any_file_is_read_or_refused(
        gpx in any::<bool>(), cuts in prop::collection::vec((any::<prop::sample::Index>(), any::<u8>(), 0u8..3), 1..12),
    ) {
        let mut bytes = if gpx { write_gpx(&course()).unwrap() } else { write_geojson(&course()).into_bytes() };
        for (at, byte, kind) in cuts {
            let at = at.index(bytes.len().max(1)).min(bytes.len().saturating_sub(1));
            match kind {
                0 => bytes[at] = byte,
                1 => bytes.insert(at, byte),
                _ => drop(bytes.drain(at..(at + 30).min(bytes.len()))),
            }
            if bytes.is_empty() {
                break;
            }
        }
        match read(&bytes) {
            Err(words) => prop_assert!(words.contains("expected"), "{words}"),
            Ok(reading) => {
                let (found, _) = holes(&reading.surveyed, Style::Backhand);
                for hole in &found {
                    prop_assert!(hole.validate().is_ok(), "{:?}", hole.validate());
                }
            }
        }
    }
}

/// The demo's windy day asks for another disc than calm on three holes at least; the card says in which wind, and what it comes to.
#[actix_web::test]
async fn the_demos_windy_day_changes_three_discs_against_calm() {
    let app = served(true).await;
    let card = ask(&app, "GET", "/api/bags/1/card/1", "").await;
    assert_eq!(card.status, StatusCode::OK, "{}", card.text);
    let card = card.json();
    let holes = card["holes"].as_array().unwrap();
    assert_eq!(holes.len(), 9);
    let disc = |of: &Value| of["disc_id"].as_i64();
    let changed =
        holes.iter().filter(|h| !h["calm"].is_null() && disc(&h["calm"]) != disc(&h["best"])).count();
    assert!(changed >= 3 && card["changed_by_wind"] == changed, "{changed}");
    assert!(holes.iter().all(|h| h["conditions"]["wind_m_s"].as_f64().unwrap() > 5.0));
    assert!(holes.iter().filter(|h| !h["flips"].as_array().unwrap().is_empty()).count() >= 3);
    let strokes = card["strokes"].as_f64().unwrap();
    // On a calm day fewer.
    let mut course = ask(&app, "GET", "/api/courses/1", "").await.json();
    course["day"] = Value::Null;
    assert_eq!(ask(&app, "PUT", "/api/courses/1", &course.to_string()).await.status, StatusCode::OK);
    let calm = ask(&app, "GET", "/api/bags/1/card/1", "").await.json();
    assert!(calm["strokes"].as_f64().unwrap() < strokes - 1.0, "{strokes}");
    assert_eq!(calm["changed_by_wind"], 0);
    for (bag, course) in [(1, 99), (99, 1)] {
        let missing = ask(&app, "GET", &format!("/api/bags/{bag}/card/{course}"), "").await;
        assert_eq!(missing.status, StatusCode::NOT_FOUND);
    }
}
