//! Discs read from a line.

use proptest::prelude::*;
use rstest::rstest;
use zinc_kite_bag::disc::mould::MouldSpec;
use zinc_kite_bag::disc::plastic::Plastic;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers, Top, Use};
use zinc_kite_bag::disc::wear::Grade;
use zinc_kite_bag::entry::{Entry, Known, MOST_AT_ONCE, PartKind, read};

fn numbers(speed: f64, glide: f64, turn: f64, fade: f64) -> Numbers {
    Numbers { speed, glide, turn, fade }
}

fn library() -> Vec<MouldSpec> {
    vec![
        MouldSpec::named("Hobb & Tiller", "Purlin", numbers(7.0, 5.0, 0.0, 2.0)),
        MouldSpec::named("Hobb & Tiller", "Plinth", numbers(3.0, 3.0, 0.0, 3.0)),
        MouldSpec::named("Saltmarsh", "Teasel", numbers(9.0, 5.0, -1.0, 2.0)),
        MouldSpec::named("Orrery Works", "Plumb", numbers(5.0, 4.0, 0.0, 1.0)),
        MouldSpec::named("Orrery Works", "Plumb Long", numbers(11.0, 5.0, -1.0, 2.0)),
    ]
}

fn on(line: &str, discs: &[Disc]) -> Entry {
    read(line, Known { moulds: &library(), discs, used_for: None })
}

fn one(line: &str) -> DiscSpec {
    let entry = on(line, &[]);
    assert_eq!(entry.problems, Vec::<String>::new(), "{line}");
    entry.discs.into_iter().next().unwrap()
}

fn refused(line: &str) -> String {
    let entry = on(line, &[]);
    assert!(entry.discs.is_empty(), "{line} was taken");
    entry.problems.join(" ")
}

fn shelf(names: &[&str]) -> Vec<Disc> {
    let like = |name: &str| DiscSpec {
        name: name.into(),
        plastic: Plastic::Base,
        mass_g: 168.0,
        ..DiscSpec::plain("Hobb & Tiller", "Purlin", numbers(7.0, 5.0, 0.0, 2.0))
    };
    names.iter().enumerate().map(|(k, n)| Disc { id: DiscId(k as i64 + 1), spec: like(n) }).collect()
}

#[test]
fn trade_the_line_of_the_design_is_read_whole() {
    let entry = on("2 purlin premium 173 seasoned orange", &[]);
    let kinds: Vec<PartKind> = entry.parts.iter().map(|p| p.kind).collect();
    use PartKind::{Colour, Count, Mass, Mould, Wear};
    assert_eq!(kinds, [Count, Mould, PartKind::Plastic, Mass, Wear, Colour]);
    let names: Vec<&str> = entry.discs.iter().map(|d| d.name.as_str()).collect();
    assert_eq!(names, ["Purlin 1", "Purlin 2"]);
    for d in &entry.discs {
        assert_eq!((d.maker.as_str(), d.plastic, d.mass_g), ("Hobb & Tiller", Plastic::Premium, 173.0));
        assert_eq!((d.wear.grade, d.printed.speed, d.colour.as_str()), (Grade::Seasoned, 7.0, "#e8731a"));
    }
    assert!(entry.mould.is_none() && entry.assumed.is_empty());
}

#[rstest]
#[case("pu 173g", 173.0)]
#[case("pu 173 g", 173.0)]
#[case("pu 6.1oz", 172.9)]
#[case("pu 6,1 oz", 172.9)]
#[case("pu 168,5", 168.5)]
fn val_an_ounce_is_28_35_grams(#[case] line: &str, #[case] mass_g: f64) {
    // The avoirdupois ounce is 28.349523125 g exactly: international yard and pound agreement, 1959.
    assert!((one(line).mass_g - mass_g).abs() < 0.051, "{}", one(line).mass_g);
}

#[rstest]
#[case("purlin", "Purlin")]
#[case("pUR", "Purlin")]
#[case("hobb pu", "Purlin")]
#[case("hobb & tiller purlin", "Purlin")]
#[case("plumb", "Plumb")]
#[case("plum", "Plumb")]
#[case("plumb long", "Plumb Long")]
#[case("plumb lo beat", "Plumb Long")]
#[case("salt te", "Teasel")]
#[case("purlin by hobb premium", "Purlin")]
#[case("\"plumb long\"", "Plumb Long")]
fn prop_a_mould_is_known_by_any_beginning(#[case] line: &str, #[case] mould: &str) {
    assert_eq!(one(line).mould, mould);
}

