//! What a code base does already: its languages, line lengths, indentation, quotes, line ends and styles of names. From this
//! settings are proposed that agree with it.

use std::collections::BTreeMap;

use rayon::prelude::*;
use sieve_rules::catalogue;
use sieve_syntax::language::Language;
use sieve_syntax::text::{LineEnding, Text};
use sieve_syntax::tree::{Kind, Role, TokenKind, Tree};

use crate::check::load;
use crate::project::Project;
use crate::run::{Request, in_pool};
use crate::settings::SettingsError;
use crate::style_counts::StyleCounts;
pub use crate::style_counts::{MOST, NameHabit};
use crate::workspace::discover::{self, Candidate};
use crate::workspace::shares::in_shares;

/// What was seen.
#[derive(Debug, Default)]
pub struct Habits {
    /// Files and lines of each language.
    pub languages: BTreeMap<Language, (usize, usize)>,
    /// How many lines have so many characters, up to [`LONGEST`].
    lengths: BTreeMap<usize, usize>,
    /// How many files of each language indent so: by this many spaces, or by tabs (0).
    indents: BTreeMap<(Language, usize), usize>,
    /// How many strings are in double quotes, and how many in single ones.
    pub quotes: (usize, usize),
    /// How many files end their lines so.
    pub line_ends: BTreeMap<&'static str, usize>,
    names: StyleCounts,
    /// How many statements end with a semicolon where they need none, and how many do not.
    pub semicolons: (usize, usize),
}

/// Longer lines count as this long.
const LONGEST: usize = 1000;

