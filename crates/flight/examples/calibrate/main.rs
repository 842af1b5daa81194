//! Fits the map from flight numbers to coefficients to `data/targets.csv` and prints the residuals.
//!
//! `cargo run --release -p zinc-kite-flight --example calibrate` prints the residuals of the shipped constants;
//! `-- --document` also puts them into `docs/model.md`; `-- --fit` (with `--seed N` from another start, with `--near` from the shipped constants) fits afresh and
//! prints, `-- --write` also writes `src/fitted.rs`.

mod order;
mod prior;
mod targets;

use std::error::Error;
use std::fmt::Write as _;

use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::storage::Owned;
use nalgebra::{DMatrix, DVector, Dyn};
use rayon::prelude::*;
use zinc_kite_flight::calibration::Calibration;
use zinc_kite_flight::fitted::FITTED;
use zinc_kite_flight::release::Style;

use crate::order::disorder;
use crate::prior::{PRIOR, SCALE};
use crate::targets::{Quantity, Side, Target, misfit, models, read_targets};

/// Weight of the ridge against the targets.
const RIDGE: f64 = 0.35;

struct Fit<'a> {
    x: DVector<f64>,
    targets: &'a [Target],
}

impl Fit<'_> {
    fn calibration(x: &DVector<f64>) -> Calibration {
        let (prior, scale) = (PRIOR.to_array(), SCALE.to_array());
        let mut values = [0.0; Calibration::COUNT];
        for i in 0..Calibration::COUNT {
            values[i] = prior[i] + scale[i] * x[i];
        }
        Calibration::from_array(&values)
    }

    fn residuals_at(&self, x: &DVector<f64>) -> DVector<f64> {
        let calibration = Self::calibration(x);
        let values = models(&calibration, self.targets);
        let fits = self.targets.iter().zip(&values).map(|(t, value)| misfit(t, *value));
        let all: Vec<f64> = fits.chain(disorder(&calibration)).chain(x.iter().map(|v| RIDGE * v)).collect();
        DVector::from_vec(all)
    }
}

impl LeastSquaresProblem<f64, Dyn, Dyn> for Fit<'_> {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, x: &DVector<f64>) {
        self.x.copy_from(x);
    }
    fn params(&self) -> DVector<f64> {
        self.x.clone()
    }
    fn residuals(&self) -> Option<DVector<f64>> {
        Some(self.residuals_at(&self.x))
    }
    fn jacobian(&self) -> Option<DMatrix<f64>> {
        // Wide enough that the millimetre by which adaptive steps differ does not drown the difference.
        let h = 0.02;
        let columns: Vec<DVector<f64>> = (0..Calibration::COUNT)
            .into_par_iter()
            .map(|i| {
                let (mut up, mut down) = (self.x.clone(), self.x.clone());
                up[i] += h;
                down[i] -= h;
                (self.residuals_at(&up) - self.residuals_at(&down)) / (2.0 * h)
            })
            .collect();
        let jacobian = DMatrix::from_columns(&columns);
        Some(jacobian)
    }
}

fn residuals(calibration: &Calibration, targets: &[Target]) -> String {
    let mut text = String::from(
        "| numbers | style | mph | launch | nose | hyzer | wind mph | g | quantity | target | model | difference |\n|---|---|---|---|---|---|---|---|---|---|---|---|\n",
    );
    let (mut percent, mut feet) = (Vec::new(), Vec::new());
    for (t, value) in targets.iter().zip(models(calibration, targets)) {
        let n = t.numbers;
        let numbers = match t.quantity {
            Quantity::Reach => "ordinary".into(),
            _ => format!("{}/{}/{}/{}", n.speed, n.glide, n.turn, n.fade),
        };
        let sign = match t.side {
            Side::Equal => "",
            Side::AtMost => "≤ ",
            Side::AtLeast => "≥ ",
        };
        let _ = writeln!(
            text,
            "| {} | {} | {} | {} | {} | {} | {} | {:.0} | {} | {sign}{} | {value:.1} | {:+.1} |",
            numbers,
            style_name(t.style),
            t.mph,
            t.launch_deg,
            t.nose_deg,
            t.hyzer_deg,
            t.wind_mph,
            1e3 * t.mass_kg,
            t.quantity.name().replace('_', " "),
            t.value,
            value - t.value
        );
        match (t.rated, t.quantity) {
            (true, Quantity::Distance) => percent.push(100.0 * ((value - t.value) / t.value).abs()),
            (true, _) => feet.push((value - t.value).abs()),
            _ => {}
        }
    }
    percent.sort_by(f64::total_cmp);
    feet.sort_by(f64::total_cmp);
    let largest = |v: &[f64]| v.last().copied().unwrap_or(0.0);
    let _ = writeln!(
        text,
        "\nRated table: distance median {:.1} %, largest {:.1} %; swing and finish median {:.1} ft, largest {:.1} ft.",
        percent[percent.len() / 2],
        largest(&percent),
        feet[feet.len() / 2],
        largest(&feet)
    );
    text
}

