//! Zinc Kite's server: command line, HTTP interface, database, import and export, demo scenario.

pub mod app;
pub mod cli;
pub mod demo;
pub mod door;
pub mod error;
pub mod fly;
pub mod format;
pub mod instrument;
pub mod listen;
pub mod routes;
pub mod serve;
pub mod store;
pub mod weather;
