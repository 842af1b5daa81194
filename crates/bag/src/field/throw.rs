//! A throw as it was measured.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::course::place::Place;
use crate::course::played::LostDisc;
use crate::disc::spec::{Disc, DiscId};
use crate::error::{BagError, named, readable, within};
use crate::field::session::FieldSession;
use crate::field::trial::Trial;
use crate::need::area::Spot;
use crate::thrower::style::Style;

/// Farthest that a disc is believed to have gone, m: beyond every flight and roll that was ever measured. From memory, no source.
const FARTHEST_M: f64 = 400.0;

/// How a throw was meant to leave the hand.
#[derive(
    Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize, ToSchema,
)]
#[serde(rename_all = "snake_case")]
pub enum Meant {
    /// Flat.
    #[default]
    Flat,
    /// On hyzer: its outer edge low.
    Hyzer,
    /// On anhyzer: its outer edge high.
    Anhyzer,
}

/// What else is true of a throw.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ThrowTag {
    /// It hit a tree or something as hard.
    Hit,
    /// The disc was lost.
    Lost,
    /// It slipped out of the hand.
    Slipped,
    /// Where it came to rest was guessed by eye: enough to read the throw by, not to measure by.
    ByEye,
}

/// Where a disc went first, before it faded.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FirstWent {
    /// To the left of the aim.
    Left,
    /// Along it.
    Straight,
    /// To the right of it.
    Right,
}

/// How high a throw was.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum HowHigh {
    /// Lower than it was meant.
    Lower,
    /// As high as it was meant.
    AsMeant,
    /// Higher than it was meant.
    Higher,
}

/// How a disc came down.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum CameDown {
    /// Flat.
    Flat,
    /// On its left edge.
    LeftEdge,
    /// On its right edge.
    RightEdge,
}

/// The wind at a throw.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
pub struct WindThen {
    /// Mean wind, m/s, 0 to 30.
    #[schema(minimum = 0.0, maximum = 30.0)]
    pub wind_m_s: f64,
    /// Where it blew from, degrees clockwise from straight ahead: 0 a headwind, 90 from the right.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 360.0)]
    pub from_deg: f64,
}

/// What was seen of the flight; what is absent was not.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, ToSchema)]
pub struct SeenFlight {
    /// How far to the turn side of the aim it swung, m, −60 to 60; to the left positive.
    #[serde(default)]
    #[schema(minimum = -60.0, maximum = 60.0)]
    pub swing_m: Option<f64>,
    /// Greatest height above the hand's ground, m.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 60.0)]
    pub apex_m: Option<f64>,
    /// Time in the air, s.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 20.0)]
    pub time_s: Option<f64>,
    /// How far it went on from where it touched, m.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 100.0)]
    pub skip_m: Option<f64>,
    /// Where it went first.
    #[serde(default)]
    pub first: Option<FirstWent>,
    /// How high it was.
    #[serde(default)]
    pub height: Option<HowHigh>,
    /// How it came down.
    #[serde(default)]
    pub landed: Option<CameDown>,
}

/// A throw.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct FieldThrow {
    /// The disc; null if it is not of this shelf.
    #[serde(default)]
    pub disc_id: Option<DiscId>,
    /// Its name then.
    #[schema(max_length = 60)]
    pub disc_name: String,
    /// How it was thrown.
    pub style: Style,
    /// How it was meant to leave the hand.
    #[serde(default)]
    pub meant: Meant,
    /// The line that was meant, by its key.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub line: Option<String>,
    /// Share of full power that was meant, percent, 20 to 110.
    #[serde(default)]
    #[schema(minimum = 20.0, maximum = 110.0)]
    pub power_pct: Option<f64>,
    /// Level distance from the tee to where it came to rest, m, 0 to 400; null if it was not measured.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 400.0)]
    pub distance_m: Option<f64>,
    /// How far from the aim that lies, degrees, left positive, −180 to 180; null if it was not measured.
    #[serde(default)]
    #[schema(minimum = -180.0, maximum = 180.0)]
    pub off_deg: Option<f64>,
    /// Where it came to rest, if its coordinates are known: they go before what is told by distance and angle.
    #[serde(default)]
    pub at: Option<Place>,
    /// The wind at the throw.
    #[serde(default)]
    pub wind: WindThen,
    /// What was seen of it.
    #[serde(default)]
    pub seen: SeenFlight,
    /// What else is true of it.
    #[serde(default)]
    #[schema(max_items = 4)]
    pub tags: Vec<ThrowTag>,
    /// What the disc was before it was lost; written by the program.
    #[serde(default)]
    pub lost: Option<LostDisc>,
    /// What else to remember.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub note: String,
}

