//! The values of scalars: what quotes, escapes, folded lines and indentation stand for (YAML 1.2.2, 7.3 and 8.1).

use super::reader::line_end_length;
use crate::literal::{character_of_units, unescaped};

/// The characters of a scalar in any style; `None` where an escape is none, or names no character. A block scalar that tells its indentation
/// is taken to be in a node of a document; see [`block_value`] for others.
pub fn string_value(literal: &str) -> Option<String> {
    match literal.as_bytes().first() {
        Some(b'"') => double_quoted(literal.get(1..literal.len().checked_sub(1)?)?),
        Some(b'\'') => Some(folded(literal.get(1..literal.len().checked_sub(1)?)?, false).replace("''", "'")),
        Some(b'|' | b'>') if is_header(literal) => Some(block_value(literal, 0)),
        _ => Some(folded(literal, false)),
    }
}

/// Whether a literal begins as a block scalar does: a plain one never does.
fn is_header(literal: &str) -> bool {
    literal[1..]
        .bytes()
        .next()
        .is_none_or(|byte| matches!(byte, b'0'..=b'9' | b'+' | b'-' | b' ' | b'\t' | b'\n' | b'\r'))
}

/// The lines of a text, each without its end.
fn lines(text: &str) -> Vec<&str> {
    let mut found = Vec::new();
    let mut rest = text;
    while let Some(at) = rest.find(['\n', '\r']) {
        found.push(&rest[..at]);
        rest = &rest[at + line_end_length(&rest.as_bytes()[at..])..];
    }
    found.push(rest);
    found
}

/// `s-flow-folded`: one line end is a space, each further one a line feed. Where there are escapes, a backslash at the end of a line joins it
/// to the next one, and whitespace behind a backslash is kept.
fn folded(content: &str, has_escapes: bool) -> String {
    let lines = lines(content);
    let last = lines.len() - 1;
    let mut value = String::with_capacity(content.len());
    let mut blank = 0;
    // Whether the line before ended with a backslash, which takes the line end away.
    let mut joins = false;
    for (index, whole) in lines.into_iter().enumerate() {
        let line = if index > 0 { whole.trim_start_matches([' ', '\t']) } else { whole };
        let ends_joined = has_escapes && index < last && ends_escaping(line);
        let line = match (ends_joined, index < last) {
            (true, _) => &line[..line.len() - 1],
            (false, true) => trim_end(line, has_escapes),
            (false, false) => line,
        };
        if index > 0 {
            if line.is_empty() && index < last && !ends_joined {
                blank += 1;
                continue;
            }
            match (joins, blank) {
                (false, 0) => value.push(' '),
                (_, blank) => value.extend(std::iter::repeat_n('\n', blank)),
            }
        }
        blank = 0;
        joins = ends_joined;
        value.push_str(line);
    }
    value
}

/// Takes whitespace from the end of a line, but for one character that a backslash is before.
fn trim_end(line: &str, has_escapes: bool) -> &str {
    let trimmed = line.trim_end_matches([' ', '\t']);
    let keeps_one = has_escapes && trimmed.len() < line.len() && ends_escaping(trimmed);
    if keeps_one { &line[..trimmed.len() + 1] } else { trimmed }
}

/// Whether a line ends with a backslash that is not escaped itself.
fn ends_escaping(line: &str) -> bool {
    line.bytes().rev().take_while(|byte| *byte == b'\\').count() % 2 == 1
}

/// Escapes are resolved after folding, so that whitespace they stand for is kept.
fn double_quoted(content: &str) -> Option<String> {
    unescaped(&folded(content, true), escape)
}

/// The character that the escape at the beginning of a text represents, and the length of the escape in bytes.
fn escape(text: &str) -> Option<(Option<char>, usize)> {
    let letter = text[1..].chars().next()?;
    let digits = match letter {
        'x' => 2,
        'u' => 4,
        'U' => 8,
        _ => return Some((Some(simple(letter)?), 1 + letter.len_utf8())),
    };
    let code = text.get(2..2 + digits).filter(|code| code.bytes().all(|byte| byte.is_ascii_hexdigit()))?;
    let code = u32::from_str_radix(code, 16).ok()?;
    // JSON writes some characters as two halves.
    let (character, length) = match u16::try_from(code) {
        Ok(unit) => character_of_units(unit, &text[2 + digits..])?,
        Err(_) => (char::from_u32(code)?, 0),
    };
    Some((Some(character), 2 + digits + length))
}

