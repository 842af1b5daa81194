//! Hands and ways of throwing.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::release;

use crate::error::BagError;

/// The throwing hand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Hand {
    /// Right.
    Right,
    /// Left.
    Left,
}

/// The way of throwing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Style {
    /// Across the body.
    Backhand,
    /// From the throwing side.
    Forehand,
    /// Overhand, thumb inside the rim.
    Thumber,
    /// Overhand, fingers inside the rim.
    Tomahawk,
    /// At the basket, from a stand or a jump.
    Putt,
}

impl Style {
    /// All styles.
    pub const ALL: [Style; 5] =
        [Style::Backhand, Style::Forehand, Style::Thumber, Style::Tomahawk, Style::Putt];

    /// Those in which a disc can be thrown to roll.
    pub const ROLLING: [Style; 2] = [Style::Backhand, Style::Forehand];

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Style::Backhand => "backhand",
            Style::Forehand => "forehand",
            Style::Thumber => "thumber",
            Style::Tomahawk => "tomahawk",
            Style::Putt => "putt",
        }
    }

    /// Whether the disc leaves above the shoulder and on edge.
    pub fn is_overhand(self) -> bool {
        release::Style::from(self).is_overhand()
    }

    /// Whether the disc leaves about flat and as hard as wanted: what pegs are about.
    pub fn is_drive(self) -> bool {
        matches!(self, Style::Backhand | Style::Forehand)
    }

    /// Least and greatest nose angle that a player can choose in this style, degrees. A nose held low costs nothing but
    /// care; held up it floats, which pays with a wind from behind. Own judgement.
    pub fn noses_deg(self) -> (f64, f64) {
        let usual = release::Style::from(self).usual_nose_deg();
        match self {
            Style::Backhand | Style::Forehand => (usual - 3.0, usual + 8.0),
            Style::Thumber | Style::Tomahawk => (usual - 6.0, usual + 6.0),
            Style::Putt => (usual - 3.0, usual + 9.0),
        }
    }

    /// # Errors
    /// [`BagError::Field`] unless it is a backhand or a forehand.
    pub fn drives(self, field: &'static str) -> Result<(), BagError> {
        if self.is_drive() {
            return Ok(());
        }
        Err(BagError::Field { field, expected: "backhand or forehand".into(), got: self.label().into() })
    }
}

impl From<Hand> for release::Hand {
    fn from(hand: Hand) -> release::Hand {
        match hand {
            Hand::Right => release::Hand::Right,
            Hand::Left => release::Hand::Left,
        }
    }
}

impl From<Style> for release::Style {
    fn from(style: Style) -> release::Style {
        match style {
            Style::Backhand => release::Style::Backhand,
            Style::Forehand => release::Style::Forehand,
            Style::Thumber => release::Style::Thumber,
            Style::Tomahawk => release::Style::Tomahawk,
            Style::Putt => release::Style::Putt,
        }
    }
}
