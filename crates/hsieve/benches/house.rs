//! What house rules cost: a fine run over CPython's library with a pack of a hundred rules, and with a built-in pack, against one
//! without, in turn.

#[path = "shared/hundred.rs"]
mod hundred;
#[path = "shared/library.rs"]
mod python;
mod shared;

use std::path::Path;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use python::library;
use shared::{ROUNDS, median};

fn main() {
    let Some(library) = library() else {
        eprintln!("0 comparisons: no python3 on this machine");
        return;
    };
    let pack = std::env::temp_dir().join(format!("hsieve-hundred-{}.toml", std::process::id()));
    std::fs::write(&pack, hundred::pack()).expect("a temporary file can be written");
    let (mut with, mut basics, mut without) = (Vec::new(), Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        without.push(run(&library, None));
        with.push(run(&library, Some(&pack)));
        basics.push(run(&library, Some(Path::new("team-basics"))));
    }
    let _ = std::fs::remove_file(&pack);
    let seconds = |times: Vec<Duration>| median(times).as_secs_f64();
    let (with, basics, without) = (seconds(with), seconds(basics), seconds(without));
    println!("  fine run, one thread                {without:>7.3} s");
    println!("  the same with 100 rules of a pack   {with:>7.3} s, {:.2} of it (at most 1.25)", with / without);
    println!("  the same with team-basics           {basics:>7.3} s, {:.2} of it", basics / without);
}

fn run(library: &Path, pack: Option<&Path>) -> Duration {
    let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
    command.args("sift --mesh fine --no-baseline --no-cache --threads 1 --quiet --output counts".split(' '));
    if let Some(pack) = pack {
        command.arg("--pack").arg(pack);
    }
    let started = Instant::now();
    let status = command.arg(library).stdout(Stdio::null()).status().expect("the program runs");
    assert!(status.code().is_some_and(|code| code < 2), "the run failed: {status}");
    started.elapsed()
}
