//! The demo scenario: a made-up player with a shelf and a bag that has faults to find.

use zinc_kite_bag::thrower::habits::Habits;
use zinc_kite_bag::thrower::player::{Player, School, Skill, Units};
use zinc_kite_bag::thrower::season::{Season, Windiness};
use zinc_kite_bag::thrower::style::{Hand, Style};
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};

use crate::format::shelf_csv::read;
use crate::format::table::RowProblem;
use crate::store::{BagId, Moves, Store, StoreError};

/// The shelf, in the program's own CSV.
pub const SHELF_CSV: &str = include_str!("../data/demo_shelf.csv");

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
        habits: Habits { mould_strokes: MOULD_STROKES, ..Habits::default() },
        ..Player::default()
    }
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
    store.add_discs(&shelf.things, None, "on the shelf")?;
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
    store.forget_changes()?;
    Ok(())
}
