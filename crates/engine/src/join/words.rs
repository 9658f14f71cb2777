//! Which words the files of a project mention.
//!
//! That a word is in some other file, in whatever sense, is enough for a rule to stay silent. Files tell their words when they are
//! visited; others are read when somebody asks.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, PoisonError, RwLock};

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use sieve_syntax::text::WordBytes;

use super::hashes::{Gathering, Hashes, hash_of};
use crate::project::Project;
use crate::workspace::walk::{Hidden, comes_upon, walk};

/// How far the name of a module may be after the `export` that hands it on, in bytes.
const LONGEST_STATEMENT: usize = 400;

/// Larger files hold data rather than code.
const LARGEST: u64 = 2 << 20;

/// The words of one file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Words {
    /// Whether only those are noted that begin with an underscore: of no others do the rules of its language ask.
    only_private: bool,
    hashes: Hashes,
    /// The last names of modules of which it re-exports everything.
    forwards: Vec<String>,
}

impl Words {
    /// The words of a source; those that begin with an underscore, or all.
    pub(crate) fn of(source: &[u8], only_private: bool) -> Words {
        let hashes = if only_private { private_words_of(source) } else { words_of(source) };
        // What is re-exported is asked for public words alone.
        let forwards = if only_private { Vec::new() } else { forwards(source) };
        Words { only_private, hashes, forwards }
    }
}

/// All words of a source.
pub(super) fn words_of(source: &[u8]) -> Hashes {
    let mut gathering = Gathering::default();
    PARTS.each(source, |_, word| gathering.add(hash_of(word)));
    gathering.into_hashes()
}

/// The words of a source that begin with an underscore.
fn private_words_of(source: &[u8]) -> Hashes {
    let mut gathering = Gathering::default();
    for at in memchr::memchr_iter(b'_', source) {
        if at == 0 || !PARTS.holds(source[at - 1]) {
            let rest = &source[at..];
            let end = rest.iter().position(|byte| !PARTS.holds(*byte)).unwrap_or(rest.len());
            gathering.add(hash_of(&rest[..end]));
        }
    }
    gathering.into_hashes()
}

/// Names of any language.
static PARTS: WordBytes = WordBytes::with(b"_$", true);

/// The modules of `export * from "./module"`.
fn forwards(source: &[u8]) -> Vec<String> {
    let mut found = Vec::new();
    for at in memchr::memmem::find_iter(source, b"export *") {
        let statement = &source[at..source.len().min(at + LONGEST_STATEMENT)];
        let mut parts = statement.split(|byte| matches!(byte, b'"' | b'\''));
        let module = parts.nth(1).and_then(|module| std::str::from_utf8(module).ok());
        found.extend(module.and_then(stem).map(str::to_owned));
    }
    found
}

/// The words of the files of a project.
#[derive(Debug, Default)]
pub(crate) struct WordIndex {
    known: Mutex<FxHashMap<PathBuf, Words>>,
    /// Those that begin with an underscore, and all.
    private: RwLock<Option<Mentions>>,
    all: RwLock<Option<Mentions>>,
    /// Whether a folder is one of a package that others use.
    packages: Mutex<HashMap<PathBuf, bool>>,
}

