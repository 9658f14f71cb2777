//! What only shows across files: calls, modules of every form, and what nothing uses.

use crate::ferry::Ferry;

fn found(files: &[(&str, &str)], rules: &str) -> String {
    let ferry = Ferry::with(files);
    ferry.run(&["sift", "--only", rules]).out
}

#[test]
fn calls_are_checked_against_functions_of_other_files() {
    let out = found(
        &[
            ("booking/__init__.py", "from .fares import fare as price\n"),
            (
                "booking/fares.py",
                "def fare(child, day):\n    return 4\n\n\nclass Ticket:\n    def __init__(self, code):\n        self.code = code\n",
            ),
            ("booking/desk.py", "from . import fares\nfrom .fares import Ticket as T\nfares.fare(1)\nT('a', 2)\n"),
            (
                "tools/sell.py",
                "import booking\nfrom booking import price\nimport booking.fares as f\nprice()\nf.fare(1, 2, 3)\nbooking.fares.fare(1, dya=2)\n",
            ),
        ],
        "argument-count,unknown-keyword",
    );
    let lines: Vec<&str> = out.lines().map(|line| line.split(" [").next().unwrap_or_default()).collect();
    assert_eq!(
        lines,
        [
            "booking/desk.py:3:1: error: fares.fare is called without \"day\"",
            "booking/desk.py:4:8: error: T takes 1 argument but is given 2",
            "tools/sell.py:4:1: error: price is called without \"child\", \"day\"",
            "tools/sell.py:5:14: error: f.fare takes 2 arguments but is given 3",
            "tools/sell.py:6:23: error: booking.fares.fare has no parameter \"dya\"",
        ]
    );
}

/// What a module holds is not known where another file gives it a member of that name, whether that file is visited or not.
#[test]
fn members_that_another_file_gives_to_a_module_are_not_known() {
    let files = [
        ("booking/fares.py", "def fare(child, day):\n    return 4\n\n\ndef fee(child):\n    return 1\n"),
        ("booking/patch.py", "from booking import fares\n\nfares.fare = lambda child, day=1: 3\nfares.extra = 2\n"),
        (
            "booking/desk.py",
            "from booking import fares\nimport booking.fares as f\n\nfares.fare(1)\nfares.fee()\nfares.fare(1, dya=2)\nprint(f.extra, f.other)\n",
        ),
        ("booking/__init__.py", ""),
    ];
    let ferry = Ferry::with(&files);
    for paths in [&["."][..], &["booking/desk.py"]] {
        let arguments = [&["sift", "--only", "argument-count,unknown-keyword,missing-member"], paths].concat();
        let out = ferry.run(&arguments).out;
        let lines: Vec<&str> = out.lines().map(|line| line.split(" [").next().unwrap_or_default()).collect();
        let expected = [
            "booking/desk.py:5:1: error: fares.fee is called without \"child\"",
            "booking/desk.py:7:18: error: booking.fares has no \"other\"",
        ];
        assert_eq!(lines, expected, "{paths:?}");
    }
    ferry.write("booking/patch.py", "");
    let later = ferry.run(&["sift", "--only", "argument-count,unknown-keyword,missing-member"]).out;
    assert_eq!(later.lines().count(), 5, "what another file no longer says is forgotten: {later}");
}

/// What gives a module its names when it is loaded may give it any, or one that a call names; nobody imports a file from itself.
#[test]
fn names_that_modules_get_when_they_are_loaded_are_not_missing() {
    let out = found(
        &[
            ("booking/__init__.py", ""),
            (
                "booking/fares.py",
                "from booking.moving import moved\n\nmoved(\"Fare\", \"booking.prices.Fare\")\n\n\ndef fee(child):\n    return 1\n",
            ),
            ("booking/old.py", "from booking.moving import replaced\n\nreplaced(\"booking.prices\")\n"),
            (
                "booking/tides.py",
                "from booking.moving import fill, find_current_module\n\nfill(find_current_module())\n",
            ),
            ("booking/moving.py", "(__builtins__ if old else __builtins__.__dict__)[\"format\"] = moved\n"),
            ("tools/booked.py", "from booked import Table\n"),
            (
                "booking/desk.py",
                "from booking.fares import Fare, Fares\nfrom booking.old import Ticket\nfrom booking.tides import Low\n\nformat(1, 2, 3)\nrange(1, 2, 3, 4)\n",
            ),
        ],
        "missing-export,library-call",
    );
    let lines: Vec<&str> = out.lines().map(|line| line.split(" [").next().unwrap_or_default()).collect();
    let expected = [
        "booking/desk.py:1:33: error: booking.fares has no \"Fares\"",
        "booking/desk.py:6:1: error: range takes 1 to 3 arguments, but is given 4",
    ];
    assert_eq!(lines, expected, "{out}");
}

