//! What house rules cost: a fine run over CPython's library with a pack of a hundred rules, and with a built-in pack, against one
//! without, in turn; and the same over descriptions of services with the three packs for them.

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

const DESCRIPTIONS: &str =
    concat!(env!("CARGO_MANIFEST_DIR"), "/../syntax/tests/reference/node_modules/@readme/oas-examples");

fn main() {
    over_library();
    over_descriptions(Path::new(DESCRIPTIONS));
}

fn over_descriptions(folder: &Path) {
    if !folder.is_dir() {
        eprintln!("0 comparisons of descriptions: `npm install` was not run for the references");
        return;
    }
    let packs = ["api-valid", "api-useful", "api-secure"].map(Path::new);
    let (mut with, mut without) = (Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        without.push(run(folder, &[]));
        with.push(run(folder, &packs));
    }
    let (with, without) = (median(with).as_secs_f64(), median(without).as_secs_f64());
    println!("  fine run over descriptions          {without:>7.3} s");
    println!("  the same with the packs for them    {with:>7.3} s, {:.2} of it", with / without);
}

fn over_library() {
    let Some(library) = library() else {
        eprintln!("0 comparisons: no python3 on this machine");
        return;
    };
    let pack = std::env::temp_dir().join(format!("hsieve-hundred-{}.toml", std::process::id()));
    std::fs::write(&pack, hundred::pack()).expect("a temporary file can be written");
    let (mut with, mut basics, mut without) = (Vec::new(), Vec::new(), Vec::new());
    for _ in 0..ROUNDS {
        without.push(run(&library, &[]));
        with.push(run(&library, &[&pack]));
        basics.push(run(&library, &[Path::new("team-basics")]));
    }
    let _ = std::fs::remove_file(&pack);
    let seconds = |times: Vec<Duration>| median(times).as_secs_f64();
    let (with, basics, without) = (seconds(with), seconds(basics), seconds(without));
    println!("  fine run, one thread                {without:>7.3} s");
    println!("  the same with 100 rules of a pack   {with:>7.3} s, {:.2} of it (at most 1.25)", with / without);
    println!("  the same with team-basics           {basics:>7.3} s, {:.2} of it", basics / without);
}

fn run(folder: &Path, packs: &[&Path]) -> Duration {
    let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
    command.args("sift --mesh fine --no-baseline --no-cache --threads 1 --quiet --output counts".split(' '));
    for pack in packs {
        command.arg("--pack").arg(pack);
    }
    let started = Instant::now();
    let status = command.arg(folder).stdout(Stdio::null()).status().expect("the program runs");
    assert!(status.code().is_some_and(|code| code < 2), "the run failed: {status}");
    started.elapsed()
}
