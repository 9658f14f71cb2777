use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::{handles_failed_import, is_declared_wrong, tests_error};
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-file",
    concern: Concern::Mistake,
    mesh: Mesh::Medium,
    level: Level::Error,
    certainty: Certainty::Probable,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "an import of a file beside this one that is not there",
    why: "The import fails when it runs: the file was renamed, moved or deleted, or its name is misspelt.",
    silent: "Below `@ts-ignore` and `@ts-expect-error`. For modules that are not named by their place, where anything in the folder has the name with any ending, \
             where the folder is not there or is made by a build, in Python for names that begin with an underscore or \
             speak of a version, or that a file in another language has, which are compiled or generated, in tests that expect an error, and where a failing \
             import is handled or a test of types chooses how the file is loaded.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "# quays/__init__.py\n\n# quays/tides.py\nlow = 1\n\n# quays/board.py\nfrom .tide import low\n",
                at: &["7:6"],
                fixed: None,
            }],
            right: &[
                "# quays/__init__.py\n\n# quays/tides.py\nlow = 1\n\n# quays/board.py\nfrom .tides import low\n",
                "# quays/__init__.py\n\n# quays/board.py\nfrom ._version import version\n",
                "# quays/__init__.py\n\n# quays/board.py\ntry:\n    from .tide import low\nexcept ImportError:\n    low = 1\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "// tides.js\nexport const low = 1;\n\n// board.js\nimport { low } from './tide';\nexport * from './quays.js';\n",
                    at: &["5:21", "6:15"],
                    fixed: None,
                },
                Wrong {
                    code: "// tides.js\nexports.low = 1;\n\n// board.js\nconst tides = require('./tide');\n",
                    at: &["5:23"],
                    fixed: None,
                },
            ],
            right: &[
                "// board.ts\n// @ts-ignore\nimport { low } from './tides';\n\nlow();\n",
                "// tides.js\nexport const low = 1;\n\n// board.js\nimport { low } from './tides';\nimport { high } from 'almanac';\nimport './dist/quays.js';\n",
                "// board.js\ntry {\n  module.exports = require('./native');\n} catch (error) {\n  module.exports = null;\n}\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Joined(&[Kind::Import, Kind::Export, Kind::Call], check),
};

fn check(context: &mut Context, import: NodeRef) {
    let file = context.file();
    let Some(node) = module_of(context, import).filter(|_| !file.only_describes()) else { return };
    let Some((module, calls)) = file.named_by(node).zip(file.calls) else { return };
    if !module.starts_with('.') || is_made(&module, file.language.spec().exports_everything) {
        return;
    }
    if calls.is_missing(&module)
        && !handles_failed_import(file, import)
        && !tests_error(file, import)
        && !is_declared_wrong(file, import)
        && !is_tried(context, import)
    {
        context
            .report(node.span(), format!("no file is there for {module}"))
            .advice("correct the path, or remove the import");
    }
}

/// The node that names the module: of an import, or of a call of `require` with nothing but a string.
fn module_of<'t>(context: &Context, node: NodeRef<'t>) -> Option<NodeRef<'t>> {
    if node.kind() != Kind::Call {
        return node.child(Role::Module);
    }
    let callee = node.child(Role::Callee).filter(|callee| callee.kind() == Kind::Name)?;
    if context.text(callee) != "require" || !context.names().is_builtin_at(callee.id()) {
        return None;
    }
    let mut arguments = node.child(Role::Arguments)?.children();
    arguments.next().filter(|first| first.kind() == Kind::String && arguments.next().is_none())
}

/// Parts of paths that builds make, and programs that load one file through another.
const MADE: &[&str] = &["dist", "build", "out", "lib", "target", "generated", "__generated__", "node_modules", "pkg"];

/// Whether a path leads to what a program makes before the code runs.
fn is_made(module: &str, is_dotted: bool) -> bool {
    if is_dotted {
        let mut names = module.split('.').filter(|name| !name.is_empty());
        return names.any(|name| name.starts_with('_') || name.contains("version") || name.contains("generated"));
    }
    let named = |part: &str| MADE.contains(&part) || part.contains("generated") || part.contains(".gen");
    module.contains(['?', '!', '#', '*', '$', '{']) || module.split('/').any(named)
}

/// Whether a failure is handled by hand, or the import is for one of several ways in which the file may be loaded.
fn is_tried(context: &Context, import: NodeRef) -> bool {
    let mut inner = import;
    for around in import.ancestors() {
        let asks = |test: NodeRef| context.text(test).contains("typeof ");
        let is_tried = around.kind() == Kind::Try && inner.role() == Role::Body;
        let may_choose = matches!(around.kind(), Kind::If | Kind::Conditional);
        if is_tried || may_choose && around.child(Role::Condition).is_some_and(asks) {
            return true;
        }
        inner = around;
    }
    false
}
