//! The board: every carried disc where it really finishes, the pegs it fills, and its twins.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::air::Wind;
use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::dynamics::Throw;

use crate::catalogue::reference::{Family, wanted};
use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::{Disc, DiscId, Numbers, Use};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::need::peg::{Bend, Peg, bend};
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::player::Player;
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;
use crate::verdict::carried::Carried;
use crate::verdict::ledger::total;
use crate::verdict::school::{moulds, moulds_strokes};
use crate::verdict::twin::{TWIN_OVERLAP, clouds, overlap};

/// A disc on the board.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Puck {
    /// The disc.
    pub disc_id: DiscId,
    /// Its name.
    pub name: String,
    /// Mould.
    pub mould: String,
    /// Colour as #rrggbb.
    pub colour: String,
    /// Numbers as thrown today.
    pub numbers: Numbers,
    /// Share of all possible wear, 0 to 1.
    pub wear_share: f64,
    /// What it is carried for.
    pub used_for: Use,
    /// The only styles it is kept for; none named means all.
    pub kept_for: Vec<Style>,
    /// Spare on purpose.
    pub spare: bool,
    /// Its bend today.
    pub bend: Bend,
    /// Where it finishes seen from the tee, degrees, true left positive.
    pub finish_left_deg: f64,
    /// Where it swings to at the most before that, degrees, true left positive.
    pub swing_left_deg: f64,
    /// Distance today, m.
    pub distance_m: f64,
    /// Greatest height, m.
    pub apex_m: f64,
    /// The peg it sits on today; none for discs that are only putted with, do special jobs or are kept for other styles.
    pub peg: Option<Peg>,
}

/// A place for a disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Socket {
    /// The peg.
    pub peg: Peg,
    /// Name for people.
    pub label: &'static str,
    /// What a disc on it does.
    pub meaning: &'static str,
    /// Left end of its window, degrees, true left positive.
    pub left_deg: f64,
    /// Right end.
    pub right_deg: f64,
    /// Whether this slot wants it filled.
    pub wanted: bool,
    /// Why not, where the player's school would have it but this arm has no use for it.
    pub why_not: Option<String>,
    /// Discs on it.
    pub disc_ids: Vec<DiscId>,
}

/// Two discs that this player cannot tell apart.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct TwinPair {
    /// One.
    pub a: DiscId,
    /// The other.
    pub b: DiscId,
    /// Overlap of their clouds, 0 to 1.
    pub overlap: f64,
    /// Whether one of them is marked as spare.
    pub on_purpose: bool,
}

/// One slot of the board.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Lane {
    /// The slot.
    pub slot: Slot,
    /// Name for people.
    pub label: &'static str,
    /// Pegs from left to right as the player sees them.
    pub sockets: Vec<Socket>,
    /// Discs, left to right.
    pub pucks: Vec<Puck>,
    /// Twins among them.
    pub twins: Vec<TwinPair>,
}

/// The whole board.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Board {
    /// Today.
    pub conditions: Conditions,
    /// Style in which everything on the board is thrown.
    pub style: Style,
    /// +1 where the natural finish is to the left, −1 to the right.
    pub natural_side: f64,
    /// Half of the board's width, degrees.
    pub edge_deg: f64,
    /// Full arm speed in this style, m/s.
    pub arm_m_s: f64,
    /// Mass of all that is carried, g.
    pub mass_g: f64,
    /// How many moulds it is of.
    pub moulds: usize,
    /// What these cost in a round by the player's own dial, strokes.
    pub moulds_strokes: f64,
    /// Lanes, slow at the top.
    pub lanes: Vec<Lane>,
}

impl Board {
    /// All pucks.
    pub fn pucks(&self) -> impl Iterator<Item = &Puck> {
        self.lanes.iter().flat_map(|l| &l.pucks)
    }

    /// The puck of a disc.
    pub fn puck(&self, id: DiscId) -> Option<&Puck> {
        self.pucks().find(|p| p.disc_id == id)
    }
}

/// A puck for every given disc, thrown flat at full controlled power.
///
/// # Errors
/// [`BagError`] for a disc outside its ranges.
pub fn pucks(
    player: &Player,
    arm: &Arm,
    style: Style,
    wind: Wind,
    discs: &[(&Disc, bool)],
) -> Result<Vec<Puck>, BagError> {
    let mut throws = Vec::with_capacity(discs.len());
    for (disc, _) in discs {
        let t = thrown(disc)?;
        let release = arm.release(style, t.speed, 1.0);
        throws.push(Throw { disc: t.body, release, wind });
    }
    let side = arm.natural_side(style);
    let flights = fly_with_paths(&throws, &arm.air);
    let puck = |(disc, spare): &(&Disc, bool), flight: &(_, Vec<_>)| {
        let (outcome, path): &(zinc_kite_flight::outcome::Outcome, Vec<_>) = flight;
        let bend = bend(outcome, path, side);
        let sum = as_thrown(&disc.spec);
        Puck {
            disc_id: disc.id,
            name: disc.spec.name.clone(),
            mould: disc.spec.mould.clone(),
            colour: disc.spec.colour.clone(),
            numbers: sum.result,
            wear_share: sum.wear_share,
            used_for: disc.spec.used_for,
            kept_for: disc.spec.keeping.kept_for.clone(),
            spare: *spare,
            bend,
            finish_left_deg: side * bend.finish_deg,
            swing_left_deg: -side * bend.swing_deg,
            distance_m: outcome.distance_m(),
            apex_m: outcome.apex_m,
            peg: (disc.spec.used_for == Use::Throwing && disc.spec.keeping.answers(style))
                .then(|| Peg::of(bend, player.school_of(disc.spec.slot()))),
        }
    };
    Ok(discs.iter().zip(&flights).map(|(d, f)| puck(d, f)).collect())
}

