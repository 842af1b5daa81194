//! The year ahead over HTTP: what is answered, written into calendars and tables, and noted of a disc's wear.

use std::collections::HashSet;

use ical::IcalParser;
use ical::parser::ical::component::IcalEvent;
use jiff::civil::{Date, date};
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::demo;
use zinc_kite::door::Door;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::disc::spec::{DiscSpec, Numbers, Use};
use zinc_kite_bag::thrower::calendar::{Calendar, Month, Terrain};
use zinc_kite_bag::thrower::habits::Habits;
use zinc_kite_bag::thrower::player::{Player, Skill};

use crate::http::{Served, a_disc, ask, on};

const DAY: Date = date(2027, 4, 1);

async fn taken_on(day: Date) -> impl Served {
    let mut store = Store::in_memory().unwrap().taken_on(day);
    demo::fill(&mut store).unwrap();
    on(store, Door::of_this_machine()).await
}

async fn year(app: &impl Served, suppose: Value) -> Value {
    let answer = ask(app, "POST", "/api/bags/1/year", &suppose.to_string()).await;
    assert!(answer.status.is_success(), "{}", answer.text);
    answer.json()
}

fn property<'a>(event: &'a IcalEvent, name: &str) -> &'a str {
    let mut found = event.properties.iter().filter(|p| p.name == name);
    let value = found.next().unwrap_or_else(|| panic!("{name} is missing")).value.as_deref().unwrap();
    assert!(found.next().is_none(), "{name} twice");
    value
}

/// Read by another program's reader, the calendar says what the screen says; its lines are as RFC 5545, section 3.1, has them, and
/// every event has what section 3.6.1 asks of one.
#[actix_web::test]
async fn val_the_calendar_is_read_by_another_reader_as_it_is_shown() {
    let app = taken_on(DAY).await;
    let tasks = year(&app, json!({ "play": 1 })).await["tasks"].as_array().unwrap().clone();
    assert!(!tasks.is_empty(), "the demo has something to do");
    let answer = ask(&app, "GET", "/api/bags/1/year.ics", "").await;
    assert_eq!(answer.kind, "text/calendar; charset=utf-8");
    assert!(answer.header("content-disposition").unwrap().contains("zinc-kite-year.ics"));
    assert!(answer.text.ends_with("END:VCALENDAR\r\n"));
    for line in answer.text.split("\r\n") {
        assert!(line.len() <= 75 && !line.contains('\n'), "{line}");
    }
    let calendars: Vec<_> = IcalParser::new(answer.text.as_bytes()).collect::<Result<_, _>>().unwrap();
    let [calendar] = &calendars[..] else { panic!("{} calendars", calendars.len()) };
    let named = |name: &str| calendar.properties.iter().any(|p| p.name == name);
    assert!(named("VERSION") && named("PRODID"));
    assert_eq!(calendar.events.len(), tasks.len());
    let ids: HashSet<&str> = calendar.events.iter().map(|e| property(e, "UID")).collect();
    assert_eq!(ids.len(), tasks.len());
    for (event, task) in calendar.events.iter().zip(&tasks) {
        let on: Date = task["on"].as_str().unwrap().parse().unwrap();
        let compact = |day: Date| day.strftime("%Y%m%d").to_string();
        assert_eq!(property(event, "DTSTART"), compact(on));
        assert_eq!(property(event, "DTEND"), compact(on.tomorrow().unwrap()));
        assert_eq!(property(event, "DTSTAMP"), format!("{}T000000Z", compact(DAY)));
        assert_eq!(property(event, "SUMMARY"), task["title"].as_str().unwrap());
        // Commas and semicolons of a text are escaped, section 3.3.11.
        let words = property(event, "DESCRIPTION").replace("\\,", ",").replace("\\;", ";");
        assert!(words.starts_with(task["words"].as_str().unwrap()), "{words}");
    }
    // Asked again it is the same calendar: nothing of it goes by the clock.
    assert_eq!(ask(&app, "GET", "/api/bags/1/year.ics", "").await.text, answer.text);
}

