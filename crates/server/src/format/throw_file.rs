//! Throws as files: GeoJSON (RFC 7946), GPX 1.1 or CSV. What is ours is only how a throw is told in them, documented in the README: a
//! point is where one came to rest or the tee, a line its way from tee to rest.

use geojson::{Feature, FeatureCollection, GeometryValue, JsonObject};
use gpx::{Gpx, GpxVersion, Waypoint};
use serde_json::{Value, json};
use zinc_kite_bag::course::place::Place;
use zinc_kite_bag::course::survey::RecordVerdict;
use zinc_kite_bag::disc::spec::{Disc, DiscId};
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::throw::{FieldThrow, Meant};
use zinc_kite_bag::thrower::style::Style;

use super::places::{PlacesKind, parse_geojson, parse_gpx, place_at, place_of, position};
use super::throw_csv;
use crate::store::folded;

/// What a file says.
#[derive(Debug, Default)]
pub struct ThrowsReading {
    /// Where its throws are made from, if it says so.
    pub tee: Option<Place>,
    /// Its records, in the order of the file.
    pub records: Vec<ThrowRecord>,
}

/// What a record of a file says.
#[derive(Debug, Clone, PartialEq)]
pub enum ThrowRecord {
    /// A throw, and which record it is.
    Throw(String, Box<FieldThrow>),
    /// Something else, or nothing that can be taken.
    Other(RecordVerdict),
}

/// A disc of the shelf by its name, and the name as it is on the shelf.
pub(super) fn known_disc(shelf: &[Disc], name: &str) -> (Option<DiscId>, String) {
    let known = shelf.iter().find(|d| folded(&d.spec.name) == folded(name));
    known.map_or((None, name.trim().to_owned()), |d| (Some(d.id), d.spec.name.clone()))
}

/// What was read of a throw, in words.
pub fn words(throw: &FieldThrow) -> String {
    let far = match (throw.distance_m, throw.at) {
        (Some(m), _) => format!("{m:.1} m"),
        (None, Some(_)) => "by its coordinates".into(),
        (None, None) => "not measured".into(),
    };
    let known = if throw.disc_id.is_some() { "" } else { ", not on the shelf: kept by its name" };
    format!("{}{known}, {}: {far}", throw.disc_name, throw.style.label())
}

fn wrong(error: &BagError) -> String {
    format!("{}: {} was expected", error.field(), error.expected())
}

impl ThrowsReading {
    fn tell(&mut self, record: &str, taken: bool, words: impl Into<String>) {
        let words = words.into();
        self.records.push(ThrowRecord::Other(RecordVerdict { record: record.to_owned(), taken, words }));
    }

    /// A throw that holds what it should.
    fn push(&mut self, record: &str, throw: FieldThrow) {
        self.records.push(ThrowRecord::Throw(record.to_owned(), Box::new(throw)));
    }

    /// Its throws.
    pub fn throws(&self) -> impl Iterator<Item = &FieldThrow> {
        self.records.iter().filter_map(|record| match record {
            ThrowRecord::Throw(_, throw) => Some(&**throw),
            ThrowRecord::Other(_) => None,
        })
    }

    fn take(&mut self, record: &str, throw: FieldThrow) {
        match throw.validate() {
            Ok(()) => self.push(record, throw),
            Err(e) => self.tell(record, false, wrong(&e)),
        }
    }

    fn tee_at(&mut self, record: &str, place: Place) {
        match place.validate() {
            Err(e) => self.tell(record, false, wrong(&e)),
            Ok(()) if self.tee.is_some() => self.tell(record, false, "one tee was expected, another came"),
            Ok(()) => {
                self.tee = Some(place);
                self.tell(record, true, "the tee");
            }
        }
    }
}

/// A file of throws as it comes.
pub struct ThrowFile<'a> {
    /// Its bytes.
    pub bytes: &'a [u8],
    /// Whether it is a table; else it is one of places.
    pub is_csv: bool,
}

/// Reads a file into a session; a throw without a style is of the `usual` one.
///
/// # Errors
/// What is wrong with it as a whole, with the line where that is known.
pub fn read(
    file: &ThrowFile<'_>,
    shelf: &[Disc],
    usual: Style,
    session: &FieldSession,
) -> Result<ThrowsReading, String> {
    if file.is_csv {
        return read_csv(file.bytes, shelf, usual);
    }
    match PlacesKind::of(file.bytes)? {
        PlacesKind::GeoJson => read_geojson(file.bytes, shelf, usual, session),
        PlacesKind::Gpx => read_gpx(file.bytes, shelf, usual, session),
    }
}

