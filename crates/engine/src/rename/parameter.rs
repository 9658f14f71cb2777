//! Arguments that are given to a parameter by its name.

use sieve_meaning::doc_comment::{doc_comment, documented_parameters};
use sieve_meaning::names::{BindingId, DeclarationKind, Resolution};
use sieve_rules::Edit;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::import::origin;
use super::source::{Sources, View};
use super::{CannotRename, Edits, Renamed};

/// Renames the keywords with which calls give a parameter. Refuses where it is not known what a call runs.
pub(super) fn keywords(
    sources: &Sources,
    views: &[View<'_>],
    (home, id): (usize, BindingId),
    old: &str,
    new: &str,
    edits: &mut Edits,
) -> Renamed<()> {
    let view = &views[home];
    let node = view.names.binding(id).declarations.first().map(|declaration| view.file.tree.node(declaration.node));
    let function = node.and_then(|node| node.ancestors().find(|around| around.kind().is_function()));
    let Some(function) = function else { return Ok(()) };
    let called = function.child(Role::Name);
    let parameter = node.and_then(|node| node.ancestors().find(|around| around.kind() == Kind::Parameter));
    let Some(parameter) = parameter.filter(|parameter| takes_keyword(view, function, *parameter)) else {
        return Ok(());
    };
    let catches_all = function
        .child(Role::Parameters)
        .is_some_and(|all| all.children().any(|other| other != parameter && view.file.slice(other).starts_with("**")));
    for (file, other) in views.iter().enumerate() {
        for keyword in other.file.tree.nodes_of(Kind::KeywordArgument) {
            let name = keyword.child(Role::Name).filter(|name| {
                let word = other.file.slice(*name);
                word == old || word == new && catches_all
            });
            let Some(name) = name else { continue };
            let unknown = || {
                let message = format!("it is not known whether this gives the parameter \"{old}\" its value");
                Err(CannotRename::Refused(message, vec![other.file.place(keyword.span())]))
            };
            let call = keyword.ancestors().find(|around| around.kind() == Kind::Call);
            let Some(callee) = call.and_then(|call| call.child(Role::Callee)) else {
                // A keyword of a class goes to methods that the language calls.
                if called.is_some_and(|name| view.file.slice(name).starts_with("__")) {
                    return unknown();
                }
                continue;
            };
            match runs(sources, views, file, callee, (home, called)) {
                Some(true) if other.file.slice(name) == new => {
                    let message = format!("\"{new}\" is one of the other keywords that the function takes here");
                    return Err(CannotRename::Refused(message, vec![other.file.place(keyword.span())]));
                }
                Some(true) => edits[file].push(Edit::replace(name.span(), new)),
                _ if other.file.slice(name) == new => {}
                Some(false) if !passes_on(sources, views, file, call, (home, called)) => {}
                _ => return unknown(),
            }
        }
    }
    unpacked(sources, views, (home, called), old)
}

/// Renames a parameter in the doc comment of its function. The docstring of a class documents the parameters of `__init__` too.
pub(super) fn documented((home, id): (usize, BindingId), views: &[View<'_>], old: &str, new: &str, edits: &mut Edits) {
    let view = &views[home];
    let node = view.names.binding(id).declarations.first().map(|declaration| view.file.tree.node(declaration.node));
    let Some(function) = node.and_then(|node| node.ancestors().find(|around| around.kind().is_function())) else {
        return;
    };
    let is_init = function.child(Role::Name).is_some_and(|name| view.file.slice(name) == "__init__");
    let class = function.class_around().filter(|_| is_init);
    let (language, text) = (view.file.language, &view.file.text);
    for comment in [Some(function), class].into_iter().flatten().filter_map(|node| doc_comment(language, text, node)) {
        let of_parameter = documented_parameters(language, text, comment).into_iter().map(|one| one.name);
        edits[home].extend(of_parameter.filter(|name| text.slice(*name) == old).map(|name| Edit::replace(name, new)));
    }
}

/// Whether a parameter can be given by its name: it is none of several, and does not are before a slash.
fn takes_keyword(view: &View<'_>, function: NodeRef<'_>, parameter: NodeRef<'_>) -> bool {
    let Some(all) = function.child(Role::Parameters) else { return false };
    let tree = all.tree();
    let slash = all.token_range().find(|token| tree.token_kind(*token) == TokenKind::Slash);
    let is_positional = slash.is_some_and(|slash| parameter.token_range().end <= slash);
    !view.file.slice(parameter).starts_with('*') && !is_positional
}

/// Whether a call is given the function, to call it with these keywords: `partial(sell, seats=1)`.
fn passes_on(
    sources: &Sources,
    views: &[View<'_>],
    file: usize,
    call: Option<NodeRef<'_>>,
    function: (usize, Option<NodeRef<'_>>),
) -> bool {
    let arguments = call.and_then(|call| call.child(Role::Arguments));
    arguments.is_some_and(|arguments| {
        let mut values = arguments.children().filter(|argument| matches!(argument.kind(), Kind::Name | Kind::Member));
        values.any(|argument| runs(sources, views, file, argument, function) == Some(true))
    })
}

/// Refuses where a call of the function unpacks a dictionary that may hold the keyword.
fn unpacked(sources: &Sources, views: &[View<'_>], function: (usize, Option<NodeRef<'_>>), old: &str) -> Renamed<()> {
    for (file, view) in views.iter().enumerate() {
        for call in view.file.tree.nodes_of(Kind::Call) {
            let spread = call
                .child(Role::Arguments)
                .and_then(|all| all.children().find(|one| view.file.slice(*one).starts_with("**")));
            let (Some(spread), Some(callee)) = (spread, call.child(Role::Callee)) else { continue };
            let is_run = runs(sources, views, file, callee, function);
            if is_run.unwrap_or_else(|| may_run(views, view, callee, function)) {
                let message = format!("the dictionary that is unpacked here may hold \"{old}\"");
                return Err(CannotRename::Refused(message, vec![view.file.place(spread.span())]));
            }
        }
    }
    Ok(())
}

/// Whether an unknown callee has the name of the function, or that of what calls a constructor.
fn may_run(views: &[View<'_>], view: &View<'_>, callee: NodeRef<'_>, function: (usize, Option<NodeRef<'_>>)) -> bool {
    let Some(called) = function.1 else { return false };
    let name = views[function.0].file.slice(called);
    let last = view.file.slice(callee.child(Role::Name).unwrap_or(callee));
    last == name || name == "__init__" && is_class_name(&views[function.0], called, last)
}

/// Whether a word is the name of the class that a method belongs to, or may be that of a class below it.
fn is_class_name(view: &View<'_>, method: NodeRef<'_>, word: &str) -> bool {
    let class = method.ancestors().find(|around| around.kind() == Kind::Class);
    let name = class.and_then(|class| class.child(Role::Name));
    let is_own = matches!(word, "cls" | "__class__") || name.is_some_and(|name| view.file.slice(name) == word);
    is_own || word.starts_with(char::is_uppercase)
}

/// Whether an expression represents a function; nothing where that is not known.
fn runs(
    sources: &Sources,
    views: &[View<'_>],
    file: usize,
    callee: NodeRef<'_>,
    (home, called): (usize, Option<NodeRef<'_>>),
) -> Option<bool> {
    let Some(called) = called else { return None };
    let view = &views[file];
    let text = views[home].file.slice(called);
    let is_method = called
        .parent()
        .and_then(NodeRef::parent)
        .and_then(NodeRef::parent)
        .is_some_and(|class| class.kind() == Kind::Class);
    let target = match callee.kind() {
        Kind::Name => match view.names.resolution_at(callee.id())? {
            Resolution::Binding(id) => origin(sources, views, file, id).or(Some((file, id))),
            Resolution::Builtin => return Some(false),
            _ => return None,
        },
        Kind::Member => {
            let name = callee.child(Role::Name)?;
            match super::import::through_module(sources, views, file, name) {
                Some(found) => Some(found),
                // `__call__` runs under any name, and so do other methods that the language calls by itself.
                None if text.starts_with("__") && text.ends_with("__") && text != "__init__" => return None,
                // A method of another name is another method; `__init__` is called by the name of its class.
                None if view.file.slice(name) != text
                    && !(text == "__init__" && is_class_name(&views[home], called, view.file.slice(name))) =>
                {
                    return Some(false);
                }
                None => return None,
            }
        }
        _ => return None,
    };
    let (at, id) = target?;
    let declarations = &views[at].names.binding(id).declarations;
    let [only] = declarations.as_slice() else { return None };
    match only.kind {
        DeclarationKind::Function => Some(at == home && only.node == called.id()),
        DeclarationKind::Class if !is_method || text != "__init__" => Some(false),
        DeclarationKind::Class => {
            let class = called.ancestors().find(|around| around.kind() == Kind::Class)?;
            let is_it = at == home && class.child(Role::Name).is_some_and(|name| name.id() == only.node);
            if is_it { Some(true) } else { None }
        }
        // What is imported from outside is no function of the project.
        DeclarationKind::Import => Some(false),
        _ => None,
    }
}
