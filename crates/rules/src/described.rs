//! Whether the public things of a file are described, in the form that their language has for it.

use rustc_hash::FxHashMap;
use sieve_meaning::declared::visibility;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{File, word_hash};
use crate::modifier::modifier;

/// Whether a module, class or function is described; nothing where it need not be.
pub(crate) fn described(file: File<'_>, node: NodeRef) -> Option<bool> {
    let says_so = || file.traits.says_visibility && matches!(node.kind(), Kind::Enum | Kind::Interface);
    if !matches!(node.kind(), Kind::File | Kind::Class | Kind::Function | Kind::TypeDefinition) && !says_so() {
        return None;
    }
    let is_public = match node.kind() {
        Kind::File => file.language.spec().doc_comment.is_none() && node.children().next().is_some() && !file.is_test(),
        _ => node.child(Role::Name).is_some() && is_public(file, node) && !is_exempt(file, node),
    };
    is_public.then(|| is_described(file, node))
}

/// Whether a text is first in the body, or a comment that describes it above, as the language has it.
fn is_described(file: File<'_>, node: NodeRef) -> bool {
    if let Some(mark) = file.language.spec().doc_comment {
        if is_described_within(file, node, mark) {
            return true;
        }
        return is_described_above(file, node, mark) || is_described_later(file, node, mark);
    }
    let body = if node.kind() == Kind::File { Some(node) } else { node.child(Role::Body) };
    let first = body.and_then(|body| body.children().next()).filter(|first| first.kind() == Kind::ExpressionStatement);
    let value = first.and_then(|first| first.child(Role::Value));
    value.is_some_and(|value| matches!(value.kind(), Kind::String | Kind::Concatenation))
}

/// Whether what is said of a declaration before its name describes it: a comment behind an attribute, or an attribute.
fn is_described_within(file: File<'_>, node: NodeRef, mark: &str) -> bool {
    let Some(last) = node.children_in(Role::Decorator).last() else { return false };
    let tree = node.tree();
    let behind = tree.tokens_with_spans(
        node.token_range().start..last.next_sibling().map_or(last.token_range().end, |next| next.token_range().start),
    );
    let mut comments = behind.filter(|(_, kind, _)| *kind == TokenKind::Comment);
    let says = |decorator: NodeRef| decorator.child(Role::Value).is_some_and(|path| file.node_text(path) == "doc");
    comments.any(|(_, _, span)| file.text.slice(span).starts_with(mark)) || node.children_in(Role::Decorator).any(says)
}

/// Whether a comment says something to people: a few words, and no sign for a program.
fn is_prose(comment: &str) -> bool {
    let words = comment.trim_start_matches(['/', '*', ' ']);
    !words.starts_with(['@', '#'])
        && words.split_whitespace().filter(|word| word.contains(char::is_alphabetic)).count() > 2
}

/// Whether a comment that begins with a mark, or is prose, is directly above a declaration, its decorators and `export` included. Nobody
/// describes files so.
fn is_described_above(file: File<'_>, node: NodeRef, mark: &str) -> bool {
    let tree = node.tree();
    let outer = outermost(node);
    let mut line_ends = 0;
    for token in (0..outer.token_range().start).rev() {
        match tree.token_kind(token) {
            TokenKind::LineEnd => line_ends += 1,
            // Where lines are not told apart, a description may be further above.
            TokenKind::Comment if line_ends < 2 || file.traits.says_visibility => {
                let comment = file.text.slice(tree.token_span(token));
                if comment.starts_with(mark) || line_ends < 2 && is_prose(comment) {
                    return true;
                }
                line_ends = 0;
            }
            TokenKind::Blank => {}
            _ => break,
        }
    }
    node.kind() == Kind::File
}

