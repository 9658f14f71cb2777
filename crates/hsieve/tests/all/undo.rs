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
    assert_eq!(undone.out, "put back  a.py\nput back  b.py\nReverted the last fixing run, 2 files\n");
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
    let entries = std::fs::read_dir(&folder).expect("the record").flatten();
    for entry in entries.filter(|entry| entry.path().extension().is_some_and(|ending| ending == "undo")) {
        let mut bytes = std::fs::read(entry.path()).expect("the record");
        let middle = bytes.len() / 2;
        bytes[middle] ^= 1;
        std::fs::write(entry.path(), bytes).expect("the record");
    }
    assert_refused(&ferry.run(&["fix", "--undo"]), "there is no fixing run here to undo");
    assert_eq!(ferry.read("a.py"), "x = 1\n");
}

#[test]
fn where_nothing_can_be_kept_nothing_begins_unless_that_is_wanted() {
    let ferry = Ferry::with(&[("a.py", OLD)]);
    let fix = |arguments: &[&str]| {
        let mut command = ferry.command(arguments);
        command.env_remove("XDG_STATE_HOME").env_remove("HOME");
        ended(&mut command)
    };
    let refused = fix(&["fix"]);
    assert_eq!(refused.status, 3, "{refused:?}");
    assert!(refused.err.contains("--no-undo fixes all the same"), "{refused:?}");
    assert_eq!(ferry.read("a.py"), OLD);
    assert_eq!(fix(&["fix", "--no-undo"]).status, 0);
    assert_eq!(ferry.read("a.py"), "x = 1 \n");
}

#[cfg(unix)]
#[test]
fn a_name_that_is_not_utf_8_costs_nobody_the_undo() {
    use std::os::unix::ffi::OsStrExt;
    let ferry = Ferry::with(&[("a.py", OLD)]);
    let odd = ferry.path("").join(std::ffi::OsStr::from_bytes(b"quay-\xff.py"));
    std::fs::write(&odd, OLD).expect("a file");
    assert_eq!(ferry.run(&["fix"]).status, 0);
    assert_ne!(std::fs::read_to_string(&odd).expect("a file"), OLD);
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
    assert_eq!(std::fs::read_to_string(&odd).expect("a file"), OLD);
    assert_eq!(ferry.read("a.py"), OLD);
}

#[test]
fn two_runs_lock_each_other_out() {
    let ferry = Ferry::with(&[("a.py", OLD)]);
    assert_eq!(ferry.run(&["fix", "--only", "long-line"]).status, 0);
    let folder = ferry.path(".git/kept/state/honest-sieve");
    let is_lock = |entry: &std::fs::DirEntry| entry.path().extension().is_some_and(|ending| ending == "lock");
    let lock = std::fs::read_dir(&folder).expect("a folder").flatten().find(is_lock).expect("a lock").path();
    let held = std::fs::File::options().write(true).open(lock).expect("a lock");
    held.lock().expect("the lock");
    let refused = ferry.run(&["fix"]);
    assert_eq!(refused.status, 3, "{refused:?}");
    assert!(refused.err.contains("another run is fixing files here"), "{refused:?}");
    assert_eq!(ferry.read("a.py"), OLD);
    drop(held);
    assert_eq!(ferry.run(&["fix"]).status, 0);
}
