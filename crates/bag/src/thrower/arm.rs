//! The player's arm: how fast it throws in each style, what that is known from, and how repeatably it does so.

use std::sync::LazyLock;

use quick_cache::sync::Cache;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::air::{Air, Wind, density_kg_m3, wind_share};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{self, Release};
use zinc_kite_flight::scatter::Spread;
use zinc_kite_flight::settle::settle_all;

use crate::disc::thrown::Thrown;
use crate::error::BagError;
use crate::need::line::Ground;
use crate::thrower::day::Conditions;
use crate::thrower::evidence::Evidence;
use crate::thrower::habits::PuttingStyle;
use crate::thrower::player::{Player, Units};
use crate::thrower::slot::{Slot, class_effort};
use crate::thrower::style::Style;

/// Growth of wind with height over open grass. Common practice, no source.
pub const WIND_PROFILE_EXPONENT: f64 = 0.14;
/// Height at which a wind meter is held up, m. Own judgement.
const METER_HEIGHT_M: f64 = 1.5;

/// Wind at 10 m over open ground, m/s, where a meter held up by hand reads `read_m_s`.
pub fn meter_at_10_m(read_m_s: f64) -> f64 {
    read_m_s / wind_share(METER_HEIGHT_M, WIND_PROFILE_EXPONENT)
}

/// A disc faster than this is thrown less surely the more it is held back: so much scatter comes on, as a share, for each
/// step of speed above it and for all of the power. Own judgement.
const SURE_SPEED: f64 = 4.0;
const UNSURE_SOFT: f64 = 0.12;
/// So much more of what comes beside the player's own scatter, as a share, for each step of speed above it: a fast disc forgives
/// less. Own judgement.
const UNFORGIVING: f64 = 0.05;
/// Full speed of a putt, m/s: what a jump putt from well outside the circle leaves with. Own judgement.
pub const PUTT_M_S: f64 = 17.0;

/// The arm today, worked out once: speeds per style, air and scatter.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Arm {
    hand: release::Hand,
    /// Full speed by style, in the order of [`Style::ALL`], m/s.
    speeds: [f64; Style::ALL.len()],
    spreads: [Spread; Style::ALL.len()],
    /// What comes beside the player's own scatter, in all but putts.
    beside: Option<Spread>,
    power: f64,
    /// Spin of a putt against a usual one.
    putt_spin: f64,
    /// The air that everything flies in.
    pub air: Air,
    /// Wind of the day.
    pub wind: Wind,
    /// Gusts of the day, m/s.
    pub gust_m_s: f64,
    /// Whether plastic and footing are wet.
    pub wet: bool,
    /// The fastest disc its player's school lets it throw, if that sets a limit.
    pub ceiling: Option<f64>,
    /// Units in which its player is told things; nothing depends on them but words.
    pub units: Units,
}

impl Arm {
    /// # Errors
    /// [`BagError`] for a player or conditions outside their ranges.
    pub fn of(player: &Player, conditions: &Conditions) -> Result<Arm, BagError> {
        player.validate()?;
        conditions.validate()?;
        let density = density_kg_m3(
            conditions.altitude_m.unwrap_or(player.altitude_m),
            conditions.temperature_c.unwrap_or(player.temperature_c),
            conditions.humidity,
        )?;
        Ok(Arm {
            hand: player.hand.into(),
            speeds: Style::ALL.map(|style| arm_report(player, style).speed_m_s),
            spreads: Style::ALL.map(|style| player.scatter(style).into()),
            beside: None,
            power: conditions.power,
            putt_spin: player.habits.putting.map_or(1.0, PuttingStyle::spin),
            air: Air::new(density, WIND_PROFILE_EXPONENT)?,
            wind: conditions.wind(),
            gust_m_s: conditions.gust_m_s,
            wet: conditions.wet,
            ceiling: player.speed_ceiling(),
            units: player.units,
        })
    }

    /// Full arm speed of a style on a usual day, m/s.
    pub fn speed_m_s(&self, style: Style) -> f64 {
        self.speeds[style as usize]
    }

    /// Speed at which this arm throws a disc of rated `speed` with control, today, m/s. A putt is made with any disc
    /// alike.
    pub fn controlled_m_s(&self, style: Style, speed: f64) -> f64 {
        let effort = if style == Style::Putt { 1.0 } else { class_effort(speed) * self.power };
        self.speed_m_s(style) * effort
    }

    /// The throwing hand.
    pub fn hand(&self) -> release::Hand {
        self.hand
    }

    /// +1 where the natural finish of a style is to the left, −1 where to the right.
    pub fn natural_side(&self, style: Style) -> f64 {
        release::spin_sense(self.hand, style.into())
    }

