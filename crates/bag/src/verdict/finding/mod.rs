//! What can be found wrong with a bag. Every finding carries the strokes it was measured to save by making its change and
//! judging again; none is shown that saves nothing.

mod gap;
mod peg;
mod rules;
mod scene;
mod swap;
mod wears_out;

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::{DiscId, Numbers};

pub(crate) use scene::Scene;

/// Kind of finding.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FindingKind {
    /// A disc is heavier than the event allows.
    OverCap,
    /// More discs than the bag holds.
    OverFull,
    /// A line on which some disc would do clearly better than all that are carried.
    Gap,
    /// A wanted peg without a disc.
    EmptyPeg,
    /// A disc that wear has moved off its peg.
    WornOut,
    /// Two discs the player cannot tell apart.
    Twins,
    /// A disc that is never the one to throw.
    NoJob,
    /// A disc on the shelf that would do more than one carried.
    Better,
    /// A disc that leaves its peg within the year, with no copy ready or under way.
    WearsOut,
}

/// What one click does about it.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case", tag = "do")]
pub enum Action {
    /// Put a disc from the shelf into the bag.
    Carry {
        /// The disc.
        disc_id: DiscId,
    },
    /// Take a disc out of the bag.
    Bench {
        /// The disc.
        disc_id: DiscId,
    },
    /// One in, one out.
    Swap {
        /// In.
        carry: DiscId,
        /// Out.
        bench: DiscId,
    },
    /// Keep a carried disc as a twin on purpose.
    MarkSpare {
        /// The disc.
        disc_id: DiscId,
    },
    /// Begin to wear a copy in: it is thrown on purpose from now on.
    Season {
        /// The copy.
        disc_id: DiscId,
    },
    /// Have a fresh copy of a mould.
    Renew {
        /// The disc that it is to follow.
        disc_id: DiscId,
    },
    /// Nothing on the shelf helps: look for a disc to this specification.
    LookFor {
        /// Numbers as thrown.
        numbers: Numbers,
    },
}

impl Action {
    /// Discs it moves: in, out.
    pub fn moves(&self) -> (Option<DiscId>, Option<DiscId>) {
        match *self {
            Action::Carry { disc_id } => (Some(disc_id), None),
            Action::Bench { disc_id } => (None, Some(disc_id)),
            Action::Swap { carry, bench } => (Some(carry), Some(bench)),
            Action::MarkSpare { .. }
            | Action::Season { .. }
            | Action::Renew { .. }
            | Action::LookFor { .. } => (None, None),
        }
    }
}

/// Another way to settle a finding.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OtherWay {
    /// What it says on its button.
    pub label: String,
    /// What it does.
    pub action: Action,
}

/// One thing to fix.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Finding {
    /// Stable identity within one analysis: kind and subject.
    pub key: String,
    /// Kind.
    pub kind: FindingKind,
    /// One line.
    pub title: String,
    /// Why, in plain words with figures.
    pub reason: String,
    /// What the action says on its button.
    pub action_label: String,
    /// What it does.
    pub action: Action,
    /// Another way, where there is one.
    pub other: Option<OtherWay>,
    /// Discs it is about.
    pub disc_ids: Vec<DiscId>,
    /// Lines it is about, by key.
    pub line_keys: Vec<String>,
    /// What acting saves in a round of the season, strokes, measured.
    pub saves_strokes: f64,
}

/// Most findings shown.
pub const MOST: usize = 7;
/// Fewer strokes a round are not worth a finding. Own judgement: one stroke in a hundred rounds.
pub(crate) const LEAST_STROKES: f64 = 0.01;

fn is_a_rule(finding: &Finding) -> bool {
    matches!(finding.kind, FindingKind::OverCap | FindingKind::OverFull)
}

/// A way of looking for faults: what is wrong, with discs that other findings move left alone.
type Finder = fn(&Scene, &[DiscId]) -> Vec<Finding>;

/// The most particular reason first: each finding moves discs that no other does.
const FINDERS: [Finder; 8] = [
    rules::over_cap,
    rules::over_full,
    peg::worn_out,
    gap::gaps,
    swap::twins,
    peg::empty_pegs,
    swap::no_job,
    swap::better,
];

/// Finds what to fix: breaches of rules first, then in order of what is saved, at most [`MOST`].
pub(crate) fn findings(scene: &Scene) -> Vec<Finding> {
    let mut found: Vec<Finding> = Vec::new();
    let mut taken: Vec<DiscId> = Vec::new();
    for finder in FINDERS {
        let mut new = finder(scene, &taken);
        new.sort_by(|a, b| b.saves_strokes.total_cmp(&a.saves_strokes));
        for finding in new {
            let (carry, bench) = finding.action.moves();
            let moves: Vec<DiscId> = carry.into_iter().chain(bench).collect();
            let asked = |f: &Finding| f.action == finding.action;
            let worth_it = is_a_rule(&finding) || finding.saves_strokes >= LEAST_STROKES;
            if worth_it && !moves.iter().any(|id| taken.contains(id)) && !found.iter().any(asked) {
                taken.extend(moves.into_iter().chain(finding.disc_ids.iter().copied()));
                found.push(finding);
            }
        }
    }
    // These move no disc, and matter only for one that stays.
    let stays = |f: &Finding| found.iter().all(|other| f.disc_ids.first() != other.action.moves().1.as_ref());
    let wears_out = wears_out::wears_out(scene).into_iter().filter(|f| f.saves_strokes >= LEAST_STROKES);
    let wears_out: Vec<Finding> = wears_out.filter(stays).collect();
    found.extend(wears_out);
    found.sort_by(|a, b| is_a_rule(b).cmp(&is_a_rule(a)).then(b.saves_strokes.total_cmp(&a.saves_strokes)));
    found.truncate(MOST);
    found
}
