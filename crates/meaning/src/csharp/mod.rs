//! The answers of C#: what opens a scope, what binds a name, what uses one.
//!
//! After "Declarations", "Scopes", "Simple names" and "Namespace and type names" of ECMA-334, and the language reference for version 13.
//! Members of a type share one space of names, methods with the rest. What a type inherits from one of another file is not known, nor what
//! other files declare in a namespace, or in another part of a type.

mod attribute;
mod docs;
mod import;
mod left_out;
mod local;
mod namespace;
mod pattern;
mod query;
mod scope;
mod several;
mod word;

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::names::{Collector, DeclarationKind, Namespace, Reach, ScopeId, ScopeKind, Unknown, top_of_path};
use namespace::Outer;

/// Walks the tree once.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>) {
    // Other files may declare what this one uses.
    collector.mark_may_bind(ScopeId::FILE, Unknown::OtherFile);
    let mut outer = Outer::of(collector);
    for node in collector.tree.nodes() {
        collector.arrive(node);
        outer.arrive(collector, node);
        if scope::is_embedded(node) {
            collector.open(ScopeKind::Block, node);
        }
        match node.kind() {
            Kind::Name => on_name(collector, node),
            Kind::Class | Kind::Interface | Kind::Enum => scope::on_type(collector, node),
            Kind::Delegate => scope::on_delegate(collector, node),
            Kind::Namespace | Kind::PackageClause => outer.on_namespace(collector, node),
            Kind::Function => scope::on_function(collector, node),
            Kind::Property => scope::on_property(collector, node),
            Kind::Accessor => scope::on_accessor(collector, node),
            Kind::EnumMember => word::bind(collector, node.child(Role::Name), DeclarationKind::Field),
            Kind::Lambda => {
                collector.open(ScopeKind::Function, node);
            }
            Kind::While | Kind::DoWhile | Kind::For | Kind::With | Kind::Catch | Kind::Query => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Match => scope::on_match(collector, node),
            Kind::Case if pattern::has_own_scope(node) => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Block if !scope::is_body(node) => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::CapturePattern | Kind::ClassPattern | Kind::SequencePattern => pattern::on_pattern(collector, node),
            Kind::QueryClause => query::on_clause(collector, node),
            Kind::ImportItem => import::on_import(collector, node),
            Kind::Error | Kind::Opaque => collector.mark_broken(),
            _ => {}
        }
    }
    attribute::collect(collector);
    several::collect(collector);
    docs::collect(collector);
    left_out::collect(collector);
    word::doubt_names_of_parts(collector);
}

/// Whether the language gives a name: to every type, as a member of `object`, or everywhere.
pub(crate) fn is_given(name: &str) -> bool {
    let is_of_object = matches!(
        name,
        "Equals" | "Finalize" | "GetHashCode" | "GetType" | "MemberwiseClone" | "ReferenceEquals" | "ToString"
    );
    is_of_object || name == "nameof" || word::is_type_word(name)
}

/// Whether a namespace is one of the library that comes with the language.
pub(crate) fn is_of_library(namespace: &str) -> bool {
    namespace.split('.').next() == Some("System")
}

/// Whether what a name is for is handled where the whole is met, or it is one of a namespace, of a jump or of a part of a tuple.
fn is_of_whole(parent: Kind, role: Role) -> bool {
    match (parent, role) {
        (Kind::FunctionType | Kind::ImportItem, _) | (_, Role::Label) => true,
        (_, Role::Name) => matches!(
            parent,
            Kind::Class
                | Kind::Interface
                | Kind::Enum
                | Kind::Delegate
                | Kind::Function
                | Kind::Property
                | Kind::Accessor
                | Kind::EnumMember
                | Kind::CapturePattern
                | Kind::ClassPattern
                | Kind::SequencePattern
                | Kind::QueryClause
                | Kind::PackageClause
                | Kind::Namespace
                | Kind::TupleMember
        ),
        _ => false,
    }
}

