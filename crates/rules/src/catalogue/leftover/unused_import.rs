use rustc_hash::FxHashSet;
use sieve_meaning::is_of_library;
use sieve_meaning::names::{Binding, Declaration, DeclarationKind, Exports, ScopeId, ScopeKind};
use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role, TokenKind};

use super::import_removal::removal;
use crate::evaluated::evaluated_words;
use crate::expected::handles_failed_import;
use crate::face::re_exports;
use crate::interface::word_hash;
use crate::interface::{
    Certainty, Check, Concern, Context, Examples, File, FixKind, Level, Mesh, ReexportedName, Rule, Wrong,
};
use crate::typed_in_comment::is_typed_in_comment;

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "unused-import",
    concern: Concern::Leftover,
    mesh: Mesh::Medium,
    level: Level::Warning,
    certainty: Certainty::Proven,
    languages: Language::WITH_CLASSES,
    fix: Some(FixKind::Exact),
    what: "an import whose name is never used",
    why: "It costs time at every start, ties the file to a module it does not need, and misleads readers.",
    silent: "Where the name may be re-exported: in `__init__` files and in stubs, in a module without a \
             list of its exports that imports public names of a private module or of one with its own name, under a \
             handler for a missing module, for a submodule (loading it may be the purpose), with exports or names made at \
             run time, beside a comment, where a string that is run or looked up holds the name, where the parameters of tests may be filled by it, and where another file of the package \
             uses it through this one.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong {
                    code: "#!/usr/bin/env python3\nimport os\n",
                    at: &["2:8"],
                    fixed: Some("#!/usr/bin/env python3\n"),
                },
                Wrong {
                    code: "import os\nimport tides\n\ntides.today()\n",
                    at: &["1:8"],
                    fixed: Some("import tides\n\ntides.today()\n"),
                },
                Wrong {
                    code: "from quays import north, south as s, west\n\nnorth(west)\n",
                    at: &["1:26"],
                    fixed: Some("from quays import north, west\n\nnorth(west)\n"),
                },
                Wrong {
                    code: "def book(day):\n    if day:\n        import tides\n    return day\n",
                    at: &["3:16"],
                    fixed: Some("def book(day):\n    if day:\n        pass\n    return day\n"),
                },
            ],
            right: &[
                "import quays\n\n__all__ = [\"quays\"]\n",
                "from tides import table as table\n",
                "try:\n    import tides\nexcept ImportError:\n    print('no tide table')\n",
                "from tides import Tide\n\ndef sail(tide: \"Tide\"):\n    pass\n",
                "from __future__ import annotations\n",
                "from tides import Tide\nfrom typing import cast\n\ndef sail(x):\n    return cast(\"list[Tide, None]\", x)\n",
                "# Loading it adds the tide commands.\nimport tides\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "import { quays } from './quays';\nimport tides from './tides';\n\ntides();\n",
                    at: &["1:10"],
                    fixed: Some("import tides from './tides';\n\ntides();\n"),
                },
                Wrong {
                    code: "import tides, { low, high as top } from './tides';\n\ntides(top);\n",
                    at: &["1:17"],
                    fixed: Some("import tides, { high as top } from './tides';\n\ntides(top);\n"),
                },
                Wrong {
                    code: "import tides, { low } from './tides';\nimport quay, * as quays from './quays';\n\ntides(quays);\n",
                    at: &["1:17", "2:8"],
                    fixed: Some("import tides from './tides';\nimport * as quays from './quays';\n\ntides(quays);\n"),
                },
            ],
            right: &[
                "import './tides';\nimport style from './quay.css';\n\nconsole.log(1);\n",
                "import { quays } from './quays';\n\nexport { quays };\n",
                "import { // for those who import them from here\n  quays,\n  tides,\n} from './quays';\n\nconsole.log(1);\n",
                "import React from 'react';\n\nexport const Quay = () => <p>North</p>;\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "package ferries.quay;\n\nimport ferries.tides.Table;\nimport ferries.tides.Tide;\n\nclass Quay {\n    Tide low;\n}\n",
                    at: &["3:8"],
                    fixed: Some(
                        "package ferries.quay;\n\nimport ferries.tides.Tide;\n\nclass Quay {\n    Tide low;\n}\n",
                    ),
                },
                Wrong {
                    code: "import static ferries.tides.Depths.low;\n\nclass Quay {\n    int low = 3;\n\n    int depth() {\n        return low;\n    }\n}\n",
                    at: &["1:15"],
                    fixed: Some(
                        "\nclass Quay {\n    int low = 3;\n\n    int depth() {\n        return low;\n    }\n}\n",
                    ),
                },
            ],
            right: &[
                "import ferries.tides.*;\nimport ferries.tides.Table;\nimport static ferries.tides.Depths.low;\n\n/** What a {@link Table} says. */\nclass Quay {\n    int depth = low();\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "using System;\nusing Table = Ferries.Tides.Table;\nusing Tide = Ferries.Tides.Tide;\n\nclass Quay {\n    Tide low;\n}\n",
                at: &["2:7"],
                fixed: Some("using System;\nusing Tide = Ferries.Tides.Tide;\n\nclass Quay {\n    Tide low;\n}\n"),
            }],
            right: &[
                "global using Table = Ferries.Tides.Table;\nusing Tide = Ferries.Tides.Tide;\n\n/// <see cref=\"Tide\"/>\nclass Quay {}\n",
                "using LowAttribute = Ferries.Tides.LowAttribute;\nusing nint = System.Int64;\n\n[Low]\nclass Quay {\n    nint depth;\n}\n",
                "using Low = Ferries.Tides.LowAttribute;\n\nnamespace Ferries.Quays {\n    [Low]\n    class Quay {}\n\n    class Low<T> {}\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Bindings(check),
};

