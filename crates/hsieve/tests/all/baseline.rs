//! The baseline through the life of the code.

use crate::ferry::Ferry;

const FARES: &str = "\
def total(kinds, discounts=[]):
    amount = sum(kinds, discounts.pop())
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

#[test]
fn new_code_does_not_ride_on_an_old_entry() {
    let ferry = taken();
    // The old finding is fixed, and the same mistake is made in another function.
    let fixed = FARES.replace("discounts=[]", "discounts=None");
    ferry.write(
        "booking/fares.py",
        format!("{fixed}\n\ndef child(kinds, discounts=[]):\n    return kinds, discounts\n"),
    );
    let ended = ferry.run(&["sift"]);
    assert!(ended.out.contains("booking/fares.py:13:"), "{ended:?}");
    assert_eq!(ended.out.lines().count(), 1, "{ended:?}");
    assert!(ended.err.contains("paid off        1"), "{ended:?}");
}

#[test]
fn a_function_that_goes_to_another_file_takes_its_entries_along() {
    let ferry = taken();
    let (first, second) = FARES.split_once("\n\n\n").expect("two functions");
    ferry.write("booking/fares.py", format!("{first}\n"));
    ferry.write("booking/refunds.py", second);
    assert_clean(&ferry, "moved to a new file");
    let trimmed = ferry.run(&["baseline", "trim"]);
    assert!(trimmed.out.contains("2 entries follow what was moved or renamed"), "{trimmed:?}");
    assert_clean(&ferry, "after trimming");
    // Where the function is still there, a copy of it is new.
    ferry.write("booking/copy.py", second);
    assert_eq!(ferry.run(&["sift"]).out.lines().count(), 2);
}

#[test]
fn trim_drops_only_what_is_known_to_be_fixed() {
    let ferry = taken();
    ferry.write("tides.py", "import os\nimport sys\n");
    assert_eq!(ferry.run(&["baseline", "take", "--add-new"]).status, 0);
    let before = ferry.read("sieve-baseline.jsonl");
    let keeps = |when: &str| {
        let trimmed = ferry.run(&["baseline", "trim"]);
        assert!(trimmed.out.contains("Dropped 0"), "{when}: {trimmed:?}");
        assert_eq!(ferry.read("sieve-baseline.jsonl"), before, "{when}");
        trimmed.status
    };
    ferry.write("tides.py", "import os\nimport sys\ndef broken(:\n");
    assert_eq!(keeps("broken"), 0);
    ferry.write("tides.py", b"import os\nx = '\xff\xfe'\n");
    assert_eq!(keeps("not UTF-8"), 0);
    ferry.write("tides.py", "# Generated by the table maker. Do not edit.\n");
    assert_eq!(keeps("generated"), 0);
    ferry.write("sieve.toml", "[files]\nlargest = 10\n");
    assert_eq!(keeps("too large"), 0);
    ferry.write("sieve.toml", "[files]\nskip = [\"tides.py\"]\n[rules]\nmagic-number = \"warning\"\n");
    assert_eq!(keeps("skipped"), 0);
    ferry.write("sieve.toml", "[rules]\nmagic-number = \"warning\"\n");
    ferry.write("tides.py", "import os\nprint(eval(input()), __import__)\nglobals()\n");
    std::fs::remove_file(ferry.path("tides.py")).expect("removing");
    std::fs::create_dir(ferry.path("tides.py")).expect("a folder");
    assert_eq!(keeps("a folder in its place"), 0);
    std::fs::remove_dir(ferry.path("tides.py")).expect("removing");
    // A file that is gone takes its entries along, whatever the mesh.
    let trimmed = ferry.run(&["baseline", "trim", "--mesh", "coarse"]);
    assert!(trimmed.out.contains("Dropped 2"), "{trimmed:?}");
}

#[test]
fn branches_that_trim_meet_without_a_conflict() {
    let sources: String = (0..30).map(|number| format!("import mod{number:02}\n")).collect();
    let ferry = Ferry::in_git(&[("a.py", &sources)]);
    let taken = ferry.run(&["baseline", "take"]);
    assert!(taken.out.contains("merge=union"), "{taken:?}");
    ferry.write(".gitattributes", "sieve-baseline.jsonl merge=union\n");
    assert!(!ferry.run(&["baseline", "take"]).out.contains("merge=union"));
    assert_eq!(ferry.commit("taken").status, 0);
    let pay = |branch: &str, line: &str| {
        ferry.git(&["switch", "--quiet", "--create", branch, "main"]);
        ferry.write("a.py", sources.replace(line, ""));
        assert_eq!(ferry.run(&["baseline", "trim"]).status, 0);
        assert_eq!(ferry.commit(branch).status, 0);
    };
    pay("north", "import mod10\n");
    pay("south", "import mod11\n");
    let merged = ferry.git(&["merge", "--quiet", "--no-edit", "--strategy-option=theirs", "north"]);
    assert_eq!(merged.status, 0, "{merged:?}");
    let sifted = ferry.run(&["sift"]);
    assert_eq!((sifted.status, sifted.out.as_str()), (0, ""), "{sifted:?}");
    // What the union brought back goes with the next trim.
    assert_eq!(ferry.run(&["baseline", "trim"]).status, 0);
    assert_eq!(ferry.read("sieve-baseline.jsonl").lines().count() - 1, ferry.read("a.py").lines().count());
}
