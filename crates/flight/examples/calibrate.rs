//! Fits the map from flight numbers to coefficients to `data/targets.csv` and prints the residuals.
//!
//! `cargo run --release -p zinc-kite-flight --example calibrate` prints the residuals of the shipped constants;
//! `-- --document` also puts them into `docs/model.md`; `-- --fit` (with `--seed N` from another start, with `--near` from the shipped constants) fits afresh and
//! prints, `-- --write` also writes `src/fitted.rs`.

use std::error::Error;
use std::fmt::Write as _;

use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::storage::Owned;
use nalgebra::{DMatrix, DVector, Dyn};
use rayon::prelude::*;
use zinc_kite_flight::air::{Air, Wind};
use zinc_kite_flight::batch::fly_all;
use zinc_kite_flight::calibration::Calibration;
use zinc_kite_flight::disc::{Disc, INERTIA_SHARE, STANDARD_RADIUS_M};
use zinc_kite_flight::dynamics::Throw;
use zinc_kite_flight::fitted::FITTED;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::release::{Hand, Release, Style};

const FEET_PER_M: f64 = 1.0 / 0.3048;
const M_S_PER_MPH: f64 = 0.447_04;
const MASS_KG: f64 = 0.175;

/// Where the search starts and toward which the ridge pulls: the form's first fit, before the extra terms.
const PRIOR: Calibration = Calibration {
    cd0: 0.05522,
    cd0_speed: -0.001432,
    cd0_glide: -0.003508,
    cd0_blunt: 0.004,
    cd_alpha: 1.894,
    alpha0: -0.0353,
    cd_speed: 0.75,
    cl0: 0.063066,
    cl0_glide: 0.004729,
    cl_alpha: 1.71644,
    cl_alpha_glide: 0.03746,
    cl_alpha_blunt: 0.03,
    cm0: -0.009,
    cm0_turn: 0.002393,
    cm0_turn2: 0.00015,
    cm0_fade: 0.001985,
    cm0_fade2: 0.0,
    cm0_glide: 0.000858,
    cm0_speed: -0.000222,
    cm0_turn_speed: 0.0,
    cm0_fade_speed: 0.0,
    cm_alpha: 0.09449,
    cm_alpha_fade: 0.01773,
    cm_alpha_turn: 0.005748,
    cm_alpha_speed: 0.0,
    cm_alpha2: 0.014,
    cm_alpha2_fade: 0.101,
    cm_spin: 0.005,
    cm_speed: -0.022,
    cm_speed_fade: 0.0,
    cm_speed_turn: 0.0,
    spin_decay: 0.05,
    cr0: 0.0,
    cr0_glide: 0.0,
    cr0_speed: 0.0,
    cr_alpha: 0.0,
    cm_even: 0.0,
    cm_even_fade: 0.0,
};

/// How far each constant may plausibly move: the ridge's scale.
const SCALE: Calibration = Calibration {
    cd0: 0.02,
    cd0_speed: 0.0006,
    cd0_glide: 0.003,
    cd0_blunt: 0.004,
    cd_alpha: 0.5,
    alpha0: 0.02,
    cd_speed: 0.01,
    cl0: 0.012,
    cl0_glide: 0.004,
    cl_alpha: 0.12,
    cl_alpha_glide: 0.03,
    cl_alpha_blunt: 0.03,
    cm0: 0.01,
    cm0_turn: 0.003,
    cm0_turn2: 0.0006,
    cm0_fade: 0.003,
    cm0_fade2: 0.0006,
    cm0_glide: 0.001,
    cm0_speed: 0.001,
    cm0_turn_speed: 0.0003,
    cm0_fade_speed: 0.0003,
    cm_alpha: 0.03,
    cm_alpha_fade: 0.005,
    cm_alpha_turn: 0.004,
    cm_alpha_speed: 0.008,
    cm_alpha2: 0.15,
    cm_alpha2_fade: 0.05,
    cm_spin: 0.003,
    cm_speed: 0.01,
    cm_speed_fade: 0.002,
    cm_speed_turn: 0.003,
    spin_decay: 0.02,
    cr0: 0.003,
    cr0_glide: 0.001,
    cr0_speed: 0.0006,
    cr_alpha: 0.02,
    cm_even: 0.2,
    cm_even_fade: 0.05,
};
/// Weight of the ridge against the targets.
const RIDGE: f64 = 0.35;

#[derive(Clone, Copy, PartialEq)]
enum Side {
    Equal,
    AtMost,
    AtLeast,
}

