//! What files of rows have in common when they are brought in: a look first, then all or the good ones.

use actix_web::HttpResponse;
use actix_web::web::Bytes;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use zinc_kite_bag::disc::spec::DiscId;

use crate::format::table::{Encoding, Reading, RowProblem, RowVerdict};

/// What to do with a file.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct ImportChoice {
    /// Only look: say what would become of each row and import nothing.
    #[serde(default)]
    preview: bool,
    /// Import the good rows and leave the bad ones; without it nothing is imported if a row is bad.
    #[serde(default)]
    accept_good: bool,
}

impl ImportChoice {
    /// Whether what was read is to be imported.
    pub(super) fn wants<T>(&self, reading: &Reading<T>) -> bool {
        !self.preview && (reading.problems.is_empty() || self.accept_good)
    }
}

/// What became of a file, or would.
#[derive(Debug, Serialize, ToSchema)]
pub struct ImportReport {
    /// Rows that can be imported.
    good: usize,
    /// Rows that were imported.
    imported: usize,
    /// The discs they became.
    disc_ids: Vec<DiscId>,
    /// What becomes of each row, the first thousand.
    rows: Vec<RowVerdict>,
    /// How many more rows there are.
    further_rows: usize,
    /// What is wrong, the first hundred things.
    problems: Vec<RowProblem>,
    /// How many more things are wrong.
    further: usize,
    /// Columns that are not known and were left aside.
    ignored: Vec<String>,
    /// What the file was taken to be written in.
    encoding: Encoding,
}

impl ImportReport {
    pub(super) fn of<T>(reading: Reading<T>, imported: usize, disc_ids: Vec<DiscId>) -> ImportReport {
        ImportReport {
            good: reading.things.len(),
            imported,
            disc_ids,
            rows: reading.rows,
            further_rows: reading.further_rows,
            problems: reading.problems,
            further: reading.further,
            ignored: reading.ignored,
            encoding: reading.encoding,
        }
    }
}

/// A table as a file to be kept.
pub(super) fn csv_file(name: &str, text: String) -> HttpResponse {
    HttpResponse::Ok()
        .content_type("text/csv; charset=utf-8")
        .insert_header(("Content-Disposition", format!("attachment; filename=\"{name}\"")))
        .body(text)
}

/// Something as a file to be kept, called by the name of what it holds.
pub(super) fn file(name: &str, kind: &str, ending: &str, body: impl Into<Bytes>) -> HttpResponse {
    let plain: String = name.chars().map(|c| if c.is_ascii_alphanumeric() { c } else { '-' }).collect();
    HttpResponse::Ok()
        .content_type(kind)
        .insert_header(("Content-Disposition", format!("attachment; filename=\"{plain}.{ending}\"")))
        .body(body.into())
}
