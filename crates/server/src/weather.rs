//! The forecast of a weather program, pulled over HTTP when the player asks for it.

use std::time::Duration;

use jiff::civil::Date;
use ureq::Agent;
use zinc_kite_bag::course::weather::{Hour, PlayingDay};

use crate::error::ApiError;
use crate::instrument::weather::Forecast;

/// How long it may take to answer.
const PATIENCE: Duration = Duration::from_secs(4);
/// Longest answer that is read, bytes: a day by the hour takes two thousand.
const LONGEST: u64 = 64 << 10;

/// Hours of a day as a weather program at an address tells them, and of which place.
///
/// # Errors
/// [`ApiError::Weather`] if it does not answer, or with what is no forecast of that day.
pub fn pulled(address: &str, date: Date) -> Result<(Vec<Hour>, String), ApiError> {
    let failed = |what: String| ApiError::Weather {
        detail: format!("the weather program at {address} {what}; try again, or type the forecast"),
    };
    let agent: Agent = Agent::config_builder().timeout_global(Some(PATIENCE)).build().into();
    let url = format!("{}/hourly?date={date}", address.trim_end_matches('/'));
    let mut answer = agent.get(&url).call().map_err(|e| failed(format!("did not tell: {e}")))?;
    let body = answer.body_mut().with_config().limit(LONGEST).read_to_string();
    let body = body.map_err(|e| failed(format!("did not tell to the end: {e}")))?;
    let told: Forecast =
        serde_json::from_str(&body).map_err(|e| failed(format!("told what is no forecast: {e}")))?;
    if told.date != date {
        return Err(failed(format!("was asked for {date} and told of {}", told.date)));
    }
    if told.hours.is_empty() {
        return Err(failed("told no hour of that day".into()));
    }
    let day = PlayingDay { hours: told.hours, ..PlayingDay::default() };
    day.validate().map_err(|e| failed(format!("told what cannot be: {e}")))?;
    Ok((day.hours, told.place.chars().filter(|c| !c.is_control()).take(60).collect()))
}
