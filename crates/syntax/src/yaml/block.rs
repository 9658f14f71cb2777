//! Nodes of block style ("Block Style Productions", YAML 1.2.2, 8).

use super::flow::flow_content;
use super::property::{Properties, properties};
use super::reader::{Reader, whitespace};
use super::verbatim::block_scalar;
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Mark, Role, TokenKind};

/// Where a node is.
#[derive(Debug, Clone, Copy)]
pub(super) struct Place {
    /// How far what holds it is indented, in columns; -1 for the node of a document.
    pub(super) indent: i32,
    /// Whether a collection may begin on the line, behind an indicator.
    pub(super) may_be_compact: bool,
    /// Whether a sequence may be indented as its holder is: the value of a key.
    pub(super) sequence_at_indent: bool,
}

/// Longer keys are not looked at by other readers ("Implicit Keys", YAML 1.2.2, 7.4), in characters.
const LONGEST_KEY: usize = 1024;

/// `s-l+block-node`, or nothing.
pub(super) fn block_node(reader: &mut Reader, place: Place, role: Role) -> Parsed {
    let mut crossed = reader.skip_separation();
    if ends(reader, place, crossed) {
        reader.empty(role);
        return Ok(());
    }
    let mut found = Found { mark: reader.open(), own: properties(reader)?, before: Properties::default() };
    while found.own.any() && reader.skip_separation() {
        crossed = true;
        let Some(before) = found.before.and(found.own) else {
            return reader.stop("a node has one tag and one anchor");
        };
        if ends(reader, place, crossed) {
            reader.empty(role);
            return Ok(());
        }
        found = Found { mark: reader.open(), own: properties(reader)?, before };
    }
    let begins_line = crossed || reader.column() == 0;
    let place = Place { may_be_compact: place.may_be_compact || begins_line, ..place };
    reader.nested(|reader| content(reader, found, place, role))
}

/// Whether the node is not written: what comes next is not indented deeper than what holds the node.
fn ends(reader: &Reader, place: Place, crossed: bool) -> bool {
    if reader.at_end() || reader.at_marker() {
        return true;
    }
    if !crossed {
        return false;
    }
    let indent = reader.indent();
    let is_sequence = || place.sequence_at_indent && indent == place.indent && reader.at_indicator(b'-');
    indent <= place.indent && !is_sequence()
}

/// What is known when the content of a node begins.
#[derive(Clone, Copy)]
struct Found {
    /// Where a key would begin that this may be, its properties included.
    mark: Mark,
    /// The properties on the line.
    own: Properties,
    /// Those on lines before it.
    before: Properties,
}

fn content(reader: &mut Reader, found: Found, place: Place, role: Role) -> Parsed {
    let start = reader.start_of(found.mark);
    if reader.at_indicator(b':') {
        // Properties before a colon belong to the key that is not written.
        may_begin(reader, place, start)?;
        let column = key_column(reader, found.mark);
        reader.empty_in(found.mark, Role::Key);
        return mapping(reader, Some(FirstKey { mark: found.mark, column }), role);
    }
    if reader.at_indicator(b'-') || reader.at_indicator(b'?') {
        if found.own.any() {
            return reader.stop("a collection begins on the line below its tag or anchor");
        }
        may_begin(reader, place, start)?;
        return if reader.byte() == Some(b'-') { sequence(reader, role) } else { mapping(reader, None, role) };
    }
    if matches!(reader.byte(), Some(b'|' | b'>')) {
        return block_scalar(reader, place.indent, role);
    }
    let (line, column) = (reader.line_start, key_column(reader, found.mark));
    let is_alias = reader.byte() == Some(b'*');
    if is_alias && (found.own.any() || found.before.any() && !is_key_line(reader)) {
        return reader.stop("an alias has neither a tag nor an anchor");
    }
    flow_content(reader, place.indent, false, role)?;
    let is_key = {
        let gap = whitespace(&reader.bytes[reader.at..]);
        reader.byte_after(gap) == Some(b':') && reader.is_space_after(gap + 1)
    };
    if !is_key {
        if found.before.and(found.own).is_none() {
            reader.fault(start, start + 1, "a node has one tag and one anchor");
        }
        return end_of_line(reader);
    }
    on_one_line(reader, line, start)?;
    check_length(reader, start);
    may_begin(reader, place, start)?;
    mapping(reader, Some(FirstKey { mark: found.mark, column }), role)
}

