//! What every request shares: the database and the memory of work done.

use std::path::PathBuf;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError, Weak};

use actix_web::web;
use jiff::civil::Date;
use rayon::{ThreadPool, ThreadPoolBuilder};
use tempfile::NamedTempFile;
use zinc_kite_bag::catalogue::lines::lines_for;
use zinc_kite_bag::chance::memo::Memo;
use zinc_kite_bag::course::hole::CourseSpec;
use zinc_kite_bag::disc::spec::Disc;
use zinc_kite_bag::error::BagError;
use zinc_kite_bag::need::line::Line;
use zinc_kite_bag::plan::build::{Desk, Stock};
use zinc_kite_bag::plan::practise::price::{Practice, practice};
use zinc_kite_bag::plan::round::card::{RoundCard, card};
use zinc_kite_bag::plan::suppose::{Suppose, year_ahead};
use zinc_kite_bag::thrower::arm::Arm;
use zinc_kite_bag::thrower::day::Conditions;
use zinc_kite_bag::thrower::player::Player;
use zinc_kite_bag::verdict::aging::Outlook;
use zinc_kite_bag::verdict::analysis::{Analysis, analyse};
use zinc_kite_bag::verdict::carried::Carried;
use zinc_kite_bag::verdict::compare::{Comparison, Packed, compare};
use zinc_kite_bag::verdict::season::{SeasonVerdict, judge_season};
use zinc_kite_bag::verdict::standing::Question;
use zinc_kite_bag::verdict::table::{Table, table};
use zinc_kite_bag::verdict::walk::{Walk, walk};
use zinc_kite_bag::verdict::work::{Progress, Work};

use crate::error::ApiError;
use crate::format::nmea::SaidWind;
use crate::format::rangefinder::Shot;
use crate::listen::Listener;
use crate::store::copies::passing_file;
use crate::store::{Bag, BagId, Store};

/// Instruments that say what they read.
#[derive(Default)]
pub struct Instruments {
    /// A rangefinder.
    pub rangefinder: Option<Listener<Shot>>,
    /// A wind meter.
    pub wind_meter: Option<Listener<SaidWind>>,
}

/// The running application.
pub struct App {
    store: Mutex<Store>,
    /// Its file, if it has one.
    file: Option<PathBuf>,
    /// Threads for judgements, which take a while, and for all that must follow a moving dial: apart, so that the
    /// second never queues behind the first.
    judging: ThreadPool,
    quick: ThreadPool,
    /// Chances already worked out.
    pub memo: Arc<Memo>,
    /// The lines made for the player as last seen.
    made: Mutex<Option<(Player, Vec<Line>)>>,
    /// The latest judgement of a season.
    season: Mutex<Arc<Work>>,
    /// The latest work of the builder.
    building: Mutex<Arc<Work>>,
    /// Where browsers reach it.
    addresses: Vec<String>,
    /// Where a weather program is.
    weather: Option<String>,
    /// What is listened to.
    instruments: Instruments,
    /// Judgements under way, to be stopped when the program ends; none is begun after that.
    under_way: Mutex<Option<Vec<Weak<Work>>>>,
}

/// Everything a judgement reads, taken from the database in one go.
pub struct Snapshot {
    /// The player.
    pub player: Player,
    /// Every disc.
    pub shelf: Vec<Disc>,
    /// Every line.
    pub lines: Vec<Line>,
    /// The day it is.
    pub today: Date,
}

impl Snapshot {
    /// What is asked of a bag on a day.
    pub fn question<'a>(&'a self, bag: &'a Bag, conditions: Conditions) -> Question<'a> {
        Question {
            player: &self.player,
            conditions,
            shelf: &self.shelf,
            bag: &bag.spec,
            carried: &bag.carried,
            lines: &self.lines,
            today: Some(self.today),
        }
    }
}

impl App {
    /// An application on a database.
    ///
    /// # Errors
    /// If the system grants no threads.
    pub fn new(store: Store) -> Result<App, rayon::ThreadPoolBuildError> {
        let pool = || ThreadPoolBuilder::new().build();
        let (judging, quick) = (pool()?, pool()?);
        Ok(App {
            file: store.file().map(PathBuf::from),
            store: Mutex::new(store),
            judging,
            quick,
            memo: Arc::default(),
            made: Mutex::new(None),
            season: Mutex::default(),
            building: Mutex::default(),
            addresses: vec![],
            weather: None,
            instruments: Instruments::default(),
            under_way: Mutex::new(Some(Vec::new())),
        })
    }

    /// The same, with what others have worked out already.
    pub fn remembering(self, memo: Arc<Memo>) -> App {
        App { memo, ..self }
    }

