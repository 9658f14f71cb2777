//! Renames a member, with all uses of it.

use std::collections::BTreeSet;

use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role};

use super::implements::Having;
use super::lookup::{Found, Member, Owner};
use super::project::{Known, Project};
use crate::rename::audit::{refused, unknown_member};
use crate::rename::package::{is_public, would_be_hidden};
use crate::rename::source::{Sources, View};
use crate::rename::{CannotRename, Edits, RenameRequest, Renamed, replace_all};

/// What is renamed: the member of that name of some types.
pub(super) struct Target<'p, 'v> {
    pub(super) sources: &'p Sources,
    pub(super) project: &'p Project<'v>,
    pub(super) old: &'v str,
    pub(super) new: &'p str,
    pub(super) related: BTreeSet<Owner>,
    /// The types and interfaces that have it, if it is a method.
    pub(super) having: Vec<Having<'v>>,
    /// Where these declare it.
    pub(super) declared: Vec<Member<'v>>,
}

/// Whether a name is the name of a member where it is declared, or as a key of what is made.
pub(in crate::rename) fn is_member(sources: &Sources, views: &[View<'_>], home: usize, name: NodeRef<'_>) -> bool {
    let name = views[home].file.tree.node(name.id());
    let Some(holder) = name.parent() else { return false };
    match (holder.kind(), name.role()) {
        (Kind::Field, Role::Name) => true,
        (Kind::Function, Role::Name) => is_method(holder),
        (Kind::Pair, Role::Key) => {
            matches!(Project::new(sources, views).used(home, name), Found::Member(_))
        }
        _ => false,
    }
}

/// Renames the member that a name declares or uses.
pub(in crate::rename) fn member(
    sources: &Sources,
    views: &[View<'_>],
    (home, at): (usize, NodeId),
    asked: &RenameRequest<'_>,
    edits: &mut Edits,
) -> Renamed<()> {
    let view = &views[home];
    let project = Project::new(sources, views);
    let name = view.file.tree.node(at);
    let old = view.file.slice(name);
    let Some(start) = member_at(&project, home, name) else {
        return refused(format!("it is not known whose member \"{old}\" is here"), view, name.span());
    };
    if start.is_embedded() {
        return refused("an embedded type gives the field its name".into(), view, name.span());
    }
    let (related, having) = match start.is_method() {
        true => project.family(start.owner, old),
        false => (BTreeSet::from([start.owner]), Vec::new()),
    };
    let declared: Vec<Member<'_>> = related.iter().flat_map(|owner| project.declarations(*owner, old)).collect();
    let target = Target { sources, project: &project, old, new: asked.new, related, having, declared };
    target.check(asked.all_members)?;
    target.is_one(asked.family)?;
    target.rename(asked.all_members, edits)
}

/// The member that is declared or used at a name.
fn member_at<'v>(project: &Project<'v>, file: usize, name: NodeRef<'v>) -> Option<Member<'v>> {
    let holder = name.parent()?;
    let owner = match (holder.kind(), name.role()) {
        (Kind::Function, Role::Name) if holder.child(Role::Receiver).is_some() => {
            let Known::Type(of) = project.receiver(file, holder) else { return None };
            Owner::Type(of)
        }
        (Kind::Function | Kind::Field, Role::Name) => project.owner(file, holder.parent()?),
        _ => {
            let Found::Member(found) = project.used(file, name) else { return None };
            return Some(found);
        }
    };
    Some(Member { owner, file, holder, name })
}

/// Whether a function belongs to a type, or is what an interface asks for.
fn is_method(function: NodeRef<'_>) -> bool {
    let is_asked = || function.parent().is_some_and(|around| around.kind() == Kind::InterfaceType);
    function.child(Role::Receiver).is_some() || is_asked()
}

impl Target<'_, '_> {
    /// Refuses to rename several members, unless that is asked for.
    fn is_one(&self, family: bool) -> Renamed<()> {
        if family || self.related.len() == 1 {
            return Ok(());
        }
        let message = "interfaces ask for it, and types have it for them; --family renames all of them".to_string();
        let places = self.declared.iter().map(|one| self.place(one.file, one.name.span())).collect();
        Err(CannotRename::Refused(message, places))
    }

    fn rename(&self, all_members: bool, edits: &mut Edits) -> Renamed<()> {
        let uses = self.project.uses(&self.related, self.old);
        let other = self.other_declaration();
        if !uses.unknown.is_empty() && !(all_members && other.is_none()) {
            return Err(unknown_member(self.project.views, self.old, other, &uses.unknown));
        }
        let declared = self.declared.iter().map(|one| (one.file, one.name.span()));
        let all: Vec<(usize, Span)> = declared.chain(uses.known).chain(uses.unknown).collect();
        self.stays_visible(&all)?;
        replace_all(&all, self.new, edits);
        Ok(())
    }

    /// Refuses a name that other packages do not see where they use it.
    fn stays_visible(&self, places: &[(usize, Span)]) -> Renamed<()> {
        if is_public(self.new) {
            return Ok(());
        }
        let package = |file: usize| self.project.package_of[file];
        let home = self.declared.first().map(|one| package(one.file));
        match places.iter().find(|(file, _)| Some(package(*file)) != home) {
            Some((file, span)) => refused(would_be_hidden(self.old, self.new), &self.project.views[*file], *span),
            None => Ok(()),
        }
    }

    /// A member of that name that is another one.
    fn other_declaration(&self) -> Option<(usize, Span)> {
        self.project.views.iter().enumerate().find_map(|(file, view)| {
            let holders = view.file.tree.nodes_of_any(&[Kind::Field, Kind::Function]);
            let names = holders.into_iter().filter(|holder| holder.kind() == Kind::Field || is_method(*holder));
            let mut names = names.flat_map(|holder| holder.children_in(Role::Name));
            let is_own =
                |name: &NodeRef<'_>| self.declared.iter().any(|one| one.file == file && one.name.id() == name.id());
            let other = names.find(|name| view.file.slice(*name) == self.old && !is_own(name))?;
            Some((file, other.span()))
        })
    }

    fn place(&self, file: usize, span: Span) -> String {
        self.project.views[file].file.place(span)
    }
}
