//! Code of other languages in a file: what a page holds in scripts, styles and attributes.
//!
//! Each language sees the file with only its own stretches in it, as a [`Layer`]: a tree of the whole file in which everything else is
//! trivia. So all that is known of a language holds in an island as it does in a file, at the true places, and nothing has to ask which
//! language a node is in.

use super::Language;
use crate::html::{Held, islands};
use crate::text::Text;
use crate::tree::{Stretch, Tree};

/// A file as one language sees it.
#[derive(Debug)]
pub struct Layer {
    /// The language.
    pub language: Language,
    /// The whole file, everything but the stretches in the language being trivia.
    pub tree: Tree,
    /// The stretches, in order.
    pub stretches: Vec<Stretch>,
}

impl Layer {
    /// Whether a place is in a stretch that is the value of an attribute.
    pub fn is_inline(&self, at: u32) -> bool {
        let before = self.stretches.partition_point(|stretch| stretch.span.start <= at);
        before > 0 && self.stretches[before - 1].is_inline
    }
}

/// A file as each of its languages sees it: first its own, then those of what it holds.
pub fn views<'t>(
    language: Language,
    tree: &'t Tree,
    layers: &'t [Layer],
) -> impl Iterator<Item = (Language, &'t Tree)> {
    std::iter::once((language, tree)).chain(layers.iter().map(|layer| (layer.language, &layer.tree)))
}

/// What a page holds in other languages.
pub(super) fn of_page(text: &Text, tree: &Tree) -> Vec<Layer> {
    let language = |held| match held {
        Held::JavaScript => Language::JavaScript,
        Held::TypeScript => Language::TypeScript,
        Held::Css => Language::Css,
        Held::Json => Language::Json,
    };
    let layer = |island: crate::html::Island| Layer {
        language: language(island.held),
        tree: island.tree,
        stretches: island.stretches,
    };
    islands(text, tree).into_iter().map(layer).collect()
}
