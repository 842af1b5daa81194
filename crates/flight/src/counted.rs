//! Plain numbers that count what is done with them: the kernel flown over them tells how much arithmetic a flight is.

use std::cell::Cell;
use std::ops::{Add, Div, Mul, Neg, Sub};

use crate::real::Real;

thread_local! {
    static OPERATIONS: Cell<u64> = const { Cell::new(0) };
}

/// Operations counted on this thread while `work` ran.
pub(crate) fn counting(work: impl FnOnce()) -> u64 {
    let before = OPERATIONS.get();
    work();
    OPERATIONS.get() - before
}

#[derive(Clone, Copy)]
pub(crate) struct Counted(f64);

fn counted(value: f64) -> Counted {
    OPERATIONS.set(OPERATIONS.get() + 1);
    Counted(value)
}

macro_rules! operator {
    ($trait:ident, $method:ident) => {
        impl $trait for Counted {
            type Output = Self;
            fn $method(self, other: Self) -> Self {
                counted(self.0.$method(other.0))
            }
        }
    };
}
operator!(Add, add);
operator!(Sub, sub);
operator!(Mul, mul);
operator!(Div, div);

impl Neg for Counted {
    type Output = Self;
    fn neg(self) -> Self {
        counted(-self.0)
    }
}

impl Real for Counted {
    type Token = ();
    const WIDTH: usize = 1;

    fn load(_token: (), column: &[f64]) -> Self {
        Counted(column[0])
    }
    fn store(self, column: &mut [f64]) {
        column[0] = self.0;
    }
    fn like(self, value: f64) -> Self {
        Counted(value)
    }
    fn mul_add(self, b: Self, c: Self) -> Self {
        counted(self.0.mul_add(b.0, c.0))
    }
    fn sqrt(self) -> Self {
        counted(self.0.sqrt())
    }
    fn abs(self) -> Self {
        counted(self.0.abs())
    }
    fn min(self, other: Self) -> Self {
        counted(Real::min(self.0, other.0))
    }
    fn max(self, other: Self) -> Self {
        counted(Real::max(self.0, other.0))
    }
    fn if_less(self, other: Self, yes: Self, no: Self) -> Self {
        counted(self.0.if_less(other.0, yes.0, no.0))
    }
    fn any_less(self, other: Self) -> bool {
        counted(0.0);
        self.0 < other.0
    }
}
