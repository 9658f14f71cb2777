use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "swallowed-error",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Probable,
    languages: Language::WITH_CLASSES,
    fix: None,
    what: "a handler that catches every error and does nothing",
    why: "Unexpected errors disappear here too: a misspelt name, a full disk, a wrong type. The program continues as if nothing had happened.",
    silent: "Handlers for particular errors, and those with a comment that says why nothing is done, count as intended. So do those \
             of attempts that only close something, those that leave the function, before what happens otherwise; in Java and C# those with a condition, those that call \
             the error something like `ignored`, and those of a test that fails where no error comes.",
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
                "def depth(tides):\n    if tides:\n        try:\n            if tides.low:\n                return measure(tides)\n        except Exception:\n            pass\n    return None\n",
                "try:\n    sail()\nexcept KeyError:\n    pass\n",
                "try:\n    sail()\nexcept Exception:\n    log()\n",
                "try:\n    sail()\nexcept Exception:\n    pass  # the tide table is optional\n",
                "try:\n    line.close()\nexcept Exception:\n    pass\n",
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
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        try {\n            go();\n        } catch (Exception late) {\n        }\n        try { go(); } catch (Late | RuntimeException e) {}\n    }\n}\n",
                at: &["5:11", "7:23"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    void sail() {\n        try { go(); } catch (Late late) {}\n        try { go(); } catch (Exception ignored) {}\n        try { go(); } catch (Throwable t) { log(t); }\n        try { go(); } catch (Exception e) { /* the tide table is optional */ }\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Quay\n{\n    void Sail()\n    {\n        try { Go(); } catch { }\n        try { Go(); } catch (System.Exception e) { ; }\n    }\n}\n",
                at: &["5:23", "6:23"],
                fixed: None,
            }],
            right: &[
                "class Quay\n{\n    void Sail()\n    {\n        try { Go(); } catch (Late) { }\n        try { Go(); } catch (Exception e) when (e is Late) { }\n        try { Go(); } catch { Log(); }\n        try { Go(); } catch { /* the tide table is optional */ }\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Catch], check),
};

fn check(context: &mut Context, handler: NodeRef) {
    let Some(body) = handler.child(Role::Body) else { return };
    let is_wanted = || is_explained(handler) || is_decided(context.file(), handler) || is_meant(context, handler);
    if !body.children().all(does_nothing) || only_closes(context, handler) || is_wanted() {
        return;
    }
    let typed = if context.file().traits.types_errors { Role::Type } else { Role::Exception };
    let exception = handler.child(typed);
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

/// Methods that give something back. Where that fails there is nothing left to do.
const CLOSING: &[&str] = &["close", "Close", "disconnect", "dispose", "Dispose"];

/// Whether all that is tried is to close something.
fn only_closes(context: &Context, handler: NodeRef) -> bool {
    let closes = |statement: NodeRef| {
        let call = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call);
        let callee = call.and_then(|call| call.child(Role::Callee)).filter(|callee| callee.kind() == Kind::Member);
        callee.and_then(|callee| callee.child(Role::Name)).is_some_and(|name| CLOSING.contains(&context.text(name)))
    };
    let only_closes = |attempt: NodeRef| {
        let tried = attempt.child(Role::Body);
        tried.is_some_and(|tried| tried.children().next().is_some() && tried.children().all(closes))
    };
    // There may be many handlers for what is tried.
    let attempt = handler.parent();
    attempt.is_some_and(|attempt| context.file().once_at(attempt, || OnlyCloses(only_closes(attempt))).0)
}

/// Whether all that is tried is to close something.
struct OnlyCloses(bool);

/// Whether a condition chooses the errors, the name of the error says that it is not needed, or a test expects one.
fn is_meant(context: &Context, handler: NodeRef) -> bool {
    if !context.file().traits.types_errors {
        return false;
    }
    let unneeded = |name: NodeRef| {
        let name = context.text(name).to_ascii_lowercase();
        name == "_" || ["ignore", "expected", "unused", "ok"].iter().any(|word| name.starts_with(word))
    };
    let fails = |attempt: NodeRef| {
        let last = attempt.child(Role::Body).and_then(|body| body.last_child());
        let call =
            last.filter(|last| last.kind() == Kind::ExpressionStatement).and_then(|last| last.child(Role::Value));
        let callee = call.filter(|call| call.kind() == Kind::Call).and_then(|call| call.child(Role::Callee));
        callee.is_some_and(|callee| context.text(callee).to_ascii_lowercase().contains("fail"))
    };
    handler.child(Role::Guard).is_some()
        || handler.child(Role::Name).is_some_and(unneeded)
        || handler.parent().is_some_and(|attempt| context.file().once_at(attempt, || IsToFail(fails(attempt))).0)
}

