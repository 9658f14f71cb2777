//! Descriptions: the texts and comments that tell what a declaration is for, and the parameters they name.
//!
//! Forms: PEP 257 texts with field lists (`:param name:`), with an indented section "Args" or "Parameters", or with a section that is
//! underlined; comments between `/**` and `*/` with `@param`.

use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::File;

/// A parameter that a description names.
#[derive(Debug)]
pub(crate) struct Described {
    /// Its name.
    pub(crate) name: String,
    /// The place where it is named.
    pub(crate) span: Span,
}

/// The stretch of what describes a declaration.
pub(crate) fn description(file: File<'_>, node: NodeRef<'_>) -> Option<Span> {
    if file.language == Language::Python {
        let body = if node.kind() == Kind::File { node } else { node.child(Role::Body)? };
        let first = body.children().next().filter(|first| first.kind() == Kind::ExpressionStatement)?;
        let value = first.child(Role::Value).filter(|value| value.kind() == Kind::String)?;
        return Some(value.span());
    }
    if node.kind() == Kind::File {
        return None;
    }
    // A function that is bound to a name is described above the statement that binds it.
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
    let tree = file.tree;
    let mut ends = 0;
    for token in (0..outer.token_range().start).rev() {
        match tree.token_kind(token) {
            TokenKind::LineEnd => ends += 1,
            TokenKind::Blank => {}
            TokenKind::Comment if ends < 2 => {
                let span = tree.token_span(token);
                let text = file.text.slice(span);
                return (text.starts_with("/**") && text.len() > "/***/".len()).then_some(span);
            }
            _ => return None,
        }
    }
    None
}

/// The parameters that a description names, in the order of the text.
pub(crate) fn described_parameters(file: File<'_>, description: Span) -> Vec<Described> {
    let text = file.text.slice(description);
    if file.language == Language::Python {
        let mut found = fields(text, description.start);
        found.extend(sections(text, description.start));
        found
    } else {
        tags(text, description.start)
    }
}

/// The lines of a text with their offsets.
fn lines(text: &str) -> impl Iterator<Item = (usize, &str)> {
    let mut offset = 0;
    text.split_inclusive('\n').map(move |line| {
        let start = offset;
        offset += line.len();
        (start, line.trim_end())
    })
}

fn is_name(name: &str) -> bool {
    let mut characters = name.chars();
    characters.next().is_some_and(|first| first.is_alphabetic() || first == '_' || first == '$')
        && characters.all(|other| other.is_alphanumeric() || other == '_' || other == '$')
}

fn described(name: &str, line: &str, offset: u32) -> Option<Described> {
    let blanks = line.len() - line.trim_start().len();
    let span = Span::new(offset + blanks as u32, offset + line.len() as u32);
    is_name(name).then(|| Described { name: name.to_string(), span })
}

/// `:param name:` and `:param type name:`.
fn fields(text: &str, start: u32) -> Vec<Described> {
    let field = |(offset, line): (usize, &str)| {
        let head = line.trim_start().strip_prefix(":param ")?.split(':').next()?;
        let name = head.split_whitespace().next_back()?.trim_start_matches('*').replace("\\*", "");
        described(&name, line, start + offset as u32)
    };
    lines(text).filter_map(field).collect()
}

/// Entries below the heads `Args:`, `Arguments:` and `Parameters` with a line below.
fn sections(text: &str, start: u32) -> Vec<Described> {
    let all: Vec<(usize, &str)> = lines(text).collect();
    let indent = |line: &str| line.len() - line.trim_start().len();
    let mut found = Vec::new();
    for (index, (_, head)) in all.iter().enumerate() {
        let underlined = all.get(index + 1).is_some_and(|(_, next)| is_underline(next));
        let is_section = matches!(head.trim(), "Args:" | "Arguments:") && index > 0;
        let is_underlined = head.trim() == "Parameters" && underlined;
        if !is_section && !is_underlined {
            continue;
        }
        let entries = &all[index + if is_underlined { 2 } else { 1 }..];
        let depth = entries.iter().find(|(_, line)| !line.trim().is_empty()).map_or(0, |(_, line)| indent(line));
        if (is_section && depth <= indent(head)) || (is_underlined && depth != indent(head)) {
            continue;
        }
        for (position, (offset, line)) in entries.iter().enumerate() {
            let ends_section = entries.get(position + 1).is_some_and(|(_, next)| is_underline(next));
            if line.trim().is_empty() {
                continue;
            }
            if indent(line) < depth || ends_section {
                break;
            }
            if indent(line) > depth {
                continue;
            }
            // A line that says nothing of its parameter may go on with something else.
            let Some((head, _)) = line.split_once(':').filter(|(_, about)| !about.starts_with("//")) else {
                continue;
            };
            // `name (type)`, and several that share a type.
            let names = head.split('(').next().unwrap_or(head).split(',');
            let names: Vec<&str> =
                names.map(|name| name.trim().trim_start_matches('*').trim_start_matches("\\*")).collect();
            // Other words than names say that the line is none of the form.
            if names.iter().all(|name| is_name(name)) {
                found.extend(names.iter().filter_map(|name| described(name, line, start + *offset as u32)));
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
fn tags(text: &str, start: u32) -> Vec<Described> {
    let tag = |(offset, line): (usize, &str)| {
        let at = line.find("@param ")?;
        let before = line[..at].trim_matches(|mark: char| mark.is_whitespace() || matches!(mark, '*' | '/'));
        if !before.is_empty() {
            return None;
        }
        let mut rest = line[at + "@param ".len()..].trim_start();
        if rest.starts_with('{') {
            rest = after_type(rest)?.trim_start();
        }
        let word = rest.split_whitespace().next()?.trim_start_matches('[').trim_end_matches("*/");
        let name = word.split(['=', ']', ',', ':']).next()?.trim_start_matches("...");
        let end = line.trim_end_matches("*/").trim_end().len();
        let span = Span::new(start + (offset + at) as u32, start + (offset + end) as u32);
        // A part of a parameter is no parameter.
        (is_name(name) && !word.contains('.')).then(|| Described { name: name.to_string(), span })
    };
    lines(text).filter_map(tag).collect()
}

/// What follows a type in braces.
fn after_type(text: &str) -> Option<&str> {
    let mut depth = 0;
    for (at, character) in text.char_indices() {
        match character {
            '{' => depth += 1,
            '}' => depth -= 1,
            _ => {}
        }
        if depth == 0 {
            return Some(&text[at + 1..]);
        }
    }
    None
}
