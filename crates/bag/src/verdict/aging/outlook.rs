//! The year ahead of a bag, all of it together.

use jiff::ToSpan;
use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::chance::memo::Memo;
use crate::disc::keeping::Status;
use crate::disc::mould::Mould;
use crate::disc::spec::{Disc, DiscId};
use crate::error::BagError;
use crate::thrower::arm::Arm;
use crate::thrower::calendar::{Calendar, Pace};
use crate::thrower::day::Conditions;
use crate::verdict::aging::bends::Bends;
use crate::verdict::aging::family::{Family, families};
use crate::verdict::aging::forecast::Wearing;
use crate::verdict::aging::life::{counted_factor, lives};
use crate::verdict::aging::loss::{IfLost, MONTHS_AHEAD, PegHole, holes};
use crate::verdict::aging::ready::Takes;
use crate::verdict::aging::usage::{Usage, usages};
use crate::verdict::board::{Board, board};
use crate::verdict::ledger::{Ledger, VERDICT};
use crate::verdict::season::counted;
use crate::verdict::standing::Question;
use crate::verdict::work::Work;

/// A year of some discs, each with how it wears.
pub(crate) struct Year<'a> {
    pub(super) q: &'a Question<'a>,
    pub(super) today: Date,
    pub(super) until: Date,
    /// What counts of the bag.
    pub(super) carried: Vec<DiscId>,
    /// How fast a copy wears that is worn in on purpose.
    pub(super) seasoning: Pace,
    all: Vec<Wearing<'a>>,
}

impl<'a> Year<'a> {
    /// The year of the discs at hand that `which` names.
    ///
    /// # Errors
    /// [`BagError`] for a disc or player outside their ranges.
    pub(crate) fn of(
        q: &'a Question<'a>,
        ledger: &Ledger,
        carried: &[DiscId],
        today: Date,
        which: impl Fn(&Disc) -> bool,
    ) -> Result<Year<'a>, BagError> {
        let arm = Arm::of(q.player, &Conditions::default())?;
        let discs: Vec<&Disc> =
            q.shelf.iter().filter(|d| d.spec.keeping.status.is_at_hand() && which(d)).collect();
        let calendar = &q.player.habits.calendar;
        let usages = usages(ledger, q.lines, &discs, carried);
        let paces: Vec<Pace> =
            discs.iter().zip(&usages.each).map(|(d, usage)| pace(d, usage, calendar)).collect();
        let worn: Vec<(&Disc, &Pace)> = discs.iter().copied().zip(&paces).collect();
        let lives = lives(&worn);
        let bends = Bends::of(q.player, &arm, &discs)?;
        let seasoning = usages.worn_in.pace(calendar);
        let each = discs.into_iter().zip(usages.each).zip(paces).zip(lives).zip(bends);
        let all = each
            .map(|((((disc, usage), pace), life), bends)| Wearing {
                share: disc.spec.wear_share(),
                is_carried: carried.contains(&disc.id),
                disc,
                usage,
                pace,
                life,
                bends,
            })
            .collect();
        let until = today.saturating_add(MONTHS_AHEAD.months());
        Ok(Year { q, today, until, carried: carried.to_vec(), seasoning, all })
    }

    pub(crate) fn all(&self) -> &[Wearing<'a>] {
        &self.all
    }

    pub(super) fn get(&self, id: DiscId) -> Option<&Wearing<'a>> {
        self.all.iter().find(|w| w.disc.id == id)
    }

    pub(super) fn name(&self, id: DiscId) -> &str {
        self.get(id).map_or("a disc", |w| &w.disc.spec.name)
    }

    /// How often a disc is thrown and putted with in a week, on average over the year.
    pub(super) fn times_a_week(&self, disc: &Wearing) -> f64 {
        let calendar = &self.q.player.habits.calendar;
        (1..=12).map(|m| disc.usage.times_a_week(calendar.month(m))).sum::<f64>() / 12.0
    }
}

/// How fast a disc wears: as it was counted, where it was, else as its jobs and the calendar tell.
fn pace(disc: &Disc, usage: &Usage, calendar: &Calendar) -> Pace {
    let reckoned = usage.pace(calendar);
    match counted_factor(disc, &reckoned) {
        Some(factor) => reckoned.times(factor),
        None => reckoned,
    }
}

/// What a day of the year asks of the player.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TaskKind {
    /// Begin to wear in a copy that is owned.
    Start,
    /// Have a fresh copy, and begin to wear it in.
    Buy,
    /// Carry a copy that is ready for one that leaves its peg.
    Exchange,
    /// Look again: a disc leaves its peg and no copy can take over.
    LookAgain,
    /// A trial ends.
    Decide,
}

/// Something to do on a day.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Task {
    /// What.
    pub kind: TaskKind,
    /// The day; today if it should have been begun before.
    #[schema(value_type = String, format = Date)]
    pub on: Date,
    /// In a few words.
    pub title: String,
    /// Why, in words.
    pub words: String,
    /// The disc that is to be begun, carried or decided on, if it is owned.
    pub disc_id: Option<DiscId>,
    /// The disc that it takes over from.
    pub follows: Option<DiscId>,
    /// What it is worth in a round a year later, strokes.
    pub strokes: f64,
}

/// The year ahead of a bag.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Outlook {
    /// Today.
    #[schema(value_type = String, format = Date)]
    pub today: Date,
    /// The days on which everything is told, today first, one in every month.
    #[schema(value_type = Vec<String>)]
    pub days: Vec<Date>,
    /// The copies of every mould that is carried, or of which there are several.
    pub families: Vec<Family>,
    /// Pegs that carried discs leave within the year, the dearest first.
    pub holes: Vec<PegHole>,
    /// What follows if a carried disc is lost today, the dearest first.
    pub lost: Vec<IfLost>,
    /// What there is to do, in order of days.
    pub tasks: Vec<Task>,
    /// The board on each of the days.
    pub boards: Vec<Board>,
    /// What the bag leaves on its lines in a round over the season, strokes: today, and if nothing is done in a year.
    pub leaves_strokes: f64,
    /// The same a year from today with every disc as worn as it then is, if nothing is done.
    pub leaves_then_strokes: f64,
}

