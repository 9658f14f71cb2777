use sieve_meaning::names::{Declaration, Resolution};
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
    silent: "Results of other calls are not reported: they may be safe to share. Nor are defaults that the function only reads, \
             and those of functions that do nothing.",
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
    if only_declares(context, parameter) {
        return;
    }
    if is_only_read(context, parameter) {
        context.unsure(default.span(), "the function only reads what all calls share");
        return;
    }
    let edits = made_in_the_body(context, parameter, default, name);
    context
        .report(default.span(), format!("every call that leaves out \"{name}\" shares this {what}"))
        .advice("use None as the default, and create the value in the body")
        .fix_to_review(edits);
}

/// Whether the function says what others are to do, and does nothing itself.
fn only_declares(context: &Context, parameter: NodeRef) -> bool {
    let function = parameter.ancestors().find(|node| node.kind().is_function());
    let Some(body) = function.and_then(|function| function.child(Role::Body)) else { return false };
    let is_empty = |statement: NodeRef| match statement.kind() {
        Kind::Pass | Kind::Throw => true,
        Kind::ExpressionStatement => statement
            .child(Role::Value)
            .is_some_and(|value| matches!(value.kind(), Kind::String | Kind::EllipsisLiteral)),
        _ => context.text(statement).is_empty(),
    };
    body.kind() == Kind::Block && body.children().all(is_empty)
}

/// Methods of lists, dictionaries and sets that change nothing, and give nothing through which the collection could be changed.
const READERS: &[&str] =
    &["get", "keys", "values", "items", "copy", "index", "count", "union", "intersection", "difference"];

/// Functions that only look at what they are given, or copy it.
const LOOKING: &[&str] = &[
    "len",
    "list",
    "dict",
    "set",
    "tuple",
    "frozenset",
    "sorted",
    "enumerate",
    "zip",
    "sum",
    "min",
    "max",
    "any",
    "all",
    "isinstance",
    "str",
    "repr",
    "bool",
    "range",
    "map",
    "filter",
    "iter",
    "print",
    "reversed",
];

/// Whether nothing in the function can change the value, or keep it where others could.
fn is_only_read(context: &Context, parameter: NodeRef) -> bool {
    let names = context.names();
    let declares = |declaration: &Declaration| {
        declaration.node == parameter.id() || {
            parameter.child(Role::Name).is_some_and(|name| declaration.node == name.id())
        }
    };
    let function = parameter.ancestors().find(|node| node.kind().is_function());
    let Some((function, name)) = function.zip(parameter.child(Role::Name)) else { return false };
    let inside = names.references_in(function.id()..function.end());
    let mut used = inside.filter(|reference| names.text(reference.name) == context.text(name));
    used.all(|reference| match reference.resolution {
        Resolution::Binding(id) if names.binding(id).declarations.iter().any(declares) => {
            !reference.writes && reads(context, context.file().tree.node(reference.node))
        }
        _ => true,
    })
}

/// Whether a use of the collection only looks into it.
fn reads(context: &Context, name: NodeRef) -> bool {
    let Some(parent) = name.parent() else { return false };
    let is_callee = |names: &[&str], callee: NodeRef| names.contains(&context.text(callee));
    match (parent.kind(), name.role()) {
        (Kind::For | Kind::ComprehensionClause, Role::Iterable)
        | (Kind::Comparison | Kind::Unary | Kind::Logical, _)
        | (Kind::If | Kind::While | Kind::Conditional, Role::Condition)
        | (Kind::Spread, _) => true,
        (Kind::Subscript, Role::Object) => {
            parent.role() != Role::Target && !parent.parent().is_some_and(|holder| holder.kind() == Kind::Member)
        }
        (Kind::Member, Role::Object) => parent.child(Role::Name).is_some_and(|method| is_callee(READERS, method)),
        (Kind::Arguments, _) => {
            let callee = parent.parent().and_then(|call| call.child(Role::Callee));
            callee.is_some_and(|callee| is_callee(LOOKING, callee))
        }
        (Kind::Binary, _) => true,
        _ => false,
    }
}

/// None as the default, and the value at the head of the body, after its doc string. Only where the body has lines of its own
/// and the parameter's type, if it has one, need not change.
fn made_in_the_body(context: &Context, parameter: NodeRef, default: NodeRef, name: &str) -> Option<Vec<Edit>> {
    let function = parameter.ancestors().find(|node| node.kind().is_function())?;
    let body = function.child_of(Kind::Function, Role::Body)?;
    let has_other_meaning = context.text(body).contains(&format!("{name} is "));
    if parameter.child(Role::Type).is_some() || has_other_meaning || uses_a_parameter(context, function, default) {
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