/// The escapes of one letter (`c-ns-esc-char`).
fn simple(letter: char) -> Option<char> {
    Some(match letter {
        '0' => '\0',
        'a' => '\x07',
        'b' => '\x08',
        't' | '\t' => '\t',
        'n' => '\n',
        'v' => '\x0b',
        'f' => '\x0c',
        'r' => '\r',
        'e' => '\x1b',
        ' ' | '"' | '/' | '\\' => letter,
        'N' => '\u{85}',
        '_' => '\u{a0}',
        'L' => '\u{2028}',
        'P' => '\u{2029}',
        _ => return None,
    })
}

/// The characters of a block scalar, header included, in a node that is indented by so many columns.
pub fn block_value(literal: &str, indent: usize) -> String {
    let header_end = literal.find(['\n', '\r']).unwrap_or(literal.len());
    let header = &literal[..header_end];
    let indicators = header.split([' ', '\t', '#']).next().unwrap_or_default();
    let content = &literal[header_end + line_end_length(&literal.as_bytes()[header_end..])..];
    let width = indicators.bytes().find(u8::is_ascii_digit).map(|digit| indent + usize::from(digit - b'0'));
    let mut lines = lines(content);
    // What is behind the last line end is no line.
    if content.is_empty() || content.ends_with(['\n', '\r']) {
        lines.pop();
    }
    let spaces = |line: &str| line.bytes().take_while(|byte| *byte == b' ').count();
    let first = lines.iter().find(|line| spaces(line) < line.len()).map(|line| spaces(line));
    let width = width.or(first).unwrap_or_else(|| lines.iter().map(|line| spaces(line)).max().unwrap_or(0));
    let lines: Vec<&str> = lines.into_iter().map(|line| &line[spaces(line).min(width)..]).collect();
    let text_end = lines.iter().rposition(|line| !line.is_empty()).map_or(0, |last| last + 1);
    let mut value = if header.starts_with('>') { fold_block(&lines[..text_end]) } else { lines[..text_end].join("\n") };
    if indicators.contains('+') {
        value.extend(std::iter::repeat_n('\n', lines.len() - text_end + usize::from(text_end > 0)));
    } else if !indicators.contains('-') && text_end > 0 {
        value.push('\n');
    }
    value
}

/// Folds lines, but for those that are indented deeper, and the ones around them.
fn fold_block(lines: &[&str]) -> String {
    let mut value = String::new();
    let mut blank = 0;
    let mut before: Option<&str> = None;
    let is_deeper = |line: &str| line.starts_with([' ', '\t']);
    for line in lines {
        if line.is_empty() {
            blank += 1;
            continue;
        }
        match before {
            None => value.extend(std::iter::repeat_n('\n', blank)),
            Some(last) if is_deeper(last) || is_deeper(line) => value.extend(std::iter::repeat_n('\n', blank + 1)),
            Some(_) if blank == 0 => value.push(' '),
            Some(_) => value.extend(std::iter::repeat_n('\n', blank)),
        }
        blank = 0;
        before = Some(line);
        value.push_str(line);
    }
    value
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn scalars_have_values() {
        let values = [
            ("north quay", "north quay"),
            ("north\n  quay\n\n  low", "north quay\nlow"),
            ("'it''s'", "it's"),
            ("\"a\\tb \\x41\\u00e9\\U0001F30A\"", "a\tb Aé🌊"),
            ("\"\\ud83c\\udf0a\"", "🌊"),
            ("\"fold \n  ed \\\n   here\\ \n\n  end\"", "fold ed here \nend"),
            ("|\n  a\n   b\n", "a\n b\n"),
            ("|-\n  a\n\n", "a"),
            ("|+\n  a\n\n", "a\n\n"),
            (">\n  a\n  b\n\n  c\n   d\n  e\n", "a b\nc\n d\ne\n"),
            ("|2-\n   a", " a"),
        ];
        for (literal, value) in values {
            assert_eq!(string_value(literal).as_deref(), Some(value), "{literal}");
        }
        for none in ["\"\\q\"", "\"\\ud83c\"", "\"\\x4\"", "\""] {
            assert_eq!(string_value(none), None, "{none}");
        }
    }
}
