//! What cannot be used is refused by name, with what was expected and what came; what lies at the edge is used.

use crate::scene::{disc, lines_of, player, spec};
use rstest::rstest;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::need::line::{Line, LineSpec};
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::evidence::{Evidence, MOST_EVIDENCE};
use zinc_kite_bag::thrower::player::{OwnScatter, Player, Scatter, Skill};
use zinc_kite_bag::thrower::slot::Slot;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_bag::verdict::analysis::analyse;
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::opened::{chance_sheet, line_sheet};
use zinc_kite_bag::verdict::season::judge_season;
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::work::Work;

/// A number of some thing, its name in messages, and the least and greatest it may be.
struct Range<T> {
    field: &'static str,
    set: fn(&mut T, f64),
    least: f64,
    greatest: f64,
}

fn range<T>(field: &'static str, set: fn(&mut T, f64), least: f64, greatest: f64) -> Range<T> {
    Range { field, set, least, greatest }
}

/// Neither a hair outside, nor what is no number, nor what is no end; both ends and the middle.
fn held_to<T: Clone>(usual: &T, range: &Range<T>, validate: fn(&T) -> Result<(), BagError>) {
    let with = |x: f64| {
        let mut changed = usual.clone();
        (range.set)(&mut changed, x);
        validate(&changed)
    };
    let Range { field, least, greatest, .. } = *range;
    for fine in [least, greatest, 0.5 * (least + greatest)] {
        assert_eq!(with(fine), Ok(()), "{field} {fine}");
    }
    let hair = 1e-6 * (greatest - least).max(1.0);
    for bad in [least - hair, greatest + hair, f64::NAN, f64::INFINITY, f64::NEG_INFINITY, -1e300, 1e300] {
        let error = with(bad).unwrap_err();
        assert_eq!(error.field(), field, "{bad}: {error}");
        let told = error.to_string();
        let range = format!("from {least} to {greatest}");
        assert!(told.contains(&range) && told.contains("got ") && told.contains("correct it"), "{told}");
    }
}

#[test]
fn prop_a_player_is_held_to_its_ranges() {
    let ranges: [Range<Player>; 6] = [
        range("backhand_m", |p, x| p.backhand_m = x, 20.0, 200.0),
        range("forehand_m", |p, x| p.forehand_m = x, 20.0, 200.0),
        range("overhand_m", |p, x| p.overhand_m = Some(x), 20.0, 150.0),
        range("altitude_m", |p, x| p.altitude_m = x, -400.0, 5000.0),
        range("temperature_c", |p, x| p.temperature_c = x, -30.0, 45.0),
        range("wet_share", |p, x| p.season.wet_share = x, 0.0, 0.9),
    ];
    ranges.iter().for_each(|range| held_to(&Player::default(), range, Player::validate));
}

fn with_scatter(p: &mut Player, change: fn(&mut Scatter, f64), x: f64) {
    let mut scatter = p.skill.scatter(Style::Forehand);
    change(&mut scatter, x);
    p.scatter = vec![OwnScatter { style: Style::Forehand, scatter }];
}

#[test]
fn prop_a_players_own_scatter_and_evidence_are_held_to_their_ranges() {
    let ranges: [Range<Player>; 7] = [
        range("scatter speed_pct", |p, x| with_scatter(p, |s, x| s.speed_pct = x, x), 0.2, 20.0),
        range("scatter hyzer_deg", |p, x| with_scatter(p, |s, x| s.hyzer_deg = x, x), 0.2, 20.0),
        range("scatter launch_deg", |p, x| with_scatter(p, |s, x| s.launch_deg = x, x), 0.2, 15.0),
        range("scatter nose_deg", |p, x| with_scatter(p, |s, x| s.nose_deg = x, x), 0.2, 15.0),
        range("scatter aim_deg", |p, x| with_scatter(p, |s, x| s.aim_deg = x, x), 0.2, 15.0),
        range(
            "evidence distance_m",
            |p, x| {
                let told = Evidence::Distance { style: Style::Backhand, slot: Slot::Fairway, distance_m: x };
                p.evidence = vec![told];
            },
            15.0,
            200.0,
        ),
        range(
            "evidence speed_m_s",
            |p, x| p.evidence = vec![Evidence::Speed { style: Style::Backhand, speed_m_s: x }],
            5.0,
            45.0,
        ),
    ];
    ranges.iter().for_each(|range| held_to(&Player::default(), range, Player::validate));
}

