//! What imports bring, and from where.

use sieve_meaning::names::{BindingId, DeclarationKind, Resolution, ScopeId};
use sieve_rules::traits_of;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::source::{Sources, View};

/// The text of a binding's name.
pub(super) fn name_of(view: &View<'_>, id: BindingId) -> String {
    view.names.text(view.names.binding(id).name).to_string()
}

/// The name of the module that an import or a re-export names.
pub(super) fn module_named(view: &View<'_>, statement: NodeRef<'_>) -> Option<String> {
    let text = view.file.slice(statement.child(Role::Module)?);
    if traits_of(view.file.language).dotted_modules {
        Some(text.split_whitespace().collect())
    } else {
        view.file.language.string_value(text)
    }
}

/// The module and the name after an imported binding.
fn brought(view: &View<'_>, id: BindingId) -> Option<(String, String)> {
    let [only] = view.names.binding(id).declarations.as_slice() else { return None };
    let node = view.file.tree.node(only.node);
    let item = if node.kind() == Kind::ImportItem { node } else { node.parent()? };
    if only.kind != DeclarationKind::Import || item.kind() != Kind::ImportItem {
        return None;
    }
    let name = view.file.slice(item.child(Role::Name)?).to_string();
    Some((module_named(view, item.parent()?)?, name))
}

/// Where an imported thing is made, if that is a file of the project: imports of imports are followed.
pub(super) fn origin(sources: &Sources, views: &[View<'_>], home: usize, id: BindingId) -> Option<(usize, BindingId)> {
    let (mut at, mut found) = (home, id);
    // Imports may go round in a circle.
    for _ in 0..views.len() {
        let Some((module, name)) = brought(&views[at], found) else {
            return (at != home).then_some((at, found));
        };
        // Under another name here, it is the name here that is meant.
        if at == home && name != name_of(&views[at], found) {
            return None;
        }
        let next = sources.module(at, &module)?;
        (at, found) = made_in(sources, views, next, &name, views.len())?;
    }
    None
}

/// The binding after a name that a file exports: its own, or that of a file whose names it re-exports.
fn made_in(sources: &Sources, views: &[View<'_>], file: usize, name: &str, depth: usize) -> Option<(usize, BindingId)> {
    let view = &views[file];
    if let Some(id) = view.names.lookup(ScopeId::FILE, name) {
        return Some((file, id));
    }
    // Files may re-export each other's names in a circle.
    let depth = depth.checked_sub(1)?;
    let exports = view.file.tree.root().children().filter(|node| node.kind() == Kind::Export);
    let hands_on = |item: NodeRef<'_>| match item.kind() {
        Kind::ExportItem => {
            item.child(Role::Alias).is_none() && item.child(Role::Name).is_some_and(|own| view.file.slice(own) == name)
        }
        Kind::ExportAll => item.child(Role::Alias).is_none(),
        _ => false,
    };
    exports.filter(|export| export.children_in(Role::Item).any(hands_on)).find_map(|export| {
        let from = sources.module(file, &module_named(view, export)?)?;
        made_in(sources, views, from, name, depth)
    })
}

/// The thing that a member of an imported module represents.
pub(super) fn through_module(
    sources: &Sources,
    views: &[View<'_>],
    home: usize,
    name: NodeRef<'_>,
) -> Option<(usize, BindingId)> {
    let member = name.parent().filter(|member| member.kind() == Kind::Member && name.role() == Role::Name)?;
    let module = module_of(sources, views, home, member.child(Role::Object)?)?;
    let id = views[module].names.lookup(ScopeId::FILE, views[home].file.slice(name))?;
    origin(sources, views, module, id).or(Some((module, id)))
}

/// The file that an expression represents, if it is one module for sure.
pub(super) fn module_of(sources: &Sources, views: &[View<'_>], home: usize, object: NodeRef<'_>) -> Option<usize> {
    match modules_of(sources, views, home, object)[..] {
        [only] => Some(only),
        _ => None,
    }
}

/// Every module that an expression may represent: its name may be bound several times.
pub(super) fn modules_of(sources: &Sources, views: &[View<'_>], home: usize, object: NodeRef<'_>) -> Vec<usize> {
    let view = &views[home];
    let mut base = object;
    while base.kind() == Kind::Member {
        let Some(inner) = base.child(Role::Object) else { return Vec::new() };
        base = inner;
    }
    let Some(Resolution::Binding(id)) = view.names.resolution_at(base.id()) else { return Vec::new() };
    let path: String = view.file.slice(object).split_whitespace().collect();
    let Some(rest) = path.strip_prefix(view.file.slice(base)) else { return Vec::new() };
    let declared = view.names.binding(id).declarations.iter();
    let mut found: Vec<usize> = declared
        .filter(|declaration| declaration.kind == DeclarationKind::Import)
        .filter_map(|declaration| {
            let name = imported_module(view, view.file.tree.node(declaration.node), &path, rest)?;
            sources.module(home, &name)
        })
        .collect();
    found.sort_unstable();
    found.dedup();
    found
}

/// The name of the module that an import binds, and what follows it in an expression.
fn imported_module(view: &View<'_>, node: NodeRef<'_>, path: &str, rest: &str) -> Option<String> {
    let item = if matches!(node.kind(), Kind::ImportItem | Kind::ImportAll) { node } else { node.parent()? };
    let statement = item.parent()?;
    if item.kind() == Kind::ImportAll {
        return module_named(view, statement).filter(|_| rest.is_empty());
    }
    if !traits_of(view.file.language).dotted_modules {
        return None;
    }
    match item.child(Role::Module) {
        // `import tides.north` binds `tides`; with `as`, it binds the last one.
        Some(module) if item.child(Role::Alias).is_some() => Some(format!("{}{rest}", view.file.slice(module))),
        Some(_) => Some(path.to_string()),
        None => {
            let (package, name) = (module_named(view, statement)?, view.file.slice(item.child(Role::Name)?));
            let dot = if package.ends_with('.') { "" } else { "." };
            Some(format!("{package}{dot}{name}{rest}"))
        }
    }
}
