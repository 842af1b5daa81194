//! Which of many discs are worth working out on a line: asked ever more closely, those that promise most.

use crate::chance::memo::Memo;
use crate::chance::search::Prospect;
use crate::disc::spec::{Disc, DiscId};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;
use crate::thrower::style::Style;
use crate::verdict::standing::{Cell, PuttersApart, best_first};

/// How closely the discs of a line are asked.
pub(crate) struct Sieve {
    /// Discs that are glimpsed: those whose single best flight has most room.
    pub looked_at: usize,
    /// Of the bag so many at any rate, all of an ordinary one: room says too little to leave a carried disc out by.
    pub of_bag_looked_at: usize,
    /// First places of the bag that are to be told, at least 1.
    pub places: usize,
    /// The rounds of asking, as [`ASKED`].
    pub heats: [Heat; ASKED.len()],
}

/// For those of a bag that make a line most often. What it may miss is tested.
const OF_A_BAG: Sieve = Sieve {
    looked_at: 30,
    of_bag_looked_at: 0,
    places: 1,
    heats: [
        Heat::of_bag(14, 0.25),
        Heat::of_bag(12, 0.25),
        Heat::of_bag(12, 0.1),
        Heat::of_bag(8, 0.06),
        Heat::of_bag(7, 0.03),
    ],
};

/// A round of asking: the most discs of the shelf and of the bag that are asked, as long as what is expected of one and this much
/// more may put it first in the bag, or if it is carried into one of the places that are told.
pub(crate) struct Heat {
    pub of_shelf: usize,
    pub of_bag: usize,
    pub doubt: f64,
}

impl Heat {
    /// A round for discs of a bag alone.
    pub(crate) const fn of_bag(of_bag: usize, doubt: f64) -> Heat {
        Heat { of_shelf: 0, of_bag, doubt }
    }
}

/// What is asked in each round, the last the chance itself.
const ASKED: [fn(&Prospect) -> Option<f64>; 5] = [
    |p| p.promise().map(expected_of),
    |p| p.hope(),
    |p| p.forecast(),
    |p| p.nearly(),
    |p| Some(p.chance().worth),
];
/// Part of what was expected before that is still counted on after a round: few throws are as soon lucky as not, and who is cut off
/// for one unlucky answer never comes back. The chance itself is told as it was found.
const STILL_EXPECTED: [f64; ASKED.len()] = [0.0, 0.2, 0.2, 0.0, 0.0];
/// Part of what is expected of a disc that is counted on if it is not asked in that round, at the rate at which those that were kept
/// what was expected of them.
const CAUTION: [f64; ASKED.len()] = [0.75, 0.8, 0.9, 0.95, 0.98];

/// The chance that is expected where `promise` is promised, or shows at a glimpse: the best way of a few throws is oftener a lucky one the more it promises,
/// and the chance is that of a better way than the few that were tried. Fitted by eye to 8,415 discs on lines of the demo's season.
fn expected_of(promise: f64) -> f64 {
    if promise > 0.0 { (1.6 * promise).min(0.25 + 0.64 * promise) } else { promise }
}

/// How a heat stands.
#[derive(Default)]
struct Standings {
    of_shelf: usize,
    /// What was found of the bag, the best first.
    of_bag: Vec<f64>,
}

impl Standings {
    fn calls(&self, heat: &Heat, places: usize, expected: f64, carried: bool) -> bool {
        let reaches =
            |place: usize| self.of_bag.get(place).is_none_or(|found| expected + heat.doubt >= *found);
        (self.of_shelf < heat.of_shelf && reaches(0))
            || (carried && self.of_bag.len() < heat.of_bag && reaches(places - 1))
    }

    fn add(&mut self, found: f64, carried: bool) {
        self.of_shelf += 1;
        if carried {
            let place = self.of_bag.partition_point(|other| *other >= found);
            self.of_bag.insert(place, found);
        }
    }
}