#[actix_web::test]
async fn prop_the_table_has_every_copy_in_every_month() {
    let app = taken_on(DAY).await;
    let year = year(&app, json!({})).await;
    let text = ask(&app, "GET", "/api/bags/1/year.csv", "").await.text;
    let rows: Vec<csv::StringRecord> =
        csv::Reader::from_reader(text.as_bytes()).records().collect::<Result<_, _>>().unwrap();
    let copies: Vec<&Value> =
        year["families"].as_array().unwrap().iter().flat_map(|f| f["copies"].as_array().unwrap()).collect();
    assert_eq!(rows.len(), 13 * copies.len());
    for (chunk, copy) in rows.chunks(13).zip(copies) {
        for (row, point) in chunk.iter().zip(copy["forecast"]["points"].as_array().unwrap()) {
            assert_eq!((&row[2], &row[4]), (copy["name"].as_str().unwrap(), point["on"].as_str().unwrap()));
            let share: f64 = row[5].parse().unwrap();
            assert!((share - point["wear_share"].as_f64().unwrap()).abs() < 1e-4);
        }
    }
}

#[rstest]
#[case(r#"{"play": 9}"#, 422, "play")]
#[case(r#"{"lost": [4711]}"#, 422, "lost")]
#[case(r#"{"bought": [4711]}"#, 422, "bought")]
#[case(r#"{"play": "much"}"#, 400, "")]
#[actix_web::test]
async fn prop_what_cannot_be_supposed_is_told(#[case] body: &str, #[case] status: u16, #[case] field: &str) {
    let app = taken_on(DAY).await;
    let answer = ask(&app, "POST", "/api/bags/1/year", body).await;
    assert_eq!(answer.status.as_u16(), status, "{}", answer.text);
    assert!(answer.json()["field"].as_str().unwrap_or_default() == field, "{}", answer.text);
    for path in ["/api/bags/9/year.ics", "/api/bags/9/year.csv", "/api/bags/9/lean?cover=snow"] {
        assert_eq!(ask(&app, "GET", path, "").await.status.as_u16(), 404, "{path}");
    }
    assert_eq!(ask(&app, "GET", "/api/bags/1/lean?cover=mud", "").await.status.as_u16(), 400);
}

