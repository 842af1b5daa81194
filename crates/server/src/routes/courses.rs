//! Courses and their holes.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Bytes, Data, Json, Path, Query, ServiceConfig, delete, get, post, put};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};
use zinc_kite_bag::course::hole::{CourseId, CourseSpec, Hole};
use zinc_kite_bag::course::survey::{Reading, RecordVerdict, Traced, holes, trace};
use zinc_kite_bag::error::within;
use zinc_kite_bag::need::line::LineSpec;
use zinc_kite_bag::thrower::style::Style;

use super::body::{Kind, Sent};
use super::import::file;
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::course_file::{read, write_geojson, write_gpx};
use crate::store::Store;
use crate::store::courses::Course;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/courses", "GET, POST", [get().to(list), post().to(add)]))
        .service(resource("/api/courses/import", "POST", [post().to(import)]))
        .service(resource("/api/courses/trace", "POST", [post().to(traced)]))
        .service(resource("/api/courses/hole", "POST", [post().to(new_hole)]))
        .service(resource("/api/courses/{id}.geojson", "GET", [get().to(geojson)]))
        .service(resource("/api/courses/{id}.gpx", "GET", [get().to(gpx)]))
        .service(resource(
            "/api/courses/{id}",
            "GET, PUT, DELETE",
            [get().to(show), put().to(save), delete().to(remove)],
        ));
}

/// A course with what follows from it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ShownCourse {
    #[serde(flatten)]
    course: Course,
    /// Throws that a good player needs, all holes together.
    par: u32,
    /// All holes together, m.
    length_m: f64,
    /// Hole by hole and way by way how far it is to the basket from where the first throw is to end, m.
    left_m: Vec<Vec<f64>>,
}

/// A course as every answer gives it: what follows from it is no part of its version.
fn shown(course: Course) -> Tagged<ShownCourse> {
    let holes = &course.spec.holes;
    let left = |hole: &Hole| hole.ways.iter().map(|way| hole.left_after(way)).collect();
    let (par, length_m) = (course.spec.par(), holes.iter().map(|h| h.length_m).sum());
    let left_m = holes.iter().map(left).collect();
    Tagged::by(&course.clone(), ShownCourse { par, length_m, left_m, course })
}

fn stands(store: &Store, id: CourseId) -> Result<Tagged<ShownCourse>, ApiError> {
    Ok(shown(store.course(id)?))
}

