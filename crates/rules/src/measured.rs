//! Code that runs for the sake of running.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// Whether code is in a function within another one, which hands it to a call by its name: as what measures how long it takes.
pub(crate) fn is_measured(file: File<'_>, code: NodeRef<'_>) -> bool {
    let function = code.function_around();
    let Some((function, outer)) = function.and_then(|function| Some((function, function.function_around()?))) else {
        return false;
    };
    let Some(name) = function.child(Role::Name).map(|name| file.node_text(name)) else { return false };
    let is_handed = |node: NodeRef<'_>| {
        node.kind() == Kind::Name
            && file.node_text(node) == name
            && node.parent().is_some_and(|parent| parent.kind() == Kind::Arguments)
    };
    outer.descendants().any(is_handed)
}
