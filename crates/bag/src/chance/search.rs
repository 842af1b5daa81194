//! The search for the release with which a disc makes a line most often.
//!
//! A table of where the disc lands over power, hyzer and launch gives every shape of throw that reaches the target. The shapes
//! whose own flight passes with most room are flown with a few throws of real scatter; the best of these, some of them far from the
//! others, with more. A local model of that cloud ([`crate::chance::response`]) says in which direction of power, hyzer, launch,
//! nose and aim it would do better; there it is flown and modelled again, and the best of all moved on. What comes
//! of that is flown at fresh points ([`JUDGED_ON`]) and moved by these as long as there is something to gain: what a chance is
//! told by also says where it is best, or a line with more room would often seem harder by what two sets of a few points differ. A
//! quadratic that leaves out what bends otherwise can seem level where the ground still rises: some of the throws are flown a little
//! way off along each way, and what they do beyond what it says is added to its slopes. All points are of one fixed low-discrepancy
//! set that serves every disc and line, so that chances compare and repeat exactly. How near this comes to an exhaustive search is
//! tested.

use std::cell::OnceCell;
use std::sync::Arc;

use quick_cache::sync::Cache;
use zinc_kite_flight::air::Air;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::scatter::{AIM, deviates};

use crate::chance::answer::{Chance, Chosen, JUDGED_ON, NoRelease};
use crate::chance::memo::{Fingerprint, Memo};
use crate::chance::points::ALL;
use crate::chance::reach::Grain::{self, Coarse, Fine};
use crate::chance::reach::Reach;
use crate::chance::shot::{Centre, LIKELY, Shot, shot};
use crate::chance::stages::{Flown, GLIMPSED, Look, Tried};
use crate::disc::thrown::Thrown;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;

/// Discs whose rooms are found together: enough to fill most lanes, few enough for their flights to stay in the processor's cache.
const TOGETHER: usize = 8;

/// What is known under a key, or else what `work_out` finds, which is known from then on.
fn remembered<T: Clone>(memory: &Cache<u64, T>, key: u64, work_out: impl FnOnce() -> T) -> T {
    memory.get(&key).unwrap_or_else(|| {
        let found = work_out();
        memory.insert(key, found.clone());
        found
    })
}

/// A disc on a line at an arm, asked ever more closely how well it does there: what one answer took serves the next, and
/// every answer is remembered.
pub struct Prospect<'a> {
    shot: Shot<'a>,
    /// Its fingerprint, and that of its tables but for their grain.
    key: u64,
    table_key: Fingerprint,
    memo: &'a Memo,
    coarse: View,
    fine: View,
    glimpsed: OnceCell<Vec<Look>>,
    first: OnceCell<Tried>,
    improved: OnceCell<Vec<Centre>>,
    found: OnceCell<Flown<ALL>>,
}

/// What comes of a table, as far as it was asked for.
#[derive(Default)]
struct View {
    reach: OnceCell<Arc<Reach>>,
    centres: OnceCell<Result<Vec<Centre>, NoRelease>>,
    looks: OnceCell<Vec<Look>>,
}

