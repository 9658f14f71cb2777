//! Nodes of flow style ("Flow Style Productions", YAML 1.2.2, 7).

use super::plain::plain;
use super::property::{alias, properties};
use super::quoted::{double_quoted, single_quoted};
use super::reader::{Reader, is_flow_indicator};
use crate::parse::{Parsed, Stop};
use crate::tree::{Kind, Mark, Problem, Role, TokenKind};

/// A scalar, an alias or a collection in brackets, without its properties. Lines that it goes on with are indented deeper than `indent`.
pub(super) fn flow_content(reader: &mut Reader, indent: i32, in_flow: bool, role: Role) -> Parsed {
    match reader.byte() {
        Some(b'*') => alias(reader, role),
        Some(b'"') => double_quoted(reader, indent, role),
        Some(b'\'') => single_quoted(reader, indent, role),
        Some(b'[') => reader.nested(|reader| sequence(reader, indent, role)),
        Some(b'{') => reader.nested(|reader| mapping(reader, indent, role)),
        _ => plain(reader, indent, in_flow, role),
    }
}

/// What was read.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Node {
    /// Nothing, perhaps with properties.
    Nothing,
    /// A plain scalar or an alias.
    Plain,
    /// Quotes or brackets are around it: a colon behind it needs no whitespace.
    Enclosed,
}

/// `ns-flow-node`, or nothing: a node of no width, in one that begins at a mark.
fn flow_node(reader: &mut Reader, holder: Mark, indent: i32, role: Role) -> Result<Node, Stop> {
    let own = properties(reader)?;
    if own.any() {
        separate(reader, indent)?;
    }
    let is_written = match reader.byte() {
        None => false,
        Some(b'[' | b'{') => true,
        Some(byte) => !is_flow_indicator(byte) && !at_value(reader, false),
    };
    if !is_written {
        reader.empty_in(holder, role);
        return Ok(Node::Nothing);
    }
    let first = reader.byte();
    if own.any() && first == Some(b'*') {
        return reader.stop("an alias has neither a tag nor an anchor").map(|()| Node::Nothing);
    }
    flow_content(reader, indent, true, role)?;
    Ok(if matches!(first, Some(b'"' | b'\'' | b'[' | b'{')) { Node::Enclosed } else { Node::Plain })
}

/// Whether a colon that follows a key is here.
fn at_value(reader: &Reader, is_enclosed: bool) -> bool {
    reader.byte() == Some(b':')
        && (is_enclosed || reader.is_space_after(1) || reader.byte_after(1).is_some_and(is_flow_indicator))
}

/// Whitespace, comments and line ends within brackets.
fn separate(reader: &mut Reader, indent: i32) -> Parsed {
    let crossed = reader.skip_separation();
    if reader.byte() == Some(b'#') {
        return reader.stop("whitespace is before a comment");
    }
    if !crossed {
        return Ok(());
    }
    // Many put the last bracket below the key.
    let closes =
        matches!(reader.byte(), Some(b']' | b'}')) && reader.indent() == indent && reader.indent() == reader.column();
    let is_left = reader.at_marker() || reader.indent() <= indent && !closes;
    if reader.at_end() || !is_left {
        return Ok(());
    }
    let (start, open) = reader.brackets.first().copied().unwrap_or((reader.at, TokenKind::BracketOpen));
    if reader.at_marker() || !matches!(reader.byte(), Some(b']' | b'}')) {
        reader.note(start, start + 1, Problem::Unclosed(open));
        return Err(Stop);
    }
    reader.stop("a closing bracket is not left of the key that it belongs to")
}

/// What encloses elements, and what they are together.
struct Brackets {
    open: TokenKind,
    close: TokenKind,
    closer: u8,
    kind: Kind,
}

/// `c-flow-sequence`
fn sequence(reader: &mut Reader, indent: i32, role: Role) -> Parsed {
    let brackets =
        Brackets { open: TokenKind::BracketOpen, close: TokenKind::BracketClose, closer: b']', kind: Kind::List };
    elements(reader, indent, role, &brackets, element)
}

/// `c-flow-mapping`
fn mapping(reader: &mut Reader, indent: i32, role: Role) -> Parsed {
    let brackets =
        Brackets { open: TokenKind::BraceOpen, close: TokenKind::BraceClose, closer: b'}', kind: Kind::Dictionary };
    elements(reader, indent, role, &brackets, pair)
}

