//! The answers of Rust: what opens a scope, what binds a name, what uses one.
//!
//! After "Names", "Scopes", "Namespaces" and "Paths" of The Rust Reference (1.89). A variable is seen from the end of its statement on, and
//! may have a name that another one has already. What is in a macro is seen word by word, and may be something else.

mod import;
mod item;
mod pattern;
mod word;

use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::names::{Collector, DeclarationKind, Namespace, Reach, ScopeId, ScopeKind, Unknown};

pub use word::MACROS_OF_VALUES;

/// Walks the tree once.
pub(crate) fn collect<'t>(collector: &mut Collector<'t>) {
    // Other files of the package may use what this one declares, and macros may declare what it uses.
    collector.mark_may_bind(ScopeId::FILE, Unknown::OtherFile);
    for node in collector.tree.nodes() {
        collector.arrive(node);
        match node.kind() {
            Kind::Name => on_name(collector, node),
            Kind::Function => item::on_function(collector, node),
            Kind::TypeDefinition | Kind::Interface | Kind::TypeAlias => item::on_type(collector, node),
            Kind::Enum => item::on_enum(collector, node),
            Kind::Implementation => item::enter_closed(collector, node),
            Kind::Namespace => item::on_module(collector, node),
            Kind::Declaration => on_declaration(collector, node),
            Kind::MacroDefinition => word::on_definition(collector, node),
            Kind::TokenTree => word::on_tokens(collector, node),
            Kind::ImportItem => import::on_import(collector, node),
            Kind::Lambda => on_closure(collector, node),
            Kind::For => pattern::on_for(collector, node),
            Kind::Case => pattern::on_case(collector, node),
            Kind::LetCondition => pattern::on_condition(collector, node),
            Kind::Block if !is_body(node) => {
                collector.open(ScopeKind::Block, node);
            }
            Kind::Error | Kind::Opaque => collector.mark_broken(),
            _ => {}
        }
    }
}

/// Whether the language gives a name: a primitive type, or one of the prelude ("Textual Types" to "Numeric types"; "Preludes").
pub(crate) fn is_given(name: &str) -> bool {
    GIVEN.contains(&name)
}

const GIVEN: &[&str] = &[
    "AsMut",
    "AsRef",
    "Box",
    "Clone",
    "Copy",
    "Default",
    "DoubleEndedIterator",
    "Drop",
    "Eq",
    "Err",
    "ExactSizeIterator",
    "Extend",
    "Fn",
    "FnMut",
    "FnOnce",
    "From",
    "FromIterator",
    "Future",
    "Into",
    "IntoFuture",
    "IntoIterator",
    "Iterator",
    "None",
    "Ok",
    "Option",
    "Ord",
    "PartialEq",
    "PartialOrd",
    "Result",
    "Send",
    "Sized",
    "Some",
    "String",
    "Sync",
    "ToOwned",
    "ToString",
    "TryFrom",
    "TryInto",
    "Unpin",
    "Vec",
    "bool",
    "char",
    "drop",
    "f32",
    "f64",
    "i128",
    "i16",
    "i32",
    "i64",
    "i8",
    "isize",
    "str",
    "u128",
    "u16",
    "u32",
    "u64",
    "u8",
    "usize",
];

/// Whether a block has the names of what it is the body of.
fn is_body(block: NodeRef<'_>) -> bool {
    block.role() == Role::Body
        && block.parent().is_some_and(|parent| {
            matches!(
                parent.kind(),
                Kind::Function
                    | Kind::Lambda
                    | Kind::Implementation
                    | Kind::Interface
                    | Kind::Enum
                    | Kind::Namespace
                    | Kind::ExternBlock
            )
        })
}

/// A closure sees all that is around it.
fn on_closure<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    collector.open(ScopeKind::Function, node);
    pattern::bind_parameters(collector, node);
}