fn read_csv(bytes: &[u8], shelf: &[Disc], usual: Style) -> Result<ThrowsReading, String> {
    let table = throw_csv::read_bytes(bytes, shelf, usual);
    if table.rows.is_empty() {
        let why = table.problems.first().map(|p| format!("{} was expected, {} came", p.expected, p.got));
        return Err(why.unwrap_or_else(|| "a row at least was expected under the header, none came".into()));
    }
    let record = |line: u64| format!("line {line}");
    let mut reading = ThrowsReading::default();
    let mut throws = table.things.into_iter();
    for row in table.rows {
        if !row.good {
            reading.tell(&record(row.line), false, row.words);
        } else if let Some(throw) = throws.next() {
            reading.push(&record(row.line), throw);
        }
    }
    // Good rows beyond those that are told one by one.
    throws.for_each(|throw| reading.push("a later line", throw));
    if table.further_rows > 0 {
        let words = format!("{} more rows are not told one by one", table.further_rows);
        reading.tell("further", true, words);
    }
    Ok(reading)
}

/// A throw that is known by where it began and ended: by its coordinates if it began at the tee of the session, else measured between
/// them.
fn along(way: &[Place], session: &FieldSession, throw: &mut FieldThrow) {
    let (Some(from), Some(to)) = (way.first(), way.last()) else { return };
    if session.tee.is_none() || session.tee.is_some_and(|tee| tee.to(from).0 > SAME_TEE_M) {
        let own = FieldSession { tee: Some(*from), ..session.clone() };
        throw.at = Some(*to);
        throw.place(&own);
        throw.at = None;
    } else {
        throw.at = Some(*to);
    }
}

/// A way that begins within this of the tee, m, begins at the tee: so far receivers of position are off. Common practice, no source.
const SAME_TEE_M: f64 = 5.0;

fn read_geojson(
    bytes: &[u8],
    shelf: &[Disc],
    usual: Style,
    session: &FieldSession,
) -> Result<ThrowsReading, String> {
    let collection = parse_geojson(bytes, "every throw and the tee")?;
    let mut reading = ThrowsReading::default();
    for (k, feature) in collection.features.into_iter().enumerate() {
        let record = format!("feature {}", k + 1);
        let (places, is_way): (Vec<Place>, bool) = match feature.geometry.as_ref().map(|g| &g.value) {
            Some(GeometryValue::Point { coordinates }) => (vec![place_at(coordinates)], false),
            Some(GeometryValue::LineString { coordinates }) => {
                (coordinates.iter().map(place_at).collect(), true)
            }
            _ => {
                reading.tell(
                    &record,
                    false,
                    "a point where a throw came to rest, or a line from tee to rest, was expected",
                );
                continue;
            }
        };
        if let Some(e) = places.iter().find_map(|p| p.validate().err()) {
            reading.tell(&record, false, wrong(&e));
            continue;
        }
        let properties = feature.properties.clone().unwrap_or_default();
        if properties.get("what").and_then(Value::as_str).is_some_and(|w| w.eq_ignore_ascii_case("tee")) {
            reading.tee_at(&record, places[0]);
            continue;
        }
        match thrown(properties, shelf, usual) {
            Err(why) => reading.tell(&record, false, why),
            Ok(mut throw) if is_way => {
                along(&places, session, &mut throw);
                reading.take(&record, throw);
            }
            Ok(throw) => reading.take(&record, FieldThrow { at: places.first().copied(), ..throw }),
        }
    }
    Ok(reading)
}

/// A throw by the properties of a feature, which are called as the program calls them; "disc" is its name.
fn thrown(mut properties: JsonObject, shelf: &[Disc], usual: Style) -> Result<FieldThrow, String> {
    let Some(Value::String(name)) = properties.remove("disc") else {
        return Err("a property \"disc\" with its name was expected, none came".into());
    };
    let (disc_id, disc_name) = known_disc(shelf, &name);
    for own in ["disc_id", "lost", "at"] {
        properties.remove(own);
    }
    properties.insert("disc_name".into(), disc_name.into());
    properties.entry("style").or_insert_with(|| json!(usual));
    let throw: FieldThrow = serde_json::from_value(Value::Object(properties)).map_err(|e| e.to_string())?;
    Ok(FieldThrow { disc_id, ..throw })
}

