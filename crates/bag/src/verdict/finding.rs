//! What can be found wrong with a bag, each with its reason and one action.

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::spec::DiscId;

/// Kind of finding.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum FindingKind {
    /// A disc is heavier than the event allows.
    OverCap,
    /// More discs than the bag holds.
    OverFull,
    /// A line that no carried disc makes.
    Gap,
    /// A wanted peg without a disc.
    EmptyPeg,
    /// A disc that wear has moved off its peg.
    WornOut,
    /// Two discs the player cannot tell apart.
    Twins,
    /// A disc that makes no line.
    NoLine,
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
    /// Nothing on the shelf helps: look for a disc to this specification.
    LookFor {
        /// Numbers as thrown.
        numbers: crate::disc::spec::Numbers,
    },
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
    /// What acting gains: rise of the bag's weighted best chance, 0 to 1; rule breaches count a whole.
    pub worth: f64,
}

/// Most findings shown.
pub const MOST: usize = 7;