/// Whether the rest of the line makes a key of the alias at the place.
fn is_key_line(reader: &Reader) -> bool {
    let line = &reader.bytes[reader.at..];
    let line = &line[..memchr::memchr(b'\n', line).unwrap_or(line.len())];
    memchr::memmem::find(line, b" :").is_some()
}

/// The column at which a key begins, its properties included.
fn key_column(reader: &Reader, mark: Mark) -> i32 {
    (reader.start_of(mark) - reader.line_start) as i32
}

/// A collection begins on a line of its own or behind an indicator, and no tab is before it.
fn may_begin(reader: &mut Reader, place: Place, start: usize) -> Parsed {
    if !place.may_be_compact {
        return reader.stop(if reader.byte() == Some(b'-') {
            "a sequence begins on the line below its key"
        } else {
            "a value with ':' in it has quotes around it, and a mapping begins on the line below its key"
        });
    }
    let line = &reader.bytes[reader.line_start..start];
    let is_indicator = |byte: &u8| matches!(byte, b' ' | b'\t' | b'-' | b'?' | b':');
    let before = line.iter().take_while(|byte| is_indicator(byte)).count();
    if line[..before].contains(&b'\t') && before == line.len() {
        return reader.stop("a tab is no indentation");
    }
    Ok(())
}

/// Only a comment may be behind a value on its line.
fn end_of_line(reader: &mut Reader) -> Parsed {
    reader.skip_blanks();
    match reader.byte() {
        None | Some(b'\n' | b'\r') => Ok(()),
        Some(b'#') if reader.may_begin_comment() => Ok(()),
        Some(b'#') => reader.stop("whitespace is before a comment"),
        Some(_) => reader.stop("this is behind a value"),
    }
}

/// Stops at a key that goes over several lines.
fn on_one_line(reader: &mut Reader, line: usize, start: usize) -> Parsed {
    if reader.line_start == line {
        return Ok(());
    }
    if matches!(reader.bytes[start], b'"' | b'\'' | b'[' | b'{' | b'&' | b'!') {
        reader.fault(start, reader.at, "a key is on one line");
    } else {
        // It was meant for a key of its own.
        let indent = whitespace(&reader.bytes[reader.line_start..]);
        let rule = "keys of one mapping are indented alike: this line goes on with the value above";
        reader.fault(reader.line_start + indent, reader.at, rule);
    }
    Err(Stop)
}

fn check_length(reader: &mut Reader, start: usize) {
    let key = &reader.source[start..reader.at];
    if key.len() > LONGEST_KEY && key.chars().count() > LONGEST_KEY {
        reader.fault(start, reader.at, "a key has at most 1024 characters, unless '?' is before it");
    }
}

/// `l+block-sequence`
fn sequence(reader: &mut Reader, role: Role) -> Parsed {
    let mark = reader.open();
    let column = reader.column();
    loop {
        let entry = reader.open();
        reader.take(TokenKind::Minus, 1);
        let place = Place { indent: column, may_be_compact: true, sequence_at_indent: false };
        if block_node(reader, place, Role::Element).is_err() {
            reader.leave_out(entry, column, Role::Element);
        }
        if !begins_another(reader, column) || !reader.at_indicator(b'-') {
            reader.close_as(mark, Kind::List, role);
            return Ok(());
        }
    }
}

