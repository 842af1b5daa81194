//! The calendar of play: how much is played and practised in every month, and among how many trees.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::error::{BagError, within};

/// How much stands in the way where rounds are played.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Terrain {
    /// Open ground.
    Open,
    /// Some trees.
    #[default]
    Mixed,
    /// Woods.
    Woods,
}

impl Terrain {
    /// Share of throws that hit a tree or another hard thing. Own judgement.
    pub fn hits(self) -> f64 {
        match self {
            Terrain::Open => 0.005,
            Terrain::Mixed => 0.03,
            Terrain::Woods => 0.08,
        }
    }
}

/// A month's play.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Month {
    /// Rounds a week, 0 to 14.
    #[schema(minimum = 0.0, maximum = 14.0)]
    pub rounds_a_week: f64,
    /// Throws in practice a week, putts aside, 0 to 2000.
    #[schema(minimum = 0.0, maximum = 2000.0)]
    pub practice_throws_a_week: f64,
    /// Putts in practice a week, 0 to 5000.
    #[schema(minimum = 0.0, maximum = 5000.0)]
    pub practice_putts_a_week: f64,
    /// Where the rounds are played; practice is in the open.
    #[serde(default)]
    pub ground: Terrain,
}

const MOST_ROUNDS: f64 = 14.0;
const MOST_THROWS: f64 = 2000.0;
const MOST_PUTTS: f64 = 5000.0;

impl Month {
    /// A month of which the player has told nothing. Own judgement: a club player's.
    pub const USUAL: Month = Month {
        rounds_a_week: 1.0,
        practice_throws_a_week: 30.0,
        practice_putts_a_week: 60.0,
        ground: Terrain::Mixed,
    };

    /// # Errors
    /// [`BagError`] for the first figure outside its range.
    pub fn validate(&self) -> Result<(), BagError> {
        within("rounds_a_week", self.rounds_a_week, 0.0, MOST_ROUNDS)?;
        within("practice_throws_a_week", self.practice_throws_a_week, 0.0, MOST_THROWS)?;
        within("practice_putts_a_week", self.practice_putts_a_week, 0.0, MOST_PUTTS)
    }

    /// So many times as much play, as far as a week has room for it.
    fn times(self, factor: f64) -> Month {
        let times = |x: f64, most: f64| (x * factor).min(most);
        Month {
            rounds_a_week: times(self.rounds_a_week, MOST_ROUNDS),
            practice_throws_a_week: times(self.practice_throws_a_week, MOST_THROWS),
            practice_putts_a_week: times(self.practice_putts_a_week, MOST_PUTTS),
            ..self
        }
    }
}

/// The twelve months of play, January first; as is usual while the player has told nothing.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Calendar {
    /// Each of them.
    #[serde(default = "usual_months")]
    #[schema(min_items = 12, max_items = 12)]
    pub months: Vec<Month>,
}

fn usual_months() -> Vec<Month> {
    vec![Month::USUAL; 12]
}

impl Default for Calendar {
    fn default() -> Self {
        Calendar { months: usual_months() }
    }
}

impl Calendar {
    /// The play of a month, 1 to 12.
    pub fn month(&self, month: i8) -> Month {
        let place = usize::try_from(month - 1).unwrap_or(0);
        self.months.get(place).copied().unwrap_or(Month::USUAL)
    }

    /// The same with so many times as much play, as far as there is room for it.
    pub fn times(&self, factor: f64) -> Calendar {
        Calendar { months: (1..=12).map(|m| self.month(m).times(factor)).collect() }
    }

    /// # Errors
    /// [`BagError`] for a figure outside its range, or if it is not of twelve months.
    pub fn validate(&self) -> Result<(), BagError> {
        if self.months.len() != 12 {
            return Err(BagError::Field {
                field: "calendar",
                expected: "twelve months".into(),
                got: format!("{} months", self.months.len()),
            });
        }
        self.months.iter().try_for_each(Month::validate)
    }
}

/// A rate that goes by the month: so much a week in each.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Pace(pub [f64; 12]);

/// Nothing is foreseen beyond this, years.
const FARTHEST_YEARS: i16 = 20;

impl Pace {
    /// A rate for every month of a calendar.
    pub(crate) fn of(calendar: &Calendar, rate: impl Fn(Month) -> f64) -> Pace {
        Pace(std::array::from_fn(|k| rate(calendar.month(k as i8 + 1))))
    }

