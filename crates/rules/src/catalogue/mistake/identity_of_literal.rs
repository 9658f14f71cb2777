use sieve_meaning::declared::written_type;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::expected::is_short;
use crate::same::{adjacent, operator_between};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "identity-of-literal",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python, Language::Java],
    fix: Some(FixKind::Exact),
    what: "a literal, or a boxed number, compared by identity",
    why: "Whether two equal numbers or strings are one object depends on the interpreter: the comparison may hold today and fail tomorrow.",
    silent: "None, True, False and the ellipsis are single objects, and comparing them by identity is right. In Java for variables whose types are not written, and in functions that compare by `equals` too: the same object is often asked for first.",
    standards: &[
        "The Python Language Reference 3.14, section 6.10.3",
        "The Java Language Specification, \"Reference Equality Operators\"",
    ],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "if quay is \"North\":\n    sail()\n",
                    at: &["1:9"],
                    fixed: Some("if quay == \"North\":\n    sail()\n"),
                },
                Wrong { code: "late = tide is not 3\n", at: &["1:13"], fixed: Some("late = tide != 3\n") },
                Wrong { code: "empty = () is seats\n", at: &["1:12"], fixed: Some("empty = () == seats\n") },
            ],
            right: &["if quay is None or tide is not True:\n    sail()\n", "if quay == \"North\":\n    sail()\n"],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Quay {\n    boolean north(String name) {\n        return name == \"North\";\n    }\n}\n",
                    at: &["3:21"],
                    fixed: Some(
                        "class Quay {\n    boolean north(String name) {\n        return \"North\".equals(name);\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Quay {\n    boolean same(Integer low, Integer high) {\n        return low == high;\n    }\n}\n",
                    at: &["3:20"],
                    fixed: None,
                },
                Wrong {
                    code: "class Quay {\n    boolean other(Quay next) {\n        return \"North\" != next.name();\n    }\n}\n",
                    at: &["3:24"],
                    fixed: Some(
                        "class Quay {\n    boolean other(Quay next) {\n        return !\"North\".equals(next.name());\n    }\n}\n",
                    ),
                },
            ],
            right: &[
                "class Quay {\n    boolean same(Integer low, Integer high, int depth, Long other) {\n        return low == depth || low == null || other == depth;\n    }\n\n    boolean equal(String low, String high) {\n        return low == high || low != null && low.equals(high);\n    }\n}\n",
                "class Quay {\n    boolean north(String name) {\n        return name != null && name.equals(\"North\") && \"a\" == \"b\" && 3 == length;\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    for (left, right) in adjacent(comparison.children_in(Role::Operand)) {
        if !context.file().traits.word_operators {
            on_signs(context, comparison, left, right);
            continue;
        }
        let Some(operator) = identity_operator(left, right) else { continue };
        let Some(literal) = [left, right].into_iter().find(|operand| is_literal(*operand)) else { continue };
        let right = if operator.negated { "!=" } else { "==" };
        let kind = if operator.negated { "is not" } else { "is" };
        let text = shortened(context.text(literal));
        context
            .report(operator.span, format!("\"{kind}\" compares which object it is, not whether it equals {text}"))
            .advice(format!("compare with {right}"))
            .fix(vec![Edit::replace(operator.span, right)]);
    }
}

/// `==` between a string and something else, in a language in which that asks which object it is.
fn on_signs(context: &mut Context, comparison: NodeRef, left: NodeRef, right: NodeRef) {
    let file = context.file();
    let is_string = |node: &NodeRef| node.kind() == Kind::String;
    let (first, other) = match (is_string(&left), is_string(&right)) {
        (true, false) => (left, right),
        (false, true) => (right, left),
        (false, false) if are_objects(context, left, right) => (left, right),
        _ => return,
    };
    let Some((kind, sign)) = operator_between(file, left, right) else { return };
    // The advice names both.
    if !is_short(context.text(first)) || !is_short(context.text(other)) {
        return;
    }
    let mut between = left.token_range().end..right.token_range().start;
    let Some(operator) = between.find(|token| !file.tree.token_kind(*token).is_trivia()) else { return };
    let negated = match kind {
        TokenKind::Equal => "",
        TokenKind::NotEqual => "!",
        _ => return,
    };
    let text = shortened(context.text(first));
    let equals = format!("{negated}{}.equals({})", context.text(first), context.text(other));
    let place = file.tree.token_span(operator);
    let reported = context
        .report(place, format!("\"{sign}\" compares which object it is, not whether it equals {text}"))
        .advice("compare with equals()");
    // A variable may hold nothing to be asked.
    if is_string(&first) {
        reported.fix(vec![Edit::replace(comparison.span(), equals)]);
    }
}

/// Types of the language whose objects are made anew where a value needs one ("Boxing Conversion", The Java Language Specification).
const BOXED: &[&str] = &["Byte", "Character", "Double", "Float", "Integer", "Long", "Short"];

/// Whether two variables hold objects of one such type, and nothing around compares them by what they equal.
fn are_objects(context: &Context, left: NodeRef, right: NodeRef) -> bool {
    let of_type = |node: NodeRef| {
        let written = written_type(context.names(), node).filter(|_| node.kind() == Kind::Name);
        written.map(|written| context.text(written)).filter(|written| BOXED.contains(written))
    };
    let (Some(of_left), Some(of_right)) = (of_type(left), of_type(right)) else { return false };
    let function = left.function_around();
    // The same object is equal to itself, which is often asked first.
    let compares = |text: &str| text.contains("quals(") || text.contains("ompare");
    of_left == of_right && !function.is_some_and(|function| compares(context.text(function)))
}

struct Operator {
    span: Span,
    negated: bool,
}

/// The `is` or `is not` between two operands.
fn identity_operator(left: NodeRef, right: NodeRef) -> Option<Operator> {
    let tree = left.tree();
    let between = left.token_range().end..right.token_range().start;
    let mut words = between.filter(|token| !tree.token_kind(*token).is_trivia());
    let first = words.next().filter(|token| tree.token_kind(*token) == TokenKind::Is)?;
    let last = words.last();
    let span = tree.token_span(first).join(tree.token_span(last.unwrap_or(first)));
    Some(Operator { span, negated: last.is_some() })
}

fn is_literal(node: NodeRef) -> bool {
    match node.kind() {
        Kind::Number | Kind::String | Kind::Bytes | Kind::FormatString | Kind::Concatenation => true,
        Kind::Tuple | Kind::List | Kind::Dictionary | Kind::Set => true,
        Kind::Unary => node.child(Role::Operand).is_some_and(|operand| operand.kind() == Kind::Number),
        Kind::Group => node.child(Role::Value).is_some_and(|value| matches!(value.kind(), Kind::Number | Kind::String)),
        _ => false,
    }
}

/// A literal's text, short enough for a message of one line.
fn shortened(text: &str) -> String {
    let line = text.lines().next().unwrap_or_default();
    if line.len() == text.len() && line.chars().count() <= 30 {
        return line.to_string();
    }
    format!("{}…", line.chars().take(29).collect::<String>())
}
