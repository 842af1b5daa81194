//! Everything as one JSON document, and the tables of moulds: out, in after a look, back again.

use crate::http::{Served, ask, ask_with, served};
use proptest::prelude::*;
use rstest::rstest;
use serde_json::{Value, json};
use zinc_kite::demo;
use zinc_kite::format::mould_csv;
use zinc_kite::format::records::{read, write};
use zinc_kite::format::shelf_csv;
use zinc_kite::format::table::Encoding;
use zinc_kite::routes::records_schema;
use zinc_kite::store::{BagId, Store};
use zinc_kite_bag::disc::mould::{Mould, MouldId, MouldSpec, Supply};
use zinc_kite_bag::disc::spec::{DiscSpec, Numbers};
use zinc_kite_bag::thrower::slot::Slot;

fn a_disc(name: &str) -> DiscSpec {
    let printed = Numbers { speed: 7.0, glide: 5.0, turn: -1.0, fade: 2.0 };
    DiscSpec { name: name.into(), ..DiscSpec::plain("Hobb & Tiller", "Purlin", printed) }
}

fn demo_store() -> Store {
    let mut store = Store::in_memory().unwrap();
    demo::fill(&mut store).unwrap();
    let line = zinc_kite_bag::need::line::LineSpec::usual(zinc_kite_bag::thrower::style::Style::Backhand);
    let line = zinc_kite_bag::need::line::LineSpec { name: "Over the gorse".into(), ..line };
    store.add_line(&line).unwrap();
    store.save_line("fairway-rail", &line).unwrap();
    store.set_line("reach", zinc_kite::store::LineSetting { enabled: false, weight: Some(2.5) }).unwrap();
    store
}

/// Taken out and put into an empty database, everything is as it was; taken out again it is the same text.
#[test]
fn prop_records_survive_a_way_out_and_in() {
    let from = demo_store();
    let text = write(from.records().unwrap()).unwrap();
    let mut to = Store::in_memory().unwrap();
    to.replace_records(&read(text.as_bytes()).unwrap()).unwrap();
    assert_eq!(write(to.records().unwrap()).unwrap(), text);
    let names = |s: &Store| -> Vec<String> { s.discs().unwrap().into_iter().map(|d| d.spec.name).collect() };
    assert_eq!(names(&to), names(&from));
    assert_eq!(to.player().unwrap(), from.player().unwrap());
    let lines =
        |s: &Store| s.lines(vec![]).unwrap().into_iter().map(|l| (l.enabled, l.spec)).collect::<Vec<_>>();
    assert_eq!(lines(&to), lines(&from));
    assert_eq!(to.bags().unwrap()[0].carried.len(), 19);
}

/// It is one step: undone, all is as before to the last bit, and done again, as in the document.
#[test]
fn prop_an_import_is_undone_and_done_again_whole() {
    let mut store = demo_store();
    let before = write(store.records().unwrap()).unwrap();
    let mut other = Store::in_memory().unwrap();
    other.add_discs(&[a_disc("Purlin 9"), a_disc("Newel")], Some(BagId(1)), "on the shelf").unwrap();
    let document = write(other.records().unwrap()).unwrap();
    store.replace_records(&read(document.as_bytes()).unwrap()).unwrap();
    assert_eq!(write(store.records().unwrap()).unwrap(), document);
    assert!(store.player().unwrap().is_none());
    store.undo(None).unwrap();
    assert_eq!(write(store.records().unwrap()).unwrap(), before);
    store.redo(None).unwrap();
    assert_eq!(write(store.records().unwrap()).unwrap(), document);
}

