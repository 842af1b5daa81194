//! The putting set: discs that are only putted with, checked as a set of its own. All of it is common practice, no source;
//! the figures are own judgement.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::as_thrown::as_thrown;
use crate::disc::plastic::Plastic;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::wear::Grade;
use crate::thrower::habits::PuttingStyle;
use crate::thrower::slot::Slot;
use crate::verdict::carried::Carried;

/// Two of a pair differ by no more than this, g.
pub const PAIR_MASS_G: f64 = 2.0;
/// Two of a pair are worn alike if their shares of wear differ by no more than this.
pub const PAIR_WEAR: f64 = 0.2;
/// A disc that fades no less than the pair by more than this holds its line in wind.
const FIRMER_FADE: f64 = 0.25;
/// A disc that is worn so far glides straight: for long and jump putts.
const GLIDES_FROM: f64 = 0.35;
/// A putting putter worn so far serves better as a throwing one.
const HANDED_DOWN_FROM: f64 = 0.6;

/// What a putting set is looked at for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PuttingCheck {
    /// Two that cannot be told apart in the hand.
    Pair,
    /// One that is firmer or fresher, for wind.
    Wind,
    /// One that glides straight, for long and jump putts.
    Long,
    /// Putters that are thrown are not those that are putted with.
    Apart,
    /// None so worn that it is better thrown.
    HandedDown,
}

/// One thing a putting set is looked at for, and how it stands.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PuttingFinding {
    /// Which.
    pub check: PuttingCheck,
    /// Name for people.
    pub label: &'static str,
    /// Whether it is as it should be.
    pub ok: bool,
    /// How it stands and what to do, in words.
    pub words: String,
    /// The discs it is about.
    pub disc_ids: Vec<DiscId>,
}

/// A disc of the set and what wear has done to it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PuttingDisc {
    /// The disc.
    pub disc_id: DiscId,
    /// Its share of all wear, 0 to 1.
    pub wear_share: f64,
    /// What wear has done to it, in words.
    pub words: String,
}

/// The set.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct PuttingSet {
    /// What the player's way of putting asks of it; empty if it is not told.
    pub asks: &'static str,
    /// Its discs.
    pub discs: Vec<PuttingDisc>,
    /// What it is looked at for.
    pub findings: Vec<PuttingFinding>,
}

struct Putter<'a> {
    disc: &'a Disc,
    wear: f64,
    fade: f64,
}

fn putter(disc: &Disc) -> Putter<'_> {
    let now = as_thrown(&disc.spec);
    Putter { disc, wear: now.wear_share, fade: now.result.fade + now.result.turn }
}

/// Looks at the putting discs of a bag, and among the others of the shelf for what is missing.
pub fn putting_set(style: Option<PuttingStyle>, shelf: &[Disc], carried: &[Carried]) -> PuttingSet {
    let is_carried = |d: &Disc| carried.iter().any(|c| c.disc_id == d.id);
    let putts = |d: &&Disc| d.spec.used_for == Use::Putting && d.spec.keeping.status.is_at_hand();
    let (set, rest): (Vec<Putter>, Vec<Putter>) =
        shelf.iter().filter(putts).map(putter).partition(|p| is_carried(p.disc));
    let thrown =
        |d: &&Disc| is_carried(d) && d.spec.used_for == Use::Throwing && d.spec.slot() == Slot::Putter;
    let thrown: Vec<&Disc> = shelf.iter().filter(thrown).collect();
    PuttingSet {
        asks: style.map_or("", PuttingStyle::asks),
        discs: set.iter().map(told).collect(),
        findings: vec![
            pair(&set, &rest),
            wind(&set, &rest),
            long(&set, &rest),
            apart(&set, &thrown),
            handed_down(&set),
        ],
    }
}

fn told(p: &Putter) -> PuttingDisc {
    let sum = as_thrown(&p.disc.spec);
    let wear = sum.addends.iter().find(|a| a.cause == "wear");
    let words = match wear {
        None => "fresh: as firm as it will be".to_owned(),
        Some(a) => format!(
            "{}: turns {:.1} more, fades {:.1} less than fresh",
            Grade::of_share(p.wear).label(),
            -a.change.turn,
            -a.change.fade
        ),
    };
    PuttingDisc { disc_id: p.disc.id, wear_share: p.wear, words }
}

fn finding(
    check: PuttingCheck,
    label: &'static str,
    ok: bool,
    words: String,
    of: &[&Putter],
) -> PuttingFinding {
    PuttingFinding { check, label, ok, words, disc_ids: of.iter().map(|p| p.disc.id).collect() }
}

/// Whether two are of one mould and plastic.
fn alike(a: &Putter, b: &Putter) -> bool {
    let (a, b) = (&a.disc.spec, &b.disc.spec);
    a.mould == b.mould && a.maker == b.maker && a.plastic == b.plastic
}

