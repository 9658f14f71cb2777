//! Scalars without quotes ("Plain Style", YAML 1.2.2, 7.3.3).

use super::reader::{Reader, is_flow_indicator, is_marker, is_space_or_end, line_end_length, spaces, whitespace};
use super::schema;
use crate::parse::Parsed;
use crate::tree::{Role, TokenKind};

/// `ns-plain`, over as many lines as it has.
pub(super) fn plain(reader: &mut Reader, indent: i32, in_flow: bool, role: Role) -> Parsed {
    may_begin(reader, in_flow)?;
    let start = reader.at;
    let mut end = line(reader, start, in_flow);
    let mut line_start = reader.line_start;
    while let Some(next) = next_line(reader, end, indent, in_flow) {
        let behind = line(reader, next.content, in_flow);
        if behind == next.content {
            break;
        }
        (end, line_start) = (behind, next.start);
    }
    reader.check_printable(start, end);
    let kind = schema::kind_of(&reader.source[start..end]);
    let mark = reader.open();
    reader.take_lines(TokenKind::PlainScalar, end, line_start);
    reader.close_as(mark, kind, role);
    Ok(())
}

/// `ns-plain-first`
fn may_begin(reader: &mut Reader, in_flow: bool) -> Parsed {
    let Some(first) = reader.byte() else { return reader.stop("a value is missing") };
    let is_followed = || {
        let next = reader.byte_after(1);
        next.is_some_and(|next| !is_space_or_end(next) && !(in_flow && is_flow_indicator(next)))
    };
    match first {
        b'-' | b'?' | b':' if is_followed() => Ok(()),
        b'-' => reader.stop("a sequence in block style is not within brackets"),
        b'?' | b':' => reader.stop("a key or a value is missing beside this"),
        b',' | b']' | b'}' => reader.stop("this closes nothing"),
        b'#' => reader.stop("whitespace is before a comment"),
        b'|' | b'>' => reader.stop("a block scalar is not within brackets"),
        b'%' | b'@' | b'`' => reader.stop("no value begins with this character: put quotes around it"),
        _ => Ok(()),
    }
}

/// The end of what belongs to the scalar on a line, from a place on it.
fn line(reader: &Reader, start: usize, in_flow: bool) -> usize {
    let bytes = reader.bytes;
    let mut at = start;
    // Just past the last character that is no whitespace.
    let mut end = start;
    while let Some(byte) = bytes.get(at) {
        match byte {
            b'\n' | b'\r' => break,
            b' ' | b'\t' => {
                at += 1;
                continue;
            }
            b'#' if at > start && matches!(bytes[at - 1], b' ' | b'\t') => break,
            b':' => {
                let next = bytes.get(at + 1).copied();
                if next.is_none_or(|next| is_space_or_end(next) || in_flow && is_flow_indicator(next)) {
                    break;
                }
            }
            byte if in_flow && is_flow_indicator(*byte) => break,
            _ => {}
        }
        at += 1;
        end = at;
    }
    end
}

/// A line that the scalar goes on with.
struct Next {
    start: usize,
    content: usize,
}

/// The next line that is not blank, if it is indented deep enough, and if nothing but its end is behind the scalar on this one.
fn next_line(reader: &Reader, end: usize, indent: i32, in_flow: bool) -> Option<Next> {
    let bytes = reader.bytes;
    let mut at = end + whitespace(&bytes[end..]);
    let mut start = None;
    loop {
        let length = line_end_length(&bytes[at..]);
        if length == 0 {
            break;
        }
        start = Some(at + length);
        at += length;
        at += whitespace(&bytes[at..]);
    }
    let start = start?;
    let first = bytes.get(at)?;
    let is_within = spaces(&bytes[start..at]) as i32 > indent && !is_marker(&bytes[start..]) && *first != b'#';
    let ends = in_flow && is_flow_indicator(*first);
    (is_within && !ends).then_some(Next { start, content: at })
}
