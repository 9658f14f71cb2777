//! A repository made by somebody who means harm: nothing in it runs, nothing outside of it is read, nothing hangs, and nothing
//! raw is printed.

#![cfg(unix)]

use std::os::unix::fs::{PermissionsExt, symlink};
use std::time::Duration;

use crate::ferry::{Ended, Ferry, ended};

/// Every key under which a repository can name a program, as far as git knows any.
const KEYS: &[&str] = &[
    "core.fsmonitor",
    "core.pager",
    "core.editor",
    "core.askPass",
    "core.sshCommand",
    "core.gitProxy",
    "core.alternateRefsCommand",
    "diff.external",
    "diff.tide.command",
    "diff.tide.textconv",
    "filter.tide.clean",
    "filter.tide.smudge",
    "filter.tide.process",
    "filter.odd=name.clean",
    "merge.tide.driver",
    "pager.diff",
    "pager.log",
    "pager.blame",
    "gpg.program",
    "gpg.ssh.program",
    "credential.helper",
    "interactive.diffFilter",
    "sequence.editor",
    "uploadpack.packObjectsHook",
    "remote.origin.uploadpack",
    "remote.origin.vcs",
    "alias.ls-files",
    "alias.blame",
    "trailer.tide.command",
    "browser.tide.cmd",
];

const SOURCE: &str = "import os\n\n\ndef fare(adult, kinds=[]):\n    # sieve: waive unused-variable because the crew asks\n    crew = adult\n    return adult\n";

fn hostile() -> Ferry {
    let ferry = Ferry::in_git(&[("fares.py", SOURCE), ("tides.py", SOURCE), ("kept.py", SOURCE)]);
    assert_eq!(ferry.commit("first").status, 0);
    ferry.run(&["baseline", "take"]);
    assert_eq!(ferry.commit("second").status, 0);
    let canary = ferry.path(".git/canary.sh");
    std::fs::write(&canary, format!("#!/bin/sh\ntouch '{}'\ncat\n", ferry.path("CANARY").display())).expect("a script");
    std::fs::set_permissions(&canary, std::fs::Permissions::from_mode(0o755)).expect("a mode");
    let canary = canary.display().to_string();
    for key in KEYS {
        assert_eq!(ferry.git(&["config", key, &canary]).status, 0, "{key}");
    }
    for (key, value) in [
        ("filter.tide.required", "true"),
        ("log.showSignature", "true"),
        ("protocol.allow", "always"),
        ("protocol.ext.allow", "always"),
        ("remote.origin.url", &format!("ext::{canary} %S")),
        ("remote.origin.promisor", "true"),
        ("remote.origin.partialclonefilter", "blob:none"),
        ("extensions.partialClone", "origin"),
        ("core.repositoryFormatVersion", "1"),
        ("blame.ignoreRevsFile", "/etc/passwd"),
    ] {
        assert_eq!(ferry.git(&["config", key, value]).status, 0, "{key}");
    }
    for hook in ["post-index-change", "reference-transaction", "post-checkout"] {
        std::fs::copy(ferry.path(".git/canary.sh"), ferry.path(&format!(".git/hooks/{hook}"))).expect("a hook");
    }
    ferry.write(".gitattributes", "* filter=tide diff=tide merge=tide\nkept.py filter=odd=name\n");
    ferry.write(".git/info/attributes", "*.py filter=tide diff=tide\n");
    ferry.write("tides.py", SOURCE.replace("return adult", "return kinds"));
    ferry.write("new.py", "import sys\n");
    ferry
}

#[track_caller]
fn run(ferry: &Ferry, arguments: &[&str]) -> Ended {
    let mut command = ferry.command(arguments);
    command.timeout(Duration::from_secs(60));
    let result = ended(&mut command);
    assert!(result.status >= 0, "{arguments:?} did not end by itself: {result:?}");
    assert!(!ferry.path("CANARY").exists(), "{arguments:?} ran a program of the repository");
    let is_raw = |text: &str| text.chars().any(|character| character.is_control() && character != '\n');
    assert!(!is_raw(&result.out) && !is_raw(&result.err), "{arguments:?}: {result:?}");
    result
}

const COMMANDS: &[&[&str]] = &[
    &["sift"],
    &["sift", "--changed"],
    &["sift", "--changed", "HEAD~1"],
    &["sift", "--staged"],
    &["sift", "--output", "cards"],
    &["sift", "--output", "json", "--held", "--unsure"],
    &["sift", "--output", "counts"],
    &["waivers"],
    &["waivers", "--changed", "--output", "json"],
    &["baseline", "status"],
    &["settings", "fares.py"],
    &["rules"],
    &["tree", "fares.py"],
    &["rename", "fares.py:4:5", "price", "--preview"],
    &["hook", "run", "commit"],
    &["hook", "run", "push", "origin", "address"],
    &["fix", "--changed", "--preview"],
    &["fix", "--changed"],
    &["fix", "--undo"],
    &["baseline", "trim"],
    &["hook", "install"],
    &["hook", "remove"],
    &["init", "--yes"],
];

#[test]
fn no_command_runs_what_a_repository_names() {
    let ferry = hostile();
    for arguments in COMMANDS {
        let result = run(&ferry, arguments);
        assert_ne!(result.status, 101, "{arguments:?}: {result:?}");
    }
    // What changed is known all the same.
    let changed = run(&ferry, &["sift", "--changed"]);
    assert!(changed.out.contains("new.py:1:8"), "{changed:?}");
}

