//! Memory of work done: a chance depends only on what went into it, so it is kept under a fingerprint of that.

use std::hash::{DefaultHasher, Hasher};
use std::sync::Arc;

use quick_cache::sync::Cache;

use crate::chance::answer::Chance;
use crate::chance::reach::Reach;

/// Collects the bits of everything a result depends on.
#[derive(Clone, Default)]
pub struct Fingerprint(DefaultHasher);

impl Fingerprint {
    /// Adds a number.
    #[must_use]
    pub fn number(mut self, x: f64) -> Self {
        // Zero has two signs and one meaning.
        self.0.write_u64(if x == 0.0 { 0 } else { x.to_bits() });
        self
    }

    /// Adds several numbers.
    #[must_use]
    pub fn numbers(self, xs: &[f64]) -> Self {
        xs.iter().fold(self, |f, x| f.number(*x))
    }

    /// Adds a number that may be absent.
    #[must_use]
    pub fn option(self, x: Option<f64>) -> Self {
        self.number(x.map_or(0.0, |_| 1.0)).number(x.unwrap_or(0.0))
    }

    /// The key.
    pub fn key(self) -> u64 {
        self.0.finish()
    }
}

/// Results by the content of the question; safe to share between threads. The oldest unused are dropped.
pub struct Memo {
    pub(crate) chances: Cache<u64, Chance>,
    pub(crate) reaches: Cache<u64, Arc<Reach>>,
    pub(crate) rooms: Cache<u64, Option<f64>>,
    pub(crate) glimpses: Cache<u64, Option<f64>>,
    pub(crate) promises: Cache<u64, Option<f64>>,
    pub(crate) hopes: Cache<u64, Option<f64>>,
    pub(crate) forecasts: Cache<u64, Option<f64>>,
    pub(crate) nearly: Cache<u64, Option<f64>>,
}

impl Default for Memo {
    fn default() -> Self {
        let few = || Cache::new(100_000);
        let (rooms, glimpses, promises) = (few(), few(), few());
        let (hopes, forecasts, nearly) = (few(), few(), few());
        let (chances, reaches) = (Cache::new(200_000), Cache::new(16_000));
        Memo { chances, reaches, rooms, glimpses, promises, hopes, forecasts, nearly }
    }
}
