//! How far apart two colours look.

/// A colour in the CIE 1976 (L*, a*, b*) space, of daylight (D65).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Lab {
    /// Lightness, 0 to 100.
    pub l: f64,
    /// From green to red.
    pub a: f64,
    /// From blue to yellow.
    pub b: f64,
}

impl Lab {
    /// Of a colour written as #rrggbb in sRGB; `None` if it is not written so.
    ///
    /// # References
    /// IEC 61966-2-1:1999, *Default RGB colour space – sRGB*, and CIE 15:2004, *Colorimetry*, both from memory.
    pub fn of_hex(text: &str) -> Option<Lab> {
        let digits = text.strip_prefix('#').filter(|d| d.len() == 6 && d.is_ascii())?;
        let part = |k: usize| u8::from_str_radix(&digits[2 * k..2 * k + 2], 16).ok();
        let linear = |byte: u8| {
            let c = f64::from(byte) / 255.0;
            if c <= 0.040_45 { c / 12.92 } else { ((c + 0.055) / 1.055).powf(2.4) }
        };
        let (r, g, b) = (linear(part(0)?), linear(part(1)?), linear(part(2)?));
        let x = (0.412_456 * r + 0.357_576 * g + 0.180_438 * b) / 0.950_47;
        let y = 0.212_673 * r + 0.715_152 * g + 0.072_175 * b;
        let z = (0.019_334 * r + 0.119_192 * g + 0.950_304 * b) / 1.088_83;
        let f = |t: f64| if t > 216.0 / 24389.0 { t.cbrt() } else { (24389.0 / 27.0 * t + 16.0) / 116.0 };
        Some(Lab { l: 116.0 * f(y) - 16.0, a: 500.0 * (f(x) - f(y)), b: 200.0 * (f(y) - f(z)) })
    }

    /// How far another colour is, the CIE 1976 difference: 2 or 3 is just seen, black and white are 100 apart.
    pub fn apart(self, other: Lab) -> f64 {
        let (l, a, b) = (self.l - other.l, self.a - other.a, self.b - other.b);
        (l * l + a * a + b * b).sqrt()
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use rstest::rstest;

    /// Values of the primaries as conversion tables commonly print them, from memory.
    #[rstest]
    #[case("#ff0000", 53.24, 80.09, 67.20)]
    #[case("#00ff00", 87.73, -86.18, 83.18)]
    #[case("#0000ff", 32.30, 79.19, -107.86)]
    #[case("#ffffff", 100.0, 0.0, 0.0)]
    #[case("#000000", 0.0, 0.0, 0.0)]
    #[case("#808080", 53.59, 0.0, 0.0)]
    fn val_lab_of_known_colours(#[case] hex: &str, #[case] l: f64, #[case] a: f64, #[case] b: f64) {
        let lab = Lab::of_hex(hex).unwrap();
        assert!(lab.apart(Lab { l, a, b }) < 0.05, "{lab:?}");
    }

    #[test]
    fn prop_what_is_no_colour_has_none() {
        for text in ["", "red", "#12345", "#gg0000", "#ééé", "123456"] {
            assert_eq!(Lab::of_hex(text), None, "{text}");
        }
    }
}
