//! The answers of Go: what opens a scope, what binds a name, what uses one.
//!
//! After "Blocks" and "Declarations and scope" of the Go Programming Language Specification (go1.22). A name of a function is seen from the
//! end of its declaration on; names of the package may be declared and used in all files of the folder.

mod composite;
pub mod interfaces;
mod package;

use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::names::{Collector, DeclarationKind, ScopeId, ScopeKind, Unknown};
use composite::{KeyMeaning, Types};
pub(crate) use package::{
    PackagePart, directives, is_of_library, is_of_package, is_predeclared, may_belong_to_package,
};

/// Walks the tree once.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>) {
    // Other files of the package may declare what this one uses, and use what it declares.
    collector.mark_may_bind(ScopeId::FILE, Unknown::OtherFile);
    let types = Types::of(collector);
    for node in collector.tree.nodes() {
        collector.arrive(node);
        match node.kind() {
            Kind::Name => on_name(collector, &types, node),
            Kind::Function => on_function(collector, node),
            Kind::Lambda | Kind::FunctionType => {
                collector.open(ScopeKind::Function, node);
            }
            Kind::If | Kind::For | Kind::Match | Kind::Case => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Block if !is_body(node) => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::TypeDefinition | Kind::TypeAlias => on_type(collector, node),
            Kind::ImportItem => package::on_import(collector, node),
            Kind::ShortDeclaration => on_short_declaration(collector, node),
            _ => {}
        }
    }
}

/// Whether a block has the names of what it is the body of: parameters are in the block of their function.
fn is_body(block: NodeRef<'_>) -> bool {
    block.parent().is_some_and(|parent| match parent.kind() {
        Kind::Function | Kind::Lambda => true,
        // The implicit block of a case holds its statements alone.
        Kind::Case => true,
        _ => false,
    })
}

/// A function of the package has its name there; methods belong to their types. `init` cannot be used, nor is `main`.
fn on_function<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let at_top = node.parent().is_some_and(|parent| parent.kind() == Kind::File);
    if let Some(name) = node.child(Role::Name).filter(|_| at_top && node.child(Role::Receiver).is_none())
        && !matches!(collector.node_text(name), "_" | "init" | "main")
    {
        collector.bind(ScopeId::FILE, collector.node_text(name), name, DeclarationKind::Function);
    }
    collector.open(ScopeKind::Function, node);
}

/// The name of a type is seen within it; its parameters are seen there alone.
fn on_type<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if let Some(name) = node.child(Role::Name).filter(|name| collector.node_text(*name) != "_") {
        let kind = if node.kind() == Kind::TypeAlias { DeclarationKind::TypeAlias } else { DeclarationKind::Class };
        let scope = collector.current();
        collector.bind_from(scope, name, kind, begins(scope, name.id()));
    }
    if node.child(Role::TypeParameters).is_some() {
        collector.open(ScopeKind::TypeParameters, node);
    }
}

/// `a, b := f()`: names that are new in the block are declared, others get a value.
fn on_short_declaration<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    // The name that stands for a value by its type is in a block of its own, up to the end of the choice.
    if let Some(choice) = node.parent().filter(|parent| parent.kind() == Kind::Match && node.role() == Role::Subject) {
        let scope = collector.open_scope(ScopeKind::Block, node, collector.current());
        collector.enter(choice, scope);
    }
    let scope = collector.current();
    let targets = || node.children_in(Role::Target);
    let kind = if targets().count() > 1 { DeclarationKind::Unpacking } else { DeclarationKind::Assignment };
    for target in targets() {
        let name = collector.node_text(target);
        if name == "_" || target.kind() != Kind::Name {
            continue;
        }
        if collector.binds(scope, name) {
            collector.write_name(target);
        } else {
            collector.bind_from(scope, target, kind, node.end());
        }
    }
}

/// Where a name is first seen: names of the package are seen everywhere.
fn begins(scope: ScopeId, node: NodeId) -> NodeId {
    if scope == ScopeId::FILE { NodeId::ROOT } else { node }
}

