//! Forms of names in the settings, and what is refused.

use crate::ferry::Ferry;

fn refused(settings: &str) -> String {
    let ferry = Ferry::with(&[("a.py", "x = 1\n"), ("sieve.toml", settings)]);
    let ended = ferry.run(&["sift"]);
    assert_eq!(ended.status, 2, "{ended:?}");
    ended.err
}

#[test]
fn settings_that_cannot_hold_are_refused_with_their_place() {
    let cases = [
        ("[naming]\nfunction = \"kebab-case\"\n", "sieve.toml:2:12: the name of a function cannot hold a hyphen"),
        ("[naming]\ntype = [\"PascalCase\", \"PascalCase\"]\n", "sieve.toml:2:23: \"PascalCase\" is given twice"),
        (
            "[naming]\ntype = { always = [\"Data\"], never = [\"Data\"] }\n",
            "\"Data\" cannot be always right and never right",
        ),
        (
            "[naming]\ntype = { prefix = \"I\", pattern = \"^T\" }\n",
            "the prefix \"I\" and the pattern \"^T\" cannot both hold",
        ),
        (
            "[naming]\nvariable = { pattern = \"(\" }\n",
            "sieve.toml:2:24: \"(\" is no regular expression: unclosed group",
        ),
        ("[naming]\nfunction = \"lower_snak\"\n", "the nearest is \"lower_snake\""),
        ("[naming.pyton]\nfunction = \"lower_snake\"\n", "the nearest is \"python\""),
        (
            "[rules]\nlong-line = { limit = -1 }\n",
            "sieve.toml:2:23: a whole number of at least zero is wanted here, not the number -1",
        ),
        ("[rules]\nquote-style = { quotes = \"singel\" }\n", "the nearest is \"single\""),
    ];
    for (settings, expected) in cases {
        let message = refused(settings);
        assert!(message.contains(expected), "{settings}{message}");
    }
}

#[test]
fn forms_hold_for_a_language_and_for_a_place() {
    let settings = "[naming]\nfunction = { style = \"lower_snake\", never = [\"do_it\"] }\n\n[naming.typescript]\nfunction = \"PascalCase\"\n\n\
                    [[scope]]\npaths = [\"old/**\"]\nnaming = { function = \"camelCase\" }\n";
    let ferry = Ferry::with(&[
        ("sieve.toml", settings),
        ("a.py", "def setSail():\n    pass\n\n\ndef do_it():\n    pass\n"),
        ("old/a.py", "def setSail():\n    pass\n\n\ndef set_sail():\n    pass\n"),
        ("a.ts", "export function setSail() {}\nexport function SetSail() {}\n"),
    ]);
    let found = ferry.run(&["sift", "--only", "function-name"]);
    let lines: Vec<&str> = found.out.lines().collect();
    assert_eq!(lines.len(), 4, "{}", found.out);
    assert!(lines[0].starts_with("a.py:1:5: ") && lines[0].contains("\"setSail\" is not lower_snake"), "{}", found.out);
    assert!(lines[1].starts_with("a.py:5:5: ") && lines[1].contains("\"do_it\" is a name that is never wanted"));
    assert!(lines[2].starts_with("a.ts:1:17: ") && lines[2].contains("is not PascalCase"));
    assert!(lines[3].starts_with("old/a.py:5:5: ") && lines[3].contains("is not camelCase"));
}

#[test]
fn a_renaming_that_cannot_be_known_is_refused_with_its_place() {
    let files = [
        (
            "ferry/fares.py",
            "def fare():\n    pass\n\n\ndef tide():\n    pass\n\n\nclass TideTable:\n    def low(self):\n        pass\n",
        ),
        ("ferry/all.py", "from .fares import *\n\nprint(fare())\n"),
        ("ferry/text.py", "from . import fares\n\nprint(getattr(fares, \"tide\"))\n"),
        (
            "ferry/use.py",
            "from .fares import TideTable\n\n\ndef of(table):\n    # TideTable has it\n    return table.low()\n",
        ),
        ("ferry/__init__.py", ""),
    ];
    let ferry = Ferry::with(&files);
    let refused = |place: &str, new: &str, expected: &str| {
        let ended = ferry.run(&["rename", place, new]);
        assert!(ended.status == 2 && ended.err.contains(expected), "{ended:?}");
    };
    refused("ferry/fares.py:1:5", "price", "\"fare\" may be used through a star import\n  ferry/all.py:1:20");
    refused(
        "ferry/fares.py:5:5",
        "water",
        "\"tide\" may be used through its module, which goes elsewhere here\n  ferry/text.py:3:15",
    );
    refused("ferry/fares.py:10:9", "lowest", "it is not known whose member \"low\" is here");
    refused("ferry/fares.py:1:5", "tide", "\"tide\" is taken where \"fare\" is used");
    refused("ferry/fares.py:1:5", "class", "\"class\" cannot be a name in Python");
    refused("ferry/fares.py:2:1", "x", "there is no name at ferry/fares.py:2:1");
    for (name, text) in files {
        assert_eq!(ferry.read(name), text, "nothing was written");
    }
}

