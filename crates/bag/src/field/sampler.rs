//! Draws from a distribution of which only the density is known, up to a factor: random-walk Metropolis (N. Metropolis and others 1953,
//! from memory) by a few walkers side by side, with steps shaped by first, rougher walks.

use nalgebra::{SMatrix, SVector};
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use rayon::prelude::*;
use statrs::distribution::{ContinuousCDF, Normal};

/// Share of cases in which something lies within what is told of it.
pub(crate) const SURE: f64 = 0.9;
/// Seed: fixed, so that the same throws always say the same.
const SEED: u64 = 11;
/// Walkers: a fixed number, so that the draws do not depend on the machine.
const WALKERS: usize = 4;
/// Steps of the walks that shape the next ones, at most as many as are kept in the end, and how often that is done.
const SHAPING: usize = 1200;
const ROUNDS: usize = 3;
/// Share of steps that are taken where a walk in few dimensions forgets soonest where it was (G. O. Roberts, A. Gelman and W. R. Gilks 1997,
/// from memory).
const TAKEN: f64 = 0.3;

/// One that walks over a distribution.
struct Walker<const N: usize> {
    at: SVector<f64, N>,
    log_density: f64,
    random: StdRng,
    /// How long its steps are, as a share of what the shape of the distribution would have.
    stride: f64,
}

impl<const N: usize> Walker<N> {
    /// One step with this shape; whether it was taken.
    fn step(
        &mut self,
        log_density: &impl Fn(&SVector<f64, N>) -> f64,
        factor: &SMatrix<f64, N, N>,
        normal: &Normal,
    ) -> bool {
        let deviates =
            SVector::<f64, N>::from_fn(|_, _| normal.inverse_cdf(self.random.random_range(1e-12..1.0)));
        let to = self.at + factor * deviates * self.stride;
        let density = log_density(&to);
        let taken = self.random.random_range(0.0..1.0_f64).ln() < density - self.log_density;
        if taken {
            (self.at, self.log_density) = (to, density);
        }
        taken
    }
}

/// So many draws of `N` numbers, a multiple of the walkers, from the distribution of `log_density`, begun at the origin with steps of
/// about `width`.
pub(crate) fn draws<const N: usize>(
    log_density: impl Fn(&SVector<f64, N>) -> f64 + Sync,
    width: f64,
    kept: usize,
) -> Vec<SVector<f64, N>> {
    let normal = Normal::standard();
    let best = 2.38 / (N as f64).sqrt();
    let begins = log_density(&SVector::zeros());
    let mut walkers: [Walker<N>; WALKERS] = std::array::from_fn(|k| Walker {
        at: SVector::zeros(),
        log_density: begins,
        random: StdRng::seed_from_u64(SEED + k as u64),
        stride: best,
    });
    let mut factor = SMatrix::<f64, N, N>::identity() * width;
    let shaping = SHAPING.min(kept) / WALKERS;
    for _ in 0..ROUNDS {
        let rough = walkers.par_iter_mut().flat_map_iter(|walker| {
            let mut walk = Vec::with_capacity(shaping);
            for k in 0..shaping {
                let taken = f64::from(u8::from(walker.step(&log_density, &factor, &normal)));
                // A step that is never taken finds no shape: shorter then, and longer where all are.
                walker.stride *= ((taken - TAKEN) / (1.0 + k as f64).powf(0.6)).exp();
                walk.push(walker.at);
            }
            walker.stride = best;
            // The first half still remembers where it began.
            walk.split_off(shaping / 2)
        });
        if let Some(shaped) = covariance(&rough.collect::<Vec<_>>()).cholesky() {
            factor = shaped.l();
        }
    }
    let walks = walkers.par_iter_mut().flat_map_iter(|walker| {
        let mut walk = Vec::with_capacity(kept / WALKERS);
        for _ in 0..kept / WALKERS {
            walker.step(&log_density, &factor, &normal);
            walk.push(walker.at);
        }
        walk
    });
    walks.collect()
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

    /// What many throws say lies far from where the walk begins, and is narrow: few rough draws find it, and how wide it is.
    #[test]
    fn val_a_narrow_distribution_far_off_is_found() {
        let mean = SVector::<f64, 3>::new(2.0, -1.5, 1.0);
        let wide = SVector::<f64, 3>::new(0.03, 0.06, 0.1);
        let density = |x: &SVector<f64, 3>| -0.5 * (x - mean).component_div(&wide).norm_squared();
        for kept in [400, 4000] {
            let drawn = draws(density, 0.5, kept);
            assert_eq!(drawn.len(), kept);
            let found = drawn.iter().sum::<SVector<f64, 3>>() / drawn.len() as f64;
            let off = (found - mean).component_div(&wide);
            assert!(off.amax() < 0.6, "{kept}: {off:.2?}");
            let spread = covariance(&drawn).diagonal().map(f64::sqrt).component_div(&wide);
            assert!(spread.iter().all(|s| (0.6..1.5).contains(s)), "{kept}: {spread:.2?}");
        }
    }
}