#[rstest]
#[case("pl", "Plinth or Plumb")]
#[case("purlin gre", "green or grey")]
#[case("purlin bro", "broken in or brown")]
#[case("purlin premium base", "given twice")]
#[case("purlin 173 168", "given twice")]
#[case("purlin 17", "60 to 220")]
#[case("purlin 7 5", "come in fours")]
#[case("purlin premum", "Did you mean premium?")]
#[case("purlin 300g", "Mass must be from 60 to 220 g, not 300")]
#[case("0 purlin", "1 to 20")]
#[case("21 purlin", "1 to 20")]
#[case("173 premium", "mould first")]
#[case("7/5/-1/2", "mould first")]
#[case("purlin by saltmarsh", "Purlin is new: add its speed")]
#[case("salt comfrey 6/5/-3/1 by hobb", "maker is given twice")]
#[case("comfrey", "add its speed, glide, turn and fade")]
#[case("purlni 173", "did you mean Purlin?")]
#[case("comfrey 99/5/0/1", "Speed must be from 0.5 to 15, not 99")]
#[case("purlin 1.5 throws", "whole number")]
fn prop_what_cannot_be_read_is_told(#[case] line: &str, #[case] words: &str) {
    let problem = refused(line);
    assert!(problem.contains(words), "{problem}");
}

#[rstest]
#[case("comfrey 6/5/-3/1 base 165", "Comfrey", "unknown")]
#[case("comfrey 6 5 -3 1 165", "Comfrey", "unknown")]
#[case("saltmarsh comfrey 6|5|−3|1", "Comfrey", "Saltmarsh")]
#[case("comfrey 6/5/-3/1 by salt", "Comfrey", "Saltmarsh")]
#[case("purlin by salt 6/5/-3/1", "Purlin", "Saltmarsh")]
#[case("sea lavender 6/5/-3/1 by \"Fen & Daughters\"", "Sea Lavender", "Fen & Daughters")]
#[case("\"base camp\" 6/5/-3/1", "base camp", "unknown")]
fn prop_a_new_mould_is_named_in_the_same_line(#[case] line: &str, #[case] name: &str, #[case] maker: &str) {
    let entry = on(line, &[]);
    let mould = entry.mould.unwrap();
    assert_eq!((mould.name.as_str(), mould.maker.as_str()), (name, maker), "{:?}", entry.problems);
    assert_eq!(mould.printed, numbers(6.0, 5.0, -3.0, 1.0));
    assert_eq!(entry.discs[0].printed, mould.printed);
}

#[test]
fn prop_all_that_can_be_told_is_kept() {
    let d = one(
        "purlin 7/5/-1/2 tacky base 350 throws 12 hits dome utility mint \"Old Faithful\" // won, \"dear\" to me",
    );
    assert_eq!((d.wear.throws, d.wear.hard_hits, d.top), (Some(350), 12, Top::Domed));
    assert_eq!((d.plastic, d.used_for, d.printed.turn), (Plastic::TackyBase, Use::Utility, -1.0));
    assert_eq!((d.name.as_str(), d.notes.as_str()), ("Old Faithful", "won, \"dear\" to me"));
    assert_eq!(d.colour, "#a8e0c3");
}

#[test]
fn trade_a_copy_is_like_the_last_of_its_mould() {
    let entry = on("purlin", &shelf(&["Purlin", "My Purlin"]));
    let d = &entry.discs[0];
    assert_eq!((d.name.as_str(), d.plastic, d.mass_g), ("Purlin 3", Plastic::Base, 168.0));
    assert_eq!(entry.assumed, ["base", "168 g", "fresh"]);
}

#[rstest]
#[case(&[], 1, &["Purlin"])]
#[case(&["Purlin"], 1, &["Purlin 2"])]
#[case(&["Purlin", "purlin 3"], 2, &["Purlin 4", "Purlin 5"])]
#[case(&["Purlin 2"], 2, &["Purlin 3", "Purlin 4"])]
fn prop_made_names_are_free(#[case] there: &[&str], #[case] count: usize, #[case] made: &[&str]) {
    let entry = on(&format!("{count} purlin"), &shelf(there));
    assert_eq!(entry.discs.iter().map(|d| d.name.as_str()).collect::<Vec<_>>(), made);
}

