//! String and number literals: their parts, their values, and the escapes that they may hold.

use crate::literal::{NumberValue, plain, unescaped, whole, whole_with_base};
use crate::tree::Problem;

/// A string or bytes literal cut into its parts.
pub(crate) struct StringLiteral<'s> {
    prefix: &'s str,
    content: &'s str,
}

impl<'s> StringLiteral<'s> {
    /// Cuts up a token; an unclosed literal runs to the token's end.
    pub(crate) fn of(token: &'s str) -> StringLiteral<'s> {
        let quote_at = token.find(['"', '\'']).unwrap_or(token.len());
        let (prefix, rest) = token.split_at(quote_at);
        let quote = if rest.starts_with("\"\"\"") || rest.starts_with("'''") { 3 } else { 1.min(rest.len()) };
        let closing = &rest[..quote];
        let content = &rest[quote..];
        StringLiteral { prefix, content: content.strip_suffix(closing).unwrap_or(content) }
    }

    pub(crate) fn is_bytes(&self) -> bool {
        self.prefix.contains(['b', 'B'])
    }

    fn is_raw(&self) -> bool {
        self.prefix.contains(['r', 'R'])
    }

    /// What is wrong with its content.
    pub(crate) fn problem(&self) -> Option<Problem> {
        if self.is_bytes() && !self.content.is_ascii() {
            return Some(Problem::Rule("a bytes literal holds only ASCII characters; write others as escapes"));
        }
        if self.is_raw() { None } else { escape_problem(self.content, self.is_bytes()) }
    }

    /// The characters it represents; characters given by name are not known here.
    pub(crate) fn value(&self) -> Option<String> {
        if self.is_raw() || !self.content.contains('\\') {
            return Some(self.content.to_string());
        }
        unescaped(self.content, |text| escape(text, self.is_bytes()))
    }
}

/// The characters that a string or bytes literal represents.
pub(crate) fn string_value(literal: &str) -> Option<String> {
    StringLiteral::of(literal).value()
}

/// The character that the escape at the start of `text` represents (none for a joined line), and the escape's length.
/// An escape that the language does not know represents itself.
fn escape(text: &str, bytes: bool) -> Option<(Option<char>, usize)> {
    let letter = text[1..].chars().next()?;
    let simple = |character| Some((Some(character), 2));
    match letter {
        '\n' => Some((None, 2)),
        '\r' => Some((None, if text[2..].starts_with('\n') { 3 } else { 2 })),
        'a' => simple('\x07'),
        'b' => simple('\x08'),
        'f' => simple('\x0c'),
        'n' => simple('\n'),
        'r' => simple('\r'),
        't' => simple('\t'),
        'v' => simple('\x0b'),
        '\\' | '\'' | '"' => simple(letter),
        '0'..='7' => {
            let digits = text[1..].bytes().take(3).take_while(|byte| (b'0'..=b'7').contains(byte)).count();
            let code = u32::from_str_radix(&text[1..1 + digits], 8).ok()?;
            Some((Some(char::from_u32(code)?), 1 + digits))
        }
        'x' => coded(text, 2),
        'u' if !bytes => coded(text, 4),
        'U' if !bytes => coded(text, 8),
        'N' if !bytes => None,
        _ => Some((Some('\\'), 1)),
    }
}

fn coded(text: &str, digits: usize) -> Option<(Option<char>, usize)> {
    let code = u32::from_str_radix(text.get(2..2 + digits)?, 16).ok()?;
    Some((Some(char::from_u32(code)?), 2 + digits))
}

/// The first escape in the content of a literal that is not raw and that the language refuses.
pub(crate) fn escape_problem(content: &str, bytes: bool) -> Option<Problem> {
    let text = content.as_bytes();
    let mut at = 0;
    while let Some(found) = memchr::memchr(b'\\', &text[at..]) {
        at += found;
        let wrong = match text.get(at + 1) {
            Some(b'x') => !has_hexadecimal_digits(text, at + 2, 2),
            Some(b'u') if !bytes => !has_hexadecimal_digits(text, at + 2, 4),
            Some(b'U') if !bytes => {
                !has_hexadecimal_digits(text, at + 2, 8) || &text[at + 2..at + 6] > b"0010".as_slice()
            }
            Some(b'N') if !bytes => !has_character_name(text, at + 2),
            _ => false,
        };
        if wrong {
            return Some(Problem::Rule("an escape in this literal is not complete"));
        }
        at = (at + 2).min(text.len());
    }
    None
}

fn has_hexadecimal_digits(text: &[u8], from: usize, count: usize) -> bool {
    text.get(from..from + count).is_some_and(|digits| digits.iter().all(u8::is_ascii_hexdigit))
}

/// `{NAME}` with anything in it: which names there are is not checked.
fn has_character_name(text: &[u8], from: usize) -> bool {
    text.get(from) == Some(&b'{') && memchr::memchr(b'}', &text[from..]).is_some_and(|length| length > 1)
}

/// The value of a number literal.
pub(crate) fn number_value(literal: &str) -> Option<NumberValue> {
    let plain = plain(literal);
    if let Some(value) = whole_with_base(&plain) {
        return value;
    }
    if let Some(imaginary) = plain.strip_suffix('j') {
        return imaginary.parse().ok().map(NumberValue::Imaginary);
    }
    if plain.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(&plain, 10);
    }
    plain.parse().ok().map(NumberValue::Real)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn value(token: &str) -> Option<String> {
        StringLiteral::of(token).value()
    }

    #[test]
    fn escapes_are_resolved() {
        assert_eq!(value(r"'a\tb\x41\101\u00e9'").as_deref(), Some("a\tbAA\u{e9}"));
        assert_eq!(value(r"r'a\tb'").as_deref(), Some(r"a\tb"));
        assert_eq!(value("'''it\\\ngoes'''").as_deref(), Some("itgoes"));
        assert_eq!(value(r"'\d'").as_deref(), Some(r"\d"));
        assert_eq!(value(r"'\N{BULLET}'"), None);
        assert_eq!(value("''").as_deref(), Some(""));
    }

    #[test]
    fn incomplete_escapes_are_told() {
        assert!(escape_problem(r"\x4", false).is_some());
        assert!(escape_problem(r"\U00110000", false).is_some());
        assert!(escape_problem(r"\N", false).is_some());
        assert!(escape_problem(r"\u12", true).is_none());
        assert!(escape_problem(r"\\x", false).is_none());
    }

    #[test]
    fn numbers_have_values() {
        assert_eq!(number_value("0x_ff"), Some(NumberValue::Whole(255)));
        assert_eq!(number_value("1_000"), Some(NumberValue::Whole(1000)));
        assert_eq!(number_value("5."), Some(NumberValue::Real(5.0)));
        assert_eq!(number_value("2J"), Some(NumberValue::Imaginary(2.0)));
    }
}
