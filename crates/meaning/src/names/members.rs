//! Members of types: what a type inherits from others of the file, and which of them a name means.

use rustc_hash::{FxHashMap, FxHashSet};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use super::symbol::{Namespace, Symbol};
use super::{BindingId, Collector, Reach, Reference, Resolution, ScopeId, ScopeKind, Unknown};

/// Types that others are made after are followed to this many.
const MOST_BASES: usize = 64;

/// The members that types of a file have.
#[derive(Debug, Default)]
pub(crate) struct Members {
    /// The scope with the members of each type that has a name.
    of_type: FxHashMap<BindingId, ScopeId>,
    /// The names of the types that a type is made after, from the outermost to its own, by the scope of its members.
    made_after: Vec<(ScopeId, Vec<Symbol>)>,
    /// Those that the file declares.
    bases: FxHashMap<ScopeId, Vec<ScopeId>>,
    /// Members that types which are made after theirs do not have.
    kept: FxHashSet<BindingId>,
    /// The names of members that are used of something which is not known.
    pub(super) accessed: FxHashSet<Symbol>,
    /// The members that are used of what a name is.
    accesses: Vec<Access>,
}

/// A use of a member of what a name is: `boat.depth`.
#[derive(Debug, Clone, Copy)]
struct Access {
    /// The name before the dot.
    object: NodeId,
    name: Symbol,
    /// Its name in another namespace, where it may be found too.
    other: Option<Symbol>,
    node: NodeId,
    span: Span,
    scope: ScopeId,
}

/// What is known of a name among the members of a type.
pub(super) enum Member {
    /// The type has it, or inherits it; not for sure where it has functions of that name that it may inherit more of.
    Found { binding: BindingId, is_sure: bool },
    /// The type does not have it.
    None,
    /// It may inherit it from a type that another file declares.
    Unknown,
}

impl<'t> Collector<'t> {
    /// A scope has the members of a type.
    pub(crate) fn has_members(&mut self, binding: BindingId, scope: ScopeId) {
        self.members.of_type.entry(binding).or_insert(scope);
    }

    /// The scope with the members of a type, as far as the walk has come.
    pub(crate) fn members_of(&self, binding: BindingId) -> Option<ScopeId> {
        self.inside(binding)
    }

    /// Types that are made after that of a member do not have it.
    pub(crate) fn keep(&mut self, binding: BindingId) {
        self.members.kept.insert(binding);
    }

    /// The type of a scope inherits members from the type with these names, of which each but the first is found in the one before it.
    pub(crate) fn inherit(&mut self, scope: ScopeId, from: &[&'t str]) {
        let path = from.iter().map(|name| self.symbols.intern(name, Namespace::Types)).collect();
        self.members.made_after.push((scope, path));
    }

    /// A member of this name is used of something that is not known.
    pub(crate) fn access(&mut self, namespace: Namespace, name: &'t str) {
        let symbol = self.symbols.intern(name, namespace);
        self.members.accessed.insert(symbol);
    }

    /// A member is used of what a name is: its name, at a node, in the first of these namespaces in which it is found.
    pub(crate) fn access_of(
        &mut self,
        object: NodeRef<'t>,
        namespaces: &[Namespace],
        (text, node): (&'t str, NodeRef<'t>),
    ) {
        let mut names = namespaces.iter().map(|namespace| self.symbols.intern(text, *namespace));
        let Some(name) = names.next() else { return };
        let other = names.next();
        let end = node.span().end;
        let (node, span, scope) = (node.id(), Span::new(end - text.len() as u32, end), self.current());
        self.members.accesses.push(Access { object: object.id(), name, other, node, span, scope });
    }

    /// The uses of members that are known by the type of what they are of, from the uses of names, which are in their order. Of others the
    /// name alone is noted.
    pub(super) fn member_uses(&mut self, references: &[Reference]) -> Vec<Reference> {
        let mut found: Vec<Reference> = Vec::new();
        for access in std::mem::take(&mut self.members.accesses) {
            let members = self.type_of(access.object, (references, &found));
            for name in std::iter::once(access.name).chain(access.other) {
                let Access { node, span, scope, .. } = access;
                let known = members.map(|members| self.member(members, name, Some(scope)));
                // A type of which all is known has no such member.
                if !matches!(known, Some(Member::None | Member::Found { is_sure: true, .. })) {
                    self.members.accessed.insert(name);
                }
                if let Some(Member::Found { binding, is_sure }) = known {
                    let resolution = Resolution::Binding(binding);
                    let (excuse, reach, is_doubtful, writes) = (None, Reach::Members, !is_sure, false);
                    let one = Reference { name, scope, node, span, resolution, excuse, writes, is_doubtful, reach };
                    found.push(one);
                    break;
                }
            }
        }
        found
    }

    /// The scope with the members of what the name at a node is: a type, a namespace, or a variable with a type of the file. By the uses of
    /// names, and those of members that come before.
    fn type_of(&self, name: NodeId, (references, members): (&[Reference], &[Reference])) -> Option<ScopeId> {
        let at = |references: &[Reference], node: NodeId| {
            let at = references.partition_point(|reference| reference.node < node);
            references.get(at).filter(|reference| reference.node == node && !reference.is_doubtful).copied()
        };
        let meant = |node: NodeId| match at(references, node).or_else(|| at(members, node))?.resolution {
            Resolution::Binding(id) => Some(id),
            _ => None,
        };
        let binding = meant(name)?;
        if let Some(members) = self.inside(binding) {
            return Some(members);
        }
        let name = self.written_type(binding).filter(|name| name.kind() == Kind::Name)?;
        self.inside(meant(name.id())?)
    }

    /// The name of the type that the only declaration of a variable gives it, where it has one of that type and no array of them.
    pub(super) fn written_type(&self, binding: BindingId) -> Option<NodeRef<'t>> {
        let [only] = self.bindings[binding.0 as usize].declarations.as_slice() else { return None };
        let declared = self.tree.node(only.node);
        // A name with brackets behind it is an array.
        let item = declared.parent().filter(|item| item.kind() == Kind::Assignment);
        let holder = item.unwrap_or(declared).parent()?;
        let given = || holder.child_of(Kind::Property, Role::Returns);
        let written = holder.child(Role::Type).or_else(given).filter(|written| written.kind() == Kind::NamedType)?;
        // One with dots before it stands for several.
        let is_single =
            declared.kind_behind() != TokenKind::BracketOpen && declared.kind_before() != TokenKind::Ellipsis;
        written.child(Role::Name).filter(|_| is_single)
    }

