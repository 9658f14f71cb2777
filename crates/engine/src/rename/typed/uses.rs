//! The uses of a member that names alone do not tell: behind a dot, in heirs of other files, as keys of what is made.

use sieve_meaning::names::{Namespace, Reference, Resolution};
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::target::Target;
use super::types::{Known, TypeId, simple_name};
use crate::rename::Renamed;
use crate::rename::audit::refused;
use crate::rename::source::View;
use crate::rename::traits::rename_traits_of;
use crate::rename::undeclared::{is_bound_around, is_taken, means_another};

/// Uses of the member, and those of which it is not known whose member they are.
pub(super) struct Uses {
    pub(super) known: Vec<(usize, Span)>,
    pub(super) unknown: Vec<(usize, Span)>,
}

impl<'v> Target<'v> {
    /// The uses that names alone do not tell: behind a dot, in heirs of other files, as keys of what is made.
    pub(super) fn uses(&self) -> Renamed<Uses> {
        let mut uses = Uses { known: Vec::new(), unknown: Vec::new() };
        for (file, view) in self.types.views.iter().enumerate() {
            let source = view.file.text.source().as_bytes();
            let mentions = |name: &str| memchr::memmem::find(source, name.as_bytes()).is_some();
            if mentions(self.new) {
                self.hides_nothing(file, view)?;
            }
            if !mentions(self.old) {
                continue;
            }
            self.not_brought(view)?;
            for name in view.file.tree.nodes_of(Kind::Name).filter(|name| view.file.slice(*name) == self.old) {
                match self.means(file, view, name) {
                    Some(true) => uses.known.push((file, name.span())),
                    Some(false) => {}
                    None => uses.unknown.push((file, name.span())),
                }
            }
            self.inherited(file, view, &mut uses)?;
        }
        Ok(uses)
    }

    /// Whether a name that is no variable by itself is the member; nothing where that is not known.
    fn means(&self, file: usize, view: &'v View<'v>, name: NodeRef<'v>) -> Option<bool> {
        let Some(holder) = name.parent() else { return Some(false) };
        let is_resolved = matches!(view.names.resolution_at(name.id()), Some(Resolution::Binding(_)));
        let known = match holder.kind() {
            _ if is_resolved => return Some(false),
            Kind::Member | Kind::Path if name.role() == Role::Name => {
                if !self.may_be(holder) {
                    return Some(false);
                }
                self.types.object(file, holder.child(Role::Object)?)
            }
            Kind::KeywordArgument if name.role() == Role::Name => self.of_key(file, holder)?,
            Kind::KeywordPattern if name.role() == Role::Name => self.of_pattern(file, holder),
            // `int Quay.Low()`: what implements a member of one interface alone.
            Kind::Function | Kind::Property if name.role() == Role::Name => {
                holder.child(Role::Receiver).map_or(Known::Foreign, |of| self.types.named(file, of))
            }
            _ => return Some(false),
        };
        self.is_ours(known)
    }

    /// Whether what is behind a dot can be of the sort that the member is: methods are called, or made values by `::`.
    fn may_be(&self, member: NodeRef<'_>) -> bool {
        let is_called = member.role() == Role::Callee && member.parent().is_some_and(|call| call.kind() == Kind::Call);
        match self.namespace {
            Namespace::Functions => is_called || member.kind() == Kind::Path,
            _ => !is_called || self.has_one_space(),
        }
    }

    /// Whether methods and fields of one name cannot be in one type.
    fn has_one_space(&self) -> bool {
        let (of, _) = self.declaring[0];
        rename_traits_of(self.types.view(of).file.language).opens_namespaces
    }

    /// Whose key this is in braces behind `new` or `with`; nothing for other arguments with names.
    fn of_key(&self, file: usize, entry: NodeRef<'v>) -> Option<Known> {
        let braces = entry.parent()?;
        if braces.kind() != Kind::Composite {
            let is_attribute = braces.parent().is_some_and(|holder| holder.kind() == Kind::Decorator);
            return Some(if is_attribute { Known::Unknown } else { Known::Foreign });
        }
        let made = braces.parent()?;
        Some(match made.kind() {
            Kind::New => self.types.object(file, made),
            Kind::ChangedCopy => made.child(Role::Value).map_or(Known::Unknown, |of| self.types.object(file, of)),
            _ => Known::Unknown,
        })
    }

    /// Whose member a pattern asks for.
    fn of_pattern(&self, file: usize, entry: NodeRef<'v>) -> Known {
        let pattern = entry.parent();
        let written = pattern.and_then(|pattern| pattern.child(Role::Type));
        let asked = || {
            let comparison = pattern?.parent().filter(|around| around.kind() == Kind::Comparison)?;
            Some(self.types.object(file, comparison.child(Role::Operand)?))
        };
        match written {
            Some(written) => self.types.named(file, written),
            None => asked().unwrap_or(Known::Unknown),
        }
    }

