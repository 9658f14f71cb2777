//! Names that files use and do not bind: what they all use and none binds is provided by something outside of them.

use std::cell::OnceCell;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, PoisonError};

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};
use sieve_meaning::names::{Names, Resolution, ScopeId};
use sieve_meaning::{names_of, provided, python_2_had, python_builtins};
use sieve_syntax::language::Language;
use sieve_syntax::text::Text;
use sieve_syntax::tree::Tree;

use super::hashes::{Hashes, hash_of};
use super::words::words_of;
use crate::project::Project;
use crate::workspace::discover::of_name;
use crate::workspace::walk::{Hidden, comes_upon, walk};

/// In so many files a name without a binding is no slip.
const FILES: usize = 3;

/// In so many it is none, even if others bind it.
const MANY_FILES: usize = 10;

/// Larger files that were not visited were put together by a program: what they use is their own affair. In bytes.
const LARGEST: u64 = 128 << 10;

/// Of files that were not visited so much is looked at, in bytes: that is sample enough.
const ENOUGH: usize = 256 << 20;

/// What one file says of names that are not its own.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct FreeNames {
    /// Names that it uses although nothing it shows defines them.
    used: Hashes,
    /// Names that it binds for the whole of itself.
    bound: Hashes,
    /// Names that it sets for all files.
    provided: Hashes,
}

impl FreeNames {
    pub(super) fn of(language: Language, text: &Text, tree: &Tree, names: &Names<'_>) -> FreeNames {
        let used = names.references().filter(|reference| reference.resolution == Resolution::Undefined);
        let bound = names.bindings().filter(|binding| binding.scope == ScopeId::FILE);
        FreeNames {
            used: Hashes::of(used.map(|reference| hash_of(names.text(reference.name))).collect()),
            bound: Hashes::of(bound.map(|binding| hash_of(names.text(binding.name))).collect()),
            provided: Hashes::of(provided(language, text, tree).into_iter().map(hash_of).collect()),
        }
    }
}

/// The free names of the files of a project.
#[derive(Debug, Default)]
pub(crate) struct FreeNameIndex {
    known: Mutex<FxHashMap<PathBuf, FreeNames>>,
    /// Files that were not visited, once they have been looked at.
    others: Mutex<Option<Others>>,
    /// What the files that were visited say of names that will be asked for, by the hashes of these.
    expected: Mutex<FxHashMap<u32, Found>>,
    /// What was found of each name that was asked for, in the whole project or in the files that were visited.
    answers: Mutex<FxHashMap<(String, bool), bool>>,
}

/// The files that were not visited.
#[derive(Debug, Default)]
struct Others {
    files: FxHashMap<PathBuf, Other>,
    /// Those that have changed since they were looked at.
    stale: Vec<PathBuf>,
}

/// A file that was not visited.
#[derive(Debug)]
struct Other {
    language: Language,
    words: Hashes,
    /// What it says, once somebody asks for a word that is in it.
    names: OnceCell<FreeNames>,
}

/// What is found of one name, file after file.
#[derive(Debug, Default, Clone, Copy)]
struct Found {
    users: usize,
    is_bound: bool,
    is_provided: bool,
}

impl FreeNameIndex {
    /// Drops what is known of a file, and what was gathered with it.
    pub(super) fn forget(&self, path: &Path) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).remove(path);
        if let Some(others) = self.others.lock().unwrap_or_else(PoisonError::into_inner).as_mut() {
            others.files.remove(path);
            others.stale.push(path.to_path_buf());
        }
        self.expected.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.answers.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    /// Looks for names that will be asked for in one go through the files that were visited, instead of one for each.
    pub(super) fn expect<'n>(&self, names: impl Iterator<Item = &'n String>) {
        let mut expected: FxHashMap<u32, Found> = names.map(|name| (hash_of(name), Found::default())).collect();
        for file in self.known.lock().unwrap_or_else(PoisonError::into_inner).values() {
            let mut note = |hashes: &Hashes, note: fn(&mut Found)| {
                hashes.iter().for_each(|hash| expected.get_mut(&hash).into_iter().for_each(note));
            };
            note(&file.used, |found| found.users += 1);
            note(&file.bound, |found| found.is_bound = true);
            note(&file.provided, |found| found.is_provided = true);
        }
        *self.expected.lock().unwrap_or_else(PoisonError::into_inner) = expected;
    }

    /// Notes what a file says.
    pub(super) fn know(&self, path: PathBuf, names: FreeNames) {
        self.known.lock().unwrap_or_else(PoisonError::into_inner).insert(path, names);
    }

    /// Whether something provides a name to all files, as far as the one at a path can tell: one of them sets it so, or several use it
    /// and none binds it.
    pub(crate) fn is_provided(&self, project: &Project, path: &Path, name: &str) -> bool {
        let asked = (name.to_string(), path.starts_with(&project.root));
        let mut answers = self.answers.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(answer) = answers.get(&asked) {
            return *answer;
        }
        let found = self.find(project, name, asked.1);
        // A name that the language had is bound where the difference is smoothed, and used where it is not.
        // A special name that files only use comes from their loader, even where others have one of their own.
        let is_free = !found.is_bound || python_builtins::is_special(name) || python_2_had(name);
        let answer = found.is_provided || found.users >= if is_free { FILES } else { MANY_FILES };
        answers.insert(asked, answer);
        answer
    }

    fn find(&self, project: &Project, name: &str, is_inside: bool) -> Found {
        let known = self.known.lock().unwrap_or_else(PoisonError::into_inner);
        let hash = hash_of(name);
        let expected = self.expected.lock().unwrap_or_else(PoisonError::into_inner).get(&hash).copied();
        let mut found = expected.unwrap_or_else(|| {
            let mut found = Found::default();
            known.values().for_each(|names| found.add(names, hash));
            found
        });
        if is_inside {
            let mut others = self.others.lock().unwrap_or_else(PoisonError::into_inner);
            let was_visited = |path: &Path| known.contains_key(path);
            let others = others.get_or_insert_with(|| Others::around(project, was_visited));
            others.renew(project, was_visited);
            // Those of members have the dot before them.
            let word = hash_of(name.trim_start_matches('.').as_bytes());
            let mentioning =
                others.files.iter().filter(|(path, other)| other.words.contains(word) && !was_visited(path));
            mentioning.for_each(|(path, other)| found.add(other.names(project, path), hash));
        }
        found
    }
}

