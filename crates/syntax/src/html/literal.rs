//! The values of attributes ("Character references", HTML, 13.1.4).

use std::borrow::Cow;

use crate::literal::{NumberValue, whole};

/// The value of a number in an attribute that holds one.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    literal.bytes().all(|byte| byte.is_ascii_digit()).then(|| whole(literal, 10)).flatten()
}

/// The characters of an attribute's value.
pub fn string_value(literal: &str) -> Option<String> {
    Some(attribute_value(literal).into_owned())
}

/// The value of an attribute as it is written, with or without quotes. Character references by number and the few that everybody uses are
/// resolved, all others stay as they are.
pub fn attribute_value(literal: &str) -> Cow<'_, str> {
    let quoted = literal.chars().next().filter(|quote| matches!(quote, '"' | '\''));
    let content = match quoted {
        Some(quote) => literal[1..].strip_suffix(quote).unwrap_or(&literal[1..]),
        None => literal,
    };
    markup_text(content)
}

/// The text between tags as it is written, references resolved in the same way.
pub fn markup_text(written: &str) -> Cow<'_, str> {
    if written.contains('&') { Cow::Owned(resolved(written)) } else { Cow::Borrowed(written) }
}

/// How many bytes a reference has at most, from `&` to `;`.
const LONGEST: usize = 10;

fn resolved(content: &str) -> String {
    let mut value = String::with_capacity(content.len());
    let mut rest = content;
    while let Some(at) = rest.find('&') {
        value.push_str(&rest[..at]);
        rest = &rest[at..];
        let end = rest.bytes().take(LONGEST).position(|byte| byte == b';');
        let reference = end.and_then(|end| Some((character(&rest[1..end])?, end)));
        match reference {
            Some((character, end)) => {
                value.push(character);
                rest = &rest[end + 1..];
            }
            None => {
                value.push('&');
                rest = &rest[1..];
            }
        }
    }
    value.push_str(rest);
    value
}

/// The character that a reference stands for, by what is between `&` and `;`.
fn character(reference: &str) -> Option<char> {
    if let Some(number) = reference.strip_prefix('#') {
        let code = match number.strip_prefix(['x', 'X']) {
            Some(digits) => u32::from_str_radix(digits, 16),
            None => number.parse(),
        };
        return char::from_u32(code.ok()?);
    }
    Some(match reference {
        "amp" => '&',
        "lt" => '<',
        "gt" => '>',
        "quot" => '"',
        "apos" => '\'',
        "nbsp" => '\u{a0}',
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn quotes_between_tags_are_text() {
        assert_eq!(markup_text("\"Quay&quot;"), "\"Quay\"");
        assert_eq!(markup_text("\""), "\"");
    }

    #[test]
    fn references_are_resolved() {
        assert_eq!(attribute_value("\"Quay &amp; tide&#x21;\""), "Quay & tide!");
        assert_eq!(attribute_value("'low'"), "low");
        assert_eq!(attribute_value("low"), "low");
        assert_eq!(attribute_value("\"a&b;c & d\""), "a&b;c & d");
        assert_eq!(attribute_value("\"open"), "open");
    }
}
