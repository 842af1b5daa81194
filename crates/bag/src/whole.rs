//! Whole numbers as JSON has them: 5 and 5.0 are the same number.

use std::fmt;
use std::marker::PhantomData;

use serde::de::{Deserialize, Deserializer, Error, Visitor};

/// Greatest whole number below which a fraction could not have been lost.
const EXACT: f64 = 9_007_199_254_740_992.0;

struct Whole<T>(PhantomData<T>);

impl<T: TryFrom<i64>> Visitor<'_> for Whole<T> {
    type Value = T;

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("a whole number in its range")
    }
    fn visit_i64<E: Error>(self, n: i64) -> Result<T, E> {
        T::try_from(n).map_err(|_| E::invalid_value(serde::de::Unexpected::Signed(n), &self))
    }
    fn visit_u64<E: Error>(self, n: u64) -> Result<T, E> {
        let signed =
            i64::try_from(n).map_err(|_| E::invalid_value(serde::de::Unexpected::Unsigned(n), &self))?;
        self.visit_i64(signed)
    }
    fn visit_f64<E: Error>(self, x: f64) -> Result<T, E> {
        if x.fract() == 0.0 && x.abs() < EXACT {
            self.visit_i64(x as i64)
        } else {
            Err(E::invalid_value(serde::de::Unexpected::Float(x), &self))
        }
    }
}

/// A whole number.
///
/// # Errors
/// For anything else, and for one outside the range of the type.
pub fn whole<'de, D: Deserializer<'de>, T: TryFrom<i64>>(from: D) -> Result<T, D::Error> {
    from.deserialize_any(Whole(PhantomData))
}

/// A whole number or nothing.
///
/// # Errors
/// As of [`whole`].
pub fn whole_if_any<'de, D: Deserializer<'de>, T: TryFrom<i64>>(from: D) -> Result<Option<T>, D::Error> {
    struct Just<T>(T);
    impl<'de, T: TryFrom<i64>> Deserialize<'de> for Just<T> {
        fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
            whole(from).map(Just)
        }
    }
    Ok(Option::<Just<T>>::deserialize(from)?.map(|just| just.0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[derive(serde::Deserialize)]
    struct Held {
        #[serde(deserialize_with = "whole")]
        n: u32,
        #[serde(default, deserialize_with = "whole_if_any")]
        m: Option<u32>,
    }

    #[rstest]
    #[case(r#"{"n":5}"#, Some((5, None)))]
    #[case(r#"{"n":5.0,"m":7.0}"#, Some((5, Some(7))))]
    #[case(r#"{"n":5,"m":null}"#, Some((5, None)))]
    #[case(r#"{"n":5.5}"#, None)]
    #[case(r#"{"n":-1}"#, None)]
    #[case(r#"{"n":4294967296}"#, None)]
    #[case(r#"{"n":1e300}"#, None)]
    #[case(r#"{"n":"5"}"#, None)]
    fn prop_five_is_five_however_it_is_written(#[case] json: &str, #[case] read: Option<(u32, Option<u32>)>) {
        let held: Option<Held> = serde_json::from_str(json).ok();
        assert_eq!(held.map(|h| (h.n, h.m)), read);
    }
}
