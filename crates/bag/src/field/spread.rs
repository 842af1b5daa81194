//! How measured throws spread: by disc and by how they were meant, and over the season.

use std::collections::BTreeMap;

use jiff::civil::Date;
use serde::Serialize;
use statrs::distribution::{ContinuousCDF, FisherSnedecor};
use utoipa::ToSchema;

use crate::disc::spec::DiscId;
use crate::field::throw::{FieldThrow, Meant, Measured};
use crate::need::area::Spot;
use crate::thrower::style::Style;

/// Share of throws that an ellipse is drawn round. Own judgement: half is what a player can count by eye.
const HALF: f64 = 0.5;

/// Mean and standard deviation of figures.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Mean {
    /// How many.
    pub n: usize,
    /// Mean.
    pub mean: f64,
    /// Standard deviation of one; null of fewer than two.
    pub sd: Option<f64>,
    /// The greatest.
    pub most: f64,
}

impl Mean {
    /// Of some figures; none of none.
    pub fn of(figures: &[f64]) -> Option<Mean> {
        let n = figures.len();
        let most = figures.iter().copied().reduce(f64::max)?;
        let mean = figures.iter().sum::<f64>() / n as f64;
        let square = figures.iter().map(|x| (x - mean).powi(2)).sum::<f64>();
        let sd = (n > 1).then(|| (square / (n - 1) as f64).sqrt());
        Some(Mean { n, mean, sd, most })
    }
}

/// An ellipse on the ground inside which the next such throw ends in half of all cases.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct Ellipse {
    /// Its middle, m down the aim.
    pub at_m: f64,
    /// Its middle, m left of the aim.
    pub left_m: f64,
    /// Half its length, m.
    pub long_m: f64,
    /// Half its width, m.
    pub short_m: f64,
    /// Where its length points, degrees from the aim, left positive, −90 to 90.
    pub turned_deg: f64,
}

impl Ellipse {
    /// Round places at which throws came to rest, three at least: the prediction region of a normal distribution in the plane, whose
    /// radius is that of Hotelling's T² (from memory: 2 (n² − 1) / (n (n − 2)) times the quantile of F with 2 and n − 2 degrees of
    /// freedom).
    pub fn round(rests: &[Spot]) -> Option<Ellipse> {
        let n = rests.len() as f64;
        if rests.len() < 3 {
            return None;
        }
        let mean = |of: fn(&Spot) -> f64| rests.iter().map(of).sum::<f64>() / n;
        let (at_m, left_m) = (mean(|r| r.at_m), mean(|r| r.left_m));
        let sum = |of: &dyn Fn(f64, f64) -> f64| {
            rests.iter().map(|r| of(r.at_m - at_m, r.left_m - left_m)).sum::<f64>() / (n - 1.0)
        };
        let (along, across, both) = (sum(&|x, _| x * x), sum(&|_, y| y * y), sum(&|x, y| x * y));
        let (half_sum, half_difference) = (0.5 * (along + across), 0.5 * (along - across));
        let root = half_difference.hypot(both);
        let quantile = FisherSnedecor::new(2.0, n - 2.0).ok()?.inverse_cdf(HALF);
        let radius = (2.0 * (n * n - 1.0) / (n * (n - 2.0)) * quantile).sqrt();
        let half = |variance: f64| radius * variance.max(0.0).sqrt();
        Some(Ellipse {
            at_m,
            left_m,
            long_m: half(half_sum + root),
            short_m: half(half_sum - root),
            turned_deg: 0.5 * both.atan2(half_difference).to_degrees(),
        })
    }

    /// Whether a place is inside.
    pub fn holds(&self, spot: &Spot) -> bool {
        let (sin, cos) = self.turned_deg.to_radians().sin_cos();
        let (x, y) = (spot.at_m - self.at_m, spot.left_m - self.left_m);
        let (along, across) = (x * cos + y * sin, y * cos - x * sin);
        (along / self.long_m).powi(2) + (across / self.short_m).powi(2) <= 1.0
    }
}

