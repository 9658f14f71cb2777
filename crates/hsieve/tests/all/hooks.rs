//! Git hooks, run by the real git.

use crate::ferry::Ferry;

fn repository() -> Ferry {
    let ferry = Ferry::in_git(&[("tides.py", "TIDE = 3\n")]);
    assert_eq!(ferry.commit("first").status, 0);
    ferry
}

#[test]
fn a_commit_with_a_finding_is_stopped_and_others_are_not() {
    let ferry = repository();
    assert_eq!(ferry.run(&["hook", "install"]).status, 0);
    ferry.write("quays.py", "import os\n");
    let stopped = ferry.commit("import");
    assert_eq!(stopped.status, 1, "{stopped:?}");
    assert!(stopped.err.contains("The commit is stopped."), "{stopped:?}");
    ferry.write("quays.py", "QUAY = 1\n");
    // Only what is staged is checked.
    assert_eq!(ferry.git(&["add", "quays.py"]).status, 0);
    ferry.write("loose.py", "import os\n");
    assert_eq!(ferry.git(&["commit", "--quiet", "--message", "quay"]).status, 0);
    assert_eq!(ferry.run(&["hook", "remove"]).status, 0);
    assert_eq!(ferry.commit("no hook").status, 0);
}

#[test]
fn a_push_is_stopped_by_what_was_committed_without_looking() {
    let ferry = repository();
    let far = tempfile::tempdir().expect("a folder");
    let far = far.path().display().to_string();
    assert_eq!(ferry.git(&["init", "--quiet", "--bare", &far]).status, 0);
    ferry.git(&["remote", "add", "origin", &far]);
    assert_eq!(ferry.git(&["push", "--quiet", "--set-upstream", "origin", "main"]).status, 0);
    assert_eq!(ferry.run(&["hook", "install", "push"]).status, 0);
    ferry.write("quays.py", "import os\n");
    assert_eq!(ferry.commit("import").status, 0);
    let stopped = ferry.git(&["push", "--quiet"]);
    assert_eq!(stopped.status, 1, "{stopped:?}");
    assert!(stopped.err.contains("The push is stopped."), "{stopped:?}");
    ferry.write("quays.py", "QUAY = 1\n");
    assert_eq!(ferry.commit("mended").status, 0);
    let pushed = ferry.git(&["push", "--quiet"]);
    assert_eq!(pushed.status, 0, "{pushed:?}");
}

#[cfg(unix)]
#[test]
fn hooks_that_are_there_go_on_working() {
    use std::os::unix::fs::PermissionsExt;
    for (script, said) in [
        ("#!/bin/sh\necho tide >> said\nexit 0\n", "put in, before what the hook did already"),
        (
            "#!/usr/bin/env python3\nopen('said', 'a').write('tide\\n')\n",
            "the program that was the hook is called after it",
        ),
    ] {
        let ferry = repository();
        ferry.write(".git/hooks/pre-commit", script);
        let path = ferry.path(".git/hooks/pre-commit");
        std::fs::set_permissions(&path, std::fs::Permissions::from_mode(0o755)).expect("a mode");
        let installed = ferry.run(&["hook", "install", "commit"]);
        assert!(installed.out.contains(said), "{installed:?}");
        ferry.write("quays.py", "QUAY = 1\n");
        let committed = ferry.commit("quay");
        assert_eq!(committed.status, 0, "{committed:?}");
        assert_eq!(ferry.read("said"), "tide\n", "the other hook ran once");
        assert_eq!(ferry.run(&["hook", "remove"]).status, 0);
        assert_eq!(ferry.read(".git/hooks/pre-commit"), script);
    }
}

#[test]
fn a_folder_that_git_is_set_to_is_left_to_whoever_looks_after_it() {
    let ferry = repository();
    ferry.git(&["config", "core.hooksPath", "shared-hooks"]);
    let installed = ferry.run(&["hook", "install", "commit"]);
    assert_eq!(installed.status, 2, "{installed:?}");
    assert!(installed.err.contains("hsieve hook run commit"), "{installed:?}");
    assert!(!ferry.path("shared-hooks").exists());
}

#[test]
fn outside_a_repository_it_says_so() {
    let ended = Ferry::with(&[]).run(&["hook", "install"]);
    assert_eq!(ended.status, 2);
    assert!(ended.err.contains("this needs a git repository"), "{}", ended.err);
}
