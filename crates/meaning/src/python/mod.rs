//! Python's answers: what opens a scope, what binds a name, what uses one.
//!
//! After chapter 4, "Execution model", of the Python Language Reference 3.14.

mod annotation;
pub mod builtins;
mod exports;
pub mod older;
mod scope;

use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind, Unknown};

/// Walks the tree once.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>) {
    let tree = collector.tree;
    let mut annotations = annotation::Annotations::default();
    for node in tree.nodes() {
        collector.arrive(node);
        annotations.arrive(node);
        match node.kind() {
            Kind::Name => on_name(collector, node),
            Kind::String => annotations.on_string(collector, node),
            Kind::Function => scope::on_function(collector, node),
            Kind::Class => scope::on_class(collector, node),
            Kind::Lambda => scope::on_lambda(collector, node),
            Kind::Comprehension => scope::on_comprehension(collector, node),
            Kind::TypeAlias => scope::on_type_alias(collector, node),
            Kind::Import => on_import(collector, node),
            Kind::Try => on_try(collector, node),
            Kind::Catch => older::on_handler(collector, node),
            Kind::Return => on_return(collector),
            Kind::Call => on_call(collector, node),
            Kind::Decorator => on_decorator(collector, node),
            Kind::Subscript => on_subscript(collector, node),
            Kind::Assignment | Kind::CompoundAssignment | Kind::AnnotatedAssignment => {
                exports::on_assignment(collector, node)
            }
            Kind::Global | Kind::Nonlocal => scope::on_elsewhere(collector, node),
            Kind::Error | Kind::Opaque => collector.mark_broken(),
            _ => {}
        }
    }
    older::on_end(collector);
}

/// A name is bound, used, or neither, by its place.
#[inline]
fn on_name<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(parent) = node.parent() else { return };
    match (parent.kind(), node.role()) {
        // What these bind is handled where the whole is met.
        (Kind::Function | Kind::Class | Kind::TypeAlias, Role::Name)
        | (Kind::Parameter | Kind::TypeParameter, Role::Name)
        | (Kind::ImportItem | Kind::Global | Kind::Nonlocal, _) => {}
        // Names of other things than values.
        (Kind::Member | Kind::KeywordArgument | Kind::KeywordPattern | Kind::WildcardPattern, Role::Name) => {}
        (Kind::Catch, Role::Name) => bind(collector, node, DeclarationKind::CaughtException),
        (Kind::CapturePattern | Kind::StarPattern | Kind::AsPattern, Role::Name) => {
            if collector.node_text(node) != "_" || parent.kind() != Kind::StarPattern {
                bind(collector, node, DeclarationKind::Pattern);
            }
        }
        _ => match target_kind(node) {
            None => collector.use_name(node),
            Some(kind) => on_target(collector, node, kind),
        },
    }
}

fn bind<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, kind: DeclarationKind) {
    collector.bind(collector.current(), collector.node_text(node), node, kind);
}

fn on_target<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, kind: DeclarationKind) {
    let scope = match kind {
        DeclarationKind::NamedExpression => {
            let binds = |kind| !matches!(kind, ScopeKind::Comprehension | ScopeKind::TypeParameters);
            collector.nearest(collector.current(), binds).unwrap_or(collector.current())
        }
        _ => collector.current(),
    };
    collector.bind(scope, collector.node_text(node), node, kind);
    if matches!(kind, DeclarationKind::Update | DeclarationKind::Deletion) {
        collector.use_name(node);
    }
}

/// How a name is bound as a target; `None` where it is no target.
#[inline]
fn target_kind(name: NodeRef<'_>) -> Option<DeclarationKind> {
    let mut part = name;
    let mut unpacks = false;
    loop {
        let parent = part.parent()?;
        match (part.role(), parent.kind()) {
            (Role::Target, kind) => return kind_of_target(parent, kind, unpacks),
            (Role::Element, Kind::Tuple | Kind::List) => unpacks = true,
            (Role::Value, Kind::Group | Kind::Spread) => {}
            _ => return None,
        }
        part = parent;
    }
}

fn kind_of_target(parent: NodeRef<'_>, kind: Kind, unpacks: bool) -> Option<DeclarationKind> {
    Some(match kind {
        Kind::For | Kind::ComprehensionClause => DeclarationKind::LoopTarget,
        Kind::Delete => DeclarationKind::Deletion,
        Kind::NamedExpression => DeclarationKind::NamedExpression,
        Kind::CompoundAssignment => DeclarationKind::Update,
        Kind::AnnotatedAssignment if parent.child(Role::Value).is_none() => DeclarationKind::Annotation,
        _ if unpacks => DeclarationKind::Unpacking,
        Kind::WithItem => DeclarationKind::WithTarget,
        _ => DeclarationKind::Assignment,
    })
}

