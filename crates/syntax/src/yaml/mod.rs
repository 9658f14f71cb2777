//! YAML 1.2.2.
//!
//! A file holds [`Kind::Document`]s. A mapping is a [`Kind::Dictionary`] of [`Kind::Pair`]s, a sequence a [`Kind::List`], in either style; a
//! scalar without quotes is what the core schema makes of it (YAML 1.2.2, 10.3). An [`Kind::Anchor`] and a [`Kind::Tag`] come before the node
//! that they belong to, as its siblings; a node that is not written is a [`Kind::Null`] of no width.
//!
//! What a character means depends on the column and on what is around, so there is no lexer that runs ahead: a reader cuts tokens while
//! it builds nodes, each character once. One mistake is one fault; after it the rest of the entry is left out, as far as it is indented.

mod block;
mod flow;
mod literal;
mod plain;
mod property;
mod quoted;
mod reader;
mod schema;
mod stream;
mod verbatim;

pub use literal::{block_value, string_value};
pub use schema::number_value;

use crate::text::Text;
use crate::tree::Tree;

/// Parses a stream of documents.
pub fn parse(text: &Text) -> Tree {
    stream::stream(text.source())
}

#[cfg(doc)]
use crate::tree::Kind;
