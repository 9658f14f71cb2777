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
    if content.contains('&') { Cow::Owned(resolved(content)) } else { Cow::Borrowed(content) }
}

fn resolved(content: &str) -> String {
    let mut value = String::with_capacity(content.len());
    let mut rest = content;
    while let Some(at) = rest.find('&') {
        value.push_str(&rest[..at]);
        rest = &rest[at..];
        let reference = rest.find(';').filter(|end| *end < 10).and_then(|end| Some((character(&rest[1..end])?, end)));
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
    fn references_are_resolved() {
        assert_eq!(attribute_value("\"Quay &amp; tide&#x21;\""), "Quay & tide!");
        assert_eq!(attribute_value("'low'"), "low");
        assert_eq!(attribute_value("low"), "low");
        assert_eq!(attribute_value("\"a&b;c & d\""), "a&b;c & d");
        assert_eq!(attribute_value("\"open"), "open");
    }
}
