use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::same::{adjacent, is_steady, operator_between, same_code};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "same-operands",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "an operator with the same code on both sides",
    why: "The result is constant, or one side alone would do. Most often one of the two sides is a mistake.",
    silent: "Where a side calls, changes or awaits something. For a value compared with itself by `==`, `>=` or `<=`, which tests for NaN, for numbers, and in tests, which try operators on purpose.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "if tide.low or tide.low:\n    wait()\n", at: &["1:16"], fixed: None },
                Wrong { code: "late = due < due\nleft = seats - seats\n", at: &["1:14", "2:16"], fixed: None },
            ],
            right: &[
                "nan = x != x\nboth = next(a) or next(a)\nfour = 2 * x * x\n",
                "if tide.low or tide.high:\n    wait()\n",
                "one = 1 << 1\nsame = 4 / 4\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (a.low && a.low) wait();\n", at: &["1:14"], fixed: None },
                Wrong { code: "const late = due > due;\n", at: &["1:20"], fixed: None },
            ],
            right: &["const nan = x !== x, both = next() || next();\n", "x = a.low ?? b.low;\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[
                Wrong {
                    code: "package tide\n\nfunc sail() {\n\tlate := due < due && a.low || a.low\n}\n",
                    at: &["4:16"],
                    fixed: None,
                },
                Wrong {
                    code: "package tide\n\nfunc sail() {\n\tif a.low || a.low {\n\t}\n}\n",
                    at: &["4:14"],
                    fixed: None,
                },
            ],
            right: &[
                "package tide\n\nfunc sail() {\n\tboth := <-c || <-c\n\tnan := x != x\n\tnext() && next()\n\tisNaN(f - f)\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Logical, Kind::Comparison, Kind::Binary], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let file = context.file();
    let operands = node.children().filter(|part| matches!(part.role(), Role::Operand | Role::Left | Role::Right));
    for (left, right) in adjacent(operands) {
        if !same_code(file, left, right) || !is_steady(left) {
            continue;
        }
        let Some((kind, word)) = operator_between(file, left, right) else { continue };
        if !says_nothing(kind, left) || asks_for_nan(file, node) {
            continue;
        }
        if file.is_test() {
            context.unsure(right.span(), "a test may try an operator on equal sides");
            continue;
        }
        let text = context.text(right);
        context
            .report(right.span(), format!("both sides of \"{word}\" are {}", shortened(text)))
            .advice("correct one of them, or remove it");
    }
}

/// Whether a function asks if the result is a number at all: `isNaN(x - x)` is so for what has no end.
fn asks_for_nan(file: File<'_>, node: NodeRef) -> bool {
    let call = node.parent().filter(|parent| parent.kind() == Kind::Arguments).and_then(NodeRef::parent);
    let callee = call.and_then(|call| call.child(Role::Callee));
    callee.is_some_and(|callee| file.node_text(callee).to_ascii_lowercase().ends_with("nan"))
}

/// Operators whose result with equal sides is known, or one of the sides.
fn says_nothing(operator: TokenKind, operand: NodeRef) -> bool {
    let joins = matches!(
        operator,
        TokenKind::And | TokenKind::Or | TokenKind::AndAnd | TokenKind::BarBar | TokenKind::QuestionQuestion
    );
    // `>=` and `<=` of a value and itself ask whether it is a number.
    let orders = matches!(operator, TokenKind::Less | TokenKind::Greater);
    let computes = matches!(operator, TokenKind::Minus | TokenKind::Slash | TokenKind::Percent | TokenKind::Caret);
    let is_literal = matches!(operand.kind(), Kind::Number | Kind::Boolean);
    !is_literal && (joins || orders || computes)
}

/// Code short enough for a message of one line.
fn shortened(text: &str) -> String {
    let line: String = text.split_whitespace().collect::<Vec<_>>().join(" ");
    if line.chars().count() <= 30 {
        return line;
    }
    format!("{}…", line.chars().take(29).collect::<String>())
}
