//! What a code base does already: its languages, line lengths, indentation, quotes, line ends and styles of names. From this
//! settings are proposed that agree with it.

use std::collections::BTreeMap;

use rayon::prelude::*;
use sieve_rules::NameStyle;
use sieve_syntax::language::Language;
use sieve_syntax::text::{LineEnding, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind, Tree};

use crate::check::load;
use crate::project::Project;
use crate::run::{Request, in_pool};
use crate::settings::SettingsError;
use crate::workspace::discover::{self, Candidate};

/// What was seen.
#[derive(Debug, Default)]
pub struct Habits {
    /// Files and lines of each language.
    pub languages: BTreeMap<Language, (usize, usize)>,
    /// How many lines have so many characters, up to [`LONGEST`].
    lengths: BTreeMap<usize, usize>,
    /// How many files indent so: by this many whitespace, or by tabs (0).
    pub indents: BTreeMap<usize, usize>,
    /// How many strings are in double quotes, and how many in single ones.
    pub quotes: (usize, usize),
    /// How many files end their lines so.
    pub line_ends: BTreeMap<&'static str, usize>,
    /// For each kind of names in a language, how many there are, and how many of them have each style.
    names: BTreeMap<(Language, &'static str), (usize, BTreeMap<NameStyle, usize>)>,
    /// How many statements end with a semicolon where they need none, and how many do not.
    pub semicolons: (usize, usize),
}

/// Longer lines count as this long.
const LONGEST: usize = 1000;

/// What fewer than this share of a hundred places do is no habit of the whole code base.
pub const MOST: usize = 80;

/// Fewer names than this are no habit.
const FEWEST_NAMES: usize = 10;

/// What most names of a sort look like.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NameHabit {
    /// The language.
    pub language: Language,
    /// The kind of names.
    pub kind: &'static str,
    /// The style that most of them have.
    pub style: NameStyle,
    /// How many have it.
    pub with: usize,
    /// How many there are whose style can be known.
    pub all: usize,
}

/// Looks at every file below a request's paths that would be sifted.
///
/// # Errors
/// When a settings file is wrong.
pub fn look(request: &Request<'_>) -> Result<Habits, SettingsError> {
    let discovery = discover::discover(&request.search())?;
    let seen: Vec<Habits> = in_pool(request.threads, || {
        discovery.files.par_iter().filter_map(|file| of_file(file, request.project)).collect()
    });
    let mut all = Habits::default();
    seen.into_iter().for_each(|one| all.join(one));
    Ok(all)
}

fn of_file(candidate: &Candidate, project: &Project) -> Option<Habits> {
    let text = load::text(candidate, project).ok()?.ok()?;
    let tree = candidate.language.parse(&text);
    let mut habits = Habits::default();
    habits.languages.insert(candidate.language, (1, text.lines().count() as usize));
    habits.see_lines(&text);
    habits.see_tokens(&text, &tree);
    for node in tree.nodes() {
        habits.see_name(candidate.language, &text, node);
        habits.see_end(candidate.language, node);
    }
    Some(habits)
}

impl Habits {
    /// The shortest of these lengths that all but a hundredth of the lines keep to.
    pub fn usual_length(&self, choices: &[usize]) -> Option<usize> {
        let all: usize = self.lengths.values().sum();
        let within = |longest: &usize| self.lengths.range(..=longest).map(|(_, count)| count).sum::<usize>();
        choices.iter().copied().find(|longest| all > 0 && within(longest) * 100 >= all * 99)
    }

    /// How many lines are longer.
    pub fn longer_than(&self, length: usize) -> usize {
        self.lengths.range(length + 1..).map(|(_, count)| count).sum()
    }

    /// The style that most names of each sort have in each language.
    pub fn name_styles(&self) -> Vec<NameHabit> {
        let mut found = Vec::new();
        for ((language, kind), (all, styles)) in &self.names {
            let most = styles.iter().max_by_key(|(_, count)| **count);
            let Some((style, with)) = most.filter(|_| *all >= FEWEST_NAMES) else { continue };
            if with * 100 >= *all * MOST {
                found.push(NameHabit { language: *language, kind, style: *style, with: *with, all: *all });
            }
        }
        found
    }

    fn join(&mut self, other: Habits) {
        for (language, (files, lines)) in other.languages {
            let sum = self.languages.entry(language).or_default();
            *sum = (sum.0 + files, sum.1 + lines);
        }
        add(&mut self.lengths, other.lengths);
        add(&mut self.indents, other.indents);
        add(&mut self.line_ends, other.line_ends);
        self.quotes = (self.quotes.0 + other.quotes.0, self.quotes.1 + other.quotes.1);
        self.semicolons = (self.semicolons.0 + other.semicolons.0, self.semicolons.1 + other.semicolons.1);
        for (kind, (all, styles)) in other.names {
            let sum = self.names.entry(kind).or_default();
            sum.0 += all;
            add(&mut sum.1, styles);
        }
    }

