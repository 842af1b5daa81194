//! How far can I be in the fairway? What the farthest of the ordinary drivers reaches at this arm in this weather.

use std::borrow::Cow;

use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::release::Release;
use zinc_kite_flight::settle::settle_all;

use crate::catalogue::reference::REFERENCE_MASS_KG;
use crate::disc::thrown::Thrown;
use crate::need::line::{Line, LineSpec};
use crate::thrower::arm::{Arm, DRIVERS, releases_for_distance};
use crate::thrower::style::Style;

/// Drivers up to this speed are fairway drivers.
const FAIRWAY_SPEED: f64 = 9.0;

/// How far a disc can be thrown at rest, m, and the throw that does it; rolling is another shot.
pub(crate) fn farthest(arm: &Arm, style: Style, numbers: &FlightNumbers) -> Option<(f64, Release)> {
    let thrown = Thrown::ordinary(numbers.disc(REFERENCE_MASS_KG).ok()?, numbers.speed);
    let usual = arm.release(style, numbers.speed, 1.0);
    let throws: Vec<Throw> = releases_for_distance(usual)
        .into_iter()
        .map(|release| Throw { disc: thrown.body, release, wind: arm.wind })
        .collect();
    let mut flights = fly_all(&throws, &arm.air, &[]);
    settle_all(&mut flights, &thrown.contact(LineSpec::usual(style).ground, &arm.air), &[]);
    let best = (0..throws.len())
        .filter(|&k| !flights[k].rolled)
        .max_by(|&a, &b| flights[a].distance_m().total_cmp(&flights[b].distance_m()))?;
    Some((flights[best].distance_m(), throws[best].release))
}

/// The farthest of the ordinary drivers at this arm in this weather, how far it comes to rest (m), and what a faster driver
/// adds to a fairway driver there (m, 0 if nothing).
pub struct Reach {
    /// The driver.
    pub numbers: FlightNumbers,
    /// How far it comes to rest, m.
    pub distance_m: f64,
    /// What drivers faster than fairway drivers add, m.
    pub faster_adds_m: f64,
    /// How it is thrown.
    pub(crate) release: Release,
}

/// Works it out.
pub fn reach(arm: &Arm, style: Style) -> Option<Reach> {
    let allowed = DRIVERS.iter().filter(|n| arm.ceiling.is_none_or(|most| n.speed <= most));
    let each = allowed.filter_map(|numbers| Some((*numbers, farthest(arm, style, numbers)?)));
    let each: Vec<(FlightNumbers, (f64, Release))> = each.collect();
    let of = |fast: bool| {
        let among = each.iter().filter(|(n, _)| (n.speed > FAIRWAY_SPEED) == fast);
        among.map(|(_, (d, _))| *d).fold(0.0, f64::max)
    };
    let (numbers, (distance_m, release)) = each.iter().max_by(|a, b| a.1.0.total_cmp(&b.1.0))?;
    Some(Reach {
        numbers: *numbers,
        distance_m: *distance_m,
        faster_adds_m: (of(true) - of(false)).max(0.0),
        release: *release,
    })
}

/// The line as it is asked at this arm in this weather: a generated line that means "as far as I can" moves with the
/// farthest that can be reached; every other stands as it is.
pub fn asked<'a>(line: &'a Line, arm: &Arm) -> Cow<'a, LineSpec> {
    let spec = &line.spec;
    if !(line.generated && spec.open_ended) {
        return Cow::Borrowed(spec);
    }
    let Some(there) = reach(arm, spec.style) else { return Cow::Borrowed(spec) };
    let ratio = (there.distance_m / spec.distance_m).clamp(0.3, 2.0);
    let gates = spec.gates.iter().map(|g| crate::need::line::Gate { at_m: (g.at_m * ratio).max(1.0), ..*g });
    Cow::Owned(LineSpec {
        distance_m: (spec.distance_m * ratio).clamp(10.0, 200.0),
        gates: gates.collect(),
        ..spec.clone()
    })
}
