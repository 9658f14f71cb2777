use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef, Role};

use crate::expected::handles_failed_import;
use crate::interface::{Certainty, Check, Concern, Context, Examples, Level, Mesh, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "missing-export",
    concern: Concern::Mistake,
    mesh: Mesh::Coarse,
    level: Level::Error,
    certainty: Certainty::Proven,
    languages: Language::WITH_NAMES,
    fix: None,
    what: "a name that is imported from a file of the project that does not have it",
    why: "The import raises an error when it runs, or gives nothing: the name is misspelt, was renamed, or has moved.",
    silent: "Where the file is not known: outside of the project, or meant by two paths. Where it may have more names than it shows: made at run time, by `__getattr__`, through star imports of unknown modules, or in CommonJS. For names in small letters from a Python package, which may be compiled or generated modules, in stubs, and where a failing import is handled; for names that the module gives to a call for its effect, or that begin with the name of a class of it, which a decorator may make; where the package calls something else by the name of the module.",
    standards: &[],
    options: &[],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "# tides.py\ndef low(day):\n    return day\n\n# board.py\nfrom tides import high, low\n",
                at: &["6:19"],
                fixed: None,
            }],
            right: &[
                "# tides.py\nfrom public import public\n\n\nclass Clock:\n    pass\n\n\npublic(low=Clock())\n\n# board.py\nfrom tides import low\n\nlow()\n",
                "# tides.py\ndef low(day):\n    return day\n\n# board.py\nfrom tides import low\n",
                "# tides.py\nfrom almanac import *\n\n# board.py\nfrom tides import high\n",
                "# tides.py\nfrom lazily import hand_on\n\nhand_on(__name__, '.days')\n\n# board.py\nfrom tides import Low\n",
                "# tides/board.py\nfrom tides import Low\n\n# tides/__init__.py\n",
                "# board.py\ntry:\n    from tides import high\nexcept ImportError:\n    high = None\n\n# tides.py\nlow = 1\n",
            ],
        },
        Examples {
            language: Language::TypeScript,
            wrong: &[
                Wrong {
                    code: "// tides.ts\nexport const low = 1;\n\n// board.ts\nimport { lows } from \"./tides\";\nexport { high } from \"./tides\";\n",
                    at: &["5:10", "6:10"],
                    fixed: None,
                },
                Wrong {
                    code: "// tides.ts\nexport const low = 1;\n\n// board.ts\nimport tides from \"./tides\";\n",
                    at: &["5:8"],
                    fixed: None,
                },
            ],
            right: &[
                "// tides.ts\nexport const low = 1;\nexport type Tide = number;\nexport default low;\n\n// board.ts\nimport tides, { low, type Tide } from \"./tides\";\n",
                "// tides.ts\nexport * from \"almanac\";\n\n// board.ts\nimport { high } from \"./tides\";\n",
            ],
        },
    ],
    needs_names: true,
    check: Check::Joined(&[Kind::Import, Kind::Export], check),
};

fn check(context: &mut Context, import: NodeRef) {
    let file = context.file();
    // What a stub imports may be in another stub.
    let Some(module) = import.child_at_end(Role::Module).filter(|_| !file.only_describes()) else { return };
    let Some((module, calls)) = file.named_by(module).zip(file.calls) else { return };
    for item in import.children_in(Role::Item) {
        let Some(name) = item.child(Role::Name).filter(|_| item.child(Role::Module).is_none()) else { continue };
        let wanted = if item.kind() == Kind::ImportDefault { "default" } else { file.node_text(name) };
        let is_special = wanted.starts_with("__") && wanted.ends_with("__");
        if is_special || !calls.lacks(&module, wanted) || handles_failed_import(file, import) {
            continue;
        }
        let what = match wanted {
            "default" => format!("{module} has no default export"),
            wanted => format!("{module} has no \"{wanted}\""),
        };
        context.report(name.span(), what).advice("correct the name, or import it from where it is now");
    }
}
