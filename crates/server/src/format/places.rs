//! What files of places have in common, GeoJSON (RFC 7946) and GPX 1.1: reading them within bounds, and a place in either.

use geojson::{FeatureCollection, GeoJson, Position};
use gpx::{Gpx, Waypoint};
use serde_json::Value;
use zinc_kite_bag::course::place::Place;

/// Most records of a file that are looked at.
const MOST_RECORDS: usize = 2000;

/// Which of the two a file is.
pub(super) enum PlacesKind {
    GeoJson,
    Gpx,
}

fn plain(bytes: &[u8]) -> &[u8] {
    bytes.strip_prefix("\u{feff}".as_bytes()).unwrap_or(bytes)
}

impl PlacesKind {
    /// By how a file begins.
    pub fn of(bytes: &[u8]) -> Result<PlacesKind, String> {
        match plain(bytes).iter().find(|b| !b.is_ascii_whitespace()) {
            Some(b'{') => Ok(PlacesKind::GeoJson),
            Some(b'<') => Ok(PlacesKind::Gpx),
            _ => Err("a GeoJSON or GPX file was expected: it begins with { or <".into()),
        }
    }
}

/// The features of a file; `what` says what they are expected to be.
pub(super) fn parse_geojson(bytes: &[u8], what: &str) -> Result<FeatureCollection, String> {
    let text = std::str::from_utf8(plain(bytes)).map_err(|e| format!("text in UTF-8 was expected; {e}"))?;
    // Malformed JSON is told with its line.
    let _: Value = serde_json::from_str(text).map_err(|e| format!("JSON was expected; {e}"))?;
    let parsed: GeoJson = text.parse().map_err(|e| format!("GeoJSON was expected; {e}"))?;
    let GeoJson::FeatureCollection(collection) = parsed else {
        return Err(format!("a FeatureCollection was expected: {what} is a feature of it"));
    };
    let features = collection.features.len();
    if features > MOST_RECORDS {
        return Err(format!("at most {MOST_RECORDS} features were expected, {features} came"));
    }
    Ok(collection)
}

/// The waypoints, tracks and routes of a file.
pub(super) fn parse_gpx(bytes: &[u8]) -> Result<Gpx, String> {
    let bytes = plain(bytes);
    // Entities stand for text without limit, and nothing of a GPX file needs them (XML 1.0 §2.8, §4.2).
    if declares_a_type(bytes) {
        return Err(
            "GPX without a document type (DOCTYPE) was expected; take that line out and try again".into()
        );
    }
    // A hundred thousand elements one in another kept the reader busy for minutes; no file of tracks nests far.
    if nests_deeper_than(bytes, DEEPEST) {
        return Err(format!("GPX was expected; this nests more than {DEEPEST} elements"));
    }
    let gpx = gpx::read(bytes).map_err(|e| format!("GPX 1.0 or 1.1 was expected; {e}"))?;
    let records = gpx.waypoints.len() + gpx.tracks.len() + gpx.routes.len();
    if records > MOST_RECORDS {
        return Err(format!("at most {MOST_RECORDS} waypoints and tracks were expected, {records} came"));
    }
    Ok(gpx)
}

/// Whether an XML file declares a document type, whatever it is written in: the letters stand one after the other, with zeros
/// between them in UTF-16.
fn declares_a_type(bytes: &[u8]) -> bool {
    let letters: Vec<u8> = bytes.iter().copied().filter(|b| *b != 0).collect();
    letters.windows(9).any(|w| w.eq_ignore_ascii_case(b"<!DOCTYPE"))
}

/// Deepest nesting that is read.
const DEEPEST: usize = 32;

/// A bound on how deep a file nests, by its brackets alone.
fn nests_deeper_than(bytes: &[u8], most: usize) -> bool {
    let mut depth = 0usize;
    for (k, _) in bytes.iter().enumerate().filter(|(_, byte)| **byte == b'<') {
        let rest = &bytes[k + 1..];
        match rest.first() {
            Some(b'/') => depth = depth.saturating_sub(1),
            Some(b'?' | b'!') | None => {}
            Some(_) => {
                let end = rest.iter().position(|b| *b == b'>').unwrap_or(0);
                depth += usize::from(end == 0 || rest[end - 1] != b'/');
            }
        }
        if depth > most {
            return true;
        }
    }
    false
}

/// Where a position is.
pub(super) fn place_at(p: &Position) -> Place {
    Place {
        longitude_deg: p.as_slice().first().copied().unwrap_or(f64::NAN),
        latitude_deg: p.as_slice().get(1).copied().unwrap_or(f64::NAN),
        height_m: p.as_slice().get(2).copied(),
    }
}

/// A place as a position.
pub(super) fn position(place: &Place) -> Position {
    let mut position = vec![place.longitude_deg, place.latitude_deg];
    position.extend(place.height_m);
    position.into()
}

/// Where a waypoint is.
pub(super) fn place_of(waypoint: &Waypoint) -> Place {
    let (longitude_deg, latitude_deg) = waypoint.point().x_y();
    Place { latitude_deg, longitude_deg, height_m: waypoint.elevation }
}
