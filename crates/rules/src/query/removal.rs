//! Takes a node out of its code, with what a person would take out too: its line, or the comma beside it.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, TokenKind};

use super::steps::{holds_statements, is_container};
use crate::habit::{significant_before, significant_from, whole_lines};
use crate::interface::{Edit, File};

/// The edits that remove a node; nothing where something has to be there.
pub(super) fn removal(file: File<'_>, node: NodeRef<'_>) -> Option<Vec<Edit>> {
    if let Some(span) = with_comma(file, node) {
        return Some(vec![Edit::remove(span)]);
    }
    let whole = outermost(node);
    let parent = whole.parent()?;
    if holds_statements(parent) {
        return statement(file, whole, parent);
    }
    if matches!(whole.kind(), Kind::Decorator) {
        return Some(vec![Edit::remove(whole_lines(file, whole.span()).unwrap_or_else(|| with_space(file, whole)))]);
    }
    // Without it the brackets are empty.
    let is_alone = is_container(parent) && parent.children().count() == 1 && parent.kind() != Kind::Block;
    let is_optional = matches!(whole.kind(), Kind::Attribute);
    match is_alone {
        true => Some(vec![Edit::remove(whole.span())]),
        false => is_optional.then(|| vec![Edit::remove(with_space_before(file, whole))]),
    }
}

/// The node around a node that is nothing but this: a call that is a statement of its own.
fn outermost(node: NodeRef<'_>) -> NodeRef<'_> {
    let mut whole = node;
    while let Some(parent) = whole.parent() {
        let is_same = parent.children().count() == 1 && parent.span().start == whole.span().start;
        if holds_statements(parent) || !is_same {
            break;
        }
        whole = parent;
    }
    whole
}

/// Removes a statement with its lines. The only one of a block whose language wants one is replaced by one that does nothing.
fn statement(file: File<'_>, statement: NodeRef<'_>, block: NodeRef<'_>) -> Option<Vec<Edit>> {
    let is_only = block.kind() != Kind::File && block.children().nth(1).is_none();
    if is_only && let Some(nothing) = file.traits.empty_statement {
        return Some(vec![Edit::replace(statement.span(), nothing)]);
    }
    // Two removals in one round could empty a block together.
    let claim = Edit::claim(block.span().start);
    let last = file.tree.token_from(statement.span().end);
    let semicolon = (last as usize) < file.tree.tokens().len() && file.tree.token_kind(last) == TokenKind::Semicolon;
    let end = if semicolon { file.tree.token_span(last).end } else { statement.span().end };
    let span = Span::new(statement.span().start, end);
    let removed = match whole_lines(file, span) {
        Some(lines) => lines,
        None => {
            let next = statement.next_sibling()?;
            let lines = file.text.lines();
            let is_beside = lines.line_of(next.span().start) == lines.line_of(span.end);
            if is_beside { Span::new(span.start, next.span().start) } else { return None }
        }
    };
    let touches = removed.start <= block.span().start;
    Some(if touches { vec![Edit::remove(removed)] } else { vec![claim, Edit::remove(removed)] })
}

/// The stretch of an element of a list, with the comma and the space that go with it; nothing where there is no comma.
fn with_comma(file: File<'_>, node: NodeRef<'_>) -> Option<Span> {
    let tokens = node.token_range();
    let next = significant_from(file, tokens.end)?;
    let previous = significant_before(file, tokens.start)?;
    let is_comma = |token| file.tree.token_kind(token) == TokenKind::Comma;
    if is_comma(next) {
        let after = significant_from(file, next + 1)?;
        let lines = file.text.lines();
        let comma = file.tree.token_span(next);
        let is_own_line = whole_lines(file, Span::new(node.span().start, comma.end));
        let on_line = lines.line_of(file.tree.token_start(after)) == lines.line_of(comma.end);
        return Some(match (is_own_line, on_line) {
            (Some(whole), _) => whole,
            (None, true) => Span::new(node.span().start, file.tree.token_start(after)),
            (None, false) => Span::new(node.span().start, comma.end),
        });
    }
    is_comma(previous).then(|| Span::new(file.tree.token_span(previous).start, node.span().end))
}

/// The stretch of a node with the whitespace after it, up to the next line.
fn with_space(file: File<'_>, node: NodeRef<'_>) -> Span {
    let span = node.span();
    let rest = &file.text.source()[span.end as usize..];
    Span::new(span.start, span.end + (rest.len() - rest.trim_start_matches([' ', '\t']).len()) as u32)
}

fn with_space_before(file: File<'_>, node: NodeRef<'_>) -> Span {
    let span = node.span();
    let before = &file.text.source()[..span.start as usize];
    Span::new(before.trim_end().len() as u32, span.end)
}