#[test]
fn modules_are_found_by_paths_packages_and_endings() {
    let fare = "export function fare(child: boolean) {\n  return child ? 2 : 4;\n}\n";
    let out = found(
        &[
            ("package.json", "{ \"workspaces\": [\"packages/*\"] }"),
            (
                "packages/tides/package.json",
                "{ \"name\": \"@ferry/tides\", \"exports\": { \".\": \"./src/main.ts\", \"./low/*\": \"./src/*.ts\" } }",
            ),
            (
                "packages/tides/src/main.ts",
                "export * from \"./table.js\";\nexport { fare as price } from \"./table\";\n",
            ),
            ("packages/tides/src/table.ts", fare),
            ("web/tsconfig.json", "{ // where things are\n  \"extends\": \"./base.json\" }"),
            ("web/base.json", "{ \"compilerOptions\": { \"paths\": { \"~/*\": [\"./src/*\"] } } }"),
            ("web/src/fares/index.ts", fare),
            (
                "web/src/page.ts",
                "import { fare } from \"./fares\";\nimport { fare as same } from \"~/fares\";\nimport { fare as third, price } from \"@ferry/tides\";\n\
                 import * as low from \"@ferry/tides/low/table\";\nfare(true, 1);\nsame();\nthird(true, 2);\nprice();\nlow.fare();\n",
            ),
        ],
        "argument-count",
    );
    let places: Vec<&str> = out.lines().map(|line| line.split(": ").next().unwrap_or_default()).collect();
    let expected = ["5:12", "6:1", "7:13", "8:1", "9:1"].map(|place| format!("web/src/page.ts:{place}"));
    assert_eq!(places, expected, "{out}");
}

#[test]
fn what_two_files_fit_or_a_link_leads_to_is_not_known() {
    let ferry = Ferry::with(&[
        ("fares.py", "def fare(child):\n    return 4\n"),
        ("src/fares.py", "def fare(child, day):\n    return 4\n"),
        ("tools/sell.py", "import fares\nfares.fare(1, 2, 3)\n"),
        ("web/a.ts", "import { b } from \"./linked\";\nimport { b as c } from \"./deep/c\";\nb(1, 2, 3);\nc(1);\n"),
    ]);
    let elsewhere = Ferry::with(&[("b.ts", "export function b() {}\n"), ("deep/c.ts", "export function b() {}\n")]);
    #[cfg(unix)]
    {
        use std::os::unix::fs::symlink;
        symlink(elsewhere.path("b.ts"), ferry.path("web/linked.ts")).expect("a link");
        symlink(elsewhere.path("deep"), ferry.path("web/deep")).expect("a link");
    }
    assert_eq!(ferry.run(&["sift", "--only", "argument-count"]).out, "");
}

#[test]
fn a_kept_result_is_not_used_when_the_called_file_changed() {
    let mut files: Vec<(String, String)> =
        (0..30).map(|index| (format!("quay{index}.py"), format!("from tides import low\nlow({index})\n"))).collect();
    files.push(("tides.py".into(), "def low(day):\n    return day\n".into()));
    let ferry = Ferry::empty();
    for (name, text) in &files {
        ferry.write(name, text);
    }
    let run = || ferry.run(&["sift", "--only", "argument-count"]).out.lines().count();
    assert_eq!((run(), run()), (0, 0));
    ferry.write("tides.py", "def low(day, quay):\n    return day\n");
    assert_eq!(run(), 30);
    ferry.write("tides/__init__.py", "def low(day):\n    return day\n");
    assert_eq!(run(), 0, "the package comes before the file");
}

#[test]
fn modules_that_import_each_other_end() {
    let out = found(
        &[
            ("a.py", "from b import f\nf(1)\n"),
            ("b.py", "from a import f\nf(1)\n"),
            ("web/a.ts", "export { f } from \"./b\";\nexport * from \"./a\";\n"),
            ("web/b.ts", "export { f } from \"./a\";\nimport { g } from \"./a\";\ng(1);\n"),
        ],
        "argument-count",
    );
    assert_eq!(out, "");
}

#[test]
fn bans_are_told_with_their_reasons_wherever_the_name_comes_from() {
    let ferry = Ferry::with(&[
        (
            "sieve.toml",
            "[[ban]]\ncall = \"datetime.datetime.now\"\nbecause = \"ask clock.now()\"\n\n[[ban]]\nimport = \"sqlite3\"\nbecause = \"two databases\"\n\n\
             [[scope]]\npaths = [\"clock.py\"]\nbecause = \"it is the clock\"\nrules = { banned-call = \"off\" }\n",
        ),
        ("a.py", "from datetime import datetime as d\nimport sqlite3\nprint(d.now(), sqlite3)\n"),
        ("clock.py", "import datetime\nprint(datetime.datetime.now())\n"),
    ]);
    let ended = ferry.run(&["sift"]);
    assert_eq!(
        ended.out,
        "a.py:2:8: warning: sqlite3 is not to be imported: two databases [banned-import]\n\
         a.py:3:7: warning: datetime.datetime.now is not to be called: ask clock.now() [banned-call]\n"
    );
    assert!(ended.err.contains("1 by scopes") || ended.err.contains("held back       1"), "{}", ended.err);
}

#[test]
fn words_anywhere_in_the_project_keep_a_name() {
    let files = [
        ("web/fares.ts", "export function lowest() {}\nexport function highest() {}\n"),
        ("web/page.html", "<b data-call=\"highest\"></b>\n"),
        ("tools/sell.py", "def _fare():\n    return 4\n\n\ndef _price():\n    return 2\n"),
        ("tools/test_sell.py", "from sell import _price\n"),
    ];
    let out = found(&files, "unused-export,unused-function");
    assert_eq!(
        out,
        "tools/sell.py:1:5: warning: nothing uses the function _fare [unused-function]\n\
         web/fares.ts:1:17: warning: no other file mentions \"lowest\" [unused-export]\n"
    );
}