/// Names that unittest finds in a module (its load_tests protocol and module fixtures).
const FOUND_BY_NAME: &[&str] = &["load_tests", "setUpModule", "tearDownModule"];

fn check(context: &mut Context, binding: &Binding) {
    let names = context.names();
    let is_used = binding.uses > 0 || names.may_be_expanded(binding);
    if is_used || !binding.declarations.iter().any(is_import) {
        return;
    }
    let name = names.text(binding.name);
    let file = context.file();
    let is_shared = binding.declarations.iter().any(|declaration| declaration.kind == DeclarationKind::Elsewhere);
    let shared = is_shared.then_some("the name is shared with other functions");
    for declaration in binding.declarations.iter().filter(|declaration| is_import(declaration)) {
        let item = file.tree.node(declaration.node);
        let Some(import) = item.parent() else { continue };
        if is_future(file, import) || is_same_alias(file, item) {
            continue;
        }
        let span = item.span();
        let reason = shared.or_else(|| why_unsure(context, binding, item, import, name));
        if let Some(reason) = reason.or_else(|| is_mentioned(file, name).then_some("a string mentions the name")) {
            context.unsure(span, reason);
            continue;
        }
        let what = describe(file, item, import);
        let edits = removal(file, item, import);
        let open = file.language.spec().exports_everything;
        let reexported = (open && binding.scope == ScopeId::FILE).then(|| ReexportedName {
            module: file.module_name().to_string(),
            name: name.to_string(),
            group: import.id().0,
            is_public: may_be_wanted(context, item, import, name),
        });
        let has_effects = loads_effects(context, item, import);
        let reported = context.report(span, format!("{what} is imported but never used")).unless_used(reexported);
        if has_effects {
            reported
                .advice("loading the module has an effect: remove the import if nothing needs that")
                .fix_to_review(Some(edits));
        } else {
            reported.advice("remove it").fix(edits);
        }
    }
}

fn is_import(declaration: &Declaration) -> bool {
    declaration.kind == DeclarationKind::Import
}

fn is_future(file: File<'_>, import: NodeRef) -> bool {
    import.child_at_end(Role::Module).is_some_and(|module| file.node_text(module) == "__future__")
}

/// `import x as x` says that the name is meant to be re-exported (PEP 484).
fn is_same_alias(file: File<'_>, item: NodeRef) -> bool {
    let alias = item.child(Role::Alias).map(|alias| file.node_text(alias));
    let name = item.child(Role::Name).or_else(|| item.child(Role::Module)).map(|name| file.node_text(name));
    alias.is_some() && alias == name
}