/// The published schema is of draft 2020-12, is what the program gives, and takes what the program writes.
#[test]
fn val_records_are_as_their_schema_says() {
    let schema = records_schema();
    assert_eq!(schema["$schema"], "https://json-schema.org/draft/2020-12/schema");
    jsonschema::draft202012::meta::validate(&schema).unwrap();
    let published = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/records.schema.json");
    let published: Value = serde_json::from_str(&std::fs::read_to_string(published).unwrap()).unwrap();
    assert_eq!(published, schema, "run `zinc-kite schema > docs/records.schema.json`");
    let validator = jsonschema::draft202012::new(&schema).unwrap();
    let document: Value = serde_json::from_str(&write(demo_store().records().unwrap()).unwrap()).unwrap();
    let errors: Vec<String> =
        validator.iter_errors(&document).map(|e| format!("{}: {e}", e.instance_path())).collect();
    assert_eq!(errors, Vec::<String>::new());
    for (at, spoilt) in [
        ("/version", json!(2)),
        ("/format", json!("another")),
        ("/discs/0/mass_g", json!(999)),
        ("/discs/0/plastic", json!("glass")),
        ("/bags", json!([])),
        ("/player/habits/mould_strokes", json!(7)),
    ] {
        let mut bad = document.clone();
        *bad.pointer_mut(at).unwrap() = spoilt;
        assert!(!validator.is_valid(&bad), "{at}");
        assert!(read(bad.to_string().as_bytes()).is_err(), "{at}");
    }
}

