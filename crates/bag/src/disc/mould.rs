//! Moulds as the player has come to know them: a library that fills as discs are added.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::disc::spec::{DiscSpec, Numbers};
use crate::error::{BagError, named, within};
use crate::thrower::slot::Slot;
use crate::words::fold;

/// Identity of a mould.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
#[schema(value_type = i64)]
pub struct MouldId(pub i64);

/// How easily one can be had.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Supply {
    /// In the shops.
    #[default]
    Ready,
    /// Seldom to be had.
    HardToFind,
    /// No longer made.
    OutOfProduction,
}

/// What is known of a mould. Measures are those of the rule book; what was not measured is absent.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct MouldSpec {
    /// Name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// Maker.
    #[schema(min_length = 1, max_length = 60)]
    pub maker: String,
    /// The four numbers as they stand on a disc of it.
    pub printed: Numbers,
    /// The lane it belongs to, where that is not told by its speed.
    #[serde(default)]
    pub class: Option<Slot>,
    /// Mass at which it flies as printed, g, 100 to 200.
    #[serde(default = "usual_mass_g")]
    #[schema(minimum = 100.0, maximum = 200.0)]
    pub reference_mass_g: f64,
    /// Diameter, cm, 18 to 30.
    #[serde(default)]
    #[schema(minimum = 18.0, maximum = 30.0)]
    pub diameter_cm: Option<f64>,
    /// Width of the rim, cm, 0.5 to 3.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 3.0)]
    pub rim_cm: Option<f64>,
    /// Depth of the rim, cm, 0.5 to 3.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 3.0)]
    pub rim_depth_cm: Option<f64>,
    /// Height, cm, 1 to 4.
    #[serde(default)]
    #[schema(minimum = 1.0, maximum = 4.0)]
    pub height_cm: Option<f64>,
    /// Whether the rim has a bead.
    #[serde(default)]
    pub bead: Option<bool>,
    /// Whether the flight plate has a track for the thumb.
    #[serde(default)]
    pub thumb_track: Option<bool>,
    /// Largest mass it is approved for, g, 100 to 220.
    #[serde(default)]
    #[schema(minimum = 100.0, maximum = 220.0)]
    pub largest_mass_g: Option<f64>,
    /// How easily one can be had.
    #[serde(default)]
    pub supply: Supply,
}

/// Mass at which a mould flies as printed where nobody says otherwise, g. Own judgement.
pub const USUAL_MASS_G: f64 = 175.0;

fn usual_mass_g() -> f64 {
    USUAL_MASS_G
}

impl MouldSpec {
    /// A mould of which only its name and numbers are known.
    pub fn named(maker: &str, name: &str, printed: Numbers) -> MouldSpec {
        MouldSpec {
            name: name.into(),
            maker: maker.into(),
            printed,
            class: None,
            reference_mass_g: USUAL_MASS_G,
            diameter_cm: None,
            rim_cm: None,
            rim_depth_cm: None,
            height_cm: None,
            bead: None,
            thumb_track: None,
            largest_mass_g: None,
            supply: Supply::Ready,
        }
    }

    /// The mould of a disc, as far as the disc tells.
    pub fn of(disc: &DiscSpec) -> MouldSpec {
        MouldSpec {
            class: disc.class,
            reference_mass_g: disc.reference_mass_g,
            rim_cm: disc.rim_cm,
            ..MouldSpec::named(disc.maker.trim(), disc.mould.trim(), disc.printed)
        }
    }

    /// Whether a disc is of it, by name and maker however they are written.
    pub fn is_of(&self, disc: &DiscSpec) -> bool {
        fold(&self.name) == fold(&disc.mould) && fold(&self.maker) == fold(&disc.maker)
    }

    /// # Errors
    /// [`BagError`] for the first field that no real mould could have.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 60)?;
        named("maker", &self.maker, 60)?;
        self.printed.validate()?;
        within("reference_mass_g", self.reference_mass_g, 100.0, 200.0)?;
        let measures = [
            ("diameter_cm", self.diameter_cm, 18.0, 30.0),
            ("rim_cm", self.rim_cm, 0.5, 3.0),
            ("rim_depth_cm", self.rim_depth_cm, 0.5, 3.0),
            ("height_cm", self.height_cm, 1.0, 4.0),
            ("largest_mass_g", self.largest_mass_g, 100.0, 220.0),
        ];
        measures
            .into_iter()
            .try_for_each(|(field, value, least, most)| within(field, value.unwrap_or(least), least, most))
    }
}

/// A mould with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Mould {
    /// Identity.
    pub id: MouldId,
    /// What is known of it.
    #[serde(flatten)]
    pub spec: MouldSpec,
}
