//! Texts on top of the disk are sifted as if they were on it: sources, settings, what others import, and what is not there.

use std::sync::Arc;

use proptest::prelude::*;
use sieve_engine::files::{Disk, Overlay};
use sieve_engine::project::Project;
use sieve_engine::settings::Overrides;

use crate::folder::{Folder, listed, sifted};

/// Versions that each file may have; nothing where it is not there.
const FILES: &[(&str, &[Option<&str>])] = &[
    (
        "tides.py",
        &[
            Some("def low(day):\n    return day\n"),
            Some("def low(day, quay):\n    return day, quay\n"),
            Some("def high():\n    return 1\n"),
            Some("def low(\n"),
            None,
        ],
    ),
    ("ferry/__init__.py", &[Some(""), Some("from tides import low\n"), None]),
    (
        "ferry/board.py",
        &[
            Some("from tides import low\n\nprint(low(1))\n"),
            Some("from . import low\n\nprint(low(1, 2))\n"),
            Some("import tides\nimport os\n\nprint(tides.low())\n"),
            None,
        ],
    ),
    (
        "ferry/desk.py",
        &[Some("from ferry import low\n\nlow(1)\n"), Some("from tides import *\n\nlow(1, 2, 3)\n"), None],
    ),
    ("sieve.toml", &[Some("mesh = \"coarse\"\n"), Some("mesh = \"fine\"\n[rules]\nunused-import = \"off\"\n"), None]),
    (
        "web/a.ts",
        &[Some("export function moor(boat: string) {\n  return boat;\n}\n"), Some("export const wave = 1;\n"), None],
    ),
    ("web/b.ts", &[Some("import { moor } from './a';\n\nmoor();\n"), Some("export * from './a';\n"), None]),
    ("web/c.ts", &[Some("import { moor } from './b';\n\nmoor('Tern', 2);\n"), None]),
];

/// A version of each file.
fn versions() -> impl Strategy<Value = Vec<usize>> {
    FILES.iter().map(|(_, versions)| 0..versions.len()).collect::<Vec<_>>()
}

/// A folder of these versions.
fn on_disk(chosen: &[usize]) -> Folder {
    let folder = Folder::with(&[("readme.md", "Saltmarsh Ferries\n")]);
    for ((name, versions), version) in FILES.iter().zip(chosen) {
        if let Some(text) = versions[*version] {
            folder.write(name, text);
        }
    }
    folder
}

/// What is found in a code base.
fn found(project: &Project) -> Vec<String> {
    listed(&sifted(project, &[], Overrides::default(), false, 1))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 150, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn an_overlay_is_as_good_as_the_disk(below in versions(), above in versions()) {
        let (below, expected) = (on_disk(&below), found(&on_disk(&above).project()));
        let mut overlay = Overlay::over(Arc::new(Disk));
        for ((name, versions), version) in FILES.iter().zip(&above) {
            match versions[*version] {
                Some(text) => overlay.set(below.path(name), text.as_bytes()),
                None => overlay.remove(below.path(name)),
            }
        }
        let project = below.project().with_files(Arc::new(overlay));
        prop_assert_eq!(found(&project), expected);
    }

    #[test]
    fn the_number_of_threads_makes_no_difference(chosen in versions()) {
        let folder = on_disk(&chosen);
        let one = found(&folder.project());
        prop_assert_eq!(listed(&folder.sift(&[], Overrides::default(), false)), one);
    }

    #[test]
    fn a_file_alone_has_the_findings_that_it_has_among_all(chosen in versions()) {
        let folder = on_disk(&chosen);
        let all = found(&folder.project());
        for ((name, versions), version) in FILES.iter().zip(&chosen) {
            if versions[*version].is_none() || name.ends_with(".toml") {
                continue;
            }
            let alone = listed(&folder.sift(&[name], Overrides::default(), false));
            let own: Vec<&String> = all.iter().filter(|finding| finding.starts_with(&format!("{name}:"))).collect();
            prop_assert_eq!(alone.iter().collect::<Vec<_>>(), own, "{}", name);
        }
    }
}
