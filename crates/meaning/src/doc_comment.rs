//! Docstrings and doc comments, and the parameters that they document.
//!
//! Forms: docstrings (PEP 257) with field lists (`:param name:`), with an indented section "Args" or "Parameters", or with an
//! underlined section; comments between `/**` and `*/` with `@param`.

use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::table::{DocForm, meaning_of};

/// A parameter that a doc comment documents.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Documented {
    /// Its name.
    pub name: Span,
    /// The entry up to the end of its first line.
    pub entry: Span,
}

/// The docstring of a declaration or a file, or the doc comment above a declaration. A function that is bound to a name is
/// documented above the statement that binds it.
pub fn doc_comment(language: Language, text: &Text, node: NodeRef<'_>) -> Option<Span> {
    if language == Language::Python {
        let body = if node.kind() == Kind::File { node } else { node.child(Role::Body)? };
        let first = body.children().next().filter(|first| first.kind() == Kind::ExpressionStatement)?;
        let value = first.child(Role::Value).filter(|value| value.kind() == Kind::String)?;
        return Some(value.span());
    }
    if node.kind() == Kind::File {
        return None;
    }
    let mut outer = node;
    while let Some(parent) = outer.parent() {
        let same = matches!(
            parent.kind(),
            Kind::Export | Kind::Declaration | Kind::Assignment | Kind::Pair | Kind::ExpressionStatement
        ) && parent.children_in(Role::Item).nth(1).is_none();
        if !same || outer.role() == Role::Target {
            break;
        }
        outer = parent;
    }
    let tree = node.tree();
    let mark = language.spec().doc_comment.filter(|mark| mark.starts_with("//"));
    // Lines with the mark, from the last one upwards.
    let mut lines: Option<Span> = None;
    let mut ends = 0;
    for token in (0..outer.token_range().start).rev() {
        match tree.token_kind(token) {
            TokenKind::LineEnd => ends += 1,
            TokenKind::Blank => {}
            TokenKind::Comment if ends < 2 => {
                let span = tree.token_span(token);
                let comment = text.slice(span);
                if mark.is_some_and(|mark| comment.starts_with(mark)) {
                    lines = Some(Span::new(span.start, lines.map_or(span.end, |below| below.end)));
                    ends = 0;
                    continue;
                }
                let is_whole = comment.starts_with("/**") && comment.len() > "/***/".len();
                return lines.or(is_whole.then_some(span));
            }
            _ => return lines,
        }
    }
    lines
}

/// The parameters that a doc comment documents: those of field lists first, each form in the order of the file.
pub fn documented_parameters(language: Language, text: &Text, doc_comment: Span) -> Vec<Documented> {
    let comment = text.slice(doc_comment);
    let holds = |word: &str| memchr::memmem::find(comment.as_bytes(), word.as_bytes()).is_some();
    let form = meaning_of(language).documented;
    let mut found = match form {
        DocForm::FieldsAndSections if holds(":param ") => fields(comment),
        DocForm::Elements => elements(comment),
        DocForm::Tags if holds("@param ") => tags(comment),
        DocForm::FieldsAndSections | DocForm::Tags => Vec::new(),
    };
    if form == DocForm::FieldsAndSections && ["Args:", "Arguments:", "Parameters"].into_iter().any(holds) {
        found.extend(sections(comment));
    }
    let placed = |span: Span| Span::new(doc_comment.start + span.start, doc_comment.start + span.end);
    found.iter().map(|one| Documented { name: placed(one.name), entry: placed(one.entry) }).collect()
}

/// The lines of a comment, without whitespace at their ends.
fn lines(comment: &str) -> impl Iterator<Item = &str> {
    comment.split_inclusive('\n').map(str::trim_end)
}

fn is_name(name: &str) -> bool {
    let mut characters = name.chars();
    characters.next().is_some_and(|first| first.is_alphabetic() || first == '_' || first == '$')
        && characters.all(|other| other.is_alphanumeric() || other == '_' || other == '$')
}

/// A parameter that a line documents. Spans count from the start of the comment.
fn documented(comment: &str, line: &str, name: &str) -> Option<Documented> {
    let span_of = |part: &str| {
        let start = part.as_ptr() as usize - comment.as_ptr() as usize;
        Span::new(start as u32, (start + part.len()) as u32)
    };
    is_name(name).then(|| Documented { name: span_of(name), entry: span_of(line.trim_start()) })
}

