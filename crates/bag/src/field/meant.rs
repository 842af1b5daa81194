//! What a throw in the field was meant to be, and where such throws end.

use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{Release, Style as Kind};
use zinc_kite_flight::scatter::{DIMENSIONS, Spread};
use zinc_kite_flight::settle::settle_all;

use crate::disc::thrown::Thrown;
use crate::error::BagError;
use crate::field::session::FieldSession;
use crate::field::throw::{FieldThrow, Meant, WindThen};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;

/// Hyzer of a throw that is meant on hyzer, and of one that is meant on anhyzer, degrees. Own judgement: what players mean by a test
/// throw on hyzer is clearly tilted and far from on its side.
const ON_HYZER_DEG: f64 = 20.0;
const ON_ANHYZER_DEG: f64 = -15.0;

/// The share by which the wind of a measured throw gusts about what was read, as a standard deviation. Own judgement: a reading at the
/// moment of the throw leaves less open than a forecast.
const GUSTS: f64 = 0.15;

/// A throw as it was meant, and how its player's throws scatter about it.
#[derive(Debug, Clone, Copy)]
pub struct MeantThrow {
    /// The throw.
    pub throw: Throw,
    /// How the release scatters.
    pub spread: Spread,
    /// How the wind does, m/s.
    pub gust_m_s: f64,
}

/// A wind by its parts along and left of the throw, m/s.
pub(crate) fn wind_parts(wind: &WindThen) -> (f64, f64) {
    let day = Conditions { wind_m_s: wind.wind_m_s, wind_from_deg: wind.from_deg, ..Conditions::default() };
    let wind = day.wind();
    (wind.along_m_s, wind.left_m_s)
}

/// The day of a throw.
pub fn day_of(session: &FieldSession, wind: &WindThen) -> Conditions {
    Conditions {
        wind_m_s: wind.wind_m_s,
        wind_from_deg: wind.from_deg,
        gust_m_s: (GUSTS * wind.wind_m_s).min(8.0),
        temperature_c: session.temperature_c,
        altitude_m: session.altitude_m,
        wet: session.wet,
        ..Conditions::default()
    }
}

/// What a throw of a disc was meant to be: the usual release of its style, level for a flat one, at the share of power that was meant,
/// in the wind at the throw. Overhand throws and putts have one way to leave the hand.
///
/// # Errors
/// [`BagError`] for a player, a session or a throw outside its ranges.
pub fn meant(
    player: &Player,
    session: &FieldSession,
    throw: &FieldThrow,
    thrown: &Thrown,
) -> Result<MeantThrow, BagError> {
    let arm = Arm::of(player, &day_of(session, &throw.wind))?;
    let power = throw.power_pct.unwrap_or(100.0) / 100.0;
    let usual = arm.release(throw.style, thrown.speed, power);
    let hyzer_deg = match throw.meant {
        _ if usual.style.is_overhand() || usual.style == Kind::Putt => usual.hyzer_deg,
        Meant::Flat => 0.0,
        Meant::Hyzer => ON_HYZER_DEG,
        Meant::Anhyzer => ON_ANHYZER_DEG,
    };
    let wet = if arm.wet { thrown.wet_spread } else { 1.0 };
    Ok(MeantThrow {
        throw: Throw { disc: thrown.body, release: Release { hyzer_deg, ..usual }, wind: arm.wind },
        spread: arm.spread(throw.style, thrown.speed, power).scaled(wet),
        gust_m_s: arm.gust_m_s,
    })
}

/// Where throws end that were meant alike, each by the deviates of its release and its wind.
///
/// # Errors
/// [`BagError`] for a player or a session outside its ranges.
pub fn ends(
    player: &Player,
    session: &FieldSession,
    meant: &MeantThrow,
    thrown: &Thrown,
    deviates: &[[f64; DIMENSIONS]],
) -> Result<Vec<Outcome>, BagError> {
    ends_past(player, session, meant, thrown, deviates, &[])
}

/// The same with where each passed distances down-range, m.
pub(crate) fn ends_past(
    player: &Player,
    session: &FieldSession,
    meant: &MeantThrow,
    thrown: &Thrown,
    deviates: &[[f64; DIMENSIONS]],
    gates: &[f64],
) -> Result<Vec<Outcome>, BagError> {
    let arm = Arm::of(player, &day_of(session, &WindThen::default()))?;
    let throws: Vec<Throw> =
        deviates.iter().map(|z| meant.spread.displace(&meant.throw, meant.gust_m_s, z)).collect();
    let mut outcomes = fly_all(&throws, &arm.air, gates);
    settle_all(&mut outcomes, &thrown.contact(session.ground, &arm.air), gates);
    Ok(outcomes)
}
