use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::inside::{inside, runs_apart};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "special-method",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: None,
    what: "a special method that Python cannot call as it is written",
    why: "Python calls it with arguments of its own choice, and fails, or with a result that it does not take.",
    silent: "For methods that take any arguments, for decorated ones, and for nested functions.",
    standards: &["The Python Language Reference 3.14, section 3.3"],
    options: &[],
    examples: &[Examples {
        language: Language::Python,
        wrong: &[
            Wrong { code: "class Boat:\n    def __init__(self):\n        return 3\n", at: &["3:9"], fixed: None },
            Wrong { code: "class Lock:\n    def __exit__(self):\n        pass\n", at: &["2:9"], fixed: None },
            Wrong { code: "class Boat:\n    def __eq__(self):\n        return True\n", at: &["2:9"], fixed: None },
            Wrong { code: "class Boat:\n    def __len__(self, of):\n        return 3\n", at: &["2:9"], fixed: None },
        ],
        right: &[
            "class Boat:\n    def __init__(self):\n        return None\n\n    def __exit__(self, *error):\n        pass\n\n    def __eq__(self, other):\n        return True\n\n    def __call__(self, a, b, c):\n        return 3\n",
        ],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Function], check),
};

/// How many arguments Python gives, without the object.
const GIVEN: &[(&[&str], usize)] = &[
    (
        &[
            "__len__",
            "__repr__",
            "__str__",
            "__bool__",
            "__hash__",
            "__iter__",
            "__next__",
            "__enter__",
            "__int__",
            "__float__",
            "__bytes__",
            "__reversed__",
            "__neg__",
            "__abs__",
            "__invert__",
            "__aenter__",
            "__aiter__",
            "__anext__",
            "__del__",
            "__index__",
        ],
        0,
    ),
    (
        &[
            "__eq__",
            "__ne__",
            "__lt__",
            "__le__",
            "__gt__",
            "__ge__",
            "__add__",
            "__sub__",
            "__mul__",
            "__truediv__",
            "__floordiv__",
            "__mod__",
            "__and__",
            "__or__",
            "__xor__",
            "__contains__",
            "__getitem__",
            "__delitem__",
            "__getattr__",
            "__getattribute__",
            "__delattr__",
            "__radd__",
            "__iadd__",
            "__format__",
            "__matmul__",
        ],
        1,
    ),
    (&["__setitem__", "__setattr__", "__set__"], 2),
    (&["__exit__", "__aexit__"], 3),
];

fn check(context: &mut Context, function: NodeRef) {
    let Some(name) = function.child(Role::Name) else { return };
    let text = context.text(name);
    if !text.starts_with("__")
        || function.class_around().is_none_or(|class| class.child(Role::Body) != function.parent())
    {
        return;
    }
    if text == "__init__" {
        return on_constructor(context, function);
    }
    let Some((_, given)) = GIVEN.iter().find(|(names, _)| names.contains(&text)) else { return };
    let Some(parameters) = function.child(Role::Parameters) else { return };
    // Interfaces of some libraries leave the object out.
    let first =
        parameters.child(Role::Parameter).and_then(|first| first.child(Role::Name)).map(|name| context.text(name));
    if first.is_some_and(|first| !matches!(first, "self" | "cls" | "this" | "_self" | "s")) {
        return;
    }
    if function.children_in(Role::Decorator).next().is_some() {
        return;
    }
    let (mut least, mut most) = (0, 0);
    for parameter in parameters.children_in(Role::Parameter) {
        let written = context.text(parameter);
        if written.starts_with('*') {
            return;
        }
        if written != "/" {
            most += 1;
            least += usize::from(parameter.child(Role::Default).is_none());
        }
    }
    // One is the object.
    let wanted = given + 1;
    if most > 0 && !(least..=most).contains(&wanted) {
        let of = |count: usize| if count == 1 { "1 argument".to_string() } else { format!("{count} arguments") };
        context
            .report(name.span(), format!("Python calls {text} with {} besides the object", of(*given)))
            .advice("let it take them");
    }
}

/// What makes an object must not return another one.
fn on_constructor(context: &mut Context, function: NodeRef) {
    let Some(body) = function.child(Role::Body) else { return };
    // A call may give None.
    let may_be_none = |value: NodeRef| {
        matches!(value.kind(), Kind::Null | Kind::Call | Kind::Await | Kind::Conditional | Kind::Logical)
    };
    for node in inside(body, runs_apart).filter(|node| node.kind() == Kind::Return) {
        if node.child(Role::Value).is_some_and(|value| !may_be_none(value)) {
            context.report(node.span(), "__init__ must not return a value").advice("leave the value out");
        }
    }
}
