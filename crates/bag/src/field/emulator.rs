//! Where throws meant alike end, as a function of the disc's numbers: flown once over a small design, then only evaluated.
//!
//! The numbers are told in units of how unsure they are at first. Mean and spread of the rests are polynomials of second degree in
//! them, fitted by least squares to flights at the points of a central composite design (G. E. P. Box and K. B. Wilson 1951, from
//! memory): the middle, two points on each axis and the corners of a cube.

use std::sync::LazyLock;

use nalgebra::{DMatrix, SMatrix, SVector};
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::scatter::deviates;

use crate::disc::thrown::Thrown;
use crate::error::BagError;
use crate::field::meant::{ends, meant};
use crate::field::session::FieldSession;
use crate::field::throw::FieldThrow;
use crate::need::area::Spot;
use crate::thrower::player::Player;

/// Numbers of a disc that are asked for: speed, glide, turn, fade.
pub(crate) const ASKED: usize = 4;
/// Terms of a polynomial of second degree in them.
const TERMS: usize = 1 + ASKED + ASKED * (ASKED + 1) / 2;
/// What is told of rests: mean along and across, logarithm of both deviations, Fisher's z of their correlation; and of the distance
/// alone, its mean and the logarithm of its deviation.
const TOLD: usize = 7;
/// How far from the middle the points on the axes lie.
const AXIAL: f64 = 2.0;
/// Points of the design.
const POINTS: usize = 1 + 2 * ASKED + (1 << ASKED);
/// Throws flown at each.
const FLOWN: usize = 256;
/// Least deviation that is believed, m: what is read is no better.
const LEAST_M: f64 = 0.3;

/// Numbers in units of how unsure they are at first, from the middle.
pub(crate) type Units = SVector<f64, ASKED>;

/// How unsure the numbers of a disc are before it is thrown: standard deviations about its as-thrown sum. Own judgement: discs of one
/// run differ by about half a number, and the sum's own constants are no surer.
pub(crate) const UNSURE: [f64; ASKED] = [0.7, 0.7, 0.9, 0.8];

/// The numbers so many units from the middle, within the range of the model.
pub(crate) fn numbers_at(middle: &FlightNumbers, units: &Units) -> FlightNumbers {
    let [speed, glide, turn, fade] = std::array::from_fn(|k| UNSURE[k] * units[k]);
    FlightNumbers::new(middle.speed + speed, middle.glide + glide, middle.turn + turn, middle.fade + fade)
        .clamped()
}

fn design() -> impl Iterator<Item = Units> {
    let axes = (0..ASKED)
        .flat_map(|k| [-AXIAL, AXIAL].map(|far| Units::from_fn(|i, _| if i == k { far } else { 0.0 })));
    let corners = (0..1usize << ASKED)
        .map(|corner| Units::from_fn(|i, _| if corner >> i & 1 == 1 { 1.0 } else { -1.0 }));
    std::iter::once(Units::zeros()).chain(axes).chain(corners)
}

/// The terms of the polynomial at some numbers.
pub(crate) type Terms = SVector<f64, TERMS>;

/// Works them out.
pub(crate) fn terms(units: &Units) -> Terms {
    let mut terms = Terms::zeros();
    terms[0] = 1.0;
    let mut next = 1;
    for i in 0..ASKED {
        terms[next] = units[i];
        next += 1;
        for j in i..ASKED {
            terms[next] = units[i] * units[j];
            next += 1;
        }
    }
    terms
}

/// What turns what was flown at the points of the design into the terms' factors: the pseudo-inverse of the terms there.
static FIT: LazyLock<DMatrix<f64>> = LazyLock::new(|| {
    let rows: Vec<Terms> = design().map(|units| terms(&units)).collect();
    let matrix = DMatrix::from_fn(POINTS, TERMS, |row, column| rows[row][column]);
    matrix.pseudo_inverse(1e-12).unwrap_or_else(|e| unreachable!("the design is fixed and of full rank: {e}"))
});

/// Rests of throws meant alike, for any numbers of their disc.
#[derive(Debug, Clone)]
pub(crate) struct Emulator {
    factors: SMatrix<f64, TOLD, TERMS>,
}

/// Rests as they are expected for some numbers.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Expected(SVector<f64, TOLD>);

/// Share of throws that are of another kind than meant without anybody having said so, and how much wider those lie. Own judgement.
const STRAY: f64 = 0.03;
const STRAY_WIDER: f64 = 4.0;

