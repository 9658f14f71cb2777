//! Pages: HTML as its living standard has it (13.1 "Writing HTML documents", 13.2 "Parsing HTML documents", as of 2024).
//!
//! The tree is the author's nesting. Elements that the standard implies are not in it, and what it would move (formatting that is not
//! nested, content between the rows of a table) stays where it is written. An element whose end tag may be left out, and is, ends where the
//! standard ends it. An end tag that ends nothing is a [`Kind::EndTag`] among the children of what is around it.
//!
//! Marks of template languages are [`Kind::TemplatePart`]s, wherever they are, and nobody looks into them. What `script` and `style`
//! elements and some attributes hold are [`islands`] in other languages.

mod cutter;
mod elements;
mod island;
mod literal;
mod parser;
mod raw;
mod tag;
pub mod template;

pub use elements::{is_void, may_stay_open};
pub use island::{Held, Island, islands};
pub use literal::{attribute_value, markup_text, number_value, string_value};

use crate::text::Text;
use crate::tree::Tree;

/// Parses a page, or a part of one.
pub fn parse(text: &Text) -> Tree {
    parser::page(text.source())
}

#[cfg(doc)]
use crate::tree::Kind;