/// Whether nothing around it is private or a function, and, where a language says what it exports, whether it is exported.
pub(crate) fn is_public(file: File<'_>, node: NodeRef) -> bool {
    if file.traits.capitals_are_public {
        return is_capital(file, node);
    }
    if file.traits.says_visibility {
        return is_said_public(file, node);
    }
    if file.language.spec().doc_comment.is_some() {
        return is_handed_out(file, node);
    }
    std::iter::once(node).chain(node.ancestors()).all(|around| {
        let private = || around.child(Role::Name).is_some_and(|name| file.node_text(name).starts_with('_'));
        match around.kind() {
            Kind::Function if around != node => false,
            Kind::Function | Kind::Class => !private(),
            _ => true,
        }
    })
}

/// Whether a declaration at the top of a file begins with a capital, and so does the type that it is a method of.
fn is_capital(file: File<'_>, node: NodeRef) -> bool {
    let begins_so = |name: NodeRef| file.node_text(name).starts_with(char::is_uppercase);
    let receiver = node.child(Role::Receiver).and_then(|receiver| {
        let named = |part: &NodeRef| part.kind() == Kind::NamedType;
        receiver.descendants().find(named)?.child(Role::Name)
    });
    let is_top = outermost(node).parent().is_some_and(|holder| {
        holder.kind() == Kind::File || holder.kind() == Kind::Declaration && holder.role() == Role::Statement
    });
    is_top && node.child(Role::Name).is_some_and(begins_so) && receiver.is_none_or(begins_so)
}

/// Whether a word before a declaration says that everybody sees it, and nothing around it says otherwise. What a trait has is seen where the
/// trait is; what a type has because of a trait is described there.
fn is_said_public(file: File<'_>, node: NodeRef) -> bool {
    let around = node.ancestors().find(|around| around.kind().is_statement() && around.kind() != Kind::Block);
    match around {
        // What is written elsewhere is described there.
        Some(block) if block.kind() == Kind::ExternBlock => false,
        Some(interface) if interface.kind() == Kind::Interface => is_said_public(file, interface),
        Some(owner) if owner.kind() == Kind::Implementation => {
            let is_own = owner.child(Role::Bound).is_none() && !is_of_hidden_type(file, owner);
            is_own && has_visibility(file, node) && is_in_public(file, owner)
        }
        _ => has_visibility(file, node) && is_in_public(file, node),
    }
}

/// Whether all modules and types around a declaration are seen, as far as the file says, and it is in no function.
fn is_in_public(file: File<'_>, node: NodeRef) -> bool {
    node.ancestors().all(|around| match around.kind() {
        Kind::Namespace => file.traits.open_namespaces || has_visibility(file, around),
        Kind::Class | Kind::Interface | Kind::Enum => has_visibility(file, around),
        // One without a name.
        Kind::New | Kind::EnumMember => false,
        kind => !kind.is_function(),
    }) && !file.is_test()
}

/// Whether a declaration is seen everywhere, and not only in some module.
fn has_visibility(file: File<'_>, node: NodeRef) -> bool {
    matches!(visibility(file.text, node), Some("pub" | "public"))
}

/// Whether the functions belong to a type that is declared beside them and not seen elsewhere.
fn is_of_hidden_type(file: File<'_>, implementation: NodeRef) -> bool {
    let own = implementation.child(Role::Type).and_then(|own| own.child(Role::Name));
    let (Some(own), Some(holder)) = (own, implementation.parent()) else { return false };
    let beside = file.once_at(holder, || TypesBeside::of(file, holder));
    beside.0.get(&word_hash(file.node_text(own))).is_some_and(|is_seen| !is_seen)
}

/// The types that are declared directly in a module, by hashes of their names, and whether the first one of a name is seen outside.
struct TypesBeside(FxHashMap<u64, bool>);

