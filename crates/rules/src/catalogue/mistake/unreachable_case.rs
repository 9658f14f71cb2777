use rustc_hash::FxHashMap;
use sieve_meaning::declared::class_of;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unreachable-case",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::OF_CODE,
    fix: None,
    what: "a case or handler that an earlier one always matches first",
    why: "It never runs: one of the two most likely has a mistake.",
    silent: "For cases with guards, and for errors that neither the language nor the file defines.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "try:\n    sail()\nexcept OSError:\n    moor()\nexcept FileNotFoundError:\n    wait()\n",
                    at: &["5:8"],
                    fixed: None,
                },
                Wrong {
                    code: "match tide:\n    case 1:\n        sail()\n    case 1:\n        moor()\n",
                    at: &["4:10"],
                    fixed: None,
                },
            ],
            right: &[
                "try:\n    sail()\nexcept FileNotFoundError:\n    wait()\nexcept OSError:\n    moor()\n",
                "match tide:\n    case 1 if low:\n        sail()\n    case 1:\n        moor()\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "switch (tide) {\n  case 1:\n    sail();\n    break;\n  case 1:\n    moor();\n}\n",
                at: &["5:8"],
                fixed: None,
            }],
            right: &["switch (tide) {\n  case 1:\n  case 2:\n    moor();\n}\n"],
        },
        Examples {
            language: Language::Shell,
            wrong: &[Wrong { code: "case $1 in\n  *) sail ;;\n  low) moor ;;\nesac\n", at: &["3:3"], fixed: None }],
            right: &["case $1 in\n  low) moor ;;\n  *) sail ;;\nesac\n"],
        },
    ],
    needs_names: true,
    check: Check::Nodes(&[Kind::Match, Kind::Try], check),
};

fn check(context: &mut Context, node: NodeRef) {
    if node.kind() == Kind::Match { on_cases(context, node) } else { on_handlers(context, node) }
}

fn on_cases(context: &mut Context, choice: NodeRef) {
    let file = context.file();
    let mut taken: FxHashMap<&str, Span> = FxHashMap::default();
    let mut takes_any: Option<Span> = None;
    for case in choice.children_in(Role::Case) {
        let runs_on = file.traits.runs_commands && !file.node_text(case).trim_end().ends_with(";;");
        let takes_all = case.child(Role::Guard).is_none() && !runs_on;
        for pattern in case.children_in(Role::Pattern) {
            if let Some(first) = takes_any {
                let line = context.line(first.start);
                context
                    .report(pattern.span(), format!("line {line} matches everything already"))
                    .advice("put that case last")
                    .related(first, "this pattern matches everything");
                return;
            }
            if takes_all && matches!(pattern.kind(), Kind::WildcardPattern | Kind::CapturePattern) {
                takes_any = Some(pattern.span());
            }
            let text = file.node_text(pattern);
            let all = file.traits.runs_commands.then(|| taken.get("*")).flatten();
            if let Some(first) = taken.get(text).or(all).filter(|_| is_fixed(pattern) || all.is_some()).copied() {
                let line = context.line(first.start);
                context
                    .report(pattern.span(), format!("line {line} matches this already"))
                    .advice("correct one of the two, or remove this one")
                    .related(first, "this pattern matches it");
            }
            if takes_all {
                taken.entry(text).or_insert_with(|| pattern.span());
            }
        }
    }
}

/// Whether a pattern is a value that never changes.
fn is_fixed(pattern: NodeRef) -> bool {
    match pattern.kind() {
        Kind::LiteralPattern | Kind::Number | Kind::String => true,
        Kind::Word => pattern.children().all(|part| part.kind() == Kind::String),
        _ => false,
    }
}

