//! What a player's scatter costs on a line, error by error: what would be worth practising.

use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::answer::Chosen;
use crate::chance::search::chance_with;
use crate::disc::thrown::Thrown;
use crate::need::line::LineSpec;
use crate::thrower::arm::Arm;

/// Something that differs from one throw to the next.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum ErrorKind {
    /// Speed of release.
    Speed,
    /// Hyzer.
    Hyzer,
    /// Launch.
    Launch,
    /// Nose.
    Nose,
    /// Aim.
    Aim,
    /// Gusts: no fault of the player.
    Gust,
}

/// Each with its places among the deviates.
pub(crate) const KINDS: [(ErrorKind, &[usize]); 6] = [
    (ErrorKind::Speed, &[0]),
    (ErrorKind::Hyzer, &[1]),
    (ErrorKind::Launch, &[2]),
    (ErrorKind::Nose, &[3]),
    (ErrorKind::Aim, &[4]),
    (ErrorKind::Gust, &[5, 6]),
];

/// What one error costs.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct ErrorCost {
    /// The error.
    pub kind: ErrorKind,
    /// Chance if this error alone never happened, 0 to 1.
    pub chance_without: f64,
    /// What is gained by that; a little below zero is the grain of the sample.
    pub gain: f64,
}

/// What each error costs a release on a line that makes it with `chance`, the dearest first. Gusts only where there are
/// any.
pub fn error_costs(
    arm: &Arm,
    thrown: Thrown,
    line: &LineSpec,
    chosen: &Chosen,
    chance: f64,
) -> Vec<ErrorCost> {
    let counted = chance_with(arm, thrown, line, chosen, &[], 1.0);
    let mut costs: Vec<ErrorCost> = KINDS
        .iter()
        .filter(|(kind, _)| *kind != ErrorKind::Gust || arm.gust_m_s * (1.0 - line.lee) > 0.0)
        .map(|(kind, places)| {
            let more = chance_with(arm, thrown, line, chosen, places, 0.0) - counted;
            let chance_without = (chance + more).clamp(0.0, 1.0);
            ErrorCost { kind: *kind, chance_without, gain: chance_without - chance }
        })
        .collect();
    costs.sort_by(|a, b| b.gain.total_cmp(&a.gain));
    costs
}