/// A measured throw and the session it belongs to.
#[derive(Debug, Clone, Copy)]
pub struct Measured<'a> {
    /// The session.
    pub session: &'a FieldSession,
    /// The throw.
    pub throw: &'a FieldThrow,
}

impl Measured<'_> {
    /// Whether it was thrown straight along the aim. For a line or a target its player aims off, by as much as the disc is thought to
    /// bend: where it came to rest then says how far it goes and not how far to the side.
    pub fn is_straight(&self) -> bool {
        let for_a_place = |t: &Trial| t.line.is_some() || t.target.is_some();
        self.throw.line.is_none() && !self.session.trial.as_ref().is_some_and(for_a_place)
    }
}

impl FieldThrow {
    /// A throw of a disc of which nothing is told yet but how it was meant.
    pub fn of(disc: &Disc, style: Style, meant: Meant) -> FieldThrow {
        FieldThrow { disc_id: Some(disc.id), ..FieldThrow::named(&disc.spec.name, style, meant) }
    }

    /// The same of a disc that may not be on the shelf.
    pub fn named(disc_name: &str, style: Style, meant: Meant) -> FieldThrow {
        FieldThrow {
            disc_id: None,
            disc_name: disc_name.to_owned(),
            style,
            meant,
            line: None,
            power_pct: None,
            distance_m: None,
            off_deg: None,
            at: None,
            wind: WindThen::default(),
            seen: SeenFlight::default(),
            tags: vec![],
            lost: None,
            note: String::new(),
        }
    }

    /// Whether it shows what the disc does: it was measured and neither slipped nor hit anything.
    pub fn is_clean(&self) -> bool {
        let spoilt = [ThrowTag::Hit, ThrowTag::Slipped, ThrowTag::ByEye];
        self.distance_m.is_some() && !spoilt.iter().any(|tag| self.has(*tag))
    }

    /// Whether something is true of it.
    pub fn has(&self, tag: ThrowTag) -> bool {
        self.tags.contains(&tag)
    }

    /// Where it came to rest, m down the aim and left of it; none if either was not measured.
    pub fn rest(&self) -> Option<Spot> {
        self.told_rest().filter(|_| !self.has(ThrowTag::ByEye))
    }

    /// Where it came to rest, measured or guessed.
    pub(crate) fn told_rest(&self) -> Option<Spot> {
        let (sin, cos) = self.off_deg?.to_radians().sin_cos();
        self.distance_m.map(|d| Spot { at_m: d * cos, left_m: d * sin })
    }

    /// Gives each disc that it names an identity and a name from what they were.
    pub fn name_discs(&mut self, disc: impl Fn(Option<DiscId>, &str) -> (Option<DiscId>, String)) {
        (self.disc_id, self.disc_name) = disc(self.disc_id, &self.disc_name);
        if let Some(lost) = &mut self.lost {
            (lost.disc_id, lost.disc_name) = disc(lost.disc_id, &lost.disc_name);
        }
    }

    /// Works out distance and angle of a throw whose rest is known by its coordinates, as far as its session says where the tee is and
    /// which way is straight.
    pub fn place(&mut self, session: &FieldSession) {
        let (Some(at), Some(tee)) = (self.at, session.tee) else { return };
        let (distance_m, bearing_deg) = tee.to(&at);
        self.distance_m = Some(distance_m);
        let off = |aim_deg: f64| (aim_deg - bearing_deg + 180.0).rem_euclid(360.0) - 180.0;
        self.off_deg = session.aim_deg.map(off).or(self.off_deg);
    }

