//! A workspace says what a fresh run over the same contents says, whatever was changed, and in whatever order.

use std::path::PathBuf;
use std::sync::Arc;

use proptest::prelude::*;
use sieve_engine::Workspace;
use sieve_engine::files::Overlay;
use sieve_engine::outcome::Outcome;
use sieve_engine::project::Project;
use sieve_engine::run::Wants;
use sieve_engine::settings::Overrides;

use crate::folder::{Folder, listed, sifted};

const WANTS: Wants = Wants { identities: true, ..Wants::NONE };

/// Files that ask each other, each with several versions; nothing takes the text back to what is on the disk.
const VERSIONS: &[(&str, &[Option<&str>])] = &[
    (
        "ferry/tides.py",
        &[
            None,
            Some("import os\n\n\ndef low(day):\n    return day\n"),
            Some(
                "from os import sep\n\n\ndef low(day, quay):\n    return day, quay\n\n\ndef _depth():\n    return 3\n",
            ),
            Some("def low(\n"),
        ],
    ),
    (
        "ferry/board.py",
        &[
            None,
            Some("from .tides import low\n\nlow(1)\n"),
            Some("from . import tides\n\nprint(tides.sep, tides.low(1, 2))\n"),
            Some("from .tides import high\n\nhigh(1)\n"),
            Some("from .deep import depth\n\ndepth(1)\n"),
        ],
    ),
    // Of these nothing is on the disk.
    ("ferry/deep.py", &[None, Some("def depth():\n    return 1\n"), Some("tide = 1\n")]),
    ("ferry/deep/__init__.py", &[None, Some("def depth(quay):\n    return quay\n")]),
    ("ferry/__init__.py", &[None, Some(""), Some("from .tides import low\n")]),
    ("web/quay.ts", &[None, Some("export function depth() {}\n"), Some("export function draught() {}\n")]),
    ("web/late.ts", &[None, Some("import { depth } from './quay';\ndepth(1);\n"), Some("const draught = 1;\n")]),
    (
        "infra/variables.tf",
        &[
            None,
            Some("variable \"lines\" {}\n"),
            Some("variable \"depth\" {}\nvariable \"line\" {}\n"),
            Some("a = = 1\n"),
        ],
    ),
    (
        "infra/quay/main.tf",
        &[None, Some("variable \"lines\" {}\n"), Some("output \"depth\" {\n  value = var.lines\n}\n"), Some("")],
    ),
    ("infra/more.hcl", &[None, Some("a = 1\n"), Some("a = 2\n")]),
    ("ferry/sieve.toml", &[None, Some("[rules]\nunused-import = \"off\"\n"), Some("mesh = \"fine\"\n")]),
];

fn folder() -> Folder {
    Folder::with(&[
        ("ferry/__init__.py", ""),
        ("ferry/tides.py", "def low(day):\n    return day\n"),
        ("ferry/board.py", "from .tides import low\n\nlow()\n"),
        (
            "infra/main.tf",
            "module \"quay\" {\n  source = \"./quay\"\n  depth  = var.depth\n}\n\noutput \"deep\" {\n  value = module.quay.deep\n}\n",
        ),
        ("infra/variables.tf", "variable \"depth\" {}\n"),
        ("infra/quay/main.tf", "variable \"depth\" {}\n\noutput \"deep\" {\n  value = var.depth\n}\n"),
        ("web/quay.ts", "export const depth = 1;\n"),
        ("web/late.ts", "import { depth } from './quay';\nconsole.log(depth);\n"),
    ])
}

/// One change: of which file, to which version, and how it is asked after it: everything, one file, or one file at once.
fn changes() -> impl Strategy<Value = Vec<(usize, usize, u8)>> {
    prop::collection::vec((0..VERSIONS.len(), 0..5_usize, 0..3u8), 1..12)
}

fn all_of(outcome: &Outcome) -> (Vec<String>, usize, usize) {
    (listed(outcome), outcome.unsure.len(), outcome.files)
}

/// What a fresh run says with these texts on top of the disk.
fn fresh(folder: &Folder, texts: &[Option<&str>], paths: &[PathBuf]) -> Outcome {
    let project = folder.project();
    let mut files = Overlay::over(Arc::clone(&project.files));
    for ((name, _), text) in VERSIONS.iter().zip(texts) {
        if let Some(text) = text {
            files.set(folder.path(name), text.as_bytes());
        }
    }
    let project: Project = project.with_files(Arc::new(files));
    sifted(&project, paths, Overrides::default(), false, 1)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, ..ProptestConfig::default() })]

    #[test]
    fn after_any_changes_it_says_what_a_fresh_run_says(changes in changes()) {
        let folder = folder();
        let mut workspace = Workspace::new(folder.project(), Overrides::default(), None, WANTS).on_threads(1);
        let mut texts = vec![None; VERSIONS.len()];
        for (file, version, asks_all) in changes {
            let (name, versions) = VERSIONS[file];
            let path = folder.path(name);
            texts[file] = versions[version % versions.len()];
            match texts[file] {
                Some(text) => workspace.set_overlay(&path, text.as_bytes()),
                None => workspace.forget(&path),
            }
            let paths = if asks_all == 0 { Vec::new() } else { vec![folder.path("ferry/board.py")] };
            let said = match asks_all {
                0 => workspace.outcome(),
                1 => workspace.outcome_of(&paths),
                _ => workspace.outcome_now(&paths[0]),
            };
            let said = said.expect("right settings").outcome;
            prop_assert_eq!(all_of(&said), all_of(&fresh(&folder, &texts, &paths)));
        }
    }
}

