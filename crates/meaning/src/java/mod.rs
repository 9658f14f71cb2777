//! The answers of Java: what opens a scope, what binds a name, what uses one.
//!
//! After "Names" and "Scope of a Declaration" of The Java Language Specification (Java SE 21). Variables, types and methods of one name are
//! three names. What a type inherits from one of another file is not known, nor what other files of the package declare.

mod docs;
mod import;
mod library;
mod pattern;
mod scope;

pub(crate) use library::is_of_library;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::names::{Collector, DeclarationKind, Namespace, Reach, ScopeId, ScopeKind, Unknown, top_of_path};

/// Walks the tree once.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>) {
    // Other files of the package may declare what this one uses.
    collector.mark_may_bind(ScopeId::FILE, Unknown::OtherFile);
    for node in collector.tree.nodes() {
        collector.arrive(node);
        match node.kind() {
            Kind::Name => on_name(collector, node),
            Kind::Class | Kind::Interface | Kind::Enum => scope::on_type(collector, node),
            Kind::New | Kind::EnumMember => scope::on_nameless(collector, node),
            Kind::Function => scope::on_function(collector, node),
            Kind::Lambda | Kind::StaticBlock => {
                collector.open(ScopeKind::Function, node);
            }
            Kind::Match | Kind::For | Kind::Catch => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Case if pattern::has_patterns(node) => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Block if !scope::is_body(node) => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Try => scope::on_try(collector, node),
            Kind::CapturePattern => pattern::on_capture(collector, node),
            Kind::ImportItem => import::on_import(collector, node),
            Kind::Error | Kind::Opaque => collector.mark_broken(),
            _ => {}
        }
    }
    docs::collect(collector);
}

/// Whether the language gives a name: to every type, as a member of `Object` ("The Members of a Class or Interface"), or to every file,
/// as a type of `java.lang`.
pub(crate) fn is_given(name: &str) -> bool {
    let is_of_object = matches!(
        name,
        "clone" | "equals" | "finalize" | "getClass" | "hashCode" | "notify" | "notifyAll" | "toString" | "wait"
    );
    is_of_object || library::is_of_lang(name)
}

/// A name is bound, used, or neither, by its place.
#[inline]
fn on_name<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(parent) = node.parent() else { return };
    match (parent.kind(), node.role()) {
        // What these bind is handled where the whole is met.
        (Kind::Class | Kind::Interface | Kind::Enum | Kind::Function | Kind::EnumMember, Role::Name)
        | (Kind::CapturePattern, Role::Name)
        | (Kind::ImportItem, _) => {}
        // Names of packages and of jumps.
        (Kind::PackageClause | Kind::Namespace | Kind::ModuleDirective, Role::Name)
        | (Kind::ModuleDirective, _)
        | (_, Role::Label) => {}
        // What an annotation is given is the name of a function of its type.
        (Kind::KeywordArgument, Role::Name) => collector.access(Namespace::Functions, collector.node_text(node)),
        (Kind::Parameter, Role::Name) if scope::is_component(parent) => {}
        (Kind::Parameter, Role::Name) => bind(collector, node, DeclarationKind::Parameter),
        (Kind::Catch, Role::Name) => bind(collector, node, DeclarationKind::CaughtException),
        (Kind::TypeParameter, Role::Name) => {
            let scope = collector.current();
            let name = collector.node_text(node);
            collector.bind_in(Namespace::Types, scope, name, node, DeclarationKind::TypeParameter);
        }
        (Kind::Field, Role::Item) => bind(collector, node, DeclarationKind::Field),
        (Kind::Declaration, Role::Item) => on_declared(collector, node, parent),
        (Kind::Assignment, Role::Target) if parent.role() == Role::Item => on_declared(collector, node, parent),
        (Kind::Assignment, Role::Target) => collector.write_name(node),
        (Kind::CompoundAssignment, Role::Target) | (Kind::Update, Role::Operand) => {
            collector.use_name(node);
            if is_dropped(parent) {
                collector.last_writes();
            }
        }
        (Kind::Call, Role::Callee) => collector.use_in(Namespace::Functions, node),
        (Kind::Member | Kind::Path, Role::Name) => on_member(collector, node, parent),
        (Kind::Member | Kind::Instantiation, _) => on_start_of_path(collector, node, parent),
        (Kind::Path, _) => collector.use_by(Namespace::Values, Reach::ValueOrType, collector.current(), node),
        (Kind::NamedType, Role::Name) => on_type_name(collector, node, parent),
        (Kind::Decorator, _) => collector.use_in(Namespace::Types, node),
        // A constant, of an enumeration perhaps whose type is not known.
        (Kind::Case, Role::Pattern) => {
            collector.use_doubtfully(node);
            collector.access(Namespace::Values, collector.node_text(node));
        }
        _ => collector.use_name(node),
    }
}

