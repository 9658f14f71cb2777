//! Walking through the fixes that somebody must check.

use crate::ferry::{Ended, Ferry, ended};

const CODE: &str = "def fare(kinds=[]):\n    total = kinds.pop()\n    return kinds\n    print(1)\n\n\ndef sail(boats={}):\n    return boats\n";

fn answered(ferry: &Ferry, answers: &str) -> Ended {
    ended(ferry.command(&["fix", "--review"]).write_stdin(answers))
}

#[test]
fn each_answer_does_what_it_says() {
    let first = "def fare(kinds=None):\n    if kinds is None:\n        kinds = []\n    total = kinds.pop()\n";
    let rest = "    return kinds\n    print(1)\n\n\n";
    let second = "def sail(boats=None):\n    if boats is None:\n        boats = {}\n    return boats\n";
    let unchanged = "def sail(boats={}):\n    return boats\n";
    for (answers, expected) in [
        ("q\n", CODE.to_string()),
        ("", CODE.to_string()),
        ("n\nn\nn\nn\n", CODE.to_string()),
        ("y\nq\n", format!("{first}{rest}{unchanged}")),
        ("a\nn\nn\n", format!("{first}{rest}{second}")),
        ("what?\ny\nn\nn\ny\n", format!("{first}{rest}{second}")),
        ("y\ny\ny\ny\n", format!("{}    return kinds\n\n\n{second}", first.replace("total = ", ""))),
    ] {
        let ferry = Ferry::with(&[("fares.py", CODE)]);
        let ended = answered(&ferry, answers);
        assert_eq!(ended.status, 0, "{ended:?}");
        assert_eq!(ferry.read("fares.py"), expected, "{answers:?}\n{}", ended.out);
    }
}

#[test]
fn it_shows_the_place_and_the_difference() {
    let ferry = Ferry::with(&[("fares.py", CODE)]);
    let shown = answered(&ferry, "y\nq\n").out;
    assert!(shown.contains("fares.py:1:16  mutable-default"), "{shown}");
    assert!(shown.contains("-def fare(kinds=[]):\n+def fare(kinds=None):\n+    if kinds is None:\n"), "{shown}");
    assert!(shown.contains("Apply it?  y yes · n no · a all of this rule · q quit"), "{shown}");
    assert!(shown.contains("fixed  fares.py  1 mutable-default"), "{shown}");
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 0);
    assert_eq!(ferry.read("fares.py"), CODE);
}

#[test]
fn what_is_held_back_is_not_asked_about() {
    let ferry = Ferry::with(&[("fares.py", CODE), ("clean.py", "x = 1\n")]);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    let shown = answered(&ferry, "y\n");
    assert!(shown.out.starts_with("No finding here has a fix to review."), "{shown:?}");
    assert_eq!(ferry.read("fares.py"), CODE);
}

#[test]
fn a_default_that_means_something_else_in_the_body_has_no_fix() {
    let ferry = Ferry::with(&[("fares.py", "kinds = 3\n\n\ndef fare(kinds=[kinds]):\n    return kinds\n")]);
    assert!(answered(&ferry, "y\n").out.starts_with("No finding here has a fix to review."));
    assert_eq!(ferry.run(&["sift"]).out.lines().count(), 1);
}
