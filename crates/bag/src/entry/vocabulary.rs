//! The words a line may have after its mould.

use crate::disc::plastic::Plastic;
use crate::disc::spec::{Top, Use};
use crate::disc::wear::Grade;
use crate::words::fold;

/// What a word means; of a colour its place among [`COLOURS`].
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Meaning {
    Plastic(Plastic),
    Grade(Grade),
    Top(Top),
    Use(Use),
    Colour(usize),
}

/// Colours that have a word, in the order in which discs of no told colour take them: far apart first.
pub(super) const COLOURS: [(&str, &str); 22] = [
    ("orange", "#e8731a"),
    ("blue", "#2a6fc9"),
    ("yellow", "#f2c61f"),
    ("pink", "#ec6aa8"),
    ("green", "#3a9a4b"),
    ("white", "#f4f2ec"),
    ("purple", "#7b4bb3"),
    ("red", "#c9302c"),
    ("turquoise", "#1fa8a3"),
    ("lime", "#a4cf2f"),
    ("brown", "#8a5a33"),
    ("black", "#24262b"),
    ("silver", "#b9bfc6"),
    ("mint", "#a8e0c3"),
    ("navy", "#1f3a6e"),
    ("gold", "#c79a2b"),
    ("teal", "#17706e"),
    ("magenta", "#c2288f"),
    ("beige", "#dcc9a3"),
    ("violet", "#9a7fd6"),
    ("grey", "#7d858f"),
    ("gray", "#7d858f"),
];

const PHRASES: [(&str, Meaning); 29] = [
    ("base", Meaning::Plastic(Plastic::Base)),
    ("tacky base", Meaning::Plastic(Plastic::TackyBase)),
    ("tacky", Meaning::Plastic(Plastic::TackyBase)),
    ("mid-grade", Meaning::Plastic(Plastic::MidGrade)),
    ("mid grade", Meaning::Plastic(Plastic::MidGrade)),
    ("midgrade", Meaning::Plastic(Plastic::MidGrade)),
    ("premium", Meaning::Plastic(Plastic::Premium)),
    ("premium soft", Meaning::Plastic(Plastic::PremiumSoft)),
    ("soft premium", Meaning::Plastic(Plastic::PremiumSoft)),
    ("soft", Meaning::Plastic(Plastic::PremiumSoft)),
    ("stiff glow", Meaning::Plastic(Plastic::StiffGlow)),
    ("glow", Meaning::Plastic(Plastic::StiffGlow)),
    ("featherweight", Meaning::Plastic(Plastic::Featherweight)),
    ("fresh", Meaning::Grade(Grade::Fresh)),
    ("new", Meaning::Grade(Grade::Fresh)),
    ("broken in", Meaning::Grade(Grade::BrokenIn)),
    ("broken-in", Meaning::Grade(Grade::BrokenIn)),
    ("seasoned", Meaning::Grade(Grade::Seasoned)),
    ("beat", Meaning::Grade(Grade::Beat)),
    ("beat in", Meaning::Grade(Grade::Beat)),
    ("flippy", Meaning::Grade(Grade::Flippy)),
    ("flat", Meaning::Top(Top::Flat)),
    ("flat top", Meaning::Top(Top::Flat)),
    ("domed", Meaning::Top(Top::Domed)),
    ("domed top", Meaning::Top(Top::Domed)),
    ("dome", Meaning::Top(Top::Domed)),
    ("putting", Meaning::Use(Use::Putting)),
    ("throwing", Meaning::Use(Use::Throwing)),
    ("utility", Meaning::Use(Use::Utility)),
];

pub(super) fn top_label(top: Top) -> &'static str {
    match top {
        Top::Flat => "flat top",
        Top::Neutral => "top as usual",
        Top::Domed => "domed top",
    }
}

pub(super) fn use_label(used_for: Use) -> &'static str {
    match used_for {
        Use::Throwing => "for throwing",
        Use::Putting => "for putting only",
        Use::Utility => "for special jobs",
    }
}

/// What some words were found to mean.
pub(super) enum Found {
    /// So many of them mean this.
    One(usize, Meaning),
    /// So many of them could mean each of these.
    Several(usize, Vec<&'static str>),
    Nothing,
}

fn all() -> impl Iterator<Item = (&'static str, Meaning)> {
    let colours = COLOURS.iter().enumerate().map(|(k, (name, _))| (*name, Meaning::Colour(k)));
    PHRASES.into_iter().chain(colours)
}

/// Fewest letters by which a phrase is known that is not written out.
const LEAST_LETTERS: usize = 3;

/// What the first of some words mean: the most of them that are one phrase, each its word or a beginning of it.
pub(super) fn find(words: &[String]) -> Found {
    let stands_for = |(typed, word): (&String, &str), least: usize| {
        typed == word || (word.starts_with(typed.as_str()) && typed.chars().count() >= least)
    };
    let of = |phrase: &str| {
        let mut pairs = words.iter().zip(phrase.split(' ')).enumerate();
        pairs
            .by_ref()
            .take_while(|(k, pair)| stands_for(*pair, if *k == 0 { LEAST_LETTERS } else { 1 }))
            .count()
    };
    let mut found: Vec<(usize, &str, Meaning)> =
        all().map(|(phrase, meaning)| (of(phrase), phrase, meaning)).filter(|f| f.0 > 0).collect();
    let Some(n) = found.iter().map(|f| f.0).max() else { return Found::Nothing };
    found.retain(|f| f.0 == n);
    let typed = words[..n].join(" ");
    if let Some(exact) = found.iter().find(|f| f.1 == typed) {
        return Found::One(n, exact.2);
    }
    // A phrase that begins the others is meant as it stands.
    let short = found.iter().copied().min_by_key(|f| f.1.len()).unwrap_or(found[0]);
    if found.iter().all(|f| f.2 == short.2 || f.1.starts_with(short.1)) {
        return Found::One(n, short.2);
    }
    found.dedup_by_key(|f| f.2);
    Found::Several(n, found.iter().map(|f| f.1).collect())
}

/// Likeness above which a name that is not known is taken for a misspelt one. Own judgement.
pub(super) const NEAR: f64 = 0.88;

/// The word of the vocabulary that a word not found in it is most like, if it is like one.
pub(super) fn nearest(word: &str) -> Option<&'static str> {
    let word = fold(word);
    let likeness = |(phrase, _): &(&'static str, Meaning)| strsim::jaro_winkler(phrase, &word);
    let best = all().map(|f| (likeness(&f), f.0)).max_by(|a, b| a.0.total_cmp(&b.0))?;
    (best.0 > NEAR).then_some(best.1)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn prop_every_phrase_is_found_by_itself_and_no_two_are_one() {
        for (phrase, meaning) in all() {
            let words: Vec<String> = phrase.split(' ').map(str::to_owned).collect();
            assert!(matches!(find(&words), Found::One(n, m) if n == words.len() && m == meaning), "{phrase}");
            assert_eq!(all().filter(|other| other.0 == phrase).count(), 1, "{phrase}");
        }
    }

    #[test]
    fn prop_a_beginning_of_two_is_asked_about() {
        let words = |text: &str| vec![text.to_owned()];
        assert!(
            matches!(find(&words("bro")), Found::Several(1, of) if of.contains(&"brown") && of.contains(&"broken in"))
        );
        assert!(matches!(find(&words("prem")), Found::One(1, Meaning::Plastic(Plastic::Premium))));
        assert!(matches!(find(&words("ba")), Found::Nothing));
        assert_eq!(nearest("premum"), Some("premium"));
        assert_eq!(nearest("zzz"), None);
    }
}
