//! What each error of the release costs in a round of the season: on every line in every weather, with the disc the bag throws there, the
//! chance if this error alone never happened, and if it were half as large.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::asked;
use crate::chance::cost::{ErrorKind, KINDS};
use crate::chance::memo::Memo;
use crate::chance::search::{chance, chance_with};
use crate::disc::thrown::thrown;
use crate::error::BagError;
use crate::plan::practise::drill::{Drill, drill_for};
use crate::thrower::arm::Arm;
use crate::thrower::style::Style;
use crate::verdict::ledger::{Ledger, Row, VERDICT, total};
use crate::verdict::season::counted;
use crate::verdict::standing::Question;
use crate::verdict::work::Work;
use crate::words::strokes;

/// Lines that are named for an error.
const NAMED: usize = 3;
/// What costs less than this in a round, strokes, is not worth a practice.
const LEAST_STROKES: f64 = 0.005;

/// What an error costs on a line.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct CostlyLine {
    /// The line.
    pub line_key: String,
    /// Its name.
    pub line_name: String,
    /// Strokes a round.
    pub strokes: f64,
}

/// What an error costs in a style.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct ErrorPrice {
    /// The style.
    pub style: Style,
    /// The error.
    pub kind: ErrorKind,
    /// What a round would save if it never happened, strokes.
    pub strokes: f64,
    /// What a round would save if it were half as large, strokes: what practice can hope for.
    pub half_strokes: f64,
    /// How large it is now, as a standard deviation: degrees, or percent of the speed; m/s for gusts, of which it is 0.
    pub scatter: f64,
    /// The lines on which it costs most.
    pub lines: Vec<CostlyLine>,
    /// What to throw for it.
    pub drill: Option<Drill>,
}

/// What a player's errors cost.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Practice {
    /// What the bag leaves on its lines in a round, strokes.
    pub leaves_strokes: f64,
    /// The errors, the dearest first; those that cost nothing left out.
    pub errors: Vec<ErrorPrice>,
    /// What gusts cost in a round, strokes: nobody’s error.
    pub gust_strokes: f64,
    /// In words: what to practise first.
    pub words: String,
}

/// What is gained on a row without each of [`KINDS`], and with half of it, strokes.
type Gains = [(f64, f64); KINDS.len()];

/// What each error costs the bag over the season. Another thread may ask `work` how far it is, or stop it.
///
/// # Errors
/// [`BagError`] for a value outside its range, [`BagError::Stopped`] after it was stopped.
pub fn practice(q: &Question, memo: &Memo, work: &Work) -> Result<Practice, BagError> {
    q.player.validate()?;
    q.lines.iter().try_for_each(|line| line.spec.validate())?;
    let ledger = Ledger::of(q, &VERDICT, memo, work)?;
    let columns = ledger.columns(&counted(q, &ledger));
    let arms = ledger.weathers.iter().map(|w| Ok((w.kind, Arm::of(q.player, &w.conditions)?)));
    let arms = arms.collect::<Result<Vec<_>, BagError>>()?;
    let gains = |row: &Row| -> Result<Gains, BagError> {
        let best = columns
            .iter()
            .copied()
            .max_by(|&a, &b| row.chances[a].total_cmp(&row.chances[b]).then(b.cmp(&a)));
        let disc = best.and_then(|c| q.shelf.iter().find(|d| d.id == ledger.disc_ids[c]));
        let arm = arms.iter().find(|(kind, _)| *kind == row.weather).map(|(_, arm)| arm);
        let (Some(disc), Some(arm)) = (disc, arm) else { return Ok(Gains::default()) };
        let (held, spec) = (thrown(disc)?, asked(&q.lines[row.line], arm));
        let found = chance(arm, held, &spec, memo);
        let Some(chosen) = &found.chosen else { return Ok(Gains::default()) };
        let counted = |places: &[usize], left| chance_with(arm, held, &spec, chosen, places, left);
        let now = counted(&[], 1.0);
        Ok(KINDS.map(|(_, places)| {
            let gain = |left| row.strokes * (counted(places, left) - now);
            (gain(0.0), gain(0.5))
        }))
    };
    let gains = ledger.rows.par_iter().map(gains).collect::<Result<Vec<_>, _>>()?;
    let mut errors = Vec::new();
    let mut gust_strokes = 0.0;
    for style in Style::ALL {
        let of_style =
            || ledger.rows.iter().zip(&gains).filter(|(row, _)| q.lines[row.line].spec.style == style);
        for (k, (kind, _)) in KINDS.iter().enumerate() {
            let whole = total(of_style().map(|(_, gains)| gains[k].0)).max(0.0);
            if *kind == ErrorKind::Gust {
                gust_strokes += whole;
                continue;
            }
            let half_strokes = total(of_style().map(|(_, gains)| gains[k].1)).max(0.0);
            // Errors go together: one that is gone altogether makes up for no other any more, and then half of it was worth more.
            let never = whole.max(half_strokes);
            if never < LEAST_STROKES {
                continue;
            }
            let on = |line: usize| total(of_style().filter(|(row, _)| row.line == line).map(|(_, g)| g[k].0));
            let mut lines: Vec<CostlyLine> = (0..q.lines.len())
                .map(|l| CostlyLine {
                    line_key: q.lines[l].key.clone(),
                    line_name: q.lines[l].spec.name.clone(),
                    strokes: on(l),
                })
                .filter(|line| line.strokes >= LEAST_STROKES)
                .collect();
            lines.sort_by(|a, b| b.strokes.total_cmp(&a.strokes).then_with(|| a.line_key.cmp(&b.line_key)));
            lines.truncate(NAMED);
            let s = q.player.scatter(style);
            let scatter = match kind {
                ErrorKind::Speed => s.speed_pct,
                ErrorKind::Hyzer => s.hyzer_deg,
                ErrorKind::Launch => s.launch_deg,
                ErrorKind::Nose => s.nose_deg,
                ErrorKind::Aim => s.aim_deg,
                ErrorKind::Gust => 0.0,
            };
            let drill = drill_for(*kind, style);
            errors.push(ErrorPrice {
                style,
                kind: *kind,
                strokes: never,
                half_strokes,
                scatter,
                lines,
                drill,
            });
        }
    }
    errors.sort_by(|a, b| b.half_strokes.total_cmp(&a.half_strokes).then(b.strokes.total_cmp(&a.strokes)));
    let leaves_strokes = ledger.leaves(&columns);
    let words = in_words(&errors, leaves_strokes);
    Ok(Practice { leaves_strokes, errors, gust_strokes, words })
}

/// What is to be practised of an error.
fn called(kind: ErrorKind) -> &'static str {
    match kind {
        ErrorKind::Speed => "an even speed",
        ErrorKind::Hyzer => "the angle",
        ErrorKind::Launch => "the height",
        ErrorKind::Nose => "the nose",
        ErrorKind::Aim => "the aim",
        ErrorKind::Gust => "gusts",
    }
}

fn in_words(errors: &[ErrorPrice], leaves: f64) -> String {
    let Some(first) = errors.first() else {
        return "None of your errors costs anything on these lines.".into();
    };
    let mut words = format!(
        "Practise {} of your {}s first: half as far off, a round saves {} of the {} it loses now.",
        called(first.kind),
        first.style.label(),
        strokes(first.half_strokes),
        strokes(leaves)
    );
    if let Some(line) = first.lines.first() {
        words = format!("{words} Most of all on the line “{}”.", line.line_name);
    }
    words
}