impl TypesBeside {
    fn of(file: File<'_>, module: NodeRef) -> TypesBeside {
        let mut types = TypesBeside(FxHashMap::default());
        let is_type = |one: &NodeRef| matches!(one.kind(), Kind::TypeDefinition | Kind::Enum | Kind::TypeAlias);
        for declared in module.children().filter(is_type) {
            if let Some(name) = declared.child(Role::Name) {
                let first = types.0.entry(word_hash(file.node_text(name)));
                first.or_insert_with(|| has_visibility(file, declared));
            }
        }
        types
    }
}

/// Whether a declaration is after `export`, or is a member of a class that does and is not kept private.
fn is_handed_out(file: File<'_>, node: NodeRef) -> bool {
    let Some(holder) = node.parent() else { return false };
    if holder.kind() == Kind::Export {
        return !node.child(Role::Name).is_some_and(|name| file.node_text(name).starts_with('_'));
    }
    let class = holder.parent().filter(|class| holder.kind() == Kind::Block && class.kind() == Kind::Class);
    let name = node.child(Role::Name).filter(|name| name.kind() == Kind::Name);
    class.zip(name).is_some_and(|(class, name)| {
        let head = file.text.slice(Span::new(node.span().start, name.span().start));
        let kept =
            head.split_whitespace().any(|word| matches!(word, "private" | "protected" | "override" | "get" | "set"));
        let text = file.node_text(name);
        !kept && text != "constructor" && !text.starts_with('_') && is_handed_out(file, class)
    })
}

/// Whether the statement before declares the same function: one description is enough for all its signatures.
fn goes_on(file: File<'_>, node: NodeRef, name: &str) -> bool {
    let before = outermost(node).previous_sibling();
    file.language.spec().doc_comment.is_some()
        && before.is_some_and(|before| signature(file, before, node, name).is_some())
}

/// A declaration with its `export`, or with the word before it that it has for itself.
fn outermost(node: NodeRef<'_>) -> NodeRef<'_> {
    let is_its = |holder: &NodeRef| match holder.kind() {
        Kind::Export => true,
        Kind::Declaration => holder.children().nth(1).is_none(),
        _ => false,
    };
    node.parent().filter(is_its).unwrap_or(node)
}

/// What a statement declares, if it is one more signature of a function.
fn signature<'t>(file: File<'_>, statement: NodeRef<'t>, function: NodeRef, name: &str) -> Option<NodeRef<'t>> {
    let inner = if statement.kind() == Kind::Export { statement.child(Role::Value)? } else { statement };
    let declares = |other: NodeRef| other.child(Role::Name).is_some_and(|other| file.node_text(other) == name);
    (inner.kind() == function.kind() && declares(inner)).then_some(inner)
}

/// Whether a later signature of the same function is described.
fn is_described_later(file: File<'_>, node: NodeRef, mark: &str) -> bool {
    let Some(name) = node.child(Role::Name).map(|name| file.node_text(name)) else { return false };
    let following = std::iter::successors(outermost(node).next_sibling(), |next| next.next_sibling());
    let mut signatures = following.map_while(|next| signature(file, next, node, name));
    signatures.any(|other| is_described_above(file, other, mark))
}

fn is_exempt(file: File<'_>, node: NodeRef) -> bool {
    let name = node.child(Role::Name).map_or("", |name| file.node_text(name));
    // What a class inherits is described there; which of its methods those are cannot be known here.
    let inherits = node.kind() == Kind::Function && node.class_around().is_some_and(|class| file.has_bases(class));
    // What everybody knows by its name is described where its interface is.
    let is_known = node.child(Role::Receiver).is_some() && file.traits.known_methods.contains(&name);
    // Of several parts another one may be described.
    if goes_on(file, node, name) || inherits || is_known || modifier(file, node, "partial").is_some() {
        return true;
    }
    let is_test = file.is_test() || name.starts_with("test") || name.starts_with("Test");
    is_test
        || node.children_in(Role::Decorator).any(|decorator| {
            let text = file.node_text(decorator);
            [".setter", ".deleter", "overload", "override", "@Override"].iter().any(|ending| text.ends_with(ending))
        })
}