fn bind<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, kind: DeclarationKind) {
    collector.bind(collector.current(), collector.node_text(node), node, kind);
}

/// A field, or a local variable: that is seen from its declaration on, one of a loop in its body.
fn on_declared<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, parent: NodeRef<'t>) {
    let declaration = if parent.kind() == Kind::Assignment { parent.parent() } else { Some(parent) };
    let Some(declaration) = declaration else { return };
    let holder = declaration.parent();
    let scope = collector.current();
    match (declaration.kind(), declaration.role()) {
        (Kind::Field, _) => bind(collector, node, DeclarationKind::Field),
        (_, Role::Target) => {
            let body = holder.and_then(|holder| holder.child_at_end(Role::Body));
            let from = body.map_or(node.id(), NodeRef::id);
            collector.bind_from(scope, node, DeclarationKind::LoopTarget, from);
        }
        (_, Role::Item) => collector.bind_from(scope, node, DeclarationKind::WithTarget, node.id()),
        _ => collector.bind_from(scope, node, DeclarationKind::Assignment, node.id()),
    }
}

/// Whether nothing reads the value of an expression.
fn is_dropped(expression: NodeRef<'_>) -> bool {
    matches!(expression.role(), Role::Statement | Role::Step | Role::Start)
        || expression.parent().is_some_and(|parent| match parent.kind() {
            Kind::ExpressionStatement => true,
            Kind::If | Kind::For | Kind::While | Kind::DoWhile => {
                matches!(expression.role(), Role::Body | Role::Else)
            }
            _ => false,
        })
}

/// `this.low`, `boat.low`, `boat.low()`, `Boat::low`
fn on_member<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, member: NodeRef<'t>) {
    let name = collector.node_text(node);
    if matches!(name, "class" | "new") {
        return;
    }
    let namespace = if member.kind() == Kind::Path || member.role() == Role::Callee {
        Namespace::Functions
    } else if is_in_type(member) {
        Namespace::Types
    } else {
        Namespace::Values
    };
    let object = member.child(Role::Object);
    let is_own = object.is_some_and(|object| object.kind() == Kind::This);
    let named = object.filter(|object| object.kind() == Kind::Name && namespace != Namespace::Types);
    match (collector.type_around(collector.current()).filter(|_| is_own), named) {
        (Some(scope), _) => collector.use_by(namespace, Reach::Members, scope, node),
        (None, Some(object)) => collector.access_of(object, &[namespace], (name, node)),
        (None, None) => collector.access(namespace, name),
    }
    if namespace == Namespace::Values && !is_own {
        collector.access(Namespace::Types, name);
    }
}

/// The first name of some with dots between them: a variable, a type or a package.
fn on_start_of_path<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, parent: NodeRef<'t>) {
    let top = top_of_path(parent, PATHS);
    let holder = top.parent().map(NodeRef::kind);
    match holder {
        Some(Kind::ImportItem | Kind::PackageClause | Kind::Namespace | Kind::ModuleDirective) => {}
        _ if is_in_type(parent) || parent.kind() == Kind::Instantiation => collector.use_in(Namespace::Types, node),
        _ => collector.use_by(Namespace::Values, Reach::ValueOrType, collector.current(), node),
    }
}

/// What names with dots between them are made of.
const PATHS: &[Kind] = &[Kind::Member, Kind::Instantiation];

/// Whether names with dots between them are a type, or the name of an annotation.
fn is_in_type(member: NodeRef<'_>) -> bool {
    let holder = top_of_path(member, PATHS).parent();
    holder.is_some_and(|holder| matches!(holder.kind(), Kind::NamedType | Kind::Decorator))
}

/// `var` is no type; that of `boat.new Cabin()` is a member of another one.
fn on_type_name<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, named: NodeRef<'t>) {
    let name = collector.node_text(node);
    let creation = named.parent().filter(|parent| parent.kind() == Kind::New && named.role() == Role::Callee);
    if creation.is_some_and(|creation| creation.child(Role::Object).is_some()) {
        collector.access(Namespace::Types, name);
    } else if name != "var" {
        collector.use_in(Namespace::Types, node);
    }
}
