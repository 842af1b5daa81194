//! A line: a shot that is needed.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::air::Wind;
use zinc_kite_flight::ground;
use zinc_kite_flight::outcome::MAX_GATES;
use zinc_kite_flight::terrain::Terrain;

use crate::error::{BagError, named, readable, within};
use crate::need::thing::{MOST_THINGS, Rise, Thing, terrain};
use crate::thrower::habits::Habits;
use crate::thrower::player::PUTT_M;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;

/// An opening the disc must pass. Lateral places are true left and right of the straight line from tee to target.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Gate {
    /// Distance from the tee, m.
    #[schema(minimum = 1.0, maximum = 200.0)]
    pub at_m: f64,
    /// Right edge, m, left positive (so usually negative).
    #[schema(minimum = -100.0, maximum = 100.0)]
    pub right_edge_m: f64,
    /// Left edge, m, left positive.
    #[schema(minimum = -100.0, maximum = 100.0)]
    pub left_edge_m: f64,
    /// Greatest height, m, if branches hang over it.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 60.0)]
    pub ceiling_m: Option<f64>,
    /// Least height, m, if something must be cleared.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 40.0)]
    pub floor_m: Option<f64>,
}

/// How the disc should come down.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Landing {
    /// Anyhow.
    Any,
    /// Steeply enough to stay where it lands.
    Sit,
    /// Shallow, to run on.
    Run,
    /// On edge, to roll for more than half of the way.
    Roll,
    /// In the chains of a basket that stands at the target: a putt, or an ace run.
    Basket,
}

/// What the landing zone is like.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Ground {
    /// Wet meadow, mud, deep leaves, sand.
    Soft,
    /// Ordinary short grass.
    #[default]
    Turf,
    /// Packed earth, gravel, asphalt, ice.
    Hard,
    /// Snow.
    Snow,
}

impl From<Ground> for ground::Ground {
    fn from(kind: Ground) -> ground::Ground {
        match kind {
            Ground::Soft => ground::Ground::Soft,
            Ground::Turf => ground::Ground::Turf,
            Ground::Hard => ground::Ground::Hard,
            Ground::Snow => ground::Ground::Snow,
        }
    }
}

/// Where the tray ends and the chains begin, m above the ground: a putt's flight ends there.
pub const BASKET_FOOT_M: f64 = 0.82;

/// How the player stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Footing {
    /// With a run-up.
    RunUp,
    /// From a standstill: less power, more scatter.
    Standstill,
    /// From a slope, a knee, a straddle or a slippery place: less still.
    Unsteady,
    /// A putt with a jump, released before landing: more power than from a stand, more scatter.
    JumpPutt,
}

/// A line without its identity. Distances to where the disc comes to rest.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LineSpec {
    /// Name.
    #[schema(max_length = 80)]
    pub name: String,
    /// What the shot is, in one sentence; empty if nobody said.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub meaning: String,
    /// Slot it is listed under; any disc may answer it unless `fastest_speed` says otherwise.
    pub slot: Slot,
    /// Style it is thrown in.
    pub style: Style,
    /// Tee to target, m, 10 to 200.
    #[schema(minimum = 3.0, maximum = 200.0)]
    pub distance_m: f64,
    /// Length of the landing zone along the line, m, 2 to 80.
    #[schema(minimum = 2.0, maximum = 80.0)]
    pub zone_length_m: f64,
    /// Width of the landing zone, m, 2 to 80.
    #[schema(minimum = 2.0, maximum = 80.0)]
    pub zone_width_m: f64,
    /// Whether the zone has no far end: the farther, the better.
    #[serde(default)]
    pub open_ended: bool,
    /// Openings to pass, in order, at most four.
    #[serde(default)]
    #[schema(max_items = 4)]
    pub gates: Vec<Gate>,
    /// Greatest height anywhere, m, if there is a roof of branches.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 60.0)]
    pub ceiling_m: Option<f64>,
    /// What stands and lies about it, at most twelve.
    #[serde(default)]
    #[schema(max_items = 12)]
    pub things: Vec<Thing>,
    /// Where the ground rises or falls, the nearest first, at most six: straight between them, level behind the last.
    #[serde(default)]
    #[schema(max_items = 6)]
    pub rises: Vec<Rise>,
    /// Whether discs that the player is tied to are thrown here although they may be lost.
    #[serde(default)]
    pub risk_tied: bool,
    /// Wind of this line along it, m/s, tail positive, on top of the day's.
    #[schema(minimum = -15.0, maximum = 15.0)]
    pub along_m_s: f64,
    /// Wind of this line across it, m/s, toward the left positive, on top of the day's.
    #[schema(minimum = -15.0, maximum = 15.0)]
    pub left_m_s: f64,
    /// Share of the day's wind that trees or hills keep away from it, 0 to 0.95.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 0.95)]
    pub lee: f64,
    /// What the landing zone is like.
    #[serde(default)]
    pub ground: Ground,
    /// Wish for the landing.
    pub landing: Landing,
    /// Stance.
    pub footing: Footing,
    /// Least hyzer a release may have, degrees; negative is anhyzer.
    #[schema(minimum = -120.0, maximum = 75.0)]
    pub hyzer_min_deg: f64,
    /// Greatest hyzer, degrees.
    #[schema(minimum = -120.0, maximum = 120.0)]
    pub hyzer_max_deg: f64,
    /// Least launch, degrees.
    #[schema(minimum = -5.0, maximum = 65.0)]
    pub launch_min_deg: f64,
    /// Greatest launch, degrees.
    #[schema(minimum = -5.0, maximum = 70.0)]
    pub launch_max_deg: f64,
    /// Least nose a release may have, degrees, up positive; absent for the least that the style allows.
    #[serde(default)]
    pub nose_min_deg: Option<f64>,
    /// Greatest nose, degrees; absent for the greatest that the style allows.
    #[serde(default)]
    pub nose_max_deg: Option<f64>,
    /// Fastest disc that suits, by speed number, where a faster one would run on.
    #[serde(default)]
    #[schema(minimum = 1.0, maximum = 15.0)]
    pub fastest_speed: Option<f64>,
    /// How often it comes up, 0.1 to 10, 1 for once a round.
    #[schema(minimum = 0.1, maximum = 10.0)]
    pub weight: f64,
    /// What a miss costs, strokes, 0 to 3; absent for what is usual for its style and slot.
    #[serde(default)]
    #[schema(minimum = 0.0, maximum = 3.0)]
    pub miss_strokes: Option<f64>,
}

