//! The judgement for the season: every line in every weather, the disc chosen knowing the wind, in strokes a round.

use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::reach;
use crate::chance::memo::Memo;
use crate::disc::spec::{Disc, DiscId, Numbers, Use};
use crate::disc::wear::Wear;
use crate::error::BagError;
use crate::need::line::Line;
use crate::thrower::arm::Arm;
use crate::thrower::day::Conditions;
use crate::thrower::season::{Weather, WeatherKind};
use crate::thrower::slot::Slot;
use crate::verdict::aging::{PegHole, Year, holes};
use crate::verdict::board::{board, pucks};
use crate::verdict::finding::{Finding, Scene, findings};
use crate::verdict::ledger::{Ledger, Row, VERDICT, total};
use crate::verdict::school::{Policy, mould_of};
use crate::verdict::standing::{Cell, Question, Standing};
use crate::verdict::work::Work;
use crate::verdict::worth::{Worth, worths, worths_beside};
use crate::words::{distance, percent};

/// A line in one weather.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct WeatherCell {
    /// The weather.
    pub kind: WeatherKind,
    /// The best carried disc.
    pub best: Option<Cell>,
    /// The next.
    pub second: Option<Cell>,
    /// The best that any disc does, 0 to 1.
    pub ideal: f64,
    /// How the bag stands in it.
    pub standing: Standing,
}

/// A line over the season.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SeasonLine {
    /// The line.
    pub key: String,
    /// Its name.
    pub name: String,
    /// How the bag stands on it.
    pub standing: Standing,
    /// Why, in words with figures.
    pub reason: String,
    /// Share of throws that make it, with the best disc in every weather, 0 to 1.
    pub chance: f64,
    /// The same with the best disc that anybody could have.
    pub ideal: f64,
    /// What the bag leaves on it in a round, strokes.
    pub leaves_strokes: f64,
    /// Numbers of the ideal disc to look for, if there is one that does clearly better, and what it would save in a round.
    pub ideal_numbers: Option<Numbers>,
    /// What that disc would save on this line, strokes.
    pub ideal_saves_strokes: f64,
    /// Each weather.
    pub by_weather: Vec<WeatherCell>,
}

/// One more disc.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Step {
    /// Which.
    pub disc_id: DiscId,
    /// What so many of the shelf's discs leave in a round, strokes.
    pub leaves_strokes: f64,
}

/// How the lines of a slot stand.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SlotState {
    /// The slot.
    pub slot: Slot,
    /// Lines made.
    pub made: usize,
    /// Lines that hang on one disc.
    pub thin: usize,
    /// Lines without a good answer.
    pub gap: usize,
    /// What the bag leaves on them in a round, strokes.
    pub leaves_strokes: f64,
}

/// The judgement for the season.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct SeasonVerdict {
    /// What the bag leaves on its lines in a round, strokes.
    pub leaves_strokes: f64,
    /// What all discs of the shelf together would leave.
    pub shelf_leaves_strokes: f64,
    /// What ideal discs would leave.
    pub ideal_leaves_strokes: f64,
    /// The weathers, and how often each comes.
    pub weathers: Vec<Weather>,
    /// Every line that counts.
    pub lines: Vec<SeasonLine>,
    /// Each slot.
    pub slots: Vec<SlotState>,
    /// Every carried disc.
    pub worths: Vec<Worth>,
    /// Every other disc of the shelf, were it carried beside them; one that is carried and that the event forbids says so.
    pub beside: Vec<Worth>,
    /// What to fix, rules first, then by strokes saved; at most seven.
    pub findings: Vec<Finding>,
    /// The best of the shelf one by one, each the disc that saves most beside those before it.
    pub steps: Vec<Step>,
}

/// A disc does about as well as any if it makes a line this much of the best chance there is. Own judgement.
const ABOUT_AS_WELL: f64 = 0.9;
/// A gap is one that some disc would close by this much. Own judgement.
const CLEARLY_BETTER: f64 = 0.05;
/// A line that nothing makes more often than this is out of reach.
const NEVER: f64 = 0.02;

