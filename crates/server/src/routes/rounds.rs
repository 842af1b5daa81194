//! Rounds that were played: begun, told hole by hole, held against their cards.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, ServiceConfig, delete, get, post, put};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use zinc_kite_bag::course::played::{PlayedHole, PlayedRound};
use zinc_kite_bag::plan::round::account::{Account, OverRounds, account, over_rounds};

use super::body::Sent;
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::given_key::GivenKey;
use crate::store::rounds::Round;
use crate::store::{Store, StoreError};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/rounds", "GET, POST", [get().to(list), post().to(begin)]))
        .service(resource("/api/rounds/{key}", "GET, DELETE", [get().to(show), delete().to(remove)]))
        .service(resource(
            "/api/rounds/{key}/holes/{number}",
            "GET, PUT",
            [get().to(show_hole), put().to(play)],
        ));
}

/// A round, each hole with a version of its own, and what cost strokes.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ShownRound {
    #[serde(flatten)]
    round: Round,
    /// Entity tags of its holes.
    hole_etags: Vec<String>,
    /// Held against its card.
    account: Account,
}

fn shown(round: Round) -> Tagged<ShownRound> {
    let hole_etags = round.spec.holes.iter().map(|hole| Tagged::of(hole.clone()).etag().to_owned()).collect();
    let account = account(&round.spec);
    Tagged::by(&round.clone(), ShownRound { hole_etags, account, round })
}

/// Every round, and what they come to together.
#[derive(Debug, Serialize, ToSchema)]
pub struct RoundsPlayed {
    /// The rounds, the latest first.
    rounds: Vec<Tagged<ShownRound>>,
    /// Course by course.
    courses: Vec<OverRounds>,
}

#[utoipa::path(get, path = "/api/rounds", operation_id = "list_rounds", responses(
    (status = 200, body = RoundsPlayed), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<RoundsPlayed>, ApiError> {
    off_thread(&app, |app| {
        let rounds = app.store().rounds()?;
        let specs: Vec<PlayedRound> = rounds.iter().map(|r| r.spec.clone()).collect();
        let courses = over_rounds(&specs);
        Ok(Json(RoundsPlayed { rounds: rounds.into_iter().map(shown).collect(), courses }))
    })
    .await
}

#[utoipa::path(post, path = "/api/rounds", operation_id = "begin_round", request_body = Round, responses(
    (status = 201, description = "The round; one that was begun under the same key before stays as it is", body = Tagged<ShownRound>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn begin(
    app: Data<App>,
    asked: Asked,
    round: Sent<Round>,
) -> Result<HttpResponse, ApiError> {
    let begun = off_thread(&app, move |app| {
        round.key.validate()?;
        round.spec.validate()?;
        let mut store = asked.store(app);
        store.begin_round(&round)?;
        Ok(shown(store.round(&round.key)?))
    })
    .await?;
    Ok(begun.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/rounds/{key}", operation_id = "get_round", params(("key" = String, Path)), responses(
    (status = 200, body = Tagged<ShownRound>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, key: Path<GivenKey>) -> Result<HttpResponse, ApiError> {
    let round = off_thread(&app, move |app| Ok(shown(app.store().round(&key)?))).await?;
    Ok(round.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/rounds/{key}", operation_id = "delete_round", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("key" = String, Path)),
    responses((status = 204), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(
    app: Data<App>,
    asked: Asked,
    key: Path<GivenKey>,
) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&shown(store.round(&key)?), &())?;
        Ok(store.delete_round(&key)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// A hole of a round by its number, from 1.
fn hole_of(store: &Store, key: &GivenKey, number: usize) -> Result<Tagged<PlayedHole>, ApiError> {
    let holes = store.round(key)?.spec.holes;
    let hole = number.checked_sub(1).and_then(|at| holes.get(at).cloned());
    let missing = || StoreError::NotFound { what: "hole", id: format!("{number} of this round") };
    Ok(Tagged::of(hole.ok_or_else(missing)?))
}

#[utoipa::path(get, path = "/api/rounds/{key}/holes/{number}", operation_id = "get_played_hole", params(("key" = String, Path), ("number" = usize, Path, description = "Which hole, from 1")), responses(
    (status = 200, body = Tagged<PlayedHole>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_hole(app: Data<App>, at: Path<(GivenKey, usize)>) -> Result<HttpResponse, ApiError> {
    let hole = off_thread(&app, move |app| hole_of(&app.store(), &at.0, at.1)).await?;
    Ok(hole.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/rounds/{key}/holes/{number}", operation_id = "play_hole", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("key" = String, Path), ("number" = usize, Path, description = "Which hole, from 1")),
    request_body = PlayedHole, responses((status = 200, body = Tagged<PlayedHole>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn play(
    app: Data<App>,
    asked: Asked,
    at: Path<(GivenKey, usize)>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let hole = off_thread(&app, move |app| {
        let (key, number) = at.into_inner();
        let mut store = asked.store(app);
        let now = hole_of(&store, &key, number)?;
        let hole = laid_over(now.thing(), sent.into_inner())?;
        hole.validate()?;
        asked.saw(&now, &hole)?;
        store.play_hole(&key, number - 1, &hole)?;
        hole_of(&store, &key, number)
    })
    .await?;
    Ok(hole.answer(StatusCode::OK))
}