#[test]
fn prop_a_day_is_held_to_its_ranges() {
    let ranges: [Range<Conditions>; 7] = [
        range("wind_m_s", |c, x| c.wind_m_s = x, 0.0, 40.0),
        range("wind_from_deg", |c, x| c.wind_from_deg = x, -360.0, 360.0),
        range("gust_m_s", |c, x| c.gust_m_s = x, 0.0, 8.0),
        range("power", |c, x| c.power = x, 0.5, 1.1),
        range("temperature_c", |c, x| c.temperature_c = Some(x), -30.0, 45.0),
        range("altitude_m", |c, x| c.altitude_m = Some(x), -400.0, 5000.0),
        range("humidity", |c, x| c.humidity = x, 0.0, 1.0),
    ];
    ranges.iter().for_each(|range| held_to(&Conditions::default(), range, Conditions::validate));
}

#[test]
fn prop_a_disc_is_held_to_its_ranges() {
    let ranges: [Range<DiscSpec>; 8] = [
        range("mass_g", |s, x| s.mass_g = x, 60.0, 220.0),
        range("reference_mass_g", |s, x| s.reference_mass_g = x, 100.0, 200.0),
        range("rim_cm", |s, x| s.rim_cm = Some(x), 0.5, 3.0),
        range("speed", |s, x| s.printed.speed = x, 0.5, 15.0),
        range("glide", |s, x| s.printed.glide = x, 0.0, 8.0),
        range("turn", |s, x| s.printed.turn = x, -8.0, 3.0),
        range("fade", |s, x| s.printed.fade = x, -1.0, 7.0),
        range("turn", |s, x| s.observed = Some(Numbers { turn: x, ..s.printed }), -8.0, 3.0),
    ];
    let usual = spec(5.0, 4.0, -1.0, 1.0);
    ranges.iter().for_each(|range| held_to(&usual, range, DiscSpec::validate));
}

#[test]
fn prop_a_line_is_held_to_its_ranges() {
    let ranges: [Range<LineSpec>; 13] = [
        range("distance_m", |l, x| l.distance_m = x, 10.0, 200.0),
        range("zone_length_m", |l, x| l.zone_length_m = x, 2.0, 80.0),
        range("zone_width_m", |l, x| l.zone_width_m = x, 2.0, 80.0),
        range("ceiling_m", |l, x| l.ceiling_m = Some(x), 1.5, 60.0),
        range("lee", |l, x| l.lee = x, 0.0, 0.95),
        range("along_m_s", |l, x| l.along_m_s = x, -15.0, 15.0),
        range("left_m_s", |l, x| l.left_m_s = x, -15.0, 15.0),
        range("hyzer_max_deg", |l, x| l.hyzer_max_deg = x, -10.0, 120.0),
        range("launch_max_deg", |l, x| l.launch_max_deg = x, 4.0, 70.0),
        range("nose_max_deg", |l, x| l.nose_max_deg = Some(x), -6.0, 5.0),
        range("fastest_speed", |l, x| l.fastest_speed = Some(x), 1.0, 15.0),
        range("weight", |l, x| l.weight = x, 0.1, 10.0),
        range("miss_strokes", |l, x| l.miss_strokes = Some(x), 0.0, 3.0),
    ];
    let usual = LineSpec { name: "Mine".into(), ..LineSpec::usual(Style::Backhand) };
    ranges.iter().for_each(|range| held_to(&usual, range, LineSpec::validate));
}

