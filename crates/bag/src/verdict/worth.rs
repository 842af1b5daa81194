//! What a disc is for: the lines and winds in which it is the one to throw, and what it is worth in strokes.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::{Disc, DiscId};
use crate::need::line::Line;
use crate::thrower::season::WeatherKind;
use crate::verdict::ledger::Ledger;
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

/// What a carried disc is worth.
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
    /// The same in a word or two; empty if it has no job.
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

/// What every one of some discs is worth, in their order.
pub(crate) fn worths(ledger: &Ledger, lines: &[Line], shelf: &[Disc], ids: &[DiscId]) -> Vec<Worth> {
    let columns = ledger.columns(ids);
    let shared = ledger.shared(&columns);
    let name = |id: DiscId| shelf.iter().find(|d| d.id == id).map_or("", |d| d.spec.name.as_str());
    (0..columns.len())
        .map(|k| {
            let others: Vec<usize> = (0..columns.len()).filter(|&i| i != k).map(|i| columns[i]).collect();
            let leads: Vec<Lead> = ledger
                .rows
                .iter()
                .filter_map(|row| {
                    let lead = row.chances[columns[k]] - row.best(&others);
                    let strokes = row.strokes * lead;
                    (lead > LEAD).then_some(Lead { line: row.line, weather: row.weather, strokes, lead })
                })
                .collect();
            let jobs = jobs(&leads, lines);
            let missed_strokes = leads.iter().map(|l| l.strokes).sum();
            let words = if jobs.is_empty() {
                without_a_job(ledger, lines, &columns, k, |column| name(ledger.disc_ids[column]))
            } else {
                in_words(&jobs, ledger.weathers.len(), shared[k], missed_strokes)
            };
            let short = jobs.first().map_or_else(String::new, |job| job.line_name.clone());
            Worth { disc_id: ids[k], shared_strokes: shared[k], missed_strokes, jobs, words, short }
        })
        .collect()
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

fn in_words(jobs: &[Job], weathers: usize, shared: f64, missed: f64) -> String {
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
    format!(
        "{}{more}. Does {} of the work a round; without it you lose {}.",
        capital(&named.join("; ")),
        strokes(shared),
        strokes(missed)
    )
}

/// What it would take: where the disc comes nearest to being the one to throw.
fn without_a_job<'a>(
    ledger: &Ledger,
    lines: &[Line],
    columns: &[usize],
    k: usize,
    name: impl Fn(usize) -> &'a str,
) -> String {
    let nearest = ledger.rows.iter().filter(|row| row.chances[columns[k]] > 0.0).min_by(|a, b| {
        let behind = |row: &&crate::verdict::ledger::Row| row.best(columns) - row.chances[columns[k]];
        behind(a).total_cmp(&behind(b))
    });
    let Some(row) = nearest else { return "No job: it comes near the best on none of your lines.".into() };
    let best = columns
        .iter()
        .copied()
        .filter(|c| *c != columns[k])
        .max_by(|&a, &b| row.chances[a].total_cmp(&row.chances[b]));
    format!(
        "No job of its own: nearest is {} in {}, {} against {} with {}.",
        lines[row.line].spec.name.to_lowercase(),
        row.weather.label(),
        percent(row.chances[columns[k]]),
        percent(best.map_or(0.0, |b| row.chances[b])),
        best.map_or("nothing", name)
    )
}
