//! What a flight passes on its way: openings to get through, and what stands in the way to get round.

use zinc_kite_flight::outcome::MAX_GATES;

use crate::need::area::Area;
use crate::need::limits::Miss;
use crate::need::line::{BASKET_FOOT_M, Gate, Landing, LineSpec};
use crate::need::thing::{Side, Thing};

/// Chains of a basket: half their width and their upper end above the ground, m. Own judgement of what catches, from
/// memory of the sport's usual basket.
const CHAINS_HALF_M: f32 = 0.25;
const CHAINS_TOP_M: f32 = 1.35;
/// How much a metre at the chains counts against one in a fairway, for ranking near misses only: a hand's breadth there is
/// what a step is in a fairway.
pub(crate) const CHAINS_SCALE: f32 = 6.0;
/// How much a metre of height counts against one on the ground, for ranking near misses only: throws differ much less in how
/// high they pass than in where.
pub(crate) const HEIGHT_SCALE: f32 = 3.0;
/// Half the width of a trunk, m. Own judgement.
const TRUNK_M: f64 = 0.3;
/// Wood and roofs are watched at places so far apart, m, as near as there are gates for; a little inside their ends.
const SPACINGS_M: [f64; 12] = [3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0, 30.0, 50.0, 400.0];
const INSIDE_M: f64 = 0.1;
/// Places nearer to one another than this, m, are watched as one.
const SAME_PLACE_M: f64 = 0.01;

/// A part of a plane across the line, heights from where the flight's own count: to be passed, or not to be hit.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Opening {
    /// Which gate of the simulator's.
    pub plane: usize,
    pub at_m: f32,
    right_m: f32,
    left_m: f32,
    top_m: f32,
    foot_m: f32,
    scale: f32,
    height_scale: f32,
    /// Beside, above and below; of something solid the first alone.
    pub misses: [Miss; 3],
    pub is_chains: bool,
    pub is_solid: bool,
    /// Whether a disc that never gets so far has missed: gates stand before the target, all else wherever it is.
    pub must_be_reached: bool,
}

/// From side to side and from the ground up, to be narrowed.
const WIDE: Opening = Opening {
    plane: 0,
    at_m: 0.0,
    right_m: f32::NEG_INFINITY,
    left_m: f32::INFINITY,
    top_m: f32::INFINITY,
    foot_m: f32::NEG_INFINITY,
    scale: 1.0,
    height_scale: HEIGHT_SCALE,
    misses: [Miss::Gate, Miss::Ceiling, Miss::Low],
    is_chains: false,
    is_solid: false,
    must_be_reached: true,
};

impl Opening {
    fn of(gate: &Gate) -> Opening {
        Opening {
            at_m: gate.at_m as f32,
            right_m: gate.right_edge_m as f32,
            left_m: gate.left_edge_m as f32,
            top_m: gate.ceiling_m.map_or(f32::INFINITY, |c| c as f32),
            foot_m: gate.floor_m.map_or(f32::NEG_INFINITY, |f| f as f32),
            ..WIDE
        }
    }

    fn chains(at_m: f64) -> Opening {
        Opening {
            at_m: at_m as f32,
            right_m: -CHAINS_HALF_M,
            left_m: CHAINS_HALF_M,
            top_m: CHAINS_TOP_M,
            foot_m: BASKET_FOOT_M as f32,
            scale: CHAINS_SCALE,
            height_scale: CHAINS_SCALE,
            misses: [Miss::Wide, Miss::Over, Miss::Under],
            is_chains: true,
            ..WIDE
        }
    }

    fn solid(at_m: f64, [right_m, left_m]: [f32; 2], [foot_m, top_m]: [f64; 2], miss: Miss) -> Opening {
        let (foot_m, top_m) = (foot_m as f32, top_m as f32);
        Opening {
            at_m: at_m as f32,
            right_m,
            left_m,
            foot_m: if foot_m > 0.0 { foot_m } else { f32::NEG_INFINITY },
            top_m,
            misses: [miss; 3],
            is_solid: true,
            must_be_reached: false,
            ..WIDE
        }
    }

    fn tree(at_m: f64, left_m: f64, crown_m: f64, foot_m: f64, top_m: f64) -> Vec<Opening> {
        let about = |half: f64| [(left_m - half) as f32, (left_m + half) as f32];
        let crown = Opening::solid(at_m, about(crown_m), [foot_m, top_m], Miss::Tree);
        let trunk = Opening::solid(at_m, about(TRUNK_M), [0.0, foot_m], Miss::Tree);
        if foot_m > 0.0 { vec![crown, trunk] } else { vec![crown] }
    }

    fn mandatory(at_m: f64, left_m: f64, pass: Side) -> Opening {
        let post = left_m as f32;
        let (right_m, left_m) = match pass {
            Side::Left => (post, f32::INFINITY),
            Side::Right => (f32::NEG_INFINITY, post),
        };
        let at_m = at_m as f32;
        Opening { at_m, right_m, left_m, misses: [Miss::Mandatory; 3], must_be_reached: false, ..WIDE }
    }

    /// Whether height matters.
    pub(crate) fn is_bounded(&self) -> bool {
        self.top_m < f32::INFINITY || self.foot_m > f32::NEG_INFINITY
    }

    /// What a metre counts there, for ranking near misses.
    #[inline(always)]
    pub(crate) fn scale(&self) -> f32 {
        self.scale
    }

