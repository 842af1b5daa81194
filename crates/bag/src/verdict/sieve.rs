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

/// Discs of a bag that are looked at more closely on a line. What this and the heats may miss is tested.
const LOOKED_AT: usize = 18;
const FORECAST: Heat = Heat { of_shelf: 0, of_bag: 12, places: 1, doubt: 0.25 };
const WORKED_OUT: Heat = Heat { of_shelf: 0, of_bag: 7, places: 1, doubt: 0.06 };

/// A round of asking: the most discs of the shelf and of the bag that are asked, as long as what is expected of one and this much
/// more may put it first in the bag, or if it is carried into one of so many first places.
pub(crate) struct Heat {
    pub of_shelf: usize,
    pub of_bag: usize,
    /// At least 1.
    pub places: usize,
    pub doubt: f64,
}

/// How a heat stands.
#[derive(Default)]
struct Standings {
    of_shelf: usize,
    /// What was found of the bag, the best first.
    of_bag: Vec<f64>,
}

impl Standings {
    fn calls(&self, heat: &Heat, expected: f64, carried: bool) -> bool {
        let reaches =
            |place: usize| self.of_bag.get(place).is_none_or(|found| expected + heat.doubt >= *found);
        (self.of_shelf < heat.of_shelf && reaches(0))
            || (carried && self.of_bag.len() < heat.of_bag && reaches(heat.places - 1))
    }

    fn add(&mut self, found: f64, carried: bool) {
        self.of_shelf += 1;
        if carried {
            let place = self.of_bag.partition_point(|other| *other >= found);
            self.of_bag.insert(place, found);
        }
    }
}

impl Heat {
    /// Asks discs in the order of what is expected of them. Those asked, with what was found; and those not.
    fn run<'a>(
        &self,
        ranked: Vec<Promising<'a>>,
        carried: impl Fn(usize) -> bool,
        ask: impl Fn(&Prospect<'a>) -> Option<f64>,
    ) -> (Vec<(f64, Promising<'a>)>, Vec<Promising<'a>>) {
        let (mut asked, mut behind) = (Vec::new(), Vec::new());
        let mut standings = Standings::default();
        for p in ranked {
            let carried = carried(p.disc);
            if !standings.calls(self, p.expected, carried) {
                behind.push(p);
            } else if let Some(found) = ask(&p.prospect) {
                standings.add(found, carried);
                asked.push((found, p));
            }
        }
        (asked, behind)
    }

    /// Discs forecast instead of promised, the most expected first; and those not asked.
    pub(crate) fn forecast<'a>(
        &self,
        promising: Vec<Promising<'a>>,
        carried: impl Fn(usize) -> bool,
    ) -> (Vec<Promising<'a>>, Vec<Promising<'a>>) {
        let (asked, behind) = self.run(promising, carried, Prospect::forecast);
        let mut forecast: Vec<Promising> =
            asked.into_iter().map(|(expected, p)| Promising { expected, ..p }).collect();
        forecast.sort_by(most_expected);
        (forecast, behind)
    }

    /// Discs worked out, with their chances; and those not asked.
    pub(crate) fn work_out<'a>(
        &self,
        forecast: Vec<Promising<'a>>,
        carried: impl Fn(usize) -> bool,
    ) -> (Vec<(f64, Promising<'a>)>, Vec<Promising<'a>>) {
        self.run(forecast, carried, |p| Some(p.chance().worth))
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

/// A disc, by its place among those asked about, what it promised, and the chance that is expected of it now.
pub(crate) struct Promising<'a> {
    pub promised: f64,
    pub expected: f64,
    pub disc: usize,
    /// Aside: discs are sorted again and again.
    prospect: Box<Prospect<'a>>,
}

impl<'a> On<'a> {
    /// The room that each disc's single best flight has, those that reach the line, the most first.
    pub(crate) fn roomy<'d>(&self, discs: impl Iterator<Item = (usize, &'d Thrown)>) -> Vec<Roomy<'a>> {
        let prospect = |(disc, t): (usize, &'d Thrown)| {
            let prospect = Box::new(Prospect::of(self.arm, *t, self.spec, self.memo));
            Some(Roomy { room_m: prospect.room_m()?, disc, prospect })
        };
        let mut roomy: Vec<Roomy> = discs.filter_map(prospect).collect();
        roomy.sort_by(most_room);
        roomy
    }

    /// Discs by what they promise, the most first: the `n` whose single best flight has most room. The rest would have to make
    /// up more than scatter can.
    pub(crate) fn most_promising<'d>(
        &self,
        discs: impl Iterator<Item = (usize, &'d Thrown)>,
        n: usize,
    ) -> Vec<Promising<'a>> {
        promising(self.roomy(discs), n, 0, |_| false)
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

/// The first `n` of discs sorted by room, and of those in the bag the first `of_bag` at any rate, by what they promise, the most
/// first.
pub(crate) fn promising<'a>(
    roomy: Vec<Roomy<'a>>,
    n: usize,
    of_bag: usize,
    in_bag: impl Fn(usize) -> bool,
) -> Vec<Promising<'a>> {
    let mut bagged = 0;
    let mut looked_at = |(place, r): (usize, Roomy<'a>)| {
        let carried = in_bag(r.disc);
        bagged += usize::from(carried);
        (place < n || (carried && bagged <= of_bag)).then_some(r)
    };
    let promise = |Roomy { disc, prospect, .. }: Roomy<'a>| {
        let promised = prospect.promise()?;
        Some(Promising { promised, expected: promised, disc, prospect })
    };
    let looked_at = roomy.into_iter().enumerate().filter_map(&mut looked_at);
    let mut promising: Vec<Promising> = looked_at.filter_map(promise).collect();
    promising.sort_by(most_expected);
    promising
}

impl On<'_> {
    /// Those of some discs that make the line most often, the best first: enough for so many `places`, at least 1.
    pub(crate) fn best(&self, discs: &[Entrant], places: usize) -> Vec<Cell> {
        let answering = discs.iter().enumerate().filter(|(_, d)| d.answers(self.spec));
        let promising = self.most_promising(answering.map(|(k, d)| (k, &d.thrown)), LOOKED_AT);
        let (forecast, _) = Heat { places, ..FORECAST }.forecast(promising, |_| true);
        let (worked_out, _) = Heat { places, ..WORKED_OUT }.work_out(forecast, |_| true);
        let cell = |(chance, p): (f64, Promising)| Cell { disc_id: discs[p.disc].id, chance };
        let mut best: Vec<Cell> = worked_out.into_iter().map(cell).collect();
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
