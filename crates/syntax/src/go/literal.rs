//! The values of literals ("Integer literals" to "String literals").

use crate::literal::{NumberValue, plain, unescaped, whole};

/// The value of a number.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    let number = plain(literal);
    if let Some(imaginary) = number.strip_suffix('i').filter(|_| !number.starts_with("0x")) {
        return imaginary.parse().ok().map(NumberValue::Imaginary);
    }
    match number.as_bytes() {
        [b'0', b'x', ..] => whole(&number[2..], 16),
        [b'0', b'b', ..] => whole(&number[2..], 2),
        [b'0', b'o', ..] => whole(&number[2..], 8),
        [b'0', rest @ ..] if !rest.is_empty() && rest.iter().all(u8::is_ascii_digit) => whole(&number[1..], 8),
        digits if digits.iter().all(u8::is_ascii_digit) => whole(&number, 10),
        _ => number.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real),
    }
}

/// The characters of a string; `None` where it holds bytes that are none, or an escape that is none.
pub fn string_value(literal: &str) -> Option<String> {
    let inner = |quote: char| literal.strip_prefix(quote)?.strip_suffix(quote).filter(|_| literal.len() > 1);
    // Carriage returns in a raw string do not count.
    inner('`').map(|raw| raw.replace('\r', "")).or_else(|| unescaped(inner('"')?, escape))
}

/// The character of the escape at the beginning of a text, and the length of the escape in bytes.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let letter = *text.as_bytes().get(1)?;
    let of_digits = |first: usize, digits: usize, base: u32| {
        let code = u32::from_str_radix(text.get(first..first + digits)?, base).ok()?;
        Some((Some(char::from_u32(code)?), first + digits))
    };
    let simple = match letter {
        b'a' => '\u{7}',
        b'b' => '\u{8}',
        b'f' => '\u{c}',
        b'n' => '\n',
        b'r' => '\r',
        b't' => '\t',
        b'v' => '\u{b}',
        b'\\' | b'"' => char::from(letter),
        // Bytes above 127 are parts of characters.
        b'x' => return of_digits(2, 2, 16).filter(|(value, _)| value.is_some_and(|value| value.is_ascii())),
        b'0'..=b'7' => return of_digits(1, 3, 8).filter(|(value, _)| value.is_some_and(|value| value.is_ascii())),
        b'u' => return of_digits(2, 4, 16),
        b'U' => return of_digits(2, 8, 16),
        _ => return None,
    };
    Some((Some(simple), 2))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn literals_have_values() {
        assert_eq!(string_value(r#""low \"tide\"\u0021\041\x21""#).as_deref(), Some("low \"tide\"!!!"));
        assert_eq!(string_value("`a\r\n\\n`").as_deref(), Some("a\n\\n"));
        for (literal, value) in [("0x_ff", 255), ("0b11", 3), ("0o17", 15), ("017", 15), ("1_000", 1000), ("0", 0)] {
            assert_eq!(number_value(literal), Some(NumberValue::Whole(value)), "{literal}");
        }
        assert_eq!(number_value("1.5e2"), Some(NumberValue::Real(150.0)));
        assert_eq!(number_value("2i"), Some(NumberValue::Imaginary(2.0)));
        for none in ["\"", "\"\\q\"", "\"\\xff\"", "low"] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }
}