fn standing(best: f64, second: f64, ideal: f64) -> Standing {
    match () {
        () if ideal < NEVER => Standing::BeyondArm,
        () if second >= ABOUT_AS_WELL * ideal => Standing::Made,
        () if best >= ABOUT_AS_WELL * ideal => Standing::Thin,
        () if ideal - best >= CLEARLY_BETTER => Standing::Gap,
        () => Standing::Made,
    }
}

/// Judges the bag over the season. Another thread may ask `work` how far it is, or stop it.
///
/// # Errors
/// [`BagError`] for a value outside its range, [`BagError::Stopped`] after it was stopped.
pub fn judge_season(q: &Question, memo: &Memo, work: &Work) -> Result<SeasonVerdict, BagError> {
    q.player.validate()?;
    q.lines.iter().try_for_each(|line| line.spec.validate())?;
    let usual = Conditions::default();
    let arm = Arm::of(q.player, &usual)?;
    let ledger = Ledger::of(q, &VERDICT, memo, work)?;
    let counted = counted(q, &ledger);
    let columns = ledger.columns(&counted);
    let lines: Vec<SeasonLine> = q
        .lines
        .iter()
        .enumerate()
        .filter(|(_, line)| line.enabled)
        .map(|(l, line)| {
            let rows: Vec<&Row> = ledger.rows.iter().filter(|r| r.line == l).collect();
            season_line(q, &ledger, line, &rows, &columns, &arm)
        })
        .collect();
    let worths = worths(&ledger, q.lines, q.shelf, &counted);
    let board = board(q.player, &usual, None, q.shelf, q.carried)?;
    let fly = |discs: &[Disc]| {
        let all: Vec<(&Disc, bool)> = discs.iter().map(|d| (d, false)).collect();
        pucks(q.player, &arm, q.player.strong_style, arm.wind, &all)
    };
    // Only what is carried is held against what it was.
    let carried = |d: &&Disc| q.carried.iter().any(|c| c.disc_id == d.id);
    let mut fresh: Vec<Disc> = q.shelf.iter().filter(carried).cloned().collect();
    fresh.iter_mut().for_each(|d| d.spec.wear = Wear::FRESH);
    let (shelf_pucks, fresh_pucks) = (fly(q.shelf)?, fly(&fresh)?);
    let leaving = match q.today {
        Some(today) => leaving(q, &ledger, &counted, today, memo, work)?,
        None => vec![],
    };
    let scene = Scene {
        q,
        ledger: &ledger,
        lines: &lines,
        worths: &worths,
        board: &board,
        policy: Policy::of(q.player, q.shelf, &shelf_pucks, &counted),
        shelf_pucks: &shelf_pucks,
        fresh_pucks: &fresh_pucks,
        counted: &counted,
        leaving: &leaving,
    };
    let findings = findings(&scene);
    let owned: Vec<DiscId> = ledger.disc_ids.clone();
    Ok(SeasonVerdict {
        leaves_strokes: ledger.leaves(&columns),
        shelf_leaves_strokes: ledger.leaves(&ledger.columns(&owned)),
        ideal_leaves_strokes: ledger.ideal_leaves(),
        weathers: ledger.weathers.clone(),
        slots: slots(q, &lines),
        steps: steps(q, &ledger),
        lines,
        beside: beside(q, &ledger, &counted),
        worths,
        findings,
    })
}

/// What every other disc would be worth beside those counted.
fn beside(q: &Question, ledger: &Ledger, counted: &[DiscId]) -> Vec<Worth> {
    let forbidden = |w: &Worth| {
        let is_carried = q.carried.iter().any(|c| c.disc_id == w.disc_id);
        is_carried && q.shelf.iter().any(|d| d.id == w.disc_id && !q.bag.allows(&d.spec))
    };
    let mut worths = worths_beside(ledger, q.lines, q.shelf, counted);
    for worth in worths.iter_mut().filter(|w| forbidden(w)) {
        // Here it does and saves nothing; what it would do is said in words.
        (worth.jobs, worth.shared_strokes, worth.missed_strokes) = (vec![], 0.0, 0.0);
        worth.short = "Over the cap".into();
        worth.words = format!("Heavier than this event allows, so not counted. {}", worth.words);
    }
    worths
}

