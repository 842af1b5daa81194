//! A course and its holes.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::course::place::Place;
use crate::course::weather::PlayingDay;
use crate::error::{BagError, named, readable, within};
use crate::need::area::Spot;
use crate::need::line::LineSpec;
use crate::need::thing::Rise;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::words::fold;

/// Most holes of a course.
pub const MOST_HOLES: usize = 36;
/// Most ways of a hole.
pub const MOST_WAYS: usize = 3;
/// Farthest that a way leads in one throw, m.
const FARTHEST_WAY_M: f64 = 200.0;
/// Length from which a hole usually asks for one throw more, m. Common practice, no source: a par 3 is up to about 110 m for most
/// players, a par 4 up to about 180.
const PARS_M: [(f64, u8); 3] = [(110.0, 3), (180.0, 4), (f64::INFINITY, 5)];

/// One way to play the first throw of a hole.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Way {
    /// How far its line points to the left of the straight way to the basket, degrees, −90 to 90: where the throw is to end.
    #[serde(default)]
    #[schema(minimum = -90.0, maximum = 90.0)]
    pub turn_deg: f64,
    /// The shot.
    pub line: LineSpec,
}

/// A hole.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
#[schema(as = CourseHole)]
pub struct Hole {
    /// Its number or name.
    #[schema(max_length = 20)]
    pub name: String,
    /// Throws that a good player needs, 2 to 6.
    #[schema(minimum = 2, maximum = 6)]
    pub par: u8,
    /// Direction from the tee to the basket, degrees clockwise from north, 0 to 360.
    #[schema(minimum = 0.0, maximum = 360.0)]
    pub bearing_deg: f64,
    /// Level distance from the tee to the basket, m, 10 to 500.
    #[schema(minimum = 10.0, maximum = 500.0)]
    pub length_m: f64,
    /// How much higher than the tee's the ground at the basket lies, m, −60 to 60.
    #[serde(default)]
    #[schema(minimum = -60.0, maximum = 60.0)]
    pub height_m: f64,
    /// Ways to play the first throw, at most three; none means straight at the basket.
    #[serde(default)]
    #[schema(max_items = 3)]
    pub ways: Vec<Way>,
    /// Where the tee is, if that is known.
    #[serde(default)]
    pub tee: Option<Place>,
    /// What to remember of it, its local rules among it.
    #[serde(default)]
    #[schema(max_length = 300)]
    pub note: String,
}

/// Identity of a course.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
#[schema(value_type = i64)]
pub struct CourseId(pub i64);

/// A course.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct CourseSpec {
    /// Name.
    #[schema(max_length = 80)]
    pub name: String,
    /// How high above the sea it lies, m; absent for as high as home.
    #[serde(default)]
    #[schema(minimum = -400.0, maximum = 5000.0)]
    pub altitude_m: Option<f64>,
    /// The day on which it is played next; absent if none was told.
    #[serde(default)]
    pub day: Option<PlayingDay>,
    /// Its holes in the order they are played, at most 36.
    #[schema(max_items = 36)]
    pub holes: Vec<Hole>,
}

impl Hole {
    /// A hole as it is before anything is told of it but its size, played straight at the basket in a style.
    pub fn straight(name: String, style: Style, bearing_deg: f64, length_m: f64, height_m: f64) -> Hole {
        let par = PARS_M.iter().find(|(most_m, _)| length_m <= *most_m).map_or(3, |(_, par)| *par);
        let mut hole = Hole {
            name,
            par,
            bearing_deg: bearing_deg.rem_euclid(360.0),
            length_m,
            height_m,
            ways: vec![],
            tee: None,
            note: String::new(),
        };
        hole.ways = hole.straight_ways(style);
        hole
    }

    /// The ways of a hole of which none is told: straight at the basket, as far as one throw may lead.
    pub fn straight_ways(&self, style: Style) -> Vec<Way> {
        vec![Way { turn_deg: 0.0, line: self.line_to(style, self.length_m.min(FARTHEST_WAY_M)) }]
    }

    /// Share of the day's wind that does not come to it: on its first way.
    pub fn lee(&self) -> f64 {
        self.ways.first().map_or(0.0, |way| way.line.lee)
    }