/// Elements with commas between them, in brackets.
fn elements(
    reader: &mut Reader,
    indent: i32,
    role: Role,
    brackets: &Brackets,
    element: fn(&mut Reader, i32) -> Parsed,
) -> Parsed {
    let (mark, start) = (reader.open(), reader.at);
    reader.brackets.push((start, brackets.open));
    reader.take(brackets.open, 1);
    separate(reader, indent)?;
    while reader.byte() != Some(brackets.closer) {
        at_element(reader, start, brackets.open)?;
        element(reader, indent)?;
        behind_element(reader, indent, brackets.closer)?;
    }
    reader.brackets.pop();
    reader.take(brackets.close, 1);
    reader.close_as(mark, brackets.kind, role);
    Ok(())
}

/// Stops where no element begins.
fn at_element(reader: &mut Reader, start: usize, open: TokenKind) -> Parsed {
    match reader.byte() {
        None => {
            reader.note(start, start + 1, Problem::Unclosed(open));
            Err(Stop)
        }
        Some(b',') => reader.stop("a value is missing before this comma"),
        Some(b']') => reader.stop("']' does not close '{'"),
        Some(b'}') => reader.stop("'}' does not close '['"),
        Some(_) => Ok(()),
    }
}

/// The comma between two elements.
fn behind_element(reader: &mut Reader, indent: i32, close: u8) -> Parsed {
    separate(reader, indent)?;
    match reader.byte() {
        Some(b',') => {
            reader.take(TokenKind::Comma, 1);
            separate(reader, indent)
        }
        Some(byte) if byte == close => Ok(()),
        // The bracket is told of as never closed.
        None => Ok(()),
        Some(_) => reader.stop("a comma is missing before this"),
    }
}

/// `ns-flow-seq-entry`: a pair alone is a mapping of one entry.
fn element(reader: &mut Reader, indent: i32) -> Parsed {
    let (mark, line, start) = (reader.open(), reader.line_start, reader.at);
    if at_explicit(reader) {
        explicit_pair(reader, indent)?;
        reader.close_as(mark, Kind::Dictionary, Role::Element);
        return Ok(());
    }
    let node = flow_node(reader, mark, indent, Role::Element)?;
    let key_line = reader.line_start;
    reader.skip_blanks();
    if !at_value(reader, node == Node::Enclosed) {
        separate(reader, indent)?;
        if at_value(reader, node == Node::Enclosed) {
            reader.fault(start, reader.at + 1, "a key in a sequence is on one line with its colon");
            return Err(Stop);
        }
        if node == Node::Nothing && reader.byte().is_some_and(|byte| !is_flow_indicator(byte)) {
            return reader.stop("a value is missing before this");
        }
        return Ok(());
    }
    if key_line != line {
        reader.fault(start, reader.at, "a key in a sequence is on one line with its colon");
        return Err(Stop);
    }
    reader.role(Role::Key);
    value(reader, mark, indent)?;
    reader.close_as(mark, Kind::Pair, Role::Element);
    reader.close_as(mark, Kind::Dictionary, Role::Element);
    Ok(())
}

/// `ns-flow-map-entry`
fn pair(reader: &mut Reader, indent: i32) -> Parsed {
    if at_explicit(reader) {
        return explicit_pair(reader, indent);
    }
    let mark = reader.open();
    let node = flow_node(reader, mark, indent, Role::Key)?;
    opt_value(reader, mark, node, indent)
}

fn at_explicit(reader: &Reader) -> bool {
    reader.byte() == Some(b'?') && (reader.is_space_after(1) || reader.byte_after(1).is_some_and(is_flow_indicator))
}

/// `? key : value`
fn explicit_pair(reader: &mut Reader, indent: i32) -> Parsed {
    let mark = reader.open();
    reader.take(TokenKind::Question, 1);
    separate(reader, indent)?;
    let node = flow_node(reader, mark, indent, Role::Key)?;
    opt_value(reader, mark, node, indent)
}

/// The value of a key, or nothing, and the end of their pair.
fn opt_value(reader: &mut Reader, pair: Mark, key: Node, indent: i32) -> Parsed {
    separate(reader, indent)?;
    if at_value(reader, key == Node::Enclosed) {
        value(reader, pair, indent)?;
    } else {
        reader.empty(Role::Value);
    }
    reader.close_as(pair, Kind::Pair, Role::Element);
    Ok(())
}

/// The colon and what is behind it, perhaps nothing.
fn value(reader: &mut Reader, pair: Mark, indent: i32) -> Parsed {
    reader.take(TokenKind::Colon, 1);
    separate(reader, indent)?;
    flow_node(reader, pair, indent, Role::Value).map(|_| ())
}