    /// The same, told where a weather program is.
    pub fn with_weather(self, address: Option<String>) -> App {
        App { weather: address, ..self }
    }

    /// The same, listening to instruments.
    pub fn listening(self, instruments: Instruments) -> App {
        App { instruments, ..self }
    }

    /// What is listened to.
    pub fn instruments(&self) -> &Instruments {
        &self.instruments
    }

    /// Where a weather program is, if one was named.
    ///
    /// # Errors
    /// [`ApiError::NoWeather`].
    pub fn weather(&self) -> Result<&str, ApiError> {
        self.weather.as_deref().ok_or(ApiError::NoWeather)
    }

    /// The same, told where browsers reach it.
    pub fn at(self, addresses: Vec<String>) -> App {
        App { addresses, ..self }
    }

    /// Where browsers reach it.
    pub fn addresses(&self) -> &[String] {
        &self.addresses
    }

    /// A judgement to begin.
    pub fn begin(&self) -> Arc<Work> {
        let work = Arc::new(Work::default());
        match self.under_way.lock().unwrap_or_else(PoisonError::into_inner).as_mut() {
            Some(all) => {
                all.retain(|work| work.strong_count() > 0);
                all.push(Arc::downgrade(&work));
            }
            None => work.stop(),
        }
        work
    }

    /// Stops every judgement: the program is to end.
    pub fn stop(&self) {
        let all = self.under_way.lock().unwrap_or_else(PoisonError::into_inner).take();
        all.iter().flatten().filter_map(Weak::upgrade).for_each(|work| work.stop());
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

    /// An empty file for what is being sent, which goes when it is dropped.
    ///
    /// # Errors
    /// [`ApiError::Disk`] if none can be made.
    pub fn room_for_what_is_sent(&self) -> Result<NamedTempFile, ApiError> {
        Ok(passing_file(self.file.as_deref())?)
    }

    /// Player, shelf and lines as they stand.
    ///
    /// # Errors
    /// [`ApiError`] if the database fails.
    pub fn snapshot(&self) -> Result<Snapshot, ApiError> {
        // Lines are made with the database unlocked: that takes flights. If the player changes meanwhile, once more.
        let mut player = self.store().player()?.unwrap_or_default();
        loop {
            let made = self.generated(&player)?;
            let store = self.store();
            let now = store.player()?.unwrap_or_default();
            if now == player {
                let lines =
                    store.lines(made)?.into_iter().map(|line| line.counted_by(&player.habits)).collect();
                return Ok(Snapshot { shelf: store.discs()?, lines, player, today: store.today()? });
            }
            player = now;
        }
    }

    /// The lines made for the player as they stand.
    ///
    /// # Errors
    /// [`ApiError`] if the database fails.
    pub fn made_lines(&self) -> Result<Vec<Line>, ApiError> {
        let player = self.store().player()?.unwrap_or_default();
        Ok(self.generated(&player)?)
    }

    /// The lines made for a player on a usual day.
    fn generated(&self, player: &Player) -> Result<Vec<Line>, BagError> {
        // Whoever else wants them waits: they are made once.
        let mut made = self.made.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some((_, lines)) = made.as_ref().filter(|(known, _)| known == player) {
            return Ok(lines.clone());
        }
        let arm = Arm::of(player, &Conditions::default())?;
        let lines = self.quickly(|| lines_for(player, &arm, &self.memo));
        *made = Some((player.clone(), lines.clone()));
        Ok(lines)
    }

    /// One bag.
    ///
    /// # Errors
    /// [`ApiError::NotFound`].
    pub fn bag(&self, id: BagId) -> Result<Bag, ApiError> {
        Ok(self.store().bag(id)?)
    }

    /// Judges a bag over the season, unless `work` is stopped before it is done.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there or it was stopped.
    pub fn judge_season(&self, id: BagId, work: &Arc<Work>) -> Result<SeasonVerdict, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        let question = snapshot.question(&bag, Conditions::default());
        *self.season.lock().unwrap_or_else(PoisonError::into_inner) = work.clone();
        Ok(self.judging.install(|| judge_season(&question, &self.memo, work))?)
    }

