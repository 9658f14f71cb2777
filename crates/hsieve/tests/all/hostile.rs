//! Files and folders that nobody means well with.

use crate::ferry::Ferry;

#[test]
fn each_hostile_text_ends_with_a_clear_finding() {
    let ferry = Ferry::empty();
    ferry.write("brackets.py", format!("x = {}{}\n", "(".repeat(100_000), ")".repeat(100_000)));
    ferry.write("half.py", "def sail(boat:\n    retu");
    ferry.write("zeros.py", "x = 1\n\0\0\ny = 2\n");
    ferry.write("quotes.py", "x = '''never closed\n".repeat(2));
    let ended = ferry.run(&["sift"]);
    assert_eq!(ended.status, 1);
    let lines: Vec<&str> = ended.out.lines().collect();
    assert_eq!(lines.len(), 4, "{}", ended.out);
    assert!(lines[0].ends_with("nested deeper than 200 levels [nested-too-deep]"), "{}", lines[0]);
    assert!(lines[1].contains("half.py") && lines[1].ends_with("[broken-syntax]"), "{}", lines[1]);
    assert!(lines[3].contains("zeros.py:2:1: error: a zero byte is not allowed in source code"), "{}", lines[3]);
}

#[test]
fn sums_and_chains_of_any_length_are_survived() {
    let ferry = Ferry::empty();
    let sum = " + x".repeat(200_000);
    ferry.write("a.py", format!("def f(db, x):\n    db.execute(\"select * from t where a = \"{sum})\n"));
    ferry.write("b.js", format!("export function f(db, x) {{ db.query(\"select * from t where a = \"{sum}); }}\n"));
    let ended = ferry.run(&["sift", "--only", "sql-by-joining", "--output", "lines"]);
    assert_eq!((ended.status, ended.out.lines().count()), (1, 2), "{} {}", ended.out, ended.err);
    for query in ["any inside (any inside any)", "any as one inside (any { argument same one })"] {
        let found = ferry.run(&["find", query, "--count"]);
        assert!(found.status < 2 && found.err.contains("2 files"), "{query}: {}", found.err);
    }
}

#[test]
fn one_line_of_fifty_megabytes_is_left_out_unless_it_is_named() {
    let ferry = Ferry::empty();
    ferry.write("giant.py", format!("x = [{}]\n", "10,".repeat(50_000_000 / 3)));
    let ended = ferry.run(&["sift"]);
    assert_eq!(ended.status, 0);
    assert!(ended.err.contains("1 too large"), "{}", ended.err);
    let named = ferry.run(&["sift", "giant.py", "--only", "long-line"]);
    assert_eq!((named.status, named.out.lines().count()), (0, 1), "{}", named.err);
    assert!(named.out.contains("50000004 characters, 100 are allowed"), "{}", named.out);
}

#[cfg(unix)]
#[test]
fn folders_without_permission_and_loops_of_links_are_survived() {
    use std::os::unix::fs::{PermissionsExt, symlink};
    let ferry = Ferry::with(&[("open/a.py", "import os\n"), ("closed/b.py", "x = 1\n")]);
    symlink(ferry.path("open"), ferry.path("open/again")).expect("a link");
    symlink(ferry.path("self.py"), ferry.path("self.py")).expect("a link");
    std::fs::set_permissions(ferry.path("closed"), std::fs::Permissions::from_mode(0)).expect("a mode");
    let may_read_all = std::fs::read_dir(ferry.path("closed")).is_ok();
    let ended = ferry.run(&["sift"]);
    std::fs::set_permissions(ferry.path("closed"), std::fs::Permissions::from_mode(0o755)).expect("a mode");
    assert_eq!(ended.out.lines().count(), 1, "{}", ended.out);
    assert!(ended.err.contains("1 reached by a link"), "{}", ended.err);
    if may_read_all {
        eprintln!("0 folders closed: this user may read everything");
        assert_eq!(ended.status, 1);
    } else {
        assert_eq!(ended.status, 3);
        assert!(ended.err.contains("closed: cannot read it: permission denied"), "{}", ended.err);
    }
    assert_eq!(ferry.run(&["sift", "self.py"]).status, 3);
}

#[cfg(unix)]
#[test]
fn what_cannot_be_written_is_told_and_stays_whole() {
    use std::os::unix::fs::PermissionsExt;
    let ferry = Ferry::with(&[("a.py", "import os\n"), ("b.py", "import os\n")]);
    std::fs::set_permissions(ferry.path("a.py"), std::fs::Permissions::from_mode(0o444)).expect("a mode");
    let ended = ferry.run(&["fix"]);
    assert_eq!(ended.status, 3);
    assert!(ended.err.contains("a.py: cannot write it: permission denied"), "{}", ended.err);
    assert_eq!((ferry.read("a.py"), ferry.read("b.py")), ("import os\n".to_string(), String::new()));
}
