//! The range: throws side by side.

use actix_web::HttpResponse;
use actix_web::web::{Data, Json, Query, ServiceConfig, get, post};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use zinc_kite_bag::disc::spec::{DiscId, Numbers};
use zinc_kite_bag::disc::thrown::Thrown;
use zinc_kite_bag::disc::thrown::thrown;
use zinc_kite_bag::error::{BagError, within};
use zinc_kite_bag::need::line::Ground;
use zinc_kite_bag::range::throws::{RangeFlight, Setting, range, roller, usual};
use zinc_kite_bag::range::vary::{Variation, Vary, vary};
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_flight::numbers::FlightNumbers;

use super::body::Sent;
use super::resource;
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::range_csv::{RangeTable, write};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/range", "POST", [post().to(fly)]))
        .service(resource("/api/range/usual", "GET", [get().to(usuals)]))
        .service(resource("/api/range/vary", "POST", [post().to(varied)]))
        .service(resource("/api/range.csv", "POST", [post().to(export)]));
}

/// What is thrown.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum RangeDisc {
    /// A disc of the shelf, as it is today.
    Shelf {
        /// Which.
        #[schema(value_type = i64)]
        disc_id: DiscId,
    },
    /// An ordinary fresh disc that flies by its numbers.
    Numbers {
        /// The numbers.
        numbers: Numbers,
        /// Mass, g, 100 to 220.
        #[schema(minimum = 100.0, maximum = 220.0)]
        mass_g: f64,
    },
}

/// One throw of the range.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct RangeThrow {
    /// Name, for tables.
    #[serde(default)]
    name: String,
    /// What is thrown.
    disc: RangeDisc,
    /// How.
    setting: Setting,
}

/// What to fly.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct RangeRequest {
    /// The day.
    #[serde(default)]
    day: Conditions,
    /// The ground they come down on.
    #[serde(default)]
    ground: Ground,
    /// One to six throws.
    #[schema(min_items = 1, max_items = 6)]
    throws: Vec<RangeThrow>,
}

fn body(app: &App, disc: &RangeDisc) -> Result<Thrown, ApiError> {
    match *disc {
        RangeDisc::Shelf { disc_id } => Ok(thrown(&app.store().disc(disc_id)?)?),
        RangeDisc::Numbers { numbers, mass_g } => {
            within("mass_g", mass_g, 100.0, 220.0)?;
            let body = FlightNumbers::from(numbers).disc(mass_g / 1000.0).map_err(BagError::from)?;
            Ok(Thrown::ordinary(body, numbers.speed))
        }
    }
}

fn flown(app: &App, request: &RangeRequest) -> Result<Vec<RangeFlight>, ApiError> {
    let player = app.store().player()?.unwrap_or_default();
    let throws = request
        .throws
        .iter()
        .map(|t| Ok((body(app, &t.disc)?, t.setting)))
        .collect::<Result<Vec<_>, ApiError>>()?;
    Ok(app.quickly(|| range(&player, &request.day, request.ground, &throws))?)
}

#[utoipa::path(post, path = "/api/range", operation_id = "fly_range", request_body = RangeRequest, responses(
    (status = 200, description = "A flight for each throw, in their order", body = [RangeFlight]),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn fly(
    app: Data<App>,
    request: Sent<RangeRequest>,
) -> Result<Json<Vec<RangeFlight>>, ApiError> {
    off_thread(&app, move |app| Ok(Json(flown(app, &request)?))).await
}

#[utoipa::path(get, path = "/api/range/usual", operation_id = "usual_settings", responses(
    (status = 200, description = "The setting from which each style is usually thrown, and after these the one from which a roller is, backhand and forehand", body = [Setting])))]
pub(super) async fn usuals() -> Json<Vec<Setting>> {
    Json(Style::ALL.map(usual).into_iter().chain(Style::ROLLING.map(roller)).collect())
}

/// What to change in which throw.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct VaryRequest {
    /// The throw.
    setting: Setting,
    /// What is to differ.
    what: Vary,
    /// The day, where the throw has none of its own.
    #[serde(default)]
    day: Conditions,
}

#[utoipa::path(post, path = "/api/range/vary", operation_id = "vary_setting", request_body = VaryRequest, responses(
    (status = 200, description = "Six throws that differ in one thing", body = Variation),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn varied(request: Sent<VaryRequest>) -> Result<Json<Variation>, ApiError> {
    Ok(Json(vary(&request.setting, request.what, &request.day)?))
}

/// What to write down.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Wanted {
    /// Figures of each throw, or the points of their paths.
    #[param(inline)]
    table: RangeTable,
}

#[utoipa::path(post, path = "/api/range.csv", operation_id = "export_range", params(Wanted),
    request_body = RangeRequest, responses(
    (status = 200, body = String, content_type = "text/csv"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn export(
    app: Data<App>,
    wanted: Query<Wanted>,
    request: Sent<RangeRequest>,
) -> Result<HttpResponse, ApiError> {
    let text = off_thread(&app, move |app| {
        let flights = flown(app, &request)?;
        let named: Vec<(&str, &RangeFlight)> =
            request.throws.iter().map(|t| t.name.as_str()).zip(&flights).collect();
        write(&named, wanted.table).map_err(|e| ApiError::Unreadable { detail: e.to_string() })
    })
    .await?;
    Ok(HttpResponse::Ok().content_type("text/csv; charset=utf-8").body(text))
}
