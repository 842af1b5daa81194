//! Twins: two discs whose flights this player cannot tell apart.
//!
//! Both are thrown flat, on hyzer and on anhyzer at full controlled power, with the player's scatter. Where the two
//! clouds of landing place and height fall on one another, the player's own scatter hides the difference.

use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::Release;

use crate::disc::thrown::Thrown;
use crate::thrower::arm::Arm;
use crate::thrower::style::Style;

/// Overlap from which two discs count as twins. Own judgement: the middles of two round clouds that overlap this much
/// lie within 0.4 standard deviations of one another.
pub const TWIN_OVERLAP: f64 = 0.85;

const RELEASES_DEG: [f64; 3] = [0.0, 15.0, -10.0];
const POINTS: usize = 64;

/// Landing clouds of one disc over the standard releases, each as a normal distribution and its points.
pub struct Clouds(Vec<Cloud>);

struct Cloud {
    points: Vec<[f64; 2]>,
    mean: [f64; 2],
    /// Inverse covariance (a, b, d for [[a, b], [b, d]]) and the density's factor.
    inverse: [f64; 3],
    factor: f64,
}

impl Cloud {
    fn of(outcomes: &[Outcome]) -> Cloud {
        let points: Vec<[f64; 2]> = outcomes.iter().map(|o| [o.x_m, o.y_m]).collect();
        let n = points.len() as f64;
        let mean = [0, 1].map(|k| points.iter().map(|p| p[k]).sum::<f64>() / n);
        let mut s = [0.0; 3];
        for p in &points {
            let (dx, dy) = (p[0] - mean[0], p[1] - mean[1]);
            s[0] += dx * dx / n;
            s[1] += dx * dy / n;
            s[2] += dy * dy / n;
        }
        // A floor of 10 cm keeps a player without scatter finite.
        s[0] += 0.01;
        s[2] += 0.01;
        let determinant = s[0] * s[2] - s[1] * s[1];
        Cloud {
            points,
            mean,
            inverse: [s[2] / determinant, -s[1] / determinant, s[0] / determinant],
            factor: 1.0 / determinant.sqrt(),
        }
    }

    fn density(&self, p: &[f64; 2]) -> f64 {
        let (dx, dy) = (p[0] - self.mean[0], p[1] - self.mean[1]);
        let [a, b, d] = self.inverse;
        self.factor * (-0.5 * (a * dx * dx + 2.0 * b * dx * dy + d * dy * dy)).exp()
    }

    /// Overlap coefficient ∫ min(p, q), estimated from the points of both.
    fn overlap(&self, other: &Cloud) -> f64 {
        let half = |from: &Cloud, to: &Cloud| {
            let shares = from.points.iter().map(|p| (to.density(p) / from.density(p)).min(1.0));
            shares.sum::<f64>() / from.points.len() as f64
        };
        0.5 * (half(self, other) + half(other, self))
    }
}

/// Throws a disc over the standard releases with the player's scatter in `style`.
pub fn clouds(arm: &Arm, thrown: Thrown, style: Style) -> Clouds {
    let flat = arm.release(style, thrown.speed, 1.0);
    let spread = arm.spread(style, thrown.speed, 1.0);
    let clouds = RELEASES_DEG.map(|hyzer_deg| {
        let throw = Throw { disc: thrown.body, release: Release { hyzer_deg, ..flat }, wind: arm.wind };
        Cloud::of(&fly_all(&spread.scattered(&throw, arm.gust_m_s, 0..POINTS), &arm.air, &[]))
    });
    Clouds(clouds.into())
}

/// Overlap of two discs, 0 to 1: the least over the standard releases, since one release that tells them apart is
/// enough to want both.
pub fn overlap(a: &Clouds, b: &Clouds) -> f64 {
    a.0.iter().zip(&b.0).map(|(a, b)| a.overlap(b)).fold(1.0, f64::min)
}