/// Looks at every file below a request's paths that would be sifted.
///
/// # Errors
/// When a settings file is wrong.
pub fn look(request: &Request<'_>) -> Result<Habits, SettingsError> {
    let discovery = discover::discover(&request.search())?;
    let seen: Vec<Habits> = in_pool(request.threads, || {
        in_shares(&discovery.files).filter_map(|file| of_file(file, request.project)).collect()
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
    habits.see_lines(candidate.language, &text);
    if holds_for("quote-style", candidate.language) {
        habits.see_quotes(&text, &tree);
    }
    habits.names.see(candidate.language, &candidate.shown, &text, &tree);
    if holds_for("semicolons", candidate.language) {
        habits.see_ends(&tree);
    }
    Some(habits)
}

/// Whether a rule, of which a habit would be an option, holds for a language.
fn holds_for(rule: &str, language: Language) -> bool {
    catalogue::named(rule).is_some_and(|rule| catalogue::rule(rule).languages.contains(&language))
}

impl Habits {
    /// The shortest of these lengths that all but a hundredth of the lines keep to.
    pub fn usual_length(&self, choices: &[usize]) -> Option<usize> {
        let all: usize = self.lengths.values().sum();
        let within = |longest: &usize| self.lengths.range(..=longest).map(|(_, count)| count).sum::<usize>();
        choices.iter().copied().find(|longest| all > 0 && within(longest) * 100 >= all * 99)
    }

    /// How most files of a language indent, by so many spaces or by tabs (0), and how many do; nothing where none of them tells.
    pub fn indent_of(&self, language: Language) -> Option<(usize, usize)> {
        let own = self.indents.iter().filter(|((other, _), _)| *other == language);
        own.map(|((_, width), files)| (*width, *files)).rev().max_by_key(|(_, files)| *files)
    }

    /// How many files indent by so many spaces, or by tabs (0), in whatever language.
    pub fn indents(&self) -> BTreeMap<usize, usize> {
        let mut sums = BTreeMap::new();
        for ((_, width), files) in &self.indents {
            *sums.entry(*width).or_insert(0) += files;
        }
        sums
    }

    /// How many lines are longer.
    pub fn longer_than(&self, length: usize) -> usize {
        self.lengths.range(length + 1..).map(|(_, count)| count).sum()
    }

    /// The style that most names of each sort have in each language.
    pub fn name_styles(&self) -> Vec<NameHabit> {
        self.names.habits()
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
        self.names.join(&other.names);
    }

    fn see_lines(&mut self, language: Language, text: &Text) {
        let mut least = usize::MAX;
        for line in text.source().lines() {
            *self.lengths.entry(line.chars().count().min(LONGEST)).or_insert(0) += 1;
            let inner = line.trim_start_matches(' ');
            let spaces = line.len() - inner.len();
            if line.starts_with('\t') {
                least = 0;
            } else if (1..=8).contains(&spaces) && !inner.is_empty() && !inner.starts_with('*') {
                // What begins with a star goes on with a comment.
                least = least.min(spaces);
            }
        }
        if least < usize::MAX {
            self.indents.insert((language, least), 1);
        }
        let ending = if text.lines().ending(text.source()) == LineEnding::CrLf { "crlf" } else { "lf" };
        self.line_ends.insert(ending, 1);
    }

    fn see_quotes(&mut self, text: &Text, tree: &Tree) {
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

    fn see_ends(&mut self, tree: &Tree) {
        let ended = tree.nodes_of_any(&[Kind::ExpressionStatement, Kind::Return, Kind::Import, Kind::Throw]);
        for statement in ended.into_iter().filter(|node| node.role() == Role::Statement) {
            let last = statement.token_range().end.checked_sub(1).map(|last| tree.token_kind(last));
            match last {
                Some(TokenKind::Semicolon) => self.semicolons.0 += 1,
                _ => self.semicolons.1 += 1,
            }
        }
    }
}

fn add<K: Ord>(sums: &mut BTreeMap<K, usize>, others: BTreeMap<K, usize>) {
    for (key, count) in others {
        *sums.entry(key).or_insert(0) += count;
    }
}

#[cfg(test)]
mod tests {
    use sieve_rules::NameStyle;

    use super::*;

    fn habits(source: &str) -> Habits {
        let text = Text::new(source.to_string());
        let tree = Language::Python.parse(&text);
        let mut habits = Habits::default();
        habits.see_lines(Language::Python, &text);
        habits.see_quotes(&text, &tree);
        habits.names.see(Language::Python, "board.py", &text, &tree);
        habits
    }

    #[test]
    fn only_names_that_tell_count() {
        let many: String = (0..12).map(|index| format!("def sail_{index}(north_quay, tide):\n    pass\n")).collect();
        let seen = habits(&many);
        let styles: Vec<_> = seen.name_styles().iter().map(|habit| (habit.kind, habit.style, habit.with)).collect();
        assert_eq!(styles, [("function", NameStyle::LowerSnake, 12), ("parameter", NameStyle::LowerSnake, 12)]);
        assert_eq!(seen.indent_of(Language::Python), Some((4, 1)));
    }

    #[test]
    fn a_comment_over_several_lines_does_not_tell_how_a_file_indents() {
        let mut habits = Habits::default();
        let java = |code: &str| Text::new(code.to_string());
        habits.see_lines(Language::Java, &java("/**\n * Sails.\n */\nclass Quay {\n    int depth;\n}\n"));
        assert_eq!(habits.indent_of(Language::Java), Some((4, 1)));
        habits.see_lines(Language::Go, &java("func sail() {\n\treturn\n}\n"));
        assert_eq!((habits.indent_of(Language::Go), habits.indent_of(Language::Rust)), (Some((0, 1)), None));
        assert_eq!(habits.indents().into_iter().collect::<Vec<_>>(), [(0, 1), (4, 1)]);
    }

    #[test]
    fn lengths_and_quotes_are_counted() {
        let seen = habits(&format!("a = 'x'\nb = \"y\"\nc = '''z'''\n# {}\n", "long ".repeat(30)));
        assert_eq!(seen.quotes, (1, 1));
        assert_eq!((seen.usual_length(&[80, 160]), seen.longer_than(80)), (Some(160), 1));
    }
}
