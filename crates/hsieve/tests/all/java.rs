//! Java: the program on a package: findings, waivers, the baseline, and mistakes.

use crate::ferry::Ferry;

const FARE: &str = "package ferries;\n\n/** Fares. */\npublic class Fare {\n    int due(boolean child) {\n        return child ? 4 : 4;\n    }\n}\n";

const SAME: &str =
    "src/Fare.java:6:16: warning: both branches are the same: the condition has no effect [same-branches]";

#[test]
fn a_package_is_sifted_waived_and_recorded() {
    let ferry = Ferry::with(&[("src/Fare.java", FARE)]);
    assert_eq!(ferry.findings(&[]), [SAME]);
    assert_eq!(ferry.findings(&["--no-cache"]), [SAME], "cold");
    let waived = ferry.run(&["waive", "src/Fare.java:6", "same-branches", "--because", "children pay the same"]);
    assert_eq!(waived.status, 0, "{}", waived.err);
    assert!(ferry.read("src/Fare.java").contains("// sieve: "), "{}", ferry.read("src/Fare.java"));
    assert_eq!(ferry.findings(&[]), [""; 0]);
    ferry.write("src/Fare.java", FARE);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.findings(&[]), [""; 0]);
    assert_eq!(ferry.findings(&["--no-baseline"]), [SAME]);
}

/// A mistake is told at its place, and the rest of the file is sifted.
#[test]
fn a_broken_package_tells_where() {
    let broken = FARE.replace("int due", "int fare() { return ; + }\n    int due");
    let ferry = Ferry::with(&[("src/Fare.java", &broken)]);
    let found = ferry.findings(&[]);
    assert_eq!(found[0], "src/Fare.java:5:29: error: expected a value, found '}' [broken-syntax]");
    assert_eq!(found[1..], [SAME.replace(":6:", ":7:")]);
}