    /// A usual throw in a style of a disc of rated `speed` at share `power` of controlled speed.
    pub fn release(&self, style: Style, speed: f64, power: f64) -> Release {
        let usual = Release::rated(power * self.controlled_m_s(style, speed), self.hand, style.into());
        let spin = if style == Style::Putt { self.putt_spin } else { 1.0 };
        Release { spin_rad_s: spin * usual.spin_rad_s, ..usual }
    }

    /// The same arm where it is less sure of all but putts: every error so many times as large, and others of their own beside it,
    /// as where the distance is guessed.
    #[must_use]
    pub fn less_sure(&self, times: f64, beside: Spread) -> Arm {
        let less = |style: Style| {
            let spread = self.spreads[style as usize];
            if style == Style::Putt { spread } else { spread.scaled(times) }
        };
        Arm { spreads: Style::ALL.map(less), beside: Some(beside), ..*self }
    }

    /// The player's scatter in a style with a disc of rated `speed` at share `power` of controlled speed: steadier when held
    /// back, wilder near full power, which is a matter of the arm and so not of a putt; but a fast disc's wide rim is made to
    /// be thrown hard, and the farther it is held back the less surely it leaves the hand. Own judgement.
    pub fn spread(&self, style: Style, speed: f64, power: f64) -> Spread {
        let spread = self.spreads[style as usize];
        if style == Style::Putt {
            return spread;
        }
        let strain = ((power - 0.75) / 0.25).clamp(-0.6, 1.4);
        let ease = 1.0 + if strain > 0.0 { 0.2 * strain } else { 0.15 * strain };
        let faster = (speed - SURE_SPEED).max(0.0);
        let own = spread.scaled(ease + UNSURE_SOFT * faster * (1.0 - power).max(0.0));
        match self.beside {
            Some(beside) => own.beside(&beside.scaled(1.0 + UNFORGIVING * faster)),
            None => own,
        }
    }
}

/// One piece of evidence and what it says.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Implied {
    /// What is known; absent for the player's driving distance.
    pub evidence: Option<Evidence>,
    /// The arm speed it implies, m/s.
    pub implies_m_s: f64,
    /// Difference from the speed that is used, share of it.
    pub off: f64,
    /// What may be behind it, where it does not fit.
    pub doubt: Option<String>,
}

/// How fast an arm throws in a style, and from what that is known.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ArmReport {
    /// The style.
    pub style: Style,
    /// The arm speed that is used: full controlled speed with a driver, m/s.
    pub speed_m_s: f64,
    /// What it rests on, the player's driving distance first.
    pub evidence: Vec<Implied>,
    /// Whether all of it fits together.
    pub consistent: bool,
}

/// Pieces of evidence that differ by more than this share disagree. Own judgement: a seventh of a drive's distance.
const DISAGREE: f64 = 0.06;
/// A measured speed counts as much as this many distances: it needs no disc, air or shape of throw to be told.
const MEASURED_WEIGHT: f64 = 2.0;

/// How fast `player` throws in `style`: the mean of what the pieces of evidence imply.
pub fn arm_report(player: &Player, style: Style) -> ArmReport {
    if style == Style::Putt {
        return ArmReport { style, speed_m_s: PUTT_M_S, evidence: vec![], consistent: true };
    }
    let drive_m = player.distance_m(style);
    let mut implied = vec![(None, arm_speed_m_s(drive_m, style, None), 1.0)];
    for evidence in player.evidence.iter().filter(|e| e.style() == style) {
        let (speed_m_s, weight) = match *evidence {
            Evidence::Distance { slot, distance_m, .. } => {
                (arm_speed_m_s(distance_m, style, Some(slot)), 1.0)
            }
            Evidence::Speed { speed_m_s, .. } => (speed_m_s, MEASURED_WEIGHT),
        };
        implied.push((Some(*evidence), speed_m_s, weight));
    }
    let weight: f64 = implied.iter().map(|i| i.2).sum();
    let speed_m_s = implied.iter().map(|i| i.1 * i.2).sum::<f64>() / weight;
    let evidence: Vec<Implied> = implied
        .into_iter()
        .map(|(evidence, implies_m_s, _)| {
            let off = implies_m_s / speed_m_s - 1.0;
            Implied { doubt: doubt(off), evidence, implies_m_s, off }
        })
        .collect();
    ArmReport { style, speed_m_s, consistent: evidence.iter().all(|e| e.doubt.is_none()), evidence }
}

fn doubt(off: f64) -> Option<String> {
    let by = 100.0 * off.abs();
    if off > DISAGREE {
        Some(format!(
            "{by:.0} % faster than the rest says: a best throw rather than a usual one, downhill, a tailwind, or the others lose distance to a nose held up"
        ))
    } else if off < -DISAGREE {
        Some(format!(
            "{by:.0} % slower than the rest says: a careful throw, a nose held up, a headwind, or the others are best throws"
        ))
    } else {
        None
    }
}

