//! Lines on which a disc may be lost: which stay out of them, and which to throw instead.

use serde::Serialize;
use utoipa::ToSchema;

use crate::catalogue::reach::asked;
use crate::chance::memo::Memo;
use crate::disc::keeping::{Status, Tie};
use crate::disc::spec::{Disc, DiscId};
use crate::error::BagError;
use crate::need::line::{Line, LineSpec};
use crate::thrower::arm::Arm;
use crate::verdict::opened::{LineSheet, line_sheet};
use crate::verdict::sieve::{Entrant, On};
use crate::verdict::standing::{Cell, PuttersApart, Question};
use crate::words::percent;

/// What to know of a line on which a disc may be lost.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Risk {
    /// Carried discs that the player is tied to: they are not thrown here.
    pub kept_out: Vec<DiscId>,
    /// One that may be lost rather, if there is one that does about as well as the best or better.
    pub instead: Option<DiscId>,
    /// In words.
    pub words: String,
}

/// A line opened, and what to know where a disc may be lost on it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OpenedLine {
    /// The best discs.
    #[serde(flatten)]
    pub sheet: LineSheet,
    /// Where a disc may be lost, what to throw.
    pub risk: Option<Risk>,
}

/// One that may be lost may make the line this much less often than the best. Own judgement.
const ABOUT_AS_WELL: f64 = 0.05;
/// From this share of throws on it is told how often a disc is lost. Own judgement.
const TOLD_LOST: f64 = 0.005;

/// Opens a line with the best of what is in hand, and with `also` beside them; and says what to throw where a disc may be lost.
///
/// # Errors
/// [`BagError`] for a value outside its range.
pub fn opened_line(
    q: &Question,
    also: Option<&Disc>,
    line: &Line,
    memo: &Memo,
) -> Result<OpenedLine, BagError> {
    let sheet = line_sheet(q.player, &q.conditions, &q.in_hand(&line.spec), also, line, memo)?;
    let risk = if line.spec.may_lose() { risk(q, &sheet, memo)? } else { None };
    Ok(OpenedLine { sheet, risk })
}

fn risk(q: &Question, sheet: &LineSheet, memo: &Memo) -> Result<Option<Risk>, BagError> {
    let arm = Arm::of(q.player, &q.conditions)?;
    // Asked as if all were thrown: what is kept out is compared too.
    let spec = LineSpec { risk_tied: true, ..asked(&sheet.line, &arm).into_owned() };
    let apart = PuttersApart::on(q.shelf);
    let best_of = |discs: &[&Disc]| -> Result<Option<Cell>, BagError> {
        let entrants = discs.iter().map(|d| Entrant::of(d, apart)).collect::<Result<Vec<_>, BagError>>()?;
        Ok(On { arm: &arm, spec: &spec, memo }.best(&entrants, 1).first().copied())
    };
    let allowed = q.allowed();
    let spares = sheet.line.spec.spares_dear();
    let dear: Vec<&Disc> = q
        .shelf
        .iter()
        .filter(|d| {
            spares && allowed.contains(&d.id) && d.spec.keeping.is_dear() && apart.answers(d, spec.style)
        })
        .collect();
    let best = sheet.discs.first();
    let worth = best.map_or(0.0, |b| b.chance.worth);
    let named = |id: DiscId| q.shelf.iter().find(|d| d.id == id).map_or("", |d| d.spec.name.as_str());
    let mut words = Vec::new();
    if let Some(best) = best.filter(|b| b.chance.lost >= TOLD_LOST) {
        words.push(format!(
            "{} of 100 throws with {} lose it.",
            (100.0 * best.chance.lost).round().max(1.0),
            best.disc_name
        ));
    }
    let kept = best_of(&dear)?;
    if let Some(first) = dear.first() {
        let names: Vec<&str> = dear.iter().map(|d| d.spec.name.as_str()).collect();
        let others = match names.len() {
            1 => String::new(),
            n => format!(" and {} more", n - 1),
        };
        let better = kept
            .filter(|k| k.chance > worth + 0.5 * ABOUT_AS_WELL)
            .map(|k| format!(", though {} would do better, {}", named(k.disc_id), percent(k.chance)));
        words.push(format!(
            "{}{others} stay{} out, as you would not like to lose {}{}.",
            first.spec.name,
            if names.len() == 1 { "s" } else { "" },
            if names.len() == 1 { "it" } else { "them" },
            better.unwrap_or_default()
        ));
    }
    let may_be_lost = |d: &&Disc| {
        let keeping = &d.spec.keeping;
        let is_spare = keeping.status == Status::Spare && best.is_some_and(|b| b.disc_id != d.id);
        let expendable = keeping.ties.contains(&Tie::WaterDisc) || is_spare;
        expendable && !keeping.is_dear() && keeping.status.is_at_hand() && q.bag.allows(&d.spec)
    };
    // Where nothing is lost and nothing kept out there is nothing to do instead.
    let rather = best_of(&q.shelf.iter().filter(may_be_lost).collect::<Vec<_>>())?
        .filter(|r| r.chance + ABOUT_AS_WELL >= worth && !words.is_empty());
    if let Some(rather) = rather {
        let disc = q.shelf.iter().find(|d| d.id == rather.disc_id);
        let is_water = disc.is_some_and(|d| d.spec.keeping.ties.contains(&Tie::WaterDisc));
        let kind = if is_water { "may be lost" } else { "is a spare" };
        let place = if allowed.contains(&rather.disc_id) { "throw it" } else { "take it from the shelf" };
        words.push(format!(
            "{} {kind} and is worth {} here: {place}.",
            named(rather.disc_id),
            percent(rather.chance)
        ));
    } else if worth > 0.0 && !words.is_empty() {
        words.push("No water disc or spare of yours does about as well.".into());
    }
    Ok((!words.is_empty()).then(|| Risk {
        kept_out: dear.iter().map(|d| d.id).collect(),
        instead: rather.map(|r| r.disc_id),
        words: words.join(" "),
    }))
}
