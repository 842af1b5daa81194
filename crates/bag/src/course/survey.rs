//! Holes from what was measured: places on the earth, or readings of a rangefinder.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::terrain::{MAX_RISES, STEEPEST};

use crate::course::hole::{Hole, Way};
use crate::course::place::Place;
use crate::error::{BagError, within};
use crate::need::area::Spot;
use crate::need::thing::{MOST_CORNERS, MOST_THINGS, Peril, Rise, Thing};
use crate::thrower::style::Style;

/// What a surveyed place or row of places is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Mark {
    /// Where a hole begins.
    Tee,
    /// Where it ends.
    Basket,
    /// The way from tee to basket, by its corners.
    Track,
    /// Ground that costs more than a miss.
    Peril(Peril),
}

/// Something that was surveyed.
#[derive(Debug, Clone, PartialEq)]
pub struct Surveyed {
    /// Which of the records it is, as its file counts.
    pub record: String,
    /// The hole it belongs to; empty for ground beside several holes.
    pub hole: String,
    /// What it is.
    pub mark: Mark,
    /// Where: one place, or several in order.
    pub places: Vec<Place>,
    /// Par, if it says one.
    pub par: Option<u8>,
}

/// What became of a record.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct RecordVerdict {
    /// Which of the records it is, as its file counts.
    pub record: String,
    /// Whether it was taken.
    pub taken: bool,
    /// As what, or why not.
    pub words: String,
}

/// Ground is taken as beside a hole if it comes so near to it, m.
const BESIDE_M: f64 = 60.0;
/// A track that leaves the straight way by more than this, m, leads round a corner: there the first throw is to end.
const CORNER_M: f64 = 12.0;

/// Holes from what was surveyed, in the order in which their tees or tracks come, played in a style; and what became of each
/// record.
pub fn holes(surveyed: &[Surveyed], style: Style) -> (Vec<Hole>, Vec<RecordVerdict>) {
    let mut names: Vec<&str> = Vec::new();
    for s in surveyed.iter().filter(|s| !matches!(s.mark, Mark::Peril(_))) {
        if !names.contains(&s.hole.as_str()) {
            names.push(&s.hole);
        }
    }
    let mut verdicts = Vec::new();
    let mut holes: Vec<Hole> =
        names.iter().filter_map(|name| hole(name, surveyed, style, &mut verdicts)).collect();
    for s in surveyed {
        if let Mark::Peril(peril) = s.mark {
            verdicts.push(ground(s, peril, &mut holes));
        }
    }
    (holes, verdicts)
}

fn told(s: &Surveyed, taken: bool, words: impl Into<String>) -> RecordVerdict {
    RecordVerdict { record: s.record.clone(), taken, words: words.into() }
}

fn hole(name: &str, all: &[Surveyed], style: Style, verdicts: &mut Vec<RecordVerdict>) -> Option<Hole> {
    let of = |mark: Mark| all.iter().filter(move |s| s.hole == name && s.mark == mark);
    let (tee, basket, track) = (of(Mark::Tee).next(), of(Mark::Basket).next(), of(Mark::Track).next());
    for again in [Mark::Tee, Mark::Basket, Mark::Track].into_iter().flat_map(|mark| of(mark).skip(1)) {
        verdicts.push(told(again, false, format!("hole {name} has one already")));
    }
    let parts: Vec<&Surveyed> = [tee, basket, track].into_iter().flatten().collect();
    let from = tee.and_then(|s| s.places.first()).or(track.and_then(|s| s.places.first()));
    let to = basket.and_then(|s| s.places.first()).or(track.and_then(|s| s.places.last()));
    let (Some(from), Some(to)) = (from, to) else {
        let lacks = if from.is_none() { "tee" } else { "basket" };
        verdicts.extend(parts.iter().map(|s| told(s, false, format!("hole {name} has no {lacks}"))));
        return None;
    };
    let (length_m, bearing_deg) = from.to(to);
    let height_m = from.height_m.zip(to.height_m).map_or(0.0, |(a, b)| ((b - a) * 10.0).round() / 10.0);
    let mut hole = Hole::straight(name.to_owned(), style, bearing_deg, length_m, height_m);
    hole.tee = Some(*from);
    if let Some(par) = parts.iter().find_map(|s| s.par) {
        hole.par = par;
    }
    if let Some(corner) = track.and_then(|s| corner(from, &s.places, bearing_deg, length_m)) {
        let line = hole.line_to(style, corner.at_m.hypot(corner.left_m));
        hole.ways = vec![Way { turn_deg: corner.left_m.atan2(corner.at_m).to_degrees(), line }];
    }
    let fits = hole.validate();
    for s in parts {
        verdicts.push(match &fits {
            Ok(()) => told(s, true, format!("hole {name}, {length_m:.0} m")),
            Err(e) => told(s, false, e.to_string()),
        });
    }
    fits.is_ok().then_some(hole)
}

