//! What is seen of a throw, and how likely that is where throws like it are known by their mean and how they scatter.

use nalgebra::{Cholesky, DMatrix, Dyn, SMatrix, SVector};
use zinc_kite_flight::outcome::Outcome;

use crate::field::throw::Measured;

/// Quantities that can be seen of a throw: where it rests along and left of the aim, m; how far that is, m, where the side is not known;
/// its swing, left positive, m; its apex, m; its time in the air, s.
pub(crate) const SEEN: usize = 6;
const FAR: usize = 2;
pub(crate) const SWING: usize = 3;
pub(crate) const APEX: usize = 4;
pub(crate) const TIME: usize = 5;
/// The first two are told by a rangefinder, the last three by eye and by counting.
pub(crate) const MEASURED: u8 = 0b00_0011;
/// All that can be known of a throw at once.
pub(crate) const WATCHED: u8 = 0b11_1011;

/// All of them of one throw.
pub(crate) type Quantities = SVector<f64, SEEN>;
/// How they vary together.
pub(crate) type Covariance = SMatrix<f64, SEEN, SEEN>;

/// What is read of a rest is no better than this, m.
const READ_M: f64 = 0.3;
/// How far off what is told by eye is, as a standard deviation: at the least, and as a share of it. Own judgement.
pub(crate) const BY_EYE: [(usize, f64, f64); 3] = [(SWING, 1.0, 0.25), (APEX, 0.8, 0.2), (TIME, 0.25, 0.03)];

/// Share of throws that are of another kind than meant without anybody having said so, and how much wider those lie. Own judgement.
const STRAY: f64 = 0.03;
const STRAY_WIDER: f64 = 4.0;

/// What was seen of one throw.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Sight {
    values: Quantities,
    /// Which of them were seen, one bit each.
    mask: u8,
}

/// All quantities of a flight whose disc turns to the right (`turn_side` −1) or to the left (1) before it fades.
pub(crate) fn flown(outcome: &Outcome, turn_side: f64) -> Quantities {
    let swing = if turn_side < 0.0 { -outcome.farthest_right_m } else { outcome.farthest_left_m };
    Quantities::from([outcome.x_m, outcome.y_m, outcome.distance_m(), swing, outcome.apex_m, outcome.time_s])
}

impl Sight {
    /// What was seen of a throw that was measured, its side only if it was thrown straight; its swing counts to the side to which its disc turns first, `turn_side` as in [`flown`].
    pub fn of(Measured { session, throw }: Measured<'_>, turn_side: f64) -> Option<Sight> {
        let mut values = Quantities::zeros();
        let mut mask = 0;
        let mut see = |k: usize, value: f64| {
            values[k] = value;
            mask |= 1 << k;
        };
        match throw.rest().filter(|_| Measured { session, throw }.is_straight()) {
            Some(rest) => {
                see(0, rest.at_m);
                see(1, rest.left_m);
            }
            None => see(FAR, throw.distance_m?),
        }
        let seen = &throw.seen;
        seen.swing_m.into_iter().for_each(|swing| see(SWING, turn_side * (turn_side * swing).max(0.0)));
        seen.apex_m.into_iter().for_each(|apex| see(APEX, apex));
        seen.time_s.into_iter().for_each(|time| see(TIME, time));
        Some(Sight { values, mask })
    }

    /// The same without its swing, which is none of many throws and so far from normal.
    pub fn without_swing(self) -> Sight {
        Sight { mask: self.mask & !(1 << SWING), ..self }
    }

    /// Whether more was seen of it than where it came to rest.
    pub fn is_watched(&self) -> bool {
        self.mask & !(MEASURED | 1 << FAR) != 0
    }
}

/// Mean of what throws did.
pub(crate) fn mean(throws: &[Quantities]) -> Quantities {
    throws.iter().sum::<Quantities>() / throws.len().max(1) as f64
}

/// How what throws did varies together, with what reading and seeing add.
pub(crate) fn covariance(throws: &[Quantities]) -> Covariance {
    let middle = mean(throws);
    let sum = throws.iter().map(|t| (t - middle) * (t - middle).transpose()).sum::<Covariance>();
    let mut covariance = sum / throws.len().max(1) as f64;
    for k in 0..=FAR {
        covariance[(k, k)] += READ_M * READ_M;
    }
    for (k, least, share) in BY_EYE {
        covariance[(k, k)] += least.hypot(share * middle[k]).powi(2);
    }
    covariance
}

