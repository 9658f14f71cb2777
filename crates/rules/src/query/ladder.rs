//! The other way round: from a piece of code to queries that match it, from general to exact.

use sieve_syntax::tree::{Kind, NodeRef, Role};

use super::syntax::quoted;
use crate::interface::File;

/// Longer code than this is not compared with: no one would want to read it in a query.
const LONGEST: usize = 60;

/// The node that somebody means who points at one: the statement or call that it is in, not its words.
pub(super) fn meant(innermost: NodeRef<'_>) -> NodeRef<'_> {
    let mut node = innermost;
    while is_word(node) {
        let Some(around) = node.parent() else { break };
        node = around;
    }
    // What only surrounds one expression is not what is meant.
    let holds_one = |node: NodeRef<'_>| {
        matches!(node.kind(), Kind::ExpressionStatement | Kind::Export | Kind::Declaration)
            && node.children().nth(1).is_none()
    };
    while let Some(inner) = node.children().next().filter(|_| holds_one(node)) {
        node = inner;
    }
    node
}

/// Whether a node is a part of what people see as one thing.
fn is_word(node: NodeRef<'_>) -> bool {
    let in_what_is_called = node.role() == Role::Callee || node.role() == Role::Name || node.role() == Role::Object;
    in_what_is_called
        || matches!(
            node.kind(),
            Kind::Name
                | Kind::TagName
                | Kind::Arguments
                | Kind::Parameters
                | Kind::ImportItem
                | Kind::ImportDefault
                | Kind::StartTag
                | Kind::EndTag
                | Kind::Block
        )
        || node.children().next().is_none() && node.role() != Role::Statement
}

/// The queries, each more exact than the one before.
pub(super) fn ladder(file: File<'_>, node: NodeRef<'_>) -> Vec<String> {
    let kind = node.kind().name();
    let mut queries = vec![kind.to_string()];
    let (main, exact) = conditions(file, node);
    let with = |conditions: &[String]| match conditions {
        [] => kind.to_string(),
        conditions => format!("{kind} {{ {} }}", conditions.join(", ")),
    };
    for count in 1..=main.len() {
        queries.push(with(&main[..count]));
    }
    if !exact.is_empty() {
        queries.push(with(&exact));
    }
    let last = queries.last().cloned().unwrap_or_default();
    let around = node.ancestors().find(|around| matches!(around.kind(), Kind::Function | Kind::Class | Kind::Lambda));
    if let Some(around) = around {
        queries.push(format!("{last} inside {}", around.kind().name()));
    }
    if let Some((folder, _)) = file.path.rsplit_once('/') {
        queries.push(format!("{last} inside file {{ path like {} }}", quoted(&format!("{folder}/**"))));
    }
    queries.dedup();
    queries
}

/// What says which node of its kind one is: in general, and exactly.
fn conditions(file: File<'_>, node: NodeRef<'_>) -> (Vec<String>, Vec<String>) {
    let is = |path: &str, part: Option<NodeRef<'_>>| {
        let text =
            part.map(|part| file.node_text(part)).filter(|text| text.len() <= LONGEST && !text.contains('\n'))?;
        Some(format!("{path} is {}", quoted(text)))
    };
    let part = |role| node.child(role);
    let count = |role: Role, container: Role| {
        let all = part(container).map_or(0, |container| container.children_in(role).count());
        format!("count({}) = {all}", role.name())
    };
    let mut main = Vec::new();
    let mut exact = Vec::new();
    match node.kind() {
        Kind::Call | Kind::New => {
            let callee = part(Role::Callee);
            let name = callee.and_then(|callee| callee.child(Role::Name)).or(callee);
            main.extend(is("callee.name", name));
            let refers =
                callee.and_then(|callee| file.refers(callee)).map(|found| format!("callee refers {}", quoted(&found)));
            exact.extend(refers.or_else(|| is("callee", callee)).or_else(|| main.first().cloned()));
            exact.push(count(Role::Argument, Role::Arguments));
        }
        Kind::Function => {
            main.extend(is("name", part(Role::Name)));
            exact.extend(main.iter().cloned().chain([count(Role::Parameter, Role::Parameters)]));
        }
        Kind::Class => {
            main.extend(is("name", part(Role::Name)));
            let base = part(Role::Arguments).and_then(|bases| bases.children().next());
            exact.extend(main.iter().cloned().chain(is("argument", base)));
        }
        Kind::Import => {
            main.extend(is("module", part(Role::Module)));
            let item = part(Role::Item);
            let named = item.and_then(|item| item.child(Role::Name).or_else(|| item.child(Role::Module)));
            let path =
                if item.is_some_and(|item| item.child(Role::Name).is_some()) { "item.name" } else { "item.module" };
            exact.extend(main.iter().cloned().chain(is(path, named)));
        }
        Kind::Element => {
            let start = part(Role::Start);
            main.extend(is("tag", start.and_then(|start| start.child(Role::Name))));
            let attribute = start.and_then(|start| start.child(Role::Attribute)).and_then(|one| one.child(Role::Name));
            exact.extend(main.iter().cloned().chain(is("attribute.name", attribute)));
        }
        _ => {
            let roles =
                [Role::Callee, Role::Name, Role::Target, Role::Exception, Role::Condition, Role::Iterable, Role::Value];
            main.extend(roles.iter().filter_map(|role| is(role.name(), part(*role))).take(2));
        }
    }
    if exact == main {
        exact.clear();
    }
    (main, exact)
}
