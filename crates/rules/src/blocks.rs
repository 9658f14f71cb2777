//! What a block of an infrastructure file says.

use sieve_meaning::configuration::ModuleCall;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// The type of a block: `variable`.
pub(crate) fn type_of<'f>(file: File<'f>, block: NodeRef<'_>) -> &'f str {
    block.child(Role::Name).map_or("", |name| file.node_text(name))
}

/// The labels of a block, without quotes.
pub(crate) fn labels<'f>(file: File<'f>, block: NodeRef<'_>) -> impl Iterator<Item = &'f str> {
    block.children_in(Role::Label).map(move |label| file.node_text(label).trim_matches('"'))
}

/// Whether a block is of a type, and is at the top of its file.
pub(crate) fn is_top(file: File<'_>, block: NodeRef<'_>, types: &[&str]) -> bool {
    block.parent().is_some_and(|parent| parent.kind() == Kind::File) && types.contains(&type_of(file, block))
}

/// The value that a name has directly in a block.
pub(crate) fn value<'t>(file: File<'_>, block: NodeRef<'t>, name: &str) -> Option<NodeRef<'t>> {
    let is_named = |entry: &NodeRef<'_>| {
        entry.kind() == Kind::Assignment
            && entry.child(Role::Target).is_some_and(|target| file.node_text(target) == name)
    };
    entries(block).find(is_named)?.child(Role::Value)
}

/// What is directly in a block.
pub(crate) fn entries(block: NodeRef<'_>) -> impl Iterator<Item = NodeRef<'_>> {
    block.child(Role::Body).into_iter().flat_map(NodeRef::children)
}

/// The value of a string in which nothing is filled in.
pub(crate) fn plain(file: File<'_>, node: NodeRef<'_>) -> Option<String> {
    if node.kind() == Kind::String { file.language.string_value(file.node_text(node)) } else { None }
}

/// The calls in a file of modules that are folders of the code base, with these folders.
pub(crate) fn folder_calls<'f>(file: File<'f>) -> impl Iterator<Item = (&'f ModuleCall, &'f str)> {
    let calls = file.configuration().into_iter().flat_map(|configuration| &configuration.calls);
    calls.filter_map(|call| Some((call, call.folder()?)))
}