struct Target {
    numbers: FlightNumbers,
    mph: f64,
    launch_deg: f64,
    hyzer_deg: f64,
    wind_mph: f64,
    nose_deg: f64,
    mass_kg: f64,
    style: Style,
    quantity: String,
    side: Side,
    value: f64,
    sigma: f64,
    rated: bool,
}

fn read_targets() -> Result<Vec<Target>, Box<dyn Error>> {
    let text = include_str!("../data/targets.csv");
    let rows = text.lines().filter(|l| !l.starts_with('#') && !l.trim().is_empty()).skip(1);
    rows.map(|row| {
        let f: Vec<&str> = row.split(',').map(str::trim).collect();
        let number = |i: usize| f[i].parse::<f64>();
        let (side, value) = match f[12].split_once(':') {
            Some(("le", v)) => (Side::AtMost, v.parse()?),
            Some(("ge", v)) => (Side::AtLeast, v.parse()?),
            _ => (Side::Equal, number(12)?),
        };
        Ok(Target {
            numbers: FlightNumbers::new(number(0)?, number(1)?, number(2)?, number(3)?),
            mph: number(4)?,
            launch_deg: number(5)?,
            hyzer_deg: number(6)?,
            wind_mph: number(7)?,
            nose_deg: number(8)?,
            mass_kg: 1e-3 * number(9)?,
            style: serde_json::from_value(serde_json::Value::from(f[10]))?,
            quantity: f[11].to_owned(),
            side,
            value,
            sigma: number(13)?,
            rated: f[14] == "1",
        })
    })
    .collect()
}

/// The throws that tell what a target asks: one, or for the best reachable a grid of launches and hyzers.
fn throws_of(calibration: &Calibration, target: &Target) -> Vec<Throw> {
    let disc = disc(calibration, &target.numbers, target.mass_kg);
    let wind = Wind { along_m_s: target.wind_mph * M_S_PER_MPH, left_m_s: 0.0 };
    let rated = Release::rated(target.mph * M_S_PER_MPH, Hand::Right, target.style);
    let throw = |launch_deg: f64, hyzer_deg: f64| Throw {
        disc,
        release: Release { launch_deg, hyzer_deg, nose_deg: target.nose_deg, ..rated },
        wind,
    };
    if target.quantity != "best" {
        return vec![throw(target.launch_deg, target.hyzer_deg)];
    }
    let launches = [6.0, 8.0, 10.0, 12.0, 14.0, 16.0, 19.0];
    let hyzers = [-14.0, -7.0, 0.0, 7.0, 14.0, 21.0];
    launches.iter().flat_map(|&l| hyzers.iter().map(move |&h| (l, h))).map(|(l, h)| throw(l, h)).collect()
}

/// What a target asks, read from its flights.
fn value_of(target: &Target, flights: &[Outcome]) -> f64 {
    let flight = &flights[0];
    match target.quantity.as_str() {
        "best" => flights.iter().map(|o| o.distance_m()).fold(0.0, f64::max) * FEET_PER_M,
        "distance" => flight.distance_m() * FEET_PER_M,
        "swing" => flight.farthest_right_m * FEET_PER_M,
        "finish" => -flight.y_m * FEET_PER_M,
        "early" => flight.crossings[0].map_or(0.0, |c| c.y_m) * FEET_PER_M,
        "apex" => flight.apex_m * FEET_PER_M,
        "time" => flight.time_s,
        "descent" => flight.descent_deg(),
        other => panic!(
            "unknown quantity {other} in targets.csv: use distance, swing, finish, best, early, apex, descent or time"
        ),
    }
}

/// Where "early" is, m.
const EARLY_M: f64 = 100.0 / FEET_PER_M;

/// What each target asks, by a calibration.
fn models(calibration: &Calibration, targets: &[Target]) -> Vec<f64> {
    let throws: Vec<Vec<Throw>> = targets.iter().map(|t| throws_of(calibration, t)).collect();
    let flights = fly_all(&throws.concat(), &Air::default(), &[EARLY_M]);
    let mut rest = flights.as_slice();
    let mut values = Vec::with_capacity(targets.len());
    for (target, throws) in targets.iter().zip(&throws) {
        let (own, others) = rest.split_at(throws.len());
        values.push(value_of(target, own));
        rest = others;
    }
    values
}

/// Difference in units of sigma, zero on the free side of a one-sided target.
fn misfit(target: &Target, value: f64) -> f64 {
    let d = (value - target.value) / target.sigma;
    match target.side {
        Side::AtMost => d.max(0.0),
        Side::AtLeast => d.min(0.0),
        Side::Equal => d,
    }
}

