//! The values of literals ("Literals").

use crate::literal::{NumberValue, plain, unescaped, whole};

/// The value of a number, whatever its type.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    let number = plain(literal);
    match number.as_bytes() {
        [b'0', b'x', ..] => whole(number[2..].trim_end_matches(['u', 'l']), 16),
        [b'0', b'b', ..] => whole(number[2..].trim_end_matches(['u', 'l']), 2),
        _ => {
            let digits = number.trim_end_matches(['u', 'l']);
            if digits.bytes().all(|byte| byte.is_ascii_digit()) {
                return whole(digits, 10);
            }
            let real = number.strip_suffix(['f', 'd', 'm']).unwrap_or(&number);
            real.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real)
        }
    }
}

/// The characters of a string; `None` for a raw one, whose indentation depends on its lines, for one with holes, and where an escape is none.
pub fn string_value(literal: &str) -> Option<String> {
    let literal = literal.strip_suffix("u8").or_else(|| literal.strip_suffix("U8")).unwrap_or(literal);
    if let Some(verbatim) = literal.strip_prefix("@\"") {
        return Some(verbatim.strip_suffix('"')?.replace("\"\"", "\""));
    }
    if literal.starts_with("\"\"\"") {
        return None;
    }
    unescaped(literal.strip_prefix('"')?.strip_suffix('"').filter(|_| literal.len() > 1)?, escape)
}

/// The character of the escape at the beginning of some code, and the length of the escape in bytes.
fn escape(code: &str) -> Option<(Option<char>, usize)> {
    let simple = match *code.as_bytes().get(1)? {
        b'0' => '\0',
        b'a' => '\u{7}',
        b'b' => '\u{8}',
        b'e' => '\u{1b}',
        b'f' => '\u{c}',
        b'n' => '\n',
        b'r' => '\r',
        b't' => '\t',
        b'v' => '\u{b}',
        quoted @ (b'"' | b'\'' | b'\\') => char::from(quoted),
        b'x' => {
            let digits = code[2..].bytes().take(4).take_while(u8::is_ascii_hexdigit).count();
            let value = u32::from_str_radix(code.get(2..2 + digits)?, 16).ok()?;
            return Some((Some(char::from_u32(value)?), 2 + digits));
        }
        b'u' => {
            let unit = u16::from_str_radix(code.get(2..6)?, 16).ok()?;
            let (character, more) = crate::literal::character_of_units(unit, &code[6..])?;
            return Some((Some(character), 6 + more));
        }
        b'U' => {
            let value = u32::from_str_radix(code.get(2..10)?, 16).ok()?;
            return Some((Some(char::from_u32(value)?), 10));
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
        for (literal, value) in [
            (r#""low \"tide\"\u0021\x41\t""#, "low \"tide\"!A\t"),
            (r#"@"c:\quay ""north""""#, r#"c:\quay "north""#),
            (r#""\U0001F6A2"u8"#, "\u{1f6a2}"),
            (r#""\ud83d\udea2""#, "\u{1f6a2}"),
        ] {
            assert_eq!(string_value(literal).as_deref(), Some(value), "{literal}");
        }
        for (literal, value) in [("0x_fFuL", 255), ("0b11", 3), ("017", 17), ("1_000L", 1000), ("0", 0)] {
            assert_eq!(number_value(literal), Some(NumberValue::Whole(value)), "{literal}");
        }
        for (literal, value) in [("1.5e2", 150.0), ("1f", 1.0), (".5M", 0.5), ("2d", 2.0)] {
            assert_eq!(number_value(literal), Some(NumberValue::Real(value)), "{literal}");
        }
        for none in ["\"", "\"\\q\"", "\"\"\"low\"\"\"", "low", "$\"{low}\""] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }
}
