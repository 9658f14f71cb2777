//! Documents and what is between them ("Character Streams", "Document Stream", YAML 1.2.2, 9).

use super::block::{Place, block_node};
use super::reader::Reader;
use crate::parse::Stop;
use crate::tree::{Kind, Role, TokenKind, Tree};

/// `l-yaml-stream`
pub(super) fn stream(source: &str) -> Tree {
    let mut reader = Reader::new(source);
    // Whether directives may come next: at the beginning, and after the mark that ends a document.
    let mut may_direct = true;
    loop {
        reader.skip_separation();
        while byte_order_mark(&mut reader) {
            reader.skip_separation();
        }
        if reader.at_end() {
            return reader.finish();
        }
        if reader.at_marker() && reader.byte() == Some(b'.') {
            end_mark(&mut reader);
            may_direct = true;
            continue;
        }
        may_direct = document(&mut reader, may_direct);
    }
}

/// A mark before a document. Tells whether there was one.
fn byte_order_mark(reader: &mut Reader) -> bool {
    let is_there = reader.at == reader.line_start && reader.source[reader.at..].starts_with('\u{feff}');
    if is_there {
        reader.take(TokenKind::ByteOrderMark, 3);
        reader.line_start = reader.at;
    }
    is_there
}

/// A document, with its directives and the mark that ends it. Tells whether directives may follow.
fn document(reader: &mut Reader, may_direct: bool) -> bool {
    let mark = reader.open();
    reader.handles.clear();
    let has_directives = may_direct && directives(reader);
    let is_explicit = reader.at_marker() && reader.byte() == Some(b'-');
    if is_explicit {
        reader.take(TokenKind::DocumentStart, 3);
    } else if has_directives {
        let end = (reader.at + 1).min(reader.bytes.len());
        reader.fault(reader.at, end, "'---' begins a document that has directives");
    }
    let part = reader.open();
    let place = Place { indent: -1, may_be_compact: !is_explicit, sequence_at_indent: false };
    if block_node(reader, place, Role::Value).and_then(|()| end_of_node(reader)).is_err() {
        reader.leave_out(part, -1, Role::Part);
    }
    reader.skip_separation();
    let is_ended = reader.at_marker() && reader.byte() == Some(b'.');
    if is_ended {
        end_mark(reader);
    }
    reader.close_as(mark, Kind::Document, Role::Element);
    is_ended
}

/// Nothing but the mark of a document may be behind a node.
fn end_of_node(reader: &mut Reader) -> Result<(), Stop> {
    reader.skip_separation();
    if reader.at_end() || reader.at_marker() {
        return Ok(());
    }
    let is_indented = reader.column() > 0 && reader.indent() == reader.column();
    reader.stop(match reader.byte() {
        Some(b']' | b'}' | b',') => "this closes nothing",
        _ if is_indented => "the indentation is that of nothing above",
        _ => "a document is one value: this is behind it",
    })
}

/// `...`, behind which only a comment may be.
fn end_mark(reader: &mut Reader) {
    reader.take(TokenKind::DocumentEnd, 3);
    reader.skip_blanks();
    if !matches!(reader.byte(), None | Some(b'\n' | b'\r' | b'#')) {
        let mark = reader.open();
        let _ = reader.stop("only a comment may be behind the mark that ends a document");
        reader.leave_out(mark, i32::MAX, Role::Part);
    }
}

/// `l-directive+`. Tells whether there is any.
fn directives(reader: &mut Reader) -> bool {
    let mut had_version = false;
    let mut any = false;
    while reader.at == reader.line_start && reader.byte() == Some(b'%') {
        any = true;
        let rest = &reader.source[reader.at..];
        let line = &rest[..rest.find(['\n', '\r']).unwrap_or(rest.len())];
        let content = line.find(" #").map_or(line, |comment| &line[..comment]).trim_end();
        let words: Vec<&str> = content.split_ascii_whitespace().collect();
        let rule = match words[..] {
            ["%YAML", _] if had_version => Some("the version of a document is given once"),
            ["%YAML", version] if !is_version(version) => Some("a version is two numbers with a point between them"),
            ["%YAML", _] => None,
            ["%YAML", ..] => Some("'%YAML' is followed by a version alone"),
            ["%TAG", handle, _] if is_handle(handle) => {
                reader.handles.push(handle);
                None
            }
            ["%TAG", ..] => Some("'%TAG' is followed by a handle and a prefix"),
            _ => None,
        };
        had_version |= words.first() == Some(&"%YAML");
        if let Some(rule) = rule {
            reader.fault(reader.at, reader.at + content.len(), rule);
        }
        reader.leaf(TokenKind::DirectiveLine, content.len(), Kind::Directive, Role::Part);
        reader.skip_separation();
    }
    any
}

fn is_version(word: &str) -> bool {
    let is_number = |digits: &str| !digits.is_empty() && digits.bytes().all(|digit| digit.is_ascii_digit());
    word.split_once('.').is_some_and(|(major, minor)| is_number(major) && is_number(minor))
}

/// `!`, `!!` or `!name!`
fn is_handle(word: &str) -> bool {
    let name = word.strip_prefix('!').map(|rest| rest.strip_suffix('!').unwrap_or(rest));
    name.is_some_and(|name| name.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'-'))
        && (word.len() < 2 || word.ends_with('!'))
}
