//! What a line allows, resolved into plain limits, and what a flight does with them. In single precision, as flights are
//! flown: a search asks this of many throws side by side.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::ground::SIT_M;
use zinc_kite_flight::outcome::{Crossing, Outcome};

use crate::need::line::{BASKET_FOOT_M, Gate, Landing, LineSpec};

/// Chains of a basket: half their width and their upper end above the ground, m. Own judgement of what catches, from
/// memory of the sport's usual basket.
const CHAINS_HALF_M: f32 = 0.25;
const CHAINS_TOP_M: f32 = 1.35;
/// What the chains let go again: a disc must strike them so much nearer to their middle for every m/s above a speed at which
/// they hold whatever they meet. Set with the width so that putts are made about as often as common practice says.
const REJECT_M_PER_M_S: f32 = 0.021;
const HELD_M_S: f32 = 5.0;
/// How much a metre at the chains counts against one in a fairway, for ranking near misses only: a hand's breadth there is
/// what a step is in a fairway.
const CHAINS_SCALE: f32 = 6.0;
/// How much a metre of height counts against one on the ground, for ranking near misses only: throws differ much less in how
/// high they pass than in where.
const HEIGHT_SCALE: f32 = 3.0;
/// Run beyond which a disc runs, m. Own judgement.
const RUNS_M: f32 = 4.0;

/// A turn of a throw about the tee.
#[derive(Debug, Clone, Copy)]
pub struct Turn {
    sin: f32,
    cos: f32,
}

impl Turn {
    /// None at all.
    pub const NONE: Turn = Turn { sin: 0.0, cos: 1.0 };

    /// By `deg` degrees, left positive.
    pub fn by(deg: f64) -> Turn {
        let (sin, cos) = (deg.to_radians() as f32).sin_cos();
        Turn { sin, cos }
    }

    /// A place on the ground, m, turned.
    #[inline(always)]
    pub fn place(&self, x_m: f32, y_m: f32) -> (f32, f32) {
        (x_m * self.cos - y_m * self.sin, x_m * self.sin + y_m * self.cos)
    }

    /// How far to the left a crossing moves, m left per m of distance: gates stay where they are.
    #[inline(always)]
    pub fn drift(&self) -> f32 {
        self.sin / self.cos
    }
}

/// An opening to pass, heights from where the flight's own count.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Opening {
    pub at_m: f32,
    right_m: f32,
    left_m: f32,
    top_m: f32,
    foot_m: f32,
    scale: f32,
    height_scale: f32,
    misses: [Miss; 3],
    pub is_chains: bool,
}

impl Opening {
    fn of(gate: &Gate, floor_m: f64) -> Opening {
        Opening {
            at_m: gate.at_m as f32,
            right_m: gate.right_edge_m as f32,
            left_m: gate.left_edge_m as f32,
            top_m: gate.ceiling_m.map_or(f32::INFINITY, |c| (c - floor_m) as f32),
            foot_m: gate.floor_m.map_or(f32::NEG_INFINITY, |f| (f - floor_m) as f32),
            scale: 1.0,
            height_scale: HEIGHT_SCALE,
            misses: [Miss::Gate, Miss::Ceiling, Miss::Low],
            is_chains: false,
        }
    }

    fn chains(at_m: f64) -> Opening {
        Opening {
            at_m: at_m as f32,
            right_m: -CHAINS_HALF_M,
            left_m: CHAINS_HALF_M,
            top_m: CHAINS_TOP_M - BASKET_FOOT_M as f32,
            foot_m: 0.0,
            scale: CHAINS_SCALE,
            height_scale: CHAINS_SCALE,
            misses: [Miss::Wide, Miss::Over, Miss::Under],
            is_chains: true,
        }
    }

    /// Whether height matters.
    pub(crate) fn is_bounded(&self) -> bool {
        self.top_m < f32::INFINITY || self.foot_m > f32::NEG_INFINITY
    }

    /// Room beside, above and below, m as it counts for ranking near misses, negative outside.
    #[inline(always)]
    pub(crate) fn room(&self, y_m: f32, z_m: f32) -> [f32; 3] {
        let (left, right) = (self.left_m - y_m, y_m - self.right_m);
        let beside = if right < left { right } else { left };
        [self.scale * beside, self.height_scale * (self.top_m - z_m), self.height_scale * (z_m - self.foot_m)]
    }
}

/// What a flight is held against.
#[derive(Debug, Clone)]
pub struct Limits {
    pub(crate) openings: Vec<Opening>,
    pub(crate) bounds: Bounds,
}

/// What a flight is held against beside openings.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Bounds {
    /// Greatest height, m, without bound if there is no roof.
    top_m: f32,
    /// Nearest and farthest end, m, and half the width of the zone; without bound at a basket, where only the chains count.
    near_m: f32,
    far_m: f32,
    half_width_m: f32,
    landing: Landing,
}

/// Room (m, counted as at the chains) that a disc needs to the edge of the chains to be held by them, if it meets them with
/// `speed_m_s`.
#[inline(always)]
pub(crate) fn chains_let_go(speed_m_s: f32) -> f32 {
    let fast = speed_m_s - HELD_M_S;
    CHAINS_SCALE * REJECT_M_PER_M_S * if fast > 0.0 { fast } else { 0.0 }
}

impl Bounds {
    /// Whether there is a roof.
    pub(crate) fn has_roof(&self) -> bool {
        self.top_m < f32::INFINITY
    }

    /// Room below the roof, m, counted as heights are.
    #[inline(always)]
    pub(crate) fn under_roof(&self, apex_m: f32) -> f32 {
        HEIGHT_SCALE * (self.top_m - apex_m)
    }

