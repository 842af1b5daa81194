//! A centre moved to where the model of its cloud says that the line is made oftenest.

use zinc_kite_flight::scatter::Spread;

use crate::chance::points::{SHAPING, Shift, Slopes};
use crate::chance::response::Response;
use crate::chance::shot::{Centre, Shot};

/// How far the model of a cloud can be trusted, in standard deviations of the player's scatter: a longer move is flown and
/// modelled again.
pub(super) const NEAR_MOVE: f64 = 1.2;

impl Shot<'_> {
    /// The move that brings the middle of a cloud onto the target.
    pub(super) fn centring(&self, c: &Centre, middle: (f64, f64)) -> Shift {
        let (x, y) = middle;
        let farther = (self.line.rest_at_m() - far((x, y))) / (c.slope * c.power * self.spread(c).speed);
        let shape = [farther.clamp(-NEAR_MOVE, NEAR_MOVE), 0.0, 0.0, 0.0];
        let aim_deg = -y.atan2(x.max(1.0)).to_degrees().clamp(-10.0, 10.0);
        Shift { shape, aim_deg }
    }

    /// Compass search on the model of a cloud: along each of power, hyzer, launch, nose and aim, and along launch against nose,
    /// up and down, with ever smaller steps, from where it was flown or from where it would be centred, whichever does better;
    /// nowhere more than `farthest` standard deviations away. All but power and aim also with these following so that the
    /// middle of the throws stays where it is, or a good place would have to be found by two moves of which the first is worse.
    pub(super) fn improved<const N: usize>(&self, c: &Centre, r: &Response<N>, farthest: f64) -> Centre {
        self.improved_knowing(&Slopes::default(), c, r, farthest)
    }

    /// The same where it is known what the model leaves out.
    pub(super) fn improved_knowing<const N: usize>(
        &self,
        beyond: &Slopes,
        c: &Centre,
        r: &Response<N>,
        farthest: f64,
    ) -> Centre {
        let (room, spread) = (self.room_to_move(c, farthest), self.spread(c));
        let per_farther_m = 1.0 / (c.slope * c.power * spread.speed);
        let scored = |to: Shift| (r.score(&to) + beyond.after(&to), to);
        let better = |a: (f64, Shift), b: (f64, Shift)| if b.0 > a.0 { b } else { a };
        let centred = room.kept(self.centring(c, r.middle(&Shift::default())));
        let mut best = better(scored(Shift::default()), scored(centred));
        let ways = ways(&spread, self.side());
        let [mut step, last] = r.points.steps;
        while step >= last {
            // Round and round, until every way in turn has led nowhere.
            let (mut in_vain, mut came_by) = (0, None);
            for (k, way) in ways.iter().enumerate().cycle() {
                let from = best;
                for sign in [step, -step] {
                    // Straight back leads to where it was worse.
                    if came_by == Some((k, -sign)) {
                        continue;
                    }
                    let tried = room.kept(from.1.plus(way, sign));
                    if tried == from.1 {
                        continue;
                    }
                    best = better(best, scored(tried));
                    if k >= FOLLOWED_BY_POWER_AND_AIM {
                        let (was, now) = (r.middle(&from.1), r.middle(&tried));
                        let mut held = tried;
                        held.shape[0] += (far(was) - far(now)) * per_farther_m;
                        held.aim_deg += angle_between(now, was);
                        best = better(best, scored(room.kept(held)));
                    }
                    if best.0 > from.0 {
                        came_by = Some((k, sign));
                        break;
                    }
                }
                in_vain = if best.0 > from.0 { 0 } else { in_vain + 1 };
                if in_vain == ways.len() {
                    break;
                }
            }
            step *= 0.5;
        }
        Centre { score: best.0, ..self.moved(c, &best.1) }
    }
}

/// Where an improvement looks: along power, aim, hyzer, launch and nose, and along launch against nose, the disc's own pitch
/// kept: under a roof, or into the wind, neither will do without the other.
fn ways(spread: &Spread, side: f64) -> [Shift; SHAPING + 2] {
    let against = -spread.launch_deg / spread.nose_deg;
    [
        Shift::along(0, 1.0),
        Shift { aim_deg: side, ..Shift::default() },
        Shift::along(1, 1.0),
        Shift::along(2, 1.0),
        Shift::along(3, 1.0),
        Shift::along(2, 1.0).plus(&Shift::along(3, 1.0), against),
    ]
}

/// The first of these that power and aim can follow.
const FOLLOWED_BY_POWER_AND_AIM: usize = 2;

/// How far away a place is, m. Not by `hypot`, which takes care of numbers no place has and its time for it.
fn far((x, y): (f64, f64)) -> f64 {
    (x * x + y * y).sqrt()
}

/// How far it is from one place to another as seen from the tee, degrees, left positive. By the angle's tangent: the places
/// are near to one another.
fn angle_between(from: (f64, f64), to: (f64, f64)) -> f64 {
    let (cross, dot) = (from.0 * to.1 - from.1 * to.0, from.0 * to.0 + from.1 * to.1);
    (cross / dot.max(1.0)).clamp(-0.5, 0.5).to_degrees()
}