/// `let`, `const`, `static`
fn on_declaration<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let is_let = node.significant_tokens().find_map(|(_, kind)| match kind {
        TokenKind::Let => Some(true),
        TokenKind::Const | TokenKind::StaticWord => Some(false),
        _ => None,
    });
    if is_let == Some(true) {
        pattern::on_let(collector, node);
    } else if !item::is_associated(node)
        && let Some(name) = node.child(Role::Item).and_then(|item| item.child(Role::Target))
        && name.kind() == Kind::Name
    {
        let scope = item::scope_of_items(collector);
        collector.bind(scope, collector.node_text(name), name, DeclarationKind::Assignment);
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
            | Kind::TypeDefinition
            | Kind::Interface
            | Kind::TypeAlias
            | Kind::Enum
            | Kind::EnumMember
            | Kind::Namespace
            | Kind::MacroDefinition,
            Role::Name,
        )
        | (Kind::ImportItem, _) => {}
        // Names of fields, of what is associated with a type, and of attributes.
        (Kind::Field | Kind::Member | Kind::KeywordArgument, Role::Name)
        | (Kind::Pair, Role::Key)
        | (Kind::Decorator | Kind::Visibility, _)
        | (_, Role::Label) => {}
        (Kind::TypeParameter, Role::Name) => on_type_parameter(collector, node),
        (Kind::KeywordPattern, Role::Name) if parent.child(Role::Pattern).is_some() => {}
        _ if pattern::is_binding(collector, node) => {}
        (Kind::AnnotatedAssignment | Kind::Assignment, Role::Target) if parent.role() == Role::Item => {}
        (Kind::Assignment, Role::Target) => collector.write_name(node),
        (Kind::MacroCall, _) => collector.use_by(Namespace::Macros, Reach::Scopes, ScopeId::FILE, node),
        (Kind::Path, Role::Name) => on_path(collector, node, parent),
        (Kind::Path | Kind::QualifiedType, _) => on_first_of_path(collector, node),
        (Kind::ClassPattern, Role::Callee) | (Kind::Composite | Kind::Instantiation, _) => {
            collector.use_by(Namespace::Values, Reach::Anything, collector.current(), node);
        }
        (Kind::NamedType | Kind::TypeBound, _) => {
            // `Iterator<Item = Tide>` names what is associated with the trait.
            let is_named = parent.role() == Role::Name
                && parent.parent().is_some_and(|argument| argument.kind() == Kind::KeywordArgument);
            if !is_named && collector.node_text(node) != "Self" {
                collector.use_by(Namespace::Types, Reach::Anything, collector.current(), node);
            }
        }
        _ if is_word_of_paths(collector.node_text(node)) => {}
        _ => collector.use_name(node),
    }
}

/// The parameter of a type or a function: a type, or a constant.
fn on_type_parameter<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    let scope = collector.current();
    let from = collector.scope(scope).node;
    let name = collector.node_text(node);
    let binding = collector.bind_in_from(Namespace::Types, scope, (name, node), DeclarationKind::TypeParameter, from);
    collector.bind_too(Namespace::Values, binding, name);
}

/// `quay` of `quay::Berth::new`; what `self`, `super` and `crate` mean is a module.
fn on_first_of_path<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>) {
    if !is_word_of_paths(collector.node_text(node)) {
        collector.use_in(Namespace::Types, node);
    }
}

/// What is behind the first part of a path.
fn on_path<'t>(collector: &mut Collector<'t>, node: NodeRef<'t>, path: NodeRef<'t>) {
    let Some(object) = path.child(Role::Object) else {
        return collector.use_by(Namespace::Values, Reach::Anything, collector.current(), node);
    };
    let text = collector.node_text(object);
    match import::module_by_words(collector, text) {
        Some(module) => collector.use_by(Namespace::Values, Reach::Scope, module, node),
        None if matches!(object.kind(), Kind::Name | Kind::Path) && !begins_outside(text) => {
            collector.use_by(Namespace::Values, Reach::Path, collector.current(), node);
        }
        None => {}
    }
}

/// Whether a word in a path is no name: it leads from a module, or from the type around.
fn is_word_of_paths(word: &str) -> bool {
    matches!(word, "self" | "super" | "crate" | "Self")
}

/// Whether a path begins with what another file is, or may be.
fn begins_outside(path: &str) -> bool {
    let first = path.split("::").next().unwrap_or_default().trim();
    first.is_empty() || is_word_of_paths(first) || first.starts_with('$')
}
