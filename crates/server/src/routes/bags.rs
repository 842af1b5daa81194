//! Bags: what is in them, the board, the judgement.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Data, Json, Path, Query, ServiceConfig, delete, get, post, put};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::{IntoParams, ToSchema};
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::plan::practise::price::Practice;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::verdict::analysis::Analysis;
use zinc_kite_bag::verdict::board::{Board, board};
use zinc_kite_bag::verdict::carried::{BagSpec, Carried};
use zinc_kite_bag::verdict::compare::{Backup, Comparison, backups, bag_of_backups};
use zinc_kite_bag::verdict::ghost::{Ghosts, Preview, ghosts, preview};
use zinc_kite_bag::verdict::ladder::{Ladder, ladders};
use zinc_kite_bag::verdict::opened::{ChanceSheet, chance_sheet};
use zinc_kite_bag::verdict::risk::{OpenedLine, opened_line};
use zinc_kite_bag::verdict::season::SeasonVerdict;
use zinc_kite_bag::verdict::table::Table;
use zinc_kite_bag::verdict::walk::Walk;
use zinc_kite_bag::verdict::work::Progress;

use super::body::Sent;
use super::day::Day;
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, StopWhenDropped, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::{Bag, BagId, Moves, Store};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/bags", "GET, POST", [get().to(list), post().to(add)]))
        .service(resource(
            "/api/bags/{id}",
            "GET, PUT, DELETE",
            [get().to(show), put().to(save), delete().to(remove)],
        ))
        .service(resource("/api/bags/{id}/moves", "POST", [post().to(moves)]))
        .service(resource("/api/bags/{id}/compare/{other}", "GET", [get().to(show_comparison)]))
        .service(resource(
            "/api/bags/{id}/backups",
            "GET, POST",
            [get().to(show_backups), post().to(pack_backups)],
        ))
        .service(resource("/api/bags/{id}/ladder", "GET", [get().to(show_ladder)]))
        .service(resource("/api/bags/{id}/walk", "GET", [get().to(show_walk)]))
        .service(resource("/api/bags/{id}/board", "GET", [get().to(show_board)]))
        .service(resource("/api/bags/{id}/ghosts", "GET", [get().to(show_ghosts)]))
        .service(resource("/api/bags/{id}/preview/{disc}", "GET", [get().to(show_preview)]))
        .service(resource("/api/bags/{id}/analysis", "GET", [get().to(analysis)]))
        .service(resource("/api/bags/{id}/table", "GET", [get().to(show_table)]))
        .service(resource("/api/bags/{id}/season", "GET", [get().to(season)]))
        .service(resource("/api/bags/{id}/practice", "GET", [get().to(practice)]))
        .service(resource("/api/season/progress", "GET", [get().to(season_progress)]))
        .service(resource("/api/bags/{id}/lines/{key}", "GET", [get().to(line)]))
        .service(resource("/api/chance", "GET", [get().to(chance)]));
}

#[utoipa::path(get, path = "/api/bags", operation_id = "list_bags", responses(
    (status = 200, body = [Tagged<Bag>]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn list(app: Data<App>) -> Result<Json<Vec<Tagged<Bag>>>, ApiError> {
    off_thread(&app, |app| Ok(Json(app.store().bags()?.into_iter().map(Tagged::of).collect()))).await
}

/// A bag as it stands.
fn stands(store: &Store, id: BagId) -> Result<Tagged<Bag>, ApiError> {
    Ok(Tagged::of(store.bag(id)?))
}

/// What a board is set from.
fn laid_out(app: &App, id: BagId) -> Result<(Player, Vec<Disc>, Bag), ApiError> {
    let store = app.store();
    Ok((store.player()?.unwrap_or_default(), store.discs()?, store.bag(id)?))
}

/// A bag to make.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct NewBag {
    #[serde(flatten)]
    spec: BagSpec,
    /// What is in it from the start: for a copy of another bag.
    #[serde(default)]
    carried: Vec<Carried>,
}

