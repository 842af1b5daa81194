//! The player's own scatter: how far one release differs from the next.

use std::ops::Range;
use std::sync::LazyLock;

use serde::{Deserialize, Serialize};
use statrs::distribution::{ContinuousCDF, Normal};

use crate::air::Wind;
use crate::dynamics::Throw;
use crate::release::{Release, Style, spin_sense};

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
        self.wider(k, k)
    }

    /// So many times as wide along (speed, launch, nose) and to the sides (hyzer, aim).
    pub fn wider(self, along: f64, side: f64) -> Spread {
        Spread {
            speed: along * self.speed,
            launch_deg: along * self.launch_deg,
            nose_deg: along * self.nose_deg,
            hyzer_deg: side * self.hyzer_deg,
            aim_deg: side * self.aim_deg,
        }
    }

    /// Both at once, as errors of different causes: the squares add.
    pub fn beside(self, other: &Spread) -> Spread {
        Spread {
            speed: self.speed.hypot(other.speed),
            hyzer_deg: self.hyzer_deg.hypot(other.hyzer_deg),
            launch_deg: self.launch_deg.hypot(other.launch_deg),
            nose_deg: self.nose_deg.hypot(other.nose_deg),
            aim_deg: self.aim_deg.hypot(other.aim_deg),
        }
    }

    /// The throw displaced by one of [`deviates`], each cut at [`FARTHEST_ERROR`] so that no throw leaves the model's range, in a wind
    /// that gusts by `gust_m_s` (standard deviation along and across). Errors are counted in the thrower's own sense,
    /// aim and gust toward the side to which the disc fades: a left-hander's scatter mirrors a right-hander's exactly.
    pub fn displace(&self, throw: &Throw, gust_m_s: f64, deviates: &[f64; DIMENSIONS]) -> Throw {
        let d = deviates.map(|x| x.clamp(-FARTHEST_ERROR, FARTHEST_ERROR));
        let Throw { release, wind, disc } = *throw;
        let side = spin_sense(release.hand, release.style);
        let faster = release.at_speed(release.speed_m_s * (1.0 + self.speed * d[0]).max(0.3));
        let release = Release {
            hyzer_deg: release.hyzer_deg + self.hyzer_deg * d[1],
            launch_deg: release.launch_deg + self.launch_deg * d[2],
            nose_deg: release.nose_deg + self.nose_deg * d[3],
            aim_deg: release.aim_deg + side * self.aim_deg * d[4],
            ..faster
        };
        let wind = Wind {
            along_m_s: wind.along_m_s + gust_m_s * d[5],
            left_m_s: wind.left_m_s + side * gust_m_s * d[6],
        };
        Throw { disc, release, wind }
    }

    /// The throw displaced by those of its style's [`deviates`] that are in `points`.
    pub fn scattered(&self, throw: &Throw, gust_m_s: f64, points: Range<usize>) -> Vec<Throw> {
        let displaced = |z| self.displace(throw, gust_m_s, z);
        deviates(throw.release.style)[points].iter().map(displaced).collect()
    }
}

/// Errors of the release that scatter: speed, hyzer, launch, nose, aim.
pub const RELEASE_ERRORS: usize = 5;
/// Place of the error of aim among them.
pub const AIM: usize = 4;
/// Beyond so many standard deviations either way errors are cut.
pub const FARTHEST_ERROR: f64 = 3.0;
/// All that scatters: the release, then the wind along and across.
pub const DIMENSIONS: usize = RELEASE_ERRORS + 2;
/// Points in the fixed set; any leading power of two of them is itself well spread, and so is the second half.
pub const POINTS: usize = 512;

