//! Plastic families: how a fresh disc of one differs, and how long it lasts.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// Family of plastic, by how it behaves; makers' own names for plastics do not matter to the flight.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Plastic {
    /// Cheap, grippy, wears fast.
    Base,
    /// Base with more grip.
    TackyBase,
    /// Between base and premium.
    MidGrade,
    /// Hard-wearing.
    Premium,
    /// Hard-wearing and flexible.
    PremiumSoft,
    /// Stiff, glows in the dark.
    StiffGlow,
    /// Air-filled, for weight caps.
    Featherweight,
}

/// What is known of a plastic family. Starting values: own judgement, see docs/model.md.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct PlasticFacts {
    /// The family.
    pub plastic: Plastic,
    /// Its name for people.
    pub label: &'static str,
    /// Difference of a fresh disc's turn from the printed one.
    pub turn: f64,
    /// Difference of a fresh disc's fade from the printed one.
    pub fade: f64,
    /// Effective throws after which 63 % of the wear has happened.
    pub wear_life_throws: f64,
    /// How it holds in a wet hand.
    pub grip_wet: &'static str,
    /// Scatter of a wet release against a dry one.
    pub wet_spread: f64,
    /// Softness of the rim, 0 (stiff) to 1 (gummy).
    pub softness: f64,
    /// What cold does to it.
    pub cold: &'static str,
}

/// How a wet release scatters against a dry one, by how a plastic holds in a wet hand.
const fn wet_spread(grip_wet: &str) -> f64 {
    match grip_wet.as_bytes() {
        b"best" => 1.05,
        b"good" => 1.1,
        b"fair" => 1.2,
        _ => 1.4,
    }
}

const fn facts(
    plastic: Plastic,
    label: &'static str,
    (turn, fade): (f64, f64),
    wear_life_throws: f64,
    softness: f64,
    grip_wet: &'static str,
    cold: &'static str,
) -> PlasticFacts {
    let wet_spread = wet_spread(grip_wet);
    PlasticFacts { plastic, label, turn, fade, wear_life_throws, grip_wet, wet_spread, softness, cold }
}

/// Every family, cheapest first.
pub const PLASTICS: [PlasticFacts; 7] = [
    facts(Plastic::Base, "base", (-0.2, -0.3), 700.0, 0.3, "good", "cracks"),
    facts(Plastic::TackyBase, "tacky base", (0.0, 0.0), 1000.0, 0.6, "best", "holds"),
    facts(Plastic::MidGrade, "mid-grade", (0.0, 0.0), 2000.0, 0.3, "good", "holds"),
    facts(Plastic::Premium, "premium", (0.2, 0.3), 5000.0, 0.25, "slick", "holds"),
    facts(Plastic::PremiumSoft, "premium soft", (0.1, 0.1), 4000.0, 0.7, "fair", "holds"),
    facts(Plastic::StiffGlow, "stiff glow", (0.3, 0.4), 4000.0, 0.1, "fair", "holds"),
    facts(Plastic::Featherweight, "featherweight", (-0.1, 0.0), 3000.0, 0.3, "fair", "holds"),
];

impl Plastic {
    /// Its row of the table.
    pub fn facts(self) -> &'static PlasticFacts {
        // PLASTICS holds the families in the order of the enum (tested).
        &PLASTICS[self as usize]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_every_family_finds_its_own_row() {
        for row in &PLASTICS {
            assert_eq!(row.plastic.facts(), row);
        }
    }
}
