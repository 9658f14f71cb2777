//! Comments that are directives to programs, and belong to the place at which they are.

/// Whether a comment may be a directive to some program: it begins with `@`, or with a word that ends in a colon, holds a hyphen, or
/// is the only one.
pub(crate) fn is_directive(comment: &str) -> bool {
    let words = comment.trim_start_matches(['#', '/', '*', '!', ' ']).trim_end_matches(['*', '/', ' ']);
    let first = words.split_whitespace().next().unwrap_or_default();
    let is_word = |character: char| character.is_alphanumeric() || matches!(character, '-' | '_');
    words.starts_with('@')
        || first
            .split(':')
            .next()
            .is_some_and(|name| first.contains(':') && !name.is_empty() && name.chars().all(is_word))
        || first.contains('-')
        || (!first.is_empty() && first == words && words.chars().all(is_word))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn comments_for_programs_and_for_people() {
        for comment in [
            "// @ts-expect-error",
            "# type: ignore",
            "# sieve: waive tabs (old)",
            "// ts-check",
            "# pragma",
            "/* global */",
        ] {
            assert!(is_directive(comment), "{comment}");
        }
        for comment in ["# low tide only", "// the crew: all of it is here", "/* */", "#"] {
            assert!(!is_directive(comment), "{comment}");
        }
    }
}
