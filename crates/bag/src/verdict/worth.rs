//! What a disc is for: the lines and winds in which it is the one to throw, and what it is worth in strokes.

use rayon::prelude::*;
use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::{Disc, DiscId};
use crate::need::line::Line;
use crate::thrower::season::WeatherKind;
use crate::verdict::ledger::{Ledger, Row, total};
use crate::words::{capital, percent, strokes};

/// A line on which a disc is the one to throw.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Job {
    /// The line.
    pub line_key: String,
    /// Its name.
    pub line_name: String,
    /// In which weathers.
    pub weathers: Vec<WeatherKind>,
    /// By how much on average, 0 to 1.
    pub lead: f64,
    /// What the bag would lose on it without the disc, strokes a round.
    pub strokes: f64,
}

/// What a disc is worth in the bag, or would be.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Worth {
    /// The disc.
    pub disc_id: DiscId,
    /// The work it does in a round, strokes: its part of what the bag saves.
    pub shared_strokes: f64,
    /// What the bag loses in a round without it, strokes.
    pub missed_strokes: f64,
    /// Its jobs, the dearest first.
    pub jobs: Vec<Job>,
    /// What it is for, in words.
    pub words: String,
    /// The same in a word or two; empty if it neither has a job nor shares one.
    pub short: String,
}

/// Jobs named in words.
const NAMED: usize = 3;
/// A lead that counts: less than the grain of a chance is none.
const LEAD: f64 = 0.01;

struct Lead {
    line: usize,
    weather: WeatherKind,
    strokes: f64,
    lead: f64,
}

/// What every one of the carried discs is worth, in their order.
pub(crate) fn worths(ledger: &Ledger, lines: &[Line], shelf: &[Disc], ids: &[DiscId]) -> Vec<Worth> {
    let about = About { ledger, lines, shelf };
    let columns = ledger.columns(ids);
    let shared = ledger.shared(&columns);
    let one = |k: usize| {
        let others: Vec<usize> = columns.iter().copied().filter(|c| *c != columns[k]).collect();
        about.worth(columns[k], &others, shared[k], "Does", "without it you lose")
    };
    (0..columns.len()).map(one).collect()
}

/// What every other disc of the shelf would be worth beside them, each alone.
pub(crate) fn worths_beside(
    ledger: &Ledger,
    lines: &[Line],
    shelf: &[Disc],
    carried: &[DiscId],
) -> Vec<Worth> {
    let about = About { ledger, lines, shelf };
    let others = ledger.columns(carried);
    let beside = ledger.shared_beside(&others);
    let one = |column: usize| {
        let shared = beside(column);
        about.worth(column, &others, shared, "Carried, it would do", "it would save")
    };
    let columns = (0..ledger.disc_ids.len()).into_par_iter();
    columns.filter(|column| !others.contains(column)).map(one).collect()
}

/// What worths are told from.
struct About<'a> {
    ledger: &'a Ledger,
    lines: &'a [Line],
    shelf: &'a [Disc],
}