/// What changes a disc's wear is marked with the day; what does not, is not; undone, the mark is gone.
#[actix_web::test]
async fn prop_a_day_is_marked_when_wear_changes_and_unmarked_when_that_is_undone() {
    let app = taken_on(DAY).await;
    let added = ask(&app, "POST", "/api/discs", &a_disc("Teasel 9").to_string()).await.json();
    let path = format!("/api/discs/{}", added["id"]);
    let marks = |disc: &Value| {
        let marks = disc["keeping"]["marks"].as_array().unwrap().iter();
        marks
            .map(|m| format!("{} {}", m["on"].as_str().unwrap(), m["grade"].as_str().unwrap()))
            .collect::<Vec<_>>()
    };
    assert_eq!(marks(&added), ["2027-04-01 fresh"]);
    let mut disc = added.clone();
    disc["keeping"]["marks"][0]["on"] = json!("2026-11-01");
    disc["name"] = json!("Teasel nine");
    let renamed = ask(&app, "PUT", &path, &disc.to_string()).await.json();
    assert_eq!(marks(&renamed), ["2026-11-01 fresh"], "a date is put right, and no day is marked for a name");
    let change = json!({ "disc_ids": [added["id"]], "change": { "grade": "seasoned" } });
    assert!(ask(&app, "POST", "/api/shelf/change", &change.to_string()).await.status.is_success());
    let now = ask(&app, "GET", &path, "").await.json();
    assert_eq!(marks(&now), ["2026-11-01 fresh", "2027-04-01 seasoned"]);
    // A copy is another disc: its days are its own.
    let copies = ask(&app, "POST", &format!("{path}/copies"), r#"{"count": 1}"#).await.json();
    let copy = ask(&app, "GET", &format!("/api/discs/{}", copies["disc_ids"][0]), "").await.json();
    assert_eq!(marks(&copy), ["2027-04-01 seasoned"]);
    for _ in 0..2 {
        assert!(ask(&app, "POST", "/api/changes/undo", "").await.status.is_success());
    }
    assert_eq!(marks(&ask(&app, "GET", &path, "").await.json()), ["2026-11-01 fresh"]);
    // Days that no calendar has are refused, and nothing is lost.
    let mut wrong = renamed.clone();
    wrong["keeping"]["marks"][0]["on"] = json!("2026-02-30");
    assert_eq!(ask(&app, "PUT", &path, &wrong.to_string()).await.status.as_u16(), 400);
    assert_eq!(marks(&ask(&app, "GET", &path, "").await.json()), ["2026-11-01 fresh"]);
}

/// A bag whose turning mid leaves its peg soon, with a fresh copy at home, and a player who plays much among trees.
async fn in_need() -> impl Served {
    let mut store = Store::in_memory().unwrap().taken_on(DAY);
    let month = Month {
        rounds_a_week: 4.0,
        practice_throws_a_week: 300.0,
        practice_putts_a_week: 100.0,
        ground: Terrain::Woods,
    };
    let habits = Habits { calendar: Calendar { months: vec![month; 12] }, ..Habits::default() };
    store
        .save_player(&Player { habits, skill: Skill::Advanced, backhand_m: 104.0, ..Player::default() })
        .unwrap();
    let disc = |name: &str, mould: &str, (speed, glide, turn, fade): (f64, f64, f64, f64), share: f64| {
        let plain = DiscSpec::plain("Hobb & Tiller", mould, Numbers { speed, glide, turn, fade });
        DiscSpec { name: name.into(), ..plain.worn_to(share) }
    };
    let discs = [
        DiscSpec { used_for: Use::Putting, ..disc("Dado", "Dado", (2.0, 3.0, 0.0, 1.0), 0.0) },
        disc("Corbel", "Corbel", (3.0, 3.0, 0.0, 3.0), 0.0),
        disc("Lintel beat", "Lintel", (5.0, 4.0, -1.0, 1.0), 0.4),
        disc("Purlin", "Purlin", (7.0, 5.0, 0.0, 2.0), 0.0),
        disc("Armilla", "Armilla", (13.0, 5.0, 0.0, 4.0), 0.0),
    ];
    store.add_discs(&discs, Some(BagId(1)), "carried").unwrap();
    store.add_disc(&disc("Lintel new", "Lintel", (5.0, 4.0, -1.0, 1.0), 0.0)).unwrap();
    on(store, Door::of_this_machine()).await
}

/// What wears out soon is found on the Bag with the strokes that the year tells; begun, it is found no more.
#[actix_web::test]
async fn prop_the_bag_says_what_has_to_be_begun_until_it_is() {
    let app = in_need().await;
    let season = ask(&app, "GET", "/api/bags/1/season", "").await.json();
    let of_wear = |season: &Value| {
        season["findings"].as_array().unwrap().iter().find(|f| f["kind"] == "wears_out").cloned()
    };
    let found = of_wear(&season).unwrap_or_else(|| panic!("{}", season["findings"]));
    assert!(found["saves_strokes"].as_f64().unwrap() >= 0.01, "{found}");
    assert_eq!(
        (found["action"]["do"].as_str(), found["action_label"].as_str()),
        (Some("season"), Some("Start Lintel new"))
    );
    let year = year(&app, json!({})).await;
    let hole =
        year["holes"].as_array().unwrap().iter().find(|h| h["disc_id"] == found["disc_ids"][0]).unwrap();
    assert_eq!(hole["strokes"], found["saves_strokes"]);
    let start = json!({ "disc_ids": [found["action"]["disc_id"]], "change": { "status": "seasoning" } });
    assert!(ask(&app, "POST", "/api/shelf/change", &start.to_string()).await.status.is_success());
    let season = ask(&app, "GET", "/api/bags/1/season", "").await.json();
    assert_eq!(of_wear(&season).filter(|f| f["key"] == found["key"]), None);
}