#[rstest]
#[case(|_: &mut Value| {}, None)]
#[case(|d: &mut Value| d["version"] = json!(9), Some(("version", "use a newer Zinc Kite")))]
#[case(|d: &mut Value| d["format"] = json!("x"), Some(("format", "\"zinc-kite-records\" was expected")))]
#[case(|d: &mut Value| *d = json!([1, 2]), Some(("format", "none came")))]
#[case(|d: &mut Value| d["discs"][3]["mass_g"] = json!("heavy"), Some(("discs[3].mass_g", "invalid type")))]
#[case(|d: &mut Value| d["discs"][3]["mass_g"] = json!(1e308), Some(("discs[3].mass_g", "from 60 to 220")))]
#[case(|d: &mut Value| d["discs"][1]["name"] = d["discs"][0]["name"].clone(), Some(("discs[1]", "each name once")))]
#[case(|d: &mut Value| d["bags"][0]["carried"][0]["disc"] = json!("Nobody"), Some(("bags[0].carried[0].disc", "\"Nobody\" came")))]
#[case(|d: &mut Value| d["bags"] = json!([]), Some(("bags", "one bag at least")))]
#[case(|d: &mut Value| d["line_settings"][0]["weight"] = json!(70), Some(("line_settings[0].weight", "from 0.1 to 10")))]
#[case(|d: &mut Value| d["player"]["backhand_m"] = json!(-4), Some(("player.backhand_m", "from 20 to 200")))]
fn prop_a_document_is_taken_whole_or_told_where_it_is_wrong(
    #[case] spoil: fn(&mut Value),
    #[case] wrong: Option<(&str, &str)>,
) {
    let mut document: Value = serde_json::from_str(&write(demo_store().records().unwrap()).unwrap()).unwrap();
    spoil(&mut document);
    match (read(document.to_string().as_bytes()), wrong) {
        (Ok(_), None) => {}
        (Err(problems), Some((at, words))) => {
            let found = problems.iter().any(|p| p.at == at && p.words.contains(words));
            assert!(found, "{problems:?}");
        }
        (read, _) => panic!("{:?}", read.map(|r| r.discs.len())),
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 300, failure_persistence: None, ..ProptestConfig::default() })]

    /// Whatever becomes of its bytes, a document is read as good records or told; it never ends the program.
    #[test]
    fn prop_any_bytes_are_records_or_told(
        cut in any::<prop::sample::Index>(),
        at in any::<prop::sample::Index>(),
        byte in any::<u8>(),
    ) {
        let mut store = Store::in_memory().unwrap();
        store.add_discs(&[a_disc("Purlin")], Some(BagId(1)), "on the shelf").unwrap();
        let mut bytes = write(store.records().unwrap()).unwrap().into_bytes();
        let at = at.index(bytes.len());
        bytes[at] = byte;
        bytes.truncate(1 + cut.index(bytes.len()).max(at));
        if let Ok(records) = read(&bytes) {
            prop_assert!(records.discs.iter().all(|d| d.validate().is_ok()));
            prop_assert!(!records.bags.is_empty());
        }
    }

    /// Every row of a table of moulds becomes a mould that could be or is told, whatever becomes of its bytes.
    #[test]
    fn prop_any_bytes_are_moulds_or_told(
        twists in prop::collection::vec((any::<prop::sample::Index>(), any::<u8>(), 0..3usize), 0..12),
    ) {
        let mut bytes = b"name,maker,speed,glide,turn,fade,rim_cm,largest_mass_g,supply\nTeasel,Saltmarsh,11,5,-2,2,2.1,6.2 oz,ready\nDado,Hobb & Tiller,2,3,0,1,,,hard to find\n".to_vec();
        for (at, byte, kind) in twists {
            let at = at.index(bytes.len());
            match kind {
                0 => bytes[at] = byte,
                1 => bytes.insert(at, byte),
                _ => bytes.truncate(at.max(1)),
            }
        }
        let reading = mould_csv::read_bytes(&bytes, &[]);
        prop_assert!(reading.things.iter().all(|m| m.validate().is_ok()));
        let good = reading.rows.iter().filter(|r| r.good).count();
        prop_assert_eq!(good, reading.things.len());
        prop_assert!(reading.rows.len() == good || !reading.problems.is_empty());
    }

    /// Written and read again, a mould is the same to the last bit.
    #[test]
    fn prop_moulds_survive_a_way_out_and_in(
        name in "[=+a-z][a-z ,;\"']{0,20}[a-z]",
        speed in 1.0..14.0f64,
        measures in (prop::option::of(18.0..30.0f64), prop::option::of(0.5..3.0f64), prop::option::of(100.0..220.0f64)),
        bead in prop::option::of(any::<bool>()),
        class in prop::option::of(prop::sample::select(Slot::ALL.to_vec())),
        supply in prop::sample::select(vec![Supply::Ready, Supply::HardToFind, Supply::OutOfProduction]),
    ) {
        let printed = Numbers { speed, glide: 4.5, turn: -1.25, fade: 2.0 };
        let spec = MouldSpec {
            diameter_cm: measures.0,
            rim_depth_cm: measures.1,
            largest_mass_g: measures.2,
            bead,
            class,
            supply,
            ..MouldSpec::named("Saltmarsh", name.trim(), printed)
        };
        prop_assume!(spec.validate().is_ok());
        let text = mould_csv::write(&[Mould { id: MouldId(1), spec: spec.clone() }]).unwrap();
        let again = mould_csv::read(&text, &[]);
        prop_assert_eq!(&again.problems, &vec![]);
        prop_assert_eq!(&again.things, &vec![spec]);
    }
}

const HEAD: &str = "name,maker,mould,plastic,mass_g,speed,glide,turn,fade";

/// A byte says what it is written in: UTF-8 where it is that, Latin-1 where it is none of it, and where it is a mixture it is told.
#[rstest]
#[case("Öl & Æther".as_bytes(), Some(Encoding::Utf8))]
#[case(b"\xd6l & \xc6ther", Some(Encoding::Latin1))]
#[case(b"\xd6l & \xc3\x86ther", None)]
#[case(b"torn\xc3\x00", None)]
fn prop_encodings_are_told_apart(#[case] name: &[u8], #[case] encoding: Option<Encoding>) {
    let mut bytes = format!("{HEAD}\n").into_bytes();
    bytes.extend_from_slice(name);
    bytes.extend_from_slice(b",B,C,premium,173,11,5,-1,2\n");
    let reading = shelf_csv::read_bytes(&bytes, &[]);
    match encoding {
        Some(encoding) => {
            assert_eq!((reading.encoding, &reading.problems), (encoding, &vec![]));
            assert_eq!(reading.things[0].name, "Öl & Æther");
        }
        None => assert!(reading.things.is_empty() && reading.problems[0].line == 2, "{:?}", reading.problems),
    }
    let wide: Vec<u8> = std::iter::once(0xfeffu16)
        .chain(format!("{HEAD}\nÖl,B,C,premium,173,11,5,-1,2\n").encode_utf16())
        .flat_map(u16::to_le_bytes)
        .collect();
    let reading = shelf_csv::read_bytes(&wide, &[]);
    assert_eq!((reading.encoding, reading.things[0].name.as_str()), (Encoding::Utf16, "Öl"));
}

