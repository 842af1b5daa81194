//! The thrower: hand, distances, scatter, school.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::air::{Air, Wind, density_kg_m3};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::release::{self, Release};
use zinc_kite_flight::scatter::Spread;

use crate::error::{BagError, named, within};
use crate::slot::class_effort;

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
}

impl Style {
    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            Style::Backhand => "backhand",
            Style::Forehand => "forehand",
        }
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
        }
    }
}

/// How repeatable the player's release is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Skill {
    /// First seasons.
    Beginner,
    /// Plays every week.
    Club,
    /// Wins club events.
    Advanced,
    /// Competes at the top.
    Top,
}

impl Skill {
    /// Standard deviations of the release at three quarters of full power, backhand. Own judgement.
    pub fn spread(self) -> Spread {
        let spread = |speed, hyzer_deg, launch_deg, nose_deg, aim_deg| Spread {
            speed,
            hyzer_deg,
            launch_deg,
            nose_deg,
            aim_deg,
        };
        match self {
            Skill::Beginner => spread(0.06, 6.0, 3.5, 4.0, 4.0),
            Skill::Club => spread(0.04, 4.0, 2.2, 2.5, 2.5),
            Skill::Advanced => spread(0.03, 3.0, 1.5, 1.8, 1.6),
            Skill::Top => spread(0.018, 2.0, 1.0, 1.1, 1.0),
        }
    }
}

/// Units that screens show; everything is stored in SI.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Units {
    /// Metres, metres per second.
    Metric,
    /// Feet, miles per hour.
    Imperial,
}

/// How many pegs the player wants filled in a slot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum School {
    /// Lean, Rail, Drift.
    Three,
    /// Hook, Lean, Rail, Drift, Slide.
    Five,
}

/// The thrower.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Player {
    /// Name.
    pub name: String,
    /// Throwing hand.
    pub hand: Hand,
    /// The style used when nothing asks for the other.
    pub strong_style: Style,
    /// Distance of a controlled full backhand drive, m, 20 to 200.
    pub backhand_m: f64,
    /// Distance of a controlled full forehand drive, m, 20 to 200.
    pub forehand_m: f64,
    /// Repeatability.
    pub skill: Skill,
    /// Units on the screens.
    pub units: Units,
    /// Three or five pegs.
    pub school: School,
    /// Altitude at home, m, −400 to 5000.
    pub altitude_m: f64,
    /// Usual temperature, °C, −30 to 45.
    pub temperature_c: f64,
}

impl Default for Player {
    fn default() -> Self {
        Player {
            name: "You".into(),
            hand: Hand::Right,
            strong_style: Style::Backhand,
            backhand_m: 90.0,
            forehand_m: 70.0,
            skill: Skill::Club,
            units: Units::Metric,
            school: School::Five,
            altitude_m: 0.0,
            temperature_c: 15.0,
        }
    }
}

impl Player {
    /// # Errors
    /// [`BagError::Field`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 60)?;
        within("backhand_m", self.backhand_m, 20.0, 200.0)?;
        within("forehand_m", self.forehand_m, 20.0, 200.0)?;
        within("altitude_m", self.altitude_m, -400.0, 5000.0)?;
        within("temperature_c", self.temperature_c, -30.0, 45.0)
    }

    /// Controlled distance of a style, m.
    pub fn distance_m(&self, style: Style) -> f64 {
        match style {
            Style::Backhand => self.backhand_m,
            Style::Forehand => self.forehand_m,
        }
    }
}

/// Today: wind at 10 m over open ground along the line of play, and how much of the arm there is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Conditions {
    /// Wind along the throw, m/s, tail positive, −20 to 20.
    pub along_m_s: f64,
    /// Wind across, m/s, toward the left positive, −20 to 20.
    pub left_m_s: f64,
    /// Share of the usual arm speed, 0.5 to 1.1.
    pub power: f64,
}

impl Default for Conditions {
    fn default() -> Self {
        Conditions { along_m_s: 0.0, left_m_s: 0.0, power: 1.0 }
    }
}

impl Conditions {
    /// # Errors
    /// [`BagError::Field`] for a value outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("along_m_s", self.along_m_s, -20.0, 20.0)?;
        within("left_m_s", self.left_m_s, -20.0, 20.0)?;
        within("power", self.power, 0.5, 1.1)
    }

    /// The wind.
    pub fn wind(&self) -> Wind {
        Wind { along_m_s: self.along_m_s, left_m_s: self.left_m_s }
    }
}

/// Growth of wind with height over open grass. Common practice, no source.
pub const WIND_PROFILE_EXPONENT: f64 = 0.14;