/// `:param name:` and `:param type name:`.
fn fields(comment: &str) -> Vec<Documented> {
    let field = |line: &str| {
        let head = line.trim_start().strip_prefix(":param ")?.split(':').next()?;
        let name = head.split_whitespace().next_back()?.trim_start_matches(['*', '\\']);
        documented(comment, line, name)
    };
    lines(comment).filter_map(field).collect()
}

/// Entries below the heads `Args:`, `Arguments:` and an underlined `Parameters`.
fn sections(comment: &str) -> Vec<Documented> {
    let all: Vec<&str> = lines(comment).collect();
    let indent = |line: &str| line.len() - line.trim_start().len();
    let mut found = Vec::new();
    for (index, head) in all.iter().enumerate() {
        let underlined = all.get(index + 1).is_some_and(|next| is_underline(next));
        let is_section = matches!(head.trim(), "Args:" | "Arguments:") && index > 0;
        let is_underlined = head.trim() == "Parameters" && underlined;
        if !is_section && !is_underlined {
            continue;
        }
        let entries = &all[index + if is_underlined { 2 } else { 1 }..];
        let depth = entries.iter().find(|line| !line.trim().is_empty()).map_or(0, |line| indent(line));
        if (is_section && depth <= indent(head)) || (is_underlined && depth != indent(head)) {
            continue;
        }
        for (position, line) in entries.iter().enumerate() {
            let ends_section = entries.get(position + 1).is_some_and(|next| is_underline(next));
            if line.trim().is_empty() {
                continue;
            }
            if indent(line) < depth || ends_section {
                break;
            }
            if indent(line) > depth {
                continue;
            }
            // A line without a colon documents nothing.
            let Some((head, _)) = line.split_once(':').filter(|(_, about)| !about.starts_with("//")) else {
                continue;
            };
            // `name (type)`, and several that share a type.
            let names = head.split('(').next().unwrap_or(head).split(',');
            let names: Vec<&str> = names.map(|name| name.trim().trim_start_matches(['*', '\\'])).collect();
            // With words that are no names the line is no entry.
            if names.iter().all(|name| is_name(name)) {
                found.extend(names.iter().filter_map(|name| documented(comment, line, name)));
            }
        }
    }
    found
}

/// The line below the head of a section.
fn is_underline(line: &str) -> bool {
    let line = line.trim();
    let mark = line.chars().next().filter(|mark| matches!(mark, '-' | '=' | '~'));
    line.len() > 2 && mark.is_some_and(|mark| line.chars().all(|other| other == mark))
}

/// `@param {type} name` and `@param name`.
fn tags(comment: &str) -> Vec<Documented> {
    let tag = |line: &str| {
        let at = line.find("@param ")?;
        let is_mark = |character: char| character.is_whitespace() || matches!(character, '*' | '/');
        if !line[..at].trim_matches(is_mark).is_empty() {
            return None;
        }
        let entry = line[at..].trim_end_matches("*/").trim_end();
        let mut rest = entry.get("@param ".len()..)?.trim_start();
        if rest.starts_with('{') {
            rest = after_type(rest)?.trim_start();
        }
        let word = rest.split_whitespace().next()?.trim_start_matches('[');
        let name = word.split(['=', ']', ',', ':']).next()?.trim_start_matches("...");
        // A part of a parameter is no parameter.
        documented(comment, entry, name).filter(|_| !word.contains('.'))
    };
    lines(comment).filter_map(tag).collect()
}

/// `<param name="name">` (ECMA-334, "Documentation comments").
fn elements(comment: &str) -> Vec<Documented> {
    let starts = memchr::memmem::find_iter(comment.as_bytes(), "<param ");
    let element = |at: usize| {
        // A tag that is not closed ends where another one begins, so that each is read once.
        let end = at + 1 + comment[at + 1..].find(['<', '>'])?;
        let tag = comment.get(at..=end).filter(|tag| tag.ends_with('>'))?;
        let (_, rest) = tag.split_once("name=")?;
        let quote = rest.chars().next().filter(|quote| matches!(quote, '"' | '\''))?;
        documented(comment, tag, rest[1..].split(quote).next()?.trim_start_matches('@'))
    };
    starts.filter_map(element).collect()
}