#[rstest]
#[case("name", |s: &mut DiscSpec| s.name = "\t ".into(), "an empty text")]
#[case("name", |s: &mut DiscSpec| s.name = "x".repeat(61), "61 characters")]
#[case("maker", |s: &mut DiscSpec| s.maker = String::new(), "an empty text")]
#[case("mould", |s: &mut DiscSpec| s.mould = "é".repeat(61), "61 characters")]
#[case("colour", |s: &mut DiscSpec| s.colour = "#12".into(), "#12")]
#[case("colour", |s: &mut DiscSpec| s.colour = "javascript:alert(1)".into(), "javascript")]
#[case("colour", |s: &mut DiscSpec| s.colour = "#12345g".into(), "#12345g")]
fn prop_a_text_that_will_not_do_is_named(
    #[case] field: &str,
    #[case] spoil: fn(&mut DiscSpec),
    #[case] told: &str,
) {
    let mut s = spec(5.0, 4.0, -1.0, 1.0);
    spoil(&mut s);
    let error = s.validate().unwrap_err();
    assert_eq!(error.field(), field);
    assert!(error.to_string().contains(told), "{error}");
    // Names count in letters as a reader does, not in bytes.
    let exotic = DiscSpec { name: "Ж".repeat(60), ..spec(5.0, 4.0, -1.0, 1.0) };
    assert_eq!(exotic.validate(), Ok(()));
}

#[rstest]
#[case("strong_style", |p: &mut Player| p.strong_style = Style::Putt)]
#[case("strong_style", |p: &mut Player| p.strong_style = Style::Thumber)]
#[case("scatter", |p: &mut Player| {
    let own = OwnScatter { style: Style::Putt, scatter: p.skill.scatter(Style::Putt) };
    p.scatter = vec![own, own];
})]
#[case("pieces of evidence", |p: &mut Player| {
    p.evidence = vec![Evidence::Speed { style: Style::Backhand, speed_m_s: 20.0 }; MOST_EVIDENCE + 1];
})]
#[case("evidence style", |p: &mut Player| {
    p.evidence = vec![Evidence::Speed { style: Style::Putt, speed_m_s: 9.0 }];
})]
#[case("name", |p: &mut Player| p.name = "\n".into())]
fn prop_a_player_that_contradicts_itself_is_named(#[case] field: &str, #[case] spoil: fn(&mut Player)) {
    let mut p = Player::default();
    spoil(&mut p);
    assert_eq!(p.validate().unwrap_err().field(), field);
}

/// Every way in refuses what one of its parts refuses, before any work is done, and the rest of the state stays as it was.
#[test]
fn prop_no_judgement_is_made_of_what_cannot_be_used() {
    let good = player(104.0, Skill::Advanced);
    let lines = lines_of(&good);
    let shelf = vec![disc(1, spec(5.0, 4.0, -1.0, 1.0)), disc(2, spec(9.0, 5.0, -1.0, 2.0))];
    let bag = BagSpec { name: "Mine".into(), capacity: 9, event_cap_g: None };
    let carried = [1, 2].map(|k| Carried { disc_id: DiscId(k), spare: false });
    let fine = Conditions::default();
    let bad_player = Player { backhand_m: f64::NAN, ..good.clone() };
    let mut bad_shelf = shelf.clone();
    bad_shelf[1].spec.mass_g = 5.0;
    let bad_day = Conditions { wind_m_s: -3.0, ..fine };
    let ask = |player: &Player, day: &Conditions, shelf: &[Disc]| -> [Option<String>; 2] {
        let question = Question {
            player,
            conditions: *day,
            bag: &bag,
            lines: &lines,
            shelf,
            carried: &carried,
            today: None,
        };
        let (memo, work) = (Memo::default(), Work::default());
        let field = |e: BagError| e.field().to_owned();
        [
            analyse(&question, &memo, &work).map(drop).err().map(field),
            judge_season(&question, &memo, &work).map(drop).err().map(field),
        ]
    };
    assert_eq!(ask(&good, &fine, &shelf), [None, None]);
    let named = |field: &str| Some(field.to_owned());
    assert_eq!(ask(&bad_player, &fine, &shelf), [named("backhand_m"), named("backhand_m")]);
    assert_eq!(ask(&good, &fine, &bad_shelf), [named("mass_g"), named("mass_g")]);
    assert_eq!(ask(&good, &bad_day, &shelf)[0], named("wind_m_s"), "a season has weathers of its own");
    assert_eq!(ask(&good, &fine, &shelf), [None, None], "nothing of it was kept");
}

