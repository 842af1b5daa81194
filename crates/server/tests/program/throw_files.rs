//! Throws as files: written and read back, brought in with a verdict a record, whatever the file holds.

use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::format::throw_csv;
use zinc_kite::format::throw_file::{ThrowFile, ThrowRecord, ThrowsReading, read, write_geojson, write_gpx};
use zinc_kite::store::Store;
use zinc_kite_bag::course::place::Place;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::throw::{FieldThrow, Meant, SeenFlight, ThrowTag, WindThen};
use zinc_kite_bag::thrower::style::Style;

use crate::http::{Served, ask, ask_with, served};

const TEE: Place = Place { latitude_deg: 50.0, longitude_deg: 3.0, height_m: None };

fn session(tee: Option<Place>) -> FieldSession {
    let session = r#"{"place":"Vell sands","date":"2026-06-01","aim_deg":20.0}"#;
    FieldSession { tee, ..serde_json::from_str(session).unwrap() }
}

fn shelf() -> Vec<Disc> {
    let mut store = Store::in_memory().unwrap();
    zinc_kite::demo::fill(&mut store).unwrap();
    store.discs().unwrap()
}

fn reading(bytes: &[u8], is_csv: bool) -> Result<ThrowsReading, String> {
    read(&ThrowFile { bytes, is_csv }, &shelf(), Style::Backhand, &session(Some(TEE)))
}

fn any_throw() -> impl Strategy<Value = FieldThrow> {
    let rest = (0.0..200.0f64, -90.0..90.0f64);
    let seen = prop::option::of(0.0..20.0f64);
    let tags = prop::sample::subsequence(vec![ThrowTag::Hit, ThrowTag::Slipped], 0..=2);
    let how = (
        prop::sample::select(Style::ALL.to_vec()),
        prop::sample::select(vec![Meant::Flat, Meant::Hyzer, Meant::Anhyzer]),
    );
    (rest, seen, tags, how, 0.0..20.0f64, "[ -~]{0,40}").prop_map(
        |((distance, off), time_s, tags, (style, meant), wind, note)| FieldThrow {
            distance_m: Some(distance),
            off_deg: Some(off),
            seen: SeenFlight { time_s, ..SeenFlight::default() },
            wind: WindThen { wind_m_s: wind, from_deg: 90.0 },
            tags,
            note: note.trim().to_owned(),
            ..FieldThrow::named("Stranger", style, meant)
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// What is written as CSV is read as it was.
    #[test]
    fn prop_a_table_is_read_as_it_was_written(throws in prop::collection::vec(any_throw(), 1..8)) {
        let text = throw_csv::write(&throws).unwrap();
        let back = reading(text.as_bytes(), true).unwrap();
        let read: Vec<FieldThrow> = back.throws().cloned().collect();
        prop_assert_eq!(read, throws);
    }

    /// Rests by place are read where they were written, with what is told of them.
    #[test]
    fn prop_places_are_read_where_they_were_written(throws in prop::collection::vec(any_throw(), 1..8)) {
        let session = session(Some(TEE));
        for (bytes, whole) in [
            (write_geojson(&session, &throws).into_bytes(), true),
            (write_gpx(&session, &throws).unwrap(), false),
        ] {
            let back = reading(&bytes, false).unwrap();
            prop_assert!(back.tee.unwrap().to(&TEE).0 < 1e-3);
            prop_assert_eq!(back.throws().count(), throws.len());
            for (mut read, wrote) in back.throws().cloned().zip(&throws) {
                read.place(&session);
                let (a, b) = (read.rest().unwrap(), wrote.rest().unwrap());
                prop_assert!((a.at_m - b.at_m).hypot(a.left_m - b.left_m) < 1e-3, "{a:?} {b:?}");
                prop_assert_eq!((read.style, read.meant), (wrote.style, wrote.meant));
                if whole {
                    prop_assert_eq!((&read.tags, read.seen, &read.note), (&wrote.tags, wrote.seen, &wrote.note));
                }
            }
        }
    }

    /// Whatever a file holds, it is read or refused with words.
    #[test]
    fn prop_any_file_is_answered(text in "[<{]?[ -~\n]{0,300}", is_csv: bool) {
        if let Err(why) = reading(text.as_bytes(), is_csv) {
            prop_assert!(!why.is_empty());
        }
    }

    /// A file of which a piece is spoilt is read or refused with words.
    #[test]
    fn prop_a_spoilt_file_is_answered(at in 0usize..2000, with in prop::collection::vec(any::<u8>(), 0..6)) {
        let throws = [FieldThrow { distance_m: Some(80.0), off_deg: Some(3.0), ..FieldThrow::named("Purlin", Style::Backhand, Meant::Hyzer) }];
        let session = session(Some(TEE));
        let files = [
            (throw_csv::write(&throws).unwrap().into_bytes(), true),
            (write_geojson(&session, &throws).into_bytes(), false),
            (write_gpx(&session, &throws).unwrap(), false),
        ];
        for (mut bytes, is_csv) in files {
            let at = at % bytes.len();
            let end = (at + with.len()).min(bytes.len());
            bytes.splice(at..end, with.iter().copied());
            if let Ok(read) = reading(&bytes, is_csv) {
                prop_assert!(read.throws().all(|t| t.validate().is_ok()));
            }
        }
    }
}

/// What is wrong with a record is told with the record and the reason, and the others are taken.
#[rstest]
#[case("disc,distance_m\nPurlin,900\nPurlin,80\n", true, "line 2", "distance_m")]
#[case("disc,distance_m,style\nPurlin,80,sidearm\nPurlin,80,\n", true, "line 2", "style")]
#[case("disc,latitude_deg\nPurlin,50\nPurlin,\n", true, "line 2", "latitude")]
#[case(r#"{"type":"FeatureCollection","features":[
    {"type":"Feature","geometry":{"type":"Point","coordinates":[3,50.0008]},"properties":{}},
    {"type":"Feature","geometry":{"type":"Point","coordinates":[3,50.0008]},"properties":{"disc":"Purlin"}}]}"#, false, "feature 1", "disc")]
