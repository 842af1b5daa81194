//! A line: a shot that is needed.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::outcome::{MAX_GATES, Outcome};

use crate::error::{BagError, named, within};
use crate::player::Style;
use crate::slot::Slot;

/// An opening the disc must pass. Lateral places are true left and right of the straight line from tee to target.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Gate {
    /// Distance from the tee, m.
    pub at_m: f64,
    /// Right edge, m, left positive (so usually negative).
    pub right_edge_m: f64,
    /// Left edge, m, left positive.
    pub left_edge_m: f64,
    /// Greatest height, m, if branches hang over it.
    #[serde(default)]
    pub ceiling_m: Option<f64>,
    /// Least height, m, if something must be cleared.
    #[serde(default)]
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
}

/// How the player stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Footing {
    /// With a run-up.
    RunUp,
    /// From a standstill or an awkward stance: less power, more scatter.
    Standstill,
}

/// A line without its identity. Distances to where the disc first touches the ground.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct LineSpec {
    /// Name.
    pub name: String,
    /// Slot it is listed under; any disc may answer it unless `fastest_speed` says otherwise.
    pub slot: Slot,
    /// Style it is thrown in.
    pub style: Style,
    /// Tee to target, m, 10 to 200.
    pub distance_m: f64,
    /// Length of the landing zone along the line, m, 2 to 80.
    pub zone_length_m: f64,
    /// Width of the landing zone, m, 2 to 80.
    pub zone_width_m: f64,
    /// Openings to pass, in order, at most four.
    #[serde(default)]
    pub gates: Vec<Gate>,
    /// Greatest height anywhere, m, if there is a roof of branches.
    #[serde(default)]
    pub ceiling_m: Option<f64>,
    /// Wind of this line along it, m/s, tail positive, on top of the day's.
    pub along_m_s: f64,
    /// Wind of this line across it, m/s, toward the left positive, on top of the day's.
    pub left_m_s: f64,
    /// Wish for the landing.
    pub landing: Landing,
    /// Stance.
    pub footing: Footing,
    /// Least hyzer a release may have, degrees; negative is anhyzer.
    pub hyzer_min_deg: f64,
    /// Greatest hyzer, degrees.
    pub hyzer_max_deg: f64,
    /// Least launch, degrees.
    pub launch_min_deg: f64,
    /// Greatest launch, degrees.
    pub launch_max_deg: f64,
    /// Fastest disc that suits, by speed number, where a faster one would run on.
    #[serde(default)]
    pub fastest_speed: Option<f64>,
    /// How often it comes up, 0.1 to 10, 1 for once a round.
    pub weight: f64,
}

/// Least descent of a landing that sits and greatest of one that runs, degrees. Own judgement until the ground is
/// modelled.
pub const SIT_DESCENT_DEG: f64 = 20.0;

