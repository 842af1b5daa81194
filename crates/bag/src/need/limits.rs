//! What a line allows, resolved into plain limits, and what a flight does with them. In single precision, as flights are
//! flown: a search asks this of many throws side by side.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::outcome::{Crossing, Outcome};
use zinc_kite_flight::settle::SIT_M;

use crate::need::area::Area;
use crate::need::line::{Landing, LineSpec};
use crate::need::opening::{CHAINS_SCALE, HEIGHT_SCALE, Opening, openings};
use crate::need::thing::{Peril, Thing};

/// What the chains let go again: a disc must strike them so much nearer to their middle for every m/s above a speed at which
/// they hold whatever they meet. Set with the width so that putts are made about as often as common practice says.
const REJECT_M_PER_M_S: f32 = 0.021;
const HELD_M_S: f32 = 5.0;
/// How far along a throw hits a roof that hangs over all of it, as a share of where it would rest. Own judgement.
const HALF_WAY: f32 = 0.6;
/// Run beyond which a disc runs, m. Own judgement.
const RUNS_M: f32 = 4.0;

/// Share of the way that a roller rolls at least. Own judgement.
const LEAST_ROLLED: f64 = 0.5;

/// Up to here, radians, the first terms of sine and cosine are right to single precision.
const SMALL_TURN: f32 = 0.3;

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
        let angle = deg.to_radians() as f32;
        if angle.abs() > SMALL_TURN {
            let (sin, cos) = angle.sin_cos();
            return Turn { sin, cos };
        }
        // So many turns are small ones that their series pay.
        let square = angle * angle;
        Turn {
            sin: angle * (1.0 - square * (1.0 / 6.0 - square / 120.0)),
            cos: 1.0 - square * (0.5 - square * (1.0 / 24.0 - square / 720.0)),
        }
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

/// What a flight is held against.
#[derive(Debug, Clone)]
pub struct Limits {
    pub(crate) openings: Vec<Opening>,
    gates_m: Vec<f64>,
    pub(crate) dangers: Vec<Danger>,
    pub(crate) bounds: Bounds,
}

/// Ground that costs more than a miss.
#[derive(Debug, Clone)]
pub(crate) struct Danger {
    /// Which of the line's things it is.
    pub thing: usize,
    pub peril: Peril,
    pub area: Area,
    /// What ending there costs beyond a miss, in misses.
    pub misses: f32,
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
    /// Least run of a disc that is to roll, m.
    rolls_m: f32,
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
        matches!(self.landing, Landing::Sit | Landing::Run | Landing::Roll)
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
            Landing::Roll => run_m - self.rolls_m,
        }
    }
}

impl Limits {
    /// Those of a line.
    pub fn of(line: &LineSpec) -> Limits {
        let floor_m = line.floor_m();
        let (openings, gates_m) = openings(line);
        let miss_strokes = line.strokes_of_a_miss();
        let danger = |(k, thing): (usize, &Thing)| match thing {
            Thing::Hazard { peril, area, .. } => Some(Danger {
                thing: k,
                peril: *peril,
                area: Area::of(area),
                misses: (thing.price().0 / miss_strokes) as f32,
            }),
            _ => None,
        };
        let basket = line.landing == Landing::Basket;
        let wide = |x: f64| if basket { f32::INFINITY } else { x as f32 };
        let far_m = if line.open_ended { f64::INFINITY } else { line.distance_m + 0.5 * line.zone_length_m };
        Limits {
            openings,
            gates_m,
            dangers: line.things.iter().enumerate().filter_map(danger).collect(),
            bounds: Bounds {
                top_m: line.ceiling_m.map_or(f32::INFINITY, |c| (c - floor_m) as f32),
                near_m: -wide(0.5 * line.zone_length_m - line.distance_m),
                far_m: wide(far_m),
                half_width_m: wide(0.5 * line.zone_width_m),
                landing: line.landing,
                rolls_m: (LEAST_ROLLED * line.distance_m) as f32,
            },
        }
    }

    /// Distances of the openings, as the simulator wants them.
    pub fn gate_distances(&self) -> Vec<f64> {
        self.gates_m.clone()
    }

    /// Which of the line's things a disc that comes to rest there lies in, if it is ground that costs more than a miss.
    fn danger_at(&self, x_m: f32, y_m: f32) -> Option<&Danger> {
        self.dangers.iter().find(|d| d.area.inside_m(x_m, y_m) >= 0.0)
    }

    /// Whether the landing zone holds a place, m down the line and left of it.
    pub(crate) fn zone_holds(&self, x_m: f64, y_m: f64) -> bool {
        self.bounds.rest(x_m as f32, y_m as f32).iter().all(|margin| *margin >= 0.0)
    }

    /// Whether a place is in water.
    pub(crate) fn is_water(&self, x_m: f64, y_m: f64) -> bool {
        let water = |d: &&Danger| d.peril == Peril::Water;
        self.dangers.iter().filter(water).any(|d| d.area.inside_m(x_m as f32, y_m as f32) >= 0.0)
    }

    /// Whether there is water at all.
    pub(crate) fn has_water(&self) -> bool {
        self.dangers.iter().any(|d| d.peril == Peril::Water)
    }

