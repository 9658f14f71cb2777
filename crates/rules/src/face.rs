//! Files that are the face of others: they import names so that others find them there.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::File;

/// Whether the purpose of the file is to re-export what it imports: it does nothing else, or takes all names of another module too and
/// defines nothing that others would call, or says that it is only there for those who still import it.
pub(crate) fn re_exports(file: File<'_>) -> bool {
    file.once(|| ReExports(is_face(file))).0
}

struct ReExports(bool);

fn is_face(file: File<'_>) -> bool {
    let imports_all = |statement: NodeRef| {
        statement.kind() == Kind::Import && statement.children_in(Role::Item).any(|item| item.kind() == Kind::ImportAll)
    };
    let statements = || file.tree.root().children();
    let defines = |statement: NodeRef| {
        let is_code = matches!(statement.kind(), Kind::Function | Kind::Class);
        is_code && !statement.child(Role::Name).is_some_and(|name| file.node_text(name).starts_with('_'))
    };
    // Elsewhere a file says what it exports.
    if !file.language.spec().exports_everything {
        return only_imports(file);
    }
    only_imports(file)
        || !statements().any(defines) && (statements().any(imports_all) || says_moved(file))
        || says_moved(file) && statements().filter(|statement| defines(*statement)).count() < 3
}

/// Whether the head of the file says that its content is elsewhere now.
fn says_moved(file: File<'_>) -> bool {
    let source = file.text.source();
    let mut end = source.len().min(HEAD);
    while !source.is_char_boundary(end) {
        end -= 1;
    }
    let head = source[..end].to_ascii_lowercase();
    file.module_name().contains("compat")
        || ["backward", "deprecated", "moved to", "has moved", "have moved", "compatibility", "re-export", "reexport"]
            .iter()
            .any(|word| head.contains(word))
}

/// How much of a file says what the file is for, in bytes.
const HEAD: usize = 1 << 10;

/// Whether the file does nothing but import.
pub(crate) fn only_imports(file: File<'_>) -> bool {
    file.once(|| OnlyImports(does_nothing_else(file))).0
}

struct OnlyImports(bool);

fn does_nothing_else(file: File<'_>) -> bool {
    // Names such as `__all__` and `__version__` speak for the module itself.
    let is_special =
        |target: NodeRef| file.node_text(target).starts_with("__") && file.node_text(target).ends_with("__");
    let is_import = |statement: NodeRef| {
        statement.kind() == Kind::Import
            || statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::String)
            || statement.kind() == Kind::Assignment && statement.child(Role::Target).is_some_and(is_special)
    };
    file.tree.root().children().all(|statement| match statement.kind() {
        // An import that is tried, or made for types alone.
        Kind::Try | Kind::If => statement
            .descendants()
            .filter(|node| node.role() == Role::Statement)
            .all(|node| is_import(node) || node.kind() == Kind::Pass),
        _ => is_import(statement),
    })
}
