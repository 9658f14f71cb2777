use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "idle-handler",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a handler that only throws what it caught",
    why: "Nothing changes: without the handler the error goes the same way.",
    silent: "For statements with a `finally`, and where a comment explains it.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong { code: "try:\n    sail()\nexcept OSError:\n    raise\n", at: &["3:1"], fixed: None }],
            right: &[
                "try:\n    sail()\nexcept OSError:\n    moor()\n    raise\n",
                "try:\n    sail()\nexcept OSError:\n    raise\nexcept Exception:\n    moor()\n",
                "try:\n    sail()\nexcept OSError:\n    raise\nfinally:\n    moor()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "try {\n  sail();\n} catch (error) {\n  throw error;\n}\n",
                at: &["3:3"],
                fixed: None,
            }],
            right: &["try {\n  sail();\n} catch (error) {\n  throw new Error(\"no wind\", { cause: error });\n}\n"],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Try], check),
};

fn check(context: &mut Context, attempt: NodeRef) {
    let file = context.file();
    let mut handlers = attempt.children_in(Role::Handler);
    let (Some(handler), None) = (handlers.next(), handlers.next()) else { return };
    let has_comment = handler.token_range().any(|token| file.tree.token_kind(token) == TokenKind::Comment);
    if has_comment || attempt.child(Role::Finally).is_some() || attempt.child(Role::Else).is_some() {
        return;
    }
    let mut statements = handler.child(Role::Body).into_iter().flat_map(|body| body.children());
    let (Some(only), None) = (statements.next(), statements.next()) else { return };
    let caught = handler.child(Role::Name).map(|name| file.node_text(name));
    let thrown = only.child(Role::Exception).map(|thrown| file.node_text(thrown));
    // A second name in the statement would be a cause.
    if only.kind() == Kind::Throw && only.child(Role::Cause).is_none() && (thrown.is_none() || thrown == caught) {
        let word_end = file.tree.token_span(handler.token_range().start).end;
        context
            .report(
                Span::new(handler.span().start, word_end),
                "this handler throws what it caught, and does nothing else",
            )
            .advice("remove it, or handle the error");
    }
}
