//! Members that are renamed, and where members are declared.

use std::collections::BTreeSet;

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::lookup::{Access, Member, Owner};

/// What is renamed.
pub(super) struct Target {
    pub(super) access: Access,
    /// The declarations that get the new name.
    pub(super) members: BTreeSet<Member>,
    /// A trait declares it.
    pub(super) is_of_trait: bool,
}

impl Target {
    /// Whether a member is one that is renamed.
    pub(super) fn has(&self, owner: Owner) -> bool {
        matches!(owner, Owner::Own(member) if self.members.contains(&member))
    }
}

/// How what a name declares is used, if that is a member.
pub(super) fn declares(node: NodeRef<'_>) -> Option<Access> {
    let parent = node.parent()?;
    let is_associated = |item: NodeRef<'_>| {
        let holder = item.parent().and_then(NodeRef::parent);
        holder.is_some_and(|holder| matches!(holder.kind(), Kind::Implementation | Kind::Interface))
    };
    match (parent.kind(), node.role()) {
        (Kind::Field, Role::Name) => Some(Access::Field),
        (Kind::Function, Role::Name) if is_associated(parent) => Some(Access::Associated),
        (Kind::AnnotatedAssignment | Kind::Assignment, Role::Target) => parent
            .parent()
            .filter(|of| of.kind() == Kind::Declaration && is_associated(*of))
            .map(|_| Access::Associated),
        _ => None,
    }
}