impl About<'_> {
    /// The worth of a disc beside others.
    fn worth(&self, column: usize, others: &[usize], shared: f64, does: &str, lacks: &str) -> Worth {
        let leads: Vec<Lead> = self
            .ledger
            .rows
            .iter()
            .filter_map(|row| {
                let lead = row.chances[column] - row.best(others);
                let strokes = row.strokes * lead;
                (lead > LEAD).then_some(Lead { line: row.line, weather: row.weather, strokes, lead })
            })
            .collect();
        let jobs = jobs(&leads, self.lines);
        let missed = total(leads.iter().map(|l| l.strokes));
        let equal = if jobs.is_empty() { self.equal(column, others) } else { None };
        let words = if let Some((line, name)) = &equal {
            format!(
                "As good as {name} on {}: either would do. {does} {} of the work a round.",
                line.to_lowercase(),
                strokes(shared)
            )
        } else if jobs.is_empty() {
            self.without_a_job(column, others)
        } else {
            let named = in_words(&jobs, self.ledger.weathers.len());
            format!("{named}. {does} {} of the work a round; {lacks} {}.", strokes(shared), strokes(missed))
        };
        let shares = equal.map_or_else(String::new, |(line, _)| format!("Shares {}", line.to_lowercase()));
        let short = jobs.first().map_or(shares, |job| match job.weathers[..] {
            // The two that have a word of their own; the sides would make it a sentence.
            [weather @ (WeatherKind::Ahead | WeatherKind::Behind)] => {
                format!("{} {}", capital(weather.label()), job.line_name.to_lowercase())
            }
            _ => job.line_name.clone(),
        });
        let disc_id = self.ledger.disc_ids[column];
        Worth { disc_id, shared_strokes: shared, missed_strokes: missed, jobs, words, short }
    }

    /// The dearest line on which the disc is as good as the best of the others, and which that is.
    fn equal(&self, column: usize, others: &[usize]) -> Option<(&str, &str)> {
        let as_good = |row: &&Row| {
            let best = row.best(others);
            best > LEAD && row.chances[column] >= best - LEAD
        };
        let rows = self.ledger.rows.iter().filter(as_good);
        let row =
            rows.max_by(|a, b| (a.strokes * a.chances[column]).total_cmp(&(b.strokes * b.chances[column])))?;
        let best = others.iter().copied().max_by(|&a, &b| row.chances[a].total_cmp(&row.chances[b]))?;
        Some((&self.lines[row.line].spec.name, self.name(best)))
    }

    fn name(&self, column: usize) -> &str {
        let id = self.ledger.disc_ids[column];
        self.shelf.iter().find(|d| d.id == id).map_or("", |d| d.spec.name.as_str())
    }

    /// What it would take: where the disc comes nearest to being the one to throw.
    fn without_a_job(&self, column: usize, others: &[usize]) -> String {
        let behind = |row: &&Row| row.best(others) - row.chances[column];
        let near = self.ledger.rows.iter().filter(|row| row.chances[column] > 0.0);
        let Some(row) = near.min_by(|a, b| behind(a).total_cmp(&behind(b))) else {
            return "No job: it comes near the best on none of your lines.".into();
        };
        let best = others.iter().copied().max_by(|&a, &b| row.chances[a].total_cmp(&row.chances[b]));
        format!(
            "No job of its own: nearest is {} in {}, {} against {} with {}.",
            self.lines[row.line].spec.name.to_lowercase(),
            row.weather.label(),
            percent(row.chances[column]),
            percent(best.map_or(0.0, |b| row.chances[b])),
            best.map_or("nothing", |b| self.name(b))
        )
    }
}

fn jobs(leads: &[Lead], lines: &[Line]) -> Vec<Job> {
    let mut jobs: Vec<Job> = Vec::new();
    for lead in leads {
        let line = &lines[lead.line];
        match jobs.iter_mut().find(|j| j.line_key == line.key) {
            Some(job) => {
                let n = job.weathers.len() as f64;
                job.lead = (job.lead * n + lead.lead) / (n + 1.0);
                job.weathers.push(lead.weather);
                job.strokes += lead.strokes;
            }
            None => jobs.push(Job {
                line_key: line.key.clone(),
                line_name: line.spec.name.clone(),
                weathers: vec![lead.weather],
                lead: lead.lead,
                strokes: lead.strokes,
            }),
        }
    }
    jobs.sort_by(|a, b| b.strokes.total_cmp(&a.strokes).then_with(|| a.line_key.cmp(&b.line_key)));
    jobs
}

/// Jobs in words: what, in which weathers unless in all, by how much.
pub(crate) fn in_words(jobs: &[Job], weathers: usize) -> String {
    let named: Vec<String> = jobs
        .iter()
        .take(NAMED)
        .map(|job| {
            let when: Vec<&str> = job.weathers.iter().map(|w| w.label()).collect();
            let when =
                if when.len() == weathers { String::new() } else { format!(" in {}", when.join(", ")) };
            format!("{}{when} (by {})", job.line_name.to_lowercase(), percent(job.lead))
        })
        .collect();
    let more = jobs.len().saturating_sub(NAMED);
    let more = if more > 0 { format!("; and {more} more") } else { String::new() };
    format!("{}{more}", capital(&named.join("; ")))
}
