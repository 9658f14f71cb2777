//! Writes a waiver into a text, in the language's own comment, joining one that is there.

use std::fmt;

use jiff::civil::Date;
use sieve_rules::Edit;
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, TokenId, TokenKind, Tree};

use super::directive::{self, Directive, Verb};
use super::region;
use crate::fix::{apply_edits, code_stays};

/// What a new waiver is to say.
#[derive(Debug)]
pub struct NewWaiver<'w> {
    /// Names of rules and concerns.
    pub names: &'w [String],
    /// Why.
    pub because: &'w str,
    /// The last day on which it holds.
    pub until: Option<Date>,
}

/// Why a waiver cannot be written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CannotWaive {
    /// The text has fewer lines.
    NoSuchLine(u32),
    /// There is nothing on the line that a waiver could hold for.
    NoCode,
    /// No comment can stand where the waiver would have to.
    NoPlace,
}

impl fmt::Display for CannotWaive {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            CannotWaive::NoSuchLine(lines) => write!(out, "there is no such line; the file has {lines}"),
            CannotWaive::NoCode => write!(out, "there is no code on this line that a waiver could hold for"),
            CannotWaive::NoPlace => {
                write!(out, "no comment can stand here; waive the whole file in its first lines instead")
            }
        }
    }
}

/// The text with the waiver in it, and the line on which the waiver stands.
///
/// # Errors
/// When the line is not there or holds no code, or when no comment can be put where it would hold for the line.
pub fn waive(language: Language, text: &Text, line: u32, new: &NewWaiver<'_>) -> Result<(String, u32), CannotWaive> {
    let tree = language.parse(text);
    if line == 0 || line > text.lines().count() {
        return Err(CannotWaive::NoSuchLine(text.lines().count()));
    }
    let span = text.lines().line(text.source(), line);
    let solid = |token: &TokenId| !tree.token_kind(*token).is_trivia() && !tree.token_kind(*token).is_layout();
    if !tree.tokens_in(span).any(|token| solid(&token)) {
        return Err(CannotWaive::NoCode);
    }
    let mut places = Vec::new();
    if let Some(there) = waiver_for(text, &tree, line) {
        places.push((joined(&there, new), text.lines().line_of(there.comment.start)));
    } else {
        let mark = language.facts().line_comment;
        places.extend(behind(text, &tree, line, mark, new).map(|edit| (edit, line)));
        places.push(above(text, &tree, line, mark, new));
    }
    let right = places.into_iter().map(|(edit, at)| (apply_edits(text.source(), &[&edit]), at)).find(|(source, at)| {
        let after = Text::new(source.clone());
        let after_tree = language.parse(&after);
        let moved = line + after.lines().count() - text.lines().count();
        code_stays(language, (text, &tree), (&after, &after_tree)) && holds_for(&after, &after_tree, *at, moved)
    });
    right.ok_or(CannotWaive::NoPlace)
}

/// The directives in comments on a line.
fn directives_on(text: &Text, tree: &Tree, line: u32) -> Vec<Directive> {
    let tokens =
        tree.tokens_in(text.lines().full_line(line)).filter(|token| tree.token_kind(*token) == TokenKind::Comment);
    tokens.map(|token| tree.token_span(token)).filter_map(|span| directive::read(span, text.slice(span))).collect()
}

/// A waiver behind the line, or alone on the line above, that holds for the line already.
fn waiver_for(text: &Text, tree: &Tree, line: u32) -> Option<Directive> {
    let alone = |directive: &Directive| region::stands_alone(text, directive.comment);
    let above = directives_on(text, tree, line.saturating_sub(1).max(1)).into_iter().filter(alone);
    directives_on(text, tree, line).into_iter().chain(above).find(|directive| {
        directive.verb == Some(Verb::Waive) && region::of_comment(text, tree, directive.comment).contains(&line)
    })
}

fn holds_for(text: &Text, tree: &Tree, at: u32, line: u32) -> bool {
    directives_on(text, tree, at)
        .iter()
        .any(|directive| region::of_comment(text, tree, directive.comment).contains(&line))
}

/// The names and reasons of two waivers in one; the later of their last days.
fn joined(there: &Directive, new: &NewWaiver<'_>) -> Edit {
    let mut names: Vec<String> = there.names.iter().map(|name| name.text.clone()).collect();
    names.extend(new.names.iter().filter(|name| !there.names.iter().any(|other| other.text == **name)).cloned());
    let because = match &there.reason {
        Some(reason) if reason != new.because => format!("{reason}; {}", new.because),
        _ => new.because.to_string(),
    };
    let until = there.until.zip(new.until).map(|(one, other)| one.max(other));
    Edit::replace(there.span, words(&NewWaiver { names: &names, because: &because, until }))
}

