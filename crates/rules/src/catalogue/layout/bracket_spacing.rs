use sieve_syntax::language::Language;

use super::spacing_facts::rule;
use crate::interface::SpacingKind;
use crate::interface::{Examples, Rule, Wrong};

pub(in crate::catalogue) static RULE: Rule = rule(
    "bracket-spacing",
    SpacingKind::Bracket,
    Language::WITH_SPACING,
    "spaces inside of brackets, or before the brackets of a call",
    &[
        Examples {
            language: Language::Python,
            wrong: &[
                Wrong { code: "sail( north )\n", at: &["1:5", "1:13"], fixed: Some("sail(north)\n") },
                Wrong {
                    code: "sail (north)\nfares [3]\n",
                    at: &["1:6", "2:7"],
                    fixed: Some("sail(north)\nfares[3]\n"),
                },
                Wrong { code: "x = { 1: 2 }\n", at: &["1:5", "1:12"], fixed: Some("x = {1: 2}\n") },
            ],
            right: &[
                "points = [\n    (low  , high  ),\n    (east , middle),\n]\n",
                "x = (1, 2)\nprint((3, 4)[0], not [1], [2])\ndel (a)\n",
                "def sail(north): return (north)\n",
            ],
        },
        Examples {
            language: Language::JavaScript,
            wrong: &[
                Wrong {
                    code: "const a = {b: 1}, c = { d: 2 }, e = { f: 3 };\n",
                    at: &["1:11", "1:16"],
                    fixed: Some("const a = { b: 1 }, c = { d: 2 }, e = { f: 3 };\n"),
                },
                Wrong { code: "sail (north);\n", at: &["1:6"], fixed: Some("sail(north);\n") },
                Wrong { code: "if (x){sail() }\n", at: &["1:7"], fixed: Some("if (x) { sail() }\n") },
            ],
            right: &[
                "import {a} from \"./a.js\";\nconst b = {c: 1}, e = {};\n",
                "import {a} from \"./a.js\";\nconst b = { c: 1 }, e = { d: 2 };\n",
                "const f = function () { return 1; };\nif (a) { b(); }\nx = [1, , 2,];\nlist = [ ];\n",
            ],
        },
        Examples {
            language: Language::Java,
            wrong: &[
                Wrong {
                    code: "class Desk {\n    void sail() {\n        sail( north );\n        moor(south);\n        pay(east);\n        wait(fares [3], fares[4], fares[5]);\n    }\n}\n",
                    at: &["3:13", "3:21", "6:20"],
                    fixed: Some(
                        "class Desk {\n    void sail() {\n        sail(north);\n        moor(south);\n        pay(east);\n        wait(fares[3], fares[4], fares[5]);\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Desk {\n    void sail() {\n        if (low){ sail(); }\n    }\n}\n",
                    at: &["3:17"],
                    fixed: Some("class Desk {\n    void sail() {\n        if (low) { sail(); }\n    }\n}\n"),
                },
                Wrong {
                    code: "class Desk {\n    Map< Quay, List<Boat> > all;\n}\n",
                    at: &["2:8", "2:27"],
                    fixed: Some("class Desk {\n    Map<Quay, List<Boat>> all;\n}\n"),
                },
            ],
            right: &[
                "class Desk {\n    void sail () {\n        sail (north);\n        moor (south);\n        boats = new Boat[] { north };\n    }\n}\n",
                "class Desk {\n    void sail() {\n        int x = (int) y + (int)z;\n    }\n}\n",
                "class Desk {\n    void sail() {\n        new Desk() {{ open(); }};\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::CSharp,
            wrong: &[
                Wrong {
                    code: "class Desk\n{\n    void Sail()\n    {\n        Sail (north);\n        Moor(south);\n    }\n}\n",
                    at: &["5:14"],
                    fixed: Some(
                        "class Desk\n{\n    void Sail()\n    {\n        Sail(north);\n        Moor(south);\n    }\n}\n",
                    ),
                },
                Wrong {
                    code: "class Desk { int Low {get; set; } int High { get; set; } }\n",
                    at: &["1:22"],
                    fixed: Some("class Desk { int Low { get; set; } int High { get; set; } }\n"),
                },
            ],
            right: &[
                "class Desk {\n	void Sail () {\n		Moor (fares [3]);\n		Wait (fares [4]);\n	}\n}\n",
                "class Desk\n{\n    void Sail()\n    {\n        var boat = new Boat { Name = north, Fares = {3, 4} };\n    }\n}\n",
            ],
        },
        Examples {
            language: Language::Css,
            wrong: &[
                Wrong {
                    code: "a { top: 0; }\nb { top: 1px; }\ni{ top: 2px; }\n",
                    at: &["3:2"],
                    fixed: Some("a { top: 0; }\nb { top: 1px; }\ni { top: 2px; }\n"),
                },
                Wrong {
                    code: "a { color: rgb( 1, 2, 3 ); }\n",
                    at: &["1:15", "1:25"],
                    fixed: Some("a { color: rgb(1, 2, 3); }\n"),
                },
                Wrong {
                    code: "a { top: 0; }\nb { top: 1px; }\ni {top: 2px; }\n",
                    at: &["3:3"],
                    fixed: Some("a { top: 0; }\nb { top: 1px; }\ni { top: 2px; }\n"),
                },
            ],
            right: &[".quay {}\n.deck { }\n.desk\n{\n  top: 0;\n}\na {top: 0}\nb {top: 1px}\n", "a{\n  top: 0;\n}\n"],
        },
        Examples {
            language: Language::Hcl,
            wrong: &[
                Wrong {
                    code: "quay \"north\"{\n  depth = 4\n}\n",
                    at: &["1:13"],
                    fixed: Some("quay \"north\" {\n  depth = 4\n}\n"),
                },
                Wrong {
                    code: "ports = [1, 2]\nfares = [3, 4]\nboats = [ 5, 6]\nlow   = max(1, min(2, 3) )\n",
                    at: &["3:9", "4:26"],
                    fixed: Some("ports = [1, 2]\nfares = [3, 4]\nboats = [5, 6]\nlow   = max(1, min(2, 3))\n"),
                },
            ],
            right: &["quay \"north\" {}\ntags = {}\nports = [ 1, 2 ]\nfares = [ 3 ]\nboats = [ ]\n"],
        },
    ],
);
