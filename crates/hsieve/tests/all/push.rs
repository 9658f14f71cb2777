//! One working day with a real remote: what the hook before a push checks is what is pushed.

use crate::ferry::{Ended, Ferry};

const CLEAN: &str = "def fare(adult):\n    return adult\n";
const BROKEN: &str = "import os\n\n\ndef fare(adult):\n    return adult\n";

/// A repository with a remote that has its main branch, and the hook before a push.
struct Desk {
    ferry: Ferry,
    _remote: Ferry,
}

impl Desk {
    fn open() -> Desk {
        let remote = Ferry::in_git(&[]);
        remote.git(&["config", "core.bare", "true"]);
        let ferry = Ferry::in_git(&[("fares.py", CLEAN), ("old.py", BROKEN)]);
        assert_eq!(ferry.commit("first").status, 0);
        ferry.git(&["remote", "add", "origin", &remote.path(".git").display().to_string()]);
        assert_eq!(ferry.git(&["push", "--quiet", "-u", "origin", "main"]).status, 0);
        assert_eq!(ferry.run(&["hook", "install", "push"]).status, 0);
        Desk { ferry, _remote: remote }
    }

    fn branch(&self, name: &str, from: &str) {
        assert_eq!(self.ferry.git(&["switch", "--quiet", "--create", name, from]).status, 0);
    }

    fn commit(&self, file: &str, text: &str) {
        self.ferry.write(file, text);
        assert_eq!(self.ferry.commit(file).status, 0);
    }

    fn push(&self, arguments: &[&str]) -> Ended {
        let mut all = vec!["push", "--quiet", "origin"];
        all.extend(arguments);
        self.ferry.git(&all)
    }

    #[track_caller]
    fn assert_stopped(&self, arguments: &[&str], place: &str) {
        let pushed = self.push(arguments);
        assert_ne!(pushed.status, 0, "{arguments:?}: {pushed:?}");
        let said = pushed.out + &pushed.err;
        assert!(said.contains(place) && said.contains("The push is stopped."), "{said}");
    }

    #[track_caller]
    fn assert_pushed(&self, arguments: &[&str]) {
        let pushed = self.push(arguments);
        assert_eq!(pushed.status, 0, "{arguments:?}: {pushed:?}");
    }
}

#[test]
fn the_commits_count_and_not_the_working_files() {
    let desk = Desk::open();
    desk.branch("north", "main");
    desk.commit("north.py", BROKEN);
    // That it is fixed in the folder meanwhile helps nobody who fetches.
    desk.ferry.write("north.py", CLEAN);
    desk.assert_stopped(&["north"], "north.py:1:8");
    desk.ferry.git(&["commit", "--quiet", "--all", "--message", "fixed"]);
    // Nor is it the push's affair what lies in the folder now.
    desk.ferry.write("north.py", BROKEN);
    desk.ferry.write("loose.py", BROKEN);
    desk.assert_pushed(&["north"]);
}

#[test]
fn each_branch_is_compared_with_its_counterpart() {
    let desk = Desk::open();
    desk.branch("north", "main");
    desk.commit("north.py", BROKEN);
    desk.branch("south", "main");
    desk.commit("south.py", CLEAN);
    // The branch that is checked out is not the one that is pushed.
    desk.assert_stopped(&["north"], "north.py:1:8");
    desk.assert_pushed(&["south"]);
    desk.assert_stopped(&["north:other-name"], "north.py:1:8");
    assert_eq!(desk.ferry.git(&["push", "--quiet", "--no-verify", "origin", "north"]).status, 0);
    // What is there already is not asked for again.
    desk.ferry.git(&["switch", "--quiet", "north"]);
    desk.commit("more.py", CLEAN);
    desk.assert_pushed(&["north"]);
    desk.assert_pushed(&["--delete", "south"]);
}

#[test]
fn a_merge_brings_nothing_that_its_parents_have() {
    let desk = Desk::open();
    desk.branch("north", "main");
    desk.commit("north.py", CLEAN);
    desk.assert_pushed(&["north"]);
    desk.ferry.git(&["switch", "--quiet", "main"]);
    desk.commit("old-too.py", BROKEN);
    assert_eq!(desk.ferry.git(&["push", "--quiet", "--no-verify", "origin", "main"]).status, 0);
    desk.ferry.git(&["switch", "--quiet", "north"]);
    assert_eq!(desk.ferry.git(&["merge", "--quiet", "--no-edit", "main"]).status, 0);
    desk.assert_pushed(&["north"]);
    // A mistake made while merging is new, whichever parent it is beside.
    desk.ferry.git(&["switch", "--quiet", "main"]);
    desk.commit("old-too.py", &format!("{BROKEN}\n\nTIDE = 1\n"));
    assert_eq!(desk.ferry.git(&["push", "--quiet", "--no-verify", "origin", "main"]).status, 0);
    desk.ferry.git(&["switch", "--quiet", "north"]);
    desk.ferry.git(&["merge", "--quiet", "--no-commit", "main"]);
    desk.ferry.write("north.py", BROKEN);
    assert_eq!(desk.ferry.commit("merge").status, 0);
    desk.assert_stopped(&["north"], "north.py:1:8");
}

#[test]
fn a_hook_that_was_there_hears_what_git_says() {
    let desk = Desk::open();
    let hook = desk.ferry.path(".git/hooks/pre-push");
    assert_eq!(desk.ferry.run(&["hook", "remove"]).status, 0);
    std::fs::write(&hook, "#!/bin/sh\ncat > heard\necho \"$1\" >> heard\n").expect("a hook");
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        std::fs::set_permissions(&hook, std::fs::Permissions::from_mode(0o755)).expect("a mode");
    }
    assert_eq!(desk.ferry.run(&["hook", "install", "push"]).status, 0);
    desk.branch("north", "main");
    desk.commit("north.py", CLEAN);
    desk.assert_pushed(&["north"]);
    let heard = desk.ferry.read("heard");
    assert!(heard.starts_with("refs/heads/north ") && heard.ends_with("\norigin\n"), "{heard}");
}
