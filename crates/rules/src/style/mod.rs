//! Declarations and selectors as the rules for style sheets see them.

pub(crate) mod colour;
pub(crate) mod value;

use std::borrow::Cow;

use sieve_syntax::css::name_value;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;
use crate::markup::in_small_letters;
use crate::markup::table::Table;

/// Properties, by the index of the specifications.
pub(crate) static PROPERTIES: Table = Table::new(include_str!("../../data/properties.txt"));

/// Shorthand properties with what each sets.
pub(crate) static SHORTHANDS: Table = Table::new(include_str!("../../data/shorthands.txt"));

/// Pseudo-classes and pseudo-elements.
pub(crate) static PSEUDO: Table = Table::new(include_str!("../../data/pseudo.txt"));

/// Properties that take no words but these.
pub(crate) static KEYWORDS: Table = Table::new(include_str!("../../data/keywords.txt"));

/// Descriptors of at-rules.
pub(crate) static DESCRIPTORS: Table = Table::new(include_str!("../../data/descriptors.txt"));

/// A property with its value.
#[derive(Debug, Clone)]
pub(crate) struct Declaration<'f> {
    pub(crate) node: NodeRef<'f>,
    pub(crate) name: NodeRef<'f>,
    /// The property in small letters, escapes resolved; a custom one as it is written.
    pub(crate) property: Cow<'f, str>,
    /// The value; nothing where there is none.
    pub(crate) value: Option<NodeRef<'f>>,
}

impl<'f> Declaration<'f> {
    pub(crate) fn of(file: File<'f>, node: NodeRef<'_>) -> Option<Declaration<'f>> {
        let node = file.tree.node(node.id());
        // What is no declaration may have many parts.
        let name = Some(node).filter(|node| node.kind() == Kind::StyleDeclaration)?.child(Role::Name)?;
        let written = name_value(file.node_text(name));
        let has_capitals = written.bytes().any(|byte| byte.is_ascii_uppercase()) && !written.starts_with("--");
        let property = if has_capitals { Cow::Owned(written.to_ascii_lowercase()) } else { written };
        Some(Declaration { node, name, property, value: node.child(Role::Value) })
    }

    /// Whether the team chose its name, or a template did.
    pub(crate) fn is_custom(&self) -> bool {
        self.property.starts_with("--")
    }

    pub(crate) fn is_important(&self) -> bool {
        self.value.is_some_and(|value| value.children().any(|part| part.kind() == Kind::ImportantFlag))
    }

    /// The components of its value.
    pub(crate) fn components(&self) -> impl Iterator<Item = NodeRef<'f>> + use<'f> {
        self.value.into_iter().flat_map(|value| value.children()).filter(|part| part.kind() != Kind::ImportantFlag)
    }

    /// The only component of its value.
    pub(crate) fn only_component(&self) -> Option<NodeRef<'f>> {
        let mut components = self.components();
        components.next().filter(|_| components.next().is_none())
    }
}

/// The declarations directly in a block, in order.
pub(crate) fn declarations<'f>(file: File<'f>, block: NodeRef<'_>) -> Vec<Declaration<'f>> {
    block.children().filter_map(|child| Declaration::of(file, child)).collect()
}

/// The word of the at-rule directly around a block or a rule, in small letters, with its `@`.
pub(crate) fn at_word_of<'f>(file: File<'f>, block: NodeRef<'_>) -> Option<Cow<'f, str>> {
    let rule = block.parent().filter(|rule| rule.kind() == Kind::AtRule)?;
    let word = file.node_text(rule.child(Role::Name)?);
    Some(in_small_letters(word))
}

/// Whether all at-rules around a node are those in which properties of the standard are: others have what they want in them.
pub(crate) fn in_known_rules(file: File<'_>, node: NodeRef<'_>) -> bool {
    let blocks = node.ancestors().filter(|around| around.kind() == Kind::Block);
    blocks.filter_map(|block| at_word_of(file, block)).all(|word| WITH_PROPERTIES.contains(&&*word))
}

/// The at-rules in which properties are.
const WITH_PROPERTIES: &[&str] = &[
    "@media",
    "@supports",
    "@layer",
    "@container",
    "@scope",
    "@starting-style",
    "@keyframes",
    "@-webkit-keyframes",
    "@-moz-keyframes",
    "@page",
    "@font-face",
    "@counter-style",
    "@property",
    "@position-try",
];