impl<'a> Prospect<'a> {
    /// Before anything is flown.
    pub fn of(arm: &'a Arm, thrown: Thrown, line: &'a LineSpec, memo: &'a Memo) -> Prospect<'a> {
        let (coarse, fine, glimpsed, first) = Default::default();
        let (improved, found) = Default::default();
        let shot = shot(arm, thrown, line);
        let table_key = shot.table_key();
        let key = shot.line_key(table_key.clone());
        Prospect { key, table_key, shot, memo, coarse, fine, glimpsed, first, improved, found }
    }

    /// Finds the rooms of discs on one line at one arm, some at a time together, for [`Prospect::room_m`] to tell: it takes less time.
    pub fn find_rooms<'p>(prospects: impl Iterator<Item = &'p Prospect<'a>>)
    where
        'a: 'p,
    {
        let unknown = |it: &&Prospect| it.too_fast().is_none() && it.memo.rooms.get(&it.key).is_none();
        let unknown: Vec<&Prospect> = prospects.filter(unknown).collect();
        for some in unknown.chunks(TOGETHER) {
            let is_new = |it: &&Prospect| it.memo.reaches.get(&it.reach_key(Coarse)).is_none();
            let new: Vec<&Prospect> = some.iter().copied().filter(is_new).collect();
            let shots: Vec<&Shot> = new.iter().map(|it| &it.shot).collect();
            for (it, table) in new.iter().zip(Shot::coarse_reaches(&shots)) {
                it.memo.reaches.insert(it.reach_key(Coarse), Arc::new(table));
            }
            let tables: Vec<(&Shot, &Reach)> = some.iter().map(|it| (&it.shot, it.reach(Coarse))).collect();
            for (it, roomiest) in some.iter().zip(Shot::roomiest_of(&tables)) {
                it.coarse.centres.get_or_init(|| roomiest);
            }
        }
    }

    /// Room (m as it counts for ranking near misses) of the best single flight of the coarse table, scatter left aside: a cheap
    /// forecast of how discs rank by chance. `None` if the disc does not reach the line.
    pub fn room_m(&self) -> Option<f64> {
        self.remembered(&self.memo.rooms, |it| Some(it.centres(Coarse).as_ref().ok()?.first()?.score))
    }

    /// A closer forecast of how discs rank by chance, 0 to 1 and less where the disc comes nowhere near: from the first few throws of
    /// its scatter about the roomiest shapes of the coarse table. `None` if the disc does not reach the line.
    pub fn glimpse(&self) -> Option<f64> {
        self.remembered(&self.memo.glimpses, |it| Some(it.glimpsed().first()?.centred.score))
    }

    /// How well the disc promises to do: the same about each shape of that table. `None` if the disc does not reach the line.
    pub fn promise(&self) -> Option<f64> {
        self.remembered(&self.memo.promises, |it| Some(it.looks(Coarse).first()?.centred.score))
    }

    /// A forecast closer again: of the most promising shape of the coarse table after it was improved by a few throws more, 0 to 1 and
    /// less where it comes nowhere near. `None` if the disc does not reach the line.
    pub fn hope(&self) -> Option<f64> {
        self.remembered(&self.memo.hopes, |it| Some(it.first().improved.first()?.score))
    }

    /// What the chance will be, near enough, 0 to 1 and less where the disc comes nowhere near: the best of that shape and of some of
    /// the fine table, improved so. `None` if the disc does not reach the line.
    pub fn forecast(&self) -> Option<f64> {
        self.remembered(&self.memo.forecasts, |it| Some(it.improved().first()?.score))
    }

    /// What the chance is but for its last steps, 0 to 1 and less where the disc comes nowhere near. `None` if the disc does not
    /// reach the line.
    pub fn nearly(&self) -> Option<f64> {
        self.remembered(&self.memo.nearly, |it| Some(it.found().ok()?.centre.score))
    }

    /// The best chance.
    pub fn chance(&self) -> Chance {
        let miss_strokes = self.shot.line.strokes_of_a_miss();
        if let Some(no_release) = self.too_fast() {
            return Chance::none(no_release, miss_strokes);
        }
        let told = || match self.found() {
            Ok(found) => self.shot.told(self.reach(Fine), found),
            Err(no_release) => Chance::none(no_release, miss_strokes),
        };
        remembered(&self.memo.chances, self.key, told)
    }

    /// What is remembered of it, or else found; `None` of a disc too fast for the line.
    fn remembered(
        &self,
        memory: &Cache<u64, Option<f64>>,
        find: impl FnOnce(&Self) -> Option<f64>,
    ) -> Option<f64> {
        if self.too_fast().is_some() {
            return None;
        }
        remembered(memory, self.key, || find(self))
    }

    fn too_fast(&self) -> Option<NoRelease> {
        let fastest_speed = self.shot.line.fastest_speed.filter(|f| self.shot.thrown.speed > *f)?;
        Some(NoRelease::TooFast { fastest_speed })
    }

    fn view(&self, grain: Grain) -> &View {
        match grain {
            Coarse => &self.coarse,
            Fine => &self.fine,
        }
    }

    fn reach_key(&self, grain: Grain) -> u64 {
        self.table_key.clone().number(f64::from(grain as u8)).key()
    }

    fn reach(&self, grain: Grain) -> &Reach {
        let coarser = || (grain == Fine).then(|| self.reach(Coarse));
        let found = || Arc::new(self.shot.reach(grain, coarser()));
        let table = || remembered(&self.memo.reaches, self.reach_key(grain), found);
        self.view(grain).reach.get_or_init(table)
    }

    /// See [`Shot::roomiest`].
    fn centres(&self, grain: Grain) -> &Result<Vec<Centre>, NoRelease> {
        let coarser = || (grain == Fine).then(|| self.centres(Coarse).as_deref().ok()).flatten();
        let roomiest = || self.shot.roomiest(self.reach(grain), coarser().unwrap_or(&[]));
        self.view(grain).centres.get_or_init(roomiest)
    }

    /// See [`Shot::looks`]; none if the disc does not reach the line.
    fn looks(&self, grain: Grain) -> &[Look] {
        let coarser = || match grain {
            Fine => self.looks(Coarse),
            Coarse => self.glimpsed.get().map_or(&[][..], |looks| looks),
        };
        let looks = || self.centres(grain).as_ref().map_or(vec![], |c| self.shot.looks(c, coarser()));
        self.view(grain).looks.get_or_init(looks)
    }

    /// See [`Shot::looks`]: at the roomiest few shapes alone.
    fn glimpsed(&self) -> &[Look] {
        let few = || self.centres(Coarse).as_ref().map_or(&[][..], |c| &c[..c.len().min(GLIMPSED)]);
        self.glimpsed.get_or_init(|| self.shot.looks(few(), &[]))
    }

    /// See [`Shot::first_tried`]; none if the disc does not reach the line.
    fn first(&self) -> &Tried {
        self.first.get_or_init(|| self.shot.first_tried(self.looks(Coarse)))
    }

    /// See [`Shot::tried_beside`]; none if the disc does not reach the line.
    fn improved(&self) -> &[Centre] {
        self.improved.get_or_init(|| self.shot.tried_beside(self.first(), self.looks(Fine)))
    }

    /// See [`Shot::found`].
    fn found(&self) -> Result<&Flown<ALL>, NoRelease> {
        match self.centres(Fine) {
            Ok(_) => Ok(self.found.get_or_init(|| self.shot.found(self.improved()))),
            Err(no_release) => Err(*no_release),
        }
    }
}

/// The best chance of a disc on a line, remembered in `memo`.
pub fn chance(arm: &Arm, thrown: Thrown, line: &LineSpec, memo: &Memo) -> Chance {
    Prospect::of(arm, thrown, line, memo).chance()
}

/// What stands behind a chance: the centre throw, and the scatter about it come to rest.
pub struct Behind {
    /// The centre throw.
    pub throw: Throw,
    /// The air it flies in; heights count from the line's floor.
    pub air: Air,
    /// Where the scatter ends.
    pub cloud: Vec<Outcome>,
}

/// What stands behind a chance.
pub fn behind(arm: &Arm, thrown: Thrown, line: &LineSpec, chosen: &Chosen) -> Behind {
    let q = shot(arm, thrown, line);
    let centre = Centre::of(chosen);
    Behind { throw: q.throw(q.release(&centre)), air: q.air, cloud: q.cloud(&centre) }
}

/// Share of throws counted that make the line by the release `chosen` if things that scatter, by their places in [`deviates`], did
/// so only by the share `left` of what they do. To be compared with others counted: it differs by its grain from the chance itself.
pub fn chance_with(
    arm: &Arm,
    thrown: Thrown,
    line: &LineSpec,
    chosen: &Chosen,
    places: &[usize],
    left: f64,
) -> f64 {
    let q = shot(arm, thrown, line);
    let centre = Centre::of(chosen);
    let (throw, spread) = (q.throw(q.release(&centre)), q.spread(&centre));
    let throws: Vec<Throw> = deviates(throw.release.style)[JUDGED_ON]
        .iter()
        .map(|z| {
            let mut z = *z;
            places.iter().for_each(|&k| z[k] *= left);
            spread.displace(&throw, q.gust_m_s, &z)
        })
        .collect();
    let aim_left = if places.contains(&AIM) { left } else { 1.0 };
    let cloud = q.flown(&throws);
    let made = q.judged(&cloud, &spread, aim_left).flatten().filter(|j| j.miss.is_none()).count();
    made as f64 / (LIKELY * throws.len()) as f64
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::thrower::day::Conditions;
    use crate::thrower::player::Player;
    use crate::thrower::style::Style;
    use rstest::rstest;
    use zinc_kite_flight::numbers::FlightNumbers;

    /// Bit by bit, with more discs than are flown side by side, some of which may not reach the line, and one whose table is known.
    #[rstest]
    #[case(Style::Backhand, 0.0, true)]
    #[case(Style::Backhand, 7.0, false)]
    #[case(Style::Putt, 3.0, false)]
    fn prop_rooms_found_together_are_those_found_alone(
        #[case] style: Style,
        #[case] wind_m_s: f64,
        #[case] open_ended: bool,
    ) {
        let day = Conditions { wind_m_s, wind_from_deg: 40.0, ..Conditions::default() };
        let arm = Arm::of(&Player::default(), &day).unwrap();
        let line = LineSpec { open_ended, ..LineSpec::usual(style) };
        let thrown = |k: usize| {
            let numbers = FlightNumbers::new(2.0 + k as f64, 1.0 + 0.3 * k as f64, -0.4 * k as f64, 1.0);
            Thrown::ordinary(numbers.disc(0.175).unwrap(), numbers.speed)
        };
        let (alone, together) = (Memo::default(), Memo::default());
        let prospects =
            |memo| Vec::from_iter((0..TOGETHER + 3).map(|k| Prospect::of(&arm, thrown(k), &line, memo)));

        let told = prospects(&alone).iter().map(Prospect::room_m).collect::<Vec<_>>();
        assert!(told.iter().flatten().count() >= 2, "{told:?}");
        let known = Prospect::of(&arm, thrown(1), &line, &together);
        known.reach(Coarse);
        let found = prospects(&together);
        Prospect::find_rooms(found.iter());
        assert!(found.iter().all(|it| it.too_fast().is_some() || it.coarse.centres.get().is_some()));
        assert_eq!(found.iter().map(Prospect::room_m).collect::<Vec<_>>(), told);
        // And once they are known.
        let again = prospects(&together);
        Prospect::find_rooms(again.iter());
        assert!(again.iter().all(|it| it.coarse.reach.get().is_none()));
        assert_eq!(again.iter().map(Prospect::room_m).collect::<Vec<_>>(), told);
    }
}
