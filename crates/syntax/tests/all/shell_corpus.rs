//! The parser against `bash -n` and `dash -n`, over every script on the machine.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use sieve_syntax::language::Language;
use sieve_syntax::text::Text;

use crate::random::Random;
use crate::shape::{assert_kinds, assert_sound};

/// Where scripts are looked for.
const FOLDERS: &[&str] = &["/etc", "/opt", "/usr/bin", "/usr/lib", "/usr/sbin", "/usr/share", "/var/lib/dpkg/info"];

/// More scripts than this are not compared: each costs the start of up to three shells.
const MOST: usize = 600;

/// Larger files are programs that carry data after their script.
const LARGEST: u64 = 2_000_000;

/// Every script below a folder.
fn scripts(folder: &Path, found: &mut Vec<PathBuf>) {
    let Ok(entries) = std::fs::read_dir(folder) else { return };
    for entry in entries.flatten() {
        let path = entry.path();
        let Ok(sort) = entry.file_type() else { continue };
        if sort.is_dir() {
            scripts(&path, found);
        } else if sort.is_file() && entry.metadata().is_ok_and(|data| data.len() < LARGEST) && is_script(&path) {
            found.push(path);
        }
    }
}

fn is_script(path: &Path) -> bool {
    let in_completions = path.parent().is_some_and(|folder| folder.ends_with("bash-completion/completions"));
    let by_name = path.extension().is_some_and(|extension| extension == "sh" || extension == "bash");
    if by_name || in_completions {
        return true;
    }
    let mut start = [0; 64];
    let read = std::fs::File::open(path).and_then(|mut file| std::io::Read::read(&mut file, &mut start));
    let line = start[..read.unwrap_or(0)].split(|byte| *byte == b'\n').next().unwrap_or_default();
    std::str::from_utf8(line).ok().and_then(Language::of_first_line) == Some(Language::Shell)
}

fn has_bash() -> bool {
    Command::new("bash").arg("--version").stdout(Stdio::null()).status().is_ok_and(|status| status.success())
}

/// Whether one of the shells reads a script without complaint.
fn accepted(path: &Path) -> bool {
    let runs = |shell: &str, options: &[&str]| {
        let status = Command::new(shell)
            .args(options)
            .arg(path)
            .env("LC_ALL", "C.UTF-8")
            .stdin(Stdio::null())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .status();
        status.is_ok_and(|status| status.success())
    };
    runs("bash", &["-n"]) || runs("bash", &["-O", "extglob", "-n"]) || runs("dash", &["-n"])
}

#[test]
fn shell_agrees_with_the_shells_of_the_machine() {
    if !has_bash() {
        assert!(std::env::var_os("CI").is_none(), "a reference is missing");
        eprintln!("0 scripts compared: no bash on this machine");
        return;
    }
    let mut paths = Vec::new();
    FOLDERS.iter().for_each(|folder| scripts(Path::new(folder), &mut paths));
    paths.sort();
    paths.dedup();
    // Scripts of a shell of another language, whatever their names end in.
    paths.retain(|path| path.components().all(|part| part.as_os_str() != "zsh"));
    // Evenly over all folders.
    let step = paths.len().div_ceil(MOST).max(1);
    let paths: Vec<PathBuf> = paths.into_iter().step_by(step).collect();
    let (mut compared, mut differences) = (0, Vec::new());
    for path in &paths {
        let Ok(bytes) = std::fs::read(path) else { continue };
        let Ok(text): Result<Text, _> = Language::Shell.decode(bytes) else { continue };
        let tree = Language::Shell.parse(&text);
        assert_sound(&tree, text.source());
        assert_kinds(Language::Shell, &tree);
        compared += 1;
        let shown = path.display().to_string();
        match (tree.faults().first(), accepted(path)) {
            (Some(fault), true) => {
                let line = text.place(fault.span.start).line;
                differences.push(format!("{shown}:{line}: accepted there, here: {}", fault.problem));
            }
            // With `-n` the shells read on after an `exec` or `exit`, where they would stop if they ran the script.
            (None, false) if !text.source().contains("exec") && !text.source().contains("exit") => {
                differences.push(format!("{shown}: refused there"));
            }
            _ => {}
        }
    }
    eprintln!("{compared} scripts compared");
    assert!(differences.is_empty(), "{} differences:\n{}", differences.len(), differences.join("\n"));
}

/// How many scripts are cut off somewhere and compared again: real scripts hold almost no mistakes.
const CUT: usize = 150;

#[test]
fn shell_refuses_what_the_shells_refuse() {
    if !has_bash() {
        assert!(std::env::var_os("CI").is_none(), "a reference is missing");
        eprintln!("0 cut scripts compared: no bash on this machine");
        return;
    }
    let mut paths = Vec::new();
    scripts(Path::new("/usr"), &mut paths);
    paths.sort();
    let folder = tempfile::tempdir().expect("a temporary folder");
    let mut random = Random::new(11);
    let (mut refused, mut compared, mut differences) = (0, 0, Vec::new());
    let step = paths.len().div_ceil(CUT).max(1);
    for path in paths.iter().step_by(step) {
        let Ok(source) = std::fs::read_to_string(path) else { continue };
        let lines: Vec<&str> = source.split_inclusive('\n').collect();
        if lines.len() < 4 {
            continue;
        }
        let cut: String = lines[..2 + random.below(lines.len() - 2)].concat();
        let copy = folder.path().join("cut.sh");
        std::fs::write(&copy, &cut).expect("a file");
        let (theirs, ours) = (accepted(&copy), Language::Shell.parse(&Text::new(cut.clone())).faults().is_empty());
        compared += 1;
        refused += usize::from(!theirs);
        // bash looks into backquotes only when it runs them, and dash takes brackets and functions of bash for words.
        let lenient = theirs && !ours && ["`", "[[", "((", "function "].iter().any(|text| cut.contains(text))
            || !theirs && ours && ["exec ", "exit"].iter().any(|text| cut.lines().any(|line| line.starts_with(text)));
        if theirs != ours && !lenient {
            differences.push(format!("{} cut to {} bytes: accepted there: {theirs}", path.display(), cut.len()));
        }
    }
    eprintln!("{compared} cut scripts compared, {refused} of them refused there");
    assert!(differences.is_empty(), "{}", differences.join("\n"));
}
