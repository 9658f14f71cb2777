//! What scalars without quotes are ("Core Schema", YAML 1.2.2, 10.3).

use crate::literal::{NumberValue, whole};
use crate::tree::Kind;

/// The kind of a plain scalar.
pub(super) fn kind_of(scalar: &str) -> Kind {
    match scalar.as_bytes().first() {
        None => return Kind::Null,
        Some(b'0'..=b'9' | b'-' | b'+' | b'.') => {}
        Some(b'n' | b'N' | b'~' | b't' | b'T' | b'f' | b'F') => {
            return match scalar {
                "null" | "Null" | "NULL" | "~" => Kind::Null,
                "true" | "True" | "TRUE" | "false" | "False" | "FALSE" => Kind::Boolean,
                _ => Kind::String,
            };
        }
        Some(_) => return Kind::String,
    }
    if is_number(scalar) { Kind::Number } else { Kind::String }
}

fn is_number(scalar: &str) -> bool {
    let all = |digits: &str, is_digit: fn(u8) -> bool| !digits.is_empty() && digits.bytes().all(is_digit);
    if let Some(digits) = scalar.strip_prefix("0x") {
        return all(digits, |byte| byte.is_ascii_hexdigit());
    }
    if let Some(digits) = scalar.strip_prefix("0o") {
        return all(digits, |byte| matches!(byte, b'0'..=b'7'));
    }
    if matches!(scalar, ".nan" | ".NaN" | ".NAN") {
        return true;
    }
    let unsigned = scalar.strip_prefix(['+', '-']).unwrap_or(scalar);
    matches!(unsigned, ".inf" | ".Inf" | ".INF") || is_decimal(unsigned)
}

/// `( \. [0-9]+ | [0-9]+ ( \. [0-9]* )? ) ( [eE] [-+]? [0-9]+ )?`
fn is_decimal(unsigned: &str) -> bool {
    let all = |digits: &str| digits.bytes().all(|byte| byte.is_ascii_digit());
    let (mantissa, exponent) = match unsigned.find(['e', 'E']) {
        Some(at) => (&unsigned[..at], Some(&unsigned[at + 1..])),
        None => (unsigned, None),
    };
    let exponent = exponent.map(|digits| digits.strip_prefix(['+', '-']).unwrap_or(digits));
    let (whole, fraction) = mantissa.split_once('.').unwrap_or((mantissa, ""));
    all(whole)
        && all(fraction)
        && !(whole.is_empty() && fraction.is_empty())
        && exponent.is_none_or(|digits| !digits.is_empty() && all(digits))
}

/// The value of a number, without its sign where it is whole; `None` where it is none, or too large to be known.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    if let Some(digits) = literal.strip_prefix("0x") {
        return whole(digits, 16);
    }
    if let Some(digits) = literal.strip_prefix("0o") {
        return whole(digits, 8);
    }
    let unsigned = literal.strip_prefix(['+', '-']).unwrap_or(literal);
    let sign = if literal.starts_with('-') { -1.0 } else { 1.0 };
    match unsigned {
        ".inf" | ".Inf" | ".INF" => return Some(NumberValue::Real(sign * f64::INFINITY)),
        ".nan" | ".NaN" | ".NAN" => return Some(NumberValue::Real(f64::NAN)),
        _ => {}
    }
    if !literal.starts_with('-') && unsigned.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(unsigned, 10);
    }
    is_decimal(unsigned).then(|| unsigned.parse::<f64>().ok().map(|value| NumberValue::Real(sign * value)))?
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn scalars_are_what_the_schema_says() {
        for number in ["0", "-17", "+12", "0o14", "0xC", ".5", "1.", "-1.5e-3", "12e03", "-.inf", ".NaN", "007"] {
            assert_eq!(kind_of(number), Kind::Number, "{number}");
        }
        for string in ["-", ".", "1_000", "0b1", "1e", "e3", "yes", "on", "12:30", "+-1", "-0x1", ".e1", "True!", "nan"]
        {
            assert_eq!(kind_of(string), Kind::String, "{string}");
        }
        assert_eq!([kind_of("~"), kind_of("NULL"), kind_of("False")], [Kind::Null, Kind::Null, Kind::Boolean]);
    }

    #[test]
    fn numbers_have_values() {
        assert_eq!(number_value("0o14"), Some(NumberValue::Whole(12)));
        assert_eq!(number_value("-1.5e2"), Some(NumberValue::Real(-150.0)));
        assert_eq!(number_value("-.inf"), Some(NumberValue::Real(f64::NEG_INFINITY)));
        assert_eq!(number_value("tide"), None);
    }
}
