//! Scalars whose lines are taken as they are, or folded ("Block Scalar Styles", YAML 1.2.2, 8.1).

use super::reader::{Reader, is_marker, line_end_length, line_length, spaces};
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
        Some(b'#') if reader.may_begin_comment() => reader.comment(),
        Some(_) => return reader.stop("nothing but a comment is behind the header of a block scalar"),
    }
    if !reader.at_end() {
        reader.line_end();
    }
    let width = match header.width {
        Some(width) => indent.max(0) as usize + width,
        None => found_width(reader, (indent + 1) as usize)?,
    };
    let content = content(reader, width);
    // The line end behind the content is a token of its own, unless it is kept.
    let (end, line) = if header.keeps { content.kept } else { content.solid };
    if end > reader.at {
        reader.check_printable(reader.at, end);
        reader.take_lines(TokenKind::String, end, line);
    }
    reader.close_as(mark, Kind::String, role);
    Ok(())
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
        let spaces = spaces(line);
        match line.get(spaces) {
            Some(b'\n' | b'\r') => {
                widest = widest.max(spaces);
                at += spaces + line_end_length(&line[spaces..]);
            }
            Some(b'\t') if spaces < least => {
                reader.fault(at, at + spaces + 1, "a tab is no indentation");
                return Err(Stop);
            }
            None => break,
            Some(_) if spaces < least || is_marker(line) => break,
            Some(_) if spaces < widest => {
                let rule = "a blank line before a block scalar is indented deeper than its first line";
                reader.fault(reader.at, at, rule);
                return Err(Stop);
            }
            Some(_) => return Ok(spaces),
        }
    }
    Ok(least.max(widest))
}

/// Where the lines of a scalar end: just past the last character, and where its line begins.
struct Content {
    /// The last line that is not blank.
    solid: (usize, usize),
    /// The blank lines below, line ends included.
    kept: (usize, usize),
}

/// The lines that are indented by `width` at least, and blank ones.
fn content(reader: &Reader, width: usize) -> Content {
    let mut at = reader.at;
    let mut content = Content { solid: (at, at), kept: (at, at) };
    while at < reader.bytes.len() {
        let line = &reader.bytes[at..];
        let length = line_length(line);
        let spaces = spaces(&line[..length]);
        let is_blank = spaces == length;
        if !is_blank && spaces < width || is_marker(line) && spaces == 0 {
            break;
        }
        if !is_blank || spaces > width {
            content.solid = (at + length, at);
        }
        at += length + line_end_length(&line[length..]);
        content.kept = (at, at);
    }
    content
}
