//! Keys in literals: the names of fields in one of a struct, values in one of an array, a slice or a map.

use rustc_hash::FxHashMap;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::Collector;

/// What a name is that is a key in a literal.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum KeyMeaning {
    /// The name of a field.
    Field,
    /// A value.
    Value,
    /// One of both: the type of the literal is declared elsewhere.
    Unknown,
}

/// The types that a file declares, with what they are made of.
#[derive(Debug)]
pub(super) struct Types<'t>(FxHashMap<&'t str, NodeRef<'t>>);

/// Types that stand for others are followed this far.
const LONGEST_CHAIN: usize = 8;

impl<'t> Types<'t> {
    pub(super) fn of(collector: &Collector<'t>) -> Types<'t> {
        let declarations = collector.tree.root().children().filter(|node| node.kind() == Kind::Declaration);
        let types = declarations.flat_map(|declaration| declaration.children_in(Role::Item));
        let named = types.filter_map(|item| {
            let made_of = item.child_of(Kind::TypeDefinition, Role::Type);
            let made_of = made_of.or_else(|| item.child_of(Kind::TypeAlias, Role::Value))?;
            Some((collector.node_text(item.child(Role::Name)?), made_of))
        });
        Types(named.collect())
    }

    /// What a name is that is the key of an element.
    pub(super) fn key_meaning(&self, collector: &Collector<'t>, pair: NodeRef<'t>) -> KeyMeaning {
        let made_of = pair.parent().and_then(|literal| self.type_of(collector, literal, 0));
        match made_of.map(|made_of| made_of.kind()) {
            Some(Kind::ObjectType) => KeyMeaning::Field,
            Some(Kind::ArrayType | Kind::MapType) => KeyMeaning::Value,
            _ => KeyMeaning::Unknown,
        }
    }

    /// What the type of a literal is made of. One without a type of its own has that of the elements around it.
    fn type_of(&self, collector: &Collector<'t>, literal: NodeRef<'t>, depth: usize) -> Option<NodeRef<'t>> {
        if depth > LONGEST_CHAIN || literal.kind() != Kind::Composite {
            return None;
        }
        if let Some(own) = literal.child(Role::Type) {
            return self.made_of(collector, own);
        }
        let parent = literal.parent()?;
        let is_key = literal.role() == Role::Key;
        let outer = if parent.kind() == Kind::Pair { parent.parent()? } else { parent };
        let around = self.type_of(collector, outer, depth + 1)?;
        let element = match around.kind() {
            Kind::ArrayType => around.child(Role::Element)?,
            Kind::MapType if is_key => around.child(Role::Key)?,
            Kind::MapType => around.child(Role::Value)?,
            _ => return None,
        };
        self.made_of(collector, element)
    }

    fn made_of(&self, collector: &Collector<'t>, of: NodeRef<'t>) -> Option<NodeRef<'t>> {
        let mut found = of;
        for _ in 0..LONGEST_CHAIN {
            found = match found.kind() {
                Kind::PointerType => found.child(Role::Element)?,
                Kind::GroupType => found.child(Role::Type)?,
                Kind::NamedType => *self.0.get(collector.node_text(found.child(Role::Name)?))?,
                Kind::Subscript => *self.0.get(collector.node_text(found.child(Role::Object)?))?,
                Kind::Name => *self.0.get(collector.node_text(found))?,
                _ => return Some(found),
            };
        }
        None
    }
}
