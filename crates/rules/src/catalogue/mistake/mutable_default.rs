use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "mutable-default",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: Some(FixKind::Review),
    what: "a parameter whose default is one list, dictionary or set for all calls",
    why: "A default is created once, with the function. What one call adds to it, every later call finds there.",
    silent: "Results of other calls are not reported: they may be safe to share.",
    standards: &["The Python Language Reference 3.14, section 8.7"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong {
                code: "def book(seats=[]):\n    seats.append(1)\n",
                at: &["1:16"],
                fixed: Some("def book(seats=None):\n    if seats is None:\n        seats = []\n    seats.append(1)\n"),
            },
            Wrong { code: "def book(seats=[seats]):\n    return seats\n", at: &["1:16"], fixed: None },
            Wrong {
                code: "def book(*, seats=dict()):\n    return seats\n",
                at: &["1:19"],
                fixed: Some(
                    "def book(*, seats=None):\n    if seats is None:\n        seats = dict()\n    return seats\n",
                ),
            },
            Wrong { code: "book = lambda seats={}: seats\n", at: &["1:21"], fixed: None },
        ],
        right: &[
            "def book(seats=None, quay=(), fares=frozenset()):\n    return seats or []\n",
            "def list():\n    return ()\n\ndef book(seats=list()):\n    return seats\n",
        ],
    }],
    needs_names: true,
    check: Check::Nodes(&[Kind::Parameter], check),
};

fn check(context: &mut Context, parameter: NodeRef) {
    let Some(default) = parameter.child(Role::Default) else { return };
    let Some(what) = mutable(context, default) else { return };
    let name = parameter.child(Role::Name).map_or("", |name| context.text(name));
    let edits = made_in_the_body(context, parameter, default, name);
    context
        .report(default.span(), format!("every call that leaves out \"{name}\" shares this {what}"))
        .advice("use None as the default, and create the value in the body")
        .fix_to_review(edits);
}

/// None as the default, and the value at the head of the body, after its doc string. Only where the body has lines of its own
/// and the parameter's type, if it has one, need not change.
fn made_in_the_body(context: &Context, parameter: NodeRef, default: NodeRef, name: &str) -> Option<Vec<Edit>> {
    let function = parameter.ancestors().find(|node| node.kind().is_function())?;
    let body = function.child(Role::Body).filter(|_| function.kind() == Kind::Function)?;
    if parameter.child(Role::Type).is_some() || uses_a_parameter(context, function, default) {
        return None;
    }
    let mut statements = body.children();
    let first = statements.next()?;
    let is_doc = first.kind() == Kind::ExpressionStatement
        && first.children().next().is_some_and(|value| value.kind() == Kind::String);
    let before = if is_doc { statements.next()? } else { first };
    let text = context.file().text;
    let line = text.lines().line(text.source(), context.line(before.span().start));
    let indent = text.slice(Span::new(line.start, before.span().start));
    if !indent.trim().is_empty() || context.line(function.span().start) == context.line(first.span().start) {
        return None;
    }
    let end = text.lines().ending(text.source()).as_str();
    let step = if indent.starts_with('\t') { "\t" } else { "    " };
    let value = context.text(default);
    let made = format!("{indent}if {name} is None:{end}{indent}{step}{name} = {value}{end}");
    Some(vec![Edit::replace(default.span(), "None"), Edit::insert(line.start, made)])
}

/// Whether a default mentions a name that means something else in the body.
fn uses_a_parameter(context: &Context, function: NodeRef, default: NodeRef) -> bool {
    let mut inside = std::iter::once(default).chain(default.descendants());
    // Most defaults are empty, and hold no name.
    if !inside.any(|node| node.kind() == Kind::Name) {
        return false;
    }
    let Some(parameters) = function.child(Role::Parameters) else { return true };
    let named = |parameter: NodeRef| parameter.child(Role::Name).map(|name| context.text(name));
    let names: Vec<&str> = parameters.children().filter_map(named).collect();
    let mut inside = std::iter::once(default).chain(default.descendants());
    inside.any(|node| node.kind() == Kind::Name && names.contains(&context.text(node)))
}

fn mutable(context: &Context, value: NodeRef) -> Option<&'static str> {
    match value.kind() {
        Kind::List => Some("list"),
        Kind::Dictionary => Some("dictionary"),
        Kind::Set => Some("set"),
        Kind::Comprehension => match value.first_token_kind() {
            TokenKind::BracketOpen => Some("list"),
            TokenKind::BraceOpen => Some("collection"),
            _ => None,
        },
        Kind::Call => {
            let callee = value.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name)?;
            let builtin = context.names().is_builtin_at(callee.id());
            match context.text(callee) {
                "list" if builtin => Some("list"),
                "dict" if builtin => Some("dictionary"),
                "set" if builtin => Some("set"),
                "bytearray" if builtin => Some("byte array"),
                _ => None,
            }
        }
        _ => None,
    }
}