    /// What a metre of height counts there, for ranking near misses.
    pub(crate) fn height_scale(&self) -> f32 {
        self.height_scale
    }

    /// Room to the left and to the right edge of an opening, m, less what chains ask for `held` (as they count it).
    #[inline(always)]
    pub(crate) fn edges(&self, y_m: f32, held: f32) -> [f32; 2] {
        let held_m = held / self.scale;
        [self.left_m - y_m - held_m, y_m - self.right_m - held_m]
    }

    /// Room beside, above and below, m as it counts for ranking near misses: negative outside an opening, and inside what is
    /// solid, round which the greatest of them leads.
    #[inline(always)]
    pub(crate) fn room(&self, y_m: f32, z_m: f32) -> [f32; 3] {
        let (left, right) = (self.left_m - y_m, y_m - self.right_m);
        let beside = self.scale * if right < left { right } else { left };
        let (above, below) =
            (self.height_scale * (self.top_m - z_m), self.height_scale * (z_m - self.foot_m));
        if self.is_solid { [-beside, -above, -below] } else { [beside, above, below] }
    }
}

/// Every opening of a line, the nearest first, and the places of the simulator's gates, m.
pub(crate) fn openings(line: &LineSpec) -> (Vec<Opening>, Vec<f64>) {
    let floor_m = line.floor_m() as f32;
    let mut openings: Vec<Opening> = line.gates.iter().map(Opening::of).collect();
    if line.landing == Landing::Basket {
        openings.push(Opening::chains(line.distance_m));
    }
    for thing in &line.things {
        match thing {
            Thing::Tree { at_m, left_m, crown_m, foot_m, top_m } => {
                openings.extend(Opening::tree(*at_m, *left_m, *crown_m, *foot_m, *top_m));
            }
            Thing::Mandatory { at_m, left_m, pass } => {
                openings.push(Opening::mandatory(*at_m, *left_m, *pass));
            }
            Thing::Wood { .. } | Thing::Roof { .. } | Thing::Hazard { .. } => {}
        }
    }
    openings.extend(watched(line, planes(&openings).len()));
    for opening in &mut openings {
        (opening.top_m, opening.foot_m) = (opening.top_m - floor_m, opening.foot_m - floor_m);
    }
    openings.sort_by(|a, b| a.at_m.total_cmp(&b.at_m));
    let planes = planes(&openings);
    for opening in &mut openings {
        opening.plane = planes.iter().position(|at| same(*at, opening.at_m)).unwrap_or(0);
    }
    (openings, planes.into_iter().map(f64::from).collect())
}

fn same(a: f32, b: f32) -> bool {
    f64::from((a - b).abs()) < SAME_PLACE_M
}

fn planes(openings: &[Opening]) -> Vec<f32> {
    let mut planes: Vec<f32> = Vec::new();
    for opening in openings {
        if !planes.iter().any(|at| same(*at, opening.at_m)) {
            planes.push(opening.at_m);
        }
    }
    planes
}

/// What has length along the line: where it begins and ends, and what of it stands at a place between.
struct Stretch<'a> {
    from_m: f64,
    to_m: f64,
    at: Box<dyn Fn(f64) -> Vec<Opening> + 'a>,
}

/// Wood and roofs, at as many places as the simulator has gates left.
fn watched(line: &LineSpec, taken: usize) -> Vec<Opening> {
    let stretches: Vec<Stretch> = line.things.iter().filter_map(stretch).collect();
    let places = |s: &Stretch, spacing: f64| ((s.to_m - s.from_m) / spacing).ceil().max(1.0) as usize + 1;
    let fits =
        |spacing: &&f64| taken + stretches.iter().map(|s| places(s, **spacing)).sum::<usize>() <= MAX_GATES;
    let spacing = SPACINGS_M.iter().find(fits).copied().unwrap_or(f64::INFINITY);
    let stands = |s: &Stretch| {
        let n = places(s, spacing);
        let at = |k: usize| s.from_m + (s.to_m - s.from_m) * k as f64 / (n - 1) as f64;
        (0..n).flat_map(|k| (s.at)(at(k))).collect::<Vec<_>>()
    };
    stretches.iter().flat_map(stands).collect()
}

fn stretch(thing: &Thing) -> Option<Stretch<'_>> {
    match thing {
        Thing::Wood { area, top_m } => {
            let area = Area::of(area);
            let (from, to) = area.reach();
            let from_m = (f64::from(from) + INSIDE_M).max(INSIDE_M);
            let across = move |at: f64| {
                let here = area.across(at as f32).into_iter();
                here.map(|(right, left)| Opening::solid(at, [right, left], [0.0, *top_m], Miss::Wood))
                    .collect()
            };
            let to_m = f64::from(to) - INSIDE_M;
            (to_m > from_m).then(|| Stretch { from_m, to_m, at: Box::new(across) })
        }
        Thing::Roof { from_m, to_m, under_m } => {
            let top_m = *under_m as f32;
            let over =
                move |at: f64| vec![Opening { at_m: at as f32, top_m, must_be_reached: false, ..WIDE }];
            Some(Stretch { from_m: *from_m, to_m: *to_m, at: Box::new(over) })
        }
        Thing::Tree { .. } | Thing::Mandatory { .. } | Thing::Hazard { .. } => None,
    }
}
