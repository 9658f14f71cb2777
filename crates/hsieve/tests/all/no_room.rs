//! A full disk and folders that cannot be written: a clear message, status 3, nothing changed.

use std::fmt::Write;
use std::process::Command;

use crate::ferry::{Ended, Ferry, ended};

const CODE: &str = "import os\nTIDE = 3\n";

fn program() -> String {
    assert_cmd::cargo::cargo_bin!("hsieve").display().to_string()
}

/// Runs a shell script in a folder, in a space of its own where file systems may be mounted; nothing where that is not allowed.
fn in_own_space(ferry: &Ferry, script: &str) -> Option<Ended> {
    let allowed = Command::new("unshare").args(["-rm", "sh", "-c", "mount -t tmpfs none /mnt"]).output();
    if !allowed.is_ok_and(|output| output.status.success()) {
        return None;
    }
    let mut command = assert_cmd::Command::new("unshare");
    command.args(["-rm", "sh", "-c", script]).current_dir(ferry.path("."));
    command.env("XDG_CACHE_HOME", ferry.path(".git/kept/cache")).env("XDG_STATE_HOME", ferry.path(".git/kept/state"));
    Some(ended(&mut command))
}

/// A script that puts the code on a small disk, does something to the disk, runs commands there, and shows what is left.
fn script(prepare: &str, commands: &[&str]) -> String {
    let mut script = String::from(
        "set -u; mkdir disk; mount -t tmpfs -o size=64k none disk; cp a.py disk; mkdir disk/.git; cd disk; ",
    );
    write!(script, "{prepare}; ").expect("a string");
    for command in commands {
        write!(script, "{} {command}; echo \"status $?\"; ", program()).expect("a string");
    }
    script + "cat a.py; ls -A"
}

const LEFT: &str = "import os\nTIDE = 3\n.git\na.py\n";

#[test]
fn a_full_disk_changes_nothing() {
    let ferry = Ferry::with(&[("a.py", CODE)]);
    // A run before the disk is full, which can be taken back afterwards all the same.
    let fill =
        format!("printf 'import sys\\n' > b.py; {} fix b.py >/dev/null; cat /dev/zero > filler 2>/dev/null", program());
    let Some(ended) = in_own_space(&ferry, &script(&fill, &["fix", "baseline take", "settings set mesh fine"])) else {
        return with_a_limit(&ferry);
    };
    assert_eq!(ended.out.matches("status 3").count(), 3, "{ended:?}");
    assert_eq!(ended.err.matches("cannot write it: the disk is full").count(), 3, "{ended:?}");
    assert!(ended.out.ends_with(&format!("{LEFT}b.py\nfiller\n")), "{ended:?}");
    let record = std::fs::read_dir(ferry.path(".git/kept/state/honest-sieve")).expect("the record").flatten().count();
    assert!(record >= 1, "the record of the run before is still there");
}

/// Where no disk can be mounted: no file may grow beyond nothing.
fn with_a_limit(ferry: &Ferry) {
    eprintln!("0 full disks: none can be mounted here; a limit on files stands in for it");
    let script = format!("trap '' XFSZ; ulimit -f 0; {} fix; echo \"status $?\"", program());
    let mut command = assert_cmd::Command::new("sh");
    command.args(["-c", &script]).current_dir(ferry.path(".")).env("XDG_STATE_HOME", ferry.path(".git/kept/state"));
    let ended = ended(&mut command);
    assert!(ended.out.contains("status 3") && ended.err.contains("cannot write it"), "{ended:?}");
    assert_eq!(ferry.read("a.py"), CODE);
}

#[test]
fn a_read_only_disk_changes_nothing() {
    let ferry = Ferry::with(&[("a.py", CODE)]);
    let Some(ended) = in_own_space(&ferry, &script("mount -o remount,ro .", &["fix", "baseline take", "sift"])) else {
        eprintln!("0 read-only disks: none can be mounted here");
        return;
    };
    assert_eq!(ended.out.matches("status 3").count(), 2, "{ended:?}");
    assert_eq!(ended.err.matches("cannot write it: the file system is read-only").count(), 2, "{ended:?}");
    assert!(ended.out.contains("status 1"), "sifting goes on: {ended:?}");
    assert!(ended.out.ends_with(LEFT), "{ended:?}");
}
