//! What a name is, where one place of its file declares it, and who sees what is declared.

use sieve_syntax::text::Text;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{Binding, DeclarationKind, Names, Resolution};

/// The word of a declaration that says who sees it, with what is in parentheses behind it: `private`, `pub(crate)`.
pub fn visibility<'t>(text: &'t Text, declaration: NodeRef<'_>) -> Option<&'t str> {
    let word = declaration.children().find(|part| part.kind() == Kind::Visibility)?;
    Some(text.slice(word.span()))
}

/// The class that the name at a node represents; nothing where more than that class gives it a meaning.
pub fn class_of<'t>(names: &Names<'_>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let [only] = binding_of(names, name)?.declarations.as_slice() else { return None };
    name.tree().node(only.node).parent().filter(|class| class.kind() == Kind::Class)
}

/// The value that a variable is given in its only assignment, by a use of it.
pub fn only_value<'t>(names: &Names<'_>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let binding = binding_of(names, name)?;
    let [only] = binding.declarations.as_slice() else { return None };
    let assignment = name.tree().node(only.node).parent().filter(|_| binding.writes == 0)?;
    assignment.child(Role::Value).filter(|_| only.kind == DeclarationKind::Assignment)
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
    fn one_declaration_says_what_a_name_is_and_two_say_nothing() {
        assert_eq!(said("class boat: pass\nboat()\n"), (Some(Kind::Class), None));
        assert_eq!(said("class boat: pass\nboat = 3\nboat()\n"), (None, None));
        assert_eq!(said("boat = [1]\nprint(boat)\n"), (None, Some(Kind::List)));
        assert_eq!(said("boat = 1\nboat = 2\nprint(boat)\n"), (None, None));
        assert_eq!(said("for boat in [1]: print(boat)\n"), (None, None));
        assert_eq!(said("print(boat)\n"), (None, None));
    }
}
