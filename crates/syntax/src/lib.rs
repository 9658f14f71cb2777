//! Text, tokens and one lossless syntax tree for every language.
//!
//! The stages are plain data, each callable alone: bytes are decoded into a [`text::Text`], a language's
//! lexer cuts it into [`tree::Token`]s, its parser joins these into a [`tree::Tree`]. Nothing here
//! reads files and nothing here knows rules.
//!
//! ```
//! use sieve_syntax::{language::Language, text::Text, tree::Kind};
//!
//! let text = Text::new("fare = adult * 2\n".into());
//! let tree = Language::Python.parse(&text);
//! assert!(tree.faults().is_empty());
//! assert_eq!(tree.nodes_of(Kind::Binary).count(), 1);
//! ```
#![forbid(unsafe_code)]

#[cfg(not(feature = "without-csharp"))]
mod csharp;
pub mod css;
mod go;
pub mod hcl;
pub mod html;
mod java;
mod javascript;
pub mod json;
pub mod language;
pub mod literal;
pub mod parse;
mod python;
mod rust;
mod shell;
pub mod text;
pub mod toml;
pub mod tree;
pub mod yaml;
