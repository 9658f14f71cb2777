//! The baseline through the life of the code.

use crate::ferry::Ferry;

const FARES: &str = "\
def total(kinds, discounts=[]):
    amount = sum(kinds)
    if kinds is \"dog\":
        return adlut
    return amount


def refund(left):
    receipt = left
    return 2 * 1.17
";

fn taken() -> Ferry {
    let ferry = Ferry::with(&[("booking/fares.py", FARES), ("sieve.toml", "[rules]\nmagic-number = \"warning\"\n")]);
    assert_eq!(ferry.run(&["sift"]).status, 1);
    let taken = ferry.run(&["baseline", "take"]);
    assert_eq!(taken.status, 0, "{}", taken.err);
    assert_clean(&ferry, "after taking");
    ferry
}

fn assert_clean(ferry: &Ferry, when: &str) {
    let ended = ferry.run(&["sift"]);
    assert_eq!((ended.status, ended.out.as_str()), (0, ""), "{when}: {}", ended.err);
    assert!(!ended.err.contains("gone"), "{when}: {}", ended.err);
}

#[test]
fn moving_indenting_and_renaming_keep_every_entry() {
    let ferry = taken();
    ferry.write("booking/fares.py", FARES.replace('\n', "\n\n"));
    assert_clean(&ferry, "blank lines");

    let (first, second) = FARES.split_once("\n\n\n").expect("two functions");
    ferry.write("booking/fares.py", format!("{second}\n\n{first}\n"));
    assert_clean(&ferry, "functions moved");

    let indented: String =
        FARES.lines().map(|line| if line.is_empty() { "\n".into() } else { format!("    {line}\n") }).collect();
    ferry.write("booking/fares.py", format!("if __name__:\n{indented}"));
    assert_clean(&ferry, "wrapped in an if");

    ferry.write("booking/fares.py", FARES);
    std::fs::create_dir(ferry.path("money")).expect("a folder");
    std::fs::rename(ferry.path("booking/fares.py"), ferry.path("money/prices.py")).expect("renaming");
    assert_clean(&ferry, "renamed");
}

#[test]
fn touching_the_flagged_code_frees_its_entry() {
    for (old, new) in [
        ("adlut", "adutl"),
        ("1.17", "1.18"),
        ("=[]", "={}"),
        ("receipt =", "recipe ="),
        ("is \"dog\"", "is not \"dog\""),
    ] {
        let ferry = taken();
        ferry.write("booking/fares.py", FARES.replacen(old, new, 1));
        let ended = ferry.run(&["sift"]);
        assert_eq!((ended.status, ended.out.lines().count()), (1, 1), "{old}: {}", ended.out);
        assert!(ended.err.contains("1    entry of the baseline is gone"), "{old}: {}", ended.err);
    }
}

#[test]
fn what_is_gone_is_told_and_trimmed() {
    let ferry = taken();
    ferry.write("booking/fares.py", FARES.replace("is \"dog\"", "== \"dog\"").replace("=[]", "=()"));
    let status = ferry.run(&["baseline", "status"]);
    assert!(status.out.contains("5 entries in sieve-baseline.jsonl, 3 still there, 2 gone"), "{}", status.out);
    let trimmed = ferry.run(&["baseline", "trim"]);
    assert!(trimmed.out.contains("Dropped 2, 3 entries left"), "{}", trimmed.out);
    assert_clean(&ferry, "trimmed");
}

#[test]
fn new_findings_are_never_added_by_accident() {
    let ferry = taken();
    ferry.write("booking/tides.py", "import os\n");
    let refused = ferry.run(&["baseline", "take"]);
    assert_eq!(refused.status, 2);
    assert!(refused.err.contains("1 finding is not in it; --add-new adds them"), "{}", refused.err);
    assert_eq!(ferry.run(&["sift"]).status, 1);
    assert_eq!(ferry.run(&["baseline", "take", "--add-new"]).status, 0);
    assert_clean(&ferry, "added");
}

#[test]
fn a_second_equal_finding_is_new() {
    let ferry = taken();
    ferry.write("booking/fares.py", FARES.replace("return 2 * 1.17", "return 2 * 1.17 * 1.17"));
    let ended = ferry.run(&["sift"]);
    assert_eq!((ended.status, ended.out.lines().count()), (1, 1), "{}", ended.out);
}

#[test]
fn the_file_is_sorted_lines_of_json() {
    let ferry = taken();
    let text = ferry.read("sieve-baseline.jsonl");
    let lines: Vec<&str> = text.lines().collect();
    assert_eq!(lines[0], "{\"tool\":\"honest-sieve\",\"form\":1}");
    assert!(lines[1].starts_with("{\"path\":\"booking/fares.py\",\"rule\":\"identity-of-literal\",\"within\":\"total\",\"code\":\"is\",\"since\":\""), "{}", lines[1]);
    assert!(lines[1..].is_sorted());
    assert_eq!(lines.len(), 6);
}
