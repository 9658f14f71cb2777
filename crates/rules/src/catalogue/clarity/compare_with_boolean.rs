use sieve_meaning::declared::written_type;
use sieve_meaning::names::Resolution;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::same::operator_between;

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "compare-with-boolean",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: Some(FixKind::Review),
    what: "conditions compared with true or false",
    why: "A condition is true or false already. The comparison adds nothing, and accepts other values than the plain condition does.",
    silent: "Outside of conditions, where the comparison may mean something else. For a comparison that also checks the type, such as `===`, and in tests.",
    standards: &["PEP 8, Programming Recommendations"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "if tide == True:\n    sail()\n", at: &["1:4"], fixed: None },
                Wrong {
                    code: "def sail(tide: bool):\n    while tide == False:\n        wait()\n",
                    at: &["2:11"],
                    fixed: Some("def sail(tide: bool):\n    while not tide:\n        wait()\n"),
                },
                Wrong {
                    code: "high = depth > 3\nif high != True:\n    sail()\n",
                    at: &["2:4"],
                    fixed: Some("high = depth > 3\nif not high:\n    sail()\n"),
                },
                Wrong {
                    code: "if low or name.startswith('q') == True:\n    sail()\n",
                    at: &["1:11"],
                    fixed: Some("if low or name.startswith('q'):\n    sail()\n"),
                },
            ],
            right: &["query.where(boats.free == True)\n", "if tide is True: pass\n", "if x == 1: pass\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (tide == true) sail();\n", at: &["1:5"], fixed: None },
                Wrong {
                    code: "const tide = !low;\nif (tide != true) sail();\n",
                    at: &["2:5"],
                    fixed: Some("const tide = !low;\nif (!tide) sail();\n"),
                },
                Wrong {
                    code: "let tide = false;\ntide = load();\nif (tide == true) sail();\n",
                    at: &["3:5"],
                    fixed: None,
                },
            ],
            right: &["if (tide === true) sail();\nconst x = tide == true;\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nfunc sail(low bool) {\n\tif low == true {\n\t\twait()\n\t}\n}\n",
                at: &["4:5"],
                fixed: Some("package quay\n\nfunc sail(low bool) {\n\tif low {\n\t\twait()\n\t}\n}\n"),
            }],
            right: &["package quay\n\nfunc sail(low, true bool) {\n\tif low == true {\n\t\twait()\n\t}\n}\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail(low: bool) {\n    if low == true {\n        hold();\n    }\n}\n",
                at: &["2:8"],
                fixed: Some("fn sail(low: bool) {\n    if low {\n        hold();\n    }\n}\n"),
            }],
            right: &["fn sail(low: bool) {\n    if !low {\n        go();\n    }\n}\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail(boolean low) {\n        if (low == true) hold();\n    }\n}\n",
                at: &["3:13"],
                fixed: Some("class Quay {\n    void sail(boolean low) {\n        if (low) hold();\n    }\n}\n"),
            }],
            right: &["class Quay {\n    void sail(boolean low) {\n        if (low) hold();\n    }\n}\n"],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay {\n    void Sail(bool low) {\n        if (low == true) Hold();\n    }\n}\n",
                at: &["3:13"],
                fixed: Some("class Quay {\n    void Sail(bool low) {\n        if (low) Hold();\n    }\n}\n"),
            }],
            right: &[
                "class Quay {\n    void Sail(bool low) {\n        if (low) Hold();\n    }\n}\n",
                "class Quay {\n    void Sail(Boat boat) {\n        if (boat?.IsLow == true) Hold();\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    let file = context.file();
    let mut operands = comparison.children_in(Role::Operand);
    let (Some(left), Some(right), None) = (operands.next(), operands.next(), operands.next()) else { return };
    if !is_literal(context, right) || !asks_truth(comparison) || file.is_test() {
        return;
    }
    let equal = match operator_between(file, left, right) {
        Some((TokenKind::Equal, _)) => true,
        Some((TokenKind::NotEqual, _)) => false,
        _ => return,
    };
    let is_true = matches!(file.node_text(right), "True" | "true");
    let text = file.node_text(left);
    let is_single = matches!(left.kind(), Kind::Name | Kind::Member | Kind::Call | Kind::Subscript | Kind::Group);
    let plain = match (equal == is_true, file.traits.word_operators, is_single) {
        (true, _, _) => text.to_string(),
        (false, true, true) => format!("not {text}"),
        (false, true, false) => format!("not ({text})"),
        (false, false, true) => format!("!{text}"),
        (false, false, false) => format!("!({text})"),
    };
    // Another value is unequal to both, but true or false as a condition; one that may be absent cannot be one.
    let is_boolean = is_boolean(context, left);
    if file.traits.absent_booleans && !is_boolean {
        return;
    }
    let edits = is_boolean.then(|| vec![Edit::replace(comparison.span(), plain)]);
    context
        .report(comparison.span(), format!("a condition is compared with \"{}\"", file.node_text(right)))
        .advice("use the condition itself if it is always true or false")
        .fix_to_review(edits);
}

