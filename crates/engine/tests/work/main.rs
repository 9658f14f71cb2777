//! How work grows: sources that are large in one way only, at n and 4n, sifted and fixed by all rules. What is counted is steps over the
//! tree and bytes asked of the allocator, never time; what grows much faster than the source is not linear.

mod attacks;
#[path = "../all/bench.rs"]
#[allow(dead_code, reason = "shared with the other tests")]
mod bench;

use std::alloc::System;

use sieve_engine::fix::fix_text;
use sieve_engine::run::{Wants, sift_text};
use sieve_engine::settings::Overrides;
use sieve_rules::{Mesh, catalogue};
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

/// Steps and bytes of one run of `work`.
fn counted(work: impl FnOnce()) -> [usize; 2] {
    let region = Region::new(ALLOCATOR);
    let before = steps::taken();
    work();
    [(steps::taken() - before) as usize, region.change().bytes_allocated]
}

/// What sifting and fixing a source of this size takes.
fn work_at(bench: &Bench, language: Language, source: String) -> [[usize; 2]; 2] {
    let text = Text::new(source);
    bench.with_subject_in(language, |subject| {
        let sift = counted(|| drop(sift_text(&text, subject, Wants::default(), sieve_engine::today())));
        let fix = counted(|| drop(fix_text(&text, subject, sieve_engine::today(), false, &|_, _| {})));
        [sift, fix]
    })
}

#[cfg(debug_assertions)]
#[test]
fn work_grows_with_the_source() {
    let only = catalogue::rules().map(|(id, _)| id).collect();
    let bench = Bench::new(Overrides { mesh: Some(Mesh::Fine), only, ..Overrides::default() });
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
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}
