//! The path within one step, along one axis.

use crate::real::Real;

/// The quintic in θ = 0..1 through value, rate and second rate at both ends of a step: six coefficients.
#[derive(Clone, Copy)]
pub(crate) struct Curve<R>(pub [R; 6]);

impl<R: Real> Curve<R> {
    /// From value, rate (per s) and second rate at the start and the end of a step of `h` seconds.
    #[inline(always)]
    pub(crate) fn through(start: [R; 3], end: [R; 3], h: R) -> Curve<R> {
        let h2 = h * h;
        let (v0, v1) = (start[1] * h, end[1] * h);
        let (a0, a1) = (start[2] * h2, end[2] * h2);
        let half = h.like(0.5);
        let d = end[0] - start[0] - half.mul_add(a0, v0);
        let e = v1 - v0 - a0;
        let f = half * (a1 - a0);
        Curve([
            start[0],
            v0,
            half * a0,
            h.like(10.0).mul_add(d, h.like(-4.0).mul_add(e, f)),
            h.like(-15.0).mul_add(d, h.like(7.0).mul_add(e, h.like(-2.0) * f)),
            h.like(6.0).mul_add(d, h.like(-3.0).mul_add(e, f)),
        ])
    }

    #[inline(always)]
    pub(crate) fn value(&self, t: R) -> R {
        let c = &self.0;
        c[5].mul_add(t, c[4]).mul_add(t, c[3]).mul_add(t, c[2]).mul_add(t, c[1]).mul_add(t, c[0])
    }

    /// This less `share` times another.
    #[inline(always)]
    pub(crate) fn less(&self, share: R, other: &Curve<R>) -> Curve<R> {
        let (a, b, share) = (&self.0, &other.0, -share);
        Curve([
            share.mul_add(b[0], a[0]),
            share.mul_add(b[1], a[1]),
            share.mul_add(b[2], a[2]),
            share.mul_add(b[3], a[3]),
            share.mul_add(b[4], a[4]),
            share.mul_add(b[5], a[5]),
        ])
    }

    /// Rate per unit of θ.
    #[inline(always)]
    pub(crate) fn slope(&self, t: R) -> R {
        let c = &self.0;
        let high = (c[5] * t.like(5.0)).mul_add(t, c[4] * t.like(4.0)).mul_add(t, c[3] * t.like(3.0));
        high.mul_add(t, c[2] * t.like(2.0)).mul_add(t, c[1])
    }

    /// Second rate per unit of θ².
    #[inline(always)]
    fn bend(&self, t: R) -> R {
        let c = &self.0;
        let high = (c[5] * t.like(20.0)).mul_add(t, c[4] * t.like(12.0));
        high.mul_add(t, c[3] * t.like(6.0)).mul_add(t, c[2] * t.like(2.0))
    }

    /// θ near `guess` where the value is `target`, kept within 0..1. The value must run one way there.
    #[inline(always)]
    pub(crate) fn reaching(&self, target: R, guess: R) -> R {
        let (zero, one) = (guess.like(0.0), guess.like(1.0));
        let mut t = guess.max(zero).min(one);
        for _ in 0..3 {
            t = (t - (self.value(t) - target) / self.slope(t)).max(zero).min(one);
        }
        t
    }

    /// θ near `guess` where the slope is zero, kept within 0..1, where the value is right to the fourth power of what the
    /// guess is off: the slope being nothing there, a place near by is as good.
    #[inline(always)]
    pub(crate) fn turning(&self, guess: R) -> R {
        let (zero, one) = (guess.like(0.0), guess.like(1.0));
        let t = guess.max(zero).min(one);
        (t - self.slope(t) / self.bend(t)).max(zero).min(one)
    }
}