#[case(r#"{"type":"FeatureCollection","features":[
    {"type":"Feature","geometry":{"type":"Point","coordinates":[3,95]},"properties":{"disc":"Purlin"}},
    {"type":"Feature","geometry":{"type":"LineString","coordinates":[[3,50],[3,50.0008]]},"properties":{"disc":"purlin","style":"forehand"}}]}"#, false, "feature 1", "latitude")]
#[case(r#"<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><wpt lat="50.0008" lon="3"/>
    <trk><name>Purlin</name><trkseg><trkpt lat="50" lon="3"/><trkpt lat="50.0008" lon="3"/></trkseg></trk></gpx>"#, false, "waypoint 1", "name of a disc")]
fn a_bad_record_is_told_and_the_good_are_taken(
    #[case] file: &str,
    #[case] is_csv: bool,
    #[case] record: &str,
    #[case] why: &str,
) {
    let read = reading(file.as_bytes(), is_csv).unwrap();
    assert_eq!(read.throws().count(), 1, "{read:?}");
    assert!(read.throws().next().unwrap().disc_id.is_some(), "the disc is known by its name");
    let refused = read.records.iter().find_map(|r| match r {
        ThrowRecord::Other(told) if !told.taken => Some(told),
        _ => None,
    });
    let told = refused.unwrap();
    assert!(told.record.starts_with(record) && told.words.contains(why), "{told:?}");
}

/// A track that does not begin at the tee of the session is measured from where it begins.
#[test]
fn a_track_from_elsewhere_is_measured_by_itself() {
    let file = r#"<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>Purlin</name><desc>forehand, on anhyzer</desc>
        <trkseg><trkpt lat="51" lon="3"/><trkpt lat="51.0009" lon="3"/></trkseg></trk></gpx>"#;
    let read = reading(file.as_bytes(), false).unwrap();
    let throw = read.throws().next().unwrap();
    // A degree of latitude there is 111.25 km on the WGS 84 ellipsoid (from memory).
    assert!((throw.distance_m.unwrap() - 100.1).abs() < 0.1, "{throw:?}");
    assert!((throw.off_deg.unwrap() - 20.0).abs() < 1e-6, "north is left of an aim of 20°");
    assert_eq!((throw.style, throw.meant, throw.at), (Style::Forehand, Meant::Anhyzer, None));
}

