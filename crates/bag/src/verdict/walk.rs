//! The walk: a bag put together one lane at a time, as people lay discs out on the floor.

use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::lines::peg_line_key;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::error::BagError;
use crate::need::line::LineSpec;
use crate::need::peg::Peg;
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::verdict::board::{Board, Puck, board, pucks};
use crate::verdict::putting::{PuttingSet, putting_set};
use crate::verdict::school::{Objection, objections};
use crate::verdict::standing::Question;

/// A lane of the walk.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum WalkStep {
    /// Putters that are only putted with.
    PuttingSet,
    /// Putters and approach discs that are thrown.
    ThrowingPutters,
    /// Mid-ranges.
    MidRanges,
    /// Fairway drivers.
    Fairways,
    /// Control drivers.
    ControlDrivers,
    /// Distance drivers.
    DistanceDrivers,
    /// Special jobs.
    Utility,
}

impl WalkStep {
    /// All of them, slow first.
    pub const ALL: [WalkStep; 7] = [
        WalkStep::PuttingSet,
        WalkStep::ThrowingPutters,
        WalkStep::MidRanges,
        WalkStep::Fairways,
        WalkStep::ControlDrivers,
        WalkStep::DistanceDrivers,
        WalkStep::Utility,
    ];

    /// The step at which a disc is laid out.
    pub fn of_disc(slot: Slot, used_for: Use) -> WalkStep {
        match (slot, used_for) {
            (_, Use::Putting) => WalkStep::PuttingSet,
            (_, Use::Utility) | (Slot::Utility, _) => WalkStep::Utility,
            (Slot::Putter, _) => WalkStep::ThrowingPutters,
            (Slot::MidRange, _) => WalkStep::MidRanges,
            (Slot::Fairway, _) => WalkStep::Fairways,
            (Slot::Control, _) => WalkStep::ControlDrivers,
            (Slot::Distance, _) => WalkStep::DistanceDrivers,
        }
    }

    /// The step at which a line is asked: a control driver's shot belongs to the distance drivers while they share a lane.
    pub fn of_line(player: &Player, line: &LineSpec) -> WalkStep {
        let used_for = if line.style == Style::Putt { Use::Putting } else { Use::Throwing };
        WalkStep::of_disc(player.lane(line.slot), used_for)
    }

    fn slot(self) -> Slot {
        match self {
            WalkStep::PuttingSet | WalkStep::ThrowingPutters => Slot::Putter,
            WalkStep::MidRanges => Slot::MidRange,
            WalkStep::Fairways => Slot::Fairway,
            WalkStep::ControlDrivers => Slot::Control,
            WalkStep::DistanceDrivers => Slot::Distance,
            WalkStep::Utility => Slot::Utility,
        }
    }

    /// Name for people.
    pub fn label(self) -> &'static str {
        match self {
            WalkStep::PuttingSet => "Putting set",
            WalkStep::ThrowingPutters => "Throwing putters",
            WalkStep::MidRanges => "Mid-ranges",
            WalkStep::Fairways => "Fairway drivers",
            WalkStep::ControlDrivers => "Control drivers",
            WalkStep::DistanceDrivers => "Distance drivers",
            WalkStep::Utility => "Utility discs",
        }
    }

    /// What to think of at it.
    pub fn question(self) -> &'static str {
        match self {
            WalkStep::PuttingSet => {
                "Which discs do you putt with? Two alike, so that a putt feels the same twice; a stiffer or fresher one for wind."
            }
            WalkStep::ThrowingPutters => {
                "Which putters do you throw, from the approach up to a short tee? One that always finishes, one that goes straight."
            }
            WalkStep::MidRanges => {
                "Which mid-ranges cover the spread, from the one that always comes back to the one that turns?"
            }
            WalkStep::Fairways => {
                "Which fairway drivers? These are the discs for placing a drive rather than for length."
            }
            WalkStep::ControlDrivers => {
                "Do you throw drivers between fairway and distance, speed 10 and 11? Many arms get their length from these."
            }
            WalkStep::DistanceDrivers => {
                "Which discs for all the distance there is, when there is room for it? Speed 12 and more."
            }
            WalkStep::Utility => {
                "Anything kept for special jobs: a roller, an overhand disc, one that drops where it lands? Often there is none."
            }
        }
    }
}

/// A peg of the lane.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WalkPeg {
    /// The peg.
    pub peg: Peg,
    /// Name for people.
    pub label: &'static str,
    /// What a disc on it does.
    pub meaning: &'static str,
    /// Whether this lane wants it filled at this arm.
    pub wanted: bool,
    /// Why not, where the player's school would have it but this arm has no use for it.
    pub why_not: Option<String>,
    /// The line that asks for it.
    pub line_key: String,
    /// Carried discs of the lane on it.
    pub disc_ids: Vec<DiscId>,
}

