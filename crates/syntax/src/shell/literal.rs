//! Values of literals.

use crate::literal::NumberValue;

/// The value of a number: decimal, octal after `0`, hexadecimal after `0x`, or `base#digits`.
pub(crate) fn number_value(literal: &str) -> Option<NumberValue> {
    let (digits, base) = match literal.split_once('#') {
        Some((base, digits)) => (digits, base.parse().ok().filter(|base| (2..=36).contains(base))?),
        None => match literal.strip_prefix("0x").or(literal.strip_prefix("0X")) {
            Some(digits) => (digits, 16),
            None if literal.len() > 1 && literal.starts_with('0') => (literal, 8),
            None => (literal, 10),
        },
    };
    u128::from_str_radix(digits, base).ok().map(NumberValue::Whole)
}

/// The characters that a text in single quotes represents.
pub(crate) fn string_value(literal: &str) -> Option<String> {
    Some(literal.strip_prefix('\'')?.strip_suffix('\'')?.to_string())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_have_their_base() {
        for (literal, value) in [("12", 12), ("012", 10), ("0x1f", 31), ("2#101", 5), ("0", 0)] {
            assert_eq!(number_value(literal), Some(NumberValue::Whole(value)), "{literal}");
        }
        assert_eq!(number_value("08"), None);
    }
}
