//! A piece of ground with straight edges, and how far inside it a place lies.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A place on the ground: down-range from the tee and left of the straight line to the target.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Spot {
    /// Down-range, m; negative behind the tee.
    #[schema(minimum = -50.0, maximum = 300.0)]
    pub at_m: f64,
    /// Across, m, left positive.
    #[schema(minimum = -150.0, maximum = 150.0)]
    pub left_m: f64,
}

/// A piece of ground by its corners in order, either way round.
#[derive(Debug, Clone)]
pub(crate) struct Area {
    edges: Vec<Edge>,
}

/// From one corner by so much to the next, m; and what a place's way along it is multiplied with for its share of the edge.
#[derive(Debug, Clone, Copy)]
struct Edge {
    x: f32,
    y: f32,
    dx: f32,
    dy: f32,
    by_length2: f32,
}

impl Area {
    pub(crate) fn of(corners: &[Spot]) -> Area {
        let next = corners.iter().cycle().skip(1);
        let edge = |(a, b): (&Spot, &Spot)| {
            let (dx, dy) = (b.at_m - a.at_m, b.left_m - a.left_m);
            let length2 = dx * dx + dy * dy;
            Edge {
                x: a.at_m as f32,
                y: a.left_m as f32,
                dx: dx as f32,
                dy: dy as f32,
                by_length2: if length2 > 0.0 { (1.0 / length2) as f32 } else { 0.0 },
            }
        };
        Area { edges: corners.iter().zip(next).map(edge).collect() }
    }

    /// How far inside a place lies, m from the nearest edge; negative outside.
    #[inline(always)]
    pub(crate) fn inside_m(&self, x_m: f32, y_m: f32) -> f32 {
        let (mut nearest2, mut inside) = (f32::INFINITY, false);
        for edge in &self.edges {
            let (x, y) = (x_m - edge.x, y_m - edge.y);
            let share = ((x * edge.dx + y * edge.dy) * edge.by_length2).clamp(0.0, 1.0);
            let (off_x, off_y) = (x - share * edge.dx, y - share * edge.dy);
            nearest2 = nearest2.min(off_x * off_x + off_y * off_y);
            // A ray to the left crosses the edge: inside and outside change places.
            let crosses = (x < 0.0) != (x < edge.dx);
            inside ^= crosses && (y < edge.dy * x / edge.dx);
        }
        let nearest = nearest2.sqrt();
        if inside { nearest } else { -nearest }
    }

    /// The same for many places at once, edge by edge, so that it is a few loops over numbers.
    #[inline(always)]
    pub(crate) fn inside_all_m<const N: usize>(&self, x_m: &[f32; N], y_m: &[f32; N]) -> [f32; N] {
        // Signs change with every edge that a ray to the left crosses.
        let (mut nearest2, mut sign) = ([f32::INFINITY; N], [-1.0f32; N]);
        for edge in &self.edges {
            let rise = if edge.dx == 0.0 { 0.0 } else { edge.dy / edge.dx };
            for i in 0..N {
                let (x, y) = (x_m[i] - edge.x, y_m[i] - edge.y);
                let share = (x * edge.dx + y * edge.dy) * edge.by_length2;
                let share = if share > 0.0 { share } else { 0.0 };
                let share = if share < 1.0 { share } else { 1.0 };
                let (off_x, off_y) = (x - share * edge.dx, y - share * edge.dy);
                let off2 = off_x * off_x + off_y * off_y;
                nearest2[i] = if off2 < nearest2[i] { off2 } else { nearest2[i] };
                // Either end of the edge lies behind and the other not, and the place lies right of it.
                let (from, to) = (if x < 0.0 { -1.0 } else { 1.0 }, if x < edge.dx { -1.0 } else { 1.0f32 });
                let beside = if y < rise * x { from * to } else { 1.0 };
                sign[i] *= beside;
            }
        }
        std::array::from_fn(|i| sign[i] * nearest2[i].sqrt())
    }

    /// Where it begins and ends down-range, m.
    pub(crate) fn reach(&self) -> (f32, f32) {
        let xs = || self.edges.iter().map(|e| e.x);
        (xs().fold(f32::INFINITY, f32::min), xs().fold(f32::NEG_INFINITY, f32::max))
    }

    /// What of it lies across the line at `x_m`: pairs of right and left ends, m, left positive.
    pub(crate) fn across(&self, x_m: f32) -> Vec<(f32, f32)> {
        let mut ends: Vec<f32> = self
            .edges
            .iter()
            .filter(|e| (e.x <= x_m) != (e.x + e.dx <= x_m))
            .map(|e| e.y + e.dy * (x_m - e.x) / e.dx)
            .collect();
        ends.sort_by(f32::total_cmp);
        ends.chunks_exact(2).map(|pair| (pair[0], pair[1])).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn corners(places: &[(f64, f64)]) -> Vec<Spot> {
        places.iter().map(|&(at_m, left_m)| Spot { at_m, left_m }).collect()
    }

    proptest! {
        #[test]
        fn prop_inside_a_box_is_the_way_to_its_nearest_side(x in -20.0..60.0f32, y in -20.0..20.0f32) {
            let area = Area::of(&corners(&[(10.0, -5.0), (40.0, -5.0), (40.0, 8.0), (10.0, 8.0)]));
            let sides = [x - 10.0, 40.0 - x, y + 5.0, 8.0 - y];
            let within = sides.iter().copied().fold(f32::INFINITY, f32::min);
            let beyond = (10.0 - x).max(x - 40.0).max(0.0).hypot((-5.0 - y).max(y - 8.0).max(0.0));
            let expected = if within >= 0.0 { within } else { -beyond };
            prop_assert!((area.inside_m(x, y) - expected).abs() < 1e-4);
            let here = area.across(x);
            prop_assert_eq!(here.iter().any(|(right, left)| (*right..=*left).contains(&y)), within > 0.0);
        }

        /// Which corner comes first, and which way round they go, says nothing.
        #[test]
        fn prop_corners_may_be_told_from_any_on_either_way(
            turn in 0usize..5, x in -5.0..30.0f32, y in -10.0..30.0f32,
        ) {
            // An L: what lies in its bay is outside.
            let places = [(0.0, 0.0), (20.0, 0.0), (20.0, 8.0), (8.0, 8.0), (8.0, 20.0), (0.0, 20.0)];
            let mut other = corners(&places);
            let area = Area::of(&other);
            other.rotate_left(turn);
            other.reverse();
            let found = Area::of(&other).inside_m(x, y);
            prop_assert!((area.inside_m(x, y) - found).abs() < 1e-4 && (found < 0.0 || !(x > 8.0 && y > 8.0)));
            let many = area.inside_all_m(&[x, y, 3.0, 10.0], &[y, x, 2.0, 30.0]);
            prop_assert!((many[0] - area.inside_m(x, y)).abs() < 1e-4 && (many[1] - area.inside_m(y, x)).abs() < 1e-4);
            prop_assert!((many[2] - 2.0).abs() < 1e-4 && (many[3] + 10.198).abs() < 1e-2);
        }
    }
}
