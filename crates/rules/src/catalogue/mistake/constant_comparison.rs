use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::is_short;
use crate::interface::File;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};
use crate::same::{uses_other_member, written_between};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "constant-comparison",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a comparison whose result is always the same",
    why: "What it asks for is never the case, or always: another value or another operator was meant.",
    silent: "For values whose type is not known from the comparison itself, and in tests; for lengths of what may be no list: its type is tested beside, it has other members than lists, or the length is made zero where it is less.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "late = len(boats) < 0\n", at: &["1:8"], fixed: None },
                Wrong { code: "late = len(boats) >= 0\n", at: &["1:8"], fixed: None },
                Wrong { code: "unknown = depth == float(\"nan\")\n", at: &["1:11"], fixed: None },
                Wrong { code: "full = len(boats) == \"3\"\n", at: &["1:8"], fixed: None },
            ],
            right: &[
                "late = len(boats) < 1\nlate = len(boats) > 0\nfull = len(boats) == 3\nunknown = math.isnan(depth)\nempty = boats == []\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "const is = typeof name === 'strnig';\n", at: &["1:12"], fixed: None },
                Wrong { code: "const none = depth === NaN;\n", at: &["1:14"], fixed: None },
                Wrong { code: "const empty = boats === [];\n", at: &["1:15"], fixed: None },
                Wrong { code: "const late = boats.length < 0;\n", at: &["1:14"], fixed: None },
            ],
            right: &[
                "const count = quays.length < 0 ? 0 : quays.length;\n",
                "function moor(rope) {\n  if (rope.length < 0) refuse(rope.colour);\n}\n",
                "function isList(quays) {\n  return !(typeof quays.length !== 'number' || quays.length < 0);\n}\n",
                "const is = typeof name === 'string';\nconst other = typeof name === type;\nconst late = boats.length < 1;\nconst old = typeof name !== 'unknown';\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison], check),
};

/// What `typeof` gives ("The typeof Operator", ECMAScript 2026); `unknown` is what old browsers gave.
const TYPES: &[&str] =
    &["undefined", "object", "boolean", "number", "bigint", "string", "symbol", "function", "unknown"];

fn check(context: &mut Context, comparison: NodeRef) {
    let file = context.file();
    let operands: Vec<NodeRef> = comparison.children_in(Role::Operand).collect();
    let [left, right] = operands.as_slice() else { return };
    let sign = written_between(file, *left, *right);
    let is_equality = matches!(sign, "==" | "===" | "!=" | "!==");
    let (left, right) = (*left, *right);
    let is_below_zero = is_length(context, left) && is_number(file, right, "0") && sign == "<";
    let message = if is_below_zero && !is_of_anything(file, comparison, left) {
        "a length is never below zero"
    // That something like a list has a length is asked so in languages without it as a type.
    } else if file.traits.word_operators && is_length(context, left) && is_number(file, right, "0") && sign == ">=" {
        "a length is never below zero"
    } else if is_equality && (is_nan(context, left) || is_nan(context, right)) {
        "NaN equals nothing, not even itself"
    } else if is_equality
        && is_length(context, left)
        && right.kind() == Kind::String
        && (file.traits.word_operators || sign.len() == 3)
    {
        "a length is never a string"
    } else if is_equality && !file.traits.word_operators && is_new(left, right) {
        "a new object equals no other one"
    } else if is_equality && is_impossible_type(file, left, right) {
        "typeof never gives this word"
    } else {
        return;
    };
    if !file.is_test() {
        context
            .report(comparison.span(), format!("{message}: the result is always the same"))
            .advice("correct one of the sides, or the operator");
    }
}

fn is_number(file: File<'_>, node: NodeRef, number: &str) -> bool {
    node.kind() == Kind::Number && file.node_text(node) == number
}

