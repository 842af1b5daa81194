//! What the server can say has gone wrong, and how that reads over HTTP (RFC 9457 problem details).

use actix_web::http::StatusCode;
use actix_web::http::header::{ACCEPT_ENCODING, ContentType, ETAG, RETRY_AFTER};
use actix_web::{HttpResponse, ResponseError};
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_bag::error::BagError;

use crate::format::records::RecordProblem;
use crate::store::StoreError;

/// Failure of a request.
#[derive(Debug, thiserror::Error)]
pub enum ApiError {
    /// Nothing of that identity.
    #[error("there is no {what} {id}; it may have been deleted, go back to the list and choose again")]
    NotFound {
        /// Kind of thing.
        what: &'static str,
        /// Identity asked for.
        id: String,
    },
    /// No such address.
    #[error("there is nothing at {path}; /api/openapi.json lists what there is")]
    NoSuchPath {
        /// Path asked for.
        path: String,
    },
    /// The address exists, the method does not.
    #[error("this address does not take {method}; it takes {allowed}")]
    Method {
        /// Method asked for.
        method: String,
        /// Methods there are.
        allowed: &'static str,
    },
    /// The request itself cannot be read.
    #[error("the request could not be read: {detail}; correct it and send it again")]
    Unreadable {
        /// What the reader said.
        detail: String,
    },
    /// A body of another kind than the address takes.
    #[error(
        "a body of the kind {expected} was expected, {} came; say its kind as Content-Type and send it again",
        if found.is_empty() { "one that does not say its kind" } else { found }
    )]
    Kind {
        /// Kinds that it takes.
        expected: String,
        /// What it said.
        found: String,
    },
    /// A body that is packed in a way that is not read.
    #[error(
        "a body packed as gzip or deflate, or not at all, was expected; \"{found}\" came. Send it unpacked"
    )]
    Packing {
        /// How it says it is packed.
        found: String,
    },
    /// A document of records that does not hold together.
    #[error("these records cannot be imported: {}{}; look at it first, nothing was changed", match problems.first() {
        Some(p) if p.at.is_empty() => p.words.clone(),
        Some(p) => format!("{}: {}", p.at, p.words),
        None => "nothing is known of why".into(),
    }, if problems.len() > 1 { format!(", and {} more", problems.len() - 1) } else { String::new() })]
    Records {
        /// What is wrong.
        problems: Vec<RecordProblem>,
    },
    /// A value outside its range.
    #[error(transparent)]
    Value(#[from] BagError),
    /// A name that is taken.
    #[error("there is already a {what} called \"{name}\"; choose another name")]
    Taken {
        /// Kind of thing.
        what: &'static str,
        /// The name.
        name: String,
    },
    /// The only bag cannot be deleted.
    #[error("\"{name}\" is the only bag, and there must be one; make another first, or empty this one")]
    LastBag {
        /// Its name.
        name: String,
    },
    /// A change that does not say which version of the thing it was made from.
    #[error(
        "this changes something that another window may have changed too: send its entity tag, as you last read it, as If-Match"
    )]
    Unconditional,
    /// The thing is not what the change was made from.
    #[error(
        "another window has changed this meanwhile; nothing was overwritten. Look at both and save again"
    )]
    ChangedMeanwhile {
        /// As it is now.
        now: serde_json::Value,
        /// As it was sent.
        yours: serde_json::Value,
        /// Tag of what is now.
        etag: String,
    },
    /// A copy that is none of ours, or damaged.
    #[error("{}; nothing was changed, choose another file", match .0 {
        StoreError::NotOurs { cause, .. } => format!("this is no backup of Zinc Kite ({cause})"),
        StoreError::Damaged { cause, .. } => format!("this backup is damaged ({cause})"),
        StoreError::Newer { found, known, .. } => format!(
            "this backup is of a newer Zinc Kite (its format is {found}, this program knows {known})"
        ),
        other => format!("this backup cannot be read ({other})"),
    })]
    Copy(StoreError),
    /// Asked for by a name that is not this program's.
    #[error(
        "\"{host}\" is no name of this program; open it by its address in figures, or start it with --name {host} and a password"
    )]
    Host {
        /// The name.
        host: String,
    },
    /// Asked for by a page of another site.
    #[error("a page of {origin} may not use this program; open it by its own address")]
    Origin {
        /// Where the page is from.
        origin: String,
    },
    /// The password has not been given.
    #[error("log in with the password of this Zinc Kite first")]
    LoggedOut,
    /// It was another password.
    #[error(
        "that is not the password; try again, or set a new one with `zinc-kite password` on the machine it runs on"
    )]
    WrongPassword,
    /// Too many were tried.
    #[error("too many passwords were tried; wait {wait_s} s and try again")]
    TooOften {
        /// Seconds to wait.
        wait_s: u64,
    },
    /// A body that comes too slowly.
    #[error("the request did not come whole within {limit_s} s; send it again")]
    TooSlow {
        /// The limit.
        limit_s: u64,
    },
    /// A body that is too large.
    #[error("the request is larger than {}; send it in parts", size_in_words(*limit))]
    TooLarge {
        /// The limit, bytes.
        limit: usize,
    },
    /// No weather program was named.
    #[error(
        "no weather program is known; start Zinc Kite with --weather and its address, or type the forecast"
    )]
    NoWeather,
    /// A weather program that tells nothing of use.
    #[error("{detail}")]
    Weather {
        /// What is the matter with it, and what to do.
        detail: String,
    },
    /// A step that cannot be undone or done again as things are.
    #[error("{0}")]
    Turn(StoreError),
    /// Something else needs it.
    #[error("{0}")]
    Needed(StoreError),
    /// More of a thing than the program keeps.
    #[error("{0}")]
    TooMany(StoreError),
    /// A line that names no disc.
    #[error("{}", problems.join(" "))]
    Line {
        /// What is wrong with it.
        problems: Vec<String>,
    },
    /// The disk takes no more.
    #[error("the disk is full or cannot be written; nothing was changed. Free some space and try again")]
    Disk(StoreError),
    /// The database failed. Details go to the log only.
    #[error("the database could not do this; nothing was changed, see the program's log for the cause")]
    Store(StoreError),
    /// A worker was lost.
    #[error("the work was interrupted; nothing was changed, try again")]
    Interrupted,
}

