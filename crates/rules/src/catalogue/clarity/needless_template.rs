use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "needless-template",
    concern: Concern::Clarity,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: &[Language::Hcl],
    fix: Some(FixKind::Exact),
    what: "a string that holds nothing but one expression",
    why: "It is the value of the expression, whatever its type. The quotes say that it is a string, which it need not be, and hide the expression from \
          editors.",
    silent: "In keys, where brackets would be needed instead.",
    standards: &["HCL native syntax, Template Interpolation Unwrapping"],
    options: &[],
    examples: &[Examples {
        language: Language::Hcl,
        wrong: &[
            Wrong { code: "name = \"${var.quay}\"\n", at: &["1:8"], fixed: Some("name = var.quay\n") },
            Wrong { code: "n = \"${a + b}\" == c\n", at: &["1:5"], fixed: Some("n = (a + b) == c\n") },
        ],
        right: &["name = \"${var.quay}-board\"\nm = { \"${var.quay}\" = 1 }\nt = \"%{ if x }%{ endif }\"\n"],
    }],
    needs_names: false,
    check: Check::Nodes(&[Kind::FormatString], check),
};

fn check(context: &mut Context, string: NodeRef) {
    let file = context.file();
    let mut parts = string.children();
    let (Some(part), None) = (parts.next(), parts.next()) else { return };
    let has_text = string.significant_tokens().any(|(_, kind)| kind == TokenKind::FormatText);
    let Some(value) = part.child(Role::Value).filter(|_| part.kind() == Kind::Interpolation && !has_text) else {
        return;
    };
    if string.role() == Role::Key || !file.tree.faults().is_empty() {
        return;
    }
    // A line may end in a part, but not in an expression of a body.
    let goes_over_lines = file.node_text(part).contains('\n');
    let stands_alone = matches!(string.role(), Role::Value | Role::Element | Role::Argument) || is_term(value);
    let (open, close) = if stands_alone { ("", "") } else { ("(", ")") };
    let fix = vec![
        Edit::replace(Span::new(string.span().start, value.span().start), open),
        Edit::replace(Span::new(value.span().end, string.span().end), close),
    ];
    let reported = context.report(string.span(), "this string is one expression").advice("write the expression alone");
    if !goes_over_lines {
        reported.fix(fix);
    }
}

/// Whether an expression stays together whatever is beside it.
fn is_term(value: NodeRef) -> bool {
    !matches!(value.kind(), Kind::Binary | Kind::Logical | Kind::Comparison | Kind::Conditional | Kind::Unary)
}
