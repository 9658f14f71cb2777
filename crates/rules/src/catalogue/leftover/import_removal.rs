//! Leaving out one name of an import, or the whole statement.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Edit, File};

/// Removes one item of an import, or the whole statement with its last item.
pub(super) fn removal(file: File<'_>, item: NodeRef, import: NodeRef) -> Vec<Edit> {
    let is_item = |other: &NodeRef| other.role() == Role::Item;
    let (before, behind) = (item.previous_sibling().filter(is_item), item.next_sibling().filter(is_item));
    if before.is_none() && behind.is_none() {
        return statement_removal(file, import);
    }
    let is_alike = |other: &NodeRef| other.kind() == item.kind();
    let span = match (before.filter(is_alike), behind.filter(is_alike)) {
        (None, None) => span_beside_others(item, import),
        (_, Some(next)) => Span::new(item.span().start, next.span().start),
        (Some(last), None) => Span::new(last.span().end, item.span().end),
    };
    vec![Edit::remove(span)]
}

/// An item that is beside items of another sort, with its brackets and the comma between: `a, ` or `, { b }` or `, * as c`.
fn span_beside_others(item: NodeRef, import: NodeRef) -> Span {
    let tree = item.tree();
    let is_comma = |token: &u32| tree.token_kind(*token) == TokenKind::Comma;
    let own = item.token_range();
    if item.kind() == Kind::ImportDefault {
        let comma = (own.end..import.token_range().end).find(is_comma).unwrap_or(own.end);
        let next = (comma + 1..).find(|token| !tree.token_kind(*token).is_trivia()).unwrap_or(comma);
        return Span::new(item.span().start, tree.token_start(next));
    }
    let comma = (import.token_range().start..own.start).rev().find(is_comma).unwrap_or(own.start);
    let bracket = (own.end..import.token_range().end).take_while(|_| item.kind() == Kind::ImportItem);
    let close = bracket.into_iter().find(|token| tree.token_kind(*token) == TokenKind::BraceClose);
    let before = (0..comma).rev().find(|token| !tree.token_kind(*token).is_trivia()).unwrap_or(comma);
    Span::new(tree.token_span(before).end, close.map_or(item.span().end, |close| tree.token_span(close).end))
}

/// Removes a statement with its line, or puts `pass` in its place where the block would be empty without it.
fn statement_removal(file: File<'_>, statement: NodeRef) -> Vec<Edit> {
    let span = statement.span();
    let Some(block) = statement.parent() else { return Vec::new() };
    let is_file = block.kind() == Kind::File;
    if !is_file && block.children().nth(1).is_none() {
        return vec![Edit::replace(span, "pass")];
    }
    // Two removals in one round could empty a block together that holds nothing but imports.
    let claim = Edit::claim(block.span().start);
    let stays = || block.children().any(|other| !matches!(other.kind(), Kind::Import | Kind::Pass));
    let stays = is_file || file.once_at(block, || Stays(stays())).0;
    let lines = file.text.lines();
    let (first, last) = (lines.line_of(span.start), lines.line_of(span.end));
    let whole = Span::new(lines.full_line(first).start, lines.full_line(last).end);
    let before = file.text.slice(Span::new(whole.start, span.start)).trim_start_matches('\u{feff}');
    let after = file.text.slice(Span::new(span.end, whole.end)).trim_start();
    let after = after.strip_prefix(';').map_or(after, str::trim_start);
    let removed = if before.trim().is_empty() && (after.is_empty() || after.starts_with('#')) {
        Span::new(span.start - before.len() as u32, whole.end)
    } else if let Some(next) = statement.next_sibling().filter(|next| lines.line_of(next.span().start) == last) {
        Span::new(span.start, next.span().start)
    } else {
        // The last of several statements on its line: its separator goes too.
        let separator = file.text.slice(Span::new(whole.start, span.start)).rfind(';');
        separator.map_or(span, |at| Span::new(whole.start + at as u32, span.end))
    };
    if stays || removed.contains(Span::at(block.span().start)) {
        return vec![Edit::remove(removed)];
    }
    vec![claim, Edit::remove(removed)]
}

/// Whether a block has more than its imports.
struct Stays(bool);