fn size_in_words(bytes: usize) -> String {
    if bytes < 1 << 20 { format!("{} kB", bytes >> 10) } else { format!("{} MB", bytes >> 20) }
}

fn is_of_the_disk(error: &rusqlite::Error) -> bool {
    use rusqlite::ErrorCode::{DiskFull, ReadOnly, SystemIoFailure};
    matches!(error.sqlite_error_code(), Some(DiskFull | ReadOnly | SystemIoFailure))
}

impl From<StoreError> for ApiError {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NameTaken { what, name } => ApiError::Taken { what, name },
            StoreError::NotFound { what, id } => ApiError::NotFound { what, id },
            StoreError::LastBag { name } => ApiError::LastBag { name },
            turn @ (StoreError::NothingToTurn { .. }
            | StoreError::NothingOwn { .. }
            | StoreError::ChangedSince { .. }
            | StoreError::NameSince { .. }) => ApiError::Turn(turn),
            many @ (StoreError::TooMany { .. } | StoreError::FullSession { .. }) => ApiError::TooMany(many),
            needed @ StoreError::MouldInUse { .. } => ApiError::Needed(needed),
            StoreError::Sqlite(e) if is_of_the_disk(&e) => ApiError::Disk(StoreError::Sqlite(e)),
            full @ StoreError::Copy { .. } => ApiError::Disk(full),
            blocked @ StoreError::NoFolder { .. } => ApiError::Needed(blocked),
            other => ApiError::Store(other),
        }
    }
}

impl From<actix_web::error::BlockingError> for ApiError {
    fn from(_: actix_web::error::BlockingError) -> Self {
        ApiError::Interrupted
    }
}

/// Body of every failed request, `application/problem+json`.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Problem {
    /// Short, the same for every problem of the kind.
    pub title: &'static str,
    /// HTTP status.
    pub status: u16,
    /// What was expected, what came and how to mend it.
    pub detail: String,
    /// The field at fault, if one is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub field: Option<String>,
    /// The range that the value at fault lies outside of, in the unit that its name ends with.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub range: Option<Range>,
    /// The thing as it is now, if the change was made from another version.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub now: Option<serde_json::Value>,
    /// What was sent, if the change was made from another version.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub yours: Option<serde_json::Value>,
    /// What is wrong with a document of records, the first hundred things.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub problems: Vec<RecordProblem>,
}

/// A range and what lies outside of it.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Range {
    /// Least accepted.
    pub least: f64,
    /// Greatest accepted.
    pub most: f64,
    /// What came; null if it is no number.
    pub got: Option<f64>,
}

impl ApiError {
    fn title(&self) -> &'static str {
        match self {
            ApiError::NotFound { .. } | ApiError::NoSuchPath { .. } => "Not found",
            ApiError::Method { .. } => "Method not allowed",
            ApiError::Unreadable { .. } => "Unreadable request",
            ApiError::Kind { .. } | ApiError::Packing { .. } => "Of another kind",
            ApiError::Value(BagError::Stopped) => "Could not be done",
            ApiError::Value(_) => "Value out of range",
            ApiError::Taken { .. } => "Name taken",
            ApiError::LastBag { .. } | ApiError::Needed(_) => "Still needed",
            ApiError::Line { .. } => "Line not understood",
            ApiError::Copy(_) => "Not a backup",
            ApiError::Records { .. } => "Not records",
            ApiError::Host { .. } => "Unknown host",
            ApiError::Origin { .. } => "Another site",
            ApiError::LoggedOut | ApiError::WrongPassword => "Not logged in",
            ApiError::TooOften { .. } => "Too many tries",
            ApiError::TooSlow { .. } => "Too slow",
            ApiError::Weather { .. } | ApiError::NoWeather => "No forecast",
            ApiError::TooLarge { .. } => "Too large",
            ApiError::Unconditional => "Version not named",
            ApiError::ChangedMeanwhile { .. } => "Changed meanwhile",
            ApiError::Turn(_) => "Cannot be turned back",
            ApiError::TooMany(_) => "Too many",
            ApiError::Store(_) | ApiError::Disk(_) | ApiError::Interrupted => "Could not be done",
        }
    }
}

