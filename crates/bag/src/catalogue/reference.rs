//! The reference disc of a peg: the one disc of an ordinary family whose flat, full, calm flight finishes in the middle of
//! the peg's window at this arm. What it does is what a peg's line asks for.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::air::Wind;
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::Release;

use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::player::{BEGINNER_UNTIL_M, School, Units};
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::words::{degrees, distance, speed};

/// Mass of a reference disc, kg.
pub(crate) const REFERENCE_MASS_KG: f64 = 0.175;
/// The family from its most overstable disc to its most understable one.
const FAMILY: (f64, f64) = (-1.4, 1.0);
const STEPS: usize = 49;

/// Ordinary speed and glide of a slot. Own judgement.
fn usual(slot: Slot) -> (f64, f64) {
    match slot {
        Slot::Putter => (3.0, 3.0),
        Slot::MidRange => (5.0, 4.0),
        Slot::Fairway => (8.0, 5.0),
        Slot::Control => (10.5, 5.0),
        Slot::Distance | Slot::Utility => (12.0, 5.0),
    }
}

/// A disc of a slot's family, no faster than a `ceiling`: `u` 0 is ordinary, −1 very overstable, +1 very understable. Own
/// judgement.
pub fn family(slot: Slot, ceiling: Option<f64>, u: f64) -> FlightNumbers {
    let (speed, glide) = usual(slot);
    let speed = ceiling.map_or(speed, |most| speed.min(most));
    if u >= 0.0 {
        FlightNumbers::new(speed, glide, -1.0 - 3.5 * u, 1.5 * (1.0 - u))
    } else {
        let over = -u;
        FlightNumbers::new(speed, glide - 0.5 * over, -1.0 + 1.2 * over, 1.5 + 3.0 * over)
    }
}

/// Finish that a peg's reference disc has, degrees toward the fade side: the middle of its window, of the open ones a place
/// well inside.
fn wanted_deg(peg: Peg) -> f64 {
    match peg {
        Peg::Hook => 11.5,
        Peg::Lean => 7.25,
        Peg::Rail => 2.5,
        Peg::Drift => -2.5,
        Peg::Slide => -7.5,
    }
}

/// A peg of a slot that this arm has no use for.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Unwanted {
    /// The slot.
    pub slot: Slot,
    /// The peg.
    pub peg: Peg,
    /// Why.
    pub reason: String,
}

/// The family of a slot at an arm: how each of its discs finishes.
pub struct Family {
    slot: Slot,
    speed_m_s: f64,
    ceiling: Option<f64>,
    units: Units,
    /// Finish at each step, degrees, never rising.
    finish_deg: Vec<f64>,
}

fn step(k: usize) -> f64 {
    FAMILY.0 + (FAMILY.1 - FAMILY.0) * k as f64 / (STEPS - 1) as f64
}

impl Family {
    /// Flies the family flat, full and calm.
    pub fn of(arm: &Arm, style: Style, slot: Slot) -> Family {
        let side = arm.natural_side(style);
        let throws: Vec<Throw> = (0..STEPS)
            .filter_map(|k| {
                let numbers = family(slot, arm.ceiling, step(k));
                let release = arm.release(style, numbers.speed, 1.0);
                Some(Throw { disc: numbers.disc(REFERENCE_MASS_KG).ok()?, release, wind: Wind::CALM })
            })
            .collect();
        let mut least = f64::INFINITY;
        let finish_deg = fly_all(&throws, &arm.air.still(), &[])
            .iter()
            .map(|o| {
                // Past a certain turn a fast disc rolls over: it is no more understable for coming round again.
                least = least.min(side * o.y_m.atan2(o.x_m).to_degrees());
                least
            })
            .collect();
        let speed_m_s = throws.first().map_or(0.0, |t| t.release.speed_m_s);
        Family { slot, speed_m_s, ceiling: arm.ceiling, units: arm.units, finish_deg }
    }

    fn at(&self, finish_deg: f64) -> f64 {
        let f = &self.finish_deg;
        let Some(k) = (1..f.len()).find(|&k| f[k] <= finish_deg) else { return FAMILY.1 };
        let fall = f[k - 1] - f[k];
        let share = if fall > 1e-9 { ((f[k - 1] - finish_deg) / fall).clamp(0.0, 1.0) } else { 1.0 };
        step(k - 1) + share * (step(k) - step(k - 1))
    }