fn on_handlers(context: &mut Context, attempt: NodeRef) {
    let file = context.file();
    if !file.traits.typed_handlers {
        return;
    }
    let mut taken: Vec<(&str, Span)> = Vec::new();
    for handler in attempt.children_in(Role::Handler) {
        let Some(exception) = handler.child(Role::Exception) else { continue };
        let each: Vec<NodeRef> =
            if exception.kind() == Kind::Tuple { exception.children().collect() } else { vec![exception] };
        let known = |error: &NodeRef| {
            error.kind() == Kind::Name
                && (context.names().is_builtin_at(error.id()) || own_base(context, *error).is_some())
        };
        let own: Vec<(&str, Vec<&str>)> = each
            .iter()
            .filter(|error| error.kind() == Kind::Name)
            .map(|error| (file.node_text(*error), own_family(context, *error)))
            .collect();
        let covered = |name: &str| {
            let above =
                own.iter().find(|(known, _)| *known == name).map(|(_, above)| above.as_slice()).unwrap_or_default();
            let last = above.last().copied().unwrap_or(name);
            taken.iter().find(|(wide, _)| above.contains(wide) || family(last).any(|above| above == *wide)).copied()
        };
        let names: Vec<&str> = each.iter().filter(|error| known(error)).map(|error| file.node_text(*error)).collect();
        let all_covered =
            names.len() == each.len() && !names.is_empty() && names.iter().all(|name| covered(name).is_some());
        if let Some((wide, first)) = names.first().and_then(|name| covered(name)).filter(|_| all_covered) {
            let line = context.line(first.start);
            context
                .report(exception.span(), format!("line {line} catches this already, as a {wide}"))
                .advice("put the narrower one first")
                .related(first, format!("this handler catches every {wide}"));
        }
        taken.extend(names.into_iter().map(|name| (name, exception.span())));
    }
}

/// What a class of the file is built on, if that is one class.
fn own_base<'t>(context: &Context<'t>, name: NodeRef<'t>) -> Option<NodeRef<'t>> {
    let mut bases = class_of(context.names(), name)?.child(Role::Arguments)?.children();
    let base = bases.next()?;
    (bases.next().is_none() && base.kind() == Kind::Name).then_some(base)
}

/// An error of the file and what it is a kind of, outwards, up to an error of the language.
fn own_family<'t>(context: &Context<'t>, name: NodeRef<'t>) -> Vec<&'t str> {
    let mut names = vec![context.text(name)];
    let mut class = name;
    // A chain of bases is short, and may go round in code that is wrong.
    while let Some(base) = own_base(context, class).filter(|_| names.len() < 8) {
        names.push(context.text(base));
        class = base;
    }
    names
}

/// An error of the language, and what it is a kind of, outwards: "Exception hierarchy" of the Python Library Reference 3.14.
fn family(name: &str) -> impl Iterator<Item = &str> {
    std::iter::successors(Some(name), |name| {
        let above = PARENTS.iter().find(|(_, members)| members.contains(name));
        above
            .map(|(above, _)| *above)
            .or_else(|| (!matches!(*name, "Exception" | "BaseException")).then_some("Exception"))
    })
}

const PARENTS: &[(&str, &[&str])] = &[
    ("BaseException", &["KeyboardInterrupt", "SystemExit", "GeneratorExit", "BaseExceptionGroup"]),
    ("ArithmeticError", &["FloatingPointError", "OverflowError", "ZeroDivisionError"]),
    ("ImportError", &["ModuleNotFoundError"]),
    ("LookupError", &["IndexError", "KeyError"]),
    ("NameError", &["UnboundLocalError"]),
    (
        "OSError",
        &[
            "BlockingIOError",
            "ChildProcessError",
            "ConnectionError",
            "FileExistsError",
            "FileNotFoundError",
            "InterruptedError",
            "IsADirectoryError",
            "NotADirectoryError",
            "PermissionError",
            "ProcessLookupError",
            "TimeoutError",
        ],
    ),
    (
        "ConnectionError",
        &["BrokenPipeError", "ConnectionAbortedError", "ConnectionRefusedError", "ConnectionResetError"],
    ),
    ("RuntimeError", &["NotImplementedError", "RecursionError"]),
    ("SyntaxError", &["IndentationError"]),
    ("IndentationError", &["TabError"]),
    ("ValueError", &["UnicodeError"]),
    ("UnicodeError", &["UnicodeDecodeError", "UnicodeEncodeError", "UnicodeTranslateError"]),
];
