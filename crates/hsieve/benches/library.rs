//! How fast: the whole of CPython's library, by stages on one thread, and the whole program against CPython's own parser in
//! the same run. `cargo bench -p hsieve` runs it; only ratios within one run mean anything.

#[path = "shared/library.rs"]
mod python;
mod shared;

use std::hint::black_box;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use sieve_meaning::names_of;
use sieve_rules::{Dispatch, Enabled, catalogue, run};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use python::library;
use shared::{ROUNDS, median};

fn main() {
    let Some(library) = library() else {
        eprintln!("0 comparisons: no python3 on this machine");
        return;
    };
    let files = files(&library);
    let bytes: usize = files.iter().map(|file| std::fs::metadata(file).map_or(0, |data| data.len() as usize)).sum();
    println!("{} files, {:.1} MB, medians of {ROUNDS} rounds", files.len(), bytes as f64 / 1e6);
    stages(&files, bytes);
    against_reference(&library, &files, bytes);
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let mut found = Vec::new();
    let mut waiting = vec![folder.to_path_buf()];
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let path = entry.path();
            let name = entry.file_name();
            if path.is_dir() && name != "site-packages" && name != "__pycache__" {
                waiting.push(path);
            } else if path.extension().is_some_and(|extension| extension == "py") {
                found.push(path);
            }
        }
    }
    found.sort();
    found
}

fn stages(files: &[PathBuf], bytes: usize) {
    let rules = catalogue::rules().map(|(rule, facts)| Enabled {
        rule,
        facts,
        values: facts.options.iter().map(|option| option.default_value()).collect(),
    });
    let dispatch = Dispatch::new(rules.collect());
    let mut times: [Vec<Duration>; 5] = Default::default();
    for _ in 0..ROUNDS {
        let mut spent = [Duration::ZERO; 5];
        for path in files {
            one_file(path, &dispatch, &mut spent);
        }
        for (all, spent) in times.iter_mut().zip(spent) {
            all.push(spent);
        }
    }
    let medians = times.map(median);
    let total: Duration = medians.iter().sum();
    for (name, time) in ["read", "decode", "parse", "names", "rules, all, fine"].iter().zip(medians) {
        let speed = bytes as f64 / 1e6 / time.as_secs_f64();
        let share = 100.0 * time.as_secs_f64() / total.as_secs_f64();
        println!("  {name:<18} {:>7.1} ms {speed:>8.0} MB/s {share:>5.1} %", time.as_secs_f64() * 1e3);
    }
}

fn one_file(path: &Path, dispatch: &Dispatch, spent: &mut [Duration; 5]) {
    let mut clock = Instant::now();
    let mut lap = |stage: usize| {
        spent[stage] += clock.elapsed();
        clock = Instant::now();
    };
    let Ok(content) = std::fs::read(path) else { return };
    lap(0);
    let Ok(text): Result<Text, _> = Language::Python.decode(content) else { return };
    lap(1);
    let tree: Tree = Language::Python.parse(&text);
    lap(2);
    let names = black_box(names_of(Language::Python, &text, &tree));
    lap(3);
    drop(names);
    lap(3);
    // The rules read the names once more for themselves: what they take beyond that is theirs.
    let before = spent[3];
    let started = Instant::now();
    black_box(run("library.py", Language::Python, &text, &tree, dispatch));
    let whole = started.elapsed();
    let started = Instant::now();
    black_box(names_of(Language::Python, &text, &tree));
    spent[4] += whole.saturating_sub(started.elapsed());
    spent[3] = before;
}

/// What is in the library's folder, apart from packages installed into it.
fn parts(library: &Path) -> Vec<PathBuf> {
    let entries = std::fs::read_dir(library).into_iter().flatten().flatten();
    entries.filter(|entry| entry.file_name() != "site-packages").map(|entry| entry.path()).collect()
}

/// The whole program and the reference in turn, so that a machine that changes its pace slows both.
fn against_reference(library: &Path, files: &[PathBuf], bytes: usize) {
    let list = std::env::temp_dir().join(format!("hsieve-bench-{}.txt", std::process::id()));
    let lines: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
    std::fs::write(&list, lines.join("\n")).expect("a temporary file can be written");
    let script = "import ast, sys, time, warnings\nwarnings.simplefilter('ignore')\n\
                  sources = [open(p, 'rb').read() for p in open(sys.argv[1]).read().split('\\n')]\n\
                  start = time.perf_counter()\nfor s in sources:\n    try: ast.parse(s)\n    except Exception: pass\n\
                  print(time.perf_counter() - start)";
    let (mut ours, mut theirs) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        let started = Instant::now();
        let status = Command::new(env!("CARGO_BIN_EXE_hsieve"))
            .args([
                "sift",
                "--mesh",
                "fine",
                "--no-baseline",
                "--no-cache",
                "--threads",
                "1",
                "--quiet",
                "--output",
                "counts",
            ])
            .args(parts(library))
            .stdout(Stdio::null())
            .status()
            .expect("the program runs");
        assert!(status.code().is_some_and(|code| code < 2), "the run failed: {status}");
        ours.push(started.elapsed());
        let output = Command::new("python3").args(["-c", script]).arg(&list).output().expect("the reference runs");
        let seconds: f64 = String::from_utf8_lossy(&output.stdout).trim().parse().expect("it prints a time");
        theirs.push(Duration::from_secs_f64(seconds));
    }
    let _ = std::fs::remove_file(&list);
    let (ours, theirs) = (median(ours).as_secs_f64(), median(theirs).as_secs_f64());
    println!("  the program, reading, every rule, one thread  {:>7.3} s {:>6.0} MB/s", ours, bytes as f64 / 1e6 / ours);
    println!(
        "  the reference, parsing alone                  {:>7.3} s {:>6.1} MB/s",
        theirs,
        bytes as f64 / 1e6 / theirs
    );
    println!("  ratio {:.1}", theirs / ours);
}
