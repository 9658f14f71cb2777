//! The way of one finding, in whatever language: it is reported, cold and from the cache, waived, and taken into the baseline.

use crate::ferry::Ferry;

/// A file with one finding, of `same-branches`, in a project.
pub struct Case<'c> {
    pub file: &'c str,
    pub source: &'c str,
    pub line: u32,
    pub finding: &'c str,
}

/// Goes all of it, in a project that has the file already.
#[track_caller]
pub fn is_reported_waived_and_recorded(ferry: &Ferry, case: &Case<'_>) {
    assert_eq!(ferry.findings(&[]), [case.finding]);
    assert_eq!(ferry.findings(&["--no-cache"]), [case.finding], "cold");
    let place = format!("{}:{}", case.file, case.line);
    let waived = ferry.run(&["waive", &place, "same-branches", "--because", "children pay the same"]);
    assert_eq!(waived.status, 0, "{}", waived.err);
    assert!(ferry.read(case.file).contains("// sieve: "), "{}", ferry.read(case.file));
    assert_eq!(ferry.findings(&[]), [""; 0]);
    ferry.write(case.file, case.source);
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert_eq!(ferry.findings(&[]), [""; 0]);
    assert_eq!(ferry.findings(&["--no-baseline"]), [case.finding]);
}