/// An ounce is 28.349523125 g exactly, by the agreement of 1959 (from memory); scales tell tenths of a gram.
#[rstest]
#[case("173", Some(173.0))]
#[case("173 g", Some(173.0))]
#[case("173.5g", Some(173.5))]
#[case("6.1 oz", Some(172.9))]
#[case("6.1oz", Some(172.9))]
#[case("6.17 Ounces", Some(174.9))]
#[case("6.1", None)]
#[case("6.1 lb", None)]
#[case("oz", None)]
#[case("17 oz", None)]
fn val_ounces_are_recognised(#[case] cell: &str, #[case] mass_g: Option<f64>) {
    let reading = shelf_csv::read(&format!("{HEAD}\nA,B,C,premium,{cell},11,5,-1,2\n"), &[]);
    assert_eq!(reading.things.first().map(|d| d.mass_g), mass_g);
    let told = reading.problems.iter().all(|p| p.column == "mass_g");
    assert!(told && reading.problems.is_empty() == mass_g.is_some(), "{:?}", reading.problems);
    if let Some(mass_g) = mass_g.filter(|m| *m < 173.0) {
        let column = shelf_csv::read(
            &format!("{};mass_oz\nA;B;C;premium;;11;5;-1;2;6,1\n", HEAD.replace(',', ";")),
            &[],
        );
        assert_eq!(column.things[0].mass_g, mass_g, "a column of ounces, with a decimal comma");
    }
}

#[test]
fn prop_every_row_has_its_verdict() {
    let text = format!(
        "{HEAD}\nA,B,C,premium,173,11,5,-1,2\nD,B,C,premium,heavy,11,5,-1,2\na,B,C,base,170,11,5,-1,2\n"
    );
    let rows = shelf_csv::read(&text, &[]).rows;
    let told: Vec<(u64, &str, bool)> = rows.iter().map(|r| (r.line, r.name.as_str(), r.good)).collect();
    assert_eq!(told, [(2, "A", true), (3, "D", false), (4, "a", false)]);
    assert!(rows[0].words.contains("B C, premium, 173 g, 11 / 5 / −1 / 2"), "{}", rows[0].words);
    assert!(rows[1].words.contains("mass_g") && rows[2].words.contains("a name no other disc has"));
}

async fn post(app: &impl Served, path: &str, kind: &str, body: &str) -> (u16, Value) {
    let answer = ask_with(app, "POST", path, body, &[("content-type", kind)]).await;
    (answer.status.as_u16(), answer.json())
}

