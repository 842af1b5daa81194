//! Marks: how a disc stood on the days its player changed what is known of its wear. From their dates the life of a disc is learned.

use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::spec::{DiscSpec, Numbers};
use crate::disc::wear::{Grade, Wear};
use crate::error::BagError;

/// Most marks kept of a disc: the first and the latest.
pub const MOST_MARKS: usize = 40;

/// How a disc stood on a day.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Mark {
    /// The day.
    #[schema(value_type = String, format = Date)]
    pub on: Date,
    /// Its wear from then on.
    #[serde(flatten)]
    pub wear: Wear,
    /// The numbers observed by then, if any were.
    #[serde(default)]
    pub observed: Option<Numbers>,
    /// Condition in which they were observed.
    #[serde(default)]
    pub observed_worn: Grade,
}

impl Mark {
    /// # Errors
    /// [`BagError`] for wear or numbers that no disc has.
    pub fn validate(&self) -> Result<(), BagError> {
        self.wear.validate()?;
        self.observed.iter().try_for_each(Numbers::validate)
    }
}

impl DiscSpec {
    /// The same disc with a mark of today if its wear or its observed numbers are not as they were `before`, or if it is new and has
    /// none. Marks of one day become one, the latest. What the player did to the marks themselves is kept.
    pub fn marked(mut self, before: Option<&DiscSpec>, on: Date) -> DiscSpec {
        let Keeps { wear, observed, observed_worn } = Keeps::of(&self);
        let is_news = match before {
            None => self.keeping.marks.is_empty(),
            Some(before) => Keeps::of(before) != Keeps::of(&self),
        };
        let marks = &mut self.keeping.marks;
        if is_news {
            marks.retain(|mark| mark.on != on);
            marks.push(Mark { on, wear, observed, observed_worn });
        }
        marks.sort_by_key(|mark| mark.on);
        while marks.len() > MOST_MARKS {
            marks.remove(1);
        }
        self
    }
}

/// What a mark keeps of a disc.
#[derive(PartialEq)]
struct Keeps {
    wear: Wear,
    observed: Option<Numbers>,
    observed_worn: Grade,
}

impl Keeps {
    fn of(disc: &DiscSpec) -> Keeps {
        Keeps { wear: disc.wear, observed: disc.observed, observed_worn: disc.keeping.observed_worn }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::civil::date;

    fn disc() -> DiscSpec {
        let numbers = Numbers { speed: 7.0, glide: 5.0, turn: 0.0, fade: 2.0 };
        DiscSpec::plain("Hobb & Tiller", "Purlin", numbers)
    }

    fn worn(disc: &DiscSpec, grade: Grade) -> DiscSpec {
        DiscSpec { wear: Wear { grade, ..Wear::FRESH }, ..disc.clone() }
    }

    #[test]
    fn prop_a_mark_is_made_when_wear_or_numbers_change_and_only_then() {
        let new = disc().marked(None, date(2026, 3, 1));
        assert_eq!(new.keeping.marks.len(), 1);
        let renamed = DiscSpec { name: "other".into(), ..new.clone() }.marked(Some(&new), date(2026, 4, 1));
        assert_eq!(renamed.keeping.marks, new.keeping.marks);
        let seasoned = worn(&new, Grade::Seasoned).marked(Some(&new), date(2026, 5, 1));
        assert_eq!(seasoned.keeping.marks.len(), 2);
        let same_day = worn(&seasoned, Grade::Beat).marked(Some(&seasoned), date(2026, 5, 1));
        assert_eq!(same_day.keeping.marks.len(), 2, "the latest of a day counts");
        assert_eq!(same_day.keeping.marks[1].wear.grade, Grade::Beat);
        let observed = DiscSpec { observed: Some(new.printed), ..same_day.clone() };
        assert_eq!(observed.marked(Some(&same_day), date(2026, 6, 1)).keeping.marks.len(), 3);
    }

    #[test]
    fn prop_the_first_mark_and_the_latest_are_never_lost() {
        let mut disc = disc().marked(None, date(2020, 1, 1));
        for k in 0..100u32 {
            let on = date(2021 + (k / 28) as i16, 1, 1 + (k % 28) as i8);
            let before = disc.clone();
            disc.wear.throws = Some(k + 1);
            disc = disc.marked(Some(&before), on);
        }
        let marks = &disc.keeping.marks;
        assert_eq!((marks.len(), marks[0].on), (MOST_MARKS, date(2020, 1, 1)));
        assert_eq!(marks[MOST_MARKS - 1].wear.throws, Some(100));
        assert!(marks.windows(2).all(|pair| pair[0].on < pair[1].on));
    }
}
