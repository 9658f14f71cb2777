//! Private members that nothing uses, in languages whose members are names: every use of one is in its file.

use sieve_meaning::names::{Names, Namespace, ScopeId};
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Context, File};

/// Annotations that nothing but the compiler reads ("Predefined Annotation Interfaces", The Java Language Specification).
const FOR_THE_COMPILER: &[&str] = &["Deprecated", "FunctionalInterface", "SafeVarargs", "SuppressWarnings"];

/// Reports the private members of a type that nothing in the file uses.
pub(super) fn check(context: &mut Context, class: NodeRef, scope: ScopeId) {
    let file = context.file();
    let Some(body) = class.child(Role::Body) else { return };
    for member in body.children().filter(|member| is_private(file, *member)) {
        // What reads an annotation may use what it is on.
        if member.child(Role::Decorator).is_some() {
            continue;
        }
        for (namespace, name) in declared(member) {
            if is_used(context.names(), scope, namespace, context.text(name)) {
                continue;
            }
            match why_unsure(context, class, scope, context.text(name)) {
                Some(reason) => context.unsure(name.span(), reason),
                None => {
                    let message = format!("nothing uses the private {} \"{}\"", noun(namespace), context.text(name));
                    context.report(name.span(), message).advice("remove it");
                }
            }
        }
    }
}

fn is_private(file: File<'_>, member: NodeRef) -> bool {
    let mut visibility = member.children().filter(|part| part.kind() == Kind::Visibility);
    visibility.any(|word| file.node_text(word) == "private")
}

/// The names that a member declares. A constructor has none of its own.
fn declared(member: NodeRef<'_>) -> Vec<(Namespace, NodeRef<'_>)> {
    let own = |namespace: Namespace| member.child(Role::Name).map(|name| (namespace, name)).into_iter().collect();
    match member.kind() {
        Kind::Field => {
            let items = member.children_in(Role::Item);
            let names =
                items.filter_map(|item| if item.kind() == Kind::Name { Some(item) } else { item.child(Role::Target) });
            names.map(|name| (Namespace::Values, name)).collect()
        }
        Kind::Function if member.child(Role::Returns).is_some() => own(Namespace::Functions),
        Kind::Class | Kind::Interface | Kind::Enum => own(Namespace::Types),
        _ => Vec::new(),
    }
}

fn is_used(names: &Names<'_>, scope: ScopeId, namespace: Namespace, name: &str) -> bool {
    let Some(id) = names.lookup_in(namespace, scope, name) else { return true };
    let binding = names.binding(id);
    let is_written = binding.writes > 0 && namespace == Namespace::Values;
    binding.uses > 0 || is_written || names.may_be_accessed(binding)
}

fn why_unsure(context: &Context, class: NodeRef, scope: ScopeId, name: &str) -> Option<&'static str> {
    let file = context.file();
    if let Some(reason) = context.names().scope(scope).may_use {
        return Some(reason.describe());
    }
    if file.traits.special_members.contains(&name) {
        return Some("the runtime looks for a member of this name");
    }
    let is_read = |decorator: NodeRef| {
        let annotation = decorator.child(Role::Value).map_or("", |name| file.node_text(name));
        !FOR_THE_COMPILER.contains(&annotation)
    };
    if class.children_in(Role::Decorator).any(is_read) {
        return Some("what reads the annotation of the type may use its members");
    }
    let source = file.text.source().as_bytes();
    let holds = |text: &str| memchr::memmem::find(source, text.as_bytes()).is_some();
    if holds(" native ") {
        return Some("native code may use it");
    }
    holds(&format!("\"{name}\"")).then_some("a string mentions the name")
}

fn noun(namespace: Namespace) -> &'static str {
    match namespace {
        Namespace::Values => "field",
        Namespace::Types => "type",
        Namespace::Functions => "method",
    }
}