fn style_name(style: Style) -> String {
    serde_json::to_value(style).ok().and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default()
}

const DOCUMENT: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/model.md");
const MARKS: [&str; 2] = ["<!-- residuals -->\n", "<!-- end of residuals -->\n"];

/// Puts the table into the document, between its marks.
fn document(table: &str) -> Result<(), Box<dyn Error>> {
    let text = std::fs::read_to_string(DOCUMENT)?;
    let missing = || format!("{DOCUMENT} has lost its marks {MARKS:?}: put them where the table belongs");
    let (before, rest) = text.split_once(MARKS[0]).ok_or_else(missing)?;
    let (_, after) = rest.split_once(MARKS[1]).ok_or_else(missing)?;
    Ok(std::fs::write(DOCUMENT, format!("{before}{}{table}{}{after}", MARKS[0], MARKS[1]))?)
}

fn source_of(calibration: &Calibration) -> String {
    let mut text = String::from(
        "//! Fitted constants. Written by `cargo run --release -p zinc-kite-flight --example calibrate -- --write`.\n\n\
         use crate::calibration::Calibration;\n\n/// The constants that the program ships with.\npub const FITTED: Calibration = Calibration {\n",
    );
    for (name, value) in Calibration::NAMES.iter().zip(calibration.to_array()) {
        let rounded: f64 = format!("{value:.4e}").parse().unwrap_or(value);
        let _ = writeln!(text, "    {name}: {rounded:?},");
    }
    text.push_str("};\n");
    text
}

/// Where the search starts: for seed 0 the prior, or the shipped constants if `near`; else somewhere within a scale of it. Two seeds that end in the same
/// place are worth more than one.
fn starting_point(seed: u64, near: bool) -> DVector<f64> {
    let (prior, scale, fitted) = (PRIOR.to_array(), SCALE.to_array(), FITTED.to_array());
    let middle = |i: usize| if near { (fitted[i] - prior[i]) / scale[i] } else { 0.0 };
    let mut state = seed.wrapping_mul(0x9E37_79B9_7F4A_7C15) | 1;
    DVector::from_fn(Calibration::COUNT, |i, _| {
        if seed == 0 {
            return middle(i);
        }
        // Marsaglia's xorshift: all that is asked of it is to be somewhere else each time.
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        middle(i) + if near { 0.5 } else { 1.0 } * (2.0 * ((state >> 11) as f64 / (1u64 << 53) as f64) - 1.0)
    })
}

fn seed_of(arguments: &[String]) -> Result<u64, Box<dyn Error>> {
    let Some(k) = arguments.iter().position(|a| a == "--seed") else { return Ok(0) };
    let text = arguments.get(k + 1).map_or("", String::as_str);
    text.parse().map_err(|_| format!("--seed wants a whole number, got \"{text}\"").into())
}

fn main() -> Result<(), Box<dyn Error>> {
    let targets = read_targets()?;
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    let write = arguments.iter().any(|a| a == "--write");
    if !write && !arguments.iter().any(|a| a == "--fit") {
        let table = residuals(&FITTED, &targets);
        println!("{table}");
        return if arguments.iter().any(|a| a == "--document") { document(&table) } else { Ok(()) };
    }
    let near = arguments.iter().any(|a| a == "--near");
    let start = Fit { x: starting_point(seed_of(&arguments)?, near), targets: &targets };
    let (fit, report) =
        LevenbergMarquardt::new().with_patience(20).with_ftol(1e-4).with_xtol(1e-6).minimize(start);
    eprintln!(
        "{:?} after {} evaluations, objective {:.2}",
        report.termination, report.number_of_evaluations, report.objective_function
    );
    let calibration = Fit::calibration(&fit.x);
    let off = disorder(&calibration);
    eprintln!(
        "{} of {} neighbouring numbers less than a degree apart",
        off.iter().filter(|m| **m > 0.0).count(),
        off.len()
    );
    println!("{}", residuals(&calibration, &targets));
    for (i, (name, value)) in Calibration::NAMES.iter().zip(calibration.to_array()).enumerate() {
        eprintln!("{name:18} {value:+.6}  ({:+.2} scales)", fit.x[i]);
    }
    if write {
        std::fs::write(concat!(env!("CARGO_MANIFEST_DIR"), "/src/fitted.rs"), source_of(&calibration))?;
    }
    Ok(())
}
