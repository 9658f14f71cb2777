//! `hsieve watch`: what is told when files change.

use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::time::Duration;

use serde_json::Value;

use crate::ferry::Ferry;
use crate::pty::Pty;

/// Longer than anything takes on a machine that has other work.
const PATIENCE: Duration = Duration::from_secs(60);

struct Watch {
    process: Child,
    lines: Receiver<String>,
}

impl Watch {
    /// Starts to watch, and waits until that has begun.
    fn of(ferry: &Ferry, arguments: &[&str]) -> Watch {
        let mut command = Command::new(env!("CARGO_BIN_EXE_hsieve"));
        command.arg("watch").args(arguments).current_dir(ferry.path("."));
        let mut process = command.stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().expect("the program");
        let (sender, lines) = channel();
        let errors = sender.clone();
        let (out, err) = (process.stdout.take().expect("output"), process.stderr.take().expect("errors"));
        std::thread::spawn(move || {
            BufReader::new(out).lines().map_while(Result::ok).try_for_each(|line| sender.send(line))
        });
        std::thread::spawn(move || {
            BufReader::new(err).lines().map_while(Result::ok).try_for_each(|line| errors.send(line))
        });
        Watch { process, lines }
    }

    /// The next line; those between blocks are empty.
    fn line(&self) -> String {
        loop {
            let line = self.lines.recv_timeout(PATIENCE).expect("something is told");
            if !line.is_empty() {
                return line;
            }
        }
    }

    /// The lines up to one that is so, that one included.
    fn until(&self, is_so: impl Fn(&str) -> bool) -> Vec<String> {
        let mut all = Vec::new();
        loop {
            all.push(self.line());
            if is_so(&all[all.len() - 1]) {
                return all;
            }
        }
    }
}

