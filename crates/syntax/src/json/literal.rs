//! The values of literals ("Numbers", "Strings", RFC 8259, 6 and 7).

use crate::literal::{NumberValue, whole};

/// The value of a number; `None` where it is none, or too large to be known.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    if literal.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(literal, 10);
    }
    literal.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real)
}

/// The characters of a string; `None` where they are no Unicode text: an escape that is none, or half of a surrogate pair.
pub fn string_value(literal: &str) -> Option<String> {
    let content = literal.strip_prefix('"')?.strip_suffix('"').filter(|_| literal.len() > 1)?;
    let mut value = String::with_capacity(content.len());
    let mut rest = content;
    while let Some(at) = rest.find('\\') {
        value.push_str(&rest[..at]);
        let (character, length) = escape(&rest[at..])?;
        value.push(character);
        rest = &rest[at + length..];
    }
    value.push_str(rest);
    Some(value)
}

/// The character of the escape at the beginning of a text, and the length of the escape in bytes.
fn escape(text: &str) -> Option<(char, usize)> {
    let simple = match text.as_bytes().get(1)? {
        letter @ (b'"' | b'\\' | b'/') => char::from(*letter),
        b'b' => '\x08',
        b'f' => '\x0c',
        b'n' => '\n',
        b'r' => '\r',
        b't' => '\t',
        b'u' => return coded(text),
        _ => return None,
    };
    Some((simple, 2))
}

/// A character by its code: one unit of UTF-16, or two.
fn coded(text: &str) -> Option<(char, usize)> {
    let unit = |at: usize| u16::from_str_radix(text.get(at..at + 4)?, 16).ok();
    let first = unit(2)?;
    if let Some(character) = char::from_u32(first.into()) {
        return Some((character, 6));
    }
    let second = text.get(6..8).filter(|escape| *escape == "\\u").and_then(|_| unit(8))?;
    let character = char::decode_utf16([first, second]).next()?.ok()?;
    Some((character, 12))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn strings_have_values() {
        assert_eq!(string_value(r#""a\t\/\u00e9\ud83c\udf0a\"""#).as_deref(), Some("a\t/é🌊\""));
        for none in [r#""\ud83c""#, r#""\udf0a""#, r#""\ud83c\u0041""#, r#""\q""#, r#""\u12""#, "\"", "'a'", "a"] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }

    #[test]
    fn numbers_have_values() {
        assert_eq!(number_value("120"), Some(NumberValue::Whole(120)));
        assert_eq!(number_value("-1.5e2"), Some(NumberValue::Real(-150.0)));
        assert_eq!(number_value("1e999"), None);
        assert_eq!(number_value("-"), None);
    }
}