/// Ordinary drivers: fairway drivers first, then the faster ones.
pub const DRIVERS: [FlightNumbers; 6] = [
    FlightNumbers::new(7.0, 5.0, 0.0, 2.0),
    FlightNumbers::new(7.0, 5.0, -2.0, 1.0),
    FlightNumbers::new(9.0, 5.0, -1.0, 2.0),
    FlightNumbers::new(9.0, 5.0, -2.0, 1.0),
    FlightNumbers::new(11.0, 5.0, -1.0, 2.0),
    FlightNumbers::new(12.0, 5.0, -1.0, 3.0),
];

/// Discs whose longest flight stands for a distance.
fn references(slot: Option<Slot>) -> &'static [FlightNumbers] {
    const SLOWER: [FlightNumbers; 4] = [
        FlightNumbers::new(2.0, 3.0, 0.0, 1.0),
        FlightNumbers::new(3.0, 3.0, 0.0, 1.0),
        FlightNumbers::new(5.0, 4.0, -1.0, 1.0),
        FlightNumbers::new(5.0, 4.0, -2.0, 1.0),
    ];
    match slot {
        Some(Slot::Putter) => &SLOWER[..2],
        Some(Slot::MidRange) => &SLOWER[2..],
        Some(Slot::Fairway) => &DRIVERS[..4],
        Some(Slot::Control | Slot::Distance | Slot::Utility) => &DRIVERS[4..],
        None => &DRIVERS,
    }
}

/// The releases among which a player who throws for distance chooses: launch, hyzer and nose, an overhand's on edge.
pub fn releases_for_distance(usual: Release) -> Vec<Release> {
    let (launches, hyzers, noses) = if usual.style.is_overhand() {
        ([25.0, 32.0, 40.0], [-100.0, -80.0, -60.0], vec![usual.nose_deg])
    } else {
        ([8.0, 12.0, 16.0], [-6.0, 0.0, 8.0], vec![-5.0, -3.0, 0.0])
    };
    let mut releases = Vec::with_capacity(27);
    for launch_deg in launches {
        for hyzer_deg in hyzers {
            for &nose_deg in &noses {
                releases.push(Release { launch_deg, hyzer_deg, nose_deg, ..usual });
            }
        }
    }
    releases
}

/// Longest controlled throw of an arm of `speed_m_s` with an ordinary disc of `slot` (any driver if none), with the release
/// that carries it farthest, in standard still air at sea level, to where it comes to rest on short grass, m.
pub fn driving_distance_m(speed_m_s: f64, style: Style, slot: Option<Slot>) -> f64 {
    let usual = Release::rated(speed_m_s, release::Hand::Right, style.into());
    let air = Air::default();
    let longest = |numbers: &FlightNumbers| {
        let thrown = Thrown::ordinary(numbers.disc(0.175).ok()?, numbers.speed);
        let releases = releases_for_distance(usual.at_speed(speed_m_s * class_effort(numbers.speed)));
        let throw = |release| Throw { disc: thrown.body, release, wind: Wind::CALM };
        let throws: Vec<Throw> = releases.into_iter().map(throw).collect();
        let mut flights = fly_all(&throws, &air, &[]);
        settle_all(&mut flights, &thrown.contact(Ground::Turf, &air), &[]);
        // Rolling is another shot.
        flights.iter().filter(|o| !o.rolled).map(Outcome::distance_m).reduce(f64::max)
    };
    references(slot).iter().filter_map(longest).fold(0.0, f64::max)
}

/// What a distance was told of: style, slot, and the bits of the distance.
type Told = (Style, Option<Slot>, u64);
/// Arm speeds already worked out.
static KNOWN: LazyLock<Cache<Told, f64>> = LazyLock::new(|| Cache::new(1000));

/// Arm speed (m/s, 5 to 50) whose distance with a disc of `slot` is `distance_m`: the simulator turned round by
/// bisection, to within 1 mm/s.
pub fn arm_speed_m_s(distance_m: f64, style: Style, slot: Option<Slot>) -> f64 {
    let key = (style, slot, distance_m.to_bits());
    if let Some(known) = KNOWN.get(&key) {
        return known;
    }
    let (mut low, mut high) = (5.0, 50.0);
    while high - low > 1e-3 {
        let middle = 0.5 * (low + high);
        if driving_distance_m(middle, style, slot) < distance_m {
            low = middle;
        } else {
            high = middle;
        }
    }
    let speed_m_s = 0.5 * (low + high);
    KNOWN.insert(key, speed_m_s);
    speed_m_s
}
