//! Names in documentation comments ("Documentation comments", ECMA-334, Annex D).

use crate::doc_reference::use_types;
use crate::names::Collector;

/// Types that documentation comments refer to are used.
pub(super) fn collect(collector: &mut Collector<'_>) {
    use_types(collector, &["///", "/**"], |comment| referred(comment).collect());
}

/// What the tags of a comment refer to, each with its place in bytes.
fn referred(comment: &str) -> impl Iterator<Item = (usize, &str)> {
    comment.match_indices("cref=\"").filter_map(|(at, tag)| {
        let start = at + tag.len();
        let length = comment[start..].find('"')?;
        Some((start, &comment[start..start + length]))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn tags_refer_to_types() {
        let comment =
            "/// <see cref=\"Table.Read(Path, int)\"/> <exception cref=\"TideError\">no</exception> <see cref='x'/>";
        let words: Vec<&str> = referred(comment).map(|(_, word)| word).collect();
        assert_eq!(words, ["Table.Read(Path, int)", "TideError"]);
    }
}
