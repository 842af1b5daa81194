//! The player.

use actix_web::HttpResponse;
use actix_web::http::StatusCode;
use actix_web::web::{Data, ServiceConfig, get, put};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use zinc_kite_bag::thrower::arm::{ArmReport, arm_report};
use zinc_kite_bag::thrower::player::{OwnScatter, Player};
use zinc_kite_bag::thrower::style::Style;

use super::body::Sent;
use super::resource;
use super::tag::{Asked, Tagged, laid_over};
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};

pub(super) fn configure(config: &mut ServiceConfig) {
    config.service(resource("/api/player", "GET, PUT", [get().to(show), put().to(save)]));
}

/// The player and what follows from what is known of the arm.
#[derive(Debug, Clone, Serialize, ToSchema)]
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

fn sheet(stored: Option<Player>) -> Tagged<PlayerSheet> {
    let saved = stored.is_some();
    let player = stored.unwrap_or_default();
    let throws = Style::ALL.into_iter().filter(|style| *style != Style::Putt);
    let version = (&player.clone(), saved);
    let sheet = PlayerSheet {
        saved,
        arms: throws.map(|style| arm_report(&player, style)).collect(),
        scatter_used: Style::ALL.map(|style| OwnScatter { style, scatter: player.scatter(style) }).into(),
        player,
    };
    Tagged::by(&version, sheet)
}

#[utoipa::path(get, path = "/api/player", operation_id = "get_player", responses(
    (status = 200, body = Tagged<PlayerSheet>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn show(app: Data<App>) -> Result<HttpResponse, ApiError> {
    let sheet = off_thread(&app, |app| {
        let stored = app.store().player()?;
        Ok(sheet(stored))
    })
    .await?;
    Ok(sheet.answer(StatusCode::OK))
}

#[utoipa::path(put, path = "/api/player", operation_id = "save_player", params(("If-Match" = String, Header, description = "Entity tag of the version that this is made from")), request_body = Player, responses(
    (status = 200, body = Tagged<PlayerSheet>, headers(("ETag" = String, description = "Entity tag of this version"))), (status = 412, description = "Another window has changed it meanwhile: both versions", body = Problem, content_type = "application/problem+json"),
    (status = 428, description = "No If-Match was sent", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn save(app: Data<App>, asked: Asked, sent: Sent<Value>) -> Result<HttpResponse, ApiError> {
    let sheet = off_thread(&app, move |app| {
        let player = {
            let mut store = asked.store(app);
            let now = sheet(store.player()?);
            let player = laid_over(&now.thing().player, sent.into_inner())?;
            player.validate()?;
            asked.saw(&now, &player)?;
            store.save_player(&player)?;
            player
        };
        Ok(sheet(Some(player)))
    })
    .await?;
    Ok(sheet.answer(StatusCode::OK))
}
