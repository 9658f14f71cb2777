//! The reference parsers that node runs, and the packages to compare on.

use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use serde_json::Value;

const FOLDER: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/reference");

/// Whether the references are installed; says so if they are not.
pub fn installed() -> bool {
    let there = Path::new(FOLDER).join("node_modules/typescript").is_dir();
    assert!(there || std::env::var_os("CI").is_none(), "`npm install` was not run in {FOLDER}");
    if !there {
        eprintln!("0 references: `npm install` was not run in {FOLDER}; nothing was compared with them");
    }
    there
}

/// What the references make of each request, which is a path or a source with its language.
pub fn verdicts(requests: &[Value]) -> Vec<Value> {
    let mut child = Command::new("node")
        .args(["--experimental-vm-modules", "--no-warnings", "--max-old-space-size=4096"])
        .arg(Path::new(FOLDER).join("verdicts.cjs"))
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .spawn()
        .expect("node runs");
    let mut stdin = child.stdin.take().expect("it has a standard input");
    let input: String = requests.iter().map(|request| request.to_string() + "\n").collect();
    let writer = std::thread::spawn(move || stdin.write_all(input.as_bytes()));
    let output = child.wait_with_output().expect("node ends");
    writer.join().expect("the writer ends").expect("node reads all");
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    let verdicts: Vec<Value> = text.lines().map(|line| serde_json::from_str(line).expect("a line of JSON")).collect();
    assert_eq!(verdicts.len(), requests.len());
    verdicts
}

/// Every source file with one of these endings in the packages that are named with their versions, in the order of the alphabet. What
/// these packages provide changes from day to day.
pub fn sources(endings: &[&str]) -> Vec<PathBuf> {
    let manifest = std::fs::read_to_string(Path::new(FOLDER).join("package.json")).expect("a manifest");
    let manifest: Value = serde_json::from_str(&manifest).expect("a manifest");
    let mut found = Vec::new();
    for package in manifest["devDependencies"].as_object().expect("packages").keys() {
        collect(&Path::new(FOLDER).join("node_modules").join(package), endings, &mut found);
    }
    found.sort();
    found
}

/// Larger files are whole programs put together, of which some are enough.
const LARGEST: u64 = 600_000;

fn collect(folder: &Path, endings: &[&str], found: &mut Vec<PathBuf>) {
    let Ok(entries) = std::fs::read_dir(folder) else { return };
    for entry in entries.flatten() {
        let path = entry.path();
        let Ok(sort) = entry.file_type() else { continue };
        if sort.is_dir() && entry.file_name() != "node_modules" {
            collect(&path, endings, found);
        } else if sort.is_file()
            && path.extension().is_some_and(|ending| endings.iter().any(|wanted| ending == *wanted))
            && entry.metadata().is_ok_and(|data| data.len() < LARGEST)
        {
            found.push(path);
        }
    }
}
