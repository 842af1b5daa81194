//! Courses as files of places: GeoJSON (RFC 7946) and GPX 1.1, by the packages that read and write these.
//!
//! What is ours is only how a hole is told in them, documented in the README: a point is the tee or the basket of a hole, a line
//! its way from tee to basket, a polygon water or out of bounds.

use geojson::{Feature, FeatureCollection, GeometryValue, JsonObject, Position};
use gpx::{Gpx, GpxVersion, Waypoint};
use serde_json::{Value, json};
use zinc_kite_bag::course::hole::{CourseSpec, Hole, MOST_HOLES};
use zinc_kite_bag::course::place::Place;
use zinc_kite_bag::course::survey::{Mark, RecordVerdict, Surveyed};
use zinc_kite_bag::need::thing::{Peril, Thing};

use super::places::{PlacesKind, parse_geojson, parse_gpx, place_at, place_of, position};

/// What a file says.
#[derive(Debug, Default)]
pub struct CourseReading {
    /// Name of the course, if it says one.
    pub name: Option<String>,
    /// What was surveyed.
    pub surveyed: Vec<Surveyed>,
    /// Records that are none of it, with the reason.
    pub refused: Vec<RecordVerdict>,
}

impl CourseReading {
    fn refuse(&mut self, record: &str, words: impl Into<String>) {
        let words = words.into();
        self.refused.push(RecordVerdict { record: record.to_owned(), taken: false, words });
    }

    fn take(&mut self, surveyed: Surveyed) {
        let nowhere = surveyed.places.iter().find_map(|p| p.validate().err());
        match nowhere {
            Some(e) => self.refuse(&surveyed.record, e.to_string()),
            None => self.surveyed.push(surveyed),
        }
    }
}

/// Reads a file of either kind.
///
/// # Errors
/// What is wrong with it as a whole, with the line where that is known.
pub fn read(bytes: &[u8]) -> Result<CourseReading, String> {
    match PlacesKind::of(bytes)? {
        PlacesKind::GeoJson => read_geojson(bytes),
        PlacesKind::Gpx => read_gpx(bytes),
    }
}

fn read_geojson(bytes: &[u8]) -> Result<CourseReading, String> {
    let collection = parse_geojson(bytes, "every tee, basket, way and area")?;
    let mut reading = CourseReading::default();
    let named = collection.foreign_members.as_ref().and_then(|m| m.get("name")?.as_str().map(str::to_owned));
    reading.name = named;
    for (k, feature) in collection.features.into_iter().enumerate() {
        feature_of(&format!("feature {}", k + 1), feature, &mut reading);
    }
    Ok(reading)
}

fn feature_of(record: &str, feature: Feature, reading: &mut CourseReading) {
    let text = |key: &str| match feature.property(key) {
        Some(Value::String(text)) => text.trim().to_owned(),
        Some(Value::Number(n)) => n.to_string(),
        _ => String::new(),
    };
    let (hole, what) = (text("hole"), text("what").to_lowercase());
    let par = text("par").parse().ok();
    let Some(geometry) = feature.geometry.as_ref() else {
        return reading.refuse(record, "a point, a line or a polygon was expected, none came");
    };
    let (mark, positions): (Option<Mark>, Vec<&Position>) = match &geometry.value {
        GeometryValue::Point { coordinates } => (point(&what), vec![coordinates]),
        GeometryValue::LineString { coordinates } => (Some(Mark::Track), coordinates.iter().collect()),
        GeometryValue::Polygon { coordinates } => {
            // A ring ends where it begins.
            let ring = coordinates.first().map_or(&[][..], Vec::as_slice);
            let open =
                if ring.len() > 1 && ring.first() == ring.last() { &ring[..ring.len() - 1] } else { ring };
            (peril(&what), open.iter().collect())
        }
        _ => return reading.refuse(record, "a point, a line or a polygon was expected"),
    };
    let Some(mark) = mark else {
        let expected = "a property \"what\" that says tee or basket of a point, water or out of bounds of a polygon, was expected";
        let got = if what.is_empty() { "none came".to_owned() } else { format!("\"{what}\" came") };
        return reading.refuse(record, format!("{expected}; {got}"));
    };
    if hole.is_empty() && !matches!(mark, Mark::Peril(_)) {
        return reading.refuse(record, "a property \"hole\" with the hole's number was expected, none came");
    }
    let places = positions.iter().copied().map(place_at).collect();
    reading.take(Surveyed { record: record.to_owned(), hole, mark, places, par });
}

fn point(what: &str) -> Option<Mark> {
    match what {
        "tee" => Some(Mark::Tee),
        "basket" | "target" | "pin" => Some(Mark::Basket),
        _ => None,
    }
}

fn peril(what: &str) -> Option<Mark> {
    match what.replace(['_', '-'], " ").as_str() {
        "water" => Some(Mark::Peril(Peril::Water)),
        "out of bounds" | "ob" | "out" => Some(Mark::Peril(Peril::OutOfBounds)),
        _ => None,
    }
}

