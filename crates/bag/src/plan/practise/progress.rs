//! Does it get steadier? How throws of one disc, meant alike in one session, differ from one another, month by month.

use jiff::civil::Date;
use serde::Serialize;
use statrs::distribution::{ChiSquared, ContinuousCDF, FisherSnedecor};
use utoipa::ToSchema;

use crate::field::kind::rounded;
use crate::field::throw::{FieldThrow, Measured};
use crate::thrower::style::Style;
use crate::words::{month, percent};

/// Fewer differences than this say nothing of a month.
const LEAST_FREE: usize = 5;
/// From how sure on it is said to be steadier or wilder. Own judgement.
const SAID_FROM: f64 = 0.9;
/// Tails outside an interval that holds in nine cases of ten.
const TAILS: [f64; 2] = [0.05, 0.95];

/// A scatter as it was found, and how sure that is.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct FoundScatter {
    /// Standard deviation.
    pub found: f64,
    /// In nine cases of ten it lies above this,
    pub low: f64,
    /// and below this.
    pub high: f64,
    /// Differences it is known from.
    pub free: usize,
}

impl FoundScatter {
    /// From a sum of squares about means and the differences that are free in it: χ² has it (of normal throws; from memory).
    fn of(squares: f64, free: usize) -> Option<FoundScatter> {
        let chi = ChiSquared::new(free as f64).ok().filter(|_| free >= LEAST_FREE)?;
        let [low, high] = TAILS.map(|tail| (squares / chi.inverse_cdf(1.0 - tail)).sqrt());
        Some(FoundScatter { found: (squares / free as f64).sqrt(), low, high, free })
    }

    /// How sure the scatter is smaller than an `earlier` one: F has the ratio of their squares (of normal throws; from memory).
    fn surely_below(&self, earlier: &FoundScatter) -> f64 {
        let ratio = (earlier.found / self.found.max(1e-9)).powi(2);
        FisherSnedecor::new(earlier.free as f64, self.free as f64).map_or(0.5, |f| f.cdf(ratio))
    }
}

/// How throws of a month scatter.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MonthScatter {
    /// Its first day.
    #[schema(value_type = String, format = Date)]
    pub month: Date,
    /// Throws that say so.
    pub throws: usize,
    /// Distance, percent of itself.
    pub along_pct: FoundScatter,
    /// Angle to the sides, degrees; null where too few were told.
    pub side_deg: Option<FoundScatter>,
}

/// How the scatter of a style has moved.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ScatterProgress {
    /// The style.
    pub style: Style,
    /// Months of which something is known, the earliest first.
    pub months: Vec<MonthScatter>,
    /// In words.
    pub words: String,
}

/// Throws of a month that belong together.
struct Alike<'a> {
    month: Date,
    day: Date,
    place: &'a str,
    like: FieldThrow,
    throws: Vec<&'a FieldThrow>,
}

/// Sum of squares about the mean, and how many are free in it.
fn about_mean(figures: &[f64]) -> (f64, usize) {
    let mean = figures.iter().sum::<f64>() / figures.len().max(1) as f64;
    (figures.iter().map(|x| (x - mean).powi(2)).sum(), figures.len().saturating_sub(1))
}

/// How the scatter of a style has moved, from its measured throws.
pub fn progress(style: Style, throws: &[Measured<'_>]) -> ScatterProgress {
    let mut groups: Vec<Alike> = Vec::new();
    for Measured { session, throw } in throws.iter().filter(|m| m.throw.style == style && m.throw.is_clean())
    {
        let (day, place, like) = (session.date, session.place.as_str(), rounded(throw));
        match groups.iter_mut().find(|g| g.day == day && g.place == place && g.like == like) {
            Some(group) => group.throws.push(throw),
            None => {
                groups.push(Alike { month: day.first_of_month(), day, place, like, throws: vec![throw] });
            }
        }
    }
    let mut firsts: Vec<Date> = groups.iter().map(|g| g.month).collect();
    firsts.sort_unstable();
    firsts.dedup();
    let of_month = |first: &Date| {
        let sum = |of: &dyn Fn(&FieldThrow, f64) -> Option<f64>| {
            groups.iter().filter(|g| g.month == *first).fold((0.0, 0), |(squares, free), group| {
                let far: Vec<f64> = group.throws.iter().filter_map(|t| t.distance_m).collect();
                let mean = far.iter().sum::<f64>() / far.len().max(1) as f64;
                let figures: Vec<f64> = group.throws.iter().filter_map(|t| of(t, mean)).collect();
                let (more, n) = about_mean(&figures);
                (squares + more, free + n)
            })
        };
        let (along, free) = sum(&|t, mean| t.distance_m.map(|d| 100.0 * d / mean.max(1.0)));
        let (side, side_free) = sum(&|t, _| t.off_deg);
        let throws = groups.iter().filter(|g| g.month == *first && g.throws.len() > 1);
        Some(MonthScatter {
            month: *first,
            throws: throws.map(|g| g.throws.len()).sum(),
            along_pct: FoundScatter::of(along, free)?,
            side_deg: FoundScatter::of(side, side_free),
        })
    };
    let months: Vec<MonthScatter> = firsts.iter().filter_map(of_month).collect();
    let words = words(&months);
    ScatterProgress { style, months, words }
}

fn words(months: &[MonthScatter]) -> String {
    let (Some(first), Some(last)) = (months.first(), months.last()) else {
        return format!(
            "Nothing is known yet: throw one disc a few times alike and measure it; {LEAST_FREE} differences in a month are the least."
        );
    };
    if months.len() < 2 {
        return format!(
            "Known of {} only: another month will show whether it gets steadier.",
            month(first.month)
        );
    }
    let moved = |what: &str, now: Option<&FoundScatter>, then: Option<&FoundScatter>| {
        let (now, then) = (now?, then?);
        let sure = now.surely_below(then);
        let (how, sure) = if sure >= 0.5 { ("steadier", sure) } else { ("wilder", 1.0 - sure) };
        (sure >= SAID_FROM)
            .then(|| format!("{how} {what} than in {} ({} sure)", month(first.month), percent(sure)))
    };
    let along = moved("in distance", Some(&last.along_pct), Some(&first.along_pct));
    let side = moved("to the sides", last.side_deg.as_ref(), first.side_deg.as_ref());
    let moved: Vec<String> = [along, side].into_iter().flatten().collect();
    if moved.is_empty() {
        format!("No change since {} that so few throws would show.", month(first.month))
    } else {
        format!("In {}: {}.", month(last.month), moved.join(", "))
    }
}
