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
    languages: Language::WITH_NAMES,
    fix: Some(FixKind::Review),
    what: "conditions compared with true or false",
    why: "A condition is true or false already; the comparison asks the same again, and takes other values than the plain condition does.",
    silent: "Outside of conditions, where the comparison may mean something else. For a comparison that also checks the type, such as `===`, and in tests.",
    standards: &["PEP 8, Programming Recommendations"],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "if tide == True:\n    sail()\n", at: &["1:4"], fixed: Some("if tide:\n    sail()\n") },
                Wrong {
                    code: "while tide == False:\n    wait()\n",
                    at: &["1:7"],
                    fixed: Some("while not tide:\n    wait()\n"),
                },
            ],
            right: &["query.where(boats.free == True)\n", "if tide is True: pass\n", "if x == 1: pass\n"],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (tide == true) sail();\n", at: &["1:5"], fixed: Some("if (tide) sail();\n") },
                Wrong { code: "if (tide != true) sail();\n", at: &["1:5"], fixed: Some("if (!tide) sail();\n") },
            ],
            right: &["if (tide === true) sail();\nconst x = tide == true;\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Comparison], check),
};

fn check(context: &mut Context, comparison: NodeRef) {
    let file = context.file();
    let operands: Vec<NodeRef> = comparison.children_in(Role::Operand).collect();
    let &[left, right] = operands.as_slice() else { return };
    if right.kind() != Kind::Boolean || !asks_truth(comparison) || file.is_test() {
        return;
    }
    let operator = operator_between(file, left, right);
    let equal = match operator.as_slice() {
        [(TokenKind::Equal, _)] => true,
        [(TokenKind::NotEqual, _)] => false,
        _ => return,
    };
    let is_true = matches!(file.node_text(right), "True" | "true");
    let text = file.node_text(left);
    let is_single = matches!(left.kind(), Kind::Name | Kind::Member | Kind::Call | Kind::Subscript | Kind::Group);
    let plain = match (equal == is_true, file.language, is_single) {
        (true, _, _) => text.to_string(),
        (false, Language::Python, true) => format!("not {text}"),
        (false, Language::Python, false) => format!("not ({text})"),
        (false, _, true) => format!("!{text}"),
        (false, _, false) => format!("!({text})"),
    };
    let edits = vec![Edit::replace(comparison.span(), plain)];
    context
        .report(comparison.span(), format!("a condition is compared with \"{}\"", file.node_text(right)))
        .advice("use the condition itself, unless it may have other values")
        .fix_to_review(Some(edits));
}

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