/// Discs that were asked ever more closely.
pub(crate) struct Sifted<'a> {
    /// Those worked out, with what their chances are worth, the best first.
    pub worked_out: Vec<Promising<'a>>,
    /// The others, with a cautious part of what is expected of them.
    pub behind: Vec<Promising<'a>>,
}

impl Sieve {
    /// The same, asking of the bag what is asked of it today as well: what a calm day tells is then what the season tells of calm.
    pub(crate) fn as_today(&self) -> Sieve {
        let heats = std::array::from_fn(|round| {
            let (own, today) = (&self.heats[round], &OF_A_BAG.heats[round]);
            Heat {
                of_shelf: own.of_shelf,
                of_bag: own.of_bag.max(today.of_bag),
                doubt: own.doubt.max(today.doubt),
            }
        });
        Sieve { heats, ..*self }
    }

    /// The discs that are asked about more closely than for the room they have, by what they show at a glimpse, the most first.
    pub(crate) fn promising<'a>(
        &self,
        roomy: Vec<Roomy<'a>>,
        in_bag: impl Fn(usize) -> bool,
    ) -> Vec<Promising<'a>> {
        let mut bagged = 0;
        let mut looked_at = |(place, r): (usize, Roomy<'a>)| {
            let carried = in_bag(r.disc);
            bagged += usize::from(carried);
            (place < self.looked_at || (carried && bagged <= self.of_bag_looked_at)).then_some(r)
        };
        let glimpsed = |Roomy { disc, prospect, .. }: Roomy<'a>| {
            Some(Promising { expected: expected_of(prospect.glimpse()?), disc, prospect })
        };
        let looked_at = roomy.into_iter().enumerate().filter_map(&mut looked_at);
        let mut promising: Vec<Promising> = looked_at.filter_map(glimpsed).collect();
        promising.sort_by(most_expected);
        promising
    }

    /// Asks round by round, in the order of what is expected.
    pub(crate) fn sift<'a>(
        &self,
        promising: Vec<Promising<'a>>,
        in_bag: impl Fn(usize) -> bool,
    ) -> Sifted<'a> {
        self.sift_from(f64::NEG_INFINITY, promising, in_bag)
    }

    /// The same where nothing matters that makes the line less often than `least`.
    pub(crate) fn sift_from<'a>(
        &self,
        least: f64,
        promising: Vec<Promising<'a>>,
        in_bag: impl Fn(usize) -> bool,
    ) -> Sifted<'a> {
        let (mut asked, mut behind) = (promising, Vec::new());
        for (((heat, ask), caution), still) in self.heats.iter().zip(ASKED).zip(CAUTION).zip(STILL_EXPECTED) {
            let (mut standings, mut found, mut left) = (Standings::default(), Vec::new(), Vec::new());
            let (mut expected_of_all, mut found_of_all) = (0.0, 0.0);
            for p in asked {
                let carried = in_bag(p.disc);
                let matters = p.expected + heat.doubt >= least;
                if !matters || !standings.calls(heat, self.places, p.expected, carried) {
                    left.push(p);
                } else if let Some(answer) = ask(&p.prospect) {
                    let expected = answer + still * (p.expected - answer);
                    standings.add(expected, carried);
                    (expected_of_all, found_of_all) = (expected_of_all + p.expected, found_of_all + expected);
                    found.push(Promising { expected, ..p });
                }
            }
            found.sort_by(most_expected);
            asked = found;
            let rate = if expected_of_all > 0.0 { found_of_all / expected_of_all } else { 0.0 };
            behind.iter_mut().for_each(|p: &mut Promising| p.expected *= rate);
            behind.extend(left.into_iter().map(|p| Promising { expected: caution * rate * p.expected, ..p }));
        }
        Sifted { worked_out: asked, behind }
    }
}

