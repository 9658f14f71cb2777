//! The values of literals ("Numbers", "Strings", RFC 8259, 6 and 7).

use crate::literal::{NumberValue, character_of_units, unescaped, whole};

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
    unescaped(content, escape)
}

/// The character of the escape at the beginning of a text, and the length of the escape in bytes.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let simple = match text.as_bytes().get(1)? {
        letter @ (b'"' | b'\\' | b'/') => char::from(*letter),
        b'b' => '\x08',
        b'f' => '\x0c',
        b'n' => '\n',
        b'r' => '\r',
        b't' => '\t',
        b'u' => {
            let first = u16::from_str_radix(text.get(2..6)?, 16).ok()?;
            let (character, length) = character_of_units(first, &text[6..])?;
            return Some((Some(character), 6 + length));
        }
        _ => return None,
    };
    Some((Some(simple), 2))
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
