//! What scalars are, by the way they are written and the tags before them.

use sieve_syntax::language::Language;
use sieve_syntax::literal::NumberValue;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, TokenKind};
use sieve_syntax::yaml;

use super::{Content, Value};

/// A value that holds no others.
#[derive(Debug, Clone, PartialEq)]
pub enum Scalar {
    /// Null, written or not.
    Null,
    /// True or false.
    Boolean(bool),
    /// A whole number that 128 bits hold.
    Whole(i128),
    /// Any other number.
    Real(f64),
    /// A string, a date or a time.
    String(String),
}

/// The tags of the core schema (YAML 1.2.2, 10.3), as they are mostly written.
const STRING: &[&str] = &["!!str", "!<tag:yaml.org,2002:str>", "!"];
const WHOLE: &[&str] = &["!!int", "!<tag:yaml.org,2002:int>"];
const REAL: &[&str] = &["!!float", "!<tag:yaml.org,2002:float>"];
const BOOLEAN: &[&str] = &["!!bool", "!<tag:yaml.org,2002:bool>"];
const NULL: &[&str] = &["!!null", "!<tag:yaml.org,2002:null>"];

/// What a value is that is no alias; nothing for what holds others, or is not understood.
pub(super) fn scalar_of(value: Value<'_, '_>) -> Option<Scalar> {
    if !matches!(value.part().content, Content::Scalar) {
        return None;
    }
    let data = value.data;
    let node = value.node();
    let tag = value.part().tag.map(|tag| data.text.slice(data.node(tag).span()));
    let Some(tag) = tag else { return plain(data.language, data.text, node) };
    // What a tag says is held against the characters.
    let characters = string_of(data.language, data.text, node)?;
    let number = || number(data.language, &characters);
    if STRING.contains(&tag) {
        Some(Scalar::String(characters))
    } else if WHOLE.contains(&tag) {
        number()
    } else if REAL.contains(&tag) {
        number().map(|number| match number {
            Scalar::Whole(whole) => Scalar::Real(whole as f64),
            other => other,
        })
    } else if BOOLEAN.contains(&tag) {
        Some(Scalar::Boolean(characters.eq_ignore_ascii_case("true")))
    } else if NULL.contains(&tag) {
        Some(Scalar::Null)
    } else {
        // A type that only the program knows.
        Some(Scalar::String(characters))
    }
}

fn plain(language: Language, text: &Text, node: NodeRef<'_>) -> Option<Scalar> {
    let written = text.slice(node.span());
    match node.kind() {
        Kind::Null => Some(Scalar::Null),
        Kind::Boolean => Some(Scalar::Boolean(written.eq_ignore_ascii_case("true"))),
        Kind::Number => number(language, written),
        Kind::DateTime => Some(Scalar::String(written.to_string())),
        _ => string_of(language, text, node).map(Scalar::String),
    }
}

fn number(language: Language, written: &str) -> Option<Scalar> {
    let is_negative = written.starts_with('-');
    let digits = written.strip_prefix(['-', '+']).unwrap_or(written);
    Some(match language.number_value(digits)? {
        NumberValue::Whole(value) => match i128::try_from(value) {
            Ok(value) => Scalar::Whole(if is_negative { -value } else { value }),
            Err(_) => Scalar::Real(if is_negative { -(value as f64) } else { value as f64 }),
        },
        NumberValue::Real(value) | NumberValue::Imaginary(value) => {
            Scalar::Real(if is_negative { -value } else { value })
        }
    })
}

/// The characters of a string, or of whatever else a scalar is written as.
pub(super) fn string_of(language: Language, text: &Text, node: NodeRef<'_>) -> Option<String> {
    let written = text.slice(node.span());
    if node.first_token_kind() == TokenKind::BlockScalar {
        return Some(yaml::block_value(written, indent_around(text, node)));
    }
    if node.kind() == Kind::String { language.string_value(written) } else { Some(written.to_string()) }
}

/// How far the collection in block style is indented that holds a node.
fn indent_around(text: &Text, node: NodeRef<'_>) -> usize {
    let holder = node.ancestors().find(|around| matches!(around.kind(), Kind::List | Kind::Dictionary));
    holder.map_or(0, |holder| {
        let start = holder.span().start;
        (start - text.lines().full_line(text.lines().line_of(start)).start) as usize
    })
}
