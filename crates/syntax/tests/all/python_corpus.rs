//! The parser against CPython, over CPython's whole library with its tests.

use std::collections::BTreeMap;

use serde_json::Value;
use sieve_syntax::language::Language;
use sieve_syntax::tree::Tree;

use crate::reference;
use crate::shape::{assert_kinds, assert_sound};

/// Files on which the two differ, by the end of their path, with the cause.
const KNOWN: &[(&str, &str)] = &[
    // CPython knows the name "utf-8" there, but not its other spelling "utf8".
    ("test/bad_coding2.py", "a byte-order mark and the encoding line utf8"),
    ("tokenizedata/bad_coding2.py", "a byte-order mark and the encoding line utf8"),
];

#[test]
fn python_agrees_with_its_reference_over_its_library() {
    for python in reference::pythons() {
        let version = reference::version(&python);
        let mut compared = 0;
        let mut differences = Vec::new();
        for entry in reference::of_library(&python) {
            let path = entry["path"].as_str().expect("a path");
            let Some(accepted) = entry["accepted"].as_bool() else { continue };
            compared += 1;
            if let Some(difference) = difference(path, accepted, &entry) {
                if !KNOWN.iter().any(|(end, _)| path.ends_with(end)) && !is_newer_than(version, &difference) {
                    differences.push(format!("{path}: {difference}"));
                }
            }
        }
        eprintln!("{compared} files compared with Python {}.{}", version.0, version.1);
        assert!(compared > 1000, "the library of {python} was not found");
        assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
    }
}

/// Older interpreters refuse what newer ones have; we understand the union.
fn is_newer_than(version: (u32, u32), difference: &str) -> bool {
    version < (3, 12) && difference.contains("f-string")
}

fn difference(path: &str, accepted: bool, entry: &Value) -> Option<String> {
    let bytes = std::fs::read(path).expect("the file is readable");
    let text = match Language::Python.decode(bytes.clone()) {
        Ok(text) => text,
        Err(error) if accepted => return Some(format!("accepted there, here not decoded: {error}")),
        Err(_) => return None,
    };
    assert_eq!(text.encode().as_deref(), Some(bytes.as_slice()), "{path} does not come back as it was");
    let tree = Language::Python.parse(&text);
    assert_sound(&tree, text.source());
    assert_kinds(Language::Python, &tree);
    match (accepted, tree.faults().first()) {
        (true, Some(fault)) => {
            let place = text.place(fault.span.start);
            Some(format!("accepted there, here line {}: {}", place.line, fault.problem))
        }
        (false, None) => Some(format!("refused there: {}", entry["message"])),
        (false, Some(_)) => None,
        (true, None) => count_difference(&tree, &entry["counts"]),
    }
}

fn count_difference(tree: &Tree, expected: &Value) -> Option<String> {
    let mut counts: BTreeMap<&str, u64> = BTreeMap::new();
    for node in tree.nodes() {
        *counts.entry(node.kind().name()).or_default() += 1;
    }
    // The reference has a parameter for each name only, and folds signs into the numbers of patterns.
    counts.remove("parameter");
    let differs = |(name, count): (&String, &Value)| {
        let ours = counts.get(name.as_str()).copied().unwrap_or(0);
        (name != "parameter" && Some(ours) != count.as_u64()).then(|| format!("{name}: {ours} here, {count} there"))
    };
    let differences: Vec<String> = expected.as_object().expect("counts").iter().filter_map(differs).collect();
    (!differences.is_empty()).then(|| differences.join(", "))
}
