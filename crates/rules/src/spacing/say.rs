//! What is said of whitespace that are not as wanted.

use super::{Gap, Spaced};
use crate::interface::{Context, Edit};

/// Reports a token with its gaps: one finding, which fixes both sides.
pub(crate) fn report(context: &mut Context, spaced: Spaced) {
    let file = context.file();
    let span = file.tree.token_span(spaced.token);
    let token = file.text.slice(span);
    let (before, after) = (spaced.before.map(complaint), spaced.after.map(complaint));
    let message = match (before, after) {
        (Some(one), Some(other)) if one == other => format!("{one} on both sides of \"{token}\""),
        (Some(one), Some(other)) => format!("{one} before \"{token}\", {other} after it"),
        (Some(one), None) => format!("{one} before \"{token}\""),
        (None, Some(other)) => format!("{other} after \"{token}\""),
        (None, None) => return,
    };
    let edits = [spaced.before, spaced.after].into_iter().flatten();
    let edits = edits.map(|gap| Edit::replace(gap.span, " ".repeat(gap.wanted as usize))).collect();
    context.report(span, message).fix(edits);
}

fn complaint(gap: Gap) -> &'static str {
    match (gap.wanted, gap.span.len()) {
        (0, 1) => "a space too many",
        (0, _) => "spaces",
        (_, 0) => "no space",
        _ => "several spaces",
    }
}
