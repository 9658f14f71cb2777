//! What names in a syntax tree represent.
//!
//! A language's folder walks the tree once and says what opens a scope, what binds a name and what uses one; `names` holds
//! what all languages share: scopes, bindings, and resolving uses to bindings. Every answer is yes, no, or
//! unknown with a reason.
//!
//! ```
//! use sieve_meaning::names::Resolution;
//! use sieve_syntax::{language::Language, text::Text};
//!
//! let text = Text::new("import tides\nprint(tide)\n".into());
//! let tree = Language::Python.parse(&text);
//! let names = sieve_meaning::names_of(Language::Python, &text, &tree);
//! let undefined: Vec<&str> = names
//!     .references()
//!     .filter(|reference| reference.resolution == Resolution::Undefined)
//!     .map(|reference| names.text(reference.name))
//!     .collect();
//! assert_eq!(undefined, ["tide"]);
//! ```
#![forbid(unsafe_code)]
#![cfg_attr(feature = "without-csharp", expect(dead_code, reason = "what names offer to that language alone"))]

mod condition;
pub mod configuration;
#[cfg(not(feature = "without-csharp"))]
mod csharp;
pub mod data;
pub mod declared;
pub mod doc_comment;
mod doc_reference;
pub mod flow;
pub mod folder_module;
mod go;
mod java;
mod javascript;
pub mod names;
pub mod opened;
pub mod project;
mod provided;
mod python;
pub mod python_library;
pub mod refers;
pub mod renaming;
mod rust;
mod shell;
pub mod signature;
mod table;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use names::{Collector, Names};

pub use go::interfaces as go_interfaces;
pub use javascript::module::is_runner_name;
pub use provided::provided;
pub use python::builtins as python_builtins;
pub use python::older::had as python_2_had;
pub use rust::MACROS_OF_VALUES as RUST_MACROS_OF_VALUES;

/// Reads the names of a file.
pub fn names_of<'t>(language: Language, text: &'t Text, tree: &'t Tree) -> Names<'t> {
    let meaning = table::meaning_of(language);
    let mut collector = Collector::new(text, tree);
    (meaning.collect)(&mut collector);
    names::resolve(collector, meaning.is_builtin, meaning.may_be_brought)
}

/// The public names of a module of the library that comes with a language, sorted; nothing where they are not known.
pub fn library_members(language: Language, module: &str) -> Option<&'static [&'static str]> {
    (table::meaning_of(language).library_members)(module)
}

/// Whether a module belongs to the library that comes with a language, by its name as imports write it.
pub fn is_of_library(language: Language, module: &str) -> bool {
    (table::meaning_of(language).is_of_library)(module)
}
