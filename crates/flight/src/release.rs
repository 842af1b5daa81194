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
}

impl Style {
    /// Advance ratio ωR/V at release. Common practice, no source.
    pub fn advance_ratio(self) -> f64 {
        match self {
            Style::Backhand => 0.50,
            Style::Forehand => 0.42,
        }
    }

    /// Height of release, m. Common practice, no source.
    pub fn height_m(self) -> f64 {
        match self {
            Style::Backhand => 1.2,
            Style::Forehand => 1.0,
        }
    }
}

/// Sense of spin σ: +1 clockwise seen from above (right-hand backhand, left-hand forehand), −1 the other way.
pub fn spin_sense(hand: Hand, style: Style) -> f64 {
    match (hand, style) {
        (Hand::Right, Style::Backhand) | (Hand::Left, Style::Forehand) => 1.0,
        (Hand::Right, Style::Forehand) | (Hand::Left, Style::Backhand) => -1.0,
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

    /// A flat throw at the rated launch and nose, with the style's own spin and height.
    pub fn rated(speed_m_s: f64, hand: Hand, style: Style) -> Release {
        Release {
            speed_m_s,
            launch_deg: Self::RATED_LAUNCH_DEG,
            nose_deg: Self::RATED_NOSE_DEG,
            hyzer_deg: 0.0,
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
