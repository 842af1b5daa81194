//! The forecast of a weather program, pulled over HTTP when the player asks for it.

use std::net::IpAddr;
use std::time::Duration;

use jiff::civil::Date;
use ureq::Agent;
use ureq::http::Uri;
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
    let url = format!("{}/hourly?date={date}", address.trim_end_matches('/'));
    let agent = agent(&url);
    let mut answer = agent.get(&url).call().map_err(|e| failed(format!("did not tell: {e}")))?;
    if answer.status().is_redirection() {
        // Only the program that was named is asked.
        return Err(failed("leads elsewhere; name the address it leads to with --weather".into()));
    }
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
    Ok((day.hours, told.place.chars().filter(|c| shows(*c)).take(60).collect()))
}

/// What asks: no redirects, and no proxy for a program on this machine.
fn agent(url: &str) -> Agent {
    let config = Agent::config_builder()
        .timeout_global(Some(PATIENCE))
        .max_redirects(0)
        .max_redirects_will_error(false);
    let host = url.parse::<Uri>().ok().and_then(|uri| uri.host().map(str::to_owned)).unwrap_or_default();
    let address = host.trim_matches(['[', ']']).parse::<IpAddr>();
    let here = host.eq_ignore_ascii_case("localhost") || address.is_ok_and(|a| a.is_loopback());
    let config = if here { config.proxy(None) } else { config };
    config.build().into()
}

/// Whether a letter shows, or is a mark that turns the direction of those about it (Unicode Standard Annex 9, table 1).
fn shows(c: char) -> bool {
    let turns =
        matches!(c, '\u{61c}' | '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}');
    !c.is_control() && !turns
}
