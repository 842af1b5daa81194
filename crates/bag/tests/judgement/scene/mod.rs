//! Players and discs for the tests.

pub mod case;
pub mod field;

use std::sync::LazyLock;

use zinc_kite_bag::catalogue::lines::lines_for;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::disc::spec::{Disc, DiscId, DiscSpec, Numbers};
use zinc_kite_bag::disc::thrown::{Thrown, thrown};
use zinc_kite_bag::disc::wear::{Grade, Wear};
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::{Player, Skill};
use zinc_kite_flight::air::Wind;

/// What one test has worked out the next need not: a chance depends on nothing but its question, which `chance.rs` holds.
pub static WORKED_OUT: LazyLock<Memo> = LazyLock::new(Memo::default);

pub fn spec(speed: f64, glide: f64, turn: f64, fade: f64) -> DiscSpec {
    DiscSpec {
        name: format!("{speed:.1}/{glide:.1}/{turn:.1}/{fade:.1}"),
        ..DiscSpec::plain("Saltmarsh", "Teasel", Numbers { speed, glide, turn, fade })
    }
}

pub fn disc(id: i64, spec: DiscSpec) -> Disc {
    Disc { id: DiscId(id), spec: DiscSpec { name: format!("{} no. {id}", spec.name), ..spec } }
}

pub fn worn(spec: DiscSpec, grade: Grade) -> DiscSpec {
    DiscSpec { wear: Wear { grade, ..Wear::FRESH }, ..spec }
}

pub fn player(backhand_m: f64, skill: Skill) -> Player {
    Player { backhand_m, skill, ..Player::default() }
}

pub fn arm(player: &Player) -> Arm {
    Arm::of(player, &Conditions::default()).unwrap()
}

/// A disc as thrown that flies by these numbers.
pub fn thrown_disc((s, g, t, f): (f64, f64, f64, f64)) -> Thrown {
    thrown(&disc(1, spec(s, g, t, f))).unwrap()
}

/// A day with a wind along and across the line, m/s, and gusts.
pub fn gusty(along_m_s: f64, left_m_s: f64) -> Conditions {
    Conditions { gust_m_s: 1.0, ..Conditions::default() }.blowing(Wind { along_m_s, left_m_s }, 1.0)
}

/// A headwind of `m_s` at ten metres.
pub fn into_wind(m_s: f64) -> Conditions {
    Conditions { wind_m_s: m_s, ..Conditions::default() }
}

/// The lines made for a player.
pub fn lines_of(player: &Player) -> Vec<Line> {
    lines_for(player, &arm(player), &WORKED_OUT)
}