    /// What a flight does with them, once it has come to rest.
    pub fn judge(&self, o: &Outcome) -> Judged {
        self.judge_turned(o, &Turn::NONE)
    }

    /// What it would do, turned about the tee.
    pub(crate) fn judge_turned(&self, o: &Outcome, turn: &Turn) -> Judged {
        let (x_m, y_m) = turn.place(o.x_m as f32, o.y_m as f32);
        let (margin_m, lies) = (f32::INFINITY, (x_m, y_m));
        let mut judged = Judged { margin_m, tightest: None, miss: None, danger: None, lies };
        let (mut end_x_m, mut end_y_m) = (x_m, y_m);
        let drift = turn.drift();
        for opening in &self.openings {
            let Some(Crossing { y_m, z_m }) = o.crossings.get(opening.plane) else {
                if opening.must_be_reached {
                    judged.note(x_m - opening.at_m, Miss::Short);
                }
                continue;
            };
            let y_m = y_m + opening.at_m * drift;
            let room = opening.room(y_m, z_m);
            if opening.is_solid {
                judged.note(room.into_iter().fold(f32::NEG_INFINITY, f32::max), opening.misses[0]);
            } else {
                room.into_iter().zip(opening.misses).for_each(|(room, miss)| judged.note(room, miss));
            }
            if judged.miss.is_some_and(Miss::stops) && end_x_m > opening.at_m {
                // It falls about where it hits.
                (end_x_m, end_y_m) = (opening.at_m, y_m);
                judged.lies = (end_x_m, end_y_m);
            }
            if judged.miss == Some(Miss::Mandatory) && judged.lies.0 > opening.at_m {
                judged.lies = (opening.at_m, y_m);
            }
            if opening.is_chains {
                let least = room.into_iter().fold(f32::INFINITY, f32::min);
                judged.note(least - chains_let_go(o.landing_speed_m_s() as f32), Miss::LetGo);
            }
        }
        let stood = judged.miss.is_none();
        judged.note(self.bounds.under_roof(o.apex_m as f32), Miss::Ceiling);
        if stood && judged.miss.is_some() {
            // A flight is highest about half way.
            judged.lies = (HALF_WAY * x_m, HALF_WAY * y_m);
        }
        let danger = self.danger_at(end_x_m, end_y_m);
        judged.danger = danger.map(|d| (d.thing, d.peril));
        for d in &self.dangers {
            judged.note(-d.area.inside_m(x_m, y_m), Miss::of(d.peril));
        }
        let ways = [Miss::Short, Miss::Long, Miss::Left, Miss::Right];
        self.bounds.rest(x_m, y_m).into_iter().zip(ways).for_each(|(room, miss)| judged.note(room, miss));
        let wrong = match self.bounds.landing {
            Landing::Run => Miss::Stops,
            Landing::Roll => Miss::LiesDown,
            Landing::Any | Landing::Sit | Landing::Basket => Miss::RunsOn,
        };
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
    /// Lies down where it should roll.
    LiesDown,
    /// Beside the chains.
    Wide,
    /// Over the chains.
    Over,
    /// Under the chains.
    Under,
    /// Into the chains and out again.
    LetGo,
    /// Into a tree.
    Tree,
    /// Into the wood.
    Wood,
    /// On the wrong side of a mandatory.
    Mandatory,
    /// In water.
    Water,
    /// Out of bounds.
    OutOfBounds,
}

impl Miss {
    /// Ending in a peril.
    fn of(peril: Peril) -> Miss {
        match peril {
            Peril::Water => Miss::Water,
            Peril::OutOfBounds => Miss::OutOfBounds,
        }
    }

    /// Whether it ends the flight there and then.
    fn stops(self) -> bool {
        matches!(self, Miss::Gate | Miss::Ceiling | Miss::Low | Miss::Tree | Miss::Wood)
    }

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
            Miss::LiesDown => "lie down where they should roll",
            Miss::Wide => "pass the basket wide",
            Miss::Over => "go over the basket",
            Miss::Under => "come in under the chains",
            Miss::LetGo => "strike the chains and fall out",
            Miss::Tree => "hit a tree",
            Miss::Wood => "hit the wood",
            Miss::Mandatory => "pass the mandatory on the wrong side",
            Miss::Water => Peril::Water.label(),
            Miss::OutOfBounds => Peril::OutOfBounds.label(),
        }
    }
}

/// A flight held against a line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Judged {
    /// Least room to any limit, m as it counts for ranking near misses, negative outside.
    pub margin_m: f32,
    /// What it would be to break the limit with that room.
    pub tightest: Option<Miss>,
    /// The first limit broken, if any.
    pub miss: Option<Miss>,
    /// Which of the line's things it ends in, and what that is, if it costs more than a miss.
    pub danger: Option<(usize, Peril)>,
    /// From where is played on, m down-range and to the left: where it rests, falls from what it hit, or passed a mandatory.
    pub lies: (f32, f32),
}

impl Judged {
    #[inline(always)]
    fn note(&mut self, margin_m: f32, miss: Miss) {
        if margin_m < self.margin_m {
            (self.margin_m, self.tightest) = (margin_m, Some(miss));
        }
        if margin_m < 0.0 && self.miss.is_none() {
            self.miss = Some(miss);
        }
    }
}
