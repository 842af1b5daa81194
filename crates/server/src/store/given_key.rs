//! Identities that are made by whoever begins a thing, so that it has one before it reaches the program.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use zinc_kite_bag::error::BagError;

/// Such an identity.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize, ToSchema)]
#[serde(transparent)]
#[schema(value_type = String, min_length = 8, max_length = 40, pattern = "^[a-z0-9-]+$")]
pub struct GivenKey(pub String);

impl GivenKey {
    /// One that nobody else has.
    #[allow(clippy::new_without_default)]
    pub fn new() -> GivenKey {
        GivenKey(format!("{:032x}", rand::random::<u128>()))
    }

    /// # Errors
    /// [`BagError`] if it is none.
    pub fn validate(&self) -> Result<(), BagError> {
        let plain = |b: u8| b.is_ascii_lowercase() || b.is_ascii_digit() || b == b'-';
        if (8..=40).contains(&self.0.len()) && self.0.bytes().all(plain) {
            return Ok(());
        }
        let (expected, got) = ("8 to 40 of a to z, 0 to 9 and -".to_owned(), self.0.clone());
        Err(BagError::Field { field: "key", expected, got })
    }
}
