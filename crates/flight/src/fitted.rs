//! Fitted constants. Written by `cargo run --release -p zinc-kite-flight --example calibrate -- --write`.

use crate::calibration::Calibration;

/// The constants that the program ships with.
pub const FITTED: Calibration = Calibration {
    cd0: 0.10532,
    cd0_speed: -0.0052268,
    cd0_glide: 0.0053474,
    cd0_blunt: 0.0040219,
    cd_alpha: 1.5092,
    alpha0: -0.01326,
    cd_speed: 0.80667,
    cl0: 0.11681,
    cl0_glide: -0.016601,
    cl_alpha: 1.1343,
    cl_alpha_glide: 0.2272,
    cl_alpha_blunt: 0.067644,
    cm0: 0.0003137,
    cm0_turn: 0.0022539,
    cm0_turn2: 0.00014995,
    cm0_fade: -0.0016015,
    cm0_fade2: 0.00057567,
    cm0_glide: -0.0029871,
    cm0_speed: 0.0010035,
    cm0_turn_speed: 0.00023024,
    cm0_fade_speed: 0.00011939,
    cm_alpha: 0.12038,
    cm_alpha_fade: -0.066956,
    cm_alpha_turn: -0.058935,
    cm_alpha_speed: 0.0036169,
    cm_alpha2: -0.51637,
    cm_alpha2_fade: 0.50025,
    cm_spin: -0.026698,
    cm_speed: -0.0057331,
    cm_speed_fade: -0.019044,
    cm_speed_turn: -0.010664,
};
