use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "empty-block",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a block without statements and without a comment",
    why: "Either something is missing there, or the whole statement can go.",
    silent: "For functions, classes and error handlers, for loops whose head does the work, and where the block has a comment.",
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
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::If, Kind::Try, Kind::With], check),
};

fn check(context: &mut Context, node: NodeRef) {
    let bodies = node
        .children()
        .filter(|child| child.kind() == Kind::Block && matches!(child.role(), Role::Body | Role::Else | Role::Finally));
    for body in bodies {
        let mut statements = body.children_in(Role::Statement);
        let does_nothing = match (statements.next(), statements.next()) {
            (None, _) => true,
            (Some(only), None) => only.kind() == Kind::Pass && context.file().language == Language::Python,
            _ => false,
        };
        let is_python = context.file().language == Language::Python;
        // With another branch, one that does nothing says which case needs nothing; a `try` of nothing is checked by its handlers.
        let names_case = node.kind() == Kind::If && body.role() == Role::Body && node.child(Role::Else).is_some();
        let is_said = names_case
            || is_python && (node.kind() != Kind::If || node.child(Role::Else).is_some() || node.role() == Role::Else);
        if !does_nothing || is_said || has_comment(context, node, body) {
            continue;
        }
        let span = if is_python { Span::new(node.span().start, node.span().start + 2) } else { body.span() };
        context
            .report(span, "this block does nothing")
            .advice("add what is missing, remove it, or say in a comment why it is empty");
    }
}

/// Whether a comment is in the block, or beside it.
fn has_comment(context: &Context, node: NodeRef, body: NodeRef) -> bool {
    let tree = context.file().tree;
    let tokens = node.token_range().start..body.token_range().end;
    let behind = (tokens.end..).map(|token| tree.token_kind(token)).take_while(|kind| {
        kind.is_trivia() || matches!(kind, TokenKind::Newline | TokenKind::Indent | TokenKind::Dedent)
    });
    tokens.map(|token| tree.token_kind(token)).chain(behind).any(|kind| kind == TokenKind::Comment)
}
