//! The thrower: hand, distances, scatter, school.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::scatter::Spread;

use crate::error::{BagError, named, within};
use crate::thrower::evidence::{Evidence, MOST_EVIDENCE};
use crate::thrower::habits::Habits;
use crate::thrower::season::Season;
use crate::thrower::slot::Slot;
use crate::thrower::style::{Hand, Style};

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

/// Standard deviations of the release errors in one style, at three quarters of full power.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Scatter {
    /// Speed, percent of itself, 0.2 to 20.
    #[schema(minimum = 0.2, maximum = 20.0)]
    pub speed_pct: f64,
    /// Hyzer, degrees, 0.2 to 20.
    #[schema(minimum = 0.2, maximum = 20.0)]
    pub hyzer_deg: f64,
    /// Launch, degrees, 0.2 to 15.
    #[schema(minimum = 0.2, maximum = 15.0)]
    pub launch_deg: f64,
    /// Nose, degrees, 0.2 to 15.
    #[schema(minimum = 0.2, maximum = 15.0)]
    pub nose_deg: f64,
    /// Aim, degrees, 0.2 to 15.
    #[schema(minimum = 0.2, maximum = 15.0)]
    pub aim_deg: f64,
}

impl Scatter {
    const fn new(speed_pct: f64, hyzer_deg: f64, launch_deg: f64, nose_deg: f64, aim_deg: f64) -> Scatter {
        Scatter { speed_pct, hyzer_deg, launch_deg, nose_deg, aim_deg }
    }

    /// Least deviation that is believed, and the greatest of each.
    const LEAST: f64 = 0.2;
    const MOST: Scatter = Scatter::new(20.0, 20.0, 15.0, 15.0, 15.0);

    /// # Errors
    /// [`BagError`] for the first deviation outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        let (least, most) = (Scatter::LEAST, Scatter::MOST);
        within("scatter speed_pct", self.speed_pct, least, most.speed_pct)?;
        within("scatter hyzer_deg", self.hyzer_deg, least, most.hyzer_deg)?;
        within("scatter launch_deg", self.launch_deg, least, most.launch_deg)?;
        within("scatter nose_deg", self.nose_deg, least, most.nose_deg)?;
        within("scatter aim_deg", self.aim_deg, least, most.aim_deg)
    }

    /// The nearest scatter that is believed.
    fn within_ranges(self) -> Scatter {
        let most = Scatter::MOST;
        Scatter {
            speed_pct: self.speed_pct.clamp(Scatter::LEAST, most.speed_pct),
            hyzer_deg: self.hyzer_deg.clamp(Scatter::LEAST, most.hyzer_deg),
            launch_deg: self.launch_deg.clamp(Scatter::LEAST, most.launch_deg),
            nose_deg: self.nose_deg.clamp(Scatter::LEAST, most.nose_deg),
            aim_deg: self.aim_deg.clamp(Scatter::LEAST, most.aim_deg),
        }
    }

    /// So many times as wide along (speed, launch, nose) and to the sides (hyzer, aim).
    #[must_use]
    pub fn wider(self, along: f64, side: f64) -> Scatter {
        Scatter {
            speed_pct: along * self.speed_pct,
            launch_deg: along * self.launch_deg,
            nose_deg: along * self.nose_deg,
            hyzer_deg: side * self.hyzer_deg,
            aim_deg: side * self.aim_deg,
        }
    }
}

impl From<Scatter> for Spread {
    fn from(s: Scatter) -> Spread {
        Spread {
            speed: 0.01 * s.speed_pct,
            hyzer_deg: s.hyzer_deg,
            launch_deg: s.launch_deg,
            nose_deg: s.nose_deg,
            aim_deg: s.aim_deg,
        }
    }
}

/// A style's scatter as the player has found it to be.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct OwnScatter {
    /// The style.
    pub style: Style,
    /// Its scatter.
    pub scatter: Scatter,
}

/// Scatter of other styles against a backhand. Own judgement.
const FOREHAND_SPREAD: f64 = 1.15;
const OVERHAND_SPREAD: f64 = 1.3;