/// Turns differences from the mean, of the quantities in a mask, into independent ones of deviation one; zeros elsewhere.
struct Whitener {
    matrix: SMatrix<f64, SEEN, SEEN>,
    /// Logarithm of the deviations' product.
    log_volume: f64,
    dimensions: f64,
}

/// The lower factor of the part of a covariance that a mask picks, and which quantities those are.
fn factor(covariance: &Covariance, mask: u8) -> (Vec<usize>, Option<Cholesky<f64, Dyn>>) {
    let places: Vec<usize> = (0..SEEN).filter(|k| mask >> k & 1 == 1).collect();
    let part = DMatrix::from_fn(places.len(), places.len(), |i, j| covariance[(places[i], places[j])]);
    let lower = part.cholesky();
    (places, lower)
}

impl Whitener {
    fn of(covariance: &Covariance, mask: u8) -> Whitener {
        let (places, lower) = factor(covariance, mask);
        let lower = lower.map(|c| c.l()).unwrap_or_else(|| {
            // Reading alone keeps every variance above zero; rounding may still spoil how they go together.
            DMatrix::from_fn(places.len(), places.len(), |i, j| {
                if i == j { covariance[(places[i], places[i])].sqrt() } else { 0.0 }
            })
        });
        let n = places.len();
        let inverse = lower.solve_lower_triangular(&DMatrix::identity(n, n)).unwrap_or_default();
        let mut matrix = SMatrix::zeros();
        for i in 0..n.min(inverse.nrows()) {
            for j in 0..=i {
                matrix[(places[i], places[j])] = inverse[(i, j)];
            }
        }
        let log_volume = (0..n).map(|k| lower[(k, k)].ln()).sum();
        Whitener { matrix, log_volume, dimensions: n as f64 }
    }
}

/// Throws like one another of which the same was seen.
struct SeenAlike {
    whitener: Whitener,
    whitened: Vec<Quantities>,
}

/// Throws meant alike, ready to be weighed against means.
pub(crate) struct Sights(Vec<SeenAlike>);

impl Sights {
    /// Of throws that scatter by `covariance`.
    pub fn of(sights: &[Sight], covariance: &Covariance) -> Sights {
        let mut all: Vec<(u8, SeenAlike)> = Vec::new();
        for sight in sights {
            if all.iter().all(|(mask, _)| *mask != sight.mask) {
                let whitener = Whitener::of(covariance, sight.mask);
                all.push((sight.mask, SeenAlike { whitener, whitened: vec![] }));
            }
            for (_, alike) in all.iter_mut().filter(|(mask, _)| *mask == sight.mask) {
                alike.whitened.push(alike.whitener.matrix * sight.values);
            }
        }
        Sights(all.into_iter().map(|(_, alike)| alike).collect())
    }

    /// Logarithm of how likely all of them are about a mean, up to a constant.
    pub fn log_likelihood(&self, mean: &Quantities) -> f64 {
        let of = |alike: &SeenAlike| {
            let at = alike.whitener.matrix * mean;
            let one =
                |point: &Quantities| log_density((point - at).norm_squared(), alike.whitener.dimensions);
            alike.whitened.iter().map(one).sum::<f64>()
                - alike.whitener.log_volume * alike.whitened.len() as f64
        };
        self.0.iter().map(of).sum()
    }
}

/// The logarithm of the density of one deviate, up to a constant: a normal one with a part of strays about it. Finite however far off: the
/// densities themselves are too small to be told from none.
fn log_density(square: f64, dimensions: f64) -> f64 {
    let near = (1.0 - STRAY).ln() - 0.5 * square;
    let wide = STRAY.ln() - dimensions * STRAY_WIDER.ln() - 0.5 * square / (STRAY_WIDER * STRAY_WIDER);
    near.max(wide) + (-(near - wide).abs()).exp().ln_1p()
}

