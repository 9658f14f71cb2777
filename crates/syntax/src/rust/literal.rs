//! The values of literals ("Literal expressions").

use crate::literal::{NumberValue, plain, unescaped, whole, whole_with_base};

/// The types that a number may name behind its digits.
const SUFFIXES: &[&str] =
    &["u8", "u16", "u32", "u64", "u128", "usize", "i8", "i16", "i32", "i64", "i128", "isize", "f32", "f64"];

/// The value of a number, whatever its type.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    let number = plain(literal);
    let is_hexadecimal = number.starts_with("0x");
    let suffix =
        SUFFIXES.iter().find(|suffix| number.ends_with(**suffix) && !(is_hexadecimal && suffix.starts_with('f')));
    let digits = suffix.map_or(&*number, |suffix| &number[..number.len() - suffix.len()]);
    if let Some(value) = whole_with_base(digits) {
        return value;
    }
    let is_real = suffix.is_some_and(|suffix| suffix.starts_with('f'));
    if !is_real && digits.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(digits, 10);
    }
    digits.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real)
}

/// The characters of a string; `None` where it holds bytes, or an escape that is none.
pub fn string_value(literal: &str) -> Option<String> {
    let literal = literal.strip_prefix('c').unwrap_or(literal);
    if let Some(raw) = literal.strip_prefix('r') {
        let hashes = raw.bytes().take_while(|byte| *byte == b'#').count();
        let inner = raw.get(hashes..raw.len().checked_sub(hashes)?)?;
        return Some(inner.strip_prefix('"')?.strip_suffix('"')?.to_string());
    }
    unescaped(literal.strip_prefix('"')?.strip_suffix('"').filter(|_| literal.len() > 1)?, escape)
}

/// The character of the escape at the beginning of some code, none for a joined line, and the length of the escape in bytes.
fn escape(code: &str) -> Option<(Option<char>, usize)> {
    let simple = match *code.as_bytes().get(1)? {
        b'n' => '\n',
        b'r' => '\r',
        b't' => '\t',
        b'0' => '\0',
        quoted @ (b'\\' | b'\'' | b'"') => char::from(quoted),
        b'\n' | b'\r' => {
            let next = code[1..].trim_start_matches([' ', '\t', '\n', '\r']);
            return Some((None, code.len() - next.len()));
        }
        b'x' => {
            let value = u32::from_str_radix(code.get(2..4)?, 16).ok().filter(|value| *value < 128)?;
            return Some((char::from_u32(value), 4));
        }
        b'u' => {
            let digits = code.get(2..)?.strip_prefix('{')?.split_once('}')?.0;
            let value = char::from_u32(u32::from_str_radix(&digits.replace('_', ""), 16).ok()?)?;
            return Some((Some(value), digits.len() + 4));
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
        assert_eq!(string_value(r#""low \"tide\"\u{2_1}\x21""#).as_deref(), Some("low \"tide\"!!"));
        assert_eq!(string_value("\"low \\\n   tide\"").as_deref(), Some("low tide"));
        assert_eq!(string_value("r##\"a\"#\\n\"##").as_deref(), Some("a\"#\\n"));
        assert_eq!(string_value("c\"low\"").as_deref(), Some("low"));
        for (literal, value) in
            [("0x_ff", 255), ("0b11u8", 3), ("0o17", 15), ("017", 17), ("1_000_usize", 1000), ("0xf32", 0xf32)]
        {
            assert_eq!(number_value(literal), Some(NumberValue::Whole(value)), "{literal}");
        }
        for (literal, value) in [("1.5e2", 150.0), ("1.", 1.0), ("2f64", 2.0), ("1e3_f32", 1000.0)] {
            assert_eq!(number_value(literal), Some(NumberValue::Real(value)), "{literal}");
        }
        for none in ["\"", "\"\\q\"", "b\"a\"", "r#\"", "low"] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }
}
