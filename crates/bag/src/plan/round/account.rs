//! What cost strokes: a played round held against its card, hole by hole and cause by cause.
//!
//! Each hole's strokes beyond the card's are split without a rest into three parts. *Another disc*: what the disc thrown is expected
//! to take beyond the card's pick. *The first throw*: what its end is worth beyond that disc's own mean, by what is left from there if
//! that is told, else in the mean of throws that end so. *What followed*: the rest, approaches and putts. What was not told counts to what followed.

use serde::Serialize;
use statrs::distribution::{ContinuousCDF, Normal};
use utoipa::ToSchema;

use crate::course::played::{CameOf, Pick, PlayedHole, PlayedRound};
use crate::words::{fold, percent};

/// What ending out of bounds or in water costs where the card does not say: the sport's rules, from memory.
const PENALTY_STROKES: f64 = 1.0;
/// Below this a part is not told, strokes. Own judgement.
const WORTH_TELLING: f64 = 0.25;
/// Rounds of which so many are as far from the card are nothing unusual. Own judgement.
const USUAL: f64 = 0.2;
/// Fewer holes than this say nothing of how usual they are. Own judgement.
const FEW: u32 = 3;
/// A cause is most of what a hole cost if it is more than this share.
const MOSTLY: f64 = 0.5;
/// Misses to one side from which it is said, and the share of all misses that they are at least. Own judgement.
const MISSES: (u32, f64) = (3, 0.6);

/// Strokes beyond the card's, by what cost them; negative ones were saved.
#[derive(Debug, Clone, Copy, Default, PartialEq, Serialize, ToSchema)]
pub struct Causes {
    /// Throwing another disc than the card's.
    pub other_disc: f64,
    /// How first throws ended.
    pub first_throw: f64,
    /// What followed: approaches and putts.
    pub followed: f64,
}

/// What a hole cost.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoleCost {
    /// Its number or name.
    pub name: String,
    /// Strokes beyond the card's.
    pub over: f64,
    /// By what cost them.
    pub causes: Causes,
}

/// First throws that ended in the zone that is drawn.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct MadeThrows {
    /// First throws of which it is told.
    pub of: u32,
    /// Those that did.
    pub made: u32,
    /// So many did by the card.
    pub expected: f64,
    /// Share of rounds with the card's chances in which so few or fewer do, 0 to 1.
    pub as_few: f64,
}

/// What became of first throws one way.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CameCount {
    /// What.
    pub came_of: CameOf,
    /// How often.
    pub times: u32,
    /// Strokes that it cost beyond what those throws are expected to take.
    pub cost: f64,
}

/// A round against its card, as far as it is told.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Account {
    /// Holes with their strokes.
    pub holes: u32,
    /// Strokes on them.
    pub strokes: u32,
    /// Their par.
    pub par: u32,
    /// Strokes that the card expected on them.
    pub expected: f64,
    /// By what cost what is beyond that.
    pub causes: Causes,
    /// Share of rounds with the player's scatter that take so many or more; null where it is not known.
    pub as_many: Option<f64>,
    /// First throws made; null if of none it is told.
    pub made: Option<MadeThrows>,
    /// What became of first throws, the dearest first.
    pub came: Vec<CameCount>,
    /// What each hole cost, those with their strokes told.
    pub by_hole: Vec<HoleCost>,
    /// In words.
    pub words: Vec<String>,
}

impl Causes {
    fn plus(self, other: Causes) -> Causes {
        Causes {
            other_disc: self.other_disc + other.other_disc,
            first_throw: self.first_throw + other.first_throw,
            followed: self.followed + other.followed,
        }
    }

    fn per(self, n: f64) -> Causes {
        Causes {
            other_disc: self.other_disc / n,
            first_throw: self.first_throw / n,
            followed: self.followed / n,
        }
    }

    /// All of it.
    pub fn sum(self) -> f64 {
        self.other_disc + self.first_throw + self.followed
    }