/// A name is bound, used, or neither, by its place.
#[inline]
fn on_name<'t>(collector: &mut Collector<'t>, types: &Types<'t>, node: NodeRef<'t>) {
    let Some(parent) = node.parent() else { return };
    match (parent.kind(), node.role()) {
        // What these bind is handled where the whole is met.
        (Kind::Function | Kind::TypeDefinition | Kind::TypeAlias | Kind::PackageClause, Role::Name)
        | (Kind::ShortDeclaration, Role::Target)
        | (Kind::ImportItem, _) => {}
        // Names of other things than values and types.
        (Kind::Member | Kind::Field, Role::Name) | (_, Role::Label) => {}
        _ if collector.node_text(node) == "_" => {}
        (Kind::Parameter, Role::Name) => on_parameter(collector, node, parent),
        (Kind::TypeParameter, Role::Name) => {
            collector.bind(collector.current(), collector.node_text(node), node, DeclarationKind::TypeParameter);
        }
        (Kind::NamedType, Role::Name) if names_receiver_parameter(parent) => {
            collector.bind(collector.current(), collector.node_text(node), node, DeclarationKind::TypeParameter);
        }
        (Kind::Assignment | Kind::AnnotatedAssignment, Role::Target) if parent.role() == Role::Item => {
            on_declared(collector, node, parent);
        }
        (Kind::For, Role::Target) if declares_targets(parent) => on_loop_target(collector, node, parent),
        (Kind::Assignment | Kind::CompoundAssignment | Kind::For, Role::Target) | (Kind::Update, Role::Operand) => {
            collector.write_name(node);
        }
        (Kind::Pair, Role::Key) => match types.key_meaning(collector, parent) {
            KeyMeaning::Field => {}
            KeyMeaning::Value => collector.use_name(node),
            KeyMeaning::Unknown => collector.use_doubtfully(node),
        },
        _ => collector.use_name(node),
    }
}

/// Parameters and results are seen in the body: types in the list mean what they mean around.
fn on_parameter<'t>(collector: &mut Collector<'t>, name: NodeRef<'t>, parameter: NodeRef<'t>) {
    let owner = parameter.parent().and_then(|list| list.parent());
    let from = owner.map_or(name.id(), |owner| owner.child_at_end(Role::Body).map_or(owner.end(), |body| body.id()));
    collector.bind_from(collector.current(), name, DeclarationKind::Parameter, from);
}

/// `func (set *Set[K]) add(key K)`: the receiver names the parameters of its type.
fn names_receiver_parameter(named: NodeRef<'_>) -> bool {
    let is_argument = named.role() == Role::Argument;
    is_argument
        && named
            .ancestors()
            .take_while(|node| node.kind() != Kind::Block)
            .find(|node| node.kind() == Kind::Parameters)
            .is_some_and(|list| list.role() == Role::Receiver)
}

/// `var a, b = 1, 2`, `const low = 3`
fn on_declared<'t>(collector: &mut Collector<'t>, name: NodeRef<'t>, assignment: NodeRef<'t>) {
    let scope = collector.current();
    let is_value = |node: &NodeRef<'_>| node.role() == Role::Value;
    let last = assignment.last_child().filter(is_value);
    // Otherwise there are as many values as names ("Variable declarations", Go 1.22).
    let only = last.filter(|last| !last.previous_sibling().as_ref().is_some_and(is_value));
    let takes_apart = only.is_some() && assignment.children_in(Role::Target).nth(1).is_some();
    let kind = if takes_apart { DeclarationKind::Unpacking } else { DeclarationKind::Assignment };
    collector.bind_from(scope, name, kind, begins(scope, assignment.end()));
}

/// Whether the names before `range` are declared there: a colon is before the equals sign.
fn declares_targets(node: NodeRef<'_>) -> bool {
    // Behind the names are what is gone through and the body.
    let from_end = std::iter::successors(node.last_child(), |child| child.previous_sibling()).take(3);
    let last = from_end.into_iter().find(|child| child.role() == Role::Target);
    last.is_some_and(|last| last.kind_behind() == TokenKind::ColonAssign)
}

/// `for quay, depth := range depths`
fn on_loop_target<'t>(collector: &mut Collector<'t>, name: NodeRef<'t>, whole: NodeRef<'t>) {
    let from = whole.child_at_end(Role::Body).map_or(whole.end(), |body| body.id());
    collector.bind_from(collector.current(), name, DeclarationKind::LoopTarget, from);
}
