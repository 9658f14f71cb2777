use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};
use crate::same::{adjacent, depends_on_build, is_steady, operator_between, same_code};

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
    silent: "Where a side calls, changes or awaits something. For a value compared with itself by `==`, `>=` or `<=`, which tests for NaN, for numbers, in functions that speak of NaN and may make one, and in tests, which try operators on purpose.",
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
                "try:\n    tide < tide\nexcept TypeError:\n    pass\nnone = tide / tide\n",
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
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail() {\n    let late = due < due || a.low && a.low;\n    let same = Tide::LOW as u8 - Tide::LOW as u8;\n}\n",
                at: &["2:22", "2:38", "3:34"],
                fixed: None,
            }],
            right: &[
                "fn sail() {\n    let nan = x != x;\n    let none = 0.0 / (x - x);\n    let both = next() || next();\n    let four = x * x + 1 << 1;\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    boolean late = due < due || a.low && a.low;\n}\n",
                at: &["2:26", "2:42"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    boolean nan = x != x, both = next() || next();\n    int none = 'a' - 'a';\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    bool open = low && low;\n    int left = tide - tide;\n}\n",
                at: &["3:24", "4:23"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    bool open = low && high;\n    int left = Next() - Next();\n    bool none = tide == tide;\n}\n",
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
        let both = left.token_range().start..right.token_range().end;
        if !same_code(file, left, right) || !is_steady(left) || depends_on_build(file, both) {
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
        if makes_nan(file, node) || file.node_text(left).to_ascii_lowercase().ends_with("inf") {
            context.unsure(right.span(), "the code around speaks of NaN, which a value less itself may be");
            continue;
        }
        if kind == TokenKind::Slash && file.traits.word_operators
            || node.parent().is_some_and(|parent| parent.kind() == Kind::ExpressionStatement)
        {
            context.unsure(
                right.span(),
                "the operator itself may be what matters: whether it fails, or what type it gives",
            );
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

/// Whether a function speaks of NaN, and so may make one: an infinite number less itself is none, nor is what is divided by such a zero.
fn makes_nan(file: File<'_>, node: NodeRef) -> bool {
    let function = node.ancestors().find(|around| around.kind().is_function());
    let speaks = |text: &str| text.contains("NaN") || text.contains("nan(") || text.contains("NAN");
    let around = node.ancestors().find(|around| around.kind() != Kind::Group);
    let is_divided = around.filter(|around| around.kind() == Kind::Binary).is_some_and(|division| {
        let sides = division.child(Role::Left).zip(division.child(Role::Right));
        sides
            .and_then(|(left, right)| operator_between(file, left, right))
            .is_some_and(|(kind, _)| kind == TokenKind::Slash)
    });
    node.kind() == Kind::Binary && (is_divided || function.is_some_and(|function| speaks(file.node_text(function))))
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
    let is_literal = matches!(operand.kind(), Kind::Number | Kind::Boolean | Kind::Character | Kind::Bytes);
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