    /// The disc that comes nearest to a peg, whether it gets there or not.
    pub fn nearest(&self, peg: Peg) -> FlightNumbers {
        family(self.slot, self.ceiling, self.at(wanted_deg(peg)))
    }

    /// The most understable disc of the family, and the most hyzer, degrees, from which it stands up, full and calm, and
    /// finishes where it set out; `None` if it stands up from less than [`LEAST_FLIP_DEG`].
    pub fn flip(&self, arm: &Arm, style: Style) -> Option<(FlightNumbers, f64)> {
        let numbers = family(self.slot, self.ceiling, FAMILY.1);
        let disc = numbers.disc(REFERENCE_MASS_KG).ok()?;
        let flat = arm.release(style, numbers.speed, 1.0);
        let hyzers: Vec<f64> = (0..=24).map(f64::from).collect();
        let throw =
            |&hyzer_deg: &f64| Throw { disc, release: Release { hyzer_deg, ..flat }, wind: Wind::CALM };
        let throws: Vec<Throw> = hyzers.iter().map(throw).collect();
        let flights = fly_all(&throws, &arm.air.still(), &[]);
        let side = arm.natural_side(style);
        let stands_up = |o: &Outcome| side * o.y_m <= 0.0;
        let stood = flights.iter().take_while(|o| stands_up(o)).count();
        let hyzer_deg = *hyzers.get(stood.checked_sub(1)?)?;
        (hyzer_deg >= LEAST_FLIP_DEG).then_some((numbers, hyzer_deg))
    }

    /// The reference disc of a peg.
    ///
    /// # Errors
    /// [`Unwanted`] if no disc of the family gets there at this arm.
    pub fn reference(&self, peg: Peg) -> Result<FlightNumbers, Unwanted> {
        let (first, last) =
            (self.finish_deg.first().copied().unwrap_or(0.0), self.finish_deg.last().copied().unwrap_or(0.0));
        let unwanted = |reason: String| Err(Unwanted { slot: self.slot, peg, reason });
        let label = self.slot.label();
        if let Some(most) = self.ceiling.filter(|most| *most < SLOWEST_OF_FAST && is_fast(self.slot)) {
            return unwanted(format!(
                "the beginner's school stays at speed {most} and below until you throw {} with control of nose and angle",
                distance(self.units, BEGINNER_UNTIL_M)
            ));
        }
        let (least, most) = peg.window_deg(School::Five);
        let (highest, lowest) = match peg {
            // Windows without an end: anywhere inside will do.
            Peg::Hook => (wanted_deg(peg) + NEAR_DEG, least),
            Peg::Slide => (most, wanted_deg(peg) - NEAR_DEG),
            _ => (wanted_deg(peg) + NEAR_DEG, wanted_deg(peg) - NEAR_DEG),
        };
        if last > highest {
            return unwanted(format!(
                "no {label} disc turns over enough at {}: the most understable one finishes at {}",
                speed(self.units, self.speed_m_s),
                degrees(last)
            ));
        }
        if first < lowest {
            return unwanted(format!(
                "no {label} disc comes back that far at {}: the most overstable one finishes at {}",
                speed(self.units, self.speed_m_s),
                degrees(first)
            ));
        }
        Ok(self.nearest(peg))
    }
}

/// The slots of discs that are faster than fairway drivers, and the slowest of these.
fn is_fast(slot: Slot) -> bool {
    matches!(slot, Slot::Control | Slot::Distance)
}
const SLOWEST_OF_FAST: f64 = 10.0;

/// A disc that stands up only from less hyzer than this, degrees, is one thrown flat. Own judgement.
pub const LEAST_FLIP_DEG: f64 = 4.0;
/// How near to the middle of its window a peg's reference disc must come, degrees.
const NEAR_DEG: f64 = 1.0;

/// Pegs of a school that a slot wants at this arm, and those it does not, with the reason.
pub fn wanted(family: &Family, school: School) -> (Vec<Peg>, Vec<Unwanted>) {
    let mut pegs = (vec![], vec![]);
    for &peg in Peg::wanted(family.slot, school) {
        match family.reference(peg) {
            Ok(_) => pegs.0.push(peg),
            Err(unwanted) => pegs.1.push(unwanted),
        }
    }
    pegs
}
