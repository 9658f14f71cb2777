//! Types of packages that a clause at the head of each file names: other files of the package use them by their names alone, others
//! through imports or by their whole names.

use sieve_meaning::declared::visibility;
use sieve_meaning::names::{BindingId, DeclarationKind, Namespace, Reference, Resolution, ScopeId, ScopeKind};
use sieve_meaning::renaming::places;
use sieve_rules::{Edit, traits_of};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::audit::refused;
use super::source::{View, bindings_called};
use super::undeclared;
use super::{Edits, Renamed};

/// Whether a binding is a type that other files may name.
pub(super) fn is_type(view: &View<'_>, id: BindingId) -> bool {
    let binding = view.names.binding(id);
    let is_open = matches!(view.names.scope(binding.scope).kind, ScopeKind::File | ScopeKind::Members);
    let is_class = binding.declarations.iter().all(|one| one.kind == DeclarationKind::Class);
    is_open && is_class && !is_private(view, id)
}

/// Whether a binding is a member of a type, and no type itself.
pub(super) fn is_member(view: &View<'_>, id: BindingId) -> bool {
    let binding = view.names.binding(id);
    let of_type = view.names.scope(binding.scope).kind == ScopeKind::Members;
    let is_class = binding.declarations.iter().any(|one| one.kind == DeclarationKind::Class);
    of_type && !is_class
}

/// Whether all declarations of a binding say that nothing outside of their type sees it.
pub(super) fn is_private(view: &View<'_>, id: BindingId) -> bool {
    let traits = traits_of(view.file.language);
    let declarations = &view.names.binding(id).declarations;
    declarations.iter().all(|one| {
        let name = view.file.tree.node(one.node);
        let holder = name.ancestors().find(|around| {
            matches!(
                around.kind(),
                Kind::Field
                    | Kind::Property
                    | Kind::Function
                    | Kind::Class
                    | Kind::Interface
                    | Kind::Enum
                    | Kind::Delegate
            )
        });
        let is_of_class =
            |holder: NodeRef<'_>| holder.parent().and_then(NodeRef::parent).is_some_and(|of| of.kind() == Kind::Class);
        let says = |holder: NodeRef<'_>| match visibility(&view.file.text, holder) {
            Some(word) => word == "private",
            None => traits.private_by_default && is_of_class(holder),
        };
        // The components of a record are private fields, and functions that all see.
        holder.is_some_and(says) && name.parent().is_none_or(|parent| parent.kind() != Kind::Parameter)
    })
}

/// Where the type is made that a name in a file refers to, by an import or by the package, among types of that name.
pub(super) fn origin_among(
    views: &[View<'_>],
    types: &[(usize, BindingId)],
    home: usize,
    name: NodeRef<'_>,
) -> Option<(usize, BindingId)> {
    let view = &views[home];
    let paths: Vec<String> = match view.binding_at(name) {
        Some(id) => vec![imported_path(view, id)?],
        None => {
            let unresolved = view.names.references().find(|one| one.node == name.id() && one.span == name.span())?;
            let text = view.names.text(unresolved.name);
            star_imports(view).chain(package_of(view)).map(|package| format!("{package}.{text}")).collect()
        }
    };
    let is_it =
        |(file, id): &&(usize, BindingId)| path_of(&views[*file], *id).is_some_and(|path| paths.contains(&path));
    types.iter().find(is_it).copied()
}

/// The whole name of what an import brings.
fn imported_path(view: &View<'_>, id: BindingId) -> Option<String> {
    let [only] = view.names.binding(id).declarations.as_slice() else { return None };
    let item = view.file.tree.node(only.node);
    (item.kind() == Kind::ImportItem).then(|| without_whitespace(view.file.slice(item)))
}

/// The packages and types of which a file imports everything.
fn star_imports<'v>(view: &'v View<'_>) -> impl Iterator<Item = String> + 'v {
    view.import_items()
        .filter(|item| is_star(*item))
        .filter_map(|item| item.child(Role::Module))
        .map(|module| without_whitespace(view.file.slice(module)))
}

fn is_star(item: NodeRef<'_>) -> bool {
    item.child(Role::Name).is_some_and(|name| name.kind() == Kind::ImportAll)
}

fn package_of(view: &View<'_>) -> Option<String> {
    view.package().map(|name| without_whitespace(view.file.slice(name)))
}

fn without_whitespace(text: &str) -> String {
    text.split_whitespace().collect()
}

/// The whole name of a type; nothing for one that is in a function.
fn path_of(view: &View<'_>, id: BindingId) -> Option<String> {
    let binding = view.names.binding(id);
    let mut parts = vec![view.names.text(binding.name)];
    let mut scope = Some(binding.scope);
    while let Some(around) = scope {
        let here = view.names.scope(around);
        match here.kind {
            ScopeKind::Members => parts.push(view.file.slice(view.file.tree.node(here.node).child(Role::Name)?)),
            ScopeKind::File | ScopeKind::TypeParameters => {}
            _ => return None,
        }
        scope = here.parent;
    }
    parts.reverse();
    let own = parts.join(".");
    Some(package_of(view).map_or(own.clone(), |package| format!("{package}.{own}")))
}

/// A type that gets another name.
pub(super) struct TypeName<'p, 's> {
    pub(super) views: &'p [View<'s>],
    pub(super) home: (usize, BindingId),
    pub(super) old: &'p str,
    pub(super) new: &'p str,
}