/// Throws of one disc that were meant alike.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct DiscSpread {
    /// The disc; null if it is not of this shelf.
    pub disc_id: Option<DiscId>,
    /// Its name.
    pub disc_name: String,
    /// How it was thrown.
    pub style: Style,
    /// How it was meant to leave the hand.
    pub meant: Meant,
    /// All its throws.
    pub throws: usize,
    /// Level distances of those that were measured and neither slipped nor hit anything, m; null if there is none.
    pub distance_m: Option<Mean>,
    /// How far from the aim they ended, m, left positive; null if there is none.
    pub left_m: Option<Mean>,
    /// Where the next one ends; null of fewer than three.
    pub ellipse: Option<Ellipse>,
}

/// Whether two throws tell of the same.
fn is_alike(a: &FieldThrow, b: &FieldThrow) -> bool {
    let disc = |t: &FieldThrow| t.disc_id.map_or_else(|| Err(t.disc_name.clone()), Ok);
    disc(a) == disc(b) && (a.style, a.meant) == (b.style, b.meant)
}

/// Throws by disc and how they were meant, in the order in which they first come.
pub fn by_disc(throws: &[FieldThrow]) -> Vec<DiscSpread> {
    let mut groups: Vec<Vec<&FieldThrow>> = Vec::new();
    for throw in throws {
        match groups.iter_mut().find(|g| is_alike(g[0], throw)) {
            Some(group) => group.push(throw),
            None => groups.push(vec![throw]),
        }
    }
    groups.iter().map(|group| spread(group)).collect()
}

fn spread(group: &[&FieldThrow]) -> DiscSpread {
    let clean: Vec<&&FieldThrow> = group.iter().filter(|t| t.is_clean()).collect();
    let rests: Vec<Spot> = clean.iter().filter_map(|t| t.rest()).collect();
    let distances: Vec<f64> = clean.iter().filter_map(|t| t.distance_m).collect();
    let left: Vec<f64> = rests.iter().map(|r| r.left_m).collect();
    let FieldThrow { disc_id, ref disc_name, style, meant, .. } = *group[0];
    DiscSpread {
        disc_id,
        disc_name: disc_name.clone(),
        style,
        meant,
        throws: group.len(),
        distance_m: Mean::of(&distances),
        left_m: Mean::of(&left),
        ellipse: Ellipse::round(&rests),
    }
}

/// Distances of a disc on a day.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct DayDistance {
    /// The day.
    #[schema(value_type = String, format = Date)]
    pub date: Date,
    /// Where.
    pub place: String,
    /// How it was thrown.
    pub style: Style,
    /// How it was meant to leave the hand.
    pub meant: Meant,
    /// Its level distances, m.
    pub distance_m: Mean,
}