#[test]
fn a_push_is_checked_without_running_anything_of_the_repository() {
    let ferry = hostile();
    let id = ferry.git(&["rev-parse", "HEAD"]).out.trim().to_string();
    let zeros = "0".repeat(40);
    let mut command = ferry.command(&["hook", "run", "push", "origin", "address"]);
    command.write_stdin(format!("refs/heads/main {id} refs/heads/main {zeros}\n"));
    let result = ended(&mut command);
    assert_eq!(result.status, 0, "the baseline holds everything: {result:?}");
    assert!(!ferry.path("CANARY").exists());
}

#[test]
fn a_bare_repository_within_is_no_repository_to_work_with() {
    let ferry = hostile();
    std::fs::create_dir_all(ferry.path("inner/objects")).expect("a folder");
    std::fs::create_dir_all(ferry.path("inner/refs")).expect("a folder");
    ferry.write("inner/HEAD", "ref: refs/heads/main\n");
    let canary = ferry.path(".git/canary.sh").display().to_string();
    ferry.write(
        "inner/config",
        format!("[core]\n\trepositoryformatversion = 0\n\tbare = false\n\tworktree = ..\n\tfsmonitor = {canary}\n"),
    );
    ferry.write("inner/a.py", "import os\n");
    for arguments in [&["sift", "--changed"][..], &["waivers"], &["sift"]] {
        let mut command = ferry.command(arguments);
        let result = ended(command.current_dir(ferry.path("inner")).timeout(Duration::from_secs(60)));
        assert_ne!(result.status, 101, "{result:?}");
        assert!(!ferry.path("CANARY").exists(), "{arguments:?}");
    }
}

#[test]
fn a_working_tree_elsewhere_is_not_read() {
    let elsewhere = Ferry::with(&[("secret.py", "import os\n")]);
    let ferry = Ferry::in_git(&[("a.py", "x = 1\n")]);
    assert_eq!(ferry.commit("first").status, 0);
    ferry.git(&["config", "core.worktree", &elsewhere.path("").display().to_string()]);
    let result = run(&ferry, &["sift", "--changed"]);
    assert_eq!(result.status, 2, "{result:?}");
    assert!(!result.out.contains("secret") && result.err.contains("nothing there is read"), "{result:?}");
}

#[test]
fn links_to_devices_and_places_outside_are_not_followed() {
    let outside = Ferry::with(&[("list", "*.py\n"), ("outside.json", "{ \"compilerOptions\": { \"paths\": {} } }")]);
    let ferry = Ferry::in_git(&[
        ("a.ts", "import { x } from '~/b';\nexport const y = x;\n"),
        ("b.ts", "export const x = 1;\n"),
        ("c.py", "import os\n"),
    ]);
    for name in
        [".gitignore", ".gitattributes", "tsconfig.json", "package.json", "CODEOWNERS", "setup.cfg", "pyproject.toml"]
    {
        symlink("/dev/zero", ferry.path(name)).expect("a link");
    }
    std::fs::create_dir(ferry.path("inner")).expect("a folder");
    ferry.write("inner/d.ts", "import { q } from '@quay/q';\nexport const z = q;\n");
    ferry.write("inner/package.json", "{ \"name\": \"inner\", \"workspaces\": [\"../../x/*\", \"../../../etc\"] }");
    ferry.write("inner/tsconfig.json", "{ \"extends\": \"../../outside.json\" }");
    symlink(outside.path("list"), ferry.path("inner/.gitignore")).expect("a link");
    ferry.write("inner/e.py", "import os\n");
    let sifted = run(&ferry, &["sift", "--only", "unused-import"]);
    assert!(sifted.out.contains("c.py:1:8") && sifted.out.contains("inner/e.py:1:8"), "{sifted:?}");

    symlink("/dev/zero", ferry.path("sieve.toml")).expect("a link");
    let refused = run(&ferry, &["sift"]);
    assert_eq!(refused.status, 2, "{refused:?}");
    assert!(
        refused.err.starts_with("hsieve: sieve.toml: cannot read it: it is a link to a place outside"),
        "{refused:?}"
    );
    std::fs::remove_file(ferry.path("sieve.toml")).expect("removing");
    for target in ["sieve.toml", "."] {
        symlink(target, ferry.path("sieve.toml")).expect("a link");
        assert_eq!(run(&ferry, &["sift"]).status, 2);
        std::fs::remove_file(ferry.path("sieve.toml")).expect("removing");
    }
    symlink("/dev/zero", ferry.path("sieve-baseline.jsonl")).expect("a link");
    let refused = run(&ferry, &["sift"]);
    assert_eq!(refused.status, 3, "{refused:?}");
}

#[test]
fn a_fifo_is_no_source_and_nobody_waits_for_it() {
    let ferry = Ferry::with(&[("a.py", "import os\n")]);
    let made = std::process::Command::new("mkfifo").arg(ferry.path("pipe.py")).status().expect("mkfifo");
    assert!(made.success());
    let named = run(&ferry, &["sift", "pipe.py"]);
    assert_eq!(named.status, 3, "{named:?}");
    assert!(named.err.contains("pipe.py: cannot read it: it is no regular file"), "{named:?}");
    assert!(run(&ferry, &["sift"]).out.contains("a.py:1:8"));
}
