//! Interpreters that tell what their language makes of a source.

use std::io::Write;
use std::process::{Command, Stdio};

use serde_json::Value;

const SCRIPT: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/all/python_reference.py");

/// The Python interpreters to compare with: those named in `REFERENCE_PYTHONS`, separated by whitespace, or `python3`.
pub fn pythons() -> Vec<String> {
    let named = std::env::var("REFERENCE_PYTHONS").unwrap_or_else(|_| "python3".into());
    let usable = |command: &&str| {
        Command::new(command).arg("--version").stdout(Stdio::null()).status().is_ok_and(|status| status.success())
    };
    let found: Vec<String> = named.split_whitespace().filter(usable).map(str::to_owned).collect();
    assert!(!found.is_empty() || std::env::var_os("CI").is_none(), "no Python interpreter among {named:?}");
    if found.is_empty() {
        eprintln!("0 references: no Python interpreter among {named:?}; comparisons with it were not made");
    }
    found
}

/// The interpreter's version, such as `3.13`.
pub fn version(python: &str) -> (u32, u32) {
    let print = "import sys; print(*sys.version_info[:2])";
    let output = Command::new(python).args(["-c", print]).output().expect("the interpreter runs");
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    let mut parts = text.split_whitespace().map(|part| part.parse().unwrap_or(0));
    (parts.next().unwrap_or(0), parts.next().unwrap_or(0))
}

/// What the interpreter makes of its own library.
pub fn of_library(python: &str) -> Vec<Value> {
    let output = Command::new(python).arg(SCRIPT).output().expect("the interpreter runs");
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    lines(&output.stdout)
}

/// What the interpreter makes of each source.
pub fn of_sources(python: &str, sources: &[String]) -> Vec<Value> {
    let mut child = Command::new(python)
        .args([SCRIPT, "--sources"])
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn()
        .expect("the interpreter runs");
    let mut stdin = child.stdin.take().expect("it has a standard input");
    let input: String = sources.iter().map(|source| Value::from(source.as_str()).to_string() + "\n").collect();
    let writer = std::thread::spawn(move || stdin.write_all(input.as_bytes()));
    let output = child.wait_with_output().expect("the interpreter ends");
    writer.join().expect("the writer ends").expect("the interpreter reads all");
    lines(&output.stdout)
}

fn lines(output: &[u8]) -> Vec<Value> {
    String::from_utf8_lossy(output).lines().map(|line| serde_json::from_str(line).expect("a line of JSON")).collect()
}
