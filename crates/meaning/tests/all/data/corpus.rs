//! Files that people and programs wrote: of the packages that tests bring, and of the crates that this program is built from.

use std::path::{Path, PathBuf};

use super::reference::references;

/// All files with one of some endings.
pub fn files(endings: &[&str]) -> Vec<PathBuf> {
    let mut folders = vec![references().join("node_modules"), crates()];
    // More of what is not in the repository may be named by whoever runs the tests.
    folders.extend(std::env::var_os("DATA_CORPUS").map(PathBuf::from));
    below(folders, endings)
}

/// Those of packages whose versions are given: the same on each machine.
pub fn packaged(endings: &[&str]) -> Vec<PathBuf> {
    // The reference takes a string in single quotes that ends with two of them at the end of a file for one that is closed; changes
    // of the schemas that other tests read come upon that.
    let is_schema = |path: &PathBuf| {
        path.components().any(|part| matches!(part.as_os_str().to_str(), Some("@apidevtools" | "@asyncapi")))
    };
    let mut files = below(vec![references().join("node_modules")], endings);
    files.retain(|path| !is_schema(path));
    files
}

fn below(folders: Vec<PathBuf>, endings: &[&str]) -> Vec<PathBuf> {
    let mut found = Vec::new();
    let mut waiting = folders;
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let path = entry.path();
            let kind = entry.file_type().expect("a type");
            let has_ending = || path.extension().is_some_and(|own| endings.iter().any(|ending| own == *ending));
            if kind.is_dir() {
                waiting.push(path);
            } else if kind.is_file() && has_ending() {
                found.push(path);
            }
        }
    }
    found.sort();
    found
}

/// Where cargo keeps the sources of crates.
fn crates() -> PathBuf {
    let home = std::env::var_os("CARGO_HOME").map(PathBuf::from);
    let home = home.or_else(|| Some(Path::new(&std::env::var_os("HOME")?).join(".cargo")));
    home.expect("a home").join("registry/src")
}

/// Each file with some of its bytes changed, so that some of them are wrong, in a folder of their own.
pub fn changed(files: &[PathBuf], each: usize, folder: &Path) -> Vec<PathBuf> {
    let mut made = Vec::new();
    for (number, file) in files.iter().enumerate() {
        let Ok(source) = std::fs::read_to_string(file) else { continue };
        // What is changed in a file depends on the file alone.
        let mut state = source.len() as u64 * 2 + 1;
        let mut random = move |below: usize| {
            state ^= state << 13;
            state ^= state >> 7;
            state ^= state << 17;
            (state % below.max(1) as u64) as usize
        };
        let lines: Vec<&str> = source.split_inclusive('\n').collect();
        for change in 0..each {
            // A stretch of lines is enough, and lets a file be changed often.
            let start = random(lines.len());
            let stretch: String = lines[start..lines.len().min(start + 30)].concat();
            let characters: Vec<char> = stretch.chars().collect();
            let at = random(characters.len());
            let signs: Vec<char> = "\"'[]{}:,#-!&*|>%=.\n \t0a\\".chars().collect();
            let sign = signs[random(signs.len())];
            let (mut before, behind) = (characters[..at].to_vec(), &characters[at..]);
            match random(3) {
                0 => before.push(sign),
                1 => before.extend([sign, sign]),
                _ => {
                    before.pop();
                }
            }
            let text: String = before.into_iter().chain(behind.iter().copied()).collect();
            let path = folder.join(format!("{number}-{change}"));
            std::fs::write(&path, text).expect("a file");
            made.push(path);
        }
    }
    made
}
