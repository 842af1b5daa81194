//! From the pieces of a line to what it says.

use super::text::{Token, Unit, amount, begins, four, number, tokens, unit};
use super::vocabulary::{self, COLOURS, Found, Meaning, find, nearest};
use super::{Known, MOST_AT_ONCE, Part, PartKind};
use crate::disc::mould::MouldSpec;
use crate::disc::plastic::Plastic;
use crate::disc::spec::{Numbers, Top, Use};
use crate::disc::wear::Grade;
use crate::words::capital;
use crate::words::fold;

const GRAMS_PER_OUNCE: f64 = 28.349_523_125;
/// A bare number in this range is a mass, g.
const MASSES_G: std::ops::RangeInclusive<f64> = 60.0..=220.0;
/// A bare number up to this may begin the four flight numbers.
const FASTEST: f64 = 15.0;

/// Which mould a line means.
pub(super) enum Which {
    Known(MouldSpec),
    New(String),
}

/// What the next words of a line name: so many of them a mould, or a choice of moulds.
enum Naming<'a> {
    One(usize, &'a MouldSpec),
    Several(usize, Vec<String>),
    Nothing,
}

/// What a line says.
#[derive(Default)]
pub(super) struct Said {
    pub count: Option<usize>,
    pub mould: Option<Which>,
    pub maker: Option<String>,
    pub numbers: Option<Numbers>,
    pub plastic: Option<Plastic>,
    pub mass_g: Option<f64>,
    pub grade: Option<Grade>,
    pub throws: Option<u32>,
    pub hard_hits: Option<u32>,
    pub top: Option<Top>,
    pub colour: Option<&'static str>,
    pub used_for: Option<Use>,
    pub name: Option<String>,
    pub note: Option<String>,
}

pub(super) struct Reader<'a> {
    known: Known<'a>,
    tokens: Vec<Token<'a>>,
    at: usize,
    pub said: Said,
    pub parts: Vec<Part>,
    pub problems: Vec<String>,
}

/// Keeps what is said of a thing, once.
fn keep<T>(slot: &mut Option<T>, value: T, what: &str, problems: &mut Vec<String>) {
    if slot.is_some() {
        problems.push(format!("The {what} is given twice; leave one out."));
    } else {
        *slot = Some(value);
    }
}

