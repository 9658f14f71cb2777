use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenId, TokenKind};

use crate::expected::tests_error;
use crate::habit::{begins_line, indent_at};
use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "empty-block",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_EXPRESSIONS,
    fix: None,
    what: "a block without statements and without a comment",
    why: "Either something is missing there, or the whole statement can go.",
    silent: "For functions, classes and error handlers, for loops whose head does the work, for locks that are taken and given back, in C# for the `try` of a `finally`, in C# and Java for what is only opened and closed, where the block has a comment, and where a test expects the condition to fail.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "if tide > 2:\n    pass\nsail()\n", at: &["1:1"], fixed: None }],
            right: &[
                "if tide > 2:\n    pass  # high enough\nelse:\n    wait()\n",
                "class Low(Exception):\n    pass\n",
                "while not measure():\n    pass\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong { code: "if (tide > 2) {\n}\n", at: &["1:15"], fixed: None },
                Wrong { code: "try {\n} finally {\n  moor();\n}\n", at: &["1:5"], fixed: None },
            ],
            right: &["if (tide > 2) {\n  // high enough\n}\nfunction none() {}\nwhile (!measure()) {}\n"],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package tide\n\nfunc sail() {\n\tif tide > 2 {\n\t}\n}\n",
                at: &["4:14"],
                fixed: None,
            }],
            right: &[
                "package tide\n\nfunc sail() {\n\tif tide > 2 {\n\t\t// high enough\n\t}\n\tfor range tides {\n\t}\n\tselect {}\n}\n\nfunc none() {}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong { code: "fn sail() {\n    if tide > 2 {\n    }\n}\n", at: &["2:17"], fixed: None }],
            right: &[
                "fn sail() {\n    if tide > 2 {\n        // high enough\n    }\n    if low { 1 } else { 2 };\n    while wait() {}\n    loop {}\n}\n\nfn none() {}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        if (tide > 2) {\n        }\n        try {\n        } finally {\n            moor();\n        }\n    }\n}\n",
                at: &["3:23", "5:13"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void sail() {\n        if (tide > 2) {\n            // high enough\n        }\n        while (wait()) {}\n        synchronized (this) {}\n        try {\n            go();\n        } catch (Late late) {\n        }\n        try (Quay quay = open()) {\n        } catch (Late late) {\n            moor();\n        }\n    }\n    void none() {}\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        if (tide > 2)\n        {\n        }\n        try {\n            Moor();\n        } finally {\n        }\n    }\n}\n",
                at: &["6:9", "10:19"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail()\n    {\n        if (tide > 2)\n        {\n            // high enough\n        }\n        if (low)\n        {\n#if TIDES\n#endif\n        }\n        while (Wait()) { }\n        lock (this) { }\n        using (Open()) { }\n        try { } finally { Moor(); }\n        try { Go(); } catch (Late) { }\n    }\n    void None() { }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If, Kind::Try, Kind::With], check),
};

fn check(context: &mut Context, node: NodeRef) {
    // Taking a lock and giving it back waits for whoever has it.
    let may_act = context.file().traits.empty_block_may_act;
    if node.kind() == Kind::With && (may_act || !makes_something(node)) {
        return;
    }
    // Opening something and closing it again may be all that is wanted.
    if node.kind() == Kind::Try && node.child(Role::Item).is_some() {
        return;
    }
    let bodies = node
        .children()
        .filter(|child| child.kind() == Kind::Block && matches!(child.role(), Role::Body | Role::Else | Role::Finally));
    for body in bodies {
        let mut statements = body.children_in(Role::Statement);
        let does_nothing = match (statements.next(), statements.next()) {
            (None, _) => true,
            (Some(only), None) => only.kind() == Kind::Pass && context.file().traits.indents_blocks,
            _ => false,
        };
        let needs_statement = context.file().traits.indents_blocks;
        // With another branch, one that does nothing says which case needs nothing; a `try` of nothing is checked by its handlers.
        let names_case = node.kind() == Kind::If && body.role() == Role::Body && node.child(Role::Else).is_some();
        let is_said = names_case
            || needs_statement
                && (node.kind() != Kind::If || node.child(Role::Else).is_some() || node.role() == Role::Else);
        let is_never_interrupted = may_act && body.role() == Role::Body && node.child(Role::Finally).is_some();
        if !does_nothing
            || is_said
            || is_never_interrupted
            || tests_error(context.file(), node)
            || is_tried(context.file(), node)
            || has_comment(context, node, body)
        {
            continue;
        }
        let span = if needs_statement { Span::new(node.span().start, node.span().start + 2) } else { body.span() };
        context
            .report(span, "this block does nothing")
            .advice("add what is missing, remove it, or say in a comment why it is empty");
    }
}

/// Whether a test calls something in the condition and handles what goes wrong, and so may expect it.
fn is_tried(file: File<'_>, node: NodeRef) -> bool {
    let calls = |condition: NodeRef| {
        std::iter::once(condition).chain(condition.descendants()).any(|part| part.kind() == Kind::Call)
    };
    let handles = |around: NodeRef<'_>| around.kind() == Kind::Try && around.child(Role::Handler).is_some();
    file.is_test() && node.child(Role::Condition).is_some_and(calls) && node.ancestors().any(handles)
}

/// Whether what a block runs with is made for it by a call.
fn makes_something(block: NodeRef) -> bool {
    let values = block.children_in(Role::Item).filter_map(|item| item.child(Role::Value));
    values.into_iter().any(|value| matches!(value.kind(), Kind::Call | Kind::Await))
}

/// Whether a comment is in the block, behind it on its line, or below it and further in than its statement.
fn has_comment(context: &Context, node: NodeRef, body: NodeRef) -> bool {
    let file = context.file();
    let tree = file.tree;
    let is_comment = |token: &TokenId| tree.token_kind(*token).is_remark();
    let end = body.token_range().end;
    let is_between = |token: &TokenId| {
        let kind = tree.token_kind(*token);
        kind.is_trivia() || matches!(kind, TokenKind::Newline | TokenKind::Indent | TokenKind::Dedent)
    };
    let depth = indent_at(file, node.span().start).len();
    let belongs = |token: &TokenId| {
        let start = tree.token_start(*token);
        !begins_line(file, start) || indent_at(file, start).len() > depth
    };
    (node.token_range().start..end).any(|token| is_comment(&token))
        || (end..tree.tokens().len() as TokenId).take_while(is_between).filter(is_comment).any(|token| belongs(&token))
}
