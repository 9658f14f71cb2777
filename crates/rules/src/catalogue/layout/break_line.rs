//! Breaks a long line where the grammar lets a line end anywhere: inside of brackets.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenId, TokenKind};

use crate::habit::{begins_line, indent_at, last_token, unit_of};
use crate::interface::{Edit, File};

/// The edits that put what is in brackets on lines of its own, so that no line is longer than the limit; `None` where no
/// brackets of the line allow it.
pub(super) fn broken(file: File<'_>, line: Span, limit: usize) -> Option<Vec<Edit>> {
    let text = file.text.slice(line);
    let start = line.start + (text.len() - text.trim_start().len()) as u32;
    let begins_here = nodes_from(file, start)
        .take_while(|node| node.span().start == start)
        .any(|node| node.role() == Role::Statement);
    if !begins_here || !begins_line(file, start) {
        return None;
    }
    let mut brackets = outermost_brackets(file, Span::new(start, line.end));
    brackets.reverse();
    brackets.into_iter().find_map(|node| break_at(file, line, node, limit))
}

/// The outermost lists in brackets that are wholly on the line.
fn outermost_brackets<'t>(file: File<'t>, line: Span) -> Vec<NodeRef<'t>> {
    let mut found: Vec<NodeRef> = Vec::new();
    for node in nodes_from(file, line.start).take_while(|node| node.span().start < line.end) {
        let is_inner = found.last().is_some_and(|outer| outer.holds(node.id()));
        if node.span().end <= line.end && !is_inner && is_list(node) {
            found.push(node);
        }
    }
    found
}

/// The nodes that begin at an offset or after it. They are together, after all others; the first one is found by halving.
fn nodes_from<'t>(file: File<'t>, offset: u32) -> impl Iterator<Item = NodeRef<'t>> {
    let count = file.tree.nodes().len() as u32;
    let (mut low, mut high) = (0, count);
    while low < high {
        let middle = (low + high) / 2;
        if file.tree.node(NodeId(middle)).span().start < offset {
            low = middle + 1;
        } else {
            high = middle;
        }
    }
    (low..count).map(move |index| file.tree.node(NodeId(index)))
}

fn is_list(node: NodeRef<'_>) -> bool {
    let kinds = matches!(
        node.kind(),
        Kind::Arguments
            | Kind::Parameters
            | Kind::List
            | Kind::Dictionary
            | Kind::Set
            | Kind::Tuple
            | Kind::FormatString
            | Kind::TemplateString
            | Kind::Element
    );
    let opens = node.first_token_kind().opens() || is_text(node);
    kinds && opens
}

/// Nothing within a text may be broken.
fn is_text(node: NodeRef<'_>) -> bool {
    matches!(node.kind(), Kind::FormatString | Kind::TemplateString | Kind::Element)
}

fn break_at(file: File<'_>, line: Span, node: NodeRef<'_>, limit: usize) -> Option<Vec<Edit>> {
    let close = last_token(node).filter(|_| !is_text(node))?;
    let open = node.token_range().start;
    let elements: Vec<NodeRef> = node.children().collect();
    let (first, last) = (elements.first()?, elements.last()?);
    if !file.tree.token_kind(close).closes() || last.token_range().end > close || holds_lines(file, node) {
        return None;
    }
    let indent = indent_at(file, line.start);
    let inner = format!("{indent}{}", unit_of(file));
    let line_end = file.line_end();
    let open_end = file.tree.token_span(open).end;
    let close_start = file.tree.token_start(close);
    // More than the limit is enough to know: lines can be very long.
    let length = |span: Span| file.text.slice(span).chars().take(limit + 1).count();
    let head = length(Span::new(line.start, open_end));
    let tail = indent.chars().count() + length(Span::new(close_start, line.end));
    let body = Span::new(open_end, close_start);
    if head > limit || tail > limit || file.text.slice(body).trim().is_empty() {
        return None;
    }
    let before = Span::new(open_end, first.span().start);
    let after_start = last_end(file, *last, close);
    let after = Span::new(after_start, close_start);
    let mut edits = vec![Edit::replace(before, format!("{line_end}{inner}"))];
    let inside = inner.chars().count();
    if inside + length(Span::new(first.span().start, after_start)) > limit {
        for pair in elements.windows(2) {
            let start = after_comma(file, pair[0], pair[1])?;
            edits.push(Edit::replace(Span::new(start, pair[1].span().start), format!("{line_end}{inner}")));
        }
        // The comma after each is on its line too.
        if elements.iter().any(|element| inside + length(element.span()) + 1 > limit) {
            return None;
        }
    }
    edits.push(Edit::replace(after, format!("{line_end}{indent}")));
    let all_blank = edits.iter().all(|edit| file.text.slice(edit.span).trim().is_empty());
    all_blank.then_some(edits)
}

/// Whether a block is within, whose lines are its own affair.
fn holds_lines(file: File<'_>, node: NodeRef<'_>) -> bool {
    file.text.slice(node.span()).contains('\n') || node.descendants().any(|inner| inner.kind() == Kind::Block)
}

/// The end of what is before the closing bracket, a last comma included.
fn last_end(file: File<'_>, last: NodeRef<'_>, close: TokenId) -> u32 {
    let solid = (last.token_range().end..close).rev().find(|token| !file.tree.token_kind(*token).is_trivia());
    solid.map_or(last.span().end, |token| file.tree.token_span(token).end)
}

/// The end of the comma between two elements, if a comma alone is there.
fn after_comma(file: File<'_>, one: NodeRef<'_>, other: NodeRef<'_>) -> Option<u32> {
    let mut between =
        (one.token_range().end..other.token_range().start).filter(|token| !file.tree.token_kind(*token).is_trivia());
    let comma = between.next().filter(|token| file.tree.token_kind(*token) == TokenKind::Comma)?;
    between.next().is_none().then(|| file.tree.token_span(comma).end)
}
