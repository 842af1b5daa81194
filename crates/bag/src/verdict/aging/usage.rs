//! How often each disc is thrown: on the lines it is the one for, and in practice.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::keeping::Status;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::wear::{HIT_THROWS, PUTT_THROWS};
use crate::need::line::Line;
use crate::thrower::calendar::{Calendar, Month, Pace, Terrain};
use crate::thrower::style::Style;
use crate::verdict::ledger::Ledger;

/// How often a disc is thrown.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Usage {
    /// The disc.
    pub disc_id: DiscId,
    /// Throws in a round.
    pub throws_a_round: f64,
    /// Putts in a round.
    pub putts_a_round: f64,
    /// Its part of the throws in practice, 0 to 1.
    pub practice_share: f64,
    /// Its part of the putts in practice, 0 to 1.
    pub putting_share: f64,
}

/// Discs that make a line as often as this far behind the best are thrown on it in turn: less is within the grain of a chance.
const AS_GOOD: f64 = 0.01;
/// A disc that is worn in on purpose is thrown so often in a round beside the others, and in practice accordingly. Own judgement.
const SEASONING_A_ROUND: f64 = 3.0;
/// A carried disc without a job is practised with as if it were thrown so often in a round. Own judgement.
const IDLE_A_ROUND: f64 = 0.25;
/// The same of a putting putter, in putts.
const IDLE_PUTTS: f64 = 1.0;

/// How often the discs of `shelf` are thrown by who carries `carried`: each line by the discs that make it best, in every weather as
/// often as it comes; discs that are worn in on purpose beside them. Discs that are neither carried nor worn in are not thrown.
pub(super) fn usages(ledger: &Ledger, lines: &[Line], shelf: &[&Disc], carried: &[DiscId]) -> Usages {
    let mut usages: Vec<Usage> = shelf.iter().map(|disc| idle(disc.id)).collect();
    let columns = ledger.columns(carried);
    for row in &ledger.rows {
        let spec = &lines[row.line].spec;
        let weather = ledger.weathers.iter().find(|w| w.kind == row.weather);
        let times = spec.weight * weather.map_or(0.0, |w| w.share);
        let best = row.best(&columns);
        let as_good: Vec<DiscId> = columns
            .iter()
            .filter(|&&c| best > 0.0 && row.chances[c] >= best - AS_GOOD)
            .map(|&c| ledger.disc_ids[c])
            .collect();
        for usage in usages.iter_mut().filter(|u| as_good.contains(&u.disc_id)) {
            let each = times / as_good.len() as f64;
            match spec.style {
                Style::Putt => usage.putts_a_round += each,
                _ => usage.throws_a_round += each,
            }
        }
    }
    let (mut practice, mut putting) = (vec![0.0; shelf.len()], vec![0.0; shelf.len()]);
    for (k, disc) in shelf.iter().enumerate() {
        let putts = disc.spec.used_for == Use::Putting;
        if !putts && disc.spec.keeping.status == Status::Seasoning {
            usages[k].throws_a_round += SEASONING_A_ROUND;
        }
        let is_used = carried.contains(&disc.id) || usages[k].throws_a_round > 0.0;
        match (is_used, putts) {
            (true, true) => putting[k] = usages[k].putts_a_round.max(IDLE_PUTTS),
            (true, false) => practice[k] = usages[k].throws_a_round.max(IDLE_A_ROUND),
            (false, _) => {}
        }
    }
    let (thrown, putted) = (practice.iter().sum::<f64>(), putting.iter().sum::<f64>());
    let part = |of: f64, all: f64| if all > 0.0 { of / all } else { 0.0 };
    for (k, usage) in usages.iter_mut().enumerate() {
        usage.practice_share = part(practice[k], thrown);
        usage.putting_share = part(putting[k], putted);
    }
    let throws = SEASONING_A_ROUND;
    let worn_in =
        Usage { throws_a_round: throws, practice_share: throws / (thrown + throws), ..idle(DiscId(0)) };
    Usages { each: usages, worn_in }
}

/// How often discs are thrown.
pub(super) struct Usages {
    /// Each of them.
    pub each: Vec<Usage>,
    /// One more that would be worn in on purpose beside them.
    pub worn_in: Usage,
}

fn idle(disc_id: DiscId) -> Usage {
    Usage { disc_id, throws_a_round: 0.0, putts_a_round: 0.0, practice_share: 0.0, putting_share: 0.0 }
}

impl Usage {
    /// How fast it wears, effective throws a week of every month.
    pub(super) fn pace(&self, calendar: &Calendar) -> Pace {
        Pace::of(calendar, |month| self.a_week(month))
    }

    fn a_week(&self, month: Month) -> f64 {
        let wears = |ground: Terrain| 1.0 + HIT_THROWS * ground.hits();
        let round = self.throws_a_round * wears(month.ground) + self.putts_a_round * PUTT_THROWS;
        let practice = month.practice_throws_a_week * self.practice_share * wears(Terrain::Open)
            + month.practice_putts_a_week * self.putting_share * PUTT_THROWS;
        month.rounds_a_week * round + practice
    }

    /// Throws and putts in a week of a month, as they are counted.
    pub fn times_a_week(&self, month: Month) -> f64 {
        month.rounds_a_week * (self.throws_a_round + self.putts_a_round)
            + month.practice_throws_a_week * self.practice_share
            + month.practice_putts_a_week * self.putting_share
    }
}