    /// The scope of what is found in a module or a type behind its name.
    pub(super) fn inside(&self, binding: BindingId) -> Option<ScopeId> {
        self.members.of_type.get(&binding).copied()
    }

    /// Joins types to those that they inherit from, once all names are known.
    pub(super) fn link_bases(&mut self) {
        // Types around others come first, so that what they inherit is known where the names of types are looked for.
        for (scope, path) in std::mem::take(&mut self.members.made_after) {
            match self.type_by(scope, &path) {
                Some(base) => self.members.bases.entry(scope).or_default().push(base),
                None => self.mark_may_bind(scope, Unknown::OtherFile),
            }
        }
    }

    /// The scope with the members of the type that is named around a scope.
    fn type_by(&self, scope: ScopeId, path: &[Symbol]) -> Option<ScopeId> {
        let (first, rest) = path.split_first()?;
        let around = self.outwards(scope).into_iter().skip(1);
        let declared = around.into_iter().find_map(|around| self.declared_in(around, *first));
        let first = self.inside(declared?)?;
        rest.iter().try_fold(first, |scope, name| self.inside(self.declared_in(scope, *name)?))
    }

    /// The binding that a scope has of a name, or inherits.
    fn declared_in(&self, scope: ScopeId, name: Symbol) -> Option<BindingId> {
        if self.scope(scope).kind != ScopeKind::Members {
            return self.table.get(&(scope, name)).copied();
        }
        match self.member(scope, name, None) {
            Member::Found { binding, .. } => Some(binding),
            Member::None | Member::Unknown => None,
        }
    }

    /// What a name means among the members of a type, as it is seen from a scope. Functions of one name may come from several types.
    pub(super) fn member(&self, scope: ScopeId, name: Symbol, seen_from: Option<ScopeId>) -> Member {
        let start = scope;
        let is_seen = |binding: &BindingId| {
            let home = self.bindings[binding.0 as usize].scope;
            !self.members.kept.contains(binding)
                || match seen_from {
                    Some(site) => self.outwards(site).contains(&home),
                    None => home == start,
                }
        };
        let is_function = self.symbols.namespace(name) == Namespace::Functions;
        let mut found: Option<BindingId> = None;
        let mut is_known = true;
        let (mut here, mut open, mut seen) = (Some(scope), Vec::new(), 0);
        while let Some(scope) = here {
            match (self.table.get(&(scope, name)).copied().filter(is_seen), found) {
                (Some(binding), None) if !is_function => return Member::Found { binding, is_sure: true },
                (Some(binding), None) => found = Some(binding),
                (Some(_), Some(binding)) => return Member::Found { binding, is_sure: false },
                (None, _) => {}
            }
            is_known &= self.scope(scope).may_bind.is_none();
            seen += 1;
            if seen > MOST_BASES {
                is_known = false;
                break;
            }
            open.extend(self.members.bases.get(&scope).into_iter().flatten().rev().filter(|base| **base != scope));
            here = open.pop();
        }
        match found {
            Some(binding) => Member::Found { binding, is_sure: is_known },
            None if is_known => Member::None,
            None => Member::Unknown,
        }
    }

    /// The scope of the members of the innermost type around a scope.
    pub(crate) fn type_around(&self, scope: ScopeId) -> Option<ScopeId> {
        self.nearest(scope, |kind| kind == ScopeKind::Members)
    }
}