/// Whether what is tried ends by saying that it should have failed.
struct IsToFail(bool);

fn does_nothing(statement: NodeRef) -> bool {
    statement.kind() == Kind::Pass
        || (statement.kind() == Kind::ExpressionStatement
            && statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::EllipsisLiteral))
}

fn is_broad(context: &Context, exception: NodeRef) -> bool {
    match exception.kind() {
        Kind::Tuple | Kind::UnionType => exception.children().any(|element| is_broad(context, element)),
        Kind::Name | Kind::NamedType => context.file().traits.broad_errors.contains(&context.text(exception)),
        _ => false,
    }
}

/// Whether the code goes another way after the error: the body leaves the function and something follows, or there is an `else`, or an
/// earlier handler picks out what is not to be ignored.
fn is_decided(file: File<'_>, handler: NodeRef) -> bool {
    let Some(attempt) = handler.parent().filter(|attempt| attempt.kind() == Kind::Try) else { return false };
    let last_of = |block: Option<NodeRef<'_>>| block.and_then(|block| block.last_child().map(|last| last.kind()));
    let outcome = || {
        let leaves = attempt.child(Role::Body).is_some_and(may_leave_last);
        let raises = |handler: &NodeRef| last_of(handler.child(Role::Body)) == Some(Kind::Throw);
        Outcome {
            is_used: leaves && is_followed(attempt) || attempt.child(Role::Else).is_some(),
            first_raising: attempt.children_in(Role::Handler).find(raises).map(NodeRef::id),
        }
    };
    let outcome = file.once_at(attempt, outcome);
    outcome.is_used || outcome.first_raising.is_some_and(|first| first < handler.id())
}

/// Whether the last statement of a block leaves it, or does so under a condition.
fn may_leave_last(block: NodeRef) -> bool {
    block.last_child().is_some_and(|last| match last.kind() {
        Kind::Return | Kind::Continue | Kind::Break => true,
        Kind::If => last
            .child(Role::Body)
            .and_then(|body| body.last_child())
            .is_some_and(|last| matches!(last.kind(), Kind::Return | Kind::Continue | Kind::Break)),
        _ => false,
    })
}

/// Through so many statements around it what follows is looked for.
const NEAR: usize = 4;

/// Whether something runs behind what is tried: the next statement, one behind what it is in, or the next round of a loop.
fn is_followed(attempt: NodeRef) -> bool {
    let is_statement = |next: NodeRef| next.role() == Role::Statement;
    let within = attempt.levels().take_while(|(_, around)| !around.kind().is_function()).take(2 * NEAR);
    attempt.next_sibling().is_some_and(is_statement)
        || within.into_iter().any(|(_, around)| {
            matches!(around.kind(), Kind::For | Kind::While) || around.next_sibling().is_some_and(is_statement)
        })
}

/// What is known of what is tried and of all its handlers.
struct Outcome {
    /// Whether the code goes another way after an error.
    is_used: bool,
    /// The first handler that raises an error again.
    first_raising: Option<NodeId>,
}

/// Whether a comment is in the handler, after its last statement, alone above the attempt, or last in what is tried.
fn is_explained(handler: NodeRef) -> bool {
    let tree = handler.tree();
    let tokens = handler.token_range();
    let behind = (tokens.end..)
        .map(|token| tree.token_kind(token))
        .take_while(|kind| kind.is_trivia() && *kind != TokenKind::LineEnd);
    let inside = tokens.clone().map(|token| tree.token_kind(token));
    let is_layout = |kind: &TokenKind| kind.is_trivia() || kind.is_layout();
    // Only the first handler is beside what is tried.
    let attempt = handler.parent().filter(|attempt| attempt.child(Role::Handler) == Some(handler));
    let before = |start: u32| {
        // The comment may be the last thing inside of brackets.
        let from = (0..start)
            .rev()
            .skip_while(|token| tree.token_kind(*token).is_trivia())
            .next()
            .filter(|token| tree.token_kind(*token) == TokenKind::BraceClose);
        (0..from.unwrap_or(start)).rev().map(|token| tree.token_kind(token)).take_while(is_layout)
    };
    let around =
        attempt.into_iter().flat_map(|attempt| before(attempt.token_range().start).chain(before(tokens.start)));
    inside.chain(behind).chain(around).any(TokenKind::is_remark)
}