fn why_unsure(
    context: &Context,
    binding: &Binding,
    item: NodeRef,
    import: NodeRef,
    name: &str,
) -> Option<&'static str> {
    let names = context.names();
    let file = context.file();
    let scope = names.scope(binding.scope);
    if let Some(reason) = scope.may_use {
        return Some(reason.describe());
    }
    if scope.kind == ScopeKind::Class {
        return Some("a name of a class may be used through the class");
    }
    if file.only_describes() && !file.traits.indents_blocks {
        return Some("declarations are made by compilers, which leave imports over");
    }
    if handles_failed_import(file, import) {
        return Some("the import tries whether the module is there");
    }
    if is_typed_in_comment(file, name) {
        return Some("documentation names it as a type");
    }
    if is_commented(file, item, import) {
        return Some("a comment says something of the import");
    }
    if loads_submodule(file, item, import) || is_whole_body(file, import) || loads_other_than_code(file, import) {
        return Some("loading the module may be what the import is for");
    }
    if FOUND_BY_NAME.contains(&name) || (name.starts_with("__") && name.ends_with("__")) {
        return Some("the name is found by whoever loads the file");
    }
    if binding.scope == ScopeId::FILE {
        if file.name() == "__init__.py" || file.name().ends_with(".pyi") {
            return Some("the file may hand the name on");
        }
        if names.exports() == Exports::Unknown {
            return Some("the list of exports is made at run time");
        }
        if file.name() == "conftest.py" || file.is_test() && is_parameter(file, name) {
            return Some("a runner of tests may find the name by parameters");
        }
        if is_face_of(file, import) || (import.child_at_end(Role::Module).is_some() && re_exports(file)) {
            return Some("the module may be the public face of another one");
        }
        if names.exports() == Exports::Unlisted && hands_on_private(file, item, import) {
            return Some("the module may re-export names of a private one");
        }
    }
    None
}

/// Whether a function of the file has a parameter of that name.
fn is_parameter(file: File<'_>, name: &str) -> bool {
    let named =
        || file.tree.nodes().filter(|node| node.role() == Role::Parameter).filter_map(|one| one.child(Role::Name));
    let hashes = || Parameters(named().map(|name| word_hash(file.node_text(name))).collect());
    file.language.spec().exports_everything && file.once(hashes).0.contains(&word_hash(name))
}

/// Hashes of the names of all parameters.
struct Parameters(FxHashSet<u64>);

/// Whether code outside of the project could import the name from here: it is public by where it is, and does not come from the
/// library of the language, from which everybody takes it directly.
fn may_be_wanted(context: &Context, item: NodeRef, import: NodeRef, name: &str) -> bool {
    let file = context.file();
    let module =
        import.child_at_end(Role::Module).or_else(|| item.child(Role::Module)).map(|module| file.node_text(module));
    let is_listed = context.names().exports() == Exports::Listed;
    let is_private = name.starts_with('_') || file.name().starts_with('_');
    !file.is_test() && !is_listed && !is_private && !module.is_some_and(|module| is_of_library(file.language, module))
}

/// `import a.b` binds `a`, but loads `a.b` too; `from . import a` loads a neighbour.
fn loads_submodule(file: File<'_>, item: NodeRef, import: NodeRef) -> bool {
    if item.child(Role::Module).is_some() && item.child(Role::Name).is_some() {
        return false;
    }
    let dotted = |module: NodeRef| module.significant_tokens().any(|(_, kind)| kind == TokenKind::Dot);
    let from_package =
        import.child_at_end(Role::Module).is_some_and(|module| file.node_text(module).trim_matches('.').is_empty());
    from_package || (item.child(Role::Alias).is_none() && item.child(Role::Module).is_some_and(dotted))
}

/// Whether a comment is beside the item, at the head of the statement, after it on its line, or directly above it, other than a
/// directive of ours.
fn is_commented(file: File<'_>, item: NodeRef, import: NodeRef) -> bool {
    let tree = file.tree;
    let remark = |token: u32| {
        tree.token_kind(token) == TokenKind::Comment && !file.text.slice(tree.token_span(token)).contains("sieve:")
    };
    let statement = import.token_range();
    let around = item.token_range();
    let is_beside = |token: &u32| tree.token_kind(*token).is_trivia() || tree.token_kind(*token) == TokenKind::Comma;
    let first = import.children_in(Role::Item).next().map_or(around.start, |first| first.token_range().start);
    let head = statement.start..first;
    let before = (statement.start..around.start).rev().take_while(is_beside);
    let behind = (around.end..statement.end).take_while(is_beside);
    let after =
        (statement.end..).take_while(|token| matches!(tree.token_kind(*token), TokenKind::Blank | TokenKind::Comment));
    head.chain(before).chain(around).chain(behind).chain(after).any(remark)
        || line_above(file, import).is_some_and(|token| remark(token) && !names_program(file, token))
}

/// Whether a comment is the first line of a script, which names the program that runs it, or names the encoding.
fn names_program(file: File<'_>, comment: u32) -> bool {
    let text = file.text.slice(file.tree.token_span(comment));
    text.starts_with("#!") || file.text.place(file.tree.token_start(comment)).line < 3 && text.contains("coding")
}

