//! What other discs of a run tell of a disc: those whose numbers were observed show by how much the run flies otherwise than its sum.

use serde::Serialize;
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::disc::as_thrown::as_thrown;
use crate::disc::spec::{Disc, DiscSpec, NumbersChange};
use crate::field::emulator::{ASKED, UNSURE, Units};

/// Of what is unsure about a disc's numbers, as a variance, so much is the same for all discs of its run. Own judgement: runs of a mould
/// lie up to a full number apart, discs of one run much less (common practice, no source).
const SAME_IN_RUN: f64 = 0.6;

/// By how much a run flies otherwise than the sum, as its other discs tell.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct RunDifference {
    /// The run.
    pub run: String,
    /// Its other discs whose numbers were observed.
    pub discs: usize,
    /// What is expected of a disc of it, beyond its sum.
    pub change: NumbersChange,
}

/// What is thought of a disc's numbers before it is thrown, in units of how unsure they are of any disc.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Beforehand {
    /// Their middle.
    pub middle: Units,
    /// Their deviation.
    pub deviation: f64,
}

impl Beforehand {
    /// Logarithm of how likely numbers are, up to a constant.
    pub fn log_density(&self, units: &Units) -> f64 {
        -0.5 * ((units - self.middle) / self.deviation).norm_squared()
    }
}

/// By how much observed numbers lie beyond the sum.
fn beyond(spec: &DiscSpec) -> Units {
    let printed = DiscSpec { observed: None, ..spec.clone() };
    let (found, sum) = (as_thrown(spec).result, as_thrown(&printed).result);
    let off =
        [found.speed - sum.speed, found.glide - sum.glide, found.turn - sum.turn, found.fade - sum.fade];
    Units::from_fn(|k, _| off[k] / UNSURE[k])
}

fn is_of_run(one: &DiscSpec, other: &DiscSpec) -> bool {
    let run = |spec: &DiscSpec| spec.keeping.run.trim().to_lowercase();
    let mould = |spec: &DiscSpec| (spec.maker.to_lowercase(), spec.mould.to_lowercase(), spec.plastic);
    !run(one).is_empty() && run(one) == run(other) && mould(one) == mould(other)
}

/// What the other discs of a shelf say of a disc beforehand, and by how much its run differs, if any of them is of it.
pub(crate) fn beforehand(disc: &Disc, shelf: &[Disc]) -> (Beforehand, Option<RunDifference>) {
    let of_run = |d: &&Disc| d.id != disc.id && d.spec.observed.is_some() && is_of_run(&d.spec, &disc.spec);
    let offs: Vec<Units> = shelf.iter().filter(of_run).map(|d| beyond(&d.spec)).collect();
    if offs.is_empty() {
        return (Beforehand { middle: Units::zeros(), deviation: 1.0 }, None);
    }
    // A normal run about none, seen through discs that lie about it.
    let own = 1.0 - SAME_IN_RUN;
    let seen = own + SAME_IN_RUN * offs.len() as f64;
    let middle = offs.iter().sum::<Units>() * (SAME_IN_RUN / seen);
    let deviation = (SAME_IN_RUN * own / seen + own).sqrt();
    let [speed, glide, turn, fade]: [f64; ASKED] = std::array::from_fn(|k| UNSURE[k] * middle[k]);
    let difference = RunDifference {
        run: disc.spec.keeping.run.trim().to_owned(),
        discs: offs.len(),
        change: FlightNumbers::new(speed, glide, turn, fade).into(),
    };
    (Beforehand { middle, deviation }, Some(difference))
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use crate::disc::spec::{DiscId, Numbers};
    use approx::assert_abs_diff_eq;

    fn of_run(id: i64, run: &str, fade: Option<f64>) -> Disc {
        let printed = Numbers { speed: 7.0, glide: 5.0, turn: 0.0, fade: 2.0 };
        let mut spec = DiscSpec::plain("Hobb & Tiller", "Purlin", printed);
        spec.keeping.run = run.into();
        spec.observed = fade.map(|fade| Numbers { fade, ..printed });
        Disc { id: DiscId(id), spec }
    }

    /// The more discs of a run were observed, the nearer what is expected of another comes to them, and the surer it is; other runs and
    /// other plastics say nothing.
    #[test]
    fn prop_a_run_is_learnt_from_its_discs() {
        let new = of_run(1, "second", None);
        assert_eq!(beforehand(&new, &[of_run(2, "first", Some(3.0)), of_run(3, "second", None)]).1, None);
        let mut shelf = vec![new.clone()];
        let mut before = (0.0, 1.0);
        for id in 2..12 {
            shelf.push(of_run(id, "Second ", Some(3.0)));
            let (of, told) = beforehand(&new, &shelf);
            let change = told.unwrap().change;
            assert!(change.fade > before.0 && change.fade < 1.0, "{change:?}");
            assert!(of.deviation < before.1);
            assert_abs_diff_eq!(change.speed, 0.0, epsilon = 1e-12);
            before = (change.fade, of.deviation);
        }
        assert!(before.0 > 0.9, "{before:?}");
        assert!(before.1 > 0.6, "discs of a run still differ: {before:?}");
        assert_eq!(beforehand(&of_run(20, "", None), &shelf).1, None, "no run is not a run");
    }
}
