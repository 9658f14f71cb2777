use rustc_hash::FxHashSet;
use sieve_meaning::is_of_library;
use sieve_syntax::language::Language;
use sieve_syntax::text::Span;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use crate::directive::is_directive;
use crate::habit::{begins_line, is_clear};

use crate::interface::{
    Certainty, Check, Concern, Context, Edit, Examples, File, FixKind, ImportGroups, Level, Mesh, OptionDefault,
    OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "import-order",
    concern: Concern::Layout,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Proven,
    languages: Language::WITH_CLASSES,
    fix: Some(FixKind::Review),
    what: "imports that are not in group order",
    why: "Imports grouped by origin show at a glance what a file depends on, and two people who add one seldom touch the same line.",
    silent: "Where blank lines part the imports, as in Java and C#, order is asked for among those that stand together alone: by name where most of them are, and in C# those of the library first; static imports and aliases are left alone there. Imports of types only may come after the others. Imports within functions or after other code are left alone. Imports for their effects, imports of all names and imports with a directive to some program stay where they are, and none is moved across one; nor is one of two imports of the same name moved across the other. With alphabet, a fix never changes the order of the project's own modules, which may import each other.",
    standards: &["PEP 8, Imports"],
    options: &[
        OptionFacts {
            name: "own",
            default: OptionDefault::Words(&[]),
            about: "prefixes of the names of the team's own modules",
        },
        OptionFacts {
            name: "alphabet",
            default: OptionDefault::Flag(false),
            about: "whether the imports of a group are in alphabetical order",
        },
    ],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "from . import tides\nimport os\n",
                    at: &["2:1"],
                    fixed: Some("import os\n\nfrom . import tides\n"),
                },
                Wrong {
                    code: "#!/usr/bin/env python3\n# -*- coding: utf-8 -*-\nimport boats\n# for paths\nimport os\n",
                    at: &["5:1"],
                    fixed: Some(
                        "#!/usr/bin/env python3\n# -*- coding: utf-8 -*-\n# for paths\nimport os\n\nimport boats\n",
                    ),
                },
                Wrong {
                    code: "import boats\nimport os  # for paths\nimport sys\n",
                    at: &["2:1"],
                    fixed: Some("import os  # for paths\nimport sys\n\nimport boats\n"),
                },
            ],
            right: &[
                "import os\nimport sys\n\nimport boats\n\nfrom . import tides\n",
                "from __future__ import annotations\n\nimport os\n",
                "import os\n\nx = 1\nimport abc\n",
                "from boats import *\nimport os\n",
                "import boats  # type: ignore\nimport os\n",
                "from boats import path\nfrom os import path\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "import a from \"./a.js\";\nimport b from \"boats\";\nimport fs from \"node:fs\";\n",
                at: &["2:1"],
                fixed: Some("import fs from \"node:fs\";\nimport b from \"boats\";\nimport a from \"./a.js\";\n"),
            }],
            right: &[
                "import fs from \"node:fs\";\nimport b from \"boats\";\nimport c from \"../c.js\";\nimport a from \"./a.js\";\n",
                "import a from \"./a.js\";\nimport \"polyfill\";\nimport b from \"boats\";\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[Wrong {
                code: "import type { A } from \"./a.js\";\nimport { b } from \"boats\";\n",
                at: &["2:1"],
                fixed: Some("import { b } from \"boats\";\nimport type { A } from \"./a.js\";\n"),
            }],
            right: &[
                "import { b } from \"boats\";\nimport { a } from \"./a.js\";\nimport type { C } from \"crews\";\nimport type { A } from \"./a.js\";\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "import ferry.Boat;\nimport ferry.Tide;\nimport java.util.List;\nimport java.util.Map;\nimport ferry.Quay;\n",
                at: &["5:1"],
                fixed: Some(
                    "import ferry.Boat;\nimport ferry.Quay;\nimport ferry.Tide;\nimport java.util.List;\nimport java.util.Map;\n",
                ),
            }],
            right: &[
                "import ferry.Quay;\nimport java.util.List;\n\nimport static java.lang.Math.max;\nimport java.io.File;\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "using Ferry.Quays;\n// For lists.\nusing System.Linq;\nusing Ferry.Tides;\n",
                at: &["3:1"],
                fixed: Some("// For lists.\nusing System.Linq;\nusing Ferry.Quays;\nusing Ferry.Tides;\n"),
            }],
            right: &[
                "using System;\nusing System.Linq;\nusing Ferry;\n\nusing System.IO;\n",
                "using Quay = Ferry.Quay;\nusing System;\nusing static Ferry.Tides;\n#if OPEN\nusing System.IO;\n#endif\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Nodes(&[Kind::File], check),
};

/// Where a module comes from, in the order of the groups.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Origin {
    /// Features of the language itself.
    Future,
    /// Modules of the language or its platform.
    Standard,
    /// Packages.
    Package,
    /// The team's own modules.
    Own,
    /// Modules named by a path from the file.
    Relative,
}

