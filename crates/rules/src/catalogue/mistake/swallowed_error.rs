use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "swallowed-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a handler that catches every error and does nothing",
    why: "Unexpected errors disappear here too: a misspelt name, a full disk, a wrong type. The program continues as if nothing had happened.",
    silent: "Handlers for particular errors, and those with a comment that says why nothing is done, count as intended.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "try:\n    sail()\nexcept Exception:\n    pass\n", at: &["3:1"], fixed: None },
                Wrong { code: "try:\n    sail()\nexcept:\n    ...\n", at: &["3:1"], fixed: None },
                Wrong {
                    code: "try:\n    sail()\nexcept (OSError, BaseException) as error:\n    pass\n",
                    at: &["3:1"],
                    fixed: None,
                },
            ],
            right: &[
                "try:\n    sail()\nexcept KeyError:\n    pass\n",
                "try:\n    sail()\nexcept Exception:\n    log()\n",
                "try:\n    sail()\nexcept Exception:\n    pass  # the tide table is optional\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong { code: "try {\n  sail();\n} catch (error) {\n}\n", at: &["3:3"], fixed: None }],
            right: &[
                "try {\n  sail();\n} catch {\n  // the tide table is optional\n}\n",
                "try {\n  sail();\n} catch (error) {\n  log(error);\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Catch], check),
};

fn check(context: &mut Context, handler: NodeRef) {
    let Some(body) = handler.child(Role::Body) else { return };
    if !body.children().all(does_nothing) || is_explained(handler) {
        return;
    }
    let exception = handler.child(Role::Exception);
    if exception.is_some_and(|exception| !is_broad(context, exception)) {
        return;
    }
    let word_end = handler.tree().token_span(handler.token_range().start).end;
    let head_end = exception.map_or(word_end, |exception| exception.span().end);
    let span = sieve_syntax::text::Span::new(handler.span().start, head_end);
    context
        .report(span, "every error that happens here is silently ignored")
        .advice("handle it, or say in a comment why it may be ignored");
}

fn does_nothing(statement: NodeRef) -> bool {
    statement.kind() == Kind::Pass
        || (statement.kind() == Kind::ExpressionStatement
            && statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::EllipsisLiteral))
}

fn is_broad(context: &Context, exception: NodeRef) -> bool {
    match exception.kind() {
        Kind::Tuple => exception.children().any(|element| is_broad(context, element)),
        Kind::Name => matches!(context.text(exception), "Exception" | "BaseException"),
        _ => false,
    }
}

/// Whether a comment is in the handler, or after its last statement.
fn is_explained(handler: NodeRef) -> bool {
    let tree = handler.tree();
    let tokens = handler.token_range();
    let behind = (tokens.end..)
        .map(|token| tree.token_kind(token))
        .take_while(|kind| kind.is_trivia() && *kind != TokenKind::LineEnd);
    tokens.clone().map(|token| tree.token_kind(token)).chain(behind).any(|kind| kind == TokenKind::Comment)
}
