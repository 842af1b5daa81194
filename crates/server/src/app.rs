//! What every request shares: the database and the memory of work done.

use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use actix_web::web;
use rayon::{ThreadPool, ThreadPoolBuilder};
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::need::template::lines_for;
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::verdict::analysis::{Analysis, analyse};
use zinc_kite_bag::verdict::standing::Question;

use crate::error::ApiError;
use crate::store::{Bag, BagId, Store};

/// The running application.
pub struct App {
    store: Mutex<Store>,
    /// Threads for judgements, which take a while, and for all that must follow a moving dial: apart, so that the
    /// second never queues behind the first.
    judging: ThreadPool,
    quick: ThreadPool,
    /// Chances already worked out.
    pub memo: Memo,
}

/// Everything a judgement reads, taken from the database in one go.
pub struct Snapshot {
    /// The player.
    pub player: Player,
    /// Every disc.
    pub shelf: Vec<Disc>,
    /// Every line.
    pub lines: Vec<Line>,
}

impl App {
    /// An application on a database.
    ///
    /// # Errors
    /// If the system grants no threads.
    pub fn new(store: Store) -> Result<App, rayon::ThreadPoolBuildError> {
        let pool = || ThreadPoolBuilder::new().build();
        Ok(App { store: Mutex::new(store), judging: pool()?, quick: pool()?, memo: Memo::default() })
    }

    /// Does short work on threads of its own.
    pub fn quickly<T: Send>(&self, work: impl FnOnce() -> T + Send) -> T {
        self.quick.install(work)
    }

    /// The database, for as long as the guard is held.
    pub fn store(&self) -> MutexGuard<'_, Store> {
        // A poisoned lock means a request died between two statements; SQLite has rolled its transaction back.
        self.store.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Player, shelf and lines as they stand.
    ///
    /// # Errors
    /// [`ApiError`] if the database fails.
    pub fn snapshot(&self) -> Result<Snapshot, ApiError> {
        let store = self.store();
        let player = store.player()?.unwrap_or_default();
        let shelf = store.discs()?;
        let lines = store.lines(generated(&player)?)?;
        Ok(Snapshot { player, shelf, lines })
    }

    /// One bag.
    ///
    /// # Errors
    /// [`ApiError::NotFound`].
    pub fn bag(&self, id: BagId) -> Result<Bag, ApiError> {
        Ok(self.store().bag(id)?)
    }

    /// Judges a bag, unless `stop` is set before it is done.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there, the conditions are out of range or it was stopped.
    pub fn analyse(
        &self,
        id: BagId,
        conditions: Conditions,
        stop: &AtomicBool,
    ) -> Result<Analysis, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        let question = Question {
            player: &snapshot.player,
            conditions,
            shelf: &snapshot.shelf,
            bag: &bag.spec,
            carried: &bag.carried,
            lines: &snapshot.lines,
        };
        Ok(self.judging.install(|| analyse(&question, &self.memo, stop))?)
    }
}

/// The lines of the templates for this player on a usual day.
///
/// # Errors
/// [`BagError`] for a player out of range.
pub fn generated(player: &Player) -> Result<Vec<Line>, BagError> {
    let arm = Arm::of(player, &Conditions::default())?;
    Ok(lines_for(player, &arm))
}

/// Sets its flag when it goes: when a request is answered, or dropped because its client has hung up.
pub struct StopWhenDropped(pub Arc<AtomicBool>);

impl Drop for StopWhenDropped {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// Runs `work`, which may wait for the database or fly for a while, off the threads that answer requests.
///
/// # Errors
/// What `work` returns, or [`ApiError::Interrupted`].
pub async fn off_thread<T: Send + 'static>(
    app: &web::Data<App>,
    work: impl FnOnce(&App) -> Result<T, ApiError> + Send + 'static,
) -> Result<T, ApiError> {
    let app = app.clone();
    web::block(move || work(&app)).await?
}