#[utoipa::path(get, path = "/api/courses", operation_id = "list_courses", responses(
    (status = 200, body = [Tagged<ShownCourse>]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<Tagged<ShownCourse>>>, ApiError> {
    off_thread(&app, |app| Ok(Json(app.store().courses()?.into_iter().map(shown).collect()))).await
}

#[utoipa::path(post, path = "/api/courses", operation_id = "add_course", request_body = CourseSpec, responses(
    (status = 201, body = Tagged<ShownCourse>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn add(
    app: Data<App>,
    asked: Asked,
    spec: Sent<CourseSpec>,
) -> Result<HttpResponse, ApiError> {
    let course = off_thread(&app, move |app| {
        spec.validate()?;
        let mut store = asked.store(app);
        let id = store.add_course(&spec)?;
        stands(&store, id)
    })
    .await?;
    Ok(course.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/courses/{id}", operation_id = "get_course", params(("id" = i64, Path)), responses(
    (status = 200, body = Tagged<ShownCourse>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, id: Path<CourseId>) -> Result<HttpResponse, ApiError> {
    let course = off_thread(&app, move |app| stands(&app.store(), *id)).await?;
    Ok(course.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/courses/{id}", operation_id = "save_course", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    request_body = CourseSpec, responses((status = 200, body = Tagged<ShownCourse>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(
    app: Data<App>,
    asked: Asked,
    id: Path<CourseId>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let course = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let now = stands(&store, *id)?;
        let spec = laid_over(&now.thing().course.spec, sent.into_inner())?;
        spec.validate()?;
        asked.saw(&now, &spec)?;
        store.save_course(*id, &spec)?;
        stands(&store, *id)
    })
    .await?;
    Ok(course.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/courses/{id}", operation_id = "delete_course", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    responses((status = 204), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(
    app: Data<App>,
    asked: Asked,
    id: Path<CourseId>,
) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&stands(&store, *id)?, &())?;
        Ok(store.delete_course(*id)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// A hole that is begun.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct NewHole {
    /// Its number or name.
    #[schema(max_length = 20)]
    name: String,
    /// Direction from the tee to the basket, degrees clockwise from north.
    #[schema(minimum = 0.0, maximum = 360.0)]
    bearing_deg: f64,
    /// Level distance from the tee to the basket, m.
    #[schema(minimum = 10.0, maximum = 500.0)]
    length_m: f64,
    /// How much higher the basket's ground lies than the tee's, m.
    #[serde(default)]
    #[schema(minimum = -60.0, maximum = 60.0)]
    height_m: f64,
    /// The style of its first way; absent for the player's strong one.
    style: Option<Style>,
}

/// A hole as it is begun, and a line on it as a further way would start.
#[derive(Debug, Serialize, ToSchema)]
pub struct BegunHole {
    /// The hole, played straight at the basket.
    hole: Hole,
    /// What of its length is left behind the first throw, m.
    left_m: f64,
    /// The same throw in the style asked for, for a way more.
    line: LineSpec,
}

#[utoipa::path(post, path = "/api/courses/hole", operation_id = "begin_hole", request_body = NewHole, responses(
    (status = 200, description = "A hole that is nowhere kept", body = BegunHole), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn new_hole(app: Data<App>, asked: Sent<NewHole>) -> Result<Json<BegunHole>, ApiError> {
    off_thread(&app, move |app| {
        let NewHole { name, bearing_deg, length_m, height_m, style } = asked.into_inner();
        let style = match style {
            Some(style) => style,
            None => app.store().player()?.unwrap_or_default().strong_style,
        };
        within("bearing_deg", bearing_deg, 0.0, 360.0)?;
        let hole = Hole::straight(name, style, bearing_deg, length_m, height_m);
        hole.validate()?;
        let left_m = hole.ways.first().map_or(0.0, |way| hole.left_after(way));
        Ok(Json(BegunHole { left_m, line: hole.line_to(style, length_m), hole }))
    })
    .await
}

/// What a rangefinder said, in order; the last is the basket.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct Readings {
    #[schema(min_items = 1, max_items = 20)]
    readings: Vec<Reading>,
}

#[utoipa::path(post, path = "/api/courses/trace", operation_id = "trace_hole", request_body = Readings, responses(
    (status = 200, description = "The hole that the readings of a rangefinder make", body = Traced), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn traced(asked: Sent<Readings>) -> Result<Json<Traced>, ApiError> {
    Ok(Json(trace(&asked.readings)?))
}

/// What to do with a file of places.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct CourseChoice {
    /// Only look: say what would become of each record and keep nothing.
    #[serde(default)]
    preview: bool,
    /// Name of the course; absent for the one the file says.
    name: Option<String>,
}

/// What became of a file of places, or would.
#[derive(Debug, Serialize, ToSchema)]
pub struct CourseReport {
    /// The course that it makes.
    course: CourseSpec,
    /// What became of each record.
    records: Vec<RecordVerdict>,
    /// The course it became; null if it was only looked at.
    course_id: Option<CourseId>,
}

#[utoipa::path(post, path = "/api/courses/import", operation_id = "import_course", params(CourseChoice),
    request_body(content = String, description = "GeoJSON or GPX", content_type = "application/geo+json"),
    responses((status = 200, body = CourseReport), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn import(
    app: Data<App>,
    asked: Asked,
    choice: Query<CourseChoice>,
    kind: Kind,
    body: Bytes,
) -> Result<Json<CourseReport>, ApiError> {
    kind.is_among(&["application/geo+json", "application/gpx+xml"])?;
    off_thread(&app, move |app| {
        let reading = read(&body).map_err(|detail| ApiError::Unreadable { detail })?;
        let mut store = asked.store(app);
        let style = store.player()?.unwrap_or_default().strong_style;
        let (holes, mut records) = holes(&reading.surveyed, style);
        records.extend(reading.refused);
        let choice = choice.into_inner();
        let name = choice.name.or(reading.name).unwrap_or_else(|| "New course".into());
        let course = CourseSpec { name, altitude_m: None, day: None, holes };
        let course_id = if choice.preview {
            None
        } else {
            course.validate()?;
            if course.holes.is_empty() {
                let detail = "a hole at least was expected, with a tee and a basket; none came".into();
                return Err(ApiError::Unreadable { detail });
            }
            Some(store.add_course(&course)?)
        };
        Ok(Json(CourseReport { course, records, course_id }))
    })
    .await
}

#[utoipa::path(get, path = "/api/courses/{id}.geojson", operation_id = "course_geojson", params(("id" = i64, Path)), responses(
    (status = 200, description = "The holes whose places are known", body = Value, content_type = "application/geo+json"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn geojson(app: Data<App>, id: Path<CourseId>) -> Result<HttpResponse, ApiError> {
    let spec = off_thread(&app, move |app| Ok(app.store().course(*id)?.spec)).await?;
    Ok(file(&spec.name, "application/geo+json", "geojson", write_geojson(&spec)))
}

#[utoipa::path(get, path = "/api/courses/{id}.gpx", operation_id = "course_gpx", params(("id" = i64, Path)), responses(
    (status = 200, description = "The holes whose places are known", body = String, content_type = "application/gpx+xml"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn gpx(app: Data<App>, id: Path<CourseId>) -> Result<HttpResponse, ApiError> {
    let spec = off_thread(&app, move |app| Ok(app.store().course(*id)?.spec)).await?;
    let bytes = write_gpx(&spec).map_err(|detail| ApiError::Unreadable { detail })?;
    Ok(file(&spec.name, "application/gpx+xml", "gpx", bytes))
}
