use sieve_meaning::names::Resolution;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::interface::{Certainty, Check, Concern, Context, Examples, File, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "fall-through",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Guess,
    languages: &[Language::JavaScript, Language::TypeScript, Language::Tsx, Language::Java],
    fix: None,
    what: "a case that falls through to the next one",
    why: "Where `break` is forgotten, two cases run instead of one.",
    silent: "It is a guess: most cases that fall through do so on purpose, so it runs only where it is enabled by name. For cases without statements, which share the next one's, and where a comment says so.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "switch (tide) {\n  case 1:\n    sail();\n  case 2:\n    moor();\n}\n",
                at: &["2:3"],
                fixed: None,
            }],
            right: &[
                "switch (tide) {\n  case 1:\n  case 2:\n    moor();\n    break;\n  case 3:\n    sail();\n    // falls through\n  default:\n    wait();\n}\n",
                "function f() {\n  switch (tide) {\n    case 1: {\n      if (a) return 1; else throw b;\n    }\n    default:\n      return 2;\n  }\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Quay {\n    void sail() {\n        switch (tide) {\n            case 1: go();\n            case 2: moor();\n        }\n    }\n}\n",
                at: &["4:13"],
                fixed: None,
            }],
            right: &[
                "class Quay {\n    int sail() {\n        switch (tide) {\n            case 1: case 2: moor(); break;\n            case 3: go(); // falls through\n            default: System.exit(1);\n        }\n        switch (tide) {\n            case 1 -> go();\n            case 2 -> { moor(); }\n            default -> { }\n        }\n        return switch (tide) { case 1: yield 2; default: throw new Late(); };\n    }\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Case], check),
};

fn check(context: &mut Context, case: NodeRef) {
    let file = context.file();
    let Some(next) = case.next_sibling().filter(|next| next.kind() == Kind::Case) else { return };
    let Some(body) = case.child(Role::Body).filter(|body| body.children_in(Role::Statement).next().is_some()) else {
        return;
    };
    // Behind an arrow nothing runs on.
    if body.kind_before() != TokenKind::Colon {
        return;
    }
    let Some(last) = body.last_child() else { return };
    let between = (last.token_range().start..next.token_range().start + 2).any(|token| {
        file.tree.token_kind(token) == TokenKind::Comment && speaks(file.text.slice(file.tree.token_span(token)))
    });
    if leaves(file, last) || diverges(context, last) || between {
        return;
    }
    let head_end = case.child(Role::Pattern).map_or(case.span().start + "default".len() as u32, |it| it.span().end);
    let span = Span::new(case.span().start, head_end);
    context
        .report(span, format!("this case falls through to the one on line {}", context.line(next.span().start)))
        .advice("end it with break, or say in a comment that it falls through");
}

fn speaks(comment: &str) -> bool {
    let lower = comment.to_ascii_lowercase();
    lower.contains("fall") || lower.contains("through") || lower.contains("break") || lower.contains("runs on")
}

/// Whether nothing after a statement runs.
fn leaves(file: File, statement: NodeRef) -> bool {
    let leaves = |part: NodeRef| leaves(file, part);
    match statement.kind() {
        Kind::Return | Kind::Throw | Kind::Break | Kind::Continue | Kind::Yield => true,
        Kind::Block => statement.children_in(Role::Statement).any(leaves),
        Kind::If => {
            let both = (statement.child(Role::Body), statement.child(Role::Else));
            matches!(both, (Some(one), Some(other)) if leaves(one) && leaves(other))
        }
        Kind::Try => {
            let ends = statement.child(Role::Finally).is_some_and(leaves);
            let body = statement.child(Role::Body).is_some_and(leaves);
            let handled = |handler: NodeRef| handler.child(Role::Body).is_some_and(leaves);
            ends || body && statement.children_in(Role::Handler).all(handled)
        }
        // What a choice or loop within does takes flow to see; it is let pass.
        Kind::Match | Kind::While | Kind::For | Kind::Labeled => true,
        Kind::ExpressionStatement => {
            let callee = statement.child(Role::Value).and_then(|call| call.child(Role::Callee));
            callee
                .map(|callee| file.node_text(callee))
                .is_some_and(|callee| callee == "process.exit" || file.traits.leaving_calls.contains(&callee))
        }
        _ => false,
    }
}

/// Whether a statement calls a function of the file that always raises.
fn diverges(context: &Context, statement: NodeRef) -> bool {
    let callee = statement.child(Role::Value).and_then(|call| call.child(Role::Callee));
    let Some(Resolution::Binding(binding)) = callee.and_then(|name| context.names().resolution_at(name.id())) else {
        return false;
    };
    let [only] = context.names().binding(binding).declarations.as_slice() else { return false };
    let function = context.file().tree.node(only.node).parent();
    let function = function.map(|holder| holder.child(Role::Value).unwrap_or(holder));
    let last = function.and_then(|function| function.child(Role::Body)?.last_child());
    last.is_some_and(|last| last.kind() == Kind::Throw)
}
