//! How work grows: sources that are large in one way only, at n and 4n, sifted and fixed by all rules. What is counted is steps over the
//! tree and bytes asked of the allocator, never time; what grows much faster than the source is not linear.

mod amplified;
mod attacks;
#[path = "../all/bench.rs"]
#[allow(dead_code, reason = "shared with the other tests")]
mod bench;

use std::alloc::System;
use std::sync::{Mutex, MutexGuard, PoisonError};

use sieve_engine::fix::fix_text;
use sieve_engine::run::{Wants, sift_text};
use sieve_engine::settings::Overrides;
use sieve_meaning::names_of;
use sieve_meaning::project::Alone;
use sieve_rules::query::Query;
use sieve_rules::{Input, Mesh, catalogue};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::steps;
use stats_alloc::{INSTRUMENTED_SYSTEM, Region, StatsAlloc};

use attacks::{ATTACKS, Make};
use bench::Bench;

#[global_allocator]
static ALLOCATOR: &StatsAlloc<System> = &INSTRUMENTED_SYSTEM;

/// Linear work is four times as much for a source of four times the size; a table that has to grow once more is no cause for worry.
const MOST: f64 = 6.0;

/// A fraction of the sizes at which the benchmark measures time: counts are exact, so small sources do.
const SMALLER: usize = 5;

/// Held by each test that counts: what is asked of the allocator is counted for all threads.
static ALONE: Mutex<()> = Mutex::new(());

/// Waits until no other test counts.
fn alone() -> MutexGuard<'static, ()> {
    ALONE.lock().unwrap_or_else(PoisonError::into_inner)
}

/// Steps and bytes of one run of `work`.
fn counted(work: impl FnOnce()) -> [usize; 2] {
    let region = Region::new(ALLOCATOR);
    let before = steps::taken();
    work();
    [(steps::taken() - before) as usize, region.change().bytes_allocated]
}

/// Queries of each way in which nodes are related and parts are counted, some of which ask of captured nodes.
const QUERIES: [&str; 8] = [
    "any inside (any inside any)",
    "any holding (any not holding call)",
    "any { text is \"x\", not depth > 3 } before any",
    "call { argument as first, callee same first }",
    "any as one holding (name { text same one })",
    "name { text as one } after (name { text same one })",
    "any { repeated(argument), complexity(body) > 3, lines(body) > 2 }",
    "call { callee refers \"tides.low\" } not after call { callee refers \"tides.low\" }",
];

/// What asking queries of a source of this size takes.
fn asking_at(language: Language, source: String) -> [usize; 2] {
    let text = Text::new(source);
    let tree = language.parse(&text);
    let names = names_of(language, &text, &tree);
    let input = Input { path: "a", language, text: &text, tree: &tree, names: Some(&names), others: &Alone };
    let queries = QUERIES.iter().filter_map(|query| Query::new(query, &[language]).ok());
    let queries: Vec<Query> = queries.collect();
    assert!(queries.len() > 3, "most hold for every language");
    counted(|| queries.iter().for_each(|query| drop(query.matches(&input))))
}

/// Where all rules are on.
fn with_all_rules() -> Bench {
    let only = catalogue::rules().map(|(id, _)| id).collect();
    Bench::new(Overrides { mesh: Some(Mesh::Fine), only, ..Overrides::default() })
}

/// What sifting and fixing a source of this size takes.
fn work_at(bench: &Bench, language: Language, source: String) -> [[usize; 2]; 2] {
    let text = Text::new(source);
    bench.with_subject_in(language, |subject| {
        let sift = counted(|| drop(sift_text(&text, subject, Wants::IDENTITIES, sieve_engine::today())));
        let fix = counted(|| drop(fix_text(&text, subject, sieve_engine::today(), false, &|_, _| {})));
        [sift, fix]
    })
}

#[cfg(debug_assertions)]
#[test]
fn work_grows_with_the_source() {
    let _alone = alone();
    let bench = with_all_rules();
    let mut wrong = Vec::new();
    for (name, ending, size, make) in ATTACKS {
        let language = Language::of_extension(ending).expect("a language");
        let size = size / SMALLER;
        let at = |make: &Make, size: usize| work_at(&bench, language, make(size));
        // Tables that are made once are not counted.
        at(make, size / 4);
        let (small, large) = (at(make, size), at(make, 4 * size));
        for (run, (small, large)) in ["sift", "fix"].iter().zip(small.iter().zip(&large)) {
            for (what, (small, large)) in ["steps", "bytes"].iter().zip(small.iter().zip(large)) {
                assert!(*small > 0, "{name}: nothing was counted");
                let ratio = *large as f64 / *small as f64;
                if ratio > MOST {
                    wrong.push(format!("{name}: {run}: {ratio:.1} times the {what} ({small} to {large})"));
                }
            }
        }
    }
    add_queries(&mut wrong);
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// What captured nodes are compared with is bounded, at sizes that count: code must be deeper than the bound to tell.
const DEEPER: usize = 4;

/// Less work than this is none to worry about.
const LITTLE: usize = 2_000_000;

#[cfg(debug_assertions)]
fn add_queries(wrong: &mut Vec<String>) {
    for (name, ending, size, make) in ATTACKS {
        let language = Language::of_extension(ending).expect("a language");
        let size = size / SMALLER * DEEPER;
        let (small, large) = (asking_at(language, make(size)), asking_at(language, make(4 * size)));
        for (what, (small, large)) in ["steps", "bytes"].iter().zip(small.iter().zip(&large)) {
            let ratio = *large as f64 / (*small).max(1) as f64;
            if ratio > MOST && *large > LITTLE {
                wrong.push(format!("{name}: queries: {ratio:.1} times the {what} ({small} to {large})"));
            }
        }
    }
}
