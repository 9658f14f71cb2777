//! The values of literals ("Numeric Literals", "String Literals").

use crate::literal::{NumberValue, plain, unescaped, whole, whole_with_base};

/// The value of a number literal.
pub(crate) fn number_value(literal: &str) -> Option<NumberValue> {
    let plain = plain(literal);
    let plain = plain.strip_suffix('n').filter(|whole| !whole.is_empty()).unwrap_or(&plain);
    if let Some(value) = whole_with_base(plain) {
        return value;
    }
    if plain.bytes().all(|byte| byte.is_ascii_digit()) {
        let octal = plain.len() > 1 && plain.starts_with('0') && plain.bytes().all(|byte| byte < b'8');
        return whole(plain, if octal { 8 } else { 10 });
    }
    plain.parse().ok().map(NumberValue::Real)
}

/// The characters that a string literal represents; `None` where they are no Unicode text.
pub(crate) fn string_value(literal: &str) -> Option<String> {
    let quote = literal.chars().next().filter(|first| matches!(first, '"' | '\'' | '`'))?;
    let content = literal.strip_prefix(quote)?.strip_suffix(quote)?;
    if quote == '`' && content.contains("${") {
        return None;
    }
    unescaped(content, escape)
}

/// The character that the escape at the start of `text` represents (none for a joined line), and the escape's length.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let letter = text[1..].chars().next()?;
    let simple = |character| Some((Some(character), 2));
    match letter {
        '\r' => Some((None, if text[2..].starts_with('\n') { 3 } else { 2 })),
        '\n' | '\u{2028}' | '\u{2029}' => Some((None, 1 + letter.len_utf8())),
        'b' => simple('\x08'),
        'f' => simple('\x0c'),
        'n' => simple('\n'),
        'r' => simple('\r'),
        't' => simple('\t'),
        'v' => simple('\x0b'),
        'x' => coded(text.get(2..4)?, 4),
        'u' if text[2..].starts_with('{') => {
            let digits = text[3..].split('}').next()?;
            coded(digits, digits.len() + 4)
        }
        'u' => coded(text.get(2..6)?, 6),
        '0'..='7' => {
            let most = if letter < '4' { 3 } else { 2 };
            let digits = text[1..].bytes().take(most).take_while(|byte| (b'0'..=b'7').contains(byte)).count();
            let code = u32::from_str_radix(&text[1..1 + digits], 8).ok()?;
            Some((char::from_u32(code), 1 + digits))
        }
        _ => Some((Some(letter), 1 + letter.len_utf8())),
    }
}

/// Half of a surrogate pair alone is no character.
fn coded(digits: &str, length: usize) -> Option<(Option<char>, usize)> {
    let code = u32::from_str_radix(digits, 16).ok()?;
    Some((Some(char::from_u32(code)?), length))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn escapes_are_resolved() {
        assert_eq!(string_value(r#""a\tb\x41\u00e9\u{1f30a}""#).as_deref(), Some("a\tbAé🌊"));
        assert_eq!(string_value("'it\\\ngoes'").as_deref(), Some("itgoes"));
        assert_eq!(string_value(r"'\q\0'").as_deref(), Some("q\0"));
        assert_eq!(string_value(r"'\ud83c'"), None);
    }

    #[test]
    fn numbers_have_values() {
        assert_eq!(number_value("0XFF"), Some(NumberValue::Whole(255)));
        assert_eq!(number_value("1_000n"), Some(NumberValue::Whole(1000)));
        assert_eq!(number_value("017"), Some(NumberValue::Whole(15)));
        assert_eq!(number_value("089"), Some(NumberValue::Whole(89)));
        assert_eq!(number_value("5."), Some(NumberValue::Real(5.0)));
        assert_eq!(number_value(".5e1"), Some(NumberValue::Real(5.0)));
    }
}
