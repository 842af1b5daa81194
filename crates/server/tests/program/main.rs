//! Tests of the program but for the browser's. One program: it is linked once, and its tests run side by side.
#![allow(clippy::unwrap_used, missing_docs)]

mod adding;
mod api;
mod changes;
mod cli;
mod courses;
mod demo;
mod door;
mod faults;
mod field;
mod file;
mod fuzz;
mod guard;
mod http;
mod instruments;
mod lines;
mod openapi;
mod records;
mod restore;
mod rounds;
mod shelf_csv;
mod store;
mod throw_files;
mod tls;
mod weather;
mod year;
