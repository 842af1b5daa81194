//! The demo scenario: a made-up player with a shelf and a bag that has faults to find.

mod field;

use jiff::ToSpan;
use jiff::civil::Date;
use zinc_kite_bag::course::hole::CourseSpec;
use zinc_kite_bag::disc::mark::Mark;
use zinc_kite_bag::disc::spec::{Disc, DiscSpec};
use zinc_kite_bag::disc::wear::{Grade, Wear};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::thrower::calendar::{Calendar, Month, Terrain};
use zinc_kite_bag::thrower::habits::Habits;
use zinc_kite_bag::thrower::player::{Player, School, Skill, Units};
use zinc_kite_bag::thrower::season::{Season, Windiness};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};

use crate::format::shelf_csv::read;
use crate::format::table::RowProblem;
use crate::store::rounds::Round;
use crate::store::{BagId, Moves, Store, StoreError};

/// The shelf, in the program's own CSV.
pub const SHELF_CSV: &str = include_str!("../data/demo_shelf.csv");

/// The course, nine holes on a windy upland by a reservoir.
const COURSE: &str = include_str!("../data/demo_course.json");

/// A round played on it, told hole by hole against the card of the windy day.
const ROUND: &str = include_str!("../data/demo_round.json");
/// How long ago, days.
const PLAYED_AGO: i64 = 9;

/// Names of the carried discs, one a line.
const CARRIED: &str = include_str!("../data/demo_bag.txt");

/// Weight cap of the demo's next event, g.
const EVENT_CAP_G: f64 = 176.0;

/// What she lets a further mould cost in a round, strokes: she would rather know few.
const MOULD_STROKES: f64 = 0.01;

/// Why the demo could not be set up.
#[derive(Debug, thiserror::Error)]
pub enum DemoError {
    /// The database failed.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// The shipped shelf has a bad row.
    #[error("the demo's own shelf is broken: {0:?}")]
    Shelf(Vec<RowProblem>),
    /// The shipped course is none.
    #[error("the demo's own course is broken: {0}")]
    Course(String),
    /// Throws of the scenario cannot be flown.
    #[error("the demo's throws cannot be flown: {0}")]
    Throws(BagError),
    /// The shipped round is none.
    #[error("the demo's own round is broken: {0}")]
    Round(String),
}

/// The demo's player.
pub fn player() -> Player {
    Player {
        name: "Ilse Marrow".into(),
        hand: Hand::Right,
        strong_style: Style::Backhand,
        backhand_m: 104.0,
        forehand_m: 82.0,
        skill: Skill::Advanced,
        units: Units::Metric,
        school: School::Five,
        altitude_m: 310.0,
        temperature_c: 12.0,
        season: Season { windiness: Windiness::Open, ..Season::default() },
        habits: Habits {
            mould_strokes: MOULD_STROKES,
            rollers: true,
            calendar: calendar(),
            ..Habits::default()
        },
        ..Player::default()
    }
}

/// She plays three times a week in summer, once in winter.
fn calendar() -> Calendar {
    let play = |rounds_a_week, practice_throws_a_week, practice_putts_a_week| Month {
        rounds_a_week,
        practice_throws_a_week,
        practice_putts_a_week,
        ground: Terrain::Mixed,
    };
    let (winter, spring, summer) = (play(1.0, 60.0, 200.0), play(2.0, 120.0, 200.0), play(3.0, 180.0, 250.0));
    Calendar {
        months: vec![
            winter, winter, spring, spring, summer, summer, summer, summer, summer, spring, winter, winter,
        ],
    }
}

/// How long ago, in days, she moved the condition of some discs to what it then became.
const MOVED: [(&str, &[(i64, Grade)]); 4] = [
    ("Lintel seasoned", &[(1150, Grade::Fresh), (700, Grade::BrokenIn), (260, Grade::Seasoned)]),
    ("Newel", &[(620, Grade::Fresh), (210, Grade::BrokenIn)]),
    ("Lintel", &[(800, Grade::Fresh), (330, Grade::BrokenIn)]),
    ("Purlin seasoned", &[(1500, Grade::Fresh), (420, Grade::Seasoned)]),
];

/// A disc with the marks of those days.
fn moved(disc: &DiscSpec, today: Date) -> DiscSpec {
    let mut disc = disc.clone();
    let known = MOVED.iter().filter(|(name, _)| *name == disc.name).flat_map(|(_, moves)| *moves);
    let mark = |(ago, grade): &(i64, Grade)| Mark {
        on: today.saturating_sub(ago.days()),
        wear: Wear { grade: *grade, ..Wear::FRESH },
        observed: None,
        observed_worn: Grade::Fresh,
    };
    disc.keeping.marks.extend(known.map(mark));
    disc
}

/// The demo's course.
///
/// # Errors
/// [`DemoError::Course`] if the shipped file is none.
pub fn course() -> Result<CourseSpec, DemoError> {
    serde_json::from_str(COURSE).map_err(|e| DemoError::Course(e.to_string()))
}

/// The demo's round, of discs as they are on a shelf.
fn round(today: Date, shelf: &[Disc]) -> Result<Round, DemoError> {
    let mut round: Round = serde_json::from_str(ROUND).map_err(|e| DemoError::Round(e.to_string()))?;
    round.spec.date = today.saturating_sub(PLAYED_AGO.days());
    let named = |name: &str| shelf.iter().find(|d| d.spec.name == name).map(|d| d.id);
    round.spec.name_discs(|_, name| (named(name), name.to_owned()));
    round.spec.validate().map_err(|e| DemoError::Round(e.to_string()))?;
    Ok(round)
}

/// Fills an empty database with the scenario.
///
/// # Errors
/// [`DemoError`] if the database fails.
pub fn fill(store: &mut Store) -> Result<(), DemoError> {
    let shelf = read(SHELF_CSV, &[]);
    if !shelf.problems.is_empty() {
        return Err(DemoError::Shelf(shelf.problems));
    }
    store.save_player(&player())?;
    let today = store.today()?;
    let discs: Vec<DiscSpec> = shelf.things.iter().map(|disc| moved(disc, today)).collect();
    store.add_discs(&discs, None, "on the shelf")?;
    let bag = BagId(1);
    store.save_bag(
        bag,
        &BagSpec { name: "Harrier Moor".into(), capacity: 22, event_cap_g: Some(EVENT_CAP_G) },
    )?;
    let names: Vec<&str> = CARRIED.lines().map(str::trim).filter(|l| !l.is_empty()).collect();
    let carry = store
        .discs()?
        .iter()
        .filter(|d| names.contains(&d.spec.name.as_str()))
        .map(|d| Carried { disc_id: d.id, spare: false })
        .collect();
    store.move_discs(bag, &Moves { carry, bench: vec![] })?;
    store.add_course(&course()?)?;
    let round = round(today, &store.discs()?)?;
    store.begin_round(&round)?;
    field::fill(store, &player(), today)?;
    store.forget_changes()?;
    Ok(())
}