/// `import a.b` binds `a`; `import a.b as c` and `from a import b as c` bind `c`.
fn on_import<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.current();
    for item in node.children_in(Role::Item) {
        if item.kind() == Kind::ImportAll {
            collector.mark_may_bind(scope, Unknown::StarImport);
            continue;
        }
        let bound = item.child(Role::Alias).or_else(|| item.child(Role::Name)).or_else(|| item.child(Role::Module));
        let Some(bound) = bound else { continue };
        let name = collector.node_text(bound).split('.').next().unwrap_or_default().trim();
        exports::on_import(collector, scope, name);
        collector.bind(scope, name, item, DeclarationKind::Import);
    }
}

/// Names in a block whose handlers catch a missing name need not exist.
fn on_try<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let handles = node.children_in(Role::Handler).any(|handler| match handler.child(Role::Exception) {
        None => true,
        Some(exception) => {
            let text = collector.node_text(exception);
            text.split(|character: char| !character.is_alphanumeric())
                .any(|word| matches!(word, "NameError" | "Exception" | "BaseException" | "UnboundLocalError"))
        }
    });
    if let Some(body) = node.child(Role::Body).filter(|_| handles) {
        collector.excuse(body, Unknown::Handled);
    }
}

/// A file that returns is run by a program of its own, which may give it names.
fn on_return(collector: &mut Collector<'_>) {
    if collector.current() == ScopeId::FILE {
        collector.mark_may_bind(ScopeId::FILE, Unknown::OtherFile);
        collector.mark_may_use(ScopeId::FILE, Unknown::OtherFile);
    }
}

/// Builtins that look into or run in the scope that calls them.
fn on_call<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(callee) = node.child(Role::Callee) else { return };
    exports::on_call(collector, node, callee);
    if callee.kind() != Kind::Name {
        let method = callee.child(Role::Name).map_or("", |name| collector.node_text(name));
        if method == "install" {
            // Translations are put among the names that every file has.
            let brought = ["_", "gettext", "ngettext", "pgettext", "npgettext", "lgettext", "lngettext"];
            collector.excuse_names(brought, Unknown::MadeAtRunTime);
        }
        if matches!(method, "_convert_" | "_convert") {
            // Enumerations so made put their members into the module.
            collector.mark_may_bind(ScopeId::FILE, Unknown::MadeAtRunTime);
        }
        return;
    }
    let without_arguments =
        || node.child(Role::Arguments).is_some_and(|arguments| arguments.children().next().is_none());
    let scope = collector.current();
    match collector.node_text(callee) {
        "exec" | "globals" => {
            for scope in collector.outwards(scope) {
                collector.mark_may_bind(scope, Unknown::MadeAtRunTime);
                collector.mark_may_use(scope, Unknown::MadeAtRunTime);
            }
        }
        "eval" => {
            for scope in collector.outwards(scope) {
                collector.mark_may_use(scope, Unknown::MadeAtRunTime);
            }
        }
        "locals" => looks_into(collector, scope),
        "vars" | "dir" if without_arguments() => looks_into(collector, scope),
        _ => {}
    }
}

/// `@enum.global_enum` puts the members of a class into the module.
fn on_decorator<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if collector.node_text(node).trim_end_matches("()").ends_with("global_enum") {
        collector.mark_may_bind(ScopeId::FILE, Unknown::MadeAtRunTime);
    }
}

/// Through `sys.modules[__name__]` a module can give itself names.
fn on_subscript<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if collector.node_text(node) == "sys.modules[__name__]" {
        collector.mark_may_bind(ScopeId::FILE, Unknown::MadeAtRunTime);
        collector.mark_may_use(ScopeId::FILE, Unknown::MadeAtRunTime);
    }
}

/// Outside functions the table of names that the call gives is the real one, and can be written to.
fn looks_into(collector: &mut Collector<'_>, scope: ScopeId) {
    collector.mark_may_use(scope, Unknown::MadeAtRunTime);
    if collector.scope(scope).kind != ScopeKind::Function {
        collector.mark_may_bind(scope, Unknown::MadeAtRunTime);
    }
}
