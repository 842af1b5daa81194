//! What a flight came to.

use serde::Serialize;

/// Most gates that one batch can watch.
pub const MAX_GATES: usize = 16;

/// Where a disc passed a given distance down-range. In single precision, as it was flown.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Crossing {
    /// Lateral place, m, left positive.
    pub y_m: f32,
    /// Height above the ground beneath, m, 0 or more.
    pub z_m: f32,
}

/// The crossings of a flight, in the order of the gates asked for.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Crossings([Crossing; MAX_GATES]);

impl Crossings {
    /// None.
    pub const NONE: Crossings = Crossings([Crossing { y_m: 0.0, z_m: -1.0 }; MAX_GATES]);

    /// That of the gate at place `k`; `None` where the disc never got so far.
    #[inline(always)]
    pub fn get(&self, k: usize) -> Option<Crossing> {
        self.0.get(k).filter(|c| c.z_m >= 0.0).copied()
    }

    /// Takes those of the first `gates` that are still missing from `others`.
    pub(crate) fn fill(&mut self, others: &Crossings, gates: usize) {
        for k in (0..gates).filter(|&k| others.get(k).is_some()) {
            if self.get(k).is_none() {
                self.0[k] = others.0[k];
            }
        }
    }

    /// Notes one.
    #[inline(always)]
    pub fn set(&mut self, k: usize, crossing: Option<Crossing>) {
        self.0[k] = crossing.unwrap_or(Self::NONE.0[k]);
    }
}

/// How a disc meets the ground. World frame.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Touch {
    /// Velocity of the disc's centre, m/s.
    pub velocity_m_s: [f64; 3],
    /// Direction of its normal, of length 1 to within rounding.
    pub normal: [f64; 3],
    /// Spin that is left, rad/s, positive clockwise seen from the disc's top.
    pub spin_rad_s: f64,
    /// Rise of the ground there, metres per metre down-range.
    pub slope: f64,
}

/// The end and the extremes of a flight. World frame: x down-range, y left, z up, from the thrower's feet.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Outcome {
    /// Down-range place of landing, m; of rest once [`crate::settle::settle`] has carried it on.
    pub x_m: f64,
    /// Lateral place, m, left positive, as `x_m`.
    pub y_m: f64,
    /// Time in the air, s.
    pub time_s: f64,
    /// Greatest height above the ground beneath, m.
    pub apex_m: f64,
    /// How far left of the line x it ever was, m, never negative.
    pub farthest_left_m: f64,
    /// How far right of the line x it ever was, m, never negative.
    pub farthest_right_m: f64,
    /// Way from the first touch to rest, m; 0 until [`crate::settle::settle`] has worked it out.
    #[serde(skip)]
    pub run_m: f64,
    /// Whether it went on on its edge; false until [`crate::settle::settle`] has worked it out.
    #[serde(skip)]
    pub rolled: bool,
    /// How it met the ground.
    #[serde(skip)]
    pub touch: Touch,
    /// False if the bounded flight time ran out first; then the figures are those of that moment.
    pub landed: bool,
    /// Crossings of the gates asked for.
    #[serde(skip)]
    pub crossings: Crossings,
}

impl Outcome {
    /// Of a throw that has not been flown.
    pub(crate) const NOT_FLOWN: Outcome = Outcome {
        x_m: 0.0,
        y_m: 0.0,
        time_s: 0.0,
        apex_m: 0.0,
        farthest_left_m: 0.0,
        farthest_right_m: 0.0,
        run_m: 0.0,
        rolled: false,
        touch: Touch { velocity_m_s: [0.0; 3], normal: [0.0; 3], spin_rad_s: 0.0, slope: 0.0 },
        landed: false,
        crossings: Crossings::NONE,
    };

    /// Notes where it passes those of `gates` (m down-range) on the ground that it had not passed in the air, if it slides on by `x` and
    /// `y` (m).
    pub(crate) fn pass_sliding(&mut self, x: f64, y: f64, gates: &[f64]) {
        for (k, gate) in gates.iter().enumerate().take(MAX_GATES) {
            let share = (gate - self.x_m) / x;
            if x > 0.0 && share > 0.0 && share <= 1.0 && self.crossings.get(k).is_none() {
                let y_m = (self.y_m + share * y) as f32;
                self.crossings.set(k, Some(Crossing { y_m, z_m: 0.0 }));
            }
        }
    }

    /// Moved on over the ground to where it rests, a `run` (m) later.
    pub(crate) fn come_to_rest(&mut self, x: f64, y: f64, run: f64) {
        self.x_m += x;
        self.y_m += y;
        self.run_m = run;
    }

    /// Distance from the tee over the ground, m.
    pub fn distance_m(&self) -> f64 {
        (self.x_m * self.x_m + self.y_m * self.y_m).sqrt()
    }

    /// How the disc leans about its path over the ground at landing, degrees, left edge down positive, −90 to 90; one on its back shows
    /// the ground the same edges.
    pub fn bank_deg(&self) -> f64 {
        let ([vx, vy, _], [nx, ny, nz]) = (self.touch.velocity_m_s, self.touch.normal);
        let level = vx.hypot(vy).max(1e-9);
        let left = (ny * vx - nx * vy) / level;
        let left = if nz < 0.0 { -left } else { left };
        left.atan2(nz.abs()).to_degrees()
    }

    /// Speed at landing, m/s.
    pub fn landing_speed_m_s(&self) -> f64 {
        let [x, y, z] = self.touch.velocity_m_s;
        (x * x + y * y + z * z).sqrt()
    }

    /// Steepness of the path at landing, degrees below the horizon.
    pub fn descent_deg(&self) -> f64 {
        let [x, y, z] = self.touch.velocity_m_s;
        (-z).atan2(x.hypot(y)).to_degrees()
    }
}

/// One moment of a flight.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct PathPoint {
    /// Time since release, s.
    pub t_s: f64,
    /// Down-range, m.
    pub x_m: f64,
    /// Left, m.
    pub y_m: f64,
    /// Up, m.
    pub z_m: f64,
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// A disc leans by as much whichever way it goes over the ground, to the other side in a mirror, and on its back as well.
        #[test]
        fn prop_a_disc_leans_the_same_whichever_way_it_goes(bank_deg in -85.0..85.0f64, way_deg in -180.0..180.0f64) {
            let leaning = |bank_deg: f64, back: f64| {
                let (sin, cos) = way_deg.to_radians().sin_cos();
                let (left, up) = bank_deg.to_radians().sin_cos();
                let normal = [-left * sin, left * cos, up].map(|x| back * x);
                let touch = Touch { velocity_m_s: [9.0 * cos, 9.0 * sin, -4.0], normal, ..Outcome::NOT_FLOWN.touch };
                Outcome { touch, ..Outcome::NOT_FLOWN }.bank_deg()
            };
            prop_assert!((leaning(bank_deg, 1.0) - bank_deg).abs() < 1e-9);
            prop_assert!((leaning(-bank_deg, 1.0) + bank_deg).abs() < 1e-9);
            prop_assert!((leaning(bank_deg, -1.0) - bank_deg).abs() < 1e-9, "on its back it shows the same edges");
        }
    }
}