/// What one throw tells about `N` unknowns by which means move with `slopes`, if the quantities in a mask are seen: the information
/// matrix of a normal distribution.
pub(crate) fn information<const N: usize>(
    slopes: &SMatrix<f64, SEEN, N>,
    covariance: &Covariance,
    mask: u8,
) -> SMatrix<f64, N, N> {
    let whitener = Whitener::of(covariance, mask);
    let white: SMatrix<f64, SEEN, N> = whitener.matrix * slopes;
    white.transpose() * white
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::field::session::FieldSession;
    use crate::field::throw::{FieldThrow, Meant, SeenFlight};
    use crate::thrower::style::Style;
    use approx::assert_relative_eq;
    use proptest::prelude::*;

    fn throw() -> FieldThrow {
        FieldThrow {
            distance_m: Some(80.0),
            off_deg: Some(5.0),
            ..FieldThrow::named("Purlin", Style::Backhand, Meant::Flat)
        }
    }

    fn seen(throw: &FieldThrow, turn_side: f64) -> Option<Sight> {
        Sight::of(Measured { session: &FieldSession::usual(), throw }, turn_side)
    }

    fn some_covariance(entries: &[f64]) -> Covariance {
        let half = Covariance::from_fn(|i, j| entries[(SEEN * i + j) % entries.len()]);
        half * half.transpose() + Covariance::identity()
    }

    proptest! {
        /// Near the middle, where strays say nothing, the likelihood of what was seen is the normal one of just those quantities,
        /// worked out here with a plain inverse and determinant.
        #[test]
        fn prop_what_was_not_seen_says_nothing(
            entries in prop::collection::vec(-2.0..2.0f64, 36),
            off in prop::array::uniform5(-0.5..0.5f64),
        ) {
            let covariance = some_covariance(&entries);
            let mut throw = throw();
            throw.seen = SeenFlight { apex_m: Some(9.0), ..SeenFlight::default() };
            let sight = seen(&throw, -1.0).unwrap();
            let about = |k: f64| Quantities::from([
                throw.rest().unwrap().at_m + k * off[0], throw.rest().unwrap().left_m + k * off[1], 0.0, 0.0, 9.0 + k * off[2], 0.0,
            ]);
            let sights = Sights::of(&[sight], &covariance);
            let places = [0, 1, APEX];
            let part = SMatrix::<f64, 3, 3>::from_fn(|i, j| covariance[(places[i], places[j])]);
            let d = SVector::<f64, 3>::from([off[0], off[1], off[2]]);
            let square = (d.transpose() * part.try_inverse().unwrap() * d)[0];
            let stray = log_density(square, 3.0) - log_density(0.0, 3.0);
            let told = sights.log_likelihood(&about(1.0)) - sights.log_likelihood(&about(0.0));
            prop_assert!((told - stray).abs() < 1e-6, "{told} {stray}");
            let volume = -sights.log_likelihood(&about(0.0)) + log_density(0.0, 3.0);
            prop_assert!((volume - 0.5 * part.determinant().ln()).abs() < 1e-6);
        }

        /// To see more never tells less.
        #[test]
        fn prop_to_see_more_tells_more(
            entries in prop::collection::vec(-2.0..2.0f64, 36),
            slopes in prop::collection::vec(-3.0..3.0f64, 12),
        ) {
            let covariance = some_covariance(&entries);
            let slopes = SMatrix::<f64, SEEN, 2>::from_iterator(slopes);
            let more = information(&slopes, &covariance, WATCHED) - information(&slopes, &covariance, MEASURED);
            prop_assert!(more.symmetric_eigenvalues().min() > -1e-9);
        }
    }

    /// Farther off is less likely, and a throw that is absurdly far off still is so by a finite amount.
    #[test]
    fn regress_an_absurd_throw_is_unlikely_by_a_finite_amount() {
        let far = [0.0, 1.0, 30.0, 1e3, 1e6, 1e9].map(|square| log_density(square, 2.0));
        assert!(far.windows(2).all(|w| w[1] < w[0]) && far[5].is_finite(), "{far:?}");
        let plain = ((1.0 - STRAY) * (-0.5_f64).exp() + STRAY * (-0.5_f64 / 16.0).exp() / 16.0).ln();
        assert_relative_eq!(far[1], plain, epsilon = 1e-12);
    }

    /// A swing to the side to which the disc fades is none; a distance without a side is told as far.
    #[test]
    fn prop_a_swing_is_to_the_turn_side() {
        let mut throw = throw();
        throw.seen.swing_m = Some(4.0);
        let (right, left) = (seen(&throw, -1.0).unwrap(), seen(&throw, 1.0).unwrap());
        assert_relative_eq!(right.values[SWING].abs(), 0.0);
        assert_relative_eq!(left.values[SWING], 4.0);
        assert!(left.is_watched());
        throw.seen.swing_m = None;
        throw.off_deg = None;
        let far = seen(&throw, -1.0).unwrap();
        assert_eq!(far.mask, 1 << FAR);
        assert!(!far.is_watched());
        throw.off_deg = Some(5.0);
        throw.line = Some("tunnel".into());
        assert_eq!(seen(&throw, -1.0).unwrap().mask, 1 << FAR, "its player aimed off");
        throw.distance_m = None;
        assert_eq!(seen(&throw, -1.0), None, "what was not measured is no sight");
    }
}
