//! Rounds played hole by hole with the player's scatter: how far they spread about the mean.

use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use serde::Serialize;
use utoipa::ToSchema;

use crate::plan::round::hole::{End, Left};
use crate::plan::round::left::{Next, StrokesLeft};

/// Rounds that are played.
pub const ROUNDS: usize = 20_000;
/// No hole takes more throws than this after the first: a player in such trouble is taken to pick up.
const MOST_THROWS: u32 = 30;
/// The same rounds every time.
const SEED: u64 = 0x5a4b;

/// How played rounds come out.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Rounds {
    /// How many were played.
    pub played: usize,
    /// Strokes in the mean.
    pub mean: f64,
    /// Their standard deviation.
    pub spread: f64,
    /// Of ten rounds one is this or better.
    pub good: u32,
    /// Half of them are this or better.
    pub usual: u32,
    /// Of ten rounds nine are this or better.
    pub bad: u32,
    /// Share of rounds at par or better, 0 to 1.
    pub at_par: f64,
}

/// Plays rounds over holes, each told by where its first throws end and what is left there.
pub(super) fn rounds(holes: &[(&[End], &Left)], par: u32) -> Rounds {
    let mut random = StdRng::seed_from_u64(SEED);
    let mut draw = || random.random::<f64>();
    let mut totals: Vec<u32> =
        (0..ROUNDS).map(|_| holes.iter().map(|(ends, left)| strokes(ends, left, &mut draw)).sum()).collect();
    totals.sort_unstable();
    let n = totals.len() as f64;
    let mean = totals.iter().map(|t| f64::from(*t)).sum::<f64>() / n;
    let variance = totals.iter().map(|t| (f64::from(*t) - mean).powi(2)).sum::<f64>() / n;
    let share = |share: f64| totals[((share * n) as usize).min(totals.len() - 1)];
    Rounds {
        played: totals.len(),
        mean,
        spread: variance.sqrt(),
        good: share(0.1),
        usual: share(0.5),
        bad: share(0.9),
        at_par: totals.partition_point(|t| *t <= par) as f64 / n,
    }
}

/// One hole: its first throw, and what follows.
fn strokes(ends: &[End], left: &Left, draw: &mut impl FnMut() -> f64) -> u32 {
    let end = ends[((draw() * ends.len() as f64) as usize).min(ends.len() - 1)];
    // A penalty of a part of a stroke is one as often.
    let first = (1.0 + end.penalty + draw()).floor() as u32;
    let Some(left_m) = end.left_m else { return first };
    first + from_there(left.table(draw()), left_m, draw)
}

fn from_there(table: &StrokesLeft, left_m: f64, draw: &mut impl FnMut() -> f64) -> u32 {
    let mut at_m = left_m;
    for thrown in 1..MOST_THROWS {
        match table.next(at_m, draw(), draw()) {
            Next::Holed => return thrown,
            Next::At(m) => at_m = m,
            Next::Lost(strokes) => return thrown - 1 + strokes,
        }
    }
    MOST_THROWS
}