/// A name is bound, used, or neither, by its place.
fn on_name<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let Some(parent) = node.parent().filter(|parent| !is_of_whole(parent.kind(), node.role())) else { return };
    match (parent.kind(), node.role()) {
        // A member of what is made or matched, or a parameter of what is called.
        (Kind::KeywordArgument | Kind::KeywordPattern, Role::Name) => {
            collector.access(Namespace::Values, word::of(collector, node));
        }
        (Kind::Parameter, Role::Name) => scope::on_parameter(collector, node, parent),
        (Kind::Catch, Role::Name) => word::bind(collector, Some(node), DeclarationKind::CaughtException),
        (Kind::TypeParameter, Role::Name) => {
            let (scope, name) = (collector.current(), word::of(collector, node));
            collector.bind_in(Namespace::Types, scope, name, node, DeclarationKind::TypeParameter);
        }
        (Kind::Field, Role::Item) => scope::bind_member(collector, parent, node, DeclarationKind::Field),
        (Kind::Declaration, Role::Item) => local::on_declared(collector, node, parent),
        (Kind::Assignment, Role::Target) if parent.role() == Role::Item => {
            local::on_declared(collector, node, parent);
        }
        (Kind::Assignment, Role::Target) => local::write(collector, node),
        (Kind::Tuple, Role::Element) if local::is_target(parent) => local::write(collector, node),
        (Kind::CompoundAssignment, Role::Target) | (Kind::Update, Role::Operand) => {
            word::use_value(collector, node);
            if local::is_dropped(parent) {
                collector.last_writes();
            }
        }
        (Kind::Member, Role::Name) => on_member(collector, node, parent),
        (Kind::Path, Role::Object) => {
            if collector.node_text(node) != "global" {
                word::use_type(collector, node);
            }
        }
        (Kind::Path, Role::Name) => match parent.child(Role::Object) {
            Some(global) if collector.node_text(global) == "global" => {
                word::use_by(collector, Namespace::Types, Reach::Scope, Outer::GLOBAL, node);
            }
            _ => collector.access(Namespace::Types, word::of(collector, node)),
        },
        (Kind::Member, _) | (Kind::Instantiation, Role::Name | Role::Value) => {
            on_start_of_path(collector, node, parent);
        }
        (Kind::NamedType, Role::Name) => on_type_name(collector, node),
        (Kind::WhereClause, Role::Name) => word::use_type(collector, node),
        _ if may_be_type(collector, node, parent) => {
            word::use_by(collector, Namespace::Values, Reach::NearestValueOrType, collector.current(), node);
        }
        _ => word::use_value(collector, node),
    }
}

/// Whether a name alone may be that of a type where a value is looked for: in a pattern, behind `is`, in `nameof()`.
fn may_be_type(collector: &Collector<'_>, node: NodeRef<'_>, parent: NodeRef<'_>) -> bool {
    match parent.kind() {
        Kind::Comparison => node.kind_before() == TokenKind::Is,
        Kind::Arguments => parent
            .parent()
            .and_then(|call| call.child(Role::Callee))
            .is_some_and(|callee| collector.node_text(callee) == "nameof"),
        _ => node.role() == Role::Pattern,
    }
}

/// `this.low`, `boat.low`, `boat.low()`, `Tables.Tide`
fn on_member<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, member: NodeRef<'t>) {
    let name = word::of(collector, node);
    let object = member.child(Role::Object);
    let own = object.filter(|object| object.kind() == Kind::This);
    if let Some(scope) = own.and_then(|_| collector.type_around(collector.current())) {
        return word::use_by(collector, Namespace::Values, Reach::Members, scope, node);
    }
    // A type within a type, or in a namespace.
    let namespaces: &[Namespace] =
        if is_in_type(member) { &[Namespace::Types] } else { &[Namespace::Values, Namespace::Types] };
    match object.and_then(scope::last_name) {
        Some(object) => collector.access_of(object, namespaces, (name, node)),
        None => namespaces.iter().for_each(|namespace| collector.access(*namespace, name)),
    }
}

/// The first name of some with dots between them: a variable, a type or a namespace.
fn on_start_of_path<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, parent: NodeRef<'t>) {
    let top = top_of_path(parent, PATHS);
    match (top.parent().map(NodeRef::kind), top.role()) {
        (Some(Kind::Namespace | Kind::PackageClause), Role::Name) | (Some(Kind::ImportItem), _) => {}
        (Some(Kind::KeywordPattern), Role::Name) => {
            collector.access(Namespace::Values, word::of(collector, node));
        }
        _ if is_in_type(parent) || is_generic_type(parent) => word::use_type(collector, node),
        _ => word::use_by(collector, Namespace::Values, Reach::NearestValueOrType, collector.current(), node),
    }
}

/// `Table<Tide>.Empty`: no value has type arguments and a member.
fn is_generic_type(part: NodeRef<'_>) -> bool {
    let is_object = part.role() == Role::Object && part.parent().is_some_and(|member| member.kind() == Kind::Member);
    part.kind() == Kind::Instantiation && is_object
}

/// What names with dots between them are made of.
const PATHS: &[Kind] = &[Kind::Member, Kind::Instantiation, Kind::Path];

/// Whether names with dots between them are a type, or the name of an attribute.
fn is_in_type(part: NodeRef<'_>) -> bool {
    top_of_path(part, PATHS).parent().is_some_and(|holder| holder.kind() == Kind::NamedType)
}

/// A type, or the word that leaves it to the value.
fn on_type_name<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if collector.node_text(node) != "var" {
        word::use_type(collector, node);
    }
}