impl ResponseError for ApiError {
    fn status_code(&self) -> StatusCode {
        match self {
            ApiError::NotFound { .. } | ApiError::NoSuchPath { .. } => StatusCode::NOT_FOUND,
            ApiError::Method { .. } => StatusCode::METHOD_NOT_ALLOWED,
            ApiError::Unreadable { .. } => StatusCode::BAD_REQUEST,
            ApiError::Kind { .. } | ApiError::Packing { .. } => StatusCode::UNSUPPORTED_MEDIA_TYPE,
            ApiError::Value(BagError::Stopped) => StatusCode::SERVICE_UNAVAILABLE,
            ApiError::Value(_) => StatusCode::UNPROCESSABLE_ENTITY,
            ApiError::Taken { .. }
            | ApiError::LastBag { .. }
            | ApiError::Needed(_)
            | ApiError::Turn(_)
            | ApiError::TooMany(_) => StatusCode::CONFLICT,
            ApiError::Line { .. } => StatusCode::UNPROCESSABLE_ENTITY,
            ApiError::Copy(_) | ApiError::Records { .. } => StatusCode::UNPROCESSABLE_ENTITY,
            ApiError::Host { .. } => StatusCode::MISDIRECTED_REQUEST,
            ApiError::Origin { .. } => StatusCode::FORBIDDEN,
            ApiError::LoggedOut | ApiError::WrongPassword => StatusCode::UNAUTHORIZED,
            ApiError::TooOften { .. } => StatusCode::TOO_MANY_REQUESTS,
            ApiError::TooSlow { .. } => StatusCode::REQUEST_TIMEOUT,
            ApiError::NoWeather => StatusCode::NOT_FOUND,
            ApiError::Weather { .. } => StatusCode::BAD_GATEWAY,
            ApiError::TooLarge { .. } => StatusCode::PAYLOAD_TOO_LARGE,
            ApiError::Unconditional => StatusCode::PRECONDITION_REQUIRED,
            ApiError::ChangedMeanwhile { .. } => StatusCode::PRECONDITION_FAILED,
            ApiError::Disk(_) => StatusCode::INSUFFICIENT_STORAGE,
            ApiError::Store(_) | ApiError::Interrupted => StatusCode::INTERNAL_SERVER_ERROR,
        }
    }

    fn error_response(&self) -> HttpResponse {
        if let ApiError::Store(cause) | ApiError::Disk(cause) = self {
            tracing::error!(%cause, "database");
        }
        let status = self.status_code();
        let (now, yours) = match self {
            ApiError::ChangedMeanwhile { now, yours, .. } => (Some(now.clone()), Some(yours.clone())),
            _ => (None, None),
        };
        let range = match self {
            ApiError::Value(BagError::Range { least, most, got, .. }) => {
                Some(Range { least: *least, most: *most, got: got.is_finite().then_some(*got) })
            }
            _ => None,
        };
        let problems = match self {
            ApiError::Records { problems } => problems.clone(),
            _ => vec![],
        };
        let problem = Problem {
            problems,
            range,
            now,
            yours,
            title: self.title(),
            status: status.as_u16(),
            detail: self.to_string(),
            field: match self {
                ApiError::Value(BagError::Stopped) => None,
                ApiError::Value(e) => Some(e.field().to_owned()),
                ApiError::Taken { .. } => Some("name".to_owned()),
                ApiError::Line { .. } => Some("line".to_owned()),
                ApiError::WrongPassword => Some("password".to_owned()),
                _ => None,
            },
        };
        let mut response = HttpResponse::build(status);
        if let ApiError::Method { allowed, .. } = self {
            response.insert_header(("Allow", *allowed));
        }
        match self {
            ApiError::ChangedMeanwhile { etag, .. } => drop(response.insert_header((ETAG, etag.clone()))),
            ApiError::TooOften { wait_s } => drop(response.insert_header((RETRY_AFTER, *wait_s))),
            ApiError::Packing { .. } => drop(response.insert_header((ACCEPT_ENCODING, "gzip, deflate"))),
            _ => {}
        }
        response
            .content_type("application/problem+json")
            .body(serde_json::to_string(&problem).unwrap_or_else(|_| ContentType::json().to_string()))
    }
}
