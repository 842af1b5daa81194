//! What the server can say has gone wrong, and how that reads over HTTP (RFC 9457 problem details).

use actix_web::http::StatusCode;
use actix_web::http::header::ContentType;
use actix_web::{HttpResponse, ResponseError};
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_bag::error::BagError;

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
    /// The database failed. Details go to the log only.
    #[error("the database could not do this; nothing was changed, see the program's log for the cause")]
    Store(StoreError),
    /// A worker was lost.
    #[error("the work was interrupted; nothing was changed, try again")]
    Interrupted,
}

impl From<StoreError> for ApiError {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NameTaken { what, name } => ApiError::Taken { what, name },
            StoreError::NotFound { what, id } => ApiError::NotFound { what, id },
            StoreError::LastBag { name } => ApiError::LastBag { name },
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
}

impl ApiError {
    fn title(&self) -> &'static str {
        match self {
            ApiError::NotFound { .. } | ApiError::NoSuchPath { .. } => "Not found",
            ApiError::Method { .. } => "Method not allowed",
            ApiError::Unreadable { .. } => "Unreadable request",
            ApiError::Value(BagError::Stopped) => "Could not be done",
            ApiError::Value(_) => "Value out of range",
            ApiError::Taken { .. } => "Name taken",
            ApiError::LastBag { .. } => "Still needed",
            ApiError::Store(_) | ApiError::Interrupted => "Could not be done",
        }
    }
}

impl ResponseError for ApiError {
    fn status_code(&self) -> StatusCode {
        match self {
            ApiError::NotFound { .. } | ApiError::NoSuchPath { .. } => StatusCode::NOT_FOUND,
            ApiError::Method { .. } => StatusCode::METHOD_NOT_ALLOWED,
            ApiError::Unreadable { .. } => StatusCode::BAD_REQUEST,
            ApiError::Value(BagError::Stopped) => StatusCode::SERVICE_UNAVAILABLE,
            ApiError::Value(_) => StatusCode::UNPROCESSABLE_ENTITY,
            ApiError::Taken { .. } | ApiError::LastBag { .. } => StatusCode::CONFLICT,
            ApiError::Store(_) | ApiError::Interrupted => StatusCode::INTERNAL_SERVER_ERROR,
        }
    }

    fn error_response(&self) -> HttpResponse {
        if let ApiError::Store(cause) = self {
            tracing::error!(%cause, "database");
        }
        let status = self.status_code();
        let problem = Problem {
            title: self.title(),
            status: status.as_u16(),
            detail: self.to_string(),
            field: match self {
                ApiError::Value(BagError::Stopped) => None,
                ApiError::Value(e) => Some(e.field().to_owned()),
                ApiError::Taken { .. } => Some("name".to_owned()),
                _ => None,
            },
        };
        let mut response = HttpResponse::build(status);
        if let ApiError::Method { allowed, .. } = self {
            response.insert_header(("Allow", *allowed));
        }
        response
            .content_type("application/problem+json")
            .body(serde_json::to_string(&problem).unwrap_or_else(|_| ContentType::json().to_string()))
    }
}
