//! The player.

use actix_web::web::{Data, Json, ServiceConfig, get, put};
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_bag::thrower::arm::{ArmReport, arm_report};
use zinc_kite_bag::thrower::player::{OwnScatter, Player};
use zinc_kite_bag::thrower::style::Style;

use super::resource;
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(resource("/api/player", "GET, PUT", [get().to(show), put().to(save)]));
}

/// The player and what follows from what is known of the arm.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlayerSheet {
    #[serde(flatten)]
    player: Player,
    /// Whether the player has been saved yet; else these are starting values.
    saved: bool,
    /// How fast the arm throws in each style, and from what that is known.
    arms: Vec<ArmReport>,
    /// Scatter that is used in each style: the player's own, else what the skill tells.
    scatter_used: Vec<OwnScatter>,
}

fn sheet(player: Player, saved: bool) -> PlayerSheet {
    let throws = Style::ALL.into_iter().filter(|style| *style != Style::Putt);
    PlayerSheet {
        saved,
        arms: throws.map(|style| arm_report(&player, style)).collect(),
        scatter_used: Style::ALL.map(|style| OwnScatter { style, scatter: player.scatter(style) }).into(),
        player,
    }
}

#[utoipa::path(get, path = "/api/player", operation_id = "get_player", responses(
    (status = 200, body = PlayerSheet), (status = "default", body = Problem)))]
pub(super) async fn show(app: Data<App>) -> Result<Json<PlayerSheet>, ApiError> {
    off_thread(&app, |app| {
        let stored = app.store().player()?;
        let saved = stored.is_some();
        Ok(Json(sheet(stored.unwrap_or_default(), saved)))
    })
    .await
}

#[utoipa::path(put, path = "/api/player", operation_id = "save_player", request_body = Player, responses(
    (status = 200, body = PlayerSheet), (status = "default", body = Problem)))]
pub(super) async fn save(app: Data<App>, player: Json<Player>) -> Result<Json<PlayerSheet>, ApiError> {
    off_thread(&app, move |app| {
        let player = player.into_inner();
        player.validate()?;
        app.store().save_player(&player)?;
        Ok(Json(sheet(player, true)))
    })
    .await
}
