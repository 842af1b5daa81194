//! Formats of files: reading them in and writing them out. May use the core and the plain types of the store; knows no
//! route and no table.

pub mod course_file;
pub mod mould_csv;
pub mod nmea;
mod places;
pub mod range_csv;
pub mod rangefinder;
pub mod records;
pub mod shelf_csv;
pub mod table;
pub mod throw_csv;
pub mod throw_file;
pub mod year;
