use sieve_meaning::declared::{only_value, written_type};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, PureMethods, Rule, Wrong};
use crate::measured::is_measured;
use crate::same::is_steady;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "ignored-result",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a call of a function without effects, whose result is ignored",
    why: "Such a function only returns a result, so the line does nothing. Most often the call was expected to change its object.",
    silent: "For methods of values whose type is neither written nor known from the only value, for functions of the project that no comment `sieve: pure` marks, wherever they are, and for those of other packages.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "# sieve: pure\ndef fare(day):\n    return 4\nfare(2)\n", at: &["4:1"], fixed: None },
                Wrong { code: "quays = [3, 1]\nsorted(quays)\n", at: &["2:1"], fixed: None },
                Wrong { code: "def head(name):\n    '-'.join(name)\n    return name\n", at: &["2:5"], fixed: None },
            ],
            right: &[
                "def measure(tides):\n    def run():\n        len(tides)\n    timer(run)\n",
                "# sieve: pure\ndef fare(day):\n    return 4\nprice = fare(2)\n",
                "try:\n    len(boats)\nexcept TypeError:\n    pass\n",
                "def fare(day):\n    return 4\nfare(2)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "// sieve: pure\nfunction fare(day) {\n  return 4;\n}\nfare(2);\n",
                    at: &["5:1"],
                    fixed: None,
                },
                Wrong { code: "Math.max(1, tide);\n", at: &["1:1"], fixed: None },
            ],
            right: &["// sieve: pure\nconst fare = (day) => 4;\nconst price = fare(2);\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    String head(String name) {\n        name.trim();\n        return name;\n    }\n}\n",
                at: &["3:9"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    String head(String name, Sail sail) {\n        sail.trim();\n        name.charAt(0);\n        return name.trim();\n    }\n\n    void late(String name) {\n        try {\n            name.trim();\n        } catch (NullPointerException none) {\n            warn();\n        }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    string Head(string name)\n    {\n        name.Replace(\"-\", \" \");\n        return name;\n    }\n}\n",
                at: &["5:9"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    string Head(string name, StringBuilder line)\n    {\n        line.Replace(\"-\", \" \");\n        return name.Replace(\"-\", \" \");\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quays\n\nimport \"strings\"\n\nfunc head(name string) string {\n\tstrings.TrimSpace(name)\n\treturn name\n}\n",
                at: &["6:2"],
                fixed: None,
            }],
            right: &[
                "package quays\n\nimport \"strings\"\n\nfunc head(name string) string {\n\tmoor(name)\n\treturn strings.TrimSpace(name)\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn fare(cents: u32, extra: u32) -> u32 {\n    cents.saturating_add(extra);\n    cents\n}\n",
                at: &["2:5"],
                fixed: None,
            }],
            right: &["fn fare(cents: u32, tide: &mut Tide) -> u32 {\n    tide.rotate_left(2);\n    cents.pow(2)\n}\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::ExpressionStatement], check),
};

/// Functions of Python that do nothing but give a result. Others like `len` and `list` may be called to go over what they are given, or to
/// ask whether they can.
const PURE: &[&str] = &[
    "abs",
    "enumerate",
    "filter",
    "isinstance",
    "issubclass",
    "len",
    "map",
    "max",
    "min",
    "reversed",
    "round",
    "sorted",
    "sum",
    "zip",
];

/// The functions of `Math` (ECMAScript 2025), which do nothing but give a result.
const OF_MATH: &str = " abs acos acosh asin asinh atan atan2 atanh cbrt ceil clz32 cos cosh exp expm1 f16round floor fround hypot imul log log10 log1p log2 max min pow random round sign sin sinh sqrt tan tanh trunc ";

/// So do these.
const PURE_MEMBERS: &[&str] =
    &["Object.keys", "Object.values", "Object.entries", "Array.isArray", "Number.isNaN", "Number.isInteger"];

/// What strings give that are made from others.
const OF_TEXT: &[&str] = &[
    "join",
    "format",
    "strip",
    "lstrip",
    "rstrip",
    "upper",
    "lower",
    "replace",
    "split",
    "title",
    "trim",
    "concat",
    "toUpperCase",
    "toLowerCase",
    "padStart",
    "padEnd",
    "slice",
    "repeat",
    "startswith",
    "endswith",
];

fn check(context: &mut Context, statement: NodeRef) {
    let Some(call) = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call) else { return };
    let Some(callee) = call.child(Role::Callee) else { return };
    if context.file().traits.has_written_types {
        return on_written_types(context, call, callee);
    }
    let name = context.text(callee);
    let known = context.file().calls.and_then(|calls| calls.callee(call)).filter(|callee| callee.is_pure);
    let is_pure = match callee.kind() {
        Kind::Name => context.names().is_builtin_at(callee.id()) && PURE.contains(&name),
        Kind::Member => {
            let object = callee.child(Role::Object);
            let on_text = object.is_some_and(|object| is_string(context, object));
            let method = callee.child(Role::Name).map_or("", |name| context.text(name));
            let of_platform = || context.file().outside(callee).is_some_and(|found| found.module.is_empty());
            let on_list = || object.is_some_and(|object| holds(context, object, &[Kind::List]));
            let of_math =
                || name.strip_prefix("Math.").is_some_and(|name| OF_MATH.split(' ').any(|known| known == name));
            on_text && OF_TEXT.contains(&method) && !takes_function(context, call)
                || method == "concat" && on_list()
                || method == "map" && gives_member(context, call)
                || (of_math() || PURE_MEMBERS.contains(&name)) && of_platform()
        }
        _ => false,
    };
    // Tests call such functions to see that they do no harm.
    if known.is_none() && (!is_pure || context.file().is_test()) || is_tried(call) || is_measured(context.file(), call)
    {
        return;
    }
    let advice =
        if known.is_some() { "use its result, or remove the call" } else { "use its result, or remove the line" };
    report(context, call, name, advice);
}

/// A longer name does not go into a message, in bytes.
const LONGEST: usize = 60;

fn report(context: &mut Context, call: NodeRef, name: &str, advice: &'static str) {
    // What a long string does has a name behind it.
    let name = if name.len() > LONGEST || name.contains('\n') { name.rsplit('.').next().unwrap_or(name) } else { name };
    context.report(call.span(), format!("{name} has no effect but its result, which is not used")).advice(advice);
}

/// Where declarations say of which type a variable is.
fn on_written_types(context: &mut Context, call: NodeRef, callee: NodeRef) {
    let file = context.file();
    let (Some(object), Some(name)) = (callee.child(Role::Object), callee.child(Role::Name)) else { return };
    let name = file.node_text(name);
    let is_method = |known: &PureMethods| {
        known.methods.contains(&name) || known.beginnings.iter().any(|beginning| name.starts_with(beginning))
    };
    let of_type = |known: &PureMethods| {
        let written = written_type(context.names(), object).filter(|_| object.kind() == Kind::Name);
        written.is_some_and(|written| known.types.contains(&file.node_text(written)))
    };
    let is_pure_method = file.traits.pure_methods.iter().any(|known| is_method(known) && of_type(known));
    let is_pure_function = || {
        let is_one = |(_, functions): &&(&str, &[&str])| functions.contains(&name);
        let known = file.traits.pure_functions.iter().find(is_one);
        known.is_some_and(|(module, _)| {
            file.outside(callee).is_some_and(|found| found.module == *module && found.path == [name])
        })
    };
    if (is_pure_method || is_pure_function()) && !file.is_test() && !is_tried(call) {
        report(context, call, file.node_text(callee), "use its result, or remove the line");
    }
}

/// Whether a call is given what may be a function, which may do anything.
fn takes_function(context: &Context, call: NodeRef) -> bool {
    let may_be = |argument: NodeRef| argument.kind() == Kind::Name && !context.file().traits.word_operators;
    let mut arguments = call.child(Role::Arguments).into_iter().flat_map(|arguments| arguments.children());
    arguments.any(|argument| argument.kind().is_function() || may_be(argument))
}

/// Whether an expression is a string: written out, or a variable that is given one and nothing else.
fn is_string(context: &Context, object: NodeRef) -> bool {
    matches!(object.kind(), Kind::String | Kind::FormatString)
        || holds(context, object, &[Kind::String, Kind::FormatString])
}

/// Whether a variable is given one value, of one of these kinds, or what makes a string of anything.
fn holds(context: &Context, object: NodeRef, kinds: &[Kind]) -> bool {
    if object.kind() != Kind::Name {
        return false;
    }
    let names = context.names();
    let makes_string = |value: NodeRef| {
        let callee =
            value.child(Role::Callee).filter(|callee| value.kind() == Kind::Call && callee.kind() == Kind::Name);
        callee
            .is_some_and(|callee| matches!(context.text(callee), "str" | "String") && names.is_builtin_at(callee.id()))
    };
    only_value(names, object)
        .is_some_and(|value| kinds.contains(&value.kind()) || kinds.contains(&Kind::String) && makes_string(value))
}

/// Whether a callback only reads a member of what it is given.
fn gives_member(context: &Context, call: NodeRef) -> bool {
    let mut arguments = call.child(Role::Arguments).into_iter().flat_map(|arguments| arguments.children());
    let (Some(callback), None) = (arguments.next(), arguments.next()) else { return false };
    let body =
        callback.child(Role::Body).filter(|_| callback.kind() == Kind::Lambda && !context.file().traits.word_operators);
    body.is_some_and(|body| body.kind() == Kind::Member && is_steady(body))
}

/// Whether errors are expected: the call may be there to raise one.
fn is_tried(call: NodeRef) -> bool {
    let mut inner = call;
    for around in call.ancestors().take_while(|around| !around.kind().is_function()) {
        if around.kind() == Kind::With || around.kind() == Kind::Try && inner.role() == Role::Body {
            return true;
        }
        inner = around;
    }
    false
}
