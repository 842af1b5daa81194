//! From the four numbers on a disc to its aerodynamic coefficients.
//!
//! One map for every disc, this project's own (not published data): its form is physical, its constants were fitted by
//! `cargo run --release -p zinc-kite-flight --example calibrate` to the common-practice table in `data/targets.csv`. The
//! residuals are in `docs/model.md`.

use crate::disc::Coefficients;
use crate::numbers::FlightNumbers;

macro_rules! calibration {
    ($($(#[doc = $doc:literal])* $name:ident,)*) => {
        /// Constants of the map from numbers to coefficients.
        #[derive(Debug, Clone, Copy, PartialEq)]
        pub struct Calibration { $($(#[doc = $doc])* pub $name: f64,)* }

        impl Calibration {
            /// Names of the constants, in the order of [`Calibration::to_array`].
            pub const NAMES: &[&str] = &[$(stringify!($name),)*];
            /// Number of constants.
            pub const COUNT: usize = Self::NAMES.len();

            /// The constants as numbers in a row, for a fitting program.
            pub fn to_array(&self) -> [f64; Self::COUNT] {
                [$(self.$name,)*]
            }

            /// The inverse of [`Calibration::to_array`].
            pub fn from_array(values: &[f64; Self::COUNT]) -> Calibration {
                let [$($name,)*] = *values;
                Calibration { $($name,)* }
            }
        }
    };
}

calibration! {
    /// C_D0 of a disc of speed 0 and glide 4.
    cd0,
    /// Fall of C_D0 per unit of speed: a thinner rim.
    cd0_speed,
    /// Change of C_D0 per unit of glide above 4.
    cd0_glide,
    /// Rise of C_D0 per squared unit of glide below 3.5: a blunt, beaded edge.
    cd0_blunt,
    /// Change of C_D0 per unit of turn.
    cd0_turn,
    /// Change of C_D0 per unit of fade.
    cd0_fade,
    /// Growth of drag with angle of attack, per rad².
    cd_alpha,
    /// Angle of attack of least drag, rad.
    alpha0,
    /// Relative growth of C_D0 per unit of (V / 25 m/s)² above 1: harder throws wobble more.
    cd_speed,
    /// C_L at zero angle for glide 4.
    cl0,
    /// Change of that per unit of glide.
    cl0_glide,
    /// Change of C_L at zero angle per unit of turn.
    cl0_turn,
    /// Change of that per unit of fade.
    cl0_fade,
    /// Lift per unit of (V² − (25 m/s)²) / (V² + (25 m/s)²): slow air carries better.
    cl_speed,
    /// Change of that per unit of glide above 4.
    cl_speed_glide,
    /// Lift slope for glide 4, per rad.
    cl_alpha,
    /// Change of that per unit of glide.
    cl_alpha_glide,
    /// Fall of lift slope per squared unit of glide below 3.5.
    cl_alpha_blunt,
    /// C_M at zero angle for speed 8, glide 4, no turn, no fade.
    cm0,
    /// Change per unit of turn.
    cm0_turn,
    /// Change per unit of turn times |turn|.
    cm0_turn2,
    /// Change per unit of fade.
    cm0_fade,
    /// Change per squared unit of fade.
    cm0_fade2,
    /// Change per unit of glide above 4.
    cm0_glide,
    /// Change per unit of speed above 8.
    cm0_speed,
    /// Change per unit of turn and of speed above 8.
    cm0_turn_speed,
    /// Change per unit of fade and of speed above 8.
    cm0_fade_speed,
    /// Moment slope for speed 8, no turn, no fade, per rad.
    cm_alpha,
    /// Change per unit of fade.
    cm_alpha_fade,
    /// Change per unit of turn.
    cm_alpha_turn,
    /// Change per unit of speed above 8.
    cm_alpha_speed,
    /// Growth of the moment slope, per rad².
    cm_alpha2,
    /// Change of that per unit of fade.
    cm_alpha2_fade,
    /// Moment per unit of advance ratio above 0.5.
    cm_spin,
    /// Change of that per unit of turn.
    cm_spin_turn,
    /// Moment per unit of (V² − (25 m/s)²) / (V² + (25 m/s)²).
    cm_speed,
    /// Change of that per unit of fade.
    cm_speed_fade,
    /// Change of that per unit of turn: turn is what a disc does while it is fast.
    cm_speed_turn,
    /// Rate of spin decay, per s.
    spin_decay,
    /// Roll moment at zero angle of attack.
    cr0,
    /// Change per unit of glide above 4.
    cr0_glide,
    /// Change per unit of speed above 8.
    cr0_speed,
    /// Roll moment slope, per rad.
    cr_alpha,
    /// Even part of the moment, per rad².
    cm_even,
    /// Change of that per unit of fade.
    cm_even_fade,
}

impl Calibration {
    /// The coefficients of a disc with `numbers`.
    pub fn coefficients(&self, numbers: &FlightNumbers) -> Coefficients {
        let FlightNumbers { speed: s, glide: g, turn: t, fade: f } = *numbers;
        let (s8, g4) = (s - 8.0, g - 4.0);
        let blunt = (3.5 - g).max(0.0).powi(2);
        Coefficients {
            cd0: (self.cd0
                + self.cd0_speed * s
                + self.cd0_glide * g4
                + self.cd0_turn * t
                + self.cd0_fade * f
                + self.cd0_blunt * blunt)
                .max(0.015),
            cd_alpha: self.cd_alpha,
            alpha0: self.alpha0,
            cl0: self.cl0 + self.cl0_glide * g4 + self.cl0_turn * t + self.cl0_fade * f,
            cl_alpha: (self.cl_alpha + self.cl_alpha_glide * g4 - self.cl_alpha_blunt * blunt).max(0.5),
            cm0: self.cm0
                + self.cm0_turn * t
                + self.cm0_turn2 * t * t.abs()
                + self.cm0_fade * f
                + self.cm0_fade2 * f * f
                + self.cm0_glide * g4
                + self.cm0_speed * s8
                + self.cm0_turn_speed * t * s8
                + self.cm0_fade_speed * f * s8,
            cm_alpha: self.cm_alpha
                + self.cm_alpha_fade * f
                + self.cm_alpha_turn * t
                + self.cm_alpha_speed * s8,
            cm_alpha2: self.cm_alpha2 + self.cm_alpha2_fade * f,
            spin_decay: self.spin_decay.clamp(0.0, 0.15),
            cm_spin: self.cm_spin + self.cm_spin_turn * t,
            cm_speed: self.cm_speed + self.cm_speed_fade * f + self.cm_speed_turn * t,
            cd_speed: self.cd_speed.min(0.9),
            cr0: self.cr0 + self.cr0_glide * g4 + self.cr0_speed * s8,
            cr_alpha: self.cr_alpha,
            cl_speed: self.cl_speed + self.cl_speed_glide * g4,
            cm_even: self.cm_even + self.cm_even_fade * f,
        }
    }
}