impl TypeName<'_, '_> {
    /// Renames it in all files but its own.
    pub(super) fn spread(&self, edits: &mut Edits) -> Renamed<()> {
        let (home, id) = self.home;
        let Some(path) = path_of(&self.views[home], id) else { return Ok(()) };
        let around = path[..path.len() - self.old.len()].trim_end_matches('.').to_string();
        let renamed = if around.is_empty() { self.new.to_string() } else { format!("{around}.{}", self.new) };
        let is_it = |view: &View<'_>, id| is_type(view, id) && path_of(view, id).as_ref() == Some(&renamed);
        if let Some((file, taken)) = bindings_called(self.views, self.new, is_it).first() {
            let view = &self.views[*file];
            return refused(format!("there is a type \"{}\" already", self.new), view, view.first_place(*taken));
        }
        for (index, view) in self.views.iter().enumerate() {
            let mut found = self.in_paths(view, &path, &around);
            if index != home {
                found.extend(self.in_imports(view, &path)?);
                if self.sees_by_name(view, &around) {
                    found.extend(undeclared::uses(view, self.old, self.new, |one| may_be_type(view, one))?);
                }
            }
            edits[index].extend(found);
        }
        Ok(())
    }

    /// Whether the name alone means the type in a file: it is of the package, or imports everything from where the type is.
    fn sees_by_name(&self, view: &View<'_>, around: &str) -> bool {
        let is_bound = view.names.lookup_in(Namespace::Types, ScopeId::FILE, self.old).is_some();
        let is_of_package = package_of(view).unwrap_or_default() == around;
        !is_bound && (is_of_package || star_imports(view).any(|module| module == around))
    }

    /// Imports of it, of what is in it, and the uses of what they bring.
    fn in_imports(&self, view: &View<'_>, path: &str) -> Renamed<Vec<Edit>> {
        let mut found = Vec::new();
        for item in view.import_items().filter(|item| !is_star(*item)) {
            let Some(id) = view.names.declared_at(item.id()) else { continue };
            if without_whitespace(view.file.slice(item)) != path {
                continue;
            }
            undeclared::may_become_here(view, id, self.old, self.new, item.span())?;
            found.extend(
                places(&view.file.tree, &view.names, id).into_iter().map(|place| Edit::replace(place.span, self.new)),
            );
        }
        Ok(found)
    }

    /// Its name within names with dots between them: in `ferries.tides.Table.low`, and `Outer.Table` for a type in another one.
    fn in_paths(&self, view: &View<'_>, path: &str, around: &str) -> Vec<Edit> {
        let outer = around.rsplit('.').next().filter(|outer| outer.starts_with(char::is_uppercase));
        let members = view.file.tree.nodes_of(Kind::Member);
        let named = members.filter_map(|member| member.child(Role::Object).zip(member.child(Role::Name)));
        let is_it = |(object, name): &(NodeRef<'_>, NodeRef<'_>)| {
            let whole = || format!("{}.{}", without_whitespace(view.file.slice(*object)), self.old);
            view.file.slice(*name) == self.old
                && (whole() == path || outer.is_some_and(|outer| self.is_type_around(view, *object, outer, around)))
        };
        named.filter(is_it).map(|(_, name)| Edit::replace(name.span(), self.new)).collect()
    }

    /// Whether an expression is the type around the renamed one.
    fn is_type_around(&self, view: &View<'_>, object: NodeRef<'_>, outer: &str, around: &str) -> bool {
        if object.kind() == Kind::Member {
            let text = without_whitespace(view.file.slice(object));
            return around == text || around.ends_with(&format!(".{text}"));
        }
        if view.file.slice(object) != outer {
            return false;
        }
        match view.names.resolution_at(object.id()) {
            Some(Resolution::Binding(id)) => match imported_path(view, id) {
                Some(path) => path == around,
                None => path_of(view, id).is_some_and(|path| path == around),
            },
            _ => star_imports(view).chain(package_of(view)).any(|package| around == format!("{package}.{outer}")),
        }
    }
}

/// Whether a use that nothing in the file declares may be one of a type: it is no variable where no dot is behind it.
fn may_be_type(view: &View<'_>, reference: &Reference) -> bool {
    let node = view.file.tree.node(reference.node);
    view.names.namespace(reference.name) == Namespace::Types
        || node.role() == Role::Object && view.names.namespace(reference.name) == Namespace::Values
}
