//! The answers of JavaScript and TypeScript: what opens a scope, what binds a name, what uses one.
//!
//! After "Executable Code and Execution Contexts" and "Syntax-Directed Operations: Scope Analysis" of ECMAScript 2025. Values and types of one
//! name count as one binding, so that each use counts for both.

pub(crate) mod globals;
pub mod module;
mod scope;

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind, Unknown};

/// The modules that node brings, which need no mark before their names ("Node.js v24 documentation", index).
pub(crate) const OF_NODE: &[&str] = &[
    "assert",
    "async_hooks",
    "buffer",
    "child_process",
    "cluster",
    "console",
    "constants",
    "crypto",
    "dgram",
    "diagnostics_channel",
    "dns",
    "domain",
    "events",
    "fs",
    "fs/promises",
    "http",
    "http2",
    "https",
    "inspector",
    "module",
    "net",
    "os",
    "path",
    "perf_hooks",
    "process",
    "punycode",
    "querystring",
    "readline",
    "repl",
    "stream",
    "string_decoder",
    "timers",
    "tls",
    "tty",
    "url",
    "util",
    "v8",
    "vm",
    "wasi",
    "worker_threads",
    "zlib",
];

/// Walks the tree once. `typed`: declarations of types elsewhere in the project may bring names.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>, typed: bool) {
    let tree = collector.tree;
    module::on_file(collector, typed);
    let mut has_tags = false;
    let mut made_text = Vec::new();
    for node in tree.nodes() {
        collector.arrive(node);
        match node.kind() {
            Kind::Name => on_name(collector, node),
            Kind::Function => scope::on_function(collector, node),
            Kind::Lambda => scope::on_lambda(collector, node),
            Kind::Class | Kind::ClassExpression => scope::on_class(collector, node),
            Kind::Interface | Kind::TypeAlias => scope::on_type(collector, node),
            Kind::Enum => scope::on_enum(collector, node),
            Kind::Namespace => scope::on_namespace(collector, node),
            Kind::StaticBlock => scope::on_static_block(collector, node),
            Kind::Block => scope::on_block(collector, node),
            Kind::For | Kind::Catch => scope::enter_block(collector, node),
            Kind::Match => scope::on_match(collector, node),
            Kind::ConditionalType | Kind::MappedType | Kind::FunctionType | Kind::IndexSignature => {
                scope::enter_type(collector, node);
            }
            Kind::Import => module::on_import(collector, node),
            Kind::ImportAssignment => module::on_import_assignment(collector, node),
            Kind::Call => {
                on_call(collector, node);
                made_text.extend(function_made_text(collector, node));
            }
            Kind::With => {
                if let Some(body) = node.child(Role::Body) {
                    collector.excuse(body, Unknown::MadeAtRunTime);
                }
            }
            Kind::Unary => on_unary(collector, node),
            Kind::Logical => on_logical(collector, node),
            Kind::Element => has_tags = true,
            Kind::Error | Kind::Opaque => collector.mark_broken(),
            _ => {}
        }
    }
    module::on_script(collector);
    module::on_runner(collector);
    scope::mark_functions_made_text(collector, &made_text);
    if has_tags {
        module::use_tag_functions(collector);
    }
}

/// A name is bound, used, or neither, by its place.
#[inline]
fn on_name<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(parent) = node.parent() else { return };
    match (parent.kind(), node.role()) {
        // What these bind is handled where the whole is met.
        (
            Kind::Function
            | Kind::Lambda
            | Kind::Class
            | Kind::ClassExpression
            | Kind::Interface
            | Kind::TypeAlias
            | Kind::Enum
            | Kind::Namespace
            | Kind::ImportAssignment,
            Role::Name,
        )
        | (Kind::ImportItem | Kind::ImportDefault | Kind::ImportAll, _) => {}
        // Names of other things than values.
        (Kind::Member | Kind::Field | Kind::MetaProperty | Kind::ImportType | Kind::TupleMember, Role::Name)
        | (_, Role::Label)
        | (Kind::ExportItem | Kind::ExportAll, Role::Alias)
        | (Kind::Export, Role::Name) => {}
        (Kind::ExportItem, _) => module::on_exported(collector, node, parent),
        (Kind::Member, Role::Object) if is_path_of_other_module(parent) => {}
        (Kind::Parameter, Role::Name) => bind(collector, node, DeclarationKind::Parameter),
        (Kind::TypeParameter, Role::Name) => bind(collector, node, DeclarationKind::TypeParameter),
        (Kind::Catch, Role::Name) => bind(collector, node, DeclarationKind::CaughtException),
        (Kind::CapturePattern | Kind::StarPattern, Role::Name) => on_capture(collector, node),
        (Kind::Assignment | Kind::AnnotatedAssignment, Role::Target) => on_target(collector, node, parent),
        (Kind::CompoundAssignment | Kind::Update, Role::Target | Role::Operand) => on_update(collector, node, parent),
        (Kind::For, Role::Target) => collector.write_name(node),
        (Kind::ShorthandPair | Kind::List | Kind::Spread | Kind::Pair, _) if is_taken_apart(node) => {
            collector.write_name(node);
        }
        _ => collector.use_name(node),
    }
}