    /// In words with what it cost, the dearest first.
    fn told(self) -> [(&'static str, f64); 3] {
        let mut told = [
            ("another disc than the card’s", self.other_disc),
            ("how first throws ended", self.first_throw),
            ("what followed, approaches and putts", self.followed),
        ];
        told.sort_by(|a, b| b.1.total_cmp(&a.1));
        told
    }
}

/// What a throw of a disc is worth by its end, strokes to hole out.
fn worth(pick: &Pick, came: CameOf) -> Option<f64> {
    let mean = pick.strokes?;
    Some(match came {
        CameOf::Made => pick.made.unwrap_or(mean),
        CameOf::Out => pick.out.unwrap_or(pick.missed.unwrap_or(mean) + PENALTY_STROKES),
        CameOf::Short | CameOf::Long | CameOf::Left | CameOf::Right | CameOf::Hit => {
            pick.missed.or(pick.out).unwrap_or(mean)
        }
    })
}

/// What the first throw of a hole cost by its end.
fn first_throw(hole: &PlayedHole) -> Option<f64> {
    let pick = hole.threw.as_ref()?;
    let from_there = hole.left_m.and_then(|m| hole.strokes_from(m)).map(|left| {
        let penalty = if hole.came_of == Some(CameOf::Out) { PENALTY_STROKES } else { 0.0 };
        1.0 + penalty + left
    });
    let worth = from_there.or_else(|| worth(pick, hole.came_of?))?;
    Some(worth - pick.strokes?)
}

/// What a hole cost; none if its strokes are not told.
fn cost(hole: &PlayedHole) -> Option<HoleCost> {
    let over = f64::from(hole.strokes?) - hole.expected;
    let other_disc = hole.threw.as_ref().and_then(|pick| pick.strokes).map_or(0.0, |s| s - hole.expected);
    let first_throw = first_throw(hole).unwrap_or(0.0);
    let causes = Causes { other_disc, first_throw, followed: over - other_disc - first_throw };
    Some(HoleCost { name: hole.name.clone(), over, causes })
}

/// Share of tries in which at most so many of independent things come true: exact, one thing after the other.
fn at_most(chances: &[f64], most: usize) -> f64 {
    let mut so_many = vec![1.0];
    for p in chances {
        so_many.push(0.0);
        for k in (0..so_many.len()).rev() {
            so_many[k] = so_many[k] * (1.0 - p) + if k > 0 { so_many[k - 1] * p } else { 0.0 };
        }
    }
    so_many.iter().take(most + 1).sum::<f64>().min(1.0)
}

fn made(holes: &[PlayedHole]) -> Option<MadeThrows> {
    let told: Vec<(f64, CameOf)> =
        holes.iter().filter_map(|h| Some((h.threw.as_ref()?.chance?, h.came_of?))).collect();
    let made = told.iter().filter(|(_, came)| *came == CameOf::Made).count();
    let chances: Vec<f64> = told.iter().map(|(chance, _)| *chance).collect();
    let count = |n: usize| u32::try_from(n).unwrap_or(u32::MAX);
    (!told.is_empty()).then(|| MadeThrows {
        of: count(told.len()),
        made: count(made),
        expected: chances.iter().sum(),
        as_few: at_most(&chances, made),
    })
}

fn came(holes: &[PlayedHole]) -> Vec<CameCount> {
    let count = |of: CameOf| {
        let such = holes.iter().filter(|h| h.came_of == Some(of));
        let (times, cost) =
            such.fold((0, 0.0), |(n, sum), hole| (n + 1, sum + first_throw(hole).unwrap_or(0.0)));
        (times > 0).then_some(CameCount { came_of: of, times, cost })
    };
    let mut came: Vec<CameCount> = CameOf::ALL.into_iter().filter_map(count).collect();
    came.sort_by(|a, b| b.cost.total_cmp(&a.cost));
    came
}

/// So many strokes in words, to a tenth.
fn strokes(x: f64) -> String {
    let figure = format!("{:.1}", x.abs());
    if figure == "1.0" { "1 stroke".into() } else { format!("{figure} strokes") }
}

/// A share of rounds, of which there is always a little.
fn rounds_in_words(share: f64) -> String {
    if share < 0.01 { "under 1 %".into() } else { percent(share) }
}

/// Holds a round against its card.
pub fn account(round: &PlayedRound) -> Account {
    let holes = &round.holes;
    let by_hole: Vec<HoleCost> = holes.iter().filter_map(cost).collect();
    let told = || holes.iter().filter(|h| h.strokes.is_some());
    let expected: f64 = told().map(|h| h.expected).sum();
    let causes = by_hole.iter().fold(Causes::default(), |sum, hole| sum.plus(hole.causes));
    let mut account = Account {
        holes: u32::try_from(by_hole.len()).unwrap_or(u32::MAX),
        strokes: told().filter_map(|h| h.strokes).sum(),
        par: told().map(|h| u32::from(h.par)).sum(),
        expected,
        causes,
        as_many: None,
        made: made(holes),
        came: came(holes),
        by_hole,
        words: vec![],
    };
    account.as_many = round.spread.and_then(|spread| account.as_many(spread, holes.len()));
    account.words = account.in_words(holes);
    account
}

impl Account {
    /// Share of rounds over as many holes that take so many strokes or more, from the spread of whole rounds.
    fn as_many(&self, spread: f64, all: usize) -> Option<f64> {
        let spread = spread * (f64::from(self.holes) / all as f64).sqrt();
        let about = Normal::new(self.expected, spread).ok()?;
        // Strokes are whole: so many or more begins half a stroke before.
        (self.holes >= FEW).then(|| about.sf(f64::from(self.strokes) - 0.5))
    }

