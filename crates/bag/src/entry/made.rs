//! From what a line says to the discs it stands for.

use std::collections::HashSet;

use super::reader::{Reader, Which};
use super::{Entry, Known, UNKNOWN_MAKER};
use crate::disc::mould::MouldSpec;
use crate::disc::plastic::Plastic;
use crate::disc::spec::{Disc, DiscSpec, USUAL_COLOUR, Use};
use crate::disc::wear::{Grade, Wear};
use crate::entry::vocabulary::{COLOURS, NEAR};
use crate::error::BagError;
use crate::words::capital;
use crate::words::fold;

/// What all of it comes to.
pub(super) fn entry(known: Known, read: Reader) -> Entry {
    let Reader { said, parts, mut problems, .. } = read;
    let mut entry = Entry { parts, discs: vec![], mould: None, assumed: vec![], problems: vec![] };
    let (mould, is_new) = match of_the_maker(known.moulds, said.mould, said.maker.as_deref()) {
        Some(Which::Known(mould)) => (mould, false),
        Some(Which::New(name)) => match said.numbers {
            None => {
                let near = |m: &&MouldSpec| strsim::jaro_winkler(&fold(&m.name), &fold(&name)) > NEAR;
                let hint = known.moulds.iter().find(near).map(|m| format!(" Or did you mean {}?", m.name));
                problems.insert(
                    0,
                    format!(
                        "{name} is new: add its speed, glide, turn and fade, such as 7/5/-1/2.{}",
                        hint.unwrap_or_default()
                    ),
                );
                return Entry { problems, ..entry };
            }
            Some(printed) => {
                let maker = said.maker.unwrap_or_else(|| {
                    entry.assumed.push("maker unknown (by … names it)".into());
                    UNKNOWN_MAKER.into()
                });
                (MouldSpec::named(&maker, &name, printed), true)
            }
        },
        None => {
            if problems.is_empty() && !entry.parts.is_empty() {
                problems.push("Which mould? Begin with any part of its name.".into());
            }
            return Entry { problems, ..entry };
        }
    };
    let alike = |d: &&Disc| mould.is_of(&d.spec);
    let last = known.discs.iter().filter(alike).max_by_key(|d| d.id).map(|d| &d.spec);
    let plain = DiscSpec {
        reference_mass_g: mould.reference_mass_g,
        mass_g: last.map_or(mould.reference_mass_g, |d| d.mass_g),
        class: mould.class,
        rim_cm: mould.rim_cm,
        plastic: last.map_or(Plastic::MidGrade, |d| d.plastic),
        used_for: known.used_for.or(last.map(|d| d.used_for)).unwrap_or(Use::Throwing),
        colour: fresh_colour(known.discs).into(),
        ..DiscSpec::plain(&mould.maker, &mould.name, said.numbers.unwrap_or(mould.printed))
    };
    if said.plastic.is_none() {
        entry.assumed.push(plain.plastic.facts().label.to_owned());
    }
    if said.mass_g.is_none() {
        entry.assumed.push(format!("{} g", plain.mass_g));
    }
    if said.grade.is_none() && said.throws.is_none() {
        entry.assumed.push(Grade::Fresh.label().to_owned());
    }
    let one = DiscSpec {
        plastic: said.plastic.unwrap_or(plain.plastic),
        mass_g: said.mass_g.unwrap_or(plain.mass_g),
        top: said.top.unwrap_or(plain.top),
        wear: Wear {
            grade: said.grade.unwrap_or(Grade::Fresh),
            throws: said.throws,
            hard_hits: said.hard_hits.unwrap_or(0),
        },
        used_for: said.used_for.unwrap_or(plain.used_for),
        colour: said.colour.map_or(plain.colour.clone(), str::to_owned),
        notes: said.note.unwrap_or_default(),
        ..plain
    };
    let names = names(said.name.as_deref(), &one, said.count.unwrap_or(1), known.discs);
    let discs: Vec<DiscSpec> = names.into_iter().map(|name| DiscSpec { name, ..one.clone() }).collect();
    let wrong = discs.iter().find_map(|d| d.validate().err()).or_else(|| mould.validate().err());
    problems.extend(wrong.map(|error| in_words(&error)));
    entry.mould = is_new.then_some(mould);
    if problems.is_empty() {
        entry.discs = discs;
    }
    Entry { problems, ..entry }
}

/// What is wrong with a disc, as somebody who types reads it.
fn in_words(error: &BagError) -> String {
    match error {
        BagError::Range { field, least, most, got } => {
            let (what, unit) = field.strip_suffix("_g").map_or((*field, ""), |what| (what, " g"));
            format!("{} must be from {least} to {most}{unit}, not {got}.", capital(&what.replace('_', " ")))
        }
        BagError::Field { field, expected, got } => {
            format!("{} must be {expected}, not {got}.", capital(field))
        }
        other => capital(&other.to_string()),
    }
}

/// What a line means once its maker is told: another maker's mould of that name, if it is not the one that was thought of.
fn of_the_maker(moulds: &[MouldSpec], which: Option<Which>, maker: Option<&str>) -> Option<Which> {
    let (Some(Which::Known(mould)), Some(maker)) = (&which, maker) else { return which };
    let name = fold(&mould.name);
    let theirs = moulds.iter().find(|m| fold(&m.name) == name && fold(&m.maker) == fold(maker));
    Some(theirs.map_or_else(|| Which::New(mould.name.clone()), |m| Which::Known(m.clone())))
}

/// Names for so many more discs like one: as the mould is called, numbered from the second on.
pub fn names(wanted: Option<&str>, like: &DiscSpec, count: usize, shelf: &[Disc]) -> Vec<String> {
    let taken: HashSet<String> = shelf.iter().map(|d| fold(&d.spec.name)).collect();
    let base = wanted.unwrap_or(&like.mould).trim().to_owned();
    if count == 1 && wanted.is_some() {
        return vec![base];
    }
    let same =
        |d: &&Disc| fold(&d.spec.mould) == fold(&like.mould) && fold(&d.spec.maker) == fold(&like.maker);
    let there = if wanted.is_some() { 0 } else { shelf.iter().filter(same).count() };
    if count == 1 && there == 0 && !taken.contains(&fold(&base)) {
        return vec![base];
    }
    // Room for the number.
    let stem: String = base.chars().take(LONGEST_STEM).collect();
    let numbered = (there + 1..).map(|k| format!("{} {k}", stem.trim_end()));
    numbered.filter(|name| !taken.contains(&fold(name))).take(count).collect()
}

/// Longest name before its number, characters.
const LONGEST_STEM: usize = 52;

/// The colour that the fewest discs of the shelf have.
fn fresh_colour(shelf: &[Disc]) -> &'static str {
    let times = |hex: &str| shelf.iter().filter(|d| d.spec.colour == hex).count();
    COLOURS.iter().map(|(_, hex)| *hex).min_by_key(|hex| times(hex)).unwrap_or(USUAL_COLOUR)
}
