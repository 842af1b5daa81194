//! How the disc leaves the hand.

use serde::{Deserialize, Serialize};

use crate::disc::STANDARD_RADIUS_M;
use crate::error::{FlightError, check};

/// The throwing hand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Hand {
    /// Right.
    Right,
    /// Left.
    Left,
}

/// The way of throwing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Style {
    /// Across the body.
    Backhand,
    /// From the throwing side, with less spin for the same speed.
    Forehand,
    /// Overhand with the thumb inside the rim: the spin of a backhand, the disc on edge.
    Thumber,
    /// Overhand with the fingers inside the rim: the spin of a forehand, the disc on edge the other way.
    Tomahawk,
    /// From a stand in front of the basket: the spin of a backhand, little of it.
    Putt,
}

impl Style {
    /// All styles.
    pub const ALL: [Style; 5] =
        [Style::Backhand, Style::Forehand, Style::Thumber, Style::Tomahawk, Style::Putt];

    /// Advance ratio ωR/V at release. Common practice, no source.
    pub fn advance_ratio(self) -> f64 {
        match self {
            Style::Backhand => 0.50,
            Style::Forehand | Style::Putt => 0.42,
            Style::Thumber | Style::Tomahawk => 0.35,
        }
    }

    /// Height of release, m. Common practice, no source.
    pub fn height_m(self) -> f64 {
        match self {
            Style::Backhand => 1.2,
            Style::Forehand => 1.0,
            Style::Thumber | Style::Tomahawk => 1.9,
            Style::Putt => 1.3,
        }
    }

    /// Whether the disc leaves above the shoulder and on edge.
    pub fn is_overhand(self) -> bool {
        matches!(self, Style::Thumber | Style::Tomahawk)
    }

    /// Hyzer about which a style is thrown, degrees: an overhand's disc stands on edge, its top away from the head.
    pub fn usual_hyzer_deg(self) -> f64 {
        if self.is_overhand() { OVERHAND_HYZER_DEG } else { 0.0 }
    }

    /// Launch about which a style is thrown, degrees.
    pub fn usual_launch_deg(self) -> f64 {
        if self.is_overhand() { OVERHAND_LAUNCH_DEG } else { Release::RATED_LAUNCH_DEG }
    }

    /// Nose angle about which a style is thrown, degrees; of a disc on edge, how far its top is turned into the air.
    pub fn usual_nose_deg(self) -> f64 {
        if self.is_overhand() { OVERHAND_NOSE_DEG } else { Release::RATED_NOSE_DEG }
    }
}

/// Common practice, no source.
const OVERHAND_HYZER_DEG: f64 = -62.0;
const OVERHAND_LAUNCH_DEG: f64 = 35.0;
const OVERHAND_NOSE_DEG: f64 = -15.0;

/// Sense of spin σ: +1 clockwise seen from the disc's top (right-hand backhand, putt and thumber, left-hand forehand
/// and tomahawk), −1 the other way.
pub fn spin_sense(hand: Hand, style: Style) -> f64 {
    let right = match style {
        Style::Backhand | Style::Thumber | Style::Putt => 1.0,
        Style::Forehand | Style::Tomahawk => -1.0,
    };
    match hand {
        Hand::Right => right,
        Hand::Left => -right,
    }
}

/// A throw at the moment it leaves the hand. Angles in degrees: this type stands at the boundary.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Release {
    /// Speed of the disc, m/s.
    pub speed_m_s: f64,
    /// Path above the horizon, degrees.
    pub launch_deg: f64,
    /// Disc's pitch relative to its path, degrees, nose-up positive.
    pub nose_deg: f64,
    /// Bank in the thrower's own sense, degrees, outer edge down positive; negative is anhyzer.
    pub hyzer_deg: f64,
    /// Direction of the throw from the x axis, degrees, left positive.
    pub aim_deg: f64,
    /// Spin, rad/s, positive; its sense follows from hand and style.
    pub spin_rad_s: f64,
    /// Height above the ground, m.
    pub height_m: f64,
    /// Throwing hand.
    pub hand: Hand,
    /// Way of throwing.
    pub style: Style,
}

impl Release {
    /// Launch of a rated throw, degrees: the throw for which the numbers on a disc are calibrated.
    pub const RATED_LAUNCH_DEG: f64 = 11.0;
    /// Nose angle of a rated throw, degrees.
    pub const RATED_NOSE_DEG: f64 = -3.0;

    /// A throw as its style is usually made: flat at the rated launch and nose, an overhand on edge and high; with the
    /// style's own spin and height.
    pub fn rated(speed_m_s: f64, hand: Hand, style: Style) -> Release {
        Release {
            speed_m_s,
            launch_deg: style.usual_launch_deg(),
            nose_deg: style.usual_nose_deg(),
            hyzer_deg: style.usual_hyzer_deg(),
            aim_deg: 0.0,
            spin_rad_s: style.advance_ratio() * speed_m_s / STANDARD_RADIUS_M,
            height_m: style.height_m(),
            hand,
            style,
        }
    }

    /// The same throw at another speed; spin keeps its ratio to speed.
    pub fn at_speed(self, speed_m_s: f64) -> Release {
        Release { speed_m_s, spin_rad_s: self.spin_rad_s * speed_m_s / self.speed_m_s, ..self }
    }

    /// # Errors
    /// [`FlightError::OutOfRange`] for the first value outside its range.
    pub fn validate(&self) -> Result<(), FlightError> {
        check("speed_m_s", self.speed_m_s, 1.0, 60.0)?;
        check("launch_deg", self.launch_deg, -60.0, 85.0)?;
        check("nose_deg", self.nose_deg, -60.0, 60.0)?;
        check("hyzer_deg", self.hyzer_deg, -180.0, 180.0)?;
        check("aim_deg", self.aim_deg, -180.0, 180.0)?;
        check("spin_rad_s", self.spin_rad_s, 1.0, 600.0)?;
        check("height_m", self.height_m, 0.01, 60.0)
    }
}
