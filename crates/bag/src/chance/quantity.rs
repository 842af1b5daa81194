//! How one quantity of every throw of a cloud changes when the centre of the cloud moves.

use crate::chance::points::{Column, Points, Quadratic, SHAPING, TERMS, mean, terms};

/// One quantity of every throw, and the quadratic that says how it changes.
pub(super) struct Quantity<const N: usize> {
    pub(super) flown: Column<N>,
    pub(super) mean: f32,
    pub(super) model: Quadratic,
}

impl<const N: usize> Quantity<N> {
    /// From what was flown, and from what it would have been without errors of aim, which the model leaves out.
    pub(super) fn fitted(points: &Points<N>, flown: Column<N>, straight: &Column<N>) -> Quantity<N> {
        let mut model = [0.0; TERMS];
        for (m, fit) in model.iter_mut().zip(&points.fit) {
            *m = product(fit, straight);
        }
        Quantity { mean: mean(&flown), flown, model }
    }

    /// What remains of what was seen at an opening, and what to add where there were no errors of aim. A throw that never came there
    /// tells nothing: the others' mean stands in for the fit, and then the fit for the throw.
    pub(super) fn seen(
        points: &Points<N>,
        found: [Option<f32>; N],
        straighten: &Column<N>,
    ) -> (Quantity<N>, Column<N>) {
        let straight: [Option<f32>; N] = std::array::from_fn(|i| found[i].map(|v| v + straighten[i]));
        let n = straight.iter().flatten().count().max(1) as f32;
        let usual = straight.iter().flatten().sum::<f32>() / n;
        let straight = straight.map(|v| v.unwrap_or(usual));
        let model = Quantity::fitted(points, [0.0; N], &straight);
        let flown = |i: usize| found[i].unwrap_or_else(|| model.at(&points.error(i)));
        let flown = std::array::from_fn(flown);
        (Quantity { mean: mean(&flown), flown, ..model }, straight)
    }

    /// Standard deviation of what each throw stands for, by the slope of the model where it lies. `straight` is what it was fitted to.
    pub(super) fn spreads(&self, points: &Points<N>, straight: &Column<N>) -> Column<N> {
        let [_, m_a, m_b, m_c, m_d, ..] = self.model;
        let gusts: f32 = points.gust_fit.iter().map(|fit| product(fit, straight).powi(2)).sum();
        let mut squares = [gusts; N];
        // Each independent error in turn moves those that go together with it.
        for [l_a, l_b, l_c, l_d] in points.together {
            let slope = m_a * l_a + m_b * l_b + m_c * l_c + m_d * l_d;
            let by = self.bends(&[l_a, l_b, l_c, l_d]);
            let [a, b, c, d] = &points.errors;
            for i in 0..N {
                let here = slope + by[0] * a[i] + by[1] * b[i] + by[2] * c[i] + by[3] * d[i];
                squares[i] += here * here;
            }
        }
        squares.map(|square| points.spread * square.sqrt())
    }

    pub(super) fn at(&self, z: &[f32; SHAPING]) -> f32 {
        self.model.iter().zip(terms(z)).map(|(m, t)| m * t).sum()
    }

    /// By how much the slope along a move changes per unit of each error.
    #[inline(always)]
    fn bends(&self, [a, b, c, d]: &[f32; SHAPING]) -> [f32; SHAPING] {
        let [_, _, _, _, _, aa, ab, ac, ad, bb, bc, bd, cc, cd, dd] = self.model;
        [
            2.0 * aa * a + ab * b + ac * c + ad * d,
            ab * a + 2.0 * bb * b + bc * c + bd * d,
            ac * a + bc * b + 2.0 * cc * c + cd * d,
            ad * a + bd * b + cd * c + 2.0 * dd * d,
        ]
    }

    /// How every throw's value changes once the centre has moved: by so much for all, and by so much per unit of each of
    /// its own errors. A quadratic's change is linear in where it starts.
    #[inline(always)]
    fn change(&self, shape: &[f32; SHAPING]) -> (f32, [f32; SHAPING]) {
        let [a, b, c, d] = *shape;
        let [_, m_a, m_b, m_c, m_d, aa, ab, ac, ad, bb, bc, bd, cc, cd, dd] = self.model;
        if Points::<N>::PLANE {
            return (a * m_a + b * m_b + c * m_c + d * m_d, [0.0; SHAPING]);
        }
        let all = a * (m_a + aa * a + ab * b + ac * c + ad * d)
            + b * (m_b + bb * b + bc * c + bd * d)
            + c * (m_c + cc * c + cd * d)
            + d * (m_d + dd * d);
        (all, self.bends(shape))
    }

    /// Every throw's value once the centre has moved.
    #[inline(always)]
    pub(super) fn moved(&self, shape: &[f32; SHAPING], points: &Points<N>) -> Column<N> {
        let (all, by) = self.change(shape);
        let [a, b, c, d] = &points.errors;
        let mut moved = self.flown;
        if Points::<N>::PLANE {
            moved.iter_mut().for_each(|value| *value += all);
            return moved;
        }
        for i in 0..N {
            moved[i] += all + by[0] * a[i] + by[1] * b[i] + by[2] * c[i] + by[3] * d[i];
        }
        moved
    }

    /// Their mean.
    pub(super) fn middle(&self, shape: &[f32; SHAPING], points: &Points<N>) -> f32 {
        let (all, by) = self.change(shape);
        let shifted = by.iter().zip(&points.means).map(|(by, mean)| by * mean).sum::<f32>();
        self.mean + all + shifted
    }
}

fn product<const N: usize>(a: &Column<N>, b: &Column<N>) -> f32 {
    a.iter().zip(b).map(|(a, b)| a * b).sum()
}

#[cfg(test)]
mod tests {
    use zinc_kite_flight::release::Style;

    use super::*;
    use crate::chance::points::few;

    const STYLE: Style = Style::Forehand;

    fn quadratic() -> Quantity<32> {
        let model: Quadratic = std::array::from_fn(|k| 0.3 * k as f32 - 1.7);
        let points = few(STYLE);
        let value = |z: &[f32; SHAPING]| terms(z).iter().zip(&model).map(|(t, c)| t * c).sum();
        let flown: Column<32> = std::array::from_fn(|i| value(&points.error(i)));
        Quantity::fitted(points, flown, &flown)
    }

    #[test]
    fn prop_the_fit_gives_a_quadratic_back() {
        for (k, found) in quadratic().model.iter().enumerate() {
            let expected = 0.3 * k as f32 - 1.7;
            assert!((found - expected).abs() < 1e-3, "term {k}: {found} {expected}");
        }
    }

    #[test]
    fn prop_moving_the_centre_is_flying_from_elsewhere() {
        let (quantity, shift) = (quadratic(), [0.7, -1.1, 0.4, -0.6]);
        let moved = quantity.moved(&shift, few(STYLE));
        for (i, moved) in moved.iter().enumerate() {
            let mut there = few(STYLE).error(i);
            there.iter_mut().zip(shift).for_each(|(z, s)| *z += s);
            assert!((moved - quantity.at(&there)).abs() < 1e-3, "{moved} {}", quantity.at(&there));
        }
        assert!((mean(&moved) - quantity.middle(&shift, few(STYLE))).abs() < 1e-3);
    }
}