/// Where a track leaves the straight way most, if it leaves it far.
fn corner(tee: &Place, track: &[Place], along_deg: f64, length_m: f64) -> Option<Spot> {
    let spots = track.iter().map(|p| tee.spot(p, along_deg));
    let far = |s: &Spot| s.left_m.abs();
    let widest = spots.max_by(|a, b| far(a).total_cmp(&far(b)))?;
    let ahead = (10.0..length_m).contains(&widest.at_m);
    (far(&widest) > CORNER_M && ahead && widest.at_m.hypot(widest.left_m) <= 200.0).then_some(widest)
}

/// Lays ground on the hole it names, or on all that it lies beside.
fn ground(s: &Surveyed, peril: Peril, holes: &mut [Hole]) -> RecordVerdict {
    if s.places.len() < 3 || s.places.len() > MOST_CORNERS {
        let words =
            format!("3 to {MOST_CORNERS} corners were expected, {} came: draw it simpler", s.places.len());
        return told(s, false, words);
    }
    let mut beside = Vec::new();
    for hole in holes.iter_mut().filter(|h| s.hole.is_empty() || h.name == s.hole) {
        let Some(tee) = hole.tee else { continue };
        let mut laid = false;
        for way in &mut hole.ways {
            let along_deg = hole.bearing_deg - way.turn_deg;
            let area: Vec<Spot> = s.places.iter().map(|p| rounded(tee.spot(p, along_deg))).collect();
            let near = !s.hole.is_empty() || is_beside(&area, hole.length_m);
            let thing = Thing::Hazard { peril, area, strokes: None, lost: None };
            if near && way.line.things.len() < MOST_THINGS && thing.validate().is_ok() {
                way.line.things.push(thing);
                laid = true;
            }
        }
        if laid {
            beside.push(hole.name.clone());
        }
    }
    if beside.is_empty() {
        return told(s, false, format!("no hole lies within {BESIDE_M} m of it"));
    }
    told(s, true, format!("beside hole {}", beside.join(", ")))
}

/// To the centimetre.
fn rounded(spot: Spot) -> Spot {
    let cm = |x: f64| (100.0 * x).round() / 100.0;
    Spot { at_m: cm(spot.at_m), left_m: cm(spot.left_m) }
}

fn is_beside(area: &[Spot], length_m: f64) -> bool {
    let near = |s: &Spot| (-BESIDE_M..=length_m + BESIDE_M).contains(&s.at_m) && s.left_m.abs() <= BESIDE_M;
    area.iter().any(near)
}

/// From where a reading was taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ReadFrom {
    /// From the tee.
    Tee,
    /// From where the reading before pointed to.
    There,
}

