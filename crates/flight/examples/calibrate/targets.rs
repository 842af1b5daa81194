//! The table of targets, the throws that tell what a target asks, and what a calibration makes of them.

use std::error::Error;

use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::calibration::Calibration;
use zinc_kite_flight::disc::{Disc, INERTIA_SHARE, STANDARD_RADIUS_M};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{Hand, Release, Style, spin_sense};

const FEET_PER_M: f64 = 1.0 / 0.3048;
pub const M_S_PER_MPH: f64 = 0.447_04;

/// On which sides of a target a model may lie.
#[derive(Clone, Copy, PartialEq)]
pub enum Side {
    Equal,
    AtMost,
    AtLeast,
}

/// What a target asks. Distances in feet; left and right in a right-hander's backhand sense, so that a forehand's turn side
/// is the same as a backhand's.
#[derive(Clone, Copy, PartialEq, Debug)]
pub enum Quantity {
    /// Distance.
    Distance,
    /// Farthest to the turn side.
    Swing,
    /// Where it lands, turn side positive.
    Finish,
    /// Place across at 100 ft, fade side positive.
    Early,
    /// Greatest height.
    Apex,
    /// Time in the air, s.
    Time,
    /// Steepness at landing, degrees.
    Descent,
    /// Greatest distance over launch, hyzer and nose.
    Best,
    /// The same with the farthest of the ordinary drivers.
    Reach,
    /// Greatest distance at the given hyzer, less the greatest distance flat.
    Flip,
    /// Greatest distance in the given wind, less that in calm air.
    Tail,
    /// Swing less that of a backhand with the same numbers.
    MoreSwing,
    /// Finish less that of a backhand with the same numbers, turn side positive.
    LessFinish,
}

impl Quantity {
    const NAMES: [(&'static str, Quantity); 13] = [
        ("distance", Quantity::Distance),
        ("swing", Quantity::Swing),
        ("finish", Quantity::Finish),
        ("early", Quantity::Early),
        ("apex", Quantity::Apex),
        ("time", Quantity::Time),
        ("descent", Quantity::Descent),
        ("best", Quantity::Best),
        ("reach", Quantity::Reach),
        ("flip", Quantity::Flip),
        ("tail", Quantity::Tail),
        ("more_swing", Quantity::MoreSwing),
        ("less_finish", Quantity::LessFinish),
    ];

    fn named(name: &str) -> Result<Quantity, String> {
        let known = || Self::NAMES.map(|(name, _)| name).join(", ");
        let found = Self::NAMES.iter().find(|(known, _)| *known == name);
        found.map(|(_, q)| *q).ok_or_else(|| format!("targets.csv: expected one of {}, got {name}", known()))
    }

    pub fn name(self) -> &'static str {
        Self::NAMES.iter().find(|(_, q)| *q == self).map_or("", |(name, _)| name)
    }
}

/// A row of the table.
pub struct Target {
    pub numbers: FlightNumbers,
    pub mph: f64,
    pub launch_deg: f64,
    pub hyzer_deg: f64,
    pub wind_mph: f64,
    pub nose_deg: f64,
    pub mass_kg: f64,
    pub style: Style,
    pub quantity: Quantity,
    pub side: Side,
    pub value: f64,
    pub sigma: f64,
    pub rated: bool,
}

/// The discs among which `reach` takes the farthest.
const ORDINARY: [FlightNumbers; 6] = [
    FlightNumbers::new(7.0, 5.0, 0.0, 2.0),
    FlightNumbers::new(7.0, 5.0, -2.0, 1.0),
    FlightNumbers::new(9.0, 5.0, -1.0, 2.0),
    FlightNumbers::new(9.0, 5.0, -2.0, 1.0),
    FlightNumbers::new(11.0, 5.0, -1.0, 2.0),
    FlightNumbers::new(12.0, 5.0, -1.0, 3.0),
];

/// What a player chooses from for distance, degrees.
const LAUNCHES: [f64; 6] = [5.0, 8.0, 11.0, 14.0, 18.0, 22.0];
const HYZERS: [f64; 4] = [-10.0, 0.0, 10.0, 20.0];
const NOSES: [f64; 6] = [-5.0, -3.0, -1.0, 1.0, 4.0, 8.0];

pub fn read_targets() -> Result<Vec<Target>, Box<dyn Error>> {
    let text = include_str!("../../data/targets.csv");
    let rows = text.lines().filter(|l| !l.starts_with('#') && !l.trim().is_empty()).skip(1);
    rows.map(|row| {
        let f: Vec<&str> = row.split(',').map(str::trim).collect();
        let number = |i: usize| f[i].parse::<f64>();
        let (side, value) = match f[12].split_once(':') {
            Some(("le", v)) => (Side::AtMost, v.parse()?),
            Some(("ge", v)) => (Side::AtLeast, v.parse()?),
            _ => (Side::Equal, number(12)?),
        };
        Ok(Target {
            numbers: FlightNumbers::new(number(0)?, number(1)?, number(2)?, number(3)?),
            mph: number(4)?,
            launch_deg: number(5)?,
            hyzer_deg: number(6)?,
            wind_mph: number(7)?,
            nose_deg: number(8)?,
            mass_kg: 1e-3 * number(9)?,
            style: serde_json::from_value(serde_json::Value::from(f[10]))?,
            quantity: Quantity::named(f[11])?,
            side,
            value,
            sigma: number(13)?,
            rated: f[14] == "1",
        })
    })
    .collect()
}

