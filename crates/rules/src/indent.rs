//! Where lines should begin: read by the rules of indentation.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::habit::{begins_line, indent_at, is_inside_token, line_at};
use crate::interface::{Edit, File};

/// Statements of a block that begin their lines.
pub(crate) fn at_line_starts<'t>(file: File<'_>, block: NodeRef<'t>) -> Vec<NodeRef<'t>> {
    statements_of(block).filter(|statement| begins_line(file, statement.span().start)).collect()
}

/// The statements of a block. What a command is given line by line is text.
pub(crate) fn statements_of(block: NodeRef<'_>) -> impl Iterator<Item = NodeRef<'_>> {
    let is_one = |child: &NodeRef<'_>| {
        matches!(child.role(), Role::Statement | Role::Part) && child.kind() != Kind::HereDocument
    };
    block.children().filter(is_one)
}

/// The depths, in whitespace, that a block's holder may be said to have: that of the line it begins on, that of the line of the brace, and
/// that of what follows an operator at the head of that line. `None` where tabs are part of it.
pub(crate) fn bases(file: File<'_>, block: NodeRef<'_>) -> Option<Vec<usize>> {
    let holder = block.parent()?;
    let of_holder = indent_at(file, holder.span().start);
    let mut found = vec![of_holder.len()];
    let mut has_tabs = of_holder.contains('\t');
    if block.first_token_kind() == TokenKind::BraceOpen {
        let of_brace = indent_at(file, block.span().start);
        has_tabs |= of_brace.contains('\t');
        let line = file.text.slice(line_at(file, block.span().start));
        found.push(of_brace.len());
        // What begins a selector is no operator.
        if holder.kind() != Kind::StyleRule {
            let inner = line.trim_start().trim_start_matches(['?', ':', '&', '|', '.', '=', '+']);
            found.push(line.len() - inner.trim_start().len());
        }
    }
    (!has_tabs).then_some(found)
}

/// The stretches of strings that may go over several lines and have parts: their lines begin where their authors want them to.
pub(crate) fn long_texts(file: File<'_>) -> Vec<Span> {
    let texts = [Kind::FormatString, Kind::TemplateString, Kind::HereDocument];
    // The first line of a here-document is one of its lines, unlike that of a text in quotes.
    let lines_of = |node: NodeRef<'_>| {
        let before = u32::from(node.kind() == Kind::HereDocument).min(node.span().start);
        Span::new(node.span().start - before, node.span().end)
    };
    let mut found: Vec<Span> = file.tree.nodes_of_any(&texts).into_iter().map(lines_of).collect();
    found.sort_unstable_by_key(|span| span.start);
    found.dedup_by(|inner, outer| outer.contains(*inner));
    found
}

/// Whether the start of a line is within one of the stretches, which are sorted and do not overlap, or within a token.
pub(crate) fn in_text(file: File<'_>, texts: &[Span], line_start: u32) -> bool {
    let before = texts.partition_point(|text| text.start < line_start);
    before > 0 && line_start < texts[before - 1].end || is_inside_token(file, line_start)
}

/// The edits that move the lines of some code by a number of whitespace, to the right or to the left. Lines that begin within a text stay.
pub(crate) fn shifted(file: File<'_>, texts: &[Span], span: Span, by: i64) -> Vec<Edit> {
    all_shifted(file, span, by, |line_start| {
        let starts_at = file.tree.token_kind(file.tree.token_at(line_start));
        starts_at != TokenKind::Comment && in_text(file, texts, line_start)
    })
}

/// The same for all lines that have anything on them, but for those that stay.
pub(crate) fn all_shifted(file: File<'_>, span: Span, by: i64, stays: impl Fn(u32) -> bool) -> Vec<Edit> {
    let lines = file.text.lines();
    let source = file.text.source();
    let last = lines.line_of(span.end.saturating_sub(1).max(span.start));
    let mut edits = Vec::new();
    for number in lines.line_of(span.start)..=last {
        let line = lines.line(source, number);
        let text = file.text.slice(line);
        if text.trim().is_empty() || stays(line.start) {
            continue;
        }
        let blanks = text.len() - text.trim_start_matches(' ').len();
        let wanted = (blanks as i64 + by).max(0) as usize;
        if wanted != blanks {
            edits.push(Edit::replace(Span::new(line.start, line.start + blanks as u32), " ".repeat(wanted)));
        }
    }
    edits
}

/// Whether moving some code would change strings in it: what is between tags goes over several lines.
pub(crate) fn holds_markup(node: NodeRef<'_>) -> bool {
    std::iter::once(node).chain(node.descendants()).any(|part| matches!(part.kind(), Kind::MarkupText | Kind::Element))
}

/// The stretch of a block with the comments below it that are as deep: whole lines.
pub(crate) fn with_comments_below(file: File<'_>, span: Span, depth: usize) -> Span {
    let lines = file.text.lines();
    let source = file.text.source();
    let mut end = span.end;
    for number in lines.line_of(span.end.saturating_sub(1)) + 1..=lines.count() {
        let line = lines.line(source, number);
        let text = file.text.slice(line);
        if text.trim().is_empty() {
            continue;
        }
        let blanks = text.len() - text.trim_start().len();
        let token = file.tree.token_at(line.start + blanks as u32);
        if blanks < depth || file.tree.token_kind(token) != TokenKind::Comment {
            break;
        }
        end = line.end;
    }
    Span::new(line_at(file, span.start).start, end)
}