impl Drop for Watch {
    fn drop(&mut self) {
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

fn ferry() -> Ferry {
    Ferry::with(&[
        ("tides.py", "def low(day):\n    return day\n"),
        ("board.py", "import os\nfrom tides import low\n\nlow(1)\n"),
    ])
}

#[test]
fn a_saved_file_is_told_first_and_then_what_it_did_elsewhere() {
    let ferry = ferry();
    let watch = Watch::of(&ferry, &[]);
    assert_eq!(watch.line(), "Watching 2 files  1 finding; Ctrl-C ends it");
    // Lines before a finding move it and are no news.
    ferry.write("board.py", "\n\nimport os\nfrom tides import low\n\nlow(1)\nlow()\n");
    let block = watch.until(|line| line.contains("at the start"));
    assert_eq!(block[0], "board.py  1 new");
    assert!(block[1].starts_with("+ board.py:7:1: error: low is called without \"day\""), "{block:?}");
    assert_eq!(block[2], "2 findings, 1 more than at the start");
    ferry.write("tides.py", "def low(day=1, *, quay):\n    return day, quay\n");
    let blocks = watch.until(|line| line.contains("3 findings"));
    assert_eq!(blocks[0], "tides.py  nothing new");
    assert!(blocks.contains(&"elsewhere  2 new, 1 gone".to_string()), "{blocks:?}");
}

#[test]
fn editors_that_save_by_renaming_and_files_that_come_and_go_are_noticed() {
    let ferry = ferry();
    let watch = Watch::of(&ferry, &[]);
    watch.line();
    ferry.write("board.py.new", "from tides import low\n\nlow(1)\n");
    std::fs::rename(ferry.path("board.py.new"), ferry.path("board.py")).expect("renaming");
    assert!(watch.until(|line| line.starts_with("- ")).concat().contains("board.py:1:8: warning: \"os\" is imported"));
    watch.line();
    std::fs::create_dir(ferry.path("quays")).expect("a folder");
    ferry.write("quays/north.py", "import os\n");
    watch.until(|line| line.starts_with("+ quays/north.py:1:8:"));
    ferry.write("quays/south.py", "import os\n");
    watch.until(|line| line.starts_with("+ quays/south.py:1:8:"));
    std::fs::remove_dir_all(ferry.path("quays")).expect("removing");
    let mut gone = [false; 2];
    while gone != [true; 2] {
        let line = watch.line();
        gone[0] |= line.starts_with("- quays/north.py");
        gone[1] |= line.starts_with("- quays/south.py");
    }
}

#[test]
fn settings_hold_at_once_and_wrong_ones_are_told_with_their_place() {
    let ferry = ferry();
    let watch = Watch::of(&ferry, &[]);
    watch.line();
    ferry.write("sieve.toml", "mesh = \"finest\"\n");
    assert!(watch.line().contains("sieve.toml:1:8: "), "the place");
    ferry.write("sieve.toml", "[rules]\nunused-import = \"off\"\n");
    let block = watch.until(|line| line.contains("at the start"));
    assert_eq!(block[0], "sieve.toml  1 gone");
    assert_eq!(block[2], "0 findings, 1 fewer than at the start");
    ferry.write(".gitignore", "board.py\n");
    ferry.write("sieve.toml", "");
    ferry.write("tides.py", "import os\n");
    watch.until(|line| line.starts_with("+ tides.py"));
}

#[test]
fn two_thousand_files_at_once_are_one_or_few_blocks() {
    let ferry = Ferry::empty();
    (0..2000).for_each(|number| ferry.write(&format!("quays/quay{number}.py"), "x = 1\n"));
    let watch = Watch::of(&ferry, &["--output", "jsonl"]);
    let start: Value = serde_json::from_str(&watch.line()).expect("JSON");
    assert_eq!(start["findings"], 0);
    (0..2000).for_each(|number| ferry.write(&format!("quays/quay{number}.py"), "import os\n"));
    let mut told = 0;
    let mut blocks = 0;
    while told < 2000 {
        let block: Value = serde_json::from_str(&watch.line()).expect("JSON");
        told += block["new"].as_array().expect("a list").len();
        blocks += 1;
        assert_eq!(block["findings"], told);
    }
    assert!(blocks < 200, "{blocks}");
}

#[test]
fn where_the_system_does_not_tell_everything_is_looked_at_again_and_again() {
    let ferry = ferry();
    let watch = Watch::of(&ferry, &["--poll", "1"]);
    watch.line();
    ferry.write("late.py", "import os\n");
    let block = watch.until(|line| line.contains("at the start"));
    assert_eq!(block[0], "late.py  1 new");
}

#[test]
fn on_a_terminal_a_screen_stays() {
    let ferry = ferry();
    let mut pty = Pty::start(&ferry, (80, 24), &["watch"], &[]);
    pty.sees("Nothing was saved yet. a shows all 1 finding.");
    pty.sees("1 finding, as many as at the start");
    pty.does("f", "nothing that is shown has an exact fix");
    pty.does("a", "unused-import");
    pty.does("a", "Nothing was saved yet");
    // What was saved last comes first, with what that did elsewhere.
    ferry.write("tides.py", "def low(day, hour):\n    return day\n");
    pty.sees("tides.py: nothing new · elsewhere: 1 new");
    pty.sees("+ error       4:1    argument-count");
    pty.sees("2 findings, 1 more than at the start · 1 error (+1)");
    ferry.write("tides.py", "def low(day):\n    return day\n");
    pty.sees("elsewhere: 1 gone");
    pty.sees("- gone        4:1    argument-count");
    pty.sees("1 finding, as many as at the start");
    pty.press("q");
    let (status, _) = pty.end();
    assert_eq!(status, 0);
}

#[test]
fn the_screen_fixes_pauses_and_shows_what_is_wrong() {
    let ferry = ferry();
    let mut pty = Pty::start(&ferry, (80, 24), &["watch", "--color", "never"], &[]);
    pty.sees("Nothing was saved yet");
    pty.press("a");
    pty.does("f", "apply 1 exact fix in 1 file?");
    pty.does("n", "not applied");
    assert!(ferry.read("board.py").starts_with("import os"));
    pty.press("f");
    pty.does("y", "0 findings, 1 fewer than at the start");
    assert_eq!(ferry.read("board.py"), "from tides import low\n\nlow(1)\n");
    pty.does("p", "paused");
    ferry.write("board.py", "import json\nfrom tides import low\n\nlow(1)\n");
    pty.does("p", "1 finding, as many as at the start");
    ferry.write("sieve.toml", "mesh = \"finest\"\n");
    pty.sees("sieve.toml:1:8: \"finest\" is not a mesh");
    std::fs::remove_file(ferry.path("sieve.toml")).expect("removed");
    pty.sees("sieve.toml: nothing new");
    for (columns, rows) in [(20, 5), (1, 1), (200, 60)] {
        pty.resize(columns, rows);
    }
    pty.resize(80, 24);
    pty.sees("watching 2 files");
    // Ctrl-C leaves as well.
    pty.press("\u{3}");
    let (status, _) = pty.end();
    assert_eq!(status, 0);
    assert_eq!(ferry.run(&["fix", "--undo"]).status, 2, "the file has changed since");
}

#[test]
fn on_a_terminal_lines_are_told_where_they_are_asked_for() {
    let ferry = ferry();
    let mut pty = Pty::start(&ferry, (80, 24), &["watch", "--output", "lines"], &[]);
    pty.sees("Watching 2 files  1 finding; Ctrl-C ends it");
    assert!(!pty.cells().alternate_screen());
}