/// Lowest launch from which a roller is thrown, degrees. Own judgement.
pub(crate) const LOWEST_ROLLER_DEG: f64 = -4.0;

impl LineSpec {
    /// A line as a form for a new one starts, in a style: distances and angles that suit it, still without a name.
    pub fn usual(style: Style) -> LineSpec {
        let line = LineSpec {
            name: String::new(),
            meaning: String::new(),
            slot: Slot::MidRange,
            style,
            distance_m: 70.0,
            zone_length_m: 18.0,
            zone_width_m: 15.0,
            open_ended: false,
            gates: vec![],
            ceiling_m: None,
            things: vec![],
            rises: vec![],
            risk_tied: false,
            along_m_s: 0.0,
            left_m_s: 0.0,
            lee: 0.0,
            ground: Ground::Turf,
            landing: Landing::Any,
            footing: Footing::RunUp,
            hyzer_min_deg: -10.0,
            hyzer_max_deg: 25.0,
            launch_min_deg: 4.0,
            launch_max_deg: 18.0,
            nose_min_deg: None,
            nose_max_deg: None,
            fastest_speed: None,
            weight: 1.0,
            miss_strokes: None,
        };
        match style {
            Style::Backhand | Style::Forehand => line,
            Style::Thumber | Style::Tomahawk => LineSpec {
                hyzer_min_deg: -110.0,
                hyzer_max_deg: -50.0,
                launch_min_deg: 20.0,
                launch_max_deg: 55.0,
                ..line
            },
            Style::Putt => LineSpec {
                slot: Slot::Putter,
                distance_m: 8.0,
                landing: Landing::Basket,
                footing: Footing::Standstill,
                hyzer_min_deg: -5.0,
                hyzer_max_deg: 20.0,
                launch_min_deg: 2.0,
                launch_max_deg: 20.0,
                fastest_speed: Some(3.5),
                ..line
            },
        }
    }

    /// A roller as a form for a new one starts, in a style: on as much anhyzer, and as low, as they are usually thrown. Own
    /// judgement.
    pub fn roller(style: Style) -> LineSpec {
        LineSpec {
            slot: Slot::Utility,
            zone_length_m: 30.0,
            zone_width_m: 30.0,
            landing: Landing::Roll,
            hyzer_min_deg: -70.0,
            hyzer_max_deg: -42.0,
            launch_min_deg: LOWEST_ROLLER_DEG,
            launch_max_deg: 6.0,
            ..LineSpec::usual(style)
        }
    }

