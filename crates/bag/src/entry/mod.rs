//! Discs read from a line that a player types: `2 purlin premium 173 seasoned orange`.
//!
//! First how many, if more than one, then the mould by any beginning of its name, with its maker before it if need be; then in any
//! order what is known: plastic, mass in grams or ounces, wear by eye or in throws, top, colour, what for. A mould that is not
//! known yet takes its four numbers and its maker from the same line. What is left out is taken from the mould's last disc, or is
//! usual. Nothing is guessed: a beginning that could be two things is asked about.

mod made;
mod reader;
mod text;
mod vocabulary;

use serde::Serialize;
use utoipa::ToSchema;

use crate::disc::mould::MouldSpec;
use crate::disc::spec::{Disc, DiscSpec, Use};
pub use made::names;
use reader::Reader;

/// Most discs of one line.
pub const MOST_AT_ONCE: usize = 20;
/// Longest line, characters.
pub const LONGEST_LINE: usize = 400;
/// Maker of a new mould of which none is told.
pub const UNKNOWN_MAKER: &str = "unknown";

/// What is known when a line is read.
#[derive(Clone, Copy)]
pub struct Known<'a> {
    /// Moulds.
    pub moulds: &'a [MouldSpec],
    /// Discs on the shelf.
    pub discs: &'a [Disc],
    /// What discs are for where the line does not say.
    pub used_for: Option<Use>,
}

/// What a piece of the line tells.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum PartKind {
    /// How many discs.
    Count,
    /// A mould that is known.
    Mould,
    /// A mould that is not known yet.
    NewMould,
    /// Its maker.
    Maker,
    /// The four flight numbers.
    Numbers,
    /// The plastic.
    Plastic,
    /// The mass.
    Mass,
    /// Wear, by eye or counted.
    Wear,
    /// The top.
    Top,
    /// The colour.
    Colour,
    /// What it is for.
    Use,
    /// What the player calls it.
    Name,
    /// A note.
    Note,
    /// Nothing that is known.
    Unread,
}

/// A piece of the line and how it was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Part {
    /// As it was typed.
    pub text: String,
    /// What it tells.
    pub kind: PartKind,
    /// In full words; of what was not read, as it was typed.
    pub reads: String,
    /// The colour as #rrggbb, of a colour.
    pub colour: Option<String>,
}

/// A line as it was read.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct Entry {
    /// Its pieces, in order.
    pub parts: Vec<Part>,
    /// The discs it stands for; none while something is wrong.
    pub discs: Vec<DiscSpec>,
    /// Their mould, if it is new.
    pub mould: Option<MouldSpec>,
    /// What it does not say and was taken as usual, in words.
    pub assumed: Vec<String>,
    /// What is wrong or missing and how to mend it, in words.
    pub problems: Vec<String>,
}

/// Reads a line. An empty one gives an empty entry without a problem.
pub fn read(line: &str, known: Known) -> Entry {
    let length = line.chars().count();
    if length > LONGEST_LINE {
        let problem = format!(
            "A line has at most {LONGEST_LINE} characters; this has {length}. Add some of it at a time."
        );
        return Entry { parts: vec![], discs: vec![], mould: None, assumed: vec![], problems: vec![problem] };
    }
    made::entry(known, Reader::of(line, known))
}
