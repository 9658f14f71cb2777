//! Regular expressions in filters (RFC 9535, 2.4.6 and 2.4.7; I-Regexp, RFC 9485).

use regex::RegexBuilder;

use super::item::Item;

/// Larger expressions match nothing, in bytes once they are compiled.
const LARGEST: usize = 1 << 18;

/// Whether a string matches an expression, as a whole or somewhere. What is no string or no expression matches nothing.
pub(super) fn matches(text: &Item, pattern: &Item, is_whole: bool) -> bool {
    let (Item::String(text), Item::String(pattern)) = (text, pattern) else { return false };
    let pattern = translated(pattern);
    let pattern = if is_whole { format!("^(?:{pattern})$") } else { pattern };
    let compiled = RegexBuilder::new(&pattern).size_limit(LARGEST).build();
    compiled.is_ok_and(|compiled| compiled.is_match(text))
}

/// The same expression for the engine at hand: there a dot takes a carriage return, here it does not.
fn translated(pattern: &str) -> String {
    let mut out = String::with_capacity(pattern.len() + 8);
    let (mut is_escaped, mut in_class) = (false, false);
    for character in pattern.chars() {
        match character {
            _ if is_escaped => is_escaped = false,
            '\\' => is_escaped = true,
            '[' => in_class = true,
            ']' => in_class = false,
            '.' if !in_class => {
                out.push_str("[^\\n\\r]");
                continue;
            }
            _ => {}
        }
        out.push(character);
    }
    out
}
