//! The program is killed at random moments, a few hundred times: every file is then either old or new.

use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use crate::ferry::Ferry;

/// Runs that are killed, of each command.
const RUNS: u64 = 150;

/// Files that each run changes.
const FILES: usize = 12;

/// Starts the program, and kills it after so long. Says whether it had ended by itself.
fn run_killed(ferry: &Ferry, arguments: &[&str], after: Duration) -> bool {
    let mut child = Command::new(assert_cmd::cargo::cargo_bin!("hsieve"))
        .args(arguments)
        .current_dir(ferry.path("."))
        .env("XDG_CACHE_HOME", ferry.path(".git/kept/cache"))
        .env("XDG_STATE_HOME", ferry.path(".git/kept/state"))
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .spawn()
        .expect("the program starts");
    let started = Instant::now();
    while started.elapsed() < after {
        std::hint::spin_loop();
    }
    let ended = child.try_wait().expect("its state").is_some();
    // It may have ended meanwhile.
    let _ = child.kill();
    child.wait().expect("its end");
    ended
}

/// Moments spread over a little more than the time that a whole run takes, by a multiplicative sequence.
fn moments(whole: Duration) -> impl Iterator<Item = Duration> {
    (1..=RUNS).map(move |run| whole.mul_f64((run as f64 * 0.618_033_988_75).fract() * 1.1))
}

fn name(number: usize) -> String {
    format!("quay{number:02}.py")
}

fn old(number: usize) -> String {
    format!("import os\nimport sys\n\nTIDE = {number}  \n")
}

fn new(number: usize) -> String {
    format!("TIDE = {number}\n")
}

fn write_old(ferry: &Ferry) {
    (0..FILES).for_each(|number| ferry.write(&name(number), old(number)));
}

fn how_long(ferry: &Ferry, arguments: &[&str]) -> Duration {
    let started = Instant::now();
    run_killed(ferry, arguments, Duration::from_secs(3));
    assert!(started.elapsed() >= Duration::from_secs(3));
    let started = Instant::now();
    ferry.run(arguments);
    started.elapsed()
}

#[test]
fn a_killed_fix_leaves_each_file_old_or_new() {
    let ferry = Ferry::empty();
    let fix = ["fix", "--mesh", "fine", "--quiet"];
    write_old(&ferry);
    let whole = how_long(&ferry, &fix);
    let (mut untouched, mut halfway, mut done) = (0, 0, 0);
    for moment in moments(whole) {
        write_old(&ferry);
        run_killed(&ferry, &fix, moment);
        let changed: Vec<bool> = (0..FILES)
            .map(|number| {
                let now = ferry.read(&name(number));
                assert!(now == old(number) || now == new(number), "{} is torn: {now:?}", name(number));
                now == new(number)
            })
            .collect();
        match changed.iter().filter(|changed| **changed).count() {
            0 => untouched += 1,
            FILES => done += 1,
            _ => {
                halfway += 1;
                // A run that was broken off can be taken back.
                let undone = ferry.run(&["fix", "--undo"]);
                assert_eq!(undone.status, 0, "{undone:?}");
                (0..FILES).for_each(|number| assert_eq!(ferry.read(&name(number)), old(number)));
            }
        }
    }
    println!("{untouched} killed before the first file, {halfway} between two, {done} after the last");
    write_old(&ferry);
    assert_eq!(ferry.run(&fix).status, 0, "what was left behind is in nobody's way");
    (0..FILES).for_each(|number| assert_eq!(ferry.read(&name(number)), new(number)));
}

#[test]
fn a_killed_take_leaves_the_baseline_old_or_new() {
    let ferry = Ferry::empty();
    ferry.write(&name(0), old(0));
    assert_eq!(ferry.run(&["baseline", "take"]).status, 0);
    let before = ferry.read("sieve-baseline.jsonl");
    write_old(&ferry);
    let take = ["baseline", "take", "--add-new"];
    let whole = how_long(&ferry, &take);
    let after = ferry.read("sieve-baseline.jsonl");
    assert_ne!(before, after);
    for moment in moments(whole) {
        ferry.write("sieve-baseline.jsonl", &before);
        run_killed(&ferry, &take, moment);
        let now = ferry.read("sieve-baseline.jsonl");
        assert!(now == before || now == after, "the baseline is torn: {now:?}");
    }
}
