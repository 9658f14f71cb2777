//! The values of literals ("Literals").

use crate::literal::{NumberValue, character_of_units, plain, unescaped, whole};

/// The value of a number, whatever its type.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    let number = plain(literal);
    let number = number.strip_suffix('l').unwrap_or(&number);
    match number.as_bytes() {
        [b'0', b'x', digits @ ..] if !digits.contains(&b'.') && !digits.contains(&b'p') => whole(&number[2..], 16),
        [b'0', b'x', ..] => None,
        [b'0', b'b', ..] => whole(&number[2..], 2),
        [b'0', rest @ ..] if !rest.is_empty() && rest.iter().all(u8::is_ascii_digit) => whole(&number[1..], 8),
        digits if digits.iter().all(u8::is_ascii_digit) => whole(number, 10),
        _ => {
            let real = number.strip_suffix(['f', 'd']).unwrap_or(number);
            real.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real)
        }
    }
}

/// The characters of a string; `None` for a text block, whose indentation depends on its lines, and where an escape is none.
pub fn string_value(literal: &str) -> Option<String> {
    if literal.starts_with("\"\"\"") {
        return None;
    }
    unescaped(literal.strip_prefix('"')?.strip_suffix('"').filter(|_| literal.len() > 1)?, escape)
}

/// The character of the escape at the beginning of some code, and the length of the escape in bytes.
fn escape(code: &str) -> Option<(Option<char>, usize)> {
    let simple = match *code.as_bytes().get(1)? {
        b'b' => '\u{8}',
        b's' => ' ',
        b't' => '\t',
        b'n' => '\n',
        b'f' => '\u{c}',
        b'r' => '\r',
        quoted @ (b'"' | b'\'' | b'\\') => char::from(quoted),
        first @ b'0'..=b'7' => {
            let most = if first < b'4' { 3 } else { 2 };
            let digits = code[1..].bytes().take(most).take_while(|byte| matches!(byte, b'0'..=b'7')).count();
            let value = u32::from_str_radix(&code[1..1 + digits], 8).ok()?;
            return Some((char::from_u32(value), 1 + digits));
        }
        b'u' => {
            let letters = code[1..].bytes().take_while(|byte| *byte == b'u').count();
            let digits = code.get(1 + letters..5 + letters)?;
            let (character, more) = character_of_units(u16::from_str_radix(digits, 16).ok()?, &code[5 + letters..])?;
            return Some((Some(character), 5 + letters + more));
        }
        _ => return None,
    };
    Some((Some(simple), 2))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn literals_have_values() {
        assert_eq!(string_value(r#""low \"tide\"\u0021\41\s""#).as_deref(), Some("low \"tide\"!! "));
        for (literal, value) in [("0x_fF", 255), ("0b11L", 3), ("017", 15), ("1_000", 1000), ("0", 0), ("7L", 7)] {
            assert_eq!(number_value(literal), Some(NumberValue::Whole(value)), "{literal}");
        }
        for (literal, value) in [("1.5e2", 150.0), ("1f", 1.0), (".5D", 0.5)] {
            assert_eq!(number_value(literal), Some(NumberValue::Real(value)), "{literal}");
        }
        for none in ["\"", "\"\\q\"", "\"\"\"\nlow\"\"\"", "low"] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }
}
