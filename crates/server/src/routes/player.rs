//! The player.

use actix_web::web::{Data, Json, ServiceConfig, get, put};
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_bag::player::{Player, Style, arm_speed_m_s};

use super::resource;
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(resource("/api/player", "GET, PUT", [get().to(show), put().to(save)]));
}

/// The player and what follows from the distances.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlayerSheet {
    #[serde(flatten)]
    player: Player,
    /// Whether the player has been saved yet; else these are starting values.
    saved: bool,
    /// Full backhand arm speed, m/s.
    backhand_m_s: f64,
    /// Full forehand arm speed, m/s.
    forehand_m_s: f64,
}

fn sheet(player: Player, saved: bool) -> PlayerSheet {
    let speed = |style: Style| arm_speed_m_s(player.distance_m(style), style.into());
    PlayerSheet { saved, backhand_m_s: speed(Style::Backhand), forehand_m_s: speed(Style::Forehand), player }
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
