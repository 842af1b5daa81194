//! A bag: the set of discs chosen to carry.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::spec::{DiscId, DiscSpec};
use crate::error::{BagError, named, within};
use crate::whole::whole;

/// Most discs a bag may be set to hold.
pub const LARGEST_BAG: u32 = 60;

/// What a player decides about a bag.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct BagSpec {
    /// Name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// How many discs it holds, 1 to 60.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 1, maximum = 60)]
    pub capacity: u32,
    /// Greatest mass the event allows, g, if it caps mass.
    #[serde(default)]
    #[schema(minimum = 100.0, maximum = 220.0)]
    pub event_cap_g: Option<f64>,
}

impl BagSpec {
    /// A bag without a cap, as large as there may be: for who looks at all discs at once.
    pub fn of_everything() -> BagSpec {
        BagSpec { name: String::new(), capacity: LARGEST_BAG, event_cap_g: None }
    }

    /// Whether the event lets a disc be thrown.
    pub fn allows(&self, disc: &DiscSpec) -> bool {
        self.event_cap_g.is_none_or(|cap| disc.mass_g <= cap)
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 60)?;
        within("capacity", f64::from(self.capacity), 1.0, f64::from(LARGEST_BAG))?;
        within("event_cap_g", self.event_cap_g.unwrap_or(150.0), 100.0, 220.0)
    }
}

/// A disc in the bag.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
pub struct Carried {
    /// The disc.
    pub disc_id: DiscId,
    /// Carried as a twin on purpose.
    pub spare: bool,
}
