//! Names as small numbers, so that comparing and looking them up costs little.

use rustc_hash::FxHashMap;
use std::borrow::Cow;
use unicode_normalization::UnicodeNormalization;

impl Symbol {
    /// As an index into a vector with an entry for every name.
    pub(crate) fn index(self) -> usize {
        self.0 as usize
    }
}

/// A name of one file, as a number.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Symbol(u32);

#[derive(Debug, Default)]
pub(crate) struct Symbols<'t> {
    numbers: FxHashMap<Cow<'t, str>, Symbol>,
    texts: Vec<Cow<'t, str>>,
}

impl<'t> Symbols<'t> {
    pub(crate) fn intern(&mut self, name: &'t str) -> Symbol {
        // Names beyond ASCII are the same if their compatibility forms are (NFKC; Unicode Annex #15).
        let name: Cow<'t, str> = if name.is_ascii() { Cow::Borrowed(name) } else { Cow::Owned(name.nfkc().collect()) };
        if let Some(known) = self.numbers.get(&name) {
            return *known;
        }
        let symbol = Symbol(self.texts.len() as u32);
        self.texts.push(name.clone());
        self.numbers.insert(name, symbol);
        symbol
    }

    /// How many names there are.
    pub(crate) fn count(&self) -> usize {
        self.texts.len()
    }

    pub(crate) fn find(&self, name: &str) -> Option<Symbol> {
        self.numbers.get(name).copied()
    }

    pub(crate) fn text(&self, symbol: Symbol) -> &str {
        &self.texts[symbol.0 as usize]
    }
}
