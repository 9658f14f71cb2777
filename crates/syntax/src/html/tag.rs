//! Tags ("Start tags", "Attributes", HTML, 13.1.2), as the standard's tokenizer reads them.

use memchr::memchr3;

use super::cutter::Cutter;
use crate::tree::{Kind, Problem, Role, TokenKind};

/// How a start tag ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum TagEnd {
    /// With `>`.
    Open,
    /// With `/>`.
    Closed,
    /// Nowhere: the file ends in it.
    Nowhere,
}

/// A start tag, which begins here: `<name attributes>`. Gives how it ends.
pub(super) fn start_tag(cutter: &mut Cutter<'_>) -> TagEnd {
    let (start, mark) = (cutter.at, cutter.open());
    cutter.push(TokenKind::Less, start + 1);
    name(cutter);
    let end = attributes(cutter, start);
    cutter.close(mark, Kind::StartTag, Role::Start);
    end
}

/// An end tag, which begins here: `</name>`.
pub(super) fn end_tag(cutter: &mut Cutter<'_>, role: Role) {
    let (start, mark) = (cutter.at, cutter.open());
    cutter.push(TokenKind::Less, start + 1);
    cutter.push(TokenKind::Slash, start + 2);
    name(cutter);
    // Attributes mean nothing here, but they may be there.
    attributes(cutter, start);
    cutter.close(mark, Kind::EndTag, role);
}

/// The name of a tag: up to whitespace, a slash or the end of the tag.
fn name(cutter: &mut Cutter<'_>) {
    let end = end_of_name(cutter.bytes, cutter.at);
    cutter.leaf(TokenKind::Name, end, Kind::TagName, Role::Name);
}

/// The place behind the name of a tag that begins at another.
#[inline]
pub(super) fn end_of_name(bytes: &[u8], start: usize) -> usize {
    let rest = &bytes[start..];
    let ends = |byte: &u8| matches!(byte, b' ' | b'\t' | b'\n' | b'\r' | b'\x0c' | b'/' | b'>');
    let end = rest.iter().position(ends).unwrap_or(rest.len());
    // A part of a template is none of the name.
    let marks = |pair: &[u8]| matches!(pair, [b'{', b'{' | b'%' | b'#'] | [b'<', b'%' | b'?']);
    start + rest[..end].windows(2).position(marks).unwrap_or(end)
}

fn attributes(cutter: &mut Cutter<'_>, start: usize) -> TagEnd {
    loop {
        cutter.whitespace();
        let at = cutter.at;
        match cutter.peek(0) {
            None => {
                if !cutter.has_fault_from(start) {
                    cutter.fault(start, start + 1, Problem::Rule("the tag is never closed"));
                }
                return TagEnd::Nowhere;
            }
            Some(b'>') => {
                cutter.push(TokenKind::Greater, at + 1);
                return TagEnd::Open;
            }
            Some(b'/') if cutter.peek(1) == Some(b'>') => {
                cutter.push(TokenKind::Slash, at + 1);
                cutter.push(TokenKind::Greater, at + 2);
                return TagEnd::Closed;
            }
            Some(b'/') => cutter.push(TokenKind::Slash, at + 1),
            Some(b'<') if begins_tag(cutter) => {
                cutter.fault(start, start + 1, Problem::Rule("the tag is never closed"));
                return TagEnd::Open;
            }
            Some(_) => match cutter.templates.end_at(cutter.bytes, at) {
                Some(end) => cutter.leaf(TokenKind::TemplatePart, end, Kind::TemplatePart, Role::Part),
                None => attribute(cutter),
            },
        }
    }
}

/// Whether a tag begins here, so that the one around it was not closed.
fn begins_tag(cutter: &Cutter<'_>) -> bool {
    matches!(cutter.peek(1), Some(b'/')) && cutter.peek(2).is_some_and(|letter| letter.is_ascii_alphabetic())
        || cutter.peek(1).is_some_and(|letter| letter.is_ascii_alphabetic())
}

/// `name`, `name=value`, with quotes around the value or without.
fn attribute(cutter: &mut Cutter<'_>) {
    let mark = cutter.open();
    let end = end_of_attribute_name(cutter);
    if matches!(cutter.bytes[cutter.at], b'"' | b'\'') {
        cutter.fault(
            cutter.at,
            cutter.at + 1,
            Problem::Rule("a quote begins no attribute: one is missing or too many"),
        );
    }
    cutter.leaf(TokenKind::Name, end, Kind::TagName, Role::Name);
    if has_value(cutter) {
        cutter.whitespace();
        cutter.push(TokenKind::Assign, cutter.at + 1);
        cutter.whitespace();
        value(cutter);
    }
    cutter.close(mark, Kind::Attribute, Role::Attribute);
}

/// Whether an equals sign comes next, perhaps behind whitespace.
fn has_value(cutter: &Cutter<'_>) -> bool {
    let rest = &cutter.bytes[cutter.at..];
    rest.iter().find(|byte| !byte.is_ascii_whitespace()) == Some(&b'=')
}

/// "Attribute name state": an equals sign may begin a name, but is not within one.
fn end_of_attribute_name(cutter: &mut Cutter<'_>) -> usize {
    let bytes = cutter.bytes;
    let mut at = cutter.at;
    loop {
        match bytes.get(at) {
            None | Some(b' ' | b'\t' | b'\n' | b'\r' | b'\x0c' | b'/' | b'>') => break,
            Some(b'=') if at > cutter.at => break,
            // A name may be put together by a template, which else stands between attributes.
            Some(b'{' | b'<') => match cutter.templates.end_at(bytes, at) {
                Some(end) if bytes[at + 1] == b'{' => at = end,
                Some(_) if at > cutter.at => break,
                _ => at += 1,
            },
            Some(_) => at += 1,
        }
    }
    at.max(cutter.at + 1)
}

/// The value of an attribute.
fn value(cutter: &mut Cutter<'_>) {
    let start = cutter.at;
    match cutter.peek(0) {
        Some(quote @ (b'"' | b'\'')) => {
            let end = end_of_quoted(cutter, quote);
            cutter.leaf(TokenKind::String, end, Kind::String, Role::Value);
        }
        None | Some(b'>') => cutter.fault(start, start + 1, Problem::Rule("a value is missing behind '='")),
        Some(_) => {
            let mut at = start;
            loop {
                match cutter.bytes.get(at) {
                    None | Some(b' ' | b'\t' | b'\n' | b'\r' | b'\x0c' | b'>') => break,
                    Some(b'{' | b'<') => at = cutter.templates.end_at(cutter.bytes, at).unwrap_or(at + 1),
                    Some(_) => at += 1,
                }
            }
            cutter.leaf(TokenKind::PlainScalar, at, Kind::String, Role::Value);
        }
    }
}

/// The place behind the quote that closes a value. Quotes in parts of templates close nothing.
fn end_of_quoted(cutter: &mut Cutter<'_>, quote: u8) -> usize {
    let (start, bytes) = (cutter.at, cutter.bytes);
    let mut at = start + 1;
    while let Some(found) = memchr3(quote, b'{', b'<', &bytes[at..]) {
        at += found;
        if bytes[at] == quote {
            return at + 1;
        }
        at = cutter.templates.end_at(bytes, at).unwrap_or(at + 1);
    }
    cutter.fault(start, start + 1, Problem::Rule("the value is never closed"));
    bytes.len()
}
