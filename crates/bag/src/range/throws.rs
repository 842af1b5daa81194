//! The range: throws flown side by side as the player sets them, with the player's own scatter about each.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::batch::{fly_all, fly_with_paths};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::ground::Contact;
use zinc_kite_flight::outcome::{Outcome, PathPoint};
use zinc_kite_flight::release::{self, Release, spin_sense};
use zinc_kite_flight::settle::{self, settle_all, settle_with_path};

use crate::disc::thrown::Thrown;
use crate::error::{BagError, within};
use crate::need::line::{Ground, LineSpec};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::style::{Hand, Style};

/// Most throws that are flown side by side.
pub const MOST_THROWS: usize = 6;

/// How a throw leaves the hand, as dials set it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Setting {
    /// Style.
    pub style: Style,
    /// Throwing hand; absent for the player's own.
    #[serde(default)]
    pub hand: Option<Hand>,
    /// Share of the speed at which the player throws this disc with control, 0.2 to 1.2.
    #[schema(minimum = 0.2, maximum = 1.2)]
    pub power: f64,
    /// Speed of release, m/s, 3 to 45, whatever the player's arm; absent for what `power` gives.
    #[serde(default)]
    #[schema(minimum = 3.0, maximum = 45.0)]
    pub speed_m_s: Option<f64>,
    /// Launch, degrees, −20 to 75.
    #[schema(minimum = -20.0, maximum = 75.0)]
    pub launch_deg: f64,
    /// Nose, degrees, −25 to 30.
    #[schema(minimum = -25.0, maximum = 30.0)]
    pub nose_deg: f64,
    /// Hyzer, degrees, −130 to 130; negative is anhyzer.
    #[schema(minimum = -130.0, maximum = 130.0)]
    pub hyzer_deg: f64,
    /// Aim from straight ahead, degrees, left positive, −60 to 60.
    #[schema(minimum = -60.0, maximum = 60.0)]
    pub aim_deg: f64,
    /// Spin as a share of what the style usually gives at this speed, 0.3 to 1.7.
    #[schema(minimum = 0.3, maximum = 1.7)]
    pub spin: f64,
    /// Day of this throw, where it is not that of the others.
    #[serde(default)]
    pub conditions: Option<Conditions>,
}

/// Throws of scatter that are shown about each.
const CLOUD: usize = 128;

/// Least and greatest of what dials set.
pub(crate) struct DialLimits {
    pub power: (f64, f64),
    pub speed_m_s: (f64, f64),
    pub launch_deg: (f64, f64),
    pub nose_deg: (f64, f64),
    pub hyzer_deg: (f64, f64),
    pub aim_deg: (f64, f64),
    pub spin: (f64, f64),
}

pub(crate) const LIMITS: DialLimits = DialLimits {
    power: (0.2, 1.2),
    speed_m_s: (3.0, 45.0),
    launch_deg: (-20.0, 75.0),
    nose_deg: (-25.0, 30.0),
    hyzer_deg: (-130.0, 130.0),
    aim_deg: (-60.0, 60.0),
    spin: (0.3, 1.7),
};

impl Setting {
    /// # Errors
    /// [`BagError`] for the first value outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        let check =
            |field: &'static str, value: f64, (low, high): (f64, f64)| within(field, value, low, high);
        check("power", self.power, LIMITS.power)?;
        check("speed_m_s", self.speed_m_s.unwrap_or(LIMITS.speed_m_s.0), LIMITS.speed_m_s)?;
        check("launch_deg", self.launch_deg, LIMITS.launch_deg)?;
        check("nose_deg", self.nose_deg, LIMITS.nose_deg)?;
        check("hyzer_deg", self.hyzer_deg, LIMITS.hyzer_deg)?;
        check("aim_deg", self.aim_deg, LIMITS.aim_deg)?;
        check("spin", self.spin, LIMITS.spin)
    }
}

/// The setting from which a style is usually thrown: where dials start.
pub fn usual(style: Style) -> Setting {
    let kind: release::Style = style.into();
    Setting {
        style,
        hand: None,
        power: if style == Style::Putt { 0.75 } else { 1.0 },
        speed_m_s: None,
        launch_deg: kind.usual_launch_deg(),
        nose_deg: kind.usual_nose_deg(),
        hyzer_deg: kind.usual_hyzer_deg(),
        aim_deg: 0.0,
        spin: 1.0,
        conditions: None,
    }
}

