//! Which words the files of a project mention.
//!
//! Only strings are checked, without parsing: that a word is in some other file, in whatever sense, is enough for a rule to stay
//! silent. The files are read the first time that somebody asks, in one pass over their bytes.

use std::collections::HashMap;
use std::hash::Hasher;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

use rustc_hash::{FxHashMap, FxHashSet, FxHasher};

use crate::project::Project;
use crate::walk::{Hidden, walk};

/// How far the name of a module may be after the `export` that hands it on, in bytes.
const LONGEST_STATEMENT: usize = 400;

/// Larger files hold data rather than code.
const LARGEST: u64 = 2 << 20;

/// The words of projects, by their roots, each gathered once.
#[derive(Debug, Default)]
pub(crate) struct Mentions {
    projects: Mutex<HashMap<PathBuf, Arc<Words>>>,
}

/// In which files each word is: one, or several.
#[derive(Debug, Default)]
struct Words {
    files: HashMap<PathBuf, u32>,
    by_hash: FxHashMap<u64, Option<u32>>,
    /// Names of modules of which some file re-exports everything.
    handed_on: FxHashSet<String>,
}

impl Mentions {
    /// Whether a file of the project other than `path` may mention a word.
    pub(crate) fn speak_of(&self, project: &Project, path: &Path, word: &str) -> bool {
        let root = &project.root;
        let words = {
            let mut projects = self.projects.lock().unwrap_or_else(PoisonError::into_inner);
            Arc::clone(projects.entry(root.to_path_buf()).or_insert_with(|| Arc::new(gather(project))))
        };
        let folders = || path.ancestors().skip(1).take_while(|folder| folder.starts_with(root));
        let is_open = || words.hands_on(path) || folders().any(|folder| is_package(project, folder));
        if !word.starts_with('_') && is_open() {
            return true;
        }
        match words.by_hash.get(&hash(word.as_bytes())) {
            None => false,
            Some(None) => true,
            Some(Some(only)) => words.files.get(path) != Some(only),
        }
    }
}

fn gather(project: &Project) -> Words {
    let mut words = Words::default();
    for path in walk(&*project.files, &project.root, &project.root, Hidden::Visit).files {
        let Ok(bytes) = project.files.read(&path, LARGEST) else { continue };
        let number = words.files.len() as u32;
        words.files.insert(path, number);
        words.note_handed_on(&bytes);
        let is_part = |byte: &u8| *byte == b'_' || *byte == b'$' || byte.is_ascii_alphanumeric() || !byte.is_ascii();
        for word in bytes.split(|byte| !is_part(byte)).filter(|word| !word.is_empty()) {
            let known = words.by_hash.entry(hash(word)).or_insert(Some(number));
            if *known != Some(number) {
                *known = None;
            }
        }
    }
    words
}

impl Words {
    /// Notes the modules of `export * from "./module"`.
    fn note_handed_on(&mut self, bytes: &[u8]) {
        for at in memchr::memmem::find_iter(bytes, b"export *") {
            let statement = &bytes[at..bytes.len().min(at + LONGEST_STATEMENT)];
            let mut parts = statement.split(|byte| matches!(byte, b'"' | b'\''));
            let module = parts.nth(1).and_then(|module| std::str::from_utf8(module).ok());
            self.handed_on.extend(module.and_then(stem).map(str::to_owned));
        }
    }

    /// Whether some file may re-export everything of another.
    fn hands_on(&self, path: &Path) -> bool {
        let names = [path.to_str(), path.parent().and_then(Path::to_str)];
        names.into_iter().flatten().filter_map(stem).any(|stem| self.handed_on.contains(stem))
    }
}

/// The last name of a path, without what follows its first dot.
fn stem(path: &str) -> Option<&str> {
    path.rsplit('/').next()?.split('.').next().filter(|stem| !stem.is_empty())
}

/// Whether a folder is made into a package whose names others use.
fn is_package(project: &Project, root: &Path) -> bool {
    let has = |name: &str, marks: &[&str]| has(project, root, name, marks);
    let python = ["setup.py", "setup.cfg"].iter().any(|name| project.files.is_file(&root.join(name)))
        || has("pyproject.toml", &["[project]", "[tool.poetry]"]);
    let node = has("package.json", &["\"exports\"", "\"main\"", "\"module\"", "\"types\""])
        && !has("package.json", &["\"private\": true"]);
    python || node
}

fn has(project: &Project, root: &Path, name: &str, marks: &[&str]) -> bool {
    let text = project.files.read_within(root, &root.join(name), LARGEST).ok();
    let text = text.and_then(|bytes| String::from_utf8(bytes).ok());
    text.is_some_and(|text| marks.iter().any(|mark| text.contains(mark)))
}

fn hash(word: &[u8]) -> u64 {
    let mut hasher = FxHasher::default();
    hasher.write(word);
    hasher.finish()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_of_other_files_count_and_those_of_packages_may_be_used_elsewhere() {
        let folder = tempfile::tempdir().unwrap();
        let path = |name: &str| folder.path().join(name);
        std::fs::write(path("fares.ts"), "export function lowest() {}\nexport function highest() {}\n").unwrap();
        std::fs::write(path("board.html"), "<b data-call=highest></b>\n").unwrap();
        let project = Project::at(folder.path(), folder.path());
        let mentions = Mentions::default();
        assert!(mentions.speak_of(&project, &path("fares.ts"), "highest"));
        assert!(!mentions.speak_of(&project, &path("fares.ts"), "lowest"));
        assert!(mentions.speak_of(&project, &path("board.html"), "lowest"));
        std::fs::write(path("package.json"), "{ \"name\": \"fares\", \"main\": \"fares.js\" }").unwrap();
        assert!(Mentions::default().speak_of(&project, &path("fares.ts"), "lowest"));
    }
}
