//! Draws from a distribution of which only the density is known, up to a factor: random-walk Metropolis (N. Metropolis and others 1953,
//! from memory), with steps shaped by a first, rougher walk.

use nalgebra::{SMatrix, SVector};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use statrs::distribution::{ContinuousCDF, Normal};

/// Share of cases in which something lies within what is told of it.
pub(crate) const SURE: f64 = 0.9;
/// Seed: fixed, so that the same throws always say the same.
const SEED: u64 = 11;
/// Steps of a walk that shapes the next one's, at most as many as are kept in the end, and how often that is done.
const SHAPING: usize = 1200;
const ROUNDS: usize = 3;

/// So many draws of `N` numbers from the distribution of `log_density`, begun at the origin with steps of about `width`.
pub(crate) fn draws<const N: usize>(
    log_density: impl Fn(&SVector<f64, N>) -> f64,
    width: f64,
    kept: usize,
) -> Vec<SVector<f64, N>> {
    let mut random = StdRng::seed_from_u64(SEED);
    let normal = Normal::standard();
    let mut deviate = move || normal.inverse_cdf(random.random_range(1e-12..1.0));
    let mut uniform = StdRng::seed_from_u64(SEED + 1);
    // The step that lets the walk forget soonest where it began (G. O. Roberts, A. Gelman and W. R. Gilks 1997, from memory).
    let best = 2.38 / (N as f64).sqrt();
    let mut factor = SMatrix::<f64, N, N>::identity() * width;
    let mut at = (SVector::<f64, N>::zeros(), log_density(&SVector::zeros()));
    let mut walk = |from: &mut (SVector<f64, N>, f64), factor: &SMatrix<f64, N, N>, steps: usize| {
        let mut kept = Vec::with_capacity(steps);
        for _ in 0..steps {
            let step = factor * SVector::<f64, N>::from_fn(|_, _| deviate()) * best;
            let to = from.0 + step;
            let density = log_density(&to);
            if uniform.random_range(0.0..1.0_f64).ln() < density - from.1 {
                *from = (to, density);
            }
            kept.push(from.0);
        }
        kept
    };
    let shaping = SHAPING.min(kept);
    for _ in 0..ROUNDS {
        let rough = walk(&mut at, &factor, shaping);
        // The first third still remembers where it began.
        if let Some(shaped) = covariance(&rough[shaping / 3..]).cholesky() {
            factor = shaped.l();
        }
    }
    walk(&mut at, &factor, kept)
}

/// Covariance of draws, with a little on its diagonal, so that a walk that stood still steps on.
pub(crate) fn covariance<const N: usize>(draws: &[SVector<f64, N>]) -> SMatrix<f64, N, N> {
    let n = draws.len().max(1) as f64;
    let mean = draws.iter().sum::<SVector<f64, N>>() / n;
    let sum = draws.iter().map(|d| (d - mean) * (d - mean).transpose()).sum::<SMatrix<f64, N, N>>();
    sum / n + SMatrix::identity() * 1e-6
}

/// The value below which a share of figures lies.
pub(crate) fn quantile(sorted: &[f64], share: f64) -> f64 {
    let at = share * (sorted.len().max(1) - 1) as f64;
    let (below, above) = (at.floor() as usize, at.ceil() as usize);
    let part = at - at.floor();
    sorted.get(below).copied().unwrap_or(0.0) * (1.0 - part)
        + sorted.get(above).copied().unwrap_or(0.0) * part
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;

    /// A normal distribution is drawn as it is: mean, deviations and how they go together.
    #[test]
    fn val_a_normal_distribution_is_drawn_as_it_is() {
        let wanted = SMatrix::<f64, 2, 2>::new(4.0, 1.5, 1.5, 1.0);
        let inverse = wanted.try_inverse().unwrap_or_default();
        let mean = SVector::<f64, 2>::new(3.0, -1.0);
        let drawn = draws(|x| -0.5 * ((x - mean).transpose() * inverse * (x - mean))[0], 1.0, 6000);
        let found = drawn.iter().sum::<SVector<f64, 2>>() / drawn.len() as f64;
        assert_abs_diff_eq!(found, mean, epsilon = 0.2);
        assert_abs_diff_eq!(covariance(&drawn), wanted, epsilon = 0.5);
        let mut first: Vec<f64> = drawn.iter().map(|d| d[0]).collect();
        first.sort_by(f64::total_cmp);
        // 90 % of a normal distribution lie within 1.645 deviations.
        assert_abs_diff_eq!(quantile(&first, 0.05), 3.0 - 1.645 * 2.0, epsilon = 0.3);
        assert_abs_diff_eq!(quantile(&first, 0.95), 3.0 + 1.645 * 2.0, epsilon = 0.3);
    }
}
