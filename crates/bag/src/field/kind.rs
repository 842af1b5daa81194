//! Throws of a log by kind: meant alike, in much the same wind and air. Such throws are flown as one.

use jiff::ToSpan;
use jiff::civil::Date;

use crate::field::meant::wind_parts;
use crate::field::session::{FieldSession, Purpose};
use crate::field::throw::{FieldThrow, Measured, WindThen};

/// Winds and powers as near to one another as this are flown as one: m/s, percent.
const WIND_STEP_M_S: f64 = 1.0;
const POWER_STEP_PCT: f64 = 5.0;

/// Throws so long before the latest, months, are of a disc that was less worn and of another arm. Own judgement.
const STILL_SAY_MONTHS: i64 = 12;

/// The day from which on throws still say something.
pub(crate) fn still_say_since(throws: &[Measured<'_>]) -> Date {
    let latest = throws.iter().map(|m| m.session.date).max().unwrap_or(Date::ZERO);
    latest.saturating_sub(STILL_SAY_MONTHS.months())
}

/// Throws that are flown as one, `T` each.
pub(crate) struct Kind<T> {
    /// The air they flew in and what they came down on.
    pub session: FieldSession,
    /// How they were meant, and in which wind.
    pub like: FieldThrow,
    /// They themselves.
    pub throws: Vec<T>,
}

/// A throw as those like it are flown.
pub(crate) fn rounded(throw: &FieldThrow) -> FieldThrow {
    let wind = wind_parts(&throw.wind);
    let step = |x: f64| WIND_STEP_M_S * (x / WIND_STEP_M_S).round();
    let (along, left) = (step(wind.0), step(wind.1));
    let power = throw.power_pct.map(|p| POWER_STEP_PCT * (p / POWER_STEP_PCT).round());
    // A disc that has been given another name since is the same.
    let name = if throw.disc_id.is_some() { "" } else { throw.disc_name.as_str() };
    FieldThrow {
        disc_id: throw.disc_id,
        power_pct: power,
        wind: WindThen {
            wind_m_s: along.hypot(left),
            from_deg: left.atan2(-along).to_degrees().rem_euclid(360.0),
        },
        ..FieldThrow::named(name, throw.style, throw.meant)
    }
}

/// What of a session the flights depend on.
pub(crate) fn air_of(session: &FieldSession) -> FieldSession {
    FieldSession {
        // Neither the day nor what it was for bends a flight.
        date: Date::ZERO,
        purpose: Purpose::Practice,
        place: String::new(),
        note: String::new(),
        tee: None,
        aim_deg: None,
        trial: None,
        ..session.clone()
    }
}

/// Throws by kind, each disc apart, in the order of their first.
pub(crate) fn kinds<'a>(throws: &[Measured<'a>]) -> Vec<Kind<Measured<'a>>> {
    kinds_by(throws.iter().copied(), |measured| *measured)
}

/// Things that are about throws, by their kind.
pub(crate) fn kinds_by<'a, T>(
    things: impl IntoIterator<Item = T>,
    throw_of: impl Fn(&T) -> Measured<'a>,
) -> Vec<Kind<T>> {
    let mut kinds: Vec<Kind<T>> = Vec::new();
    for thing in things {
        let measured = throw_of(&thing);
        let (session, like) = (air_of(measured.session), rounded(measured.throw));
        match kinds.iter_mut().find(|k| k.session == session && k.like == like) {
            Some(kind) => kind.throws.push(thing),
            None => kinds.push(Kind { session, like, throws: vec![thing] }),
        }
    }
    kinds
}
