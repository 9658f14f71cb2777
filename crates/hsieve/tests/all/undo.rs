//! Taking a fixing run back, and everything that may come in between.

use crate::ferry::{Ended, Ferry, ended};

const OLD: &str = "import os\nx = 1 \n";

fn fixed() -> Ferry {
    let ferry = Ferry::with(&[("a.py", OLD), ("b.py", "import sys\n"), ("clean.py", "x = 1\n")]);
    let ended = ferry.run(&["fix", "--mesh", "fine"]);
    assert!(ended.out.contains("`hsieve fix --undo` takes this run back."), "{ended:?}");
    assert_eq!((ferry.read("a.py").as_str(), ferry.read("b.py").as_str()), ("x = 1\n", ""));
    ferry
}

#[track_caller]
fn assert_refused(ended: &Ended, message: &str) {
    assert_eq!(ended.status, 2, "{ended:?}");
    assert!(ended.err.contains(message), "{ended:?}");
}

#[test]
fn the_last_run_is_taken_back_once() {
    let ferry = fixed();
    let undone = ferry.run(&["fix", "--undo"]);
    assert_eq!(undone.status, 0, "{undone:?}");
    assert_eq!(undone.out, "put back  a.py\nput back  b.py\nTook back the last fixing run, 2 files\n");
    assert_eq!((ferry.read("a.py").as_str(), ferry.read("b.py").as_str()), (OLD, "import sys\n"));
    assert_refused(&ferry.run(&["fix", "--undo"]), "there is no fixing run here to undo");
}

#[test]
fn what_changed_since_is_never_lost() {
    let ferry = fixed();
    ferry.write("b.py", "BOAT = 1\n");
    assert_refused(
        &ferry.run(&["fix", "--undo"]),
        "nothing was undone, because this changed since the fixing run: b.py",
    );
    assert_eq!((ferry.read("a.py").as_str(), ferry.read("b.py").as_str()), ("x = 1\n", "BOAT = 1\n"));
    ferry.write("b.py", "");
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 0, "when the file is as the run left it, it goes on");
    let ferry = fixed();
    std::fs::remove_file(ferry.path("a.py")).expect("removing");
    assert_refused(&ferry.run(&["fix", "--undo"]), "a.py");
}

#[test]
fn a_run_that_changes_nothing_leaves_the_last_one_to_be_undone() {
    let ferry = fixed();
    assert!(ferry.run(&["fix", "--mesh", "fine"]).out.contains("Nothing to fix"));
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
    assert_eq!(ferry.read("a.py"), OLD);
}

#[test]
fn bytes_come_back_as_they_were() {
    let old = b"\xef\xbb\xbfimport os\r\nx = '\xc3\xa9' \r\n";
    let ferry = Ferry::empty();
    ferry.write("bom.py", old);
    assert_eq!(ferry.run(&["fix", "--mesh", "fine"]).status, 0);
    assert_eq!(std::fs::read(ferry.path("bom.py")).expect("a file"), b"\xef\xbb\xbfx = '\xc3\xa9'\r\n");
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
    assert_eq!(std::fs::read(ferry.path("bom.py")).expect("a file"), old);
}

#[test]
fn a_damaged_record_is_no_record() {
    let ferry = fixed();
    let folder = ferry.path(".git/kept/state/honest-sieve");
    for entry in std::fs::read_dir(&folder).expect("the record").flatten() {
        let mut bytes = std::fs::read(entry.path()).expect("the record");
        let middle = bytes.len() / 2;
        bytes[middle] ^= 1;
        std::fs::write(entry.path(), bytes).expect("the record");
    }
    assert_refused(&ferry.run(&["fix", "--undo"]), "there is no fixing run here to undo");
    assert_eq!(ferry.read("a.py"), "x = 1\n");
}

#[test]
fn where_nothing_can_be_kept_the_run_says_so() {
    let ferry = Ferry::with(&[("a.py", OLD)]);
    let mut command = ferry.command(&["fix"]);
    command.env_remove("XDG_STATE_HOME").env_remove("HOME");
    let ended = ended(&mut command);
    assert_eq!(ended.status, 0, "{ended:?}");
    assert!(ended.err.contains("this run cannot be undone"), "{ended:?}");
    assert_eq!(ferry.read("a.py"), "x = 1 \n");
}
