//! The shelf as CSV.

use proptest::prelude::*;
use rstest::rstest;
use zinc_kite::demo::SHELF_CSV;
use zinc_kite::format::shelf_csv::{read, write};
use zinc_kite_bag::disc::keeping::{Keeping, Status, Tie};
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::disc::wear::Grade;
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::Style;

fn discs(text: &str) -> Vec<Disc> {
    let reading = read(text, &[]);
    assert_eq!(reading.problems, []);
    reading.things.into_iter().enumerate().map(|(k, spec)| Disc { id: DiscId(k as i64), spec }).collect()
}

fn keeping() -> impl Strategy<Value = Keeping> {
    let date = || {
        prop::option::of((2020..2030i16, 1..13i8, 1..29i8).prop_map(|(y, m, d)| jiff::civil::date(y, m, d)))
    };
    (
        prop::sample::select(Status::ALL.to_vec()),
        prop::sample::subsequence(Tie::ALL.to_vec(), 0..=3),
        prop::sample::subsequence(Style::ALL.to_vec(), 0..=5),
        (date(), date(), prop::sample::select(Grade::ALL.to_vec())),
        ("[=+a-z][a-z ,;\"]{0,20}[a-z]", "[a-z]{0,9}"),
        prop::option::of(0.0..900.0f64),
    )
        .prop_map(
            |(status, ties, kept_for, (trial_until, observed_on, observed_worn), (run, place), price)| {
                Keeping {
                    status,
                    trial_until,
                    ties,
                    kept_for,
                    run,
                    price,
                    place,
                    observed_on,
                    observed_worn,
                    marks: vec![],
                }
            },
        )
}

proptest! {
    /// Written and read again, a disc is the same to the last bit, whatever is in its texts.
    #[test]
    fn prop_round_trip(
        name in "[^\\s\\pC][^\\r\\pC]{0,40}[^\\s\\pC]",
        notes in "[^\\s\\pC][ -~\n\"]{0,60}[^\\s\\pC]",
        mass_g in 100.0..190.0f64,
        turn in -4.0..0.5f64,
        throws in prop::option::of(0..5000u32),
        observed in prop::bool::ANY,
        keeping in keeping(),
        class in prop::option::of(prop::sample::select(Slot::ALL.to_vec())),
    ) {
        let mut disc = discs(SHELF_CSV).remove(20);
        disc.spec.name = name.trim().to_owned();
        disc.spec.notes = notes.trim().to_owned();
        disc.spec.mass_g = mass_g;
        disc.spec.printed.turn = turn;
        disc.spec.wear.throws = throws;
        disc.spec.observed = observed.then_some(disc.spec.printed);
        (disc.spec.keeping, disc.spec.class) = (keeping, class);
        prop_assume!(disc.spec.validate().is_ok());
        let again = read(&write(std::slice::from_ref(&disc)).unwrap(), &[]);
        prop_assert_eq!(&again.problems, &[]);
        prop_assert_eq!(&again.things, &vec![disc.spec]);
    }
}

#[test]
fn the_demo_shelf_survives_export_and_import() {
    let shelf = discs(SHELF_CSV);
    assert_eq!(shelf.len(), 46);
    assert_eq!(discs(&write(&shelf).unwrap()), shelf);
}

const HEAD: &str = "name,maker,mould,plastic,mass_g,speed,glide,turn,fade,observed_speed,throws";

#[rstest]
#[case("A,B,C,premium,173,11,5,-1,2,,", None)]
#[case("A,B,C,Tacky base,173,11,5,-1,2,,40", None)]
#[case("A,B,C,premium,,11,5,-1,2,,", Some((2, "mass_g", "a number")))]
#[case("A,B,C,premium,173,fast,5,-1,2,,", Some((2, "speed", "a number with a decimal point")))]
#[case("A,B,C,premium,173,11,5,-1,2,9,", Some((2, "observed_speed", "all four observed numbers")))]
#[case("A,B,C,premium,173,11,5,-1,2,,-3", Some((2, "throws", "a whole number")))]
#[case("A,B,C,premium,173,11,5,-1,9,,", Some((2, "fade", "from -1 to 7")))]
#[case(",B,C,premium,173,11,5,-1,2,,", Some((2, "name", "1 to 60 characters")))]
#[case("A,B,C,premium,173,11,5,-1", Some((2, "", "11 cells")))]
fn a_bad_row_is_told_by_line_column_and_what_was_expected(
    #[case] row: &str,
    #[case] problem: Option<(u64, &str, &str)>,
) {
    let reading = read(&format!("{HEAD}\n{row}\n"), &[]);
    match problem {
        None => assert_eq!((reading.things.len(), reading.problems.len()), (1, 0)),
        Some((line, column, expected)) => {
            assert!(reading.things.is_empty());
            let p = &reading.problems[0];
            assert_eq!((p.line, p.column.as_str()), (line, column));
            assert!(p.expected.contains(expected), "{}", p.expected);
        }
    }
}

