//! Copies of code in several files: found after the files, and held back like anything else.

use crate::ferry::{Ended, Ferry};

const FARE: &str = "    adult = load(name, kind)\n    child = adult.price * share(kind, 0.5)\n    if child < least(kind):\n        \
                    child = least(kind)\n    total = adult.price + child\n    record(name, kind, adult, child, total)\n    \
                    announce(name, total, to=kind)\n    return total\n";

/// A function around the block, with a line above it.
fn fare(name: &str, above: &str) -> String {
    format!("from fares import announce, least, load, record, share\n\n\n{above}def {name}(name, kind):\n{FARE}")
}

fn ferry(above: &str, settings: &str) -> Ferry {
    Ferry::with(&[
        ("sieve.toml", settings),
        ("boats.py", &fare("boat_fare", "")),
        ("quays.py", &fare("quay_fare", above)),
    ])
}

fn sifted(ferry: &Ferry, more: &[&str]) -> Ended {
    let mut arguments = vec!["sift", "--mesh", "fine", "--without", "docs,naming", "--output", "lines"];
    arguments.extend(more);
    ferry.run(&arguments)
}

#[test]
fn a_copy_is_told_where_it_stands_the_second_time() {
    let found = sifted(&ferry("", ""), &[]);
    let copies: Vec<&str> = found.out.lines().filter(|line| line.contains("repeated-block")).collect();
    assert_eq!(copies, ["quays.py:5:5: note: these statements are a copy of those in boats.py:5 [repeated-block]"]);
}

#[test]
fn numbers_and_texts_may_differ_and_names_may_not() {
    let other_numbers = ferry("", "");
    other_numbers.write("quays.py", fare("quay_fare", "").replace("0.5", "0.75"));
    assert!(sifted(&other_numbers, &[]).out.contains("repeated-block"));
    other_numbers.write("quays.py", fare("quay_fare", "").replace("adult", "grown"));
    assert!(!sifted(&other_numbers, &[]).out.contains("repeated-block"));
    other_numbers.write("tests/quays.py", fare("quay_fare", ""));
    assert!(!sifted(&other_numbers, &[]).out.contains("repeated-block"), "tests may repeat what they test");
}

#[test]
fn a_comment_holds_a_copy_back_and_is_not_stale() {
    let waiver = "# sieve: waive repeated-block because quays charge by other laws soon\n";
    for above in [waiver.to_string(), waiver.replace("waive ", "waive-file ")] {
        let ferry = ferry(&above, "");
        let found = sifted(&ferry, &["--held"]);
        let told: Vec<&str> = found.out.lines().filter(|line| line.contains("quays.py")).collect();
        assert!(told.len() == 1 && told[0].contains("repeated-block"), "{found:?}");
        assert!(!sifted(&ferry, &[]).out.contains("quays.py"), "{found:?}");
        let listed = ferry.run(&["waivers", "--mesh", "fine"]);
        assert!(listed.out.contains("quays.py:4") && !listed.out.contains("stale"), "{listed:?}");
        ferry.run(&["fix", "--mesh", "fine", "--without", "docs,naming"]);
        assert!(ferry.read("quays.py").contains(&above), "a fix leaves the waiver alone");
    }
}

#[test]
fn settings_hold_copies_back() {
    let waive = "[[waive]]\nrules = [\"repeated-block\"]\npaths = [\"quays.py\"]\nbecause = \"quays charge by other laws soon\"\n";
    let held = sifted(&ferry("", waive), &[]);
    assert!(!held.out.contains("repeated-block"), "{held:?}");
    assert!(held.err.contains("held back"), "{held:?}");
    let off = sifted(&ferry("", "[[scope]]\npaths = [\"quays.py\"]\nrules = { repeated-block = \"off\" }\n"), &[]);
    assert!(!off.out.contains("repeated-block"), "{off:?}");
}

#[test]
fn the_baseline_holds_copies_back() {
    let ferry = ferry("", "mesh = \"fine\"\n");
    assert!(ferry.run(&["sift"]).out.contains("repeated-block"));
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    assert!(!ferry.run(&["sift"]).out.contains("repeated-block"));
    ferry.write("crews.py", fare("crew_fare", ""));
    let found = ferry.run(&["sift", "--output", "lines"]).out;
    assert_eq!(found.matches("repeated-block").count(), 1, "{found}");
}

#[test]
fn warm_runs_find_the_same_copies() {
    let ferry = ferry("", "");
    for number in 0..30 {
        ferry.write(&format!("crew{number:02}.py"), fare(&format!("crew_fare_{number}"), ""));
    }
    let without = sifted(&ferry, &["--no-cache"]).out;
    assert_eq!(without.matches("repeated-block").count(), 31, "{without}");
    for round in ["cold", "warm"] {
        assert_eq!(sifted(&ferry, &[]).out, without, "{round}");
    }
    ferry.write("crew07.py", "print(1)\n");
    assert_eq!(sifted(&ferry, &[]).out, sifted(&ferry, &["--no-cache"]).out, "after a change");
}
