//! The year ahead as it would be: with a disc lost, a fresh one bought, more or less play.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::disc::keeping::{Keeping, Status};
use crate::disc::mould::{Mould, MouldId};
use crate::disc::spec::{Disc, DiscId, DiscSpec};
use crate::disc::wear::Wear;
use crate::error::{BagError, within};
use crate::plan::build::{Stock, fresh_of};
use crate::thrower::day::Conditions;
use crate::thrower::habits::Habits;
use crate::thrower::player::Player;
use crate::verdict::aging::{Outlook, outlook};
use crate::verdict::carried::{BagSpec, Carried};
use crate::verdict::standing::Question;
use crate::verdict::work::Work;

/// What is supposed; nothing by itself.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Suppose {
    /// Discs that are lost today.
    #[serde(default)]
    #[schema(max_items = 60)]
    pub lost: Vec<DiscId>,
    /// Moulds of which a fresh copy is bought today and worn in from then on.
    #[serde(default)]
    #[schema(max_items = 20)]
    pub bought: Vec<MouldId>,
    /// So many times as much play as the calendar says, 0 to 5.
    #[serde(default = "as_it_is")]
    #[schema(minimum = 0.0, maximum = 5.0)]
    pub play: f64,
}

fn as_it_is() -> f64 {
    1.0
}

impl Default for Suppose {
    fn default() -> Self {
        Suppose { lost: vec![], bought: vec![], play: 1.0 }
    }
}

const MOST_LOST: usize = 60;
const MOST_BOUGHT: usize = 20;

impl Suppose {
    /// # Errors
    /// [`BagError`] for the first value outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("lost", self.lost.len() as f64, 0.0, MOST_LOST as f64)?;
        within("bought", self.bought.len() as f64, 0.0, MOST_BOUGHT as f64)?;
        within("play", self.play, 0.0, 5.0)
    }

    /// The player who plays so much.
    fn player(&self, player: &Player) -> Player {
        let calendar = player.habits.calendar.times(self.play);
        Player { habits: Habits { calendar, ..player.habits.clone() }, ..player.clone() }
    }

    /// The shelf without what is lost and with what is bought.
    fn shelf(&self, shelf: &[Disc], moulds: &[Mould]) -> Result<Vec<Disc>, BagError> {
        let unknown = |field, expected: &str, got: i64| BagError::Field {
            field,
            expected: expected.into(),
            got: format!("number {got}"),
        };
        if let Some(id) = self.lost.iter().find(|id| shelf.iter().all(|d| d.id != **id)) {
            return Err(unknown("lost", "discs of the shelf", id.0));
        }
        let mut all = shelf.to_vec();
        for disc in all.iter_mut().filter(|d| self.lost.contains(&d.id)) {
            disc.spec.keeping.status = Status::Lost;
        }
        for (k, id) in self.bought.iter().enumerate() {
            let mould = moulds.iter().find(|m| m.id == *id);
            let mould = mould.ok_or_else(|| unknown("bought", "moulds of the library", id.0))?;
            let spec = bought(mould, shelf);
            let again = self.bought[..k].iter().filter(|other| *other == id).count();
            let name = if again == 0 { spec.name.clone() } else { format!("{} {}", spec.name, again + 1) };
            all.push(Disc { id: DiscId(-1 - k as i64), spec: DiscSpec { name, ..spec } });
        }
        Ok(all)
    }
}

/// A fresh copy of a mould that is worn in: of the plastic and mass of the copy that is owned, if there is one.
fn bought(mould: &Mould, shelf: &[Disc]) -> DiscSpec {
    let fresh = fresh_of(mould);
    let owned = shelf.iter().filter(|d| mould.spec.is_of(&d.spec));
    let like = owned.min_by(|a, b| a.spec.wear_share().total_cmp(&b.spec.wear_share()));
    let keeping = Keeping { status: Status::Seasoning, ..Keeping::default() };
    match like {
        None => DiscSpec { keeping, ..fresh },
        Some(like) => {
            DiscSpec { name: fresh.name, wear: Wear::FRESH, observed: None, keeping, ..like.spec.clone() }
        }
    }
}

/// The year ahead of a bag under what is supposed.
///
/// # Errors
/// [`BagError`] for a value outside its range, a disc or mould that is not there, or [`BagError::Stopped`] after `work` was stopped.
pub fn year_ahead(
    stock: &Stock,
    (bag, carried): (&BagSpec, &[Carried]),
    today: Date,
    suppose: &Suppose,
    memo: &Memo,
    work: &Work,
) -> Result<Outlook, BagError> {
    suppose.validate()?;
    stock.player.validate()?;
    stock.lines.iter().try_for_each(|line| line.spec.validate())?;
    let player = suppose.player(stock.player);
    let shelf = suppose.shelf(stock.shelf, stock.moulds)?;
    let conditions = Conditions::default();
    let q = Question {
        player: &player,
        conditions,
        shelf: &shelf,
        bag,
        carried,
        lines: stock.lines,
        today: Some(today),
    };
    outlook(&q, stock.moulds, today, memo, work)
}