#[test]
fn prop_an_empty_line_asks_for_nothing() {
    for line in ["", "  ", ",", "\t;"] {
        let entry = on(line, &[]);
        assert!(entry.problems.is_empty() && entry.discs.is_empty() && entry.parts.is_empty());
    }
    assert!(refused(&"purlin ".repeat(100)).contains("at most 400"));
}

#[test]
fn prop_colours_of_discs_that_tell_none_differ() {
    let mut discs: Vec<Disc> = Vec::new();
    for k in 0..12 {
        let spec = on("purlin", &discs).discs.remove(0);
        assert!(discs.iter().all(|d| d.spec.colour != spec.colour), "disc {k}");
        discs.push(Disc { id: DiscId(k), spec });
    }
}

/// Words that each tell one thing, with what they tell.
fn details() -> impl Strategy<Value = Vec<String>> {
    let some = |all: &'static [&'static str]| prop::option::of(prop::sample::select(all));
    (
        some(&["base", "tacky", "mid-grade", "premium", "premium soft", "glow", "featherweight"]),
        some(&["150", "165g", "175 g", "6.2 oz", "180,5"]),
        some(&["fresh", "broken in", "seasoned", "beat", "flippy"]),
        some(&["flat", "domed"]),
        some(&["orange", "blue", "white", "navy"]),
        some(&["putting", "utility"]),
        some(&["12/5/-1/3", "7 5 -2 1"]),
        some(&["20 throws", "8throws"]),
    )
        .prop_map(|(a, b, c, d, e, f, g, h)| {
            [a, b, c, d, e, f, g, h].into_iter().flatten().map(str::to_owned).collect()
        })
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, ..ProptestConfig::default() })]

    /// Whatever is typed is answered, and whatever is added is a disc that can be kept.
    #[test]
    fn prop_any_line_is_answered(line in "\\PC{0,60}") {
        let entry = on(&line, &shelf(&["Purlin"]));
        prop_assert!(entry.discs.len() <= MOST_AT_ONCE);
        prop_assert!(entry.discs.is_empty() || entry.problems.is_empty());
        prop_assert!(entry.discs.iter().all(|d| d.validate().is_ok()));
        prop_assert!(entry.parts.is_empty() || !entry.discs.is_empty() || !entry.problems.is_empty(), "{entry:?}");
    }

    /// The same of lines made of the words of the trade, with slips.
    #[test]
    fn prop_any_words_are_answered(
        words in prop::collection::vec(prop::sample::select(vec![
            "2", "purlin", "pl", "plumb", "long", "hobb", "by", "premium", "soft", "base", "173", "6.1", "oz", "g", "7/5/-1/2",
            "7", "5", "-1", "throws", "hits", "beat", "in", "bro", "green", "\"x", "\"", "//", "comfrey", "0", "999999999999", "−", "/",
        ]), 0..9),
    ) {
        let line = words.join(" ");
        let entry = on(&line, &shelf(&["Purlin"]));
        prop_assert!(entry.discs.is_empty() != entry.problems.is_empty() || entry.parts.is_empty(), "{line}: {entry:?}");
        prop_assert!(entry.discs.iter().all(|d| d.validate().is_ok()));
        // Every word is accounted for, in order.
        if !entry.problems.iter().any(|p| p.starts_with("Say the mould")) {
            let plain = |c: &char| !c.is_whitespace() && !['"', '/'].contains(c);
            let typed: String = line.chars().filter(plain).collect();
            let told: String = entry.parts.iter().flat_map(|p| p.text.chars()).filter(plain).collect();
            prop_assert_eq!(told, typed);
        }
    }

    /// After the mould the order does not matter.
    #[test]
    fn prop_details_come_in_any_order((a, b) in details().prop_flat_map(|d| (Just(d.clone()), Just(d).prop_shuffle()))) {
        let read = |details: &[String]| on(&format!("purlin {}", details.join(" ")), &[]);
        let (a, b) = (read(&a), read(&b));
        prop_assert_eq!(&a.problems, &Vec::<String>::new());
        prop_assert_eq!(a.discs, b.discs);
    }

    /// A line typed letter by letter never shows a disc that the whole line would not, once its mould and weight stand.
    #[test]
    fn prop_a_line_may_be_read_at_any_letter(details in details()) {
        let line = format!("2 purlin {}", details.join(" "));
        for (end, _) in line.char_indices() {
            let entry = on(&line[..end], &[]);
            prop_assert!(entry.discs.iter().all(|d| d.validate().is_ok()));
        }
    }
}