    pub(crate) fn times(&self, factor: f64) -> Pace {
        Pace(self.0.map(|rate| rate * factor))
    }

    fn a_day(&self, on: Date) -> f64 {
        self.0[usize::try_from(on.month() - 1).unwrap_or(0)] / 7.0
    }

    /// How much comes together from one day to another; 0 if that is not later.
    pub(crate) fn between(&self, from: Date, to: Date) -> f64 {
        let (mut sum, mut at) = (0.0, from);
        while at < to {
            let end = month_end(at).min(to);
            sum += self.a_day(at) * days(at, end);
            at = end;
        }
        sum
    }

    /// The day by which so much has come together since another; `None` if it never does in the years foreseen.
    pub(crate) fn reached(&self, from: Date, amount: f64) -> Option<Date> {
        let (mut left, mut at) = (amount, from);
        while at.year() <= from.year().saturating_add(FARTHEST_YEARS) {
            let end = month_end(at);
            let here = self.a_day(at) * days(at, end);
            if left <= here {
                let day = if left <= 0.0 { 0.0 } else { (left / self.a_day(at)).ceil() };
                return at.checked_add(jiff::Span::new().days(day as i64)).ok();
            }
            left -= here;
            at = end;
        }
        None
    }
}

/// First day of the next month.
fn month_end(on: Date) -> Date {
    on.last_of_month().tomorrow().unwrap_or(Date::MAX)
}

/// Days from one day to another.
pub(crate) fn days(from: Date, to: Date) -> f64 {
    f64::from((to - from).get_days())
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use jiff::civil::date;
    use proptest::prelude::*;

    #[test]
    fn prop_a_steady_pace_counts_days() {
        let pace = Pace([7.0; 12]);
        assert!((pace.between(date(2026, 1, 15), date(2026, 3, 15)) - 59.0).abs() < 1e-9);
        assert_eq!(pace.between(date(2026, 3, 15), date(2026, 1, 15)), 0.0);
        assert_eq!(pace.reached(date(2026, 1, 15), 59.0), Some(date(2026, 3, 15)));
        assert_eq!(pace.reached(date(2026, 1, 15), 0.0), Some(date(2026, 1, 15)));
        assert_eq!(Pace([0.0; 12]).reached(date(2026, 1, 15), 1.0), None);
    }

    fn of(month: Month, n: usize) -> Calendar {
        Calendar { months: vec![month; n] }
    }

    #[test]
    fn prop_a_calendar_has_twelve_months() {
        assert!(Calendar::default().validate().is_ok());
        assert_eq!(Calendar::default().month(7), Month::USUAL);
        assert!(of(Month::USUAL, 12).validate().is_ok());
        for n in [0, 1, 11, 13] {
            let error = of(Month::USUAL, n).validate().unwrap_err();
            assert_eq!(error.field(), "calendar");
        }
        let never = Month { rounds_a_week: 15.0, ..Month::USUAL };
        assert_eq!(of(never, 12).validate().unwrap_err().field(), "rounds_a_week");
        assert_eq!(Calendar::default().times(2.0).month(3).rounds_a_week, 2.0);
        assert!(of(Month { rounds_a_week: 14.0, ..Month::USUAL }, 12).times(5.0).validate().is_ok());
    }

    proptest! {
        /// What is reached by a day is what comes together until then, and days add up.
        #[test]
        fn prop_reached_is_between_turned_round(
            rates in prop::collection::vec(0.0..90.0f64, 12), start in 0..700i64, amount in 0.1..3000.0f64,
        ) {
            let pace = Pace(std::array::from_fn(|k| rates[k]));
            let from = date(2026, 1, 1).checked_add(jiff::Span::new().days(start)).unwrap();
            if let Some(by) = pace.reached(from, amount) {
                prop_assert!(pace.between(from, by) >= amount - 1e-6);
                let before = by.yesterday().unwrap();
                prop_assert!(before < from || pace.between(from, before) < amount + 1e-6);
                let middle = from.checked_add(jiff::Span::new().days((by - from).get_days() as i64 / 2)).unwrap();
                let parts = pace.between(from, middle) + pace.between(middle, by);
                prop_assert!((parts - pace.between(from, by)).abs() < 1e-6);
            }
        }
    }
}
