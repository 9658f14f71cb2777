//! What a file mostly does: the form that it has where no settings choose one.

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, TokenId, TokenKind};

use crate::interface::{Context, File};

/// The word with which settings leave the choice to the file.
pub(crate) const AS_IS: &str = "as-is";

/// What fewer than two of three places do is no habit: whoever wrote them does not mind.
const CLEAR: (usize, usize) = (2, 3);

/// Whether so many of all places are a habit.
pub(crate) fn is_clear(count: usize, all: usize) -> bool {
    count > 0 && count * CLEAR.1 >= all * CLEAR.0
}

/// Which of two forms is wanted: the one that an option names, or the one that the file has as a habit. `None` where it has none.
pub(crate) fn chosen(context: &Context, option: &str, first: &str, places: &[bool]) -> Option<bool> {
    let word = context.word(option);
    if word != AS_IS {
        return Some(word == first);
    }
    let firsts = places.iter().filter(|is_first| **is_first).count();
    let most = firsts.max(places.len() - firsts);
    is_clear(most, places.len()).then_some(firsts == most)
}

/// The whitespace at the beginning of the line that holds an offset.
pub(crate) fn indent_at<'f>(file: File<'f>, offset: u32) -> &'f str {
    let source = file.text.source();
    let start = line_start(file, offset);
    let blanks = source.as_bytes()[start..].iter().take_while(|byte| matches!(byte, b' ' | b'\t')).count();
    &source[start..start + blanks]
}

/// Where the line begins that holds an offset.
fn line_start(file: File<'_>, offset: u32) -> usize {
    let lines = file.text.lines();
    lines.full_line(lines.line_of(offset)).start as usize
}

/// The stretch of the line that holds an offset, without its line end.
pub(crate) fn line_at(file: File<'_>, offset: u32) -> Span {
    let lines = file.text.lines();
    lines.line(file.text.source(), lines.line_of(offset))
}

/// Whether nothing but whitespace is before an offset on its line.
pub(crate) fn begins_line(file: File<'_>, offset: u32) -> bool {
    let before = &file.text.source().as_bytes()[..offset as usize];
    let last = before.iter().rev().find(|byte| !matches!(byte, b' ' | b'\t' | b'\x0b' | b'\x0c'));
    last.is_none_or(|last| matches!(last, b'\n' | b'\r'))
}

/// The lines of some code, if nothing else is on them.
pub(crate) fn whole_lines(file: File<'_>, span: Span) -> Option<Span> {
    let lines = file.text.lines();
    let start = lines.full_line(lines.line_of(span.start)).start;
    let end = lines.full_line(lines.line_of(span.end.saturating_sub(1))).end;
    let before = file.text.slice(Span::new(start, span.start));
    let behind = file.text.slice(Span::new(span.end, end));
    (before.trim().is_empty() && behind.trim().is_empty()).then_some(Span::new(start, end))
}

/// The last token before another one that is no blank, line end or comment.
pub(crate) fn significant_before(file: File<'_>, token: TokenId) -> Option<TokenId> {
    (0..token).rev().find(|before| !file.tree.token_kind(*before).is_trivia())
}

/// The next token from `token` on that is no blank, line end or comment.
pub(crate) fn significant_from(file: File<'_>, token: TokenId) -> Option<TokenId> {
    let count = file.tree.tokens().len() as TokenId;
    (token..count).find(|next| !file.tree.token_kind(*next).is_trivia())
}

/// The last token of a node.
pub(crate) fn last_token(node: NodeRef<'_>) -> Option<TokenId> {
    let range = node.token_range();
    range.end.checked_sub(1).filter(|last| *last >= range.start)
}

/// The kind of the last token of a node.
pub(crate) fn last_kind(node: NodeRef<'_>) -> TokenKind {
    last_token(node).map_or(TokenKind::EndOfFile, |last| node.tree().token_kind(last))
}

/// Whether the start of a line is inside of a token, such as a text or a comment of several lines.
pub(crate) fn is_inside_token(file: File<'_>, line_start: u32) -> bool {
    let token = file.tree.token_at(line_start);
    let span = file.tree.token_span(token);
    span.start < line_start && line_start < span.end && file.tree.token_kind(token) != TokenKind::Blank
}

/// How many blocks are checked to tell a file's step, at even distances.
const SAMPLE: usize = 200;

/// One step of indentation as the file has it, by what most blocks have: a tab, or so many whitespace.
pub(crate) fn unit_of<'f>(file: File<'f>) -> &'f str {
    file.data().unit.get_or_init(|| most_frequent(&steps_of(file)).map_or("    ", |(step, _)| step).to_string())
}

/// The step of a file that two of three blocks have.
pub(crate) fn clear_unit_of<'f>(file: File<'f>) -> Option<&'f str> {
    let steps = steps_of(file);
    let all: usize = steps.iter().map(|(_, count)| count).sum();
    let clear = most_frequent(&steps).filter(|(_, count)| is_clear(*count, all));
    clear.map(|(step, _)| step)
}

/// Of several that are as frequent the first one.
fn most_frequent<'s>(steps: &[(&'s str, usize)]) -> Option<(&'s str, usize)> {
    steps.iter().rev().max_by_key(|(_, count)| *count).copied()
}

/// The steps of a file's blocks, each with how many of those checked have it.
fn steps_of(file: File<'_>) -> Vec<(&str, usize)> {
    let blocks: Vec<NodeRef<'_>> = file.tree.nodes_of(Kind::Block).collect();
    let distance = (blocks.len() / SAMPLE).max(1);
    let mut steps: Vec<(&str, usize)> = Vec::new();
    for step in blocks.into_iter().step_by(distance).filter_map(|block| step_of(file, block)) {
        match steps.iter_mut().find(|(known, _)| *known == step) {
            Some((_, count)) => *count += 1,
            None => steps.push((step, 1)),
        }
    }
    steps
}

/// How much deeper a block's first statement is than the line on which its holder begins.
fn step_of<'f>(file: File<'f>, block: NodeRef<'_>) -> Option<&'f str> {
    let first = block.children().next()?;
    let holder = block.parent()?;
    if !begins_line(file, first.span().start) {
        return None;
    }
    let step = indent_at(file, first.span().start).strip_prefix(indent_at(file, holder.span().start))?;
    (!step.is_empty() && step.len() <= 8).then_some(step)
}
