//! A disc on the shelf.

use std::fmt;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_flight::numbers::FlightNumbers;

use crate::disc::keeping::Keeping;
use crate::disc::mould::USUAL_MASS_G;
use crate::disc::plastic::Plastic;
use crate::disc::wear::Wear;
use crate::error::{BagError, named, readable, within};
use crate::thrower::slot::Slot;
use crate::thrower::style::Style;

/// Identity of a disc on the shelf.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
#[schema(value_type = i64)]
pub struct DiscId(pub i64);

/// Shape of the top.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Top {
    /// Flatter than the mould's usual.
    Flat,
    /// As usual.
    Neutral,
    /// Higher than usual.
    Domed,
}

/// What a disc is carried for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Use {
    /// Thrown: it fills pegs and answers lines.
    Throwing,
    /// Only putted with.
    Putting,
    /// A special job: it answers lines but fills no peg.
    Utility,
}

impl Use {
    /// Whether a disc so used is thrown in `style` at all: a putter kept for putting only putts.
    fn answers(self, style: Style) -> bool {
        self != Use::Putting || style == Style::Putt
    }
}

/// The four flight numbers as they stand on a disc or were observed.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Numbers {
    /// Speed, 0.5 to 15.
    #[schema(minimum = 0.5, maximum = 15.0)]
    pub speed: f64,
    /// Glide, 0 to 8.
    #[schema(minimum = 0.0, maximum = 8.0)]
    pub glide: f64,
    /// Turn, −8 to 3.
    #[schema(minimum = -8.0, maximum = 3.0)]
    pub turn: f64,
    /// Fade, −1 to 7.
    #[schema(minimum = -1.0, maximum = 7.0)]
    pub fade: f64,
}

impl Numbers {
    /// To halves, as they are printed.
    pub fn to_halves(self) -> Numbers {
        let half = |x: f64| (2.0 * x).round() / 2.0;
        Numbers {
            speed: half(self.speed),
            glide: half(self.glide),
            turn: half(self.turn),
            fade: half(self.fade),
        }
    }

    /// # Errors
    /// [`BagError`] for the first of them that no disc has.
    pub fn validate(&self) -> Result<(), BagError> {
        within("speed", self.speed, 0.5, 15.0)?;
        within("glide", self.glide, 0.0, 8.0)?;
        within("turn", self.turn, -8.0, 3.0)?;
        within("fade", self.fade, -1.0, 7.0)
    }
}

/// In the order they are printed.
impl fmt::Display for Numbers {
    fn fmt(&self, f: &mut fmt::Formatter) -> fmt::Result {
        let all = format!("{} / {} / {} / {}", self.speed, self.glide, self.turn, self.fade);
        f.write_str(&all.replace('-', "−"))
    }
}

/// What changes the four numbers, and by how much.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, ToSchema)]
pub struct NumbersChange {
    /// Speed.
    pub speed: f64,
    /// Glide.
    pub glide: f64,
    /// Turn.
    pub turn: f64,
    /// Fade.
    pub fade: f64,
}

impl From<FlightNumbers> for NumbersChange {
    fn from(n: FlightNumbers) -> NumbersChange {
        NumbersChange { speed: n.speed, glide: n.glide, turn: n.turn, fade: n.fade }
    }
}

impl From<Numbers> for FlightNumbers {
    fn from(n: Numbers) -> FlightNumbers {
        FlightNumbers::new(n.speed, n.glide, n.turn, n.fade)
    }
}

impl From<FlightNumbers> for Numbers {
    fn from(n: FlightNumbers) -> Numbers {
        Numbers { speed: n.speed, glide: n.glide, turn: n.turn, fade: n.fade }
    }
}

/// Everything a player knows of one disc.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct DiscSpec {
    /// The player's own name for it, unique on the shelf.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// Maker.
    #[schema(min_length = 1, max_length = 60)]
    pub maker: String,
    /// Mould.
    #[schema(min_length = 1, max_length = 60)]
    pub mould: String,
    /// Plastic family.
    pub plastic: Plastic,
    /// Mass, g, 60 to 220.
    #[schema(minimum = 60.0, maximum = 220.0)]
    pub mass_g: f64,
    /// Mass at which the mould flies as printed, g, 100 to 200.
    #[schema(minimum = 100.0, maximum = 200.0)]
    pub reference_mass_g: f64,
    /// Printed numbers.
    pub printed: Numbers,
    /// The lane it belongs to, where that is not told by its speed.
    #[serde(default)]
    pub class: Option<Slot>,
    /// Numbers the player has found instead of the printed ones, when this disc was as good as new.
    #[serde(default)]
    pub observed: Option<Numbers>,
    /// Shape of the top.
    pub top: Top,
    /// Wear.
    pub wear: Wear,
    /// What it is carried for.
    pub used_for: Use,
    /// Rim width, cm, 0.5 to 3, if measured.
    #[serde(default)]
    #[schema(minimum = 0.5, maximum = 3.0)]
    pub rim_cm: Option<f64>,
    /// Colour of the plastic as #rrggbb.
    #[schema(pattern = "^#[0-9a-fA-F]{6}$")]
    pub colour: String,
    /// Free text.
    #[serde(default)]
    #[schema(max_length = 2000)]
    pub notes: String,
    /// Where it is, what ties the player to it, what it is kept for.
    #[serde(default)]
    pub keeping: Keeping,
}

