//! How much an arm is asked to throw. Common practice, no source: warm up, come up gradually, and leave off when it hurts.

use jiff::ToSpan;
use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::thrower::player::Player;
use crate::thrower::style::Style;

/// So many weeks before the last one tell what a usual week is.
const USUAL_WEEKS: i64 = 4;
/// A week with more than so many times the usual throws, and with so many at least, is a lot more than usual. Own judgement.
const A_LOT: f64 = 1.5;
const LEAST_THROWS: usize = 40;
/// Full overhand throws of a week that are a lot for anybody. Own judgement, on the careful side.
const MANY_OVERHAND: usize = 25;

/// What an arm has thrown in a style, and what to mind.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Load {
    /// The style.
    pub style: Style,
    /// Throws of the last seven days.
    pub last_week: usize,
    /// Throws of a usual week: the mean of the four before.
    pub usual_week: f64,
    /// Whether that is a lot more than usual.
    pub is_much: bool,
    /// What to mind, in words.
    pub words: String,
}

/// From what day on throws say something of the load of `today`.
pub fn looked_back_to(today: Date) -> Date {
    today.saturating_sub((7 * (USUAL_WEEKS + 1)).days())
}

/// How much each style but putts was thrown up to `today`, from the days of its throws; forehands are there at any rate, overhand throws
/// too for a player who has told how far they go.
pub fn loads(player: &Player, today: Date, throws: impl IntoIterator<Item = (Date, Style)>) -> Vec<Load> {
    let throws: Vec<(Date, Style)> = throws.into_iter().collect();
    let week = today.saturating_sub(7.days());
    let before = looked_back_to(today);
    let load = |style: Style| {
        let between = |from: Date, to: Date| {
            throws.iter().filter(|(day, s)| *s == style && *day > from && *day <= to).count()
        };
        let last_week = between(week, today);
        let usual_week = between(before, week) as f64 / USUAL_WEEKS as f64;
        let much_more = last_week >= LEAST_THROWS && last_week as f64 > A_LOT * usual_week;
        let is_much = much_more || (style.is_overhand() && last_week > MANY_OVERHAND);
        Load { style, last_week, usual_week, is_much, words: words(style, last_week, usual_week, is_much) }
    };
    let thrown = |style: &Style| {
        let told = *style == Style::Forehand || (style.is_overhand() && player.overhand_m.is_some());
        told || throws.iter().any(|(_, s)| s == style)
    };
    Style::ALL.into_iter().filter(|s| *s != Style::Putt).filter(thrown).map(load).collect()
}

fn words(style: Style, last_week: usize, usual_week: f64, is_much: bool) -> String {
    let usual = match style {
        Style::Forehand => "Warm up with ten easy ones; the elbow feels it first.",
        Style::Thumber | Style::Tomahawk => {
            "Warm the shoulder up, throw the first ones at half power, and keep them few."
        }
        Style::Backhand | Style::Putt => "Warm up the back and hips before the first full one.",
    };
    if is_much {
        format!(
            "{last_week} in seven days, {usual_week:.0} in a usual week: make the next session short and easy. {usual} Leave off when something hurts, and see somebody about it if it stays."
        )
    } else {
        usual.to_owned()
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use jiff::civil::date;
    use proptest::prelude::*;

    fn days(today: Date, ago: impl IntoIterator<Item = i64>) -> Vec<(Date, Style)> {
        ago.into_iter().map(|k| (today.saturating_sub(k.days()), Style::Forehand)).collect()
    }

    #[test]
    fn trade_a_week_far_above_the_usual_is_cautioned_and_a_usual_one_is_not() {
        let (me, today) = (Player::default(), date(2026, 6, 28));
        let steady = days(today, (0..35).flat_map(|k| [k; 8]));
        let load = &loads(&me, today, steady)[0];
        assert_eq!((load.last_week, load.usual_week, load.is_much), (56, 56.0, false));
        let sudden = days(today, (0..7).flat_map(|k| [k; 12]).chain((7..35).flat_map(|k| [k; 2])));
        let load = &loads(&me, today, sudden)[0];
        assert!(load.is_much && load.words.contains("84 in seven days, 14 in a usual week"), "{load:?}");
        let few = loads(&me, today, days(today, [0, 1, 2]));
        assert!(!few[0].is_much && few[0].words.contains("Warm up"));
        let overhand = (0..30).map(|_| (today, Style::Tomahawk));
        assert!(loads(&me, today, overhand).iter().any(|l| l.style == Style::Tomahawk && l.is_much));
        let over = Player { overhand_m: Some(60.0), ..Player::default() };
        let told = loads(&over, today, []);
        assert!(told.iter().any(|l| l.style == Style::Thumber && l.words.contains("shoulder")), "{told:?}");
    }

    proptest! {
        /// No throw counts twice or in the future.
        #[test]
        fn prop_each_throw_counts_once(ago in prop::collection::vec(-20..60i64, 0..80)) {
            let today = date(2026, 6, 28);
            let load = loads(&Player::default(), today, days(today, ago.clone())).into_iter().find(|l| l.style == Style::Forehand).unwrap();
            let counted = load.last_week as f64 + load.usual_week * USUAL_WEEKS as f64;
            prop_assert_eq!(counted, ago.iter().filter(|k| (0..35).contains(*k)).count() as f64);
        }
    }
}
