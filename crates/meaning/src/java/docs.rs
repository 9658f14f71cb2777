//! Names in documentation comments: what they refer to is used by that ("javadoc", Documentation Comment Specification, JDK 21).

use crate::doc_reference::use_types;
use crate::names::Collector;

/// Tags whose first word refers to a type, or to a member behind `#`.
const REFERRING: &[&str] = &["link", "linkplain", "see", "throws", "exception", "value", "uses", "provides"];

/// Types that documentation comments refer to are used.
pub(super) fn collect(collector: &mut Collector<'_>) {
    use_types(collector, &["/**"], |comment| referred(comment).collect());
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tags_refer_to_types() {
        let comment = "/** {@link Table#read(Path, int) reads} it.\n * @see Quay.Berth\n * @throws IOException if not\n * @param Low no\n * mail@see.saltmarsh */";
        let words: Vec<&str> = referred(comment).map(|(_, word)| word).collect();
        assert_eq!(words, ["Table#read(Path, int", "Quay.Berth", "IOException"]);
    }
}
