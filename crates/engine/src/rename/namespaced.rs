//! Types of namespaces: files that are in the namespace, or open it, see them by their names alone, others by paths of names.

use sieve_meaning::names::{BindingId, DeclarationKind, Namespace, Reference, Resolution, ScopeKind};
use sieve_meaning::opened::namespace_at;
use sieve_meaning::renaming::places;
use sieve_rules::Edit;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::audit::refused;
use super::packaged::{TypeName, is_private};
use super::source::{View, bindings_called};
use super::undeclared;
use super::{Edits, Renamed};

/// Whether a binding is a type that other files may name.
pub(super) fn is_type(view: &View<'_>, id: BindingId) -> bool {
    let binding = view.names.binding(id);
    let is_open = matches!(view.names.scope(binding.scope).kind, ScopeKind::Namespace | ScopeKind::Members);
    let is_class = binding.declarations.iter().all(|one| one.kind == DeclarationKind::Class);
    is_open && is_class && !is_private(view, id)
}

/// Whether a binding is a namespace, whose uses are not followed.
pub(super) fn is_namespace(view: &View<'_>, id: BindingId) -> bool {
    view.names.binding(id).declarations.iter().any(|one| one.kind == DeclarationKind::Namespace)
}

/// Refuses for a private member of a type that has a part in another file, which may use it.
pub(super) fn not_in_other_part(views: &[View<'_>], home: usize, id: BindingId) -> Renamed<()> {
    let view = &views[home];
    let scope = view.names.scope(view.names.binding(id).scope);
    let class = view.file.tree.node(scope.node);
    let Some(name) = class.child(Role::Name).filter(|_| scope.kind == ScopeKind::Members && scope.may_use.is_some())
    else {
        return Ok(());
    };
    for other in views.iter().filter(|other| other.file.path != view.file.path) {
        let parts = other.file.tree.nodes().filter(|node| node.kind() == class.kind());
        let names = parts.filter_map(|part| part.child(Role::Name));
        if let Some(part) = names.into_iter().find(|part| other.file.slice(*part) == view.file.slice(name)) {
            return refused("another part of the type may use it".into(), other, part.span());
        }
    }
    Ok(())
}

/// The path of what a type is in.
pub(super) fn path_around(view: &View<'_>, id: BindingId) -> String {
    let Some(first) = view.names.binding(id).declarations.first() else { return String::new() };
    let name = view.file.tree.node(first.node);
    let mut parts: Vec<String> = Vec::new();
    for around in name.ancestors().skip(1) {
        let is_holder = matches!(around.kind(), Kind::Namespace | Kind::Class | Kind::Interface);
        parts.extend(around.child(Role::Name).filter(|_| is_holder).map(|name| path_text(view, name)));
    }
    parts.extend(view.package().map(|name| path_text(view, name)));
    parts.reverse();
    parts.join(".")
}

/// Names with dots between them, as they are written without whitespace and without arguments.
fn path_text(view: &View<'_>, path: NodeRef<'_>) -> String {
    let text: String = view.file.slice(path).split_whitespace().collect();
    let text = text.strip_prefix("global::").unwrap_or(&text);
    text.split('<').next().unwrap_or_default().to_string()
}

/// Where the type is made that a name refers to which its file does not declare, among types of that name.
pub(super) fn origin_among(
    views: &[View<'_>],
    types: &[(usize, BindingId)],
    home: usize,
    name: NodeRef<'_>,
) -> Option<(usize, BindingId)> {
    let view = &views[home];
    if view.binding_at(name).is_some() {
        return None;
    }
    let is_path = name.parent().is_some_and(|parent| parent.kind() == Kind::Member && name.role() == Role::Name);
    let is_it = |(file, id): &&(usize, BindingId)| {
        let around = path_around(&views[*file], *id);
        if is_path {
            is_named_by_path(view, name, &around)
        } else {
            sees(view, &around) || is_opened_for_all(views, &around)
        }
    };
    let mut found = types.iter().filter(is_it);
    found.next().filter(|_| found.next().is_none()).copied()
}

/// Whether a file sees by its name alone what is in a namespace, or in a type whose members it opens, by what the file itself says.
fn sees(view: &View<'_>, around: &str) -> bool {
    let is_within = |namespace: &String| {
        namespace == around || namespace.strip_prefix(around).is_some_and(|rest| rest.starts_with('.'))
    };
    around.is_empty()
        || namespaces(view).iter().any(is_within)
        || imports(view).any(|import| opens(view, import, around))
}

/// Whether some file opens a namespace, or the members of a type, for all of them: `global using`.
fn is_opened_for_all(views: &[View<'_>], around: &str) -> bool {
    let is_global = |view: &View<'_>, import: NodeRef<'_>| view.file.slice(import).starts_with("global");
    views.iter().any(|view| imports(view).any(|import| is_global(view, import) && opens(view, import, around)))
}

/// What a file imports, in its namespaces too.
fn imports<'v>(view: &'v View<'_>) -> impl Iterator<Item = NodeRef<'v>> {
    view.file.tree.nodes_of(Kind::Import)
}

/// Whether an import opens a namespace, or the members of a type.
fn opens(view: &View<'_>, import: NodeRef<'_>, around: &str) -> bool {
    let opened = import.child(Role::Item).filter(|item| item.child(Role::Alias).is_none());
    let path = opened.and_then(|item| item.child(Role::Module).or_else(|| item.child(Role::Name)));
    path.is_some_and(|path| path_text(view, path) == around)
}

/// The whole names of the namespaces that a file adds to.
fn namespaces(view: &View<'_>) -> Vec<String> {
    let of_file = view.package();
    let inner = view.file.tree.nodes_of(Kind::Namespace).map(|node| namespace_at(&view.file.text, node, of_file));
    inner.chain(of_file.map(|name| path_text(view, name))).collect()
}

/// Whether the names before a name are the path of what a type is in, or the end of it.
fn is_named_by_path(view: &View<'_>, name: NodeRef<'_>, around: &str) -> bool {
    let Some(object) = name.parent().and_then(|member| member.child(Role::Object)) else { return false };
    let mut first = object;
    while let Some(before) = first.child(Role::Object) {
        first = before;
    }
    let is_value = match view.names.resolution_at(first.id()) {
        Some(Resolution::Binding(id)) => {
            let kinds = view.names.binding(id).declarations.iter().map(|one| one.kind);
            kinds.into_iter().any(|kind| {
                !matches!(kind, DeclarationKind::Class | DeclarationKind::Namespace | DeclarationKind::Import)
            })
        }
        _ => false,
    };
    let path = through_alias(view, first).unwrap_or_else(|| path_text(view, object));
    !is_value && (around == path || around.strip_suffix(&path).is_some_and(|before| before.ends_with('.')))
}

/// What the name at the beginning of a path stands for, where that is all of the path.
fn through_alias(view: &View<'_>, first: NodeRef<'_>) -> Option<String> {
    let Some(Resolution::Binding(id)) = view.names.resolution_at(first.id()) else { return None };
    let [only] = view.names.binding(id).declarations.as_slice() else { return None };
    let item = view.file.tree.node(only.node);
    let of = item.child_of(Kind::ImportItem, Role::Name)?;
    Some(path_text(view, of))
}

impl TypeName<'_, '_> {
    /// Renames it in all files that see its namespace.
    pub(super) fn spread_in_namespaces(&self, edits: &mut Edits) -> Renamed<()> {
        let (home, id) = self.home;
        let around = path_around(&self.views[home], id);
        if let Some((file, taken)) = bindings_called(self.views, self.new, is_type).first() {
            let view = &self.views[*file];
            return refused(format!("there is a type \"{}\" already", self.new), view, view.first_place(*taken));
        }
        for (file, other) in bindings_called(self.views, self.old, is_type) {
            let view = &self.views[file];
            if path_around(view, other) != around {
                return refused(format!("several types are called \"{}\"", self.old), view, view.first_place(other));
            }
            // Another part of it.
            undeclared::may_become_here(view, other, self.old, self.new, view.first_place(other))?;
            let places = places(&view.file.tree, &view.names, other);
            edits[file].extend(places.into_iter().map(|place| Edit::replace(place.span, self.new)));
        }
        let is_for_all = is_opened_for_all(self.views, &around);
        for (index, view) in self.views.iter().enumerate() {
            self.not_as_attribute(view)?;
            let members = view.file.tree.nodes_of(Kind::Member);
            let named = members.filter_map(|member| member.child(Role::Name));
            let named = named.filter(|name| view.file.slice(*name) == self.old);
            let by_path = named.filter(|name| is_named_by_path(view, *name, &around));
            edits[index].extend(by_path.map(|name| Edit::replace(name.span(), self.new)));
            if is_for_all || sees(view, &around) {
                edits[index].extend(undeclared::uses(view, self.old, self.new, |one| may_be_type(view, one))?);
            } else if self.is_nested() {
                self.not_inherited(view)?;
            }
        }
        Ok(())
    }

    /// Whether the type is in another one.
    fn is_nested(&self) -> bool {
        let (home, id) = self.home;
        let names = &self.views[home].names;
        names.scope(names.binding(id).scope).kind == ScopeKind::Members
    }

    /// Types that are made after the one around it see it by its name alone.
    fn not_inherited(&self, view: &View<'_>) -> Renamed<()> {
        let open = view.names.references().filter(|one| !matches!(one.resolution, Resolution::Binding(_)));
        let mut named = open.filter(|one| view.names.text(one.name) == self.old && may_be_type(view, one));
        match named.next() {
            Some(used) => refused(format!("it is not known whose \"{}\" this is", self.old), view, used.span),
            None => Ok(()),
        }
    }

    /// An attribute may have the name of its type without its end.
    fn not_as_attribute(&self, view: &View<'_>) -> Renamed<()> {
        let Some(begin) = self.old.strip_suffix("Attribute") else { return Ok(()) };
        let attributes = view.file.tree.nodes_of(Kind::Decorator);
        let mut named = attributes.filter_map(|attribute| attribute.child(Role::Value));
        let is_it = |name: &NodeRef<'_>| path_text(view, *name).rsplit('.').next() == Some(begin);
        match named.find(is_it) {
            Some(name) => {
                refused("an attribute is named by the beginning of its type's name".into(), view, name.span())
            }
            None => Ok(()),
        }
    }
}

/// Whether a use that nothing in the file declares may be one of a type.
fn may_be_type(view: &View<'_>, reference: &Reference) -> bool {
    let node = view.file.tree.node(reference.node);
    let is_named = || {
        let call = node.parent().filter(|list| list.kind() == Kind::Arguments).and_then(NodeRef::parent);
        call.and_then(|call| call.child(Role::Callee)).is_some_and(|callee| view.file.slice(callee) == "nameof")
    };
    view.names.namespace(reference.name) == Namespace::Types
        || matches!(node.role(), Role::Object | Role::Pattern)
        || node.kind_before() == TokenKind::Is
        || is_named()
}

/// Arguments that give a parameter its value by its name, and what documents it. Refuses where it is not known what a call runs.
pub(super) fn parameter(
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    old: &str,
    new: &str,
    edits: &mut Edits,
) -> Renamed<()> {
    let view = &views[home];
    let first = view.names.binding(id).declarations.first().map(|one| view.file.tree.node(one.node));
    let is_holder = |kind: Kind| kind.is_function() || matches!(kind, Kind::Class | Kind::Delegate | Kind::Property);
    let Some(holder) = first.and_then(|name| name.ancestors().find(|around| is_holder(around.kind()))) else {
        return Ok(());
    };
    if holder.kind() == Kind::Lambda {
        return Ok(());
    }
    edits[home].extend(documented(view, holder, old).into_iter().map(|span| Edit::replace(span, new)));
    let own = holder.child(Role::Name).and_then(|name| view.binding_at(name));
    for (file, other) in views.iter().enumerate() {
        let given = other.file.tree.nodes().filter(|node| {
            node.kind() == Kind::KeywordArgument
                && node.parent().and_then(NodeRef::parent).is_some_and(|call| call.kind() != Kind::Decorator)
                && node.role() == Role::Argument
        });
        for name in given.filter_map(|one| one.child(Role::Name)).filter(|name| other.file.slice(*name) == old) {
            let call = name.ancestors().nth(2);
            let callee = call.and_then(|call| call.child(Role::Callee)).filter(|callee| callee.kind() == Kind::Name);
            match callee.and_then(|callee| other.binding_at(callee)) {
                Some(called) if file == home && Some(called) == own => {
                    edits[file].push(Edit::replace(name.span(), new));
                }
                // Another function of the file.
                Some(_) if file == home && own.is_some() => {}
                _ => {
                    let message = format!("it is not known whether this gives the parameter \"{old}\" its value");
                    return refused(message, other, name.span());
                }
            }
        }
    }
    Ok(())
}

/// Where the comment above a declaration names a parameter: `<param name="low">`, `<paramref name="low"/>`.
fn documented(view: &View<'_>, declaration: NodeRef<'_>, name: &str) -> Vec<Span> {
    let tree = &view.file.tree;
    let before = (0..declaration.token_range().start).rev();
    let comments = before.take_while(|token| tree.token_kind(*token).is_trivia());
    let mut found = Vec::new();
    for span in comments.map(|token| tree.token_span(token)) {
        let comment = view.file.text.slice(span);
        for tag in ["<param name=\"", "<paramref name=\""] {
            for (at, _) in comment.match_indices(tag) {
                let rest = &comment[at + tag.len()..];
                if rest.strip_prefix(name).is_some_and(|rest| rest.starts_with('"')) {
                    let start = span.start + (at + tag.len()) as u32;
                    found.push(Span::new(start, start + name.len() as u32));
                }
            }
        }
    }
    found
}
