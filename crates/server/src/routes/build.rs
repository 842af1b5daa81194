//! The builder: the best bag under some wishes, and what there is to know about it.

use std::time::Duration;

use actix_web::rt::spawn;
use actix_web::rt::time::sleep;
use actix_web::web::{Data, Json, Path, ServiceConfig, get, post};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::plan::build::{
    Curve, Desk, Proposal, SchoolBag, Specification, Ties, WishPrice, Wishes, curve, prices, propose,
    schools, shopping, ties,
};
use zinc_kite_bag::verdict::carried::Carried;
use zinc_kite_bag::verdict::work::{Progress, Work};

use super::body::Sent;
use super::resource;
use crate::app::{App, StopWhenDropped, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::BagId;

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/bags/{id}/build", "POST", [post().to(build)]))
        .service(resource("/api/bags/{id}/build/curve", "POST", [post().to(sizes)]))
        .service(resource("/api/bags/{id}/build/prices", "POST", [post().to(wish_prices)]))
        .service(resource("/api/bags/{id}/build/ties", "POST", [post().to(near)]))
        .service(resource("/api/bags/{id}/build/schools", "POST", [post().to(by_school)]))
        .service(resource("/api/bags/{id}/build/shopping", "POST", [post().to(to_buy)]))
        .service(resource("/api/build/progress", "GET", [get().to(progress)]));
}

/// How long a search may take before it is content with the best it has found, and says how much better one could be.
const PATIENCE: Duration = Duration::from_secs(20);
/// Discs that are told to look for.
const TO_BUY: usize = 3;

/// Answers from a desk on which everything is laid out for a bag. Who hangs up stops it.
pub(super) async fn at_desk<T: Send + 'static>(
    app: Data<App>,
    id: BagId,
    wishes: Wishes,
    answer: impl FnOnce(&App, &Desk, &[Carried], &Wishes, &Work) -> Result<T, BagError> + Send + 'static,
) -> Result<Json<T>, ApiError> {
    let work = app.begin();
    let _guard = StopWhenDropped(work.clone());
    let hurried = work.clone();
    let clock = spawn(async move {
        sleep(PATIENCE).await;
        hurried.hurry();
    });
    let answered = off_thread(&app, move |app| {
        app.at_desk(id, wishes.buying.is_some(), &work, |desk, carried| {
            answer(app, desk, carried, &wishes, &work)
        })
    })
    .await;
    clock.abort();
    Ok(Json(answered?))
}

#[utoipa::path(post, path = "/api/bags/{id}/build", operation_id = "build", params(("id" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "The best bag, against this one", body = Proposal), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn build(
    app: Data<App>,
    id: Path<BagId>,
    wishes: Sent<Wishes>,
) -> Result<Json<Proposal>, ApiError> {
    at_desk(app, *id, wishes.0, |_, desk, carried, wishes, work| propose(desk, wishes, carried, work)).await
}

#[utoipa::path(post, path = "/api/bags/{id}/build/curve", operation_id = "build_curve", params(("id" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "The best bag of every size", body = Curve), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn sizes(
    app: Data<App>,
    id: Path<BagId>,
    wishes: Sent<Wishes>,
) -> Result<Json<Curve>, ApiError> {
    at_desk(app, *id, wishes.0, |_, desk, _, wishes, work| curve(desk, wishes, work)).await
}

#[utoipa::path(post, path = "/api/bags/{id}/build/prices", operation_id = "build_prices", params(("id" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "What every wish costs", body = [WishPrice]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn wish_prices(
    app: Data<App>,
    id: Path<BagId>,
    wishes: Sent<Wishes>,
) -> Result<Json<Vec<WishPrice>>, ApiError> {
    at_desk(app, *id, wishes.0, |_, desk, _, wishes, work| prices(desk, wishes, work)).await
}

#[utoipa::path(post, path = "/api/bags/{id}/build/ties", operation_id = "build_ties", params(("id" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "Other bags that come near", body = Ties), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn near(
    app: Data<App>,
    id: Path<BagId>,
    wishes: Sent<Wishes>,
) -> Result<Json<Ties>, ApiError> {
    at_desk(app, *id, wishes.0, |_, desk, _, wishes, work| ties(desk, wishes, work)).await
}

#[utoipa::path(post, path = "/api/bags/{id}/build/schools", operation_id = "build_schools", params(("id" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "The best bag of every school", body = [SchoolBag]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn by_school(
    app: Data<App>,
    id: Path<BagId>,
    wishes: Sent<Wishes>,
) -> Result<Json<Vec<SchoolBag>>, ApiError> {
    at_desk(app, *id, wishes.0, |_, desk, _, wishes, work| schools(desk, wishes, work)).await
}

#[utoipa::path(post, path = "/api/bags/{id}/build/shopping", operation_id = "build_shopping", params(("id" = i64, Path)), request_body = Wishes,
    responses((status = 200, description = "Discs to look for beside the best bag", body = [Specification]), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn to_buy(
    app: Data<App>,
    id: Path<BagId>,
    wishes: Sent<Wishes>,
) -> Result<Json<Vec<Specification>>, ApiError> {
    at_desk(app, *id, wishes.0, |app, desk, carried, wishes, work| {
        let best = propose(desk, wishes, carried, work)?;
        shopping(desk.stock(), &best.discs, TO_BUY, &app.memo, work)
    })
    .await
}

#[utoipa::path(get, path = "/api/build/progress", operation_id = "get_build_progress", responses(
    (status = 200, description = "How far the builder's latest work has come", body = Progress)))]
pub(super) async fn progress(app: Data<App>) -> Json<Progress> {
    Json(app.build_progress())
}
