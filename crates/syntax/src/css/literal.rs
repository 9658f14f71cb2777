//! The values of literals ("Consume an escaped code point", "Consume a number", CSS Syntax 3, 4.3).

use std::borrow::Cow;

use super::lexer::end_of_number;
use crate::literal::{NumberValue, unescaped, whole};

/// The value of a number, of the number before a unit, or of the one before a percent sign.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    let number = dimension(literal)?.0;
    if number.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(number, 10);
    }
    number.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real)
}

/// The number and the unit of a dimension, each as it is written.
pub fn dimension(literal: &str) -> Option<(&str, &str)> {
    let begins =
        literal.trim_start_matches(['+', '-']).trim_start_matches('.').starts_with(|c: char| c.is_ascii_digit());
    begins.then(|| literal.split_at(end_of_number(literal.as_bytes(), 0)))
}

/// The characters of a string, quotes and escapes resolved.
pub fn string_value(literal: &str) -> Option<String> {
    let quote = literal.chars().next().filter(|quote| matches!(quote, '"' | '\''))?;
    let content = literal[1..].strip_suffix(quote)?;
    unescaped(content, escape)
}

/// A name with its escapes resolved.
pub fn name_value(name: &str) -> Cow<'_, str> {
    if !name.contains('\\') {
        return Cow::Borrowed(name);
    }
    unescaped(name, escape).map_or(Cow::Borrowed(name), Cow::Owned)
}

/// The character of the escape at the beginning of a text (none for a joined line), and the escape's length.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let after = &text[1..];
    let digits = after.bytes().take(6).take_while(u8::is_ascii_hexdigit).count();
    if digits == 0 {
        let character = match after.chars().next() {
            None => return Some((Some('\u{fffd}'), 1)),
            Some('\r') if after.starts_with("\r\n") => return Some((None, 3)),
            Some('\n' | '\r' | '\x0c') => return Some((None, 2)),
            Some(character) => character,
        };
        return Some((Some(character), 1 + character.len_utf8()));
    }
    let code = u32::from_str_radix(&after[..digits], 16).ok()?;
    let character = char::from_u32(code).filter(|character| *character != '\0').unwrap_or('\u{fffd}');
    let behind = match after.as_bytes().get(digits..) {
        Some([b'\r', b'\n', ..]) => 2,
        Some([b' ' | b'\t' | b'\n' | b'\r' | b'\x0c', ..]) => 1,
        _ => 0,
    };
    Some((Some(character), 1 + digits + behind))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn literals_have_values() {
        assert_eq!(string_value(r#""a\"b\26 c""#).as_deref(), Some("a\"b&c"));
        assert_eq!(string_value("'low\\\ntide'").as_deref(), Some("lowtide"));
        assert_eq!(name_value("\\31 st"), "1st");
        assert_eq!(dimension("-1.5e3px"), Some(("-1.5e3", "px")));
        assert_eq!(dimension("1em"), Some(("1", "em")));
        assert_eq!(number_value("50%"), Some(NumberValue::Whole(50)));
        assert_eq!(number_value("+.5s"), Some(NumberValue::Real(0.5)));
        for none in ["", "px", "\"", "'a", "-", "."] {
            assert!(number_value(none).is_none() && string_value(none).is_none(), "{none}");
        }
    }
}