/// The player's arm today, worked out once: speeds per style, air and scatter.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Arm {
    hand: release::Hand,
    backhand_m_s: f64,
    forehand_m_s: f64,
    power: f64,
    /// The air that everything flies in.
    pub air: Air,
    spread: Spread,
    /// Wind of the day.
    pub wind: Wind,
}

/// Forehand scatter against backhand. Own judgement.
const FOREHAND_SPREAD: f64 = 1.15;

impl Arm {
    /// # Errors
    /// [`BagError`] for a player or conditions outside their ranges.
    pub fn of(player: &Player, conditions: &Conditions) -> Result<Arm, BagError> {
        player.validate()?;
        conditions.validate()?;
        let density = density_kg_m3(player.altitude_m, player.temperature_c, 0.5)?;
        let hand = player.hand.into();
        Ok(Arm {
            hand,
            backhand_m_s: arm_speed_m_s(player.backhand_m, release::Style::Backhand),
            forehand_m_s: arm_speed_m_s(player.forehand_m, release::Style::Forehand),
            power: conditions.power,
            air: Air::new(density, WIND_PROFILE_EXPONENT)?,
            spread: player.skill.spread(),
            wind: conditions.wind(),
        })
    }

    /// Full arm speed of a style on a usual day, m/s.
    pub fn speed_m_s(&self, style: Style) -> f64 {
        match style {
            Style::Backhand => self.backhand_m_s,
            Style::Forehand => self.forehand_m_s,
        }
    }

    /// Speed at which this arm throws a disc of rated `speed` with control, today, m/s.
    pub fn controlled_m_s(&self, style: Style, speed: f64) -> f64 {
        self.speed_m_s(style) * class_effort(speed) * self.power
    }

    /// +1 where the natural finish of a style is to the left, −1 where to the right.
    pub fn natural_side(&self, style: Style) -> f64 {
        release::spin_sense(self.hand, style.into())
    }

    /// A flat throw of a disc of rated `speed` at share `power` of controlled speed.
    pub fn release(&self, style: Style, speed: f64, power: f64) -> Release {
        Release::rated(power * self.controlled_m_s(style, speed), self.hand, style.into())
    }

    /// The player's scatter in a style at share `power` of controlled speed: steadier when held back, wilder near full
    /// power. Own judgement.
    pub fn spread(&self, style: Style, power: f64) -> Spread {
        let strain = ((power - 0.75) / 0.25).clamp(-0.6, 1.4);
        let by_power = 1.0 + if strain > 0.0 { 0.2 * strain } else { 0.15 * strain };
        let by_style = if style == Style::Forehand { FOREHAND_SPREAD } else { 1.0 };
        self.spread.scaled(by_power * by_style)
    }
}

/// Ordinary drivers whose longest flight stands for an arm's driving distance.
const REFERENCE_DRIVERS: [FlightNumbers; 4] = [
    FlightNumbers::new(7.0, 5.0, 0.0, 2.0),
    FlightNumbers::new(9.0, 5.0, -1.0, 2.0),
    FlightNumbers::new(11.0, 5.0, -1.0, 2.0),
    FlightNumbers::new(12.0, 5.0, -1.0, 3.0),
];

/// Longest controlled drive of an arm of `speed_m_s` over the reference drivers, flat or on a little hyzer, in
/// standard air at sea level, m.
pub fn driving_distance_m(speed_m_s: f64, style: release::Style) -> f64 {
    let mut throws = Vec::with_capacity(REFERENCE_DRIVERS.len() * 9);
    for numbers in &REFERENCE_DRIVERS {
        let Ok(disc) = numbers.disc(0.175) else { continue };
        for launch_deg in [8.0, 11.0, 14.0] {
            for hyzer_deg in [0.0, 5.0, 10.0] {
                let flat =
                    Release::rated(speed_m_s * class_effort(numbers.speed), release::Hand::Right, style);
                let release = Release { launch_deg, hyzer_deg, ..flat };
                throws.push(Throw { disc, release, wind: Wind::CALM });
            }
        }
    }
    fly_all(&throws, &Air::default(), &[]).iter().map(|o| o.distance_m()).fold(0.0, f64::max)
}

/// Arm speed (m/s, 5 to 50) whose driving distance is `distance_m`: the simulator turned round by bisection, to
/// within 1 mm/s.
pub fn arm_speed_m_s(distance_m: f64, style: release::Style) -> f64 {
    let (mut low, mut high) = (5.0, 50.0);
    while high - low > 1e-3 {
        let middle = 0.5 * (low + high);
        if driving_distance_m(middle, style) < distance_m {
            low = middle;
        } else {
            high = middle;
        }
    }
    0.5 * (low + high)
}