    fn in_words(&self, holes: &[PlayedHole]) -> Vec<String> {
        let mut words = Vec::new();
        if self.holes > 0 {
            words.push(self.sum_in_words());
            let dear: Vec<String> = self
                .causes
                .told()
                .into_iter()
                .filter(|(_, cost)| *cost >= WORTH_TELLING)
                .map(|(what, cost)| format!("{what}, {}", strokes(cost)))
                .collect();
            if !dear.is_empty() {
                words.push(format!("What cost them: {}.", dear.join("; ")));
            }
            let dearest = self.by_hole.iter().max_by(|a, b| a.over.total_cmp(&b.over));
            if let Some(hole) = dearest.filter(|hole| hole.over >= 2.0 * WORTH_TELLING) {
                let [(what, cost), ..] = hole.causes.told();
                let mostly =
                    if cost > MOSTLY * hole.over { format!(": mostly {what}") } else { String::new() };
                words.push(format!(
                    "Hole {} was the dearest, {} over{mostly}.",
                    hole.name,
                    strokes(hole.over)
                ));
            }
        }
        words.extend(self.made.as_ref().filter(|m| m.of >= FEW).map(MadeThrows::in_words));
        words.extend(misses_in_words(holes));
        words
    }

    fn sum_in_words(&self) -> String {
        let over = f64::from(self.strokes) - self.expected;
        let holes = if self.holes == 1 { "1 hole".to_owned() } else { format!("{} holes", self.holes) };
        let against = match over {
            o if o.abs() < 0.05 => "as many as the card expected".to_owned(),
            o if o > 0.0 => format!("{} more than the card expected", strokes(o)),
            o => format!("{} fewer than the card expected", strokes(o)),
        };
        let usual = match self.as_many {
            Some(share) if share < USUAL => {
                format!("; {} of rounds with your scatter take so many", rounds_in_words(share))
            }
            Some(share) if share > 1.0 - USUAL => {
                format!("; {} of rounds with your scatter take so many or more", percent(share))
            }
            Some(_) => "; that is nothing unusual with your scatter".to_owned(),
            None => String::new(),
        };
        format!("{} on {holes}, par {}: {against}{usual}.", self.strokes, self.par)
    }
}

impl MadeThrows {
    fn in_words(&self) -> String {
        let rare = if self.as_few < USUAL {
            format!("; so few in {} of rounds", rounds_in_words(self.as_few))
        } else {
            String::new()
        };
        let of = format!("{} first throws", self.of);
        format!("{} of {of} ended in the zone, {:.1} were expected{rare}.", self.made, self.expected)
    }
}

/// Where misses went, if they went mostly one way.
fn misses_in_words(holes: &[PlayedHole]) -> Option<String> {
    let missed = || holes.iter().filter_map(|h| h.came_of).filter(|came| *came != CameOf::Made);
    let all = missed().count() as f64;
    let so_many = |of: CameOf| u32::try_from(missed().filter(|came| *came == of).count()).unwrap_or(u32::MAX);
    let (most, times) = CameOf::ALL.into_iter().map(|of| (of, so_many(of))).max_by_key(|(_, n)| *n)?;
    let (least, share) = MISSES;
    (times >= least && f64::from(times) >= share * all)
        .then(|| format!("Of {all:.0} that did not, {times} went {}.", most.label()))
}

/// A hole over several rounds.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct HoleOverRounds {
    /// Its number or name.
    pub name: String,
    /// Rounds in which its strokes are told.
    pub rounds: u32,
    /// Strokes beyond the card's in the mean.
    pub over: f64,
    /// By what cost them, in the mean.
    pub causes: Causes,
}

