//! The numbers a disc really has today, as a sum that a player can read.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::error::FlightError;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::disc::spec::{DiscSpec, Numbers, NumbersChange, Top};
use crate::disc::wear::{fresh_fade, wear_change};

/// One line of the sum.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Addend {
    /// What changes the numbers: printed, observed, plastic, weight, top, wear, limit.
    pub cause: &'static str,
    /// In plain words.
    pub note: String,
    /// What it adds.
    pub change: NumbersChange,
}

/// The sum and its result.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct AsThrown {
    /// The lines, the printed (or observed) numbers first.
    pub addends: Vec<Addend>,
    /// Their sum, within the range of the model.
    pub result: Numbers,
    /// Share of all possible wear, 0 to 1.
    pub wear_share: f64,
}

const TURN_PER_GRAM: f64 = -0.04;
const FADE_PER_GRAM: f64 = -0.02;

/// Works the sum out. Every constant is the project's own judgement, see docs/model.md.
pub fn as_thrown(spec: &DiscSpec) -> AsThrown {
    let base = spec.base_numbers();
    let share = spec.wear_share();
    let mut addends = vec![Addend {
        cause: if spec.observed.is_some() { "observed" } else { "printed" },
        note: if spec.observed.is_some() {
            format!("as you found it to fly when {}", spec.keeping.observed_worn.label())
        } else {
            "as it stands on the disc".into()
        },
        change: base.into(),
    }];
    let mut add = |cause, note: String, change: FlightNumbers| {
        if change != FlightNumbers::new(0.0, 0.0, 0.0, 0.0) {
            addends.push(Addend { cause, note, change: change.into() });
        }
    };

    // What was observed has plastic, weight and top in it, and the wear the disc had then.
    if spec.observed.is_none() {
        for (cause, note, change) in made_so(spec) {
            add(cause, note, change);
        }
    }
    let worn_then = if spec.observed.is_some() { spec.keeping.observed_worn.share() } else { 0.0 };
    let new_fade = match spec.observed {
        Some(observed) => fresh_fade(observed.fade, worn_then),
        None => base.fade + spec.plastic.facts().fade,
    };
    let how = match spec.wear.throws {
        Some(n) => {
            format!("{:.0} % worn after {n} throws and {} hard hits", 100.0 * share, spec.wear.hard_hits)
        }
        None => format!("{}, about {:.0} % worn", spec.wear.grade.label(), 100.0 * share),
    };
    let how = if worn_then > 0.0 { format!("{how}, {:.0} % when observed", 100.0 * worn_then) } else { how };
    add("wear", how, less(wear_change(share, new_fade), wear_change(worn_then, new_fade)));

    let sum = total(&addends);
    let result = sum.clamped();
    let limit = less(result, sum);
    if limit != FlightNumbers::new(0.0, 0.0, 0.0, 0.0) {
        addends.push(Addend {
            cause: "limit",
            note: "held within the range of the model".into(),
            change: limit.into(),
        });
    }
    AsThrown { addends, result: result.into(), wear_share: share }
}

/// What plastic, weight and top make of a fresh disc.
fn made_so(spec: &DiscSpec) -> [(&'static str, String, FlightNumbers); 3] {
    let plastic = spec.plastic.facts();
    let light_g = spec.reference_mass_g - spec.mass_g;
    let lighter = if light_g > 0.0 { "lighter" } else { "heavier" };
    let (top, by_top) = match spec.top {
        Top::Flat => ("flat top", FlightNumbers::new(0.0, -0.3, 0.2, 0.0)),
        Top::Neutral => ("", FlightNumbers::new(0.0, 0.0, 0.0, 0.0)),
        Top::Domed => ("domed top", FlightNumbers::new(0.0, 0.4, 0.0, 0.3)),
    };
    [
        (
            "plastic",
            format!("fresh {} against the mould's average", plastic.label),
            FlightNumbers::new(0.0, 0.0, plastic.turn, plastic.fade),
        ),
        (
            "weight",
            format!("{:.0} g {lighter} than the mould's {:.0} g", light_g.abs(), spec.reference_mass_g),
            FlightNumbers::new(0.0, 0.0, TURN_PER_GRAM * light_g, FADE_PER_GRAM * light_g),
        ),
        ("top", top.into(), by_top),
    ]
}

fn less(a: FlightNumbers, b: FlightNumbers) -> FlightNumbers {
    FlightNumbers::new(a.speed - b.speed, a.glide - b.glide, a.turn - b.turn, a.fade - b.fade)
}

fn total(addends: &[Addend]) -> FlightNumbers {
    addends.iter().fold(FlightNumbers::new(0.0, 0.0, 0.0, 0.0), |s, a| {
        FlightNumbers::new(
            s.speed + a.change.speed,
            s.glide + a.change.glide,
            s.turn + a.change.turn,
            s.fade + a.change.fade,
        )
    })
}

impl AsThrown {
    /// The disc as the simulator flies it.
    ///
    /// # Errors
    /// [`FlightError::OutOfRange`] for a mass that no disc could have.
    pub fn body(&self, mass_g: f64) -> Result<zinc_kite_flight::disc::Disc, FlightError> {
        FlightNumbers::from(self.result).disc(mass_g / 1000.0)
    }
}
