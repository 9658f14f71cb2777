//! What runs cost where little or nothing changed: a warm cache against a cold one and against plainly listing the same tree, and
//! five changed files against a whole repository of 20 000. `cargo bench -p hsieve --bench unchanged` runs it; only ratios within
//! one run mean anything.

#[path = "shared/library.rs"]
mod python;
mod shared;

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use python::library;
use shared::{ROUNDS, median};

/// Files of the repository in which few changed.
const MANY: usize = 20_000;

fn main() {
    let scratch = std::env::temp_dir().join(format!("hsieve-unchanged-{}", std::process::id()));
    match library() {
        Some(library) => warm(&library, &scratch.join("library")),
        None => eprintln!("0 comparisons: no python3 on this machine"),
    }
    changed(&scratch.join("many"));
    let _ = std::fs::remove_dir_all(&scratch);
}

/// The program in a folder, with a cache of its own beside it.
fn program(folder: &Path, arguments: &[&str]) -> Duration {
    let kept = folder.with_extension("kept");
    let started = Instant::now();
    let status = Command::new(env!("CARGO_BIN_EXE_hsieve"))
        .args(arguments)
        .current_dir(folder)
        .env("XDG_CACHE_HOME", &kept)
        .env("XDG_STATE_HOME", &kept)
        .env("GIT_CONFIG_GLOBAL", "/dev/null")
        .env("GIT_CONFIG_NOSYSTEM", "1")
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .status()
        .expect("the program runs");
    assert!(status.code().is_some_and(|code| code < 2), "the run failed: {status}");
    started.elapsed()
}

/// Lists a tree and asks for the metadata of every file; gives how many there are.
fn list(folder: &Path) -> usize {
    let mut count = 0;
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        match std::fs::symlink_metadata(entry.path()) {
            Ok(data) if data.is_dir() => count += list(&entry.path()),
            Ok(_) => count += 1,
            Err(_) => {}
        }
    }
    count
}

fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).expect("a folder");
    for entry in std::fs::read_dir(from).into_iter().flatten().flatten() {
        let (path, name) = (entry.path(), entry.file_name());
        if path.is_dir() && name != "site-packages" && name != "__pycache__" {
            copy(&path, &to.join(name));
        } else if path.extension().is_some_and(|extension| extension == "py") {
            std::fs::copy(&path, to.join(name)).expect("a copy");
        }
    }
}

fn warm(library: &Path, folder: &Path) {
    copy(library, folder);
    let sift = ["sift", "--quiet", "--output", "counts"];
    // Files that were written a moment ago are read once more, whatever the cache says.
    std::thread::sleep(Duration::from_secs(3));
    program(folder, &sift);
    let (mut cold, mut warm, mut plain) = (Vec::new(), Vec::new(), Vec::new());
    let mut files = 0;
    for _ in 0..ROUNDS * 3 {
        cold.push(program(folder, &["sift", "--quiet", "--output", "counts", "--no-cache"]));
        warm.push(program(folder, &sift));
        let started = Instant::now();
        files = list(folder);
        plain.push(started.elapsed());
    }
    let seconds = |times| median(times).as_secs_f64();
    let (cold, warm, plain) = (seconds(cold), seconds(warm), seconds(plain));
    println!("the library, {files} files, medians of {} rounds", ROUNDS * 3);
    println!("  without cache        {:>8.1} ms", cold * 1e3);
    println!("  unchanged            {:>8.1} ms   {:.1} times faster", warm * 1e3, cold / warm);
    println!(
        "  listing and metadata {:>8.1} ms   the unchanged run takes {:.1} times as long",
        plain * 1e3,
        warm / plain
    );
}

fn git(folder: &Path, arguments: &[&str]) {
    let status = Command::new("git")
        .args(["-c", "user.name=crew", "-c", "user.email=crew@saltmarsh.example"])
        .args(arguments)
        .current_dir(folder)
        .env("GIT_CONFIG_GLOBAL", "/dev/null")
        .env("GIT_CONFIG_NOSYSTEM", "1")
        .stdout(Stdio::null())
        .status()
        .expect("git runs");
    assert!(status.success());
}

fn changed(folder: &Path) {
    let file = |index: usize| -> PathBuf { folder.join(format!("quay{}/boat{index}.py", index % 200)) };
    let code =
        "import json\n\n\ndef fare(adult, share=0.55):\n    total = adult * share\n    return json.dumps(total)\n";
    for index in 0..MANY {
        let path = file(index);
        std::fs::create_dir_all(path.parent().expect("a parent")).expect("a folder");
        std::fs::write(path, format!("{code}\n\nBOAT = {index}\n")).expect("a file");
    }
    git(folder, &["init", "--quiet"]);
    git(folder, &["add", "--all"]);
    git(folder, &["commit", "--quiet", "--message", "all"]);
    // As after any command of a day's work, git knows which files it need not read again.
    std::thread::sleep(Duration::from_secs(2));
    git(folder, &["update-index", "--refresh"]);
    for index in 0..5 {
        std::fs::write(file(index * 3000), format!("import os\n{code}")).expect("a file");
    }
    let (mut few, mut all) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        few.push(program(folder, &["sift", "--quiet", "--changed"]));
        all.push(program(folder, &["sift", "--quiet", "--no-cache"]));
    }
    let (few, all) = (median(few).as_secs_f64(), median(all).as_secs_f64());
    println!("a repository of {MANY} files, 5 of them changed, medians of {ROUNDS} rounds");
    println!("  all files            {:>8.1} ms", all * 1e3);
    println!("  --changed            {:>8.1} ms   {:.1} times faster", few * 1e3, all / few);
}