fn apart_g(a: &Putter, b: &Putter) -> f64 {
    (a.disc.spec.mass_g - b.disc.spec.mass_g).abs()
}

fn matched(a: &Putter, b: &Putter) -> bool {
    alike(a, b) && apart_g(a, b) <= PAIR_MASS_G + 1e-9 && (a.wear - b.wear).abs() <= PAIR_WEAR + 1e-9
}

/// Every two of some discs that are a matched pair, by their places.
pub(crate) fn matched_pairs(discs: &[Disc]) -> Vec<[usize; 2]> {
    let putters: Vec<(usize, Putter)> = discs
        .iter()
        .enumerate()
        .filter(|(_, d)| d.spec.used_for == Use::Putting)
        .map(|(k, d)| (k, putter(d)))
        .collect();
    let with_later = |(k, (a, one)): (usize, &(usize, Putter))| {
        let matches = putters[k + 1..].iter().filter(|(_, other)| matched(one, other));
        matches.map(|(b, _)| [*a, *b]).collect::<Vec<_>>()
    };
    putters.iter().enumerate().flat_map(with_later).collect()
}

/// The first two that `are`.
fn two<'a>(set: &'a [Putter], are: impl Fn(&Putter, &Putter) -> bool) -> Option<[&'a Putter<'a>; 2]> {
    set.iter().enumerate().find_map(|(k, a)| set[k + 1..].iter().find(|b| are(a, b)).map(|b| [a, b]))
}

fn name(p: &Putter) -> String {
    p.disc.spec.name.clone()
}

fn pair(set: &[Putter], rest: &[Putter]) -> PuttingFinding {
    let (check, label) = (PuttingCheck::Pair, "A matched pair");
    if let Some([a, b]) = two(set, matched) {
        let words = format!("{} and {} are alike in mould, plastic, weight and wear.", name(a), name(b));
        return finding(check, label, true, words, &[a, b]);
    }
    if let Some((a, b)) = set.iter().find_map(|a| rest.iter().find(|b| matched(a, b)).map(|b| (a, b))) {
        let words = format!("{} on the shelf is the match of {}: carry it.", name(b), name(a));
        return finding(check, label, false, words, &[a, b]);
    }
    if let Some([a, b]) = two(set, alike) {
        let why = match apart_g(a, b) {
            g if g > PAIR_MASS_G => format!("they are {g:.0} g apart, and {PAIR_MASS_G:.0} g can be felt"),
            _ => format!("{} is worn further", if a.wear > b.wear { name(a) } else { name(b) }),
        };
        let words = format!("{} and {} are of one mould, but {why}.", name(a), name(b));
        return finding(check, label, false, words, &[a, b]);
    }
    let words = match set {
        [] => "No putting putters yet.".to_owned(),
        [one, ..] => format!(
            "No second one like {}: the same mould and plastic, within {PAIR_MASS_G:.0} g, worn alike.",
            name(one)
        ),
    };
    finding(check, label, false, words, &set.iter().take(1).collect::<Vec<_>>())
}

/// What the rest of a set is held against: the matched pair, else the first.
fn usual(set: &[Putter]) -> Option<f64> {
    let of = two(set, matched).map(|[a, b]| 0.5 * (a.fade + b.fade));
    of.or_else(|| set.first().map(|p| p.fade))
}

fn wind(set: &[Putter], rest: &[Putter]) -> PuttingFinding {
    let (check, label) = (PuttingCheck::Wind, "One for wind");
    let usual = usual(set).unwrap_or(0.0);
    let firmer = |p: &&Putter| {
        let stiff = matches!(p.disc.spec.plastic, Plastic::StiffGlow | Plastic::Premium);
        p.fade >= usual + FIRMER_FADE || (stiff && p.fade > usual)
    };
    if let Some(p) = set.iter().find(firmer) {
        let words = format!("{} is firmer than the others: into a wind it lifts less.", name(p));
        return finding(check, label, true, words, &[p]);
    }
    if let Some(p) = rest.iter().find(firmer) {
        let words = format!("{} on the shelf is firmer than what you carry: take it on windy days.", name(p));
        return finding(check, label, false, words, &[p]);
    }
    let words = "All putt alike: a fresher or stiffer one holds its line in wind.".to_owned();
    finding(check, label, false, words, &[])
}

fn long(set: &[Putter], rest: &[Putter]) -> PuttingFinding {
    let (check, label) = (PuttingCheck::Long, "One for long and jump putts");
    let glides = |p: &&Putter| p.wear >= GLIDES_FROM;
    if let Some(p) = set.iter().find(glides) {
        let words = format!("{} is worn enough to glide straight.", name(p));
        return finding(check, label, true, words, &[p]);
    }
    if let Some(p) = rest.iter().find(glides) {
        let words = format!("{} on the shelf is worn enough to glide straight.", name(p));
        return finding(check, label, false, words, &[p]);
    }
    let words = "None is worn enough yet to glide straight; one will be with time.".to_owned();
    finding(check, label, false, words, &[])
}