/// The setting from which a roller is usually thrown in a style: as its line asks for it.
pub fn roller(style: Style) -> Setting {
    let line = LineSpec::roller(style);
    let middle = |least: f64, greatest: f64| 0.5 * (least + greatest);
    Setting {
        hyzer_deg: middle(line.hyzer_min_deg, line.hyzer_max_deg),
        launch_deg: middle(line.launch_min_deg, line.launch_max_deg),
        ..usual(style)
    }
}

/// A place, m: down-range and left.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Place {
    /// Down-range, m.
    pub x_m: f64,
    /// Left, m.
    pub y_m: f64,
}

impl From<&PathPoint> for Place {
    fn from(p: &PathPoint) -> Place {
        Place { x_m: p.x_m, y_m: p.y_m }
    }
}

impl From<&Outcome> for Place {
    fn from(o: &Outcome) -> Place {
        Place { x_m: o.x_m, y_m: o.y_m }
    }
}

/// A moment of a flight.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Moment {
    /// Since release, s.
    pub t_s: f64,
    /// Down-range, m.
    pub x_m: f64,
    /// Left, m.
    pub y_m: f64,
    /// Up, m.
    pub z_m: f64,
}

impl From<&PathPoint> for Moment {
    fn from(p: &PathPoint) -> Moment {
        Moment { t_s: p.t_s, x_m: p.x_m, y_m: p.y_m, z_m: p.z_m }
    }
}

/// What a disc does after the first touch.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Manner {
    /// Stays where it touches.
    Sits,
    /// Runs on along the ground.
    Slides,
    /// Bounces on.
    Skips,
    /// Rolls on its edge.
    Rolls,
}

impl From<settle::Manner> for Manner {
    fn from(manner: settle::Manner) -> Manner {
        match manner {
            settle::Manner::Sits => Manner::Sits,
            settle::Manner::Slides => Manner::Slides,
            settle::Manner::Skips => Manner::Skips,
            settle::Manner::Rolls => Manner::Rolls,
        }
    }
}

/// A throw flown, with the scatter about it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RangeFlight {
    /// Speed of release, m/s.
    pub speed_m_s: f64,
    /// Spin at release, rad/s.
    pub spin_rad_s: f64,
    /// Distance from the tee to the first touch, m.
    pub carry_m: f64,
    /// Distance from the tee to where it comes to rest, m.
    pub distance_m: f64,
    /// Where it comes to rest across, m, left positive.
    pub finish_left_m: f64,
    /// How far it first goes to the side to which this throw does not fade, m.
    pub swing_m: f64,
    /// Whether that side is the left.
    pub swings_left: bool,
    /// Greatest height, m.
    pub apex_m: f64,
    /// Time in the air, s.
    pub time_s: f64,
    /// Speed at the first touch, m/s.
    pub landing_m_s: f64,
    /// Steepness at the first touch, degrees below the horizon.
    pub descent_deg: f64,
    /// Way along the ground, m.
    pub run_m: f64,
    /// What it does there.
    pub manner: Manner,
    /// Highest hop over the ground while it rolls, m; 0 where none is seen.
    pub hop_m: f64,
    /// The path in the air.
    pub path: Vec<Moment>,
    /// Its way over the ground, from the first touch to where it comes to rest; heights above the ground beneath.
    pub run: Vec<Moment>,
    /// Where it comes to rest.
    pub rest: Place,
    /// Where throws with the player's scatter come to rest.
    pub cloud: Vec<Place>,
    /// Standard deviation of those along the line from the tee to their middle, m.
    pub spread_long_m: f64,
    /// And across it, m.
    pub spread_wide_m: f64,
    /// Share of them within 10 m of where the throw itself comes to rest.
    pub within_10_m: f64,
}