    pub(super) fn is_ours(&self, known: Known) -> Option<bool> {
        match known {
            Known::Of(of) if self.related.contains(&of) => Some(true),
            Known::Of(of) if self.types.is_unclear(of) => None,
            // A type that is not related has nothing to do with it.
            Known::Of(_) | Known::Foreign => Some(false),
            Known::Unknown => None,
        }
    }

    /// The uses of a name by itself, with nothing before it that says whose it is.
    fn uses_alone(&self, view: &'v View<'v>, name: &str) -> impl Iterator<Item = (&'v Reference, NodeRef<'v>)> {
        let called = view.names.references().filter(move |one| view.names.text(one.name) == name);
        let of_sort = called.filter(|one| view.names.namespace(one.name) == self.namespace);
        of_sort.map(|one| (one, view.file.tree.node(one.node))).filter(|(_, node)| {
            let is_said =
                |holder: NodeRef<'_>| matches!(holder.kind(), Kind::Member | Kind::Path | Kind::KeywordArgument);
            node.role() != Role::Name || !node.parent().is_some_and(is_said)
        })
    }

    /// Uses by the name alone, in types that inherit the member from another file.
    fn inherited(&self, file: usize, view: &'v View<'v>, uses: &mut Uses) -> Renamed<()> {
        let is_open = |one: &Reference| !matches!(one.resolution, Resolution::Binding(_));
        for (reference, node) in self.uses_alone(view, self.old).filter(|(one, _)| is_open(one)) {
            match self.alone(file, node) {
                Some(false) => {}
                Some(true) if is_bound_around(view, reference, self.new) => {
                    return refused(is_taken(self.old, self.new), view, reference.span);
                }
                Some(true) => uses.known.push((file, reference.span)),
                None => uses.unknown.push((file, reference.span)),
            }
        }
        Ok(())
    }

    /// Refuses where the new name means something from further out in a type that would have it as a member then.
    fn hides_nothing(&self, file: usize, view: &'v View<'v>) -> Renamed<()> {
        for (reference, node) in self.uses_alone(view, self.new) {
            // What is nearer than the type hides the member, and stays what it is.
            let is_further_out = |of: TypeId| match reference.resolution {
                Resolution::Binding(id) => {
                    let home = view.file.tree.node(view.names.scope(view.names.binding(id).scope).node);
                    let of = self.types.all[of].node;
                    home.id() != of.id() && home.holds(of.id())
                }
                _ => true,
            };
            let around = self.types.all_around(file, node);
            if around.into_iter().any(|of| self.related.contains(&of) && is_further_out(of)) {
                return refused(means_another(self.old, self.new), view, reference.span);
            }
        }
        Ok(())
    }

    /// Whether a name by itself is the member, by the types around it; a case of a choice by what is asked.
    pub(super) fn alone(&self, file: usize, node: NodeRef<'v>) -> Option<bool> {
        let choice = node.ancestors().nth(1).filter(|choice| choice.kind() == Kind::Match);
        if let Some(choice) = choice.filter(|_| node.role() == Role::Pattern) {
            return self.is_ours(choice.child(Role::Subject).map_or(Known::Unknown, |of| self.types.object(file, of)));
        }
        let around = self.types.all_around(file, node);
        if around.iter().any(|of| self.related.contains(of)) {
            return Some(true);
        }
        (!around.iter().any(|of| self.types.is_unclear(*of))).then_some(false)
    }

    /// Refuses where an import brings the member itself, or all members of a type that declares it.
    fn not_brought(&self, view: &View<'_>) -> Renamed<()> {
        let is_type = |path: NodeRef<'_>| {
            let mut names = self.declaring.iter().filter_map(|(of, _)| self.name_of(*of));
            names.any(|name| name == simple_name(view, path))
        };
        let brings = |item: &NodeRef<'_>| {
            let name = item.child(Role::Name);
            let is_it =
                name.is_some_and(|name| matches!(view.file.slice(name), text if text == self.old || text == "*"));
            is_it && item.child(Role::Module).is_some_and(is_type) || name.is_some_and(is_type)
        };
        let says_static =
            |import: &NodeRef<'_>| view.file.slice(*import).split_whitespace().take(3).any(|word| word == "static");
        let imports = view.file.tree.nodes_of(Kind::Import).filter(says_static);
        match imports.flat_map(|import| import.children_in(Role::Item)).find(brings) {
            Some(item) if self.is_used_alone(view) => {
                refused("an import brings it, which is not followed".into(), view, item.span())
            }
            _ => Ok(()),
        }
    }

    /// Whether a file uses the name by itself, with nothing in it that declares it.
    fn is_used_alone(&self, view: &View<'_>) -> bool {
        view.names.references().any(|one| {
            view.names.text(one.name) == self.old
                && match one.resolution {
                    Resolution::Binding(id) => view.is_import(id),
                    _ => true,
                }
        })
    }

    fn name_of(&self, of: TypeId) -> Option<&str> {
        let name = self.types.all[of].node.child(Role::Name)?;
        Some(self.types.view(of).file.slice(name))
    }
}
