//! JavaScript, TypeScript and tags beside Python: the same commands, settings, waivers and baseline.

use crate::ferry::Ferry;

const BOARD: &str = "import { low, high } from 'tides';\nimport 'boards/board.css';\n\nexport const Board = ({ tide }) => (\n  \
                     <ol>\n    {/* sieve: waive magic-number because it fits the screens */}\n    <li>{tide.padEnd(6)}</li>\n    \
                     <li>{tide.padEnd(7)}</li>\n    {high}\n  </ol>\n);\n";

const QUAY: &str = "import type { Tide } from 'tides';\n\nexport enum Quay { North, South }\n\n\
                    export function depth(quay: Quay): number {\n  return quay === Quay.North ? 3 : 4;\n  log(quay);  \n}\n";

#[test]
fn the_rules_hold_for_every_dialect() {
    let ferry = Ferry::with(&[
        ("web/Board.jsx", BOARD),
        ("web/quay.ts", QUAY),
        ("web/view.tsx", "const view = <T,>(x: T) => <b>{x}</c>;\n"),
        ("web/old.cjs", "const tides = require('tides');\nmodule.exports = () => { return tide; tides(); };\n"),
    ]);
    let found = ferry.run(&["sift", "--mesh", "fine", "--without", "docs"]);
    let told: Vec<String> = found
        .out
        .lines()
        .map(|line| {
            let place = line.split(": ").next().unwrap_or_default();
            format!("{place} {}", line.rsplit('[').next().unwrap_or_default().trim_end_matches(']'))
        })
        .collect();
    assert_eq!(
        told,
        [
            "web/Board.jsx:1:10 unused-import",
            "web/Board.jsx:8:22 magic-number",
            "web/old.cjs:2:33 undefined-name",
            "web/old.cjs:2:39 unreachable-code",
            "web/quay.ts:1:15 unused-import",
            "web/quay.ts:6:32 magic-number",
            "web/quay.ts:6:36 magic-number",
            "web/quay.ts:7:3 unreachable-code",
            "web/quay.ts:7:13 trailing-space",
            "web/view.tsx:1:34 broken-syntax",
        ],
        "{}",
        found.out
    );
    assert!(found.err.contains("held back       1"), "the waiver between the tags holds: {}", found.err);
}

#[test]
fn fixes_keep_the_code() {
    let ferry = Ferry::with(&[("web/Board.jsx", BOARD), ("web/quay.ts", QUAY)]);
    assert_eq!(ferry.run(&["fix", "--mesh", "fine"]).status, 0);
    assert_eq!(ferry.read("web/Board.jsx"), BOARD.replace("{ low, high }", "{ high }"));
    let fixed = QUAY.replace("import type { Tide } from 'tides';\n\n", "").replace("(quay);  \n", "(quay);\n");
    assert_eq!(ferry.read("web/quay.ts"), fixed);
    assert_eq!(ferry.run(&["fix", "--mesh", "fine"]).out, "Nothing to fix, of 2 files looked at\n");
}

#[test]
fn waivers_are_written_where_comments_can_stand() {
    let ferry = Ferry::with(&[("web/Board.jsx", BOARD), ("web/quay.ts", QUAY)]);
    let behind = ferry.run(&["waive", "web/quay.ts:7", "unreachable-code", "--because", "shown in lessons"]);
    assert!(behind.out.contains("It holds back 1 finding."), "{behind:?}");
    assert!(
        ferry.read("web/quay.ts").contains("log(quay);  // sieve: waive unreachable-code because shown in lessons")
    );
    let between_tags = ferry.run(&["waive", "web/Board.jsx:8", "magic-number", "--because", "wide screens"]);
    assert_eq!(between_tags.status, 0, "{between_tags:?}");
    let source = ferry.read("web/Board.jsx");
    // After the element, so that it holds for nothing but this line.
    assert!(source.contains("</li>{/* sieve: waive magic-number because wide screens */}\n"), "{source}");
}

#[test]
fn moved_code_keeps_its_entries() {
    let ferry = Ferry::with(&[("web/quay.ts", QUAY)]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    ferry.write("web/quay.ts", QUAY.replace("export enum", "\n\n// North to south.\nexport enum"));
    assert_eq!(ferry.run(&["sift"]).status, 0);
    ferry.write("web/quay.ts", QUAY.replace("log(quay)", "log(depth)"));
    assert_eq!(ferry.run(&["sift", "--fail-on", "warning"]).status, 1);
}

#[test]
fn settings_name_dialects() {
    let ferry = Ferry::with(&[
        ("sieve.toml", "[files]\nlanguages = { \"*.es\" = \"javascript\", \"*.js\" = \"tsx\" }\n"),
        ("a.es", "import a from 'a';\n\nexport {};\n"),
        ("b.js", "import a from 'a';\n\nexport let b: a;\n"),
    ]);
    let found = ferry.run(&["sift"]);
    assert!(found.out.starts_with("a.es:1:8: ") && found.out.lines().count() == 1, "{}", found.out);
}

#[test]
fn trees_have_the_names_of_other_languages() {
    let ferry = Ferry::with(&[("web/Board.jsx", BOARD), ("web/quay.ts", QUAY)]);
    let tree = ferry.run(&["tree", "web/Board.jsx"]).out;
    for expected in ["lambda", "element", "child: interpolation", "import-item", "module: string"] {
        assert!(tree.contains(expected), "{expected}\n{tree}");
    }
    let tree = ferry.run(&["tree", "web/quay.ts"]).out;
    for expected in ["enum-member", "function", "type: named-type", "returns: predefined-type", "conditional"] {
        assert!(tree.contains(expected), "{expected}\n{tree}");
    }
}
