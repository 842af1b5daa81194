//! One number or one register of numbers: the arithmetic that the flight kernel is written in.
//!
//! The kernel in [`crate::dynamics`] exists once. Flown over `f64` it is the scalar reference; flown over
//! [`Lanes`] it advances as many flights as a vector register holds, in single precision. Every fused multiply-add is
//! asked for explicitly, so that a flight is the same in a register of any width.

use std::ops::{Add, Div, Mul, Neg, Sub};

use pulp::Simd;

/// Real arithmetic over one or several independent flights.
pub trait Real:
    Copy + Add<Output = Self> + Sub<Output = Self> + Mul<Output = Self> + Div<Output = Self> + Neg<Output = Self>
{
    /// What proves that the instruction set is present.
    type Token: Copy;
    /// Number of flights side by side.
    const WIDTH: usize;

    /// Takes the first `WIDTH` numbers of a column, one a lane.
    fn load(token: Self::Token, column: &[f64]) -> Self;
    /// Writes its lanes to the first `WIDTH` numbers of a column.
    fn store(self, column: &mut [f64]);
    /// The lanes as a column.
    #[inline(always)]
    fn column(self) -> Column {
        let mut column = [0.0; MAX_WIDTH];
        self.store(&mut column);
        column
    }
    /// The same constant in every lane.
    fn like(self, value: f64) -> Self;
    /// `self * b + c`, rounded once.
    fn mul_add(self, b: Self, c: Self) -> Self;
    /// Square root.
    fn sqrt(self) -> Self;
    /// Its size without its sign.
    fn abs(self) -> Self;
    /// The smaller of two.
    fn min(self, other: Self) -> Self;
    /// The larger of two.
    fn max(self, other: Self) -> Self;
    /// Lane by lane, `yes` where `self < other`, else `no` (also where either is NaN).
    fn if_less(self, other: Self, yes: Self, no: Self) -> Self;
    /// Whether `self < other` in any lane.
    fn any_less(self, other: Self) -> bool;
}

/// No register of any instruction set in use holds more numbers than this.
pub const MAX_WIDTH: usize = 16;
/// One quantity of all flights that advance together.
pub type Column = [f64; MAX_WIDTH];

impl Real for f64 {
    type Token = ();
    const WIDTH: usize = 1;

    #[inline(always)]
    fn load(_token: (), column: &[f64]) -> Self {
        column[0]
    }
    #[inline(always)]
    fn store(self, column: &mut [f64]) {
        column[0] = self;
    }
    #[inline(always)]
    fn like(self, value: f64) -> Self {
        value
    }
    #[inline(always)]
    fn mul_add(self, b: Self, c: Self) -> Self {
        f64::mul_add(self, b, c)
    }
    #[inline(always)]
    fn sqrt(self) -> Self {
        f64::sqrt(self)
    }
    #[inline(always)]
    fn abs(self) -> Self {
        f64::abs(self)
    }
    #[inline(always)]
    fn min(self, other: Self) -> Self {
        if self < other { self } else { other }
    }
    #[inline(always)]
    fn max(self, other: Self) -> Self {
        if self > other { self } else { other }
    }
    #[inline(always)]
    fn if_less(self, other: Self, yes: Self, no: Self) -> Self {
        if self < other { yes } else { no }
    }
    #[inline(always)]
    fn any_less(self, other: Self) -> bool {
        self < other
    }
}

/// One vector register of flights in single precision, which places a landing to a tenth of a millimetre: far finer than the
/// steps do, and twice the flights of double. Aligned so that none ever lies across two lines of the cache.
#[derive(Clone, Copy)]
#[repr(align(64))]
pub struct Lanes<S: Simd> {
    token: S,
    v: S::f32s,
}

macro_rules! operator {
    ($trait:ident, $method:ident, $simd:ident) => {
        impl<S: Simd> $trait for Lanes<S> {
            type Output = Self;
            #[inline(always)]
            fn $method(self, other: Self) -> Self {
                Lanes { token: self.token, v: self.token.$simd(self.v, other.v) }
            }
        }
    };
}
operator!(Add, add, add_f32s);
operator!(Sub, sub, sub_f32s);
operator!(Mul, mul, mul_f32s);
operator!(Div, div, div_f32s);