/// Whether another entry of a collection begins. What is wrong between two entries concerns what comes next alone.
fn begins_another(reader: &mut Reader, column: i32) -> bool {
    loop {
        reader.skip_separation();
        let part = reader.open();
        match goes_on(reader, column) {
            Ok(goes_on) => return goes_on,
            Err(_) => reader.leave_out(part, column, Role::Part),
        }
    }
}

/// Whether another entry of a collection begins: what is next is as far indented.
fn goes_on(reader: &mut Reader, column: i32) -> Result<bool, Stop> {
    if reader.at_end() || reader.at_marker() || reader.column() < column {
        return Ok(false);
    }
    if reader.has_tab_indent() {
        return reader.stop("a tab is no indentation").map(|()| false);
    }
    if reader.column() > column {
        return reader.stop("the indentation is that of nothing above").map(|()| false);
    }
    Ok(true)
}

/// A key that is read already.
struct FirstKey {
    mark: Mark,
    column: i32,
}

/// `l+block-mapping`
fn mapping(reader: &mut Reader, first: Option<FirstKey>, role: Role) -> Parsed {
    let column = first.as_ref().map_or_else(|| reader.column(), |first| first.column);
    let mark = first.as_ref().map_or_else(|| reader.open(), |first| first.mark);
    let mut known = first.map(|first| first.mark);
    loop {
        let pair = known.unwrap_or_else(|| reader.open());
        let outcome = match known.take() {
            Some(_) => implicit_value(reader, column),
            None => entry(reader, column),
        };
        match outcome {
            Ok(()) => reader.close_as(pair, Kind::Pair, Role::Element),
            Err(_) => reader.leave_out(pair, column, Role::Element),
        }
        if !begins_another(reader, column) {
            reader.close_as(mark, Kind::Dictionary, role);
            return Ok(());
        }
    }
}

/// `ns-l-block-map-entry`
fn entry(reader: &mut Reader, column: i32) -> Parsed {
    if reader.at_indicator(b'?') {
        return explicit_entry(reader, column);
    }
    if reader.at_indicator(b'-') {
        return reader.stop("an element of a sequence is among the keys of a mapping");
    }
    let (mark, line, start) = (reader.open(), reader.line_start, reader.at);
    let own = properties(reader)?;
    if reader.at_indicator(b':') {
        reader.empty_in(mark, Role::Key);
        return implicit_value(reader, column);
    }
    if matches!(reader.byte(), Some(b'|' | b'>')) {
        return reader.stop("a key is on one line");
    }
    if own.any() && reader.byte() == Some(b'*') {
        return reader.stop("an alias has neither a tag nor an anchor");
    }
    flow_content(reader, column, false, Role::Key)?;
    reader.skip_blanks();
    if !reader.at_indicator(b':') {
        let rule = "this is no key: ':' and whitespace are behind one";
        reader.fault(start, reader.at.max(start + 1), rule);
        return Err(Stop);
    }
    on_one_line(reader, line, start)?;
    check_length(reader, start);
    implicit_value(reader, column)
}

/// `c-l-block-map-implicit-value`, or the value of a key that is not written.
fn implicit_value(reader: &mut Reader, column: i32) -> Parsed {
    reader.role(Role::Key);
    reader.skip_blanks();
    reader.take(TokenKind::Colon, 1);
    let place = Place { indent: column, may_be_compact: false, sequence_at_indent: true };
    block_node(reader, place, Role::Value)
}

/// `c-l-block-map-explicit-entry`
fn explicit_entry(reader: &mut Reader, column: i32) -> Parsed {
    let place = Place { indent: column, may_be_compact: true, sequence_at_indent: true };
    reader.take(TokenKind::Question, 1);
    block_node(reader, place, Role::Key)?;
    reader.skip_separation();
    if !reader.at_marker() && reader.column() == column && reader.indent() == column && reader.at_indicator(b':') {
        reader.take(TokenKind::Colon, 1);
        return block_node(reader, place, Role::Value);
    }
    reader.empty(Role::Value);
    Ok(())
}
