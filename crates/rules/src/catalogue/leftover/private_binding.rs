//! Private members that nothing uses, in languages whose members are names: every use of one is in its file.

use rustc_hash::FxHashSet;
use sieve_meaning::declared::visibility;
use sieve_meaning::names::{Names, Namespace, ScopeId};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::interface::{Context, File, word_hash};

/// Annotations that nothing but the compiler reads ("Predefined Annotation Interfaces", The Java Language Specification).
const FOR_THE_COMPILER: &[&str] = &["Deprecated", "FunctionalInterface", "SafeVarargs", "SuppressWarnings"];

/// Reports the private members of a type that nothing in the file uses.
pub(super) fn check(context: &mut Context, class: NodeRef, scope: ScopeId) {
    let file = context.file();
    let Some(body) = class.child(Role::Body) else { return };
    for member in body.children().filter(|member| visibility(file.text, *member) == Some("private")) {
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
    let says = || memchr::memmem::find(file.text.source().as_bytes(), b" native ").is_some();
    if *file.says_native.get_or_init(says) {
        return Some("native code may use it");
    }
    let quoted = file.quoted_words.get_or_init(|| quoted_words(file));
    quoted.contains(&word_hash(name)).then_some("a string mentions the name")
}

/// Hashes of the words in the strings of a file.
fn quoted_words(file: File<'_>) -> FxHashSet<u64> {
    let strings = file.tree.tokens_with_spans(0..file.tree.tokens().len() as TokenId);
    let strings = strings.filter(|(_, kind, _)| *kind == TokenKind::String);
    let is_part = |letter: char| letter == '_' || letter == '$' || letter.is_alphanumeric();
    let words = strings.flat_map(|(_, _, span)| file.text.slice(span).split(move |letter| !is_part(letter)));
    words.map(word_hash).collect()
}

fn noun(namespace: Namespace) -> &'static str {
    match namespace {
        Namespace::Values => "field",
        Namespace::Types => "type",
        Namespace::Functions | Namespace::Macros => "method",
    }
}