    /// What the player's errors cost a bag over the season, unless `work` is stopped before it is done.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there or it was stopped.
    pub fn practice(&self, id: BagId, work: &Arc<Work>) -> Result<Practice, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        let question = snapshot.question(&bag, Conditions::default());
        *self.season.lock().unwrap_or_else(PoisonError::into_inner) = work.clone();
        Ok(self.judging.install(|| practice(&question, &self.memo, work))?)
    }

    /// How far the latest judgement of a season has come.
    pub fn season_progress(&self) -> Progress {
        self.season.lock().unwrap_or_else(PoisonError::into_inner).progress()
    }

    /// Judges a bag, unless `work` is stopped before it is done.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there, the conditions are out of range or it was stopped.
    pub fn analyse(&self, id: BagId, conditions: Conditions, work: &Work) -> Result<Analysis, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        let question = snapshot.question(&bag, conditions);
        Ok(self.judging.install(|| analyse(&question, &self.memo, work))?)
    }

    /// Lays everything out for putting a bag together, with new discs if some may be bought, and answers from there.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there, a wish is out of range or `work` was stopped.
    pub fn at_desk<T: Send>(
        &self,
        id: BagId,
        buying: bool,
        work: &Arc<Work>,
        answer: impl FnOnce(&Desk, &[Carried]) -> Result<T, BagError> + Send,
    ) -> Result<T, ApiError> {
        let Snapshot { player, shelf, lines, .. } = &self.snapshot()?;
        let bag = self.bag(id)?;
        let moulds = self.store().moulds()?;
        *self.building.lock().unwrap_or_else(PoisonError::into_inner) = work.clone();
        let stock = Stock { player, shelf, moulds: &moulds, lines };
        let at_desk = || answer(&Desk::of(&stock, buying, &self.memo, work)?, &bag.carried);
        Ok(self.judging.install(at_desk)?)
    }

    /// Looks a year ahead for a bag under what is supposed, unless `work` is stopped before it is done.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there, what is supposed is out of range or it was stopped.
    pub fn year_ahead(&self, id: BagId, suppose: &Suppose, work: &Arc<Work>) -> Result<Outlook, ApiError> {
        let Snapshot { player, shelf, lines, today } = &self.snapshot()?;
        let bag = self.bag(id)?;
        let moulds = self.store().moulds()?;
        *self.season.lock().unwrap_or_else(PoisonError::into_inner) = work.clone();
        let stock = Stock { player, shelf, moulds: &moulds, lines };
        let packed = (&bag.spec, &bag.carried[..]);
        let look = || year_ahead(&stock, packed, *today, suppose, &self.memo, work);
        Ok(self.judging.install(look)?)
    }

    /// How far the builder's latest work has come.
    pub fn build_progress(&self) -> Progress {
        self.building.lock().unwrap_or_else(PoisonError::into_inner).progress()
    }

    /// Two bags side by side over the season, unless `work` is stopped before it is done.
    ///
    /// # Errors
    /// [`ApiError`] if one of them is not there or it was stopped.
    pub fn compare(&self, ids: (BagId, BagId), work: &Work) -> Result<Comparison, ApiError> {
        let snapshot = self.snapshot()?;
        let bags = (self.bag(ids.0)?, self.bag(ids.1)?);
        let first = Packed { bag: &bags.0.spec, carried: &bags.0.carried };
        let second = Packed { bag: &bags.1.spec, carried: &bags.1.carried };
        let Snapshot { player, shelf, lines, .. } = &snapshot;
        let side_by_side = || compare(player, shelf, lines, (&first, &second), &self.memo, work);
        Ok(self.judging.install(side_by_side)?)
    }

    /// The card of a course for a bag, on the day set for the course or a calm one. Stopping `work` ends it.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there, the course holds what it should not or it was stopped.
    pub fn card(&self, id: BagId, course: &CourseSpec, work: &Work) -> Result<RoundCard, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        let question = snapshot.question(&bag, Conditions::default());
        let day = course.day.clone().unwrap_or_default();
        Ok(self.judging.install(|| card(&question, course, &day, &self.memo, work))?)
    }

    /// The bag laid out lane by lane.
    ///
    /// # Errors
    /// [`ApiError`] if the bag is not there.
    pub fn walk(&self, id: BagId) -> Result<Walk, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        Ok(self.quickly(|| walk(&snapshot.question(&bag, Conditions::default())))?)
    }

    /// Every carried disc on every line, unless `work` is stopped before it is done.
    ///
    /// # Errors
    /// As of [`App::analyse`].
    pub fn table(&self, id: BagId, conditions: Conditions, work: &Work) -> Result<Table, ApiError> {
        let snapshot = self.snapshot()?;
        let bag = self.bag(id)?;
        let question = snapshot.question(&bag, conditions);
        Ok(self.judging.install(|| table(&question, &self.memo, work))?)
    }
}

/// Stops work when it goes: when a request is answered, or dropped because its client has hung up.
pub struct StopWhenDropped(pub Arc<Work>);

impl Drop for StopWhenDropped {
    fn drop(&mut self) {
        self.0.stop();
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
