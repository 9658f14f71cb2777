//! Code for benches of editors: a file of 10 000 lines in each group of languages, put together from real ones.

use std::path::PathBuf;

/// The lines of the file, as a budget for editors names them.
pub const LINES: usize = 10_000;

/// The ending of the files of a group, the long file, and the files that it is made of; nothing where there is too little code here.
pub fn long(group: &str, files: &[PathBuf]) -> Option<(&'static str, String, Vec<String>)> {
    let ending = match group {
        "Python" => "py",
        "shell" => "sh",
        _ => "ts",
    };
    let is_one = |path: &&PathBuf| ending == "sh" || path.extension().is_some_and(|own| own == ending);
    let texts: Vec<String> =
        files.iter().filter(is_one).filter_map(|path| std::fs::read_to_string(path).ok()).collect();
    let text = texts.concat();
    if text.lines().count() < LINES {
        eprintln!("0 edits in {group}: there are no {LINES} lines of it here");
        return None;
    }
    let source = text.lines().take(LINES).map(|line| format!("{line}\n")).collect();
    Some((ending, source, texts))
}
