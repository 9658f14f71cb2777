//! Names in documentation comments: what they refer to is used by that ("javadoc", Documentation Comment Specification, JDK 21).

use sieve_syntax::text::Span;
use sieve_syntax::tree::TokenKind;

use crate::names::{Collector, Namespace, Reach, ScopeId};

/// Tags whose first word refers to a type, or to a member behind `#`.
const REFERRING: &[&str] = &["link", "linkplain", "see", "throws", "exception", "value", "uses", "provides"];

/// Types that documentation comments refer to are used.
pub(super) fn collect(collector: &mut Collector<'_>) {
    let (tree, text) = (collector.tree, collector.text);
    // Most files refer to nothing, or to little.
    let mut scopes = None;
    for token in 0..tree.tokens().len() as u32 {
        if tree.token_kind(token) != TokenKind::Comment {
            continue;
        }
        let span = tree.token_span(token);
        let comment = text.slice(span);
        if !comment.starts_with("/**") {
            continue;
        }
        let mut referred = referred(comment).peekable();
        if referred.peek().is_none() {
            continue;
        }
        let scopes = scopes.get_or_insert_with(|| collector.scopes_by_node());
        let node = tree.covering(span);
        let mut around = std::iter::once(node).chain(node.ancestors());
        let scope = around.find_map(|node| scopes.get(&node.id()).copied()).unwrap_or(ScopeId::FILE);
        for (at, word) in referred {
            for (place, name) in types_in(word) {
                let start = span.start + (at + place) as u32;
                collector.use_within(
                    (Namespace::Types, Reach::Scopes),
                    scope,
                    node,
                    Span::new(start, start + name.len() as u32),
                );
            }
        }
    }
}

/// What the tags of a comment refer to, each with its place in bytes.
fn referred(comment: &str) -> impl Iterator<Item = (usize, &str)> {
    comment.match_indices('@').filter_map(|(at, _)| {
        let behind = &comment[at + 1..];
        let tag_end = behind.find(|letter: char| !letter.is_ascii_alphabetic())?;
        let rest = behind[tag_end..].trim_start_matches([' ', '\t']);
        let start = comment.len() - rest.len();
        let is_one = REFERRING.contains(&&behind[..tag_end]) && start > at + 1 + tag_end;
        // The parameters of a function may have spaces between them.
        let length = match rest.find(|letter: char| letter.is_whitespace() || matches!(letter, '}' | '(')) {
            Some(open) if rest[open..].starts_with('(') => rest.find(')').unwrap_or(open),
            Some(end) => end,
            None => rest.len(),
        };
        is_one.then(|| (start, &rest[..length]))
    })
}

/// The first name of each type in a reference such as `Table#read(Path, int)`, each with its place in bytes.
fn types_in(reference: &str) -> impl Iterator<Item = (usize, &str)> {
    let is_part = |letter: char| letter.is_alphanumeric() || matches!(letter, '_' | '$');
    let mut words = Vec::new();
    let mut start = None;
    for (at, letter) in reference.char_indices().chain([(reference.len(), ' ')]) {
        match (start, is_part(letter)) {
            (None, true) => start = Some(at),
            (Some(from), false) => {
                words.push((from, &reference[from..at]));
                start = None;
            }
            _ => {}
        }
    }
    words.into_iter().filter(|(at, word)| {
        let before = reference[..*at].chars().next_back();
        !matches!(before, Some('.' | '#')) && word.starts_with(|first: char| first.is_alphabetic())
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tags_refer_to_types() {
        let comment = "/** {@link Table#read(Path, int) reads} it.\n * @see Quay.Berth\n * @throws IOException if not\n * @param Low no\n * mail@see.saltmarsh */";
        let words: Vec<&str> = referred(comment).map(|(_, word)| word).collect();
        assert_eq!(words, ["Table#read(Path, int", "Quay.Berth", "IOException"]);
        let types: Vec<&str> = words.into_iter().flat_map(types_in).map(|(_, word)| word).collect();
        assert_eq!(types, ["Table", "Path", "int", "Quay", "IOException"]);
    }
}
