//! Hops of a disc that rolls: what it bounces up with where it comes down, and what bumps toss it up with after that.
//!
//! A bump tosses a disc up at a share of its speed, so that hops rise with the square of that; what it rises with is lost where it
//! lands. In the mean over a hop and its landing the ground bears the whole weight, so that hops change nothing else of where a disc
//! rolls: they are laid over its way.

use crate::air::GRAVITY_M_S2;
use crate::ground::Contact;
use crate::outcome::PathPoint;

/// How far one bump that tosses it is from the next, m. Own judgement.
const BUMP_EVERY_M: f64 = 7.0;
/// Hops lower than this are lost in the grass, m. Own judgement.
const SEEN_M: f64 = 0.03;
/// Most hops that are followed.
const MOST_HOPS: usize = 64;
/// Parts of a hop between the points that tell it.
const PARTS: usize = 4;

/// What hops take from the speed of a disc: by its square, 1/m, while it meets every bump, and as a share of its weight where it flies
/// over some.
pub(crate) fn hops_take(contact: &Contact) -> (f64, f64) {
    // What it rises with, (c v)²/2, on every bump, or every 2 c v²/g where hops are longer.
    let toss = contact.bed().toss;
    (0.5 * toss * toss / BUMP_EVERY_M, 0.25 * toss)
}

/// The way of a disc that came down at `fall_m_s` and rolled through `way`, points in the order of time, with its hops.
pub(crate) fn hopping(contact: &Contact, fall_m_s: f64, way: &[PathPoint]) -> Vec<PathPoint> {
    let [first, .., last] = way else { return way.to_vec() };
    let (toss, radius) = (contact.bed().toss, contact.disc.radius_m);
    let mut up = contact.bounce() * fall_m_s.max(0.0);
    let mut told = vec![*first];
    let mut from = *first;
    for _ in 0..MOST_HOPS {
        let speed = speed_at(way, from.t_s);
        up = up.max(toss * speed);
        let time = 2.0 * up / GRAVITY_M_S2;
        if up * up < 2.0 * GRAVITY_M_S2 * SEEN_M || from.t_s + time >= last.t_s {
            break;
        }
        for part in 1..=PARTS {
            let t = time * part as f64 / PARTS as f64;
            let on = at(way, from.t_s + t);
            told.push(PathPoint { z_m: radius + (up - 0.5 * GRAVITY_M_S2 * t) * t, ..on });
        }
        let waits = (BUMP_EVERY_M - speed * time).max(0.0) / speed.max(1e-6);
        let lands = from.t_s + time;
        // The fall it began with dies away bounce by bounce; bumps come one by one.
        up *= contact.bounce();
        let waits = if up > toss * speed { 0.0 } else { waits };
        told.extend(way.iter().filter(|p| lands < p.t_s && p.t_s < lands + waits));
        from = at(way, lands + waits);
        if waits > 0.0 {
            told.push(PathPoint { z_m: radius, ..from });
        }
    }
    told.extend(way.iter().filter(|p| p.t_s > from.t_s));
    told
}

/// The two points of a way about a time, the last two after its end.
fn about(way: &[PathPoint], t_s: f64) -> (PathPoint, PathPoint) {
    let after = way.partition_point(|p| p.t_s <= t_s).clamp(1, way.len() - 1);
    (way[after - 1], way[after])
}

fn at(way: &[PathPoint], t_s: f64) -> PathPoint {
    let (a, b) = about(way, t_s);
    let share = ((t_s - a.t_s) / (b.t_s - a.t_s).max(1e-9)).min(1.0);
    let mix = |a: f64, b: f64| a + share * (b - a);
    PathPoint { t_s, x_m: mix(a.x_m, b.x_m), y_m: mix(a.y_m, b.y_m), z_m: mix(a.z_m, b.z_m) }
}

fn speed_at(way: &[PathPoint], t_s: f64) -> f64 {
    let (a, b) = about(way, t_s);
    (b.x_m - a.x_m).hypot(b.y_m - a.y_m) / (b.t_s - a.t_s).max(1e-9)
}
