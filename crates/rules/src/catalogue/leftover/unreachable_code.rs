use rustc_hash::FxHashSet;
use sieve_meaning::flow::Flow;
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeId, NodeRef, Role, TokenKind};

use crate::habit::whole_lines;
use crate::shell::command_name;

use crate::interface::{Certainty, Check, Concern, Context, Edit, Examples, FixKind, Level, Mesh, Rule, Wrong};
use crate::same::depends_on_build;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unreachable-code",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_FLOW,
    fix: Some(FixKind::Review),
    what: "statements that can never run",
    why: "The statement above always exits. The code below it is forgotten, or the exiting statement is at the wrong \
          indentation.",
    silent: "Where the dead part holds a yield, which makes a generator of the function although it never runs; in a shell for an `exit` at the end, outside of \
             functions and loops, where these commands fail and the script goes on, and behind the end of a script that reads its own file.",
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
                "def fare():\n    return 4\n    \"\"\"As it was in spring.\"\"\"\n",
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
        Examples {
            language: Language::Shell,
            wrong: &[Wrong {
                code: "#!/bin/bash\necho \"$(basename \"$0\")\"\nexit 0\nmoor north\n",
                at: &["4:1"],
                fixed: Some("#!/bin/bash\necho \"$(basename \"$0\")\"\nexit 0\n"),
            }],
            right: &[
                "case $1 in\n  start) exit 0 ;;\n  *) exit 1 ;;\nesac\n\nexit 0\n",
                "#!/bin/bash\ntail -n +4 \"$0\"\nexit 0\nnorth 4.2\nsouth 3.9\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[
                Wrong {
                    code: "package fares\n\nfunc fare(child bool) int {\n\tswitch {\n\tcase child:\n\t\treturn 2\n\tdefault:\n\t\treturn 4\n\t}\n\tsold()\n}\n",
                    at: &["10:2"],
                    fixed: Some(
                        "package fares\n\nfunc fare(child bool) int {\n\tswitch {\n\tcase child:\n\t\treturn 2\n\tdefault:\n\t\treturn 4\n\t}\n}\n",
                    ),
                },
                Wrong {
                    code: "package fares\n\nfunc wait(tides chan int) {\n\tfor {\n\t\tselect {\n\t\tcase tide := <-tides:\n\t\t\tshow(tide)\n\t\t\tbreak\n\t\t}\n\t}\n\tclose(tides)\n}\n",
                    at: &["11:2"],
                    fixed: Some(
                        "package fares\n\nfunc wait(tides chan int) {\n\tfor {\n\t\tselect {\n\t\tcase tide := <-tides:\n\t\t\tshow(tide)\n\t\t\tbreak\n\t\t}\n\t}\n}\n",
                    ),
                },
            ],
            right: &[
                "package fares\n\nfunc fare(age int) int {\n\tswitch {\n\tcase age < 4:\n\t\tfallthrough\n\tcase age < 16:\n\t\treturn 2\n\t}\n\treturn 4\n}\n",
                "package fares\n\nfunc wait(tides chan int) {\nround:\n\tfor {\n\t\tselect {\n\t\tcase <-tides:\n\t\t\tbreak round\n\t\t}\n\t}\n\tclose(tides)\n}\n",
                "package fares\n\nfunc wait() {\n\tfor {\n\t\tsail()\n\t}\n\tpanic(\"never\")\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Fares {\n    int fare(boolean child) {\n        switch (child) {\n            case true:\n                return 2;\n            default:\n                return 4;\n        }\n        sold();\n    }\n}\n",
                    at: &["9:9"],
                    fixed: Some(
                        "class Fares {\n    int fare(boolean child) {\n        switch (child) {\n            case true:\n                return 2;\n            default:\n                return 4;\n        }\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Fares {\n    void fare(int age) {\n        throw new Closed();\n        sold();\n    }\n}\n",
                    at: &["4:9"],
                    fixed: Some("class Fares {\n    void fare(int age) {\n        throw new Closed();\n    }\n}\n"),
                },
            ],
            right: &[
                "class Fares {\n    int fare(int age) {\n        int fare = switch (age) {\n            case 1 -> 0;\n            case 2 -> {\n                yield 2;\n            }\n            default -> 4;\n        };\n        switch (age) {\n            case 1 -> {\n                return 0;\n            }\n            default -> {\n                break;\n            }\n        }\n        return fare;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Fares {\n    int Fare(bool child) {\n        switch (child) {\n            case true:\n                return 2;\n            default:\n                return 4;\n        }\n        Sold();\n    }\n}\n",
                    at: &["9:9"],
                    fixed: Some(
                        "class Fares {\n    int Fare(bool child) {\n        switch (child) {\n            case true:\n                return 2;\n            default:\n                return 4;\n        }\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Fares {\n    void Fare(int age) {\n        throw new Closed();\n        Sold();\n    }\n}\n",
                    at: &["4:9"],
                    fixed: Some("class Fares {\n    void Fare(int age) {\n        throw new Closed();\n    }\n}\n"),
                },
            ],
            right: &[
                "class Fares {\n    int Fare(object what) {\n        switch (what) {\n            case Child child:\n                return 0;\n            case int age when age < 4:\n                return Low();\n        }\n        return 4;;\n\n        int Low() => 3;\n    }\n\n    IEnumerable<int> None() {\n        yield break;\n        yield return 1;\n    }\n}\n",
                "class Fares {\n    int Fare() {\n#if SUMMER\n        return Low();\n\n        int Low() => 5;\n#else\n        return 4;\n#endif\n    }\n\n    void Sell() {\n        if (closed) {\n#if DEBUG\n            return;\n#endif\n        } else {\n            return;\n        }\n        Sold();\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Flows(check),
};

fn check(context: &mut Context, flow: &Flow) {
    let dead = flow.dead_statements();
    // Only where a stretch begins: after a statement that runs.
    let ends: FxHashSet<NodeId> = dead.iter().map(|statement| statement.end()).collect();
    for first in dead.iter().filter(|first| !ends.contains(&first.id())) {
        if let Some(before) = statement_before(*first) {
            report_stretch(context, before, *first);
        }
    }
}

fn statement_before(statement: NodeRef) -> Option<NodeRef> {
    let is_one = |node: &NodeRef| node.role() == Role::Statement;
    Some(statement).filter(is_one)?.previous_sibling().filter(is_one)
}

fn report_stretch(context: &mut Context, last: NodeRef, first: NodeRef) {
    let hoisted = context.file().language.spec().hoisted;
    let runs = |statement: &NodeRef| {
        !hoisted.contains(&statement.kind())
            && !only_names(*statement)
            && !is_only_semicolon(*statement)
            && !is_comment(*statement)
    };
    let rest: Vec<NodeRef> = std::iter::successors(Some(first), |node| node.next_sibling())
        .filter(|node| node.role() == Role::Statement)
        .collect();
    let dead: Vec<NodeRef> = rest.iter().copied().filter(runs).collect();
    let (Some(first), Some(end)) = (dead.first().copied(), dead.last().copied()) else { return };
    // Not all lines around those for a preprocessor are compiled.
    let depends = depends_on_build(context.file(), last.token_range().start..first.token_range().start);
    if depends
        || is_deliberate(context, last, &dead)
        || is_data(context, last)
        || dead.iter().any(|statement| makes_generator(*statement))
    {
        return;
    }
    let line = context.line(last.span().start);
    let reason = match leaves(last.kind()) {
        Some(what) => format!("line {line} always {what}"),
        None => where_it_ends(last.kind(), line),
    };
    let edits = if dead.len() == rest.len() {
        whole_lines(context.file(), first.span().join(end.span())).map(|lines| vec![Edit::remove(lines)])
    } else {
        None
    };
    let statements = if dead.len() == 1 { "this" } else { "this and what follows it" };
    context
        .report(first.span(), format!("{statements} can never run: {reason}"))
        .advice("remove it, or move the statement that exits")
        .related(last.span(), "this exits")
        .anchor(first.span().join(end.span()))
        .fix_to_review(edits);
}

/// By habit every case of a choice ends with its `break`; and some say in a last line that it is never reached.
fn is_deliberate(context: &Context, last: NodeRef, dead: &[NodeRef]) -> bool {
    let [only] = dead else { return false };
    let in_case = only.ancestors().nth(1).is_some_and(|holder| holder.kind() == Kind::Case);
    in_case && only.kind() == Kind::Break
        || leaves(last.kind()).is_none()
            && (matches!(only.kind(), Kind::Throw | Kind::Assert | Kind::Return)
                || never_comes_back(context, *only)
                || context.file().traits.runs_commands && context.text(*only).starts_with("exit"))
}

/// Whether a statement is a call that never comes back.
fn never_comes_back(context: &Context, statement: NodeRef) -> bool {
    let call = statement.child(Role::Value).filter(|value| value.kind() == Kind::Call);
    let callee = call.and_then(|call| call.child(Role::Callee));
    callee.is_some_and(|callee| context.file().traits.leaving_calls.contains(&context.text(callee)))
}

/// Whether what follows the end of a script may be data: the script reads its own file.
fn is_data(context: &Context, last: NodeRef) -> bool {
    let file = context.file();
    let is_end = file.traits.runs_commands && last.parent().is_some_and(|parent| parent.kind() == Kind::File);
    is_end
        && file.tree.nodes().any(|node| {
            let is_own_path = matches!(node.role(), Role::Argument | Role::Target)
                && matches!(
                    file.node_text(node).trim_matches('"'),
                    "$0" | "${0}" | "$BASH_SOURCE" | "${BASH_SOURCE[0]}"
                );
            let command = node.parent().filter(|_| is_own_path);
            command.is_some_and(|command| {
                !matches!(command_name(file, command), "basename" | "dirname" | "echo" | "printf")
            })
        })
}

/// A string alone, which says something to those who read.
fn is_comment(statement: NodeRef) -> bool {
    statement.kind() == Kind::ExpressionStatement
        && statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::String)
}