impl<S: Simd> Neg for Lanes<S> {
    type Output = Self;
    #[inline(always)]
    fn neg(self) -> Self {
        Lanes { token: self.token, v: self.token.neg_f32s(self.v) }
    }
}

impl<S: Simd> Real for Lanes<S> {
    type Token = S;
    const WIDTH: usize = S::F32_LANES;

    #[inline(always)]
    fn load(token: S, column: &[f64]) -> Self {
        let mut numbers = [0.0; MAX_WIDTH];
        for (number, &value) in numbers[..S::F32_LANES].iter_mut().zip(column) {
            *number = value as f32;
        }
        Lanes { token, v: S::as_simd_f32s(&numbers[..S::F32_LANES]).0[0] }
    }
    #[inline(always)]
    fn store(self, column: &mut [f64]) {
        let mut numbers = [0.0; MAX_WIDTH];
        S::as_mut_simd_f32s(&mut numbers[..S::F32_LANES]).0[0] = self.v;
        for (value, &number) in column.iter_mut().zip(&numbers[..S::F32_LANES]) {
            *value = f64::from(number);
        }
    }
    #[inline(always)]
    fn like(self, value: f64) -> Self {
        Lanes { token: self.token, v: self.token.splat_f32s(value as f32) }
    }
    #[inline(always)]
    fn mul_add(self, b: Self, c: Self) -> Self {
        Lanes { token: self.token, v: self.token.mul_add_f32s(self.v, b.v, c.v) }
    }
    #[inline(always)]
    fn sqrt(self) -> Self {
        Lanes { token: self.token, v: self.token.sqrt_f32s(self.v) }
    }
    #[inline(always)]
    fn abs(self) -> Self {
        Lanes { token: self.token, v: self.token.abs_f32s(self.v) }
    }
    #[inline(always)]
    fn min(self, other: Self) -> Self {
        Lanes { token: self.token, v: self.token.min_f32s(self.v, other.v) }
    }
    #[inline(always)]
    fn max(self, other: Self) -> Self {
        Lanes { token: self.token, v: self.token.max_f32s(self.v, other.v) }
    }
    #[inline(always)]
    fn if_less(self, other: Self, yes: Self, no: Self) -> Self {
        let mask = self.token.less_than_f32s(self.v, other.v);
        Lanes { token: self.token, v: self.token.select_f32s(mask, yes.v, no.v) }
    }
    #[inline(always)]
    fn any_less(self, other: Self) -> bool {
        self.token.first_true_m32s(self.token.less_than_f32s(self.v, other.v)) < S::F32_LANES
    }
}

/// A polynomial of five terms, the constant first, by Estrin's scheme: fewer operations wait for one another than by
/// Horner's rule.
#[inline(always)]
pub fn quintet<R: Real>(x: R, c: &[f64; 5]) -> R {
    let two = |k: usize| x.like(c[k + 1]).mul_add(x, x.like(c[k]));
    let x2 = x * x;
    x2.mul_add(x.like(c[4]), two(2)).mul_add(x2, two(0))
}

/// Sine and cosine of `x` (rad, −π to π), to within 1e-15: Taylor's series of a quarter of it, doubled twice.
#[inline(always)]
pub fn sin_cos<R: Real>(x: R) -> (R, R) {
    let one = x.like(1.0);
    let x = x * x.like(0.25);
    let x2 = x * x;
    let (mut sin, mut cos) = (one, one);
    for k in (1..=8).rev() {
        let k = 2.0 * f64::from(k);
        cos = (cos * x2).mul_add(x.like(-1.0 / (k * (k - 1.0))), one);
        sin = (sin * x2).mul_add(x.like(-1.0 / (k * (k + 1.0))), one);
    }
    sin = sin * x;
    for _ in 0..2 {
        (sin, cos) = ((sin + sin) * cos, (sin + sin).mul_add(-sin, one));
    }
    (sin, cos)
}

/// atan(x)/x as a polynomial in x², by Chebyshev interpolation on 0..tan² 25°. Error below 5e-8.
const ATAN_OVER_X: [f64; 5] = [
    0.999_999_943_767_464_7,
    -0.333_320_355_826_019_15,
    0.199_513_404_961_103_34,
    -0.136_323_517_012_868_63,
    0.073_433_410_031_677_76,
];

