//! Items of a file in a language whose files see each other by paths that are not followed: they are renamed where no other file mentions
//! the name, and no path of their own file may mean it.

use sieve_meaning::names::{BindingId, Resolution, ScopeKind};
use sieve_meaning::renaming::places;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use super::audit::refused;
use super::source::View;
use super::{CannotRename, Renamed};

/// Words that begin a path from a module, or from the type around.
const FROM_MODULES: &[&str] = &["crate", "self", "super", "Self"];

/// Refuses where something else may mean an item.
pub(super) fn nothing_means_it(views: &[View<'_>], home: usize, id: BindingId, old: &str) -> Renamed<()> {
    let view = &views[home];
    let binding = view.names.binding(id);
    if !matches!(view.names.scope(binding.scope).kind, ScopeKind::File | ScopeKind::Module) {
        return Ok(());
    }
    if let Some(module) = file_of_module(view, id) {
        return refused(format!("a file has the name \"{old}\""), view, module);
    }
    if let Some(span) = unfollowed_path(view, id, old) {
        return refused(format!("it is not known whether \"{old}\" is meant by this path"), view, span);
    }
    let others = views.iter().enumerate().filter(|(index, _)| *index != home);
    let mentioned: Vec<String> = others.filter_map(|(_, other)| Some(other.file.place(mention(other, old)?))).collect();
    if mentioned.is_empty() {
        return Ok(());
    }
    let message = format!("other files mention \"{old}\", and paths between files are not followed");
    Err(CannotRename::Refused(message, mentioned))
}

/// `mod quay;`: the module is a file.
fn file_of_module(view: &View<'_>, id: BindingId) -> Option<Span> {
    let declared = view.names.binding(id).declarations.iter().map(|one| view.file.tree.node(one.node));
    let is_file = |name: &NodeRef<'_>| {
        name.parent().is_some_and(|holder| holder.kind() == Kind::Namespace && holder.child(Role::Body).is_none())
    };
    declared.filter(is_file).map(NodeRef::span).next()
}

/// A path of the file that ends with the name and is not followed.
fn unfollowed_path(view: &View<'_>, id: BindingId, old: &str) -> Option<Span> {
    let known: Vec<Span> = places(&view.file.tree, &view.names, id).into_iter().map(|place| place.span).collect();
    let is_variant = view
        .names
        .binding(id)
        .declarations
        .iter()
        .any(|one| view.file.tree.node(one.node).parent().is_some_and(|holder| holder.kind() == Kind::EnumMember));
    let may_mean = |name: &NodeRef<'_>| {
        let Some(parent) = name.parent().filter(|_| name.role() == Role::Name) else { return false };
        let way = match parent.kind() {
            Kind::Path => parent.child(Role::Object),
            Kind::ImportItem => parent.child(Role::Module).or_else(|| parent.parent()?.child(Role::Module)),
            _ => return false,
        };
        let first = way.map_or("", |way| view.file.slice(way)).split("::").next().unwrap_or_default().trim();
        is_variant || FROM_MODULES.contains(&first)
    };
    let nodes = view.file.tree.nodes().filter(|node| node.kind() == Kind::Name && view.file.slice(*node) == old);
    if let Some(span) = in_tokens(view, old).into_iter().find(|span| !known.contains(span)) {
        return Some(span);
    }
    let open = nodes.filter(|name| !matches!(view.names.resolution_at(name.id()), Some(Resolution::Binding(_))));
    open.filter(may_mean).map(NodeRef::span).find(|span| !known.contains(span))
}

/// The words of paths from modules that end with a name, those in macros too: `crate::low`.
fn in_tokens(view: &View<'_>, old: &str) -> Vec<Span> {
    let all = view.significant_tokens();
    let text = |span: Span| view.file.text.slice(span);
    let is_it = |three: &&[(TokenKind, Span)]| {
        three[1].0 == TokenKind::ColonColon && FROM_MODULES.contains(&text(three[0].1)) && text(three[2].1) == old
    };
    all.windows(3).filter(is_it).map(|three| three[2].1).collect()
}

/// Where a file has the name as a word.
fn mention(view: &View<'_>, old: &str) -> Option<Span> {
    let tree = &view.file.tree;
    let mut tokens = tree.tokens_with_spans(0..tree.tokens().len() as TokenId);
    tokens.find(|(_, kind, span)| *kind == TokenKind::Name && view.file.text.slice(*span) == old).map(|(.., span)| span)
}
