//! Zinc Kite's server: command line, HTTP interface, database, import and export, demo scenario.

pub mod app;
pub mod cli;
pub mod demo;
pub mod error;
pub mod fly;
pub mod range_csv;
pub mod routes;
pub mod shelf_csv;
pub mod store;