/// Carried discs that leave their peg within the year, each with a copy that has to be begun about now to take over.
fn leaving(
    q: &Question,
    ledger: &Ledger,
    counted: &[DiscId],
    today: Date,
    memo: &Memo,
    work: &Work,
) -> Result<Vec<PegHole>, BagError> {
    let is_carried = |d: &Disc| counted.contains(&d.id);
    let moulds: Vec<_> = q.shelf.iter().filter(|d| is_carried(d)).map(mould_of).collect();
    let year = Year::of(q, ledger, counted, today, |d| moulds.contains(&mould_of(d)))?;
    let mut due: Vec<PegHole> = holes(&year).into_iter().filter(|hole| hole.is_due(today)).collect();
    year.price(&mut due, memo, work)?;
    Ok(due)
}

/// What counts: carried, allowed by the event, and no more than the bag holds, those missed least left out.
pub(crate) fn counted(q: &Question, ledger: &Ledger) -> Vec<DiscId> {
    let mut ids = q.allowed();
    while ids.len() > q.bag.capacity as usize {
        let without = |id: DiscId| -> Vec<DiscId> { ids.iter().copied().filter(|i| *i != id).collect() };
        let least = ids
            .iter()
            .map(|id| (*id, ledger.leaves(&ledger.columns(&without(*id)))))
            .min_by(|a, b| a.1.total_cmp(&b.1));
        let Some((id, _)) = least else { break };
        ids.retain(|i| *i != id);
    }
    ids
}

fn season_line(
    q: &Question,
    ledger: &Ledger,
    line: &Line,
    rows: &[&Row],
    columns: &[usize],
    arm: &Arm,
) -> SeasonLine {
    let share = |kind| ledger.weathers.iter().find(|w| w.kind == kind).map_or(0.0, |w| w.share);
    let by_weather: Vec<WeatherCell> = rows
        .iter()
        .map(|row| {
            let mut order: Vec<usize> = columns.iter().copied().filter(|&c| row.chances[c] > 0.0).collect();
            order.sort_by(|&a, &b| row.chances[b].total_cmp(&row.chances[a]).then(a.cmp(&b)));
            let cell = |k: usize| {
                order.get(k).map(|&c| Cell { disc_id: ledger.disc_ids[c], chance: row.chances[c] })
            };
            let (best, second) = (cell(0), cell(1));
            let of = |cell: Option<Cell>| cell.map_or(0.0, |c| c.chance);
            let standing = standing(of(best), of(second), row.ideal);
            WeatherCell { kind: row.weather, best, second, ideal: row.ideal, standing }
        })
        .collect();
    let mean = |f: &dyn Fn(&WeatherCell) -> f64| by_weather.iter().map(|w| share(w.kind) * f(w)).sum::<f64>();
    let chance = mean(&|w| w.best.map_or(0.0, |b| b.chance));
    let second = mean(&|w| w.second.map_or(0.0, |b| b.chance));
    let ideal = mean(&|w| w.ideal);
    let standing = standing(chance, second, ideal);
    let looked_for = look_for(rows, columns);
    let name = |id: DiscId| q.shelf.iter().find(|d| d.id == id).map_or("", |d| d.spec.name.as_str());
    // The disc that is best in most of the season stands for the line.
    let main = |cell: fn(&WeatherCell) -> Option<Cell>| {
        let mut times: Vec<(DiscId, f64)> = Vec::new();
        for w in &by_weather {
            let Some(c) = cell(w) else { continue };
            match times.iter_mut().find(|(id, _)| *id == c.disc_id) {
                Some((_, t)) => *t += share(w.kind),
                None => times.push((c.disc_id, share(w.kind))),
            }
        }
        times.into_iter().max_by(|a, b| a.1.total_cmp(&b.1)).map(|(id, _)| name(id))
    };
    let best = main(|w| w.best).unwrap_or("nothing");
    let reason = match standing {
        Standing::Made => format!("{best} and the like make it {} over the season", percent(chance)),
        Standing::Thin => {
            format!("only {best}, {} over the season; without it {}", percent(chance), percent(second))
        }
        Standing::Gap => format!(
            "best is {best}, {} over the season; a disc flying like {} would make it {}",
            percent(chance),
            looked_for.as_ref().map_or("none".into(), |(n, _)| n.to_string()),
            percent(ideal)
        ),
        Standing::BeyondArm => {
            let short = reach(arm, line.spec.style).map_or(0.0, |r| line.spec.distance_m - r.distance_m);
            if short > 0.0 {
                format!("{} beyond what your arm reaches", distance(arm.units, short))
            } else {
                "no disc makes it with the releases it allows".to_owned()
            }
        }
        Standing::Off => String::new(),
    };
    SeasonLine {
        key: line.key.clone(),
        name: line.spec.name.clone(),
        standing,
        reason,
        chance,
        ideal,
        leaves_strokes: total(rows.iter().map(|r| r.strokes * (1.0 - r.best(columns)))),
        ideal_saves_strokes: looked_for.as_ref().map_or(0.0, |(_, saves)| *saves),
        ideal_numbers: looked_for.map(|(numbers, _)| numbers),
        by_weather,
    }
}