#[actix_web::test]
async fn a_look_at_a_table_writes_nothing_and_moulds_come_in_as_one_step() {
    let app = served(true).await;
    let text = ask(&app, "GET", "/api/shelf.csv", "").await.text;
    let (status, report) = post(&app, "/api/shelf/import?preview=true", "text/csv", &text).await;
    assert_eq!((status, &report["good"], &report["imported"]), (200, &json!(0), &json!(0)));
    assert_eq!(report["rows"].as_array().unwrap().len(), 46, "every name is taken, each row is told");
    let fresh = format!("{HEAD}\nOdd One,Saltmarsh,Teasel,premium,6.1 oz,11,5,-2,2\n");
    let (_, report) = post(&app, "/api/shelf/import?preview=true", "text/csv", &fresh).await;
    assert_eq!((&report["good"], &report["imported"]), (&json!(1), &json!(0)));
    let count = async || ask(&app, "GET", "/api/discs", "").await.json().as_array().unwrap().len();
    assert_eq!(count().await, 46);
    let (_, report) = post(&app, "/api/shelf/import", "text/csv", &fresh).await;
    assert_eq!((&report["imported"], count().await), (&json!(1), 47));

    let moulds = ask(&app, "GET", "/api/moulds.csv", "").await.text;
    let changed = moulds.replacen("175,,0.9,,,,,,ready", "175,21.1,1.9,1.3,1.8,yes,no,175.1,hard_to_find", 1);
    assert_ne!(changed, moulds);
    let changed = format!("{changed}Campion,Saltmarsh,8,5,-1,2,,175,,,,,,,,ready\n");
    let (_, look) = post(&app, "/api/moulds/import?preview=true", "text/csv", &changed).await;
    let words: Vec<&str> =
        look["rows"].as_array().unwrap().iter().map(|r| r["words"].as_str().unwrap()).collect();
    assert!(
        words.last().unwrap().ends_with("new") && words[0].ends_with("replaces what is known"),
        "{words:?}"
    );
    assert_eq!(ask(&app, "GET", "/api/moulds.csv", "").await.text, moulds);
    let (status, report) = post(&app, "/api/moulds/import", "text/csv", &changed).await;
    assert_eq!((status, report["imported"].as_u64().unwrap() as usize), (200, words.len()));
    let now = ask(&app, "GET", "/api/moulds.csv", "").await.text;
    assert!(now.contains("Campion") && now.contains("21.1,1.9,1.3,1.8,yes,no,175.1,hard_to_find"));
    ask(&app, "POST", "/api/changes/undo", "").await;
    assert_eq!(ask(&app, "GET", "/api/moulds.csv", "").await.text, moulds);
}

#[actix_web::test]
async fn records_are_looked_at_before_they_replace_everything() {
    let app = served(true).await;
    let document = ask(&app, "GET", "/api/records.json", "").await.text;
    let (status, look) = post(&app, "/api/records/preview", "application/json", &document).await;
    assert_eq!((status, &look["discs"]), (200, &json!(46)));
    let (status, look) = post(&app, "/api/records/preview", "application/json", "{\"format\": 1}").await;
    assert_eq!((status, &look["problems"][0]["at"]), (422, &json!("format")));
    let (status, _) = post(&app, "/api/records/preview", "text/plain", &document).await;
    assert_eq!(status, 415, "a page of another site could send that");
    let (status, _) = post(&app, "/api/records", "application/json", &document).await;
    assert_eq!(status, 428, "who replaces everything says what was seen");
    let schema = ask(&app, "GET", "/api/records.schema.json", "").await;
    assert_eq!(schema.json(), records_schema());
}

/// The fullest shelf there can be is more than a usual request may hold, and goes out and in all the same.
#[actix_web::test]
async fn regress_the_fullest_shelf_is_taken_back() {
    let app = served(false).await;
    let rows: String =
        (0..5000).map(|k| format!("Purlin {k},Hobb & Tiller,Purlin,premium,173,7,5,-1,2,bought at the moor in spring and thrown in every wind since then\n")).collect();
    let (status, report) =
        post(&app, "/api/shelf/import", "text/csv", &format!("{HEAD},notes\n{rows}")).await;
    assert_eq!((status, &report["imported"]), (200, &json!(5000)));
    let document = ask(&app, "GET", "/api/records.json", "").await.text;
    assert!(document.len() > 4 << 20, "{}", document.len());
    let (status, look) = post(&app, "/api/records/preview", "application/json", &document).await;
    assert_eq!((status, &look["discs"]), (200, &json!(5000)));
    ask(&app, "DELETE", "/api/discs/7", "").await;
    assert_eq!(ask(&app, "POST", "/api/records", &document).await.json()["discs"], 5000);
    assert_eq!(ask(&app, "GET", "/api/records.json", "").await.text, document);
}