impl WordIndex {
    /// Drops what is known of a file.
    pub(super) fn forget(&self, path: &Path) {
        let mut known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        for mentions in [&self.private, &self.all] {
            if let Some(mentions) = mentions.write().unwrap_or_else(PoisonError::into_inner).as_mut() {
                mentions.forget(path, &known);
            }
        }
        known.remove(path);
        self.packages.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// Notes the words of a file.
    pub(super) fn know(&self, path: PathBuf, words: Words) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).insert(path, words);
    }

    /// Whether a file of the project other than `path` may mention a word.
    pub(crate) fn mentions(&self, project: &Project, path: &Path, word: &str) -> bool {
        let is_private = word.starts_with('_');
        let of_words = if is_private { &self.private } else { &self.all };
        let is_current = |mentions: &Option<Mentions>| mentions.as_ref().is_some_and(|found| found.stale.is_empty());
        if !is_current(&of_words.read().unwrap_or_else(PoisonError::into_inner)) {
            let known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
            let mut mentions = of_words.write().unwrap_or_else(PoisonError::into_inner);
            mentions.get_or_insert_with(|| Mentions::of(project, is_private, &known)).renew(project, &known);
        }
        let mentions = of_words.read().unwrap_or_else(PoisonError::into_inner);
        let Some(mentions) = mentions.as_ref() else { return true };
        if !is_private && (mentions.are_forwarded(path) || self.is_open(project, path)) {
            return true;
        }
        let hash = hash_of(word.as_bytes());
        let all = mentions.counts.get(&hash).copied().unwrap_or(0);
        if all != 1 {
            return all > 1;
        }
        let known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        !mentions.words_of(path, &known).is_some_and(|own| own.hashes.contains(hash))
    }

    /// Whether names of a file may be used by code outside of the project: some folder around it is a package for others.
    pub(crate) fn is_open(&self, project: &Project, path: &Path) -> bool {
        let mut packages = self.packages.lock().unwrap_or_else(PoisonError::into_inner);
        let mut folders = path.ancestors().skip(1).take_while(|folder| folder.starts_with(&project.root));
        folders.any(|folder| match packages.get(folder) {
            Some(known) => *known,
            None => {
                let found = is_package(project, folder);
                packages.insert(folder.to_path_buf(), found);
                found
            }
        })
    }
}

/// In how many files each word is.
#[derive(Debug, Default)]
struct Mentions {
    /// Whether only words count that begin with an underscore.
    only_private: bool,
    /// The files, with their words where these are not known from a visit.
    files: HashMap<PathBuf, Option<Words>>,
    counts: FxHashMap<u32, u32>,
    /// Names of modules of which some file re-exports everything, and how many do.
    forwarded: HashMap<String, u32>,
    /// Files that are to be looked at.
    stale: Vec<PathBuf>,
}

impl Mentions {
    /// What all files say.
    fn of(project: &Project, only_private: bool, known: &FxHashMap<PathBuf, Words>) -> Mentions {
        let mut mentions = Mentions { only_private, ..Mentions::default() };
        let files = walk(&*project.files, &project.root, &project.root, Hidden::Visit).files;
        files.into_iter().for_each(|path| mentions.add(project, path, known));
        mentions
    }

    /// Takes away what a file says.
    fn forget(&mut self, path: &Path, known: &FxHashMap<PathBuf, Words>) {
        if let Some(own) = self.files.remove(path) {
            let Some(words) = own.as_ref().or_else(|| known.get(path)) else { return };
            self.count(words, |count| *count -= 1);
        }
        if !self.stale.iter().any(|stale| stale == path) {
            self.stale.push(path.to_path_buf());
        }
    }

    /// Adds what the files say that have changed.
    fn renew(&mut self, project: &Project, known: &FxHashMap<PathBuf, Words>) {
        for path in std::mem::take(&mut self.stale) {
            if comes_upon(&*project.files, &project.root, &path, Hidden::Visit) {
                self.add(project, path, known);
            }
        }
    }

    /// Adds what a file says.
    fn add(&mut self, project: &Project, path: PathBuf, known: &FxHashMap<PathBuf, Words>) {
        if let Some(words) = known.get(&path).filter(|words| self.only_private || !words.only_private) {
            self.count(words, |count| *count += 1);
            self.files.insert(path, None);
        } else if let Ok(bytes) = project.files.read(&path, LARGEST) {
            let bytes = if says_nothing(&bytes) { &[][..] } else { &bytes };
            let words = Words::of(bytes, self.only_private);
            self.count(&words, |count| *count += 1);
            self.files.insert(path, Some(words));
        }
    }

    fn count(&mut self, words: &Words, change: impl Fn(&mut u32)) {
        words.hashes.iter().for_each(|hash| change(self.counts.entry(hash).or_insert(0)));
        for module in &words.forwards {
            if let Some(count) = self.forwarded.get_mut(module) {
                change(count);
            } else {
                change(self.forwarded.entry(module.clone()).or_insert(0));
            }
        }
    }

