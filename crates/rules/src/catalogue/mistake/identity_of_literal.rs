use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::same::adjacent;

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "identity-of-literal",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Python],
    fix: Some(FixKind::Exact),
    what: "a literal compared by identity",
    why: "Whether two equal numbers or strings are one object depends on the interpreter: the comparison may hold today and fail tomorrow.",
    silent: "None, True, False and the ellipsis are single objects, and comparing them by identity is right.",
    standards: &["The Python Language Reference 3.14, section 6.10.3"],
    options: &[],
    examples: &[Examples {
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
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    for (left, right) in adjacent(comparison.children_in(Role::Operand)) {
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