#[utoipa::path(post, path = "/api/bags", operation_id = "add_bag", request_body = NewBag, responses(
    (status = 201, body = Tagged<Bag>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn add(app: Data<App>, asked: Asked, new: Sent<NewBag>) -> Result<HttpResponse, ApiError> {
    let bag = off_thread(&app, move |app| {
        new.spec.validate()?;
        let mut store = asked.store(app);
        let id = store.add_bag(&new.spec, &new.carried)?;
        stands(&store, id)
    })
    .await?;
    Ok(bag.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/bags/{id}", operation_id = "get_bag", params(("id" = i64, Path)), responses(
    (status = 200, body = Tagged<Bag>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>, id: Path<BagId>) -> Result<HttpResponse, ApiError> {
    let bag = off_thread(&app, move |app| stands(&app.store(), *id)).await?;
    Ok(bag.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/bags/{id}", operation_id = "save_bag", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    request_body = BagSpec, responses((status = 200, body = Tagged<Bag>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(
    app: Data<App>,
    asked: Asked,
    id: Path<BagId>,
    sent: Sent<Value>,
) -> Result<HttpResponse, ApiError> {
    let bag = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let now = stands(&store, *id)?;
        let spec = laid_over(&now.thing().spec, sent.into_inner())?;
        spec.validate()?;
        asked.saw(&now, &spec)?;
        store.save_bag(*id, &spec)?;
        stands(&store, *id)
    })
    .await?;
    Ok(bag.answer(StatusCode::OK))
}

#[utoipa::path(delete, path = "/api/bags/{id}", operation_id = "delete_bag", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    responses((status = 204), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(app: Data<App>, asked: Asked, id: Path<BagId>) -> Result<HttpResponse, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&stands(&store, *id)?, &())?;
        Ok(store.delete_bag(*id)?)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

#[utoipa::path(post, path = "/api/bags/{id}/moves", operation_id = "move_discs", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from"), ("id" = i64, Path)),
    request_body = Moves,
    responses((status = 200, description = "The bag after it", body = Tagged<Bag>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn moves(
    app: Data<App>,
    asked: Asked,
    id: Path<BagId>,
    moves: Sent<Moves>,
) -> Result<HttpResponse, ApiError> {
    let bag = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        asked.saw(&stands(&store, *id)?, &*moves)?;
        store.move_discs(*id, &moves)?;
        stands(&store, *id)
    })
    .await?;
    Ok(bag.answer(StatusCode::OK))
}

#[utoipa::path(get, path = "/api/bags/{id}/board", operation_id = "get_board", params(("id" = i64, Path), Day),
    responses((status = 200, body = Board), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_board(
    app: Data<App>,
    id: Path<BagId>,
    day: Query<Day>,
) -> Result<Json<Board>, ApiError> {
    off_thread(&app, move |app| {
        let (player, shelf, bag) = laid_out(app, *id)?;
        let set = || board(&player, &day.conditions(), day.style, &shelf, &bag.carried);
        Ok(Json(app.quickly(set)?))
    })
    .await
}

#[utoipa::path(get, path = "/api/bags/{id}/ghosts", operation_id = "ghosts", params(("id" = i64, Path), Day),
    responses((status = 200, body = [Ghosts]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_ghosts(
    app: Data<App>,
    id: Path<BagId>,
    day: Query<Day>,
) -> Result<Json<Vec<Ghosts>>, ApiError> {
    off_thread(&app, move |app| {
        let (player, shelf, bag) = laid_out(app, *id)?;
        let fly = || ghosts(&player, &day.conditions(), day.style, &shelf, &bag.carried);
        Ok(Json(app.quickly(fly)?.into()))
    })
    .await
}

#[utoipa::path(get, path = "/api/bags/{id}/preview/{disc}", operation_id = "preview",
    params(("id" = i64, Path), ("disc" = i64, Path), Day),
    responses((status = 200, body = Preview), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_preview(
    app: Data<App>,
    ids: Path<(BagId, DiscId)>,
    day: Query<Day>,
) -> Result<Json<Preview>, ApiError> {
    off_thread(&app, move |app| {
        let (id, disc) = *ids;
        let (player, shelf, bag) = laid_out(app, id)?;
        let disc = app.store().disc(disc)?;
        let lay = || preview(&player, &day.conditions(), day.style, &disc, &shelf, &bag.carried);
        Ok(Json(app.quickly(lay)?))
    })
    .await
}

#[utoipa::path(get, path = "/api/bags/{id}/compare/{other}", operation_id = "compare_bags",
    params(("id" = i64, Path), ("other" = i64, Path)),
    responses((status = 200, body = Comparison), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_comparison(
    app: Data<App>,
    ids: Path<(BagId, BagId)>,
) -> Result<Json<Comparison>, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    off_thread(&app, move |app| Ok(Json(app.compare(*ids, &work)?))).await
}

/// What could take the place of each carried disc.
fn backups_of(store: &Store, id: BagId) -> Result<Vec<Backup>, ApiError> {
    Ok(backups(&store.discs()?, &store.bag(id)?.carried))
}

#[utoipa::path(get, path = "/api/bags/{id}/backups", operation_id = "get_backups", params(("id" = i64, Path)),
    responses((status = 200, body = [Backup]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_backups(app: Data<App>, id: Path<BagId>) -> Result<Json<Vec<Backup>>, ApiError> {
    off_thread(&app, move |app| Ok(Json(backups_of(&app.store(), *id)?))).await
}

#[utoipa::path(post, path = "/api/bags/{id}/backups", operation_id = "pack_backups", params(("id" = i64, Path)),
    responses((status = 201, description = "A new bag of the likest discs at home", body = Tagged<Bag>,
        headers(("ETag" = String, description = "Entity tag of this version"))),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn pack_backups(
    app: Data<App>,
    asked: Asked,
    id: Path<BagId>,
) -> Result<HttpResponse, ApiError> {
    let bag = off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let of = store.bag(*id)?.spec;
        let packed = bag_of_backups(&backups_of(&store, *id)?);
        let carried: Vec<Carried> =
            packed.into_iter().map(|disc_id| Carried { disc_id, spare: false }).collect();
        let made = store.add_bag_like(&BagSpec { name: "Backups".into(), ..of }, &carried)?;
        stands(&store, made)
    })
    .await?;
    Ok(bag.answer(StatusCode::CREATED))
}

#[utoipa::path(get, path = "/api/bags/{id}/ladder", operation_id = "get_ladder", params(("id" = i64, Path), Day),
    responses((status = 200, body = [Ladder]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_ladder(
    app: Data<App>,
    id: Path<BagId>,
    day: Query<Day>,
) -> Result<Json<Vec<Ladder>>, ApiError> {
    off_thread(&app, move |app| {
        let (player, shelf, bag) = laid_out(app, *id)?;
        Ok(Json(app.quickly(|| ladders(&player, &day.conditions(), &shelf, &bag.carried))?))
    })
    .await
}

#[utoipa::path(get, path = "/api/bags/{id}/walk", operation_id = "get_walk", params(("id" = i64, Path)),
    responses((status = 200, body = Walk), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_walk(app: Data<App>, id: Path<BagId>) -> Result<Json<Walk>, ApiError> {
    off_thread(&app, move |app| Ok(Json(app.walk(*id)?))).await
}

#[utoipa::path(get, path = "/api/bags/{id}/analysis", operation_id = "get_analysis",
    params(("id" = i64, Path), Day),
    responses((status = 200, body = Analysis), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn analysis(
    app: Data<App>,
    id: Path<BagId>,
    day: Query<Day>,
) -> Result<Json<Analysis>, ApiError> {
    let work = app.begin();
    // A dial that moves on hangs up on the judgement before: dropping this handler drops the guard.
    let _guard = StopWhenDropped(work.clone());
    off_thread(&app, move |app| Ok(Json(app.analyse(*id, day.conditions(), &work)?))).await
}

#[utoipa::path(get, path = "/api/bags/{id}/table", operation_id = "get_table", params(("id" = i64, Path), Day),
    responses((status = 200, body = Table), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show_table(
    app: Data<App>,
    id: Path<BagId>,
    day: Query<Day>,
) -> Result<Json<Table>, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    off_thread(&app, move |app| Ok(Json(app.table(*id, day.conditions(), &work)?))).await
}

#[utoipa::path(get, path = "/api/bags/{id}/season", operation_id = "get_season", params(("id" = i64, Path)),
    responses((status = 200, body = SeasonVerdict), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn season(app: Data<App>, id: Path<BagId>) -> Result<Json<SeasonVerdict>, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    off_thread(&app, move |app| Ok(Json(app.judge_season(*id, &work)?))).await
}

#[utoipa::path(get, path = "/api/bags/{id}/practice", operation_id = "get_practice", params(("id" = i64, Path)),
    responses((status = 200, description = "What each error of the player's release costs in a round of the season, with a drill for it", body = Practice), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn practice(app: Data<App>, id: Path<BagId>) -> Result<Json<Practice>, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    off_thread(&app, move |app| Ok(Json(app.practice(*id, &work)?))).await
}

#[utoipa::path(get, path = "/api/season/progress", operation_id = "get_season_progress", responses(
    (status = 200, description = "How far the latest judgement of a season has come", body = Progress)))]
pub(super) async fn season_progress(app: Data<App>) -> Json<Progress> {
    Json(app.season_progress())
}

/// A disc to show beside the best.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Beside {
    #[param(value_type = Option<i64>)]
    disc_id: Option<DiscId>,
}

#[utoipa::path(get, path = "/api/bags/{id}/lines/{key}", operation_id = "get_line_sheet",
    params(("id" = i64, Path), ("key" = String, Path), Beside, Day),
    responses((status = 200, body = OpenedLine), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn line(
    app: Data<App>,
    path: Path<(BagId, String)>,
    beside: Query<Beside>,
    day: Query<Day>,
) -> Result<Json<OpenedLine>, ApiError> {
    off_thread(&app, move |app| {
        let (id, key) = path.into_inner();
        let now = app.snapshot()?;
        let bag = app.bag(id)?;
        let line = named(&now.lines, &key)?;
        let also = beside.disc_id.map(|id| app.store().disc(id)).transpose()?;
        let question = now.question(&bag, day.conditions());
        let open = || opened_line(&question, also.as_ref(), line, &app.memo);
        Ok(Json(app.quickly(open)?))
    })
    .await
}

fn named<'a>(lines: &'a [Line], key: &str) -> Result<&'a Line, ApiError> {
    lines.iter().find(|l| l.key == key).ok_or_else(|| ApiError::NotFound { what: "line", id: key.to_owned() })
}

/// Which disc on which line.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Pair {
    #[param(value_type = i64)]
    disc_id: DiscId,
    line_key: String,
}

#[utoipa::path(get, path = "/api/chance", operation_id = "get_chance", params(Pair, Day), responses(
    (status = 200, body = ChanceSheet), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn chance(
    app: Data<App>,
    pair: Query<Pair>,
    day: Query<Day>,
) -> Result<Json<ChanceSheet>, ApiError> {
    off_thread(&app, move |app| {
        let now = app.snapshot()?;
        let disc = app.store().disc(pair.disc_id)?;
        let line = named(&now.lines, &pair.line_key)?;
        let open = || chance_sheet(&now.player, &day.conditions(), &disc, line, &app.memo);
        Ok(Json(app.quickly(open)?))
    })
    .await
}