/// An import with the comments above it, as whole lines.
struct Line<'t> {
    node: NodeRef<'t>,
    origin: Origin,
    name: String,
    /// It imports types only.
    of_types: bool,
    /// The names that it binds.
    bound: Vec<String>,
    lines: Span,
}

fn check(context: &mut Context, file: NodeRef) {
    let mut run: Vec<Line> = Vec::new();
    // The last import of a name counts, so none of two is moved across the other.
    let mut bound: FxHashSet<String> = FxHashSet::default();
    for statement in file.children() {
        let Some(mut line) = line(context, statement) else {
            on_run(context, &run);
            run.clear();
            bound.clear();
            continue;
        };
        let goes_on = run.last().is_none_or(|last| belong_together(context, last, &line));
        if !goes_on || line.bound.iter().any(|name| bound.contains(name)) {
            on_run(context, &run);
            run.clear();
            bound.clear();
        }
        bound.extend(line.bound.drain(..));
        run.push(line);
    }
    on_run(context, &run);
}

/// Whether all imports of a file belong together, whatever blank lines are between them.
fn is_by_origin(file: File) -> bool {
    file.traits.import_groups == ImportGroups::ByOrigin
}

/// Whether there is nothing between two imports but what does not part them.
fn belong_together(context: &Context, one: &Line, other: &Line) -> bool {
    let file = context.file();
    one.lines.end <= other.lines.start
        && file.text.slice(Span::new(one.lines.end, other.lines.start)).trim().is_empty()
        && (is_by_origin(file) || one.lines.end == other.lines.start)
}

fn on_run(context: &mut Context, run: &[Line]) {
    let sorted = context.flag("alphabet") || is_sorted_mostly(context, run);
    let first_of_types = run.iter().position(|line| line.of_types).unwrap_or(run.len());
    let apart = run[first_of_types..].iter().all(|line| line.of_types);
    let by_origin = is_by_origin(context.file());
    let name = |line: &Line| match sorted {
        true if by_origin => line.name.to_lowercase(),
        // Capitals come before small letters, as the tools of these languages have it.
        true => line.name.clone(),
        false => String::new(),
    };
    let key = |line: &Line| (apart && line.of_types, line.origin, name(line));
    let Some(wrong) = run.windows(2).find(|pair| key(&pair[1]) < key(&pair[0])) else { return };
    let mut order: Vec<&Line> = run.iter().collect();
    order.sort_by_key(|line| key(line));
    let keeps_own = is_same_order(run, &order);
    let whole = Span::new(run[0].lines.start, run[run.len() - 1].lines.end);
    let edits = keeps_own.then(|| vec![Edit::replace(whole, in_order(context, &order))]);
    let name = &wrong[1].name;
    let advice = if keeps_own && by_origin {
        "group the imports: standard library, packages, own modules, relative ones"
    } else if keeps_own {
        "sort the imports that stand together"
    } else {
        "sort the imports, and check that the project's modules are still loaded before those that need them"
    };
    context
        .report(wrong[1].node.span(), format!("\"{name}\" is imported after \"{}\"", wrong[0].name))
        .advice(advice)
        .fix_to_review(edits);
}

/// The fewest imports whose order can be a habit.
const FEW: usize = 4;

/// Whether two of three neighbours among imports that stand together are in the order of their names: then all are meant to be.
fn is_sorted_mostly(context: &Context, run: &[Line]) -> bool {
    let in_order = run.windows(2).filter(|pair| (pair[0].origin, &pair[0].name) <= (pair[1].origin, &pair[1].name));
    !is_by_origin(context.file()) && run.len() >= FEW && is_clear(in_order.count(), run.len() - 1)
}

/// Whether the modules of the project stay in their order: where they import each other, another one may break them.
fn is_same_order(run: &[Line], order: &[&Line]) -> bool {
    let is_own = |line: &&Line| matches!(line.origin, Origin::Own | Origin::Relative) && !line.of_types;
    let places = |lines: &mut dyn Iterator<Item = u32>| lines.collect::<Vec<u32>>();
    let before = places(&mut run.iter().filter(is_own).map(|line| line.lines.start));
    let after = places(&mut order.iter().copied().filter(is_own).map(|line| line.lines.start));
    before == after
}

/// The imports in their order, with a blank line between groups where the language's style wants one.
fn in_order(context: &Context, order: &[&Line]) -> String {
    let file = context.file();
    let line_end = file.line_end();
    let mut text = String::new();
    for (index, line) in order.iter().enumerate() {
        let new_group = index > 0 && order[index - 1].origin != line.origin;
        if new_group && file.traits.has_common_style {
            text.push_str(line_end);
        }
        text.push_str(file.text.slice(line.lines).trim_end());
        text.push_str(line_end);
    }
    text
}