/// The one ideal disc that would save most on a line, and what it would save in a round, strokes.
fn look_for(rows: &[&Row], columns: &[usize]) -> Option<(Numbers, f64)> {
    let mut found: Vec<(Numbers, f64)> = Vec::new();
    for row in rows {
        let saves = row.strokes * (row.ideal_chance - row.best(columns));
        let Some(numbers) = row.ideal_numbers.map(Numbers::from).filter(|_| saves > 0.0) else { continue };
        match found.iter_mut().find(|(n, _)| *n == numbers) {
            Some((_, total)) => *total += saves,
            None => found.push((numbers, saves)),
        }
    }
    found.into_iter().max_by(|a, b| a.1.total_cmp(&b.1))
}

fn slots(q: &Question, lines: &[SeasonLine]) -> Vec<SlotState> {
    q.player
        .lanes()
        .map(|slot| {
            let lane = |line: &Line| q.player.lane(line.spec.slot);
            let of = |l: &&SeasonLine| q.lines.iter().any(|line| line.key == l.key && lane(line) == slot);
            let own: Vec<&SeasonLine> = lines.iter().filter(of).collect();
            let count = |standing| own.iter().filter(|l| l.standing == standing).count();
            SlotState {
                slot,
                made: count(Standing::Made),
                thin: count(Standing::Thin),
                gap: count(Standing::Gap),
                leaves_strokes: total(own.iter().map(|l| l.leaves_strokes)),
            }
        })
        .collect()
}

/// The shelf one by one, greedily, up to what the bag holds.
fn steps(q: &Question, ledger: &Ledger) -> Vec<Step> {
    let allowed = |id: &DiscId| {
        q.shelf.iter().any(|d| d.id == *id && q.bag.allows(&d.spec) && d.spec.used_for != Use::Putting)
            || q.carried.iter().any(|c| c.disc_id == *id)
    };
    let mut left: Vec<usize> = (0..ledger.disc_ids.len()).filter(|&c| allowed(&ledger.disc_ids[c])).collect();
    let (mut best, mut steps) = (vec![0.0; ledger.rows.len()], Vec::new());
    while steps.len() < q.bag.capacity as usize && !left.is_empty() {
        let gain = |&column: &usize| -> f64 {
            let each = ledger.rows.iter().zip(&best);
            total(each.map(|(row, best)| row.strokes * (row.chances[column] - best).max(0.0)))
        };
        let next = left.iter().copied().max_by(|a, b| gain(a).total_cmp(&gain(b)).then(b.cmp(a)));
        let Some(column) = next else { break };
        left.retain(|c| *c != column);
        ledger.rows.iter().zip(&mut best).for_each(|(row, best)| *best = row.chances[column].max(*best));
        let leaves_strokes = total(ledger.rows.iter().zip(&best).map(|(row, b)| row.strokes * (1.0 - b)));
        steps.push(Step { disc_id: ledger.disc_ids[column], leaves_strokes });
    }
    steps
}