async fn import(app: &impl Served, query: &str, body: &str, kind: &str) -> Value {
    let path = format!("/api/field/sessions/demo-ladder/import?{query}");
    let answer = ask_with(app, "POST", &path, body, &[("content-type", kind)]).await;
    assert_eq!(answer.status.as_u16(), 200, "{}", answer.text);
    answer.json()
}

/// A look keeps nothing; what is kept is there once however often it is brought in, wears its disc if that is wanted and loses none.
#[actix_web::test]
async fn throws_are_looked_at_then_brought_in_once() {
    let app = served(true).await;
    let there = async || {
        let session = ask(&app, "GET", "/api/field/sessions/demo-ladder", "").await.json();
        session["throws"].as_array().unwrap().len()
    };
    let discs = ask(&app, "GET", "/api/discs", "").await.json();
    let purlin = discs.as_array().unwrap().iter().find(|d| d["name"] == "Purlin").unwrap();
    let path = format!("/api/discs/{}", purlin["id"]);
    ask(&app, "PUT", &path, r#"{"wear":{"grade":"fresh","throws":40}}"#).await;
    let file = "disc,distance_m,off_deg,tags\npurlin,80,2,lost\nStranger,70,,\n";
    let look = import(&app, "preview=true&wear=true", file, "text/csv").await;
    assert_eq!((&look["good"], &look["imported"], there().await), (&json!(2), &json!(0), 28));
    assert!(look["records"][1]["words"].as_str().unwrap().contains("not on the shelf"), "{look}");
    let kept = import(&app, "wear=true", file, "text/csv").await;
    assert_eq!((&kept["imported"], there().await), (&json!(2), 30));
    let after = ask(&app, "GET", &path, "").await.json();
    assert_eq!(
        (&after["wear"]["throws"], &after["keeping"]["status"]),
        (&json!(41), &purlin["keeping"]["status"])
    );
    // The session's own file holds nothing new.
    let own = ask(&app, "GET", "/api/field/sessions/demo-ladder.csv", "").await;
    assert!(own.text.starts_with("disc,style,meant"), "{}", own.text);
    let again = import(&app, "", &own.text, "text/csv").await;
    assert_eq!((&again["good"], there().await), (&json!(0), 30));
    assert!(again["records"][0]["words"].as_str().unwrap().contains("already"));
    // One step of the record, taken back as a whole.
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(there().await, 28);
    // What another site could send is not taken.
    let plain = ask_with(
        &app,
        "POST",
        "/api/field/sessions/demo-ladder/import",
        file,
        &[("content-type", "text/plain")],
    )
    .await;
    assert_eq!(plain.status.as_u16(), 415, "{}", plain.text);
}

/// A file that says its tee gives it to a session that has none.
#[actix_web::test]
async fn a_tee_comes_with_its_throws() {
    let app = served(true).await;
    let file = r#"{"type":"FeatureCollection","features":[
        {"type":"Feature","geometry":{"type":"Point","coordinates":[3,50]},"properties":{"what":"tee"}},
        {"type":"Feature","geometry":{"type":"Point","coordinates":[3,50.0009]},"properties":{"disc":"Purlin"}}]}"#;
    let kept = import(&app, "", file, "application/geo+json").await;
    assert_eq!(kept["imported"], 1, "{kept}");
    let session = ask(&app, "GET", "/api/field/sessions/demo-ladder", "").await.json();
    assert_eq!(session["tee"]["latitude_deg"], 50.0);
    let last = &session["throws"][28];
    assert!((last["distance_m"].as_f64().unwrap() - 100.1).abs() < 0.1, "{last}");
    let gpx = ask(&app, "GET", "/api/field/sessions/demo-ladder.gpx", "").await;
    assert_eq!(gpx.text.matches("<wpt").count(), 30, "every throw has a place by now");
}