    /// # Errors
    /// [`BagError`] for the first field that makes no line.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 80)?;
        let nearest = if self.style == Style::Putt { 3.0 } else { 10.0 };
        within("distance_m", self.distance_m, nearest, 200.0)?;
        within("zone_length_m", self.zone_length_m, 2.0, 80.0)?;
        within("zone_width_m", self.zone_width_m, 2.0, 80.0)?;
        self.validate_stance()?;
        if self.landing == Landing::Roll && !Style::ROLLING.contains(&self.style) {
            return Err(BagError::Field {
                field: "landing",
                expected: "any, sit or run: rollers are thrown backhand or forehand".into(),
                got: format!("roll with a {}", self.style.label()),
            });
        }
        let most = MOST_GATES - usize::from(self.landing == Landing::Basket);
        if self.gates.len() > most {
            return Err(BagError::Field {
                field: "gates",
                expected: format!("at most {most} gates"),
                got: self.gates.len().to_string(),
            });
        }
        for gate in &self.gates {
            within("gate at_m", gate.at_m, 1.0, self.distance_m)?;
            within("gate left_edge_m", gate.left_edge_m, -100.0, 100.0)?;
            within("gate right_edge_m", gate.right_edge_m, -100.0, gate.left_edge_m - 0.5)?;
            within("gate floor_m", gate.floor_m.unwrap_or(0.0), 0.0, 40.0)?;
            let floor = gate.floor_m.unwrap_or(0.0);
            within("gate ceiling_m", gate.ceiling_m.unwrap_or(60.0), floor + 0.5, 60.0)?;
        }
        within("things", self.things.len() as f64, 0.0, MOST_THINGS as f64)?;
        self.things.iter().try_for_each(Thing::validate)?;
        let watched = self.things.iter().map(Thing::gates).sum::<usize>() + self.gates.len();
        if watched > MAX_GATES - 1 {
            let expected = format!(
                "fewer: gates, trees and mandatories count one, wood and roofs two, together {}",
                MAX_GATES - 1
            );
            return Err(BagError::Field { field: "things", expected, got: watched.to_string() });
        }
        terrain(&self.rises)?;
        within("ceiling_m", self.ceiling_m.unwrap_or(60.0), 1.5, 60.0)?;
        within("lee", self.lee, 0.0, 0.95)?;
        within("along_m_s", self.along_m_s, -15.0, 15.0)?;
        within("left_m_s", self.left_m_s, -15.0, 15.0)?;
        within("hyzer_min_deg", self.hyzer_min_deg, -120.0, 75.0)?;
        within("hyzer_max_deg", self.hyzer_max_deg, self.hyzer_min_deg, 120.0)?;
        within("launch_min_deg", self.launch_min_deg, -5.0, 65.0)?;
        within("launch_max_deg", self.launch_max_deg, self.launch_min_deg, 70.0)?;
        let (least, greatest) = self.style.noses_deg();
        let nose_min_deg = self.nose_min_deg.unwrap_or(least);
        within("nose_min_deg", nose_min_deg, least, greatest)?;
        within("nose_max_deg", self.nose_max_deg.unwrap_or(greatest), nose_min_deg, greatest)?;
        within("fastest_speed", self.fastest_speed.unwrap_or(15.0), 1.0, 15.0)?;
        within("weight", self.weight, 0.1, 10.0)?;
        within("miss_strokes", self.miss_strokes.unwrap_or(0.0), 0.0, 3.0)?;
        readable("meaning", &self.meaning, 200)
    }

    /// A putt has no run-up, and nothing else a jump; inside the circle nobody jumps.
    fn validate_stance(&self) -> Result<(), BagError> {
        let refuse = |expected: String| {
            Err(BagError::Field { field: "footing", expected, got: format!("{:?}", self.footing) })
        };
        match (self.style, self.footing) {
            (Style::Putt, Footing::RunUp) => refuse("standstill, unsteady or jump_putt for a putt".into()),
            (Style::Putt, Footing::JumpPutt) if self.distance_m < PUTT_M => refuse(format!(
                "standstill or unsteady: a jump putt counts only from beyond {PUTT_M} m ({:.0} ft)",
                PUTT_M / 0.3048
            )),
            (style, Footing::JumpPutt) if style != Style::Putt => {
                refuse("run_up, standstill or unsteady: only a putt is made with a jump".into())
            }
            _ => Ok(()),
        }
    }

    /// What a miss usually costs, strokes: a putt is made with the next throw, a drive is often saved. Own judgement.
    pub fn usual_miss_strokes(style: Style, slot: Slot) -> f64 {
        match (style, slot) {
            (Style::Putt, _) => 1.0,
            (_, Slot::Putter | Slot::Utility) => 0.5,
            (_, Slot::MidRange) => 0.45,
            (_, Slot::Fairway) => 0.4,
            (_, Slot::Control) => 0.35,
            (_, Slot::Distance) => 0.3,
        }
    }

    /// What a miss costs, strokes; where ground costs more than a miss, a little at least, as that is counted in misses.
    pub fn strokes_of_a_miss(&self) -> f64 {
        let strokes = self.miss_strokes.unwrap_or_else(|| Self::usual_miss_strokes(self.style, self.slot));
        let costs_more = self.things.iter().any(|t| t.price().0 > 0.0);
        if costs_more { strokes.max(LEAST_MISS_STROKES) } else { strokes }
    }

    /// Whether a disc thrown here may not be got back.
    pub fn may_lose(&self) -> bool {
        self.things.iter().any(|t| t.price().1 > 0.0)
    }

    /// Whether discs that their player is tied to stay out of it, as they may be lost.
    pub fn spares_dear(&self) -> bool {
        self.may_lose() && !self.risk_tied
    }

    /// Its things and rises in figures: all of them that a flight depends on.
    pub(crate) fn lie_of_the_land(&self) -> Vec<f64> {
        let rises = self.rises.iter().flat_map(|r| [r.at_m, r.height_m]);
        self.things.iter().flat_map(Thing::figures).chain(rises).collect()
    }

    /// How its ground rises and falls.
    pub fn terrain(&self) -> Terrain {
        // A line that was let in has ground that is one.
        terrain(&self.rises).unwrap_or(Terrain::LEVEL)
    }

    /// Shares of controlled power a release may use; of a putt's full speed for a putt. Own judgement.
    pub fn powers(&self) -> (f64, f64) {
        match (self.style, self.footing) {
            (Style::Putt, Footing::JumpPutt) => (0.55, 1.0),
            (Style::Putt, Footing::Unsteady) => (0.4, 0.75),
            (Style::Putt, _) => (0.4, 0.85),
            (_, Footing::RunUp | Footing::JumpPutt) => (0.6, 1.0),
            (_, Footing::Standstill) => (0.5, 0.85),
            (_, Footing::Unsteady) => (0.4, 0.7),
        }
    }

    /// Least and greatest nose angle of a release, degrees.
    pub fn noses_deg(&self) -> (f64, f64) {
        let (least, greatest) = self.style.noses_deg();
        (self.nose_min_deg.unwrap_or(least), self.nose_max_deg.unwrap_or(greatest))
    }

    /// Scatter of the stance against the style's usual one, on dry or `wet` ground. Own judgement.
    pub fn footing_spread(&self, wet: bool) -> f64 {
        let (dry, slips) = match (self.style, self.footing) {
            (Style::Putt, Footing::Standstill) => (1.0, 1.0),
            (Style::Putt, Footing::JumpPutt) => (1.25, 1.1),
            (_, Footing::RunUp | Footing::JumpPutt) => (1.0, 1.15),
            (_, Footing::Standstill) => (1.2, 1.05),
            (_, Footing::Unsteady) => (1.45, 1.15),
        };
        if wet { dry * slips } else { dry }
    }

    /// Wind on this line when `wind` blows in the open.
    pub fn wind(&self, wind: Wind) -> Wind {
        let open = 1.0 - self.lee;
        Wind {
            along_m_s: wind.along_m_s * open + self.along_m_s,
            left_m_s: wind.left_m_s * open + self.left_m_s,
        }
    }

    /// Height above the ground at which its flights end, m: where the chains begin if there is a basket.
    pub fn floor_m(&self) -> f64 {
        if self.landing == Landing::Basket { BASKET_FOOT_M } else { 0.0 }
    }

    /// How far from the tee a good throw ends, m: at the target, or a little behind the chains, through which it falls.
    pub fn rest_at_m(&self) -> f64 {
        if self.landing == Landing::Basket { self.distance_m + BEHIND_CHAINS_M } else { self.distance_m }
    }

    /// Length within which a throw that is not centred may still do, m.
    pub fn reach_m(&self) -> f64 {
        if self.landing == Landing::Basket { BEHIND_CHAINS_M } else { 0.5 * self.zone_length_m }
    }
}

/// Where a putt through the middle of the chains would come down to their foot: so much behind them, m.
const BEHIND_CHAINS_M: f64 = 1.2;
/// Most gates of a line.
const MOST_GATES: usize = 4;
/// Least that a miss costs beside ground that costs more, strokes.
const LEAST_MISS_STROKES: f64 = 0.1;

/// A line with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Line {
    /// Identity: a template's key or `own-` and a number.
    pub key: String,
    /// Whether a template made it for this player's distances.
    pub generated: bool,
    /// Whether it counts.
    pub enabled: bool,
    /// Whether it is in a style that the player does not throw, so that it does not count however it is set.
    #[serde(default)]
    pub spared: bool,
    /// The line.
    #[serde(flatten)]
    pub spec: LineSpec,
}

impl Line {
    /// The line as it counts for somebody of these habits: not at all in a style that is not thrown.
    #[must_use]
    pub fn counted_by(self, habits: &Habits) -> Line {
        let spared = !habits.throws(self.spec.style);
        Line { spared, enabled: self.enabled && !spared, ..self }
    }
}