fn bind<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, kind: DeclarationKind) {
    collector.bind(collector.current(), collector.node_text(node), node, kind);
}

/// `import("quays").north.depth`: the path leads through another module.
fn is_path_of_other_module(member: NodeRef<'_>) -> bool {
    let mut top = member;
    while let Some(parent) = top.parent().filter(|parent| parent.kind() == Kind::Member) {
        top = parent;
    }
    top.parent().is_some_and(|holder| matches!(holder.kind(), Kind::ImportType | Kind::Namespace))
        && top.role() == Role::Name
}

/// A name in a pattern is bound as what the pattern belongs to.
fn on_capture<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let pattern = |node: &NodeRef<'t>| {
        matches!(
            node.kind(),
            Kind::CapturePattern
                | Kind::StarPattern
                | Kind::DefaultPattern
                | Kind::PairPattern
                | Kind::MappingPattern
                | Kind::SequencePattern
        )
    };
    let Some(holder) = node.ancestors().find(|node| !pattern(node)) else { return };
    match holder.kind() {
        Kind::Parameter => bind(collector, node, DeclarationKind::Parameter),
        Kind::Assignment | Kind::AnnotatedAssignment => declare(collector, node, holder, DeclarationKind::Unpacking),
        _ => bind(collector, node, DeclarationKind::Unpacking),
    }
}

/// The target of `=`: declared with `let` and its like, or given a new value.
fn on_target<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, assignment: NodeRef<'t>) {
    if assignment.role() != Role::Item {
        collector.write_name(node);
        // Old code makes a name for all files so, and is ready for being refused.
        if assignment.ancestors().any(|around| around.kind() == Kind::Try) {
            collector.excuse_last(Unknown::Handled);
        }
        return;
    }
    declare(collector, node, assignment, DeclarationKind::Assignment);
}

/// `var` belongs to the function, the others to their block.
fn declare<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, assignment: NodeRef<'t>, kind: DeclarationKind) {
    let Some(declaration) = assignment.parent() else { return };
    let in_loop = declaration.role() == Role::Target;
    let kind = if in_loop && kind == DeclarationKind::Assignment { DeclarationKind::LoopTarget } else { kind };
    let current = collector.current();
    let scope = match declaration.first_token_kind() {
        TokenKind::Var => {
            collector.nearest(current, |kind| !matches!(kind, ScopeKind::Block | ScopeKind::TypeParameters))
        }
        _ => None,
    };
    let scope = scope.unwrap_or(current);
    let name = collector.node_text(node);
    collector.bind(scope, name, node, kind);
    if module::is_handed_out(declaration) || scope::is_ambient(collector, declaration) {
        collector.use_text(scope, name, node, node.span(), None);
    }
}

/// `x += 1`, `x++`: a use too, unless the statement does nothing else.
fn on_update<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, parent: NodeRef<'t>) {
    let alone = parent.parent().is_some_and(|holder| holder.kind() == Kind::ExpressionStatement);
    if alone { collector.write_name(node) } else { collector.use_name(node) }
}

/// Whether a name is in a list or object that takes a value apart: `[a, b] = c`.
fn is_taken_apart(name: NodeRef<'_>) -> bool {
    let mut part = name;
    loop {
        let Some(parent) = part.parent() else { return false };
        match (parent.kind(), part.role()) {
            (Kind::Assignment | Kind::For, Role::Target) => return true,
            (Kind::List | Kind::Dictionary, Role::Element)
            | (Kind::Pair, Role::Value)
            | (Kind::ShorthandPair, Role::Name)
            | (Kind::Spread, Role::Value) => part = parent,
            _ => return false,
        }
    }
}

/// `0 && (module.exports = { a, b })`: never runs, and tells loaders what there is.
fn on_logical<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if node.children().next().is_some_and(|first| first.kind() == Kind::Number && collector.node_text(first) == "0") {
        collector.excuse(node, Unknown::Handled);
    }
}

/// `eval` runs in the scope that calls it.
fn on_call<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let callee = node.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name);
    if callee.is_some_and(|callee| collector.node_text(callee) == "eval") {
        for scope in collector.outwards(collector.current()) {
            collector.mark_may_bind(scope, Unknown::MadeAtRunTime);
            collector.mark_may_use(scope, Unknown::MadeAtRunTime);
        }
    }
}

/// `sail` in `sail.toString()` and in `Boat.sail.toString()`.
fn function_made_text<'t>(collector: &Collector<'t>, call: NodeRef<'t>) -> Option<&'t str> {
    let callee = call.child(Role::Callee).filter(|callee| callee.kind() == Kind::Member)?;
    let asks = callee.child(Role::Name).is_some_and(|name| collector.node_text(name) == "toString");
    let object = callee.child(Role::Object).filter(|_| asks)?;
    Some(collector.node_text(scope::last_name(object)?))
}

/// `typeof x` asks whether there is such a name.
fn on_unary<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if node.first_token_kind() == TokenKind::Typeof {
        collector.excuse(node, Unknown::Handled);
    }
}

/// The scope of a file's own names.
const FILE: ScopeId = ScopeId::FILE;
