//! The values of scalars: what quotes, escapes, folded lines and indentation stand for (YAML 1.2.2, 7.3 and 8.1).

use super::reader::line_end_length;

/// The characters of a scalar in any style; `None` where an escape is none, or names no character. A block scalar that tells its indentation
/// is taken to be in a node of a document; see [`block_value`] for others.
pub fn string_value(literal: &str) -> Option<String> {
    match literal.as_bytes().first() {
        Some(b'"') => double_quoted(literal.get(1..literal.len().checked_sub(1)?)?),
        Some(b'\'') => Some(folded(literal.get(1..literal.len().checked_sub(1)?)?).replace("''", "'")),
        Some(b'|' | b'>') if is_header(literal) => Some(block_value(literal, 0)),
        _ => Some(folded(literal)),
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

/// `s-flow-folded`: one line end is a space, each further one a line feed.
fn folded(content: &str) -> String {
    if !content.contains(['\n', '\r']) {
        return content.to_string();
    }
    let lines = lines(content);
    let last = lines.len() - 1;
    let mut value = String::with_capacity(content.len());
    let mut blank = 0;
    for (index, line) in lines.into_iter().enumerate() {
        let line = if index > 0 { line.trim_start_matches([' ', '\t']) } else { line };
        let line = if index < last { line.trim_end_matches([' ', '\t']) } else { line };
        if index > 0 {
            match (line.is_empty() && index < last, blank) {
                (true, _) => {
                    blank += 1;
                    continue;
                }
                (false, 0) => value.push(' '),
                (false, _) => value.extend(std::iter::repeat_n('\n', blank)),
            }
        }
        blank = 0;
        value.push_str(line);
    }
    value
}

fn double_quoted(content: &str) -> Option<String> {
    // Escapes are resolved after folding, so that whitespace they stand for is kept; a backslash at the end of a line joins it to the next.
    let joined = if content.contains(['\n', '\r']) { joined_lines(content) } else { content.to_string() };
    let mut value = String::with_capacity(joined.len());
    let mut rest = joined.as_str();
    while let Some(at) = rest.find('\\') {
        value.push_str(&rest[..at]);
        let after = &rest[at + 1..];
        let letter = after.chars().next()?;
        let digits = match letter {
            'x' => 2,
            'u' => 4,
            'U' => 8,
            _ => 0,
        };
        if digits > 0 {
            let code = after.get(1..=digits).filter(|code| code.bytes().all(|byte| byte.is_ascii_hexdigit()))?;
            let (character, length) = coded(u32::from_str_radix(code, 16).ok()?, &after[digits + 1..])?;
            value.push(character);
            rest = &after[digits + 1 + length..];
            continue;
        }
        value.push(simple(letter)?);
        rest = &after[letter.len_utf8()..];
    }
    value.push_str(rest);
    Some(value)
}

/// A character by its code, or by two halves of UTF-16 as JSON has them; and how many bytes of the rest belong to it.
fn coded(code: u32, rest: &str) -> Option<(char, usize)> {
    if let Some(character) = char::from_u32(code) {
        return Some((character, 0));
    }
    let second = rest.strip_prefix("\\u").and_then(|rest| u16::from_str_radix(rest.get(..4)?, 16).ok())?;
    let character = char::decode_utf16([u16::try_from(code).ok()?, second]).next()?.ok()?;
    Some((character, 6))
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

/// Folds the lines of a double-quoted scalar, escapes kept as they are.
fn joined_lines(content: &str) -> String {
    let lines = lines(content);
    let last = lines.len() - 1;
    let mut value = String::with_capacity(content.len());
    let mut blank = 0;
    // Whether the line before ended with a backslash, which takes the line end away.
    let mut joins = false;
    for (index, whole) in lines.into_iter().enumerate() {
        let line = if index > 0 { whole.trim_start_matches([' ', '\t']) } else { whole };
        let ends_joined = index < last && line.bytes().rev().take_while(|byte| *byte == b'\\').count() % 2 == 1;
        let line = if ends_joined {
            &line[..line.len() - 1]
        } else if index < last {
            trim_end_unescaped(line)
        } else {
            line
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

/// Takes whitespace from the end of a line, but for one that a backslash is before.
fn trim_end_unescaped(line: &str) -> &str {
    let trimmed = line.trim_end_matches([' ', '\t']);
    let is_escaped = trimmed.bytes().rev().take_while(|byte| *byte == b'\\').count() % 2 == 1;
    if is_escaped && trimmed.len() < line.len() { &line[..trimmed.len() + 1] } else { trimmed }
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