#[test]
fn a_file_without_its_columns_or_with_taken_names_is_told_so() {
    let reading = read("name,maker\nA,B\n", &[]);
    assert!(reading.problems.iter().any(|p| p.column == "mould" && p.line == 1));
    let reading = read(&format!("{HEAD}\nVernier,B,C,base,170,9,5,-1,2,,\n"), &["vernier".into()]);
    assert_eq!(reading.problems[0].column, "name");
    let marked = format!("\u{feff}{HEAD}\r\nA,B,C,premium,173,11,5,-1,2,,\r\n");
    assert_eq!(read(&marked, &[]).things.len(), 1, "a byte order mark and Windows line ends are fine");
}

/// Spreadsheets of other countries put a semicolon between cells and a comma before decimals.
#[rstest]
#[case(';', "173,5")]
#[case('\t', "173,5")]
#[case('\t', "173.5")]
#[case(';', "173.5")]
#[case(',', "173.5")]
fn cells_are_told_apart_as_the_header_does(#[case] between: char, #[case] mass: &str) {
    let rows = format!("{HEAD}\nA|B|C|premium|{mass}|11|5|-1|2||").replace([',', '|'], "|");
    let text = rows.replace(&mass.replace(',', "|"), mass).replace('|', &between.to_string());
    let reading = read(&text, &[]);
    assert_eq!(reading.problems, []);
    assert_eq!(reading.things[0].mass_g, 173.5);
}

#[test]
fn columns_that_are_not_known_are_told() {
    let reading = read(&format!("{HEAD},owner,Weather\nA,B,C,premium,173,11,5,-1,2,,,me,wet\n"), &[]);
    assert_eq!((reading.things.len(), reading.ignored), (1, vec!["owner".to_owned(), "weather".to_owned()]));
}

#[test]
fn a_file_with_everything_wrong_is_told_in_a_hundred_rows() {
    let rows = "A,B,C,premium,heavy,11,5,-1,2,,\n".repeat(5000);
    let reading = read(&format!("{HEAD}\n{rows}"), &[]);
    assert_eq!((reading.problems.len(), reading.further), (100, 4900));
}

/// A cell that a spreadsheet would work out as a formula is kept a text, and comes back as it was.
#[rstest]
#[case("=HYPERLINK(1)", "'=HYPERLINK(1)")]
#[case("+1", "'+1")]
#[case("-1", "'-1")]
#[case("@home", "'@home")]
#[case("'=1", "''=1")]
#[case("'90s mould", "'90s mould")]
fn no_cell_is_a_formula(#[case] notes: &str, #[case] cell: &str) {
    let mut disc = discs(SHELF_CSV).remove(0);
    disc.spec.notes = notes.to_owned();
    let text = write(std::slice::from_ref(&disc)).unwrap();
    assert!(text.contains(&format!(",{cell},")), "{text}");
    assert_eq!(discs(&text)[0].spec.notes, notes);
}

#[test]
fn names_are_one_whatever_their_case_or_writing() {
    let rows = "Ärmel,B,C,base,170,9,5,-1,2,,\na\u{308}rmel,B,C,base,170,9,5,-1,2,,\n";
    let reading = read(&format!("{HEAD}\n{rows}"), &[]);
    assert_eq!((reading.things.len(), reading.problems[0].column.as_str()), (1, "name"));
}

#[test]
fn a_file_that_is_no_text_is_told_so_by_its_line() {
    let reading =
        zinc_kite::format::shelf_csv::read_bytes(b"name,maker\nCorb\xc3\xa9l \xe9,Saltmarsh\n", &[]);
    assert!(reading.things.is_empty());
    assert_eq!(reading.problems.len(), 1);
    assert_eq!((reading.problems[0].line, reading.problems[0].got.as_str()), (2, "the byte 0xe9"));
    assert!(reading.problems[0].expected.contains("UTF-8"));
}