    /// A line on this hole to a place so far away: with its fall, open and as wide as a throw that far is usually
    /// asked to be.
    pub fn line_to(&self, style: Style, distance_m: f64) -> LineSpec {
        let tenth = |x: f64| (10.0 * x).round() / 10.0;
        let distance_m = tenth(distance_m.clamp(10.0, FARTHEST_WAY_M));
        let height_m = tenth(self.height_m * (distance_m / self.length_m).min(1.0));
        let rises = if height_m == 0.0 { vec![] } else { vec![Rise { at_m: distance_m, height_m }] };
        LineSpec {
            name: format!("{} {style:?}", self.name).to_lowercase(),
            slot: slot_of(distance_m),
            distance_m,
            zone_length_m: tenth((0.24 * distance_m).clamp(4.0, 60.0)),
            zone_width_m: tenth((0.2 * distance_m).clamp(4.0, 50.0)),
            rises,
            ..LineSpec::usual(style)
        }
    }

    /// Where the basket is, if the tee's place is known.
    pub fn basket(&self) -> Option<Place> {
        let tee = self.tee?;
        let height_m = tee.height_m.map(|h| h + self.height_m);
        Some(Place { height_m, ..tee.beyond(self.length_m, self.bearing_deg) })
    }

    /// Where the basket lies on a way: its line's own down-range and left, m.
    pub fn basket_on(&self, way: &Way) -> Spot {
        let (sin, cos) = way.turn_deg.to_radians().sin_cos();
        Spot { at_m: self.length_m * cos, left_m: -self.length_m * sin }
    }

    /// How far it is to the basket from where a way's throw is to end, m: what is left.
    pub fn left_after(&self, way: &Way) -> f64 {
        let basket = self.basket_on(way);
        (basket.at_m - way.line.distance_m).hypot(basket.left_m)
    }

    /// # Errors
    /// [`BagError`] for the first field that makes no hole.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 20)?;
        within("par", f64::from(self.par), 2.0, 6.0)?;
        within("bearing_deg", self.bearing_deg, 0.0, 360.0)?;
        within("length_m", self.length_m, 10.0, 500.0)?;
        within("height_m", self.height_m, -60.0, 60.0)?;
        within("ways", self.ways.len() as f64, 0.0, MOST_WAYS as f64)?;
        for way in &self.ways {
            within("turn_deg", way.turn_deg, -90.0, 90.0)?;
            way.line.validate()?;
            if way.line.style == Style::Putt {
                return Err(BagError::Field {
                    field: "style",
                    expected: "a throw from the tee, not a putt".into(),
                    got: "putt".into(),
                });
            }
        }
        self.tee.map_or(Ok(()), |tee| tee.validate())?;
        readable("note", &self.note, 300)
    }
}

/// The slot of a throw by its length alone: what most players throw so far. Common practice, no source.
fn slot_of(distance_m: f64) -> Slot {
    match distance_m {
        d if d < 60.0 => Slot::Putter,
        d if d < 82.0 => Slot::MidRange,
        d if d < 96.0 => Slot::Fairway,
        _ => Slot::Distance,
    }
}

impl CourseSpec {
    /// # Errors
    /// [`BagError`] for the first field that makes no course; that of a hole names the hole.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 80)?;
        within("altitude_m", self.altitude_m.unwrap_or(0.0), -400.0, 5000.0)?;
        self.day.as_ref().map_or(Ok(()), PlayingDay::validate)?;
        within("holes", self.holes.len() as f64, 0.0, MOST_HOLES as f64)?;
        let twice =
            |(k, hole): &(usize, &Hole)| self.holes[..*k].iter().any(|h| fold(&h.name) == fold(&hole.name));
        if let Some((_, hole)) = self.holes.iter().enumerate().find(twice) {
            let got = format!("\"{}\" twice", hole.name.trim());
            return Err(BagError::Field {
                field: "holes",
                expected: "each with a name of its own".into(),
                got,
            });
        }
        self.holes.iter().try_for_each(|hole| {
            hole.validate().map_err(|e| BagError::Field {
                field: "holes",
                expected: format!("right; of hole {}, {e}", hole.name.trim()),
                got: e.field().to_owned(),
            })
        })
    }

    /// Throws that a good player needs, all holes together.
    pub fn par(&self) -> u32 {
        self.holes.iter().map(|h| u32::from(h.par)).sum()
    }
}