/// Whether an expression is true or false as it is written: a word of its own, or a name that the language gives.
fn is_literal(context: &Context, node: NodeRef) -> bool {
    let is_given = || matches!(context.text(node), "true" | "false") && context.names().is_builtin_at(node.id());
    node.kind() == Kind::Boolean || node.kind() == Kind::Name && is_given()
}

/// Whether an expression is known to be a boolean: by its operator, by the function that gives it, or by the type or the only value of
/// its variable.
fn is_boolean(context: &Context, node: NodeRef) -> bool {
    let file = context.file();
    match node.kind() {
        Kind::Boolean | Kind::Comparison => true,
        Kind::Group => node.children().next().is_some_and(|inner| is_boolean(context, inner)),
        Kind::Unary => matches!(node.first_token_kind(), TokenKind::Not | TokenKind::Exclamation),
        Kind::Call => {
            let callee = node.child(Role::Callee).map_or("", |callee| file.node_text(callee));
            GIVE_BOOLEANS.contains(&callee.rsplit('.').next().unwrap_or_default())
        }
        Kind::Name => {
            let names = context.names();
            let Some(Resolution::Binding(id)) = names.resolution_at(node.id()) else { return false };
            let binding = names.binding(id);
            let [only] = binding.declarations.as_slice() else { return false };
            let declared = file.tree.node(only.node);
            let holder = if declared.kind() == Kind::Parameter { Some(declared) } else { declared.parent() };
            let of_type = written_type(names, node).map(|of_type| file.node_text(of_type));
            // A value in place of a missing argument says nothing of the others.
            let value = holder.filter(|holder| holder.kind() != Kind::Parameter && binding.writes == 0);
            let value = value.and_then(|holder| holder.child(Role::Value));
            matches!(of_type, Some("bool" | "boolean"))
                || value.is_some_and(|value| value.kind() != Kind::Name && is_boolean(context, value))
        }
        _ => false,
    }
}

/// Functions of the languages and their libraries that give true or false, under names that say so.
const GIVE_BOOLEANS: &[&str] = &[
    "bool",
    "Boolean",
    "isinstance",
    "issubclass",
    "callable",
    "hasattr",
    "startswith",
    "endswith",
    "startsWith",
    "endsWith",
    "isdigit",
    "isalpha",
    "isArray",
    "isInteger",
    "isNaN",
    "hasOwnProperty",
    "is_file",
    "is_dir",
    "isfile",
    "isdir",
];

/// Whether the place asks whether something holds, directly or through `and`, `or` and `not`.
fn asks_truth(node: NodeRef) -> bool {
    let Some(parent) = node.parent() else { return false };
    match parent.kind() {
        Kind::Logical | Kind::Group => asks_truth(parent),
        Kind::If | Kind::While | Kind::DoWhile | Kind::Conditional | Kind::Assert | Kind::ComprehensionClause => {
            node.role() == Role::Condition
        }
        Kind::For => node.role() == Role::Condition,
        _ => false,
    }
}