/// Looks a year ahead from `today`; player and lines are within their ranges.
///
/// # Errors
/// [`BagError`] for a disc outside its ranges, [`BagError::Stopped`] after `work` was stopped.
pub fn outlook(
    q: &Question,
    moulds: &[Mould],
    today: Date,
    memo: &Memo,
    work: &Work,
) -> Result<Outlook, BagError> {
    let ledger = Ledger::of(q, &VERDICT, memo, work)?;
    let carried = counted(q, &ledger);
    let year = Year::of(q, &ledger, &carried, today, |_| true)?;
    let days: Vec<Date> = (0..=MONTHS_AHEAD).map(|k| today.saturating_add(k.months())).collect();
    let mut holes = holes(&year);
    year.price(&mut holes, memo, work)?;
    holes.sort_by(|a, b| b.strokes.total_cmp(&a.strokes));
    let lost = year.if_lost(&ledger);
    let on_day = |on: &Date| match work.is_stopped() {
        true => Err(BagError::Stopped),
        false => board_of(&year, *on),
    };
    let boards = days.iter().map(on_day).collect::<Result<Vec<_>, _>>()?;
    Ok(Outlook {
        today,
        families: families(&year, moulds, &days, &lost),
        tasks: tasks(&year, &holes),
        lost,
        boards,
        leaves_strokes: ledger.leaves(&ledger.columns(&carried)),
        leaves_then_strokes: leaves_then(&year, memo, work)?,
        holes,
        days,
    })
}

/// The discs of the bag as worn as they are on a day.
fn worn_by(year: &Year, on: Date) -> Vec<Disc> {
    let worn = |d: Disc| match year.get(d.id) {
        Some(w) if on > year.today => Disc { spec: d.spec.worn_to(w.share_on(year.today, on)), ..d },
        _ => d,
    };
    let is_carried = |d: &&Disc| year.q.carried.iter().any(|c| c.disc_id == d.id);
    year.q.shelf.iter().filter(is_carried).cloned().map(worn).collect()
}

fn board_of(year: &Year, on: Date) -> Result<Board, BagError> {
    board(year.q.player, &Conditions::default(), None, &worn_by(year, on), year.q.carried)
}

/// What the bag leaves a year from today if nothing is done, strokes.
fn leaves_then(year: &Year, memo: &Memo, work: &Work) -> Result<f64, BagError> {
    let worn = worn_by(year, year.until);
    let as_worn = |d: Disc| worn.iter().find(|w| w.id == d.id).cloned().unwrap_or(d);
    let shelf: Vec<Disc> = year.of_bag(year.q.shelf).into_iter().map(as_worn).collect();
    let ledger = Ledger::of(&Question { shelf: &shelf, ..*year.q }, &VERDICT, memo, work)?;
    Ok(ledger.leaves(&ledger.columns(&year.carried)))
}

/// A hole that costs less in a round asks for nothing, strokes. Own judgement: one stroke in a thousand rounds.
const TASK_STROKES: f64 = 0.001;

/// What there is to do: for every hole that costs something, and every trial that ends.
fn tasks(year: &Year, holes: &[PegHole]) -> Vec<Task> {
    let about = |hole: &PegHole| {
        let leaves = hole.leaving.on?;
        let (follows, disc_id) = (year.name(hole.disc_id), hole.successor.disc_id);
        let copy = disc_id.map_or("", |id| year.name(id));
        let begin = hole.begin_by.unwrap_or(leaves).max(year.today);
        let mould = &year.get(hole.disc_id)?.disc.spec.mould;
        let (kind, on, title) = match hole.successor.takes {
            Takes::Start => (TaskKind::Start, begin, format!("Start {copy}")),
            Takes::Buy => (TaskKind::Buy, begin, format!("Start a fresh {mould}")),
            Takes::Ready => (TaskKind::Exchange, leaves, format!("Carry {copy} for {follows}")),
            Takes::UnderWay => {
                let ready = hole.successor.ready_on.map_or(leaves, |ready| ready.max(leaves));
                (TaskKind::Exchange, ready, format!("Carry {copy} for {follows}"))
            }
            Takes::MovesDown => return None,
            Takes::Nothing => (TaskKind::LookAgain, leaves, format!("Find another disc for {follows}")),
        };
        (hole.saves_strokes >= TASK_STROKES).then(|| Task {
            kind,
            on,
            title,
            words: hole.words.clone(),
            disc_id,
            follows: Some(hole.disc_id),
            strokes: hole.saves_strokes,
        })
    };
    let trial = |disc: &Wearing| {
        let on = disc.disc.spec.keeping.trial_until.filter(|on| *on >= year.today && *on <= year.until)?;
        let is_on_trial = disc.disc.spec.keeping.status == Status::Trial;
        is_on_trial.then(|| Task {
            kind: TaskKind::Decide,
            on,
            title: format!("Decide on {}", disc.disc.spec.name),
            words: "Its trial ends: keep it, bench it, or let it take another's place.".into(),
            disc_id: Some(disc.disc.id),
            follows: None,
            strokes: 0.0,
        })
    };
    let mut tasks: Vec<Task> =
        holes.iter().filter_map(about).chain(year.all().iter().filter_map(trial)).collect();
    tasks.sort_by(|a, b| a.on.cmp(&b.on).then(b.strokes.total_cmp(&a.strokes)));
    tasks
}