/// Classes over which more fade must mean more finish and more turn less: speed, glide and the speed they are rated at.
const CLASSES: [(f64, f64, f64); 7] = [
    (2.0, 3.0, 52.0),
    (4.0, 3.0, 54.0),
    (5.0, 5.0, 55.0),
    (7.0, 5.0, 59.0),
    (9.0, 4.0, 62.0),
    (11.0, 5.0, 65.0),
    (13.0, 5.0, 67.0),
];
const ORDER_TURNS: [f64; 4] = [0.0, -1.0, -2.0, -3.0];
const ORDER_FADES: [f64; 5] = [0.0, 1.0, 2.0, 3.0, 4.0];
const ORDER_GLIDES: [f64; 5] = [2.0, 3.0, 4.0, 5.0, 6.0];
/// Least time in the air (s) and distance (m) that one unit of glide should add.
const ORDER_HANG_S: f64 = 0.15;
const ORDER_FAR_M: f64 = 2.0;
/// Least difference of finish that one unit of fade or turn should make, degrees, and how firmly.
const ORDER_STEP_DEG: f64 = 1.0;
const ORDER_SIGMA_DEG: f64 = 0.35;

/// By how much each neighbouring pair of numbers fails to be in order, zero where it is.
fn disorder(calibration: &Calibration) -> Vec<f64> {
    let mut throws = Vec::new();
    for (speed, glide, mph) in CLASSES {
        let release = Release::rated(mph * M_S_PER_MPH, Hand::Right, Style::Backhand);
        let mut throw = |glide: f64, turn: f64, fade: f64| {
            let disc = disc(calibration, &FlightNumbers::new(speed, glide, turn, fade), MASS_KG);
            throws.push(Throw { disc, release, wind: Wind::CALM });
        };
        for turn in ORDER_TURNS {
            ORDER_FADES.iter().for_each(|fade| throw(glide, turn, *fade));
        }
        ORDER_GLIDES.iter().for_each(|glide| throw(*glide, 0.0, 2.0));
    }
    let bends = ORDER_TURNS.len() * ORDER_FADES.len();
    let flights = fly_all(&throws, &Air::default(), &[]);
    let mut misses = Vec::new();
    for class in flights.chunks(bends + ORDER_GLIDES.len()) {
        let (grid, floats) = class.split_at(bends);
        let finish: Vec<f64> = grid.iter().map(|o| o.y_m.atan2(o.x_m).to_degrees()).collect();
        let n = ORDER_FADES.len();
        let short = |more: f64, less: f64| ((ORDER_STEP_DEG - (more - less)) / ORDER_SIGMA_DEG).max(0.0);
        for (k, at) in finish.iter().enumerate() {
            if k % n + 1 < n {
                misses.push(short(finish[k + 1], *at));
            }
            if k + n < finish.len() {
                misses.push(short(*at, finish[k + n]));
            }
        }
        for pair in floats.windows(2) {
            misses.push(((ORDER_HANG_S - (pair[1].time_s - pair[0].time_s)) / 0.1).max(0.0));
            misses.push(((ORDER_FAR_M - (pair[1].distance_m() - pair[0].distance_m())) / 1.0).max(0.0));
        }
    }
    misses
}

fn disc(calibration: &Calibration, numbers: &FlightNumbers, mass_kg: f64) -> Disc {
    Disc {
        coefficients: calibration.coefficients(numbers),
        mass_kg,
        radius_m: STANDARD_RADIUS_M,
        inertia_kg_m2: INERTIA_SHARE * mass_kg * STANDARD_RADIUS_M * STANDARD_RADIUS_M,
    }
}

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
        let h = 1e-4;
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
        let sign = match t.side {
            Side::Equal => "",
            Side::AtMost => "≤ ",
            Side::AtLeast => "≥ ",
        };
        let _ = writeln!(
            text,
            "| {}/{}/{}/{} | {} | {} | {} | {} | {} | {} | {:.0} | {} | {sign}{} | {value:.1} | {:+.1} |",
            n.speed,
            n.glide,
            n.turn,
            n.fade,
            style_name(t.style),
            t.mph,
            t.launch_deg,
            t.nose_deg,
            t.hyzer_deg,
            t.wind_mph,
            1e3 * t.mass_kg,
            t.quantity,
            t.value,
            value - t.value
        );
        match (t.rated, t.quantity.as_str()) {
            (true, "distance") => percent.push(100.0 * ((value - t.value) / t.value).abs()),
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
        middle(i) + 2.0 * ((state >> 11) as f64 / (1u64 << 53) as f64) - 1.0
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
        LevenbergMarquardt::new().with_patience(20).with_ftol(1e-5).with_xtol(1e-5).minimize(start);
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
