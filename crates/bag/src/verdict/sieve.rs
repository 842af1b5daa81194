//! Which of many discs are worth working out on a line: asked ever more closely, those that promise most.

use crate::chance::memo::Memo;
use crate::chance::search::Prospect;
use crate::disc::spec::{Disc, DiscId, Use};
use crate::disc::thrown::{Thrown, thrown};
use crate::error::BagError;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;
use crate::verdict::standing::Cell;

/// Of many discs those that are looked at more closely on a line, those whose chance is forecast, and those that are worked out
/// for the best and the next. What this may miss is tested.
const LOOKED_AT: usize = 10;
const FORECAST: usize = 6;
const WORKED_OUT: usize = 3;

/// A disc that may be asked about.
pub(crate) struct Entrant {
    pub id: DiscId,
    pub thrown: Thrown,
    pub used_for: Use,
}

impl Entrant {
    /// # Errors
    /// [`BagError`] for a disc that cannot be thrown.
    pub(crate) fn of(disc: &Disc) -> Result<Entrant, BagError> {
        Ok(Entrant { id: disc.id, thrown: thrown(disc)?, used_for: disc.spec.used_for })
    }
}

/// A line at an arm in a weather.
pub(crate) struct On<'a> {
    pub arm: &'a Arm,
    pub spec: &'a LineSpec,
    pub memo: &'a Memo,
}

/// A disc, by its place among those asked about, and the chance that is expected of it.
pub(crate) struct Promising<'a> {
    pub expected: f64,
    pub disc: usize,
    prospect: Prospect<'a>,
}

impl<'a> On<'a> {
    /// Discs by what they promise, the most first: the `n` whose single best flight has most room. The rest would have to make
    /// up more than scatter can.
    pub(crate) fn most_promising<'d>(
        &self,
        discs: impl Iterator<Item = (usize, &'d Thrown)>,
        n: usize,
    ) -> Vec<Promising<'a>> {
        let prospect = |(k, t): (usize, &'d Thrown)| (k, Prospect::of(self.arm, *t, self.spec, self.memo));
        let mut roomy: Vec<(f64, usize, Prospect)> =
            discs.map(prospect).filter_map(|(k, p)| Some((p.room_m()?, k, p))).collect();
        roomy.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.cmp(&b.1)));
        roomy.truncate(n);
        let promise = |(_, disc, prospect): (f64, usize, Prospect<'a>)| {
            Some(Promising { expected: prospect.promise()?, disc, prospect })
        };
        let mut promising: Vec<Promising> = roomy.into_iter().filter_map(promise).collect();
        promising.sort_by(most_expected);
        promising
    }
}

impl On<'_> {
    /// Those of some discs that make the line most often, the best first: enough for the best and the next.
    pub(crate) fn best(&self, discs: &[Entrant]) -> Vec<Cell> {
        let answering = discs.iter().enumerate().filter(|(_, d)| d.used_for.answers(self.spec.style));
        let promising = self.most_promising(answering.map(|(k, d)| (k, &d.thrown)), LOOKED_AT);
        let forecasts = forecast(promising.into_iter().take(FORECAST).collect());
        let cell = |p: &Promising| Cell { disc_id: discs[p.disc].id, chance: p.chance() };
        let mut best: Vec<Cell> = forecasts.iter().take(WORKED_OUT).map(cell).collect();
        best.retain(|c| c.chance > 0.0);
        best.sort_by(|a, b| b.chance.total_cmp(&a.chance).then(a.disc_id.cmp(&b.disc_id)));
        best
    }
}

impl Promising<'_> {
    /// The same with its chance forecast instead of promised.
    pub(crate) fn forecast(self) -> Option<Self> {
        Some(Promising { expected: self.prospect.forecast()?, ..self })
    }

    /// Its chance, worked out.
    pub(crate) fn chance(&self) -> f64 {
        self.prospect.chance().chance
    }
}

/// Forecasts, the most expected first.
pub(crate) fn forecast(promising: Vec<Promising>) -> Vec<Promising> {
    let mut forecast: Vec<Promising> = promising.into_iter().filter_map(Promising::forecast).collect();
    forecast.sort_by(most_expected);
    forecast
}

fn most_expected(a: &Promising, b: &Promising) -> std::cmp::Ordering {
    b.expected.total_cmp(&a.expected).then(a.disc.cmp(&b.disc))
}