/// A disc that may be asked about.
pub(crate) struct Entrant {
    pub id: DiscId,
    pub thrown: Thrown,
    /// Whether it is thrown in each style.
    styles: [bool; Style::ALL.len()],
    /// Whether its player is tied to it.
    is_dear: bool,
}

impl Entrant {
    /// # Errors
    /// [`BagError`] for a disc that cannot be thrown.
    pub(crate) fn of(disc: &Disc, apart: PuttersApart) -> Result<Entrant, BagError> {
        let styles = Style::ALL.map(|style| apart.answers(disc, style));
        Ok(Entrant { id: disc.id, thrown: thrown(disc)?, styles, is_dear: disc.spec.keeping.is_dear() })
    }

    /// Whether it is thrown on a line: in its style, and where it may be lost only if its player can do without it.
    pub(crate) fn answers(&self, line: &LineSpec) -> bool {
        self.styles[line.style as usize] && !(self.is_dear && line.spares_dear())
    }
}

/// A line at an arm in a weather.
pub(crate) struct On<'a> {
    pub arm: &'a Arm,
    pub spec: &'a LineSpec,
    pub memo: &'a Memo,
}

/// A disc, by its place among those asked about, and the chance that is expected of it now.
pub(crate) struct Promising<'a> {
    pub expected: f64,
    pub disc: usize,
    /// Aside: discs are sorted again and again.
    prospect: Box<Prospect<'a>>,
}

impl<'a> On<'a> {
    /// The room that each disc's single best flight has, those that reach the line, the most first.
    pub(crate) fn roomy<'d>(&self, discs: impl Iterator<Item = (usize, &'d Thrown)>) -> Vec<Roomy<'a>> {
        let prospect = |(disc, t): (usize, &'d Thrown)| {
            (disc, Box::new(Prospect::of(self.arm, *t, self.spec, self.memo)))
        };
        let prospects: Vec<(usize, Box<Prospect>)> = discs.map(prospect).collect();
        Prospect::find_rooms(prospects.iter().map(|(_, prospect)| prospect.as_ref()));
        let reaching = prospects
            .into_iter()
            .filter_map(|(disc, prospect)| Some(Roomy { room_m: prospect.room_m()?, disc, prospect }));
        let mut roomy: Vec<Roomy> = reaching.collect();
        roomy.sort_by(most_room);
        roomy
    }
}

/// A disc that reaches a line, by its place among those asked about, and the room of its single best flight, m.
pub(crate) struct Roomy<'a> {
    room_m: f64,
    pub disc: usize,
    prospect: Box<Prospect<'a>>,
}

pub(crate) fn most_room(a: &Roomy, b: &Roomy) -> std::cmp::Ordering {
    b.room_m.total_cmp(&a.room_m).then(a.disc.cmp(&b.disc))
}

impl On<'_> {
    /// Those of some discs that make the line most often, the best first: enough for so many `places`, at least 1.
    pub(crate) fn best(&self, discs: &[Entrant], places: usize) -> Vec<Cell> {
        let answering = discs.iter().enumerate().filter(|(_, d)| d.answers(self.spec));
        let roomy = self.roomy(answering.map(|(k, d)| (k, &d.thrown)));
        let sieve = Sieve { places, ..OF_A_BAG };
        let sifted = sieve.sift(sieve.promising(roomy, |_| true), |_| true);
        let cell = |p: &Promising| Cell { disc_id: discs[p.disc].id, chance: p.expected };
        let mut best: Vec<Cell> = sifted.worked_out.iter().map(cell).collect();
        best_first(&mut best);
        best
    }
}

impl Promising<'_> {
    /// What its chance is worth, worked out.
    pub(crate) fn worth(&self) -> f64 {
        self.prospect.chance().worth
    }
}

fn most_expected(a: &Promising, b: &Promising) -> std::cmp::Ordering {
    b.expected.total_cmp(&a.expected).then(a.disc.cmp(&b.disc))
}