fn apart(set: &[Putter], thrown: &[&Disc]) -> PuttingFinding {
    let (check, label) = (PuttingCheck::Apart, "Throwing putters apart");
    let ok = !set.is_empty() && !thrown.is_empty();
    let words = match (set.len(), thrown.len()) {
        (0, _) => {
            "Nothing is kept for putting alone: throwing wears a putter much faster than putting.".to_owned()
        }
        (_, 0) => "No putter is carried for throwing: approaches would wear the putting ones.".to_owned(),
        (_, n) => format!(
            "{n} {} thrown, so that the putting ones stay as they are.",
            if n == 1 { "is" } else { "are" }
        ),
    };
    let disc_ids = thrown.iter().map(|d| d.id).collect();
    PuttingFinding { check, label, ok, words, disc_ids }
}

fn handed_down(set: &[Putter]) -> PuttingFinding {
    let (check, label) = (PuttingCheck::HandedDown, "Old ones handed down");
    let old: Vec<&Putter> = set.iter().filter(|p| p.wear >= HANDED_DOWN_FROM).collect();
    let words = match old.as_slice() {
        [] => "None is so worn that it would serve better thrown.".to_owned(),
        [one] => format!("{} is worn so far that it serves better as a throwing putter.", name(one)),
        more => format!("{} putters are worn so far that they serve better thrown.", more.len()),
    };
    finding(check, label, old.is_empty(), words, &old)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::disc::spec::{DiscSpec, Numbers};
    use crate::disc::wear::Wear;
    use rstest::rstest;

    fn putter(id: i64, mass_g: f64, plastic: Plastic, grade: Grade) -> Disc {
        let printed = Numbers { speed: 2.0, glide: 3.0, turn: 0.0, fade: 1.0 };
        let spec = DiscSpec {
            name: format!("Dado {id}"),
            plastic,
            mass_g,
            wear: Wear { grade, ..Wear::FRESH },
            used_for: Use::Putting,
            ..DiscSpec::plain("Hobb & Tiller", "Dado", printed)
        };
        Disc { id: DiscId(id), spec }
    }

    fn ok(discs: &[Disc], carried: &[i64], check: PuttingCheck) -> bool {
        let carried: Vec<Carried> =
            carried.iter().map(|id| Carried { disc_id: DiscId(*id), spare: false }).collect();
        putting_set(None, discs, &carried).findings.iter().any(|f| f.check == check && f.ok)
    }

    #[rstest]
    #[case(174.0, Plastic::Base, Grade::Seasoned, true)]
    #[case(176.0, Plastic::Base, Grade::Seasoned, true)]
    #[case(176.5, Plastic::Base, Grade::Seasoned, false)]
    #[case(174.0, Plastic::Premium, Grade::Seasoned, false)]
    #[case(174.0, Plastic::Base, Grade::Fresh, false)]
    fn trade_a_pair_is_one_mould_and_plastic_within_2_g_and_worn_alike(
        #[case] mass_g: f64,
        #[case] plastic: Plastic,
        #[case] grade: Grade,
        #[case] is_pair: bool,
    ) {
        let discs = [putter(1, 174.0, Plastic::Base, Grade::Seasoned), putter(2, mass_g, plastic, grade)];
        assert_eq!(ok(&discs, &[1, 2], PuttingCheck::Pair), is_pair);
        assert!(!ok(&discs, &[1], PuttingCheck::Pair), "what stays at home is no pair");
    }

    #[test]
    fn trade_a_fresher_one_is_for_wind_and_a_worn_one_for_long_putts() {
        let pair = [1, 2].map(|id| putter(id, 174.0, Plastic::Base, Grade::BrokenIn));
        let with = |grade| [pair[0].clone(), pair[1].clone(), putter(3, 174.0, Plastic::Base, grade)];
        for (grade, for_wind, for_long) in
            [(Grade::Fresh, true, false), (Grade::BrokenIn, false, false), (Grade::Seasoned, false, true)]
        {
            let all = with(grade);
            assert_eq!(ok(&all, &[1, 2, 3], PuttingCheck::Wind), for_wind, "{grade:?}");
            assert_eq!(ok(&all, &[1, 2, 3], PuttingCheck::Long), for_long, "{grade:?}");
        }
    }

    #[test]
    fn trade_a_beat_putter_is_handed_down() {
        let discs = [1, 2]
            .map(|id| putter(id, 174.0, Plastic::Base, if id == 1 { Grade::Fresh } else { Grade::Beat }));
        let set = putting_set(None, &discs, &[1, 2].map(|id| Carried { disc_id: DiscId(id), spare: false }));
        let old = set.findings.iter().find(|f| f.check == PuttingCheck::HandedDown);
        assert_eq!(old.map(|f| (f.ok, f.disc_ids.clone())), Some((false, vec![DiscId(2)])));
    }
}
