use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::habit::{begins_line, indent_at};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "negated-condition",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: Some(FixKind::Review),
    what: "a negated condition with an else branch",
    why: "To understand the second branch, a reader has to negate the condition twice.",
    silent: "Chains of conditions are left alone, and so are short first branches, which often handle the exception first.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "if not tide:\n    wait()\n    look()\nelse:\n    sail()\n",
                    at: &["1:4"],
                    fixed: Some("if tide:\n    sail()\nelse:\n    wait()\n    look()\n"),
                },
                Wrong { code: "if not tide:\n    # low\n    wait()\nelse:\n    sail()\n", at: &["1:4"], fixed: None },
                Wrong {
                    code: "if not tide:\n    wait()\nelse:\n    sail()\n    # and on\n",
                    at: &["1:4"],
                    fixed: None,
                },
                Wrong {
                    code: "if not tide:\n    wait()\n    look()\nelse:\n    sail()\n# next\nmoor()\n",
                    at: &["1:4"],
                    fixed: Some("if tide:\n    sail()\nelse:\n    wait()\n    look()\n# next\nmoor()\n"),
                },
                Wrong { code: "x = a if not tide else b\n", at: &["1:10"], fixed: Some("x = b if tide else a\n") },
            ],
            right: &[
                "if not tide:\n    wait()\n",
                "if not tide:\n    wait()\nelif quay:\n    sail()\nelse:\n    moor()\n",
                "if not tide:\n    wait()\nelse:\n    sail()\n    moor()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "const x = !tide ? a : b;\n",
                at: &["1:11"],
                fixed: Some("const x = tide ? b : a;\n"),
            }],
            right: &["if (!tide) { wait(); }\n", "const x = !(a && b) ? c : d;\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package quay\n\nfunc sail(low bool) {\n\tif !low {\n\t\tgo_on()\n\t} else {\n\t\twait()\n\t}\n}\n",
                at: &["4:5"],
                fixed: Some(
                    "package quay\n\nfunc sail(low bool) {\n\tif low {\n\t\twait()\n\t} else {\n\t\tgo_on()\n\t}\n}\n",
                ),
            }],
            right: &["package quay\n\nfunc sail(low bool) {\n\tif !low {\n\t\tgo_on()\n\t}\n}\n"],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn sail(low: bool) -> u8 {\n    if !low { 1 } else { 2 }\n}\n",
                at: &["2:8"],
                fixed: Some("fn sail(low: bool) -> u8 {\n    if low { 2 } else { 1 }\n}\n"),
            }],
            right: &[
                "fn sail(low: bool) {\n    if !low {\n        go_on();\n    }\n    if !low && late {} else {}\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        if (!low) {\n            go();\n        } else {\n            moor();\n        }\n    }\n}\n",
                at: &["3:13"],
                fixed: Some(
                    "class Quay {\n    void sail() {\n        if (low) {\n            moor();\n        } else {\n            go();\n        }\n    }\n}\n",
                ),
            }],
            right: &[
                "class Quay {\n    void sail() {\n        if (!low) go();\n        if (!(a && b)) go(); else moor();\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    int fare = !child ? 4 : 2;\n}\n",
                at: &["3:16"],
                fixed: Some("class Quay\n{\n    int fare = child ? 2 : 4;\n}\n"),
            }],
            right: &[
                "class Quay\n{\n    int fare = child ? 2 : 4;\n    void Sail()\n    {\n        if (!low) Moor();\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If, Kind::Conditional], check),
};

fn check(context: &mut Context, choice: NodeRef) {
    let first = if choice.kind() == Kind::If { Role::Body } else { Role::Value };
    let (Some(condition), Some(first), Some(other)) =
        (choice.child(Role::Condition), choice.child(first), choice.child(Role::Else))
    else {
        return;
    };
    let in_chain = choice.role() == Role::Else || other.kind() == Kind::If || other.kind() == Kind::Conditional;
    let lines = |node: NodeRef| context.line(node.span().end.saturating_sub(1)) - context.line(node.span().start);
    if in_chain || (choice.kind() == Kind::If && lines(first) < lines(other)) {
        return;
    }
    let negation = matches!(condition.first_token_kind(), TokenKind::Not | TokenKind::Exclamation);
    let Some(inner) = condition.child(Role::Operand).filter(|_| negation && condition.kind() == Kind::Unary) else {
        return;
    };
    // What is grouped or negated again says more than its opposite.
    if matches!(inner.kind(), Kind::Group | Kind::Unary | Kind::Comparison) {
        return;
    }
    let edits = swapped(context, condition, inner, first, other);
    context
        .report(condition.span(), "the condition is negated, and there is an else branch")
        .advice("drop the negation and swap the branches")
        .fix_to_review(edits);
}

fn swapped(context: &Context, condition: NodeRef, inner: NodeRef, first: NodeRef, other: NodeRef) -> Option<Vec<Edit>> {
    let same_kind = first.kind() == Kind::Block && other.kind() == Kind::Block
        || first.kind() != Kind::Block && other.kind() != Kind::Block;
    let is_long = |node: NodeRef| begins_line(context.file(), node.span().start);
    let alike = first.first_token_kind() == TokenKind::BraceOpen || is_long(first) == is_long(other);
    // Comments within braces go with the block. Any other comment would stay with the wrong branch.
    let tree = condition.tree();
    let is_inside = |token: TokenId| first.token_range().contains(&token) || other.token_range().contains(&token);
    let around = condition.token_range().start..other.token_range().end;
    let has_comment = around.into_iter().any(|token| !is_inside(token) && tree.token_kind(token).is_remark())
        || comments_behind(context.file(), condition, other);
    (same_kind && !has_comment && alike).then(|| {
        vec![
            Edit::replace(condition.span(), context.text(inner)),
            Edit::replace(first.span(), context.text(other)),
            Edit::replace(other.span(), context.text(first)),
        ]
    })
}

/// Whether comments that belong to a block come after it: on its last line, or further in than the statement that it is part of.
fn comments_behind(file: File, condition: NodeRef, block: NodeRef) -> bool {
    if block.first_token_kind() == TokenKind::BraceOpen {
        return false;
    }
    let tree = block.tree();
    let end = block.token_range().end;
    let depth = indent_at(file, condition.span().start).len();
    let is_between = |token: &TokenId| tree.token_kind(*token).is_trivia() || tree.token_kind(*token).is_layout();
    let between = (end..tree.tokens().len() as TokenId).take_while(is_between);
    let mut comments = between.filter(|token| tree.token_kind(*token) == TokenKind::Comment);
    comments.any(|comment| {
        let start = tree.token_span(comment).start;
        !begins_line(file, start) || indent_at(file, start).len() > depth
    })
}
