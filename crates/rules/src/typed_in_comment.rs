//! Types that documentation writes in braces: `@param {Quay} from`.

use rustc_hash::FxHashSet;

use crate::interface::{File, word_hash};

/// Hashes of the words in such types of a file.
struct TypesInComments(FxHashSet<u64>);

/// Whether a tag of a documentation comment names something as a type. Worked out once for a file, if something asks.
pub(crate) fn is_typed_in_comment(file: File<'_>, name: &str) -> bool {
    file.once(|| TypesInComments(types_in_comments(file))).0.contains(&word_hash(name))
}

fn types_in_comments(file: File<'_>) -> FxHashSet<u64> {
    let mut words = FxHashSet::default();
    // What looks like a comment in a string names no more than a comment could.
    for comment in file.text.source().split("/**").skip(1).filter_map(|rest| rest.split("*/").next()) {
        for line in comment.lines().filter(|line| line.contains('@')) {
            for inner in line.split('{').skip(1).filter_map(|rest| rest.split('}').next()) {
                let names = inner.split(|letter: char| !(letter.is_alphanumeric() || matches!(letter, '_' | '$')));
                words.extend(names.filter(|name| !name.is_empty()).map(word_hash));
            }
        }
    }
    words
}
