//! What instruments say.

use actix_web::web::{Data, Json, ServiceConfig, get};
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_bag::course::survey::{ReadFrom, Reading};
use zinc_kite_bag::thrower::arm::meter_at_10_m;

use super::resource;
use crate::app::App;
use crate::error::Problem;
use crate::format::nmea::SaidWind;
use crate::format::rangefinder::Shot;
use crate::listen::Heard;

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(resource("/api/instruments", "GET", [get().to(show)]));
}

/// A reading of a rangefinder, and how far on the level that is.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct LevelShot {
    #[serde(flatten)]
    shot: Shot,
    /// Level distance, m.
    level_m: f64,
    /// How much higher it lies, m.
    height_m: f64,
}

impl From<Shot> for LevelShot {
    fn from(shot: Shot) -> LevelShot {
        let Shot { distance_m, bearing_deg, slope_deg } = shot;
        let (level_m, height_m) = Reading { from: ReadFrom::Tee, distance_m, bearing_deg, slope_deg }.level();
        LevelShot { shot, level_m, height_m }
    }
}

/// A wind as a meter in the hand says it, and what that is higher up.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct HandWind {
    #[serde(flatten)]
    said: SaidWind,
    /// How strong it is at 10 m over open ground, as forecasts tell it, m/s.
    at_10_m_m_s: f64,
}

impl From<SaidWind> for HandWind {
    fn from(said: SaidWind) -> HandWind {
        HandWind { said, at_10_m_m_s: meter_at_10_m(said.wind_m_s) }
    }
}

/// What is listened to.
#[derive(Debug, Serialize, ToSchema)]
pub struct InstrumentsHeard {
    /// The rangefinder; null if none was named at the start.
    rangefinder: Option<Heard<LevelShot>>,
    /// The wind meter; null if none was named at the start.
    wind_meter: Option<Heard<HandWind>>,
}

#[utoipa::path(get, path = "/api/instruments", operation_id = "hear_instruments", responses(
    (status = 200, description = "What the instruments said last, how long ago and how well", body = InstrumentsHeard), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>) -> Json<InstrumentsHeard> {
    let heard = app.instruments();
    Json(InstrumentsHeard {
        rangefinder: heard.rangefinder.as_ref().map(|r| r.heard().map(LevelShot::from)),
        wind_meter: heard.wind_meter.as_ref().map(|m| m.heard().map(HandWind::from)),
    })
}
