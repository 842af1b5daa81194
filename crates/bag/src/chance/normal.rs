//! The normal distribution as a score takes it, of which it needs thousands: without an exponential, and without a branch.

/// How likely a standard normal number is below `z`, within a hundredth.
#[inline(always)]
pub(super) fn below_normal(z: f32) -> f32 {
    0.5 + between_middle(z)
}

/// How likely it is between the middle and `z`, negative where `z` is: by the distribution whose density is the cube of a parabola,
/// which takes no exponential.
#[inline(always)]
fn between_middle(z: f32) -> f32 {
    let u = lower(if z > -WIDEST { z } else { -WIDEST }, WIDEST) * (1.0 / WIDEST);
    let square = u * u;
    let share = FULL * u * (1.0 - square * (1.0 - square * (0.6 - square / 7.0)));
    // To the digit all or nothing beyond: what lies out of every throw's way must change nothing.
    lower(if share > -0.5 { share } else { -0.5 }, 0.5)
}
/// The factor that makes all of it one, 35/32, and so little more that rounding leaves nothing missing.
const FULL: f32 = 1.093_750_4;
/// Where that density ends, in standard deviations: of all the one that comes nearest.
const WIDEST: f32 = 2.9;

/// How likely it is between two numbers, 0 where the first is greater. The same, to the digit, for what is mirrored.
#[inline(always)]
pub(super) fn between(low: f32, high: f32) -> f32 {
    let share = between_middle(high) - between_middle(low);
    if share > 0.0 { share } else { 0.0 }
}

#[inline(always)]
pub(super) fn least<const K: usize>(room: [f32; K]) -> f32 {
    room.into_iter().fold(f32::INFINITY, lower)
}

#[inline(always)]
pub(super) fn greatest<const K: usize>(room: [f32; K]) -> f32 {
    -least(room.map(|r| -r))
}

/// The lower of two numbers, neither of which is NaN: unlike `f32::min` one instruction.
#[inline(always)]
pub(super) fn lower(a: f32, b: f32) -> f32 {
    if b < a { b } else { a }
}

#[cfg(test)]
mod tests {
    use statrs::distribution::{ContinuousCDF, Normal};

    use super::*;

    #[test]
    fn val_below_normal_is_near_a_normal_distribution() {
        for k in -400..=400 {
            let z = 0.01 * f64::from(k);
            let (found, right) = (f64::from(below_normal(z as f32)), Normal::standard().cdf(z));
            assert!((found - right).abs() < 0.01, "{z}: {found} {right}");
        }
        assert_eq!((below_normal(-9.0), below_normal(9.0)), (0.0, 1.0));
    }
}
