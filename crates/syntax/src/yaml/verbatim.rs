//! Scalars whose lines are taken as they are, or folded ("Block Scalar Styles", YAML 1.2.2, 8.1).

use super::reader::{Reader, is_marker, line_end_length};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Role, TokenKind};

/// `c-l+literal`, `c-l+folded`
pub(super) fn block_scalar(reader: &mut Reader, indent: i32, role: Role) -> Parsed {
    let mark = reader.open();
    let header = header(reader)?;
    reader.take(TokenKind::BlockScalar, header.length);
    reader.skip_blanks();
    match reader.byte() {
        None | Some(b'\n' | b'\r') => {}
        Some(b'#') if reader.may_begin_comment() => comment(reader),
        Some(_) => return reader.stop("nothing but a comment is behind the header of a block scalar"),
    }
    if !reader.at_end() {
        reader.line_end();
    }
    let least = indent.max(-1) + 1;
    let width = match header.width {
        Some(width) => indent.max(0) as usize + width,
        None => found_width(reader, least as usize)?,
    };
    let content = content(reader, width);
    if content.end > reader.at {
        let end = if header.keeps { content.kept_end } else { content.end };
        reader.check_printable(reader.at, end);
        // The line end behind the content is a token of its own.
        reader.take_lines(TokenKind::String, end, if header.keeps { content.kept_line } else { content.line });
    } else if header.keeps && content.kept_end > reader.at {
        reader.take_lines(TokenKind::String, content.kept_end, content.kept_line);
    }
    reader.close_as(mark, Kind::String, role);
    Ok(())
}

fn comment(reader: &mut Reader) {
    let rest = &reader.bytes[reader.at..];
    let length = memchr::memchr2(b'\n', b'\r', rest).unwrap_or(rest.len());
    reader.take(TokenKind::Comment, length);
}

/// What the indicators behind `|` or `>` say.
struct Header {
    length: usize,
    width: Option<usize>,
    keeps: bool,
}

/// `c-b-block-header`
fn header(reader: &mut Reader) -> Result<Header, Stop> {
    let mut header = Header { length: 1, width: None, keeps: false };
    let mut chomps = false;
    while let Some(byte) = reader.byte_after(header.length) {
        match byte {
            b'1'..=b'9' if header.width.is_none() => header.width = Some(usize::from(byte - b'0')),
            b'+' | b'-' if !chomps => {
                header.keeps = byte == b'+';
                chomps = true;
            }
            b' ' | b'\t' | b'\n' | b'\r' => break,
            _ => {
                reader.at += header.length;
                let outcome = reader.stop("behind '|' and '>' are a digit from 1 to 9, and '+' or '-', each once");
                reader.at -= header.length;
                return outcome.map(|()| header);
            }
        }
        header.length += 1;
    }
    Ok(header)
}

/// How far the first line that is not blank is indented; blank lines before it have no more spaces.
fn found_width(reader: &mut Reader, least: usize) -> Result<usize, Stop> {
    let mut at = reader.at;
    let mut widest = 0;
    while at < reader.bytes.len() {
        let line = &reader.bytes[at..];
        let spaces = line.iter().take_while(|byte| **byte == b' ').count();
        match line.get(spaces) {
            Some(b'\n' | b'\r') => {
                widest = widest.max(spaces);
                at += spaces + line_end_length(&line[spaces..]);
            }
            Some(b'\t') if spaces < least => {
                reader.fault(at, at + spaces + 1, "a tab is no indentation");
                return Err(Stop);
            }
            Some(_) if spaces < least || is_marker(line) => return Ok(least.max(widest)),
            Some(_) if spaces < widest => {
                reader.fault(
                    reader.at,
                    at,
                    "a blank line before a block scalar is indented deeper than its first line",
                );
                return Err(Stop);
            }
            Some(_) => return Ok(spaces),
            None => return Ok(least.max(widest)),
        }
    }
    Ok(least.max(widest))
}

/// Where the lines of a scalar end.
struct Content {
    /// Just past the last character of its last line that is not blank, and where that line begins.
    end: usize,
    line: usize,
    /// The same with the blank lines below.
    kept_end: usize,
    kept_line: usize,
}

/// The lines that are indented by `width` at least, and blank ones.
fn content(reader: &Reader, width: usize) -> Content {
    let mut at = reader.at;
    let mut content = Content { end: at, line: at, kept_end: at, kept_line: at };
    while at < reader.bytes.len() {
        let line = &reader.bytes[at..];
        let length = memchr::memchr2(b'\n', b'\r', line).unwrap_or(line.len());
        let spaces = line[..length].iter().take_while(|byte| **byte == b' ').count();
        let is_blank = spaces == length;
        if !is_blank && spaces < width || is_marker(line) && spaces == 0 {
            break;
        }
        if !is_blank || spaces > width {
            content.end = at + length;
            content.line = at;
        }
        let next = at + length + line_end_length(&line[length..]);
        content.kept_end = next;
        content.kept_line = next;
        at = next;
    }
    content
}
