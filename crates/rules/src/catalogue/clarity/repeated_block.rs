use sieve_syntax::language::Language;

use crate::copies::{ADVICE, Window, copies, windows};

use crate::interface::{
    Certainty, Check, Concern, Context, Examples, Level, Mesh, OptionDefault, OptionFacts, Rule, Wrong,
};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "repeated-block",
    concern: Concern::Clarity,
    mesh: Mesh::Fine,
    level: Level::Note,
    certainty: Certainty::Probable,
    languages: Language::OF_PROGRAMS,
    fix: None,
    what: "statements that are a copy of others",
    why: "A bug fixed in one copy stays in the others, and nobody knows them all.",
    silent: "Whitespace and comments do not count, and any number or string equals any other. Copies are looked for in all files of a run; a copy of another file's code is reported where the later one is. Tests, imports, and files that only describe others are left alone.",
    standards: &[],
    options: &[OptionFacts {
        name: "tokens",
        default: OptionDefault::Count(60),
        about: "how many tokens a copy has at least",
    }],
    examples: &[
        Examples {
            language: Language::Python,
            wrong: &[Wrong {
                code: "def quay_fare(name, kind):\n    adult = load(name, kind)\n    child = adult.price * share(kind, 0.5)\n    if child < least(kind):\n        child = least(kind)\n    total = adult.price + child\n    record(name, kind, adult, child, total)\n    announce(name, total, to=kind)\n    return total\n\n\ndef boat_fare(name, kind):\n    adult = load(name, kind)\n    child = adult.price * share(kind, 0.75)\n    if child < least(kind):\n        child = least(kind)\n    total = adult.price + child\n    record(name, kind, adult, child, total)\n    announce(name, total, to=kind)\n    return total\n",
                at: &["13:5"],
                fixed: None,
            }],
            right: &[
                "def quay_fare(name, kind):\n    adult = load(name, kind)\n    child = adult.price * share(kind, 0.5)\n    if child < least(kind):\n        child = least(kind)\n    total = adult.price + child\n    record(name, kind, adult, child, total)\n    announce(name, total, to=kind)\n    return total\n\n\ndef boat_fare(name, kind):\n    grown = load(name, kind)\n    child = grown.price * share(kind, 0.5)\n    if child < least(kind):\n        child = least(kind)\n    total = grown.price + child\n    record(name, kind, grown, child, total)\n    announce(name, total, to=kind)\n    return total\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[Wrong {
                code: "function quayFare(name, kind) {\n  const adult = load(name, kind);\n  let child = adult.price * share(kind, 0.5);\n  if (child < least(kind)) {\n    child = least(kind);\n  }\n  const total = adult.price + child;\n  record(name, kind, adult, child, total);\n  announce(name, total, kind);\n  return total;\n}\n\nfunction boatFare(name, kind) {\n  const adult = load(name, kind);\n  let child = adult.price * share(kind, 0.5);\n  if (child < least(kind)) {\n    child = least(kind);\n  }\n  const total = adult.price + child;\n  record(name, kind, adult, child, total);\n  announce(name, total, kind);\n  return total;\n}\n",
                at: &["14:3"],
                fixed: None,
            }],
            right: &[
                "function quayFare(name, kind) {\n  const adult = load(name, kind);\n  let child = adult.price * share(kind, 0.5);\n  if (child < least(kind)) {\n    child = least(kind);\n  }\n  const total = adult.price + child;\n  record(name, kind, adult, child, total);\n  announce(name, total, kind);\n  return total;\n}\n",
            ],
        },
        Examples {
            language: Language::Go,
            wrong: &[Wrong {
                code: "package fares\n\nfunc quay(name, kind string) int {\n	adult := load(name, kind)\n	child := adult.price * share(kind, 0.5)\n	if child < least(kind) {\n		child = least(kind)\n	}\n	total := adult.price + child\n	record(name, kind, adult, child, total)\n	announce(name, total, kind)\n	return total\n}\n\nfunc boat(name, kind string) int {\n	adult := load(name, kind)\n	child := adult.price * share(kind, 0.5)\n	if child < least(kind) {\n		child = least(kind)\n	}\n	total := adult.price + child\n	record(name, kind, adult, child, total)\n	announce(name, total, kind)\n	return total\n}\n",
                at: &["16:2"],
                fixed: None,
            }],
            right: &[
                "package fares\n\nfunc quay(name, kind string) int {\n	adult := load(name, kind)\n	child := adult.price * share(kind, 0.5)\n	if child < least(kind) {\n		child = least(kind)\n	}\n	total := adult.price + child\n	record(name, kind, adult, child, total)\n	announce(name, total, kind)\n	return total\n}\n",
            ],
        },
        Examples {
            language: Language::Rust,
            wrong: &[Wrong {
                code: "fn quay(name: &str, kind: u8) -> u32 {\n    let adult = load(name, kind);\n    let mut child = adult.price * share(kind, 0.5);\n    if child < least(kind) {\n        child = least(kind);\n    }\n    let total = adult.price + child;\n    record(name, kind, adult, child, total);\n    announce(name, total, kind);\n    return total;\n}\n\nfn boat(name: &str, kind: u8) -> u32 {\n    let adult = load(name, kind);\n    let mut child = adult.price * share(kind, 0.5);\n    if child < least(kind) {\n        child = least(kind);\n    }\n    let total = adult.price + child;\n    record(name, kind, adult, child, total);\n    announce(name, total, kind);\n    return total;\n}\n",
                at: &["14:5"],
                fixed: None,
            }],
            right: &[
                "fn quay(name: &str, kind: u8) -> u32 {\n    let adult = load(name, kind);\n    let mut child = adult.price * share(kind, 0.5);\n    if child < least(kind) {\n        child = least(kind);\n    }\n    let total = adult.price + child;\n    record(name, kind, adult, child, total);\n    announce(name, total, kind);\n    return total;\n}\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[Wrong {
                code: "class Desk {\n    int quay(String name, int kind) {\n        var adult = load(name, kind);\n        var child = adult.price * share(kind, 0.5);\n        if (child < least(kind)) {\n                child = least(kind);\n        }\n        var total = adult.price + child;\n        record(name, kind, adult, child, total);\n        announce(name, total, kind);\n        return total;\n    }\n\n    int boat(String name, int kind) {\n        var adult = load(name, kind);\n        var child = adult.price * share(kind, 0.5);\n        if (child < least(kind)) {\n                child = least(kind);\n        }\n        var total = adult.price + child;\n        record(name, kind, adult, child, total);\n        announce(name, total, kind);\n        return total;\n    }\n}\n",
                at: &["15:9"],
                fixed: None,
            }],
            right: &[
                "class Desk {\n    int quay(String name, int kind) {\n        var adult = load(name, kind);\n        var child = adult.price * share(kind, 0.5);\n        if (child < least(kind)) {\n                child = least(kind);\n        }\n        var total = adult.price + child;\n        record(name, kind, adult, child, total);\n        announce(name, total, kind);\n        return total;\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[Wrong {
                code: "class Desk {\n    int quay(string name, int kind) {\n        var adult = load(name, kind);\n        var child = adult.price * share(kind, 0.5);\n        if (child < least(kind)) {\n                child = least(kind);\n        }\n        var total = adult.price + child;\n        record(name, kind, adult, child, total);\n        announce(name, total, kind);\n        return total;\n    }\n\n    int boat(string name, int kind) {\n        var adult = load(name, kind);\n        var child = adult.price * share(kind, 0.5);\n        if (child < least(kind)) {\n                child = least(kind);\n        }\n        var total = adult.price + child;\n        record(name, kind, adult, child, total);\n        announce(name, total, kind);\n        return total;\n    }\n}\n",
                at: &["15:9"],
                fixed: None,
            }],
            right: &[
                "class Desk {\n    int quay(string name, int kind) {\n        var adult = load(name, kind);\n        var child = adult.price * share(kind, 0.5);\n        if (child < least(kind)) {\n                child = least(kind);\n        }\n        var total = adult.price + child;\n        record(name, kind, adult, child, total);\n        announce(name, total, kind);\n        return total;\n    }\n}\n",
            ],
        },
    ],
    needs_names: false,
    check: Check::Copies(check),
};

fn check(context: &mut Context) -> Vec<Window> {
    let file = context.file();
    if file.is_test() || file.only_describes() {
        return Vec::new();
    }
    let windows = windows(file.text, file.tree, context.count("tokens"));
    for copied in copies(&[&windows]) {
        let first = copied.first_line;
        let span = file.text.lines().line(file.text.source(), first);
        context
            .report(copied.span, format!("these statements are a copy of those on line {first}"))
            .advice(ADVICE)
            .related(span, "the first copy begins here");
    }
    windows
}