#[test]
fn prop_nothing_is_opened_that_cannot_be_used() {
    let (me, memo, fine) = (player(104.0, Skill::Advanced), Memo::default(), Conditions::default());
    let line = lines_of(&me).into_iter().find(|l| l.key == "fairway-rail").unwrap();
    let (good, bad) = (
        disc(1, spec(9.0, 5.0, -1.0, 2.0)),
        disc(2, DiscSpec { mass_g: 999.0, ..spec(9.0, 5.0, -1.0, 2.0) }),
    );
    let narrow = Line { spec: LineSpec { zone_width_m: 0.1, ..line.spec.clone() }, ..line.clone() };
    let storm = Conditions { wind_m_s: 99.0, ..fine };
    let field = |e: BagError| e.field().to_owned();
    let sheet =
        |day: &Conditions, d: &Disc, l: &Line| chance_sheet(&me, day, d, l, &memo).map(drop).map_err(field);
    assert_eq!(sheet(&fine, &good, &line), Ok(()));
    assert_eq!(sheet(&storm, &good, &line), Err("wind_m_s".into()));
    assert_eq!(sheet(&fine, &bad, &line), Err("mass_g".into()));
    assert_eq!(sheet(&fine, &good, &narrow), Err("zone_width_m".into()));
    let all = |day: &Conditions, discs: &[&Disc], l: &Line| {
        line_sheet(&me, day, discs, None, l, &memo).map(|s| s.discs.len()).map_err(field)
    };
    assert_eq!(all(&fine, &[&good], &line), Ok(1));
    assert_eq!(all(&fine, &[], &line), Ok(0), "no disc, and yet a line to look at");
    assert_eq!(all(&storm, &[&good], &line), Err("wind_m_s".into()));
    assert_eq!(all(&fine, &[&good, &bad], &line), Err("mass_g".into()));
    assert_eq!(all(&fine, &[&good], &narrow), Err("zone_width_m".into()));
}

/// The slowest, fastest, surest and wildest players that are let in, in the thinnest and thickest air, are judged without a
/// number that is none.
#[rstest]
fn prop_players_at_the_edge_are_judged(
    #[values(20.0, 200.0)] metres: f64,
    #[values(0.2, 15.0)] scatter: f64,
    #[values((-400.0, -30.0), (5000.0, 45.0))] air: (f64, f64),
) {
    let own = Scatter {
        speed_pct: scatter,
        hyzer_deg: scatter,
        launch_deg: scatter,
        nose_deg: scatter,
        aim_deg: scatter,
    };
    let p = Player {
        backhand_m: metres,
        forehand_m: metres,
        scatter: vec![OwnScatter { style: Style::Backhand, scatter: own }],
        altitude_m: air.0,
        temperature_c: air.1,
        ..Player::default()
    };
    assert_eq!(p.validate(), Ok(()));
    let arm = Arm::of(&p, &Conditions { wind_m_s: 40.0, gust_m_s: 8.0, ..Conditions::default() }).unwrap();
    let t = zinc_kite_bag::disc::thrown::thrown(&disc(1, spec(9.0, 5.0, -1.0, 2.0))).unwrap();
    for line in lines_of(&p).iter().step_by(5) {
        assert_eq!(line.spec.validate(), Ok(()), "{}", line.key);
        let found = zinc_kite_bag::chance::search::chance(&arm, t, &line.spec, &Memo::default());
        assert!((0.0..=1.0).contains(&found.chance), "{}: {found:?}", line.key);
        if let Some(c) = found.chosen {
            let all = [c.power, c.speed_m_s, c.hyzer_deg, c.launch_deg, c.nose_deg, c.aim_deg];
            assert!(all.iter().all(|x| x.is_finite()), "{}: {c:?}", line.key);
        }
    }
}
