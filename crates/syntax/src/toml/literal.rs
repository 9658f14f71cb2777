//! The values of literals ("String", "Integer", "Float", TOML 1.0).

use crate::literal::{NumberValue, unescaped, whole, whole_with_base};

/// The value of a number, without its sign where it is whole; `None` where it is none, or too large to be known.
pub fn number_value(literal: &str) -> Option<NumberValue> {
    let plain = literal.replace('_', "");
    if let Some(value) = whole_with_base(&plain.to_ascii_lowercase()) {
        return value;
    }
    let unsigned = plain.strip_prefix('+').unwrap_or(&plain);
    if unsigned.bytes().all(|byte| byte.is_ascii_digit()) {
        return whole(unsigned, 10);
    }
    plain.parse().ok().map(NumberValue::Real)
}

/// The characters of a string in any of the four forms; `None` where an escape is none.
pub fn string_value(literal: &str) -> Option<String> {
    let quote = literal.chars().next().filter(|quote| matches!(quote, '"' | '\''))?;
    let is_long = literal.len() >= 6 && literal.as_bytes()[..3].iter().all(|byte| char::from(*byte) == quote);
    let quotes = if is_long { 3 } else { 1 };
    let content = literal.get(quotes..literal.len().checked_sub(quotes)?).filter(|_| literal.ends_with(quote))?;
    // "A newline immediately following the opening delimiter will be trimmed."
    let content = if is_long { without_first_line_end(content) } else { content };
    if quote == '\'' { Some(content.to_string()) } else { unescaped(content, escape) }
}

fn without_first_line_end(content: &str) -> &str {
    content.strip_prefix('\n').or_else(|| content.strip_prefix("\r\n")).unwrap_or(content)
}

/// The character that the escape at the beginning of a text represents (none for a joined line), and the escape's length.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let after = &text[1..];
    let letter = after.chars().next()?;
    let simple = match letter {
        '"' | '\\' => letter,
        'b' => '\x08',
        'f' => '\x0c',
        'n' => '\n',
        'r' => '\r',
        't' => '\t',
        'u' | 'U' => {
            let digits = if letter == 'u' { 4 } else { 8 };
            let code = after.get(1..=digits).filter(|code| code.bytes().all(|byte| byte.is_ascii_hexdigit()))?;
            return Some((Some(char::from_u32(u32::from_str_radix(code, 16).ok()?)?), digits + 2));
        }
        // What is between a backslash at the end of a line and the next visible character is not there.
        ' ' | '\t' | '\n' | '\r' => {
            return Some((None, text.len() - after.trim_start_matches([' ', '\t', '\n', '\r']).len()));
        }
        _ => return None,
    };
    Some((Some(simple), 2))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn strings_have_values() {
        let values = [
            (r#""a\tb\u00e9\U0001F30A\"""#, "a\tbé🌊\""),
            (r"'C:\tides'", r"C:\tides"),
            ("\"\"\"\nquay\"\"\"", "quay"),
            ("\"\"\"a \\\n\n   b\"\"\"", "a b"),
            ("'''\r\nit''s'''", "it''s"),
            ("\"\"\"\"low\"\"\"\"\"", "\"low\"\""),
            ("\"\"", ""),
        ];
        for (literal, value) in values {
            assert_eq!(string_value(literal).as_deref(), Some(value), "{literal}");
        }
        for none in [r#""\q""#, r#""\ud800""#, r#""\u12""#, "\"", "tide", "'"] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }

    #[test]
    fn numbers_have_values() {
        assert_eq!(number_value("+1_000"), Some(NumberValue::Whole(1000)));
        assert_eq!(number_value("0xFF"), Some(NumberValue::Whole(255)));
        assert_eq!(number_value("-6.5e1"), Some(NumberValue::Real(-65.0)));
        assert_eq!(number_value("-17"), Some(NumberValue::Real(-17.0)));
        assert_eq!(number_value("-inf"), Some(NumberValue::Real(f64::NEG_INFINITY)));
    }
}
