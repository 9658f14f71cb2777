//! Which file an import means: shown by calls that do not fit what is in it. Each definition takes as many arguments as no call gives,
//! so that a finding tells that the file was found.

use sieve_engine::settings::Overrides;
use sieve_rules::catalogue;

use crate::folder::{Folder, listed};

const PYTHON: &str = "def low(day, quay):\n    return day, quay\n";
const SCRIPT: &str = "export function low(day: number) {\n  return day;\n}\n";

/// The lines of `from` on which a call is found not to fit.
fn wrong_calls(files: &[(&str, &str)], from: &str) -> Vec<u32> {
    let folder = Folder::with(files);
    let only = catalogue::named("argument-count").into_iter().collect();
    let outcome = folder.sift(&[], Overrides { only, ..Overrides::default() }, false);
    let alone = listed(&outcome);
    assert!(alone.iter().all(|finding| finding.starts_with(&format!("{from}:"))), "{alone:?}");
    outcome.findings.iter().map(|finding| finding.start.line).collect()
}

#[track_caller]
fn assert_found(files: &[(&str, &str)], from: &str, lines: &[u32]) {
    assert_eq!(wrong_calls(files, from), lines, "{files:?}");
}

#[test]
fn relative_imports_of_python_climb_packages() {
    assert_found(
        &[
            ("ferry/__init__.py", ""),
            ("ferry/tides.py", PYTHON),
            ("ferry/north/__init__.py", PYTHON),
            ("ferry/north/tables.py", PYTHON),
            (
                "ferry/north/board.py",
                "from . import low as here\nfrom .tables import low as beside\nfrom ..tides import low as above\nfrom .. import tides\n\
                 here()\nbeside()\nabove()\ntides.low()\n",
            ),
        ],
        "ferry/north/board.py",
        &[5, 6, 7, 8],
    );
}

#[test]
fn absolute_imports_of_python_begin_at_roots() {
    let board = "from ferry.tides import low\nimport ferry.tides as tides\nlow()\ntides.low()\n";
    for (tides, board_at) in [
        ("ferry/tides.py", "board.py"),
        ("ferry/tides.py", "tools/board.py"),
        ("src/ferry/tides.py", "board.py"),
        ("src/ferry/tides.py", "src/ferry/board.py"),
        ("lib/ferry/tides.py", "lib/ferry/board.py"),
    ] {
        let init = tides.replace("tides.py", "__init__.py");
        assert_found(&[(tides, PYTHON), (&init, ""), (board_at, board)], board_at, &[3, 4]);
    }
    // Far from any root, nobody knows.
    assert_found(
        &[("a/b/ferry/tides.py", PYTHON), ("a/b/ferry/__init__.py", ""), ("c/board.py", board)],
        "c/board.py",
        &[],
    );
}

#[test]
fn packages_come_before_files_and_the_library_before_both() {
    let one = "def low(day):\n    return day\n";
    assert_found(
        &[("tides.py", one), ("tides/__init__.py", PYTHON), ("board.py", "from tides import low\nlow(1)\n")],
        "board.py",
        &[2],
    );
    assert_found(&[("json.py", PYTHON), ("board.py", "from json import low\nlow()\n")], "board.py", &[]);
    assert_found(
        &[("tides.py", one), ("src/tides.py", PYTHON), ("board.py", "from tides import low\nlow()\n")],
        "board.py",
        &[],
    );
}

#[test]
fn names_of_python_come_through_facades_and_stars() {
    assert_found(
        &[
            ("ferry/__init__.py", "from .facade import low\nfrom .tables import *\n"),
            ("ferry/facade.py", "from .tides import low\n"),
            ("ferry/tides.py", PYTHON),
            ("ferry/tables.py", "def high(day):\n    return day\n"),
            ("board.py", "import ferry\nfrom ferry import high, low\nferry.low()\nlow()\nhigh()\nferry.tides.low()\n"),
        ],
        "board.py",
        &[3, 4, 5, 6],
    );
}