    /// Whether it matters how far a disc runs on.
    pub(crate) fn asks_for_run(&self) -> bool {
        matches!(self.landing, Landing::Sit | Landing::Run)
    }

    /// Whether the last opening are chains.
    pub(crate) fn has_chains(&self) -> bool {
        self.landing == Landing::Basket
    }

    /// Room before, behind, left and right of where a disc rests, m, negative outside.
    #[inline(always)]
    pub(crate) fn rest(&self, x_m: f32, y_m: f32) -> [f32; 4] {
        [x_m - self.near_m, self.far_m - x_m, self.half_width_m - y_m, self.half_width_m + y_m]
    }

    /// How far a run of `run_m` is from being too long or too short, m; without bound if it does not matter.
    #[inline(always)]
    pub(crate) fn run(&self, run_m: f32) -> f32 {
        match self.landing {
            Landing::Any | Landing::Basket => f32::INFINITY,
            Landing::Sit => SIT_M as f32 - run_m,
            Landing::Run => run_m - RUNS_M,
        }
    }
}

impl Limits {
    /// Those of a line.
    pub fn of(line: &LineSpec) -> Limits {
        let floor_m = line.floor_m();
        let basket = line.landing == Landing::Basket;
        let gates = line.gates.iter().map(|gate| Opening::of(gate, floor_m));
        let wide = |x: f64| if basket { f32::INFINITY } else { x as f32 };
        let far_m = if line.open_ended { f64::INFINITY } else { line.distance_m + 0.5 * line.zone_length_m };
        Limits {
            openings: gates.chain(basket.then(|| Opening::chains(line.distance_m))).collect(),
            bounds: Bounds {
                top_m: line.ceiling_m.map_or(f32::INFINITY, |c| (c - floor_m) as f32),
                near_m: -wide(0.5 * line.zone_length_m - line.distance_m),
                far_m: wide(far_m),
                half_width_m: wide(0.5 * line.zone_width_m),
                landing: line.landing,
            },
        }
    }

    /// Distances of the openings, as the simulator wants them.
    pub fn gate_distances(&self) -> Vec<f64> {
        self.openings.iter().map(|o| f64::from(o.at_m)).collect()
    }

    /// What a flight does with them, once it has come to rest.
    pub fn judge(&self, o: &Outcome) -> Judged {
        self.judge_turned(o, &Turn::NONE)
    }

    /// What it would do, turned about the tee.
    pub(crate) fn judge_turned(&self, o: &Outcome, turn: &Turn) -> Judged {
        let mut judged = Judged { margin_m: f32::INFINITY, miss: None };
        let (x_m, y_m) = turn.place(o.x_m as f32, o.y_m as f32);
        let drift = turn.drift();
        for (opening, crossing) in self.openings.iter().zip(&o.crossings) {
            let Some(Crossing { y_m, z_m }) = *crossing else {
                judged.note(x_m - opening.at_m, Miss::Short);
                continue;
            };
            let room = opening.room(y_m as f32 + opening.at_m * drift, z_m as f32);
            room.into_iter().zip(opening.misses).for_each(|(room, miss)| judged.note(room, miss));
            if opening.is_chains {
                let least = room.into_iter().fold(f32::INFINITY, f32::min);
                judged.note(least - chains_let_go(o.landing_speed_m_s() as f32), Miss::LetGo);
            }
        }
        judged.note(self.bounds.under_roof(o.apex_m as f32), Miss::Ceiling);
        let ways = [Miss::Short, Miss::Long, Miss::Left, Miss::Right];
        self.bounds.rest(x_m, y_m).into_iter().zip(ways).for_each(|(room, miss)| judged.note(room, miss));
        let wrong = if self.bounds.landing == Landing::Run { Miss::Stops } else { Miss::RunsOn };
        judged.note(self.bounds.run(o.run_m as f32), wrong);
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
    /// Stops before the zone.
    Short,
    /// Stops past it.
    Long,
    /// Stops left of it.
    Left,
    /// Stops right of it.
    Right,
    /// Runs on where it should sit.
    RunsOn,
    /// Stops where it should run.
    Stops,
    /// Beside the chains.
    Wide,
    /// Over the chains.
    Over,
    /// Under the chains.
    Under,
    /// Into the chains and out again.
    LetGo,
}

impl Miss {
    /// In words, after "n of 100 throws".
    pub fn label(self) -> &'static str {
        match self {
            Miss::Gate => "hit the side of a gate",
            Miss::Ceiling => "hit the branches above",
            Miss::Low => "do not clear what stands in the way",
            Miss::Short => "stop short",
            Miss::Long => "go long",
            Miss::Left => "end left",
            Miss::Right => "end right",
            Miss::RunsOn => "run on where they should sit",
            Miss::Stops => "stop where they should run",
            Miss::Wide => "pass the basket wide",
            Miss::Over => "go over the basket",
            Miss::Under => "come in under the chains",
            Miss::LetGo => "strike the chains and fall out",
        }
    }
}

/// A flight held against a line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Judged {
    /// Least room to any limit, m as it counts for ranking near misses, negative outside.
    pub margin_m: f32,
    /// The first limit broken, if any.
    pub miss: Option<Miss>,
}

impl Judged {
    #[inline(always)]
    fn note(&mut self, margin_m: f32, miss: Miss) {
        self.margin_m = self.margin_m.min(margin_m);
        if margin_m < 0.0 && self.miss.is_none() {
            self.miss = Some(miss);
        }
    }
}
