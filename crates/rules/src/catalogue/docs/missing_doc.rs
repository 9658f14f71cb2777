use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong};

const SORTS: &[&str] = &["module", "type", "function"];

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-doc",
    concern: Concern::Docs,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a public module, class or function without a description",
    why: "Who uses it has to read its code to learn what it promises.",
    silent: "Names that begin with an underscore, tests, overloads, setters and overriding methods need none.",
    standards: &["PEP 257"],
    options: &[OptionFacts {
        name: "of",
        default: OptionDefault::Choices(SORTS, SORTS),
        about: "what needs a description: module, type, function",
    }],
    wrong: &[
        Wrong { code: "\"\"\"Fares.\"\"\"\n\ndef fare(adult):\n    return adult\n", at: &["3:5"], fixed: None },
        Wrong {
            code: "class Quay:\n    \"\"\"A quay.\"\"\"\n    def low(self):\n        pass\n",
            at: &["1:1", "3:9"],
            fixed: None,
        },
    ],
    right: &[
        "\"\"\"Fares.\"\"\"\n\ndef fare(adult):\n    \"\"\"What an adult pays.\"\"\"\n    return adult\n",
        "\"\"\"Fares.\"\"\"\n\ndef _share():\n    def inner():\n        pass\n",
        "",
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::File, Kind::Class, Kind::Function], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let sort = match node.kind() {
        Kind::File => "module",
        Kind::Class => "type",
        _ => "function",
    };
    if !context.words("of").iter().any(|wanted| wanted == sort) || is_described(node) {
        return;
    }
    if node.kind() == Kind::File {
        return on_module(context, node);
    }
    let Some(name) = node.child(Role::Name) else { return };
    if !is_public(context, node) || is_exempt(context, node) {
        return;
    }
    let text = context.text(name);
    let what = if node.kind() == Kind::Class { "class" } else { "function" };
    context.report(name.span(), format!("the {what} \"{text}\" has no description")).advice("say what it promises");
}

fn on_module(context: &mut Context, file: NodeRef) {
    if file.children().next().is_none() || context.file().name().starts_with("test") {
        return;
    }
    let start = context.file().text.lines().line(context.file().text.source(), 1).start;
    // The finding belongs to the file, not to what happens to stand first in it.
    context
        .report(Span::at(start), "the module has no description")
        .advice("say what it is for")
        .anchor(Span::at(start));
}

/// Whether a text stands first in the body.
fn is_described(node: NodeRef) -> bool {
    let body = if node.kind() == Kind::File { Some(node) } else { node.child(Role::Body) };
    let first = body.and_then(|body| body.children().next()).filter(|first| first.kind() == Kind::ExpressionStatement);
    let value = first.and_then(|first| first.child(Role::Value));
    value.is_some_and(|value| matches!(value.kind(), Kind::String | Kind::Concatenation))
}

/// Whether nothing around it is private or a function.
fn is_public(context: &Context, node: NodeRef) -> bool {
    std::iter::once(node).chain(node.ancestors()).all(|around| {
        let private = around.child(Role::Name).is_some_and(|name| context.text(name).starts_with('_'));
        match around.kind() {
            Kind::Function if around != node => false,
            Kind::Function | Kind::Class => !private,
            _ => true,
        }
    })
}

fn is_exempt(context: &Context, node: NodeRef) -> bool {
    let name = node.child(Role::Name).map_or("", |name| context.text(name));
    let is_test = name.starts_with("test") || name.starts_with("Test");
    is_test
        || node.children_in(Role::Decorator).any(|decorator| {
            let text = context.text(decorator);
            [".setter", ".deleter", "overload", "override"].iter().any(|ending| text.ends_with(ending))
        })
}
