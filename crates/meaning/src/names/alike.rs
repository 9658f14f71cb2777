//! A value and its type of one name: what is behind the dot tells which is meant ("Identical simple names and type names", ECMA-334).

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use super::symbol::Namespace;
use super::{BindingId, Collector};

/// Which of a value and a type is meant by a name that both have.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Meant {
    /// That which is nearer: the value is of another type.
    Nearer,
    /// The type: it has the member that is used.
    Type,
    /// The value: objects of its type have the member that is used.
    Value,
    /// One of them.
    Unknown,
}

impl<'t> Collector<'t> {
    /// Which of a value and a type the name at a node means.
    pub(super) fn meant(&self, value: BindingId, of_type: BindingId, node: NodeId) -> Meant {
        let name = self.tree.node(node);
        let is_of_that =
            |written: NodeRef<'t>| self.node_text(written).rsplit('.').next() == Some(self.node_text(name));
        match self.written_type(value) {
            Some(written) if is_of_that(written) => match self.belongs_to_type(of_type, name) {
                Some(true) => Meant::Type,
                Some(false) => Meant::Value,
                None => Meant::Unknown,
            },
            Some(_) => Meant::Nearer,
            // What it is may be the work of its value.
            None => Meant::Unknown,
        }
    }

    /// Whether the member that is used of a name is one of the type and not of its objects; nothing where it is not known.
    fn belongs_to_type(&self, of_type: BindingId, name: NodeRef<'t>) -> Option<bool> {
        let member = name.parent().filter(|member| member.kind() == Kind::Member && name.role() == Role::Object)?;
        let text = self.node_text(member.child(Role::Name)?);
        let scope = self.inside(of_type)?;
        let declared = |namespace: Namespace| {
            let symbol = self.symbols.find(text, namespace)?;
            self.table.get(&(scope, symbol)).copied()
        };
        if declared(Namespace::Types).is_some() {
            return Some(true);
        }
        let declarations = &self.bindings[declared(Namespace::Values)?.0 as usize].declarations;
        let is_static = |node: NodeId| says_static(self.tree.node(node));
        let first = is_static(declarations.first()?.node);
        declarations.iter().all(|one| is_static(one.node) == first).then_some(first)
    }
}

/// Whether a member is declared as one of its type: by a word, or as a constant.
fn says_static(name: NodeRef<'_>) -> bool {
    let is_member = |kind: Kind| matches!(kind, Kind::Field | Kind::Property | Kind::Function | Kind::EnumMember);
    let Some(member) = name.ancestors().find(|around| is_member(around.kind())) else { return false };
    let mut before = member.tokens_before(Some(name));
    member.kind() == Kind::EnumMember
        || before.any(|(_, kind)| matches!(kind, TokenKind::StaticWord | TokenKind::Const))
}