/// How the errors of one release in a style go together: pairs of (error, error, correlation). Own judgement.
///
/// A disc that slips out early is slow and flies to its fade side; one held too long is quick and goes the other way.
/// The disc's own pitch is steadier than its path, so that a high launch comes with a low nose. A rolled wrist tips the
/// disc over and its nose up, most of all in a forehand. Overhand the arm swings from high to low: early is high and slow,
/// late is low and quick, and the disc's plane stays with the arm. A putt with too little push is lofted.
pub const fn correlations(style: Style) -> [(usize, usize, f64); 3] {
    match style {
        Style::Backhand => [(0, 4, -0.30), (2, 3, -0.30), (1, 3, -0.20)],
        Style::Forehand => [(0, 4, -0.35), (2, 3, -0.20), (1, 3, -0.40)],
        Style::Thumber | Style::Tomahawk => [(0, 2, -0.40), (2, 3, -0.40), (1, 4, -0.20)],
        Style::Putt => [(0, 2, -0.30), (2, 3, -0.30), (1, 4, -0.15)],
    }
}

/// Lower triangular factor L of the correlation matrix L Lᵀ (Cholesky's) of the errors of a release in a style, which turns
/// independent deviates into correlated ones.
pub fn correlation_factor(style: Style) -> [[f64; RELEASE_ERRORS]; RELEASE_ERRORS] {
    let mut c = [[0.0; RELEASE_ERRORS]; RELEASE_ERRORS];
    for (k, row) in c.iter_mut().enumerate() {
        row[k] = 1.0;
    }
    for (i, j, rho) in correlations(style) {
        c[i][j] = rho;
        c[j][i] = rho;
    }
    let mut l = [[0.0; RELEASE_ERRORS]; RELEASE_ERRORS];
    for i in 0..RELEASE_ERRORS {
        for j in 0..=i {
            let known: f64 = (0..j).map(|k| l[i][k] * l[j][k]).sum();
            l[i][j] = if i == j { (c[i][i] - known).sqrt() } else { (c[i][j] - known) / l[j][j] };
        }
    }
    l
}

/// Mean and standard deviation of the error of aim where the other errors of a release in a style are known (the first places of
/// `deviates`, as [`deviates`] are kept), in standard deviations of aim. What the others tell of it makes its spread smaller.
pub fn aim_given_others(style: Style, deviates: &[f64; DIMENSIONS]) -> (f64, f64) {
    let factor = correlation_factor(style);
    // Aim is the last of the release: what the others leave of it is independent of them.
    let mut independent = [0.0; AIM];
    for i in 0..AIM {
        let known: f64 = (0..i).map(|k| factor[i][k] * independent[k]).sum();
        independent[i] = (deviates[i] - known) / factor[i][i];
    }
    (independent.iter().zip(&factor[AIM]).map(|(z, l)| l * z).sum(), factor[AIM][AIM])
}

/// The same independent points for every style, each set correlated in its own way.
static DEVIATES: LazyLock<[Vec<[f64; DIMENSIONS]>; Style::ALL.len()]> = LazyLock::new(|| {
    let normal = Normal::standard();
    Style::ALL.map(|style| {
        let factor = correlation_factor(style);
        let correlated = |i: u32| {
            let independent: [f64; DIMENSIONS] = std::array::from_fn(|d| {
                // The generator's values lie on a grid of [0, 1): half a cell up keeps them off zero.
                let u = f64::from(sobol_burley::sample(i, d as u32, SEED)) + 0.5 / 16_777_216.0;
                normal.inverse_cdf(u)
            });
            let mut deviates = independent;
            for (d, row) in deviates.iter_mut().zip(&factor) {
                *d = row.iter().zip(&independent).map(|(l, z)| l * z).sum();
            }
            deviates
        };
        (0..POINTS as u32).map(correlated).collect()
    })
});

/// Seed of the Owen scrambling: fixed, so that every chance repeats exactly.
const SEED: u32 = 7;

/// The [`POINTS`] of a fixed set of standard normal deviates, those of the release correlated as [`correlations`] says for
/// the style: a scrambled Sobol sequence mapped through the inverse normal distribution. The same points serve every disc and
/// line, so that differences between chances are differences between discs.
pub fn deviates(style: Style) -> &'static [[f64; DIMENSIONS]] {
    &DEVIATES[style as usize]
}
