//! Several discs at once: read from a line, copied, changed alike, deleted.

use actix_web::web::{Data, Json, Path, ServiceConfig, post};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::disc::change::DiscChange;
use zinc_kite_bag::disc::spec::{DiscId, DiscSpec, Use};
use zinc_kite_bag::entry::{Entry, Known, MOST_AT_ONCE, names, read};
use zinc_kite_bag::error::within;
use zinc_kite_bag::whole::whole;

use super::body::Sent;
use super::resource;
use super::tag::Asked;
use crate::app::{App, off_thread};
use crate::error::{ApiError, Problem};
use crate::store::{BagId, MOST_DISCS, Store};

pub(super) fn configure(config: &mut ServiceConfig) {
    config
        .service(resource("/api/shelf/read", "POST", [post().to(read_line)]))
        .service(resource("/api/shelf/add", "POST", [post().to(add_line)]))
        .service(resource("/api/shelf/change", "POST", [post().to(change)]))
        .service(resource("/api/shelf/delete", "POST", [post().to(remove)]))
        .service(resource("/api/discs/{id}/copies", "POST", [post().to(copy)]));
}

/// A line that names discs.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct NewLine {
    /// As it is typed: how many, mould, then what is known; at most 400 characters.
    line: String,
    /// What the discs are for where the line does not say.
    #[serde(default)]
    used_for: Option<Use>,
    /// The bag to carry them in.
    #[serde(default)]
    bag_id: Option<BagId>,
}

impl NewLine {
    /// The line as the shelf and the library stand.
    fn entry(&self, store: &Store) -> Result<Entry, ApiError> {
        let discs = store.discs()?;
        let moulds = store.library()?.with_those_of(&discs);
        Ok(read(&self.line, Known { moulds: &moulds, discs: &discs, used_for: self.used_for }))
    }
}

#[utoipa::path(post, path = "/api/shelf/read", operation_id = "read_line", request_body = NewLine, responses(
    (status = 200, description = "The line as it is read; nothing is added", body = Entry),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn read_line(app: Data<App>, new: Sent<NewLine>) -> Result<Json<Entry>, ApiError> {
    off_thread(&app, move |app| Ok(Json(new.entry(&app.store())?))).await
}

/// Discs that were added.
#[derive(Debug, Serialize, ToSchema)]
pub struct Added {
    /// Which.
    disc_ids: Vec<DiscId>,
    /// What they are called.
    names: Vec<String>,
}

#[utoipa::path(post, path = "/api/shelf/add", operation_id = "add_line_of_discs", request_body = NewLine, responses(
    (status = 200, description = "The discs of the line, added all in one step", body = Added),
    (status = 422, description = "The line names no discs: why", body = Problem, content_type = "application/problem+json"),
    (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn add_line(
    app: Data<App>,
    asked: Asked,
    new: Sent<NewLine>,
) -> Result<Json<Added>, ApiError> {
    off_thread(&app, move |app| {
        let mut store = asked.store(app);
        let entry = new.entry(&store)?;
        if entry.discs.is_empty() {
            let problems = match entry.problems.is_empty() {
                true => vec!["Type a mould, then what you know of the disc.".to_owned()],
                false => entry.problems,
            };
            return Err(ApiError::Line { problems });
        }
        added(&mut store, entry.discs, new.bag_id)
    })
    .await
}

fn added(store: &mut Store, discs: Vec<DiscSpec>, bag: Option<BagId>) -> Result<Json<Added>, ApiError> {
    let how = if bag.is_some() { "on the shelf and carried" } else { "on the shelf" };
    let disc_ids = store.add_discs(&discs, bag, how)?;
    Ok(Json(Added { disc_ids, names: discs.into_iter().map(|d| d.name).collect() }))
}

/// How many copies.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct Copies {
    /// So many, 1 to 20.
    #[serde(deserialize_with = "whole")]
    #[schema(minimum = 1, maximum = 20)]
    count: u32,
}

#[utoipa::path(post, path = "/api/discs/{id}/copies", operation_id = "copy_disc", params(("id" = i64, Path)), request_body = Copies,
    responses((status = 200, description = "The copies, with names of their own", body = Added), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn copy(
    app: Data<App>,
    asked: Asked,
    id: Path<DiscId>,
    copies: Sent<Copies>,
) -> Result<Json<Added>, ApiError> {
    off_thread(&app, move |app| {
        within("count", f64::from(copies.count), 1.0, MOST_AT_ONCE as f64)?;
        let mut store = asked.store(app);
        let mut like = store.disc(*id)?.spec;
        like.keeping.marks.clear();
        let made = names(None, &like, copies.count as usize, &store.discs()?);
        added(&mut store, made.into_iter().map(|name| DiscSpec { name, ..like.clone() }).collect(), None)
    })
    .await
}

/// Discs, and what is to be the same of them.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct ChangeOfSeveral {
    /// Which.
    #[schema(max_items = 5000)]
    disc_ids: Vec<DiscId>,
    /// What of them; the rest stays as it is.
    change: DiscChange,
}

/// Discs.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct Several {
    /// Which.
    #[schema(max_items = 5000)]
    disc_ids: Vec<DiscId>,
}

/// Refuses more discs than a shelf holds.
fn few_enough(ids: &[DiscId]) -> Result<(), ApiError> {
    Ok(within("disc_ids", ids.len() as f64, 0.0, MOST_DISCS as f64)?)
}

/// What was done to several discs.
#[derive(Debug, Serialize, ToSchema)]
pub struct Done {
    /// To how many.
    discs: usize,
}

#[utoipa::path(post, path = "/api/shelf/change", operation_id = "change_discs", request_body = ChangeOfSeveral, responses(
    (status = 200, description = "All are changed, in one step", body = Done), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn change(
    app: Data<App>,
    asked: Asked,
    sent: Sent<ChangeOfSeveral>,
) -> Result<Json<Done>, ApiError> {
    off_thread(&app, move |app| {
        few_enough(&sent.disc_ids)?;
        let mut store = asked.store(app);
        for id in &sent.disc_ids {
            sent.change.applied(&store.disc(*id)?.spec).validate()?;
        }
        store.change_discs(&sent.disc_ids, &sent.change)?;
        Ok(Json(Done { discs: sent.disc_ids.len() }))
    })
    .await
}

#[utoipa::path(post, path = "/api/shelf/delete", operation_id = "delete_discs", request_body = Several, responses(
    (status = 200, description = "All are deleted, in one step", body = Done), (status = "default", body = Problem, content_type = "application/problem+json")))]
pub(super) async fn remove(
    app: Data<App>,
    asked: Asked,
    sent: Sent<Several>,
) -> Result<Json<Done>, ApiError> {
    off_thread(&app, move |app| {
        few_enough(&sent.disc_ids)?;
        asked.store(app).delete_discs(&sent.disc_ids)?;
        Ok(Json(Done { discs: sent.disc_ids.len() }))
    })
    .await
}
