//! What a name is, where one place of its file declares it, and who sees what is declared.

use rustc_hash::FxHashSet;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::names::{Binding, BindingId, DeclarationKind, Names, Resolution};

/// The word of a declaration that says who sees it, with what is in parentheses behind it: `private`, `pub(crate)`. Of several, all of
/// them: `private protected`.
pub fn visibility<'t>(text: &'t Text, declaration: NodeRef<'_>) -> Option<&'t str> {
    let mut words = declaration.children().filter(|part| part.kind() == Kind::Visibility);
    let first = words.next()?;
    let last = words.last().unwrap_or(first);
    Some(text.slice(Span::new(first.span().start, last.span().end)))
}

/// Whether the first parameter of a function is what it is called on.
pub(crate) fn is_extension(function: NodeRef<'_>) -> bool {
    let first = function.child(Role::Parameters).and_then(|list| list.children().next());
    first.is_some_and(|first| first.tokens_before(first.child(Role::Type)).any(|(_, kind)| kind == TokenKind::This))
}

/// The class that the name at a node represents; nothing where more than that class gives it a meaning.
pub fn class_of<'t>(names: &Names<'_>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    declares(names, name).filter(|class| class.kind() == Kind::Class)
}

/// What declares the name at a node and nothing else does: the class, the enumeration, the assignment.
pub fn declares<'t>(names: &Names<'_>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let [only] = binding_of(names, name)?.declarations.as_slice() else { return None };
    name.tree().node(only.node).parent()
}

/// The type that the only declaration of a variable gives it, by a use of it.
pub fn written_type<'t>(names: &Names<'_>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let [only] = binding_of(names, name)?.declarations.as_slice() else { return None };
    let declared = name.tree().node(only.node);
    if declared.kind() == Kind::Parameter {
        return declared.child(Role::Type);
    }
    let item = declared.parent()?;
    item.child(Role::Type).or_else(|| item.parent().filter(|_| item.role() == Role::Item)?.child(Role::Type))
}

/// A variable that one place declares, and the places that use it.
#[derive(Debug)]
pub struct DeclaredOnce<'n, 't> {
    /// The name in the declaration.
    pub name: NodeRef<'t>,
    /// Its binding.
    pub binding: &'n Binding,
    /// The uses, in the order of the text.
    pub uses: Vec<NodeRef<'t>>,
}

/// Of the names at these nodes those that are declared there and nowhere else, in the order of the text.
pub fn declared_once<'n, 't>(names: &'n Names<'_>, declared: &[NodeRef<'t>]) -> Vec<DeclaredOnce<'n, 't>> {
    let Some(first) = declared.first() else { return Vec::new() };
    let tree = first.tree();
    let wanted: FxHashSet<NodeId> = declared.iter().map(|name| name.id()).collect();
    let once = names.bindings_with_ids().filter_map(|(id, binding)| match binding.declarations.as_slice() {
        [only] if wanted.contains(&only.node) => Some((id, binding, tree.node(only.node))),
        _ => None,
    });
    let once: Vec<(BindingId, &Binding, NodeRef)> = once.collect();
    let mut uses = names.uses_of(&once.iter().map(|(id, ..)| *id).collect());
    let found = once.into_iter().map(|(id, binding, name)| {
        let uses = uses.remove(&id).unwrap_or_default();
        DeclaredOnce { name, binding, uses: uses.into_iter().map(|one| tree.node(one.node)).collect() }
    });
    let mut found: Vec<DeclaredOnce> = found.collect();
    found.sort_by_key(|variable| variable.name.id());
    found
}

/// The value that a variable is given in its only assignment, by a use of it.
pub fn only_value<'t>(names: &Names<'_>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let binding = binding_of(names, name)?;
    let [only] = binding.declarations.as_slice() else { return None };
    let assignment = name.tree().node(only.node).parent().filter(|_| binding.writes == 0)?;
    assignment.child_at_end(Role::Value).filter(|_| only.kind == DeclarationKind::Assignment)
}

fn binding_of<'n>(names: &'n Names<'_>, name: NodeRef<'_>) -> Option<&'n Binding> {
    match names.resolution_at(name.id())? {
        Resolution::Binding(id) => Some(names.binding(id)),
        Resolution::Builtin | Resolution::Unknown(_) | Resolution::Undefined => None,
    }
}

#[cfg(test)]
mod tests {
    use sieve_syntax::language::Language;

    use super::*;
    use crate::names_of;

    /// What the last use of `boat` in a source is said to be.
    fn said(source: &str) -> (Option<Kind>, Option<Kind>) {
        let text = Text::new(source.to_string());
        let tree = Language::Python.parse(&text);
        let names = names_of(Language::Python, &text, &tree);
        let last = names.references().filter(|reference| names.text(reference.name) == "boat").last();
        let node = tree.node(last.expect("a use").node);
        (class_of(&names, node).map(NodeRef::kind), only_value(&names, node).map(NodeRef::kind))
    }

    #[test]
    fn a_declaration_says_what_type_a_variable_has() {
        let source = "class Quay {\nInteger low;\nboolean f(Long low, String[] name) { Integer high = 3; return low == high; } }\n";
        let text = Text::new(source.to_string());
        let tree = Language::Java.parse(&text);
        let names = names_of(Language::Java, &text, &tree);
        let uses = tree.nodes().filter(|node| node.role() == Role::Operand);
        let types: Vec<_> = uses.map(|name| written_type(&names, name).map(|of| text.slice(of.span()))).collect();
        assert_eq!(types, [Some("Long"), Some("Integer")]);
    }

    #[test]
    fn a_variable_is_given_with_its_uses_where_one_place_declares_it() {
        let source = "low = 1\nhigh = 2\nprint(low, high)\nhigh = low\n";
        let text = Text::new(source.to_string());
        let tree = Language::Python.parse(&text);
        let names = names_of(Language::Python, &text, &tree);
        let targets: Vec<NodeRef> = tree.nodes().filter(|node| node.role() == Role::Target).collect();
        let found = declared_once(&names, &targets);
        let said: Vec<_> = found.iter().map(|one| (text.slice(one.name.span()), one.uses.len())).collect();
        assert_eq!(said, [("low", 2)]);
    }

    #[test]
    fn one_declaration_says_what_a_name_is_and_two_say_nothing() {
        assert_eq!(said("class boat: pass\nboat()\n"), (Some(Kind::Class), None));
        assert_eq!(said("class boat: pass\nboat = 3\nboat()\n"), (None, None));
        assert_eq!(said("boat = [1]\nprint(boat)\n"), (None, Some(Kind::List)));
        assert_eq!(said("boat = 1\nboat = 2\nprint(boat)\n"), (None, None));
        assert_eq!(said("for boat in [1]: print(boat)\n"), (None, None));
        assert_eq!(said("print(boat)\n"), (None, None));
    }
}