#[test]
fn paths_of_javascript_may_leave_out_endings_and_indexes() {
    let board = "import { low } from './tides';\nlow(1, 2);\n";
    for tides in ["tides.ts", "tides.tsx", "tides.mts", "tides/index.ts", "tides/index.tsx"] {
        assert_found(&[(tides, SCRIPT), ("board.ts", board)], "board.ts", &[2]);
    }
    let compiled = "import { low } from './tides.js';\nlow(1, 2);\n";
    assert_found(&[("tides.ts", SCRIPT), ("board.ts", compiled)], "board.ts", &[2]);
    let described =
        [("tides.js", "export function low() {}\n"), ("tides.d.ts", "export function low(...a: number[]): void;\n")];
    assert_found(&[described[0], described[1], ("board.ts", board)], "board.ts", &[]);
    assert_found(
        &[("tides.ts", SCRIPT), ("deep/board.ts", "import { low } from '../tides';\nlow(1, 2);\n")],
        "deep/board.ts",
        &[2],
    );
    assert_found(&[("tides.ts", SCRIPT), ("board.ts", "import { low } from '/tides';\nlow(1, 2);\n")], "board.ts", &[]);
}

#[test]
fn compiler_settings_name_paths() {
    let settings = "{\n  // where things are\n  \"compilerOptions\": { \"baseUrl\": \"./src\", \"paths\": { \"~/*\": [\"./*\"], \"tides\": [\"./almanac/low.ts\"] } },\n}\n";
    assert_found(
        &[
            ("tsconfig.json", settings),
            ("src/almanac/low.ts", SCRIPT),
            (
                "src/board.ts",
                "import { low } from '~/almanac/low';\nimport { low as same } from 'tides';\nlow(1, 2);\nsame(1, 2);\n",
            ),
        ],
        "src/board.ts",
        &[3, 4],
    );
    assert_found(
        &[
            ("base.json", "{ \"compilerOptions\": { \"paths\": { \"#lib/*\": [\"./lib/*\"] } } }"),
            ("web/tsconfig.json", "{ \"extends\": \"../base\" }"),
            ("lib/tides.ts", SCRIPT),
            ("web/board.ts", "import { low } from '#lib/tides';\nlow(1, 2);\n"),
        ],
        "web/board.ts",
        &[2],
    );
}

#[test]
fn packages_of_the_project_are_known_by_their_names() {
    let root = ("package.json", "{ \"workspaces\": [\"packages/*\", \"tools\"] }");
    let board = "import { low } from '@ferry/tides';\nimport { low as deep } from '@ferry/tides/tables';\nlow(1, 2);\ndeep(1, 2);\n";
    for tides in [
        "{ \"name\": \"@ferry/tides\", \"main\": \"index.ts\" }",
        "{ \"name\": \"@ferry/tides\", \"exports\": { \".\": \"./index.ts\", \"./*\": \"./*.ts\" } }",
        "{ \"name\": \"@ferry/tides\", \"exports\": { \".\": { \"import\": \"./index.ts\" }, \"./tables\": [\"./tables.ts\"] } }",
    ] {
        assert_found(
            &[
                root,
                ("packages/tides/package.json", tides),
                ("packages/tides/index.ts", SCRIPT),
                ("packages/tides/tables.ts", SCRIPT),
                ("packages/board/package.json", "{ \"name\": \"board\" }"),
                ("packages/board/main.ts", board),
            ],
            "packages/board/main.ts",
            &[3, 4],
        );
    }
    assert_found(
        &[
            root,
            ("tools/package.json", "{ \"name\": \"tools\", \"imports\": { \"#tides\": \"./tides.ts\" } }"),
            ("tools/tides.ts", SCRIPT),
            ("tools/board.ts", "import { low } from '#tides';\nlow(1, 2);\n"),
        ],
        "tools/board.ts",
        &[2],
    );
}

#[test]
fn what_lies_outside_or_makes_no_sense_is_not_known() {
    for (settings, module) in [
        ("{ \"compilerOptions\": { \"paths\": { \"tides\": [\"../../outside/tides.ts\"] } } }", "tides"),
        ("{ \"compilerOptions\": { \"paths\": { \"tides\": \"./tides.ts\" } } }", "tides"),
        ("{ \"compilerOptions\": { \"paths\": [] } }", "tides"),
        ("{ \"extends\": \"./tsconfig.json\" }", "tides"),
        ("{ broken", "tides"),
        ("[]", "tides"),
    ] {
        let board = format!("import {{ low }} from '{module}';\nlow(1, 2);\n");
        assert_found(&[("tsconfig.json", settings), ("tides.ts", SCRIPT), ("board.ts", &board)], "board.ts", &[]);
    }
}
