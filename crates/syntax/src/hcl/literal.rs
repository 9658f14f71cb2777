//! The values of literals ("Numeric Literals", "Template Expressions", HCL native syntax).

use crate::literal::{NumberValue, unescaped, whole};

/// The value of a number.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    if literal.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(literal, 10);
    }
    literal.parse().ok().filter(|value: &f64| value.is_finite()).map(NumberValue::Real)
}

/// The characters of a quoted string without parts; `None` where an escape is none.
pub fn string_value(literal: &str) -> Option<String> {
    let content = literal.strip_prefix('"')?.strip_suffix('"').filter(|_| literal.len() > 1)?;
    let unescaped = unescaped(content, escape)?;
    // Doubled, the marks of a part stand for themselves.
    Some(unescaped.replace("$${", "${").replace("%%{", "%{"))
}

/// The character of the escape at the beginning of a text, and the length of the escape in bytes.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let digits = match text.as_bytes().get(1)? {
        b'n' => return Some((Some('\n'), 2)),
        b'r' => return Some((Some('\r'), 2)),
        b't' => return Some((Some('\t'), 2)),
        letter @ (b'"' | b'\\') => return Some((Some(char::from(*letter)), 2)),
        b'u' => 4,
        b'U' => 8,
        _ => return None,
    };
    let code = u32::from_str_radix(text.get(2..2 + digits)?, 16).ok()?;
    Some((Some(char::from_u32(code)?), 2 + digits))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn literals_have_values() {
        assert_eq!(string_value(r#""low \"tide\"\u0021 $${x}""#).as_deref(), Some("low \"tide\"! ${x}"));
        assert_eq!(number_value("12"), Some(NumberValue::Whole(12)));
        assert_eq!(number_value("1.5e2"), Some(NumberValue::Real(150.0)));
        for none in ["\"", "\"\\q\"", "low"] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }
}
