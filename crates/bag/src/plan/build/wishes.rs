//! What a player wishes of a bag that is put together for them.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::error::{BagError, named, within};
use crate::thrower::player::School;
use crate::thrower::slot::Slot;
use crate::verdict::carried::LARGEST_BAG;
use crate::whole::{whole, whole_if_any};

/// How many discs of a slot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct SlotWish {
    /// The lane: discs of a slot without a lane of its own count in the one they lie in.
    pub slot: Slot,
    /// At least so many.
    #[serde(default, deserialize_with = "whole_if_any")]
    #[schema(minimum = 0, maximum = 60)]
    pub least: Option<u32>,
    /// At most so many.
    #[serde(default, deserialize_with = "whole_if_any")]
    #[schema(minimum = 0, maximum = 60)]
    pub most: Option<u32>,
}

/// New discs that may be bought: one of every mould of the player's library that is readily available.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Buying {
    /// What may be spent on all of them, in the player's own money, 0 to 100,000.
    #[schema(minimum = 0.0, maximum = 100000.0)]
    pub budget: f64,
    /// What one costs of which the shelf does not tell, 0 to 10,000.
    #[schema(minimum = 0.0, maximum = 10000.0)]
    pub usual_price: f64,
}

/// Wishes. What is not said is not wished; the taste for few moulds is the player's own unless it is said.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Wishes {
    /// How many discs it holds, 1 to 60.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 1, maximum = 60)]
    pub capacity: u32,
    /// Heaviest disc that the event allows, g, 100 to 220.
    #[serde(default)]
    #[schema(minimum = 100.0, maximum = 220.0)]
    pub event_cap_g: Option<f64>,
    /// Most that all discs may weigh together, g, 100 to 20,000.
    #[serde(default)]
    #[schema(minimum = 100.0, maximum = 20000.0)]
    pub mass_cap_g: Option<f64>,
    /// Discs that are in it whatever they save.
    #[serde(default)]
    #[schema(max_items = 60)]
    pub within: Vec<DiscId>,
    /// Discs that stay at home.
    #[serde(default)]
    #[schema(max_items = 2000)]
    pub without: Vec<DiscId>,
    /// Discs by slot.
    #[serde(default)]
    #[schema(max_items = 6)]
    pub slots: Vec<SlotWish>,
    /// Two putting putters that cannot be told apart.
    #[serde(default)]
    pub putting_pair: bool,
    /// Discs that come only with another that flies alike: for risky lines and water.
    #[serde(default)]
    #[schema(max_items = 60)]
    pub spared: Vec<DiscId>,
    /// Only discs of these makers; all if none is named.
    #[serde(default)]
    #[schema(max_items = 60)]
    pub makers: Vec<String>,
    /// All discs of one maker, whichever is best.
    #[serde(default)]
    pub one_maker: bool,
    /// What every mould beyond the first must save, strokes a round, 0 to 1; the player's own taste if absent.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 1.0)]
    pub mould_strokes: Option<f64>,
    /// What every disc must save to be carried, strokes a round, 0 to 1.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 1.0)]
    pub disc_strokes: f64,
    /// Nothing that the hand does not like, as far as it is measured.
    #[serde(default)]
    pub hand_feel: bool,
    /// Every peg filled that the school wants and some disc can fill.
    #[serde(default)]
    pub pegs: bool,
    /// The school by which pegs are wanted and discs refused; the player's own if absent.
    #[serde(default)]
    pub school: Option<School>,
    /// New discs, if some may be bought.
    #[serde(default)]
    pub buying: Option<Buying>,
}

impl Wishes {
    /// A bag of so many discs, and nothing else.
    pub fn of_size(capacity: u32) -> Wishes {
        Wishes {
            capacity,
            event_cap_g: None,
            mass_cap_g: None,
            within: vec![],
            without: vec![],
            slots: vec![],
            putting_pair: false,
            spared: vec![],
            makers: vec![],
            one_maker: false,
            mould_strokes: None,
            disc_strokes: 0.0,
            hand_feel: false,
            pegs: false,
            school: None,
            buying: None,
        }
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("capacity", f64::from(self.capacity), 1.0, f64::from(LARGEST_BAG))?;
        within("event_cap_g", self.event_cap_g.unwrap_or(150.0), 100.0, 220.0)?;
        within("mass_cap_g", self.mass_cap_g.unwrap_or(100.0), 100.0, 20_000.0)?;
        within("mould_strokes", self.mould_strokes.unwrap_or(0.0), 0.0, 1.0)?;
        within("disc_strokes", self.disc_strokes, 0.0, 1.0)?;
        let lists = [("within", self.within.len(), 60), ("without", self.without.len(), 2000)];
        let more = [("spared", self.spared.len(), 60), ("makers", self.makers.len(), 60)];
        lists
            .into_iter()
            .chain(more)
            .try_for_each(|(field, has, most)| within(field, has as f64, 0.0, f64::from(most)))?;
        self.makers.iter().try_for_each(|maker| named("makers", maker, 60))?;
        for (k, wish) in self.slots.iter().enumerate() {
            let SlotWish { slot, least, most } = *wish;
            within("least", f64::from(least.unwrap_or(0)), 0.0, f64::from(LARGEST_BAG))?;
            within("most", f64::from(most.unwrap_or(0)), 0.0, f64::from(LARGEST_BAG))?;
            let refuse = |expected: &str, got: String| {
                Err(BagError::Field { field: "slots", expected: expected.into(), got })
            };
            if self.slots[..k].iter().any(|other| other.slot == slot) {
                return refuse("each slot once", format!("{} twice", slot.label()));
            }
            if let (Some(least), Some(most)) = (least, most)
                && least > most
            {
                return refuse(
                    "no more at least than at most",
                    format!("{least} to {most} of {}", slot.label()),
                );
            }
        }
        if let Some(id) = self.within.iter().find(|id| self.without.contains(id)) {
            return Err(BagError::Field {
                field: "within",
                expected: "discs that do not stay at home too".into(),
                got: format!("disc {} in both", id.0),
            });
        }
        if let Some(buying) = self.buying {
            within("budget", buying.budget, 0.0, 100_000.0)?;
            within("usual_price", buying.usual_price, 0.0, 10_000.0)?;
        }
        Ok(())
    }
}
