//! The player's own scatter: how far one release differs from the next.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};
use statrs::distribution::{ContinuousCDF, Normal};

use crate::release::{Release, spin_sense};

/// Standard deviations of the release. Own judgement; see docs/model.md.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Spread {
    /// Speed, share of itself.
    pub speed: f64,
    /// Hyzer, degrees.
    pub hyzer_deg: f64,
    /// Launch, degrees.
    pub launch_deg: f64,
    /// Nose, degrees.
    pub nose_deg: f64,
    /// Aim, degrees.
    pub aim_deg: f64,
}

impl Spread {
    /// Every deviation times `k`.
    pub fn scaled(self, k: f64) -> Spread {
        Spread {
            speed: self.speed * k,
            hyzer_deg: self.hyzer_deg * k,
            launch_deg: self.launch_deg * k,
            nose_deg: self.nose_deg * k,
            aim_deg: self.aim_deg * k,
        }
    }

    /// The release displaced by standard normal deviates, each cut at ±3 so that no throw leaves the model's range.
    /// Errors are counted in the thrower's own sense, aim toward the side to which the disc fades: a left-hander's
    /// scatter mirrors a right-hander's exactly.
    pub fn displace(&self, release: &Release, deviates: &[f64; DIMENSIONS]) -> Release {
        let d = deviates.map(|x| x.clamp(-3.0, 3.0));
        let faster = release.at_speed(release.speed_m_s * (1.0 + self.speed * d[0]).max(0.3));
        Release {
            hyzer_deg: release.hyzer_deg + self.hyzer_deg * d[1],
            launch_deg: release.launch_deg + self.launch_deg * d[2],
            nose_deg: release.nose_deg + self.nose_deg * d[3],
            aim_deg: release.aim_deg + spin_sense(release.hand, release.style) * self.aim_deg * d[4],
            ..faster
        }
    }
}

/// Release errors that scatter.
pub const DIMENSIONS: usize = 5;
/// Points in the fixed set; any leading power of two of them is itself well spread.
pub const POINTS: usize = 256;

static DEVIATES: LazyLock<Vec<[f64; DIMENSIONS]>> = LazyLock::new(|| {
    let normal = Normal::standard();
    (0..POINTS as u32)
        .map(|i| {
            std::array::from_fn(|d| {
                // The generator's values lie on a grid of [0, 1): half a cell up keeps them off zero.
                let u = f64::from(sobol_burley::sample(i, d as u32, SEED)) + 0.5 / 16_777_216.0;
                normal.inverse_cdf(u)
            })
        })
        .collect()
});

/// Seed of the Owen scrambling: fixed, so that every chance repeats exactly.
const SEED: u32 = 7;

/// The first `n` (at most [`POINTS`]) of a fixed set of independent standard normal deviates: a scrambled Sobol
/// sequence mapped through the inverse normal distribution. The same points serve every disc and line, so that
/// differences between chances are differences between discs.
pub fn deviates(n: usize) -> &'static [[f64; DIMENSIONS]] {
    &DEVIATES[..n.min(POINTS)]
}
