//! A judgement under way: how far it has come, and a way to stop it.

use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};

use serde::Serialize;
use utoipa::ToSchema;

/// Shared between the threads that judge and those that ask how far they are. Cheap to read at any time.
#[derive(Debug, Default)]
pub struct Work {
    stopped: AtomicBool,
    hurried: AtomicBool,
    done: AtomicUsize,
    of: AtomicUsize,
}

/// How far a judgement has come: lines in a weather, done and in all. Both 0 before it has begun.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
pub struct Progress {
    /// Done.
    pub done: usize,
    /// In all.
    pub of: usize,
}

impl Work {
    /// Asks whoever works to stop at the next line.
    pub fn stop(&self) {
        self.stopped.store(true, Ordering::Relaxed);
    }

    /// Whether it was asked to stop.
    pub fn is_stopped(&self) -> bool {
        self.stopped.load(Ordering::Relaxed)
    }

    /// Asks whoever searches to be content with the best found so far.
    pub fn hurry(&self) {
        self.hurried.store(true, Ordering::Relaxed);
    }

    /// Whether it was asked to be content.
    pub fn is_hurried(&self) -> bool {
        self.hurried.load(Ordering::Relaxed)
    }

    /// How far it has come.
    pub fn progress(&self) -> Progress {
        // The sum is set before anything is done, so that `done` is never the greater.
        let done = self.done.load(Ordering::Acquire);
        Progress { done, of: self.of.load(Ordering::Relaxed) }
    }

    /// Begins work of so many pieces.
    pub(crate) fn begin(&self, of: usize) {
        self.of.store(of, Ordering::Relaxed);
        self.done.store(0, Ordering::Release);
    }

    /// One piece is done.
    pub(crate) fn advance(&self) {
        self.done.fetch_add(1, Ordering::Release);
    }
}
