//! Imports, exports, and what other files may bring or use.

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use super::FILE;
use crate::names::{Collector, DeclarationKind, Unknown};

/// Functions that tags are turned into calls of, if the build says so.
const TAG_FUNCTIONS: &[&str] = &["React", "h", "jsx", "Fragment"];

/// Names that the runner of tests or scripts brings, in files that do not import it.
const RUNNER_NAMES: &[&str] = &[
    "browser",
    "chrome",
    "after",
    "afterAll",
    "afterEach",
    "assert",
    "before",
    "beforeAll",
    "beforeEach",
    "define",
    "describe",
    "expect",
    "it",
    "jQuery",
    "$",
    "suite",
    "test",
    "setup",
    "teardown",
];

/// Whether a runner of tests brings a value of this name.
pub fn is_runner_name(name: &str) -> bool {
    RUNNER_NAMES.contains(&name)
}

/// Types may be declared anywhere in the project; some names come with whoever runs the file.
pub(super) fn on_file(collector: &mut Collector<'_>, typed: bool) {
    if typed {
        collector.mark_may_bind(FILE, Unknown::OtherFile);
    }
    collector.excuse_names(RUNNER_NAMES.iter().copied(), Unknown::OtherFile);
    let named = names_in_comments(collector);
    collector.excuse_names(named, Unknown::OtherFile);
}

/// Where a runner of tests brings some names, it may bring others too.
pub(super) fn on_runner(collector: &mut Collector<'_>) {
    let brought = ["describe", "it", "test", "expect", "suite", "beforeEach"];
    if brought.iter().any(|name| collector.uses(name) && !collector.binds(FILE, name)) {
        collector.mark_may_bind(FILE, Unknown::OtherFile);
    }
}

/// Scripts share their names with other scripts. A file without imports and exports is one, unless it mentions what node gives to
/// its modules.
pub(super) fn on_script(collector: &mut Collector<'_>) {
    let statements = collector.tree.root().children();
    let is_module = statements.into_iter().any(|statement| matches!(statement.kind(), Kind::Import | Kind::Export));
    // What asks whether it is a module may be none.
    let asks = |name: &str| collector.text.source().contains(&format!("typeof {name}"));
    // Exports are members of theirs; what is only handed on may have been given to the script.
    let has_members = |name: &str| {
        name != "exports"
            || [".", "[", " ="].iter().any(|next| collector.text.source().contains(&format!("{name}{next}")))
    };
    let given =
        |name: &&str| collector.uses(name) && !collector.is_bound_anywhere(name) && !asks(name) && has_members(name);
    if !is_module && !["module", "exports", "require"].iter().any(given) {
        collector.mark_may_bind(FILE, Unknown::OtherFile);
        collector.mark_may_use(FILE, Unknown::OtherFile);
    }
}

/// Words after `global` or `globals` at the head of a block comment: the usual way to say that a name comes from elsewhere.
fn names_in_comments<'t>(collector: &Collector<'t>) -> Vec<&'t str> {
    let tree = collector.tree;
    let mut names = Vec::new();
    if memchr::memmem::find(collector.text.source().as_bytes(), b"global").is_none() {
        return names;
    }
    for (token, _) in tree.tokens().iter().enumerate().filter(|(_, token)| token.kind == TokenKind::Comment) {
        let comment = collector.text.slice(tree.token_span(token as u32));
        let words = comment.trim_start_matches("/*").trim_end_matches("*/").trim();
        if let Some(list) = words.strip_prefix("globals").or_else(|| words.strip_prefix("global")) {
            names.extend(list.split(|letter: char| !(letter.is_alphanumeric() || "_$".contains(letter))));
        }
    }
    names
}

/// `import a, { b as c }, * as d from "m"` binds `a`, `c` and `d`.
pub(super) fn on_import<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.current();
    for item in node.children_in(Role::Item) {
        let bound = item.child(Role::Alias).or_else(|| item.child(Role::Name));
        if let Some(bound) = bound {
            collector.bind(scope, collector.node_text(bound), item, DeclarationKind::Import);
        }
    }
}

/// `import a = b.c`, `import a = require("m")`
pub(super) fn on_import_assignment<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(name) = node.child(Role::Name) else { return };
    let scope = collector.current();
    let text = collector.node_text(name);
    collector.bind(scope, text, node, DeclarationKind::Import);
    if is_handed_out(node) {
        collector.use_text(scope, text, name, name.span(), None);
    }
}

/// `export { a }` uses `a`; with `from`, it is a name of the other module.
pub(super) fn on_exported<'t>(collector: &mut Collector<'t>, name: NodeRef<'t>, item: NodeRef<'t>) {
    if item.parent().is_some_and(|export| !names_module(export)) {
        collector.use_name(name);
    }
}

/// Whether an export ends with the name of a module. Asked for each of its items, of which there may be thousands.
fn names_module(export: NodeRef<'_>) -> bool {
    let last = export.tree().node(NodeId(export.end().0 - 1));
    let mut around = std::iter::once(last).chain(last.ancestors()).take_while(|node| *node != export);
    around.any(|node| node.role() == Role::Module)
}

/// Whether a declaration is after `export`.
pub(super) fn is_handed_out(declaration: NodeRef<'_>) -> bool {
    declaration.parent().is_some_and(|holder| holder.kind() == Kind::Export)
}

/// Which of the functions tags become depends on the build: an import of one counts as used.
pub(super) fn use_tag_functions(collector: &mut Collector<'_>) {
    let root = collector.tree.root();
    for name in TAG_FUNCTIONS {
        if !collector.binds(FILE, name) {
            continue;
        }
        collector.use_text(FILE, name, root, root.span(), Some(Unknown::InText));
    }
}