impl Others {
    /// The files of a project that were not visited, with their words.
    fn around(project: &Project, was_visited: impl Fn(&Path) -> bool) -> Others {
        let mut left = ENOUGH;
        let mut others = Others::default();
        for path in walk(&*project.files, &project.root, &project.root, Hidden::Skip).files {
            if was_visited(&path) {
                continue;
            }
            let Some((other, bytes)) = Other::of(project, &path) else { continue };
            let Some(rest) = left.checked_sub(bytes) else { break };
            left = rest;
            others.files.insert(path, other);
        }
        others
    }

    /// Looks again at what has changed.
    fn renew(&mut self, project: &Project, was_visited: impl Fn(&Path) -> bool) {
        for path in std::mem::take(&mut self.stale) {
            if !was_visited(&path)
                && comes_upon(&*project.files, &project.root, &path, Hidden::Skip)
                && let Some((other, _)) = Other::of(project, &path)
            {
                self.files.insert(path, other);
            }
        }
    }
}

impl Other {
    /// A file that is code of its own, and its length in bytes.
    fn of(project: &Project, path: &Path) -> Option<(Other, usize)> {
        let language = of_name(path).filter(|language| Language::WITH_NAMES.contains(language))?;
        let bytes = project.files.read(path, LARGEST).ok()?;
        Some((Other { language, words: words_of(&bytes), names: OnceCell::new() }, bytes.len()))
    }

    fn names(&self, project: &Project, path: &Path) -> &FreeNames {
        let read = || project.files.read(path, LARGEST).map(|bytes| read(self.language, bytes)).unwrap_or_default();
        self.names.get_or_init(read)
    }
}

/// What a file says that was not visited; nothing if it is no text.
fn read(language: Language, bytes: Vec<u8>) -> FreeNames {
    let Ok(text) = language.decode(bytes) else { return FreeNames::default() };
    let tree = language.parse(&text);
    FreeNames::of(language, &text, &tree, &names_of(language, &text, &tree))
}

impl Found {
    fn add(&mut self, names: &FreeNames, hash: u32) {
        self.users += usize::from(names.used.contains(hash));
        self.is_bound |= names.bound.contains(hash);
        self.is_provided |= names.provided.contains(hash);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn provides(files: &[(&str, &str)], visited: usize, name: &str) -> bool {
        let folder = tempfile::tempdir().unwrap();
        let project = Project::at(folder.path(), folder.path());
        let index = FreeNameIndex::default();
        for (place, (path, source)) in files.iter().enumerate() {
            let path = folder.path().join(path);
            std::fs::write(&path, source).unwrap();
            if place < visited {
                index.know(path, read(Language::Python, source.as_bytes().to_vec()));
            }
        }
        let path = folder.path().join("a.py");
        let answer = index.is_provided(&project, &path, name);
        let expecting = FreeNameIndex { known: index.known, ..FreeNameIndex::default() };
        expecting.expect([name.to_string(), "other".to_string()].iter());
        assert_eq!(expecting.is_provided(&project, &path, name), answer, "in one go or not");
        answer
    }

    #[test]
    fn a_name_that_several_files_use_and_none_binds_is_provided() {
        let uses = [("a.py", "tide(1)\n"), ("b.py", "tide(2)\n"), ("c.py", "print(tide)\n")];
        for visited in [0, 1, 3] {
            assert!(provides(&uses, visited, "tide"));
            assert!(!provides(&uses[1..], visited.min(2), "tide"), "two files may share a slip");
            assert!(!provides(&[&uses[..], &[("d.py", "def tide(day): pass\n")]].concat(), visited, "tide"));
            assert!(!provides(&[&uses[..], &[("d.py", "from quays import tide\n")]].concat(), visited, "tide"));
            let many: Vec<String> = (0..10).map(|number| format!("user{number}.py")).collect();
            let mut many: Vec<(&str, &str)> = many.iter().map(|path| (path.as_str(), "tide(1)\n")).collect();
            many.push(("d.py", "import tide\n"));
            assert!(provides(&many, visited, "tide"), "so many files are run by a program that gives it to them");
            assert!(!provides(&many[5..], visited, "tide"));
            let special = uses.map(|(path, source)| (path, source.replace("tide", "__tide__")));
            let special: Vec<(&str, &str)> = special.iter().map(|(path, source)| (*path, source.as_str())).collect();
            assert!(provides(&[&special[..], &[("d.py", "__tide__ = {}\n")]].concat(), visited, "__tide__"));
            assert!(provides(&[("a.py", "import builtins\nbuiltins.tide = 3\n")], visited.min(1), "tide"));
        }
    }
}