fn read_gpx(
    bytes: &[u8],
    shelf: &[Disc],
    usual: Style,
    session: &FieldSession,
) -> Result<ThrowsReading, String> {
    let gpx = parse_gpx(bytes)?;
    let mut reading = ThrowsReading::default();
    for (k, waypoint) in gpx.waypoints.iter().enumerate() {
        let name = waypoint.name.clone().unwrap_or_default();
        let record = format!("waypoint {} \"{name}\"", k + 1);
        if name.trim().eq_ignore_ascii_case("tee") {
            reading.tee_at(&record, place_of(waypoint));
            continue;
        }
        let about = waypoint.description.clone().unwrap_or_default();
        match told(&name, &about, shelf, usual) {
            Some(throw) => reading.take(&record, FieldThrow { at: Some(place_of(waypoint)), ..throw }),
            None => reading.tell(&record, false, "the name of a disc, or \"tee\", was expected, none came"),
        }
    }
    let tracks = gpx.tracks.iter().map(|t| {
        let places: Vec<Place> = t.segments.iter().flat_map(|s| &s.points).map(place_of).collect();
        ("track", t.name.as_deref(), t.description.as_deref(), places)
    });
    let routes = gpx.routes.iter().map(|r| {
        let places: Vec<Place> = r.points.iter().map(place_of).collect();
        ("route", r.name.as_deref(), r.description.as_deref(), places)
    });
    for (k, (kind, name, about, places)) in tracks.chain(routes).enumerate() {
        let record = format!("{kind} {} \"{}\"", k + 1, name.unwrap_or_default());
        if places.len() < 2 {
            reading.tell(&record, false, format!("tee and rest were expected, {} places came", places.len()));
            continue;
        }
        match told(name.unwrap_or_default(), about.unwrap_or_default(), shelf, usual) {
            Some(mut throw) => {
                along(&places, session, &mut throw);
                reading.take(&record, throw);
            }
            None => reading.tell(&record, false, "the name of a disc was expected, none came"),
        }
    }
    Ok(reading)
}

/// A throw by the name of its disc and what is said of it: its style, and whether it was meant on hyzer or on anhyzer.
fn told(name: &str, about: &str, shelf: &[Disc], usual: Style) -> Option<FieldThrow> {
    if name.trim().is_empty() {
        return None;
    }
    let (disc_id, disc_name) = known_disc(shelf, name);
    let about = about.to_lowercase();
    let style = Style::ALL.into_iter().find(|s| about.contains(s.label())).unwrap_or(usual);
    let meant = match () {
        () if about.contains("anhyzer") => Meant::Anhyzer,
        () if about.contains("hyzer") => Meant::Hyzer,
        () => Meant::Flat,
    };
    Some(FieldThrow { disc_id, ..FieldThrow::named(&disc_name, style, meant) })
}

/// Where the throws of a session came to rest, as far as that is known: by their coordinates, or by distance and angle from the tee.
fn placed<'a>(
    session: &'a FieldSession,
    throws: &'a [FieldThrow],
) -> impl Iterator<Item = (&'a FieldThrow, Place)> {
    throws.iter().filter_map(|throw| {
        let measured = || Some(session.tee?.beyond(throw.distance_m?, session.aim_deg? - throw.off_deg?));
        Some((throw, throw.at.or_else(measured)?))
    })
}

/// Writes those throws of a session whose rests are known as GeoJSON.
pub fn write_geojson(session: &FieldSession, throws: &[FieldThrow]) -> String {
    let feature = |place: &Place, properties: JsonObject| Feature {
        geometry: Some(GeometryValue::new_point(position(place)).into()),
        properties: Some(properties),
        ..Feature::default()
    };
    let mut features = Vec::new();
    if let Some(tee) = session.tee {
        features.push(feature(&tee, JsonObject::from_iter([("what".into(), json!("tee"))])));
    }
    for (throw, place) in placed(session, throws) {
        let mut properties = match json!(throw) {
            Value::Object(fields) => fields,
            _ => JsonObject::new(),
        };
        for own in ["disc_id", "disc_name", "lost", "at"] {
            properties.remove(own);
        }
        properties.insert("disc".into(), json!(throw.disc_name));
        features.push(feature(&place, properties));
    }
    FeatureCollection { bbox: None, features, foreign_members: None }.to_string()
}

/// Writes those throws of a session whose rests are known as GPX waypoints.
///
/// # Errors
/// If they cannot be written.
pub fn write_gpx(session: &FieldSession, throws: &[FieldThrow]) -> Result<Vec<u8>, String> {
    let mut gpx = Gpx { version: GpxVersion::Gpx11, creator: Some("Zinc Kite".into()), ..Gpx::default() };
    gpx.metadata = Some(gpx::Metadata { name: Some(session.place.clone()), ..gpx::Metadata::default() });
    let mut mark = |place: &Place, name: &str, about: Option<String>| {
        let mut waypoint = Waypoint::new((place.longitude_deg, place.latitude_deg).into());
        waypoint.name = Some(name.to_owned());
        waypoint.description = about;
        waypoint.elevation = place.height_m;
        gpx.waypoints.push(waypoint);
    };
    if let Some(tee) = session.tee {
        mark(&tee, "tee", None);
    }
    for (throw, place) in placed(session, throws) {
        let how = match throw.meant {
            Meant::Flat => "flat",
            Meant::Hyzer => "on hyzer",
            Meant::Anhyzer => "on anhyzer",
        };
        mark(&place, &throw.disc_name, Some(format!("{}, {how}", throw.style.label())));
    }
    let mut bytes = Vec::new();
    gpx::write(&gpx, &mut bytes).map_err(|e| e.to_string())?;
    Ok(bytes)
}
