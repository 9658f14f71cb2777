//! Scalars in quotes ("Double-Quoted Style", "Single-Quoted Style", YAML 1.2.2, 7.3).

use super::reader::{Reader, is_marker, line_end_length, spaces, whitespace};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Role, TokenKind};

/// `c-double-quoted`
pub(super) fn double_quoted(reader: &mut Reader, indent: i32, role: Role) -> Parsed {
    quoted(reader, b'"', indent, role)
}

/// `c-single-quoted`
pub(super) fn single_quoted(reader: &mut Reader, indent: i32, role: Role) -> Parsed {
    quoted(reader, b'\'', indent, role)
}

fn quoted(reader: &mut Reader, quote: u8, indent: i32, role: Role) -> Parsed {
    let start = reader.at;
    let mut line_start = reader.line_start;
    let mut at = start + 1;
    let end = loop {
        match reader.bytes.get(at) {
            None => return unclosed(reader, start),
            Some(b'\n' | b'\r') => {
                line_start = at + line_end_length(&reader.bytes[at..]);
                at = next_line(reader, start, line_start, indent)?;
            }
            Some(b'\\') if quote == b'"' => at = escape(reader, at),
            Some(b'\'') if quote == b'\'' && reader.bytes.get(at + 1) == Some(&b'\'') => at += 2,
            Some(byte) if *byte == quote => break at + 1,
            Some(_) => at += 1,
        }
    };
    reader.check_printable(start, end);
    let mark = reader.open();
    reader.take_lines(TokenKind::String, end, line_start);
    reader.close_as(mark, Kind::String, role);
    Ok(())
}

fn unclosed(reader: &mut Reader, start: usize) -> Result<(), Stop> {
    reader.fault(start, start + 1, "the string is never closed");
    Err(Stop)
}

/// The first character of the next line that is no whitespace. The standard wants such lines indented, as all that belongs to a value is
/// ("Double-Quoted Style", YAML 1.2.2); nearly all that read YAML do without, so that only one that looks like an entry is a mistake.
fn next_line(reader: &mut Reader, start: usize, line_start: usize, indent: i32) -> Result<usize, Stop> {
    let line = &reader.bytes[line_start..];
    if is_marker(line) {
        return unclosed(reader, start).map(|()| line_start);
    }
    let indented = whitespace(line);
    if spaces(line) as i32 <= indent && begins_entry(&line[indented..]) {
        return unclosed(reader, start).map(|()| line_start);
    }
    Ok(line_start + indented)
}

/// Whether a line looks like an entry of its own, so that a quote is missing before it.
fn begins_entry(line: &[u8]) -> bool {
    let line = line.strip_prefix(b"- ").unwrap_or(line);
    let key = line
        .iter()
        .take_while(|byte| byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'-' | b'.' | b'/'))
        .count();
    key > 0 && line.get(key) == Some(&b':') && line.get(key + 1).is_none_or(|byte| matches!(byte, b' ' | b'\n' | b'\r'))
}

/// The place after the escape at a backslash.
fn escape(reader: &mut Reader, at: usize) -> usize {
    let digits = match reader.bytes.get(at + 1) {
        Some(
            b'0' | b'a' | b'b' | b't' | b'\t' | b'n' | b'v' | b'f' | b'r' | b'e' | b' ' | b'"' | b'/' | b'\\' | b'N'
            | b'_' | b'L' | b'P',
        ) => return at + 2,
        // The line goes on; what follows is looked at as the beginning of a line.
        Some(b'\n' | b'\r') | None => return at + 1,
        Some(b'x') => 2,
        Some(b'u') => 4,
        Some(b'U') => 8,
        Some(_) => {
            let letter = reader.source[at + 1..].chars().next().map_or(0, char::len_utf8);
            reader.fault(at, at + 1 + letter, "there is no such escape");
            return at + 1 + letter;
        }
    };
    let there = reader.bytes[at + 2..].iter().take(digits).take_while(|byte| byte.is_ascii_hexdigit()).count();
    if there < digits {
        reader.fault(at, at + 2 + there, "\\x, \\u and \\U are followed by two, four and eight hexadecimal digits");
    }
    at + 2 + there
}
