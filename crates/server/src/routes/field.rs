//! Throws as they were measured in the field: sessions, their throws, and how those spread.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Bytes, Data, Json, Path, Query, ServiceConfig, delete, get, post, put};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};
use zinc_kite_bag::course::played::{PlayedHole, PlayedRound};
use zinc_kite_bag::course::survey::RecordVerdict;
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::field::arm::{FoundArm, MOST_THROWS, found_arm};
use zinc_kite_bag::field::form::{FormCheck, form_check};
use zinc_kite_bag::field::habit::{StyleHabits, read_session};
use zinc_kite_bag::field::honest::{Honesty, honesty, tried_in_field, tried_in_rounds};
use zinc_kite_bag::field::numbers::{FoundNumbers, found_numbers};
use zinc_kite_bag::field::reading::{FaultRead, ThrowReading, read_throw};
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::spread::{DayDistance, DiscSpread, by_disc, over_season};
use zinc_kite_bag::field::throw::{FieldThrow, Measured};
use zinc_kite_bag::field::tried::{TrialVerdict, trial_verdict};
use zinc_kite_bag::plan::practise::load::{Load, loads, looked_back_to};
use zinc_kite_bag::plan::practise::progress::{ScatterProgress, progress};
use zinc_kite_bag::plan::practise::ready::{Ready, ready};
use zinc_kite_bag::thrower::style::Style;

use super::body::{Kind, Sent};
use super::import::file;
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::format::throw_csv;
use crate::format::throw_file::{
    ThrowFile, ThrowRecord, ThrowsReading, read, words, write_geojson, write_gpx,
};
use crate::store::Store;
use crate::store::field::{KeptSession, KeptThrow, SessionEntry, ThrownDisc};
use crate::store::given_key::GivenKey;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        // Before the session itself, whose key would take the ending in.
        .service(resource("/api/field/sessions/{session}.csv", "GET", [get().to(csv)]))
        .service(resource("/api/field/sessions/{session}.geojson", "GET", [get().to(geojson)]))
        .service(resource("/api/field/sessions/{session}.gpx", "GET", [get().to(gpx)]))
        .service(resource("/api/field/sessions/{session}/import", "POST", [post().to(import)]))
        .service(resource("/api/field/sessions", "GET, POST", [get().to(list), post().to(begin)]))
        .service(resource(
            "/api/field/sessions/{session}",
            "GET, PUT, DELETE",
            [get().to(show), put().to(save), delete().to(remove)],
        ))
        .service(resource("/api/field/sessions/{session}/merge", "POST", [post().to(merge)]))
        .service(resource("/api/field/sessions/{session}/trial", "GET", [get().to(trial)]))
        .service(resource("/api/field/sessions/{session}/reading", "GET", [get().to(reading)]))
        .service(resource("/api/field/sessions/{session}/read", "POST", [post().to(read_one)]))
        .service(resource("/api/field/sessions/{session}/throws", "POST", [post().to(log)]))
        .service(resource(
            "/api/field/sessions/{session}/throws/{throw}",
            "GET, PUT, DELETE",
            [get().to(show_throw), put().to(save_throw), delete().to(remove_throw)],
        ))
        .service(resource("/api/field/arm/{style}", "GET", [get().to(arm)]))
        .service(resource("/api/field/practice/{style}", "GET", [get().to(practised)]))
        .service(resource("/api/field/discs", "GET", [get().to(discs)]))
        .service(resource("/api/field/discs/{id}/numbers", "GET", [get().to(numbers)]))
        .service(resource("/api/field/discs/{id}", "GET", [get().to(season_of)]));
}

/// A session with its throws and how they spread.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ShownSession {
    #[serde(flatten)]
    session: KeptSession,
    /// Its throws, in the order in which they were made.
    throws: Vec<Tagged<KeptThrow>>,
    /// Its throws by disc and how they were meant.
    spreads: Vec<DiscSpread>,
}