    /// # Errors
    /// [`BagError`] for the first field outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        named("disc_name", &self.disc_name, 60)?;
        within("power_pct", self.power_pct.unwrap_or(100.0), 20.0, 110.0)?;
        within("distance_m", self.distance_m.unwrap_or(0.0), 0.0, FARTHEST_M)?;
        within("off_deg", self.off_deg.unwrap_or(0.0), -180.0, 180.0)?;
        self.at.map_or(Ok(()), |at| at.validate())?;
        within("wind_m_s", self.wind.wind_m_s, 0.0, 30.0)?;
        within("from_deg", self.wind.from_deg, 0.0, 360.0)?;
        let SeenFlight { swing_m, apex_m, time_s, skip_m, .. } = self.seen;
        within("swing_m", swing_m.unwrap_or(0.0), -60.0, 60.0)?;
        within("apex_m", apex_m.unwrap_or(0.0), 0.0, 60.0)?;
        within("time_s", time_s.unwrap_or(0.0), 0.0, 20.0)?;
        within("skip_m", skip_m.unwrap_or(0.0), 0.0, 100.0)?;
        within("tags", self.tags.len() as f64, 0.0, 4.0)?;
        self.lost.as_ref().map_or(Ok(()), LostDisc::validate)?;
        readable("note", &self.note, 200)?;
        self.line.as_ref().map_or(Ok(()), |line| named("line", line, 60))
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use proptest::prelude::*;

    fn session(tee: Option<Place>, aim_deg: Option<f64>) -> FieldSession {
        let session = r#"{"place":"Reservoir meadow","date":"2026-06-01"}"#;
        FieldSession { tee, aim_deg, ..serde_json::from_str(session).unwrap() }
    }

    fn throw() -> FieldThrow {
        serde_json::from_str(r#"{"disc_name":"Purlin","style":"backhand"}"#).unwrap()
    }

    proptest! {
        /// A rest told by its coordinates is the rest told by distance and angle.
        #[test]
        fn prop_coordinates_say_the_same_as_distance_and_angle(
            latitude_deg in -60.0..70.0f64,
            aim_deg in 0.0..360.0f64,
            distance_m in 1.0..300.0f64,
            off_deg in -170.0..170.0f64,
        ) {
            let tee = Place { latitude_deg, longitude_deg: 12.0, height_m: None };
            let mut it = FieldThrow { at: Some(tee.beyond(distance_m, aim_deg - off_deg)), ..throw() };
            it.place(&session(Some(tee), Some(aim_deg)));
            prop_assert!((it.distance_m.unwrap() - distance_m).abs() < 1e-6);
            prop_assert!((it.off_deg.unwrap() - off_deg).abs() < 1e-4);
            let rest = it.rest().unwrap();
            prop_assert!((rest.at_m.hypot(rest.left_m) - distance_m).abs() < 1e-6);
            prop_assert!((rest.left_m > 0.0) == (it.off_deg.unwrap() > 0.0), "left is left");
        }
    }

    #[test]
    fn prop_what_is_not_known_stays_as_it_was_told() {
        let told = FieldThrow { distance_m: Some(80.0), off_deg: Some(3.0), ..throw() };
        let mut it = told.clone();
        it.place(&session(None, None));
        assert_eq!(it, told, "no coordinates");
        let tee = Place { latitude_deg: 50.0, longitude_deg: 3.0, height_m: None };
        it.at = Some(tee.beyond(60.0, 10.0));
        it.place(&session(Some(tee), None));
        assert_abs_diff_eq!(it.distance_m.unwrap(), 60.0, epsilon = 1e-6);
        assert_eq!(it.off_deg, Some(3.0), "which way is straight is not known");
    }

    #[test]
    fn prop_impossible_throws_are_refused_by_field() {
        let far = FieldThrow { distance_m: Some(900.0), ..throw() };
        assert_eq!(far.validate().unwrap_err().field(), "distance_m");
        let nameless = FieldThrow { disc_name: " ".into(), ..throw() };
        assert_eq!(nameless.validate().unwrap_err().field(), "disc_name");
        let seen = SeenFlight { apex_m: Some(-3.0), ..SeenFlight::default() };
        assert_eq!(FieldThrow { seen, ..throw() }.validate().unwrap_err().field(), "apex_m");
        assert!(throw().validate().is_ok());
    }
}