/// A statement as an import that may be moved: one that begins its line, is the only one there, and binds
/// names that it lists.
fn line<'t>(context: &Context, statement: NodeRef<'t>) -> Option<Line<'t>> {
    let file = context.file();
    let source = file.text.source();
    if statement.kind() != Kind::Import || !begins_line(file, statement.span().start) {
        return None;
    }
    if !is_by_origin(file) && is_special(statement) {
        return None;
    }
    let name = module_name(context, statement)?;
    let lines = file.text.lines();
    let (mut first, last) = (lines.line_of(statement.span().start), lines.line_of(statement.span().end - 1));
    let end = lines.full_line(last).end;
    let rest = file.text.slice(Span::new(statement.span().end, lines.line(source, last).end)).trim();
    if !(rest.is_empty() || rest.starts_with(file.language.spec().line_comment)) {
        return None;
    }
    let is_comment = |number: u32| {
        file.text.slice(lines.line(source, number)).trim_start().starts_with(file.language.spec().line_comment)
    };
    let above = (1..first).rev().take_while(|number| is_comment(*number)).last();
    // Comments directly above go with it. Those at the head of the file stay: they name the encoding, the licence, the author.
    first = above.filter(|above| *above > 1).unwrap_or(first);
    let own = Span::new(lines.full_line(first).start, end);
    let mut comments = file.tree.tokens_in(own).filter(|token| file.tree.token_kind(*token) == TokenKind::Comment);
    if imports_all(statement) || comments.any(|comment| is_directive(file.text.slice(file.tree.token_span(comment)))) {
        return None;
    }
    Some(Line {
        node: statement,
        origin: origin(context, &name),
        name,
        of_types: is_of_types(context, statement),
        bound: bound_names(file, statement),
        lines: own,
    })
}

/// Whether an import gives another name to something, or takes members of a type: these stand apart.
fn is_special(import: NodeRef) -> bool {
    let of_item = |item: NodeRef<'_>| {
        let mut words = import.tokens_before(Some(item));
        item.child(Role::Alias).is_some() || words.any(|(_, kind)| kind == TokenKind::StaticWord)
    };
    import.children_in(Role::Item).any(of_item)
}

/// Whether an import takes all names of a module: they may replace others, so it is not moved.
fn imports_all(import: NodeRef) -> bool {
    import.children_in(Role::Item).any(|item| item.kind() == Kind::ImportAll && item.child(Role::Alias).is_none())
}

/// The names that an import binds.
fn bound_names(file: File, import: NodeRef) -> Vec<String> {
    let bound = |item: NodeRef<'_>| {
        let name = item.child(Role::Alias).or_else(|| item.child(Role::Name)).or_else(|| item.child(Role::Module));
        // `import tides.north` binds `tides`, and so does `import tides.south`: to the same module.
        name.map(|name| file.node_text(name)).filter(|name| !name.contains('.')).map(str::to_string)
    };
    import.children_in(Role::Item).filter_map(bound).collect()
}

/// Whether the word `type` follows `import`, for all that is imported.
fn is_of_types(context: &Context, import: NodeRef) -> bool {
    let mut words = context.text(import).split_whitespace();
    let is_type = words.next() == Some("import") && words.next() == Some("type");
    is_type && !context.file().traits.dotted_modules && words.next() != Some("from")
}

fn module_name(context: &Context, import: NodeRef) -> Option<String> {
    let file = context.file();
    let first_item = || import.child(Role::Item).and_then(|item| item.child(Role::Module).or(item.child(Role::Name)));
    let module = if !is_by_origin(file) {
        import.child(Role::Item)?
    } else if file.traits.dotted_modules {
        import.child_at_end(Role::Module).or_else(first_item)?
    } else {
        // An import without names is there for its effects.
        import.child(Role::Item)?;
        import.child_at_end(Role::Module)?
    };
    Some(file.node_text(module).trim_matches(['"', '\'']).to_string())
}

fn origin(context: &Context, name: &str) -> Origin {
    let file = context.file();
    let own = context.words("own");
    let is_own = |prefix: &String| {
        name == prefix
            || name
                .strip_prefix(prefix.as_str())
                .is_some_and(|rest| prefix.ends_with('/') || rest.starts_with(['.', '/']))
    };
    if name.starts_with('.') {
        return Origin::Relative;
    }
    if own.iter().any(is_own) {
        return Origin::Own;
    }
    if let ImportGroups::ByBlankLines { library_first } = file.traits.import_groups {
        let is_first = library_first && is_of_library(file.language, name);
        return if is_first { Origin::Standard } else { Origin::Package };
    }
    let dotted = file.traits.dotted_modules;
    match name {
        "__future__" if dotted => Origin::Future,
        _ if is_of_library(file.language, name) => Origin::Standard,
        _ if dotted && package_of(file.path) == name.split('.').next() => Origin::Own,
        _ if dotted => Origin::Package,
        _ if name.starts_with("@/") || name.starts_with("~/") || name.starts_with('#') => Origin::Own,
        _ => Origin::Package,
    }
}

/// The name of the outermost package around a file, by its path: the first folder, or the one in the folder of the sources.
fn package_of(path: &str) -> Option<&str> {
    let mut folders = path.split('/');
    let first = folders.next()?;
    if matches!(first, "src" | "lib" | "python") { folders.next() } else { Some(first) }
}
