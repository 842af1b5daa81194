//! What is known of how hard a player throws.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::error::{BagError, within};
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;

/// Something known about how hard a player throws in a style.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Evidence {
    /// Distance of a controlled full throw with an ordinary disc of a slot.
    Distance {
        /// Style it was thrown in.
        style: Style,
        /// Slot of the disc.
        slot: Slot,
        /// Where it came down, m, 15 to 200.
        #[schema(minimum = 15.0, maximum = 200.0)]
        distance_m: f64,
    },
    /// Speed of a driver as it leaves the hand, measured.
    Speed {
        /// Style it was thrown in.
        style: Style,
        /// Release speed, m/s, 5 to 45.
        #[schema(minimum = 5.0, maximum = 45.0)]
        speed_m_s: f64,
    },
}

/// Most pieces of evidence that a player keeps.
pub const MOST_EVIDENCE: usize = 20;

impl Evidence {
    /// Slowest and fastest release that is believed, m/s. From memory, no source.
    pub const LEAST_SPEED_M_S: f64 = 5.0;
    /// See [`Evidence::LEAST_SPEED_M_S`].
    pub const MOST_SPEED_M_S: f64 = 45.0;

    /// Style it is about.
    pub fn style(&self) -> Style {
        match self {
            Evidence::Distance { style, .. } | Evidence::Speed { style, .. } => *style,
        }
    }

    /// # Errors
    /// [`BagError`] for a value outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        if self.style() == Style::Putt {
            return Err(BagError::Field {
                field: "evidence style",
                expected: "backhand, forehand, thumber or tomahawk: a putt says nothing about the arm".into(),
                got: self.style().label().into(),
            });
        }
        match self {
            Evidence::Distance { distance_m, .. } => within("evidence distance_m", *distance_m, 15.0, 200.0),
            Evidence::Speed { speed_m_s, .. } => {
                within("evidence speed_m_s", *speed_m_s, Evidence::LEAST_SPEED_M_S, Evidence::MOST_SPEED_M_S)
            }
        }
    }
}
