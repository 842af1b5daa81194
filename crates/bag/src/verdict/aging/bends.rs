//! Where a disc finishes at every share of wear, and on which peg that is.

use zinc_kite_flight::batch::fly_with_paths;
use zinc_kite_flight::dynamics::Throw;

use crate::disc::spec::{Disc, Use};
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::need::peg::{Bend, Peg, bend};
use crate::thrower::arm::Arm;
use crate::thrower::player::{Player, School};

/// Shares of wear at which a disc is flown: between them its bend is drawn straight.
const STEPS: usize = 20;
/// Grain in which a change of peg is looked for before it is narrowed down.
const GRAINS: usize = 200;
/// A disc beyond this share of wear is as worn as it gets.
pub(super) const WORN_OUT: f64 = 0.97;

/// How a disc bends as it wears, thrown flat at full controlled power in the player's strong style on a usual calm day.
#[derive(Debug, Clone)]
pub(crate) struct Bends {
    at: Vec<Bend>,
    school: School,
    has_peg: bool,
}

impl Bends {
    /// Of some discs at once.
    ///
    /// # Errors
    /// [`BagError`] for a disc outside its ranges.
    pub(super) fn of(player: &Player, arm: &Arm, discs: &[&Disc]) -> Result<Vec<Bends>, BagError> {
        let style = player.strong_style;
        let mut throws = Vec::with_capacity(discs.len() * (STEPS + 1));
        for disc in discs {
            for k in 0..=STEPS {
                let worn = Disc { id: disc.id, spec: disc.spec.worn_to(share_of(k)) };
                let t = thrown(&worn)?;
                throws.push(Throw {
                    disc: t.body,
                    release: arm.release(style, t.speed, 1.0),
                    wind: arm.wind,
                });
            }
        }
        let side = arm.natural_side(style);
        let flights = fly_with_paths(&throws, &arm.air);
        let of = |(disc, flown): (&&Disc, &[_])| Bends {
            at: never_back(flown.iter().map(|(outcome, path): &(_, Vec<_>)| bend(outcome, path, side))),
            school: player.school_of(disc.spec.slot()),
            has_peg: disc.spec.used_for == Use::Throwing && disc.spec.keeping.answers(style),
        };
        Ok(discs.iter().zip(flights.chunks(STEPS + 1)).map(of).collect())
    }

    /// The bend at a share of wear.
    pub(super) fn at(&self, share: f64) -> Bend {
        let place = share.clamp(0.0, WORN_OUT) / WORN_OUT * STEPS as f64;
        let below = (place.floor() as usize).min(STEPS - 1);
        let (a, b, part) = (self.at[below], self.at[below + 1], place - below as f64);
        let between = |a: f64, b: f64| a + part * (b - a);
        Bend { finish_deg: between(a.finish_deg, b.finish_deg), swing_deg: between(a.swing_deg, b.swing_deg) }
    }

    /// The peg at a share of wear; `None` for a disc that fills none.
    pub(super) fn peg(&self, share: f64) -> Option<Peg> {
        self.has_peg.then(|| Peg::of(self.at(share), self.school))
    }

    /// The first share beyond `from` at which something holds of the peg, if there is one.
    fn first(&self, from: f64, holds: impl Fn(Peg) -> bool) -> Option<f64> {
        let on = |share: f64| self.peg(share).is_some_and(&holds);
        let grain = |k: usize| from + (WORN_OUT - from) * k as f64 / GRAINS as f64;
        let k = (0..=GRAINS).find(|&k| on(grain(k)))?;
        if k == 0 {
            return Some(from);
        }
        let (mut not_yet, mut yes) = (grain(k - 1), grain(k));
        for _ in 0..20 {
            let middle = 0.5 * (not_yet + yes);
            if on(middle) { yes = middle } else { not_yet = middle }
        }
        Some(yes)
    }

    /// The share of wear at which a disc leaves the peg it has at another, and the peg it comes to.
    pub(super) fn leaves(&self, share: f64) -> Option<(f64, Peg)> {
        let now = self.peg(share)?;
        let at = self.first(share, |peg| peg != now)?;
        Some((at, self.peg(at)?))
    }

    /// The least wear from a share on at which a disc sits on a peg.
    pub(super) fn comes_to(&self, share: f64, wanted: Peg) -> Option<f64> {
        self.first(share, |peg| peg == wanted)
    }
}

/// Wear makes no disc more stable: what glide it first gains turns a very overstable one by a tenth of a degree, which is left out.
fn never_back(bends: impl Iterator<Item = Bend>) -> Vec<Bend> {
    let mut least = f64::INFINITY;
    bends
        .map(|bend| {
            least = least.min(bend.finish_deg);
            Bend { finish_deg: least, ..bend }
        })
        .collect()
}

/// The k-th share of wear that is flown.
fn share_of(k: usize) -> f64 {
    WORN_OUT * k as f64 / STEPS as f64
}