fn read_gpx(bytes: &[u8]) -> Result<CourseReading, String> {
    let gpx = parse_gpx(bytes)?;
    let mut reading = CourseReading { name: gpx.metadata.and_then(|m| m.name), ..CourseReading::default() };
    for (k, waypoint) in gpx.waypoints.iter().enumerate() {
        let name = waypoint.name.clone().unwrap_or_default();
        let record = format!("waypoint {} \"{name}\"", k + 1);
        match hole_and_point(&name) {
            Some((hole, mark)) => {
                let places = vec![place_of(waypoint)];
                reading.take(Surveyed { record, hole, mark, places, par: None });
            }
            None => reading.refuse(&record, "a name like \"4 tee\" or \"4 basket\" was expected"),
        }
    }
    let track = |(k, t): (usize, &gpx::Track)| {
        let points: Vec<Place> = t.segments.iter().flat_map(|s| &s.points).map(place_of).collect();
        (format!("track {}", k + 1), t.name.clone().unwrap_or_default(), points)
    };
    let route = |(k, r): (usize, &gpx::Route)| {
        let points: Vec<Place> = r.points.iter().map(place_of).collect();
        (format!("route {}", k + 1), r.name.clone().unwrap_or_default(), points)
    };
    let tracks = gpx.tracks.iter().enumerate().map(track).chain(gpx.routes.iter().enumerate().map(route));
    for (record, name, places) in tracks {
        let hole = name.trim().trim_start_matches("hole").trim().to_owned();
        if hole.is_empty() || hole.chars().count() > 20 {
            reading.refuse(&record, "a name that is the hole's number was expected");
        } else if places.len() < 2 {
            reading.refuse(&record, format!("two points at least were expected, {} came", places.len()));
        } else {
            reading.take(Surveyed { record, hole, mark: Mark::Track, places, par: None });
        }
    }
    Ok(reading)
}

/// What a waypoint's name says: a number and which end of the hole.
fn hole_and_point(name: &str) -> Option<(String, Mark)> {
    let lower = name.trim().to_lowercase();
    let words: Vec<&str> =
        lower.split([' ', '-', '_', ',', ':']).filter(|w| !w.is_empty() && *w != "hole").collect();
    let mark = words.iter().find_map(|w| point(w))?;
    let hole = words.iter().find(|w| point(w).is_none())?;
    Some(((*hole).to_owned(), mark))
}

/// Holes that have a place on the earth, each with tee and basket.
fn placed(course: &CourseSpec) -> impl Iterator<Item = (&Hole, Place, Place)> {
    course.holes.iter().take(MOST_HOLES).filter_map(|hole| Some((hole, hole.tee?, hole.basket()?)))
}

/// Writes those holes of a course whose places are known as GeoJSON.
pub fn write_geojson(course: &CourseSpec) -> String {
    let feature = |geometry: GeometryValue, properties: Value| Feature {
        geometry: Some(geometry.into()),
        properties: properties.as_object().cloned(),
        ..Feature::default()
    };
    let mut features = Vec::new();
    for (hole, tee, basket) in placed(course) {
        let named = |what: &str| json!({ "hole": hole.name, "what": what, "par": hole.par });
        features.push(feature(GeometryValue::new_point(position(&tee)), named("tee")));
        features.push(feature(GeometryValue::new_point(position(&basket)), named("basket")));
        if let Some(way) = hole.ways.first() {
            let along_deg = hole.bearing_deg - way.turn_deg;
            for thing in &way.line.things {
                let Thing::Hazard { peril, area, .. } = thing else { continue };
                let mut ring: Vec<Position> =
                    area.iter().map(|spot| position(&tee.of_spot(spot, along_deg))).collect();
                ring.extend(ring.first().cloned());
                let what = if *peril == Peril::Water { "water" } else { "out of bounds" };
                features.push(feature(GeometryValue::new_polygon([ring]), named(what)));
            }
        }
    }
    let mut name = JsonObject::new();
    name.insert("name".into(), course.name.clone().into());
    FeatureCollection { bbox: None, features, foreign_members: Some(name) }.to_string()
}

/// Writes those holes of a course whose places are known as GPX waypoints.
///
/// # Errors
/// If they cannot be written.
pub fn write_gpx(course: &CourseSpec) -> Result<Vec<u8>, String> {
    let mut gpx = Gpx { version: GpxVersion::Gpx11, creator: Some("Zinc Kite".into()), ..Gpx::default() };
    gpx.metadata = Some(gpx::Metadata { name: Some(course.name.clone()), ..gpx::Metadata::default() });
    for (hole, tee, basket) in placed(course) {
        for (what, place) in [("tee", tee), ("basket", basket)] {
            let mut waypoint = Waypoint::new((place.longitude_deg, place.latitude_deg).into());
            waypoint.name = Some(format!("{} {what}", hole.name));
            waypoint.elevation = place.height_m;
            gpx.waypoints.push(waypoint);
        }
    }
    let mut bytes = Vec::new();
    gpx::write(&gpx, &mut bytes).map_err(|e| e.to_string())?;
    Ok(bytes)
}