/// A semicolon behind the one that ends a statement.
fn is_only_semicolon(statement: NodeRef) -> bool {
    statement.kind() == Kind::Pass && statement.first_token_kind() == TokenKind::Semicolon
}

/// A declaration of variables that gives them no values: it takes effect, where languages let it, before its block runs.
fn only_names(statement: NodeRef) -> bool {
    statement.kind() == Kind::Declaration && statement.children().all(|item| item.child(Role::Value).is_none())
}

/// What a statement does that always leaves its block.
fn leaves(kind: Kind) -> Option<&'static str> {
    match kind {
        Kind::Return => Some("returns"),
        Kind::Throw => Some("raises"),
        Kind::Break => Some("leaves the loop"),
        Kind::Continue => Some("continues with the next iteration"),
        _ => None,
    }
}

/// Why nothing after a statement runs that does not leave by itself.
fn where_it_ends(kind: Kind, line: u32) -> String {
    match kind {
        Kind::If | Kind::Match | Kind::Select => format!("every path through line {line} exits"),
        Kind::While | Kind::For | Kind::DoWhile => format!("the loop of line {line} never ends"),
        Kind::Command => format!("line {line} ends the script"),
        _ => format!("the block of line {line} always exits"),
    }
}

/// Whether a `yield` is in it that belongs to the function around it.
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
