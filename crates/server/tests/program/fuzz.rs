//! What comes from outside, torn and twisted: it is refused in words or taken whole; nothing panics, nothing is half done.

use proptest::prelude::*;
use zinc_kite::demo;
use zinc_kite::demo::SHELF_CSV;
use zinc_kite::format::records::verified;
use zinc_kite::format::shelf_csv::read_bytes;
use zinc_kite::store::Store;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::chance::search::chance;
use zinc_kite_bag::disc::spec::DiscSpec;
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::need::line::LineSpec;
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::style::Style;

/// Something done to bytes: overwritten, cut out, put in, doubled.
fn twist() -> impl Strategy<Value = (u8, prop::sample::Index, prop::sample::Index, u8)> {
    (0u8..5, any::<prop::sample::Index>(), any::<prop::sample::Index>(), any::<u8>())
}

fn twisted(bytes: &[u8], twists: &[(u8, prop::sample::Index, prop::sample::Index, u8)]) -> Vec<u8> {
    let mut bytes = bytes.to_vec();
    for (kind, from, to, value) in twists {
        if bytes.is_empty() {
            break;
        }
        let (a, b) = (from.index(bytes.len()), to.index(bytes.len()));
        let (a, b) = (a.min(b), a.max(b));
        match kind {
            0 => bytes[a] = *value,
            1 => bytes[a..b.min(a + 40)].fill(*value),
            2 => drop(bytes.drain(a..b.min(a + 400))),
            3 => bytes.insert(a, *value),
            _ => bytes.extend_from_within(a..b.min(a + 400)),
        }
    }
    bytes
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, failure_persistence: None, ..ProptestConfig::default() })]

    /// Every row of a file becomes a disc that can be thrown or is told; never both, never neither.
    #[test]
    fn prop_any_csv_is_read_or_told(twists in prop::collection::vec(twist(), 0..12)) {
        let reading = read_bytes(&twisted(SHELF_CSV.as_bytes(), &twists), &["Old Corbel".into()]);
        for disc in &reading.things {
            prop_assert!(disc.validate().is_ok(), "{disc:?}");
        }
        let mut names: Vec<String> = reading.things.iter().map(|d| d.name.to_lowercase()).collect();
        names.sort();
        names.dedup();
        prop_assert_eq!(names.len(), reading.things.len());
        prop_assert!(reading.problems.iter().all(|p| p.line > 0 && !p.expected.is_empty()));
    }

    #[test]
    fn prop_any_bytes_are_a_shelf_or_told(bytes in prop::collection::vec(any::<u8>(), 0..600)) {
        let reading = read_bytes(&bytes, &[]);
        prop_assert!(reading.things.iter().all(|d| d.validate().is_ok()));
    }

    /// A line or a disc as JSON, some of it replaced by whatever a number or a text can be: refused, or good.
    #[test]
    fn prop_any_json_of_a_line_or_a_disc_is_refused_or_good(
        style in 0usize..5,
        changes in prop::collection::vec((any::<prop::sample::Index>(), wild()), 0..4),
    ) {
        let changed = |value: serde_json::Value| {
            let mut object = value.as_object().unwrap().clone();
            for (which, wild) in &changes {
                let key = object.keys().nth(which.index(object.len())).unwrap().clone();
                object.insert(key, wild.clone());
            }
            serde_json::Value::Object(object)
        };
        let usual = LineSpec { name: "a line".into(), ..LineSpec::usual(Style::ALL[style]) };
        if let Ok(line) = serde_json::from_value::<LineSpec>(changed(serde_json::to_value(&usual).unwrap()))
            && line.validate().is_ok()
        {
            let arm = Arm::of(&demo::player(), &Conditions::default()).unwrap();
            let disc = shelf().remove(20);
            let made = chance(&arm, thrown(&disc).unwrap(), &line, &Memo::default());
            prop_assert!((0.0..=1.0).contains(&made.chance), "{made:?} on {line:?}");
        }
        let spec = shelf().remove(3).spec;
        if let Ok(disc) = serde_json::from_value::<DiscSpec>(changed(serde_json::to_value(&spec).unwrap()))
            && disc.validate().is_ok()
        {
            let mut store = Store::in_memory().unwrap();
            let id = store.add_disc(&disc).unwrap();
            let kept = store.disc(id).unwrap().spec;
            prop_assert_eq!(kept.mass_g, disc.mass_g);
            prop_assert_eq!(kept.printed, disc.printed);
        }
    }
}

fn wild() -> impl Strategy<Value = serde_json::Value> {
    prop_oneof![
        any::<f64>().prop_map(|x| serde_json::json!(x)),
        (-300.0..300.0).prop_map(|x| serde_json::json!(x)),
        (-5i64..90).prop_map(|x| serde_json::json!(x)),
        any::<bool>().prop_map(|x| serde_json::json!(x)),
        Just(serde_json::Value::Null),
        "\\PC{0,80}".prop_map(|x| serde_json::json!(x)),
        prop::collection::vec(any::<f64>(), 0..6).prop_map(|x| serde_json::json!(x)),
    ]
}

fn shelf() -> Vec<zinc_kite_bag::disc::spec::Disc> {
    let specs = zinc_kite::format::shelf_csv::read(SHELF_CSV, &[]).things;
    let disc =
        |(k, spec)| zinc_kite_bag::disc::spec::Disc { id: zinc_kite_bag::disc::spec::DiscId(k as i64), spec };
    specs.into_iter().enumerate().map(disc).collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, failure_persistence: None, ..ProptestConfig::default() })]

    /// A backup that was damaged on its way is refused, or all that it holds can be read; looking at it changes nothing.
    #[test]
    fn prop_any_backup_is_refused_or_read(twists in prop::collection::vec(twist(), 1..20)) {
        let mut store = Store::in_memory().unwrap();
        demo::fill(&mut store).unwrap();
        let before = (store.discs().unwrap(), store.bags().unwrap());
        let sent = store.passing_copy().unwrap();
        let bytes = twisted(&std::fs::read(sent.path()).unwrap(), &twists);
        std::fs::write(sent.path(), bytes).unwrap();
        if let Ok(copy) = verified("what was sent", sent.path()) {
            prop_assert!(copy.holds().is_ok() && copy.records().is_ok());
        }
        prop_assert_eq!((store.discs().unwrap(), store.bags().unwrap()), before);
    }
}
