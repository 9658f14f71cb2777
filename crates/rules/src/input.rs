//! A file as it is given to rules and queries.

use std::collections::BTreeMap;

use sieve_meaning::names::Names;
use sieve_meaning::project::{Calls, Others};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use crate::interface::{File, FileData};
use crate::markup::name::names_of_elements;

/// A file, understood as far as the rules that are on need.
#[derive(Debug, Clone, Copy)]
pub struct Input<'i> {
    /// Its path, with `/`, from the root of the code base.
    pub path: &'i str,
    /// Its language.
    pub language: Language,
    /// Its text.
    pub text: &'i Text,
    /// Its tree.
    pub tree: &'i Tree,
    /// Its names, where the rules need them.
    pub names: Option<&'i Names<'i>>,
    /// The files around it, which it asks what it does not know itself.
    pub others: &'i dyn Others,
}

impl Input<'_> {
    /// The names that assistive technology reads out for the elements of a page, by where these begin, in bytes: empty where there is
    /// none ("Accessible Name and Description Computation 1.2"). Elements whose name cannot be known are left out.
    pub fn accessible_names(&self) -> BTreeMap<u32, String> {
        self.with_file(names_of_elements)
    }

    /// Does something with the file as rules are given it: its calls can be followed where its names are known.
    pub(crate) fn with_file<R>(&self, work: impl FnOnce(File<'_>) -> R) -> R {
        let Input { path, language, text, tree, names, others } = *self;
        let calls = names.map(|names| Calls::new(language, text, tree, names, others));
        let data = FileData::new(path, language, text, tree).with_names(names, calls.as_ref()).among(others);
        work(File::of(&data))
    }
}
