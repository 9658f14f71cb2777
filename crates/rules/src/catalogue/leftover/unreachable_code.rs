use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unreachable-code",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::ALL,
    fix: Some(FixKind::Review),
    what: "statements that can never run",
    why: "The statement above always leaves. What stands below it looks alive and is not: it is forgotten code, or the leaving \
          statement stands at the wrong depth.",
    silent: "Where the dead part holds a yield, which makes a generator of the function although it never runs; in a shell, outside of \
             functions and loops, where these commands fail and the script goes on.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "def fare():\n    return 4\n    print('sold')\n",
                    at: &["3:5"],
                    fixed: Some("def fare():\n    return 4\n"),
                },
                Wrong {
                    code: "for boat in boats:\n    continue\n    boat.sail()\n    boat.moor()\n",
                    at: &["3:5"],
                    fixed: Some("for boat in boats:\n    continue\n"),
                },
            ],
            right: &[
                "def fare(child):\n    if child:\n        return 2\n    return 4\n",
                "def none():\n    return\n    yield\n",
                "def tides():\n    raise NotImplementedError\n    yield 0\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "function fare() {\n  return 4;\n  sold();\n}\n",
                    at: &["3:3"],
                    fixed: Some("function fare() {\n  return 4;\n}\n"),
                },
                Wrong {
                    code: "function fare() {\n  return child();\n  function child() {}\n  sold();\n}\n",
                    at: &["4:3"],
                    fixed: None,
                },
            ],
            right: &[
                "function fare() {\n  return child();\n  var late;\n  function child() {}\n}\n",
                "switch (tide) {\n  case 1:\n    throw low();\n    break;\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::Block, Kind::File], check),
};

fn check(context: &mut Context, block: NodeRef) {
    let of_block = block.children().filter(|child| child.role() == Role::Statement);
    let mut statements = of_block.skip_while(|statement| leaves(statement.kind()).is_none());
    let Some(last) = statements.next() else { return };
    let hoisted = context.file().language.facts().hoisted;
    let runs = |statement: &NodeRef| !hoisted.contains(&statement.kind()) && !only_names(*statement);
    let rest: Vec<NodeRef> = statements.collect();
    let dead: Vec<NodeRef> = rest.iter().copied().filter(runs).collect();
    let Some(first) = dead.first().copied().filter(|_| has_what_it_leaves(last)) else { return };
    // By habit every case of a choice ends with its `break`.
    let in_case = block.parent().is_some_and(|holder| holder.kind() == Kind::Case);
    if in_case && dead.len() == 1 && first.kind() == Kind::Break {
        return;
    }
    if dead.iter().any(|statement| makes_generator(*statement)) {
        return;
    }
    let what = leaves(last.kind()).unwrap_or_default();
    let line = context.line(last.span().start);
    let end = dead.last().map_or(first, |last| *last);
    let edits = if dead.len() == rest.len() { removal(context, first, end) } else { None };
    let statements = if dead.len() == 1 { "this" } else { "this and what follows it" };
    context
        .report(first.span(), format!("{statements} can never run: line {line} always {what}"))
        .advice("remove it, or move the statement that leaves")
        .anchor(first.span().join(end.span()))
        .fix_to_review(edits);
}

/// A declaration of variables that gives them no values: it takes effect, where languages let it, before its block runs.
fn only_names(statement: NodeRef) -> bool {
    statement.kind() == Kind::Declaration && statement.children().all(|item| item.child(Role::Value).is_none())
}

/// Removes whole lines, where nothing else stands on them.
fn removal(context: &Context, first: NodeRef, last: NodeRef) -> Option<Vec<Edit>> {
    let text = context.file().text;
    let lines = text.lines();
    let start = lines.full_line(context.line(first.span().start)).start;
    let end = lines.full_line(context.line(last.span().end.saturating_sub(1))).end;
    let before = text.slice(Span::new(start, first.span().start));
    let behind = text.slice(Span::new(last.span().end, end));
    (before.trim().is_empty() && behind.trim().is_empty()).then(|| vec![Edit::remove(Span::new(start, end))])
}

/// Whether there is a function or loop to leave. Only a shell lets these commands stand elsewhere.
fn has_what_it_leaves(statement: NodeRef) -> bool {
    if matches!(statement.kind(), Kind::Throw) {
        return true;
    }
    let wanted = |kind: Kind| match statement.kind() {
        Kind::Return => kind.is_function(),
        _ => matches!(kind, Kind::For | Kind::While | Kind::DoWhile | Kind::Match | Kind::Labeled),
    };
    // What runs in a shell of its own leaves only that.
    let inner = statement.ancestors().take_while(|node| {
        !matches!(node.kind(), Kind::Subshell | Kind::CommandSubstitution | Kind::ProcessSubstitution | Kind::Pipeline)
    });
    inner.into_iter().any(|node| wanted(node.kind()))
}

/// What a statement does that always leaves its block.
fn leaves(kind: Kind) -> Option<&'static str> {
    match kind {
        Kind::Return => Some("returns"),
        Kind::Throw => Some("raises"),
        Kind::Break => Some("leaves the loop"),
        Kind::Continue => Some("goes on with the next round"),
        _ => None,
    }
}

/// Whether a `yield` stands in it that belongs to the function around it.
fn makes_generator(statement: NodeRef) -> bool {
    let mut skip_to = statement.id();
    std::iter::once(statement).chain(statement.descendants()).any(|node| {
        if node.id() < skip_to {
            return false;
        }
        if node.kind().is_function() {
            skip_to = node.end();
        }
        matches!(node.kind(), Kind::Yield | Kind::YieldFrom)
    })
}