#[test]
fn a_module_is_seen_as_soon_as_it_is_there_and_no_longer() {
    let folder = folder();
    let mut workspace = Workspace::new(folder.project(), Overrides::default(), None, WANTS).on_threads(1);
    let (board, deep) = (folder.path("web/board.ts"), folder.path("web/deep.ts"));
    let mut say = |change: &dyn Fn(&mut Workspace)| {
        change(&mut workspace);
        listed(&workspace.outcome_now(&board).expect("right settings").outcome).join(" ")
    };
    let text = "import { depth } from './deep';\nconsole.log(depth);\n";
    assert!(say(&|now| now.set_overlay(&board, text.as_bytes())).contains("missing-file"));
    // Once more, with what is known by now.
    assert!(say(&|now| now.set_overlay(&board, format!("{text}\n").into_bytes())).contains("missing-file"));
    assert!(!say(&|now| now.set_overlay(&deep, &b"export const depth = 1;\n"[..])).contains("missing"));
    assert!(say(&|now| now.set_overlay(&deep, &b"export const tide = 1;\n"[..])).contains("missing-export"));
    assert!(say(&|now| now.forget(&deep)).contains("missing-file"));
}

#[test]
fn a_caller_of_what_changed_is_told_at_once() {
    let folder = folder();
    let mut workspace = Workspace::new(folder.project(), Overrides::default(), None, WANTS).on_threads(1);
    let before = listed(&workspace.outcome().expect("right settings").outcome);
    assert_eq!(before, ["ferry/board.py:3:1 argument-count"]);
    workspace.set_overlay(&folder.path("ferry/tides.py"), *b"def low():\n    return 1\n");
    let board = [folder.path("ferry/board.py")];
    assert!(listed(&workspace.outcome_of(&board).expect("right settings").outcome).is_empty());
    workspace.forget(&folder.path("ferry/tides.py"));
    assert_eq!(listed(&workspace.outcome_of(&board).expect("right settings").outcome), before);
}

#[test]
fn what_was_written_to_the_disk_is_noticed() {
    let folder = folder();
    let mut workspace = Workspace::new(folder.project(), Overrides::default(), None, WANTS).on_threads(1);
    workspace.outcome().expect("right settings");
    folder.write("ferry/board.py", "from .tides import low\n\nlow(1)\n");
    folder.write("ferry/late.py", "import os\n");
    assert_eq!(listed(&workspace.outcome().expect("right settings").outcome), ["ferry/late.py:1:8 unused-import"]);
}

/// A wrong settings file is an error, and what was known is kept.
#[test]
fn a_wrong_settings_file_is_an_error_until_it_is_right_again() {
    let folder = folder();
    let mut workspace = Workspace::new(folder.project(), Overrides::default(), None, WANTS).on_threads(1);
    workspace.set_overlay(&folder.path("sieve.toml"), *b"mesh = \"finest\"\n");
    assert!(workspace.outcome().is_err());
    workspace.set_overlay(&folder.path("sieve.toml"), *b"mesh = \"coarse\"\n");
    assert_eq!(workspace.outcome().expect("right settings").outcome.files, 8);
}

/// A file that is long enough for several threads, with findings of all sorts that wait for other files or not.
fn long_file() -> String {
    let piece = |number: usize| {
        format!(
            "import os\nfrom .tides import low, high\n\n\ndef board_{number}(day, quay=[]):\n    fare=low(day , 1, 2)\n    if day == None: return 3\n    for boat in quay: pass\n    # sieve: waive unused-variable because it is shown\n    depth = 3\n    return missing_{number}(boat)\n\n\n"
        )
    };
    (0..250).map(piece).collect()
}

#[test]
fn threads_that_share_a_long_file_say_what_one_says() {
    let folder = folder();
    folder.write("sieve.toml", "mesh = \"fine\"\n");
    folder.write("ferry/long.py", &long_file());
    let path = folder.path("ferry/long.py");
    let on = |threads: usize| {
        let mut workspace = Workspace::new(folder.project(), Overrides::default(), None, WANTS).on_threads(threads);
        let everything = listed(&workspace.outcome().expect("right settings").outcome);
        // Once more with another text: the threads are kept.
        let now = listed(&workspace.outcome_now(&path).expect("right settings").outcome);
        workspace.set_overlay(&path, format!("{}x = 1\n", long_file()).into_bytes());
        [everything, now, listed(&workspace.outcome_now(&path).expect("right settings").outcome)]
    };
    let (alone, shared) = (on(1), on(3));
    for (one, several) in alone.iter().zip(&shared) {
        assert!(one.len() > 1000, "{} findings", one.len());
        assert_eq!(one, several);
    }
}