#[test]
fn a_type_takes_its_file_and_mentions_along_when_asked() {
    let ferry = Ferry::with(&[
        ("ferry/__init__.py", ""),
        ("ferry/tide_table.py", "class TideTable:\n    \"\"\"A TideTable of a day.\"\"\"\n"),
        (
            "ferry/use.py",
            "from .tide_table import TideTable\nfrom . import tide_table\n\nprint(TideTable, tide_table.TideTable)  # TideTable\n",
        ),
    ]);
    let told = ferry.run(&["rename", "ferry/tide_table.py:1:7", "WaterTable", "--preview"]);
    assert_eq!(told.status, 1, "{told:?}");
    assert!(told.out.contains("2 places in comments and strings mention \"TideTable\""), "{}", told.out);
    assert!(told.out.contains("--with-file calls it water_table.py"), "{}", told.out);
    let done = ferry.run(&["rename", "ferry/tide_table.py:1:7", "WaterTable", "--with-file", "--mentions"]);
    assert_eq!(done.status, 0, "{done:?}");
    assert_eq!(ferry.read("ferry/water_table.py"), "class WaterTable:\n    \"\"\"A WaterTable of a day.\"\"\"\n");
    let used = "from .water_table import WaterTable\nfrom . import water_table as tide_table\n\nprint(WaterTable, tide_table.WaterTable)  # WaterTable\n";
    assert_eq!(ferry.read("ferry/use.py"), used);
    assert!(!ferry.path("ferry/tide_table.py").exists());
}

#[test]
fn counts_are_compared_with_an_earlier_run() {
    let ferry = Ferry::with(&[("booking/a.py", "import os\nimport re\nx = 1\n")]);
    ferry.write("before.json", ferry.run(&["sift", "--output", "json", "--quiet"]).out);
    ferry.write("booking/a.py", "import os\nx = 1\n# Tides.\n\n");
    let counts = ferry.run(&["sift", "--output", "counts", "--against", "before.json", "--quiet"]);
    let row = |name: &str| {
        let line =
            counts.out.lines().find(|line| line.starts_with(name)).unwrap_or_else(|| panic!("{name}: {}", counts.out));
        line.split_whitespace().map(str::to_string).collect::<Vec<_>>()
    };
    assert_eq!(row("unused-import")[..7], ["unused-import", "leftover", "\u{b7}", "1", "\u{b7}", "1", "-1"]);
    assert_eq!(row("code")[..2], ["code", "2"]);
    assert_eq!(row("comments")[..2], ["comments", "1"]);
    assert!(counts.out.contains("since then  1 finding, were 2 (-1)"), "{}", counts.out);
    ferry.write("other.json", "{}");
    let wrong = ferry.run(&["sift", "--output", "counts", "--against", "other.json"]);
    assert!(wrong.status == 3 && wrong.err.contains("was not written by `hsieve sift --output json`"), "{wrong:?}");
}

#[test]
fn modules_are_files_that_python_imports() {
    let files = [("boats/tideTable.py", "x = 1\n"), ("web/tideTable.ts", "export const x = 1;\n")];
    let told = |settings: &str| {
        let ferry = Ferry::with(&files);
        ferry.write("sieve.toml", settings);
        let found = ferry.run(&["sift", "--only", "file-name", "--output", "lines"]);
        found.out.lines().map(|line| line.split(':').next().unwrap_or_default().to_string()).collect::<Vec<_>>()
    };
    assert_eq!(told(""), ["boats/tideTable.py"]);
    assert!(told("[naming]\nmodule = \"camelCase\"\n").is_empty());
    assert_eq!(told("[naming]\nfile = \"kebab-case\"\n"), ["boats/tideTable.py", "web/tideTable.ts"]);
    assert_eq!(told("[naming]\nfile = \"kebab-case\"\nmodule = \"camelCase\"\n"), ["web/tideTable.ts"]);
}

#[test]
fn sorts_that_a_language_has_not_are_refused() {
    for (settings, reason) in [
        ("[naming.shell]\ntype = \"PascalCase\"\n", "sieve.toml:2:1: shell has no names of the sort \"type\""),
        ("[naming.typescript]\nmodule = \"any\"\n", "sieve.toml:2:1: typescript has no names of the sort \"module\""),
        ("[naming]\nmodule = \"kebab-case\"\n", "the name of a module cannot hold a hyphen"),
        ("[naming]\nmodul = \"any\"\n", "there is no setting \"naming.modul\""),
    ] {
        let ferry = Ferry::with(&[("sieve.toml", settings), ("a.sh", "")]);
        let refused = ferry.run(&["sift"]);
        assert_eq!(refused.status, 2, "{settings}");
        assert!(refused.err.contains(reason), "{settings}: {}", refused.err);
    }
}
