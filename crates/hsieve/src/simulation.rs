//! In builds for development only: a history of releases that has not happened, read from the file that
//! `SIEVE_SIMULATED_HISTORY` names, to test what a release will do before there is one.
//!
//! Each line is a release and what it changed: `0.1 renamed needless-import unused-import`, `0.1 added swallowed-error`,
//! `0.1 level unused-import note` or `0.1 mesh unused-import fine` (level and mesh as they were before). A line `oldest 0.0`
//! names the oldest release there is.

use sieve_rules::catalogue::history::{self, Change, History, Release, What};
use sieve_rules::{Level, Mesh};

/// Puts the simulated history in force, if there is one.
pub fn begin() {
    let Some(path) = std::env::var_os("SIEVE_SIMULATED_HISTORY") else { return };
    let text = std::fs::read_to_string(path).expect("the simulated history can be read");
    let mut history = History { oldest: Release::new(0, 0), changes: Vec::new() };
    for line in text.lines() {
        let words: Vec<&str> = line.split_whitespace().collect();
        if let ["oldest", release] = words[..] {
            history.oldest = release.parse().expect("a release");
        } else {
            let release = words[0].parse().expect("a release");
            history.changes.push(Change { release, what: what(&words[1..]) });
        }
    }
    history::simulate(history);
}

fn what(words: &[&str]) -> What {
    let owned = |word: &str| word.to_string().into();
    match words {
        ["added", rule] => What::Added(owned(rule)),
        ["renamed", from, to] => What::Renamed { from: owned(from), to: owned(to) },
        ["level", rule, before] => What::Level { rule: owned(rule), before: Level::named(before).expect("a level") },
        ["mesh", rule, before] => What::Mesh { rule: owned(rule), before: Mesh::named(before).expect("a mesh") },
        other => panic!("{other:?} is no change"),
    }
}