/// A disc of the lane and where it sits.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WalkDisc {
    /// The disc.
    pub disc_id: DiscId,
    /// The peg it sits on, if it fills one.
    pub peg: Option<Peg>,
    /// Whether the lane has no disc on that peg yet.
    pub fills: bool,
    /// What the player's school has against it.
    pub objections: Vec<Objection>,
}

/// One lane of the walk.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WalkLane {
    /// Which.
    pub step: WalkStep,
    /// Name for people.
    pub label: &'static str,
    /// What to think of.
    pub question: &'static str,
    /// The lane of the board that it is, or is a part of.
    pub slot: Slot,
    /// Its pegs, the most stable first; none for putting and special jobs.
    pub pegs: Vec<WalkPeg>,
    /// Carried discs.
    pub here: Vec<WalkDisc>,
    /// Discs of the shelf that could be carried, those first that fill an empty peg, those last that the school would not carry.
    pub shelf: Vec<WalkDisc>,
    /// The lines that ask for its discs.
    pub line_keys: Vec<String>,
}

/// The bag laid out lane by lane.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Walk {
    /// The lanes, slow first or fast first as the player goes about it.
    pub lanes: Vec<WalkLane>,
    /// The putting set.
    pub putting: PuttingSet,
}

/// Lays a bag out.
///
/// # Errors
/// [`BagError`] for a player or disc outside their ranges.
pub fn walk(q: &Question) -> Result<Walk, BagError> {
    let usual = Conditions::default();
    let board = board(q.player, &usual, None, q.shelf, q.carried)?;
    let arm = Arm::of(q.player, &usual)?;
    let all: Vec<(&Disc, bool)> = q.shelf.iter().map(|d| (d, false)).collect();
    let flown = pucks(q.player, &arm, q.player.strong_style, arm.wind, &all)?;
    let mut lanes: Vec<WalkLane> =
        WalkStep::ALL.into_iter().map(|step| lane(q, &board, &flown, step)).collect();
    if q.player.habits.fast_first {
        lanes.reverse();
    }
    Ok(Walk { lanes, putting: putting_set(q.player.habits.putting, q.shelf, q.carried) })
}

fn lane(q: &Question, board: &Board, flown: &[Puck], step: WalkStep) -> WalkLane {
    let slot = q.player.lane(step.slot());
    let of = |d: &Disc| WalkStep::of_disc(d.spec.slot(), d.spec.used_for) == step;
    let carried = |id: DiscId| q.carried.iter().any(|c| c.disc_id == id);
    let discs: Vec<(&Disc, &Puck)> = q.shelf.iter().zip(flown).filter(|(d, _)| of(d)).collect();
    let is_pegged = !matches!(step, WalkStep::PuttingSet | WalkStep::Utility);
    let sockets = board.lanes.iter().filter(|l| l.slot == slot && is_pegged).flat_map(|l| &l.sockets);
    let mut walk_pegs: Vec<WalkPeg> = sockets
        .map(|s| WalkPeg {
            peg: s.peg,
            label: s.label,
            meaning: s.meaning,
            wanted: s.wanted,
            why_not: s.why_not.clone(),
            line_key: peg_line_key(slot, s.peg),
            disc_ids: s.disc_ids.clone(),
        })
        .collect();
    walk_pegs.sort_by_key(|p| p.peg);
    let walk_disc = |&(d, puck): &(&Disc, &Puck)| WalkDisc {
        disc_id: d.id,
        peg: puck.peg,
        fills: walk_pegs.iter().any(|p| Some(p.peg) == puck.peg && p.wanted && p.disc_ids.is_empty()),
        objections: objections(q.player, d, puck.bend.finish_deg),
    };
    let here = discs.iter().filter(|(d, _)| carried(d.id)).map(walk_disc).collect();
    let free = |(d, _): &&(&Disc, &Puck)| {
        !carried(d.id) && d.spec.keeping.status.is_at_hand() && q.bag.allows(&d.spec)
    };
    let mut shelf: Vec<WalkDisc> = discs.iter().filter(free).map(walk_disc).collect();
    shelf.sort_by_key(|d| (d.objections.iter().any(|o| o.firm), !d.fills));
    let line_keys = q
        .lines
        .iter()
        .filter(|l| l.enabled && WalkStep::of_line(q.player, &l.spec) == step)
        .map(|l| l.key.clone())
        .collect();
    WalkLane {
        step,
        label: step.label(),
        question: step.question(),
        slot,
        pegs: walk_pegs,
        here,
        shelf,
        line_keys,
    }
}