    fn words_of<'w>(&'w self, path: &Path, known: &'w FxHashMap<PathBuf, Words>) -> Option<&'w Words> {
        self.files.get(path)?.as_ref().or_else(|| known.get(path))
    }

    /// Whether some file may re-export everything of another.
    fn are_forwarded(&self, path: &Path) -> bool {
        let names = [path.to_str(), path.parent().and_then(Path::to_str)];
        let is_forwarded = |stem: &str| self.forwarded.get(stem).is_some_and(|count| *count > 0);
        names.into_iter().flatten().filter_map(stem).any(is_forwarded)
    }
}

/// The last name of a path, without what follows its first dot.
fn stem(path: &str) -> Option<&str> {
    path.rsplit('/').next()?.split('.').next().filter(|stem| !stem.is_empty())
}

/// How the results of this program begin: the baseline, and the forms in which it writes findings.
const OWN_RESULTS: &[&[u8]] = &[b"{\"finding\":{\"rule\":", b"owner,level,rule,path,line,column,"];

/// What is at the beginning of others.
const OWN_NAMES: &[&[u8]] = &[b"\"honest-sieve\"", b"Honest Sieve"];

/// How much of a file is looked at to tell what it is, in bytes.
const BEGINNING: usize = 1000;

/// Whether no mention in a file counts: it is no text, by git's own measure, or tells what this program found, which names just what
/// nothing uses.
fn says_nothing(bytes: &[u8]) -> bool {
    let beginning = &bytes[..bytes.len().min(BEGINNING)];
    memchr::memchr(0, &bytes[..bytes.len().min(8000)]).is_some()
        || OWN_RESULTS.iter().any(|start| beginning.starts_with(start))
        || is_data(beginning) && OWN_NAMES.iter().any(|name| memchr::memmem::find(beginning, name).is_some())
}

/// Whether a text begins as JSON, XML, HTML or a heading of Markdown does: no code that only mentions this program.
fn is_data(beginning: &[u8]) -> bool {
    [&b"{"[..], b"<", b"#"].iter().any(|start| beginning.starts_with(start))
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
        let words = WordIndex::default();
        assert!(words.mentions(&project, &path("fares.ts"), "highest"));
        assert!(!words.mentions(&project, &path("fares.ts"), "lowest"));
        assert!(words.mentions(&project, &path("board.html"), "lowest"));
        std::fs::write(path("package.json"), "{ \"name\": \"fares\", \"main\": \"fares.js\" }").unwrap();
        assert!(WordIndex::default().mentions(&project, &path("fares.ts"), "lowest"));
    }

    #[test]
    fn of_a_language_that_asks_for_private_names_only_those_are_noted() {
        let words = Words::of(b"_fare quay_depth(__init__) # see _fare and tide_", true);
        let mut expected = vec![hash_of(b"_fare".as_slice()), hash_of(b"__init__".as_slice())];
        expected.sort_unstable();
        assert_eq!(words.hashes.iter().collect::<Vec<_>>(), expected);
    }

    /// What a visit has brought counts, not what is in the file by now; a file of private words is read where others are asked for.
    #[test]
    fn words_of_visits_count_where_they_are_enough() {
        let folder = tempfile::tempdir().unwrap();
        let path = |name: &str| folder.path().join(name);
        std::fs::write(path("fares.ts"), "export function lowest() {}\n").unwrap();
        std::fs::write(path("board.py"), "lowest(_tide)\n").unwrap();
        let project = Project::at(folder.path(), folder.path());
        let index = WordIndex::default();
        index.know(path("board.py"), Words::of(b"_depth", true));
        assert!(index.mentions(&project, &path("fares.ts"), "_depth"));
        assert!(!index.mentions(&project, &path("fares.ts"), "_tide"));
        assert!(index.mentions(&project, &path("fares.ts"), "lowest"));
        assert!(!index.mentions(&project, &path("fares.ts"), "highest"));
    }
}