    fn see_lines(&mut self, text: &Text) {
        let mut least = usize::MAX;
        for line in text.source().lines() {
            *self.lengths.entry(line.chars().count().min(LONGEST)).or_insert(0) += 1;
            let blanks = line.len() - line.trim_start_matches(' ').len();
            if line.starts_with('\t') {
                least = 0;
            } else if (1..=8).contains(&blanks) && blanks < line.len() {
                least = least.min(blanks);
            }
        }
        if least < usize::MAX {
            self.indents.insert(least, 1);
        }
        let ending = if text.lines().ending(text.source()) == LineEnding::CrLf { "crlf" } else { "lf" };
        self.line_ends.insert(ending, 1);
    }

    fn see_tokens(&mut self, text: &Text, tree: &Tree) {
        for (index, token) in tree.tokens().iter().enumerate() {
            if !matches!(token.kind, TokenKind::String | TokenKind::FormatStart) {
                continue;
            }
            let string = text.slice(tree.token_span(index as u32)).trim_start_matches(char::is_alphabetic);
            match string.as_bytes() {
                [b'"', b'"', b'"', ..] | [b'\'', b'\'', b'\'', ..] => {}
                [b'"', ..] => self.quotes.0 += 1,
                [b'\'', ..] => self.quotes.1 += 1,
                _ => {}
            }
        }
    }

    fn see_name(&mut self, language: Language, text: &Text, node: NodeRef<'_>) {
        let Some((kind, role)) = kind_of(node) else { return };
        let Some(name) = node.child(role).map(|name| text.slice(name.span())) else { return };
        let fitting: Vec<NameStyle> = NameStyle::ALL.iter().copied().filter(|style| style.fits(name)).collect();
        // A name that several styles would allow tells nothing.
        if let [style] = fitting[..] {
            let (all, styles) = self.names.entry((language, kind)).or_default();
            *all += 1;
            *styles.entry(style).or_insert(0) += 1;
        }
    }
}

impl Habits {
    fn see_end(&mut self, language: Language, node: NodeRef<'_>) {
        let ends = matches!(node.kind(), Kind::ExpressionStatement | Kind::Return | Kind::Import | Kind::Throw);
        if !ends || language.spec().lines_matter || node.role() != Role::Statement {
            return;
        }
        let last = node.token_range().end.checked_sub(1).map(|last| node.tree().token_kind(last));
        match last {
            Some(TokenKind::Semicolon) => self.semicolons.0 += 1,
            _ => self.semicolons.1 += 1,
        }
    }
}

/// The kind of a name that a node gives, and the part of it that is the name.
fn kind_of(node: NodeRef<'_>) -> Option<(&'static str, Role)> {
    let in_class = node.class_around().is_some();
    Some(match node.kind() {
        Kind::Function if in_class => ("method", Role::Name),
        Kind::Function => ("function", Role::Name),
        Kind::Class | Kind::Interface | Kind::Enum => ("type", Role::Name),
        Kind::Parameter => ("parameter", Role::Name),
        Kind::Field if in_class => ("member", Role::Name),
        Kind::Assignment if is_constant(node) => ("constant", Role::Target),
        Kind::Assignment if in_class => ("member", Role::Target),
        Kind::Assignment if node.child(Role::Target).is_some_and(|target| target.kind() == Kind::Name) => {
            ("variable", Role::Target)
        }
        _ => return None,
    })
}

fn add<K: Ord>(sums: &mut BTreeMap<K, usize>, others: BTreeMap<K, usize>) {
    for (key, count) in others {
        *sums.entry(key).or_insert(0) += count;
    }
}

/// A name of a file that is bound to a number or a text.
fn is_constant(node: NodeRef<'_>) -> bool {
    let at_top = node.parent().is_some_and(|parent| parent.kind() == Kind::File);
    let is_literal = |value: NodeRef<'_>| matches!(value.kind(), Kind::Number | Kind::String);
    let is_name = |target: NodeRef<'_>| target.kind() == Kind::Name;
    at_top && node.child(Role::Target).is_some_and(is_name) && node.child(Role::Value).is_some_and(is_literal)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn habits(source: &str) -> Habits {
        let text = Text::new(source.to_string());
        let tree = Language::Python.parse(&text);
        let mut habits = Habits::default();
        habits.see_lines(&text);
        habits.see_tokens(&text, &tree);
        tree.nodes().for_each(|node| habits.see_name(Language::Python, &text, node));
        habits
    }

    #[test]
    fn only_names_that_tell_count() {
        let many: String = (0..12).map(|index| format!("def sail_{index}(north_quay, tide):\n    pass\n")).collect();
        let seen = habits(&many);
        let styles: Vec<_> = seen.name_styles().iter().map(|habit| (habit.kind, habit.style, habit.with)).collect();
        assert_eq!(styles, [("function", NameStyle::LowerSnake, 12), ("parameter", NameStyle::LowerSnake, 12)]);
        assert_eq!(seen.indents.keys().collect::<Vec<_>>(), [&4]);
    }

    #[test]
    fn lengths_and_quotes_are_counted() {
        let seen = habits(&format!("a = 'x'\nb = \"y\"\nc = '''z'''\n# {}\n", "long ".repeat(30)));
        assert_eq!(seen.quotes, (1, 1));
        assert_eq!((seen.usual_length(&[80, 160]), seen.longer_than(80)), (Some(160), 1));
    }
}
