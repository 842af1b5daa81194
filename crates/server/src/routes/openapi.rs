//! The description of the interface.

use actix_web::web::{Data, Json, ServiceConfig, get};
use serde::Serialize;
use utoipa::{OpenApi, ToSchema};

use super::{
    bags, build, changes, courses, data, discs, field, guard, instruments, lines, moulds, open_resource,
    player, range, records, resource, round, rounds, several, year,
};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};

#[derive(OpenApi)]
#[openapi(
    info(title = "Zinc Kite", description = "Assemble a full disc golf bag, judged by flying it."),
    paths(
        health,
        player::show,
        player::save,
        discs::plastics,
        discs::list,
        discs::add,
        discs::show,
        discs::save,
        discs::remove,
        discs::disc_sheet,
        discs::export,
        discs::import,
        several::read_line,
        several::add_line,
        several::copy,
        several::change,
        several::remove,
        moulds::export,
        moulds::import,
        moulds::list,
        moulds::add,
        moulds::show,
        moulds::save,
        moulds::remove,
        bags::list,
        bags::add,
        bags::show,
        bags::save,
        bags::remove,
        bags::moves,
        bags::show_comparison,
        bags::show_backups,
        bags::pack_backups,
        bags::show_ladder,
        bags::show_walk,
        bags::show_board,
        bags::show_ghosts,
        bags::show_preview,
        bags::analysis,
        bags::show_table,
        bags::season,
        bags::practice,
        bags::season_progress,
        bags::line,
        bags::chance,
        build::build,
        build::sizes,
        build::wish_prices,
        build::near,
        build::by_school,
        build::to_buy,
        build::progress,
        year::year,
        year::events,
        year::forecast,
        year::lean,
        lines::list,
        lines::usuals,
        lines::show,
        lines::add,
        lines::save,
        lines::remove,
        lines::set,
        lines::tried,
        courses::list,
        courses::add,
        courses::show,
        courses::save,
        courses::remove,
        courses::new_hole,
        courses::traced,
        courses::import,
        round::round_card,
        round::packing,
        round::weather,
        field::list,
        field::begin,
        field::show,
        field::save,
        field::remove,
        field::merge,
        field::log,
        field::show_throw,
        field::save_throw,
        field::remove_throw,
        field::import,
        field::csv,
        field::geojson,
        field::gpx,
        field::discs,
        field::season_of,
        field::arm,
        field::practised,
        field::trial,
        field::reading,
        field::read_one,
        field::numbers,
        instruments::show,
        rounds::list,
        rounds::begin,
        rounds::show,
        rounds::remove,
        rounds::show_hole,
        rounds::play,
        courses::geojson,
        courses::gpx,
        guard::session,
        guard::enter,
        guard::leave,
        data::show,
        data::backup,
        data::preview,
        data::restore,
        data::preview_copy,
        data::restore_copy,
        data::address,
        records::export,
        records::show_schema,
        records::preview,
        records::import,
        changes::list,
        changes::undo,
        changes::redo,
        changes::undo_one,
        changes::redo_one,
        range::fly,
        range::usuals,
        range::varied,
        range::export,
    )
)]
struct Document;

/// The OpenAPI document.
pub fn document() -> utoipa::openapi::OpenApi {
    Document::openapi()
}

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(resource("/api/openapi.json", "GET", [get().to(serve)])).service(open_resource(
        "/api/health",
        "GET",
        [get().to(health)],
    ));
}

async fn serve() -> Json<utoipa::openapi::OpenApi> {
    Json(document())
}

/// A sign of life.
#[derive(Serialize, ToSchema)]
pub(super) struct Health {
    /// Always "ok".
    status: &'static str,
    /// Version of the program.
    version: &'static str,
}

#[utoipa::path(get, path = "/api/health", operation_id = "health", responses(
    (status = 200, body = Health), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn health(app: Data<App>) -> Result<Json<Health>, ApiError> {
    // Alive is who can read the database.
    off_thread(&app, |app| Ok(app.store().latest_change()?)).await?;
    Ok(Json(Health { status: "ok", version: env!("CARGO_PKG_VERSION") }))
}
