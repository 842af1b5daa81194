//! A course on a day: the card, what to take, and the weather.

use actix_web::web::{Data, Json, Path, Query, ServiceConfig, get, post};
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use zinc_kite_bag::course::hole::CourseId;
use zinc_kite_bag::course::weather::Hour;
use zinc_kite_bag::plan::build::Wishes;
use zinc_kite_bag::plan::round::card::RoundCard;
use zinc_kite_bag::plan::round::pack::{Packing, pack};

use super::body::Sent;
use super::build::at_desk;
use super::resource;
use crate::app::{App, StopWhenDropped, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::BagId;
use crate::weather::pulled;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/weather", "GET", [get().to(weather)]))
        .service(resource("/api/bags/{id}/card/{course}", "GET", [get().to(round_card)]))
        .service(resource("/api/bags/{id}/pack/{course}", "POST", [post().to(packing)]));
}

#[utoipa::path(get, path = "/api/bags/{id}/card/{course}", operation_id = "round_card", params(("id" = i64, Path), ("course" = i64, Path)), responses(
    (status = 200, description = "Hole by hole what to throw from this bag, on the day told of the course", body = RoundCard), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn round_card(
    app: Data<App>,
    at: Path<(BagId, CourseId)>,
) -> Result<Json<RoundCard>, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    off_thread(&app, move |app| {
        let (bag, course) = at.into_inner();
        let spec = app.store().course(course)?.spec;
        Ok(Json(app.card(bag, &spec, &work)?))
    })
    .await
}

#[utoipa::path(post, path = "/api/bags/{id}/pack/{course}", operation_id = "pack_bag", params(("id" = i64, Path), ("course" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "What to take to this course on its day instead of what the bag holds", body = Packing), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn packing(
    app: Data<App>,
    at: Path<(BagId, CourseId)>,
    wishes: Sent<Wishes>,
) -> Result<Json<Packing>, ApiError> {
    let (id, course) = at.into_inner();
    let asked = app.clone();
    let (bag, spec) =
        off_thread(&asked, move |app| Ok((app.bag(id)?, app.store().course(course)?.spec))).await?;
    // Nothing new is bought for one round.
    let wishes = Wishes { buying: None, ..wishes.0 };
    at_desk(app, id, wishes, move |app, desk, carried, wishes, work| {
        let day = spec.day.clone().unwrap_or_default();
        pack(desk, wishes, (&bag.spec, carried), (&spec, &day), &app.memo, work)
    })
    .await
}

/// Of which day the weather is asked.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WeatherOf {
    /// The day; absent for today.
    #[param(value_type = Option<String>, format = Date)]
    date: Option<Date>,
}

/// What a weather program tells of a day.
#[derive(Debug, Serialize, ToSchema)]
pub struct PulledWeather {
    /// The day.
    #[schema(value_type = String, format = Date)]
    date: Date,
    /// Hour by hour.
    hours: Vec<Hour>,
    /// Where it is from, to be kept beside it.
    source: String,
}

#[utoipa::path(get, path = "/api/weather", operation_id = "pull_weather", params(WeatherOf), responses(
    (status = 200, description = "The hours of a day as the weather program that was named at the start tells them", body = PulledWeather), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn weather(app: Data<App>, of: Query<WeatherOf>) -> Result<Json<PulledWeather>, ApiError> {
    off_thread(&app, move |app| {
        let today = app.store().today()?;
        let date = of.date.unwrap_or(today);
        let (hours, place) = pulled(app.weather()?, date)?;
        let source = format!("Weather of {place}, pulled on {today}");
        Ok(Json(PulledWeather { date, hours, source }))
    })
    .await
}