/// The angle (rad) whose half has this tangent, at most tan 25° either way, to within 1e-7.
#[inline(always)]
pub fn angle_of_half<R: Real>(half_tan: R) -> R {
    half_tan * quintet(half_tan * half_tan, &ATAN_OVER_X) * half_tan.like(2.0)
}

/// The angle (0 to π/2 rad) above the axis of `x` at which the point (`x`, `y`) lies, neither coordinate negative, to within
/// 1e-7. 0 for the origin.
#[inline(always)]
pub fn elevation<R: Real>(y: R, x: R) -> R {
    let one = x.like(1.0);
    // Never more than 45° from the nearer axis.
    let tan = x.min(y) / x.max(y).max(x.like(f64::MIN_POSITIVE));
    let near = angle_of_half(tan / (one + tan.mul_add(tan, one).sqrt()));
    x.if_less(y, x.like(std::f64::consts::FRAC_PI_2) - near, near)
}

/// e⁻ˣ for x ≥ 0, to within 1e-9 of itself up to x = 30: Taylor's series of its 256th root.
#[inline(always)]
pub fn exp_minus<R: Real>(x: R) -> R {
    let one = x.like(1.0);
    let r = x.min(x.like(60.0)) * x.like(-1.0 / 256.0);
    let mut e = one;
    for k in (1..=7).rev() {
        e = (e * r).mul_add(x.like(1.0 / f64::from(k)), one);
    }
    for _ in 0..8 {
        e = e * e;
    }
    e
}

/// A vector in the world frame: x down-range, y left, z up.
#[derive(Clone, Copy)]
pub struct Vec3<R> {
    /// Down-range.
    pub x: R,
    /// Left.
    pub y: R,
    /// Up.
    pub z: R,
}

impl<R: Real> Vec3<R> {
    /// One component: 0 is x, 1 is y, 2 is z.
    #[inline(always)]
    pub fn part<const K: usize>(&self) -> R {
        [self.x, self.y, self.z][K]
    }
    /// Scalar product.
    #[inline(always)]
    pub fn dot(self, o: Self) -> R {
        self.x.mul_add(o.x, self.y.mul_add(o.y, self.z * o.z))
    }
    /// Vector product.
    #[inline(always)]
    pub fn cross(self, o: Self) -> Self {
        Vec3 {
            x: self.y.mul_add(o.z, -(self.z * o.y)),
            y: self.z.mul_add(o.x, -(self.x * o.z)),
            z: self.x.mul_add(o.y, -(self.y * o.x)),
        }
    }
    /// Every component times `k`.
    #[inline(always)]
    pub fn scale(self, k: R) -> Self {
        Vec3 { x: self.x * k, y: self.y * k, z: self.z * k }
    }
    /// `self + o * k`.
    #[inline(always)]
    pub fn plus_scaled(self, o: Self, k: R) -> Self {
        Vec3 { x: o.x.mul_add(k, self.x), y: o.y.mul_add(k, self.y), z: o.z.mul_add(k, self.z) }
    }
    /// Lane by lane, `self` where `a < b`, else `o`.
    #[inline(always)]
    pub fn if_less(self, a: R, b: R, o: Self) -> Self {
        Vec3 { x: a.if_less(b, self.x, o.x), y: a.if_less(b, self.y, o.y), z: a.if_less(b, self.z, o.z) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::{assert_abs_diff_eq, assert_relative_eq};

    /// Against the functions of the standard library.
    #[test]
    fn val_functions_are_those_of_the_library() {
        for k in -720i32..=720 {
            let x = f64::from(k) * std::f64::consts::PI / 720.0;
            let (sin, cos) = sin_cos(x);
            assert_abs_diff_eq!(sin, x.sin(), epsilon = 1e-15);
            assert_abs_diff_eq!(cos, x.cos(), epsilon = 1e-15);
            let (y, across) = (x.sin().abs() * 7.0, x.cos().abs() * 7.0);
            assert_abs_diff_eq!(elevation(y, across), y.atan2(across), epsilon = 1e-7);
            let x = f64::from(k.abs()) / 24.0;
            assert_relative_eq!(exp_minus(x), (-x).exp(), max_relative = 1e-9);
        }
        assert_eq!(elevation(0.0, 0.0), 0.0);
        assert!(exp_minus(1e9) < 1e-20);
    }
}
