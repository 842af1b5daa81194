//! Something that is flown as a function of a few unknowns, known by flights at few points: polynomials of second degree, fitted by least
//! squares to a central composite design (G. E. P. Box and K. B. Wilson 1951, from memory): the middle, two points on each axis and the
//! corners of a cube. The unknowns are told in units of how unsure they are at first.

use nalgebra::{DMatrix, SMatrix, SVector};

/// How far from the middle the points on the axes lie.
const AXIAL: f64 = 2.0;

/// Terms of a polynomial of second degree in so many unknowns.
pub(crate) const fn terms_in(unknowns: usize) -> usize {
    1 + unknowns + unknowns * (unknowns + 1) / 2
}

/// The points of the design, the middle first.
pub(crate) fn points<const N: usize>() -> Vec<SVector<f64, N>> {
    let axes = (0..N)
        .flat_map(|k| [-AXIAL, AXIAL].map(|far| SVector::from_fn(|i, _| if i == k { far } else { 0.0 })));
    let corners =
        (0..1usize << N).map(|corner| SVector::from_fn(|i, _| if corner >> i & 1 == 1 { 1.0 } else { -1.0 }));
    std::iter::once(SVector::zeros()).chain(axes).chain(corners).collect()
}

/// The terms of the polynomial at some values of its unknowns; `T` is [`terms_in`] of `N`.
pub(crate) fn terms<const N: usize, const T: usize>(units: &SVector<f64, N>) -> SVector<f64, T> {
    let mut terms = SVector::zeros();
    terms[0] = 1.0;
    let mut next = 1;
    for i in 0..N {
        terms[next] = units[i];
        next += 1;
        for j in i..N {
            terms[next] = units[i] * units[j];
            next += 1;
        }
    }
    terms
}

/// `M` quantities as functions of `N` unknowns; `T` is [`terms_in`] of `N`.
#[derive(Debug, Clone)]
pub(crate) struct Surface<const N: usize, const T: usize, const M: usize> {
    factors: SMatrix<f64, M, T>,
}

impl<const N: usize, const T: usize, const M: usize> Surface<N, T, M> {
    /// Through what was flown at [`points`], in their order.
    pub fn through(flown: &[SVector<f64, M>]) -> Self {
        let rows: Vec<SVector<f64, T>> = points::<N>().iter().map(terms).collect();
        let matrix = DMatrix::from_fn(rows.len(), T, |row, column| rows[row][column]);
        let inverse = matrix
            .pseudo_inverse(1e-12)
            .unwrap_or_else(|e| unreachable!("the design is fixed and of full rank: {e}"));
        let told = DMatrix::from_fn(flown.len(), M, |row, column| flown[row][column]);
        let fitted = inverse * told;
        Surface { factors: SMatrix::from_fn(|row, column| fitted[(column, row)]) }
    }

    /// The quantities by the [`terms`] of the unknowns.
    pub fn at(&self, terms: &SVector<f64, T>) -> SVector<f64, M> {
        self.factors * terms
    }

    /// How each quantity moves with each unknown in the middle, per unit.
    pub fn slopes(&self) -> SMatrix<f64, M, N> {
        let mut slopes = SMatrix::<f64, M, N>::zeros();
        let mut next = 1;
        for k in 0..N {
            slopes.set_column(k, &self.factors.column(next));
            next += 1 + N - k;
        }
        slopes
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// What is of second degree is found again, anywhere, and so are its slopes in the middle.
        #[test]
        fn prop_what_is_of_second_degree_is_found_again(
            factors in prop::array::uniform10(-3.0..3.0f64),
            at in prop::array::uniform3(-2.0..2.0f64),
        ) {
            const T: usize = terms_in(3);
            let truth = |units: &SVector<f64, 3>| SVector::<f64, 1>::new(SVector::from(factors).dot(&terms::<3, T>(units)));
            let flown: Vec<_> = points::<3>().iter().map(truth).collect();
            let surface = Surface::<3, T, 1>::through(&flown);
            let units = SVector::from(at);
            prop_assert!((surface.at(&terms(&units))[0] - truth(&units)[0]).abs() < 1e-9);
            let slopes = surface.slopes();
            for (k, place) in [1, 5, 8].into_iter().enumerate() {
                prop_assert!((slopes[(0, k)] - factors[place]).abs() < 1e-9);
            }
        }
    }
}