fn words(new: &NewWaiver<'_>) -> String {
    let until = new.until.map_or(String::new(), |day| format!(" until {day}"));
    format!("sieve: waive {} because {}{until}", new.names.join(", "), new.because)
}

/// Behind the code of the line, where no other comment stands and no text goes on to the next line.
fn behind(text: &Text, tree: &Tree, line: u32, mark: &str, new: &NewWaiver<'_>) -> Option<Edit> {
    let span = text.lines().line(text.source(), line);
    let end = span.start + text.slice(span).trim_end().len() as u32;
    let last = tree.token_kind(tree.token_at(end.saturating_sub(1).max(span.start)));
    let free = !matches!(last, TokenKind::Comment | TokenKind::LineJoin);
    free.then(|| Edit::replace(Span::new(end, span.end), format!("  {mark} {}", words(new))))
}

/// On a line of its own above the statement that holds the line, indented as the statement is.
fn above(text: &Text, tree: &Tree, line: u32, mark: &str, new: &NewWaiver<'_>) -> (Edit, u32) {
    let span = text.lines().line(text.source(), line);
    let code = span.start + (text.slice(span).len() - text.slice(span).trim_start().len()) as u32;
    let innermost = tree.covering(Span::at(code));
    let statement = std::iter::once(innermost).chain(innermost.ancestors()).find(|node| node.kind().is_statement());
    let start = statement.filter(|node| node.kind() != Kind::File).map_or(code, |node| node.span().start);
    let first = text.lines().line_of(start);
    let whole = text.lines().line(text.source(), first);
    let head = text.slice(whole);
    let indent = &head[..head.len() - head.trim_start().len()];
    let line_end = text.lines().ending(text.source()).as_str();
    (Edit::insert(whole.start, format!("{indent}{mark} {}{line_end}", words(new))), first)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[track_caller]
    fn assert_waived(source: &str, line: u32, expected: &str) {
        let names = ["magic-number".to_string()];
        let new = NewWaiver { names: &names, because: "measured", until: None };
        let written = waive(Language::Python, &Text::new(source.to_string()), line, &new);
        assert_eq!(written.map(|(source, _)| source), Ok(expected.to_string()));
    }

    #[test]
    fn the_end_of_the_line_is_the_first_choice() {
        assert_waived("x = 3\ny = 4  \n", 2, "x = 3\ny = 4  # sieve: waive magic-number because measured\n");
    }

    #[test]
    fn where_a_comment_or_a_text_is_in_the_way_it_stands_above() {
        assert_waived(
            "def f():\n    x = 3  # deep\n",
            2,
            "def f():\n    # sieve: waive magic-number because measured\n    x = 3  # deep\n",
        );
        assert_waived("x = '''a\nb''' * 3\n", 1, "# sieve: waive magic-number because measured\nx = '''a\nb''' * 3\n");
        assert_waived("x = 1 + \\\n  3\n", 1, "# sieve: waive magic-number because measured\nx = 1 + \\\n  3\n");
        assert_waived(
            "x = 1\r\ny = '''\r\n'''\r\n",
            2,
            "x = 1\r\n# sieve: waive magic-number because measured\r\ny = '''\r\n'''\r\n",
        );
    }

    #[test]
    fn a_waiver_that_is_there_is_joined() {
        assert_waived(
            "x = 3  # sieve: waive long-line because a table\n",
            1,
            "x = 3  # sieve: waive long-line, magic-number because a table; measured\n",
        );
        assert_waived(
            "# sieve: waive long-line because measured\nx = 3\n",
            2,
            "# sieve: waive long-line, magic-number because measured\nx = 3\n",
        );
    }

    #[test]
    fn lines_without_code_are_refused() {
        let names = ["layout".to_string()];
        let new = NewWaiver { names: &names, because: "x", until: None };
        let text = Text::new("x = 1\n\n".to_string());
        assert_eq!(waive(Language::Python, &text, 2, &new), Err(CannotWaive::NoCode));
        assert_eq!(waive(Language::Python, &text, 9, &new), Err(CannotWaive::NoSuchLine(2)));
    }
}