impl<'a> Reader<'a> {
    /// A line read from one end to the other.
    pub fn of(line: &'a str, known: Known<'a>) -> Reader<'a> {
        let (tokens, said) = (tokens(line), Said::default());
        let mut reader = Reader { known, tokens, at: 0, said, parts: vec![], problems: vec![] };
        if !reader.tokens.is_empty() {
            reader.count();
            reader.mould();
            while reader.at < reader.tokens.len() {
                reader.detail();
            }
        }
        reader
    }

    fn text(&self, k: usize) -> Option<&'a str> {
        self.tokens.get(k).filter(|t| t.is_plain()).map(|t| t.text)
    }

    /// Takes the next `n` tokens as one piece of the line.
    fn take(&mut self, n: usize, kind: PartKind, reads: String) {
        let text = self.tokens[self.at..self.at + n].iter().map(|t| t.text).collect::<Vec<_>>().join(" ");
        self.parts.push(Part { text, kind, reads, colour: None });
        self.at += n;
    }

    /// How many: a whole number before the mould, "2", "2x" or "x2".
    fn count(&mut self) {
        let Some(text) = self.text(0) else { return };
        let digits = text.trim_matches(['x', 'X', '×']);
        let is_count = (1..=2).contains(&digits.len()) && digits.chars().all(|c| c.is_ascii_digit());
        if !is_count || self.tokens.len() < 2 {
            return;
        }
        let count = digits.parse().unwrap_or(usize::MAX);
        let discs = if count == 1 { "disc" } else { "discs" };
        self.take(1, PartKind::Count, format!("{digits} {discs}"));
        if (1..=MOST_AT_ONCE).contains(&count) {
            self.said.count = Some(count);
        } else {
            self.problems.push(format!("One line adds 1 to {MOST_AT_ONCE} discs, not {digits}."));
        }
    }

    /// The mould: known by any beginning, else new.
    fn mould(&mut self) {
        let Some(first) = self.tokens.get(self.at) else { return };
        if first.is_note()
            || (first.is_plain() && (number(first.text).is_some() || self.numbers_ahead().is_some()))
        {
            self.problems.push("Say the mould first, then its numbers and weight.".into());
            return;
        }
        match self.known_mould() {
            Naming::One(n, mould) => {
                self.take(n, PartKind::Mould, format!("{}, {}", mould.name, mould.maker));
                self.said.mould = Some(Which::Known(mould.clone()));
            }
            Naming::Nothing => self.new_mould(),
            Naming::Several(n, names) => {
                let text = self.tokens[self.at].text;
                self.problems.push(format!("“{text}” could be {}; type on.", names.join(" or ")));
                self.take(n, PartKind::Unread, text.to_owned());
            }
        }
    }

    /// The known mould that most of the next tokens name, and how many do; or the names between which they leave the choice.
    fn known_mould(&self) -> Naming<'a> {
        let words: Vec<String> =
            self.tokens[self.at..].iter().take_while(|t| !t.is_note()).map(|t| fold(t.text)).collect();
        let named = |m: &'a MouldSpec| {
            let (name, maker) = (fold(&m.name), fold(&m.maker));
            if self.tokens[self.at].is_quoted() {
                return (words[0] == name).then_some((1, true, m));
            }
            let by = begins(&words, &maker);
            let alone = begins(&words, &name);
            let after = begins(&words[by..], &name);
            let n = if by > 0 && after > 0 { by + after } else { alone };
            let exact = words[..n].join(" ").ends_with(&name);
            (n > 0).then_some((n, exact, m))
        };
        let mut found: Vec<(usize, bool, &MouldSpec)> = self.known.moulds.iter().filter_map(named).collect();
        let Some(most) = found.iter().map(|f| f.0).max() else { return Naming::Nothing };
        found.retain(|f| f.0 == most);
        if found.iter().any(|f| f.1) {
            found.retain(|f| f.1);
        }
        // A name that begins the others is meant as it stands.
        if let Some(short) = found.iter().map(|f| f.2).min_by_key(|m| m.name.len())
            && found.iter().all(|f| f.2.name != short.name || f.2 == short)
            && found.iter().all(|f| fold(&f.2.name).starts_with(&fold(&short.name)))
        {
            return Naming::One(most, short);
        }
        let alike = |m: &MouldSpec| found.iter().filter(|f| f.2.name == m.name).count() > 1;
        let told = |f: &(usize, bool, &MouldSpec)| {
            if alike(f.2) { format!("{} {}", f.2.maker, f.2.name) } else { f.2.name.clone() }
        };
        Naming::Several(most, found.iter().map(told).collect())
    }

    /// A new mould: the words up to the first that tells something else, a known maker before them left aside.
    fn new_mould(&mut self) {
        if self.tokens[self.at].is_quoted() {
            let name = self.tokens[self.at].text.to_owned();
            self.take(1, PartKind::NewMould, format!("new mould {name}"));
            self.said.mould = Some(Which::New(name));
            return;
        }
        let folded: Vec<String> = self.tokens[self.at..].iter().map(|t| fold(t.text)).collect();
        let makers = self.known.moulds.iter().map(|m| &m.maker);
        let by = makers.map(|maker| (begins(&folded, &fold(maker)), maker)).max_by_key(|(n, _)| *n);
        // Words that go on after the maker name the mould.
        let by = by.filter(|(n, _)| *n > 0 && self.names_something(self.at + n));
        if let Some((n, maker)) = by {
            self.take(n, PartKind::Maker, maker.clone());
            self.said.maker = Some(maker.clone());
        }
        let mut n = 1;
        while self.names_something(self.at + n) {
            n += 1;
        }
        let words: Vec<&str> = self.tokens[self.at..self.at + n].iter().map(|t| t.text).collect();
        let name = words.iter().map(|w| capital(w)).collect::<Vec<_>>().join(" ");
        self.take(n, PartKind::NewMould, format!("new mould {name}"));
        self.said.mould = Some(Which::New(name));
    }

    /// Whether a token is a word that tells nothing else than a name.
    fn names_something(&self, k: usize) -> bool {
        let Some(text) = self.text(k) else { return false };
        let is_figure = number(text).is_some() || amount(text).is_some() || four(text).is_some();
        !is_figure && fold(text) != "by" && matches!(find(&self.folded(k)), Found::Nothing)
    }

    /// The plain words from a token on, as they are compared.
    fn folded(&self, from: usize) -> Vec<String> {
        self.tokens[from.min(self.tokens.len())..]
            .iter()
            .take_while(|t| t.is_plain())
            .map(|t| fold(t.text))
            .collect()
    }

    /// The four flight numbers, if they come next, and how many tokens they take.
    fn numbers_ahead(&self) -> Option<(usize, [f64; 4])> {
        if let Some(all) = four(self.text(self.at)?) {
            return Some((1, all));
        }
        let each: Option<Vec<f64>> = (0..4).map(|k| number(self.text(self.at + k)?)).collect();
        let all = <[f64; 4]>::try_from(each?).ok()?;
        let weighs = self.text(self.at + 4).is_some_and(|t| unit(&fold(t)).is_some());
        (all[0] <= FASTEST && !weighs).then_some((4, all))
    }

    /// Whatever comes after the mould.
    fn detail(&mut self) {
        let token = &self.tokens[self.at];
        let text = token.text;
        if token.is_note() {
            let note = text.to_owned();
            keep(&mut self.said.note, note.clone(), "note", &mut self.problems);
            return self.take(1, PartKind::Note, note);
        }
        if token.is_quoted() {
            let name = text.to_owned();
            keep(&mut self.said.name, name.clone(), "name", &mut self.problems);
            return self.take(1, PartKind::Name, format!("called {name}"));
        }
        if fold(text) == "by" && self.at + 1 < self.tokens.len() {
            return self.maker();
        }
        if self.said.numbers.is_none()
            && let Some((n, [speed, glide, turn, fade])) = self.numbers_ahead()
        {
            let all = Numbers { speed, glide, turn, fade };
            self.said.numbers = Some(all);
            return self.take(n, PartKind::Numbers, all.to_string());
        }
        let next = self.text(self.at + 1).map(fold);
        let measured = amount(text).or_else(|| Some((number(text)?, next.as_deref().and_then(unit)?)));
        if let Some((value, unit)) = measured {
            let n = if number(text).is_some() { 2 } else { 1 };
            return self.measure(n, value, unit);
        }
        match number(text) {
            Some(mass_g) if MASSES_G.contains(&mass_g) => return self.measure(1, mass_g, Unit::Gram),
            Some(_) => {
                let problem = format!(
                    "“{text}” by itself is no weight in grams, which is 60 to 220. Write 6.1 oz for ounces, 350 throws for wear; flight numbers come in fours, such as 7/5/-1/2."
                );
                self.problems.push(problem);
                return self.take(1, PartKind::Unread, text.to_owned());
            }
            None => {}
        }
        match find(&self.folded(self.at)) {
            Found::One(n, meaning) => self.meaning(n, meaning),
            Found::Several(n, phrases) => {
                self.problems.push(format!("“{text}” could be {}; type on.", phrases.join(" or ")));
                self.take(n, PartKind::Unread, text.to_owned());
            }
            Found::Nothing => {
                let hint = nearest(text).map_or_else(String::new, |word| format!(" Did you mean {word}?"));
                self.problems
                    .push(format!("“{text}” is no plastic, weight, wear, top, colour or use.{hint}"));
                self.take(1, PartKind::Unread, text.to_owned());
            }
        }
    }

    /// "by" and a maker: a known one by its beginning, else one word or what stands in quotation marks.
    fn maker(&mut self) {
        let folded: Vec<String> = self.tokens[self.at + 1..].iter().map(|t| fold(t.text)).collect();
        let makers = self.known.moulds.iter().map(|m| &m.maker);
        let known = makers.map(|maker| (begins(&folded, &fold(maker)), maker)).max_by_key(|(n, _)| *n);
        let (n, maker) = match known {
            Some((n, maker)) if n > 0 => (n, maker.clone()),
            _ => (1, capital(self.tokens[self.at + 1].text)),
        };
        keep(&mut self.said.maker, maker.clone(), "maker", &mut self.problems);
        self.take(n + 1, PartKind::Maker, maker);
    }

    fn measure(&mut self, n: usize, value: f64, unit: Unit) {
        match unit {
            Unit::Gram | Unit::Ounce => {
                let grams = if unit == Unit::Ounce { value * GRAMS_PER_OUNCE } else { value };
                let mass_g = (grams * 10.0).round() / 10.0;
                keep(&mut self.said.mass_g, mass_g, "weight", &mut self.problems);
                self.take(n, PartKind::Mass, format!("{mass_g} g"));
            }
            Unit::Throw | Unit::Hit => {
                let what = if unit == Unit::Throw { "throws" } else { "hard hits" };
                if value < 0.0 || value.fract() != 0.0 || value > 1e6 {
                    self.problems.push(format!("{what} are a whole number up to a million, not {value}."));
                }
                let counted = value.clamp(0.0, 1e6) as u32;
                let slot = if unit == Unit::Throw { &mut self.said.throws } else { &mut self.said.hard_hits };
                keep(slot, counted, what, &mut self.problems);
                self.take(n, PartKind::Wear, format!("{counted} {what}"));
            }
        }
    }

    fn meaning(&mut self, n: usize, meaning: Meaning) {
        let (said, problems) = (&mut self.said, &mut self.problems);
        let (kind, reads) = match meaning {
            Meaning::Plastic(plastic) => {
                keep(&mut said.plastic, plastic, "plastic", problems);
                (PartKind::Plastic, plastic.facts().label)
            }
            Meaning::Grade(grade) => {
                keep(&mut said.grade, grade, "condition", problems);
                (PartKind::Wear, grade.label())
            }
            Meaning::Top(top) => {
                keep(&mut said.top, top, "top", problems);
                (PartKind::Top, vocabulary::top_label(top))
            }
            Meaning::Use(used_for) => {
                keep(&mut said.used_for, used_for, "use", problems);
                (PartKind::Use, vocabulary::use_label(used_for))
            }
            Meaning::Colour(colour) => {
                let (name, hex) = COLOURS[colour];
                keep(&mut said.colour, hex, "colour", problems);
                (PartKind::Colour, name)
            }
        };
        self.take(n, kind, reads.to_owned());
        if let (Meaning::Colour(colour), Some(part)) = (meaning, self.parts.last_mut()) {
            part.colour = Some(COLOURS[colour].1.to_owned());
        }
    }
}
