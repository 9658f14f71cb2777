//! Names as small numbers, so that comparing and looking them up costs little.

use rustc_hash::FxHashMap;
use std::borrow::Cow;
use unicode_normalization::UnicodeNormalization;

/// Where a name lives: names of two namespaces that are spelled alike are two names ("Namespaces", The Rust Reference; "Determining the
/// Meaning of a Name", The Java Language Specification). Languages that do not tell them apart have values alone.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Namespace {
    /// Variables, fields and constants, and whatever else has a value.
    Values,
    /// Types, and what types are found in.
    Types,
    /// Functions, where they are no values.
    Functions,
    /// Macros.
    Macros,
}

impl Namespace {
    /// Every namespace.
    pub const ALL: &'static [Namespace] =
        &[Namespace::Values, Namespace::Types, Namespace::Functions, Namespace::Macros];
}

/// A name of one file, as a number.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Symbol(u32);

impl Symbol {
    /// As an index into a vector with an entry for every name.
    pub(crate) fn index(self) -> usize {
        self.0 as usize
    }
}

#[derive(Debug, Default)]
pub(crate) struct Symbols<'t> {
    /// Those of each namespace.
    numbers: [FxHashMap<Cow<'t, str>, Symbol>; Namespace::ALL.len()],
    texts: Vec<(Cow<'t, str>, Namespace)>,
}

impl<'t> Symbols<'t> {
    pub(crate) fn intern(&mut self, name: &'t str, namespace: Namespace) -> Symbol {
        // Names beyond ASCII are the same if their compatibility forms are (NFKC; Unicode Annex #15).
        let name: Cow<'t, str> = if name.is_ascii() { Cow::Borrowed(name) } else { Cow::Owned(name.nfkc().collect()) };
        let numbers = &mut self.numbers[namespace as usize];
        if let Some(known) = numbers.get(&name) {
            return *known;
        }
        let symbol = Symbol(self.texts.len() as u32);
        self.texts.push((name.clone(), namespace));
        numbers.insert(name, symbol);
        symbol
    }

    /// How many names there are.
    pub(crate) fn count(&self) -> usize {
        self.texts.len()
    }

    pub(crate) fn find(&self, name: &str, namespace: Namespace) -> Option<Symbol> {
        self.numbers[namespace as usize].get(name).copied()
    }

    pub(crate) fn text(&self, symbol: Symbol) -> &str {
        &self.texts[symbol.0 as usize].0
    }

    pub(crate) fn namespace(&self, symbol: Symbol) -> Namespace {
        self.texts[symbol.0 as usize].1
    }
}