impl LineSpec {
    /// # Errors
    /// [`BagError::Field`] for the first field that makes no line.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 80)?;
        within("distance_m", self.distance_m, 10.0, 200.0)?;
        within("zone_length_m", self.zone_length_m, 2.0, 80.0)?;
        within("zone_width_m", self.zone_width_m, 2.0, 80.0)?;
        if self.gates.len() > MAX_GATES {
            return Err(BagError::Field {
                field: "gates",
                expected: format!("at most {MAX_GATES} gates"),
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
        within("ceiling_m", self.ceiling_m.unwrap_or(60.0), 1.5, 60.0)?;
        within("along_m_s", self.along_m_s, -15.0, 15.0)?;
        within("left_m_s", self.left_m_s, -15.0, 15.0)?;
        within("hyzer_min_deg", self.hyzer_min_deg, -60.0, 70.0)?;
        within("hyzer_max_deg", self.hyzer_max_deg, self.hyzer_min_deg, 75.0)?;
        within("launch_min_deg", self.launch_min_deg, -5.0, 50.0)?;
        within("launch_max_deg", self.launch_max_deg, self.launch_min_deg, 55.0)?;
        within("fastest_speed", self.fastest_speed.unwrap_or(15.0), 1.0, 15.0)?;
        within("weight", self.weight, 0.1, 10.0)
    }

    /// Shares of controlled power a release may use.
    pub fn powers(&self) -> (f64, f64) {
        match self.footing {
            Footing::RunUp => (0.6, 1.0),
            Footing::Standstill => (0.5, 0.85),
        }
    }

    /// Scatter of the stance against a run-up. Own judgement.
    pub fn footing_spread(&self) -> f64 {
        match self.footing {
            Footing::RunUp => 1.0,
            Footing::Standstill => 1.2,
        }
    }

    /// Distances of the gates, as the simulator wants them.
    pub fn gate_distances(&self) -> Vec<f64> {
        self.gates.iter().map(|g| g.at_m).collect()
    }

    /// What a flight does with this line.
    pub fn judge(&self, o: &Outcome) -> Judged {
        let mut judged = Judged { margin_m: f64::INFINITY, miss: None };
        for (gate, crossing) in self.gates.iter().zip(o.crossings) {
            let Some(at) = crossing else {
                judged.note(o.x_m - gate.at_m, Miss::Short);
                continue;
            };
            let side = (gate.left_edge_m - at.y_m).min(at.y_m - gate.right_edge_m);
            judged.note(side, Miss::Gate);
            judged.note(gate.ceiling_m.map_or(f64::INFINITY, |c| c - at.z_m), Miss::Ceiling);
            judged.note(gate.floor_m.map_or(f64::INFINITY, |f| at.z_m - f), Miss::Low);
        }
        judged.note(self.ceiling_m.map_or(f64::INFINITY, |c| c - o.apex_m), Miss::Ceiling);
        let past = o.x_m - self.distance_m;
        judged.note(0.5 * self.zone_length_m + past, Miss::Short);
        judged.note(0.5 * self.zone_length_m - past, Miss::Long);
        judged.note(0.5 * self.zone_width_m - o.y_m, Miss::Left);
        judged.note(0.5 * self.zone_width_m + o.y_m, Miss::Right);
        // A degree of descent counts as a third of a metre: only for ranking near misses.
        match self.landing {
            Landing::Any => {}
            Landing::Sit => judged.note((o.descent_deg - SIT_DESCENT_DEG) / 3.0, Miss::Shallow),
            Landing::Run => judged.note((SIT_DESCENT_DEG - o.descent_deg) / 3.0, Miss::Steep),
        }
        judged
    }
}

/// Why a throw does not make a line: the first thing that goes wrong.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Miss {
    /// Outside a gate.
    Gate,
    /// Into the branches above.
    Ceiling,
    /// Does not clear what stands in the way.
    Low,
    /// Lands before the zone.
    Short,
    /// Lands past it.
    Long,
    /// Lands left of it.
    Left,
    /// Lands right of it.
    Right,
    /// Comes in too flat to sit.
    Shallow,
    /// Comes in too steep to run.
    Steep,
}

impl Miss {
    /// In words, after "n of 100 throws".
    pub fn label(self) -> &'static str {
        match self {
            Miss::Gate => "hit the side of a gate",
            Miss::Ceiling => "hit the branches above",
            Miss::Low => "do not clear what stands in the way",
            Miss::Short => "land short",
            Miss::Long => "go long",
            Miss::Left => "land left",
            Miss::Right => "land right",
            Miss::Shallow => "come in too flat to sit",
            Miss::Steep => "come in too steep to run",
        }
    }
}

/// A flight held against a line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Judged {
    /// Least distance to any limit, m, negative outside.
    pub margin_m: f64,
    /// The first limit broken, if any.
    pub miss: Option<Miss>,
}

impl Judged {
    fn note(&mut self, margin_m: f64, miss: Miss) {
        self.margin_m = self.margin_m.min(margin_m);
        if margin_m < 0.0 && self.miss.is_none() {
            self.miss = Some(miss);
        }
    }
}

/// A line with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Line {
    /// Identity: a template's key or `own-` and a number.
    pub key: String,
    /// Whether a template made it for this player's distances.
    pub generated: bool,
    /// Whether it counts.
    pub enabled: bool,
    /// The line.
    #[serde(flatten)]
    pub spec: LineSpec,
}
