use sieve_meaning::project::words_before;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::{inside, runs_apart};
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-return",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx],
    fix: None,
    what: "a getter or a callback that never returns a value",
    why: "Whoever asks gets undefined: an expression stands where its result was to be returned.",
    silent: "For functions that throw, that are empty, and for arrows without braces.",
    standards: &[],
    options: &[],
    examples: &[Examples {
        language: Language::JavaScript,
        wrong: &[
            Wrong { code: "class Boat {\n  get name() {\n    this.known;\n  }\n}\n", at: &["2:7"], fixed: None },
            Wrong { code: "boats.map((boat) => {\n  boat.name;\n});\n", at: &["1:11"], fixed: None },
            Wrong { code: "boats.filter(function (boat) {\n  boat.late === true;\n});\n", at: &["1:14"], fixed: None },
        ],
        right: &[
            "class Boat {\n  get name() {\n    throw new Error(\"no name\");\n  }\n}\n",
            "boats.map((boat) => {\n  return boat.name;\n});\nboats.map((boat) => boat.name);\nboats.map(() => {});\nboats.forEach((boat) => {\n  boat.moor();\n});\nquery.find((boat) => {\n  show(boat);\n});\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function, Kind::Lambda], check),
};

/// Methods that take what their callback returns.
const TAKE: &[&str] = &["map", "filter", "some", "every", "findIndex", "reduce", "reduceRight", "flatMap", "sort"];

fn check(context: &mut Context, function: NodeRef) {
    let file = context.file();
    let Some(body) =
        function.child(Role::Body).filter(|body| body.kind() == Kind::Block && body.children().next().is_some())
    else {
        return;
    };
    let head = if is_getter(file, function) {
        function.child(Role::Name).map_or(function.span(), |name| name.span())
    } else if taken_by(file, function) {
        Span::at(function.span().start)
    } else {
        return;
    };
    // What does something may be there for that.
    let acts = |node: NodeRef| {
        matches!(
            node.kind(),
            Kind::Call
                | Kind::Assignment
                | Kind::CompoundAssignment
                | Kind::Update
                | Kind::New
                | Kind::Await
                | Kind::Yield
                | Kind::TaggedTemplate
        )
    };
    if body.last_child().is_some_and(|last| last.descendants().any(acts)) {
        return;
    }
    let is_generator = || file.text.slice(Span::new(function.span().start, body.span().start)).contains('*');
    if gives(body) || is_generator() {
        return;
    }
    context
        .report(head, "this function never returns a value, which is what it is called for")
        .advice("return the value");
}

fn is_getter(file: File<'_>, function: NodeRef) -> bool {
    function.kind() == Kind::Function && words_before(file.text, function).last() == Some(&"get")
}

/// Whether a method that takes what it returns is given the function; each of its statements is an expression, none of which calls.
fn taken_by(file: File<'_>, function: NodeRef) -> bool {
    let call = function
        .parent()
        .filter(|arguments| arguments.kind() == Kind::Arguments)
        .and_then(|arguments| arguments.parent());
    let is_first = function.previous_sibling().is_none();
    let callee =
        call.and_then(|call| call.child(Role::Callee)).filter(|callee| is_first && callee.kind() == Kind::Member);
    let takes =
        callee.and_then(|callee| callee.child(Role::Name)).is_some_and(|name| TAKE.contains(&file.node_text(name)));
    let is_bare = |statement: NodeRef| {
        statement.kind() == Kind::ExpressionStatement
            && statement.child(Role::Value).is_some_and(|value| {
                matches!(
                    value.kind(),
                    Kind::Member | Kind::Comparison | Kind::Binary | Kind::Logical | Kind::Name | Kind::Unary
                )
            })
    };
    // A callback that does something else may be there for that.
    takes && function.child(Role::Body).and_then(|body| body.last_child()).is_some_and(is_bare)
}

/// Whether something is returned or thrown.
fn gives(body: NodeRef) -> bool {
    inside(body, runs_apart).any(|node| match node.kind() {
        Kind::Return => node.child(Role::Value).is_some(),
        Kind::Throw => true,
        _ => false,
    })
}
