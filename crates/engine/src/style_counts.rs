//! How many names of each sort have which style.

use std::collections::BTreeMap;

use sieve_meaning::configuration::Configuration;
use sieve_meaning::folder_module::FolderForm;
use sieve_rules::NameStyle;
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role, Tree};

/// What fewer than this share of a hundred places do is no habit of the whole code base.
pub const MOST: usize = 80;

/// Fewer names than this are no habit.
const FEWEST_NAMES: usize = 10;

/// What most names of a sort look like.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NameHabit {
    /// The language.
    pub language: Language,
    /// The kind of names.
    pub kind: &'static str,
    /// The style that most of them have.
    pub style: NameStyle,
    /// How many have it.
    pub with: usize,
    /// How many there are whose style can be known.
    pub all: usize,
}

/// For each kind of names in a language, how many there are, and how many of them have each style.
#[derive(Debug, Default)]
pub(crate) struct StyleCounts(BTreeMap<(Language, &'static str), (usize, BTreeMap<NameStyle, usize>)>);

impl StyleCounts {
    /// Counts the names that a file gives. In a module of infrastructure files these are the ones that it declares.
    pub(crate) fn see(&mut self, language: Language, path: &str, text: &Text, tree: &Tree) {
        if FolderForm::of(language) == Some(FolderForm::Configuration) {
            let configuration = Configuration::of(language, path, text, tree);
            let declared = configuration.iter().flat_map(|configuration| &configuration.declared);
            let names = declared.filter_map(|one| one.value_name());
            return names.for_each(|(_, name)| self.count(language, "variable", name));
        }
        for node in tree.nodes() {
            let Some((kind, role)) = kind_of(node) else { continue };
            let Some(name) = node.child(role) else { continue };
            self.count(language, kind, text.slice(name.span()));
        }
    }

    fn count(&mut self, language: Language, kind: &'static str, name: &str) {
        // A name that several styles would allow tells nothing.
        if let Some(style) = NameStyle::only_one_of(name) {
            let (all, styles) = self.0.entry((language, kind)).or_default();
            *all += 1;
            *styles.entry(style).or_insert(0) += 1;
        }
    }

    pub(crate) fn join(&mut self, other: &StyleCounts) {
        for (kind, (all, styles)) in &other.0 {
            let sum = self.0.entry(*kind).or_default();
            sum.0 += all;
            for (style, count) in styles {
                *sum.1.entry(*style).or_insert(0) += count;
            }
        }
    }

    /// The style that most names of each sort have in each language.
    pub(crate) fn habits(&self) -> Vec<NameHabit> {
        let mut found = Vec::new();
        for ((language, kind), (all, styles)) in &self.0 {
            let most = styles.iter().max_by_key(|(_, count)| **count);
            let Some((style, with)) = most.filter(|_| *all >= FEWEST_NAMES) else { continue };
            if with * 100 >= *all * MOST {
                found.push(NameHabit { language: *language, kind, style: *style, with: *with, all: *all });
            }
        }
        found
    }
}

/// The kind of a name that a node gives, and the part of it that is the name.
fn kind_of(node: NodeRef<'_>) -> Option<(&'static str, Role)> {
    let in_class = node.class_around().is_some();
    Some(match node.kind() {
        Kind::Function if in_class => ("method", Role::Name),
        Kind::Function => ("function", Role::Name),
        Kind::Class | Kind::Interface | Kind::Enum => ("type", Role::Name),
        Kind::Parameter => ("parameter", Role::Name),
        Kind::Field if in_class => ("member", Role::Name),
        Kind::Assignment if is_constant(node) => ("constant", Role::Target),
        Kind::Assignment if in_class => ("member", Role::Target),
        Kind::Assignment if node.child(Role::Target).is_some_and(|target| target.kind() == Kind::Name) => {
            ("variable", Role::Target)
        }
        _ => return None,
    })
}

/// A name of a file that is bound to a number or a text.
fn is_constant(node: NodeRef<'_>) -> bool {
    let at_top = node.parent().is_some_and(|parent| parent.kind() == Kind::File);
    let is_literal = |value: NodeRef<'_>| matches!(value.kind(), Kind::Number | Kind::String);
    let is_name = |target: NodeRef<'_>| target.kind() == Kind::Name;
    at_top && node.child(Role::Target).is_some_and(is_name) && node.child(Role::Value).is_some_and(is_literal)
}
