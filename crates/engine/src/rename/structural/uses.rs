//! The uses of a member: behind a dot, and as keys of what is made.

use std::collections::BTreeSet;

use sieve_meaning::names::Resolution;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::lookup::{Found, Owner};
use super::project::{Known, Project};
use super::written::{MOST_STEPS, Meaning};

/// Uses of the member, and those of which it is not known whose member they are.
#[derive(Default)]
pub(super) struct Uses {
    pub(super) known: Vec<(usize, Span)>,
    pub(super) unknown: Vec<(usize, Span)>,
}

impl<'v> Project<'v> {
    /// All uses of a member that some owners declare.
    pub(super) fn uses(&self, related: &BTreeSet<Owner>, name: &str) -> Uses {
        let mut uses = Uses::default();
        for (file, view) in self.views.iter().enumerate() {
            if memchr::memmem::find(view.file.text.source().as_bytes(), name.as_bytes()).is_none() {
                continue;
            }
            for node in view.file.tree.nodes_of(Kind::Name).filter(|node| view.file.slice(*node) == name) {
                match self.used(file, node) {
                    Found::Member(found) if related.contains(&found.owner) => uses.known.push((file, node.span())),
                    Found::Member(_) | Found::Foreign => {}
                    Found::Unknown => uses.unknown.push((file, node.span())),
                }
            }
        }
        uses
    }

    /// The member that a name uses; nothing of the project where it is no use of one.
    pub(super) fn used(&self, file: usize, name: NodeRef<'v>) -> Found<'v> {
        let Some(holder) = name.parent() else { return Found::Foreign };
        match (holder.kind(), name.role()) {
            (Kind::Member, Role::Name) => match self.meaning(file, holder) {
                // A name of another package.
                Meaning::Declared(..) | Meaning::Other(Known::Foreign) => Found::Foreign,
                Meaning::Other(_) => {
                    let object = holder.child(Role::Object);
                    let of = object.map_or(Known::Unknown, |object| self.expression(file, object));
                    self.lookup(of, self.slice(file, name))
                }
            },
            (Kind::Pair, Role::Key) => self.of_key(file, holder, name),
            _ => Found::Foreign,
        }
    }

    /// The field that a key of a literal is.
    fn of_key(&self, file: usize, pair: NodeRef<'v>, name: NodeRef<'v>) -> Found<'v> {
        let Some(literal) = pair.parent().filter(|literal| literal.kind() == Kind::Composite) else {
            return Found::Foreign;
        };
        match self.underlying(self.composite(file, literal, MOST_STEPS)) {
            known @ Known::Written(_, body) if body.kind() == Kind::ObjectType => {
                self.lookup(known, self.slice(file, name))
            }
            Known::Written(..) | Known::Foreign => Found::Foreign,
            _ => match self.views[file].names.resolution_at(name.id()) {
                Some(Resolution::Binding(_)) if !self.may_be_key(file, name) => Found::Foreign,
                _ => Found::Unknown,
            },
        }
    }

    /// Whether what seems to be a variable may be the name of a field.
    fn may_be_key(&self, file: usize, name: NodeRef<'v>) -> bool {
        let mut references = self.views[file].names.references_in(name.id()..name.end());
        references.any(|reference| reference.is_doubtful)
    }
}
