//! Proves that edits change the code where they are, and nothing around them.

use sieve_rules::Edit;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, Role, Tree};

use super::verify::Whole;

/// Whether a file before edits and after them, with all that it holds in other languages, is the same outside of what was edited.
pub(crate) fn only_there(before: &Whole<'_>, after: &Whole<'_>, edits: &[&Edit]) -> bool {
    same_around(before.text, before.tree, after.tree, edits)
        && before.layers.len() == after.layers.len()
        && (before.layers.iter().zip(&after.layers))
            .all(|(own, other)| same_around(before.text, &own.tree, &other.tree, edits))
}

/// Whether two trees, of a text before and after edits, are the same outside of what was edited: every node that no edit touches is
/// there again, and what is around an edit holds all of it, as before. Edits do not overlap.
fn same_around(text: &Text, before: &Tree, after: &Tree, edits: &[&Edit]) -> bool {
    let mut edits: Vec<&Edit> = edits.iter().copied().filter(|edit| !is_claim(edit)).collect();
    edits.sort_by_key(|edit| edit.span);
    let old: Vec<Span> = edits.iter().map(|edit| trimmed(edit.span.start, text.slice(edit.span))).collect();
    let mut new = Vec::with_capacity(edits.len());
    let mut shift = 0i64;
    for edit in &edits {
        let start = (i64::from(edit.span.start) + shift) as u32;
        new.push(trimmed(start, &edit.text));
        shift += edit.text.len() as i64 - i64::from(edit.span.len());
    }
    let (Some(one), Some(other)) = (outside(before, &old), outside(after, &new)) else { return false };
    one == other
}

/// The stretch of a string at an offset, without the whitespace around it, which belongs to no node.
fn trimmed(start: u32, text: &str) -> Span {
    let begin = start + (text.len() - text.trim_start().len()) as u32;
    Span::new(begin, begin + text.trim().len() as u32)
}

/// An edit that changes nothing: it keeps others from its place.
fn is_claim(edit: &Edit) -> bool {
    edit.span.is_empty() && edit.text.is_empty()
}

/// The nodes outside of some stretches, which are sorted: those beside them and those around them, each with its depth. Nothing where a
/// node ends within a stretch: then what is edited is read together with what is beside it.
fn outside(tree: &Tree, stretches: &[Span]) -> Option<Vec<(Kind, Role, u32)>> {
    let mut nodes = Vec::new();
    let mut depths: Vec<u32> = Vec::with_capacity(tree.nodes().len());
    for node in tree.nodes() {
        let depth = node.parent().map_or(0, |parent| depths[parent.id().index()] + 1);
        depths.push(depth);
        let span = node.span();
        // The stretches that this node meets: those before end before it, those behind begin after it.
        let first = stretches.partition_point(|stretch| stretch.end <= span.start && stretch.start < span.start);
        let end = stretches.partition_point(|stretch| stretch.start < span.end);
        let met = stretches.get(first..end).unwrap_or_default();
        let is_outside = match met {
            [] => true,
            [one] if is_in(span, *one) => false,
            // What is around the first and the last is around those between them.
            [first, ..] if is_in(*first, span) && met.last().is_some_and(|last| is_in(*last, span)) => true,
            _ => return None,
        };
        if is_outside {
            nodes.push((node.kind(), node.role(), depth));
        }
    }
    Some(nodes)
}

/// Whether a stretch that is not empty holds another one.
fn is_in(inner: Span, outer: Span) -> bool {
    !outer.is_empty() && outer.start <= inner.start && inner.end <= outer.end
}

#[cfg(test)]
mod tests {
    use sieve_syntax::language::Language;

    use super::*;

    fn stays(source: &str, find: &str, put: &str) -> bool {
        let start = source.find(find).expect("it is there");
        let edit = Edit::replace(Span::new(start as u32, (start + find.len()) as u32), put);
        let after = format!("{}{put}{}", &source[..start], &source[start + find.len()..]);
        let text = |source: &str| Text::new(source.to_string());
        let tree = |source: &str| Language::Python.parse(&text(source));
        same_around(&text(source), &tree(source), &tree(&after), &[&edit])
    }

    #[test]
    fn an_expression_in_the_place_of_another_changes_nothing_else() {
        assert!(stays("t = now() * 2\n", "now()", "clock.now()"));
        assert!(stays("def f():\n    now()\n", "now()", "pass"));
        assert!(stays("ferry(quay, tide)\n", ", tide", ""));
        assert!(stays("a\nb\nc\n", "b\n", ""));
        assert!(stays("def f():\n    a\n    b\n", "    a\n", ""));
    }

    #[test]
    fn what_is_read_together_with_its_neighbours_is_refused() {
        assert!(!stays("t = now() * 2\n", "now()", "late + 1"));
        assert!(!stays("if a:\n    b\nc\n", "b\n", "b\n    "));
        assert!(!stays("a = b\nc = d\n", "b\nc", "b + c"));
    }
}