/// All rounds on a course.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OverRounds {
    /// Name of the course.
    pub course: String,
    /// Rounds with every hole told.
    pub whole: u32,
    /// Strokes of such a round in the mean; null if there is none.
    pub strokes: Option<f64>,
    /// Strokes beyond the card's in the mean of such rounds; null if there is none.
    pub over: Option<f64>,
    /// What cost them in the mean of such rounds.
    pub causes: Causes,
    /// Hole by hole, the dearest first, from all rounds.
    pub holes: Vec<HoleOverRounds>,
}

/// Rounds course by course, in the order in which the courses come first.
pub fn over_rounds(rounds: &[PlayedRound]) -> Vec<OverRounds> {
    let mut courses: Vec<(String, Vec<&PlayedRound>)> = Vec::new();
    for round in rounds {
        let folded = fold(&round.course);
        match courses.iter_mut().find(|(name, _)| *name == folded) {
            Some((_, of)) => of.push(round),
            None => courses.push((folded, vec![round])),
        }
    }
    courses.iter().map(|(_, of)| over(of)).collect()
}

fn over(rounds: &[&PlayedRound]) -> OverRounds {
    let whole: Vec<Account> =
        rounds.iter().filter(|r| r.holes.iter().all(|h| h.strokes.is_some())).map(|r| account(r)).collect();
    let n = whole.len() as f64;
    let mean = |of: &dyn Fn(&Account) -> f64| (n > 0.0).then(|| whole.iter().map(of).sum::<f64>() / n);
    let causes = whole.iter().fold(Causes::default(), |sum, a| sum.plus(a.causes)).per(n.max(1.0));
    let mut holes: Vec<HoleOverRounds> = Vec::new();
    for cost in rounds.iter().flat_map(|r| r.holes.iter().filter_map(cost)) {
        match holes.iter_mut().find(|h| fold(&h.name) == fold(&cost.name)) {
            Some(hole) => {
                hole.rounds += 1;
                hole.causes = hole.causes.plus(cost.causes);
            }
            None => {
                holes.push(HoleOverRounds { name: cost.name, rounds: 1, over: 0.0, causes: cost.causes });
            }
        }
    }
    for hole in &mut holes {
        hole.causes = hole.causes.per(f64::from(hole.rounds));
        hole.over = hole.causes.sum();
    }
    holes.sort_by(|a, b| b.over.total_cmp(&a.over));
    OverRounds {
        course: rounds.last().map_or_else(String::new, |r| r.course.clone()),
        whole: u32::try_from(whole.len()).unwrap_or(u32::MAX),
        strokes: mean(&|a| f64::from(a.strokes)),
        over: mean(&|a| f64::from(a.strokes) - a.expected),
        causes,
        holes,
    }
}
