//! What is known of a function by its declaration.

use serde::{Deserialize, Serialize};
use sieve_syntax::language::Language;
use sieve_syntax::text::{Span, Text};
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::signature::{Parameter, Passing, Signature};
use crate::table::meaning_of;

/// A function that others call.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Function {
    /// What it takes; nothing where a decorator may change that.
    pub signature: Option<Signature>,
    /// Whether a call gives something that must be awaited.
    pub is_async: bool,
    /// Whether a comment says that it has no effects.
    pub is_pure: bool,
    /// The line of its name, from 1.
    pub line: u32,
    /// Whether the language fills in its first parameter when it is called on an object.
    pub is_method: bool,
}

/// Decorators that leave alone what a function takes.
const HARMLESS: &[&str] = &[
    "staticmethod",
    "classmethod",
    "abstractmethod",
    "abc.abstractmethod",
    "contextmanager",
    "contextlib.contextmanager",
    "cache",
    "functools.cache",
    "override",
    "typing.override",
    "final",
    "typing.final",
];

impl Function {
    /// Reads a function's declaration, or a function that a name is given.
    pub fn of(language: Language, text: &Text, node: NodeRef<'_>) -> Function {
        let decorators: Vec<&str> = node
            .children_in(Role::Decorator)
            .map(|one| text.slice(one.span()).trim_start_matches('@').trim())
            .collect();
        let is_plain = decorators.iter().all(|name| HARMLESS.contains(name)) && node.kind() != Kind::Class;
        let mut signature = Signature::of(language, text, node);
        if language != Language::Python && (speaks_of_arguments(text, node) || does_nothing(node)) {
            let name = String::new();
            signature.parameters.push(Parameter { name, passing: Passing::AllPositions, is_needed: false });
        }
        let is_static = decorators.contains(&"staticmethod");
        let starts = node.child(Role::Name).map_or(node.span().start, |name| name.span().start);
        Function {
            signature: is_plain.then_some(signature),
            is_async: is_async(text, node) || gives_task(text, node, meaning_of(language).tasks),
            is_pure: is_marked_pure(text, node),
            line: text.lines().line_of(starts),
            is_method: language == Language::Python && is_member(node) && !is_static,
        }
    }
}

/// Whether a function is directly in a class.
pub(super) fn is_member(function: NodeRef<'_>) -> bool {
    function.class_around().is_some() && function.role() == Role::Statement
}

/// The words before the name or the parameters: `async`, `static`, `get` and their like.
pub fn words_before<'t>(text: &'t Text, function: NodeRef<'t>) -> Vec<&'t str> {
    let tree = function.tree();
    let from = function
        .children_in(Role::Decorator)
        .last()
        .map_or(function.token_range().start, |last| last.token_range().end);
    let to = function
        .children()
        .find(|child| !matches!(child.role(), Role::Decorator | Role::Part))
        .map_or(from, |first| first.token_range().start);
    (from..to)
        .filter(|token| !tree.token_kind(*token).is_trivia())
        .map(|token| text.slice(tree.token_span(token)))
        .collect()
}

/// Whether what a call gives must be awaited: an async function that exports no values one by one, and does not say that it gives none.
fn is_async(text: &Text, function: NodeRef<'_>) -> bool {
    let words = words_before(text, function);
    words.contains(&"async") && !words.contains(&"*") && !gives_nothing(text, function) && !hands_out(function)
}

/// Whether a function says that it gives nothing, not even something to wait for.
pub fn gives_nothing(text: &Text, function: NodeRef<'_>) -> bool {
    function.child(Role::Returns).is_some_and(|given| text.slice(given.span()) == "void")
}

/// Whether a function says that it gives something to wait for.
fn gives_task(text: &Text, function: NodeRef<'_>, tasks: &[&str]) -> bool {
    if tasks.is_empty() {
        return false;
    }
    let given = function.child(Role::Returns).filter(|given| given.kind() == Kind::NamedType);
    let name = given.and_then(|given| given.child(Role::Name));
    let last = name.and_then(|name| text.slice(name.span()).rsplit('.').next());
    last.is_some_and(|last| tasks.contains(&last))
}

/// Whether a `yield` is in a function, those within it left aside.
fn hands_out(function: NodeRef<'_>) -> bool {
    let Some(body) = function.child(Role::Body) else { return false };
    let mut skip_to = body.id();
    body.descendants().any(|node| {
        if node.id() < skip_to {
            return false;
        }
        if node.kind().is_function() {
            skip_to = node.end();
        }
        matches!(node.kind(), Kind::Yield | Kind::YieldFrom)
    })
}

/// Whether a function checks all that it is given, whatever its parameters say.
fn speaks_of_arguments(text: &Text, function: NodeRef<'_>) -> bool {
    function.descendants().any(|node| node.kind() == Kind::Name && text.slice(node.span()) == "arguments")
}

/// Whether a function has neither parameters nor statements: it stands for one that does something elsewhere.
fn does_nothing(function: NodeRef<'_>) -> bool {
    let is_empty = |part: NodeRef<'_>| part.children().next().is_none();
    let body = function.child(Role::Body).filter(|body| body.kind() == Kind::Block);
    body.is_some_and(is_empty) && function.child(Role::Parameters).is_none_or(is_empty)
}

/// Whether the comment directly above says `sieve: pure`.
fn is_marked_pure(text: &Text, function: NodeRef<'_>) -> bool {
    let tree = function.tree();
    let whole =
        function.parent().filter(|holder| matches!(holder.kind(), Kind::Export | Kind::Assignment | Kind::Declaration));
    let first = whole.map_or(function, outermost).token_range().start;
    let mut lines = 0;
    for token in (0..first).rev() {
        match tree.token_kind(token) {
            TokenKind::Comment => {
                let span: Span = tree.token_span(token);
                if text.slice(span).trim_start_matches(['#', '/', '*', ' ']).starts_with("sieve: pure") {
                    return true;
                }
                lines = 0;
            }
            TokenKind::LineEnd | TokenKind::Newline if lines < 1 => lines += 1,
            TokenKind::Blank | TokenKind::Indent | TokenKind::Dedent => {}
            _ => return false,
        }
    }
    false
}

fn outermost(node: NodeRef<'_>) -> NodeRef<'_> {
    let mut outer = node;
    while let Some(parent) = outer.parent().filter(|parent| matches!(parent.kind(), Kind::Export | Kind::Declaration)) {
        outer = parent;
    }
    outer
}