/// A disc as a calibration makes it.
pub fn disc(calibration: &Calibration, numbers: &FlightNumbers, mass_kg: f64) -> Disc {
    Disc {
        coefficients: calibration.coefficients(numbers),
        mass_kg,
        radius_m: STANDARD_RADIUS_M,
        inertia_kg_m2: INERTIA_SHARE * mass_kg * STANDARD_RADIUS_M * STANDARD_RADIUS_M,
    }
}

/// The throws of one target: the first `compared` of them are held against the rest where two sets are compared.
struct Throws {
    all: Vec<Throw>,
    compared: usize,
}

/// The throws that tell what a target asks.
fn throws_of(calibration: &Calibration, target: &Target) -> Throws {
    let wind = Wind { along_m_s: target.wind_mph * M_S_PER_MPH, left_m_s: 0.0 };
    let rated = |style| Release::rated(target.mph * M_S_PER_MPH, Hand::Right, style);
    let made = |numbers: &FlightNumbers| disc(calibration, numbers, target.mass_kg);
    let one = |style: Style| Throw {
        disc: made(&target.numbers),
        release: Release {
            launch_deg: target.launch_deg,
            hyzer_deg: target.hyzer_deg,
            nose_deg: target.nose_deg,
            ..rated(style)
        },
        wind,
    };
    let grid = |numbers: &FlightNumbers, hyzers: &[f64], wind: Wind| -> Vec<Throw> {
        let (disc, usual) = (made(numbers), rated(target.style));
        let mut throws = Vec::with_capacity(LAUNCHES.len() * hyzers.len() * NOSES.len());
        for &launch_deg in &LAUNCHES {
            for &hyzer_deg in hyzers {
                for &nose_deg in &NOSES {
                    throws.push(Throw {
                        disc,
                        release: Release { launch_deg, hyzer_deg, nose_deg, ..usual },
                        wind,
                    });
                }
            }
        }
        throws
    };
    let against = |a: Vec<Throw>, b: Vec<Throw>| Throws { compared: a.len(), all: [a, b].concat() };
    match target.quantity {
        Quantity::Best => against(grid(&target.numbers, &HYZERS, wind), vec![]),
        Quantity::Reach => {
            against(ORDINARY.iter().flat_map(|numbers| grid(numbers, &HYZERS, wind)).collect(), vec![])
        }
        Quantity::Flip => {
            against(grid(&target.numbers, &[target.hyzer_deg], wind), grid(&target.numbers, &[0.0], wind))
        }
        Quantity::Tail => {
            against(grid(&target.numbers, &HYZERS, wind), grid(&target.numbers, &HYZERS, Wind::CALM))
        }
        Quantity::MoreSwing | Quantity::LessFinish => {
            against(vec![one(target.style)], vec![one(Style::Backhand)])
        }
        _ => against(vec![one(target.style)], vec![]),
    }
}

/// What a target asks, read from its flights.
fn value_of(target: &Target, flights: &[Outcome], compared: usize) -> f64 {
    let (own, others) = flights.split_at(compared);
    let farthest = |of: &[Outcome]| of.iter().map(|o| o.distance_m()).fold(0.0, f64::max) * FEET_PER_M;
    let side = |style| spin_sense(Hand::Right, style);
    let swing = |o: &Outcome, style| {
        FEET_PER_M * if side(style) > 0.0 { o.farthest_right_m } else { o.farthest_left_m }
    };
    let finish = |o: &Outcome, style| -FEET_PER_M * side(style) * o.y_m;
    let flight = &own[0];
    match target.quantity {
        Quantity::Best | Quantity::Reach => farthest(own),
        Quantity::Flip | Quantity::Tail => farthest(own) - farthest(others),
        Quantity::Distance => flight.distance_m() * FEET_PER_M,
        Quantity::Swing => swing(flight, target.style),
        Quantity::Finish => finish(flight, target.style),
        Quantity::MoreSwing => swing(flight, target.style) - swing(&others[0], Style::Backhand),
        Quantity::LessFinish => finish(flight, target.style) - finish(&others[0], Style::Backhand),
        Quantity::Early => {
            flight.crossings.get(0).map_or(0.0, |c| side(target.style) * f64::from(c.y_m)) * FEET_PER_M
        }
        Quantity::Apex => flight.apex_m * FEET_PER_M,
        Quantity::Time => flight.time_s,
        Quantity::Descent => flight.descent_deg(),
    }
}

/// Where "early" is, m.
const EARLY_M: f64 = 100.0 / FEET_PER_M;

/// What each target asks, by a calibration.
pub fn models(calibration: &Calibration, targets: &[Target]) -> Vec<f64> {
    let throws: Vec<Throws> = targets.iter().map(|t| throws_of(calibration, t)).collect();
    let all: Vec<Throw> = throws.iter().flat_map(|t| &t.all).copied().collect();
    let flights = fly_all(&all, &Air::default(), &[EARLY_M]);
    let mut rest = flights.as_slice();
    let mut values = Vec::with_capacity(targets.len());
    for (target, throws) in targets.iter().zip(&throws) {
        let (own, others) = rest.split_at(throws.all.len());
        values.push(value_of(target, own, throws.compared));
        rest = others;
    }
    values
}

/// How much more a row of the rated table counts than its sigma says: the others must not bend what is printed on discs.
const RATED_WEIGHT: f64 = 1.6;

/// Difference in units of sigma, zero on the free side of a one-sided target.
pub fn misfit(target: &Target, value: f64) -> f64 {
    let d = (value - target.value) / target.sigma * if target.rated { RATED_WEIGHT } else { 1.0 };
    match target.side {
        Side::AtMost => d.max(0.0),
        Side::AtLeast => d.min(0.0),
        Side::Equal => d,
    }
}