/// Colour of a disc of which none is known: the grey of zinc.
pub const USUAL_COLOUR: &str = "#8a94a0";

/// A rim as wide as this is thick, cm; where it was not measured, that of a disc as fast as this: rims of 2.0 cm go with speeds 9
/// and 10 (common practice, no source), the edge own judgement.
const THICK_RIM_CM: f64 = 2.1;
const THICK_FROM_SPEED: f64 = 11.0;
/// A mould whose fade exceeds its turn by so much is stiff and overstable. Own judgement.
const STIFF_FROM: f64 = 3.5;

impl DiscSpec {
    /// A fresh disc of a mould, called like it, of which nothing else is known.
    pub fn plain(maker: &str, mould: &str, printed: Numbers) -> DiscSpec {
        DiscSpec {
            name: mould.into(),
            maker: maker.into(),
            mould: mould.into(),
            plastic: Plastic::MidGrade,
            mass_g: USUAL_MASS_G,
            reference_mass_g: USUAL_MASS_G,
            printed,
            class: None,
            observed: None,
            top: Top::Neutral,
            wear: Wear::FRESH,
            used_for: Use::Throwing,
            rim_cm: None,
            colour: USUAL_COLOUR.into(),
            notes: String::new(),
            keeping: Keeping::default(),
        }
    }

    /// Whether the player throws it in a style: a putter kept for putting only putts, a forehand disc only flies forehand.
    pub fn answers(&self, style: Style) -> bool {
        self.used_for.answers(style) && self.keeping.answers(style)
    }

    /// Effective throws after which 63 % of its wear has happened, before anything is known of it: by its plastic; twice as many for
    /// a thick rim or a stiff, overstable mould, whatever the plastic.
    pub fn wear_life_throws(&self) -> f64 {
        let thick = match self.rim_cm {
            Some(rim_cm) => rim_cm >= THICK_RIM_CM,
            None => self.printed.speed >= THICK_FROM_SPEED,
        };
        let sturdy = thick || self.printed.turn + self.printed.fade >= STIFF_FROM;
        self.plastic.facts().wear_life_throws * if sturdy { 2.0 } else { 1.0 }
    }

    /// Share of all possible wear today, 0 to 1.
    pub fn wear_share(&self) -> f64 {
        self.wear.share(self.wear_life_throws())
    }

    /// The same disc worn to a share of all there is.
    pub fn worn_to(&self, share: f64) -> DiscSpec {
        DiscSpec { wear: Wear::counted(share, self.wear_life_throws()), ..self.clone() }
    }

    /// The numbers that the sum of adjustments starts from.
    pub fn base_numbers(&self) -> FlightNumbers {
        self.observed.unwrap_or(self.printed).into()
    }

    /// The slot it belongs to; [`crate::thrower::player::Player::lane`] says in which lane that is.
    pub fn slot(&self) -> Slot {
        match self.used_for {
            Use::Utility => Slot::Utility,
            Use::Throwing | Use::Putting => self.class.unwrap_or(Slot::of_speed(self.printed.speed)),
        }
    }

    /// # Errors
    /// [`BagError`] for the first field that no real disc could have.
    pub fn validate(&self) -> Result<(), BagError> {
        named("name", &self.name, 60)?;
        named("maker", &self.maker, 60)?;
        named("mould", &self.mould, 60)?;
        within("mass_g", self.mass_g, 60.0, 220.0)?;
        within("reference_mass_g", self.reference_mass_g, 100.0, 200.0)?;
        self.printed.validate()?;
        self.observed.iter().try_for_each(Numbers::validate)?;
        if let Some(rim_cm) = self.rim_cm {
            within("rim_cm", rim_cm, 0.5, 3.0)?;
        }
        self.wear.validate()?;
        readable("notes", &self.notes, 2000)?;
        self.keeping.validate()?;
        let digits = self.colour.strip_prefix('#').unwrap_or_default();
        if digits.len() != 6 || !digits.chars().all(|c| c.is_ascii_hexdigit()) {
            return Err(BagError::Field {
                field: "colour",
                expected: "a colour like #c04030".into(),
                got: format!("\"{}\"", self.colour),
            });
        }
        Ok(())
    }
}

/// A disc with its identity.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Disc {
    /// Identity.
    pub id: DiscId,
    /// What is known of it.
    #[serde(flatten)]
    pub spec: DiscSpec,
}