impl Emulator {
    /// Of throws like `like` of a disc held as `thrown`, whose numbers lie about `middle`.
    pub fn of(
        player: &Player,
        session: &FieldSession,
        like: &FieldThrow,
        thrown: &Thrown,
        (middle, mass_kg): (&FlightNumbers, f64),
    ) -> Result<Emulator, BagError> {
        let row = &deviates(like.style.into())[..FLOWN];
        let mut told = DMatrix::<f64>::zeros(POINTS, TOLD);
        for (k, units) in design().enumerate() {
            let disc = Thrown { body: numbers_at(middle, &units).disc(mass_kg)?, ..*thrown };
            let meant = meant(player, session, like, &disc)?;
            let rests = ends(player, session, &meant, &disc, row)?;
            let of = moments(&rests.iter().map(|o| Spot { at_m: o.x_m, left_m: o.y_m }).collect::<Vec<_>>());
            told.row_mut(k).copy_from_slice(&of);
        }
        let fitted = &*FIT * told;
        Ok(Emulator { factors: SMatrix::from_fn(|row, column| fitted[(column, row)]) })
    }

    /// Rests for some numbers by their terms, spread as for other numbers. Were the spread let go along, it would be read from the few
    /// throws that lie far off: their squares are much less sure than a normal distribution has them, since a disc skips or turns over.
    pub fn expected(&self, terms: &Terms, spread: &Terms) -> Expected {
        let mut expected = self.factors * spread;
        let means = self.factors * terms;
        for k in [0, 1, 5] {
            expected[k] = means[k];
        }
        Expected(expected)
    }

    /// How the mean rest moves with each number, and the deviations about it: m a unit, along and across, and m.
    pub fn slopes(&self) -> (SMatrix<f64, 2, ASKED>, [f64; 2]) {
        let mut slopes = SMatrix::zeros();
        let mut next = 1;
        for k in 0..ASKED {
            slopes[(0, k)] = self.factors[(0, next)];
            slopes[(1, k)] = self.factors[(1, next)];
            next += 1 + ASKED - k;
        }
        (slopes, [self.factors[(2, 0)].exp(), self.factors[(3, 0)].exp()])
    }
}

/// What is told of rests.
fn moments(rests: &[Spot]) -> [f64; TOLD] {
    let n = rests.len() as f64;
    let mean = |of: &dyn Fn(&Spot) -> f64| rests.iter().map(of).sum::<f64>() / n;
    let (x, y) = (mean(&|r| r.at_m), mean(&|r| r.left_m));
    let far = mean(&|r| r.at_m.hypot(r.left_m));
    let deviation = |variance: f64| variance.sqrt().max(LEAST_M);
    let along = deviation(mean(&|r| (r.at_m - x).powi(2)));
    let across = deviation(mean(&|r| (r.left_m - y).powi(2)));
    let distance = deviation(mean(&|r| (r.at_m.hypot(r.left_m) - far).powi(2)));
    let both = (mean(&|r| (r.at_m - x) * (r.left_m - y)) / (along * across)).clamp(-0.95, 0.95);
    [x, y, along.ln(), across.ln(), both.atanh(), far, distance.ln()]
}

/// A density of one deviate, up to a factor: a normal one with a part of strays about it.
fn log_density(square: f64, dimensions: f64) -> f64 {
    let wide = STRAY_WIDER.powf(-dimensions) * (-0.5 * square / STRAY_WIDER.powi(2)).exp();
    ((1.0 - STRAY) * (-0.5 * square).exp() + STRAY * wide).ln()
}

impl Expected {
    /// Logarithm of how likely a rest is.
    pub fn log_likelihood(&self, rest: &Spot) -> f64 {
        let e = &self.0;
        let rho = e[4].tanh();
        let (a, b) = ((rest.at_m - e[0]) * (-e[2]).exp(), (rest.left_m - e[1]) * (-e[3]).exp());
        let rest_of = 1.0 - rho * rho;
        let square = (a * a - 2.0 * rho * a * b + b * b) / rest_of;
        log_density(square, 2.0) - e[2] - e[3] - 0.5 * rest_of.ln()
    }

    /// The same of a distance whose side is not known, m.
    pub fn log_likelihood_far(&self, distance_m: f64) -> f64 {
        let e = &self.0;
        let a = (distance_m - e[5]) * (-e[6]).exp();
        log_density(a * a, 1.0) - e[6]
    }
}
