//! Writes a waiver into a text, in the language's own comment. One that is there is joined if it gives the same reason and the
//! same last day.

use std::fmt;

use jiff::civil::Date;
use sieve_meaning::data::Data;
use sieve_rules::Edit;
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, TokenId, TokenKind, Tree};

use super::directive::{self, Directive, Verb};
use super::region;
use crate::edits::{Whole, apply_edits, code_stays};

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
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum CannotWaive {
    /// The text has fewer lines.
    NoSuchLine(u32),
    /// There is nothing on the line that a waiver could hold for.
    NoCode,
    /// No comment can be where the waiver would have to.
    NoPlace,
    /// The language has no comments.
    NoComments {
        /// The language.
        language: Language,
        /// The JSON Pointer to what is on the line, if it is data.
        pointer: Option<String>,
    },
}

impl fmt::Display for CannotWaive {
    fn fmt(&self, out: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            CannotWaive::NoSuchLine(lines) => write!(out, "there is no such line; the file has {lines}"),
            CannotWaive::NoCode => write!(out, "there is no code on this line that a waiver could hold for"),
            CannotWaive::NoComments { language, pointer } => {
                let title = language.spec().title;
                write!(out, "{title} has no comments; put a [[waive]] with this path")?;
                if let Some(pointer) = pointer {
                    write!(out, " and `at = '{pointer}'`")?;
                }
                write!(out, " into sieve.toml instead")
            }
            CannotWaive::NoPlace => {
                write!(out, "no comment is possible here; waive the whole file in its first lines instead")
            }
        }
    }
}

/// The text with the waiver in it, and the line on which the waiver is.
///
/// # Errors
/// When the line is not there or holds no code, or when no comment can be put where it would hold for the line.
pub fn waive(language: Language, text: &Text, line: u32, new: &NewWaiver<'_>) -> Result<(String, u32), CannotWaive> {
    if forms(language).is_empty() {
        return Err(CannotWaive::NoComments { language, pointer: pointer_at(language, text, line) });
    }
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
    if let Some(there) = waiver_for(text, &tree, line, new) {
        places.push((joined(&there, new), text.lines().line_of(there.comment.start)));
    } else {
        for form in forms(language) {
            places.extend(behind(text, &tree, line, form, new).map(|edit| (edit, line)));
        }
        for form in forms(language) {
            places.push(above(text, &tree, line, form, new));
        }
    }
    let before = Whole::of(language, text, &tree);
    let right = places.into_iter().map(|(edit, at)| (apply_edits(text.source(), &[&edit]), at)).find(|(source, at)| {
        let after = Text::new(source.clone());
        let after_tree = language.parse(&after);
        let moved = line + after.lines().count() - text.lines().count();
        let stays = code_stays(&before, &Whole::of(language, &after, &after_tree))
            || same_but_braces(text, &tree, &after, &after_tree);
        stays && holds_for(&after, &after_tree, *at, moved)
    });
    right.ok_or(CannotWaive::NoPlace)
}

/// The pointer to what begins on a line of data.
fn pointer_at(language: Language, text: &Text, line: u32) -> Option<String> {
    if !language.is_data() || line == 0 || line > text.lines().count() {
        return None;
    }
    let span = text.lines().line(text.source(), line);
    let code = text.slice(span);
    let first = span.start + (code.len() - code.trim_start().len()) as u32;
    let tree = language.parse(text);
    let pointer = Data::of(language, text, &tree).around(first)?.pointer();
    Some(pointer).filter(|pointer| !pointer.is_empty() && !pointer.contains('\''))
}

/// A form of a comment: what is before and after its words.
type Form = (&'static str, &'static str);

/// The forms that a comment can have in a language, the usual one first. Between tags a comment is in braces.
fn forms(language: Language) -> Vec<Form> {
    language.spec().comment_forms().collect()
}

/// Whether two strings differ only in braces between tags that hold a comment, and in whitespace that means nothing there.
fn same_but_braces(text: &Text, tree: &Tree, after: &Text, after_tree: &Tree) -> bool {
    let braces = |tree: &Tree| tree.nodes().filter(|node| is_empty_interpolation(*node)).count();
    after_tree.faults().len() <= tree.faults().len()
        && braces(after_tree) == braces(tree) + 1
        && code(text, tree).eq(code(after, after_tree))
}

fn is_empty_interpolation(node: NodeRef<'_>) -> bool {
    node.kind() == Kind::Interpolation && node.children().next().is_none()
}

/// The nodes with their tokens' strings, apart from braces that hold nothing and text between tags that is only whitespace.
fn code<'t>(text: &'t Text, tree: &'t Tree) -> impl Iterator<Item = (Kind, Option<String>)> + 't {
    let counts = |node: &NodeRef<'_>| {
        let is_space = node.kind() == Kind::MarkupText && text.slice(node.span()).trim().is_empty();
        !is_space && !is_empty_interpolation(*node)
    };
    tree.nodes().filter(counts).map(|node| {
        let is_leaf = node.children().next().is_none();
        // What is on either side of a line end between tags is distinguished from what shares a line.
        let leaf = || {
            let words = text.slice(node.span());
            if node.kind() == Kind::MarkupText { between_tags(words) } else { words.to_string() }
        };
        (node.kind(), is_leaf.then(leaf))
    })
}

/// Text between tags as it is meant: lines without the whitespace around them, joined by spaces ("JSX", whitespace at line ends).
fn between_tags(words: &str) -> String {
    let mut lines: Vec<&str> = words.split('\n').collect();
    let last = lines.len() - 1;
    for (index, line) in lines.iter_mut().enumerate() {
        *line = if index > 0 { line.trim_start() } else { line };
        *line = if index < last { line.trim_end() } else { line };
    }
    lines.retain(|line| !line.is_empty());
    lines.join(" ")
}

