//! Sources that are large in one way only, at n and 4n: what takes much more than four times as long is not linear.
//!
//! `cargo bench -p hsieve --bench attacks` prints the ratios of the same run; nothing here is compared with a clock of another day.

use std::path::Path;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

#[path = "../../engine/tests/work/attacks.rs"]
mod attacks;

use attacks::ATTACKS;

fn main() {
    let folder = tempfile::tempdir().expect("a temporary folder");
    println!("{:<28} {:>10} {:>10}", "4n : n, linear is 4", "sift", "fix");
    for (name, ending, size, make) in ATTACKS {
        let time = |size: usize, arguments: &[&str]| {
            let file = folder.path().join(format!("attack.{ending}"));
            std::fs::write(&file, make(size)).expect("a file");
            run(folder.path(), &file, arguments)
        };
        let ratio = |arguments: &[&str]| time(4 * size, arguments).as_secs_f64() / time(*size, arguments).as_secs_f64();
        let sift = ratio(&["sift", "--mesh", "fine", "--no-cache", "--quiet", "--threads", "1"]);
        let fix = ratio(&["fix", "--mesh", "fine", "--preview", "--threads", "1"]);
        println!("{name:<28} {sift:>10.1} {fix:>10.1}");
    }
}

fn run(folder: &Path, file: &Path, arguments: &[&str]) -> Duration {
    let started = Instant::now();
    let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
    command.args(arguments).arg(file).current_dir(folder).env("HOME", folder);
    command.stdout(Stdio::null()).stderr(Stdio::null()).status().expect("the program runs");
    started.elapsed()
}
