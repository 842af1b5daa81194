//! How one quantity of every throw of a cloud changes when the centre of the cloud moves.

use zinc_kite_flight::air::Wind;

use crate::chance::points::{Column, Points, Quadratic, SHAPING, Short, TERMS, mean, terms};

/// What a turn to the left by a radian does to the wind met, in standard deviations of gust along and across.
pub(super) type Gusts = [f32; 2];

/// Where it blows so, with gusts of that standard deviation along and across; a throw's across counts toward `side` (+1 left).
/// Nothing in a steady wind: no gusts tell there what wind does.
pub(super) fn gusts_in_a_turn(wind: Wind, gust_m_s: f64, side: f64) -> Gusts {
    if gust_m_s == 0.0 {
        return [0.0; 2];
    }
    [wind.left_m_s, -side * wind.along_m_s].map(|met| (met / gust_m_s) as f32)
}

/// One quantity of every throw, and the quadratic that says how it changes.
pub(super) struct Quantity<const N: usize> {
    pub(super) flown: Column<N>,
    pub(super) mean: f32,
    pub(super) model: Quadratic,
    /// By how much it grows per radian that the centre is turned to the left, beside what turns with it: from there the wind is another.
    pub(super) turned: f32,
}

impl<const N: usize> Quantity<N> {
    /// From what was flown, and from what it would have been without errors of aim, which the model leaves out.
    pub(super) fn fitted(
        points: &Points<N>,
        flown: Column<N>,
        straight: &Column<N>,
        gusts: Gusts,
    ) -> Quantity<N> {
        let mut model = [0.0; TERMS];
        for (m, fit) in model.iter_mut().zip(&points.fit) {
            *m = product(fit, straight);
        }
        let turned = points.gust_fit.iter().zip(gusts).map(|(fit, gust)| gust * product(fit, straight)).sum();
        Quantity { mean: mean(&flown), flown, model, turned }
    }

