//! The values of literals, as their language defines them.

use std::borrow::Cow;

/// The value of a number literal.
#[derive(Debug, Clone, PartialEq)]
pub enum NumberValue {
    /// A whole number that 128 bits hold.
    Whole(u128),
    /// Any other real number.
    Real(f64),
    /// An imaginary number.
    Imaginary(f64),
}

/// A number without what only helps to read it: in small letters, and without underscores.
pub(crate) fn plain(number: &str) -> Cow<'_, str> {
    if number.bytes().any(|byte| byte == b'_' || byte.is_ascii_uppercase()) {
        Cow::Owned(number.replace('_', "").to_ascii_lowercase())
    } else {
        Cow::Borrowed(number)
    }
}

/// The characters that a string represents, by what the escape at the beginning of some code represents (nothing for a joined line), and
/// how long the escape is in bytes. `None` where one cannot be known.
pub(crate) fn unescaped(content: &str, escape: impl Fn(&str) -> Option<(Option<char>, usize)>) -> Option<String> {
    let mut value = String::with_capacity(content.len());
    let mut rest = content;
    while let Some(at) = rest.find('\\') {
        value.push_str(&rest[..at]);
        let (character, length) = escape(&rest[at..])?;
        value.extend(character);
        rest = &rest[at + length..];
    }
    value.push_str(rest);
    Some(value)
}

/// A character by the code of a unit of UTF-16, perhaps the first of two, of which the second is written behind it as `\u` and four
/// digits; and the length of the second in bytes.
pub(crate) fn character_of_units(first: u16, behind: &str) -> Option<(char, usize)> {
    if let Some(character) = char::from_u32(first.into()) {
        return Some((character, 0));
    }
    let second = u16::from_str_radix(behind.strip_prefix("\\u")?.get(..4)?, 16).ok()?;
    let character = char::decode_utf16([first, second]).next()?.ok()?;
    Some((character, 6))
}

impl NumberValue {
    /// The value as a real number, if it is one.
    pub fn as_real(&self) -> Option<f64> {
        match self {
            NumberValue::Whole(value) => Some(*value as f64),
            NumberValue::Real(value) => Some(*value),
            NumberValue::Imaginary(_) => None,
        }
    }
}

/// The value of a whole number with the base in front, as `0x1f`, `0o17` and `0b1` have it, written in lower case without marks between
/// digits. `None` where there is no base; nothing within where the digits do not fit.
pub(crate) fn whole_with_base(plain: &str) -> Option<Option<NumberValue>> {
    let base = match plain.get(..2)? {
        "0x" => 16,
        "0o" => 8,
        "0b" => 2,
        _ => return None,
    };
    Some(whole(&plain[2..], base))
}

/// The value of a whole number.
pub(crate) fn whole(digits: &str, base: u32) -> Option<NumberValue> {
    u128::from_str_radix(digits, base).ok().map(NumberValue::Whole)
}