/// What follows a type in braces.
fn after_type(tag: &str) -> Option<&str> {
    let mut depth = 0;
    for (at, character) in tag.char_indices() {
        match character {
            '{' => depth += 1,
            '}' => depth -= 1,
            _ => {}
        }
        if depth == 0 {
            return Some(&tag[at + 1..]);
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The names and the entries that the doc comment of the first function documents.
    fn documented_in(language: Language, code: &str) -> Vec<(String, String)> {
        let text = Text::new(code.to_string());
        let tree = language.parse(&text);
        let function =
            tree.nodes().find(|node| matches!(node.kind(), Kind::Function | Kind::Lambda)).expect("a function");
        let comment = doc_comment(language, &text, function).expect("a doc comment");
        let all = documented_parameters(language, &text, comment);
        all.iter().map(|one| (text.slice(one.name).to_string(), text.slice(one.entry).to_string())).collect()
    }

    fn pairs(found: &[(String, String)]) -> Vec<(&str, &str)> {
        found.iter().map(|(name, entry)| (name.as_str(), entry.as_str())).collect()
    }

    #[test]
    fn field_lists_and_sections_of_docstrings() {
        let fields = "def f():\n    \"\"\"Sails.\n\n    :param str quay: where to\n    :param \\*\\*rest: more\n    :param: none\n    \"\"\"\n";
        let found = documented_in(Language::Python, fields);
        assert_eq!(pairs(&found), [("quay", ":param str quay: where to"), ("rest", ":param \\*\\*rest: more")]);
        let sections = "def f():\n    \"\"\"Sails.\n\n    Args:\n        quay (str): where to\n            Note: high\n        *tides, speed: knots\n\n    Returns:\n        none: at all\n    \"\"\"\n";
        let found = documented_in(Language::Python, sections);
        assert_eq!(
            pairs(&found),
            [("quay", "quay (str): where to"), ("tides", "*tides, speed: knots"), ("speed", "*tides, speed: knots")]
        );
        let underlined = "def f():\n    \"\"\"Sails.\n\n    Parameters\n    ----------\n    quay : str\n        To: here.\n\n    Returns\n    -------\n    tide : int\n    \"\"\"\n";
        assert_eq!(pairs(&documented_in(Language::Python, underlined)), [("quay", "quay : str")]);
    }

    #[test]
    fn tags_of_doc_comments() {
        let code = "/**\n * Sails.\n * @param {{ a: {b} }} quay where to\n * @param [tide=1]\n * @param how.fast never\n * see @param none\n * @param {broken\n */\nexport const sail = (quay, tide) => quay;\n";
        let found = documented_in(Language::JavaScript, code);
        assert_eq!(pairs(&found), [("quay", "@param {{ a: {b} }} quay where to"), ("tide", "@param [tide=1]")]);
        let line = "/** @param quay*/\nfunction sail(quay) {}\n";
        assert_eq!(pairs(&documented_in(Language::TypeScript, line)), [("quay", "@param quay")]);
    }

    #[test]
    fn elements_of_lines_that_document() {
        let code = "// far\n/// <summary>Sails.</summary>\n/// <param name=\"quay\">where to</param>\n/// <param name='tide'/>\n/// <param name=>\n/// <param name=\"open\" <param name=\"fare\">\n[Quay]\nvoid Sail(int quay) { }\n";
        let found = documented_in(Language::CSharp, code);
        let expected =
            [("quay", "<param name=\"quay\">"), ("tide", "<param name='tide'/>"), ("fare", "<param name=\"fare\">")];
        assert_eq!(pairs(&found), expected);
    }

    #[test]
    fn only_the_comment_right_above_documents() {
        for code in
            ["/** far */\n\nfunction sail() {}\n", "/* plain */\nfunction sail() {}\n", "/***/\nfunction sail() {}\n"]
        {
            let text = Text::new(code.to_string());
            let tree = Language::JavaScript.parse(&text);
            let function = tree.nodes().find(|node| node.kind() == Kind::Function).expect("a function");
            assert_eq!(doc_comment(Language::JavaScript, &text, function), None, "{code}");
        }
    }
}