/// What a rangefinder says of a place.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Reading {
    /// From where.
    pub from: ReadFrom,
    /// Distance as the beam runs, m, 1 to 600.
    #[schema(minimum = 1.0, maximum = 600.0)]
    pub distance_m: f64,
    /// Direction, degrees clockwise from north, 0 to 360.
    #[schema(minimum = 0.0, maximum = 360.0)]
    pub bearing_deg: f64,
    /// How far up the beam points, degrees, −60 to 60.
    #[schema(minimum = -60.0, maximum = 60.0)]
    pub slope_deg: f64,
}

/// A hole as readings trace it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Traced {
    /// Direction from the tee to the last place read, degrees clockwise from north.
    pub bearing_deg: f64,
    /// Level distance to it, m.
    pub length_m: f64,
    /// How much higher than the tee it lies, m.
    pub height_m: f64,
    /// Every place read.
    pub seen: Vec<Seen>,
    /// The ground through those of them that lie ahead, as a line straight at the last has it.
    pub rises: Vec<Rise>,
}

/// A place as readings have it: along and left of the straight way to the last, and above the tee.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Seen {
    /// Along, m.
    pub at_m: f64,
    /// Left, m.
    pub left_m: f64,
    /// Above the tee, m.
    pub height_m: f64,
}

impl Reading {
    /// # Errors
    /// [`BagError`] for the first value outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("distance_m", self.distance_m, 1.0, 600.0)?;
        within("bearing_deg", self.bearing_deg, 0.0, 360.0)?;
        within("slope_deg", self.slope_deg, -60.0, 60.0)
    }

    /// How far away and how much higher what was read lies, m: the beam by its slope.
    pub fn level(&self) -> (f64, f64) {
        let (sin, cos) = self.slope_deg.to_radians().sin_cos();
        (self.distance_m * cos, self.distance_m * sin)
    }
}

/// Traces a hole from its readings; the last of them is the basket.
///
/// # Errors
/// [`BagError`] if there is none, or for a value outside its range.
pub fn trace(readings: &[Reading]) -> Result<Traced, BagError> {
    within("readings", readings.len() as f64, 1.0, 20.0)?;
    let (mut places, mut here) = (Vec::new(), (0.0, 0.0, 0.0));
    for reading in readings {
        reading.validate()?;
        if reading.from == ReadFrom::Tee {
            here = (0.0, 0.0, 0.0);
        }
        let (east, north) = reading.bearing_deg.to_radians().sin_cos();
        let (level, up) = reading.level();
        here = (here.0 + level * east, here.1 + level * north, here.2 + up);
        places.push(here);
    }
    let (east, north, height_m) = here;
    let (length_m, bearing) = (east.hypot(north), east.atan2(north));
    let seen = |(e, n, height_m): &(f64, f64, f64)| {
        let off = bearing - e.atan2(*n);
        let far = e.hypot(*n);
        Seen { at_m: far * off.cos(), left_m: far * off.sin(), height_m: *height_m }
    };
    within("length_m", length_m, 10.0, 500.0)?;
    within("height_m", height_m, -60.0, 60.0)?;
    let seen: Vec<Seen> = places.iter().map(seen).collect();
    Ok(Traced {
        bearing_deg: bearing.to_degrees().rem_euclid(360.0),
        length_m,
        height_m,
        rises: rises(&seen),
        seen,
    })
}

/// Least distance between two heights of the ground, m.
const APART_M: f64 = 1.0;