    /// What remains of what was seen at an opening, and what to add where there were no errors of aim. A throw that never came there
    /// tells nothing: the others' mean stands in for the fit, and then the fit for the throw.
    pub(super) fn seen(
        points: &Points<N>,
        found: [Option<f32>; N],
        straighten: &Column<N>,
        gusts: Gusts,
    ) -> (Quantity<N>, Column<N>) {
        let straight: [Option<f32>; N] = std::array::from_fn(|i| found[i].map(|v| v + straighten[i]));
        let n = straight.iter().flatten().count().max(1) as f32;
        let usual = straight.iter().flatten().sum::<f32>() / n;
        let straight = straight.map(|v| v.unwrap_or(usual));
        let model = Quantity::fitted(points, [0.0; N], &straight, gusts);
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
    fn change(&self, shift: &Short) -> (f32, [f32; SHAPING]) {
        let [a, b, c, d] = shift.shape;
        let turned = shift.turned_rad * self.turned;
        let [_, m_a, m_b, m_c, m_d, aa, ab, ac, ad, bb, bc, bd, cc, cd, dd] = self.model;
        if Points::<N>::PLANE {
            return (turned + a * m_a + b * m_b + c * m_c + d * m_d, [0.0; SHAPING]);
        }
        let all = turned
            + a * (m_a + aa * a + ab * b + ac * c + ad * d)
            + b * (m_b + bb * b + bc * c + bd * d)
            + c * (m_c + cc * c + cd * d)
            + d * (m_d + dd * d);
        (all, self.bends(&shift.shape))
    }

    /// Every throw's value once the centre has moved.
    #[inline(always)]
    pub(super) fn moved(&self, shift: &Short, points: &Points<N>) -> Column<N> {
        let (all, by) = self.change(shift);
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
    pub(super) fn middle(&self, shift: &Short, points: &Points<N>) -> f32 {
        let (all, by) = self.change(shift);
        let shifted = by.iter().zip(&points.means).map(|(by, mean)| by * mean).sum::<f32>();
        self.mean + all + shifted
    }
}

fn product<const N: usize>(a: &Column<N>, b: &Column<N>) -> f32 {
    a.iter().zip(b).map(|(a, b)| a * b).sum()
}

#[cfg(test)]
mod tests {
    use zinc_kite_flight::air::Air;
    use zinc_kite_flight::batch::fly_all;
    use zinc_kite_flight::dynamics::Throw;
    use zinc_kite_flight::numbers::FlightNumbers;
    use zinc_kite_flight::release::{Hand, Release, Style};
    use zinc_kite_flight::scatter::Spread;

    use super::*;
    use crate::chance::points::{ALL, all, few};

    const STYLE: Style = Style::Forehand;

    fn quadratic() -> Quantity<32> {
        let model: Quadratic = std::array::from_fn(|k| 0.3 * k as f32 - 1.7);
        let points = few(STYLE);
        let value = |z: &[f32; SHAPING]| terms(z).iter().zip(&model).map(|(t, c)| t * c).sum();
        let flown: Column<32> = std::array::from_fn(|i| value(&points.error(i)));
        Quantity::fitted(points, flown, &flown, [0.0; 2])
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
        let (quantity, shape) = (quadratic(), [0.7, -1.1, 0.4, -0.6]);
        let shift = Short { shape, turned_rad: 0.0 };
        let moved = quantity.moved(&shift, few(STYLE));
        for (i, moved) in moved.iter().enumerate() {
            let mut there = few(STYLE).error(i);
            there.iter_mut().zip(shape).for_each(|(z, s)| *z += s);
            assert!((moved - quantity.at(&there)).abs() < 1e-3, "{moved} {}", quantity.at(&there));
        }
        assert!((mean(&moved) - quantity.middle(&shift, few(STYLE))).abs() < 1e-3);
    }

    /// Turned, a throw meets the wind from elsewhere; how far it then flies in the mean is told by what gusts did to a cloud.
    #[test]
    fn prop_a_turn_in_wind_is_told_by_gusts() {
        let (gust_m_s, turned_rad) = (1.5, 0.1f64);
        let points = all(Style::Backhand);
        let disc = FlightNumbers::new(9.0, 5.0, -1.0, 2.0).disc(0.175).expect("a usual disc");
        let spread = Spread { speed: 0.03, hyzer_deg: 3.0, launch_deg: 2.0, nose_deg: 1.5, aim_deg: 0.0 };
        for (hand, side) in [(Hand::Right, 1.0), (Hand::Left, -1.0)] {
            let release = Release::rated(26.0, hand, Style::Backhand);
            let flown = |wind: Wind| -> Column<ALL> {
                let throw = Throw { disc, release, wind };
                let throws: Vec<Throw> =
                    points.drawn_in.iter().map(|z| spread.displace(&throw, gust_m_s, z)).collect();
                let flights = fly_all(&throws, &Air::default(), &[]);
                std::array::from_fn(|i| flights[i].x_m as f32)
            };
            for (along_m_s, left_m_s) in [(-5.0, 0.0), (0.0, 5.0), (0.0, -5.0), (3.0, 4.0)] {
                let wind = Wind { along_m_s, left_m_s };
                let (sin, cos) = turned_rad.sin_cos();
                let met = Wind {
                    along_m_s: along_m_s * cos + left_m_s * sin,
                    left_m_s: left_m_s * cos - along_m_s * sin,
                };
                let x_m = flown(wind);
                let quantity = Quantity::fitted(points, x_m, &x_m, gusts_in_a_turn(wind, gust_m_s, side));
                let shift = Short { shape: [0.0; SHAPING], turned_rad: turned_rad as f32 };
                let told = quantity.middle(&shift, points) - quantity.mean;
                let right = mean(&flown(met)) - quantity.mean;
                assert!(
                    (told - right).abs() < 0.3 + 0.2 * right.abs(),
                    "{hand:?} {wind:?}: {told} m, not {right} m"
                );
            }
        }
    }
}
