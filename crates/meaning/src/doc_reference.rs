//! Types that documentation comments refer to: they are used by that.

use sieve_syntax::text::Span;
use sieve_syntax::tree::TokenKind;

use crate::names::{Collector, Namespace, Reach, ScopeId, Unknown};

/// Each type is used that a documentation comment refers to.
///
/// `begins`: what such comments begin with. `referred`: what the tags of a comment refer to, each with its place in bytes.
pub(crate) fn use_types<'t>(
    collector: &mut Collector<'t>,
    begins: &[&str],
    referred: impl Fn(&'t str) -> Vec<(usize, &'t str)>,
) {
    let (tree, text) = (collector.tree, collector.text);
    // Most files refer to nothing, or to little.
    let mut scopes = None;
    for token in 0..tree.tokens().len() as u32 {
        if tree.token_kind(token) != TokenKind::Comment {
            continue;
        }
        let span = tree.token_span(token);
        let comment = text.slice(span);
        if !begins.iter().any(|begin| comment.starts_with(begin)) {
            continue;
        }
        for (at, reference) in referred(comment) {
            let scopes = scopes.get_or_insert_with(|| collector.scopes_by_node());
            let node = tree.covering(span);
            let mut around = std::iter::once(node).chain(node.ancestors());
            let scope = around.find_map(|node| scopes.get(&node.id()).copied()).unwrap_or(ScopeId::FILE);
            for (place, name) in types_in(reference) {
                let start = span.start + (at + place) as u32;
                let name = Span::new(start, start + name.len() as u32);
                collector.use_within((Namespace::Types, Reach::Scopes), scope, node, name);
                collector.excuse_last(Unknown::InText);
            }
        }
    }
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
    fn types_are_the_first_names_of_a_reference() {
        let types = |reference: &'static str| -> Vec<&str> { types_in(reference).map(|(_, word)| word).collect() };
        assert_eq!(types("Table#read(Path, int"), ["Table", "Path", "int"]);
        assert_eq!(types("Quay.Berth"), ["Quay"]);
        assert_eq!(types("#read(Path)"), ["Path"]);
    }
}