/// The ground through places read, the nearest first, to a tenth of a metre: those ahead and no farther, higher or deeper than a
/// line has its ground, apart from one another and no steeper than ground is taken for; of too many the last.
fn rises(seen: &[Seen]) -> Vec<Rise> {
    let tenth = |x: f64| (10.0 * x).round() / 10.0;
    let rise = |s: &Seen| Rise { at_m: tenth(s.at_m), height_m: tenth(s.height_m) };
    let mut ahead: Vec<Rise> = seen.iter().map(rise).filter(Rise::can_be).collect();
    ahead.sort_by(|a, b| a.at_m.total_cmp(&b.at_m));
    let mut rises: Vec<Rise> = vec![Rise { at_m: 0.0, height_m: 0.0 }];
    for rise in ahead {
        let last = rises[rises.len() - 1];
        let on = rise.at_m - last.at_m;
        if on >= APART_M && (rise.height_m - last.height_m).abs() <= STEEPEST * on {
            rises.push(rise);
        }
    }
    let kept = rises.len().saturating_sub(MAX_RISES).max(1);
    rises.split_off(kept)
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use proptest::prelude::*;

    fn reading(from: ReadFrom, distance_m: f64, bearing_deg: f64, slope_deg: f64) -> Reading {
        Reading { from, distance_m, bearing_deg, slope_deg }
    }

    /// Down a slope of 30° a beam of 100 m is 86.6 m of ground and 50 m of fall (by the sides of the half of an equilateral
    /// triangle).
    #[test]
    fn val_a_beam_down_a_slope() {
        let traced = trace(&[reading(ReadFrom::Tee, 100.0, 90.0, -30.0)]).unwrap();
        assert_abs_diff_eq!(traced.length_m, 86.602_540, epsilon = 1e-5);
        assert_abs_diff_eq!(traced.height_m, -50.0, epsilon = 1e-9);
        assert_abs_diff_eq!(traced.bearing_deg, 90.0, epsilon = 1e-9);
    }

    /// Sixty metres north and then eighty west is a hundred north-west, with the corner right of the straight way.
    #[test]
    fn val_round_a_corner() {
        let readings = [reading(ReadFrom::Tee, 60.0, 0.0, 0.0), reading(ReadFrom::There, 80.0, 270.0, 0.0)];
        let traced = trace(&readings).unwrap();
        assert_abs_diff_eq!(traced.length_m, 100.0, epsilon = 1e-9);
        assert_abs_diff_eq!(traced.bearing_deg, 360.0 - 53.130_102_354, epsilon = 1e-6);
        assert_abs_diff_eq!(traced.seen[0].at_m, 36.0, epsilon = 1e-9);
        assert_abs_diff_eq!(traced.seen[0].left_m, -48.0, epsilon = 1e-9);
    }

    proptest! {
        /// Whatever was read, the ground it makes is ground, and ends where the last place lies if that can be.
        #[test]
        fn prop_what_was_read_makes_ground(
            steps in prop::collection::vec((5.0..400.0f64, 0.0..360.0f64, -50.0..50.0f64), 1..12),
        ) {
            let readings: Vec<Reading> =
                steps.iter().map(|&(far, bearing, slope)| reading(ReadFrom::There, far, bearing, slope)).collect();
            if let Ok(found) = trace(&readings) {
                let places: Vec<(f64, f64)> = found.rises.iter().map(|r| (r.at_m, r.height_m)).collect();
                prop_assert!(places.len() <= MAX_RISES);
                prop_assert!(found.rises.iter().all(Rise::can_be), "{places:?}");
                prop_assert!(zinc_kite_flight::terrain::Terrain::through(&places).is_ok(), "{places:?}");
            }
        }

        /// In whatever steps a place is read, it is the same place.
        #[test]
        fn prop_steps_do_not_matter(a in 20.0..200.0f64, b in 0.0..360.0f64, c in 20.0..200.0f64, d in 0.0..360.0f64) {
            let steps = [reading(ReadFrom::Tee, a, b, 3.0), reading(ReadFrom::There, c, d, -2.0)];
            if let Ok(found) = trace(&steps) {
                let beam = found.length_m.hypot(found.height_m);
                let slope = (found.height_m / beam).asin().to_degrees();
                let once = trace(&[reading(ReadFrom::Tee, beam, found.bearing_deg, slope)]).unwrap();
                prop_assert!((once.length_m - found.length_m).abs() < 1e-6);
                prop_assert!((once.height_m - found.height_m).abs() < 1e-6);
                let last = found.seen[1];
                prop_assert!((last.at_m - found.length_m).abs() < 1e-6 && last.left_m.abs() < 1e-6);
            }
        }
    }
}
