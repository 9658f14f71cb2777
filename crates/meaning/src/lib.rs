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

pub mod configuration;
pub mod data;
pub mod declared;
pub mod doc_comment;
pub mod flow;
mod javascript;
pub mod names;
pub mod project;
mod provided;
mod python;
pub mod python_library;
pub mod refers;
pub mod renaming;
mod shell;
pub mod signature;

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use names::{Collector, Names};

pub use javascript::module::is_runner_name;
pub use provided::provided;
pub use python::builtins as python_builtins;
pub use python::older::had as python_2_had;

/// Reads the names of a file.
pub fn names_of<'t>(language: Language, text: &'t Text, tree: &'t Tree) -> Names<'t> {
    let mut collector = Collector::new(text, tree);
    let nothing: fn(&str) -> bool = |_| false;
    let (is_builtin, may_be_brought): (fn(&str) -> bool, fn(&str) -> bool) = match language {
        Language::Python => {
            python::collect(&mut collector);
            (python::builtins::exists, nothing)
        }
        Language::JavaScript => {
            javascript::collect(&mut collector, false);
            (javascript::globals::is_value, javascript::globals::may_be_brought)
        }
        Language::TypeScript | Language::Tsx => {
            javascript::collect(&mut collector, true);
            (javascript::globals::is_value_or_type, javascript::globals::may_be_brought)
        }
        Language::Shell => {
            shell::collect(&mut collector);
            (|_| true, nothing)
        }
        Language::Json
        | Language::Jsonc
        | Language::Toml
        | Language::Yaml
        | Language::Css
        | Language::Html
        | Language::Hcl
        | Language::Go => (nothing, nothing),
    };
    names::resolve(collector, is_builtin, may_be_brought)
}

/// Whether a module belongs to the library that comes with a language, by its name as imports write it.
pub fn is_of_library(language: Language, module: &str) -> bool {
    let first = module.split('.').next().unwrap_or_default();
    match language {
        Language::Python => python_library::has(first),
        Language::JavaScript | Language::TypeScript | Language::Tsx => {
            module.starts_with("node:") || javascript::OF_NODE.contains(&module)
        }
        Language::Shell
        | Language::Json
        | Language::Jsonc
        | Language::Toml
        | Language::Yaml
        | Language::Css
        | Language::Html
        | Language::Hcl
        | Language::Go => false,
    }
}
