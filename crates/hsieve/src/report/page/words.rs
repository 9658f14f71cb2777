//! Words and ids that several parts of the page have.

use crate::screen::safe;

/// Words as a sentence.
pub(super) fn sentence(text: &str) -> String {
    let mut characters = text.chars();
    let first = characters.next().map_or(String::new(), |first| first.to_uppercase().collect());
    let end = if text.ends_with(['.', '!', '?']) { "" } else { "." };
    safe(&format!("{first}{}{end}", characters.as_str()))
}

/// The id of a rule's entry.
pub(super) fn anchor(rule: &str) -> String {
    format!("rule-{}", rule.replace(':', "."))
}
