//! Private members that nothing uses, in languages whose members are names: every use of one is in its file.

use std::cell::OnceCell;

use rustc_hash::FxHashSet;
use sieve_meaning::declared::visibility;
use sieve_meaning::doc_comment::doc_comment;
use sieve_meaning::names::{Names, Namespace, ScopeId};
use sieve_meaning::project::words_before;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::expected::allows_unused;
use crate::interface::{Context, File, word_hash};

/// Annotations and attributes that nothing but the compiler reads ("Predefined Annotation Interfaces", The Java Language Specification;
/// "Reserved attributes", ECMA-334).
const FOR_THE_COMPILER: &[&str] = &[
    "CLSCompliant",
    "Deprecated",
    "FunctionalInterface",
    "Obsolete",
    "SafeVarargs",
    "SuppressMessage",
    "SuppressWarnings",
];

/// Reports the private members of a type that nothing in the file uses.
pub(super) fn check(context: &mut Context, class: NodeRef, scope: ScopeId) {
    let file = context.file();
    let Some(body) = class.child(Role::Body) else { return };
    let is_private = |member: &NodeRef| match visibility(file.text, *member) {
        Some(word) => word == "private",
        None => {
            let is_own = class.kind() == Kind::Class && member.child(Role::Receiver).is_none();
            file.traits.private_by_default && is_own
        }
    };
    let of_class = OnceCell::new();
    for member in body.children().filter(is_private) {
        // What reads an annotation may use what it is on.
        if member.child(Role::Decorator).is_some() {
            continue;
        }
        let names = declared(member);
        let is_filling = names.len() > 1
            && member.kind() == Kind::Field
            && names.iter().all(|(_, name)| is_numbered(context.text(*name)));
        if is_filling {
            continue;
        }
        for (namespace, name) in names {
            if is_used(context.names(), scope, namespace, context.text(name)) {
                continue;
            }
            let said = *of_class.get_or_init(|| said_of_type(file, class));
            match said.or_else(|| why_unsure(context, (class, scope), member, context.text(name))) {
                Some(reason) => context.unsure(name.span(), reason),
                None => {
                    let message = format!("nothing uses the private {} \"{}\"", noun(member), context.text(name));
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
        Kind::Property => own(Namespace::Values),
        Kind::Class | Kind::Interface | Kind::Enum | Kind::Delegate => own(Namespace::Types),
        _ => Vec::new(),
    }
}

fn is_used(names: &Names<'_>, scope: ScopeId, namespace: Namespace, name: &str) -> bool {
    // Functions are values where they have no namespace of their own.
    let found = names.lookup_in(namespace, scope, name).or_else(|| names.lookup(scope, name));
    let Some(id) = found else { return true };
    let binding = names.binding(id);
    let is_written = binding.writes > 0 && namespace == Namespace::Values;
    binding.uses > 0 || is_written || names.may_be_accessed(binding) || names.may_be_expanded(binding)
}

fn why_unsure(
    context: &Context,
    (class, scope): (NodeRef, ScopeId),
    member: NodeRef,
    name: &str,
) -> Option<&'static str> {
    let file = context.file();
    if let Some(reason) = context.names().scope(scope).may_use {
        return Some(reason.describe());
    }
    if file.traits.special_members.contains(&name) {
        return Some("the runtime looks for a member of this name");
    }
    if name.starts_with("unused") {
        return Some("its name says so");
    }
    if member.kind() == Kind::Field && is_stored(file, class, member) {
        return Some("objects of the class are stored with what it holds");
    }
    if has_foreign_tag(file, member) {
        return Some("what reads a tag of its documentation may use it");
    }
    if member.kind() == Kind::Field && is_structure(class) {
        return Some("its place in the memory of a value may matter");
    }
    if member.kind() == Kind::Function && is_half_of_property(context.names(), scope, name) {
        return Some("what stores objects may use it, as the other half of a property");
    }
    if let Some(reason) = file.once(|| HowFound(how_found(file))).0 {
        return Some(reason);
    }
    let quoted = file.once(|| QuotedWords(quoted_words(file)));
    quoted.0.contains(&word_hash(name)).then_some("a string mentions the name")
}

/// How others find members by their names, if they may.
struct HowFound(Option<&'static str>);

/// Hashes of the words in strings.
struct QuotedWords(FxHashSet<u64>);

/// Why the attributes of a type leave open whether its members are used.
fn said_of_type(file: File<'_>, class: NodeRef) -> Option<&'static str> {
    let is_read = |decorator: NodeRef| {
        let annotation = decorator.child(Role::Value).map_or("", |name| file.node_text(name));
        !FOR_THE_COMPILER.contains(&annotation)
    };
    if attributes(class).any(is_read) {
        return Some("what reads the annotation of the type may use its members");
    }
    let allows = attributes(class).any(|attribute| allows_unused(file, attribute));
    allows.then_some("an annotation of the type says that its members may be unused")
}

/// `pad0, pad1, pad2`: several with numbers for names keep a place.
fn is_numbered(name: &str) -> bool {
    name.starts_with(|first: char| first.is_alphabetic()) && name.ends_with(|last: char| last.is_ascii_digit())
}

/// Whether a method that nothing calls sets or gets what another one of the class gives or takes: what stores objects finds both by name.
fn is_half_of_property(names: &Names<'_>, scope: ScopeId, name: &str) -> bool {
    let Some((half, what)) = ["set", "get", "is"].iter().find_map(|half| Some((*half, name.strip_prefix(half)?)))
    else {
        return false;
    };
    let others: &[&str] = if half == "set" { &["get", "is"] } else { &["set"] };
    let is_there = |half: &&str| names.lookup_in(Namespace::Functions, scope, &format!("{half}{what}")).is_some();
    what.starts_with(char::is_uppercase) && others.iter().any(is_there)
}

/// Whether a field is stored with the objects of its class because that says that they can be ("Serializable", java.io, Java 21).
fn is_stored(file: File<'_>, class: NodeRef, field: NodeRef) -> bool {
    let is_kept_out = || words_before(file.text, field).iter().any(|word| matches!(*word, "static" | "transient"));
    let head = class.child(Role::Name).zip(class.child(Role::Body));
    let head = head.map_or("", |(name, body)| file.text.slice(Span::new(name.span().end, body.span().start)));
    head.contains("Serializable") && !is_kept_out()
}

/// Block tags that documentation is made of ("Standard tags", Documentation Comment Specification, Java 21), and those that only note something.
const TAGS: &[&str] = &[
    "apiNote",
    "author",
    "code",
    "deprecated",
    "exception",
    "fixme",
    "hidden",
    "implNote",
    "implSpec",
    "inheritDoc",
    "link",
    "linkplain",
    "literal",
    "param",
    "return",
    "returns",
    "see",
    "serial",
    "serialData",
    "serialField",
    "since",
    "throws",
    "todo",
    "value",
    "version",
];

/// Whether the documentation of a member has a tag of some program: `@parameter`. Such a program may set what it is on.
fn has_foreign_tag(file: File<'_>, member: NodeRef) -> bool {
    let Some(comment) = doc_comment(file.language, file.text, member) else { return false };
    let lines = file.text.slice(comment).lines().map(|line| line.trim_start_matches([' ', '\t', '/', '*']));
    let mut tags =
        lines.filter_map(|line| line.strip_prefix('@')?.split(|letter: char| !letter.is_alphanumeric()).next());
    tags.any(|tag| !tag.is_empty() && !TAGS.iter().any(|known| known.eq_ignore_ascii_case(tag)))
}

/// Whether a type says that its objects are values.
fn is_structure(class: NodeRef) -> bool {
    let mut before = class.tokens_before(class.child(Role::Name));
    before.any(|(_, kind)| kind == TokenKind::Struct)
}

/// How members may be found otherwise than by code that names them, if the file says so.
fn how_found(file: File<'_>) -> Option<&'static str> {
    let says = |word: &&str| memchr::memmem::find(file.text.source().as_bytes(), word.as_bytes()).is_some();
    if file.traits.native_functions && says(&" native ") {
        Some("native code may use it")
    } else if file.traits.listing_functions.iter().any(says) {
        Some("the file asks for all members of types")
    } else {
        file.traits.calling_libraries.iter().any(says).then_some("a library may call it by its name")
    }
}

/// What is said of a type to those who read it.
fn attributes<'t>(class: NodeRef<'t>) -> impl Iterator<Item = NodeRef<'t>> {
    class.children_in(Role::Decorator).flat_map(|one| match one.kind() {
        Kind::AttributeSection => one.children_in(Role::Decorator).collect(),
        _ => vec![one],
    })
}

/// Hashes of the words in the strings of a file.
fn quoted_words(file: File<'_>) -> FxHashSet<u64> {
    let strings = file.tree.tokens_with_spans(0..file.tree.tokens().len() as TokenId);
    let strings = strings.filter(|(_, kind, _)| matches!(kind, TokenKind::String | TokenKind::FormatText));
    let is_part = |letter: char| letter == '_' || letter == '$' || letter.is_alphanumeric();
    let words = strings.flat_map(|(_, _, span)| file.text.slice(span).split(move |letter| !is_part(letter)));
    words.map(word_hash).collect()
}

fn noun(member: NodeRef) -> &'static str {
    match member.kind() {
        Kind::Field => "field",
        Kind::Property => "property",
        Kind::Function => "method",
        _ => "type",
    }
}
