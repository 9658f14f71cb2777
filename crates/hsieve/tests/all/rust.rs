//! Rust: the program on a crate: findings, fixes, waivers and the baseline.

use crate::ferry::Ferry;

const LEVEL: &str = "//! Levels.\n\n/// Whether no boat can leave.\npub fn is_low(tide: u8) -> bool {\n    if !tide.is_power_of_two() {\n        true\n    } else {\n        false\n    }\n}\n\n/// What to pay.\nfn fare(child: bool) -> u8 {\n    if child { 4 } else { 4 }\n}\n";

const SAME: &str = "src/lib.rs:14:5: warning: both branches are the same: the condition has no effect [same-branches]";

#[test]
fn a_crate_is_sifted_waived_and_recorded() {
    let ferry = Ferry::with(&[("src/lib.rs", LEVEL), ("Cargo.toml", "[package]\nname = \"tides\"\n")]);
    assert_eq!(ferry.findings(&[]), [SAME]);
    assert_eq!(ferry.findings(&["--no-cache"]), [SAME], "cold");
    let waived = ferry.run(&["waive", "src/lib.rs:14", "same-branches", "--because", "children pay the same"]);
    assert_eq!(waived.status, 0, "{}", waived.err);
    assert!(ferry.read("src/lib.rs").contains("// sieve: "), "{}", ferry.read("src/lib.rs"));
    assert_eq!(ferry.findings(&[]), [""; 0]);
    ferry.write("src/lib.rs", LEVEL);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.findings(&[]), [""; 0]);
    assert_eq!(ferry.findings(&["--no-baseline"]), [SAME]);
}

#[test]
fn fixes_keep_what_a_crate_means() {
    let spaced = LEVEL.replace("true\n", "true  \n");
    let ferry = Ferry::with(&[("src/lib.rs", &spaced)]);
    let fixed = ferry.run(&["fix", "--mesh", "fine", "--only", "trailing-space"]);
    assert_eq!(fixed.status, 0, "{}", fixed.err);
    assert_eq!(ferry.read("src/lib.rs"), LEVEL);
}

/// A mistake is told at its place, and the rest of the file is sifted.
#[test]
fn a_broken_crate_tells_where() {
    let ferry = Ferry::with(&[(
        "src/lib.rs",
        "fn low( {}\n\nfn fare(child: bool) -> u8 {\n    if child { 4 } else { 4 }\n}\n",
    )]);
    assert_eq!(
        ferry.findings(&[]),
        [
            "src/lib.rs:1:9: error: expected a pattern, found '{' [broken-syntax]",
            "src/lib.rs:4:5: warning: both branches are the same: the condition has no effect [same-branches]",
        ]
    );
}