/// The comment that is alone on the line above a statement.
fn line_above(file: File<'_>, import: NodeRef) -> Option<u32> {
    let kind = |token: u32| file.tree.token_kind(token);
    let mut before = (0..import.token_range().start).rev().filter(|token| kind(*token) != TokenKind::Blank);
    let line_end = before.find(|token| !kind(*token).is_layout() || kind(*token) == TokenKind::Newline)?;
    // The line end after a comment of its own has no meaning; that after code has.
    before.next().filter(|comment| kind(line_end) == TokenKind::LineEnd && kind(*comment) == TokenKind::Comment)
}

/// `import style from "./quay.css"`: what is loaded is no code, and loading it does something.
fn loads_other_than_code(file: File<'_>, import: NodeRef) -> bool {
    let Some(module) = import.child_at_end(Role::Module).filter(|module| module.kind() == Kind::String) else {
        return false;
    };
    let path = file.language.string_value(file.node_text(module)).unwrap_or_default();
    let name = path.rsplit('/').next().unwrap_or_default();
    let ending = name.rsplit_once('.').map_or("", |(_, ending)| ending);
    path.starts_with('.') && !ending.is_empty() && !Language::of_extension(ending).is_some_and(Language::is_code)
}

/// Whether removing the item would keep a module of the project from being loaded whose loading does something: it calls, registers,
/// or changes what is in other modules.
fn loads_effects(context: &Context, item: NodeRef, import: NodeRef) -> bool {
    let file = context.file();
    let Some(calls) = file.calls else { return false };
    let Some(module) = import.child_at_end(Role::Module).or_else(|| item.child(Role::Module)) else { return false };
    file.named_by(module).is_some_and(|name| calls.has_effects(&name))
}

/// Whether the function around it does nothing but import.
fn is_whole_body(file: File<'_>, import: NodeRef) -> bool {
    import.parent().filter(|block| block.parent().is_some_and(|holder| holder.kind() == Kind::Function)).is_some_and(
        |block| {
            let is_text =
                |statement: NodeRef| statement.child(Role::Value).is_some_and(|value| value.kind() == Kind::String);
            let only = || block.children().all(|statement| statement.kind() == Kind::Import || is_text(statement));
            file.once_at(block, || OnlyImports(only())).0
        },
    )
}

/// Whether the body of a function does nothing but import.
struct OnlyImports(bool);

/// Whether the import is of a module with the name of this file, apart from underscores in front.
fn is_face_of(file: File<'_>, import: NodeRef) -> bool {
    import.child_at_end(Role::Module).is_some_and(|module| {
        let last = file.node_text(module).rsplit('.').next().unwrap_or_default();
        !last.is_empty() && last.trim_start_matches('_') == file.module_name().trim_start_matches('_')
    })
}

/// `from _tides import Table`: the usual way to give a private module a public face.
fn hands_on_private(file: File<'_>, item: NodeRef, import: NodeRef) -> bool {
    let private_module = import.child_at_end(Role::Module).is_some_and(|module| {
        let name = file.node_text(module).rsplit('.').next().unwrap_or_default();
        name.starts_with('_')
    });
    let public_name = item.child(Role::Alias).or_else(|| item.child(Role::Name));
    private_module && public_name.is_some_and(|name| !file.node_text(name).starts_with('_'))
}

/// Whether a string or a comment of the file holds the name where it may stand for code.
fn is_mentioned(file: File<'_>, name: &str) -> bool {
    file.once(|| EvaluatedWords(evaluated_words(file))).0.contains(&word_hash(name))
}

/// Hashes of the words in strings and comments that may stand for code.
struct EvaluatedWords(FxHashSet<u64>);

fn describe(file: File<'_>, item: NodeRef, import: NodeRef) -> String {
    let text = |role| item.child(role).map(|part| file.node_text(part));
    let name = text(Role::Name).or(text(Role::Module)).or(text(Role::Alias)).unwrap_or_default();
    // The name of a module in quotes is no part of the name.
    let of_item = item.child(Role::Module).filter(|_| item.child(Role::Name).is_some());
    let module = import.child_at_end(Role::Module).or(of_item).filter(|module| module.kind() != Kind::String);
    let module = module.map(|module| file.node_text(module));
    let dot = if module.is_some_and(|module| module.ends_with('.')) { "" } else { "." };
    let full = module.map_or(name.to_string(), |module| format!("{module}{dot}{name}"));
    match text(Role::Alias) {
        Some(alias) if alias != name => format!("\"{full}\" as \"{alias}\""),
        _ => format!("\"{full}\""),
    }
}