/// The directives in comments on a line.
fn directives_on(text: &Text, tree: &Tree, line: u32) -> Vec<Directive> {
    let tokens =
        tree.tokens_in(text.lines().full_line(line)).filter(|token| tree.token_kind(*token) == TokenKind::Comment);
    tokens.map(|token| tree.token_span(token)).filter_map(|span| directive::read(span, text.slice(span))).collect()
}

/// A waiver after the line, or alone on a line above, that holds for the line already and says the same but for the rules.
fn waiver_for(text: &Text, tree: &Tree, line: u32, new: &NewWaiver<'_>) -> Option<Directive> {
    let alone = |directive: &Directive| region::stands_alone(text, directive.comment);
    let above = directives_on(text, tree, line.saturating_sub(1).max(1)).into_iter().filter(alone);
    directives_on(text, tree, line).into_iter().chain(above).find(|directive| {
        let same = directive.reason.as_deref() == Some(new.because) && directive.until == new.until;
        same && directive.verb == Some(Verb::Waive)
            && directive.wrong_day.is_none()
            && region::of_comment(text, tree, directive.comment).contains(&line)
    })
}

fn holds_for(text: &Text, tree: &Tree, at: u32, line: u32) -> bool {
    directives_on(text, tree, at)
        .iter()
        .any(|directive| region::of_comment(text, tree, directive.comment).contains(&line))
}

/// The names of two waivers in one.
fn joined(there: &Directive, new: &NewWaiver<'_>) -> Edit {
    let mut names: Vec<String> = there.names.iter().map(|name| name.text.clone()).collect();
    names.extend(new.names.iter().filter(|name| !there.names.iter().any(|other| other.text == **name)).cloned());
    Edit::replace(there.span, words(&NewWaiver { names: &names, because: new.because, until: new.until }))
}

fn words(new: &NewWaiver<'_>) -> String {
    let until = new.until.map_or(String::new(), |day| format!(" until {day}"));
    format!("sieve: waive {} because {}{until}", new.names.join(", "), new.because)
}

/// After the code of the line, where no other comment is and no string goes on to the next line.
fn behind(text: &Text, tree: &Tree, line: u32, form: Form, new: &NewWaiver<'_>) -> Option<Edit> {
    let span = text.lines().line(text.source(), line);
    let end = span.start + text.slice(span).trim_end().len() as u32;
    let last = tree.token_kind(tree.token_at(end.saturating_sub(1).max(span.start)));
    let free = !matches!(last, TokenKind::Comment | TokenKind::LineJoin);
    // Between tags a space before braces on the same line would be part of the page.
    let gap = if form.1.is_empty() { "  " } else { "" };
    free.then(|| Edit::replace(Span::new(end, span.end), format!("{gap}{} {}{}", form.0, words(new), form.1)))
}

/// On a line of its own above the statement that holds the line, indented as the statement is.
fn above(text: &Text, tree: &Tree, line: u32, form: Form, new: &NewWaiver<'_>) -> (Edit, u32) {
    let span = text.lines().line(text.source(), line);
    let code = span.start + (text.slice(span).len() - text.slice(span).trim_start().len()) as u32;
    let innermost = tree.covering(Span::at(code));
    let statement = std::iter::once(innermost).chain(innermost.ancestors()).find(|node| node.kind().is_statement());
    let statement = statement.filter(|node| node.kind() != Kind::File && form.1.is_empty());
    let start = statement.map_or(code, |node| node.span().start);
    let first = text.lines().line_of(start);
    let whole = text.lines().line(text.source(), first);
    let head = text.slice(whole);
    let indent = &head[..head.len() - head.trim_start().len()];
    let line_end = text.lines().ending(text.source()).as_str();
    (Edit::insert(whole.start, format!("{indent}{} {}{}{line_end}", form.0, words(new), form.1)), first)
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
    fn a_waiver_that_says_the_same_is_joined_and_any_other_stays_as_it_is() {
        assert_waived(
            "x = 3  # sieve: waive long-line because measured\n",
            1,
            "x = 3  # sieve: waive long-line, magic-number because measured\n",
        );
        for other in
            ["# sieve: waive long-line because a table", "# sieve: waive long-line because measured until 2027-03-01"]
        {
            assert_waived(
                &format!("x = 3  {other}\n"),
                1,
                &format!("# sieve: waive magic-number because measured\nx = 3  {other}\n"),
            );
            assert_waived(
                &format!("{other}\nx = 3\n"),
                2,
                &format!("{other}\nx = 3  # sieve: waive magic-number because measured\n"),
            );
        }
    }

    #[test]
    fn between_tags_the_comment_stands_in_braces() {
        let names = ["magic-number".to_string()];
        let new = NewWaiver { names: &names, because: "measured", until: None };
        let waived = |source: &str, line| {
            let written = waive(Language::Tsx, &Text::new(source.to_string()), line, &new);
            written.map(|(source, _)| source)
        };
        let comment = "{/* sieve: waive magic-number because measured */}";
        let page = "const a = (\n  <b>\n    <i>{30}</i>\n    <u>{40}</u>\n  </b>\n);\n";
        assert_eq!(waived(page, 3), Ok(page.replace("<i>{30}</i>", &format!("<i>{{30}}</i>{comment}"))));
        let words = "const a = (\n  <b>\n    ebb {30}\n    flow\n  </b>\n);\n";
        assert_eq!(waived(words, 3), Ok(words.replace("ebb {30}", &format!("ebb {{30}}{comment}"))));
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
