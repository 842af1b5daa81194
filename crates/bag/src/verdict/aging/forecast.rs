//! How a disc wears over the year ahead, and when it leaves its peg.

use jiff::ToSpan;
use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::{Disc, DiscId};
use crate::disc::wear::{share_after, throws_to};
use crate::need::peg::Peg;
use crate::thrower::calendar::Pace;
use crate::verdict::aging::bends::Bends;
use crate::verdict::aging::life::WearLife;
use crate::verdict::aging::usage::Usage;
use crate::words::{month, percent};

/// A day farther off than this is not told as one, years.
const TOLD_YEARS: i64 = 10;

/// How a disc stands on a day to come.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct ForecastPoint {
    /// The day.
    #[schema(value_type = String, format = Date)]
    pub on: Date,
    /// Share of all possible wear, 0 to 1, as likely more as less.
    pub wear_share: f64,
    /// If it is one in ten that last longest.
    pub least_wear_share: f64,
    /// If it is one in ten that last shortest.
    pub most_wear_share: f64,
    /// Where it then finishes, degrees toward the natural fade side.
    pub finish_deg: f64,
    /// Where the least worn would finish.
    pub least_worn_finish_deg: f64,
    /// Where the most worn would finish.
    pub most_worn_finish_deg: f64,
    /// Its peg.
    pub peg: Option<Peg>,
}

/// When a disc leaves its peg.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Leaving {
    /// The peg it leaves.
    pub from: Peg,
    /// The peg it comes to.
    pub to: Peg,
    /// The day, as likely earlier as later; none if not in the years foreseen.
    #[schema(value_type = Option<String>, format = Date)]
    pub on: Option<Date>,
    /// One in ten leaves before this day.
    #[schema(value_type = Option<String>, format = Date)]
    pub earliest: Option<Date>,
    /// One in ten leaves after this day; none if not in the years foreseen.
    #[schema(value_type = Option<String>, format = Date)]
    pub latest: Option<Date>,
}

/// The year ahead of a disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Forecast {
    /// The disc.
    pub disc_id: DiscId,
    /// How often it is thrown.
    pub usage: Usage,
    /// Throws and putts a week on average over the year, as they are counted.
    pub times_a_week: f64,
    /// How long it lasts.
    pub life: WearLife,
    /// When it leaves its peg.
    pub leaving: Option<Leaving>,
    /// How it stands from today on, at even steps.
    pub points: Vec<ForecastPoint>,
    /// The same in words.
    pub words: String,
}

/// A disc with everything its wear goes by.
#[derive(Debug, Clone)]
pub(crate) struct Wearing<'a> {
    pub disc: &'a Disc,
    pub usage: Usage,
    /// Effective throws a week.
    pub pace: Pace,
    pub life: WearLife,
    pub bends: Bends,
    /// Share of wear today.
    pub share: f64,
    pub is_carried: bool,
}

impl Wearing<'_> {
    /// Share of wear on a day to come, were the life of the disc so many throws.
    fn share_with(&self, life_throws: f64, today: Date, on: Date) -> f64 {
        share_after(throws_to(self.share, life_throws) + self.pace.between(today, on), life_throws)
    }

    /// Share of wear on a day to come, as likely more as less.
    pub(super) fn share_on(&self, today: Date, on: Date) -> f64 {
        self.share_with(self.life.throws, today, on)
    }

    pub(super) fn peg_on(&self, today: Date, on: Date) -> Option<Peg> {
        self.bends.peg(self.share_on(today, on))
    }

    /// The day by which it has worn to a share, at a pace and with a life.
    pub(super) fn worn_by(&self, share: f64, pace: &Pace, life_throws: f64, today: Date) -> Option<Date> {
        pace.reached(today, throws_to(share, life_throws) - throws_to(self.share, life_throws))
    }

    /// The day by which it sits on a peg if it is thrown at a pace from today on; `None` if it is past it or never comes to it.
    pub(super) fn on_peg_by(&self, wanted: Peg, pace: &Pace, today: Date) -> Option<Date> {
        self.worn_by(self.bends.comes_to(self.share, wanted)?, pace, self.life.throws, today)
    }

    /// When it leaves the peg it sits on.
    pub(crate) fn leaving(&self, today: Date) -> Option<Leaving> {
        let from = self.bends.peg(self.share)?;
        let (share, to) = self.bends.leaves(self.share)?;
        let by = |life_throws| self.worn_by(share, &self.pace, life_throws, today);
        let WearLife { throws, least_throws, most_throws, .. } = self.life;
        Some(Leaving { from, to, on: by(throws), earliest: by(least_throws), latest: by(most_throws) })
    }

    fn point(&self, today: Date, on: Date) -> ForecastPoint {
        let share = |life_throws| self.share_with(life_throws, today, on);
        let wear_share = share(self.life.throws);
        let (least, most) = (share(self.life.most_throws), share(self.life.least_throws));
        let finish = |share| self.bends.at(share).finish_deg;
        ForecastPoint {
            on,
            wear_share,
            least_wear_share: least,
            most_wear_share: most,
            finish_deg: finish(wear_share),
            least_worn_finish_deg: finish(least),
            most_worn_finish_deg: finish(most),
            peg: self.bends.peg(wear_share),
        }
    }

    /// The year ahead, told on some days.
    pub(super) fn forecast(&self, today: Date, days: &[Date], times_a_week: f64) -> Forecast {
        let leaving = self.leaving(today);
        Forecast {
            disc_id: self.disc.id,
            usage: self.usage,
            times_a_week,
            life: self.life.clone(),
            words: self.words(today, leaving, days.last().copied().unwrap_or(today)),
            leaving,
            points: days.iter().map(|on| self.point(today, *on)).collect(),
        }
    }

    fn words(&self, today: Date, leaving: Option<Leaving>, until: Date) -> String {
        let now = percent(self.share);
        let then = percent(self.share_on(today, until));
        if self.pace.between(today, until) <= 0.0 {
            return format!("{now} worn, and not thrown");
        }
        let worn = match now == then {
            true => format!("{now} worn, little more by {}", month(until)),
            false => format!("{now} worn, {then} by {}", month(until)),
        };
        let far = today.saturating_add(TOLD_YEARS.years());
        match leaving {
            None if self.bends.peg(self.share).is_some() => format!("{worn}; stays on its peg for good"),
            None => worn,
            Some(Leaving { from, to, on, earliest, latest }) => {
                let (from, to) = (from.label(), to.label());
                let told = |day: Option<Date>| day.filter(|day| *day <= far).map(month);
                match (told(on), earliest.map(month), told(latest)) {
                    (Some(on), Some(earliest), Some(latest)) if earliest != latest => {
                        format!("{worn}; from {from} to {to} about {on}, between {earliest} and {latest}")
                    }
                    (Some(on), Some(earliest), None) => {
                        format!("{worn}; from {from} to {to} about {on}, not before {earliest}")
                    }
                    (Some(on), ..) => format!("{worn}; from {from} to {to} about {on}"),
                    (None, ..) => format!("{worn}; stays on {from} for more than ten years"),
                }
            }
        }
    }
}