/// Whether a length is asked of what may be no list: its type is tested beside, or it is made zero where it is less.
fn is_of_anything(file: File<'_>, comparison: NodeRef, length: NodeRef) -> bool {
    let gives_zero = |choice: NodeRef| choice.child(Role::Value).is_some_and(|value| is_number(file, value, "0"));
    let (mut around, mut inner) = (comparison.parent(), comparison);
    while let Some(next) = around.filter(|next| matches!(next.kind(), Kind::Logical | Kind::Group)) {
        (around, inner) = (next.parent(), next);
    }
    let whole = file.node_text(inner);
    let tests_type = || is_short(whole) && whole.contains(&format!("typeof {}", file.node_text(length)));
    around.is_some_and(|around| around.kind() == Kind::Conditional && gives_zero(around))
        || tests_type()
        || has_other_members(file, length)
}

/// Members of what is an array or a string ("Properties of the Array Prototype Object", "… String Prototype Object", ECMAScript 2025), that
/// code uses most.
const LIST_MEMBERS: &[&str] = &[
    "at",
    "charAt",
    "charCodeAt",
    "codePointAt",
    "concat",
    "copyWithin",
    "endsWith",
    "entries",
    "every",
    "fill",
    "filter",
    "find",
    "findIndex",
    "findLast",
    "findLastIndex",
    "flat",
    "flatMap",
    "forEach",
    "includes",
    "indexOf",
    "join",
    "keys",
    "lastIndexOf",
    "length",
    "localeCompare",
    "map",
    "match",
    "matchAll",
    "normalize",
    "padEnd",
    "padStart",
    "pop",
    "push",
    "reduce",
    "reduceRight",
    "repeat",
    "replace",
    "replaceAll",
    "reverse",
    "search",
    "set",
    "shift",
    "slice",
    "some",
    "sort",
    "splice",
    "split",
    "startsWith",
    "subarray",
    "substr",
    "substring",
    "toLowerCase",
    "toReversed",
    "toSorted",
    "toSpliced",
    "toString",
    "toUpperCase",
    "trim",
    "trimEnd",
    "trimStart",
    "unshift",
    "values",
    "with",
];

/// Whether the function around uses a member of the same object that no list has: its length is what its maker says.
fn has_other_members(file: File<'_>, length: NodeRef) -> bool {
    let Some(object) = length.child(Role::Object).filter(|_| length.kind() == Kind::Member) else { return false };
    length.function_around().is_some_and(|around| uses_other_member(file, around, object, LIST_MEMBERS))
}

/// `len(…)` and `.length`.
fn is_length(context: &Context, node: NodeRef) -> bool {
    match node.kind() {
        Kind::Call => {
            node.child(Role::Callee).is_some_and(|callee| callee.kind() == Kind::Name && context.text(callee) == "len")
        }
        Kind::Member => {
            !context.file().traits.word_operators
                && node.child(Role::Name).is_some_and(|name| context.text(name) == "length")
        }
        _ => false,
    }
}

fn is_nan(context: &Context, node: NodeRef) -> bool {
    let text = context.text(node);
    let by_name = |names: &[&str]| names.contains(&text);
    match node.kind() {
        Kind::Name => !context.file().traits.word_operators && text == "NaN",
        Kind::Member => by_name(&["Number.NaN", "math.nan", "np.nan", "numpy.nan"]),
        Kind::Call => matches!(text.replace('\'', "\"").as_str(), "float(\"nan\")" | "float(\"NaN\")"),
        _ => false,
    }
}

/// A list, an object or a regular expression that is made in the comparison itself.
fn is_new(left: NodeRef, right: NodeRef) -> bool {
    let makes =
        |node: NodeRef| matches!(node.kind(), Kind::List | Kind::Dictionary | Kind::Lambda | Kind::ClassExpression);
    // Compared with a string or a number, an object becomes one.
    let is_plain = |node: NodeRef| matches!(node.kind(), Kind::Name | Kind::Member | Kind::Call);
    makes(left) && is_plain(right) || makes(right) && is_plain(left)
}

fn is_impossible_type(file: File<'_>, left: NodeRef, right: NodeRef) -> bool {
    let asks = |node: NodeRef| node.kind() == Kind::Unary && file.node_text(node).starts_with("typeof");
    let word = |node: NodeRef| {
        let text = (node.kind() == Kind::String).then(|| file.language.string_value(file.node_text(node))).flatten();
        text.is_some_and(|text| !TYPES.contains(&text.as_str()))
    };
    asks(left) && word(right) || asks(right) && word(left)
}
