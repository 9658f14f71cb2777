//! What `use` binds, and the modules of the file that it names.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::is_word_of_paths;
use super::item::scope_of_items;
use crate::names::{Collector, DeclarationKind, Namespace, Reach, ScopeId, ScopeKind, Unknown};

/// Paths of more bytes are not followed.
const LONGEST_WAY: usize = 256;

/// One path of a `use`, or a part of it that several have in common.
pub(super) fn on_import<'t>(collector: &mut Collector<'t>, item: NodeRef<'t>) {
    let scope = scope_of_items(collector);
    use_path(collector, item, scope);
    let Some(name) = item.child(Role::Name) else { return };
    if name.kind() == Kind::ImportAll {
        collector.mark_may_bind(scope, Unknown::StarImport);
        return;
    }
    let text = collector.node_text(name);
    let alias = item.child(Role::Alias);
    if alias.is_some_and(|alias| alias.kind() != Kind::Name) {
        return;
    }
    // `use quay::{self}` binds the name of the module.
    let bound = match (alias, text) {
        (Some(alias), _) => Some(collector.node_text(alias)),
        (None, "self") => module_around(item).map(|module| last_name(collector.node_text(module))),
        (None, _) => Some(text),
    };
    let Some(bound) = bound.filter(|bound| !bound.is_empty() && !is_word_of_paths(bound)) else { return };
    let binding = collector.bind_in(Namespace::Types, scope, bound, item, DeclarationKind::Import);
    collector.bind_too(Namespace::Values, binding, bound);
    if collector.scope(scope).kind != ScopeKind::File {
        collector.bind_too(Namespace::Macros, binding, bound);
    }
}

fn last_name(path: &str) -> &str {
    path.rsplit("::").next().unwrap_or(path).trim()
}

/// The path before the braces in which an item is.
fn module_around<'t>(item: NodeRef<'t>) -> Option<NodeRef<'t>> {
    item.parent().filter(|outer| outer.kind() == Kind::ImportItem)?.child(Role::Module)
}

/// The names of a path that modules of this file have. The first one of a whole path is that of another package, or of a module which is
/// seen here; what the item itself binds is not meant.
fn use_path<'t>(collector: &mut Collector<'t>, item: NodeRef<'t>, scope: ScopeId) {
    let mut way = path_around(collector, item);
    let module = item.child(Role::Module).into_iter();
    let parts = module.flat_map(|module| std::iter::once(module).chain(module.descendants()));
    for part in parts.chain(item.child(Role::Name)).filter(|part| part.kind() == Kind::Name) {
        let text = collector.node_text(part);
        match module_by_words_from(collector, &way, scope) {
            Some(module) if !is_word_of_paths(text) => collector.use_by(Namespace::Values, Reach::Scope, module, part),
            _ => {}
        }
        if way.len() > LONGEST_WAY {
            return;
        }
        way = if way.is_empty() { text.to_string() } else { way + "::" + text };
    }
}

/// All that is before an item in braces, around the braces too.
fn path_around(collector: &Collector<'_>, item: NodeRef<'_>) -> String {
    let mut parts = Vec::new();
    let mut around = item;
    while let Some(outer) = around.parent().filter(|outer| outer.kind() == Kind::ImportItem) {
        parts.extend(outer.child(Role::Module).map(|module| collector.text.slice(module.span()).to_string()));
        around = outer;
    }
    parts.reverse();
    parts.join("::")
}

/// The module of this file that words such as `super::super` mean where the walk is.
pub(super) fn module_by_words(collector: &Collector<'_>, path: &str) -> Option<ScopeId> {
    module_by_words_from(collector, path, collector.current())
}

fn module_by_words_from(collector: &Collector<'_>, path: &str, from: ScopeId) -> Option<ScopeId> {
    // Longer ones lead out of any file.
    if path.len() > LONGEST_WAY {
        return None;
    }
    let mut words = path.split("::").map(str::trim);
    let own = module_around_scope(collector, from);
    let mut module = match words.next()? {
        "self" => own,
        "super" => module_outside(collector, own)?,
        _ => return None,
    };
    for word in words {
        if word != "super" {
            return None;
        }
        module = module_outside(collector, module)?;
    }
    Some(module)
}

/// The module that a scope is in.
fn module_around_scope(collector: &Collector<'_>, scope: ScopeId) -> ScopeId {
    let around = collector.outwards(scope);
    let is_module = |scope: &ScopeId| {
        let here = collector.scope(*scope);
        here.kind == ScopeKind::Module && collector.tree.node(here.node).kind() == Kind::Namespace
    };
    around.into_iter().find(is_module).unwrap_or(ScopeId::FILE)
}

/// The module around a module, if that is in this file.
fn module_outside(collector: &Collector<'_>, module: ScopeId) -> Option<ScopeId> {
    if module == ScopeId::FILE {
        return None;
    }
    let node = collector.tree.node(collector.scope(module).node);
    let outer = node.ancestors().find(|around| around.kind() == Kind::Namespace);
    match outer {
        Some(outer) => collector.module_at(outer.id()),
        None => Some(ScopeId::FILE),
    }
}