impl Skill {
    /// Usual scatter of a player of this skill in a style. Own judgement.
    pub fn scatter(self, style: Style) -> Scatter {
        let backhand = match self {
            Skill::Beginner => Scatter::new(6.0, 6.0, 3.5, 4.0, 4.0),
            Skill::Club => Scatter::new(4.0, 4.0, 2.2, 2.5, 2.5),
            Skill::Advanced => Scatter::new(3.0, 3.0, 1.5, 1.8, 1.6),
            Skill::Top => Scatter::new(1.8, 2.0, 1.0, 1.1, 1.0),
        };
        let scaled = |k: f64| backhand.wider(k, k);
        match style {
            Style::Backhand => backhand,
            Style::Forehand => scaled(FOREHAND_SPREAD),
            Style::Thumber | Style::Tomahawk => scaled(OVERHAND_SPREAD),
            Style::Putt => match self {
                Skill::Beginner => Scatter::new(4.5, 4.0, 2.2, 3.0, 2.2),
                Skill::Club => Scatter::new(3.0, 3.0, 1.4, 2.0, 1.5),
                Skill::Advanced => Scatter::new(2.2, 2.5, 1.0, 1.5, 1.0),
                Skill::Top => Scatter::new(1.5, 2.0, 0.7, 1.0, 0.7),
            },
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

/// Which pegs the player wants filled in a slot.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum School {
    /// Lean, Rail, Drift.
    Three,
    /// Hook, Lean, Rail, Drift, Slide.
    Five,
    /// Rail and Drift, slow and light discs: what shows the errors of a form that is still being learnt.
    Beginner,
    /// Lean and Rail up to the fairway drivers: few discs, and those that can be lost.
    Lean,
}

impl School {
    /// All of them.
    pub const ALL: [School; 4] = [School::Three, School::Five, School::Beginner, School::Lean];
}

/// The thrower.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Player {
    /// Name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// Throwing hand.
    pub hand: Hand,
    /// The style used when nothing asks for the other.
    pub strong_style: Style,
    /// Distance of a controlled full backhand drive, m, 20 to 200.
    #[schema(minimum = 20.0, maximum = 200.0)]
    pub backhand_m: f64,
    /// Distance of a controlled full forehand drive, m, 20 to 200.
    #[schema(minimum = 20.0, maximum = 200.0)]
    pub forehand_m: f64,
    /// Distance of a controlled full overhand, m, 20 to 150; absent if the player throws none.
    #[serde(default)]
    #[schema(minimum = 20.0, maximum = 150.0)]
    pub overhand_m: Option<f64>,
    /// Repeatability.
    pub skill: Skill,
    /// Scatter of single styles, where the player knows it better than the skill tells.
    #[serde(default)]
    pub scatter: Vec<OwnScatter>,
    /// What else is known of the arm.
    #[serde(default)]
    #[schema(max_items = 20)]
    pub evidence: Vec<Evidence>,
    /// Units on the screens.
    pub units: Units,
    /// Which pegs are wanted, in slots that have no school of their own.
    pub school: School,
    /// Altitude at home, m, −400 to 5000.
    #[schema(minimum = -400.0, maximum = 5000.0)]
    pub altitude_m: f64,
    /// Usual temperature, °C, −30 to 45.
    #[schema(minimum = -30.0, maximum = 45.0)]
    pub temperature_c: f64,
    /// The weather of the season.
    #[serde(default)]
    pub season: Season,
    /// How the player goes about the bag.
    #[serde(default)]
    pub habits: Habits,
}

/// Controlled distances that are believed, m; an overhand goes less far than a drive. From memory, no source.
const LEAST_DRIVE_M: f64 = 20.0;
const MOST_DRIVE_M: f64 = 200.0;
const MOST_OVERHAND_M: f64 = 150.0;
/// Overhand distance of a player who has not told any, as a share of the backhand. Own judgement.
const UNTRIED_OVERHAND: f64 = 0.6;
/// Radius of the circle around a basket inside which a putt must not follow through past the mark, m: the sport's
/// rules, from memory; the event's own rules come first.
pub const PUTT_M: f64 = 10.0;

/// The beginner's school stays at this speed and below until a controlled drive goes so far, m. Common practice, no source.
pub const BEGINNER_SPEED: f64 = 7.0;
/// See [`BEGINNER_SPEED`].
pub const BEGINNER_UNTIL_M: f64 = 91.0;
/// A nose and a hyzer that scatter no more than this are under control, degrees. Own judgement.
pub const CONTROLLED_NOSE_DEG: f64 = 3.0;
/// See [`CONTROLLED_NOSE_DEG`].
pub const CONTROLLED_HYZER_DEG: f64 = 5.0;

impl Default for Player {
    fn default() -> Self {
        Player {
            name: "You".into(),
            hand: Hand::Right,
            strong_style: Style::Backhand,
            backhand_m: 90.0,
            forehand_m: 70.0,
            overhand_m: None,
            skill: Skill::Club,
            scatter: vec![],
            evidence: vec![],
            units: Units::Metric,
            school: School::Five,
            altitude_m: 0.0,
            temperature_c: 15.0,
            season: Season::default(),
            habits: Habits::default(),
        }
    }
}

impl Player {
    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 60)?;
        within("backhand_m", self.backhand_m, LEAST_DRIVE_M, MOST_DRIVE_M)?;
        within("forehand_m", self.forehand_m, LEAST_DRIVE_M, MOST_DRIVE_M)?;
        within("overhand_m", self.overhand_m.unwrap_or(60.0), LEAST_DRIVE_M, MOST_OVERHAND_M)?;
        self.strong_style.drives("strong_style")?;
        for (k, own) in self.scatter.iter().enumerate() {
            own.scatter.validate()?;
            if self.scatter[..k].iter().any(|other| other.style == own.style) {
                return Err(BagError::Field {
                    field: "scatter",
                    expected: "each style once".into(),
                    got: format!("{} twice", own.style.label()),
                });
            }
        }
        within("pieces of evidence", self.evidence.len() as f64, 0.0, MOST_EVIDENCE as f64)?;
        self.evidence.iter().try_for_each(Evidence::validate)?;
        self.season.validate()?;
        self.habits.validate(self.strong_style)?;
        within("altitude_m", self.altitude_m, -400.0, 5000.0)?;
        within("temperature_c", self.temperature_c, -30.0, 45.0)
    }

    /// Whether a slot is a lane of its own.
    pub fn has_lane(&self, slot: Slot) -> bool {
        slot != Slot::Control || self.habits.control_lane
    }

    /// The lane that a slot's discs and lines are in.
    pub fn lane(&self, slot: Slot) -> Slot {
        if self.has_lane(slot) { slot } else { Slot::Distance }
    }

    /// The school of a slot: its own, else the player's.
    pub fn school_of(&self, slot: Slot) -> School {
        let lane = self.lane(slot);
        let own = self.habits.schools.iter().find(|s| s.slot == lane);
        own.map_or(self.school, |s| s.school)
    }

    /// Whether nose and angle of the strong style are under control.
    pub fn has_control(&self) -> bool {
        let scatter = self.scatter(self.strong_style);
        scatter.nose_deg <= CONTROLLED_NOSE_DEG && scatter.hyzer_deg <= CONTROLLED_HYZER_DEG
    }

    /// The fastest disc that the beginner's school lets this arm throw; `None` in other schools, and once it throws
    /// [`BEGINNER_UNTIL_M`] with control.
    pub fn speed_ceiling(&self) -> Option<f64> {
        let learnt = self.distance_m(self.strong_style) >= BEGINNER_UNTIL_M && self.has_control();
        (self.school == School::Beginner && !learnt).then_some(BEGINNER_SPEED)
    }

    /// The lanes, slow first.
    pub fn lanes(&self) -> impl Iterator<Item = Slot> {
        Slot::ALL.into_iter().filter(|slot| self.has_lane(*slot))
    }

    /// Controlled distance of a style, m; for a putt the circle inside which nobody jumps.
    pub fn distance_m(&self, style: Style) -> f64 {
        match style {
            Style::Backhand => self.backhand_m,
            Style::Forehand => self.forehand_m,
            Style::Thumber | Style::Tomahawk => self.overhand_m.unwrap_or(UNTRIED_OVERHAND * self.backhand_m),
            Style::Putt => PUTT_M,
        }
    }

    /// The same player, of whom a controlled distance (m, held to what is believed), a speed with a driver (m/s) and a scatter in a style
    /// are told instead of what was; overhand throws share their distance.
    #[must_use]
    pub fn told_anew(&self, style: Style, distance_m: f64, speed_m_s: f64, scatter: Scatter) -> Player {
        let mut player = self.clone();
        let drive_m = distance_m.clamp(LEAST_DRIVE_M, MOST_DRIVE_M);
        match style {
            Style::Backhand => player.backhand_m = drive_m,
            Style::Forehand => player.forehand_m = drive_m,
            Style::Thumber | Style::Tomahawk => player.overhand_m = Some(drive_m.min(MOST_OVERHAND_M)),
            Style::Putt => {}
        }
        player.evidence.retain(|e| e.style() != style);
        let speed_m_s = speed_m_s.clamp(Evidence::LEAST_SPEED_M_S, Evidence::MOST_SPEED_M_S);
        player.evidence.push(Evidence::Speed { style, speed_m_s });
        player.scattering(style, scatter)
    }

    /// The same player with a scatter of a style instead of what was told, held to what is believed.
    #[must_use]
    pub fn scattering(&self, style: Style, scatter: Scatter) -> Player {
        let mut player = self.clone();
        player.scatter.retain(|own| own.style != style);
        player.scatter.push(OwnScatter { style, scatter: scatter.within_ranges() });
        player
    }

    /// Scatter in a style: the player's own, else what the skill tells.
    pub fn scatter(&self, style: Style) -> Scatter {
        let own = self.scatter.iter().find(|own| own.style == style);
        own.map_or_else(|| self.skill.scatter(style), |own| own.scatter)
    }
}
