//! Components: functions that give elements, and hooks, which the library that draws them tells apart by the order of their calls.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// The modules of the libraries whose components are functions, by the names that imports give them.
const LIBRARIES: &[&str] =
    &["react", "react-dom", "preact", "preact/hooks", "preact/compat", "react/jsx-runtime", "preact/jsx-runtime"];

/// Whether a file imports from such a library.
pub(crate) fn uses_library(file: File<'_>) -> bool {
    let is_one = |import: NodeRef<'_>| {
        let module = import.child_at_end(Role::Module).filter(|_| import.kind() == Kind::Import);
        module.and_then(|module| file.named_by(module)).is_some_and(|name| LIBRARIES.contains(&name.as_str()))
    };
    file.once(|| UsesComponents(file.tree.root().children().any(is_one))).0
}

/// Whether the file imports from a library of components.
struct UsesComponents(bool);

/// Whether an expression refers to something of such a library.
pub(crate) fn is_of_library<'f>(file: File<'f>, node: NodeRef<'f>) -> bool {
    file.outside(node).is_some_and(|found| LIBRARIES.contains(&&*found.module))
}

/// Whether a name is that of a hook: `use`, and then a capital.
pub(crate) fn is_hook_name(name: &str) -> bool {
    name.strip_prefix("use").is_some_and(|rest| rest.starts_with(char::is_uppercase))
}

/// Whether a function is a component or a hook, by its name.
pub(crate) fn is_component(file: File<'_>, function: NodeRef<'_>) -> bool {
    // A single letter is what programs that shorten names leave of any.
    let is_name = |name: &str| name.len() > 1 && name.starts_with(char::is_uppercase);
    name_of(file, function).is_some_and(|name| is_name(name) || is_hook_name(name))
}

/// The name of a function: its own, or that of the variable that holds it or what a call makes of it, such as `memo(…)`.
fn name_of<'f>(file: File<'f>, function: NodeRef<'f>) -> Option<&'f str> {
    if let Some(name) = function.child(Role::Name) {
        return Some(file.node_text(name));
    }
    let mut holder = function.parent()?;
    while matches!(holder.kind(), Kind::Arguments | Kind::Call | Kind::Group) {
        holder = holder.parent()?;
    }
    holder.child(Role::Target).filter(|target| target.kind() == Kind::Name).map(|name| file.node_text(name))
}
