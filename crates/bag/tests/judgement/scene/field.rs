//! Throws in a field that the simulator made, of discs and arms that are known.

use nalgebra::{SMatrix, SVector};
use rand::RngExt;
use rand::rngs::StdRng;
use statrs::distribution::{ContinuousCDF, Normal};
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers};
use zinc_kite_bag::disc::thrown::{Thrown, thrown};
use zinc_kite_bag::field::meant::{ends, meant};
use zinc_kite_bag::field::session::FieldSession;
use zinc_kite_bag::field::throw::{FieldThrow, Meant, WindThen};
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::thrower::style::Style;
use zinc_kite_flight::numbers::FlightNumbers;
use zinc_kite_flight::outcome::Outcome;
use zinc_kite_flight::scatter::{DIMENSIONS, correlations};

/// How unsure numbers are at first, as docs/model.md says.
const UNSURE: [f64; 4] = [0.7, 0.7, 0.9, 0.8];

/// A disc of which nothing is known but its numbers.
pub fn purlin(numbers: [f64; 4]) -> Disc {
    let [speed, glide, turn, fade] = numbers;
    Disc {
        id: DiscId(1),
        spec: DiscSpec::plain("Hobb & Tiller", "Purlin", Numbers { speed, glide, turn, fade }),
    }
}

pub fn session() -> FieldSession {
    serde_json::from_str(r#"{"place":"Vell sands","date":"2026-06-01"}"#).unwrap()
}

/// A normal deviate.
pub fn deviate(random: &mut StdRng) -> f64 {
    Normal::standard().inverse_cdf(random.random_range(1e-9..1.0))
}

/// Errors of a release and of the wind, normal and together as [`correlations`] says for the style; made here by themselves.
pub fn errors(style: Style, random: &mut StdRng) -> [f64; DIMENSIONS] {
    let mut together = SMatrix::<f64, DIMENSIONS, DIMENSIONS>::identity();
    for (i, j, rho) in correlations(style.into()) {
        (together[(i, j)], together[(j, i)]) = (rho, rho);
    }
    let independent = SVector::from_fn(|_, _| deviate(random));
    (together.cholesky().unwrap().l() * independent).into()
}

/// Numbers as they may really be of a disc whose sum is known.
pub fn truth_about(sum: &FlightNumbers, random: &mut StdRng) -> FlightNumbers {
    let mut off = |k: usize| UNSURE[k] * deviate(random);
    FlightNumbers::new(sum.speed + off(0), sum.glide + off(1), sum.turn + off(2), sum.fade + off(3)).clamped()
}

/// Throws of a disc that really has `truth`, meant in turn flat, on hyzer and on anhyzer, in calm air, into a wind and before one.
pub fn log(
    disc: &Disc,
    truth: &FlightNumbers,
    style: Style,
    n: usize,
    random: &mut StdRng,
) -> Vec<FieldThrow> {
    log_by(&Player::default(), disc, truth, style, n, random).into_iter().map(|(throw, _)| throw).collect()
}

/// The same with what each of them did.
pub fn log_by(
    player: &Player,
    disc: &Disc,
    truth: &FlightNumbers,
    style: Style,
    n: usize,
    random: &mut StdRng,
) -> Vec<(FieldThrow, Outcome)> {
    let held = Thrown { body: truth.disc(disc.spec.mass_g / 1000.0).unwrap(), ..thrown(disc).unwrap() };
    let one = |k: usize| {
        let how = [Meant::Flat, Meant::Hyzer, Meant::Anhyzer][k % 3];
        let (wind_m_s, from_deg) = [(0.0, 0.0), (4.0, 0.0), (4.0, 180.0)][k / 3 % 3];
        let like = FieldThrow { wind: WindThen { wind_m_s, from_deg }, ..FieldThrow::of(disc, style, how) };
        let meant = meant(player, &session(), &like, &held).unwrap();
        let errors = errors(style, random);
        let end = ends(player, &session(), &meant, &held, &[errors]).unwrap()[0];
        let off = end.y_m.atan2(end.x_m).to_degrees();
        (FieldThrow { distance_m: Some(end.distance_m()), off_deg: Some(off), ..like }, end)
    };
    (0..n).map(one).collect()
}