/// Pegs are wanted in the player's strong style: that is the one whose lines ask for them.
fn sockets(player: &Player, arm: &Arm, style: Style, slot: Slot, pucks: &[Puck]) -> Vec<Socket> {
    if slot == Slot::Utility {
        return vec![];
    }
    let side = arm.natural_side(style);
    let school = player.school_of(slot);
    let (wanted, unwanted) = match style == player.strong_style {
        true => wanted(&Family::of(arm, style, slot), school),
        false => (vec![], vec![]),
    };
    let mut sockets: Vec<Socket> = Peg::of_school(school)
        .iter()
        .map(|&peg| {
            let (least, most) = peg.window_deg(school);
            let (a, b) = (side * least, side * most);
            Socket {
                peg,
                label: peg.label(),
                meaning: peg.meaning(),
                left_deg: a.max(b),
                right_deg: a.min(b),
                wanted: wanted.contains(&peg),
                why_not: unwanted.iter().find(|u| u.peg == peg).map(|u| u.reason.clone()),
                disc_ids: pucks.iter().filter(|p| p.peg == Some(peg)).map(|p| p.disc_id).collect(),
            }
        })
        .collect();
    sockets.sort_by(|a, b| b.left_deg.total_cmp(&a.left_deg));
    sockets
}

fn twins(arm: &Arm, style: Style, discs: &[&Disc], carried: &[Carried]) -> Vec<TwinPair> {
    let is_spare = |id| carried.iter().any(|c| c.disc_id == id && c.spare);
    let thrown: Vec<(DiscId, Thrown)> = discs
        .iter()
        .filter(|d| d.spec.used_for == Use::Throwing)
        .filter_map(|d| Some((d.id, thrown(d).ok()?)))
        .collect();
    let flown: Vec<_> = thrown.par_iter().map(|(id, t)| (*id, clouds(arm, *t, style))).collect();
    let mut pairs = Vec::new();
    for (k, (a, cloud_a)) in flown.iter().enumerate() {
        for (b, cloud_b) in &flown[k + 1..] {
            let overlap = overlap(cloud_a, cloud_b);
            if overlap >= TWIN_OVERLAP {
                let on_purpose = is_spare(*a) || is_spare(*b);
                pairs.push(TwinPair { a: *a, b: *b, overlap, on_purpose });
            }
        }
    }
    pairs.sort_by(|x, y| y.overlap.total_cmp(&x.overlap));
    pairs
}

/// What is carried.
fn packed<'a>(shelf: &'a [Disc], carried: &[Carried]) -> impl Iterator<Item = &'a Disc> {
    shelf.iter().filter(|d| carried.iter().any(|c| c.disc_id == d.id))
}

/// Mass of all that is carried, g.
pub(crate) fn mass_g(shelf: &[Disc], carried: &[Carried]) -> f64 {
    total(packed(shelf, carried).map(|d| d.spec.mass_g))
}

/// How many moulds are carried.
pub(crate) fn moulds_of(shelf: &[Disc], carried: &[Carried]) -> usize {
    moulds(packed(shelf, carried))
}

/// Sets the board: all carried discs in the player's strong style (or `style` if given) in today's conditions.
///
/// # Errors
/// [`BagError`] for a player, disc or conditions outside their ranges.
pub fn board(
    player: &Player,
    conditions: &Conditions,
    style: Option<Style>,
    shelf: &[Disc],
    carried: &[Carried],
) -> Result<Board, BagError> {
    let arm = Arm::of(player, conditions)?;
    let style = style.unwrap_or(player.strong_style);
    style.drives("style")?;
    let side = arm.natural_side(style);
    let mut lanes = Vec::new();
    for slot in player.lanes() {
        let discs: Vec<(&Disc, bool)> = shelf
            .iter()
            .filter(|d| player.lane(d.spec.slot()) == slot)
            .filter_map(|d| {
                let c = carried.iter().find(|c| c.disc_id == d.id)?;
                Some((d, c.spare))
            })
            .collect();
        let mut pucks = pucks(player, &arm, style, arm.wind, &discs)?;
        pucks.sort_by(|a, b| b.finish_left_deg.total_cmp(&a.finish_left_deg));
        let only: Vec<&Disc> = discs.iter().map(|d| d.0).collect();
        lanes.push(Lane {
            slot,
            label: slot.label(),
            sockets: sockets(player, &arm, style, slot, &pucks),
            twins: if slot == Slot::Utility { vec![] } else { twins(&arm, style, &only, carried) },
            pucks,
        });
    }
    let moulds = moulds_of(shelf, carried);
    Ok(Board {
        conditions: *conditions,
        style,
        natural_side: side,
        edge_deg: crate::need::peg::BOARD_EDGE_DEG,
        arm_m_s: arm.speed_m_s(style),
        mass_g: mass_g(shelf, carried),
        moulds,
        moulds_strokes: moulds_strokes(player, moulds),
        lanes,
    })
}