/// Flies the throws, each with its disc, on `ground`.
///
/// # Errors
/// [`BagError`] for a value outside its range, or more than [`MOST_THROWS`].
pub fn range(
    player: &Player,
    day: &Conditions,
    ground: Ground,
    throws: &[(Thrown, Setting)],
) -> Result<Vec<RangeFlight>, BagError> {
    within("throws", throws.len() as f64, 1.0, MOST_THROWS as f64)?;
    throws.iter().map(|(thrown, setting)| one(player, day, ground, thrown, setting)).collect()
}

fn one(
    player: &Player,
    day: &Conditions,
    ground: Ground,
    thrown: &Thrown,
    setting: &Setting,
) -> Result<RangeFlight, BagError> {
    setting.validate()?;
    let arm = Arm::of(player, setting.conditions.as_ref().unwrap_or(day))?;
    let usual = arm.release(setting.style, thrown.speed, setting.power);
    let usual = setting.speed_m_s.map_or(usual, |speed_m_s| usual.at_speed(speed_m_s));
    let release = Release {
        launch_deg: setting.launch_deg,
        nose_deg: setting.nose_deg,
        hyzer_deg: setting.hyzer_deg,
        aim_deg: setting.aim_deg,
        spin_rad_s: usual.spin_rad_s * setting.spin,
        hand: setting.hand.map_or(arm.hand(), Into::into),
        ..usual
    };
    let throw = Throw { disc: thrown.body, release, wind: arm.wind };
    let (mut flight, path) = fly_with_paths(&[throw], &arm.air).remove(0);
    let carry_m = flight.distance_m();
    let contact = thrown.contact(ground, &arm.air);
    let (manner, run) = settle_with_path(&mut flight, &contact);

    let wet = if arm.wet { thrown.wet_spread } else { 1.0 };
    let spread = arm.spread(setting.style, thrown.speed, setting.power).scaled(wet);
    let mut cloud = fly_all(&spread.scattered(&throw, arm.gust_m_s, 0..CLOUD), &arm.air, &[]);
    settle_all(&mut cloud, &contact, &[]);
    let (spread_long_m, spread_wide_m) = spreads(&cloud);
    let near = cloud.iter().filter(|o| (o.x_m - flight.x_m).hypot(o.y_m - flight.y_m) < 10.0).count();
    let swings_left = spin_sense(release.hand, release.style) < 0.0;
    Ok(RangeFlight {
        speed_m_s: release.speed_m_s,
        spin_rad_s: release.spin_rad_s,
        carry_m,
        distance_m: flight.distance_m(),
        finish_left_m: flight.y_m,
        swing_m: if swings_left { flight.farthest_left_m } else { flight.farthest_right_m },
        swings_left,
        apex_m: flight.apex_m,
        time_s: flight.time_s,
        landing_m_s: flight.landing_speed_m_s(),
        descent_deg: flight.descent_deg(),
        run_m: flight.run_m,
        manner: manner.into(),
        hop_m: if flight.rolled { highest_hop_m(&run, &contact) } else { 0.0 },
        path: path.iter().map(Moment::from).collect(),
        run: run.iter().map(Moment::from).collect(),
        rest: Place::from(&flight),
        spread_long_m,
        spread_wide_m,
        within_10_m: near as f64 / cloud.len() as f64,
        cloud: cloud.iter().map(Place::from).collect(),
    })
}

fn highest_hop_m(run: &[PathPoint], contact: &Contact) -> f64 {
    run.iter().map(|p| p.z_m - contact.disc.radius_m).fold(0.0, f64::max)
}

/// Standard deviations along and across the line from the tee to the middle, m.
fn spreads(cloud: &[Outcome]) -> (f64, f64) {
    let n = cloud.len() as f64;
    let mean = |f: &dyn Fn(&Outcome) -> f64| cloud.iter().map(f).sum::<f64>() / n;
    let (x, y) = (mean(&|o| o.x_m), mean(&|o| o.y_m));
    let (sin, cos) = y.atan2(x).sin_cos();
    let long = mean(&|o| ((o.x_m - x) * cos + (o.y_m - y) * sin).powi(2));
    let wide = mean(&|o| ((o.y_m - y) * cos - (o.x_m - x) * sin).powi(2));
    (long.sqrt(), wide.sqrt())
}
