//! A line in pieces, and how words and figures are compared.

use crate::words::fold;

/// A piece of a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Token<'a> {
    pub text: &'a str,
    kind: Kind,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Kind {
    Plain,
    Quoted,
    Note,
}

impl Token<'_> {
    pub fn is_plain(&self) -> bool {
        self.kind == Kind::Plain
    }
    pub fn is_quoted(&self) -> bool {
        self.kind == Kind::Quoted
    }
    pub fn is_note(&self) -> bool {
        self.kind == Kind::Note
    }
}

const QUOTES: [char; 4] = ['"', '“', '”', '„'];

/// Words apart by spaces; what stands in quotation marks is one; two slashes begin a note that goes on to the end.
pub(super) fn tokens(line: &str) -> Vec<Token<'_>> {
    let mut found = Vec::new();
    let mut rest = line.trim_start();
    while let Some(first) = rest.chars().next() {
        let (text, kind, left) = if let Some(note) = rest.strip_prefix("//") {
            (note.trim(), Kind::Note, "")
        } else if QUOTES.contains(&first) {
            let inside = &rest[first.len_utf8()..];
            match inside.find(QUOTES) {
                Some(end) => {
                    let closing = inside[end..].chars().next().map_or(0, char::len_utf8);
                    (inside[..end].trim(), Kind::Quoted, &inside[end + closing..])
                }
                // Not closed yet: somebody is still typing.
                None => (inside.trim(), Kind::Quoted, ""),
            }
        } else {
            let end = rest.find(|c: char| c.is_whitespace() || QUOTES.contains(&c)).unwrap_or(rest.len());
            (rest[..end].trim_end_matches([',', ';']), Kind::Plain, &rest[end..])
        };
        if !text.is_empty() {
            found.push(Token { text, kind });
        }
        rest = left.trim_start();
    }
    found
}

/// A number with a point or a comma, its sign in any shape; nothing with an exponent or more than that.
pub(super) fn number(text: &str) -> Option<f64> {
    let plain = text.replace(['−', '–'], "-").replace(',', ".");
    let digits = plain.strip_prefix(['-', '+']).unwrap_or(&plain);
    let shape =
        digits.chars().all(|c| c.is_ascii_digit() || c == '.') && digits.chars().any(|c| c.is_ascii_digit());
    if shape && digits.len() <= 12 { plain.parse().ok() } else { None }
}

/// A number with its unit in one word: 173g, 6.1oz.
pub(super) fn amount(text: &str) -> Option<(f64, Unit)> {
    let end = text.find(|c: char| c.is_alphabetic())?;
    Some((number(&text[..end])?, unit(&fold(&text[end..]))?))
}

/// What counts.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Unit {
    Gram,
    Ounce,
    Throw,
    Hit,
}

pub(super) fn unit(word: &str) -> Option<Unit> {
    match word {
        "g" | "gr" | "gram" | "grams" => Some(Unit::Gram),
        "oz" | "ounce" | "ounces" => Some(Unit::Ounce),
        "throw" | "throws" => Some(Unit::Throw),
        "hit" | "hits" => Some(Unit::Hit),
        _ => None,
    }
}

/// The four numbers in one word: 7/5/-1/2.
pub(super) fn four(text: &str) -> Option<[f64; 4]> {
    let parts: Vec<f64> = text.split(['/', '|']).map(number).collect::<Option<_>>()?;
    parts.try_into().ok()
}

/// Fewest letters that stand for a longer word.
const LEAST_LETTERS: usize = 2;

/// How many of the first words stand for the first words of a name: each is the word or a beginning of it.
pub(super) fn begins(words: &[String], name: &str) -> usize {
    let stands_for = |(typed, word): &(&String, &str)| {
        typed == word || (word.starts_with(typed.as_str()) && typed.chars().count() >= LEAST_LETTERS)
    };
    words.iter().zip(name.split(' ')).take_while(stands_for).count()
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("173", Some(173.0))]
    #[case("4,5", Some(4.5))]
    #[case("−1.5", Some(-1.5))]
    #[case("+2", Some(2.0))]
    #[case("1e9", None)]
    #[case("-", None)]
    #[case("1.2.3", None)]
    #[case("inf", None)]
    #[case("", None)]
    fn prop_a_number_is_what_people_write(#[case] text: &str, #[case] value: Option<f64>) {
        assert_eq!(number(text), value);
    }

    #[test]
    fn prop_a_line_falls_into_words_names_and_a_note() {
        let texts = |line| tokens(line).iter().map(|t| t.text).collect::<Vec<_>>();
        assert_eq!(
            texts("2 purlin, \"Old One\" 173g // won in May, \"dear\""),
            ["2", "purlin", "Old One", "173g", "won in May, \"dear\""]
        );
        assert_eq!(texts("  “half open"), ["half open"]);
        assert!(texts(" \t , ;").is_empty() && texts("//").is_empty());
    }
}