/// Distances of one disc over the season, day by day and by how it was thrown and meant, the earliest first: throws that were measured and neither
/// slipped nor hit anything.
pub fn over_season<'a>(throws: impl IntoIterator<Item = Measured<'a>>) -> Vec<DayDistance> {
    let mut days: BTreeMap<(Date, &str, Option<usize>, Meant), Vec<f64>> = BTreeMap::new();
    for Measured { session, throw } in throws.into_iter().filter(|m| m.throw.is_clean()) {
        let (date, place) = (session.date, session.place.as_str());
        let style = Style::ALL.iter().position(|s| *s == throw.style);
        days.entry((date, place, style, throw.meant)).or_default().extend(throw.distance_m);
    }
    let day = |((date, place, style, meant), distances): ((Date, &str, Option<usize>, Meant), Vec<f64>)| {
        let distance_m = Mean::of(&distances)?;
        Some(DayDistance { date, place: place.to_owned(), style: Style::ALL[style?], meant, distance_m })
    };
    days.into_iter().filter_map(day).collect()
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::field::session::FieldSession;
    use crate::field::throw::ThrowTag;
    use approx::assert_abs_diff_eq;
    use rand::rngs::StdRng;
    use rand::{RngExt, SeedableRng};
    use statrs::distribution::Normal;

    fn throw(name: &str, distance_m: f64, off_deg: f64) -> FieldThrow {
        let json = format!(
            r#"{{"disc_name":"{name}","style":"backhand","distance_m":{distance_m},"off_deg":{off_deg}}}"#
        );
        serde_json::from_str(&json).unwrap()
    }

    /// Rests scattered normally in the plane, along and across going together.
    fn sample(n: usize, random: &mut StdRng) -> Vec<Spot> {
        let normal = Normal::standard();
        let mut z = || normal.inverse_cdf(random.random_range(1e-9..1.0));
        let mut spot = || (z(), z());
        let at = |(a, b): (f64, f64)| Spot { at_m: 80.0 + 6.0 * a, left_m: 2.0 * a - 4.0 * b };
        (0..n).map(|_| at(spot())).collect()
    }

    /// The next throw ends inside in half of all cases, however few were measured: that is what a prediction region is.
    #[test]
    fn val_half_of_the_next_throws_end_inside() {
        let mut random = StdRng::seed_from_u64(3);
        for n in [3, 5, 15] {
            let is_inside = |_| {
                let mut rests = sample(n + 1, &mut random);
                let next = rests.pop().unwrap();
                Ellipse::round(&rests).unwrap().holds(&next)
            };
            let inside = (0..4000).map(is_inside).filter(|inside| *inside).count();
            // Four standard deviations of a share of 4000.
            assert_abs_diff_eq!(inside as f64 / 4000.0, 0.5, epsilon = 0.032);
        }
    }

    /// Throws mirrored left and right have the mirrored ellipse, and it is as large wherever they lie.
    #[test]
    fn prop_an_ellipse_is_mirrored_and_moved_as_its_throws_are() {
        let sample = &sample(12, &mut StdRng::seed_from_u64(5));
        let it = Ellipse::round(sample).unwrap();
        let mirrored: Vec<Spot> = sample.iter().map(|s| Spot { left_m: -s.left_m, ..*s }).collect();
        let other = Ellipse::round(&mirrored).unwrap();
        assert_abs_diff_eq!(other.left_m, -it.left_m, epsilon = 1e-9);
        assert_abs_diff_eq!(other.turned_deg, -it.turned_deg, epsilon = 1e-9);
        let moved: Vec<Spot> =
            sample.iter().map(|s| Spot { at_m: s.at_m + 20.0, left_m: s.left_m - 5.0 }).collect();
        let other = Ellipse::round(&moved).unwrap();
        assert_abs_diff_eq!(other.at_m, it.at_m + 20.0, epsilon = 1e-9);
        assert_abs_diff_eq!(other.long_m, it.long_m, epsilon = 1e-9);
        assert_abs_diff_eq!(other.short_m, it.short_m, epsilon = 1e-9);
        assert!(it.long_m > it.short_m && it.short_m > 0.0);
        assert!(Ellipse::round(&sample[..2]).is_none(), "two throws have none");
    }

    /// What slipped, hit something or was not measured says nothing of the disc, but was thrown.
    #[test]
    fn prop_only_clean_throws_are_measured() {
        let mut throws: Vec<FieldThrow> = (0..5).map(|k| throw("Purlin", 70.0 + f64::from(k), 2.0)).collect();
        throws[0].tags = vec![ThrowTag::Hit];
        throws[1].tags = vec![ThrowTag::Slipped];
        throws[2].distance_m = None;
        throws.push(throw("Vernier", 90.0, -3.0));
        let spreads = by_disc(&throws);
        assert_eq!(spreads.iter().map(|s| s.throws).collect::<Vec<_>>(), [5, 1]);
        let distance = spreads[0].distance_m.unwrap();
        assert_eq!((distance.n, distance.mean, distance.most), (2, 73.5, 74.0));
        assert_abs_diff_eq!(distance.sd.unwrap(), 0.5f64.sqrt(), epsilon = 1e-12);
        assert!(spreads[1].left_m.unwrap().mean < 0.0, "right of the aim is negative");
        let session: FieldSession =
            serde_json::from_str(r#"{"place":"Vell sands","date":"2026-05-02"}"#).unwrap();
        let days = over_season(throws.iter().map(|throw| Measured { session: &session, throw }));
        assert_eq!(days.len(), 1);
        assert_eq!(days[0].distance_m.n, 3);
    }
}