fn shown(store: &Store, key: &GivenKey) -> Result<Tagged<ShownSession>, ApiError> {
    let (session, throws) = (store.session(key)?, store.throws(key)?);
    let specs: Vec<FieldThrow> = throws.iter().map(|t| t.spec.clone()).collect();
    let (spreads, throws) = (by_disc(&specs), throws.into_iter().map(Tagged::of).collect());
    // A throw that is logged makes another version of its session: whoever has that as it was before asks anew.
    Ok(Tagged::of(ShownSession { session, throws, spreads }))
}

#[utoipa::path(get, path = "/api/field/sessions", operation_id = "list_sessions", responses(
    (status = 200, description = "Every session, the latest first", body = Vec<SessionEntry>), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<SessionEntry>>, ApiError> {
    off_thread(&app, |app| Ok(Json(app.store().sessions()?))).await
}

#[utoipa::path(post, path = "/api/field/sessions", operation_id = "begin_session", request_body = KeptSession, responses(
    (status = 201, description = "The session; one that was begun under the same key before stays as it is", body = Tagged<ShownSession>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn begin(
    app: Data<App>,
    asked: Asked,
    session: Sent<KeptSession>,
) -> Result<HttpResponse, ApiError> {
    let begun = off_thread(&app, move |app| {
        session.key.validate()?;
        session.spec.validate()?;
        let mut store = asked.store(app);
        store.begin_session(&session)?;
        shown(&store, &session.key)
    })
    .await?;
    Ok(begun.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/field/sessions/{session}", operation_id = "get_session_in_field", params(("session" = String, Path)), responses(
    (status = 200, body = Tagged<ShownSession>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, key: Path<GivenKey>) -> Result<HttpResponse, ApiError> {
    let session = off_thread(&app, move |app| shown(&app.store(), &key)).await?;
    Ok(session.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/field/sessions/{session}", operation_id = "save_session", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("session" = String, Path)),
    request_body = FieldSession, responses((status = 200, body = Tagged<ShownSession>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(
    app: Data<App>,
    asked: Asked,
    key: Path<GivenKey>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let session = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let now = shown(&store, &key)?;
        let session = laid_over(&now.thing().session.spec, sent.into_inner())?;
        session.validate()?;
        asked.saw(&now, &session)?;
        store.save_session(&key, &session)?;
        shown(&store, &key)
    })
    .await?;
    Ok(session.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/field/sessions/{session}", operation_id = "delete_session", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("session" = String, Path)),
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
        asked.saw(&shown(&store, &key)?, &())?;
        Ok(store.delete_session(&key)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// Which session is to become part of this one.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct Merge {
    /// Its identity.
    pub from: GivenKey,
}

#[utoipa::path(post, path = "/api/field/sessions/{session}/merge", operation_id = "merge_sessions", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("session" = String, Path)),
    request_body = Merge, responses((status = 200, description = "This session, behind whose throws are those of the other, which is gone", body = Tagged<ShownSession>, headers(("ETag" = String, description = "Entity tag of this version"))),
    (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn merge(
    app: Data<App>,
    asked: Asked,
    key: Path<GivenKey>,
    merge: Sent<Merge>,
) -> Result<HttpResponse, ApiError> {
    let session = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&shown(&store, &key)?, &())?;
        store.merge_sessions(&merge.from, &key)?;
        shown(&store, &key)
    })
    .await?;
    Ok(session.answer(StatusCode::OK))
}

#[utoipa::path(get, path = "/api/field/sessions/{session}/trial", operation_id = "judge_trial", params(("session" = String, Path)), responses(
    (status = 200, description = "What the trial of a session says by its throws; null if nothing is tried in it", body = Option<TrialVerdict>), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn trial(
    app: Data<App>,
    key: Path<GivenKey>,
) -> Result<Json<Option<TrialVerdict>>, ApiError> {
    off_thread(&app, move |app| {
        let generated = app.made_lines()?;
        let store = app.store();
        let Some(trial) = store.session(&key)?.spec.trial else { return Ok(Json(None)) };
        let throws: Vec<FieldThrow> = store.throws(&key)?.into_iter().map(|t| t.spec).collect();
        let lines = store.lines(generated)?;
        let line = lines.iter().find(|line| Some(&line.key) == trial.line.as_ref());
        let units = store.player()?.unwrap_or_default().units;
        Ok(Json(Some(trial_verdict(units, &trial, line, &throws))))
    })
    .await
}

/// The likeliest reading of one throw of a session.
#[derive(Debug, Serialize, ToSchema)]
pub struct ThrowRead {
    /// The throw.
    key: GivenKey,
    /// Its reading.
    reading: FaultRead,
}

/// What the throws of a session say of the releases behind them.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadSession {
    /// The throws that can be read.
    throws: Vec<ThrowRead>,
    /// What they say together, by style.
    styles: Vec<StyleHabits>,
    /// Which disc shows errors best; null where none does.
    form: Option<FormCheck>,
}

#[utoipa::path(get, path = "/api/field/sessions/{session}/reading", operation_id = "read_session", params(("session" = String, Path)), responses(
    (status = 200, description = "The likeliest error of the release behind each throw, the habits behind them, and which disc to throw for a form check", body = ReadSession), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn reading(app: Data<App>, key: Path<GivenKey>) -> Result<Json<ReadSession>, ApiError> {
    off_thread(&app, move |app| {
        let (player, shelf, session, throws) = {
            let store = app.store();
            let throws = store.throws(&key)?;
            (store.player()?.unwrap_or_default(), store.discs()?, store.session(&key)?.spec, throws)
        };
        let measured: Vec<Measured> =
            throws.iter().map(|t| Measured { session: &session, throw: &t.spec }).collect();
        let read = read_session(&player, &shelf, &measured)?;
        let style = read.styles.iter().max_by_key(|s| s.read).map_or(player.strong_style, |s| s.style);
        let here: Vec<Disc> = shelf.into_iter().filter(|d| d.spec.keeping.status.is_at_hand()).collect();
        let form = form_check(&player, style, &here)?;
        let throws = throws.into_iter().zip(read.throws);
        let throws = throws.filter_map(|(t, reading)| Some(ThrowRead { key: t.key, reading: reading? }));
        Ok(Json(ReadSession { throws: throws.collect(), styles: read.styles, form }))
    })
    .await
}

#[utoipa::path(post, path = "/api/field/sessions/{session}/read", operation_id = "read_throw", params(("session" = String, Path)), request_body = FieldThrow, responses(
    (status = 200, description = "What a throw as it is told would say of its release; nothing is kept", body = ThrowReading), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn read_one(
    app: Data<App>,
    key: Path<GivenKey>,
    throw: Sent<FieldThrow>,
) -> Result<Json<ThrowReading>, ApiError> {
    off_thread(&app, move |app| {
        let throw = throw.into_inner();
        let (player, session, disc) = {
            let store = app.store();
            let disc = throw.disc_id.map(|id| store.disc(id)).transpose()?;
            (store.player()?.unwrap_or_default(), store.session(&key)?.spec, disc)
        };
        let Some(disc) = disc else {
            let expected = "a disc of the shelf".into();
            return Err(BagError::Field { field: "disc_id", expected, got: throw.disc_name }.into());
        };
        Ok(Json(read_throw(&player, &disc, Measured { session: &session, throw: &throw })?))
    })
    .await
}

#[utoipa::path(post, path = "/api/field/sessions/{session}/throws", operation_id = "log_throw", params(("session" = String, Path)), request_body = KeptThrow, responses(
    (status = 201, description = "The throw; one that was logged under the same key before stays as it is", body = Tagged<KeptThrow>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn log(
    app: Data<App>,
    asked: Asked,
    session: Path<GivenKey>,
    throw: Sent<KeptThrow>,
) -> Result<HttpResponse, ApiError> {
    let logged = off_thread(&app, move |app| {
        throw.key.validate()?;
        throw.spec.validate()?;
        let mut store = asked.store(app);
        store.log_throw(&session, &throw)?;
        Ok(Tagged::of(store.throw(&session, &throw.key)?))
    })
    .await?;
    Ok(logged.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/field/sessions/{session}/throws/{throw}", operation_id = "get_throw", params(("session" = String, Path), ("throw" = String, Path)), responses(
    (status = 200, body = Tagged<KeptThrow>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_throw(
    app: Data<App>,
    at: Path<(GivenKey, GivenKey)>,
) -> Result<HttpResponse, ApiError> {
    let throw = off_thread(&app, move |app| Ok(Tagged::of(app.store().throw(&at.0, &at.1)?))).await?;
    Ok(throw.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/field/sessions/{session}/throws/{throw}", operation_id = "save_throw", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("session" = String, Path), ("throw" = String, Path)),
    request_body = FieldThrow, responses((status = 200, body = Tagged<KeptThrow>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save_throw(
    app: Data<App>,
    asked: Asked,
    at: Path<(GivenKey, GivenKey)>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let throw = off_thread(&app, move |app| {
        let (session, key) = at.into_inner();
        let mut store = asked.store(app);
        let now = store.throw(&session, &key)?;
        let throw = laid_over(&now.spec, sent.into_inner())?;
        throw.validate()?;
        asked.saw(&Tagged::of(now), &throw)?;
        store.save_throw(&session, &key, &throw)?;
        Ok(Tagged::of(store.throw(&session, &key)?))
    })
    .await?;
    Ok(throw.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/field/sessions/{session}/throws/{throw}", operation_id = "delete_throw", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("session" = String, Path), ("throw" = String, Path)),
    responses((status = 204), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove_throw(
    app: Data<App>,
    asked: Asked,
    at: Path<(GivenKey, GivenKey)>,
) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&Tagged::of(store.throw(&at.0, &at.1)?), &())?;
        Ok(store.delete_throw(&at.0, &at.1)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(get, path = "/api/field/discs", operation_id = "list_thrown_discs", responses(
    (status = 200, description = "Discs that were thrown, the most often thrown first", body = Vec<ThrownDisc>), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn discs(app: Data<App>) -> Result<Json<Vec<ThrownDisc>>, ApiError> {
    off_thread(&app, |app| Ok(Json(app.store().thrown_discs()?))).await
}

#[utoipa::path(get, path = "/api/field/discs/{id}", operation_id = "get_disc_over_season", params(("id" = i64, Path)), responses(
    (status = 200, description = "How far a disc went, day by day and style by style, the earliest first", body = Vec<DayDistance>), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn season_of(app: Data<App>, id: Path<DiscId>) -> Result<Json<Vec<DayDistance>>, ApiError> {
    off_thread(&app, move |app| {
        let throws = app.store().throws_of(*id)?;
        Ok(Json(over_season(throws.iter().map(|(session, throw)| Measured { session, throw }))))
    })
    .await
}

#[utoipa::path(get, path = "/api/field/discs/{id}/numbers", operation_id = "find_disc_numbers", params(("id" = i64, Path)), responses(
    (status = 200, description = "What a disc really does as its throws say, with how sure that is", body = FoundNumbers), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn numbers(app: Data<App>, id: Path<DiscId>) -> Result<Json<FoundNumbers>, ApiError> {
    off_thread(&app, move |app| {
        let (player, disc, shelf, throws) = {
            let store = app.store();
            let throws = store.throws_of(*id)?;
            (store.player()?.unwrap_or_default(), store.disc(*id)?, store.discs()?, throws)
        };
        let measured: Vec<Measured> =
            throws.iter().map(|(session, throw)| Measured { session, throw }).collect();
        Ok(Json(found_numbers(&player, &disc, &shelf, &measured)?))
    })
    .await
}

/// An arm as its throws say, and what the chances of its throws were worth.
#[derive(Debug, Serialize, ToSchema)]
pub struct ArmOfThrows {
    /// Its speed and scatter.
    found: FoundArm,
    /// Its chances.
    honest: Honesty,
}

#[utoipa::path(get, path = "/api/field/arm/{style}", operation_id = "find_arm", params(("style" = Style, Path, description = "Any but putts")), responses(
    (status = 200, description = "What an arm really does in a style as its throws say, with how sure that is, and whether its chances are honest", body = ArmOfThrows), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn arm(app: Data<App>, style: Path<Style>) -> Result<Json<ArmOfThrows>, ApiError> {
    off_thread(&app, move |app| {
        let generated = app.made_lines()?;
        let (player, shelf, throws, rounds, lines) = {
            let store = app.store();
            let player = store.player()?.unwrap_or_default();
            let throws = store.latest_throws(*style, MOST_THROWS)?;
            (player, store.discs()?, throws, store.rounds()?, store.lines(generated)?)
        };
        let measured: Vec<Measured> =
            throws.iter().map(|(session, throw)| Measured { session, throw }).collect();
        let found = found_arm(&player, *style, &shelf, &measured)?;
        let in_rounds = tried_in_rounds(*style, rounds.iter().map(|round| &round.spec));
        let in_field = tried_in_field(&player, *style, &shelf, &lines, &measured, &app.memo)?;
        Ok(Json(ArmOfThrows { found, honest: honesty(&player, *style, &in_rounds, &in_field) }))
    })
    .await
}

/// What the log says of practice in a style.
#[derive(Debug, Serialize, ToSchema)]
pub struct Practised {
    /// Whether faster discs are due.
    ready: Ready,
    /// How the scatter has moved.
    progress: ScatterProgress,
    /// How much an arm has thrown, in every style.
    loads: Vec<Load>,
}

#[utoipa::path(get, path = "/api/field/practice/{style}", operation_id = "practised_style", params(("style" = Style, Path, description = "Any but putts")), responses(
    (status = 200, description = "Whether faster discs are due in a style, how its scatter has moved over the months, and how much each style was thrown", body = Practised), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn practised(app: Data<App>, style: Path<Style>) -> Result<Json<Practised>, ApiError> {
    off_thread(&app, move |app| {
        let (player, shelf, throws, rounds, today, mut days) = {
            let store = app.store();
            let throws = store.latest_throws(*style, MOST_THROWS)?;
            let (player, today) = (store.player()?.unwrap_or_default(), store.today()?);
            let days = store.days_thrown(looked_back_to(today))?;
            (player, store.discs()?, throws, store.rounds()?, today, days)
        };
        let in_round = |round: &PlayedRound| {
            let of_hole = |hole: &PlayedHole| Some((round.date, hole.threw.as_ref()?.style?));
            round.holes.iter().filter_map(of_hole).collect::<Vec<_>>()
        };
        days.extend(rounds.iter().flat_map(|round| in_round(&round.spec)));
        let measured: Vec<Measured> =
            throws.iter().map(|(session, throw)| Measured { session, throw }).collect();
        let found = found_arm(&player, *style, &shelf, &measured)?;
        let ready = ready(&player, &found, &shelf, &measured)?;
        Ok(Json(Practised {
            ready,
            progress: progress(*style, &measured),
            loads: loads(&player, today, days),
        }))
    })
    .await
}

/// What to do with a file of throws.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ThrowsChoice {
    /// Only look: say what would become of each record and keep nothing.
    #[serde(default)]
    preview: bool,
    /// The throws wear their discs, as those that are logged do.
    #[serde(default)]
    wear: bool,
}

/// What became of a file of throws, or would.
#[derive(Debug, Serialize, ToSchema)]
pub struct ThrowsReport {
    /// What becomes of each record.
    records: Vec<RecordVerdict>,
    /// Throws that can be brought in.
    good: usize,
    /// Throws that were.
    imported: usize,
}

#[utoipa::path(post, path = "/api/field/sessions/{session}/import", operation_id = "import_throws", params(("session" = String, Path), ThrowsChoice),
    request_body(content = String, description = "CSV, GeoJSON or GPX", content_type = "text/csv"),
    responses((status = 200, body = ThrowsReport), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn import(
    app: Data<App>,
    asked: Asked,
    key: Path<GivenKey>,
    choice: Query<ThrowsChoice>,
    kind: Kind,
    body: Bytes,
) -> Result<Json<ThrowsReport>, ApiError> {
    kind.is_among(&["text/csv", "application/geo+json", "application/gpx+xml"])?;
    let is_csv = kind.is("text/csv");
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let session = store.session(&key)?.spec;
        let usual = store.player()?.unwrap_or_default().strong_style;
        let file = ThrowFile { bytes: &body, is_csv };
        let reading = read(&file, &store.discs()?, usual, &session)
            .map_err(|detail| ApiError::Unreadable { detail })?;
        let there: Vec<FieldThrow> = store.throws(&key)?.into_iter().map(|t| t.spec).collect();
        let (throws, records) = new_ones(&reading, &there, &session);
        let imported = if choice.preview { 0 } else { throws.len() };
        if imported > 0 {
            store.bring_throws(&key, reading.tee, &throws, choice.wear)?;
        }
        Ok(Json(ThrowsReport { records, good: throws.len(), imported }))
    })
    .await
}

/// Throws that are not in the session yet, and what becomes of each record.
fn new_ones(
    reading: &ThrowsReading,
    there: &[FieldThrow],
    session: &FieldSession,
) -> (Vec<FieldThrow>, Vec<RecordVerdict>) {
    let session = FieldSession { tee: session.tee.or(reading.tee), ..session.clone() };
    let placed = |throw: &FieldThrow| {
        let mut placed = FieldThrow { lost: None, ..throw.clone() };
        placed.place(&session);
        placed
    };
    let mut left: Vec<FieldThrow> = there.iter().map(placed).collect();
    let (mut throws, mut records) = (Vec::new(), Vec::new());
    for record in &reading.records {
        let (record, throw) = match record {
            ThrowRecord::Throw(record, throw) => (record, throw),
            ThrowRecord::Other(told) => {
                records.push(told.clone());
                continue;
            }
        };
        let it = placed(throw);
        // As often as it is there it was brought in before.
        let known = left.iter().position(|other| *other == it);
        let told = match known {
            Some(k) => {
                left.swap_remove(k);
                "is in this session already".to_owned()
            }
            None => words(&it),
        };
        records.push(RecordVerdict { record: record.clone(), taken: known.is_none(), words: told });
        if known.is_none() {
            throws.push(it);
        }
    }
    (throws, records)
}

/// A session and what was thrown in it.
fn whole(app: &App, key: &GivenKey) -> Result<(FieldSession, Vec<FieldThrow>), ApiError> {
    let store = app.store();
    let throws = store.throws(key)?.into_iter().map(|t| t.spec).collect();
    Ok((store.session(key)?.spec, throws))
}

#[utoipa::path(get, path = "/api/field/sessions/{session}.csv", operation_id = "session_csv", params(("session" = String, Path)), responses(
    (status = 200, description = "Its throws", body = String, content_type = "text/csv"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn csv(app: Data<App>, key: Path<GivenKey>) -> Result<HttpResponse, ApiError> {
    let (session, throws) = off_thread(&app, move |app| whole(app, &key)).await?;
    let text = throw_csv::write(&throws).map_err(|e| ApiError::Unreadable { detail: e.to_string() })?;
    Ok(file(&session.place, "text/csv; charset=utf-8", "csv", text))
}

#[utoipa::path(get, path = "/api/field/sessions/{session}.geojson", operation_id = "session_geojson", params(("session" = String, Path)), responses(
    (status = 200, description = "The throws whose rests are known by place", body = Value, content_type = "application/geo+json"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn geojson(app: Data<App>, key: Path<GivenKey>) -> Result<HttpResponse, ApiError> {
    let (session, throws) = off_thread(&app, move |app| whole(app, &key)).await?;
    Ok(file(&session.place, "application/geo+json", "geojson", write_geojson(&session, &throws)))
}

#[utoipa::path(get, path = "/api/field/sessions/{session}.gpx", operation_id = "session_gpx", params(("session" = String, Path)), responses(
    (status = 200, description = "The throws whose rests are known by place", body = String, content_type = "application/gpx+xml"), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn gpx(app: Data<App>, key: Path<GivenKey>) -> Result<HttpResponse, ApiError> {
    let (session, throws) = off_thread(&app, move |app| whole(app, &key)).await?;
    let bytes = write_gpx(&session, &throws).map_err(|detail| ApiError::Unreadable { detail })?;
    Ok(file(&session.place, "application/gpx+xml", "gpx", bytes))
}
