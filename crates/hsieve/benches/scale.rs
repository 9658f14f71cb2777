//! What a whole code base costs as it grows: 200, 2 000 and 20 000 files across the languages, made from the demo, with the rules that look
//! into other files; and what a query costs beside a sift of one rule. `cargo bench -p hsieve --bench scale` runs it; only ratios within one run mean anything.

mod shared;

use std::path::Path;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use shared::{ROUNDS, median};

const SIZES: [usize; 3] = [200, 2_000, 20_000];

fn main() {
    let scratch = std::env::temp_dir().join(format!("hsieve-scale-{}", std::process::id()));
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let mut sample = Vec::new();
    gather(&demo, &demo, &mut sample);
    for size in SIZES {
        make(&sample, &scratch.join(size.to_string()), size);
    }
    let mut times: Vec<Vec<Duration>> = vec![Vec::new(); SIZES.len()];
    for _ in 0..ROUNDS {
        for (size, times) in SIZES.iter().zip(&mut times) {
            times.push(sift(&scratch.join(size.to_string())));
        }
    }
    let largest = scratch.join(SIZES[SIZES.len() - 1].to_string());
    let asked = QUERIES.map(|query| (query, run(&largest, &["find", query, "--count"])));
    let cheap = run(&largest, &["sift", "--no-cache", "--quiet", "--only", "eval-call", "--output", "counts"]);
    for (query, time) in asked {
        println!("{:.2} times a sift of one rule: find {query}", time.as_secs_f64() / cheap.as_secs_f64());
    }
    let first = median(times[0].clone()).as_secs_f64() / SIZES[0] as f64;
    for (size, times) in SIZES.iter().zip(&mut times) {
        let time = median(times.clone()).as_secs_f64();
        println!("{size:>6} files: {time:.2} s, {:.2} times the first per file", time / *size as f64 / first);
    }
    let _ = std::fs::remove_dir_all(&scratch);
}

/// What is asked of the largest of them: names of a call, names that are followed, and what nearly every file has.
const QUERIES: [&str; 3] = [
    "call { callee.name is \"eval\" }",
    "call { callee refers \"datetime.datetime.now\" }",
    "function holding (call inside if)",
];

/// How long the program takes, as the median of several runs.
fn run(folder: &Path, arguments: &[&str]) -> Duration {
    let once = || {
        let started = Instant::now();
        let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
        command.args(arguments).current_dir(folder).stdout(Stdio::null()).stderr(Stdio::null());
        command.status().expect("the program runs");
        started.elapsed()
    };
    median((0..ROUNDS).map(|_| once()).collect())
}

fn gather(root: &Path, folder: &Path, sample: &mut Vec<(String, String)>) {
    for entry in std::fs::read_dir(folder).expect("a folder").flatten() {
        let path = entry.path();
        if path.is_dir() {
            gather(root, &path, sample);
        } else if path.extension().is_some_and(|ending| ending != "md") {
            let name = path.strip_prefix(root).expect("below it").to_string_lossy().into_owned();
            sample.push((name, std::fs::read_to_string(&path).expect("text")));
        }
    }
    sample.sort();
}

/// Copies of the sample, each a harbour of its own whose imports lead within it.
fn make(sample: &[(String, String)], folder: &Path, size: usize) {
    let all = (0..).flat_map(|harbour: usize| sample.iter().map(move |file| (harbour, file)));
    for (harbour, (name, text)) in all.take(size) {
        let own = format!("harbour{harbour}");
        let path = folder.join(&own).join(name);
        std::fs::create_dir_all(path.parent().expect("a folder")).expect("room");
        let text = text
            .replace("from booking", &format!("from {own}.booking"))
            .replace("import booking", &format!("import {own}.booking"));
        std::fs::write(&path, text).expect("room");
        let package = folder.join(&own).join("__init__.py");
        if !package.exists() {
            std::fs::write(package, "").expect("room");
        }
    }
    std::fs::create_dir_all(folder.join(".git")).expect("room");
}

fn sift(folder: &Path) -> Duration {
    let started = Instant::now();
    let status = Command::new(env!("CARGO_BIN_EXE_hsieve"))
        .args(["sift", "--no-cache", "--mesh", "fine", "--quiet", "--output", "lines"])
        .current_dir(folder)
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .status()
        .expect("the program runs");
    assert_eq!(status.code(), Some(1), "the sample has findings");
    started.elapsed()
}
