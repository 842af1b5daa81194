//! What the sport's technical standards allow a disc to be. The figures are from memory of those the sport publishes; the event's
//! own rules and the list of approved discs come first.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::mould::MouldSpec;
use crate::disc::spec::DiscSpec;

/// Greatest mass of any disc, g.
pub const MOST_MASS_G: f64 = 200.0;
/// Greatest mass for each cm of diameter, g.
pub const MOST_MASS_PER_CM_G: f64 = 8.3;
/// Least diameter, cm.
pub const LEAST_DIAMETER_CM: f64 = 21.0;
/// Greatest width of the rim, cm.
pub const MOST_RIM_CM: f64 = 2.6;

/// One thing the standards ask.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct StandardCheck {
    /// What.
    pub what: &'static str,
    /// Whether it holds; absent if a measure is not known.
    pub ok: Option<bool>,
    /// The figures, in words.
    pub words: String,
}

/// Every check of a disc; what is measured of its mould comes from the library.
pub fn checks(disc: &DiscSpec, mould: Option<&MouldSpec>) -> Vec<StandardCheck> {
    let check = |what, ok, words| StandardCheck { what, ok, words };
    let mass_g = disc.mass_g;
    let mut all =
        vec![check("mass", Some(mass_g <= MOST_MASS_G), format!("{mass_g} g; at most {MOST_MASS_G} g"))];
    match mould.and_then(|m| m.diameter_cm) {
        None => all.push(check("mass for its size", None, "its mould's diameter is not known".into())),
        Some(cm) => {
            let most_g = MOST_MASS_PER_CM_G * cm;
            all.push(check(
                "mass for its size",
                Some(mass_g <= most_g + 1e-9),
                format!("{mass_g} g; at {cm} cm across at most {most_g:.1} g, {MOST_MASS_PER_CM_G} g a cm"),
            ));
            all.push(check(
                "diameter",
                Some(cm >= LEAST_DIAMETER_CM),
                format!("{cm} cm; at least {LEAST_DIAMETER_CM} cm"),
            ));
        }
    }
    match disc.rim_cm.or(mould.and_then(|m| m.rim_cm)) {
        None => all.push(check("rim width", None, "its rim is not measured".into())),
        Some(cm) => all.push(check(
            "rim width",
            Some(cm <= MOST_RIM_CM + 1e-9),
            format!("{cm} cm; at most {MOST_RIM_CM} cm"),
        )),
    }
    if let Some(most_g) = mould.and_then(|m| m.largest_mass_g) {
        all.push(check(
            "mass of its mould",
            Some(mass_g <= most_g + 1e-9),
            format!("{mass_g} g; the mould is approved up to {most_g} g"),
        ));
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::disc::spec::Numbers;
    use rstest::rstest;

    /// The limits of the sport's published technical standards, from memory: 8.3 g a cm and 200 g, 21 cm, 2.6 cm.
    #[rstest]
    #[case(174.3, 21.0, 2.0, &[])]
    #[case(174.4, 21.0, 2.0, &["mass for its size"])]
    #[case(200.0, 25.0, 2.6, &[])]
    #[case(200.5, 25.0, 2.6, &["mass"])]
    #[case(165.0, 20.9, 2.7, &["diameter", "rim width"])]
    fn val_limits_of_the_technical_standards(
        #[case] mass_g: f64,
        #[case] diameter_cm: f64,
        #[case] rim_cm: f64,
        #[case] broken: &[&str],
    ) {
        let printed = Numbers { speed: 9.0, glide: 5.0, turn: -1.0, fade: 2.0 };
        let disc = DiscSpec { mass_g, ..DiscSpec::plain("Saltmarsh", "Teasel", printed) };
        let mould = MouldSpec {
            diameter_cm: Some(diameter_cm),
            rim_cm: Some(rim_cm),
            ..MouldSpec::named("Saltmarsh", "Teasel", printed)
        };
        let found: Vec<&str> =
            checks(&disc, Some(&mould)).iter().filter(|c| c.ok == Some(false)).map(|c| c.what).collect();
        assert_eq!(found, broken);
    }

    #[test]
    fn prop_what_is_not_measured_is_neither_kept_nor_broken() {
        let printed = Numbers { speed: 9.0, glide: 5.0, turn: -1.0, fade: 2.0 };
        let disc = DiscSpec::plain("Saltmarsh", "Teasel", printed);
        let open: Vec<&str> = checks(&disc, None).iter().filter(|c| c.ok.is_none()).map(|c| c.what).collect();
        assert_eq!(open, ["mass for its size", "rim width"]);
    }
}
