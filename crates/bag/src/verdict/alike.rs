//! Shelves of hundreds: of discs that fly nearly alike one stands in for the others until it does well.
//!
//! Stand-ins are chosen so that no disc is far from one of them (the greedy choice of the farthest, T. Gonzalez, *Clustering to
//! minimize the maximum intercluster distance*, 1985, from memory); those in the bag always are. On a line the stand-ins are
//! asked first, then those whose stand-ins do best. What this may miss is tested.

use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::{Disc, Use};
use crate::thrower::style::Style;

/// Stand-ins of a shelf; a shelf of no more discs is asked whole.
const STAND_INS: usize = 60;
/// Discs beside the stand-ins that are asked on a line.
pub(crate) const FOLLOWERS: usize = 40;

/// Differences that change a flight about as much as one another: in speed, glide, turn and fade as thrown, mass in g, and in
/// the speed by which it is thrown. Own judgement.
const ALIKE: [f64; 6] = [1.0, 0.7, 0.5, 0.5, 6.0, 1.5];
const DIMENSIONS: usize = ALIKE.len();

/// Where a disc stands among others, in such differences; and what it is used for, whether its player is tied to it, and in which
/// styles it is thrown, across which nothing is alike.
#[derive(Clone, Copy)]
struct Likeness([f64; DIMENSIONS], (Use, bool, [bool; Style::ALL.len()]));

impl Likeness {
    fn of(disc: &Disc) -> Likeness {
        let (s, n) = (&disc.spec, as_thrown(&disc.spec).result);
        let values = [n.speed, n.glide, n.turn, n.fade, s.mass_g, s.printed.speed];
        let used = (s.used_for, s.keeping.is_dear(), Style::ALL.map(|style| s.answers(style)));
        Likeness(std::array::from_fn(|k| values[k] / ALIKE[k]), used)
    }

    /// Square of how far two are apart.
    fn apart2(&self, other: &Likeness) -> f64 {
        if self.1 != other.1 {
            return f64::INFINITY;
        }
        self.0.iter().zip(&other.0).map(|(a, b)| (a - b) * (a - b)).sum()
    }
}

/// How far two discs are from flying alike, in differences that change a flight about as much as [`ALIKE`]; infinite between
/// discs that are used otherwise.
pub(crate) fn apart(a: &Disc, b: &Disc) -> f64 {
    Likeness::of(a).apart2(&Likeness::of(b)).sqrt()
}

/// A disc that stands in for others, by their places.
pub(crate) struct StandIn {
    pub disc: usize,
    /// Those it stands in for, the nearest first.
    pub followers: Vec<usize>,
}

/// The stand-ins of some discs, of which those `kept` always are.
pub(crate) fn stand_ins(discs: &[&Disc], kept: impl Fn(&Disc) -> bool) -> Vec<StandIn> {
    if discs.len() <= STAND_INS {
        let alone = |disc| StandIn { disc, followers: vec![] };
        return (0..discs.len()).map(alone).collect();
    }
    let likeness: Vec<Likeness> = discs.iter().map(|d| Likeness::of(d)).collect();
    let mut chosen: Vec<usize> = (0..discs.len()).filter(|&k| kept(discs[k])).collect();
    // Square of the way to the nearest chosen, and which that is.
    let mut nearest: Vec<(f64, usize)> = vec![(f64::INFINITY, 0); discs.len()];
    let draw_near = |nearest: &mut Vec<(f64, usize)>, place: usize, chosen: usize| {
        for (near, at) in nearest.iter_mut().zip(&likeness) {
            let apart2 = at.apart2(&likeness[chosen]);
            if apart2 < near.0 {
                *near = (apart2, place);
            }
        }
    };
    chosen.iter().enumerate().for_each(|(place, &k)| draw_near(&mut nearest, place, k));
    while chosen.len() < STAND_INS {
        let farthest =
            (0..discs.len()).max_by(|&a, &b| nearest[a].0.total_cmp(&nearest[b].0).then(b.cmp(&a)));
        let Some(k) = farthest.filter(|&k| nearest[k].0 > 0.0) else { break };
        draw_near(&mut nearest, chosen.len(), k);
        chosen.push(k);
    }
    let mut found: Vec<StandIn> = chosen.iter().map(|&disc| StandIn { disc, followers: vec![] }).collect();
    let mut others: Vec<usize> = (0..discs.len()).filter(|k| !chosen.contains(k)).collect();
    others.sort_by(|&a, &b| nearest[a].0.total_cmp(&nearest[b].0).then(a.cmp(&b)));
    others.into_iter().for_each(|k| found[nearest[k].1].followers.push(k));
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::disc::plastic::Plastic;
    use crate::disc::spec::{DiscId, DiscSpec, Numbers};

    fn shelf(n: i64) -> Vec<Disc> {
        let printed = |k: i64| Numbers {
            speed: 2.0 + (k % 12) as f64,
            glide: 3.0 + (k % 4) as f64,
            turn: -0.5 * (k % 9) as f64,
            fade: 0.5 * (k % 7) as f64,
        };
        let spec = |k: i64| DiscSpec {
            name: format!("disc {k}"),
            plastic: Plastic::Premium,
            mass_g: 165.0 + (k % 11) as f64,
            used_for: if k % 40 == 7 { Use::Putting } else { Use::Throwing },
            ..DiscSpec::plain("Saltmarsh", "Teasel", printed(k))
        };
        (0..n).map(|k| Disc { id: DiscId(k), spec: spec(k) }).collect()
    }

    #[test]
    fn prop_everyone_is_stood_in_for_once_by_the_nearest() {
        let shelf = shelf(700);
        let discs: Vec<&Disc> = shelf.iter().collect();
        let kept = |d: &Disc| d.id.0 < 20;
        let found = stand_ins(&discs, kept);
        assert_eq!(found.len(), STAND_INS);
        let mut all: Vec<usize> =
            found.iter().flat_map(|s| s.followers.iter().copied().chain([s.disc])).collect();
        all.sort_unstable();
        assert_eq!(all, (0..700).collect::<Vec<_>>());
        assert!((0..20).all(|k| found.iter().any(|s| s.disc == k)), "the bag is asked itself");
        let at = |k: usize| Likeness::of(discs[k]);
        for s in &found {
            for &k in &s.followers {
                let own = at(k).apart2(&at(s.disc));
                assert!(
                    found.iter().all(|other| at(k).apart2(&at(other.disc)) >= own),
                    "{k} is nearer to another"
                );
            }
        }
    }

    #[test]
    fn prop_a_small_shelf_is_asked_whole() {
        let shelf = shelf(STAND_INS as i64);
        let found = stand_ins(&shelf.iter().collect::<Vec<_>>(), |_| false);
        assert!(found.len() == STAND_INS && found.iter().all(|s| s.followers.is_empty()));
    }

    #[test]
    fn prop_copies_need_one_stand_in() {
        let mut shelf = shelf(100);
        let spec = shelf[0].spec.clone();
        shelf.iter_mut().for_each(|d| d.spec = spec.clone());
        let found = stand_ins(&shelf.iter().collect::<Vec<_>>(), |_| false);
        assert_eq!((found.len(), found[0].followers.len()), (1, 99));
    }
}
